using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace VividSleuth.Chaos;

internal static class Command
{
    private const int Devices = 10;

    /// <summary>After what was broken is mended, all that waits on the devices is to arrive within this.</summary>
    private static readonly TimeSpan Drain = TimeSpan.FromSeconds(120);

    /// <param name="args">Seconds, the seed and a picture; or “cluster” or “rate” and what those want.</param>
    private static Task<int> Main(string[] args) =>
        args[0] switch
        {
            "cluster" => Cluster.KillAsync(args[1..]),
            "rate" => Cluster.RateAsync(args[1..]),
            _ => BreakAsync(args),
        };

    private static async Task<int> BreakAsync(string[] args)
    {
        var (seconds, seed) = (int.Parse(args[0]), int.Parse(args[1]));
        var chance = new Random(seed);
        await using var world = new World(Environment.GetEnvironmentVariable("CHAOS_FOLDER")!, chance);
        await world.BeginAsync();
        var cases = new[] { await CaseAsync(world, "Turned to and fro"), await CaseAsync(world, "Left as it is") };
        var tabsCase = await CaseAsync(world, "Two tabs");
        var picture = await File.ReadAllBytesAsync(args[2]);
        var ledger = new Ledger();
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(seconds));
        using var end = new CancellationTokenSource();
        var devices = Enumerable
            .Range(0, Devices)
            .Select(i => new Device(world, ledger, i % 2 == 0 ? "tomas" : "ines", cases, picture, chance.Next()))
            .ToArray();
        using var lead = new Device(world, ledger, "ines", cases, picture, chance.Next());
        var running = devices.Select(d => Task.Run(() => d.RunAsync(stop.Token, end.Token))).ToList();
        running.Add(Task.Run(() => TurnAsync(lead, new Random(chance.Next()), stop.Token, end.Token)));
        var broken = new Breaker(world, chance);
        var tabsFile = Path.Combine(Environment.GetEnvironmentVariable("CHAOS_WORK")!, "tabs.json");
        using var tabs = Process.Start(
            "node",
            ["tests/browser/tabs.mjs", $"http://127.0.0.1:{world.Lines[^1].Port}", $"{tabsCase}", $"{seconds}", $"{seed}", tabsFile]
        );
        try
        {
            await broken.RunAsync(stop.Token);
            await world.MendAsync();
        }
        catch
        {
            tabs.Kill(entireProcessTree: true);
            throw;
        }

        end.CancelAfter(Drain);
        var began = Stopwatch.GetTimestamp();
        await Task.WhenAll(running);
        var drained = Stopwatch.GetElapsedTime(began);
        await tabs.WaitForExitAsync();
        for (var i = 0; i < World.Instances; i++)
        {
            using var client = await SignedInAsync(world, i);
            foreach (var id in cases)
            {
                await ledger.CompareAsync(client, id);
            }

            await ledger.CompareLessonsAsync(client);
            await ledger.CompareTabsAsync(client, tabsCase, tabsFile);
        }

        foreach (var open in ledger.All.Where(e => e.Fate == Fate.Open))
        {
            ledger.Faults.Enqueue($"{open.List} {open.Id} was not answered within {Drain.TotalSeconds} s after all was mended.");
        }

        foreach (var said in world.Told)
        {
            ledger.Faults.Enqueue(said);
        }

        foreach (var device in devices)
        {
            device.Dispose();
        }

        var written = ledger.All.Where(e => e.Fate == Fate.Written).ToArray();
        Console.WriteLine($"seed {seed}, {seconds} s, broken {broken.Times} times: {broken.Told}");
        Console.WriteLine(
            $"{ledger.All.Count} entered, {written.Length} acknowledged, {ledger.All.Count(e => e.Fate == Fate.Refused)} refused for their numbering; "
                + $"{ledger.All.Count(e => e.Attempts > 1)} met something broken, in {ledger.All.Sum(e => e.Attempts)} attempts; all there {drained.TotalSeconds:0.0} s after it was mended"
        );
        Console.WriteLine($"answers: {ledger.Answers}");
        foreach (var fault in ledger.Faults.Take(40))
        {
            Console.WriteLine($"FAULT {fault}");
        }

        Console.WriteLine(ledger.Faults.IsEmpty ? "Nothing lost, nothing twice, nothing in a wrong place or name." : $"{ledger.Faults.Count} faults");
        return ledger.Faults.IsEmpty && written.Length > 0 ? 0 : 1;
    }

    private static async Task TurnAsync(Device lead, Random chance, CancellationToken stop, CancellationToken end)
    {
        while (!stop.IsCancellationRequested)
        {
            await Task.Delay(chance.Next(1_000, 6_000), CancellationToken.None);
            await lead.TurnAsync(end);
        }
    }

    private static async Task<HttpClient> SignedInAsync(World world, int instance)
    {
        var client = new HttpClient { BaseAddress = world.Straight(instance), Timeout = TimeSpan.FromSeconds(60) };
        for (var tries = 0; ; tries++)
        {
            using var told = await client.PostAsJsonAsync("/api/sign-in", new { name = "ines", password = "demo-ines-bench" });
            if (told.IsSuccessStatusCode)
            {
                return client;
            }

            // What the devices have asked for is still being worked off.
            if (tries == 60 || told.StatusCode is not (HttpStatusCode.ServiceUnavailable or HttpStatusCode.TooManyRequests))
            {
                throw new InvalidOperationException(await told.Content.ReadAsStringAsync());
            }

            await Task.Delay(1_000);
        }
    }

    private static async Task<Guid> CaseAsync(World world, string title)
    {
        using var client = await SignedInAsync(world, 0);
        var id = Guid.CreateVersion7();
        (await client.PostAsJsonAsync("/api/cases", Six(id, title))).EnsureSuccessStatusCode();
        return id;
    }

    /// <summary>An engine as a screen enters it.</summary>
    public static JsonObject Six(Guid id, string title) =>
        new()
        {
            ["id"] = id,
            ["title"] = title,
            ["engineName"] = "Orchard sprayer six",
            ["owner"] = "",
            ["layout"] = new JsonObject
            {
                ["arrangement"] = "inline",
                ["cylinders"] = 6,
                ["cycle"] = "fourStroke",
                ["bearings"] = "plain",
                ["numbering"] = "alongTheCrank",
                ["numberOneEnd"] = "freeEnd",
                ["rotation"] = "clockwise",
                ["firingOrder"] = new JsonArray(1, 5, 3, 6, 2, 4),
                ["bankAOnTheLeft"] = true,
                ["oilFeedEnd"] = "freeEnd",
                ["ringsPerPiston"] = 3,
                ["valveGear"] = "pushrod",
                ["inletValves"] = 1,
                ["exhaustValves"] = 1,
                ["fuel"] = "carburettor",
                ["cooling"] = "liquid",
                ["case"] = "block",
                ["gearboxInCase"] = false,
            },
        };
}
