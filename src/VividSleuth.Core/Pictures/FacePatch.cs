namespace VividSleuth.Core.Pictures;

/// <summary>A patch in a face that is seen in a picture, laid out as the face is: its left upper corner first, its right lower one last.</summary>
/// <param name="Inside">Of each cell, row by row, <see cref="Cells"/> to a row, whether the patch covers it.</param>
/// <param name="Weights">How large each cell is on the part, in mm² where the plane has a scale; of what is round, one as large as another.</param>
public sealed record FacePatch(bool[] Inside, double[] Weights, PictureFace Face)
{
    /// <summary>Cells to a row, and rows.</summary>
    public const int Cells = 240;

    public double Area => Inside.Zip(Weights).Where(c => c.First).Sum(c => c.Second);

    public double Share => Face.Even ? Inside.Average(i => i ? 1.0 : 0) : Area / Weights.Sum();

    /// <summary>Where the patch ends, in pixels of the picture.</summary>
    public IReadOnlyList<Spot> Outline
    {
        get
        {
            bool Is(int x, int y) => Beside(x) is >= 0 and < Cells and var at && y is >= 0 and < Cells && Inside[(y * Cells) + at];
            int Beside(int x) => Face.Wraps ? (x + Cells) % Cells : x;
            return
            [
                .. Enumerable
                    .Range(0, Cells * Cells)
                    .Select(i => (X: i % Cells, Y: i / Cells))
                    .Where(c => Is(c.X, c.Y) && !(Is(c.X - 1, c.Y) && Is(c.X + 1, c.Y) && Is(c.X, c.Y - 1) && Is(c.X, c.Y + 1)))
                    .Select(c => Face.Seen(Middle(c.X, c.Y))),
            ];
        }
    }

    /// <summary>The share of another face that the patch would cover, as it lies in the picture: what it does that the face was set a little otherwise.</summary>
    public double ShareOf(PictureFace other) =>
        Middles().Select(m => Face.Laid(other.Seen(m))).Average(at => CellAt(at) is { } cell && Inside[cell] ? 1.0 : 0);

    /// <summary>The patch that a task is about.</summary>
    /// <param name="points">Those of the patch, then those of the face, as the task has them, in pixels.</param>
    /// <exception cref="ProblemException">The points make no face, or nothing grows there.</exception>
    public static FacePatch Of(Raster picture, PicturePlane plane, PictureTask task, IReadOnlyList<Spot> points)
    {
        var corners = PictureFace.Points(task);
        var face = PictureFace.Of(plane, task, [.. points.TakeLast(corners)]);
        return task is PictureTask.Grown or PictureTask.WallGrown
            ? Grown(picture, plane, points[0], face)
            : Traced(plane, [.. points.SkipLast(corners)], face);
    }

    /// <summary>A patch that somebody went round.</summary>
    /// <param name="round">Points round it, in pixels.</param>
    public static FacePatch Traced(PicturePlane plane, IReadOnlyList<Spot> round, PictureFace face)
    {
        var within = round.ToArray();
        return new FacePatch([.. Middles().Select(m => Holds(within, face.Seen(m)))], WeightsOf(plane, face), face);
    }

    /// <summary>
    /// A patch grown from a point in it: all that touches it and is on the same side of the light that parts the face best into two (Otsu).
    /// </summary>
    /// <param name="shift">How far that light is moved, as a share of what lies between the two; 0 as found, and a little to either side for what it leaves in doubt.</param>
    /// <exception cref="ProblemException">The point lies outside the face, or the face is of one light.</exception>
    public static FacePatch Grown(Raster picture, PicturePlane plane, Spot from, PictureFace face, double shift = 0)
    {
        if (CellAt(face.Laid(from)) is not { } at)
        {
            throw new ProblemException(Problem.Of("points", "pictures.seed-outside-face"));
        }

        // Each cell is the mean of what it covers, so that grain is no patch.
        var times = Math.Max(1, (int)(face.Wide / Cells));
        var small = picture.Smaller(times);
        var light = Middles()
            .Select(m => face.Seen(m))
            .Select(p => (float)small.At(new Spot((p.X - ((times - 1) / 2.0)) / times, (p.Y - ((times - 1) / 2.0)) / times)))
            .ToArray();
        // A bore gets darker downward: of a wall, with that taken out, where dark and light come apart the better for it.
        if (face.Wraps && Evened(light) is var evened && Threshold.Otsu(evened)?.Apart > Threshold.Otsu(light)?.Apart)
        {
            light = evened;
        }

        if (Threshold.Otsu(light) is not { } parted || parted.Apart < LeastApart)
        {
            throw new ProblemException(Problem.Of("points", "pictures.nothing-to-grow"));
        }

        var (dark, bright) = (light.Where(l => l <= parted.Light).Average(), light.Where(l => l > parted.Light).Average());
        var isBright = About(light, at) > parted.Light;
        var limit = parted.Light + (shift * (bright - dark));
        var regions = Regions.Of([.. light.Select(l => l > limit == isBright)], Cells, Cells);
        var label = Near(at).Select(i => regions.Labels[i]).FirstOrDefault(l => l > 0);
        if (label == 0)
        {
            throw new ProblemException(Problem.Of("points", "pictures.nothing-to-grow"));
        }

        var all = face.Wraps ? Round(regions.Labels, label) : [label];
        return new FacePatch([.. regions.Labels.Select(all.Contains)], WeightsOf(plane, face), face);
    }

    /// <summary>All regions that are one with another over the seam, where the right side lies beside the left.</summary>
    private static HashSet<int> Round(int[] labels, int begun)
    {
        var touching = Enumerable
            .Range(0, Cells)
            .SelectMany(y =>
                Enumerable.Range(y - 1, 3).Where(o => o is >= 0 and < Cells).Select(o => (labels[((y + 1) * Cells) - 1], labels[o * Cells]))
            )
            .Where(p => p.Item1 > 0 && p.Item2 > 0)
            .Distinct()
            .ToArray();
        HashSet<int> all = [begun];
        while (touching.Any(t => all.Contains(t.Item1) != all.Contains(t.Item2)))
        {
            all.UnionWith(touching.Where(t => all.Contains(t.Item1) || all.Contains(t.Item2)).SelectMany(t => new[] { t.Item1, t.Item2 }));
        }

        return all;
    }

    // Share of the variance that has to lie between dark and light; of one light with some grain it is about two thirds (a normal distribution parted in the middle), of light that falls off evenly three quarters (a uniform one).
    private const double LeastApart = 0.78;

    /// <summary>Each row beside its median, from 0 to 1: what goes half round or less stands out the same at every depth.</summary>
    private static float[] Evened(float[] light)
    {
        float[] even =
        [
            .. light
                .Chunk(Cells)
                .SelectMany(row => row.Order().ElementAt(Cells / 2) is var median ? row.Select(l => l / Math.Max(0.02f, median)) : []),
        ];
        var most = even.Max();
        return [.. even.Select(e => e / most)];
    }

    private static double[] WeightsOf(PicturePlane plane, PictureFace face)
    {
        if (face.Wraps)
        {
            return [.. Enumerable.Repeat(1.0, Cells * Cells)];
        }

        var grid = new Spot[(Cells + 1) * (Cells + 1)];
        for (var i = 0; i < grid.Length; i++)
        {
            grid[i] = plane.On(face.Seen(new Spot(i % (Cells + 1) / (double)Cells, i / (Cells + 1) / (double)Cells)));
        }

        return
        [
            .. Enumerable
                .Range(0, Cells * Cells)
                .Select(i =>
                {
                    var a = (i / Cells * (Cells + 1)) + (i % Cells);
                    return PictureReckoner.Area([grid[a], grid[a + 1], grid[a + Cells + 2], grid[a + Cells + 1]]);
                }),
        ];
    }

    private static IEnumerable<Spot> Middles() => Enumerable.Range(0, Cells * Cells).Select(i => Middle(i % Cells, i / Cells));

    /// <summary>Middle of a cell, on the face.</summary>
    public static Spot Middle(int x, int y) => new((x + 0.5) / Cells, (y + 0.5) / Cells);

    private static int? CellAt(Spot face) =>
        face.X is >= 0 and <= 1 && face.Y is >= 0 and <= 1
            ? (Math.Min(Cells - 1, (int)(face.Y * Cells)) * Cells) + Math.Min(Cells - 1, (int)(face.X * Cells))
            : null;

    /// <summary>Whether a point lies within others that go round it: by how often a line from it crosses their sides.</summary>
    private static bool Holds(Spot[] round, Spot p)
    {
        var inside = false;
        for (var i = 0; i < round.Length; i++)
        {
            var (a, b) = (round[i], round[(i + 1) % round.Length]);
            if (a.Y > p.Y != b.Y > p.Y && p.X < a.X + ((p.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X)))
            {
                inside = !inside;
            }
        }

        return inside;
    }

    private static IEnumerable<int> Near(int at)
    {
        var (x, y) = (at % Cells, at / Cells);
        return Enumerable
            .Range(-2, 5)
            .SelectMany(dy => Enumerable.Range(-2, 5).Select(dx => (dx, dy)))
            .OrderBy(d => (d.dx * d.dx) + (d.dy * d.dy))
            .Where(d => x + d.dx is >= 0 and < Cells && y + d.dy is >= 0 and < Cells)
            .Select(d => ((y + d.dy) * Cells) + x + d.dx);
    }

    private static double About(float[] light, int at) => Near(at).Take(9).Average(i => light[i]);
}
