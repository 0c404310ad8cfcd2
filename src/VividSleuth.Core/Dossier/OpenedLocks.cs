using VividSleuth.Core.Build;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Dossier;

/// <summary>A lock of the strip that somebody opened, with the reason given.</summary>
/// <param name="Step">Name of the step that was done in spite of it.</param>
/// <param name="Of">What the obstacle was about: a place, set or tick; empty in records of before they were told apart.</param>
public sealed record OpenedLock(string Step, StepLock Lock, string Of, string Reason, string By, DateTimeOffset At, bool Imported);

/// <summary>What was done in spite of a lock: an examiner must know, however good the reason was.</summary>
public static class OpenedLocks
{
    /// <param name="acts">What was done on the way back.</param>
    /// <param name="plan">For the names of the steps.</param>
    /// <returns>In the order in which the steps were done.</returns>
    public static IReadOnlyList<OpenedLock> Of(IReadOnlyList<StepRecord> steps, IReadOnlyList<BackAct> acts, StripPlan plan)
    {
        var names = plan.Steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
        return
        [
            .. steps
                .Where(s => s.Stands())
                .OrderBy(s => s.At)
                .SelectMany(s =>
                    s.Overrides.Select(o => new OpenedLock(names.GetValueOrDefault(s.Step, s.Step), o.Lock, o.Of, o.Reason, s.By, s.At, s.Imported))
                ),
            .. acts.Where(a => a.Stands() && a.Kind == BackActKind.Passed)
                .OrderBy(a => a.At)
                .Select(a =>
                {
                    var step = a.Step[(a.Step.IndexOf('/', StringComparison.Ordinal) + 1)..];
                    return new OpenedLock(names.GetValueOrDefault(step, step), StepLock.Assembly, a.Of, a.Why, a.By, a.At, a.Imported);
                }),
        ];
    }
}
