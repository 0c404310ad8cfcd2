using VividSleuth.Core.Build;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Casebook;

public enum Altered
{
    Added,
    Changed,
    TakenBack,
}

/// <summary>A record that is another than it was.</summary>
/// <param name="Kind">As the record of changes names it.</param>
/// <param name="Place">Address of the part; empty where it has none.</param>
/// <param name="By">Who wrote it, or took it back.</param>
public sealed record CaseAlteration(Altered What, string Kind, Guid Id, string Place, DateTimeOffset At, string By, bool Imported);

/// <summary>What was written into a case since it was sealed.</summary>
public static class CaseDifference
{
    /// <summary>Records that were added, changed or taken back, in the order in which that was done; none where nothing was.</summary>
    public static IReadOnlyList<CaseAlteration> Between(EngineCase was, EngineCase now)
    {
        var before = was.Records().Prepend(was).ToDictionary(r => r.Id);
        return
        [
            .. now.Records()
                .Prepend(now)
                .Where(r => !before.TryGetValue(r.Id, out var old) || old.Version != r.Version)
                .Select(r => Of(before.GetValueOrDefault(r.Id), r))
                .OrderBy(a => a.At)
                .ThenBy(a => a.Id),
        ];
    }

    private static CaseAlteration Of(CaseRecord? before, CaseRecord now)
    {
        var takenBack = now.WithdrawnAt is not null && before?.WithdrawnAt is null;
        return new CaseAlteration(
            takenBack ? Altered.TakenBack
                : before is null ? Altered.Added
                : Altered.Changed,
            char.ToLowerInvariant(now.GetType().Name[0]) + now.GetType().Name[1..],
            now.Id,
            PlaceOf(now),
            takenBack ? now.WithdrawnAt!.Value : now.At,
            (takenBack ? now.WithdrawnBy : now.By) ?? "",
            now.Imported
        );
    }

    private static string PlaceOf(CaseRecord record) =>
        record switch
        {
            Part p => p.Place,
            Finding f => f.Place,
            Photo p => p.Place,
            Debris d => d.Place,
            Reading r => r.Place,
            PartVerdict v => v.Place,
            Examination e => e.Place,
            Conclusion c => c.Place,
            BackAct a => a.Of,
            _ => "",
        };
}
