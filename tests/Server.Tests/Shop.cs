using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Server.Shop;
using VividSleuth.Server.Tests;
using VividSleuth.Store.Shop;

[assembly: AssemblyFixture(typeof(Shop))]

namespace VividSleuth.Server.Tests;

/// <summary>A shop on a real PostgreSQL: a database of its own for the run, and two instances of the application beside each other on it.</summary>
public sealed class Shop : IAsyncLifetime
{
    public const string Password = "a-long-password";

    private readonly string _server =
        Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")
        ?? throw new InvalidOperationException("Set SLEUTH_TEST_DB to a PostgreSQL server, as ./test does.");

    private readonly string _name = $"run_{Guid.CreateVersion7():N}";

    private readonly SemaphoreSlim _copying = new(1);

    public WebApplicationFactory<Program> One { get; private set; } = null!;

    public WebApplicationFactory<Program> Other { get; private set; } = null!;

    public static JsonObject Six { get; } =
        new()
        {
            ["arrangement"] = "inline",
            ["cylinders"] = 6,
            ["cycle"] = "fourStroke",
            ["bearings"] = "plain",
            ["numbering"] = "alongTheCrank",
            ["numberOneEnd"] = "freeEnd",
            ["rotation"] = "clockwise",
            ["firingOrder"] = new JsonArray(1, 5, 3, 6, 2, 4),
            ["bankAOnTheLeft"] = true,
            ["oilFeedEnd"] = "freeEnd",
            ["ringsPerPiston"] = 3,
            ["valveGear"] = "overhead",
            ["inletValves"] = 1,
            ["exhaustValves"] = 1,
            ["fuel"] = "carburettor",
            ["cooling"] = "liquid",
            ["case"] = "block",
            ["gearboxInCase"] = false,
        };

    private string Fresh => $"{_name}_fresh";

    public async ValueTask InitializeAsync()
    {
        await Run($"create database {Fresh}");
        await using (var first = Instance(Fresh))
        {
            await LetInAsync(first);
        }

        // Copied only while nobody is connected to it.
        NpgsqlConnection.ClearAllPools();
        await Run($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{Fresh}'");
        await CopyAsync(_name);
        One = Instance();
        Other = Instance();
    }

    public async ValueTask DisposeAsync()
    {
        await One.DisposeAsync();
        await Other.DisposeAsync();
        NpgsqlConnection.ClearAllPools();
        await Run($"drop database {_name} with (force)");
        await Run($"drop database {Fresh} with (force)");
    }

    /// <summary>A shop of its own, with the roles as people: a copy, since to make one anew takes seconds.</summary>
    public async Task CopyAsync(string database)
    {
        await _copying.WaitAsync();
        try
        {
            await Run($"create database {database} template {Fresh}");
        }
        finally
        {
            _copying.Release();
        }
    }

    /// <param name="ahead">By how much its clock is wrong.</param>
    public WebApplicationFactory<Program> Instance(string? database = null, TimeSpan? ahead = null) =>
        new WebApplicationFactory<Program>().WithWebHostBuilder(b =>
            b.UseSetting("ConnectionStrings:Sleuth", $"{_server};Database={database ?? _name}")
                .UseSetting("Logging:LogLevel:Default", "None")
                .UseSetting("Logging:LogLevel:VividSleuth.Security", "None")
                .UseSetting("Logging:LogLevel:Microsoft.AspNetCore.Diagnostics.ExceptionHandlerMiddleware", "Error")
                .UseSetting("Devices:Allowed:0", "127.0.0.1:*")
                .ConfigureServices(s =>
                {
                    s.AddSingleton<IStartupFilter, Addresses>();
                    s.Configure<PasswordHasherOptions>(o => o.IterationCount = 1_000);
                    if (ahead is { } by)
                    {
                        var clock = new HandTime();
                        clock.Go(by);
                        s.AddSingleton<TimeProvider>(clock);
                    }
                })
        );

    /// <summary>The roles as people of a fresh database.</summary>
    public static async Task LetInAsync(WebApplicationFactory<Program> instance)
    {
        using var scope = instance.Services.CreateScope();
        var people = scope.ServiceProvider.GetRequiredService<UserManager<Person>>();
        var roles = scope.ServiceProvider.GetRequiredService<RoleManager<IdentityRole>>();
        foreach (var role in Roles.All)
        {
            await People.AddAsync(people, roles, role, Password, role);
        }
    }

    public string ConnectionTo(string database) => $"{_server};Database={database}";

    public async Task Run(string sql, string? connection = null)
    {
        await using var source = NpgsqlDataSource.Create($"{connection ?? ConnectionTo("postgres")};Pooling=false");
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    public async Task<HttpClient> As(string role, WebApplicationFactory<Program>? instance = null)
    {
        var at = instance ?? One;
        var signedIn = await _signedIn.GetOrAdd((at, role), key => new Lazy<Task<IEnumerable<string>>>(() => SignInAsync(key.At, key.Role))).Value;
        var client = at.CreateDefaultClient(at.ClientOptions.BaseAddress);
        client.DefaultRequestHeaders.Add("Cookie", signedIn);
        return client;
    }

    /// <summary>Hashing a password takes its time: each role signs in once at each instance.</summary>
    private readonly ConcurrentDictionary<(WebApplicationFactory<Program> At, string Role), Lazy<Task<IEnumerable<string>>>> _signedIn = new();

    private static async Task<IEnumerable<string>> SignInAsync(WebApplicationFactory<Program> instance, string role)
    {
        using var client = instance.CreateDefaultClient(instance.ClientOptions.BaseAddress);
        var answer = await client.PostAsJsonAsync("/api/sign-in", new { name = role, password = Password });
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        return [.. answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0])];
    }

    /// <summary>A mechanic's client and the address of a fresh case of an inline six.</summary>
    public async Task<(HttpClient Client, string Case)> NewCase()
    {
        var client = await As(Roles.Mechanic);
        return (client, await CaseAsync(client));
    }

    /// <summary>The address of a fresh case, of an inline six where no layout is given.</summary>
    public static async Task<string> CaseAsync(HttpClient client, string title = "Test", JsonNode? layout = null)
    {
        var id = Guid.CreateVersion7();
        var body = new JsonObject
        {
            ["id"] = id,
            ["title"] = title,
            ["engineName"] = "Test six",
            ["owner"] = "",
            ["layout"] = layout?.DeepClone() ?? Six.DeepClone(),
        };
        (await client.PostAsJsonAsync("/api/cases", body)).StatusCode.ShouldBe(HttpStatusCode.OK);
        return $"/api/cases/{id}";
    }
}

/// <summary>Requests of the tests come from where they say, since there is no network between.</summary>
internal sealed class Addresses : IStartupFilter
{
    public const string Header = "X-From";

    public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
        app =>
        {
            app.Use(
                (context, go) =>
                {
                    context.Connection.RemoteIpAddress ??= IPAddress.Parse(
                        context.Request.Headers.TryGetValue(Header, out var from) ? from.ToString() : "127.0.0.1"
                    );
                    return go(context);
                }
            );
            next(app);
        };
}

/// <summary>A shop of its own for tests that change what all cases of a shop come to: a fresh database, and two instances on it.</summary>
public sealed class OwnShop(Shop shop) : IAsyncLifetime
{
    private readonly string _name = $"own_{Guid.CreateVersion7():N}";

    public WebApplicationFactory<Program> One { get; private set; } = null!;

    public WebApplicationFactory<Program> Other { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        await shop.CopyAsync(_name);
        One = shop.Instance(_name);
        Other = shop.Instance(_name);
    }

    public async ValueTask DisposeAsync()
    {
        await One.DisposeAsync();
        await Other.DisposeAsync();
        NpgsqlConnection.ClearAllPools();
        await shop.Run($"drop database {_name} with (force)");
    }

    public Task<HttpClient> As(string role, bool other = false) => shop.As(role, other ? Other : One);

    public Task Run(string sql, string? connection = null) => shop.Run(sql, connection);

    public string Connection => ConnectionTo(_name);

    public string ConnectionTo(string database) => shop.ConnectionTo(database);

    /// <summary>One more, whose clock is wrong.</summary>
    public WebApplicationFactory<Program> Ahead(TimeSpan by) => shop.Instance(_name, by);

    public WebApplicationFactory<Program> Instance(string database, params (string Key, string Value)[] settings) =>
        shop.Instance(database).WithWebHostBuilder(b => Array.ForEach(settings, s => b.UseSetting(s.Key, s.Value)));
}

internal static class Answers
{
    public static async Task<JsonNode> Json(this Task<HttpResponseMessage> sent, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var response = await sent;
        var text = await response.Content.ReadAsStringAsync();
        response.StatusCode.ShouldBe(expected, text);
        return text.Length > 0 ? JsonNode.Parse(text)! : new JsonObject();
    }

    /// <summary>The problem details of a refused request; every one says what is wrong and what to do.</summary>
    public static async Task<JsonNode> Problem(this Task<HttpResponseMessage> sent, HttpStatusCode expected = HttpStatusCode.UnprocessableEntity)
    {
        var response = await sent;
        var text = await response.Content.ReadAsStringAsync();
        response.StatusCode.ShouldBe(expected, text);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        var problem = JsonNode.Parse(text)!;
        problem["title"]!.ToString().ShouldNotBeEmpty();
        problem["detail"]!.ToString().ShouldNotBeEmpty();
        return problem;
    }

    public static string FirstField(this JsonNode problem) => problem["problems"]![0]!["field"]!.ToString();

    /// <summary>
    /// How the server answers whoever knows its last answer. What belongs to the shop is in the tag and tests beside this one write to the shop, so it is
    /// asked anew as long as the tag is another.
    /// </summary>
    public static async Task<HttpStatusCode> AskedAgain(Func<string?, Task<(string? Tag, HttpStatusCode Status)>> ask)
    {
        for (var tries = 0; ; tries++)
        {
            var (known, _) = await ask(null);
            var (tag, status) = await ask(known);
            if (tag == known || tries == 50)
            {
                return status;
            }
        }
    }
}

/// <summary>Time that goes on only by hand.</summary>
internal sealed class HandTime : TimeProvider
{
    private DateTimeOffset _now = new(2026, 11, 24, 8, 0, 0, TimeSpan.Zero);

    public override DateTimeOffset GetUtcNow() => _now;

    public void Go(TimeSpan by) => _now += by;
}
