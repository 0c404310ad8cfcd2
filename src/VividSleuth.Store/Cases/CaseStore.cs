using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;
using VividSleuth.Store.Look;

namespace VividSleuth.Store.Cases;

/// <summary>Reads and writes whole cases.</summary>
public static class CaseStore
{
    /// <summary>A case with all its records, in the order of their ids; null where there is none.</summary>
    public static async Task<EngineCase?> LoadAsync(this SleuthDb db, Guid id, CancellationToken cancel)
    {
        // One query a kind, each by its index, over one connection: half the time of Include, which joins each to the case again.
        await db.Database.OpenConnectionAsync(cancel);
        await using var _ = new Closing(db);
        if (await db.Cases.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) is not { } engineCase)
        {
            return null;
        }

        engineCase.Parts = await Of<Part>();
        engineCase.Steps = await Of<StepRecord>();
        engineCase.OwnSteps = await Of<OwnStep>();
        engineCase.StepMarks = await Of<StepMark>();
        engineCase.FastenerMoves = await Of<FastenerMove>();
        engineCase.SignOffs = await Of<SignOff>();
        engineCase.Renumberings = await Of<Renumbering>();
        engineCase.Findings = await Of<Finding>();
        engineCase.Photos = await Of<Photo>();
        engineCase.PhotoMarks = await Of<PhotoMark>();
        engineCase.Debris = await Of<Debris>();
        engineCase.Readings = await Of<Reading>();
        engineCase.Limits = await Of<Limit>();
        engineCase.Verdicts = await Of<PartVerdict>();
        engineCase.Conclusions = await Of<Conclusion>();
        return engineCase;

        async Task<List<T>> Of<T>()
            where T : CaseRecord
        {
            var records = new List<T>();
            await foreach (var record in RecordsOf<T>.Query(db, id).WithCancellation(cancel))
            {
                records.Add(record);
            }

            return records;
        }
    }

    /// <summary>Compiled once a kind: working the same nine queries out anew took longer than running them.</summary>
    private static class RecordsOf<T>
        where T : CaseRecord
    {
        public static readonly Func<SleuthDb, Guid, IAsyncEnumerable<T>> Query = EF.CompileAsyncQuery<SleuthDb, Guid, T>(
            (SleuthDb db, Guid id) => db.Set<T>().AsNoTracking().Where(r => r.CaseId == id).OrderBy(r => r.Id)
        );
    }

    /// <summary>The case as a file, with pictures and changes.</summary>
    public static async Task<CaseFile?> ExportAsync(this SleuthDb db, Guid id, CancellationToken cancel)
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
            Pictures = await db
                .PhotoContents.AsNoTracking()
                .Where(c => photos.Contains(c.PhotoId))
                .OrderBy(c => c.PhotoId)
                .Select(c => new Picture(c.PhotoId, "image/jpeg", c.View))
                .ToListAsync(cancel),
            Changes = await db.Changes.AsNoTracking().Where(c => c.CaseId == id).OrderBy(c => c.At).ThenBy(c => c.Id).ToListAsync(cancel),
        };
    }

    /// <summary>
    /// Puts a case file in as a new case. Its records keep who wrote them and when; its pictures are taken in again, so that a file
    /// cannot bring anything but pictures. All or nothing.
    /// </summary>
    public static async Task ImportAsync(this SleuthDb db, CaseFile file, CancellationToken cancel)
    {
        await using var transaction = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(cancel) : null;
        foreach (var picture in file.Pictures)
        {
            var photo = file.Case.Photos.Single(p => p.Id == picture.Photo);
            var taken = PhotoIntake.Take(photo.Id, photo.FileName, picture.Data);
            photo.Width = taken.Width;
            photo.Height = taken.Height;
            await db.StoreAsync(taken, cancel);
        }

        var names = await db.Instruments.Select(i => i.Name).ToListAsync(cancel);
        foreach (var instrument in file.Instruments.Where(i => !names.Contains(i.Name, StringComparer.OrdinalIgnoreCase)))
        {
            instrument.Id = Guid.CreateVersion7();
            db.Instruments.Add(instrument);
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
                At = DateTimeOffset.UtcNow,
                By = db.Writer,
            }
        );
        db.KeepStamps = true;
        try
        {
            await db.SaveChangesAsync(cancel);
            await (transaction?.CommitAsync(cancel) ?? Task.CompletedTask);
        }
        finally
        {
            db.KeepStamps = false;
        }
    }

    private sealed class Closing(SleuthDb db) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync() => await db.Database.CloseConnectionAsync();
    }
}
