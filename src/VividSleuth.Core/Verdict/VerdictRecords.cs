using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Verdict;

/// <summary>What Verdict goes by, besides the sheet.</summary>
/// <param name="Risks">Answers to what was asked of the past: id → said to be so or not.</param>
public sealed record VerdictLog(
    IReadOnlyList<Part> Parts,
    IReadOnlyList<Finding> Findings,
    IReadOnlyList<PartVerdict> Verdicts,
    IReadOnlyList<Reading> Readings,
    IReadOnlyList<Limit> Limits,
    IReadOnlyList<ServiceSizes> Sizes,
    IReadOnlyList<Examination> Examinations,
    IReadOnlyList<Conclusion> Conclusions,
    IReadOnlyDictionary<string, bool> Risks
);

/// <summary>Findings that still decide.</summary>
public static class Unworked
{
    /// <summary>
    /// Findings that stand, without those of before a part was measured after work: what was machined away no longer decides. A crack is told by
    /// <see cref="Cracks"/>, and no work takes it away.
    /// </summary>
    public static IEnumerable<Finding> Of(VerdictLog log)
    {
        var worked = GaugeLog
            .Active(log.Readings)
            .Where(r => r.Phase == Phase.AfterWork)
            .GroupBy(r => r.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Min(r => r.At), StringComparer.Ordinal);
        return log.Findings.Where(f => f.Stands() && (!worked.TryGetValue(f.Place, out var at) || f.At > at));
    }
}

/// <summary>What becomes of a part. The rules advise, a person decides.</summary>
public sealed class PartVerdict : CaseRecord
{
    public string Place { get; set; } = "";

    public VerdictAction Action { get; set; }

    /// <summary>Id of the course; empty in verdicts of before courses were kept.</summary>
    public string Course { get; set; } = "";

    public string Reason { get; set; } = "";

    /// <summary>Id of the course that the rules advised when this was decided; empty where they advised none.</summary>
    public string Advised { get; set; } = "";

    /// <summary>Why they did, in words, as it read then.</summary>
    public string AdvisedWhy { get; set; } = "";

    /// <summary>The same for all that were decided at one touch; null where it was decided alone.</summary>
    public Guid? Together { get; set; }

    /// <summary>The figures it rests on, as they stood when the verdict was given.</summary>
    public List<VerdictFigure> Figures { get; set; } = [];

    /// <summary>In words what it rests on, of verdicts that were given before their figures were kept; empty in others.</summary>
    public string Figure { get; set; } = "";

    /// <summary>Of each place the verdict that counts: the last one given, of those not taken back.</summary>
    public static IReadOnlyDictionary<string, PartVerdict> Latest(IEnumerable<PartVerdict> all) =>
        all.Where(v => v.Stands())
            .GroupBy(v => v.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.OrderBy(v => v.At).ThenBy(v => v.Id).Last(), StringComparer.Ordinal);
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
