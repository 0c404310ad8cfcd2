using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using NetVips;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Look;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class LookTests(Shop shop)
{
    private static JsonObject Finding(string place = "R4U", string sign = "overlay-wiped", int level = 2, Guid? id = null, params string[] zones) =>
        new()
        {
            ["id"] = id ?? Guid.CreateVersion7(),
            ["place"] = place,
            ["sign"] = sign,
            ["seen"] = level > 0 ? "present" : "absent",
            ["level"] = level,
            ["spot"] = "",
            ["note"] = "",
            ["zones"] = new JsonArray([.. zones.Select(z => JsonValue.Create(z))]),
            ["marks"] = new JsonArray(),
        };

    internal static byte[] Picture(int seed = 0, int width = 60, int height = 40) =>
        (Image.Black(width, height, bands: 3) + new[] { 200.0, seed % 200, 40 }).Cast(Enums.BandFormat.Uchar).JpegsaveBuffer();

    internal static MultipartFormDataContent Form(byte[] data, string name, Guid? id = null, string place = "R4U", string shot = "") =>
        new()
        {
            { new StringContent((id ?? Guid.CreateVersion7()).ToString()), "id" },
            { new StringContent(place), "place" },
            { new StringContent(shot), "shot" },
            { new ByteArrayContent(data), "file", name },
        };

    private static JsonObject Mark(JsonNode photo, string kind = "ring", double to = 0.6, decimal? length = null, Guid? id = null) =>
        new()
        {
            ["id"] = id ?? Guid.CreateVersion7(),
            ["photo"] = photo["id"]!.ToString(),
            ["kind"] = kind,
            ["x1"] = 0.4,
            ["y1"] = 0.5,
            ["x2"] = to,
            ["y2"] = 0.5,
            ["length"] = length,
            ["label"] = "tiles out",
        };

    [Fact]
    public async Task Zones_are_kept_and_told_in_words_before_and_after_writing()
    {
        var (client, at) = await shop.NewCase();
        var preview = await client.GetAsync($"{at}/spot?place=C3&zones=E2,E3,E4").Json();
        preview["words"]!.ToString().ShouldBe("upper, 2 to 4 o’clock, thrust side");
        await client.PostAsJsonAsync($"{at}/findings", Finding("C3", "bore-scratched", 2, null, "E2", "E3", "E3", "E4")).Json();
        await client.PostAsJsonAsync($"{at}/findings", Finding("P3T", "ring-face-scratched", 1, null, "C3")).Json();
        var answers = await client.GetAsync($"{at}/answers").Json();
        var spot = answers["look"]!["spots"]!.AsArray().Single(s => s!["words"]!.ToString().StartsWith("upper", StringComparison.Ordinal))!;
        spot["mates"]![0]!["words"]!.ToString().ShouldBe("lines up with P3T at 3 o’clock");
        spot["share"]!.GetValue<double>().ShouldBe(0.25 / 4, 1e-9);
        (await client.PostAsJsonAsync($"{at}/findings", Finding("C3", "bore-rust", 2, null, "Q9")).Problem()).FirstField().ShouldBe("zones");
        (await client.GetAsync($"{at}/spot?place=EN&zones=A1").Problem()).FirstField().ShouldBe("place");
    }

    [Fact]
    public async Task Looked_clean_is_written_whole_or_not_at_all_and_once()
    {
        var (client, at) = await shop.NewCase();
        JsonArray clean = [Finding(sign: "overlay-wiped", level: 0), Finding(sign: "shell-turned", level: 0)];
        await client.PostAsJsonAsync($"{at}/findings/many", clean).Json();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => client.PostAsJsonAsync($"{at}/findings/many", clean).Json()));
        (await client.GetAsync(at).Json())["findings"]!.AsArray().Count.ShouldBe(2);

        JsonArray half = [Finding(sign: "bearing-scored", level: 0), Finding(sign: "land-broken", level: 0)];
        (await client.PostAsJsonAsync($"{at}/findings/many", half).Problem()).FirstField().ShouldBe("sign");
        (await client.GetAsync(at).Json())["findings"]!.AsArray().Count.ShouldBe(2);
        (await client.PostAsJsonAsync($"{at}/findings/many", new JsonArray()).Problem()).FirstField().ShouldBe("findings");
        var id = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/findings/many", new JsonArray(Finding(id: id), Finding(id: id))).Problem();
    }

    [Fact]
    public async Task What_was_entered_earlier_keeps_its_time_and_nothing_comes_from_the_future()
    {
        var (client, at) = await shop.NewCase();
        async Task<DateTimeOffset> SentAs(DateTimeOffset entered)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{at}/findings") { Content = JsonContent.Create(Finding()) };
            request.Headers.Add(Recorder.EnteredHeader, entered.ToString("O"));
            return (await client.SendAsync(request).Json())["at"]!.GetValue<DateTimeOffset>();
        }

        var hourAgo = DateTimeOffset.UtcNow.AddHours(-1);
        (await SentAs(hourAgo)).ShouldBe(hourAgo, TimeSpan.FromSeconds(1));
        (await SentAs(DateTimeOffset.UtcNow.AddDays(1))).ShouldBeLessThanOrEqualTo(DateTimeOffset.UtcNow);
        // The history still says when the server got it.
        var changes = (await client.GetAsync($"/api/changes?case={at.Split('/')[^1]}&take=500").Json())["changes"]!.AsArray();
        changes.ShouldAllOfSomeBe(c => c!["at"]!.GetValue<DateTimeOffset>() > hourAgo.AddMinutes(30));
    }

    [Fact]
    public async Task Two_who_disagree_are_both_kept_and_told()
    {
        var (client, at) = await shop.NewCase();
        var lead = await shop.As(Roles.Lead, shop.Other);
        await client.PostAsJsonAsync($"{at}/findings", Finding(level: 3)).Json();
        var other = await lead.PostAsJsonAsync($"{at}/findings", Finding(level: 0)).Json();
        var mismatch = (await client.GetAsync($"{at}/answers").Json())["look"]!["mismatches"]!.AsArray().ShouldHaveSingleItem()!;
        mismatch["place"]!.ToString().ShouldBe("R4U");
        mismatch["findings"]!.AsArray().Count.ShouldBe(2);
        var back = new { why = "Looked again: severe stands.", version = 1 };
        await client.PostAsJsonAsync($"{at}/findings/{other["id"]}/withdraw", back).Json();
        // Sent again after a lost answer.
        (await client.PostAsJsonAsync($"{at}/findings/{other["id"]}/withdraw", back).Json())["version"]!
            .GetValue<int>()
            .ShouldBe(2);
        (await client.GetAsync($"{at}/answers").Json())["look"]!["mismatches"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Marks_lie_beside_the_picture_and_a_finding_points_to_them()
    {
        var (client, at) = await shop.NewCase();
        var photo = await client.PostAsync($"{at}/photos", Form(Picture(), "a.jpg", shot: "shell-face")).Json();
        photo["shot"]!.ToString().ShouldBe("shell-face");
        var before = await client.GetByteArrayAsync($"{at}/photos/{photo["id"]}/view");
        var mark = await client.PostAsJsonAsync($"{at}/photo-marks", Mark(photo)).Json();
        await client.PostAsJsonAsync($"{at}/photo-marks", Mark(photo, id: mark["id"]!.GetValue<Guid>())).Json();
        (await client.GetByteArrayAsync($"{at}/photos/{photo["id"]}/view")).ShouldBe(before);

        var finding = Finding();
        finding["marks"] = new JsonArray(mark["id"]!.ToString());
        (await client.PostAsJsonAsync($"{at}/findings", finding).Json())["marks"]![0]!.ToString().ShouldBe(mark["id"]!.ToString());
        var strange = Finding();
        strange["marks"] = new JsonArray(Guid.CreateVersion7().ToString());
        (await client.PostAsJsonAsync($"{at}/findings", strange).Problem()).FirstField().ShouldBe("marks");
        (await client.GetAsync(at).Json())["photoMarks"]!.AsArray().Count.ShouldBe(1);
    }

    [Theory]
    [InlineData("ring", 1.2, null, "x1")]
    [InlineData("ring", 0.4, null, "x2")]
    [InlineData("scale", 0.6, null, "length")]
    [InlineData("arrow", 0.6, 12.0, "length")]
    [InlineData("scale", 0.6, -3.0, "length")]
    public async Task A_mark_that_cannot_be_is_refused(string kind, double to, double? length, string field)
    {
        var (client, at) = await shop.NewCase();
        var photo = await client.PostAsync($"{at}/photos", Form(Picture(), "a.jpg")).Json();
        (await client.PostAsJsonAsync($"{at}/photo-marks", Mark(photo, kind, to, (decimal?)length)).Problem()).FirstField().ShouldBe(field);
    }

    [Fact]
    public async Task A_mark_on_a_picture_of_another_case_is_refused()
    {
        var (client, at) = await shop.NewCase();
        var (_, elsewhere) = await shop.NewCase();
        var photo = await client.PostAsync($"{at}/photos", Form(Picture(), "a.jpg")).Json();
        (await client.PostAsJsonAsync($"{elsewhere}/photo-marks", Mark(photo)).Problem()).FirstField().ShouldBe("photo");
    }

    [Fact]
    public async Task Debris_is_read_and_points_to_its_source()
    {
        var (client, at) = await shop.NewCase();
        JsonObject Debris(int? count, double? size) =>
            new()
            {
                ["id"] = Guid.CreateVersion7(),
                ["place"] = "PA",
                ["material"] = "otherMetal",
                ["hard"] = false,
                ["colour"] = "copperOrBronze",
                ["form"] = "flake",
                ["count"] = count,
                ["size"] = size,
                ["note"] = "",
            };
        await client.PostAsJsonAsync($"{at}/debris", Debris(40, 3.5)).Json();
        var read = (await client.GetAsync($"{at}/answers").Json())["look"]!["debris"]!.AsArray().ShouldHaveSingleItem()!;
        read["sources"]![0]!["id"]!.ToString().ShouldBe("bearing-lining");
        (await client.PostAsJsonAsync($"{at}/debris", Debris(0, 3.5)).Problem()).FirstField().ShouldBe("count");
        (await client.PostAsJsonAsync($"{at}/debris", Debris(null, -1)).Problem()).FirstField().ShouldBe("size");
    }

    [Fact]
    public async Task The_same_file_is_kept_once_however_often_it_is_taken_in()
    {
        var (client, at) = await shop.NewCase();
        var data = Picture(77, 90, 70);
        var one = await client.PostAsync($"{at}/photos", Form(data, "a.jpg", place: "R4U")).Json();
        var two = await client.PostAsync($"{at}/photos", Form(data, "b.jpg", place: "R4L")).Json();
        one["sha256"]!.ToString().ShouldBe(two["sha256"]!.ToString());
        using var scope = shop.One.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var kept = await db
            .Originals.AsNoTracking()
            .Where(o => o.Sha256 == one["sha256"]!.ToString())
            .ToListAsync(TestContext.Current.CancellationToken);
        kept.ShouldHaveSingleItem().Data.ShouldBe(data);
        (await client.PostAsync($"{at}/photos", Form(data, "c.jpg", place: "R4U", shot: "crown-up")).Problem()).FirstField().ShouldBe("shot");
    }

    [Fact]
    public async Task Sixty_megabytes_are_refused_by_name_and_the_rest_of_the_batch_is_kept()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsync($"{at}/photos", Form(Picture(1), "first.jpg")).Json();
        var problem = await client.PostAsync($"{at}/photos", Form(new byte[60 * 1024 * 1024], "huge.jpg")).Problem();
        problem["title"]!.ToString().ShouldContain("huge.jpg");
        problem["title"]!.ToString().ShouldContain("40 MB");
        await client.PostAsync($"{at}/photos", Form(Picture(2), "last.jpg")).Json();
        (await client.GetAsync(at).Json())["photos"]!
            .AsArray()
            .Select(p => p!["fileName"]!.ToString())
            .ShouldBe(["first.jpg", "last.jpg"], ignoreOrder: true);
    }

    /// <summary>An instance whose clock is wrong lets go of no piece that another took, and pieces that are missing are asked for again.</summary>
    [Fact]
    public async Task Pieces_go_by_the_clock_of_the_database()
    {
        var (client, at) = await shop.NewCase();
        var (id, data) = (Guid.CreateVersion7(), Picture());
        await client.PutAsync($"{at}/photos/{id}/pieces?offset=0", new ByteArrayContent(data)).Json();
        await using (var ahead = shop.Instance(ahead: TimeSpan.FromDays(20)))
        {
            using var other = await shop.As(Roles.Mechanic, ahead);
            await other.PutAsync($"{at}/photos/{Guid.CreateVersion7()}/pieces?offset=0", new ByteArrayContent(data)).Json();
        }

        MultipartFormDataContent Whole(int bytes) =>
            new()
            {
                { new StringContent($"{id}"), "id" },
                { new StringContent("P1"), "place" },
                { new StringContent("a.jpg"), "name" },
                { new StringContent($"{bytes}"), "bytes" },
            };
        await client.PostAsync($"{at}/photos", Whole(data.Length + 1)).Problem(HttpStatusCode.Conflict);
        await client.PostAsync($"{at}/photos", Whole(data.Length)).Json();
    }

    /// <summary>No command to the database is broken off with the line: a connection that went on with the next request has been seen out of step.</summary>
    [Fact]
    public async Task What_was_sent_by_somebody_who_went_is_carried_to_its_end()
    {
        var (client, at) = await shop.NewCase();
        var entry = Finding(level: 0, id: Guid.CreateVersion7());
        await using var held = NpgsqlDataSource.Create(
            $"{shop.One.Services.GetRequiredService<IConfiguration>().GetConnectionString("Sleuth")};Pooling=false"
        );
        await using var line = await held.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await using (var transaction = await line.BeginTransactionAsync(TestContext.Current.CancellationToken))
        {
            await using var hold = new NpgsqlCommand(
                $"""select 1 from case_states where "CaseId" = '{at.Split('/')[^1]}' for update""",
                line,
                transaction
            );
            await hold.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
            using var left = new CancellationTokenSource();
            var sent = client.PostAsJsonAsync($"{at}/findings", entry, left.Token);
            await Should.ThrowAsync<TimeoutException>(sent.WaitAsync(TimeSpan.FromSeconds(2), TestContext.Current.CancellationToken));
            await left.CancelAsync();
        }

        for (var tries = 0; tries < 300; tries++)
        {
            if ((await client.GetAsync(at).Json())["findings"]!.AsArray().Count == 1)
            {
                return;
            }

            await Task.Delay(100, TestContext.Current.CancellationToken);
        }

        Assert.Fail("What was entered is not there.");
    }

    /// <summary>Ten people, two instances, requests cut off at random moments and sent again until they are answered.</summary>
    [Fact]
    public async Task Whatever_is_cut_off_arrives_exactly_once()
    {
        var (client, at) = await shop.NewCase();
        var others = new[] { client, await shop.As(Roles.Lead, shop.Other), await shop.As(Roles.Mechanic, shop.Other) };
        var sent = Enumerable.Range(0, 300).Select(i => (Index: i, Id: Guid.CreateVersion7())).ToArray();
        var attempts = 0;
        await Parallel.ForEachAsync(
            sent,
            new ParallelOptions { MaxDegreeOfParallelism = 10, CancellationToken = TestContext.Current.CancellationToken },
            async (entry, stop) =>
            {
                var chance = new Random(entry.Index);
                for (var attempt = 0; ; attempt++)
                {
                    Interlocked.Increment(ref attempts);
                    using var cut = CancellationTokenSource.CreateLinkedTokenSource(stop);
                    // Every attempt is given more time, so that each is answered in the end.
                    cut.CancelAfter(TimeSpan.FromMilliseconds(chance.NextDouble() * 12 * (1 + (attempt * attempt * attempt))));
                    var to = others[chance.Next(others.Length)];
                    try
                    {
                        // What is cut off goes on at the server, and the next attempt meets it there.
                        var asked =
                            entry.Index % 3 == 0
                                ? to.PostAsync($"{at}/photos", Form(Picture(entry.Index), $"{entry.Index}.jpg", entry.Id), cut.Token)
                                : to.PostAsJsonAsync($"{at}/findings", Finding(level: 0, id: entry.Id), cut.Token);
                        using var answer = await asked.WaitAsync(cut.Token);
                        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
                        return;
                    }
                    catch (OperationCanceledException) when (!stop.IsCancellationRequested)
                    {
                        // Cut off; nobody knows whether it arrived. Sent again.
                    }
                }
            }
        );
        attempts.ShouldBeGreaterThan(sent.Length + 100);
        var record = await client.GetAsync(at).Json();
        var there = record["findings"]!.AsArray().Concat(record["photos"]!.AsArray()).Select(r => r!["id"]!.GetValue<Guid>()).ToArray();
        there.ShouldBe(sent.Select(s => s.Id), ignoreOrder: true);
        foreach (var photo in record["photos"]!.AsArray())
        {
            (await client.GetAsync($"{at}/photos/{photo!["id"]}/thumb")).StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        var changes = (await client.GetAsync($"/api/changes?case={at.Split('/')[^1]}&take=500").Json())["changes"]!
            .AsArray()
            .Select(c => c!["recordId"]!.GetValue<Guid>())
            .ToArray();
        changes.ShouldBeUnique();
    }
}
