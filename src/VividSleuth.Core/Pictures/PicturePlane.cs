using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Pictures;

/// <summary>What bounds a figure that is read from a picture. Each is a half-width, ours, where no other source is told: rules of thumb, so that no figure is told as better than it is.</summary>
public static class PictureDoubts
{
    /// <summary>How well a printed card keeps its size, as a share: printers and paper.</summary>
    public const double Print = 0.003;

    /// <summary>What the lens of a phone leaves at the corner after its own correction, as a share of the way from the middle.</summary>
    public const double Lens = 0.01;

    /// <summary>How far from square on a picture may be taken that has no card in it, in degrees.</summary>
    public const double Slant = 8;

    /// <summary>How well a hand points, of a picture that is 1,600 pixels long on the screen: standard uncertainty in pixels.</summary>
    public const double Hand = 1.0;

    /// <summary>The distance of the camera in pixels of the picture’s longer side: an ordinary phone’s main lens, some 26 mm on a full frame.</summary>
    public const double Focal = 0.75;

    /// <summary>How well that is known, as a share: phones differ.</summary>
    public const double FocalWithin = 0.3;

    /// <summary>How well somebody tells how far the card lies below what is measured, in millimetres.</summary>
    public const double Above = 0.5;
}

/// <summary>What the size of a figure does when the picture’s scale is wrong by a share.</summary>
public enum Growth
{
    /// <summary>Angles and shares: nothing.</summary>
    None,

    /// <summary>Lengths: the same share.</summary>
    AsLength,

    /// <summary>Areas: twice the share.</summary>
    AsArea,
}

/// <summary>
/// The plane in which a picture is measured: by a card in it, by a length that somebody knows, or taken to be square on. It makes points of the picture to points of the plane in millimetres, and tells what that leaves
/// in doubt.
/// </summary>
/// <remarks>
/// The lens: a point at d from the middle of the picture, R of it to the corner, would be seen at d (1 + k (d / R)²) without it (the first term of D. C. Brown, Decentering Distortion of Lenses, Photogrammetric
/// Engineering 32 (1966) 444–462; from memory). What is known of k beforehand, <see cref="PictureDoubts.Lens"/>, is put together with what the dots of the card say of it.
/// </remarks>
public sealed class PicturePlane
{
    private readonly Spot _middle;
    private readonly double _corner;
    private readonly Func<double, (Homography Map, double Rss)> _fit;
    private readonly Homography _map;
    private readonly int _width;
    private readonly int _height;
    private readonly Spot[] _marks;
    private readonly double _length;

    private PicturePlane(int width, int height, CardSeen? card, Spot[] marks, double length)
    {
        (_width, _height, Card, _marks, _length) = (width, height, card, marks, length);
        _middle = new Spot((width - 1) / 2.0, (height - 1) / 2.0);
        _corner = Math.Max(1, _middle.Length);
        if (card is not null)
        {
            _fit = k =>
            {
                var map = Homography.Fit([.. card.Dots.Select(d => (d.Plane, Straight(d.Seen, k)))])!;
                var rss = card.Dots.Sum(d => Math.Pow((map.Seen(d.Plane) - Straight(d.Seen, k)).Length, 2));
                return (map, rss);
            };
            (LensTold, LensDoubt) = Told(card);
        }
        else
        {
            // A scale and a direction, no more: the picture is taken to be square on.
            _fit = k => (Similar(Straight(marks[0], k), Straight(marks[1], k), length), 0);
            (LensTold, LensDoubt) = (0, Uncertainty.Rectangular(PictureDoubts.Lens));
        }

        _map = _fit(LensTold).Map;
    }

    /// <summary>The card by which it is measured; null without one.</summary>
    public CardSeen? Card { get; }

    /// <summary>Whether lengths can be told at all.</summary>
    public bool HasScale => Card is not null || _length > 0;

    /// <summary>k of the lens, and its standard uncertainty.</summary>
    public double LensTold { get; }

    /// <inheritdoc cref="LensTold"/>
    public double LensDoubt { get; }

    /// <summary>Standard deviation of where the dots are seen from where the plane has them, in pixels; null without a card.</summary>
    public double? Residual => Card is null ? null : _map.Residual;

    /// <summary>How far the card is turned away, in degrees; null without one.</summary>
    public double? Tilt =>
        Card is null ? null : _map.Tilt(new Spot(ScaleCard.Pitch * (ScaleCard.Columns - 1) / 2, ScaleCard.Pitch * (ScaleCard.Rows - 1) / 2));

    /// <summary>The plane of a card.</summary>
    public static PicturePlane Of(CardSeen card, int width, int height) => new(width, height, card, [], 0);

    /// <summary>By a length that somebody knows, between two points of the picture, in millimetres.</summary>
    /// <returns>Null where the points are one.</returns>
    public static PicturePlane? Of(Spot a, Spot b, double length, int width, int height) =>
        (a - b).Length < 1 || length <= 0 ? null : new(width, height, null, [a, b], length);

    /// <summary>Nothing is known: angles and shares can be told, as if the picture were square on.</summary>
    public static PicturePlane Unscaled(int width, int height) => new(width, height, null, [new Spot(0, 0), new Spot(1, 0)], 0);

    /// <summary>The point of the plane that is seen there, in millimetres; without a scale, in pixels.</summary>
    public Spot On(Spot seen) => _map.Plane(Straight(seen, LensTold));

    /// <summary>Where a point of the plane is seen.</summary>
    public Spot Seen(Spot plane) => Bent(_map.Seen(plane), LensTold);

    /// <summary>Pixels for a millimetre about a point of the picture, the mean of both directions.</summary>
    public double Scale(Spot seen)
    {
        var (most, least) = _map.Scale(On(seen));
        return Math.Sqrt(most * least);
    }

    /// <summary>How far up a plane lies, over the camera’s distance from it: the share by which what is seen there looks too large.</summary>
    public double Nearer(Spot seen, double above) => above * Scale(seen) / (PictureDoubts.Focal * Math.Max(_width, _height));

    /// <summary>What is reckoned from points of the picture, with what each influence leaves in doubt.</summary>
    /// <param name="seen">Points, in pixels.</param>
    /// <param name="pixel">Standard uncertainty of each coordinate of these, in pixels.</param>
    /// <param name="of">What is reckoned from them in the plane.</param>
    /// <param name="above">How far what is measured lies above the card, in millimetres.</param>
    /// <param name="key">Names the picture: what its points share is one error.</param>
    public Estimate Measured(IReadOnlyList<Spot> seen, double pixel, Func<IReadOnlyList<Spot>, double> of, Growth growth, double above, string key)
    {
        IReadOnlyList<Spot> straight = [.. seen.Select(s => Straight(s, LensTold))];
        var value = of([.. straight.Select(_map.Plane)]);
        var influences = new List<Influence> { new($"picture/points/{key}", Fact.Of("pictures.points"), _map.Uncertainty(straight, pixel, of, 0)) };
        var size = growth switch
        {
            Growth.None => 0,
            Growth.AsLength => value,
            Growth.AsArea => 2 * value,
            _ => throw new ArgumentOutOfRangeException(nameof(growth), growth, null),
        };
        if (Card is not null)
        {
            influences.Add(new($"picture/plane/{key}", Fact.Of("pictures.plane"), _map.Uncertainty(straight, 0, of)));
            influences.Add(
                new(
                    $"picture/print/{Card.Number}",
                    Fact.Of("pictures.print", ("number", Card.Number)),
                    size * Uncertainty.Rectangular(PictureDoubts.Print)
                )
            );
        }
        else
        {
            influences.Add(new($"picture/slant/{key}", Fact.Of("pictures.slant"), Slanted(straight, of)));
            if (_length > 0)
            {
                influences.Add(new($"picture/scale/{key}", Fact.Of("pictures.scale"), size * Math.Sqrt(2) * pixel / (_marks[0] - _marks[1]).Length));
            }
        }

        // The way it goes without the lens being what it is told to be, by the whole chain.
        var bent = _fit(LensTold + LensDoubt).Map;
        influences.Add(
            new($"picture/lens/{key}", Fact.Of("pictures.lens"), of([.. seen.Select(s => bent.Plane(Straight(s, LensTold + LensDoubt)))]) - value)
        );
        if (HasScale && growth != Growth.None)
        {
            var middle = 1.0 / seen.Count * seen.Aggregate(new Spot(0, 0), (a, b) => a + b);
            var nearer = Nearer(middle, above);
            var each = Nearer(middle, Uncertainty.Rectangular(PictureDoubts.Above));
            influences.Add(
                new(
                    $"picture/above/{key}",
                    Fact.Of("pictures.above"),
                    size * Math.Sqrt(Math.Pow(nearer * Uncertainty.Rectangular(PictureDoubts.FocalWithin), 2) + (each * each))
                )
            );
            value *= growth == Growth.AsArea ? Math.Pow(1 - nearer, 2) : 1 - nearer;
        }

        return Estimate.Of(value, [.. influences.Where(i => i.Standard != 0)]);
    }

    /// <summary>How much it changes where the picture is slanted by as much as it may be, the direction in which it changes most.</summary>
    private double Slanted(IReadOnlyList<Spot> straight, Func<IReadOnlyList<Spot>, double> of)
    {
        var value = of([.. straight.Select(_map.Plane)]);
        var shorter = Math.Cos(PictureDoubts.Slant * Math.PI / 180);
        var most = 0.0;
        for (var turn = 0; turn < 180; turn += 15)
        {
            var way = new Spot(Math.Cos(turn * Math.PI / 180), Math.Sin(turn * Math.PI / 180));
            var moved = of([.. straight.Select(_map.Plane).Select(p => p + (((1 / shorter) - 1) * p.Dot(way) * way))]);
            most = Math.Max(most, Math.Abs(moved - value));
        }

        return Uncertainty.Rectangular(most);
    }

    private static Homography Similar(Spot a, Spot b, double length)
    {
        var across = b - a;
        var down = new Spot(-across.Y, across.X);
        // Without a scale a millimetre is a pixel.
        var side = length > 0 ? length : 1;
        return Homography.Fit([(new Spot(0, 0), a), (new Spot(side, 0), b), (new Spot(side, side), b + down), (new Spot(0, side), a + down)])!;
    }

    /// <summary>k by the dots of the card and by what is known of lenses beforehand: normal, each by its precision.</summary>
    private (double K, double Doubt) Told(CardSeen card)
    {
        var before = Uncertainty.Rectangular(PictureDoubts.Lens);
        const double Step = 0.01;
        var (at, up, down) = (_fit(0).Rss, _fit(Step).Rss, _fit(-Step).Rss);
        var bend = (up + down - (2 * at)) / (Step * Step);
        if (card.Dots.Count < 8 || bend <= 0)
        {
            return (0, before);
        }

        var k = (down - up) / (2 * Step) / bend;
        var least = at - (0.5 * bend * k * k);
        // Below a fortieth of a pixel no dot is placed, whatever the rest says.
        var variance = Math.Max(least / ((2 * card.Dots.Count) - 9), 0.025 * 0.025);
        var (seen, known) = (bend / (2 * variance), 1 / (before * before));
        return (k * seen / (seen + known), 1 / Math.Sqrt(seen + known));
    }

    /// <summary>Where a point would be seen without the lens.</summary>
    private Spot Straight(Spot seen, double k) => Unbent(seen, k, _middle, _corner);

    private Spot Bent(Spot straight, double k)
    {
        var at = straight;
        for (var n = 0; n < 8; n++)
        {
            at += straight - Straight(at, k);
        }

        return at;
    }

    internal static Spot Unbent(Spot seen, double k, Spot middle, double corner)
    {
        var d = seen - middle;
        return middle + ((1 + (k * d.Dot(d) / (corner * corner))) * d);
    }
}
