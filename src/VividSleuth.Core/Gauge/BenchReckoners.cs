using System.Globalization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Gauge;

public enum InputKind
{
    /// <summary>One figure.</summary>
    Figure,

    /// <summary>Several figures, one behind the other with blanks or semicolons.</summary>
    Figures,

    /// <summary>One of a list.</summary>
    Choice,

    /// <summary>Words, such as a thread.</summary>
    Words,
}

/// <summary>A figure that a reckoner asks for.</summary>
/// <param name="Unit">Unit when none is typed.</param>
/// <param name="Example">What stands in it at first; with the other examples it makes a worked case.</param>
public sealed record ReckonerInput(
    string Id,
    string Name,
    Quantity Quantity,
    string Unit,
    string Example,
    InputKind Kind = InputKind.Figure,
    IReadOnlyList<string>? Choices = null
);

/// <summary>A figure that comes out.</summary>
/// <param name="Value">Base unit of its quantity; null where words are the answer.</param>
/// <param name="Places">Decimal places worth showing.</param>
public sealed record ReckonerResult(string Name, double? Value, Quantity Quantity, int Places, string Words = "");

/// <summary>A formula of the bench, alone and without a case.</summary>
/// <param name="Drawing">Name of the drawing that shows what is measured.</param>
public sealed record BenchReckoner(
    string Id,
    string Name,
    string Group,
    string Says,
    string Formula,
    string Source,
    string Drawing,
    IReadOnlyList<ReckonerInput> Inputs
)
{
    internal Func<Given, IEnumerable<ReckonerResult>> Work { get; init; } = _ => [];

    /// <summary>Works it out from what was typed.</summary>
    /// <exception cref="ProblemException">A figure cannot be read, is missing, or makes no sense; the problem names its field.</exception>
    public IReadOnlyList<ReckonerResult> Reckon(IReadOnlyDictionary<string, string> typed) => [.. Work(new Given(this, typed))];
}

/// <summary>What was typed into a reckoner, read by its inputs.</summary>
public sealed class Given(BenchReckoner reckoner, IReadOnlyDictionary<string, string> typed)
{
    private const int MostFigures = 200;

    /// <summary>A figure in the base unit.</summary>
    public double this[string id] => Read(Input(id), Text(id));

    /// <summary>A figure above nothing.</summary>
    public double Above(string id) =>
        this[id] is > 0 and var v ? v : throw Refuse(id, $"{Input(id).Name} must be more than nothing.", "Give a figure above 0.");

    public string Text(string id) =>
        typed.TryGetValue(id, out var text) && !string.IsNullOrWhiteSpace(text)
            ? text.Trim()
            : throw Refuse(id, $"{Input(id).Name} is missing.", "Type it.");

    public double? Maybe(string id) => typed.TryGetValue(id, out var text) && !string.IsNullOrWhiteSpace(text) ? Read(Input(id), text.Trim()) : null;

    public int Choice(string id)
    {
        var choices = Input(id).Choices!;
        var at = choices.ToList().IndexOf(Text(id));
        return at >= 0 ? at : throw Refuse(id, $"“{Text(id)}” is none of the choices.", $"Choose {string.Join(", ", choices)}.");
    }

    public double[] Figures(string id, int least = 1)
    {
        var parts = Text(id).Split([';', '\n', '\t', ' '], StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length < least || parts.Length > MostFigures)
        {
            throw Refuse(id, $"{Input(id).Name}: {least} to {MostFigures} figures are needed, {parts.Length} are there.", "Separate them by blanks.");
        }

        return [.. parts.Select(p => Read(Input(id), p))];
    }

    public static ProblemException Refuse(string id, string text, string remedy) => new(new Problem(id, text, remedy));

    private ReckonerInput Input(string id) => reckoner.Inputs.Single(i => i.Id == id);

    private static double Read(ReckonerInput input, string text)
    {
        try
        {
            return (double)QuantityParser.Parse(text, input.Quantity, input.Unit).Value;
        }
        catch (ProblemException e)
        {
            throw new ProblemException(e.Problems[0] with { Field = input.Id });
        }
    }
}

/// <summary>The bench reckoners: each formula of Gauge by itself, with its source and a drawing of what is measured.</summary>
public static class BenchReckoners
{
    private static readonly string[] MaterialNames = [.. Material.All.Select(m => m.Name)];
    private static readonly string[] BoltGrades = ["4.6", "5.8", "8.8", "10.9", "12.9", "SAE 2", "SAE 5", "SAE 8"];
    private static readonly string[] Systems = ["both", "metric", "inch"];
    private static readonly string[] SetUps = ["on its old centres", "following the wear"];

    public static IReadOnlyList<BenchReckoner> All { get; } =
    [
        new(
            "barrel",
            "Barrel micrometer",
            "Reading and doubt",
            "Adds up what is read off sleeve, barrel and vernier.",
            "start + lines × line + divisions × division + vernier",
            "common practice, no source",
            "barrel",
            [
                L("start", "Range begins at", "2", "in"),
                N("lines", "Lines bare on the sleeve", "3"),
                N("divisions", "Division of the barrel", "22"),
                N("fine", "Line of the vernier", "0"),
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
            "L₂₀ = L · (1 + α_g (t_g − 20)) / (1 + α_p (t_p − 20))",
            "ISO 1 for the temperature; expansions from memory",
            "thermometer",
            [
                L("read", "Reading", "88.10"),
                C("part", "Part is of", MaterialNames, "aluminium alloy"),
                T("tp", "Temperature of the part", "45"),
                C("gauge", "Instrument is of", MaterialNames, "steel"),
                T("tg", "Temperature of the instrument", "20"),
            ]
        )
        {
            Work = g =>
            {
                var at = Reckoner.AtReference(g["read"], Material.All[g.Choice("part")], g["tp"], Material.All[g.Choice("gauge")], g["tg"]);
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
                L("value", "Figure", "0.088"),
                L("doubt", "Expanded uncertainty, ±", "0.006"),
                L("least", "Least allowed", "0.036"),
                L("most", "Most allowed", "0.092"),
            ]
        )
        {
            Work = g =>
            {
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
        new(
            "bearing-clearance",
            "Plain bearing clearance",
            "Bearings and journals",
            "What is left between journal and shells.",
            "clearance = housing − upper wall − lower wall − journal",
            "common practice, no source",
            "shells",
            [
                L("housing", "Housing bore, cap torqued", "77.050"),
                L("upper", "Upper wall", "2.624"),
                L("lower", "Lower wall", "2.624"),
                L("journal", "Journal", "71.748"),
            ]
        )
        {
            Work = g =>
            {
                var c = g["housing"] - g["upper"] - g["lower"] - g.Above("journal");
                return
                [
                    new("Clearance", c, Quantity.Length, 4),
                    new("Usual by rule of thumb, 0.001 in per inch", 0.001 * g["journal"], Quantity.Length, 4),
                    new(
                        "Words",
                        null,
                        Quantity.Ratio,
                        0,
                        c <= 0 ? "It would seize: look for a wrong grade or a cap not torqued."
                            : c > 0.002 * g["journal"] ? "More than twice the usual."
                            : c < 0.0005 * g["journal"] ? "Less than half of the usual."
                            : "Usual."
                    ),
                ];
            },
        },
        new(
            "grade",
            "Which undersize is it?",
            "Bearings and journals",
            "Probability of each usual grade of a journal, given that wear only takes away.",
            "Bayes’ rule over the usual steps; wear exponential, reading normal",
            "steps: common practice, no source; odds of the grades are ours",
            "journal",
            [
                L("standard", "Standard diameter", "72.000"),
                L("found", "Measured", "71.741"),
                L("doubt", "Expanded uncertainty, ±", "0.006"),
                C("steps", "Steps", Systems, "both"),
            ]
        )
        {
            Work = g =>
            {
                var odds = GradeOdds.OfJournal(
                    (decimal)g.Above("standard"),
                    new Measured(g.Above("found"), g["doubt"] / 2),
                    (StepSystem)g.Choice("steps")
                );
                return odds.Count == 0
                    ? [new("No usual grade fits", null, Quantity.Ratio, 0, "Check the standard size, or the journal is worn beyond all.")]
                    : odds.Take(4)
                        .Select(o => new ReckonerResult(
                            o.Grade.Name,
                            100 * o.P,
                            Quantity.Share,
                            1,
                            $"{g["standard"] - (double)o.Grade.Under:0.000} mm when ground"
                        ));
            },
        },
        new(
            "undersize",
            "Next undersize that cleans up",
            "Bearings and journals",
            "The first usual step that cleans the worst journal up, with the grinding allowance off.",
            "standard − step ≤ unworn − 2 · (unworn − least) − allowance on the old centres; ≤ least − allowance following the wear",
            "common practice, no source",
            "journal",
            [
                L("standard", "Standard diameter", "72.000"),
                L("least", "Smallest found on any journal", "71.728"),
                L("allowance", "Grinding takes at least", "0.05"),
                C("centres", "Ground", SetUps, "on its old centres"),
                C("steps", "Steps", Systems, "both"),
            ]
        )
        {
            Work = g =>
            {
                var next = Machining.Undersize((decimal)g.Above("standard"), (decimal)g.Above("least"), Ways(g));
                return next is null
                    ? [new("None", null, Quantity.Ratio, 0, "No usual undersize is deep enough.")]
                    : [new("Grind to", g["standard"] - (double)next.Under, Quantity.Length, 3, next.Name + " under")];
            },
        },
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
                L("allowance", "Boring and honing take at least", "0.10"),
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
            [new("diameters", "Diameters, in equal steps from 0° to under 180°", Quantity.Length, "mm", "88.040 88.060 88.050", InputKind.Figures)]
        )
        {
            Work = g =>
            {
                var d = g.Figures("diameters", 2);
                var (oval, at) = Reckoner.OutOfRound([.. d.Select((v, i) => (180.0 * i / d.Length, v))]);
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
            "(V_swept + V_rest) / V_rest; V_rest = chamber + crown + deck + joint",
            "any engine text",
            "chamber",
            [
                L("bore", "Bore", "88.0"),
                L("stroke", "Stroke", "80.0"),
                V("chamber", "Chamber in the head", "50"),
                V("crown", "Crown: dish +, dome −", "0"),
                L("deck", "Deck height: below +, above −", "0.3"),
                L("joint", "Joint, squeezed", "1.2"),
                L("jointBore", "Bore of the joint", "89.5"),
            ]
        )
        {
            Work = g =>
            {
                var swept = Reckoner.Swept(g.Above("bore"), g.Above("stroke"));
                return
                [
                    new(
                        "Compression ratio",
                        Reckoner.CompressionRatio(g["bore"], g["stroke"], g["chamber"], g["crown"], g["deck"], g["joint"], g.Above("jointBore")),
                        Quantity.Ratio,
                        2
                    ),
                    new("Swept by one cylinder", swept, Quantity.Volume, 1),
                    new("Squish", Reckoner.Squish(g["deck"], g["joint"]), Quantity.Length, 2),
                ];
            },
        },
        new(
            "ring-gap",
            "Ring gap, cold and hot",
            "Bores, pistons and rings",
            "What a gap closes by when ring and bore warm up, and the usual gap by use.",
            "closing = π · bore · (α_r (t_r − 20) − α_b (t_b − 20))",
            "expansion: any mechanics text; usual gap 0.004 in per inch: common practice, no source",
            "gap",
            [
                L("bore", "Bore", "88.0"),
                L("gap", "End gap, cold", "0.35"),
                C("ring", "Ring is of", MaterialNames, "grey cast iron"),
                T("tr", "Ring when hot", "200"),
                C("barrel", "Bore is of", MaterialNames, "grey cast iron"),
                T("tb", "Bore when hot", "120"),
            ]
        )
        {
            Work = g =>
            {
                var closing = Reckoner.GapClosing(
                    g.Above("bore"),
                    Material.All[g.Choice("ring")],
                    g["tr"],
                    Material.All[g.Choice("barrel")],
                    g["tb"]
                );
                var left = g["gap"] - closing;
                return
                [
                    new("Closes by", closing, Quantity.Length, 3),
                    new("Left when hot", left, Quantity.Length, 3, left <= 0 ? "It butts: the ring breaks or scores." : ""),
                    new("Usual cold gap by rule of thumb", 0.004 * g["bore"], Quantity.Length, 2),
                ];
            },
        },
        new(
            "flutter",
            "Speed at which a ring can flutter",
            "Bores, pistons and rings",
            "Where the ring’s inertia at top dead centre equals the gas load on its flank.",
            "m r ω² (1 + r/l) = p · A",
            "dynamics: any text; that flutter begins there: common practice, no source",
            "flutter",
            [
                L("stroke", "Stroke", "80"),
                L("rod", "Rod between centres", "140"),
                new("mass", "Weight of the ring", Quantity.Mass, "g", "12"),
                P("pressure", "Pressure over less under it", "20", "bar"),
                L("bore", "Bore", "88"),
                L("radial", "Radial thickness", "3.5"),
            ]
        )
        {
            Work = g =>
            {
                var (bore, radial) = (g.Above("bore"), g.Above("radial"));
                return
                [
                    new(
                        "Can begin at",
                        Reckoner.FlutterSpeed(
                            g.Above("stroke"),
                            g.Above("rod"),
                            g.Above("mass"),
                            g.Above("pressure") / 100,
                            Math.PI * (bore - radial) * radial
                        ),
                        Quantity.Speed,
                        0
                    ),
                ];
            },
        },
        new(
            "piston",
            "Piston position and acceleration",
            "Bores, pistons and rings",
            "How far the piston has come down, and how hard it is thrown at the top.",
            "x = r(1 − cos θ) + l − √(l² − r² sin² θ); a = r ω² (1 + r/l)",
            "any dynamics text",
            "crank",
            [
                L("stroke", "Stroke", "80"),
                L("rod", "Rod between centres", "140"),
                A("angle", "Crank past top dead centre", "45"),
                S("speed", "Speed", "6000"),
            ]
        )
        {
            Work = g =>
            {
                var (stroke, rod) = (g.Above("stroke"), g.Above("rod"));
                if (rod <= stroke / 2)
                {
                    throw Given.Refuse("rod", "A rod shorter than the throw cannot turn.", "Give its length between centres.");
                }

                return
                [
                    new("Piston is down by", CrankHelp.Drop(g["angle"], stroke, rod), Quantity.Length, 2),
                    new("Acceleration at the top", null, Quantity.Ratio, 0, $"{Reckoner.TopAcceleration(stroke, rod, g.Above("speed")):0} m/s²"),
                    new("Mean piston speed", null, Quantity.Ratio, 0, $"{2 * stroke / 1000 * g["speed"] / 60:0.0} m/s"),
                ];
            },
        },
        new(
            "hatch",
            "Cross-hatch angle",
            "Bores, pistons and rings",
            "From the speed of turning and of stroking, or which strokes make a wanted angle.",
            "angle = 2 · atan(stroke rate · stroke length / (π · bore · speed))",
            "plane geometry",
            "hatch",
            [
                L("bore", "Bore", "88"),
                S("speed", "Hone turns", "200"),
                S("strokes", "Single strokes in a minute", "120"),
                L("length", "Length of a stroke", "150"),
            ]
        )
        {
            Work = g =>
            {
                var angle = Reckoner.HatchAngle(g.Above("bore"), g.Above("speed"), g.Above("strokes"), g.Above("length"));
                return
                [
                    new("Cross-hatch", angle, Quantity.Angle, 0, angle < 30 ? "Under 30°: usually too flat (common practice)." : ""),
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
            "film",
            "Oil film of a plain bearing",
            "Bearings and journals",
            "Least film of a bearing under a steady load, by solving Reynolds’ equation; the short-bearing solution beside it.",
            "S = (r/c)² μN/P; ∂/∂θ(h³ ∂p/∂θ) + (r/l)² ∂/∂z(h³ ∂p/∂z) = 6μω ∂h/∂θ",
            "A. A. Raimondi and J. Boyd, ASLE Transactions 1 (1958); F. W. Ocvirk, NACA 1157 (1953)",
            "film",
            [
                L("diameter", "Journal", "1.5 in"),
                L("width", "Shell width", "1.5 in"),
                L("clearance", "Clearance on the diameter", "0.003 in"),
                S("speed", "Speed", "1800"),
                new("viscosity", "Oil at bearing heat", Quantity.Viscosity, "mPas", "27.58"),
                new("load", "Steady load", Quantity.Force, "N", "500 lbf"),
            ]
        )
        {
            Work = g => Film(g.Above("diameter"), g.Above("width"), g.Above("clearance"), g.Above("speed"), g.Above("viscosity"), g.Above("load")),
        },
        new(
            "fit",
            "Rolling bearing on its shaft",
            "Bearings and journals",
            "Interference of a Normal-class inner ring on the measured shaft.",
            "shaft − bore, bore within 0 to −Δ",
            "ISO 492, Normal class; values from memory",
            "ballbearing",
            [L("nominal", "Nominal bore", "25"), L("shaft", "Shaft seat", "25.006")]
        )
        {
            Work = g =>
            {
                var (least, most) = Fits.OnShaft(g.Above("nominal"), g.Above("shaft"));
                return
                [
                    new("Least interference", least / 1000, Quantity.Length, 4),
                    new("Most interference", most / 1000, Quantity.Length, 4),
                    new(
                        "Words",
                        null,
                        Quantity.Ratio,
                        0,
                        most <= 0 ? "The ring is loose: the fit is lost."
                            : least < 0 ? "It may be loose or tight: measure the ring."
                            : "Tight with every ring of the class."
                    ),
                ];
            },
        },
        new(
            "tolerance",
            "Standard tolerance",
            "Bearings and journals",
            "Width of a tolerance grade at a size.",
            "i = 0.45 ∛D + 0.001 D µm; IT5 7i … IT11 100i",
            "ISO 286-1",
            "zones",
            [L("size", "Nominal size", "40"), C("grade", "Grade", ["IT5", "IT6", "IT7", "IT8", "IT9", "IT10", "IT11"], "IT7")]
        )
        {
            Work = g => [new("Tolerance", Fits.Tolerance(5 + g.Choice("grade"), g.Above("size")) / 1000, Quantity.Length, 3)],
        },
        new(
            "spring",
            "Spring rate and load",
            "Head and valves",
            "Rate from two loads and heights, and the load at another height.",
            "rate = ΔF / Δh",
            "Hooke’s law; any mechanics text",
            "spring",
            [
                F("f1", "Load at the first height", "250"),
                L("h1", "First height", "40"),
                F("f2", "Load at the second height", "600"),
                L("h2", "Second height", "30"),
                L("h", "Height asked about", "32"),
            ]
        )
        {
            Work = g =>
            {
                var run = g["h1"] - g["h2"];
                if (Math.Abs(run) < 1e-9)
                {
                    throw Given.Refuse("h2", "The two heights are one.", "Give two different heights.");
                }

                var rate = (g["f2"] - g["f1"]) / run;
                return
                [
                    new("Rate", null, Quantity.Ratio, 0, $"{rate:0.00} N/mm"),
                    new("Load there", g["f1"] + (rate * (g["h1"] - g["h"])), Quantity.Force, 0),
                ];
            },
        },
        new(
            "balance",
            "Rod ends to one weight",
            "Head and valves",
            "How much to take off each, so that all weigh what the lightest weighs.",
            "each less the least",
            "common practice, no source",
            "scales",
            [new("weights", "Weights", Quantity.Mass, "g", "412.4 413.1 411.8 412.0", InputKind.Figures)]
        )
        {
            Work = g =>
            {
                var w = g.Figures("weights", 2);
                return
                [
                    new("Spread", w.Max() - w.Min(), Quantity.Mass, 1),
                    new("Take off", null, Quantity.Ratio, 0, string.Join(", ", w.Select((x, i) => $"{i + 1}: {x - w.Min():0.0} g"))),
                ];
            },
        },
        new(
            "puller",
            "Puller bolts",
            "Loads",
            "Whether the bolts of a puller carry the pull.",
            "proof load = proof stress × stress area",
            "ISO 898-1, SAE J429; values from memory",
            "puller",
            [
                new("thread", "Thread", Quantity.Ratio, "x", "M10", InputKind.Words),
                C("grade", "Class or grade", BoltGrades, "10.9"),
                F("pull", "Pull in all", "60 kN"),
                N("bolts", "Bolts that share it", "3"),
            ]
        )
        {
            Work = g =>
            {
                var thread = PullerHelp.Parse(g.Text("thread"));
                var check = PullerHelp.Check(thread, (BoltGrade)g.Choice("grade"), g.Above("pull") / 1000, (int)Math.Round(g["bolts"]));
                return
                [
                    new("Proof load of one", check.Proof * 1000, Quantity.Force, 0),
                    new("On each", check.Each * 1000, Quantity.Force, 0),
                    new("Share of proof", 100 * check.Share, Quantity.Share, 0, check.Words),
                ];
            },
        },
        new(
            "forcing",
            "Forcing screw",
            "Loads",
            "Pull of a forcing screw from its torque.",
            "F = T / (K · d), K = 0.2",
            "any text on machine elements; K is a rule of thumb for oiled steel",
            "puller",
            [new("thread", "Thread", Quantity.Ratio, "x", "M20", InputKind.Words), new("torque", "Torque", Quantity.Torque, "Nm", "100")]
        )
        {
            Work = g => [new("Pull", 1000 * PullerHelp.PullOf(g.Above("torque"), PullerHelp.Parse(g.Text("thread"))), Quantity.Force, 0)],
        },
        new(
            "clock",
            "Ring position as a clock",
            "Bores, pistons and rings",
            "From arc length along the crown to an angle.",
            "angle = 360 · arc / (π · bore)",
            "plane geometry",
            "clock",
            [L("bore", "Bore", "88"), L("arc", "Arc from the free end", "60")]
        )
        {
            Work = g => [new("Angle", 360 * g["arc"] / (Math.PI * g.Above("bore")), Quantity.Angle, 0)],
        },
    ];

    public static BenchReckoner? Find(string id) => All.FirstOrDefault(r => r.Id == id);

    /// <summary>
    /// Film of a plain bearing. Diameter, width and clearance on the diameter in mm, speed in 1/min, viscosity in mPa·s, load in N.
    /// </summary>
    public static IReadOnlyList<ReckonerResult> Film(double diameter, double width, double clearance, double speed, double viscosity, double load)
    {
        var c = clearance / 2;
        var pressure = load / (diameter * width) * 1e6;
        var sommerfeld = Math.Pow(diameter / 2 / c, 2) * (viscosity / 1000) * (speed / 60) / pressure;
        var ratio = width / diameter;
        var bearing = ReynoldsFilm.At(sommerfeld, ratio);
        return
        [
            new(
                "Least film",
                bearing.LeastFilm * c,
                Quantity.Length,
                4,
                "Under a few thousandths of a millimetre the roughness of the parts touches (common practice)."
            ),
            new("Sommerfeld number", sommerfeld, Quantity.Ratio, 3),
            new("Eccentricity ratio", bearing.Eccentricity, Quantity.Ratio, 3),
            new("Friction variable (r/c) f", bearing.Friction, Quantity.Ratio, 2),
            new("Flow variable Q/(rcNl)", bearing.Flow, Quantity.Ratio, 2),
            new("Greatest pressure", pressure / bearing.PressureRatio / 1000, Quantity.Pressure, 0),
            new(
                "Short-bearing least film",
                (1 - ShortBearing(sommerfeld, ratio)) * c,
                Quantity.Length,
                4,
                ratio > 0.6 ? "The short-bearing solution holds up to a width of about half the diameter." : ""
            ),
        ];
    }

    /// <summary>Eccentricity of the short bearing at a Sommerfeld number, by bisection.</summary>
    private static double ShortBearing(double sommerfeld, double ratio)
    {
        var (low, high) = (1e-6, 1 - 1e-9);
        for (var i = 0; i < 80; i++)
        {
            var middle = (low + high) / 2;
            (low, high) = ReynoldsFilm.OcvirkSommerfeld(middle, ratio) > sommerfeld ? (middle, high) : (low, middle);
        }

        return low;
    }

    /// <summary>The ways of a shop as they were typed.</summary>
    private static Schools Ways(Given g) =>
        g["allowance"] is >= 0 and <= 2 and var allowance
            ? new Schools
            {
                GrindingAllowance = (decimal)allowance,
                BoringAllowance = (decimal)allowance,
                Centres = (Centres)g.Choice("centres"),
                Steps = (StepSystem)g.Choice("steps"),
            }
            : throw Given.Refuse(
                "allowance",
                "Grinding or boring takes something off, and not millimetres of it.",
                "Give 0 to 2 mm on the diameter."
            );

    private static string Sixtyfourths(double inches)
    {
        var n = (int)Math.Round(inches * 64);
        var (whole, top, bottom) = (n / 64, n % 64, 64);
        while (top > 0 && top % 2 == 0)
        {
            top /= 2;
            bottom /= 2;
        }

        var off = (inches - (n / 64.0)) * 1000;
        var fraction =
            top == 0 ? $"{whole}"
            : whole == 0 ? $"{top}/{bottom}"
            : $"{whole}-{top}/{bottom}";
        return $"{fraction} in {(Math.Abs(off) < 0.05 ? "" : off.ToString("+0.0 thou;−0.0 thou", CultureInfo.InvariantCulture))}".TrimEnd();
    }

    private static ReckonerInput L(string id, string name, string example, string unit = "mm") => new(id, name, Quantity.Length, unit, example);

    private static ReckonerInput V(string id, string name, string example) => new(id, name, Quantity.Volume, "cm³", example);

    private static ReckonerInput T(string id, string name, string example) => new(id, name, Quantity.Temperature, "°C", example);

    private static ReckonerInput A(string id, string name, string example) => new(id, name, Quantity.Angle, "deg", example);

    private static ReckonerInput S(string id, string name, string example) => new(id, name, Quantity.Speed, "rpm", example);

    private static ReckonerInput F(string id, string name, string example) => new(id, name, Quantity.Force, "N", example);

    private static ReckonerInput N(string id, string name, string example) => new(id, name, Quantity.Ratio, "x", example);

    private static ReckonerInput P(string id, string name, string example, string unit) => new(id, name, Quantity.Pressure, unit, example);

    private static ReckonerInput C(string id, string name, IReadOnlyList<string> choices, string first) =>
        new(id, name, Quantity.Ratio, "x", first, InputKind.Choice, choices);
}
