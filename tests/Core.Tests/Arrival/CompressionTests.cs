using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Tests.Arrival;

public sealed class CompressionTests
{
    private static CompressionTest Evaluate(params decimal[] kpa)
    {
        var c = Start.Case();
        c.Readings.AddRange(kpa.Select((v, i) => Start.Read($"C{i + 1}", "compression", v)));
        return CompressionTest.Evaluate(c.GaugeLog().Compression(Start.Table(c.Layout)), Start.Table(c.Layout).Engine);
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
        CompressionTest.Evaluate(c.GaugeLog().Compression(Start.Table(c.Layout)), Start.Table(c.Layout).Engine).Cylinders[0].Kpa.ShouldBe(1000);
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
        var test = CompressionTest.Evaluate(c.GaugeLog().Compression(Start.Table(c.Layout)), Start.Table(c.Layout).Engine);
        test.Cylinders[0].Kpa.ShouldBe(1000);
        test.Cylinders[1].Kpa.ShouldBeNull();
    }
}
