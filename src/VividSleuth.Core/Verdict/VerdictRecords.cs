using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>What Verdict goes by, besides the sheet.</summary>
public sealed record VerdictLog(IReadOnlyList<Part> Parts, IReadOnlyList<Finding> Findings, IReadOnlyList<PartVerdict> Verdicts);

public enum VerdictAction
{
    Reuse,
    CleanAndReuse,
    Machine,
    Repair,
    Replace,
    Specialist,
}

public sealed class PartVerdict : CaseRecord
{
    public string Place { get; set; } = "";

    public VerdictAction Action { get; set; }

    public string Reason { get; set; } = "";

    /// <summary>The figures it rests on, as they stood when the verdict was given.</summary>
    public List<VerdictFigure> Figures { get; set; } = [];

    /// <summary>In words what it rests on, of verdicts that were given before their figures were kept; empty in others.</summary>
    public string Figure { get; set; } = "";
}

/// <summary>A figure of the sheet that a verdict rests on, with the limit that applied.</summary>
/// <param name="Characteristic">Id of what was measured or worked out.</param>
/// <param name="Name">What it was called.</param>
/// <param name="Value">In the base unit of the quantity.</param>
/// <param name="Expanded">Expanded uncertainty, k = 2.</param>
/// <param name="Source">Where the limit came from, in words; empty without a limit.</param>
public sealed record VerdictFigure(
    string Characteristic,
    string Name,
    Quantity Quantity,
    double Value,
    double Expanded,
    double? Least,
    double? Most,
    string Source
);
