using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public class FigureChangeTests
{
    /// <summary>A figure of two influences: the gauge, which is the same each time, and the hand, which is another.</summary>
    private static SheetFigure Figure(
        double value,
        double gauge,
        double hand,
        string time,
        double? least = null,
        double? most = null,
        string instrument = "one"
    ) =>
        new(
            "C1",
            "compression",
            "Compression",
            Quantity.Pressure,
            Phase.AsFound,
            value,
            0,
            new AppliedLimit(least, most, LimitSource.MakersManual, Fact.Text("manual, page 9")),
            null,
            null,
            null,
            Fact.None,
            null,
            false
        )
        {
            Estimate = Estimate.Of(value, new Influence($"gauge {instrument}", Fact.None, gauge), new Influence($"hand {time}", Fact.None, hand)),
        };

    /// <summary>
    /// By hand after the GUM, 5.2.2 and 5.1.2: of one gauge its error is in both and cancels, so that u(change)² = 3² + 4² and U = 2 × 5 = 10; of two gauges
    /// u² = 12² + 12² + 3² + 4².
    /// </summary>
    [Fact]
    public void What_one_gauge_does_to_both_cancels_and_what_two_do_does_not()
    {
        var one = FigureChange.Of(Figure(640, 12, 3, "then"), Figure(655, 12, 4, "now"))!;
        (one.Change, one.How).ShouldBe((15, Changed.Another));
        one.Doubt.ShouldBe(10, 1e-9);
        var two = FigureChange.Of(Figure(640, 12, 3, "then"), Figure(655, 12, 4, "now", instrument: "other"))!;
        two.Doubt.ShouldBe(2 * Math.Sqrt(313), 1e-9);
        two.How.ShouldBe(Changed.NotToldApart);
    }

    /// <summary>By hand after the GUM, 5.1.2: of two cases the same gauge and the same hand share nothing, u² = 2 × (12² + 3²).</summary>
    [Fact]
    public void What_was_read_in_an_earlier_case_shares_nothing_with_what_is_read_now()
    {
        var since = FigureChange.SinceEarlier(Figure(640, 12, 3, "same"), Figure(680, 12, 3, "same"))!;
        since.Doubt.ShouldBe(2 * Math.Sqrt(306), 1e-9);
        (since.Change, since.How).ShouldBe((40, Changed.Another));
    }

    [Theory]
    [InlineData(600.0, null, 655, Changed.Better)]
    [InlineData(600.0, null, 625, Changed.Worse)]
    [InlineData(null, 700.0, 655, Changed.Worse)]
    [InlineData(null, 700.0, 625, Changed.Better)]
    [InlineData(600.0, 700.0, 655, Changed.Another)]
    [InlineData(600.0, null, 649, Changed.NotToldApart)]
    [InlineData(600.0, null, 631, Changed.NotToldApart)]
    public void Which_way_is_better_follows_from_the_side_of_its_limit(double? least, double? most, double now, Changed how) =>
        FigureChange.Of(Figure(640, 12, 3, "then", least, most), Figure(now, 12, 4, "now", least, most))!.How.ShouldBe(how);

    [Fact]
    public void Where_nothing_can_be_reckoned_nothing_is_told() =>
        FigureChange.Of(Figure(640, 1, 1, "then") with { Estimate = null }, Figure(655, 1, 1, "now")).ShouldBeNull();
}
