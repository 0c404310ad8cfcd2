using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Build;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;

namespace VividSleuth.Server.Gauge;

/// <summary>What other engines of the kind measured, behind the figures of this one.</summary>
public static class BackgroundEndpoints
{
    public static void MapBackground(this RouteGroupBuilder api) => api.MapGet("/cases/{id:guid}/background", BackgroundAsync).WithTags("gauge");

    /// <summary>What sound places of other engines of the kind measured as they came.</summary>
    private static async Task<IReadOnlyList<KindBackground>> BackgroundAsync(
        Guid id,
        SleuthDb db,
        LateReads late,
        CaseDesk desk,
        BuildDesk build,
        CasebookKeeper keeper,
        CancellationToken cancel
    )
    {
        await keeper.CatchUpAsync(db, desk, build, cancel);
        var of = await desk.HeadAsync(id, cancel);
        var others = await late.DbAsync(cancel);
        return KindBackground.Of(
            await others
                .Cases.OfOthersOfTheKind(of)
                .Take(MostMeasured)
                .Join(others.CaseIndex, c => c.Id, i => i.CaseId, (_, i) => i.Figures)
                .ToListAsync(cancel)
        );
    }

    /// <summary>The newest of a kind whose readings are told.</summary>
    private const int MostMeasured = 60;
}
