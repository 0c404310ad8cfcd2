using VividSleuth.Core.Index;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Verdict;

/// <summary>What Verdict goes by, besides the sheet.</summary>
public sealed record VerdictLog(IReadOnlyList<Part> Parts, IReadOnlyList<Finding> Findings);

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

    /// <summary>The figure it rests on, as it stood when the verdict was given.</summary>
    public string Figure { get; set; } = "";
}
