using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

public sealed class VerdictTests
{
    private static readonly VerdictAction[] Worked = [VerdictAction.Machine, VerdictAction.Repair, VerdictAction.Reuse, VerdictAction.CleanAndReuse];

    private static CaseReader Read(EngineCase c, Schools? schools = null) => new(c, KnowledgeBase.BuiltIn, [], Start.Today, schools);

    private static VerdictAdvice Advice(EngineCase c, string place, Schools? schools = null) => Read(c, schools).Advice.Single(a => a.Place == place);

    /// <summary>Without what Trace says: it weighs the same findings for seconds, and has tests of its own.</summary>
    private static IReadOnlyList<VerdictAdvice> Told(EngineCase c)
    {
        var reader = Read(c);
        return VerdictAdviser.Advise(
            c.VerdictLog(),
            reader.Table,
            KnowledgeBase.BuiltIn,
            reader.Gauge,
            Schools.Usual,
            reader.Cracks,
            reader.Plans,
            null,
            new HashSet<string>()
        );
    }

    private static Limit Of(string characteristic, decimal? nominal = null, decimal? least = null, decimal? most = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Characteristic = characteristic,
            Nominal = nominal,
            Least = least,
            Most = most,
            SourceText = "manual, page 1",
        };

    private static Examination Tested(string place, string check, bool passed) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Check = check,
            Passed = passed,
            TestedBy = "Hillside Testing",
            At = DateTimeOffset.UnixEpoch.AddDays(1),
        };

    // —— what is forbidden ——

    public static TheoryData<string> Layouts() => ["six", "eight", "flat", "two-stroke"];

    private static EngineLayout Layout(string name) =>
        name switch
        {
            "six" => Start.InlineSix with { Fuel = FuelSystem.Diesel },
            "eight" => Start.VeeEight,
            "flat" => Start.FlatFour with { Cooling = Cooling.Air, Case = CaseBuild.Split },
            _ => Start.TwoStrokeTwin with { Case = CaseBuild.Split },
        };

    /// <summary>Common practice, no source: a crack is never ground, repaired or run again, at any level, wherever it may be found.</summary>
    [Theory]
    [MemberData(nameof(Layouts))]
    public void A_crack_is_never_machined_repaired_or_run_again(string name)
    {
        var table = Start.Table(Layout(name));
        var tried = 0;
        foreach (var sign in KnowledgeBase.BuiltIn.Signs.Where(s => s.CrackFrom > 0))
        {
            foreach (var place in sign.On.SelectMany(table.OfKind).Where(a => a.Kind.Id != PartKinds.Engine && a.Nth <= 1))
            {
                var c = Start.Case(Layout(name));
                c.Limits.AddRange([
                    Start.Standard("crankpin-diameter", 72m),
                    Start.Standard("main-journal-diameter", 80m),
                    Start.Standard("bore-diameter", 100m),
                ]);
                c.Findings.Add(Start.Saw(place.Code, sign.Id, Math.Max(sign.CrackFrom, 1 + (tried++ % 3))));
                var advice = Told(c).Single(a => a.Place == place.Code);
                advice.Action.ShouldBeOneOf(VerdictAction.Replace, VerdictAction.Specialist);
                advice.Ground.ShouldBe(Ground.Forbidden);
                advice.Never.ShouldBe(Worked, ignoreOrder: true);
                KnowledgeBase
                    .BuiltIn.Courses.Where(k => Worked.Contains(k.Action))
                    .ShouldAllOfSomeBe(k => VerdictChecks.Of(k.Id, "I know better", place, advice, KnowledgeBase.BuiltIn) != null);
            }
        }

        tried.ShouldBeGreaterThan(30);
    }

    [Fact]
    public void A_crack_in_one_pin_condemns_the_shaft()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        c.Readings.AddRange([Start.Read("K2", "crankpin-diameter", 71.95m), Start.Read("K4", "crankpin-diameter", 71.80m)]);
        c.Findings.Add(Start.Saw("K2", "journal-scored", 3));
        Advice(c, "K2").Course.ShouldBe("grind");
        c.Findings.Add(Start.Saw("K4", "journal-crack", 1));
        Advice(c, "K2").Action.ShouldBe(VerdictAction.Replace);
        Advice(c, "K2").Reason.ShouldContain("K4");
        Advice(c, "K4").Reason.ShouldContain("Never ground");
        Advice(c, "CR").Action.ShouldBe(VerdictAction.Replace);
    }

    /// <summary>A specialist's crack test decides whether it is one, and nothing else does; a broken part is cleared by none.</summary>
    [Fact]
    public void Only_a_crack_test_clears_what_looked_like_a_crack()
    {
        var c = Start.Case();
        c.Findings.AddRange([Start.Saw("K4", "journal-crack", 2), Start.Saw("R2", "rod-broken", 3)]);
        Advice(c, "K4").Asks.Single().Passed.ShouldBeNull();
        c.Examinations.AddRange([Tested("K4", "hardness", true), Tested("K4", "straightness", true)]);
        Advice(c, "K4").Never.ShouldNotBeEmpty();
        c.Examinations.AddRange([Tested("K4", "crack-test", true), Tested("R2", "crack-test", true)]);
        Advice(c, "K4").Never.ShouldBeEmpty();
        Advice(c, "R2").Never.ShouldBe(Worked, ignoreOrder: true);
        // Seen again after the test, it is one again until tested again.
        var again = Start.Saw("K4", "journal-crack", 1);
        again.At = DateTimeOffset.UnixEpoch.AddDays(2);
        c.Findings.Add(again);
        Advice(c, "K4").Never.ShouldBe(Worked, ignoreOrder: true);
        // The test of the whole shaft speaks for its journals; a failed one condemns them without anybody's eye.
        c.Examinations.Add(Tested("CR", "crack-test", true));
        c.Examinations[^1].At = DateTimeOffset.UnixEpoch.AddDays(3);
        Advice(c, "K4").Never.ShouldBeEmpty();
        var tested = Start.Case();
        tested.Examinations.Add(Tested("CR", "crack-test", false));
        Advice(tested, "K1").Never.ShouldBe(Worked, ignoreOrder: true);
        Advice(tested, "K1").Reason.ShouldContain("Hillside Testing");
    }

    /// <summary>Every sign whose name or level says crack or break is held as one, so that a new entry cannot slip by.</summary>
    [Fact]
    public void Whatever_is_called_cracked_or_broken_counts_as_a_crack()
    {
        static bool Says(string words) =>
            System.Text.RegularExpressions.Regex.IsMatch(
                words,
                "\\bcrack(?:ed|s)?\\b|\\bbroken\\b(?! line)",
                System.Text.RegularExpressions.RegexOptions.IgnoreCase | System.Text.RegularExpressions.RegexOptions.ExplicitCapture
            );
        var called = KnowledgeBase
            .BuiltIn.Signs.Where(s => !s.Measured)
            .Select(s => (s.Id, s.CrackFrom, Says: Says(s.Name) && !s.Name.Contains(" or ") ? 1 : s.Levels.FindIndex(Says) + 1))
            .Where(s => s.Says > 0);
        called.ShouldAllOfSomeBe(s => s.CrackFrom >= 1 && s.CrackFrom <= s.Says);
    }

    [Theory]
    [MemberData(nameof(Layouts))]
    public void What_serves_once_is_never_used_again(string name)
    {
        var table = Start.Table(Layout(name));
        string[] once = ["head-joint", "barrel-joint", "crank-seal", "oil-filter", "pin-clip", "timing-belt"];
        var tried = table.All.Where(a => once.Contains(a.Kind.Id)).ToArray();
        tried.Length.ShouldBeGreaterThan(2);
        var c = Start.Case(Layout(name));
        c.Parts.AddRange(tried.Select(a => Start.Tag(a.Code, Facing.Unknown)));
        var told = Told(c);
        foreach (var place in tried)
        {
            var advice = told.Single(a => a.Place == place.Code);
            advice.Course.ShouldBe("renew");
            VerdictChecks.Of("clean", "looks fine", place, advice, KnowledgeBase.BuiltIn).ShouldNotBeNull().Field.ShouldBe("course");
            VerdictChecks.Of("renew", "", place, advice, KnowledgeBase.BuiltIn).ShouldBeNull();
        }
    }

    [Fact]
    public void A_bearing_pulled_through_its_balls_is_scrap()
    {
        var c = Start.Case(Start.TwoStrokeTwin);
        c.Findings.Add(Start.Saw("M1R", "pulled-through-balls", 1));
        c.Findings[0].DoneBy = DoneBy.Strip;
        Advice(c, "M1R").Course.ShouldBe("renew");
        Advice(c, "M1R").Never.ShouldBe(Worked, ignoreOrder: true);
        // What the strip did says nothing of why it failed.
        Read(c).Trace.Ranking.ShouldBeEmpty();
    }

    /// <summary>Whatever else is recorded, in whatever order: where a forbidding rule holds, nothing that it forbids is advised.</summary>
    [Fact]
    public void A_forbidding_rule_always_wins_and_no_order_of_entries_changes_a_verdict()
    {
        var table = Start.Table(Start.InlineSix);
        var knowledge = KnowledgeBase.BuiltIn;
        var signs = knowledge
            .Signs.Where(s => !s.Measured)
            .SelectMany(s => s.On.SelectMany(table.OfKind).Select(a => (a.Code, s.Id)))
            .Where(x => table.Find(x.Code)!.Kind.Id != PartKinds.Engine)
            .ToArray();
        Gen.Select(Gen.Int[0, signs.Length - 1], Gen.Int[1, 3])
            .Array[1, 12]
            .Select(Gen.Int[0, 1_000_000])
            .Sample(
                (picked, seed) =>
                {
                    var c = Start.Case();
                    c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("bore-diameter", 100m)]);
                    c.Readings.AddRange([Start.Read("K2", "crankpin-diameter", 71.93m), Start.Read("C3", "bore-diameter", 100.12m)]);
                    c.Findings.AddRange(picked.Select(p => Start.Saw(signs[p.Item1].Code, signs[p.Item1].Id, p.Item2)));
                    var advice = Told(c);
                    foreach (var a in advice)
                    {
                        (a.Action is not { } action || !a.Never.Contains(action)).ShouldBeTrue(a.Place);
                        var cracked = c.Findings.Exists(f => f.Place == a.Place && Cracks.IsCrack(f, knowledge));
                        (!cracked || a.Action is VerdictAction.Replace or VerdictAction.Specialist).ShouldBeTrue(a.Place);
                    }

                    var shuffled = new Random(seed);
                    c.Findings = [.. c.Findings.OrderBy(_ => shuffled.Next())];
                    c.Readings.Reverse();
                    c.Limits.Reverse();
                    Told(c).Select(a => (a.Place, a.Course, a.Ground)).ShouldBe(advice.Select(a => (a.Place, a.Course, a.Ground)));
                },
                iter: 60
            );
    }

    // —— “nothing against it” needs something for it ——

    [Fact]
    public void What_is_not_known_is_said_as_such()
    {
        var c = Start.Case();
        c.Limits.AddRange([Of("crankpin-diameter", 72m, 71.98m, 72m), Of("crankpin-out-of-round", most: 0.02m)]);
        Finding Felt(string place)
        {
            var f = Start.Saw(place, "journal-scored", 0);
            f.Felt = true;
            return f;
        }

        Reading Cell(string place, decimal value, string direction, string station = "free-end side")
        {
            var r = Start.Read(place, "crankpin-diameter", value);
            (r.Station, r.Direction) = (station, direction);
            return r;
        }

        c.Findings.AddRange([
            Start.Saw("K1", "journal-scored", 0),
            Start.Saw("K2", "journal-scored", 0),
            Start.Saw("K4", "journal-scored", 0),
            Felt("K5"),
            Start.Saw("H1", "head-warped", 0),
        ]);
        c.Readings.AddRange([
            Cell("K1", 71.990m, "in line with the throw"),
            Cell("K1", 71.991m, "across the throw"),
            Cell("K3", 71.990m, "in line with the throw"),
            Cell("K3", 71.991m, "across the throw"),
            Cell("K4", 71.981m, "in line with the throw"),
            Cell("K4", 71.981m, "across the throw"),
            Start.Read("H1", "deck-flatness", 0.2m),
            Start.Read("M3", "main-journal-diameter", 79.9m),
        ]);
        (string Place, Ground Ground)[] expected =
        [
            ("K1", Ground.Sound),
            ("K2", Ground.Unmeasured),
            ("K3", Ground.Unread),
            ("K4", Ground.Undecided),
            ("K5", Ground.Felt),
            ("K6", Ground.Unknown),
            ("H1", Ground.RuleOfThumb),
            ("M3", Ground.NoLimit),
        ];
        var advice = Read(c).Advice.ToDictionary(a => a.Place);
        expected.Select(e => (e.Place, advice[e.Place].Ground)).ShouldBe(expected);
        advice["K1"].Course.ShouldBe("reuse");
        expected.Where(e => e.Ground != Ground.Sound).ShouldAllOfSomeBe(e => advice[e.Place].Action == null);
        advice["K2"].Reason.ShouldContain("Not measured: Crankpin diameter");
    }

    [Fact]
    public void Once_a_journal_is_ground_how_it_was_found_no_longer_decides()
    {
        var c = Start.Case();
        c.Limits.Add(Of("main-journal-diameter", 80m, 79.98m, 80m));
        c.Readings.Add(Start.Read("M3", "main-journal-diameter", 79.90m));
        c.Findings.Add(Start.Saw("M3", "journal-scored", 3));
        Advice(c, "M3").Course.ShouldBe("grind");
        var ground = Start.Read("M3", "main-journal-diameter", 79.49m);
        (ground.Phase, ground.At) = (Phase.AfterWork, DateTimeOffset.UnixEpoch.AddDays(3));
        c.Readings.Add(ground);
        // Ground and in size, and nobody has looked at it since.
        Advice(c, "M3").Ground.ShouldBe(Ground.Unread);
        var clean = Start.Saw("M3", "journal-scored", 0);
        clean.At = DateTimeOffset.UnixEpoch.AddDays(4);
        c.Findings.Add(clean);
        Advice(c, "M3").Course.ShouldBe("reuse");
        // A crack is not ground away.
        c.Findings.Add(Start.Saw("M3", "journal-crack", 1));
        Advice(c, "M3").Action.ShouldBe(VerdictAction.Replace);
    }

    // —— what the trade machines is machined ——

    [Fact]
    public void Where_the_plan_says_machine_the_advice_is_not_to_replace()
    {
        var c = Start.Case();
        c.Limits.AddRange([
            Of("bore-diameter", 100m, most: 100.03m),
            Of("main-journal-diameter", 80m, 79.98m, 80m),
            Of("deck-flatness", most: 0.05m),
            Of("rod-housing-bore", 77m, 76.98m, 77.02m),
            Of("seat-width", least: 1.2m, most: 1.8m),
            Of("guide-bore", most: 8.05m),
            Of("main-line", most: 0.03m),
            Of("chain-stretch", most: 508m),
            Of("ring-side-feeler", most: 0.15m),
            Of("head-thickness", least: 91m),
        ]);
        c.Readings.AddRange([
            Start.Read("C2", "bore-diameter", 100.21m),
            Start.Read("M3", "main-journal-diameter", 79.90m),
            Start.Read("H1", "deck-flatness", 0.2m),
            Start.Read("H1", "head-thickness", 92m),
            Start.Read("R3", "rod-housing-bore", 77.06m),
            Start.Read("VT3A", "seat-width", 2.4m),
            Start.Read("VU3A", "guide-bore", 8.12m),
            Start.Read("M2C", "main-line", 0.09m),
            Start.Read("EN", "chain-stretch", 512m),
            Start.Read("P3T", "ring-side-feeler", 0.3m),
        ]);
        c.Findings.AddRange([
            Start.Saw("CR", "dowel-holes-oval", 2),
            Start.Saw("K6", "journal-scored", 1),
            Start.Saw("V4E", "seat-pitted", 1),
            Start.Saw("R5E", "bush-worn", 2),
            Start.Saw("L2A", "lobe-wiped", 2),
            Start.Saw("C5", "hatch-gone", 2),
        ]);
        var reader = Read(c, new Schools { WornLobe = WornLobe.WeldAndGrind });
        var advice = reader.Advice.ToDictionary(a => a.Place, a => a.Course);
        foreach (
            var (place, course) in new[]
            {
                ("C2", "bore"),
                ("M3", "grind"),
                ("H1", "skim"),
                ("R3", "resize"),
                ("VT3A", "recut"),
                ("VU3A", "new-guide"),
                ("CA", "line-bore"),
                ("TC", "renew"),
                ("CM1W", "renew"),
                ("P3", "renew"),
                ("CR", "oversize-dowels"),
                ("K6", "polish"),
                ("V4E", "lap"),
                ("R5E", "new-bush"),
                ("L2A", "weld-and-grind"),
            }
        )
        {
            advice[place].ShouldBe(course, place);
        }

        foreach (var kind in new[] { ("C2", "bore"), ("M3", "main-journal") })
        {
            reader.Advice.Single(a => a.Place == kind.Item1).Reason.ShouldContain(reader.Plans.Single(m => m.Kind == kind.Item2).Step);
        }

        // One bore bored, all bored; its pistons and rings go with it.
        advice["C5"].ShouldBe("bore");
        advice["P5"].ShouldBe("renew");
        advice["P5N"].ShouldBe("renew");
    }

    /// <summary>A figure of a sum puts the advice on the member that is off: the shells, and not the rod.</summary>
    [Fact]
    public void A_clearance_out_of_its_limit_condemns_shells_and_no_rod()
    {
        var c = Start.Case();
        c.Limits.AddRange([Of("big-end-clearance", most: 0.08m), Of("rod-housing-bore", 77m, 76.98m, 77.02m)]);
        c.Readings.AddRange([
            Start.Read("R4", "big-end-strip", 0.2m),
            Start.Read("R4", "rod-housing-bore", 77.00m),
            Start.Read("R4U", "shell-wall", 2.40m),
            Start.Read("R4L", "shell-wall", 2.40m),
            Start.Read("K4", "crankpin-diameter", 72m),
        ]);
        Advice(c, "R4U").Course.ShouldBe("renew");
        Advice(c, "R4U").Reason.ShouldContain("Big-end clearance");
        Advice(c, "R4").Action.ShouldBeNull();
        Advice(c, "R4").Reason.ShouldContain("Several parts");
    }

    [Fact]
    public void A_gap_under_its_limit_is_filed_and_one_over_it_goes()
    {
        var c = Start.Case();
        c.Limits.Add(Of("ring-end-gap", least: 0.3m, most: 0.6m));
        c.Readings.AddRange([
            Start.Read("P1T", "ring-end-gap", 0.1m),
            Start.Read("P2T", "ring-end-gap", 1.5m),
            Start.Read("P3T", "ring-end-gap", 0.45m),
        ]);
        c.Findings.Add(Start.Saw("P3T", "ring-scuffed", 0));
        var reuse = new Schools { UsedRings = UsedRings.ReuseWhenSound };
        string[] Courses(Schools? schools) => [.. new[] { "P1T", "P2T", "P3T" }.Select(p => Advice(c, p, schools).Course)];
        Courses(reuse).ShouldBe(["file-gap", "renew", "reuse"]);
        Courses(null).ShouldBe(["file-gap", "renew", "renew"]);
        // In a bore that was bored none of the old ones runs.
        c.Limits.Add(Start.Standard("bore-diameter", 100m));
        c.Readings.Add(Start.Read("C1", "bore-diameter", 100.1m));
        c.Findings.Add(Start.Saw("C1", "bore-scuffed", 3));
        Courses(reuse).ShouldBe(["renew", "renew", "renew"]);
    }

    [Fact]
    public void The_groove_decides_before_the_skirt()
    {
        var c = Start.Case();
        c.Limits.AddRange([Of("piston-diameter", least: 87.9m), Of("ring-groove-top-width", most: 1.58m)]);
        c.Readings.AddRange([Start.Read("P1", "piston-diameter", 87.95m), Start.Read("P1", "ring-groove-top-width", 1.70m)]);
        c.Findings.Add(Start.Saw("P1", "skirt-scuff-thrust", 0));
        Advice(c, "P1").Course.ShouldBe("renew");
        Advice(c, "P1").Reason.ShouldContain("groove");
    }

    // —— consequences ——

    [Fact]
    public void A_run_bearing_brings_its_consequences()
    {
        var c = Start.Case();
        c.Findings.Add(Start.Saw("R4U", "bearing-seized", 2));
        Advice(c, "R4").Ground.ShouldBe(Ground.TestFirst);
        Advice(c, "R4").Asks.Select(a => a.Check).ShouldBe(["straightness", "big-end-bore", "crack-test"], ignoreOrder: true);
        Advice(c, "K4").Asks.Select(a => a.Check).ShouldContain("crack-test");
        Advice(c, "R4T1").Course.ShouldBe("renew");
        Advice(c, "R4T1").Never.ShouldContain(VerdictAction.Reuse);
        Advice(c, "R3").Asks.ShouldBeEmpty();
        Advice(c, "CR").Asks.Select(a => a.Check).ShouldContain("straightness");
        // Figures inside the maker's limits answer, and so does a tester's word; what is not answered stays open.
        c.Limits.AddRange([Of("rod-bend", most: 0.05m), Of("rod-housing-bore", least: 76.98m, most: 77.02m)]);
        c.Readings.AddRange([Start.Read("R4", "rod-bend", 0.01m), Start.Read("R4", "rod-housing-bore", 77.00m)]);
        Advice(c, "R4").Asks.Where(a => a.Passed is null).Select(a => a.Check).ShouldBe(["crack-test"]);
        c.Examinations.Add(Tested("R4", "crack-test", true));
        Advice(c, "R4").Ground.ShouldNotBe(Ground.TestFirst);
        Advice(c, "R4").Asks.ShouldAllOfSomeBe(a => a.Passed == true);
    }

    [Fact]
    public void Heat_blued_rods_over_speed_and_liquid_lock_bring_theirs()
    {
        var c = Start.Case();
        c.Findings.AddRange([Start.Saw("R4", "heat-colour", 3), Start.Saw("R5", "heat-colour", 0)]);
        Advice(c, "R4").Course.ShouldBe("specialist");
        Advice(c, "R4").Asks.Count.ShouldBe(4);
        Advice(c, "R5").Action.ShouldBeNull();
        c.Risks["over-revved"] = true;
        var bolts = Start.Table(c.Layout).OfKind("rod-bolt").Select(a => a.Code).ToArray();
        Read(c).Advice.Where(a => bolts.Contains(a.Place)).ShouldAllOfSomeBe(a => a.Course == "renew" && a.Never.Contains(VerdictAction.Reuse));
        var locked = Start.Case();
        locked.Conclusions.Add(
            new Conclusion
            {
                Id = Guid.CreateVersion7(),
                Cause = "liquid-lock",
                Place = "C2",
                Confidence = Confidence.Proven,
            }
        );
        Advice(locked, "R2").Asks.Select(a => a.Check).ShouldBe(["straightness", "crack-test"], ignoreOrder: true);
        Advice(locked, "R3").Asks.ShouldBeEmpty();
        Advice(locked, "R6T2").Course.ShouldBe("renew");
    }

    [Fact]
    public void Used_sliding_pairs_go_together()
    {
        var c = Start.Case();
        c.Findings.AddRange([Start.Saw("L3E", "lobe-wiped", 3), Start.Saw("F1A", "follower-dished", 0)]);
        var advice = Read(c).Advice.ToDictionary(a => a.Place);
        advice["CM1"].Course.ShouldBe("renew");
        advice["F3E"].Course.ShouldBe("renew");
        advice["F1A"].Course.ShouldBe("renew");
        advice["F1A"].Never.ShouldContain(VerdictAction.Reuse);
        advice["F1A"].Reason.ShouldContain("CM1");
    }

    [Fact]
    public void Treated_surfaces_go_to_a_specialist()
    {
        EngineCase Scored(RunningSurface? surface)
        {
            var c = Start.Case(Start.InlineSix with { JournalSurface = surface, BoreSurface = surface });
            c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("bore-diameter", 100m)]);
            c.Readings.AddRange([Start.Read("K4", "crankpin-diameter", 71.9m), Start.Read("C4", "bore-diameter", 100.1m)]);
            c.Findings.AddRange([Start.Saw("K4", "journal-scored", 3), Start.Saw("C4", "bore-scuffed", 3)]);
            return c;
        }

        (Advice(Scored(null), "K4").Course, Advice(Scored(null), "C4").Course).ShouldBe(("grind", "bore"));
        foreach (var surface in new[] { RunningSurface.Nitrided, RunningSurface.Chromed })
        {
            var c = Scored(surface);
            (Advice(c, "K4").Course, Advice(c, "C4").Course).ShouldBe(("specialist", "specialist"));
            Advice(c, "K4").Never.ShouldBe([VerdictAction.Machine]);
        }

        Advice(Scored(RunningSurface.InductionHardened), "K4").Course.ShouldBe("grind");
    }

    [Theory]
    [InlineData(LooseRing.NewShaft, "renew")]
    [InlineData(LooseRing.Sleeve, "sleeve-seat")]
    [InlineData(LooseRing.Compound, "compound")]
    public void A_loose_ring_goes_by_the_school_of_the_shop(LooseRing school, string course)
    {
        var c = Start.Case(Start.TwoStrokeTwin);
        c.Findings.Add(Start.Saw("M2R", "inner-ring-slides", 2));
        var schools = new Schools { LooseRing = school };
        Advice(c, "M2", schools).Course.ShouldBe(course);
        Advice(c, "M2R", schools).Course.ShouldBe("renew");
        Advice(c, "CR", schools).Course.ShouldBe(school == LooseRing.NewShaft ? "renew" : "");
    }

    // —— groups and what is decided ——

    [Fact]
    public void Every_place_is_decided_in_one_group_and_the_page_is_short()
    {
        foreach (var name in Layouts().Select(l => l.Data))
        {
            var c = Start.Case(Layout(name));
            var board = Read(c).Verdict;
            board.Groups.Count.ShouldBeInRange(8, 15);
            var table = Start.Table(Layout(name));
            board.Groups.SelectMany(g => g.Places).Order().ShouldBe(table.All.Where(a => a.Kind.Id != PartKinds.Engine).Select(a => a.Code).Order());
            // Of an engine that nobody opened yet nothing is advised.
            board.Groups.SelectMany(g => g.Advised).ShouldBeEmpty(name);
        }
    }

    [Fact]
    public void A_group_says_what_is_advised_together_and_what_was_decided_otherwise()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        c.Readings.Add(Start.Read("K2", "crankpin-diameter", 71.93m));
        c.Findings.Add(Start.Saw("K2", "journal-scored", 3));
        var group = Read(c).Verdict.Groups.Single(g => g.Id == "crankshaft");
        var grind = group.Advised.Single(a => a.Course == "grind");
        grind.Places.ShouldBe(["K1", "K2", "K3", "K4", "K5", "K6"]);
        grind.Reasons.ShouldContain(r => r.Places.Count == 5 && r.Places[0] == "K1");
        group.Plans.ShouldBe(["crankpin"]);
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "K3",
                Course = "polish",
                Action = VerdictAction.Repair,
                Advised = "grind",
            }
        );
        group = Read(c).Verdict.Groups.Single(g => g.Id == "crankshaft");
        (group.Decided, group.Otherwise).ShouldSatisfyAllConditions(g => g.Decided.ShouldBe(1), g => g.Otherwise.ShouldBe(["K3"]));
    }

    [Fact]
    public void Following_needs_no_reason_and_going_another_way_does()
    {
        var c = Start.Case();
        c.Findings.Add(Start.Saw("R4U", "overlay-wiped", 2));
        var (place, advice) = (Start.Table(c.Layout).Find("R4U")!, Advice(c, "R4U"));
        VerdictChecks.Of("renew", " ", place, advice, KnowledgeBase.BuiltIn).ShouldBeNull();
        VerdictChecks.Of("clean", " ", place, advice, KnowledgeBase.BuiltIn)!.Field.ShouldBe("reason");
        VerdictChecks.Of("clean", "runs in a week of tests", place, advice, KnowledgeBase.BuiltIn).ShouldBeNull();
        VerdictChecks.Of("grind", "x", place, advice, KnowledgeBase.BuiltIn)!.Field.ShouldBe("course");
        VerdictChecks.Of("bless", "x", place, advice, KnowledgeBase.BuiltIn)!.Field.ShouldBe("course");
    }

    [Fact]
    public void Places_carry_what_the_lenses_show()
    {
        var c = Start.Case();
        c.Parts.Add(Start.Tag("R4", Facing.Left));
        c.Findings.AddRange([Start.Saw("K4", "journal-scored", 2), Start.Saw("K4", "heat-colour", 0), Start.Saw("K3", "heat-colour", 0)]);
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "K4",
                Action = VerdictAction.Machine,
            }
        );
        var states = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today).Places.ToDictionary(p => p.Place);
        states["R4"].Marked.ShouldBeTrue();
        states["K4"].Damage.ShouldBe(2);
        states["K3"].Damage.ShouldBe(0);
        states["K2"].Damage.ShouldBeNull();
        states["K4"].Verdict.ShouldBe(VerdictAction.Machine);
    }

    // —— the knowledge itself ——

    [Fact]
    public void A_rule_that_names_what_is_not_there_does_not_load()
    {
        KnowledgeBase With(string rule) => CheckedKnowledge.Load([.. KnowledgeBase.ShippedFiles(), ("knowledge/verdicts/own.yaml", rule)]);
        string Rule(string rest) => $"- id: own\n  name: Own\n  why: so\n  provenance: ours\n  on: [crankpin]\n{rest}\n";
        With(Rule("  when: { signs: [journal-scored@2] }\n  course: grind")).Verdicts.ShouldContain(r => r.Id == "own");
        foreach (
            var bad in new[]
            {
                "  when: { signs: [no-such@2] }\n  course: grind",
                "  when: { signs: [bore-scuffed@2] }\n  course: grind",
                "  when: { signs: [journal-scored@2] }\n  course: bless",
                "  when: { signs: [journal-scored@2] }",
                "  when: { school: { no-such: x } }\n  course: grind",
                "  when: { signs: [journal-scored@2] }\n  forbids: [machine]\n  course: grind",
                "  when: { causes: [no-such] }\n  course: grind",
                "  when: { figures: [{ of: [no-such], is: outside }] }\n  course: grind",
                "  when: { figures: [{ of: [bore-diameter], is: outside }] }\n  course: grind",
                "  when: { figures: [{ of: [bore-diameter], is: outside, on: [piston] }] }\n  course: grind",
            }
        )
        {
            Should.Throw<ProblemException>(() => With(Rule(bad)), bad);
        }
    }

    /// <summary>Every rule can hold: there is an engine and a state of it in which it does.</summary>
    [Fact]
    public void Every_course_is_named_by_a_rule_or_offered_for_a_kind()
    {
        var knowledge = KnowledgeBase.BuiltIn;
        knowledge.Courses.ShouldAllOfSomeBe(k => knowledge.Verdicts.Any(r => r.Course == k.Id) || k.Id == "reuse" || k.Id == "stop-gap");
        knowledge
            .Examinations.Where(e => e.Id is not ("balance" or "wall" or "spring-test"))
            .ShouldAllOfSomeBe(e => knowledge.Verdicts.Any(r => r.Asks.Contains(e.Id)));
    }
}
