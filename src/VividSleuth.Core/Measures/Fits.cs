namespace VividSleuth.Core.Measures;

/// <summary>Tolerance grades of ISO 286-1 and fits of rolling bearings on shafts.</summary>
public static class Fits
{
    /// <summary>Nominal ranges up to 500 mm: each reaches from the one before it. Source: ISO 286-1, table of main ranges.</summary>
    private static readonly double[] Ranges = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];

    /// <summary>
    /// Standard tolerances in µm by grade, one for each range. They are read from the table, since the standard rounds its formula
    /// i = 0.45 ∛D + 0.001 D in steps that no single rule of rounding gives. Source: ISO 286-1, table 1; values from memory.
    /// </summary>
    private static readonly Dictionary<int, double[]> Table = new()
    {
        [5] = [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
        [6] = [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
        [7] = [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
        [8] = [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
        [9] = [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
        [10] = [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
        [11] = [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
    };

    /// <summary>Standard tolerance of a grade in µm.</summary>
    /// <param name="grade">IT 5 to 11.</param>
    /// <param name="size">Nominal size, above 0 up to 500 mm.</param>
    public static double Tolerance(int grade, double size)
    {
        if (!Table.TryGetValue(grade, out var widths))
        {
            throw new ProblemException(Problem.Of("grade", "measures.not-reckoned-here", ("grade", grade)));
        }

        var range = Array.FindIndex(Ranges, r => size <= r);
        return size > 0 && range >= 0
            ? widths[range]
            : throw new ProblemException(Problem.Of("size", "measures.mm-lies-outside-table", ("size", size)));
    }

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
