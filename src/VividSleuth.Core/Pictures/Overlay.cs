using System.Numerics;
using MathNet.Numerics.IntegralTransforms;
using MathNet.Numerics.LinearAlgebra.Double;

namespace VividSleuth.Core.Pictures;

/// <summary>Where something changed from one picture to the other, in pixels of the first.</summary>
/// <param name="By">How much the light changed there on the average, in deviations of what is noise.</param>
public sealed record Change(double Left, double Top, double Right, double Bottom, double By);

/// <summary>One picture brought over another: a point p of the first is seen at Scale · R(Turn) p + Shift in the second.</summary>
/// <param name="Turn">In degrees, clockwise as pictures are seen.</param>
/// <param name="Scale">How much larger the second shows it.</param>
/// <param name="Alike">Correlation of the two where they lie over each other, 1 of one and the same.</param>
/// <param name="Changes">What changed beyond noise, the greatest first.</param>
public sealed record Overlay(double Turn, double Scale, Spot Shift, double Alike, IReadOnlyList<Change> Changes)
{
    /// <summary>Less alike than this, two pictures do not show the same thing, or not from the same side. Ours.</summary>
    public const double LeastAlike = 0.35;

    /// <summary>Pixels on a side in which the turn is looked for.</summary>
    private const int Side = 256;

    /// <summary>A square of this many pixels is told as changed or not.</summary>
    private const int Square = 16;

    /// <summary>So many deviations away is no noise.</summary>
    private const double Beyond = 6;

    /// <summary>And where a single square alone changed, so many.</summary>
    private const double BeyondAlone = 10;

    /// <summary>A point of the first, in the second.</summary>
    public Spot In(Spot first)
    {
        var (cos, sin) = (Scale * Math.Cos(Turn * Math.PI / 180), Scale * Math.Sin(Turn * Math.PI / 180));
        return new Spot((cos * first.X) - (sin * first.Y), (sin * first.X) + (cos * first.Y)) + Shift;
    }

    /// <summary>
    /// Brings two pictures over each other: turn and scale from their spectra in polar coordinates, the shift by phase correlation (B. S. Reddy and B. N. Chatterji, IEEE Transactions on Image Processing 5 (1996)
    /// 1266–1271; from memory), then all four by least squares of the light (B. D. Lucas and T. Kanade 1981).
    /// </summary>
    /// <returns>Null where they are not alike enough however they are laid.</returns>
    public static Overlay? Of(Raster first, Raster second)
    {
        var times = Math.Max(1, (int)Math.Ceiling(Math.Max(Math.Max(first.Width, first.Height), Math.Max(second.Width, second.Height)) / 640.0));
        var (a, b) = (first.Smaller(times), second.Smaller(times));
        if (Math.Min(Math.Min(a.Width, a.Height), Math.Min(b.Width, b.Height)) < 32)
        {
            return null;
        }

        Overlay? best = null;
        // Only what lies nearest already is worth the squares: the others are other turns.
        var likeliest = Turns(a, b)
            .Select(t => Shifted(a, b, t.Turn, t.Scale))
            .Select(o => o with { Alike = AlikeOf(a, b, o) })
            .OrderByDescending(o => o.Alike)
            .Take(2);
        foreach (var laid in likeliest)
        {
            var refined = Refined(a, b, laid);
            if (best is null || refined.Alike > best.Alike)
            {
                best = refined;
            }
        }

        if (best is null || best.Alike < LeastAlike)
        {
            return null;
        }

        var changes = ChangesOf(a, b, best);
        // Back to the pixels of the whole pictures, whose middles lie half a pixel off.
        var half = (times - 1) / 2.0;
        var zero = best.In(new Spot(-half / times, -half / times));
        return best with
        {
            Shift = new Spot((times * zero.X) + half, (times * zero.Y) + half),
            Changes = [.. changes.Select(c => new Change(times * c.Left, times * c.Top, times * c.Right, times * c.Bottom, c.By))],
        };
    }

    private static IEnumerable<(double Turn, double Scale)> Turns(Raster a, Raster b)
    {
        var (one, other) = (Polar(Spectrum(Centred(a))), Polar(Spectrum(Centred(b))));
        var peak = Peaks(Correlated(one, other, Side), Side, 3);
        foreach (var (x, y) in peak)
        {
            // Half a turn covers all the rows; columns are the logarithm of the frequency.
            var turn = Wrapped(y, Side) * 180.0 / Side;
            var scale = Math.Exp(-Wrapped(x, Side) * Math.Log(Side / 2.0) / Side);
            if (scale is > 0.4 and < 2.5)
            {
                yield return (turn, scale);
                yield return (turn + 180, scale);
            }
        }

        yield return (0, 1);
    }

    /// <summary>The middle square of a picture at <see cref="Side"/>, with soft edges, about its mean.</summary>
    private static double[] Centred(Raster of)
    {
        var longer = (double)Math.Max(of.Width, of.Height);
        var mean = of.Light.ToArray().Average();
        var light = new double[Side * Side];
        for (var y = 0; y < Side; y++)
        {
            for (var x = 0; x < Side; x++)
            {
                var at = new Spot(
                    ((of.Width - 1) / 2.0) + ((x - ((Side - 1) / 2.0)) * longer / Side),
                    ((of.Height - 1) / 2.0) + ((y - ((Side - 1) / 2.0)) * longer / Side)
                );
                var soft = Math.Sin(Math.PI * (x + 0.5) / Side) * Math.Sin(Math.PI * (y + 0.5) / Side);
                light[(y * Side) + x] = of.Holds(at) ? soft * (of.At(at) - mean) : 0;
            }
        }

        return light;
    }

    private static Complex[] Transformed(double[] of, int side)
    {
        var c = of.Select(v => new Complex(v, 0)).ToArray();
        Both(c, side, Fourier.Forward);
        return c;
    }

    private static void Both(Complex[] of, int side, Action<Complex[], FourierOptions> way)
    {
        var row = new Complex[side];
        for (var y = 0; y < side; y++)
        {
            Array.Copy(of, y * side, row, 0, side);
            way(row, FourierOptions.Matlab);
            Array.Copy(row, 0, of, y * side, side);
        }

        for (var x = 0; x < side; x++)
        {
            for (var y = 0; y < side; y++)
            {
                row[y] = of[(y * side) + x];
            }

            way(row, FourierOptions.Matlab);
            for (var y = 0; y < side; y++)
            {
                of[(y * side) + x] = row[y];
            }
        }
    }

    private static double[] Spectrum(double[] light)
    {
        var c = Transformed(light, Side);
        var size = new double[Side * Side];
        for (var y = 0; y < Side; y++)
        {
            for (var x = 0; x < Side; x++)
            {
                size[((y + (Side / 2)) % Side * Side) + ((x + (Side / 2)) % Side)] = Math.Log(1 + c[(y * Side) + x].Magnitude);
            }
        }

        return size;
    }

    private static double[] Polar(double[] spectrum)
    {
        var polar = new double[Side * Side];
        var raster = new Raster(Side, Side, [.. spectrum.Select(v => (float)v)]);
        for (var y = 0; y < Side; y++)
        {
            var (sin, cos) = Math.SinCos(Math.PI * y / Side);
            for (var x = 0; x < Side; x++)
            {
                var r = Math.Exp(x * Math.Log(Side / 2.0) / Side);
                // What is slow in a picture is its light, not its shape.
                var weight = Math.Min(1, r / 12);
                polar[(y * Side) + x] = weight * raster.At(new Spot((Side / 2) + (r * cos), (Side / 2) + (r * sin)));
            }
        }

        var mean = polar.Average();
        return [.. polar.Select(p => p - mean)];
    }

    /// <summary>Phase correlation: how alike the second is to the first, moved by so many columns and rows.</summary>
    private static double[] Correlated(double[] first, double[] second, int side)
    {
        var (a, b) = (Transformed(first, side), Transformed(second, side));
        var c = new Complex[side * side];
        for (var n = 0; n < c.Length; n++)
        {
            var cross = b[n] * Complex.Conjugate(a[n]);
            c[n] = cross / Math.Max(1e-9, Math.Sqrt(cross.Magnitude));
        }

        Both(c, side, Fourier.Inverse);
        return [.. c.Select(v => v.Real)];
    }

    private static List<(int X, int Y)> Peaks(double[] of, int side, int most)
    {
        var peaks = new List<(int X, int Y)>();
        foreach (var n in Enumerable.Range(0, of.Length).OrderByDescending(n => of[n]).Take(400))
        {
            var (x, y) = (n % side, n / side);
            if (peaks.TrueForAll(p => Math.Abs(Wrapped(p.X - x, side)) > 3 || Math.Abs(Wrapped(p.Y - y, side)) > 3))
            {
                peaks.Add((x, y));
                if (peaks.Count == most)
                {
                    break;
                }
            }
        }

        return peaks;
    }

    private static int Wrapped(int n, int side) => (((n + (side / 2)) % side) + side) % side - (side / 2);

    private static Overlay Shifted(Raster a, Raster b, double turn, double scale)
    {
        // The second as it would be without turn and scale, about its middle.
        var (ca, cb) = (new Spot((a.Width - 1) / 2.0, (a.Height - 1) / 2.0), new Spot((b.Width - 1) / 2.0, (b.Height - 1) / 2.0));
        var about = new Overlay(turn, scale, new Spot(0, 0), 0, []);
        var straight = b.Seen(a.Width, a.Height, p => about.In(p - ca) + cb);
        var longer = (double)Math.Max(a.Width, a.Height);
        var peak = Peaks(Correlated(Centred(a), Centred(straight), Side), Side, 1)[0];
        var shift = longer / Side * new Spot(Wrapped(peak.X, Side), Wrapped(peak.Y, Side));
        return about with { Shift = about.In(shift) - about.In(ca) + cb };
    }

    private static Overlay Refined(Raster a, Raster b, Overlay first)
    {
        var now = first;
        foreach (var times in new[] { 8, 4, 2, 1 })
        {
            var (sa, sb) = (a.Smaller(times), b.Smaller(times));
            if (Math.Min(sa.Width, sa.Height) < 24)
            {
                continue;
            }

            for (var round = 0; round < 12; round++)
            {
                if (Step(sa, sb, now, times) is not { } next)
                {
                    break;
                }

                var alike = AlikeOf(a, b, next);
                if (alike < now.Alike - 1e-6)
                {
                    break;
                }

                var gained = alike - now.Alike;
                now = next with { Alike = alike };
                if (gained < 1e-6)
                {
                    break;
                }
            }
        }

        return now;
    }

    /// <summary>One step of Gauss and Newton over turn, scale and shift, with the light of the second as a gain and an offset of the first’s.</summary>
    private static Overlay? Step(Raster a, Raster b, Overlay now, int times)
    {
        var (cos, sin) = (now.Scale * Math.Cos(now.Turn * Math.PI / 180), now.Scale * Math.Sin(now.Turn * Math.PI / 180));
        var half = (times - 1) / 2.0;
        var normal = DenseMatrix.Create(6, 6, 0);
        var right = DenseVector.Create(6, 0);
        var used = 0;
        var step = Math.Max(1, Math.Min(a.Width, a.Height) / 160);
        Span<double> row = stackalloc double[6];
        for (var y = 1; y < a.Height - 1; y += step)
        {
            for (var x = 1; x < a.Width - 1; x += step)
            {
                var full = new Spot((x * times) + half, (y * times) + half);
                var seen = now.In(full);
                var at = new Spot((seen.X - half) / times, (seen.Y - half) / times);
                if (at.X < 1 || at.Y < 1 || at.X > b.Width - 2 || at.Y > b.Height - 2)
                {
                    continue;
                }

                var gx = (b.At(at + new Spot(1, 0)) - b.At(at - new Spot(1, 0))) / 2 / times;
                var gy = (b.At(at + new Spot(0, 1)) - b.At(at - new Spot(0, 1))) / 2 / times;
                var light = a[x, y];
                row[0] = (gx * full.X) + (gy * full.Y);
                row[1] = (-gx * full.Y) + (gy * full.X);
                row[2] = gx;
                row[3] = gy;
                row[4] = -light;
                row[5] = -1;
                var left = -b.At(at);
                for (var i = 0; i < 6; i++)
                {
                    right[i] += row[i] * left;
                    for (var j = 0; j < 6; j++)
                    {
                        normal[i, j] += row[i] * row[j];
                    }
                }

                used++;
            }
        }

        if (used < 200)
        {
            return null;
        }

        var moved = normal.Solve(right);
        if (moved.Any(m => !double.IsFinite(m)))
        {
            return null;
        }

        (cos, sin) = (cos + moved[0], sin + moved[1]);
        var scale = Math.Sqrt((cos * cos) + (sin * sin));
        return scale is < 0.3 or > 3
            ? null
            : now with
            {
                Scale = scale,
                Turn = 180 / Math.PI * Math.Atan2(sin, cos),
                Shift = now.Shift + new Spot(moved[2], moved[3]),
            };
    }

    private static double AlikeOf(Raster a, Raster b, Overlay by)
    {
        var (n, sa, sb, saa, sbb, sab) = (0, 0.0, 0.0, 0.0, 0.0, 0.0);
        var step = Math.Max(1, Math.Min(a.Width, a.Height) / 160);
        for (var y = 0; y < a.Height; y += step)
        {
            for (var x = 0; x < a.Width; x += step)
            {
                var at = by.In(new Spot(x, y));
                if (!b.Holds(at))
                {
                    continue;
                }

                var (p, q) = ((double)a[x, y], b.At(at));
                n++;
                sa += p;
                sb += q;
                saa += p * p;
                sbb += q * q;
                sab += p * q;
            }
        }

        // Alike over a corner only is no likeness.
        var share = n / (double)(((a.Width + step - 1) / step) * ((a.Height + step - 1) / step));
        var (va, vb) = ((saa * n) - (sa * sa), (sbb * n) - (sb * sb));
        return share < 0.2 || va <= 0 || vb <= 0 ? 0 : ((sab * n) - (sa * sb)) / Math.Sqrt(va * vb);
    }

    private static List<Change> ChangesOf(Raster a, Raster b, Overlay by)
    {
        // The same light in both: gain and offset by squares, so that another lamp is no change.
        var (across, down) = (a.Width / Square, a.Height / Square);
        var apart = new double[across * down];
        for (var n = 0; n < apart.Length; n++)
        {
            apart[n] = Apart(n % across * Square, n / across * Square);
        }

        var known = apart.Where(v => !double.IsNaN(v)).Order().ToArray();
        if (known.Length < 8)
        {
            return [];
        }

        var middle = known[known.Length / 2];
        var spread = Math.Max(1.4826 * known.Select(v => Math.Abs(v - middle)).Order().ElementAt(known.Length / 2), 0.004);
        var changed = apart.Select(v => !double.IsNaN(v) && v > middle + (Beyond * spread)).ToArray();
        var regions = Regions.Of(changed, across, down);
        return
        [
            .. regions
                .All.Select(r => new Change(
                    r.Left * Square,
                    r.Top * Square,
                    (r.Right + 1) * Square,
                    (r.Bottom + 1) * Square,
                    Enumerable.Range(0, apart.Length).Where(n => regions.Labels[n] == r.Label).Average(n => (apart[n] - middle) / spread)
                ))
                .Where(c => c.By > BeyondAlone || c.Right - c.Left > Square || c.Bottom - c.Top > Square)
                .OrderByDescending(c => c.By * (c.Right - c.Left) * (c.Bottom - c.Top))
                .Take(40),
        ];

        // Root of the mean square of the difference in a square, its own mean light taken away from both.
        double Apart(int left, int top)
        {
            var (n, sa, sb) = (0, 0.0, 0.0);
            Span<double> pa = stackalloc double[Square * Square];
            Span<double> pb = stackalloc double[Square * Square];
            for (var y = top; y < top + Square; y++)
            {
                for (var x = left; x < left + Square; x++)
                {
                    var at = by.In(new Spot(x, y));
                    if (!b.Holds(at))
                    {
                        return double.NaN;
                    }

                    (pa[n], pb[n]) = (a[x, y], b.At(at));
                    sa += pa[n];
                    sb += pb[n];
                    n++;
                }
            }

            // A patch that got lighter or darker as a whole counts for half: a lamp does that too.
            var sum = 0.0;
            for (var i = 0; i < n; i++)
            {
                sum += Math.Pow(pa[i] - (sa / n) - pb[i] + (sb / n), 2);
            }

            return Math.Sqrt(sum / n) + (0.5 * Math.Abs(sa - sb) / n);
        }
    }
}
