using System.Net;
using System.Net.Http.Json;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The casebook is worked out beside the requests, once for all languages.</summary>
public sealed class CasebookLanguageTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static async Task<string> NextAsync(HttpClient client, string at, string language)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/cases");
        request.Headers.Add(
            "Cookie",
            string.Join("; ", [.. client.DefaultRequestHeaders.GetValues("Cookie"), $"{Speech.LanguageCookie}={language}"])
        );
        var page = await client.SendAsync(request).Json();
        return page["cases"]!.AsArray().Single(c => c!["id"]!.ToString() == at[^36..])!["next"]!.ToString();
    }

    private static async Task<string[]> LinesAsync(HttpClient client, string find) =>
        [
            .. (await client.GetAsync($"/api/search?find={Uri.EscapeDataString(find)}").Json())["hits"]!
                .AsArray()
                .SelectMany(h => h!["lines"]!.AsArray())
                .Select(l => l!.ToString().Replace("⟦", "", StringComparison.Ordinal).Replace("⟧", "", StringComparison.Ordinal)),
        ];

    [Fact]
    public async Task A_German_shop_finds_by_German_words_and_by_English_ones_and_each_reads_what_comes_next_in_his_language()
    {
        using var client = await own.As(Roles.Lead);
        var at = await SearchTests.CaseAsync(client, "Fährmotor", complaint: "Ölpumpe pfeift");
        await SearchTests.SawAsync(client, at, "P2", "skirt-scuff-thrust");
        (await LinesAsync(client, "scuffed")).ShouldContain(l => l.StartsWith("Skirt scuffed", StringComparison.Ordinal));
        (await LinesAsync(client, "gefressen")).ShouldBeEmpty();
        // Letters with dots are found small and great, though the database knows none.
        (await LinesAsync(client, "ölpumpe")).ShouldContain("Ölpumpe pfeift");
        (await LinesAsync(client, "Ölpumpe")).ShouldContain("Ölpumpe pfeift");

        var (english, german) = (await NextAsync(client, at, "en"), await NextAsync(client, at, "de"));
        german.ShouldNotBe(english);
        german.ShouldNotBeEmpty();
        (await NextAsync(client, at, "en")).ShouldBe(english);

        var settings = (await client.GetAsync("/api/settings").Json()).AsObject();
        settings["language"] = "german";
        (await client.PutAsJsonAsync("/api/settings", settings)).StatusCode.ShouldBe(HttpStatusCode.OK);
        for (var waited = 0; waited < 600 && (await LinesAsync(client, "gefressen")).Length == 0; waited++)
        {
            await Task.Delay(100, TestContext.Current.CancellationToken);
        }

        (await LinesAsync(client, "gefressen")).ShouldContain(l => l.StartsWith("Hemd auf der Druckseite gefressen", StringComparison.Ordinal));
        // Who knows it by its English name still finds it.
        (await LinesAsync(client, "scuffed")).ShouldContain(l => l.StartsWith("Hemd auf der Druckseite gefressen", StringComparison.Ordinal));
        // And who writes it wrong.
        (await LinesAsync(client, "gefresen")).ShouldContain(l => l.StartsWith("Hemd auf der Druckseite gefressen", StringComparison.Ordinal));
    }
}
