using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

/// <summary>Each script is walked as its plan orders it, and what bites in such an engine is named where it bites. Common practice, no source.</summary>
public sealed class TrapTests
{
    /// <summary>
    /// “a &lt; b” is a step that comes before another; “a: words” is what a step says, in any of its lists; “a &gt; 3 words” is how many fasteners of
    /// that name it counts.
    /// </summary>
    private static readonly Dictionary<string, string[]> Facts = new()
    {
        ["handheld-two-stroke"] =
        [
            // The rope in the plug hole that holds the shaft needs piston and barrel.
            "flywheel < barrel",
            "clutch < barrel",
            "pressure-test < barrel",
            "two-stroke-tests < starter",
            "silencer < pressure-test",
            "clutch: left-hand",
            "flywheel: rope",
            "air-and-carburettor: counted in turns",
            "starter: recoil spring flies",
            "barrel: no twist",
            "case-split: never by a blade",
        ],
        ["motorcycle-two-stroke"] =
        [
            "two-stroke-tests < out-of-frame",
            "pressure-test < head",
            "pressure-test < reed",
            "drain-gear-oil: magnet",
            "clutch: staked",
            "clutch: left-hand",
            "clutch-cover: behind the water pump",
            "barrel: power valve link",
            "magneto-cover: holder",
            "case-split: under the oil puddle",
            "gearbox: Shims tied",
            "shifter: ball",
        ],
        ["two-stroke-twin-bed-plate"] =
        [
            "pressure-test < head",
            "pressure-test < bed-plate",
            "exhaust < pressure-test",
            // No piston leaves through the deck that it stands on.
            "upright-again < pistons",
            "head < turn-over",
            "ignition: Mark the plate",
            "bed-plate: behind the drain plug",
            "crank-out: Needles counted",
            "mark-rods < crank-out",
            "turn-over: cannot roll",
        ],
        ["motorcycle-four-stroke"] =
        [
            "running-tests < out-of-frame",
            "valve-cover: clearances read",
            "timing-marks < tensioner",
            "tensioner < head",
            "head: chain tunnel",
            "clutch-side: left-hand",
            "clutch-side: Balance gear marks",
            "clutch-side: under the filter cover",
            "magneto: never by the teeth",
            "case-split: inside the chain tunnel",
            "barrel: cloth",
            "oil-filter < clutch-side",
        ],
        ["small-air-cooled"] =
        [
            "running-tests < flywheel",
            "valve-cover < head",
            "head: Ridge",
            "governor-link: every hole",
            "governor-link < fuel-side",
            "on-end: polished",
            "case-cover: Rust on the drive shaft",
            "timing-marks < rod-cap",
            "rod-cap: Cap refitted",
            "crank-out: magnets",
            "flywheel: blade strike",
        ],
        ["chain-ohc-four"] =
        [
            "running-tests < head",
            "valve-cover < timing-marks",
            "timing-marks < tensioner",
            "pistons-down < camshaft-out",
            "crack-pulley < drive-side",
            "ridge < rods",
            "ridge < invert",
            "pan < pulley",
            "drive-side < crank-out",
            "head: chain tunnel",
            "camshaft-out: quarter turn",
            "mark-rods < rods",
            "rods: Cap refitted",
        ],
        ["twin-cam-six"] =
        [
            // The pin that locks the timing sits in the flywheel.
            "timing-marks < drive-side",
            "crack-pulley < drive-side",
            "timing-marks < phasers",
            "phasers < camshaft-out",
            "phasers: never by the locking bar",
            "phasers: left-hand",
            "pistons-down < camshaft-out",
            "ridge < rods",
            "pickup < mark-rods",
            "camshaft-out: vacuum pump",
            "drive-side < crank-out",
        ],
        ["twin-cam-v6"] =
        [
            "timing-marks < drive-side",
            "crack-pulley < drive-side",
            "ancillaries: from the back",
            "timing-cover < tensioner",
            "upright-again < tensioner",
            "tensioner: Pin each plunger",
            "timing-cover: engine mount",
            "head: left and right",
            "invert-again < rods",
            "mark-rods: share a pin",
            "ridge < rods",
        ],
        ["pushrod-v8"] =
        [
            // The stop that finds top dead centre sits in the plug hole.
            "timing-marks < head",
            "timing-marks: stop",
            "crack-pulley < drive-side",
            "lifters < camshaft-out",
            "lifters: never meets another lobe",
            "timing-cover: dot to dot",
            "pulley: never on the outer ring",
            "pan: drive rod falls",
            "ridge < rods",
            "mark-rods: share a pin",
            "ancillaries: end bolts angle in",
            "crank-out: Rope seal",
        ],
        ["twin-cam-four-chain"] =
        [
            "timing-marks < drive-side",
            "crack-pulley < drive-side",
            "timing-marks: Coloured links",
            "camshaft-out: hexagon",
            "camshaft-out: left-hand",
            "camshaft-out: Rail pressure",
            "pistons-down < camshaft-out",
            "ridge < rods",
            "running-tests: Fault memory",
            "drive-side: two masses",
        ],
        ["twin-cam-four-belt"] =
        [
            // The marks are behind the pulley, so it comes off upright and first.
            "pulley < timing-marks",
            "timing-marks < tensioner",
            "timing-marks: Direction of the belt",
            "timing-marks: engine mount",
            "tensioner < pistons-down",
            "pistons-down < camshaft-out",
            "head: broken belt bent",
            "timing-cover: pan flange",
            "ridge < rods",
            "crack-pulley < drive-side",
        ],
        ["pushrod-four"] =
        [
            "timing-marks < head",
            "valve-cover: Adjusters",
            "valve-cover: lifter comes up",
            "ancillaries: drive washers",
            "lifters < camshaft-out",
            "camshaft-out: Distributor drive",
            "timing-cover: Oil thrower",
            "head: sticks on its studs",
            "ridge < rods",
            "drive-side < crank-out",
        ],
        ["pushrod-six"] =
        [
            "timing-marks < head",
            "head: from both ends",
            "head: lift it level",
            "valve-cover: Adjusters",
            "lifters: never meets another lobe",
            "lifters < camshaft-out",
            "timing-cover: dot to dot",
            "ridge < rods",
            "drive-side < crank-out",
        ],
        ["gas-six"] =
        [
            "running-tests < isolate",
            "isolate: licensed",
            "isolate: Hydrogen sulphide",
            "isolate: Breaker",
            "ancillaries: silica",
            "ancillaries: Turbocharger openings",
            "liners: clamped",
            "liners: oil holes covered",
            "rods < liners",
            "timing-marks < head",
        ],
        ["side-valve-six"] =
        [
            "cartridges: measured in the block first",
            "cartridges: counted",
            "cartridges: stopped with cloth",
            "cartridges: mushroomed",
            "head < cartridges",
            "invert: deck stays free",
            "head: Ridge",
            "drive-side < crank-out",
            "mark-rods: shims",
        ],
        ["diesel-four-common-rail"] =
        [
            "running-tests < rail-down",
            "rail-down < injection-lines",
            "rail-down: through skin",
            "injection-lines: Codes",
            "injection-lines: shears",
            "rail-pump: swarf",
            "timing-marks < drive-side",
            "pistons-down < camshaft-out",
            "head: Notches",
            "camshaft-out: injector wells",
            "ridge < invert",
            "front-cover: Balance shafts marked",
            "crack-pulley: left-hand",
        ],
        ["vee-twin"] =
        [
            "running-tests < out-of-frame",
            "rockers: own compression",
            "rockers: pushrod bends",
            "head: differ",
            "barrel: padded",
            "timing-marks: all gears",
            "timing-marks: left-hand",
            "primary: left-hand",
            "case-split: Run-out",
            "case-split: fitted",
            "oil-pump: read before",
            "piston: never change places",
        ],
        ["motorcycle-four"] =
        [
            "running-tests < out-of-frame",
            "valve-cover < timing-marks",
            "timing-marks: pins",
            "tensioner < camshaft-out",
            "camshaft-out: cap cracks",
            "head: chain tunnel",
            "head: Ridge",
            "clutch-side: turn it while the cover comes",
            "magneto: left alone",
            "case-split: hole map",
            "upright-again < pistons",
            "gearbox: Half rings",
        ],
        ["two-stroke-twin-split-case"] =
        [
            "two-stroke-tests < out-of-frame",
            "silencer < pressure-test",
            "pressure-test < head",
            "clutch-side < head",
            "magneto-side < head",
            "barrel: no twist",
            "barrel: between the barrels",
            "magneto-side: timing is in that mark",
            "clutch-side: never a hammer",
            "case-split: Run-out",
            "out-of-frame: Rubber mounts",
        ],
        ["outboard-three"] =
        [
            "two-stroke-tests < powerhead-off",
            "pressure-test < head",
            "pressure-test < flywheel",
            "exhaust < pressure-test",
            "powerhead-off: Water tube",
            "exhaust: squeaks",
            "head: odd one out",
            "crankcase-front: Taper pins",
            "crank-out: counted",
            "crank-out: Sealing rings",
            "mark-rods < crank-out",
        ],
        ["flat-four"] =
        [
            "running-tests < head",
            "ancillaries: before they are brushed",
            "rockers < head",
            "head < barrels",
            "barrels: does not strike the case",
            "drive-side: End play before",
            "drive-side < case-split",
            "case-split: inside the flywheel bell",
            "case-split: no blade",
            "strainer: before it is wiped",
            "rods: peened",
            "crank-out < rods",
        ],
        ["side-valve-four"] =
        [
            "running-tests < head",
            "head: Ridge",
            "head < cartridges",
            "head < invert",
            // Its studs stand out of the deck, and pistons leave through it.
            "invert: deck stays free",
            "mark-rods: shims",
            "timing-gears: staked",
            "timing-gears < crank-out",
            "drive-side < crank-out",
            "drive-side: safety wire",
            "rods: split pins",
        ],
        ["diesel-three"] =
        [
            "running-tests < injection-lines",
            "injection-lines: through skin",
            "injection-lines: capped",
            "pump-link < gear-case",
            "pump-link: never pry",
            "pump-link: Shim pack",
            "gear-case: Marks of all gears",
            "head: stands out",
            "ridge < rods",
            "camshaft: magnets",
            "crank-out: locating bolt",
            "drive-side < crank-out",
        ],
        ["truck-six-in-frame"] =
        [
            "ancillaries: chocked",
            "ancillaries: tilted cab",
            "raise < pan",
            "rockers: Bridges marked",
            "head: stands out",
            // Coolant and scale fall on what is open below.
            "liners < crank-out",
            "liners: oil holes covered",
            "crank-out: tang first",
            "crank-out: One cap",
            "pan: transmission jack",
            "wash: turned over under a cab",
            "ridge < rods",
        ],
        ["general"] =
        [
            "running-tests < head",
            "ridge < rod-caps",
            "drive-side < crank-out",
            "timing-drive < crank-out",
            "timing-drive: Marks photographed",
            "timing-drive: Direction of running",
            "mark-rods < rod-caps",
            "drive-side: left-hand",
            "head: wedge",
            "pan: two small ones",
            "rod-caps: Refit each cap",
        ],
    };

    public static TheoryData<string> Scripts() => [.. KnowledgeBase.BuiltIn.StripScripts.Select(s => s.Id)];

    [Theory]
    [MemberData(nameof(Scripts))]
    public void What_bites_in_such_an_engine_is_named_where_it_bites(string id)
    {
        var facts = Facts[id];
        facts.Length.ShouldBeGreaterThanOrEqualTo(8);
        Wrong(StripTests.Plan(Start.Case(ScriptTests.KindOf(id))), facts).ShouldBeEmpty(id);
    }

    /// <summary>One script serves engines that come apart otherwise: bores in the case, cams in the heads.</summary>
    [Fact]
    public void A_flat_four_with_its_bores_in_the_case_parts_by_its_pins()
    {
        var family = KnowledgeBase.BuiltIn.Families.Single(f => f.Id == "flat-four-liquid");
        var plan = StripTests.Plan(Start.Case(family.Layout));
        plan.Script.ShouldBe("flat-four");
        plan.Steps.ShouldNotContain(s => s.Id == "barrels" || s.Id == "rockers");
        Wrong(
                plan,
                [
                    "running-tests < ancillaries",
                    "drain-coolant < head",
                    "timing-marks: hexagon",
                    "timing-marks < camshaft-out",
                    "camshaft-out < head",
                    "camshaft-out: fall out downward",
                    "head < pins-through",
                    "pins-through: service hole",
                    "pins-through: Clips counted",
                    "pins-through < case-split",
                    "case-split < pistons-out",
                    "pistons-out: toward the deck",
                    "ancillaries: thermostat come off underneath",
                ]
            )
            .ShouldBeEmpty();
    }

    private static string[] Wrong(StripPlan plan, string[] facts)
    {
        var order = plan.Steps.Select(s => s.Id).ToList();
        return [.. facts.Where(f => !Holds(f))];

        bool Holds(string fact)
        {
            if (fact.Split(" < ") is [var first, var then])
            {
                return order.IndexOf(first) >= 0 && order.IndexOf(first) < order.IndexOf(then);
            }

            var (step, words) = (fact[..fact.IndexOf(':', StringComparison.Ordinal)], fact[(fact.IndexOf(':', StringComparison.Ordinal) + 2)..]);
            return plan.Steps.FirstOrDefault(s => s.Id == step) is { } there
                && Says(there.Source).Contains(words, StringComparison.OrdinalIgnoreCase);
        }
    }

    private static string Says(StripStep step) =>
        string.Join(
            '\n',
            [
                step.Name,
                step.Does,
                step.Crank,
                step.Pattern,
                .. step.Ticks,
                .. step.Tools,
                .. step.Photos,
                .. step.MayHold,
                .. step.Cautions,
                .. step.Fasteners.SelectMany(f => new[] { f.Name, f.Hidden, f.Locking, f.Washers, f.LeftHandOnSome ? "left-hand" : "" }),
            ]
        );

    /// <summary>Of an engine that stays in its frame the mains may be rolled with heads and rods on; the plan takes the usual way, and nothing locks the other.</summary>
    [Fact]
    public void What_is_usual_is_planned_and_not_enforced()
    {
        var c = Start.Case(ScriptTests.KindOf("truck-six-in-frame"));
        foreach (var step in new[] { "record", "running-tests", "isolate", "drain-coolant", "drain-oil", "ancillaries", "raise", "pan", "pickup" })
        {
            c.Steps.Add(
                new StepRecord
                {
                    Id = Guid.CreateVersion7(),
                    Step = step,
                    State = StepState.Done,
                }
            );
        }

        var plan = StripTests.Plan(c);
        var mains = plan.Steps.Single(s => s.Id == "crank-out");
        mains.BlockedBy.ShouldBeEmpty();
        var order = plan.Steps.Select(s => s.Id).ToList();
        order.IndexOf("crank-out").ShouldBeGreaterThan(order.IndexOf("rods"));
        mains.Why.Say().ShouldContain("Usually after");
    }
}
