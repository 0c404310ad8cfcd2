using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Index;
using VividSleuth.Store;

namespace VividSleuth.Server;

public static class Policies
{
    public const string Read = "read";
    public const string Write = "write";
}

/// <summary>Why a record is taken back; it stays in the case, struck out.</summary>
public sealed record Withdrawal(string Why, int Version);

public static class WithdrawRoutes
{
    /// <summary>Maps taking back one kind of record, below the address where it is added.</summary>
    public static void MapWithdraw<T>(this RouteGroupBuilder group, string below)
        where T : CaseRecord =>
        group
            .MapPost(
                below + "/{id:guid}/withdraw",
                (Guid caseId, Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
                    recorder.WithdrawAsync<T>(caseId, id, withdrawal, cancel)
            )
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict);
}

/// <summary>
/// Writes one record of a case: a repeated request changes nothing, an update of an old version is a conflict that shows both
/// values, and nothing is deleted.
/// </summary>
public sealed class Recorder(SleuthDb db, IHttpContextAccessor accessor)
{
    public SleuthDb Db
    {
        get
        {
            db.Writer = accessor.HttpContext?.User.FindFirstValue(ClaimTypes.Name) ?? "";
            return db;
        }
    }

    /// <summary>Addresses of a case's engine.</summary>
    public async Task<AddressTable> TableAsync(Guid caseId, CancellationToken cancel)
    {
        var layout = await db.Cases.Where(c => c.Id == caseId).Select(c => c.Layout).SingleOrDefaultAsync(cancel) ?? throw Problems.NotHere("case");
        return new AddressTable(Engine.From(layout));
    }

    /// <summary>Adds a record, or returns the one that stands there already under the same id.</summary>
    public async Task<T> AddAsync<T>(Guid caseId, T record, CancellationToken cancel)
        where T : CaseRecord
    {
        if (record.Id == Guid.Empty)
        {
            throw new ProblemException(new Problem("id", "The record has no id.", "Send a UUID made by the client."));
        }

        if (await StandingAsync<T>(caseId, record.Id, cancel) is { } standing)
        {
            return standing;
        }

        record.CaseId = caseId;
        Db.Add(record);
        try
        {
            await Db.SaveChangesAsync(cancel);
            return record;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // The same request, sent twice at once: the other one won, and its record is the answer.
            db.ChangeTracker.Clear();
            if (await StandingAsync<T>(caseId, record.Id, cancel) is { } other)
            {
                return other;
            }

            throw;
        }
    }

    /// <summary>Changes a record of the given version.</summary>
    /// <exception cref="ConflictException">It has another version by now.</exception>
    public async Task<T> UpdateAsync<T>(Guid caseId, Guid id, int version, object yours, Action<T> change, CancellationToken cancel)
        where T : CaseRecord
    {
        var record = await Find<T>(caseId, id).SingleOrDefaultAsync(cancel) ?? throw Problems.NotHere("record");
        if (record.Version != version)
        {
            throw new ConflictException(yours, record);
        }

        change(record);
        try
        {
            await Db.SaveChangesAsync(cancel);
            return record;
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            throw new ConflictException(yours, await Find<T>(caseId, id).AsNoTracking().SingleAsync(cancel));
        }
    }

    public Task<T> WithdrawAsync<T>(Guid caseId, Guid id, Withdrawal withdrawal, CancellationToken cancel)
        where T : CaseRecord
    {
        if (string.IsNullOrWhiteSpace(withdrawal.Why))
        {
            throw new ProblemException(new Problem("why", "Taking something back needs a reason.", "Write why, in a word or two."));
        }

        return UpdateAsync<T>(
            caseId,
            id,
            withdrawal.Version,
            withdrawal,
            r =>
            {
                r.WithdrawnAt ??= DateTimeOffset.UtcNow;
                r.WithdrawnWhy ??= withdrawal.Why.Trim();
            },
            cancel
        );
    }

    private IQueryable<T> Find<T>(Guid caseId, Guid id)
        where T : CaseRecord =>
        typeof(T) == typeof(EngineCase) ? db.Set<T>().Where(r => r.Id == id) : db.Set<T>().Where(r => r.Id == id && r.CaseId == caseId);

    private Task<T?> StandingAsync<T>(Guid caseId, Guid id, CancellationToken cancel)
        where T : CaseRecord => Find<T>(caseId, id).AsNoTracking().SingleOrDefaultAsync(cancel);
}
