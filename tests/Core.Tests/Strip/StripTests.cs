using CsCheck;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class StripTests
{
    private static StripStep Step(string id, Attitude attitude = Attitude.Upright, params string[] after) =>
        new()
        {
            Id = id,
            Name = id,
            Attitude = attitude,
            After = after.ToDictionary(a => a, _ => "why"),
        };

    private static StripPlan Plan(EngineCase c) => StripPlanner.Plan(c, Engines.Table(c.Layout), KnowledgeBase.BuiltIn);

    private static StepRecord Record(string step, int fasteners, string reason = "", StepState state = StepState.Done) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            FastenersOut = fasteners,
            Reason = reason,
            State = state,
        };

    [Fact]
    public void No_plan_breaks_a_precedence() =>
        Gen.Select(Gen.Int[1, 30], Gen.Int[0, 2].Array[30], Gen.Int[0, 99].Array[900])
            .Sample(
                (n, attitudes, dice) =>
                {
                    // A step may only wait for one with a smaller number, so there is no circle; the list is then turned round.
                    var steps = Enumerable
                        .Range(0, n)
                        .Select(i =>
                            Step(
                                $"s{i}",
                                (Attitude)attitudes[i],
                                [.. Enumerable.Range(0, i).Where(j => dice[(i * 30) + j] < 15).Select(j => $"s{j}")]
                            )
                        )
                        .Reverse()
                        .ToArray();
                    var order = StripPlanner.Order(steps);
                    order.Count.ShouldBe(n);
                    for (var i = 0; i < n; i++)
                    {
                        order[i].After.Keys.ShouldAllBe(a => order.Take(i).Any(s => s.Id == a));
                    }
                }
            );

    [Fact]
    public void A_circle_is_refused_by_naming_it()
    {
        var problem = Should
            .Throw<ProblemException>(() => StripPlanner.Order([Step("a", after: "c"), Step("b", after: "a"), Step("c", after: "b")]))
            .Problems[0];
        problem.Text.ShouldContain("a → c → b → a");
    }

    [Fact]
    public void The_engine_stays_as_it_lies_as_long_as_it_can() =>
        StripPlanner.Order([Step("turn", Attitude.Inverted), Step("one"), Step("two")]).Select(s => s.Id).ShouldBe(["one", "two", "turn"]);

    [Fact]
    public void Fasteners_are_counted_for_this_engine()
    {
        Plan(Engines.Case()).Steps.Single(s => s.Id == "rod-caps").Fasteners.ShouldBe(12);
        Plan(Engines.Case(Engines.VeeEight)).Steps.Single(s => s.Id == "main-caps").Fasteners.ShouldBe(10);
        Plan(Engines.Case(Engines.TwoStrokeTwin)).Steps.ShouldNotContain(s => s.Id == "main-caps");
    }

    [Fact]
    public void A_step_stays_locked_until_counts_agree_or_a_reason_is_given()
    {
        var c = Engines.Case();
        c.Steps.AddRange([Record("isolate", 0), Record("running-tests", 0)]);
        var plan = Plan(c);
        plan.Next.ShouldBe("drain");
        StripPlanner.Check(Record("drain", 1), plan)!.Text.ShouldContain("1 out, 2 expected");
        StripPlanner.Check(Record("drain", 2), plan).ShouldBeNull();
        StripPlanner.Check(Record("drain", 1, "one was missing on arrival"), plan).ShouldBeNull();
        StripPlanner.Check(Record("drain", -1, "why"), plan)!.Field.ShouldBe("fastenersOut");
        StripPlanner.Check(Record("head", 24), plan)!.Text.ShouldContain("Drain oil and coolant");
        StripPlanner.Check(Record("drain", 0, "", StepState.Skipped), plan)!.Field.ShouldBe("reason");
        StripPlanner.Check(Record("fly", 0), plan)!.Field.ShouldBe("step");
    }

    [Fact]
    public void Evidence_that_a_step_spoils_is_named_until_it_is_read()
    {
        var c = Engines.Case();
        Plan(c).Steps.Single(s => s.Id == "pickup").Unread.ShouldBe(["PA", "PK"]);
        c.Findings.Add(Engines.Saw("PA", "pan-bearing-metal", 0));
        Plan(c).Steps.Single(s => s.Id == "pickup").Unread.ShouldBe(["PK"]);
    }
}
