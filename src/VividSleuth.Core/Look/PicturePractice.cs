using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Look;

/// <summary>What a trainee is told of what he measured.</summary>
/// <param name="Truth">As it was drawn.</param>
/// <param name="Within">The truth lies within the uncertainty of what he measured.</param>
/// <param name="Off">Of the truth, as a share of it.</param>
/// <param name="Program">What the program measures from points set where they belong; null where it cannot.</param>
public sealed record PictureScore(double Value, double Expanded, double Truth, bool Within, double Off, double? Program);

/// <summary>Photographs to practise measuring on, each drawn from its number, so that the truth is known.</summary>
public static class PicturePractice
{
    private const double Noise = 0.02;

    // Fewer pixels than a camera gives, so that nobody waits.
    private const double Smaller = 1.4;

    private const int SteepestTilt = 22;

    /// <summary>The photograph of that number: a task, the tilt and the glare with it.</summary>
    public static DrawnScene Of(int seed)
    {
        var random = new Random(seed);
        var kinds = Enum.GetValues<SceneKind>();
        var kind = kinds[random.Next(kinds.Length)];
        return DrawnScenes.Draw(kind, seed, tilt: random.Next(SteepestTilt), Noise, glare: random.Next(3) == 0, Smaller);
    }

    /// <summary>Holds what was measured against the truth.</summary>
    /// <exception cref="ProblemException">It cannot be measured that way; the problem says why.</exception>
    public static PictureScore Score(DrawnScene scene, Measured measured)
    {
        double? program = null;
        if (CardFinder.Find(scene.Picture) is [var card])
        {
            var plane = PicturePlane.Of(card, scene.Picture.Width, scene.Picture.Height);
            program = PictureReckoner.Measure(scene.Picture, plane, scene.Task, scene.Points, 0, "drawn").Figure.Value;
        }

        return new PictureScore(
            measured.Value,
            measured.Expanded,
            scene.Truth,
            Math.Abs(measured.Value - scene.Truth) <= measured.Expanded,
            (measured.Value - scene.Truth) / scene.Truth,
            program
        );
    }
}

/// <param name="Expanded">With k of 2, in the unit of the value.</param>
public sealed record Measured(double Value, double Expanded);
