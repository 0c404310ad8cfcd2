using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Index;

namespace VividSleuth.Server.Index;

/// <summary>A tag as entered. The version is 0 for a new one.</summary>
public sealed record PartEntry(
    Guid Id,
    int Version,
    string Place,
    string Mark,
    MarkMethod Method,
    bool SameOnAll,
    Facing Facing,
    string GradeStamped,
    Custody Custody,
    string Where,
    string Remarks
);

public static class IndexEndpoints
{
    public static void MapIndex(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("index");
        group
            .MapPost("/parts", AddAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPut("/parts/{id:guid}", ChangeAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/mates", MatesAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Part> AddAsync(Guid caseId, PartEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var table = await recorder.TableAsync(caseId, cancel);
        var part = new Part { Id = entry.Id, Place = table.Parse(entry.Place).Code };
        Fill(part, entry);
        return await recorder.AddAsync(caseId, part, cancel);
    }

    private static Task<Part> ChangeAsync(Guid caseId, Guid id, PartEntry entry, Recorder recorder, CancellationToken cancel) =>
        recorder.UpdateAsync<Part>(caseId, id, entry.Version, entry, part => Fill(part, entry), cancel);

    private static async Task<MateResult> MatesAsync(Guid caseId, string first, string second, Recorder recorder, CancellationToken cancel)
    {
        var table = await recorder.TableAsync(caseId, cancel);
        var parts = await recorder.Db.Set<Part>().AsNoTracking().Where(p => p.CaseId == caseId).ToListAsync(cancel);
        return MateCheck.Of(table.Parse(first, "first"), table.Parse(second, "second"), parts);
    }

    private static void Fill(Part part, PartEntry entry)
    {
        part.Mark = entry.Mark.Trim();
        part.Method = entry.Method;
        part.SameOnAll = entry.SameOnAll;
        part.Facing = entry.Facing;
        part.GradeStamped = entry.GradeStamped.Trim();
        part.Custody = entry.Custody;
        part.Where = entry.Where.Trim();
        part.Remarks = entry.Remarks.Trim();
    }
}
