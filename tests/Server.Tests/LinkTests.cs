using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>A dossier read by whoever was given its link: that one, until its end, and nothing else of the shop.</summary>
public sealed class LinkTests(Shop shop, OwnShop own) : IClassFixture<OwnShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static DateOnly Today => DateOnly.FromDateTime(DateTime.UtcNow);

    private static Task<HttpResponseMessage> Open(
        HttpClient client,
        string at,
        string kind = "customer",
        bool mayAnswer = true,
        DateOnly? until = null
    ) =>
        client.PostAsJsonAsync(
            $"{at}/links",
            new
            {
                id = Guid.CreateVersion7(),
                kind,
                @for = "Marrowfield",
                until = until ?? Today.AddDays(14),
                leaveOutNames = true,
                mayAnswer,
            },
            Cancel
        );

    private static async Task<JsonNode> Option(HttpClient client, string at, string title, decimal price) =>
        await client
            .PostAsJsonAsync(
                $"{at}/options",
                new
                {
                    id = Guid.CreateVersion7(),
                    version = 0,
                    title,
                    scope = "",
                    lines = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            group = "",
                            course = "",
                            kind = "part",
                            what = "Shells",
                            quantity = 1m,
                            price,
                            currency = "EUR",
                            days = 3m,
                        },
                    },
                    @base = "EUR",
                    rates = new Dictionary<string, decimal>(),
                    risks = Array.Empty<string>(),
                    removes = Array.Empty<string>(),
                    failing = Array.Empty<object>(),
                    farOut = 0,
                    warranty = "nobody",
                    warrantyMonths = 0,
                    ownChance = 0.1m,
                    remarks = "",
                },
                Cancel
            )
            .Json();

    private static Task<HttpResponseMessage> Say(
        HttpClient client,
        string api,
        JsonNode option,
        bool approves,
        decimal cost,
        string name = "M. Field",
        string words = "",
        Guid? id = null
    ) =>
        client.PostAsJsonAsync(
            $"{api}/answers",
            new
            {
                id = id ?? Guid.CreateVersion7(),
                option = option["id"]!.ToString(),
                approves,
                cost,
                currency = "EUR",
                name,
                words,
            },
            Cancel
        );

    private static string Api(JsonNode link) => $"/api{link["path"]}";

    [Fact]
    public async Task One_dossier_is_read_without_signing_in_until_it_is_shut_and_each_reading_is_noted()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3), Cancel).Json();
        var link = await Open(client, at, mayAnswer: false).Json();
        using var stranger = shop.Other.CreateClient();
        (await stranger.GetAsync(Api(link), Cancel).Json())["for"]!.ToString().ShouldBe("Marrowfield");
        var page = await stranger.GetStringAsync($"{Api(link)}/page", Cancel);
        page.ShouldContain("What we found");
        page.ShouldContain("Names are left out");
        page.ShouldNotContain("mechanic<");
        (await stranger.GetByteArrayAsync($"{Api(link)}/pdf?size=letter", Cancel))[..4].ShouldBe("%PDF"u8.ToArray());
        await stranger.GetAsync($"{Api(link)}/pdf?size=a9", Cancel).Problem();
        foreach (var elsewhere in new[] { at, "/api/cases", $"{at}/dossier", $"{at}/links", $"{at}/seals" })
        {
            (await stranger.GetAsync(elsewhere, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, elsewhere);
        }

        var told = (await client.GetAsync($"{at}/links", Cancel).Json()).AsArray().ShouldHaveSingleItem()!;
        told["views"]!.GetValue<int>().ShouldBe(2);
        told["latest"]!.AsArray().Select(v => v!["what"]!.ToString()).ShouldBe(["pdf", "page"]);
        await client
            .PostAsJsonAsync($"{at}/links/{link["id"]}/withdraw", new { why = "", version = link["version"]!.GetValue<int>() }, Cancel)
            .Json();
        foreach (var what in new[] { "", "/page", "/pdf" })
        {
            await stranger.GetAsync(Api(link) + what, Cancel).Problem(HttpStatusCode.NotFound);
        }

        // Whoever guesses at a key, or bends one, reads nothing.
        await stranger.GetAsync($"{Api(link)[..^2]}AA", Cancel).Problem(HttpStatusCode.NotFound);
        await stranger.GetAsync("/api/shared/x", Cancel).Problem(HttpStatusCode.NotFound);
        (await Open(await shop.As(Roles.Viewer), at)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_link_ends_with_its_last_day_and_begins_with_one_that_can_be()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(client);
        var link = await Open(client, at, until: Today).Json();
        using (var today = own.One.CreateClient())
        {
            await today.GetAsync(Api(link), Cancel).Json();
        }

        await using var later = own.Ahead(DateTime.UtcNow.AddDays(1.01) - new DateTime(2026, 11, 24, 8, 0, 0, DateTimeKind.Utc));
        using var tomorrow = later.CreateClient();
        await tomorrow.GetAsync(Api(link), Cancel).Problem(HttpStatusCode.NotFound);
        (await Open(client, at, until: Today.AddDays(-1)).Problem()).FirstField().ShouldBe("until");
        (await Open(client, at, until: Today.AddYears(9)).Problem()).FirstField().ShouldBe("until");
        (await Open(client, at, kind: "gossip").Problem()).FirstField().ShouldBe("kind");
    }

    [Fact]
    public async Task The_customer_approves_or_refuses_what_he_was_shown_and_it_stands_in_the_case_as_his()
    {
        var (client, at) = await shop.NewCase();
        var (cheap, sound) = (await Option(client, at, "Two bearings and a doubt", 220), await Option(client, at, "Rebuilt shaft", 1900));
        var link = await Open(client, at).Json();
        using var stranger = shop.One.CreateClient();
        var shown = (await stranger.GetAsync(Api(link), Cancel).Json())["options"]!.AsArray();
        shown.Select(o => o!["title"]!.ToString()).ShouldBe(["Two bearings and a doubt", "Rebuilt shaft"]);
        shown[1]!["cost"]!.GetValue<decimal>().ShouldBe(1900);

        (await Say(stranger, Api(link), sound, approves: true, 1800).Problem()).FirstField().ShouldBe("cost");
        (await Say(stranger, Api(link), sound, approves: true, 1900, name: " ").Problem()).FirstField().ShouldBe("name");
        (await Say(stranger, Api(link), cheap, approves: false, 220).Problem()).FirstField().ShouldBe("words");
        var id = Guid.CreateVersion7();
        var both = await Task.WhenAll(
            Say(stranger, Api(link), sound, approves: true, 1900, words: "By Friday", id: id).Json(),
            Say(stranger, Api(link), sound, approves: true, 1900, words: "By Friday", id: id).Json()
        );
        both[0].ToJsonString().ShouldBe(both[1].ToJsonString());
        await Say(stranger, Api(link), cheap, approves: false, 220, words: "Not with a doubt").Json();
        var answers = (await client.GetAsync(at, Cancel).Json())["optionAnswers"]!.AsArray();
        answers.Count.ShouldBe(2);
        answers.ShouldAllOfSomeBe(a => a!["by"]!.ToString() == "link/Marrowfield" && a["link"]!.ToString() == link["id"]!.ToString());
        var table = (await client.GetAsync($"{at}/answers?rooms=options", Cancel).Json())["options"]![0]!;
        table["answers"]!
            .AsArray()
            .Select(a => $"{a!["title"]} {a["approves"]}")
            .ShouldBe(["Rebuilt shaft true", "Two bearings and a doubt false"], ignoreOrder: true);
        (await stranger.GetAsync(Api(link), Cancel).Json())["options"]![1]!["answer"]!["name"]!.ToString().ShouldBe("M. Field");
        (await client.GetStringAsync($"{at}/dossier/page?kind=examiner", Cancel)).ShouldContain("By Friday");

        var reads = await Open(client, at, mayAnswer: false).Json();
        (await stranger.GetAsync(Api(reads), Cancel).Json())["options"]!.AsArray().ShouldBeEmpty();
        await Say(stranger, Api(reads), sound, approves: true, 1900).Problem();
    }
}
