using VividSleuth.Core;
using VividSleuth.Core.Build;

namespace VividSleuth.Bench;

/// <summary>The plan of an engine as its tasks grow: hands, bench, hours, waits, and two thousand draws.</summary>
internal static class BuildFigures
{
    private static readonly DateTimeOffset Now = new(2026, 11, 27, 9, 0, 0, TimeSpan.Zero);

    public static void Run(Figures figures)
    {
        foreach (var count in new[] { 50, 100, 200, 400 })
        {
            var tasks = Drawn(count);
            var work = ShopWork.Usual with { Zone = "UTC", Hands = 2 };
            var plan = BuildPlanner.Plan(new Arisen(tasks, [], [], [], null), [], work, Now);
            var ms = Figures.Median(() => plan = BuildPlanner.Plan(new Arisen(tasks, [], [], [], null), [], work, Now), runs: 5);
            var bare = Figures.Median(() => _ = BuildPlanner.Plan(new Arisen(tasks, [], [], [], null), [], work, Now, worth: false), runs: 5);
            var what = $"plan of {count} tasks, 2,000 draws{(plan.Shortest ? ", a shortest one" : "")}";
            if (count == 200)
            {
                figures.AtMost("Build", what, bare, 300, "ms");
            }
            else
            {
                figures.Tell("Build", what, $"{bare:0} ms");
            }

            figures.Tell("Build", $"… and what {plan.Worth.Count} waits are worth", $"{ms:0} ms");
        }
    }

    /// <summary>Tasks that wait for a few of those before them; one in five goes on by itself for days.</summary>
    private static ArisingTask[] Drawn(int count)
    {
        var random = new Random(count);
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(i =>
                {
                    var wait = random.Next(5) == 0;
                    var likely = wait ? random.Next(24, 240) : 0.25 * random.Next(1, 16);
                    string[] after =
                    [
                        .. Enumerable
                            .Range(0, random.Next(0, 4))
                            .Select(_ => random.Next(Math.Max(0, i - 30), Math.Max(1, i)))
                            .Where(k => k < i)
                            .Distinct()
                            .Select(k => $"t{k}"),
                    ];
                    return new ArisingTask(
                        $"t{i}",
                        wait ? TaskKind.Away : TaskKind.Work,
                        Fact.Text($"t{i}"),
                        new Spell(likely * 0.6, likely, likely * 2.5),
                        SpellFrom.Thumb,
                        0,
                        wait ? 0
                            : random.Next(8) == 0 ? 2
                            : 1,
                        [],
                        [],
                        after
                    )
                    {
                        ByItself = wait,
                        Bench = !wait && random.Next(4) == 0,
                    };
                }),
        ];
    }
}
