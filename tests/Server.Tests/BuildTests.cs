using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using VividSleuth.Cli.StandIns;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The plan over the network: tasks of one's own, promises, hours, weather, and the clocks of the shop.</summary>
public sealed class BuildTests(OwnShop own) : IClassFixture<OwnShop>
{
    private async Task<(HttpClient Client, string Case)> NewCaseAsync()
    {
        var client = await own.As(Roles.Mechanic);
        return (client, await Shop.CaseAsync(client));
    }

    private static JsonObject Task(Guid id, string name, string of = "", string kind = "own", int version = 0, string mark = "open") =>
        new()
        {
            ["id"] = id,
            ["version"] = version,
            ["of"] = of,
            ["kind"] = kind,
            ["name"] = name,
            ["least"] = null,
            ["likely"] = null,
            ["most"] = null,
            ["hands"] = null,
            ["tools"] = new JsonArray(),
            ["after"] = new JsonArray(),
            ["holds"] = new JsonArray(),
            ["notBefore"] = null,
            ["expected"] = null,
            ["byItself"] = false,
            ["dry"] = false,
            ["warmerThan"] = null,
            ["mark"] = mark,
            ["note"] = "",
        };

    private static async Task<JsonNode> PlanAsync(HttpClient client, string at) =>
        (await client.GetAsync($"{at}/answers?rooms=build").Json())["build"]!;

    private static JsonNode? Of(JsonNode plan, string key) => plan["tasks"]!.AsArray().FirstOrDefault(t => t!["key"]!.ToString() == key);

    [Fact]
    public async Task A_task_is_in_the_plan_once_it_is_written_and_written_once_however_often_it_is_sent()
    {
        var (client, at) = await NewCaseAsync();
        var id = Guid.CreateVersion7();
        var task = Task(id, "Gas bottle filled", kind: "tool");
        task["holds"] = new JsonArray("strip/record");
        for (var i = 0; i < 2; i++)
        {
            (await client.PostAsJsonAsync($"{at}/build-tasks", task.DeepClone()).Json())["version"]!.GetValue<int>().ShouldBe(1);
        }

        var plan = await PlanAsync(client, at);
        var key = $"own/{id:N}";
        Of(plan, key)!["byItself"]!.GetValue<bool>().ShouldBeTrue();
        Of(plan, "strip/record")!["after"]!.AsArray().Select(a => a!.ToString()).ShouldContain(key);
        Of(plan, "strip/record")!["ready"]!.GetValue<bool>().ShouldBeFalse();

        var here = Task(id, "Gas bottle filled", kind: "tool", version: 1, mark: "through");
        await client.PutAsJsonAsync($"{at}/build-tasks/{id}", here).Json();
        plan = await PlanAsync(client, at);
        Of(plan, key).ShouldBeNull();
        Of(plan, "strip/record")!["ready"]!.GetValue<bool>().ShouldBeTrue();

        // Begun from a version that is no more.
        var lost = await client
            .PutAsJsonAsync($"{at}/build-tasks/{id}", Task(id, "Other bottle", kind: "tool", version: 1))
            .Json(HttpStatusCode.Conflict);
        lost["theirs"]!["mark"]!.ToString().ShouldBe("through");
    }

    [Fact]
    public async Task Two_who_change_the_same_task_at_once_are_shown_each_other()
    {
        var (client, at) = await NewCaseAsync();
        await client.PostAsJsonAsync($"{at}/build-tasks", Task(Guid.CreateVersion7(), "", of: "strip/drain-oil")).Json();
        var lost = await client
            .PostAsJsonAsync($"{at}/build-tasks", Task(Guid.CreateVersion7(), "", of: "strip/drain-oil"))
            .Json(HttpStatusCode.Conflict);
        lost["theirs"]!["of"]!.ToString().ShouldBe("strip/drain-oil");
    }

    [Fact]
    public async Task A_wait_in_a_circle_is_named_and_not_written()
    {
        var (client, at) = await NewCaseAsync();
        var circle = Task(Guid.CreateVersion7(), "Paint it");
        circle["after"] = new JsonArray("run");
        circle["holds"] = new JsonArray("strip/drain-oil");
        var problem = await client.PostAsJsonAsync($"{at}/build-tasks", circle).Problem();
        problem["title"]!.ToString().ShouldContain("Paint it");
        problem["title"]!.ToString().ShouldContain("First run");
        (await client.PostAsJsonAsync($"{at}/build-tasks", Task(Guid.CreateVersion7(), " ")).Problem()).FirstField().ShouldBe("name");
        var viewer = await own.As(Roles.Viewer);
        (await viewer.PostAsJsonAsync($"{at}/build-tasks", Task(Guid.CreateVersion7(), "Mine"))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_promise_is_held_against_the_plan_until_it_is_taken_back()
    {
        var (client, at) = await NewCaseAsync();
        var id = Guid.CreateVersion7();
        var day = DateOnly.FromDateTime(DateTime.UtcNow);
        object Promise(DateOnly on) =>
            new
            {
                id,
                day = on,
                to = "the harbour",
                note = "",
            };
        (await client.PostAsJsonAsync($"{at}/build-promises", Promise(day.AddYears(50))).Problem()).FirstField().ShouldBe("day");
        await client.PostAsJsonAsync($"{at}/build-promises", Promise(day)).Json();
        var plan = await PlanAsync(client, at);
        // Nobody strips and builds an engine by this evening.
        plan["promise"]!["chance"]!.GetValue<double>().ShouldBe(0);
        plan["promise"]!["to"]!.ToString().ShouldBe("the harbour");
        await client.PostAsJsonAsync($"{at}/build-promises/{id}/withdraw", new { why = "never said", version = 1 }).Json();
        (await PlanAsync(client, at))["promise"].ShouldBeNull();
    }

    [Fact]
    public async Task Hours_are_a_leads_and_move_every_plan()
    {
        var (client, at) = await NewCaseAsync();
        var lead = await own.As(Roles.Lead);
        var settings = await lead.GetAsync("/api/settings").Json();
        var work = settings["work"]!.DeepClone();
        work["week"] = new JsonArray(
            new JsonObject
            {
                ["day"] = "wednesday",
                ["from"] = "09:00:00",
                ["to"] = "10:00:00",
            }
        );
        work["zone"] = "UTC";
        JsonObject Entry(JsonNode w, JsonNode of) => new() { ["version"] = of["version"]!.DeepClone(), ["work"] = w.DeepClone() };
        (await client.PutAsJsonAsync("/api/work", Entry(work, settings))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var before = (await PlanAsync(client, at))["ends"]!.GetValue<DateTimeOffset>();
        var changed = await lead.PutAsJsonAsync("/api/work", Entry(work, settings)).Json();
        var after = await PlanAsync(client, at);
        after["ends"]!.GetValue<DateTimeOffset>().ShouldBeGreaterThan(before);
        after["open"]!.AsArray().ShouldAllBe(o => o!["from"]!.GetValue<DateTimeOffset>().DayOfWeek == DayOfWeek.Wednesday);
        (await lead.PutAsJsonAsync("/api/work", Entry(work, settings))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        work["week"] = new JsonArray();
        (await lead.PutAsJsonAsync("/api/work", Entry(work, changed)).Problem()).FirstField().ShouldBe("hours");
        await lead.PutAsJsonAsync("/api/work", Entry(settings["work"]!, changed)).Json();
    }

    private static StringContent Csv(string text) => new(text, Encoding.UTF8, "text/csv");

    [Fact]
    public async Task A_forecast_is_taken_row_by_row_and_what_cannot_be_read_is_told()
    {
        var client = await own.As(Roles.Mechanic);
        var day = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(3);
        var taken = await client
            .PostAsync("/api/weather.csv", Csv($"day;dry;coldest\n{day:O};no;-2,5\nsoon;yes;1\n{day.AddDays(1):O};;\n{day:O};yes;3\n"))
            .Json();
        (taken["added"]!.GetValue<int>(), taken["bad"]!.GetValue<int>()).ShouldBe((3, 1));
        (taken["problems"]![0]!["row"]!.GetValue<int>(), taken["problems"]![0]!["column"]!.ToString()).ShouldBe((3, "day"));
        var known = (await client.GetAsync("/api/settings").Json())["work"]!["weather"]!.AsArray();
        // Of a day that stands there twice the last counts; of one that nobody spoke for nothing is known.
        var first = known.Single(w => w!["day"]!.ToString() == $"{day:O}")!;
        (first["dry"]!.GetValue<bool>(), first["coldest"]!.GetValue<double>()).ShouldBe((true, 3));
        known.Single(w => w!["day"]!.ToString() == $"{day.AddDays(1):O}")!["dry"].ShouldBeNull();

        await client
            .PutAsJsonAsync(
                "/api/weather",
                new
                {
                    days = new[]
                    {
                        new
                        {
                            day,
                            dry = (bool?)false,
                            coldest = (double?)1,
                        },
                    },
                }
            )
            .Json();
        var now = (await client.GetAsync("/api/settings").Json())["work"]!["weather"]!.AsArray();
        now.Single(w => w!["day"]!.ToString() == $"{day:O}")!["dry"]!.GetValue<bool>().ShouldBeFalse();
        now.Count.ShouldBe(known.Count);
        (await client.PostAsync("/api/weather.csv", Csv("when,how\n1,2\n")).Problem()).FirstField().ShouldBe("file");
        (await client.PostAsync("/api/weather.csv", Csv(new string('x', 300_000))).Problem()).FirstField().ShouldBe("file");
    }

    [Fact]
    public async Task A_weather_service_is_asked_where_the_operator_allows_it()
    {
        var lead = await own.As(Roles.Lead);
        (await lead.PostAsync("/api/weather/ask", null).Problem()).FirstField().ShouldBe("weatherAddress");
        var says = WeatherCommand.Table(DateOnly.FromDateTime(DateTime.UtcNow), 7);
        using var service = new Listening(listener => WeatherCommand.ServeAsync(listener, () => says));
        await SetAsync("somewhere.else:80", HttpStatusCode.UnprocessableEntity);
        await SetAsync(service.Address, HttpStatusCode.OK);
        (await lead.PostAsync("/api/weather/ask", null).Json())["added"]!.GetValue<int>().ShouldBe(14);
        var known = (await lead.GetAsync("/api/settings").Json())["work"]!["weather"]!.AsArray().Count;
        // It talks nonsense, too much of it, and is gone: nothing is known less.
        says = "<html>";
        (await lead.PostAsync("/api/weather/ask", null).Problem()).FirstField().ShouldBe("file");
        says = new string('x', 300_000);
        (await lead.PostAsync("/api/weather/ask", null).Problem())["title"]!.ToString().ShouldContain("forecast");
        service.Dispose();
        (await lead.PostAsync("/api/weather/ask", null).Problem())["title"]!.ToString().ShouldContain("does not answer");
        (await lead.GetAsync("/api/settings").Json())["work"]!["weather"]!.AsArray().Count.ShouldBe(known);
        await SetAsync("", HttpStatusCode.OK);

        async Task SetAsync(string address, HttpStatusCode expected)
        {
            var settings = await lead.GetAsync("/api/settings").Json();
            var work = settings["work"]!.DeepClone();
            work["weatherAddress"] = address;
            var entry = new JsonObject { ["version"] = settings["version"]!.DeepClone(), ["work"] = work };
            (await lead.PutAsJsonAsync("/api/work", entry)).StatusCode.ShouldBe(expected);
        }
    }

    [Fact]
    public void The_stand_in_says_what_can_be_read()
    {
        var read = Core.Build.WeatherTable.Read(WeatherCommand.Table(new DateOnly(2026, 11, 28), 3));
        (read.Bad, read.Good.Count).ShouldBe((0, 14));
        read.Good.Select(w => w.Day).ShouldBe(Enumerable.Range(0, 14).Select(new DateOnly(2026, 11, 28).AddDays));
    }
}

/// <summary>What the shop has clocked on one engine is what the next is planned by.</summary>
public sealed class BuildClockTests(OwnShop own) : IClassFixture<OwnShop>
{
    [Fact]
    public async Task The_shops_clocks_count_on_the_next_engine()
    {
        var client = await own.As(Roles.Mechanic);
        var first = await Shop.CaseAsync(client);
        foreach (var (kind, ago) in new[] { ("started", 50), ("stopped", 20) })
        {
            var mark = new HttpRequestMessage(HttpMethod.Post, $"{first}/step-marks")
            {
                Content = JsonContent.Create(
                    new
                    {
                        id = Guid.CreateVersion7(),
                        step = "drain-oil",
                        kind,
                        item = 0,
                    }
                ),
            };
            mark.Headers.Add(Recorder.EnteredHeader, DateTimeOffset.UtcNow.AddMinutes(-ago).ToString("O"));
            await client.SendAsync(mark).Json();
        }

        await own.Run(
            $"""
            insert into steps ("Id", "CaseId", "Step", "State", "Reason", "Overrides", "Stations", "Per", "At", "By", "Version", "Imported")
            values ('{Guid.CreateVersion7()}', '{first.Split('/')[^1]}', 'drain-oil', 'Done', '', '[]', '[]', 'InAll', now(), 'mechanic', 1, false)
            """,
            own.Connection
        );
        var next = await Shop.CaseAsync(client);
        var plan = (await client.GetAsync($"{next}/answers?rooms=build").Json())["build"]!;
        var task = plan["tasks"]!.AsArray().Single(t => t!["key"]!.ToString() == "strip/drain-oil")!;
        (task["from"]!.ToString(), task["clocked"]!.GetValue<int>()).ShouldBe(("clocks", 1));
        (60 * task["likely"]!.GetValue<double>()).ShouldBe(30, 0.1);
    }
}
