using System.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Look;

namespace VividSleuth.Server.Look;

public sealed record FindingEntry(
    Guid Id,
    string Place,
    string Sign,
    Seen Seen,
    int Level,
    string Spot,
    string Note,
    IReadOnlyList<string>? Zones = null,
    IReadOnlyList<Guid>? Marks = null,
    DoneBy DoneBy = DoneBy.Running,
    bool Felt = false,
    double? Chance = null
);

public sealed record PhotoMarkEntry(
    Guid Id,
    Guid Photo,
    PhotoMarkKind Kind,
    double X1,
    double Y1,
    double X2,
    double Y2,
    decimal? Length,
    string Label
);

public sealed record DebrisEntry(
    Guid Id,
    string Place,
    DebrisMaterial Material,
    bool? Hard,
    DebrisColour Colour,
    DebrisForm Form,
    int? Count,
    decimal? Size,
    string Note,
    DoneBy DoneBy = DoneBy.Running
);

public static class LookEndpoints
{
    private const int MostAtOnce = 200;

    public static void MapLook(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("look");
        var writing = api.MapGroup("/cases/{caseId:guid}").WithTags("look").RequireAuthorization(Policies.Write);
        writing.MapPost("/findings", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPost("/findings/many", AddManyAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapWithdraw<Finding>("/findings");
        // What another site sends is refused before it comes here (Gatekeeping).
        writing
            .MapPost("/photos", AddPhotoAsync)
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(PhotoIntake.MostBytes + Gatekeeping.MostBytes))
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapFilePieces("/photos");
        writing.MapWithdraw<Photo>("/photos");
        writing
            .MapGet("/photos/{id:guid}/original", OriginalAsync)
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream")
            .ProducesProblem(StatusCodes.Status404NotFound);
        writing.MapPost("/photo-marks", AddMarkAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapWithdraw<PhotoMark>("/photo-marks");
        writing.MapPost("/debris", AddDebrisAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapWithdraw<Debris>("/debris");
        group.MapGet("/spot", SpotAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapGet("/photos/{id:guid}/{size:regex(^(view|thumb)$)}", PictureAsync)
            .Produces(StatusCodes.Status200OK, contentType: "image/jpeg")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Finding> AddAsync(Guid caseId, FindingEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var finding = Read(entry, await recorder.TableAsync(caseId, cancel), knowledge);
        await CheckMarksAsync(caseId, finding.Marks, recorder, cancel);
        return await recorder.AddAsync(caseId, finding, cancel);
    }

    /// <summary>Several findings at once, all or none: a part that was looked at and is clean, or one sign on all its peers.</summary>
    private static async Task<IReadOnlyList<Finding>> AddManyAsync(
        Guid caseId,
        IReadOnlyList<FindingEntry> entries,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (entries.Count is 0 or > MostAtOnce || entries.Select(e => e.Id).Distinct().Count() != entries.Count)
        {
            throw new ProblemException(
                Problem.Of("findings", "server.findings-cannot-written-once", ("entries", entries.Count), ("mostAtOnce", MostAtOnce))
            );
        }

        var table = await recorder.TableAsync(caseId, cancel);
        var findings = entries.Select(e => Read(e, table, knowledge)).ToArray();
        await CheckMarksAsync(caseId, [.. findings.SelectMany(f => f.Marks)], recorder, cancel);
        return await recorder.AddManyAsync(caseId, findings, cancel);
    }

    private static Finding Read(FindingEntry entry, AddressTable table, KnowledgeBase knowledge)
    {
        if (entry.Id == Guid.Empty)
        {
            throw new ProblemException(Problem.Of("id", "server.record-without-id"));
        }

        var place = table.Parse(entry.Place);
        var finding = new Finding
        {
            Id = entry.Id,
            Place = place.Code,
            Sign = entry.Sign,
            Seen = entry.Seen,
            Level = entry.Level,
            Spot = entry.Spot.Trim(),
            Zones = [.. (entry.Zones ?? []).Distinct(StringComparer.Ordinal)],
            Marks = [.. (entry.Marks ?? []).Distinct()],
            Note = entry.Note.Trim(),
            DoneBy = entry.DoneBy,
            Felt = entry.Felt,
            Chance = entry.Chance,
        };
        return FindingRules.Check(finding, place, table.Engine, knowledge) is { } problem ? throw new ProblemException(problem) : finding;
    }

    private static async Task CheckMarksAsync(Guid caseId, List<Guid> marks, Recorder recorder, CancellationToken cancel)
    {
        if (
            marks.Count > 0
            && await recorder.Db.Set<PhotoMark>().CountAsync(m => m.CaseId == caseId && marks.Contains(m.Id), cancel) < marks.Distinct().Count()
        )
        {
            throw new ProblemException(Problem.Of("marks", "server.finding-points-mark-not-there"));
        }
    }

    private static async Task<Photo> AddPhotoAsync(
        Guid caseId,
        [FromForm] Guid id,
        [FromForm] string place,
        [FromForm] string? caption,
        [FromForm] string? step,
        [FromForm] string? shot,
        [FromForm] string? name,
        [FromForm] int? bytes,
        IFormFile? file,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var address = (await recorder.TableAsync(caseId, cancel)).Parse(place);
        var called = Path.GetFileName(InputRules.Checked(file?.FileName ?? name ?? "", "fileName"));
        if (file?.Length > PhotoIntake.MostBytes)
        {
            throw new ProblemException(
                Problem.Of("file", "server.larger-than-mb", ("name", called), ("mostBytes", PhotoIntake.MostBytes / 1024 / 1024))
            );
        }

        if (shot is { Length: > 0 } && knowledge.ShotsOf(address.Kind.ReadAs).All(s => s.Id != shot))
        {
            throw new ProblemException(Problem.Of("shot", "server.no-such-shot", ("shot", shot), ("kind", address.Kind.Name)));
        }

        var db = recorder.Db;
        if (await db.Set<Photo>().AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && p.CaseId == caseId, cancel) is { } recorded)
        {
            await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
            return recorded;
        }

        var began = Stopwatch.GetTimestamp();
        TakenIn taken;
        if (file is not null)
        {
            await using var stream = file.OpenReadStream();
            taken = await PhotoIntake.TakeAsync(id, called, stream, file.Length, cancel);
        }
        else
        {
            var whole = await FilePieces.WholeAsync(db, caseId, id, db.Writer, bytes ?? 0, cancel) ?? throw new PiecesMissingException(called);
            try
            {
                taken = await PhotoIntake.TakeAsync(id, called, whole, cancel);
            }
            catch (ProblemException)
            {
                // What is no picture does not become one by sending its end again.
                await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
                throw;
            }
        }

        Operation.PictureTime.Record(Operation.Since(began));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.LockAsync(caseId, cancel);
        await db.StoreAsync(taken, cancel);
        var photo = await recorder.AddAsync(
            caseId,
            new Photo
            {
                Id = id,
                Place = address.Code,
                FileName = called,
                Sha256 = taken.Sha256,
                Width = taken.Width,
                Height = taken.Height,
                Bytes = taken.Original.Length,
                Caption = (caption ?? "").Trim(),
                Step = (step ?? "").Trim(),
                Shot = (shot ?? "").Trim(),
            },
            cancel
        );
        await FilePieces.DropAsync(db, caseId, id, db.Writer, cancel);
        await transaction.CommitAsync(cancel);
        return photo;
    }

    private static async Task<PhotoMark> AddMarkAsync(Guid caseId, PhotoMarkEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var mark = new PhotoMark
        {
            Id = entry.Id,
            Photo = entry.Photo,
            Kind = entry.Kind,
            X1 = entry.X1,
            Y1 = entry.Y1,
            X2 = entry.X2,
            Y2 = entry.Y2,
            Length = entry.Length,
            Label = entry.Label.Trim(),
        };
        if (MarkRules.Check(mark) is { } problem)
        {
            throw new ProblemException(problem);
        }

        return await recorder.Db.Set<Photo>().AnyAsync(p => p.Id == entry.Photo && p.CaseId == caseId, cancel)
            ? await recorder.AddAsync(caseId, mark, cancel)
            : throw new ProblemException(Problem.Of("photo", "server.picture-mark-not-there"));
    }

    private static async Task<Debris> AddDebrisAsync(Guid caseId, DebrisEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        if (entry.Count is < 1 or > 1_000_000)
        {
            throw new ProblemException(Problem.Of("count", "server.pieces-cannot", ("entry", entry.Count)));
        }

        if (entry.Size is <= 0 or > 1000)
        {
            throw new ProblemException(Problem.Of("size", "server.mm-cannot", ("size", entry.Size)));
        }

        return await recorder.AddAsync(
            caseId,
            new Debris
            {
                Id = entry.Id,
                Place = place.Code,
                Material = entry.Material,
                Hard = entry.Hard,
                Colour = entry.Colour,
                Form = entry.Form,
                Count = entry.Count,
                Size = entry.Size,
                DoneBy = entry.DoneBy,
                Note = entry.Note.Trim(),
            },
            cancel
        );
    }

    /// <summary>The file as it came from the camera, for who works on the case: it may hold a location, and is given out as a file only.</summary>
    private static async Task<IResult> OriginalAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel)
    {
        var (photo, data) = await OriginalOfAsync(caseId, id, db, cancel);
        return Results.File(data, PictureHead.MediaTypeOf(data), photo.FileName);
    }

    /// <summary>A picture’s record and its file as it came.</summary>
    internal static async Task<(Photo Photo, byte[] File)> OriginalOfAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel)
    {
        var photo = await db.Set<Photo>().AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && p.CaseId == caseId, cancel);
        var data = photo is null
            ? null
            : await db
                .PhotoContents.Where(c => c.PhotoId == id)
                .Join(db.Originals, c => c.Sha256, o => o.Sha256, (_, o) => o.Data)
                .SingleOrDefaultAsync(cancel);
        return data is null ? throw Problems.NotHere("picture") : (photo!, data);
    }

    /// <summary>Where touched zones lie, in words, before the finding is written.</summary>
    /// <param name="zones">Codes with commas between.</param>
    private static async Task<Spot> SpotAsync(Guid caseId, string place, string zones, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var address = reader.Table.Parse(place);
        return Spots.Preview(reader.Case.Findings, reader.Table, address, zones.Split(',', StringSplitOptions.RemoveEmptyEntries))
            ?? throw new ProblemException(Problem.Of("place", "server.no-map", ("kind", address.Kind.Name)));
    }

    private static async Task<IResult> PictureAsync(Guid caseId, Guid id, string size, HttpContext context, SleuthDb db, CancellationToken cancel)
    {
        var contents = db.PhotoContents.Where(c => c.PhotoId == id && db.Set<Photo>().Any(p => p.Id == id && p.CaseId == caseId));
        var bytes = await (size == "thumb" ? contents.Select(c => c.Thumb) : contents.Select(c => c.View)).SingleOrDefaultAsync(cancel);
        if (bytes is null)
        {
            throw Problems.NotHere("picture");
        }

        // A picture never changes under its id.
        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.Bytes(bytes, "image/jpeg");
    }
}
