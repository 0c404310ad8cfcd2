using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Store.Look;

namespace VividSleuth.Store.Cases;

/// <summary>Reads and writes whole cases.</summary>
public static class CaseStore
{
    /// <summary>A case with all its records, in the order of their ids; null where there is none.</summary>
    public static Task<EngineCase?> LoadAsync(this SleuthDb db, Guid id, CancellationToken cancel) => CaseQuery.ReadAsync(db, id, cancel);

    /// <summary>In one statement: the revision of the shop, and the stamp of a case where one is asked for and there.</summary>
    public static async Task<(long Shop, CaseStamp? Case)> StampAsync(this SleuthDb db, Guid? id, CancellationToken cancel)
    {
        var row = await db
            .Database.SqlQuery<Stamps>(
                $"""
                select h."Revision" as "Shop", s."Revision", s."Numbering", c."Lengths"
                from shop_state h left join case_states s on s."CaseId" = {id} left join cases c on c."Id" = s."CaseId"
                """
            )
            .ToListAsync(cancel);
        return (row[0].Shop, row[0].Revision is { } revision ? StampOf(revision, row[0].Numbering!.Value, row[0].Lengths) : null);
    }

    /// <summary>Holds a case until the transaction ends: no other write to it goes on meanwhile, over all instances.</summary>
    /// <exception cref="NotHereException">There is no such case.</exception>
    public static async Task<CaseStamp> LockAsync(this SleuthDb db, Guid id, CancellationToken cancel)
    {
        var stamps = await db
            .Database.SqlQuery<Locked>(
                $"""
                select s."Revision", s."Numbering", c."Lengths"
                from case_states s join cases c on c."Id" = s."CaseId" where s."CaseId" = {id} for update of s
                """
            )
            .ToListAsync(cancel);
        if (stamps.Count == 0)
        {
            throw new NotHereException("case");
        }

        // Refused when it comes to writing: what is sent again may stand already.
        db.KnowsOldNumbering |= db.KnownNumbering is { } known && known != stamps[0].Numbering;
        return StampOf(stamps[0].Revision, stamps[0].Numbering, stamps[0].Lengths);
    }

    /// <summary>The case as a file, with changes.</summary>
    /// <param name="pictures">With its pictures; without them where their originals go along.</param>
    /// <returns>Null where there is none.</returns>
    public static async Task<CaseFile?> ExportAsync(this SleuthDb db, Guid id, CancellationToken cancel, bool pictures = true)
    {
        if (await db.LoadAsync(id, cancel) is not { } engineCase)
        {
            return null;
        }

        var photos = engineCase.Photos.Select(p => p.Id).ToArray();
        var used = engineCase.Readings.Select(r => r.Instrument).Distinct().ToList();
        // The one that a bore gauge was set with belongs to its readings too.
        used.AddRange(await db.Instruments.Where(i => used.Contains(i.Name) && i.SetWith != "").Select(i => i.SetWith).ToListAsync(cancel));
        return new CaseFile
        {
            Case = engineCase,
            Instruments = await db.Instruments.AsNoTracking().Where(i => used.Contains(i.Name)).OrderBy(i => i.Name).ToListAsync(cancel),
            Pictures = pictures
                ? await db
                    .PhotoContents.AsNoTracking()
                    .Where(c => photos.Contains(c.PhotoId))
                    .OrderBy(c => c.PhotoId)
                    .Select(c => new Picture(c.PhotoId, "image/jpeg", c.View))
                    .ToListAsync(cancel)
                : [],
            Changes = await db.Changes.AsNoTracking().Where(c => c.CaseId == id).OrderBy(c => c.At).ThenBy(c => c.Id).ToListAsync(cancel),
        };
    }

    /// <summary>
    /// Puts a case file in as a new case. Its records keep who wrote them and when; its pictures are taken in again, so that a file
    /// cannot bring anything but pictures. All or nothing.
    /// </summary>
    /// <param name="file">Its pictures may be without their data where they lie elsewhere.</param>
    /// <param name="data">Gives the data of one of its pictures, which is let go of before the next; without it the file's own is taken.</param>
    /// <param name="recording">Gives a recording by its SHA-256, or null where it did not come along; without it none did.</param>
    public static async Task ImportAsync(
        this SleuthDb db,
        CaseFile file,
        CancellationToken cancel,
        Func<Picture, Task<byte[]>>? data = null,
        Func<string, Task<byte[]?>>? recording = null
    )
    {
        await using var transaction = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(cancel) : null;
        var names = await db.Instruments.Select(i => i.Name).ToListAsync(cancel);
        foreach (
            var instrument in file
                .Instruments.DistinctBy(i => i.Name, StringComparer.OrdinalIgnoreCase)
                .Where(i => !names.Contains(i.Name, StringComparer.OrdinalIgnoreCase))
        )
        {
            instrument.Id = Guid.CreateVersion7();
            db.Instruments.Add(instrument);
            db.Keep("instrument", instrument.Id, before: null);
        }

        db.Cases.Add(file.Case);
        db.Changes.AddRange(file.Changes);
        db.Changes.Add(
            new Change
            {
                Id = Guid.CreateVersion7(),
                CaseId = file.Case.Id,
                Kind = "import",
                RecordId = file.Case.Id,
                At = db.Now(),
                By = db.Writer,
            }
        );
        db.KeepStamps = true;
        try
        {
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
            foreach (var picture in file.Pictures)
            {
                var photo = file.Case.Photos.Single(p => p.Id == picture.Photo);
                var taken = await PhotoIntake.TakeAsync(photo.Id, photo.FileName, data is null ? picture.Data : await data(picture), cancel);
                await db.StoreAsync(taken, cancel);
                await db.SaveChangesAsync(cancel);
                db.ChangeTracker.Clear();
                if ((photo.Width, photo.Height) != (taken.Width, taken.Height))
                {
                    (photo.Width, photo.Height) = (taken.Width, taken.Height);
                    await db.Set<Photo>()
                        .Where(p => p.Id == photo.Id)
                        .ExecuteUpdateAsync(p => p.SetProperty(x => x.Width, taken.Width).SetProperty(x => x.Height, taken.Height), cancel);
                }
            }

            foreach (var sha256 in file.Case.Sounds.Select(s => s.Sha256).Distinct(StringComparer.Ordinal))
            {
                if (recording is not null && await recording(sha256) is { } wave)
                {
                    await db.StoreOriginalAsync(wave, cancel);
                }
            }

            await (transaction?.CommitAsync(cancel) ?? Task.CompletedTask);
        }
        finally
        {
            db.KeepStamps = false;
        }
    }

    // A query without a model reads an enumeration as a number; the column holds its name.
    private static CaseStamp StampOf(long revision, int numbering, string? lengths) =>
        new(revision, numbering, lengths is null ? null : Enum.Parse<LengthUnit>(lengths));

    private sealed record Stamps(long Shop, long? Revision, int? Numbering, string? Lengths);

    private sealed record Locked(long Revision, int Numbering, string? Lengths);
}
