using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class StripTests
{
    internal static StripBook Book(EngineCase c) => new(c.StripLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn);

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

    /// <summary>A step done in spite of obstacles, each passed by its own reason.</summary>
    internal static StepRecord InSpiteOf(string step, params (StepLock Lock, string Of, string Reason)[] obstacles)
    {
        var record = Record(step);
        record.Overrides =
        [
            .. obstacles.Select(o => new StepOverride
            {
                Lock = o.Lock,
                Of = o.Of,
                Reason = o.Reason,
            }),
        ];
        return record;
    }

    /// <summary>As a lead; as a mechanic where <paramref name="lead"/> is false, who may open all but evidence, order and sign-offs.</summary>
    internal static Problem? Check(StepRecord record, EngineCase c, bool lead = true) =>
        StepRules.Check(record, Book(c), of => lead || of is StepLock.FastenersOut or StepLock.Hole or StepLock.Empty);

    internal static StepMark Tick(string step, int item) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            Item = item,
            Kind = StepMarkKind.Ticked,
            At = DateTimeOffset.UtcNow,
        };

    /// <summary>Everything that a step asks for: its ticks, and its fasteners out.</summary>
    internal static void Fulfil(EngineCase c, string step)
    {
        var planned = Plan(c).Steps.Single(s => s.Id == step);
        c.StepMarks.AddRange(planned.Ticks.Select((_, i) => Tick(step, i)));
        foreach (var set in planned.Sets)
        {
            for (var hole = 1; hole <= (set.Set.NeedsMap ? set.In : 1); hole++)
            {
                c.FastenerMoves.Add(
                    set.Set.NeedsMap ? Move(step, set.Set.Id, 1, hole: hole, length: (decimal)set.Set.Lengths[0]) : Move(step, set.Set.Id, set.In)
                );
            }
        }
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

    /// <summary>An engine that no script of its own fits.</summary>
    internal static EngineCase General() => Start.Case(Start.InlineSix with { ValveGear = ValveGear.Overhead });

    internal static EngineCase Upto(string last)
    {
        var c = General();
        foreach (var step in Plan(c).Steps.TakeWhile(s => s.Id != last))
        {
            c.Steps.Add(Record(step.Id));
            c.SignOffs.Add(Sign(step.Id));
        }

        return c;
    }

    internal static SignOff Sign(string step, string by = "ines") =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            By = by,
            At = DateTimeOffset.UtcNow.AddSeconds(1),
        };

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
        Plan(General()).Steps.Single(s => s.Id == "rod-caps").Expected.ShouldBe(12);
        Plan(Start.Case(Start.VeeEight)).Steps.Single(s => s.Id == "crank-out").Sets[0].Expected.ShouldBe(10);
        Plan(General()).Steps.Single(s => s.Id == "crank-out").Expected.ShouldBe(14);
    }

    [Fact]
    public void A_new_plan_keeps_what_is_done_in_the_order_it_was_done()
    {
        var c = General();
        c.Steps.AddRange([InSpiteOf("running-tests", (StepLock.Empty, "", "it was cranked already")), Record("isolate")]);
        c.Steps[0].At = DateTimeOffset.UtcNow.AddHours(-1);
        var plan = Plan(c);
        plan.Steps.Take(2).Select(s => s.Id).ShouldBe(["running-tests", "isolate"]);
        plan.Steps[0].Overrides.ShouldHaveSingleItem().Reason.ShouldBe("it was cranked already");
        plan.Steps.Skip(2).ShouldAllOfSomeBe(s => s.State == null);
    }

    [Fact]
    public void It_will_not_move_lists_hidden_ones_first_and_what_sticks_last()
    {
        var c = General();
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
        var c = General();
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
        var c = General();
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
        var c = General();
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

    /// <summary>A strip that was begun goes on by the script that it was begun with, though a newer one fits the engine better.</summary>
    [Fact]
    public void A_strip_that_was_begun_keeps_its_script()
    {
        var c = Start.Case();
        StripPlanner.ScriptOf(c.StripLog(), KnowledgeBase.BuiltIn).Id.ShouldBe("pushrod-six");
        c.Steps.Add(Record("record"));
        c.Steps.Add(Record("running-tests"));
        StripPlanner.ScriptOf(c.StripLog(), KnowledgeBase.BuiltIn).Id.ShouldBe("pushrod-six");
        c.Steps.Add(Record("rocker-covers"));
        StripPlanner.ScriptOf(c.StripLog(), KnowledgeBase.BuiltIn).Id.ShouldBe("general");
    }

    [Fact]
    public void A_part_is_off_from_the_first_record_that_takes_it_off_at_its_station()
    {
        var c = Upto("rod-caps");
        var noon = new DateTimeOffset(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
        foreach (var (record, i) in c.Steps.Select((r, i) => (r, i)))
        {
            record.At = noon.AddMinutes(i - 1000);
        }

        var releases = Book(c).Step("rod-caps")!.Releases;
        releases.ShouldNotBeEmpty();
        IReadOnlyList<PartOff> OfCaps() => [.. Plan(c).Off.Where(o => o.Step == "rod-caps")];
        OfCaps().ShouldBeEmpty();

        StepRecord At(int minutes, params int[] stations)
        {
            var record = Record("rod-caps");
            (record.At, record.Per) = (noon.AddMinutes(minutes), FastenerCount.PerCylinder);
            record.Stations = [.. stations];
            c.Steps.Add(record);
            return record;
        }

        At(0, 4);
        OfCaps().ShouldAllBe(o => o.Place.Contains('4') && o.At == noon);
        var rest = At(90, 1, 2, 3, 5, 6);
        var cells = Start.Table(c.Layout).All.Where(a => releases.Contains(a.Kind.Id)).ToArray();
        cells.Select(a => a.Code).ShouldBeSubsetOf(OfCaps().Select(o => o.Place));
        OfCaps().Where(o => o.Place.Contains('4')).ShouldAllBe(o => o.At == noon);
        OfCaps().Where(o => !o.Place.Contains('4')).ShouldAllBe(o => o.At == noon.AddMinutes(90));
        // In the order in which they came off, each once, though several steps may let go of it.
        var off = Plan(c).Off;
        off.Select(o => o.Place).ShouldBeUnique();
        off.Select(o => o.At).ShouldBeInOrder();

        (rest.WithdrawnAt, rest.WithdrawnWhy) = (noon.AddMinutes(95), "not yet");
        OfCaps().ShouldAllBe(o => o.Place.Contains('4'));
    }

    [Fact]
    public void What_hangs_on_a_part_comes_off_with_it_and_what_does_not_stays()
    {
        var c = General();
        var table = Start.Table(c.Layout);
        string[] Of(params string[] kinds) => [.. table.All.Where(a => kinds.Contains(a.Kind.Id)).Select(a => a.Code)];
        c.Steps.Add(Record(Plan(c).Steps.Single(s => s.Releases.Contains("head")).Id));
        Of("bore", "piston", "rod", "crankshaft", "lifter-inlet").Intersect(Plan(c).Off.Select(o => o.Place)).ShouldBeEmpty("nothing below the head");
        Plan(c).Off.ShouldContain(o => o.Place.StartsWith('V') && o.Step == c.Steps[0].Step);
        c.Steps.AddRange(Plan(c).Steps.Where(s => s.State is null).TakeWhile(s => !s.Releases.Contains("crankshaft")).Select(s => Record(s.Id)));
        var off = Plan(c).Off.Select(o => o.Place).ToHashSet();
        Of("piston", "ring-top", "wrist-pin", "rod", "small-end").ShouldBeSubsetOf(off);
        off.ShouldNotContain("K4", "the shaft still lies in the block");
        c.Steps.Add(Record(Plan(c).Steps.First(s => s.Releases.Contains("crankshaft")).Id));
        off = [.. Plan(c).Off.Select(o => o.Place)];
        Of("crankshaft", "crankpin", "main-journal").ShouldBeSubsetOf(off);
        Of("bore", "crankcase").ShouldAllBe(p => !off.Contains(p));
    }

    [Fact]
    public void What_was_off_when_the_engine_came_has_no_time_and_what_was_left_out_is_still_on()
    {
        var c = General();
        var takes = Plan(c).Steps.First(s => s.Releases.Count > 0 && Start.Table(c.Layout).All.Any(a => s.Releases.Contains(a.Kind.Id)));
        c.Steps.Add(Record(takes.Id, state: StepState.WasOff));
        Plan(c).Off.ShouldNotBeEmpty();
        Plan(c).Off.ShouldAllBe(o => o.At == null && o.Step == takes.Id);
        c.Steps[0] = Record(takes.Id, "of no use", StepState.Skipped);
        Plan(c).Off.ShouldBeEmpty();
    }
}
