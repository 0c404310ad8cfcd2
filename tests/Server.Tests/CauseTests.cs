using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Mvc.Testing;
using VividSleuth.Core;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The shop's own causes, in a database of their own: they change what every case of a shop comes to.</summary>
public sealed class CauseTests(Shop shop) : IAsyncLifetime
{
    private readonly OwnShop _own = new(shop);

    private WebApplicationFactory<Program> One => _own.One;

    private WebApplicationFactory<Program> Other => _own.Other;

    public ValueTask InitializeAsync() => _own.InitializeAsync();

    public ValueTask DisposeAsync() => _own.DisposeAsync();

    private static JsonObject Cause(string id = "nest-in-the-vent", string often = "always") =>
        new()
        {
            ["id"] = id,
            ["name"] = "Nest in the vent",
            ["provenance"] = "this shop, two engines",
            ["shop"] = false,
            ["family"] = "head, cooling and others",
            ["anchor"] = "engine",
            ["seat"] = "valve-cover",
            ["applies"] = new JsonObject(),
            ["base"] = "often",
            ["chain"] = new JsonArray(
                new JsonObject
                {
                    ["says"] = "A nest fills the vent.",
                    ["predicts"] = new JsonArray(
                        new JsonObject
                        {
                            ["sign"] = "vent-blocked",
                            ["on"] = new JsonArray("valve-cover"),
                            ["at"] = "same",
                            ["often"] = often,
                        }
                    ),
                }
            ),
            ["risks"] = new JsonArray(),
            ["confusedWith"] = new JsonArray("crankcase-pressure"),
            ["prove"] = "Look into it.",
            ["prevent"] = "A mesh over its end.",
            ["caution"] = "",
        };

    private static JsonObject Entry(JsonObject cause, int version = 0, string why = "seen twice") =>
        new()
        {
            ["cause"] = cause,
            ["why"] = why,
            ["version"] = version,
        };

    private static Task<JsonNode> SeeAsync(HttpClient client, string at, string place, string sign, bool present = true) =>
        client
            .PostAsJsonAsync(
                $"{at}/findings",
                new
                {
                    id = Guid.CreateVersion7(),
                    place,
                    sign,
                    seen = present ? "present" : "absent",
                    level = present ? 2 : 0,
                    spot = "",
                    zones = Array.Empty<string>(),
                    marks = Array.Empty<Guid>(),
                    note = "",
                }
            )
            .Json();

    private static Task<JsonNode> ConcludeAsync(HttpClient client, string at, string cause, string place, string confidence = "proven") =>
        client
            .PostAsJsonAsync(
                $"{at}/conclusions",
                new
                {
                    id = Guid.CreateVersion7(),
                    cause,
                    place,
                    confidence,
                    fault = "earlierWork",
                    reasons = "seen",
                }
            )
            .Json();

    /// <summary>A folder of its own with all that ships.</summary>
    private static async Task<DirectoryInfo> ShippedFolderAsync()
    {
        var folder = Directory.CreateTempSubdirectory();
        foreach (var (name, text) in KnowledgeBase.ShippedFiles())
        {
            var path = Path.Combine(folder.FullName, name["knowledge/".Length..]);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            await File.WriteAllTextAsync(path, text);
        }

        return folder;
    }

    [Fact]
    public async Task A_cause_written_atOne_instance_is_reasoned_with_at_theOther_at_once_and_taken_back_again()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        using var other = await shop.As(Roles.Mechanic, Other);
        var at = await Shop.CaseAsync(client);
        await SeeAsync(client, at, "H1V", "vent-blocked");
        async Task<JsonNode?> Ranked() =>
            (await other.GetAsync($"{at}/answers").Json())["trace"]!["ranking"]!
                .AsArray()
                .FirstOrDefault(r => r!["cause"]!.ToString() == "nest-in-the-vent");
        (await Ranked()).ShouldBeNull();

        var id = Guid.CreateVersion7();
        var saved = await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause())).Json();
        saved["version"]!.GetValue<int>().ShouldBe(1);
        saved["by"]!.ToString().ShouldBe(Roles.Mechanic);
        (await Ranked())!["shop"]!.GetValue<bool>().ShouldBeTrue();
        (await other.GetAsync("/api/knowledge").Json())["causes"]!.AsArray().ShouldContain(s => s!["id"]!.ToString() == "nest-in-the-vent");

        // The same request once more, as after a lost answer, changes nothing.
        (await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause())).Json())["version"]!
            .GetValue<int>()
            .ShouldBe(1);
        await client.PostAsJsonAsync($"/api/causes/{id}/withdraw", new { why = "no", version = 1 }).Json();
        (await Ranked()).ShouldBeNull();
        var changes = (await client.GetAsync($"/api/causes/{id}/changes").Json()).AsArray();
        changes.Count.ShouldBe(2, "nothing is lost");
        changes[0]!["before"]!.ToString().ShouldContain("Nest in the vent");
    }

    [Fact]
    public async Task Of_two_who_change_a_causeOne_is_told_and_sees_both()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        using var other = await shop.As(Roles.Lead, Other);
        var id = Guid.CreateVersion7();
        await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause())).Json();
        await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause(often: "usually"), version: 1)).Json();
        var lost = await other.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause(often: "rarely"), version: 1)).Problem(HttpStatusCode.Conflict);
        lost.ToJsonString().ShouldContain("usually");
        lost.ToJsonString().ShouldContain("rarely");
        // Another record for the same cause would be a second truth.
        (await other.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(Cause())).Problem())
            .FirstField()
            .ShouldBe("id");
        (await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause("another-name"), version: 2)).Problem()).FirstField().ShouldBe("id");
    }

    [Fact]
    public async Task The_shops_version_of_a_cause_that_ships_takes_its_place_and_the_shippedOne_is_shown_beside_it()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        var shipped = (await client.GetAsync("/api/causes").Json())["causes"]!.AsArray().Single(s => s!["id"]!.ToString() == "chain-worn")!;
        var mine = shipped.DeepClone().AsObject();
        mine["base"] = "rarely";
        await client.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(mine)).Json();
        var view = await client.GetAsync("/api/causes").Json();
        var now = view["causes"]!.AsArray().Single(s => s!["id"]!.ToString() == "chain-worn")!;
        now["base"]!.ToString().ShouldBe("rarely");
        now["shop"]!.GetValue<bool>().ShouldBeTrue();
        view["replaced"]!.AsArray().Single()!["base"]!.ToString().ShouldBe(shipped["base"]!.ToString());
        var file = await (await client.GetAsync("/api/causes/own.yaml")).Content.ReadAsStringAsync();
        CauseFile.Read("own.yaml", file).Single().Id.ShouldBe("chain-worn");
    }

    [Fact]
    public async Task What_does_not_hold_is_refused_field_by_field_and_a_viewer_writes_nothing()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        var cause = Cause();
        cause["chain"]![0]!["predicts"]![0]!["sign"] = "gremlins";
        cause["prove"] = "";
        var problem = await client.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(cause, why: " ")).Problem();
        problem["problems"]!.AsArray().Select(p => p!["field"]!.ToString()).ShouldBe(["prove", "chain.0.predicts.0.sign", "why"], ignoreOrder: true);
        using var viewer = await shop.As(Roles.Viewer, One);
        await viewer.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(Cause())).Problem(HttpStatusCode.Forbidden);
        (await viewer.GetAsync("/api/causes").Json())["own"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Closed_cases_offer_another_word_and_change_nothing_by_themselves()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        for (var i = 0; i < 5; i++)
        {
            var at = await Shop.CaseAsync(client);
            await SeeAsync(client, at, "EN", "knock", present: false);
            await ConcludeAsync(client, at, "wrong-size-shell", "R4");
        }

        var learned = await client.GetAsync("/api/causes/learned").Json();
        learned["closed"]!.GetValue<int>().ShouldBe(5);
        var offer = learned["offers"]!.AsArray().Single(o => o!["sign"]!.ToString() == "knock")!;
        offer["of"]!.GetValue<int>().ShouldBe(5);
        offer["now"]!.ToString().ShouldBe("usually");
        (await client.GetAsync("/api/causes").Json())["own"]!.AsArray().ShouldBeEmpty();
    }

    /// <summary>Five engines of one kind that lost one bearing: offered, taken over by a person, told in the answer, kept when the shop's ways change, taken back.</summary>
    [Fact]
    public async Task A_habit_of_a_kind_of_engine_is_taken_over_and_back_by_a_person_only()
    {
        using var client = await shop.As(Roles.Lead, One);
        var at = "";
        for (var i = 0; i < 5; i++)
        {
            at = await Shop.CaseAsync(client);
            await ConcludeAsync(client, at, "oil-starvation", "R4");
        }

        async Task<JsonArray> Taken() => (await client.GetAsync("/api/causes/learned").Json())["taken"]!.AsArray();
        async Task<string> Assumed() => (await client.GetAsync($"{at}/answers?rooms=trace").Json())["trace"]!["assumed"]!.ToJsonString();
        var offer = (await client.GetAsync("/api/causes/learned").Json())["kinds"]!.AsArray().Single(k => k!["cylinder"]?.GetValue<int>() == 4)!;
        (await Taken()).ShouldBeEmpty();
        (await Assumed()).ShouldNotContain("Taken over by the shop");
        var asked = new JsonObject
        {
            ["kind"] = offer["kind"]!.DeepClone(),
            ["cause"] = "",
            ["cylinder"] = 4,
        };
        for (var twice = 0; twice < 2; twice++)
        {
            var view = await client.PostAsJsonAsync("/api/causes/learned/odds", asked).Json();
            view["taken"]!.AsArray().Single()!["times"]!.GetValue<double>().ShouldBe(offer["times"]!.GetValue<double>());
            view["kinds"]!.AsArray().ShouldNotContain(k => k!["cylinder"] != null);
        }

        (await Assumed()).ShouldContain("Taken over by the shop");
        var settings = (await client.GetAsync("/api/settings").Json()).AsObject();
        settings["schools"]!["odds"] = new JsonArray();
        await client.PutAsJsonAsync("/api/settings", settings).Json();
        (await Taken()).Count.ShouldBe(1);
        var strange = asked.DeepClone();
        strange["cylinder"] = 1;
        await client.PostAsJsonAsync("/api/causes/learned/odds", strange).Problem(HttpStatusCode.NotFound);
        using var viewer = await shop.As(Roles.Viewer, One);
        await viewer.PostAsJsonAsync("/api/causes/learned/odds/back", asked).Problem(HttpStatusCode.Forbidden);
        (await client.PostAsJsonAsync("/api/causes/learned/odds/back", asked).Json())["taken"]!.AsArray().ShouldBeEmpty();
        (await Assumed()).ShouldNotContain("Taken over by the shop");
    }

    [Fact]
    public async Task A_finding_keeps_whose_doing_it_was_and_what_the_computation_said_at_that_time()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        var at = await Shop.CaseAsync(client);
        await SeeAsync(client, at, "R4U", "stamp-differs");
        await SeeAsync(client, at, "R4L", "stamp-differs");
        await SeeAsync(client, at, "R4U", "overlay-wiped");
        await SeeAsync(client, at, "EN", "knock");
        var written = await ConcludeAsync(client, at, "low-oil", "", "possible");
        written["fault"]!.ToString().ShouldBe("earlierWork");
        written["computedCause"]!.ToString().ShouldBe("wrong-size-shell");
        written["computedPlace"]!.ToString().ShouldBe("R4");
        written["computed"]!.GetValue<double>().ShouldBeGreaterThan(0.5);
        // Later evidence changes the answer, not what was said then.
        await SeeAsync(client, at, "EN", "pressure-low", present: false);
        var kept = (await client.GetAsync(at).Json())["conclusions"]![0]!;
        kept["computed"]!.GetValue<double>().ShouldBe(written["computed"]!.GetValue<double>());
    }

    [Fact]
    public async Task Knowledge_that_does_not_lint_is_told_by_file_and_line_and_the_last_good_stays_in_use()
    {
        var folder = await ShippedFolderAsync();
        var file = Path.Combine(folder.FullName, "causes", "zz.yaml");
        string Yaml(string sign) =>
            $"- id: zz\n  name: Zz\n  family: test\n  seat: engine\n  base: rarely\n  chain:\n    - says: x\n      predicts:\n        - {{ sign: {sign}, on: [engine], often: often }}\n  provenance: test\n";
        await File.WriteAllTextAsync(file, Yaml("knock"));
        await using var instance = One.WithWebHostBuilder(b => b.UseSetting("knowledge", folder.FullName));
        using var client = await shop.As(Roles.Mechanic, instance);
        async Task<(bool Has, string[] Problems)> Now()
        {
            await Task.Delay(1100, TestContext.Current.CancellationToken);
            var view = await client.GetAsync("/api/causes").Json();
            return (
                view["causes"]!.AsArray().Any(s => s!["id"]!.ToString() == "zz"),
                [.. view["problems"]!.AsArray().Select(p => p!["field"]!.ToString())]
            );
        }

        (await Now()).ShouldSatisfyAllConditions(n => n.Has.ShouldBeTrue(), n => n.Problems.ShouldBeEmpty());
        await File.WriteAllTextAsync(file, Yaml("gremlins"));
        (await Now()).ShouldSatisfyAllConditions(n => n.Has.ShouldBeTrue(), n => n.Problems.ShouldBe(["knowledge/causes/zz.yaml:9"]));
        File.Delete(file);
        (await Now()).ShouldSatisfyAllConditions(n => n.Has.ShouldBeFalse(), n => n.Problems.ShouldBeEmpty());
        folder.Delete(recursive: true);
    }

    /// <summary>A folder that no longer knows a sign: the shop's cause that speaks of it waits, told by field, and the others count.</summary>
    [Fact]
    public async Task A_cause_of_the_shop_that_the_folder_no_longer_bears_out_waits_and_the_others_count()
    {
        var folder = await ShippedFolderAsync();
        var sign = Path.Combine(folder.FullName, "signs", "zz.yaml");
        await File.WriteAllTextAsync(
            sign,
            "- {id: wasps, name: Wasps, on: [valve-cover], levels: [a, b, c], looks: l, how: h, with: w, confusedWith: c, draw: rod, provenance: test}\n"
        );
        await using var instance = One.WithWebHostBuilder(b => b.UseSetting("knowledge", folder.FullName));
        using var client = await shop.As(Roles.Mechanic, instance);
        var cause = Cause("wasp-nest");
        cause["chain"]![0]!["predicts"]![0]!["sign"] = "wasps";
        await client.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(cause)).Json();
        await client.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(Cause())).Json();
        async Task<(string[] Causes, JsonArray Problems)> Now()
        {
            await Task.Delay(1100, TestContext.Current.CancellationToken);
            var view = await client.GetAsync("/api/causes").Json();
            return (
                [.. view["causes"]!.AsArray().Where(s => s!["shop"]!.GetValue<bool>()).Select(s => s!["id"]!.ToString())],
                view["problems"]!.AsArray()
            );
        }

        (await Now()).ShouldSatisfyAllConditions(
            n => n.Causes.ShouldBe(["nest-in-the-vent", "wasp-nest"], ignoreOrder: true),
            n => n.Problems.Count.ShouldBe(0)
        );
        File.Delete(sign);
        var without = await Now();
        without.Causes.ShouldBe(["nest-in-the-vent"]);
        without.Problems.ShouldHaveSingleItem()!["field"]!.ToString().ShouldBe("wasp-nest.chain.0.predicts.0.sign");
        without.Problems[0]!["text"]!.ToString().ShouldContain("is not used");
        // Nothing is lost: it is in the shop's list, and counts again when the sign is back.
        (await client.GetAsync("/api/causes").Json())["own"]!
            .AsArray()
            .Count.ShouldBe(2);
        folder.Delete(recursive: true);
        // A folder that is gone is told too, and the last good one stays in use.
        var gone = await Now();
        gone.Problems.ShouldNotBeEmpty();
        gone.Causes.ShouldBe(["nest-in-the-vent"]);
    }

    [Fact]
    public async Task A_case_concluded_with_a_cause_that_was_taken_back_still_opens_and_goes_out()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        var at = await Shop.CaseAsync(client);
        var id = Guid.CreateVersion7();
        await client.PutAsJsonAsync($"/api/causes/{id}", Entry(Cause())).Json();
        await ConcludeAsync(client, at, "nest-in-the-vent", "");
        await client.PostAsJsonAsync($"/api/causes/{id}/withdraw", new { why = "no", version = 1 }).Json();
        (await client.GetAsync($"{at}/answers").Json())["trace"]!["nextChecks"]!.AsArray().ShouldNotBeEmpty();
        (await client.GetAsync($"{at}/dossier").Json())["case"]!["conclusions"]![0]!["cause"]!.ToString().ShouldBe("nest-in-the-vent");
        (await client.GetAsync($"{at}/export").Json())["case"]!["conclusions"]!.AsArray().Count.ShouldBe(1);
        // It says nothing of a cause that is not there.
        (await client.GetAsync("/api/causes/learned").Json())["offers"]!
            .AsArray()
            .ShouldBeEmpty();
        // And it may be written anew under the same id.
        await client.PutAsJsonAsync($"/api/causes/{Guid.CreateVersion7()}", Entry(Cause())).Json();
    }

    /// <summary>A finding of a screen from before it was asked whose doing it was.</summary>
    [Fact]
    public async Task A_finding_without_whose_doing_is_taken_as_not_known()
    {
        using var client = await shop.As(Roles.Mechanic, One);
        var at = await Shop.CaseAsync(client);
        var written = await client
            .PostAsJsonAsync(
                $"{at}/conclusions",
                new
                {
                    id = Guid.CreateVersion7(),
                    cause = "",
                    place = "",
                    confidence = "undetermined",
                    reasons = "too little left",
                }
            )
            .Json();
        written["fault"]!.ToString().ShouldBe("notKnown");
        written["computedCause"]!.ToString().ShouldBeEmpty("nothing was looked at, so there was nothing to compute");
    }
}
