using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Gauge;

/// <summary>Sets of parts whose weights should match, and how far apart they are.</summary>
public static class Weights
{
    private static readonly (string Kind, string Characteristic, string Name)[] Sets =
    [
        (PartKinds.Piston, "part-weight", "Pistons"),
        ("wrist-pin", "part-weight", "Wrist pins"),
        (PartKinds.Rod, "part-weight", "Rods"),
        (PartKinds.Rod, "rod-big-end-weight", "Big ends"),
        (PartKinds.Rod, "rod-small-end-weight", "Small ends"),
    ];

    public static IReadOnlyList<WeightSet> Of(AddressTable table, ReadingBook book)
    {
        var sets = new List<WeightSet>();
        foreach (var (kind, id, name) in Sets)
        {
            var found = table
                .OfKind(kind)
                .Select(a => (a.Code, Weight: book.Whole(a.Code, id, Phase.AfterWork) ?? book.Whole(a.Code, id, Phase.AsFound)))
                .Where(x => x.Weight is not null)
                .OrderBy(x => x.Weight!.Value)
                .ToArray();
            if (found.Length < 2)
            {
                continue;
            }

            var spread = found[^1].Weight! - found[0].Weight!;
            sets.Add(
                new WeightSet(
                    id == "part-weight" ? kind : id,
                    found[0].Code,
                    found[^1].Code,
                    spread.Value,
                    spread.Expanded,
                    spread.Value <= spread.Expanded
                        ? $"{name}: alike within the doubt of the scales."
                        : $"{name}: {spread.Value:0.0} g between {found[0].Code} (lightest, {found[0].Weight!.Value:0.0}) and {found[^1].Code}. The lightest sets the weight; take {string.Join(", ", found.Skip(1).Where(f => f.Weight!.Value - found[0].Weight!.Value > spread.Expanded).Select(f => $"{f.Weight!.Value - found[0].Weight!.Value:0.0} g off {f.Code}"))} where the maker allows."
                )
            );
        }

        return sets;
    }
}
