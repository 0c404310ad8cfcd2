using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>
/// Every operation of the OpenAPI document, sent what nobody should send: none fails as a fault of the server, and each refusal says what to do.
/// </summary>
public sealed class ApiContractTests(OwnShop shop) : IClassFixture<OwnShop>
{
    private static readonly JsonNode Document = JsonNode.Parse(File.ReadAllText(Path.Combine(Root(), "docs", "openapi.json")))!;

    private static readonly string[] Bodies =
    [
        "",
        "null",
        "[]",
        "{}",
        "{",
        "\"text\"",
        "{\"id\":null}",
        "{\"id\":\"not-a-guid\"}",
        "{\"id\":\"0194f0d0-0000-7000-8000-000000000001\",\"version\":-1,\"place\":\"ZZ99\",\"why\":\"\",\"text\":\"\",\"name\":\"\"}",
        "{\"unknown\":{\"deep\":[1,2,{\"a\":null}]}}",
    ];

    internal static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "VividSleuth.slnx")))
        {
            folder = folder.Parent!;
        }

        return folder.FullName;
    }

    /// <summary>Method and address of each operation; parameters of the path are filled with what is not there.</summary>
    public static TheoryData<string, string> Operations()
    {
        var data = new TheoryData<string, string>();
        foreach (var (path, item) in Document["paths"]!.AsObject())
        {
            foreach (var (method, _) in item!.AsObject().Where(m => m.Key is "get" or "post" or "put" or "delete" or "patch"))
            {
                // Signing out would end the session of the test, and a stream has no end.
                if (!path.EndsWith("/sign-out", StringComparison.Ordinal) && !path.Contains("stream", StringComparison.Ordinal))
                {
                    data.Add(method, path);
                }
            }
        }

        return data;
    }

    private static string Filled(string path, string seed) =>
        System.Text.RegularExpressions.Regex.Replace(
            path,
            @"\{(?<name>\w+)(:[^}]*)?\}",
            m =>
                m.Groups["name"].Value switch
                {
                    "seed" => seed,
                    "size" => "view",
                    _ => "0194f0d0-0000-7000-8000-00000000abcd",
                },
            System.Text.RegularExpressions.RegexOptions.ExplicitCapture,
            TimeSpan.FromSeconds(1)
        );

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task Whatever_is_sent_the_answer_is_an_answer(string method, string path)
    {
        using var client = await shop.As(Roles.Lead);
        foreach (var body in method == "get" ? [""] : Bodies)
        {
            using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), Filled(path, "0"));
            if (method != "get")
            {
                request.Content = new StringContent(body, Encoding.UTF8, "application/json");
            }

            using var response = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken);
            ((int)response.StatusCode).ShouldBeLessThan(500, $"{method} {path} with {body}");
            if (!response.IsSuccessStatusCode)
            {
                response.Content.Headers.ContentType?.MediaType.ShouldBe("application/problem+json", $"{method} {path} with {body}");
                var problem = JsonNode.Parse(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!;
                problem["title"]!.ToString().ShouldNotBeEmpty();
                problem["status"]!.GetValue<int>().ShouldBe((int)response.StatusCode);
            }
        }
    }

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task Who_is_not_signed_in_gets_nothing_but_the_door(string method, string path)
    {
        string[] open =
        [
            "/api/sign-in",
            "/api/setup",
            "/api/me",
            "/api/passkey/ask",
            "/api/passkey/sign-in",
            "/api/invitations/look",
            "/api/invitations/use",
            "/api/bags/check",
        ];
        if (open.Contains(path))
        {
            return;
        }

        using var client = shop.One.CreateClient();
        using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), Filled(path, "1"));
        if (method != "get")
        {
            request.Content = Body(path);
        }

        using var response = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken);
        // The address of a calendar, or of a shared dossier, is itself the key, and this is none; what is sent to it is read first.
        response.StatusCode.ShouldBeOneOf(
            path == "/api/feeds/{key}.ics" || path.StartsWith("/api/shared/{key}", StringComparison.Ordinal)
                ? [HttpStatusCode.NotFound, HttpStatusCode.BadRequest]
                : [HttpStatusCode.Unauthorized]
        );
        (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldNotContain("\"id\"");
    }

    /// <summary>A body of the kind that an operation takes.</summary>
    internal static HttpContent Body(string path) =>
        path.EndsWith(".csv", StringComparison.Ordinal) ? new StringContent("a,b", Encoding.UTF8, "text/csv")
        : path.EndsWith("/pieces", StringComparison.Ordinal)
            ? new ByteArrayContent([1]) { Headers = { ContentType = new("application/octet-stream") } }
        : path.EndsWith("/photos", StringComparison.Ordinal) || path.EndsWith("/sounds", StringComparison.Ordinal)
            ? new MultipartFormDataContent { { new StringContent("x"), "place" } }
        : new StringContent("{}", Encoding.UTF8, "application/json");

    /// <summary>A viewer may look at everything and write nothing, whatever the operation.</summary>
    [Theory]
    [MemberData(nameof(Operations))]
    public async Task A_viewer_writes_nothing(string method, string path)
    {
        // Practice keeps nothing on the server, and a person may change what is his own.
        string[] free =
        [
            "/api/sign-in",
            "/api/setup",
            "/api/passkey/ask",
            "/api/passkey/sign-in",
            "/api/invitations/look",
            "/api/invitations/use",
            "/api/practice/{seed}/commit",
            "/api/practice/sounds/{seed}/guess",
            "/api/practice/pictures/{seed}/measure",
            "/api/practice/pictures/{seed}/guess",
            // Checks what it is given, and keeps nothing of it.
            "/api/bags/check",
            // Whoever has the key says so, and nobody of the shop.
            "/api/shared/{key}/answers",
        ];
        if (method == "get" || free.Contains(path) || path == "/api/sign-out" || path.StartsWith("/api/me/", StringComparison.Ordinal))
        {
            return;
        }

        using var client = await shop.As(Roles.Viewer);
        using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), Filled(path, "1")) { Content = Body(path) };
        using var response = await client.SendAsync(request, TestContext.Current.CancellationToken);
        // A reckoner or a preview works out what it is given and writes nothing.
        var reckons = path.Contains("reckoners", StringComparison.Ordinal) || path.Contains("preview", StringComparison.Ordinal);
        response.StatusCode.ShouldBeOneOf(
            HttpStatusCode.Forbidden,
            reckons ? HttpStatusCode.BadRequest : HttpStatusCode.Forbidden,
            reckons ? HttpStatusCode.NotFound : HttpStatusCode.Forbidden
        );
    }
}
