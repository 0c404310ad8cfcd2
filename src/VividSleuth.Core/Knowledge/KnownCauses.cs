using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Knowledge;

/// <summary>Something told of the past that is no sign but multiplies the odds of the causes it favours.</summary>
public sealed class KnownRisk : Known
{
    public string Question { get; set; } = "";
}

/// <summary>Where a cause can begin: once for each station of the scope.</summary>
public enum Anchor
{
    Engine,
    Cylinder,
    Main,
}

/// <summary>Places relative to where a cause began.</summary>
public enum Relation
{
    /// <summary>The same station; for mains, those that flank the cylinder.</summary>
    Same,

    /// <summary>The stations next to it in its bank.</summary>
    Neighbours,

    /// <summary>The cylinder that moves with it, half a cycle apart.</summary>
    Companion,

    /// <summary>Rods on the same crankpin, without itself.</summary>
    SamePin,

    /// <summary>The others of its bank.</summary>
    Bank,

    /// <summary>All but itself.</summary>
    Others,

    /// <summary>All stations.</summary>
    Every,

    /// <summary>Bearings that the oil reaches later.</summary>
    Downstream,

    /// <summary>The second half of the oil's way, whatever the place.</summary>
    FarEnd,
}

public sealed class Prediction
{
    public string Sign { get; set; } = "";

    public List<string> On { get; set; } = [];

    public Relation At { get; set; } = Relation.Same;

    public Frequency Often { get; set; }
}

/// <summary>One link in a cause's chain of events, and the signs it leaves.</summary>
public sealed class ChainLink
{
    public string Says { get; set; } = "";

    public List<Prediction> Predicts { get; set; } = [];
}

public sealed class RiskFactor
{
    public string Risk { get; set; } = "";

    /// <summary>By how much the odds are multiplied when it is so; when it is said not to be so they are divided by the root of it.</summary>
    public double Times { get; set; } = 1;
}

/// <summary>A root cause with its chain of events.</summary>
public sealed class KnownCause : Known
{
    /// <summary>True where a shop wrote it, or changed what ships.</summary>
    public bool Shop { get; set; }

    public string Family { get; set; } = "";

    public Anchor Anchor { get; set; }

    /// <summary>Kind of part at which it is said to sit: a rod, a piston, a main journal …</summary>
    public string Seat { get; set; } = "";

    public Applicability Applies { get; set; } = new();

    /// <summary>How often it is met among engines on a bench; only the proportions count.</summary>
    public Frequency Base { get; set; }

    public List<ChainLink> Chain { get; set; } = [];

    public List<RiskFactor> Risks { get; set; } = [];

    public List<string> ConfusedWith { get; set; } = [];

    /// <summary>How to prove it.</summary>
    public string Prove { get; set; } = "";

    /// <summary>What to change so that it does not return.</summary>
    public string Prevent { get; set; } = "";

    public string Caution { get; set; } = "";
}
