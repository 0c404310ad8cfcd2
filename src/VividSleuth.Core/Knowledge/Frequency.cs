namespace VividSleuth.Core.Knowledge;

/// <summary>How often something is so, in the words a practitioner would use.</summary>
public enum Frequency
{
    Never,

    /// <summary>For a sign that only the causes which predict it leave.</summary>
    AsGoodAsNever,
    HardlyEver,
    AlmostNever,
    Rarely,
    Sometimes,
    Often,
    Usually,
    Always,
}

/// <summary>
/// The one table that turns words into numbers. The numbers are ours (common practice, no source): what matters is that
/// everyone who writes or reads an entry means the same by a word.
/// </summary>
public static class Frequencies
{
    public static double Probability(this Frequency frequency) =>
        frequency switch
        {
            Frequency.Never => 0,
            Frequency.AsGoodAsNever => 0.00001,
            Frequency.HardlyEver => 0.001,
            Frequency.AlmostNever => 0.01,
            Frequency.Rarely => 0.05,
            Frequency.Sometimes => 0.2,
            Frequency.Often => 0.5,
            Frequency.Usually => 0.8,
            Frequency.Always => 0.97,
            _ => throw new ArgumentOutOfRangeException(nameof(frequency)),
        };
}

/// <summary>How bad a sign is that a cause leaves, in the words a practitioner would use.</summary>
public enum Severity
{
    Any,
    Slight,
    Marked,
    Severe,
}

/// <summary>The one table of what these words mean (common practice, no source).</summary>
public static class Severities
{
    private static readonly double[] OfAny = [0.3, 0.4, 0.3];
    private static readonly double[] OfSlight = [0.65, 0.28, 0.07];
    private static readonly double[] OfMarked = [0.22, 0.53, 0.25];
    private static readonly double[] OfSevere = [0.08, 0.27, 0.65];

    /// <summary>Shares of slight, marked and severe among what is left; their sum is 1.</summary>
    public static IReadOnlyList<double> Shares(this Severity severity) =>
        severity switch
        {
            Severity.Any => OfAny,
            Severity.Slight => OfSlight,
            Severity.Marked => OfMarked,
            Severity.Severe => OfSevere,
            _ => throw new ArgumentOutOfRangeException(nameof(severity)),
        };
}
