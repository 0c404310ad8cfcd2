using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Sounds;

/// <summary>Something that is heard at one angle of the cycle over what the firings of the other cylinders sound like at theirs.</summary>
/// <param name="Band">Where it rings loudest.</param>
/// <param name="At">Index on the circle.</param>
/// <param name="Height">Over its fellows, as a multiple of the band’s mean.</param>
/// <param name="Standard">Of the height, with what cylinders differ by of themselves.</param>
/// <param name="Chance">That it is there at all and no chance of the noise.</param>
/// <param name="Again">A turn later, its share of the height; null of a two-stroke, and where that cannot be told from the firing.</param>
/// <param name="AgainStandard">Of that share.</param>
/// <param name="Soon">Degrees to a second rap within a quarter of a turn, below 0 where that is the earlier one; null where there is none.</param>
public sealed record Knock(int Band, int At, double Height, double Standard, double Chance, double? Again, double AgainStandard, double? Soon);

/// <param name="Value">As a multiple of what the firings rise by.</param>
public sealed record Loudness(double Value, double Standard);

/// <summary>Looks for what is no firing in the circles of all bands.</summary>
public static class Knocks
{
    // By how much the firings of sound cylinders differ in loudness, as a share; ours, no source.
    private const double Differ = 0.15;

    // Over which angle a knock is one and the same.
    private const int Width = 15 / TurnCircle.Step;

    // A rap that follows within this belongs to the first.
    private const int SoonestRap = 30 / TurnCircle.Step;

    private const int LatestRap = 90 / TurnCircle.Step;

    // Share of the first that a second rap has to have.
    private const double LeastRap = 0.45;

    private const double LeastOfLoudest = 0.2;

    // Where one firing comes sooner after the last than another, or one is missing, what is left of the last sounds into it.
    private const double LeastUneven = 0.3;

    private const double QuietBetween = 0.7;

    private const double Beyond = 3.5;

    private const double AboutAsSure = 0.75;

    // In deviations; from here on the one is no surer than the other.
    private const double SureEnough = 6;

    // Of what its fellows rise by; below it a firing is missing.
    private const double LeastFires = 0.4;

    // A burst is heard from somewhat before its angle, as the circles are smoothed.
    private const double Lead = 45;

    // In steps.
    private const double FiringLasts = 60.0 / TurnCircle.Step;

    /// <summary>The likeliest knock; null where the circles hold none that has a height.</summary>
    /// <param name="dead">Firings that are missing: no fellows of the others.</param>
    /// <remarks>What is less than a fifth of the loudest of its circle is left out: sound cylinders differ by as much.</remarks>
    public static Knock? Find(IReadOnlyList<TurnCircle> circles, Firings firings, IReadOnlyCollection<Firing> dead)
    {
        var places = 0.0;
        var over = new List<(int Band, int At, double Height, double Standard, double Noise)>();
        for (var b = 0; b < circles.Count; b++)
        {
            var circle = circles[b];
            var least =
                (dead.Count > 0 || firings.Repeats < firings.At.Count ? LeastUneven : LeastOfLoudest) * (circle.Mean.Max() - circle.Mean.Min());
            places += circle.Count / (2.0 * Width / 3);
            over.AddRange(
                Enumerable
                    .Range(0, circle.Count)
                    .Where(at => firings.At.Count > 1 ? Fellows(circle, firings, dead, at, at).Count > 0 : !Hidden(firings, at))
                    .Select(at => (b, at, Over(circle, firings, dead, at, at)))
                    .Where(o => o.Item3.Height > least)
                    .Select(o => (o.b, o.at, o.Item3.Height, o.Item3.Standard, o.Item3.Noise))
            );
        }

        if (over.Count == 0 || over.MaxBy(o => o.Height / o.Standard) is not { Height: > 0 } surest)
        {
            return null;
        }

        // Of what is about as sure the loudest: an echo in a quiet stretch is as sure as the knock itself.
        var best = over.Where(o => o.Height / o.Standard >= Math.Min(SureEnough, AboutAsSure * surest.Height / surest.Standard)).MaxBy(o => o.Height);

        // Of so many looked at the highest is expected to be high (Šidák): the noise is another at every place, and what cylinders differ by is one and the same all over a firing in a band.
        var chance = Math.Min(
            Math.Pow(1 - Normal.CDF(0, 1, -surest.Height / surest.Noise), places),
            Math.Pow(1 - Normal.CDF(0, 1, -surest.Height / surest.Standard), firings.At.Count * circles.Count)
        );
        var knock = new Knock(best.Band, best.At, best.Height, best.Standard, chance, null, 0, null);
        var (again, standard) = Again(circles[best.Band], firings, dead, knock);
        return knock with { Again = again, AgainStandard = standard, Soon = Soon(circles[best.Band], firings, dead, knock) };
    }

    /// <summary>Of one cylinder there is no other firing to compare with, and what knocks together with it cannot be told from it.</summary>
    private static bool Hidden(Firings firings, int at) =>
        firings.At.Count == 1
        && ((at * TurnCircle.Step) - firings.At[0].Angle + Lead + firings.Degrees) % firings.Degrees < Lead + (FiringLasts * TurnCircle.Step);

    /// <summary>
    /// Firings that are not heard: in more than half of the bands less than two fifths are left of what the others rise by, as a knock of another makes
    /// it loud in one or two. Where there is but one firing in a cycle none can be missed.
    /// </summary>
    public static IReadOnlyList<Firing> Dead(IReadOnlyList<TurnCircle> circles, Firings firings)
    {
        if (firings.At.Count == 1)
        {
            return [];
        }

        var missing = new int[firings.At.Count];
        var heard = 0;
        foreach (var circle in circles)
        {
            var rises = firings.At.Select(f => Rise(circle, firings, f)).ToArray();
            var usual = rises.Length == 2 ? rises.Max() : rises.Order().ElementAt(rises.Length / 2);
            if (usual < Beyond * circle.Standard.Average())
            {
                continue;
            }

            heard++;
            for (var i = 0; i < rises.Length; i++)
            {
                missing[i] += rises[i] < LeastFires * usual ? 1 : 0;
            }
        }

        return [.. firings.At.Where((_, i) => 2 * missing[i] > heard)];
    }

    /// <summary>How loud the loudest of one band is beside what the firings that are heard rise by, so that it does not matter how far the microphone stood.</summary>
    public static Loudness BesideFirings(TurnCircle circle, Firings firings, IReadOnlyCollection<Firing> dead)
    {
        var over = Enumerable
            .Range(0, circle.Count)
            .Where(at => firings.At.Count > 1 ? Fellows(circle, firings, dead, at, at).Count > 0 : !Hidden(firings, at))
            .Select(at => Over(circle, firings, dead, at, at))
            .DefaultIfEmpty()
            .MaxBy(o => o.Height);
        var rises = firings.At.Where(f => !dead.Contains(f)).Select(f => Rise(circle, firings, f)).Order().ToArray();
        var usual = rises.Length == 0 ? 1 : Math.Max(0.02, rises[rises.Length / 2]);
        return new Loudness(Math.Max(0, over.Height) / usual, over.Standard / usual);
    }

    /// <summary>How far a firing rises above the quietest of the circle.</summary>
    private static double Rise(TurnCircle circle, Firings firings, Firing firing)
    {
        var width = Math.Min(FiringLasts, firings.Gaps[IndexOf(firings, firing)] / TurnCircle.Step);
        var quiet = circle.Mean.Order().Take(circle.Count / 10).Average();
        return Enumerable.Range(0, Math.Max(1, (int)width)).Average(i => circle.Mean[circle.Wrapped(circle.IndexOf(firing.Angle) + i)]) - quiet;
    }

    private static int IndexOf(Firings firings, Firing firing) =>
        Enumerable.Range(0, firings.At.Count).First(i => ReferenceEquals(firings.At[i], firing));

    /// <summary>How far an angle is above its fellows: the same angle after the other firings, without what the knock itself may have put there.</summary>
    /// <param name="knock">Where the knock is thought to be; a turn later is left out too.</param>
    private static (double Height, double Standard, double Noise) Over(
        TurnCircle circle,
        Firings firings,
        IReadOnlyCollection<Firing> dead,
        int at,
        int knock
    )
    {
        var fellows = Fellows(circle, firings, dead, at, knock);
        var mean = fellows.Count > 0 ? fellows.Average(i => circle.Mean[i]) : circle.Mean.Order().ElementAt(circle.Count / 2);
        var n = Math.Max(1, fellows.Count);
        var noise = Square(circle.Standard[at], 1) + (fellows.Sum(i => Square(circle.Standard[i], 1)) / n / n);
        var about = fellows.Count > 0 ? fellows.Average(i => Loudest(circle, i)) : Loudest(circle, at);
        var loud = Math.Max(0, about - circle.Mean.Min()) * Math.Sqrt(1 + (1.0 / n));
        return (circle.Mean[at] - mean, double.Hypot(Math.Sqrt(noise), Differ * loud), Math.Sqrt(noise));
    }

    // On the flank of a burst a small shift makes as much of a difference as its height.
    private static double Loudest(TurnCircle circle, int at) => Enumerable.Range(-Width / 2, Width).Max(d => circle.Mean[circle.Wrapped(at + d)]);

    private static double Square(double v, double times) => times * v * v;

    private static List<int> Fellows(TurnCircle circle, Firings firings, IReadOnlyCollection<Firing> dead, int at, int knock)
    {
        var gaps = firings.Gaps;
        var degrees = at * TurnCircle.Step;
        // After which firing it is, and by how much.
        double After(int i) => ((degrees - firings.At[i].Angle + Lead + (2 * firings.Degrees)) % firings.Degrees) - Lead;
        var own = Enumerable.Range(0, firings.At.Count).MinBy(After);
        var after = After(own);
        var fellows = new List<int>();
        for (var i = 0; i < firings.At.Count; i++)
        {
            var there = circle.IndexOf(firings.At[i].Angle + after);
            if (i != own && !dead.Contains(firings.At[i]) && after < gaps[i] - Lead && !IsOf(circle, firings, there, knock))
            {
                fellows.Add(there);
            }
        }

        // Two that fire a turn apart have but each other, and of a knock at every turn nothing is left.
        return fellows.Count == 0 && OnlyATurnApart(firings) && dead.Count == 0 ? [circle.Wrapped(at + (circle.Count / 2))] : fellows;
    }

    private static bool OnlyATurnApart(Firings firings) => firings is { Turns: 2, At.Count: 2, Repeats: 2 };

    /// <summary>Whether an angle is that of the knock, or of the knock a turn later.</summary>
    private static bool IsOf(TurnCircle circle, Firings firings, int at, int knock)
    {
        int Far(int a, int b) => Math.Min(circle.Wrapped(a - b), circle.Wrapped(b - a));
        return Far(at, knock) <= Width || (firings.Turns == 2 && Far(at, knock + (circle.Count / 2)) <= Width);
    }

    private static (double? Again, double Standard) Again(TurnCircle circle, Firings firings, IReadOnlyCollection<Firing> dead, Knock knock)
    {
        var later = circle.Wrapped(knock.At + (circle.Count / 2));
        if (firings.Turns == 1 || firings.At.Count == 1 || OnlyATurnApart(firings))
        {
            return (null, 0);
        }

        // A little sooner or later, as the second is no exact copy.
        var (height, standard, _) = Enumerable
            .Range(-1, 3)
            .Select(d => Over(circle, firings, dead, circle.Wrapped(later + d), knock.At))
            .MaxBy(o => o.Height);
        var share = Math.Max(0, height) / knock.Height;
        return (share, Math.Sqrt(Square(standard, 1) + Square(share * knock.Standard, 1)) / knock.Height);
    }

    private static double? Soon(TurnCircle circle, Firings firings, IReadOnlyCollection<Firing> dead, Knock knock)
    {
        var second = Enumerable
            .Range(SoonestRap, LatestRap - SoonestRap)
            .SelectMany(d => new[] { d, -d })
            .Select(d =>
                (Degrees: d * TurnCircle.Step, Over: Over(circle, firings, dead, circle.Wrapped(knock.At + d), circle.Wrapped(knock.At + d)))
            )
            .MaxBy(d => d.Over.Height / d.Over.Standard);
        if (second.Over.Height < LeastRap * knock.Height || second.Over.Height < Beyond * second.Over.Standard)
        {
            return null;
        }

        // Two raps are quieter between; one that dies away slowly is not.
        var steps = second.Degrees / TurnCircle.Step;
        var between = Enumerable
            .Range(1, Math.Abs(steps) - 1)
            .Min(d => Over(circle, firings, dead, circle.Wrapped(knock.At + (Math.Sign(steps) * d)), circle.Wrapped(knock.At + steps)).Height);
        return between < QuietBetween * Math.Min(knock.Height, second.Over.Height) ? second.Degrees : null;
    }
}
