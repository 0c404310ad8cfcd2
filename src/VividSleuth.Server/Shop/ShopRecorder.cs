using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Measures;
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
    public static async Task<T> WithdrawFromShopAsync<T>(this SleuthDb db, string kind, Guid id, Withdrawal withdrawal, CancellationToken cancel)
        where T : class, IShopRecord
    {
        var record = await db.Set<T>().FindAsync([id], cancel) ?? throw Problems.NotHere(kind);
        if (record.WithdrawnAt is not null)
        {
            return record;
        }

        if (record.Version != withdrawal.Version)
        {
            throw new ConflictException(withdrawal, record);
        }

        var before = JsonSerializer.Serialize(record, CaseFile.Json);
        record.WithdrawnAt = db.Now();
        db.StampForShop(kind, record, before);
        await db.SaveChangesAsync(cancel);
        return record;
    }

    /// <summary>Gives a record its next version, and keeps what it was before.</summary>
    /// <param name="before">The record as JSON; null where there was none.</param>
    public static void StampForShop(this SleuthDb db, string kind, IShopRecord record, string? before)
    {
        record.Version++;
        record.At = db.Now();
        record.By = db.Writer;
        db.Changes.Add(
            new Change
            {
                Id = Guid.CreateVersion7(),
                CaseId = Guid.Empty,
                Kind = kind,
                RecordId = record.Id,
                At = record.At,
                By = record.By,
                Before = before,
            }
        );
    }
}
