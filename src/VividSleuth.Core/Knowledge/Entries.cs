using System.Text.Json.Serialization;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Knowledge;

/// <summary>What every entry of the knowledge base carries.</summary>
public abstract class Entry
{
    public string Id { get; set; } = "";

    public string Name { get; set; } = "";

    /// <summary>Where it comes from: a standard's heading, a published source, or “common practice, no source”.</summary>
    public string Provenance { get; set; } = "";
}

/// <summary>Acts that destroy what a part shows.</summary>
public enum Act
{
    Washing,
    Wiping,
    Scraping,
    Polishing,
    DrainingOil,
    RemovingRings,
    RemovingShells,
    TakingCapsOff,
    PressingOff,
    TakingApart,
    TurningCrank,
    Reassembly,
}

/// <summary>Something that can be seen, measured or told at a place.</summary>
public sealed class SignEntry : Entry
{
    /// <summary>The trade's other names, for search.</summary>
    public List<string> Also { get; set; } = [];

    /// <summary>Kinds of place on which it may be found.</summary>
    public List<string> On { get; set; } = [];

    public string Looks { get; set; } = "";

    public string ConfusedWith { get; set; } = "";

    /// <summary>How to look for it.</summary>
    public string How { get; set; } = "";

    /// <summary>What it takes to look: a lens, a lamp, feelers, an instrument.</summary>
    public string With { get; set; } = "";

    /// <summary>What slight, marked and severe mean for it.</summary>
    public List<string> Levels { get; set; } = [];

    /// <summary>Level from which it is a crack or a break: such a part is never machined, repaired or run again. 0 where it is none at any level.</summary>
    public int CrackFrom { get; set; }

    /// <summary>How often it appears for no reason known here.</summary>
    public Frequency Leak { get; set; } = Frequency.Rarely;

    /// <summary>Minutes it takes to look.</summary>
    public double Minutes { get; set; } = 3;

    /// <summary>Acts that destroy it.</summary>
    public List<Act> DestroyedBy { get; set; } = [];

    /// <summary>Heading under which a standard describes it; empty where none is known.</summary>
    public string Term { get; set; } = "";

    /// <summary>Chapter of the atlas: the name of the file it stands in, unless the entry says another.</summary>
    public string Chapter { get; set; } = "";

    /// <summary>How it is drawn, in the notation of <see cref="SignDrawing"/>.</summary>
    public string Draw { get; set; } = "";

    /// <summary>True when Gauge makes it from readings; it is then not offered for looking.</summary>
    public bool Measured { get; set; }

    /// <summary>How it follows from other signs and figures by itself; null where it does not.</summary>
    [JsonIgnore]
    public PatternEntry? Pattern { get; set; }
}

/// <summary>A pattern over places that is a sign in its own right.</summary>
public sealed class PatternEntry
{
    /// <summary>Along the oil, toward one end, or all alike.</summary>
    public PatternShape Shape { get; set; }

    /// <summary>Signs whose levels may show it.</summary>
    public List<string> Of { get; set; } = [];

    /// <summary>Characteristics whose figures may show it.</summary>
    public List<string> Figures { get; set; } = [];
}

/// <summary>A picture that an examiner will miss when it was not taken.</summary>
public sealed class ShotEntry : Entry
{
    /// <summary>Kinds of part of which it is taken.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>How to take it, so that pictures of fellows can be laid side by side.</summary>
    public string How { get; set; } = "";

    /// <summary>What cannot be shown without it.</summary>
    public string Why { get; set; } = "";

    /// <summary>Acts after which it is too late.</summary>
    public List<Act> Before { get; set; } = [];
}

/// <summary>A likely source of what was found in pan, screen or filter, and what its debris looks like.</summary>
public sealed class DebrisSourceEntry : Entry
{
    public List<Cases.DebrisMaterial> Material { get; set; } = [];

    /// <summary>Null where it may be either.</summary>
    public bool? Hard { get; set; }

    public List<Cases.DebrisColour> Colour { get; set; } = [];

    public List<Cases.DebrisForm> Form { get; set; } = [];

    /// <summary>Size in mm above which it is seldom this.</summary>
    public double? Largest { get; set; }

    /// <summary>Size in mm below which it is seldom this.</summary>
    public double? Smallest { get; set; }

    /// <summary>How often it is met among finds of its material.</summary>
    public Frequency Often { get; set; } = Frequency.Sometimes;

    /// <summary>Kinds of part it may have come from.</summary>
    public List<string> From { get; set; } = [];

    /// <summary>Sign to record for it; empty where there is none.</summary>
    public string Sign { get; set; } = "";

    /// <summary>How to tell.</summary>
    public string Tell { get; set; } = "";
}

/// <summary>A characteristic that can be measured.</summary>
public sealed class CharacteristicEntry : Entry
{
    public Quantity Quantity { get; set; }

    /// <summary>Engines on which it is measured; the sheet names those that fit.</summary>
    [JsonIgnore]
    public Applicability Applies { get; set; } = new();

    /// <summary>Part of the sheet in which it is shown.</summary>
    public string Group { get; set; } = "";

    public List<string> On { get; set; } = [];

    /// <summary>Levels or stations at which it is measured, in walking order; empty where there is one only.</summary>
    public List<string> Stations { get; set; } = [];

    /// <summary>Directions in which it is measured at each station, with their angle in degrees from the crankshaft's axis or the beam.</summary>
    public Dictionary<string, double> Directions { get; set; } = [];

    /// <summary>Kinds of instrument that do for it; empty where any does.</summary>
    public List<InstrumentKind> By { get; set; } = [];

    public string With { get; set; } = "";

    public string How { get; set; } = "";

    /// <summary>How the part is held meanwhile.</summary>
    public string Held { get; set; } = "";

    /// <summary>Least and most that any engine has, in the base unit; what lies beyond is asked about.</summary>
    public decimal? Least { get; set; }

    /// <inheritdoc cref="Least"/>
    public decimal? Most { get; set; }

    /// <summary>Unit in which it is usually told; empty is the base unit.</summary>
    public string Unit { get; set; } = "";

    /// <summary>What spoils the reading.</summary>
    public string Spoils { get; set; } = "";

    /// <summary>True for gaps and clearances, where twice the size is no slip of the pen.</summary>
    public bool Gap { get; set; }

    /// <summary>True when several parts make it up, such as a clearance or a play: out of its limit it condemns none of them by itself.</summary>
    public bool Between { get; set; }

    /// <summary>True when it is worked out from others and never typed.</summary>
    public bool Derived { get; set; }

    /// <summary>
    /// Ways to work it out as a sum of other characteristics. The first whose figures are all there counts; the others are held against
    /// it.
    /// </summary>
    public List<List<Term>> Ways { get; set; } = [];

    public double Minutes { get; set; } = 4;
}

/// <summary>One figure in a sum.</summary>
public sealed class Term
{
    /// <summary>Id of the characteristic.</summary>
    public string Of { get; set; } = "";

    /// <summary>Kinds of part it is taken from, one for each kind of the sum's own, or one for all.</summary>
    public List<string> On { get; set; } = [];

    public double Times { get; set; } = 1;

    public Take Take { get; set; } = Take.Mean;

    /// <summary>Only what was measured at this station; empty is all.</summary>
    public string Station { get; set; } = "";

    /// <summary>Short word for it in the sum.</summary>
    public string Says { get; set; } = "";
}

/// <summary>A rule of thumb for a limit: least and most as a share of another size, or as they are where there is none. Shown as such, never as a limit.</summary>
public sealed class RuleOfThumbEntry : Entry
{
    public string Characteristic { get; set; } = "";

    /// <summary>The characteristic of whose size it is a share; empty where the figures are in the base unit themselves.</summary>
    public string Of { get; set; } = "";

    /// <summary>Kind of part for which it holds; empty is any.</summary>
    public string On { get; set; } = "";

    public double? Least { get; set; }

    public double? Most { get; set; }

    /// <summary>Where wear is said to have gone far enough; in words only.</summary>
    public double? Wear { get; set; }
}

/// <summary>Something told of the past that is no sign but multiplies the odds of the stories it favours.</summary>
public sealed class RiskEntry : Entry
{
    public string Question { get; set; } = "";
}

/// <summary>To which layouts an entry applies; a missing field means any.</summary>
public sealed class Applicability
{
    public WorkingCycle? Cycle { get; set; }

    public BearingType? Bearings { get; set; }

    public Arrangement? Arrangement { get; set; }

    public ValveGear? Valves { get; set; }

    public FuelSystem? Fuel { get; set; }

    public CaseBuild? Case { get; set; }

    public bool? Gearbox { get; set; }

    /// <summary>Number of cylinders.</summary>
    public int? Cylinders { get; set; }

    public bool Fits(EngineLayout layout) =>
        (Cycle is null || Cycle == layout.Cycle)
        && (Bearings is null || Bearings == layout.Bearings)
        && (Arrangement is null || Arrangement == layout.Arrangement)
        && (Valves is null || Valves == layout.ValveGear)
        && (Fuel is null || Fuel == layout.Fuel)
        && (Case is null || Case == layout.Case)
        && (Gearbox is null || Gearbox == layout.GearboxInCase)
        && (Cylinders is null || Cylinders == layout.Cylinders);

    /// <summary>How many fields are set: of two that fit, the one that says more fits better.</summary>
    public int Says() => new object?[] { Cycle, Bearings, Arrangement, Valves, Fuel, Case, Gearbox, Cylinders }.Count(f => f is not null);
}

/// <summary>Where a story can begin: once for each station of the scope.</summary>
public enum Anchor
{
    Engine,
    Cylinder,
    Main,
}

/// <summary>Places relative to where a story began.</summary>
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

/// <summary>One link in a story's chain of events, and the signs it leaves.</summary>
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
public sealed class StoryEntry : Entry
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
