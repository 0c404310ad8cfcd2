using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

public sealed class ScriptTests
{
    private static readonly EngineLayout Single = Start.TwoStrokeTwin with
    {
        Arrangement = Arrangement.Single,
        Cylinders = 1,
        FiringOrder = [1],
        Case = CaseBuild.Split,
        Cooling = Cooling.Air,
    };

    private static readonly EngineLayout Four = Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };

    /// <summary>For each script an engine of its kind.</summary>
    private static readonly Dictionary<string, EngineLayout> Kinds = new()
    {
        ["handheld-two-stroke"] = Single,
        ["motorcycle-two-stroke"] = Single with { GearboxInCase = true },
        ["motorcycle-four-stroke"] = Single with
        {
            Cycle = WorkingCycle.FourStroke,
            GearboxInCase = true,
            ValveGear = ValveGear.Overhead,
            RingsPerPiston = 3,
        },
        ["small-air-cooled"] = Single with
        {
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            Case = CaseBuild.Block,
            ValveGear = ValveGear.Side,
            RingsPerPiston = 3,
        },
        ["vee-twin"] = Start.VeeEight with
        {
            Cylinders = 2,
            FiringOrder = [1, 2],
            FiringAngles = [0, 315],
            Bearings = BearingType.Rolling,
            Cooling = Cooling.Air,
            Case = CaseBuild.Split,
        },
        ["motorcycle-four"] = Four with
        {
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
            CamPhasers = false,
            Case = CaseBuild.Split,
            GearboxInCase = true,
        },
        ["twin-cam-four-chain"] = Four with { ValveGear = ValveGear.TwinOverhead, InletValves = 2, ExhaustValves = 2, CamDrive = CamDrive.Chain },
        ["twin-cam-four-belt"] = Four with
        {
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
            CamDrive = CamDrive.Belt,
            CamPhasers = false,
        },
        ["pushrod-four"] = Four with { CamDrive = CamDrive.Chain },
        ["pushrod-six"] = Start.InlineSix with { CamDrive = CamDrive.Chain },
        ["gas-six"] = Start.InlineSix with
        {
            Fuel = FuelSystem.Gas,
            CamDrive = CamDrive.Gears,
            Bores = BoreBuild.WetLiner,
            Charging = Charging.Turbocharger,
        },
        ["side-valve-six"] = Start.InlineSix with { ValveGear = ValveGear.Side, MainsAfter = [0, 2, 4, 6] },
        ["diesel-four-common-rail"] = Four with
        {
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
            Fuel = FuelSystem.Diesel,
            Feed = DieselFeed.CommonRail,
            CamDrive = CamDrive.Belt,
            CamPhasers = false,
            Bores = BoreBuild.Parent,
        },
        ["two-stroke-twin-split-case"] = Start.TwoStrokeTwin with { Case = CaseBuild.Split },
        ["outboard-three"] = Start.TwoStrokeTwin with
        {
            Cylinders = 3,
            FiringOrder = [1, 2, 3],
            Crank = CrankBuild.OnePiece,
            Case = CaseBuild.Split,
            Bores = BoreBuild.Parent,
        },
        ["chain-ohc-four"] = Four with { ValveGear = ValveGear.Overhead },
        ["twin-cam-six"] = Start.InlineSix with { ValveGear = ValveGear.TwinOverhead, InletValves = 2, ExhaustValves = 2 },
        ["twin-cam-v6"] = Start.VeeEight with
        {
            Cylinders = 6,
            FiringOrder = [1, 2, 3, 4, 5, 6],
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
        },
        ["pushrod-v8"] = Start.VeeEight,
        ["flat-four"] = Start.FlatFour with { Case = CaseBuild.Split, Cooling = Cooling.Air },
        ["side-valve-four"] = Four with { ValveGear = ValveGear.Side },
        ["diesel-three"] = Start.InlineSix with { Cylinders = 3, FiringOrder = [1, 3, 2], Fuel = FuelSystem.Diesel },
        ["truck-six-in-frame"] = Start.InlineSix with { Fuel = FuelSystem.Diesel },
        ["two-stroke-twin-bed-plate"] = Start.TwoStrokeTwin,
        ["general"] = Start.InlineSix with { ValveGear = ValveGear.Overhead },
    };

    public static TheoryData<string> Scripts() => [.. KnowledgeBase.BuiltIn.StripScripts.Select(s => s.Id)];

    /// <summary>An engine of the kind that a script is for.</summary>
    internal static EngineLayout KindOf(string script) => Kinds[script];

    [Fact]
    public void There_is_a_script_for_each_kind_of_engine()
    {
        KnowledgeBase.BuiltIn.StripScripts.Select(s => s.Id).Order().ShouldBe(Kinds.Keys.Order());
        foreach (var (id, layout) in Kinds)
        {
            StripPlanner.ScriptOf(Start.Case(layout).StripLog(), KnowledgeBase.BuiltIn).Id.ShouldBe(id);
        }
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void A_script_goes_from_arrival_to_the_bare_block(string id)
    {
        var plan = StripTests.Plan(Start.Case(Kinds[id]));
        plan.Steps[0].Id.ShouldBe("record");
        plan.Steps[^1].Id.ShouldBe("wash");
        var table = Start.Table(Kinds[id]);
        var off = plan.Steps.SelectMany(s => s.Releases).ToHashSet();
        // Every piston, rod, head and joint is off at the end; the crankshaft too, but for an engine that stays in its frame.
        string[] must = id == "truck-six-in-frame" ? ["piston", "rod", "head", "liner", "main-shell-upper"] : ["piston", "crankshaft"];
        must.ShouldAllOfSomeBe(k => off.Contains(k));
        foreach (var kind in off.Concat(plan.Steps.SelectMany(s => s.Exposes)).Where(k => table.OfKind(k).Any()).Distinct())
        {
            Digger.To(table.OfKind(kind).First().Code, Start.Case(Kinds[id]).StripLog(), table, KnowledgeBase.BuiltIn).Steps.ShouldNotBeEmpty();
        }
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void Nothing_is_washed_before_it_was_read_and_a_cap_goes_back_on_its_rod(string id)
    {
        var steps = StripPlanner.StepsOf(Start.Case(Kinds[id]).StripLog(), KnowledgeBase.BuiltIn.Script(id)!);
        steps.Single(s => s.Id == "wash").ReadFirst.ShouldNotBeEmpty();
        foreach (var step in steps.Where(s => s.Releases.Contains("rod-cap") && s.Releases.Contains("rod-shell-upper")))
        {
            (step.Does + string.Join(' ', step.Ticks)).ToLowerInvariant().ShouldMatch("cap (refitted|back)");
        }
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void Timing_is_marked_before_a_chain_or_gear_is_disturbed(string id)
    {
        var order = StripTests.Plan(Start.Case(Kinds[id])).Steps.Select(s => s.Id).ToList();
        foreach (var marks in new[] { "timing-marks" }.Where(order.Contains))
        {
            foreach (var disturbs in new[] { "tensioner", "phasers", "camshaft-out", "timing-cover" }.Where(order.Contains))
            {
                order.IndexOf(marks).ShouldBeLessThan(order.IndexOf(disturbs), $"{id}: {disturbs}");
            }
        }
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void Notes_are_whole_sentences_and_lists_were_not_cut_at_a_comma(string id)
    {
        var steps = KnowledgeBase.BuiltIn.Script(id)!.Steps;
        steps
            .SelectMany(s => s.Ticks.Concat(s.Cautions).Concat(s.MayHold).Concat(s.Photos), (s, text) => (s.Id, Text: text))
            .ShouldAllOfSomeBe(t => char.IsUpper(t.Text[0]));
        steps.SelectMany(s => s.After.Values, (s, why) => (s.Id, Why: why)).ShouldAllOfSomeBe(a => a.Why.EndsWith('.'));
    }

    /// <summary>Common practice, no source: compression and leak-down cannot be had once the head is off, and nothing is cranked before it was turned by hand.</summary>
    [Theory]
    [MemberData(nameof(Scripts))]
    public void Compression_and_leak_down_stand_before_the_head_comes_off(string id)
    {
        var steps = StripPlanner.StepsOf(Start.Case(Kinds[id]).StripLog(), KnowledgeBase.BuiltIn.Script(id)!);
        var byId = steps.ToDictionary(s => s.Id);
        // A two-stroke has no leak-down to speak of: its case is put under pressure and vacuum.
        var twoStroke = Kinds[id].Cycle == WorkingCycle.TwoStroke;
        var tests = byId[twoStroke ? "two-stroke-tests" : "running-tests"];
        tests.Ticks.ShouldContain(t => t.Contains("Compression"));
        (twoStroke ? byId["pressure-test"] : tests).Ticks.ShouldContain(t => t.Contains(twoStroke ? "Vacuum" : "Leak-down"));
        tests.After.Keys.ShouldContain("record");
        byId["record"].Ticks.ShouldContain(t => t.Contains("by hand"));
        byId["isolate"].After.Keys.ShouldContain(tests.Id);
        string[] opens = ["head", "barrel", "piston", "rod", "crankshaft", "camshaft", "rocker-inlet", "valve-inlet", "timing-chain"];
        var opening = steps.Where(s => s.Releases.Exists(opens.Contains)).ToArray();
        opening.ShouldNotBeEmpty();
        opening.Where(s => !Before(s).Contains(tests.Id)).Select(s => s.Id).ShouldBeEmpty(id);
        if (twoStroke)
        {
            string[] shut = ["barrel", "head", "crankshaft", "crank-seal", "case-half"];
            steps.Where(s => s.Releases.Exists(shut.Contains) && !Before(s).Contains("pressure-test")).Select(s => s.Id).ShouldBeEmpty(id);
        }

        HashSet<string> Before(StripStep step)
        {
            var seen = new HashSet<string>();
            var open = new Stack<StripStep>([step]);
            while (open.TryPop(out var next))
            {
                foreach (var before in next.After.Keys.Where(k => byId.ContainsKey(k) && seen.Add(k)))
                {
                    open.Push(byId[before]);
                }
            }

            return seen;
        }
    }

    /// <summary>“On some” in the text and left-hand on the ledger would contradict each other.</summary>
    [Fact]
    public void A_thread_that_is_left_hand_on_some_only_is_told_as_to_be_checked()
    {
        var steps = KnowledgeBase.BuiltIn.StripScripts.SelectMany(s => s.Steps, (s, step) => (Id: $"{s.Id}/{step.Id}", Step: step)).ToArray();
        steps.SelectMany(s => s.Step.Fasteners).ShouldAllOfSomeBe(f => !(f.LeftHand && f.LeftHandOnSome));
        static bool OnSome(string says) =>
            says.Contains("left-hand") && (says.Contains("on some") || says.Contains("may be") || says.Contains("on most"));
        var some = steps.Where(s => OnSome(string.Join(' ', s.Step.MayHold.Append(s.Step.Does)).ToLowerInvariant()));
        some.ShouldAllOfSomeBe(s => s.Step.Fasteners.All(f => !f.LeftHand) && s.Step.Fasteners.Any(f => f.LeftHandOnSome));
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void Where_no_piston_may_be_near_the_top_the_angle_is_that_of_the_crank_help(string id)
    {
        var c = Start.Case(Kinds[id]);
        (c.Stroke, c.RodLength) = (90, 145);
        var engine = Engine.From(c.Layout);
        var down = CrankHelp.WellDown(engine, 90, 145);
        CrankHelp.At(engine, down.Angle, 90, 145).Min(p => p.Drop).ShouldBe(down.Drop!.Value, 1e-9);
        CrankHelp.AllDown(engine, down.Drop.Value - 0.1, 90, 145).ShouldContain(r => r.From <= down.Angle && down.Angle <= r.To);
        CrankHelp.AllDown(engine, Math.Min(down.Drop.Value + 0.1, 89.999), 90, 145).Count.ShouldBe(down.Drop.Value > 89.9 ? 1 : 0);
        foreach (var step in StripTests.Plan(c).Steps.Where(s => s.Source.PistonsDown))
        {
            step.Crank.ShouldContain($"{down.Angle:0}°");
            step.Crank.ShouldContain($"{down.Drop:0} mm down");
            (step.Does + string.Join(' ', step.Ticks)).ShouldNotContain("°");
        }
    }

    [Fact]
    public void A_script_with_an_unknown_kind_a_cycle_or_a_negative_count_does_not_load()
    {
        Load("[flywheels]", "{}", 1).ShouldContain("flywheels");
        Load("[flywheel]", "{ two: First. }", 1).ShouldContain("in a cycle");
        Load("[flywheel]", "{}", -2).ShouldContain("-2");
        Load("[flywheel]", "{ nine: First. }", 1).ShouldContain("nine");

        static string Load(string exposes, string after, int count)
        {
            var text = $$"""
                - id: x
                  name: X
                  provenance: "common practice, no source"
                  steps:
                    - { id: one, name: One, after: {{after}}, exposes: {{exposes}}, fasteners: [{ id: a, name: bolts, count: {{count}} }] }
                    - { id: two, name: Two, after: { one: First. } }
                """;
            var problem = Should.Throw<ProblemException>(() => CheckedKnowledge.Load([("knowledge/strip/x.yaml", text)])).Problems[0];
            problem.Field.ShouldBe("knowledge/strip/x.yaml:1");
            return problem.Text.Say();
        }
    }
}
