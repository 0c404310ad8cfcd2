using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Casebook;

/// <summary>A line of the casebook.</summary>
public sealed record CaseLine(
    Guid Id,
    string Title,
    string EngineName,
    string Owner,
    string Complaint,
    EngineLayout Layout,
    DateTimeOffset LastWritten,
    string LastBy,
    int Findings,
    int Readings,
    int StepsDone,
    bool Concluded
);

public sealed record NewCase(Guid Id, string Title, string EngineName, string Owner, EngineLayout Layout);

/// <summary>A layout laid out, before a case is made of it.</summary>
public sealed record LayoutPreview(LongSection Section, IReadOnlyList<CylinderStation> Cylinders, IReadOnlyList<string> OilRoute, int Addresses);

public static class CasebookEndpoints
{
    public static void MapCasebook(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("casebook");
        group.MapGet("/cases", ListAsync);
        group.MapPost("/cases", CreateAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/layouts/preview", Preview).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/cases/{id:guid}", GetAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/cases/{id:guid}/answers", AnswersAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/cases/{id:guid}/changes", ChangesAsync);
        group.MapGet("/cases/{id:guid}/export", ExportAsync).Produces<CaseFile>().ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPost("/cases/import", ImportAsync)
            .RequireAuthorization(Policies.Write)
            .Accepts<CaseFile>("application/json")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static Task<List<CaseLine>> ListAsync(SleuthDb db, CancellationToken cancel) =>
        db
            .Cases.AsNoTracking()
            .Where(c => c.WithdrawnAt == null)
            .Select(c => new
            {
                Case = c,
                Last = db.Changes.Where(x => x.CaseId == c.Id).OrderByDescending(x => x.At).Select(x => new { x.At, x.By }).FirstOrDefault(),
                Findings = c.Findings.Count(f => f.WithdrawnAt == null),
                Readings = c.Readings.Count(r => r.WithdrawnAt == null),
                Steps = c.Steps.Count(s => s.WithdrawnAt == null),
                Concluded = c.Conclusions.Any(x => x.WithdrawnAt == null),
            })
            .OrderByDescending(x => x.Last == null ? x.Case.At : x.Last.At)
            .ThenBy(x => x.Case.Id)
            .Select(x => new CaseLine(
                x.Case.Id,
                x.Case.Title,
                x.Case.EngineName,
                x.Case.Owner,
                x.Case.Complaint,
                x.Case.Layout,
                x.Last == null ? x.Case.At : x.Last.At,
                x.Last == null ? x.Case.By : x.Last.By,
                x.Findings,
                x.Readings,
                x.Steps,
                x.Concluded
            ))
            .ToListAsync(cancel);

    private static async Task<EngineCase> CreateAsync(NewCase entry, Recorder recorder, CancellationToken cancel)
    {
        var problems = entry.Layout.Check().ToList();
        if (string.IsNullOrWhiteSpace(entry.EngineName))
        {
            problems.Add(new Problem("engineName", "The engine has no name.", "Write what it is, as you would on the job card."));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        var title = string.IsNullOrWhiteSpace(entry.Title) ? entry.EngineName : entry.Title;
        var made = new EngineCase
        {
            Id = entry.Id,
            Title = title.Trim(),
            EngineName = entry.EngineName.Trim(),
            Owner = entry.Owner.Trim(),
            Layout = entry.Layout,
        };
        return await recorder.AddAsync(entry.Id, made, cancel);
    }

    private static LayoutPreview Preview(EngineLayout layout)
    {
        var engine = Engine.From(layout);
        var table = new AddressTable(engine);
        return new LayoutPreview(
            LongSection.Of(table),
            engine.Cylinders,
            [.. engine.OilRoute.Select(s => (s.Kind == BearingKind.Main ? "M" : "K") + s.Number)],
            table.All.Count
        );
    }

    private static async Task<EngineCase> GetAsync(Guid id, SleuthDb db, CancellationToken cancel) =>
        await db.LoadAsync(id, cancel) ?? throw Problems.NotHere("case");

    internal static async Task<CaseAnswers> AnswersAsync(Guid id, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var engineCase = await GetAsync(id, db, cancel);
        var instruments = await db.Instruments.AsNoTracking().ToListAsync(cancel);
        var settings = await db.SettingsAsync(cancel);
        return CaseAnswers.Of(engineCase, knowledge, instruments, DateOnly.FromDateTime(DateTime.UtcNow), settings.Schools);
    }

    private static Task<List<Change>> ChangesAsync(Guid id, SleuthDb db, CancellationToken cancel) =>
        db.Changes.AsNoTracking().Where(c => c.CaseId == id).OrderByDescending(c => c.At).ThenByDescending(c => c.Id).Take(500).ToListAsync(cancel);

    private static async Task<IResult> ExportAsync(Guid id, SleuthDb db, CancellationToken cancel)
    {
        var file = await db.ExportAsync(id, cancel) ?? throw Problems.NotHere("case");
        var name = new string([.. file.Case.Title.Select(c => char.IsAsciiLetterOrDigit(c) ? char.ToLowerInvariant(c) : '-')]);
        return Results.File(System.Text.Encoding.UTF8.GetBytes(file.ToJson()), "application/json", $"{name}.case.json");
    }

    private static async Task<EngineCase> ImportAsync(HttpRequest request, Recorder recorder, CancellationToken cancel)
    {
        using var reader = new StreamReader(request.Body);
        var file = CaseFile.FromJson(await reader.ReadToEndAsync(cancel)).WithFreshIds(Guid.CreateVersion7);
        await recorder.Db.ImportAsync(file, cancel);
        return file.Case;
    }
}
