using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Index;

public enum StowKind
{
    Bag,
    Box,
    Tray,

    /// <summary>What lies upon one another in a given order: gasket, spacer, gasket; the rings of a piston; a clutch pack.</summary>
    Stack,
    Shelf,
}

/// <summary>One thing in a bag, or one layer of a stack.</summary>
public sealed record StowItem
{
    /// <summary>Address of the part; empty for what has none.</summary>
    public string Place { get; init; } = "";

    /// <summary>What it is, where it has no address: a gasket, a washer, six bolts M8 × 40.</summary>
    public string What { get; init; } = "";

    public int Count { get; init; } = 1;

    /// <summary>Which face is out, toward whoever takes it off: the dot, the chamfer, the word on it.</summary>
    public string Face { get; init; } = "";
}

/// <summary>A bag, box, tray, stack or shelf with a label of its own, and what is in it.</summary>
public sealed class Stow : CaseRecord
{
    /// <summary>The word on its label: BAG3, STACK1. Of the case's own and no other's, also after it was taken back.</summary>
    public string Code { get; set; } = "";

    public StowKind Kind { get; set; }

    /// <summary>What it holds, in the shop's words: section 2, group B.</summary>
    public string Name { get; set; } = "";

    /// <summary>Code of what it lies in; empty where it stands by itself.</summary>
    public string In { get; set; } = "";

    /// <summary>Which row, rack or room.</summary>
    public string Where { get; set; } = "";

    /// <summary>Id of the step that filled it; empty where it was none.</summary>
    public string Step { get; set; } = "";

    /// <summary>In the order in which they came off; of a stack the outermost first.</summary>
    public List<StowItem> Items { get; set; } = [];

    public string Remarks { get; set; } = "";
}

/// <summary>Names of bags and boxes, and what cannot be in one.</summary>
public static partial class StowRules
{
    public const int MostItems = 500;
    private const int MostOfOne = 10_000;

    /// <summary>The next label of a kind that is free.</summary>
    public static string NextCode(StowKind kind, IEnumerable<Stow> stows)
    {
        var word = kind.ToString().ToUpperInvariant();
        var last = stows
            .Where(s => s.Kind == kind && s.Code.StartsWith(word, StringComparison.Ordinal))
            .Select(s => int.TryParse(s.Code[word.Length..], NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0)
            .DefaultIfEmpty()
            .Max();
        return string.Create(CultureInfo.InvariantCulture, $"{word}{last + 1}");
    }

    /// <summary>Whether what was typed or scanned is the label of a bag and none of a part.</summary>
    public static bool IsCode(string typed) => CodePattern().IsMatch(typed.Trim().ToUpperInvariant());

    public static Stow? Find(string typed, IEnumerable<Stow> stows) =>
        stows.FirstOrDefault(s => s.Stands() && s.Code.Equals(typed.Trim(), StringComparison.OrdinalIgnoreCase));

    /// <summary>Which bag each part lies in, by address.</summary>
    public static IReadOnlyDictionary<string, Stow> ByPlace(IEnumerable<Stow> stows) =>
        stows
            .Where(s => s.Stands())
            .SelectMany(s => s.Items.Where(i => i.Place.Length > 0).Select(i => (i.Place, Stow: s)))
            .GroupBy(x => x.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First().Stow, StringComparer.Ordinal);

    /// <param name="others">The bags that the case has; this one among them or not.</param>
    public static IEnumerable<Problem> Check(Stow stow, AddressTable table, IReadOnlyList<Stow> others)
    {
        var word = stow.Kind.ToString().ToUpperInvariant();
        if (!IsCode(stow.Code) || !stow.Code.StartsWith(word, StringComparison.Ordinal))
        {
            yield return Problem.Of("code", "index.no-label-of-a-bag", ("code", stow.Code), ("example", NextCode(stow.Kind, others)));
        }
        else if (others.Any(o => o.Id != stow.Id && o.Code == stow.Code))
        {
            yield return Problem.Of("code", "index.bag-label-taken", ("code", stow.Code), ("next", NextCode(stow.Kind, others)));
        }

        if (stow.Items.Count > MostItems)
        {
            yield return Problem.Of("items", "index.more-than-a-bag-holds", ("most", MostItems));
        }

        var elsewhere = ByPlace(others.Where(o => o.Id != stow.Id));
        foreach (var (at, item) in stow.Items.Index())
        {
            var field = $"items[{at}]";
            if (item.Place.Length > 0 && table.Find(item.Place)?.Code != item.Place)
            {
                yield return Problem.Of($"{field}.place", "casebook.no-address", ("place", item.Place));
            }
            else if (elsewhere.TryGetValue(item.Place, out var other))
            {
                yield return Problem.Of(
                    $"{field}.place",
                    "index.lies-in-another-bag",
                    ("place", item.Place),
                    ("code", other.Code),
                    ("name", other.Name)
                );
            }
            else if (item.Place.Length == 0 && string.IsNullOrWhiteSpace(item.What))
            {
                yield return Problem.Of($"{field}.what", "index.nothing-in-the-bag-named");
            }

            if (item.Count is < 1 or > MostOfOne || (item.Place.Length > 0 && item.Count > 1))
            {
                yield return Problem.Of(
                    $"{field}.count",
                    item.Place.Length > 0 ? "index.one-part-is-one" : "index.no-count-of-things",
                    ("count", item.Count),
                    ("most", MostOfOne),
                    ("place", item.Place)
                );
            }
        }

        if (stow.Items.Where(i => i.Place.Length > 0).GroupBy(i => i.Place, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            yield return Problem.Of("items", "index.twice-in-the-bag", ("place", twice.Key));
        }

        if (stow.In.Length > 0)
        {
            if (Find(stow.In, others) is null)
            {
                yield return Problem.Of("in", "index.no-such-bag", ("code", stow.In));
            }
            else if (LiesInItself(stow, others))
            {
                yield return Problem.Of("in", "index.bag-in-itself", ("code", stow.Code), ("in", stow.In));
            }
        }
    }

    private static bool LiesInItself(Stow stow, IReadOnlyList<Stow> others)
    {
        var seen = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { stow.Code };
        for (var at = stow.In; at.Length > 0; at = Find(at, others.Where(o => o.Id != stow.Id))?.In ?? "")
        {
            if (!seen.Add(at))
            {
                return true;
            }
        }

        return false;
    }

    [GeneratedRegex("^(BAG|BOX|TRAY|STACK|SHELF)[1-9][0-9]{0,3}$", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture)]
    private static partial Regex CodePattern();
}
