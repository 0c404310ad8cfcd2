using CsCheck;
using Google.OrTools.Sat;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class OrderTests
{
    private static readonly Setup Start = new(0, -1, -1);

    /// <summary>Random steps; one may only wait for an earlier one, so there is no cycle, and the list is turned round.</summary>
    private static readonly Gen<(Setup[] Setups, int[][] Before)> Problems = Gen.Select(Gen.Int[1, 30], Gen.Int[0, 999].Array[30 * 34]).Select(Make);

    private static (Setup[] Setups, int[][] Before) Make(int n, int[] dice)
    {
        var setups = new Setup[n];
        var before = new int[n][];
        for (var i = 0; i < n; i++)
        {
            var at = n - 1 - i;
            setups[at] = new Setup(dice[(i * 34) + 30] % 3, (dice[(i * 34) + 31] % 5) - 1, (dice[(i * 34) + 32] % 3) - 1);
            before[at] = [.. Enumerable.Range(0, i).Where(j => dice[(i * 34) + j] < 140).Select(j => n - 1 - j)];
        }

        return (setups, before);
    }

    private static OrderedSteps Solve((Setup[] Setups, int[][] Before) problem) => StepOrder.Find(problem.Setups, problem.Before, Start);

    [Fact]
    public void No_plan_breaks_a_precedence_and_each_costs_what_it_says() =>
        Problems.Sample(problem =>
        {
            var found = Solve(problem);
            found.Order.Order().ShouldBe(Enumerable.Range(0, problem.Setups.Length));
            var place = found.Order.Select((step, i) => (step, i)).ToDictionary(x => x.step, x => x.i);
            for (var i = 0; i < problem.Setups.Length; i++)
            {
                foreach (var before in problem.Before[i])
                {
                    place[before].ShouldBeLessThan(place[i]);
                }
            }

            StepOrder.CostOf(found.Order.Select(i => problem.Setups[i]), Start).ShouldBe(found.Cost);
        });

    /// <summary>Reference: Google OR-Tools, CP-SAT. Phases of one attitude each; the last phase used is the number of turns.</summary>
    [Fact]
    public void Turns_are_as_few_as_CP_SAT_finds() =>
        Problems.Sample(problem => Solve(problem).Cost.Turns.ShouldBe(TurnsByCpSat(problem.Setups, problem.Before)), iter: 60, threads: 1);

    /// <summary>Reference: full enumeration over sets of finished steps (Held and Karp 1962), with the whole cost.</summary>
    [Fact]
    public void Turns_then_tools_then_walks_are_the_least_by_enumeration() =>
        Gen.Select(Gen.Int[1, 11], Gen.Int[0, 999].Array[30 * 34])
            .Select(Make)
            .Sample(
                problem =>
                {
                    var found = Solve(problem);
                    found.Proven.ShouldBeTrue();
                    found.Cost.ShouldBe(LeastByEnumeration(problem.Setups, problem.Before));
                },
                iter: 500
            );

    [Fact]
    public void The_same_problem_is_ordered_the_same_way_each_time() =>
        Problems.Sample(problem => Solve(problem).Order.ShouldBe(Solve(problem).Order), iter: 100);

    [Fact]
    public void Grouping_by_attitude_beats_the_order_of_the_list()
    {
        // Upright, inverted, upright, inverted, with nothing to keep them apart: one turn and two tool changes are enough.
        Setup[] setups = [new(0, 0, -1), new(1, 0, -1), new(0, 1, -1), new(1, 1, -1)];
        var found = StepOrder.Find(
            setups,
            [
                [],
                [],
                [],
                [],
            ],
            Start
        );
        found.Cost.ShouldBe(new OrderCost(1, 2, 0));
        found.Order.ShouldBe([0, 2, 3, 1]);
    }

    [Fact]
    public void Nothing_to_do_costs_nothing() => StepOrder.Find([], [], Start).Cost.ShouldBe(new OrderCost(0, 0, 0));

    private static int TurnsByCpSat(Setup[] setups, int[][] before)
    {
        const int Most = 16;
        var model = new CpModel();
        var attitude = Enumerable
            .Range(0, Most)
            .Select(p => model.NewIntVar(p == 0 ? Start.Attitude : 0, p == 0 ? Start.Attitude : 2, $"a{p}"))
            .ToArray();
        var phase = setups.Select((_, i) => model.NewIntVar(0, Most - 1, $"p{i}")).ToArray();
        var last = model.NewIntVar(0, Most - 1, "last");
        for (var i = 0; i < setups.Length; i++)
        {
            model.AddElement(phase[i], attitude, LinearExpr.Constant(setups[i].Attitude));
            model.Add(phase[i] <= last);
            foreach (var b in before[i])
            {
                model.Add(phase[b] <= phase[i]);
            }
        }

        model.Minimize(last);
        var solver = new CpSolver { StringParameters = "num_workers:1" };
        solver.Solve(model).ShouldBe(CpSolverStatus.Optimal);
        return (int)solver.Value(last);
    }

    private static OrderCost LeastByEnumeration(Setup[] setups, int[][] before)
    {
        var n = setups.Length;
        var needs = before.Select(b => b.Aggregate(0, (mask, i) => mask | (1 << i))).ToArray();
        var level = new Dictionary<(int Done, Setup At), OrderCost> { [(0, Start)] = new(0, 0, 0) };
        for (var step = 0; step < n; step++)
        {
            var next = new Dictionary<(int Done, Setup At), OrderCost>();
            foreach (var ((done, at), cost) in level)
            {
                for (var i = 0; i < n; i++)
                {
                    if ((done >> i & 1) == 1 || (needs[i] & done) != needs[i])
                    {
                        continue;
                    }

                    var add = StepOrder.CostOf([setups[i]], at);
                    var sum = new OrderCost(cost.Turns + add.Turns, cost.ToolChanges + add.ToolChanges, cost.Walks + add.Walks);
                    var key = (
                        done | (1 << i),
                        new Setup(setups[i].Attitude, setups[i].Tool >= 0 ? setups[i].Tool : at.Tool, setups[i].End >= 0 ? setups[i].End : at.End)
                    );
                    if (!next.TryGetValue(key, out var known) || sum.IsLessThan(known))
                    {
                        next[key] = sum;
                    }
                }
            }

            level = next;
        }

        return level.Values.Aggregate((a, b) => b.IsLessThan(a) ? b : a);
    }
}
