using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>What was told in one tenth of probability, and how much of it was so.</summary>
/// <param name="Share">Of what was told in it, the share that was so.</param>
/// <param name="Of">How many were told in it.</param>
public sealed record CalibratedTenth(double Share, int Of);

/// <summary>
/// How far a probability may be trusted: of what was told in a tenth, how much was so. On engines drawn from the causes, which the net believes in, and on
/// failures written from damage guides that it was not tuned to. The bounds of a search are something else: what it left out.
/// </summary>
public static class Calibration
{
    /// <summary>
    /// Drawn inline fours, each of their signs looked at with a chance of one half, the lowest tenth first. Made by <c>./bench trace</c>, 6,000 engines.
    /// </summary>
    public static IReadOnlyList<CalibratedTenth> Drawn { get; } =
    [
        new(0.02, 31_161),
        new(0.14, 1752),
        new(0.24, 777),
        new(0.36, 481),
        new(0.43, 326),
        new(0.50, 292),
        new(0.60, 269),
        new(0.78, 282),
        new(0.85, 410),
        new(0.99, 4636),
    ];

    /// <summary>Leading causes of the written failures of tests/cases/second.yaml, run once; as they fell.</summary>
    public static IReadOnlyList<CalibratedTenth> Written { get; } =
    [new(0, 0), new(0, 0), new(1, 1), new(0, 0), new(1, 1), new(1, 3), new(1, 3), new(1, 3), new(1, 2), new(1, 19)];

    /// <summary>Tenths with fewer than this say nothing.</summary>
    private const int Enough = 5;

    /// <summary>What to make of a probability, in words; null where nothing of the kind was tried often enough.</summary>
    public static Fact? Trust(double probability)
    {
        var tenth = Math.Min(9, (int)(probability * 10));
        var (drawn, written) = (At(Drawn, tenth), At(Written, tenth));
        return drawn is null
            ? null
            : Fact.Of(
                "trace.trust",
                ("least", new Percent(tenth / 10.0)),
                ("most", new Percent((tenth + 1) / 10.0)),
                ("drawn", new Percent(drawn.Share)),
                ("engines", drawn.Of),
                (
                    "written",
                    written is null ? null : Fact.Of("trace.trust-written", ("so", (int)Math.Round(written.Share * written.Of)), ("of", written.Of))
                )
            );
    }

    private static CalibratedTenth? At(IReadOnlyList<CalibratedTenth> tenths, int tenth) =>
        tenth < tenths.Count && tenths[tenth].Of >= Enough ? tenths[tenth] : null;
}
