using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>One place of a plan: what it needs to come clean.</summary>
/// <param name="Found">Smallest diameter of a journal, largest of a bore; out of flat of a face. mm.</param>
/// <param name="Unworn">Size before it wore, mm; null of a face.</param>
/// <param name="Scoring">Depth of what is scored or pitted into it, mm on one side.</param>
/// <param name="ScoringRead">True where somebody measured that depth; false where it is taken from the level of what was seen.</param>
/// <param name="Needs">Size at which it is clean with the finishing stock: a most of a journal, a least of a bore; of a face what must come off. mm.</param>
/// <param name="Expanded">Expanded uncertainty of that, mm.</param>
public sealed record PlannedPlace(
    string Place,
    double Found,
    double? Unworn,
    double Scoring,
    bool ScoringRead,
    double Needs,
    double Expanded,
    bool Worst
);

/// <summary>A size that is to be had.</summary>
/// <param name="Cleans">Probability that it cleans up every place that was measured.</param>
/// <param name="Not">Why it is out of the question, or only under a condition; null where nothing is against it.</param>
public sealed record PlannedSize(string Step, double Size, double Cleans, Fact? Not);

/// <summary>To which size a bore is honed for the piston that goes in it, mm.</summary>
/// <param name="Clearance">What clearance that is, and whose figure.</param>
public sealed record HoneTo(string Bore, string Piston, double PistonSize, double Least, double Most, Fact Clearance);

/// <summary>To which size all of a kind are machined, on the worst of them.</summary>
/// <param name="Kind">Kind of part: a journal, a bore; a head or a block of a face.</param>
/// <param name="Course">Id of the course that does it: grind, bore, skim.</param>
/// <param name="Worst">Place that decides.</param>
/// <param name="Size">Size to machine to, mm; of a face its thickness afterwards. Null where there is none.</param>
/// <param name="Step">Undersize or oversize; empty where there is none.</param>
/// <param name="Removes">What comes off a face, mm; null of journals and bores.</param>
/// <param name="Cleans">Probability that the size cleans up all that were measured; null where there is none.</param>
/// <param name="Condemned">Where the crack is that takes it off the bench; empty where there is none.</param>
public sealed record MachiningPlan(
    string Kind,
    Fact Name,
    string Course,
    PlanState State,
    string Worst,
    double Found,
    double? Size,
    string Step,
    double? Removes,
    double? Cleans,
    int Measured,
    int All,
    string Condemned,
    Fact Words,
    IReadOnlyList<PlannedPlace> Places,
    IReadOnlyList<PlannedSize> Sizes,
    IReadOnlyList<HoneTo> Hone
);
