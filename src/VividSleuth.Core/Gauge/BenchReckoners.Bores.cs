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
                "Next oversize that cleans up",
                "Bores, pistons and rings",
                "The first usual step that takes the worst bore in, with the boring allowance on.",
                "standard + step ≥ unworn + 2 · (largest − unworn) + allowance on the old centres; ≥ largest + allowance following the wear",
                "common practice, no source",
                "bore",
                [
                    L("standard", "Standard bore", "88.000"),
                    L("largest", "Largest found in any bore", "88.140"),
                    L("allowance", "Boring and honing take at least", "0.10", to: 2),
                    C("centres", "Bored", SetUps, "on its old centres"),
                    C("steps", "Steps", Systems, "both"),
                ]
            )
            {
                Work = g =>
                {
                    var next = Machining.Oversize((decimal)g.Above("standard"), (decimal)g.Above("largest"), Ways(g));
                    return next is null
                        ? [new("None", null, Quantity.Ratio, 0, "No usual oversize is large enough: sleeve it.")]
                        :
                        [
                            new("Bore to", g["standard"] + (double)next.Under, Quantity.Length, 3, next.Name + " over"),
                            new("In fractions of an inch", null, Quantity.Ratio, 0, Sixtyfourths((g["standard"] + (double)next.Under) / 25.4)),
                        ];
                },
            },
            new(
                "round",
                "Out-of-round with direction",
                "Bores, pistons and rings",
                "Ellipse through diameters taken in equal steps of direction over half a turn.",
                "d(θ) = d₀ + a cos 2θ + b sin 2θ by least squares; out-of-round 2√(a² + b²)",
                "second harmonic; any metrology text",
                "oval",
                [
                    new(
                        "diameters",
                        "Diameters, in equal steps from 0° to under 180°",
                        Quantity.Length,
                        "mm",
                        "88.040 88.060 88.050",
                        InputKind.Figures
                    ),
                ]
            )
            {
                Work = g =>
                {
                    var d = g.Figures("diameters", 2);
                    var (oval, at) = FittedEllipse.Through([.. d.Select((v, i) => (180.0 * i / d.Length, v))]);
                    return
                    [
                        new("Out of round", oval, Quantity.Length, 4),
                        new("Greatest at", at, Quantity.Angle, 0),
                        .. d.Length == 2
                            ?
                            [
                                new ReckonerResult(
                                    "Note",
                                    null,
                                    Quantity.Ratio,
                                    0,
                                    "Two directions see nothing of an oval between them: this is a least."
                                ),
                            ]
                            : Array.Empty<ReckonerResult>(),
                    ];
                },
            },
            new(
                "ratio",
                "Compression ratio",
                "Bores, pistons and rings",
                "Swept volume and what is left, over what is left.",
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
                            "Compression ratio",
                            Formulas.CompressionRatio.Of(g["bore"], g["stroke"], g["chamber"], g["crown"], g["deck"], g["joint"], g["jointBore"]),
                            Quantity.Ratio,
                            2
                        ),
                        new("Swept by one cylinder", swept, Quantity.Volume, 1),
                        new("Squish", g["deck"] + g["joint"], Quantity.Length, 2),
                    ];
                },
            },
            new(
                "ring-gap",
                "Ring gap, cold and hot",
                "Bores, pistons and rings",
                "What a gap closes by when ring and bore warm up, and the usual gap by use.",
                Formulas.GapClosing.Equation,
                $"{Formulas.GapClosing.Source}; usual gap: rule of thumb by use, the ring maker’s figure first",
                "gap",
                [
                    F(Formulas.GapClosing, "bore", "88.0"),
                    L("gap", "End gap, cold", "0.35", to: 20),
                    C("ring", "Ring is of", MaterialNames, "grey cast iron"),
                    F(Formulas.GapClosing, "tr", "200"),
                    C("barrel", "Bore is of", MaterialNames, "grey cast iron"),
                    F(Formulas.GapClosing, "tb", "120"),
                    C("use", "Use", Uses, Uses[0]),
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
                        new("Closes by", closing, Quantity.Length, 3),
                        new("Left when hot", left, Quantity.Length, 3, left <= 0 ? "It butts: the ring breaks or scores." : ""),
                        new("Usual least cold gap by rule of thumb", usual.Least, Quantity.Length, 2, usual.SourceText),
                    ];
                },
            },
            new(
                "flutter",
                "Speed at which a ring can flutter",
                "Bores, pistons and rings",
                "Where the ring’s inertia at top dead centre equals the gas load on its flank.",
                Formulas.FlutterSpeed.Equation,
                Formulas.FlutterSpeed.Source,
                "flutter",
                [
                    F(Formulas.FlutterSpeed, "stroke", "80"),
                    F(Formulas.FlutterSpeed, "rod", "140"),
                    F(Formulas.FlutterSpeed, "mass", "12"),
                    F(Formulas.FlutterSpeed, "pressure", "20", "bar"),
                    F(Formulas.FlutterSpeed, "bore", "88"),
                    F(Formulas.FlutterSpeed, "radial", "3.5"),
                ]
            )
            {
                Work = g =>
                    [
                        new(
                            "Can begin at",
                            Formulas.FlutterSpeed.Of(g["stroke"], g["rod"], g["mass"], g["pressure"], g["bore"], g["radial"]),
                            Quantity.Speed,
                            0
                        ),
                    ],
            },
            new(
                "piston",
                "Piston position and acceleration",
                "Bores, pistons and rings",
                "How far the piston has come down, and how hard it is thrown at the top.",
                $"{Formulas.PistonDrop.Equation}; {Formulas.TopAcceleration.Equation}",
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
                        new("Piston is down by", Formulas.PistonDrop.Of(g["angle"], g["stroke"], g["rod"]), Quantity.Length, 2),
                        new(
                            "Acceleration at the top",
                            null,
                            Quantity.Ratio,
                            0,
                            $"{Formulas.TopAcceleration.Of(g["stroke"], g["rod"], g["speed"]):0} m/s²"
                        ),
                        new("Mean piston speed", null, Quantity.Ratio, 0, $"{Formulas.MeanPistonSpeed.Of(g["stroke"], g["speed"]):0.0} m/s"),
                    ],
            },
            new(
                "hatch",
                "Cross-hatch angle",
                "Bores, pistons and rings",
                "From the speed of turning and of stroking, or which strokes make a wanted angle.",
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
                            "Cross-hatch",
                            angle,
                            Quantity.Angle,
                            0,
                            angle < g.Thumb("hatch-angle", PartKinds.Bore, 1).Least ? "Flatter than the rule of thumb." : ""
                        ),
                        new(
                            "Strokes in a minute for 45°",
                            Math.Tan(22.5 * Math.PI / 180) * Math.PI * g["bore"] * g["speed"] / g["length"],
                            Quantity.Speed,
                            0
                        ),
                    ];
                },
            },
            new(
                "drift",
                "Ring drift",
                "Bores, pistons and rings",
                "Where gaps were put and found: mean drift, and whether they moved together.",
                "mean direction and resultant length of the drifts",
                "K. V. Mardia and P. E. Jupp, Directional Statistics",
                "clock",
                [
                    new("put", "Angles as fitted", Quantity.Angle, "deg", "0 120 240", InputKind.Figures),
                    new("found", "Angles as found", Quantity.Angle, "deg", "16 138 255", InputKind.Figures),
                ]
            )
            {
                Work = g =>
                {
                    var (put, found) = (g.Figures("put"), g.Figures("found"));
                    if (put.Length != found.Length)
                    {
                        throw Given.Refuse(
                            "found",
                            $"{put.Length} put and {found.Length} found.",
                            "Give as many angles found as put, in the same order."
                        );
                    }

                    var drifts = put.Zip(found, Circular.Drift).ToArray();
                    var mean = Circular.Mean(drifts);
                    return
                    [
                        new("Each", null, Quantity.Ratio, 0, string.Join(", ", drifts.Select(d => $"{d:+0;−0;0}°"))),
                        new("Mean drift, clockwise", mean.Mean > 180 ? mean.Mean - 360 : mean.Mean, Quantity.Angle, 0),
                        new("Together (1 is as one)", mean.Resultant, Quantity.Ratio, 3),
                    ];
                },
            },
            new(
                "clock",
                "Ring position as a clock",
                "Bores, pistons and rings",
                "From arc length along the crown to an angle.",
                Formulas.ArcAngle.Equation,
                Formulas.ArcAngle.Source,
                "clock",
                [F(Formulas.ArcAngle, "bore", "88"), F(Formulas.ArcAngle, "arc", "60")]
            )
            {
                Work = g => [new("Angle", Formulas.ArcAngle.Of(g["bore"], g["arc"]), Quantity.Angle, 0)],
            },
        ];
}
