using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Gauge;
using VividSleuth.Server.Casebook;

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
                async (Guid id, CaseDesk desk, TimeProvider time, CancellationToken cancel) =>
                {
                    var reader = await desk.OpenAsync(id, cancel);
                    var (engineCase, instruments, answers) = (reader.Case, reader.Instruments, reader.All());
                    var used = engineCase.Readings.Select(r => r.Instrument).ToHashSet();
                    used.UnionWith(instruments.Where(i => used.Contains(i.Name)).Select(i => i.SetWith));
                    return new DossierView(
                        engineCase,
                        answers,
                        [.. instruments.Where(i => used.Contains(i.Name))],
                        OpenedLocks.Of(engineCase.Steps, engineCase.BackActs, answers.Strip),
                        time.GetUtcNow()
                    );
                }
            )
            .WithTags("dossier")
            .ProducesProblem(StatusCodes.Status404NotFound);
}
