using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using NetVips;
using VividSleuth.Core.Pictures;
using VividSleuth.Store.Look;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>Pictures that measure, over the wire; drawn by the stand-in for a camera, so that the truth is known.</summary>
public sealed class PictureTests(Shop shop)
{
    private static readonly Dictionary<SceneKind, (DrawnScene Scene, byte[] File)> Drawn = [];

    private static (DrawnScene Scene, byte[] File) Draw(SceneKind kind)
    {
        lock (Drawn)
        {
            if (!Drawn.TryGetValue(kind, out var known))
            {
                var scene = DrawnScenes.Draw(kind, 7);
                Drawn[kind] = known = (scene, PictureRaster.ToJpeg(scene.Picture));
            }

            return known;
        }
    }

    private static async Task<string> Sent(HttpClient client, string at, byte[] file, string place)
    {
        var form = new MultipartFormDataContent
        {
            { new StringContent(Guid.CreateVersion7().ToString()), "id" },
            { new StringContent(place), "place" },
            { new ByteArrayContent(file), "file", "drawn.jpg" },
        };
        return (await client.PostAsync($"{at}/photos", form).Json())["id"]!.ToString();
    }

    private static JsonObject Ask(DrawnScene scene) =>
        new()
        {
            ["task"] = System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(scene.Task.ToString()),
            ["points"] = new JsonArray([
                .. scene
                    .Points.SelectMany(p => new[] { (p.X + 0.5) / scene.Picture.Width, (p.Y + 0.5) / scene.Picture.Height })
                    .Select(v => JsonValue.Create(v)),
            ]),
            ["above"] = 0,
        };

    [Theory]
    [InlineData(SceneKind.Hatch, "C2")]
    [InlineData(SceneKind.RingGap, "P2T")]
    [InlineData(SceneKind.Strip, "K2")]
    [InlineData(SceneKind.Grooves, "P2")]
    public async Task A_figure_lies_within_its_stated_uncertainty(SceneKind kind, string place)
    {
        var (client, at) = await shop.NewCase();
        var (scene, file) = Draw(kind);
        var photo = await Sent(client, at, file, place);
        var card = await client.GetAsync($"{at}/photos/{photo}/card").Json();
        card["number"]!.GetValue<int>().ShouldBe(8);
        card["dots"]!.AsArray().Count.ShouldBe(2 * ScaleCard.Columns * ScaleCard.Rows);
        card["says"]!.AsArray().ShouldBeEmpty();
        var answer = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask(scene)).Json();
        answer["value"]!.GetValue<double>().ShouldBe(scene.Truth, answer["expanded"]!.GetValue<double>());
        answer["influences"]!.AsArray().Sum(i => i!["share"]!.GetValue<double>()).ShouldBe(1, 1e-6);
    }

    [Fact]
    public async Task A_chord_in_a_bore_that_was_measured_is_told_as_a_share_of_it()
    {
        // Only where there are ports in the wall.
        (await ChordAsync(Shop.Six)).ShouldBeEmpty();
        var (share, chord) = (
            await ChordAsync(
                JsonNode.Parse(await File.ReadAllTextAsync(Path.Combine(ApiContractTests.Root(), "demo/cases/pump-together.case.json")))!["case"]![
                    "layout"
                ]!
            )
        ).ShouldHaveSingleItem();
        share["name"]!.ToString().ShouldBe("Port’s chord beside the bore");
        share["value"]!.GetValue<double>().ShouldBe(100 * chord / 120.03, 0.01);
        share["standard"]!.GetValue<double>().ShouldBeGreaterThan(0);
    }

    private async Task<(JsonNode Share, double Chord)[]> ChordAsync(JsonNode layout)
    {
        var client = await shop.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(client, layout: layout);
        var (scene, file) = Draw(SceneKind.Grooves);
        var photo = await Sent(client, at, file, "C2");
        var ask = Ask(scene);
        ask["task"] = "length";
        var before = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", ask).Json();
        before["beside"]!.AsArray().ShouldBeEmpty();
        foreach (var direction in new[] { "across", "along the crank" })
        {
            var reading = new JsonObject
            {
                ["id"] = Guid.CreateVersion7(),
                ["place"] = "C2",
                ["characteristic"] = "bore-diameter",
                ["station"] = "middle",
                ["direction"] = direction,
                ["typed"] = "120.03",
                ["setUnit"] = "mm",
                ["instrument"] = "",
                ["temperature"] = null,
                ["corrects"] = null,
                ["confirmed"] = false,
            };
            await client.PostAsJsonAsync($"{at}/readings", reading).Json();
        }

        var answer = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", ask).Json();
        return [.. answer["beside"]!.AsArray().Select(b => (b!, answer["value"]!.GetValue<double>()))];
    }

    /// <summary>A shell seen from above with its free end up: a light patch at the left parting line, from the free end to the middle.</summary>
    [Fact]
    public async Task A_patch_grown_by_its_light_is_laid_on_the_map_of_the_part()
    {
        var (client, at) = await shop.NewCase();
        var light = Enumerable
            .Range(0, 640 * 480)
            .Select(i => (X: i % 640, Y: i / 640))
            .Select(p => p is { X: > 40 and < 100, Y: > 40 and < 240 } ? 0.8f : 0.35f)
            .ToArray();
        var photo = await Sent(client, at, PictureRaster.ToJpeg(new Raster(640, 480, light)), "R3U");
        double[] points = [70, 120, 40, 40, 600, 40, 600, 440, 40, 440];
        var ask = new
        {
            task = "grown",
            points = points.Select((p, i) => p / (i % 2 == 0 ? 640 : 480)),
            above = 0,
            face = "running-face",
        };
        var answer = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", ask).Json();
        answer["value"]!.GetValue<double>().ShouldBe(100.0 * 60 * 200 / (560 * 400), 0.6);
        answer["faces"]!.AsArray().Select(f => f!["id"]!.ToString()).ShouldBe(["running-face", "back"]);
        answer["faces"]![0]!["facing"]!.AsArray().ShouldBeEmpty();
        var zones = answer["zones"]!.AsArray().Select(z => z!["code"]!.ToString()).ToArray();
        zones.ShouldContain("A1");
        zones.ShouldContain("C2");
        zones.ShouldAllBe(z => z[1] < '4' && z[0] < 'H');
    }

    /// <summary>A bore seen straight from above: the way down goes with one over the radius.</summary>
    [Fact]
    public async Task A_patch_on_the_wall_of_a_bore_is_told_by_its_two_edges_and_laid_on_the_map()
    {
        var (client, at) = await shop.NewCase();
        const double Upper = 220;
        const double Lower = 110;
        double Down(double radius) => ((1 / radius) - (1 / Upper)) / ((1 / Lower) - (1 / Upper));
        var light = Enumerable
            .Range(0, 640 * 480)
            .Select(i => (X: (i % 640) - 320.0, Y: (i / 640) - 240.0))
            .Select(p => (Radius: double.Hypot(p.X, p.Y), Turned: Math.Atan2(p.X, -p.Y) / (2 * Math.PI)))
            .Select(p => p.Turned is > 0.2 and < 0.3 && Down(p.Radius) is > 0.1 and < 0.4 ? 0.8f : 0.35f)
            .ToArray();
        var photo = await Sent(client, at, PictureRaster.ToJpeg(new Raster(640, 480, light)), "C2");
        (double, double) On(double turned, double radius) =>
            (320 + (radius * Math.Sin(2 * Math.PI * turned)), 240 - (radius * Math.Cos(2 * Math.PI * turned)));
        (double X, double Y)[] points =
        [
            On(0.25, 1 / ((1 / Upper) + (0.25 * ((1 / Lower) - (1 / Upper))))),
            On(0, Upper),
            On(0.3, Upper),
            On(0.7, Upper),
            On(0.1, Lower),
            On(0.4, Lower),
            On(0.8, Lower),
        ];
        JsonObject Ask(string task, (double X, double Y)[] of) =>
            new()
            {
                ["task"] = task,
                ["points"] = new JsonArray([.. of.SelectMany(p => new JsonNode[] { p.X / 640, p.Y / 480 })]),
                ["above"] = 0,
                ["face"] = "wall",
                ["facing"] = 3,
            };
        var answer = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask("wallGrown", points)).Json();
        answer["value"]!.GetValue<double>().ShouldBe(3, 0.15);
        answer["faces"]!.AsArray().ShouldHaveSingleItem()!["facing"]!.AsArray().Count.ShouldBe(12);
        // A quarter with the clock from three is six o’clock; from there to four tenths down lie the top ring’s turn and what is below it.
        answer["zones"]!.AsArray().Select(z => z!["code"]!.ToString()).ShouldBe(["E6", "C6"], ignoreOrder: true);
        // No flat face of a bore is on its map.
        (await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask("grown", [points[0], (40, 40), (600, 40), (600, 440), (40, 440)])).Json())[
            "faces"
        ]!
            .AsArray()
            .ShouldBeEmpty();
        var inside = await client
            .PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask("wallGrown", [points[0], .. points[4..], .. points[1..4]]))
            .Problem();
        inside.FirstField().ShouldBe("points");
        JsonObject Entry(JsonObject? reading) =>
            new()
            {
                ["id"] = Guid.CreateVersion7(),
                ["photo"] = photo,
                ["ask"] = Ask("wallGrown", points),
                ["reading"] = reading,
            };
        var kept = await client.PostAsJsonAsync($"{at}/picture-measures", Entry(null)).Json();
        // A share of the wall is no leak, though both are told in %.
        var leak = new JsonObject
        {
            ["id"] = Guid.CreateVersion7(),
            ["characteristic"] = "leak-down",
            ["phase"] = "asFound",
        };
        (await client.PostAsJsonAsync($"{at}/picture-measures", Entry(leak)).Problem()).FirstField().ShouldBe("characteristic");
        kept["measure"]!["task"]!.ToString().ShouldBe("wallGrown");
        kept["measure"]!["value"]!.GetValue<double>().ShouldBe(3, 0.15);
    }

    [Fact]
    public async Task A_measure_becomes_a_reading_with_its_own_uncertainty_and_goes_with_it()
    {
        var (client, at) = await shop.NewCase();
        var (scene, file) = Draw(SceneKind.Hatch);
        var photo = await Sent(client, at, file, "C2");
        JsonObject Entry(Guid id, Guid reading, string characteristic) =>
            new()
            {
                ["id"] = id,
                ["photo"] = photo,
                ["ask"] = Ask(scene),
                ["reading"] = new JsonObject
                {
                    ["id"] = reading,
                    ["characteristic"] = characteristic,
                    ["phase"] = "asFound",
                },
            };
        var (id, reading) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        (await client.PostAsJsonAsync($"{at}/picture-measures", Entry(id, reading, "bore-diameter")).Problem())
            .FirstField()
            .ShouldBe("characteristic");
        var made = await client.PostAsJsonAsync($"{at}/picture-measures", Entry(id, reading, "hatch-angle")).Json();
        // Sent twice it is there once.
        await client.PostAsJsonAsync($"{at}/picture-measures", Entry(id, reading, "hatch-angle")).Json();
        made["reading"]!["picture"]!.GetValue<Guid>().ShouldBe(id);
        made["measure"]!["card"]!.GetValue<int>().ShouldBe(8);
        var whole = await client.GetAsync(at).Json();
        whole["readings"]!.AsArray().Count.ShouldBe(1);
        whole["pictureMeasures"]!.AsArray().Count.ShouldBe(1);

        var budget = await client.GetAsync($"{at}/gauge/budget?place=C2&characteristic=hatch-angle&phase=AsFound").Json();
        budget["figure"]!["value"]!.GetValue<double>().ShouldBe(scene.Truth, budget["expanded"]!.GetValue<double>());
        budget["lines"]!.AsArray().ShouldHaveSingleItem()!["standard"]!.GetValue<double>().ShouldBe((double)made["reading"]!["standard"]!, 1e-9);

        // A protractor that agrees is put together with it: no worse than the better of both.
        var before = budget["standard"]!.GetValue<double>();
        var hand = CaseTests.Read("C2", "hatch-angle", "51", unit: "deg");
        await client.PostAsJsonAsync($"{at}/readings", hand).Json();
        var both = await client.GetAsync($"{at}/gauge/budget?place=C2&characteristic=hatch-angle&phase=AsFound").Json();
        both["standard"]!.GetValue<double>().ShouldBeLessThan(before);

        await client.PostAsJsonAsync($"{at}/picture-measures/{id}/withdraw", new { why = "wrong bore", version = 1 }).Json();
        whole = await client.GetAsync(at).Json();
        whole["readings"]!.AsArray().Single(r => r!["id"]!.GetValue<Guid>() == reading)!["withdrawnAt"].ShouldNotBeNull();
    }

    [Fact]
    public async Task Particles_are_counted_by_classes_and_the_same_picture_has_the_same_answer()
    {
        var (client, at) = await shop.NewCase();
        var (scene, file) = Draw(SceneKind.Particles);
        var photo = await Sent(client, at, file, "PA");
        var one = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask(scene)).Json();
        var other = await client.PostAsJsonAsync($"{at}/photos/{photo}/measure", Ask(scene)).Json();
        one.ToJsonString().ShouldBe(other.ToJsonString());
        one["classes"]!.AsArray().Sum(c => c!["count"]!.GetValue<int>()).ShouldBe(one["value"]!.GetValue<int>());
        one["value"]!.GetValue<double>().ShouldBe(scene.Truth, 0.06 * scene.Truth);
    }

    [Theory]
    [InlineData("black")]
    [InlineData("pixel")]
    [InlineData("two cards")]
    public async Task Bad_pictures_are_told_what_to_do(string which)
    {
        var (client, at) = await shop.NewCase();
        var file = which switch
        {
            "black" => Image.Black(400, 300).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer(),
            "pixel" => Image.Black(1, 1).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer(),
            _ => TwoCards(),
        };
        var photo = await Sent(client, at, file, "P2");
        var problem = await client
            .PostAsJsonAsync(
                $"{at}/photos/{photo}/measure",
                new JsonObject
                {
                    ["task"] = "length",
                    ["points"] = new JsonArray(0.1, 0.1, 0.9, 0.9),
                    ["above"] = 0,
                }
            )
            .Problem();
        problem["detail"]!.ToString().ShouldNotBeEmpty();
        (await client.GetAsync($"{at}/photos/{photo}/card").Json())["says"]!.AsArray().Count.ShouldBe(1);
    }

    private static byte[] TwoCards()
    {
        var (one, other) = (DrawnPicture.Card(5, new Spot(0, 0)), DrawnPicture.Card(9, new Spot(75, 0)));
        var view = new DrawnView(1400, 600, 9, new Spot(62, 15));
        return PictureRaster.ToJpeg(DrawnPicture.Draw(p => one(p) ?? other(p) ?? 0.4, view, new DrawnFlaws(), 1));
    }

    /// <summary>Connected regions by libvips’ own labelling, which had no part in ours: as many, and each pixel with its like.</summary>
    [Fact]
    public void Regions_are_those_of_the_library()
    {
        var random = new Random(3);
        var inside = Enumerable.Range(0, 200 * 150).Select(_ => random.NextDouble() < 0.45).ToArray();
        using var image = Image.NewFromMemory([.. inside.Select(i => i ? (byte)255 : (byte)0)], 200, 150, 1, Enums.BandFormat.Uchar);
        // The library joins four neighbours, and labels what is black as well as what is white.
        using var labels = image.Labelregions();
        var theirs = labels.WriteToMemory<int>();
        var ours = Regions.Of(inside, 200, 150).Labels;
        // Whatever they hold as one, we do too; we join corners besides.
        for (var n = 0; n < inside.Length; n++)
        {
            if (n % 200 > 0 && inside[n] && inside[n - 1])
            {
                (theirs[n] == theirs[n - 1]).ShouldBeTrue();
                ours[n].ShouldBe(ours[n - 1]);
            }
        }

        var joined = Enumerable.Range(0, inside.Length).Where(n => inside[n]).GroupBy(n => theirs[n]);
        joined.ShouldAllBe(g => g.Select(n => ours[n]).Distinct().Count() == 1);
    }

    [Fact]
    public async Task A_frame_of_the_camera_is_told_whether_it_is_good()
    {
        var (client, _) = await shop.NewCase();
        async Task<JsonNode> Hint(byte[] frame)
        {
            var body = new ByteArrayContent(frame);
            body.Headers.ContentType = new("application/octet-stream");
            return await client.PostAsync("/api/pictures/hint", body).Json();
        }

        var good = await Hint(PictureRaster.ToJpeg(DrawnScenes.Draw(SceneKind.Strip, 7, small: 2.2).Picture));
        (good["good"]!.GetValue<bool>(), good["number"]!.GetValue<int>()).ShouldBe((true, 8));
        (await Hint(Image.Black(320, 240).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer()))["good"]!.GetValue<bool>().ShouldBeFalse();
        var junk = new ByteArrayContent("no picture"u8.ToArray());
        junk.Headers.ContentType = new("application/octet-stream");
        (await client.PostAsync("/api/pictures/hint", junk)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task The_card_prints_in_its_true_size_and_is_found_on_its_paper()
    {
        var (client, _) = await shop.NewCase();
        var pdf = await client.GetByteArrayAsync("/api/pictures/card.pdf?number=1234");
        using var page = Image.NewFromBuffer(await Drawn200Dpi(pdf));
        using var grey = page.Colourspace(Enums.Interpretation.Bw).ExtractBand(0).Cast(Enums.BandFormat.Uchar);
        var light = grey.WriteToMemory<byte>().Select(b => b / 255f).ToArray();
        var cards = CardFinder.Find(new Raster(grey.Width, grey.Height, light));
        cards.Select(c => c.Number).ShouldBe([1234, 1234]);
        // 200 dots in 25.4 mm.
        var (most, least) = cards[0].Map.Scale(new Spot(25, 15));
        most.ShouldBe(200 / 25.4, 0.01);
        least.ShouldBe(200 / 25.4, 0.01);
        (await client.GetAsync("/api/pictures/card.pdf?number=5000")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    private static async Task<byte[]> Drawn200Dpi(byte[] pdf)
    {
        var folder = Directory.CreateTempSubdirectory("card").FullName;
        await File.WriteAllBytesAsync(Path.Combine(folder, "card.pdf"), pdf);
        using var process = System.Diagnostics.Process.Start(
            "pdftoppm",
            ["-r", "200", "-png", "-singlefile", Path.Combine(folder, "card.pdf"), Path.Combine(folder, "card")]
        )!;
        await process.WaitForExitAsync();
        var png = await File.ReadAllBytesAsync(Path.Combine(folder, "card.png"));
        Directory.Delete(folder, recursive: true);
        return png;
    }

    [Fact]
    public async Task One_picture_is_laid_over_another_and_what_is_not_alike_is_told()
    {
        var (client, at) = await shop.NewCase();
        var one = await Sent(client, at, Draw(SceneKind.Particles).File, "PA");
        var same = await Sent(client, at, PictureRaster.ToJpeg(DrawnScenes.Draw(SceneKind.Particles, 7, tilt: 12, noise: 0.03).Picture), "PA");
        var over = await client.GetAsync($"{at}/photos/{one}/over/{same}").Json();
        over["larger"]!.GetValue<double>().ShouldBe(1, 0.01);
        over["turn"]!.GetValue<double>().ShouldBe(0, 0.3);
        over["changes"]!.AsArray().ShouldBeEmpty();
        var (_, elsewhere) = await shop.NewCase();
        (await client.GetAsync($"{elsewhere}/photos/{one}/over/{same}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
