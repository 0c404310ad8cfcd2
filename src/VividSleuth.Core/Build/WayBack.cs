using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Build;

/// <summary>Something new for a place, as a line of the order brought it.</summary>
/// <param name="Checked">It was looked at, measured and let in.</param>
public sealed record NewPart(Guid Line, string What, bool Checked);

/// <summary>A part that goes back with a step.</summary>
/// <param name="Mark">As it stands on the part; empty where nobody tagged it.</param>
/// <param name="Custody">Where it is now; null where nobody said.</param>
/// <param name="Scan">It is scanned, or named, as it goes in: there are others that it could be taken for, or a new one goes in.</param>
/// <param name="Alike">Another of the kind may stand in for it.</param>
/// <param name="Renew">A new one goes in: by its verdict, or as its kind serves once.</param>
/// <param name="New">What the order brought for the place.</param>
/// <param name="In">Id of the act that put it in; null while it is out.</param>
/// <param name="InBy">Who put it in.</param>
/// <param name="InNew">A new one is in.</param>
public sealed record BackPart(
    string Place,
    Fact Name,
    string Mark,
    Facing Facing,
    string SideUp,
    Custody? Custody,
    string Where,
    bool Scan,
    bool Alike,
    bool Renew,
    Fact? RenewedAs,
    IReadOnlyList<NewPart> New,
    Guid? In,
    int InVersion,
    string InBy,
    bool InNew
);

/// <summary>How far a set of fasteners is.</summary>
public enum SetStands
{
    /// <summary>Holes are empty.</summary>
    Open,

    /// <summary>All are in, and none is tight.</summary>
    FingerTight,

    /// <summary>Some passes are done.</summary>
    PartTight,

    /// <summary>All passes are done.</summary>
    Tight,

    /// <summary>A second person went over it.</summary>
    Checked,
}

/// <summary>Fasteners that go back in with a step.</summary>
/// <param name="Out">Holes that are empty.</param>
/// <param name="New">New ones that are in.</param>
/// <param name="Fresh">One-time: the old ones are gauges, and as many new ones go in.</param>
/// <param name="Where">Bag or row in which they lie.</param>
/// <param name="Joints">How many joints it holds, each tightened by itself: a rod’s cap, a head.</param>
/// <param name="Drawn">Nobody said where the holes lie: they are drawn evenly.</param>
/// <param name="Order">Numbers of the holes in the order in which they are tightened.</param>
/// <param name="OrderIsMakers">The order is the maker’s; else it is from the middle outward, which is common practice.</param>
/// <param name="How">How it is tightened; null while nobody typed it from the manual.</param>
/// <param name="Pass">The last pass that is done; 0 while none is.</param>
/// <param name="TightBy">Who did the last pass.</param>
/// <param name="CheckedBy">Who went over it after that; empty while nobody did.</param>
/// <param name="Wrench">With which wrench the last pass was done; empty where nobody said.</param>
/// <param name="CheckedWith">With which wrench it was gone over.</param>
/// <param name="Lines">Lines of the order that brought new ones and were let in, with what of them is not in yet.</param>
public sealed record BackSet(
    string Set,
    string Name,
    string Thread,
    int Expected,
    int Out,
    int Broken,
    int New,
    bool Fresh,
    bool LeftHand,
    IReadOnlyList<double> Lengths,
    string Locking,
    string Where,
    IReadOnlyList<Hole> Holes,
    int Joints,
    bool Drawn,
    IReadOnlyList<int> Order,
    bool OrderIsMakers,
    Tightening? How,
    int Pass,
    string TightBy,
    string CheckedBy,
    string Wrench,
    string CheckedWith,
    SetStands Stands,
    IReadOnlyList<NewFasteners> Lines
);

/// <summary>New fasteners of a line of the order.</summary>
/// <param name="Came">Pieces that came and were let in.</param>
/// <param name="Left">Of them, pieces that are in no hole yet.</param>
public sealed record NewFasteners(Guid Line, string What, decimal Came, decimal Left);

/// <summary>How a figure that is asked for stands.</summary>
public enum BackFigureStands
{
    Inside,
    Outside,

    /// <summary>Too near its limit to tell.</summary>
    Undecided,

    /// <summary>Nobody measured it.</summary>
    Missing,

    /// <summary>It was measured, and there is nothing to hold it against.</summary>
    NoLimit,

    /// <summary>It is of a part that does not go back in: one that was renewed or worked on since.</summary>
    Old,

    /// <summary>A part that it hangs on came out again since, or is another piece now.</summary>
    Undone,
}

/// <summary>A figure as it was when the engine came, beside what it is now.</summary>
/// <param name="Change">Now less before, base unit; null while it was not taken again.</param>
/// <param name="Doubt">Expanded uncertainty of the change: what both readings share, such as the error of one gauge, is not counted in it.</param>
/// <param name="Told">Whether it is really another, and what was not alike.</param>
public sealed record BeforeAfter(double Before, double Uncertain, double? Change, double? Doubt, Fact Told);

/// <summary>A figure that is asked for before a step is through.</summary>
/// <param name="Value">Base unit; null where nobody measured it.</param>
/// <param name="Expanded">Expanded uncertainty, about 95 %, same unit.</param>
/// <param name="Needed">Without it the step is not through; else it only must not be out.</param>
/// <param name="Todo">What would bring it inside, where that can be said: how much is still to be filed.</param>
/// <param name="Of">Places of the parts for which it is old or undone; none where it is of what goes in.</param>
/// <param name="Phase">As which it is taken now.</param>
/// <param name="Before">As it was when the engine came; null where nobody measured that, or it is not compared.</param>
public sealed record BackFigure(
    string Key,
    string Characteristic,
    string Station,
    string Name,
    string Place,
    Quantity Quantity,
    double? Value,
    double? Expanded,
    AppliedLimit? Limit,
    BackFigureStands Stands,
    bool Needed,
    Fact? Todo,
    Fact? From,
    IReadOnlyList<string> Of,
    Phase Phase,
    BeforeAfter? Before
);

/// <summary>Something that is looked at, or covered.</summary>
/// <param name="By">Who said so; empty while nobody did.</param>
public sealed record BackTick(string Text, bool Done, string By);

/// <summary>What was in a part since it ran: a filter, a pan.</summary>
/// <param name="Key">Under which it is ticked as clean.</param>
/// <param name="Recorded">Finds and findings of Look since it ran.</param>
/// <param name="Clean">Somebody looked and found nothing that speaks.</param>
/// <param name="Likely">Where the finds most likely came from; null where nothing was found.</param>
public sealed record BackFind(string Key, string Place, Fact Name, int Recorded, bool Clean, string By, Fact? Likely);

/// <summary>How long it ran since the first start, held against when a follow-up is due.</summary>
/// <param name="Due">Hours after which it is due.</param>
/// <param name="Run">Hours run; null while nobody said.</param>
/// <param name="Noted">When somebody said so last.</param>
public sealed record BackHours(double Due, double? Run, string By, DateTimeOffset? Noted);

/// <summary>An opening that was covered or plugged and is not open again.</summary>
public sealed record BackCover(string Step, string Text, bool On, string By, DateTimeOffset? Since);

/// <summary>What can hold a step of the way back.</summary>
public enum BackGate
{
    /// <summary>A part is not in, or nobody scanned it.</summary>
    Part,

    /// <summary>A part that is in is to be replaced.</summary>
    Condemned,

    /// <summary>Holes are empty.</summary>
    Fasteners,

    /// <summary>A rest is in its hole.</summary>
    Broken,

    /// <summary>Fasteners that serve once are not new.</summary>
    New,

    /// <summary>A figure is not known, out, undecided, or of another part.</summary>
    Figure,

    /// <summary>Nobody typed how a set is tightened.</summary>
    Torque,

    /// <summary>Passes are left.</summary>
    Tight,

    /// <summary>A second person has not gone over it.</summary>
    Eyes,

    /// <summary>Something was not looked at.</summary>
    Tick,

    /// <summary>A cover is still on.</summary>
    Cover,

    /// <summary>Nobody recorded what was in a filter or pan.</summary>
    Find,

    /// <summary>It has not run for as long as it should, or nobody said for how long.</summary>
    Hours,
}

/// <summary>Something that holds a step.</summary>
/// <param name="Key">Names it: gate and what it is about.</param>
/// <param name="MayPass">A person may pass it, with a reason for it alone.</param>
/// <param name="Passed">The reason, where somebody did.</param>
public sealed record BackStop(string Key, BackGate Gate, Fact Text, Fact Remedy, bool MayPass, string Passed, string PassedBy)
{
    /// <summary>Nothing opens it as things stand.</summary>
    public bool Shut => Passed.Length == 0;
}

/// <summary>What a step of the way back puts in, and what is asked of it.</summary>
/// <param name="Step">Id of the step of the strip that took it off; empty of what assembly adds.</param>
/// <param name="Does">What is done, where assembly adds something.</param>
/// <param name="Loosened">In which order the strip says they are loosened: tightened the other way round, by the maker’s order and figures.</param>
/// <param name="Manual">Figures and orders to be had from the maker’s manual.</param>
public sealed record WayBack(
    string Step,
    IReadOnlyList<Fact> Does,
    IReadOnlyList<BackPart> Parts,
    IReadOnlyList<BackSet> Sets,
    string Loosened,
    IReadOnlyList<string> Manual,
    IReadOnlyList<BackFigure> Figures,
    IReadOnlyList<BackTick> Ticks,
    IReadOnlyList<BackTick> Covers,
    IReadOnlyList<BackFind> Finds,
    BackHours? Hours,
    IReadOnlyList<string> Cautions,
    IReadOnlyList<BackStop> Stops
);

/// <summary>How a joint stands, for whoever comes back to it after weeks.</summary>
public sealed record JointState(string Task, Fact Step, string Set, string Name, int Expected, int Out, int Pass, int Passes, SetStands Stands);
