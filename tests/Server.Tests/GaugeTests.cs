using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class GaugeTests(Shop shop)
{
    private static JsonObject Reading(string place, string characteristic, string typed, Action<JsonObject>? more = null)
    {
        var body = new JsonObject
        {
            ["id"] = Guid.CreateVersion7(),
            ["place"] = place,
            ["characteristic"] = characteristic,
            ["typed"] = typed,
            ["setUnit"] = "mm",
            ["instrument"] = "",
            ["temperature"] = null,
            ["corrects"] = null,
            ["confirmed"] = false,
        };
        more?.Invoke(body);
        return body;
    }

    private static JsonObject Instrument(string name, Action<JsonObject>? more = null)
    {
        var body = new JsonObject
        {
            ["id"] = Guid.CreateVersion7().ToString(),
            ["name"] = name,
            ["kind"] = "outsideMicrometer",
            ["quantity"] = "length",
            ["resolution"] = 0.001,
            ["permissibleError"] = 0.002,
            ["setWith"] = "",
            ["method"] = "",
            ["version"] = 0,
        };
        more?.Invoke(body);
        return body;
    }

    private static Task<HttpResponseMessage> Table(HttpClient client, string address, string csv) =>
        client.PostAsync(address, new StringContent(csv, Encoding.UTF8, "text/csv"));

    [Fact]
    public async Task A_reading_keeps_where_how_warm_and_who_read_it()
    {
        var (client, at) = await shop.NewCase();
        var taken = await client
            .PostAsJsonAsync(
                $"{at}/readings",
                Reading(
                    "C1",
                    "bore-diameter",
                    "4|12|3",
                    b =>
                    {
                        b["setUnit"] = "in";
                        b["station"] = "middle";
                        b["direction"] = "across";
                        b["temperature"] = 31.5;
                        b["gaugeTemperature"] = 20;
                        b["readBy"] = "ines";
                        b["phase"] = "afterWork";
                    }
                )
            )
            .Json();
        var read = taken["reading"]!;
        (read["typed"]!.ToString(), read["value"]!.GetValue<double>()).ShouldBe(("4|12|3", 109.2962));
        (read["station"]!.ToString(), read["direction"]!.ToString(), read["readBy"]!.ToString()).ShouldBe(("middle", "across", "ines"));
        var figure = (await client.GetAsync($"{at}/answers").Json())["gauge"]!["figures"]!.AsArray().Single()!;
        figure["phase"]!.ToString().ShouldBe("afterWork");
        taken["figures"]!.AsArray().Single()!.ToJsonString().ShouldBe(figure.ToJsonString(), "how it stands comes with the answer");
        // The warm bore is smaller at 20 °C.
        figure["value"]!.GetValue<double>().ShouldBeLessThan(109.29);
    }

    [Fact]
    public async Task A_correction_names_a_reading_of_the_same_place_and_the_old_one_stays()
    {
        var (client, at) = await shop.NewCase();
        var wrong = await client.PostAsJsonAsync($"{at}/readings", Reading("K1", "crankpin-diameter", "71.84")).Json();
        var id = wrong["reading"]!["id"]!.ToString();
        (await client.PostAsJsonAsync($"{at}/readings", Reading("K2", "crankpin-diameter", "71.48", b => b["corrects"] = id)).Problem())
            .FirstField()
            .ShouldBe("corrects");
        await client.PostAsJsonAsync($"{at}/readings", Reading("K1", "crankpin-diameter", "71.48", b => b["corrects"] = id)).Json();
        var record = await client.GetAsync(at).Json();
        record["readings"]!.AsArray().Select(r => r!["typed"]!.ToString()).ShouldBe(["71.84", "71.48"], ignoreOrder: true);
        (await client.GetAsync($"{at}/answers").Json())["gauge"]!["figures"]![0]!["value"]!.GetValue<double>().ShouldBe(71.48);
    }

    [Fact]
    public async Task A_reading_sent_again_is_written_once_and_not_held_against_itself()
    {
        var (client, at) = await shop.NewCase();
        foreach (var n in new[] { 1, 2, 3 })
        {
            await client.PostAsJsonAsync($"{at}/readings", Reading($"K{n}", "crankpin-diameter", "71.98")).Json();
        }

        var body = Reading("K4", "crankpin-diameter", "71.89");
        var first = await client.PostAsJsonAsync($"{at}/readings", body).Json();
        var other = await (await shop.As(Roles.Mechanic, shop.Other)).PostAsJsonAsync($"{at}/readings", body).Json();
        (other["reading"]!["id"]!.ToString(), other["reading"]!["version"]!.GetValue<int>()).ShouldBe((first["reading"]!["id"]!.ToString(), 1));
        (await client.GetAsync(at).Json())["readings"]!.AsArray().Count.ShouldBe(4);
        var question = await client.PostAsJsonAsync($"{at}/readings", Reading("K5", "crankpin-diameter", "79.18")).Problem();
        question.FirstField().ShouldBe("confirmed");
        question["title"]!.ToString().ShouldContain("swapped");
        question["detail"]!.ToString().ShouldContain("71.98");
    }

    [Theory]
    [InlineData("five", "typed")]
    [InlineData("NaN", "typed")]
    [InlineData("1e308", "typed")]
    [InlineData("-71.98", "typed")]
    [InlineData("20 bar", "typed")]
    [InlineData("7.2", "confirmed")]
    [InlineData("999999999", "typed")]
    public async Task Bad_figures_are_refused_with_their_field(string typed, string field)
    {
        var (client, at) = await shop.NewCase();
        (await client.PostAsJsonAsync($"{at}/readings", Reading("K1", "crankpin-diameter", typed)).Problem()).FirstField().ShouldBe(field);
        (await client.GetAsync(at).Json())["readings"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_budget_is_shown_line_by_line_and_adds_up()
    {
        var (client, at) = await shop.NewCase();
        var mic = Instrument($"mic {Guid.NewGuid()}");
        await client.PutAsJsonAsync($"/api/instruments/{mic["id"]}", mic).Json();
        var gauge = Instrument(
            $"gauge {Guid.NewGuid()}",
            b =>
            {
                b["kind"] = "boreGauge";
                b["setWith"] = mic["name"]!.ToString();
            }
        );
        await client.PutAsJsonAsync($"/api/instruments/{gauge["id"]}", gauge).Json();
        await client
            .PostAsJsonAsync($"{at}/readings", Reading("K4", "crankpin-diameter", "72", b => b["instrument"] = mic["name"]!.ToString()))
            .Json();
        await client
            .PostAsJsonAsync($"{at}/readings", Reading("R4", "shell-inside-diameter", "72.05", b => b["instrument"] = gauge["name"]!.ToString()))
            .Json();
        var budget = await client.GetAsync($"{at}/gauge/budget?place=R4&characteristic=big-end-clearance").Json();
        var lines = budget["lines"]!.AsArray();
        Math.Sqrt(lines.Sum(l => Math.Pow(l!["standard"]!.GetValue<double>(), 2))).ShouldBe(budget["standard"]!.GetValue<double>(), 1e-12);
        lines.Sum(l => l!["share"]!.GetValue<double>()).ShouldBe(1, 1e-9);
        // The micrometer that set the gauge and read the pin is in the budget, and has cancelled.
        lines.Single(l =>
            l!["name"]!.ToString().Contains(mic["name"]!.ToString(), StringComparison.Ordinal)
            && l["name"]!.ToString().StartsWith("permissible", StringComparison.Ordinal)
        )!["standard"]!
            .GetValue<double>()
            .ShouldBe(0, 1e-12);
        await client.GetAsync($"{at}/gauge/budget?place=R5&characteristic=big-end-clearance").Problem(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task An_instrument_is_changed_by_its_version_and_what_it_was_is_kept()
    {
        var client = await shop.As(Roles.Mechanic);
        var body = Instrument($"micrometer {Guid.NewGuid()}");
        var made = await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Json();
        made["version"]!.GetValue<int>().ShouldBe(1);
        (await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Json())["version"]!.GetValue<int>().ShouldBe(1);

        body["version"] = 1;
        body["permissibleError"] = 0.004;
        await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Json();
        await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Problem(HttpStatusCode.Conflict);
        var changes = (await client.GetAsync($"/api/instruments/{body["id"]}/changes").Json()).AsArray();
        JsonNode.Parse(changes[0]!["before"]!.ToString())!["permissibleError"]!.GetValue<double>().ShouldBe(0.002);

        var (_, at) = await shop.NewCase();
        await client
            .PostAsJsonAsync($"{at}/readings", Reading("K4", "crankpin-diameter", "72", b => b["instrument"] = body["name"]!.ToString()))
            .Json();
        body["version"] = 2;
        body["name"] = "another name";
        (await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Problem()).FirstField().ShouldBe("name");
    }

    [Theory]
    [InlineData("resolution", 0)]
    [InlineData("permissibleError", -1)]
    [InlineData("name", "")]
    [InlineData("setWith", "nothing of ours")]
    public async Task An_instrument_that_cannot_be_is_refused(string field, object value)
    {
        var client = await shop.As(Roles.Mechanic);
        var body = Instrument($"micrometer {Guid.NewGuid()}", b => b[field] = JsonValue.Create(value));
        (await client.PutAsJsonAsync($"/api/instruments/{body["id"]}", body).Problem()).FirstField().ShouldBe(field);
        (await (await shop.As(Roles.Viewer)).PutAsJsonAsync($"/api/instruments/{body["id"]}", body)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_coarse_instrument_is_warned_of_and_the_suited_come_first()
    {
        var (client, at) = await shop.NewCase();
        var rule = Instrument($"rule {Guid.NewGuid()}", b => (b["kind"], b["resolution"], b["permissibleError"]) = ("rule", 0.5, 0.5));
        await client.PutAsJsonAsync($"/api/instruments/{rule["id"]}", rule).Json();
        var fine = Instrument($"fine {Guid.NewGuid()}");
        await client.PutAsJsonAsync($"/api/instruments/{fine["id"]}", fine).Json();
        await client
            .PostAsJsonAsync(
                $"{at}/limits",
                new
                {
                    id = Guid.CreateVersion7(),
                    characteristic = "crankpin-diameter",
                    nominal = "72",
                    least = "-.03",
                    most = "0",
                    wear = "",
                    on = "",
                    setUnit = "mm",
                    source = "makersManual",
                    sourceText = "p. 4",
                }
            )
            .Problem();
        await client
            .PostAsJsonAsync(
                $"{at}/limits",
                new
                {
                    id = Guid.CreateVersion7(),
                    characteristic = "crankpin-diameter",
                    nominal = "72",
                    least = "-.03",
                    most = "72",
                    wear = "-.08",
                    on = "",
                    setUnit = "mm",
                    source = "makersManual",
                    sourceText = "p. 4",
                }
            )
            .Json();
        var choices = (await client.GetAsync($"{at}/gauge/instruments?characteristic=crankpin-diameter&kind=crankpin").Json()).AsArray();
        var names = choices.Select(c => c!["name"]!.ToString()).ToList();
        names.IndexOf(fine["name"]!.ToString()).ShouldBeLessThan(names.IndexOf(rule["name"]!.ToString()));
        choices.Single(c => c!["name"]!.ToString() == rule["name"]!.ToString())!["against"]!
            .AsArray()
            .ShouldContain(a => a!["serious"]!.GetValue<bool>());
    }

    [Fact]
    public async Task Tables_come_in_all_or_nothing_and_the_good_rows_when_asked()
    {
        var (client, at) = await shop.NewCase();
        const string csv =
            "\uFEFFcharacteristic;nominal;most;source_text\r\nbore-diameter;120,000;120,022;p. 3\r\ncrankpin-diameter;zweiundsiebzig;;p. 4\r\n";
        var refused = await Table(client, $"{at}/gauge/limits.csv?keepGood=false", csv).Json();
        (refused["added"]!.GetValue<int>(), refused["bad"]!.GetValue<int>()).ShouldBe((0, 1));
        (refused["problems"]![0]!["row"]!.GetValue<int>(), refused["problems"]![0]!["column"]!.ToString()).ShouldBe((3, "nominal"));
        (await client.GetAsync(at).Json())["limits"]!.AsArray().ShouldBeEmpty();
        (await Table(client, $"{at}/gauge/limits.csv?keepGood=true", csv).Json())["added"]!.GetValue<int>().ShouldBe(1);
        var limit = (await client.GetAsync(at).Json())["limits"]!.AsArray().Single()!;
        limit["most"]!.GetValue<double>().ShouldBe(120.022);

        var readings = await Table(
                client,
                $"{at}/gauge/readings.csv",
                "place,characteristic,station,direction,typed\nC1,bore-diameter,middle,across,120.03\nC2,bore-diameter,middle,across,120.04\n"
            )
            .Json();
        readings["added"]!.GetValue<int>().ShouldBe(2);
        var again = await client.GetStringAsync($"{at}/gauge/readings.csv");
        again.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(3);
        (await client.GetStringAsync($"{at}/gauge/limits.csv")).ShouldContain("bore-diameter,,mm,120,");
    }

    [Fact]
    public async Task A_hostile_table_is_refused_as_a_whole_with_its_row()
    {
        var (client, at) = await shop.NewCase();
        var many = "place,characteristic,typed\n" + string.Concat(Enumerable.Repeat("C1,bore-diameter,120.03\n", 200_000));
        (await Table(client, $"{at}/gauge/readings.csv", many).Problem())["title"]!.ToString().ShouldContain("Row 20002");
        (await Table(client, $"{at}/gauge/readings.csv", new string('x', 9_000_000)).Problem()).FirstField().ShouldBe("file");
        var latin = new ByteArrayContent([.. "characteristic,source_text\nbore-diameter,Seite f"u8, 0xFC, (byte)'r']);
        latin.Headers.ContentType = new("text/csv");
        (await client.PostAsync($"{at}/gauge/limits.csv", latin).Problem())["title"]!.ToString().ShouldContain("UTF-8");
        (await client.GetAsync(at).Json())["readings"]!.AsArray().ShouldBeEmpty();
    }

    /// <summary>Reference: openpyxl (Debian: python3-openpyxl) opens the spreadsheet and reads the same figures.</summary>
    [Fact]
    public async Task The_spreadsheet_is_read_by_another_program_with_the_same_figures()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/readings", Reading("K4", "crankpin-diameter", "71.9835")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Reading("R4", "shell-inside-diameter", "72.05")).Json();
        var file = Path.GetTempFileName() + ".xlsx";
        await File.WriteAllBytesAsync(file, await client.GetByteArrayAsync($"{at}/gauge/sheet.xlsx"));
        const string script =
            "import sys,json,openpyxl\n"
            + "w=openpyxl.load_workbook(sys.argv[1],data_only=True)\n"
            + "r=list(w['Sheet'].iter_rows(values_only=True))\n"
            + "print(json.dumps([w.sheetnames,[dict(zip(r[0],x)) for x in r[1:]],w['Readings'].max_row]))";
        using var python = Process.Start(
            new ProcessStartInfo("/usr/bin/python3", ["-c", script, file]) { RedirectStandardOutput = true, UseShellExecute = false }
        )!;
        var told = JsonNode.Parse(await python.StandardOutput.ReadToEndAsync())!;
        File.Delete(file);
        told[0]!.AsArray().Select(n => n!.ToString()).ShouldBe(["Sheet", "Readings"]);
        told[2]!.GetValue<int>().ShouldBe(3);
        var rows = told[1]!.AsArray().ToDictionary(r => r!["characteristic"]!.ToString(), r => r!["value"]!.GetValue<double>());
        rows["crankpin-diameter"].ShouldBe(71.9835);
        rows["big-end-clearance"].ShouldBe(0.0665, 1e-9);
        var csv = await client.GetStringAsync($"{at}/gauge/sheet.csv");
        csv.ShouldContain("R4,big-end-clearance,Big-end clearance,asFound,0.0665,");
    }

    [Fact]
    public async Task The_film_is_reckoned_when_speed_oil_and_load_are_known()
    {
        var (client, at) = await shop.NewCase();
        (await client.GetAsync($"{at}/gauge/film").Problem()).FirstField().ShouldBe("rated-speed");
        foreach (
            var (place, id, typed) in new[]
            {
                ("EN", "rated-speed", "1500"),
                ("EN", "oil-viscosity", "11"),
                ("EN", "big-end-load", "9 kN"),
                ("K4", "crankpin-diameter", "72"),
                ("R4", "shell-inside-diameter", "72.06"),
                ("R4U", "shell-width", "38"),
            }
        )
        {
            await client
                .PostAsJsonAsync(
                    $"{at}/readings",
                    Reading(
                        place,
                        id,
                        typed,
                        b =>
                            b["setUnit"] = id switch
                            {
                                "rated-speed" => "rpm",
                                "oil-viscosity" => "mPas",
                                "big-end-load" => "N",
                                _ => "mm",
                            }
                    )
                )
                .Json();
        }

        var film = (await client.GetAsync($"{at}/gauge/film").Json()).AsArray().Single()!;
        film["place"]!.ToString().ShouldBe("R4");
        film["results"]![0]!["value"]!.GetValue<double>().ShouldBeInRange(0.001, 0.03);
    }

    [Fact]
    public async Task Schools_are_a_leads_and_change_the_answer()
    {
        var lead = await shop.As(Roles.Lead);
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/readings", Reading("P1T", "ring-end-gap", "0.45")).Json();
        await client.PostAsJsonAsync($"{at}/readings", Reading("P1N", "ring-end-gap", "0.30")).Json();
        async Task<int> Notes() => (await client.GetAsync($"{at}/answers").Json())["gauge"]!["notes"]!.AsArray().Count;
        (await Notes()).ShouldBe(1);
        async Task<JsonNode> Set(Action<JsonNode> change, HttpStatusCode expected = HttpStatusCode.OK)
        {
            var settings = await lead.GetAsync("/api/settings").Json();
            change(settings);
            return await lead.PutAsJsonAsync("/api/settings", settings).Json(expected);
        }

        await Set(s => s["schools"]!["secondGap"] = "mayBeSmaller");
        (await Notes()).ShouldBe(0);
        await Set(s => s["schools"]!["secondGap"] = "notSmaller");
        await Set(s => s["schools"]!["grindingAllowance"] = 40, HttpStatusCode.UnprocessableEntity);
        await Set(s => s["gaugeAddress"] = "no port", HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_reckoner_answers_without_a_case_and_names_a_bad_field()
    {
        var client = await shop.As(Roles.Viewer);
        var all = (await client.GetAsync("/api/reckoners").Json()).AsArray();
        all.Count.ShouldBeGreaterThan(20);
        var ratio = all.Single(r => r!["id"]!.ToString() == "ratio")!;
        var typed = ratio["inputs"]!.AsArray().ToDictionary(i => i!["id"]!.ToString(), i => i!["example"]!.ToString());
        (await client.PostAsJsonAsync("/api/reckoners/ratio", new { typed }).Json())[0]!["value"]!.GetValue<double>().ShouldBe(9.19, 0.01);
        typed["bore"] = "wide";
        (await client.PostAsJsonAsync("/api/reckoners/ratio", new { typed }).Problem()).FirstField().ShouldBe("bore");
        await client.PostAsJsonAsync("/api/reckoners/none", new { typed }).Problem(HttpStatusCode.NotFound);
    }

    private static async Task<List<JsonNode>> ListenAsync(HttpClient client, int news)
    {
        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        using var response = await client.GetAsync("/api/gauge/stream", HttpCompletionOption.ResponseHeadersRead, cancel.Token);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("text/event-stream");
        using var reader = new StreamReader(await response.Content.ReadAsStreamAsync(cancel.Token));
        var told = new List<JsonNode>();
        while (told.Count < news && await reader.ReadLineAsync(cancel.Token) is { } line)
        {
            if (line.StartsWith("data: ", StringComparison.Ordinal))
            {
                told.Add(JsonNode.Parse(line[6..])!);
            }
        }

        return told;
    }

    /// <summary>Where no gauge is set nothing is invented: it is said, and nothing is entered.</summary>
    [Fact]
    public async Task Without_a_gauge_there_is_none_and_one_that_the_operator_did_not_allow_is_not_called()
    {
        var lead = await shop.As(Roles.Lead);
        (await lead.GetAsync("/api/gauge/stream").Problem())["title"]!.ToString().ShouldContain("No gauge is set");
        (await (await shop.As(Roles.Viewer)).GetAsync("/api/gauge/stream")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        foreach (var field in new[] { "gaugeAddress", "printerAddress" })
        {
            var settings = await lead.GetAsync("/api/settings").Json();
            settings[field] = "192.0.2.7:80";
            var problem = await lead.PutAsJsonAsync("/api/settings", settings).Problem();
            problem.FirstField().ShouldBe(field);
            problem["detail"]!.ToString().ShouldContain("Devices:Allowed");
            settings[field] = "somewhere";
            (await lead.PutAsJsonAsync("/api/settings", settings).Problem()).FirstField().ShouldBe(field);
        }
    }

    /// <summary>A gauge in the network, played here: it speaks, breaks off in the middle of a line, and is called again.</summary>
    [Fact]
    public async Task A_gauge_in_the_network_is_called_again_when_its_line_breaks()
    {
        var lead = await shop.As(Roles.Lead);
        using var gauge = new TcpListener(IPAddress.Loopback, 0);
        gauge.Start();
        var port = ((IPEndPoint)gauge.LocalEndpoint).Port;
        var calls = 0;
        var serving = Task.Run(async () =>
        {
            foreach (var lines in new[] { "gauge 1 mm G\nread 1 75.001 mm\nread 2 75.0", "gauge 1 mm G\nread 3 75.003 mm\n" })
            {
                using var client = await gauge.AcceptTcpClientAsync();
                calls++;
                await client.GetStream().WriteAsync(Encoding.UTF8.GetBytes(lines));
                await client.GetStream().FlushAsync();
                await Task.Delay(200);
            }
        });
        async Task Address(string address)
        {
            var settings = await lead.GetAsync("/api/settings").Json();
            settings["gaugeAddress"] = address;
            await lead.PutAsJsonAsync("/api/settings", settings).Json();
        }

        await Address($"127.0.0.1:{port}");
        try
        {
            var told = await ListenAsync(lead, 6);
            told.Where(n => n["kind"]!.ToString() == "reading").Select(n => n["typed"]!.ToString()).ShouldBe(["75.001 mm", "75.003 mm"]);
            told.Where(n => n["kind"]!.ToString() == "reading").Select(n => n["from"]!.ToString()).Distinct().ShouldBe([$"G, 127.0.0.1:{port}"]);
            told.ShouldContain(n => n["kind"]!.ToString() == "gone");
            calls.ShouldBe(2);
        }
        finally
        {
            await Address("");
        }

        await serving;
    }

    private static async Task<JsonNode> NewStudy(HttpClient client, string instrument, string id)
    {
        var plan = new JsonObject
        {
            ["name"] = "pins of this bench",
            ["characteristic"] = "crankpin-diameter",
            ["instrument"] = instrument,
            ["unit"] = "mm",
            ["parts"] = new JsonArray("one", "two", "three"),
            ["people"] = new JsonArray("Ada", "Ben"),
            ["trials"] = 2,
            ["version"] = 0,
        };
        return await client.PutAsJsonAsync($"/api/gauge-studies/{id}", plan).Json();
    }

    /// <summary>Two people write into a study at once, one request comes twice, and what it comes to goes into the instrument and its figures.</summary>
    [Fact]
    public async Task A_study_by_two_people_at_once_goes_into_the_instrument()
    {
        var (client, at) = await shop.NewCase();
        var name = $"Micrometer {Guid.CreateVersion7():N}";
        var instrument = Instrument(name);
        await client.PutAsJsonAsync($"/api/instruments/{instrument["id"]}", instrument).Json();
        var id = Guid.CreateVersion7().ToString();
        (await NewStudy(client, name, id))["missing"]!.GetValue<int>().ShouldBe(12);
        (await NewStudy(client, name, id))["study"]!["version"]!.GetValue<int>().ShouldBe(1);
        (await client.PostAsync($"/api/gauge-studies/{id}/take-over", null)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        string[] parts = ["one", "two", "three"];
        var entries = (
            from person in new[] { "Ada", "Ben" }
            from trial in new[] { 1, 2 }
            from p in Enumerable.Range(0, 3)
            select new JsonObject
            {
                ["id"] = Guid.CreateVersion7(),
                ["part"] = parts[p],
                ["person"] = person,
                ["trial"] = trial,
                ["typed"] = $"71.9{p}{(person == "Ada" ? 2 : 5)}{trial}",
            }
        ).ToArray();
        await Task.WhenAll(
            entries.Concat(entries.Take(3)).Select(async e => await client.PostAsJsonAsync($"/api/gauge-studies/{id}/readings", e.DeepClone()).Json())
        );
        var study = (await client.GetFromJsonAsync<JsonArray>("/api/gauge-studies"))!.Single(s => s!["study"]!["id"]!.ToString() == id)!;
        study["missing"]!.GetValue<int>().ShouldBe(0);
        study["study"]!["readings"]!.AsArray().Count.ShouldBe(12);
        study["answer"]!["reproducibility"]!.GetValue<double>().ShouldBe(0.003 / Math.Sqrt(2), 0.0001);

        await client.PostAsJsonAsync($"{at}/readings", Reading("K1", "crankpin-diameter", "71.98", b => b["instrument"] = name)).Json();
        async Task<double> Expanded() =>
            (await client.GetFromJsonAsync<JsonObject>($"{at}/gauge/budget?place=K1&characteristic=crankpin-diameter"))![
                "expanded"
            ]!.GetValue<double>();
        var before = await Expanded();
        var taken = await client.PostAsync($"/api/gauge-studies/{id}/take-over", null).Json();
        taken["studied"]!.AsArray().Count.ShouldBe(1);
        (await client.PostAsync($"/api/gauge-studies/{id}/take-over", null).Json())["version"]!.ToString().ShouldBe(taken["version"]!.ToString());
        (await Expanded()).ShouldBeGreaterThan(before + 0.002);
        // A cell that is typed again counts, and what was taken over can be taken over anew.
        var mended = entries[0].DeepClone();
        (mended["id"], mended["typed"]) = (Guid.CreateVersion7(), "71.9090");
        await client.PostAsJsonAsync($"/api/gauge-studies/{id}/readings", mended).Json();
        var anew = await client.PostAsync($"/api/gauge-studies/{id}/take-over", null).Json();
        anew["studied"]!.AsArray().Single()!["repeatability"]!
            .GetValue<double>()
            .ShouldBeGreaterThan(taken["studied"]![0]!["repeatability"]!.GetValue<double>() * 2);
        taken = anew;
        // Changing the instrument does not lose what was learned of it.
        instrument["version"] = taken["version"]!.GetValue<int>();
        instrument["permissibleError"] = 0.003;
        (await client.PutAsJsonAsync($"/api/instruments/{instrument["id"]}", instrument).Json())["studied"]!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task A_reading_of_no_cell_and_a_plan_that_tells_nothing_are_refused()
    {
        var (client, _) = await shop.NewCase();
        var id = Guid.CreateVersion7().ToString();
        await NewStudy(client, "any", id);
        async Task<string> Refused(string part, string typed)
        {
            var answer = await client.PostAsJsonAsync(
                $"/api/gauge-studies/{id}/readings",
                new JsonObject
                {
                    ["id"] = Guid.CreateVersion7(),
                    ["part"] = part,
                    ["person"] = "Ada",
                    ["trial"] = 1,
                    ["typed"] = typed,
                }
            );
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            return await answer.Content.ReadAsStringAsync();
        }

        (await Refused("four", "71.9")).ShouldContain("no part");
        (await Refused("one", "about right")).ShouldNotBeEmpty();
        (await Refused("one", "+.01")).ShouldNotBeEmpty();
        var alone = await client.PutAsJsonAsync(
            $"/api/gauge-studies/{Guid.CreateVersion7()}",
            new JsonObject
            {
                ["name"] = "alone",
                ["characteristic"] = "crankpin-diameter",
                ["instrument"] = "any",
                ["unit"] = "mm",
                ["parts"] = new JsonArray("one", "two"),
                ["people"] = new JsonArray("Ada"),
                ["trials"] = 2,
                ["version"] = 0,
            }
        );
        alone.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }
}
