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
        : place.Kind.OneTime is not null ? Again
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
            ? Problem.Of("action", "verdict.crack-break-recorded-never-machined", ("at", at), ("place", place.Code))
            : new Problem("action", place.Kind.OneTime!, Fact.Of("verdict.replace-it"));
    }
}
