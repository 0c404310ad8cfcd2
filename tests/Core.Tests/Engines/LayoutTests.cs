using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Tests.Engines;

public sealed class LayoutTests
{
    [Theory]
    [InlineData(new[] { 1, 5, 3, 6, 2, 2 }, "repeats cylinder 2")]
    [InlineData(new[] { 1, 5, 3, 6, 2 }, "misses cylinder 4")]
    [InlineData(new[] { 1, 5, 3, 6, 2, 7 }, "names cylinder 7")]
    public void A_firing_order_that_cannot_be_is_refused_with_the_reason(int[] order, string reason)
    {
        var problems = (Start.InlineSix with { FiringOrder = order }).Check();
        problems.ShouldContain(p => p.Field == "layout.firingOrder" && p.Text.Contains(reason));
        problems.ShouldAllOfSomeBe(p => p.Remedy.Say().Length > 0);
    }

    [Fact]
    public void Other_impossible_layouts_are_refused_each_with_its_field()
    {
        var six = Start.InlineSix;
        (six with { Cylinders = 25 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.cylinders");
        (six with { Cylinders = 0 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.cylinders");
        (six with { Mains = 8 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mains");
        (six with { BankAngle = 60 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.bankAngle");
        (six with { Numbering = NumberingScheme.OddEven }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.numbering");
        (six with { RingsPerPiston = 4 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.ringsPerPiston");
        (Start.VeeEight with { Cylinders = 7, FiringOrder = [1, 2, 3, 4, 5, 6, 7] }).Check().ShouldHaveSingleItem().Text.ShouldContain("evenly");
        (six with { Arrangement = Arrangement.Single }).Check().ShouldContain(p => p.Text.Contains("one cylinder"));
        Should.Throw<ProblemException>(() => Engine.From(six with { FiringOrder = [] }));
    }

    [Fact]
    public void An_inline_six_has_seven_mains_even_intervals_and_companions()
    {
        var engine = Engine.From(Start.InlineSix);
        engine.Mains.ShouldBe(7);
        engine.Crankpins.ShouldBe(6);
        engine.Cylinder(5).FiringAngle.ShouldBe(120);
        engine.Cylinder(4).FlankingMains.ShouldBe([4, 5]);
        // 1 and 6, 2 and 5, 3 and 4 move together: common practice, no source.
        engine.Companion(1)!.Number.ShouldBe(6);
        engine.Companion(5)!.Number.ShouldBe(2);
        engine.Companion(3)!.Number.ShouldBe(4);
        engine.Neighbours(1).Select(c => c.Number).ShouldBe([2]);
        engine.Neighbours(4).Select(c => c.Number).ShouldBe([3, 5]);
    }

    [Fact]
    public void Two_rods_of_a_vee_share_a_pin_and_each_of_a_flat_engine_has_its_own()
    {
        var vee = Engine.From(Start.VeeEight);
        vee.Crankpins.ShouldBe(4);
        vee.Mains.ShouldBe(5);
        vee.OnCrankpin(2).Select(c => c.Number).ShouldBe([3, 4]);
        vee.Cylinder(4).Bank.ShouldBe(Bank.B);

        var byBank = Engine.From(Start.VeeEight with { Numbering = NumberingScheme.BankAfterBank });
        byBank.OnCrankpin(2).Select(c => c.Number).ShouldBe([2, 6]);

        var flat = Engine.From(Start.FlatFour);
        flat.Crankpins.ShouldBe(4);
        flat.Mains.ShouldBe(3);
        flat.Cylinder(1).Crankpin.ShouldBe(1);
        flat.Cylinder(3).Crankpin.ShouldBe(2);
        flat.MainsBeside(3).ShouldBe([2, 3]);
    }

    /// <summary>
    /// Statics of the slider-crank, any dynamics text: on the power stroke the rod leans with the rotation and presses the piston
    /// against the other wall. Worked out here by vectors, apart from the rule under test.
    /// </summary>
    [Theory]
    [InlineData(Rotation.Clockwise, Side.Left)]
    [InlineData(Rotation.Anticlockwise, Side.Right)]
    public void The_major_thrust_side_follows_from_the_forces(Rotation rotation, Side side)
    {
        var turn = rotation == Rotation.Clockwise ? 1 : -1;
        // Crankpin 60° past the top, seen from the free end: x to the right, y up; rod 3.5 throws long.
        var angle = Math.PI / 3;
        var pinX = turn * Math.Sin(angle);
        var pistonY = Math.Cos(angle) + Math.Sqrt((3.5 * 3.5) - (pinX * pinX));
        // The rod pushes the piston along itself, from pin to piston; its sideways part is what the wall must carry.
        var push = (0 - pinX) / (pistonY - Math.Cos(angle));
        (push < 0 ? Side.Left : Side.Right).ShouldBe(side);
        Engine.From(Start.InlineSix with { Rotation = rotation }).Cylinder(1).MajorThrustSide.ShouldBe(side);
    }

    [Fact]
    public void Thrust_of_a_flat_engine_is_down_on_one_bank_and_up_on_the_other()
    {
        var flat = Engine.From(Start.FlatFour);
        flat.Cylinder(1).MajorThrustSide.ShouldBe(Side.Bottom);
        flat.Cylinder(3).MajorThrustSide.ShouldBe(Side.Top);
    }

    [Fact]
    public void Oil_reaches_the_bearings_from_the_feed_end_and_rolling_ones_not_at_all()
    {
        static string Route(EngineLayout l) =>
            string.Join(' ', Engine.From(l).OilRoute.Select(s => $"{(s.Kind == BearingKind.Main ? 'M' : 'K')}{s.Number}"));
        Route(Start.FlatFour).ShouldBe("M1 K1 K2 M2 K3 K4 M3");
        Route(Start.FlatFour with { OilFeedEnd = CrankEnd.DriveEnd }).ShouldBe("M3 K4 K3 M2 K2 K1 M1");
        Route(Start.FlatFour with { OilFeedEnd = CrankEnd.DriveEnd, NumberOneEnd = CrankEnd.DriveEnd }).ShouldBe("M1 K1 K2 M2 K3 K4 M3");
        Route(Start.TwoStrokeTwin).ShouldBeEmpty();
        Engine.From(Start.FlatFour).Downstream(new OilStop(BearingKind.Crankpin, 3)).Count().ShouldBe(2);
    }
}
