namespace VividSleuth.Core.Gauge;

/// <summary>A reading that looks like a slip of unit or decimal point, with the likely meaning to ask about.</summary>
public sealed record Question(string Text, decimal Likely);

/// <summary>Notices entries off by a known factor against the size expected. It asks; it never alters.</summary>
public static class Suspicion
{
    /// <summary>A used part is within a tenth of its size; a slip lands within that of the size times the factor.</summary>
    private const double Near = 0.1;

    private static readonly (double Factor, string Words)[] Slips =
    [
        (10, "ten times too large"),
        (0.1, "ten times too small"),
        (100, "a hundred times too large"),
        (0.01, "a hundred times too small"),
        (1000, "a thousand times too large"),
        (0.001, "a thousand times too small"),
        (25.4, "typed in inches but meant in millimetres"),
        (1 / 25.4, "typed in millimetres but meant in inches"),
    ];

    /// <param name="value">The value read, base unit.</param>
    /// <param name="expected">Nominal size or the median of its fellows, base unit; null where nothing is expected.</param>
    /// <param name="tolerant">True for gaps and clearances, which may well be several times another.</param>
    public static Question? Of(decimal value, decimal? expected, bool tolerant = false)
    {
        if (expected is not { } size || size <= 0)
        {
            return null;
        }

        if (value <= 0)
        {
            return new Question("A size is more than nothing. Was the sign meant?", Math.Abs(value));
        }

        var ratio = (double)(value / size);
        foreach (var (factor, words) in Slips)
        {
            if (!tolerant && Math.Abs((ratio / factor) - 1) <= Near)
            {
                return new Question($"This looks {words}: about {size:0.###} was expected.", value / (decimal)factor);
            }
        }

        var far = tolerant ? ratio is < 0.05 or > 20 : Math.Abs(ratio - 1) > Near;
        return far ? new Question($"This is far from the {size:0.###} expected.", value) : null;
    }
}
