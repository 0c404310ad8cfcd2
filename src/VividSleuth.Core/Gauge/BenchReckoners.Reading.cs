using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

public static partial class BenchReckoners
{
    /// <summary>Reading an instrument, and its doubt.</summary>
    private static IReadOnlyList<BenchReckoner> Reading() =>
        [
            new(
                "thimble",
                "Micrometer by its lines",
                "Reading and doubt",
                "Adds up what is read off sleeve, thimble and vernier.",
                "start + lines × line + divisions × division + vernier",
                "common practice, no source",
                "thimble",
                [
                    L("start", "Range begins at", "2", "in", 0, 1000),
                    N("lines", "Lines bare on the sleeve", "3", 0, 99),
                    N("divisions", "Division of the thimble", "22", 0, 49),
                    N("fine", "Line of the vernier", "0", 0, 9),
                    new("scale", "Scale", Quantity.Ratio, "x", "inch", InputKind.Choice, ["inch", "mm"]),
                ]
            )
            {
                Work = g =>
                {
                    var inch = g.Choice("scale") == 0;
                    var start = QuantityParser.InUnit((decimal)g["start"], inch ? "in" : "mm");
                    var typed = $"{start:0}|{g["lines"]:0}|{g["divisions"]:0}|{g["fine"]:0}";
                    return [new("Reading", (double)QuantityParser.Parse(typed, Quantity.Length, inch ? "in" : "mm").Value, Quantity.Length, 4)];
                },
            },
            new(
                "convert",
                "Length in all its units",
                "Reading and doubt",
                "Inch, thousandths, tenths, millimetres and hundredths of one length.",
                "1 in = 25.4 mm exactly",
                "exact by definition",
                "rule",
                [L("length", "Length", "2-3/32 in", "mm")]
            )
            {
                Work = g =>
                {
                    var mm = g["length"];
                    return
                    [
                        new("Length", mm, Quantity.Length, 5),
                        new("In thousandths of an inch", null, Quantity.Ratio, 0, $"{mm / 0.0254:0.###} thou"),
                        new("In hundredths of a millimetre", null, Quantity.Ratio, 0, $"{mm * 100:0.###} hundredths mm"),
                        new("Nearest 64th", null, Quantity.Ratio, 0, Sixtyfourths(mm / 25.4)),
                    ];
                },
            },
            new(
                "temperature",
                "Size at 20 °C",
                "Reading and doubt",
                "What a part measures at the reference temperature when part and gauge were warmer or colder.",
                Formulas.AtReference.Equation,
                $"{Formulas.AtReference.Source}; expansions from memory",
                "thermometer",
                [
                    F(Formulas.AtReference, "read", "88.10"),
                    C("part", "Part is of", MaterialNames, "aluminium alloy"),
                    F(Formulas.AtReference, "tp", "45"),
                    C("gauge", "Instrument is of", MaterialNames, "steel"),
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
                    return [new("At 20 °C", at, Quantity.Length, 4), new("Reading was off by", g["read"] - at, Quantity.Length, 4)];
                },
            },
            new(
                "repeats",
                "Repeated readings and their doubt",
                "Reading and doubt",
                "Mean, scatter, outlier and expanded uncertainty of repeats with one instrument.",
                "u² = max(s²/n, (step/2√3)²) + (error/√3)²; U = t · u",
                "JCGM 100:2008 (GUM) 4.2, 4.3.7, 4.3.10, 5.1.2, F.2.2.1, G.4.1; Grubbs: NIST/SEMATECH e-Handbook 1.3.5.17.1",
                "repeats",
                [
                    new("readings", "Readings", Quantity.Length, "mm", "47.982 47.984 47.983 47.985", InputKind.Figures),
                    L("step", "Smallest step of the scale", "0.001"),
                    L("error", "Permissible error, ±", "0.003"),
                ]
            )
            {
                Work = g =>
                {
                    var values = g.Figures("readings");
                    var deviation = values.Length > 1 ? Statistics.Deviation(values) : 0;
                    var ofMean = deviation / Math.Sqrt(values.Length);
                    Influence[] lines =
                    [
                        .. values.Length > 1 ? [new Influence("scatter", "scatter", ofMean, values.Length - 1)] : Array.Empty<Influence>(),
                        new("step", "step of the scale", Uncertainty.OfStep(g.Above("step"), ofMean)),
                        new("error", "permissible error", Uncertainty.Rectangular(g["error"])),
                    ];
                    var mean = Estimate.Of(Statistics.Mean(values), lines);
                    var outlier = Statistics.Grubbs(values);
                    return
                    [
                        new("Mean", mean.Value, Quantity.Length, 4),
                        .. values.Length > 1
                            ? [new ReckonerResult("Scatter (standard deviation)", Statistics.Deviation(values), Quantity.Length, 5)]
                            : Array.Empty<ReckonerResult>(),
                        .. lines.Select(l => new ReckonerResult($"u of the {l.Name}", l.Standard, Quantity.Length, 5)),
                        new("Expanded uncertainty, 95 %", mean.Expanded, Quantity.Length, 4),
                        new(
                            "Outlier (Grubbs)",
                            null,
                            Quantity.Ratio,
                            0,
                            outlier is null ? "three readings that differ are needed"
                                : outlier.IsOutlier
                                    ? $"{values[outlier.Index]:0.####} stands out (G = {outlier.G:0.00} over {outlier.Critical:0.00}): look at it again"
                                : $"none (G = {outlier.G:0.00} under {outlier.Critical:0.00})"
                        ),
                    ];
                },
            },
            new(
                "conformity",
                "In, out or undecided",
                "Reading and doubt",
                "Whether a figure with its doubt proves anything against its limits.",
                "in: LSL + U ≤ x ≤ USL − U; out: x < LSL − U or x > USL + U; else undecided",
                "ISO 14253-1",
                "zones",
                [
                    L("value", "Figure", "0.088", from: -100),
                    L("doubt", "Expanded uncertainty, ±", "0.006"),
                    L("least", "Least allowed", "0.036", from: -100),
                    L("most", "Most allowed", "0.092", from: -100),
                ]
            )
            {
                Work = g =>
                {
                    if (g.Maybe("least") > g.Maybe("most"))
                    {
                        throw Given.Refuse("least", "The least allowed is more than the most.", "Exchange the two figures.");
                    }

                    var measured = new Measured(g["value"], g["doubt"] / 2);
                    var at = DecisionRule.Decide(measured, g.Maybe("least"), g.Maybe("most"));
                    var over = g.Maybe("most") is { } most ? measured.ProbabilityAbove(most) : (double?)null;
                    return
                    [
                        new(
                            "It is",
                            null,
                            Quantity.Ratio,
                            0,
                            at switch
                            {
                                Conformity.Inside => "inside",
                                Conformity.Outside => "outside",
                                _ => "undecided",
                            }
                        ),
                        .. over is { } p
                            ? [new ReckonerResult("Probability of being over the most", 100 * p, Quantity.Share, 1)]
                            : Array.Empty<ReckonerResult>(),
                    ];
                },
            },
        ];
}
