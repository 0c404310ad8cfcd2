using System.Collections;

namespace VividSleuth.Core;

/// <summary>
/// What is so, without words: a code, and what fills it in by name. Words has the sentence of each code. What fills in is a text that somebody else wrote
/// (an address, a name of the knowledge, what was typed), a whole number, an amount, a number, an enumeration,
/// another fact, or a list of these.
/// </summary>
public sealed record Fact(string Code, IReadOnlyList<KeyValuePair<string, object?>> With)
{
    /// <summary>The code of a fact that is no sentence of ours: a name or a remark that is told as it stands.</summary>
    public const string AsItStands = "as-it-stands";

    public static Fact Of(string code, params IReadOnlyList<(string Name, object? Value)> with) =>
        new(code, [.. with.Select(w => KeyValuePair.Create(w.Name, w.Value))]);

    /// <summary>A text that somebody else wrote: a person, or the knowledge.</summary>
    public static Fact Text(string text) => Of(AsItStands, ("text", text));

    /// <summary>Nothing to say.</summary>
    public static Fact None { get; } = Text("");

    /// <summary>Several facts, one after the other.</summary>
    public static Fact All(params IReadOnlyList<Fact?> facts) => Of("all", ("facts", facts.OfType<Fact>().ToArray()));

    public object? this[string name] => With.FirstOrDefault(w => w.Key == name).Value;

    /// <summary>Two facts are one when they say the same.</summary>
    public bool Equals(Fact? other) =>
        other is not null
        && Code == other.Code
        && With.Count == other.With.Count
        && With.Zip(other.With).All(w => w.First.Key == w.Second.Key && Same(w.First.Value, w.Second.Value));

    public override int GetHashCode() => HashCode.Combine(Code, With.Count);

    private static bool Same(object? a, object? b) =>
        a is IEnumerable one and not string && b is IEnumerable other and not string
            ? one.Cast<object?>().SequenceEqual(other.Cast<object?>())
            : Equals(a, b);

    public override string ToString() => $"{Code}({string.Join(", ", With.Select(w => $"{w.Key}: {w.Value}"))})";
}
