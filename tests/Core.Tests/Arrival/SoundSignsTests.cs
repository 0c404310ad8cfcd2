using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Sounds;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Arrival;

/// <summary>What sounds are offered as. Which sign a rhythm is a hint of is common practice, no source.</summary>
public sealed class SoundSignsTests
{
    private static readonly AddressTable Six = Start.Table(Start.InlineSix);

    private static readonly Firings Fires = Firings.Of(Six.Engine);

    private static (Sound Sound, Heard Heard) Recorded(
        DrawnFault fault = DrawnFault.OncePerCycle,
        double knock = 1,
        int cut = 0,
        HeardLoad load = default,
        HeardWarmth warmth = default,
        HeardAt where = default
    )
    {
        var engine = new DrawnEngine(Fires, fault, 3, 2, Rpm: 1200, Seconds: 6, Decibels: 12, CutOut: cut, Pickup: 1, Knock: knock);
        var sound = new Sound
        {
            Rpm = 1200,
            Pickup = 1,
            CutOut = cut,
            Load = load,
            Warmth = warmth,
            Where = where,
        };
        return (sound, Listening.Listen(engine.Draw(), Fires, SoundSigns.Ask(sound, [])));
    }

    private static IEnumerable<string> Signs(IReadOnlyList<SoundSign> signs) => signs.Select(s => $"{s.Sign}@{s.Place} {s.Level}");

    [Fact]
    public void One_that_grows_with_the_load_is_a_bearing_sooner_than_one_that_does_not()
    {
        var (light, pulls) = (Recorded(knock: 0.4, load: HeardLoad.Light), Recorded(load: HeardLoad.Pulls));
        Signs(SoundSigns.Together([light, pulls], Six)).ShouldBe(["knock@EN 2"]);
        var alone = SoundSigns.Of(pulls.Heard, pulls.Sound, Six).Single(s => s.Sign == "knock");
        SoundSigns.Together([light, pulls], Six)[0].Chance.ShouldBeGreaterThan(alone.Chance);
        SoundSigns.Together([Recorded(load: HeardLoad.Light), pulls], Six).ShouldBeEmpty();
        // Where nobody told the load, nothing is compared.
        SoundSigns.Together([Recorded(knock: 0.4), pulls], Six).ShouldBeEmpty();
    }

    [Fact]
    public void One_that_fades_warm_slaps_and_one_that_stays_is_rather_a_bearing()
    {
        var cold = Recorded(warmth: HeardWarmth.Cold);
        Signs(SoundSigns.Together([cold, Recorded(DrawnFault.Sound, warmth: HeardWarmth.Warm)], Six)).ShouldBe(["noise-slap@EN 2", "knock@EN 1"]);
        Signs(SoundSigns.Together([cold, Recorded(warmth: HeardWarmth.Warm)], Six)).ShouldBe(["knock@EN 3"]);
    }

    [Fact]
    public void One_that_comes_with_the_load_off_is_no_knock_under_load()
    {
        var driven = Recorded(load: HeardLoad.Overrun);
        SoundSigns.Of(driven.Heard, driven.Sound, Six).Select(s => s.Sign).ShouldBe(["knock-overrun", "noise-slap"]);
        var quiet = Recorded(DrawnFault.Sound, load: HeardLoad.Pulls);
        Signs(SoundSigns.Together([driven, quiet], Six)).ShouldBe(["knock-overrun@EN 2"]);
        // Silent when it runs light says nothing of what it does when it pulls.
        var light = Recorded(DrawnFault.Sound, load: HeardLoad.Light);
        SoundSigns.Of(light.Heard, light.Sound, Six).ShouldBeEmpty();
        Signs(SoundSigns.Of(quiet.Heard, quiet.Sound, Six)).ShouldBe(["knock@EN 0"]);
    }

    [Fact]
    public void A_puff_at_the_breather_is_that_of_the_cylinder_under_pressure()
    {
        var puffs = Recorded(DrawnFault.Puffs, where: HeardAt.Breather);
        Signs(SoundSigns.Of(puffs.Heard, puffs.Sound, Six)).ShouldBe(["blow-by-high@EN 1", "puffs-with-it@P3 1"]);
    }

    [Fact]
    public void The_cut_out_test_moves_the_cause_to_the_rod_whose_silence_takes_the_noise_away()
    {
        var all = Recorded();
        var test = CutOutTest.Of(all.Heard, [.. Enumerable.Range(1, 6).Select(c => (c, Recorded(cut: c).Heard))], [1, 2, 3, 4, 5, 6]);
        var signs = SoundSigns.Of(test, Six);
        signs.Single(s => s.Level > 0).Place.ShouldBe("R3");
        signs.Count(s => s.Level == 0).ShouldBeGreaterThan(2);

        static Finding Of(SoundSign s) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Place = s.Place,
                Sign = s.Sign,
                Level = s.Level,
                Seen = s.Level > 0 ? Seen.Present : Seen.Absent,
                Chance = s.Chance,
            };
        var knock = new SoundSign("EN", "knock", 2, 0.65, Fact.Text(""));
        double At(IEnumerable<SoundSign> taken, string seat) =>
            Tracer
                .Answer(new TraceLog([.. taken.Select(Of)], new Dictionary<string, bool>()), Six, KnowledgeBase.BuiltIn, [])
                .Ranking.Where(h => h.Seat == seat)
                .Select(h => h.Probability)
                .DefaultIfEmpty()
                .Sum();
        At([knock, .. signs], "R3").ShouldBeGreaterThan(2 * At([knock], "R3"));
        At([knock, .. signs], "R5").ShouldBeLessThan(At([knock, .. signs], "R3"));
    }

    [Fact]
    public void A_cylinder_that_was_cut_out_pulling_is_held_against_all_running_pulling()
    {
        (Sound Sound, Heard Heard)[] all =
        [
            Recorded(knock: 0.3, load: HeardLoad.Light),
            Recorded(load: HeardLoad.Pulls),
            Recorded(cut: 3, load: HeardLoad.Pulls),
            Recorded(cut: 5, load: HeardLoad.Pulls),
        ];
        var test = SoundSigns.CutOut(all, [1, 2, 3, 4, 5, 6])!;
        test.Whose.ShouldBe(3);
        test.Results.ShouldAllBe(r => r.Left < 1.5);
        Should
            .Throw<ProblemException>(() => SoundSigns.CutOut([all[0], all[2]], [1, 2, 3, 4, 5, 6]))
            .Problems[0]
            .Text.Code.ShouldBe("sounds.none-alike-to-cut-out");
        SoundSigns.CutOut(all[..2], [1, 2, 3, 4, 5, 6]).ShouldBeNull();
    }
}
