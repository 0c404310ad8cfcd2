using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Words;

namespace VividSleuth.Server.Casebook;

/// <summary>Cases found by what is kept of them.</summary>
internal static class CaseIndexing
{
    /// <summary>A case's signs as they are kept.</summary>
    public static CaseSigns Signs((Guid CaseId, List<string> Present, List<string> LookedFor) of) =>
        new(
            of.CaseId,
            of.Present.Select(p => p.Split('#')).ToDictionary(p => p[0], p => Enum.Parse<SignSpread>(p[1]), StringComparer.Ordinal),
            of.LookedFor.ToHashSet(StringComparer.Ordinal)
        );

    /// <summary>Cases that the words find; where none has them as they are typed, those that have words like them.</summary>
    /// <returns>
    /// The cases, what was taken instead of a typed word, whether anything was, whether more of all cases have the words than are counted, and which of all cases these are.
    /// </returns>
    public static async Task<(
        IQueryable<EngineCase> Cases,
        IReadOnlyDictionary<string, IReadOnlyList<string>> Instead,
        bool Near,
        bool Common,
        Guid[]? Having
    )> FoundAsync(this IQueryable<EngineCase> all, SleuthDb db, string words, CancellationToken cancel)
    {
        var none = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
        var (found, common, having) = await all.WithAsync(db, words, CaseSearch.Query(words), cancel);
        if (words.Length == 0 || common || await found.AnyAsync(cancel))
        {
            return (found, none, false, common, having);
        }

        var instead = await db.InsteadAsync(words, cancel);
        if (instead.Count == 0)
        {
            return (found, none, true, false, null);
        }

        // Each word as it is where cases have it, and what is like it where none has.
        (found, common, having) = await all.WithAsync(db, words, CaseSearch.Query(words, instead), cancel);
        return (found, instead, true, common, having);
    }
}
