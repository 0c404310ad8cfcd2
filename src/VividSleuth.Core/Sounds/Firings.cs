using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Sounds;

/// <summary>One or more cylinders that fire at one angle.</summary>
/// <param name="Angle">Crank degrees after the first of the firing order.</param>
public sealed record Firing(IReadOnlyList<int> Cylinders, double Angle);

/// <summary>When an engine fires within a cycle, as its layout tells.</summary>
/// <param name="Degrees">Of a cycle: 720 of a four-stroke, 360 of a two-stroke.</param>
/// <param name="At">In turn.</param>
public sealed record Firings(int Degrees, IReadOnlyList<Firing> At)
{
    // Closer than this an angle is as another, in degrees.
    private const double Alike = 1;

    public static Firings Of(Engine engine) =>
        new(
            engine.Layout.CycleDegrees,
            [
                .. engine
                    .Cylinders.GroupBy(c => Math.Round(c.FiringAngle / Alike))
                    .OrderBy(g => g.Key)
                    .Select(g => new Firing([.. g.Select(c => c.Number).Order()], g.Min(c => c.FiringAngle))),
            ]
        );

    /// <summary>Crank turns in a cycle.</summary>
    public int Turns => Degrees / 360;

    /// <summary>From each firing to the next.</summary>
    public IReadOnlyList<double> Gaps =>
        [.. At.Select((a, i) => At.Count == 1 ? Degrees : (At[(i + 1) % At.Count].Angle - a.Angle + Degrees) % Degrees)];

    /// <summary>How often in a cycle the pattern of firings repeats: of an even one the number of its firings, of an uneven one often 1.</summary>
    public int Repeats
    {
        get
        {
            var gaps = Gaps;
            return Enumerable
                .Range(1, gaps.Count)
                .Reverse()
                .First(n =>
                    gaps.Count % n == 0 && gaps.Select((g, i) => Math.Abs(g - gaps[(i + (gaps.Count / n)) % gaps.Count])).All(d => d < Alike)
                );
        }
    }

    public Firing Of(int cylinder) => At.Single(a => a.Cylinders.Contains(cylinder));
}
