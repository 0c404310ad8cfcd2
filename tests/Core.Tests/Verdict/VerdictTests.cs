using VividSleuth.Core.Cases;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

public sealed class VerdictTests
{
    private static VerdictAdvice? Advice(EngineCase c, string place) =>
        CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Engines.Today).Advice.FirstOrDefault(a => a.Place == place);

    [Fact]
    public void A_scored_pin_is_ground_to_the_step_that_cleans_it_up()
    {
        var c = Engines.Case();
        c.Limits.Add(Engines.Standard("crankpin-diameter", 72m));
        c.Readings.AddRange([Engines.Read("K4", "crankpin-diameter", 71.741m), Engines.Read("K4", "crankpin-diameter", 71.728m)]);
        c.Findings.Add(Engines.Saw("K4", "journal-scored", 2));
        var advice = Advice(c, "K4")!;
        advice.Action.ShouldBe(VerdictAction.Machine);
        advice.Reason.ShouldContain("0.50 mm under");
        advice.Figure.ShouldContain("71.735");
    }

    [Fact]
    public void A_sound_pin_is_reused_and_an_unmeasured_one_is_left_open()
    {
        var c = Engines.Case();
        c.Readings.Add(Engines.Read("K1", "crankpin-diameter", 71.99m));
        c.Findings.Add(Engines.Saw("K2", "journal-scored", 0));
        Advice(c, "K1")!.Action.ShouldBe(VerdictAction.Reuse);
        Advice(c, "K2")!.Action.ShouldBeNull();
        Advice(c, "K3").ShouldBeNull();
    }

    [Fact]
    public void A_shell_of_the_wrong_size_goes_with_the_figure_that_says_so()
    {
        var c = Engines.Case();
        c.Limits.AddRange([Engines.Standard("crankpin-diameter", 72m), Engines.Standard("shell-wall", 2.5m)]);
        c.Readings.AddRange([Engines.Read("K4", "crankpin-diameter", 71.75m), Engines.Read("R4U", "shell-wall", 2.49m)]);
        var advice = Advice(c, "R4U")!;
        advice.Action.ShouldBe(VerdictAction.Replace);
        advice.Reason.ShouldStartWith("Wrong size");
        advice.Figure.ShouldContain("2.490");
    }

    [Fact]
    public void A_blued_rod_goes_to_a_specialist_and_a_clean_one_is_reused()
    {
        var c = Engines.Case();
        c.Findings.AddRange([
            Engines.Saw("R4", "heat-colour", 3),
            Engines.Saw("R5", "heat-colour", 0),
            Engines.Saw("P1", "land-broken", 3),
            Engines.Saw("P2", "top-groove-wide", 1),
        ]);
        Advice(c, "R4")!.Action.ShouldBe(VerdictAction.Specialist);
        Advice(c, "R5")!.Action.ShouldBe(VerdictAction.CleanAndReuse);
        Advice(c, "P1")!.Action.ShouldBe(VerdictAction.Replace);
        Advice(c, "P2")!.Action.ShouldBe(VerdictAction.Repair);
    }

    [Fact]
    public void Places_carry_what_the_lenses_show()
    {
        var c = Engines.Case();
        c.Parts.Add(Engines.Tag("R4", Facing.Left));
        c.Findings.AddRange([Engines.Saw("K4", "journal-scored", 2), Engines.Saw("K4", "heat-colour", 0), Engines.Saw("K3", "heat-colour", 0)]);
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "K4",
                Action = VerdictAction.Machine,
            }
        );
        var states = CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Engines.Today).Places.ToDictionary(p => p.Place);
        states["R4"].Marked.ShouldBeTrue();
        states["K4"].Damage.ShouldBe(2);
        states["K3"].Damage.ShouldBe(0);
        states["K2"].Damage.ShouldBeNull();
        states["K4"].Verdict.ShouldBe(VerdictAction.Machine);
    }
}
