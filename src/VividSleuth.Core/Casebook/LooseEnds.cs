using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Casebook;

public enum LooseKind
{
    /// <summary>Came off, and nobody wrote where it is.</summary>
    Nowhere,

    /// <summary>Its mark shows, or should show, that it sits the wrong way round.</summary>
    WrongWayRound,

    /// <summary>Sent out, and not back when it was due.</summary>
    Overdue,

    /// <summary>A broken fastener whose rest is still in.</summary>
    Broken,

    /// <summary>A hold point that is done and not signed, or has changed since.</summary>
    Unsigned,

    /// <summary>An obstacle of the strip that was passed with a reason.</summary>
    InSpite,

    /// <summary>A step that was left out and keeps others closed.</summary>
    StaysClosed,

    /// <summary>Its tag says it is in other hands, and a bag of the shop says it is in that.</summary>
    TwoPlaces,

    /// <summary>Off the engine without a bag, box or row.</summary>
    Unplaced,

    /// <summary>It carries no mark.</summary>
    Unmarked,

    /// <summary>Its mark is the number from before a renumbering.</summary>
    OldMark,
}

/// <summary>Something that is not settled yet.</summary>
/// <param name="Place">Address of the part it is about; empty when it is about the strip.</param>
public sealed record LooseEnd(LooseKind Kind, string Place, Fact Text);

/// <summary>What is loose, unmarked, unplaced or overdue: what a person who comes back after weeks must know first.</summary>
public static class LooseEnds
{
    /// <param name="today">The day by which something is overdue.</param>
    /// <param name="mixing">How the shop does it with parts that are alike.</param>
    public static IReadOnlyList<LooseEnd> Of(
        EngineCase engineCase,
        AddressTable table,
        StripPlan strip,
        DateOnly today,
        Mixing mixing = Mixing.AlikeMayMix
    )
    {
        var parts = engineCase.Parts.Where(p => p.Stands()).ToDictionary(p => p.Place, StringComparer.Ordinal);
        var stowed = StowRules.ByPlace(engineCase.Stows);
        var ends = new List<LooseEnd>(Nowhere(strip, table, parts, stowed));
        foreach (var part in parts.Values)
        {
            ends.AddRange(OfPart(part, table, parts, stowed.GetValueOrDefault(part.Place), today, mixing));
        }

        ends.AddRange(
            engineCase
                .Stows.Where(s => s.Stands() && s.Where.Length == 0 && s.In.Length == 0)
                .Select(s => new LooseEnd(LooseKind.Unplaced, s.Code, Fact.Of("casebook.bag-lies-nowhere", ("code", s.Code), ("name", s.Name))))
        );

        foreach (var step in strip.Steps)
        {
            ends.AddRange(
                step.Sets.Where(s => s.Broken > 0)
                    .Select(s => new LooseEnd(
                        LooseKind.Broken,
                        "",
                        Fact.Of(
                            "casebook.broken-rest-still",
                            ("step", step.Name),
                            ("broken", s.Broken),
                            ("set", s.Set.Name),
                            ("life", s.Life.Count > 0 ? s.Life[^1] : null)
                        )
                    ))
            );
            if (step.Unsettled(strip.Next is not null))
            {
                ends.Add(
                    new LooseEnd(
                        LooseKind.Unsigned,
                        "",
                        Fact.Of(
                            step.Stale ? "casebook.changed-since-signed"
                                : step.SignedElsewhere ? "casebook.signed-elsewhere-only"
                                : "casebook.done-hold-point-not-signed",
                            ("step", step.Name)
                        )
                    )
                );
            }

            ends.AddRange(
                step.Overrides.Select(o => new LooseEnd(
                    LooseKind.InSpite,
                    "",
                    Fact.Of("casebook.in-spite-of", ("step", step.Name), ("lock", o.Lock), ("of", o.Of), ("reason", o.Reason))
                ))
            );
            if (step.State == StepState.Skipped && step.Closes.Count > 0)
            {
                ends.Add(
                    new LooseEnd(
                        LooseKind.StaysClosed,
                        "",
                        Fact.Of(
                            "casebook.left-out-stays-closed",
                            ("step", step.Name),
                            ("closes", step.Closes.Take(4)),
                            ("more", step.Closes.Count > 4 ? step.Closes.Count - 4 : null)
                        )
                    )
                );
            }
        }

        return [.. ends.OrderBy(e => e.Kind).ThenBy(e => e.Place, StringComparer.Ordinal)];
    }

    /// <summary>Parts that a recorded step took off and that have no tag: told together by step.</summary>
    private static IEnumerable<LooseEnd> Nowhere(
        StripPlan strip,
        AddressTable table,
        Dictionary<string, Part> parts,
        IReadOnlyDictionary<string, Stow> stowed
    )
    {
        foreach (var step in strip.Steps.Where(s => s.State != StepState.WasOff))
        {
            var lost = StripPlan
                .Places(step, table, [.. step.Releases.Where(k => PartKinds.Find(k) is not { Interchangeable: true })])
                .Where(code => !parts.ContainsKey(code) && !stowed.ContainsKey(code))
                .Distinct(StringComparer.Ordinal)
                .ToArray();
            if (lost.Length > 0)
            {
                yield return new LooseEnd(
                    LooseKind.Nowhere,
                    lost[0],
                    Fact.Of(
                        "casebook.off-since-nobody-wrote-where",
                        ("step", step.Name),
                        ("places", lost.Take(6)),
                        ("more", lost.Length > 6 ? lost.Length - 6 : null)
                    )
                );
            }
        }
    }

    private static IEnumerable<LooseEnd> OfPart(
        Part part,
        AddressTable table,
        Dictionary<string, Part> parts,
        Stow? bag,
        DateOnly today,
        Mixing mixing
    )
    {
        if (table.Find(part.Place) is not { } address)
        {
            yield break;
        }

        if (part.MarkedAs.Length > 0)
        {
            yield return new LooseEnd(
                LooseKind.OldMark,
                part.Place,
                Fact.Of("casebook.still-marked-mark-anew", ("place", part.Place), ("markedAs", part.MarkedAs))
            );
        }

        if (part.Method == MarkMethod.None && (mixing == Mixing.Never || !address.Kind.Interchangeable))
        {
            yield return new LooseEnd(LooseKind.Unmarked, part.Place, Fact.Of("casebook.no-mark", ("place", part.Place)));
        }

        if (bag is not null && part.Custody.IsOut())
        {
            yield return new LooseEnd(
                LooseKind.TwoPlaces,
                part.Place,
                Fact.Of("casebook.tag-and-bag-differ", ("place", part.Place), ("code", bag.Code), ("custody", part.Custody))
            );
        }

        if (part.Custody is not (Custody.OnEngine or Custody.Scrapped or Custody.OnPart) && part.Where.Length == 0 && bag is null)
        {
            yield return new LooseEnd(LooseKind.Unplaced, part.Place, Fact.Of("casebook.off-engine-nobody-wrote-where", ("place", part.Place)));
        }

        if (part.DueBack is { } due && due < today && part.Custody.IsOut())
        {
            yield return new LooseEnd(
                LooseKind.Overdue,
                part.Place,
                Fact.Of("casebook.due-back-from", ("place", part.Place), ("due", due), ("where", part.Where))
            );
        }

        foreach (var mate in address.Kind.Halves.SelectMany(k => table.OfKind(k)).Where(m => MateCheck.AreMates(address, m, table.Engine)))
        {
            if (string.CompareOrdinal(address.Code, mate.Code) < 0 && parts.ContainsKey(mate.Code))
            {
                var result = MateCheck.Of(address, mate, parts.Values, table.Engine);
                if (result.Answer == MateAnswer.WrongWayRound)
                {
                    yield return new LooseEnd(
                        LooseKind.WrongWayRound,
                        part.Place,
                        Fact.Of("casebook.pair", ("place", address.Code), ("mate", mate.Code), ("why", result.Why))
                    );
                }
            }
            else if (address.Kind.Id == PartKinds.Rod && !parts.ContainsKey(mate.Code))
            {
                yield return new LooseEnd(
                    LooseKind.Nowhere,
                    mate.Code,
                    Fact.Of("casebook.tagged-but-cap-not", ("place", address.Code), ("mate", mate.Code))
                );
            }
        }
    }
}
