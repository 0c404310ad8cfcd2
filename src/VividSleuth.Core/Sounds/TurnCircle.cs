namespace VividSleuth.Core.Sounds;

/// <summary>
/// How loud one band is over a cycle: the mean of all cycles heard (time synchronous averaging, McFadden, “A revised model for the extraction of periodic
/// waveforms by time domain averaging”, Mechanical Systems and Signal Processing 1, 1987), with what the mean may be off by.
/// </summary>
/// <param name="Mean">By step of <see cref="Step"/> degrees from the beginning of the cycle, as a multiple of the band’s mean.</param>
/// <param name="Standard">Standard error of each.</param>
/// <param name="Cycles">How many were heard.</param>
public sealed record TurnCircle(Band Band, int Degrees, double[] Mean, double[] Standard, int Cycles)
{
    /// <summary>Crank degrees from one value to the next.</summary>
    public const int Step = 3;

    // What a knock is spread over in an envelope, in degrees to either side.
    private const int Spread = 2;

    public int Count => Mean.Length;

    public int Wrapped(int i) => ((i % Count) + Count) % Count;

    public int IndexOf(double degrees) => Wrapped((int)Math.Round(degrees / Step));

    /// <summary>Each whole cycle by itself, smoothed over a knock’s width, as loud as it was.</summary>
    public static IReadOnlyList<float[]> Rows(float[] envelope, double rate, CrankTrack track, int degrees) =>
        [.. track.Resampled(envelope, rate, degrees / Step).Chunk(degrees / Step).Select(Smoothed)];

    public static TurnCircle Of(Band band, int degrees, IReadOnlyList<float[]> rows)
    {
        var count = degrees / Step;
        var (mean, standard) = (new double[count], new double[count]);
        foreach (var row in rows)
        {
            for (var i = 0; i < count; i++)
            {
                mean[i] += row[i];
                standard[i] += row[i] * row[i];
            }
        }

        for (var i = 0; i < count; i++)
        {
            mean[i] /= rows.Count;
            var variance = Math.Max(0, (standard[i] / rows.Count) - (mean[i] * mean[i])) * rows.Count / Math.Max(1, rows.Count - 1);
            standard[i] = Math.Sqrt(variance / rows.Count);
        }

        var level = Math.Max(1e-12, mean.Average());
        return new TurnCircle(band, degrees, [.. mean.Select(m => m / level)], [.. standard.Select(s => s / level)], rows.Count);
    }

    private static float[] Smoothed(float[] row)
    {
        var smooth = new float[row.Length];
        for (var i = 0; i < row.Length; i++)
        {
            for (var j = -Spread; j <= Spread; j++)
            {
                smooth[i] += row[(i + j + row.Length) % row.Length] / ((2 * Spread) + 1);
            }
        }

        return smooth;
    }
}
