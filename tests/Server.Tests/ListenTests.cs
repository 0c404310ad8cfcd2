using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Sounds;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Server.Tests;

/// <summary>Recordings over the wire, made by the stand-in for a microphone, so that the truth is known.</summary>
public sealed class ListenTests(Shop shop)
{
    private static readonly int[] Order = [1, 5, 3, 6, 2, 4];

    private static readonly Firings Six = new(720, [.. Order.Select((c, i) => new Firing([c], 120.0 * i))]);

    private static DrawnEngine Knocking(int cut = 0, int pickup = 0) =>
        new(Six, DrawnFault.OncePerCycle, 3, 2, Rpm: 1200, Seconds: 6, Decibels: 12, CutOut: cut, Pickup: pickup);

    private static byte[] Wave(DrawnEngine engine) => SoundWave.Write(engine.Draw());

    private static MultipartFormDataContent Form(Guid id, params (string Name, object Value)[] fields)
    {
        var form = new MultipartFormDataContent { { new StringContent(id.ToString()), "id" } };
        foreach (var (name, value) in fields)
        {
            form.Add(new StringContent(value.ToString()!), name);
        }

        return form;
    }

    private static Task<HttpResponseMessage> Send(HttpClient client, string at, Guid id, byte[] file, params (string Name, object Value)[] fields)
    {
        var form = Form(id, fields);
        form.Add(new ByteArrayContent(file), "file", "heard.wav");
        return client.PostAsync($"{at}/sounds", form);
    }

    private static async Task<Guid> Kept(HttpClient client, string at, DrawnEngine engine, params (string Name, object Value)[] fields)
    {
        var id = Guid.CreateVersion7();
        var answer = await Send(client, at, id, Wave(engine), fields);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        return id;
    }

    private static Task<HttpResponseMessage> Listen(HttpClient client, string at, object? bearing, params Guid[] sounds) =>
        client.PostAsJsonAsync($"{at}/listen", new { sounds, bearing });

    [Fact]
    public async Task By_a_clamp_the_knock_and_its_cylinder_are_named_and_offered_as_a_hint()
    {
        var (client, at) = await shop.NewCase();
        var id = await Kept(client, at, Knocking(pickup: 1), ("rpm", 1200), ("pickup", 1));
        var answer = await Listen(client, at, null, id).Json();
        var heard = answer["heard"]![0]!["heard"]!;
        heard["beat"]!.ToString().ShouldBe("cycle");
        heard["whose"]!.AsArray().Select(w => (int)w!).ShouldBe([3]);
        ((double)heard["rpm"]!).ShouldBe(1200, 20);
        // The third fires 240° after the first, and its knock follows soon.
        ((double)heard["at"]!).ShouldBe(258, 25);
        heard["circles"]![0]!["mean"]!.AsArray().Count.ShouldBe(240);
        answer["cutOut"].ShouldBeNull();

        var sign = heard["signs"]!.AsArray().First(s => s!["sign"]!.ToString() == "knock")!;
        ((double)sign["chance"]!).ShouldBeInRange(0.55, 0.8);
        sign["place"]!.ToString().ShouldBe(PartKinds.Get(PartKinds.Engine).Letters);
        var finding = new JsonObject
        {
            ["id"] = Guid.CreateVersion7().ToString(),
            ["place"] = sign["place"]!.ToString(),
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
    public async Task Without_a_clamp_the_cut_out_test_names_the_cylinder_and_offers_it_at_its_rod()
    {
        var (client, at) = await shop.NewCase();
        var ids = new List<Guid>();
        foreach (var cut in new[] { 0, 1, 2, 3, 4, 5, 6 })
        {
            ids.Add(await Kept(client, at, Knocking(cut), ("rpm", 1200), ("cutOut", cut)));
        }

        var answer = await Listen(client, at, null, [.. ids]).Json();
        answer["heard"]![0]!["heard"]!["placed"]!.GetValue<bool>().ShouldBeFalse();
        ((int)answer["cutOut"]!["whose"]!).ShouldBe(3);
        answer["cutOut"]!["results"]!.AsArray().Count.ShouldBe(6);
        var together = answer["together"]!.AsArray().ToDictionary(s => s!["place"]!.ToString(), s => (int)s!["level"]!);
        together["R3"].ShouldBeGreaterThan(0);
        together.Where(t => t.Key != "R3").ShouldAllBe(t => t.Value == 0);
        together.Count.ShouldBeGreaterThan(3);
    }

    [Fact]
    public async Task A_recording_is_kept_as_it_came_and_what_it_was_made_under_can_be_put_right()
    {
        var (client, at) = await shop.NewCase();
        var (id, wave) = (Guid.CreateVersion7(), Wave(Knocking(pickup: 1)));
        var sound = await Send(client, at, id, wave, ("load", "pulls"), ("warmth", "cold"), ("where", "engine"), ("cutOut", 2)).Json();
        sound["sha256"]!.ToString().ShouldBe(Convert.ToHexStringLower(SHA256.HashData(wave)));
        ((double)sound["seconds"]!).ShouldBe(6, 0.1);
        ((int)sound["channels"]!).ShouldBe(2);
        (sound["load"]!.ToString(), sound["warmth"]!.ToString(), (int)sound["cutOut"]!).ShouldBe(("pulls", "cold", 2));

        // Sent again it is the same one, and nothing more is written.
        (await Send(client, at, id, wave, ("load", "light")).Json())["load"]!
            .ToString()
            .ShouldBe("pulls");
        (await client.GetByteArrayAsync($"{at}/sounds/{id}/wave")).ShouldBe(wave);

        var right = new
        {
            rpm = 1200,
            pickup = 1,
            cutOut = 0,
            where = "engine",
            load = "light",
            warmth = "cold",
            version = 1,
        };
        (await client.PutAsJsonAsync($"{at}/sounds/{id}", right).Json())["load"]!.ToString().ShouldBe("light");
        (await client.PutAsJsonAsync($"{at}/sounds/{id}", right)).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        // Of the engine as numbered from the other end the same cylinder.
        var whole = await client.GetAsync(at).Json();
        (await client.PostAsJsonAsync($"{at}/sounds/{id}/withdraw", new { why = "wrong engine", version = 2 }).Json())["withdrawnWhy"]!
            .ToString()
            .ShouldBe("wrong engine");
        whole["sounds"]!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task Over_a_bad_line_it_comes_in_pieces()
    {
        var (client, at) = await shop.NewCase();
        var (id, wave) = (Guid.CreateVersion7(), Wave(Knocking()));
        var early = await client.PostAsync($"{at}/sounds", Form(id, ("name", "heard.wav"), ("bytes", wave.Length)));
        early.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        for (var from = 0; from < wave.Length; from += 200_000)
        {
            var piece = new ByteArrayContent(wave[from..Math.Min(wave.Length, from + 200_000)]);
            piece.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            (await client.PutAsync($"{at}/sounds/{id}/pieces?offset={from}", piece)).StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        var sound = await client.PostAsync($"{at}/sounds", Form(id, ("name", "heard.wav"), ("bytes", wave.Length))).Json();
        sound["fileName"]!.ToString().ShouldBe("heard.wav");
        (await client.GetByteArrayAsync($"{at}/sounds/{id}/wave")).ShouldBe(wave);
    }

    [Fact]
    public async Task A_bearing_that_is_described_is_named_by_its_order()
    {
        var (client, at) = await shop.NewCase();
        var rolling = new DrawnEngine(Six, DrawnFault.Rolling, 1, 3, Rpm: 1800, Seconds: 6, Decibels: 12);
        var id = await Kept(client, at, rolling, ("rpm", 1800));
        var answer = await Listen(
                client,
                at,
                new
                {
                    elements = 9,
                    element = 7.94,
                    pitch = 39.04,
                    contact = 0,
                },
                id
            )
            .Json();
        answer["heard"]![0]!["heard"]!["beat"]!.ToString().ShouldBe("apart");
        answer["heard"]![0]!["heard"]!["lines"]![0]!["name"]!.ToString().ShouldBe("Order of the outer ring");
    }

    public static TheoryData<string, string, string> Refused() =>
        new()
        {
            { "text", "", "The file is no recording" },
            { "cut off", "", "The file is no recording" },
            { "empty", "", "The file is no recording" },
            { "sound", "rpm=7", "That speed cannot be" },
            { "sound", "pickup=9", "no cylinder 9" },
            { "sound", "load=heavy", "recorded that way: heavy" },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public async Task What_cannot_be_kept_says_what_to_do(string what, string field, string says)
    {
        var (client, at) = await shop.NewCase();
        var file = what switch
        {
            "text" => "RIFF this is no sound"u8.ToArray(),
            "cut off" => Wave(Knocking())[..30],
            "empty" => [],
            _ => Wave(Knocking()),
        };
        var fields = field.Split('=') is [var name, var value] ? new[] { (name, (object)value) } : [];
        var answer = await Send(client, at, Guid.CreateVersion7(), file, fields);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonObject>())!;
        problem["title"]!.ToString().ShouldContain(says);
        problem["detail"]!.ToString().Length.ShouldBeGreaterThan(10);
    }

    [Fact]
    public async Task One_that_tells_nothing_is_told_so_and_the_others_are_heard()
    {
        var (client, at) = await shop.NewCase();
        var (silent, brief) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await Send(client, at, silent, SoundWave.Write(new Recording(new float[44100 * 3], 44100))).Json();
        await Send(client, at, brief, SoundWave.Write(new Recording([.. Enumerable.Range(0, 22050).Select(i => MathF.Sin(i))], 44100))).Json();
        var good = await Kept(client, at, Knocking(), ("rpm", 1200));
        var heard = (await Listen(client, at, null, silent, brief, good).Json())["heard"]!.AsArray();
        heard.Select(h => h!["sound"]!.GetValue<Guid>()).ShouldBe([silent, brief, good]);
        heard[0]!["wrong"]!.ToString().ShouldContain("Nothing is heard");
        heard[1]!["do"]!.ToString().ShouldContain("at least 2 seconds");
        heard[2]!["heard"]!["beat"]!.ToString().ShouldBe("cycle");

        (await Listen(client, at, null)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Listen(client, at, null, Guid.CreateVersion7())).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
