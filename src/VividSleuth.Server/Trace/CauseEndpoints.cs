using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Trace;

/// <summary>What the shop writes: a cause, and why.</summary>
public sealed record CauseWrite(KnownCause Cause, string Why, int Version);

/// <summary>Every cause in use, those of the shop with their record, and what is not used and why.</summary>
/// <param name="Replaced">Of the shop's versions of causes that ship, how each shipped.</param>
public sealed record CausesView(
    IReadOnlyList<KnownCause> Causes,
    IReadOnlyList<ShopCause> Own,
    IReadOnlyList<KnownCause> Replaced,
    IReadOnlyList<Problem> Problems
);

/// <summary>What closed cases say of the words in the causes.</summary>
/// <param name="Closed">Cases with a finding of a person that is proven or probable.</param>
/// <param name="Kinds">How kinds of engines fail more often than others, not taken over yet.</param>
/// <param name="Taken">What was taken over of it.</param>
public sealed record LearnedView(int Closed, IReadOnlyList<LearnedOffer> Offers, IReadOnlyList<KindOdds> Kinds, IReadOnlyList<KindOdds> Taken);

/// <summary>Which of the odds offered, or taken over, is meant.</summary>
/// <param name="Cause">Id of the cause; empty for any.</param>
public sealed record OddsOf(string Kind, string Cause, int? Cylinder);

/// <summary>The causes in use, the shop's own among them, and what its closed cases say of them.</summary>
public static class CauseEndpoints
{
    private const string Kind = "cause";

    public static void MapCauses(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/causes").WithTags("trace");
        group.MapGet("", AllAsync);
        group.MapGet("/learned", LearnedAsync);
        group
            .MapPost("/learned/odds", TakeOddsAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status409Conflict);
        group.MapPost("/learned/odds/back", TakeOddsBackAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/own.yaml", ExportAsync).Produces<string>(contentType: "application/yaml");
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/{id:guid}/changes", ChangesAsync);
    }

    private static async Task<CausesView> AllAsync(SleuthDb db, KnowledgeBase knowledge, KnowledgeShelf shelf, CancellationToken cancel)
    {
        var own = await db.Causes.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.CauseId).ToListAsync(cancel);
        return new CausesView(
            [.. knowledge.Causes.OrderBy(s => s.Family, StringComparer.Ordinal).ThenBy(s => s.Name, StringComparer.Ordinal)],
            own,
            [.. own.Select(o => knowledge.Shipping(o.CauseId)).OfType<KnownCause>()],
            shelf.Problems
        );
    }

    private static async Task<LearnedView> LearnedAsync(SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var cases = await ConcludedAsync(db, cancel);
        var taken = (await db.SettingsAsync(cancel)).Schools.Odds;
        var outcomes = cases.Select(c => c.Outcome()).ToArray();
        return new LearnedView(
            cases.Count(c => LearnedCounts.Closed(c.Conclusions)),
            LearnedCounts.Of(outcomes, knowledge),
            [.. LearnedCounts.Kinds(outcomes, knowledge).Where(o => !taken.Any(o.IsOf))],
            taken
        );
    }

    /// <summary>Takes over what the closed cases say of a kind of engine. The counts are the server's own, not the sender's.</summary>
    private static async Task<LearnedView> TakeOddsAsync(OddsOf of, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var db = recorder.Db;
        var asked = new KindOdds(of.Kind, of.Cause, of.Cylinder, 1, 0, 0);
        var offered = LearnedCounts.Kinds((await ConcludedAsync(db, cancel)).Select(c => c.Outcome()), knowledge).FirstOrDefault(asked.IsOf);
        await SetOddsAsync(db, taken => taken.Any(asked.IsOf) ? null : [.. taken, offered ?? throw Problems.NotHere("odds")], cancel);
        return await LearnedAsync(db, knowledge, cancel);
    }

    private static async Task<LearnedView> TakeOddsBackAsync(OddsOf of, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var asked = new KindOdds(of.Kind, of.Cause, of.Cylinder, 1, 0, 0);
        await SetOddsAsync(recorder.Db, taken => taken.Any(asked.IsOf) ? [.. taken.Where(t => !asked.IsOf(t))] : null, cancel);
        return await LearnedAsync(recorder.Db, knowledge, cancel);
    }

    /// <param name="change">Null where nothing is to be changed.</param>
    private static async Task SetOddsAsync(SleuthDb db, Func<IReadOnlyList<KindOdds>, IReadOnlyList<KindOdds>?> change, CancellationToken cancel)
    {
        var recorded = await db.Settings.SingleOrDefaultAsync(cancel);
        if (change((recorded ?? new ShopSettings()).Schools.Odds) is not { } odds)
        {
            return;
        }

        db.Keep("settings", ShopEndpoints.SettingsId, recorded is null ? null : ShopRecorder.Json(recorded));
        var settings = recorded ?? db.Settings.Add(new ShopSettings()).Entity;
        settings.Schools = settings.Schools with { Odds = odds };
        settings.Version++;
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            throw new ConflictException(odds, settings);
        }
    }

    private static async Task<List<EngineCase>> ConcludedAsync(SleuthDb db, CancellationToken cancel)
    {
        var ids = await db.Set<Conclusion>().Where(c => c.WithdrawnAt == null).Select(c => c.CaseId).Distinct().ToListAsync(cancel);
        return await db
            .Cases.AsNoTracking()
            .Where(c => ids.Contains(c.Id))
            .Include(c => c.Findings.Where(f => f.WithdrawnAt == null))
            .Include(c => c.Conclusions)
            .AsSplitQuery()
            .ToListAsync(cancel);
    }

    private static async Task<IResult> ExportAsync(SleuthDb db, CancellationToken cancel) =>
        Results.Text(
            CauseFile.Write(
                await db.Causes.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.CauseId).Select(s => s.Cause).ToListAsync(cancel)
            ),
            "application/yaml"
        );

    private static Task<List<Change>> ChangesAsync(Guid id, SleuthDb db, CancellationToken cancel) => db.ShopChangesAsync(id, cancel);

    private static async Task<ShopCause> PutAsync(Guid id, CauseWrite entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var problems = OwnCauses.Check(entry.Cause, knowledge).ToList();
        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            problems.Add(Problem.Of("why", "server.shop-s-knowledge-needs-reason"));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        var db = recorder.Db;
        var recorded = await db.Causes.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (recorded is not null && recorded.Version != entry.Version)
        {
            return entry.Version == 0 && recorded.Version == 1 ? recorded : throw new ConflictException(entry, recorded);
        }

        if (await db.Causes.AnyAsync(s => s.Id != id && s.CauseId == entry.Cause.Id && s.WithdrawnAt == null, cancel))
        {
            throw new ProblemException(Problem.Of("id", "server.shop-own-already", ("cause", entry.Cause.Id)));
        }

        if (recorded is not null && recorded.CauseId != entry.Cause.Id)
        {
            throw new ProblemException(Problem.Of("id", "server.cases-may-name-cause-id"));
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var cause = recorded ?? db.Causes.Add(new ShopCause { Id = id, CauseId = entry.Cause.Id }).Entity;
        cause.Cause = entry.Cause;
        cause.Cause.Shop = true;
        cause.Why = entry.Why.Trim();
        cause.WithdrawnAt = null;
        return await SaveAsync(cause, before, db, cancel);
    }

    private static Task<ShopCause> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<ShopCause>(Kind, id, withdrawal, cancel);

    private static async Task<ShopCause> SaveAsync(ShopCause cause, string? before, SleuthDb db, CancellationToken cancel)
    {
        db.StampForShop(Kind, cause, before);
        try
        {
            await db.SaveChangesAsync(cancel);
            return cause;
        }
        catch (DbUpdateException e)
            when (e is DbUpdateConcurrencyException
                || e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation }
            )
        {
            db.ChangeTracker.Clear();
            var other = await db.Causes.AsNoTracking().SingleOrDefaultAsync(s => s.CauseId == cause.CauseId && s.WithdrawnAt == null, cancel);
            return other?.Id == cause.Id && other.Version == 1 ? other : throw new ConflictException(cause, (object?)other ?? cause);
        }
    }
}
