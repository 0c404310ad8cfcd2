using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>What holds for every request and every answer. Sources: OWASP ASVS 5 (V3, V4, V5), W3C Fetch Metadata, RFC 9110.</summary>
public sealed class GatekeepingTests(Shop shop)
{
    private static readonly object NoCase = new { };

    [Theory]
    [InlineData("Sec-Fetch-Site", "cross-site", true)]
    [InlineData("Sec-Fetch-Site", "same-site", true)]
    [InlineData("Sec-Fetch-Site", "same-origin", false)]
    [InlineData("Origin", "http://localhost:9999", true)]
    [InlineData("Origin", "https://localhost", true)]
    [InlineData("Origin", "null", true)]
    [InlineData("Origin", "http://localhost", false)]
    public async Task What_another_site_sends_is_not_taken(string header, string value, bool refused)
    {
        using var client = await shop.As(Roles.Mechanic);
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/cases") { Content = JsonContent.Create(NoCase) };
        request.Headers.Add(header, value);
        var answer = await client.SendAsync(request, TestContext.Current.CancellationToken);
        answer.StatusCode.ShouldBe(refused ? HttpStatusCode.Forbidden : HttpStatusCode.BadRequest);
        using var read = new HttpRequestMessage(HttpMethod.Get, "/api/cases");
        read.Headers.Add(header, value);
        (await client.SendAsync(read, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_name_that_is_not_ours_is_not_answered()
    {
        using var client = shop.One.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/setup");
        request.Headers.Host = "rebound.example";
        (await client.SendAsync(request, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Theory]
    [InlineData("/", HttpStatusCode.OK, false)]
    [InlineData("/cases/anything/strip", HttpStatusCode.OK, false)]
    [InlineData("/sw.js", HttpStatusCode.OK, false)]
    [InlineData("/api/setup", HttpStatusCode.OK, true)]
    [InlineData("/api/me", HttpStatusCode.Unauthorized, true)]
    [InlineData("/api/cases", HttpStatusCode.Unauthorized, true)]
    [InlineData("/api/no/such.thing", HttpStatusCode.NotFound, true)]
    [InlineData("/api", HttpStatusCode.NotFound, true)]
    [InlineData("/health/live", HttpStatusCode.OK, true)]
    [InlineData("/health/secret", HttpStatusCode.NotFound, true)]
    public async Task Every_answer_says_what_a_browser_may_do_with_it(string path, HttpStatusCode status, bool data)
    {
        using var client = shop.One.CreateClient();
        var answer = await client.GetAsync(path, TestContext.Current.CancellationToken);
        answer.StatusCode.ShouldBe(status);
        string Header(string name) => answer.Headers.TryGetValues(name, out var values) ? values.Single() : "";
        Header("X-Content-Type-Options").ShouldBe("nosniff");
        Header("Referrer-Policy").ShouldBe("same-origin");
        Header("Permissions-Policy").ShouldContain("geolocation=()");
        var policy = Header("Content-Security-Policy");
        policy.ShouldContain("base-uri 'none'");
        policy.ShouldContain("form-action");
        policy.ShouldContain(data ? "default-src 'none'" : "object-src 'none'");
        answer.Headers.CacheControl!.ToString().ShouldContain(data ? "no-store" : "no-cache");
        answer.Headers.Contains("Server").ShouldBeFalse();
        (answer.Content.Headers.ContentType?.MediaType == "text/html").ShouldBe(path is "/" or "/cases/anything/strip");
    }

    /// <summary>On the real server: the one of the other tests has no limits of size.</summary>
    [Fact]
    public async Task Bodies_are_as_large_as_they_need_to_be()
    {
        await using var instance = shop.Instance();
        instance.UseKestrel(0);
        instance.StartServer();
        using var stranger = instance.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = instance.ClientOptions.BaseAddress });
        async Task<HttpStatusCode> Sends(HttpClient client, string path, int bytes, string type = "application/json", bool told = true)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, path)
            {
                Content = new StringContent($"{{\"name\":\"{new string('x', bytes)}\",\"password\":\"\"}}", Encoding.UTF8, type),
            };
            request.Headers.TransferEncodingChunked = !told;
            // Else what is refused unread is still being sent when the line is closed, and the answer is not read.
            request.Headers.ExpectContinue = bytes > 1_000_000;
            var answer = await client.SendAsync(request, TestContext.Current.CancellationToken);
            return answer.StatusCode;
        }

        (await Sends(stranger, "/api/sign-in", 300)).ShouldBe(HttpStatusCode.Unauthorized);
        (await Sends(stranger, "/api/sign-in", 20_000)).ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        (await Sends(stranger, "/api/sign-in", 20_000, told: false)).ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        using var mechanic = await shop.As(Roles.Mechanic, instance);
        (await Sends(mechanic, "/api/cases", 900_000)).ShouldBe(HttpStatusCode.BadRequest);
        // Where somebody must be signed in, that is what is told: what waits on a device is not too large because a session has ended.
        (await Sends(stranger, "/api/cases", 20_000)).ShouldBe(HttpStatusCode.Unauthorized);
        (await Sends(mechanic, "/api/cases", 1_200_000)).ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        (await Sends(mechanic, "/api/cases/import", 1_200_000)).ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_body_that_cannot_be_read_says_what_is_wrong_with_it()
    {
        var (client, at) = await shop.NewCase();
        using var plain = new StringContent("hello", Encoding.UTF8, "text/plain");
        await client.PostAsync($"{at}/findings", plain).Problem(HttpStatusCode.UnsupportedMediaType);
        using var broken = new StringContent("{\"id\": 7}", Encoding.UTF8, "application/json");
        var problem = await client.PostAsync($"{at}/findings", broken).Problem(HttpStatusCode.BadRequest);
        problem.FirstField().ShouldContain("id");
        problem["problems"]![0]!["text"]!.ToString().ShouldNotBeEmpty();
        using var choice = new StringContent(
            "{\"id\": \"019cd5d1-0000-7000-8000-000000000001\", \"place\": \"P1\", \"sign\": \"x\", \"seen\": 1, \"level\": 1, \"spot\": \"\", \"note\": \"\"}",
            Encoding.UTF8,
            "application/json"
        );
        (await client.PostAsync($"{at}/findings", choice).Problem(HttpStatusCode.BadRequest)).FirstField().ShouldContain("seen");
    }

    [Fact]
    public async Task What_no_text_can_hold_is_refused_with_its_field_in_a_body_in_the_address_and_in_a_form()
    {
        var (client, at) = await shop.NewCase();
        var finding = CaseTests.Saw("P1", "skirt-scuff-thrust", 1);
        var text = System.Text.Json.JsonSerializer.Serialize(finding).Replace("\"note\":\"", "\"note\":\"a\\u0000b");
        using var body = new StringContent(text, Encoding.UTF8, "application/json");
        (await client.PostAsync($"{at}/findings", body).Problem()).FirstField().ShouldBe("note");
        (await client.GetAsync($"{at}/scan?tag=a%00b").Problem()).FirstField().ShouldBe("tag");
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Guid.CreateVersion7().ToString()), "id" },
            { new StringContent("P1"), "place" },
            { new StringContent("a\0b"), "caption" },
            { new ByteArrayContent([1, 2, 3]), "file", "a.jpg" },
        };
        (await client.PostAsync($"{at}/photos", form).Problem()).FirstField().ShouldBe("caption");
        var title = new
        {
            id = Guid.CreateVersion7(),
            title = new string('x', 500_000),
            engineName = "E",
            owner = "",
            layout = Shop.Six.DeepClone(),
        };
        (await client.PostAsJsonAsync("/api/cases", title).Problem()).FirstField().ShouldBe("title");
    }

    /// <summary>What the database says, by its codes (PostgreSQL, appendix A).</summary>
    [Theory]
    [InlineData("22021", 422)]
    [InlineData("22P05", 422)]
    [InlineData("23503", 422)]
    [InlineData("23505", 409)]
    [InlineData("54000", 422)]
    [InlineData("57P01", 503)]
    [InlineData("57014", 503)]
    [InlineData("53300", 503)]
    [InlineData("53100", 507)]
    [InlineData("40P01", 503)]
    public async Task What_the_database_refuses_is_told_as_what_it_is(string code, int status)
    {
        var said = new PostgresException("it said so", "ERROR", "ERROR", code, constraintName: "FK_photo_marks_photos_Photo");
        foreach (
            var thrown in new Exception[] { said, new DbUpdateException("not saved", said), new InvalidOperationException("while reading", said) }
        )
        {
            var context = new DefaultHttpContext { RequestServices = shop.One.Services, Response = { Body = new MemoryStream() } };
            (await new ProblemHandler().TryHandleAsync(context, thrown, CancellationToken.None)).ShouldBeTrue();
            context.Response.StatusCode.ShouldBe(status);
            context.Response.Body.Position = 0;
            var told = await new StreamReader(context.Response.Body).ReadToEndAsync(TestContext.Current.CancellationToken);
            told.ShouldContain("\"title\"");
            told.ShouldNotContain("it said so");
            (status == 422).ShouldBe(told.Contains("\"field\":\"photo\"", StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task A_person_has_a_few_streams_of_a_case_and_no_more()
    {
        var (client, at) = await shop.NewCase();
        var open = new List<HttpResponseMessage>();
        for (var i = 0; i < 24; i++)
        {
            open.Add(await client.GetAsync($"{at}/events", HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken));
        }

        open.ShouldAllOfSomeBe(r => r.StatusCode == HttpStatusCode.OK);
        await client.GetAsync($"{at}/events", HttpCompletionOption.ResponseHeadersRead).Problem(HttpStatusCode.TooManyRequests);
        using var another = await shop.As(Roles.Lead);
        (await another.GetAsync($"{at}/events", HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );
        open.ForEach(r => r.Dispose());
    }
}
