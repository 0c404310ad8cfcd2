using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

public static partial class BenchReckoners
{
    /// <summary>Bearings and journals.</summary>
    private static IReadOnlyList<BenchReckoner> Bearings() =>
        [
            new(
                "bearing-clearance",
                "Plain bearing clearance",
                "Bearings and journals",
                "What is left between journal and shells.",
                Formulas.BearingClearance.Equation,
                Formulas.BearingClearance.Source,
                "shells",
                [
                    F(Formulas.BearingClearance, "housing", "77.050"),
                    F(Formulas.BearingClearance, "upper", "2.624"),
                    F(Formulas.BearingClearance, "lower", "2.624"),
                    F(Formulas.BearingClearance, "journal", "71.748"),
                ]
            )
            {
                Work = g =>
                {
                    var c = Formulas.BearingClearance.Of(g["housing"], g["upper"], g["lower"], g["journal"]);
                    var usual = g.Thumb(SheetBuilder.BigEndClearance, PartKinds.Rod, g["journal"]);
                    return
                    [
                        new("Clearance", c, Quantity.Length, 4),
                        new("Usual by rule of thumb, from", usual.Least, Quantity.Length, 4),
                        new("to", usual.Most, Quantity.Length, 4, usual.SourceText),
                        new(
                            "Words",
                            null,
                            Quantity.Ratio,
                            0,
                            c <= 0 ? "It would seize: look for a wrong grade or a cap not torqued."
                                : c > usual.Most ? "More than the rule of thumb."
                                : c < usual.Least ? "Less than the rule of thumb."
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
                    L("allowance", "Grinding takes at least", "0.05", to: 2),
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
                "film",
                "Oil film of a plain bearing",
                "Bearings and journals",
                "Least film of a bearing under a steady load, by solving Reynolds’ equation; the short-bearing solution beside it.",
                $"{Formulas.Sommerfeld.Equation}; ∂/∂θ(h³ ∂p/∂θ) + (r/l)² ∂/∂z(h³ ∂p/∂z) = 6μω ∂h/∂θ",
                "A. A. Raimondi and J. Boyd, ASLE Transactions 1 (1958); F. W. Ocvirk, NACA 1157 (1953)",
                "film",
                [
                    F(Formulas.Sommerfeld, "diameter", "1.5 in"),
                    F(Formulas.Sommerfeld, "width", "1.5 in"),
                    F(Formulas.Sommerfeld, "clearance", "0.003 in"),
                    F(Formulas.Sommerfeld, "speed", "1800"),
                    F(Formulas.Sommerfeld, "viscosity", "27.58"),
                    F(Formulas.Sommerfeld, "load", "500 lbf"),
                ]
            )
            {
                Work = g => Film(g["diameter"], g["width"], g["clearance"], g["speed"], g["viscosity"], g["load"]),
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
                Formulas.StandardTolerance.Equation,
                Formulas.StandardTolerance.Source,
                "zones",
                [F(Formulas.StandardTolerance, "size", "40"), C("grade", "Grade", ["IT5", "IT6", "IT7", "IT8", "IT9", "IT10", "IT11"], "IT7")]
            )
            {
                Work = g => [new("Tolerance", Formulas.StandardTolerance.Of(5 + g.Choice("grade"), g["size"]), Quantity.Length, 3)],
            },
        ];
}
