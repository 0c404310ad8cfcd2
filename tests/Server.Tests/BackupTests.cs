using System.Net.Http.Json;
using System.Text.Json.Nodes;
using NetVips;
using VividSleuth.Cli;
using VividSleuth.Core;
using VividSleuth.Core.Sounds;
using VividSleuth.Store.Arrival;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The whole shop as files and back, by the command line and while others write.</summary>
public sealed class BackupTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static async Task<(int Code, string Output, string Errors)> Sleuth(params string[] args)
    {
        using StringWriter output = new(),
            errors = new();
        var code = await SleuthCommand.Build(output, errors).Parse(args).InvokeAsync(cancellationToken: TestContext.Current.CancellationToken);
        return (code, output.ToString(), errors.ToString());
    }

    [Fact]
    public async Task A_shop_comes_back_as_it_was_with_its_pictures_and_its_people()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(mechanic);
        var data = (Image.Gaussnoise(60, 40) + new[] { 90.0, 100, 110 }).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer();
        var photo = Guid.CreateVersion7();
        await mechanic
            .PostAsync(
                $"{at}/photos",
                new MultipartFormDataContent
                {
                    { new StringContent(photo.ToString()), "id" },
                    { new StringContent("P1"), "place" },
                    { new ByteArrayContent(data), "file", "a.jpg" },
                }
            )
            .Json();
        var (sound, wave) = (Guid.CreateVersion7(), SoundWave.Write(new Recording([.. Enumerable.Range(0, 30_000).Select(i => MathF.Sin(i))], 8000)));
        await mechanic
            .PostAsync(
                $"{at}/sounds",
                new MultipartFormDataContent { { new StringContent(sound.ToString()), "id" }, { new ByteArrayContent(wave), "file", "idle.wav" } }
            )
            .Json();
        await mechanic.PutAsJsonAsync(
            $"/api/stock/{Guid.CreateVersion7()}",
            new
            {
                id = Guid.CreateVersion7(),
                version = 0,
                kind = "crankshaft",
                fits = "",
                grade = "",
                count = 1,
                where = "rack",
                remarks = "",
            }
        );
        await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P3", "skirt-scuff-thrust", 1)).Json();
        await mechanic.PostAsJsonAsync($"{at}/seals", new { id = Guid.CreateVersion7(), why = "" }).Json();
        var sealedBag = await mechanic.GetByteArrayAsync($"{at}/seals/1/bag");
        var folder = Directory.CreateTempSubdirectory("backup").FullName;
        using var stop = new CancellationTokenSource();
        var writing = Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
            {
                await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Json();
            }
        });
        var made = await Sleuth("backup", folder, "--db", own.Connection);
        await stop.CancelAsync();
        await writing;
        made.Code.ShouldBe(0, made.Errors);
        var backup = Directory.GetDirectories(folder).ShouldHaveSingleItem();
        (await Sleuth("verify-backup", backup)).Code.ShouldBe(0);
        var manifest = JsonNode.Parse(await File.ReadAllTextAsync(Path.Combine(backup, "manifest.json"), TestContext.Current.CancellationToken))!;
        // An original is the file as it came, under its own sum.
        var sum = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(data));
        (await File.ReadAllBytesAsync(Path.Combine(backup, "originals", sum), TestContext.Current.CancellationToken)).ShouldBe(data);

        var name = $"restored_{Guid.CreateVersion7():N}";
        await own.Run($"create database {name}");
        var restored = await Sleuth("restore", backup, "--db", own.ConnectionTo(name));
        restored.Code.ShouldBe(0, restored.Errors);
        await using (var instance = own.Instance(name))
        {
            using var client = instance.CreateClient();
            await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
            var read = await client.GetAsync(at).Json();
            read["findings"]!.AsArray().Count.ShouldBe(manifest["counts"]!["findings"]!.GetValue<int>());
            read["findings"]!.AsArray().ShouldAllOfSomeBe(f => f!["by"]!.ToString() == Roles.Mechanic && !f["imported"]!.GetValue<bool>());
            (await client.GetByteArrayAsync($"{at}/photos/{photo}/original")).ShouldBe(data);
            (await client.GetByteArrayAsync($"{at}/sounds/{sound}/wave")).ShouldBe(wave);
            (await client.GetByteArrayAsync($"{at}/photos/{photo}/thumb")).Length.ShouldBeGreaterThan(100);
            (await client.GetAsync("/api/stock").Json()).AsArray().ShouldContain(s => s!["where"]!.ToString() == "rack");
            (await client.GetAsync($"/api/changes?case={at.Split('/')[^1]}&take=1").Json())["changes"]!.AsArray().Count.ShouldBe(1);
            (await client.GetByteArrayAsync($"{at}/seals/1/bag")).ShouldBe(sealedBag);
            // The private half of the key was in no backup: it seals with another from now on, and still knows the first as its own.
            await client.PostAsJsonAsync($"{at}/seals", new { id = Guid.CreateVersion7(), why = "" }).Json();
            var seals = (await client.GetAsync($"{at}/seals").Json())["seals"]!.AsArray();
            seals[0]!["fingerprint"]!.ToString().ShouldNotBe(seals[1]!["fingerprint"]!.ToString());
            (await client.PostAsync("/api/bags/check", new ByteArrayContent(sealedBag)).Json())["ours"]!.GetValue<bool>().ShouldBeTrue();
            // It goes on as any other shop.
            await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P2", "skirt-scuff-thrust", 1)).Json();
        }

        (await Sleuth("restore", backup, "--db", own.ConnectionTo(name))).Errors.ShouldContain("cases or people already");
        Npgsql.NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {name} with (force)");

        // One letter of one file.
        var one = Directory.GetFiles(Path.Combine(backup, "cases"))[0];
        await File.WriteAllTextAsync(
            one,
            (await File.ReadAllTextAsync(one, TestContext.Current.CancellationToken)).Replace("skirt", "skirl"),
            TestContext.Current.CancellationToken
        );
        var damaged = await Sleuth("verify-backup", backup);
        damaged.Code.ShouldBe(2);
        damaged.Errors.ShouldContain(Path.GetFileName(one));
        (await Sleuth("backup", folder)).Errors.ShouldContain("No database is named");
        (await Sleuth("backup", folder, "--db", "Host=127.0.0.1;Port=1;Timeout=1")).Code.ShouldBe(2);
        (await Sleuth("backup", folder, "--db", own.Connection, "--keep", "1")).Code.ShouldBe(0);
        Directory.GetDirectories(folder).ShouldHaveSingleItem().ShouldNotBe(backup);
        Directory.Delete(folder, recursive: true);
    }
}
