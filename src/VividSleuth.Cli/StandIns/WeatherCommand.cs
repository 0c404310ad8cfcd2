using System.CommandLine;
using System.Globalization;
using System.Net;
using System.Text;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth weather`: a stand-in for a weather service (docs/weather-format.md): two weeks, made up, the same for the same seed.</summary>
public static class WeatherCommand
{
    private const int Days = 14;

    public static Command Build(TextWriter output)
    {
        var port = new Option<int>("--port") { Description = "Port to listen on.", DefaultValueFactory = _ => 7175 };
        var seed = new Option<int>("--seed") { Description = "Another number is other weather.", DefaultValueFactory = _ => 1 };
        var command = new Command("weather", "A stand-in for a weather service: two weeks of dry, wet, warm and cold days.") { port, seed };
        command.SetAction(
            async (parsed, cancel) =>
            {
                using var listener = new HttpListener();
                listener.Prefixes.Add($"http://127.0.0.1:{parsed.GetValue(port)}/");
                listener.Start();
                await output.WriteLineAsync($"Listening on 127.0.0.1:{parsed.GetValue(port)}. Ctrl-C stops it.");
                await using var stop = cancel.Register(listener.Stop);
                await ServeAsync(listener, () => Table(DateOnly.FromDateTime(DateTime.Today), parsed.GetValue(seed)));
                return 0;
            }
        );
        return command;
    }

    /// <summary>Answers whoever asks until the listener is stopped.</summary>
    public static async Task ServeAsync(HttpListener listener, Func<string> table)
    {
        while (listener.IsListening)
        {
            try
            {
                var context = await listener.GetContextAsync();
                using var response = context.Response;
                var known = context.Request is { HttpMethod: "GET", Url.AbsolutePath: "/weather.csv" };
                response.StatusCode = known ? 200 : 404;
                response.ContentType = "text/csv; charset=utf-8";
                await response.OutputStream.WriteAsync(Encoding.UTF8.GetBytes(known ? table() : ""));
            }
            catch (Exception e) when (e is HttpListenerException or IOException or ObjectDisposedException or InvalidOperationException)
            {
                // Whoever asked has gone, or the stand-in is stopped.
            }
        }
    }

    /// <summary>Fronts of a few days: what a day is like hangs on the one before it.</summary>
    public static string Table(DateOnly from, int seed)
    {
        var random = new Random(seed);
        var text = new StringBuilder("day,dry,coldest\n");
        var (dry, cold) = (true, 4.0);
        for (var i = 0; i < Days; i++)
        {
            dry = random.NextDouble() < 0.7 ? dry : !dry;
            cold = Math.Clamp(cold + (random.NextDouble() * 6) - 3, -6, 12);
            text.Append(CultureInfo.InvariantCulture, $"{from.AddDays(i):yyyy-MM-dd},{(dry ? "yes" : "no")},{cold:0.0}\n");
        }

        return text.ToString();
    }
}
