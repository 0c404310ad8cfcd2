using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Arrival;

/// <summary>What a trainee hears in it.</summary>
/// <param name="Fault">Which of the drawn ones.</param>
/// <param name="Cylinder">Whose; 0 where it is nobody’s.</param>
public sealed record SoundGuess(DrawnFault Fault, int Cylinder);

/// <summary>What a trainee is told.</summary>
/// <param name="Right">The rhythm was.</param>
/// <param name="CylinderRight">The cylinder was; null where the fault is of none.</param>
/// <param name="Beat">What the program hears.</param>
/// <param name="Whose">Whom the program names.</param>
/// <param name="Missing">Whose firing the program misses.</param>
public sealed record SoundScore(
    DrawnFault Fault,
    int Cylinder,
    bool Right,
    bool? CylinderRight,
    NoiseBeat Beat,
    IReadOnlyList<int> Whose,
    IReadOnlyList<int> Missing
);

/// <summary>Engines to listen to, each drawn from its number, so that the truth is known and a class hears the same one.</summary>
public static class SoundPractice
{
    /// <summary>Order of firing, and degrees of a cycle.</summary>
    private static readonly (int[] Order, int Degrees)[] Engines =
    [
        ([1, 3, 4, 2], 720),
        ([1, 5, 3, 6, 2, 4], 720),
        ([1, 2, 3], 720),
        ([1, 8, 4, 3, 6, 5, 7, 2], 720),
        ([1, 3, 2], 360),
    ];

    private static readonly DrawnFault[] Faults =
    [
        DrawnFault.Sound,
        DrawnFault.OncePerCycle,
        DrawnFault.OncePerTurn,
        DrawnFault.DoubleRap,
        DrawnFault.Rolling,
        DrawnFault.Misfire,
    ];

    private const double Seconds = 6;

    // Heard well: what is practised is the rhythm, and not good ears.
    private const double Decibels = 12;

    /// <summary>Faults that an engine can be asked for. At every turn is once a cycle in a two-stroke.</summary>
    public static IReadOnlyList<DrawnFault> FaultsOf(Firings firings) => [.. Faults.Where(f => firings.Turns == 2 || f != DrawnFault.OncePerTurn)];

    /// <summary>The engine of that number, with a clamp on the line of cylinder 1.</summary>
    public static DrawnEngine Of(int seed)
    {
        var random = new Random(seed);
        var (order, degrees) = Engines[random.Next(Engines.Length)];
        var firings = new Firings(degrees, [.. order.Select((c, i) => new Firing([c], (double)degrees / order.Length * i))]);
        var faults = FaultsOf(firings);
        var fault = faults[random.Next(faults.Count)];
        var cylinder = 1 + random.Next(order.Length);
        var rpm = 50 * random.Next(18, 40);
        return new DrawnEngine(firings, fault, cylinder, seed, rpm, Seconds: Seconds, Decibels: Decibels, Pickup: 1);
    }

    /// <summary>What the program hears in it.</summary>
    public static Heard Listen(DrawnEngine engine) =>
        Listening.Listen(engine.Draw(), engine.Firings, new ListenAsk(engine.Rpm, engine.Pickup > 0 ? engine.Pickup : null));

    /// <summary>Whether a fault is that of one cylinder.</summary>
    public static bool HasCylinder(DrawnFault fault) => fault is not (DrawnFault.Sound or DrawnFault.Rolling);

    public static SoundScore Score(DrawnEngine engine, Heard heard, SoundGuess guess) =>
        new(
            engine.Fault,
            HasCylinder(engine.Fault) ? engine.Cylinder : 0,
            guess.Fault == engine.Fault,
            HasCylinder(engine.Fault) ? guess.Cylinder == engine.Cylinder : null,
            heard.Beat,
            heard.Whose,
            [.. heard.Dead.SelectMany(d => d.Cylinders)]
        );
}
