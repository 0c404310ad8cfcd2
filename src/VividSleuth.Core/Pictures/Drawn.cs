namespace VividSleuth.Core.Pictures;

/// <summary>From where a drawn plane is seen.</summary>
/// <param name="Scale">Pixels for a millimetre in the middle of the picture.</param>
/// <param name="Middle">Point of the plane, in millimetres, that is seen in the middle.</param>
/// <param name="Turn">By how much the plane is turned in itself, in degrees.</param>
/// <param name="Tilt">By how much it is turned away, in degrees.</param>
/// <param name="Towards">The direction in the picture in which it goes away, in degrees.</param>
/// <param name="Distance">Of the camera from the middle, in millimetres.</param>
/// <param name="Lens">k of the lens, as <see cref="PicturePlane"/> has it.</param>
public sealed record DrawnView(
    int Width,
    int Height,
    double Scale,
    Spot Middle,
    double Turn = 0,
    double Tilt = 0,
    double Towards = 0,
    double Distance = 350,
    double Lens = 0
)
{
    /// <summary>Where a point of the plane is seen, in pixels.</summary>
    public Spot Seen(Spot plane)
    {
        var straight = Straight(plane);
        var at = straight;
        for (var n = 0; n < 10; n++)
        {
            at += straight - Unbent(at);
        }

        return at;
    }

    /// <summary>Where it would be seen without the lens.</summary>
    internal Spot Unbent(Spot seen)
    {
        var middle = new Spot((Width - 1) / 2.0, (Height - 1) / 2.0);
        return PicturePlane.Unbent(seen, Lens, middle, Math.Max(1, middle.Length));
    }

    private Spot Straight(Spot plane)
    {
        var (turn, tilt, towards) = (Turn * Math.PI / 180, Tilt * Math.PI / 180, Towards * Math.PI / 180);
        var d = plane - Middle;
        var q = new Spot((Math.Cos(turn) * d.X) - (Math.Sin(turn) * d.Y), (Math.Sin(turn) * d.X) + (Math.Cos(turn) * d.Y));
        var away = new Spot(Math.Cos(towards), Math.Sin(towards));
        var s = q.Dot(away);
        var flat = q - (s * away) + (s * Math.Cos(tilt) * away);
        var k = Scale * Distance / (Distance + (s * Math.Sin(tilt)));
        return new Spot(((Width - 1) / 2.0) + (k * flat.X), ((Height - 1) / 2.0) + (k * flat.Y));
    }

    internal Homography Map()
    {
        var reach = 0.3 * Math.Min(Width, Height) / Scale;
        return Homography.Fit([
            .. new[] { new Spot(-reach, -reach), new Spot(reach, -reach), new Spot(reach, reach), new Spot(-reach, reach) }
                .Select(c => Middle + c)
                .Select(c => (c, Straight(c))),
        ])!;
    }
}

/// <summary>What spoils a drawn picture.</summary>
/// <param name="Noise">Standard deviation of each pixel’s light.</param>
/// <param name="Blur">Standard deviation of the blur, in pixels.</param>
/// <param name="Shade">How much darker it is at one side than at the other, as a share.</param>
public sealed record DrawnFlaws(double Noise = 0.02, double Blur = 0.8, double Shade = 0.2);

/// <summary>
/// Photographs of planes that are known to the hair: a stand-in for a camera, for the demo, tests and practice. The same seed draws the same picture.
/// </summary>
public static class DrawnPicture
{
    /// <summary>Rays for a pixel, one way.</summary>
    private const int Rays = 2;

    /// <param name="light">Of each point of the plane, in millimetres, from 0 to 1.</param>
    public static Raster Draw(Func<Spot, double> light, DrawnView view, DrawnFlaws flaws, int seed)
    {
        var map = view.Map();
        var (width, height) = (view.Width, view.Height);
        var drawn = new float[width * height];
        Parallel.For(
            0,
            height,
            y =>
            {
                for (var x = 0; x < width; x++)
                {
                    var sum = 0.0;
                    for (var n = 0; n < Rays * Rays; n++)
                    {
                        sum += light(map.Plane(view.Unbent(new Spot(x + (((n % Rays) + 0.5) / Rays) - 0.5, y + (((n / Rays) + 0.5) / Rays) - 0.5))));
                    }

                    drawn[(y * width) + x] = (float)(sum / (Rays * Rays) * (1 - (flaws.Shade * x / width)));
                }
            }
        );
        var blurred = Blurred(new Raster(width, height, drawn), flaws.Blur);
        var random = new Random(seed);
        var spoilt = new float[width * height];
        for (var n = 0; n < spoilt.Length; n++)
        {
            // Box and Muller’s; whole steps of 255, as a camera has them.
            var noise = Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
            spoilt[n] = (float)(Math.Round(255 * Math.Clamp(blurred.Light[n] + (flaws.Noise * noise), 0, 1)) / 255);
        }

        return new Raster(width, height, spoilt);
    }

    /// <summary>The light of a card’s paper and dots; null beside it.</summary>
    /// <param name="at">Of its first dot in the plane, in millimetres.</param>
    /// <param name="turn">By how much it is turned, in degrees.</param>
    /// <param name="print">How much larger it was printed than it should be: 1.003 of one that is 0.3 % too large.</param>
    public static Func<Spot, double?> Card(int number, Spot at, double turn = 0, double print = 1)
    {
        var dots = ScaleCard.Dots(number);
        var (cos, sin) = (Math.Cos(turn * Math.PI / 180), Math.Sin(turn * Math.PI / 180));
        return plane =>
        {
            var d = plane - at;
            var own = 1 / print * new Spot((cos * d.X) + (sin * d.Y), (cos * d.Y) - (sin * d.X));
            var (column, row) = ((int)Math.Round(own.X / ScaleCard.Pitch), (int)Math.Round(own.Y / ScaleCard.Pitch));
            if (
                own.X < -ScaleCard.Margin
                || own.Y < -ScaleCard.Margin
                || own.X > ((ScaleCard.Columns - 1) * ScaleCard.Pitch) + ScaleCard.Margin
                || own.Y > ((ScaleCard.Rows - 1) * ScaleCard.Pitch) + ScaleCard.Margin
            )
            {
                return null;
            }

            if (column is < 0 or >= ScaleCard.Columns || row is < 0 or >= ScaleCard.Rows)
            {
                return Paper;
            }

            var dot = dots[(row * ScaleCard.Columns) + column];
            var away = (own - dot.At).Length;
            return away > ScaleCard.Across / 2 || (dot.Hollow && away < ScaleCard.Hole / 2) ? Paper : Ink;
        };
    }

    private const double Paper = 0.92;

    private const double Ink = 0.08;

    /// <summary>A honed surface: lines of two families, each a little other in strength and place.</summary>
    /// <param name="one">Direction of one family, in degrees from the plane’s X towards its negative Y, as a picture shows it; <paramref name="other"/> that of the other.</param>
    /// <param name="apart">From line to line, in millimetres.</param>
    /// <param name="depth">How much light a line takes at the most.</param>
    public static Func<Spot, double> Honed(double one, double other, double apart, double depth, int seed)
    {
        var lines = new[] { one, other }.Select((angle, n) => Lines(angle, apart, depth, seed + n)).ToArray();
        return at => Math.Clamp(0.62 - lines.Sum(l => l(at)), 0.02, 1);
    }

    /// <summary>A strip, or a gap, that runs straight.</summary>
    /// <param name="at">A point on its middle line, in millimetres.</param>
    /// <param name="turn">The way it runs, in degrees from X.</param>
    public static Func<Spot, double> Strip(Spot at, double turn, double width, double inside, double outside)
    {
        var square = new Spot(-Math.Sin(turn * Math.PI / 180), Math.Cos(turn * Math.PI / 180));
        return p => Math.Abs((p - at).Dot(square)) < width / 2 ? inside : outside;
    }

    /// <summary>Particles on an even ground, none over another.</summary>
    /// <param name="longest">Range of their longest side, in millimetres; small ones are many.</param>
    /// <param name="shiny">Share of those with a glint.</param>
    /// <returns>The light, and of each particle its middle, longest side and whether it is shiny.</returns>
    public static (Func<Spot, double> Light, IReadOnlyList<(Spot At, double Longest, bool Shiny)> Truth) Scattered(
        int count,
        Spot from,
        Spot to,
        (double Least, double Most) longest,
        double shiny,
        int seed
    )
    {
        var random = new Random(seed);
        var cell = longest.Most;
        // Each cell knows all that reaches into it, with one more all round.
        var (across, down) = ((int)((to.X - from.X) / cell) + 3, (int)((to.Y - from.Y) / cell) + 3);
        var laid = Enumerable.Range(0, across * down).Select(_ => new List<Grain>()).ToArray();
        int At(double v, double begin, int most) => Math.Clamp((int)((v - begin) / cell) + 1, 0, most - 1);
        var all = new List<Grain>();
        for (var tries = 0; all.Count < count && tries < 100 * count; tries++)
        {
            var half = 0.5 * longest.Least * Math.Pow(longest.Most / longest.Least, Math.Pow(random.NextDouble(), 2));
            var at = new Spot(
                from.X + half + (random.NextDouble() * (to.X - from.X - (2 * half))),
                from.Y + half + (random.NextDouble() * (to.Y - from.Y - (2 * half)))
            );
            var grain = new Grain(
                at,
                half,
                half * (0.5 + (0.5 * random.NextDouble())),
                Math.PI * random.NextDouble(),
                random.NextDouble() < shiny,
                0.1 + (0.2 * random.NextDouble())
            );
            var (i, j) = (At(at.X, from.X, across), At(at.Y, from.Y, down));
            if (laid[(j * across) + i].TrueForAll(g => (g.At - at).Length > g.Half + half))
            {
                all.Add(grain);
                for (var n = 0; n < 9; n++)
                {
                    if (i + (n % 3) - 1 is >= 0 and var x && x < across && j + (n / 3) - 1 is >= 0 and var y && y < down)
                    {
                        laid[(y * across) + x].Add(grain);
                    }
                }
            }
        }

        return (
            p =>
            {
                if (p.X >= from.X && p.Y >= from.Y && p.X <= to.X && p.Y <= to.Y)
                {
                    foreach (var grain in laid[(At(p.Y, from.Y, down) * across) + At(p.X, from.X, across)])
                    {
                        if (grain.Light(p) is { } light)
                        {
                            return light;
                        }
                    }
                }

                return Cloth;
            },
            [.. all.Select(g => (g.At, 2 * g.Half, g.Shiny))]
        );
    }

    private const double Cloth = 0.72;

    /// <summary>An elliptic particle, with a glint over a third of it where it is shiny.</summary>
    private sealed record Grain(Spot At, double Half, double Other, double Turn, bool Shiny, double Dark)
    {
        private readonly double _cos = Math.Cos(Turn);
        private readonly double _sin = Math.Sin(Turn);

        public double? Light(Spot p)
        {
            var d = p - At;
            var (u, v) = (((_cos * d.X) + (_sin * d.Y)) / Half, ((_cos * d.Y) - (_sin * d.X)) / Other);
            return (u * u) + (v * v) > 1 ? null
                : Shiny && Math.Abs(v + 0.1) < 0.33 ? 0.98
                : Dark;
        }
    }

    private static Func<Spot, double> Lines(double angle, double apart, double depth, int seed)
    {
        // Square to the lines; rows count downwards.
        var (x, y) = (Math.Sin(angle * Math.PI / 180), Math.Cos(angle * Math.PI / 180));
        const int Known = 4096;
        var random = new Random(seed);
        var (place, strength) = (new double[Known], new double[Known]);
        for (var n = 0; n < Known; n++)
        {
            (place[n], strength[n]) = (0.6 * (random.NextDouble() - 0.5), Math.Pow(random.NextDouble(), 2));
        }

        return at =>
        {
            var away = ((x * at.X) + (y * at.Y)) / apart;
            var taken = 0.0;
            for (var line = (int)Math.Floor(away) - 1; line <= (int)Math.Floor(away) + 2; line++)
            {
                var n = ((line % Known) + Known) % Known;
                var off = (away - line - place[n]) / 0.22;
                taken += strength[n] * Math.Exp(-off * off);
            }

            return depth * Math.Min(1, taken);
        };
    }

    private static Raster Blurred(Raster picture, double deviation)
    {
        if (deviation <= 0)
        {
            return picture;
        }

        var reach = (int)Math.Ceiling(3 * deviation);
        var weights = Enumerable.Range(-reach, (2 * reach) + 1).Select(d => Math.Exp(-d * d / (2 * deviation * deviation))).ToArray();
        var sum = weights.Sum();
        Raster Along(Raster of, int dx, int dy)
        {
            var light = new float[of.Width * of.Height];
            Parallel.For(
                0,
                of.Height,
                y =>
                {
                    for (var x = 0; x < of.Width; x++)
                    {
                        var at = 0.0;
                        for (var n = -reach; n <= reach; n++)
                        {
                            at += weights[n + reach] * of[Math.Clamp(x + (n * dx), 0, of.Width - 1), Math.Clamp(y + (n * dy), 0, of.Height - 1)];
                        }

                        light[(y * of.Width) + x] = (float)(at / sum);
                    }
                }
            );
            return new Raster(of.Width, of.Height, light);
        }

        return Along(Along(picture, 1, 0), 0, 1);
    }
}
