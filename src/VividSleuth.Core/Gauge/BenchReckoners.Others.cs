using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Gauge;

public static partial class BenchReckoners
{
    /// <summary>Head and valves, and loads.</summary>
    private static IReadOnlyList<BenchReckoner> Others() =>
        [
            new(
                "spring",
                "head-and-valves",
                Formulas.SpringRate.Equation,
                Formulas.SpringRate.Source,
                "spring",
                [
                    F(Formulas.SpringRate, "f1", "250"),
                    F(Formulas.SpringRate, "h1", "40"),
                    F(Formulas.SpringRate, "f2", "600"),
                    F(Formulas.SpringRate, "h2", "30"),
                    L("h", "height-asked-about", "32", from: 1, to: 1000),
                ]
            )
            {
                Work = g =>
                {
                    var rate = Formulas.SpringRate.Of(g["f1"], g["h1"], g["f2"], g["h2"]);
                    return
                    [
                        new("rate", null, Quantity.Ratio, 0, Fact.Of("reckoners.n-mm", ("rate", new Number(rate, 2, true)))),
                        new("load-there", g["f1"] + (rate * (g["h1"] - g["h"])), Quantity.Force, 0),
                    ];
                },
            },
            new(
                "balance",
                "head-and-valves",
                Equation: "each less the least",
                Source: "common practice, no source",
                "scales",
                [new("weights", "weights", Quantity.Mass, "g", "412.4 413.1 411.8 412.0", InputKind.Figures)]
            )
            {
                Work = g =>
                {
                    var w = g.Figures("weights", 2);
                    return
                    [
                        new("spread", w.Max() - w.Min(), Quantity.Mass, 1),
                        new(
                            "take-off",
                            null,
                            Quantity.Ratio,
                            0,
                            Fact.Of(
                                "reckoners.each-off",
                                (
                                    "each",
                                    w.Select(
                                            (x, i) =>
                                                Fact.Of("reckoners.one-off", ("nth", i + 1), ("weight", new Amount(x - w.Min(), Quantity.Mass, 1)))
                                        )
                                        .ToArray()
                                )
                            )
                        ),
                    ];
                },
            },
            new(
                "puller",
                "loads",
                Equation: "proof load = proof stress × stress area; hub: τ · 0.875 π d (m − 0.8 P)",
                Source: "ISO 898-1, SAE J429, VDI 2230; values from memory",
                "puller",
                [
                    new("thread", "thread", Quantity.Ratio, "x", "M10", InputKind.Words),
                    C("grade", "class-or-grade", [.. BoltGrades.Select(AsItIs)], "10.9"),
                    Force("pull", "pull-in-all", "60 kN"),
                    N("bolts", "bolts-that-share-it", "3", 1, 12),
                    L("engaged", "thread-in-the-hub", "15", from: 1, to: 200),
                    C("hub", "hub-is-of", Choices("steel", "cast-iron", "aluminium"), "cast-iron"),
                ]
            )
            {
                Work = g =>
                {
                    var thread = PullerHelp.Parse(g.Text("thread"));
                    var check = PullerHelp.Check(thread, (BoltGrade)g.Choice("grade"), g.Above("pull") / 1000, (int)g["bolts"]);
                    var hub = PullerHelp.Hub(thread, check.Each, g.Above("engaged"), (HubMetal)g.Choice("hub"));
                    return
                    [
                        new("proof-load-of-one", check.Proof * 1000, Quantity.Force, 0),
                        new("on-each", check.Each * 1000, Quantity.Force, 0),
                        new("share-of-proof", 100 * check.Share, Quantity.Share, 0, check.Words),
                        new("hub-strips-at", hub.Strips * 1000, Quantity.Force, 0, hub.Words),
                    ];
                },
            },
            new(
                "preload",
                "loads",
                Equation: $"{Formulas.BoltPreload.Equation}; D = 1.3 d",
                Source: "VDI 2230, part 1, friction classes A 0.04–0.10, B 0.08–0.16, C 0.14–0.24; values from memory",
                Drawing: "puller",
                Inputs:
                [
                    new("thread", "thread", Quantity.Ratio, "x", "M10", InputKind.Words),
                    F(Formulas.BoltPreload, "torque", "50"),
                    C("grade", "class-or-grade", [.. BoltGrades.Select(AsItIs)], "8.8"),
                    C("thread-is", "thread-is", Choices("coated", "oiled", "dry"), "oiled"),
                ]
            )
            {
                Work = g => Preload(PullerHelp.Parse(g.Text("thread")), g.Above("torque"), (BoltGrade)g.Choice("grade"), g.Choice("thread-is")),
            },
            new(
                "forcing",
                "loads",
                Equation: $"{Formulas.ScrewPull.Equation}; K {PullerHelp.Greased} greased, {PullerHelp.Dry} dry to lightly oiled",
                Formulas.ScrewPull.Source,
                "puller",
                [
                    new("thread", "thread", Quantity.Ratio, "x", "M20", InputKind.Words),
                    F(Formulas.ScrewPull, "torque", "100"),
                    C("thread-is", "thread-is", Choices("greased", "dry"), "greased"),
                ]
            )
            {
                Work = g =>
                    [
                        new(
                            "pull",
                            1000 * PullerHelp.PullOf(g["torque"], PullerHelp.Parse(g.Text("thread")), greased: g.Choice("thread-is") == 0),
                            Quantity.Force,
                            0
                        ),
                    ],
            },
        ];

    /// <summary>Friction of threads as they are greased or coated, oiled, and dry: classes A, B and C of VDI 2230; values from memory.</summary>
    private static readonly (double Least, double Most)[] Friction = [(0.04, 0.10), (0.08, 0.16), (0.14, 0.24)];

    /// <summary>Mean diameter of the friction under an ordinary hexagon head, of the thread’s. Common practice, no source.</summary>
    private const double UnderTheHead = 1.3;

    /// <summary>The same torque, and what it may come to: friction decides, and nobody knows it better than by its class.</summary>
    private static IReadOnlyList<ReckonerResult> Preload(ScrewThread thread, double torque, BoltGrade grade, int friction)
    {
        var (slippery, rough) = Friction[friction];
        // ISO 68-1: the pitch diameter of a 60° thread.
        var pitchDiameter = thread.Diameter - (0.6495 * thread.Pitch);
        double At(double mu) => Formulas.BoltPreload.Of(torque, thread.Pitch, pitchDiameter, UnderTheHead * thread.Diameter, mu, mu);
        var proof = 1000 * PullerHelp.ProofLoad(thread, grade);
        return
        [
            new("preload-at-least", At(rough), Quantity.Force, 0),
            new("preload-at-most", At(slippery), Quantity.Force, 0),
            new(
                "share-of-proof",
                100 * At(slippery) / proof,
                Quantity.Share,
                0,
                Fact.Of(At(slippery) > proof ? "reckoners.may-stretch-the-bolt" : "reckoners.torque-tells-little-of-preload")
            ),
        ];
    }
}
