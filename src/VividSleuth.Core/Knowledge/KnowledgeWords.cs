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
        "MayHold",
        "Photos",
        "Hidden",
        "Crank",
        "Pattern",
        "Locking",
        "Washers",
        "Head",
        "With",
        "Alone",
        "Provenance",
    ];

    private static readonly string[] Lists = ["Manual", "MayHold", "Photos"];

    /// <summary>Words by which records, settings and screens know a thing: they stay as they are, and what they are in this language is kept beside.</summary>
    private static readonly string[] Keys = ["Ticks", "Covers", "Tools", "Stations", "Directions", "Group"];

    private static readonly ConcurrentDictionary<Type, (PropertyInfo Property, bool Name)[]> Of = new();

    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> KeysOf = new();

    private readonly Dictionary<string, string> _keys = new(StringComparer.Ordinal);

    /// <summary>What the words are called by which records know a tick, a tool or a level of measuring, of all that was told.</summary>
    public IReadOnlyDictionary<string, string> OfKeys => _keys;

    /// <summary>Tells what an entry, or a part of one, says. Ids, and words by which records or settings know a thing (ticks, tools), are left.</summary>
    public void Tell(object entry)
    {
        foreach (var (property, name) in Of.GetOrAdd(entry.GetType(), Spoken))
        {
            var word = name ? Name : Told;
            object? told = property.GetValue(entry) switch
            {
                string { Length: > 0 } text => word(text),
                List<string> { Count: > 0 } all when name || Lists.Contains(property.Name, StringComparer.Ordinal) => all.ConvertAll(t => word(t)),
                Dictionary<string, string> { Count: > 0 } byId => byId.ToDictionary(e => e.Key, e => word(e.Value), byId.Comparer),
                _ => null,
            };
            if (told is not null)
            {
                property.SetValue(entry, told);
            }
        }

        foreach (var key in KeysOf.GetOrAdd(entry.GetType(), Kept).SelectMany(p => KeysIn(p.GetValue(entry))))
        {
            _keys[key] = Name(key);
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

    private static PropertyInfo[] Kept(Type type) =>
        typeof(Known).IsAssignableFrom(type) || type == typeof(Alteration)
            ? [.. type.GetProperties().Where(p => Keys.Contains(p.Name, StringComparer.Ordinal))]
            : [];

    private static IEnumerable<string> KeysIn(object? value) =>
        value switch
        {
            string { Length: > 0 } one => [one],
            IEnumerable<string> some => some,
            Dictionary<string, double> by => by.Keys,
            _ => [],
        };

    private static (PropertyInfo, bool)[] Spoken(Type type) =>
        [
            .. type.GetProperties()
                .Where(p => p.CanWrite && (Names.Contains(p.Name, StringComparer.Ordinal) || Prose.Contains(p.Name, StringComparer.Ordinal)))
                .Select(p => (p, Names.Contains(p.Name, StringComparer.Ordinal))),
        ];
}
