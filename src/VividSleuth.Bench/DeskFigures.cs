using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace VividSleuth.Bench;

/// <summary>One figure typed at the bench: what it costs from sending it to the answer that the screen shows after it.</summary>
internal static class DeskFigures
{
    private const int Runs = 60;
    private const int Warm = 20;

    /// <summary>What the screen of a round asks for after each figure; the record comes with the answer to the figure itself.</summary>
    private const string Rooms = "gauge,places,section,strip";

    public static async Task RunAsync(Figures figures)
    {
        await using var shop = await BenchShop.OpenAsync();
        var made = await shop.Client.PostAsync(
            "/api/cases/import",
            new StringContent(await File.ReadAllTextAsync(Demo.Six), null, "application/json")
        );
        made.EnsureSuccessStatusCode();
        var at = $"/api/cases/{JsonNode.Parse(await made.Content.ReadAsStringAsync())!["id"]}";
        // A round: figure after figure, and after each the screen asks for what it shows.
        var answer = new List<double>();
        for (var i = 0; i < Runs + Warm; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await TypeAsync(shop.Client, at, i);
            await shop.Client.GetByteArrayAsync($"{at}/answers?rooms={Rooms}");
            answer.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        // The other rooms are asked for once the bench is calm.
        var all = new List<double>();
        for (var i = 0; i < Runs + Warm; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await TypeAsync(shop.Client, at, i);
            await shop.Client.GetByteArrayAsync($"{at}/answers?rooms={Rooms}");
            await Task.WhenAll(
                shop.Client.GetByteArrayAsync($"{at}/answers?rooms=verdict,compression,look,progress"),
                shop.Client.GetByteArrayAsync($"{at}/answers?rooms=trace")
            );
            all.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        figures.AtMost("Desk", "demo six: a figure sent until the screen of the round has its answer, p95", P95(answer), 80, "ms");
        figures.Tell("Desk", "demo six: the same until every room is there, p95", $"{P95(all):0} ms");

        var counted = 0;
        using (Statements.Count(n => Interlocked.Add(ref counted, n)))
        {
            await TypeAsync(shop.Client, at, 0);
            await shop.Client.GetByteArrayAsync($"{at}/answers?rooms={Rooms}");
        }

        figures.AtMost("Desk", "SQL statements of one figure, begin and commit counted", counted, 12, "");
        var known = (await shop.Client.GetAsync($"{at}/answers")).Headers.ETag!.ToString();
        var unchanged = new List<double>();
        for (var i = 0; i < Runs + Warm; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, $"{at}/answers");
            request.Headers.TryAddWithoutValidation("If-None-Match", known);
            var start = Stopwatch.GetTimestamp();
            using var told = await shop.Client.SendAsync(request);
            unchanged.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            if ((int)told.StatusCode != 304)
            {
                throw new InvalidOperationException($"An unchanged answer was told as {told.StatusCode}.");
            }
        }

        figures.AtMost("Desk", "an unchanged answer (304), p95", P95(unchanged), 5, "ms");
    }

    private static async Task TypeAsync(HttpClient client, string at, int i)
    {
        var sent = await client.PostAsJsonAsync(
            $"{at}/readings",
            new
            {
                id = Guid.CreateVersion7(),
                place = "K4",
                characteristic = "crankpin-diameter",
                typed = $"69.98{i % 10}",
                setUnit = "mm",
                instrument = "",
                temperature = (decimal?)null,
                corrects = (Guid?)null,
                confirmed = true,
            }
        );
        sent.EnsureSuccessStatusCode();
    }

    private static double P95(List<double> times) => times.Skip(Warm).Order().ElementAt((int)(0.95 * (times.Count - Warm)));

    /// <summary>Counts what is sent to the database while it stands: each statement of a batch, and the ends of transactions.</summary>
    private sealed class Statements(Action<int> count) : IObserver<DiagnosticListener>, IObserver<KeyValuePair<string, object?>>, IDisposable
    {
        private readonly List<IDisposable> _heard = [];

        public static Statements Count(Action<int> count)
        {
            var statements = new Statements(count);
            statements._heard.Add(DiagnosticListener.AllListeners.Subscribe(statements));
            return statements;
        }

        public void OnNext(DiagnosticListener value)
        {
            if (value.Name == Microsoft.EntityFrameworkCore.DbLoggerCategory.Name)
            {
                _heard.Add(value.Subscribe(this));
            }
        }

        public void OnNext(KeyValuePair<string, object?> value)
        {
            if (value.Key == RelationalEventId.CommandExecuting.Name && value.Value is CommandEventData command)
            {
                count(command.Command.CommandText.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Length);
            }
            else if (value.Key == RelationalEventId.TransactionStarted.Name || value.Key == RelationalEventId.TransactionCommitted.Name)
            {
                count(1);
            }
        }

        public void OnCompleted() { }

        public void OnError(Exception error) { }

        public void Dispose() => _heard.ForEach(h => h.Dispose());
    }
}
