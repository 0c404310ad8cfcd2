using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Arrival;

/// <summary>One cylinder of a compression test; pressures in kPa.</summary>
/// <param name="Ratio">Share of the highest cylinder.</param>
public sealed record CylinderCompression(int Number, double? Kpa, double? Ratio, bool Low, Fact Words);

/// <summary>A compression test, evaluated.</summary>
public sealed record CompressionTest(IReadOnlyList<CylinderCompression> Cylinders, IReadOnlyList<Fact> Says)
{
    /// <summary>The lowest should reach three quarters of the highest. Common practice, no source.</summary>
    public const double LeastShare = 0.75;

    /// <summary>Evaluates a test.</summary>
    /// <param name="best">By cylinder number the highest reading in kPa, as a gauge only ever loses.</param>
    public static CompressionTest Evaluate(IReadOnlyDictionary<int, double> best, Engine engine)
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
                var low = best.Count > 1 && ratio < LeastShare;
                return new CylinderCompression(
                    c.Number,
                    kpa,
                    ratio,
                    low,
                    Fact.Of("arrival.pressure-and-share", ("pressure", new Amount(kpa, Quantity.Pressure, 0)), ("share", new Percent(ratio)))
                );
            })
            .ToArray();
        return new CompressionTest(cylinders, [.. Words(engine, cylinders)]);
    }

    private static IEnumerable<Fact> Words(Engine engine, CylinderCompression[] cylinders)
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

        if (known.Length == 1)
        {
            yield return Fact.Of("arrival.one-cylinder-alone-says-little");
            yield break;
        }

        var low = known.Where(c => c.Low).Select(c => c.Number).ToHashSet();
        if (low.Count == 0)
        {
            yield return Fact.Of("arrival.all-within-highest-rule-thumb", ("share", new Percent(LeastShare)));
        }
        else
        {
            yield return Fact.Of("arrival.cylinder-below-highest-rule-thumb", ("cylinders", low.Order()), ("share", new Percent(LeastShare)));
            foreach (var n in low)
            {
                foreach (var next in engine.Neighbours(n).Where(c => c.Number > n && low.Contains(c.Number)))
                {
                    yield return Fact.Of("arrival.cylinders-neighbours-both-low-look", ("n", n), ("next", next.Number));
                }
            }
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
