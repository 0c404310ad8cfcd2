using VividSleuth.Core.Engines;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Index;

/// <summary>A label: the word on it, and what that means.</summary>
public sealed record Label(string Code, Fact Words)
{
    public static Label Of(Address place) => new(place.Code, place.Words);

    public static Label Of(Stow stow) =>
        new(stow.Code, stow.Name.Length > 0 ? Fact.Text(stow.Name) : Fact.Of("index.bag", ("kind", stow.Kind), ("in", stow.In)));
}

/// <summary>How labels lie on paper; lengths in mm.</summary>
/// <param name="Id">Stable name.</param>
/// <param name="PageWidth">Width of the page, or of a single label.</param>
/// <param name="Columns">Labels side by side; 1 for a roll.</param>
/// <param name="Left">From the paper's edge to the first label.</param>
/// <param name="StepX">From one label's edge to the next one's.</param>
public sealed record LabelPage(
    string Id,
    double PageWidth,
    double PageHeight,
    int Columns,
    int Rows,
    double Width,
    double Height,
    double Left,
    double Top,
    double StepX,
    double StepY
)
{
    /// <summary>What a person chooses by.</summary>
    public Fact Name => Fact.Of($"label-page.{Id}");

    /// <summary>Most labels in one go: beyond that somebody pressed the wrong key.</summary>
    public const int MostLabels = 2000;

    /// <summary>Common page sizes, single tags and a strip for tape. Common practice, no source.</summary>
    public static IReadOnlyList<LabelPage> All { get; } =
    [
        new("a4-24", 210, 297, 3, 8, 70, 37, 0, 0.5, 70, 37),
        new("a4-65", 210, 297, 5, 13, 38.1, 21.2, 4.65, 10.7, 40.6, 21.2),
        new("letter-30", 215.9, 279.4, 3, 10, 66.7, 25.4, 4.8, 12.7, 69.85, 25.4),
        new("tag-62", 62, 29, 1, 1, 62, 29, 0, 0, 62, 29),
        new("tape-12", 48, 12, 1, 1, 48, 12, 0, 0, 48, 12),
    ];

    public int PerPage => Columns * Rows;

    /// <exception cref="ProblemException">There is no such page.</exception>
    public static LabelPage Get(string id) =>
        All.FirstOrDefault(s => s.Id == id)
        ?? throw new ProblemException(Problem.Of("page", "index.no-such-label-page", ("id", id), ("pages", All.Select(s => s.Id))));

    /// <summary>Upper left corner of the nth label of a page, from 0, in mm.</summary>
    public (double X, double Y) At(int nth) => (Left + (nth % Columns * StepX), Top + (nth / Columns * StepY));

    /// <summary>Stands for all bags and boxes of the case.</summary>
    public const string AllBags = "bags";

    /// <summary>
    /// What to print labels for: addresses, kinds, labels of bags, a candidate’s letter behind a dot for all of its parts, or several of these, parted by
    /// commas or blanks.
    /// </summary>
    /// <exception cref="ProblemException">None, too many, or neither an address of this engine nor a bag of this case.</exception>
    public static IReadOnlyList<Label> Labels(string typed, AddressTable table, IReadOnlyList<Stow> stows)
    {
        var words = typed.Split([',', ' ', '\n', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (words.Length > MostLabels)
        {
            throw TooMany(words.Length);
        }

        var labels = words.SelectMany(w => Of(w, table, stows)).DistinctBy(l => l.Code).ToArray();
        return labels.Length switch
        {
            0 => throw new ProblemException(Problem.Of("places", "index.no-label-asked")),
            > MostLabels => throw TooMany(labels.Length),
            _ => labels,
        };
    }

    private static IEnumerable<Label> Of(string word, AddressTable table, IReadOnlyList<Stow> stows)
    {
        if (word.Equals(AllBags, StringComparison.OrdinalIgnoreCase))
        {
            return stows.Where(s => s.Stands()).Select(Label.Of);
        }

        if (StowRules.IsCode(word))
        {
            return StowRules.Find(word, stows) is { } stow
                ? [Label.Of(stow)]
                : throw new ProblemException(Problem.Of("places", "index.no-such-bag", ("code", word.ToUpperInvariant())));
        }

        return word.StartsWith('.')
            && table.Everywhere.Where(a => a.Of.Equals(word[1..], StringComparison.OrdinalIgnoreCase)).ToArray() is { Length: > 0 } offered
                ? offered.Select(Label.Of)
            : PartKinds.Find(word) is { } kind ? table.OfKind(kind.Id).Select(Label.Of)
            : [Label.Of(table.Parse(word, "places"))];
    }

    private static ProblemException TooMany(int count) =>
        new(Problem.Of("places", "index.labels-more-than-one-engine", ("count", count), ("mostLabels", MostLabels)));
}
