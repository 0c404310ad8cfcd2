using MathNet.Numerics.Statistics;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Signs that figures speak for or against, as soft evidence; the sign stands at the place of the figure.</summary>
internal static class MeasuredSigns
{
    /// <summary>A reading says at most this much for or against a sign: instruments are also misread.</summary>
    private const double Slip = 0.002;

    /// <summary>What a stamp alone says at most: stamps lie.</summary>
    private const double StampSlip = 0.1;

    /// <summary>A rule of thumb is itself uncertain by about this share of its value.</summary>
    private const double ThumbSpread = 0.2;

    /// <summary>What a compression says at most: a valve that hangs on a grain of carbon, a hose that leaks.</summary>
    private const double CompressionSlip = 0.05;

    /// <summary>Scatter of a compression from turn to turn, as a share of it. Common practice, no source.</summary>
    private const double CompressionScatter = 0.03;

    /// <summary>How much lower than its peers a piston stands at the top when its rod is bent, mm. Common practice, no source.</summary>
    private const double DeckLow = 0.1;

    private static readonly (string Characteristic, string Sign, bool Above)[] Speaking =
    [
        (Characteristics.BigEndClearance, "clearance-large", true),
        (Characteristics.BigEndClearance, "clearance-small", false),
        (Characteristics.RoundnessOfPin, "journal-out-of-round", true),
        ("crankpin-taper", "journal-tapered", true),
        ("journal-hollow", "journal-hollow", true),
        (Characteristics.MainClearance, "main-clearance-large", true),
        (Characteristics.MainClearance, "main-clearance-small", false),
        ("crank-end-float", "end-float-large", true),
        ("piston-clearance", "piston-clearance-large", true),
        ("piston-clearance", "piston-clearance-small", false),
        ("ring-side-clearance-top", "ring-side-loose", true),
        (Characteristics.RingEndGap, "ring-gap-large", true),
        (Characteristics.RingEndGap, "ring-gap-small", false),
        ("guide-clearance", "guide-loose", true),
        ("bearing-interference", "bearing-fit-lost", false),
    ];

    public static IReadOnlyList<MeasuredSign> Of(SheetDraft draft, IEnumerable<CheckedGrade> grades) =>
        [.. grades.Select(OfGrades).OfType<MeasuredSign>(), .. OfLimits(draft), .. OfDecks(draft), .. OfCompression(draft)];

    private static MeasuredSign? OfGrades(CheckedGrade of)
    {
        if (of.Sign is null || (!of.Measured && !of.Check.Loud))
        {
            return null;
        }

        var slip = of.Measured ? Slip : StampSlip;
        return of.Check.Loud
            ? new MeasuredSign(of.Sign, of.Check.Place, 1 - slip, slip, of.Check.Words)
            : new MeasuredSign(of.Sign, of.Check.Place, slip, 1 - slip, Fact.Of("gauge.sizes-agree"));
    }

    private static IEnumerable<MeasuredSign> OfLimits(SheetDraft draft) =>
        from speaking in Speaking
        from f in draft.Figures
        where f.Characteristic == speaking.Characteristic && f.Phase == Phase.AsFound && f.Limit is not null
        // What is worn and may stay is no sign of a failure.
        let bound = speaking.Above ? f.Limit!.ServiceMost : f.Limit!.ServiceLeast
        where bound is not null
        select OfLimit(speaking.Sign, f, bound.Value, speaking.Above);

    private static MeasuredSign OfLimit(string sign, SheetFigure figure, double bound, bool above)
    {
        var measured = figure.Estimate!.AsMeasured();
        var limit = figure.Limit!;
        // The limit's own spread enters where it is a rule of thumb.
        var u = Uncertainty.Combine([measured.StandardUncertainty, limit.IsRuleOfThumb ? ThumbSpread * bound : 0]);
        var over = new Measured(measured.Value, u).ProbabilityAbove(bound);
        var p = Math.Clamp(above ? over : 1 - over, Slip, 1 - Slip);
        return new MeasuredSign(
            sign,
            figure.Place,
            p,
            1 - p,
            Fact.Of(
                "gauge.figure-against-limit",
                ("value", new Amount(measured.Value, figure.Quantity, 3)),
                ("uncertainty", new Amount(measured.Expanded, figure.Quantity, 3)),
                (
                    "stands",
                    Fact.Of(
                        (p >= 0.5, above) switch
                        {
                            (true, true) => "gauge.over",
                            (true, false) => "gauge.under",
                            (false, true) => "gauge.not-over",
                            (false, false) => "gauge.not-under",
                        },
                        ("limit", new Amount(bound, figure.Quantity, 3))
                    )
                ),
                ("source", limit.IsRuleOfThumb ? Fact.Of("gauge.rule-of-thumb") : limit.SourceText)
            )
        );
    }

    /// <summary>A piston that stands lower than its peers at the top has a bent rod under it, or a short one.</summary>
    private static IEnumerable<MeasuredSign> OfDecks(SheetDraft draft)
    {
        var decks = draft.Figures.Where(f => f.Characteristic == "deck-height" && f.Phase == Phase.AsFound).ToArray();
        if (decks.Length < 3)
        {
            yield break;
        }

        var middle = decks.Select(f => f.Value).Median();
        foreach (var deck in decks)
        {
            var p = Math.Clamp(deck.Estimate!.AsMeasured().ProbabilityAbove(middle + DeckLow), Slip, 1 - Slip);
            yield return new MeasuredSign(
                "deck-low",
                deck.Place,
                p,
                1 - p,
                Fact.Of("gauge.deck-beside-its-peers", ("deck", Amount.Length(deck.Value, 2)), ("middle", Amount.Length(middle, 2)))
            );
        }
    }

    private static double Below(SheetFigure? figure, double? least)
    {
        if (figure is null || least is not { } bound)
        {
            return 0;
        }

        var measured = figure.Estimate!.AsMeasured();
        var u = Uncertainty.Combine([measured.StandardUncertainty, CompressionScatter * figure.Value]);
        return 1 - new Measured(measured.Value, u).ProbabilityAbove(bound);
    }

    private static IEnumerable<MeasuredSign> OfCompression(SheetDraft draft)
    {
        var limits = draft.Limits.Compression();
        var figures = draft.Figures.Where(f => f.Phase == Phase.AsFound).ToLookup(f => f.Characteristic, StringComparer.Ordinal);
        var shares = figures[Characteristics.CompressionShare].ToDictionary(f => f.Place, StringComparer.Ordinal);
        foreach (var figure in figures[Characteristics.Compression])
        {
            // One reading is one fact: of what it says against its fellows and by itself the stronger counts.
            var share = shares.GetValueOrDefault(figure.Place);
            var low = Math.Max(Below(figure, limits.Least), Below(share, 100 * limits.Share));
            if (share is null && limits.Least is null)
            {
                continue;
            }

            var p = Math.Clamp(low, CompressionSlip, 1 - CompressionSlip);
            yield return new MeasuredSign(
                "compression-low",
                figure.Place,
                p,
                1 - p,
                Fact.Of(
                    "gauge.compression-against",
                    ("pressure", CompressionTest.Bar(figure.Value)),
                    ("share", new Percent((share?.Value ?? 100) / 100)),
                    ("least", limits.Least is { } least ? CompressionTest.Bar(least) : null),
                    ("source", limits.Source)
                )
            );
        }
    }
}
