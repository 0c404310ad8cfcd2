using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>Kinds of engines over the network: kept of a case, taken into the next, learned from, handed on; and the fleet that goes by them.</summary>
public sealed class KindTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static int _made;

    /// <summary>A case of an engine of its own kind, with a limit and its page.</summary>
    private static async Task<string> CaseAsync(HttpClient client, string name)
    {
        var at = await Shop.CaseAsync(client);
        var engineCase = await client.GetAsync(at).Json();
        await client
            .PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = engineCase["version"]!.GetValue<int>(),
                    title = $"{name} on the stand",
                    owner = "",
                    engineName = $"{name}, 2 l",
                    serial = $"S{Interlocked.Increment(ref _made)}",
                    hours = (decimal?)null,
                    complaint = "",
                    past = "",
                    risks = new { },
                }
            )
            .Json();
        return at;
    }

    private static Task<JsonNode> LimitAsync(HttpClient client, string at, string characteristic, string most) =>
        client
            .PostAsJsonAsync(
                $"{at}/limits",
                new
                {
                    id = Guid.CreateVersion7(),
                    characteristic,
                    on = "",
                    nominal = "",
                    least = "",
                    most,
                    wear = "",
                    setUnit = "mm",
                    source = "makersManual",
                    sourceText = "manual, page 31",
                }
            )
            .Json();

    private static async Task<(Guid Id, JsonNode Kind)> KeepAsync(HttpClient client, string at)
    {
        var id = Guid.CreateVersion7();
        var sheet = await client.GetAsync($"{at}/of-kind/sheet").Json();
        return (id, await client.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(sheet)).Json());
    }

    private static JsonObject Write(JsonNode sheet, int version = 0, string why = "from the manual") =>
        new()
        {
            ["sheet"] = sheet.DeepClone(),
            ["why"] = why,
            ["version"] = version,
        };

    private static string Name(string of) => $"{of} {Interlocked.Increment(ref _made)}";

    [Fact]
    public async Task What_one_case_holds_serves_the_next_and_a_case_stays_by_its_version()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        var name = Name("Harrow HD");
        var first = await CaseAsync(mechanic, name);
        await LimitAsync(mechanic, first, "big-end-clearance", "0.08");
        (await mechanic.GetAsync($"{first}/of-kind").Json())["kind"].ShouldBeNull();
        var (id, kept) = await KeepAsync(mechanic, first);
        kept["name"]!.ToString().ShouldBe(name);
        kept["sheet"]!["limits"]!.AsArray().ShouldHaveSingleItem()!["by"]!.ToString().ShouldBe("", "a figure of a kind is nobody’s entry");

        // The first case knows it by its name, and says the same.
        var of = await mechanic.GetAsync($"{first}/of-kind").Json();
        of["pinned"]!.GetValue<int>().ShouldBe(0);
        of["rows"]!.AsArray().ShouldHaveSingleItem()!["state"]!.ToString().ShouldBe("same");

        // The next begins with it.
        var next = await mechanic
            .PostAsJsonAsync(
                "/api/cases",
                new
                {
                    id = Guid.CreateVersion7(),
                    title = "",
                    engineName = $"{name}, the second",
                    owner = "",
                    layout = kept["sheet"]!["layout"],
                    kindId = id,
                }
            )
            .Json();
        var at = $"/api/cases/{next["id"]}";
        (await mechanic.GetAsync(at).Json())["limits"]!.AsArray().ShouldHaveSingleItem()!["by"]!.ToString().ShouldNotBeEmpty();

        // The kind changes: the case stays by the version it was judged by until somebody takes the new one.
        var sheet = kept["sheet"]!.DeepClone();
        sheet["limits"]![0]!["most"] = 0.07;
        await mechanic.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(sheet, 1)).Json();
        of = await mechanic.GetAsync($"{at}/of-kind").Json();
        of["pinned"]!.GetValue<int>().ShouldBe(1);
        of["kind"]!["version"]!.GetValue<int>().ShouldBe(2);
        of["rows"]![0]!["state"]!.ToString().ShouldBe("differs");
        (await mechanic.GetAsync(at).Json())["limits"]![0]!["most"]!.GetValue<decimal>().ShouldBe(0.08m);
        (await mechanic.GetAsync($"/api/engine-kinds/{id}?version=1").Json())["kind"]!["sheet"]!["limits"]![0]!["most"]!
            .GetValue<decimal>()
            .ShouldBe(0.08m);
        await mechanic.GetAsync($"/api/engine-kinds/{id}?version=9").Problem(HttpStatusCode.NotFound);

        // Taken, twice at once: one limit stands, the other is taken back with its reason, and none is lost.
        await mechanic.PostAsJsonAsync($"{at}/of-kind/take", Take(version: 1)).Problem(HttpStatusCode.Conflict);
        var take = Take(version: 2);
        var twice = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ => mechanic.PostAsJsonAsync($"{at}/of-kind/take", take)));
        twice.ShouldAllBe(r => r.StatusCode == HttpStatusCode.OK);
        var limits = (await mechanic.GetAsync(at).Json())["limits"]!.AsArray();
        limits.Count.ShouldBe(2);
        limits.Single(l => l!["withdrawnAt"] is null)!["most"]!.GetValue<decimal>().ShouldBe(0.07m);
        limits.Single(l => l!["withdrawnAt"] is not null)!["withdrawnWhy"]!.ToString().ShouldContain("version 2");
        (await mechanic.GetAsync($"{at}/of-kind").Json())["pinned"]!.GetValue<int>().ShouldBe(2);

        // What was learned on it is given to the kind by a person.
        await LimitAsync(mechanic, at, "crankpin-taper", "0.01");
        var offer = new
        {
            kindId = id,
            version = 2,
            keys = new[] { "limit/crankpin-taper//MakersManual" },
            why = "measured and looked up",
        };
        (await mechanic.PostAsJsonAsync($"{at}/of-kind/offer", offer).Json())["version"]!.GetValue<int>().ShouldBe(3);
        (await mechanic.PostAsJsonAsync($"{at}/of-kind/offer", offer).Json())["version"]!
            .GetValue<int>()
            .ShouldBe(3, "sent again it changes nothing");
        var view = await mechanic.GetAsync($"/api/engine-kinds/{id}").Json();
        view["items"]!.AsArray().Count.ShouldBe(2);
        view["cases"]!.AsArray().Count.ShouldBe(2);

        object Take(int version) =>
            new
            {
                id = Guid.CreateVersion7(),
                kindId = id,
                version,
                keys = (string[]?)null,
            };
    }

    [Fact]
    public async Task A_kind_is_kept_once_changed_with_a_reason_and_handed_on()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        var at = await CaseAsync(mechanic, Name("Lowick L"));
        await LimitAsync(mechanic, at, "big-end-clearance", "0.09");
        var (id, kept) = await KeepAsync(mechanic, at);
        var sheet = kept["sheet"]!;
        (await mechanic.PutAsJsonAsync($"/api/engine-kinds/{Guid.CreateVersion7()}", Write(sheet)).Problem()).FirstField().ShouldBe("name");
        (await mechanic.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(sheet, 1, why: " ")).Problem()).FirstField().ShouldBe("why");
        (await mechanic.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(sheet)).Json())["version"]!.GetValue<int>().ShouldBe(1, "sent again");
        var bad = sheet.DeepClone();
        bad["limits"]![0]!["sourceText"] = "";
        (await mechanic.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(bad, 1)).Problem()).FirstField().ShouldBe("limits[0].sourceText");

        // Out as a file; read in another shop it is looked at first, and what is wrong is left out and told.
        var yaml = await mechanic.GetStringAsync($"/api/engine-kinds/{id}/kind.yaml", TestContext.Current.CancellationToken);
        yaml.ShouldContain("big-end-clearance");
        var read = await ReadAsync(
                yaml.Replace(
                    "- characteristic:",
                    "- characteristic: moon\n    sourceText: page 1\n    most: 1\n  - characteristic:",
                    StringComparison.Ordinal
                )
            )
            .Json();
        read["file"]!["kind"]!["limits"]!.AsArray().ShouldHaveSingleItem();
        read["problems"]!.AsArray().ShouldHaveSingleItem()!["field"]!.ToString().ShouldBe("kind.limits[0].characteristic");
        read["standing"]!["id"]!.ToString().ShouldBe(id.ToString());
        (await ReadAsync("format: other").Problem()).FirstField().ShouldBe("file");
        (await ReadAsync("format: vivid-sleuth-kind\nversion: 1\nkind:\n  name: 'No cylinders'").Problem())
            .FirstField()
            .ShouldStartWith("kind.layout");

        using var viewer = await own.As(Roles.Viewer);
        await viewer.PutAsJsonAsync($"/api/engine-kinds/{id}", Write(sheet, 1)).Problem(HttpStatusCode.Forbidden);
        await viewer
            .PostAsJsonAsync(
                $"{at}/of-kind/take",
                new
                {
                    id = Guid.CreateVersion7(),
                    kindId = id,
                    version = 1,
                }
            )
            .Problem(HttpStatusCode.Forbidden);
        (await viewer.GetAsync("/api/engine-kinds").Json()).AsArray().ShouldContain(k => k!["id"]!.ToString() == id.ToString());

        await mechanic.PostAsJsonAsync($"/api/engine-kinds/{id}/withdraw", new { why = "mistyped", version = 1 }).Json();
        (await mechanic.GetAsync("/api/engine-kinds").Json()).AsArray().ShouldNotContain(k => k!["id"]!.ToString() == id.ToString());

        Task<HttpResponseMessage> ReadAsync(string text) =>
            mechanic.PostAsync("/api/engine-kinds/read", new StringContent(text, MediaTypeHeaderValue.Parse("application/yaml")));
    }

    [Fact]
    public async Task The_fleet_says_what_is_due_and_what_to_do_while_it_is_open()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        var at = await CaseAsync(mechanic, Name("Quay Q"));
        var serial = (await mechanic.GetAsync(at).Json())["serial"]!.ToString();
        var sheet = await mechanic.GetAsync($"{at}/of-kind/sheet").Json();
        var service = new JsonObject
        {
            ["id"] = "big-ends",
            ["what"] = "Look at the big ends",
            ["ordinary"] = 1000,
            ["opens"] = true,
            ["sourceText"] = "manual, page 2",
        };
        sheet["services"] = new JsonArray(service);
        var kind = Guid.CreateVersion7();
        await mechanic.PutAsJsonAsync($"/api/engine-kinds/{kind}", Write(sheet)).Json();

        var engine = Guid.CreateVersion7();
        await mechanic.PutAsJsonAsync($"/api/fleet/{engine}", Engine(Guid.CreateVersion7())).Problem();
        await mechanic.PutAsJsonAsync($"/api/fleet/{engine}", Engine(kind)).Json();
        (await mechanic.PutAsJsonAsync($"/api/fleet/{engine}", Engine(kind)).Json())["version"]!.GetValue<int>().ShouldBe(1, "sent again");
        var entry = Entry(DateTime.UtcNow.AddDays(-100), 500);
        await mechanic.PostAsJsonAsync($"/api/fleet/{engine}/entries", entry).Json();
        await mechanic.PostAsJsonAsync($"/api/fleet/{engine}/entries", entry).Json();
        (await mechanic.PostAsJsonAsync($"/api/fleet/{engine}/entries", Entry(DateTime.UtcNow, 400)).Problem()).FirstField().ShouldBe("hours");
        var last = await mechanic.PostAsJsonAsync($"/api/fleet/{engine}/entries", Entry(DateTime.UtcNow, 900)).Json();

        var view = await mechanic.GetAsync($"/api/fleet/{engine}").Json();
        view["entries"]!.AsArray().Count.ShouldBe(2);
        var due = view["line"]!["due"]!.AsArray().ShouldHaveSingleItem()!;
        due["left"]!.GetValue<decimal>().ShouldBe(100);
        due["due"]!
            .ToString()
            .ShouldBe(DateOnly.FromDateTime(DateTime.UtcNow.AddDays(25)).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture));
        view["line"]!["onBench"]!.ToString().ShouldBe(at.Split('/')[^1]);
        (await mechanic.GetAsync($"{at}/service").Json())["whileOpen"]!.AsArray().ShouldHaveSingleItem();

        // Taken back, the hours are those of before; and a kind by which an engine goes stays.
        await mechanic.PostAsJsonAsync($"/api/fleet/entries/{last["id"]}/withdraw", new { why = "misread", version = 1 }).Json();
        (await mechanic.GetAsync($"/api/fleet/{engine}").Json())["line"]!["run"]!["total"]!.GetValue<decimal>().ShouldBe(500);
        (await mechanic.PostAsJsonAsync($"/api/engine-kinds/{kind}/withdraw", new { why = "no", version = 1 }).Problem())
            .FirstField()
            .ShouldBe("kind");
        (await mechanic.GetAsync("/api/fleet").Json()).AsArray().ShouldContain(l => l!["engine"]!["id"]!.ToString() == engine.ToString());
        using var viewer = await own.As(Roles.Viewer);
        await viewer.PostAsJsonAsync($"/api/fleet/{engine}/entries", entry).Problem(HttpStatusCode.Forbidden);

        object Engine(Guid of) =>
            new
            {
                name = "Launch 3",
                serial,
                owner = "",
                kindId = of,
                use = "ordinary",
                version = 0,
            };

        static object Entry(DateTime day, decimal hours) =>
            new
            {
                id = Guid.CreateVersion7(),
                day = DateOnly.FromDateTime(day),
                hours,
                newMeter = false,
                service = "",
                note = "",
            };
    }
}
