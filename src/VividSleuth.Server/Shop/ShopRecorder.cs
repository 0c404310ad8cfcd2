using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Store;

namespace VividSleuth.Server.Shop;

/// <summary>What records of the shop have in common: what one was before a change is kept, and nothing is deleted.</summary>
internal static class ShopRecorder
{
    public static Task<List<Change>> ShopChangesAsync(this SleuthDb db, Guid id, CancellationToken cancel) =>
        db.Changes.AsNoTracking().Where(c => c.CaseId == Guid.Empty && c.RecordId == id).OrderByDescending(c => c.At).Take(100).ToListAsync(cancel);

    /// <summary>Takes a record back. One that is taken back already stays as it is, so that a repeated request changes nothing.</summary>
    /// <param name="kind">What it is called, to the person and in the list of changes.</param>
    /// <exception cref="ConflictException">It has another version by now.</exception>
    public static async Task<T> WithdrawFromShopAsync<T>(
        this SleuthDb db,
        string kind,
        Guid id,
        Withdrawal withdrawal,
        CancellationToken cancel,
        Action<T>? change = null
    )
        where T : class, IShopRecord
    {
        var record = await db.Set<T>().SingleOrDefaultAsync(r => r.Id == id, cancel) ?? throw Problems.NotHere(kind);
        if (record.WithdrawnAt is not null)
        {
            return record;
        }

        if (record.Version != withdrawal.Version)
        {
            throw new ConflictException(withdrawal, record);
        }

        var before = Json(record);
        change?.Invoke(record);
        record.WithdrawnAt = db.Now();
        record.WithdrawnBy = db.Writer;
        record.Version++;
        db.Keep(kind, id, before);
        return await db.SaveOnceAsync(
            record,
            // The same request, sent twice at once: the other one won.
            theirs => theirs.WithdrawnAt is not null,
            theirs => new ConflictException(withdrawal, theirs),
            cancel
        );
    }

    /// <summary>Gives a record its next version, and keeps what it was before.</summary>
    /// <param name="before">The record as JSON; null where there was none.</param>
    public static void StampForShop(this SleuthDb db, string kind, IShopRecord record, string? before)
    {
        record.Version++;
        record.At = db.Now();
        record.By = db.Writer;
        db.Keep(kind, record.Id, before);
    }

    /// <summary>
    /// Saves a record of the shop. Of two equal requests at the same instant one is written, and both are answered with what stands then.
    /// </summary>
    /// <param name="isThis">Whether what stands there is what this request would have written.</param>
    /// <param name="lost">What to throw where it is not.</param>
    public static async Task<T> SaveOnceAsync<T>(this SleuthDb db, T record, Func<T, bool> isThis, Func<T, Exception> lost, CancellationToken cancel)
        where T : class, IShopRecord
    {
        var id = record.Id;
        try
        {
            await db.SaveChangesAsync(cancel);
            return record;
        }
        catch (DbUpdateException e)
            when (e is DbUpdateConcurrencyException || e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            db.ChangeTracker.Clear();
            var theirs = await db.Set<T>().AsNoTracking().SingleOrDefaultAsync(r => r.Id == id, cancel);
            if (theirs is null)
            {
                throw;
            }

            return isThis(theirs) ? theirs : throw lost(theirs);
        }
    }

    /// <summary>A record as the list of changes keeps it.</summary>
    public static string Json(object record) => JsonSerializer.Serialize(record, CaseFile.Json);
}
