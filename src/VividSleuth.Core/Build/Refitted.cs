using VividSleuth.Core.Engines;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Build;

/// <summary>What is on the engine again.</summary>
public static class Refitted
{
    /// <summary>The strip without the parts that are on again: scanned in, of a step of the way back that is through, or sitting in one of those.</summary>
    public static StripPlan From(StripPlan strip, IReadOnlyList<BackAct> acts, IReadOnlyList<BuildTask> tasks, AddressTable table)
    {
        var through = BuildTask
            .Latest(tasks)
            .Values.Where(t => t.Mark == TaskMark.Through && t.Of.StartsWith(Arising.Back, StringComparison.Ordinal))
            .Select(t => t.Of[Arising.Back.Length..])
            .ToHashSet(StringComparer.Ordinal);
        var back = strip
            .Steps.Where(s => through.Contains(s.Id))
            .SelectMany(s => s.Releases)
            .SelectMany(table.OfKind)
            .Select(a => a.Code)
            .Concat(BackAct.Standing(acts).Keys)
            .ToHashSet(StringComparer.Ordinal);
        if (back.Count == 0)
        {
            return strip;
        }

        var aboard = Carrier.Aboard(table);
        var on = back.Concat(back.SelectMany(p => aboard[p]).Select(a => a.Code)).ToHashSet(StringComparer.Ordinal);
        return strip with { Off = [.. strip.Off.Where(o => !on.Contains(o.Place))] };
    }
}
