using System.Security.Claims;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Build;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Casebook;

/// <summary>A line of the casebook.</summary>
/// <param name="Next">What comes next in this case.</param>
/// <param name="ToSign">Hold points to be signed.</param>
/// <param name="Away">Parts in other hands.</param>
/// <param name="Coming">Lines of the order of which something is still to come.</param>
/// <param name="With">Who has the parts and from whom the lines come.</param>
/// <param name="Due">The earliest day on which any of them was promised.</param>
/// <param name="Promised">The day on which its owner was told that it runs; null where nobody told one, or it ran.</param>
/// <param name="Likely">The day on which it likely runs, of what is promised.</param>
/// <param name="ReadIn">It came as a file or a sealed bag, and stands beside the case that it was there.</param>
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
    string Next,
    int ToSign,
    int Away,
    int Coming,
    IReadOnlyList<string> With,
    DateOnly? Due,
    DateOnly? Promised,
    DateOnly? Likely,
    bool ReadIn
);

/// <summary>A page of the casebook, what was written last on top.</summary>
/// <param name="Total">Cases in all that fit what was asked for.</param>
/// <param name="Near">Nothing has the words as they are written: these have words like them.</param>
/// <param name="Waiting">How many of those with the words wait for what.</param>
public sealed record CasePage(IReadOnlyList<CaseLine> Cases, int Total, bool Near, CaseCounts Waiting);

/// <summary>How many cases wait for what, as <see cref="CaseWaits"/> names it.</summary>
public sealed record CaseCounts(int Sign, int Away, int Coming, int Overdue, int Behind, int Open, int Decided)
{
    public int Of(CaseWaits waits) =>
        waits switch
        {
            CaseWaits.Sign => Sign,
            CaseWaits.Away => Away,
            CaseWaits.Coming => Coming,
            CaseWaits.Overdue => Overdue,
            CaseWaits.Behind => Behind,
            CaseWaits.Open => Open,
            _ => Decided,
        };
}

/// <param name="KindId">The kind of engine whose figures it begins with; null where it begins with none.</param>
public sealed record NewCase(Guid Id, string Title, string EngineName, string Owner, EngineLayout Layout, Guid? KindId = null);

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
/// <param name="KindId">A kind that the shop has written down, with its figures; null where there is none.</param>
public sealed record LayoutStart(string Name, string Says, EngineLayout Layout, bool OfThisShop, Guid? KindId = null);

/// <summary>A kind of part, as a mechanic calls it.</summary>
public sealed record KindName(string Id, Fact Name, Stratum Stratum);

public static class CasebookEndpoints
{
    /// <summary>Engines of this shop that are offered to start from, those of the latest cases.</summary>
    private const int MostStarts = 60;

    private const int MostLines = 200;

    /// <summary>Cases that are worked out while somebody waits for the casebook; more there are only after the program was changed.</summary>
    /// <summary>Bytes of a case file with all its pictures.</summary>
    private const long MostImportBytes = 256L * 1024 * 1024;

    public static void MapCasebook(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("casebook");
        group.MapGet("/cases", ListAsync).ForStudents();
        group.MapPost("/cases", CreateAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/layouts", StartsAsync);
        group.MapGet("/kinds", () => PartKinds.All.Select(k => new KindName(k.Id, k.Name, k.Stratum)).ToArray()).ForStudents();
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
        group.MapGet("/cases/{id:guid}/export", ExportAsync).ForStudents().Produces<CaseFile>().ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPost("/cases/import", ImportAsync)
            .RequireAuthorization(Policies.Write)
            .Accepts<CaseFile>("application/json")
            .WithMetadata(new RequestSizeLimitAttribute(MostImportBytes))
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <param name="skip">Lines before the page.</param>
    /// <param name="take">Lines of the page, 1 to 200.</param>
    /// <param name="find">Words that title, engine, owner or complaint must have, each somewhere; or the name of what was found or decided.</param>
    /// <param name="waits">What they wait for: sign, away, coming, overdue, behind, open or decided; all of them without.</param>
    /// <param name="withdrawn">True lists the cases that were withdrawn, and no other.</param>
    private static async Task<CasePage> ListAsync(
        int? skip,
        int? take,
        string? find,
        string? waits,
        bool? withdrawn,
        SleuthDb db,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CasebookKeeper keeper,
        BuildDesk build,
        Sentences sentences,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        CaseWaits? only = null;
        if (!string.IsNullOrEmpty(waits))
        {
            only =
                Enum.TryParse<CaseWaits>(waits, ignoreCase: true, out var known) && Enum.IsDefined(known)
                    ? known
                    : throw new ProblemException(
                        Problem.Of("waits", "server.nothing-waits-for-that", ("waits", waits), ("join", Enum.GetNames<CaseWaits>()))
                    );
        }

        var all = db.Cases.AsNoTracking().Where(c => c.WithdrawnAt != null == (withdrawn ?? false));
        if (user.IsInRole(Roles.Student))
        {
            all = all.Where(c => db.OwnCases(user).Contains(c.Id));
        }

        var words = (find ?? "").Trim();
        var today = desk.Today;
        await keeper.CatchUpAsync(db, desk, build, cancel);
        var (query, _, near, _, having) = await all.FoundAsync(db, words, cancel);
        var ofAll = withdrawn != true && !user.IsInRole(Roles.Student);
        // Told by their states alone, without those few that are withdrawn; the cases themselves need not be read.
        var counted =
            ofAll && words.Length == 0 ? db.States.AsNoTracking().Where(s => !db.Cases.Any(c => c.Id == s.CaseId && c.WithdrawnAt != null))
            : ofAll && having is not null ? db.StatesOf(having)
            : query.Join(db.States.AsNoTracking(), c => c.Id, s => s.CaseId, (_, s) => s);
        var waiting =
            await counted
                .GroupBy(_ => 1)
                .Select(g => new CaseCounts(
                    g.Count(s => s.ToSign > 0),
                    g.Count(s => s.Away > 0),
                    g.Count(s => s.Coming > 0),
                    g.Count(s => s.Due < today || s.Promised < today),
                    g.Count(s => s.Likely > s.Promised),
                    g.Count(s => s.Conclusions == 0),
                    g.Count(s => s.Conclusions > 0)
                ))
                .SingleOrDefaultAsync(cancel)
            ?? new CaseCounts(0, 0, 0, 0, 0, 0, 0);
        IQueryable<CaseState> Waiting(IQueryable<CaseState> states) =>
            only switch
            {
                CaseWaits.Sign => states.Where(s => s.ToSign > 0),
                CaseWaits.Away => states.Where(s => s.Away > 0),
                CaseWaits.Coming => states.Where(s => s.Coming > 0),
                CaseWaits.Overdue => states.Where(s => s.Due < today || s.Promised < today),
                CaseWaits.Behind => states.Where(s => s.Likely > s.Promised),
                CaseWaits.Open => states.Where(s => s.Conclusions == 0),
                CaseWaits.Decided => states.Where(s => s.Conclusions > 0),
                _ => states,
            };
        var (over, lines) = (Math.Max(0, skip ?? 0), Math.Clamp(take ?? MostLines, 1, MostLines));
        if (ofAll && having is not null)
        {
            var page = await db.LatestAsync(having, Waiting, over, lines, cancel);
            (query, over) = (db.Cases.AsNoTracking().Where(c => page.Contains(c.Id)), 0);
        }

        var rows = await query
            .Join(Waiting(db.States.AsNoTracking()), c => c.Id, s => s.CaseId, (c, s) => new { Case = c, State = s })
            .OrderByDescending(x => x.State.LastAt)
            .ThenByDescending(x => x.State.CaseId)
            .Select(x => new
            {
                x.Case.Id,
                x.Case.Title,
                x.Case.EngineName,
                x.Case.Owner,
                x.Case.Complaint,
                x.Case.Layout,
                ReadIn = x.Case.ImportedFrom != null,
                x.State,
            })
            .Skip(over)
            .Take(lines)
            .ToListAsync(cancel);
        foreach (var row in rows.Where(r => r.State.NextRevision < r.State.Revision))
        {
            await keeper.KeepNowAsync(db, desk, build, row.State, cancel);
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
                    r.State.NextOf(sentences.Tag),
                    r.State.ToSign,
                    r.State.Away,
                    r.State.Coming,
                    r.State.With,
                    r.State.Due,
                    r.State.Promised,
                    r.State.Likely,
                    r.ReadIn
                )),
            ],
            only is { } of ? waiting.Of(of) : waiting.Open + waiting.Decided,
            near,
            waiting
        );
    }

    private static async Task<EngineCase> CreateAsync(NewCase entry, Recorder recorder, CasebookKeeper keeper, CancellationToken cancel)
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
        if (entry.KindId is { } kindId)
        {
            KindItems.Begin(
                made,
                await recorder.Db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == kindId && k.WithdrawnAt == null, cancel)
                    ?? throw new ProblemException(Problem.Of("kindId", "shop.no-such-kind"))
            );
        }

        var added = await recorder.AddAsync(entry.Id, made, cancel);
        keeper.Written(added.Id);
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
        var kinds = await db.Kinds.AsNoTracking().Where(k => k.WithdrawnAt == null).OrderBy(k => k.Name).ToListAsync(cancel);
        return
        [
            .. kinds.Select(k => new LayoutStart(k.Name, k.Sheet.Says, k.Sheet.Layout, OfThisShop: true, k.Id)),
            // What an earlier case had of its own is of that engine and not of its kind.
            .. cases
                .Where(c => !kinds.Exists(k => k.Name.Equals(StripPlanner.KindOf(c.EngineName), StringComparison.OrdinalIgnoreCase)))
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
        return Results.File(System.Text.Encoding.UTF8.GetBytes(file.ToJson()), "application/json", $"{CaseFile.NameOf(file.Case.Title)}.case.json");
    }

    /// <summary>One at a time: a case file holds all its pictures.</summary>
    private static readonly SemaphoreSlim ImportGate = new(1);

    /// <summary>A case file becomes a case. The same file sent again becomes no second one: the case that it has become is the answer.</summary>
    /// <param name="copy">Any text: another one makes another case of the same file.</param>
    private static async Task<EngineCase> ImportAsync(
        HttpRequest request,
        string? copy,
        Recorder recorder,
        CasebookKeeper keeper,
        CancellationToken cancel
    )
    {
        await ImportGate.WaitAsync(cancel);
        try
        {
            var data = await BytesAsync(request, cancel);
            var file = CaseFile
                .FromJson(data)
                .KnownTo(KnowledgeBase.BuiltIn)
                .WithIdsOf(DerivedId.Of(DerivedId.Of(data.Span), copy ?? ""))
                .FromElsewhere();
            return await OnceAsync(file, recorder, keeper, cancel);
        }
        finally
        {
            ImportGate.Release();
        }
    }

    /// <summary>Puts a file in, or answers with the case that it has become before.</summary>
    /// <param name="data">Gives the data of a picture that is not in the file.</param>
    /// <param name="recording">Gives a recording by its SHA-256.</param>
    internal static async Task<EngineCase> OnceAsync(
        CaseFile file,
        Recorder recorder,
        CasebookKeeper keeper,
        CancellationToken cancel,
        Func<Picture, Task<byte[]>>? data = null,
        Func<string, Task<byte[]?>>? recording = null
    )
    {
        var (db, id) = (recorder.Db, file.Case.Id);
        if (await db.Cases.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) is { } there)
        {
            return there;
        }

        try
        {
            await db.ImportAsync(file, cancel, data, recording);
            keeper.Written(id);
            return file.Case;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation, TableName: "cases" })
        {
            // The same file came in at another instance at the same moment.
            db.ChangeTracker.Clear();
            return await db.Cases.AsNoTracking().SingleAsync(c => c.Id == id, cancel);
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
