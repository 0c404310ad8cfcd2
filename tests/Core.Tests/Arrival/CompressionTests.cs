using VividSleuth.Core.Arrival;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Arrival;

public sealed class CompressionTests
{
    private static CompressionTest Evaluate(EngineCase c) =>
        CompressionTest.Evaluate(
            c.GaugeLog().Compression(Start.Table(c.Layout)),
            Start.Table(c.Layout).Engine,
            new LimitBook(c.Limits, KnowledgeBase.BuiltIn, Schools.Usual, c.Layout).Compression()
        );

    private static CompressionTest Evaluate(params decimal[] kpa) => Evaluate(Start.InlineSix, kpa);

    private static CompressionTest Evaluate(EngineLayout layout, params decimal[] kpa)
    {
        var c = Start.Case(layout);
        c.Readings.AddRange(kpa.Select((v, i) => Start.Read($"C{i + 1}", "compression", v)));
        return Evaluate(c);
    }

    /// <summary>Lowest at least three quarters of the highest: common practice, no source.</summary>
    [Fact]
    public void A_cylinder_below_three_quarters_of_the_highest_is_low()
    {
        var test = Evaluate(1000, 760, 740, 1000, 990, 980);
        test.Cylinders.Where(c => c.Low).Select(c => c.Number).ShouldBe([3]);
        test.Says.ShouldContain(s => s.Contains("Cylinder 3 below 75 %"));
    }

    [Fact]
    public void Neighbours_both_low_point_to_the_joint_between_them_and_others_do_not()
    {
        Evaluate(1000, 500, 510, 1000, 990, 980).Says.ShouldContain(s => s.Contains("Cylinders 2 and 3 are neighbours"));
        Evaluate(1000, 500, 1000, 510, 990, 980).Says.ShouldNotContain(s => s.Contains("neighbours"));
    }

    [Fact]
    public void What_is_missing_is_said_and_the_best_of_repeats_counts()
    {
        Evaluate().Says.ShouldHaveSingleItem().ShouldContain("No compression");
        Evaluate(1000, 980).Says[0].ShouldContain("Cylinder 3, 4, 5, 6 not measured");
        var c = Start.Case();
        c.Readings.Add(Start.Read("C1", "compression", 700));
        c.Readings.Add(Start.Read("C1", "compression", 1000));
        Evaluate(c).Cylinders[0].Kpa.ShouldBe(1000);
    }

    [Fact]
    public void A_corrected_or_withdrawn_reading_does_not_count()
    {
        var c = Start.Case();
        var wrong = Start.Read("C1", "compression", 2000);
        var right = Start.Read("C1", "compression", 1000);
        right.Corrects = wrong.Id;
        var taken = Start.Read("C2", "compression", 3000);
        taken.WithdrawnAt = DateTimeOffset.UnixEpoch;
        c.Readings.AddRange([wrong, right, taken]);
        var test = Evaluate(c);
        test.Cylinders[0].Kpa.ShouldBe(1000);
        test.Cylinders[1].Kpa.ShouldBeNull();
    }

    /// <summary>Six that are alike at 3 bar are not sound: about 7 bar is the least of a spark engine (common practice, no source).</summary>
    [Fact]
    public void Alike_and_low_is_not_sound()
    {
        var test = Evaluate(310, 300, 305, 300, 298, 302);
        test.Cylinders.ShouldAllBe(c => c.Low);
        test.Says.ShouldHaveSingleItem().ShouldContain("All low");
        test.Says[0].ShouldContain("rule of thumb");
        Evaluate(1010, 1000, 1005, 1000, 998, 1002).Says.ShouldHaveSingleItem().ShouldContain("none below");
    }

    /// <summary>What is ample for a spark engine does not light a diesel; and no oil goes down its bore.</summary>
    [Fact]
    public void A_diesel_is_held_against_a_diesel()
    {
        var diesel = Start.InlineSix with { Fuel = FuelSystem.Diesel };
        Evaluate(diesel, 1010, 1000, 1005, 1000, 998, 1002).Says.ShouldHaveSingleItem().ShouldContain("All low");
        var one = Evaluate(diesel, 2600, 2500, 1700, 2550, 2600, 2580);
        one.Cylinders.Where(c => c.Low).Select(c => c.Number).ShouldBe([3]);
        one.Says.ShouldContain(s => s.Contains("No oil down the bore of a diesel"));
        one.Says.ShouldNotContain(s => s.Contains("spoon"));
        Evaluate(1000, 980, 600, 990, 1000, 985).Says.ShouldContain(s => s.Contains("spoon"));
    }

    [Fact]
    public void The_makers_least_goes_before_the_rule_of_thumb()
    {
        var c = Start.Case();
        c.Limits.Add(
            new Limit
            {
                Characteristic = "compression",
                Least = 1100,
                Source = LimitSource.MakersManual,
                SourceText = "manual, page 9",
            }
        );
        c.Readings.AddRange(Enumerable.Range(1, 6).Select(n => Start.Read($"C{n}", "compression", 1000)));
        var test = Evaluate(c);
        test.Cylinders.ShouldAllBe(x => x.Low);
        test.Says[0].ShouldNotContain("rule of thumb");
    }
}
