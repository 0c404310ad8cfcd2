using System.Collections.Concurrent;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>
/// Thousands of bodies made of the description of the interface, right in most and wrong in some place, over all operations and in every role: none
/// is the server's failure, and every case can be read afterwards. The same bodies each time; more with SLEUTH_FUZZ=20000.
/// </summary>
public sealed class FuzzTests(OwnShop own) : IClassFixture<OwnShop>
{
    private static readonly int Bodies = int.TryParse(Environment.GetEnvironmentVariable("SLEUTH_FUZZ"), out var told) ? told : 6_000;

    private static readonly JsonNode Document = JsonNode.Parse(File.ReadAllText(Path.Combine(ApiContractTests.Root(), "docs", "openapi.json")))!;

    /// <summary>These would end the session of the test or have no end.</summary>
    private static readonly string[] LeftOut = ["/sign-out", "sign-out-everywhere", "/events", "stream"];

    private sealed record Operation(string Method, string Path, JsonNode Item);

    private static Operation[] Operations() =>
        [
            .. Document["paths"]!
                .AsObject()
                .SelectMany(p => p.Value!.AsObject().Select(m => new Operation(m.Key, p.Key, m.Value!)))
                .Where(o => o.Method is "get" or "post" or "put" && !LeftOut.Any(l => o.Path.Contains(l, StringComparison.Ordinal))),
        ];

    [Fact]
    public async Task No_body_is_the_servers_failure_and_every_case_can_be_read_afterwards()
    {
        var clients = new Dictionary<string, HttpClient>
        {
            [""] = own.One.CreateClient(),
            [Roles.Viewer] = await own.As(Roles.Viewer),
            [Roles.Mechanic] = await own.As(Roles.Mechanic),
            [Roles.Lead] = await own.As(Roles.Lead),
        };
        var cases = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Shop.CaseAsync(clients[Roles.Mechanic])));
        var known = await KnownAsync(clients[Roles.Mechanic], cases[0]);
        var operations = Operations();
        var failures = new ConcurrentBag<string>();
        var by = new ConcurrentDictionary<int, int>();
        await Parallel.ForEachAsync(
            Enumerable.Range(0, Bodies),
            new ParallelOptions { MaxDegreeOfParallelism = 6 },
            async (n, cancel) =>
            {
                var random = new Random(n);
                var operation = operations[n % operations.Length];
                // A mechanic's most, since a stranger's end at the door.
                var role = random.Next(10) switch
                {
                    0 => "",
                    1 => Roles.Viewer,
                    < 5 => Roles.Lead,
                    _ => Roles.Mechanic,
                };
                var body = new Maker(random, known, cases[random.Next(cases.Length)].Split('/')[^1]);
                using var request = body.Request(operation.Method, operation.Path, operation.Item);
                using var answer = await clients[role].SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
                by.AddOrUpdate((int)answer.StatusCode, 1, (_, c) => c + 1);
                if ((int)answer.StatusCode >= 500)
                {
                    failures.Add($"{(int)answer.StatusCode} {role} {operation.Method} {request.RequestUri} {body.Text}");
                }
            }
        );
        failures.Take(5).ShouldBeEmpty($"{failures.Count} of {Bodies}");
        // Enough of them were right to reach what lies behind the door.
        by.GetValueOrDefault(200).ShouldBeGreaterThan(Bodies / 6);
        by.GetValueOrDefault(422).ShouldBeGreaterThan(Bodies / 20);
        foreach (var at in cases)
        {
            foreach (
                var read in new[]
                {
                    "",
                    "/answers",
                    "/dossier",
                    "/export",
                    "/gauge/sheet.csv",
                    "/gauge/sheet.xlsx",
                    "/gauge/readings.csv",
                    "/gauge/limits.csv",
                }
            )
            {
                (await clients[Roles.Lead].GetAsync($"{at}{read}")).StatusCode.ShouldBe(HttpStatusCode.OK, $"{at}{read}");
            }
        }

        (await clients[Roles.Lead].GetAsync("/api/cases")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>Words that are right somewhere, by the name of the field.</summary>
    private static async Task<Dictionary<string, string[]>> KnownAsync(HttpClient client, string at)
    {
        var knowledge = await client.GetAsync("/api/knowledge").Json();
        var answers = await client.GetAsync($"{at}/answers?rooms=section,strip").Json();
        string[] Ids(JsonNode? list) => [.. list!.AsArray().Select(x => x!["id"]!.ToString())];
        string[] places = [.. answers["section"]!["cells"]!.AsArray().Select(c => c!["address"]!.ToString())];
        var characteristics = Ids(knowledge["characteristics"]);
        return new Dictionary<string, string[]>
        {
            ["place"] = places,
            ["places"] = places,
            ["target"] = places,
            ["first"] = places,
            ["second"] = places,
            ["tag"] = places,
            ["sign"] = Ids(knowledge["signs"]),
            ["characteristic"] = characteristics,
            ["step"] = [.. answers["strip"]!["steps"]!.AsArray().Select(s => s!["id"]!.ToString())],
            ["typed"] = ["71.98", "0.05", "2.097 in", "21 thou", "+.003", "1e3", "-4"],
            ["setUnit"] = ["mm", "in", "kPa", "g"],
            ["rooms"] = ["strip,look", "trace", "gauge,verdict"],
            ["role"] = [.. Roles.All],
            ["page"] = ["a4-24", "tape"],
            ["kind"] = ["crankshaft", "piston"],
        };
    }

    private sealed class Maker(Random random, Dictionary<string, string[]> known, string caseId)
    {
        private const string HalfACharacter = "HALF-A-CHARACTER";

        public string Text { get; private set; } = "";

        public HttpRequestMessage Request(string method, string path, JsonNode operation)
        {
            var parameters = operation["parameters"]?.AsArray() ?? [];
            foreach (var parameter in parameters.Where(p => p!["in"]?.ToString() == "path"))
            {
                var name = parameter!["name"]!.ToString();
                var value =
                    name is "caseId" || (name == "id" && path.StartsWith("/api/cases/{id}", StringComparison.Ordinal))
                        ? (random.Next(20) == 0 ? Guid.NewGuid().ToString() : caseId)
                        : Word(name);
                path = path.Replace($"{{{name}}}", Uri.EscapeDataString(value.Replace('\0', ' ')), StringComparison.Ordinal);
            }

            var query = parameters
                .Where(p => p!["in"]?.ToString() == "query" && random.Next(5) > 0)
                .Select(p => $"{p!["name"]}={Uri.EscapeDataString(Scalar(p["name"]!.ToString(), p["schema"]!))}");
            var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), $"{path}?{string.Join('&', query)}");
            if (operation["requestBody"]?["content"]?.AsObject() is { Count: > 0 } content)
            {
                var (type, media) = content.First();
                request.Content = type switch
                {
                    "multipart/form-data" => Form(media!["schema"]!),
                    "text/csv" => new StringContent(
                        $"place,characteristic,typed,source_text\n{Word("place")},{Word("characteristic")},{Word("typed")},\"{Word("")}\"\n",
                        Encoding.UTF8,
                        type
                    ),
                    "application/octet-stream" => new ByteArrayContent(new byte[random.Next(2000)]) { Headers = { ContentType = new(type) } },
                    _ => Json(media!["schema"]!),
                };
            }

            return request;
        }

        private StringContent Json(JsonNode schema)
        {
            Text = (Value("", schema, 0)?.ToJsonString() ?? "null").Replace(HalfACharacter, "\\ud800", StringComparison.Ordinal);
            // Cut off now and then, and of another type.
            var text = random.Next(60) == 0 ? Text[..random.Next(Text.Length)] : Text;
            return new StringContent(text, Encoding.UTF8, random.Next(80) == 0 ? "text/plain" : "application/json");
        }

        private MultipartFormDataContent Form(JsonNode schema)
        {
            var form = new MultipartFormDataContent();
            foreach (var (name, of) in Properties(schema))
            {
                if (name == "file")
                {
                    var bytes = new byte[random.Next(400)];
                    random.NextBytes(bytes);
                    form.Add(new ByteArrayContent(bytes), "file", "a.jpg");
                }
                else
                {
                    form.Add(new StringContent(Scalar(name, of)), name);
                }
            }

            return form;
        }

        private static IEnumerable<(string Name, JsonNode Of)> Properties(JsonNode schema)
        {
            schema = Resolved(schema);
            return (schema["allOf"]?.AsArray().Select(s => s!) ?? [schema]).SelectMany(s =>
                Resolved(s)["properties"]?.AsObject().Select(p => (p.Key, p.Value!)) ?? []
            );
        }

        private static JsonNode Resolved(JsonNode schema)
        {
            for (var i = 0; i < 8; i++)
            {
                if (schema["$ref"] is { } reference)
                {
                    schema = Document["components"]!["schemas"]![reference.ToString().Split('/')[^1]]!;
                }
                else if (schema["oneOf"]?.AsArray() is { Count: > 0 } choices)
                {
                    schema = choices[^1]!;
                }
                else
                {
                    break;
                }
            }

            return schema;
        }

        private JsonNode? Value(string name, JsonNode given, int depth)
        {
            var wrong = random.Next(40);
            if (wrong == 0)
            {
                return Odd();
            }

            var schema = Resolved(given);
            var type = schema["type"] is JsonArray several
                ? several.Select(t => t!.ToString()).FirstOrDefault(t => t != "null")
                : schema["type"]?.ToString();
            if (schema["type"] is JsonArray && random.Next(3) == 0)
            {
                return null;
            }

            if (schema["enum"]?.AsArray() is { Count: > 0 } members)
            {
                return JsonValue.Create(members[random.Next(members.Count)]?.ToString() ?? "");
            }

            return type switch
            {
                "object" when schema["properties"] is null && schema["allOf"] is null => new JsonObject
                {
                    [Word(name)] = Value("", schema["additionalProperties"] as JsonObject ?? new JsonObject(), depth + 1),
                },
                "object" => depth > 6
                    ? new JsonObject()
                    : new JsonObject(
                        Properties(schema).Where(_ => random.Next(50) > 0).Select(p => KeyValuePair.Create(p.Name, Value(p.Name, p.Of, depth + 1)))
                    ),
                "array" => depth > 6
                    ? []
                    : new JsonArray([
                        .. Enumerable.Range(0, random.Next(4)).Select(_ => Value(name, schema["items"] ?? new JsonObject(), depth + 1)),
                    ]),
                "boolean" => JsonValue.Create(random.Next(2) == 0),
                "integer" => JsonValue.Create(Whole()),
                "number" => Number(),
                _ => JsonValue.Create(Word(name, schema["format"]?.ToString())),
            };
        }

        private JsonNode? Odd() =>
            random.Next(9) switch
            {
                0 => null,
                1 => JsonValue.Create(1e308),
                2 => JsonValue.Create("a\0b"),
                3 => JsonValue.Create(HalfACharacter),
                4 => new JsonArray(null, null),
                5 => new JsonObject { ["a"] = 1 },
                6 => JsonValue.Create(new string('x', random.Next(30_000))),
                7 => JsonValue.Create(long.MaxValue),
                _ => JsonValue.Create("NaN"),
            };

        private int Whole() =>
            random.Next(6) switch
            {
                0 => 0,
                1 => -1,
                2 => int.MaxValue,
                _ => random.Next(1, 9),
            };

        private JsonValue Number() =>
            random.Next(8) switch
            {
                0 => JsonValue.Create(-1.5m),
                1 => JsonValue.Create(79228162514264337593543950335m),
                2 => JsonValue.Create(0.0000000000000000000000000001m),
                3 => JsonValue.Create(0m),
                _ => JsonValue.Create(Math.Round((decimal)(random.NextDouble() * 200), 4)),
            };

        private string Scalar(string name, JsonNode schema) =>
            random.Next(12) == 0 ? new[] { "NaN", "", "-1", "1e400", "\0", "true", "☃" }[random.Next(7)]
            : Resolved(schema)["enum"]?.AsArray() is { Count: > 0 } members ? members[random.Next(members.Count)]?.ToString() ?? ""
            : Value(name, schema, 0) is JsonValue value ? value.ToString()
            : "1";

        private string Word(string name, string? format = null) =>
            random.Next(25) == 0
                ? new[] { "", " ", "a\0b", "<script>", "../..", "'; drop table cases; --", "ﷺ👩‍🔧", "6\u202E9", new string('y', 5000) }[
                    random.Next(9)
                ]
            : format == "uuid" || name is "id" or "corrects" or "photo" or "standing" ? Guid.NewGuid().ToString()
            : format == "date" ? "2026-11-0" + random.Next(1, 10)
            : format == "date-time" ? "2026-11-20T10:00:00Z"
            : known.TryGetValue(name, out var words) ? words[random.Next(words.Length)]
            : $"{name} {random.Next(100)}";
    }
}
