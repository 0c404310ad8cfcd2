using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>Whether a step may be recorded, and whether a step of one's own can stand.</summary>
public static class StepRules
{
    /// <summary>
    /// Checks a step before it is recorded. Each lock that holds it is opened by a reason of its own, and evidence only by a lead.
    /// </summary>
    public static Problem? Check(StepRecord record, StripPlan plan, bool byLead)
    {
        var step = plan.Steps.FirstOrDefault(s => s.Id == record.Step);
        if (step is null)
        {
            return Problem.Of("step", "strip.no-such-step", ("step", record.Step));
        }

        if (record.State == StepState.Skipped)
        {
            return string.IsNullOrWhiteSpace(record.Reason) ? Problem.Of("reason", "strip.skipped-step-needs-reason") : null;
        }

        if (step.State is not null)
        {
            return Problem.Of("step", "strip.recorded-already", ("step", step.Name));
        }

        var opened = record.Overrides.Where(o => !string.IsNullOrWhiteSpace(o.Reason)).Select(o => o.Lock).ToHashSet();
        return Locks(step, byLead).FirstOrDefault(l => !opened.Contains(l.Lock) || (l.Lock == StepLock.Unread && !byLead)).Problem;
    }

    /// <summary>What holds a step back, each with what to say of it.</summary>
    public static IEnumerable<(StepLock Lock, Problem Problem)> Locks(PlannedStep step, bool byLead)
    {
        if (step.Unsigned.Length > 0)
        {
            yield return (StepLock.HoldPoint, Problem.Of("holdPoint", "strip.hold-point-not-signed-yet", ("step", step.Unsigned)));
        }

        if (step.BlockedBy.Count > 0)
        {
            yield return (StepLock.Order, Problem.Of("order", "strip.not-yet", ("why", step.BlockedBy)));
        }

        if (step.Unread.Count > 0)
        {
            var places = step.Unread.Select(u => u.Place).ToArray();
            yield return (
                StepLock.Unread,
                new Problem(
                    "unread",
                    Fact.Of(
                        "strip.nobody-read-step-destroys-what",
                        ("places", places.Take(6)),
                        ("more", places.Length > 6 ? places.Length - 6 : null)
                    ),
                    byLead ? Fact.Of("strip.look-them-first-give-reason") : Fact.Of("strip.look-them-first-only-lead")
                )
            );
        }

        if (step.Parts && step.Open != 0)
        {
            yield return (
                StepLock.FastenersOut,
                new Problem(
                    "fastenersOut",
                    Fact.Of(
                        "strip.out-expected",
                        ("out", step.Expected - step.Open),
                        ("expected", step.Expected),
                        ("holds", step.MayHold.Count > 0 ? step.MayHold[0] : null)
                    ),
                    Fact.Of("strip.stop-look-one-still-holds")
                )
            );
        }

        if (step.Sets.FirstOrDefault(s => s.MapMissing) is { } set)
        {
            yield return (StepLock.Hole, Problem.Of("hole", "strip.lengths-differ-some-holes-none", ("set", set.Set.Name)));
        }
    }

    /// <summary>
    /// Whether a step would guard less than it does: a hold point that is none any more, evidence that need not be read first. Only who may open such
    /// a lock may take it away.
    /// </summary>
    /// <param name="after">The step as it would be; null where it would be gone.</param>
    public static Problem? Loosens(StripStep? before, StripStep? after) =>
        before is { HoldPoint: true } && after is not { HoldPoint: true }
            ? Problem.Of("holdPoint", "strip.only-lead-drops-hold-point", ("step", before.Name))
        : before is not null && (before.ReadFirst.Except(after?.ReadFirst ?? []).Any() || before.Acts.Except(after?.Acts ?? []).Any())
            ? Problem.Of("readFirst", "strip.only-lead-drops-evidence", ("step", before.Name))
        : null;

    /// <summary>The same of one's own step that is taken back.</summary>
    public static Problem? LoosensWithout(OwnStep own, StripLog log, StripScript script)
    {
        var without = log with { OwnSteps = [.. log.OwnSteps.Where(o => o.Id != own.Id)] };
        StripStep? Of(StripLog l) => StripPlanner.StepsOf(l, script).FirstOrDefault(s => s.Id == own.Step.Id);
        return Loosens(Of(log), Of(without));
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
        var unknown = step.Exposes.Concat(step.Releases).Concat(step.ReadFirst).FirstOrDefault(k => PartKinds.Find(k) is null);
        Need(unknown is null, Problem.Of("exposes", "strip.no-such-kind", ("unknown", unknown)));
        if (problems.Count == 0)
        {
            var script = StripPlanner.ScriptOf(log, knowledge);
            var steps = StripPlanner.StepsOf(log, script).Where(s => s.Id != step.Id).Append(step).ToArray();
            var missing = step.After.Keys.FirstOrDefault(k => steps.All(s => s.Id != k));
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
