using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Strip;

/// <summary>What the shop writes: a script, and why.</summary>
public sealed record ScriptWrite(StripScript Script, string Why, int Version);

/// <summary>One script in use, with the shop's record of it where it is the shop's.</summary>
/// <param name="Shipping">True where one of this id ships, so that taking the shop's back brings that one again.</param>
/// <param name="Assembly">What assembly adds by the knowledge, where the script has nothing in its place.</param>
public sealed record ScriptView(StripScript Script, ShopScript? Own, bool Shipping, IReadOnlyList<AssemblyStep> Assembly);

/// <summary>The strip scripts in use, the shop's own among them: written, changed, taken back, and handed on as a file.</summary>
public static class ScriptEndpoints
{
    private const string Kind = "script";

    /// <summary>So many characters a file of scripts may have; the largest that ships has a hundred thousand.</summary>
    private const int MostOfFile = 1_000_000;

    public static void MapScripts(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/scripts").WithTags("strip");
        group.MapGet("/own.yaml", ExportAsync).Produces<string>(contentType: "application/yaml");
        group.MapGet("/{script}", OneAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/read", ReadAsync)
            .Accepts<string>("application/yaml", "application/json")
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/{id:guid}/changes", (Guid id, SleuthDb db, CancellationToken cancel) => db.ShopChangesAsync(id, cancel));
        api.MapGet("/cases/{caseId:guid}/script", OfCaseAsync).WithTags("strip");
    }

    private static async Task<ScriptView> OneAsync(string script, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel) =>
        knowledge.Script(script) is { } found
            ? new ScriptView(
                found,
                await db.Scripts.AsNoTracking().SingleOrDefaultAsync(s => s.ScriptId == script && s.WithdrawnAt == null, cancel),
                knowledge.ShippingScript(script) is not null,
                knowledge.Assembly
            )
            : throw Problems.NotHere("script");

    private static async Task<IResult> ExportAsync(string? script, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel) =>
        Results.Text(
            ScriptFile.Write(
                script is { Length: > 0 }
                    ? [knowledge.Script(script) ?? throw Problems.NotHere("script")]
                    : await db
                        .Scripts.AsNoTracking()
                        .Where(s => s.WithdrawnAt == null)
                        .OrderBy(s => s.ScriptId)
                        .Select(s => s.Script)
                        .ToListAsync(cancel)
            ),
            "application/yaml"
        );

    /// <summary>Reads scripts from a file of another shop, without keeping them: they are looked at first.</summary>
    private static async Task<IReadOnlyList<StripScript>> ReadAsync(HttpRequest request, CancellationToken cancel)
    {
        using var reader = new StreamReader(request.Body);
        var text = new char[MostOfFile + 1];
        var read = await reader.ReadBlockAsync(text, cancel);
        return read > MostOfFile
            ? throw new ProblemException(Problem.Of("file", "server.file-of-scripts-too-long", ("most", MostOfFile / 1_000)))
            : ScriptFile.Read("file", new string(text, 0, read));
    }

    /// <summary>The script of a strip as it was done on this engine, to be looked at, named and kept.</summary>
    private static async Task<StripScript> OfCaseAsync(Guid caseId, CaseDesk desk, Sentences sentences, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var kind = StripPlanner.KindOf(reader.Case.EngineName);
        var id = string.Join(
            '-',
            new string([.. kind.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : ' ')]).Split(
                ' ',
                StringSplitOptions.RemoveEmptyEntries
            )
        );
        return OwnScripts.Of(
            reader.Book,
            id.Length is 0 or > 60 ? $"{reader.Book.Script.Id}-here" : id,
            kind.Length == 0 ? reader.Book.Script.Name : kind,
            kind,
            sentences.Say(Fact.Of("strip.learned-on", ("engine", reader.Case.Title), ("day", desk.Today))),
            sentences.Say(Fact.Of("strip.usual-since-done"))
        );
    }

    private static async Task<ShopScript> PutAsync(
        Guid id,
        ScriptWrite entry,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var mayOpen = await StripEndpoints.MayOpenAsync(desk, user, cancel);
        var problems = OwnScripts.Check(entry.Script, knowledge).ToList();
        if (OwnScripts.Loosens(entry.Script, knowledge, mayOpen) is { } loosens)
        {
            problems.Add(loosens);
        }

        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            problems.Add(Problem.Of("why", "server.shop-s-knowledge-needs-reason"));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        var db = recorder.Db;
        var recorded = await db.Scripts.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (recorded is not null && recorded.Version != entry.Version)
        {
            return entry.Version == 0 && recorded.Version == 1 ? recorded : throw new ConflictException(entry, recorded);
        }

        if (await db.Scripts.AnyAsync(s => s.Id != id && s.ScriptId == entry.Script.Id && s.WithdrawnAt == null, cancel))
        {
            throw new ProblemException(Problem.Of("id", "server.shop-own-script-already", ("script", entry.Script.Id)));
        }

        if (recorded is not null && recorded.ScriptId != entry.Script.Id)
        {
            throw new ProblemException(Problem.Of("id", "server.cases-may-name-script-id"));
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var script = recorded ?? db.Scripts.Add(new ShopScript { Id = id, ScriptId = entry.Script.Id }).Entity;
        script.Script = entry.Script;
        script.Script.Shop = true;
        script.Why = entry.Why.Trim();
        script.WithdrawnAt = null;
        db.StampForShop(Kind, script, before);
        try
        {
            return await db.SaveOnceAsync(script, other => other.Version == 1, other => new ConflictException(entry, other), cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            throw new ProblemException(Problem.Of("id", "server.shop-own-script-already", ("script", entry.Script.Id)));
        }
    }

    /// <summary>Takes a script back, but for one by which a strip goes: its steps would no longer be told.</summary>
    private static async Task<ShopScript> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        if (await db.Scripts.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && s.WithdrawnAt == null, cancel) is { } script)
        {
            var (scriptId, kind) = (script.ScriptId, script.Script.Kind.ToLowerInvariant());
#pragma warning disable CA1304, CA1311, CA1862 // Said in SQL, where there is no culture.
            var goesBy = await db
                .Cases.Where(c => c.Steps.Any(s => s.WithdrawnAt == null))
                .Where(c => c.Script == scriptId || (kind != "" && c.Script == "" && c.EngineName.ToLower().StartsWith(kind)))
                .OrderBy(c => c.Title)
                .Select(c => c.Title)
                .FirstOrDefaultAsync(cancel);
#pragma warning restore CA1304, CA1311, CA1862
            if (goesBy is not null)
            {
                throw new ProblemException(Problem.Of("script", "server.a-strip-goes-by-it", ("title", goesBy)));
            }
        }

        return await db.WithdrawFromShopAsync<ShopScript>(Kind, id, withdrawal, cancel);
    }
}
