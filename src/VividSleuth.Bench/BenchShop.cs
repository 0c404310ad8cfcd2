using System.Net.Http.Json;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Npgsql;

namespace VividSleuth.Bench;

/// <summary>The server on a database of its own, with somebody signed in, and the same database bare.</summary>
internal sealed class BenchShop(WebApplicationFactory<Program> factory, HttpClient client, NpgsqlDataSource bare) : IAsyncDisposable
{
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
        await SignInAsync(client);
        return new BenchShop(factory, client, NpgsqlDataSource.Create(connection));
    }

    public static async Task SignInAsync(HttpClient client)
    {
        await client.PostAsJsonAsync("/api/first-lead", new { name = "bench", password = "bench-password" });
        (await client.PostAsJsonAsync("/api/sign-in", new { name = "bench", password = "bench-password" })).EnsureSuccessStatusCode();
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await bare.DisposeAsync();
        await factory.DisposeAsync();
    }
}
