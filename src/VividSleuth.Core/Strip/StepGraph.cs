using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>What comes before what in a strip.</summary>
internal static class StepGraph
{
    /// <summary>Ids of all steps before one, directly or by others.</summary>
    /// <param name="hard">Only those without which it cannot be done.</param>
    public static HashSet<string> Before(StripStep step, IReadOnlyDictionary<string, StripStep> byId, bool hard = false)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var open = new Stack<StripStep>([step]);
        while (open.TryPop(out var s))
        {
            foreach (var id in (hard ? s.After.Keys : s.Before).Where(k => byId.ContainsKey(k) && seen.Add(k)))
            {
                open.Push(byId[id]);
            }
        }

        return seen;
    }
}
