using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Trends of a figure along the crank, by Kendall's rank correlation with its exact probability.</summary>
internal static class StationTrends
{
    public static IReadOnlyList<StationTrend> Of(SheetDraft draft) =>
        [
            .. draft
                .Figures.Where(f => f.Phase == Phase.AsFound && f.Quantity == Quantity.Length)
                .Select(f => (Figure: f, At: draft.Table.Find(f.Place)!))
                .Where(x => x.At.Kind.Scope is not StationScope.Engine && x.At.Nth == 0)
                .GroupBy(x => (x.Figure.Characteristic, x.At.Kind.Id))
                .Where(g => g.Count() >= 4)
                .Select(g =>
                {
                    var placed = g.Select(x => new Placed(x.At, x.Figure.Value)).ToArray();
                    if (Along.CrankTrend(placed, draft.Table.Engine) is not { P: < Patterns.Alpha } trend)
                    {
                        return null;
                    }

                    var ordered = Along.Crank(placed, draft.Table.Engine);
                    var rising = trend.S > 0;
                    return new StationTrend(
                        g.Key.Characteristic,
                        g.Key.Id,
                        trend.P,
                        rising,
                        Fact.Of(
                            "gauge.grows-toward",
                            ("figure", g.First().Figure.Name),
                            ("end", (rising ? ordered[^1] : ordered[0]).At.Code),
                            ("p", Patterns.Odds(trend.P))
                        )
                    );
                })
                .OfType<StationTrend>(),
        ];
}

/// <summary>The shop's school on the second ring's gap, told where a piston breaks it.</summary>
internal static class RingGapSchool
{
    public static void Note(SheetDraft draft)
    {
        if (draft.Schools.SecondGap != SecondGap.NotSmaller)
        {
            return;
        }

        foreach (var second in draft.Table.OfKind("ring-second"))
        {
            if (
                draft.Book.Whole(second.Code, Characteristics.RingEndGap, Phase.AsFound) is { } lower
                && Kin.Of(draft.Table, second, "ring-top") is { } top
                && draft.Book.Whole(top.Code, Characteristics.RingEndGap, Phase.AsFound) is { } upper
                && (upper - lower) is { } less
                && less.Value > less.Expanded
            )
            {
                draft.Notes.Add(
                    Fact.Of(
                        "gauge.second-gap-smaller",
                        ("second", second.Code),
                        ("gap", Amount.Length(lower.Value, 2)),
                        ("top", top.Code),
                        ("topGap", Amount.Length(upper.Value, 2))
                    )
                );
            }
        }
    }
}
