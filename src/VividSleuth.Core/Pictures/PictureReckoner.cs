using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Pictures;

/// <summary>What is measured in a picture, and what its points are.</summary>
public enum PictureTask
{
    /// <summary>Two points: how far they are apart. A chord, a length, a diameter.</summary>
    Length,

    /// <summary>Four points, two on each of two lines: the angle between them, 0 to 180°, each line from its first point to its second.</summary>
    Angle,

    /// <summary>Three points or more on an arc: its radius.</summary>
    Radius,

    /// <summary>Two points, one on either side of a strip or a gap: its width, by its edges, in many sections beside each other. A third point tells how far these reach.</summary>
    Across,

    /// <summary>Two points across lines that repeat, grooves or teeth: from one to the next, by their edges.</summary>
    Pitch,

    /// <summary>Three points or more round a patch: its area.</summary>
    Area,

    /// <summary>A patch in a face: first the points round the patch, then the four of the face: the share that it covers.</summary>
    Share,

    /// <summary>A point in a patch, then the four corners of the face that it lies in: the share of all that touches the point and is as light or as dark.</summary>
    Grown,

    /// <summary>A patch on the wall of a bore that is seen from above: first the points round the patch, then three round the upper edge and three round the lower: the share that it covers.</summary>
    WallShare,

    /// <summary>A point in such a patch, then the six of the edges: the share of all that touches the point and is as light or as dark.</summary>
    WallGrown,

    /// <summary>Two opposite corners of a honed patch: the included angle of its hatch.</summary>
    Hatch,

    /// <summary>Two opposite corners, or none for the whole picture: particles, by number and size.</summary>
    Particles,
}

/// <summary>What was measured in a picture.</summary>
/// <param name="Figure">In mm, mm², degrees, a share in %, or for particles their number.</param>
/// <param name="Beside">What came out beside it, by the code of its name.</param>
/// <param name="Found">Points that the program found, in pixels, for a hand to move: pairs of edges, section by section.</param>
/// <param name="Notes">What whoever reads the figure should know.</param>
/// <param name="Count">Particles; null of all else.</param>
public sealed record PictureFigure(
    PictureTask Task,
    Estimate Figure,
    IReadOnlyList<(Fact Name, Estimate Figure, Quantity Quantity)> Beside,
    IReadOnlyList<Spot> Found,
    IReadOnlyList<Fact> Notes,
    ParticleCount? Count = null
)
{
    public Quantity Quantity => PictureReckoner.QuantityOf(Task);
}

/// <summary>Measures in a picture.</summary>
public static class PictureReckoner
{
    /// <summary>Sections over a strip.</summary>
    private const int Sections = 21;

    /// <summary>So many of them must show both edges.</summary>
    private const double LeastSeen = 0.6;

    /// <summary>A hatch is looked at in a square picture of this many pixels at most.</summary>
    private const int HatchPixels = 1100;

    /// <summary>How far the light that parts a face may be moved either way, as a share of what lies between dark and light. Ours.</summary>
    private const double LimitDoubt = 0.1;

    /// <summary>Points of an outline that are told.</summary>
    private const int MostOutline = 500;

    private const int LeastHatchPixels = 140;

    /// <summary>More than this far away the card is told to be too slanted to measure by, in degrees.</summary>
    public const double MostTilt = 50;

    /// <summary>Edges of the card’s dots that are seen wider than this, in pixels, are blurred. Ours.</summary>
    public const double MostSoft = 6;

    /// <summary>What a task gives.</summary>
    public static Quantity QuantityOf(PictureTask task) =>
        task switch
        {
            PictureTask.Angle or PictureTask.Hatch => Quantity.Angle,
            PictureTask.Area => Quantity.Area,
            PictureTask.Share or PictureTask.Grown or PictureTask.WallShare or PictureTask.WallGrown => Quantity.Share,
            PictureTask.Particles => Quantity.Ratio,
            PictureTask.Length or PictureTask.Radius or PictureTask.Across or PictureTask.Pitch => Quantity.Length,
            _ => throw new ArgumentOutOfRangeException(nameof(task), task, null),
        };

    /// <param name="points">In pixels of the picture.</param>
    /// <param name="above">How far what is measured lies above the card, in millimetres; below nil, under it.</param>
    /// <param name="key">Names the picture.</param>
    /// <exception cref="ProblemException">The points, the picture or the plane do not give the figure; it is told what to do.</exception>
    public static PictureFigure Measure(Raster picture, PicturePlane plane, PictureTask task, IReadOnlyList<Spot> points, double above, string key)
    {
        Checked(picture, plane, task, points);
        var hand = PictureDoubts.Hand * Math.Max(1, Math.Max(picture.Width, picture.Height) / 1600.0);
        Estimate Of(IReadOnlyList<Spot> seen, Func<IReadOnlyList<Spot>, double> of, Growth growth) =>
            plane.Measured(seen, hand, of, growth, above, key);
        PictureFigure ByHand(Func<IReadOnlyList<Spot>, double> of, Growth growth) =>
            new(task, Of(points, of, growth), task == PictureTask.Radius ? Arc(points, Of) : [], [], Notes(plane, points));
        return task switch
        {
            PictureTask.Length => ByHand(p => (p[0] - p[1]).Length, Growth.AsLength),
            PictureTask.Angle => ByHand(p => Between(p[1] - p[0], p[3] - p[2]), Growth.None),
            PictureTask.Radius => ByHand(p => Circle(p).Radius, Growth.AsLength),
            PictureTask.Area => ByHand(Area, Growth.AsArea),
            PictureTask.Share => ByHand(p => 100 * Area([.. p.SkipLast(4)]) / Area([.. p.TakeLast(4)]), Growth.None),
            PictureTask.WallShare => new(task, Of(points, p => 100 * BoreWall.Share(plane, p), Growth.None), [], [], WallNotes(plane, points)),
            PictureTask.Grown or PictureTask.WallGrown => GrownOf(picture, plane, task, points, hand, key),
            PictureTask.Across => Across(picture, plane, points, above, key),
            PictureTask.Pitch => Pitch(picture, plane, points, above, key),
            PictureTask.Hatch => HatchOf(picture, plane, points, key),
            PictureTask.Particles => ParticlesOf(picture, plane, points),
            _ => throw new ArgumentOutOfRangeException(nameof(task), task, null),
        };
    }

    private static IReadOnlyList<(Fact, Estimate, Quantity)> Arc(
        IReadOnlyList<Spot> points,
        Func<IReadOnlyList<Spot>, Func<IReadOnlyList<Spot>, double>, Growth, Estimate> of
    ) =>
        [
            (
                Fact.Of("pictures.arc-length"),
                of(points, p => Circle(p) is var c ? c.Radius * Swept(p, c.Middle) : 0, Growth.AsLength),
                Quantity.Length
            ),
            (Fact.Of("pictures.arc-angle"), of(points, p => 180 / Math.PI * Swept(p, Circle(p).Middle), Growth.None), Quantity.Angle),
            (Fact.Of("pictures.chord"), of(points, p => (p[0] - p[^1]).Length, Growth.AsLength), Quantity.Length),
        ];

    private static void Checked(Raster picture, PicturePlane plane, PictureTask task, IReadOnlyList<Spot> points)
    {
        if (Math.Min(picture.Width, picture.Height) < 32)
        {
            throw new ProblemException(Problem.Of("photo", "pictures.too-few-pixels", ("width", picture.Width), ("height", picture.Height)));
        }

        if (plane.Tilt > MostTilt)
        {
            throw new ProblemException(Problem.Of("photo", "pictures.too-slanted", ("tilt", Math.Round(plane.Tilt.Value)), ("most", MostTilt)));
        }

        if (!plane.HasScale && task is not (PictureTask.Angle or PictureTask.Hatch) && PictureFace.Points(task) == 0)
        {
            throw new ProblemException(Problem.Of("card", "pictures.no-scale"));
        }

        var (least, most) = task switch
        {
            PictureTask.Length or PictureTask.Pitch or PictureTask.Hatch => (2, 2),
            PictureTask.Angle => (4, 4),
            PictureTask.Across => (2, 3),
            PictureTask.Particles => (0, 2),
            PictureTask.Grown or PictureTask.WallGrown => (1 + PictureFace.Points(task), 1 + PictureFace.Points(task)),
            PictureTask.Share or PictureTask.WallShare => (3 + PictureFace.Points(task), 200),
            _ => (3, 200),
        };
        if (points.Count < least || points.Count > most || (task == PictureTask.Particles && points.Count == 1))
        {
            throw new ProblemException(Problem.Of("points", "pictures.points-of-task", ("least", least), ("most", most), ("here", points.Count)));
        }

        if (points.Any(p => !double.IsFinite(p.X) || !double.IsFinite(p.Y) || !picture.Holds(p)))
        {
            throw new ProblemException(Problem.Of("points", "pictures.point-outside"));
        }

        if (points.Zip(points.Skip(1)).Any(p => (p.First - p.Second).Length < 2))
        {
            throw new ProblemException(Problem.Of("points", "pictures.points-are-one"));
        }
    }

    private static List<Fact> Notes(PicturePlane plane, IReadOnlyList<Spot> points)
    {
        var notes = new List<Fact>();
        if (plane.Card is { } card)
        {
            var far =
                card.Dots.Average(d => d.Seen.X) is var x && card.Dots.Average(d => d.Seen.Y) is var y
                    ? points.Select(p => (p - new Spot(x, y)).Length).DefaultIfEmpty(0).Max()
                        / Math.Max(1, card.Dots.Max(d => (d.Seen - new Spot(x, y)).Length))
                    : 0;
            if (far > 4)
            {
                notes.Add(Fact.Of("pictures.far-from-card"));
            }

            if (card.Soft > MostSoft)
            {
                notes.Add(Fact.Of("pictures.blurred"));
            }
        }
        else
        {
            notes.Add(Fact.Of(plane.HasScale ? "pictures.by-known-length" : "pictures.as-if-square-on"));
        }

        return notes;
    }

    /// <summary>A wall is laid out from edge to edge, whatever its length; a card on the deck tells how square it is seen.</summary>
    private static List<Fact> WallNotes(PicturePlane plane, IReadOnlyList<Spot> points) =>
        [.. plane.Card is null ? [Fact.Of("pictures.wall-as-from-above")] : Notes(plane, points), Fact.Of("pictures.wall-edge-to-edge")];

    /// <summary>The angle from one direction to another, 0 to 180°.</summary>
    private static double Between(Spot a, Spot b) => 180 / Math.PI * Math.Atan2(Math.Abs(a.Cross(b)), a.Dot(b));

    /// <summary>Area within points that go round it (Gauss’s formula of the trapezia).</summary>
    public static double Area(IReadOnlyList<Spot> round) => Math.Abs(round.Select((p, n) => p.Cross(round[(n + 1) % round.Count])).Sum()) / 2;

    /// <summary>
    /// The circle nearest to points, by the squares of their distances from it: begun with that of I. Kåsa (IEEE Transactions on Instrumentation and Measurement 25 (1976) 8–14) and bettered by Gauss and Newton.
    /// </summary>
    public static (Spot Middle, double Radius) Circle(IReadOnlyList<Spot> points)
    {
        // About their mean, so that the equations are well behaved.
        var mean = 1.0 / points.Count * points.Aggregate(new Spot(0, 0), (a, b) => a + b);
        var own = points.Select(p => p - mean).ToArray();
        var (xx, xy, yy) = (own.Sum(p => p.X * p.X), own.Sum(p => p.X * p.Y), own.Sum(p => p.Y * p.Y));
        var (xz, yz) = (own.Sum(p => p.X * p.Dot(p)), own.Sum(p => p.Y * p.Dot(p)));
        var det = 2 * ((xx * yy) - (xy * xy));
        if (Math.Abs(det) < 1e-9 * Math.Pow(xx + yy, 2))
        {
            throw new ProblemException(Problem.Of("points", "pictures.points-in-a-line"));
        }

        var middle = new Spot(((xz * yy) - (yz * xy)) / det, ((yz * xx) - (xz * xy)) / det);
        var radius = Math.Sqrt(middle.Dot(middle) + ((xx + yy) / own.Length));
        for (var round = 0; round < 20 && own.Length > 3; round++)
        {
            var a = MathNet.Numerics.LinearAlgebra.Double.DenseMatrix.Create(own.Length, 3, 0);
            var left = MathNet.Numerics.LinearAlgebra.Double.DenseVector.Create(own.Length, 0);
            foreach (var (n, p) in own.Index())
            {
                var away = (p - middle).Length;
                a.SetRow(n, [(p.X - middle.X) / away, (p.Y - middle.Y) / away, 1]);
                left[n] = away - radius;
            }

            var step = a.QR().Solve(left);
            middle += new Spot(step[0], step[1]);
            radius += step[2];
            if (step.L2Norm() < 1e-10 * radius)
            {
                break;
            }
        }

        return (middle + mean, radius);
    }

    /// <summary>The angle that is gone through about a middle from the first point over all to the last, in radians.</summary>
    private static double Swept(IReadOnlyList<Spot> points, Spot middle) =>
        Math.Abs(
            points.Zip(points.Skip(1)).Sum(p => (p.First - middle) is var a && (p.Second - middle) is var b ? Math.Atan2(a.Cross(b), a.Dot(b)) : 0)
        );

    private static PictureFigure GrownOf(Raster picture, PicturePlane plane, PictureTask task, IReadOnlyList<Spot> points, double hand, string key)
    {
        Spot[] on = [.. points.Skip(1)];
        var seen = PictureFace.Of(plane, task, on);
        var patch = FacePatch.Grown(picture, plane, points[0], seen);
        var (more, less) = (
            FacePatch.Grown(picture, plane, points[0], seen, LimitDoubt).Share,
            FacePatch.Grown(picture, plane, points[0], seen, -LimitDoubt).Share
        );
        var share = 100 * patch.Share;
        // Anywhere between the two alike; and what it would be of a face whose points were set a little otherwise, each by itself.
        var limit = 100 * Math.Abs(more - less) / 2 / Math.Sqrt(3);
        // Moved by some cells, as a patch that ends between two would not change by less.
        var step = 4 * seen.Narrow / FacePatch.Cells;
        var face =
            100
            * hand
            / (2 * step)
            * Math.Sqrt(
                on.SelectMany((_, n) => new[] { (n, Way: new Spot(step, 0)), (n, Way: new Spot(0, step)) })
                    .AsParallel()
                    .AsOrdered()
                    .Select(m => Moved(m.n, m.Way) - Moved(m.n, -1 * m.Way))
                    .Sum(d => d * d)
            );
        double Moved(int which, Spot way) => patch.ShareOf(PictureFace.Of(plane, task, [.. on.Select((p, n) => n == which ? p + way : p)]));
        var outline = patch.Outline;
        return new PictureFigure(
            task,
            Estimate.Of(
                share,
                [
                    new Influence($"picture/limit/{key}", Fact.Of("pictures.limit-of-light"), limit),
                    new Influence($"picture/face/{key}", Fact.Of("pictures.corners-of-face"), face),
                ]
            ),
            plane.HasScale && task == PictureTask.Grown
                ?
                [
                    (
                        Fact.Of("pictures.area-of-patch"),
                        Estimate.Of(
                            patch.Area,
                            new Influence($"picture/area/{key}", Fact.Of("pictures.limit-of-light"), patch.Area * limit / Math.Max(1e-9, share))
                        ),
                        Quantity.Area
                    ),
                ]
                : [],
            [.. outline.Where((_, i) => i % Math.Max(1, outline.Count / MostOutline) == 0)],
            task == PictureTask.WallGrown ? WallNotes(plane, points)
                : seen.Even ? [Fact.Of("pictures.face-as-rectangle")]
                : Notes(plane, points)
        );
    }

    private static PictureFigure Across(Raster picture, PicturePlane plane, IReadOnlyList<Spot> points, double above, string key)
    {
        var (from, to) = (plane.On(points[0]), plane.On(points[1]));
        var along = to - from;
        var square = 1 / along.Length * new Spot(-along.Y, along.X);
        // Without a third point as far along the strip as it is across, about the middle.
        var reach = points.Count > 2 ? (plane.On(points[2]) - from).Dot(square) : along.Length;
        var begin = points.Count > 2 ? 0 : -along.Length / 2;
        var seen = new List<(Edge One, Edge Other, double Width)>();
        for (var n = 0; n < Sections; n++)
        {
            var off = (begin + (reach * n / (Sections - 1))) * square;
            var (a, b) = (plane.Seen(from + off), plane.Seen(to + off));
            if (picture.Holds(a) && picture.Holds(b) && Pair(Edges.Along(picture, a, b, 5)) is var (one, other))
            {
                seen.Add((one, other, (plane.On(one.At) - plane.On(other.At)).Length));
            }
        }

        var median = seen.Count > 0 ? seen.Select(s => s.Width).Order().ElementAt(seen.Count / 2) : 0;
        var spread = seen.Count > 0 ? 1.4826 * seen.Select(s => Math.Abs(s.Width - median)).Order().ElementAt(seen.Count / 2) : 0;
        var pixel = 1 / plane.Scale(points[0]);
        var kept = seen.Where(s => Math.Abs(s.Width - median) <= Math.Max(3 * spread, pixel)).ToArray();
        if (kept.Length < LeastSeen * Sections)
        {
            throw new ProblemException(Problem.Of("points", "pictures.no-clear-edges", ("seen", kept.Length), ("of", Sections)));
        }

        var widths = kept.Select(s => s.Width).ToArray();
        var mean = widths.Average();
        // Of the middle section, by the plane; the mean of all, and what they scatter by.
        var near = kept[kept.Length / 2];
        var doubt = Math.Max(Edges.LeastDoubt, kept.Average(k => (k.One.Uncertainty + k.Other.Uncertainty) / 2));
        var figure = plane.Measured(
            [near.One.At, near.Other.At],
            doubt,
            p => mean + ((p[0] - p[1]).Length - near.Width),
            Growth.AsLength,
            above,
            key
        );
        var scatter = Math.Sqrt(widths.Sum(w => (w - mean) * (w - mean)) / (widths.Length - 1) / widths.Length);
        figure = Estimate.Of(
            figure.Value,
            [
                .. figure.Influences,
                new Influence($"picture/sections/{key}", Fact.Of("pictures.sections", ("n", widths.Length)), scatter, widths.Length - 1),
            ]
        );
        return new PictureFigure(
            PictureTask.Across,
            figure,
            Ends(widths),
            [.. kept.SelectMany(k => new[] { k.One.At, k.Other.At })],
            Notes(plane, points)
        );
    }

    private static IReadOnlyList<(Fact, Estimate, Quantity)> Ends(double[] of) =>
        [
            (Fact.Of("pictures.narrowest"), Estimate.Exact(of.Min()), Quantity.Length),
            (Fact.Of("pictures.widest"), Estimate.Exact(of.Max()), Quantity.Length),
        ];

    /// <summary>The two edges of a strip: of all that follow each other one lighter and one darker, those of which the fainter is the strongest.</summary>
    private static (Edge One, Edge Other)? Pair(IReadOnlyList<Edge> edges)
    {
        (Edge, Edge)? best = null;
        var most = 0.0;
        for (var i = 0; i < edges.Count; i++)
        {
            for (var j = i + 1; j < edges.Count; j++)
            {
                var strength = Math.Min(Math.Abs(edges[i].Step), Math.Abs(edges[j].Step));
                if (Math.Sign(edges[i].Step) != Math.Sign(edges[j].Step) && strength > most)
                {
                    (best, most) = ((edges[i], edges[j]), strength);
                }
            }
        }

        return best;
    }

    private static PictureFigure Pitch(Raster picture, PicturePlane plane, IReadOnlyList<Spot> points, double above, string key)
    {
        // Edges of one kind, from dark to light, are from one groove to the next.
        var rising = Edges.Along(picture, points[0], points[1], 9).Where(e => e.Step > 0).ToArray();
        if (rising.Length < 2)
        {
            throw new ProblemException(Problem.Of("points", "pictures.no-two-grooves", ("seen", rising.Length)));
        }

        var at = rising.Select(e => e.At).ToArray();
        var steps = at.Zip(at.Skip(1)).Select(p => (plane.On(p.First) - plane.On(p.Second)).Length).ToArray();
        var figure = plane.Measured([at[0], at[^1]], Edges.LeastDoubt, p => (p[0] - p[1]).Length / steps.Length, Growth.AsLength, above, key);
        var widest = steps.Max() - steps.Min();
        List<Fact> notes = [.. Notes(plane, points)];
        if (steps.Length > 1 && widest > 0.15 * steps.Average())
        {
            notes.Add(Fact.Of("pictures.pitch-uneven"));
        }

        return new PictureFigure(PictureTask.Pitch, figure, Ends(steps), at, notes);
    }

    private static PictureFigure HatchOf(Raster picture, PicturePlane plane, IReadOnlyList<Spot> points, string key)
    {
        var square = Squared(picture, plane, points[0], points[1]);
        if (Math.Min(square.Picture.Width, square.Picture.Height) < LeastHatchPixels)
        {
            throw new ProblemException(
                Problem.Of(
                    "points",
                    "pictures.patch-too-small",
                    ("width", square.Picture.Width),
                    ("height", square.Picture.Height),
                    ("least", LeastHatchPixels)
                )
            );
        }

        var hatch = Directions.Of(square.Picture);
        if (hatch.Included is not var (angle, doubt))
        {
            throw new ProblemException(
                hatch is { Lines: not null, Spectrum: not null }
                    ? Problem.Of("points", "pictures.hatch-disagrees")
                    : Problem.Of("points", "pictures.no-hatch")
            );
        }

        // What the plane leaves in doubt, of two lines of these directions through the middle of the patch.
        var (one, other) = ((hatch.Lines!.One.Angle + hatch.Spectrum!.One.Angle) / 2, (hatch.Lines.Other.Angle + hatch.Spectrum.Other.Angle) / 2);
        var middle = plane.On(0.5 * (points[0] + points[1]));
        Spot Way(double degrees)
        {
            var of = new Spot(Math.Cos(degrees * Math.PI / 180), -Math.Sin(degrees * Math.PI / 180));
            return plane.Seen(middle + (square.Reach * square.Turned(of)));
        }

        Spot[] ends = [plane.Seen(middle), Way(one), plane.Seen(middle), Way(other)];
        // The direction of a line is told by hundreds of points; what is left is the plane’s.
        var figure = plane.Measured(ends, 0, p => Between(p[1] - p[0], p[3] - p[2]), Growth.None, 0, key);
        return new PictureFigure(
            PictureTask.Hatch,
            Estimate.Of(angle, [.. figure.Influences, new Influence($"picture/hatch/{key}", Fact.Of("pictures.two-ways"), doubt)]),
            [
                (
                    Fact.Of("pictures.family"),
                    Estimate.Of(one, new Influence($"spread/{key}", Fact.Of("pictures.spread"), hatch.Lines.One.Spread)),
                    Quantity.Angle
                ),
                (
                    Fact.Of("pictures.other-family"),
                    Estimate.Of(other, new Influence($"spread/{key}/2", Fact.Of("pictures.spread"), hatch.Lines.Other.Spread)),
                    Quantity.Angle
                ),
            ],
            [],
            [.. Notes(plane, points), Fact.Of("pictures.hatch-upright")]
        );
    }

    /// <summary>A patch of the picture made square: what is upright in the picture stays upright, and a pixel is as large both ways.</summary>
    /// <param name="Reach">How far it reaches from its middle, in the plane’s units.</param>
    /// <param name="Turned">From a direction of the new picture to the plane’s.</param>
    private sealed record SquarePatch(Raster Picture, double Reach, Func<Spot, Spot> Turned);

    private static SquarePatch Squared(Raster picture, PicturePlane plane, Spot a, Spot b)
    {
        var (left, right, top, bottom) = (Math.Min(a.X, b.X), Math.Max(a.X, b.X), Math.Min(a.Y, b.Y), Math.Max(a.Y, b.Y));
        var middle = new Spot((left + right) / 2, (top + bottom) / 2);
        var here = plane.On(middle);
        // Upright in the picture, through the middle of the patch.
        var up = plane.On(middle - new Spot(0, Math.Max(1, (bottom - top) / 4))) - here;
        up = 1 / up.Length * up;
        var mirrored = (plane.On(middle + new Spot(1, 0)) - here).Cross(plane.On(middle + new Spot(0, 1)) - here) < 0 ? -1 : 1;
        var (across, down) = (mirrored * new Spot(-up.Y, up.X), -1 * up);
        // As far as the nearer of two opposite sides of the patch.
        var (half, high) = (
            Math.Min(Away(new Spot(left, middle.Y), across), Away(new Spot(right, middle.Y), across)),
            Math.Min(Away(new Spot(middle.X, top), down), Away(new Spot(middle.X, bottom), down))
        );
        var scale = Math.Min(plane.Scale(middle), HatchPixels / (2 * Math.Max(half, high)));
        var (width, height) = (Math.Max(1, (int)(2 * half * scale)), Math.Max(1, (int)(2 * high * scale)));
        // Of a larger picture, that of the size wanted, so that no fine line falls between two samples.
        var times = Math.Max(1, (int)(plane.Scale(middle) / scale));
        var small = picture.Smaller(times);
        Spot At(Spot pixel)
        {
            var seen = plane.Seen(here + (((pixel.X - ((width - 1) / 2.0)) / scale) * across) + (((pixel.Y - ((height - 1) / 2.0)) / scale) * down));
            return new Spot((seen.X - ((times - 1) / 2.0)) / times, (seen.Y - ((times - 1) / 2.0)) / times);
        }

        return new SquarePatch(small.Seen(width, height, At), Math.Min(half, high), d => (d.X * across) + (d.Y * down));

        double Away(Spot p, Spot way) => Math.Abs((plane.On(p) - here).Dot(way));
    }

    private static PictureFigure ParticlesOf(Raster picture, PicturePlane plane, IReadOnlyList<Spot> points)
    {
        var (left, top, right, bottom) =
            points.Count == 2
                ? (
                    (int)Math.Min(points[0].X, points[1].X),
                    (int)Math.Min(points[0].Y, points[1].Y),
                    (int)Math.Max(points[0].X, points[1].X),
                    (int)Math.Max(points[0].Y, points[1].Y)
                )
                : (0, 0, picture.Width - 1, picture.Height - 1);
        var count = Particles.Count(picture, left, top, right, bottom, plane);
        return new PictureFigure(
            PictureTask.Particles,
            Estimate.Of(count.All.Count, new Influence("picture/count", Fact.Of("pictures.counting"), Math.Max(0.02 * count.All.Count, 0.5))),
            count.All.Count > 0 ? [(Fact.Of("pictures.longest"), count.Longest(plane), Quantity.Length)] : [],
            [.. count.All.Select(p => p.Middle)],
            [.. Notes(plane, points), .. count.Notes],
            count
        );
    }
}
