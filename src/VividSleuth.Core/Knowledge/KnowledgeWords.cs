using System.Collections.Concurrent;
using System.Reflection;

namespace VividSleuth.Core.Knowledge;

/// <summary>The words of the knowledge in another language, by what they are in English.</summary>
/// <param name="Name">Names, levels of signs, families of causes, and cautions: each has its word.</param>
/// <param name="Told">What is said beside: how to look, what a step does, why. What has no word yet stays as it is.</param>
public sealed record KnowledgeWords(Func<string, string> Name, Func<string, string> Told)
{
    private static readonly string[] Names = ["Name", "Caution", "Cautions"];

    private static readonly string[] Prose =
    [
        "Looks",
        "ConfusedWith",
        "How",
        "Does",
        "Says",
        "Prove",
        "Prevent",
        "Why",
        "Question",
        "Section",
        "Manual",
        "After",
        "Usually",
        "Held",
        "Spoils",
        "Tell",
        "Takes",
    ];

    private static readonly ConcurrentDictionary<Type, (PropertyInfo Property, bool Name)[]> Of = new();

    /// <summary>Tells what an entry, or a part of one, says. Ids, and words by which records or settings know a thing (ticks, tools), are left.</summary>
    public void Tell(object entry)
    {
        foreach (var (property, name) in Of.GetOrAdd(entry.GetType(), Spoken))
        {
            var word = name ? Name : Told;
            object? told = property.GetValue(entry) switch
            {
                string { Length: > 0 } text => word(text),
                List<string> { Count: > 0 } all when name || property.Name == "Manual" => all.ConvertAll(t => word(t)),
                Dictionary<string, string> { Count: > 0 } byId => byId.ToDictionary(e => e.Key, e => word(e.Value), byId.Comparer),
                _ => null,
            };
            if (told is not null)
            {
                property.SetValue(entry, told);
            }
        }

        if (entry is KnownSign sign)
        {
            sign.Levels = [.. sign.Levels.Select(Name)];
        }

        if (entry is KnownCause cause)
        {
            cause.Family = Name(cause.Family);
        }
    }

    private static (PropertyInfo, bool)[] Spoken(Type type) =>
        [
            .. type.GetProperties()
                .Where(p => p.CanWrite && (Names.Contains(p.Name, StringComparer.Ordinal) || Prose.Contains(p.Name, StringComparer.Ordinal)))
                .Select(p => (p, Names.Contains(p.Name, StringComparer.Ordinal))),
        ];
}
