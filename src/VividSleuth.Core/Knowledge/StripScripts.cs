using System.ComponentModel;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using YamlDotNet.Serialization;

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

/// <summary>What an engine holds that runs out when it is opened.</summary>
public enum Fluid
{
    Oil,
    GearOil,
    Coolant,
    Fuel,
}

/// <summary>Fasteners that belong together: one joint, one thread.</summary>
public sealed class FastenerSet
{
    /// <summary>Unique in its step.</summary>
    public string Id { get; set; } = "";

    public string Name { get; set; } = "";

    /// <summary>False while the number is an example of such engines: it is counted on this one. True once somebody has.</summary>
    public bool Counted { get; set; }

    /// <summary>How many there are, for each station of <see cref="Per"/>.</summary>
    [DefaultValue(1)]
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

    /// <summary>Kind of part that they are, where the engine has places for them; empty of those that are nothing but fasteners.</summary>
    public string Part { get; set; } = "";

    /// <summary>Where it hides; empty when it is in plain sight.</summary>
    public string Hidden { get; set; } = "";

    /// <summary>
    /// Where the holes lie, as x and y in hundredths of the joint's width and height from its upper left corner, seen from
    /// outside; empty draws them evenly round the edge.
    /// </summary>
    public List<List<double>> Holes { get; set; } = [];

    [YamlIgnore]
    public bool NeedsMap => Lengths.Count > 1;

    internal FastenerSet Copy() => (FastenerSet)MemberwiseClone();
}

/// <summary>One step of a strip: an act that a person finishes before the next.</summary>
public sealed class StripStep : Known
{
    public string Does { get; set; } = "";

    /// <summary>The stretch of the strip that it belongs to, in the shop's words: top end, bottom end; empty where it is not parted.</summary>
    public string Section { get; set; } = "";

    /// <summary>What to tick off, one by one; empty when the step is one act.</summary>
    public List<string> Ticks { get; set; } = [];

    /// <summary>Those of the ticks without which the step is not done.</summary>
    public List<string> Must { get; set; } = [];

    /// <summary>Steps without which it cannot be done, with the reason: it stays locked until they are.</summary>
    public Dictionary<string, string> After { get; set; } = [];

    /// <summary>Steps that one usually does first, with the reason: the plan keeps to them, and somebody who goes another way needs no leave.</summary>
    public Dictionary<string, string> Usually { get; set; } = [];

    /// <summary>
    /// Steps that must wait for this one, with the reason, where it is added to scripts that do not know of it; those a script has not are passed over.
    /// </summary>
    public Dictionary<string, string> Precedes { get; set; } = [];

    /// <summary>
    /// Whether what must follow this step stays closed when it is left out; null where that follows from what the step does. A test that was left out
    /// closes nothing, a cover that stays on does.
    /// </summary>
    public bool? StaysClosed { get; set; }

    /// <summary>Whether what must follow it stays closed when it is left out.</summary>
    internal bool Closes => StaysClosed ?? (HoldPoint || Parts || PistonsDown || Fasteners.Count > 0 || Releases.Count > 0);

    /// <summary>Ids of all steps before it, necessary and usual.</summary>
    internal IEnumerable<string> Before => After.Keys.Concat(Usually.Keys);

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
    [DefaultValue(5.0)]
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

    /// <summary>Figures and orders to be had from the maker's manual, where the step needs them.</summary>
    public List<string> Manual { get; set; } = [];

    /// <summary>Kinds of part that must still be in place: what a test or a reading asks of the engine. It stands before all that takes them off.</summary>
    public List<string> Needs { get; set; } = [];

    /// <summary>What is drained.</summary>
    public List<Fluid> Drains { get; set; } = [];

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

    internal StripStep Copy() => (StripStep)MemberwiseClone();
}

/// <summary>What differs of a step; what is null stays as it is.</summary>
public sealed class Alteration
{
    public string? Name { get; set; }

    public string? Does { get; set; }

    public Dictionary<string, string>? After { get; set; }

    public Dictionary<string, string>? Usually { get; set; }

    public List<string>? Ticks { get; set; }

    public List<string>? Exposes { get; set; }

    public List<string>? Releases { get; set; }

    public List<string>? ReadFirst { get; set; }

    public List<string>? MayHold { get; set; }

    public List<string>? Cautions { get; set; }

    public double? Minutes { get; set; }

    public bool? Helper { get; set; }

    public StripStep Of(StripStep step)
    {
        var altered = step.Copy();
        altered.Name = Name ?? step.Name;
        altered.Does = Does ?? step.Does;
        altered.After = After ?? step.After;
        altered.Usually = Usually ?? step.Usually;
        altered.Ticks = Ticks ?? step.Ticks;
        altered.Must = [.. step.Must.Where(altered.Ticks.Contains)];
        altered.Exposes = Exposes ?? step.Exposes;
        altered.Releases = Releases ?? step.Releases;
        altered.ReadFirst = ReadFirst ?? step.ReadFirst;
        altered.MayHold = MayHold ?? step.MayHold;
        altered.Cautions = Cautions ?? step.Cautions;
        altered.Minutes = Minutes ?? step.Minutes;
        altered.Helper = Helper ?? step.Helper;
        return altered;
    }
}

/// <summary>
/// Another way through a strip, by choice: some steps left out, done otherwise or added; or only so far as it takes to see something.
/// </summary>
public sealed class StripVariant : Known
{
    /// <summary>When one goes this way, and what it costs.</summary>
    public string Says { get; set; } = "";

    public Applicability Applies { get; set; } = new();

    /// <summary>Ids of variants that it cannot be had with.</summary>
    public List<string> Excludes { get; set; } = [];

    /// <summary>Ids of steps that it leaves out.</summary>
    public List<string> Drops { get; set; } = [];

    /// <summary>What differs of steps that are otherwise done as they stand, by their id.</summary>
    public Dictionary<string, Alteration> Alters { get; set; } = [];

    /// <summary>Steps as they are done this way, in place of those of the same id, and steps of its own.</summary>
    public List<StripStep> Steps { get; set; } = [];

    /// <summary>Ids of the steps at which it ends: what these do not need is left as it is. Empty goes on to the bare block.</summary>
    public List<string> Until { get; set; } = [];

    internal StripVariant Copy() => (StripVariant)MemberwiseClone();
}

/// <summary>A strip from arrival to the bare block or case, for one kind of engine.</summary>
public sealed class StripScript : Known
{
    /// <summary>For which engines it is meant, in a mechanic's words.</summary>
    public string Says { get; set; } = "";

    public Applicability Applies { get; set; } = new();

    /// <summary>Ids of steps of the script “common” that this one takes over.</summary>
    public List<string> Uses { get; set; } = [];

    /// <summary>Ids of other ways of the script “common” that this one takes over.</summary>
    public List<string> Ways { get; set; } = [];

    /// <summary>Another script whose steps this one takes over, but for those it has itself under the same id.</summary>
    public string Extends { get; set; } = "";

    /// <summary>Steps of the other script that it leaves out.</summary>
    public List<string> Drops { get; set; } = [];

    /// <summary>Its own steps; after loading, with those it takes over before them.</summary>
    public List<StripStep> Steps { get; set; } = [];

    /// <summary>Other ways through it; after loading, with those of the script it extends that still fit its steps.</summary>
    public List<StripVariant> Variants { get; set; } = [];

    /// <summary>What assembly adds as this shop does it: in place of what the knowledge has under the same id, and steps of its own.</summary>
    public List<AssemblyStep> Assembly { get; set; } = [];

    /// <summary>Ids of what assembly adds by the knowledge and that is not done here.</summary>
    public List<string> AssemblyDrops { get; set; } = [];

    /// <summary>The kind of engine that a shop's script is for, as its cases begin their name; empty fits by layout alone.</summary>
    public string Kind { get; set; } = "";

    /// <summary>True for a script of the shop's own.</summary>
    [YamlIgnore]
    public bool Shop { get; set; }
}
