using MathNet.Numerics.Statistics;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

public static partial class BenchReckoners
{
    /// <summary>Reading an instrument, and its uncertainty.</summary>
    private static IReadOnlyList<BenchReckoner> Reading() =>
        [
            new(
                "thimble",
                "reading-and-uncertainty",
                Equation: "start + lines × line + divisions × division + vernier",
                Source: "common practice, no source",
                "thimble",
                [
                    L("start", "range-begins-at", "2", "in", 0, 1000),
                    N("lines", "lines-bare-on-the-sleeve", "3", 0, 99),
                    N("divisions", "division-of-the-thimble", "22", 0, 49),
                    N("fine", "line-of-the-vernier", "0", 0, 9),
                    new("scale", "scale", Quantity.Ratio, "x", "inch", InputKind.Choice, Choices("inch", "mm")),
                ]
            )
            {
                Work = g =>
                {
                    var inch = g.Choice("scale") == 0;
                    var start = QuantityParser.InUnit((decimal)g["start"], inch ? "in" : "mm");
                    var typed = $"{start:0}|{g["lines"]:0}|{g["divisions"]:0}|{g["fine"]:0}";
                    return [new("reading", (double)QuantityParser.Parse(typed, Quantity.Length, inch ? "in" : "mm").Value, Quantity.Length, 4)];
                },
            },
            new(
                "convert",
                "reading-and-uncertainty",
                Equation: "1 in = 25.4 mm exactly",
                Source: "exact by definition",
                "rule",
                [L("length", "length", "2-3/32 in", "mm")]
            )
            {
                Work = g =>
                {
                    var mm = g["length"];
                    return
                    [
                        new("length", mm, Quantity.Length, 5),
                        new("in-thousandths-of-an-inch", null, Quantity.Ratio, 0, Fact.Of("reckoners.thou", ("thou", new Number(mm / 0.0254, 3)))),
                        new(
                            "in-hundredths-of-a-millimetre",
                            null,
                            Quantity.Ratio,
                            0,
                            Fact.Of("reckoners.hundredths-mm", ("hundredths", new Number(mm * 100, 3)))
                        ),
                        new("nearest-64th", null, Quantity.Ratio, 0, Sixtyfourths(mm / 25.4)),
                    ];
                },
            },
            new(
                "temperature",
                "reading-and-uncertainty",
                Formulas.AtReference.Equation,
                Source: $"{Formulas.AtReference.Source}; expansions from memory",
                "thermometer",
                [
                    F(Formulas.AtReference, "read", "88.10"),
                    C("part", "part-is-of", Materials, "aluminium"),
                    F(Formulas.AtReference, "tp", "45"),
                    C("gauge", "instrument-is-of", Materials, "steel"),
                    F(Formulas.AtReference, "tg", "20"),
                ]
            )
            {
                Work = g =>
                {
                    var at = Formulas.AtReference.Of(
                        g["read"],
                        Material.All[g.Choice("part")].Expansion,
                        g["tp"],
                        Material.All[g.Choice("gauge")].Expansion,
                        g["tg"]
                    );
                    return [new("at-20-c", at, Quantity.Length, 4), new("reading-was-off-by", g["read"] - at, Quantity.Length, 4)];
                },
            },
            new(
                "repeats",
                "reading-and-uncertainty",
                Equation: "u² = max(s²/n, (step/2√3)²) + (error/√3)²; U = t · u",
                Source: "JCGM 100:2008 (GUM) 4.2, 4.3.7, 4.3.10, 5.1.2, F.2.2.1, G.4.1; Grubbs: NIST/SEMATECH e-Handbook 1.3.5.17.1",
                "repeats",
                [
                    new("readings", "readings", Quantity.Length, "mm", "47.982 47.984 47.983 47.985", InputKind.Figures),
                    L("step", "smallest-step-of-the-scale", "0.001"),
                    L("error", "permissible-error", "0.003"),
                ]
            )
            {
                Work = g =>
                {
                    var values = g.Figures("readings");
                    var deviation = values.Length > 1 ? values.StandardDeviation() : 0;
                    var ofMean = deviation / Math.Sqrt(values.Length);
                    Influence[] lines =
                    [
                        .. values.Length > 1
                            ? [new Influence("scatter", Fact.Of("reckoners.scatter"), ofMean, values.Length - 1)]
                            : Array.Empty<Influence>(),
                        new("step", Fact.Of("reckoners.step-scale"), Uncertainty.OfStep(g.Above("step"), ofMean)),
                        new("error", Fact.Of("reckoners.permissible-error"), Uncertainty.Rectangular(g["error"])),
                    ];
                    var mean = Estimate.Of(values.Mean(), lines);
                    var outlier = GrubbsTest.Of(values);
                    return
                    [
                        new("mean", mean.Value, Quantity.Length, 4),
                        .. values.Length > 1
                            ? [new ReckonerResult("scatter-standard-deviation", values.StandardDeviation(), Quantity.Length, 5)]
                            : Array.Empty<ReckonerResult>(),
                        .. lines.Select(l => new ReckonerResult("uncertainty-of", l.Standard, Quantity.Length, 5)
                        {
                            Name = Fact.Of("reckoners.uncertainty-of", ("of", l.Name)),
                        }),
                        new("expanded-uncertainty-95", mean.Expanded, Quantity.Length, 4),
                        new(
                            "outlier-grubbs",
                            null,
                            Quantity.Ratio,
                            0,
                            outlier is null ? Fact.Of("reckoners.three-readings-differ-needed")
                                : outlier.IsOutlier
                                    ? Fact.Of(
                                        "reckoners.stands-out-g-over-look",
                                        ("value", Amount.Length(values[outlier.Index], 4)),
                                        ("g", new Number(outlier.G, 2, true)),
                                        ("critical", new Number(outlier.Critical, 2, true))
                                    )
                                : Fact.Of(
                                    "reckoners.none-g-under",
                                    ("g", new Number(outlier.G, 2, true)),
                                    ("critical", new Number(outlier.Critical, 2, true))
                                )
                        ),
                    ];
                },
            },
            new(
                "conformity",
                "reading-and-uncertainty",
                Equation: "in: LSL + U ≤ x ≤ USL − U; out: x < LSL − U or x > USL + U; else undecided",
                Source: "ISO 14253-1",
                "zones",
                [
                    L("value", "figure", "0.088", from: -100),
                    L("uncertainty", "expanded-uncertainty", "0.006"),
                    L("least", "least-allowed", "0.036", from: -100),
                    L("most", "most-allowed", "0.092", from: -100),
                ]
            )
            {
                Work = g =>
                {
                    if (g.Maybe("least") > g.Maybe("most"))
                    {
                        throw new ProblemException(Problem.Of("least", "reckoners.least-allowed-more-than-most"));
                    }

                    var measured = new Measured(g["value"], g["uncertainty"] / 2);
                    var at = DecisionRule.Decide(measured, g.Maybe("least"), g.Maybe("most"));
                    var over = g.Maybe("most") is { } most ? measured.ProbabilityAbove(most) : (double?)null;
                    return
                    [
                        new(
                            "it-is",
                            null,
                            Quantity.Ratio,
                            0,
                            at switch
                            {
                                Conformity.Inside => Fact.Of("word.conformity.inside"),
                                Conformity.Outside => Fact.Of("word.conformity.outside"),
                                _ => Fact.Of("word.conformity.undecided"),
                            }
                        ),
                        .. over is { } p
                            ? [new ReckonerResult("probability-of-being-over-the-most", 100 * p, Quantity.Share, 1)]
                            : Array.Empty<ReckonerResult>(),
                    ];
                },
            },
        ];
}
