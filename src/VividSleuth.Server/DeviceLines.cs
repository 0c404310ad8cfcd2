using System.Buffers;
using System.IO.Pipelines;
using System.Text;

namespace VividSleuth.Server;

/// <summary>Lines of UTF-8 that a device sends. What of a line goes beyond the longest is let go: a device that never ends one fills no memory.</summary>
/// <param name="longest">Bytes of a line; one more is handed on of a longer one, so that it can be told from a whole one.</param>
public sealed class DeviceLines(Stream stream, int longest, TimeSpan patience) : IAsyncDisposable
{
    private readonly PipeReader _pipe = PipeReader.Create(stream);

    /// <returns>A line without its end; null where the device has hung up.</returns>
    /// <exception cref="TimeoutException">It says nothing for as long as one waits.</exception>
    public async Task<string?> ReadAsync(CancellationToken cancel)
    {
        using var patient = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patient.CancelAfter(patience);
        string? head = null;
        try
        {
            while (true)
            {
                var read = await _pipe.ReadAsync(patient.Token);
                var buffer = read.Buffer;
                if (buffer.PositionOf((byte)'\n') is { } end)
                {
                    var line = head ?? Text(buffer.Slice(0, end));
                    _pipe.AdvanceTo(buffer.GetPosition(1, end));
                    return line;
                }

                if (buffer.Length > longest || read.IsCompleted)
                {
                    head ??= buffer.IsEmpty ? null : Text(buffer);
                    _pipe.AdvanceTo(buffer.End);
                    if (read.IsCompleted)
                    {
                        return head;
                    }
                }
                else
                {
                    _pipe.AdvanceTo(buffer.Start, buffer.End);
                }
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new TimeoutException();
        }
    }

    public ValueTask DisposeAsync() => _pipe.CompleteAsync();

    private string Text(ReadOnlySequence<byte> bytes) => Encoding.UTF8.GetString(bytes.Slice(0, Math.Min(bytes.Length, longest + 1))).TrimEnd('\r');
}
