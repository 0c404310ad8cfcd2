using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Casebook;

/// <summary>A line of the casebook.</summary>
/// <param name="Next">What comes next in this case.</param>
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
    bool Concluded,
    string Next
);

/// <summary>A page of the casebook, what was written last on top.</summary>
/// <param name="Total">Cases in all that fit what was asked for.</param>
public sealed record CasePage(IReadOnlyList<CaseLine> Cases, int Total);

public sealed record NewCase(Guid Id, string Title, string EngineName, string Owner, EngineLayout Layout);

/// <summary>The version of a case that was on the screen.</summary>
public sealed record CaseVersion(int Version);

/// <summary>A layout laid out, before a case is made of it.</summary>
/// <param name="MarksMeet">Turns of the crankshaft after which the marks of its timing gears meet again; null where nobody counted their teeth.</param>
public sealed record LayoutPreview(
    LongSection Section,
    IReadOnlyList<CylinderStation> Cylinders,
    IReadOnlyList<string> OilRoute,
    int Addresses,
    long? MarksMeet
);

/// <summary>What a new case may start from.</summary>
/// <param name="OfThisShop">An engine of this shop, as its last case has it; else a family of engines.</param>
public sealed record LayoutStart(string Name, string Says, EngineLayout Layout, bool OfThisShop);

/// <summary>A kind of part, as a mechanic calls it.</summary>
public sealed record KindName(string Id, Fact Name, Stratum Stratum);

public static class CasebookEndpoints
{
    /// <summary>Engines of this shop that are offered to start from, those of the latest cases.</summary>
    private const int MostStarts = 60;

    private const int MostLines = 200;

    /// <summary>Bytes of a case file with all its pictures.</summary>
    private const long MostImportBytes = 256L * 1024 * 1024;

    public static void MapCasebook(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("casebook");
        group.MapGet("/cases", ListAsync);
        group.MapPost("/cases", CreateAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/layouts", StartsAsync);
        group.MapGet("/kinds", () => PartKinds.All.Select(k => new KindName(k.Id, k.Name, k.Stratum)).ToArray());
        group.MapPost("/layouts/preview", Preview).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        var leading = api.MapGroup("/cases/{id:guid}").WithTags("casebook").RequireAuthorization(p => p.RequireRole(Roles.Lead));
        leading
            .MapPost(
                "/withdraw",
                (Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
                    recorder.WithdrawAsync<EngineCase>(id, id, withdrawal, cancel)
            )
            .ProducesProblem(StatusCodes.Status409Conflict);
        leading.MapPost("/take-up", TakeUpAsync).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/cases/{id:guid}/export", ExportAsync).Produces<CaseFile>().ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPost("/cases/import", ImportAsync)
            .RequireAuthorization(Policies.Write)
            .Accepts<CaseFile>("application/json")
            .WithMetadata(new RequestSizeLimitAttribute(MostImportBytes))
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <param name="skip">Lines before the page.</param>
    /// <param name="take">Lines of the page, 1 to 200.</param>
    /// <param name="find">Words that title, engine, owner or complaint must have, each somewhere.</param>
    /// <param name="withdrawn">True lists the cases that were withdrawn, and no other.</param>
    private static async Task<CasePage> ListAsync(
        int? skip,
        int? take,
        string? find,
        bool? withdrawn,
        SleuthDb db,
        CaseDesk desk,
        NextSteps next,
        CancellationToken cancel
    )
    {
        var query = db.Cases.AsNoTracking().Where(c => c.WithdrawnAt != null == (withdrawn ?? false));
        foreach (var word in (find ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var like = $"%{word.Replace(@"\", @"\\").Replace("%", @"\%").Replace("_", @"\_")}%";
            query = query.Where(c =>
                EF.Functions.ILike(c.Title, like, @"\")
                || EF.Functions.ILike(c.EngineName, like, @"\")
                || EF.Functions.ILike(c.Owner, like, @"\")
                || EF.Functions.ILike(c.Complaint, like, @"\")
            );
        }

        var rows = await query
            .Join(db.States.AsNoTracking(), c => c.Id, s => s.CaseId, (c, s) => new { Case = c, State = s })
            .OrderByDescending(x => x.State.LastAt)
            .ThenBy(x => x.State.CaseId)
            .Select(x => new
            {
                x.Case.Id,
                x.Case.Title,
                x.Case.EngineName,
                x.Case.Owner,
                x.Case.Complaint,
                x.Case.Layout,
                x.State,
                Total = query.Count(),
            })
            .Skip(Math.Max(0, skip ?? 0))
            .Take(Math.Clamp(take ?? MostLines, 1, MostLines))
            .ToListAsync(cancel);
        foreach (var row in rows.Where(r => r.State.NextRevision < r.State.Revision))
        {
            // Written so lately that it is not kept yet.
            row.State.Next = await next.KeepAsync(db, desk, row.Id, row.State.Revision, cancel);
        }

        return new CasePage(
            [
                .. rows.Select(r => new CaseLine(
                    r.Id,
                    r.Title,
                    r.EngineName,
                    r.Owner,
                    r.Complaint,
                    r.Layout,
                    r.State.LastAt,
                    r.State.LastBy,
                    r.State.Findings,
                    r.State.Readings,
                    r.State.Steps,
                    r.State.Conclusions > 0,
                    r.State.Next
                )),
            ],
            rows.Count > 0 ? rows[0].Total : 0
        );
    }

    private static async Task<EngineCase> CreateAsync(NewCase entry, Recorder recorder, NextSteps next, CancellationToken cancel)
    {
        var problems = entry.Layout.Check().ToList();
        if (string.IsNullOrWhiteSpace(entry.EngineName))
        {
            problems.Add(Problem.Of("engineName", "server.engine-without-name"));
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
        var added = await recorder.AddAsync(entry.Id, made, cancel);
        next.Written(added.Id);
        return added;
    }

    /// <summary>Takes a withdrawn case up again, as it was left.</summary>
    private static async Task<EngineCase> TakeUpAsync(Guid id, CaseVersion entry, Recorder recorder, CancellationToken cancel) =>
        await recorder.UpdateAsync<EngineCase>(id, id, entry.Version, entry, c => (c.WithdrawnAt, c.WithdrawnWhy) = (null, null), cancel);

    private static async Task<IReadOnlyList<LayoutStart>> StartsAsync(SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var cases = await db
            .Cases.AsNoTracking()
            .Where(c => c.WithdrawnAt == null)
            .OrderByDescending(c => c.At)
            .ThenBy(c => c.Id)
            .Select(c => new { c.EngineName, c.Layout })
            .Take(500)
            .ToListAsync(cancel);
        return
        [
            // What an earlier case had of its own is of that engine and not of its kind.
            .. cases
                .DistinctBy(c => c.EngineName.Trim(), StringComparer.OrdinalIgnoreCase)
                .Take(MostStarts)
                .Select(c => new LayoutStart(
                    c.EngineName,
                    "",
                    c.Layout with
                    {
                        OwnParts = [.. c.Layout.OwnParts.Where(o => !o.Left)],
                    },
                    OfThisShop: true
                )),
            .. knowledge.Families.Select(f => new LayoutStart(f.Name, f.Says, f.Layout, OfThisShop: false)),
        ];
    }

    private static LayoutPreview Preview(EngineLayout layout)
    {
        var engine = Engine.From(layout);
        var table = new AddressTable(engine);
        return new LayoutPreview(
            LongSection.Of(table),
            engine.Cylinders,
            [.. engine.OilRoute.Select(s => (s.Kind == BearingKind.Main ? "M" : "K") + s.Number)],
            table.All.Count,
            layout.GearTeeth.Count > 0 ? GearMarks.TurnsUntilTheyMeet(layout.GearTeeth) : null
        );
    }

    private static async Task<IResult> ExportAsync(Guid id, SleuthDb db, CancellationToken cancel)
    {
        var file = await db.ExportAsync(id, cancel) ?? throw Problems.NotHere("case");
        var name = new string([.. file.Case.Title.Select(c => char.IsAsciiLetterOrDigit(c) ? char.ToLowerInvariant(c) : '-')]);
        return Results.File(System.Text.Encoding.UTF8.GetBytes(file.ToJson()), "application/json", $"{name}.case.json");
    }

    /// <summary>One at a time: a case file holds all its pictures.</summary>
    private static readonly SemaphoreSlim ImportGate = new(1);

    /// <summary>A case file becomes a case. The same file sent again becomes no second one: the case that it has become is the answer.</summary>
    /// <param name="copy">Any text: another one makes another case of the same file.</param>
    private static async Task<EngineCase> ImportAsync(HttpRequest request, string? copy, Recorder recorder, NextSteps next, CancellationToken cancel)
    {
        await ImportGate.WaitAsync(cancel);
        var id = Guid.Empty;
        try
        {
            var data = await BytesAsync(request, cancel);
            var file = CaseFile
                .FromJson(data)
                .KnownTo(KnowledgeBase.BuiltIn)
                .WithIdsOf(DerivedId.Of(DerivedId.Of(data.Span), copy ?? ""))
                .FromElsewhere();
            var db = recorder.Db;
            id = file.Case.Id;
            if (await db.Cases.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) is { } there)
            {
                return there;
            }

            await db.ImportAsync(file, cancel);
            next.Written(id);
            return file.Case;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation, TableName: "cases" })
        {
            // The same file came in at another instance at the same moment.
            recorder.Db.ChangeTracker.Clear();
            return await recorder.Db.Cases.AsNoTracking().SingleAsync(c => c.Id == id, cancel);
        }
        finally
        {
            ImportGate.Release();
        }
    }

    private static async Task<ReadOnlyMemory<byte>> BytesAsync(HttpRequest request, CancellationToken cancel)
    {
        // Of the size that is told, so that it needs not grow by copying; never more than the limit of the endpoint.
        using var stream = new MemoryStream((int)Math.Min(request.ContentLength ?? 0, MostImportBytes));
        await request.Body.CopyToAsync(stream, cancel);
        return stream.GetBuffer().AsMemory(0, (int)stream.Length);
    }
}
