namespace VividSleuth.Core.Pictures;

/// <summary>What is drawn for somebody to measure.</summary>
public enum SceneKind
{
    /// <summary>A honed patch.</summary>
    Hatch,

    /// <summary>The ends of a ring with a gap between.</summary>
    RingGap,

    /// <summary>A worn strip, lighter than what is about it.</summary>
    Strip,

    /// <summary>Grooves that repeat.</summary>
    Grooves,

    /// <summary>What lay in a pan, on a cloth.</summary>
    Particles,
}

/// <summary>A drawn photograph of a part beside a card, whose figure is known.</summary>
/// <param name="Points">Where somebody who measures it would set his points, in pixels.</param>
/// <param name="Truth">In mm, degrees, or of particles their number.</param>
public sealed record DrawnScene(SceneKind Kind, Raster Picture, PictureTask Task, IReadOnlyList<Spot> Points, double Truth);

/// <summary>Draws scenes: the stand-in for a camera at the bench. The same seed draws the same scene.</summary>
public static class DrawnScenes
{
    private const int Width = 2200;

    private const int Height = 1800;

    private const double Scale = 20;

    /// <summary>Below the card.</summary>
    private const double Below = 42;

    /// <param name="tilt">By how much it is seen at a slant, in degrees.</param>
    /// <param name="noise">Standard deviation of each pixel’s light.</param>
    /// <param name="glare">With a lamp reflected in it.</param>
    /// <param name="small">By how many times fewer pixels it has each way.</param>
    public static DrawnScene Draw(SceneKind kind, int seed, double tilt = 12, double noise = 0.02, bool glare = false, double small = 1)
    {
        var random = new Random(seed);
        var view = new DrawnView(
            (int)(Width / small),
            (int)(Height / small),
            Scale / small,
            new Spot(26, 32),
            8 * (random.NextDouble() - 0.5),
            tilt,
            360 * random.NextDouble(),
            PictureDoubts.Focal * Width / Scale
        );
        if (kind == SceneKind.Hatch)
        {
            view = view with { Turn = 0 };
        }

        var card = DrawnPicture.Card(1 + (seed % ScaleCard.Most), new Spot(0, 0));
        var (light, truth, task, points) = Of(kind, random, seed);
        var lamp = new Spot(10 + (40 * random.NextDouble()), 45 + (25 * random.NextDouble()));
        double At(Spot p)
        {
            var here = p.Y > Below - 3 ? light(p) : 0.45;
            var lit = glare && p.Y > Below - 3 ? 0.6 * Math.Exp(-Math.Pow((p - lamp).Length / 2.5, 2)) : 0;
            return card(p) ?? Math.Min(1, here + lit);
        }

        var picture = DrawnPicture.Draw(At, view, new DrawnFlaws(noise), seed);
        return new DrawnScene(
            kind,
            picture,
            task,
            [.. points.Select(view.Seen).Select(s => new Spot(Math.Clamp(s.X, 0, view.Width - 1), Math.Clamp(s.Y, 0, view.Height - 1)))],
            truth
        );
    }

    private static (Func<Spot, double> Light, double Truth, PictureTask Task, Spot[] Points) Of(SceneKind kind, Random random, int seed)
    {
        var middle = new Spot(26, 56);
        switch (kind)
        {
            case SceneKind.Hatch:
                var half = 12 + (20 * random.NextDouble());
                return (DrawnPicture.Honed(half, -half, 0.35, 0.45, seed), 2 * half, PictureTask.Hatch, [new(2, 44), new(50, 70)]);
            case SceneKind.RingGap:
                var gap = 0.25 + (1.2 * random.NextDouble());
                return (
                    p =>
                        Math.Abs(p.Y - middle.Y) > 2 ? 0.3
                        : Math.Abs(p.X - middle.X) < gap / 2 ? 0.08
                        : 0.72,
                    gap,
                    PictureTask.Across,
                    [
                        new(middle.X - (gap / 2) - 1.5, middle.Y - 1.2),
                        new(middle.X + (gap / 2) + 1.5, middle.Y - 1.2),
                        new(middle.X - 1.5, middle.Y + 1.2),
                    ]
                );
            case SceneKind.Strip:
                var width = 1.2 + (3 * random.NextDouble());
                return (
                    DrawnPicture.Strip(middle, 0, width, 0.82, 0.4),
                    width,
                    PictureTask.Across,
                    [new(20, middle.Y - (width / 2) - 1.5), new(20, middle.Y + (width / 2) + 1.5), new(36, middle.Y - (width / 2) - 1.5)]
                );
            case SceneKind.Grooves:
                var pitch = 2 + (2 * random.NextDouble());
                return (
                    p => (((p.X % pitch) + pitch) % pitch) < 0.45 * pitch ? 0.15 : 0.68,
                    pitch,
                    PictureTask.Pitch,
                    [new((3 * pitch) + (0.2 * pitch), 56), new((11 * pitch) + (0.2 * pitch), 56)]
                );
            case SceneKind.Particles:
                var count = 40 + random.Next(260);
                var (grains, all) = DrawnPicture.Scattered(count, new Spot(-4, 43), new Spot(56, 74), (0.4, 1.8), 0.35, seed);
                return (grains, all.Count, PictureTask.Particles, [new(-5, 42.5), new(57, 75)]);
            default:
                throw new ArgumentOutOfRangeException(nameof(kind), kind, null);
        }
    }
}
