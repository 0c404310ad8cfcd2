using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Verdict;

/// <summary>What may never be done with a part, whatever else speaks for it. Common practice, no source.</summary>
public static class VerdictRules
{
    private static readonly IReadOnlyList<VerdictAction> Worked =
    [
        VerdictAction.Reuse,
        VerdictAction.CleanAndReuse,
        VerdictAction.Machine,
        VerdictAction.Repair,
    ];

    private static readonly IReadOnlyList<VerdictAction> Again = [VerdictAction.Reuse, VerdictAction.CleanAndReuse];

    /// <summary>Actions that are refused: of a cracked part all that would let it run again, of a one-time part its use again.</summary>
    public static IReadOnlyList<VerdictAction> Never(Address place, Cracks cracks) =>
        cracks.Condemns(place) is not null ? Worked
        : place.Kind.OneTime.Length > 0 ? Again
        : [];

    /// <summary>Checks a verdict before it is recorded.</summary>
    /// <returns>Null where it may stand.</returns>
    public static Problem? Check(VerdictAction action, Address place, Cracks cracks)
    {
        if (!Never(place, cracks).Contains(action))
        {
            return null;
        }

        return cracks.Condemns(place) is { } at
            ? new Problem(
                "action",
                $"A crack or break is recorded at {at}: {place.Code} is never machined, repaired or run again.",
                "Replace it, or leave it to a specialist who tests whether it is one. If it was seen wrongly, take that finding back first."
            )
            : new Problem("action", $"{place.Kind.OneTime}", "Replace it.");
    }
}
