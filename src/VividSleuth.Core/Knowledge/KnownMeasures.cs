using System.Text.Json.Serialization;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Knowledge;

/// <summary>A characteristic that can be measured.</summary>
public sealed class KnownCharacteristic : Known
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

    /// <summary>Station at which nothing runs, so that it shows the size before wear; empty where there is none.</summary>
    public string UnwornAt { get; set; } = "";

    /// <summary>Directions in which it is measured at each station, with their angle in degrees from the crankshaft's axis or the beam.</summary>
    public Dictionary<string, double> Directions { get; set; } = [];

    /// <summary>Kinds of instrument that do for it; empty where any does.</summary>
    public List<InstrumentKind> By { get; set; } = [];

    /// <summary>Tasks by which it can be measured in a picture: it is seen whole, in one plane, and is no finer than a picture tells. Empty where it cannot be. Common practice, no source.</summary>
    public List<PictureTask> InPicture { get; set; } = [];

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
    /// Ways to work it out as a sum of other characteristics. Those that agree within their doubt count together; of those that do not, the first
    /// whose figures are all there.
    /// </summary>
    public List<List<Term>> Ways { get; set; } = [];

    public double Minutes { get; set; } = 4;

    /// <summary>True where it is read with the parts together or on what is put together for it: apart, there is nothing to read.</summary>
    public bool Assembled { get; set; }

    /// <summary>
    /// Kinds of part that must still be on when it is read with the parts together; none where it is read on what is put together for it, or where nobody
    /// asks for it before a strip. Common practice, no source.
    /// </summary>
    public List<string> Before { get; set; } = [];

    /// <summary>
    /// Where it comes among the rounds that most engines need, in the order in which a strip lays the parts open; 0 where it is none of them. Common
    /// practice, no source.
    /// </summary>
    public int Usual { get; set; }
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
public sealed class KnownRule : Known
{
    public string Characteristic { get; set; } = "";

    /// <summary>The characteristic of whose size it is a share; empty where the figures are in the base unit themselves.</summary>
    public string Of { get; set; } = "";

    /// <summary>Kind of part for which it holds; empty is any.</summary>
    public string On { get; set; } = "";

    /// <summary>The use for which it holds; null is any.</summary>
    public RingUse? Use { get; set; }

    /// <summary>Engines for which it holds.</summary>
    public Applicability Applies { get; set; } = new();

    public double? Least { get; set; }

    public double? Most { get; set; }

    /// <summary>Where wear is said to have gone far enough; in words only.</summary>
    public double? Wear { get; set; }
}
