using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

/// <summary>To which size all of a kind are machined.</summary>
public sealed class MachiningPlanTests
{
    private static IReadOnlyList<MachiningPlan> Plans(Action<EngineCase> fill, Schools? schools = null, EngineLayout? layout = null)
    {
        var c = Start.Case(layout);
        fill(c);
        return CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today, schools).Verdict.Plans;
    }

    private static Reading At(string place, string characteristic, double value, string station = "", string direction = "")
    {
        var reading = Start.Read(place, characteristic, (decimal)value);
        (reading.Station, reading.Direction) = (station, direction);
        return reading;
    }

    private static SizeSteps Steps(string kind, StepSystem system) => SizeSteps.Usual(KnowledgeBase.BuiltIn, kind, system);

    [Fact]
    public void All_pins_go_to_the_size_that_cleans_up_the_worst_with_its_uncertainty()
    {
        IReadOnlyList<MachiningPlan> Worn(Centres centres) =>
            Plans(
                c =>
                {
                    c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("bore-diameter", 88m)]);
                    c.Readings.AddRange([
                        At("K1", "crankpin-diameter", 71.98),
                        At("K5", "crankpin-diameter", 71.72),
                        At("C2", "bore-diameter", 88.13, "middle", "across"),
                    ]);
                },
                new Schools { Centres = centres }
            );

        var pins = Worn(Centres.Shifted).Single(m => m.Kind == "crankpin");
        (pins.Worst, pins.Step, pins.State).ShouldBe(("K5", "0.50", PlanState.Size));
        pins.Cleans!.Value.ShouldBeGreaterThan(0.95);
        (pins.Measured, pins.All).ShouldBe((2, 6));
        pins.Words.ShouldContain("Only 2 of 6 are measured");
        Worn(Centres.Shifted).Single(m => m.Kind == "bore").Size.ShouldBe(88.25);
        Worn(Centres.Original).Single(m => m.Kind == "bore").Size.ShouldBe(88.5);
    }

    /// <summary>
    /// Common practice, no source: wear is mostly one-sided, so that 0.20 mm off one side of a 72 mm pin needs 71.60 on the old centres
    /// (standard − 2 × loss), and not 71.80; a boring bar on the old centres likewise.
    /// </summary>
    [Fact]
    public void On_the_old_centres_wear_on_one_side_counts_twice()
    {
        var bare = new Schools { GrindingAllowance = 0, BoringAllowance = 0 };
        var (pins, bores) = (Steps("crankpin", StepSystem.Metric), Steps("bore", StepSystem.Metric));
        Machining.Left(72m, 71.80m, Centres.Original).ShouldBe(71.60m);
        // 71.60 is left, so that 0.50 under (71.50) cleans up, and 0.25 under (71.75) does not.
        Machining.Undersize(72m, 71.80m, pins, bare)!.Under.ShouldBe(0.50m);
        Machining.Undersize(72m, 71.80m, pins, bare with { Centres = Centres.Shifted })!.Under.ShouldBe(0.25m);
        Machining.Oversize(88m, 88.20m, bores, bare)!.Under.ShouldBe(0.50m);
        Machining.Oversize(88m, 88.20m, bores, bare with { Centres = Centres.Shifted })!.Under.ShouldBe(0.25m);
        // One that was ground before wore from its own size: 71.75 to 71.70 leaves 71.65.
        Machining.Undersize(72m, 71.70m, pins, bare)!.Under.ShouldBe(0.50m);
        Machining.Undersize(72m, 70.2m, pins, bare).ShouldBeNull();
    }

    /// <summary>
    /// The drawing board: a round worn on one side over a width, drawn as a polygon. The largest circle about the old centre, and the largest of any
    /// centre on the line of wear, found by trying; they are what the two formulas say.
    /// </summary>
    [Theory]
    [InlineData(36, 0.20, 40)]
    [InlineData(36, 0.05, 90)]
    [InlineData(25, 0.35, 60)]
    public void What_is_left_agrees_with_a_drawing(double radius, double loss, double halfWidth)
    {
        double Surface(double degrees)
        {
            var off = Math.Abs(((degrees + 180) % 360) - 180);
            return off >= halfWidth ? radius : radius - (loss * (1 + Math.Cos(Math.PI * off / halfWidth)) / 2);
        }

        double LargestAbout(double x) =>
            Enumerable
                .Range(0, 3600)
                .Select(i =>
                {
                    var (angle, r) = (Math.PI * i / 1800, Surface(i / 10.0));
                    return Math.Sqrt(Math.Pow((r * Math.Cos(angle)) - x, 2) + Math.Pow(r * Math.Sin(angle), 2));
                })
                .Min();

        var (unworn, least) = (2 * radius, (2 * radius) - loss);
        (2 * LargestAbout(0)).ShouldBe((double)Machining.Left((decimal)unworn, (decimal)least, Centres.Original), 1e-6);
        var moved = Enumerable.Range(0, 2001).Max(i => LargestAbout(-loss * i / 2000));
        // A narrow hollow lets a little more stand beside it than the diameter through it does; never less.
        (2 * moved).ShouldBe((double)Machining.Left((decimal)unworn, (decimal)least, Centres.Shifted), 0.5 * loss);
        (2 * moved).ShouldBeGreaterThanOrEqualTo((double)least - 1e-6);
    }

    /// <summary>
    /// Several figures at once: independent ones multiply; of two that share all their doubt the nearer alone counts; and of what is between the two by a
    /// long row of dice with MathNet.
    /// </summary>
    [Fact]
    public void The_chance_of_all_at_once_knows_what_they_share()
    {
        Estimate Of(double value, params (string Key, double U)[] from) =>
            Estimate.Of(value, [.. from.Select(f => new Influence(f.Key, Fact.None, f.U))]);
        AllAtOnce.Above([]).ShouldBe(1);
        AllAtOnce.Above([Of(1, ("a", 1)), Of(0.5, ("b", 1))]).ShouldBe(0.841345 * 0.691462, 1e-5);
        AllAtOnce.Above([Of(1, ("one", 1)), Of(0.5, ("one", 1))]).ShouldBe(0.691462, 4e-3);

        Estimate[] mixed =
        [
            Of(0.010, ("gauge", 0.006), ("room", 0.004), ("p", 0.003)),
            Of(0.006, ("gauge", 0.006), ("room", 0.004), ("q", 0.003)),
            Of(0.015, ("gauge", -0.006), ("room", 0.004), ("r", 0.006)),
        ];
        var dice = new MathNet.Numerics.Random.MersenneTwister(15);
        double N() => MathNet.Numerics.Distributions.Normal.Sample(dice, 0, 1);
        var hits = 0;
        const int throws = 200_000;
        for (var i = 0; i < throws; i++)
        {
            var (g, r) = (N(), N());
            hits +=
                0.010 + (0.006 * g) + (0.004 * r) + (0.003 * N()) > 0
                && 0.006 + (0.006 * g) + (0.004 * r) + (0.003 * N()) > 0
                && 0.015 - (0.006 * g) + (0.004 * r) + (0.006 * N()) > 0
                    ? 1
                    : 0;
        }

        AllAtOnce.Above(mixed).ShouldBe((double)hits / throws, 6e-3);
    }

    [Fact]
    public void The_chance_is_one_whatever_order_the_places_come_in() =>
        Gen.Select(Gen.Double[-0.02, 0.05], Gen.Double[0.001, 0.01], Gen.Double[0.001, 0.01])
            .Array[2, 7]
            .Sample(rows =>
            {
                Estimate[] margins =
                [
                    .. rows.Select(
                        (r, i) => Estimate.Of(r.Item1, new Influence("gauge", Fact.None, r.Item2), new Influence($"own/{i}", Fact.None, r.Item3))
                    ),
                ];
                var p = AllAtOnce.Above(margins);
                p.ShouldBeInRange(0, 1);
                AllAtOnce.Above([.. margins.Reverse()]).ShouldBe(p, 1e-9);
                // One place more never makes it likelier.
                AllAtOnce.Above([.. margins.Skip(1)]).ShouldBeGreaterThanOrEqualTo(p - 5e-3);
            });

    /// <summary>An inch shop is told its own steps in plan, advice and reckoner alike, and the three never name two sizes.</summary>
    [Theory]
    [InlineData(StepSystem.Inch, ".020")]
    [InlineData(StepSystem.Metric, "0.50")]
    public void One_size_is_told_everywhere(StepSystem steps, string step)
    {
        var schools = new Schools { Steps = steps };
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        c.Readings.AddRange([Start.Read("K4", "crankpin-diameter", 71.735m), At("K4", "score-depth", 0.003)]);
        c.Findings.Add(Start.Saw("K4", "journal-scored", 3));
        var verdict = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today, schools).Verdict;
        var plan = verdict.Plans.Single();
        plan.Step.ShouldBe(step);
        var advice = verdict.Places.Single(a => a.Place == "K4");
        advice.Course.ShouldBe("grind");
        advice.Reason.ShouldContain($"all to {step} (");
        var typed = new Dictionary<string, string>
        {
            ["standard"] = "72",
            ["least"] = "71.730",
            ["allowance"] = "0.05",
            ["centres"] = "on-its-old-centres",
            ["steps"] = steps.ToString().ToLowerInvariant(),
        };
        BenchReckoners.Find("undersize")!.Reckon(typed)[0].Words.ShouldStartWith(step);
    }

    [Fact]
    public void Scoring_goes_deeper_than_the_diameter_and_is_measured_or_told_to_be_taken()
    {
        MachiningPlan Scored(int level, double? depth) =>
            Plans(
                    c =>
                    {
                        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
                        c.Readings.Add(At("K2", "crankpin-diameter", 71.96));
                        c.Findings.Add(Start.Saw("K2", "journal-scored", level));
                        if (depth is { } d)
                        {
                            c.Readings.Add(At("K2", "score-depth", d));
                        }
                    },
                    new Schools { Steps = StepSystem.Metric, Centres = Centres.Shifted }
                )
                .Single();
        Scored(3, null).Words.ShouldContain("by the look of it (rule of thumb): measure its depth");
        Scored(3, null).Places[0].ScoringRead.ShouldBeFalse();
        Scored(3, 0.158).Words.ShouldContain("0.158 mm deep at K2, as measured");
        // 71.96 less a score of 0.158 and 0.05 to grind leaves 71.752: 71.75 is not sure, 71.50 is.
        Scored(1, null).Step.ShouldBe("0.25");
        Scored(3, 0.158).Step.ShouldBe("0.50");
        Scored(3, 0.158).Sizes.Single(s => s.Step == "0.25").Cleans.ShouldBeInRange(0.5, 0.95);
    }

    [Fact]
    public void Sizes_are_those_of_this_engine_up_to_what_bounds_them()
    {
        IReadOnlyList<MachiningPlan> With(decimal[] steps, decimal? furthest, BoundBy by = BoundBy.Hardening) =>
            Plans(c =>
            {
                c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
                c.Readings.Add(At("K5", "crankpin-diameter", 71.80));
                c.Sizes.Add(
                    new ServiceSizes
                    {
                        Id = Guid.CreateVersion7(),
                        Kind = "crankpin",
                        Steps = [.. steps],
                        Furthest = furthest,
                        FurthestBy = by,
                        SourceText = "manual, page 9",
                    }
                );
            });
        With([0.3m, 0.6m], null).Single().Step.ShouldBe("0.60");
        var bounded = With([0.3m, 0.6m], 0.4m).Single();
        (bounded.State, bounded.Size).ShouldBe((PlanState.TooFar, null));
        bounded.Words.ShouldContain("0.60 would, but that is further than 0.40 mm, bounded by the depth of hardening (manual, page 9)");
        With([0.2m], null).Single().State.ShouldBe(PlanState.TooFar);
        // What only the maker can allow is told, and not planned with.
        var far = Plans(c =>
            {
                c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
                c.Readings.Add(At("K5", "crankpin-diameter", 71.45));
                c.Readings.Add(At("K5", "unworn-at-fillet", 71.99));
            })
            .Single();
        far.State.ShouldBe(PlanState.TooFar);
        far.Words.ShouldContain("only where the maker allows it");
    }

    [Fact]
    public void A_crack_takes_the_size_off_the_plan()
    {
        var plan = Plans(c =>
            {
                c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
                c.Readings.Add(At("K4", "crankpin-diameter", 71.80));
                c.Findings.Add(Start.Saw("K1", "journal-crack", 1));
            })
            .Single();
        (plan.State, plan.Size, plan.Condemned).ShouldBe((PlanState.None, null, "K1"));
        plan.Words.ShouldContain("not ground");
    }

    [Fact]
    public void Each_bore_is_honed_to_its_own_piston()
    {
        var c = Start.Case();
        c.Limits.AddRange([
            Start.Standard("bore-diameter", 88m),
            new Limit
            {
                Id = Guid.CreateVersion7(),
                Characteristic = "piston-clearance",
                Least = 0.04m,
                Most = 0.06m,
                SourceText = "manual, page 7",
            },
        ]);
        c.Candidates.Add(
            new Candidate
            {
                Id = Guid.CreateVersion7(),
                Letter = "B",
                What = "piston-set",
            }
        );
        c.Readings.AddRange([
            At("C2", "bore-diameter", 88.14, "middle", "across"),
            At("P1", "piston-diameter", 87.93),
            At("P1.B", "piston-diameter", 88.452),
            At("P2.B", "piston-diameter", 88.459),
        ]);
        var plan = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today).Verdict.Plans.Single();
        plan.Step.ShouldBe("0.50");
        plan.Hone.Select(h => (h.Bore, h.Piston)).ShouldBe([("C1", "P1.B"), ("C2", "P2.B")]);
        plan.Hone[1].Least.ShouldBe(88.499, 1e-9);
        plan.Hone[1].Most.ShouldBe(88.519, 1e-9);
        plan.Hone[0].Clearance.ShouldContain("manual, page 7");
    }

    [Fact]
    public void A_face_is_skimmed_as_far_as_its_thickness_allows()
    {
        MachiningPlan Head(decimal? thickness, decimal? least, int eaten = 0) =>
            Plans(c =>
                {
                    c.Readings.Add(Start.Read("H1", "deck-flatness", 0.12m));
                    if (thickness is { } t)
                    {
                        c.Readings.Add(Start.Read("H1", "head-thickness", t));
                    }

                    if (least is { } l)
                    {
                        c.Limits.Add(
                            new Limit
                            {
                                Id = Guid.CreateVersion7(),
                                Characteristic = "head-thickness",
                                Least = l,
                                SourceText = "manual, page 3",
                            }
                        );
                    }

                    if (eaten > 0)
                    {
                        c.Findings.Add(Start.Saw("H1", "head-corroded", eaten));
                    }
                })
                .Single(p => p.Kind == "head");
        var sound = Head(92.4m, 92.0m);
        sound.Removes!.Value.ShouldBeInRange(0.17, 0.25);
        sound.Size!.Value.ShouldBe(92.4 - sound.Removes.Value, 0.01);
        Head(92.4m, 92.0m, eaten: 2).Removes!.Value.ShouldBeGreaterThan(sound.Removes.Value + 0.1);
        Head(92.1m, 92.0m).State.ShouldBe(PlanState.TooFar);
        Head(92.1m, 92.0m).Words.ShouldContain("under the 92.00");
        Head(null, 92.0m).Words.ShouldContain("was not measured");
        Head(92.4m, null).Words.ShouldContain("least height was not entered");
    }

    /// <summary>A clover-leaf bore measures alike in every direction by two points: out of round for a limit is greatest less least, and says no less.</summary>
    [Fact]
    public void Out_of_round_is_what_was_measured_and_not_an_ellipse()
    {
        var c = Start.Case();
        c.Readings.AddRange([At("C1", "bore-diameter", 88.02, "middle", "along the crank"), At("C1", "bore-diameter", 88.05, "middle", "across")]);
        CaseAnswers
            .Of(c, KnowledgeBase.BuiltIn, [], Start.Today)
            .Gauge.Figures.Single(f => f.Characteristic == "bore-out-of-round")
            .Value.ShouldBe(0.03, 1e-9);
    }

    public static TheoryData<string[], decimal?, string, string> BadSizes() =>
        new()
        {
            { [], null, "manual", "steps" },
            { ["0.5", "0.25"], null, "manual", "steps" },
            { ["-0.25"], null, "manual", "steps" },
            { ["0.25"], -1m, "manual", "furthest" },
            { ["0.25"], null, " ", "sourceText" },
        };

    [Theory]
    [MemberData(nameof(BadSizes))]
    public void A_list_that_cannot_be_is_refused(string[] steps, decimal? furthest, string source, string field)
    {
        var sizes = new ServiceSizes
        {
            Kind = "bore",
            Steps = [.. steps.Select(s => decimal.Parse(s, System.Globalization.CultureInfo.InvariantCulture))],
            Furthest = furthest,
            SourceText = source,
        };
        sizes.Check(KnowledgeBase.BuiltIn).Select(p => p.Field).ShouldBe([field]);
        (sizes.Kind, sizes.Steps, sizes.Furthest, sizes.SourceText) = ("piston", [0.25m], null, "manual");
        sizes.Check(KnowledgeBase.BuiltIn).Single().Field.ShouldBe("kind");
    }
}
