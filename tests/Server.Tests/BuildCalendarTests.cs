using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Ical.Net;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The plan as a calendar, read back by Ical.Net; the browser tests read it by ical.js.</summary>
public sealed class BuildCalendarTests(Shop shop)
{
    [Fact]
    public async Task Every_task_of_the_plan_is_an_event_at_its_hours()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        await client
            .PostAsJsonAsync(
                $"{at}/build-promises",
                new
                {
                    id,
                    day = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(60),
                    to = "Ana; the “harbour”,\nquay 2",
                    note = "",
                }
            )
            .Json();
        var (plan, response) = await TogetherAsync(client, at);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("text/calendar");
        var calendar = Calendar.Load(await response.Content.ReadAsStringAsync())!;
        var tasks = plan["tasks"]!.AsArray();
        calendar.Events.Count.ShouldBe(tasks.Count + 3);
        calendar.Events.Select(e => e.Uid).Distinct().Count().ShouldBe(calendar.Events.Count);
        foreach (var task in tasks.Where(t => !t!["byItself"]!.GetValue<bool>()))
        {
            var starts = task!["starts"]!.GetValue<DateTimeOffset>();
            calendar
                .Events.Where(e =>
                    e.Summary == task["name"]!.ToString()
                    && e.Start!.AsUtc == starts.UtcDateTime
                    && e.End!.AsUtc == task["ends"]!.GetValue<DateTimeOffset>().UtcDateTime
                )
                .ShouldHaveSingleItem();
        }

        var promised = calendar.Events.Single(e => e.Summary!.Contains("promised"));
        promised.Summary!.ShouldContain("Ana; the “harbour”,\nquay 2");
        (promised.Start!.HasTime, promised.Start.Date).ShouldBe((false, DateOnly.FromDateTime(DateTime.UtcNow).AddDays(60)));
        // Fetched again it has the same events, which a calendar moves and does not double.
        var again = Calendar.Load(await client.GetStringAsync($"{at}/build.ics"))!;
        again.Events.Select(e => e.Uid).ShouldBe(calendar.Events.Select(e => e.Uid), ignoreOrder: true);
    }

    /// <summary>Both of the same quarter of an hour, at which plans begin.</summary>
    private static async Task<(JsonNode Plan, HttpResponseMessage Calendar)> TogetherAsync(HttpClient client, string at)
    {
        async Task<JsonNode> Plan() => (await client.GetAsync($"{at}/answers?rooms=build").Json())["build"]!;
        for (var plan = await Plan(); ; )
        {
            var calendar = await client.GetAsync($"{at}/build.ics");
            var again = await Plan();
            if (again["at"]!.ToString() == plan["at"]!.ToString())
            {
                return (plan, calendar);
            }

            plan = again;
        }
    }

    [Fact]
    public async Task An_address_is_fetched_without_signing_in_until_it_is_shut()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        var opened = await client.PostAsJsonAsync($"{at}/feeds", new { id, @for = "the workshop’s wall" }).Json();
        await client.PostAsJsonAsync($"{at}/feeds", new { id, @for = "the workshop’s wall" }).Json();
        (await client.GetAsync($"{at}/feeds").Json()).AsArray().Count.ShouldBe(1);
        using var stranger = shop.Other.CreateDefaultClient(shop.Other.ClientOptions.BaseAddress);
        var path = opened["path"]!.ToString();
        Calendar.Load(await stranger.GetStringAsync(path))!.Events.Count.ShouldBeGreaterThan(10);
        (await stranger.GetAsync($"{at}/build.ics")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await stranger.GetAsync(path.Replace(".ics", "x.ics"))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await stranger.GetAsync("/api/feeds/short.ics")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var viewer = await shop.As(Roles.Viewer);
        (await viewer.GetAsync($"{at}/feeds")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await viewer.GetAsync($"{at}/build.ics")).StatusCode.ShouldBe(HttpStatusCode.OK);

        await client.PostAsJsonAsync($"{at}/feeds/{id}/withdraw", new { why = "", version = 1 }).Json();
        (await stranger.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await client.GetAsync($"{at}/feeds").Json()).AsArray().ShouldBeEmpty();
        // Of another case it cannot be shut.
        var (_, other) = await shop.NewCase();
        (await client.PostAsJsonAsync($"{other}/feeds/{id}/withdraw", new { why = "", version = 2 })).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
