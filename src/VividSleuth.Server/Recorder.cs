using System.Globalization;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Index;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

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
public sealed class Recorder(SleuthDb db, CaseDesk desk, IHttpContextAccessor accessor)
{
    /// <summary>Request header that says when a thing was entered that could not be sent at once.</summary>
    public const string EnteredHeader = "X-Entered-At";

    public SleuthDb Db
    {
        get
        {
            db.Writer = accessor.HttpContext?.User.FindFirstValue(ClaimTypes.Name) ?? "";
            var entered = accessor.HttpContext?.Request.Headers[EnteredHeader].ToString();
            db.EnteredAt = DateTimeOffset.TryParse(entered, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at) ? at : null;
            return db;
        }
    }

    /// <summary>Addresses of a case's engine.</summary>
    public async Task<AddressTable> TableAsync(Guid caseId, CancellationToken cancel) => (await desk.OpenAsync(caseId, cancel)).Table;

    /// <summary>Adds a record, or returns the one that stands there already under the same id.</summary>
    public async Task<T> AddAsync<T>(Guid caseId, T record, CancellationToken cancel)
        where T : CaseRecord
    {
        if (record.Id == Guid.Empty)
        {
            throw new ProblemException(Problem.Of("id", "server.record-without-id"));
        }

        if (await RecordedAsync<T>(caseId, record.Id, cancel) is { } recorded)
        {
            return recorded;
        }

        record.CaseId = caseId;
        Db.Add(record);
        try
        {
            await Db.SaveChangesAsync(cancel);
            Written(record);
            return record;
        }
        catch (Exception e)
            when (e is DbUpdateException { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } or ProblemException)
        {
            // The same request, sent twice at once: the other one won, and its record is the answer. It may have been written while this one waited for
            // the case, and the numbering changed after it.
            db.ChangeTracker.Clear();
            if (await RecordedAsync<T>(caseId, record.Id, cancel) is { } other)
            {
                return other;
            }

            throw;
        }
    }

    /// <summary>How many of these stand in the case already.</summary>
    public Task<int> CountAsync<T>(Guid caseId, Guid[] ids, CancellationToken cancel)
        where T : CaseRecord => db.Set<T>().CountAsync(r => r.CaseId == caseId && ids.Contains(r.Id), cancel);

    /// <summary>Adds records together, all or none; those that stand already are left as they are. Answers with all of them.</summary>
    public async Task<IReadOnlyList<T>> AddManyAsync<T>(Guid caseId, IReadOnlyList<T> records, CancellationToken cancel)
        where T : CaseRecord
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.LockAsync(caseId, cancel);
        return await AddRestAsync(caseId, records, await StandingAsync(caseId, records, cancel), transaction, cancel);
    }

    /// <summary>As <see cref="AddManyAsync"/>, after a rule that looks at the whole case has let all of them pass.</summary>
    /// <param name="check">All that is wrong with them, or nothing.</param>
    public async Task<IReadOnlyList<T>> AddManyCheckedAsync<T>(
        Guid caseId,
        IReadOnlyList<T> records,
        Func<CaseReader, IEnumerable<Problem>> check,
        CancellationToken cancel
    )
        where T : CaseRecord
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        var recorded = await StandingAsync(caseId, records, cancel);
        // What stands already was let pass when it was written.
        return recorded.Count < records.Count && check(reader).ToArray() is { Length: > 0 } problems
            ? throw new ProblemException(problems)
            : await AddRestAsync(caseId, records, recorded, transaction, cancel);
    }

    private Task<List<T>> StandingAsync<T>(Guid caseId, IReadOnlyList<T> records, CancellationToken cancel)
        where T : CaseRecord
    {
        var ids = records.Select(r => r.Id).ToArray();
        return db.Set<T>().AsNoTracking().Where(r => r.CaseId == caseId && ids.Contains(r.Id)).ToListAsync(cancel);
    }

    private async Task<IReadOnlyList<T>> AddRestAsync<T>(
        Guid caseId,
        IReadOnlyList<T> records,
        List<T> recorded,
        IDbContextTransaction transaction,
        CancellationToken cancel
    )
        where T : CaseRecord
    {
        var known = recorded.Select(r => r.Id).ToHashSet();
        foreach (var record in records.Where(r => !known.Contains(r.Id)))
        {
            record.CaseId = caseId;
            Db.Add(record);
            recorded.Add(record);
        }

        await Db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return recorded;
    }

    /// <summary>Verdicts that were given at one touch and stand.</summary>
    public Task<List<PartVerdict>> TogetherAsync(Guid caseId, Guid together, CancellationToken cancel) =>
        db.Set<PartVerdict>().AsNoTracking().Where(v => v.CaseId == caseId && v.Together == together && v.WithdrawnAt == null).ToListAsync(cancel);

    /// <summary>
    /// Adds a record after a rule that looks at the whole case has let it pass. One at a time for each case, over all instances, so
    /// that two who count the same bolts at once cannot both be right.
    /// </summary>
    /// <param name="check">What is wrong with it, or null.</param>
    public Task<T> AddCheckedAsync<T>(Guid caseId, T record, Func<CaseReader, Problem?> check, CancellationToken cancel)
        where T : CaseRecord => AddCheckedAsync(caseId, record, r => check(r) is { } problem ? [problem] : Array.Empty<Problem>(), cancel);

    /// <inheritdoc cref="AddCheckedAsync{T}(Guid, T, Func{CaseReader, Problem?}, CancellationToken)"/>
    /// <param name="check">All that is wrong with it, or nothing.</param>
    public async Task<T> AddCheckedAsync<T>(Guid caseId, T record, Func<CaseReader, IEnumerable<Problem>> check, CancellationToken cancel)
        where T : CaseRecord
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        if (await RecordedAsync<T>(caseId, record.Id, cancel) is { } recorded)
        {
            return recorded;
        }

        if (check(reader).ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        var added = await AddAsync(caseId, record, cancel);
        await transaction.CommitAsync(cancel);
        Written(added);
        return added;
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
            Written(record);
            return record;
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            throw new ConflictException(yours, await Find<T>(caseId, id).AsNoTracking().SingleAsync(cancel));
        }
    }

    /// <summary>Changes a record after a rule that looks at the whole case, and at the record as it would be, has let it pass.</summary>
    /// <param name="check">What is wrong with it, or nothing.</param>
    public async Task<T> UpdateCheckedAsync<T>(
        Guid caseId,
        Guid id,
        int version,
        object yours,
        Action<T> change,
        Func<CaseReader, T, IEnumerable<Problem>> check,
        CancellationToken cancel
    )
        where T : CaseRecord
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        var changed = await UpdateAsync<T>(
            caseId,
            id,
            version,
            yours,
            r =>
            {
                change(r);
                if (check(reader, r).ToArray() is { Length: > 0 } problems)
                {
                    db.ChangeTracker.Clear();
                    throw new ProblemException(problems);
                }
            },
            cancel
        );
        await transaction.CommitAsync(cancel);
        Written(changed);
        return changed;
    }

    /// <summary>Moves every record of a case to its address in another numbering or layout. Called with the case locked.</summary>
    /// <param name="yours">What was asked for, for whoever lost a race.</param>
    /// <param name="change">Moves the records, and says what moved.</param>
    public async Task MoveAsync(Guid caseId, Guid id, int version, object yours, Func<EngineCase, Renumbering> change, CancellationToken cancel)
    {
        var engineCase = await db.Cases.SingleOrDefaultAsync(c => c.Id == caseId, cancel) ?? throw Problems.NotHere("case");
        if (engineCase.Version != version)
        {
            throw new ConflictException(yours, engineCase);
        }

        // Tracking puts each into the lists of the case.
        await db.Set<Candidate>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Part>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Stow>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<StepRecord>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Finding>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Photo>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Sound>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Debris>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Reading>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<PartVerdict>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Examination>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<Conclusion>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        await db.Set<OrderLine>().Where(r => r.CaseId == caseId).LoadAsync(cancel);
        db.KeepWriters = true;
        var renumbering = change(engineCase);
        renumbering.Id = id;
        renumbering.CaseId = caseId;
        Db.Add(renumbering);
        db.ChangeTracker.DetectChanges();

        // Two parts that change places would break “one standing tag to a place” on the way: their places are written last, at once.
        var moved = engineCase.Parts.Where(p => db.Entry(p).Property(x => x.Place).IsModified).Select(p => (p.Id, p.Place)).ToArray();
        foreach (var part in engineCase.Parts)
        {
            db.Entry(part).Property(p => p.Place).IsModified = false;
        }

        await db.SaveChangesAsync(cancel);
        foreach (var (part, place) in moved)
        {
            await db.Database.ExecuteSqlAsync($"""update parts set "Place" = '~' || {place} where "Id" = {part}""", cancel);
        }

        await db.Database.ExecuteSqlAsync(
            $"""update parts set "Place" = substr("Place", 2) where "CaseId" = {caseId} and "Place" like '~%'""",
            cancel
        );
        db.ChangeTracker.Clear();
    }

    /// <summary>Takes a record back. One that is taken back already stays as it is, so that a repeated request changes nothing.</summary>
    public async Task<T> WithdrawAsync<T>(Guid caseId, Guid id, Withdrawal withdrawal, CancellationToken cancel)
        where T : CaseRecord
    {
        if (string.IsNullOrWhiteSpace(withdrawal.Why))
        {
            throw new ProblemException(Problem.Of("why", "server.taking-something-back-needs-reason"));
        }

        if (await RecordedAsync<T>(caseId, id, cancel) is { WithdrawnAt: not null } gone)
        {
            return gone;
        }

        try
        {
            return await UpdateAsync<T>(
                caseId,
                id,
                withdrawal.Version,
                withdrawal,
                r =>
                {
                    r.WithdrawnAt ??= db.Now();
                    r.WithdrawnWhy ??= withdrawal.Why.Trim();
                },
                cancel
            );
        }
        catch (ConflictException e) when (e.Theirs is T { WithdrawnAt: not null } other)
        {
            // The same request, sent twice at once: the other one won, and its record is the answer.
            return other;
        }
    }

    /// <summary>Takes a record back after a rule that looks at the whole case has let it go.</summary>
    /// <param name="check">What speaks against it, or null.</param>
    public async Task<T> WithdrawCheckedAsync<T>(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Func<CaseReader, T, Problem?> check,
        CancellationToken cancel
    )
        where T : CaseRecord
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        if (await RecordedAsync<T>(caseId, id, cancel) is { WithdrawnAt: null } stands && check(reader, stands) is { } problem)
        {
            throw new ProblemException(problem);
        }

        var withdrawn = await WithdrawAsync<T>(caseId, id, withdrawal, cancel);
        await transaction.CommitAsync(cancel);
        Written(withdrawn);
        return withdrawn;
    }

    /// <summary>Only once it is committed: what is taken back with its transaction must not be taken for written.</summary>
    private void Written(CaseRecord record)
    {
        if (db.Database.CurrentTransaction is null)
        {
            desk.Wrote(record);
        }
    }

    private IQueryable<T> Find<T>(Guid caseId, Guid id)
        where T : CaseRecord =>
        typeof(T) == typeof(EngineCase) ? db.Set<T>().Where(r => r.Id == id) : db.Set<T>().Where(r => r.Id == id && r.CaseId == caseId);

    private Task<T?> RecordedAsync<T>(Guid caseId, Guid id, CancellationToken cancel)
        where T : CaseRecord => Find<T>(caseId, id).AsNoTracking().SingleOrDefaultAsync(cancel);
}
