namespace VividSleuth.Core.Knowledge;

/// <summary>Things that wait for each other in a circle.</summary>
internal static class WaitCircle
{
    /// <summary>Keys from the first back to it; null where none wait so.</summary>
    /// <param name="after">By key those that it waits for; those that are no keys are passed over.</param>
    public static IReadOnlyList<string>? Of(IReadOnlyList<string> keys, IReadOnlyDictionary<string, IReadOnlyList<string>> after)
    {
        var seen = new Dictionary<string, bool>(StringComparer.Ordinal);
        foreach (var start in keys)
        {
            var path = new List<string>();
            if (Walk(start, path) is { } circle)
            {
                return circle;
            }
        }

        return null;

        IReadOnlyList<string>? Walk(string key, List<string> path)
        {
            if (seen.TryGetValue(key, out var done))
            {
                return done ? null : [.. path.SkipWhile(k => k != key), key];
            }

            seen[key] = false;
            path.Add(key);
            foreach (var before in after[key].Where(after.ContainsKey))
            {
                if (Walk(before, path) is { } circle)
                {
                    return circle;
                }
            }

            path.RemoveAt(path.Count - 1);
            seen[key] = true;
            return null;
        }
    }
}
