using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Arrival;

/// <summary>What a compression test is held against. The numbers stand in knowledge/limits, or in the maker's manual.</summary>
/// <param name="Share">Least share of the highest cylinder.</param>
/// <param name="Least">Least pressure in kPa, whatever the others show; null where none is known.</param>
/// <param name="Source">Where the least comes from.</param>
public sealed record CompressionLimits(double? Share, double? Least, Fact Source);

/// <summary>One cylinder of a compression test; pressures in kPa.</summary>
/// <param name="Ratio">Share of the highest cylinder.</param>
/// <param name="Low">Too low beside the others, or by itself.</param>
public sealed record CylinderCompression(int Number, double? Kpa, double? Ratio, bool Low, Fact Words);

/// <summary>A compression test, evaluated: each cylinder against its fellows and against what such an engine should have.</summary>
public sealed record CompressionTest(IReadOnlyList<CylinderCompression> Cylinders, IReadOnlyList<Fact> Says)
{
    /// <summary>Evaluates a test.</summary>
    /// <param name="best">By cylinder number the highest reading in kPa, as a gauge only ever loses.</param>
    public static CompressionTest Evaluate(IReadOnlyDictionary<int, double> best, Engine engine, CompressionLimits limits)
    {
        double? At(int n) => best.TryGetValue(n, out var v) ? v : null;
        var highest = best.Count > 0 ? best.Values.Max() : 0;
        var cylinders = engine
            .Cylinders.Select(c =>
            {
                if (At(c.Number) is not { } kpa)
                {
                    return new CylinderCompression(c.Number, null, null, false, Fact.Of("arrival.not-measured"));
                }

                var ratio = highest > 0 ? kpa / highest : 0;
                var low = (best.Count > 1 && ratio < limits.Share) || kpa < limits.Least;
                return new CylinderCompression(
                    c.Number,
                    kpa,
                    ratio,
                    low,
                    Fact.Of("arrival.pressure-and-share", ("pressure", Bar(kpa)), ("share", new Percent(ratio)))
                );
            })
            .ToArray();
        return new CompressionTest(cylinders, [.. Words(engine, cylinders, limits)]);
    }

    /// <summary>In the unit in which compression is told.</summary>
    public static Number Bar(double kpa) => new(kpa / 100, 1, true);

    private static IEnumerable<Fact> Words(Engine engine, CylinderCompression[] cylinders, CompressionLimits limits)
    {
        var known = cylinders.Where(c => c.Kpa is not null).ToArray();
        if (known.Length == 0)
        {
            yield return Fact.Of("arrival.no-compression-measured");
            yield break;
        }

        if (known.Length < cylinders.Length)
        {
            yield return Fact.Of("arrival.cylinder-not-measured-yet", ("cylinders", cylinders.Where(c => c.Kpa is null).Select(c => c.Number)));
        }

        var least = limits.Least is { } l ? Bar(l) : null;
        var below = known.Where(c => c.Kpa < limits.Least).Select(c => c.Number).ToArray();
        if (below.Length == known.Length)
        {
            // What holds for all alike is neither one ring nor one valve: a share of the best and oil down the bore say nothing then.
            yield return Fact.Of(
                known.Length > 1 ? "arrival.all-low" : "arrival.one-low",
                ("most", Bar(known.Max(c => c.Kpa!.Value))),
                ("least", least),
                ("source", limits.Source)
            );
            yield break;
        }

        if (known.Length == 1)
        {
            yield return Fact.Of(
                limits.Least is null ? "arrival.one-cylinder-alone-says-little" : "arrival.one-cylinder-is-not-low",
                ("least", least),
                ("source", limits.Source)
            );
            yield break;
        }

        var low = known.Where(c => c.Ratio < limits.Share).Select(c => c.Number).ToHashSet();
        var share = new Percent(limits.Share ?? 0);
        if (below.Length > 0)
        {
            yield return Fact.Of("arrival.cylinder-below-least", ("cylinders", below), ("least", least), ("source", limits.Source));
        }

        if (low.Count == 0 && below.Length == 0)
        {
            yield return Fact.Of(
                limits.Least is null ? "arrival.alike-and-no-least-known" : "arrival.alike-and-high-enough",
                ("share", share),
                ("least", least),
                ("source", limits.Source)
            );
        }
        else if (low.Count > 0)
        {
            yield return Fact.Of("arrival.cylinder-below-highest", ("cylinders", low.Order()), ("share", share));
            foreach (var n in low)
            {
                foreach (var next in engine.Neighbours(n).Where(c => c.Number > n && low.Contains(c.Number)))
                {
                    yield return Fact.Of("arrival.cylinders-neighbours-both-low-look", ("n", n), ("next", next.Number));
                }
            }
        }

        if (low.Count > 0 || below.Length > 0)
        {
            yield return Fact.Of(engine.Layout.Fuel == FuelSystem.Diesel ? "arrival.no-oil-down-a-diesel" : "arrival.oil-down-the-bore");
        }

        if (GrubbsTest.Of([.. known.Select(c => c.Kpa!.Value)]) is { IsOutlier: true } test)
        {
            yield return Fact.Of(
                "arrival.cylinder-stands-apart-from-peers",
                ("cylinder", known[test.Index].Number),
                ("g", new Number(test.G, 2, true)),
                ("critical", new Number(test.Critical, 2, true))
            );
        }
    }
}
