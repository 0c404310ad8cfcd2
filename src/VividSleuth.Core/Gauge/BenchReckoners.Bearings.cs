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
                "bearings-and-journals",
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
                    var usual = g.Thumb(Characteristics.BigEndClearance, PartKinds.Rod, g["journal"]);
                    return
                    [
                        new("clearance", c, Quantity.Length, 4),
                        new("usual-by-rule-of-thumb-from", usual.Least, Quantity.Length, 4),
                        new("to", usual.Most, Quantity.Length, 4, usual.SourceText),
                        new(
                            "words",
                            null,
                            Quantity.Ratio,
                            0,
                            c <= 0 ? Fact.Of("reckoners.would-seize-look-wrong-grade")
                                : c > usual.Most ? Fact.Of("reckoners.more-than-rule-thumb")
                                : c < usual.Least ? Fact.Of("reckoners.less-than-rule-thumb")
                                : Fact.Of("reckoners.usual")
                        ),
                    ];
                },
            },
            new(
                "strip",
                "bearings-and-journals",
                Formulas.StripClearance.Equation,
                Formulas.StripClearance.Source,
                "shells",
                [
                    F(Formulas.StripClearance, "mark", "0.051"),
                    F(Formulas.StripClearance, "markWidth", "2.0"),
                    L("wide", "widest-of-the-strip", "2.4", from: 0.2, to: 50),
                    L("narrow", "narrowest-of-the-strip", "2.1", from: 0.2, to: 50),
                    L("eye", "width-read-to", "0.15", to: 2),
                ]
            )
            {
                Work = g => Strip(g["mark"], g["markWidth"], g.Above("wide"), g.Above("narrow"), g["eye"]),
            },
            new(
                "grade",
                "bearings-and-journals",
                Equation: "Bayes’ rule over the usual steps; wear exponential, reading normal",
                Source: "steps: common practice, no source; odds of the grades are ours",
                "journal",
                [
                    L("standard", "standard-diameter", "72.000"),
                    L("found", "measured", "71.741"),
                    L("uncertainty", "expanded-uncertainty", "0.006"),
                    C("steps", "steps", Systems, "both"),
                ]
            )
            {
                Work = g =>
                {
                    var odds = GradeOdds.OfJournal(
                        (decimal)g.Above("standard"),
                        new Measured(g.Above("found"), g["uncertainty"] / 2),
                        StepsOf(PartKinds.Crankpin, g)
                    );
                    return odds.Count == 0
                        ? [new("no-usual-grade-fits", null, Quantity.Ratio, 0, Fact.Of("reckoners.check-standard-size-journal-worn"))]
                        : odds.Take(4)
                            .Select(o => new ReckonerResult(
                                "grade",
                                100 * o.P,
                                Quantity.Share,
                                1,
                                Fact.Of("reckoners.size-when-ground", ("size", Amount.Length(g["standard"] - (double)o.Grade.Under)))
                            )
                            {
                                Name = Fact.Text(o.Grade.Name),
                            });
                },
            },
            new(
                "undersize",
                "bearings-and-journals",
                Equation: "standard − step ≤ unworn − 2 · (unworn − least) − allowance on the old centres; ≤ least − allowance following the wear",
                Source: "common practice, no source",
                "journal",
                [
                    L("standard", "standard-diameter", "72.000"),
                    L("least", "smallest-found-on-any-journal", "71.728"),
                    L("allowance", "grinding-takes-at-least", "0.05", to: 2),
                    C("centres", "ground", SetUps, "on-its-old-centres"),
                    C("steps", "steps", Systems, "both"),
                ]
            )
            {
                Work = g =>
                {
                    var next = Machining.Undersize((decimal)g.Above("standard"), (decimal)g.Above("least"), StepsOf(PartKinds.Crankpin, g), Ways(g));
                    return next is null
                        ? [new("none", null, Quantity.Ratio, 0, Fact.Of("reckoners.usual-undersize-deep-enough"))]
                        :
                        [
                            new(
                                "grind-to",
                                g["standard"] - (double)next.Under,
                                Quantity.Length,
                                3,
                                Fact.Of("reckoner.say.so-much-under", ("step", next.Name))
                            ),
                        ];
                },
            },
            new(
                "film",
                "bearings-and-journals",
                Equation: $"{Formulas.Sommerfeld.Equation}; ∂/∂θ(h³ ∂p/∂θ) + (r/l)² ∂/∂z(h³ ∂p/∂z) = 6μω ∂h/∂θ",
                Source: "A. A. Raimondi and J. Boyd, ASLE Transactions 1 (1958); F. W. Ocvirk, NACA 1157 (1953)",
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
                "bearings-and-journals",
                Equation: "shaft − bore, bore within 0 to −Δ",
                Source: "ISO 492, Normal class; values from memory",
                "ballbearing",
                [L("nominal", "nominal-bore", "25"), L("shaft", "shaft-seat", "25.006")]
            )
            {
                Work = g =>
                {
                    var (least, most) = Fits.OnShaft(g.Above("nominal"), g.Above("shaft"));
                    return
                    [
                        new("least-interference", least / 1000, Quantity.Length, 4),
                        new("most-interference", most / 1000, Quantity.Length, 4),
                        new(
                            "words",
                            null,
                            Quantity.Ratio,
                            0,
                            most <= 0 ? Fact.Of("reckoners.ring-loose-fit-lost")
                                : least < 0 ? Fact.Of("reckoners.may-loose-tight-measure-ring")
                                : Fact.Of("reckoners.tight-every-ring-class")
                        ),
                    ];
                },
            },
            new(
                "tolerance",
                "bearings-and-journals",
                Formulas.StandardTolerance.Equation,
                Formulas.StandardTolerance.Source,
                "zones",
                [F(Formulas.StandardTolerance, "size", "40"), C("grade", "grade", [.. Enumerable.Range(5, 7).Select(n => AsItIs($"IT{n}"))], "IT7")]
            )
            {
                Work = g => [new("tolerance", Formulas.StandardTolerance.Of(5 + g.Choice("grade"), g["size"]), Quantity.Length, 3)],
            },
        ];

    /// <summary>
    /// Clearance at the tightest line, where the strip is widest; its doubt from reading the width, and from the mark of the paper, which steps by as
    /// much as it is told to. What it is at the narrowest tells how far the journal tapers.
    /// </summary>
    /// <param name="eye">To which the width is read, either way, mm.</param>
    private static IReadOnlyList<ReckonerResult> Strip(double mark, double markWidth, double wide, double narrow, double eye)
    {
        if (narrow > wide)
        {
            throw new ProblemException(Problem.Of("narrow", "reckoners.narrowest-is-wider"));
        }

        var width = Estimate.Of(wide, new Influence("width", Fact.Of("reckoners.width-of-strip"), Uncertainty.Rectangular(eye)));
        var tight = Estimate.Through(v => Formulas.StripClearance.Of(mark, markWidth, v[0]), width);
        var loose = Formulas.StripClearance.Of(mark, markWidth, narrow);
        return
        [
            new("clearance", tight.Value, Quantity.Length, 3),
            new("expanded-uncertainty-95", tight.Expanded, Quantity.Length, 3),
            new(
                "where-it-is-narrowest",
                loose,
                Quantity.Length,
                3,
                Fact.Of(loose - tight.Value > tight.Expanded ? "reckoners.strip-tells-taper" : "reckoners.strip-tells-no-taper")
            ),
        ];
    }
}
