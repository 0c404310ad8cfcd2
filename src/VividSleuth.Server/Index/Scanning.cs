using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Index;
using VividSleuth.Server.Shop;
using VividSleuth.Store;

namespace VividSleuth.Server.Index;

/// <summary>Tags read at a case; of one that strayed from another bench of the class it is told whose it is.</summary>
internal static class Scanning
{
    /// <returns>The address as it stands on the tag, not yet looked up.</returns>
    /// <exception cref="ProblemException">It is the tag of another engine, or none of ours.</exception>
    public static async Task<string> ReadTagAsync(this SleuthDb db, string tag, EngineCase engineCase, CancellationToken cancel)
    {
        try
        {
            return TagCode.Read(tag, engineCase.Id, engineCase.Prefix);
        }
        catch (ProblemException)
        {
            if (TagCode.OfAnother(tag) is { } whose && await NeighbourAsync(db, whose, engineCase.Id, cancel) is { } neighbour)
            {
                throw new ProblemException(Problem.Of("tag", "server.of-another-bench", ("address", whose.Address), ("bench", neighbour)));
            }

            throw;
        }
    }

    /// <summary>The mark of the bench of the same class that has what a tag names; null where none has.</summary>
    private static async Task<string?> NeighbourAsync(SleuthDb db, TagOwner whose, Guid caseId, CancellationToken cancel) =>
        await db.SeatAsync(caseId, cancel) is not { Class.Id: var classId }
            ? null
            : await (
                from b in db.Benches.AsNoTracking()
                join c in db.Cases.AsNoTracking() on b.CaseId equals c.Id
                where b.ClassId == classId && b.WithdrawnAt == null && c.Id != caseId && (c.Id == whose.Case || c.Prefix == whose.Prefix)
                select c.Prefix
            ).FirstOrDefaultAsync(cancel);
}
