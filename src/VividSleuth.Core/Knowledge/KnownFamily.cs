using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Knowledge;

/// <summary>A family of engines, and how such an engine is usually laid out: a start, to be looked at and put right.</summary>
public sealed class KnownFamily : Known
{
    /// <summary>What else one would call it, and what to look for.</summary>
    public string Says { get; set; } = "";

    public EngineLayout Layout { get; set; } =
        new()
        {
            Arrangement = Arrangement.Single,
            Cylinders = 0,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = [],
        };
}
