using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Store.Look;

namespace VividSleuth.Store.Cases;

/// <summary>Reads and writes whole cases.</summary>
public static class CaseStore
{
    /// <summary>A case with all its records; null where there is none.</summary>
    public static Task<EngineCase?> LoadAsync(this SleuthDb db, Guid id, CancellationToken cancel) =>
        db
            .Cases.AsNoTracking()
            .AsSplitQuery()
            .Include(c => c.Parts.OrderBy(r => r.Id))
            .Include(c => c.Steps.OrderBy(r => r.Id))
            .Include(c => c.Findings.OrderBy(r => r.Id))
            .Include(c => c.Photos.OrderBy(r => r.Id))
            .Include(c => c.Readings.OrderBy(r => r.Id))
            .Include(c => c.Limits.OrderBy(r => r.Id))
            .Include(c => c.Verdicts.OrderBy(r => r.Id))
            .Include(c => c.Conclusions.OrderBy(r => r.Id))
            .SingleOrDefaultAsync(c => c.Id == id, cancel);

    /// <summary>The case as a file, with pictures and changes.</summary>
    public static async Task<CaseFile?> ExportAsync(this SleuthDb db, Guid id, CancellationToken cancel)
    {
        if (await db.LoadAsync(id, cancel) is not { } engineCase)
        {
            return null;
        }

        var photos = engineCase.Photos.Select(p => p.Id).ToArray();
        var used = engineCase.Readings.Select(r => r.Instrument).Distinct().ToArray();
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
        foreach (var picture in file.Pictures)
        {
            var photo = file.Case.Photos.Single(p => p.Id == picture.Photo);
            var taken = PhotoIntake.Take(photo.Id, photo.FileName, picture.Data);
            photo.Width = taken.Width;
            photo.Height = taken.Height;
            db.PhotoContents.Add(taken.Content);
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
        }
        finally
        {
            db.KeepStamps = false;
        }
    }
}
