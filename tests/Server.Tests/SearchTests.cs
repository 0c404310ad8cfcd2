using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>Search over all cases on a seeded set with known answers.</summary>
public sealed class SearchTests(OwnShop own) : IClassFixture<OwnShop>
{
    internal static async Task<string> CaseAsync(HttpClient client, string title, string serial = "", string complaint = "")
    {
        var at = await Shop.CaseAsync(client);
        await client
            .PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = 1,
                    title,
                    owner = "Norrvik Ferries",
                    engineName = "Harrow HD, 5 l",
                    serial,
                    hours = (decimal?)null,
                    complaint,
                    past = "",
                    risks = new { },
                }
            )
            .Json();
        return at;
    }

    internal static async Task SawAsync(HttpClient client, string at, string place, string sign, int level = 3) =>
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw(place, sign, level, Guid.CreateVersion7())).Json();

    internal static Task<JsonNode> ConcludeAsync(HttpClient client, string at, string cause, string place) =>
        client
            .PostAsJsonAsync(
                $"{at}/conclusions",
                new
                {
                    id = Guid.CreateVersion7(),
                    cause,
                    place,
                    confidence = "proven",
                    fault = "notKnown",
                    reasons = "measured against the book",
                }
            )
            .Json();

    private static async Task<string[]> FoundAsync(HttpClient client, string query) =>
        [.. (await client.GetAsync($"/api/search?{query}").Json())["hits"]!.AsArray().Select(h => $"/api/cases/{h!["id"]}")];

    [Fact]
    public async Task Each_case_of_a_seeded_set_is_found_by_what_it_has_and_no_other()
    {
        using var client = await own.As(Roles.Mechanic);
        var shells = await CaseAsync(client, "Ferry engine with a knock", "HD5-20933", "It knocks when warm and the lamp flickers");
        await SawAsync(client, shells, "R4U", "overlay-wiped");
        await ConcludeAsync(client, shells, "wrong-size-shell", "R4U");
        var boiled = await CaseAsync(client, "Quay crane boiled over", "QC-77", "No coolant left, overheated twice");
        await SawAsync(client, boiled, "P2", "skirt-scuff-thrust");
        var sound = await CaseAsync(client, "Winch engine, nothing wrong", "WN-1");

        foreach (
            var (query, cases) in new (string, string[])[]
            {
                ("find=knocking", [shells]), // another form of the word
                ("find=flick", [shells]), // its beginning
                ("find=wiped+overlay", [shells]), // what was found on it
                ("find=20933", [shells]), // part of a number
                ("find=HD5-20933", [shells]),
                ("find=measured+against", [shells]), // why it was concluded
                ("find=overheat+coolant", [boiled]),
                ("find=norrvik", [shells, boiled, sound]),
                ("find=norrvik+knock", [shells]),
                ("find=whistle", []),
                ("sign=overlay-wiped", [shells]),
                ("sign=overlay-wiped&find=crane", []),
                ("part=piston", [boiled]),
                ("cause=wrong-size-shell", [shells]),
                ("cause=wrong-size-shell&part=piston", []),
                ($"from={Day(1)}", []),
                ($"to={Day(-1)}", []),
                ($"from={Day(0)}&to={Day(0)}", [shells, boiled, sound]),
                ($"find={Uri.EscapeDataString("'&|!:*()<->\\ \"%_")}", []),
            }
        )
        {
            (await FoundAsync(client, query)).Order().ShouldBe(cases.Order(), query);
        }

        var by = (await client.GetAsync("/api/me").Json())["name"]!.ToString();
        (await FoundAsync(client, $"person={by}&find=crane")).ShouldBe([boiled]);
        (await FoundAsync(client, "person=nobody")).ShouldBeEmpty();

        // Misspelt words are put right, and it is said how.
        var near = await client.GetAsync("/api/search?find=flickres+knock").Json();
        near["hits"]!.AsArray().ShouldHaveSingleItem()!["id"]!.ToString().ShouldBe(shells[^36..]);
        near["instead"]!.AsArray().ShouldHaveSingleItem()!["taken"]!.AsArray().Select(t => t!.ToString()).ShouldContain("flickers");
        // A line that has the words is shown, and they are marked.
        var hit = (await client.GetAsync("/api/search?find=wiped").Json())["hits"]!.AsArray().ShouldHaveSingleItem()!;
        hit["lines"]!.AsArray().ShouldContain(l => l!.ToString().Contains('⟦') && l.ToString().Contains("R4U", StringComparison.Ordinal));
        hit["causes"]!.AsArray().ShouldHaveSingleItem();

        (await client.GetAsync($"/api/search?from={Day(1)}&to={Day(0)}").Problem()).FirstField().ShouldBe("from");
        await client.GetAsync($"/api/search?kind={Guid.CreateVersion7()}").Problem(HttpStatusCode.NotFound);

        static string Day(int days) => DateTime.UtcNow.AddDays(days).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }
}

/// <summary>Which decided cases were like one, in a shop of its own.</summary>
public sealed class NearTests(OwnShop own) : IClassFixture<OwnShop>
{
    [Fact]
    public async Task A_decided_case_that_showed_the_same_is_told_with_its_cause_and_whether_it_came_back()
    {
        using var client = await own.As(Roles.Mechanic);
        var serial = $"S{Guid.CreateVersion7():N}";
        var before = await SearchTests.CaseAsync(client, "The one before", serial);
        await SearchTests.SawAsync(client, before, "R2U", "overlay-wiped");
        await SearchTests.SawAsync(client, before, "M2U", "bearing-embedded", 2);
        var open = await SearchTests.CaseAsync(client, "Still open");
        await SearchTests.SawAsync(client, open, "R2U", "overlay-wiped");
        var other = await SearchTests.CaseAsync(client, "Nothing in common");
        await SearchTests.SawAsync(client, other, "P2", "skirt-scuff-thrust");
        await SearchTests.ConcludeAsync(client, other, "wrong-size-shell", "R2U");
        await SearchTests.ConcludeAsync(client, before, "wrong-size-shell", "R2U");

        var here = await SearchTests.CaseAsync(client, "Now on the bench");
        (await client.GetAsync($"{here}/near").Json()).AsArray().ShouldBeEmpty("nothing was looked at");
        await SearchTests.SawAsync(client, here, "R5U", "overlay-wiped");
        // What is found by is kept a moment after it is written; the casebook does it at once.
        await client.GetAsync("/api/cases").Json();
        var near = (await client.GetAsync($"{here}/near").Json())
            .AsArray()
            .Where(n => n!["title"]!.ToString() == "The one before")
            .ShouldHaveSingleItem()!;
        (await client.GetAsync($"{here}/near").Json()).AsArray().Select(n => n!["id"]!.ToString()).ShouldNotContain(open[^36..]);
        near["shared"]!.AsArray().ShouldHaveSingleItem();
        near["found"]!.AsArray().ShouldHaveSingleItem()!["reasons"]!.ToString().ShouldBe("measured against the book");
        near["cameBack"].ShouldBeNull();

        // It came back: first its engine is merely here again, then somebody says so.
        var again = await SearchTests.CaseAsync(client, "Back again", serial);
        (await NearAsync())["cameBack"]!["said"]!.GetValue<bool>().ShouldBeFalse();
        var version = (await client.GetAsync(again).Json())["version"]!.GetValue<int>();
        (await client.PutAsJsonAsync($"{again}/comeback", new { version, of = again[^36..] }).Problem()).FirstField().ShouldBe("of");
        await client.PutAsJsonAsync($"{again}/comeback", new { version, of = Guid.CreateVersion7() }).Problem(HttpStatusCode.NotFound);
        await client.PutAsJsonAsync($"{again}/comeback", new { version, of = before[^36..] }).Json();
        (await NearAsync())["cameBack"]!["title"]!.ToString().ShouldBe("Back again");
        (await NearAsync())["cameBack"]!["said"]!.GetValue<bool>().ShouldBeTrue();
        await client.PutAsJsonAsync($"{again}/comeback", new { version, of = (string?)null }).Problem(HttpStatusCode.Conflict);

        async Task<JsonNode> NearAsync() =>
            (await client.GetAsync($"{here}/near").Json()).AsArray().Single(n => n!["title"]!.ToString() == "The one before")!;
    }
}
