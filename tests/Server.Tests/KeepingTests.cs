using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace VividSleuth.Server.Tests;

/// <summary>What is kept beside the engine: parts that are offered, and bags with what is in them.</summary>
public sealed class KeepingTests(Shop shop)
{
    private static object Offer(string what, Guid id, string letter = "", int? station = null, int version = 0, string name = "") =>
        new
        {
            id,
            version,
            letter,
            what,
            station,
            name,
            from = "pallet 9",
            remarks = "",
            line = (Guid?)null,
        };

    private static object Bag(Guid id, int version = 0, string kind = "bag", string code = "", string @in = "", params object[] items) =>
        new
        {
            id,
            version,
            code,
            kind,
            name = "group B",
            @in,
            where = "shelf 4",
            step = "",
            items,
            remarks = "",
        };

    private static object Thing(string place = "", string what = "", int count = 1, string face = "") =>
        new
        {
            place,
            what,
            count,
            face,
        };

    private static object Reading(string place, string typed) =>
        new
        {
            id = Guid.CreateVersion7(),
            place,
            characteristic = "crankpin-diameter",
            typed,
            setUnit = "mm",
            instrument = "",
            temperature = (decimal?)null,
            corrects = (Guid?)null,
            confirmed = false,
        };

    [Fact]
    public async Task A_second_crank_is_measured_and_read_at_places_of_its_own()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        var offers = await Task.WhenAll(
            client.PostAsJsonAsync($"{at}/candidates", Offer("crankshaft", id)),
            client.PostAsJsonAsync($"{at}/candidates", Offer("crankshaft", id))
        );
        offers.ShouldAllBe(o => o.StatusCode == HttpStatusCode.OK);
        (await offers[0].Content.ReadFromJsonAsync<JsonNode>())!["letter"]!.ToString().ShouldBe("B");

        (await client.PostAsJsonAsync($"{at}/readings", Reading("k4.b", "71.744"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("K4.B", "journal-scored", 2))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await client.PostAsJsonAsync($"{at}/readings", Reading("K4.C", "71.744")).Problem()).FirstField().ShouldBe("place");

        var own = await client.GetAsync($"{at}/answers?rooms=places,gauge,trace").Json();
        own["trace"]!["signsRecorded"]!.GetValue<int>().ShouldBe(0);
        own["gauge"]!["figures"]!.AsArray().ShouldBeEmpty();
        var with = await client.GetAsync($"{at}/answers?rooms=places,gauge&with=B").Json();
        with["gauge"]!["figures"]!.AsArray().ShouldContain(f => f!["place"]!.ToString() == "K4.B");
        with["places"]!.AsArray().Single(p => p!["place"]!.ToString() == "K4.B")!["damage"]!.GetValue<int>().ShouldBe(2);
        (await client.GetAsync($"{at}/answers?rooms=gauge&with=X").Problem()).FirstField().ShouldBe("with");

        // It was not in the engine when that failed.
        var conclusion = new
        {
            id = Guid.CreateVersion7(),
            cause = "",
            place = "K4.B",
            confidence = "probable",
            fault = "notKnown",
            reasons = "scored",
        };
        (await client.PostAsJsonAsync($"{at}/conclusions", conclusion).Problem())["title"]!.ToString().ShouldContain("not in the engine");
    }

    [Fact]
    public async Task What_is_offered_keeps_its_letter_and_what_it_is()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        await client.PostAsJsonAsync($"{at}/candidates", Offer("rod-set", id, station: 3)).Json();
        (await client.PutAsJsonAsync($"{at}/candidates/{id}", Offer("rod-set", id, "B", 3, 1, "of the donor")).Json())["name"]!
            .ToString()
            .ShouldBe("of the donor");
        (await client.PutAsJsonAsync($"{at}/candidates/{id}", Offer("rod-set", id, "B", 4, 2)).Problem())["title"]!
            .ToString()
            .ShouldContain("stays what it is");
        (await client.PostAsJsonAsync($"{at}/candidates", Offer("rod-set", Guid.CreateVersion7(), "B")).Problem()).FirstField().ShouldBe("letter");
        (await client.PostAsJsonAsync($"{at}/candidates", Offer("rod-set", Guid.CreateVersion7(), station: 99)).Problem())
            .FirstField()
            .ShouldBe("station");

        // Undone, its letter is not given away again: what was recorded of it still says whose it was.
        await client.PostAsJsonAsync($"{at}/candidates/{id}/withdraw", new { why = "sold", version = 2 }).Json();
        (await client.PostAsJsonAsync($"{at}/candidates", Offer("rod-set", Guid.CreateVersion7())).Json())["letter"]!.ToString().ShouldBe("C");
    }

    [Fact]
    public async Task A_part_lies_in_one_bag_also_when_two_are_filled_at_once()
    {
        var (client, at) = await shop.NewCase();
        var both = await Task.WhenAll(
            client.PostAsJsonAsync($"{at}/stows", Bag(Guid.CreateVersion7(), items: [Thing("R4C")])),
            client.PostAsJsonAsync($"{at}/stows", Bag(Guid.CreateVersion7(), items: [Thing("r4c")]))
        );
        both.Count(b => b.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        var problem = (await both.Single(b => b.StatusCode != HttpStatusCode.OK).Content.ReadFromJsonAsync<JsonNode>())!;
        problem.FirstField().ShouldBe("items[0].place");
        problem["title"]!.ToString().ShouldContain("BAG1");
    }

    [Fact]
    public async Task A_stack_keeps_its_order_and_who_changes_an_old_state_is_told()
    {
        var (client, at) = await shop.NewCase();
        var id = Guid.CreateVersion7();
        object[] layers = [Thing(what: "joint"), Thing(what: "spacer, 6 mm", face: "chamfer out"), Thing(what: "joint")];
        var made = await client.PostAsJsonAsync($"{at}/stows", Bag(id, kind: "stack", items: layers)).Json();
        made["code"]!.ToString().ShouldBe("STACK1");
        var changed = await client.PutAsJsonAsync($"{at}/stows/{id}", Bag(id, 1, "stack", items: [.. layers.Reverse(), Thing("P3T")])).Json();
        changed["items"]!.AsArray().Select(i => $"{i!["what"]}{i["place"]}").ShouldBe(["joint", "spacer, 6 mm", "joint", "P3T"]);
        changed["items"]![1]!["face"]!.ToString().ShouldBe("chamfer out");
        (await client.PutAsJsonAsync($"{at}/stows/{id}", Bag(id, 1, "stack"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await client.PutAsJsonAsync($"{at}/stows/{id}", Bag(id, 2, "stack", items: [Thing("R77C")])).Problem())
            .FirstField()
            .ShouldBe("items[0].place");
        // A refused change leaves what stood.
        var stands = (await client.GetAsync(at).Json())["stows"]!.AsArray().ShouldHaveSingleItem()!;
        stands["items"]!.AsArray().Count.ShouldBe(4);
        stands["version"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task The_label_of_a_bag_is_printed_and_read_back_and_the_shelf_has_its_own()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/stows", Bag(Guid.CreateVersion7(), items: [Thing("R4U"), Thing("R4L")])).Json();
        (await client.GetAsync($"{at}/labels?places=bags%20R4&page=tape-12")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await client.GetAsync($"{at}/labels?places=BAG7&page=tape-12").Problem())["title"]!.ToString().ShouldContain("BAG7");
        var caseId = at.Split('/')[^1].Replace("-", "", StringComparison.Ordinal);
        var found = await client.GetAsync($"{at}/scan?tag=vivid-sleuth:{caseId}:BAG1").Json();
        (found["place"]!.ToString(), found["isBag"]!.GetValue<bool>()).ShouldBe(("BAG1", true));
        (await client.GetAsync($"{at}/scan?tag=box9").Problem())["title"]!.ToString().ShouldContain("BOX9");

        var id = Guid.CreateVersion7();
        var spare = await client
            .PutAsJsonAsync(
                $"/api/stock/{id}",
                new
                {
                    id,
                    version = 0,
                    kind = "rod-shell-upper",
                    fits = "",
                    grade = "0.25",
                    count = 6,
                    where = "drawer 2",
                    remarks = "",
                }
            )
            .Json();
        var pdf = await client.GetAsync($"/api/stock/labels?numbers=T{spare["number"]}&page=tag-62");
        pdf.StatusCode.ShouldBe(HttpStatusCode.OK);
        pdf.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await client.GetAsync("/api/stock/labels?numbers=T99999&page=tag-62").Problem()).FirstField().ShouldBe("numbers");
        (await client.GetAsync($"{at}/scan?tag=vivid-sleuth:shelf:T{spare["number"]}").Problem())["title"]!.ToString().ShouldContain("shelf");
    }

    [Fact]
    public async Task The_pin_is_kept_on_its_piston_and_no_part_on_itself()
    {
        var (client, at) = await shop.NewCase();
        object Tag(string place, string on, string custody = "onPart") =>
            new
            {
                id = Guid.CreateVersion7(),
                version = 0,
                place,
                mark = "4",
                method = "feltPen",
                sameOnAll = false,
                facing = "unknown",
                gradeStamped = "",
                custody,
                where = "",
                sent = (DateOnly?)null,
                dueBack = (DateOnly?)null,
                sideUp = "",
                weight = (decimal?)null,
                remarks = "",
                on,
            };
        (await client.PostAsJsonAsync($"{at}/parts", Tag("W4", "W4")).Problem()).FirstField().ShouldBe("on");
        // What is offered is not on the engine.
        await client.PostAsJsonAsync($"{at}/candidates", Offer("crankshaft", Guid.CreateVersion7())).Json();
        (await client.PostAsJsonAsync($"{at}/parts", Tag("CR.B", "", "onEngine")).Problem()).FirstField().ShouldBe("custody");
        (await client.PostAsJsonAsync($"{at}/parts", Tag("CR.B", "", "bench"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await client.PostAsJsonAsync($"{at}/parts", Tag("W4", "")).Problem()).FirstField().ShouldBe("on");
        (await client.PostAsJsonAsync($"{at}/parts", Tag("W4", "p4")).Json())["on"]!.ToString().ShouldBe("P4");
        (await client.GetAsync($"{at}/answers?rooms=progress").Json())["progress"]!["looseEnds"]!
            .AsArray()
            .ShouldNotContain(e => e!["place"]!.ToString() == "W4");
    }

    [Fact]
    public async Task What_the_strip_did_is_kept_and_no_evidence()
    {
        var (client, at) = await shop.NewCase();
        object Saw(string doneBy, int level = 2) =>
            new
            {
                id = Guid.CreateVersion7(),
                place = "H1",
                sign = "mating-face-scored",
                seen = level > 0 ? "present" : "absent",
                level,
                spot = "",
                note = "",
                doneBy,
            };
        (await client.PostAsJsonAsync($"{at}/findings", Saw("strip")).Json())["doneBy"]!.ToString().ShouldBe("strip");
        (await client.GetAsync($"{at}/answers?rooms=trace").Json())["trace"]!["signsRecorded"]!.GetValue<int>().ShouldBe(0);
        (await client.PostAsJsonAsync($"{at}/findings", Saw("earlierHand", 0)).Problem()).FirstField().ShouldBe("doneBy");
        await client.PostAsJsonAsync($"{at}/findings", Saw("running")).Json();
        (await client.GetAsync($"{at}/answers?rooms=trace").Json())["trace"]!["signsRecorded"]!.GetValue<int>().ShouldBe(1);
    }
}
