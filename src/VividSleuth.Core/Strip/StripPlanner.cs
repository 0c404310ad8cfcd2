using VividSleuth.Core.Arrival;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>A step as it stands in this case.</summary>
/// <param name="Fasteners">How many must come out, counted for this engine.</param>
/// <param name="BlockedBy">Steps that must come first and are not done, with the reason.</param>
/// <param name="Unread">Places whose evidence the step would spoil and that nobody has read.</param>
public sealed record PlannedStep(
    string Id,
    string Name,
    string Does,
    Attitude Attitude,
    int Fasteners,
    string FastenerNote,
    double Minutes,
    IReadOnlyList<string> Tools,
    IReadOnlyList<string> Cautions,
    bool HoldPoint,
    StepState? State,
    IReadOnlyList<string> BlockedBy,
    IReadOnlyList<string> Unread
);

public sealed record StripPlan(IReadOnlyList<PlannedStep> Steps, string? Next, int AttitudeChanges, int FastenersOut);

/// <summary>Orders the steps of a strip so that every precedence holds, staying in one attitude as long as it can.</summary>
public static class StripPlanner
{
    public static StripPlan Plan(EngineCase engineCase, AddressTable table, KnowledgeBase knowledge)
    {
        var layout = table.Engine.Layout;
        var steps = Order([.. knowledge.StripSteps.Where(s => s.Applies.Fits(layout))]);
        var records = engineCase
            .Steps.Where(s => s.Stands())
            .GroupBy(s => s.Step)
            .ToDictionary(g => g.Key, g => g.MaxBy(r => r.At)!, StringComparer.Ordinal);
        var read = engineCase.Findings.Where(f => f.Stands()).Select(f => f.Place).ToHashSet(StringComparer.Ordinal);
        var names = steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
        var planned = steps
            .Select(s => new PlannedStep(
                s.Id,
                s.Name,
                s.Does,
                s.Attitude,
                FastenersOf(s, table.Engine),
                s.FastenerNote,
                s.Minutes,
                s.Tools,
                s.Cautions,
                s.HoldPoint,
                records.GetValueOrDefault(s.Id)?.State,
                [.. s.After.Where(a => names.ContainsKey(a.Key) && !records.ContainsKey(a.Key)).Select(a => $"{names[a.Key]}: {a.Value}")],
                [.. s.ReadFirst.SelectMany(k => table.All.Where(a => a.Kind.Id == k)).Select(a => a.Code).Where(c => !read.Contains(c))]
            ))
            .ToArray();
        var changes = steps.Zip(steps.Skip(1)).Count(p => p.First.Attitude != p.Second.Attitude);
        return new StripPlan(planned, Array.Find(planned, s => s.State is null)?.Id, changes, records.Values.Sum(r => r.FastenersOut));
    }

    /// <summary>Checks a step before it is recorded: what parts two pieces stays locked until the counts agree.</summary>
    public static Problem? Check(StepRecord record, StripPlan plan)
    {
        var step = plan.Steps.FirstOrDefault(s => s.Id == record.Step);
        if (step is null)
        {
            return new Problem("step", $"“{record.Step}” is no step of this strip.", "Choose one from the plan.");
        }

        var noReason = string.IsNullOrWhiteSpace(record.Reason);
        if (record.FastenersOut < 0)
        {
            return new Problem("fastenersOut", "A count cannot be negative.", "Count what lies on the bench.");
        }

        if (record.State == StepState.Skipped)
        {
            return noReason ? new Problem("reason", "A skipped step needs a reason.", "Write why it is left out.") : null;
        }

        if (step.BlockedBy.Count > 0 && noReason)
        {
            return new Problem(
                "step",
                $"Not yet: {string.Join(" ", step.BlockedBy)}",
                "Do that first, or give a reason for going on; it stays visible."
            );
        }

        return record.FastenersOut != step.Fasteners && noReason
            ? new Problem(
                "fastenersOut",
                $"{record.FastenersOut} out, {step.Fasteners} expected. {step.FastenerNote}".TrimEnd(),
                "Stop and look for the one that still holds, or give a reason for the difference; it stays visible."
            )
            : null;
    }

    /// <summary>
    /// Topological order (Kahn 1962) that prefers the attitude the engine is in; ties keep the order of the file.
    /// It does not look ahead: the fewest changes are not promised.
    /// </summary>
    /// <exception cref="ProblemException">The precedences go round in a circle; the problem names it.</exception>
    public static IReadOnlyList<StripStep> Order(IReadOnlyList<StripStep> steps)
    {
        var known = steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var left = steps.ToList();
        var order = new List<StripStep>();
        var done = new HashSet<string>(StringComparer.Ordinal);
        var attitude = Attitude.Upright;
        while (left.Count > 0)
        {
            var free = left.Where(s => s.After.Keys.All(k => !known.Contains(k) || done.Contains(k))).ToArray();
            if (free.Length == 0)
            {
                throw new ProblemException(
                    new Problem(
                        "after",
                        $"These steps wait for one another in a circle: {string.Join(" → ", Circle(left, known, done))}.",
                        "Take one of these precedences away."
                    )
                );
            }

            var next = Array.Find(free, s => s.Attitude == attitude) ?? free[0];
            attitude = next.Attitude;
            order.Add(next);
            done.Add(next.Id);
            left.Remove(next);
        }

        return order;
    }

    private static List<string> Circle(List<StripStep> left, HashSet<string> known, HashSet<string> done)
    {
        var path = new List<string>();
        var at = left[0];
        while (!path.Contains(at.Id))
        {
            path.Add(at.Id);
            at = left.First(s => s.Id == at.After.Keys.First(k => known.Contains(k) && !done.Contains(k)));
        }

        return [.. path.SkipWhile(id => id != at.Id), at.Id];
    }

    private static int FastenersOf(StripStep step, Engine engine) =>
        step.Fasteners
        * step.PerStation switch
        {
            FastenerCount.InAll => 1,
            FastenerCount.PerCylinder => engine.Layout.Cylinders,
            FastenerCount.PerMain => engine.Mains,
            FastenerCount.PerBank => engine.Banks,
            _ => throw new ArgumentOutOfRangeException(nameof(step)),
        };
}
