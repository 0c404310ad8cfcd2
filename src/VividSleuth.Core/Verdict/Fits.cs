using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>Clearance that one journal would have.</summary>
/// <param name="Clearance">mm; null where something of it was not measured.</param>
/// <param name="Inside">Probability that it lies inside the limit; null without a figure or a limit.</param>
public sealed record FitCell(string Journal, double? Clearance, double? Expanded, double? Inside, double? Under, double? Over);

/// <summary>A shaft in a housing with a set of shells.</summary>
/// <param name="Shaft">Letter of the candidate; empty for the engine's own.</param>
/// <param name="Housing">As <paramref name="Shaft"/>.</param>
/// <param name="Shells">As <paramref name="Shaft"/>.</param>
/// <param name="All">Probability that every journal lies inside; null where one of them is not known.</param>
public sealed record FitRow(string Shaft, string Housing, string Shells, IReadOnlyList<FitCell> Cells, double? All);

/// <summary>What it takes to make a bearing fit.</summary>
public enum FitBy
{
    /// <summary>Nothing: what there is goes together.</summary>
    AsItIs,

    /// <summary>Halves of several sets, chosen one by one.</summary>
    Chosen,

    /// <summary>One set of shells.</summary>
    OneSet,

    /// <summary>Grinding, and a set of shells to go with it.</summary>
    Grinding,
}

/// <summary>A way to make all journals of a bearing fit, the least to buy first.</summary>
/// <param name="Step">Grade of what is bought or ground to; empty where nothing is.</param>
/// <param name="All">Probability that every journal is inside.</param>
/// <param name="Costs">What it costs and how long it takes, by the offers that stand; null where nothing is bought or nobody said.</param>
public sealed record FitWay(FitBy By, string Shaft, string Housing, string Shells, string Step, double All, Fact Words, Fact? Costs = null);

/// <summary>Halves chosen for one journal.</summary>
public sealed record ChosenHalves(string Journal, string Upper, string Lower, double Clearance, double Expanded, double Inside);

/// <summary>Halves of all sets matched to the journals of one shaft so that the worst is as good as can be.</summary>
/// <param name="Exact">False where the search was broken off.</param>
public sealed record HalvesFit(string Shaft, string Housing, IReadOnlyList<ChosenHalves> Of, double All, bool Exact);

/// <summary>What fits what at one kind of bearing.</summary>
/// <param name="Least">Limit of the clearance, mm; null without one.</param>
/// <param name="Thumb">The limit is a rule of thumb, which is none.</param>
public sealed record BearingFit(
    string Bearing,
    Fact Name,
    double? Least,
    double? Most,
    Fact Source,
    bool Thumb,
    IReadOnlyList<FitRow> Grid,
    IReadOnlyList<FitWay> Ways,
    IReadOnlyList<HalvesFit> Halves
);

/// <summary>A piston chosen for a bore.</summary>
public sealed record PistonInBore(string Bore, string Piston, double Clearance, double Expanded, double? Inside);

/// <summary>Pistons of all sets matched to the bores of the block or of one set of liners.</summary>
/// <param name="Bores">Letter of the candidate; empty for the engine's own.</param>
/// <param name="Worst">Margin of the worst to the nearer limit, in standard uncertainties.</param>
public sealed record PistonsFit(string Bores, IReadOnlyList<PistonInBore> Of, double? All, double Worst, Fact Words);

/// <summary>Pistons and rods put together by weight, g.</summary>
public sealed record Assembly(string Piston, string Rod, double Weight);

/// <param name="Spread">Heaviest less lightest, g.</param>
/// <param name="AsTheyStand">The same, piston 1 with rod 1 and so on, g.</param>
public sealed record WeightFit(string Pistons, IReadOnlyList<Assembly> Of, double Spread, double AsTheyStand, Fact Words);

/// <summary>A stamp that may be read as several grades.</summary>
/// <param name="Grades">With their probability, by the stamp and by what was measured.</param>
public sealed record StampAsked(string Place, string Stamp, IReadOnlyList<Gauge.GradeWord> Grades, Fact Words);

/// <summary>One thing that must be so for a ring to run again.</summary>
/// <param name="Holds">Null while nobody knows.</param>
public sealed record RingTest(Fact Words, bool? Holds);

/// <summary>A ring, and whether it may run again.</summary>
/// <param name="Again">Every test holds; null while one is open and none fails.</param>
/// <param name="Gap">As measured, mm; null where nobody did.</param>
/// <param name="GapAfter">In the bore as planned or as it was worked, mm; null where it stays as it is or is not known.</param>
/// <param name="Target">Least gap it should have for this use, mm.</param>
/// <param name="File">How much must be filed off its ends, mm; 0 where nothing.</param>
public sealed record RingAdvice(
    string Ring,
    bool? Again,
    IReadOnlyList<RingTest> Tests,
    double? Gap,
    double? GapAfter,
    double? Target,
    double? File,
    Fact Words
);

/// <summary>What fits what, of all that there is: the engine's own parts and those that are offered.</summary>
public sealed record FitBoard(
    IReadOnlyList<BearingFit> Bearings,
    IReadOnlyList<PistonsFit> Pistons,
    IReadOnlyList<WeightFit> Weights,
    IReadOnlyList<StampAsked> Stamps,
    IReadOnlyList<RingAdvice> Rings,
    IReadOnlyList<Fact> RingNotes
);
