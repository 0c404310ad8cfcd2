using CsCheck;
using Google.OrTools.Sat;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

/// <summary>What is had from others: needs, gates, stages, what arrives, and from whom.</summary>
public sealed class OrderTests
{
    private static readonly EngineLayout Three = Start.InlineSix with { Cylinders = 3, FiringOrder = [1, 2, 3] };
    private static readonly Exchange Euro = new(
        "EUR",
        new Dictionary<string, decimal>(StringComparer.Ordinal) { ["GBP"] = 1.17m, ["JPY"] = 0.0062m }
    );
    private static readonly Schools Early = Schools.Usual with { Ordering = Ordering.EarlyAtARisk };

    private DateTimeOffset _now = new(2026, 11, 1, 8, 0, 0, TimeSpan.Zero);

    private T At<T>(T record)
        where T : CaseRecord
    {
        record.Id = record.Id == Guid.Empty ? Guid.CreateVersion7() : record.Id;
        record.At = _now = _now.AddMinutes(1);
        return record;
    }

    private static CaseReader Read(EngineCase c, Schools? schools = null, Supplies? supplies = null) =>
        new(c, KnowledgeBase.BuiltIn, [], Start.Today, schools, supplies ?? new Supplies([], [], Euro));

    private PartVerdict Decide(EngineCase c, string place, string course, VerdictAction action)
    {
        var verdict = At(
            new PartVerdict
            {
                Place = place,
                Course = course,
                Action = action,
                Reason = "so decided",
            }
        );
        c.Verdicts.Add(verdict);
        return verdict;
    }

    private void Test(EngineCase c, string place, string check, bool passed) =>
        c.Examinations.Add(
            At(
                new Examination
                {
                    Place = place,
                    Check = check,
                    Passed = passed,
                    TestedBy = "a test house",
                }
            )
        );

    private OrderLine Line(EngineCase c, string item, string step = "", decimal quantity = 1, params WantedFigure[] wants)
    {
        var line = At(
            new OrderLine
            {
                Item = item,
                What = $"{item} {step}".Trim(),
                Course = "renew",
                Step = step,
                Quantity = quantity,
                Supplier = "A supplier",
                Wants = [.. wants],
            }
        );
        c.OrderLines.Add(line);
        return line;
    }

    private OrderMove Move(
        OrderLine line,
        OrderStage to,
        decimal? count = null,
        string label = "",
        string note = "",
        params (string Key, string Why)[] reasons
    ) =>
        At(
            new OrderMove
            {
                Line = line.Id,
                To = to,
                Count = count,
                Label = label,
                Note = note,
                Day = to == OrderStage.Expected ? Start.Today.AddDays(9) : null,
                Reasons = reasons.ToDictionary(r => r.Key, r => r.Why, StringComparer.Ordinal),
            }
        );

    /// <summary>Codes of what keeps a move from being made.</summary>
    private static string[] Refused(EngineCase c, OrderMove move, Schools? schools = null)
    {
        var reader = Read(c, schools);
        return [.. reader.Orders.Check(move, reader.Schools.Ordering).Select(p => p.Text.Code)];
    }

    private static void Done(EngineCase c, OrderMove move, Schools? schools = null)
    {
        Refused(c, move, schools).ShouldBeEmpty();
        c.OrderMoves.Add(move);
    }

    private static GateState Gate(EngineCase c, OrderLine line, string gate) =>
        Read(c).Order.Lines.Single(l => l.Line == line.Id).Gates.Single(g => g.Gate == gate);

    // —— gates ——

    [Fact]
    public void A_crack_test_opens_its_gate_and_nothing_else_does()
    {
        var c = Start.Case(Three);
        var pistons = Line(c, "piston", quantity: 3);
        var gate = Gate(c, pistons, "block-sound");
        gate.Stands.ShouldBe(GateStands.Shut);
        gate.Evidence.ShouldContain("CA: no Crack test, Pressure test on record");
        Test(c, "H1", "crack-test", true);
        Gate(c, pistons, "block-sound").Stands.ShouldBe(GateStands.Shut);
        Test(c, "CA", "crack-test", true);
        Gate(c, pistons, "block-sound")
            .ShouldSatisfyAllConditions(g => g.Stands.ShouldBe(GateStands.Open), g => g.Evidence.ShouldContain("passed, a test house"));
        Test(c, "CA", "pressure-test", false);
        Gate(c, pistons, "block-sound").Stands.ShouldBe(GateStands.Failed);
    }

    [Fact]
    public void A_crack_that_was_seen_fails_the_gate_and_a_part_that_is_renewed_asks_for_no_test()
    {
        var c = Start.Case(Three);
        var shells = Line(c, "rod-shells");
        c.Findings.Add(At(Start.Saw("K2", "journal-crack", 2)));
        Gate(c, shells, "shaft-passed").Stands.ShouldBe(GateStands.Failed);
        Decide(c, "CR", "renew", VerdictAction.Replace);
        Gate(c, shells, "shaft-passed").Stands.ShouldBe(GateStands.Open);
        // Pins of a shaft that is renewed need no size of their own.
        Gate(c, shells, "pins-decided").Stands.ShouldBe(GateStands.Open);
    }

    [Fact]
    public void Shells_wait_for_the_size_of_every_pin()
    {
        var c = Start.Case(Three);
        c.Limits.Add(At(Start.Standard("crankpin-diameter", 72m)));
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.Add(At(Start.Read($"K{n}", "crankpin-diameter", 71.93m)));
        }

        var shells = Line(c, "rod-shells");
        Decide(c, "K1", "grind", VerdictAction.Machine);
        Decide(c, "K2", "grind", VerdictAction.Machine);
        Gate(c, shells, "pins-decided")
            .ShouldSatisfyAllConditions(g => g.Stands.ShouldBe(GateStands.Shut), g => g.Evidence.ShouldBe("Not decided yet: K3."));
        Decide(c, "K3", "grind", VerdictAction.Machine);
        Gate(c, shells, "pins-decided").ShouldSatisfyAllConditions(g => g.Stands.ShouldBe(GateStands.Open), g => g.Evidence.ShouldContain("to 0.25"));
        // Not measured at all there is nothing that was chosen.
        var readings = c.Readings.ToArray();
        c.Readings.Clear();
        Gate(c, shells, "pins-decided")
            .ShouldSatisfyAllConditions(
                g => g.Stands.ShouldBe(GateStands.Shut),
                g => g.Evidence.ShouldStartWith("Grind undersize is decided, and to what size nobody can say")
            );
        Needs(c).Single(n => n.Course == "grind").ShouldSatisfyAllConditions(n => n.Step.ShouldBeEmpty(), n => n.Wants.ShouldBeEmpty());
        c.Readings.AddRange(readings);
        // So far gone that no size cleans them up: then none is chosen.
        c.Readings.ForEach(r => r.Value = 70.2m);
        Gate(c, shells, "pins-decided").Stands.ShouldBe(GateStands.Shut);
    }

    [Fact]
    public void One_school_holds_the_other_names_each_risk_and_a_failed_gate_opens_to_neither()
    {
        var c = Start.Case(Three);
        var shells = Line(c, "rod-shells");
        Refused(c, Move(shells, OrderStage.Ordered)).ShouldBe(["verdict.order.gate-holds", "verdict.order.gate-holds"]);
        var told = new[] { ("shaft-passed", "they are kept on the shelf"), ("pins-decided", "the maker has one size alone") };
        Refused(c, Move(shells, OrderStage.Ordered, reasons: told)).Length.ShouldBe(2);
        Refused(c, Move(shells, OrderStage.Ordered), Early).ShouldBe(["verdict.order.name-the-risk", "verdict.order.name-the-risk"]);
        Refused(c, Move(shells, OrderStage.Ordered, reasons: told[0]), Early).ShouldBe(["verdict.order.name-the-risk"]);
        Refused(c, Move(shells, OrderStage.Ordered, reasons: [("shaft-passed", "no time"), ("pins-decided", " No time ")]), Early)
            .ShouldBe(["verdict.order.one-reason-each"]);
        Refused(c, Move(shells, OrderStage.Ordered, reasons: told), Early).ShouldBeEmpty();
        Test(c, "CR", "crack-test", false);
        Refused(c, Move(shells, OrderStage.Ordered, reasons: told), Early).ShouldBe(["verdict.order.gate-is-failed"]);
    }

    [Fact]
    public void What_is_on_its_way_when_its_gate_fails_is_told()
    {
        var c = Start.Case(Three);
        var shells = Line(c, "rod-shells");
        c.OrderMoves.Add(Move(shells, OrderStage.Ordered));
        Test(c, "CR", "crack-test", false);
        Read(c).Order.Lines.Single().Against.ShouldContain(a => a.Say().Contains("call the supplier", StringComparison.Ordinal));
    }

    // —— stages ——

    [Fact]
    public void A_line_goes_from_stage_to_stage_and_skips_none()
    {
        var c = Start.Case(Three);
        var line = Line(c, "");
        foreach (var to in new[] { OrderStage.Arrived, OrderStage.Checked, OrderStage.Fitted, OrderStage.SentBack, OrderStage.Expected })
        {
            Refused(c, Move(line, to, note: "so")).ShouldContain("verdict.order.not-from-here");
        }

        line.Supplier = "";
        Refused(c, Move(line, OrderStage.Ordered)).ShouldBe(["verdict.order.from-whom"]);
        line.Supplier = "A supplier";
        Done(c, Move(line, OrderStage.Asked));
        Done(c, Move(line, OrderStage.Ordered));
        var expected = Move(line, OrderStage.Expected);
        expected.Day = null;
        Refused(c, expected).ShouldBe(["verdict.order.which-day"]);
        Done(c, Move(line, OrderStage.Expected));
        Done(c, Move(line, OrderStage.Arrived));
        Refused(c, Move(line, OrderStage.Fitted)).ShouldContain("verdict.order.not-from-here");
        Refused(c, Move(line, OrderStage.Checked)).ShouldBe(["verdict.order.say-what-you-saw"]);
        Done(c, Move(line, OrderStage.Checked, note: "compared with the old one"));
        Done(c, Move(line, OrderStage.Fitted));
        Read(c).Order.Lines.Single().Next.ShouldBeEmpty();
    }

    [Fact]
    public void A_parcel_that_is_short_leaves_the_rest_outstanding()
    {
        var c = Start.Case(Three);
        var line = Line(c, "", quantity: 12);
        Done(c, Move(line, OrderStage.Ordered));
        Refused(c, Move(line, OrderStage.Arrived, count: 13)).ShouldBe(["verdict.order.so-many"]);
        Refused(c, Move(line, OrderStage.Arrived, count: 0)).ShouldBe(["verdict.order.so-many"]);
        Done(c, Move(line, OrderStage.Arrived, count: 11));
        var state = Read(c).Order.Lines.Single();
        (state.Here, state.Outstanding).ShouldBe((11, 1));
        state.Against.Single().ShouldBe("11 of 12 are here.");
        Refused(c, Move(line, OrderStage.Checked, note: "seen")).ShouldContain("verdict.order.not-from-here");
        Refused(c, Move(line, OrderStage.SentBack, count: 2)).ShouldBe(["verdict.order.why-back"]);
        Done(c, Move(line, OrderStage.SentBack, count: 2, note: "threads bruised"));
        state = Read(c).Order.Lines.Single();
        (state.Here, state.Outstanding).ShouldBe((9, 3));
        Done(c, Move(line, OrderStage.Arrived));
        Read(c).Order.Lines.Single().Here.ShouldBe(12);
    }

    [Fact]
    public void What_is_past_its_day_is_late_until_it_is_here()
    {
        var c = Start.Case(Three);
        var line = Line(c, "");
        var ordered = Move(line, OrderStage.Ordered);
        ordered.Day = Start.Today.AddDays(-1);
        Done(c, ordered);
        Read(c).Order.Lines.Single().Late.ShouldBeTrue();
        Done(c, Move(line, OrderStage.Arrived));
        Read(c).Order.Lines.Single().Late.ShouldBeFalse();
    }

    // —— receiving ——

    [Fact]
    public void A_case_waits_for_what_is_asked_for_until_all_of_it_has_come_and_for_the_earliest_day()
    {
        var c = Start.Case();
        var line = Line(c, "filter", quantity: 2);
        Read(c).Progress.Waits.Coming.ShouldBe(0);
        foreach (var (to, coming) in new[] { (OrderStage.Asked, 1), (OrderStage.Ordered, 1), (OrderStage.Expected, 1) })
        {
            c.OrderMoves.Add(Move(line, to));
            Read(c).Progress.Waits.Coming.ShouldBe(coming, to.ToString());
        }

        Read(c).Progress.Waits.Due.ShouldBe(Start.Today.AddDays(9));
        Read(c).Progress.Waits.With.ShouldBe(["A supplier"]);
        c.OrderMoves.Add(Move(line, OrderStage.Arrived, count: 1));
        Read(c).Progress.Waits.Coming.ShouldBe(1);
        c.OrderMoves.Add(Move(line, OrderStage.Arrived));
        Read(c).Progress.Waits.Coming.ShouldBe(0);
        Read(c).Progress.Waits.Due.ShouldBeNull();
    }

    private static WantedFigure Wall(string of, decimal middle) => new(of, "shell-wall", middle - 0.004m, middle + 0.004m, "", Thumb: true);

    /// <summary>A set ordered a half under that arrived, measured as candidate B.</summary>
    private (EngineCase Case, OrderLine Line) Arrived(string label, decimal wall)
    {
        var c = Start.Case(Three);
        var line = Line(c, "rod-shells", "0.50", 1, Wall("rod-shell-upper", 2.75m), Wall("rod-shell-lower", 2.75m));
        c.OrderMoves.Add(Move(line, OrderStage.Ordered));
        c.OrderMoves.Add(Move(line, OrderStage.Arrived, label: label));
        Measured(c, line, "B", wall);
        return (c, line);
    }

    private void Measured(EngineCase c, OrderLine line, string letter, decimal wall)
    {
        c.Candidates.Add(
            At(
                new Candidate
                {
                    Letter = letter,
                    What = "rod-shells",
                    Line = line.Id,
                }
            )
        );
        foreach (var place in Enumerable.Range(1, 3).SelectMany(n => new[] { $"R{n}U", $"R{n}L" }))
        {
            c.Readings.Add(At(Start.Read($"{place}.{letter}", "shell-wall", wall)));
        }
    }

    [Fact]
    public void The_wrong_size_in_the_right_box_is_refused_whatever_is_said_for_it()
    {
        var (c, line) = Arrived("0.50", 2.625m);
        var receiving = Read(c).Order.Lines.Single().Receiving!;
        receiving.Letter.ShouldBe("B");
        receiving.Label.ShouldBeNull();
        receiving.Refused.ShouldBe("R1U.B: Shell wall at the crown 2.625 mm; ordered was 2.746 to 2.754 mm");
        var said = new[] { ("rod-shell-upper/shell-wall", "will do"), ("rod-shell-lower/shell-wall", "will do as well") };
        Refused(c, Move(line, OrderStage.Checked, note: "looks new", reasons: said)).ShouldBe(["verdict.order.refused"]);
        Done(c, Move(line, OrderStage.SentBack, note: "a quarter under in a box for a half"));
    }

    [Fact]
    public void The_right_size_in_the_wrong_box_is_shouted_and_let_in_by_its_measurement()
    {
        var (c, line) = Arrived("0.25", 2.75m);
        Read(c).Order.Lines.Single().Receiving!.Label.ShouldBe("the box says 0.25, and 0.50 was ordered");
        Done(c, Move(line, OrderStage.Checked));
        // With nothing measured the box is all there is.
        var (unmeasured, other) = Arrived("0.25", 2.75m);
        unmeasured.Readings.Clear();
        Refused(
                unmeasured,
                Move(
                    other,
                    OrderStage.Checked,
                    note: "looks new",
                    reasons: [("rod-shell-upper/shell-wall", "in haste"), ("rod-shell-lower/shell-wall", "in haste too")]
                )
            )
            .ShouldBe(["verdict.order.wrong-box"]);
    }

    [Fact]
    public void A_stamp_in_inches_on_the_box_is_the_same_size()
    {
        var (c, _) = Arrived(".020", 2.75m);
        Read(c).Order.Lines.Single().Receiving!.Label.ShouldBeNull();
    }

    [Fact]
    public void A_figure_that_nobody_measured_asks_for_a_reason_of_its_own()
    {
        var (c, line) = Arrived("0.50", 2.75m);
        c.Readings.RemoveAll(r => r.Place is "R2U.B" or "R2L.B");
        Refused(c, Move(line, OrderStage.Checked)).ShouldBe(["verdict.order.measure-it", "verdict.order.measure-it"]);
        var one = ("rod-shell-upper/shell-wall", "same batch, two measured");
        Refused(c, Move(line, OrderStage.Checked, reasons: one)).ShouldBe(["verdict.order.measure-it"]);
        Refused(c, Move(line, OrderStage.Checked, reasons: [one, ("rod-shell-lower/shell-wall", "same batch, two measured")]))
            .ShouldBe(["verdict.order.one-reason-each"]);
        Done(c, Move(line, OrderStage.Checked, reasons: [one, ("rod-shell-lower/shell-wall", "the lowers came in the same paper")]));
    }

    [Fact]
    public void A_little_outside_a_rule_of_thumb_is_told_and_refuses_nothing()
    {
        var (c, line) = Arrived("0.50", 2.765m);
        var receiving = Read(c).Order.Lines.Single().Receiving!;
        receiving.Refused.ShouldBeNull();
        receiving.Figures.ShouldAllBe(f => f.Stands == FigureStands.Outside);
        Refused(c, Move(line, OrderStage.Checked)).ShouldBe(["verdict.order.measure-it", "verdict.order.measure-it"]);
    }

    /// <summary>A rebuilt shaft is measured where it runs: beyond the maker's limit by a little is beyond it.</summary>
    [Theory]
    [InlineData(0.03, true)]
    [InlineData(0.09, false)]
    public void A_rebuilt_shaft_that_runs_out_does_not_go_in(double runOut, bool goes)
    {
        var c = Start.Case(Three);
        var line = Line(c, "crankshaft", "", 1, new WantedFigure("crankshaft", "crank-run-out", null, 0.05m, "manual, page 4"));
        c.OrderMoves.Add(Move(line, OrderStage.Ordered));
        c.OrderMoves.Add(Move(line, OrderStage.Arrived));
        c.Candidates.Add(
            At(
                new Candidate
                {
                    Letter = "B",
                    What = "crankshaft",
                    Line = line.Id,
                }
            )
        );
        Read(c).Order.Lines.Single().Receiving!.Figures.Single().Stands.ShouldBe(FigureStands.Unmeasured);
        c.Readings.Add(At(Start.Read("CR.B", "crank-run-out", (decimal)runOut)));
        Read(c).Order.Lines.Single().Receiving!.Figures.Single().Stands.ShouldBe(goes ? FigureStands.Inside : FigureStands.Outside);
        Refused(c, Move(line, OrderStage.Checked)).ShouldBe(goes ? [] : ["verdict.order.refused"]);
    }

    [Fact]
    public void Work_is_measured_on_the_part_after_it_and_not_as_it_was_found()
    {
        var c = Start.Case(Three);
        var line = Line(c, "crankpin", "0.50", 3, new WantedFigure("crankpin", "crankpin-diameter", 71.49m, 71.51m, "manual, page 4"));
        (line.Kind, line.Course, line.Places) = (SupplierKind.MachineShop, "grind", ["K1", "K2", "K3"]);
        c.OrderMoves.Add(Move(line, OrderStage.Ordered));
        c.OrderMoves.Add(Move(line, OrderStage.Arrived));
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.Add(At(Start.Read($"K{n}", "crankpin-diameter", 71.9m)));
        }

        Read(c).Order.Lines.Single().Receiving!.Figures.ShouldAllBe(f => f.Stands == FigureStands.Unmeasured);
        for (var n = 1; n <= 3; n++)
        {
            var after = Start.Read($"K{n}", "crankpin-diameter", n == 2 ? 71.4m : 71.5m);
            after.Phase = Phase.AfterWork;
            c.Readings.Add(At(after));
        }

        var figures = Read(c).Order.Lines.Single().Receiving!.Figures.ToDictionary(f => f.Place, f => f.Stands);
        figures.ShouldBe(
            new Dictionary<string, FigureStands>
            {
                ["K1"] = FigureStands.Inside,
                ["K2"] = FigureStands.Outside,
                ["K3"] = FigureStands.Inside,
            },
            ignoreOrder: true
        );
        Refused(c, Move(line, OrderStage.Checked)).ShouldBe(["verdict.order.refused"]);
    }

    [Fact]
    public void What_went_back_is_neither_offered_nor_taken_for_what_comes_next()
    {
        var (c, line) = Arrived("0.50", 2.625m);
        OrderPlanner.StillHere(c.Candidates, c.OrderLines, c.OrderMoves).Count.ShouldBe(1);
        Done(c, Move(line, OrderStage.SentBack, note: "wrong size"));
        OrderPlanner.StillHere(c.Candidates, c.OrderLines, c.OrderMoves).ShouldBeEmpty();
        Done(c, Move(line, OrderStage.Arrived, label: "0.50"));
        Read(c).Order.Lines.Single().Receiving!.Letter.ShouldBeEmpty();
        Measured(c, line, "C", 2.75m);
        Read(c).Order.Lines.Single().Receiving!.Letter.ShouldBe("C");
        Done(c, Move(line, OrderStage.Checked));
    }

    // —— needs ——

    private static IReadOnlyList<OrderNeed> Needs(EngineCase c, params ShelfPart[] shelf) =>
        Read(c, supplies: new Supplies([], shelf, Euro)).Order.Needs;

    [Fact]
    public void Shells_are_bought_by_the_set_and_in_the_size_that_the_pins_get()
    {
        var c = Start.Case(Three);
        c.Limits.AddRange([At(Start.Standard("crankpin-diameter", 72m)), At(Start.Standard("shell-wall", 2.5m))]);
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.Add(At(Start.Read($"K{n}", "crankpin-diameter", 71.93m)));
            Decide(c, $"K{n}", "grind", VerdictAction.Machine);
            Decide(c, $"R{n}U", "renew", VerdictAction.Replace);
            Decide(c, $"R{n}L", "renew", VerdictAction.Replace);
        }

        var shells = Needs(c).Single(n => n.Item == "rod-shells");
        (shells.Quantity, shells.Step, shells.Decided, shells.Kind).ShouldBe((1, "0.25", true, SupplierKind.Parts));
        // Half of the quarter on each wall.
        shells.Wants.Where(w => w.Characteristic == "shell-wall").ShouldAllBe(w => (w.Least + w.Most) / 2 == 2.625m);
        var grind = Needs(c).Single(n => n.Course == "grind");
        (grind.Kind, grind.Step, grind.Quantity).ShouldBe((SupplierKind.MachineShop, "0.25", 3));
        grind.Along.ShouldBe(["CR"]);
        grind.Wants.Single(w => w.Characteristic == "crankpin-diameter").ShouldSatisfyAllConditions(w => ((w.Least + w.Most) / 2).ShouldBe(71.75m));
    }

    [Fact]
    public void A_bore_goes_with_the_piston_that_it_is_honed_to()
    {
        var c = Start.Case(Three);
        c.Limits.AddRange([At(Start.Standard("bore-diameter", 80m)), At(Start.Standard("piston-diameter", 79.95m))]);
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.Add(At(Start.Read($"C{n}", "bore-diameter", 80.2m)));
            Decide(c, $"C{n}", "bore", VerdictAction.Machine);
        }

        var need = Needs(c).Single(n => n.Course == "bore");
        need.Along.ShouldContain("CA");
        need.Along.Count(a => a.StartsWith('P')).ShouldBe(3);
    }

    [Fact]
    public void A_set_of_which_one_half_is_missing_is_not_on_the_shelf()
    {
        var c = Start.Case(Three);
        c.EngineName = "Millrace 3";
        for (var n = 1; n <= 3; n++)
        {
            Decide(c, $"R{n}U", "renew", VerdictAction.Replace);
            Decide(c, $"R{n}L", "renew", VerdictAction.Replace);
        }

        // Another shaft has standard pins.
        Decide(c, "CR", "renew", VerdictAction.Replace);
        ShelfPart On(string kind, int count, string fits = "Millrace 3") => new(1, kind, fits, "STD", count, "drawer 2");
        Needs(c, On("rod-shell-upper", 3), On("rod-shell-lower", 2)).Single(n => n.Item == "rod-shells").Missing.ShouldBe(1);
        var whole = Needs(c, On("rod-shell-upper", 3), On("rod-shell-lower", 3)).Single(n => n.Item == "rod-shells");
        (whole.Missing, whole.Shelf.Count).ShouldBe((0, 2));
        // Of another engine, as far as anybody wrote: shown, and not counted.
        var other = Needs(c, On("rod-shell-upper", 3, "another"), On("rod-shell-lower", 3, "another")).Single(n => n.Item == "rod-shells");
        other.Missing.ShouldBe(1);
        other.Shelf.ShouldAllBe(s => !s.Sure);
    }

    [Fact]
    public void While_nobody_knows_the_size_none_on_the_shelf_is_it()
    {
        var c = Start.Case(Three);
        c.EngineName = "Millrace 3";
        for (var n = 1; n <= 3; n++)
        {
            Decide(c, $"P{n}", "renew", VerdictAction.Replace);
            Decide(c, $"C{n}", "bore", VerdictAction.Machine);
        }

        var pistons = Needs(c, new ShelfPart(1, "piston", "Millrace 3", "STD", 3, "drawer 2")).Single(n => n.Item == "piston");
        (pistons.Step, pistons.Missing).ShouldBe(("", 3));
        pistons.Shelf.Single().Sure.ShouldBeFalse();
    }

    [Fact]
    public void Pistons_of_barrels_wait_for_the_barrels_and_not_for_the_crankcase()
    {
        var c = Start.Case(Three with { Bores = BoreBuild.Barrel });
        var pistons = Line(c, "piston", quantity: 3);
        Read(c).Order.Lines.Single(l => l.Line == pistons.Id).Gates.Select(g => g.Gate).ShouldBe(["barrel-sound", "bores-decided"]);
        var shells = Line(c, "main-shells");
        Read(c).Order.Lines.Single(l => l.Line == shells.Id).Gates.Select(g => g.Gate).ShouldContain("block-sound");
    }

    [Fact]
    public void A_joint_waits_for_what_becomes_of_the_head()
    {
        var c = Start.Case(Three);
        var joint = Line(c, "head-joint");
        Gate(c, joint, "faces-decided").Stands.ShouldBe(GateStands.Shut);
        Decide(c, "H1", "skim", VerdictAction.Machine);
        Gate(c, joint, "faces-decided").Stands.ShouldBe(GateStands.Open);
    }

    [Fact]
    public void Bolts_that_serve_once_are_asked_for_once()
    {
        var c = Start.Case();
        Decide(c, "R4T", "renew", VerdictAction.Replace);
        var plan = Read(c).Strip.ToOrder;
        var needs = Needs(c);
        plan.Count(f => f.Part == "rod-bolt").ShouldBe(1);
        needs.Count(n => n.What.Say().Contains("rod bolt", StringComparison.Ordinal)).ShouldBe(1);
    }

    [Fact]
    public void A_line_takes_from_its_need_and_tells_when_that_has_changed()
    {
        var c = Start.Case(Three);
        for (var n = 1; n <= 3; n++)
        {
            Decide(c, $"P{n}", "renew", VerdictAction.Replace);
        }

        var need = Needs(c).Single(n => n.Item == "piston");
        need.Missing.ShouldBe(3);
        var line = Line(c, "piston", "1.00", 2);
        line.Need = need.Key;
        Needs(c).Single(n => n.Item == "piston").Missing.ShouldBe(1);
        line.Quantity = 3;
        Needs(c).ShouldNotContain(n => n.Item == "piston");
        c.Verdicts.Clear();
        Read(c).Order.Lines.Single().Against.Single().ShouldBe("No verdict asks for it any more.");
    }

    // —— lines, offers, money ——

    [Theory]
    [InlineData(-1, "EUR", "", 1, 0, "verdict.order.price")]
    [InlineData(5, "XYZ", "", 1, 0, "verdict.option.unknown-currency")]
    [InlineData(5, "EUR", "dream", 1, 0, "verdict.order.no-such-course")]
    [InlineData(5, "EUR", "renew", 0, 0, "verdict.order.quantity")]
    [InlineData(5, "EUR", "renew", 1, -2, "verdict.order.days")]
    [InlineData(5, "EUR", "renew", 1, 2, null)]
    public void A_line_that_nobody_can_order_is_refused(int price, string currency, string course, int quantity, int days, string? code)
    {
        var line = new OrderLine
        {
            What = "something",
            Course = course,
            Price = price,
            Currency = currency,
            Quantity = quantity,
            Days = days,
        };
        OrderRules.Check(line, Start.Table(Three), KnowledgeBase.BuiltIn).Select(p => p.Text.Code).ShouldBe(code is null ? [] : [code]);
    }

    [Fact]
    public void Figures_that_hold_nothing_and_places_that_are_not_there_are_refused()
    {
        OrderLine With(Action<OrderLine> change)
        {
            var line = new OrderLine { What = "something" };
            change(line);
            return line;
        }

        string[] Of(OrderLine line) => [.. OrderRules.Check(line, Start.Table(Three), KnowledgeBase.BuiltIn).Select(p => p.Text.Code)];
        Of(With(l => l.What = " ")).ShouldBe(["verdict.order.needs-words"]);
        Of(With(l => l.Item = "flux")).ShouldBe(["verdict.order.no-such-item"]);
        Of(With(l => l.Places = ["K9"])).ShouldBe(["casebook.no-address"]);
        Of(With(l => l.Wants = [new WantedFigure("piston", "piston-diameter", 3, 2, "")])).ShouldBe(["verdict.order.bounds"]);
        Of(With(l => l.Wants = [new WantedFigure("piston", "piston-diameter", null, null, "")])).ShouldBe(["verdict.order.bounds"]);
        Of(With(l => l.Wants = [new WantedFigure("piston", "beauty", 1, 2, "")])).ShouldBe(["verdict.order.no-such-figure"]);
        Of(With(l => l.Wants = [new WantedFigure("Z1", "piston-diameter", 1, 2, "")])).ShouldBe(["verdict.order.no-such-item"]);
    }

    [Fact]
    public void An_offer_of_nobody_for_less_than_nothing_is_refused() =>
        new SupplyOffer
        {
            Price = -1,
            Currency = "QQQ",
            Pack = 0,
            Days = -1,
        }
            .Check()
            .Select(p => p.Text.Code)
            .ShouldBe([
                "verdict.order.needs-a-supplier",
                "verdict.order.price",
                "verdict.option.unknown-currency",
                "verdict.order.pack",
                "verdict.order.days",
            ]);

    [Fact]
    public void The_order_adds_up_to_the_last_coin_in_any_order_of_its_lines() =>
        Gen.Select(Gen.Int[0, 900_000], Gen.Int[1, 9], Gen.Int[0, 2])
            .Array[1, 25]
            .Sample(
                of =>
                {
                    var c = Start.Case(Three);
                    foreach (var (cents, quantity, which) in of)
                    {
                        var line = Line(c, "", quantity: quantity);
                        (line.Price, line.Currency) = (cents / 100m, new[] { "EUR", "GBP", "JPY" }[which]);
                    }

                    var board = Read(c).Order;
                    c.OrderLines.Reverse();
                    Read(c).Order.Cost.ShouldBe(board.Cost);
                    board.Cost.ShouldBe(board.Lines.Sum(l => l.Cost!.Value));
                    board.Lines.ShouldAllBe(l => l.Cost == Math.Round(l.Cost!.Value, 2));
                },
                iter: 20
            );

    [Fact]
    public void A_price_without_a_rate_is_counted_as_unknown()
    {
        var c = Start.Case(Three);
        var line = Line(c, "");
        (line.Price, line.Currency) = (100, "CHF");
        Line(c, "");
        var board = Read(c).Order;
        (board.Cost, board.Unpriced, board.Currency).ShouldBe((0, 2, "EUR"));
    }

    [Fact]
    public void A_way_is_told_with_what_the_cheapest_offer_would_cost()
    {
        SupplyOffer Offer(string supplier, decimal price, string currency, int pack = 1, string step = "") =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Supplier = supplier,
                Item = "piston",
                Course = "renew",
                Step = step,
                Price = price,
                Currency = currency,
                Pack = pack,
                Days = 4,
            };

        // By the pack of four at 300 three cost 300; singly 3 × 95 · 1.17 = 333.45.
        var book = new PriceBook([Offer("A", 300, "EUR", 4), Offer("B", 95, "GBP"), Offer("C", 1, "CHF"), Offer("D", 1, "EUR", step: "0.50")], Euro);
        book.Of("piston", "renew", "0.25", 3).ShouldBe(new Priced(300, 4, "A"));
        book.Of("piston", "renew", "0.25", 1).ShouldBe(new Priced(111.15m, 4, "B"));
        book.Of("piston", "renew", ".020", 3)!.Supplier.ShouldBe("D");
        book.Of("piston", "grind", "0.25", 3).ShouldBeNull();
        book.Of("liner", "renew", "0.25", 3).ShouldBeNull();
    }

    // —— the least order, against CP-SAT ——

    private sealed record Market(Guid[] Lines, SupplyOffer[] Offers, Dictionary<string, decimal> Freight);

    private static Market Of(int seed, int lines, int suppliers)
    {
        var dice = new Random(seed);
        Guid[] ids = [.. Enumerable.Range(0, lines).Select(n => new Guid(n + 1, 0, 0, new byte[8]))];
        var offers =
            from line in ids
            from s in Enumerable.Range(0, suppliers)
            where s == 0 || dice.Next(3) > 0
            select new SupplyOffer
            {
                Id = Guid.CreateVersion7(),
                Line = line,
                Supplier = $"S{s}",
                Price = dice.Next(1, 200),
                Currency = "EUR",
                Pack = dice.Next(1, 3),
                Days = dice.Next(1, 20),
            };
        return new Market(ids, [.. offers], Enumerable.Range(0, suppliers).ToDictionary(s => $"S{s}", _ => (decimal)dice.Next(0, 90)));
    }

    private static IReadOnlyList<OrderSplit> Split(Market m) =>
        LeastOrder.Of(
            [.. m.Lines.Select(l => (l, 2m))],
            l => [.. m.Offers.Where(o => o.Line == l)],
            s => m.Freight.TryGetValue(s, out var f) ? f : null,
            Euro
        );

    /// <summary>Least money, and the fewest suppliers, by CP-SAT over the same offers.</summary>
    private static (int Cost, int Parcels) ByCpSat(Market m, bool fewest)
    {
        var model = new CpModel();
        var used = m.Freight.Keys.ToDictionary(s => s, s => model.NewBoolVar(s));
        var taken = m.Offers.ToDictionary(o => o.Id, o => model.NewBoolVar($"{o.Id}"));
        foreach (var line in m.Lines)
        {
            model.AddExactlyOne(m.Offers.Where(o => o.Line == line).Select(o => taken[o.Id]));
        }

        foreach (var offer in m.Offers)
        {
            model.AddImplication(taken[offer.Id], used[offer.Supplier]);
        }

        var cost =
            LinearExpr.Sum(m.Offers.Select(o => taken[o.Id] * (long)(o.Price * Math.Ceiling(2m / o.Pack))))
            + LinearExpr.Sum(m.Freight.Select(f => used[f.Key] * (long)f.Value));
        var parcels = LinearExpr.Sum(used.Values);
        model.Minimize(fewest ? (parcels * 1_000_000L) + cost : cost);
        var solver = new CpSolver { StringParameters = "num_workers:1" };
        solver.Solve(model).ShouldBe(CpSolverStatus.Optimal);
        var least = (int)Math.Round(solver.ObjectiveValue);
        return (fewest ? least % 1_000_000 : least, used.Values.Count(u => solver.BooleanValue(u)));
    }

    [Fact]
    public void No_sharing_out_is_cheaper_and_none_has_fewer_parcels() =>
        Gen.Select(Gen.Int[1, 9], Gen.Int[1, 7], Gen.Int[0, 100_000])
            .Sample(
                (lines, suppliers, seed) =>
                {
                    var market = Of(seed, lines, suppliers);
                    var splits = Split(market).ToDictionary(s => s.By);
                    splits.Values.ShouldAllBe(s => s.Exact && s.Taken.Count == lines && s.Total == s.Goods + s.Freight);
                    splits[SplitBy.Cheapest].Total.ShouldBe(ByCpSat(market, fewest: false).Cost);
                    var (cost, parcels) = ByCpSat(market, fewest: true);
                    splits[SplitBy.FewestParcels].Suppliers.Count.ShouldBe(parcels);
                    splits[SplitBy.FewestParcels].Total.ShouldBe(cost);
                    // Nothing can be there before the slowest of the quickest.
                    splits[SplitBy.Soonest].Days.ShouldBe(market.Lines.Max(l => market.Offers.Where(o => o.Line == l).Min(o => o.Days)));
                },
                iter: 40
            );

    [Fact]
    public void Among_more_suppliers_than_can_be_tried_it_says_so_and_is_close()
    {
        var market = Of(7, 12, 15);
        var cheapest = Split(market).Single(s => s.By == SplitBy.Cheapest);
        cheapest.Exact.ShouldBeFalse();
        cheapest.Total.ShouldBeInRange(ByCpSat(market, fewest: false).Cost, 1.2m * ByCpSat(market, fewest: false).Cost);
    }

    [Fact]
    public void A_line_that_nobody_offers_is_in_no_way_and_is_told()
    {
        var c = Start.Case(Three);
        var (one, two) = (Line(c, "piston"), Line(c, "liner"));
        c.Offers.Add(
            At(
                new SupplyOffer
                {
                    Supplier = "A",
                    Line = one.Id,
                    Price = 10,
                    Currency = "EUR",
                }
            )
        );
        var board = Read(c).Order;
        board.Unoffered.ShouldBe([two.Id]);
        board.Splits.ShouldAllBe(s => s.Taken.Single().Line == one.Id);
        c.Offers.Single().WithdrawnAt = _now;
        Read(c).Order.Splits.ShouldBeEmpty();
    }

    [Fact]
    public void Five_thousand_lines_are_an_order()
    {
        var c = Start.Case(Three);
        for (var n = 0; n < 5000; n++)
        {
            var line = Line(c, n % 2 == 0 ? "piston" : "", quantity: 1 + (n % 7));
            (line.Price, line.Currency) = (n / 100m, "EUR");
            if (n % 3 == 0)
            {
                c.OrderMoves.Add(Move(line, OrderStage.Ordered));
            }
        }

        var board = Read(c).Order;
        board.Lines.Count.ShouldBe(5000);
        board.Lines.Count(l => l.Stage == OrderStage.Ordered).ShouldBe(1667);
        OrderTable.Rows(c.OrderLines, board).Count().ShouldBe(5000);
    }

    [Fact]
    public void The_list_tells_each_line_with_its_cost_and_what_holds_it()
    {
        var c = Start.Case(Three);
        var line = Line(c, "rod-shells", "0.50");
        (line.Price, line.Currency, line.Remarks) = (100, "GBP", "a \"quote\", and a comma");
        var rows = OrderTable.Csv(c.OrderLines, Read(c).Order).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        rows[0].TrimEnd('\r').ShouldBe(string.Join(',', OrderTable.Columns));
        rows[1].ShouldContain("100,GBP,117");
        rows[1].ShouldContain("Size of the crankpins chosen");
        rows[1].ShouldContain("\"a \"\"quote\"\", and a comma\"");
        rows.Length.ShouldBe(2);
    }
}
