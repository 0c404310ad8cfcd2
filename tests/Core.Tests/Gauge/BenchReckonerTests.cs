using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class BenchReckonerTests
{
    private static IReadOnlyList<ReckonerResult> Reckon(string id, params (string Id, string Typed)[] typed)
    {
        var reckoner = BenchReckoners.Find(id)!;
        var all = reckoner.Inputs.ToDictionary(i => i.Id, i => i.Example, StringComparer.Ordinal);
        foreach (var (name, text) in typed)
        {
            all.ContainsKey(name).ShouldBeTrue(name);
            all[name] = text;
        }

        return reckoner.Reckon(all);
    }

    private static double First(string id, params (string Id, string Typed)[] typed) => Reckon(id, typed)[0].Value!.Value;

    public static TheoryData<string> Ids() => [.. BenchReckoners.All.Select(r => r.Id)];

    [Theory]
    [MemberData(nameof(Ids))]
    public void Each_comes_with_a_worked_example_a_formula_and_a_source(string id)
    {
        var reckoner = BenchReckoners.Find(id)!;
        reckoner.Equation.ShouldNotBeEmpty();
        reckoner.Source.ShouldNotBeEmpty();
        reckoner.Says.ShouldNotBeEmpty();
        var results = Reckon(id);
        results.ShouldNotBeEmpty();
        results.ShouldAllOfSomeBe(r => r.Value == null ? r.Words.Say().Length > 0 : double.IsFinite(r.Value.Value));
    }

    /// <summary>Whatever is typed into any field, the answer is a result or a problem that names that field.</summary>
    [Theory]
    [MemberData(nameof(Ids))]
    public void Bad_figures_name_their_field(string id)
    {
        foreach (var input in BenchReckoners.Find(id)!.Inputs)
        {
            foreach (var bad in new[] { "", "five", "NaN", "1e308", "999999999", "-1", "0", "12 furlongs", "3/7", "\0", "1,234", "20 bar" })
            {
                try
                {
                    Reckon(id, (input.Id, bad)).ShouldAllOfSomeBe(r => r.Value == null || !double.IsNaN(r.Value.Value));
                }
                catch (ProblemException e)
                {
                    e.Problems[0].Remedy.ShouldNotBeEmpty();
                    if (bad is "" or "five" or "\0" && input.Kind != InputKind.Words)
                    {
                        e.Problems[0].Field.ShouldBe(input.Id);
                    }
                }
            }
        }
    }

    /// <summary>2.000 + 0.075 + 0.022 = 2.097 in (common practice, value from memory).</summary>
    [Fact]
    public void The_thimble_adds_up() => First("thimble").ShouldBe(53.2638, 1e-9);

    /// <summary>
    /// W 500 lbf, 30 rev/s, 4 µreyn (27.58 mPa·s), r 0.75 in, c 0.0015 in, l 1.5 in: S 0.135, h₀ = 0.42 c = 0.00063 in. Raimondi and Boyd's
    /// charts, worked example in Shigley's Mechanical Engineering Design; values from memory.
    /// </summary>
    [Fact]
    public void The_film_meets_the_worked_example()
    {
        var results = Reckon("film");
        (results[0].Value!.Value / 25.4).ShouldBe(0.00063, 0.00063 * 0.03);
        results.Single(r => r.Name.Say() == "Sommerfeld number").Value!.Value.ShouldBe(0.135, 0.0007);
    }

    /// <summary>Class 10.9 M10 proof load 48.1 kN, class 8.8 33.7 kN (ISO 898-1); grade 8 ½-20 19.2 kip (SAE J429); values from memory.</summary>
    [Theory]
    [InlineData("M10", "10.9", 48_100)]
    [InlineData("M10", "8.8", 33_700)]
    [InlineData("1/2-20", "SAE 8", 19_200 * 4.4482216)]
    public void Proof_loads_meet_the_standards(string thread, string grade, double newton) =>
        First("puller", ("thread", thread), ("grade", grade)).ShouldBe(newton, newton * 0.006);

    /// <summary>IT7 at 30–50 mm is 25 µm (ISO 286-1, from memory).</summary>
    [Fact]
    public void A_tolerance_is_that_of_the_standard() => First("tolerance", ("size", "40"), ("grade", "IT7")).ShouldBe(0.025, 1e-9);

    /// <summary>Crankpin less 10 thou with standard shells: the clearance grows by the same 10 thou (common practice, no source).</summary>
    [Fact]
    public void Ten_thou_off_the_pin_are_ten_thou_on_the_clearance() =>
        (First("bearing-clearance", ("journal", "71.494")) - First("bearing-clearance", ("journal", "71.748"))).ShouldBe(0.254, 1e-9);

    /// <summary>About 45° past top dead centre drops the pistons of a small car engine by some 16 mm (common practice): 92 stroke, 150 rod.</summary>
    [Fact]
    public void At_forty_five_degrees_the_pistons_are_down_by_some_sixteen_millimetres() =>
        First("piston", ("stroke", "92"), ("rod", "150")).ShouldBe(16.5, 1);

    [Fact]
    public void A_fit_that_slides_off_by_hand_is_told_as_lost() =>
        Reckon("fit", ("nominal", "25"), ("shaft", "24.985")).Single(r => r.Name.Say() == "Words").Words.ShouldContain("loose");

    [Fact]
    public void A_ring_that_butts_when_hot_is_told()
    {
        Reckon("ring-gap", ("gap", "0.15")).Single(r => r.Name.Say() == "Left when hot").Words.ShouldContain("butts");
        Reckon("ring-gap", ("gap", "0.50")).Single(r => r.Name.Say() == "Left when hot").Words.ShouldBeEmpty();
    }

    [Fact]
    public void Strokes_for_a_wanted_angle_give_that_angle()
    {
        var strokes = Reckon("hatch").Single(r => r.Name.StartsWith("Strokes")).Value!.Value;
        First("hatch", ("strokes", strokes.ToString("0.00000", System.Globalization.CultureInfo.InvariantCulture))).ShouldBe(45, 1e-3);
    }

    [Fact]
    public void Unequal_lists_are_refused_at_the_second() =>
        Should.Throw<ProblemException>(() => Reckon("drift", ("found", "10 20"))).Problems[0].Field.ShouldBe("found");

    /// <summary>Plane geometry: a strip of 0.2 mm squeezed to 0.051 mm lies π · 0.1² / 0.051 = 0.616 mm wide, and twice as wide at half the height.</summary>
    [Fact]
    public void A_strip_keeps_its_section_and_says_taper_beyond_its_doubt_only()
    {
        var section = Math.PI * 0.1 * 0.1;
        foreach (var clearance in new[] { 0.025, 0.038, 0.051, 0.076 })
        {
            var width = section / clearance;
            First("strip", ("mark", "0.051"), ("markWidth", $"{section / 0.051:0.0000}"), ("wide", $"{width:0.0000}"), ("narrow", $"{width:0.0000}"))
                .ShouldBe(clearance, 1e-4);
        }

        var even = Reckon("strip", ("wide", "2.4"), ("narrow", "2.35"));
        even[2].Words!.Code.ShouldBe("reckoners.strip-tells-no-taper");
        Reckon("strip", ("wide", "2.4"), ("narrow", "1.6"))[2].Words!.Code.ShouldBe("reckoners.strip-tells-taper");
        // Twice as rough a look, twice the doubt.
        Reckon("strip", ("eye", "0.3"))[1].Value!.Value.ShouldBe(2 * Reckon("strip", ("eye", "0.15"))[1].Value!.Value, 1e-4);
    }

    /// <summary>
    /// J. E. Shigley and C. R. Mischke, Mechanical Engineering Design: the rule T = 0.2 F d belongs to friction near 0.15, dry to lightly oiled; values
    /// from memory. So the range of an oiled to dry M10 at 50 N·m holds 25 kN.
    /// </summary>
    [Fact]
    public void The_range_of_preload_holds_that_of_the_simple_rule()
    {
        var oiled = Reckon("preload", ("torque", "50"));
        var dry = Reckon("preload", ("torque", "50"), ("thread-is", "dry"));
        var simple = 1000 * PullerHelp.Pull(50, PullerHelp.Dry, 10);
        oiled[1].Value!.Value.ShouldBeGreaterThan(simple);
        dry[0].Value!.Value.ShouldBeLessThan(simple);
        (oiled[0].Value < oiled[1].Value).ShouldBeTrue();
    }

    /// <summary>VDI 2230, table of assembly preloads: an M10 of 8.8 at 0.12 takes about 49 N·m to 29.6 kN; values from memory.</summary>
    [Fact]
    public void An_ordinary_bolt_meets_the_table_of_assembly_preloads() =>
        Formulas.BoltPreload.Of(49, 1.5, 9.026, 13, 0.12, 0.12).ShouldBe(29_600, 0.04 * 29_600);
}
