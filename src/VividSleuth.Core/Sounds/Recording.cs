namespace VividSleuth.Core.Sounds;

/// <summary>What a microphone heard, and beside it, where there was one, what a clamp on the ignition or injection line of one cylinder gave.</summary>
/// <param name="Samples">From −1 to 1.</param>
/// <param name="Rate">Samples per second.</param>
/// <param name="Pickup">The second channel, as long as the first; null without one.</param>
public sealed record Recording(float[] Samples, int Rate, float[]? Pickup = null)
{
    /// <summary>Longest that is listened to, in seconds; more of a steady engine tells nothing new.</summary>
    public const int Longest = 120;

    /// <summary>Shortest of which anything can be said: a score of cycles at a fast idle.</summary>
    public const double Shortest = 2;

    public const int LeastRate = 8000;

    public double Seconds => (double)Samples.Length / Rate;
}
