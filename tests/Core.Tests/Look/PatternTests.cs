using CsCheck;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Look;

public sealed class PatternTests
{
    private static IReadOnlyList<Pattern> Found(EngineLayout layout, params (string Place, string Sign, int Level)[] seen)
    {
        var c = Start.Case(layout);
        c.Findings.AddRange(seen.Select(s => Start.Saw(s.Place, s.Sign, s.Level)));
        var table = Start.Table(layout);
        return Patterns.Of(c.Findings, table, KnowledgeBase.BuiltIn, Measured(SheetBuilder.Build(c.GaugeLog(), table, KnowledgeBase.BuiltIn, [])));
    }

    private static IReadOnlyList<MeasuredAt> Measured(GaugeSheet sheet) =>
        [.. sheet.Figures.Select(f => new MeasuredAt(f.Characteristic, f.Place, f.Value))];

    private static (string, string, int)[] Along(string kind, string sign, params int[] levels) =>
        [.. levels.Select((l, i) => (kind.Replace("#", (i + 1).ToString()), sign, l))];

    /// <summary>
    /// One-sided probabilities of Kendall's S without ties: n = 4: S ≥ 6 0.042, S ≥ 4 0.167; n = 5: S ≥ 8 0.042, S ≥ 10 0.0083;
    /// n = 8: S ≥ 16 0.031, S ≥ 18 0.016. Source: M. G. Kendall, Rank Correlation Methods, and R. O. Gilbert, Statistical Methods for
    /// Environmental Pollution Monitoring (1987), table A18; values from memory.
    /// </summary>
    [Theory]
    [InlineData(4, 6, 0.042)]
    [InlineData(4, 4, 0.167)]
    [InlineData(5, 8, 0.042)]
    [InlineData(5, 10, 0.0083)]
    [InlineData(8, 16, 0.031)]
    [InlineData(8, 18, 0.016)]
    public void Kendalls_table_is_met(int n, int s, double published)
    {
        var orders = RankTrend.Inversions([.. Enumerable.Repeat(1, n)]);
        var pairs = n * (n - 1) / 2;
        var p = orders.Take(((pairs - s) / 2) + 1).Sum() / orders.Sum();
        p.ShouldBe(published, 0.0006);
    }

    [Fact]
    public void The_number_of_orders_is_the_multinomial_coefficient() =>
        Gen.Int[1, 5]
            .List[1, 5]
            .Sample(counts =>
                RankTrend
                    .Inversions(counts)
                    .Sum()
                    .ShouldBe(Combinatorics.Permutations(counts.Sum()) / counts.Aggregate(1.0, (p, c) => p * SpecialFunctions.Factorial(c)), 1e-6)
            );

    /// <summary>Every order of up to seven levels, tied or not, counted one by one.</summary>
    [Fact]
    public void The_trend_equals_full_enumeration() =>
        Gen.Int[0, 3]
            .Array[3, 6]
            .Sample(
                levels =>
                {
                    var values = levels.Select(l => (double)l).ToArray();
                    var trend = RankTrend.Of(values);
                    if (levels.Distinct().Count() == 1)
                    {
                        trend.ShouldBeNull();
                        return;
                    }

                    var all = Permutations(values).Select(S).ToArray();
                    var s = S(values);
                    trend!.S.ShouldBe(s);
                    var tail = (double)all.Count(x => s >= 0 ? x >= s : x <= s) / all.Length;
                    trend.P.ShouldBe(Math.Min(1, 2 * tail), 1e-12);
                },
                iter: 60
            );

    /// <summary>For many places the exact probability runs into Kendall's normal approximation with continuity correction.</summary>
    [Fact]
    public void Many_places_agree_with_the_normal_approximation()
    {
        var values = Enumerable.Range(0, 24).Select(i => (double)((i * 7) % 24)).ToArray();
        var trend = RankTrend.Of([.. values.Select((v, i) => v + (0.4 * i))])!;
        var variance = 24.0 * 23 * 53 / 18;
        var normal = 2 * (1 - Normal.CDF(0, 1, (Math.Abs(trend.S) - 1) / Math.Sqrt(variance)));
        trend.P.ShouldBe(normal, 0.01);
    }

    [Fact]
    public void Reversing_the_engine_turns_the_trend_and_keeps_its_probability() =>
        Gen.Double[0, 10]
            .Array[3, 12]
            .Sample(values =>
            {
                var (there, back) = (RankTrend.Of(values), RankTrend.Of([.. values.Reverse()]));
                back?.S.ShouldBe(-there!.S);
                back?.P.ShouldBe(there!.P, 1e-12);
            });

    [Fact]
    public void One_alone_is_told_with_its_peers()
    {
        var pattern = Found(Start.InlineSix, Along("P#", "land-broken", 0, 0, 0, 2, 0)).Single();
        pattern.Shape.ShouldBe(PatternShape.OneAlone);
        pattern.Places.ShouldBe(["P4"]);
        pattern.Words.ShouldContain("P4 alone; 4 peers looked at and clean. 1 not looked at.");
        pattern.P.ShouldBeNull();
    }

    [Fact]
    public void Neighbours_are_told_with_their_chance()
    {
        var pattern = Found(Start.InlineSix, Along("C#", "bore-scuffed", 0, 2, 2, 0, 0, 0)).Single(p => p.Shape == PatternShape.Neighbours);
        pattern.Places.ShouldBe(["C2", "C3"]);
        // Five of the fifteen ways to choose two of six cylinders lie next to each other.
        pattern.P!.Value.ShouldBe(5.0 / 15, 1e-12);
        Found(Start.InlineSix, Along("C#", "bore-scuffed", 0, 2, 0, 2, 0, 0)).ShouldNotContain(p => p.Shape == PatternShape.Neighbours);
    }

    [Fact]
    public void A_trend_names_the_end_and_the_oil_its_way()
    {
        var patterns = Found(Start.InlineSix, Along("R#U", "overlay-wiped", 0, 0, 1, 1, 2, 3));
        var trend = patterns.Single(p => p.Shape == PatternShape.TowardOneEnd);
        trend.Words.ShouldContain("worse toward the drive end");
        // 13 pairs rise, none falls: of 6!/(2! 2!) = 180 orders one rises so and one falls so.
        trend.P!.Value.ShouldBe(2.0 / 180, 1e-12);
        patterns.ShouldContain(p => p.Shape == PatternShape.AlongTheOil);
        var other = Found(Start.InlineSix with { OilFeedEnd = CrankEnd.DriveEnd }, Along("R#U", "overlay-wiped", 0, 0, 1, 1, 2, 3));
        other.ShouldNotContain(p => p.Shape == PatternShape.AlongTheOil);
        var turned = Found(Start.InlineSix with { NumberOneEnd = CrankEnd.DriveEnd }, Along("R#U", "overlay-wiped", 0, 0, 1, 1, 2, 3));
        turned.Single(p => p.Shape == PatternShape.TowardOneEnd).Words.ShouldContain("toward the free end");
    }

    [Fact]
    public void One_bank_is_tested_by_the_hypergeometric_tail()
    {
        var pattern = Found(Start.VeeEight, Along("C#", "bore-scuffed", 2, 0, 1, 0, 2, 0, 2, 0)).Single(p => p.Shape == PatternShape.OneBank);
        pattern.Words.ShouldContain("only on bank A");
        pattern.P!.Value.ShouldBe(2.0 / 70, 1e-12);
        pattern.Test.ShouldBe(Patterns.Fisher);
    }

    [Fact]
    public void Companions_and_all_alike_are_told()
    {
        Found(Start.InlineSix, Along("P#", "crown-burnt", 2, 0, 0, 0, 0, 2)).ShouldContain(p => p.Shape == PatternShape.Companions);
        var alike = Found(Start.InlineSix, Along("P#", "skirt-worn-both", 2, 2, 2, 1, 2, 2)).Single(p => p.Shape == PatternShape.AllAlike);
        alike.Words.ShouldContain("all 6");
        Found(Start.InlineSix, Along("P#", "skirt-worn-both", 3, 1, 1, 1, 1, 1)).ShouldNotContain(p => p.Shape == PatternShape.AllAlike);
    }

    [Fact]
    public void What_was_not_looked_at_makes_no_pattern()
    {
        Found(Start.InlineSix, ("P3", "crown-burnt", 3)).ShouldBeEmpty();
        Found(Start.InlineSix, ("PA", "sludge", 3), ("PK", "sealant-strings", 1)).ShouldBeEmpty();
    }

    /// <summary>Eight measured bores, one far out: the outlier that NIST/SEMATECH 1.3.5.17.1 finds with G = 2.4687 (value from memory).</summary>
    [Fact]
    public void A_measured_outlier_is_named_with_its_test()
    {
        var layout = Start.VeeEight;
        var table = Start.Table(layout);
        var c = Start.Case(layout);
        double[] published = [199.31, 199.53, 200.19, 200.82, 201.92, 201.95, 202.18, 245.57];
        c.Readings.AddRange(published.Select((v, i) => Start.Read($"C{i + 1}", "bore-diameter", (decimal)v)));
        var sheet = SheetBuilder.Build(c.GaugeLog(), table, KnowledgeBase.BuiltIn, []);
        sheet.Figures.ShouldNotBeEmpty();
        var outlier = Patterns.Of(c.Findings, table, KnowledgeBase.BuiltIn, Measured(sheet)).First(p => p.Shape == PatternShape.Outlier);
        outlier.Places.ShouldBe(["C8"]);
        outlier.Words.ShouldContain("G = 2.47");
        outlier.Test.ShouldBe(Patterns.Grubbs);
    }

    [Fact]
    public void The_odd_one_out_is_pointed_to()
    {
        var c = Start.Case();
        c.Findings.AddRange(Along("P#", "skirt-worn-both", 1, 1, 1, 1, 1, 1).Select(s => Start.Saw(s.Item1, s.Item2, s.Item3)));
        c.Findings.AddRange([Start.Saw("P4", "land-broken", 3), Start.Saw("P4", "crown-pitted", 2), Start.Saw("P4", "skirt-scuff-thrust", 2)]);
        Patterns.Odd(c.Findings, Start.Table(Start.InlineSix)).Single().Place.ShouldBe("P4");
        c.Findings.RemoveRange(6, 3);
        Patterns.Odd(c.Findings, Start.Table(Start.InlineSix)).ShouldBeEmpty();
    }

    /// <summary>Half of {1, 2, 3, 4, 100}'s deviations are at most 1, so 100 has 0.6745 · 97 / 1.</summary>
    [Fact]
    public void Modified_scores_follow_their_formula()
    {
        Patterns.ModifiedScores([1, 2, 3, 4, 100])![4].ShouldBe(0.6745 * 97, 1e-9);
        Patterns.ModifiedScores([2, 2, 2, 2]).ShouldBeNull();
        Patterns.ModifiedScores([1, 2, 3]).ShouldBeNull();
    }

    [Fact]
    public void Two_who_disagree_are_both_kept_and_shown()
    {
        var c = Start.Case();
        c.Findings.AddRange([
            Start.Saw("P4", "land-broken", 2),
            Start.Saw("P4", "land-broken", 0),
            Start.Saw("P5", "land-broken", 1),
            Start.Saw("P5", "land-broken", 1),
        ]);
        var sheet = Sheet(c);
        sheet.Mismatches.Single().Findings.ShouldBe([c.Findings[0].Id, c.Findings[1].Id], ignoreOrder: true);
        c.Findings[1].WithdrawnAt = DateTimeOffset.UnixEpoch;
        Sheet(c).Mismatches.ShouldBeEmpty();
    }

    [Fact]
    public void Shots_are_missed_until_they_are_taken()
    {
        var c = Start.Case();
        c.Findings.Add(Start.Saw("R4U", "overlay-wiped", 3));
        Sheet(c).Missing.Single().ShouldBe(new MissingShots("R4U", ["shell-face", "shell-back"]), new ByValue());
        c.Photos.Add(
            new Photo
            {
                Id = Guid.CreateVersion7(),
                Place = "R4U",
                Shot = "shell-face",
            }
        );
        Sheet(c).Missing.Single().Shots.ShouldBe(["shell-back"]);
    }

    private static LookSummary Sheet(EngineCase c)
    {
        var table = Start.Table(c.Layout);
        return LookSummary.Of(
            c.LookLog(),
            table,
            KnowledgeBase.BuiltIn,
            Measured(SheetBuilder.Build(c.GaugeLog(), table, KnowledgeBase.BuiltIn, [])),
            StripPlanner.Plan(c.StripLog(), table, KnowledgeBase.BuiltIn)
        );
    }

    /// <summary>With banks numbered one after the other a difference of banks is no trend: order is that of the crank, in sheet, patterns and signs alike.</summary>
    [Fact]
    public void A_difference_of_banks_is_no_trend_along_the_crank()
    {
        var layout = Start.VeeEight with { Numbering = NumberingScheme.BankAfterBank, FiringOrder = [1, 5, 4, 8, 6, 3, 7, 2] };
        var table = Start.Table(layout);
        GaugeSheet Measured(Func<int, decimal> size)
        {
            var c = Start.Case(layout);
            c.Readings.AddRange(Enumerable.Range(1, 8).Select(n => Start.Read($"C{n}", "bore-diameter", size(n))));
            return SheetBuilder.Build(c.GaugeLog(), table, KnowledgeBase.BuiltIn, []);
        }

        // Bank A of one size and bank B of another: by number it would rise eight times over.
        var banks = Measured(n => n <= 4 ? 88.00m + (0.001m * (n % 2)) : 88.10m + (0.001m * (n % 2)));
        banks.Trends.ShouldBeEmpty();
        Patterns.Of([], table, KnowledgeBase.BuiltIn, PatternTests.Measured(banks)).ShouldNotContain(p => p.Shape == PatternShape.TowardOneEnd);
        // Worse toward one end in both banks: it is one, and all who ask say so.
        var end = Measured(n => 88.00m + (0.01m * ((n - 1) % 4)));
        end.Trends.ShouldHaveSingleItem().Rising.ShouldBeTrue();
        var told = Patterns.Of([], table, KnowledgeBase.BuiltIn, PatternTests.Measured(end)).Single(p => p.Shape == PatternShape.TowardOneEnd);
        told.P!.Value.ShouldBe(end.Trends[0].P, 1e-12);
    }

    private static int S(double[] values)
    {
        var s = 0;
        for (var i = 0; i < values.Length; i++)
        {
            for (var j = i + 1; j < values.Length; j++)
            {
                s += Math.Sign(values[j] - values[i]);
            }
        }

        return s;
    }

    private static IEnumerable<double[]> Permutations(double[] values) =>
        values.Length <= 1
            ? [values]
            : values.SelectMany((v, i) => Permutations([.. values[..i], .. values[(i + 1)..]]).Select(rest => (double[])[v, .. rest]));

    private sealed class ByValue : IEqualityComparer<MissingShots>
    {
        public bool Equals(MissingShots? x, MissingShots? y) => x!.Place == y!.Place && x.Shots.SequenceEqual(y.Shots);

        public int GetHashCode(MissingShots shots) => shots.Place.GetHashCode(StringComparison.Ordinal);
    }
}
