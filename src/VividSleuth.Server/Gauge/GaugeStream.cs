using System.Net.ServerSentEvents;
using System.Net.Sockets;
using System.Runtime.CompilerServices;
using System.Text;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Shop;
using VividSleuth.Store;

namespace VividSleuth.Server.Gauge;

/// <summary>Passes on to a browser what the shop's gauge says (docs/gauge-protocol.md); the simulated gauge where none is set.</summary>
public static class GaugeStream
{
    /// <summary>A line that says nothing for this long is taken for dead.</summary>
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(20);

    private static readonly TimeSpan Again = TimeSpan.FromSeconds(2);

    public static void MapGaugeStream(this RouteGroupBuilder api) =>
        api.MapGet("/gauge/stream", StreamAsync).RequireAuthorization(Policies.Write).ExcludeFromDescription();

    /// <param name="around">Of the simulated gauge: the size about which its parts lie, mm.</param>
    /// <param name="fault">Of the simulated gauge: drift, unit, break or garbage.</param>
    /// <param name="pace">Of the simulated gauge: milliseconds between readings.</param>
    private static async Task<IResult> StreamAsync(double? around, int? seed, string? fault, int? pace, SleuthDb db, CancellationToken cancel)
    {
        var address = (await db.SettingsAsync(cancel)).GaugeAddress;
        var lines =
            address.Length > 0
                ? FromNetwork(address, cancel)
                : Simulated(around is > 1 and < 1000 ? around.Value : 75, seed ?? 1, Faults(fault), Math.Clamp(pace ?? 2500, 50, 10_000), cancel);
        return TypedResults.ServerSentEvents(News(lines, cancel));
    }

    public static GaugeFaults Faults(string? fault) =>
        fault switch
        {
            "drift" => new GaugeFaults { Drift = 0.001 },
            "unit" => new GaugeFaults { WrongUnitFrom = 3 },
            "break" => new GaugeFaults { BreaksAfter = 3 },
            "garbage" => new GaugeFaults { GarbageAt = 3 },
            _ => new GaugeFaults(),
        };

    private static async IAsyncEnumerable<SseItem<GaugeNews>> News(IAsyncEnumerable<string?> lines, [EnumeratorCancellation] CancellationToken cancel)
    {
        var listener = new GaugeListener();
        await foreach (var line in lines.WithCancellation(cancel))
        {
            var news = line is null
                ? new GaugeNews("gone", "", "The gauge has gone silent. It is tried again every two seconds; typing goes on meanwhile.")
                : listener.Take(GaugeLine.Parse(line));
            if (news is not null)
            {
                yield return new SseItem<GaugeNews>(news);
            }
        }
    }

    /// <summary>Lines of the simulated gauge; null where its line breaks.</summary>
    private static async IAsyncEnumerable<string?> Simulated(
        double around,
        int seed,
        GaugeFaults faults,
        int pace,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var random = new Random(seed);
        var sizes = Enumerable.Range(0, 500).Select(_ => around + ((random.NextDouble() - 0.5) * 0.01)).ToArray();
        foreach (var line in SimulatedGauge.Lines(sizes, seed, faults))
        {
            if (line == SimulatedGauge.Break)
            {
                yield return null;
                await Task.Delay(Again, cancel);
                continue;
            }

            yield return line;
            await Task.Delay(line.StartsWith("read", StringComparison.Ordinal) ? pace : 50, cancel);
        }
    }

    /// <summary>Lines of a gauge in the network, connected again for as long as somebody listens; null where it went silent.</summary>
    private static async IAsyncEnumerable<string?> FromNetwork(string address, [EnumeratorCancellation] CancellationToken cancel)
    {
        var (host, port) = Parts(address);
        while (!cancel.IsCancellationRequested)
        {
            using var client = new TcpClient();
            StreamReader? reader = null;
            try
            {
                await client.ConnectAsync(host, port, cancel).AsTask().WaitAsync(Silence, cancel);
                reader = new StreamReader(client.GetStream(), Encoding.UTF8);
            }
            catch (Exception e) when (e is SocketException or TimeoutException or IOException)
            {
                // Told below as silence.
            }

            while (reader is not null)
            {
                string? line;
                try
                {
                    line = await LineAsync(reader, cancel).WaitAsync(Silence, cancel);
                }
                catch (Exception e) when (e is TimeoutException or IOException)
                {
                    line = null;
                }

                if (line is null)
                {
                    reader.Dispose();
                    break;
                }

                yield return line;
            }

            yield return null;
            await Task.Delay(Again, cancel);
        }
    }

    /// <summary>A line, cut where a gauge that never ends one would fill the memory.</summary>
    private static async Task<string?> LineAsync(StreamReader reader, CancellationToken cancel)
    {
        var text = new StringBuilder();
        var one = new char[1];
        while (await reader.ReadAsync(one, cancel) == 1)
        {
            if (one[0] == '\n')
            {
                return text.ToString();
            }

            if (text.Length <= GaugeLine.Longest)
            {
                text.Append(one[0]);
            }
        }

        return text.Length > 0 ? text.ToString() : null;
    }

    /// <exception cref="Core.ProblemException">It is no host with a port.</exception>
    public static (string Host, int Port) Parts(string address)
    {
        var at = address.LastIndexOf(':');
        return at > 0 && int.TryParse(address[(at + 1)..], out var port) && port is > 0 and < 65536
            ? (address[..at], port)
            : throw new Core.ProblemException(
                new Core.Problem(
                    "gaugeAddress",
                    $"“{address}” is no address of a gauge.",
                    "Write host and port, such as bench-gauge:7171, or leave it empty."
                )
            );
    }
}
