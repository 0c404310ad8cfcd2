using VividSleuth.Core.Measures;
using VividSleuth.Store.Cases;
using VividSleuth.Words;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// How the casebook is told in each language. What it keeps is worked out once, with the knowledge in English, for all who will ask.
/// </summary>
public static class Tellings
{
    private static readonly Lazy<IReadOnlyList<Telling>> Kept = new(() =>
        [.. Enum.GetValues<Language>().Where(l => l != Language.English).Select(l => In(Sentences.Of(l).OfEnglish))]
    );

    public static Telling English { get; } = In(Sentences.English);

    /// <summary>All but English.</summary>
    public static IReadOnlyList<Telling> Others => Kept.Value;

    /// <summary>That of a language; null of English, beside which nothing else is told then.</summary>
    public static Telling? Of(Language language) => language == Language.English ? null : Others.First(t => t.Tag == Sentences.Of(language).Tag);

    private static Telling In(Sentences sentences) => new(sentences.Tag, sentences.Say, sentences.Knowledge.Name);
}
