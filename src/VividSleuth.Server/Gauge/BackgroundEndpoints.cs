using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;

namespace VividSleuth.Server.Gauge;

/// <summary>What other engines of the kind measured, behind the figures of this one.</summary>
public static class BackgroundEndpoints
{
    public static void MapBackground(this RouteGroupBuilder api) => api.MapGet("/cases/{id:guid}/background", BackgroundAsync).WithTags("gauge");

    /// <summary>What sound places of other engines of the kind measured as they came.</summary>
    private static async Task<IReadOnlyList<KindBackground>> BackgroundAsync(Guid id, SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(id, cancel);
        var ids = await db.Cases.OfOthersOfTheKind(reader.Case).Select(c => c.Id).Take(MostMeasured).ToArrayAsync(cancel);
        if (ids.Length == 0)
        {
            return [];
        }

        var looked = await db.Set<Finding>()
            .Where(f => ids.Contains(f.CaseId) && f.WithdrawnAt == null && f.DoneBy == DoneBy.Running)
            .GroupBy(f => new { f.CaseId, f.Place })
            .Select(g => new
            {
                g.Key.CaseId,
                g.Key.Place,
                Worst = g.Max(f => f.Seen == Seen.Present ? f.Level : 0),
            })
            .ToListAsync(cancel);
        var sound = looked.Where(l => l.Worst < FindingRules.Moderate).Select(l => (l.CaseId, l.Place)).ToHashSet();
        var readings = await db.Set<Reading>()
            .Where(r => ids.Contains(r.CaseId) && r.WithdrawnAt == null && r.Phase == Phase.AsFound)
            .Where(r => !db.Set<Reading>().Any(x => x.Corrects == r.Id && x.WithdrawnAt == null))
            .Select(r => new KindReading(r.CaseId, r.Place, r.Characteristic, (double)r.Value))
            .ToListAsync(cancel);
        return KindBackground.Of(readings, (of, place) => sound.Contains((of, place)), reader.Table);
    }

    /// <summary>The newest of a kind whose readings are told.</summary>
    private const int MostMeasured = 60;
}
