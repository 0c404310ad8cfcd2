namespace VividSleuth.Core.Pictures;

/// <summary>A connected region of a picture.</summary>
/// <param name="Area">Pixels.</param>
/// <param name="Middle">Mean of its pixels.</param>
/// <param name="XX">Variance of its pixels across, with 1/12 for the extent of each; <paramref name="XY"/> and <paramref name="YY"/> likewise.</param>
public sealed record Region(int Label, int Area, int Left, int Top, int Right, int Bottom, Spot Middle, double XX, double XY, double YY)
{
    /// <summary>What a whole ellipse of these moments would cover: π times its half axes, each twice the deviation.</summary>
    public double Ellipse => 4 * Math.PI * Math.Sqrt(Math.Max(0, (XX * YY) - (XY * XY)));

    /// <summary>Its shorter axis over its longer one, by the moments.</summary>
    public double Roundness
    {
        get
        {
            var (half, spread) = ((XX + YY) / 2, Math.Sqrt((((XX - YY) / 2) * ((XX - YY) / 2)) + (XY * XY)));
            return Math.Sqrt(Math.Max(0, half - spread) / (half + spread));
        }
    }

    public bool AtTheEdge(int width, int height) => Left == 0 || Top == 0 || Right == width - 1 || Bottom == height - 1;

    /// <summary>How far away a point is, in deviations of the region.</summary>
    public double Away(Spot at)
    {
        var d = at - Middle;
        var det = (XX * YY) - (XY * XY);
        return Math.Sqrt(((YY * d.X * d.X) - (2 * XY * d.X * d.Y) + (XX * d.Y * d.Y)) / det);
    }
}

/// <summary>The regions of a picture that is black and white.</summary>
/// <param name="Labels">Of each pixel, row by row: 0 outside, else the number of its region.</param>
public sealed record Regions(int Width, int Height, int[] Labels, IReadOnlyList<Region> All)
{
    /// <summary>
    /// Parts a picture into regions of pixels that touch each other, also by their corners (eight neighbours). Two passes with a union of equal labels (Rosenfeld and Pfaltz 1966; from memory); numbers follow the
    /// rows, so the same picture has the same regions.
    /// </summary>
    public static Regions Of(bool[] inside, int width, int height)
    {
        var labels = new int[inside.Length];
        var parent = new List<int> { 0 };
        int Root(int a)
        {
            while (parent[a] != a)
            {
                a = parent[a] = parent[parent[a]];
            }

            return a;
        }

        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var at = (y * width) + x;
                if (!inside[at])
                {
                    continue;
                }

                var of = x > 0 ? labels[at - 1] : 0;
                for (var dx = -1; y > 0 && dx <= 1; dx++)
                {
                    if (x + dx < 0 || x + dx >= width || labels[at - width + dx] is not (> 0 and var above))
                    {
                        continue;
                    }

                    if (of == 0)
                    {
                        of = above;
                    }
                    else if (of != above)
                    {
                        var (a, b) = (Root(of), Root(above));
                        parent[Math.Max(a, b)] = Math.Min(a, b);
                    }
                }

                if (of == 0)
                {
                    of = parent.Count;
                    parent.Add(of);
                }

                labels[at] = of;
            }
        }

        return Counted(labels, width, height, [.. Enumerable.Range(0, parent.Count).Select(Root)]);
    }

    private static Regions Counted(int[] labels, int width, int height, int[] root)
    {
        var number = new int[root.Length];
        var sums = new List<Sum>();
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var at = (y * width) + x;
                if (labels[at] == 0)
                {
                    continue;
                }

                var of = root[labels[at]];
                if (number[of] == 0)
                {
                    sums.Add(new Sum());
                    number[of] = sums.Count;
                }

                labels[at] = number[of];
                sums[number[of] - 1].Add(x, y);
            }
        }

        return new Regions(width, height, labels, [.. sums.Select((s, n) => s.Region(n + 1))]);
    }

    private sealed class Sum
    {
        private int _count;
        private int _left = int.MaxValue;
        private int _top = int.MaxValue;
        private int _right = -1;
        private int _bottom = -1;
        private double _x;
        private double _y;
        private double _xx;
        private double _xy;
        private double _yy;

        public void Add(int x, int y)
        {
            _count++;
            (_left, _top, _right, _bottom) = (Math.Min(_left, x), Math.Min(_top, y), Math.Max(_right, x), Math.Max(_bottom, y));
            _x += x;
            _y += y;
            _xx += (double)x * x;
            _xy += (double)x * y;
            _yy += (double)y * y;
        }

        public Region Region(int label)
        {
            const double Pixel = 1 / 12.0;
            var (x, y) = (_x / _count, _y / _count);
            return new Region(
                label,
                _count,
                _left,
                _top,
                _right,
                _bottom,
                new Spot(x, y),
                (_xx / _count) - (x * x) + Pixel,
                (_xy / _count) - (x * y),
                (_yy / _count) - (y * y) + Pixel
            );
        }
    }
}
