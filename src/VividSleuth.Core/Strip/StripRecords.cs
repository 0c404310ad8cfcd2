using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>What was entered in Strip, with what Strip must know of the other rooms.</summary>
/// <param name="Engine">Name of the engine; what stands before the first comma is its kind.</param>
/// <param name="Script">Id of the script that was chosen; empty takes the one that fits best.</param>
/// <param name="Variants">Ids of the other ways that were chosen.</param>
/// <param name="Stroke">mm; null where nobody entered it.</param>
/// <param name="RodLength">mm between centres; null where nobody entered it.</param>
/// <param name="Read">Places and signs that somebody looked for, whatever was found.</param>
public sealed record StripLog(
    EngineLayout Layout,
    string Engine,
    string Script,
    IReadOnlyList<string> Variants,
    decimal? Stroke,
    decimal? RodLength,
    IReadOnlyList<StepRecord> Steps,
    IReadOnlyList<OwnStep> OwnSteps,
    IReadOnlyList<StepMark> StepMarks,
    IReadOnlyList<FastenerMove> FastenerMoves,
    IReadOnlyList<SignOff> SignOffs,
    IReadOnlySet<(string Place, string Sign)> Read
);

public enum StepState
{
    Done,

    /// <summary>Left out: what is physically behind it stays closed.</summary>
    Skipped,

    /// <summary>There was nothing to do: off already when the engine came, or not on this engine. What is behind it lies free.</summary>
    WasOff,
}

/// <summary>A step of the strip, or some of its stations: done, left out, or found done.</summary>
public sealed class StepRecord : CaseRecord
{
    public string Step { get; set; } = "";

    public StepState State { get; set; }

    /// <summary>Why the step was skipped or how it was found; of older records also why it was done in spite of a lock.</summary>
    public string Reason { get; set; } = "";

    /// <summary>Obstacles that were passed, each by a reason of its own.</summary>
    public List<StepOverride> Overrides { get; set; } = [];

    /// <summary>Cylinders, mains or banks at which it was done, of a step that is done one by one; empty is all that were left.</summary>
    public List<int> Stations { get; set; } = [];

    /// <summary>What the stations are numbers of.</summary>
    public FastenerCount Per { get; set; }
}

/// <summary>What can hold a step back.</summary>
public enum StepLock
{
    /// <summary>A hold point before it is not signed.</summary>
    HoldPoint,

    /// <summary>A step that comes first is not done.</summary>
    Order,

    /// <summary>It would destroy what nobody has read.</summary>
    Unread,

    /// <summary>Fasteners out are not as many as expected.</summary>
    FastenersOut,

    /// <summary>Lengths differ and some holes have none noted.</summary>
    Hole,

    /// <summary>A tick that the step must have is not set.</summary>
    Tick,

    /// <summary>It asks for entries and has none at all.</summary>
    Empty,

    /// <summary>A gate of the way back: a figure, a look, a part that nobody scanned.</summary>
    Assembly,
}

/// <summary>One obstacle, passed in spite of what it says.</summary>
public sealed class StepOverride
{
    public StepLock Lock { get; set; }

    /// <summary>What it is about: a step, place, set or number of a tick. Empty in records of before obstacles were told apart.</summary>
    public string Of { get; set; } = "";

    public string Reason { get; set; } = "";
}

/// <summary>A step added to this case's strip, or one of the script's as it is done here. The latest for a step counts.</summary>
public sealed class OwnStep : CaseRecord
{
    public required StripStep Step { get; set; }

    /// <summary>Why it differs from the script.</summary>
    public string Reason { get; set; } = "";
}

public enum StepMarkKind
{
    Started,
    Stopped,
    Ticked,
    Unticked,
}

/// <summary>The clock of a step started or stopped, or one of its ticks set or taken back.</summary>
public sealed class StepMark : CaseRecord
{
    public string Step { get; set; } = "";

    public StepMarkKind Kind { get; set; }

    /// <summary>Which tick, from 0.</summary>
    public int Item { get; set; }
}

public enum FastenerState
{
    /// <summary>Came out.</summary>
    Out,

    /// <summary>Went back in.</summary>
    BackIn,

    /// <summary>Broke, and its rest is still in the hole.</summary>
    Broken,

    /// <summary>The rest was soaked.</summary>
    Soaked,

    /// <summary>The rest was drilled.</summary>
    Drilled,

    /// <summary>The rest was left for the machine shop.</summary>
    Sent,

    /// <summary>The rest is out of the hole.</summary>
    RestOut,

    /// <summary>A new one went in; what came out of the hole is not used again.</summary>
    NewIn,
}

public enum Keeping
{
    /// <summary>Back in its own hole.</summary>
    OwnHole,

    /// <summary>Bagged and labelled by stage.</summary>
    Bag,

    /// <summary>On the bench in order of removal.</summary>
    BenchRow,
}

/// <summary>Something that happened to fasteners of a set: n came out, one broke, its rest came out.</summary>
public sealed class FastenerMove : CaseRecord
{
    public string Step { get; set; } = "";

    /// <summary>Id of the set within the step.</summary>
    public string Set { get; set; } = "";

    public FastenerState State { get; set; }

    /// <summary>How many; one for a broken one.</summary>
    public int Count { get; set; } = 1;

    /// <summary>Number of the hole in the hole map, from 1; 0 where none is kept.</summary>
    public int Hole { get; set; }

    /// <summary>Length under the head in mm, where a set holds several.</summary>
    public decimal? Length { get; set; }

    public Keeping Keeping { get; set; }

    /// <summary>Which bag, which row.</summary>
    public string Where { get; set; } = "";

    /// <summary>Of new ones, the line of the order that they came with; null where they came with none.</summary>
    public Guid? Line { get; set; }

    public string Note { get; set; } = "";
}

/// <summary>What somebody did at a hold point.</summary>
public enum SignOutcome
{
    /// <summary>Checked and signed: what comes after may begin.</summary>
    Signed,

    /// <summary>A second pair of eyes looked at it, before who signs does.</summary>
    Looked,

    /// <summary>Sent back by who signs, with a word.</summary>
    SentBack,

    /// <summary>Put right after it was sent back, and asked for again.</summary>
    Asked,
}

/// <summary>A hold point: signed, looked at, sent back, or asked for again.</summary>
public sealed class SignOff : CaseRecord
{
    public string Step { get; set; } = "";

    public SignOutcome Outcome { get; set; }

    /// <summary>Role of the person who signed.</summary>
    public string Role { get; set; } = "";

    /// <summary>What was signed or looked at: records, ticks and counts of the step as they stood. Where these change, it no longer holds.</summary>
    public string Seen { get; set; } = "";

    public string Note { get; set; } = "";
}
