using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Knowledge;

/// <summary>Something told of the past that is no sign but multiplies the odds of the causes it favours.</summary>
public sealed class KnownRisk : Known
{
    public string Question { get; set; } = "";

    /// <summary>From so many hours at arrival on it is taken to be so where nobody answered; null where hours say nothing.</summary>
    public double? SoFromHours { get; set; }

    /// <summary>Up to so many hours it is taken to be so.</summary>
    public double? SoToHours { get; set; }

    /// <summary>Up to so many hours it is taken not to be so.</summary>
    public double? NotToHours { get; set; }

    /// <summary>What the hours at arrival say of it; null where they say nothing.</summary>
    public bool? ByHours(double hours) =>
        hours >= SoFromHours || hours <= SoToHours ? true
        : hours <= NotToHours ? false
        : null;
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

    /// <summary>How bad it is where it is left; that of the cause unless it says otherwise.</summary>
    public Severity? How { get; set; }
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

    /// <summary>The cause cannot be without it: a plain no nearly rules the cause out.</summary>
    public bool Needed { get; set; }
}

/// <summary>Another cause that this one may bring about: the first is told, and the second follows from it.</summary>
public sealed class Consequence
{
    /// <summary>Id of the cause that follows.</summary>
    public string Cause { get; set; } = "";

    public Relation At { get; set; } = Relation.Same;

    /// <summary>How often it does; where it may follow at several places, at one of them.</summary>
    public Frequency Often { get; set; }
}

/// <summary>A sign that says outright that a cause is there, when it is seen at the cause's seat.</summary>
public sealed class Defining
{
    public string Sign { get; set; } = "";

    /// <summary>The slightest level, 1 to 3, at which it does.</summary>
    public int From { get; set; } = 1;
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

    /// <summary>How bad what it leaves is, unless a prediction says otherwise.</summary>
    public Severity How { get; set; }

    /// <summary>
    /// How often the fault is of the whole shaft or engine and not of one place, so that it is the same at every one: a shaft ground hollow, a
    /// crankcase that let current through.
    /// </summary>
    public Frequency Wide { get; set; }

    /// <summary>Kind of part at which it is said to sit when it is of the whole.</summary>
    public string WideSeat { get; set; } = "";

    /// <summary>Signs that establish it: what is ranked then is what brought it about.</summary>
    public List<Defining> Defines { get; set; } = [];

    /// <summary>Causes that this one may bring about.</summary>
    public List<Consequence> Brings { get; set; } = [];

    /// <summary>Id of the cause of which it is a kind: the two are told as one, with their shares. Empty where it is none.</summary>
    public string KindOf { get; set; } = "";

    /// <summary>A set of which at most one can be: too much oil and too little. Empty where there is none.</summary>
    public string OneOf { get; set; } = "";

    public List<ChainLink> Chain { get; set; } = [];

    public List<RiskFactor> Risks { get; set; } = [];

    public List<string> ConfusedWith { get; set; } = [];

    /// <summary>How to prove it.</summary>
    public string Prove { get; set; } = "";

    /// <summary>What to change so that it does not return.</summary>
    public string Prevent { get; set; } = "";

    public string Caution { get; set; } = "";
}
