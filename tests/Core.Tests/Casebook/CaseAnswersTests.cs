using VividSleuth.Core.Casebook;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Casebook;

/// <summary>What a case comes to as a whole: how each place stands, and where a person stopped.</summary>
public sealed class CaseAnswersTests
{
    private static CaseAnswers Of(EngineCase c) => CaseAnswers.Of(c, KnowledgeBase.BuiltIn, [], Start.Today);

    private static PlaceState At(EngineCase c, string place) => Of(c).Places.Single(p => p.Place == place);

    [Fact]
    public void A_place_shows_the_worst_that_stands_and_nothing_where_nobody_looked()
    {
        var c = Start.Case();
        At(c, "P3").Damage.ShouldBeNull();
        c.Findings.Add(Start.Saw("P3", "skirt-crack", 0));
        At(c, "P3").Damage.ShouldBe(0, "looked at and clean");
        c.Findings.Add(Start.Saw("P3", "crown-struck", 1));
        c.Findings.Add(Start.Saw("P3", "land-broken", 3));
        At(c, "P3").Damage.ShouldBe(3);
        c.Findings[^1].WithdrawnAt = DateTimeOffset.UtcNow;
        At(c, "P3").Damage.ShouldBe(1, "what was taken back no longer shows");
        At(c, "P3").Appears.ShouldBeTrue();
        At(c, "P4").Appears.ShouldBeFalse();
    }

    [Fact]
    public void A_tag_without_a_mark_is_tagged_and_not_marked()
    {
        var c = Start.Case();
        c.Parts.Add(Start.Tag("P1", Facing.FreeEnd, MarkMethod.None));
        c.Parts.Add(Start.Tag("P2", Facing.FreeEnd));
        (At(c, "P1").Tagged, At(c, "P1").Marked).ShouldBe((true, false));
        (At(c, "P2").Tagged, At(c, "P2").Marked).ShouldBe((true, true));
        (At(c, "P3").Tagged, At(c, "P3").Marked).ShouldBe((false, false));
    }

    [Fact]
    public void Readings_share_of_the_limit_and_verdict_are_told_by_place()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72));
        c.Readings.Add(Start.Read("K2", "crankpin-diameter", 71.98m));
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "K2",
                Action = VerdictAction.Machine,
                Reason = "scored",
            }
        );
        var state = At(c, "K2");
        state.Readings.ShouldBe(1);
        state.Verdict.ShouldBe(VerdictAction.Machine);
        At(c, "K1").Verdict.ShouldBeNull();
    }

    [Fact]
    public void Who_comes_back_is_told_who_wrote_last_and_what_comes_next()
    {
        var c = Start.Case();
        var finding = Start.Saw("EN", "knock", 2);
        finding.At = new DateTimeOffset(2026, 11, 3, 9, 0, 0, TimeSpan.Zero);
        finding.By = "tomas";
        c.Findings.Add(finding);
        var progress = Of(c).Progress;
        progress.LastBy.ShouldBe("tomas");
        progress.LastWritten.ShouldBe(finding.At);
        progress.Next.ShouldStartWith("Strip: ");
        progress.FastenersOut.ShouldBe(0);
        progress.Last.ShouldBeEmpty();
    }

    [Fact]
    public void A_part_that_came_off_and_has_no_tag_is_a_loose_end()
    {
        var c = Start.Case();
        Of(c).Progress.LooseEnds.ShouldBeEmpty();
        c.Parts.Add(Start.Tag("P1", Facing.FreeEnd, MarkMethod.None));
        var ends = Of(c).Progress.LooseEnds;
        ends.ShouldContain(e => e.Place == "P1");
        ends.ShouldAllOfSomeBe(e => e.Text.Say().Length > 0);
    }

    /// <summary>The same case gives the same answer, whatever the order in which its records were entered or come from the database.</summary>
    [Fact]
    public void The_order_of_records_changes_nothing()
    {
        var drawn = Core.Trace.DrawnCase.Draw(Start.InlineSix, KnowledgeBase.BuiltIn, 5);
        var random = new Random(5);
        var findings = drawn.Signs.Where(_ => random.Next(5) == 0).Select(s => drawn.Found(s.Sign, s.Place)).ToArray();
        var (one, other) = (Start.Case(), Start.Case());
        one.Findings.AddRange(findings);
        random.Shuffle(findings);
        other.Findings.AddRange(findings);
        string Told(EngineCase c) =>
            string.Join('|', Of(c).Trace.Ranking.Select(r => FormattableString.Invariant($"{r.Cause} {r.Place} {r.Probability:R}")))
            + string.Join('|', Of(c).Trace.NextChecks.Select(n => n.Sign + n.Place));
        Told(one).ShouldBe(Told(other));
    }
}
