using CsCheck;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Measures;

public sealed class EstimateTests
{
    private static Estimate With(double value, params (string Key, double U)[] influences) =>
        Estimate.Of(value, [.. influences.Select(i => new Influence(i.Key, Fact.Text(i.Key), i.U))]);

    /// <summary>
    /// JCGM 100:2008 (GUM), table G.2, p = 95.45 %: t for 1, 2, 3, 4, 5, 10, 20, 50 degrees of freedom; values from memory.
    /// </summary>
    [Theory]
    [InlineData(1, 13.97)]
    [InlineData(2, 4.53)]
    [InlineData(3, 3.31)]
    [InlineData(4, 2.87)]
    [InlineData(5, 2.65)]
    [InlineData(10, 2.28)]
    [InlineData(20, 2.13)]
    [InlineData(50, 2.05)]
    public void The_coverage_factor_is_that_of_the_table(int freedom, double t) =>
        Estimate.Of(1, new Influence("s", Fact.Text("scatter"), 0.01, freedom)).Factor.ShouldBe(t, 0.005);

    [Fact]
    public void What_is_known_takes_a_factor_of_two() => With(1, ("a", 0.3), ("b", 0.4)).Expanded.ShouldBe(1.0, 1e-12);

    /// <summary>GUM 5.2.2, note 1: fully correlated contributions add by their signed sum, so one instrument's error leaves a difference.</summary>
    [Fact]
    public void The_error_of_one_instrument_cancels_in_a_difference_and_adds_in_a_sum()
    {
        var bore = With(50.05, ("error", 0.003), ("step/1", 0.001));
        var pin = With(50.00, ("error", 0.003), ("step/2", 0.001));
        (bore - pin).Value.ShouldBe(0.05, 1e-12);
        (bore - pin).Standard.ShouldBe(0.001 * Math.Sqrt(2), 1e-12);
        (bore + pin).Standard.ShouldBe(Math.Sqrt((0.006 * 0.006) + (2 * 0.001 * 0.001)), 1e-12);
        // With two instruments nothing cancels.
        (bore - With(50, ("other", 0.003), ("step/2", 0.001))).Standard.ShouldBeGreaterThan(0.004);
    }

    [Fact]
    public void A_figure_less_itself_is_nothing_without_uncertainty() =>
        Gen.Double[-100, 100]
            .Select(Gen.Double[0.001, 1], Gen.Double[0.001, 1])
            .Sample((v, a, b) => (With(v, ("a", a), ("b", b)) - With(v, ("a", a), ("b", b))).Standard.ShouldBe(0, 1e-12));

    [Fact]
    public void The_mean_of_many_keeps_the_error_and_divides_the_rest()
    {
        var cells = Enumerable.Range(0, 4).Select(i => With(10 + i, ("error", 0.004), ($"step/{i}", 0.002))).ToArray();
        var mean = Estimate.Mean(cells);
        mean.Value.ShouldBe(11.5, 1e-12);
        mean.Standard.ShouldBe(Math.Sqrt((0.004 * 0.004) + (0.002 * 0.002 / 4)), 1e-12);
    }

    /// <summary>GUM 5.1.3: for f = x·y/z the relative uncertainties add by squares; the differences taken meet that to a millionth.</summary>
    [Fact]
    public void A_formula_takes_the_uncertainty_of_its_figures_through() =>
        Gen.Double[1, 50]
            .Select(Gen.Double[1, 50], Gen.Double[1, 50])
            .Sample(
                (x, y, z) =>
                {
                    var f = Estimate.Through(v => v[0] * v[1] / v[2], With(x, ("x", x * 1e-4)), With(y, ("y", y * 2e-4)), With(z, ("z", z * 2e-4)));
                    (f.Standard / f.Value).ShouldBe(3e-4, 1e-9);
                }
            );

    [Fact]
    public void A_formula_of_figures_that_share_an_error_lets_it_cancel() =>
        Estimate.Through(v => v[0] / v[1], With(10, ("error", 0.1)), With(10, ("error", 0.1))).Standard.ShouldBe(0, 1e-5);

    /// <summary>GUM H.1 again, through the influences: 25, 9.7, 2.9, 16.6 nm with 18, 25.6, 50, 2 degrees give 32 nm and 16; from memory.</summary>
    [Fact]
    public void The_end_gauge_has_its_effective_degrees_of_freedom()
    {
        var gauge = Estimate.Of(
            50_000_838,
            new Influence("standard", Fact.None, 25, 18),
            new Influence("comparison", Fact.None, 9.7, 25.6),
            new Influence("temperature", Fact.None, 2.9, 50),
            new Influence("expansion", Fact.None, 16.6, 2)
        );
        gauge.Standard.ShouldBe(32, 0.5);
        Math.Floor(gauge.Freedom).ShouldBe(16);
    }
}
