using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Look;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The way back over the network: the demo’s pump that is half-way together, taken in anew for each test.</summary>
public sealed class WayBackTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static int _taken;

    /// <summary>The pump, with a serial number of its own so that it is no copy of another.</summary>
    private static async Task<string> PumpAsync(HttpClient client)
    {
        var path = Path.Combine(ApiContractTests.Root(), "demo/cases/pump-together.case.json");
        var file = JsonNode.Parse(await File.ReadAllTextAsync(path))!;
        file["case"]!["serial"] = $"KP2-{Interlocked.Increment(ref _taken)}";
        var read = await client.PostAsJsonAsync("/api/cases/import", file).Json();
        return $"/api/cases/{read["id"]}";
    }

    private static async Task<JsonNode> PlanAsync(HttpClient client, string at) =>
        (await client.GetAsync($"{at}/answers?rooms=build").Json())["build"]!;

    private static JsonNode Way(JsonNode plan, string key) => plan["tasks"]!.AsArray().Single(t => t!["key"]!.ToString() == key)!["way"]!;

    private static object Act(string step, string kind, string of, string tag = "", string facing = "unknown", int pass = 0, string why = "") =>
        new
        {
            id = Guid.CreateVersion7(),
            step,
            kind,
            of,
            tag,
            facing,
            pass,
            why,
        };

    private static object Move(string set, string state, int hole = 0, int count = 1, string? line = null, string step = "bed-plate") =>
        new
        {
            id = Guid.CreateVersion7(),
            step,
            set,
            state,
            count,
            hole,
            length = (decimal?)null,
            keeping = "ownHole",
            where = "",
            note = "",
            line,
        };

    [Fact]
    public async Task One_bolt_left_over_holds_the_bed_plate_until_it_is_in_and_all_are_tight()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await PumpAsync(client);
        var plan = await PlanAsync(client, at);
        var stop = Way(plan, "back/bed-plate")["stops"]!.AsArray()[0]!;
        stop["gate"]!.ToString().ShouldBe("fasteners");
        stop["text"]!.ToString().ShouldContain("hole 9 (40.0 mm)");
        // Not tight while a hole is empty, and no reason opens that.
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/bed-plate", "tightened", "plate", pass: 1)).Problem())
            .FirstField()
            .ShouldBe("of");
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/bed-plate", "passed", "fasteners/plate", why: "it holds")).Problem())
            .FirstField()
            .ShouldBe("of");

        await client.PostAsJsonAsync($"{at}/fasteners", Move("plate", "backIn", hole: 9)).Json();
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/bed-plate", "tightened", "plate", pass: 2)).Problem())
            .FirstField()
            .ShouldBe("pass");
        foreach (var pass in new[] { 1, 2 })
        {
            var act = Act("back/bed-plate", "tightened", "plate", pass: pass);
            // Sent twice, written once.
            await client.PostAsJsonAsync($"{at}/back-acts", act).Json();
            await client.PostAsJsonAsync($"{at}/back-acts", act).Json();
        }

        plan = await PlanAsync(client, at);
        Way(plan, "back/bed-plate")["stops"]!.AsArray().ShouldBeEmpty();
        plan["joints"]!.AsArray().Single(j => j!["set"]!.ToString() == "plate" && j["task"]!.ToString() == "back/bed-plate")!["stands"]!
            .ToString()
            .ShouldBe("tight");
        var viewer = await own.As(Roles.Viewer);
        (await viewer.PostAsJsonAsync($"{at}/back-acts", Act("back/bed-plate", "covered", "Ports"))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_tag_of_another_engine_and_one_of_another_place_do_not_go_in()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await PumpAsync(client);
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/head", "fitted", "H1", tag: "S3-H1", facing: "freeEnd")).Problem())
            .FirstField()
            .ShouldBe("tag");
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/head", "fitted", "H1", tag: "S2-H1", facing: "driveEnd")).Problem())
            .FirstField()
            .ShouldBe("facing");
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/head", "fitted", "H1J", tag: "H1J")).Problem()).FirstField().ShouldBe("tag");
        var fitted = await client.PostAsJsonAsync($"{at}/back-acts", Act("back/head", "fitted", "H1", tag: "s2-h1", facing: "freeEnd")).Json();
        fitted["tag"]!.ToString().ShouldBe("H1");
        // A step that is through has nothing more to take in.
        (await client.PostAsJsonAsync($"{at}/back-acts", Act("back/pistons", "fitted", "P1", tag: "P1", facing: "left")).Problem())
            .FirstField()
            .ShouldBe("step");
    }

    [Fact]
    public async Task A_gate_is_passed_by_who_may_in_this_shop_and_stands_in_the_dossier()
    {
        var mechanic = await own.As(Roles.Mechanic);
        var at = await PumpAsync(mechanic);
        var pass = Act("back/head", "passed", "tick/Faces dry and clean", why: "wiped by the owner");
        (await mechanic.PostAsJsonAsync($"{at}/back-acts", pass).Problem()).FirstField().ShouldBe("of");
        var lead = await own.As(Roles.Lead);
        await lead.PostAsJsonAsync($"{at}/back-acts", pass).Json();
        Way(await PlanAsync(lead, at), "back/head")["stops"]!.AsArray().Single(s => s!["key"]!.ToString() == "tick/Faces dry and clean")!["passed"]!
            .ToString()
            .ShouldBe("wiped by the owner");
        (await lead.GetAsync($"{at}/dossier").Json())["openedLocks"]!
            .AsArray()
            .ShouldContain(o => o!["lock"]!.ToString() == "assembly" && o["reason"]!.ToString() == "wiped by the owner");
    }

    [Fact]
    public async Task Torque_is_typed_once_for_a_kind_of_engine_and_taken_over_by_a_person()
    {
        var client = await own.As(Roles.Mechanic);
        var (first, second) = (await PumpAsync(client), await PumpAsync(client));
        object How(string page, decimal torque, string? from = null) =>
            new
            {
                id = Guid.CreateVersion7(),
                step = "pump-off",
                set = "flange",
                passes = new[]
                {
                    new
                    {
                        torque,
                        angle = (decimal?)null,
                        loosen = false,
                    },
                },
                unit = "Nm",
                order = Array.Empty<int>(),
                lubricant = "",
                threadLock = "",
                sealant = "",
                source = "makersManual",
                sourceText = "workshop manual",
                page,
                takenFrom = from,
                note = "",
            };
        (await client.PostAsJsonAsync($"{first}/tightenings", How("", 22)).Problem()).FirstField().ShouldBe("page");
        (await client.PostAsJsonAsync($"{first}/tightenings", How("19", -2)).Problem()).FirstField().ShouldBe("passes");
        await client.PostAsJsonAsync($"{first}/tightenings", How("19", 22)).Json();
        var known = (await client.GetAsync($"{second}/tightenings/of-kind").Json()).AsArray();
        var flange = known.Single(k => k!["how"]!["step"]!.ToString() == "pump-off")!;
        (flange["setName"]!.ToString(), flange["how"]!["page"]!.ToString()).ShouldBe(("flange nuts", "19"));
        Way(await PlanAsync(client, second), "back/pump-off")["stops"]!.AsArray().ShouldContain(s => s!["gate"]!.ToString() == "torque");
        await client.PostAsJsonAsync($"{second}/tightenings", How("19", 22, flange["caseId"]!.ToString())).Json();
        Way(await PlanAsync(client, second), "back/pump-off")["stops"]!.AsArray().ShouldNotContain(s => s!["gate"]!.ToString() == "torque");
        (await client.GetAsync($"{second}/tightenings/of-kind").Json()).AsArray().ShouldNotContain(k => k!["how"]!["step"]!.ToString() == "pump-off");
    }

    /// <summary>What was done travels with the file, and the lines of the order with it.</summary>
    [Fact]
    public async Task The_way_back_travels_with_the_case_file()
    {
        var client = await own.As(Roles.Mechanic);
        var at = await PumpAsync(client);
        var file = CaseFile.FromJson(await client.GetStringAsync($"{at}/export"));
        file.Case.BackActs.Count.ShouldBeGreaterThan(20);
        file.Case.Tightenings.Count.ShouldBe(3);
        var lines = file.Case.OrderLines.Select(l => l.Id).ToHashSet();
        file.Case.BackActs.Where(a => a.Line is not null).ShouldAllBe(a => lines.Contains(a.Line!.Value));
        file.Case.FastenerMoves.Where(m => m.Line is not null).ShouldAllBe(m => lines.Contains(m.Line!.Value));
    }

    [Fact]
    public async Task An_engine_that_comes_again_finds_its_own_history_by_its_serial_number()
    {
        var client = await own.As(Roles.Mechanic);
        var first = await PumpAsync(client);
        var serial = (await client.GetAsync(first).Json())["serial"]!.ToString();
        var second = await Shop.CaseAsync(client);
        async Task<JsonNode[]> Before() => [.. (await client.GetAsync($"{second}/before").Json()).AsArray().OfType<JsonNode>()];
        (await Before()).ShouldAllBe(b => !b["sameEngine"]!.GetValue<bool>());
        var arrival = new
        {
            version = 1,
            title = "Back again",
            owner = "",
            engineName = "kestrow p-2, 430 cc two-stroke twin ",
            serial = $" {serial.ToLowerInvariant()}",
            hours = 700,
            complaint = "",
            past = "",
            risks = new Dictionary<string, bool>(),
        };
        await client.PutAsJsonAsync($"{second}/arrival", arrival).Json();
        var before = (await Before()).Where(b => b["sameEngine"]!.GetValue<bool>()).ToArray();
        before.ShouldHaveSingleItem()["title"]!.ToString().ShouldBe("Harbour pump, going back together");
        // Of another number it is one of the kind, told apart from the engine itself.
        await client.PutAsJsonAsync($"{second}/arrival", arrival with { version = 2, serial = "another" }).Json();
        var kind = await Before();
        kind.ShouldNotBeEmpty();
        kind.ShouldAllBe(k => !k["sameEngine"]!.GetValue<bool>() && k["title"]!.ToString() == "Harbour pump, going back together");
        // What failed in those of the kind is counted by place; of the engine itself nothing is.
        async Task<JsonNode?> Piston() =>
            (await client.GetAsync($"{second}/kind").Json())["parts"]!.AsArray().SingleOrDefault(p => p!["place"]!.ToString() == "P1");
        var old = (await Piston())?["share"]!["times"]!.GetValue<int>() ?? 0;
        await client.PostAsJsonAsync($"{first}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", FindingRules.MostSevere)).Json();
        var piston = (await Piston()).ShouldNotBeNull();
        piston["words"]!.ToString().ShouldBe("piston 1");
        piston["share"]!["times"]!.GetValue<int>().ShouldBe(old + 1);
        piston["share"]!["of"]!.GetValue<int>().ShouldBeInRange(old + 1, kind.Length);
        piston["share"]!["low"]!.GetValue<double>().ShouldBeGreaterThan(0);
        piston["cases"]!.AsArray().Select(c => c!.ToString()).ShouldContain(first[^36..]);
        await client.PutAsJsonAsync($"{second}/arrival", arrival with { version = 3 }).Json();
        (await client.GetAsync($"{second}/kind").Json())["cases"]!.GetValue<int>().ShouldBe(0);
    }
}
