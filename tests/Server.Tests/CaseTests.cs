using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Core.Trace;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class CaseTests(Shop shop)
{
    internal static object Tag(Guid id, string place, int version = 0, string where = "row 4") =>
        new
        {
            id,
            version,
            place,
            mark = "4",
            method = "engraver",
            sameOnAll = false,
            facing = "left",
            gradeStamped = "",
            custody = "bench",
            where,
            sent = (string?)null,
            dueBack = (string?)null,
            sideUp = "",
            weight = (decimal?)null,
            remarks = "",
        };

    internal static object Saw(string place, string sign, int level, Guid? id = null) =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            place,
            sign,
            seen = level > 0 ? "present" : "absent",
            level,
            spot = "",
            note = "",
        };

    public static object Read(string place, string characteristic, string typed, bool confirmed = false, string unit = "mm", Guid? id = null) =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            place,
            characteristic,
            typed,
            setUnit = unit,
            instrument = "",
            temperature = (decimal?)null,
            corrects = (Guid?)null,
            confirmed,
        };

    private static object Bound(string characteristic, string nominal, string least = "", string most = "", string sourceText = "manual, page 4") =>
        new
        {
            id = Guid.CreateVersion7(),
            characteristic,
            nominal,
            least,
            most,
            setUnit = "mm",
            source = "makersManual",
            sourceText,
        };

    [Fact]
    public async Task An_impossible_layout_is_refused_with_field_and_reason()
    {
        using var client = await shop.As(Roles.Mechanic);
        var layout = Shop.Six.DeepClone();
        layout["firingOrder"] = new JsonArray(1, 5, 3, 6, 2, 2);
        var problem = await client
            .PostAsJsonAsync(
                "/api/cases",
                new JsonObject
                {
                    ["id"] = Guid.CreateVersion7(),
                    ["title"] = "",
                    ["engineName"] = "x",
                    ["owner"] = "",
                    ["layout"] = layout.DeepClone(),
                }
            )
            .Problem();
        problem["problems"]!
            .AsArray()
            .Select(p => p!["text"]!.ToString())
            .ShouldBe(["The firing order repeats cylinder 2.", "The firing order misses cylinder 4."]);
        await client.PostAsJsonAsync("/api/layouts/preview", layout).Problem();
        var preview = await client.PostAsJsonAsync("/api/layouts/preview", Shop.Six).Json();
        preview["oilRoute"]!.AsArray().Count.ShouldBe(13);
        preview["addresses"]!.GetValue<int>().ShouldBe(preview["section"]!["cells"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_repeated_request_changes_nothing_even_when_both_instances_get_it_at_once()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Mechanic, shop.Other);
        var id = Guid.CreateVersion7();
        var sent = Enumerable
            .Range(0, 12)
            .Select(i => (i % 2 == 0 ? client : other).PostAsJsonAsync($"{at}/findings", Saw("R4U", "overlay-wiped", 3, id)).Json());
        var answers = await Task.WhenAll(sent);
        answers.Select(a => a["at"]!.ToString()[..23]).Distinct().ShouldHaveSingleItem();
        (await client.GetAsync(at).Json())["findings"]!.AsArray().Count.ShouldBe(1);
    }

    /// <summary>The concurrency case: two instances on one database, one version, one winner, and the loser sees both values.</summary>
    [Fact]
    public async Task Of_many_changes_to_one_version_one_wins_and_the_others_see_both_values()
    {
        var (client, at) = await shop.NewCase();
        using var other = await shop.As(Roles.Lead, shop.Other);
        var id = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/parts", Tag(id, "R4")).Json();
        var sent = Enumerable
            .Range(0, 10)
            .Select(i => (i % 2 == 0 ? client : other).PutAsJsonAsync($"{at}/parts/{id}", Tag(id, "R4", version: 1, where: $"shelf {i}")));
        var answers = await Task.WhenAll(sent);
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        var lost = await Task.FromResult(answers.First(a => a.StatusCode != HttpStatusCode.OK)).Problem(HttpStatusCode.Conflict);
        lost["yours"]!["where"]!.ToString().ShouldNotBe(lost["theirs"]!["where"]!.ToString());
        lost["theirs"]!["version"]!.GetValue<int>().ShouldBe(2);

        var changes = (await client.GetAsync($"/api/changes?case={at.Split('/')[^1]}&take=500").Json())["changes"]!
            .AsArray()
            .Where(c => c!["recordId"]!.ToString() == id.ToString())
            .ToArray();
        changes.Length.ShouldBe(2);
        JsonNode.Parse(changes[0]!["before"]!.ToString())!["Where"]!.ToString().ShouldBe("row 4");
        changes[1]!["by"]!.ToString().ShouldBe(Roles.Mechanic);
    }

    [Fact]
    public async Task A_part_has_one_tag_and_mates_are_told()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/parts", Tag(Guid.CreateVersion7(), "r4")).Json();
        await client.PostAsJsonAsync($"{at}/parts", Tag(Guid.CreateVersion7(), "R4")).Problem(HttpStatusCode.Conflict);
        await client.PostAsJsonAsync($"{at}/parts", Tag(Guid.CreateVersion7(), "R4C")).Json();
        (await client.PostAsJsonAsync($"{at}/parts", Tag(Guid.CreateVersion7(), "R9")).Problem()).FirstField().ShouldBe("place");
        (await client.GetAsync($"{at}/mates?first=R4&second=R4C").Json())["word"]!.ToString().ShouldBe("Match");
        (await client.GetAsync($"{at}/mates?first=R4&second=R3C").Json())["answer"]!.ToString().ShouldBe("notMates");
        (await client.GetAsync($"{at}/mates?first=R4&second=xyz").Problem()).FirstField().ShouldBe("second");
    }

    [Fact]
    public async Task A_finding_must_fit_the_part_and_is_taken_back_only_with_a_reason()
    {
        var (client, at) = await shop.NewCase();
        (await client.PostAsJsonAsync($"{at}/findings", Saw("P4", "overlay-wiped", 3)).Problem()).FirstField().ShouldBe("sign");
        (await client.PostAsJsonAsync($"{at}/findings", Saw("R4", "size-mismatch", 3)).Problem())["detail"]!.ToString().ShouldContain("Gauge");
        (await client.PostAsJsonAsync($"{at}/findings", Saw("R4U", "overlay-wiped", 4)).Problem()).FirstField().ShouldBe("level");
        var finding = await client.PostAsJsonAsync($"{at}/findings", Saw("R4U", "overlay-wiped", 3)).Json();
        finding["by"]!.ToString().ShouldBe(Roles.Mechanic);
        var below = $"{at}/findings/{finding["id"]}/withdraw";
        (await client.PostAsJsonAsync(below, new { why = " ", version = 1 }).Problem()).FirstField().ShouldBe("why");
        await client.PostAsJsonAsync(below, new { why = "wrong shell", version = 7 }).Problem(HttpStatusCode.Conflict);
        (await client.PostAsJsonAsync(below, new { why = "wrong shell", version = 1 }).Json())["withdrawnWhy"]!.ToString().ShouldBe("wrong shell");
        (await client.GetAsync(at).Json())["findings"]!.AsArray().Count.ShouldBe(1);
        (await client.GetAsync($"{at}/answers").Json())["trace"]!["signsRecorded"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task Recording_moves_the_cause_and_wrong_sizes_are_loud()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", Saw("R4U", "overlay-wiped", 3)).Json();
        var before = (await client.GetAsync($"{at}/answers").Json())["trace"]!["ranking"]!
            .AsArray()
            .Where(r => r!["cause"]!.ToString() == "wrong-size-shell" && r["place"]!.ToString() == "R4")
            .Sum(r => r!["probability"]!.GetValue<double>());
        await client.PostAsJsonAsync($"{at}/limits", Bound("crankpin-diameter", "72")).Json();
        await client.PostAsJsonAsync($"{at}/limits", Bound("shell-wall", "2.5")).Json();
        await client.PostAsJsonAsync($"{at}/limits", Bound("big-end-clearance", "", "0.036", "0.092")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Read("K4", "crankpin-diameter", "-0.255")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Read("R4", "rod-housing-bore", "77.05 mm")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Read("R4U", "shell-wall", "2.492")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Read("R4L", "shell-wall", "98.2 thou")).Json();
        var answers = await client.GetAsync($"{at}/answers").Json();
        answers["gauge"]!["grades"]![0]!["loud"]!.GetValue<bool>().ShouldBeTrue();
        var clearance = answers["gauge"]!["figures"]!.AsArray().Single(f => f!["characteristic"]!.ToString() == "big-end-clearance")!;
        clearance["value"]!.GetValue<double>().ShouldBe(77.05 - 2.492 - (0.0982 * 25.4) - 71.745, 1e-6);
        clearance["conformity"]!.ToString().ShouldBe("outside");
        clearance["limit"]!["sourceText"]!.ToString().ShouldBe("manual, page 4");
        var after = answers["trace"]!["ranking"]![0]!;
        after["cause"]!.ToString().ShouldBe("wrong-size-shell");
        after["place"]!.ToString().ShouldBe("R4");
        after["probability"]!.GetValue<double>().ShouldBeGreaterThan(before + 0.2);
        answers["trace"]!["established"]!
            .AsArray()
            .ShouldContain(e => e!["cause"]!.ToString() == "wrong-size-shell" && e["place"]!.ToString() == "R4");
    }

    [Fact]
    public async Task A_suspect_figure_is_asked_about_and_kept_when_confirmed()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/limits", Bound("crankpin-diameter", "72")).Json();
        var asked = await client.PostAsJsonAsync($"{at}/readings", Read("K1", "crankpin-diameter", "2.834", unit: "mm")).Problem();
        asked.FirstField().ShouldBe("confirmed");
        asked["detail"]!.ToString().ShouldContain("71.98");
        (await client.GetAsync(at).Json())["readings"]!.AsArray().ShouldBeEmpty();
        (await client.PostAsJsonAsync($"{at}/readings", Read("K1", "crankpin-diameter", "2.834", confirmed: true)).Json())["reading"]!["value"]!
            .GetValue<decimal>()
            .ShouldBe(2.834m);
        (await client.PostAsJsonAsync($"{at}/readings", Read("K1", "crankpin-diameter", "2.834", unit: "in")).Json())["reading"]!["value"]!
            .GetValue<decimal>()
            .ShouldBe(71.9836m);
        (await client.PostAsJsonAsync($"{at}/readings", Read("K1", "crankpin-diameter", "tight")).Problem()).FirstField().ShouldBe("typed");
        (await client.PostAsJsonAsync($"{at}/readings", Read("K1", "shell-wall", "2.5")).Problem()).FirstField().ShouldBe("characteristic");
        (await client.PostAsJsonAsync($"{at}/readings", Read("R1U", "shell-wall", "+0.01")).Problem())["detail"]!.ToString().ShouldContain("nominal");
    }

    [Fact]
    public async Task There_is_no_limit_without_its_source()
    {
        var (client, at) = await shop.NewCase();
        (await client.PostAsJsonAsync($"{at}/limits", Bound("shell-wall", "2.5", sourceText: "")).Problem()).FirstField().ShouldBe("sourceText");
        (await client.PostAsJsonAsync($"{at}/limits", Bound("shell-wall", "")).Problem()).FirstField().ShouldBe("most");
        (await client.PostAsJsonAsync($"{at}/limits", Bound("shell-wall", "", "3", "2")).Problem()).FirstField().ShouldBe("least");
        (await client.PostAsJsonAsync($"{at}/limits", Bound("shell-wall", "two")).Problem()).FirstField().ShouldBe("nominal");
    }

    [Fact]
    public async Task Arrival_is_changed_by_version()
    {
        var (client, at) = await shop.NewCase();
        var sheet = new
        {
            version = 1,
            title = "Test",
            owner = "",
            engineName = "Test six",
            serial = "",
            hours = 12.5,
            complaint = "knocks",
            past = "",
            risks = new Dictionary<string, bool> { ["crank-reground"] = true },
        };
        (await client.PutAsJsonAsync($"{at}/arrival", sheet).Json())["version"]!.GetValue<int>().ShouldBe(2);
        (await client.PutAsJsonAsync($"{at}/arrival", sheet).Problem(HttpStatusCode.Conflict))["theirs"]!["complaint"]!.ToString().ShouldBe("knocks");
        (
            await client
                .PutAsJsonAsync(
                    $"{at}/arrival",
                    sheet with
                    {
                        version = 2,
                        risks = new() { ["bad-luck"] = true },
                    }
                )
                .Problem()
        ).FirstField().ShouldBe("risks");
    }

    [Fact]
    public async Task A_cracked_pin_cannot_be_decided_to_be_ground_and_a_joint_not_to_be_used_again()
    {
        var (client, at) = await shop.NewCase();
        object Verdict(string place, string course) =>
            new
            {
                id = Guid.CreateVersion7(),
                place,
                course,
                reason = "as it looks",
            };
        await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K3", "grind")).Json();
        await client.PostAsJsonAsync($"{at}/findings", Saw("K4", "journal-crack", 1)).Json();
        (await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K4", "grind")).Problem())["title"]!.ToString().ShouldContain("K4");
        (await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K3", "reuse")).Problem()).FirstField().ShouldBe("course");
        await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K4", "specialist")).Json();
        (await client.PostAsJsonAsync($"{at}/verdicts", Verdict("H1J", "clean")).Problem()).FirstField().ShouldBe("course");
        await client.PostAsJsonAsync($"{at}/verdicts", Verdict("H1J", "renew")).Json();

        // A specialist's word clears what looked like a crack, and nobody's does not.
        object Tested(string place, string check, string by) =>
            new
            {
                id = Guid.CreateVersion7(),
                place,
                check,
                passed = true,
                testedBy = by,
                remarks = "sheet 114",
            };
        (await client.PostAsJsonAsync($"{at}/examinations", Tested("K4", "crack-test", " ")).Problem()).FirstField().ShouldBe("testedBy");
        (await client.PostAsJsonAsync($"{at}/examinations", Tested("K4", "pressure-test", "Hillside")).Problem()).FirstField().ShouldBe("check");
        var test = await client.PostAsJsonAsync($"{at}/examinations", Tested("K4", "crack-test", "Hillside")).Json();
        await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K4", "grind")).Json();
        await client.PostAsJsonAsync($"{at}/examinations/{test["id"]}/withdraw", new { why = "another shaft", version = 1 }).Json();
        (await client.PostAsJsonAsync($"{at}/verdicts", Verdict("K4", "grind")).Problem()).FirstField().ShouldBe("course");
    }

    [Fact]
    public async Task One_touch_decides_several_places_once_all_or_none_and_is_taken_back_at_one_touch()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", Saw("R2U", "overlay-wiped", 2)).Json();
        await client.PostAsJsonAsync($"{at}/findings", Saw("R3C", "journal-crack", 1)).Problem();
        object Touch(Guid id, string course, string reason, params string[] places) =>
            new
            {
                id,
                course,
                reason,
                of = places.Select((place, i) => new { id = new Guid([.. id.ToByteArray()[..15], (byte)i]), place }),
            };
        async Task<System.Text.Json.Nodes.JsonArray> Standing() =>
            [.. (await client.GetAsync(at).Json())["verdicts"]!.AsArray().Where(v => v!["withdrawnAt"] is null).Select(v => v!.DeepClone())];

        var touch = Guid.CreateVersion7();
        // One of them needs a reason, so none of them is decided.
        (await client.PostAsJsonAsync($"{at}/verdicts/together", Touch(touch, "clean", "", "R2U", "R2L")).Problem())
            .FirstField()
            .ShouldBe("reason");
        (await Standing()).ShouldBeEmpty();
        (await client.PostAsJsonAsync($"{at}/verdicts/together", Touch(touch, "renew", "")).Problem()).FirstField().ShouldBe("of");
        (await client.PostAsJsonAsync($"{at}/verdicts/together", Touch(touch, "renew", "", "R2U", "r2u")).Problem()).FirstField().ShouldBe("of");
        await client.PostAsJsonAsync($"{at}/verdicts/together", Touch(touch, "renew", "", "R2U", "R2L")).Json();
        await client.PostAsJsonAsync($"{at}/verdicts/together", Touch(touch, "renew", "", "R2U", "R2L")).Json();
        var decided = await Standing();
        decided.Select(v => v!["place"]!.ToString()).Order().ShouldBe(["R2L", "R2U"]);
        decided.ShouldAllBe(v => v!["advised"]!.ToString() == "renew" && v["together"]!.ToString() == touch.ToString());
        decided.Single(v => v!["place"]!.ToString() == "R2U")!["advisedWhy"]!.ToString().ShouldContain("Renewed in pairs");
        (await client.PostAsJsonAsync($"{at}/verdicts/together/{touch}/withdraw", new { why = " ", version = 0 }).Problem())
            .FirstField()
            .ShouldBe("why");
        await client.PostAsJsonAsync($"{at}/verdicts/together/{touch}/withdraw", new { why = "wrong engine", version = 0 }).Json();
        await client.PostAsJsonAsync($"{at}/verdicts/together/{touch}/withdraw", new { why = "wrong engine", version = 0 }).Json();
        (await Standing()).ShouldBeEmpty();
    }

    [Fact]
    public async Task An_option_is_entered_changed_chosen_with_a_reason_and_taken_back()
    {
        var (client, at) = await shop.NewCase();
        object Option(Guid id, int version, decimal price, string currency = "EUR") =>
            new
            {
                id,
                version,
                title = "Two bearings",
                scope = "crankshaft",
                lines = new[]
                {
                    new
                    {
                        id = Guid.CreateVersion7(),
                        kind = "part",
                        what = "bearing",
                        quantity = 2,
                        price,
                        currency,
                        days = 3,
                        group = "",
                        course = "",
                    },
                },
                @base = "eur",
                rates = new Dictionary<string, decimal> { ["chf"] = 1.06m },
                risks = new[] { "used-rolling" },
                removes = Array.Empty<string>(),
                failing = new[]
                {
                    new
                    {
                        what = "tow",
                        amount = 300,
                        currency = "CHF",
                        far = true,
                        covered = false,
                    },
                },
                farOut = 0.5,
                warranty = "nobody",
                warrantyMonths = 0,
                ownChance = 0.1,
                remarks = "",
            };
        async Task<System.Text.Json.Nodes.JsonNode> Told() => (await client.GetAsync($"{at}/answers?rooms=options").Json())["options"]![0]!;

        var id = Guid.CreateVersion7();
        (await client.PostAsJsonAsync($"{at}/options", Option(id, 0, -1)).Problem()).FirstField().ShouldBe("lines[0]");
        (await client.PostAsJsonAsync($"{at}/options", Option(id, 0, 1, "USD")).Problem()).FirstField().ShouldBe("rates");
        (await client.PostAsJsonAsync($"{at}/options", Option(id, 0, 1, "XAU")).Problem()).FirstField().ShouldBe("currency");
        await client.PostAsJsonAsync($"{at}/options", Option(id, 0, 45.25m)).Json();
        await client.PostAsJsonAsync($"{at}/options", Option(id, 0, 45.25m)).Json();
        var told = await Told();
        told["options"]!.AsArray().Count.ShouldBe(1);
        // 90.50 and one time in ten 300 CHF at 1.06, half of the time far out.
        told["options"]![0]!["expected"]!.GetValue<decimal>().ShouldBe(106.40m);
        (await client.PutAsJsonAsync($"{at}/options/{id}", Option(id, 9, 50m), Xunit.TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Conflict
        );
        await client.PutAsJsonAsync($"{at}/options/{id}", Option(id, 1, 50m)).Json();

        object Choice(Guid of, string why) =>
            new
            {
                id = Guid.CreateVersion7(),
                option = of,
                why,
            };
        (await client.PostAsJsonAsync($"{at}/choices", Choice(id, " ")).Problem()).FirstField().ShouldBe("why");
        (await client.PostAsJsonAsync($"{at}/choices", Choice(Guid.CreateVersion7(), "x")).Problem()).FirstField().ShouldBe("option");
        var choice = await client.PostAsJsonAsync($"{at}/choices", Choice(id, "Owner sells it in spring")).Json();
        (choice["title"]!.ToString(), choice["cost"]!.GetValue<decimal>()).ShouldBe(("Two bearings", 100m));
        (await Told())["chosen"]!["why"]!.ToString().ShouldBe("Owner sells it in spring");
        await client.PostAsJsonAsync($"{at}/choices/{choice["id"]}/withdraw", new { why = "changed his mind", version = 1 }).Json();
        (await Told())["chosen"].ShouldBeNull();
    }

    [Fact]
    public async Task Sizes_to_be_had_are_kept_and_offered_to_the_next_engine_of_the_kind()
    {
        var (client, at) = await shop.NewCase();
        var record = (await client.GetAsync(at).Json()).AsObject();
        record["engineName"] = "Quillet 100% _ diesel";
        await client.PutAsJsonAsync($"{at}/arrival", record).Json();
        object Sizes(string source, params decimal[] steps) =>
            new
            {
                id = Guid.CreateVersion7(),
                kind = "crankpin",
                steps,
                unit = "mm",
                furthest = (decimal?)null,
                furthestBy = "maker",
                sourceText = source,
            };
        (await client.PostAsJsonAsync($"{at}/sizes", Sizes("manual", 0.5m, 0.3m)).Problem()).FirstField().ShouldBe("steps");
        (await client.PostAsJsonAsync($"{at}/sizes", Sizes(" ", 0.3m)).Problem()).FirstField().ShouldBe("sourceText");
        await client.PostAsJsonAsync($"{at}/sizes", Sizes("manual, page 9", 0.3m, 0.6m)).Json();
        (await client.GetAsync(at).Json())["sizes"]![0]!["steps"]!.AsArray().Count.ShouldBe(2);

        var (_, next) = await shop.NewCase();
        var other = (await client.GetAsync(next).Json()).AsObject();
        other["engineName"] = "Quillet 1000 x diesel";
        await client.PutAsJsonAsync($"{next}/arrival", other).Json();
        (await client.GetAsync($"{next}/sizes/elsewhere").Json()).AsArray().ShouldBeEmpty();
        other = (await client.GetAsync(next).Json()).AsObject();
        other["engineName"] = "quillet 100% _ DIESEL";
        await client.PutAsJsonAsync($"{next}/arrival", other).Json();
        var offered = (await client.GetAsync($"{next}/sizes/elsewhere").Json()).AsArray();
        offered.Single()!["sizes"]!["sourceText"]!.ToString().ShouldBe("manual, page 9");
    }

    [Fact]
    public async Task Verdict_and_finding_need_reasons_and_stand_in_the_dossier()
    {
        var (client, at) = await shop.NewCase();
        object Verdict(string reason) =>
            new
            {
                id = Guid.CreateVersion7(),
                place = "K4",
                course = "grind",
                reason,
            };
        (await client.PostAsJsonAsync($"{at}/verdicts", Verdict(" ")).Problem()).FirstField().ShouldBe("reason");
        await client.PostAsJsonAsync($"{at}/readings", Read("K4", "crankpin-diameter", "71.735 mm")).Json();
        var advised = (await client.GetAsync($"{at}/answers?rooms=verdict").Json())["verdict"]!["places"]!
            .AsArray()
            .Single(a => a!["place"]!.ToString() == "K4");
        advised!["figure"]!.ToString().ShouldContain("71.735");
        // The decision is sent; the figure that it rests on is the server's.
        advised["decided"].ShouldBeNull();
        var given = await client.PostAsJsonAsync($"{at}/verdicts", Verdict("scored")).Json();
        given["figures"]![0]!["value"]!.GetValue<double>().ShouldBe(71.735, 1e-9);
        async Task<string> Decided() =>
            (await client.GetAsync($"{at}/answers?rooms=verdict").Json())["verdict"]!["places"]!
                .AsArray()
                .Single(a => a!["place"]!.ToString() == "K4")!["decided"]!.ToString();
        (await Decided()).ShouldBe(advised["figure"]!.ToString());
        // What is measured later does not change what was decided on; who reads inches is told it in inches.
        await client.PostAsJsonAsync($"{at}/readings", Read("K4", "crankpin-diameter", "71.700 mm")).Json();
        (await Decided()).ShouldContain("71.735");
        client.DefaultRequestHeaders.Add(Speech.Header, "in");
        (await Decided()).ShouldContain("2.8242");
        object Conclusion(string cause, string reasons) =>
            new
            {
                id = Guid.CreateVersion7(),
                cause,
                place = "R4",
                confidence = "probable",
                reasons,
            };
        (await client.PostAsJsonAsync($"{at}/conclusions", Conclusion("gremlins", "x")).Problem()).FirstField().ShouldBe("cause");
        (await client.PostAsJsonAsync($"{at}/conclusions", Conclusion("wrong-size-shell", "")).Problem()).FirstField().ShouldBe("reasons");
        await client.PostAsJsonAsync($"{at}/conclusions", Conclusion("wrong-size-shell", "sizes")).Json();
        var dossier = await client.GetAsync($"{at}/dossier").Json();
        dossier["case"]!["verdicts"]!.AsArray().Count.ShouldBe(1);
        dossier["case"]!["conclusions"]![0]!["reasons"]!.ToString().ShouldBe("sizes");
        dossier["answers"]!["places"]!.AsArray().Single(p => p!["place"]!.ToString() == "K4")!["verdict"]!.ToString().ShouldBe("machine");
    }
}
