using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Measures;

/// <summary>
/// How often something was so, and between which shares the true one lies. The limits are those of Clopper and Pearson, Biometrika 26 (1934) 404–413: the least
/// share with which so many or more, and the greatest with which so many or fewer, still come about in one of forty trials. They hold for however few.
/// </summary>
/// <param name="Times">So often it was.</param>
/// <param name="Of">Of so many.</param>
/// <param name="Low">Least share, 0 to 1.</param>
/// <param name="High">Greatest share, 0 to 1.</param>
public sealed record ExactShare(int Times, int Of, double Low, double High)
{
    /// <summary>Both sides together: one of twenty true shares lies outside.</summary>
    private const double Outside = 0.05;

    /// <param name="times">0 to <paramref name="of"/>.</param>
    /// <param name="of">0 or more; of none the share may be anything.</param>
    /// <exception cref="ArgumentOutOfRangeException">More times than of.</exception>
    public static ExactShare From(int times, int of)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(times);
        ArgumentOutOfRangeException.ThrowIfLessThan(of, times);
        return new ExactShare(
            times,
            of,
            times == 0 ? 0 : Beta.InvCDF(times, of - times + 1, Outside / 2),
            times == of ? 1 : Beta.InvCDF(times + 1, of - times, 1 - (Outside / 2))
        );
    }
}
