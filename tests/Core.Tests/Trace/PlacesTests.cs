using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>Places relative to where a cause begins, on engines of several shapes; facts of their geometry, common practice.</summary>
public sealed class PlacesTests
{
    private static readonly AddressTable Six = Start.Table(Start.InlineSix);

    private static readonly AddressTable Eight = Start.Table(Start.VeeEight);

    private static string At(AddressTable table, Anchor anchor, int station, string kind, Relation relation) =>
        string.Join(' ', Places.Resolve(table, anchor, station, kind, relation).Select(a => a.Code));

    [Theory]
    [InlineData("piston", Relation.Same, "P3")]
    [InlineData("rod-shell-upper", Relation.Same, "R3U")]
    [InlineData("crankpin", Relation.Same, "K3")]
    [InlineData("main-journal", Relation.Same, "M3 M4")]
    [InlineData("piston", Relation.Neighbours, "P2 P4")]
    [InlineData("piston", Relation.Others, "P1 P2 P4 P5 P6")]
    [InlineData("piston", Relation.Every, "P1 P2 P3 P4 P5 P6")]
    [InlineData("piston", Relation.SamePin, "")]
    [InlineData("piston", Relation.Bank, "P1 P2 P4 P5 P6")]
    [InlineData("engine", Relation.Neighbours, "EN")]
    public void From_the_third_cylinder_of_a_six(string kind, Relation relation, string places) =>
        At(Six, Anchor.Cylinder, 3, kind, relation).ShouldBe(places);

    /// <summary>In an inline six one and six, two and five, three and four rise together, half a cycle apart.</summary>
    [Theory]
    [InlineData(1, "P6")]
    [InlineData(2, "P5")]
    [InlineData(3, "P4")]
    public void Companions_of_a_six_rise_together(int cylinder, string companion) =>
        At(Six, Anchor.Cylinder, cylinder, "piston", Relation.Companion).ShouldBe(companion);

    [Fact]
    public void The_first_cylinder_has_one_neighbour_and_the_ends_no_more()
    {
        At(Six, Anchor.Cylinder, 1, "piston", Relation.Neighbours).ShouldBe("P2");
        At(Six, Anchor.Cylinder, 6, "piston", Relation.Neighbours).ShouldBe("P5");
        Places.Resolve(Six, Anchor.Main, 1, "main-shell-upper", Relation.Neighbours).Select(a => a.Station).ShouldBe([2]);
        Places.Resolve(Six, Anchor.Main, 4, "main-shell-upper", Relation.Neighbours).Select(a => a.Station).ShouldBe([3, 5]);
    }

    [Fact]
    public void Two_rods_of_a_vee_share_a_pin_and_a_bank_is_half_of_it()
    {
        foreach (var cylinder in Eight.Engine.Cylinders)
        {
            var mate = Places.Resolve(Eight, Anchor.Cylinder, cylinder.Number, "rod", Relation.SamePin).ShouldHaveSingleItem();
            Eight.Engine.Cylinder(mate.Station).Crankpin.ShouldBe(cylinder.Crankpin);
            Eight.Engine.Cylinder(mate.Station).Bank.ShouldNotBe(cylinder.Bank);
            var bank = Places.Resolve(Eight, Anchor.Cylinder, cylinder.Number, "piston", Relation.Bank).ToArray();
            bank.Length.ShouldBe(3);
            bank.ShouldAllOfSomeBe(a => Eight.Engine.Cylinder(a.Station).Bank == cylinder.Bank);
        }
    }

    /// <summary>What begins at a bearing is met later by those that its oil reaches after it, and by none before.</summary>
    [Fact]
    public void Downstream_is_what_the_oil_reaches_later()
    {
        var order = Six.Engine.OilRoute.Where(s => s.Kind == BearingKind.Crankpin).Select(s => s.Number).ToArray();
        for (var i = 0; i < order.Length; i++)
        {
            var later = Places.Resolve(Six, Anchor.Cylinder, order[i], "crankpin", Relation.Downstream).Select(a => a.Station).ToArray();
            later.ShouldBe(order[(i + 1)..], ignoreOrder: true);
        }
    }

    [Fact]
    public void The_far_end_is_the_second_half_of_the_oils_way_wherever_it_begins()
    {
        var far = At(Six, Anchor.Engine, 0, "crankpin", Relation.FarEnd);
        At(Six, Anchor.Cylinder, 1, "crankpin", Relation.FarEnd).ShouldBe(far);
        var half = Six.Engine.OilRoute.Skip(Six.Engine.OilRoute.Count / 2).ToArray();
        Places
            .Resolve(Six, Anchor.Engine, 0, "crankpin", Relation.FarEnd)
            .Select(a => a.Station)
            .ShouldBe(half.Where(s => s.Kind == BearingKind.Crankpin).Select(s => s.Number), ignoreOrder: true);
    }

    [Fact]
    public void What_begins_in_the_engine_as_a_whole_is_everywhere()
    {
        At(Six, Anchor.Engine, 0, "piston", Relation.Same).ShouldBe("P1 P2 P3 P4 P5 P6");
        Places.Stations(Six.Engine, Anchor.Engine).ShouldBe([0]);
        Places.Stations(Six.Engine, Anchor.Cylinder).Count().ShouldBe(6);
        Places.Stations(Six.Engine, Anchor.Main).Count().ShouldBe(7);
    }

    [Fact]
    public void Every_place_that_a_cause_speaks_of_is_on_the_engine()
    {
        foreach (var layout in new[] { Start.InlineSix, Start.VeeEight, Start.FlatFour, Start.TwoStrokeTwin })
        {
            var table = Start.Table(layout);
            var placed = Hypotheses.Of(table, KnowledgeBase.BuiltIn);
            placed.ShouldAllOfSomeBe(h => table.Find(h.Seat) != null);
            placed.SelectMany(h => h.Links).SelectMany(l => l).ShouldAllOfSomeBe(p => table.Find(p.Place) != null);
            placed.Sum(h => h.Prior).ShouldBeInRange(1.0, 1.5);
            // Any order of the oil, and of causes in the files, gives the same list.
            placed.Select(h => (h.Cause.Id, h.Station)).ShouldBe(placed.Select(h => (h.Cause.Id, h.Station)).Order());
        }
    }

    [Fact]
    public void A_cause_does_not_begin_at_a_part_that_the_engine_lacks()
    {
        bool Has(EngineLayout layout, string cause) => Hypotheses.Of(Start.Table(layout), KnowledgeBase.BuiltIn).Any(h => h.Cause.Id == cause);
        Has(Start.InlineSix, "phaser-loose-cause").ShouldBeFalse("no phaser");
        Has(Start.InlineSix with { ValveGear = ValveGear.TwinOverhead }, "phaser-loose-cause")
            .ShouldBe(Start.Table(Start.InlineSix with { ValveGear = ValveGear.TwinOverhead }).OfKind("cam-phaser").Any());
        Has(Start.TwoStrokeTwin, "lash-lost-cause").ShouldBeFalse("no valves");
        Has(Start.TwoStrokeTwin, "air-leak-two-stroke").ShouldBeTrue();
    }

    /// <summary>Laying the causes out is kept, by layout and by knowledge, and neither is mixed up with another.</summary>
    [Fact]
    public void What_is_laid_out_once_is_kept_for_that_layout_and_that_knowledge()
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var six = Hypotheses.Of(Start.Table(Start.InlineSix), knowledge);
        Hypotheses.Of(Start.Table(Start.InlineSix with { FiringOrder = [1, 5, 3, 6, 2, 4] }), knowledge).ShouldBeSameAs(six);
        var other = Hypotheses.Of(Start.Table(Start.InlineSix with { OilFeedEnd = CrankEnd.DriveEnd }), knowledge);
        other.ShouldNotBeSameAs(six);
        other
            .SelectMany(h => h.Links)
            .SelectMany(l => l)
            .ShouldNotBe(six.SelectMany(h => h.Links).SelectMany(l => l), "the oil comes from the other end");
        var own = CauseFile.Read("own", CauseFile.Write([knowledge.Cause("chain-worn")!]))[0];
        own.Base = Frequency.Always;
        var changed = Hypotheses.Of(Start.Table(Start.InlineSix), knowledge.With([own]));
        changed.Single(h => h.Cause.Id == "chain-worn").Prior.ShouldBeGreaterThan(six.Single(h => h.Cause.Id == "chain-worn").Prior);
        Hypotheses.Of(Start.Table(Start.InlineSix), knowledge).ShouldBeSameAs(six);
    }
}
