namespace VividSleuth.Core.Gauge;

/// <summary>A cap after which the shaft turned much harder than after the others.</summary>
/// <param name="More">By how much it turned harder with this cap on, N·m.</param>
/// <param name="Usual">How much the other caps each added, their median, N·m.</param>
public sealed record TurningJump(string Place, double More, double Usual)
{
    /// <summary>Torque to turn the shaft, read after each cap.</summary>
    public const string Characteristic = "turning-torque";

    /// <summary>A cap that adds more than so many times what the others add is told. Common practice says only “a jump”; the number is ours.</summary>
    private const double Times = 2.5;

    /// <summary>And by more than so many N·m: seals and rings drag differently by as much. Ours.</summary>
    private const double Least = 0.5;

    /// <summary>By place, the caps that made it jump. One cap has nothing to be held against.</summary>
    /// <param name="readings">In the order in which they were taken.</param>
    public static IReadOnlyDictionary<string, TurningJump> Of(IEnumerable<Reading> readings)
    {
        // Of a cap that was taken off and went on again, the last reading counts, in its turn.
        var read = readings
            .Where(r => r.Characteristic == Characteristic)
            .GroupBy(r => r.Place, StringComparer.Ordinal)
            .Select(g => g.Last())
            .OrderBy(r => r.At)
            .ThenBy(r => r.Id)
            .ToArray();
        var steps = read.Select((r, i) => (r.Place, More: (double)(r.Value - (i == 0 ? 0 : read[i - 1].Value)))).ToArray();
        var jumps = new Dictionary<string, TurningJump>(StringComparer.Ordinal);
        for (var i = 0; i < steps.Length; i++)
        {
            var others = steps.Where((_, n) => n != i).Select(s => s.More).Order().ToArray();
            if (others.Length == 0)
            {
                continue;
            }

            var middle = others.Length / 2;
            var usual = others.Length % 2 == 1 ? others[middle] : (others[middle - 1] + others[middle]) / 2;
            if (steps[i].More > Math.Max(Times * usual, usual + Least))
            {
                jumps[steps[i].Place] = new TurningJump(steps[i].Place, steps[i].More, usual);
            }
        }

        return jumps;
    }
}
