using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using static VividSleuth.Core.Tests.Strip.StripTests;

namespace VividSleuth.Core.Tests.Strip;

/// <summary>What holds a step back, each by itself, and what passes it.</summary>
public sealed class GateTests
{
    private static Obstacle[] Holding(EngineCase c, string step, params int[] stations) => [.. Book(c).Obstacles(Book(c).Step(step)!, stations)];

    private static void Own(EngineCase c, string step, Action<StripStep> change)
    {
        var own = Plan(c).Steps.Single(s => s.Id == step).Source;
        var copy = System.Text.Json.JsonSerializer.Deserialize<StripStep>(
            System.Text.Json.JsonSerializer.Serialize(own, CaseFile.Json),
            CaseFile.Json
        )!;
        change(copy);
        c.OwnSteps.Add(
            new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Step = copy,
                Reason = "as it is here",
                At = DateTimeOffset.UtcNow.AddMinutes(1),
            }
        );
    }

    [Fact]
    public void What_parts_two_pieces_stays_locked_until_the_count_of_each_set_agrees()
    {
        var c = Upto("pan");
        Check(Record("pan"), c)!.Text.ShouldContain("0 out, 22 expected");
        c.FastenerMoves.Add(Move("pan", "pan", 21));
        var problem = Check(Record("pan"), c)!;
        problem.Field.ShouldBe("fastenersOut");
        problem.Text.ShouldContain("21 out, 22 expected");
        problem.Text.ShouldContain("seal carrier");
        Check(InSpiteOf("pan", (StepLock.FastenersOut, "pan", "one was missing on arrival")), c).ShouldBeNull();
        Check(InSpiteOf("pan", (StepLock.FastenersOut, "another set", "one was missing on arrival")), c)!.Field.ShouldBe("fastenersOut");
        c.FastenerMoves.Add(Move("pan", "pan", 1));
        Check(Record("pan"), c).ShouldBeNull();
    }

    [Fact]
    public void What_must_come_first_and_a_hold_point_are_opened_by_no_reason()
    {
        var c = General();
        Check(Record("head"), c)!.Field.ShouldBe("order");
        var all = Holding(c, "head").Select(o => (o.Lock, o.Of, "a good reason")).ToArray();
        Check(InSpiteOf("head", all), c)!.Field.ShouldBe("order");
        c = Upto("head");
        c.Steps.Add(Record("head"));
        Plan(c).Steps.Single(s => s.Id == "invert").Unsigned.ShouldBe("Cylinder head off");
        Check(InSpiteOf("invert", (StepLock.HoldPoint, "head", "nobody is here")), c)!.Field.ShouldBe("holdPoint");
        c.SignOffs.Add(Sign("head"));
        Check(Record("invert"), c).ShouldBeNull();
        Plan(c).Steps.Single(s => s.Id == "head").SignedBy.ShouldBe("ines");
    }

    [Fact]
    public void Each_place_with_unread_evidence_has_a_reason_of_its_own_and_only_a_lead_gives_it()
    {
        var c = Upto("pickup");
        Fulfil(c, "pickup");
        Holding(c, "pickup").Select(o => (o.Lock, o.Of)).ShouldBe([(StepLock.Unread, "PA"), (StepLock.Unread, "PK")]);
        Check(Record("pickup"), c)!.Text.ShouldContain("PA");
        var burnt = (StepLock.Unread, "PA", "burnt, nothing left to read");
        Check(InSpiteOf("pickup", burnt), c)!.Text.ShouldContain("PK");
        Check(InSpiteOf("pickup", burnt, (StepLock.Unread, "PK", "as the pan")), c).ShouldBeNull();
        Check(InSpiteOf("pickup", burnt, (StepLock.Unread, "PK", "as the pan")), c, lead: false)!.Remedy.ShouldContain("Ask a lead");
        Check(InSpiteOf("pickup", burnt, (StepLock.Unread, "PK", " ")), c)!.Text.ShouldContain("PK");
        c.Findings.AddRange([Start.Saw("PA", "pan-bearing-metal", 0), Start.Saw("PK", "sludge", 1)]);
        Check(Record("pickup"), c, lead: false).ShouldBeNull();
    }

    /// <summary>Whatever is passed, every other obstacle stays where it is.</summary>
    [Fact]
    public void A_reason_passes_one_obstacle_and_no_other()
    {
        var c = Upto("pickup");
        c.FastenerMoves.Add(Move("pickup", "pump", 5));
        Own(c, "pickup", s => s.Parts = true);
        var holding = Holding(c, "pickup");
        holding.Select(o => o.Lock).ShouldBe([StepLock.Unread, StepLock.Unread, StepLock.FastenersOut]);
        foreach (var closed in holding)
        {
            var others = holding.Where(o => o != closed).Select(o => (o.Lock, o.Of, "a reason")).ToArray();
            Check(InSpiteOf("pickup", [.. others, (closed.Lock, closed.Of, " ")]), c)!.Text.ShouldBe(closed.Says);
        }

        Check(Record("pickup", "one sentence for all"), c)!.Field.ShouldBe("unread");
        Check(InSpiteOf("pickup", [.. holding.Select(o => (o.Lock, o.Of, "a reason"))]), c).ShouldBeNull();
    }

    [Fact]
    public void Reading_any_sign_of_a_part_is_enough_and_the_lock_names_what_it_would_lose()
    {
        var c = General();
        IReadOnlyList<string> Lost(string place) =>
            Plan(c).Steps.Single(s => s.Id == "wash").Unread.SingleOrDefault(u => u.Place == place)?.Signs ?? [];

        Lost("PA").ShouldBe(KnowledgeBase.BuiltIn.SignsOn("pan").Where(s => s.DestroyedBy.Contains(Act.Washing)).Select(s => s.Name));
        Lost("R3U").ShouldNotBeEmpty();
        c.Findings.Add(Start.Saw("PA", "sludge", 0));
        Lost("PA").ShouldBeEmpty();
    }

    /// <summary>Common practice, no source: the joint under a head is seen when the head is off, and by nobody before.</summary>
    [Fact]
    public void Evidence_that_can_only_be_seen_afterwards_does_not_hold_a_step_back()
    {
        var c = Upto("head");
        Own(c, "head", s => (s.ReadFirst, s.Acts) = (["head-joint", "valve-cover"], []));
        Plan(c).Steps.Single(s => s.Id == "head").Unread.Select(u => u.Place).ShouldBe(["H1V"], "the joint is laid open by the step itself");
    }

    [Fact]
    public void A_step_is_not_done_without_the_ticks_that_matter_whatever_the_reason()
    {
        var c = Upto("isolate");
        var must = Plan(c).Steps.Single(s => s.Id == "isolate").Must;
        must.ShouldNotBeEmpty();
        foreach (var item in must)
        {
            Check(InSpiteOf("isolate", (StepLock.Tick, $"{item}", "no time"), (StepLock.Empty, "", "no time")), c)!.Field.ShouldBe("tick");
            c.StepMarks.Add(Tick("isolate", item));
        }

        Check(Record("isolate"), c).ShouldBeNull();
    }

    [Fact]
    public void A_step_done_empty_is_asked_about()
    {
        var c = Upto("running-tests");
        Check(Record("running-tests"), c, lead: false)!.Field.ShouldBe("empty");
        Check(InSpiteOf("running-tests", (StepLock.Empty, "", "it is locked solid")), c, lead: false).ShouldBeNull();
        c.StepMarks.Add(Tick("running-tests", 0));
        Check(Record("running-tests"), c, lead: false).ShouldBeNull();
    }

    [Fact]
    public void Leaving_a_step_out_keeps_closed_what_is_behind_it_and_says_so()
    {
        var c = Upto("head");
        Plan(c).Steps.Single(s => s.Id == "head").Closes.ShouldContain("Rod caps and pistons out");
        c.Steps.Add(Record("head", "the customer wants the head left", StepState.Skipped));
        var plan = Plan(c);
        plan.Steps.Single(s => s.Id == "rod-caps").ClosedBy.ShouldBe("Cylinder head off");
        plan.Next.ShouldNotBe("rod-caps");
        Check(Record("rod-caps"), c)!.Field.ShouldBe("order");
        plan.Steps.SkipWhile(s => s.ClosedBy.Length == 0).ShouldAllOfSomeBe(s => s.ClosedBy.Length > 0, "what stays closed stands at the end");
        LooseEnds
            .Of(c, Start.Table(c.Layout), plan, Start.Today)
            .ShouldContain(e => e.Kind == LooseKind.StaysClosed && e.Text.ToString().Contains("Cylinder head off"));
    }

    [Fact]
    public void A_test_that_was_left_out_closes_nothing()
    {
        var c = Upto("running-tests");
        c.Steps.Add(Record("running-tests", "it is locked solid", StepState.Skipped));
        var plan = Plan(c);
        plan.Steps.ShouldAllOfSomeBe(s => s.ClosedBy == "");
        plan.Next.ShouldBe("isolate");
    }

    [Fact]
    public void What_was_off_when_it_came_frees_what_is_behind_it_and_only_who_may_open_the_order_says_so()
    {
        var c = Upto("head");
        var found = Record("head", "it came in a box", StepState.WasOff);
        Check(found, c, lead: false)!.Field.ShouldBe("state");
        Check(Record("head", " ", StepState.WasOff), c)!.Field.ShouldBe("reason");
        Check(found, c).ShouldBeNull();
        c.Steps.Add(found);
        c.SignOffs.Add(Sign("head"));
        Plan(c).Steps.Single(s => s.Id == "invert").BlockedBy.ShouldBeEmpty();
        LooseEnds.Of(c, Start.Table(c.Layout), Plan(c), Start.Today).ShouldNotContain(e => e.Kind == LooseKind.Nowhere && e.Place.StartsWith('H'));
    }

    [Fact]
    public void A_signature_goes_stale_when_the_step_changes()
    {
        var c = Upto("head");
        Fulfil(c, "head");
        c.Steps.Add(Record("head"));
        var sign = Sign("head");
        sign.Seen = Book(c).Seen("head");
        c.SignOffs.Add(sign);
        Book(c).SignatureOf("head").ShouldBe(sign);
        // A bolt that was counted out and never was voids it; one that goes back in, as all do in the end, does not.
        var counted = c.FastenerMoves.First(m => m.Step == "head");
        c.FastenerMoves.Remove(counted);
        Stale();
        c.FastenerMoves.Add(counted);
        var back = Move("head", "head", 1, FastenerState.BackIn);
        c.FastenerMoves.Add(back);
        Book(c).SignatureOf("head").ShouldBe(sign);
        // One that was signed with a bolt back in already, as it was kept then.
        sign.Seen = sign.Seen.Replace($"head={counted.Count}/", $"head={counted.Count - 1}/", StringComparison.Ordinal);
        Book(c).SignatureOf("head").ShouldBe(sign);
        c.FastenerMoves.Remove(back);
        sign.Seen = Book(c).Seen("head");
        Own(c, "head", s => s.Does += " And look at the water holes.");
        Stale();
        void Stale()
        {
            Book(c).SignatureOf("head").ShouldBeNull();
            Plan(c).Steps.Single(s => s.Id == "head").Stale.ShouldBeTrue();
            Check(Record("invert"), c)!.Text.ShouldContain("changed since it was signed");
            LooseEnds.Of(c, Start.Table(c.Layout), Plan(c), Start.Today).ShouldContain(e => e.Kind == LooseKind.Unsigned);
        }
    }

    [Fact]
    public void A_signature_of_another_shop_opens_nothing_here()
    {
        var c = Upto("head");
        c.Steps.Add(Record("head"));
        var elsewhere = Sign("head");
        elsewhere.Imported = true;
        c.SignOffs.Add(elsewhere);
        Check(Record("invert"), c)!.Field.ShouldBe("holdPoint");
        StepRules.CheckSign(Sign("head", "tomas"), Book(c), "tomas", maySign: true, "lead", otherEyes: true).ShouldBeNull();
        c.SignOffs.Add(Sign("head", "tomas"));
        Check(Record("invert"), c).ShouldBeNull();
    }

    [Fact]
    public void Where_the_shop_wants_two_pairs_of_eyes_nobody_signs_what_he_did()
    {
        var c = Upto("head");
        Problem? Signed(string by, bool maySign = true, bool otherEyes = true) =>
            StepRules.CheckSign(Sign("head", by), Book(c), by, maySign, "lead", otherEyes);

        Signed("ines")!.Text.ShouldContain("not done yet");
        c.Steps.Add(Record("head"));
        c.Steps[^1].By = "ines";
        Signed("ines")!.Field.ShouldBe("by");
        Signed("ines", otherEyes: false).ShouldBeNull();
        Signed("tomas").ShouldBeNull();
        Signed("tomas", maySign: false)!.Field.ShouldBe("role");
        c.SignOffs.Add(Sign("head", "tomas"));
        Signed("ada")!.Text.ShouldContain("tomas");
    }

    [Fact]
    public void A_lock_is_taken_out_of_a_step_only_by_who_may_open_it()
    {
        static StripStep Guarded(Action<StripStep>? change = null)
        {
            var step = new StripStep
            {
                Id = "s",
                Name = "S",
                HoldPoint = true,
                Parts = true,
                After = new() { ["a"] = "it is under it" },
                ReadFirst = ["pan"],
                Acts = [Act.Wiping],
                Ticks = ["so", "or so"],
                Must = ["so"],
            };
            change?.Invoke(step);
            return step;
        }

        string? Refused(Action<StripStep> change, params StepLock[] may) => StepRules.Loosens(Guarded(), Guarded(change), may.Contains)?.Field;

        Refused(s => s.HoldPoint = false).ShouldBe("holdPoint");
        Refused(s => s.ReadFirst = []).ShouldBe("readFirst");
        Refused(s => s.Acts = []).ShouldBe("readFirst");
        Refused(s => s.After = []).ShouldBe("after");
        Refused(s => s.StaysClosed = false).ShouldBe("after");
        Refused(s => s.Parts = false).ShouldBe("parts");
        Refused(s => s.Must = []).ShouldBe("must");
        Refused(s => s.Name = "Another name").ShouldBeNull();
        Refused(s => s.After = [], StepLock.Unread).ShouldBe("after");
        Refused(s => s.After = [], StepLock.Order).ShouldBeNull();
    }

    [Fact]
    public void What_was_passed_stays_in_the_loose_ends()
    {
        var c = Upto("pan");
        c.Steps.Add(InSpiteOf("pan", (StepLock.FastenersOut, "pan", "one was missing on arrival")));
        LooseEnds
            .Of(c, Start.Table(c.Layout), Plan(c), Start.Today)
            .Single(e => e.Kind == LooseKind.InSpite)
            .Text.ToString()
            .ShouldContain("one was missing on arrival");
    }

    [Fact]
    public void A_step_that_is_done_one_by_one_comes_on_by_cylinder()
    {
        var c = General();
        c.OwnSteps.Add(
            new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Reason = "they are pressed out here",
                Step = new StripStep
                {
                    Id = "pistons",
                    Name = "Pins out",
                    After = new() { ["rod-caps"] = "they hang on the rods" },
                    Per = FastenerCount.PerCylinder,
                    OneAtATime = true,
                },
            }
        );
        c.Steps.AddRange(Plan(c).Steps.Where(s => s.Id is not ("rod-caps" or "pistons")).Select(s => Record(s.Id)));
        c.SignOffs.AddRange(c.Steps.Select(s => Sign(s.Step)));
        c.Findings.AddRange(Start.Table(c.Layout).All.Select(a => Start.Saw(a.Code, "any", 0)));
        Holding(c, "pistons", 4).Select(o => (o.Lock, o.Of)).ShouldBe([(StepLock.Order, "rod-caps")]);
        c.FastenerMoves.Add(Move("rod-caps", "rods", 2));
        var four = Record("rod-caps");
        (four.Stations, four.Per) = ([4], FastenerCount.PerCylinder);
        c.StepMarks.Add(Tick("rod-caps", 0));
        Check(four, c).ShouldBeNull();
        c.Steps.Add(four);
        var plan = Plan(c);
        plan.Steps.Single(s => s.Id == "rod-caps").ShouldSatisfyAllConditions(s => s.State.ShouldBeNull(), s => s.StationsDone.ShouldBe([4]));
        Holding(c, "pistons", 4).ShouldBeEmpty("only the cap of 4 is in the way of piston 4");
        Holding(c, "pistons", 5).Select(o => (o.Lock, o.Of)).ShouldBe([(StepLock.Order, "rod-caps")]);
        plan.LaidOpen(Start.Table(c.Layout)).ShouldContain("R4U");
        plan.LaidOpen(Start.Table(c.Layout)).ShouldNotContain("R5U");
        var again = Record("rod-caps");
        (again.Stations, again.Per) = ([4], FastenerCount.PerCylinder);
        Check(again, c)!.Field.ShouldBe("stations");
        again.Stations = [7];
        Check(again, c)!.Text.ShouldContain("1 to 6");

        // Number one at the other end: what was cylinder 4 is cylinder 3, and the caps of 3 are off.
        RenumberCase.Apply(c, Core.Index.Renumber.Layout(c.Layout, CrankEnd.DriveEnd, c.Layout.Numbering, c.Layout.BankAOnTheLeft), "wrong end");
        Plan(c).Steps.Single(s => s.Id == "rod-caps").StationsDone.ShouldBe([3]);
        c.Steps.Add(Record("rod-caps", "the rest stays shut", StepState.Skipped));
        Holding(c, "pistons", 3).ShouldBeEmpty();
        Plan(c).Steps.Single(s => s.Id == "pistons").ClosedBy.ShouldBeEmpty("the piston of 3 is free");
    }
}
