using System.Text.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Words;

namespace VividSleuth.Core.Tests.Look;

/// <summary>
/// Zones are worded on the bench while they are touched: the same file is read by web/src/look/where.test.ts, so that the browser's words
/// and the server's cannot drift apart.
/// </summary>
public sealed class ZoneWordsTests
{
    private static readonly JsonSerializerOptions Spoken = new(CaseFile.Json) { Converters = { new FactJson(() => Sentences.English) } };

    private static readonly string Path = System.IO.Path.Combine(Start.Root(), "tests/zone-words.json");

    private static readonly JsonNode Cases = JsonNode.Parse(File.ReadAllText(Path))!;

    private static readonly Dictionary<string, EngineLayout> Layouts = new()
    {
        ["inline six"] = Start.InlineSix,
        ["two-stroke twin"] = Start.TwoStrokeTwin,
        ["flat four"] = Start.FlatFour,
    };

    private static ZoneMap Map(string of)
    {
        var (layout, place) = (of[..of.LastIndexOf(' ')], of[(of.LastIndexOf(' ') + 1)..]);
        var table = Start.Table(Layouts[layout]);
        return ZoneMaps.Of(table.Parse(place), table.Engine)!;
    }

    public static TheoryData<string> Maps => [.. Cases["maps"]!.AsObject().Select(m => m.Key)];

    public static TheoryData<int> All => [.. Enumerable.Range(0, Cases["cases"]!.AsArray().Count)];

    [Theory]
    [MemberData(nameof(Maps))]
    public void The_bench_is_shown_the_map_that_the_server_sends(string of) =>
        JsonNode.DeepEquals(JsonSerializer.SerializeToNode(Map(of), Spoken), Cases["maps"]![of]).ShouldBeTrue(of);

    [Theory]
    [MemberData(nameof(All))]
    public void The_server_words_zones_as_the_list_has_them(int i)
    {
        var one = Cases["cases"]![i]!;
        var zones = one["zones"]!.AsArray().Select(z => (string)z!).ToArray();
        var spot = Spots.Of(Guid.Empty, zones, Map((string)one["map"]!));
        spot.Words.ShouldBe((string)one["words"]!);
        spot.Share.ShouldBe((double)one["share"]!, 1e-9);
        spot.Sides.Select(Said.Say).ShouldBe(one["sides"]!.AsArray().Select(s => (string)s!));
        spot.Edges.Select(Said.Say).ShouldBe(one["edges"]!.AsArray().Select(s => (string)s!));
    }

    [Fact]
    public void There_are_cases_of_every_turn_of_the_rule() => Cases["cases"]!.AsArray().Count.ShouldBeGreaterThanOrEqualTo(25);
}
