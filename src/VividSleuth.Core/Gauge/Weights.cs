using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Sets of parts whose weights should match, and how far apart they are.</summary>
public static class Weights
{
    private static readonly (string Kind, string Characteristic, string Name)[] Sets =
    [
        (PartKinds.Piston, "part-weight", "gauge.pistons"),
        ("wrist-pin", "part-weight", "gauge.wrist-pins"),
        (PartKinds.Rod, "part-weight", "gauge.rods"),
        (PartKinds.Rod, "rod-big-end-weight", "gauge.big-ends"),
        (PartKinds.Rod, "rod-small-end-weight", "gauge.small-ends"),
    ];

    public static IReadOnlyList<WeightSet> Of(AddressTable table, ReadingBook book)
    {
        var sets = new List<WeightSet>();
        foreach (var (kind, id, name) in Sets)
        {
            var found = table
                .OfKind(kind)
                .Select(a => (a.Code, Weight: Phase.AfterRun.Back().Select(p => book.Whole(a.Code, id, p)).FirstOrDefault(e => e is not null)))
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
                        ? Fact.Of("gauge.weights-alike", ("name", Fact.Of(name)))
                        : Fact.Of(
                            "gauge.weights-differ",
                            ("name", Fact.Of(name)),
                            ("spread", Grams(spread.Value)),
                            ("lightest", found[0].Code),
                            ("weight", Grams(found[0].Weight!.Value)),
                            ("heaviest", found[^1].Code),
                            (
                                "take",
                                found
                                    .Skip(1)
                                    .Where(f => f.Weight!.Value - found[0].Weight!.Value > spread.Expanded)
                                    .Select(f =>
                                        Fact.Of("gauge.so-much-off", ("weight", Grams(f.Weight!.Value - found[0].Weight!.Value)), ("place", f.Code))
                                    )
                                    .ToArray()
                            )
                        )
                )
            );
        }

        return sets;
    }

    private static Amount Grams(double g) => new(g, Quantity.Mass, 1);
}
