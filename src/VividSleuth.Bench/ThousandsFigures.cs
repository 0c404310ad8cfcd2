using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Bench;

/// <summary>A shop of many cases: twenty people at once in a server of its own process, from a hundred cases to ten thousand.</summary>
internal static class ThousandsFigures
{
    private const int People = 20;

    /// <summary>Between one thing and the next somebody looks at what he has got: this long on the average, in seconds.</summary>
    private const double Thinks = 3;

    /// <summary>People are at work for so long before it is measured: what a server does once after its start (laying the causes over each engine) they meet seldom.</summary>
    private static readonly TimeSpan Before = TimeSpan.FromSeconds(90);

    private static readonly TimeSpan Measured = TimeSpan.FromSeconds(120);

    private const double Aim = 100;

    /// <summary>Tables that grow with the cases.</summary>
    private static readonly string[] Large = ["cases", "case_states", "case_index", "readings", "findings", "photos", "parts", "steps", "changes"];

    public static async Task RunAsync(Figures figures)
    {
        var sizes = (Environment.GetEnvironmentVariable("SLEUTH_BENCH_CASES") ?? "100,1000,10000")
            .Split(',')
            .Select(n => int.Parse(n, CultureInfo.InvariantCulture))
            .ToArray();
        var database =
            Environment.GetEnvironmentVariable("SLEUTH_BENCH_DB")
            ?? $"{Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")};Database=thousands_{Guid.CreateVersion7():N}";
        await using var bare = NpgsqlDataSource.Create($"{database};Command Timeout=3600");
        foreach (var size in sizes)
        {
            await using (var db = SleuthDbFactory.Create(database))
            {
                db.Database.SetCommandTimeout(TimeSpan.FromHours(1));
                await db.Database.MigrateAsync();
                var seed = new SeedShop(db, KnowledgeBase.BuiltIn, Sentences.English.Say, Console.Error.WriteLine);
                var done = await seed.SeedAsync(new SeedPlan(size), CancellationToken.None, among: true);
                if (done.Cases > 0)
                {
                    figures.Tell("Thousands", $"seeded up to {size} cases, per 1,000", $"{done.SecondsPerThousand:0.0} s");
                }

                figures.Tell("Thousands", $"{size} cases: readings, findings, pictures", $"{done.Readings}, {done.Findings}, {done.Photos}");
            }

            await using var instance = await Instance.StartAsync(database);
            await LoadAsync(figures, instance, bare, size);
        }
    }

    private static async Task LoadAsync(Figures figures, Instance instance, NpgsqlDataSource bare, int size)
    {
        var clients = new List<HttpClient>();
        for (var n = 0; n < People; n++)
        {
            clients.Add(await instance.SignedInAsync(n % 2 == 0 ? "ines" : "tomas"));
        }

        var cases = await IdsAsync(bare);
        var acts = Acts(cases, await PlacesAsync(bare, cases));
        await AtWorkAsync(Before, seed: 0);
        var before = await ScansAsync(bare);
        var times = await AtWorkAsync(Measured, seed: People);
        var after = await ScansAsync(bare);
        foreach (var act in acts)
        {
            var all = times[act.Name].Order().ToArray();
            figures.AtMost("Thousands", $"{size} cases: {act.Name}, p95 of {all.Length}", all[(int)(0.95 * (all.Length - 1))], Aim, "ms");
        }

        var scanned = Large.Where(t => after[t] > before[t]).Select(t => $"{t} {after[t] - before[t]}").ToArray();
        figures.Tell("Thousands", $"{size} cases: sequential scans meanwhile", scanned.Length == 0 ? "none" : string.Join(", ", scanned));
        clients.ForEach(c => c.Dispose());

        async Task<ConcurrentDictionary<string, ConcurrentBag<double>>> AtWorkAsync(TimeSpan time, int seed)
        {
            var taken = new ConcurrentDictionary<string, ConcurrentBag<double>>(StringComparer.Ordinal);
            var until = Stopwatch.GetTimestamp() + (long)(time.TotalSeconds * Stopwatch.Frequency);
            await Task.WhenAll(clients.Select((client, n) => WorkAsync(client, n, new Random(seed + n), acts, until, taken)));
            return taken;
        }
    }

    /// <param name="Do">By the client of somebody, whose number this is.</param>
    private sealed record Act(string Name, int Weight, Func<HttpClient, Random, int, Task> Do);

    private static async Task WorkAsync(
        HttpClient client,
        int person,
        Random random,
        IReadOnlyList<Act> acts,
        long until,
        ConcurrentDictionary<string, ConcurrentBag<double>> times
    )
    {
        var hat = acts.SelectMany(a => Enumerable.Repeat(a, a.Weight)).ToArray();
        while (Stopwatch.GetTimestamp() < until)
        {
            await Task.Delay(TimeSpan.FromSeconds(2 * Thinks * random.NextDouble()));
            var act = hat[random.Next(hat.Length)];
            var start = Stopwatch.GetTimestamp();
            await act.Do(client, random, person);
            times.GetOrAdd(act.Name, _ => []).Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
    }

    private static IReadOnlyList<Act> Acts(Guid[] cases, IReadOnlyList<(Guid Case, string Place, string Characteristic)> places)
    {
        string[] words = ["norrvik", "Skirt coating", "tarve dairy", "rough oil", "SD-00042", "harbour", "ring stuck", "cracked"];
        string[] parts = ["piston", "crankshaft", "liner", "camshaft"];
        Guid Any(Random r) => cases[r.Next(cases.Length)];
        return
        [
            new("casebook", 4, (c, r, _) => GetAsync(c, $"/api/cases?skip={50 * r.Next(4)}&take=50")),
            new("casebook, find", 3, (c, r, _) => GetAsync(c, $"/api/cases?take=50&find={Uri.EscapeDataString(words[r.Next(words.Length)])}")),
            new("search", 3, (c, r, _) => GetAsync(c, $"/api/search?find={Uri.EscapeDataString(words[r.Next(words.Length)])}")),
            new("search by part and person", 2, (c, r, _) => GetAsync(c, $"/api/search?part={parts[r.Next(parts.Length)]}&person=jory")),
            new("nearest cases", 3, (c, r, _) => GetAsync(c, $"/api/cases/{Any(r)}/near")),
            new("failures of the kind", 2, (c, r, _) => GetAsync(c, $"/api/cases/{Any(r)}/kind")),
            new("figures of the kind", 2, (c, r, _) => GetAsync(c, $"/api/cases/{Any(r)}/background")),
            new("opening any case", 6, (c, r, _) => GetAsync(c, $"/api/cases/{Any(r)}")),
            // Each into the engine on his own bench.
            new("writing a figure", 8, (c, r, who) => WriteAsync(c, places[who], r)),
        ];
    }

    private static async Task GetAsync(HttpClient client, string address) => (await client.GetAsync(address)).EnsureSuccessStatusCode();

    private static async Task WriteAsync(HttpClient client, (Guid Case, string Place, string Characteristic) at, Random random)
    {
        var entry = new
        {
            id = Guid.CreateVersion7(),
            place = at.Place,
            characteristic = at.Characteristic,
            typed = (60 + (0.001 * random.Next(100))).ToString("0.000", CultureInfo.InvariantCulture),
            setUnit = "mm",
            instrument = "",
            temperature = (decimal?)null,
            corrects = (Guid?)null,
            confirmed = true,
        };
        (await client.PostAsJsonAsync($"/api/cases/{at.Case}/readings", entry)).EnsureSuccessStatusCode();
    }

    /// <summary>Something that is measured in each of some cases.</summary>
    private static async Task<IReadOnlyList<(Guid Case, string Place, string Characteristic)>> PlacesAsync(NpgsqlDataSource bare, Guid[] cases)
    {
        var some = cases.ToArray();
        new Random(5).Shuffle(some);
        await using var command = bare.CreateCommand(
            """
            select c, r."Place", r."Characteristic" from unnest($1) c
            cross join lateral (select * from readings where "CaseId" = c and "Unit" = 'mm' limit 1) r
            """
        );
        command.Parameters.AddWithValue(some.Take(400).ToArray());
        await using var reader = await command.ExecuteReaderAsync();
        var places = new List<(Guid Case, string Place, string Characteristic)>();
        while (await reader.ReadAsync())
        {
            places.Add((reader.GetGuid(0), reader.GetString(1), reader.GetString(2)));
        }

        return places;
    }

    private static async Task<Guid[]> IdsAsync(NpgsqlDataSource bare)
    {
        await using var command = bare.CreateCommand("""select "Id" from cases where "Title" like 'Seeded %' and "WithdrawnAt" is null""");
        await using var reader = await command.ExecuteReaderAsync();
        var ids = new List<Guid>();
        while (await reader.ReadAsync())
        {
            ids.Add(reader.GetGuid(0));
        }

        return [.. ids];
    }

    private static async Task<Dictionary<string, long>> ScansAsync(NpgsqlDataSource bare)
    {
        // What a connection did is told a moment after.
        await Task.Delay(TimeSpan.FromSeconds(2));
        await using var command = bare.CreateCommand("select relname, seq_scan from pg_stat_user_tables");
        await using var reader = await command.ExecuteReaderAsync();
        var scans = new Dictionary<string, long>(StringComparer.Ordinal);
        while (await reader.ReadAsync())
        {
            scans[reader.GetString(0)] = reader.GetInt64(1);
        }

        return scans;
    }
}
