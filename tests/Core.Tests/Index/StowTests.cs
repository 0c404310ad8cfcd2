using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Index;

public sealed class StowTests
{
    private readonly AddressTable _table = Start.Table(Start.InlineSix);

    private static Stow Bag(string code, params StowItem[] items) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Code = code,
            Kind =
                code.StartsWith("STACK", StringComparison.Ordinal) ? StowKind.Stack
                : code.StartsWith("BOX", StringComparison.Ordinal) ? StowKind.Box
                : StowKind.Bag,
            Items = [.. items],
            Where = "shelf 2",
        };

    private static StowItem At(string place) => new() { Place = place };

    private Problem? Wrong(Stow stow, params Stow[] others) => StowRules.Check(stow, _table, others).FirstOrDefault();

    [Fact]
    public void A_bag_is_named_by_its_kind_and_the_next_number()
    {
        StowRules.NextCode(StowKind.Bag, []).ShouldBe("BAG1");
        StowRules.NextCode(StowKind.Bag, [Bag("BAG9"), Bag("BOX12")]).ShouldBe("BAG10");
        StowRules.IsCode("box3").ShouldBeTrue();
        // No address of a part is taken for a bag, and no bag for a part.
        _table.All.ShouldAllBe(a => !StowRules.IsCode(a.Code));
        _table.Find("BAG1").ShouldBeNull();
    }

    [Fact]
    public void A_part_lies_in_one_bag()
    {
        var first = Bag("BAG1", At("R4C"));
        Wrong(first).ShouldBeNull();
        Wrong(Bag("BAG2", At("R4C")), first)!.Text.ShouldContain("BAG1");
        Wrong(Bag("BAG2", At("R4C"), At("R4C")))!.Text.ShouldContain("twice");
        Wrong(Bag("BAG2", At("R9C")))!.Field.ShouldBe("items[0].place");
        // Changed, it is not held against itself.
        Wrong(first, first).ShouldBeNull();
    }

    [Fact]
    public void What_has_no_address_has_a_name_and_a_count()
    {
        Wrong(Bag("BAG1", new StowItem { What = "M8 × 40", Count = 6 })).ShouldBeNull();
        Wrong(Bag("BAG1", new StowItem()))!.Field.ShouldBe("items[0].what");
        Wrong(Bag("BAG1", new StowItem { What = "M8 × 40", Count = 0 }))!.Field.ShouldBe("items[0].count");
        Wrong(Bag("BAG1", new StowItem { Place = "R4C", Count = 2 }))!.Field.ShouldBe("items[0].count");
    }

    [Fact]
    public void A_bag_lies_in_a_box_and_never_in_itself()
    {
        var box = Bag("BOX1");
        var bag = Bag("BAG1");
        bag.In = "BOX1";
        Wrong(bag, box).ShouldBeNull();
        box.In = "BAG1";
        Wrong(box, bag)!.Field.ShouldBe("in");
        bag.In = "BOX7";
        Wrong(bag, box)!.Text.ShouldContain("BOX7");
        Wrong(Bag("BAG1"), bag)!.Field.ShouldBe("code");
        Wrong(Bag("CRATE1"))!.Field.ShouldBe("code");
    }

    [Fact]
    public void What_lies_in_a_bag_is_not_nowhere()
    {
        var engine = Start.Case(Start.InlineSix);
        engine.Parts.Add(
            new Part
            {
                Id = Guid.CreateVersion7(),
                Place = "R4C",
                Mark = "4",
                Method = MarkMethod.Engraver,
                Custody = Custody.Bag,
            }
        );
        LooseEnd[] Ends() =>
            [
                .. new CaseReader(engine, KnowledgeBase.BuiltIn, [], new DateOnly(2026, 11, 27)).Progress.LooseEnds.Where(e =>
                    e.Place is "R4C" or "BAG1"
                ),
            ];
        Ends().ShouldContain(e => e.Kind == LooseKind.Unplaced);
        engine.Stows.Add(Bag("BAG1", At("R4C")));
        Ends().ShouldBeEmpty();
        // A bag that lies nowhere is as lost as what is in it.
        engine.Stows[0].Where = "";
        Ends().ShouldHaveSingleItem().Place.ShouldBe("BAG1");
        engine.Stows[0].Where = "shelf 2";
        engine.Parts[0].Custody = Custody.MachineShop;
        Ends().ShouldHaveSingleItem().Kind.ShouldBe(LooseKind.TwoPlaces);
    }

    [Fact]
    public void Small_parts_kept_on_their_part_are_somewhere()
    {
        var engine = Start.Case(Start.InlineSix);
        engine.Parts.Add(
            new Part
            {
                Id = Guid.CreateVersion7(),
                Place = "W4",
                Mark = "4",
                Method = MarkMethod.FeltPen,
                Custody = Custody.OnPart,
                On = "P4",
            }
        );
        new CaseReader(engine, KnowledgeBase.BuiltIn, [], new DateOnly(2026, 11, 27)).Progress.LooseEnds.ShouldNotContain(e => e.Place == "W4");
        RenumberCase.Apply(engine, Renumber.Layout(engine.Layout, CrankEnd.DriveEnd, NumberingScheme.AlongTheCrank, true), "wrong end");
        (engine.Parts[0].Place, engine.Parts[0].On).ShouldBe(("W3", "P3"));
    }

    [Fact]
    public void Bags_follow_their_parts_when_the_numbering_is_put_right()
    {
        var engine = Start.Case(Start.InlineSix);
        engine.Stows.Add(Bag("STACK1", At("P1T"), new StowItem { What = "spacer" }, At("P1N")));
        RenumberCase.Apply(engine, Renumber.Layout(engine.Layout, CrankEnd.DriveEnd, NumberingScheme.AlongTheCrank, true), "wrong end");
        engine.Stows[0].Items.Select(i => i.Place).ShouldBe(["P6T", "", "P6N"]);
    }

    [Fact]
    public void A_shop_that_never_mixes_is_told_so_of_parts_that_are_alike()
    {
        MateResult Ask(Mixing mixing) => MateCheck.Of(_table.Parse("N1"), _table.Parse("N2"), [], _table.Engine, mixing);
        Ask(Mixing.AlikeMayMix).Answer.ShouldBe(MateAnswer.MayBeMixed);
        Ask(Mixing.Never).Answer.ShouldBe(MateAnswer.NotMates);
        Ask(Mixing.Never).Word.Say().ShouldBe("Never mixed here");
        // A pair that has run together is mixed in no shop.
        MateCheck.Of(_table.Parse("L1A"), _table.Parse("F2A"), [], _table.Engine).Answer.ShouldBe(MateAnswer.NotMates);
    }

    [Fact]
    public void Labels_are_printed_for_bags_and_for_what_is_offered()
    {
        var engine = Start.Case(Start.InlineSix);
        engine.Candidates.Add(new Candidate { Letter = "B", What = "rod-shells" });
        Stow[] stows = [Bag("BAG1"), Bag("BOX2")];
        stows[0].Name = "section 2, group B";
        LabelPage.Labels("bags R4", engine.Places(), stows).Select(l => l.Code).ShouldBe(["BAG1", "BOX2", "R4"]);
        LabelPage.Labels("bag1", engine.Places(), stows).Single().Words.Say().ShouldBe("section 2, group B");
        LabelPage.Labels(".b", engine.Places(), stows).Count.ShouldBe(12);
        Should.Throw<ProblemException>(() => LabelPage.Labels("BAG9", engine.Places(), stows)).Problems[0].Text.ShouldContain("BAG9");
        Should.Throw<ProblemException>(() => TagCode.Read(TagCode.Shelf(12), Guid.CreateVersion7())).Problems[0].Text.ShouldContain("T12");
    }
}
