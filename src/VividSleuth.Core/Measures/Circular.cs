namespace VividSleuth.Core.Measures;

/// <summary>Directions averaged on the circle.</summary>
/// <param name="Mean">Mean direction in degrees, 0 to 360.</param>
/// <param name="Resultant">Mean resultant length: 1 when all agree, 0 when they cancel.</param>
/// <param name="P">Probability of so long a resultant when no direction is preferred (Rayleigh).</param>
public sealed record MeanDirection(double Mean, double Resultant, double P);

/// <summary>Statistics of angles: ring gaps and how they drift. Source: K. V. Mardia and P. E. Jupp, Directional Statistics.</summary>
public static class Circular
{
    /// <param name="degrees">At least one angle.</param>
    public static MeanDirection Mean(IReadOnlyList<double> degrees)
    {
        var (c, s) = (degrees.Average(d => Math.Cos(Radians(d))), degrees.Average(d => Math.Sin(Radians(d))));
        var resultant = Math.Sqrt((c * c) + (s * s));
        var n = degrees.Count;
        var z = n * resultant * resultant;
        // Rayleigh's test with Greenwood and Durand's correction for few angles.
        var p =
            Math.Exp(-z)
            * (1 + (((2 * z) - (z * z)) / (4 * n)) - (((24 * z) - (132 * z * z) + (76 * z * z * z) - (9 * z * z * z * z)) / (288.0 * n * n)));
        return new MeanDirection(((Math.Atan2(s, c) * 180 / Math.PI) + 360) % 360, resultant, Math.Clamp(p, 0, 1));
    }

    /// <summary>The way from one angle to another by the shorter side, −180 to 180 degrees; positive clockwise as hours go.</summary>
    public static double Drift(double put, double found)
    {
        var way = (found - put) % 360;
        return way > 180 ? way - 360
            : way <= -180 ? way + 360
            : way;
    }

    private static double Radians(double degrees) => degrees * Math.PI / 180;
}
