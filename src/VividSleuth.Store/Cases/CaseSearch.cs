using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

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

/// <summary>Searches the casebook by words, in whatever form the trade has them.</summary>
public static class CaseSearch
{
    /// <summary>Title, engine, owner and complaint of a case in one, as the database keeps it.</summary>
    public const string Words = "Words";

    /// <summary>From how many letters on a word is taken for misspelt: of fewer, too many are alike.</summary>
    private const int Misspelt = 5;

    /// <summary>How alike a misspelt word must be to one of the text, as pg_trgm reckons it. Ours: it takes two letters that changed places.</summary>
    private const double Alike = 0.42;

    /// <summary>
    /// Cases that have every word, or one of its stem, or another that means the same, in title, engine, owner or complaint; and those on which something
    /// of that name was found, or decided to be the cause.
    /// </summary>
    public static async Task<IQueryable<EngineCase>> WithAsync(
        this IQueryable<EngineCase> cases,
        SleuthDb db,
        string find,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var words = find.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0)
        {
            return cases;
        }

        var named = cases;
        foreach (var word in words)
        {
            var like = TradeWords.Alike(word).Select(Like).ToArray();
            named = named.Where(c =>
                like.Any(l => EF.Functions.ILike(EF.Property<string>(c, Words), l, @"\"))
                || EF.Functions.ToTsVector("english", EF.Property<string>(c, Words)).Matches(EF.Functions.PlainToTsQuery("english", word))
            );
        }

        // Both as it is typed and in the word that stands for those that mean the same.
        var plain = string.Join(' ', words.Select(TradeWords.Standing));
        var signs = await NamedAsync(db, find, plain, [.. knowledge.Signs.Select(s => (s.Id, $"{s.Name} {string.Join(' ', s.Also)}"))], cancel);
        var causes = await NamedAsync(db, find, plain, [.. knowledge.Causes.Select(c => (c.Id, c.Name))], cancel);
        return cases.Where(c =>
            named.Contains(c)
            || c.Findings.Any(f => f.WithdrawnAt == null && f.Seen == Seen.Present && signs.Contains(f.Sign))
            || c.Conclusions.Any(d => d.WithdrawnAt == null && causes.Contains(d.Cause))
        );
    }

    /// <summary>Cases that have a word like each one of these in title, engine, owner or complaint: where nothing has them as they are written.</summary>
    public static IQueryable<EngineCase> Near(this IQueryable<EngineCase> cases, string find)
    {
        foreach (var word in find.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var like = Like(word);
            cases =
                word.Length >= Misspelt && word.All(char.IsLetter)
                    ? cases.Where(c => EF.Functions.TrigramsWordSimilarity(word, EF.Property<string>(c, Words)) > Alike)
                    : cases.Where(c => EF.Functions.ILike(EF.Property<string>(c, Words), like, @"\"));
        }

        return cases;
    }

    /// <summary>Whatever is typed is meant as it stands.</summary>
    private static string Like(string word) =>
        $"%{word.Replace(@"\", @"\\", StringComparison.Ordinal).Replace("%", @"\%", StringComparison.Ordinal).Replace("_", @"\_", StringComparison.Ordinal)}%";

    private static async Task<List<string>> NamedAsync(
        SleuthDb db,
        string find,
        string plain,
        IReadOnlyList<(string Id, string Names)> all,
        CancellationToken cancel
    )
    {
        string[] ids = [.. all.Select(a => a.Id)];
        string[] names = [.. all.Select(a => a.Names)];
        return await db
            .Database.SqlQuery<string>(
                $"""
                select id as "Value" from unnest({ids}, {names}) as named (id, name)
                where to_tsvector('english', name) @@ (plainto_tsquery('english', {find}) || plainto_tsquery('english', {plain}))
                """
            )
            .ToListAsync(cancel);
    }
}
