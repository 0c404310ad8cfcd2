using System.Net.ServerSentEvents;
using System.Net.Sockets;
using System.Runtime.CompilerServices;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Words;

namespace VividSleuth.Server.Gauge;

/// <summary>Passes on to a browser what the shop's gauge says (docs/gauge-protocol.md). Where none is set there is none.</summary>
public static class GaugeStream
{
    /// <summary>A line that says nothing for this long is taken for dead.</summary>
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(20);

    private static readonly TimeSpan Again = TimeSpan.FromSeconds(2);

    public static void MapGaugeStream(this RouteGroupBuilder api) =>
        api.MapGet("/gauge/stream", StreamAsync)
            .RequireAuthorization(Policies.Write)
            .RequireRateLimiting(Gatekeeping.GaugeStreams)
            .ExcludeFromDescription();

    private static async Task<IResult> StreamAsync(SleuthDb db, Devices devices, Sessions sessions, HttpContext context, CancellationToken cancel)
    {
        var gone = context.Gone();
        var address = (await db.SettingsAsync(cancel)).GaugeAddress;
        if (address.Length == 0)
        {
            throw new ProblemException(Problem.Of("gaugeAddress", "server.no-gauge-set"));
        }

        var (host, port) = devices.Parts(address, "gaugeAddress", "server.a-gauge");
        return TypedResults.ServerSentEvents(News(FromNetwork(host, port, gone), address, () => sessions.StillAsync(context), gone));
    }

    private static async IAsyncEnumerable<SseItem<GaugeNews>> News(
        IAsyncEnumerable<string?> lines,
        string address,
        Func<Task<bool>> still,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var listener = new GaugeListener();
        await foreach (var line in lines.WithCancellation(cancel))
        {
            if (!await still())
            {
                yield break;
            }

            if (line is null)
            {
                listener.Broken();
            }

            var news = line is null ? new GaugeNews("gone", "", Fact.Of("server.gauge-silent")) : listener.Take(GaugeLine.Parse(line));
            if (news is not null)
            {
                yield return new SseItem<GaugeNews>(
                    news.Kind == "reading" ? news with { From = string.Join(", ", new[] { news.From, address }.Where(n => n.Length > 0)) } : news
                );
            }
        }
    }

    /// <summary>Lines of a gauge in the network, connected again for as long as somebody listens; null where it went silent.</summary>
    private static async IAsyncEnumerable<string?> FromNetwork(string host, int port, [EnumeratorCancellation] CancellationToken cancel)
    {
        while (!cancel.IsCancellationRequested)
        {
            using var client = new TcpClient();
            DeviceLines? lines = null;
            try
            {
                await client.ConnectAsync(host, port, cancel).AsTask().WaitAsync(Silence, cancel);
                lines = new DeviceLines(client.GetStream(), GaugeLine.Longest, Silence);
            }
            catch (Exception e) when (e is SocketException or TimeoutException or IOException)
            {
                // Told below as silence.
            }

            while (lines is not null)
            {
                string? line;
                try
                {
                    line = await lines.ReadAsync(cancel);
                }
                catch (Exception e) when (e is TimeoutException or IOException)
                {
                    line = null;
                }

                if (line is null)
                {
                    await lines.DisposeAsync();
                    break;
                }

                yield return line;
            }

            yield return null;
            await Task.Delay(Again, cancel);
        }
    }
}
