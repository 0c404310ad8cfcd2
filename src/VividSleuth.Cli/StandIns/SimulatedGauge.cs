using System.Globalization;

namespace VividSleuth.Cli.StandIns;

/// <summary>What may go wrong with the simulated gauge.</summary>
public sealed record GaugeFaults
{
    /// <summary>Standard deviation of a reading, mm.</summary>
    public double Noise { get; init; } = 0.001;

    /// <summary>Drift from one reading to the next, mm.</summary>
    public double Drift { get; init; }

    /// <summary>From this reading on it sends inches and still calls them mm; 0 is never.</summary>
    public int WrongUnitFrom { get; init; }

    /// <summary>After this reading the line breaks and comes back with one reading lost; 0 is never.</summary>
    public int BreaksAfter { get; init; }

    /// <summary>At this reading it sends garbage; 0 is never.</summary>
    public int GarbageAt { get; init; }
}

/// <summary>A stand-in for a gauge in the network, for the demo and for tests. Seeded: the same seed sends the same lines.</summary>
public static class SimulatedGauge
{
    public const string Name = "Simulated bore gauge";

    /// <summary>Master on which it checks itself after each ten readings, mm.</summary>
    private const double Master = 75.0;

    /// <summary>Marks the place where the line breaks; whoever sends closes the connection there.</summary>
    public const string Break = "\u0000break";

    /// <param name="sizes">True sizes it is put on, one after the other, mm.</param>
    public static IEnumerable<string> Lines(IReadOnlyList<double> sizes, int seed, GaugeFaults faults)
    {
        var random = new Random(seed);
        yield return $"gauge 1 mm {Name}";
        var drift = 0.0;
        var number = 0;
        foreach (var size in sizes)
        {
            number++;
            drift += faults.Drift;
            var read = size + drift + (faults.Noise * Normal(random));
            if (faults.BreaksAfter > 0 && number == faults.BreaksAfter + 1)
            {
                yield return Break;
                yield return $"gauge 1 mm {Name}";
                continue;
            }

            if (number == faults.GarbageAt)
            {
                yield return "re%d ~~ 7?.";
            }

            var inches = faults.WrongUnitFrom > 0 && number >= faults.WrongUnitFrom;
            yield return string.Create(CultureInfo.InvariantCulture, $"read {number} {(inches ? read / 25.4 : read):0.000} mm");
            if (number % 10 == 0)
            {
                number++;
                yield return string.Create(
                    CultureInfo.InvariantCulture,
                    $"check {number} {Master + drift + (faults.Noise * Normal(random)):0.000} of {Master:0.000} mm"
                );
            }
        }

        yield return "bye";
    }

    private static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
