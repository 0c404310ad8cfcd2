namespace VividSleuth.Core.Pictures;

/// <summary>An edge where a section crosses it.</summary>
/// <param name="At">In the picture, in pixels.</param>
/// <param name="Step">By how much the light changes there, from before to behind.</param>
/// <param name="Uncertainty">Standard uncertainty along the section, in pixels.</param>
public sealed record Edge(Spot At, double Step, double Uncertainty);

/// <summary>Edges of what is seen, to a fraction of a pixel.</summary>
public static class Edges
{
    /// <summary>Samples for a pixel along a section.</summary>
    private const int Fine = 4;

    /// <summary>An edge changes the light by so many deviations of the noise, or it is none.</summary>
    private const double Sure = 5;

    /// <summary>Noise of the change, for a pixel, over that of the mean light of a section; of white noise between pixels, seen by drawing some.</summary>
    private const double OfChange = 0.5;

    /// <summary>
    /// Edges along a section, from its beginning: where the light, averaged across the section, changes most, found between samples by the parabola through the greatest change and its neighbours (F. Devernay, A
    /// Non-Maxima Suppression Method for Edge Detection with Sub-Pixel Accuracy, INRIA RR-2724, 1995; from memory).
    /// </summary>
    /// <param name="across">How wide the section is, in pixels: what lies across it is averaged.</param>
    public static IReadOnlyList<Edge> Along(Raster picture, Spot from, Spot to, double across = 3)
    {
        var length = (to - from).Length;
        if (length < 4)
        {
            return [];
        }

        var along = 1 / length * (to - from);
        var square = new Spot(-along.Y, along.X);
        var wide = Math.Clamp((int)Math.Round(across), 3, 99);
        var light = new double[(int)(length * Fine) + 1];
        var spread = new double[light.Length];
        Span<double> row = stackalloc double[wide];
        for (var n = 0; n < light.Length; n++)
        {
            for (var w = 0; w < wide; w++)
            {
                row[w] = picture.At(from + ((double)n / Fine * along) + ((w - ((wide - 1) / 2.0)) * square));
                light[n] += row[w] / wide;
            }

            foreach (var r in row)
            {
                spread[n] += (r - light[n]) * (r - light[n]);
            }

            spread[n] = Math.Sqrt(spread[n] / (wide - 1) / wide);
        }

        // Smoothed by about a pixel, so that the noise of single pixels makes no edges, and then how it changes.
        var smooth = Smoothed(light, Fine);
        var change = Enumerable
            .Range(0, smooth.Length)
            .Select(n => n == 0 || n == smooth.Length - 1 ? 0 : (smooth[n + 1] - smooth[n - 1]) / 2 * Fine)
            .ToArray();
        // By how the light differs across the section, where it should be one: along it, edges may follow each other with no quiet place between.
        var noise = OfChange * Median(spread);
        var least = Math.Max(Sure * noise, 0.25 * change.Max(Math.Abs));
        var edges = new List<Edge>();
        for (var n = 2; n < change.Length - 2; n++)
        {
            var (before, here, behind) = (Math.Abs(change[n - 1]), Math.Abs(change[n]), Math.Abs(change[n + 1]));
            if (here < least || here < before || here <= behind || here < 1e-6)
            {
                continue;
            }

            var off = (before - behind) / (2 * (before - (2 * here) + behind));
            var (low, high) = (Plateau(smooth, n, -1), Plateau(smooth, n, 1));
            edges.Add(new Edge(from + ((n + off) / Fine * along), high - low, Math.Max(LeastDoubt, noise / here)));
        }

        return edges;
    }

    /// <summary>No edge is told as better than to this, in pixels: the grid of the sensor and its own working over of the picture. Ours.</summary>
    public const double LeastDoubt = 0.1;

    private static double Median(double[] of) => of.Order().ElementAt(of.Length / 2);

    private static double Plateau(double[] light, int at, int way) => light[Math.Clamp(at + (way * 3 * Fine), 0, light.Length - 1)];

    private static double[] Smoothed(double[] light, int deviation)
    {
        var reach = 3 * deviation;
        var weights = Enumerable.Range(-reach, (2 * reach) + 1).Select(d => Math.Exp(-d * d / (2.0 * deviation * deviation))).ToArray();
        var sum = weights.Sum();
        return
        [
            .. Enumerable
                .Range(0, light.Length)
                .Select(n => weights.Select((w, d) => w * light[Math.Clamp(n + d - reach, 0, light.Length - 1)]).Sum() / sum),
        ];
    }
}
