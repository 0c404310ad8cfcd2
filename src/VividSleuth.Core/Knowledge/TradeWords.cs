using System.Text.Json;

namespace VividSleuth.Core.Knowledge;

/// <summary>Words of the trade that mean the same (knowledge/alike.json, which the bench searches by too). Common practice, no source.</summary>
public static class TradeWords
{
    private static readonly Dictionary<string, string[]> Groups = Read();

    /// <summary>All words that mean what this one means, itself first.</summary>
    public static IReadOnlyList<string> Alike(string word) =>
        Groups.TryGetValue(word, out var group) ? [word, .. group.Where(w => !w.Equals(word, StringComparison.OrdinalIgnoreCase))] : [word];

    /// <summary>The one of them that stands for all; the word itself where nothing else means the same.</summary>
    public static string Standing(string word) => Groups.TryGetValue(word, out var group) ? group[0] : word;

    private static Dictionary<string, string[]> Read()
    {
        using var stream = typeof(TradeWords).Assembly.GetManifestResourceStream("alike.json")!;
        return JsonSerializer
            .Deserialize<string[][]>(stream)!
            .SelectMany(group => group.Select(word => (word, group)))
            .ToDictionary(x => x.word, x => x.group, StringComparer.OrdinalIgnoreCase);
    }
}
