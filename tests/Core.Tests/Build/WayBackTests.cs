using System.Text.Json;
using Shouldly;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;
using Xunit;

namespace VividSleuth.Core.Tests.Build;

public class WayBackTests
{
    private static readonly DateTimeOffset Now = ArisingTests.Now;

    internal static CaseReader Read(EngineCase c, Schools? schools = null) =>
        new(c, KnowledgeBase.BuiltIn, [], DateOnly.FromDateTime(Now.Date), schools: schools);

    internal static Arisen Arises(EngineCase c, Schools? schools = null) => Read(c, schools).Arises(ArisingTests.Alone, ShopClocks.None, Now);

    /// <summary>An engine of which every step of the strip is done.</summary>
    internal static EngineCase Bare(EngineLayout? layout = null)
    {
        var c = Start.Case(layout);
        c.Steps.AddRange(
            Read(c)
                .Strip.Steps.Select(s => new StepRecord
                {
                    Id = Guid.CreateVersion7(),
                    Step = s.Id,
                    State = StepState.Done,
                    At = Now.AddDays(-9),
                })
        );
        return c;
    }

    internal static ArisingTask Fits(EngineCase c, string kind, Schools? schools = null) =>
        Arises(c, schools).Tasks.First(t => t.Way?.Parts.Any(p => Start.Table(c.Layout).Find(p.Place)!.Kind.Id == kind) == true);

    internal static string[] Wrong(EngineCase c, BackAct act, string by = "tomas", bool mayPass = true, Schools? schools = null)
    {
        var reader = Read(c, schools);
        act.Id = Guid.CreateVersion7();
        var task = Arises(c, schools).Tasks.FirstOrDefault(t => t.Key == act.Step);
        return [.. BackRules.Check(act, task, reader.BackBook, reader.Table, by, mayPass).Select(p => p.Text.Code)];
    }

    internal static BackAct Do(EngineCase c, BackAct act, string by = "tomas")
    {
        (act.Id, act.By, act.At) = (Guid.CreateVersion7(), by, Now.AddMinutes(c.BackActs.Count));
        c.BackActs.Add(act);
        return act;
    }

    internal static BackAct Fit(ArisingTask at, string place, string tag, Facing facing = Facing.Unknown) =>
        new()
        {
            Step = at.Key,
            Kind = BackActKind.Fitted,
            Of = place,
            Tag = tag,
            Facing = facing,
        };

    internal static OrderLine Ordered(EngineCase c, string what, string need, decimal count, OrderStage to, params string[] places)
    {
        var line = new OrderLine
        {
            Id = Guid.CreateVersion7(),
            Kind = SupplierKind.Parts,
            What = what,
            Need = need,
            Quantity = count,
            Places = [.. places],
            Supplier = "Fenwater Spares",
        };
        c.OrderLines.Add(line);
        foreach (var stage in new[] { OrderStage.Ordered, OrderStage.Arrived, OrderStage.Checked }.TakeWhile(s => s <= to))
        {
            c.OrderMoves.Add(
                new OrderMove
                {
                    Id = Guid.CreateVersion7(),
                    Line = line.Id,
                    To = stage,
                    At = Now.AddMinutes(c.OrderMoves.Count),
                }
            );
        }

        return line;
    }

    [Fact]
    public void The_wrong_cap_the_wrong_kind_and_the_wrong_way_round_are_stopped()
    {
        var c = Bare();
        c.Parts.AddRange([Start.Tag("R3C", Facing.Left), Start.Tag("R4C", Facing.Left)]);
        var step = Fits(c, PartKinds.RodCap);
        Wrong(c, Fit(step, "R3C", "R4C", Facing.Left)).ShouldBe(["build.fit.not-its-place"]);
        Wrong(c, Fit(step, "R3C", "M3C", Facing.Left)).ShouldBe(["build.fit.another-kind"]);
        Wrong(c, Fit(step, "R3C", "R9C", Facing.Left)).ShouldBe(["casebook.no-address"]);
        Wrong(c, Fit(step, "R3C", "", Facing.Left)).ShouldBe(["build.fit.scan-it"]);
        Wrong(c, Fit(step, "R3C", "R3C", Facing.Right)).ShouldBe(["build.fit.wrong-way-round"]);
        Wrong(c, Fit(step, "R3C", "R3C")).ShouldBe(["build.fit.which-way"]);
        Wrong(c, Fit(step, "P3", "P3")).ShouldBe(step.Way!.Parts.Any(p => p.Place == "P3") ? [] : ["build.fit.not-of-this-step"]);
        Wrong(c, Fit(step, "R3C", "R3C", Facing.Left)).ShouldBeEmpty();
        Do(c, Fit(step, "R3C", "R3C", Facing.Left));
        Wrong(c, Fit(step, "R3C", "R3C", Facing.Left)).ShouldBe(["build.fit.in-already"]);
    }

    public static TheoryData<int> Mates() => [.. Enumerable.Range(0, SharedMates.GetArrayLength())];

    private static readonly JsonElement SharedMates = JsonDocument
        .Parse(File.ReadAllText(Path.Combine(Start.Root(), "tests/typed-figures.json")))
        .RootElement.GetProperty("mates");

    /// <summary>The bench’s copy of the gate, which works without a network, is held to the same list.</summary>
    [Theory]
    [MemberData(nameof(Mates))]
    public void A_part_is_stopped_as_the_browser_stops_it(int n)
    {
        var of = SharedMates[n];
        string Text(string name) => of.TryGetProperty(name, out var v) ? v.GetString() ?? "" : "";
        bool Is(string name) => of.TryGetProperty(name, out var v) && v.GetBoolean();
        T Enum_<T>(string name, T otherwise)
            where T : struct => Text(name) is { Length: > 0 } text ? Enum.Parse<T>(text, ignoreCase: true) : otherwise;
        var c = Bare();
        var tag = Start.Tag("R3C", Enum_("faced", Facing.Unknown));
        (tag.SideUp, tag.Custody) = (Text("side"), Enum_("custody", Custody.Bench));
        c.Parts.Add(tag);
        if (Is("replaced"))
        {
            c.Verdicts.Add(
                new PartVerdict
                {
                    Id = Guid.CreateVersion7(),
                    Place = "R3C",
                    Action = VerdictAction.Replace,
                    Course = "renew",
                }
            );
        }

        var named = Text("line");
        var stages = of.TryGetProperty("lines", out var all) ? all.EnumerateArray().Select(l => l.GetString()!).ToArray() : [];
        var lines = (named.Length > 0 ? [named] : stages)
            .Select(l => Ordered(c, "caps", "", 1, l == "checked" ? OrderStage.Checked : OrderStage.Arrived, "R3C"))
            .ToArray();
        var step = Fits(c, PartKinds.RodCap);
        if (Is("in"))
        {
            Do(c, Fit(step, "R3C", "R3C", Facing.Left));
        }

        Wrong(
                c,
                new BackAct
                {
                    Step = step.Key,
                    Kind = BackActKind.Fitted,
                    Of = "R3C",
                    Tag = Text("tag").Trim().ToUpperInvariant(),
                    IsNew = Is("isNew"),
                    Facing = Enum_("now", Facing.Unknown),
                    SideUp = Is("up"),
                    Line = named.Length > 0 ? lines[0].Id : null,
                    Why = Text("why"),
                }
            )
            .ShouldBe(Text("stop") is { Length: > 0 } stop ? [$"build.fit.{stop}"] : [], Text("says"));
    }

    /// <summary>A cap whose rod was noted the other way round: one of the two is turned, whatever hand did it.</summary>
    [Fact]
    public void Halves_that_were_noted_the_other_way_round_do_not_go_together()
    {
        var c = Bare();
        c.Parts.AddRange([Start.Tag("R3C", Facing.Left), Start.Tag("R3", Facing.Right)]);
        Wrong(c, Fit(Fits(c, PartKinds.RodCap), "R3C", "R3C", Facing.Left)).ShouldBe(["index.mark-faces-turn-one-so"]);
    }

    [Fact]
    public void A_part_of_the_other_bank_is_told_by_its_bank()
    {
        var c = Bare(Start.VeeEight);
        var step = Fits(c, PartKinds.Piston);
        // Cylinders 1 and 2 are across from each other.
        Wrong(c, Fit(step, "P1", "P2")).ShouldBe(["build.fit.other-bank"]);
        Wrong(c, Fit(step, "P1", "P3")).ShouldBe(["build.fit.not-its-place"]);
    }

    [Fact]
    public void What_is_to_be_renewed_goes_in_new_and_let_in_only()
    {
        var c = Bare();
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "R3L",
                Action = VerdictAction.Replace,
                Course = "renew",
            }
        );
        var step = Fits(c, PartKinds.RodShellLower);
        Wrong(c, Fit(step, "R3L", "R3L")).ShouldBe(["build.fit.condemned"]);
        step.Way!.Stops.Single(s => s.Key == "part/R3L").MayPass.ShouldBeFalse();
        BackAct New(Guid? line, string why = "") =>
            new()
            {
                Step = step.Key,
                Kind = BackActKind.Fitted,
                Of = "R3L",
                IsNew = true,
                Line = line,
                Why = why,
            };
        Wrong(c, New(null)).ShouldBe(["build.fit.where-from"]);
        Wrong(c, New(null, "from the shelf, drawer 4")).ShouldBeEmpty();
        var came = Ordered(c, "big-end shells", "", 1, OrderStage.Arrived, "R3L");
        Wrong(c, New(null, "from the shelf, drawer 4")).ShouldBe(["build.fit.which-line"]);
        Wrong(c, New(came.Id)).ShouldBe(["build.fit.unchecked"]);
        Wrong(c, New(Ordered(c, "other shells", "", 1, OrderStage.Checked, "R4L").Id)).ShouldBe(["build.fit.line-of-another"]);
        var good = Ordered(c, "big-end shells", "", 1, OrderStage.Checked, "R3L");
        Wrong(c, New(good.Id)).ShouldBeEmpty();
        Do(c, New(good.Id));
        Fits(c, PartKinds.RodShellLower).Way!.Stops.ShouldNotContain(s => s.Key == "part/R3L");
    }

    /// <summary>What went to the machine shop is measured and let in before it goes in.</summary>
    [Fact]
    public void What_came_back_and_nobody_let_in_does_not_go_in()
    {
        var c = Bare();
        var line = Ordered(c, "resized", "", 1, OrderStage.Arrived, "R3C");
        line.Kind = SupplierKind.MachineShop;
        var step = Fits(c, PartKinds.RodCap);
        Wrong(c, Fit(step, "R3C", "R3C")).ShouldBe(["build.fit.unchecked"]);
        c.Parts.Add(Start.Tag("R4C", Facing.Unknown));
        c.Parts[^1].Custody = Custody.MachineShop;
        Wrong(c, Fit(step, "R4C", "R4C")).ShouldBe(["build.fit.not-here"]);
    }

    [Fact]
    public void Fasteners_that_serve_once_are_new_counted_off_the_order_and_no_more_than_came()
    {
        var c = Bare();
        var table = Start.Table(c.Layout);
        var (step, set) = Arises(c)
            .Tasks.Where(t => t.Way is not null)
            .SelectMany(t => t.Way!.Sets.Select(s => (t, s)))
            .OrderBy(x => x.s.Set, StringComparer.Ordinal)
            .First(x => x.s is { Fresh: true, Lengths.Count: < 2, Expected: > 3 });
        var source = Read(c).Strip.Steps.Single(s => s.Id == step.Way!.Step).Source;
        Move(FastenerState.Out, set.Expected);
        Gates().ShouldContain(BackGate.Fasteners);
        Move(FastenerState.BackIn, set.Expected);
        Gates().ShouldContain(BackGate.New);
        Gates().ShouldNotContain(BackGate.Fasteners);
        Move(FastenerState.Out, set.Expected);

        var line = Ordered(c, "bolts", $"fastener/{set.Set}", set.Expected - 1, OrderStage.Arrived);
        New(1).ShouldBe("build.fit.unchecked");
        New(1, line.Id).ShouldBe("build.fit.unchecked");
        c.OrderMoves.Add(
            new OrderMove
            {
                Id = Guid.CreateVersion7(),
                Line = line.Id,
                To = OrderStage.Checked,
                At = Now.AddHours(1),
            }
        );
        New(1).ShouldBe("build.new.which-line");
        New(set.Expected, line.Id).ShouldBe("build.new.more-than-came");
        New(set.Expected - 1, line.Id).ShouldBeNull();
        Move(FastenerState.NewIn, set.Expected - 2, line.Id);
        // One bolt is left over of what came, and two holes are empty.
        var left = Arises(c).LeftNew.ShouldHaveSingleItem();
        (left.Left, left.Came).ShouldBe((1, set.Expected - 1));
        Move(FastenerState.NewIn, 1, line.Id);
        Arises(c).LeftNew.ShouldBeEmpty();
        // The last one comes from the shop's own drawer.
        New(1).ShouldBeNull();
        Move(FastenerState.NewIn, 1);
        Gates().ShouldNotContain(BackGate.New);
        // What was stretched once comes out again and is no longer new.
        Move(FastenerState.Out, 1);
        Move(FastenerState.BackIn, 1);
        Gates().ShouldContain(BackGate.New);

        BackGate[] Gates() =>
            [
                .. Arises(c)
                    .Tasks.Single(t => t.Key == step.Key)
                    .Way!.Stops.Where(s => s.Key.EndsWith($"/{set.Set}", StringComparison.Ordinal))
                    .Select(s => s.Gate),
            ];
        FastenerMove Moved(FastenerState state, int count, Guid? of) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Step = step.Way!.Step,
                Set = set.Set,
                State = state,
                Count = count,
                Line = of,
                At = Now.AddMinutes(c.FastenerMoves.Count),
            };
        void Move(FastenerState state, int count, Guid? of = null) => c.FastenerMoves.Add(Moved(state, count, of));
        string? New(int count, Guid? of = null)
        {
            var move = Moved(FastenerState.NewIn, count, of);
            return (FastenerLedger.Check(move, source, table.Engine, c.FastenerMoves) ?? BackRules.CheckNew(move, source, Read(c).BackBook))
                ?.Text
                .Code;
        }
    }

    [Fact]
    public void A_set_is_tightened_by_the_makers_passes_and_gone_over_by_somebody_else()
    {
        var two = new Schools { TwoPeople = true };
        var c = Bare();
        var (step, set) = Arises(c).Tasks.Where(t => t.Way is not null).SelectMany(t => t.Way!.Sets.Select(s => (t, s))).First(x => !x.s.Fresh);
        BackAct Pass(int pass) =>
            new()
            {
                Step = step.Key,
                Kind = BackActKind.Tightened,
                Of = set.Set,
                Pass = pass,
            };
        BackAct Eyes() =>
            new()
            {
                Step = step.Key,
                Kind = BackActKind.Checked,
                Of = set.Set,
            };
        Wrong(c, Pass(1)).ShouldBe(["build.act.figure-missing"]);
        Stands().ShouldBe(SetStands.FingerTight);
        c.Tightenings.Add(
            new Tightening
            {
                Id = Guid.CreateVersion7(),
                Step = step.Way!.Step,
                Set = set.Set,
                Passes = [new(30, null, false), new(null, 90, false)],
                SourceText = "workshop manual",
                Page = "112",
                At = Now,
            }
        );
        Wrong(c, Pass(2)).ShouldBe(["build.act.pass-before"]);
        Wrong(c, Pass(3)).ShouldBe(["build.act.no-such-pass"]);
        Wrong(c, Eyes(), "marta").ShouldBe(["build.act.not-tight"]);
        Do(c, Pass(1));
        Stands().ShouldBe(SetStands.PartTight);
        Do(c, Pass(2));
        Stands().ShouldBe(SetStands.Tight);
        Gates(null).ShouldNotContain(BackGate.Eyes);
        Gates(two).ShouldContain(BackGate.Eyes);
        Wrong(c, Eyes(), "tomas", schools: two).ShouldBe(["build.act.other-eyes"]);
        Wrong(c, Eyes(), "marta", schools: two).ShouldBeEmpty();
        Do(c, Eyes(), "marta");
        Stands().ShouldBe(SetStands.Checked);
        Gates(two).ShouldNotContain(BackGate.Eyes);
        // One that came out since was not there when the others were tightened.
        c.FastenerMoves.AddRange(
            new[] { FastenerState.Out, FastenerState.BackIn }.Select(
                (state, n) =>
                    new FastenerMove
                    {
                        Id = Guid.CreateVersion7(),
                        Step = step.Way.Step,
                        Set = set.Set,
                        State = state,
                        At = Now.AddHours(2 + n),
                    }
            )
        );
        Stands().ShouldBe(SetStands.FingerTight);

        SetStands Stands() => Arises(c).Joints.Single(j => j.Task == step.Key && j.Set == set.Set).Stands;
        BackGate[] Gates(Schools? schools) =>
            [
                .. Arises(c, schools)
                    .Tasks.Single(t => t.Key == step.Key)
                    .Way!.Stops.Where(s => s.Key.EndsWith($"/{set.Set}", StringComparison.Ordinal))
                    .Select(s => s.Gate),
            ];
    }

    [Theory]
    [InlineData("", "12", 1, "build.tighten.whose")]
    [InlineData("manual", "", 1, "build.tighten.page")]
    [InlineData("manual", "12", 0, "build.tighten.no-pass")]
    public void A_tightening_needs_its_page(string source, string page, int passes, string told) =>
        new Tightening
        {
            SourceText = source,
            Page = page,
            Passes = [.. Enumerable.Repeat(new TighteningPass(25, null, false), passes)],
        }
            .Check(4)
            .Select(p => p.Text.Code)
            .ShouldBe([told]);

    [Fact]
    public void Passes_that_cannot_be_and_an_order_that_misses_a_hole_are_told()
    {
        string[] Of(List<int> order, params TighteningPass[] passes) =>
            [
                .. new Tightening
                {
                    SourceText = "manual",
                    Page = "3",
                    Passes = [.. passes],
                    Order = order,
                }
                    .Check(4)
                    .Select(p => p.Text.Code),
            ];
        Of([], new TighteningPass(null, null, false)).ShouldBe(["build.tighten.says-nothing"]);
        Of([], new TighteningPass(-3, null, false)).ShouldBe(["build.tighten.torque-cannot-be"]);
        Of([], new TighteningPass(null, 1000, false)).ShouldBe(["build.tighten.angle-cannot-be"]);
        Of([], new TighteningPass(20, null, true)).ShouldBe(["build.tighten.ends-loose"]);
        Of([1, 3, 2, 2], new TighteningPass(20, null, false)).ShouldBe(["build.tighten.each-hole-once"]);
        Of([1, 3, 2, 4], new TighteningPass(20, null, true), new TighteningPass(20, 60, false)).ShouldBeEmpty();
        new Tightening { Source = LimitSource.RuleOfThumb, SourceText = "so it is" }
            .Check(4)
            .Single()
            .Text.Code.ShouldBe("build.tighten.no-thumb");
        new Tightening { Source = LimitSource.ShopStandard, SourceText = "Tomas: by feel" }
            .Check(4)
            .ShouldBeEmpty();
        new Tightening().Check(null).Single().Text.Code.ShouldBe("strip.set-fasteners-step");
    }

    [Fact]
    public void Each_gate_is_passed_for_a_reason_of_its_own_by_who_may_and_some_by_none()
    {
        var c = Bare();
        var step = Fits(c, PartKinds.RodCap);
        var figures = step.Way!.Stops.Where(s => s.Gate == BackGate.Figure).Take(2).ToArray();
        BackAct Pass(BackStop stop, string why) =>
            new()
            {
                Step = step.Key,
                Kind = BackActKind.Passed,
                Of = stop.Key,
                Why = why,
            };
        Wrong(c, Pass(figures[0], "")).ShouldBe(["build.act.why"]);
        Wrong(c, Pass(figures[0], "turns free"), mayPass: false).ShouldBe([figures[0].Text.Code]);
        Wrong(c, Pass(figures[0], "turns free")).ShouldBeEmpty();
        Do(c, Pass(figures[0], "turns free"));
        Wrong(c, Pass(figures[1], "Turns free")).ShouldBe(["build.act.one-reason-each"]);
        Wrong(c, Pass(figures[1], "read on the strip, lost in the wash")).ShouldBeEmpty();
        var stops = Fits(c, PartKinds.RodCap).Way!.Stops;
        stops.Single(s => s.Key == figures[0].Key).Shut.ShouldBeFalse();
        stops.Single(s => s.Key == figures[1].Key).Shut.ShouldBeTrue();
        Wrong(c, Pass(figures[0] with { Key = "figure/moon" }, "x")).ShouldBe(["build.act.no-such-gate"]);
        c.FastenerMoves.Add(
            new FastenerMove
            {
                Id = Guid.CreateVersion7(),
                Step = step.Way.Step,
                Set = step.Way.Sets[0].Set,
                At = Now,
            }
        );
        var open = Fits(c, PartKinds.RodCap).Way!.Stops.First(s => s.Gate == BackGate.Fasteners);
        Wrong(c, Pass(open, "it holds without")).ShouldBe(["build.act.stays-shut"]);
    }

    [Fact]
    public void A_figure_of_what_goes_in_opens_its_gate_and_one_of_parts_as_they_came_does_not()
    {
        var c = Bare();
        c.Limits.Add(
            new Limit
            {
                Id = Guid.CreateVersion7(),
                Characteristic = "big-end-clearance",
                Least = 0.03m,
                Most = 0.09m,
                SourceText = "manual, page 40",
            }
        );
        Reading Strip(decimal mm, Phase phase)
        {
            var read = Start.Read("R3", "big-end-strip", mm);
            (read.Phase, read.At) = (phase, Now.AddMinutes(c.Readings.Count));
            return read;
        }

        Clearance().ShouldBe(BackFigureStands.Missing);
        c.Readings.Add(Strip(0.06m, Phase.AsFound));
        Clearance().ShouldBe(BackFigureStands.Inside);
        // New shells: what was read with the old ones says nothing of these.
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "R3U",
                Action = VerdictAction.Replace,
                Course = "renew",
            }
        );
        Clearance().ShouldBe(BackFigureStands.Old);
        c.Readings.Add(Strip(0.06m, Phase.AfterWork));
        Clearance().ShouldBe(BackFigureStands.Inside);
        c.Readings[^1].WithdrawnAt = Now;
        c.Readings.Add(Strip(0.14m, Phase.AfterWork));
        Clearance().ShouldBe(BackFigureStands.Outside);
        c.Readings[^1].WithdrawnAt = Now;
        c.Readings.Add(Strip(0.088m, Phase.AfterWork));
        Clearance().ShouldBe(BackFigureStands.Undecided);

        BackFigureStands Clearance() =>
            Fits(c, PartKinds.RodCap).Way!.Figures.Single(f => f is { Characteristic: "big-end-clearance", Place: "R3" }).Stands;
    }

    [Fact]
    public void A_ring_gap_says_how_much_is_still_to_file()
    {
        var c = Bare();
        c.Limits.Add(
            new Limit
            {
                Id = Guid.CreateVersion7(),
                Characteristic = "ring-end-gap",
                Least = 0.40m,
                Most = 0.80m,
                SourceText = "ring maker, leaflet 2",
            }
        );
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = "P2T",
                Action = VerdictAction.Replace,
                Course = "renew",
            }
        );
        var gap = Start.Read("P2T", "ring-end-gap", 0.28m);
        (gap.Phase, gap.At) = (Phase.AfterWork, Now);
        c.Readings.Add(gap);
        var figure = Fits(c, PartKinds.Piston).Way!.Figures.Single(f => f is { Characteristic: "ring-end-gap", Place: "P2T" });
        figure.Stands.ShouldBe(BackFigureStands.Outside);
        figure.Todo!.Code.ShouldBe("build.figure.file");
        ((Amount)figure.Todo["by"]!).Value.ShouldBe(0.12, 1e-9);
    }

    [Fact]
    public void Gaps_that_stand_in_line_hold_the_pistons_back_and_where_they_were_put_is_kept()
    {
        var c = Bare();
        foreach (var ring in new[] { "P2T", "P2N" })
        {
            c.Verdicts.Add(
                new PartVerdict
                {
                    Id = Guid.CreateVersion7(),
                    Place = ring,
                    Action = VerdictAction.Replace,
                    Course = "renew",
                }
            );
        }

        Put("P2T", 10);
        Put("P2N", 355);
        Stands("P2T").ShouldBe(BackFigureStands.Outside);
        Put("P2N", 190);
        Stands("P2T").ShouldBe(BackFigureStands.Inside);
        Stands("P2N").ShouldBe(BackFigureStands.Inside);

        void Put(string ring, decimal degrees)
        {
            var read = Start.Read(ring, RingDrifts.Position, degrees);
            (read.Phase, read.Station, read.At) = (Phase.AfterWork, RingDrifts.Put, Now.AddMinutes(c.Readings.Count));
            c.Readings.Add(read);
        }

        BackFigureStands Stands(string ring) =>
            Fits(c, PartKinds.Piston).Way!.Figures.Single(f => f.Characteristic == RingDrifts.Position && f.Place == ring).Stands;
    }

    [Fact]
    public void A_cap_after_which_it_turns_much_harder_is_named()
    {
        Reading After(string cap, decimal torque, int minute)
        {
            var read = Start.Read(cap, TurningJump.Characteristic, torque);
            read.At = Now.AddMinutes(minute);
            return read;
        }

        TurningJump.Of([After("M4C", 1.0m, 0), After("M3C", 1.9m, 1), After("M5C", 2.8m, 2), After("M2C", 3.6m, 3)]).ShouldBeEmpty();
        var jump = TurningJump
            .Of([After("M4C", 1.0m, 0), After("M3C", 1.9m, 1), After("M5C", 7.4m, 2), After("M2C", 8.3m, 3)])
            .Values.ShouldHaveSingleItem();
        (jump.Place, jump.More).ShouldBe(("M5C", 5.5));
        // Taken off, scraped, on again: the last reading of it counts, in its turn.
        TurningJump
            .Of([After("M4C", 1.0m, 0), After("M5C", 7.4m, 1), After("M3C", 1.9m, 2), After("M2C", 2.7m, 3), After("M5C", 3.6m, 4)])
            .ShouldBeEmpty();
        TurningJump.Of([After("M4C", 9m, 0)]).ShouldBeEmpty();
    }

    [Fact]
    public void It_does_not_start_with_a_cover_on()
    {
        var c = Bare();
        var step = Fits(c, PartKinds.Piston);
        BackAct Cover(BackActKind kind, string what) =>
            new()
            {
                Step = step.Key,
                Kind = kind,
                Of = what,
            };
        Wrong(c, Cover(BackActKind.Uncovered, "Intake ports")).ShouldBe(["build.act.not-covered"]);
        Wrong(c, Cover(BackActKind.Covered, " ")).ShouldBe(["build.act.cover-what"]);
        Do(c, Cover(BackActKind.Covered, "Intake ports"));
        var arisen = Arises(c);
        arisen.Covers.ShouldHaveSingleItem().Text.ShouldBe("Intake ports");
        arisen.Tasks.Single(t => t.Key == Arising.RunKey).Way!.Stops.ShouldHaveSingleItem().MayPass.ShouldBeFalse();
        Do(c, Cover(BackActKind.Uncovered, "Intake ports"));
        Arises(c).Covers.ShouldBeEmpty();
    }

    [Fact]
    public void After_it_ran_what_is_due_later_arises_by_the_school_of_the_shop()
    {
        var c = Bare();
        c.BuildTasks.Add(
            new BuildTask
            {
                Id = Guid.CreateVersion7(),
                Of = Arising.RunKey,
                Mark = TaskMark.Through,
                At = Now,
            }
        );
        var gently = Arises(c, new Schools { RunningIn = RunningIn.Gently });
        gently.RanOn.ShouldBe(DateOnly.FromDateTime(Now.Date));
        var due = gently.Tasks.Where(t => t.Kind == TaskKind.FollowUp).ToDictionary(t => t.Key);
        due.Keys.ShouldContain("add/run-in-gently");
        due.Keys.ShouldNotContain("add/run-in-by-load");
        due["add/look-for-leaks"].NotBefore.ShouldBe(gently.RanOn!.Value.AddDays(1));
        Arises(Bare()).Tasks.ShouldNotContain(t => t.Kind == TaskKind.FollowUp);
    }

    /// <summary>On every family that ships: no act of assembly closes a circle, and each precedence that the knowledge names holds.</summary>
    [Fact]
    public void What_assembly_adds_waits_in_no_circle_and_breaks_no_precedence()
    {
        foreach (var family in KnowledgeBase.BuiltIn.Families)
        {
            var c = Bare(family.Layout);
            var table = Start.Table(c.Layout);
            foreach (var bore in table.OfKind(PartKinds.Bore))
            {
                c.Verdicts.Add(
                    new PartVerdict
                    {
                        Id = Guid.CreateVersion7(),
                        Place = bore.Code,
                        Action = VerdictAction.Repair,
                        Course = "hone",
                    }
                );
            }

            var tasks = Arises(c).Tasks;
            var byKey = tasks.ToDictionary(t => t.Key);
            tasks.Select(t => t.Key).Where(k => Behind(k, k)).ShouldBeEmpty(family.Id);
            bool Behind(string key, string before)
            {
                var open = new Stack<string>(byKey[key].After);
                var seen = new HashSet<string>();
                while (open.TryPop(out var k))
                {
                    if (k == before)
                    {
                        return true;
                    }

                    if (seen.Add(k) && byKey.TryGetValue(k, out var t))
                    {
                        foreach (var a in t.After)
                        {
                            open.Push(a);
                        }
                    }
                }

                return false;
            }

            // Nothing of a plain bearing goes in before the stone is through and the block is washed.
            var wash = byKey.GetValueOrDefault("add/wash");
            var hone = byKey.Keys.First(k => k.StartsWith("work/hone", StringComparison.Ordinal));
            foreach (var back in tasks.Where(t => t.Way?.Parts.Any(p => table.Find(p.Place)!.Kind.Id is "crankshaft" or "main-shell-upper") == true))
            {
                Behind(back.Key, hone).ShouldBeTrue($"{family.Id}: {back.Key} before the hone");
                (wash is null || Behind(back.Key, wash.Key)).ShouldBeTrue($"{family.Id}: {back.Key} before the wash");
            }

            if (byKey.ContainsKey("add/cover-before-stone"))
            {
                Behind(hone, "add/cover-before-stone").ShouldBeTrue(family.Id);
            }

            // The strip in reverse: what came off last goes in first.
            foreach (var step in Read(c).Strip.Steps)
            {
                foreach (var before in step.Source.After.Keys.Where(b => byKey.ContainsKey($"back/{b}") && byKey.ContainsKey($"back/{step.Id}")))
                {
                    Behind($"back/{before}", $"back/{step.Id}").ShouldBeTrue($"{family.Id}: {before} before {step.Id}");
                }
            }
        }
    }

    /// <summary>Blow-by from 15 to 4 kPa with one gauge: its error is in both, and cancels.</summary>
    [Fact]
    public void A_test_taken_again_says_whether_it_is_really_better()
    {
        var c = Bare();
        c.BuildTasks.Add(
            new BuildTask
            {
                Id = Guid.CreateVersion7(),
                Of = Arising.RunKey,
                Mark = TaskMark.Through,
                At = Now,
            }
        );
        Again().ShouldBeEmpty();
        Take(Phase.AsFound, 640, "Bourdon gauge", 20);
        Again().ShouldHaveSingleItem().Before!.Told.Code.ShouldBe("build.again.not-yet");
        Take(Phase.AfterRun, 1180, "Bourdon gauge", 22);
        var better = Again().ShouldHaveSingleItem();
        better.Before!.Told.Code.ShouldBe("gauge.change.better");
        better.Before.Change!.Value.ShouldBe(540, 1e-9);
        better.Before.Told["unlike"].ShouldBeNull();
        c.Readings[^1].WithdrawnAt = Now;
        Take(Phase.AfterRun, 641, "Other gauge", 70);
        var alike = Again().ShouldHaveSingleItem().Before!;
        alike.Told.Code.ShouldBe("gauge.change.not-told-apart");
        alike.Told["unlike"].ShouldNotBeNull();

        void Take(Phase phase, decimal kpa, string gauge, decimal celsius)
        {
            var read = Start.Read("C1", "compression", kpa, gauge);
            (read.Phase, read.Unit, read.Temperature, read.At) = (phase, "kPa", celsius, Now.AddMinutes(c.Readings.Count));
            c.Readings.Add(read);
        }

        BackFigure[] Again() =>
            [.. Arises(c).Tasks.Single(t => t.Key == "add/tests-again").Way!.Figures.Where(f => f.Characteristic == "compression")];
    }

    /// <summary>In whatever order moves are sent and however often: each counts once by its id, and all that came out is in again.</summary>
    [Fact]
    public void The_ledger_returns_to_zero_under_any_order_of_retries()
    {
        var random = new Random(11);
        var engine = Start.Table(Start.InlineSix).Engine;
        for (var n = 0; n < 200; n++)
        {
            var step = new StripStep { Id = "s", Fasteners = [new FastenerSet { Id = "f", Count = random.Next(1, 20) }] };
            var count = step.Fasteners[0].Count;
            var moves = new List<FastenerMove>();
            void Move(FastenerState state, int of) =>
                moves.Add(
                    new FastenerMove
                    {
                        Id = Guid.CreateVersion7(),
                        Step = "s",
                        Set = "f",
                        State = state,
                        Count = of,
                        At = Now.AddMinutes(moves.Count),
                    }
                );
            Move(FastenerState.Out, count);
            var left = count;
            while (left > 0)
            {
                var some = random.Next(1, left + 1);
                Move(random.Next(2) == 0 ? FastenerState.BackIn : FastenerState.NewIn, some);
                left -= some;
            }

            // Sent twice, some of them, and in any order: the store keeps one of each id.
            var sent = moves.Concat(moves.Where(_ => random.Next(3) == 0)).OrderBy(_ => random.Next()).DistinctBy(m => m.Id);
            var ledger = FastenerLedger.Of(step, engine, sent).Single();
            (ledger.Out, ledger.Broken, ledger.In).ShouldBe((0, 0, count));
            ledger.New.ShouldBe(moves.Where(m => m.State == FastenerState.NewIn).Sum(m => m.Count));
        }
    }

    /// <summary>What is in again is neither off nor lying about; what came out again is.</summary>
    [Fact]
    public void What_is_in_again_is_off_no_more_with_what_sits_in_it()
    {
        var c = Bare();
        bool Off(string place) => Read(c).Strip.Off.Any(o => o.Place == place);
        Off("P3").ShouldBeTrue();
        Off("P3T").ShouldBeTrue();
        var step = Fits(c, PartKinds.Piston);
        Do(c, Fit(step, "P3", "P3"));
        Off("P3").ShouldBeFalse();
        Off("P3T").ShouldBeFalse();
        Off("P4").ShouldBeTrue();
        Do(
            c,
            new BackAct
            {
                Step = step.Key,
                Kind = BackActKind.TakenOut,
                Of = "P3",
            }
        );
        Off("P3").ShouldBeTrue();
        c.BuildTasks.Add(
            new BuildTask
            {
                Id = Guid.CreateVersion7(),
                Of = step.Key,
                Mark = TaskMark.Through,
                At = Now,
            }
        );
        Off("P4").ShouldBeFalse();
    }
}
