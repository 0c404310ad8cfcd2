using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Build;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Casebook;

/// <summary>A case that was found.</summary>
/// <param name="Causes">Names of what somebody wrote down as found.</param>
/// <param name="Lines">Lines of what is said of it that have the words; what is between the two marks was searched for.</param>
public sealed record SearchHit(
    Guid Id,
    string Title,
    string EngineName,
    string Serial,
    string Owner,
    DateTimeOffset LastWritten,
    string LastBy,
    IReadOnlyList<string> Causes,
    IReadOnlyList<string> Lines
);

/// <summary>What was taken instead of a word that no case has.</summary>
public sealed record SearchInstead(string Typed, IReadOnlyList<string> Taken);

/// <param name="Total">Cases in all that fit; told up to a bound, beyond which there are more.</param>
/// <param name="More">There are more than the total tells.</param>
public sealed record SearchPage(IReadOnlyList<SearchHit> Hits, int Total, bool More, IReadOnlyList<SearchInstead> Instead);

/// <summary>A sign that two cases have in common or in which they differ.</summary>
/// <param name="Bits">How much it says.</param>
public sealed record SeenSign(string Sign, Fact Kind, double Bits, SignSpread? Here, SignSpread? There);

/// <summary>An earlier, decided case that shows what this one shows.</summary>
/// <param name="Likeness">From 0, nothing in common, towards 1.</param>
/// <param name="Found">What was found to be the cause, how surely, and why.</param>
/// <param name="Done">What was done about it, course by course with the number of parts.</param>
/// <param name="RanOn">The day on which it ran again; null where nobody said.</param>
/// <param name="CameBack">The case with which it came back; null where it did not.</param>
public sealed record SeenCase(
    Guid Id,
    string Title,
    string EngineName,
    DateOnly Day,
    double Likeness,
    IReadOnlyList<SeenSign> Shared,
    IReadOnlyList<SeenSign> Apart,
    IReadOnlyList<SeenFound> Found,
    IReadOnlyList<SeenDone> Done,
    DateOnly? RanOn,
    SeenBack? CameBack
);

public sealed record SeenFound(string Cause, string Place, Confidence Confidence, string Reasons);

/// <param name="Kind">Of part.</param>
public sealed record SeenDone(string Course, Fact Kind, int Parts);

/// <param name="Said">Somebody said that it came back after it; else its engine was merely here again.</param>
public sealed record SeenBack(Guid Id, string Title, bool Said);

/// <param name="Of">The case after which the engine came back; null where it did not after all.</param>
public sealed record Comeback(int Version, Guid? Of);

/// <summary>What the shop knows: search over all cases, and which of them were like this one.</summary>
public static class SearchEndpoints
{
    private const int MostHits = 20;

    /// <summary>Of so many that share what says most the likeness is reckoned.</summary>
    private const int MostHeld = 60;

    private const int MostNear = 8;

    /// <summary>By so many signs, those that say most, the others are picked out.</summary>
    private const int MostTelling = 12;

    public static void MapSearch(this RouteGroupBuilder api)
    {
        api.MapGet("/search", SearchAsync).WithTags("casebook").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/cases/{id:guid}/near", NearAsync).WithTags("casebook");
        api.MapPut("/cases/{id:guid}/comeback", ComebackAsync)
            .WithTags("casebook")
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<SearchPage> SearchAsync(
        string? find,
        string? sign,
        string? part,
        string? outside,
        string? cause,
        string? person,
        Guid? kind,
        DateOnly? from,
        DateOnly? to,
        int? skip,
        SleuthDb now,
        LateReads late,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CasebookKeeper keeper,
        BuildDesk build,
        CancellationToken cancel
    )
    {
        if (from > to)
        {
            throw new ProblemException(Problem.Of("from", "casebook.search-ends-before-it-begins"));
        }

        await keeper.CatchUpAsync(now, desk, build, cancel);
        var db = await late.DbAsync(cancel);
        var words = (find ?? "").Trim();
        var facets = new CaseFacets(sign ?? "", part ?? "", outside ?? "", cause ?? "", person ?? "", from, to);
        var (all, marked) = await db.Cases.AsNoTracking().Where(c => c.WithdrawnAt == null).Written(db, facets).MarkedAsync(db, facets, cancel);
        if (kind is { } kindId)
        {
            var of = await db.Kinds.AsNoTracking().SingleOrDefaultAsync(k => k.Id == kindId, cancel) ?? throw Problems.NotHere("kind");
            all = all.OfKind(of.Id, of.Name);
        }

        var (found, instead, _, _, having) = await all.FoundAsync(db, words, cancel);
        // Nothing but words and marks, and which cases have them is known.
        var many =
            kind is not null || from is not null || to is not null ? null
            : having is null ? (words.Length == 0 ? marked : null)
            : marked is null ? (facets.Marks.Any() ? null : having)
            : [.. having.Intersect(marked)];
        var total =
            many?.Length > CaseSearch.MostCounted
                ? CaseSearch.MostCounted + 1
                : await found.Select(c => c.Id).OrderBy(id => id).Take(CaseSearch.MostCounted + 1).CountAsync(cancel);
        var query = CaseSearch.Query(words, instead);
        var over = Math.Max(0, skip ?? 0);
        if (many?.Length > CaseSearch.MostCounted)
        {
            var page = await db.LatestAsync(many, s => s, over, MostHits, cancel);
            (found, over) = (db.Cases.AsNoTracking().Where(c => page.Contains(c.Id)), 0);
        }

        var hits = await found
            .Join(db.States.AsNoTracking(), c => c.Id, s => s.CaseId, (c, s) => new { Case = c, State = s })
            .OrderByDescending(x => x.State.LastAt)
            .ThenByDescending(x => x.State.CaseId)
            .Skip(over)
            .Take(MostHits)
            .Select(x => new
            {
                x.Case.Id,
                x.Case.Title,
                x.Case.EngineName,
                x.Case.Serial,
                x.Case.Owner,
                x.State.LastAt,
                x.State.LastBy,
                Causes = db.CaseIndex.Where(i => i.CaseId == x.Case.Id).Select(i => i.Causes).FirstOrDefault(),
            })
            .ToListAsync(cancel);
        var lines =
            query.Length == 0 ? new Dictionary<Guid, IReadOnlyList<string>>() : await db.LinesAsync([.. hits.Select(h => h.Id)], query, cancel);
        return new SearchPage(
            [
                .. hits.Select(h => new SearchHit(
                    h.Id,
                    h.Title,
                    h.EngineName,
                    h.Serial,
                    h.Owner,
                    h.LastAt,
                    h.LastBy,
                    [.. (h.Causes ?? []).Select(c => knowledge.Cause(c)?.Name ?? c)],
                    lines.GetValueOrDefault(h.Id, [])
                )),
            ],
            Math.Min(total, CaseSearch.MostCounted),
            total > CaseSearch.MostCounted,
            [.. instead.Select(i => new SearchInstead(i.Key, i.Value))]
        );
    }

    private static async Task<IReadOnlyList<SeenCase>> NearAsync(
        Guid id,
        LateReads late,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var here = await desk.SignsAsync(id, cancel);
        if (here.Present.Count == 0)
        {
            return [];
        }

        var bits = NearCases.BitsIn((await desk.HeadAsync(id, cancel)).Places(), knowledge);
        var db = await late.DbAsync(cancel);
        string[] telling = [.. here.Present.Keys.OrderByDescending(bits).ThenBy(k => k, StringComparer.Ordinal).Take(MostTelling)];
        var near = NearCases.Of(
            here,
            (await db.TellingAsync(id, telling, [.. telling.Select(bits)], [.. here.Present.Keys], MostHeld, cancel)).Select(CaseIndexing.Signs),
            bits,
            MostNear
        );
        return await ToldAsync([.. near], db, knowledge, cancel);
    }

    private static async Task<IReadOnlyList<SeenCase>> ToldAsync(NearCase[] near, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var ids = near.Select(n => n.Id).ToArray();
        var cases = await db
            .Cases.AsNoTracking()
            .AsSplitQuery()
            .Where(c => ids.Contains(c.Id))
            .Include(c => c.Conclusions.Where(x => x.WithdrawnAt == null))
            .Include(c => c.Verdicts.Where(x => x.WithdrawnAt == null))
            .Include(c => c.BuildTasks.Where(t => t.WithdrawnAt == null && t.Of == Arising.RunKey && t.Mark == TaskMark.Through))
            .ToDictionaryAsync(c => c.Id, cancel);
        var serials = cases
            .Values.Select(c => c.Serial.Trim().ToLowerInvariant())
            .Where(s => s.Length > 0)
            .Distinct(StringComparer.Ordinal)
            .ToArray();
        var later = await db
            .Cases.AsNoTracking()
            .Where(c =>
                c.WithdrawnAt == null
                && ((c.ComebackOf != null && ids.Contains(c.ComebackOf.Value)) || serials.Contains(EF.Property<string>(c, CaseSearch.SerialKey)))
            )
            .Select(c => new
            {
                c.Id,
                c.Title,
                c.Serial,
                c.ComebackOf,
            })
            .ToListAsync(cancel);
        var seen = new List<SeenCase>();
        foreach (var n in near.Where(n => cases.ContainsKey(n.Id)))
        {
            var c = cases[n.Id];
            var table = c.Places();
            // The ids of cases tell when they were begun.
            var back = later
                .Where(l => l.Id != c.Id && (l.ComebackOf == c.Id || (c.Serial.Length > 0 && l.Serial == c.Serial && l.Id.CompareTo(c.Id) > 0)))
                .OrderByDescending(l => l.ComebackOf == c.Id)
                .ThenBy(l => l.Id)
                .FirstOrDefault();
            seen.Add(
                new SeenCase(
                    c.Id,
                    c.Title,
                    c.EngineName,
                    DateOnly.FromDateTime(c.At.UtcDateTime),
                    n.Likeness,
                    [.. n.Shared.Select(s => Sign(s, knowledge))],
                    [.. n.Apart.Select(s => Sign(s, knowledge))],
                    [
                        .. c
                            .Conclusions.OrderBy(x => x.At)
                            .Select(x => new SeenFound(knowledge.Cause(x.Cause)?.Name ?? "", x.Place, x.Confidence, x.Reasons)),
                    ],
                    [
                        .. PartVerdict
                            .Latest(c.Verdicts)
                            .Values.Where(v => v.Action != VerdictAction.Reuse)
                            .Select(v =>
                                (Course: knowledge.Courses.FirstOrDefault(k => k.Id == v.Course)?.Name ?? "", Kind: table.Find(v.Place)?.Kind)
                            )
                            .Where(v => v.Kind is not null && v.Course.Length > 0)
                            .GroupBy(v => (v.Course, v.Kind!.Id))
                            .Select(g => new SeenDone(g.Key.Course, g.First().Kind!.Name, g.Count()))
                            .OrderByDescending(d => d.Parts),
                    ],
                    c.BuildTasks.Count > 0 ? DateOnly.FromDateTime(c.BuildTasks.Max(t => t.At).UtcDateTime) : null,
                    back is null ? null : new SeenBack(back.Id, back.Title, back.ComebackOf == c.Id)
                )
            );
        }

        return seen;
    }

    private static SeenSign Sign(NearSign s, KnowledgeBase knowledge) =>
        new(knowledge.Sign(s.Sign)?.Name ?? s.Sign, PartKinds.Find(s.Kind)?.Name ?? Fact.Text(s.Kind), Math.Round(s.Bits, 1), s.Here, s.There);

    /// <summary>Says that this engine came back after an earlier case, or that it did not.</summary>
    private static async Task<EngineCase> ComebackAsync(Guid id, Comeback entry, Recorder recorder, CancellationToken cancel)
    {
        if (entry.Of == id)
        {
            throw new ProblemException(Problem.Of("of", "casebook.comes-back-after-another"));
        }

        if (entry.Of is { } of && !await recorder.Db.Cases.AnyAsync(c => c.Id == of, cancel))
        {
            throw Problems.NotHere("case");
        }

        return await recorder.UpdateAsync<EngineCase>(id, id, entry.Version, entry, c => c.ComebackOf = entry.Of, cancel);
    }
}
