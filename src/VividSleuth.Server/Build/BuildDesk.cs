using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Hybrid;
using VividSleuth.Core.Build;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;

namespace VividSleuth.Server.Build;

/// <summary>With what a plan is made.</summary>
public sealed record BuildSetting(ShopWork Work, ShopClocks Clocks, DateTimeOffset Now);

/// <summary>Hours, hands and clocks of the shop, and the moment that plans begin at.</summary>
public sealed class BuildDesk(SleuthDb db, CaseDesk desk, HybridCache cache, TimeProvider time)
{
    /// <summary>Plans begin at the last quarter of an hour: who asks again in the same one has the same answer.</summary>
    private static readonly TimeSpan Step = TimeSpan.FromMinutes(15);

    /// <summary>How long the clocks of all cases are not counted again.</summary>
    private static readonly HybridCacheEntryOptions Kept = new()
    {
        Expiration = TimeSpan.FromMinutes(10),
        LocalCacheExpiration = TimeSpan.FromMinutes(10),
    };

    /// <summary>Clocks of a step that are gone by, the newest ones.</summary>
    private const int Newest = 50;

    public DateTimeOffset Now
    {
        get
        {
            var now = time.GetUtcNow();
            return new DateTimeOffset(now.Ticks - (now.Ticks % Step.Ticks), TimeSpan.Zero);
        }
    }

    public async Task<BuildSetting> SettingAsync(CancellationToken cancel) =>
        new((await desk.ShopAsync(cancel)).Settings.Work, await ClocksAsync(cancel), Now);

    private async Task<ShopClocks> ClocksAsync(CancellationToken cancel)
    {
        var minutes = await cache.GetOrCreateAsync("build/clocks", async stop => await CountAsync(stop), Kept, cancellationToken: cancel);
        return new ShopClocks(
            minutes
                .GroupBy(m => m.Step, StringComparer.Ordinal)
                .ToDictionary(g => g.Key, IReadOnlyList<double> (g) => [.. g.Select(m => m.Minutes)], StringComparer.Ordinal)
        );
    }

    /// <summary>Minutes on the clock of each step that is done, of each engine; what came with a file is another shop's.</summary>
    private async Task<List<Clocked>> CountAsync(CancellationToken cancel) =>
        await db
            .Database.SqlQuery<Clocked>(
                $"""
                SELECT "Step", "Minutes" FROM (
                    SELECT "Step", "Minutes", row_number() OVER (PARTITION BY "Step" ORDER BY "Last" DESC) AS n FROM (
                        SELECT "Step", "CaseId", sum(extract(epoch FROM "Next" - "At") / 60)::double precision AS "Minutes", max("At") AS "Last" FROM (
                            SELECT "Step", "CaseId", "Kind", "At",
                                lead("At") OVER (PARTITION BY "CaseId", "Step" ORDER BY "At", "Id") AS "Next",
                                lead("Kind") OVER (PARTITION BY "CaseId", "Step" ORDER BY "At", "Id") AS "Then"
                            FROM step_marks WHERE "WithdrawnAt" IS NULL AND NOT "Imported" AND "Kind" IN ({nameof(StepMarkKind.Started)}, {nameof(
                    StepMarkKind.Stopped
                )})
                        ) AS marks
                        WHERE "Kind" = {nameof(StepMarkKind.Started)} AND "Then" = {nameof(StepMarkKind.Stopped)}
                        GROUP BY "Step", "CaseId"
                    ) AS cases
                    WHERE "Minutes" > 0 AND EXISTS (
                        SELECT 1 FROM steps s WHERE s."CaseId" = cases."CaseId" AND s."Step" = cases."Step" AND s."WithdrawnAt" IS NULL
                            AND s."State" = {nameof(StepState.Done)}
                    )
                ) AS newest
                WHERE n <= {Newest}
                """
            )
            .ToListAsync(cancel);

    private sealed record Clocked(string Step, double Minutes);
}
