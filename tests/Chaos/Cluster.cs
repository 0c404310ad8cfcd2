using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace VividSleuth.Chaos;

/// <summary>
/// People who write through a proxy while the database that leads is killed under them by whoever started this, and what a further instance adds.
/// </summary>
internal static class Cluster
{
    private const int People = 10;

    /// <summary>After a third of the writes the file appears that says “kill”.</summary>
    private const int KillAfter = 3;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <summary>What does not go on after so long will not.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(5);

    /// <param name="args">Address of the proxy, number of writes, file that says “kill”, addresses of the instances with a space between.</param>
    public static async Task<int> KillAsync(string[] args)
    {
        var (proxy, writes, kill) = (new Uri(args[0]), int.Parse(args[1], CultureInfo.InvariantCulture), args[2]);
        var instances = args[3].Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(a => new Uri(a)).ToArray();
        using var end = new CancellationTokenSource(Longest);
        var answers = new ConcurrentDictionary<string, int>();
        var acknowledged = new ConcurrentDictionary<Guid, (Guid Case, TimeSpan At, int Attempts)>();
        var faults = new ConcurrentQueue<string>();
        var watch = Stopwatch.StartNew();
        var people = new List<Caller>();
        for (var i = 0; i < People; i++)
        {
            var caller = await Caller.SignedInAsync(proxy, i % 2 == 0 ? "tomas" : "ines", answers, end.Token);
            people.Add(caller);
            await caller.PostAsync("/api/cases", Engine(caller.Case), end.Token);
        }

        var heard = instances.Select(a => (At: a, Heard: new Heard())).ToArray();
        var listening = new List<Task>();
        foreach (var (at, ears) in heard)
        {
            listening.Add(Task.Run(() => ListenAsync(at, people[0], ears, watch, end.Token)));
        }

        var share = writes / People;
        var count = 0;
        var killed = TimeSpan.Zero;
        await Task.WhenAll(
            people.Select(p =>
                Task.Run(async () =>
                {
                    for (var i = 0; i < share && !end.IsCancellationRequested; i++)
                    {
                        var id = Guid.CreateVersion7();
                        var attempts = await p.PostAsync($"/api/cases/{p.Case}/findings", Finding(id, (i % 6) + 1), end.Token);
                        if (attempts > 0)
                        {
                            acknowledged[id] = (p.Case, watch.Elapsed, attempts);
                        }

                        if (Interlocked.Increment(ref count) == writes / KillAfter)
                        {
                            killed = watch.Elapsed;
                            await File.WriteAllTextAsync(kill, "");
                        }
                    }
                })
            )
        );
        var done = watch.Elapsed;

        // Nobody writes any more: each instance must tell what was acknowledged, and have heard of the last of it.
        foreach (var at in instances)
        {
            using var caller = await Caller.SignedInAsync(at, "ines", answers, end.Token);
            foreach (var p in people)
            {
                var there = (await caller.GetAsync($"/api/cases/{p.Case}", end.Token))["findings"]!.AsArray();
                var ids = there.Select(f => f!["id"]!.GetValue<Guid>()).ToArray();
                var mine = acknowledged.Where(a => a.Value.Case == p.Case).Select(a => a.Key).ToArray();
                Faults(faults, $"{at} lost", mine.Except(ids));
                Faults(faults, $"{at} has and nobody was told of", ids.Except(mine));
                Faults(faults, $"{at} has twice", ids.GroupBy(id => id).Where(g => g.Count() > 1).Select(g => g.Key));
                Faults(faults, $"{at} has changed", there.Where(f => f!["version"]!.GetValue<int>() != 1).Select(f => f!["id"]!.GetValue<Guid>()));
            }
        }

        if (acknowledged.Count != share * People)
        {
            faults.Enqueue($"{share * People} were entered and {acknowledged.Count} acknowledged within {Longest.TotalMinutes} minutes.");
        }

        var last = (await people[0].RevisionAsync(end.Token)).ToString(CultureInfo.InvariantCulture);
        foreach (var (at, ears) in heard)
        {
            for (var wait = 0; wait < 100 && ears.Last != last; wait++)
            {
                await Task.Delay(100);
            }

            if (ears.Last != last)
            {
                faults.Enqueue($"The screens at {at} heard of revision {ears.Last} last, and {last} is the last.");
            }

            if (!ears.Told.Any(t => t > killed))
            {
                faults.Enqueue($"The screens at {at} heard nothing after the leader was killed.");
            }
        }

        await end.CancelAsync();
        await Task.WhenAll(listening);
        var silence = Silence(acknowledged.Values.Select(a => a.At).Append(TimeSpan.Zero).Order().ToArray());
        var each = people.Max(p => Silence([.. acknowledged.Values.Where(a => a.Case == p.Case).Select(a => a.At).Order()]).TotalSeconds);
        Console.WriteLine(
            $"{acknowledged.Count} writes of {People} people acknowledged in {done.TotalSeconds:0.0} s; {acknowledged.Values.Count(a => a.Attempts > 1)} of them met the dead leader, in {acknowledged.Values.Sum(a => a.Attempts)} attempts"
        );
        Console.WriteLine($"nobody was answered for {silence.TotalSeconds:0.0} s, the one who waited longest for {each:0.0} s");
        Console.WriteLine($"answers: {string.Join(", ", answers.OrderBy(a => a.Key, StringComparer.Ordinal).Select(a => $"{a.Key} × {a.Value}"))}");
        if (double.TryParse(Environment.GetEnvironmentVariable("CLUSTER_AIM"), CultureInfo.InvariantCulture, out var aim) && each > aim)
        {
            faults.Enqueue($"They go on after {each:0.0} s, and should within {aim} s.");
        }

        foreach (var fault in faults.Take(20))
        {
            Console.WriteLine($"FAULT {fault}");
        }

        Console.WriteLine(
            faults.IsEmpty ? "No acknowledged write lost, none doubled; all instances hear of writes again." : $"{faults.Count} faults"
        );
        foreach (var p in people)
        {
            p.Dispose();
        }

        return faults.IsEmpty ? 0 : 1;
    }

    /// <summary>Rounds in a second: each of the people writes a finding and reads what three rooms then say of the engine.</summary>
    /// <param name="args">Address of the proxy, seconds.</param>
    public static async Task<int> RateAsync(string[] args)
    {
        var (proxy, seconds) = (new Uri(args[0]), int.Parse(args[1], CultureInfo.InvariantCulture));
        var answers = new ConcurrentDictionary<string, int>();
        var people = new List<Caller>();
        for (var i = 0; i < People; i++)
        {
            people.Add(await Caller.SignedInAsync(proxy, i % 2 == 0 ? "tomas" : "ines", answers, CancellationToken.None));
            await people[i].PostAsync("/api/cases", Engine(people[i].Case), CancellationToken.None);
        }

        async Task<double> RoundsAsync(TimeSpan time)
        {
            using var end = new CancellationTokenSource(time);
            var began = Stopwatch.GetTimestamp();
            var rounds = await Task.WhenAll(
                people.Select(p =>
                    Task.Run(async () =>
                    {
                        var done = 0;
                        for (; !end.IsCancellationRequested; done++)
                        {
                            await p.PostAsync(
                                $"/api/cases/{p.Case}/findings",
                                Finding(Guid.CreateVersion7(), (done % 6) + 1),
                                CancellationToken.None
                            );
                            foreach (var room in new[] { "strip", "look", "trace" })
                            {
                                await p.GetAsync($"/api/cases/{p.Case}/answers?rooms={room}", CancellationToken.None);
                            }
                        }

                        return done;
                    })
                )
            );
            return rounds.Sum() / Stopwatch.GetElapsedTime(began).TotalSeconds;
        }

        await RoundsAsync(TimeSpan.FromSeconds(seconds / 3.0));
        Console.WriteLine((await RoundsAsync(TimeSpan.FromSeconds(seconds))).ToString("0.00", CultureInfo.InvariantCulture));
        foreach (var p in people)
        {
            p.Dispose();
        }

        return 0;
    }

    private static void Faults(ConcurrentQueue<string> faults, string what, IEnumerable<Guid> ids)
    {
        foreach (var id in ids)
        {
            faults.Enqueue($"{what} {id}");
        }
    }

    private static TimeSpan Silence(TimeSpan[] at) => at.Length < 2 ? TimeSpan.Zero : at.Zip(at.Skip(1), (a, b) => b - a).Max();

    private static JsonObject Finding(Guid id, int piston) =>
        new()
        {
            ["id"] = id,
            ["place"] = $"P{piston}",
            ["sign"] = "skirt-scuff-thrust",
            ["seen"] = "present",
            ["level"] = 1,
            ["spot"] = "",
            ["note"] = "",
        };

    private static JsonObject Engine(Guid id) => Command.Six(id, "Written to while the leader dies");

    private sealed class Heard
    {
        public ConcurrentQueue<TimeSpan> Told { get; } = [];

        public string Last { get; set; } = "";
    }

    /// <summary>As a screen does: told again from where it stands as often as the line breaks.</summary>
    private static async Task ListenAsync(Uri at, Caller caller, Heard heard, Stopwatch watch, CancellationToken end)
    {
        using var line = new HttpClient { BaseAddress = at, Timeout = Timeout.InfiniteTimeSpan };
        while (!end.IsCancellationRequested)
        {
            try
            {
                using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/cases/{caller.Case}/events");
                request.Headers.Add("Cookie", caller.Cookie);
                using var answer = await line.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, end);
                using var lines = new StreamReader(await answer.Content.ReadAsStreamAsync(end));
                while (await lines.ReadLineAsync(end) is { } said)
                {
                    if (
                        said.StartsWith("data:", StringComparison.Ordinal) && JsonNode.Parse(said[5..])?["revision"]?.GetValue<long>() is { } revision
                    )
                    {
                        // Zero says that some may have been missed, and the screen asks.
                        heard.Last = (revision == 0 ? await caller.RevisionAsync(end) : revision).ToString(CultureInfo.InvariantCulture);
                        heard.Told.Enqueue(watch.Elapsed);
                    }
                }
            }
            catch (Exception e) when (Device.IsCut(e))
            {
                // Begun again.
            }

            await Task.Delay(300, CancellationToken.None);
        }
    }

    /// <summary>One signed-in person, who sends what has an id of its own until it is answered.</summary>
    private sealed class Caller : IDisposable
    {
        private readonly HttpClient _line;
        private readonly ConcurrentDictionary<string, int> _answers;

        private Caller(Uri at, ConcurrentDictionary<string, int> answers)
        {
            _line = new HttpClient(new SocketsHttpHandler { UseCookies = false }) { BaseAddress = at, Timeout = Patience };
            _answers = answers;
        }

        public Guid Case { get; } = Guid.CreateVersion7();

        public string Cookie { get; private set; } = "";

        public static async Task<Caller> SignedInAsync(Uri at, string person, ConcurrentDictionary<string, int> answers, CancellationToken end)
        {
            var caller = new Caller(at, answers);
            while (true)
            {
                try
                {
                    using var answer = await caller._line.PostAsJsonAsync(
                        "/api/sign-in",
                        new { name = person, password = $"demo-{person}-bench" },
                        end
                    );
                    answers.AddOrUpdate($"sign-in {(int)answer.StatusCode}", 1, (_, n) => n + 1);
                    if (answer.IsSuccessStatusCode)
                    {
                        caller.Cookie = string.Join("; ", answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]));
                        return caller;
                    }
                }
                catch (Exception e) when (Device.IsCut(e) && !end.IsCancellationRequested)
                {
                    answers.AddOrUpdate("sign-in without answer", 1, (_, n) => n + 1);
                }

                await Task.Delay(500, end);
            }
        }

        /// <returns>How often it was sent; nothing where it was not answered before the end.</returns>
        public async Task<int> PostAsync(string address, JsonObject body, CancellationToken end)
        {
            var (attempts, _) = await SendAsync(() => new HttpRequestMessage(HttpMethod.Post, address) { Content = JsonContent.Create(body) }, end);
            return attempts;
        }

        public async Task<JsonNode> GetAsync(string address, CancellationToken end) =>
            (await SendAsync(() => new HttpRequestMessage(HttpMethod.Get, address), end)).Body
            ?? throw new InvalidOperationException($"{address} was not answered.");

        /// <summary>Of the case, by the first line that a screen hears.</summary>
        public async Task<long> RevisionAsync(CancellationToken end)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/cases/{Case}/events");
            request.Headers.Add("Cookie", Cookie);
            using var answer = await _line.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, end);
            using var lines = new StreamReader(await answer.Content.ReadAsStreamAsync(end));
            while (await lines.ReadLineAsync(end) is { } said)
            {
                if (said.StartsWith("data:", StringComparison.Ordinal))
                {
                    return JsonNode.Parse(said[5..])!["revision"]!.GetValue<long>();
                }
            }

            throw new IOException("No revision was told.");
        }

        private async Task<(int Attempts, JsonNode? Body)> SendAsync(Func<HttpRequestMessage> make, CancellationToken end)
        {
            for (var attempts = 1; !end.IsCancellationRequested; attempts++)
            {
                try
                {
                    using var request = make();
                    request.Headers.Add("Cookie", Cookie);
                    using var answer = await _line.SendAsync(request, end);
                    var text = await answer.Content.ReadAsStringAsync(end);
                    _answers.AddOrUpdate($"{(int)answer.StatusCode}", 1, (_, n) => n + 1);
                    if (answer.IsSuccessStatusCode)
                    {
                        return (attempts, JsonNode.Parse(text));
                    }

                    if ((int)answer.StatusCode < 500 && answer.StatusCode is not HttpStatusCode.TooManyRequests)
                    {
                        throw new InvalidOperationException($"{request.RequestUri} answered {(int)answer.StatusCode}: {text}");
                    }
                }
                catch (Exception e) when (Device.IsCut(e))
                {
                    _answers.AddOrUpdate("no answer", 1, (_, n) => n + 1);
                }

                await Task.Delay(200, CancellationToken.None);
            }

            return (0, null);
        }

        public void Dispose() => _line.Dispose();
    }
}
