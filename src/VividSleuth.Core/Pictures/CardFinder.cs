namespace VividSleuth.Core.Pictures;

/// <summary>A card as it is seen.</summary>
/// <param name="Map">How the plane of the card, in millimetres from its first dot, is seen.</param>
/// <param name="Dots">Dots that were seen and where, in pixels.</param>
/// <param name="Soft">How wide the edge of a dot is seen, in pixels from a tenth to nine tenths of its light.</param>
public sealed record CardSeen(int Number, Homography Map, IReadOnlyList<(Spot Plane, Spot Seen)> Dots, double Soft);

/// <summary>Finds the scale card in a picture, whichever way it lies and up to a tilt at which its dots are seen half as high as wide.</summary>
public static class CardFinder
{
    /// <summary>It is looked for in a picture of this many pixels along its longer side at most; where each dot is, the whole picture tells.</summary>
    private const int Looked = 1600;

    private const int LeastDot = 16;

    /// <summary>A dot covers so much of the ellipse of its moments: what is ragged or crooked covers less.</summary>
    private const double LeastFull = 0.9;

    private const double MostFull = 1.1;

    private const double LeastRound = 0.45;

    /// <summary>How far the next dot is, in deviations of this one: however the card is turned away, it is four times the pitch over the dot.</summary>
    private const double Next = 4 * ScaleCard.Pitch / ScaleCard.Across;

    /// <summary>A dot may lie off where its neighbour says by this share of the way from one to the next.</summary>
    private const double Off = 0.25;

    /// <summary>The cards in a picture, from the left to the right.</summary>
    public static IReadOnlyList<CardSeen> Find(Raster picture)
    {
        var times = Math.Max(1, (int)Math.Ceiling(Math.Max(picture.Width, picture.Height) / (double)Looked));
        var small = picture.Smaller(times);
        var dots = Candidates(small);
        var free = Enumerable.Range(0, dots.Count).ToHashSet();
        var cards = new List<CardSeen>();
        foreach (var seed in Enumerable.Range(0, dots.Count))
        {
            if (!free.Contains(seed))
            {
                continue;
            }

            var grid = Grid(seed, dots, free);
            if (grid.Count >= (ScaleCard.Columns * ScaleCard.Rows) - ScaleCard.MostUnseen && Read(grid, dots) is { } read)
            {
                free.ExceptWith(grid.Values);
                if (Fit(read.Number, read.Dots, picture, times) is { } card)
                {
                    cards.Add(card);
                }
            }
        }

        return [.. cards.OrderBy(c => c.Dots[0].Seen.X)];
    }

    /// <summary>What may be a dot: its region, with holes filled, and whether it has one.</summary>
    private sealed record Dot(Region Whole, bool Hollow);

    private static List<Dot> Candidates(Raster picture)
    {
        var dark = Threshold.DarkerThanAround(picture);
        var regions = Regions.Of(dark, picture.Width, picture.Height);
        var dots = new List<Dot>();
        foreach (var region in regions.All)
        {
            var (width, height) = (region.Right - region.Left + 1, region.Bottom - region.Top + 1);
            if (
                region.Area < LeastDot
                || region.AtTheEdge(picture.Width, picture.Height)
                || width * height > picture.Width * picture.Height / 64
                || region.Roundness < LeastRound
            )
            {
                continue;
            }

            var (whole, hole) = Filled(region, regions);
            if (whole.Area / whole.Ellipse is >= LeastFull and <= MostFull && whole.Roundness >= LeastRound)
            {
                dots.Add(new Dot(whole, hole > 0.06 * whole.Area));
            }
        }

        return dots;
    }

    /// <summary>A region with what it goes round, and how much that is.</summary>
    private static (Region Whole, int Hole) Filled(Region of, Regions regions)
    {
        // One pixel of room about it, from which all that is outside can be reached.
        var (width, height) = (of.Right - of.Left + 3, of.Bottom - of.Top + 3);
        var outside = new bool[width * height];
        var open = new Stack<int>([0]);
        outside[0] = true;
        while (open.TryPop(out var at))
        {
            var (x, y) = (at % width, at / width);
            foreach (var (nx, ny) in new[] { (x - 1, y), (x + 1, y), (x, y - 1), (x, y + 1) })
            {
                if (nx < 0 || ny < 0 || nx >= width || ny >= height || outside[(ny * width) + nx] || Is(nx, ny))
                {
                    continue;
                }

                outside[(ny * width) + nx] = true;
                open.Push((ny * width) + nx);
            }
        }

        var filled = Regions.Of([.. outside.Select(o => !o)], width, height).All[0];
        return (
            filled with
            {
                Left = filled.Left + of.Left - 1,
                Right = filled.Right + of.Left - 1,
                Top = filled.Top + of.Top - 1,
                Bottom = filled.Bottom + of.Top - 1,
                Middle = filled.Middle + new Spot(of.Left - 1, of.Top - 1),
            },
            filled.Area - of.Area
        );

        bool Is(int x, int y)
        {
            var (px, py) = (of.Left + x - 1, of.Top + y - 1);
            return px >= 0 && py >= 0 && px < regions.Width && py < regions.Height && regions.Labels[(py * regions.Width) + px] == of.Label;
        }
    }

    /// <summary>Dots that lie in one lattice with the seed, by their column and row from it.</summary>
    private static Dictionary<(int Column, int Row), int> Grid(int seed, List<Dot> dots, HashSet<int> free)
    {
        var grid = new Dictionary<(int, int), int> { [(0, 0)] = seed };
        if (Basis(seed, dots, free) is not { } basis)
        {
            return grid;
        }

        var open = new Queue<((int Column, int Row) At, Spot Across, Spot Down)>([((0, 0), basis.Across, basis.Down)]);
        var taken = new HashSet<int> { seed };
        while (open.TryDequeue(out var next))
        {
            var here = dots[grid[next.At]].Whole.Middle;
            foreach (var (dx, dy) in new[] { (1, 0), (-1, 0), (0, 1), (0, -1) })
            {
                var at = (next.At.Column + dx, next.At.Row + dy);
                if (grid.ContainsKey(at) || grid.Count > 4 * ScaleCard.Columns * ScaleCard.Rows)
                {
                    continue;
                }

                var step = (dx * next.Across) + (dy * next.Down);
                var expected = here + step;
                var found = free.Where(d => !taken.Contains(d) && (dots[d].Whole.Middle - expected).Length < Off * step.Length)
                    .OrderBy(d => (dots[d].Whole.Middle - expected).Length)
                    .Select(d => (int?)d)
                    .FirstOrDefault();
                if (found is not { } dot)
                {
                    continue;
                }

                grid[at] = dot;
                taken.Add(dot);
                // The step changes along the card, where it is turned away: the last one says best what the next will be.
                var gone = (dx + dy) * (dots[dot].Whole.Middle - here);
                open.Enqueue((at, dx != 0 ? gone : next.Across, dy != 0 ? gone : next.Down));
            }
        }

        return grid;
    }

    /// <summary>From a dot to the next in its row and in its column.</summary>
    private static (Spot Across, Spot Down)? Basis(int seed, List<Dot> dots, HashSet<int> free)
    {
        var of = dots[seed].Whole;
        Spot[] near =
        [
            .. free.Where(d => d != seed && of.Away(dots[d].Whole.Middle) is > Next * (1 - Off) and < Next * (1 + Off))
                .Select(d => dots[d].Whole.Middle - of.Middle),
        ];
        foreach (var across in near)
        {
            // Square to it, as the dot says what is square: the map that makes it round.
            var down = near.Where(d => across.Cross(d) > 0)
                .Select(d => (Step: d, Cosine: Math.Abs(Square(of, across, d))))
                .OrderBy(d => d.Cosine)
                .FirstOrDefault();
            if (down.Step != default && down.Cosine < Off)
            {
                return (across, down.Step);
            }
        }

        return null;
    }

    /// <summary>The cosine between two steps, as seen from where the region is round.</summary>
    private static double Square(Region of, Spot a, Spot b)
    {
        double Inner(Spot p, Spot q) => (of.YY * p.X * q.X) - (of.XY * ((p.X * q.Y) + (p.Y * q.X))) + (of.XX * p.Y * q.Y);
        return Inner(a, b) / Math.Sqrt(Inner(a, a) * Inner(b, b));
    }

    /// <summary>Reads the number in one of the ways in which the lattice can be the card.</summary>
    private static (int Number, IReadOnlyList<(Spot Plane, Dot Dot)> Dots)? Read(Dictionary<(int Column, int Row), int> grid, List<Dot> dots)
    {
        var (left, right, top, bottom) = (
            grid.Keys.Min(k => k.Column),
            grid.Keys.Max(k => k.Column),
            grid.Keys.Min(k => k.Row),
            grid.Keys.Max(k => k.Row)
        );
        foreach (var lying in new[] { true, false })
        {
            var (wide, high) = lying ? (ScaleCard.Columns, ScaleCard.Rows) : (ScaleCard.Rows, ScaleCard.Columns);
            // What lies beside the card by chance may have joined it.
            for (var x = Math.Min(left, right - wide + 1); x <= Math.Max(left, right - wide + 1); x++)
            {
                for (var y = Math.Min(top, bottom - high + 1); y <= Math.Max(top, bottom - high + 1); y++)
                {
                    foreach (var turned in new[] { false, true })
                    {
                        (int, int) At(int column, int row) =>
                            (lying, turned) switch
                            {
                                (true, false) => (x + column, y + row),
                                (true, true) => (x + wide - 1 - column, y + high - 1 - row),
                                (false, false) => (x + wide - 1 - row, y + column),
                                (false, true) => (x + row, y + high - 1 - column),
                            };
                        var seen = Enumerable
                            .Range(0, ScaleCard.Columns * ScaleCard.Rows)
                            .Select(n => (Column: n % ScaleCard.Columns, Row: n / ScaleCard.Columns))
                            .Where(p => grid.ContainsKey(At(p.Column, p.Row)))
                            .ToDictionary(p => p, p => dots[grid[At(p.Column, p.Row)]]);
                        if (
                            seen.Count >= (ScaleCard.Columns * ScaleCard.Rows) - ScaleCard.MostUnseen
                            && ScaleCard.Number((c, r) => seen.GetValueOrDefault((c, r))?.Hollow) is { } number
                        )
                        {
                            return (number, [.. seen.Select(s => (new Spot(s.Key.Column * ScaleCard.Pitch, s.Key.Row * ScaleCard.Pitch), s.Value))]);
                        }
                    }
                }
            }
        }

        return null;
    }

    private static CardSeen? Fit(int number, IReadOnlyList<(Spot Plane, Dot Dot)> dots, Raster picture, int times)
    {
        var placed = dots.Select(d => (d.Plane, Fine: Centre(picture, d.Dot, times))).ToArray();
        var pairs = placed.Select(p => (p.Plane, p.Fine.Middle)).ToArray();
        return Homography.Fit(pairs) is { } map
            ? new CardSeen(number, map, pairs, placed.Select(p => p.Fine.Soft).Order().ElementAt(placed.Length / 2))
            : null;
    }

    /// <summary>The middle of a dot in the whole picture: of its light against the paper’s about it, each pixel by how dark it is. And how soft its edge is.</summary>
    private static (Spot Middle, double Soft) Centre(Raster picture, Dot dot, int times)
    {
        // A pixel of the smaller picture stands for so many, whose middle is its middle.
        var middle = new Spot((times * dot.Whole.Middle.X) + ((times - 1) / 2.0), (times * dot.Whole.Middle.Y) + ((times - 1) / 2.0));
        var (xx, xy, yy) = (times * times * dot.Whole.XX, times * times * dot.Whole.XY, times * times * dot.Whole.YY);
        var here = dot.Whole with { Middle = middle, XX = xx, XY = xy, YY = yy };
        // Its edge is at two deviations; the next dot’s begins at six.
        const double Inside = 1.7;
        const double Reach = 3;
        var (dx, dy) = ((int)Math.Ceiling(Reach * Math.Sqrt(xx)) + 1, (int)Math.Ceiling(Reach * Math.Sqrt(yy)) + 1);
        var (paper, ink) = (new List<double>(), new List<double>());
        var pixels = new List<(Spot At, double Light, double Away)>();
        for (var y = Math.Max(0, (int)middle.Y - dy); y <= Math.Min(picture.Height - 1, (int)middle.Y + dy); y++)
        {
            for (var x = Math.Max(0, (int)middle.X - dx); x <= Math.Min(picture.Width - 1, (int)middle.X + dx); x++)
            {
                var at = new Spot(x, y);
                var away = here.Away(at);
                if (away > Reach)
                {
                    continue;
                }

                pixels.Add((at, picture[x, y], away));
                (
                    away > 2.5 ? paper
                    : away < Inside && away > 1.2 ? ink
                    : null
                )?.Add(picture[x, y]);
            }
        }

        if (paper.Count == 0 || ink.Count == 0)
        {
            return (middle, double.NaN);
        }

        var (light, dark) = (paper.Order().ElementAt(paper.Count / 2), ink.Order().ElementAt(ink.Count / 2));
        var (sum, sx, sy) = (0.0, 0.0, 0.0);
        foreach (var (at, l, away) in pixels)
        {
            // The hole is in the middle and weighs nothing either way; counted full, its edge adds no noise.
            var weight = away < 1.2 ? 1 : Math.Clamp((light - l) / Math.Max(1e-6, light - dark), 0, 1);
            sum += weight;
            sx += weight * at.X;
            sy += weight * at.Y;
        }

        // Between a tenth and nine tenths of the light; along the edge, an area over the length of the ellipse is a width.
        var between = pixels.Count(p => p.Away > 1.2 && (light - p.Light) / Math.Max(1e-6, light - dark) is > 0.1 and < 0.9);
        var (a, b) = (2 * Math.Sqrt(xx), 2 * Math.Sqrt(yy));
        var round = Math.PI * (3 * (a + b) - Math.Sqrt(((3 * a) + b) * (a + (3 * b))));
        return (sum > 0 ? new Spot(sx / sum, sy / sum) : middle, between / round);
    }
}
