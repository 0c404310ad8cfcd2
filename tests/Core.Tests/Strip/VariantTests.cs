using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class VariantTests
{
    private static readonly EngineLayout Four = Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2], ValveGear = ValveGear.Overhead };

    private static EngineCase By(params string[] variants)
    {
        var c = Start.Case(Four);
        c.Script = "chain-ohc-four";
        c.Variants = [.. variants];
        return c;
    }

    private static string? Refused(EngineCase c, params string[] ids) =>
        StripVariants.Check(ids, c.StripLog(), KnowledgeBase.BuiltIn.Script("chain-ohc-four")!)?.Text.Say();

    public static TheoryData<string, string> Ways() => [.. KnowledgeBase.BuiltIn.StripScripts.SelectMany(s => s.Variants, (s, v) => (s.Id, v.Id))];

    /// <summary>Whoever goes another way gets a plan to its end, with no step that waits for one that is left out.</summary>
    [Theory]
    [MemberData(nameof(Ways))]
    public void Every_other_way_is_planned_to_its_end(string script, string variant)
    {
        var s = KnowledgeBase.BuiltIn.Script(script)!;
        var v = s.Variants.Single(x => x.Id == variant);
        var layout = ScriptTests.KindOf(script);
        var c = Start.Case(layout);
        (c.Script, c.Variants) = (script, [variant]);
        StripVariants.Check([variant], c.StripLog(), s).ShouldBeNull();
        var plan = StripTests.Plan(c);
        plan.Variants.Single(x => x.Id == variant).Chosen.ShouldBeTrue();
        v.Says.ShouldNotBeEmpty();
        var ahead = plan.Steps.Where(x => !x.Beyond).ToArray();
        ahead.Select(x => x.Id).ShouldNotContain(id => v.Drops.Contains(id) && !v.Steps.Exists(o => o.Id == id));
        if (v.Until.Count > 0)
        {
            v.Until.Where(id => plan.Steps.Any(p => p.Id == id)).ShouldAllOfSomeBe(id => ahead.Any(a => a.Id == id));
            plan.MinutesLeft.ShouldBe(ahead.Sum(a => a.Minutes), 1e-9);
        }

        // Walked as planned, each step is free when its turn comes.
        for (var i = 0; i < ahead.Length; i++)
        {
            var at = StripTests.Plan(c);
            var next = at.Steps.Single(x => x.Id == at.Next);
            ahead.ShouldContain(a => a.Id == next.Id);
            next.BlockedBy.ShouldBeEmpty($"{script}/{variant}: {next.Id}");
            c.Steps.Add(StripTests.Record(next.Id));
            c.SignOffs.Add(StripTests.Sign(next.Id));
        }

        StripTests.Plan(c).Next.ShouldBeNull();
    }

    [Fact]
    public void Top_end_only_ends_with_the_head_and_leaves_the_rest_shut()
    {
        var plan = StripTests.Plan(By("top-end"));
        plan.Steps.Single(s => s.Id == "crank-out").Beyond.ShouldBeTrue();
        plan.Steps.Single(s => s.Id == "head").Beyond.ShouldBeFalse();
        plan.MinutesLeft.ShouldBeLessThan(StripTests.Plan(By()).MinutesLeft / 1.5);
        plan.Steps.SkipWhile(s => !s.Beyond).ShouldAllOfSomeBe(s => s.Beyond);
    }

    /// <summary>Common practice, no source: with the chain hung up and kept tight, neither cover nor pan comes off.</summary>
    [Fact]
    public void With_the_chain_kept_the_cover_stays_on()
    {
        var plan = StripTests.Plan(By("chain-kept"));
        plan.Steps.ShouldNotContain(s => s.Id == "timing-cover" || s.Id == "pan");
        plan.Steps.Single(s => s.Id == "tensioner").Does.ShouldContain("kept tight");
    }

    private static StripPlan On(EngineLayout layout, params string[] variants)
    {
        var c = Start.Case(layout);
        c.Variants = [.. variants];
        return StripTests.Plan(c);
    }

    /// <summary>Common practice, no source: it is lifted out of what it sits in, hangs until the stand holds it, and is turned there by one person.</summary>
    [Fact]
    public void Out_of_the_vehicle_and_on_a_stand()
    {
        var plan = On(Four, "in-vehicle", "on-stand");
        var at = plan.Steps.Select((s, i) => (s.Id, i)).ToDictionary(x => x.Id, x => x.i);
        at["running-tests"].ShouldBeLessThan(at["out-of-vehicle"]);
        at["drain-coolant"].ShouldBeLessThan(at["out-of-vehicle"]);
        at["out-of-vehicle"].ShouldBeLessThan(at["drive-side"]);
        at["out-of-vehicle"].ShouldBeLessThan(at["on-the-stand"]);
        at["drive-side"].ShouldBeLessThan(at["on-the-stand"], "arms at that face need it bare");
        at["on-the-stand"].ShouldBeLessThan(at["invert"]);
        var lift = plan.Steps.Single(s => s.Id == "out-of-vehicle");
        lift.Source.MayHold.ShouldContain(h => h.Contains("torque converter", StringComparison.OrdinalIgnoreCase));
        lift.Helper.ShouldBeTrue();
        plan.Steps.Single(s => s.Id == "invert").Helper.ShouldBeFalse();
        On(Four).Steps.Single(s => s.Id == "invert").Helper.ShouldBeTrue();
        On(Four).Steps.ShouldNotContain(s => s.Id == "out-of-vehicle" || s.Id == "on-the-stand");
    }

    /// <summary>A script says where such engines have their flywheel; one that has it at the other end is walked round to.</summary>
    [Fact]
    public void A_step_is_done_at_the_end_where_this_engine_has_the_thing()
    {
        StripPlan Ends(EngineEnds ends) => On(Four with { Ends = ends });
        Ends(new()).Steps.Single(s => s.Id == "drive-side").End.ShouldBe(CrankEnd.DriveEnd);
        Ends(new() { Flywheel = CrankEnd.FreeEnd }).Steps.Single(s => s.Id == "drive-side").End.ShouldBe(CrankEnd.FreeEnd);
        // A step that is done at no end in particular is done at none here either.
        Ends(new() { Flywheel = CrankEnd.FreeEnd }).Steps.Single(s => s.Id == "pan").End.ShouldBeNull();
    }

    public static TheoryData<string> Families() => [.. KnowledgeBase.BuiltIn.Families.Select(f => f.Id)];

    /// <summary>Every family leaves what it sits in by a step of its own or by choice, and has its accessories off before it is opened.</summary>
    [Theory]
    [MemberData(nameof(Families))]
    public void Every_family_can_be_lifted_out_and_stripped_of_what_hangs_on_it(string id)
    {
        var family = KnowledgeBase.BuiltIn.Families.Single(f => f.Id == id);
        var script = StripPlanner.Fitting(family.Layout, KnowledgeBase.BuiltIn).First();
        StripStep[] steps = [.. script.Steps, .. script.Variants.SelectMany(v => v.Steps)];
        string[] lifted = ["out-of-vehicle", "out-of-frame", "powerhead-off", "pump-off", "engine-from-frame"];
        steps.ShouldContain(s => lifted.Contains(s.Id));

        string[] hangs =
        [
            "starter",
            "alternator",
            "water-pump",
            "thermostat",
            "oil-cooler",
            "turbocharger",
            "carburettor",
            "gas-mixer",
            "exhaust-manifold",
        ];
        var table = Start.Table(family.Layout);
        var off = script.Steps.Where(s => s.Applies.Fits(family.Layout)).SelectMany(s => s.Releases.Concat(s.Exposes)).ToHashSet();
        if (family.Layout is { Cycle: WorkingCycle.FourStroke, GearboxInCase: false, Cylinders: > 2 })
        {
            hangs.Where(k => table.OfKind(k).Any()).ShouldBe(hangs.Where(k => table.OfKind(k).Any() && off.Contains(k)));
        }
    }

    [Fact]
    public void Ways_that_contradict_each_other_are_refused_by_name()
    {
        Refused(By(), "chain-kept", "cams-later")!.ShouldContain("cannot be had together");
        Refused(By(), "cams-later", "chain-kept")!.ShouldContain("cannot be had together");
        Refused(By(), "cams-later", "crank-first")!.ShouldContain("“Cylinder head off”".Replace("Cylinder head", "Head"));
        Refused(By(), "moon")!.ShouldContain("moon");
        Refused(By(), "top-end", "cams-later").ShouldBeNull();
    }

    [Fact]
    public void A_way_that_comes_too_late_is_refused_and_the_plan_says_why()
    {
        var c = By();
        c.Steps.Add(StripTests.Record("tensioner"));
        Refused(c, "chain-kept")!.ShouldContain("recorded already");
        var offered = StripTests.Plan(c).Variants.Single(v => v.Id == "chain-kept");
        offered.Refused!.ShouldContain("Tensioner out");
        StripTests.Plan(c).Variants.Single(v => v.Id == "top-end").Refused.ShouldBeNull();
    }

    [Fact]
    public void Two_that_would_wait_for_one_another_are_refused()
    {
        StripVariant Way(string id, string step, string after) =>
            new()
            {
                Id = id,
                Name = id,
                Alters = new() { [step] = new Alteration { After = new() { [after] = "so it is" } } },
            };
        var script = new StripScript
        {
            Id = "x",
            Name = "X",
            Steps = [new StripStep { Id = "a", Name = "A" }, new StripStep { Id = "b", Name = "B" }],
            Variants = [Way("one", "a", "b"), Way("two", "b", "a")],
        };
        StripVariants.Check(["one"], By().StripLog(), script).ShouldBeNull();
        StripVariants.Check(["one", "two"], By().StripLog(), script)!.Text.ShouldContain("cycle");
    }

    [Fact]
    public void Digging_takes_another_way_where_that_is_less_and_says_which()
    {
        var c = By();
        var table = Start.Table(c.Layout);
        DigPlan Dig(string target) => Digger.To(target, c.StripLog(), table, KnowledgeBase.BuiltIn);

        // The crankpin is seen with head and pistons left in.
        var pin = Dig("K2");
        pin.VariantId.ShouldBe("crank-first");
        pin.Steps.ShouldNotContain(s => s.Id == "head");
        Dig("P2T").VariantId.ShouldBe("cams-later", "the ring leaves with the piston through the deck, and the camshaft may stay in the head");
        c.Variants = ["cams-later"];
        Dig("K2").Steps.ShouldContain(s => s.Id == "head", "the two ways cannot be had together");
        c.Variants = [];
        c.Steps.Add(StripTests.Record("head"));
        Dig("K2").VariantId.ShouldBeEmpty("the head is off");
    }

    /// <summary>One cylinder alone costs its own share of each step that is done one by one, and all of what it has in common with the others.</summary>
    [Fact]
    public void Digging_for_one_cylinder_counts_its_share_all_the_way()
    {
        var c = Start.Case(ScriptTests.KindOf("truck-six-in-frame"));
        var table = Start.Table(c.Layout);
        var dig = Digger.To("C5", c.StripLog(), table, KnowledgeBase.BuiltIn);
        dig.Steps.Single(s => s.Id == "head").Share.ShouldBe(1.0 / 6);
        dig.Steps.Single(s => s.Id == "rockers").Share.ShouldBe(1.0 / 6, "the rockers of the others stay");
        dig.Steps.Single(s => s.Id == "ancillaries").Share.ShouldBe(1);
        // With head and rockers of 5 off, its bore lies open; that of 4 does not.
        foreach (var id in dig.Steps.Select(s => s.Id))
        {
            var step = StripTests.Record(id);
            if (dig.Steps.Single(s => s.Id == id).Share < 1)
            {
                (step.Stations, step.Per) = ([5], FastenerCount.PerCylinder);
            }

            c.Steps.Add(step);
        }

        Digger.To("C5", c.StripLog(), table, KnowledgeBase.BuiltIn).Words.ShouldContain("lies open");
        Digger.To("C4", c.StripLog(), table, KnowledgeBase.BuiltIn).Steps.Select(s => s.Id).ShouldBe(["injection-lines", "rockers", "head"]);
    }
}
