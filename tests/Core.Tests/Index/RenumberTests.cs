using VividSleuth.Core.Arrival;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Tests.Strip;

namespace VividSleuth.Core.Tests.Index;

public sealed class RenumberTests
{
    private static EngineLayout Turn(EngineLayout old) =>
        Renumber.Layout(
            old,
            old.NumberOneEnd == CrankEnd.FreeEnd ? CrankEnd.DriveEnd : CrankEnd.FreeEnd,
            old.Numbering,
            old.Arrangement == Arrangement.Flat ? !old.BankAOnTheLeft : old.BankAOnTheLeft
        );

    public static TheoryData<EngineLayout> Layouts() =>
        [Start.InlineSix, Start.VeeEight, Start.FlatFour, Start.TwoStrokeTwin, Start.VeeEight with { ValveGear = ValveGear.TwinOverhead }];

    [Theory]
    [MemberData(nameof(Layouts))]
    public void Every_place_has_one_new_address_and_turning_twice_changes_nothing(EngineLayout layout)
    {
        var turned = Turn(layout);
        var map = Renumber.Map(layout, turned);
        map.Select(m => m.Old).ShouldBeUnique();
        map.Select(m => m.New).ShouldBeUnique();
        map.Select(m => m.New).Order().ShouldBe(map.Select(m => m.Old).Order());
        Turn(turned).FiringOrder.ShouldBe(layout.FiringOrder);
        var back = Renumber.Map(turned, layout).ToDictionary(m => m.Old, m => m.New);
        map.ShouldAllOfSomeBe(m => back[m.New] == m.Old);
    }

    /// <summary>The metal does not move: bores fire at the same intervals, and each keeps its thrust side and its place in the section.</summary>
    [Theory]
    [MemberData(nameof(Layouts))]
    public void The_engine_itself_stays_what_it_is(EngineLayout layout)
    {
        var turned = Turn(layout);
        var (old, now) = (Engine.From(layout), Engine.From(turned));
        var map = Renumber.Map(layout, turned).ToDictionary(m => m.Old, m => m.New);
        var (before, after) = (LongSection.Of(new AddressTable(old)), LongSection.Of(new AddressTable(now)));
        var first = now.Cylinder(Number(map, 1)).FiringAngle;
        foreach (var c in old.Cylinders)
        {
            var d = now.Cylinder(Number(map, c.Number));
            d.MajorThrustSide.ShouldBe(c.MajorThrustSide);
            ((d.FiringAngle - first + layout.CycleDegrees) % layout.CycleDegrees).ShouldBe(c.FiringAngle, 1e-9);
            after.Cells.Single(x => x.Address == $"P{d.Number}").Column.ShouldBe(before.Cells.Single(x => x.Address == $"P{c.Number}").Column);
        }
    }

    [Fact]
    public void A_six_turned_round_swaps_one_and_six()
    {
        var turned = Turn(Start.InlineSix);
        var map = Renumber.Map(Start.InlineSix, turned).ToDictionary(m => m.Old, m => m.New);
        map["R1C"].ShouldBe("R6C");
        map["K2"].ShouldBe("K5");
        map["M7"].ShouldBe("M1");
        map.ShouldNotContainKey("PA");
        map.ShouldNotContainKey("M4");
        turned.FiringOrder[0].ShouldBe(1);
    }

    [Fact]
    public void Records_move_and_the_old_marks_are_told_until_made_anew()
    {
        var c = Start.Case();
        c.Parts.AddRange([Start.Tag("R1", Facing.Left), Start.Tag("R6", Facing.Left), Start.Tag("M4C", Facing.Left)]);
        c.Findings.Add(Start.Saw("R1U", "overlay-wiped", 3));
        c.Readings.Add(Start.Read("K1", "crankpin-diameter", 71.7m));
        c.Sounds.Add(new Sound { CutOut = 2, Pickup = 1 });
        var count = c.Records().Count();
        var done = RenumberCase.Apply(c, Turn(c.Layout), "flywheel mark");
        c.Records().Count().ShouldBe(count);
        c.Parts[0].Place.ShouldBe("R6");
        c.Parts[0].MarkedAs.ShouldBe("R1");
        c.Parts[1].Place.ShouldBe("R1");
        c.Parts[2].MarkedAs.ShouldBeEmpty();
        c.Findings[0].Place.ShouldBe("R6U");
        c.Readings[0].Place.ShouldBe("K6");
        (c.Sounds[0].CutOut, c.Sounds[0].Pickup).ShouldBe((5, 6));
        done.Map["R1"].ShouldBe("R6");
        LooseEnds.Of(c, Start.Table(c.Layout), Strip.StripTests.Plan(c), Start.Today).Count(e => e.Kind == LooseKind.OldMark).ShouldBe(2);

        // Turned back before anything was marked anew: what stands on the metal is right again.
        RenumberCase.Apply(c, done.Before, "it was right after all");
        c.Parts[0].Place.ShouldBe("R1");
        c.Parts.ShouldAllOfSomeBe(p => p.MarkedAs == "");
    }

    [Fact]
    public void What_cannot_be_is_refused()
    {
        Should.Throw<ProblemException>(() => Renumber.Layout(Start.InlineSix, CrankEnd.FreeEnd, NumberingScheme.AlongTheCrank, true));
        Should
            .Throw<ProblemException>(() => Renumber.Layout(Start.FlatFour, CrankEnd.DriveEnd, NumberingScheme.BankAfterBank, true))
            .Problems[0]
            .Field.ShouldBe("bankAOnTheLeft");
        Should.Throw<ProblemException>(() => Renumber.Layout(Start.VeeEight, CrankEnd.DriveEnd, NumberingScheme.AlongTheCrank, true));
    }

    [Fact]
    public void Odd_and_even_becomes_bank_after_bank()
    {
        var layout = Renumber.Layout(Start.VeeEight, CrankEnd.FreeEnd, NumberingScheme.BankAfterBank, true);
        var map = Renumber.Map(Start.VeeEight, layout).ToDictionary(m => m.Old, m => m.New);
        map["P2"].ShouldBe("P5");
        map["P3"].ShouldBe("P2");
        map.ShouldNotContainKey("K2");
        layout.FiringOrder.ShouldBe([1, 8, 6, 2, 7, 3, 4, 5]);
    }

    private static int Number(Dictionary<string, string> map, int old) => int.Parse(map.GetValueOrDefault($"P{old}", $"P{old}")[1..]);
}
