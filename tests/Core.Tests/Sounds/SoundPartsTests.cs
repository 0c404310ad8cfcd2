using System.Numerics;
using MathNet.Numerics.IntegralTransforms;
using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Tests.Sounds;

public sealed class SoundPartsTests
{
    private const int Rate = 44100;

    private static Recording Of(Func<double, double> at, double seconds = 4, int rate = Rate) =>
        new([.. Enumerable.Range(0, (int)(seconds * rate)).Select(i => (float)at((double)i / rate))], rate);

    /// <summary>A tone whose loudness is known has that loudness as its envelope (definition of the analytic signal, Marple 1999).</summary>
    [Fact]
    public void The_envelope_of_a_modulated_tone_is_its_modulation()
    {
        var tone = Of(t => (0.5 + (0.3 * Math.Sin(2 * Math.PI * 20 * t))) * Math.Sin(2 * Math.PI * 2000 * t));
        var envelopes = Envelopes.From(tone);
        var band = envelopes.Of[envelopes.Bands.Index().Single(b => b.Item is { From: 1500 }).Index];
        for (var i = band.Length / 10; i < band.Length * 9 / 10; i++)
        {
            ((double)band[i]).ShouldBe(0.5 + (0.3 * Math.Sin(2 * Math.PI * 20 * i / envelopes.Rate)), 0.02);
        }

        // Nothing of it is in a band that does not hold it.
        envelopes.Of[0].Skip(500).Take(10_000).Max().ShouldBeLessThan(0.01f);
    }

    /// <summary>Against the analytic signal of the whole, by the transform of the library in one piece.</summary>
    [Fact]
    public void Blocks_give_what_one_transform_of_the_whole_gives()
    {
        var random = new Random(2);
        var noise = Of(_ => random.NextDouble() - 0.5, 1);
        var envelopes = Envelopes.From(noise);
        var whole = noise.Samples.Select(s => new Complex(s, 0)).ToArray();
        Fourier.Forward(whole, FourierOptions.NoScaling);
        var band = envelopes.Bands[2];
        for (var k = 0; k < whole.Length; k++)
        {
            var inside = Math.Min(k - band.From, band.To - k) / (0.15 * (band.To - band.From));
            whole[k] *=
                inside <= 0 ? 0
                : inside >= 1 ? 2
                : 1 - Math.Cos(Math.PI * inside);
        }

        Fourier.Inverse(whole, FourierOptions.NoScaling);
        var factor = (int)Math.Round(Rate / envelopes.Rate);
        for (var i = 400; i < envelopes.Of[2].Length - 400; i++)
        {
            ((double)envelopes.Of[2][i]).ShouldBe(whole[i * factor].Magnitude / whole.Length, 0.02);
        }
    }

    /// <summary>Even engines repeat with every firing; a vee of 45° fires at 0 and 405 and repeats once a cycle (common practice, no source).</summary>
    [Theory]
    [InlineData(0, 4, 2)]
    [InlineData(3, 8, 2)]
    [InlineData(5, 2, 1)]
    [InlineData(7, 1, 2)]
    [InlineData(8, 1, 2)]
    public void A_pattern_of_firings_repeats_as_often_as_it_is_even(int engine, int repeats, int turns)
    {
        DrawnSoundTests.Engines[engine].Repeats.ShouldBe(repeats);
        DrawnSoundTests.Engines[engine].Turns.ShouldBe(turns);
    }

    /// <summary>Bursts at order 2.3 of a steady engine stand at order 2.3 and nowhere else (definition of an order: events a turn, ISO 7919 and 13373 speak of it so; from memory).</summary>
    [Fact]
    public void An_order_that_is_known_stands_where_it_is()
    {
        const double Rpm = 1200;
        var random = new Random(4);
        var track = new CrankTrack(TurnedBy.Pickup, 1000, [.. Enumerable.Range(0, 12_000).Select(i => i / 1000.0 * Rpm / 120)], [], 1, null, []);
        var envelope = Enumerable
            .Range(0, 72_000)
            .Select(i =>
                (float)(
                    1
                    + (0.05 * random.NextDouble())
                    + (0.2 * Math.Cos(2 * Math.PI * 2.3 * i / 6000 * Rpm / 60))
                    + (0.5 * Math.Cos(2 * Math.PI * i / 6000 * Rpm / 60))
                )
            )
            .ToArray();
        var even = track.Resampled(envelope, 6000, 2 * OrderLines.PerTurn);
        var line = OrderLines.Apart([even], 2, [2.3])[0];
        line.Order.ShouldBe(2.3, 0.01);
        line.Known.ShouldBe(0);
        line.Chance.ShouldBeGreaterThan(0.99);
        var spectrum = OrderLines.Spectrum([even], 2);
        var top = spectrum.Levels.Index().OrderByDescending(l => l.Item).Take(1).Select(l => spectrum.Orders[l.Index]).Single();
        top.ShouldBe(1, 0.02);
        // Its amplitude is that of the modulation.
        spectrum.Levels.Max().ShouldBe(0.5 / 1.025, 0.02);
    }

    [Fact]
    public void Noise_alone_has_no_order_that_is_told()
    {
        foreach (var seed in Enumerable.Range(0, 20))
        {
            var random = new Random(seed);
            var noise = Enumerable.Range(0, 40_000).Select(_ => (float)random.NextDouble()).ToArray();
            var lines = OrderLines.Apart([noise], 2, []);
            lines.ShouldAllBe(l => l.Chance < 0.99 || l.Over < 2.5);
        }
    }

    public static TheoryData<string, Recording> Bad() =>
        new()
        {
            { "sounds.silent", Of(_ => 0) },
            { "sounds.too-short", Of(t => Math.Sin(900 * t), 1) },
            { "sounds.rate-too-low", Of(t => Math.Sin(900 * t), 4, 4000) },
            { "sounds.no-rhythm", Noise() },
            { "sounds.no-rhythm-at-speed", Noise() },
        };

    private static Recording Noise()
    {
        var random = new Random(1);
        return Of(_ => 0.3 * (random.NextDouble() - 0.5));
    }

    [Theory]
    [MemberData(nameof(Bad), DisableDiscoveryEnumeration = true)]
    public void What_cannot_be_listened_to_says_why(string code, Recording recording) =>
        Should
            .Throw<ProblemException>(() =>
                Listening.Listen(recording, DrawnSoundTests.Engines[0], new ListenAsk(code.EndsWith("speed", StringComparison.Ordinal) ? 1500 : null))
            )
            .Problems.ShouldHaveSingleItem()
            .Text.Code.ShouldBe(code);

    [Fact]
    public void A_wrong_speed_a_clipped_and_a_narrow_recording_are_told()
    {
        var drawn = new DrawnEngine(DrawnSoundTests.Engines[0], DrawnFault.Sound, 1, 2, Rpm: 1500, Pickup: 1, Decibels: 20);
        var recording = drawn.Draw();
        Should
            .Throw<ProblemException>(() => Listening.Listen(recording, drawn.Firings, new ListenAsk(2100, 1)))
            .Problems.ShouldHaveSingleItem()
            .Text.Code.ShouldBe("sounds.pulses-do-not-fit");
        var clipped = new Recording([.. recording.Samples.Select(s => Math.Clamp(6 * s, -1, 1))], recording.Rate);
        Listening.Listen(clipped, drawn.Firings, new ListenAsk(1500)).Doubts.ShouldContain(SoundDoubt.Clipped);
        var narrow = new Recording([.. recording.Samples.Chunk(5).Select(c => c.Average())], recording.Rate / 5);
        var heard = Listening.Listen(narrow, drawn.Firings, new ListenAsk(1500));
        heard.Doubts.ShouldContain(SoundDoubt.LowRate);
        heard.Circles.Count.ShouldBe(3);
        Should
            .Throw<ProblemException>(() =>
                Listening.Listen(new Recording(recording.Samples, Rate, new float[recording.Samples.Length]), drawn.Firings, new ListenAsk(1500, 1))
            )
            .Problems.ShouldHaveSingleItem()
            .Text.Code.ShouldBe("sounds.no-pulses");
    }

    [Fact]
    public void A_cut_out_test_needs_a_knock_and_something_cut_out()
    {
        var drawn = new DrawnEngine(DrawnSoundTests.Engines[0], DrawnFault.Sound, 1, 2, Rpm: 1500);
        var heard = Listening.Listen(drawn.Draw(), drawn.Firings, new ListenAsk(1500));
        Should
            .Throw<ProblemException>(() => CutOutTest.Of(heard, [(1, heard)], [1, 2, 3, 4]))
            .Problems[0]
            .Text.Code.ShouldBe("sounds.no-knock-to-cut-out");
        var knocks = heard with { Beat = NoiseBeat.Cycle, Knock = new Knock(0, 0, 1, 0.1, 1, null, 0, null) };
        Should.Throw<ProblemException>(() => CutOutTest.Of(knocks, [], [1, 2, 3, 4])).Problems[0].Text.Code.ShouldBe("sounds.nothing-cut-out");
    }
}
