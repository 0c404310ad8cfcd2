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
            return new Problem("step", $"“{record.Step}” is no step of this strip.", "Choose one from the plan.");
        }

        if (record.State == StepState.Skipped)
        {
            return string.IsNullOrWhiteSpace(record.Reason)
                ? new Problem("reason", "A skipped step needs a reason.", "Write why it is left out.")
                : null;
        }

        if (step.State is not null)
        {
            return new Problem("step", $"“{step.Name}” is recorded already.", "Take that back first, if it was wrong.");
        }

        var opened = record.Overrides.Where(o => !string.IsNullOrWhiteSpace(o.Reason)).Select(o => o.Lock).ToHashSet();
        return Locks(step, byLead).FirstOrDefault(l => !opened.Contains(l.Lock) || (l.Lock == StepLock.Unread && !byLead)).Problem;
    }

    /// <summary>What holds a step back, each with what to say of it.</summary>
    public static IEnumerable<(StepLock Lock, Problem Problem)> Locks(PlannedStep step, bool byLead)
    {
        if (step.Unsigned.Length > 0)
        {
            yield return (
                StepLock.HoldPoint,
                new Problem(
                    "holdPoint",
                    $"“{step.Unsigned}” is a hold point and is not signed yet.",
                    "Have it signed, or give a reason for going on; it stays visible."
                )
            );
        }

        if (step.BlockedBy.Count > 0)
        {
            yield return (
                StepLock.Order,
                new Problem(
                    "order",
                    $"Not yet: {string.Join(" ", step.BlockedBy)}",
                    "Do that first, or give a reason for going on; it stays visible."
                )
            );
        }

        if (step.Unread.Count > 0)
        {
            var places = step.Unread.Select(u => u.Place).ToArray();
            yield return (
                StepLock.Unread,
                new Problem(
                    "unread",
                    $"Nobody has read {string.Join(", ", places.Take(6))}{(places.Length > 6 ? $" and {places.Length - 6} more" : "")}, and this step destroys what they show.",
                    byLead
                        ? "Look at them first, or give a reason for going on; it stays visible."
                        : "Look at them first. Only a lead may go on without, with a reason that stays visible."
                )
            );
        }

        if (step.Parts && step.Open != 0)
        {
            yield return (
                StepLock.FastenersOut,
                new Problem(
                    "fastenersOut",
                    $"{step.Expected - step.Open} out, {step.Expected} expected. {(step.MayHold.Count > 0 ? step.MayHold[0] : "")}".TrimEnd(),
                    "Stop and look for the one that still holds, or give a reason for the difference; it stays visible."
                )
            );
        }

        if (step.Sets.FirstOrDefault(s => s.MapMissing) is { } set)
        {
            yield return (
                StepLock.Hole,
                new Problem(
                    "hole",
                    $"{set.Set.Name}: lengths differ and some holes have none noted.",
                    "Touch each hole in the map and choose its length, or give a reason for going on; it stays visible."
                )
            );
        }
    }

    /// <summary>Checks a step of one's own against the strip it would be part of.</summary>
    /// <exception cref="ProblemException">It would not hold together; each problem names its field.</exception>
    public static void CheckOwn(OwnStep own, StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        var step = own.Step;
        var problems = new List<Problem>();
        void Need(bool holds, string field, string text, string remedy)
        {
            if (!holds)
            {
                problems.Add(new Problem(field, text, remedy));
            }
        }

        Need(step.Id.Length is > 0 and <= 60, "id", "A step needs an id.", "Give it a short one.");
        Need(!string.IsNullOrWhiteSpace(step.Name), "name", "A step needs a name.", "Write what is done, in a few words.");
        Need(!string.IsNullOrWhiteSpace(own.Reason), "reason", "A change of the strip needs a reason.", "Write why; it stays with the case.");
        Need(
            step is { Minutes: >= 0 and <= 10_000, MinutesEach: >= 0 and <= 10_000 },
            "minutes",
            "Minutes cannot be that many.",
            "Give 0 to 10,000."
        );
        foreach (var set in step.Fasteners)
        {
            Need(
                set.Count is >= 1 and <= 500,
                "fasteners",
                $"{set.Count} fasteners of “{set.Name}” cannot be.",
                "Give 1 to 500, or leave the set out."
            );
            Need(
                set.Lengths.TrueForAll(l => l is > 0 and < 2000),
                "fasteners",
                $"A length of “{set.Name}” cannot be.",
                "Give lengths in mm, above 0."
            );
        }

        Need(
            step.Fasteners.Select(s => s.Id).Distinct(StringComparer.Ordinal).Count() == step.Fasteners.Count,
            "fasteners",
            "Two sets of fasteners have one id.",
            "Give each set an id of its own."
        );
        var unknown = step.Exposes.Concat(step.Releases).Concat(step.ReadFirst).FirstOrDefault(k => PartKinds.Find(k) is null);
        Need(unknown is null, "exposes", $"“{unknown}” is no kind of part known here.", "Choose from the table of kinds.");
        if (problems.Count == 0)
        {
            var script = StripPlanner.ScriptOf(log, knowledge);
            var steps = StripPlanner.StepsOf(log, script).Where(s => s.Id != step.Id).Append(step).ToArray();
            var missing = step.After.Keys.FirstOrDefault(k => steps.All(s => s.Id != k));
            Need(missing is null, "after", $"It would follow “{missing}”, which is no step of this strip.", "Choose a step of the plan.");
            if (StripPlanner.Circle(steps) is { } circle)
            {
                var names = steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
                problems.Add(StripPlanner.CircleProblem([.. circle.Select(id => names[id])]));
            }

            var moved = log.FastenerMoves.Where(m => m.Stands() && m.Step == step.Id).ToArray();
            foreach (var set in FastenerLedger.Of(step, table.Engine, moved).Where(s => s.In < 0))
            {
                Need(
                    false,
                    "fasteners",
                    $"{set.Set.Name}: {set.Out + set.Broken} are counted out already.",
                    $"Give at least {set.Out + set.Broken}."
                );
            }

            var lost = moved.FirstOrDefault(m => step.Fasteners.TrueForAll(s => s.Id != m.Set));
            Need(lost is null, "fasteners", $"Fasteners of “{lost?.Set}” are counted out already.", "Keep the set, or take these counts back first.");
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }
    }
}
