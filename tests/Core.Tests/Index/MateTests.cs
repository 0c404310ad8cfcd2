using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Tests.Strip;

namespace VividSleuth.Core.Tests.Index;

public sealed class MateTests
{
    private readonly AddressTable _table = Start.Table(Start.InlineSix);

    private MateResult Check(string first, string second, params Part[] parts) =>
        MateCheck.Of(_table.Parse(first), _table.Parse(second), parts, _table.Engine);

    [Fact]
    public void Rod_and_cap_of_one_number_marked_on_one_side_match() =>
        Check("R4", "R4C", Start.Tag("R4", Facing.Left), Start.Tag("R4C", Facing.Left)).Answer.ShouldBe(MateAnswer.Match);

    [Fact]
    public void A_turned_cap_is_told()
    {
        var result = Check("R4C", "R4", Start.Tag("R4", Facing.Left), Start.Tag("R4C", Facing.Right));
        result.Answer.ShouldBe(MateAnswer.WrongWayRound);
        result.Why.ShouldContain("faces right");
    }

    [Fact]
    public void A_cap_of_another_rod_is_not_a_mate_whatever_its_marks()
    {
        var result = Check("R4", "R3C", Start.Tag("R4", Facing.Left), Start.Tag("R3C", Facing.Left));
        result.Answer.ShouldBe(MateAnswer.NotMates);
        result.Why.ShouldContain("number 3");
    }

    [Fact]
    public void What_is_not_recorded_proves_nothing()
    {
        Check("R4", "R4C").Answer.ShouldBe(MateAnswer.NotProven);
        Check("R4", "R4C", Start.Tag("R4", Facing.Left), Start.Tag("R4C", Facing.Left, MarkMethod.None))
            .Why.ShouldContain("R4C carries no recorded mark");
        Check("R4", "R4C", Start.Tag("R4", Facing.Left), Start.Tag("R4C", Facing.Unknown)).Why.ShouldContain("R4C");
        var withdrawn = Start.Tag("R4C", Facing.Left);
        withdrawn.WithdrawnAt = DateTimeOffset.UnixEpoch;
        Check("R4", "R4C", Start.Tag("R4", Facing.Left), withdrawn).Answer.ShouldBe(MateAnswer.NotProven);
    }

    /// <summary>Makers' marks may be the same on every rod: they prove the side, not the pair (common practice, no source).</summary>
    [Fact]
    public void A_makers_mark_that_is_the_same_on_all_proves_the_side_only()
    {
        var result = Check(
            "R4",
            "R4C",
            Start.Tag("R4", Facing.Left, MarkMethod.MakersMark, sameOnAll: true),
            Start.Tag("R4C", Facing.Left, MarkMethod.MakersMark, sameOnAll: true)
        );
        result.Answer.ShouldBe(MateAnswer.NotProven);
        result.Word.ShouldBe("Side only");
    }

    [Fact]
    public void Other_pairs_are_told_apart_too()
    {
        Check("R4", "R4").Word.ShouldBe("Same part");
        Check("R4", "R5").Why.ShouldContain("two of a kind");
        Check("N4", "N5").Answer.ShouldBe(MateAnswer.MayBeMixed);
        Check("P4", "M4C").Answer.ShouldBe(MateAnswer.NotMates);
        // A piston's arrow and a rod's mark need not face the same way: only halves machined as one are compared.
        Check("P4", "R4", Start.Tag("P4", Facing.FreeEnd), Start.Tag("R4", Facing.Left)).Answer.ShouldBe(MateAnswer.Match);
    }

    [Fact]
    public void Loose_ends_name_what_has_no_mark_no_place_or_a_turned_mate()
    {
        var c = Start.Case();
        var lost = Start.Tag("P2", Facing.FreeEnd, MarkMethod.None);
        lost.Custody = Custody.Bag;
        c.Parts.AddRange([lost, Start.Tag("R4", Facing.Left), Start.Tag("R4C", Facing.Right), Start.Tag("R5", Facing.Left)]);
        var ends = LooseEnds.Of(c, _table, Strip.StripTests.Plan(c), Start.Today).Select(e => e.Text).ToArray();
        ends.Select(Said.Say).ShouldContain("P2 has no mark.");
        ends.ShouldContain(t => t.StartsWith("P2 is off the engine"));
        ends.ShouldContain(t => t.StartsWith("R4 and R4C: "));
        ends.ShouldContain(t => t.Contains("its cap R5C is not"));
        ends.Length.ShouldBe(4);
    }

    [Theory]
    [InlineData("L3A", "F3A", MateAnswer.NotProven)]
    [InlineData("L3A", "F4A", MateAnswer.NotMates)]
    [InlineData("L3A", "F3E", MateAnswer.NotMates)]
    [InlineData("P2T", "P2", MateAnswer.NotProven)]
    [InlineData("P2T", "P3", MateAnswer.NotMates)]
    [InlineData("V3E", "VU3E", MateAnswer.NotProven)]
    [InlineData("V3E", "VU3A", MateAnswer.NotMates)]
    [InlineData("VK3", "VK4", MateAnswer.MayBeMixed)]
    public void Sliding_pairs_and_their_places(string first, string second, MateAnswer answer) => Check(first, second).Answer.ShouldBe(answer);

    [Fact]
    public void A_used_sliding_pair_is_never_mixed_and_it_says_so() => Check("L3A", "F4A").Why.ShouldContain("sliding pair is never mixed");

    [Fact]
    public void A_valve_of_one_bank_is_no_mate_of_the_other_head()
    {
        var table = Start.Table(Start.VeeEight);
        MateResult Of(string a, string b) => MateCheck.Of(table.Parse(a), table.Parse(b), [], table.Engine);
        Of("V1A", "H1").Answer.ShouldBe(MateAnswer.NotProven);
        Of("V1A", "H2").Answer.ShouldBe(MateAnswer.NotMates);
    }

    [Fact]
    public void Case_halves_are_mates_and_must_sit_the_same_way_round()
    {
        var table = Start.Table(Start.FlatFour with { Case = Core.Engines.CaseBuild.Split });
        MateResult Of(Facing second) =>
            MateCheck.Of(table.Parse("CX1"), table.Parse("CX2"), [Start.Tag("CX1", Facing.FreeEnd), Start.Tag("CX2", second)], table.Engine);
        Of(Facing.FreeEnd).Answer.ShouldBe(MateAnswer.Match);
        Of(Facing.DriveEnd).Answer.ShouldBe(MateAnswer.WrongWayRound);
    }

    [Fact]
    public void What_came_off_and_has_no_tag_is_nowhere_and_what_is_late_is_overdue()
    {
        var c = Start.Case();
        c.Steps.Add(Strip.StripTests.Record("pan", "for the test"));
        var sent = Start.Tag("CR", Facing.FreeEnd);
        sent.Custody = Custody.MachineShop;
        sent.Where = "Linden Grinding";
        sent.DueBack = Start.Today.AddDays(-1);
        c.Parts.Add(sent);
        var ends = LooseEnds.Of(c, _table, Strip.StripTests.Plan(c), Start.Today);
        ends.Single(e => e.Kind == LooseKind.Nowhere).Text.ShouldContain("PA");
        ends.Single(e => e.Kind == LooseKind.Overdue).Text.ShouldContain("Linden Grinding");
        sent.DueBack = Start.Today;
        LooseEnds.Of(c, _table, Strip.StripTests.Plan(c), Start.Today).ShouldNotContain(e => e.Kind == LooseKind.Overdue);
    }
}
