using System.Diagnostics;
using NetVips;
using Npgsql;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Bench;

/// <summary>Intake of a hundred pictures of 12 megapixels against libvips and insert alone, its memory, and what Look works out.</summary>
internal static class LookFigures
{
    private const int Pictures = 100;

    public static async Task RunAsync(Figures figures)
    {
        Sheet(figures);
        await using var shop = await BenchShop.OpenAsync();
        var id = await ShopFigures.ImportAsync(shop.Client, await File.ReadAllTextAsync(Demo.Six));
        await using (
            var command = shop.Bare.CreateCommand("create table bare_pictures (id uuid primary key, original bytea, view bytea, thumb bytea)")
        )
        {
            await command.ExecuteNonQueryAsync();
        }

        var picture = Shot();
        figures.Tell("Look", "size of a picture of 4,000 × 3,000", $"{picture.Length / 1024.0 / 1024:0.0} MB");
        // Warm-up of both, then in turns, so that a busy moment of the machine meets both.
        await SendAsync(shop.Client, id, Numbered(picture, -1));
        await KeepBareAsync(shop.Bare, Numbered(picture, -2));
        var (intake, floor) = (TimeSpan.Zero, TimeSpan.Zero);
        for (var i = 0; i < Pictures; i++)
        {
            var data = Numbered(picture, i);
            var start = Stopwatch.GetTimestamp();
            await SendAsync(shop.Client, id, data);
            intake += Stopwatch.GetElapsedTime(start);
            start = Stopwatch.GetTimestamp();
            await KeepBareAsync(shop.Bare, data);
            floor += Stopwatch.GetElapsedTime(start);
        }

        figures.AtMost("Look", $"intake of {Pictures} such over libvips and insert alone", intake / floor, 1.5, "×");
        figures.Tell("Look", "intake of one", $"{intake.TotalMilliseconds / Pictures:0} ms");

        figures.AtMost("Look", "memory of the server while eight at a time are taken in", await MemoryAsync(picture), 600, "MB");
    }

    /// <summary>Most memory that a server of its own held at once while a hundred pictures came in, eight at a time; in MB.</summary>
    private static async Task<double> MemoryAsync(byte[] picture)
    {
        var port = FreePort();
        var start = new ProcessStartInfo(
            "dotnet",
            [
                Path.Combine(Demo.Root, "src/VividSleuth.Server/bin/Release/net10.0/VividSleuth.Server.dll"),
                "--urls",
                $"http://127.0.0.1:{port}",
                "--contentRoot",
                Path.Combine(Demo.Root, "src/VividSleuth.Server"),
            ]
        )
        {
            RedirectStandardOutput = true,
            UseShellExecute = false,
        };
        start.Environment["ConnectionStrings__Sleuth"] =
            $"{Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")};Database=bench_{Guid.CreateVersion7():N}";
        using var server = Process.Start(start)!;
        var code = "";
        server.OutputDataReceived += (_, line) =>
        {
            if (line.Data?.IndexOf('#') is >= 0 and var at)
            {
                code = line.Data[(at + 1)..].Split(' ')[0];
            }
        };
        server.BeginOutputReadLine();
        try
        {
            using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}"), Timeout = TimeSpan.FromMinutes(10) };
            for (var tries = 0; !await AnswersAsync(client); tries++)
            {
                await Task.Delay(tries < 300 ? 200 : throw new TimeoutException("The server did not start."));
            }

            await BenchShop.EnterAsync(client, code);
            var id = await ShopFigures.ImportAsync(client, await File.ReadAllTextAsync(Demo.Six));
            await Parallel.ForEachAsync(
                Enumerable.Range(0, Pictures),
                new ParallelOptions { MaxDegreeOfParallelism = 8 },
                async (i, _) => await SendAsync(client, id, Numbered(picture, i))
            );
            // The kernel's own high-water mark of resident memory.
            var mark = File.ReadLines($"/proc/{server.Id}/status").First(l => l.StartsWith("VmHWM", StringComparison.Ordinal));
            return double.Parse(mark.Split(' ', StringSplitOptions.RemoveEmptyEntries)[^2], System.Globalization.CultureInfo.InvariantCulture) / 1024;
        }
        finally
        {
            server.Kill();
        }
    }

    private static async Task<bool> AnswersAsync(HttpClient client)
    {
        try
        {
            return (await client.GetAsync("/api/setup")).IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }

    private static int FreePort()
    {
        using var listener = new System.Net.Sockets.TcpListener(System.Net.IPAddress.Loopback, 0);
        listener.Start();
        return ((System.Net.IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static void Sheet(Figures figures)
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var layout = new EngineLayout
        {
            Arrangement = Arrangement.Vee,
            Cylinders = 16,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            Numbering = NumberingScheme.OddEven,
            FiringOrder = [.. Enumerable.Range(1, 16)],
        };
        var table = new AddressTable(Engine.From(layout));
        var c = new EngineCase { Layout = layout };
        var random = new Random(4);
        foreach (var place in table.All.Where(a => a.Kind.Scope == StationScope.Cylinder))
        {
            foreach (var sign in knowledge.SignsOn(place.Kind.Id).Take(4))
            {
                var level = random.Next(4);
                c.Findings.Add(
                    new Finding
                    {
                        Id = Guid.CreateVersion7(),
                        Place = place.Code,
                        Sign = sign.Id,
                        Level = level,
                        Seen = level > 0 ? Seen.Present : Seen.Absent,
                        Zones = level > 0 && ZoneMaps.Of(place, table.Engine) is not null ? ["C3", "C4"] : [],
                    }
                );
            }
        }

        var gauge = SheetBuilder.Build(c.GaugeLog(), table, knowledge, []);
        var plan = StripPlanner.Plan(c.StripLog(), table, knowledge);
        var measured = gauge.Figures.Select(f => new MeasuredAt(f.Characteristic, f.Place, f.Value)).ToArray();
        figures.Tell(
            "Look",
            $"patterns, spots and shots of 16 cylinders, {c.Findings.Count} findings",
            $"{Figures.Median(() => LookSummary.Of(c.LookLog(), table, knowledge, measured, plan)):0.0} ms"
        );
    }

    /// <summary>A picture of 12 megapixels with the grain of a photograph.</summary>
    private static byte[] Shot()
    {
        using var grain = Image.Gaussnoise(4000, 3000, sigma: 6, mean: 0);
        using var shape = Image.Perlin(4000, 3000, cellSize: 400);
        using var band = (shape * 0.45) + 128 + grain;
        using var rgb = band.Bandjoin(band * 0.95, band * 0.9).Cast(Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        return rgb.JpegsaveBuffer(q: 88);
    }

    /// <summary>The same picture as a file of its own: a number behind its end, which no decoder reads.</summary>
    private static byte[] Numbered(byte[] picture, int number) => [.. picture, .. BitConverter.GetBytes(number)];

    private static async Task SendAsync(HttpClient client, Guid caseId, byte[] picture)
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Guid.CreateVersion7().ToString()), "id" },
            { new StringContent("R4U"), "place" },
            { new ByteArrayContent(picture), "file", "shell.jpg" },
        };
        (await client.PostAsync($"/api/cases/{caseId}/photos", form)).EnsureSuccessStatusCode();
    }

    private static async Task KeepBareAsync(NpgsqlDataSource bare, byte[] picture)
    {
        using var view = Image.ThumbnailBuffer(picture, 1600, height: 1600, size: Enums.Size.Down);
        using var memory = view.CopyMemory();
        using var thumb = memory.ThumbnailImage(320, height: 320, size: Enums.Size.Down);
        await using var command = bare.CreateCommand("insert into bare_pictures values ($1, $2, $3, $4)");
        command.Parameters.AddWithValue(Guid.CreateVersion7());
        command.Parameters.AddWithValue(picture);
        command.Parameters.AddWithValue(memory.JpegsaveBuffer(q: 82));
        command.Parameters.AddWithValue(thumb.JpegsaveBuffer(q: 82));
        await command.ExecuteNonQueryAsync();
    }
}
