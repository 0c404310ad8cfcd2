using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Sounds;
using VividSleuth.Store;
using VividSleuth.Store.Arrival;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Arrival;

/// <summary>Under what a recording was made, as somebody corrects it.</summary>
/// <param name="Rpm">Revolutions per minute; null where it is to be found.</param>
/// <param name="Pickup">Cylinder at whose line the clamp of the second channel sat; 0 without one.</param>
/// <param name="CutOut">Cylinder that was cut out; 0 where all ran.</param>
public sealed record SoundEntry(double? Rpm, int Pickup, int CutOut, HeardAt Where, HeardLoad Load, HeardWarmth Warmth, int Version);

/// <summary>Recordings of the engine: taken in whole or in pieces, kept as they came, and listened to as often as somebody wishes.</summary>
public static class SoundEndpoints
{
    public static void MapSounds(this RouteGroupBuilder api)
    {
        var writing = api.MapGroup("/cases/{caseId:guid}").WithTags("arrival").RequireAuthorization(Policies.Write);
        // What another site sends is refused before it comes here (Gatekeeping).
        writing
            .MapPost("/sounds", AddAsync)
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(SoundWave.MostBytes + Gatekeeping.MostBytes))
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapFilePieces("/sounds");
        writing
            .MapPut("/sounds/{id:guid}", ChangeAsync)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapWithdraw<Sound>("/sounds");
        writing
            .MapGet("/sounds/{id:guid}/wave", WaveAsync)
            .Produces(StatusCodes.Status200OK, contentType: "audio/wav")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Sound> AddAsync(
        Guid caseId,
        [FromForm] Guid id,
        [FromForm] double? rpm,
        [FromForm] int? pickup,
        [FromForm] int? cutOut,
        [FromForm] string? where,
        [FromForm] string? load,
        [FromForm] string? warmth,
        [FromForm] string? name,
        [FromForm] int? bytes,
        IFormFile? file,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var engine = (await recorder.TableAsync(caseId, cancel)).Engine;
        var called = Path.GetFileName(InputRules.Checked(file?.FileName ?? name ?? "", "fileName"));
        var db = recorder.Db;
        if (await db.Set<Sound>().AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && s.CaseId == caseId, cancel) is { } recorded)
        {
            await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
            return recorded;
        }

        var sound = new Sound { Id = id, FileName = called };
        Fill(
            sound,
            new SoundEntry(
                rpm,
                pickup ?? 0,
                cutOut ?? 0,
                Read<HeardAt>("where", where),
                Read<HeardLoad>("load", load),
                Read<HeardWarmth>("warmth", warmth),
                0
            ),
            engine
        );
        byte[] data;
        if (file is not null)
        {
            using var memory = new MemoryStream();
            await file.CopyToAsync(memory, cancel);
            data = memory.ToArray();
        }
        else
        {
            data = await FilePieces.WholeAsync(db, caseId, id, db.Writer, bytes ?? 0, cancel) ?? throw new PiecesMissingException(called);
        }

        try
        {
            var recording = await SoundWave.ReckonAsync(() => SoundWave.Read(data), cancel);
            (sound.Seconds, sound.Rate, sound.Channels) = (Math.Round(recording.Seconds, 2), recording.Rate, recording.Pickup is null ? 1 : 2);
        }
        catch (ProblemException)
        {
            // What is no recording does not become one by sending its end again.
            await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
            throw;
        }

        sound.Bytes = data.Length;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.LockAsync(caseId, cancel);
        sound.Sha256 = await db.StoreOriginalAsync(data, cancel);
        var added = await recorder.AddAsync(caseId, sound, cancel);
        await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
        await transaction.CommitAsync(cancel);
        return added;
    }

    private static async Task<Sound> ChangeAsync(Guid caseId, Guid id, SoundEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var engine = (await recorder.TableAsync(caseId, cancel)).Engine;
        return await recorder.UpdateAsync<Sound>(caseId, id, entry.Version, entry, s => Fill(s, entry, engine), cancel);
    }

    private static T Read<T>(string field, string? given)
        where T : struct, Enum =>
        string.IsNullOrEmpty(given) ? default
        : Enum.TryParse<T>(given, ignoreCase: true, out var known) && Enum.IsDefined(known) ? known
        : throw new ProblemException(Problem.Of(field, "server.no-such-condition", ("given", given), ("join", Enum.GetNames<T>())));

    private static void Fill(Sound sound, SoundEntry entry, Engine engine)
    {
        if (entry.Rpm is not null and not (>= CrankTrack.LeastRpm and <= CrankTrack.MostRpm))
        {
            throw new ProblemException(Problem.Of("rpm", "server.rpm-cannot", ("least", CrankTrack.LeastRpm), ("most", CrankTrack.MostRpm)));
        }

        var most = engine.Cylinders.Count;
        foreach (var (field, cylinder) in new[] { ("pickup", entry.Pickup), ("cutOut", entry.CutOut) })
        {
            if (cylinder < 0 || cylinder > most)
            {
                throw new ProblemException(Problem.Of(field, "server.no-such-cylinder", ("cylinder", cylinder), ("most", most)));
            }
        }

        (sound.Rpm, sound.Pickup, sound.CutOut) = (entry.Rpm, entry.Pickup, entry.CutOut);
        (sound.Where, sound.Load, sound.Warmth) = (entry.Where, entry.Load, entry.Warmth);
    }

    private static async Task<IResult> WaveAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel)
    {
        var found = await db.Set<Sound>()
            .Where(s => s.Id == id && s.CaseId == caseId)
            .Join(db.Originals, s => s.Sha256, o => o.Sha256, (s, o) => new { s.FileName, o.Data })
            .SingleOrDefaultAsync(cancel);
        return found is null
            ? throw Problems.NotHere("recording")
            : Results.File(found.Data, "audio/wav", found.FileName, enableRangeProcessing: true);
    }
}
