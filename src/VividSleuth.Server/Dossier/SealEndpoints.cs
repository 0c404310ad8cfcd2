using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Dossier;

namespace VividSleuth.Server.Dossier;

public sealed record SealEntry(Guid Id, string Why);

/// <summary>The seals of a case, the newest first.</summary>
/// <param name="Since">What was written since the newest; none where nothing was, or nothing is sealed.</param>
public sealed record SealList(IReadOnlyList<Seal> Seals, IReadOnlyList<CaseAlteration> Since);

/// <summary>Sealing a case, and fetching what is sealed.</summary>
public static class SealEndpoints
{
    public static void MapSeals(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/seals").WithTags("dossier");
        group.MapGet("", ListAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/{number}/since", SinceAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapPost("", SealAsync).NotForStudents().RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        // Originals may hold where they were taken: for who works on the case.
        group
            .MapGet("/{number}/bag", BagAsync)
            .RequireAuthorization(Policies.Write)
            .Produces(StatusCodes.Status200OK, contentType: "application/zip")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<SealList> ListAsync(Guid caseId, SleuthDb db, Sealing sealing, CancellationToken cancel)
    {
        var seals = await db.Seals.AsNoTracking().Where(s => s.CaseId == caseId).OrderByDescending(s => s.Number).ToListAsync(cancel);
        return new SealList(seals, seals.Count > 0 ? await sealing.SinceAsync(seals[0], cancel) : []);
    }

    /// <summary>What was written since a seal.</summary>
    private static async Task<IReadOnlyList<CaseAlteration>> SinceAsync(
        Guid caseId,
        int number,
        SleuthDb db,
        Sealing sealing,
        CancellationToken cancel
    ) => await sealing.SinceAsync(await FindAsync(caseId, number, db, cancel), cancel);

    private static async Task<Seal> SealAsync(
        Guid caseId,
        SealEntry entry,
        Recorder recorder,
        Sealing sealing,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (entry.Id == Guid.Empty)
        {
            throw new ProblemException(Problem.Of("id", "server.record-without-id"));
        }

        // The recorder knows who writes.
        _ = recorder.Db;
        return await sealing.SealAsync(caseId, entry.Id, entry.Why.Trim(), http.Sentences(), cancel);
    }

    private static async Task<IResult> BagAsync(Guid caseId, int number, SleuthDb db, Sealing sealing, CancellationToken cancel)
    {
        var seal = await FindAsync(caseId, number, db, cancel);
        return Results.Stream(to => sealing.PackAsync(seal, to, cancel), "application/zip", $"{seal.Name}.zip");
    }

    private static async Task<Seal> FindAsync(Guid caseId, int number, SleuthDb db, CancellationToken cancel) =>
        await db.Seals.AsNoTracking().SingleOrDefaultAsync(s => s.CaseId == caseId && s.Number == number, cancel) ?? throw Problems.NotHere("seal");
}
