using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Shouldly;
using VividSleuth.Store.Shop;
using Xunit;

namespace VividSleuth.Server.Tests;

/// <summary>The casebook is found by words in whatever form the trade has them, and says what each case waits for.</summary>
public sealed class CasebookTests(Shop shop)
{
    private static async Task<JsonNode> Found(HttpClient client, string find, string waits = "") =>
        await client.GetAsync($"/api/cases?find={Uri.EscapeDataString(find)}{(waits.Length > 0 ? $"&waits={waits}" : "")}").Json();

    private static string[] Ids(JsonNode page) => [.. page["cases"]!.AsArray().Select(c => c!["id"]!.ToString())];

    /// <returns>A client, the address of a case, and a word that no other case has.</returns>
    private async Task<(HttpClient Client, string At, string Word)> TitledAsync(string title, string complaint = "")
    {
        var (client, at) = await shop.NewCase();
        var word = $"w{Guid.CreateVersion7():N}";
        await client
            .PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = 1,
                    title,
                    owner = word,
                    engineName = "Six",
                    serial = "",
                    hours = (decimal?)null,
                    complaint,
                    past = "",
                    risks = new { },
                }
            )
            .Json();
        return (client, at, word);
    }

    [Theory]
    [InlineData("knocked")]
    [InlineData("piston knock")]
    [InlineData("number four pot")]
    [InlineData("KNOCK")]
    public async Task A_case_is_found_by_the_stem_of_a_word_and_by_another_that_means_the_same(string find)
    {
        var (client, at, word) = await TitledAsync("Rig pump", "piston knocks at number four cylinder");
        var page = await Found(client, $"{word} {find}");
        Ids(page).ShouldBe([at[^36..]]);
        page["near"]!.GetValue<bool>().ShouldBeFalse();
        Ids(await Found(client, $"{word} whistle")).ShouldBeEmpty();
    }

    [Fact]
    public async Task Words_that_are_misspelt_find_what_is_like_them_and_it_is_said_so()
    {
        // Letters only, so that it may be misspelt, and of this test alone.
        var name = string.Concat(Guid.CreateVersion7().ToString("N").Select(c => (char)('a' + (c % 26))));
        var (client, at, _) = await TitledAsync($"{name} gudgeon engine");
        var (left, right) = (name[15], name[16]);
        var page = await Found(client, $"{name[..15]}{right}{left}{name[17..]} gudgoen");
        Ids(page).ShouldBe([at[^36..]]);
        page["near"]!.GetValue<bool>().ShouldBeTrue();
    }

    [Fact]
    public async Task A_case_is_found_by_what_was_found_on_it_until_that_is_taken_back()
    {
        var (client, at, _) = await TitledAsync("Nothing of it in the title");
        var id = Guid.CreateVersion7();
        Ids(await Found(client, "backing seen through")).ShouldNotContain(at[^36..]);
        var knowledge = await client.GetAsync("/api/knowledge").Json();
        var sign = knowledge["signs"]!.AsArray().First(s => s!["id"]!.ToString() == "overlay-wiped")!;
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3, id)).Json();
        foreach (var name in sign["also"]!.AsArray().Select(a => a!.ToString()).Append(sign["name"]!.ToString()))
        {
            Ids(await Found(client, name)).ShouldContain(at[^36..], name);
        }

        await client.PostAsJsonAsync($"{at}/findings/{id}/withdraw", new { why = "another rod", version = 1 }).Json();
        Ids(await Found(client, sign["name"]!.ToString())).ShouldNotContain(at[^36..]);
    }

    [Fact]
    public async Task What_is_away_and_late_is_told_counted_and_picked_out_until_it_is_back()
    {
        var (client, at, word) = await TitledAsync("Shaft away");
        var id = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/parts", CaseTests.Tag(id, "CR")).Json();
        var away = new
        {
            id,
            version = 1,
            place = "CR",
            mark = "4",
            method = "engraver",
            sameOnAll = false,
            facing = "left",
            gradeStamped = "",
            custody = "machineShop",
            where = "Linden Grinding",
            sent = "2020-01-02",
            dueBack = "2020-01-09",
            sideUp = "",
            weight = (decimal?)null,
            remarks = "",
        };
        await client.PutAsJsonAsync($"{at}/parts/{id}", away).Json();
        var page = await Found(client, word);
        var line = page["cases"]!.AsArray().Single()!;
        line["away"]!.GetValue<int>().ShouldBe(1);
        line["with"]!.AsArray().Select(w => w!.ToString()).ShouldBe(["Linden Grinding"]);
        line["due"]!.ToString().ShouldBe("2020-01-09");
        page["waiting"]!["overdue"]!.GetValue<int>().ShouldBe(1);
        page["waiting"]!["open"]!.GetValue<int>().ShouldBe(1);
        page["waiting"]!["coming"]!.GetValue<int>().ShouldBe(0);
        foreach (var waits in new[] { "away", "overdue", "open" })
        {
            Ids(await Found(client, word, waits)).ShouldBe([at[^36..]], waits);
        }

        (await client.GetAsync("/api/cases?waits=rain").Problem()).FirstField().ShouldBe("waits");
        foreach (var waits in new[] { "sign", "coming", "decided" })
        {
            Ids(await Found(client, word, waits)).ShouldBeEmpty(waits);
        }

        await client.PutAsJsonAsync($"{at}/parts/{id}", away with { version = 2, custody = "bench", where = "on the bench" }).Json();
        var back = await Found(client, word);
        back["cases"]!.AsArray().Single()!["away"]!.GetValue<int>().ShouldBe(0);
        back["waiting"]!["overdue"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_promise_that_will_likely_not_be_kept_is_told_in_the_casebook_until_it_is_taken_back()
    {
        var (client, at, word) = await TitledAsync("Promised too soon");
        (await Found(client, word))["cases"]!.AsArray().Single()!["promised"].ShouldBeNull();
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        var id = Guid.CreateVersion7();
        await client
            .PostAsJsonAsync(
                $"{at}/build-promises",
                new
                {
                    id,
                    day = today.AddDays(1),
                    to = "the harbour",
                    note = "",
                }
            )
            .Json();
        var page = await Found(client, word, "behind");
        var line = page["cases"]!.AsArray().Single()!;
        line["promised"]!.ToString().ShouldBe($"{today.AddDays(1):yyyy-MM-dd}");
        // Nobody strips and builds an engine by tomorrow.
        string.CompareOrdinal(line["likely"]!.ToString(), line["promised"]!.ToString()).ShouldBePositive();
        page["waiting"]!["behind"]!.GetValue<int>().ShouldBe(1);
        await client.PostAsJsonAsync($"{at}/build-promises/{id}/withdraw", new { why = "never said", version = 1 }).Json();
        Ids(await Found(client, word, "behind")).ShouldBeEmpty();
        (await Found(client, word))["cases"]!.AsArray().Single()!["promised"].ShouldBeNull();
    }
}
