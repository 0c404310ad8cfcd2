using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Look;

/// <summary>Whether a finding can stand: the sign is known, can be seen, belongs on such a part, and has a level that fits.</summary>
public static class FindingRules
{
    public const int MostSevere = 3;

    /// <summary>Of this level and above a part is no longer taken for sound.</summary>
    public const int Moderate = 2;

    /// <returns>Null when it can stand; otherwise what is wrong.</returns>
    public static Problem? Check(Finding finding, Address place, Engine engine, KnowledgeBase knowledge)
    {
        if (knowledge.Sign(finding.Sign) is not { } sign)
        {
            return Problem.Of("sign", "look.no-such-sign", ("sign", finding.Sign));
        }

        if (sign.Measured)
        {
            return Problem.Of("sign", "look.comes-from-measuring", ("sign", sign.Name));
        }

        if (!sign.On.Contains(place.Kind.ReadAs))
        {
            return Problem.Of("sign", "look.not-found", ("sign", sign.Name), ("kind", place.Kind.Name));
        }

        var fits = finding.Seen == Seen.Present ? finding.Level is >= 1 and <= MostSevere : finding.Level == 0;
        if (!fits)
        {
            return Problem.Of("level", "look.level-does-not-fit", ("mostSevere", MostSevere));
        }

        if (finding.Seen == Seen.Absent && finding.Zones.Count > 0)
        {
            return Problem.Of("zones", "look.what-not-there-lies-nowhere");
        }

        if (finding.Seen == Seen.Absent && finding.DoneBy is DoneBy.Strip or DoneBy.EarlierHand)
        {
            return Problem.Of("doneBy", "look.what-not-there-nobody-did");
        }

        if (finding.Chance is < 0.5 or > 1 or double.NaN)
        {
            return Problem.Of("chance", "look.chance-does-not-fit");
        }

        var map = ZoneMaps.Of(place, engine);
        var strange = finding.Zones.Find(z => map?.Find(z) is null);
        return strange is null ? null : Problem.Of("zones", "look.no-such-zone", ("strange", strange), ("kind", place.Kind.Name));
    }
}
