using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using VividSleuth.Cli;
using VividSleuth.Core;
using VividSleuth.Store.Shop;
using static VividSleuth.Server.Tests.Outside;

namespace VividSleuth.Server.Tests;

/// <summary>Sealed bags: held by programs of other people, read in again, and refused where anything is wrong with them.</summary>
public sealed class SealTests(Shop shop, OwnShop own) : IClassFixture<OwnShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Demo
    {
        get
        {
            var folder = new DirectoryInfo(AppContext.BaseDirectory);
            while (!File.Exists(Path.Combine(folder!.FullName, "VividSleuth.slnx")))
            {
                folder = folder.Parent;
            }

            return Path.Combine(folder.FullName, "demo/cases");
        }
    }

    private static async Task<string> ReadInAsync(HttpClient client, string demo, string copy = "")
    {
        using var body = new StringContent(await File.ReadAllTextAsync(demo, Cancel), Encoding.UTF8, "application/json");
        var made = await client.PostAsync($"/api/cases/import?copy={copy}{Guid.CreateVersion7()}", body, Cancel).Json();
        return $"/api/cases/{made["id"]}";
    }

    private static Task<HttpResponseMessage> Seal(HttpClient client, string at, Guid? id = null) =>
        client.PostAsJsonAsync($"{at}/seals", new { id = id ?? Guid.CreateVersion7(), why = "For the insurer" }, Cancel);

    private static Task<HttpResponseMessage> ReadIn(HttpClient client, byte[] zip)
    {
        var content = new ByteArrayContent(zip);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/zip");
        return client.PostAsync("/api/cases/import-bag", content, Cancel);
    }

    private static Task<HttpResponseMessage> Check(HttpClient client, byte[] zip) =>
        client.PostAsync("/api/bags/check", new ByteArrayContent(zip), Cancel);

    private static async Task<(int Code, string Output, string Errors)> Sleuth(params string[] args)
    {
        using StringWriter output = new(),
            errors = new();
        var code = await SleuthCommand.Build(output, errors).Parse(args).InvokeAsync(cancellationToken: Cancel);
        return (code, output.ToString(), errors.ToString());
    }

    /// <summary>What stands in the record alone is told as not here; the bag brings the recording itself.</summary>
    [Fact]
    public async Task A_recording_goes_with_the_bag_and_comes_back_to_be_listened_to()
    {
        var client = await shop.As(Roles.Mechanic);
        var at = await ReadInAsync(client, Path.Combine(Demo, "biogas-six.case.json"));
        var sounds = (await client.GetAsync(at).Json())["sounds"]!.AsArray().Select(s => s!["id"]!.GetValue<Guid>()).ToArray();
        sounds.Length.ShouldBe(4);
        // The case file has brought the record alone.
        var told = await client.PostAsJsonAsync($"{at}/listen", new { sounds = sounds[..1], bearing = (object?)null }, Cancel).Json();
        told["heard"]![0]!["wrong"]!.ToString().ShouldContain("did not come along");

        var wave = await File.ReadAllBytesAsync(Path.Combine(Demo, "../sounds/pulling.wav"), Cancel);
        var mine = Guid.CreateVersion7();
        await client
            .PostAsync(
                $"{at}/sounds",
                new MultipartFormDataContent
                {
                    { new StringContent(mine.ToString()), "id" },
                    { new StringContent("1500"), "rpm" },
                    { new ByteArrayContent(wave), "file", "pulling.wav" },
                },
                Cancel
            )
            .Json();
        await Seal(client, at).Json();
        var bag = await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel);
        var other = await shop.As(Roles.Mechanic, shop.Other);
        var read = await ReadIn(other, bag).Json();
        var there = $"/api/cases/{read["id"]}";
        var id = (await other.GetAsync(there).Json())["sounds"]!.AsArray().Last(s => s!["fileName"]!.ToString() == "pulling.wav")![
            "id"
        ]!.GetValue<Guid>();
        (await other.GetByteArrayAsync($"{there}/sounds/{id}/wave", Cancel)).ShouldBe(wave);
        (await other.PostAsJsonAsync($"{there}/listen", new { sounds = new[] { id }, bearing = (object?)null }, Cancel).Json())["heard"]![0]![
            "heard"
        ]!["beat"]!
            .ToString()
            .ShouldBe("cycle");
    }

    /// <summary>References: unzip, sha256sum, sha512sum and openssl.</summary>
    [Fact]
    public async Task A_sealed_bag_is_held_by_common_tools_and_a_change_shows_in_each()
    {
        var client = await shop.As(Roles.Mechanic);
        var at = await ReadInAsync(client, Path.Combine(Demo, "biogas-six.case.json"));
        await Seal(client, at).Json();
        var folder = Directory.CreateTempSubdirectory("bag").FullName;
        var zip = Path.Combine(folder, "bag.zip");
        await File.WriteAllBytesAsync(zip, await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel), Cancel);
        await RunAsync(
            "python3",
            "-c",
            "import sys,zipfile; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; z.extractall(sys.argv[2])",
            zip,
            folder
        );
        var bag = Directory.GetDirectories(folder).ShouldHaveSingleItem();
        foreach (
            var (tool, manifest) in new[]
            {
                ("sha256sum", "manifest-sha256.txt"),
                ("sha512sum", "manifest-sha512.txt"),
                ("sha512sum", "tagmanifest-sha512.txt"),
            }
        )
        {
            var said = await InAsync(bag, $"{tool} -c {manifest}");
            var lines = (await File.ReadAllLinesAsync(Path.Combine(bag, manifest), Cancel)).Length;
            said.Split('\n').Count(l => l.EndsWith(": OK", StringComparison.Ordinal)).ShouldBe(lines);
        }

        const string signature = "openssl dgst -sha256 -verify seal/public-key.pem -signature seal/signature.der tagmanifest-sha512.txt";
        (await InAsync(bag, signature)).ShouldContain("Verified OK");
        var fingerprint = (await InAsync(bag, "openssl pkey -pubin -in seal/public-key.pem -outform DER | sha256sum")).Split(' ')[0];
        (await client.GetAsync($"{at}/seals", Cancel).Json())["seals"]![0]!["fingerprint"]!.ToString().ShouldBe(fingerprint);
        (await File.ReadAllTextAsync(Path.Combine(bag, "README.txt"), Cancel)).ShouldContain(fingerprint);
        (await RunAsync("pdftotext", Path.Combine(bag, "data/report.pdf"), "-")).ShouldContain("Teardown report");

        (await Sleuth("verify", bag, "--key", fingerprint)).Code.ShouldBe(0);
        (await Sleuth("verify", zip)).Output.ShouldContain("Sound");
        var another = await Sleuth("verify", zip, "--key", new string('0', 64));
        another.Code.ShouldBe(1);
        another.Output.ShouldContain(fingerprint);
        await File.AppendAllTextAsync(Path.Combine(bag, "data/figures.csv"), "K4,crankpin-diameter\n", Cancel);
        var changed = await Sleuth("verify", bag);
        changed.Code.ShouldBe(1);
        changed.Output.ShouldContain("data/figures.csv is another");
        (await InAsync(bag, "sha256sum -c manifest-sha256.txt 2>/dev/null")).ShouldContain("figures.csv: FAILED");
        (await Sleuth("verify", Path.Combine(folder, "nothing"))).Code.ShouldBe(2);
        (await Sleuth("verify", Path.Combine(bag, "README.txt"))).Code.ShouldBe(2);
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Seals_are_numbered_kept_as_they_were_and_tell_what_was_written_since()
    {
        var client = await shop.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(client);
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3), Cancel).Json();
        var id = Guid.CreateVersion7();
        var both = await Task.WhenAll(Seal(client, at, id).Json(), Seal(client, at, id).Json());
        both[0].ToJsonString().ShouldBe(both[1].ToJsonString());
        var first = await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel);
        (await Seal(client, at).Problem())["title"]!.ToString().ShouldContain("since seal 1");
        (await client.GetAsync($"{at}/seals", Cancel).Json())["since"]!.AsArray().ShouldBeEmpty();

        var saw = await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R5U", "overlay-wiped", 1), Cancel).Json();
        var earlier = (await client.GetAsync(at, Cancel).Json())["findings"]!.AsArray().Single(f => f!["place"]!.ToString() == "R4U")!;
        await client
            .PostAsJsonAsync(
                $"{at}/findings/{earlier["id"]}/withdraw",
                new { why = "Was dirt", version = earlier["version"]!.GetValue<int>() },
                Cancel
            )
            .Json();
        var since = (await client.GetAsync($"{at}/seals", Cancel).Json())["since"]!.AsArray();
        since.Select(s => $"{s!["what"]} {s["kind"]} {s["place"]}").ShouldBe(["added finding R5U", "takenBack finding R4U"]);
        since[0]!["id"]!.ToString().ShouldBe(saw["id"]!.ToString());

        (await Seal(client, at).Json())["number"]!.GetValue<int>().ShouldBe(2);
        (await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel)).ShouldBe(first);
        (await client.GetAsync($"{at}/seals/1/since", Cancel).Json()).AsArray().Count.ShouldBe(2);
        (await client.GetAsync($"{at}/seals/2/since", Cancel).Json()).AsArray().ShouldBeEmpty();
        var viewer = await shop.As(Roles.Viewer);
        (await Seal(viewer, at)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await viewer.GetAsync($"{at}/seals/1/bag", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await client.GetAsync($"{at}/seals/3/bag", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Whoever_was_given_a_bag_asks_without_signing_in_whether_it_is_sound_and_whose()
    {
        var client = await shop.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(client);
        await Seal(client, at).Json();
        var zip = await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel);
        using var stranger = shop.One.CreateClient();
        var told = await Check(stranger, zip).Json();
        (told["sound"]!.GetValue<bool>(), told["ours"]!.GetValue<bool>(), told["signature"]!.ToString()).ShouldBe((true, true, "fits"));
        told["info"]!.AsArray().ShouldContain(l => l!["label"]!.ToString() == "Seal-Number" && l["value"]!.ToString() == "1");

        var files = HostileBags.Unpacked(zip);
        var forged = await Check(stranger, HostileBags.SealedAnew(files)).Json();
        (forged["sound"]!.GetValue<bool>(), forged["ours"]!.GetValue<bool>()).ShouldBe((true, false));
        files["data/figures.csv"] = "none"u8.ToArray();
        var changed = await Check(stranger, HostileBags.Packed(files)).Json();
        changed["sound"]!.GetValue<bool>().ShouldBeFalse();
        changed["problems"]!.AsArray().ShouldContain(p => p!["field"]!.ToString() == "data/figures.csv");
        files.Remove("seal/signature.der");
        files.Remove("seal/public-key.pem");
        (await Check(stranger, HostileBags.Packed(files)).Json())["signature"]!.ToString().ShouldBe("none");
        await Check(stranger, []).Problem();
        (await ReadIn(stranger, zip)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    /// <summary>Every case of the demo: sealed, read in, sealed again; the records are equal but for whose they are, and the pictures byte by byte.</summary>
    [Fact]
    public async Task Every_demo_case_goes_out_and_comes_in_with_equal_records_and_pictures()
    {
        var client = await own.As(Roles.Mechanic);
        foreach (var demo in Directory.GetFiles(Demo, "*.case.json").Order(StringComparer.Ordinal))
        {
            var at = await ReadInAsync(client, demo);
            await Seal(client, at).Json();
            var zip = await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel);
            var made = await ReadIn(client, zip).Json();
            made["imported"]!.GetValue<bool>().ShouldBeTrue();
            made["importedBag"]!.ToString().ShouldContain("-seal-1, ");
            (await ReadIn(client, zip).Json())["id"]!.ToString().ShouldBe(made["id"]!.ToString());
            var copy = $"/api/cases/{made["id"]}";
            await Seal(client, copy).Json();
            var (before, after) = (HostileBags.Unpacked(zip), HostileBags.Unpacked(await client.GetByteArrayAsync($"{copy}/seals/1/bag", Cancel)));
            Told(after["data/case.json"]).ShouldBe(Told(before["data/case.json"]), Path.GetFileName(demo));
            Sums(after).ShouldBe(Sums(before));
        }
    }

    [Fact]
    public async Task What_comes_in_with_a_bag_is_another_shops_and_never_ones_own()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(client);
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3), Cancel).Json();
        await Seal(client, at).Json();
        var made = await ReadIn(client, await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel)).Json();
        var read = await client.GetAsync($"/api/cases/{made["id"]}", Cancel).Json();
        read["findings"]!.AsArray().ShouldAllOfSomeBe(f => f!["imported"]!.GetValue<bool>());
        // A seal of another shop is none of this one: the first of the copy is its own.
        (await client.GetAsync($"/api/cases/{made["id"]}/seals", Cancel).Json())["seals"]!
            .AsArray()
            .ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_hundred_bags_that_somebody_tampered_with_are_refused_by_name_and_nothing_is_written()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await ReadInAsync(client, Path.Combine(Demo, "biogas-six.case.json"));
        await Seal(client, at).Json();
        var sound = await client.GetByteArrayAsync($"{at}/seals/1/bag", Cancel);
        var before = await CountsAsync();
        var refused = 0;
        foreach (var (name, zip) in HostileBags.All(sound))
        {
            using var sent = await ReadIn(client, zip);
            var said = await sent.Content.ReadAsStringAsync(Cancel);
            sent.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, $"{name}: {said}");
            var problem = JsonNode.Parse(said)!;
            problem["title"]!.ToString().ShouldNotBeNullOrWhiteSpace(name);
            problem["detail"]!.ToString().ShouldNotBeNullOrWhiteSpace(name);
            refused++;
        }

        refused.ShouldBeGreaterThanOrEqualTo(200);
        (await CountsAsync()).ShouldBe(before);
        // The one that nobody tampered with comes in after all of them.
        await ReadIn(client, sound).Json();
    }

    private async Task<string> CountsAsync()
    {
        await using var source = Npgsql.NpgsqlDataSource.Create($"{own.Connection};Pooling=false");
        await using var command = source.CreateCommand(
            """
            select concat_ws(' ', (select count(*) from cases), (select count(*) from findings), (select count(*) from photos),
                (select count(*) from photo_originals), (select count(*) from instruments), (select count(*) from changes))
            """
        );
        return (string)(await command.ExecuteScalarAsync(Cancel))!;
    }

    private static SortedDictionary<string, string> Sums(IReadOnlyDictionary<string, byte[]> files)
    {
        var sums = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (
            var (data, n) in files
                .Where(f => f.Key.StartsWith("data/pictures/", StringComparison.Ordinal))
                .Select(f => Convert.ToHexStringLower(SHA256.HashData(f.Value)))
                .Order(StringComparer.Ordinal)
                .Select((d, i) => (d, i))
        )
        {
            sums[$"{n:000}"] = data;
        }

        return sums;
    }

    /// <summary>All that a case file tells but its ids and whose it is.</summary>
    private static string Told(byte[] json)
    {
        var file = JsonNode.Parse(json)!;
        string[] ours = ["id", "caseId", "importedFrom", "importedBag", "imported", "version", "recordId", "changes"];
        Strip(file);
        return file.ToJsonString();

        void Strip(JsonNode? node)
        {
            switch (node)
            {
                case JsonObject o:
                    foreach (var name in ours)
                    {
                        o.Remove(name);
                    }

                    foreach (var (name, value) in o.ToArray())
                    {
                        if (value is JsonValue v && v.TryGetValue<string>(out var text) && IsId(text))
                        {
                            o[name] = "id";
                        }
                        else
                        {
                            Strip(value);
                        }
                    }

                    break;
                case JsonArray a:
                    for (var i = 0; i < a.Count; i++)
                    {
                        if (a[i] is JsonValue v && v.TryGetValue<string>(out var text) && IsId(text))
                        {
                            a[i] = "id";
                        }
                        else
                        {
                            Strip(a[i]);
                        }
                    }

                    // Records stand in the order of their ids, and those are others.
                    var sorted = a.Select(n => n?.ToJsonString() ?? "null").Order(StringComparer.Ordinal).ToArray();
                    a.Clear();
                    Array.ForEach(sorted, s => a.Add(JsonNode.Parse(s)));
                    break;
            }
        }
    }

    /// <summary>A task of one’s own is named after its record.</summary>
    private static bool IsId(string text) => Guid.TryParse(text.StartsWith("own/", StringComparison.Ordinal) ? text[4..] : text, out _);

    private static Task<string> InAsync(string folder, string command) => RunAsync("bash", "-c", $"cd '{folder}' && {command}");
}
