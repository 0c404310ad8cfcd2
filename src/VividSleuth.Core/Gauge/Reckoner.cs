using MathNet.Numerics;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Formulas of the bench, each alone: a figure in, a figure out. Lengths in mm, areas mm², volumes cm³, angles in degrees, speeds in
/// revolutions per minute, unless a name says otherwise.
/// </summary>
public static class Reckoner
{
    /// <summary>Reference temperature of lengths, °C. Source: ISO 1.</summary>
    public const double Reference = 20;

    /// <summary>
    /// Length at 20 °C of a part that was measured at another temperature with an instrument at another: L₂₀ = L (1 + α_i (t_i − 20)) / (1 + α_p
    /// (t_p − 20)).
    /// </summary>
    /// <param name="partTemperature">°C.</param>
    /// <param name="gaugeTemperature">°C.</param>
    public static double AtReference(double read, Material part, double partTemperature, Material gauge, double gaugeTemperature) =>
        read * (1 + (gauge.Expansion * (gaugeTemperature - Reference))) / (1 + (part.Expansion * (partTemperature - Reference)));

    /// <summary>Swept volume of one cylinder in cm³: π/4 · bore² · stroke.</summary>
    public static double Swept(double bore, double stroke) => Math.PI / 4 * bore * bore * stroke / 1000;

    /// <summary>
    /// Compression ratio: (swept + left over) / left over, what is left over being chamber, joint, deck and valve pockets less what the crown
    /// stands up.
    /// </summary>
    /// <param name="chamber">Chamber in the head, cm³.</param>
    /// <param name="crown">Dish and pockets of the crown, cm³; below nil for a dome.</param>
    /// <param name="deck">How far the crown stays below the deck, mm; below nil when it stands out.</param>
    /// <param name="joint">Thickness of the joint when squeezed, mm.</param>
    /// <param name="jointBore">Bore of the joint, mm.</param>
    public static double CompressionRatio(double bore, double stroke, double chamber, double crown, double deck, double joint, double jointBore)
    {
        var rest = chamber + crown + Swept(bore, deck) + Swept(jointBore, joint);
        return rest > 0
            ? (Swept(bore, stroke) + rest) / rest
            : throw new ProblemException(new Problem("chamber", "Nothing would be left over the piston.", "Check chamber, crown and deck."));
    }

    /// <summary>Squish: deck and squeezed joint together.</summary>
    public static double Squish(double deck, double joint) => deck + joint;

    /// <summary>
    /// How much a ring's gap closes when ring and bore warm up: π · bore · (α_ring ΔT_ring − α_bore ΔT_bore). Any mechanics text.
    /// </summary>
    /// <param name="ringTemperature">°C when hot.</param>
    /// <param name="boreTemperature">°C when hot.</param>
    public static double GapClosing(double bore, Material ring, double ringTemperature, Material barrel, double boreTemperature) =>
        Math.PI * bore * ((ring.Expansion * (ringTemperature - Reference)) - (barrel.Expansion * (boreTemperature - Reference)));

    /// <summary>
    /// Greatest acceleration of a piston, at top dead centre, in m/s²: r ω² (1 + r/l). Any dynamics text.
    /// </summary>
    /// <param name="rod">Length of the rod between centres, mm.</param>
    public static double TopAcceleration(double stroke, double rod, double speed)
    {
        var r = stroke / 2;
        var omega = speed * 2 * Math.PI / 60;
        return r / 1000 * omega * omega * (1 + (r / rod));
    }

    /// <summary>
    /// Speed in revolutions per minute at which a ring's inertia at top dead centre equals the gas load that holds it down, where flutter can
    /// begin: m r ω² (1 + r/l) = p · A.
    /// </summary>
    /// <param name="mass">Of the ring, g.</param>
    /// <param name="pressure">Pressure above the ring just before top dead centre less the pressure below, bar.</param>
    /// <param name="area">Flank on which it bears: radial thickness × mean circumference, mm².</param>
    public static double FlutterSpeed(double stroke, double rod, double mass, double pressure, double area)
    {
        var r = stroke / 2000;
        var force = pressure * 1e5 * area * 1e-6;
        return Math.Sqrt(force / (mass / 1000 * r * (1 + (stroke / 2 / rod)))) * 60 / (2 * Math.PI);
    }

    /// <summary>
    /// Angle between the two directions of a cross-hatch in degrees: 2 · atan(stroking speed / surface speed). Strokes are single ones, up or
    /// down.
    /// </summary>
    /// <param name="strokesPerMinute">Single strokes in a minute.</param>
    /// <param name="strokeLength">mm.</param>
    public static double HatchAngle(double bore, double speed, double strokesPerMinute, double strokeLength) =>
        2 * Math.Atan2(strokesPerMinute * strokeLength, Math.PI * bore * speed) * 180 / Math.PI;

    /// <summary>Taper as it is told of journals and bores: greatest less least diameter over the stations, in one direction.</summary>
    public static double Taper(IReadOnlyList<double> stations) => stations.Max() - stations.Min();

    /// <summary>
    /// Out-of-round with its direction. From two directions it is their difference; from three or more an ellipse is fitted by least
    /// squares, d(θ) = d₀ + a cos 2θ + b sin 2θ (the second harmonic; any metrology text). Two directions see nothing of an ellipse that
    /// lies between them, so what they say is a least.
    /// </summary>
    /// <param name="readings">Direction in degrees, and diameter; their order does not matter.</param>
    /// <returns>Greatest less least diameter, and the direction of the greatest, 0 to 180 degrees.</returns>
    public static (double Ovality, double Direction) OutOfRound(IReadOnlyList<(double Direction, double Diameter)> readings)
    {
        var by = readings
            .GroupBy(r => ((r.Direction % 180) + 180) % 180)
            .Select(g => (Direction: g.Key, Diameter: g.Average(r => r.Diameter)))
            .OrderBy(r => r.Direction)
            .ToArray();
        if (by.Length < 2)
        {
            throw new ProblemException(new Problem("readings", "One direction says nothing of the other.", "Measure in two directions at least."));
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
