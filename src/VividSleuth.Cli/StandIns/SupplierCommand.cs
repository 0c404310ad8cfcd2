using System.CommandLine;
using System.Net;
using System.Text.Json;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth supplier` and `sleuth machine-shop`: stand-ins for who parts and work are ordered from (docs/supplier-protocol.md).</summary>
public static class SupplierCommand
{
    private const long MostBytes = 4 * 1024 * 1024;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    public static Command Parts(TextWriter output) =>
        Build(
            "supplier",
            "A stand-in for a supplier of parts: prices, lead times, back orders, and a wrong delivery now and then.",
            7173,
            works: false,
            output
        );

    public static Command MachineShop(TextWriter output) =>
        Build(
            "machine-shop",
            "A stand-in for a machine shop: prices, lead times, and work that comes back wrong now and then.",
            7174,
            works: true,
            output
        );

    private static Command Build(string name, string description, int usual, bool works, TextWriter output)
    {
        var port = new Option<int>("--port") { Description = "Port to listen on.", DefaultValueFactory = _ => usual };
        var day = new Option<double>("--day") { Description = "Seconds that a day takes here.", DefaultValueFactory = _ => 20 };
        var wrong = new Option<int>("--wrong")
        {
            Description = "Every how many deliveries something is wrong; 0 is never.",
            DefaultValueFactory = _ => 4,
        };
        var command = new Command(name, description) { port, day, wrong };
        command.SetAction(
            async (parsed, cancel) =>
            {
                var supplier = new SimulatedSupplier(works, TimeSpan.FromSeconds(parsed.GetValue(day)), parsed.GetValue(wrong), TimeProvider.System);
                using var listener = new HttpListener();
                listener.Prefixes.Add($"http://127.0.0.1:{parsed.GetValue(port)}/");
                listener.Start();
                await output.WriteLineAsync($"Listening on 127.0.0.1:{parsed.GetValue(port)}. Ctrl-C stops it.");
                await using var stop = cancel.Register(listener.Stop);
                await ServeAsync(listener, supplier, output, cancel);
                return 0;
            }
        );
        return command;
    }

    /// <summary>Answers whoever asks until the listener is stopped.</summary>
    public static async Task ServeAsync(HttpListener listener, SimulatedSupplier supplier, TextWriter output, CancellationToken cancel)
    {
        while (listener.IsListening && !cancel.IsCancellationRequested)
        {
            try
            {
                var context = await listener.GetContextAsync();
                using var response = context.Response;
                var (status, answer) = await AnswerAsync(context.Request, supplier, cancel);
                await output.WriteLineAsync($"{context.Request.HttpMethod} {context.Request.Url?.AbsolutePath} → {status}");
                foreach (var line in supplier.Heard())
                {
                    await output.WriteLineAsync(line);
                }

                response.StatusCode = status;
                response.ContentType = "application/json";
                await JsonSerializer.SerializeAsync(response.OutputStream, answer, Json, cancel);
            }
            catch (Exception e) when (e is HttpListenerException or IOException or ObjectDisposedException or InvalidOperationException)
            {
                // Whoever asked has gone, or the stand-in is stopped.
            }
        }
    }

    private static async Task<(int Status, object Answer)> AnswerAsync(
        HttpListenerRequest request,
        SimulatedSupplier supplier,
        CancellationToken cancel
    )
    {
        var path = (request.Url?.AbsolutePath ?? "").Trim('/').Split('/');
        try
        {
            return (request.HttpMethod, path) switch
            {
                ("GET", ["supplier"]) => (200, supplier.About),
                ("POST", ["offers"]) => (200, supplier.Offer(await ReadAsync<SupplierQuestion>(request, cancel))),
                ("POST", ["orders"]) => (200, supplier.Take(await ReadAsync<SupplierOrders>(request, cancel))),
                ("GET", ["orders", var reference]) => supplier.Follow(Uri.UnescapeDataString(reference)) is { } state
                    ? (200, state)
                    : (404, new { error = "There is no such order." }),
                _ => (404, new { error = "There is nothing here." }),
            };
        }
        catch (JsonException e)
        {
            return (400, new { error = e.Message });
        }
    }

    private static async Task<T> ReadAsync<T>(HttpListenerRequest request, CancellationToken cancel) =>
        request.ContentLength64 > MostBytes
            ? throw new JsonException("Too large.")
            : await JsonSerializer.DeserializeAsync<T>(request.InputStream, Json, cancel) ?? throw new JsonException("Empty.");
}
