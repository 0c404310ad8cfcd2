using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Tests;

/// <summary>A database filled with invented cases is a shop like any other.</summary>
public sealed class SeedTests(OwnShop shop) : IClassFixture<OwnShop>
{
    private static readonly SeedPlan Few = new(Cases: 5, Readings: 40, Findings: 12, Photos: 2, Drawn: 2);

    private async Task<SeedDone> SeedAsync(SeedPlan plan)
    {
        await using var db = SleuthDbFactory.Create(shop.Connection);
        return await new SeedShop(db, KnowledgeBase.BuiltIn, Sentences.English.Say, _ => { }).SeedAsync(plan, CancellationToken.None);
    }

    [Fact]
    public async Task What_was_seeded_is_opened_found_and_written_to_like_any_case_and_seeding_goes_on_where_it_ended()
    {
        (await SeedAsync(Few)).Cases.ShouldBe(5);
        (await SeedAsync(Few)).Cases.ShouldBe(0);
        var more = await SeedAsync(Few with { Cases = 7 });
        (more.Cases, more.Photos).ShouldBe((2, 14));
        var client = await shop.As(Roles.Mechanic);
        var page = await client.GetAsync("/api/cases").Json();
        page["total"]!.GetValue<int>().ShouldBe(7);
        page["cases"]!.AsArray().Select(c => c!["title"]!.ToString()).Distinct().Count().ShouldBe(7);
        var found = await client.GetAsync("/api/search?find=SD-00005").Json();
        var id = found["hits"]!.AsArray().ShouldHaveSingleItem()!["id"]!.ToString();
        var opened = await client.GetAsync($"/api/cases/{id}").Json();
        opened["title"]!.ToString().ShouldBe("Seeded 00005");
        opened["readings"]!.AsArray().Count.ShouldBeInRange(1, 40);
        opened["findings"]!.AsArray().Count.ShouldBeInRange(1, 12);
        opened["photos"]!.AsArray().ShouldAllBe(p => p!["caseId"]!.ToString() == id);
        var reading = opened["readings"]![0]!;
        await client
            .PostAsJsonAsync(
                $"/api/cases/{id}/readings",
                new
                {
                    id = Guid.CreateVersion7(),
                    place = reading["place"]!.ToString(),
                    characteristic = reading["characteristic"]!.ToString(),
                    typed = reading["typed"]!.ToString(),
                    setUnit = reading["unit"]!.ToString(),
                    instrument = "",
                    temperature = (decimal?)null,
                    corrects = (Guid?)null,
                    confirmed = true,
                }
            )
            .Json();
        foreach (var room in new[] { "near", "kind", "background", "before" })
        {
            await client.GetAsync($"/api/cases/{id}/{room}").Json();
        }

        // Where people work nothing is seeded.
        await Tests.Shop.CaseAsync(client);
        (await Should.ThrowAsync<ProblemException>(() => SeedAsync(Few with { Cases = 9 })))
            .Problems[0]
            .Text.Code.ShouldBe("command.seed-is-not-for-work");
    }
}
