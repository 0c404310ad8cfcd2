using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Dossier;

/// <summary>Everything the dossier prints, of one moment.</summary>
public sealed record DossierView(
    EngineCase Case,
    CaseAnswers Answers,
    IReadOnlyList<Instrument> Instruments,
    IReadOnlyList<OpenedLock> OpenedLocks,
    DateTimeOffset Drawn
);

public static class DossierEndpoints
{
    public static void MapDossier(this RouteGroupBuilder api) =>
        api.MapGet(
                "/cases/{id:guid}/dossier",
                async (Guid id, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel) =>
                {
                    var engineCase = await db.LoadAsync(id, cancel) ?? throw Problems.NotHere("case");
                    var used = engineCase.Readings.Select(r => r.Instrument).ToHashSet();
                    var instruments = await db.Instruments.AsNoTracking().OrderBy(i => i.Name).ToListAsync(cancel);
                    used.UnionWith(instruments.Where(i => used.Contains(i.Name)).Select(i => i.SetWith));
                    var settings = await db.SettingsAsync(cancel);
                    var answers = CaseAnswers.Of(engineCase, knowledge, instruments, DateOnly.FromDateTime(DateTime.UtcNow), settings.Schools);
                    return new DossierView(
                        engineCase,
                        answers,
                        [.. instruments.Where(i => used.Contains(i.Name))],
                        OpenedLocks.Of(engineCase.Steps, answers.Strip),
                        DateTimeOffset.UtcNow
                    );
                }
            )
            .WithTags("dossier")
            .ProducesProblem(StatusCodes.Status404NotFound);
}
