namespace VividSleuth.Core.Measures;

/// <summary>Information of a yes or no (Shannon, "A mathematical theory of communication", 1948).</summary>
public static class Information
{
    /// <summary>Entropy in bits of what is so with this probability, between 0 and 1; 0 at either end.</summary>
    public static double BinaryEntropy(double p) => p is <= 0 or >= 1 ? 0 : -((p * Math.Log2(p)) + ((1 - p) * Math.Log2(1 - p)));
}
