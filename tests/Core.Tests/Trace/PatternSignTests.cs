using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>Patterns over places as signs of the net.</summary>
public sealed class PatternSignTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static IReadOnlyList<MeasuredSign> Of(EngineCase c)
    {
        var table = Start.Table(c.Layout);
        return PatternSigns.Of(c.Findings, table, Knowledge, SheetBuilder.Build(c.GaugeLog(), table, Knowledge, []));
    }

    /// <summary>Upper rod shells wiped, with a level for each cylinder from 1 on; 0 is looked at and clean.</summary>
    private static EngineCase Wiped(string sign, params int[] levels)
    {
        var c = Start.Case();
        c.Findings.AddRange(levels.Select((level, i) => Start.Saw($"R{i + 1}U", sign, level)));
        return c;
    }

    /// <summary>
    /// Sellke, Bayarri and Berger, "Calibration of p values for testing precise null hypotheses", The American Statistician 55 (2001): 0.407
    /// for p = 0.05 and 0.125 for p = 0.01. Values from memory, and equal to −e·p·ln p.
    /// </summary>
    [Theory]
    [InlineData(0.05, 0.407)]
    [InlineData(0.01, 0.125)]
    [InlineData(0.4, 1)]
    [InlineData(1, 1)]
    [InlineData(0, 0)]
    public void A_p_value_leaves_chance_at_least_the_published_bayes_factor(double p, double factor) =>
        PatternSigns.LeastBayesFactor(p).ShouldBe(factor, 0.0005);

    [Theory]
    [InlineData(3, 0)]
    [InlineData(4, 1)]
    [InlineData(6, 1)]
    [InlineData(6, 2)]
    public void Levels_lie_close_together_by_chance_as_often_as_counting_says(int n, int range)
    {
        var all = Enumerable
            .Range(0, (int)Math.Pow(3, n))
            .Select(i => Enumerable.Range(0, n).Select(k => i / (int)Math.Pow(3, k) % 3).ToArray())
            .ToArray();
        var close = all.Count(a => a.Max() - a.Min() <= range);
        PatternSigns.AlikeByChance(n, range).ShouldBe((double)close / all.Length, 1e-12);
    }

    [Fact]
    public void Worse_the_later_the_oil_gets_there_speaks_for_starvation_and_the_other_way_round_against()
    {
        var later = Of(Wiped("overlay-wiped", 1, 1, 2, 2, 3, 3)).Single(s => s.Sign == "worse-along-oil");
        later.Place.ShouldBe("EN");
        later.SpeaksFor.ShouldBeTrue();
        later.IfAbsent.ShouldBeInRange(0.0001, 0.5);
        later.Words.ShouldContain("Kendall");
        var earlier = Of(Wiped("overlay-wiped", 3, 3, 2, 2, 1, 1)).Single(s => s.Sign == "worse-along-oil");
        earlier.SpeaksFor.ShouldBeFalse();

        double Starved(params int[] levels)
        {
            var c = Wiped("overlay-wiped", levels);
            var answer = Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), Knowledge, Of(c));
            return answer
                .Ranking.Where(r => r.Cause is "oil-starvation" or "low-oil" or "oil-pump-failed" or "pickup-sucks-air")
                .Sum(r => r.Probability);
        }

        Starved(1, 1, 2, 2, 3, 3).ShouldBeGreaterThan(Starved(3, 3, 2, 2, 1, 1));
    }

    /// <summary>What is there at some places and not at others counts sign by sign already.</summary>
    [Fact]
    public void Where_it_is_found_and_where_not_makes_no_pattern_of_its_own()
    {
        Of(Wiped("overlay-wiped", 0, 0, 0, 2, 2, 2)).ShouldNotContain(s => s.Sign == "worse-along-oil");
        Of(Wiped("overlay-wiped", 2, 2, 2, 2, 2, 2)).ShouldNotContain(s => s.Sign == "worse-along-oil");
        Of(Wiped("overlay-wiped", 1, 3)).ShouldBeEmpty();
    }

    [Fact]
    public void All_alike_needs_every_place_that_was_looked_at()
    {
        Of(Wiped("bearing-scored", 2, 2, 2, 2, 2, 2))
            .Single()
            .ShouldSatisfyAllConditions(s => s.Sign.ShouldBe("bearings-alike"), s => s.SpeaksFor.ShouldBeTrue(), s => s.Words.ShouldContain("all 6"));
        Of(Wiped("bearing-scored", 2, 2, 2, 0, 2, 2)).ShouldBeEmpty();
        Of(Wiped("bearing-scored", 1, 3, 1, 3, 2, 2)).ShouldBeEmpty();
    }

    [Fact]
    public void What_a_person_recorded_of_a_pattern_counts_before_what_is_reckoned()
    {
        var c = Start.Case();
        c.Findings.AddRange(Enumerable.Range(1, 6).Select(i => Start.Saw($"L{i}A", "lobe-wiped", 1 + ((i - 1) / 2))));
        Of(c).ShouldContain(s => s.Sign == "lobe-worse-far");
        c.Findings.Add(Start.Saw("CM1", "lobe-worse-far", 0));
        Of(c).ShouldNotContain(s => s.Sign == "lobe-worse-far");
    }

    [Fact]
    public void Nobody_is_sent_to_look_for_a_pattern()
    {
        var c = Wiped("overlay-wiped", 2, 2, 2);
        c.Findings.Add(Start.Saw("EN", "pressure-low", 3));
        var answer = Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), Knowledge, []);
        answer.NextChecks.ShouldNotBeEmpty();
        answer.NextChecks.ShouldAllOfSomeBe(n => Knowledge.Sign(n.Sign)!.Pattern == null);
    }

    [Theory]
    [InlineData("shape: along-the-oil, of: [gremlins]", "gremlins")]
    [InlineData("shape: one-alone, of: [overlay-wiped]", "no test")]
    public void A_pattern_of_nothing_known_is_refused(string pattern, string told)
    {
        var sign =
            $"- id: odd\n  name: Odd\n  on: [engine]\n  measured: true\n  pattern: {{ {pattern} }}\n  provenance: \"common practice, no source\"\n";
        var files = KnowledgeBase.ShippedFiles().Append(("knowledge/signs/odd.yaml", sign));
        Should.Throw<ProblemException>(() => CheckedKnowledge.Load(files)).Problems.ShouldContain(p => p.Text.Contains(told));
    }
}
