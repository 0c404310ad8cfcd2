using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>
/// Failures as a textbook or an old hand would describe them: what was seen is written down, the cause must come out on top. Descriptions
/// are common practice, no source, unless a standard is named: ISO 7146-1 for plain bearings, ISO 15243 for rolling bearings.
/// </summary>
public sealed class TextbookTests
{
    private static readonly EngineLayout Four = Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };

    private static readonly EngineLayout Diesel = Four with { Fuel = FuelSystem.Diesel };

    private static TraceAnswer Answer(EngineLayout layout, string seen)
    {
        var c = Start.Case(layout);
        foreach (var one in seen.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            // sign@place is there, sign@place! was looked for and is not.
            var absent = one.EndsWith('!');
            var parts = one.TrimEnd('!').Split('@');
            c.Findings.Add(Start.Saw(parts[1], parts[0], absent ? 0 : 2));
        }

        return Tracer.Answer(c.TraceLog(), Start.Table(layout), KnowledgeBase.BuiltIn, []);
    }

    [Theory]
    // Four marks beside the pin bosses of one piston, bore and oil sound, told it was revved cold.
    [InlineData("cold-seizure", "skirt-scuff-four@P2 bore-scuffed@C2 oil-low@EN! overheated@EN! piston-clearance-small@P2!")]
    // The arrow points the wrong way and it slaps from the first start.
    [InlineData("piston-reversed", "piston-wrong-way@P3 noise-slap@EN")]
    // The pin ploughed the bore on one side and clip pieces lie in the pan.
    [InlineData("clip-lost", "clip-groove-worn@P1 bore-scratched@C1 pan-aluminium@PA noise-rattle@EN")]
    // The rod is bent, the piston stands low, the crown is washed clean by water.
    [InlineData("liquid-lock", "rod-bent@R3 deck-low@C3 crown-coolant-clean@P3 turns-short@EN")]
    // Spacer ends over each other: that cylinder drinks oil since the rebuild.
    [InlineData("oil-ring-overlapped", "oil-ring-overlap@P2L plug-oily@N2 oil-use@EN smoke-blue@EN")]
    // A ring of rust where the rings stood for years.
    [InlineData("rings-rusted", "bore-rust@C4 ring-rust-stuck@P4T piston-rust@P4 compression-low@C4")]
    // Strings in the screen after a rebuild with much sealant; ISO 7146-1 lubricant starvation of all bearings.
    [InlineData(
        "screen-blocked-sealant",
        "sealant-strings@PA sealant-strings@PK screen-blocked@PK pressure-low@EN overlay-wiped@R1U overlay-wiped@R3U"
    )]
    // A dent in the back exactly behind a bright spot; ISO 7146-1 foreign particles behind the bearing.
    [InlineData("dirt-behind-shell-cause", "dirt-behind-shell@R2U bearing-polished@R2U overlay-wiped@R1U! overlay-wiped@R3U!")]
    // Upper rod shells and lower mains alike, lower rods and upper mains clean: lugged. ISO 7146-1 overload.
    [InlineData(
        "lugging-overload",
        "overlay-fatigue@R1U overlay-fatigue@R2U overlay-fatigue@R3U overlay-fatigue@R4U bearing-polished@M2L bearing-polished@M3L overlay-fatigue@R1L! overlay-fatigue@R3L!"
    )]
    // Hollow feet and flat lobes in the first hour of a new shaft.
    [InlineData("cam-on-old-followers", "follower-dished@F1A follower-dished@F3E lobe-wiped@L1A lobe-wiped@L3E noise-rattle@EN follower-track@F1A")]
    // Lift falls off toward one end, cam bearings worn.
    [InlineData("cam-oil-loss", "lobe-worse-far@CM1 cam-bearing-worn@CM1 rocker-worn@Y3A rocker-worn@Y4A")]
    // One cylinder dead, hiss in the exhaust, edge of the valve burnt, lash was right.
    [InlineData("valve-burnt", "seat-burnt@V2E valve-leaks@V2E compression-low@C2 misfire@EN lash-lost@V2E!")]
    // It knocks like a bearing, but the pulley turns by hand and the key is chewed.
    [InlineData("pulley-or-key-loose", "pulley-loose@KP keyway-worn@CR knock@EN overlay-wiped@R1U! overlay-wiped@R2U!")]
    // The bolt broke first: its neighbours' shells are sound.
    [InlineData("rod-bolt-failed", "rod-bolt-broken@R2T1 rod-broken@R2 rod-touched-bore@C2 overlay-wiped@R1U! overlay-wiped@R3U!")]
    // Washers worn through on one side; copper in the pan.
    [InlineData("thrust-failed", "thrust-worn@TH end-float-large@TH pan-bearing-metal@PA")]
    // Vent shut with sludge: oil at every seal, no fault of the rings.
    [InlineData("crankcase-pressure", "vent-blocked@H1V blow-by-high@EN intake-oil@AF ring-worn-thin@P1T! ring-worn-thin@P3T! compression-low@C1!")]
    public void A_four_stroke_as_the_book_has_it(string cause, string seen) => Answer(Four, seen).Ranking[0].Cause.ShouldBe(cause);

    [Theory]
    // Smeared at the exhaust side, plug white, the seal blows bubbles.
    [InlineData(
        "air-leak-two-stroke",
        "intake-exhaust-scuff@P1 plug-hot@N1 air-leak@KE1 bore-aluminium@C1 skirt-scuff-round@P2! oil-in-fuel-missing@EN!"
    )]
    // Both pistons dry all round, small ends blue, a drop of fuel leaves no ring.
    [InlineData("oil-left-out", "oil-in-fuel-missing@EN skirt-scuff-round@P1 skirt-scuff-round@P2 bearing-blue@R1E locked@EN")]
    // The port was filed wide: the ring's end is off and the bridge chipped.
    [InlineData("ring-caught-port", "port-wide@C1 ring-tip-broken@P1T ring-broken@P1T port-edge-chipped@C1 ring-peg-lost@P1!")]
    // ISO 15243 moisture corrosion: pits at the roller spacing, brown grease, stood for years.
    [InlineData("moisture-in-bearing", "race-rust@M1R grease-discoloured@M1R race-flaked@M1R false-brinell@M1R!")]
    // ISO 15243 false brinelling: polished dents, no rust pits, after a long transport.
    [InlineData("false-brinelling", "false-brinell@M2R race-rust@M2R! noise-rumble@EN")]
    // ISO 15243 electrical erosion: somebody welded on the frame.
    [InlineData("current-through-bearing", "electric-pits@M1R race-frosted@M1R")]
    public void A_two_stroke_as_the_book_has_it(string cause, string seen) => Answer(Start.TwoStrokeTwin, seen).Ranking[0].Cause.ShouldBe(cause);

    [Theory]
    // The nozzle dribbles, the bowl's edge is burnt, black smoke.
    [InlineData("injector-failed", "injector-dribbles@J3 bowl-edge-burnt@P3 smoke-black@EN fuel-washed@C3")]
    // Oil in the cold pipe, shaft rocks, blue smoke.
    [InlineData("turbo-failed", "turbo-play@TU turbo-wheel@TU intake-oil@TU smoke-blue@EN power-low@EN")]
    public void A_diesel_as_the_book_has_it(string cause, string seen) => Answer(Diesel, seen).Ranking[0].Cause.ShouldBe(cause);
}
