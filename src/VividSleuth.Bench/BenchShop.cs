using System.Net.Http.Json;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using VividSleuth.Server.Shop;
using VividSleuth.Store.Shop;

namespace VividSleuth.Bench;

/// <summary>The server on a database of its own, with somebody signed in, and the same database bare.</summary>
internal sealed class BenchShop(WebApplicationFactory<Program> factory, HttpClient client, NpgsqlDataSource bare) : IAsyncDisposable
{
    private const string Password = "bench-figures-of-today";

    public HttpClient Client => client;

    public NpgsqlDataSource Bare => bare;

    public static async Task<BenchShop> OpenAsync()
    {
        var server =
            Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")
            ?? throw new InvalidOperationException("Set SLEUTH_TEST_DB to a PostgreSQL server, as ./bench does.");
        var connection = $"{server};Database=bench_{Guid.CreateVersion7():N}";
        var factory = new WebApplicationFactory<Program>().WithWebHostBuilder(b =>
            b.UseContentRoot(Path.Combine(Demo.Root, "src/VividSleuth.Server"))
                .UseSetting("ConnectionStrings:Sleuth", connection)
                .UseSetting("Logging:LogLevel:Default", "Warning")
        );
        var client = factory.CreateClient();
        using (var scope = factory.Services.CreateScope())
        {
            var people = scope.ServiceProvider.GetRequiredService<UserManager<Person>>();
            await People.AddAsync(people, scope.ServiceProvider.GetRequiredService<RoleManager<IdentityRole>>(), "bench", Password, Roles.Lead);
        }

        await SignInAsync(client);
        return new BenchShop(factory, client, NpgsqlDataSource.Create(connection));
    }

    /// <summary>As the first lead, with the code that the server has told.</summary>
    public static async Task EnterAsync(HttpClient client, string code) =>
        (
            await client.PostAsJsonAsync(
                "/api/invitations/use",
                new
                {
                    code,
                    name = "bench",
                    password = Password,
                }
            )
        ).EnsureSuccessStatusCode();

    private static async Task SignInAsync(HttpClient client)
    {
        (await client.PostAsJsonAsync("/api/sign-in", new { name = "bench", password = Password })).EnsureSuccessStatusCode();
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await bare.DisposeAsync();
        await factory.DisposeAsync();
    }
}
