using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Store;
using VividSleuth.Store.Look;

namespace VividSleuth.Server.Look;

public sealed record FindingEntry(Guid Id, string Place, string Sign, Seen Seen, int Level, string Spot, string Note);

public static class LookEndpoints
{
    public static void MapLook(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("look");
        group.MapPost("/findings", AddAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Finding>("/findings");
        // The cookie is SameSite=Strict, so a form of another site is never signed in.
        group
            .MapPost("/photos", AddPhotoAsync)
            .DisableAntiforgery()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Photo>("/photos");
        group
            .MapGet("/photos/{id:guid}/{size:regex(^(view|thumb)$)}", PictureAsync)
            .Produces(StatusCodes.Status200OK, contentType: "image/jpeg")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Finding> AddAsync(Guid caseId, FindingEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        var finding = new Finding
        {
            Id = entry.Id,
            Place = place.Code,
            Sign = entry.Sign,
            Seen = entry.Seen,
            Level = entry.Level,
            Spot = entry.Spot.Trim(),
            Note = entry.Note.Trim(),
        };
        return FindingRules.Check(finding, place, knowledge) is { } problem
            ? throw new ProblemException(problem)
            : await recorder.AddAsync(caseId, finding, cancel);
    }

    private static async Task<Photo> AddPhotoAsync(
        Guid caseId,
        [FromForm] Guid id,
        [FromForm] string place,
        [FromForm] string? caption,
        [FromForm] string? step,
        IFormFile file,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var address = (await recorder.TableAsync(caseId, cancel)).Parse(place);
        if (file.Length > PhotoIntake.MostBytes)
        {
            throw new ProblemException(
                new Problem("file", $"{file.FileName} is larger than {PhotoIntake.MostBytes / 1024 / 1024} MB.", "Send a smaller copy.")
            );
        }

        var db = recorder.Db;
        if (await db.Set<Photo>().AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && p.CaseId == caseId, cancel) is { } standing)
        {
            return standing;
        }

        var data = new byte[file.Length];
        await using (var stream = file.OpenReadStream())
        {
            await stream.ReadExactlyAsync(data, cancel);
        }

        var taken = PhotoIntake.Take(id, Path.GetFileName(file.FileName), data);
        db.PhotoContents.Add(taken.Content);
        var photo = new Photo
        {
            Id = id,
            Place = address.Code,
            FileName = Path.GetFileName(file.FileName),
            Sha256 = taken.Sha256,
            Width = taken.Width,
            Height = taken.Height,
            Bytes = data.Length,
            Caption = (caption ?? "").Trim(),
            Step = (step ?? "").Trim(),
        };
        return await recorder.AddAsync(caseId, photo, cancel);
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
