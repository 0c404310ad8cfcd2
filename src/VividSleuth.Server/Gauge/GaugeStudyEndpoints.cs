using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Shop;
using VividSleuth.Store;

namespace VividSleuth.Server.Gauge;

/// <summary>The plan of a study.</summary>
/// <param name="Version">0 for a new one.</param>
public sealed record StudyPlan(
    string Name,
    string Characteristic,
    string Instrument,
    string Unit,
    IReadOnlyList<string> Parts,
    IReadOnlyList<string> People,
    int Trials,
    int Version
);

/// <summary>One reading as typed.</summary>
public sealed record StudyReadingEntry(Guid Id, string Part, string Person, int Trial, string Typed);

/// <param name="Missing">Cells that are empty yet.</param>
/// <param name="Answer">Null while some are.</param>
public sealed record StudyView(GaugeStudy Study, int Missing, StudyAnswer? Answer);

/// <summary>Studies of how well the shop measures: several people, the same parts, one instrument.</summary>
public static class GaugeStudyEndpoints
{
    private const string Kind = "gaugeStudy";
    private const int MostTries = 20;

    public static void MapGaugeStudies(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/gauge-studies").WithTags("gauge");
        group.MapGet("", AllAsync);
        var writing = api.MapGroup("/gauge-studies/{id:guid}").WithTags("gauge").RequireAuthorization(Policies.Write);
        writing.MapPut("", PutAsync).ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing
            .MapPost("/readings", ReadAsync)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing
            .MapPost("/take-over", TakeOverAsync)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPost("/withdraw", WithdrawAsync).ProducesProblem(StatusCodes.Status409Conflict);
    }

    internal static StudyView View(GaugeStudy study)
    {
        var standing = study.Standing();
        var cells = from part in study.Parts from person in study.People from trial in Enumerable.Range(1, study.Trials) select (part, person, trial);
        return new StudyView(study, cells.Count(c => !standing.ContainsKey(c)), GaugeStudies.Evaluate(study));
    }

    private static async Task<List<StudyView>> AllAsync(SleuthDb db, CancellationToken cancel) =>
        [
            .. (
                await db.GaugeStudies.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.Name).ThenBy(s => s.Id).ToListAsync(cancel)
            ).Select(View),
        ];

    private static Task<StudyView> PutAsync(Guid id, StudyPlan plan, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel) =>
        SetAsync(id, plan, classId: null, recorder, knowledge, cancel);

    /// <param name="classId">The class that a new study is set; one that is there stays with its own.</param>
    internal static async Task<StudyView> SetAsync(
        Guid id,
        StudyPlan plan,
        Guid? classId,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var recorded = await db.GaugeStudies.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (recorded is not null && recorded.Version != plan.Version)
        {
            return plan.Version == 0 && recorded.Version == 1 ? View(recorded) : throw new ConflictException(plan, recorded);
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        if (recorded is { Readings.Count: > 0 } && recorded.Characteristic != plan.Characteristic)
        {
            throw new ProblemException(Problem.Of("characteristic", "server.study-has-readings"));
        }

        var study = recorded ?? new GaugeStudy { Id = id, ClassId = classId };
        study.Name = plan.Name.Trim();
        study.Characteristic = plan.Characteristic;
        study.Instrument = plan.Instrument.Trim();
        study.Unit = plan.Unit;
        study.Parts = [.. plan.Parts.Select(p => p.Trim())];
        study.People = [.. plan.People.Select(p => p.Trim())];
        study.Trials = plan.Trials;
        if (study.Check(knowledge).ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        if (recorded is null)
        {
            db.Add(study);
        }

        db.StampForShop(Kind, study, before);
        return View(
            await db.SaveOnceAsync(study, theirs => recorded is null && theirs.Version == 1, theirs => new ConflictException(plan, theirs), cancel)
        );
    }

    /// <summary>Adds a reading. Several people write into one study at once: who comes second reads it anew and adds his.</summary>
    internal static async Task<StudyView> ReadAsync(
        Guid id,
        StudyReadingEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (entry.Id == Guid.Empty)
        {
            throw new ProblemException(Problem.Of("id", "server.record-without-id"));
        }

        var db = recorder.Db;
        for (var attempt = 1; ; attempt++)
        {
            db.ChangeTracker.Clear();
            var study =
                await db.GaugeStudies.SingleOrDefaultAsync(s => s.Id == id && s.WithdrawnAt == null, cancel) ?? throw Problems.NotHere("gaugeStudy");
            if (study.Readings.Exists(r => r.Id == entry.Id))
            {
                return View(study);
            }

            if (!study.Parts.Contains(entry.Part) || !study.People.Contains(entry.Person) || entry.Trial < 1 || entry.Trial > study.Trials)
            {
                throw new ProblemException(
                    Problem.Of("part", "gauge.no-such-cell", ("part", entry.Part), ("person", entry.Person), ("trial", entry.Trial))
                );
            }

            var quantity = knowledge.Characteristic(study.Characteristic)!.Quantity;
            var typed = QuantityParser.Parse(entry.Typed, quantity, study.Unit.Length > 0 ? study.Unit : QuantityParser.BaseUnit(quantity));
            if (typed.Relative)
            {
                throw new ProblemException(Problem.Of("typed", "gauge.figure-sign-counts-from-nominal"));
            }

            study.Readings =
            [
                .. study.Readings,
                new StudyReading
                {
                    Id = entry.Id,
                    Part = entry.Part,
                    Person = entry.Person,
                    Trial = entry.Trial,
                    Typed = entry.Typed.Trim(),
                    Value = typed.Value,
                    At = db.Now(),
                    By = db.Writer,
                },
            ];
            study.Version++;
            study.At = db.Now();
            study.By = db.Writer;
            try
            {
                await db.SaveChangesAsync(cancel);
                return View(study);
            }
            catch (DbUpdateConcurrencyException) when (attempt < MostTries)
            {
                // Another wrote into it meanwhile.
            }
        }
    }

    /// <summary>Gives the study's scatter to its instrument, so that it goes into every figure read with it.</summary>
    private static async Task<Instrument> TakeOverAsync(Guid id, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        var study =
            await db.GaugeStudies.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && s.WithdrawnAt == null, cancel)
            ?? throw Problems.NotHere("gaugeStudy");
        var view = View(study);
        if (view.Answer is not { } answer)
        {
            throw new ProblemException(Problem.Of("readings", "gauge.study-not-finished", ("missing", view.Missing)));
        }

        var instrument =
            await db.Instruments.SingleOrDefaultAsync(i => i.Name == study.Instrument && i.WithdrawnAt == null, cancel)
            ?? throw new ProblemException(Problem.Of("instrument", "gauge.study-of-no-instrument"));
        var found = new StudiedScatter(
            study.Characteristic,
            answer.Repeatability,
            answer.RepeatFreedom,
            answer.Reproducibility,
            answer.PeopleFreedom,
            id,
            study.Name,
            study.At
        );
        if (instrument.Studied.Contains(found))
        {
            return instrument;
        }

        var before = ShopRecorder.Json(instrument);
        instrument.Studied = [.. instrument.Studied.Where(s => s.Characteristic != study.Characteristic), found];
        db.StampForShop("instrument", instrument, before);
        return await db.SaveOnceAsync(instrument, theirs => theirs.Studied.Contains(found), theirs => new ConflictException(study, theirs), cancel);
    }

    private static Task<GaugeStudy> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<GaugeStudy>(Kind, id, withdrawal, cancel);
}
