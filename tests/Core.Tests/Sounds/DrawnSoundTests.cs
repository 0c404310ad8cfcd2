using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Tests.Sounds;

/// <summary>Engines that are made up, with what is true of them known: what is heard in them is right, or it is not told. Our own stand-in, no source.</summary>
public sealed class DrawnSoundTests
{
    /// <summary>Even and uneven, two- and four-strokes, from two cylinders to eight.</summary>
    public static readonly IReadOnlyList<Firings> Engines =
    [
        Even(720, 1, 3, 4, 2),
        Even(720, 1, 5, 3, 6, 2, 4),
        Even(720, 1, 3, 2),
        Even(720, 1, 8, 4, 3, 6, 5, 7, 2),
        Even(720, 1, 2, 4, 5, 3),
        Even(360, 1, 2),
        Even(360, 1, 2, 3),
        new(720, [new Firing([1], 0), new Firing([2], 405)]),
        new(720, [new Firing([1], 0), new Firing([2], 180)]),
    ];

    private static readonly double[] Orders = [3.585, 5.415];

    public static Firings Even(int degrees, params int[] order) =>
        new(degrees, [.. order.Select((c, i) => new Firing([c], (double)degrees / order.Length * i))]);

    private sealed record Told(DrawnEngine Engine, NoiseBeat Want, Heard? Heard)
    {
        public bool Knocks => Want is NoiseBeat.Cycle or NoiseBeat.Turn;

        public bool Names => Heard?.Whose.Contains(Engine.Cylinder) == true && Heard.Whose.Count <= (Want == NoiseBeat.Turn ? 2 : 1);
    }

    private static NoiseBeat WantOf(DrawnEngine engine) =>
        engine.Fault switch
        {
            DrawnFault.OncePerCycle or DrawnFault.DoubleRap => engine.Firings.Turns == 1 ? NoiseBeat.Turn : NoiseBeat.Cycle,
            DrawnFault.OncePerTurn => NoiseBeat.Turn,
            DrawnFault.Rolling => NoiseBeat.Apart,
            _ => NoiseBeat.None,
        };

    private static IReadOnlyList<Told> Listen(int from, int count, double decibels, bool pickup = true) =>
        [
            .. Enumerable
                .Range(from, count)
                .AsParallel()
                .AsOrdered()
                .WithDegreeOfParallelism(2)
                .Select(seed =>
                {
                    var firings = Engines[seed % Engines.Count];
                    var kinds = Enum.GetValues<DrawnFault>().Where(f => f != DrawnFault.Puffs).ToArray();
                    var engine = new DrawnEngine(
                        firings,
                        kinds[seed / Engines.Count % kinds.Length],
                        firings.At[seed / 7 % firings.At.Count].Cylinders[0],
                        seed,
                        Rpm: 700 + (2000 * new Random(seed).NextDouble()),
                        Decibels: decibels,
                        Pickup: pickup ? firings.At[0].Cylinders[0] : 0
                    );
                    try
                    {
                        // The speed that somebody read off is a little off.
                        var ask = new ListenAsk(engine.Rpm * (1 + (0.03 * ((seed % 3) - 1))), pickup ? engine.Pickup : null, null, Orders);
                        return new Told(engine, WantOf(engine), Listening.Listen(engine.Draw(), firings, ask));
                    }
                    catch (ProblemException)
                    {
                        return new Told(engine, WantOf(engine), null);
                    }
                }),
        ];

    [Fact]
    public void Of_drawn_engines_at_six_decibels_the_order_and_the_cylinder_are_right()
    {
        var told = Listen(0, 540, 6);
        var right = told.Count(t => t.Heard?.Beat == t.Want);
        TestContext.Current.TestOutputHelper?.WriteLine($"order right in {right} of {told.Count}");
        right.ShouldBeGreaterThanOrEqualTo((int)Math.Ceiling(0.98 * told.Count), Wrong(told.Where(t => t.Heard?.Beat != t.Want)));
        var knocks = told.Where(t => t.Knocks).ToArray();
        var names = knocks.Count(t => t.Names);
        TestContext.Current.TestOutputHelper?.WriteLine($"cylinder right in {names} of {knocks.Length}");
        names.ShouldBeGreaterThanOrEqualTo((int)Math.Ceiling(0.95 * knocks.Length), Wrong(knocks.Where(t => !t.Names)));
    }

    [Theory]
    [InlineData(-9)]
    [InlineData(-15)]
    public void In_more_noise_it_is_not_told_rather_than_told_wrong(double decibels)
    {
        var told = Listen(1000, 54, decibels);
        var wrong = told.Where(t => t.Heard is { Beat: not (NoiseBeat.None or NoiseBeat.Either) } h && h.Beat != t.Want).ToArray();
        wrong.Length.ShouldBeLessThanOrEqualTo(2, Wrong(wrong));
        var named = told.Where(t => t is { Knocks: true, Heard.Whose.Count: > 0, Names: false }).ToArray();
        named.Length.ShouldBeLessThanOrEqualTo(1, Wrong(named));
    }

    /// <summary>Without a clamp an even engine tells by no angle which firing is whose.</summary>
    [Fact]
    public void Without_a_mark_no_cylinder_of_an_even_engine_is_named()
    {
        foreach (var t in Listen(2000, 54, 6, pickup: false).Where(t => t.Heard is not null && t.Engine.Firings.Repeats > 1))
        {
            t.Heard!.Placed.ShouldBeFalse();
            t.Heard.Whose.ShouldBeEmpty();
        }
    }

    private static string Wrong(IEnumerable<Told> told) =>
        string.Join(
            "; ",
            told.Take(12)
                .Select(t =>
                    $"#{t.Engine.Seed} {t.Engine.Fault} of {t.Engine.Cylinder}/{t.Engine.Firings.At.Count}: {t.Heard?.Beat} {t.Heard?.Chance:0.000}"
                )
        );

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(3)]
    public void A_speed_that_nobody_told_is_found_or_another_is_named_beside_it(int engine)
    {
        foreach (var seed in Enumerable.Range(0, 6))
        {
            var drawn = new DrawnEngine(Engines[engine], DrawnFault.OncePerTurn, 1, seed, Rpm: 700 + (300 * seed), Pickup: 1);
            var recording = drawn.Draw();
            var truth = CrankTrack.ByPickup(recording, drawn.Firings, 1, drawn.Rpm, 1000).MeanRpm(drawn.Firings.Turns);
            var heard = Listening.Listen(recording, drawn.Firings, new ListenAsk());
            var found = heard.Track.MeanRpm(drawn.Firings.Turns);
            (Math.Abs((found / truth) - 1) < 0.02 || heard.Doubts.Contains(SoundDoubt.Speed)).ShouldBeTrue($"#{seed}: {found} for {truth}");
        }
    }

    [Fact]
    public void The_cylinder_whose_silence_takes_the_knock_away_is_named_without_a_clamp()
    {
        var named = 0;
        foreach (var seed in Enumerable.Range(0, 6))
        {
            var firings = Engines[seed % 2];
            var all = new DrawnEngine(firings, DrawnFault.OncePerCycle, 1 + (seed % firings.At.Count), seed, Rpm: 900);
            Heard Hear(DrawnEngine e) => Listening.Listen(e.Draw(), firings, new ListenAsk(900, null, e.CutOut > 0 ? e.CutOut : null));
            var cut = firings.At.Select(f => (f.Cylinders[0], Hear(all with { CutOut = f.Cylinders[0], Seed = all.Seed }))).ToArray();
            var test = CutOutTest.Of(Hear(all), cut, [.. firings.At.Select(f => f.Cylinders[0]).Order()]);
            (test.Results.Sum(r => r.Chance) + test.Elsewhere).ShouldBe(1, 1e-9);
            named += test.Whose == all.Cylinder ? 1 : 0;
            (test.Whose is null || test.Whose == all.Cylinder).ShouldBeTrue($"#{seed}: {test.Whose} for {all.Cylinder}");
        }

        named.ShouldBeGreaterThanOrEqualTo(5);
    }

    [Fact]
    public void A_cylinder_that_does_not_fire_is_the_one_that_is_missing()
    {
        var engine = new DrawnEngine(Engines[1], DrawnFault.Misfire, 3, 5, Rpm: 1100, Pickup: 1);
        var heard = Listening.Listen(engine.Draw(), engine.Firings, new ListenAsk(1100, 1));
        heard.Dead.ShouldHaveSingleItem().Cylinders.ShouldBe([3]);
        heard.Beat.ShouldBe(NoiseBeat.None);
    }

    [Fact]
    public void A_mark_on_a_rolling_bearing_is_told_by_the_order_of_its_geometry()
    {
        var engine = new DrawnEngine(Engines[0], DrawnFault.Rolling, 1, 3, Rpm: 1800);
        var heard = Listening.Listen(engine.Draw(), engine.Firings, new ListenAsk(1800, Orders: Orders));
        heard.Beat.ShouldBe(NoiseBeat.Apart);
        heard.Lines[0].Order.ShouldBe(3.585, 0.05);
        heard.Lines[0].Known.ShouldBe(0);
    }

    /// <summary>Of a run-up the orders stay where they are while the speed doubles.</summary>
    [Fact]
    public void A_run_up_is_followed_and_shown_over_speed()
    {
        var engine = new DrawnEngine(Engines[0], DrawnFault.Sound, 1, 8, Rpm: 900, ToRpm: 2200, Seconds: 16, Pickup: 1);
        var recording = engine.Draw();
        var heard = Listening.Listen(recording, engine.Firings, new ListenAsk(null));
        heard.Doubts.ShouldContain(SoundDoubt.Changing);
        heard.Stretches[0].Rpm.ShouldBe(930, 60);
        heard.Stretches[^1].Rpm.ShouldBe(2170, 90);
        // Order 2 of an even four is its firing: index 3 of the half orders.
        heard.Stretches.Count(s => s.Levels.Index().MaxBy(l => l.Item).Index is 3 or 7).ShouldBeGreaterThan(heard.Stretches.Count * 8 / 10);
    }

    [Fact]
    public void The_same_seed_draws_the_same_sound_and_it_is_heard_alike()
    {
        var engine = new DrawnEngine(Engines[0], DrawnFault.OncePerCycle, 3, 4, Seconds: 4);
        engine.Draw().Samples.ShouldBe(engine.Draw().Samples);
        var (a, b) = (
            Listening.Listen(engine.Draw(), engine.Firings, new ListenAsk(1500)),
            Listening.Listen(engine.Draw(), engine.Firings, new ListenAsk(1500))
        );
        a.Chance.ShouldBe(b.Chance);
        a.Circles[0].Mean.ShouldBe(b.Circles[0].Mean);
    }
}
