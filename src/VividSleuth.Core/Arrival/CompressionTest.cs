using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Arrival;

/// <summary>One cylinder of a compression test; pressures in kPa.</summary>
/// <param name="Ratio">Share of the highest cylinder.</param>
public sealed record CylinderCompression(int Number, double? Kpa, double? Ratio, bool Low, string Words);

/// <summary>A compression test, evaluated.</summary>
public sealed record CompressionTest(IReadOnlyList<CylinderCompression> Cylinders, IReadOnlyList<string> Says)
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
                    return new CylinderCompression(c.Number, null, null, false, "not measured");
                }

                var ratio = highest > 0 ? kpa / highest : 0;
                var low = best.Count > 1 && ratio < LeastShare;
                return new CylinderCompression(c.Number, kpa, ratio, low, $"{kpa:0} kPa, {100 * ratio:0} % of the highest");
            })
            .ToArray();
        return new CompressionTest(cylinders, [.. Words(engine, cylinders)]);
    }

    private static IEnumerable<string> Words(Engine engine, CylinderCompression[] cylinders)
    {
        var known = cylinders.Where(c => c.Kpa is not null).ToArray();
        if (known.Length == 0)
        {
            yield return "No compression has been measured.";
            yield break;
        }

        if (known.Length < cylinders.Length)
        {
            yield return $"Cylinder {string.Join(", ", cylinders.Where(c => c.Kpa is null).Select(c => c.Number))} not measured yet.";
        }

        if (known.Length == 1)
        {
            yield return "One cylinder alone says little: compare with the maker's figure.";
            yield break;
        }

        var low = known.Where(c => c.Low).Select(c => c.Number).ToHashSet();
        if (low.Count == 0)
        {
            yield return $"All within {100 * LeastShare:0} % of the highest (rule of thumb): rings, valves and joint seal alike.";
        }
        else
        {
            yield return $"Cylinder {string.Join(", ", low)} below {100 * LeastShare:0} % of the highest (rule of thumb). Put a little oil in and test again: if it rises, rings; if not, valves or joint.";
            foreach (var n in low)
            {
                foreach (var next in engine.Neighbours(n).Where(c => c.Number > n && low.Contains(c.Number)))
                {
                    yield return $"Cylinders {n} and {next.Number} are neighbours and both low: look at the head joint between them.";
                }
            }
        }

        if (Statistics.Grubbs([.. known.Select(c => c.Kpa!.Value)]) is { IsOutlier: true } test)
        {
            yield return $"Cylinder {known[test.Index].Number} stands apart from its fellows (Grubbs G = {test.G:0.00}, critical {test.Critical:0.00} at 5 %).";
        }
    }
}
