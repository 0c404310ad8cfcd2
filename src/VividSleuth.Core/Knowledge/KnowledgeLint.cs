using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Knowledge;

/// <summary>Something wrong with an entry of the knowledge base.</summary>
/// <param name="At">The part of the entry that it is about, for its line in the file; null where it is the entry as a whole.</param>
public sealed record KnowledgeFault(Known Item, Fact Text, Fact Remedy, object? At = null);

/// <summary>What a room asks of its own entries.</summary>
public delegate IEnumerable<KnowledgeFault> KnowledgeLint(KnowledgeBase knowledge);

/// <summary>Questions that several rooms ask of their entries.</summary>
public static class Lints
{
    /// <summary>A fault where something does not hold.</summary>
    public static IEnumerable<KnowledgeFault> Need(Known entry, bool holds, Fact text, Fact remedy) =>
        holds ? [] : [new KnowledgeFault(entry, text, remedy)];

    /// <summary>A fault where a kind of part is named that the table does not have.</summary>
    public static IEnumerable<KnowledgeFault> Kinds(Known entry, IEnumerable<string> kinds) =>
        kinds.FirstOrDefault(k => PartKinds.Find(k) is null) is { } unknown
            ?
            [
                new KnowledgeFault(
                    entry,
                    Fact.Of("knowledge.names-unknown-kind-part", ("entry", entry.Id), ("unknown", unknown)),
                    Fact.Of("knowledge.use-id-from-table-kinds")
                ),
            ]
            : [];
}
