using CsCheck;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Build;

public sealed class BuildPlanTests
{
    private static readonly DateTimeOffset Now = ArisingTests.Now;

    private static readonly ShopWork Alone = ArisingTests.Alone;

    private static ArisingTask Task(string key, double hours, params string[] after) =>
        new(key, TaskKind.Own, Fact.Text(key), Spell.Always(hours), SpellFrom.Typed, 0, 1, [], [], after);

    private static ArisingTask Wait(string key, double hours, params string[] after) =>
        Task(key, hours, after) with
        {
            Kind = TaskKind.Away,
            ByItself = true,
            Hands = 0,
        };

    private static Arisen Arisen(IReadOnlyList<ArisingTask> tasks) => new(tasks, [], [], [], null);

    private static BuildPlan Plan(ShopWork work, params ArisingTask[] tasks) => BuildPlanner.Plan(Arisen(tasks), [], work, Now);

    private static BuildTaskState Of(BuildPlan plan, string key) => plan.Tasks.Single(t => t.Key == key);

    private static DateTimeOffset At(int day, int hour, int minute = 0) => new(2026, 11, day, hour, minute, 0, TimeSpan.Zero);

    public static TheoryData<string> Demos() => [.. Directory.GetFiles(Path.Combine(Start.Root(), "demo/cases")).Select(f => Path.GetFileName(f)!)];

    /// <summary>Of every engine that ships: nothing begins before what it waits for, work lies in hours of work, and no more hands are busy than there are.</summary>
    [Theory]
    [MemberData(nameof(Demos))]
    public void The_plan_of_a_demo_keeps_to_waits_hours_and_hands(string file)
    {
        var demo = CaseFile.FromJson(File.ReadAllText(Path.Combine(Start.Root(), "demo/cases", file)));
        foreach (var hands in new[] { 1, 2 })
        {
            var work = Alone with { Hands = hands };
            var plan = new CaseReader(demo.Case, KnowledgeBase.BuiltIn, demo.Instruments, Start.Today).BuildAt(work, ShopClocks.None, Now);
            plan.Tasks.ShouldNotBeEmpty();
            Holds(plan, work);
            plan.Safe!.Value.ShouldBeGreaterThanOrEqualTo(plan.Likely!.Value);
        }
    }

    private static void Holds(BuildPlan plan, ShopWork work)
    {
        var byKey = plan.Tasks.ToDictionary(t => t.Key);
        var calendar = work.Calendar();
        foreach (var task in plan.Tasks)
        {
            task.After.Where(byKey.ContainsKey).ShouldAllBe(a => byKey[a].Ends <= task.Starts, task.Key);
            task.Latest.ShouldBeGreaterThanOrEqualTo(task.Starts);
            if (!task.ByItself && task.Ends > task.Starts)
            {
                // As long as it takes, in hours of work; what needs a dry day lies still on a wet one.
                var hours = calendar.Between(task.Starts, task.Ends).TotalHours;
                hours.ShouldBeGreaterThanOrEqualTo(task.Likely - (0.51 / 60));
                if (!task.Dry)
                {
                    hours.ShouldBe(task.Likely, 0.51 / 60);
                }

                calendar.Open(task.Starts).First().From.ShouldBeLessThanOrEqualTo(task.Starts, task.Key);
            }
        }

        foreach (var moment in plan.Tasks.Select(t => t.Starts))
        {
            plan.Tasks.Where(t => !t.ByItself && t.Starts <= moment && moment < t.Ends)
                .Sum(t => Math.Min(t.Hands, work.Hands))
                .ShouldBeLessThanOrEqualTo(work.Hands);
        }
    }

    /// <summary>Whatever is drawn: waits, hours, hands, absences and weather are kept, and a replan without what is through is no longer.</summary>
    [Fact]
    public void Any_plan_keeps_to_waits_hours_and_hands_and_done_work_makes_it_no_longer() =>
        Gen.Int[1, 25]
            .SelectMany(n =>
                Gen.Select(
                    Gen.Int[0, 1_000_000],
                    Gen.Select(Gen.Int[1, 12], Gen.Int[0, 4], Gen.Int[1, 2], Gen.Bool).Array[n],
                    (seed, rows) => (seed, rows)
                )
            )
            .Sample(
                x =>
                {
                    var random = new Random(x.seed);
                    ArisingTask[] tasks =
                    [
                        .. x.rows.Select(
                            (row, i) =>
                            {
                                string[] after = [.. Enumerable.Range(0, i).Where(_ => random.Next(4) == 0).Take(3).Select(k => $"t{k}")];
                                return row.Item2 == 0
                                    ? Wait($"t{i}", 9 * row.Item1, after)
                                    : Task($"t{i}", row.Item1, after) with
                                    {
                                        Hands = row.Item3,
                                        Dry = row.Item4 && row.Item2 == 1,
                                    };
                            }
                        ),
                    ];
                    var work = Alone with
                    {
                        Hands = 2,
                        Away = [new Absence(new DateOnly(2026, 11, 30), new DateOnly(2026, 12, 1), "one of us", 1)],
                        Weather = [new WeatherDay(new DateOnly(2026, 11, 27), false, 3), new WeatherDay(new DateOnly(2026, 12, 2), false, 3)],
                    };
                    // What needs both waits for the second one's return.
                    var plan = Plan(work, tasks);
                    Holds(plan, work);
                    plan.Tasks.Where(t => t.Hands == 2 && !t.ByItself).ShouldAllBe(t => t.Ends <= At(30, 0) || t.Starts >= At(30, 0).AddDays(2));
                    plan.Tasks.Where(t => t.Dry).ShouldAllBe(t => t.Starts.Day != 27 && t.Starts.Day != 2);
                    var through = Plan(work, [.. tasks.Where(t => t.Key != "t0").Select(t => t with { After = [.. t.After.Where(a => a != "t0")] })]);
                    if (plan.Shortest && through.Ends is { } earlier)
                    {
                        earlier.ShouldBeLessThanOrEqualTo(plan.Ends!.Value.AddMinutes(through.Shortest ? 0 : 24 * 60));
                    }
                },
                iter: 60,
                threads: 1
            );

    [Fact]
    public void Work_goes_on_after_the_weekend_and_a_wait_goes_on_through_it()
    {
        // Friday, nine to twelve and one to five are seven hours; the eighth is on Monday.
        var plan = Plan(Alone, Task("build", 8), Wait("cure", 24));
        Of(plan, "build").Ends.ShouldBe(At(30, 9));
        Of(plan, "cure").Ends.ShouldBe(At(28, 9));
        plan.Likely.ShouldBe(new DateOnly(2026, 11, 30));
    }

    [Fact]
    public void Only_on_dry_days_and_cured_where_it_stays_warm_long_enough()
    {
        var work = Alone with
        {
            Weather =
            [
                new WeatherDay(new DateOnly(2026, 11, 27), false, 4),
                new WeatherDay(new DateOnly(2026, 11, 30), true, 8),
                new WeatherDay(new DateOnly(2026, 12, 1), true, 2),
                new WeatherDay(new DateOnly(2026, 12, 2), true, 8),
            ],
        };
        var plan = Plan(work, Task("wash", 2) with { Dry = true }, Task("cure", 30, "wash") with { ByItself = true, Hands = 0, WarmerThan = 5 });
        // It rains on Friday; on Tuesday it is too cold, and Monday alone is not long enough.
        Of(plan, "wash").Starts.ShouldBe(At(30, 8));
        Of(plan, "cure").Starts.ShouldBe(new DateTimeOffset(2026, 12, 2, 0, 0, 0, TimeSpan.Zero));
        Of(plan, "wash").Held!.Code.ShouldBe("build.held.wet");
        Of(plan, "wash").Ready.ShouldBeFalse();
        // Saturday, Sunday and Thursday are holes: they count as good ones, and that is told.
        plan.Told.ShouldContain(t => t.Code == "build.weather-unknown");
    }

    [Fact]
    public void A_tool_of_which_there_is_one_is_used_by_one_and_one_that_is_gone_is_told()
    {
        var work = Alone with
        {
            Hands = 2,
            Tools = new Dictionary<string, int> { ["Hoist"] = 1, ["acetylene"] = 0 },
        };
        var plan = Plan(
            work,
            Task("a", 2) with
            {
                Tools = ["hoist"],
            },
            Task("b", 2) with
            {
                Tools = ["hoist"],
            },
            Task("c", 1) with
            {
                Tools = ["acetylene"],
            }
        );
        (Of(plan, "a").Ends <= Of(plan, "b").Starts || Of(plan, "b").Ends <= Of(plan, "a").Starts).ShouldBeTrue();
        (Of(plan, "c").Ready, Of(plan, "c").Held?.Code).ShouldBe((false, "build.held.tool"));
        plan.Told.ShouldContain(t => t.Code == "build.tool-gone");
    }

    [Fact]
    public void What_hangs_on_a_wait_is_worth_more_the_later_it_ends()
    {
        var plan = Plan(Alone, Wait("shells", 24 * 5), Task("wash", 3), Task("build", 6, "shells", "wash"));
        var worth = plan.Worth.Single();
        worth.Key.ShouldBe("shells");
        // Today is a Friday: that one, and the two after it.
        worth.Ends.Select(e => e.Comes.Day).ShouldBe([27, 4, 11]);
        worth.Ends.Select(e => e.Ends).ShouldBe(worth.Ends.Select(e => e.Ends).Order());
        // Come at noon of a Friday it is built by Monday.
        worth.Ends[1].Ends.ShouldBe(new DateOnly(2026, 12, 7));
        Of(plan, "shells").Hangs.ShouldBe(1);
        Of(plan, "wash").Hangs.ShouldBe(0);
        Of(plan, "wash").Latest.ShouldBeGreaterThan(Of(plan, "wash").Starts.AddDays(1));
        Of(plan, "build").Latest.ShouldBe(Of(plan, "build").Starts);
    }

    [Fact]
    public void A_promise_is_kept_as_often_as_it_is_drawn()
    {
        BuildPromise Promised(int day, int hour) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Day = new DateOnly(2026, 12, day),
                At = Now.AddHours(hour),
            };
        ArisingTask[] tasks = [Wait("shells", 0) with { Takes = new Spell(24, 120, 360) }];
        double Chance(params BuildPromise[] promises) => BuildPlanner.Plan(Arisen(tasks), promises, Alone, Now).Promise!.Chance;
        Chance(Promised(13, 0)).ShouldBe(1);
        Chance(Promised(3, 0)).ShouldBeInRange(0.3, 0.9);
        // The last one counts.
        Chance(Promised(13, 0), Promised(1, 1)).ShouldBeLessThan(0.5);
        BuildPlanner.Plan(Arisen(tasks), [], Alone, Now).Promise.ShouldBeNull();
    }

    [Fact]
    public void A_circle_that_came_about_is_told_and_there_is_a_date_all_the_same()
    {
        var record = new BuildTask { Of = "a" };
        var plan = Plan(Alone, Task("a", 1, "b") with { Record = record }, Task("b", 1, "c"), Task("c", 1, "a"));
        plan.Told.ShouldContain(t => t.Code == "build.circle-left-out" && t.ToString().Contains('a'));
        plan.Tasks.Count.ShouldBe(3);
        plan.Ends.ShouldNotBeNull();
    }

    [Fact]
    public void Nothing_left_has_no_date()
    {
        var plan = Plan(Alone);
        (plan.Ends, plan.Likely, plan.Safe).ShouldBe((null, null, null));
    }

    [Fact]
    public void Hours_and_hands_that_cannot_be_are_told()
    {
        Alone.Check().ShouldBeEmpty();
        string Wrong(ShopWork work) => work.Check().Single().Text.Code;
        Wrong(Alone with { Zone = "Atlantis/City" }).ShouldBe("build.no-such-zone");
        Wrong(Alone with { Hands = 0 }).ShouldBe("build.hands-cannot-be");
        Wrong(Alone with { Week = [] }).ShouldBe("build.no-hours");
        Wrong(Alone with { Tools = new Dictionary<string, int> { ["press"] = -1 } }).ShouldBe("build.tool-cannot-be");
        Wrong(Alone with { Away = [new Absence(new DateOnly(2026, 12, 2), new DateOnly(2026, 12, 1), "", 0)] }).ShouldBe("build.away-ends-before");
        var day = new WeatherDay(new DateOnly(2026, 12, 2), true, 4);
        Wrong(Alone with { Weather = [day, day] }).ShouldBe("build.weather-twice");
        Wrong(Alone with { Weather = [day with { Coldest = 400 }] }).ShouldBe("build.weather-cannot-be");
    }
}
