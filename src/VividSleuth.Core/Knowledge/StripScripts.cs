using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Knowledge;

/// <summary>How the engine lies on bench or stand.</summary>
public enum Attitude
{
    Upright,
    Inverted,
    OnEnd,
}

/// <summary>What a number is counted by.</summary>
public enum FastenerCount
{
    InAll,
    PerCylinder,
    PerMain,
    PerBank,
    PerCamshaft,
}

/// <summary>Fasteners that belong together: one joint, one thread.</summary>
public sealed class FastenerSet
{
    /// <summary>Unique in its step.</summary>
    public string Id { get; set; } = "";

    public string Name { get; set; } = "";

    /// <summary>How many there are, for each station of <see cref="Per"/>.</summary>
    public int Count { get; set; } = 1;

    public FastenerCount Per { get; set; }

    public string Thread { get; set; } = "";

    public string Head { get; set; } = "";

    /// <summary>Lengths under the head in mm, the shortest first. More than one: a hole map is kept.</summary>
    public List<double> Lengths { get; set; } = [];

    public string Washers { get; set; } = "";

    /// <summary>How it is locked: tab, wire, staked, thread-locked, split pin.</summary>
    public string Locking { get; set; } = "";

    public bool LeftHand { get; set; }

    /// <summary>True where the thread is left-hand on some makes only: it is turned a little each way and looked at.</summary>
    public bool LeftHandOnSome { get; set; }

    /// <summary>Stretched, peened or crushed once: kept as a gauge only, and ordered new.</summary>
    public bool OneTime { get; set; }

    /// <summary>Where it hides; empty when it is in plain sight.</summary>
    public string Hidden { get; set; } = "";

    /// <summary>
    /// Where the holes lie, as x and y in hundredths of the joint's width and height from its upper left corner, seen from
    /// outside; empty draws them evenly round the edge.
    /// </summary>
    public List<List<double>> Holes { get; set; } = [];

    public bool NeedsMap => Lengths.Count > 1;
}

/// <summary>One step of a strip: an act that a person finishes before the next.</summary>
public sealed class StripStep : Known
{
    public string Does { get; set; } = "";

    /// <summary>What to tick off, one by one; empty when the step is one act.</summary>
    public List<string> Ticks { get; set; } = [];

    /// <summary>Steps that must come first, with the reason.</summary>
    public Dictionary<string, string> After { get; set; } = [];

    public Attitude Attitude { get; set; } = Attitude.Upright;

    /// <summary>The end of the engine at which one stands; null where it does not matter.</summary>
    public CrankEnd? End { get; set; }

    /// <summary>Where the crankshaft must stand; empty where it does not matter.</summary>
    public string Crank { get; set; } = "";

    /// <summary>True where no piston may be near the top: the angle is worked out for the engine, and <see cref="Crank"/> stays empty.</summary>
    public bool PistonsDown { get; set; }

    public List<FastenerSet> Fasteners { get; set; } = [];

    /// <summary>Order of loosening.</summary>
    public string Pattern { get; set; } = "";

    /// <summary>Minutes that the step takes whatever the number of stations.</summary>
    public double Minutes { get; set; } = 5;

    /// <summary>Minutes for each station of <see cref="Per"/> besides.</summary>
    public double MinutesEach { get; set; }

    public FastenerCount Per { get; set; }

    /// <summary>The step can be done at one station alone, as far as someone digs for one part.</summary>
    public bool OneAtATime { get; set; }

    /// <summary>A second pair of hands is needed.</summary>
    public bool Helper { get; set; }

    /// <summary>The first is the one that is taken up for it.</summary>
    public List<string> Tools { get; set; } = [];

    /// <summary>Pictures to take before anything moves.</summary>
    public List<string> Photos { get; set; } = [];

    /// <summary>Kinds of part that the step lays open to the eye.</summary>
    public List<string> Exposes { get; set; } = [];

    /// <summary>Kinds of part that come off; each needs a place from then on.</summary>
    public List<string> Releases { get; set; } = [];

    /// <summary>Kinds of part whose evidence the step spoils when it was not read before.</summary>
    public List<string> ReadFirst { get; set; } = [];

    /// <summary>What the step does to evidence: of the kinds to read first, the signs that these acts destroy must be looked for.</summary>
    public List<Act> Acts { get; set; } = [];

    /// <summary>True when two pieces part: locked until as many fasteners are out as are expected.</summary>
    public bool Parts { get; set; }

    /// <summary>What may still hold when every counted fastener is out: dowels, sealant, a link inside.</summary>
    public List<string> MayHold { get; set; } = [];

    public List<string> Cautions { get; set; } = [];

    /// <summary>Checked and signed before the next step begins.</summary>
    public bool HoldPoint { get; set; }

    public Applicability Applies { get; set; } = new();
}

/// <summary>A strip from arrival to the bare block or case, for one kind of engine.</summary>
public sealed class StripScript : Known
{
    /// <summary>For which engines it is meant, in a mechanic's words.</summary>
    public string Says { get; set; } = "";

    public Applicability Applies { get; set; } = new();

    /// <summary>Ids of steps of the script “common” that this one takes over.</summary>
    public List<string> Uses { get; set; } = [];

    /// <summary>Another script whose steps this one takes over, but for those it has itself under the same id.</summary>
    public string Extends { get; set; } = "";

    /// <summary>Steps of the other script that it leaves out.</summary>
    public List<string> Drops { get; set; } = [];

    /// <summary>Its own steps; after loading, with those it takes over before them.</summary>
    public List<StripStep> Steps { get; set; } = [];
}
