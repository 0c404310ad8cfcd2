namespace VividSleuth.Core.Knowledge;

/// <summary>How often something is so, in the words a practitioner would use.</summary>
public enum Frequency
{
    Never,
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
            Frequency.AlmostNever => 0.01,
            Frequency.Rarely => 0.05,
            Frequency.Sometimes => 0.2,
            Frequency.Often => 0.5,
            Frequency.Usually => 0.8,
            Frequency.Always => 0.97,
            _ => throw new ArgumentOutOfRangeException(nameof(frequency)),
        };
}
