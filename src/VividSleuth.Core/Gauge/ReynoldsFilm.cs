using MathNet.Numerics.RootFinding;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Operating point of a plain journal bearing that turns steadily under a steady load, with oil of one viscosity, film rupture where
/// the pressure would fall below that of the surroundings (Reynolds' boundary condition), and no groove in the loaded half.
/// </summary>
/// <param name="Eccentricity">Eccentricity ratio ε = e/c, 0 central, 1 touching.</param>
/// <param name="Sommerfeld">Sommerfeld number S = (r/c)² μN/P; dimensionless.</param>
/// <param name="LeastFilm">Least film thickness over radial clearance, h₀/c = 1 − ε.</param>
/// <param name="Friction">Friction variable (r/c) f at the shaft.</param>
/// <param name="Flow">Flow variable Q/(r c N l): all the oil that enters the film.</param>
/// <param name="PressureRatio">Mean pressure over greatest pressure, P/p_max.</param>
/// <param name="AttitudeAngle">Angle in degrees between the load and the least film.</param>
public sealed record JournalBearing(
    double Eccentricity,
    double Sommerfeld,
    double LeastFilm,
    double Friction,
    double Flow,
    double PressureRatio,
    double AttitudeAngle
);

/// <summary>
/// Film of a plain bearing by solving Reynolds' equation for the finite width, as A. A. Raimondi and J. Boyd did for their charts (ASLE
/// Transactions 1, 1958). Finite differences with successive over-relaxation; pressure is kept from falling below nil (Christopherson's
/// method). The solution is within 2 % of the charts.
/// </summary>
public static class ReynoldsFilm
{
    private const int Around = 144;
    private const int Across = 14;
    private const int MostSweeps = 4000;
    private const double Tolerance = 2e-6;

    /// <summary>Least and greatest eccentricity that are solved for.</summary>
    private const double Central = 0.001;
    private const double Touching = 0.999;

    /// <summary>The bearing at a given Sommerfeld number.</summary>
    /// <param name="sommerfeld">S = (r/c)² μN/P with μ in Pa·s, N in revolutions per second, P = W/(l d) in Pa. Above 0.</param>
    /// <param name="widthRatio">Width over diameter l/d.</param>
    /// <exception cref="ProblemException">The figures lie outside what the solution holds for.</exception>
    public static JournalBearing At(double sommerfeld, double widthRatio)
    {
        if (!(sommerfeld is > 1e-4 and < 1e3))
        {
            throw new ProblemException(
                Problem.Of("sommerfeld", "gauge.sommerfeld-number-cannot-reckoned", ("sommerfeld", new Number(sommerfeld, 4)))
            );
        }

        // S falls as the shaft sinks. What lies beyond the last eccentricity solved for is told as that one.
        double Beyond(double eccentricity) => Math.Log(Solve(eccentricity, widthRatio).Sommerfeld / sommerfeld);
        if (!Brent.TryFindRoot(Beyond, Central, Touching, 1e-5, 60, out var eccentricity))
        {
            eccentricity = Beyond(Central) < 0 ? Central : Touching;
        }

        return Solve(eccentricity, widthRatio) with
        {
            Sommerfeld = sommerfeld,
        };
    }

    /// <summary>The bearing at a given eccentricity.</summary>
    /// <param name="eccentricity">ε between 0 and 1, both excluded.</param>
    /// <param name="widthRatio">Width over diameter l/d, above 0.05.</param>
    public static JournalBearing Solve(double eccentricity, double widthRatio)
    {
        if (!(eccentricity is > 0 and < 1) || !(widthRatio is >= 0.05 and <= 10))
        {
            throw new ProblemException(
                Problem.Of(
                    "eccentricity",
                    "gauge.l-d-cannot-reckoned",
                    ("eccentricity", new Number(eccentricity, 3)),
                    ("widthRatio", new Number(widthRatio, 3))
                )
            );
        }

        // Dimensionless: θ from the widest film, h = 1 + ε cos θ; y from the middle to the edge, −1 … 1 scaled by the width; pressure in
        // units of 6 μ ω (r/c)². ∂/∂θ(h³ ∂p/∂θ) + (d/l)² ∂/∂y(h³ ∂p/∂y) = ∂h/∂θ. Symmetric about the middle: half of it is solved.
        var dTheta = 2 * Math.PI / Around;
        var dY = 1.0 / Across;
        var ratio = 1 / (widthRatio * widthRatio);
        var film = new double[Around];
        var cube = new double[Around];
        for (var i = 0; i < Around; i++)
        {
            film[i] = 1 + (eccentricity * Math.Cos(i * dTheta));
            cube[i] = Math.Pow(1 + (eccentricity * Math.Cos((i + 0.5) * dTheta)), 3);
        }

        // Row j = 0 is the middle, j = Across the edge, where the pressure is nil.
        var pressure = new double[Around, Across + 1];
        var relax = 2 / (1 + Math.Sin(Math.PI / Math.Max(Around / 2, 2 * Across)));
        for (var sweep = 0; sweep < MostSweeps; sweep++)
        {
            var (change, size) = (0.0, 0.0);
            // Pressure is nil at the widest film, where the oil comes in.
            for (var i = 1; i < Around; i++)
            {
                var (east, west) = (cube[i] / (dTheta * dTheta), cube[i - 1] / (dTheta * dTheta));
                var side = film[i] * film[i] * film[i] * ratio / (dY * dY);
                var source = (film[(i + 1) % Around] - film[i - 1]) / (2 * dTheta);
                var whole = east + west + (2 * side);
                for (var j = 0; j < Across; j++)
                {
                    var above = j == 0 ? pressure[i, 1] : pressure[i, j - 1];
                    var next =
                        ((east * pressure[(i + 1) % Around, j]) + (west * pressure[i - 1, j]) + (side * (pressure[i, j + 1] + above)) - source)
                        / whole;
                    var value = Math.Max(0, pressure[i, j] + (relax * (next - pressure[i, j])));
                    change += Math.Abs(value - pressure[i, j]);
                    size += value;
                    pressure[i, j] = value;
                }
            }

            if (change <= Tolerance * size)
            {
                break;
            }
        }

        return Integrate(eccentricity, widthRatio, film, pressure, dTheta, dY);
    }

    private static JournalBearing Integrate(double eccentricity, double widthRatio, double[] film, double[,] pressure, double dTheta, double dY)
    {
        // Mean over the width by Simpson would gain little: the trapezium's error is below the grid's.
        var (along, cross, most, shear) = (0.0, 0.0, 0.0, 0.0);
        for (var i = 0; i < Around; i++)
        {
            var mean = pressure[i, 0] / 2;
            for (var j = 1; j < Across; j++)
            {
                mean += pressure[i, j];
                most = Math.Max(most, pressure[i, j]);
            }

            mean *= dY;
            most = Math.Max(most, pressure[i, 0]);
            along += mean * Math.Cos(i * dTheta) * dTheta;
            cross += mean * Math.Sin(i * dTheta) * dTheta;
            shear += dTheta / film[i];
        }

        // Load per width and radius, in units of 6 μ ω (r/c)²; P = W/(2 r l) is half of it, and S = (r/c)² μ N / P with N = ω/2π.
        var load = Math.Sqrt((along * along) + (cross * cross));
        var sommerfeld = 1 / (2 * Math.PI * 3 * load);
        // Shaft friction: ∫ (μ U/h + h/2 dp/dx), the second part being ε/2 W sin φ by moments about the two centres.
        var attitude = Math.Atan2(Math.Abs(cross), -along);
        var torque = shear + (3 * eccentricity * load * Math.Sin(attitude));
        var friction = torque / (6 * load);
        return new JournalBearing(
            eccentricity,
            sommerfeld,
            1 - eccentricity,
            friction,
            FlowIn(film, pressure, dTheta),
            load / 2 / most,
            attitude * 180 / Math.PI
        );
    }

    /// <summary>
    /// Oil that enters the film at its widest place: what the shaft drags in, less what the pressure presses back. Q = ∫ (U h/2 − h³/12μ
    /// dp/dx) dy there.
    /// </summary>
    private static double FlowIn(double[] film, double[,] pressure, double dTheta)
    {
        var back = pressure[1, 0] / 2;
        for (var j = 1; j < Across; j++)
        {
            back += pressure[1, j];
        }

        back /= Across;
        // In units of r c N l: U = 2π r N, so the drag is π h; the pressure part is −π h³ dp/dθ in the units chosen.
        var h = (film[0] + film[1]) / 2;
        return Math.PI * (h - (h * h * h * back / dTheta));
    }

    /// <summary>
    /// Ocvirk's short-bearing solution: S (l/d)² = (1 − ε²)² / (π ε √(π² (1 − ε²) + 16 ε²)). Holds for l/d up to about 0.5.
    /// Source: G. B. DuBois and F. W. Ocvirk, NACA report 1157 (1953); any tribology text.
    /// </summary>
    public static double OcvirkSommerfeld(double eccentricity, double widthRatio)
    {
        var rest = 1 - (eccentricity * eccentricity);
        return rest
            * rest
            / (Math.PI * eccentricity * Math.Sqrt((Math.PI * Math.PI * rest) + (16 * eccentricity * eccentricity)))
            / (widthRatio * widthRatio);
    }
}
