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
                "Spring rate and load",
                "Head and valves",
                "Rate from two loads and heights, and the load at another height.",
                Formulas.SpringRate.Equation,
                Formulas.SpringRate.Source,
                "spring",
                [
                    F(Formulas.SpringRate, "f1", "250"),
                    F(Formulas.SpringRate, "h1", "40"),
                    F(Formulas.SpringRate, "f2", "600"),
                    F(Formulas.SpringRate, "h2", "30"),
                    L("h", "Height asked about", "32", from: 1, to: 1000),
                ]
            )
            {
                Work = g =>
                {
                    var rate = Formulas.SpringRate.Of(g["f1"], g["h1"], g["f2"], g["h2"]);
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
                    Force("pull", "Pull in all", "60 kN"),
                    N("bolts", "Bolts that share it", "3", 1, 12),
                ]
            )
            {
                Work = g =>
                {
                    var thread = PullerHelp.Parse(g.Text("thread"));
                    var check = PullerHelp.Check(thread, (BoltGrade)g.Choice("grade"), g.Above("pull") / 1000, (int)g["bolts"]);
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
                $"{Formulas.ScrewPull.Equation}; K {PullerHelp.Greased} greased, {PullerHelp.Dry} dry to lightly oiled",
                Formulas.ScrewPull.Source,
                "puller",
                [
                    new("thread", "Thread", Quantity.Ratio, "x", "M20", InputKind.Words),
                    F(Formulas.ScrewPull, "torque", "100"),
                    C("thread-is", "Thread is", ["greased", "dry"], "greased"),
                ]
            )
            {
                Work = g =>
                    [
                        new(
                            "Pull",
                            1000 * PullerHelp.PullOf(g["torque"], PullerHelp.Parse(g.Text("thread")), greased: g.Choice("thread-is") == 0),
                            Quantity.Force,
                            0
                        ),
                    ],
            },
        ];
}
