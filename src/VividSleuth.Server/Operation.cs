using System.Diagnostics;
using System.Diagnostics.Metrics;
using System.Net;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using OpenTelemetry.Metrics;
using OpenTelemetry.Trace;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Look;

namespace VividSleuth.Server;

/// <summary>What whoever runs the program sets and watches: the proxy before it, keys at rest, health, figures and traces. All of it is off where nothing is set.</summary>
public static class Operation
{
    /// <summary>Name of the program's own figures and traces.</summary>
    public const string Source = "VividSleuth";

    private static readonly Meter Meter = new(Source);

    /// <summary>How long it took to work an answer out, by room, in milliseconds.</summary>
    public static Histogram<double> AnswerTime { get; } = Meter.CreateHistogram<double>("sleuth.answer.time", "ms");

    /// <summary>How long a picture took to be taken in, in milliseconds.</summary>
    public static Histogram<double> PictureTime { get; } = Meter.CreateHistogram<double>("sleuth.picture.time", "ms");

    /// <summary>Who came in and who did not: “in”, “refused”, “slowed”.</summary>
    public static Counter<long> SignIns { get; } = Meter.CreateCounter<long>("sleuth.sign_ins");

    /// <summary>How many wait: pictures to be taken in, and passwords to be checked.</summary>
    public static void WatchQueues(this WebApplication app)
    {
        var passwords = app.Services.GetRequiredService<HashGate>();
        Meter.CreateObservableGauge(
            "sleuth.queue",
            () =>
                new[]
                {
                    new Measurement<int>(PhotoIntake.Waiting, KeyValuePair.Create<string, object?>("of", "pictures")),
                    new Measurement<int>(passwords.Waiting, KeyValuePair.Create<string, object?>("of", "passwords")),
                }
        );
    }

    /// <summary>Keys lie in the database; sealed with a certificate where one is given (Keys:Certificate, a PKCS #12 file, and Keys:Password).</summary>
    public static void AddSealedKeys(this WebApplicationBuilder builder)
    {
        var keys = builder.Services.AddDataProtection().SetApplicationName("vivid-sleuth").PersistKeysToDbContext<SleuthDb>();
        if (builder.Configuration["Keys:Certificate"] is { Length: > 0 } path)
        {
            keys.ProtectKeysWithCertificate(X509CertificateLoader.LoadPkcs12FromFile(path, builder.Configuration["Keys:Password"]));
        }
    }

    /// <summary>Figures and traces to a collector (Telemetry:Endpoint, OTLP over gRPC).</summary>
    public static void AddTelemetry(this WebApplicationBuilder builder)
    {
        if (builder.Configuration["Telemetry:Endpoint"] is not { Length: > 0 } endpoint)
        {
            return;
        }

        builder
            .Services.AddOpenTelemetry()
            .WithMetrics(m =>
                m.AddMeter(Source, "Microsoft.AspNetCore.Hosting", "Microsoft.AspNetCore.Server.Kestrel", "Npgsql")
                    .AddOtlpExporter(o => o.Endpoint = new Uri(endpoint))
            )
            .WithTracing(t => t.AddSource(Source, "Npgsql").AddAspNetCoreInstrumentation().AddOtlpExporter(o => o.Endpoint = new Uri(endpoint)));
    }

    /// <summary>Who asks, and whether over TLS, is believed of the proxies that are named (Proxy:Known, addresses), and of nobody else.</summary>
    public static void UseKnownProxies(this WebApplication app)
    {
        var known = app.Configuration.GetSection("Proxy:Known").Get<string[]>() ?? [];
        if (known.Length == 0)
        {
            return;
        }

        var options = new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto };
        options.KnownProxies.Clear();
        options.KnownIPNetworks.Clear();
        foreach (var address in known)
        {
            options.KnownProxies.Add(IPAddress.Parse(address));
        }

        app.UseForwardedHeaders(options);
    }

    /// <summary>Milliseconds since a moment of <see cref="Stopwatch"/>.</summary>
    public static double Since(long began) => Stopwatch.GetElapsedTime(began).TotalMilliseconds;
}

/// <summary>Room on the disk of the program; the database tells of its own by refusing.</summary>
public sealed class DiskCheck(IConfiguration configuration, IWebHostEnvironment environment) : IHealthCheck
{
    private const long Little = 300L * 1024 * 1024;

    public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        var drive = new DriveInfo(
            configuration["Backup:Folder"] is { Length: > 0 } folder && Directory.Exists(folder) ? folder : environment.ContentRootPath
        );
        return Task.FromResult(
            drive.AvailableFreeSpace < Little ? new HealthCheckResult(context.Registration.FailureStatus) : HealthCheckResult.Healthy()
        );
    }
}
