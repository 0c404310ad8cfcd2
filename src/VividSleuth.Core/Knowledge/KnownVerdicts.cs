using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Knowledge;

public enum VerdictAction
{
    Reuse,
    CleanAndReuse,
    Machine,
    Repair,
    Replace,
    Specialist,
}

/// <summary>Who does it.</summary>
public enum DoneAt
{
    Bench,
    MachineShop,
    Specialist,
    Supplier,
}

/// <summary>A way of dealing with a part: grind, hone, renew …</summary>
public sealed class KnownCourse : Known
{
    /// <summary>What it amounts to.</summary>
    public VerdictAction Action { get; set; }

    /// <summary>Of several that are asked for the greatest is advised, 0 to 100.</summary>
    public int Weight { get; set; }

    /// <summary>Kinds of part that it is offered for; empty is any.</summary>
    public List<string> On { get; set; } = [];

    public DoneAt At { get; set; }

    /// <summary>Kinds of part that go along when it is done elsewhere.</summary>
    public List<string> Along { get; set; } = [];

    /// <summary>What it takes to do it well.</summary>
    public string Takes { get; set; } = "";

    /// <summary>What may go wrong.</summary>
    public string Caution { get; set; } = "";
}

/// <summary>Parts that are decided together.</summary>
public sealed class KnownGroup : Known
{
    public List<string> Kinds { get; set; } = [];

    /// <summary>Of a kind, what must be measured before nothing is against it: one of each list.</summary>
    public Dictionary<string, List<List<string>>> Needs { get; set; } = [];
}

/// <summary>A test that answers whether a part may run again, with a result that somebody answers for.</summary>
public sealed class KnownExamination : Known
{
    public List<string> On { get; set; } = [];

    public string How { get; set; } = "";

    public DoneAt By { get; set; }

    /// <summary>Characteristics that answer it, each inside a limit that is no rule of thumb; empty where somebody's word does.</summary>
    public List<string> Figures { get; set; } = [];

    /// <summary>“crack” where it decides whether a crack that was seen is one.</summary>
    public string Settles { get; set; } = "";
}

/// <summary>A rule for what becomes of a part: a condition, and what follows from it.</summary>
public sealed class KnownVerdict : Known
{
    /// <summary>Kinds of part that it is about; empty where groups say it, or it is about all.</summary>
    public List<string> On { get; set; } = [];

    public List<string> Groups { get; set; } = [];

    public Applicability Applies { get; set; } = new();

    public VerdictWhen When { get; set; } = new();

    /// <summary>Id of the course that follows; empty where it only forbids or asks.</summary>
    public string Course { get; set; } = "";

    /// <summary>What nothing else may lead to while it holds.</summary>
    public List<VerdictAction> Forbids { get; set; } = [];

    /// <summary>Ids of the examinations that come first; once all are passed the rule no longer holds.</summary>
    public List<string> Asks { get; set; } = [];

    /// <summary>Only where no other rule leads to a course.</summary>
    public bool Otherwise { get; set; }

    /// <summary>Ids of rules that it sets aside while it holds.</summary>
    public List<string> Before { get; set; } = [];

    public string Why { get; set; } = "";
}

/// <summary>When a rule holds: all that is set must be so; of a list one is enough.</summary>
public sealed class VerdictWhen
{
    /// <summary>A crack or break is recorded that condemns the part.</summary>
    public bool? Crack { get; set; }

    /// <summary>A specialist may judge and mend a crack in it.</summary>
    public bool? Casting { get; set; }

    /// <summary>It serves once.</summary>
    public bool? OneTime { get; set; }

    /// <summary>It is usually renewed, though some makers let it serve again.</summary>
    public bool? Renewed { get; set; }

    /// <summary>It was measured after work.</summary>
    public bool? Worked { get; set; }

    /// <summary>Signs at the part, each with the slightest level that counts behind an @.</summary>
    public List<string> Signs { get; set; } = [];

    /// <summary>Signs at other parts.</summary>
    public List<NearTest> Near { get; set; } = [];

    public List<FigureTest> Figures { get; set; } = [];

    /// <summary>Journal, shell and stamp do not go together here.</summary>
    public bool? WrongGrade { get; set; }

    /// <summary>What the machining plan says of its kind.</summary>
    public PlanState? Plan { get; set; }

    /// <summary>How the running surface was made.</summary>
    public List<RunningSurface> Surface { get; set; } = [];

    /// <summary>Root causes that are seen outright, that somebody found, or that Trace holds for likelier than not.</summary>
    public List<string> Causes { get; set; } = [];

    /// <summary>How far around its seat a cause counts.</summary>
    public Reach CausesAt { get; set; }

    /// <summary>Examinations that the part failed.</summary>
    public List<string> Failed { get; set; } = [];

    /// <summary>What was told of the past.</summary>
    public List<string> History { get; set; } = [];

    /// <summary>How the shop does it, by the name of what practitioners disagree about.</summary>
    public Dictionary<string, string> School { get; set; } = [];

    /// <summary>What is advised or decided for other parts.</summary>
    public MateTest? Mate { get; set; }
}

/// <summary>How far around a part another one counts.</summary>
public enum Reach
{
    /// <summary>The same cylinder, pin, main or bank.</summary>
    Station,

    /// <summary>Anywhere in the engine.</summary>
    Engine,
}

public sealed class NearTest
{
    public List<string> On { get; set; } = [];

    public Reach At { get; set; }

    /// <inheritdoc cref="VerdictWhen.Signs"/>
    public List<string> Signs { get; set; } = [];
}

public sealed class MateTest
{
    public List<string> On { get; set; } = [];

    public Reach At { get; set; }

    /// <summary>Ids of courses.</summary>
    public List<string> Course { get; set; } = [];
}

/// <summary>How a figure lies to its limit.</summary>
public enum Lies
{
    /// <summary>Proven outside a limit of maker or shop, after ISO 14253-1.</summary>
    Outside,

    /// <inheritdoc cref="Outside"/>
    Under,

    /// <inheritdoc cref="Outside"/>
    Over,

    Undecided,

    /// <summary>Proven inside a limit of maker or shop.</summary>
    Inside,

    /// <summary>Outside a rule of thumb, which is no limit.</summary>
    OutsideThumb,
}

public sealed class FigureTest
{
    /// <summary>Ids of characteristics; empty is any that is of the part alone.</summary>
    public List<string> Of { get; set; } = [];

    public Lies Is { get; set; }

    /// <summary>Kinds of other parts at the station whose figure it is; empty for the part's own.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>Least probability that it lies beyond the limit, in place of the proof that ISO 14253-1 asks for.</summary>
    public double? Chance { get; set; }
}

/// <summary>What the machining plan says of a kind of part.</summary>
public enum PlanState
{
    /// <summary>There is a size that cleans up all.</summary>
    Size,

    /// <summary>No size that is to be had is far enough.</summary>
    TooFar,

    /// <summary>Nothing to plan with: not measured, or no standard size.</summary>
    None,
}

/// <summary>What may go wrong with a course.</summary>
public sealed class KnownReuse : Known
{
    /// <summary>How often an engine comes back for it before its next overhaul.</summary>
    public Frequency Often { get; set; }

    public string Says { get; set; } = "";
}
