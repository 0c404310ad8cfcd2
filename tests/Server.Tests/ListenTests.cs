using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Sounds;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Server.Tests;

/// <summary>Sounds over the wire, made by the stand-in for a microphone, so that the truth is known.</summary>
public sealed class ListenTests(Shop shop)
{
    private static readonly int[] Order = [1, 5, 3, 6, 2, 4];

    private static readonly Firings Six = new(720, [.. Order.Select((c, i) => new Firing([c], 120.0 * i))]);

    private static DrawnEngine Knocking(int cut = 0, int pickup = 0) =>
        new(Six, DrawnFault.OncePerCycle, 3, 2, Rpm: 1200, Seconds: 6, Decibels: 12, CutOut: cut, Pickup: pickup);

    private static Task<HttpResponseMessage> Listen(
        HttpClient client,
        string at,
        IEnumerable<byte[]> files,
        params (string Name, string Value)[] fields
    )
    {
        var form = new MultipartFormDataContent();
        foreach (var (name, value) in fields)
        {
            form.Add(new StringContent(value), name);
        }

        foreach (var (file, i) in files.Select((f, i) => (f, i)))
        {
            form.Add(new ByteArrayContent(file), "files", $"{i}.wav");
        }

        return client.PostAsync($"{at}/listen", form);
    }

    private static byte[] Wave(DrawnEngine engine) => SoundWave.Write(engine.Draw());

    [Fact]
    public async Task By_a_clamp_the_knock_and_its_cylinder_are_named_and_offered_as_a_hint()
    {
        var (client, at) = await shop.NewCase();
        var answer = await Listen(client, at, [Wave(Knocking(pickup: 1))], ("rpm", "1200"), ("pickup", "1")).Json();
        var heard = answer["heard"]![0]!;
        heard["beat"]!.ToString().ShouldBe("cycle");
        heard["whose"]!.AsArray().Select(w => (int)w!).ShouldBe([3]);
        ((double)heard["rpm"]!).ShouldBe(1200, 20);
        // The third fires 240° after the first, and its knock follows soon.
        ((double)heard["at"]!).ShouldBe(258, 25);
        heard["circles"]![0]!["mean"]!.AsArray().Count.ShouldBe(240);
        answer["cutOut"].ShouldBeNull();

        var sign = heard["signs"]!.AsArray().First(s => s!["sign"]!.ToString() == "knock")!;
        ((double)sign["chance"]!).ShouldBeInRange(0.55, 0.8);
        var finding = new JsonObject
        {
            ["id"] = Guid.CreateVersion7().ToString(),
            ["place"] = PartKinds.Get(PartKinds.Engine).Letters,
            ["sign"] = "knock",
            ["seen"] = "present",
            ["level"] = 2,
            ["spot"] = "",
            ["note"] = "by a sound",
            ["chance"] = (double)sign["chance"]!,
        };
        (await client.PostAsJsonAsync($"{at}/findings", finding)).StatusCode.ShouldBe(HttpStatusCode.OK);
        finding["id"] = Guid.CreateVersion7().ToString();
        finding["chance"] = 0.2;
        (await client.PostAsJsonAsync($"{at}/findings", finding)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Without_a_clamp_the_cut_out_test_names_the_cylinder()
    {
        var (client, at) = await shop.NewCase();
        var files = new[] { 0, 1, 2, 3, 4, 5, 6 }.Select(cut => Wave(Knocking(cut)));
        var answer = await Listen(client, at, files, ("rpm", "1200"), ("cutOut", "0,1,2,3,4,5,6")).Json();
        answer["heard"]![0]!["placed"]!.GetValue<bool>().ShouldBeFalse();
        ((int)answer["cutOut"]!["whose"]!).ShouldBe(3);
        answer["cutOut"]!["results"]!.AsArray().Count.ShouldBe(6);
    }

    [Fact]
    public async Task A_bearing_that_is_described_is_named_by_its_order()
    {
        var (client, at) = await shop.NewCase();
        var rolling = new DrawnEngine(Six, DrawnFault.Rolling, 1, 3, Rpm: 1800, Seconds: 6, Decibels: 12);
        var geometry = """{"elements":9,"element":7.94,"pitch":39.04}""";
        var answer = await Listen(client, at, [Wave(rolling)], ("rpm", "1800"), ("bearing", geometry)).Json();
        answer["heard"]![0]!["beat"]!.ToString().ShouldBe("apart");
        answer["heard"]![0]!["lines"]![0]!["name"]!.ToString().ShouldBe("Order of the outer ring");
    }

    public static TheoryData<string, string, string> Bad() =>
        new()
        {
            { "text", "", "The file is no recording" },
            { "cut off", "", "The file is no recording" },
            { "silent", "", "Nothing is heard" },
            { "short", "", "It is too short" },
            { "sound", "rpm=7", "That speed cannot be" },
            { "sound", "rpm=1200&pickup=9", "no cylinder 9" },
            { "sound", "rpm=1200&bearing={", "The bearing cannot be read" },
            { "none", "", "The file is no recording" },
        };

    [Theory]
    [MemberData(nameof(Bad))]
    public async Task What_cannot_be_listened_to_says_what_to_do(string what, string fields, string says)
    {
        var (client, at) = await shop.NewCase();
        byte[]? file = what switch
        {
            "text" => "RIFF this is no sound"u8.ToArray(),
            "cut off" => Wave(Knocking())[..30],
            "silent" => SoundWave.Write(new Recording(new float[44100 * 3], 44100)),
            "short" => SoundWave.Write(new Recording([.. Enumerable.Range(0, 22050).Select(i => MathF.Sin(i))], 44100)),
            "none" => null,
            _ => Wave(Knocking()),
        };
        var pairs = fields.Split('&', StringSplitOptions.RemoveEmptyEntries).Select(f => f.Split('=')).Select(f => (f[0], f[1])).ToArray();
        var answer = await Listen(client, at, file is null ? [] : [file], [.. pairs, ("cutOut", "0")]);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonObject>())!;
        problem["title"]!.ToString().ShouldContain(says);
        problem["detail"]!.ToString().Length.ShouldBeGreaterThan(10);
    }
}
