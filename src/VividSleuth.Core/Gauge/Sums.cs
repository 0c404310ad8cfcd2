using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Figures that are sums of others, such as a clearance; by every way that the knowledge gives, and the ways held
/// against each other: those that agree within their doubt are one figure, those that do not are told, and the first counts.
/// </summary>
internal static class Sums
{
    public static void Add(SheetDraft draft, Phase phase)
    {
        foreach (var entry in draft.Knowledge.Characteristics.Where(c => c.Derived && c.Ways.Count > 0))
        {
            foreach (var place in entry.On.SelectMany((kind, n) => draft.Table.OfKind(kind).Select(a => (At: a, N: n))))
            {
                Add(draft, place.At, place.N, entry, phase);
            }
        }
    }

    private static void Add(SheetDraft draft, Address place, int nth, KnownCharacteristic entry, Phase phase)
    {
        (Estimate Value, Fact From)? told = null;
        foreach (var way in entry.Ways)
        {
            if (Sum(draft, place, nth, way, phase) is not { } sum)
            {
                continue;
            }

            if (told is null)
            {
                told = (sum.Value, sum.From);
            }
            else if (Differ(place, entry, told.Value, sum) is { } note)
            {
                draft.Notes.Add(note);
            }
            else
            {
                var both = Estimate.Together(told.Value.Value, sum.Value);
                told = (
                    both,
                    Fact.Of(
                        "gauge.two-ways-agree",
                        ("a", Amount.Length(told.Value.Value.Value)),
                        ("fromA", told.Value.From),
                        ("b", Amount.Length(sum.Value.Value)),
                        ("fromB", sum.From)
                    )
                );
            }
        }

        if (told is { } figure)
        {
            draft.Add(place, entry, phase, figure.Value, figure.From, derived: true);
        }
    }

    /// <returns>Null where a term is not known, or where none is of the phase itself.</returns>
    private static (Estimate Value, Fact From, bool ByStrip)? Sum(SheetDraft draft, Address place, int nth, List<Term> way, Phase phase)
    {
        var terms = new List<(double Factor, Estimate Of)>(way.Count);
        var told = new List<Fact>(way.Count);
        var own = false;
        foreach (var term in way)
        {
            if (
                Kin.Of(draft.Table, place, term.On[Math.Min(nth, term.On.Count - 1)]) is not { } at
                || Figure(draft, at.Code, term, phase) is not { } found
            )
            {
                return null;
            }

            own |= found.Phase == phase;
            terms.Add((term.Times, found.Estimate));
            told.Add(
                Fact.Of(
                    term.Times < 0 ? "gauge.term-less"
                        : told.Count > 0 ? "gauge.term-more"
                        : "gauge.term",
                    ("times", Math.Abs(term.Times) == 1 ? null : new Number(Math.Abs(term.Times), 2)),
                    ("size", Amount.Length(found.Estimate.Value)),
                    ("says", term.Says)
                )
            );
        }

        return own
            ? (
                Estimate.Sum(terms),
                Fact.Of("gauge.sum", ("terms", told)),
                way.Any(t => draft.Knowledge.Characteristic(t.Of)?.By.Contains(InstrumentKind.PlasticStrip) == true)
            )
            : null;
    }

    /// <summary>A term's figure of this phase; what no work touched stays as it was found.</summary>
    private static (Estimate Estimate, Phase Phase)? Figure(SheetDraft draft, string place, Term term, Phase phase)
    {
        if (draft.Book.Whole(place, term.Of, phase, term.Take, term.Station) is { } here)
        {
            return (here, phase);
        }

        if (draft.Worked(place, term.Of, phase) is { } worked)
        {
            return (worked.Estimate!, phase);
        }

        return phase
            .Back()
            .Skip(1)
            .Select(p => draft.Book.Whole(place, term.Of, p, term.Take, term.Station) is { } before ? (before, p) : ((Estimate, Phase)?)null)
            .FirstOrDefault(f => f is not null);
    }

    /// <summary>What there is to say of two ways to one figure that differ by more than the expanded uncertainty of their difference; else null.</summary>
    private static Fact? Differ(Address place, KnownCharacteristic entry, (Estimate Value, Fact From) a, (Estimate Value, Fact From, bool ByStrip) b)
    {
        var difference = a.Value - b.Value;
        return Math.Abs(difference.Value) <= difference.Expanded
            ? null
            : Fact.Of(
                "gauge.two-ways-differ",
                ("figure", entry.Name),
                ("place", place.Code),
                ("a", Amount.Length(a.Value.Value)),
                ("fromA", a.From),
                ("b", Amount.Length(b.Value.Value)),
                ("fromB", b.From),
                ("difference", Amount.Length(Math.Abs(difference.Value))),
                ("uncertainty", Amount.Length(difference.Expanded)),
                (
                    "why",
                    Fact.Of(
                        b.ByStrip && difference.Value < 0 ? "gauge.strip-reads-more"
                        : b.ByStrip ? "gauge.strip-reads-less"
                        : "gauge.ways-differ-otherwise"
                    )
                )
            );
    }
}
