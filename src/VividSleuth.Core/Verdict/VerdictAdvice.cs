using System.Text.Json.Serialization;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>What an advice stands on.</summary>
public enum Ground
{
    /// <summary>A rule leads to it.</summary>
    Rule,

    /// <summary>A rule forbids all but it.</summary>
    Forbidden,

    /// <summary>Looked at and measured: nothing is against it.</summary>
    Sound,

    /// <summary>Something is against it that no rule decides.</summary>
    Against,

    /// <summary>A test must come first.</summary>
    TestFirst,

    /// <summary>It lies too near its limit to tell.</summary>
    Undecided,

    /// <summary>It is outside a rule of thumb, which is no limit.</summary>
    RuleOfThumb,

    /// <summary>There is no limit to hold the figure against.</summary>
    NoLimit,

    /// <summary>A figure that decides was not measured.</summary>
    Unmeasured,

    /// <summary>Measured, and nobody has looked at it.</summary>
    Unread,

    /// <summary>Felt, and not opened.</summary>
    Felt,

    /// <summary>Nothing is known of it.</summary>
    Unknown,
}

/// <summary>A rule that holds for a part.</summary>
/// <param name="Course">Id of the course that it leads to; empty where it only forbids or asks.</param>
/// <param name="Because">What made it hold, as it was recorded.</param>
/// <param name="Why">In the words of the knowledge.</param>
public sealed record RuleTold(string Rule, string Course, bool Forbids, IReadOnlyList<Fact> Because, string Why, string Provenance);

/// <summary>An examination that a rule asks for.</summary>
/// <param name="Passed">Null while nobody did it.</param>
public sealed record AskedExamination(string Check, string Name, string How, DoneAt By, bool? Passed, Fact Answer);

/// <summary>What the rules would do with a part, why, and on which figure. A person decides.</summary>
/// <param name="Group">Id of the group that it is decided with.</param>
/// <param name="Action">Null while there is nothing to go by.</param>
/// <param name="Course">Id of the course; empty while there is none.</param>
/// <param name="Rules">Every rule that holds, the one that leads first.</param>
/// <param name="Never">What may not be decided, whatever speaks for it.</param>
/// <param name="Told">Something is known of it, it is off, or a rule speaks of it for the sake of another part.</param>
/// <param name="Decided">The figures that the standing verdict rests on; null where there is no verdict.</param>
public sealed record VerdictAdvice(
    string Place,
    string Group,
    VerdictAction? Action,
    string Course,
    Ground Ground,
    Fact Reason,
    Fact Figure,
    IReadOnlyList<RuleTold> Rules,
    IReadOnlyList<VerdictAction> Never,
    IReadOnlyList<AskedExamination> Asks,
    bool Told,
    Fact? Decided
)
{
    /// <summary>The figures it goes by; a verdict takes them over as they stand.</summary>
    [JsonIgnore]
    public IReadOnlyList<SheetFigure> On { get; init; } = [];

    /// <summary>Advised for its own sake, and not because of what becomes of another.</summary>
    [JsonIgnore]
    public bool OfItself { get; init; }
}

/// <summary>Places of a group for which the same is advised.</summary>
/// <param name="Course">Id; empty where nothing is.</param>
/// <param name="Reasons">Each reason once, with the places it is of.</param>
public sealed record AdvisedTogether(
    string Course,
    VerdictAction? Action,
    Ground Ground,
    IReadOnlyList<string> Places,
    IReadOnlyList<PlacesTold> Reasons
);

public sealed record PlacesTold(IReadOnlyList<string> Places, Fact Words);

/// <summary>A cause that Trace ranks and that began in a group, with what keeps it from coming back.</summary>
public sealed record GroupCause(string Cause, string Name, string Place, double Probability, string Prevent);

/// <summary>What is decided together.</summary>
/// <param name="Advised">By course, the heaviest first.</param>
/// <param name="Decided">How many of its places have a standing verdict.</param>
/// <param name="Otherwise">Places where another course was decided than is advised.</param>
/// <param name="Untouched">Places of which nothing is known and nothing is advised.</param>
/// <param name="Plans">Kinds of the machining plans that are of it.</param>
public sealed record GroupAdvice(
    string Id,
    string Name,
    IReadOnlyList<string> Places,
    IReadOnlyList<AdvisedTogether> Advised,
    int Decided,
    IReadOnlyList<string> Otherwise,
    IReadOnlyList<string> Untouched,
    IReadOnlyList<string> Plans,
    IReadOnlyList<GroupCause> Causes
);

/// <summary>What Verdict comes to: the groups of this engine, the advice for each place, and the machining plans.</summary>
public sealed record VerdictBoard(IReadOnlyList<GroupAdvice> Groups, IReadOnlyList<VerdictAdvice> Places, IReadOnlyList<MachiningPlan> Plans);
