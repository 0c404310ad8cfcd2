using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>What the shop writes of a kind of engine, and why.</summary>
/// <param name="Theirs">Whose it was, of one that came as a file; null leaves that as it is.</param>
/// <param name="Lessons">Lessons that came with a file; what the shop has learned already is not learned twice.</param>
public sealed record KindWrite(KindSheet Sheet, string Why, int Version, string? Theirs = null, IReadOnlyList<KindLesson>? Lessons = null);

/// <summary>A line of the list of kinds.</summary>
/// <param name="Figures">Limits, lists of sizes and tightenings.</param>
/// <param name="Cases">Cases of the kind.</param>
/// <param name="Behind">Cases judged by an earlier version of it.</param>
public sealed record KindLine(Guid Id, string Name, string Says, int Version, string Theirs, int Figures, int Services, int Cases, int Behind);

/// <summary>A case of a kind.</summary>
/// <param name="Version">The version it was judged by; 0 where it took none.</param>
public sealed record KindCaseLine(Guid Id, string Title, string EngineName, string Serial, int Version);

/// <summary>A set of fasteners of the script that the kind goes by.</summary>
/// <param name="Count">In such an engine.</param>
/// <param name="Counted">Somebody counted it; else it is what such engines usually have.</param>
public sealed record KindSet(string Step, string Name, int Count, bool Counted);

/// <summary>A figure of a kind in words; the key names it.</summary>
public sealed record KindItemLine(string Key, KindItemOf Of, Fact Name, Fact Says);

/// <summary>A kind of engine with all that serves it.</summary>
/// <param name="Latest">The version that stands; another than that of the kind where an earlier one was asked for.</param>
/// <param name="Items">Its figures in words.</param>
/// <param name="Script">The script it goes by.</param>
/// <param name="Minutes">What its strip takes by the script.</param>
public sealed record EngineKindView(
    EngineKind Kind,
    int Latest,
    IReadOnlyList<KindItemLine> Items,
    string Script,
    string ScriptName,
    double Minutes,
    IReadOnlyList<KindSet> Sets,
    IReadOnlyList<Lesson> Lessons,
    IReadOnlyList<KindCaseLine> Cases
);

/// <summary>What was read of a file, before it is kept.</summary>
/// <param name="File">Without what is wrong in it.</param>
/// <param name="Problems">What was left out, and why.</param>
/// <param name="Standing">The shop’s kind of the same name, which it would take the place of; null where there is none.</param>
public sealed record KindRead(KindFile File, IReadOnlyList<Problem> Problems, EngineKind? Standing);

/// <summary>A kind and a case of it side by side.</summary>
/// <param name="Kind">Null where the case is of no kind that the shop has written down.</param>
/// <param name="Pinned">The version that the case was judged by; 0 where it took none.</param>
/// <param name="Traps">What went wrong here that the next one should know, and no lesson tells yet.</param>
public sealed record KindOfCase(EngineKind? Kind, int Pinned, IReadOnlyList<KindRow> Rows, IReadOnlyList<KindTrap> Traps);

/// <param name="Id">Of the request; the records that it writes have ids of their own that follow from it.</param>
/// <param name="Version">Of the kind, as it was on the screen.</param>
/// <param name="Keys">What is taken; null takes all in which the kind says more than the case, or otherwise.</param>
public sealed record KindTake(Guid Id, Guid KindId, int Version, IReadOnlyList<string>? Keys);

/// <param name="Count">Things that were taken over; none where the same request had taken them before.</param>
/// <param name="Version">By which the case is judged from now on.</param>
public sealed record KindTaken(int Count, int Version);

public sealed record KindOffer(Guid KindId, int Version, IReadOnlyList<string> Keys, string Why);

/// <summary>Kinds of engines: written once, kept in versions, handed on as files, taken into cases and learned from them.</summary>
public static class KindEndpoints
{
    internal const string Kind = "kind";
    private const int MostCases = 200;

    public static void MapKinds(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/engine-kinds").WithTags("shop");
        group.MapGet("", ListAsync);
        group.MapGet("/{id:guid}", OneAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/{id:guid}/kind.yaml", ExportAsync).Produces<string>(contentType: "application/yaml");
        group.MapGet("/{id:guid}/changes", (Guid id, SleuthDb db, CancellationToken cancel) => db.ShopChangesAsync(id, cancel));
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group
            .MapPost("/read", ReadAsync)
            .Accepts<string>("application/yaml", "application/json")
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/limit", Limit).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        var ofCase = api.MapGroup("/cases/{caseId:guid}/of-kind").WithTags("shop");
        ofCase.MapGet("", OfCaseAsync);
        ofCase.MapGet("/sheet", SheetAsync);
        ofCase
            .MapPost("/take", TakeAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        ofCase
            .MapPost("/offer", OfferAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<IReadOnlyList<KindLine>> ListAsync(SleuthDb db, CancellationToken cancel)
    {
        var kinds = await db.Kinds.AsNoTracking().Where(k => k.WithdrawnAt == null).OrderBy(k => k.Name).ToListAsync(cancel);
        var lines = new List<KindLine>();
        foreach (var kind in kinds)
        {
            var cases = db.Cases.Where(c => c.WithdrawnAt == null).OfKind(kind.Id, kind.Name);
            lines.Add(
                new KindLine(
                    kind.Id,
                    kind.Name,
                    kind.Sheet.Says,
                    kind.Version,
                    kind.Theirs,
                    kind.Sheet.Limits.Count + kind.Sheet.Sizes.Count + kind.Sheet.Tightenings.Count,
                    kind.Sheet.Services.Count,
                    await cases.CountAsync(cancel),
                    await db.Cases.CountAsync(c => c.WithdrawnAt == null && c.KindId == kind.Id && c.KindVersion < kind.Version, cancel)
                )
            );
        }

        return lines;
    }

    private static async Task<EngineKindView> OneAsync(Guid id, int? version, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var stands = await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == id, cancel) ?? throw Problems.NotHere(Kind);
        var kind = version is { } old && old != stands.Version ? await db.KindAsync(id, old, cancel) ?? throw Problems.NotHere(Kind) : stands;
        var reader = KindCheck.Reader(kind.Sheet, knowledge);
        return new EngineKindView(
            kind,
            stands.Version,
            [
                .. KindItems
                    .Of(kind.Sheet, reader)
                    .OrderBy(i => i.Of)
                    .ThenBy(i => i.Key, StringComparer.Ordinal)
                    .Select(i => new KindItemLine(i.Key, i.Of, i.Name, i.Says)),
            ],
            reader.Book.Script.Id,
            reader.Book.Script.Name,
            Math.Round(reader.Book.Steps.Sum(s => StripPlanner.MinutesOf(s, reader.Table.Engine))),
            [
                .. reader.Book.Steps.SelectMany(s =>
                    s.Fasteners.Select(f => new KindSet(s.Name, f.Name, FastenerLedger.Expected(f, reader.Table.Engine), f.Counted))
                ),
            ],
            await LessonsAsync(db, kind.Name, cancel),
            await db
                .Cases.AsNoTracking()
                .Where(c => c.WithdrawnAt == null)
                .OfKind(id, kind.Name)
                .OrderByDescending(c => c.At)
                .ThenBy(c => c.Id)
                .Take(MostCases)
                .Select(c => new KindCaseLine(c.Id, c.Title, c.EngineName, c.Serial, c.KindId == id ? c.KindVersion : 0))
                .ToListAsync(cancel)
        );
    }

    /// <summary>What was learned on engines of a kind.</summary>
    private static Task<List<Lesson>> LessonsAsync(SleuthDb db, string name, CancellationToken cancel)
    {
        var pattern = CaseDesk.AsTyped(name);
        return db
            .Lessons.AsNoTracking()
            .Where(l => l.WithdrawnAt == null)
            .Where(l => EF.Functions.ILike(l.EngineName, pattern, "!") || EF.Functions.ILike(l.EngineName, pattern + ",%", "!"))
            .OrderBy(l => l.At)
            .ThenBy(l => l.Id)
            .ToListAsync(cancel);
    }

    private static async Task<IResult> ExportAsync(Guid id, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var kind = await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == id, cancel) ?? throw Problems.NotHere(Kind);
        var script = KindCheck.Reader(kind.Sheet, knowledge).Book.Script;
        var file = new KindFile
        {
            Format = KindFile.FormatName,
            Version = KindFile.CurrentVersion,
            From = kind.Theirs,
            Kind = kind.Sheet,
            Script = script.Shop ? script : null,
            Lessons =
            [
                .. (await LessonsAsync(db, kind.Name, cancel))
                    .Where(l => l.Script == script.Id)
                    .Select(l => new KindLesson { Step = l.Step, Text = l.Text }),
            ],
        };
        return Results.Text(file.Write(), "application/yaml");
    }

    /// <summary>Reads a kind from a file of another shop, without keeping it: it is looked at first.</summary>
    private static async Task<KindRead> ReadAsync(HttpRequest request, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        using var reader = new StreamReader(request.Body);
        var text = new char[KindFile.Most + 1];
        var read = await reader.ReadBlockAsync(text, cancel);
        var file = KindFile.Read("file", new string(text, 0, read));
        var problems = new List<Problem>();
        if (file.Script is { } script)
        {
            var wrong = OwnScripts.Check(script, knowledge).ToArray();
            problems.AddRange(wrong.Select(p => p with { Field = $"script.{p.Field}" }));
            // Its own script is kept where scripts are; until then the kind is held against it.
            knowledge =
                wrong.Length == 0
                    ? knowledge.With(
                        [.. knowledge.Causes.Where(c => c.Shop)],
                        [.. knowledge.StripScripts.Where(s => s.Shop && s.Id != script.Id), script]
                    )
                    : knowledge;
            file.Script = wrong.Length == 0 ? script : null;
        }

        var (good, left) = KindCheck.Sift(file.Kind, knowledge);
        if (good is null)
        {
            throw new ProblemException([.. left.Select(p => p with { Field = $"kind.{p.Field}" })]);
        }

        problems.AddRange(left.Select(p => p with { Field = $"kind.{p.Field}" }));
        file.Kind = good;
        var steps = KindCheck.Reader(good, knowledge).Book;
        foreach (var (n, lesson) in file.Lessons.Index())
        {
            if (string.IsNullOrWhiteSpace(lesson.Text) || steps.Step(lesson.Step) is null)
            {
                problems.Add(Problem.Of($"lessons[{n}].step", "shop.lesson-of-no-step", ("step", lesson.Step)));
            }
        }

        file.Lessons = [.. file.Lessons.Where(l => !string.IsNullOrWhiteSpace(l.Text) && steps.Step(l.Step) is not null)];
        return new KindRead(file, problems, await OfNameAsync(db, good.Name, cancel));
    }

    private static Task<EngineKind?> OfNameAsync(SleuthDb db, string name, CancellationToken cancel)
    {
        var pattern = CaseDesk.AsTyped(name.Trim());
        return db
            .Kinds.AsNoTracking()
            .Where(k => k.WithdrawnAt == null && EF.Functions.ILike(k.Name, pattern, "!"))
            .OrderBy(k => k.At)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>A limit as it is typed, read and checked; nothing is kept.</summary>
    private static Limit Limit(LimitEntry entry, KnowledgeBase knowledge) => (Limit)KindItems.Bare(GaugeEntries.Read(entry, knowledge));

    private static async Task<EngineKind> PutAsync(Guid id, KindWrite entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var problems = KindCheck.Of(entry.Sheet, knowledge).ToList();
        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            problems.Add(Problem.Of("why", "server.shop-s-knowledge-needs-reason"));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        return await KeepAsync(id, entry, recorder.Db, knowledge, cancel);
    }

    private static async Task<EngineKind> KeepAsync(Guid id, KindWrite entry, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var recorded = await db.Kinds.SingleOrDefaultAsync(k => k.Id == id, cancel);
        if (recorded is not null && recorded.Version != entry.Version)
        {
            return IsThis(recorded) ? recorded : throw new ConflictException(entry, recorded);
        }

        if (await OfNameAsync(db, entry.Sheet.Name, cancel) is { } other && other.Id != id)
        {
            throw new ProblemException(Problem.Of("name", "shop.kind-of-that-name", ("name", entry.Sheet.Name.Trim())));
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var kind = recorded ?? db.Kinds.Add(new EngineKind { Id = id }).Entity;
        kind.Sheet = Bare(entry.Sheet);
        kind.Name = kind.Sheet.Name;
        kind.Why = entry.Why.Trim();
        kind.Theirs = entry.Theirs?.Trim() ?? kind.Theirs;
        kind.WithdrawnAt = null;
        db.StampForShop(Kind, kind, before);
        await LearnAsync(db, kind, entry.Lessons ?? [], knowledge, cancel);
        try
        {
            return await db.SaveOnceAsync(kind, IsThis, theirs => new ConflictException(entry, theirs), cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            throw new ProblemException(Problem.Of("name", "shop.kind-of-that-name", ("name", entry.Sheet.Name.Trim())));
        }

        // The same request, sent again: what it would have written stands.
        bool IsThis(EngineKind there) =>
            there.Version == entry.Version + 1 && there.WithdrawnAt is null && ShopRecorder.Json(there.Sheet) == ShopRecorder.Json(Bare(entry.Sheet));
    }

    /// <summary>A sheet whose figures say nothing of a case, a writer and a day.</summary>
    private static KindSheet Bare(KindSheet sheet) =>
        sheet with
        {
            Name = sheet.Name.Trim(),
            Says = sheet.Says.Trim(),
            Limits = [.. sheet.Limits.Select(l => (Limit)KindItems.Bare(l))],
            Sizes = [.. sheet.Sizes.Select(s => (ServiceSizes)KindItems.Bare(s))],
            Tightenings = [.. sheet.Tightenings.Select(t => (Core.Build.Tightening)KindItems.Bare(t))],
        };

    private static async Task LearnAsync(
        SleuthDb db,
        EngineKind kind,
        IReadOnlyList<KindLesson> lessons,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (lessons.Count == 0)
        {
            return;
        }

        var script = KindCheck.Reader(kind.Sheet, knowledge).Book.Script;
        var known = (await LessonsAsync(db, kind.Name, cancel)).Select(l => (l.Step, l.Text)).ToHashSet();
        foreach (var lesson in lessons.Where(l => !string.IsNullOrWhiteSpace(l.Text) && known.Add((l.Step, l.Text.Trim()))))
        {
            var learned = new Lesson
            {
                Id = Guid.CreateVersion7(),
                Script = script.Id,
                Step = lesson.Step,
                EngineName = kind.Name,
                Text = lesson.Text.Trim(),
            };
            db.Lessons.Add(learned);
            db.StampForShop("lesson", learned, before: null);
        }
    }

    /// <summary>Takes a kind back; cases keep what they took from it.</summary>
    private static async Task<EngineKind> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        return await db.Fleet.Where(f => f.KindId == id && f.WithdrawnAt == null).Select(f => f.Name).FirstOrDefaultAsync(cancel) is { } name
            ? throw new ProblemException(Problem.Of("kind", "shop.an-engine-goes-by-it", ("engine", name)))
            : await db.WithdrawFromShopAsync<EngineKind>(Kind, id, withdrawal, cancel);
    }

    private static async Task<KindOfCase> OfCaseAsync(Guid caseId, SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var kind = await OfAsync(db, reader.Case, cancel);
        if (kind is null)
        {
            return new KindOfCase(null, 0, [], []);
        }

        var pinned = reader.Case.KindId == kind.Id ? reader.Case.KindVersion : 0;
        var judgedBy = pinned == 0 ? null : (await db.KindAsync(kind.Id, pinned, cancel))?.Sheet;
        var lessons = await LessonsAsync(db, kind.Name, cancel);
        return new KindOfCase(
            kind,
            pinned,
            KindComparison.Of(kind.Sheet, judgedBy, reader),
            [.. KindTraps.Of(reader).Where(t => !lessons.Exists(l => l.CaseId == caseId && l.Step == t.Step))]
        );
    }

    /// <summary>The kind of a case: the one it took over, or else the one that its engine is called by.</summary>
    private static async Task<EngineKind?> OfAsync(SleuthDb db, EngineCase of, CancellationToken cancel) =>
        of.KindId is { } id ? await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == id, cancel)
        : StripPlanner.KindOf(of.EngineName) is { Length: > 0 } name ? await OfNameAsync(db, name, cancel)
        : null;

    /// <summary>The sheet of a new kind, of all that counts in the case.</summary>
    private static async Task<KindSheet> SheetAsync(Guid caseId, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        return KindComparison.From(reader, StripPlanner.KindOf(reader.Case.EngineName));
    }

    /// <summary>Takes over what the kind says, as records of the case, and notes by which version it is judged from now on.</summary>
    private static async Task<KindTaken> TakeAsync(
        Guid caseId,
        KindTake entry,
        Recorder recorder,
        CaseDesk desk,
        Words.Sentences sentences,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var kind =
            await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == entry.KindId && k.WithdrawnAt == null, cancel)
            ?? throw Problems.NotHere(Kind);
        if (kind.Version != entry.Version)
        {
            throw new ConflictException(entry, kind);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        var judgedBy =
            reader.Case.KindId == kind.Id && reader.Case.KindVersion > 0 ? await db.KindAsync(kind.Id, reader.Case.KindVersion, cancel) : null;
        var rows = KindComparison
            .Of(kind.Sheet, judgedBy?.Sheet, reader)
            .Where(r => r.State is KindRowState.OnlyKind or KindRowState.Differs or KindRowState.Dropped)
            .Where(r => entry.Keys is null || entry.Keys.Contains(r.Key))
            .ToArray();
        var items = KindItems.Of(kind.Sheet, reader).ToDictionary(i => i.Key, StringComparer.Ordinal);
        var wrong = rows.Where(r =>
                items.GetValueOrDefault(r.Key)?.Record is Core.Build.Tightening t && t.Check(KindCheck.ExpectedOf(t.Step, t.Set, reader)).Any()
            )
            .Select(r => Problem.Of("keys", "shop.set-counts-otherwise-here", ("set", r.Name)))
            .ToArray();
        if (wrong.Length > 0)
        {
            throw new ProblemException(wrong);
        }

        var why = sentences.Say(Fact.Of("shop.kind-says-otherwise", ("kind", kind.Name), ("version", kind.Version)));
        foreach (var old in KindItems.Of(reader).Where(i => i.Record is not null && Array.Exists(rows, r => r.Key == i.Key)))
        {
            var back = new Withdrawal(why, old.Record!.Version);
            _ = old.Record switch
            {
                Limit l => (object)await recorder.WithdrawAsync<Limit>(caseId, l.Id, back, cancel),
                ServiceSizes s => await recorder.WithdrawAsync<ServiceSizes>(caseId, s.Id, back, cancel),
                var t => await recorder.WithdrawAsync<Core.Build.Tightening>(caseId, t.Id, back, cancel),
            };
        }

        var taken = rows.Select(r => items.GetValueOrDefault(r.Key)).OfType<KindItem>().ToArray();
        foreach (var item in taken.Where(i => i.Record is not null))
        {
            var record = KindItems.Bare(item.Record!);
            record.Id = DerivedId.Of(entry.Id, item.Key);
            record.CaseId = caseId;
            db.Add(record);
        }

        await recorder.UpdateAsync<EngineCase>(
            caseId,
            caseId,
            reader.Case.Version,
            entry,
            c =>
            {
                (c.KindId, c.KindVersion) = (kind.Id, kind.Version);
                c.Stroke = Array.Find(taken, i => i.Of == KindItemOf.Stroke)?.Figure ?? c.Stroke;
                c.RodLength = Array.Find(taken, i => i.Of == KindItemOf.RodLength)?.Figure ?? c.RodLength;
            },
            cancel
        );
        await transaction.CommitAsync(cancel);
        return new KindTaken(taken.Length, kind.Version);
    }

    /// <summary>Gives the kind what one engine of it taught.</summary>
    private static async Task<EngineKind> OfferAsync(
        Guid caseId,
        KindOffer entry,
        Recorder recorder,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var kind =
            await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == entry.KindId && k.WithdrawnAt == null, cancel)
            ?? throw Problems.NotHere(Kind);
        var reader = await desk.OpenAsync(caseId, cancel);
        var stood = kind.Version == entry.Version ? kind : await db.KindAsync(entry.KindId, entry.Version, cancel) ?? kind;
        return await PutAsync(
            entry.KindId,
            new KindWrite(KindComparison.With(stood.Sheet, reader, entry.Keys.ToHashSet(StringComparer.Ordinal)), entry.Why, entry.Version),
            recorder,
            knowledge,
            cancel
        );
    }

    /// <summary>A kind as it was in a version; null where that is not kept.</summary>
    internal static async Task<EngineKind?> KindAsync(this SleuthDb db, Guid id, int version, CancellationToken cancel)
    {
        if (await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == id && k.Version == version, cancel) is { } stands)
        {
            return stands;
        }

        var earlier = await db
            .Changes.AsNoTracking()
            .Where(c => c.CaseId == Guid.Empty && c.RecordId == id && c.Before != null)
            .OrderBy(c => c.At)
            .ThenBy(c => c.Id)
            .Select(c => c.Before!)
            .ToListAsync(cancel);
        return earlier.Select(json => JsonSerializer.Deserialize<EngineKind>(json, CaseFile.Json)!).FirstOrDefault(k => k.Version == version);
    }
}
