using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using MiniExcelLibs;
using VividSleuth.Cli.StandIns;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>The order over the network: lines, stages, suppliers that answer, are silent, or talk nonsense.</summary>
public sealed class OrderTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static Listening Says(int status, string body) =>
        new(async listener =>
        {
            while (listener.IsListening)
            {
                var context = await listener.GetContextAsync();
                context.Response.StatusCode = status;
                await context.Response.OutputStream.WriteAsync(Encoding.UTF8.GetBytes(body));
                context.Response.Close();
            }
        });

    private static Listening Plays(SimulatedSupplier supplier) =>
        new(l => SupplierCommand.ServeAsync(l, supplier, TextWriter.Null, CancellationToken.None));

    private static JsonObject Line(string what, decimal quantity = 1, string item = "", Action<JsonObject>? more = null)
    {
        var line = new JsonObject
        {
            ["id"] = $"{Guid.CreateVersion7()}",
            ["version"] = 0,
            ["need"] = "",
            ["kind"] = "parts",
            ["item"] = item,
            ["what"] = what,
            ["course"] = "renew",
            ["places"] = new JsonArray(),
            ["step"] = "",
            ["quantity"] = quantity,
            ["supplier"] = "",
            ["partNumber"] = "",
            ["price"] = null,
            ["currency"] = "",
            ["days"] = null,
            ["wants"] = new JsonArray(),
            ["remarks"] = "",
        };
        more?.Invoke(line);
        return line;
    }

    private static JsonObject Want(string of, string characteristic, double? least, double? most) =>
        new JsonObject
        {
            ["of"] = of,
            ["characteristic"] = characteristic,
            ["least"] = least,
            ["most"] = most,
            ["source"] = "manual",
            ["thumb"] = false,
        };

    private static object Move(JsonNode line, string to, string label = "", string note = "", Guid? id = null) =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            line = line["id"]!.ToString(),
            to,
            day = to == "expected" ? "2026-12-24" : null,
            count = (decimal?)null,
            label,
            reference = "",
            note,
            reasons = new Dictionary<string, string>(),
        };

    private async Task<(HttpClient Client, string Case)> NewCaseAsync()
    {
        var client = await own.As(Roles.Mechanic);
        return (client, await Shop.CaseAsync(client));
    }

    private static async Task<JsonNode> SupplierAsync(HttpClient client, string address, string kind = "parts")
    {
        var id = Guid.CreateVersion7();
        return await client
            .PutAsJsonAsync(
                $"/api/suppliers/{id}",
                new
                {
                    version = 0,
                    name = $"Supplier {id}",
                    kind,
                    address,
                    currency = "EUR",
                    freight = 12.5,
                    remarks = "",
                }
            )
            .Json();
    }

    private static async Task<JsonNode> OrderAsync(HttpClient client, string at) =>
        (await client.GetAsync($"{at}/answers?rooms=order").Json())["order"]!;

    private static async Task<JsonNode> StateAsync(HttpClient client, string at, JsonNode line) =>
        (await OrderAsync(client, at))["lines"]!.AsArray().Single(l => l!["line"]!.ToString() == line["id"]!.ToString())!;

    private static int Pages(byte[] pdf) => Regex.Count(Encoding.Latin1.GetString(pdf), @"/Type\s*/Page\b");

    [Fact]
    public async Task A_supplier_is_asked_takes_the_order_once_and_is_followed()
    {
        var (client, at) = await NewCaseAsync();
        var time = new HandTime();
        using var listening = Plays(new SimulatedSupplier(works: false, TimeSpan.FromSeconds(10), wrongEvery: 0, time));
        var supplier = await SupplierAsync(client, listening.Address);
        var (seal, bolts) = (Line("crankshaft seal", 2), Line("rod bolts", 5, "rod-bolt"));
        await client.PostAsJsonAsync($"{at}/order/lines/together", new[] { seal, bolts }).Json();
        string[] lines = [seal["id"]!.ToString(), bolts["id"]!.ToString()];
        var question = new
        {
            id = Guid.CreateVersion7(),
            supplier = supplier["id"]!.ToString(),
            lines,
        };
        var said = await client.PostAsJsonAsync($"{at}/order/ask", question).Json();
        said["offers"]!.AsArray().Count.ShouldBe(2);
        await client.PostAsJsonAsync($"{at}/order/ask", question).Json();
        var order = await OrderAsync(client, at);
        order["lines"]!.AsArray().ShouldAllBe(l => l!["stage"]!.ToString() == "asked");
        order["splits"]![0]!["freight"]!.GetValue<decimal>().ShouldBe(12.5m);
        (await client.GetAsync(at).Json())["offers"]!.AsArray().Count.ShouldBe(2);

        await client.PostAsJsonAsync($"{at}/order/take", new { by = "cheapest" }).Json();
        // Bolts come in packs of two at 6.80: five of them cost three packs.
        (await StateAsync(client, at, bolts))["cost"]!
            .GetValue<decimal>()
            .ShouldBe(20.4m);
        var send = new
        {
            id = Guid.CreateVersion7(),
            supplier = supplier["id"]!.ToString(),
            lines,
            reasons = new Dictionary<string, string>(),
        };
        await client.PostAsJsonAsync($"{at}/order/send", send).Json();
        await client.PostAsJsonAsync($"{at}/order/send", send).Json();
        var sent = await StateAsync(client, at, seal);
        (sent["stage"]!.ToString(), sent["reference"]!.ToString()).ShouldBe(("expected", "P-0001"));
        (await client.GetAsync(at).Json())["orderMoves"]!.AsArray().Count.ShouldBe(6);
        // A second order of its own cannot be made of lines that are ordered.
        await client
            .PostAsJsonAsync(
                $"{at}/order/send",
                new
                {
                    id = Guid.CreateVersion7(),
                    send.supplier,
                    send.lines,
                    send.reasons,
                }
            )
            .Problem();

        var before = sent["expected"]!.ToString();
        time.Go(TimeSpan.FromDays(2));
        var follow = new { id = Guid.CreateVersion7(), send.supplier };
        (await client.PostAsJsonAsync($"{at}/order/follow", follow).Json())["moves"]!.AsArray().Count.ShouldBe(2);
        (await StateAsync(client, at, seal))["expected"]!.ToString().ShouldNotBe(before);
        (await client.PostAsJsonAsync($"{at}/order/follow", new { id = Guid.CreateVersion7(), send.supplier }).Json())["moves"]!
            .AsArray()
            .ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_sent_while_a_gate_is_shut()
    {
        var (client, at) = await NewCaseAsync();
        var heard = 0;
        using var listening = new Listening(async listener =>
        {
            while (listener.IsListening)
            {
                var context = await listener.GetContextAsync();
                heard++;
                context.Response.Close();
            }
        });
        var supplier = await SupplierAsync(client, listening.Address);
        var line = Line("big-end shells", 1, "rod-shells", l => l["supplier"] = supplier["name"]!.ToString());
        await client.PostAsJsonAsync($"{at}/order/lines", line).Json();
        var send = new
        {
            id = Guid.CreateVersion7(),
            supplier = supplier["id"]!.ToString(),
            lines = new[] { line["id"]!.ToString() },
            reasons = new Dictionary<string, string> { ["shaft-passed"] = "no time", ["pins-decided"] = "one size alone" },
        };
        (await client.PostAsJsonAsync($"{at}/order/send", send).Problem())["problems"]!.AsArray().Count.ShouldBe(2);
        heard.ShouldBe(0);
        (await StateAsync(client, at, line))["stage"]!.ToString().ShouldBe("wanted");
        var refused = await client.PostAsJsonAsync($"{at}/order/moves", Move(line, "ordered")).Problem();
        refused["problems"]!.AsArray().Select(p => p!["text"]!.ToString()).ShouldContain(t => t.Contains("is held", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(500, "{}")]
    [InlineData(301, "")]
    [InlineData(200, "not json")]
    [InlineData(200, "[]")]
    [InlineData(200, "{}")]
    [InlineData(200, "{\"offers\":null}")]
    [InlineData(
        200,
        "{\"offers\":[{\"line\":\"LINE\",\"partNumber\":\"1\",\"price\":-4,\"currency\":\"EUR\",\"pack\":1,\"days\":1,\"inStock\":true,\"remarks\":\"\"}]}"
    )]
    [InlineData(
        200,
        "{\"offers\":[{\"line\":\"LINE\",\"partNumber\":\"1\",\"price\":4,\"currency\":\"XXQ\",\"pack\":1,\"days\":1,\"inStock\":true,\"remarks\":\"\"}]}"
    )]
    public async Task What_no_supplier_says_changes_nothing(int status, string body)
    {
        var (client, at) = await NewCaseAsync();
        var line = Line("a filter");
        using var listening = Says(status, body.Replace("LINE", line["id"]!.ToString(), StringComparison.Ordinal));
        var supplier = await SupplierAsync(client, listening.Address);
        await client.PostAsJsonAsync($"{at}/order/lines", line).Json();
        await client
            .PostAsJsonAsync(
                $"{at}/order/ask",
                new
                {
                    id = Guid.CreateVersion7(),
                    supplier = supplier["id"]!.ToString(),
                    lines = new[] { line["id"]!.ToString() },
                }
            )
            .Problem();
        (await StateAsync(client, at, line))["stage"]!.ToString().ShouldBe("wanted");
        (await client.GetAsync(at).Json())["offers"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Whom_nobody_answers_for_is_told_and_whom_the_operator_does_not_allow_is_not_asked()
    {
        var (client, at) = await NewCaseAsync();
        var line = Line("a filter");
        await client.PostAsJsonAsync($"{at}/order/lines", line).Json();
        string gone;
        using (var listening = Says(200, "{}"))
        {
            gone = listening.Address;
        }

        var supplier = await SupplierAsync(client, gone);
        object Ask(JsonNode of) =>
            new
            {
                id = Guid.CreateVersion7(),
                supplier = of["id"]!.ToString(),
                lines = new[] { line["id"]!.ToString() },
            };
        (await client.PostAsJsonAsync($"{at}/order/ask", Ask(supplier)).Problem())["detail"]!.ToString().ShouldContain("Nothing was changed");
        var none = await SupplierAsync(client, "");
        (await client.PostAsJsonAsync($"{at}/order/ask", Ask(none)).Problem())["detail"]!.ToString().ShouldContain("Print the list");
        var refused = new
        {
            version = 0,
            name = "elsewhere",
            kind = "parts",
            address = "192.0.2.7:80",
            currency = "EUR",
            freight = 0,
            remarks = "",
        };
        (await client.PutAsJsonAsync($"/api/suppliers/{Guid.CreateVersion7()}", refused).Problem()).FirstField().ShouldBe("address");
    }

    [Fact]
    public async Task A_supplier_is_entered_once_and_changed_by_who_knows_what_stands()
    {
        using var client = await own.As(Roles.Mechanic);
        var supplier = await SupplierAsync(client, "");
        object Entry(int version, string currency, decimal freight) =>
            new
            {
                version,
                name = supplier["name"]!.ToString(),
                kind = "machineShop",
                address = "",
                currency,
                freight,
                remarks = "by boat",
            };
        (await client.PutAsJsonAsync($"/api/suppliers/{Guid.CreateVersion7()}", Entry(0, "EUR", 0)).Problem()).FirstField().ShouldBe("name");
        (await client.PutAsJsonAsync($"/api/suppliers/{supplier["id"]}", Entry(1, "ZZZ", 0)).Problem()).FirstField().ShouldBe("currency");
        (await client.PutAsJsonAsync($"/api/suppliers/{supplier["id"]}", Entry(1, "EUR", -1)).Problem()).FirstField().ShouldBe("freight");
        (await client.PutAsJsonAsync($"/api/suppliers/{supplier["id"]}", Entry(1, "gbp", 3)).Json())["currency"]!.ToString().ShouldBe("GBP");
        (await client.PutAsJsonAsync($"/api/suppliers/{supplier["id"]}", Entry(1, "EUR", 3))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await client.PostAsJsonAsync($"/api/suppliers/{supplier["id"]}/withdraw", new { why = "closed", version = 2 }).Json();
        (await client.GetAsync("/api/suppliers").Json()).AsArray().ShouldNotContain(s => s!["id"]!.ToString() == supplier["id"]!.ToString());
        using var viewer = await own.As(Roles.Viewer);
        (await viewer.PutAsJsonAsync($"/api/suppliers/{Guid.CreateVersion7()}", Entry(0, "EUR", 0))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    /// <summary>Ordered in millimetres, measured in inches: the wrong size in the right box stays out, the right one goes in.</summary>
    [Fact]
    public async Task What_came_is_measured_in_whatever_unit_before_it_is_let_in()
    {
        var (client, at) = await NewCaseAsync();
        var line = Line("pistons", 6, "piston", l => l["supplier"] = "by hand");
        line["wants"] = new JsonArray(Want("piston", "piston-diameter", 95.90, 96.10));
        await client.PostAsJsonAsync($"{at}/order/lines", line).Json();
        var test = new
        {
            id = Guid.CreateVersion7(),
            place = "CA",
            check = "crack-test",
            passed = true,
            testedBy = "a test house",
            remarks = "",
        };
        await client.PostAsJsonAsync($"{at}/examinations", test).Json();
        var pistons = Enumerable.Range(1, 6).ToArray();
        foreach (var n in pistons)
        {
            await client
                .PostAsJsonAsync(
                    $"{at}/verdicts",
                    new
                    {
                        id = Guid.CreateVersion7(),
                        place = $"C{n}",
                        course = "reuse",
                        reason = "sound",
                    }
                )
                .Json();
        }

        await client.PostAsJsonAsync($"{at}/order/moves", Move(line, "ordered")).Json();
        await client.PostAsJsonAsync($"{at}/order/moves", Move(line, "arrived", "STD")).Json();
        await client
            .PostAsJsonAsync(
                $"{at}/candidates",
                new
                {
                    id = Guid.CreateVersion7(),
                    version = 0,
                    letter = "",
                    what = "piston",
                    station = (int?)null,
                    name = "as they came",
                    from = "",
                    remarks = "",
                    line = line["id"]!.ToString(),
                }
            )
            .Json();
        async Task ReadAsync(string typed)
        {
            foreach (var n in pistons)
            {
                await client
                    .PostAsJsonAsync($"{at}/readings", CaseTests.Read($"P{n}.B", "piston-diameter", typed, confirmed: true, unit: "in"))
                    .Json();
            }
        }

        // 3.8 in is 96.52 mm.
        await ReadAsync("3.8");
        var receiving = (await StateAsync(client, at, line))["receiving"]!;
        receiving["refused"]!.ToString().ShouldContain("96.5");
        await client.PostAsJsonAsync($"{at}/order/moves", Move(line, "checked", note: "looks new")).Problem();
        await client.PostAsJsonAsync($"{at}/order/moves", Move(line, "sentBack", note: "too large")).Json();
    }

    [Fact]
    public async Task Bad_lines_are_refused_whole_and_what_is_sent_twice_stands_once()
    {
        var (client, at) = await NewCaseAsync();
        var good = Line("a seal");
        foreach (var (field, value) in new (string, JsonNode?)[] { ("price", -1), ("quantity", 0), ("course", "dream"), ("item", "flux") })
        {
            var bad = Line(
                "another",
                more: l =>
                {
                    l[field] = value;
                    l["currency"] = "EUR";
                }
            );
            (await client.PostAsJsonAsync($"{at}/order/lines/together", new[] { good, bad }).Problem()).FirstField().ShouldBe(field);
        }

        (await client.GetAsync(at).Json())["orderLines"]!.AsArray().ShouldBeEmpty();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => client.PostAsJsonAsync($"{at}/order/lines/together", new[] { good }).Json()));
        (await client.GetAsync(at).Json())["orderLines"]!.AsArray().Count.ShouldBe(1);
        var move = Move(good, "asked", id: Guid.CreateVersion7());
        await client.PostAsJsonAsync($"{at}/order/moves", move).Json();
        await client.PostAsJsonAsync($"{at}/order/moves", move).Json();
        (await client.GetAsync(at).Json())["orderMoves"]!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task Five_thousand_lines_are_taken_listed_and_printed()
    {
        var (client, at) = await NewCaseAsync();
        var lines = Enumerable
            .Range(0, 5000)
            .Select(n =>
                Line(
                    $"bolt {n}",
                    1 + (n % 9),
                    more: l =>
                    {
                        l["price"] = n / 100m;
                        l["currency"] = "EUR";
                    }
                )
            )
            .ToArray();
        await client.PostAsJsonAsync($"{at}/order/lines/together", lines).Json();
        (await OrderAsync(client, at))["cost"]!
            .GetValue<decimal>()
            .ShouldBe(lines.Sum(l => l["price"]!.GetValue<decimal>() * l["quantity"]!.GetValue<decimal>()));
        (await client.GetStringAsync($"{at}/order.csv")).Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(5001);
        using var sheet = new MemoryStream(await client.GetByteArrayAsync($"{at}/order.xlsx"));
        sheet.Query(useHeaderRow: true).Count().ShouldBe(5000);
        Pages(await client.GetByteArrayAsync($"{at}/order.pdf")).ShouldBeGreaterThan(80);
        var more = Enumerable.Range(0, 5001).Select(n => Line($"nut {n}")).ToArray();
        (await client.PostAsJsonAsync($"{at}/order/lines/together", more).Problem()).FirstField().ShouldBe("lines");
    }

    [Fact]
    public async Task The_machine_shop_gets_a_drawing_for_each_size()
    {
        var (client, at) = await NewCaseAsync();
        await client.GetAsync($"{at}/shop-order.pdf").Problem();
        JsonObject Work(string what, string course, string place, JsonObject want) =>
            Line(
                what,
                more: l =>
                {
                    l["kind"] = "machineShop";
                    l["course"] = course;
                    l["places"] = new JsonArray(place);
                    l["wants"] = new JsonArray(want);
                    l["supplier"] = "Grinders";
                }
            );
        JsonObject[] lines =
        [
            Work("grind pin 1", "grind", "K1", Want("crankpin", "crankpin-diameter", 71.49, 71.51)),
            Work("bore 1", "bore", "C1", Want("C1", "bore-diameter", 96.5, 96.52)),
            Work("skim", "skim", "H1", Want("head", "head-thickness", 90, null)),
            Line("straighten", more: l => l["kind"] = "specialist"),
        ];
        await client.PostAsJsonAsync($"{at}/order/lines/together", lines).Json();
        var all = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => client.GetByteArrayAsync($"{at}/shop-order.pdf")));
        all.Select(Pages).ShouldBe(Enumerable.Repeat(4, 6));
        Pages(await client.GetByteArrayAsync($"{at}/shop-order.pdf?supplier=grinders")).ShouldBe(4);
        await client.GetAsync($"{at}/shop-order.pdf?supplier=nobody").Problem();
    }

    [Fact]
    public void The_stand_in_makes_a_mistake_now_and_then_and_keeps_its_word()
    {
        var time = new HandTime();
        var supplier = new SimulatedSupplier(works: false, TimeSpan.FromSeconds(1), wrongEvery: 2, time);
        SupplierQuestionLine[] lines =
        [
            .. Enumerable.Range(1, 4).Select(n => new SupplierQuestionLine(Guid.CreateVersion7(), "piston", "renew", "0.50", $"piston {n}", "", 3)),
        ];
        var order = new SupplierOrders(Guid.CreateVersion7(), "Millrace 3", lines);
        var taken = supplier.Take(order);
        supplier.Take(order).Reference.ShouldBe(taken.Reference);
        supplier.Heard().Count().ShouldBe(2);
        supplier.Heard().ShouldBeEmpty();
        taken.Lines.ShouldAllBe(l => l.State == "confirmed" || l.State == "backOrder");
        time.Go(TimeSpan.FromMinutes(1));
        var there = supplier.Follow(taken.Reference)!;
        there.Lines.ShouldAllBe(l => l.State == "delivered" && l.Label == "0.50");
        there.Lines.Count(l => l.Count == 2).ShouldBe(1);
        supplier.Follow("P-9").ShouldBeNull();
        supplier.Offer(new SupplierQuestion("Millrace 3", lines)).Offers.Count.ShouldBe(4);
        var shop = new SimulatedSupplier(works: true, TimeSpan.FromSeconds(1), wrongEvery: 1, time);
        shop.Offer(new SupplierQuestion("Millrace 3", lines)).Offers.ShouldBeEmpty();
        shop.Take(order with { Lines = [lines[0] with { Course = "grind" }] });
        shop.Heard().Single().ShouldContain("piston 1");
    }
}
