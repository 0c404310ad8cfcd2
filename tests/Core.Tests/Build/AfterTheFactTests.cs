using Shouldly;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using Xunit;
using static VividSleuth.Core.Tests.Build.WayBackTests;

namespace VividSleuth.Core.Tests.Build;

/// <summary>What no longer holds after a part came out again, and what is due after it ran.</summary>
public class AfterTheFactTests
{
    private static readonly DateTimeOffset Now = ArisingTests.Now;

    private static void Measured(EngineCase c, string place, string characteristic, decimal value, int minute, string station = "")
    {
        var read = Start.Read(place, characteristic, value);
        (read.Phase, read.Station, read.At) = (Phase.AfterWork, station, Now.AddMinutes(minute));
        c.Readings.Add(read);
    }

    private static void Renewed(EngineCase c, string place) =>
        c.Verdicts.Add(
            new PartVerdict
            {
                Id = Guid.CreateVersion7(),
                Place = place,
                Action = VerdictAction.Replace,
                Course = "renew",
            }
        );

    private static void Act(EngineCase c, string step, BackActKind kind, string of, int minute, Action<BackAct>? more = null)
    {
        var act = new BackAct
        {
            Id = Guid.CreateVersion7(),
            Step = step,
            Kind = kind,
            Of = of,
            By = "tomas",
            At = Now.AddMinutes(minute),
        };
        more?.Invoke(act);
        c.BackActs.Add(act);
    }

    private static BackFigure Figure(EngineCase c, string kind, string characteristic, string place) =>
        Fits(c, kind).Way!.Figures.Single(f => f.Characteristic == characteristic && f.Place == place);

    [Fact]
    public void A_cap_that_came_out_again_takes_the_torque_read_after_it_along()
    {
        var c = Bare();
        Renewed(c, "M3L");
        var step = Fits(c, "main-cap").Key;
        Act(c, step, BackActKind.Fitted, "M3C", 0, a => a.Tag = "M3C");
        Measured(c, "M3C", TurningJump.Characteristic, 1.2m, 5);
        Measured(c, "M2C", TurningJump.Characteristic, 2.1m, 6);
        Stands("M3C").ShouldBe(BackFigureStands.Inside);
        Act(c, step, BackActKind.TakenOut, "M3C", 10);
        Act(c, step, BackActKind.Fitted, "M3C", 11, a => a.Tag = "M3C");
        Stands("M3C").ShouldBe(BackFigureStands.Undone);
        var stop = Fits(c, "main-cap").Way!.Stops.Single(s => s.Key == $"figure/{TurningJump.Characteristic}/M3C/");
        stop.Shut.ShouldBeTrue();
        ((Fact)stop.Text["since"]!).Code.ShouldBe("build.figure.out-since");
        // The other caps were not touched.
        Stands("M2C").ShouldBe(BackFigureStands.Inside);
        Measured(c, "M3C", TurningJump.Characteristic, 1.2m, 20);
        Stands("M3C").ShouldBe(BackFigureStands.Inside);

        BackFigureStands Stands(string cap) => Figure(c, "main-cap", TurningJump.Characteristic, cap).Stands;
    }

    /// <summary>With plastic strip the cap goes on, down, and off again before it is read: that alone undoes nothing.</summary>
    [Fact]
    public void A_clearance_outlives_its_cap_and_not_its_shell()
    {
        var c = Bare();
        Renewed(c, "R3U");
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
        var (shell, cap) = (Fits(c, PartKinds.RodShellUpper).Key, Fits(c, PartKinds.RodCap).Key);
        // Nobody measured it, and what it will be held against is told before.
        Figure(c, PartKinds.RodCap, "big-end-clearance", "R3").Limit!.ServiceMost.ShouldBe(0.09);
        var lines = new[] { 1, 2 }.Select(n => Ordered(c, $"shells of box {n}", "", 1, OrderStage.Checked, "R3U")).ToArray();
        New(0, 0);
        Act(c, cap, BackActKind.Fitted, "R3C", 1, a => a.Tag = "R3C");
        Measured(c, "R3", "big-end-strip", 0.06m, 3);
        Act(c, cap, BackActKind.TakenOut, "R3C", 5);
        Act(c, cap, BackActKind.Fitted, "R3C", 6, a => a.Tag = "R3C");
        Stands().ShouldBe(BackFigureStands.Inside);
        // The same shell out and in again is the same clearance; one of another box is another.
        Act(c, shell, BackActKind.TakenOut, "R3U", 8);
        New(0, 9);
        Stands().ShouldBe(BackFigureStands.Inside);
        Act(c, shell, BackActKind.TakenOut, "R3U", 10);
        New(1, 11);
        Stands().ShouldBe(BackFigureStands.Undone);
        Figure(c, PartKinds.RodCap, "big-end-clearance", "R3").Of.ShouldBe(["R3U"]);
        Measured(c, "R3", "big-end-strip", 0.05m, 12);
        Stands().ShouldBe(BackFigureStands.Inside);

        void New(int line, int minute) => Act(c, shell, BackActKind.Fitted, "R3U", minute, a => (a.IsNew, a.Line) = (true, lines[line].Id));
        BackFigureStands Stands() => Figure(c, PartKinds.RodCap, "big-end-clearance", "R3").Stands;
    }

    [Fact]
    public void A_piston_drawn_again_lets_its_rings_turn()
    {
        var c = Bare();
        Renewed(c, "P2T");
        Measured(c, "P2T", RingDrifts.Position, 10, 0, RingDrifts.Put);
        Figure(c, PartKinds.Piston, RingDrifts.Position, "P2T").Stands.ShouldBe(BackFigureStands.Inside);
        Act(c, Fits(c, PartKinds.Piston).Key, BackActKind.TakenOut, "P3", 3);
        Figure(c, PartKinds.Piston, RingDrifts.Position, "P2T").Stands.ShouldBe(BackFigureStands.Inside);
        Act(c, Fits(c, PartKinds.Piston).Key, BackActKind.TakenOut, "P2", 4);
        Figure(c, PartKinds.Piston, RingDrifts.Position, "P2T").Of.ShouldBe(["P2"]);
    }

    [Theory]
    [InlineData(4, 4, 4)]
    [InlineData(4, 3, 3)]
    // One set for all four.
    [InlineData(1, 1, 4)]
    public void No_more_new_parts_go_in_than_came(int ordered, int came, int enough)
    {
        var c = Bare();
        string[] places = ["P1", "P2", "P3", "P4"];
        var line = Ordered(c, "pistons", "", ordered, OrderStage.Ordered, places);
        foreach (var stage in new[] { OrderStage.Arrived, OrderStage.Checked })
        {
            c.OrderMoves.Add(
                new OrderMove
                {
                    Id = Guid.CreateVersion7(),
                    Line = line.Id,
                    To = stage,
                    Count = stage == OrderStage.Arrived ? came : null,
                    At = Now.AddMinutes(c.OrderMoves.Count),
                }
            );
        }

        foreach (var place in places)
        {
            Renewed(c, place);
        }

        var step = Fits(c, PartKinds.Piston).Key;
        var told = new List<string>();
        foreach (var place in places)
        {
            var act = new BackAct
            {
                Step = step,
                Kind = BackActKind.Fitted,
                Of = place,
                IsNew = true,
                Line = line.Id,
            };
            var wrong = Wrong(c, act);
            told.AddRange(wrong);
            if (wrong.Length == 0)
            {
                Do(c, act);
            }
        }

        told.ShouldBe(Enumerable.Repeat("build.fit.more-than-came", places.Length - enough));
    }

    private static EngineCase Ran(int daysAgo)
    {
        var c = Bare();
        c.BuildTasks.Add(
            new BuildTask
            {
                Id = Guid.CreateVersion7(),
                Of = Arising.RunKey,
                Mark = TaskMark.Through,
                At = Now.AddDays(-daysAgo),
            }
        );
        return c;
    }

    private static ArisingTask FirstOil(EngineCase c) => Arises(c).Tasks.Single(t => t.Key == "add/first-oil");

    [Fact]
    public void What_is_due_after_hours_waits_for_the_hours_and_its_day_is_foretold()
    {
        var c = Ran(4);
        Hours().ShouldBe((BackGate.Hours, null));
        Wrong(c, Noted(-1)).ShouldBe(["build.ran.how-long"]);
        Wrong(c, Noted(6)).ShouldBeEmpty();
        Do(c, Noted(6));
        // Six hours in four days: the four that are left take three more.
        Hours().ShouldBe((BackGate.Hours, DateOnly.FromDateTime(Now.Date).AddDays(3)));
        Wrong(c, Noted(5)).ShouldBe(["build.ran.less-than-before"]);
        Do(c, Noted(10));
        Hours().ShouldBe((null, null));
        Wrong(
                c,
                new BackAct
                {
                    Step = "add/look-for-leaks",
                    Kind = BackActKind.Ran,
                    Hours = 11,
                }
            )
            .ShouldBe(["build.ran.not-by-hours"]);
        // Hours noted at one step count for all.
        Arises(c).Tasks.Single(t => t.Key == "add/lash-again").Way!.Hours!.Run.ShouldBe(10);

        static BackAct Noted(decimal hours) =>
            new()
            {
                Step = "add/first-oil",
                Kind = BackActKind.Ran,
                Hours = hours,
            };
        (BackGate? Gate, DateOnly? Due) Hours() =>
            (FirstOil(c).Way!.Stops.Where(s => s.Gate == BackGate.Hours).Select(s => (BackGate?)s.Gate).SingleOrDefault(), FirstOil(c).NotBefore);
    }

    [Fact]
    public void What_the_first_filter_held_is_asked_for_and_is_no_evidence_of_why_it_came()
    {
        var c = Ran(9);
        var filter = Start.Table(c.Layout).OfKind("oil-filter").Single().Code;
        Find().ShouldBe((0, false, true));
        // What lay in it when it came answers nothing.
        Lay(DoneBy.Running);
        Find().ShouldBe((0, false, true));
        Do(
            c,
            new BackAct
            {
                Step = "add/first-oil",
                Kind = BackActKind.Ticked,
                Of = $"clean/{filter}",
            }
        );
        Find().ShouldBe((0, true, false));
        Do(
            c,
            new BackAct
            {
                Step = "add/first-oil",
                Kind = BackActKind.Unticked,
                Of = $"clean/{filter}",
            }
        );
        Lay(DoneBy.RunAgain);
        Find().ShouldBe((1, false, false));
        FirstOil(c).Way!.Finds.Single(f => f.Place == filter).Likely!.Code.ShouldBe("all");

        c.Findings.Add(
            new Finding
            {
                Id = Guid.CreateVersion7(),
                Place = filter,
                Sign = KnowledgeBase.BuiltIn.Signs[0].Id,
                Level = 2,
                DoneBy = DoneBy.RunAgain,
            }
        );
        c.TraceLog().Findings.ShouldBeEmpty();

        void Lay(DoneBy when) =>
            c.Debris.Add(
                new Debris
                {
                    Id = Guid.CreateVersion7(),
                    Place = filter,
                    Material = DebrisMaterial.OtherMetal,
                    Hard = false,
                    DoneBy = when,
                }
            );
        (int Recorded, bool Clean, bool Holds) Find()
        {
            var way = FirstOil(c).Way!;
            var find = way.Finds.Single(f => f.Place == filter);
            return (find.Recorded, find.Clean, way.Stops.Any(s => s.Gate == BackGate.Find && s.Key == $"find/{filter}"));
        }
    }
}
