using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>Holds what arrived against what was ordered.</summary>
internal sealed class ReceivingBench(
    AddressTable table,
    KnowledgeBase knowledge,
    IReadOnlyList<Candidate> candidates,
    Func<string, GaugeSheet> sheetOf
)
{
    /// <summary>
    /// A size with no tolerance but what making leaves is another size when it is off by so many times that. Ours, no source: the least step of a shell
    /// wall that is made, half of .001 in, is three of them.
    /// </summary>
    private const double OtherSize = 3;

    /// <summary>What one line brought.</summary>
    /// <param name="back">When it last went back; what was measured before is of what went.</param>
    /// <param name="label">What stands on the box.</param>
    public Receiving Of(OrderLine line, DateTimeOffset? back, string label)
    {
        var bought = line.Kind == SupplierKind.Parts;
        var letter = bought
            ? candidates.Where(c => c.Stands() && c.Line == line.Id && (back is null || c.At > back)).OrderBy(c => c.At).LastOrDefault()?.Letter ?? ""
            : "";
        var figures = line.Wants.SelectMany(w => Figures(line, w, letter, bought)).ToArray();
        var wrong = Array.Find(figures, Refuses);
        return new Receiving(
            letter,
            figures,
            OtherLabel(line, label),
            wrong is null
                ? null
                : Fact.Of(
                    "verdict.order.not-as-ordered",
                    ("place", wrong.Place),
                    ("figure", wrong.Name),
                    ("value", Size(wrong, wrong.Value!.Value)),
                    ("ordered", Ordered(wrong))
                )
        );
    }

    private Fact Ordered(ReceivedFigure figure) =>
        (figure.Wanted.Least, figure.Wanted.Most) switch
        {
            ({ } least, { } most) => Fact.Of("verdict.order.between", ("least", Size(figure, (double)least)), ("most", Size(figure, (double)most))),
            ({ } least, null) => Fact.Of("verdict.order.at-least", ("least", Size(figure, (double)least))),
            (_, var most) => Fact.Of("verdict.order.at-most", ("most", Size(figure, (double)(most ?? 0)))),
        };

    private Amount Size(ReceivedFigure figure, double value) =>
        new(value, knowledge.Characteristic(figure.Characteristic)?.Quantity ?? Quantity.Length, 3);

    private IEnumerable<ReceivedFigure> Figures(OrderLine line, WantedFigure wanted, string letter, bool bought)
    {
        var at = table.Find(wanted.Of);
        // A part that comes new stands where the engine's own does; work is measured on the part itself.
        var places = at is not null ? [at] : table.Own.Where(a => a.Kind.Id == wanted.Of && (line.Places.Count == 0 || Concerns(line, a))).ToArray();
        var name = knowledge.Characteristic(wanted.Characteristic)?.Name ?? wanted.Characteristic;
        foreach (var place in places)
        {
            var code = letter.Length > 0 ? $"{place.Code}.{letter}" : place.Code;
            var now = bought && letter.Length == 0 ? null : sheetOf(letter).Now(code, wanted.Characteristic);
            var figure = now is not null && (bought || now.Phase > Phase.AsFound) ? now : null;
            var shape = figure is null ? null : sheetOf(letter).ShapeNow(code, wanted.Characteristic);
            var inside = figure is null ? null : Inside(wanted, shape?.LeastAt ?? figure.Estimate, shape?.MostAt ?? figure.Estimate);
            yield return new ReceivedFigure(
                $"{wanted.Of}/{wanted.Characteristic}",
                code,
                wanted.Characteristic,
                name,
                wanted,
                figure?.Value,
                figure?.Expanded,
                inside,
                figure is null || inside is not { } p ? FigureStands.Unmeasured
                    : wanted.Thumb && Half(wanted) is { } half ? Like(wanted, half, figure.Value, figure.Expanded)
                    : p >= Fitter.GoodEnough ? FigureStands.Inside
                    : p <= 1 - Fitter.GoodEnough ? FigureStands.Outside
                    : FigureStands.Undecided
            );
        }
    }

    /// <summary>Of a set that is bought for the whole engine every place; else those at the stations that it is for.</summary>
    private bool Concerns(OrderLine line, Address place) =>
        CandidateSets.All.FirstOrDefault(s => s.Id == line.Item)?.SoldFor == StationScope.Engine
        || line.Places.Contains(place.Code)
        || line.Places.Exists(p => table.Find(p) is { } own && own.Kind.Scope == place.Kind.Scope && own.Station == place.Station);

    private static double? Inside(WantedFigure wanted, Estimate? least, Estimate? most)
    {
        if (least is null || most is null)
        {
            return null;
        }

        var margins = new List<Estimate>();
        if (wanted.Least is { } low)
        {
            margins.Add(least - Estimate.Exact((double)low));
        }

        if (wanted.Most is { } high)
        {
            margins.Add(Estimate.Exact((double)high) - most);
        }

        return margins.Count == 0 ? null : AllAtOnce.Above(margins);
    }

    private static double? Half(WantedFigure wanted) => wanted is { Least: { } least, Most: { } most } ? (double)(most - least) / 2 : null;

    private static double Off(WantedFigure wanted, double value) => Math.Abs(value - ((double)(wanted.Least!.Value + wanted.Most!.Value) / 2));

    /// <summary>
    /// A rule of thumb tells one size from another and is no limit to be held to the last micrometre: what agrees with it within its doubt is the size,
    /// as long as that doubt is not as wide as another size.
    /// </summary>
    private static FigureStands Like(WantedFigure wanted, double half, double value, double expanded) =>
        Off(wanted, value) > half + expanded ? FigureStands.Outside
        : expanded > OtherSize * half ? FigureStands.Undecided
        : FigureStands.Inside;

    private static bool Refuses(ReceivedFigure figure) =>
        figure is { Stands: FigureStands.Outside, Value: { } value }
        && (!figure.Wanted.Thumb || (Half(figure.Wanted) is { } half && Off(figure.Wanted, value) > (OtherSize * half) + (figure.Expanded ?? 0)));

    private static Fact? OtherLabel(OrderLine line, string label) =>
        label.Length == 0 || line.Step.Length == 0 ? null
        : Grade.FromStamp(label) is { } has && Grade.FromStamp(line.Step) is { } ordered && has.IsLike(ordered) ? null
        : label.Equals(line.Step, StringComparison.OrdinalIgnoreCase) ? null
        : Fact.Of("verdict.order.other-label", ("label", label), ("step", line.Step));
}
