using System.Text.Json.Serialization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Knowledge;

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
public sealed class KnownSign : Known
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

    /// <summary>Id of the examination that decides whether it is a crack at all; empty where the eye is enough.</summary>
    public string Test { get; set; } = "";

    /// <summary>
    /// How deep slight, marked and severe are in mm, where machining must get below it; for planning only, until somebody measures. Empty where it has no
    /// depth. Ours, no source.
    /// </summary>
    public List<double> Deep { get; set; } = [];

    /// <summary>How often it appears for no reason known here.</summary>
    public Frequency Leak { get; set; } = Frequency.Rarely;

    /// <summary>
    /// Name of the fact that it is one way to know: found on both halves of a bearing, at a part and its mate, or seen and measured, it is one fact and
    /// counts once at its station. Empty where each place is a fact of its own.
    /// </summary>
    public string Once { get; set; } = "";

    /// <summary>Met on many engines with nothing wrong, so that it may appear of itself as often as by the few causes that leave it.</summary>
    public bool Common { get; set; }

    /// <summary>Why no cause leaves it; empty where one does.</summary>
    public string Alone { get; set; } = "";

    /// <summary>Minutes it takes to look.</summary>
    public double Minutes { get; set; } = 3;

    /// <summary>Heard or felt only while the engine runs: gone once anything is off that it runs with, and nothing has to come off for it.</summary>
    public bool Running { get; set; }

    /// <summary>Looked for only where there are cylinders to tell apart: two or more.</summary>
    [JsonIgnore]
    public bool Several { get; set; }

    /// <summary>Kinds of part that the engine must have for it to be looked for: a breather needs a sump.</summary>
    [JsonIgnore]
    public List<string> Needs { get; set; } = [];

    /// <summary>Whether it can be looked for on an engine.</summary>
    public bool Fits(AddressTable table) => (!Several || table.Engine.Layout.Cylinders > 1) && Needs.TrueForAll(k => table.OfKind(k).Any());

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
    public KnownPattern? Pattern { get; set; }
}

/// <summary>A pattern over places that is a sign in its own right.</summary>
public sealed class KnownPattern
{
    /// <summary>Along the oil, toward one end, or all alike.</summary>
    public PatternShape Shape { get; set; }

    /// <summary>Signs whose levels may show it.</summary>
    public List<string> Of { get; set; } = [];

    /// <summary>Characteristics whose figures may show it.</summary>
    public List<string> Figures { get; set; } = [];
}

/// <summary>A picture that an examiner will miss when it was not taken.</summary>
public sealed class KnownShot : Known
{
    /// <summary>Kinds of part of which it is taken.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>How to take it, so that pictures of peers can be laid side by side.</summary>
    public string How { get; set; } = "";

    /// <summary>What cannot be shown without it.</summary>
    public string Why { get; set; } = "";

    /// <summary>Acts after which it is too late.</summary>
    public List<Act> Before { get; set; } = [];
}

/// <summary>A likely source of what was found in pan, screen or filter, and what its debris looks like.</summary>
public sealed class KnownDebris : Known
{
    public List<DebrisMaterial> Material { get; set; } = [];

    /// <summary>Null where it may be either.</summary>
    public bool? Hard { get; set; }

    public List<DebrisColour> Colour { get; set; } = [];

    public List<DebrisForm> Form { get; set; } = [];

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
