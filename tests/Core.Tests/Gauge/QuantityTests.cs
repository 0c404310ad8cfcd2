using CsCheck;
using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class QuantityTests
{
    /// <summary>A 2–3 in micrometer: 2.000 + 0.075 + 0.022 = 2.097 in (common practice, value from memory).</summary>
    [Fact]
    public void A_barrel_micrometer_reading_adds_up()
    {
        decimal[] parts = new[] { "2.000", "0.075", "0.022" }.Select(t => QuantityParser.Parse(t, Quantity.Length, "in").Value).ToArray();
        parts.Sum().ShouldBe(QuantityParser.Parse("2.097", Quantity.Length, "in").Value);
        parts.Sum().ShouldBe(53.2638m);
    }

    [Theory]
    [InlineData("2.097", "in", 53.2638)]
    [InlineData("53.21 mm", "in", 53.21)]
    [InlineData("21 thou", "mm", 0.5334)]
    [InlineData("3 tenths", "mm", 0.00762)]
    [InlineData("2-3/32", "in", 53.18125)]
    [InlineData("2 3/32 in", "mm", 53.18125)]
    [InlineData("3/8\"", "mm", 9.525)]
    [InlineData("53,21", "mm", 53.21)]
    [InlineData(".010", "in", 0.254)]
    [InlineData("12 µm", "mm", 0.012)]
    public void Figures_are_read_as_people_type_them(string typed, string unit, double mm) =>
        QuantityParser.Parse(typed, Quantity.Length, unit).Value.ShouldBe((decimal)mm);

    [Fact]
    public void A_sign_makes_the_entry_count_from_the_nominal()
    {
        QuantityParser.Parse("+.003", Quantity.Length, "in").ShouldBe(new TypedQuantity(0.0762m, "in", true, 0.0254m));
        QuantityParser.Parse("-0.02 mm", Quantity.Length, "in").Value.ShouldBe(-0.02m);
    }

    [Theory]
    [InlineData("five")]
    [InlineData("")]
    [InlineData("1.2.3")]
    [InlineData("1e308")]
    [InlineData("NaN")]
    [InlineData("2 hundredths")]
    [InlineData("1,234")]
    [InlineData("3/7")]
    [InlineData("20 bar")]
    [InlineData("12 furlongs")]
    [InlineData("999999999 in")]
    public void What_can_not_be_read_or_can_be_read_in_two_ways_is_refused_with_a_remedy(string typed)
    {
        var problem = Should.Throw<ProblemException>(() => QuantityParser.Parse(typed, Quantity.Length, "mm")).Problems[0];
        problem.Field.ShouldBe("typed");
        problem.Remedy.ShouldNotBeEmpty();
    }

    [Fact]
    public void No_text_crashes_the_reader() =>
        Gen.String.Sample(text =>
        {
            try
            {
                QuantityParser.Parse(text, Quantity.Length, "mm");
            }
            catch (ProblemException)
            {
                // Refused is a proper answer.
            }
        });

    [Fact]
    public void Inch_and_back_is_exact_to_the_last_digit() =>
        Gen.Int[1, 99_999]
            .Sample(n =>
            {
                var typed = $"{n / 10_000m:0.0000}";
                QuantityParser.InUnit(QuantityParser.Parse(typed, Quantity.Length, "in").Value, "in").ShouldBe(n / 10_000m);
            });

    [Theory]
    [InlineData(717.4, 71.74)]
    [InlineData(7.174, 71.74)]
    [InlineData(71740, 71.74)]
    [InlineData(2.8244, 71.74)]
    [InlineData(1822.2, 71.74)]
    public void A_slip_of_point_or_unit_is_asked_about_with_the_likely_size(double typed, double meant)
    {
        var question = Suspicion.Of((decimal)typed, 71.75m).ShouldNotBeNull();
        ((double)question.Likely).ShouldBe(meant, 0.01);
    }

    [Fact]
    public void An_ordinary_reading_is_not_asked_about_and_a_far_one_is()
    {
        Suspicion.Of(71.5m, 71.75m).ShouldBeNull();
        Suspicion.Of(71.5m, null).ShouldBeNull();
        Suspicion.Of(65m, 75m)!.Text.ShouldContain("far from");
        Suspicion.Of(-71.5m, 71.75m)!.Likely.ShouldBe(71.5m);
        Suspicion.Of(0.3m, 0.05m, tolerant: true).ShouldBeNull();
    }
}
