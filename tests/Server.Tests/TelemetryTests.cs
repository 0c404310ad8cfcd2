using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Logging;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>Figures and traces reach a collector over OTLP, which a stand-in plays here: HTTP/2 without TLS, as gRPC sends it.</summary>
public sealed class TelemetryTests(OwnShop own) : IClassFixture<OwnShop>
{
    [Fact]
    public async Task Requests_answers_queues_and_pictures_are_told_to_the_collector()
    {
        var told = new ConcurrentBag<(string Path, string Body)>();
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(k => k.Listen(IPAddress.Loopback, 0, l => l.Protocols = HttpProtocols.Http2));
        await using var collector = builder.Build();
        collector.Run(async context =>
        {
            using var body = new MemoryStream();
            await context.Request.Body.CopyToAsync(body);
            told.Add((context.Request.Path, Encoding.Latin1.GetString(body.ToArray())));
            context.Response.ContentType = "application/grpc";
            // An empty message: five bytes of frame and nothing in it.
            await context.Response.Body.WriteAsync(new byte[5]);
            context.Response.AppendTrailer("grpc-status", "0");
        });
        await collector.StartAsync(TestContext.Current.CancellationToken);
        var database = new Npgsql.NpgsqlConnectionStringBuilder(own.Connection).Database!;
        var metrics = () => Bodies("MetricsService/Export");
        var names = new[] { "http.server.request.duration", "sleuth.answer.time", "sleuth.picture.time", "sleuth.queue", "sleuth.sign_ins" };
        // Sent often and waited for: what is sent on the way down has five seconds only, which a busy machine may not have.
        await using (
            var instance = own.Instance(
                database,
                ("Telemetry:Endpoint", collector.Urls.First()),
                ("OTEL_METRIC_EXPORT_INTERVAL", "500"),
                ("OTEL_BSP_SCHEDULE_DELAY", "500")
            )
        )
        {
            using var client = instance.CreateClient();
            await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
            var at = await Shop.CaseAsync(client);
            await client.GetAsync($"{at}/answers?rooms=trace").Json();
            await client.PostAsync($"{at}/photos", LookTests.Form(LookTests.Picture(), "a.jpg")).Json();
            for (var i = 0; i < 600 && !(names.All(metrics().Contains) && Bodies("TraceService/Export").Contains("sign-in")); i++)
            {
                await Task.Delay(100, TestContext.Current.CancellationToken);
            }
        }

        foreach (var name in names)
        {
            metrics().ShouldContain(name);
        }

        Bodies("TraceService/Export").ShouldContain("sign-in");

        string Bodies(string of) => string.Concat(told.Where(t => t.Path.EndsWith(of, StringComparison.Ordinal)).Select(t => t.Body));
    }
}
