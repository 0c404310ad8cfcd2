using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

public sealed class VerdictTests
{
    private static VerdictAdvice? Advice(EngineCase c, string place) =>
        CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today).Advice.FirstOrDefault(a => a.Place == place);

    [Fact]
    public void A_scored_pin_is_ground_to_the_step_that_cleans_it_up()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        c.Readings.AddRange([Start.Read("K4", "crankpin-diameter", 71.741m), Start.Read("K4", "crankpin-diameter", 71.728m)]);
        c.Findings.Add(Start.Saw("K4", "journal-scored", 2));
        var advice = Advice(c, "K4")!;
        advice.Action.ShouldBe(VerdictAction.Machine);
        advice.Reason.ShouldContain("all to 0.50 under");
        advice.Figure.ShouldContain("71.735");
    }

    [Fact]
    public void A_sound_pin_is_reused_and_an_unmeasured_one_is_left_open()
    {
        var c = Start.Case();
        c.Readings.Add(Start.Read("K1", "crankpin-diameter", 71.99m));
        c.Findings.Add(Start.Saw("K2", "journal-scored", 0));
        Advice(c, "K1")!.Action.ShouldBe(VerdictAction.Reuse);
        Advice(c, "K2")!.Action.ShouldBeNull();
        Advice(c, "K3").ShouldBeNull();
    }

    [Fact]
    public void A_shell_of_the_wrong_size_goes_with_the_figure_that_says_so()
    {
        var c = Start.Case();
        c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("shell-wall", 2.5m)]);
        c.Readings.AddRange([Start.Read("K4", "crankpin-diameter", 71.75m), Start.Read("R4U", "shell-wall", 2.49m)]);
        var advice = Advice(c, "R4U")!;
        advice.Action.ShouldBe(VerdictAction.Replace);
        advice.Reason.ShouldStartWith("Wrong size");
        advice.Figure.ShouldContain("2.490");
    }

    [Fact]
    public void A_blued_rod_goes_to_a_specialist_and_a_clean_one_is_reused()
    {
        var c = Start.Case();
        c.Findings.AddRange([
            Start.Saw("R4", "heat-colour", 3),
            Start.Saw("R5", "heat-colour", 0),
            Start.Saw("P1", "land-broken", 3),
            Start.Saw("P2", "top-groove-wide", 1),
        ]);
        Advice(c, "R4")!.Action.ShouldBe(VerdictAction.Specialist);
        Advice(c, "R5")!.Action.ShouldBe(VerdictAction.CleanAndReuse);
        Advice(c, "P1")!.Action.ShouldBe(VerdictAction.Replace);
        Advice(c, "P2")!.Action.ShouldBe(VerdictAction.Repair);
    }

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
        VerdictAction[] again = [VerdictAction.Machine, VerdictAction.Repair, VerdictAction.Reuse, VerdictAction.CleanAndReuse];
        var table = Start.Table(Layout(name));
        var tried = 0;
        foreach (var sign in KnowledgeBase.BuiltIn.Signs.Where(s => s.CrackFrom > 0))
        {
            foreach (var place in sign.On.SelectMany(table.OfKind).Where(a => a.Kind.Id != PartKinds.Engine && a.Kind.Id != "pan"))
            {
                var c = Start.Case(Layout(name));
                c.Limits.AddRange([
                    Start.Standard("crankpin-diameter", 72m),
                    Start.Standard("main-journal-diameter", 80m),
                    Start.Standard("bore-diameter", 100m),
                ]);
                c.Findings.Add(Start.Saw(place.Code, sign.Id, Math.Max(sign.CrackFrom, 1 + (tried++ % 3))));
                var advice = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today).Advice.Single(a => a.Place == place.Code);
                advice.Action.ShouldBeOneOf(VerdictAction.Replace, VerdictAction.Specialist);
                advice.Never.ShouldBe(again, ignoreOrder: true);
                again.ShouldAllOfSomeBe(a => VerdictRules.Check(a, place, new Cracks(c.Findings, table, KnowledgeBase.BuiltIn)) != null);
            }
        }

        tried.ShouldBeGreaterThan(30);
    }

    [Fact]
    public void A_crack_in_one_pin_condemns_the_shaft_and_takes_the_undersize_off_the_plan()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        c.Readings.AddRange([Start.Read("K2", "crankpin-diameter", 71.95m), Start.Read("K4", "crankpin-diameter", 71.80m)]);
        c.Findings.Add(Start.Saw("K2", "journal-scored", 3));
        Advice(c, "K2")!.Action.ShouldBe(VerdictAction.Machine);
        c.Findings.Add(Start.Saw("K4", "journal-crack", 1));
        Advice(c, "K2")!.Action.ShouldBe(VerdictAction.Replace);
        Advice(c, "K2")!.Reason.ShouldContain("K4");
        Advice(c, "K4")!.Reason.ShouldContain("never ground");
        var plan = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today).Gauge.Machining.Single();
        plan.Size.ShouldBeNull();
        plan.Words.ShouldContain("not ground");
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
    public void What_serves_once_is_never_cleaned_and_used_again(string name)
    {
        var table = Start.Table(Layout(name));
        string[] once = ["head-joint", "barrel-joint", "crank-seal", "oil-filter", "pin-clip"];
        var tried = table.All.Where(a => once.Contains(a.Kind.Id)).ToArray();
        tried.Length.ShouldBeGreaterThan(2);
        foreach (var place in tried)
        {
            var c = Start.Case(Layout(name));
            c.Parts.Add(Start.Tag(place.Code, Facing.Unknown));
            Advice(c, place.Code)!.Action.ShouldBe(VerdictAction.Replace);
            VerdictRules
                .Check(VerdictAction.CleanAndReuse, place, new Cracks(c.Findings, table, KnowledgeBase.BuiltIn))
                .ShouldNotBeNull()
                .Field.ShouldBe("action");
            VerdictRules.Check(VerdictAction.Replace, place, new Cracks(c.Findings, table, KnowledgeBase.BuiltIn)).ShouldBeNull();
        }
    }

    [Fact]
    public void Where_gauge_says_machine_the_advice_is_not_to_replace()
    {
        var c = Start.Case();
        Limit Of(string characteristic, decimal? nominal, decimal? most, decimal? least = null) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Characteristic = characteristic,
                Nominal = nominal,
                Least = least,
                Most = most,
                SourceText = "manual, page 1",
            };
        c.Limits.AddRange([
            Of("bore-diameter", 100m, 100.03m),
            Of("main-journal-diameter", 80m, 80m, 79.98m),
            Of("deck-flatness", null, 0.05m),
            Of("ring-end-gap", null, 0.6m, 0.3m),
            Of("big-end-clearance", null, 0.08m),
            Of("guide-clearance", null, 0.1m),
        ]);
        c.Readings.AddRange([
            Start.Read("C2", "bore-diameter", 100.21m),
            Start.Read("M3", "main-journal-diameter", 79.90m),
            Start.Read("H1", "deck-flatness", 0.2m),
            Start.Read("P1T", "ring-end-gap", 0.1m),
            Start.Read("P2T", "ring-end-gap", 1.5m),
            Start.Read("R4", "big-end-strip", 0.2m),
            Start.Read("R4", "rod-housing-bore", 77.03m),
            Start.Read("R4U", "shell-wall", 2.40m),
            Start.Read("R4L", "shell-wall", 2.40m),
            Start.Read("K4", "crankpin-diameter", 72m),
        ]);
        var answers = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today);
        VerdictAdvice Of_(string place) => answers.Advice.Single(a => a.Place == place);
        foreach (var (place, kind) in new[] { ("C2", "bore"), ("M3", "main-journal") })
        {
            var plan = answers.Gauge.Machining.Single(m => m.Kind == kind);
            Of_(place).Action.ShouldBe(VerdictAction.Machine);
            Of_(place).Reason.ShouldContain(plan.Step);
        }

        Of_("H1").Action.ShouldBe(VerdictAction.Machine);
        Of_("P1T").Action.ShouldBe(VerdictAction.Repair);
        Of_("P1T").Reason.ShouldContain("file");
        Of_("P2T").Action.ShouldBe(VerdictAction.Replace);
        // Clearance out of its limit condemns no rod.
        answers.Gauge.Figures.Single(f => f is { Place: "R4", Characteristic: "big-end-clearance" }).Conformity.ShouldBe(Conformity.Outside);
        Of_("R4").Action.ShouldBeNull();
        Of_("R4").Reason.ShouldContain("Several parts");
    }

    [Fact]
    public void Once_a_journal_is_ground_how_it_was_found_no_longer_decides()
    {
        var c = Start.Case();
        c.Limits.Add(
            new Limit
            {
                Id = Guid.CreateVersion7(),
                Characteristic = "main-journal-diameter",
                Nominal = 80m,
                Least = 79.98m,
                Most = 80m,
                SourceText = "manual, page 1",
            }
        );
        c.Readings.Add(Start.Read("M3", "main-journal-diameter", 79.90m));
        Advice(c, "M3")!.Action.ShouldBe(VerdictAction.Machine);
        var ground = Start.Read("M3", "main-journal-diameter", 79.49m);
        ground.Phase = Phase.AfterWork;
        c.Readings.Add(ground);
        Advice(c, "M3")!.Action.ShouldBe(VerdictAction.Reuse);
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
}
