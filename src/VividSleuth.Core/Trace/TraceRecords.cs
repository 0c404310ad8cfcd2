using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>What Trace goes by, besides the signs that are made of figures.</summary>
/// <param name="Risks">Answers to the risks of the knowledge base: id → said to be so or not.</param>
public sealed record TraceLog(IReadOnlyList<Finding> Findings, IReadOnlyDictionary<string, bool> Risks)
{
    /// <summary>Hours that the engine has run, as told at arrival; null where nobody knows.</summary>
    public double? Hours { get; init; }

    /// <summary>What the shop took over of how engines of this kind fail.</summary>
    public IReadOnlyList<KindOdds> Odds { get; init; } = [];
}

/// <summary>An engine of which somebody has said, or not yet said, what failed.</summary>
/// <param name="Kind">What the engine is called at arrival.</param>
public sealed record Outcome(EngineLayout Layout, IReadOnlyList<Finding> Findings, IReadOnlyList<Conclusion> Conclusions, string Kind = "");

public enum Confidence
{
    Proven,
    Probable,
    Possible,
    Undetermined,
}

/// <summary>The mechanic's own finding on the cause; it stands beside the computation's.</summary>
public sealed class Conclusion : CaseRecord
{
    /// <summary>Id of a cause of the knowledge base, or empty when none of them.</summary>
    public string Cause { get; set; } = "";

    public string Place { get; set; } = "";

    public Confidence Confidence { get; set; }

    /// <summary>Whose doing it was, as far as it can be told.</summary>
    public Fault Fault { get; set; }

    public string Reasons { get; set; } = "";

    /// <summary>Id of the cause that the computation put first when this was written; empty when it was not asked.</summary>
    public string ComputedCause { get; set; } = "";

    public string ComputedPlace { get; set; } = "";

    /// <summary>Probability of that cause then, 0 to 1.</summary>
    public double? Computed { get; set; }

    /// <summary>Probability that the computation then gave to what is found here, 0 to 1; null where it did not rank it.</summary>
    public double? ComputedForThis { get; set; }
}

/// <summary>Whose doing a failure was. A report must be fair: not known is an honest answer.</summary>
public enum Fault
{
    NotKnown,
    OwnWork,
    EarlierWork,
    PartDefect,
    Use,
}
