using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

/// <summary>Five hundred drawn pictures, of which the truth is known: 388 strips, 100 hatches, 12 trays of particles. All seen as a phone sees them, tilted by up to 35°.</summary>
public sealed class DrawnPicturesTests
{
    [Fact]
    public void A_width_lies_within_its_stated_uncertainty_in_95_of_100()
    {
        const int Pictures = 388;
        var within = new bool[Pictures];
        Parallel.For(0, Pictures, n => within[n] = Strip(n));
        (within.Count(w => w) / (double)Pictures).ShouldBeInRange(0.92, 0.98);
    }

    [Fact]
    public void A_hatch_lies_within_a_degree_and_a_half()
    {
        const int Pictures = 100;
        var off = new double[Pictures];
        Parallel.For(
            0,
            Pictures,
            n =>
            {
                var random = new Random(4000 + n);
                var (half, lean) = (12 + (random.NextDouble() * 20), 6 * (random.NextDouble() - 0.5));
                var view = View(1000, 800, 8, new Spot(26, 33), random, new Spot(-8, -8), new Spot(60, 76)) with { Turn = 0 };
                var card = DrawnPicture.Card(100 + n, new Spot(0, 0));
                var honed = DrawnPicture.Honed(lean + half, lean - half, 0.5, 0.5, n);
                var picture = DrawnPicture.Draw(p => p.Y < 38 ? card(p) ?? 0.5 : honed(p), view, new DrawnFlaws(0.03), n);
                off[n] = Math.Abs(
                    Measured(picture, PictureTask.Hatch, view.Seen(new Spot(4, 43)), view.Seen(new Spot(48, 74))).Figure.Value - (2 * half)
                );
            }
        );
        off.Max().ShouldBeLessThan(1.5);
    }

    [Fact]
    public void Particles_are_counted_within_three_in_a_hundred()
    {
        const int Pictures = 12;
        var (off, shiny) = (new double[Pictures], new double[Pictures]);
        Parallel.For(
            0,
            Pictures,
            n =>
            {
                var random = new Random(n);
                var count = 100 + (int)(1900 * n / (Pictures - 1.0));
                var view = View(2600, 2700, 24, new Spot(27, 34), random, new Spot(-8, -8), new Spot(63, 79));
                var (from, to) = (new Spot(-6, 42), new Spot(62, 78));
                var (light, truth) = DrawnPicture.Scattered(count, from, to, (0.5, 1.5), 0.3, n);
                var card = DrawnPicture.Card(1 + n, new Spot(0, 0));
                var picture = DrawnPicture.Draw(p => card(p) ?? light(p), view, new DrawnFlaws(0.015, 0.8, 0.25), n);
                Spot[] corners = [view.Seen(from), view.Seen(new Spot(to.X, from.Y)), view.Seen(to), view.Seen(new Spot(from.X, to.Y))];
                var found = Measured(
                    picture,
                    PictureTask.Particles,
                    new Spot(Math.Max(0, corners.Min(c => c.X) - 20), Math.Max(0, corners.Min(c => c.Y) - 20)),
                    new Spot(Math.Min(2599, corners.Max(c => c.X) + 20), Math.Min(2699, corners.Max(c => c.Y) + 20))
                ).Count!;
                // The card’s dots are no particles, nor is what its edge of paper is taken for.
                var inside = found.All.Where(p => card(Truly(view, p.Middle)) is null && Truly(view, p.Middle).Y > 40).ToArray();
                var there = truth.Where(t => view.Seen(t.At) is { X: > 25 and < 2575, Y: > 25 and < 2675 }).ToArray();
                off[n] = Math.Abs(inside.Count(p => p.Middle is { X: > 25 and < 2575, Y: > 25 and < 2675 }) - there.Length) / (double)there.Length;
                shiny[n] =
                    Math.Abs(inside.Count(p => p is { Shiny: true, Longest: > 800 }) - there.Count(t => t is { Shiny: true, Longest: > 0.8 }))
                    / (double)there.Length;
            }
        );
        off.Max().ShouldBeLessThan(0.03);
        shiny.Max().ShouldBeLessThan(0.05);
    }

    private static PictureFigure Measured(Raster picture, PictureTask task, params Spot[] points) =>
        PictureReckoner.Measure(
            picture,
            PicturePlane.Of(CardFinder.Find(picture).ShouldHaveSingleItem(), picture.Width, picture.Height),
            task,
            [.. points.Select(p => new Spot(Math.Clamp(p.X, 0, picture.Width - 1), Math.Clamp(p.Y, 0, picture.Height - 1)))],
            0,
            "p"
        );

    /// <summary>Where a point lies by the truth, by halving the way.</summary>
    private static Spot Truly(DrawnView view, Spot seen)
    {
        var at = view.Middle;
        for (var n = 0; n < 60; n++)
        {
            at += 0.7 / view.Scale * Turned(seen - view.Seen(at), -view.Turn);
        }

        return at;
    }

    private static Spot Turned(Spot p, double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        return new Spot((cos * p.X) - (sin * p.Y), (sin * p.X) + (cos * p.Y));
    }

    /// <summary>As a phone sees it: from as near as its lens asks for, turned by up to 10° and tilted by up to 35°, with all of the scene in the picture.</summary>
    private static DrawnView View(int width, int height, double scale, Spot middle, Random random, Spot from, Spot to)
    {
        for (var tries = 0; tries < 1000; tries++)
        {
            var view = new DrawnView(
                width,
                height,
                scale,
                middle,
                20 * (random.NextDouble() - 0.5),
                35 * random.NextDouble(),
                360 * random.NextDouble(),
                PictureDoubts.Focal * width / scale * (1 + (PictureDoubts.FocalWithin * ((2 * random.NextDouble()) - 1)))
            );
            Spot[] corners = [from, new(to.X, from.Y), to, new(from.X, to.Y)];
            if (corners.All(c => view.Seen(c) is var s && s.X > 0 && s.Y > 0 && s.X < width && s.Y < height))
            {
                return view;
            }
        }

        throw new ArgumentException("The scene is larger than the picture.", nameof(to));
    }

    /// <summary>Whether a drawn strip’s width lies within two standard uncertainties: its card printed, the strip lying, the lens bending and the sensor seeing edges as well as such things do.</summary>
    private static bool Strip(int n)
    {
        const double OfSensor = 0.08;
        var random = new Random(n);
        double Within(double half) => half * ((2 * random.NextDouble()) - 1);
        double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var (width, turn) = (2 + (random.NextDouble() * 14), 180 * random.NextDouble());
        var (lens, print, above) = (Within(PictureDoubts.Lens), 1 + Within(PictureDoubts.Print), Within(PictureDoubts.Above));
        var view = View(1000, 720, 6, new Spot(40, 15), random, new Spot(-8, -8), new Spot(88, 38)) with { Lens = lens };
        var card = DrawnPicture.Card(1 + n, new Spot(0, 0), 0, print);
        var middle = new Spot(72 + Within(3), 15 + Within(4));
        var seen = (width * (1 + (above / view.Distance))) + (Normal() * OfSensor * Math.Sqrt(2) / view.Scale);
        var drawn = DrawnPicture.Strip(middle, turn, seen, 0.75, 0.3);
        var picture = DrawnPicture.Draw(p => card(p) ?? (p.X > 58 ? drawn(p) : 0.3), view, new DrawnFlaws(0.02), n);
        var square = new Spot(-Math.Sin(turn * Math.PI / 180), Math.Cos(turn * Math.PI / 180));
        var along = new Spot(square.Y, -square.X);
        var outside = (0.5 * width) + 1.2;
        Spot Hand(Spot plane) => view.Seen(plane) + new Spot(Within(2), Within(2));
        var figure = Measured(
            picture,
            PictureTask.Across,
            Hand(middle - (outside * square)),
            Hand(middle + (outside * square)),
            Hand(middle - (outside * square) + (3 * along))
        ).Figure;
        return Math.Abs(figure.Value - width) <= 2 * figure.Standard;
    }
}
