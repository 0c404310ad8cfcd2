using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>A reading that looks like a slip, with the likely meaning to ask about.</summary>
public sealed record Question(Fact Text, decimal Likely);

/// <summary>Notices entries off by a known factor or a swapped pair of digits against the size expected. It asks; it never alters.</summary>
public static class Suspicion
{
    /// <summary>A used part is within a tenth of its size; a slip lands within that of the size times the factor.</summary>
    private const double Near = 0.1;

    /// <summary>Gaps of one engine differ by a half and more; a slip of the point lands within this of the gap times ten. Common practice, no source.</summary>
    private const double NearGap = 0.3;

    /// <summary>Peers measured alike lie within this share of their size of each other, worn or not; common practice, no source.</summary>
    private const double Alike = 0.004;

    /// <summary>Peers of one engine, ground or worn, lie within this share of each other; common practice, no source.</summary>
    private const double Peers = 0.03;

    private static readonly (double Factor, string Slip)[] Slips =
    [
        (10, "gauge.slip.ten-times-too-large"),
        (0.1, "gauge.slip.ten-times-too-small"),
        (100, "gauge.slip.a-hundred-times-too-large"),
        (0.01, "gauge.slip.a-hundred-times-too-small"),
        (1000, "gauge.slip.a-thousand-times-too-large"),
        (0.001, "gauge.slip.a-thousand-times-too-small"),
        (25.4, "gauge.slip.inches-meant-as-millimetres"),
        (1 / 25.4, "gauge.slip.millimetres-meant-as-inches"),
    ];

    /// <param name="value">The value read, base unit.</param>
    /// <param name="expected">Nominal size or the median of its peers, base unit; null where nothing is expected.</param>
    /// <param name="tolerant">True for gaps and clearances, which may well be several times another.</param>
    /// <param name="typed">What was typed, for a look at its digits.</param>
    /// <param name="least">Least that any engine has; null where nobody says.</param>
    /// <param name="most">Most that any engine has.</param>
    /// <param name="peers">True when the size expected is that of its peers in this engine, and not a nominal.</param>
    /// <param name="inBase">Turns the digits of an entry into the base unit, as the entry itself was read.</param>
    public static Question? Of(
        decimal value,
        decimal? expected,
        bool tolerant = false,
        string typed = "",
        decimal? least = null,
        decimal? most = null,
        Func<string, decimal?>? inBase = null,
        bool peers = false,
        Quantity quantity = Quantity.Length
    )
    {
        Amount Told(decimal size) => new((double)size, quantity, Places(quantity));

        if ((value < 0 || (value == 0 && !tolerant)) && (least is null || least >= 0))
        {
            return new Question(Fact.Of("gauge.size-below-nothing"), Math.Abs(value));
        }

        if (expected is { } size && size > 0)
        {
            var ratio = (double)(value / size);
            // Between gaps a factor of 25 is told as far off: it may be either.
            foreach (var (factor, slip) in tolerant ? Slips.Where(s => s.Factor is not (25.4 or 1 / 25.4)) : Slips)
            {
                if (Math.Abs((ratio / factor) - 1) <= (tolerant ? NearGap : Near))
                {
                    return new Question(
                        Fact.Of("gauge.looks-about-expected", ("slip", Fact.Of(slip)), ("size", Told(size))),
                        value / (decimal)factor
                    );
                }
            }

            if (!tolerant && Math.Abs(ratio - 1) > Alike && inBase is not null && Swapped(typed, size, inBase) is { } swapped)
            {
                return new Question(Fact.Of("gauge.two-digits-may-swapped-about", ("size", Told(size))), swapped);
            }

            var far = tolerant ? ratio is < 0.05 or > 20 : Math.Abs(ratio - 1) > (peers ? Peers : Near);
            if (far)
            {
                return new Question(Fact.Of("gauge.far-from-expected", ("size", Told(size))), value);
            }
        }

        if (least is { } l && value < l)
        {
            return new Question(Fact.Of("gauge.no-engine-has-less", ("least", Told(l))), Guess(value, l, most));
        }

        return most is { } m && value > m ? new Question(Fact.Of("gauge.no-engine-has-more", ("most", Told(m))), Guess(value, least, m)) : null;
    }

    /// <summary>Places worth telling of what is expected about.</summary>
    private static int Places(Quantity quantity) =>
        quantity is Quantity.Length ? 3
        : quantity is Quantity.Ratio ? 2
        : 1;

    /// <summary>The factor of a slip that brings a value between what engines have, if there is just one.</summary>
    private static decimal Guess(decimal value, decimal? least, decimal? most)
    {
        var fits = Slips.Select(s => value / (decimal)s.Factor).Where(v => (least is not { } l || v >= l) && (most is not { } m || v <= m)).ToArray();
        return fits.Length == 1 ? fits[0] : value;
    }

    /// <summary>The entry with two neighbouring digits exchanged, where that brings it to its peers and nothing else does so well.</summary>
    private static decimal? Swapped(string typed, decimal expected, Func<string, decimal?> inBase)
    {
        decimal? best = null;
        for (var i = 0; i + 1 < typed.Length; i++)
        {
            // Over the point too: 71.48 for 74.18 is a swap of 1 and 4.
            var j = typed[i + 1] is '.' or ',' ? i + 2 : i + 1;
            if (j >= typed.Length || !char.IsAsciiDigit(typed[i]) || !char.IsAsciiDigit(typed[j]) || typed[i] == typed[j])
            {
                continue;
            }

            var letters = typed.ToCharArray();
            (letters[i], letters[j]) = (letters[j], letters[i]);
            if (
                inBase(new string(letters)) is { } value
                && Math.Abs((double)((value / expected) - 1)) <= Alike / 4
                && (best is null || Math.Abs(value - expected) < Math.Abs(best.Value - expected))
            )
            {
                best = value;
            }
        }

        return best;
    }
}
