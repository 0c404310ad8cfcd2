using VividSleuth.Core.Build;

namespace VividSleuth.Core.Tests.Build;

public sealed class ForecastTests
{
    private static readonly Dictionary<string, int> Nothing = [];

    private static PlannedTask[] Planned(IEnumerable<Activity> activities) =>
        [.. activities.Select(a => new PlannedTask(a.Id, (int)Math.Round(60 * a.Takes.Mean), a.After, Nothing))];

    /// <summary>One after the other: the sum of the means, and the root of the sum of the squares of the spreads (central limit theorem).</summary>
    [Fact]
    public void In_a_row_the_end_is_drawn_as_the_sums_say()
    {
        var row = Enumerable.Range(0, 20).Select(i => new Activity($"t{i}", new Spell(2, 4, 6), i == 0 ? [] : [$"t{i - 1}"])).ToArray();
        var planner = new ResourcePlanner(Planned(row), Nothing);
        var drawn = planner.Forecast(planner.Plan(), row.ToDictionary(a => a.Id, a => a.Takes));
        var (mean, deviation) = new Network(row).Pert();
        mean.ShouldBe(80, 1e-9);
        (drawn.Likely / 60.0).ShouldBe(80, 0.5);
        // A symmetric beta with shape 3 and 3 has a variance of (b − a)²/28, and PERT says (b − a)²/36.
        (drawn.SafeEnd / 60.0).ShouldBe(80 + (1.2816 * deviation * Math.Sqrt(36 / 28.0)), 0.5);
        drawn.Hangs.Values.ShouldAllBe(h => h == 1);
        drawn.ChanceBy(int.MaxValue).ShouldBe(1);
        drawn.ChanceBy(0).ShouldBe(0);
    }

    /// <summary>Of two ways as long as each other the longer one counts, which PERT does not see: its end is too early.</summary>
    [Fact]
    public void Where_two_ways_are_as_long_the_draws_end_later_than_PERT()
    {
        Activity[] two =
        [
            new("weld", new Spell(10, 20, 60), []),
            new("shells", new Spell(10, 20, 60), []),
            new("build", new Spell(5, 6, 7), ["weld", "shells"]),
        ];
        var planner = new ResourcePlanner(Planned(two), Nothing);
        var drawn = planner.Forecast(planner.Plan(), two.ToDictionary(a => a.Id, a => a.Takes));
        (drawn.Ends.Average() / 60).ShouldBeGreaterThan(new Network(two).Pert().Mean + 3);
        drawn.Hangs["build"].ShouldBe(1);
        // Either is as likely the one that it hangs on.
        drawn.Hangs["weld"].ShouldBe(0.5, 0.05);
        (drawn.Hangs["weld"] + drawn.Hangs["shells"]).ShouldBe(1, 0.05);
        // The same when it is asked again.
        planner.Forecast(planner.Plan(), two.ToDictionary(a => a.Id, a => a.Takes)).Ends.ShouldBe(drawn.Ends);
    }

    /// <summary>One pair of hands: what has nothing to do with it waits for it all the same, and the end hangs on it.</summary>
    [Fact]
    public void What_keeps_the_only_hands_busy_is_told()
    {
        var hands = new Dictionary<string, int> { ["hands"] = 1 };
        PlannedTask[] tasks = [new("gearbox of another", 300, [], hands), new("pistons in", 200, [], hands), new("paperwork", 30, [], Nothing)];
        var planner = new ResourcePlanner(tasks, hands);
        var drawn = planner.Forecast(planner.Plan(), new Dictionary<string, Spell>(), 50);
        drawn.Ends.ShouldAllBe(e => e == 500);
        (drawn.Hangs["gearbox of another"], drawn.Hangs["pistons in"], drawn.Hangs["paperwork"]).ShouldBe((1, 1, 0));
    }
}
