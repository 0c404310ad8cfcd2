using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Build;

public sealed class ArisingTests
{
    /// <summary>A Friday morning.</summary>
    internal static readonly DateTimeOffset Now = new(2026, 11, 27, 9, 0, 0, TimeSpan.Zero);

    internal static readonly ShopWork Alone = ShopWork.Usual with { Zone = "UTC" };

    private static readonly ShopWork Two = Alone with { Hands = 2 };

    private static IReadOnlyList<ArisingTask> Of(EngineCase c, ShopWork? work = null, ShopClocks? clocks = null) =>
        new CaseReader(c, KnowledgeBase.BuiltIn, [], DateOnly.FromDateTime(Now.Date)).Arises(work ?? Two, clocks ?? ShopClocks.None, Now).Tasks;

    private static ArisingTask Task(IReadOnlyList<ArisingTask> tasks, string key) => tasks.Single(t => t.Key == key);

    private static PartVerdict Decided(string place, string course, VerdictAction action) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Course = course,
            Action = action,
        };

    private static OrderLine Line(EngineCase c, SupplierKind kind, params string[] places)
    {
        var line = new OrderLine
        {
            Id = Guid.CreateVersion7(),
            Kind = kind,
            What = "set of rings",
            Places = [.. places],
            Supplier = "Fenwater Spares",
        };
        c.OrderLines.Add(line);
        return line;
    }

    private static void Move(EngineCase c, OrderLine line, OrderStage to, DateOnly? day = null) =>
        c.OrderMoves.Add(
            new OrderMove
            {
                Id = Guid.CreateVersion7(),
                Line = line.Id,
                To = to,
                Day = day,
                At = Now.AddMinutes(c.OrderMoves.Count),
            }
        );

    internal static BuildTask Own(string name, TaskKind kind = TaskKind.Own) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Kind = kind,
            At = Now,
        };

    private static EngineCase Stripped(params string[] steps)
    {
        var c = Start.Case();
        c.Steps.AddRange(
            steps.Select(s => new StepRecord
            {
                Id = Guid.CreateVersion7(),
                Step = s,
                State = StepState.Done,
                At = Now,
            })
        );
        return c;
    }

    [Fact]
    public void An_engine_that_came_whole_is_stripped_and_goes_back_in_reverse()
    {
        var c = Start.Case();
        var tasks = Of(c);
        var strip = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Strip;
        tasks.Count(t => t.Kind == TaskKind.Strip).ShouldBe(strip.Steps.Count);
        var byKey = tasks.ToDictionary(t => t.Key);
        foreach (var step in strip.Steps.Where(s => byKey.ContainsKey($"back/{s.Id}")))
        {
            byKey[$"back/{step.Id}"].After.ShouldContain($"strip/{step.Id}");
            foreach (var before in step.Source.After.Keys.Where(b => byKey.ContainsKey($"back/{b}")))
            {
                byKey[$"strip/{step.Id}"].After.ShouldContain($"strip/{before}");
                byKey[$"back/{before}"].After.ShouldContain($"back/{step.Id}", $"{step.Id} came off after {before}");
            }
        }

        Behind(byKey, Arising.RunKey).ShouldBe(tasks.Where(t => t.Kind == TaskKind.Back).Select(t => t.Key), ignoreOrder: true);
    }

    /// <summary>Keys of the way back that a task waits for, directly or through others.</summary>
    private static IEnumerable<string> Behind(Dictionary<string, ArisingTask> byKey, string key)
    {
        var seen = new HashSet<string>();
        var open = new Stack<string>([key]);
        while (open.TryPop(out var at))
        {
            foreach (var before in byKey[at].After.Where(seen.Add))
            {
                open.Push(before);
            }
        }

        return seen.Where(k => byKey[k].Kind == TaskKind.Back);
    }

    [Fact]
    public void What_is_done_is_gone_and_what_was_left_out_does_not_come_back()
    {
        var c = Stripped("drain-oil");
        Of(c).ShouldNotContain(t => t.Key == "strip/drain-oil");
        Of(c).ShouldContain(t => t.Key == "back/drain-oil");
        c.Steps[0].State = StepState.Skipped;
        Of(c).ShouldNotContain(t => t.Key == "strip/drain-oil" || t.Key == "back/drain-oil");
    }

    [Fact]
    public void Work_at_the_bench_arises_from_verdicts_until_it_is_measured_or_marked()
    {
        var c = Start.Case();
        c.Verdicts.AddRange([Decided("P1", "clean", VerdictAction.CleanAndReuse), Decided("P2", "clean", VerdictAction.CleanAndReuse)]);
        c.Verdicts.Add(Decided("P3", "reuse", VerdictAction.Reuse));
        var clean = Task(Of(c), "work/clean/pistons");
        clean.Places.ShouldBe(["P1", "P2"]);
        clean.Bench.ShouldBeTrue();
        // Both go back with the step that took the pistons out.
        Of(c).Single(t => t.Kind == TaskKind.Back && t.Places.Contains("P1")).After.ShouldContain(clean.Key);
        c.Readings.Add(Start.Read("P1", "piston-skirt", 120));
        c.Readings[0].Phase = Phase.AfterWork;
        Task(Of(c), "work/clean/pistons").Places.ShouldBe(["P2"]);
        c.BuildTasks.Add(
            new BuildTask
            {
                Of = "work/clean/pistons",
                Mark = TaskMark.Through,
                At = Now,
            }
        );
        Of(c).ShouldNotContain(t => t.Key == "work/clean/pistons");
        Of(c).ShouldAllBe(t => !t.After.Contains("work/clean/pistons"));
    }

    [Fact]
    public void A_shaft_is_sent_to_be_ground_once_it_is_out_and_a_bore_is_honed_once_it_lies_open()
    {
        var c = Start.Case();
        var line = Line(c, SupplierKind.MachineShop, "K1");
        c.Verdicts.Add(Decided(Start.Table(c.Layout).OfKind(PartKinds.Bore).First().Code, "hone", VerdictAction.Repair));
        var tasks = Of(c);
        var strip = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Strip;
        string Step(Func<PlannedStep, bool> which) => $"strip/{strip.Steps.First(which).Id}";
        // The pins lie open before, when the rod caps come off.
        Task(tasks, $"send/line/{line.Id:N}").After.ShouldBe([Step(s => s.Releases.Contains("crankshaft"))]);
        Task(tasks, "work/hone/bores").After.ShouldContain(Step(s => s.Exposes.Contains("bore")));
    }

    [Fact]
    public void Honing_comes_before_anything_goes_in_and_grinding_before_the_shaft_does()
    {
        var c = Start.Case();
        var line = Line(c, SupplierKind.MachineShop, "K1");
        line.Course = "grind";
        c.Verdicts.Add(Decided(Start.Table(c.Layout).OfKind(PartKinds.Bore).First().Code, "hone", VerdictAction.Repair));
        c.Verdicts.Add(Decided("P1", "clean", VerdictAction.CleanAndReuse));
        var tasks = Of(c);
        var back = tasks.Where(t => t.Kind == TaskKind.Back).ToArray();
        // The covers go on before the stone, and the start comes behind all of it anyway.
        const string Covers = "add/cover-before-stone";
        string[] first = [Covers, .. KnowledgeBase.BuiltIn.Assembly.Where(a => a.Time == AssemblyTime.Start).Select(a => Arising.Add + a.Id)];
        Task(tasks, "work/hone/bores").After.ShouldContain(Covers);
        back.Where(t => !first.Contains(t.Key)).ShouldAllBe(t => t.After.Contains("work/hone/bores"));
        var shaft = back.Single(t => t.Places.Contains("K1"));
        shaft.After.ShouldContain($"check/line/{line.Id:N}");
        // Clean pistons are waited for by the step that puts them in, and by none before it.
        shaft.After.ShouldNotContain("work/clean/pistons");
        // Nothing goes back while something is still to come off.
        back.Where(t => !first.Contains(t.Key)).ShouldAllBe(t => t.After.Contains("strip/wash"));
    }

    [Fact]
    public void A_line_is_sent_for_waited_for_and_let_in()
    {
        var c = Start.Case();
        var line = Line(c, SupplierKind.Parts, "P1T", "P2T");
        var (send, come, check) = ($"send/line/{line.Id:N}", $"come/line/{line.Id:N}", $"check/line/{line.Id:N}");
        var tasks = Of(c);
        Task(tasks, come).After.ShouldBe([send]);
        Task(tasks, check).After.ShouldBe([come]);
        Task(tasks, come).From.ShouldBe(SpellFrom.Thumb);
        tasks.Single(t => t.Kind == TaskKind.Back && t.Places.Contains("P1T")).After.ShouldContain(check);

        Move(c, line, OrderStage.Ordered);
        Of(c).ShouldNotContain(t => t.Key == send);
        Move(c, line, OrderStage.Expected, new DateOnly(2026, 12, 4));
        var named = Task(Of(c), come);
        (named.From, named.Expected).ShouldBe((SpellFrom.Promised, new DateOnly(2026, 12, 4)));
        // From Friday nine o'clock to the noon of the Friday after.
        named.Takes.Least.ShouldBe((7 * 24) + 3);
        named.Takes.Most.ShouldBeGreaterThan(named.Takes.Likely);

        Move(c, line, OrderStage.Arrived, new DateOnly(2026, 12, 4));
        Of(c).ShouldNotContain(t => t.Key == come);
        Task(Of(c), check).After.ShouldBeEmpty();
        Move(c, line, OrderStage.Checked);
        Of(c).ShouldNotContain(t => t.Key == check);
    }

    [Fact]
    public void What_is_with_others_is_waited_for_once_whoever_speaks_of_it()
    {
        var c = Start.Case();
        var crank = Start.Tag("K1", Facing.Unknown);
        (crank.Custody, crank.Where, crank.DueBack) = (Custody.MachineShop, "Ketteridge", new DateOnly(2026, 12, 8));
        c.Parts.Add(crank);
        Task(Of(c), "away/machineshop/ketteridge").Expected.ShouldBe(crank.DueBack);
        var line = Line(c, SupplierKind.MachineShop, "K1");
        Move(c, line, OrderStage.Ordered);
        Of(c).ShouldNotContain(t => t.Key.StartsWith("away/"));
        Of(c).ShouldContain(t => t.Key == $"come/line/{line.Id:N}");
    }

    [Fact]
    public void What_is_overdue_is_still_to_come()
    {
        var c = Start.Case();
        var line = Line(c, SupplierKind.Parts, "P1T");
        Move(c, line, OrderStage.Ordered);
        Move(c, line, OrderStage.Expected, new DateOnly(2026, 11, 20));
        var come = Task(Of(c), $"come/line/{line.Id:N}");
        come.Takes.Least.ShouldBe(0);
        come.Takes.Most.ShouldBeGreaterThan(24);
        var plan = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).BuildAt(Two, ShopClocks.None, Now);
        plan.Tasks.Single(t => t.Key == come.Key).Overdue.ShouldBeTrue();
        plan.Told.ShouldContain(t => t.Code == "build.overdue");
    }

    [Fact]
    public void A_second_pair_of_hands_is_waited_for_where_there_is_none()
    {
        var c = Start.Case();
        Of(c, Two).ShouldNotContain(t => t.Key == Arising.HelperKey);
        var alone = Of(c, Alone);
        Task(alone, Arising.HelperKey).ByItself.ShouldBeTrue();
        alone.Where(t => t.Hands > 1).ShouldNotBeEmpty();
        alone.Where(t => t.Hands > 1).ShouldAllBe(t => t.After.Contains(Arising.HelperKey));
        // Somebody said when he comes.
        c.BuildTasks.Add(
            new BuildTask
            {
                Of = Arising.HelperKey,
                Expected = new DateOnly(2026, 11, 28),
                At = Now,
            }
        );
        Task(Of(c, Alone), Arising.HelperKey).Takes.Least.ShouldBe(27);
    }

    [Fact]
    public void A_task_of_ones_own_holds_others_and_what_is_left_out_passes_its_waits_on()
    {
        var c = Start.Case();
        var gas = Own("gas bottle", TaskKind.Tool);
        var heat = Own("heat the hub");
        heat.After = [gas.Key()];
        heat.Holds = ["strip/drain-oil"];
        c.BuildTasks.AddRange([gas, heat]);
        var tasks = Of(c);
        Task(tasks, gas.Key()).ByItself.ShouldBeTrue();
        Task(tasks, heat.Key()).After.ShouldBe([gas.Key()]);
        Task(tasks, "strip/drain-oil").After.ShouldContain(heat.Key());
        heat.Mark = TaskMark.LeftOut;
        Task(Of(c), "strip/drain-oil").After.ShouldContain(gas.Key());
        // Through, whatever it waited for: nothing is waited for any more.
        heat.Mark = TaskMark.Through;
        Task(Of(c), "strip/drain-oil").After.ShouldNotContain(gas.Key());
    }

    [Fact]
    public void The_shops_own_clocks_go_before_the_script()
    {
        var c = Start.Case();
        var script = Task(Of(c), "strip/drain-oil");
        (script.From, script.Clocked).ShouldBe((SpellFrom.Script, 0));
        ShopClocks Clocks(params double[] minutes) => new(new Dictionary<string, IReadOnlyList<double>> { ["drain-oil"] = minutes });
        var three = Task(Of(c, clocks: Clocks(30, 12, 18)), "strip/drain-oil");
        (three.From, three.Clocked).ShouldBe((SpellFrom.Clocks, 3));
        (60 * three.Takes.Least, 60 * three.Takes.Likely, 60 * three.Takes.Most).ShouldBe((12, 18, 30));
        // One clock says little of the spread.
        var one = Task(Of(c, clocks: Clocks(20)), "strip/drain-oil").Takes;
        one.Likely.ShouldBe(20 / 60.0, 1e-9);
        one.Least.ShouldBeLessThan(one.Likely);
        one.Most.ShouldBeGreaterThan(one.Likely);
    }

    [Fact]
    public void What_somebody_typed_goes_before_all()
    {
        var c = Start.Case();
        c.BuildTasks.Add(
            new BuildTask
            {
                Of = "strip/drain-oil",
                Least = 1,
                Likely = 2,
                Most = 5,
                Hands = 2,
                At = Now,
            }
        );
        var task = Task(Of(c), "strip/drain-oil");
        (task.Takes, task.From, task.Hands).ShouldBe((new Spell(1, 2, 5), SpellFrom.Typed, 2));
        c.BuildTasks.Add(new BuildTask { Of = "strip/drain-oil", At = Now.AddHours(1) });
        // The last one counts, until it is taken back.
        Task(Of(c), "strip/drain-oil").From.ShouldBe(SpellFrom.Script);
        c.BuildTasks[1].WithdrawnAt = Now;
        Task(Of(c), "strip/drain-oil").From.ShouldBe(SpellFrom.Typed);
    }

    [Fact]
    public void Records_keep_to_their_tasks_in_a_file_read_elsewhere()
    {
        var c = Start.Case();
        var line = Line(c, SupplierKind.Parts, "P1T");
        var own = Own("wash the case");
        own.After = [$"check/line/{line.Id:N}", "strip/drain-oil"];
        c.BuildTasks.AddRange([
            own,
            new BuildTask
            {
                Id = Guid.CreateVersion7(),
                Of = $"come/line/{line.Id:N}",
                At = Now,
            },
        ]);
        c.BuildTasks.Add(Own("paint it"));
        c.BuildTasks[^1].After = [own.Key()];
        var read = CaseFile.FromJson(new CaseFile { Case = c }.ToJson()).WithIdsOf(Guid.CreateVersion7()).Case;
        var keys = Of(read).Select(t => t.Key).ToHashSet();
        read.BuildTasks.SelectMany(t => t.After.Append(t.Key())).ShouldAllBe(k => keys.Contains(k));
        read.BuildTasks.ShouldAllBe(t => t.Id != own.Id && !t.After.Contains(own.Key()));
    }

    [Theory]
    [InlineData("strip/drain-oil", "build.through-by-strip")]
    [InlineData("decide/bores", "build.through-by-verdict")]
    public void What_the_record_says_is_not_said_here(string key, string code)
    {
        var mark = new BuildTask { Of = key, Mark = TaskMark.Through };
        Wrong(Start.Case(), mark).ShouldHaveSingleItem().Text.Code.ShouldBe(code);
        mark.Mark = TaskMark.LeftOut;
        Wrong(Start.Case(), mark).ShouldBeEmpty();
    }

    [Fact]
    public void A_record_that_cannot_be_is_told_by_field()
    {
        var c = Start.Case();
        Codes(Own("")).ShouldBe(["build.needs-a-name"]);
        Codes(Own("strip it", TaskKind.Strip)).ShouldBe(["build.arises-by-itself"]);
        Codes(Own("x"), t => t.Likely = 3).ShouldBe(["build.all-three"]);
        Codes(Own("x"), t => (t.Least, t.Likely, t.Most) = (3, 2, 5)).ShouldBe(["build.spell-out-of-order"]);
        Codes(Own("x"), t => (t.Least, t.Likely, t.Most) = (3, 4, 50_000)).ShouldBe(["build.spell-out-of-order"]);
        Codes(Own("x"), t => t.Hands = -1).ShouldBe(["build.hands-cannot-be"]);
        Codes(Own("x"), t => t.WarmerThan = 200).ShouldBe(["build.degrees-cannot-be"]);
        Codes(Own("x"), t => t.After = ["strip/nothing"]).ShouldBe(["build.waits-for-no-task"]);
        Codes(Own("x"), t => t.After = ["strip/drain-oil"]).ShouldBeEmpty();
        // A circle through what arises by itself: the run waits for all.
        var circle = Own("x");
        (circle.After, circle.Holds) = ([Arising.RunKey], ["strip/drain-oil"]);
        var told = Wrong(c, circle).ShouldHaveSingleItem();
        told.Text.Code.ShouldBe("build.waits-in-a-circle");
        told.Text.ShouldContain("First run");

        IEnumerable<string> Codes(BuildTask task, Action<BuildTask>? with = null)
        {
            with?.Invoke(task);
            return Wrong(c, task).Select(p => p.Text.Code);
        }
    }

    [Fact]
    public void A_step_of_the_way_back_is_through_when_all_that_it_waits_for_is_and_no_fastener_is_left_over()
    {
        var strip = new CaseReader(Start.Case(), KnowledgeBase.BuiltIn, [], Start.Today).Strip;
        var c = Stripped([.. strip.Steps.Select(s => s.Id)]);
        c.Verdicts.AddRange(
            strip
                .Steps.SelectMany(s => s.Releases)
                .SelectMany(Start.Table(c.Layout).OfKind)
                .DistinctBy(a => a.Code)
                .Select(a => Decided(a.Code, "reuse", VerdictAction.Reuse))
        );
        var waiting = Of(c).First(t => t.Way is not null && t.After.Count > 0);
        Mark(waiting).Select(p => p.Text.Code).ShouldContain("build.back-waits");
        // What else there is is left out, each for its reason: the last step that took something off goes back first.
        c.BuildTasks.AddRange(
            Of(c)
                .Where(t => !t.Key.StartsWith(Arising.Back, StringComparison.Ordinal))
                .Select(t => new BuildTask
                {
                    Id = Guid.CreateVersion7(),
                    Of = t.Key,
                    Mark = TaskMark.LeftOut,
                    At = Now,
                })
        );
        var back = Of(c).First(t => t.Way is { } w && w.Sets.Any(s => !s.Fresh) && t.After.Count == 0);
        var held = Mark(back).Select(p => p.Text.Code).ToArray();
        held.ShouldNotContain("build.stop.left-over");

        var set = back.Way!.Sets.First(s => !s.Fresh);
        void Moved(FastenerState state, int count) =>
            c.FastenerMoves.Add(
                new FastenerMove
                {
                    Id = Guid.CreateVersion7(),
                    Step = back.Way.Step,
                    Set = set.Set,
                    State = state,
                    Count = count,
                    At = Now.AddMinutes(c.FastenerMoves.Count),
                }
            );
        Moved(FastenerState.Out, 4);
        LeftOver().ShouldBe([4]);
        Moved(FastenerState.BackIn, 3);
        LeftOver().ShouldBe([1]);
        Moved(FastenerState.BackIn, 1);
        Mark(back).Select(p => p.Text.Code).ShouldBe(held);
        Moved(FastenerState.Broken, 1);
        Mark(back).Select(p => p.Text.Code).ShouldContain("build.stop.broken");

        IEnumerable<object?> LeftOver() => Mark(back).Where(p => p.Text.Code == "build.stop.left-over").Select(p => p.Text["count"]);

        Problem[] Mark(ArisingTask task) => Wrong(c, new BuildTask { Of = task.Key, Mark = TaskMark.Through });
    }

    [Fact]
    public void What_goes_back_is_shown_with_its_tag_and_where_it_lies()
    {
        var c = Start.Case();
        var cap = Start.Tag("R4C", Facing.Left);
        (cap.Custody, cap.Where) = (Custody.Bag, "BAG4");
        c.Parts.Add(cap);
        var part = Of(c).SelectMany(t => t.Way?.Parts ?? []).Single(p => p.Place == "R4C");
        (part.Mark, part.Facing, part.Custody, part.Where).ShouldBe(("4", Facing.Left, Custody.Bag, "BAG4"));
        var untagged = Of(c).SelectMany(t => t.Way?.Parts ?? []).Single(p => p.Place == "R3C");
        (untagged.Mark, untagged.Custody).ShouldBe(("", null));
    }

    private static Problem[] Wrong(EngineCase c, BuildTask task) => [.. BuildRules.Check(task, Of(c), new HashSet<string>())];
}
