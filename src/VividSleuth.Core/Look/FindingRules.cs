using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Look;

/// <summary>Whether a finding can stand: the sign is known, can be seen, belongs on such a part, and has a level that fits.</summary>
public static class FindingRules
{
    public const int MostSevere = 3;

    /// <returns>Null when it can stand; otherwise what is wrong.</returns>
    public static Problem? Check(Finding finding, Address place, Engine engine, KnowledgeBase knowledge)
    {
        if (knowledge.Sign(finding.Sign) is not { } sign)
        {
            return new Problem("sign", $"“{finding.Sign}” is no sign known here.", "Choose one of those offered.");
        }

        if (sign.Measured)
        {
            return new Problem("sign", $"“{sign.Name}” comes from measuring.", "Measure it in Gauge; it becomes a sign by itself.");
        }

        if (!sign.On.Contains(place.Kind.Id))
        {
            return new Problem("sign", $"“{sign.Name}” is not found on a {place.Kind.Name}.", "Choose a sign that this part can show.");
        }

        var fits = finding.Seen == Seen.Present ? finding.Level is >= 1 and <= MostSevere : finding.Level == 0;
        if (!fits)
        {
            return new Problem("level", "The level does not fit.", $"Give 1 to {MostSevere} for what is seen, none for what is not there.");
        }

        if (finding.Seen == Seen.Absent && finding.Zones.Count > 0)
        {
            return new Problem("zones", "What is not there lies nowhere.", "Leave the zones out, or say that it is seen.");
        }

        var map = ZoneMaps.Of(place, engine);
        var strange = finding.Zones.Find(z => map?.Find(z) is null);
        return strange is null ? null : new Problem("zones", $"“{strange}” is no zone of a {place.Kind.Name}.", "Touch the zones on the part’s map.");
    }
}
