namespace VividSleuth.Core.Build;

/// <summary>When all is through, as it was drawn.</summary>
/// <param name="Ends">Minutes until all is through, of every draw, the shortest first.</param>
/// <param name="Hangs">By task, in which share of the draws the end hung on it.</param>
public sealed record Forecast(IReadOnlyList<int> Ends, IReadOnlyDictionary<string, double> Hangs)
{
    /// <summary>Share of the draws in which the safe date is kept; which share is safe is a rule of thumb.</summary>
    public const double Safe = 0.9;

    /// <summary>As often earlier as later.</summary>
    public int Likely => At(0.5);

    public int SafeEnd => At(Safe);

    /// <summary>Chance that all is through by then.</summary>
    public double ChanceBy(int minutes) => Ends.Count(e => e <= minutes) / (double)Ends.Count;

    /// <summary>What is not exceeded in that share of the draws.</summary>
    public int At(double share) => Ends[Math.Clamp((int)Math.Ceiling(share * Ends.Count) - 1, 0, Ends.Count - 1)];
}
