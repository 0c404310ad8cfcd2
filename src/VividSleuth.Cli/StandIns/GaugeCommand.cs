using System.CommandLine;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth gauge`: the simulated gauge in the network, speaking the protocol of docs/gauge-protocol.md to whoever connects.</summary>
public static class GaugeCommand
{
    private const int Readings = 500;

    public static Command Build(TextWriter output)
    {
        var port = new Option<int>("--port") { Description = "Port to listen on; 0 writes the lines out instead.", DefaultValueFactory = _ => 7171 };
        var around = new Option<double>("--around") { Description = "Size about which its parts lie, mm.", DefaultValueFactory = _ => 75 };
        var seed = new Option<int>("--seed") { Description = "The same seed sends the same readings.", DefaultValueFactory = _ => 1 };
        var noise = new Option<double>("--noise") { Description = "Scatter of a reading, mm.", DefaultValueFactory = _ => 0.001 };
        var drift = new Option<double>("--drift") { Description = "Drift from one reading to the next, mm." };
        var unit = new Option<int>("--wrong-unit-from") { Description = "From this reading on it sends inches and calls them mm." };
        var breaks = new Option<int>("--breaks-after") { Description = "After this reading the line breaks and one reading is lost." };
        var garbage = new Option<int>("--garbage-at") { Description = "Before this reading it sends garbage." };
        var pace = new Option<int>("--pace") { Description = "Milliseconds between readings.", DefaultValueFactory = _ => 2500 };
        var count = new Option<int>("--count") { Description = "How many readings.", DefaultValueFactory = _ => Readings };
        var command = new Command("gauge", "A simulated gauge that streams readings over TCP.")
        {
            port,
            around,
            seed,
            noise,
            drift,
            unit,
            breaks,
            garbage,
            pace,
            count,
        };
        command.SetAction(
            async (parsed, cancel) =>
            {
                var random = new Random(parsed.GetValue(seed));
                var sizes = Enumerable
                    .Range(0, Math.Clamp(parsed.GetValue(count), 1, 100_000))
                    .Select(_ => parsed.GetValue(around) + ((random.NextDouble() - 0.5) * 0.01))
                    .ToArray();
                var faults = new GaugeFaults
                {
                    Noise = parsed.GetValue(noise),
                    Drift = parsed.GetValue(drift),
                    WrongUnitFrom = parsed.GetValue(unit),
                    BreaksAfter = parsed.GetValue(breaks),
                    GarbageAt = parsed.GetValue(garbage),
                };
                var lines = SimulatedGauge.Lines(sizes, parsed.GetValue(seed), faults);
                if (parsed.GetValue(port) == 0)
                {
                    foreach (var line in lines.Where(l => l != SimulatedGauge.Break))
                    {
                        await output.WriteLineAsync(line);
                    }

                    return 0;
                }

                await ServeAsync(lines.ToArray(), parsed.GetValue(port), Math.Max(0, parsed.GetValue(pace)), output, cancel);
                return 0;
            }
        );
        return command;
    }

    /// <summary>Goes on where it was when a line breaks, as a gauge does.</summary>
    private static async Task ServeAsync(string[] lines, int port, int pace, TextWriter output, CancellationToken cancel)
    {
        using var listener = new TcpListener(IPAddress.Loopback, port);
        listener.Start();
        await output.WriteLineAsync($"Listening on 127.0.0.1:{port}. Ctrl-C stops it.");
        var at = 0;
        while (at < lines.Length && !cancel.IsCancellationRequested)
        {
            using var client = await listener.AcceptTcpClientAsync(cancel);
            await using var writer = new StreamWriter(client.GetStream(), new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" };
            try
            {
                if (at > 0 && !lines[at].StartsWith("gauge", StringComparison.Ordinal))
                {
                    await writer.WriteLineAsync(lines[0]);
                }

                while (at < lines.Length)
                {
                    var line = lines[at++];
                    if (line == SimulatedGauge.Break)
                    {
                        break;
                    }

                    await writer.WriteLineAsync(line);
                    await Task.Delay(line.StartsWith("read", StringComparison.Ordinal) ? pace : 0, cancel);
                }
            }
            catch (IOException)
            {
                // Whoever listened has gone; the next one goes on from here.
            }
        }
    }
}
