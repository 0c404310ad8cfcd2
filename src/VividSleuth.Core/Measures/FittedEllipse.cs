using MathNet.Numerics;

namespace VividSleuth.Core.Measures;

/// <summary>An ellipse through diameters taken in several directions.</summary>
public static class FittedEllipse
{
    /// <summary>
    /// Out-of-round with its direction. From two directions it is their difference; from three or more an ellipse is fitted by least
    /// squares, d(θ) = d₀ + a cos 2θ + b sin 2θ (the second harmonic; any metrology text). Two directions see nothing of an ellipse that
    /// lies between them, so what they say is a least.
    /// </summary>
    /// <param name="readings">Direction in degrees, and diameter; their order does not matter.</param>
    /// <returns>Greatest less least diameter, and the direction of the greatest, 0 to 180 degrees.</returns>
    public static (double Ovality, double Direction) Through(IReadOnlyList<(double Direction, double Diameter)> readings)
    {
        var by = readings
            .GroupBy(r => ((r.Direction % 180) + 180) % 180)
            .Select(g => (Direction: g.Key, Diameter: g.Average(r => r.Diameter)))
            .OrderBy(r => r.Direction)
            .ToArray();
        if (by.Length < 2)
        {
            throw new ProblemException(Problem.Of("readings", "measures.one-direction-says-nothing-other"));
        }

        if (by.Length == 2)
        {
            return (Math.Abs(by[0].Diameter - by[1].Diameter), by.MaxBy(r => r.Diameter).Direction);
        }

        var angles = by.Select(r => 2 * r.Direction * Math.PI / 180).ToArray();
        var fit = Fit.MultiDim([.. angles.Select(t => new[] { Math.Cos(t), Math.Sin(t) })], [.. by.Select(r => r.Diameter)], intercept: true);
        return (2 * double.Hypot(fit[1], fit[2]), ((Math.Atan2(fit[2], fit[1]) * 90 / Math.PI) + 180) % 180);
    }
}
