namespace VividSleuth.Core.Knowledge;

/// <summary>What must be through before parts go back, which the strip in reverse does not say: no chips near a fitted bearing.</summary>
public sealed class KnownBefore : Known
{
    /// <summary>Ids of the courses that must be through.</summary>
    public List<string> Courses { get; set; } = [];

    /// <summary>Kinds of part on which they are done.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>Kinds of part that go back afterwards; empty is all.</summary>
    public List<string> Before { get; set; } = [];

    public string Why { get; set; } = "";
}

/// <summary>When a step that assembly adds is done.</summary>
public enum AssemblyTime
{
    /// <summary>While the engine goes together.</summary>
    Fitting,

    /// <summary>When it is together and has not run.</summary>
    Start,

    /// <summary>After it ran, by hours or days.</summary>
    FollowUp,
}

/// <summary>When a figure is asked for.</summary>
public enum AskedWhen
{
    /// <summary>Always: without it the step is not through.</summary>
    Always,

    /// <summary>Where one of the parts that make it up is renewed or was worked on; else it only must not be out.</summary>
    Renewed,
}

/// <summary>A figure that must be inside its limit before a step is through.</summary>
public sealed class AskedFigure
{
    /// <summary>Id of the characteristic.</summary>
    public string Of { get; set; } = "";

    /// <summary>Station of the characteristic: “as fitted” of where a ring’s gap is put; empty is the whole of it.</summary>
    public string Station { get; set; } = "";

    public AskedWhen Asked { get; set; }

    /// <summary>Kinds of part that undo it when one of them comes out again, beside the parts that it is read on: a piston drawn lets its rings turn.</summary>
    public List<string> UndoneBy { get; set; } = [];

    internal AskedFigure Copy() => (AskedFigure)MemberwiseClone();
}

/// <summary>
/// What assembly adds to the strip in reverse: an act of its own, or what is looked at and measured while certain parts go in. A shop’s script may have
/// its own in place of one with the same id.
/// </summary>
public sealed class AssemblyStep : Known
{
    public string Does { get; set; } = "";

    public string Why { get; set; } = "";

    public AssemblyTime Time { get; set; }

    public Applicability Applies { get; set; } = new();

    /// <summary>The school of running in that it belongs to; null of any.</summary>
    public RunningIn? School { get; set; }

    /// <summary>Kinds of part it is about: it arises where one of them is off, laid open, or, of a follow-up, there at all. Empty is any engine.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>Kinds of part: it belongs to the step that puts the first of them in that is off. Empty of an act of its own.</summary>
    public List<string> With { get; set; } = [];

    /// <summary>Kinds of part that are in before it, and ids of other steps of assembly.</summary>
    public List<string> After { get; set; } = [];

    /// <summary>Kinds of part that go in after it, and ids of other steps of assembly.</summary>
    public List<string> Before { get; set; } = [];

    /// <summary>Ids of courses that must be through before it: nothing is washed before the stone has been over it.</summary>
    public List<string> Courses { get; set; } = [];

    public List<AskedFigure> Figures { get; set; } = [];

    /// <summary>What is looked at and ticked, each of them.</summary>
    public List<string> Ticks { get; set; } = [];

    /// <summary>Kinds of part of which Look is asked what was in them since it ran: a filter, a pan.</summary>
    public List<string> Finds { get; set; } = [];

    /// <summary>What is covered or plugged now, and comes off again before the engine runs.</summary>
    public List<string> Covers { get; set; } = [];

    /// <summary>Figures and orders to be had from the maker’s manual.</summary>
    public List<string> Manual { get; set; } = [];

    public List<string> Tools { get; set; } = [];

    public List<string> Cautions { get; set; } = [];

    public bool Helper { get; set; }

    /// <summary>Minutes whatever the number of stations.</summary>
    public double Minutes { get; set; } = 10;

    /// <summary>Minutes for each station of <see cref="Per"/> besides.</summary>
    public double MinutesEach { get; set; }

    public FastenerCount Per { get; set; }

    /// <summary>Of a follow-up: hours run after which it is due; null where hours do not matter.</summary>
    public double? Hours { get; set; }

    /// <summary>Of a follow-up: days after the first run after which it is due; null where days do not matter.</summary>
    public double? Days { get; set; }

    internal AssemblyStep Copy() => (AssemblyStep)MemberwiseClone();
}
