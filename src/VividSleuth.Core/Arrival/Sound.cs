namespace VividSleuth.Core.Arrival;

/// <summary>Where the microphone was.</summary>
public enum HeardAt
{
    /// <summary>Near the engine.</summary>
    Engine,

    /// <summary>At the open end of the crankcase breather.</summary>
    Breather,
}

/// <summary>What the engine was asked for.</summary>
public enum HeardLoad
{
    /// <summary>Nobody told.</summary>
    Untold,

    /// <summary>It ran light.</summary>
    Light,

    /// <summary>It pulled.</summary>
    Pulls,

    /// <summary>It was driven: the load came off at speed.</summary>
    Overrun,
}

public enum HeardWarmth
{
    /// <summary>Nobody told.</summary>
    Untold,

    Cold,

    Warm,
}

/// <summary>A recording of the engine as it ran. What was recorded is kept apart; here is what proves which it was, and under what it was made.</summary>
public sealed class Sound : CaseRecord
{
    public string FileName { get; set; } = "";

    /// <summary>SHA-256 of the WAV file, in lower-case hexadecimal.</summary>
    public string Sha256 { get; set; } = "";

    public long Bytes { get; set; }

    public double Seconds { get; set; }

    /// <summary>Values a second.</summary>
    public int Rate { get; set; }

    /// <summary>One, or two where the second is that of a clamp.</summary>
    public int Channels { get; set; } = 1;

    /// <summary>Crank speed in revolutions per minute; null where it is to be found from the sound.</summary>
    public double? Rpm { get; set; }

    /// <summary>Cylinder at whose line the clamp of the second channel sat; 0 without one.</summary>
    public int Pickup { get; set; }

    /// <summary>Cylinder that was cut out; 0 where all ran.</summary>
    public int CutOut { get; set; }

    public HeardAt Where { get; set; }

    public HeardLoad Load { get; set; }

    public HeardWarmth Warmth { get; set; }
}
