using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using NetArchTest.Rules;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class ShopTests(Shop shop)
{
    [Fact]
    public async Task Health_and_the_number_of_a_request_are_told_without_sign_in()
    {
        using var client = shop.One.CreateClient();
        foreach (var path in new[] { "/health/live", "/health/ready" })
        {
            var told = await client.GetAsync(path, TestContext.Current.CancellationToken);
            told.StatusCode.ShouldBe(HttpStatusCode.OK);
            (await told.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldBe("Healthy");
        }

        var refused = await client.GetAsync("/api/cases", TestContext.Current.CancellationToken);
        refused.Headers.GetValues("X-Request-Id").ShouldHaveSingleItem().Length.ShouldBeGreaterThan(8);
    }

    [Fact]
    public async Task Who_is_not_signed_in_sees_nothing()
    {
        using var client = shop.One.CreateClient();
        await client.GetAsync("/api/cases").Problem(HttpStatusCode.Unauthorized);
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        var problem = await client
            .PostAsJsonAsync("/api/sign-in", new { name = Roles.Lead, password = "wrong" })
            .Problem(HttpStatusCode.Unauthorized);
        problem["title"]!.ToString().ShouldContain("do not fit");
    }

    [Fact]
    public async Task A_viewer_reads_and_does_not_write()
    {
        using var viewer = await shop.As(Roles.Viewer);
        await viewer.GetAsync("/api/cases").Json();
        await viewer.PostAsJsonAsync("/api/cases", new { }).Problem(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_cookie_of_one_instance_is_good_at_the_other()
    {
        using var one = shop.One.CreateDefaultClient();
        var signedIn = await one.PostAsJsonAsync("/api/sign-in", new { name = Roles.Lead, password = Shop.Password });
        using var other = shop.Other.CreateDefaultClient();
        other.DefaultRequestHeaders.Add("Cookie", signedIn.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]));
        (await other.GetAsync("/api/me").Json())["role"]!.ToString().ShouldBe(Roles.Lead);
    }

    [Fact]
    public async Task Unknown_addresses_and_unreadable_requests_are_problems_too()
    {
        using var client = await shop.As(Roles.Mechanic);
        await client.GetAsync($"/api/cases/{Guid.CreateVersion7()}").Problem(HttpStatusCode.NotFound);
        var nothing = await client.GetAsync("/api/no/such/thing");
        nothing.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        nothing.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        using var garbage = new StringContent("{", System.Text.Encoding.UTF8, "application/json");
        await client.PostAsync("/api/cases", garbage).Problem(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task The_words_of_the_trade_are_served()
    {
        using var client = await shop.As(Roles.Viewer);
        var knowledge = await client.GetAsync("/api/knowledge").Json();
        knowledge["signs"]!.AsArray().Count.ShouldBeGreaterThan(30);
        knowledge["kinds"]!.AsArray().ShouldContain(k => k!["id"]!.ToString() == "rod");
        await client.GetAsync("/api/instruments").Json();
    }

    /// <summary>design.md: dependencies point inward, Server → Store → Core.</summary>
    [Fact]
    public void Dependencies_point_inward()
    {
        Types
            .InAssembly(typeof(EngineCase).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny(
                "Microsoft.EntityFrameworkCore",
                "Microsoft.AspNetCore",
                "Npgsql",
                "VividSleuth.Store",
                "VividSleuth.Server",
                "System.IO.File"
            )
            .GetResult()
            .IsSuccessful.ShouldBeTrue();
        Types
            .InAssembly(typeof(SleuthDb).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny("VividSleuth.Server", "Microsoft.AspNetCore.Http", "Microsoft.AspNetCore.Builder")
            .GetResult()
            .IsSuccessful.ShouldBeTrue();
    }

    /// <summary>design.md: the same room names in every layer.</summary>
    [Fact]
    public void The_eight_rooms_are_in_core_and_server()
    {
        string[] rooms = ["Arrival", "Strip", "Index", "Look", "Gauge", "Trace", "Verdict", "Dossier"];
        foreach (var assembly in new[] { typeof(EngineCase).Assembly, typeof(Program).Assembly })
        {
            var spaces = assembly.GetTypes().Select(t => t.Namespace?.Split('.').Last()).ToHashSet();
            rooms.ShouldAllOfSomeBe(r => spaces.Contains(r));
        }
    }
}
