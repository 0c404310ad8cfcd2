using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Store.Cases;

/// <summary>What a search of the casebook asks for besides words.</summary>
public enum CaseWaits
{
    /// <summary>A hold point is to be signed.</summary>
    Sign,

    /// <summary>Parts are in other hands.</summary>
    Away,

    /// <summary>Something is asked for or ordered.</summary>
    Coming,

    /// <summary>A day that was promised is past.</summary>
    Overdue,

    /// <summary>It likely runs later than its owner was told.</summary>
    Behind,

    /// <summary>Nobody decided on the cause.</summary>
    Open,

    /// <summary>Somebody did.</summary>
    Decided,
}

/// <summary>What a search picks out besides words; each empty or null for any.</summary>
/// <param name="Sign">Id of a sign that was seen.</param>
/// <param name="Part">Id of a kind of part on which something was seen.</param>
/// <param name="Outside">Id of what is surely outside its limit.</param>
/// <param name="Cause">Id of a cause that was written down as found.</param>
/// <param name="Person">Who wrote in it.</param>
/// <param name="From">The first day of those on which it was last written.</param>
/// <param name="To">The last of these days.</param>
public sealed record CaseFacets(string Sign, string Part, string Outside, string Cause, string Person, DateOnly? From, DateOnly? To)
{
    /// <summary>Marks that a case must have, all of them.</summary>
    public IEnumerable<string> Marks
    {
        get
        {
            (string Of, Func<string, string> Mark)[] facets =
            [
                (Sign, CaseMarks.Sign),
                (Part, CaseMarks.Part),
                (Outside, CaseMarks.Outside),
                (Cause, CaseMarks.Cause),
                (Person, CaseMarks.Person),
            ];
            return facets.Where(f => f.Of.Length > 0).Select(f => f.Mark(f.Of));
        }
    }
}

/// <summary>
/// Searches all cases by words, in whatever form the trade has them, over what is kept of each (<see cref="CaseIndex"/>): PostgreSQL's full text with its
/// English stems, beginnings of words, and words that mean the same.
/// </summary>
public static partial class CaseSearch
{
    /// <summary>Title, engine, owner and complaint of a case in one, as the database keeps it.</summary>
    public const string Words = "Words";

    /// <summary>What stands before the first comma of the name of its engine, in small letters, as the database keeps it.</summary>
    public const string KindName = "KindName";

    /// <summary>Its serial number in small letters, as the database keeps it.</summary>
    public const string SerialKey = "SerialKey";

    /// <summary>From how many letters on a word is taken for misspelt: of fewer, too many are alike.</summary>
    private const int Misspelt = 4;

    /// <summary>How alike a misspelt word must be to one that is known, as pg_trgm reckons it. Ours: it takes two letters of six that changed places.</summary>
    private const double Alike = 0.3;

    private const int MostAlike = 4;

    /// <summary>
    /// The query in PostgreSQL's language: every word, or one of its stem or beginning, or another that means the same; empty where nothing was typed.
    /// </summary>
    /// <param name="instead">By word that nothing has, those that are like it.</param>
    public static string Query(string find, IReadOnlyDictionary<string, IReadOnlyList<string>>? instead = null)
    {
        string[] words =
        [
            .. Typed(find)
                .Where(word => word.Any(char.IsLetterOrDigit))
                .Select(word =>
                    string.Join(
                        " | ",
                        (instead?.GetValueOrDefault(word) ?? [word])
                            .SelectMany(TradeWords.Alike)
                            .Select(Terms)
                            .Where(t => t.Length > 0)
                            .Distinct(StringComparer.Ordinal)
                    )
                ),
        ];
        // A word that has no stems to be found by must be found as it stands; leaving it out would find more than was asked for.
        return Array.Exists(words, w => w.Length == 0) ? "" : string.Join(" & ", words.Select(w => $"({w})"));
    }

    /// <summary>Cases are counted up to here, and words that more of them have are common.</summary>
    public const int MostCounted = 1000;

    /// <summary>So many cases are told apart by their ids; of more the database finds them again for each question.</summary>
    private const int MostFetched = 20_000;

    /// <summary>
    /// Cases that have all the words somewhere, or each of them as a part of title, engine, owner or complaint. Of common words those alone that have them: nobody
    /// looks through more for what stands inside a longer word.
    /// </summary>
    /// <param name="query">Of <see cref="Query"/>.</param>
    /// <returns>The cases, whether more of all cases have the words than are counted, and which these are, unless they are too many to be told apart.</returns>
    public static async Task<(IQueryable<EngineCase> Cases, bool Common, Guid[]? Having)> WithAsync(
        this IQueryable<EngineCase> cases,
        SleuthDb db,
        string find,
        string query,
        CancellationToken cancel
    )
    {
        if (Typed(find).Length == 0)
        {
            return (cases, false, null);
        }

        if (query.Length == 0)
        {
            return (cases.Named(find), false, null);
        }

        var having = await db
            .Database.SqlQuery<Guid>($"""select id as "Value" from cases_with({query}) as id limit {MostFetched + 1}""")
            .ToArrayAsync(cancel);
        if (having.Length is > MostCounted and <= MostFetched)
        {
            // Asked for once: what is counted and what is listed of them need not find them again.
            return (cases.Where(c => having.Contains(c.Id)), true, having);
        }

        if (having.Length > MostFetched)
        {
            var all = db.Database.SqlQuery<Guid>($"""select id as "Value" from cases_with({query}) as id""");
            return (cases.Where(c => all.Contains(c.Id)), true, null);
        }

        var named = db.Cases.AsNoTracking().Named(find).Select(c => c.Id);
        var some = await named.OrderBy(id => id).Take(MostCounted + 1).ToListAsync(cancel);
        var ids = having.Union(some).ToArray();
        return (cases.Where(some.Count > MostCounted ? c => ids.Contains(c.Id) || named.Contains(c.Id) : c => ids.Contains(c.Id)), false, null);
    }

    /// <summary>States of those of many cases that stand.</summary>
    public static IQueryable<CaseState> StatesOf(this SleuthDb db, Guid[] many) => db.States.AsNoTracking().Standing(db, many);

    /// <summary>
    /// Ids of a page of many cases that stand, the one last written first. The database goes along all states in that order until the page is full; left to itself it
    /// fetches each of the many and sorts them.
    /// </summary>
    public static Task<Guid[]> LatestAsync(
        this SleuthDb db,
        Guid[] many,
        Func<IQueryable<CaseState>, IQueryable<CaseState>> only,
        int skip,
        int take,
        CancellationToken cancel
    ) =>
        only(db.States.FromSql($"""select * from case_states order by "LastAt" desc, "CaseId" desc offset 0""").AsNoTracking().Standing(db, many))
            .OrderByDescending(s => s.LastAt)
            .ThenByDescending(s => s.CaseId)
            .Select(s => s.CaseId)
            .Skip(skip)
            .Take(take)
            .ToArrayAsync(cancel);

    private static IQueryable<CaseState> Standing(this IQueryable<CaseState> states, SleuthDb db, Guid[] many) =>
        states.Where(s => many.Contains(s.CaseId) && !db.Cases.Any(c => c.Id == s.CaseId && c.WithdrawnAt != null));

    private static IQueryable<EngineCase> Named(this IQueryable<EngineCase> cases, string find)
    {
        var named = cases;
        foreach (var word in Typed(find))
        {
            var like = TradeWords.Alike(word).Select(Like).ToArray();
            // Without an escape of its own, which is the backslash anyway: only so it becomes “ilike any”, which the index of trigrams serves.
            named = named.Where(c => like.Any(l => EF.Functions.ILike(EF.Property<string>(c, Words), l)));
        }

        return named;
    }

    /// <summary>Cases that have all that is picked out by marks.</summary>
    /// <returns>The cases, and which these are, unless they are too many to be told apart, or nothing is picked out.</returns>
    public static async Task<(IQueryable<EngineCase> Cases, Guid[]? Having)> MarkedAsync(
        this IQueryable<EngineCase> cases,
        SleuthDb db,
        CaseFacets of,
        CancellationToken cancel
    )
    {
        string[] marks = [.. of.Marks];
        if (marks.Length == 0)
        {
            return (cases, null);
        }

        IQueryable<Guid> Having(int most) =>
            db.Database.SqlQuery<Guid>(
                $"""
                select m."CaseId" as "Value" from case_marks m where m."Mark" = any({marks}) group by m."CaseId" having count(*) = {marks.Length} limit {most}
                """
            );
        var having = await Having(MostFetched + 1).ToArrayAsync(cancel);
        if (having.Length <= MostFetched)
        {
            return (cases.Where(c => having.Contains(c.Id)), having);
        }

        var all = Having(int.MaxValue);
        return (cases.Where(c => all.Contains(c.Id)), null);
    }

    /// <summary>Cases that were last written within the days.</summary>
    public static IQueryable<EngineCase> Written(this IQueryable<EngineCase> cases, SleuthDb db, CaseFacets of)
    {
        if (of.From is { } from)
        {
            var begins = new DateTimeOffset(from, TimeOnly.MinValue, TimeSpan.Zero);
            cases = cases.Where(c => db.States.Any(s => s.CaseId == c.Id && s.LastAt >= begins));
        }

        if (of.To is { } to)
        {
            var ends = new DateTimeOffset(to.AddDays(1), TimeOnly.MinValue, TimeSpan.Zero);
            cases = cases.Where(c => db.States.Any(s => s.CaseId == c.Id && s.LastAt < ends));
        }

        return cases;
    }

    /// <summary>By each typed word that no case has, the words of cases that are most like it; a word that nothing is like is left as it is.</summary>
    public static async Task<IReadOnlyDictionary<string, IReadOnlyList<string>>> InsteadAsync(this SleuthDb db, string find, CancellationToken cancel)
    {
        var instead = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
        foreach (var word in Typed(find).Where(w => w.Length >= Misspelt && w.All(char.IsLetter)).Distinct(StringComparer.Ordinal))
        {
            var query = Query(word);
            if (query.Length > 0 && await db.CaseIndex.AnyAsync(i => i.Terms.Matches(EF.Functions.ToTsQuery("english", query)), cancel))
            {
                continue;
            }

            var lower = word.ToLowerInvariant();
            var alike = await db
                .CaseWords.Where(w => EF.Functions.TrigramsAreSimilar(w.Word, lower) && EF.Functions.TrigramsSimilarity(w.Word, lower) >= Alike)
                .OrderByDescending(w => EF.Functions.TrigramsSimilarity(w.Word, lower))
                .ThenBy(w => w.Word)
                .Select(w => w.Word)
                .Take(MostAlike)
                .ToListAsync(cancel);
            if (alike.Count > 0)
            {
                instead[word] = alike;
            }
        }

        return instead;
    }

    /// <summary>Of each case the lines that have the words, those that have most of them first, with what was searched for between two marks.</summary>
    public static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<string>>> LinesAsync(
        this SleuthDb db,
        Guid[] cases,
        string query,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Database.SqlQuery<FoundLine>(
                $"""
                select i."CaseId", ts_headline('english', split_part(l.line, {CaseIndex.Also}, 1), q.words, 'HighlightAll=true, StartSel=⟦, StopSel=⟧') as "Line"
                from to_tsquery('english', {query.Replace(" & ", " | ", StringComparison.Ordinal)}) as q (words), case_index i,
                    lateral (
                        select line, n, ts_rank(terms, q.words) as rank
                        from string_to_table(i."Body", E'\n') with ordinality as b (line, n), lateral to_tsvector('english', line) as terms
                        where line ~* {Begins(query)} and terms @@ q.words order by rank desc, n limit {MostLines}
                    ) l
                where i."CaseId" = any({cases})
                order by i."CaseId", l.rank desc, l.n
                """
            )
            .ToListAsync(cancel);
        return rows.GroupBy(r => r.CaseId).ToDictionary(g => g.Key, IReadOnlyList<string> (g) => [.. g.Select(r => r.Line).Take(MostLines)]);
    }

    private const int MostLines = 4;

    /// <summary>
    /// How a line begins a word that can have what is searched for: only these lines are taken apart into stems, which costs ten times as much. The last
    /// letter of a short word is left out, since English changes it (“oily”, “oili”).
    /// </summary>
    internal static string Begins(string query)
    {
        string[] begins =
        [
            .. WordsOf().Matches(query).Select(w => w.Value[..Math.Min(3, Math.Max(1, w.Length - 1))]).Distinct(StringComparer.OrdinalIgnoreCase),
        ];
        // A letter that is not of the first 128 has no small form in a database of the plain locale: then every line is looked at.
        return begins.Length == 0 || Array.Exists(begins, b => b.Any(c => !char.IsAsciiLetterOrDigit(c))) ? "" : $@"\m({string.Join('|', begins)})";
    }

    [GeneratedRegex(@"[\p{L}\p{N}]+")]
    private static partial Regex WordsOf();

    [GeneratedRegex(@"\p{L}+")]
    private static partial Regex LettersOf();

    private sealed record FoundLine(Guid CaseId, string Line);

    /// <summary>Decided cases that show any of these signs, those whose common signs say most first.</summary>
    /// <param name="telling">Signs and kinds of part, without their spread.</param>
    /// <param name="bits">What each says.</param>
    /// <param name="here">All signs of the case that they are held against: what else was looked for in them is not asked for.</param>
    public static async Task<IReadOnlyList<(Guid CaseId, List<string> Present, List<string> LookedFor)>> TellingAsync(
        this SleuthDb db,
        Guid but,
        string[] telling,
        double[] bits,
        string[] here,
        int most,
        CancellationToken cancel
    )
    {
        string[] marks = [.. telling.Select(CaseMarks.Shows)];
        // Of a sign that more cases have than are held against this one, so many of the latest: it tells them apart badly.
        var ids = await db
            .Database.SqlQuery<Guid>(
                $"""
                select i."CaseId" as "Value"
                from unnest({marks}, {bits}) as t (mark, bits)
                cross join lateral (
                    select x."CaseId" from case_marks x where x."Mark" = t.mark and x."CaseId" <> {but} order by x."CaseId" desc limit {most}
                ) i
                join cases c on c."Id" = i."CaseId" and c."WithdrawnAt" is null
                group by i."CaseId" order by sum(t.bits) desc, i."CaseId"
                limit {most}
                """
            )
            .ToListAsync(cancel);
        var shown = await db
            .Database.SqlQuery<ShownSigns>(
                $"""
                select i."CaseId", i."Present", array(select l from unnest(i."LookedFor") l where l in (select unnest({here}))) as "LookedFor"
                from case_index i where i."CaseId" = any({ids})
                """
            )
            .ToListAsync(cancel);
        return [.. shown.Select(i => (i.CaseId, i.Present, i.LookedFor))];
    }

    private sealed record ShownSigns(Guid CaseId, List<string> Present, List<string> LookedFor);

    private static string[] Typed(string find) => find.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>
    /// The letters and digits of a word, all of them together, each of which may go on; empty of a word that is broken into single ones, as 1_0 is: their
    /// beginnings would be found everywhere.
    /// </summary>
    private static string Terms(string word)
    {
        var parts = new string([.. word.Select(c => char.IsLetterOrDigit(c) ? c : ' ')]).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return parts.Length == 0 || (parts.Length > 1 && Array.Exists(parts, p => p.Length == 1))
            ? ""
            : $"({string.Join(" & ", parts.Select(Begun))})";
    }

    /// <summary>A database of the plain locale knows small forms of the first 128 letters only: “Öl” is looked for with a small and with a great letter.</summary>
    private static string Begun(string part)
    {
        var small = part.ToLowerInvariant();
        string[] forms = [small, char.ToUpperInvariant(small[0]) + small[1..]];
        return char.IsAscii(small[0]) ? $"'{part}':*" : $"({string.Join(" | ", forms.Select(f => $"'{f}':*"))})";
    }

    /// <summary>Whatever is typed is meant as it stands.</summary>
    private static string Like(string word) =>
        $"%{word.Replace(@"\", @"\\", StringComparison.Ordinal).Replace("%", @"\%", StringComparison.Ordinal).Replace("_", @"\_", StringComparison.Ordinal)}%";

    /// <summary>Cases of which what the casebook says was worked out of an older revision, or is not told in all languages.</summary>
    public static Task<List<Guid>> BehindAsync(this SleuthDb db, CancellationToken cancel) =>
        db
            .Database.SqlQueryRaw<Guid>("""select "CaseId" as "Value" from case_states where "NextRevision" < "Revision" or "NextIn" = '{{}}'""")
            .ToListAsync(cancel);

    /// <summary>Keeps what a case is found by, unless something newer is kept already.</summary>
    public static async Task KeepIndexAsync(this SleuthDb db, CaseIndex of, CancellationToken cancel)
    {
        string[] words =
        [
            .. LettersOf()
                .Matches(of.Body)
                .Select(w => w.Value.ToLowerInvariant())
                .Where(w => w.Length is >= Misspelt and <= 40)
                .Distinct(StringComparer.Ordinal),
        ];
        string[] marks = [.. CaseMarks.Of(of)];
        await db.Database.ExecuteSqlAsync(
            $"""
            with kept as (
            insert into case_index ("CaseId", "Revision", "Body", "Signs", "Parts", "Outside", "Causes", "People", "Present", "LookedFor", "Looked",
                "Damaged", "Began", "Figures")
            values ({of.CaseId}, {of.Revision}, {of.Body}, {of.Signs}, {of.Parts}, {of.Outside}, {of.Causes}, {of.People}, {of.Present}, {of.LookedFor},
                {of.Looked}, {of.Damaged}, {of.Began}, {JsonSerializer.Serialize(of.Figures, CaseFile.Json)}::jsonb)
            on conflict ("CaseId") do update set
                "Revision" = excluded."Revision", "Body" = excluded."Body", "Signs" = excluded."Signs", "Parts" = excluded."Parts",
                "Outside" = excluded."Outside", "Causes" = excluded."Causes", "People" = excluded."People", "Present" = excluded."Present",
                "LookedFor" = excluded."LookedFor", "Looked" = excluded."Looked", "Damaged" = excluded."Damaged", "Began" = excluded."Began",
                "Figures" = excluded."Figures"
            where case_index."Revision" <= excluded."Revision"
            returning "CaseId"
            ), gone as (delete from case_marks m using kept k where m."CaseId" = k."CaseId" and m."Mark" <> all({marks}))
            insert into case_marks ("Mark", "CaseId") select unnest({marks}), "CaseId" from kept on conflict do nothing
            """,
            cancel
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into case_words ("Word") select w from unnest({words}) w order by w
            on conflict do nothing
            """,
            cancel
        );
    }
}
