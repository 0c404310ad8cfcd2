using CsCheck;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class HelpTests
{
    private static readonly Engine Four = Engine.From(Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] });

    [Fact]
    public void A_piston_travels_the_stroke_and_is_symmetrical() =>
        Gen.Select(Gen.Double[20, 200], Gen.Double[1.3, 3], Gen.Double[0, 360])
            .Sample(
                (stroke, ratio, angle) =>
                {
                    var rod = stroke * ratio;
                    CrankHelp.Drop(0, stroke, rod).ShouldBe(0, 1e-9);
                    CrankHelp.Drop(180, stroke, rod).ShouldBe(stroke, 1e-9);
                    CrankHelp.Drop(angle, stroke, rod).ShouldBe(CrankHelp.Drop(-angle, stroke, rod), 1e-9);
                    CrankHelp.Drop(angle, stroke, rod).ShouldBeInRange(-1e-9, stroke + 1e-9);
                }
            );

    /// <summary>Any dynamics text: at the angle where crank and rod stand square, the drop is r + l − √(r² + l²).</summary>
    [Fact]
    public void Square_to_the_rod_the_drop_is_pythagoras()
    {
        const double R = 45;
        const double L = 140;
        var square = Math.Atan2(L, R) * 180 / Math.PI;
        CrankHelp.Drop(square, 2 * R, L).ShouldBe(R + L - Math.Sqrt((R * R) + (L * L)), 1e-9);
    }

    /// <summary>Acceleration at top dead centre a = r·ω²·(1 + r/l) (any dynamics text), from the second difference of the drop.</summary>
    [Fact]
    public void Acceleration_at_top_dead_centre_is_that_of_the_textbook()
    {
        const double Step = 0.01;
        var h = Step * Math.PI / 180;
        var second = (CrankHelp.Drop(Step, 90, 140) - (2 * CrankHelp.Drop(0, 90, 140)) + CrankHelp.Drop(-Step, 90, 140)) / (h * h);
        second.ShouldBe(45 * (1 + (45.0 / 140)), 1e-3);
    }

    /// <summary>
    /// Common practice, no source: 45° past top dead centre drops every piston of a four by some 16 mm; value from memory, for a
    /// stroke of about 90 mm.
    /// </summary>
    [Fact]
    public void Forty_five_degrees_drops_every_piston_of_a_four()
    {
        CrankHelp.At(Four, 45, 90, 145).ShouldAllOfSomeBe(p => p.Drop > 15);
        CrankHelp.Drop(45, 90, 145).ShouldBe(16, 0.9);
        var ranges = CrankHelp.AllDown(Four, 16, 90, 145);
        ranges.Count.ShouldBe(2);
        ranges[0].From.ShouldBeInRange(40, 50);
        CrankHelp.At(Four, ranges[0].From, 90, 145).Min(p => p.Drop).ShouldBe(16, 0.01);
        CrankHelp.At(Four, ranges[0].To, 90, 145).Min(p => p.Drop).ShouldBe(16, 0.01);
    }

    /// <summary>By symmetry the highest pistons stand highest apart halfway between two tops; a six is well down at 60° (common practice, no source: about 45–75°).</summary>
    [Theory]
    [InlineData(4, 90, true)]
    [InlineData(6, 60, true)]
    [InlineData(8, 45, true)]
    [InlineData(1, 180, true)]
    public void The_angle_at_which_all_are_down_is_halfway_between_two_tops(int cylinders, double angle, bool eitherWay)
    {
        var engine = cylinders switch
        {
            4 => Four,
            6 => Engine.From(Start.InlineSix),
            8 => Engine.From(Start.VeeEight),
            _ => Engine.From(Start.InlineSix with { Arrangement = Arrangement.Single, Cylinders = 1, FiringOrder = [1] }),
        };
        var down = CrankHelp.WellDown(engine, null, null);
        (down.Angle, down.EitherWay, down.Drop).ShouldBe((angle, eitherWay, null));
        CrankHelp.Words(down).ShouldContain($"{angle:0}° before or after");
    }

    [Fact]
    public void A_six_has_no_angle_at_which_all_pistons_are_far_down()
    {
        var six = Engine.From(Start.InlineSix);
        CrankHelp.AllDown(six, 40, 90, 145).ShouldBeEmpty();
        CrankHelp.AllDown(six, 5, 90, 145).Count.ShouldBe(3);
    }

    [Fact]
    public void Strokes_follow_the_firing_order()
    {
        var at = CrankHelp.At(Four, 10, 90, 145).ToDictionary(p => p.Cylinder, p => p.Stroke);
        at[1].ShouldBe(Stroke.Power);
        at[3].ShouldBe(Stroke.Compression);
        at[4].ShouldBe(Stroke.Induction);
        at[2].ShouldBe(Stroke.Exhaust);
        CrankHelp.At(Engine.From(Start.TwoStrokeTwin), 10, 58, 115).Select(p => p.Stroke).ShouldBe([Stroke.Down, Stroke.Up]);
    }

    [Fact]
    public void A_rod_too_short_is_refused() =>
        Should.Throw<ProblemException>(() => CrankHelp.Drop(0, 90, 40)).Problems[0].Field.ShouldBe("rodLength");

    /// <summary>ISO 898-1: proof loads of M10 and M12 coarse; SAE J429 grade 8 ½-20: 120 ksi × 0.160 in². Values from memory.</summary>
    [Theory]
    [InlineData("M10", BoltGrade.Class109, 48.1, 0.1)]
    [InlineData("M12", BoltGrade.Class109, 70.0, 0.1)]
    [InlineData("M10", BoltGrade.Class88, 33.7, 0.1)]
    // Above M16 class 8.8 is of another steel: 600 N/mm².
    [InlineData("M16", BoltGrade.Class88, 91, 0.2)]
    [InlineData("M20", BoltGrade.Class88, 147, 0.3)]
    [InlineData("1/2-20", BoltGrade.Grade8, 19.2 * 4.4482216, 0.15)]
    public void Proof_loads_are_those_of_the_standards(string thread, BoltGrade grade, double kilonewtons, double within) =>
        PullerHelp.ProofLoad(PullerHelp.Parse(thread), grade).ShouldBe(kilonewtons, within);

    /// <summary>ISO 898-1 and SAE J429: tensile stress areas 58.0 and 84.3 mm², 0.160 in². Values from memory.</summary>
    [Theory]
    [InlineData("M10×1.5", 58.0, 0.05)]
    [InlineData("m12", 84.3, 0.05)]
    [InlineData("1/2-20", 0.160 * 645.16, 0.1)]
    // Fine and coarse to M30: ISO 898-1, tables of stress areas.
    [InlineData("M6", 20.1, 0.05)]
    [InlineData("M10 fine", 61.2, 0.05)]
    [InlineData("M12x1.5", 88.1, 0.05)]
    [InlineData("M14 fine", 125, 0.5)]
    [InlineData("M20 fine", 272, 0.5)]
    [InlineData("M27", 459, 0.6)]
    [InlineData("M30", 561, 0.6)]
    [InlineData("M30 fine", 621, 0.6)]
    public void Stress_areas_are_those_of_the_standards(string thread, double area, double within) =>
        PullerHelp.Parse(thread).StressArea.ShouldBe(area, within);

    [Theory]
    [InlineData("")]
    [InlineData("M")]
    [InlineData("M10x9")]
    [InlineData("10")]
    [InlineData("1/0-20")]
    [InlineData("1/2-3")]
    [InlineData("bolt")]
    [InlineData("M10x3")]
    [InlineData("M11")]
    [InlineData("M10x1.25 fine")]
    public void What_is_no_thread_is_refused(string text) =>
        Should.Throw<ProblemException>(() => PullerHelp.Parse(text)).Problems[0].Field.ShouldBe("thread");

    /// <summary>SAE J429: a large bolt of grade 2 or 5 is of softer steel, 33 and 74 ksi; values from memory.</summary>
    [Fact]
    public void A_grade_falls_with_the_size_and_belongs_to_its_thread()
    {
        static double Stress(string thread, BoltGrade grade)
        {
            var of = PullerHelp.Parse(thread);
            return PullerHelp.ProofLoad(of, grade) * 1000 / of.StressArea / 6.894757;
        }

        Stress("3/4-10", BoltGrade.Grade2).ShouldBe(55, 0.01);
        Stress("7/8-9", BoltGrade.Grade2).ShouldBe(33, 0.01);
        Stress("1-8", BoltGrade.Grade5).ShouldBe(85, 0.01);
        Stress("1.25-7", BoltGrade.Grade5).ShouldBe(74, 0.01);
        Should.Throw<ProblemException>(() => Stress("M10", BoltGrade.Grade8)).Problems[0].Field.ShouldBe("grade");
        Should.Throw<ProblemException>(() => Stress("1/2-20", BoltGrade.Class88)).Problems[0].Field.ShouldBe("grade");
    }

    /// <summary>
    /// VDI 2230: shear area of an internal thread π·d·m/P·(P/2 + (d − d₂)·tan 30°), with the flank diameter d₂ = d − 0.6495 P. M10 in 15 mm: by hand
    /// 0.875 · π · 10 · 13.8 = 379 mm².
    /// </summary>
    [Fact]
    public void A_soft_hub_strips_before_a_hard_bolt_breaks()
    {
        var m10 = PullerHelp.Parse("M10");
        PullerHelp.Hub(m10, 20, 15, HubMetal.Aluminium).Strips.ShouldBe(0.110 * 379.3, 0.2);
        PullerHelp.Hub(m10, 20, 15, HubMetal.Aluminium).Words.ShouldContain("hold");
        PullerHelp.Hub(m10, 38, 15, HubMetal.Aluminium).Words.ShouldContain("too near");
        PullerHelp.Hub(m10, 45, 15, HubMetal.Aluminium).Words.ShouldContain("strip before");
        PullerHelp.Hub(m10, 45, 15, HubMetal.Steel).Share.ShouldBeLessThan(0.75);
        PullerHelp.Hub(m10, 1, 1, HubMetal.Steel).Share.ShouldBeGreaterThan(1);
        Should.Throw<ProblemException>(() => PullerHelp.Hub(m10, 1, 0, HubMetal.Steel)).Problems[0].Field.ShouldBe("engaged");
    }

    [Fact]
    public void A_pull_near_the_proof_load_is_loud()
    {
        var m10 = PullerHelp.Parse("M10");
        PullerHelp.Check(m10, BoltGrade.Class88, 20, 2).Words.ShouldContain("Below");
        PullerHelp.Check(m10, BoltGrade.Class88, 60, 2).Words.ShouldContain("rule of thumb");
        PullerHelp.Check(m10, BoltGrade.Class88, 80, 2).Words.ShouldContain("Above the proof load");
        PullerHelp.PullOf(80, m10, greased: false).ShouldBe(40, 1e-9);
        PullerHelp.PullOf(80, m10).ShouldBeGreaterThan(60);
    }

    [Fact]
    public void Digging_takes_only_what_must_come_off()
    {
        var c = Start.Case(Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2], ValveGear = ValveGear.Overhead });
        var table = Start.Table(c.Layout);
        var dig = Digger.To("P1T", c.StripLog(), table, KnowledgeBase.BuiltIn);
        dig.By.ShouldBe("rods");
        dig.Steps.ShouldNotContain(s => s.Id == "crank-out");
        dig.Steps.ShouldContain(s => s.Id == "head");
        dig.Steps[^1].Share.ShouldBe(0.25);
        dig.Minutes.ShouldBe(dig.Steps.Sum(s => s.Minutes), 1e-9);
        Digger.To("K3", c.StripLog(), table, KnowledgeBase.BuiltIn).By.ShouldBe("rods");
        Digger.To("CM1", c.StripLog(), table, KnowledgeBase.BuiltIn).Minutes.ShouldBeLessThan(dig.Minutes);
        Should.Throw<ProblemException>(() => Digger.To("R9", c.StripLog(), table, KnowledgeBase.BuiltIn)).Problems[0].Field.ShouldBe("target");
        Should
            .Throw<ProblemException>(() => Digger.To("AV", c.StripLog(), table, KnowledgeBase.BuiltIn))
            .Problems[0]
            .Text.ShouldContain("lays AV open");
    }

    [Fact]
    public void What_is_done_need_not_be_dug_again()
    {
        var c = Start.Case();
        var table = Start.Table(c.Layout);
        var all = Digger.To("PK", c.StripLog(), table, KnowledgeBase.BuiltIn);
        c.Steps.AddRange(all.Steps.Take(3).Select(s => StripTests.Record(s.Id)));
        Digger
            .To("PK", c.StripLog(), table, KnowledgeBase.BuiltIn)
            .Steps.Select(s => s.Id)
            .Order()
            .ShouldBe(all.Steps.Skip(3).Select(s => s.Id).Order());
        c.Steps.AddRange(all.Steps.Skip(3).Select(s => StripTests.Record(s.Id)));
        Digger.To("PK", c.StripLog(), table, KnowledgeBase.BuiltIn).Words.ShouldContain("lies open");
    }
}
