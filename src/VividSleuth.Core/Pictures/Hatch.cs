using System.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace VividSleuth.Core.Pictures;

/// <summary>Lines that run one way.</summary>
/// <param name="Angle">In degrees from the picture’s rows, anticlockwise as it is seen, from -90 to 90.</param>
/// <param name="Spread">Standard deviation of the directions about it, in degrees.</param>
/// <param name="Share">Of all that has a direction.</param>
public sealed record LineFamily(double Angle, double Spread, double Share);

/// <summary>Two families of lines that cross, as one way of reckoning has them.</summary>
public sealed record Crossing(LineFamily One, LineFamily Other)
{
    /// <summary>The angle that opens towards the rows’ direction, between the two, in degrees from 0 to 180: of a bore whose axis stands upright in the picture, the included angle of its hatch.</summary>
    public double Included => Math.Abs(One.Angle - Other.Angle);
}

/// <summary>What the lines of a picture say by two ways of reckoning that share nothing.</summary>
/// <param name="Lines">By the lines on which many points lie; null where there are no two families.</param>
/// <param name="Spectrum">By the spectrum of pieces of the picture; null where there are no two.</param>
public sealed record Hatch(Crossing? Lines, Crossing? Spectrum)
{
    /// <summary>Both see two families, at angles that differ by no more than this, in degrees. Ours.</summary>
    public const double Agreeing = 3;

    public bool Agrees =>
        Lines is { } t
        && Spectrum is { } s
        && Directions.Apart(t.One.Angle, s.One.Angle) <= Agreeing
        && Directions.Apart(t.Other.Angle, s.Other.Angle) <= Agreeing;

    /// <summary>The included angle, the mean of both, and its standard uncertainty; null where they do not agree.</summary>
    public (double Angle, double Uncertainty)? Included =>
        Agrees ? ((Lines!.Included + Spectrum!.Included) / 2, Math.Max(Least, Math.Abs(Lines.Included - Spectrum.Included) / Math.Sqrt(2))) : null;

    /// <summary>No reckoning from pixels is told as better than this, in degrees. Ours.</summary>
    private const double Least = 0.5;
}

/// <summary>The directions of lines in a picture.</summary>
public static class Directions
{
    private const int Bins = 180;

    /// <summary>Families nearer to each other than this, in degrees, are one.</summary>
    private const double LeastApart = 12;

    /// <summary>The lesser family has so much of what the greater has, or it is none.</summary>
    private const double LeastShare = 0.2;

    /// <summary>Directions belong to a family within so many degrees of it.</summary>
    private const double Reach = 8;

    private const int Piece = 128;

    /// <summary>How far two directions are apart, in degrees: 0 to 90, since a line runs both ways.</summary>
    public static double Apart(double a, double b)
    {
        var apart = Math.Abs(a - b) % 180;
        return Math.Min(apart, 180 - apart);
    }

    /// <param name="picture">Of a surface seen square on.</param>
    public static Hatch Of(Raster picture) => new(Crossing(ByLines(picture)), Crossing(BySpectrum(picture)));

    /// <summary>
    /// How much of the picture runs each way, by the structure tensor: the direction in which the light about a pixel changes least, by how sure it is (its coherence) and how much changes there. For one family: where two lie over each other it finds what is between them. J. Bigün and G. H.
    /// Granlund, Optimal Orientation Detection of Linear Symmetry, ICCV 1987; gradients by the operator of H. Scharr (2000); from memory.
    /// </summary>
    /// <returns>By degrees from -90, anticlockwise.</returns>
    public static double[] ByTensor(Raster picture)
    {
        var (width, height) = (picture.Width, picture.Height);
        var bins = new double[Bins];
        if (width < 5 || height < 5)
        {
            return bins;
        }

        var (xx, xy, yy) = (new float[width * height], new float[width * height], new float[width * height]);
        for (var y = 1; y < height - 1; y++)
        {
            for (var x = 1; x < width - 1; x++)
            {
                var gx =
                    (3 * (picture[x + 1, y - 1] - picture[x - 1, y - 1]))
                    + (10 * (picture[x + 1, y] - picture[x - 1, y]))
                    + (3 * (picture[x + 1, y + 1] - picture[x - 1, y + 1]));
                var gy =
                    (3 * (picture[x - 1, y + 1] - picture[x - 1, y - 1]))
                    + (10 * (picture[x, y + 1] - picture[x, y - 1]))
                    + (3 * (picture[x + 1, y + 1] - picture[x + 1, y - 1]));
                var at = (y * width) + x;
                (xx[at], xy[at], yy[at]) = (gx * gx, gx * gy, gy * gy);
            }
        }

        for (var y = 2; y < height - 2; y++)
        {
            for (var x = 2; x < width - 2; x++)
            {
                var (a, b, c) = (About(xx, x, y), About(xy, x, y), About(yy, x, y));
                var (sum, apart) = (a + c, Math.Sqrt(((a - c) * (a - c)) + (4 * b * b)));
                if (sum <= 0)
                {
                    continue;
                }

                var coherence = apart / sum;
                // Across the line the light changes most; rows count downwards, angles anticlockwise.
                var across = 0.5 * Math.Atan2(2 * b, a - c);
                Add(bins, 90 - (across * 180 / Math.PI), coherence * coherence * Math.Sqrt(sum));
            }
        }

        return bins;

        double About(float[] of, int x, int y)
        {
            var sum = 0f;
            for (var j = -1; j <= 1; j++)
            {
                var row = ((y + j) * width) + x;
                sum += (of[row - 1] + (2 * of[row]) + of[row + 1]) * (2 - Math.Abs(j));
            }

            return sum;
        }
    }

    /// <summary>Points at which it is asked which way the line there runs.</summary>
    private const int Asked = 3000;

    private const int Turns = 90;

    /// <summary>From tap to tap of a line filter, in pixels; also the deviation of a line’s profile.</summary>
    private const double Tap = 1.5;

    private const int HalfAlong = 10;

    private const int HalfAcross = 3;

    /// <summary>
    /// How much of the picture runs each way, by the line that each of many points lies on: the direction in which a long narrow filter, the second derivative of a Gauss curve across and a Gauss curve along, answers
    /// most. Where two families cross, it follows one and averages the other away. After W. T. Freeman and E. H. Adelson, The Design and Use of Steerable Filters, IEEE Transactions on Pattern Analysis and Machine Intelligence 13
    /// (1991) 891–906, here turned and not steered; from memory.
    /// </summary>
    /// <returns>By degrees from -90, anticlockwise.</returns>
    public static double[] ByLines(Raster picture)
    {
        var bins = new double[Bins];
        var edge = (int)Math.Ceiling(Tap * (HalfAlong + HalfAcross));
        var (wide, high) = (picture.Width - (2 * edge), picture.Height - (2 * edge));
        if (wide < 8 || high < 8)
        {
            return bins;
        }

        var filters = Enumerable.Range(0, Turns).Select(t => Taps(Math.PI * t / Turns)).ToArray();
        var step = Math.Max(1, Math.Sqrt((double)wide * high / Asked));
        var answers = new double[Turns];
        for (var y = edge + (step / 2); y < edge + high; y += step)
        {
            for (var x = edge + (step / 2); x < edge + wide; x += step)
            {
                for (var t = 0; t < Turns; t++)
                {
                    var sum = 0.0;
                    foreach (var (off, weight) in filters[t])
                    {
                        sum += weight * picture.At(new Spot(x + off.X, y + off.Y));
                    }

                    answers[t] = Math.Abs(sum);
                }

                var best = Array.IndexOf(answers, answers.Max());
                var (before, here, behind) = (answers[(best + Turns - 1) % Turns], answers[best], answers[(best + 1) % Turns]);
                var bend = before - (2 * here) + behind;
                var off2 = bend < 0 ? (before - behind) / (2 * bend) : 0;
                Add(bins, (best + off2) * 180 / Turns, here - answers.Order().ElementAt(Turns / 2));
            }
        }

        return bins;
    }

    /// <summary>The taps of a line filter that runs so far anticlockwise from the rows.</summary>
    private static (Spot Off, double Weight)[] Taps(double angle)
    {
        var (along, across) = (new Spot(Math.Cos(angle), -Math.Sin(angle)), new Spot(Math.Sin(angle), Math.Cos(angle)));
        var profile = Enumerable.Range(-HalfAcross, (2 * HalfAcross) + 1).Select(w => ((w * w) - 1) * Math.Exp(-w * w / 2.0)).ToArray();
        // What is even has no line in it.
        var even = profile.Average();
        return
        [
            .. from l in Enumerable.Range(-HalfAlong, (2 * HalfAlong) + 1)
            from w in Enumerable.Range(-HalfAcross, (2 * HalfAcross) + 1)
            select ((Tap * l * along) + (Tap * w * across), Math.Exp(-l * l / (HalfAlong * HalfAlong / 2.0)) * (profile[w + HalfAcross] - even)),
        ];
    }

    /// <summary>
    /// How much of the picture runs each way, by the power spectrum of pieces of it (Welch 1967: windowed by Hann’s, half over each other, their mean): lines put their power on a ray square to them.
    /// </summary>
    /// <returns>By degrees from -90, anticlockwise.</returns>
    public static double[] BySpectrum(Raster picture)
    {
        var bins = new double[Bins];
        var piece = Math.Min(Piece, 1 << (int)Math.Log2(Math.Min(picture.Width, picture.Height)));
        if (piece < 32)
        {
            return bins;
        }

        var power = new double[piece * piece];
        var window = MathNet.Numerics.Window.HannPeriodic(piece);
        var lines = new Complex[piece];
        var block = new Complex[piece * piece];
        for (var top = 0; top + piece <= picture.Height; top += piece / 2)
        {
            for (var left = 0; left + piece <= picture.Width; left += piece / 2)
            {
                var mean = 0.0;
                for (var n = 0; n < piece * piece; n++)
                {
                    mean += picture[left + (n % piece), top + (n / piece)];
                }

                mean /= piece * piece;
                for (var n = 0; n < piece * piece; n++)
                {
                    block[n] = (picture[left + (n % piece), top + (n / piece)] - mean) * window[n % piece] * window[n / piece];
                }

                Transform(block, piece, lines);
                for (var n = 0; n < piece * piece; n++)
                {
                    power[n] += (block[n].Real * block[n].Real) + (block[n].Imaginary * block[n].Imaginary);
                }
            }
        }

        // Of each ring of the spectrum its own mean is taken away: light that lies unevenly has all directions, and is stronger the coarser it is.
        var half = piece / 2;
        for (var radius = 4; radius < half; radius++)
        {
            const int Rays = 720;
            var ring = new double[Rays];
            for (var ray = 0; ray < Rays; ray++)
            {
                var angle = Math.PI * ray / Rays;
                ring[ray] = Math.Sqrt(Power(radius * Math.Cos(angle), radius * Math.Sin(angle)));
            }

            var usual = ring.Order().ElementAt(Rays / 2);
            for (var ray = 0; ray < Rays; ray++)
            {
                Add(bins, 90 - (180.0 * ray / Rays), Math.Max(0, ring[ray] - usual) * radius);
            }
        }

        return bins;

        double Power(double u, double v)
        {
            var (x, y) = (Math.Floor(u), Math.Floor(v));
            var (fx, fy) = (u - x, v - y);
            double P(double a, double b) => power[((((int)b % piece) + piece) % piece * piece) + ((((int)a % piece) + piece) % piece)];
            return (((P(x, y) * (1 - fx)) + (P(x + 1, y) * fx)) * (1 - fy)) + (((P(x, y + 1) * (1 - fx)) + (P(x + 1, y + 1) * fx)) * fy);
        }
    }

    private static void Transform(Complex[] block, int piece, Complex[] line)
    {
        for (var y = 0; y < piece; y++)
        {
            Array.Copy(block, y * piece, line, 0, piece);
            Fourier.Forward(line, FourierOptions.NoScaling);
            Array.Copy(line, 0, block, y * piece, piece);
        }

        for (var x = 0; x < piece; x++)
        {
            for (var y = 0; y < piece; y++)
            {
                line[y] = block[(y * piece) + x];
            }

            Fourier.Forward(line, FourierOptions.NoScaling);
            for (var y = 0; y < piece; y++)
            {
                block[(y * piece) + x] = line[y];
            }
        }
    }

    private static void Add(double[] bins, double angle, double weight)
    {
        // Shared between the two degrees on either side of it.
        var at = (((angle + 90) % 180) + 180) % 180;
        var low = (int)at;
        bins[low % Bins] += weight * (1 - (at - low));
        bins[(low + 1) % Bins] += weight * (at - low);
    }

    /// <summary>The two families of what runs each way; null where there are not two.</summary>
    private static Crossing? Crossing(double[] bins)
    {
        var smooth = Enumerable
            .Range(0, Bins)
            .Select(b => Enumerable.Range(-3, 7).Sum(d => (4 - Math.Abs(d)) * bins[(b + d + Bins) % Bins]))
            .ToArray();
        var floor = smooth.Order().ElementAt(Bins / 4);
        var peaks = Enumerable
            .Range(0, Bins)
            .Where(b => smooth[b] > smooth[(b + Bins - 1) % Bins] && smooth[b] >= smooth[(b + 1) % Bins])
            .OrderByDescending(b => smooth[b])
            .ToArray();
        if (peaks.Length < 2)
        {
            return null;
        }

        var first = peaks[0];
        var second = peaks.Skip(1).Where(p => Apart(p, first) >= LeastApart).Select(p => (int?)p).FirstOrDefault();
        if (second is not { } other || smooth[other] - floor < LeastShare * (smooth[first] - floor))
        {
            return null;
        }

        var all = bins.Sum();
        LineFamily[] families = [.. new[] { first, other }.Select(p => Family(bins, p - 90.0, all)).OrderBy(f => f.Angle)];
        return new Crossing(families[1], families[0]);
    }

    /// <summary>Mean and deviation of the directions about a peak, without what runs every way.</summary>
    private static LineFamily Family(double[] bins, double peak, double all)
    {
        var at = peak;
        var (spread, share) = (0.0, 0.0);
        for (var round = 0; round < 5; round++)
        {
            var near = Enumerable
                .Range(0, Bins)
                .Select(b => (Turn: Signed(b - 90 - at), Weight: bins[b]))
                .Where(n => Math.Abs(n.Turn) <= Reach)
                .ToArray();
            var floor = near.Min(n => n.Weight);
            var sum = near.Sum(n => n.Weight - floor);
            if (sum <= 0)
            {
                break;
            }

            var mean = near.Sum(n => (n.Weight - floor) * n.Turn) / sum;
            spread = Math.Sqrt(near.Sum(n => (n.Weight - floor) * (n.Turn - mean) * (n.Turn - mean)) / sum);
            share = sum / all;
            at += mean;
        }

        return new LineFamily(Signed(at), spread, share);
    }

    /// <summary>A direction from -90 to 90.</summary>
    private static double Signed(double angle) => ((((angle + 90) % 180) + 180) % 180) - 90;
}
