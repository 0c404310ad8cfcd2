namespace VividSleuth.Core.Measures;

/// <summary>Tolerance grades of ISO 286-1 and fits of rolling bearings on shafts.</summary>
public static class Fits
{
    /// <summary>Nominal ranges up to 500 mm: each reaches from the one before it. Source: ISO 286-1, table of main ranges.</summary>
    private static readonly double[] Ranges = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];

    private static readonly Dictionary<int, double> Units = new()
    {
        [5] = 7,
        [6] = 10,
        [7] = 16,
        [8] = 25,
        [9] = 40,
        [10] = 64,
        [11] = 100,
    };

    /// <summary>Standard tolerance factor i = 0.45 ∛D + 0.001 D in µm, D the geometric mean of the range in mm. Source: ISO 286-1.</summary>
    public static double Factor(double size)
    {
        var above = Array.FindIndex(Ranges, r => size <= r);
        if (size <= 0 || above < 0)
        {
            throw new ProblemException(Problem.Of("size", "measures.mm-lies-outside-table", ("size", size)));
        }

        var mean = above == 0 ? Math.Sqrt(3) : Math.Sqrt(Ranges[above - 1] * Ranges[above]);
        return (0.45 * Math.Cbrt(mean)) + (0.001 * mean);
    }

    /// <summary>Standard tolerance of a grade in µm, rounded as the standard rounds: to whole µm up to 60.</summary>
    /// <param name="grade">IT 5 to 11.</param>
    public static double Tolerance(int grade, double size) =>
        Units.TryGetValue(grade, out var units)
            ? Math.Round(units * Factor(size), MidpointRounding.AwayFromZero)
            : throw new ProblemException(Problem.Of("grade", "measures.not-reckoned-here", ("grade", grade)));

    /// <summary>
    /// Interference of a rolling bearing's bore on a shaft in µm, from the measured shaft and the bearing's tolerance (Normal class, ISO 492:
    /// bore 0/−10 µm at 18–30 mm, 0/−12 at 30–50; values from memory): least and most. Below nil is play.
    /// </summary>
    /// <param name="nominal">Nominal bore, mm.</param>
    /// <param name="shaft">Measured shaft, mm.</param>
    public static (double Least, double Most) OnShaft(double nominal, double shaft)
    {
        var depth =
            nominal is > 18 and <= 30 ? 10
            : nominal is > 30 and <= 50 ? 12
            : nominal is > 10 and <= 18 ? 8
            : throw new ProblemException(Problem.Of("nominal", "measures.tolerance-bore-mm-not-known", ("nominal", nominal)));
        var over = (shaft - nominal) * 1000;
        return (over, over + depth);
    }
}
