using System.CommandLine;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth printer`: a stand-in for a label printer in the network, with a roll that runs out (docs/printer-protocol.md).</summary>
public static class PrinterCommand
{
    public static Command Build(TextWriter output)
    {
        var port = new Option<int>("--port") { Description = "Port to listen on.", DefaultValueFactory = _ => 7172 };
        var roll = new Option<int>("--roll") { Description = "Labels on a roll.", DefaultValueFactory = _ => 60 };
        var refill = new Option<int>("--refill")
        {
            Description = "Seconds until somebody puts a new roll in when it is empty; 0 is never.",
            DefaultValueFactory = _ => 20,
        };
        var command = new Command("printer", "A stand-in for a label printer: writes the labels out, and runs out of paper.") { port, roll, refill };
        command.SetAction(
            async (parsed, cancel) =>
            {
                var printer = new SimulatedPrinter(parsed.GetValue(roll), TimeSpan.FromSeconds(parsed.GetValue(refill)), TimeProvider.System);
                using var listener = new TcpListener(IPAddress.Loopback, parsed.GetValue(port));
                listener.Start();
                await output.WriteLineAsync($"Listening on 127.0.0.1:{parsed.GetValue(port)}. Ctrl-C stops it.");
                while (!cancel.IsCancellationRequested)
                {
                    using var client = await listener.AcceptTcpClientAsync(cancel);
                    await printer.ServeAsync(client.GetStream(), output, cancel);
                }

                return 0;
            }
        );
        return command;
    }
}

/// <summary>A label printer without paper or ink.</summary>
public sealed class SimulatedPrinter
{
    public const string Name = "Simulated label printer";

    private readonly int _roll;
    private readonly TimeSpan _refill;
    private readonly TimeProvider _time;
    private readonly HashSet<string> _done = [];
    private int _left;
    private DateTimeOffset? _emptySince;

    /// <param name="roll">Labels on a roll.</param>
    /// <param name="refill">How long after the roll was empty a new one is in; zero is never.</param>
    public SimulatedPrinter(int roll, TimeSpan refill, TimeProvider time) => (_roll, _left, _refill, _time) = (roll, roll, refill, time);

    /// <summary>What it answers to a line; null for one that it does not know.</summary>
    public string? Answer(string line)
    {
        Refill();
        if (line.Split(' ', 6) is not ["label", var job, var number, _, _, ..])
        {
            return null;
        }

        var key = $"{job} {number}";
        if (_done.Contains(key))
        {
            return $"printed {key} {_left}";
        }

        if (_left == 0)
        {
            _emptySince ??= _time.GetUtcNow();
            return $"paper-out {key}";
        }

        _done.Add(key);
        _left--;
        return $"printed {key} {_left}";
    }

    public string Hello()
    {
        Refill();
        return $"printer 1 {_left} {Name}";
    }

    /// <summary>Speaks with whoever connected until the line ends.</summary>
    public async Task ServeAsync(Stream stream, TextWriter log, CancellationToken cancel)
    {
        using var reader = new StreamReader(stream, Encoding.UTF8, leaveOpen: true);
        await using var writer = new StreamWriter(stream, new UTF8Encoding(false), leaveOpen: true) { AutoFlush = true, NewLine = "\n" };
        try
        {
            await writer.WriteLineAsync(Hello().AsMemory(), cancel);
            while (await reader.ReadLineAsync(cancel) is { } line)
            {
                var answer = Answer(line) ?? "unknown";
                await log.WriteLineAsync($"{line} → {answer}".AsMemory(), cancel);
                await writer.WriteLineAsync(answer.AsMemory(), cancel);
            }
        }
        catch (IOException)
        {
            // Whoever printed has gone.
        }
    }

    private void Refill()
    {
        if (_left == 0 && _refill > TimeSpan.Zero && _emptySince is { } since && _time.GetUtcNow() - since >= _refill)
        {
            (_left, _emptySince) = (_roll, null);
        }
    }
}
