using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class StripTests
{
    internal static StripPlan Plan(EngineCase c) => StripPlanner.Plan(c.StripLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn);

    private static StripStep Step(string id, params string[] after) =>
        new()
        {
            Id = id,
            Name = id,
            After = after.ToDictionary(a => a, _ => "why"),
        };

    internal static StepRecord Record(string step, string reason = "", StepState state = StepState.Done) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            Reason = reason,
            State = state,
            At = DateTimeOffset.UtcNow,
        };

    /// <summary>A step done in spite of the locks that are opened, each by its own reason.</summary>
    private static StepRecord InSpiteOf(string step, params (StepLock Lock, string Reason)[] locks)
    {
        var record = Record(step);
        record.Overrides = [.. locks.Select(l => new StepOverride { Lock = l.Lock, Reason = l.Reason })];
        return record;
    }

    internal static FastenerMove Move(
        string step,
        string set,
        int count,
        FastenerState state = FastenerState.Out,
        int hole = 0,
        decimal? length = null
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            Set = set,
            Count = count,
            State = state,
            Hole = hole,
            Length = length,
        };

    private static EngineCase Upto(string last)
    {
        var c = Start.Case();
        foreach (var step in Plan(c).Steps.TakeWhile(s => s.Id != last))
        {
            c.Steps.Add(Record(step.Id));
            c.SignOffs.Add(new SignOff { Id = Guid.CreateVersion7(), Step = step.Id });
        }

        return c;
    }

    [Fact]
    public void A_cycle_is_refused_by_naming_it()
    {
        var steps = new[] { Step("a", "c"), Step("b", "a"), Step("c", "b"), Step("d") };
        var problem = Should.Throw<ProblemException>(() => StripPlanner.Order(steps, StripPlanner.ToolNumbers(steps), new Setup(0, -1, -1))).Problems[
            0
        ];
        problem.Text.ShouldContain("a → c → b → a");
    }

    [Fact]
    public void A_chain_of_sixteen_hundred_steps_is_no_cycle() =>
        StripPlanner.Cycle([.. Enumerable.Range(0, 1600).Select(i => i == 0 ? Step("s0") : Step($"s{i}", $"s{i - 1}"))]).ShouldBeNull();

    [Fact]
    public void Fasteners_are_counted_for_this_engine()
    {
        Plan(Start.Case()).Steps.Single(s => s.Id == "rod-caps").Expected.ShouldBe(12);
        Plan(Start.Case(Start.VeeEight with { ValveGear = ValveGear.Pushrod })).Steps.Single(s => s.Id == "crank-out").Sets[0].Expected.ShouldBe(10);
        Plan(Start.Case()).Steps.Single(s => s.Id == "crank-out").Expected.ShouldBe(14);
    }

    [Fact]
    public void What_parts_two_pieces_stays_locked_until_the_count_agrees()
    {
        var c = Upto("pan");
        StepRules.Check(Record("pan"), Plan(c), byLead: true)!.Text.ShouldContain("0 out, 22 expected");
        c.FastenerMoves.Add(Move("pan", "pan", 21));
        var problem = StepRules.Check(Record("pan"), Plan(c), byLead: true)!;
        problem.Field.ShouldBe("fastenersOut");
        problem.Text.ShouldContain("21 out, 22 expected");
        problem.Text.ShouldContain("seal carrier");
        StepRules.Check(InSpiteOf("pan", (StepLock.FastenersOut, "one was missing on arrival")), Plan(c), byLead: true).ShouldBeNull();
        c.FastenerMoves.Add(Move("pan", "pan", 1));
        StepRules.Check(Record("pan"), Plan(c), byLead: true).ShouldBeNull();
    }

    [Fact]
    public void A_step_waits_for_those_before_it_and_a_skip_needs_a_reason()
    {
        var plan = Plan(Start.Case());
        plan.Next.ShouldBe("record");
        StepRules.Check(Record("head"), plan, byLead: true)!.Text.ShouldContain("Drain the oil");
        StepRules.Check(Record("record"), plan, byLead: true).ShouldBeNull();
        StepRules.Check(Record("record", "", StepState.Skipped), plan, byLead: true)!.Field.ShouldBe("reason");
        StepRules.Check(Record("fly"), plan, byLead: true)!.Field.ShouldBe("step");
    }

    [Fact]
    public void Nothing_goes_on_over_an_unsigned_hold_point()
    {
        var c = Upto("head");
        c.Steps.Add(Record("head"));
        Plan(c).Steps.Single(s => s.Id == "invert").Unsigned.ShouldBe("Cylinder head off");
        StepRules.Check(Record("invert"), Plan(c), byLead: true)!.Text.ShouldContain("not signed");
        c.SignOffs.Add(
            new SignOff
            {
                Id = Guid.CreateVersion7(),
                Step = "head",
                By = "ines",
            }
        );
        var plan = Plan(c);
        plan.Steps.Single(s => s.Id == "invert").Unsigned.ShouldBeEmpty();
        plan.Steps.Single(s => s.Id == "head").SignedBy.ShouldBe("ines");
    }

    [Fact]
    public void Only_a_lead_goes_on_over_unread_evidence_and_only_with_a_reason()
    {
        var c = Upto("pickup");
        c.FastenerMoves.Add(Move("pickup", "pump", 6));
        StepRules.Check(InSpiteOf("pickup", (StepLock.Unread, "in a hurry")), Plan(c), byLead: false)!.Remedy.ShouldContain("Only a lead");
        StepRules.Check(Record("pickup"), Plan(c), byLead: true)!.Field.ShouldBe("unread");
        StepRules.Check(InSpiteOf("pickup", (StepLock.Unread, "burnt, nothing left to read")), Plan(c), byLead: true).ShouldBeNull();
    }

    /// <summary>Each lock needs its own reason: none of them opens another, whatever the order they are given in.</summary>
    [Fact]
    public void A_reason_opens_one_lock_and_no_other()
    {
        var c = Start.Case();
        c.Steps.Add(Record("head"));
        c.FastenerMoves.Add(Move("pickup", "pump", 5));
        var own = Plan(c).Steps.Single(s => s.Id == "pickup").Source;
        own.Parts = true;
        c.OwnSteps.Add(
            new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Step = own,
                Reason = "it parts two pieces here",
            }
        );
        var plan = Plan(c);
        StepLock[] holding = [.. StepRules.Locks(plan.Steps.Single(s => s.Id == "pickup"), byLead: true).Select(l => l.Lock)];
        holding.ShouldBe([StepLock.HoldPoint, StepLock.Order, StepLock.Unread, StepLock.FastenersOut]);
        foreach (var closed in holding)
        {
            var others = holding.Where(l => l != closed).Select(l => (l, "a reason")).ToArray();
            StepRules
                .Check(InSpiteOf("pickup", [.. others, (closed, " ")]), plan, byLead: true)!
                .Field.ShouldBe(char.ToLowerInvariant(closed.ToString()[0]) + closed.ToString()[1..]);
        }

        StepRules.Check(Record("pickup", "one sentence for all"), plan, byLead: true)!.Field.ShouldBe("holdPoint");
        StepRules.Check(InSpiteOf("pickup", [.. holding.Select(l => (l, "a reason"))]), plan, byLead: true).ShouldBeNull();
    }

    [Fact]
    public void A_step_that_says_what_it_does_asks_for_each_sign_it_would_destroy()
    {
        var c = Start.Case();
        IReadOnlyList<string> Lost(string place) =>
            Plan(c).Steps.Single(s => s.Id == "wash").Unread.SingleOrDefault(u => u.Place == place)?.Signs ?? [];

        var perishable = KnowledgeBase.BuiltIn.SignsOn("pan").Where(s => s.DestroyedBy.Contains(Act.Washing)).ToArray();
        Lost("PA").ShouldBe(perishable.Select(s => s.Name));
        Lost("R3U").ShouldNotBeEmpty();
        c.Findings.Add(Start.Saw("PA", "sludge", 1));
        Lost("PA").ShouldNotContain(KnowledgeBase.BuiltIn.Sign("sludge")!.Name);
        Lost("PA").Count.ShouldBe(perishable.Length - 1);
        c.Findings.AddRange(perishable.Select(s => Start.Saw("PA", s.Id, 0)));
        Lost("PA").ShouldBeEmpty();
    }

    [Fact]
    public void Evidence_that_a_step_spoils_is_named_until_it_is_read()
    {
        var c = Upto("pickup");
        c.FastenerMoves.Add(Move("pickup", "pump", 6));
        Plan(c).Steps.Single(s => s.Id == "pickup").Unread.Select(u => u.Place).ShouldBe(["PA", "PK"]);
        StepRules.Check(Record("pickup"), Plan(c), byLead: true)!.Field.ShouldBe("unread");
        c.Findings.AddRange([Start.Saw("PA", "pan-bearing-metal", 0), Start.Saw("PK", "sludge", 1)]);
        StepRules.Check(Record("pickup"), Plan(c), byLead: true).ShouldBeNull();
    }

    [Fact]
    public void A_new_plan_keeps_what_is_done_in_the_order_it_was_done()
    {
        var c = Start.Case();
        c.Steps.AddRange([InSpiteOf("running-tests", (StepLock.Order, "it was cranked already")), Record("isolate")]);
        c.Steps[0].At = DateTimeOffset.UtcNow.AddHours(-1);
        var plan = Plan(c);
        plan.Steps.Take(2).Select(s => s.Id).ShouldBe(["running-tests", "isolate"]);
        plan.Steps[0].Overrides.ShouldHaveSingleItem().Reason.ShouldBe("it was cranked already");
        plan.Steps.Skip(2).ShouldAllOfSomeBe(s => s.State == null);
    }

    [Fact]
    public void It_will_not_move_lists_hidden_ones_first_and_what_sticks_last()
    {
        var c = Start.Case();
        c.FastenerMoves.Add(Move("head", "head", 20));
        c.FastenerMoves.Add(Move("head", "head", 1, FastenerState.Broken));
        var hold = Plan(c).Steps.Single(s => s.Id == "head").MayHold;
        hold[0].ShouldContain("3 of 24 not out");
        hold[0].ShouldContain("Hidden: two longer ones under the manifold");
        hold[1].ShouldContain("1 broken off");
        hold.ShouldContain(h => h.Contains("Not done yet: Drain the oil"));
        hold[^1].ShouldContain("gasket");
    }

    [Fact]
    public void A_step_of_ones_own_is_put_in_its_place_and_a_cycle_is_named()
    {
        var c = Start.Case();
        var table = Start.Table(c.Layout);
        void Check(StripStep step, string reason = "found so") =>
            StepRules.CheckOwn(new OwnStep { Step = step, Reason = reason }, c.StripLog(), table, KnowledgeBase.BuiltIn);
        Check(Step("lift-off", "drain-oil"));
        Should.Throw<ProblemException>(() => Check(Step("lift-off", "fly"))).Problems[0].Text.ShouldContain("fly");
        Should.Throw<ProblemException>(() => Check(Step("lift-off"), " ")).Problems[0].Field.ShouldBe("reason");
        Should.Throw<ProblemException>(() => Check(Step("isolate", "head"))).Problems[0].Text.ShouldContain("in a cycle");
        var negative = Step("lift-off");
        negative.Fasteners.Add(
            new FastenerSet
            {
                Id = "x",
                Name = "x",
                Count = -3,
            }
        );
        Should.Throw<ProblemException>(() => Check(negative)).Problems[0].Text.ShouldContain("-3");

        c.OwnSteps.Add(
            new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Step = Step("lift-off", "drain-oil"),
                Reason = "a skid",
            }
        );
        var plan = Plan(c);
        plan.Steps.Single(s => s.Id == "lift-off").Own.ShouldBeTrue();
        var order = plan.Steps.Select(s => s.Id).ToList();
        order.IndexOf("lift-off").ShouldBeGreaterThan(order.IndexOf("drain-oil"));
    }

    /// <summary>A step is changed from its source, not from what was worked out of it: counts left and what is still to do are no part of it.</summary>
    [Fact]
    public void A_changed_step_still_guards_the_evidence_and_holds_nothing_that_was_worked_out()
    {
        var c = Upto("pickup");
        var source = Plan(c).Steps.Single(s => s.Id == "pickup").Source;
        source.MayHold.ShouldBeEmpty();
        source.ReadFirst.ShouldBe(["pan", "pickup"]);
        Plan(c).Steps.Single(s => s.Id == "pickup").MayHold.ShouldNotBeEmpty();
        var own = new OwnStep
        {
            Id = Guid.CreateVersion7(),
            Step = source,
            Reason = "as it is done here",
        };
        StepRules.CheckOwn(own, c.StripLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn);
        c.OwnSteps.Add(own);
        Plan(c).Steps.Single(s => s.Id == "pickup").Unread.Select(u => u.Place).ShouldBe(["PA", "PK"]);
    }

    [Fact]
    public void A_changed_step_does_not_lose_what_was_counted()
    {
        var c = Start.Case();
        c.FastenerMoves.Add(Move("pan", "pan", 20));
        var step = new StripStep
        {
            Id = "pan",
            Name = "Pan",
            Fasteners =
            [
                new FastenerSet
                {
                    Id = "pan",
                    Name = "pan bolts",
                    Count = 18,
                },
            ],
        };
        var own = new OwnStep { Step = step, Reason = "fewer here" };
        Should
            .Throw<ProblemException>(() => StepRules.CheckOwn(own, c.StripLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn))
            .Problems[0]
            .Remedy.ShouldContain("at least 20");
        step.Fasteners[0].Id = "other";
        Should
            .Throw<ProblemException>(() => StepRules.CheckOwn(own, c.StripLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn))
            .Problems[0]
            .Text.ShouldContain("counted out already");
    }

    [Fact]
    public void The_clock_adds_its_runs_and_ticks_are_taken_back()
    {
        var c = Start.Case();
        var at = DateTimeOffset.Parse("2026-11-24T08:00:00Z");
        void Mark(StepMarkKind kind, int minutes, int item = 0) =>
            c.StepMarks.Add(
                new StepMark
                {
                    Id = Guid.CreateVersion7(),
                    Step = "isolate",
                    Kind = kind,
                    Item = item,
                    At = at.AddMinutes(minutes),
                }
            );
        Mark(StepMarkKind.Started, 0);
        Mark(StepMarkKind.Started, 1);
        Mark(StepMarkKind.Stopped, 7);
        Mark(StepMarkKind.Started, 60);
        Mark(StepMarkKind.Ticked, 61, 0);
        Mark(StepMarkKind.Ticked, 62, 2);
        Mark(StepMarkKind.Unticked, 63, 0);
        var step = Plan(c).Steps.Single(s => s.Id == "isolate");
        step.Spent.ShouldBe(7);
        step.RunningSince.ShouldBe(at.AddMinutes(60));
        step.Ticked.ShouldBe([2]);
    }
}
