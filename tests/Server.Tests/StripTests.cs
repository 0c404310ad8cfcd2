using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class StripTests(Shop shop)
{
    /// <param name="passes">Obstacles that are passed, each as “lock of”.</param>
    internal static object Step(string step, params string[] passes) => Recorded(step, "done", "", [], passes);

    internal static object Recorded(string step, string state, string reason, int[] stations, params string[] passes) =>
        new
        {
            id = Guid.CreateVersion7(),
            step,
            state,
            reason,
            stations,
            overrides = passes
                .Select(o => o.Split(' '))
                .Select(o => new Dictionary<string, string>
                {
                    ["lock"] = o[0],
                    ["of"] = o.Length > 1 ? o[1] : "",
                    ["reason"] = "for the test",
                }),
        };

    /// <summary>Sets the ticks that a step must have, and one where it would be empty without.</summary>
    internal static async Task TickAsync(HttpClient client, string at, string step)
    {
        var planned = StepOf(await client.GetAsync($"{at}/answers?rooms=strip").Json(), step);
        var must = planned["must"]!.AsArray().Select(m => m!.GetValue<int>()).ToArray();
        foreach (
            var item in must.Length > 0 ? must
            : planned["ticks"]!.AsArray().Count > 0 ? [0]
            : []
        )
        {
            var mark = new
            {
                id = Guid.CreateVersion7(),
                step,
                kind = "ticked",
                item,
            };
            await client.PostAsJsonAsync($"{at}/step-marks", mark).Json();
        }
    }

    /// <summary>All that comes before the head of an engine that no script of its own fits, done.</summary>
    internal static async Task UptoHeadAsync(HttpClient client, string at)
    {
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("EN", "oil-low", 0)).Json();
        foreach (var step in new[] { "record", "running-tests", "isolate", "drain-oil", "drain-coolant", "rocker-covers" })
        {
            await TickAsync(client, at, step);
            var planned = StepOf(await client.GetAsync($"{at}/answers?rooms=strip").Json(), step);
            foreach (var set in planned["sets"]!.AsArray())
            {
                await client.PostAsJsonAsync($"{at}/fasteners", Out(step, set!["set"]!["id"]!.ToString(), set["expected"]!.GetValue<int>())).Json();
            }

            await client.PostAsJsonAsync($"{at}/steps", Step(step)).Json();
        }
    }

    internal static object Out(string step, string set, int count, Guid? id = null, string state = "out") =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            step,
            set,
            state,
            count,
            hole = 0,
            length = (decimal?)null,
            keeping = "bag",
            where = "no. 1",
            note = "",
        };

    internal static object Sign(string step) =>
        new
        {
            id = Guid.CreateVersion7(),
            step,
            note = "",
        };

    internal static JsonNode StepOf(JsonNode answers, string id) => answers["strip"]!["steps"]!.AsArray().Single(s => s!["id"]!.ToString() == id)!;

    [Fact]
    public async Task A_step_stays_locked_until_what_must_be_out_is_out()
    {
        var (client, at) = await shop.NewCase();
        (await client.PostAsJsonAsync($"{at}/steps", Step("head")).Problem()).FirstField().ShouldBe("order");
        (await client.PostAsJsonAsync($"{at}/steps", Step("record")).Problem()).FirstField().ShouldBe("tick");
        await TickAsync(client, at, "record");
        await client.PostAsJsonAsync($"{at}/steps", Step("record")).Json();
        (await client.PostAsJsonAsync($"{at}/steps", Step("record")).Problem())["title"]!.ToString().ShouldContain("recorded already");
        (await client.PostAsJsonAsync($"{at}/steps", Step("running-tests")).Problem()).FirstField().ShouldBe("empty");
        await client.PostAsJsonAsync($"{at}/steps", Step("running-tests", "empty")).Json();
        await TickAsync(client, at, "isolate");
        await client.PostAsJsonAsync($"{at}/steps", Step("isolate")).Json();
        await client.PostAsJsonAsync($"{at}/fasteners", Out("drain-oil", "plug", 1)).Json();
        (await client.PostAsJsonAsync($"{at}/steps", Step("drain-oil")).Problem()).FirstField().ShouldBe("unread");
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("EN", "oil-low", 0)).Json();
        await client.PostAsJsonAsync($"{at}/steps", Step("drain-oil")).Json();
        await client.PostAsJsonAsync($"{at}/fasteners", Out("drain-coolant", "block-plug", 1)).Json();
        await client.PostAsJsonAsync($"{at}/steps", Step("drain-coolant")).Json();
        var covers = StepOf(await client.GetAsync($"{at}/answers").Json(), "rocker-covers");
        await client
            .PostAsJsonAsync(
                $"{at}/fasteners",
                Out("rocker-covers", covers["sets"]![0]!["set"]!["id"]!.ToString(), covers["expected"]!.GetValue<int>())
            )
            .Json();
        await client.PostAsJsonAsync($"{at}/steps", Step("rocker-covers")).Json();
        (await client.PostAsJsonAsync($"{at}/steps", Step("head")).Problem()).FirstField().ShouldBe("fastenersOut");
        (await client.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", 25)).Problem()).FirstField().ShouldBe("count");
        (await client.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", -1)).Problem()).FirstField().ShouldBe("count");
        await client.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", 23)).Json();
        await client.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", 1, state: "broken")).Json();
        (await client.PostAsJsonAsync($"{at}/steps", Step("head")).Problem())["title"]!.ToString().ShouldContain("23 out, 24 expected");
        await client.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", 1, state: "restOut")).Json();
        await client.PostAsJsonAsync($"{at}/steps", Step("head")).Json();
        var answers = await client.GetAsync($"{at}/answers").Json();
        answers["strip"]!["fastenersOut"]!.GetValue<int>().ShouldBe(26 + covers["expected"]!.GetValue<int>());
        StepOf(answers, "head")["state"]!.ToString().ShouldBe("done");
        answers["progress"]!["looseEnds"]!.AsArray().ShouldContain(l => l!["kind"]!.ToString() == "unsigned");
    }

    /// <summary>Two phones count the same bolts at once, over two instances, each twice: what stands adds up.</summary>
    [Fact]
    public async Task Of_two_who_count_the_same_bolts_at_once_the_sum_stays_right()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Lead, shop.Other);
        var counts = Enumerable.Range(0, 12).Select(i => (Body: Out("pan", "pan", 4, Guid.CreateVersion7()), Who: i % 2 == 0 ? client : other));
        var sent = counts.SelectMany(c =>
            new[] { c.Who.PostAsJsonAsync($"{at}/fasteners", c.Body), c.Who.PostAsJsonAsync($"{at}/fasteners", c.Body) }
        );
        var answers = await Task.WhenAll(sent);
        answers.ShouldAllOfSomeBe(a => a.StatusCode == HttpStatusCode.OK || a.StatusCode == HttpStatusCode.UnprocessableEntity);
        var set = StepOf(await client.GetAsync($"{at}/answers").Json(), "pan")["sets"]![0]!;
        set["out"]!.GetValue<int>().ShouldBe(20);
        set["in"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task A_hold_point_is_signed_by_the_role_that_the_shop_sets()
    {
        var (mechanic, at) = await shop.NewCase();
        using var lead = await shop.As(Roles.Lead);
        (await lead.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Problem())["title"]!.ToString().ShouldContain("not done yet");
        (await lead.PostAsJsonAsync($"{at}/steps", Step("head", "order drain-oil", "fastenersOut head")).Problem()).FirstField().ShouldBe("order");
        await UptoHeadAsync(mechanic, at);
        (await mechanic.PostAsJsonAsync($"{at}/steps", Step("head", "fastenersOut pan")).Problem()).FirstField().ShouldBe("fastenersOut");
        await mechanic.PostAsJsonAsync($"{at}/steps", Step("head", "fastenersOut head", "empty")).Json();
        (await mechanic.PostAsJsonAsync($"{at}/sign-offs", Sign("pan")).Problem())["title"]!.ToString().ShouldContain("no sign-off");
        (await mechanic.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Problem()).FirstField().ShouldBe("role");
        (await mechanic.PostAsJsonAsync($"{at}/steps", Step("invert")).Problem())["title"]!.ToString().ShouldContain("not signed");
        (await lead.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Json())["role"]!.ToString().ShouldBe(Roles.Lead);
        (await lead.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Problem())["title"]!.ToString().ShouldContain("signed it already");
        var head = StepOf(await lead.GetAsync($"{at}/answers").Json(), "head");
        head["signedBy"]!.ToString().ShouldBe(Roles.Lead);
        head["overrides"]!.AsArray().Select(o => $"{o!["lock"]} {o["of"]}").ShouldBe(["fastenersOut head", "empty "]);

        var settings = await lead.GetAsync("/api/settings").Json();
        object Ways(int version, string signer) =>
            new
            {
                version,
                holdSigner = signer,
                keeping = "benchRow",
                keepingBySet = new Dictionary<string, string> { ["general/head/head"] = "ownHole" },
            };
        var version = settings["version"]!.GetValue<int>();
        await mechanic.PutAsJsonAsync("/api/settings", Ways(version, Roles.Mechanic)).Problem(HttpStatusCode.Forbidden);
        (await lead.PutAsJsonAsync("/api/settings", Ways(version, Roles.Viewer)).Problem()).FirstField().ShouldBe("holdSigner");
        await lead.PutAsJsonAsync("/api/settings", Ways(version, Roles.Lead)).Json();
        await lead.PutAsJsonAsync("/api/settings", Ways(version, Roles.Lead)).Problem(HttpStatusCode.Conflict);
        (await mechanic.GetAsync("/api/settings").Json())["keepingBySet"]!["general/head/head"]!.ToString().ShouldBe("ownHole");
    }

    [Fact]
    public async Task Other_ways_are_chosen_and_two_that_contradict_each_other_are_refused()
    {
        var (client, at) = await shop.NewCase();
        async Task<HttpResponseMessage> ChooseAsync(params string[] variants)
        {
            var c = await client.GetAsync(at).Json();
            return await client.PutAsJsonAsync(
                $"{at}/strip",
                new
                {
                    version = c["version"]!.GetValue<int>(),
                    script = "chain-ohc-four",
                    stroke = (decimal?)null,
                    rodLength = (decimal?)null,
                    variants,
                }
            );
        }

        (await Task.FromResult(await ChooseAsync("moon")).Problem()).FirstField().ShouldBe("variants");
        (await Task.FromResult(await ChooseAsync("chain-kept", "cams-later")).Problem())["title"]!.ToString().ShouldContain("cannot be had together");
        (await ChooseAsync("top-end")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var strip = (await client.GetAsync($"{at}/answers?rooms=strip").Json())["strip"]!;
        StepOf(new JsonObject { ["strip"] = strip.DeepClone() }, "crank-out")["beyond"]!.GetValue<bool>().ShouldBeTrue();
        strip["variants"]!.AsArray().Single(v => v!["id"]!.ToString() == "top-end")!["chosen"]!.GetValue<bool>().ShouldBeTrue();
    }

    [Fact]
    public async Task A_step_of_ones_own_is_planned_and_a_cycle_is_refused_by_name()
    {
        var (client, at) = await shop.NewCase();
        JsonObject Own(string id, string after, string reason = "a skid is in the way") =>
            new()
            {
                ["id"] = Guid.CreateVersion7(),
                ["step"] = new JsonObject
                {
                    ["id"] = id,
                    ["name"] = $"Own {id}",
                    ["after"] = new JsonObject { [after] = "It is in the way." },
                    ["minutes"] = 12,
                },
                ["reason"] = reason,
            };
        await client.PostAsJsonAsync($"{at}/own-steps", Own("skid", "isolate")).Json();
        (await client.PostAsJsonAsync($"{at}/own-steps", Own("isolate", "skid")).Problem())["title"]!.ToString().ShouldContain("in a cycle");
        (await client.PostAsJsonAsync($"{at}/own-steps", Own("crate", "moon")).Problem()).FirstField().ShouldBe("after");
        (await client.PostAsJsonAsync($"{at}/own-steps", Own("crate", "isolate", "")).Problem()).FirstField().ShouldBe("reason");
        StepOf(await client.GetAsync($"{at}/answers").Json(), "skid")["own"]!.GetValue<bool>().ShouldBeTrue();

        // It goes along in the case file, and comes back in.
        var file = await (await client.GetAsync($"{at}/export")).Content.ReadAsStringAsync();
        using var content = new StringContent(file, System.Net.Http.Headers.MediaTypeHeaderValue.Parse("application/json"));
        var copy = await client.PostAsync("/api/cases/import", content).Json();
        StepOf(await client.GetAsync($"/api/cases/{copy["id"]}/answers").Json(), "skid")["minutes"]!.GetValue<double>().ShouldBe(12);
    }

    [Fact]
    public async Task Lessons_meet_the_next_engine_of_the_kind()
    {
        var (client, at) = await shop.NewCase();
        var lesson = new
        {
            id = Guid.CreateVersion7(),
            script = "general",
            step = "pan",
            engineName = "Test six",
            text = "Rear bolts first",
            caseId = Guid.Parse(at.Split('/')[^1]),
        };
        (await client.PostAsJsonAsync("/api/lessons", lesson with { text = " " }).Problem()).FirstField().ShouldBe("text");
        (await client.PostAsJsonAsync("/api/lessons", lesson with { script = "moon" }).Problem()).FirstField().ShouldBe("script");
        await client.PostAsJsonAsync("/api/lessons", lesson).Json();
        await client.PostAsJsonAsync("/api/lessons", lesson).Json();
        (await client.GetAsync("/api/lessons?script=general").Json()).AsArray().Count(l => l!["text"]!.ToString() == "Rear bolts first").ShouldBe(1);
        await client.PostAsync($"/api/lessons/{lesson.id}/withdraw", null).Json();
        (await client.GetAsync("/api/lessons?script=general").Json()).AsArray().ShouldNotContain(l => l!["text"]!.ToString() == "Rear bolts first");
    }

    [Fact]
    public async Task Dig_crank_and_puller_answer_and_say_what_is_wrong()
    {
        var (client, at) = await shop.NewCase();
        (await client.GetAsync($"{at}/dig?target=k3").Json())["by"]!.ToString().ShouldBe("rod-caps");
        (await client.GetAsync($"{at}/dig?target=K9").Problem()).FirstField().ShouldBe("target");
        var crank = await client.GetAsync($"{at}/crank?angle=45&stroke=100&rod=180&least=5").Json();
        crank["pistons"]!.AsArray().Count.ShouldBe(6);
        (await client.GetAsync($"{at}/crank?angle=45&stroke=100&rod=20&least=5").Problem()).FirstField().ShouldBe("rodLength");
        (await client.GetAsync("/api/puller?thread=M10&grade=class109&bolts=2&pull=40").Json())["check"]!["proof"]!
            .GetValue<double>()
            .ShouldBe(48.1, 0.1);
        (await client.GetAsync("/api/puller?thread=M10&grade=class109&bolts=2").Problem()).FirstField().ShouldBe("pull");
        (await client.GetAsync("/api/puller?thread=string&grade=class109&bolts=2&pull=40").Problem()).FirstField().ShouldBe("thread");
    }
}
