using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Engines;

public enum Stroke
{
    Induction,
    Compression,
    Power,
    Exhaust,

    /// <summary>Two-stroke, piston going up: compression above, drawing in below.</summary>
    Up,

    /// <summary>Two-stroke, piston going down: power, then ports open.</summary>
    Down,
}

/// <summary>One piston at a crank angle.</summary>
/// <param name="Angle">Degrees after its own firing top dead centre, 0 … below one working cycle.</param>
/// <param name="Drop">How far it is below top dead centre, mm.</param>
public sealed record PistonPosition(int Cylinder, double Angle, Stroke Stroke, double Drop);

/// <summary>A range of crank angles, degrees after cylinder 1's firing top dead centre.</summary>
public sealed record CrankRange(double From, double To);

/// <summary>Where the crank stands when no piston is near the top.</summary>
/// <param name="Angle">Degrees after cylinder 1’s top dead centre.</param>
/// <param name="EitherWay">True when it is the same so many degrees before it.</param>
/// <param name="Drop">How far the highest piston is then down, mm; null where stroke and rod are not known.</param>
public sealed record PistonsDown(double Angle, bool EitherWay, double? Drop);

/// <summary>Where pistons stand when the crankshaft is turned.</summary>
public static class CrankHelp
{
    /// <summary>
    /// How far a piston is below top dead centre: x = r + l − (r·cos θ + √(l² − r²·sin²θ)). Source: the slider crank, any text on
    /// dynamics of machinery.
    /// </summary>
    /// <param name="angle">Crank angle after top dead centre, degrees.</param>
    /// <param name="stroke">Twice the crank radius, mm.</param>
    /// <param name="rodLength">Between centres, mm; must be greater than half the stroke.</param>
    /// <returns>mm, 0 at top dead centre, the stroke at bottom dead centre.</returns>
    public static double Drop(double angle, double stroke, double rodLength)
    {
        var r = stroke / 2;
        if (stroke <= 0 || rodLength <= r)
        {
            throw new ProblemException(
                Problem.Of(
                    "rodLength",
                    "engines.rod-mm-cannot-turn-stroke",
                    ("rodLength", Amount.Length(rodLength, 1)),
                    ("stroke", Amount.Length(stroke, 1))
                )
            );
        }

        var theta = angle * Math.PI / 180;
        var across = r * Math.Sin(theta);
        return r + rodLength - ((r * Math.Cos(theta)) + Math.Sqrt((rodLength * rodLength) - (across * across)));
    }

    /// <summary>All pistons, when the crank stands so many degrees after cylinder 1's firing top dead centre.</summary>
    public static IReadOnlyList<PistonPosition> At(Engine engine, double crank, double stroke, double rodLength) =>
        [
            .. engine.Cylinders.Select(c =>
            {
                var cycle = engine.Layout.CycleDegrees;
                var angle = Modulo(crank - c.FiringAngle, cycle);
                return new PistonPosition(c.Number, angle, StrokeAt(angle, cycle), Drop(angle, stroke, rodLength));
            }),
        ];

    /// <summary>
    /// The ranges within one turn at which every piston is at least so far down, so that no valve can meet one. Edges are found
    /// to a hundredth of a degree.
    /// </summary>
    /// <param name="least">mm below top dead centre.</param>
    public static IReadOnlyList<CrankRange> AllDown(Engine engine, double least, double stroke, double rodLength)
    {
        if (least < 0 || least >= stroke)
        {
            throw new ProblemException(
                Problem.Of("least", "engines.piston-cannot-mm-down-stroke", ("least", Amount.Length(least, 1)), ("stroke", Amount.Length(stroke, 1)))
            );
        }

        // A piston is at least that far down from an angle to its mirror image; the drop grows steadily from top to bottom.
        double low = 0,
            high = 180;
        while (high - low > 0.0005)
        {
            var middle = (low + high) / 2;
            (low, high) = Drop(middle, stroke, rodLength) >= least ? (low, middle) : (middle, high);
        }

        var ranges = new List<CrankRange>();
        var tops = engine.Cylinders.Select(c => Modulo(c.FiringAngle, 360)).Distinct().Order().ToArray();
        for (var i = 0; i < tops.Length; i++)
        {
            var next = i + 1 < tops.Length ? tops[i + 1] : tops[0] + 360;
            if (tops[i] + high <= next - high)
            {
                ranges.Add(new CrankRange(Math.Round(tops[i] + high, 2), Math.Round(next - high, 2)));
            }
        }

        return ranges;
    }

    /// <summary>
    /// The crank angle at which the highest piston is as far down as it can be: the middle of the widest gap between two top dead centres,
    /// by symmetry whatever stroke and rod are. Of several, the one nearest to cylinder 1’s.
    /// </summary>
    /// <param name="stroke">mm; null where nobody entered it.</param>
    /// <param name="rodLength">mm between centres; null where nobody entered it.</param>
    public static PistonsDown WellDown(Engine engine, double? stroke, double? rodLength)
    {
        var tops = engine.Cylinders.Select(c => Math.Round(Modulo(c.FiringAngle, 360), 6)).Distinct().Order().ToArray();
        var gaps = tops.Select((top, i) => (From: top, Width: (i + 1 < tops.Length ? tops[i + 1] : tops[0] + 360) - top)).ToArray();
        var width = gaps.Max(g => g.Width);
        var middles = gaps.Where(g => g.Width > width - 0.001).Select(g => Modulo(g.From + (width / 2), 360)).ToArray();
        var angle = middles.MinBy(m => (Math.Min(m, 360 - m), m));
        return new PistonsDown(
            angle,
            middles.Any(m => Math.Abs(m - (360 - angle)) < 0.001),
            stroke is { } s && rodLength is { } r ? Drop(width / 2, s, r) : null
        );
    }

    public static Fact Words(PistonsDown down) =>
        Fact.Of(
            down.EitherWay ? "engines.pistons-down-either-way" : "engines.pistons-down",
            ("angle", new Number(down.Angle)),
            (
                "drop",
                down.Drop is { } d ? Fact.Of("engines.highest-piston-down", ("drop", Amount.Length(d, 0))) : Fact.Of("engines.halfway-between-tops")
            )
        );

    private static Stroke StrokeAt(double angle, int cycle) =>
        cycle == 360
            ? angle < 180
                ? Stroke.Down
                : Stroke.Up
            : angle switch
            {
                < 180 => Stroke.Power,
                < 360 => Stroke.Exhaust,
                < 540 => Stroke.Induction,
                _ => Stroke.Compression,
            };

    private static double Modulo(double angle, double cycle) => ((angle % cycle) + cycle) % cycle;
}
