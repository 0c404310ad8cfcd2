using CsCheck;
using MathNet.Numerics.Statistics;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Measures;

/// <summary>Figures quoted from memory from the sources named.</summary>
public sealed class StatisticsTests
{
    /// <summary>NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.5.17.1: G = 2.4687, one-sided critical value 2.032 at 0.05.</summary>
    [Fact]
    public void Grubbs_agrees_with_the_handbook()
    {
        var test = GrubbsTest.Of([199.31, 199.53, 200.19, 200.82, 201.92, 201.95, 202.18, 245.57], 0.05, oneSided: true)!;
        // The handbook cuts the figure after four places.
        test.G.ShouldBe(2.4687, 0.0001);
        test.Critical.ShouldBe(2.032, 0.0005);
        test.Index.ShouldBe(7);
        test.IsOutlier.ShouldBeTrue();
    }

    [Fact]
    public void Grubbs_says_nothing_of_too_few_or_of_all_alike()
    {
        GrubbsTest.Of([1, 9]).ShouldBeNull();
        GrubbsTest.Of([2, 2, 2, 2]).ShouldBeNull();
        GrubbsTest.Of([10.0, 10.1, 9.9, 10.05, 9.95])!.IsOutlier.ShouldBeFalse();
    }

    /// <summary>Two-sided limits at 95 %, as they stand in tables after Clopper and Pearson (1934). Values from memory; those of none and of all follow in closed form.</summary>
    [Theory]
    [InlineData(1, 10, 0.0025, 0.4450)]
    [InlineData(2, 10, 0.0252, 0.5561)]
    [InlineData(5, 10, 0.1871, 0.8129)]
    [InlineData(4, 20, 0.0573, 0.4366)]
    [InlineData(10, 100, 0.0490, 0.1762)]
    public void Exact_shares_agree_with_the_tables(int times, int of, double low, double high)
    {
        var share = ExactShare.From(times, of);
        share.Low.ShouldBe(low, 0.00006);
        share.High.ShouldBe(high, 0.00006);
        var other = ExactShare.From(of - times, of);
        other.Low.ShouldBe(1 - share.High, 1e-9);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(40)]
    public void Of_none_and_of_all_the_share_is_bounded_on_one_side(int of)
    {
        var none = ExactShare.From(0, of);
        none.Low.ShouldBe(0);
        none.High.ShouldBe(1 - Math.Pow(0.025, 1.0 / of), 1e-9);
        ExactShare.From(of, of).Low.ShouldBe(Math.Pow(0.025, 1.0 / of), 1e-9);
        ExactShare.From(of, of).High.ShouldBe(1);
    }

    /// <summary>At the limits so few or so many come about in one of forty trials: the sums are worked out term by term.</summary>
    [Fact]
    public void At_its_limits_a_share_comes_about_in_one_of_forty_trials()
    {
        static double Term(int n, int k, double p) =>
            Enumerable.Range(1, k).Aggregate(1.0, (c, i) => c * (n - k + i) / i) * Math.Pow(p, k) * Math.Pow(1 - p, n - k);
        for (var n = 1; n < 25; n++)
        {
            for (var k = 0; k <= n; k++)
            {
                var share = ExactShare.From(k, n);
                if (k > 0)
                {
                    Enumerable.Range(k, n - k + 1).Sum(i => Term(n, i, share.Low)).ShouldBe(0.025, 1e-7);
                }

                if (k < n)
                {
                    Enumerable.Range(0, k + 1).Sum(i => Term(n, i, share.High)).ShouldBe(0.025, 1e-7);
                }
            }
        }
    }

    [Fact]
    public void Of_nothing_a_share_may_be_anything_and_more_times_than_of_is_an_error()
    {
        ExactShare.From(0, 0).ShouldBe(new ExactShare(0, 0, 0, 1));
        Should.Throw<ArgumentOutOfRangeException>(() => ExactShare.From(3, 2));
        Should.Throw<ArgumentOutOfRangeException>(() => ExactShare.From(-1, 2));
    }

    /// <summary>NIST Statistical Reference Datasets, univariate: NumAcc1, NumAcc3 and NumAcc4 (built by their published rule).</summary>
    [Fact]
    public void Mean_and_deviation_agree_with_the_reference_datasets()
    {
        new[] { 10000001.0, 10000003, 10000002 }.Mean().ShouldBe(10000002);
        new[] { 10000001.0, 10000003, 10000002 }.StandardDeviation().ShouldBe(1);
        foreach (var around in new[] { 1000000.2, 10000000.2 })
        {
            double[] values = [around, .. Enumerable.Range(0, 500).SelectMany(_ => new[] { around - 0.1, around + 0.1 })];
            values.Mean().ShouldBe(around, 1e-8);
            values.StandardDeviation().ShouldBe(0.1, 1e-8);
        }
    }

    /// <summary>JCGM 100:2008 (GUM), H.1 end gauge: 25, 9.7, 2.9 and 16.6 nm combine to 32 nm; 4.3.7: u = a/√3.</summary>
    [Fact]
    public void Uncertainties_combine_as_in_the_GUM()
    {
        Uncertainty.Combine([25, 9.7, 2.9, 16.6]).ShouldBe(32, 0.5);
        Uncertainty.Rectangular(0.5).ShouldBe(0.288675, 1e-6);
        Uncertainty.OfReading(0.01, 0).ShouldBe(0.005 / Math.Sqrt(3), 1e-12);
    }

    /// <summary>
    /// GUM F.2.2.1: identical indications do not do away with the step of the scale, u = δx/√12; 4.3.10: as far as it shows in the scatter it is
    /// not counted twice.
    /// </summary>
    [Fact]
    public void The_step_of_a_scale_is_counted_once_and_not_brought_down_by_repeats()
    {
        Uncertainty.OfStep(0.01, 0).ShouldBe(0.01 / Math.Sqrt(12), 1e-12);
        foreach (var ofMean in new[] { 0, 0.0005, 0.002, 0.0028, 0.003, 0.05 })
        {
            var together = Uncertainty.Combine([ofMean, Uncertainty.OfStep(0.01, ofMean)]);
            together.ShouldBe(Math.Max(ofMean, 0.01 / Math.Sqrt(12)), 1e-12);
        }
    }

    /// <summary>ISO 14253-1: guard bands of the expanded uncertainty on either side of each limit.</summary>
    [Theory]
    [InlineData(0.050, Conformity.Inside)]
    [InlineData(0.086, Conformity.Inside)]
    [InlineData(0.087, Conformity.Undecided)]
    [InlineData(0.094, Conformity.Undecided)]
    [InlineData(0.095, Conformity.Outside)]
    [InlineData(0.041, Conformity.Undecided)]
    [InlineData(0.035, Conformity.Outside)]
    public void Conformity_is_decided_only_clear_of_the_guard_band(double value, Conformity expected) =>
        DecisionRule.Decide(new Measured(value, 0.002), 0.040, 0.090).ShouldBe(expected);

    [Fact]
    public void A_one_sided_limit_has_one_guard_band()
    {
        DecisionRule.Decide(new Measured(0.001, 0.002), null, 0.090).ShouldBe(Conformity.Inside);
        DecisionRule.Decide(new Measured(0.099, 0.002), 0.040, null).ShouldBe(Conformity.Inside);
        new Measured(5, 1).ProbabilityAbove(5).ShouldBe(0.5, 1e-12);
        new Measured(5, 0).ProbabilityAbove(4).ShouldBe(1);
    }
}
