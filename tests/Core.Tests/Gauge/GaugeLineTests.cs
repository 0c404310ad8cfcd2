using CsCheck;
using VividSleuth.Cli.StandIns;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class GaugeLineTests
{
    private static readonly double[] Sizes = [.. Enumerable.Range(0, 25).Select(i => 75 + (i * 0.001))];

    private static List<GaugeNews> Listen(GaugeFaults faults, int seed = 1)
    {
        var listener = new GaugeListener();
        return
        [
            .. SimulatedGauge
                .Lines(Sizes, seed, faults)
                .Where(l => l != SimulatedGauge.Break)
                .Select(l => listener.Take(GaugeLine.Parse(l)))
                .OfType<GaugeNews>(),
        ];
    }

    private static double[] Read(IEnumerable<GaugeNews> news) =>
        [.. news.Where(n => n.Kind == "reading").Select(n => (double)QuantityParser.Parse(n.Typed, Quantity.Length, "mm").Value)];

    [Theory]
    [InlineData("gauge 1 mm Bore gauge 50–100", GaugeLineKind.Hello)]
    [InlineData("read 17 71.748 mm", GaugeLineKind.Reading)]
    [InlineData("read 17 71.748 mm\r", GaugeLineKind.Reading)]
    [InlineData("check 18 75.001 of 75.000 mm", GaugeLineKind.Check)]
    [InlineData("alive", GaugeLineKind.Alive)]
    [InlineData("bye", GaugeLineKind.Bye)]
    [InlineData("gauge 2 mm Newer", GaugeLineKind.Unknown)]
    [InlineData("read 17 71.748", GaugeLineKind.Unknown)]
    [InlineData("read -1 71.748 mm", GaugeLineKind.Unknown)]
    [InlineData("read 17 NaN mm", GaugeLineKind.Unknown)]
    [InlineData("read 17 1e308 mm", GaugeLineKind.Unknown)]
    [InlineData("read 17 71,748 mm", GaugeLineKind.Unknown)]
    [InlineData("read 17 71.748 furlongs", GaugeLineKind.Unknown)]
    [InlineData("", GaugeLineKind.Unknown)]
    public void Lines_are_what_the_protocol_says(string line, GaugeLineKind kind) => GaugeLine.Parse(line).Kind.ShouldBe(kind);

    [Fact]
    public void No_line_crashes_the_listener_and_none_becomes_a_reading_by_chance() =>
        Gen.String.Sample(text =>
        {
            var listener = new GaugeListener();
            listener.Take(GaugeLine.Parse("gauge 1 mm G"));
            var news = listener.Take(GaugeLine.Parse(text));
            (news?.Kind == "reading").ShouldBe(
                text.StartsWith("read ", StringComparison.Ordinal) && GaugeLine.Parse(text).Kind == GaugeLineKind.Reading
            );
        });

    [Fact]
    public void A_sound_gauge_reads_its_parts_within_its_noise_and_finds_itself_right()
    {
        var news = Listen(new GaugeFaults());
        var read = Read(news);
        read.Length.ShouldBe(Sizes.Length);
        read.Zip(Sizes).ShouldAllOfSomeBe(x => Math.Abs(x.First - x.Second) < 0.005);
        news.ShouldNotContain(n => n.Kind == "trouble");
        news.Count(n => n.Words.Contains("gauge is right")).ShouldBe(2);
    }

    [Fact]
    public void The_same_seed_sends_the_same_lines() =>
        SimulatedGauge.Lines(Sizes, 5, new GaugeFaults()).ShouldBe(SimulatedGauge.Lines(Sizes, 5, new GaugeFaults()));

    [Fact]
    public void Drift_shows_on_the_standard()
    {
        var news = Listen(new GaugeFaults { Drift = 0.001 });
        news.ShouldContain(n => n.Kind == "trouble" && n.Words.Contains("Set it, and measure again"));
    }

    /// <summary>Inches under the name of millimetres cannot be seen in the line: the entry's own question catches them.</summary>
    [Fact]
    public void A_wrong_unit_is_caught_by_the_size_expected()
    {
        var read = Read(Listen(new GaugeFaults { WrongUnitFrom = 4 }));
        read.Take(3).ShouldAllOfSomeBe(v => Suspicion.Of((decimal)v, 75m, false, "", null, null, null) == null);
        read.Skip(3).ShouldAllOfSomeBe(v => Suspicion.Of((decimal)v, 75m, false, "", null, null, null)!.Text.Contains("meant in inches"));
    }

    /// <summary>What stands at the address may be anything that talks: a mail server's banner must not come onto the bench.</summary>
    [Fact]
    public void Before_it_has_introduced_itself_nothing_of_what_it_says_is_shown()
    {
        var listener = new GaugeListener();
        var told = listener.Take(GaugeLine.Parse("220 inside.example ESMTP"))!;
        (told.Kind, told.Typed).ShouldBe(("trouble", ""));
        told.Words.ToString().ShouldNotContain("inside.example");
        listener.Take(GaugeLine.Parse("read 1 75.001 mm")).ShouldBeNull();
        listener.Take(GaugeLine.Parse("gauge 1 mm G"))!.Kind.ShouldBe("note");
        listener.Take(GaugeLine.Parse("read 1 75.001 mm"))!.Kind.ShouldBe("reading");
        listener.Broken();
        listener.Take(GaugeLine.Parse("read 2 75.001 mm"))!.Kind.ShouldBe("trouble");
    }

    [Fact]
    public void A_unit_other_than_announced_is_told()
    {
        var listener = new GaugeListener();
        listener.Take(GaugeLine.Parse("gauge 1 mm G"));
        var news = listener.Take(GaugeLine.Parse("read 1 2.953 in"))!;
        news.Typed.ShouldBe("2.953 in");
        news.Words.ShouldContain("announced mm and sends in");
    }

    [Fact]
    public void A_reading_lost_on_a_broken_line_is_told_and_one_that_comes_twice_is_taken_once()
    {
        var listener = new GaugeListener();
        foreach (var line in new[] { "gauge 1 mm G", "read 1 75.001 mm", "read 2 75.002 mm" })
        {
            listener.Take(GaugeLine.Parse(line));
        }

        listener.Take(GaugeLine.Parse("read 2 75.002 mm"))!.Kind.ShouldBe("trouble");
        listener.Take(GaugeLine.Parse("read 5 75.005 mm"))!.Words.ShouldContain("Reading 3 to 4 was lost");
    }

    [Fact]
    public void Garbage_is_shown_and_taken_for_nothing()
    {
        var news = Listen(new GaugeFaults { GarbageAt = 3 });
        news.ShouldContain(n => n.Kind == "trouble" && n.Words.Contains("cannot be read"));
        Read(news).Length.ShouldBe(Sizes.Length);
    }
}
