using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace VividSleuth.Chaos;

/// <summary>
/// A line between devices and one instance that can be cut: all at once, or each connection after some bytes of its own in either direction, so that
/// now a request is lost, now its answer, now half of a picture. It can also stand still.
/// </summary>
internal sealed class Line : IAsyncDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentDictionary<Socket, byte> _open = [];
    private readonly CancellationTokenSource _end = new();
    private readonly Lock _lock = new();
    private readonly Random _chance;
    private readonly int _to;

    public Line(int to, Random chance)
    {
        (_to, _chance) = (to, chance);
        _listener.Start();
        Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
        _ = Task.Run(AcceptAsync);
    }

    public int Port { get; }

    /// <summary>Each connection dies after some bytes.</summary>
    public bool IsBad { get; set; }

    public bool StandsStill { get; set; }

    public void Cut()
    {
        foreach (var socket in _open.Keys)
        {
            Close(socket);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _end.CancelAsync();
        _listener.Dispose();
        Cut();
        _end.Dispose();
    }

    private async Task AcceptAsync()
    {
        while (!_end.IsCancellationRequested)
        {
            try
            {
                var device = await _listener.AcceptSocketAsync(_end.Token);
                _ = Task.Run(() => CarryAsync(device));
            }
            catch (Exception e) when (e is OperationCanceledException or SocketException or ObjectDisposedException)
            {
                return;
            }
        }
    }

    private async Task CarryAsync(Socket device)
    {
        var instance = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp);
        _open[device] = 0;
        _open[instance] = 0;
        try
        {
            await instance.ConnectAsync(IPAddress.Loopback, _to);
            await Task.WhenAny(CopyAsync(device, instance, Bytes()), CopyAsync(instance, device, Bytes()));
        }
        catch (SocketException)
        {
            // Nobody answers there.
        }
        finally
        {
            Close(device);
            Close(instance);
        }
    }

    /// <summary>After how many bytes a connection dies.</summary>
    private int Bytes()
    {
        lock (_lock)
        {
            return IsBad
                ? _chance.Next(3) == 0
                    ? _chance.Next(1, 40_000)
                    : _chance.Next(1, 3_000)
                : int.MaxValue;
        }
    }

    private async Task CopyAsync(Socket from, Socket to, int bytes)
    {
        var buffer = new byte[16 * 1024];
        try
        {
            while (bytes > 0)
            {
                var read = await from.ReceiveAsync(buffer, SocketFlags.None);
                while (StandsStill)
                {
                    await Task.Delay(20);
                }

                var carried = Math.Min(read, bytes);
                if (carried == 0)
                {
                    return;
                }

                await to.SendAsync(buffer.AsMemory(0, carried), SocketFlags.None);
                bytes -= carried;
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // Cut.
        }
    }

    private void Close(Socket socket)
    {
        if (_open.TryRemove(socket, out _))
        {
            // Reset, not ended in order.
            socket.LingerState = new LingerOption(true, 0);
            socket.Dispose();
        }
    }
}
