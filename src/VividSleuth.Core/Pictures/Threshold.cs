namespace VividSleuth.Core.Pictures;

/// <summary>What is dark and what is light in a picture.</summary>
public static class Threshold
{
    private const int Bins = 256;

    /// <summary>
    /// The light that parts a picture best into two: where the variance between what is darker and what is lighter is greatest. Of several that part it alike, their mean.
    /// N. Otsu, A Threshold Selection Method from Gray-Level Histograms, IEEE Transactions on Systems, Man, and Cybernetics 9 (1979) 62–66.
    /// </summary>
    /// <returns>From 0 to 1, and the share of the whole variance that lies between the two, 1 where the picture has but two lights; null where it has one light only.</returns>
    public static (double Light, double Apart)? Otsu(ReadOnlySpan<float> light)
    {
        var counts = new long[Bins];
        foreach (var l in light)
        {
            counts[Math.Clamp((int)(l * Bins), 0, Bins - 1)]++;
        }

        double all = light.Length;
        double mean = counts.Select((c, b) => c * (double)b).Sum() / all;
        double whole = counts.Select((c, b) => c * (b - mean) * (b - mean)).Sum() / all;
        if (whole == 0)
        {
            return null;
        }

        var (best, at, ties, below, sum) = (-1.0, 0.0, 0, 0.0, 0.0);
        for (var b = 0; b < Bins - 1; b++)
        {
            below += counts[b] / all;
            sum += counts[b] / all * b;
            if (below is 0 or 1)
            {
                continue;
            }

            var between = Math.Pow((mean * below) - sum, 2) / (below * (1 - below));
            if (between > best + (1e-12 * whole))
            {
                (best, at, ties) = (between, b, 1);
            }
            else if (Math.Abs(between - best) <= 1e-12 * whole)
            {
                at += b;
                ties++;
            }
        }

        return (((at / ties) + 1) / Bins, best / whole);
    }

    /// <summary>
    /// Which pixels are darker than what is about them by a share: the mean of a square about each is compared, so that light that falls from one side parts nothing. D. Bradley and G. Roth, Adaptive Thresholding
    /// Using the Integral Image, Journal of Graphics Tools 12 (2007) 13–21: a window of an eighth of the picture, 15 %.
    /// </summary>
    public static bool[] DarkerThanAround(Raster picture, double share = 0.15)
    {
        var (width, height) = (picture.Width, picture.Height);
        var half = Math.Max(2, Math.Max(width, height) / 16);
        var sums = new double[(width + 1) * (height + 1)];
        for (var y = 0; y < height; y++)
        {
            var row = 0.0;
            for (var x = 0; x < width; x++)
            {
                row += picture[x, y];
                sums[((y + 1) * (width + 1)) + x + 1] = sums[(y * (width + 1)) + x + 1] + row;
            }
        }

        var dark = new bool[width * height];
        for (var y = 0; y < height; y++)
        {
            var (top, below) = (Math.Max(0, y - half), Math.Min(height, y + half + 1));
            for (var x = 0; x < width; x++)
            {
                var (left, right) = (Math.Max(0, x - half), Math.Min(width, x + half + 1));
                var sum =
                    sums[(below * (width + 1)) + right]
                    - sums[(top * (width + 1)) + right]
                    - sums[(below * (width + 1)) + left]
                    + sums[(top * (width + 1)) + left];
                dark[(y * width) + x] = picture[x, y] * (right - left) * (below - top) < sum * (1 - share);
            }
        }

        return dark;
    }
}
