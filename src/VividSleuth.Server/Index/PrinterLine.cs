using System.Globalization;
using System.Net.Sockets;
using System.Text;

namespace VividSleuth.Server.Index;

/// <summary>What the printer answered to a label.</summary>
public enum PrinterAnswer
{
    Printed,
    PaperOut,
    Gone,
}

/// <summary>
/// The line to a label printer in the network (docs/printer-protocol.md): one label, one answer. Nothing counts as printed that the printer
/// has not said is.
/// </summary>
public sealed class PrinterLine : IAsyncDisposable
{
    private const int Longest = 200;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    private readonly TcpClient _client;
    private readonly DeviceLines _lines;
    private readonly StreamWriter _writer;

    private PrinterLine(TcpClient client, DeviceLines lines, StreamWriter writer)
    {
        _client = client;
        _lines = lines;
        _writer = writer;
    }

    public string Name { get; private set; } = "";

    /// <summary>Labels left on the roll, as the printer last said.</summary>
    public int Left { get; private set; }

    /// <returns>Null where nothing answers that speaks the protocol.</returns>
    public static async Task<PrinterLine?> OpenAsync(string host, int port, CancellationToken cancel)
    {
        var client = new TcpClient();
        try
        {
            await client.ConnectAsync(host, port, cancel).AsTask().WaitAsync(Patience, cancel);
            var stream = client.GetStream();
            var line = new PrinterLine(
                client,
                new DeviceLines(stream, Longest, Patience),
                new StreamWriter(stream, new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" }
            );
            // printer 1 <left> <name>
            if (await line.ReadAsync(cancel) is { } hello && hello.Split(' ', 4) is ["printer", "1", var left, var name] && Count(left) is { } n)
            {
                (line.Left, line.Name) = (n, name.Trim());
                return line;
            }

            await line.DisposeAsync();
            return null;
        }
        catch (Exception e) when (e is SocketException or TimeoutException or IOException)
        {
            client.Dispose();
            return null;
        }
    }

    /// <summary>Sends one label. The same job and number sent again is answered and not printed again.</summary>
    public async Task<PrinterAnswer> PrintAsync(Guid job, int number, string place, string code, string title, CancellationToken cancel)
    {
        try
        {
            await _writer.WriteLineAsync($"label {job} {number} {place} {code} {title.ReplaceLineEndings(" ")}".AsMemory(), cancel);
            var answer = await ReadAsync(cancel);
            // printed <job> <number> <left>  |  paper-out <job> <number>
            if (answer?.Split(' ') is ["printed", var j, var n, var left] && Same(j, n) && Count(left) is { } rest)
            {
                Left = rest;
                return PrinterAnswer.Printed;
            }

            if (answer?.Split(' ') is ["paper-out", var k, var m] && Same(k, m))
            {
                Left = 0;
                return PrinterAnswer.PaperOut;
            }

            return PrinterAnswer.Gone;
        }
        catch (Exception e) when (e is TimeoutException or IOException)
        {
            return PrinterAnswer.Gone;
        }

        bool Same(string j, string n) => Guid.TryParse(j, out var id) && id == job && Count(n) == number;
    }

    public async ValueTask DisposeAsync()
    {
        _client.Dispose();
        await _lines.DisposeAsync();
    }

    private async Task<string?> ReadAsync(CancellationToken cancel) => await _lines.ReadAsync(cancel) is { Length: <= Longest } line ? line : null;

    private static int? Count(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
}
