using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Casebook;

/// <summary>What fails how often in other engines of a kind.</summary>
public sealed class KindFailuresTests
{
    private static KindCase Other(string looked, string damaged = "", string began = "") =>
        new(Guid.CreateVersion7(), Places(looked), Places(damaged), began);

    private static HashSet<string> Places(string typed) => [.. typed.Split(' ', StringSplitOptions.RemoveEmptyEntries)];

    private static KindFailures Of(params KindCase[] cases) =>
        KindFailures.Of(cases, new CaseReader(Start.Case(), KnowledgeBase.BuiltIn, [], Start.Today).Table);

    [Fact]
    public void A_place_is_counted_among_the_cases_in_which_somebody_looked_there()
    {
        var worst = Other("R4 P1", "R4", "R4");
        var of = Of(worst, Other("R4 P1", "R4"), Other("R4"), Other("P1", "P1"), Other(""));
        of.Cases.ShouldBe(4);
        of.Parts.Select(p => (p.Place, p.Share.Times, p.Share.Of)).ShouldBe([("R4", 2, 3), ("P1", 1, 3)]);
        of.Parts[0].Cases.ShouldContain(worst.Id);
        // Of the causes only those cases count in which somebody decided.
        of.Began.ShouldHaveSingleItem().Share.ShouldBe(ExactShare.From(1, 1));
    }

    [Fact]
    public void A_cylinder_counts_once_however_much_of_it_failed_and_what_was_not_looked_at_is_not_sound()
    {
        var of = Of(Other("P4 R4 R4U P1", "P4 R4U"), Other("R4"), Other("M2"));
        of.Cylinders.Select(c => (c.Place, c.Share.Times, c.Share.Of)).ShouldBe([("1", 0, 1), ("4", 1, 2)]);
    }

    [Fact]
    public void What_this_engine_does_not_have_what_was_only_on_offer_and_how_it_ran_is_left_out()
    {
        var of = Of(Other("P12 R4.B R4 EN", "P12 R4.B EN", "P12"));
        of.Parts.ShouldBeEmpty();
        of.Began.ShouldBeEmpty();
        of.Cylinders.ShouldHaveSingleItem().Share.Times.ShouldBe(0);
    }

    [Fact]
    public void Of_nothing_nothing_is_told()
    {
        var of = Of();
        of.Cases.ShouldBe(0);
        of.Parts.ShouldBeEmpty();
        of.Cylinders.ShouldBeEmpty();
    }
}
