using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>What stands under a name was written by that person, at that time, and cannot be made to look otherwise.</summary>
public sealed class ForgeryTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static object Back(int version = 1) => new { why = "not so", version };

    private async Task<(HttpClient Mechanic, HttpClient Lead, string Case)> CaseAsync()
    {
        var mechanic = await own.As(Roles.Mechanic);
        return (mechanic, await own.As(Roles.Lead), await Shop.CaseAsync(mechanic));
    }

    [Fact]
    public async Task A_signature_is_taken_back_only_by_who_may_give_it_and_both_names_stay()
    {
        var (mechanic, lead, at) = await CaseAsync();
        await StripTests.UptoHeadAsync(lead, at);
        var step = await lead.PostAsJsonAsync($"{at}/steps", StripTests.Step("head", "fastenersOut head", "empty")).Json();
        var sign = await lead.PostAsJsonAsync(
                $"{at}/sign-offs",
                new
                {
                    id = Guid.CreateVersion7(),
                    step = "head",
                    note = "",
                }
            )
            .Json();
        (await mechanic.PostAsJsonAsync($"{at}/sign-offs/{sign["id"]}/withdraw", Back()).Problem()).FirstField().ShouldBe("role");
        // Nor does the step under it go while it is signed.
        (await mechanic.PostAsJsonAsync($"{at}/steps/{step["id"]}/withdraw", Back()).Problem())
            .FirstField()
            .ShouldBe("step");
        (await lead.PostAsJsonAsync($"{at}/steps/{step["id"]}/withdraw", Back()).Problem()).FirstField().ShouldBe("step");
        var gone = await lead.PostAsJsonAsync($"{at}/sign-offs/{sign["id"]}/withdraw", Back()).Json();
        (gone["by"]!.ToString(), gone["withdrawnBy"]!.ToString()).ShouldBe((Roles.Lead, Roles.Lead));
        gone["at"]!.ToString().ShouldBe(sign["at"]!.ToString());
        await mechanic.PostAsJsonAsync($"{at}/steps/{step["id"]}/withdraw", Back()).Json();
    }

    [Fact]
    public async Task A_mechanic_does_not_do_away_with_a_hold_point_or_with_evidence_by_a_step_of_his_own()
    {
        var (mechanic, lead, at) = await CaseAsync();
        var head = (await mechanic.GetAsync($"{at}/answers?rooms=strip").Json())["strip"]!["steps"]!
            .AsArray()
            .Single(s => s!["id"]!.ToString() == "head")!["source"]!;
        JsonObject Own(Action<JsonNode> change)
        {
            var step = head.DeepClone();
            change(step);
            return new JsonObject
            {
                ["id"] = Guid.CreateVersion7().ToString(),
                ["step"] = step,
                ["reason"] = "it is in the way",
            };
        }

        (await mechanic.PostAsJsonAsync($"{at}/own-steps", Own(s => s["holdPoint"] = false)).Problem()).FirstField().ShouldBe("holdPoint");
        (await mechanic.PostAsJsonAsync($"{at}/own-steps", Own(s => s["after"] = new JsonObject())).Problem()).FirstField().ShouldBe("after");
        await lead.PostAsJsonAsync($"{at}/own-steps", Own(s => s["readFirst"] = new JsonArray("valve-cover"))).Json();
        (await mechanic.PostAsJsonAsync($"{at}/own-steps", Own(s => s["minutes"] = 80)).Problem()).FirstField().ShouldBe("readFirst");
        await lead.PostAsJsonAsync($"{at}/own-steps", Own(s => s["minutes"] = 80)).Json();
        await mechanic.PostAsJsonAsync($"{at}/own-steps", Own(s => s["minutes"] = 90)).Json();
        var guarded = Own(s => s["id"] = "check-twice");
        await lead.PostAsJsonAsync($"{at}/own-steps", guarded).Json();
        (await mechanic.PostAsJsonAsync($"{at}/own-steps/{guarded["id"]}/withdraw", Back()).Problem()).FirstField().ShouldBe("holdPoint");
        await lead.PostAsJsonAsync($"{at}/own-steps/{guarded["id"]}/withdraw", Back()).Json();
    }

    [Fact]
    public async Task A_time_of_entry_is_believed_within_bounds()
    {
        var (mechanic, _, at) = await CaseAsync();
        async Task<DateTimeOffset> SentAs(DateTimeOffset entered)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{at}/findings")
            {
                Content = JsonContent.Create(CaseTests.Saw("P1", "skirt-scuff-thrust", 1)),
            };
            request.Headers.Add(Recorder.EnteredHeader, entered.ToString("O"));
            return (await mechanic.SendAsync(request).Json())["at"]!.GetValue<DateTimeOffset>();
        }

        var now = DateTimeOffset.UtcNow;
        (await SentAs(now.AddDays(-20))).ShouldBe(now.AddDays(-20), TimeSpan.FromMilliseconds(1));
        (await SentAs(now.AddDays(-90))).ShouldBe(now, TimeSpan.FromMinutes(2));
        (await SentAs(now.AddDays(3))).ShouldBe(now, TimeSpan.FromMinutes(2));
        (await SentAs(DateTimeOffset.MinValue.AddYears(2))).ShouldBe(now, TimeSpan.FromMinutes(2));
    }

    [Fact]
    public async Task What_came_with_a_file_is_marked_as_the_others_and_what_is_written_here_is_not()
    {
        var (mechanic, lead, _) = await CaseAsync();
        var text = await File.ReadAllTextAsync(Path.Combine(ApiContractTests.Root(), "demo/cases/biogas-six.case.json"));
        // Somebody writes a signature of ours into a file.
        var file = JsonNode.Parse(text)!;
        file["case"]!["title"] = $"From elsewhere {Guid.NewGuid()}";
        foreach (var finding in file["case"]!["findings"]!.AsArray())
        {
            (finding!["by"], finding["imported"]) = (Roles.Lead, false);
        }

        var made = await mechanic.PostAsync("/api/cases/import", new StringContent(file.ToJsonString(), Encoding.UTF8, "application/json")).Json();
        var at = $"/api/cases/{made["id"]}";
        var read = await mechanic.GetAsync(at).Json();
        read["imported"]!.GetValue<bool>().ShouldBeTrue();
        foreach (var list in read.AsObject().Where(p => p.Value is JsonArray && p.Key != "firingOrder"))
        {
            foreach (var record in list.Value!.AsArray())
            {
                record!["imported"]!.GetValue<bool>().ShouldBeTrue(list.Key);
            }
        }

        var here = await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Json();
        here["imported"]!.GetValue<bool>().ShouldBeFalse();
        var changes = (await lead.GetAsync($"/api/changes?case={made["id"]}").Json())["changes"]!.AsArray();
        changes.Single(c => c!["kind"]!.ToString() == "import")!["by"]!.ToString().ShouldBe(Roles.Mechanic);
        // It goes out as what it is, and what was written here is the other's at the next shop.
        var again = JsonNode.Parse(await mechanic.GetStringAsync($"{at}/export"))!;
        again["case"]!["findings"]!.AsArray().Single(f => f!["id"]!.ToString() == here["id"]!.ToString())!["imported"]!
            .GetValue<bool>()
            .ShouldBeFalse();
        again["case"]!["findings"]!.AsArray().Count(f => f!["imported"]!.GetValue<bool>()).ShouldBeGreaterThan(3);
    }

    [Fact]
    public async Task Each_change_of_the_shop_is_kept_with_who_when_and_before()
    {
        var (mechanic, lead, at) = await CaseAsync();
        async Task<JsonArray> Changes(string query) => (await lead.GetAsync($"/api/changes?{query}").Json())["changes"]!.AsArray();
        var settings = await lead.GetAsync("/api/settings").Json();
        settings["lengths"] = "inch";
        await lead.PutAsJsonAsync("/api/settings", settings).Json();
        settings["version"] = settings["version"]!.GetValue<int>() + 1;
        settings["lengths"] = "mm";
        await lead.PutAsJsonAsync("/api/settings", settings).Json();
        var kept = await Changes("kind=settings");
        JsonNode.Parse(kept[0]!["before"]!.ToString())!["lengths"]!.ToString().ShouldBe("inch");
        kept[0]!["by"]!.ToString().ShouldBe(Roles.Lead);

        var part = new
        {
            id = Guid.CreateVersion7(),
            version = 0,
            kind = "crankshaft",
            fits = "",
            grade = "",
            count = 1,
            where = "rack",
            remarks = "",
        };
        await mechanic.PutAsJsonAsync($"/api/stock/{part.id}", part).Json();
        await mechanic.PutAsJsonAsync($"/api/stock/{part.id}", part with { version = 1, where = "shelf" }).Json();
        await lead.PostAsJsonAsync($"/api/stock/{part.id}/withdraw", Back(2)).Json();
        var stock = await Changes($"record={part.id}");
        stock.Select(c => c!["by"]!.ToString()).ShouldBe([Roles.Lead, Roles.Mechanic, Roles.Mechanic]);
        JsonNode.Parse(stock[1]!["before"]!.ToString())!["where"]!.ToString().ShouldBe("rack");
        stock[2]!["before"].ShouldBeNull();

        // Whole, a page at a time, and by person, kind and time.
        for (var i = 0; i < 7; i++)
        {
            await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", i % 4)).Json();
        }

        var all = new List<string>();
        string? next = "";
        while (next is not null)
        {
            var page = await lead.GetAsync($"/api/changes?case={at.Split('/')[^1]}&take=3&after={next}").Json();
            all.AddRange(page["changes"]!.AsArray().Select(c => c!["id"]!.ToString()));
            next = page["next"]?.ToString();
        }

        all.Count.ShouldBe(8);
        all.Distinct().Count().ShouldBe(8);
        (await Changes($"case={at.Split('/')[^1]}&kind=finding&by={Roles.Mechanic}")).Count.ShouldBe(7);
        (await Changes($"case={at.Split('/')[^1]}&by={Roles.Lead}")).ShouldBeEmpty();
        (await Changes($"case={at.Split('/')[^1]}&to=2026-01-01T00:00:00Z")).ShouldBeEmpty();
        (await mechanic.GetAsync("/api/changes?kind=person").Json())["changes"]!.AsArray().ShouldBeEmpty();
        (await mechanic.GetAsync("/api/changes?after=nonsense").Problem()).FirstField().ShouldBe("after");
    }

    [Theory]
    [InlineData("""update changes set "By" = 'nobody'""")]
    [InlineData("delete from changes")]
    [InlineData("truncate changes")]
    public async Task A_line_of_the_record_of_changes_is_never_changed_or_taken_away(string sql)
    {
        await CaseAsync();
        using var scope = own.One.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var before = await db.Changes.CountAsync(TestContext.Current.CancellationToken);
        before.ShouldBeGreaterThan(0);
        (
            await Should.ThrowAsync<PostgresException>(() => db.Database.ExecuteSqlRawAsync(sql, TestContext.Current.CancellationToken))
        ).SqlState.ShouldBe("42501");
        (await db.Changes.CountAsync(TestContext.Current.CancellationToken)).ShouldBe(before);
    }

    [Fact]
    public async Task A_case_is_withdrawn_and_taken_up_again_by_a_lead_and_meanwhile_only_read()
    {
        var (mechanic, lead, at) = await CaseAsync();
        var id = at.Split('/')[^1];
        await mechanic.PostAsJsonAsync($"{at}/withdraw", Back()).Problem(HttpStatusCode.Forbidden);
        var gone = await lead.PostAsJsonAsync($"{at}/withdraw", Back()).Json();
        gone["withdrawnBy"]!.ToString().ShouldBe(Roles.Lead);
        async Task<bool> Listed(string query) =>
            (await mechanic.GetAsync($"/api/cases{query}").Json())["cases"]!.AsArray().Any(c => c!["id"]!.ToString() == id);
        (await Listed("")).ShouldBeFalse();
        (await Listed("?withdrawn=true")).ShouldBeTrue();
        (await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Problem()).FirstField().ShouldBe("case");
        (await mechanic.GetAsync(at).Json())["withdrawnWhy"]!.ToString().ShouldBe("not so");
        await mechanic.PostAsJsonAsync($"{at}/take-up", new { version = 2 }).Problem(HttpStatusCode.Forbidden);
        var back = await lead.PostAsJsonAsync($"{at}/take-up", new { version = 2 }).Json();
        back["withdrawnAt"].ShouldBeNull();
        await mechanic.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Json();
        (await Listed("")).ShouldBeTrue();
    }
}
