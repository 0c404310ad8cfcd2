using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The shop's own strip scripts, written, linted, changed, handed on and taken back.</summary>
public sealed class ScriptTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static JsonObject Write(JsonNode script, string why = "as we do it", int version = 0) =>
        new()
        {
            ["script"] = script.DeepClone(),
            ["why"] = why,
            ["version"] = version,
        };

    [Fact]
    public async Task What_was_done_on_one_engine_is_the_way_of_the_next_of_its_kind()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        var at = await Shop.CaseAsync(mechanic);
        await StripTests.UptoHeadAsync(mechanic, at);
        var kind = (await mechanic.GetAsync(at).Json())["engineName"]!.ToString().Split(',')[0];
        var script = await mechanic.GetAsync($"{at}/script").Json();
        script["kind"]!.ToString().ShouldBe(kind);
        script["steps"]![0]!["name"] = "Record it, our way";
        var id = Guid.CreateVersion7();

        (await mechanic.PutAsJsonAsync($"/api/scripts/{id}", Write(script, why: " ")).Problem()).FirstField().ShouldBe("why");
        var broken = script.DeepClone();
        broken["steps"]!.AsArray().Single(s => s!["id"]!.ToString() == "head")!["parts"] = false;
        (await mechanic.PutAsJsonAsync($"/api/scripts/{id}", Write(broken)).Problem()).FirstField().ShouldBe("steps.head");

        // What he may not open in a case he does not take out of a script either; a lead does.
        var loose = script.DeepClone();
        loose["steps"]!.AsArray().Single(s => s!["id"]!.ToString() == "head")!["holdPoint"] = false;
        (await mechanic.PutAsJsonAsync($"/api/scripts/{Guid.CreateVersion7()}", Write(loose)).Problem()).FirstField().ShouldBe("steps.head");

        // The same twice at once is one.
        var twice = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ => mechanic.PutAsJsonAsync($"/api/scripts/{id}", Write(script))));
        twice.ShouldAllOfSomeBe(r => r.StatusCode == HttpStatusCode.OK);
        (await mechanic.PutAsJsonAsync($"/api/scripts/{Guid.CreateVersion7()}", Write(script)).Problem()).FirstField().ShouldBe("id");

        var next = await Shop.CaseAsync(mechanic);
        var strip = (await mechanic.GetAsync($"{next}/answers?rooms=strip").Json())["strip"]!;
        strip["script"]!.ToString().ShouldBe(script["id"]!.ToString());
        strip["steps"]![0]!["name"]!.ToString().ShouldBe("Record it, our way");

        // Changed, with what it was before; an old version is told.
        script["steps"]![0]!["name"] = "Record it, another way";
        await mechanic.PutAsJsonAsync($"/api/scripts/{id}", Write(script, version: 1)).Json();
        await mechanic.PutAsJsonAsync($"/api/scripts/{id}", Write(script, version: 1)).Problem(HttpStatusCode.Conflict);
        (await mechanic.GetAsync($"/api/scripts/{id}/changes").Json()).AsArray().Count.ShouldBe(2);

        // Out as a file, and read back by what reads the files of knowledge/.
        var yaml = await mechanic.GetStringAsync("/api/scripts/own.yaml", TestContext.Current.CancellationToken);
        ScriptFile.Read("t", yaml).ShouldHaveSingleItem().Steps[0].Name.ShouldBe("Record it, another way");
        Task<HttpResponseMessage> ReadAsync(string text) =>
            mechanic.PostAsync("/api/scripts/read", new StringContent(text, System.Net.Http.Headers.MediaTypeHeaderValue.Parse("application/yaml")));
        (await ReadAsync(yaml).Json())[0]!["id"]!.ToString().ShouldBe(script["id"]!.ToString());
        (await ReadAsync("- moon: 1").Problem()).FirstField().ShouldBe("file:1");
        (await ReadAsync(new string('#', 1_000_001)).Problem()).FirstField().ShouldBe("file");
        (await mechanic.GetAsync($"/api/scripts/{script["id"]}").Json())["own"]!["version"]!.GetValue<int>().ShouldBe(2);

        // While a strip goes by it, it stays.
        (await mechanic.PostAsJsonAsync($"/api/scripts/{id}/withdraw", new { why = "no", version = 2 }).Problem())
            .FirstField()
            .ShouldBe("script");
        using var viewer = await own.As(Roles.Viewer);
        await viewer.PutAsJsonAsync($"/api/scripts/{id}", Write(script, version: 2)).Problem(HttpStatusCode.Forbidden);
        (await viewer.GetAsync("/api/scripts/pushrod-v8").Json())["own"].ShouldBeNull();
        await viewer.GetAsync("/api/scripts/moon").Problem(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task One_by_which_nobody_goes_is_taken_back()
    {
        using var lead = await own.As(Roles.Lead);
        var script = (await lead.GetAsync("/api/scripts/outboard-three").Json())["script"]!;
        (script["id"], script["kind"]) = ("nobodys-own", "Nobody’s engine");
        var id = Guid.CreateVersion7();
        await lead.PutAsJsonAsync($"/api/scripts/{id}", Write(script)).Json();
        await lead.PostAsJsonAsync($"/api/scripts/{id}/withdraw", new { why = "no use", version = 1 }).Json();
        await lead.GetAsync("/api/scripts/nobodys-own").Problem(HttpStatusCode.NotFound);
    }
}
