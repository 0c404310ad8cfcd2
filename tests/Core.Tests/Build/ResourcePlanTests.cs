using CsCheck;
using Google.OrTools.Sat;
using VividSleuth.Core.Build;

namespace VividSleuth.Core.Tests.Build;

/// <summary>Plans for the hands there are, held against CP-SAT of OR-Tools, which is not used by the program.</summary>
public sealed class ResourcePlanTests
{
    private static readonly Dictionary<string, int> There = new()
    {
        ["hands"] = 2,
        ["bench"] = 1,
        ["washer"] = 1,
    };

    private static PlannedTask[] Random(int n, int seed)
    {
        var random = new Random(seed);
        return
        [
            .. Enumerable
                .Range(0, n)
                .Select(i => new PlannedTask(
                    $"t{i}",
                    random.Next(20) == 0 ? 0 : random.Next(1, 20) * 15,
                    [.. Enumerable.Range(Math.Max(0, i - 8), Math.Min(i, 8)).Where(_ => random.Next(4) == 0).Select(b => $"t{b}")],
                    new Dictionary<string, int>
                    {
                        ["hands"] = random.Next(0, 3),
                        ["bench"] = random.Next(0, 2),
                        ["washer"] = random.Next(6) == 0 ? 1 : 0,
                    }
                )),
        ];
    }

    /// <returns>The shortest that CP-SAT found, and what it knows that none is shorter than.</returns>
    private static (long Shortest, double Bound) Solved(IReadOnlyList<PlannedTask> tasks, IReadOnlyDictionary<string, int> there, double seconds)
    {
        var model = new CpModel();
        var horizon = tasks.Sum(t => t.Minutes);
        var starts = tasks.ToDictionary(t => t.Id, t => model.NewIntVar(0, horizon, t.Id));
        var spans = tasks.ToDictionary(t => t.Id, t => model.NewFixedSizeIntervalVar(starts[t.Id], t.Minutes, t.Id));
        var end = model.NewIntVar(0, horizon, "end");
        foreach (var t in tasks)
        {
            model.Add(end >= starts[t.Id] + t.Minutes);
            foreach (var b in t.After)
            {
                model.Add(starts[t.Id] >= starts[b] + tasks.Single(x => x.Id == b).Minutes);
            }
        }

        foreach (var (kind, most) in there)
        {
            var cumulative = model.AddCumulative(most);
            foreach (var t in tasks.Where(t => t.Needs.GetValueOrDefault(kind) > 0))
            {
                cumulative.AddDemand(spans[t.Id], t.Needs[kind]);
            }
        }

        model.Minimize(end);
        var solver = new CpSolver { StringParameters = $"max_time_in_seconds:{seconds} num_workers:2" };
        solver.Solve(model).ShouldBeOneOf(CpSolverStatus.Optimal, CpSolverStatus.Feasible);
        return ((long)solver.ObjectiveValue, solver.BestObjectiveBound);
    }

    private static void CanBeDone(
        ResourcePlan plan,
        IReadOnlyList<PlannedTask> tasks,
        IReadOnlyDictionary<string, int> there,
        OpenMinutes? open = null
    )
    {
        open ??= OpenMinutes.Always;
        var byId = tasks.ToDictionary(t => t.Id);
        int Through(PlannedTask t) => t.ByItself ? plan.Starts[t.Id] + t.Minutes : open.End(plan.Starts[t.Id], t.Minutes);
        plan.Makespan.ShouldBe(tasks.Max(Through));
        plan.Bound.ShouldBeLessThanOrEqualTo(plan.Makespan);
        foreach (var t in tasks)
        {
            plan.Starts[t.Id].ShouldBeGreaterThanOrEqualTo(t.NotBefore);
            if (!t.ByItself)
            {
                open.Next(plan.Starts[t.Id]).ShouldBe(plan.Starts[t.Id], t.Id);
            }

            t.After.Select(b => Through(byId[b])).ShouldAllBe(end => end <= plan.Starts[t.Id], t.Id);
            // Nothing is more busy than where something begins.
            foreach (var (kind, most) in there)
            {
                tasks
                    .Where(o => plan.Starts[o.Id] <= plan.Starts[t.Id] && Through(o) > plan.Starts[t.Id])
                    .Sum(o => o.Needs.GetValueOrDefault(kind))
                    .ShouldBeLessThanOrEqualTo(most, $"{kind} at {t.Id}");
            }
        }
    }

    [Fact]
    public void Few_tasks_are_planned_as_short_as_can_be()
    {
        for (var seed = 0; seed < 200; seed++)
        {
            var tasks = Random(3 + (seed % 8), seed);
            var plan = new ResourcePlanner(tasks, There).Plan();
            CanBeDone(plan, tasks, There);
            plan.IsShortest.ShouldBeTrue();
            var (shortest, _) = Solved(tasks, There, 60);
            plan.Makespan.ShouldBe((int)shortest, $"seed {seed}");
        }
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Two_hundred_tasks_are_planned_within_two_per_cent(int seed)
    {
        var tasks = Random(200, seed);
        var plan = new ResourcePlanner(tasks, There).Plan();
        CanBeDone(plan, tasks, There);
        var (shortest, _) = Solved(tasks, There, 10);
        ((double)plan.Makespan).ShouldBeLessThanOrEqualTo(1.02 * shortest);
    }

    /// <summary>As the tasks of an engine are: one or two pairs of hands, now and then the bench, and one in so many that is waited for.</summary>
    private static PlannedTask[] OfAnEngine(int n, int seed, int every)
    {
        var random = new Random(seed);
        return
        [
            .. Enumerable
                .Range(0, n)
                .Select(i =>
                {
                    var wait = random.Next(every) == 0;
                    return new PlannedTask(
                        $"t{i}",
                        wait ? 60 * random.Next(24, 240) : 15 * random.Next(1, 16),
                        [.. Enumerable.Range(Math.Max(0, i - 30), Math.Min(i, 30)).Where(_ => random.Next(20) == 0).Select(b => $"t{b}")],
                        wait
                            ? new Dictionary<string, int>()
                            : new Dictionary<string, int> { ["hands"] = random.Next(8) == 0 ? 2 : 1, ["bench"] = random.Next(4) == 0 ? 1 : 0 }
                    );
                }),
        ];
    }

    /// <summary>The bounds are those of CP-SAT, so that what lies within two per cent of them lies within two per cent of the optimum.</summary>
    [Theory]
    [InlineData(1, 5)]
    [InlineData(3, 25)]
    [InlineData(4, 1000)]
    public void Two_hundred_tasks_of_an_engine_are_planned_within_two_per_cent_of_the_optimum(int seed, int every)
    {
        var tasks = OfAnEngine(200, seed, every);
        // As often as a plan on the screen is tried.
        var plan = new ResourcePlanner(tasks, There).Plan(400);
        CanBeDone(plan, tasks, There);
        var (_, bound) = Solved(tasks, There, 10);
        plan.Bound.ShouldBeLessThanOrEqualTo((int)bound + 1);
        ((double)plan.Makespan).ShouldBeLessThanOrEqualTo(1.02 * bound);
    }

    [Fact]
    public void Whatever_is_to_be_done_is_planned_so_that_it_can_be_done() =>
        Gen.Int[0, 100_000]
            .Select(Gen.Int[1, 40])
            .Sample((seed, n) => CanBeDone(new ResourcePlanner(Random(n, seed), There).Plan(100), Random(n, seed), There), iter: 100);

    /// <summary>Open from 8:00 to 12:00 and 13:00 to 17:00 every day; minute 0 is 8:00 of a Monday.</summary>
    private static OpenMinutes Shop(int work)
    {
        Hours[] hours = [new(new TimeOnly(8, 0), new TimeOnly(12, 0)), new(new TimeOnly(13, 0), new TimeOnly(17, 0))];
        var week = Enum.GetValues<DayOfWeek>().ToDictionary(d => d, _ => (IReadOnlyList<Hours>)hours);
        return OpenMinutes.Of(new WorkCalendar(week, [], TimeZoneInfo.Utc), new DateTimeOffset(2026, 11, 30, 8, 0, 0, TimeSpan.Zero), work);
    }

    [Fact]
    public void A_coating_cures_by_night_and_a_parcel_is_not_there_before_it_comes()
    {
        var alone = new Dictionary<string, int> { ["hands"] = 1 };
        PlannedTask[] tasks =
        [
            new("clean", 300, [], alone),
            new("paint", 60, ["clean"], alone),
            new("cure", 720, ["paint"], new Dictionary<string, int>()) { ByItself = true },
            new("shells in", 90, ["cure"], alone) { NotBefore = 26 * 60 },
            new("sort bolts", 120, [], alone),
        ];
        var plan = new ResourcePlanner(tasks, There, Shop(3000)).Plan();
        // Cleaned from 8:00, over noon, to 14:00; painted till 15:00; cured at 3:00; the shells come at 10:00 of the next day.
        (plan.Starts["clean"], plan.Starts["paint"], plan.Starts["cure"], plan.Starts["shells in"]).ShouldBe((0, 360, 420, 26 * 60));
        plan.Makespan.ShouldBe((27 * 60) + 30);
        plan.IsShortest.ShouldBeTrue();
    }

    /// <summary>Every order of up to six tasks, each as early as it can be: none of them is through before the plan is.</summary>
    [Fact]
    public void With_nights_and_parcels_too_few_tasks_are_planned_as_short_as_can_be()
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            var tasks = Random(3 + (seed % 4), seed)
                .Select(t => t with { NotBefore = random.Next(3) == 0 ? random.Next(2000) : 0, ByItself = random.Next(4) == 0 })
                .ToArray();
            var shop = Shop(tasks.Sum(t => t.Minutes) + 4000);
            var plan = new ResourcePlanner(tasks, There, shop).Plan();
            CanBeDone(plan, tasks, There, shop);
            plan.Makespan.ShouldBe(Orders(tasks).Min(order => OneByOne(order, shop)), $"seed {seed}");
        }
    }

    private static IEnumerable<PlannedTask[]> Orders(PlannedTask[] left) =>
        left.Length == 0
            ?
            [
                [],
            ]
            : left.SelectMany(t => Orders([.. left.Where(o => o != t)]).Select(rest => rest.Prepend(t).ToArray()));

    /// <summary>Minute by minute: the plain way to say what the planner reckons by spans. Orders that put a task before what it waits for last for ever.</summary>
    private static int OneByOne(PlannedTask[] order, OpenMinutes open)
    {
        var done = new Dictionary<string, (int From, int To)>();
        var kept = new List<(int From, int To, PlannedTask Task)>();
        foreach (var t in order)
        {
            if (t.After.Any(b => !done.ContainsKey(b)))
            {
                return int.MaxValue;
            }

            var start = t.After.Select(b => done[b].To).Append(t.NotBefore).Max();
            while (true)
            {
                start = t.ByItself ? start : open.Next(start);
                var end = t.ByItself ? start + t.Minutes : open.End(start, t.Minutes);
                var met = kept.Where(k => k.From < end && k.To > start).ToArray();
                // Only where one of them begins, or at the start, can most be busy.
                var moments = met.Select(k => Math.Max(k.From, start)).Append(start).Distinct();
                if (
                    t.Minutes == 0
                    || moments.All(m =>
                        There.All(r =>
                            met.Where(k => k.From <= m && k.To > m).Sum(k => k.Task.Needs.GetValueOrDefault(r.Key)) + t.Needs.GetValueOrDefault(r.Key)
                            <= r.Value
                        )
                    )
                )
                {
                    done[t.Id] = (start, end);
                    kept.Add((start, end, t));
                    break;
                }

                start++;
            }
        }

        return done.Values.Max(d => d.To);
    }

    [Fact]
    public void What_needs_more_than_there_is_is_named()
    {
        var lift = new PlannedTask("crankshaft in", 20, [], new Dictionary<string, int> { ["hands"] = 3 });
        Should
            .Throw<ProblemException>(() => new ResourcePlanner([lift], There))
            .Problems[0]
            .Text.ShouldBe("“crankshaft in” needs 3 of “hands”, and there are 2.");
        new ResourcePlanner([], There).Plan().Makespan.ShouldBe(0);
    }
}
