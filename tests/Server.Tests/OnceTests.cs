using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using VividSleuth.Core;
using VividSleuth.Core.Look;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The same thing sent twice, in the same instant or later, to one instance or to two, is there once and is answered each time.</summary>
public sealed class OnceTests(Shop shop)
{
    private const int Times = 8;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Sends the same over both instances at once.</summary>
    private async Task<JsonNode[]> AtOnce(Func<HttpClient, Task<HttpResponseMessage>> send, string role = Roles.Mechanic)
    {
        using var one = await shop.As(role);
        using var other = await shop.As(role, shop.Other);
        var sent = Enumerable.Range(0, Times).Select(i => send(i % 2 == 0 ? one : other)).ToArray();
        return await Task.WhenAll(sent.Select(s => s.Json()));
    }

    private static void OneRecord(JsonNode[] answers) =>
        answers.Select(a => $"{a["id"]} {a["version"]} {a["at"]} {a["withdrawnAt"]}").Distinct().ShouldHaveSingleItem();

    [Fact]
    public async Task A_lesson_and_its_withdrawal()
    {
        var lesson = new
        {
            id = Guid.CreateVersion7(),
            script = "pushrod-v8",
            step = "head",
            engineName = "Test six",
            text = "This bolt first.",
            caseId = (Guid?)null,
        };
        OneRecord(await AtOnce(c => c.PostAsJsonAsync("/api/lessons", lesson)));
        OneRecord(await AtOnce(c => c.PostAsync($"/api/lessons/{lesson.id}/withdraw", null), Roles.Lead));
        using var client = await shop.As(Roles.Viewer);
        var told = await client.PostAsync($"/api/lessons/{lesson.id}/withdraw", null);
        told.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task Who_took_a_lesson_back_is_told()
    {
        using var mechanic = await shop.As(Roles.Mechanic);
        using var lead = await shop.As(Roles.Lead);
        var lesson = new
        {
            id = Guid.CreateVersion7(),
            script = "pushrod-v8",
            step = "head",
            engineName = "Test six",
            text = "That bolt last.",
            caseId = (Guid?)null,
        };
        await mechanic.PostAsJsonAsync("/api/lessons", lesson).Json();
        var gone = await lead.PostAsync($"/api/lessons/{lesson.id}/withdraw", null).Json();
        (gone["by"]!.ToString(), gone["withdrawnBy"]!.ToString()).ShouldBe((Roles.Mechanic, Roles.Lead));
    }

    [Fact]
    public async Task An_instrument_and_its_withdrawal()
    {
        var id = Guid.CreateVersion7();
        var instrument = new
        {
            id,
            name = $"Micrometer {id}",
            kind = "outsideMicrometer",
            quantity = "length",
            resolution = 0.001,
            permissibleError = 0.002,
            setWith = "",
            method = "",
            version = 0,
        };
        OneRecord(await AtOnce(c => c.PutAsJsonAsync($"/api/instruments/{id}", instrument)));
        OneRecord(await AtOnce(c => c.PostAsJsonAsync($"/api/instruments/{id}/withdraw", new { why = "dropped", version = 1 })));
    }

    [Fact]
    public async Task A_part_on_the_shelf_and_its_withdrawal()
    {
        var id = Guid.CreateVersion7();
        var part = new
        {
            id,
            version = 0,
            kind = "crankshaft",
            fits = "",
            grade = "",
            count = 1,
            where = "rack",
            remarks = "",
        };
        OneRecord(await AtOnce(c => c.PutAsJsonAsync($"/api/stock/{id}", part)));
        var gone = await AtOnce(c => c.PostAsJsonAsync($"/api/stock/{id}/withdraw", new { why = "sold", version = 1 }));
        OneRecord(gone);
        gone[0]["remarks"]!.ToString().ShouldBe("sold");
    }

    [Fact]
    public async Task The_withdrawal_of_a_record_keeps_who_wrote_it()
    {
        var (client, at) = await shop.NewCase();
        var finding = await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Json();
        var back = new { why = "wrong piston", version = 1 };
        var gone = await AtOnce(c => c.PostAsJsonAsync($"{at}/findings/{finding["id"]}/withdraw", back), Roles.Lead);
        OneRecord(gone);
        (gone[0]["by"]!.ToString(), gone[0]["withdrawnBy"]!.ToString()).ShouldBe((Roles.Mechanic, Roles.Lead));
        gone[0]["at"]!.ToString().ShouldBe(finding["at"]!.ToString());
    }

    [Fact]
    public async Task A_case_file_sent_twice_is_one_case_until_a_copy_is_asked_for()
    {
        var file = await File.ReadAllTextAsync(Path.Combine(ApiContractTests.Root(), "demo/cases/trailer-four.case.json"));
        var marked = JsonNode.Parse(file)!;
        marked["case"]!["title"] = $"Sent twice {Guid.CreateVersion7()}";
        var text = marked.ToJsonString();
        Task<HttpResponseMessage> Send(HttpClient c, string query = "") =>
            c.PostAsync($"/api/cases/import{query}", new StringContent(text, Encoding.UTF8, "application/json"));
        var ids = (await AtOnce(c => Send(c))).Select(c => c["id"]!.ToString()).Distinct().ToArray();
        ids.ShouldHaveSingleItem();
        using var client = await shop.As(Roles.Mechanic);
        (await Send(client, "?copy=for-the-class").Json())["id"]!.ToString().ShouldNotBe(ids[0]);
    }

    [Fact]
    public async Task A_table_of_readings_sent_twice_is_entered_once()
    {
        var (client, at) = await shop.NewCase();
        const string Csv = "place,characteristic,typed\nK1,crankpin-diameter,57.99\nK2,crankpin-diameter,57.98\n";
        Task<JsonNode> Send(string address) =>
            client.PostAsync($"{address}/gauge/readings.csv", new StringContent(Csv, Encoding.UTF8, "text/csv")).Json();
        var first = await Send(at);
        (first["added"]!.GetValue<int>(), first["already"]!.GetValue<int>()).ShouldBe((2, 0));
        var second = await Send(at);
        (second["added"]!.GetValue<int>(), second["already"]!.GetValue<int>()).ShouldBe((0, 2));
        (await client.GetAsync(at).Json())["readings"]!.AsArray().Count.ShouldBe(2);
        var elsewhere = await Send(await Shop.CaseAsync(client));
        elsewhere["added"]!.GetValue<int>().ShouldBe(2);
    }

    /// <summary>
    /// Writers and a lead who turns the numbering to and fro, over both instances. What is acknowledged at one numbering is carried along by every
    /// later one, whether the writer says which numbering he knows or not.
    /// </summary>
    [Fact]
    public async Task No_record_stays_behind_while_the_numbering_changes()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        using var stop = new CancellationTokenSource();
        var written = new System.Collections.Concurrent.ConcurrentBag<(Guid Id, string Place, long Revision)>();
        var writers = Enumerable
            .Range(0, 6)
            .Select(async w =>
            {
                var random = new Random(w);
                while (!stop.IsCancellationRequested)
                {
                    var place = $"P{random.Next(1, 7)}";
                    var saw = (JsonObject)JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(CaseTests.Saw(place, "skirt-scuff-thrust", 1)))!;
                    var sent = await (w % 2 == 0 ? client : other).PostAsJsonAsync($"{at}/findings", saw, CancellationToken.None);
                    if (sent.StatusCode == HttpStatusCode.OK)
                    {
                        var revision = long.Parse(sent.Headers.GetValues("X-Case-Revision").Single());
                        written.Add((Guid.Parse(saw["id"]!.ToString()), place, revision));
                        continue;
                    }

                    // Read before the numbering changed and refused after: the writer is asked to look again.
                    (await Task.FromResult(sent).Problem())
                        .FirstField()
                        .ShouldBe("numbering");
                }
            })
            .ToArray();
        using var lead = await shop.As(Roles.Lead);
        var turned = new List<long>();
        for (var i = 0; i < 12; i++)
        {
            var version = (await lead.GetAsync(at).Json())["version"]!.GetValue<int>();
            var sent = await lead.PostAsJsonAsync(
                $"{at}/renumber",
                new
                {
                    id = Guid.CreateVersion7(),
                    version,
                    numberOneEnd = i % 2 == 0 ? "driveEnd" : "freeEnd",
                    numbering = "alongTheCrank",
                    bankAOnTheLeft = true,
                    why = "to and fro",
                }
            );
            sent.StatusCode.ShouldBe(HttpStatusCode.OK, await sent.Content.ReadAsStringAsync());
            turned.Add(long.Parse(sent.Headers.GetValues("X-Case-Revision").Single()));
        }

        await stop.CancelAsync();
        await Task.WhenAll(writers);
        // However busy the machine is, there was something to compare between any two turns.
        written.Count.ShouldBeGreaterThan(12);
        var stands = (await client.GetAsync(at).Json())["findings"]!.AsArray().ToDictionary(f => Guid.Parse(f!["id"]!.ToString()), f => f!);
        stands.Count.ShouldBe(written.Count);
        foreach (var (id, place, revision) in written)
        {
            var turns = turned.Count(t => t > revision);
            var expected = turns % 2 == 0 ? place : $"P{7 - int.Parse(place[1..])}";
            stands[id]["place"]!.ToString().ShouldBe(expected, $"typed as {place}, {turns} changes of numbering later");
            stands[id]["by"]!.ToString().ShouldBe(Roles.Mechanic);
        }
    }

    /// <summary>It was written, its answer was lost, and the numbering changed before it was sent again: it is there, and that is the answer.</summary>
    [Fact]
    public async Task What_was_written_before_the_numbering_changed_is_answered_after_it()
    {
        var (client, at) = await shop.NewCase();
        using var lead = await shop.As(Roles.Lead);
        var finding = CaseTests.Saw("P1", "skirt-scuff-thrust", 1);
        var many = new[] { CaseTests.Saw("P1", "ring-land-broken", 1) };
        var photo = Guid.CreateVersion7();
        var picture = LookTests.Picture();
        client.DefaultRequestHeaders.Add("X-Numbering", "0");
        Task<HttpResponseMessage>[] Send() =>
            [client.PostAsJsonAsync($"{at}/findings", finding), client.PostAsync($"{at}/photos", LookTests.Form(picture, "a.jpg", photo, "P1"))];
        await Task.WhenAll(Send().Select(s => s.Json()));
        var turn = new
        {
            id = Guid.CreateVersion7(),
            version = 1,
            numberOneEnd = "driveEnd",
            numbering = "alongTheCrank",
            bankAOnTheLeft = true,
            why = "the other end",
        };
        await lead.PostAsJsonAsync($"{at}/renumber", turn).Json();
        foreach (var again in Send())
        {
            var answer = await again.Json();
            (answer is JsonArray all ? all[0]! : answer)["place"]!.ToString().ShouldBe("P6");
        }

        var unsent = await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Problem();
        unsent.FirstField().ShouldBe("numbering");
    }

    /// <summary>
    /// The first attempt is written while the second waits for the case, and the numbering changes before the second has its turn: it is there, and that
    /// is the answer.
    /// </summary>
    [Fact]
    public async Task What_is_written_while_it_is_sent_again_is_answered_though_the_numbering_changed()
    {
        var (client, at) = await shop.NewCase();
        var caseId = Guid.Parse(at.Split('/')[^1]);
        client.DefaultRequestHeaders.Add("X-Numbering", "0");
        var entry = JsonSerializer.SerializeToNode(CaseTests.Saw("P1", "skirt-scuff-thrust", 1), JsonSerializerOptions.Web)!;
        var id = Guid.Parse(entry["id"]!.ToString());
        using var scope = shop.One.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        db.Writer = Roles.Mechanic;
        await using var first = await db.Database.BeginTransactionAsync(Cancel);
        db.Add(
            new Finding
            {
                Id = id,
                CaseId = caseId,
                Place = "P1",
                Sign = "skirt-scuff-thrust",
                Level = 1,
            }
        );
        await db.SaveChangesAsync(Cancel);
        var again = client.PostAsJsonAsync($"{at}/findings", entry);
        // Asked over a line of its own: within one transaction the server tells of others as they were when it was first asked.
        using var beside = shop.One.Services.CreateScope();
        var watch = beside.ServiceProvider.GetRequiredService<SleuthDb>();
        var holder = await db.Database.SqlQuery<int>($"""select pg_backend_pid() as "Value" """).SingleAsync(Cancel);
        Task<bool> WaitsForFirst() =>
            watch
                .Database.SqlQuery<bool>($"""select exists (select from pg_stat_activity where {holder} = any (pg_blocking_pids(pid))) as "Value" """)
                .SingleAsync(Cancel);
        while (!await WaitsForFirst())
        {
            again.IsCompleted.ShouldBeFalse("it waits for the case");
            await Task.Delay(20, Cancel);
        }

        await db.Database.ExecuteSqlAsync($"""update case_states set "Numbering" = "Numbering" + 1 where "CaseId" = {caseId}""", Cancel);
        await first.CommitAsync(Cancel);
        (await again.Json())["id"]!.ToString().ShouldBe($"{id}");
        (await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Problem()).FirstField().ShouldBe("numbering");
    }

    /// <summary>Two tabs share one cookie: what one person entered is not written under the name of who signed in after.</summary>
    [Fact]
    public async Task What_another_entered_is_not_taken_under_this_name()
    {
        var (client, at) = await shop.NewCase();
        async Task<HttpResponseMessage> As(string writer, string method = "POST", string path = "/findings")
        {
            using var request = new HttpRequestMessage(new HttpMethod(method), $"{at}{path}");
            request.Content = method == "GET" ? null : JsonContent.Create(CaseTests.Saw("P1", "skirt-scuff-thrust", 1));
            request.Headers.Add("X-Writer", Uri.EscapeDataString(writer));
            return await client.SendAsync(request);
        }

        await As(Roles.Lead).Problem(HttpStatusCode.PreconditionFailed);
        await As("Jörg 李").Problem(HttpStatusCode.PreconditionFailed);
        (await client.GetAsync(at).Json())["findings"]!.AsArray().ShouldBeEmpty();
        (await As(Roles.Mechanic).Json())["by"]!.ToString().ShouldBe(Roles.Mechanic);
        // Reading is nobody's.
        (await As(Roles.Lead, "GET", "")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_picture_that_comes_in_pieces_is_taken_in_once_it_is_whole()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        var data = (NetVips.Image.Gaussnoise(300, 200) + new[] { 90.0, 100, 110 }).Cast(NetVips.Enums.BandFormat.Uchar).JpegsaveBuffer();
        var id = Guid.CreateVersion7();
        async Task<(HttpStatusCode Status, int Received)> Piece(HttpClient c, int offset, int length)
        {
            var content = new ByteArrayContent(data[offset..Math.Min(data.Length, offset + length)]);
            content.Headers.ContentType = new("application/octet-stream");
            var answer = await c.PutAsync($"{at}/photos/{id}/pieces?offset={offset}", content);
            return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["received"]!.GetValue<int>());
        }

        Task<HttpResponseMessage> Whole(HttpClient c) =>
            c.PostAsync(
                $"{at}/photos",
                new MultipartFormDataContent
                {
                    { new StringContent(id.ToString()), "id" },
                    { new StringContent("P1"), "place" },
                    { new StringContent("crown.jpg"), "name" },
                    { new StringContent(data.Length.ToString()), "bytes" },
                }
            );

        (await Piece(client, 0, 5000)).ShouldBe((HttpStatusCode.OK, 5000));
        // Sent again since its answer was lost; and from somewhere else in the file.
        (await Piece(client, 0, 5000)).ShouldBe((HttpStatusCode.Conflict, 5000));
        (await Piece(other, 9000, 50)).ShouldBe((HttpStatusCode.Conflict, 5000));
        (await Whole(client).Problem(HttpStatusCode.Conflict))["title"]!.ToString().ShouldContain("crown.jpg");
        (await Piece(other, 5000, data.Length)).ShouldBe((HttpStatusCode.OK, data.Length));
        using var lead = await shop.As(Roles.Lead);
        (await Whole(lead).Problem(HttpStatusCode.Conflict))["title"]!.ToString().ShouldContain("crown.jpg");
        var photos = await Task.WhenAll(Whole(client).Json(), Whole(other).Json());
        photos
            .Select(p => p["sha256"]!.ToString())
            .Distinct()
            .ShouldHaveSingleItem()
            .ShouldBe(Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(data)));
        photos[0]["fileName"]!.ToString().ShouldBe("crown.jpg");
        (await client.GetAsync($"{at}/photos/{id}/pieces").Json())["received"]!.GetValue<int>().ShouldBe(0);
        // Sent once more after all of that, without a byte: what stands is the answer.
        (await Whole(client).Json())["id"]!
            .ToString()
            .ShouldBe(id.ToString());
    }
}
