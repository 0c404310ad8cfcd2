using System.Text.Json;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
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

    /// <summary>What is answered to a figure just written is what the sheet then says of it, to the last digit.</summary>
    [Fact]
    public void A_figure_worked_out_by_itself_is_the_one_of_the_sheet()
    {
        var compared = 0;
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Start.Root(), "demo/cases")))
        {
            var demo = CaseFile.FromJson(File.ReadAllText(file));
            var whole = new CaseReader(demo.Case, KnowledgeBase.BuiltIn, demo.Instruments, Start.Today);
            foreach (var of in demo.Case.Readings.Select(r => (r.Place, r.Characteristic)).Distinct())
            {
                var alone = new CaseReader(demo.Case, KnowledgeBase.BuiltIn, demo.Instruments, Start.Today).Figures(of.Place, of.Characteristic);
                SheetFigure[] wanted = [.. whole.Gauge.Figures.Where(f => f.Place == of.Place && f.Characteristic == of.Characteristic)];
                JsonSerializer.Serialize(alone, CaseFile.Json).ShouldBe(JsonSerializer.Serialize(wanted, CaseFile.Json), $"{file} {of}");
                compared += wanted.Length;
            }
        }

        compared.ShouldBeGreaterThan(100);
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

    [Fact]
    public void Stations_are_told_worst_first_and_equal_ones_share_their_rank()
    {
        var c = Start.Case();
        c.Findings.Add(Start.Saw("P3", "crown-struck", 2));
        c.Findings.Add(Start.Saw("R5U", "overlay-wiped", 3));
        c.Findings.Add(Start.Saw("K2", "scored", 2));
        var cylinders = Of(c).Stations.Where(s => s.Scope == StationScope.Cylinder).ToArray();
        cylinders.Select(s => s.Number).ShouldBe([5, 2, 3, 1, 4, 6]);
        cylinders.Select(s => s.Rank).ShouldBe([1, 2, 2, null, null, null]);
        cylinders[0].ShouldSatisfyAllConditions(s => s.Severe.ShouldBe(1), s => s.Worst.ShouldBe("R5U"), s => s.Places.ShouldContain("K5"));
        cylinders[1].Worst.ShouldBe("K2", "a crankpin is its cylinder’s");
        c.Findings[1].WithdrawnAt = DateTimeOffset.UtcNow;
        Of(c).Stations.First(s => s.Scope == StationScope.Cylinder).Number.ShouldBe(2);
    }

    [Fact]
    public void A_figure_outside_is_worse_than_any_mark_and_no_worse_than_what_is_severe()
    {
        var c = Start.Case();
        c.Limits.Add(
            new Limit
            {
                Id = Guid.CreateVersion7(),
                Characteristic = "crankpin-diameter",
                Least = 71.9m,
                Most = 72m,
                Source = LimitSource.MakersManual,
                SourceText = "p. 4",
            }
        );
        c.Readings.Add(Start.Read("K2", "crankpin-diameter", 71.5m));
        c.Findings.Add(Start.Saw("P3", "crown-struck", 2));
        c.Findings.Add(Start.Saw("P6", "crown-struck", 3));
        var cylinders = Of(c).Stations.Where(s => s.Scope == StationScope.Cylinder).ToArray();
        cylinders.Take(3).Select(s => (s.Number, s.Severe, s.Outside, s.Moderate)).ShouldBe([(6, 1, 0, 0), (2, 0, 1, 0), (3, 0, 0, 1)]);
    }

    [Fact]
    public void A_vee_has_banks_and_both_cylinders_of_a_pin_are_told_of_it()
    {
        var c = Start.Case(Start.VeeEight);
        c.Findings.Add(Start.Saw("K1", "scored", 3));
        var stations = Of(c).Stations;
        stations.Where(s => s.Scope == StationScope.Cylinder && s.Severe == 1).Select(s => s.Number).ShouldBe([1, 2]);
        var banks = stations.Where(s => s.Scope == StationScope.Bank).ToArray();
        banks.Select(s => s.Bank).ShouldBe([Bank.A, Bank.B], ignoreOrder: true);
        banks.Single(s => s.Bank == Bank.B).Places.ShouldContain("H2");
        banks.Single(s => s.Bank == Bank.B).Places.ShouldNotContain("P1");
        Of(Start.Case()).Stations.ShouldNotContain(s => s.Scope == StationScope.Bank);
    }
}
