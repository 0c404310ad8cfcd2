using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;

namespace VividSleuth.Bench;

/// <summary>An instance in a process of its own, with the demo shop.</summary>
internal sealed class Instance(Process process, Uri address, string database) : IAsyncDisposable
{
    public string Database => database;

    public static async Task<Instance> StartAsync(string database)
    {
        using var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        var address = new Uri($"http://127.0.0.1:{((IPEndPoint)probe.LocalEndpoint).Port}");
        probe.Stop();
        var process = Process.Start(
            new ProcessStartInfo("dotnet")
            {
                UseShellExecute = false,
                ArgumentList =
                {
                    Path.Combine(Demo.Root, "src/VividSleuth.Server/bin/Release/net10.0/VividSleuth.Server.dll"),
                    "--urls",
                    $"{address}",
                    "--contentRoot",
                    Path.Combine(Demo.Root, "src/VividSleuth.Server"),
                    "--demo",
                    Path.Combine(Demo.Root, "demo/cases"),
                },
                Environment = { ["ConnectionStrings__Sleuth"] = database, ["Logging__LogLevel__VividSleuth.Security"] = "None" },
            }
        )!;
        var instance = new Instance(process, address, database);
        using var client = instance.Client(null);
        for (var tries = 0; ; tries++)
        {
            try
            {
                (await client.GetAsync("/health/ready")).EnsureSuccessStatusCode();
                return instance;
            }
            catch (HttpRequestException) when (tries < 600)
            {
                await Task.Delay(100);
            }
        }
    }

    public HttpClient Client(CookieContainer? cookies) =>
        new(new SocketsHttpHandler { UseCookies = cookies is not null, CookieContainer = cookies ?? new CookieContainer() })
        {
            BaseAddress = address,
            Timeout = TimeSpan.FromSeconds(100),
        };

    public async Task<HttpClient> SignedInAsync(string name)
    {
        var client = Client(new CookieContainer());
        (await client.PostAsJsonAsync("/api/sign-in", new { name, password = $"demo-{name}-bench" })).EnsureSuccessStatusCode();
        return client;
    }

    /// <summary>The most that the process ever held in memory. Source: proc(5), VmHWM.</summary>
    public double PeakMegabytes() =>
        double.Parse(
            File.ReadLines($"/proc/{process.Id}/status")
                .Single(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1]
        ) / 1024;

    public async ValueTask DisposeAsync()
    {
        process.Kill();
        await process.WaitForExitAsync();
        process.Dispose();
    }
}
