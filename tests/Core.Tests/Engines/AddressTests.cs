using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Tests.Engines;

public sealed class AddressTests
{
    public static TheoryData<EngineLayout> Layouts() =>
        [
            Start.InlineSix,
            Start.VeeEight,
            Start.FlatFour,
            Start.TwoStrokeTwin,
            Start.VeeEight with
            {
                ValveGear = ValveGear.TwinOverhead,
                InletValves = 2,
                ExhaustValves = 2,
                Fuel = FuelSystem.Injected,
            },
            Start.InlineSix with
            {
                Fuel = FuelSystem.Diesel,
                ValveGear = ValveGear.Side,
            },
            Start.FlatFour with
            {
                Case = CaseBuild.Split,
                Cooling = Cooling.Air,
                ValveGear = ValveGear.Pushrod,
            },
            Start.TwoStrokeTwin with
            {
                Arrangement = Arrangement.Single,
                Cylinders = 1,
                FiringOrder = [1],
                GearboxInCase = true,
                Case = CaseBuild.Split,
            },
        ];

    [Theory]
    [MemberData(nameof(Layouts))]
    public void Every_address_of_an_engine_is_read_back_as_itself(EngineLayout layout)
    {
        var table = Start.Table(layout);
        table.All.Select(a => a.Code).ShouldBeUnique();
        table.All.ShouldAllOfSomeBe(a => table.Parse(" " + a.Code.ToLowerInvariant() + " ") == a);
    }

    [Theory]
    [MemberData(nameof(Layouts))]
    public void No_letter_reads_as_a_digit(EngineLayout layout) =>
        Start.Table(layout).All.ShouldAllOfSomeBe(a => !a.Code.Any(c => "BDGIOQSZ".Contains(c)));

    [Fact]
    public void An_address_that_is_not_there_says_which_are()
    {
        var problem = Should.Throw<ProblemException>(() => Start.Table(Start.InlineSix).Parse("R7U")).Problems[0];
        problem.Text.ShouldContain("no R7U");
        problem.Remedy.ShouldContain("R1U to R6U");
        Should.Throw<ProblemException>(() => Start.Table(Start.InlineSix).Parse("<script>")).Problems[0].Field.ShouldBe("place");
        Should.Throw<ProblemException>(() => Start.Table(Start.InlineSix).Parse(null));
    }

    [Fact]
    public void A_two_stroke_on_rollers_has_no_valves_shells_or_pan()
    {
        var table = Start.Table(Start.TwoStrokeTwin);
        table.Find("V1A").ShouldBeNull();
        table.Find("R1U").ShouldBeNull();
        table.Find("PA").ShouldBeNull();
        table.Find("P1L").ShouldBeNull();
        table.Find("R2N").ShouldNotBeNull();
    }

    [Fact]
    public void The_table_of_kinds_holds_together()
    {
        PartKinds.All.ShouldAllOfSomeBe(k => k.Mates.All(m => PartKinds.Find(m) != null));
        PartKinds.All.Select(k => (k.Letters, k.Suffix, k.Scope == StationScope.Engine)).ShouldBeUnique();
    }

    [Fact]
    public void The_long_section_runs_from_the_free_end_and_mirrors_the_second_bank()
    {
        var section = LongSection.Of(Start.Table(Start.VeeEight));
        section
            .Columns.Select(c => c.Kind == BearingKind.Main ? $"M{c.Number}" : $"{c.CylinderA}/{c.CylinderB}")
            .ShouldBe(["M1", "1/2", "M2", "3/4", "M3", "5/6", "M4", "7/8", "M5"]);
        section.Cells.Single(c => c.Address == "P4").Bank.ShouldBe(Bank.B);
        section.Cells.Single(c => c.Address == "P4").Column.ShouldBe(3);

        var turned = LongSection.Of(Start.Table(Start.InlineSix with { NumberOneEnd = CrankEnd.DriveEnd }));
        turned.Columns[0].Number.ShouldBe(7);
        turned.Cells.Single(c => c.Address == "R1").Column.ShouldBe(11);
    }

    [Fact]
    public void Several_at_one_station_are_told_apart_by_a_last_digit()
    {
        var table = Start.Table(Start.VeeEight with { ValveGear = ValveGear.TwinOverhead, InletValves = 2, ExhaustValves = 2 });
        table.At("valve-inlet", 3).Select(a => a.Code).ShouldBe(["V3A1", "V3A2"]);
        table.Find("V3A2")!.Words.ShouldBe("inlet valve, cylinder 3, no. 2");
        table.OfKind("camshaft").Select(a => a.Code).ShouldBe(["CM1", "CM2", "CM3", "CM4"]);
        table.Find("CM2C5").ShouldNotBeNull();
        table.Find("CM2C6").ShouldBeNull();
        table.Find("V3A").ShouldBeNull();
        Start.Table(Start.VeeEight).Find("V3A").ShouldNotBeNull();
        Start.Table(Start.InlineSix).OfKind("camshaft").Select(a => a.Code).ShouldBe(["CM1"]);
    }

    [Fact]
    public void A_split_case_has_halves_and_no_main_caps()
    {
        var table = Start.Table(Start.FlatFour with { Case = CaseBuild.Split, Cooling = Cooling.Air });
        table.OfKind("case-half").Select(a => a.Code).ShouldBe(["CX1", "CX2"]);
        table.OfKind("main-cap").ShouldBeEmpty();
        table.OfKind("barrel").Count().ShouldBe(4);
        table.OfKind("water-pump").ShouldBeEmpty();
    }
}
