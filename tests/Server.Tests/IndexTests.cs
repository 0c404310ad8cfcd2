using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Core.Index;
using VividSleuth.Store.Shop;
using static VividSleuth.Server.Tests.Outside;

namespace VividSleuth.Server.Tests;

public sealed class IndexTests(Shop shop)
{
    /// <summary>Reference: zbarimg (Debian: zbar-tools) reads back what was printed; pdftotext and qpdf look at the PDF.</summary>
    [Theory]
    [InlineData("a4-24")]
    [InlineData("a4-65")]
    [InlineData("letter-30")]
    [InlineData("tag-62")]
    [InlineData("tape-12")]
    public async Task Labels_are_read_back_by_another_program(string page)
    {
        var (client, at) = await shop.NewCase();
        string[] places = ["R6L", "M1C", "P4", "V2E"];
        var folder = Directory.CreateTempSubdirectory().FullName;
        var pdf = Path.Combine(folder, "labels.pdf");
        var response = await client.GetAsync($"{at}/labels?places={string.Join(',', places)}&page={page}");
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        await File.WriteAllBytesAsync(pdf, await response.Content.ReadAsByteArrayAsync());

        (await RunAsync("qpdf", "--check", pdf)).ShouldContain("No syntax or stream encoding errors");
        var text = await RunAsync("pdftotext", "-layout", pdf, "-");
        places.ShouldAllOfSomeBe(p => text.Contains(p));
        await RunAsync("pdftoppm", "-r", "300", "-png", pdf, Path.Combine(folder, "page"));
        var codes = await RunAsync("zbarimg", ["-q", "--raw", .. Directory.GetFiles(folder, "*.png")]);
        var read = codes.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        read.Length.ShouldBe(places.Length);
        foreach (var code in read)
        {
            var found = await client.GetAsync($"{at}/scan?tag={Uri.EscapeDataString(code)}").Json();
            places.ShouldContain(found["place"]!.ToString());
        }

        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_tag_that_was_taken_back_is_gone_its_place_can_be_tagged_anew_and_a_second_time_changes_nothing()
    {
        var (client, at) = await shop.NewCase();
        var slip = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/parts", CaseTests.Tag(slip, "R4")).Json();
        (await client.PostAsJsonAsync($"{at}/parts/{slip}/withdraw", new { why = "", version = 1 }).Problem()).FirstField().ShouldBe("why");
        for (var again = 0; again < 2; again++)
        {
            (await client.PostAsJsonAsync($"{at}/parts/{slip}/withdraw", new { why = "the wrong rod", version = 1 }).Json())["withdrawnWhy"]!
                .ToString()
                .ShouldBe("the wrong rod");
        }

        (await Tagged()).ShouldBeFalse();
        await client.PostAsJsonAsync($"{at}/parts", CaseTests.Tag(Guid.CreateVersion7(), "R4")).Json();
        (await Tagged()).ShouldBeTrue();
        async Task<bool> Tagged() =>
            (await client.GetAsync($"{at}/answers?rooms=places").Json())["places"]!.AsArray().Single(p => p!["place"]!.ToString() == "R4")![
                "tagged"
            ]!.GetValue<bool>();
    }

    [Fact]
    public async Task A_tag_of_another_case_and_labels_without_end_are_refused()
    {
        var (client, at) = await shop.NewCase();
        var other = $"vivid-sleuth:{Guid.CreateVersion7():N}:R4";
        (await client.GetAsync($"{at}/scan?tag={other}").Problem())["title"]!.ToString().ShouldContain("another case");
        (await client.GetAsync($"{at}/labels?places={string.Join(',', Enumerable.Repeat("R4", 2500))}&page=a4-24").Problem())
            .FirstField()
            .ShouldBe("places");
        var many = new { id = Guid.CreateVersion7(), places = string.Join(' ', Enumerable.Repeat("R4", 10_000)) };
        (await client.PostAsJsonAsync($"{at}/label-jobs", many).Problem())["title"]!.ToString().ShouldContain("10,000");
        (await client.GetAsync($"{at}/labels?places=R4&page=a0").Problem()).FirstField().ShouldBe("page");
    }

    [Fact]
    public async Task Renumbering_moves_all_records_once_and_an_old_screen_cannot_write()
    {
        var (client, at) = await shop.NewCase();
        foreach (var n in new[] { 1, 6 })
        {
            await client.PostAsJsonAsync($"{at}/parts", CaseTests.Tag(Guid.CreateVersion7(), $"R{n}", where: $"row {n}")).Json();
        }

        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R1U", "overlay-wiped", 2)).Json();
        var entry = new
        {
            id = Guid.CreateVersion7(),
            version = 1,
            numberOneEnd = "driveEnd",
            numbering = "alongTheCrank",
            bankAOnTheLeft = true,
            why = "the plate says so",
        };
        (await client.PostAsJsonAsync($"{at}/renumber/preview", entry).Json())["marked"]!.AsArray().Count.ShouldBe(2);
        (await client.PostAsJsonAsync($"{at}/renumber", entry with { why = "" }).Problem()).FirstField().ShouldBe("why");
        await client.PostAsJsonAsync($"{at}/renumber", entry with { version = 9 }).Problem(HttpStatusCode.Conflict);
        var sent = Enumerable.Range(0, 4).Select(_ => client.PostAsJsonAsync($"{at}/renumber", entry));
        (await Task.WhenAll(sent)).ShouldAllOfSomeBe(r => r.StatusCode == HttpStatusCode.OK);

        var turned = await client.GetAsync(at).Json();
        turned["renumberings"]!.AsArray().Count.ShouldBe(1);
        turned["renumberings"]![0]!["map"]!["R1"]!.ToString().ShouldBe("R6");
        turned["findings"]![0]!["place"]!.ToString().ShouldBe("R6U");
        var parts = turned["parts"]!.AsArray().ToDictionary(p => p!["place"]!.ToString(), p => p!);
        parts["R6"]["where"]!.ToString().ShouldBe("row 1");
        parts["R6"]["markedAs"]!.ToString().ShouldBe("R1");
        parts["R1"]["markedAs"]!.ToString().ShouldBe("R6");

        // A screen from before knows of no renumbering; its R2 may be another rod by now.
        using var old = new HttpRequestMessage(HttpMethod.Post, $"{at}/parts")
        {
            Content = JsonContent.Create(CaseTests.Tag(Guid.CreateVersion7(), "R2")),
        };
        old.Headers.Add("X-Numbering", "0");
        (await client.SendAsync(old).Problem()).FirstField().ShouldBe("numbering");
        using var now = new HttpRequestMessage(HttpMethod.Post, $"{at}/parts")
        {
            Content = JsonContent.Create(CaseTests.Tag(Guid.CreateVersion7(), "R2")),
        };
        now.Headers.Add("X-Numbering", "1");
        await client.SendAsync(now).Json();
    }

    /// <summary>An engine that was laid out with one inlet valve and six cylinders has two and four: nothing recorded is lost, and put back it is where it was.</summary>
    [Fact]
    public async Task A_layout_is_put_right_with_all_that_was_recorded()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("V3A", "valve-bent", 2)).Json();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P5", "skirt-scuff-thrust", 2)).Json();
        var layout = (JsonObject)(await client.GetAsync(at).Json())["layout"]!.DeepClone();
        var before = layout.DeepClone();
        layout["cylinders"] = 4;
        layout["firingOrder"] = new JsonArray(1, 3, 4, 2);
        layout["inletValves"] = 2;
        layout["ownParts"] = new JsonArray(
            new JsonObject
            {
                ["code"] = "HU",
                ["name"] = "idler hub",
                ["like"] = "idler-gear",
                ["mates"] = new JsonArray("CA"),
                ["stratum"] = "accessories",
                ["left"] = false,
            }
        );
        JsonObject Entry(JsonNode asked, int version, string why) =>
            new()
            {
                ["id"] = Guid.CreateVersion7(),
                ["version"] = version,
                ["layout"] = asked.DeepClone(),
                ["why"] = why,
            };

        var change = await client.PostAsJsonAsync($"{at}/layout/preview", Entry(layout, 1, "")).Json();
        change["map"]!.AsArray().ShouldContain(m => m!["old"]!.ToString() == "V3A" && m["new"]!.ToString() == "V3A1");
        change["left"]!.AsArray().ShouldHaveSingleItem()!["code"]!.ToString().ShouldBe("P5");
        (await client.PostAsJsonAsync($"{at}/layout", Entry(layout, 1, "")).Problem()).FirstField().ShouldBe("why");
        await client.PostAsJsonAsync($"{at}/layout", Entry(layout, 9, "counted")).Problem(HttpStatusCode.Conflict);
        var entry = Entry(layout, 1, "counted");
        var sent = Enumerable.Range(0, 4).Select(_ => client.PostAsJsonAsync($"{at}/layout", entry));
        (await Task.WhenAll(sent)).ShouldAllOfSomeBe(r => r.StatusCode == HttpStatusCode.OK);

        var put = await client.GetAsync(at).Json();
        put["renumberings"]!.AsArray().ShouldHaveSingleItem()!["why"]!.ToString().ShouldBe("counted");
        put["findings"]!.AsArray().Select(f => f!["place"]!.ToString()).ShouldBe(["V3A1", "P5"]);
        await client.GetAsync($"{at}/answers?rooms=section,places,progress,strip,look,gauge,trace,verdict").Json();
        // The part that nobody foresaw is looked at like the kind that it is like.
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("HU", "gear-teeth-pitted", 1)).Json();

        layout = (JsonObject)put["layout"]!.DeepClone();
        before["ownParts"] = layout["ownParts"]!.DeepClone();
        var back = await client.PostAsJsonAsync($"{at}/layout", Entry(before, put["version"]!.GetValue<int>(), "six after all")).Json();
        back["findings"]!.AsArray().Select(f => f!["place"]!.ToString()).ShouldBe(["V3A", "P5", "HU"]);
        back["layout"]!["ownParts"]!.AsArray().ShouldHaveSingleItem()!["code"]!.ToString().ShouldBe("HU");
    }

    [Fact]
    public async Task A_new_case_may_start_from_an_engine_of_this_shop_or_from_a_family()
    {
        var (client, _) = await shop.NewCase();
        var starts = (await client.GetAsync("/api/layouts").Json()).AsArray();
        starts.ShouldContain(s => s!["ofThisShop"]!.GetValue<bool>() && s["name"]!.ToString() == "Test six");
        foreach (var family in starts.Where(s => !s!["ofThisShop"]!.GetValue<bool>()))
        {
            var entry = new JsonObject
            {
                ["id"] = Guid.CreateVersion7(),
                ["title"] = "",
                ["engineName"] = family!["name"]!.ToString(),
                ["owner"] = "",
                ["layout"] = family["layout"]!.DeepClone(),
            };
            await client.PostAsJsonAsync("/api/cases", entry).Json();
        }

        (await client.GetAsync("/api/kinds").Json())
            .AsArray()
            .ShouldContain(k => k!["id"]!.ToString() == "piston" && k["name"]!.ToString() == "piston");
    }

    [Fact]
    public async Task Where_a_part_was_is_told_and_what_is_late_is_overdue()
    {
        var (client, at) = await shop.NewCase();
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
            weight = (decimal?)31500,
            remarks = "",
        };
        (await client.PutAsJsonAsync($"{at}/parts/{id}", away with { dueBack = "2019-12-01" }).Problem()).FirstField().ShouldBe("dueBack");
        (await client.PutAsJsonAsync($"{at}/parts/{id}", away with { weight = -1 }).Problem()).FirstField().ShouldBe("weight");
        await client.PutAsJsonAsync($"{at}/parts/{id}", away).Json();
        var stays = (await client.GetAsync($"{at}/parts/{id}/stays").Json()).AsArray();
        stays.Select(s => s!["custody"]!.ToString()).ShouldBe(["machineShop", "bench"]);
        var ends = (await client.GetAsync($"{at}/answers").Json())["progress"]!["looseEnds"]!.AsArray();
        ends.Single(e => e!["kind"]!.ToString() == "overdue")!["text"]!.ToString().ShouldContain("Linden Grinding");
    }

    [Fact]
    public async Task Shelf_parts_get_a_tag_each_and_keep_their_version()
    {
        using var client = await shop.As(Roles.Mechanic);
        object Part(Guid id, int version, int count = 2, string kind = "piston") =>
            new
            {
                id,
                version,
                kind,
                fits = "test engine",
                grade = "STD",
                count,
                where = "drawer 1",
                remarks = "",
            };
        var ids = Enumerable.Range(0, 6).Select(_ => Guid.CreateVersion7()).ToArray();
        await Task.WhenAll(ids.Select(id => client.PutAsJsonAsync($"/api/stock/{id}", Part(id, 0)).Json()));
        var mine = (await client.GetAsync("/api/stock").Json()).AsArray().Where(p => ids.Contains(Guid.Parse(p!["id"]!.ToString()))).ToArray();
        mine.Select(p => p!["number"]!.GetValue<int>()).ShouldBeUnique();
        await client.PutAsJsonAsync($"/api/stock/{ids[0]}", Part(ids[0], 0)).Json();
        await client.PutAsJsonAsync($"/api/stock/{ids[0]}", Part(ids[0], 7)).Problem(HttpStatusCode.Conflict);
        (await client.PutAsJsonAsync($"/api/stock/{ids[0]}", Part(ids[0], 1, -1)).Problem()).FirstField().ShouldBe("count");
        (await client.PutAsJsonAsync($"/api/stock/{ids[0]}", Part(ids[0], 1, 1, "wheelbarrow")).Problem()).FirstField().ShouldBe("kind");
        await client.PostAsJsonAsync($"/api/stock/{ids[0]}/withdraw", new { why = "used", version = 1 }).Json();
        (await client.GetAsync("/api/stock").Json()).AsArray().ShouldNotContain(p => p!["id"]!.ToString() == ids[0].ToString());
    }

    [Fact]
    public async Task Several_parts_are_tagged_at_once_all_or_none()
    {
        var (client, at) = await shop.NewCase();
        object Tag(string place, Guid? id = null) =>
            new
            {
                id = id ?? Guid.CreateVersion7(),
                version = 0,
                place,
                mark = place[1..2],
                method = "feltPen",
                sameOnAll = false,
                facing = "unknown",
                gradeStamped = "",
                custody = "box",
                where = "tray 2",
                sent = (DateOnly?)null,
                dueBack = (DateOnly?)null,
                sideUp = "",
                weight = (decimal?)null,
                remarks = "",
            };
        object[] three = [Tag("P1"), Tag("P2"), Tag("P3")];
        // The same twice at once is one.
        var twice = await Task.WhenAll(client.PostAsJsonAsync($"{at}/parts/many", three), client.PostAsJsonAsync($"{at}/parts/many", three));
        twice.ShouldAllOfSomeBe(r => r.StatusCode == HttpStatusCode.OK);
        (await client.PostAsJsonAsync($"{at}/parts/many", new[] { Tag("P4"), Tag("P3") }).Problem())["title"]!.ToString().ShouldContain("P3");
        (await client.PostAsJsonAsync($"{at}/parts/many", new[] { Tag("P4"), Tag("P4") }).Problem())["title"]!.ToString().ShouldContain("twice");
        (await client.PostAsJsonAsync($"{at}/parts/many", Array.Empty<object>()).Problem()).FirstField().ShouldBe("parts");
        (await client.PostAsJsonAsync($"{at}/parts/many", new[] { Tag("P4"), Tag("P9") }).Problem()).FirstField().ShouldBe("place");
        (await client.GetAsync(at).Json())["parts"]!.AsArray().Select(p => p!["place"]!.ToString()).Order().ShouldBe(["P1", "P2", "P3"]);
    }

    [Fact]
    public async Task A_mark_with_a_prefix_tells_whose_engine_it_is()
    {
        var (client, at) = await shop.NewCase();
        var (_, neighbour) = await shop.NewCase();
        var prefix = $"{(char)('A' + Random.Shared.Next(26))}{Random.Shared.Next(100, 1000)}";
        async Task<HttpResponseMessage> NamedAsync(string of, string with)
        {
            var c = (await client.GetAsync(of).Json()).AsObject();
            var sheet = new JsonObject
            {
                ["version"] = c["version"]!.DeepClone(),
                ["prefix"] = with,
                ["risks"] = new JsonObject(),
                ["hours"] = null,
            };
            foreach (var field in new[] { "title", "owner", "engineName", "serial", "complaint", "past" })
            {
                sheet[field] = c[field]!.DeepClone();
            }

            return await client.PutAsJsonAsync($"{of}/arrival", sheet);
        }

        (await Task.FromResult(await NamedAsync(at, "TOO LONG")).Problem()).FirstField().ShouldBe("prefix");
        (await NamedAsync(at, prefix.ToLowerInvariant())).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Task.FromResult(await NamedAsync(neighbour, prefix)).Problem())["title"]!.ToString().ShouldContain("stands on the parts of");
        (await client.GetAsync($"{at}/scan?tag={prefix}-R3C").Json())["place"]!.ToString().ShouldBe("R3C");
        (await client.GetAsync($"{neighbour}/scan?tag={prefix}-R3C").Problem())["title"]!.ToString().ShouldContain("another engine");
        var pdf = Path.Combine(Directory.CreateTempSubdirectory().FullName, "labels.pdf");
        await File.WriteAllBytesAsync(
            pdf,
            await client.GetByteArrayAsync($"{at}/labels?places=R3C&page=a4-24", TestContext.Current.CancellationToken)
        );
        (await RunAsync("pdftotext", "-layout", pdf, "-")).ShouldContain($"{prefix}-R3C");
    }
}
