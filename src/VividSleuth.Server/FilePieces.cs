using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Look;

namespace VividSleuth.Server;

/// <summary>How much of a file is here.</summary>
public sealed record PiecesHere(int Received);

/// <summary>Pieces of a file are missing: whoever sends it begins again with what is here.</summary>
public sealed class PiecesMissingException(string fileName) : Exception
{
    public string FileName => fileName;
}

/// <summary>
/// Pictures and recordings that come in pieces: over a bad line each piece that has come stays, and the next try goes on behind it. The pieces are one
/// person's, and are let go when the file is taken in or nobody has sent more for two weeks.
/// </summary>
public static class FilePieces
{
    private static readonly TimeSpan Kept = TimeSpan.FromDays(14);

    /// <summary>Pieces that one person may have under way.</summary>
    private const long MostOfAPerson = 10 * PhotoIntake.MostBytes;

    /// <param name="below">Where the records are that the files belong to.</param>
    public static void MapFilePieces(this RouteGroupBuilder writing, string below)
    {
        writing.MapGet(below + "/{id:guid}/pieces", ReceivedAsync);
        writing
            .MapPut(below + "/{id:guid}/pieces", PutAsync)
            .Accepts<byte[]>("application/octet-stream")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <summary>All of a file that came in pieces; null where it is not as long as it should be.</summary>
    public static async Task<byte[]?> WholeAsync(SleuthDb db, Guid caseId, Guid id, string by, int bytes, CancellationToken cancel)
    {
        var pieces = await Of(db, caseId, id, by).OrderBy(p => p.Offset).Select(p => p.Data).ToListAsync(cancel);
        var whole = new byte[pieces.Sum(p => p.Length)];
        var at = 0;
        foreach (var piece in pieces)
        {
            piece.CopyTo(whole, at);
            at += piece.Length;
        }

        return whole.Length == bytes ? whole : null;
    }

    public static Task DropAsync(SleuthDb db, Guid caseId, Guid id, string by, CancellationToken cancel) =>
        Of(db, caseId, id, by).ExecuteDeleteAsync(cancel);

    private static async Task<PiecesHere> ReceivedAsync(Guid caseId, Guid id, Recorder recorder, CancellationToken cancel) =>
        new(await LengthAsync(Of(recorder.Db, caseId, id, recorder.Db.Writer), cancel));

    /// <param name="offset">Bytes that were sent before.</param>
    private static async Task<IResult> PutAsync(Guid caseId, Guid id, int offset, HttpRequest request, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        // By the clock of the database alone: an instance whose own is wrong would let go of what others are sending.
        await db.Database.ExecuteSqlAsync(
            $"""
            delete from photo_pieces where "At" < now() - {Kept}
            """,
            cancel
        );
        var received = await LengthAsync(Of(db, caseId, id, db.Writer), cancel);
        if (offset != received || body.Length == 0)
        {
            // Sent again because the answer was lost, or by another tab: whoever sends goes on where the others end.
            return TypedResults.Json(new PiecesHere(received), statusCode: StatusCodes.Status409Conflict);
        }

        var (length, mine) = ((int)body.Length, await LengthAsync(db.FilePieces.Where(p => p.By == db.Writer), cancel));
        if (received + length > PhotoIntake.MostBytes || mine + length > MostOfAPerson)
        {
            throw new ProblemException(Problem.Of("file", "server.larger-than-mb", ("name", id), ("mostBytes", PhotoIntake.MostBytes / 1024 / 1024)));
        }

        await db.Database.ExecuteSqlAsync(
            $"""
            insert into photo_pieces ("PhotoId", "Offset", "CaseId", "Data", "By", "At")
            values ({id}, {offset}, {caseId}, {body.ToArray()}, {db.Writer}, now()) on conflict do nothing
            """,
            cancel
        );
        return TypedResults.Ok(new PiecesHere(await LengthAsync(Of(db, caseId, id, db.Writer), cancel)));
    }

    private static IQueryable<FilePiece> Of(SleuthDb db, Guid caseId, Guid id, string by) =>
        db.FilePieces.AsNoTracking().Where(p => p.FileId == id && p.CaseId == caseId && p.By == by);

    private static async Task<int> LengthAsync(IQueryable<FilePiece> pieces, CancellationToken cancel) =>
        (int)Math.Min(await pieces.SumAsync(p => (long)p.Data.Length, cancel), int.MaxValue);
}
