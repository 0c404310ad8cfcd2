using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using NetVips;
using VividSleuth.Server.Tests;

namespace VividSleuth.Bench;

/// <summary>Instances as processes of their own, under load, under attack, and fed with what costs most.</summary>
internal static class OperationFigures
{
    private const int Readers = 200;
    private const int Writers = 50;
    private static readonly TimeSpan Load = TimeSpan.FromSeconds(30);
    private static readonly IReadOnlyList<(string Name, Func<Figures, Instance, Task> Measure)> Parts =
    [
        ("attack", AttackAsync),
        ("pictures", HostileAsync),
        ("import", ImportAsync),
    ];

    /// <param name="wanted">Which of load, attack, pictures and import.</param>
    public static async Task RunAsync(Figures figures, Func<string, bool> wanted)
    {
        var database = $"{Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")};Database=operation_{Guid.CreateVersion7():N}";
        if (wanted("load"))
        {
            await using var one = await Instance.StartAsync(database);
            await using var other = await Instance.StartAsync(database);
            await LoadAsync(figures, one, other);
        }

        foreach (var (part, measure) in Parts)
        {
            if (wanted(part))
            {
                await using var fresh = await Instance.StartAsync(database);
                await measure(figures, fresh);
            }
        }
    }

    private static async Task LoadAsync(Figures figures, Instance one, Instance other)
    {
        using var lead = await one.SignedInAsync("ines");
        var cases = JsonNode.Parse(await lead.GetStringAsync("/api/cases"))!;
        var ids = (cases as JsonArray ?? cases["cases"]!.AsArray()).Select(c => c!["id"]!.ToString()).ToArray();
        var clients = new[] { lead, await other.SignedInAsync("ines") };
        var (reads, writes, errors) = (new ConcurrentBag<double>(), new ConcurrentBag<double>(), new ConcurrentBag<string>());
        using var stop = new CancellationTokenSource(Load);

        async Task AgainAsync(int i, ConcurrentBag<double> times, Func<HttpClient, int, Task<HttpResponseMessage>> send)
        {
            for (var n = 0; !stop.IsCancellationRequested; n++)
            {
                var began = Stopwatch.GetTimestamp();
                try
                {
                    using var answer = await send(clients[(i + n) % 2], i);
                    if (answer.IsSuccessStatusCode)
                    {
                        times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
                    }
                    else
                    {
                        errors.Add($"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
                    }
                }
                catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
                {
                    errors.Add(e.Message);
                }
            }
        }

        await Task.WhenAll(
            Enumerable
                .Range(0, Readers)
                .Select(i => AgainAsync(i, reads, (c, n) => c.GetAsync($"/api/cases/{ids[n % ids.Length]}")))
                .Concat(
                    Enumerable
                        .Range(0, Writers)
                        .Select(i => AgainAsync(i, writes, (c, n) => c.PostAsJsonAsync($"/api/cases/{ids[n % ids.Length]}/findings", Finding())))
                )
        );
        foreach (var error in errors.Distinct().Take(3))
        {
            Console.Error.WriteLine(error);
        }

        figures.AtMost("Operation", "errors, 200 who read and 50 who write, 30 s, two instances", errors.Count, 0, "");
        figures.Tell("Operation", "of these read, half within", $"{reads.Count}, {Percentile(reads, 0.5):0} ms");
        figures.Tell("Operation", "of these written, half within", $"{writes.Count}, {Percentile(writes, 0.5):0} ms");
    }

    private static JsonObject Finding() =>
        new()
        {
            ["id"] = Guid.CreateVersion7(),
            ["place"] = "P1",
            ["sign"] = "skirt-scuff-thrust",
            ["seen"] = "absent",
            ["level"] = 0,
            ["spot"] = "",
            ["note"] = "",
        };

    /// <summary>Thirty-two at once who guess, each at names of its own; what others then wait for a page, and for signing in on a device that is known.</summary>
    private static async Task AttackAsync(Figures figures, Instance one)
    {
        using var lead = await one.SignedInAsync("ines");
        var cookies = new CookieContainer();
        using var known = one.Client(cookies);
        var credentials = new { name = "tomas", password = "demo-tomas-bench" };
        async Task<double> PageAsync() => await TimeAsync(() => lead.GetAsync("/api/cases"));
        async Task<double> DoorAsync() => await TimeAsync(() => known.PostAsJsonAsync("/api/sign-in", credentials));
        var (page, door) = (await MedianAsync(PageAsync, 60), await MedianAsync(DoorAsync, 15));
        using var stop = new CancellationTokenSource();
        var guesses = 0;
        var attack = Enumerable
            .Range(0, 32)
            .Select(async i =>
            {
                using var stranger = one.Client(null);
                for (var n = 0; !stop.IsCancellationRequested; n++)
                {
                    using var refused = await stranger.PostAsJsonAsync(
                        "/api/sign-in",
                        new { name = n % 2 == 0 ? "tomas" : $"nobody {i} {n}", password = $"guess {n}" }
                    );
                    Interlocked.Increment(ref guesses);
                }
            })
            .ToArray();
        await Task.Delay(TimeSpan.FromSeconds(3));
        var began = Stopwatch.GetTimestamp();
        var before = guesses;
        var (attackedPage, attackedDoor) = (await MedianAsync(PageAsync, 60), await MedianAsync(DoorAsync, 15));
        var pace = (guesses - before) / Stopwatch.GetElapsedTime(began).TotalSeconds;
        await stop.CancelAsync();
        await Task.WhenAll(attack);
        figures.AtMost("Operation", "a page of others under attack over one without (median)", attackedPage / page, 2, "×");
        figures.AtMost("Operation", "signing in on a known device under attack (median)", attackedDoor / door, 2, "×");
        figures.Tell("Operation", "page, signing in, guesses refused", $"{page:0} ms, {door:0} ms, {pace:0}/s");
    }

    private static async Task HostileAsync(Figures figures, Instance one)
    {
        using var client = await one.SignedInAsync("ines");
        var at = await CaseAsync(client);
        var ordinary = Noise(4000, 3000, 3).JpegsaveBuffer(q: 60);
        var times = new ConcurrentBag<double>();
        var failed = new ConcurrentBag<string>();
        using var stop = new CancellationTokenSource();
        var beside = Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
            {
                times.Add(await TimeAsync(() => client.PostAsync($"{at}/photos", Form(ordinary, "ordinary.jpg"))));
            }
        });
        var files = HostileFiles.All().ToArray();
        await Parallel.ForEachAsync(
            files,
            new ParallelOptions { MaxDegreeOfParallelism = 8 },
            async (file, cancel) =>
            {
                using var answer = await client.PostAsync($"{at}/photos", Form(file.Data, file.Name), cancel);
                if (answer.StatusCode >= HttpStatusCode.InternalServerError && answer.StatusCode != HttpStatusCode.ServiceUnavailable)
                {
                    failed.Add($"{file.Name} {(int)answer.StatusCode}");
                }
            }
        );
        await stop.CancelAsync();
        await beside;
        figures.AtMost("Operation", $"failures of the server over {files.Length} hostile files", failed.Count, 0, "");
        figures.AtMost("Operation", "an ordinary picture beside them, the slowest", times.Max() / 1000, 2, "s");
        figures.AtMost("Operation", "memory of the server at its peak", one.PeakMegabytes(), 700, "MB");
    }

    /// <summary>A case file of 70 MB, by pictures of noise.</summary>
    private static async Task ImportAsync(Figures figures, Instance one)
    {
        using var client = await one.SignedInAsync("ines");
        string file;
        await using (var maker = await Instance.StartAsync(one.Database))
        {
            using var elsewhere = await maker.SignedInAsync("ines");
            var at = await CaseAsync(elsewhere);
            var pictures = Enumerable.Range(0, 13).Select(i => Noise(2600, 2000, 100 + i).JpegsaveBuffer(q: 95)).ToArray();
            foreach (var picture in pictures)
            {
                (await elsewhere.PostAsync($"{at}/photos", Form(picture, "noise.jpg"))).EnsureSuccessStatusCode();
            }

            // Another shop’s program may keep pictures larger than ours does.
            var made = JsonNode.Parse(await elsewhere.GetStringAsync($"{at}/export"))!;
            foreach (var (i, picture) in pictures.Index())
            {
                made["pictures"]![i]!["data"] = Convert.ToBase64String(picture);
            }

            file = made.ToJsonString();
        }

        var before = one.PeakMegabytes();
        using var body = new StringContent(file, new MediaTypeHeaderValue("application/json"));
        var took = await TimeAsync(() => client.PostAsync("/api/cases/import?copy=bench", body));
        figures.Tell("Operation", "a case file taken in", $"{file.Length / 1e6:0} MB, {took / 1000:0.0} s");
        figures.AtMost("Operation", "memory of the server for it, over before", one.PeakMegabytes() - before, 700, "MB");
    }

    private static async Task<string> CaseAsync(HttpClient client)
    {
        var made = JsonNode.Parse(await File.ReadAllTextAsync(Demo.Six))!;
        made["case"]!["title"] = $"Operation {Guid.CreateVersion7()}";
        var answer = await client.PostAsync(
            "/api/cases/import?copy=bench",
            new StringContent(made.ToJsonString(), new MediaTypeHeaderValue("application/json"))
        );
        return $"/api/cases/{JsonNode.Parse(await answer.EnsureSuccessStatusCode().Content.ReadAsStringAsync())!["id"]}";
    }

    private static Image Noise(int width, int height, int seed) =>
        (Image.Gaussnoise(width, height, seed: seed) + new[] { 90.0, 100, 110 }).Cast(Enums.BandFormat.Uchar);

    private static MultipartFormDataContent Form(byte[] data, string name) =>
        new()
        {
            { new StringContent($"{Guid.CreateVersion7()}"), "id" },
            { new StringContent("P1"), "place" },
            { new ByteArrayContent(data), "file", name },
        };

    private static async Task<double> TimeAsync(Func<Task<HttpResponseMessage>> send)
    {
        var began = Stopwatch.GetTimestamp();
        using var answer = await send();
        answer.EnsureSuccessStatusCode();
        return Stopwatch.GetElapsedTime(began).TotalMilliseconds;
    }

    private static async Task<double> MedianAsync(Func<Task<double>> time, int times)
    {
        var all = new List<double>();
        for (var i = 0; i < times; i++)
        {
            all.Add(await time());
        }

        return Percentile(all, 0.5);
    }

    private static double Percentile(IEnumerable<double> times, double part)
    {
        var sorted = times.Order().ToArray();
        return sorted.Length == 0 ? 0 : sorted[(int)(part * (sorted.Length - 1))];
    }
}
