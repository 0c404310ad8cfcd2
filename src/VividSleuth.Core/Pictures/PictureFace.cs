namespace VividSleuth.Core.Pictures;

/// <summary>A face of a part as it is seen in a picture, laid out 1 wide and 1 high.</summary>
public abstract class PictureFace
{
    /// <summary>Whether its left side lies beside its right one.</summary>
    public abstract bool Wraps { get; }

    /// <summary>How many pixels of the picture it is wide, about.</summary>
    public abstract double Wide { get; }

    /// <summary>How many it is the narrower way.</summary>
    public abstract double Narrow { get; }

    /// <summary>Whether no card told how it lies, so that a cell is as large as another.</summary>
    public abstract bool Even { get; }

    /// <summary>Where a point of the face is seen, in pixels of the picture.</summary>
    public abstract Spot Seen(Spot face);

    /// <summary>The point of the face that is seen there.</summary>
    public abstract Spot Laid(Spot seen);

    /// <summary>The face that a task is about.</summary>
    /// <param name="points">Those of the face alone, in pixels.</param>
    /// <exception cref="ProblemException">The points make no face.</exception>
    public static PictureFace Of(PicturePlane plane, PictureTask task, IReadOnlyList<Spot> points) =>
        task is PictureTask.WallShare or PictureTask.WallGrown ? BoreWall.Of(plane, points) : FlatFace.Of(plane, points);

    /// <summary>How many of a task’s points, behind the others, are of the face that its patch lies in; 0 where it is about none.</summary>
    public static int Points(PictureTask task) =>
        task switch
        {
            PictureTask.Share or PictureTask.Grown => 4,
            PictureTask.WallShare or PictureTask.WallGrown => 6,
            _ => 0,
        };
}

/// <summary>A flat face with four corners.</summary>
public sealed class FlatFace : PictureFace
{
    private readonly Homography _map;

    private FlatFace(Homography map, double wide, double high, bool even) => (_map, Wide, Narrow, Even) = (map, wide, Math.Min(wide, high), even);

    public override bool Wraps => false;

    public override double Wide { get; }

    public override double Narrow { get; }

    /// <summary>Without a card the face is taken to be a rectangle, whose corners tell how it lies.</summary>
    public override bool Even { get; }

    public override Spot Seen(Spot face) => _map.Seen(face);

    public override Spot Laid(Spot seen) => _map.Plane(seen);

    /// <param name="corners">Left upper, right upper, right lower, left lower, in pixels.</param>
    /// <exception cref="ProblemException">The corners make no face.</exception>
    public static FlatFace Of(PicturePlane plane, IReadOnlyList<Spot> corners)
    {
        var turns = Enumerable
            .Range(0, 4)
            .Select(i => (corners[(i + 1) % 4] - corners[i]).Cross(corners[(i + 2) % 4] - corners[(i + 1) % 4]))
            .ToArray();
        Spot[] square = [new(0, 0), new(1, 0), new(1, 1), new(0, 1)];
        // Clockwise on the screen, so that left is left; else the face would be laid out mirrored.
        return turns.All(t => t > 0) && Homography.Fit([.. square.Zip(corners)]) is { } map
            ? new FlatFace(map, Between(corners, 0, 1), Between(corners, 1, 2), plane.Card is null)
            : throw new ProblemException(Problem.Of("points", "pictures.corners-make-no-face"));
    }

    /// <summary>The mean of a side and the one across.</summary>
    private static double Between(IReadOnlyList<Spot> corners, int from, int to) =>
        ((corners[to] - corners[from]).Length + (corners[(to + 2) % 4] - corners[(from + 2) % 4]).Length) / 2;
}

/// <summary>
/// The wall of a bore seen from above, between the edge on top and the edge below: across clockwise from what points up in the picture, down from the upper edge to the lower.
/// </summary>
/// <remarks>
/// Seen square on by a camera at the height Z over it, a circle of the bore’s radius R has the radius r = f R / Z, and its middle moves in proportion to r along a line from where the axis vanishes. So two edges
/// tell all between them: the way down goes with 1 / r, and neither the camera’s height nor the bore’s length is asked for (pinhole camera, elementary geometry). With a card on the deck the picture is made
/// square first, which is what such a camera would have seen; without one it is taken to be.
/// </remarks>
public sealed class BoreWall : PictureFace
{
    /// <summary>Of less wall than this, as the lower edge’s radius over the upper’s, nothing is told: a few pixels would be all of its depth. Ours.</summary>
    private const double MostLower = 0.93;

    /// <summary>Steps along each side of a traced patch: a straight line in the picture is none on the wall.</summary>
    private const int Steps = 16;

    private readonly PicturePlane _plane;
    private readonly Spot _vanishing;
    private readonly Spot _drift;
    private readonly double _upper;
    private readonly double _lower;
    private readonly double _up;
    private readonly int _hand;

    private BoreWall(PicturePlane plane, IReadOnlyList<Spot> on)
    {
        _plane = plane;
        var (upper, lower) = (PictureReckoner.Circle([.. on.Take(3)]), PictureReckoner.Circle([.. on.Skip(3)]));
        (_upper, _lower) = (upper.Radius, lower.Radius);
        _drift = 1 / (_upper - _lower) * (upper.Middle - lower.Middle);
        // Outside the bore’s own width the camera does not see all of the wall.
        if (_lower > MostLower * _upper || _drift.Length >= 1)
        {
            throw new ProblemException(Problem.Of("points", "pictures.edges-make-no-bore"));
        }

        _vanishing = lower.Middle - (_lower * _drift);
        var seen = plane.Seen(upper.Middle);
        var (here, up, right) = (plane.On(seen), plane.On(seen - new Spot(0, 1)), plane.On(seen + new Spot(1, 0)));
        _hand = (up - here).Cross(right - here) < 0 ? -1 : 1;
        _up = Math.Atan2((up - here).Y, (up - here).X);
        Wide = Math.PI * (_upper + _lower) * plane.Scale(seen);
        Narrow = (_upper - _lower) * plane.Scale(seen);
    }

    public override bool Wraps => true;

    public override double Wide { get; }

    public override double Narrow { get; }

    public override bool Even => true;

    /// <param name="points">Three round the upper edge, then three round the lower one, in pixels.</param>
    /// <exception cref="ProblemException">They make no bore that is seen from above.</exception>
    public static BoreWall Of(PicturePlane plane, IReadOnlyList<Spot> points) => new(plane, [.. points.Select(plane.On)]);

    public override Spot Seen(Spot face)
    {
        var radius = 1 / ((1 / _upper) + (face.Y * ((1 / _lower) - (1 / _upper))));
        var angle = _up + (_hand * 2 * Math.PI * face.X);
        return _plane.Seen(_vanishing + (radius * _drift) + (radius * new Spot(Math.Cos(angle), Math.Sin(angle))));
    }

    public override Spot Laid(Spot seen) => LaidOn(_plane.On(seen));

    private Spot LaidOn(Spot plane)
    {
        // The circle through it: |q − d r| = r.
        var q = plane - _vanishing;
        var (a, b) = (1 - _drift.Dot(_drift), q.Dot(_drift));
        var radius = Math.Max(1e-9, (Math.Sqrt((b * b) + (a * q.Dot(q))) - b) / a);
        var from = q - (radius * _drift);
        var turned = _hand * (Math.Atan2(from.Y, from.X) - _up) / (2 * Math.PI);
        return new Spot(turned - Math.Floor(turned), ((1 / radius) - (1 / _upper)) / ((1 / _lower) - (1 / _upper)));
    }

    /// <summary>
    /// The share of the wall within points that go round a patch, 0 to 1: Gauss’s formula on the wall laid flat, down to the lower edge. What goes round the whole bore is all below it.
    /// </summary>
    /// <param name="on">Points round the patch, then the six of the edges, in the plane.</param>
    internal static double Share(PicturePlane plane, IReadOnlyList<Spot> on)
    {
        var wall = new BoreWall(plane, [.. on.TakeLast(6)]);
        var round = on.SkipLast(6).ToArray();
        var sum = 0.0;
        foreach (var (n, from) in round.Index())
        {
            var to = round[(n + 1) % round.Length];
            var before = wall.LaidOn(from);
            for (var step = 1; step <= Steps; step++)
            {
                var here = wall.LaidOn(from + ((double)step / Steps * (to - from)));
                var across = here.X - before.X;
                across -= Math.Round(across);
                sum += across * (1 - ((Math.Clamp(here.Y, 0, 1) + Math.Clamp(before.Y, 0, 1)) / 2));
                before = here;
            }
        }

        return Math.Abs(sum);
    }
}
