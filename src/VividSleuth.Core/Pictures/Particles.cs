using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Pictures;

/// <summary>Why something in a picture is not counted as a particle.</summary>
public enum NotCounted
{
    /// <summary>Smaller than what the picture can show: a few pixels.</summary>
    Dust,

    /// <summary>Light thrown back by a wet or polished ground: brighter than it and without an edge.</summary>
    Glare,

    /// <summary>Cut off by the edge of what was looked at: its size is not known.</summary>
    CutOff,

    /// <summary>More than twenty times as long as wide: a fibre of cloth or filter, which ISO 16232 counts apart.</summary>
    Fibre,
}

/// <summary>A particle in a picture.</summary>
/// <param name="Middle">In pixels.</param>
/// <param name="Longest">Its longest Feret diameter, in micrometres: the greatest distance between two of its edges that run alike.</param>
/// <param name="Area">In square millimetres.</param>
/// <param name="Shiny">It has a glint brighter than the ground.</param>
public sealed record Particle(Spot Middle, double Longest, double Area, bool Shiny);

/// <summary>A class of sizes.</summary>
/// <param name="Letter">As the standard names it.</param>
/// <param name="From">In micrometres, and to below <paramref name="To"/>; infinity in the last.</param>
public sealed record SizeClass(string Letter, double From, double To)
{
    /// <summary>Classes of particle sizes of components’ cleanliness. ISO 16232:2018, table of size classes; from memory.</summary>
    public static IReadOnlyList<SizeClass> All { get; } =
        Classes([
            ("B", 5),
            ("C", 15),
            ("D", 25),
            ("E", 50),
            ("F", 100),
            ("G", 150),
            ("H", 200),
            ("I", 400),
            ("J", 600),
            ("K", 1000),
            ("L", 1500),
            ("M", 2000),
            ("N", 3000),
        ]);

    /// <summary>The class of a size in micrometres; null below the smallest.</summary>
    public static SizeClass? Of(double micrometres) => All.LastOrDefault(c => micrometres >= c.From);

    private static SizeClass[] Classes((string Letter, double From)[] of) =>
        [.. of.Select((c, n) => new SizeClass(c.Letter, c.From, n + 1 < of.Length ? of[n + 1].From : double.PositiveInfinity))];
}

/// <summary>Particles of a picture.</summary>
/// <param name="All">The largest first.</param>
/// <param name="Left">What was not counted, and how often.</param>
/// <param name="Least">The smallest that the picture can show, in micrometres.</param>
public sealed record ParticleCount(IReadOnlyList<Particle> All, IReadOnlyDictionary<NotCounted, int> Left, double Least)
{
    /// <summary>How many there are in each class, the smallest first; classes below what the picture can show are left out.</summary>
    public IReadOnlyList<(SizeClass Class, int Count)> Classes =>
        [.. SizeClass.All.Where(c => c.To > Least).Select(c => (c, All.Count(p => p.Longest >= c.From && p.Longest < c.To)))];

    internal IEnumerable<Fact> Notes
    {
        get
        {
            yield return Fact.Of("pictures.least-particle", ("least", new Amount(Least / 1000, Quantity.Length, 3)));
            foreach (var (why, n) in Left.Where(l => l.Value > 0).OrderBy(l => l.Key))
            {
                yield return Fact.Of("pictures.not-counted", ("n", n), ("why", why));
            }
        }
    }

    /// <summary>The longest of all, with what its edges leave in doubt.</summary>
    internal Estimate Longest(PicturePlane plane) =>
        Estimate.Of(
            All[0].Longest / 1000,
            new Influence("picture/edge", Fact.Of("pictures.edges"), 0.5 / plane.Scale(All[0].Middle)),
            new Influence(
                "picture/print",
                Fact.Of("pictures.print", ("number", plane.Card?.Number ?? 0)),
                All[0].Longest / 1000 * Uncertainty.Rectangular(PictureDoubts.Print)
            )
        );
}

/// <summary>Counts particles on an even ground, pan, cloth or filter. The same picture has the same answer.</summary>
public static class Particles
{
    /// <summary>Across so many pixels at least, or it is dust. Ours.</summary>
    private const double LeastAcross = 3;

    /// <summary>ISO 16232: a fibre is more than twenty times as long as it is wide. From memory.</summary>
    private const double Fibre = 20;

    /// <summary>The edge of a thing is not as wide as this, in pixels; that of a reflected lamp is. Ours.</summary>
    private const double GlareFades = 9;

    /// <summary>So many deviations of the ground’s own noise away from it, at the least.</summary>
    private const double LeastApart = 5;

    /// <summary>Where two lie against each other, the neck between them is less than this share of the thinner one. Ours.</summary>
    private const double Neck = 0.6;

    /// <exception cref="ProblemException">There is no ground to be seen, or it is black.</exception>
    public static ParticleCount Count(Raster picture, int left, int top, int right, int bottom, PicturePlane plane)
    {
        var (width, height) = (right - left + 1, bottom - top + 1);
        if (Math.Min(width, height) < 32)
        {
            throw new ProblemException(Problem.Of("points", "pictures.patch-too-small", ("width", width), ("height", height), ("least", 32)));
        }

        var ground = Ground(picture, left, top, width, height);
        var (apart, noise) = Apart(picture, ground, left, top, width, height);
        var paper = ground.At(0, 0);
        if (paper < 0.06)
        {
            throw new ProblemException(Problem.Of("photo", "pictures.black"));
        }

        var floor = (float)Math.Max(LeastApart * noise, 0.08 * paper);
        var (dark, least) = (Limit([.. apart.Where(a => a < -floor).Select(a => -a)], floor), Limit([.. apart.Where(a => a > floor)], floor));
        var regions = Regions.Of(Filled(apart, dark, least, width, height), width, height);
        if (regions.All.Sum(r => (long)r.Area) > 0.5 * width * height)
        {
            throw new ProblemException(Problem.Of("photo", "pictures.no-ground"));
        }

        var left0 = Enum.GetValues<NotCounted>().ToDictionary(w => w, _ => 0);
        var found = new List<Particle>();
        var pixel = 1 / plane.Scale(new Spot(left + (width / 2.0), top + (height / 2.0)));
        foreach (var region in regions.All)
        {
            if (Math.Sqrt(region.Area) < LeastAcross)
            {
                left0[NotCounted.Dust]++;
            }
            else if (region.AtTheEdge(width, height))
            {
                left0[NotCounted.CutOff]++;
            }
            else if (IsGlare(region, regions, apart, least))
            {
                left0[NotCounted.Glare]++;
            }
            else
            {
                foreach (var piece in Pieces(region, regions))
                {
                    var hull = Hull(piece);
                    var seen = hull.Select(p => plane.On(p + new Spot(left, top))).ToArray();
                    var longest = Longest(seen);
                    // From middle to middle of its outermost pixels; the edge lies about a quarter beyond either.
                    longest += pixel / 2;
                    var area = piece.Count * pixel * pixel;
                    if (longest > Fibre * (area / longest))
                    {
                        left0[NotCounted.Fibre]++;
                        continue;
                    }

                    var middle = 1.0 / piece.Count * piece.Aggregate(new Spot(0, 0), (a, b) => a + b);
                    var bright = piece.Count(p => apart[((int)p.Y * width) + (int)p.X] > least);
                    found.Add(new Particle(middle + new Spot(left, top), 1000 * longest, area, bright >= Math.Max(2, 0.04 * piece.Count)));
                }
            }
        }

        return new ParticleCount(
            [.. found.OrderByDescending(p => p.Longest).ThenBy(p => p.Middle.Y).ThenBy(p => p.Middle.X)],
            left0,
            1000 * LeastAcross * pixel
        );
    }

    /// <summary>
    /// How far from the ground something must be: four tenths of the way to what is there, near half, where the edge of a blurred particle lies, so that small ones, which blur makes fainter, are seen; beyond the noise at the
    /// least.
    /// </summary>
    private static float Limit(float[] far, float floor)
    {
        if (far.Length < 16)
        {
            return floor;
        }

        Array.Sort(far);
        return Math.Max(floor, 0.4f * far[far.Length / 2]);
    }

    private static IEnumerable<int> Sampled(int width, int height)
    {
        var step = Math.Max(1, width * height / 20_000);
        for (var n = 0; n < width * height; n += step)
        {
            yield return n;
        }
    }

    private static (double Middle, double Spread) Middle(double[] of)
    {
        Array.Sort(of);
        var middle = of[of.Length / 2];
        var away = of.Select(v => Math.Abs(v - middle)).Order().ToArray();
        return (middle, 1.4826 * away[away.Length / 2]);
    }

    /// <summary>The light of the ground, as a surface of the second degree: shade across the picture is no particle.</summary>
    private sealed record GroundLight(double[] Of, double Width, double Height)
    {
        public double At(double x, double y) => Terms(x, y).Select((t, n) => t * Of[n]).Sum();

        public static double[] Terms(double u, double v) => [1, u, v, u * u, u * v, v * v];

        public (double A, double B, double C) Row(int y)
        {
            var v = (2 * y / Height) - 1;
            return (Of[0] + (Of[2] * v) + (Of[5] * v * v), Of[1] + (Of[4] * v), Of[3]);
        }
    }

    /// <summary>Laid through the medians of squares; those far from it, where much lies on the ground, are left out in turn.</summary>
    private static GroundLight Ground(Raster picture, int left, int top, int width, int height)
    {
        var side = Math.Max(8, Math.Max(width, height) / 24.0);
        var (across, down) = (Math.Max(1, (int)(width / side)), Math.Max(1, (int)(height / side)));
        var squares = new (double U, double V, double Light)[across * down];
        Parallel.For(
            0,
            squares.Length,
            n =>
            {
                var (x0, y0) = ((int)(n % across * side), (int)(n / across * side));
                var step = Math.Max(1, (int)(side / 64));
                var light = new List<float>();
                for (var y = y0; y < y0 + side && y < height; y += step)
                {
                    for (var x = x0; x < x0 + side && x < width; x += step)
                    {
                        light.Add(picture[left + x, top + y]);
                    }
                }

                light.Sort();
                squares[n] = ((2 * (x0 + (side / 2)) / width) - 1, (2 * (y0 + (side / 2)) / height) - 1, light[light.Count / 2]);
            }
        );
        var (middle, _) = Middle([.. squares.Select(s => s.Light)]);
        var of = new double[] { middle, 0, 0, 0, 0, 0 };
        for (var round = 0; round < 8 && squares.Length >= 12; round++)
        {
            var away = squares.Select(s => s.Light - Value(s.U, s.V)).ToArray();
            var (_, spread) = Middle([.. away]);
            var kept = squares.Where((_, n) => Math.Abs(away[n]) <= Math.Max(2.5 * spread, 0.01)).ToArray();
            if (kept.Length < Math.Max(12, squares.Length / 3))
            {
                break;
            }

            var rows = MathNet.Numerics.LinearAlgebra.Double.DenseMatrix.Create(kept.Length, 6, 0);
            foreach (var (n, s) in kept.Index())
            {
                rows.SetRow(n, GroundLight.Terms(s.U, s.V));
            }

            of = [.. rows.QR().Solve(MathNet.Numerics.LinearAlgebra.Double.DenseVector.OfEnumerable(kept.Select(k => k.Light)))];
        }

        return new GroundLight(of, width, height);

        double Value(double u, double v) => GroundLight.Terms(u, v).Select((t, n) => t * of[n]).Sum();
    }

    private static (float[] Apart, double Noise) Apart(Raster picture, GroundLight ground, int left, int top, int width, int height)
    {
        var apart = new float[width * height];
        Parallel.For(
            0,
            height,
            y =>
            {
                var (a, b, c) = ground.Row(y);
                for (var x = 0; x < width; x++)
                {
                    var u = (2.0 * x / width) - 1;
                    apart[(y * width) + x] = picture[left + x, top + y] - (float)(a + (u * (b + (c * u))));
                }
            }
        );
        var (middle, spread) = Middle([.. Sampled(width, height).Select(n => (double)apart[n])]);
        return (apart, Math.Max(spread, 1.0 / 512) + Math.Abs(middle));
    }

    /// <summary>
    /// What lies between the dark of a particle and its glint is its own, though its light passes through that of the ground; so are single holes.
    /// </summary>
    private static bool[] Filled(float[] apart, float dark, float bright, int width, int height)
    {
        var inside = new bool[width * height];
        Parallel.For(
            0,
            height,
            y =>
            {
                for (var x = 0; x < width; x++)
                {
                    var at = (y * width) + x;
                    if (apart[at] > bright || apart[at] < -dark)
                    {
                        inside[at] = true;
                        continue;
                    }

                    if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1)
                    {
                        continue;
                    }

                    var (darker, lighter) = (0, 0);
                    for (var n = 0; n < 9; n++)
                    {
                        var beside = apart[at + (((n / 3) - 1) * width) + (n % 3) - 1];
                        darker += beside < -dark ? 1 : 0;
                        lighter += beside > bright ? 1 : 0;
                    }

                    // A glint that is blurred is two pixels away from the dark.
                    if ((darker > 0) != (lighter > 0) && x >= 2 && y >= 2 && x < width - 2 && y < height - 2)
                    {
                        for (var n = 0; n < 25; n++)
                        {
                            var beside = apart[at + (((n / 5) - 2) * width) + (n % 5) - 2];
                            (darker, lighter) = (
                                darker > 0 ? darker
                                : beside < -dark ? 1
                                : 0,
                                lighter > 0 ? lighter
                                : beside > bright ? 1
                                : 0
                            );
                        }
                    }

                    inside[at] = (darker > 0 && lighter > 0) || darker + lighter >= 6;
                }
            }
        );
        return inside;
    }

    /// <summary>Glare is brighter than the ground, nowhere darker, and fades out: its light takes more than so many pixels from the ground to its top.</summary>
    private static bool IsGlare(Region region, Regions regions, float[] apart, float least)
    {
        var (bright, edge, slope, top) = (0, 0, 0.0, 0f);
        for (var y = Math.Max(1, region.Top); y <= Math.Min(regions.Height - 2, region.Bottom); y++)
        {
            for (var x = Math.Max(1, region.Left); x <= Math.Min(regions.Width - 2, region.Right); x++)
            {
                var at = (y * regions.Width) + x;
                if (regions.Labels[at] != region.Label)
                {
                    continue;
                }

                bright += apart[at] > least ? 1 : 0;
                top = Math.Max(top, apart[at]);
                if (
                    regions.Labels[at - 1] != region.Label
                    || regions.Labels[at + 1] != region.Label
                    || regions.Labels[at - regions.Width] != region.Label
                    || regions.Labels[at + regions.Width] != region.Label
                )
                {
                    edge++;
                    var (gx, gy) = ((apart[at + 1] - apart[at - 1]) / 2, (apart[at + regions.Width] - apart[at - regions.Width]) / 2);
                    slope += Math.Sqrt((gx * gx) + (gy * gy));
                }
            }
        }

        return bright > 0.95 * region.Area && edge > 0 && top > GlareFades * (slope / edge);
    }

    /// <summary>
    /// A region parted where it has a neck: about each summit of the distance from the edge grows a piece, and two stay apart where the way between their summits narrows below a share of the lower. Distances by the chamfer
    /// 5-7 (G. Borgefors 1986), pieces by flooding from the summits down (F. Meyer 1991); from memory.
    /// </summary>
    private static List<List<Spot>> Pieces(Region region, Regions regions)
    {
        var (w, h) = (region.Right - region.Left + 3, region.Bottom - region.Top + 3);
        var away = new int[w * h];
        for (var y = 1; y < h - 1; y++)
        {
            for (var x = 1; x < w - 1; x++)
            {
                away[(y * w) + x] =
                    regions.Labels[((region.Top + y - 1) * regions.Width) + region.Left + x - 1] == region.Label ? int.MaxValue / 2 : 0;
            }
        }

        for (var y = 1; y < h - 1; y++)
        {
            for (var x = 1; x < w - 1; x++)
            {
                var at = (y * w) + x;
                away[at] = Math.Min(
                    away[at],
                    Math.Min(Math.Min(away[at - 1] + 5, away[at - w] + 5), Math.Min(away[at - w - 1] + 7, away[at - w + 1] + 7))
                );
            }
        }

        for (var y = h - 2; y > 0; y--)
        {
            for (var x = w - 2; x > 0; x--)
            {
                var at = (y * w) + x;
                away[at] = Math.Min(
                    away[at],
                    Math.Min(Math.Min(away[at + 1] + 5, away[at + w] + 5), Math.Min(away[at + w + 1] + 7, away[at + w - 1] + 7))
                );
            }
        }

        // From the summits down, each pixel to the piece beside it; where two pieces meet, they stay two if the pass is low enough.
        var order = Enumerable.Range(0, away.Length).Where(n => away[n] > 0).OrderByDescending(n => away[n]).ThenBy(n => n).ToArray();
        var of = new int[w * h];
        var parent = new List<int> { 0 };
        var summit = new List<int> { 0 };
        int Root(int a)
        {
            while (parent[a] != a)
            {
                a = parent[a] = parent[parent[a]];
            }

            return a;
        }

        int[] about = [-w - 1, -w, -w + 1, -1, 1, w - 1, w, w + 1];
        foreach (var at in order)
        {
            var mine = 0;
            // The piece that stands highest beside it first: to that it belongs.
            foreach (var step in about.OrderByDescending(b => away[at + b]))
            {
                if (of[at + step] == 0)
                {
                    continue;
                }

                var theirs = Root(of[at + step]);
                if (mine == 0)
                {
                    mine = theirs;
                }
                else if (theirs != mine)
                {
                    var (lower, higher) = summit[theirs] < summit[mine] ? (theirs, mine) : (mine, theirs);
                    // A summit of hardly more than a pixel is roughness and no piece.
                    if (away[at] >= Neck * summit[lower] || summit[lower] < 10)
                    {
                        parent[lower] = higher;
                        mine = higher;
                    }
                }
            }

            if (mine == 0)
            {
                mine = parent.Count;
                parent.Add(mine);
                summit.Add(away[at]);
            }

            of[at] = mine;
        }

        return
        [
            .. order
                .GroupBy(n => Root(of[n]))
                .OrderBy(g => g.Min())
                .Select(g => g.Select(n => new Spot(region.Left + (n % w) - 1, region.Top + (n / w) - 1)).ToList()),
        ];
    }

    /// <summary>The corners of the convex hull of pixels, in order (A. M. Andrew 1979; from memory).</summary>
    private static List<Spot> Hull(IReadOnlyList<Spot> of)
    {
        // Of each row the ends only.
        var sorted = of.GroupBy(p => p.Y)
            .SelectMany(g => new[] { new Spot(g.Min(p => p.X), g.Key), new Spot(g.Max(p => p.X), g.Key) })
            .Distinct()
            .OrderBy(p => p.X)
            .ThenBy(p => p.Y)
            .ToArray();
        if (sorted.Length < 3)
        {
            return [.. sorted];
        }

        var hull = new List<Spot>();
        foreach (var pass in new[] { sorted, [.. sorted.Reverse()] })
        {
            var begin = hull.Count;
            foreach (var p in pass)
            {
                while (hull.Count >= begin + 2 && (hull[^1] - hull[^2]).Cross(p - hull[^2]) <= 0)
                {
                    hull.RemoveAt(hull.Count - 1);
                }

                hull.Add(p);
            }

            hull.RemoveAt(hull.Count - 1);
        }

        return hull;
    }

    /// <summary>The longest Feret diameter: the greatest distance between two corners of the hull.</summary>
    private static double Longest(Spot[] hull)
    {
        var longest = 0.0;
        for (var i = 0; i < hull.Length; i++)
        {
            for (var j = i + 1; j < hull.Length; j++)
            {
                longest = Math.Max(longest, (hull[i] - hull[j]).Length);
            }
        }

        return longest;
    }
}
