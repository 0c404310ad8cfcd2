using System.Net;

namespace VividSleuth.Server.Tests;

/// <summary>A machine in the network that listens as a supplier or a weather service would.</summary>
internal sealed class Listening : IDisposable
{
    private readonly HttpListener _listener = new();

    public Listening(Func<HttpListener, Task> serve)
    {
        for (Port = 20_000 + Random.Shared.Next(20_000); ; Port++)
        {
            try
            {
                _listener.Prefixes.Clear();
                _listener.Prefixes.Add($"http://127.0.0.1:{Port}/");
                _listener.Start();
                break;
            }
            catch (HttpListenerException)
            {
                // Taken by somebody else.
            }
        }

        _ = Task.Run(() => serve(_listener));
    }

    public int Port { get; }

    public string Address => $"127.0.0.1:{Port}";

    public void Dispose() => _listener.Close();
}
