namespace VividSleuth.Core.Knowledge;

/// <summary>What an engine's rings must bear; rules of thumb for their gaps differ by it.</summary>
public enum RingUse
{
    Ordinary,
    HardDuty,
    AirCooled,
    TwoStroke,

    /// <summary>Boosted, or with nitrous oxide.</summary>
    Boosted,
}
