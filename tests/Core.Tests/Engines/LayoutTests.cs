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
        (six with { RingsPerPiston = 9 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.ringsPerPiston");
        (six with { RingsPerPiston = 2, OilRings = 2 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.oilRings");
        (six with { Mains = 0 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mains");
        (six with { MainsAfter = [0, 4, 2, 6] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mainsAfter");
        (six with { MainsAfter = [1, 6] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mainsAfter");
        (six with { Mains = 5, MainsAfter = [0, 2, 4, 6] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mainsAfter");
        (six with { MainTypes = [BearingType.Plain] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.mainTypes");
        (six with { Uniflow = true }).Check().ShouldContain(p => p.Field == "layout.uniflow");
        (six with { Feed = DieselFeed.CommonRail }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.feed");
        (Start.TwoStrokeTwin with { CamDrive = CamDrive.Belt }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.camDrive");
        (six with { CamPhasers = true }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.camPhasers");
        (six with { BalanceShafts = 9 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.balanceShafts");
        (six with { ReliefValves = 0 }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.reliefValves");
        (six with { Cooling = Cooling.Air, Bores = BoreBuild.WetLiner }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.bores");
        (six with { Primary = PrimaryDrive.Chain }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.primary");
        (six with { GearTeeth = [40] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.gearTeeth");
        (six with { FiringAngles = [0, 120, 240, 360, 480, 720] }).Check().ShouldHaveSingleItem().Field.ShouldBe("layout.firingAngles");
        (six with { OwnParts = [new OwnPart("HU", "") { Like = "idler-gear" }] }).Check().ShouldHaveSingleItem().Text.ShouldContain("no name");
        (six with { OwnParts = [new OwnPart("P4", "a") { Like = "piston" }] }).Check().ShouldHaveSingleItem().Text.ShouldContain("another part");
        (six with { OwnParts = [new OwnPart("HU", "a") { Like = "x" }] }).Check().ShouldHaveSingleItem().Text.ShouldContain("no kind");
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

    /// <summary>Engines as they are met. Common practice, no source.</summary>
    [Fact]
    public void Rings_are_told_by_duty()
    {
        string[] Rings(EngineLayout layout) =>
            [.. Start.Table(layout).All.Where(a => a.Kind.Stratum == Stratum.Rings && a.Station == 1).Select(a => a.Code)];
        Rings(Start.InlineSix).ShouldBe(["P1T", "P1N", "P1L"]);
        Rings(Start.InlineSix with { RingsPerPiston = 2 }).ShouldBe(["P1T", "P1N"]);
        // A stationary engine with three compression rings, a scraper above and one below the pin.
        Rings(Start.InlineSix with { RingsPerPiston = 5, OilRings = 2 }).ShouldBe(["P1T", "P1N", "P1H", "P1L1", "P1L2"]);
        Rings(Start.InlineSix with { RingsPerPiston = 5 }).ShouldBe(["P1T", "P1N", "P1H", "P1F", "P1L"]);
        // A two-stroke has no oil ring unless it has one.
        Rings(Start.TwoStrokeTwin with { RingsPerPiston = 3 }).ShouldBe(["P1T", "P1N", "P1H"]);
        Rings(Start.TwoStrokeTwin with { RingsPerPiston = 1 }).ShouldBe(["P1T"]);
    }

    [Fact]
    public void Mains_stand_where_they_are_told_to()
    {
        // A side-valve six with four mains, one after each pair of pins.
        var four = Engine.From(Start.InlineSix with { MainsAfter = [0, 2, 4, 6] });
        four.Mains.ShouldBe(4);
        four.MainsBeside(1).ShouldBe([1, 2]);
        four.MainsBeside(2).ShouldBe([1, 2]);
        four.MainsBeside(6).ShouldBe([3, 4]);
        // An air-cooled flat four with one more main behind the gear at the free end.
        var flat = Engine.From(Start.FlatFour with { MainsAfter = [0, 0, 2, 4] });
        flat.MainsBeside(1).ShouldBe([2, 3]);
        flat.MainsBeside(4).ShouldBe([3, 4]);
        LongSection.Of(new AddressTable(flat)).Columns.Count(c => c.Kind == BearingKind.Main).ShouldBe(4);
    }

    [Fact]
    public void A_plain_capped_rod_may_run_between_rolling_mains_and_a_built_crank_has_no_caps()
    {
        var small = Start.InlineSix with
        {
            Arrangement = Arrangement.Single,
            Cylinders = 1,
            FiringOrder = [1],
            Bearings = BearingType.Rolling,
            RodBearings = BearingType.Plain,
        };
        var table = Start.Table(small);
        table.Find("R1C").ShouldNotBeNull();
        table.Find("R1U").ShouldNotBeNull();
        table.Find("M1R").ShouldNotBeNull();
        table.Find("M1U").ShouldBeNull();
        table.Engine.OilRoute.ShouldBeEmpty();
        Start.Table(small with { RodBearings = null }).Find("R1C").ShouldBeNull();
        Start.Table(small with { RodBearings = null, Crank = CrankBuild.OnePiece }).Find("R1C").ShouldNotBeNull();
        // A ball at the free end and a bush at the other.
        var mixed = Start.Table(small with { MainTypes = [BearingType.Rolling, BearingType.Plain] });
        mixed.Find("M1R").ShouldNotBeNull();
        mixed.Find("M1U").ShouldBeNull();
        mixed.Find("M2U").ShouldNotBeNull();
        mixed.Find("M2R").ShouldBeNull();
        mixed.Engine.OilRoute.ShouldBe([new OilStop(BearingKind.Main, 2), new OilStop(BearingKind.Crankpin, 1)]);
    }

    [Fact]
    public void What_drives_feeds_and_cools_an_engine_decides_which_parts_it_has()
    {
        bool Has(EngineLayout layout, string kind) => Start.Table(layout).OfKind(kind).Any();
        var car = Start.InlineSix with { ValveGear = ValveGear.TwinOverhead };
        foreach (
            var (drive, kind) in new[]
            {
                (CamDrive.Chain, "timing-chain"),
                (CamDrive.Belt, "timing-belt"),
                (CamDrive.Gears, "idler-gear"),
                (CamDrive.Shaft, "bevel-shaft"),
            }
        )
        {
            var driven = car with { CamDrive = drive };
            new[] { "timing-chain", "timing-belt", "idler-gear", "bevel-shaft" }.Where(k => Has(driven, k)).ShouldBe([kind]);
        }

        Has(car with { CamPhasers = false }, "cam-phaser").ShouldBeFalse();
        Has(car with { Charging = Charging.Turbocharger }, "turbocharger").ShouldBeTrue();
        Has(car, "turbocharger").ShouldBeFalse();
        Has(car with { Bores = BoreBuild.DryLiner }, "liner").ShouldBeTrue();
        Has(car, "liner").ShouldBeFalse();
        Start.Table(car with { ReliefValves = 2 }).OfKind("relief-valve").Select(a => a.Code).ShouldBe(["RV1", "RV2"]);
        Start.Table(car with { BalanceShafts = 2 }).OfKind("balance-shaft").Count().ShouldBe(2);
        var diesel = car with { Fuel = FuelSystem.Diesel, Feed = DieselFeed.CommonRail };
        Has(diesel, "fuel-rail").ShouldBeTrue();
        Has(diesel, "injection-lobe").ShouldBeFalse();
        Has(diesel with { Feed = DieselFeed.UnitInjectors }, "injection-line").ShouldBeFalse();
        Has(diesel with { Feed = DieselFeed.UnitInjectors }, "injection-lobe").ShouldBeTrue();
        Has(car with { Fuel = FuelSystem.Gas }, "gas-mixer").ShouldBeTrue();
        Has(car with { Fuel = FuelSystem.Gas }, "injector").ShouldBeFalse();
        // A large two-stroke with exhaust valves has a camshaft, and no inlet valve.
        var large = Start.InlineSix with
        {
            Cycle = WorkingCycle.TwoStroke,
            Uniflow = true,
            ExhaustValves = 4,
            Charging = Charging.Blower,
        };
        Start.Table(large).OfKind("valve-exhaust").Count().ShouldBe(24);
        Has(large, "valve-inlet").ShouldBeFalse();
        Has(large, "camshaft").ShouldBeTrue();
        Has(large, "reed-valve").ShouldBeFalse();
        Has(large, "blower").ShouldBeTrue();
        Has(Start.TwoStrokeTwin, "camshaft").ShouldBeFalse();
    }

    [Fact]
    public void An_engine_that_fires_unevenly_is_told_by_its_angles()
    {
        // A vee-twin of 45° on one pin fires at 0 and 315.
        var twin = Start.VeeEight with
        {
            Cylinders = 2,
            FiringOrder = [1, 2],
            BankAngle = 45,
            FiringAngles = [0, 315],
        };
        Engine.From(twin).Cylinder(2).FiringAngle.ShouldBe(315);
        Engine.From(twin with { FiringAngles = null }).Cylinder(2).FiringAngle.ShouldBe(360);
    }

    /// <summary>Counted by hand: 43 teeth drive 86 over an idler of 67, which has turned a whole number of times only after 67 turns, and the camshaft after 2.</summary>
    [Theory]
    [InlineData(new[] { 43, 86 }, 2)]
    [InlineData(new[] { 43, 67, 86 }, 134)]
    [InlineData(new[] { 24, 36, 48 }, 6)]
    [InlineData(new[] { 30 }, 1)]
    public void Marks_of_gears_meet_again_when_each_has_turned_a_whole_number_of_times(int[] teeth, int turns)
    {
        GearMarks.TurnsUntilTheyMeet(teeth).ShouldBe(turns);
        // Each gear's own turns are whole then, and at no earlier turn are they all.
        Enumerable.Range(1, turns).First(n => teeth.All(z => n * teeth[0] % z == 0)).ShouldBe(turns);
        Should.Throw<ArgumentOutOfRangeException>(() => GearMarks.TurnsUntilTheyMeet([]));
    }

    [Fact]
    public void The_section_knows_how_the_engine_is_made_and_what_hangs_on_which_end()
    {
        var six = LongSection.Of(Start.Table(Start.InlineSix));
        six.Make.CamsPerBank.ShouldBe(0, "its camshaft lies in the block");
        (six.Make.Built, six.Make.Ports).ShouldBe((false, false));
        End(six, "FW").ShouldBe(CrankEnd.DriveEnd);
        End(six, "KP").ShouldBe(CrankEnd.FreeEnd);
        End(six, "TK").ShouldBe(CrankEnd.FreeEnd);
        End(six, "PA").ShouldBeNull();
        (End(six, "KE1"), End(six, "KE2")).ShouldBe((CrankEnd.FreeEnd, CrankEnd.DriveEnd));

        var turned = LongSection.Of(
            Start.Table(
                Start.InlineSix with
                {
                    Ends = new EngineEnds { Flywheel = CrankEnd.FreeEnd, Timing = CrankEnd.DriveEnd },
                }
            )
        );
        (End(turned, "FW"), End(turned, "KP"), End(turned, "TK")).ShouldBe((CrankEnd.FreeEnd, CrankEnd.DriveEnd, CrankEnd.DriveEnd));

        var twinCam = Start.VeeEight with { ValveGear = ValveGear.TwinOverhead, CamDrive = CamDrive.Chain };
        LongSection.Of(Start.Table(twinCam)).Make.CamsPerBank.ShouldBe(2);

        static CrankEnd? End(LongSection section, string address) => section.Cells.Single(c => c.Address == address).End;
    }
}
