using CsCheck;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Measures;

public sealed class QuantityTests
{
    /// <summary>A 2–3 in micrometer: 2.000 + 0.075 + 0.022 = 2.097 in (common practice, value from memory).</summary>
    [Fact]
    public void A_micrometer_reading_adds_up()
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
        Suspicion.Of(72m, 75m).ShouldBeNull();
        Suspicion.Of(72m, 75m, peers: true)!.Text.ShouldContain("far from");
        Suspicion.Of(-71.5m, 71.75m)!.Likely.ShouldBe(71.5m);
        Suspicion.Of(0.3m, 0.05m, tolerant: true).ShouldBeNull();
    }

    /// <summary>
    /// NIST SP 811, appendix B.8: 1 psi = 6.894757 kPa, conventional inch of water 249.0889 Pa, 1 lbf = 4.448222 N, 1 ft·lbf = 1.355818 N·m,
    /// avoirdupois ounce 28.34952 g, pound 453.5924 g, cubic inch 16.38706 cm³; values from memory.
    /// </summary>
    [Theory]
    [InlineData("1 psi", Quantity.Pressure, 6.894757)]
    [InlineData("1 inH2O", Quantity.Pressure, 0.2490889)]
    [InlineData("1 lbf", Quantity.Force, 4.448222)]
    [InlineData("1 ftlb", Quantity.Torque, 1.355818)]
    [InlineData("1 oz", Quantity.Mass, 28.34952)]
    [InlineData("1 lb", Quantity.Mass, 453.5924)]
    [InlineData("1 cuin", Quantity.Volume, 16.38706)]
    [InlineData("1 kgf", Quantity.Force, 9.80665)]
    public void Units_have_their_published_size(string typed, Quantity quantity, double size) =>
        ((double)QuantityParser.Parse(typed, quantity, QuantityParser.BaseUnit(quantity)).Value).ShouldBe(size, size * 5e-7);

    /// <summary>Water freezes at 32 °F and boils at 212 °F, and −40 is the same on both scales.</summary>
    [Theory]
    [InlineData("32 F", 0)]
    [InlineData("212 °F", 100)]
    [InlineData("-40 F", -40)]
    [InlineData("-12", -12)]
    [InlineData("+5 °C", 5)]
    public void Temperatures_are_read_on_both_scales_and_may_be_below_nil(string typed, double celsius)
    {
        var read = QuantityParser.Parse(typed, Quantity.Temperature, "°C");
        ((double)read.Value).ShouldBe(celsius, 1e-9);
        read.Relative.ShouldBeFalse();
    }

    [Theory]
    [InlineData("5 hundredths mm", "in", 0.05)]
    [InlineData("5", "hundredths mm", 0.05)]
    [InlineData("21", "thou", 0.5334)]
    [InlineData("3.45 inH2O", "bar", 0.85935674)]
    public void Small_units_are_told_apart(string typed, string setUnit, double value) =>
        (
            (double)QuantityParser.Parse(typed, typed.Contains('H', StringComparison.Ordinal) ? Quantity.Pressure : Quantity.Length, setUnit).Value
        ).ShouldBe(value, 1e-7);

    /// <summary>A micrometer, 2 in and three lines and 22: 2.097 in; a metric one, 50 and 43 half millimetres and 48: 71.98 mm (common practice).</summary>
    [Theory]
    [InlineData("2|3|22", "in", 53.2638, 0.0254)]
    [InlineData("2 | 3 | 22 | 4", "in", 53.27396, 0.00254)]
    [InlineData("50|43|48", "mm", 71.98, 0.01)]
    [InlineData("0|0|0|1", "mm", 0.001, 0.001)]
    public void A_thimble_is_read_by_lines_and_divisions(string typed, string unit, double mm, double step)
    {
        var read = QuantityParser.Parse(typed, Quantity.Length, unit);
        read.Value.ShouldBe((decimal)mm);
        read.Step.ShouldBe((decimal)step);
    }

    [Theory]
    [InlineData("2|3|25", "in", "25 divisions")]
    [InlineData("50|3|50", "mm", "50 divisions")]
    [InlineData("2|3|22|10", "in", "ten lines")]
    public void A_thimble_that_cannot_stand_so_is_refused(string typed, string unit, string says) =>
        Should.Throw<ProblemException>(() => QuantityParser.Parse(typed, Quantity.Length, unit)).Problems[0].Text.ShouldContain(says);

    [Fact]
    public void Every_unit_and_back_is_exact_to_the_last_digit_typed()
    {
        var units = Enum.GetValues<Quantity>().SelectMany(q => QuantityParser.UnitsOf(q).Select(u => (q, u))).ToArray();
        Gen.Int[0, units.Length - 1]
            .Select(Gen.Int[0, 999], Gen.Int[0, 4])
            .Sample(
                (i, n, places) =>
                {
                    var (quantity, unit) = units[i];
                    var typed = n / (decimal)Math.Pow(10, places);
                    var read = QuantityParser.Parse(typed.ToString(System.Globalization.CultureInfo.InvariantCulture), quantity, unit);
                    Math.Round(QuantityParser.InUnit(read.Value, unit), places + 4).ShouldBe(typed);
                }
            );
    }

    /// <summary>Nothing is guessed: what is read is what a strict reader of the same digits would read.</summary>
    [Fact]
    public void Random_entries_are_read_as_they_stand_or_refused() =>
        Gen.String[Gen.Char["0123456789.,+-/ |mintho"], 1, 12]
            .Sample(text =>
            {
                try
                {
                    var read = QuantityParser.Parse(text, Quantity.Length, "mm");
                    text.ShouldContain(c => char.IsAsciiDigit(c));
                    if (
                        decimal.TryParse(
                            text.Trim(),
                            System.Globalization.NumberStyles.Float,
                            System.Globalization.CultureInfo.InvariantCulture,
                            out var plain
                        )
                    )
                    {
                        read.Value.ShouldBe(plain);
                    }
                }
                catch (ProblemException e)
                {
                    e.Problems[0].Remedy.ShouldNotBeEmpty();
                }
            });

    [Theory]
    [InlineData("71.84", "71.48")]
    [InlineData("17.48", "71.48")]
    [InlineData("74.18", "71.48")]
    public void Swapped_digits_are_asked_about_with_the_likely_reading(string typed, string meant)
    {
        decimal? InBase(string t) => decimal.TryParse(t, System.Globalization.CultureInfo.InvariantCulture, out var v) ? v : null;
        var question = Suspicion.Of(decimal.Parse(typed, System.Globalization.CultureInfo.InvariantCulture), 71.481m, false, typed, 20, 400, InBase)!;
        question.Text.ShouldContain("swapped");
        question.Likely.ShouldBe(decimal.Parse(meant, System.Globalization.CultureInfo.InvariantCulture));
    }

    [Fact]
    public void A_size_that_no_engine_has_is_asked_about_even_without_peers()
    {
        // Ten and twenty-five times it would both do: it is asked about and not guessed.
        Suspicion.Of(2.834m, null, false, "", 10, 300)!.Likely.ShouldBe(2.834m);
        ((double)Suspicion.Of(2.834m, null, false, "", 40, 100)!.Likely).ShouldBe(71.98, 0.1);
    }

    [Fact]
    public void A_gap_may_be_nothing_and_a_deck_may_stand_out()
    {
        Suspicion.Of(0m, null, tolerant: true, least: 0, most: 5).ShouldBeNull();
        Suspicion.Of(-0.12m, null, tolerant: true, least: -5, most: 20).ShouldBeNull();
        Suspicion.Of(-0.12m, 0.1m, tolerant: true, least: 0, most: 5).ShouldNotBeNull();
    }
}
