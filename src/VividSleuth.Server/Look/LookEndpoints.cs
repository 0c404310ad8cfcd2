using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
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
        var sign = knowledge.Sign(entry.Sign);
        if (sign is null || sign.Measured)
        {
            throw new ProblemException(
                sign is null
                    ? new Problem("sign", $"“{entry.Sign}” is no sign known here.", "Choose one of those offered.")
                    : new Problem("sign", $"“{sign.Name}” comes from measuring.", "Measure it in Gauge; it becomes a sign by itself.")
            );
        }

        if (!sign.On.Contains(place.Kind.Id))
        {
            throw new ProblemException(
                new Problem("sign", $"“{sign.Name}” is not found on a {place.Kind.Name}.", "Choose a sign that this part can show.")
            );
        }

        if (entry.Seen == Seen.Present ? entry.Level is < 1 or > 3 : entry.Level != 0)
        {
            throw new ProblemException(new Problem("level", "The level does not fit.", "Give 1 to 3 for what is seen, none for what is not there."));
        }

        var finding = new Finding
        {
            Id = entry.Id,
            Place = place.Code,
            Sign = sign.Id,
            Seen = entry.Seen,
            Level = entry.Level,
            Spot = entry.Spot.Trim(),
            Note = entry.Note.Trim(),
        };
        return await recorder.AddAsync(caseId, finding, cancel);
    }

    private static async Task<Photo> AddPhotoAsync(
        Guid caseId,
        [FromForm] Guid id,
        [FromForm] string place,
        [FromForm] string? caption,
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
