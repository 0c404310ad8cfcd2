using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

public static partial class BenchReckoners
{
    /// <summary>Bores, pistons and rings.</summary>
    private static IReadOnlyList<BenchReckoner> Bores() =>
        [
            new(
                "oversize",
                "bores-pistons-and-rings",
                Equation: "standard + step ≥ unworn + 2 · (largest − unworn) + allowance on the old centres; ≥ largest + allowance following the wear",
                Source: "common practice, no source",
                "bore",
                [
                    L("standard", "standard-bore", "88.000"),
                    L("largest", "largest-found-in-any-bore", "88.140"),
                    L("allowance", "boring-and-honing-take-at-least", "0.10", to: 2),
                    C("centres", "bored", SetUps, "on-its-old-centres"),
                    C("steps", "steps", Systems, "both"),
                ]
            )
            {
                Work = g =>
                {
                    var next = Machining.Oversize((decimal)g.Above("standard"), (decimal)g.Above("largest"), StepsOf(PartKinds.Bore, g), Ways(g));
                    return next is null
                        ? [new("none", null, Quantity.Ratio, 0, Fact.Of("reckoners.no-usual-oversize-large-enough"))]
                        :
                        [
                            new(
                                "bore-to",
                                g["standard"] + (double)next.Under,
                                Quantity.Length,
                                3,
                                Fact.Of("reckoner.say.so-much-over", ("step", next.Name))
                            ),
                            new("in-fractions-of-an-inch", null, Quantity.Ratio, 0, Sixtyfourths((g["standard"] + (double)next.Under) / 25.4)),
                        ];
                },
            },
            new(
                "round",
                "bores-pistons-and-rings",
                Equation: "greatest − least diameter; direction by d(θ) = d₀ + a cos 2θ + b sin 2θ, least squares",
                Source: "two-point diameters as manuals ask for them: common practice, no source; second harmonic: any metrology text",
                "oval",
                [new("diameters", "diameters-in-equal-steps-from-0-to-under-180", Quantity.Length, "mm", "88.040 88.060 88.050", InputKind.Figures)]
            )
            {
                Work = g =>
                {
                    var d = g.Figures("diameters", 2);
                    var (oval, at) = FittedEllipse.Through([.. d.Select((v, i) => (180.0 * i / d.Length, v))]);
                    // What was typed is told no finer than it was typed; an ellipse through three or four diameters has little or nothing left to check it.
                    return
                    [
                        new("out-of-round", d.Max() - d.Min(), Quantity.Length, 3),
                        new("greatest-at", Math.Round(at / 5) * 5, Quantity.Angle, 0, Fact.Of("reckoners.about")),
                        .. d.Length > 4
                            ? [new ReckonerResult("of-it-oval", oval, Quantity.Length, 3)]
                            : new[]
                            {
                                new ReckonerResult(
                                    "note",
                                    null,
                                    Quantity.Ratio,
                                    0,
                                    Fact.Of(
                                        d.Length == 2 ? "reckoners.two-directions-see-nothing-oval" : "reckoners.few-directions-see-nothing-lobed",
                                        ("directions", d.Length)
                                    )
                                ),
                            },
                    ];
                },
            },
            new(
                "ratio",
                "bores-pistons-and-rings",
                Formulas.CompressionRatio.Equation,
                Formulas.CompressionRatio.Source,
                "chamber",
                [
                    F(Formulas.CompressionRatio, "bore", "88.0"),
                    F(Formulas.CompressionRatio, "stroke", "80.0"),
                    F(Formulas.CompressionRatio, "chamber", "50"),
                    F(Formulas.CompressionRatio, "crown", "0"),
                    F(Formulas.CompressionRatio, "deck", "0.3"),
                    F(Formulas.CompressionRatio, "joint", "1.2"),
                    F(Formulas.CompressionRatio, "jointBore", "89.5"),
                ]
            )
            {
                Work = g =>
                {
                    var swept = Formulas.Swept.Of(g["bore"], g["stroke"]);
                    return
                    [
                        new(
                            "compression-ratio",
                            Formulas.CompressionRatio.Of(g["bore"], g["stroke"], g["chamber"], g["crown"], g["deck"], g["joint"], g["jointBore"]),
                            Quantity.Ratio,
                            2
                        ),
                        new("swept-by-one-cylinder", swept, Quantity.Volume, 1),
                        new("squish", g["deck"] + g["joint"], Quantity.Length, 2),
                    ];
                },
            },
            new(
                "ring-gap",
                "bores-pistons-and-rings",
                Formulas.GapClosing.Equation,
                Source: $"{Formulas.GapClosing.Source}; usual gap: rule of thumb by use, the ring maker’s figure first",
                "gap",
                [
                    F(Formulas.GapClosing, "bore", "88.0"),
                    L("gap", "end-gap-cold", "0.35", to: 20),
                    C("ring", "ring-is-of", Materials, "cast-iron"),
                    F(Formulas.GapClosing, "tr", "200"),
                    C("barrel", "bore-is-of", Materials, "cast-iron"),
                    F(Formulas.GapClosing, "tb", "120"),
                    C("use", "use", Uses, Uses[0].Id),
                ]
            )
            {
                Work = g =>
                {
                    var closing = Formulas.GapClosing.Of(
                        g["bore"],
                        Material.All[g.Choice("ring")].Expansion,
                        g["tr"],
                        Material.All[g.Choice("barrel")].Expansion,
                        g["tb"]
                    );
                    var usual = g.Thumb("ring-end-gap", "ring-top", g["bore"], (RingUse)g.Choice("use"));
                    var left = g["gap"] - closing;
                    return
                    [
                        new("closes-by", closing, Quantity.Length, 3),
                        new("left-when-hot", left, Quantity.Length, 3, left <= 0 ? Fact.Of("reckoners.butts") : null),
                        new("usual-least-cold-gap-by-rule-of-thumb", usual.Least, Quantity.Length, 2, usual.SourceText),
                    ];
                },
            },
            new(
                "flutter",
                "bores-pistons-and-rings",
                Formulas.FlutterSpeed.Equation,
                Formulas.FlutterSpeed.Source,
                "flutter",
                [F(Formulas.FlutterSpeed, "stroke", "80"), F(Formulas.FlutterSpeed, "rod", "140"), F(Formulas.FlutterSpeed, "width", "1.5")]
            )
            {
                Work = g =>
                    [
                        new(
                            "can-begin-at",
                            Formulas.FlutterSpeed.Of(g["stroke"], g["rod"], g["width"]),
                            Quantity.Speed,
                            0,
                            Fact.Of("reckoners.about-rule-thumb")
                        ),
                        new(
                            "at-an-acceleration-of",
                            null,
                            Quantity.Ratio,
                            0,
                            Fact.Of("reckoners.acceleration", ("value", new Number(Formulas.FlutterOnset(g["width"]))))
                        ),
                    ],
            },
            new(
                "port",
                "bores-pistons-and-rings",
                Equation: $"{Formulas.PortOpens.Equation}; {Formulas.PortShare.Equation}",
                Formulas.PortOpens.Source,
                "crank",
                [
                    F(Formulas.PortOpens, "stroke", "58"),
                    F(Formulas.PortOpens, "rod", "115"),
                    F(Formulas.PortOpens, "height", "33"),
                    F(Formulas.PortOpens, "deck", "0.5"),
                    F(Formulas.PortShare, "bore", "62"),
                    F(Formulas.PortShare, "chord", "40"),
                ]
            )
            {
                Work = g =>
                {
                    var opens = Formulas.PortOpens.Of(g["stroke"], g["rod"], g["height"], g["deck"]);
                    var share = Formulas.PortShare.Of(g["bore"], g["chord"]);
                    var usual = g.Thumb("port-share", PartKinds.Bore, 1);
                    return
                    [
                        new("opens-after-top-dead-centre", opens, Quantity.Angle, 1),
                        new("stays-open-for", 360 - (2 * opens), Quantity.Angle, 1),
                        new(
                            "chord-beside-the-bore",
                            share,
                            Quantity.Share,
                            0,
                            share > usual.Most ? Fact.Of("reckoners.more-than-rule-thumb") : Fact.Of("reckoners.usual")
                        ),
                    ];
                },
            },
            new(
                "piston",
                "bores-pistons-and-rings",
                Equation: $"{Formulas.PistonDrop.Equation}; {Formulas.TopAcceleration.Equation}",
                Formulas.TopAcceleration.Source,
                "crank",
                [
                    F(Formulas.PistonDrop, "stroke", "80"),
                    F(Formulas.PistonDrop, "rod", "140"),
                    F(Formulas.PistonDrop, "angle", "45"),
                    F(Formulas.TopAcceleration, "speed", "6000"),
                ]
            )
            {
                Work = g =>
                    [
                        new("piston-is-down-by", Formulas.PistonDrop.Of(g["angle"], g["stroke"], g["rod"]), Quantity.Length, 2),
                        new(
                            "acceleration-at-the-top",
                            null,
                            Quantity.Ratio,
                            0,
                            Fact.Of("reckoners.acceleration", ("value", new Number(Formulas.TopAcceleration.Of(g["stroke"], g["rod"], g["speed"]))))
                        ),
                        new(
                            "mean-piston-speed",
                            null,
                            Quantity.Ratio,
                            0,
                            Fact.Of("reckoners.speed", ("value", new Number(Formulas.MeanPistonSpeed.Of(g["stroke"], g["speed"]), 1, true)))
                        ),
                    ],
            },
            new(
                "hatch",
                "bores-pistons-and-rings",
                Formulas.HatchAngle.Equation,
                Formulas.HatchAngle.Source,
                "hatch",
                [
                    F(Formulas.HatchAngle, "bore", "88"),
                    F(Formulas.HatchAngle, "speed", "200"),
                    F(Formulas.HatchAngle, "strokes", "120"),
                    F(Formulas.HatchAngle, "length", "150"),
                ]
            )
            {
                Work = g =>
                {
                    var angle = Formulas.HatchAngle.Of(g["bore"], g["speed"], g["strokes"], g["length"]);
                    return
                    [
                        new(
                            "cross-hatch",
                            angle,
                            Quantity.Angle,
                            0,
                            angle < g.Thumb("hatch-angle", PartKinds.Bore, 1).Least ? Fact.Of("reckoners.flatter-than-rule-thumb") : null
                        ),
                        new(
                            "strokes-in-a-minute-for-45",
                            Math.Tan(22.5 * Math.PI / 180) * Math.PI * g["bore"] * g["speed"] / g["length"],
                            Quantity.Speed,
                            0
                        ),
                    ];
                },
            },
            new(
                "drift",
                "bores-pistons-and-rings",
                Equation: "mean direction and resultant length of the drifts",
                Source: "K. V. Mardia and P. E. Jupp, Directional Statistics",
                "clock",
                [
                    new("put", "angles-as-fitted", Quantity.Angle, "deg", "0 120 240", InputKind.Figures),
                    new("found", "angles-as-found", Quantity.Angle, "deg", "16 138 255", InputKind.Figures),
                ]
            )
            {
                Work = g =>
                {
                    var (put, found) = (g.Figures("put"), g.Figures("found"));
                    if (put.Length != found.Length)
                    {
                        throw new ProblemException(Problem.Of("found", "reckoners.put-found", ("put", put.Length), ("found", found.Length)));
                    }

                    var drifts = put.Zip(found, Circular.Drift).ToArray();
                    var mean = Circular.Mean(drifts);
                    return
                    [
                        new("each", null, Quantity.Ratio, 0, Fact.Of("reckoners.angles", ("angles", drifts.Select(d => $"{d:+0;−0;0}°").ToArray()))),
                        new("mean-drift-clockwise", mean.Mean > 180 ? mean.Mean - 360 : mean.Mean, Quantity.Angle, 0),
                        new("together-1-is-as-one", mean.Resultant, Quantity.Ratio, 3),
                    ];
                },
            },
            new(
                "clock",
                "bores-pistons-and-rings",
                Formulas.ArcAngle.Equation,
                Formulas.ArcAngle.Source,
                "clock",
                [F(Formulas.ArcAngle, "bore", "88"), F(Formulas.ArcAngle, "arc", "60")]
            )
            {
                Work = g => [new("angle", Formulas.ArcAngle.Of(g["bore"], g["arc"]), Quantity.Angle, 0)],
            },
        ];
}
