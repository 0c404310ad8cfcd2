using CsCheck;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class GradeOddsTests
{
    private static IReadOnlyList<GradeOdds> Odds(double found, double u = 0.002, StepSystem system = StepSystem.Both) =>
        GradeOdds.OfJournal(72m, new Measured(found, u), Steps(system));

    private static SizeSteps Steps(StepSystem system = StepSystem.Both, string kind = "crankpin") =>
        SizeSteps.Usual(KnowledgeBase.BuiltIn, kind, system);

    [Theory]
    [InlineData(71.996, 0)]
    [InlineData(71.745, 0.25)]
    [InlineData(71.490, 0.508)]
    [InlineData(71.240, 0.762)]
    public void The_likeliest_grade_lies_at_or_just_above_the_size_found(double found, double under) =>
        Odds(found)[0].Grade.IsLike(new Grade((decimal)under)).ShouldBeTrue();

    [Fact]
    public void Odds_are_probabilities_whatever_is_measured() =>
        Gen.Double[70.9, 72.05]
            .Select(Gen.Double[0.0005, 0.02])
            .Sample(
                (found, u) =>
                {
                    var odds = Odds(found, u);
                    odds.Sum(o => o.P).ShouldBeInRange(odds.Count == 0 ? 0 : 0.99, 1.0000001);
                    odds.Select(o => o.P).ShouldBe(odds.Select(o => o.P).OrderDescending());
                }
            );

    /// <summary>
    /// The closed form of the exponentially modified normal against numerical integration of its definition with MathNet: the ratio of the
    /// odds of two grades, prior 0.5 to 0.06 and 0.03.
    /// </summary>
    [Theory]
    [InlineData(71.955, 0.004)]
    [InlineData(71.930, 0.008)]
    [InlineData(71.970, 0.003)]
    public void The_closed_form_agrees_with_integration(double found, double u)
    {
        const double wear = 0.015;
        var spread = Math.Sqrt((u * u) + (0.010 * 0.010 / 3));
        double Density(double size) =>
            GaussLegendreRule.Integrate(w => Exponential.PDF(1 / wear, w) * Normal.PDF(size - w, spread, found), 0, 0.4, 512);
        var odds = Odds(found, u);
        double P(decimal under) => odds.FirstOrDefault(o => o.Grade.Under == under)?.P ?? 0;
        (P(0.0254m) / P(0)).ShouldBe(0.03 * Density(72 - 0.0254) / (0.5 * Density(72)), 1e-3 * P(0.0254m) / P(0));
    }

    [Fact]
    public void A_worn_standard_and_a_small_odd_step_are_told_apart_only_so_far()
    {
        var between = Odds(71.930);
        between.Count(o => o.P > 0.05).ShouldBeGreaterThan(1);
        Odds(71.930, system: StepSystem.Metric)[0].P.ShouldBeGreaterThan(0.99);
    }

    [Fact]
    public void Journal_and_shells_agree_with_a_probability()
    {
        var journal = Odds(71.746);
        var fits = GradeOdds.OfShell(2.5m, new Measured(2.624, 0.002), Steps());
        var standard = GradeOdds.OfShell(2.5m, new Measured(2.492, 0.002), Steps());
        GradeOdds.Agree(journal, fits).ShouldBeGreaterThan(0.98);
        GradeOdds.Agree(journal, standard).ShouldBeLessThan(0.001);
    }

    [Fact]
    public void An_impossible_size_has_no_grade() => Odds(75).ShouldBeEmpty();

    [Theory]
    [InlineData(StepSystem.Metric, 0.50)]
    [InlineData(StepSystem.Inch, 0.508)]
    [InlineData(StepSystem.Both, 0.50)]
    public void The_next_undersize_is_one_that_is_to_be_had(StepSystem system, double under) =>
        Steps(system).UndersizeThatCleansUp(72m, 71.60m, 0.05m)!.Under.ShouldBe((decimal)under);

    [Fact]
    public void The_next_oversize_clears_the_worst_bore_with_the_allowance()
    {
        Steps(StepSystem.Metric, "bore").OversizeThatCleansUp(88m, 88.10m, 0.10m)!.Name.ShouldBe("0.25");
        Steps(StepSystem.Metric, "bore").OversizeThatCleansUp(88m, 88.16m, 0.10m)!.Name.ShouldBe("0.50");
        Steps(StepSystem.Metric, "bore").OversizeThatCleansUp(88m, 88.16m, 0.05m)!.Name.ShouldBe("0.25");
        Steps(StepSystem.Metric, "bore").OversizeThatCleansUp(88m, 89.45m, 0.10m).ShouldBeNull();
    }
}
