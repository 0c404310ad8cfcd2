using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.ServerSentEvents;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;
using Shouldly;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Look;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;
using Xunit;

namespace VividSleuth.Server.Tests;

public sealed class RevisionTests(Shop shop)
{
    [Fact]
    public async Task Every_write_raises_the_revision_once_and_a_repeated_or_refused_one_does_not()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        (await RevisionAfter(client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3, id)))).ShouldBe(2);
        (await RevisionAfter(client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3, id)))).ShouldBe(2);
        (await RevisionAfter(client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("no such", "overlay-wiped", 3, Guid.CreateVersion7())))).ShouldBe(
            2
        );
        (await RevisionAfter(client.PostAsJsonAsync($"{at}/findings/{id}/withdraw", new { why = "another rod", version = 1 }))).ShouldBe(3);
        (await RevisionAfter(client.PostAsJsonAsync($"{at}/findings/{id}/withdraw", new { why = "another rod", version = 1 }))).ShouldBe(3);

        // Whoever reads it is told as well, also where nothing is sent again.
        var (tag, read) = await Ask(client, at, null);
        (await RevisionAfter(Task.FromResult(read))).ShouldBe(3);
        (await RevisionAfter(Task.FromResult((await Ask(client, at, tag)).Response))).ShouldBe(3);
    }

    [Fact]
    public async Task The_knowledge_is_sent_once_to_whoever_has_it_and_whole_to_who_has_another()
    {
        using var client = await shop.As(Roles.Mechanic);
        (
            await Answers.AskedAgain(async known =>
            {
                var (tag, response) = await Ask(client, "/api/knowledge", known);
                return (tag, response.StatusCode);
            })
        ).ShouldBe(HttpStatusCode.NotModified);
        var (_, other) = await Ask(client, "/api/knowledge", "\"0123\"");
        other.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await other.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("\"causes\"");
    }

    [Fact]
    public async Task An_answer_that_still_stands_is_not_sent_again_and_one_that_does_not_is()
    {
        var (client, at) = await shop.NewCase();
        var (tag, gauge) = await Ask(client, $"{at}/answers?rooms=gauge", null);
        gauge.StatusCode.ShouldBe(HttpStatusCode.OK);
        (
            await Answers.AskedAgain(async known =>
            {
                var (now, response) = await Ask(client, $"{at}/answers?rooms=gauge", known);
                return (now, response.StatusCode);
            })
        ).ShouldBe(HttpStatusCode.NotModified);

        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3)).Json();
        var (afterFinding, sent) = await Ask(client, $"{at}/answers?rooms=gauge", tag);
        sent.StatusCode.ShouldBe(HttpStatusCode.OK);
        afterFinding.ShouldNotBe(tag);

        // What belongs to the shop counts as well, and so does what another instance wrote.
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        await other
            .PutAsJsonAsync(
                $"/api/instruments/{Guid.CreateVersion7()}",
                new
                {
                    name = $"micrometer {Guid.CreateVersion7():N}",
                    kind = "outsideMicrometer",
                    quantity = "length",
                    resolution = 0.01,
                    permissibleError = 0.004,
                    setWith = "",
                    method = "",
                    version = 0,
                }
            )
            .Json();
        (await Ask(client, $"{at}/answers?rooms=gauge", afterFinding)).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_answers_of_the_rooms_are_those_of_the_whole()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3)).Json();
        var whole = (await client.GetAsync($"{at}/answers").Json()).AsObject();
        whole.Count.ShouldBe(14);
        foreach (var (room, answer) in whole)
        {
            var slice = (await client.GetAsync($"{at}/answers?rooms={room}").Json()).AsObject();
            slice.ShouldHaveSingleItem().Key.ShouldBe(room);
            JsonNode.DeepEquals(slice[room], answer).ShouldBeTrue(room);
        }

        (await client.GetAsync($"{at}/answers?rooms=gauge,strip").Json()).AsObject().Select(p => p.Key).ShouldBe(["gauge", "strip"]);
        (await client.GetAsync($"{at}/answers?rooms=kitchen").Problem()).FirstField().ShouldBe("rooms");
    }

    /// <summary>The one statement that reads a case must not know less than the mapping, kind by kind.</summary>
    [Fact]
    public async Task A_case_read_in_one_statement_is_the_one_that_was_written()
    {
        foreach (var path in Directory.GetFiles(Path.Combine(ApiContractTests.Root(), "demo", "cases"), "*.case.json"))
        {
            var file = CaseFile.FromJson(await File.ReadAllTextAsync(path, Cancel)).WithIdsOf(Guid.CreateVersion7());
            using var scope = shop.One.Services.CreateScope();
            var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
            await db.ImportAsync(file, Cancel);
            db.ChangeTracker.Clear();
            var id = file.Case.Id;
            var mapped = await db
                .Cases.AsNoTracking()
                .Include(c => c.Candidates)
                .Include(c => c.Parts)
                .Include(c => c.Stows)
                .Include(c => c.Steps)
                .Include(c => c.OwnSteps)
                .Include(c => c.StepMarks)
                .Include(c => c.FastenerMoves)
                .Include(c => c.SignOffs)
                .Include(c => c.Renumberings)
                .Include(c => c.Findings)
                .Include(c => c.Photos)
                .Include(c => c.PhotoMarks)
                .Include(c => c.PictureMeasures)
                .Include(c => c.Sounds)
                .Include(c => c.Debris)
                .Include(c => c.Readings)
                .Include(c => c.Limits)
                .Include(c => c.Sizes)
                .Include(c => c.Examinations)
                .Include(c => c.Verdicts)
                .Include(c => c.Options)
                .Include(c => c.Choices)
                .Include(c => c.OptionAnswers)
                .Include(c => c.OrderLines)
                .Include(c => c.OrderMoves)
                .Include(c => c.Offers)
                .Include(c => c.Conclusions)
                .Include(c => c.BuildTasks)
                .Include(c => c.BuildPromises)
                .Include(c => c.BackActs)
                .Include(c => c.Tightenings)
                .AsSplitQuery()
                .SingleAsync(c => c.Id == id, Cancel);
            var read = (await db.LoadAsync(id, Cancel))!;
            read.Records().Count().ShouldBe(mapped.Records().Count());
            read.Records().Count().ShouldBeGreaterThan(10);
            InOrder(read).ShouldBe(InOrder(mapped));
        }
    }

    /// <summary>The instance that wrote puts the record into the case that it has open; the other one reads the case anew. They must agree.</summary>
    [Fact]
    public async Task Whoever_wrote_and_whoever_reads_anew_answer_the_same()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        var (finding, part) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        (string Path, object Entry)[] writes =
        [
            ("findings", CaseTests.Saw("R4U", "overlay-wiped", 3, finding)),
            ("parts", CaseTests.Tag(part, "R4")),
            ($"findings/{finding}/withdraw", new { why = "another rod", version = 1 }),
            ("findings", CaseTests.Saw("R4U", "overlay-wiped", 2)),
            (
                "limits",
                new
                {
                    id = Guid.CreateVersion7(),
                    characteristic = "big-end-clearance",
                    nominal = "",
                    least = "0.03",
                    most = "0.08",
                    setUnit = "mm",
                    source = "makersManual",
                    sourceText = "manual",
                }
            ),
            (
                "sizes",
                new
                {
                    id = Guid.CreateVersion7(),
                    kind = "bore",
                    steps = new[] { 0.5m },
                    unit = "mm",
                    furthest = 0.6m,
                    furthestBy = "wall",
                    sourceText = "manual",
                }
            ),
            (
                "examinations",
                new
                {
                    id = Guid.CreateVersion7(),
                    place = "CR",
                    check = "crack-test",
                    passed = true,
                    testedBy = "Hillside",
                    remarks = "",
                }
            ),
            (
                "verdicts",
                new
                {
                    id = Guid.CreateVersion7(),
                    place = "R4U",
                    course = "renew",
                    reason = "",
                }
            ),
        ];
        foreach (var (path, entry) in writes)
        {
            await client.GetAsync(at).Json();
            (await client.PostAsJsonAsync($"{at}/{path}", entry)).StatusCode.ShouldBe(HttpStatusCode.OK, path);
            await SameAsync(client, other, at, path);
            await SameAsync(client, other, $"{at}/answers", path);
        }
    }

    /// <summary>Tests beside this one write to the shop: held against each other is only what had not changed from before to after.</summary>
    private static async Task SameAsync(HttpClient client, HttpClient other, string url, string after)
    {
        for (var tries = 0; ; tries++)
        {
            var before = await client.GetStringAsync(url, Cancel);
            var theirs = await other.GetStringAsync(url, Cancel);
            if (await client.GetStringAsync(url, Cancel) == before || tries == 20)
            {
                before.ShouldBe(theirs, after);
                return;
            }
        }
    }

    /// <summary>Every operation on a case, as the document lists them.</summary>
    [Fact]
    public async Task A_case_that_is_not_there_is_told_as_such_by_every_operation()
    {
        using var client = await shop.As(Roles.Lead);
        var document = await client.GetAsync("/api/openapi/v1.json").Json();
        var asked = 0;
        foreach (var (path, operations) in document["paths"]!.AsObject().Where(p => p.Key.StartsWith("/api/cases/{", StringComparison.Ordinal)))
        {
            foreach (var method in operations!.AsObject().Select(o => o.Key).Where(m => m is "get" or "post" or "put"))
            {
                var url = path.Replace("{caseId}", Guid.CreateVersion7().ToString(), StringComparison.Ordinal)
                    .Replace("{id}", Guid.CreateVersion7().ToString(), StringComparison.Ordinal)
                    .Replace("{other}", Guid.CreateVersion7().ToString(), StringComparison.Ordinal)
                    .Replace("{size}", "view", StringComparison.Ordinal);
                using var request = new HttpRequestMessage(HttpMethod.Parse(method), url);
                if (method != "get")
                {
                    request.Content =
                        path.EndsWith("/photos", StringComparison.Ordinal) || path.EndsWith("/sounds", StringComparison.Ordinal)
                            ? new MultipartFormDataContent()
                        : path.EndsWith("/pieces", StringComparison.Ordinal)
                            ? new ByteArrayContent([1]) { Headers = { ContentType = new("application/octet-stream") } }
                        : path.EndsWith(".csv", StringComparison.Ordinal) ? new StringContent("place", null, "text/csv")
                        : JsonContent.Create(new { });
                }

                var answer = await client.SendAsync(request, Cancel);
                answer.StatusCode.ShouldBe(HttpStatusCode.NotFound, $"{method} {path}");
                (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain("There is no such case.", customMessage: $"{method} {path}");
                asked++;
            }
        }

        asked.ShouldBeGreaterThan(50);
    }

    [Fact]
    public async Task The_casebook_counts_what_stands_and_says_what_comes_next_a_page_at_a_time()
    {
        var (client, at) = await shop.NewCase();
        var owner = $"owner {Guid.CreateVersion7():N}";
        await client
            .PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = 1,
                    title = "First of two",
                    owner,
                    engineName = "Six",
                    serial = "",
                    hours = (decimal?)null,
                    complaint = "knocks 100% of the time",
                    past = "",
                    risks = new { },
                }
            )
            .Json();
        var id = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3, id)).Json();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R2U", "overlay-wiped", 1)).Json();
        await client.PostAsJsonAsync($"{at}/findings/{id}/withdraw", new { why = "another rod", version = 1 }).Json();
        var page = await client.GetAsync($"/api/cases?find={Uri.EscapeDataString($"first {owner}")}").Json();
        page["total"]!.GetValue<int>().ShouldBe(1);
        var line = page["cases"]![0]!;
        line["findings"]!.GetValue<int>().ShouldBe(1);
        line["lastBy"]!.ToString().ShouldBe(Roles.Mechanic);
        line["next"]!.ToString().ShouldBe((await client.GetAsync($"{at}/answers?rooms=progress").Json())["progress"]!["next"]!.ToString());

        var second = Guid.CreateVersion7();
        await client
            .PostAsJsonAsync(
                "/api/cases",
                new JsonObject
                {
                    ["id"] = second,
                    ["title"] = "Second of two",
                    ["engineName"] = "Six",
                    ["owner"] = owner,
                    ["layout"] = Shop.Six.DeepClone(),
                }
            )
            .Json();
        var both = await client.GetAsync($"/api/cases?find={Uri.EscapeDataString(owner)}&take=1").Json();
        both["total"]!.GetValue<int>().ShouldBe(2);
        both["cases"]!.AsArray().ShouldHaveSingleItem()!["id"]!.ToString().ShouldBe(second.ToString());
        (await client.GetAsync($"/api/cases?find={Uri.EscapeDataString(owner)}&skip=1&take=1").Json())["cases"]![0]!["id"]!
            .ToString()
            .ShouldBe(at[^36..]);
        // What people search for is no pattern.
        (await client.GetAsync($"/api/cases?find={Uri.EscapeDataString($"100% {owner}")}").Json())["total"]!
            .GetValue<int>()
            .ShouldBe(1);
        (await client.GetAsync($"/api/cases?find={Uri.EscapeDataString($"1_0% {owner}")}").Json())["total"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task An_open_screen_hears_of_what_another_instance_writes()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        using var until = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        until.CancelAfter(TimeSpan.FromMinutes(1));
        using var answer = await client.GetAsync($"{at}/events", HttpCompletionOption.ResponseHeadersRead, until.Token);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/event-stream");
        await using var events = SseParser
            .Create(await answer.Content.ReadAsStreamAsync(until.Token))
            .EnumerateAsync(until.Token)
            .GetAsyncEnumerator(until.Token);
        (await Next()).ShouldBe(1);
        var start = Stopwatch.GetTimestamp();
        await other.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3)).Json();
        long heard;
        do
        {
            heard = await Next();
        } while (heard < 2);

        heard.ShouldBe(2);
        TestContext.Current.SendDiagnosticMessage($"heard after {Stopwatch.GetElapsedTime(start).TotalMilliseconds:0} ms");

        async Task<long> Next()
        {
            (await events.MoveNextAsync()).ShouldBeTrue();
            return JsonNode.Parse(events.Current.Data)!["revision"]!.GetValue<long>();
        }
    }

    [Fact]
    public async Task Cases_of_before_get_what_stands_on_them_when_the_database_is_brought_up_to_date()
    {
        var name = $"before_{Guid.CreateVersion7():N}";
        await shop.Run($"create database {name}");
        try
        {
            await using var instance = shop.Instance(name);
            using var scope = instance.Services.CreateScope();
            var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
            var file = CaseFile.FromJson(
                await File.ReadAllTextAsync(
                    Directory.GetFiles(Path.Combine(ApiContractTests.Root(), "demo", "cases"), "*.case.json").Order().First(),
                    Cancel
                )
            );
            db.Writer = "ines";
            await db.ImportAsync(file, Cancel);
            var expected = await db.States.AsNoTracking().SingleAsync(Cancel);
            expected.Readings.ShouldBeGreaterThan(0);
            var migrator = db.GetService<IMigrator>();
            await migrator.MigrateAsync("Devices", Cancel);
            await migrator.MigrateAsync(cancellationToken: Cancel);
            var state = await db.States.AsNoTracking().SingleAsync(Cancel);
            (state.Findings, state.Readings, state.Steps, state.Conclusions, state.Numbering, state.LastBy).ShouldBe(
                (expected.Findings, expected.Readings, expected.Steps, expected.Conclusions, expected.Numbering, "ines")
            );
            state.Revision.ShouldBe(1);
        }
        finally
        {
            await shop.Run($"drop database {name} with (force)");
        }
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<long> RevisionAfter(Task<HttpResponseMessage> sent) =>
        long.Parse((await sent).Headers.GetValues("X-Case-Revision").Single(), System.Globalization.CultureInfo.InvariantCulture);

    private static async Task<(string? Tag, HttpResponseMessage Response)> Ask(HttpClient client, string url, string? known)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, url);
        if (known is not null)
        {
            request.Headers.TryAddWithoutValidation("If-None-Match", known);
        }

        var response = await client.SendAsync(request);
        return (response.Headers.ETag?.ToString(), response);
    }

    private static string InOrder(EngineCase engineCase) =>
        JsonSerializer.Serialize(engineCase.Layout, CaseFile.Json)
        + JsonSerializer.Serialize(engineCase.Risks, CaseFile.Json)
        + string.Join('\n', engineCase.Records().OrderBy(r => r.Id).Select(r => JsonSerializer.Serialize(r, r.GetType(), CaseFile.Json)));
}
