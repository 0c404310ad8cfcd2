using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>Whether a step may be recorded, and whether a step of one's own can stand.</summary>
public static class StepRules
{
    /// <summary>
    /// Checks a step before it is recorded. Each obstacle is passed by a reason of its own, by whoever may open locks of its kind; hold points, order
    /// and ticks that matter by none.
    /// </summary>
    /// <param name="mayOpen">Whether whoever records it may open a lock of a kind.</param>
    public static Problem? Check(StepRecord record, StripBook book, Func<StepLock, bool> mayOpen)
    {
        if (book.Step(record.Step) is not { } step)
        {
            return Problem.Of("step", "strip.no-such-step", ("step", record.Step));
        }

        if (record.State != StepState.Done && string.IsNullOrWhiteSpace(record.Reason))
        {
            return Problem.Of(
                "reason",
                record.State == StepState.Skipped ? "strip.skipped-step-needs-reason" : "strip.was-off-needs-reason",
                ("step", step.Name)
            );
        }

        if (record.State == StepState.WasOff && !mayOpen(StepLock.Order))
        {
            return Problem.Of("state", "strip.only-lead-says-was-off", ("step", step.Name));
        }

        var standing = book.Standing(record.Step);
        if (standing.State is not null)
        {
            return Problem.Of("step", "strip.recorded-already", ("step", step.Name));
        }

        if (record.Stations.Count > 0)
        {
            var all = book.StationsOf(step);
            if (all.Count == 0 || record.Stations.Exists(s => !all.Contains(s)) || record.State == StepState.Skipped)
            {
                return Problem.Of(
                    "stations",
                    all.Count == 0 ? "strip.not-one-by-one" : "strip.no-such-station",
                    ("step", step.Name),
                    ("least", 1),
                    ("most", all.Count)
                );
            }

            if (record.Stations.Exists(standing.Stations.Contains))
            {
                return Problem.Of("stations", "strip.station-done-already", ("stations", record.Stations.Where(standing.Stations.Contains)));
            }
        }

        if (record.State != StepState.Done)
        {
            return null;
        }

        foreach (var obstacle in book.Obstacles(step, record.Stations))
        {
            var passed =
                obstacle.Opens
                && record.Overrides.Exists(o => o.Lock == obstacle.Lock && o.Of == obstacle.Of && !string.IsNullOrWhiteSpace(o.Reason));
            if (!passed)
            {
                return new Problem(FieldOf(obstacle.Lock), obstacle.Says, obstacle.Remedy);
            }

            if (!mayOpen(obstacle.Lock))
            {
                return new Problem(FieldOf(obstacle.Lock), obstacle.Says, Fact.Of("strip.only-who-may-opens"));
            }
        }

        return null;
    }

    /// <summary>Checks what somebody is about to do at a hold point: sign it, look at it as a second pair of eyes, send it back, ask for it again.</summary>
    /// <param name="maySign">Whether whoever does it may sign here.</param>
    /// <param name="signer">Role that signs here, for telling.</param>
    /// <param name="otherEyes">Whether another than the one who did the step signs.</param>
    /// <param name="secondLook">Whether a second pair of eyes looks at it before it is signed.</param>
    public static Problem? CheckSign(SignOff sign, StripBook book, string by, bool maySign, string signer, bool otherEyes, bool secondLook = false) =>
        book.Step(sign.Step) is not { } step ? Problem.Of("step", "strip.no-such-step", ("step", sign.Step))
        : !step.HoldPoint ? Problem.Of("step", "strip.no-hold-point", ("step", step.Name))
        : !book.Standing(step.Id).Begun ? Problem.Of("step", "strip.sign-what-is-done", ("step", step.Name))
        : book.SignatureOf(step.Id) is { } signed ? Problem.Of("step", "strip.signed-already", ("by", signed.By))
        : sign.Outcome switch
        {
            SignOutcome.Looked => book.DidIt(step.Id, by) ? Problem.Of("by", "strip.own-work-looked-at", ("step", step.Name)) : null,
            SignOutcome.Asked => HoldSections.Now(step, book).State == SectionState.SentBack
                ? null
                : Problem.Of("step", "strip.nobody-sent-it-back", ("step", step.Name)),
            SignOutcome.SentBack => !maySign ? Problem.Of("role", "strip.shop-signs-hold-points", ("signer", signer))
            : string.IsNullOrWhiteSpace(sign.Note) ? Problem.Of("note", "strip.send-back-with-a-word", ("step", step.Name))
            : null,
            _ => !maySign ? Problem.Of("role", "strip.shop-signs-hold-points", ("signer", signer))
            : otherEyes && book.DidIt(step.Id, by) ? Problem.Of("by", "strip.two-pairs-of-eyes", ("step", step.Name))
            : secondLook && book.SecondLookAt(step.Id) is var look && (look is null || look.By == by)
                ? Problem.Of("step", "strip.second-look-first", ("step", step.Name))
            : null,
        };

    private static string FieldOf(StepLock of) => char.ToLowerInvariant(of.ToString()[0]) + of.ToString()[1..];

    /// <summary>
    /// Whether a step would guard less than it does: a hold point that is none any more, evidence that need not be read first, a step that need not
    /// come first, a count that need not agree, a tick that need not be set. Only who may open such a lock may take it away; a hold point only a lead.
    /// </summary>
    /// <param name="after">The step as it would be; null where it would be gone.</param>
    /// <param name="mayOpen">Whether whoever changes it may open a lock of a kind.</param>
    public static Problem? Loosens(StripStep? before, StripStep? after, Func<StepLock, bool> mayOpen)
    {
        if (before is null)
        {
            return null;
        }

        bool Drops<T>(Func<StripStep, IEnumerable<T>> of) => of(before).Except(after is null ? [] : of(after)).Any();
        Problem? Only(StepLock of, string field, string code) => mayOpen(of) ? null : Problem.Of(field, code, ("step", before.Name));
        return (
                before.HoldPoint && after is not { HoldPoint: true }
                    ? Only(StepLock.HoldPoint, "holdPoint", "strip.only-lead-drops-hold-point")
                    : null
            )
            ?? (Drops(s => s.ReadFirst) || Drops(s => s.Acts) ? Only(StepLock.Unread, "readFirst", "strip.only-lead-drops-evidence") : null)
            ?? (
                Drops(s => s.After.Keys) || after?.StaysClosed == false && before.Closes
                    ? Only(StepLock.Order, "after", "strip.only-who-may-drops-order")
                    : null
            )
            ?? (before.Parts && after is not { Parts: true } ? Only(StepLock.FastenersOut, "parts", "strip.only-who-may-drops-count") : null)
            ?? (Drops(s => s.Must) ? Only(StepLock.Tick, "must", "strip.only-lead-drops-tick") : null);
    }

    /// <summary>The same of one's own step that is taken back.</summary>
    public static Problem? LoosensWithout(OwnStep own, StripLog log, StripScript script, Func<StepLock, bool> mayOpen)
    {
        var without = log with { OwnSteps = [.. log.OwnSteps.Where(o => o.Id != own.Id)] };
        StripStep? Of(StripLog l) => StripPlanner.StepsOf(l, script).FirstOrDefault(s => s.Id == own.Step.Id);
        return Loosens(Of(log), Of(without), mayOpen);
    }

    /// <summary>Checks a step of one's own against the strip it would be part of.</summary>
    /// <exception cref="ProblemException">It would not hold together; each problem names its field.</exception>
    public static void CheckOwn(OwnStep own, StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        var step = own.Step;
        var problems = new List<Problem>();
        void Need(bool holds, Problem problem)
        {
            if (!holds)
            {
                problems.Add(problem);
            }
        }

        Need(step.Id.Length is > 0 and <= 60, Problem.Of("id", "strip.step-needs-id"));
        Need(!string.IsNullOrWhiteSpace(step.Name), Problem.Of("name", "strip.step-needs-name"));
        Need(!string.IsNullOrWhiteSpace(own.Reason), Problem.Of("reason", "strip.change-strip-needs-reason"));
        Need(step.Must.TrueForAll(step.Ticks.Contains), Problem.Of("must", "strip.must-is-no-tick"));
        Need(step is { Minutes: >= 0 and <= 10_000, MinutesEach: >= 0 and <= 10_000 }, Problem.Of("minutes", "strip.minutes-cannot-many"));
        foreach (var set in step.Fasteners)
        {
            Need(set.Count is >= 1 and <= 500, Problem.Of("fasteners", "strip.fasteners-cannot", ("count", set.Count), ("set", set.Name)));
            Need(set.Lengths.TrueForAll(l => l is > 0 and < 2000), Problem.Of("fasteners", "strip.length-cannot", ("set", set.Name)));
        }

        Need(
            step.Fasteners.Select(s => s.Id).Distinct(StringComparer.Ordinal).Count() == step.Fasteners.Count,
            Problem.Of("fasteners", "strip.two-sets-fasteners-one-id")
        );
        var unknown = step
            .Exposes.Concat(step.Releases)
            .Concat(step.ReadFirst)
            .Concat(step.Fasteners.Select(f => f.Part).Where(p => p.Length > 0))
            .FirstOrDefault(k => PartKinds.Find(k) is null);
        Need(unknown is null, Problem.Of("exposes", "strip.no-such-kind", ("unknown", unknown)));
        if (problems.Count == 0)
        {
            var script = StripPlanner.ScriptOf(log, knowledge);
            var steps = StripPlanner.StepsOf(log, script).Where(s => s.Id != step.Id).Append(step).ToArray();
            var missing = step.Before.FirstOrDefault(k => steps.All(s => s.Id != k));
            Need(missing is null, Problem.Of("after", "strip.would-follow-no-step", ("missing", missing)));
            if (StripPlanner.Cycle(steps) is { } cycle)
            {
                var names = steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
                problems.Add(StripPlanner.CycleProblem([.. cycle.Select(id => names[id])]));
            }

            var moved = log.FastenerMoves.Where(m => m.Stands() && m.Step == step.Id).ToArray();
            foreach (var set in FastenerLedger.Of(step, table.Engine, moved).Where(s => s.In < 0))
            {
                Need(false, Problem.Of("fasteners", "strip.counted-out-already", ("set", set.Set.Name), ("broken", set.Out + set.Broken)));
            }

            var lost = moved.FirstOrDefault(m => step.Fasteners.TrueForAll(s => s.Id != m.Set));
            Need(lost is null, Problem.Of("fasteners", "strip.fasteners-counted-out-already", ("set", lost?.Set)));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }
    }
}
