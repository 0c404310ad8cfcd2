using System.Diagnostics;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using NetVips;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Store.Look;

namespace VividSleuth.Server.Tests;

/// <summary>Pictures are checked by exiftool, which had no part in making them.</summary>
public sealed class PhotoTests(Shop shop)
{
    private static byte[] Picture(int width = 60, int height = 40) =>
        (Image.Black(width, height, bands: 3) + new[] { 200.0, 40, 40 }).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer();

    private static async Task<string> Exiftool(byte[] data, params string[] args)
    {
        var path = Path.Combine(Path.GetTempPath(), $"{Guid.CreateVersion7():N}.jpg");
        await File.WriteAllBytesAsync(path, data);
        try
        {
            using var process = Process.Start(
                new ProcessStartInfo("exiftool", [.. args, path]) { RedirectStandardOutput = true, UseShellExecute = false }
            )!;
            var output = await process.StandardOutput.ReadToEndAsync();
            await process.WaitForExitAsync();
            process.ExitCode.ShouldBe(0);
            return args.Contains("-overwrite_original") ? Convert.ToBase64String(await File.ReadAllBytesAsync(path)) : output;
        }
        finally
        {
            File.Delete(path);
        }
    }

    private static Task<HttpResponseMessage> Send(HttpClient client, string at, byte[] data, string name, Guid? id = null, string place = "R4U")
    {
        var form = new MultipartFormDataContent
        {
            { new StringContent((id ?? Guid.CreateVersion7()).ToString()), "id" },
            { new StringContent(place), "place" },
            { new ByteArrayContent(data), "file", name },
        };
        return client.PostAsync($"{at}/photos", form);
    }

    [Theory]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".jpg")]
    public async Task Pictures_of_the_usual_kinds_are_taken_in(string kind)
    {
        var (client, at) = await shop.NewCase();
        var data = (Image.Black(64, 48, bands: 3) + new[] { 20.0, 140, 40 }).Cast(Enums.BandFormat.Uchar).WriteToBuffer(kind);
        var photo = await Send(client, at, data, $"shell{kind}").Json();
        (photo["width"]!.GetValue<int>(), photo["height"]!.GetValue<int>()).ShouldBe((64, 48));
        photo["sha256"]!.ToString().ShouldBe(Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(data)));
    }

    [Fact]
    public async Task Orientation_is_applied_location_is_gone_and_the_original_is_proven()
    {
        var (client, at) = await shop.NewCase();
        var tagged = Convert.FromBase64String(
            await Exiftool(
                Picture(),
                "-overwrite_original",
                "-Orientation#=6",
                "-GPSLatitude=51.5",
                "-GPSLatitudeRef=N",
                "-GPSLongitude=7.1",
                "-GPSLongitudeRef=E",
                "-Artist=someone"
            )
        );
        (await Exiftool(tagged)).ShouldContain("GPS Latitude");
        var photo = await Send(client, at, tagged, "../../shell.jpg").Json();
        photo["fileName"]!.ToString().ShouldBe("shell.jpg");
        photo["sha256"]!.ToString().ShouldBe(Convert.ToHexStringLower(SHA256.HashData(tagged)));
        photo["width"]!.GetValue<int>().ShouldBe(40);
        photo["height"]!.GetValue<int>().ShouldBe(60);

        foreach (var size in new[] { "view", "thumb" })
        {
            var picture = await client.GetByteArrayAsync($"{at}/photos/{photo["id"]}/{size}");
            var said = await Exiftool(picture);
            said.ShouldNotContain("GPS");
            said.ShouldNotContain("Orientation");
            said.ShouldNotContain("someone");
            said.ShouldContain("Image Width                     : 40");
        }
    }

    [Fact]
    public async Task The_original_is_had_as_a_file_by_who_works_on_the_case()
    {
        var (client, at) = await shop.NewCase();
        var data = Convert.FromBase64String(await Exiftool(Picture(), "-overwrite_original", "-Artist=someone"));
        var photo = await Send(client, at, data, "schäl 1.jpg").Json();
        var got = await client.GetAsync($"{at}/photos/{photo["id"]}/original", TestContext.Current.CancellationToken);
        (await got.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).ShouldBe(data);
        got.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        got.Content.Headers.ContentType!.MediaType.ShouldBe("image/jpeg");
        using var viewer = await shop.As(Store.Shop.Roles.Viewer);
        await viewer.GetAsync($"{at}/photos/{photo["id"]}/original").Problem(HttpStatusCode.Forbidden);
        var (_, elsewhere) = await shop.NewCase();
        await client.GetAsync($"{elsewhere}/photos/{photo["id"]}/original").Problem(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_same_picture_sent_again_is_taken_in_once()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        var data = Picture();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Send(client, at, data, "a.jpg", id).Json()));
        (await client.GetAsync(at).Json())["photos"]!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task Sizes_are_bounded_and_a_picture_of_another_case_is_not_given_out()
    {
        var (client, at) = await shop.NewCase();
        var photo = await Send(client, at, Picture(3000, 2000), "large.jpg").Json();
        photo["width"]!.GetValue<int>().ShouldBe(1600);
        (await Exiftool(await client.GetByteArrayAsync($"{at}/photos/{photo["id"]}/thumb"))).ShouldContain("Image Width                     : 320");
        var (_, elsewhere) = await shop.NewCase();
        await client.GetAsync($"{elsewhere}/photos/{photo["id"]}/view").Problem(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Hostile_files_are_refused_by_name_and_change_nothing()
    {
        var (client, at) = await shop.NewCase();
        var whole = (Image.Gaussnoise(800, 600) + new[] { 0.0, 10, 20 }).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer();
        // A PNG of 100,000 × 100,000 pixels, declared in its head and not there.
        var bomb = new byte[64];
        (Image.Black(8, 8).PngsaveBuffer())[..64].CopyTo(bomb, 0);
        Convert.FromHexString("000186A0000186A0").CopyTo(bomb, 16);
        var hostile = new Dictionary<string, byte[]>
        {
            ["empty.jpg"] = [],
            ["text.jpg"] = Encoding.UTF8.GetBytes("not a picture"),
            ["script.svg"] = Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><script>alert(1)</script></svg>"),
            ["renamed.jpg"] = [0x50, 0x4B, 3, 4, 20, 0, 0, 0, 8, 0],
            ["cut.jpg"] = whole[..(whole.Length / 2)],
            ["bomb.png"] = bomb,
        };
        foreach (var (name, data) in hostile)
        {
            var problem = await Send(client, at, data, name).Problem();
            problem["title"]!.ToString().ShouldContain(name);
        }

        (await Send(client, at, Picture(), "a.jpg", place: "R9U").Problem()).FirstField().ShouldBe("place");
        (await client.GetAsync(at).Json())["photos"]!.AsArray().ShouldBeEmpty();
    }

    /// <summary>
    /// Two hundred files made to break or to burden a decoder: each is refused by name or taken in, none is the server's failure, and what the decoder
    /// held at once stays bounded. An ordinary picture sent beside them is taken in.
    /// </summary>
    [Fact]
    public async Task Two_hundred_hostile_files_cost_no_more_than_a_picture_may()
    {
        var (client, at) = await shop.NewCase();
        var (refused, taken) = (0, 0);
        using var done = new CancellationTokenSource();
        var beside = Task.Run(async () =>
        {
            var sent = 0;
            while (!done.IsCancellationRequested)
            {
                await Send(client, at, Picture(1200 + sent, 900), $"ordinary-{sent++}.jpg").Json();
            }

            return sent;
        });
        foreach (var (name, data) in HostileFiles.All())
        {
            var answer = await Send(client, at, data, name);
            if (answer.StatusCode == HttpStatusCode.OK)
            {
                taken++;
                continue;
            }

            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, name);
            (await Task.FromResult(answer).Problem())["title"]!.ToString().ShouldContain(name);
            name.ShouldNotStartWith("sound");
            refused++;
        }

        await done.CancelAsync();
        (await beside).ShouldBeGreaterThan(5);
        (refused + taken).ShouldBeGreaterThan(200);
        refused.ShouldBeGreaterThan(120);
        Stats.MemHighwater.ShouldBeLessThan(400uL * 1024 * 1024);
    }

    [Theory]
    [InlineData(".png", "[strip]")]
    [InlineData(".png", "[interlace]")]
    [InlineData(".webp", "[lossless]")]
    [InlineData(".webp", "")]
    [InlineData(".jpg", "[interlace]")]
    [InlineData(".avif", "")]
    public void A_head_tells_what_the_decoder_finds_and_a_file_that_lacks_its_end_is_not_whole(string kind, string options)
    {
        var data = (Image.Gaussnoise(321, 123) + new[] { 90.0, 100, 110 }).Cast(Enums.BandFormat.Uchar).WriteToBuffer(kind + options);
        var head = PictureHead.Read(data)!;
        (head.Width, head.Height, head.IsWhole).ShouldBe((321, 123, true));
        PictureHead.Read(data.AsSpan(0, data.Length - 2))!.IsWhole.ShouldBeFalse();
    }

    [Fact]
    public async Task A_case_goes_out_as_a_file_and_comes_in_as_another_case()
    {
        var (client, at) = await shop.NewCase();
        await Send(client, at, Picture(), "a.jpg").Json();
        var text = await client.GetStringAsync($"{at}/export");
        using var body = new StringContent(text, Encoding.UTF8, "application/json");
        var made = await client.PostAsync("/api/cases/import", body).Json();
        made["id"]!.ToString().ShouldNotBe(at.Split('/')[^1]);
        made["importedFrom"]!.ToString().ShouldBe(at.Split('/')[^1]);
        var copy = await client.GetAsync($"/api/cases/{made["id"]}").Json();
        var photo = copy["photos"]!.AsArray().ShouldHaveSingleItem()!;
        photo["sha256"]!.ToString().ShouldBe(JsonNode.Parse(text)!["case"]!["photos"]![0]!["sha256"]!.ToString());
        (await client.GetByteArrayAsync($"/api/cases/{made["id"]}/photos/{photo["id"]}/view")).Length.ShouldBeGreaterThan(100);

        using var broken = new StringContent(text[..(text.Length / 2)], Encoding.UTF8, "application/json");
        await client.PostAsync("/api/cases/import", broken).Problem();
    }

    /// <summary>The demo is read in, and the server, the core and the command line give one answer.</summary>
    [Fact]
    public async Task The_demo_six_traces_to_its_cause_over_the_server_too()
    {
        var (client, _) = await shop.NewCase();
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder!.FullName, "VividSleuth.slnx")))
        {
            folder = folder.Parent;
        }

        using var body = new StringContent(
            await File.ReadAllTextAsync(Path.Combine(folder.FullName, "demo/cases/biogas-six.case.json")),
            Encoding.UTF8,
            "application/json"
        );
        var made = await client.PostAsync("/api/cases/import", body).Json();
        var answers = await client.GetAsync($"/api/cases/{made["id"]}/answers").Json();
        answers["trace"]!["ranking"]![0]!["cause"]!.ToString().ShouldBe("wrong-size-shell");
        answers["trace"]!["ranking"]![0]!["probability"]!.GetValue<double>().ShouldBeGreaterThan(0.9);
        // What was signed elsewhere is checked here before anybody goes on; nothing else is loose.
        answers["progress"]!["looseEnds"]!.AsArray().ShouldAllOfSomeBe(l => l!["text"]!.ToString().Contains("signed in another shop only"));
    }
}
