using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Server.Gauge;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>A part that all of a class measure, each for himself.</summary>
public sealed record ClassStudyWrite(string Name, string Characteristic, string Instrument, string Unit, string Part, int Trials, int Version);

/// <summary>A reading of whoever sends it.</summary>
public sealed record ClassReadingEntry(Guid Id, int Trial, string Typed);

/// <summary>A study as whoever asks may see it: his own readings, and those of all once all are in.</summary>
/// <param name="Mine">Readings of whoever asks, the first trial first.</param>
/// <param name="Measures">Whether it is his to do.</param>
/// <param name="Whole">Null to a student until all are in.</param>
public sealed record ClassStudyView(
    Guid Id,
    string Name,
    string Characteristic,
    string Instrument,
    string Unit,
    string Part,
    int Trials,
    int Missing,
    bool Measures,
    IReadOnlyList<StudyReading> Mine,
    StudyView? Whole
);

/// <summary>The same part measured by everybody of a class: nobody sees another’s figure before he has his own.</summary>
public static class ClassStudyEndpoints
{
    public static void MapClassStudies(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/classes/{classId:guid}/studies").WithTags("shop");
        group.MapGet("", ListAsync).ForStudents().ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPut("/{id:guid}", SetAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/{id:guid}/readings", ReadAsync)
            .ForStudents()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<IReadOnlyList<ClassStudyView>> ListAsync(Guid classId, SleuthDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        await db.ClassOfAsync(classId, user, cancel);
        return
        [
            .. (
                await db.GaugeStudies.AsNoTracking().Where(s => s.ClassId == classId && s.WithdrawnAt == null).OrderBy(s => s.Id).ToListAsync(cancel)
            ).Select(s => View(GaugeStudyEndpoints.View(s), user)),
        ];
    }

    private static ClassStudyView View(StudyView whole, ClaimsPrincipal user)
    {
        var study = whole.Study;
        var me = user.Identity?.Name ?? "";
        return new ClassStudyView(
            study.Id,
            study.Name,
            study.Characteristic,
            study.Instrument,
            study.Unit,
            study.Parts[0],
            study.Trials,
            whole.Missing,
            study.People.Contains(me),
            [.. study.Standing().Where(r => r.Key.Person == me).OrderBy(r => r.Key.Trial).Select(r => r.Value)],
            whole.Missing > 0 && user.IsInRole(Roles.Student) ? null : whole
        );
    }

    private static async Task<ClassStudyView> SetAsync(
        Guid classId,
        Guid id,
        ClassStudyWrite entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await db.TaughtAsync(classId, user, cancel);
        if (await db.GaugeStudies.AnyAsync(s => s.Id == id && s.ClassId != classId, cancel))
        {
            throw Problems.NotHere("gaugeStudy");
        }

        var people = (await db.NamesAsync((await db.BenchesAsync(classId, cancel)).SelectMany(b => b.People), cancel)).Values;
        var plan = new StudyPlan(
            entry.Name,
            entry.Characteristic,
            entry.Instrument,
            entry.Unit,
            [entry.Part],
            [.. people.Order(StringComparer.Ordinal)],
            entry.Trials,
            entry.Version
        );
        return View(await GaugeStudyEndpoints.SetAsync(id, plan, classId, recorder, knowledge, cancel), user);
    }

    private static async Task<ClassStudyView> ReadAsync(
        Guid classId,
        Guid id,
        ClassReadingEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await db.ClassOfAsync(classId, user, cancel);
        var part = await db
            .GaugeStudies.AsNoTracking()
            .Where(s => s.Id == id && s.ClassId == classId && s.WithdrawnAt == null)
            .Select(s => s.Parts)
            .SingleOrDefaultAsync(cancel);
        if (part is null)
        {
            throw Problems.NotHere("gaugeStudy");
        }

        var reading = new StudyReadingEntry(entry.Id, part[0], user.Identity?.Name ?? "", entry.Trial, entry.Typed);
        return View(await GaugeStudyEndpoints.ReadAsync(id, reading, recorder, knowledge, cancel), user);
    }
}
