namespace VividSleuth.Core.Pictures;

/// <summary>A patch in a face that is seen in a picture, laid out as the face is: its left upper corner first, its right lower one last.</summary>
/// <param name="Inside">Of each cell, row by row, <see cref="Cells"/> to a row, whether the patch covers it.</param>
/// <param name="Weights">How large each cell is on the part, in mm² where the plane has a scale.</param>
/// <param name="Face">From the face, 1 wide and 1 high, to the picture.</param>
/// <param name="AsRectangle">No card told how the face lies, so it is taken to be a rectangle, whose corners tell it.</param>
public sealed record FacePatch(bool[] Inside, double[] Weights, Homography Face, bool AsRectangle)
{
    /// <summary>Cells to a row, and rows.</summary>
    public const int Cells = 240;

    public double Area => Inside.Zip(Weights).Where(c => c.First).Sum(c => c.Second);

    public double Share => AsRectangle ? Inside.Average(i => i ? 1.0 : 0) : Area / Weights.Sum();

    /// <summary>Where the patch ends, in pixels of the picture.</summary>
    public IReadOnlyList<Spot> Outline
    {
        get
        {
            bool Is(int x, int y) => x >= 0 && y >= 0 && x < Cells && y < Cells && Inside[(y * Cells) + x];
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

    /// <summary>A patch that somebody went round.</summary>
    /// <param name="round">Points round it, in pixels.</param>
    /// <param name="corners">Of the face: left upper, right upper, right lower, left lower.</param>
    /// <exception cref="ProblemException">The corners make no face.</exception>
    public static FacePatch Traced(PicturePlane plane, IReadOnlyList<Spot> round, IReadOnlyList<Spot> corners)
    {
        var face = FaceOf(corners);
        var within = round.Select(face.Plane).ToArray();
        return new FacePatch([.. Middles().Select(m => Holds(within, m))], WeightsOf(plane, face), face, plane.Card is null);
    }

    /// <summary>
    /// A patch grown from a point in it: all that touches it and is on the same side of the light that parts the face best into two (Otsu).
    /// </summary>
    /// <param name="shift">How far that light is moved, as a share of what lies between the two; 0 as found, and a little to either side for what it leaves in doubt.</param>
    /// <exception cref="ProblemException">The corners make no face, the point lies outside, or the face is of one light.</exception>
    public static FacePatch Grown(Raster picture, PicturePlane plane, Spot from, IReadOnlyList<Spot> corners, double shift = 0)
    {
        var face = FaceOf(corners);
        var seed = face.Plane(from);
        if (seed.X is < 0 or > 1 || seed.Y is < 0 or > 1)
        {
            throw new ProblemException(Problem.Of("points", "pictures.seed-outside-face"));
        }

        // Each cell is the mean of what it covers, so that grain is no patch.
        var wide = (corners[1] - corners[0]).Length + (corners[2] - corners[3]).Length;
        var times = Math.Max(1, (int)(wide / 2 / Cells));
        var small = picture.Smaller(times);
        var light = Middles()
            .Select(m => face.Seen(m))
            .Select(p => (float)small.At(new Spot((p.X - ((times - 1) / 2.0)) / times, (p.Y - ((times - 1) / 2.0)) / times)))
            .ToArray();
        if (Threshold.Otsu(light) is not { } parted || parted.Apart < LeastApart)
        {
            throw new ProblemException(Problem.Of("points", "pictures.nothing-to-grow"));
        }

        var (dark, bright) = (light.Where(l => l <= parted.Light).Average(), light.Where(l => l > parted.Light).Average());
        var at = (Math.Min(Cells - 1, (int)(seed.Y * Cells)) * Cells) + Math.Min(Cells - 1, (int)(seed.X * Cells));
        var isBright = About(light, at) > parted.Light;
        var limit = parted.Light + (shift * (bright - dark));
        var regions = Regions.Of([.. light.Select(l => l > limit == isBright)], Cells, Cells);
        var label = Near(at).Select(i => regions.Labels[i]).FirstOrDefault(l => l > 0);
        return label == 0
            ? throw new ProblemException(Problem.Of("points", "pictures.nothing-to-grow"))
            : new FacePatch([.. regions.Labels.Select(l => l == label)], WeightsOf(plane, face), face, plane.Card is null);
    }

    // Share of the variance that has to lie between dark and light; of one light with some grain it is about two thirds (a normal distribution parted in the middle).
    private const double LeastApart = 0.72;

    private static Homography FaceOf(IReadOnlyList<Spot> corners)
    {
        var turns = Enumerable
            .Range(0, 4)
            .Select(i => (corners[(i + 1) % 4] - corners[i]).Cross(corners[(i + 2) % 4] - corners[(i + 1) % 4]))
            .ToArray();
        Spot[] square = [new(0, 0), new(1, 0), new(1, 1), new(0, 1)];
        // Clockwise on the screen, so that left is left; else the face would be laid out mirrored.
        return turns.All(t => t > 0) && Homography.Fit([.. square.Zip(corners)]) is { } face
            ? face
            : throw new ProblemException(Problem.Of("points", "pictures.corners-make-no-face"));
    }

    private static double[] WeightsOf(PicturePlane plane, Homography face)
    {
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
