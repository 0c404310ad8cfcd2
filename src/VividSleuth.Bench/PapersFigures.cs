using System.Diagnostics;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Npgsql;

namespace VividSleuth.Bench;

/// <summary>How long papers and sealed bags take, against what common tools take over the same bytes, and what the server holds meanwhile.</summary>
internal static partial class PapersFigures
{
    private const int BagPictures = 500;
    private const int PictureBytes = 3_000_000;

    /// <summary>Pictures of the large case, and the originals that they share: what is sent is of the first, what is kept of the second.</summary>
    private const int LargePictures = 2000;

    private const int LargeOriginals = 40;
    private const int LargeBytes = 5_200_000;

    /// <summary>Readings of a case whose report has some three hundred pages.</summary>
    private const int LongReadings = 14_500;

    public static async Task RunAsync(Figures figures)
    {
        var database = $"{Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")};Database=papers_{Guid.CreateVersion7():N}";
        await using var bare = NpgsqlDataSource.Create(database);
        await using (var one = await Instance.StartAsync(database))
        {
            using var lead = await one.SignedInAsync("ines");
            await PapersAsync(figures, lead);
            await BagAsync(figures, lead, bare);
        }

        await using var fresh = await Instance.StartAsync(database);
        using var client = await fresh.SignedInAsync("ines");
        var before = fresh.PeakMegabytes();
        var at = await CaseAsync(client);
        await PicturesAsync(bare, at, LargePictures, LargeOriginals, LargeBytes);
        var began = Stopwatch.GetTimestamp();
        await SealAsync(client, at);
        var bytes = await ReadAsync(client, $"{at}/seals/1/bag");
        figures.Tell(
            "Papers",
            $"a bag of {LargePictures} pictures, sealed and sent",
            $"{bytes / 1e9:0.0} GB, {Stopwatch.GetElapsedTime(began).TotalSeconds:0} s"
        );
        figures.AtMost("Papers", $"peak of the server with it, {before:0} MB before", fresh.PeakMegabytes(), 300, "MB");
    }

    private static async Task PapersAsync(Figures figures, HttpClient lead)
    {
        var cases = (await lead.GetFromJsonAsync<JsonNode>("/api/cases"))!["cases"]!.AsArray();
        var six = $"/api/cases/{cases.First(c => c!["title"]!.ToString().Contains("big end 4", StringComparison.Ordinal))!["id"]}";
        figures.AtMost("Papers", "report of the demo six as PDF, the first", await SecondsAsync(lead, $"{six}/dossier/pdf?kind=examiner"), 2, "s");
        var times = new List<double>();
        for (var i = 0; i < 5; i++)
        {
            times.Add(await SecondsAsync(lead, $"{six}/dossier/pdf?kind=examiner"));
        }

        figures.AtMost("Papers", "the same again, half within", times.Order().ElementAt(2), 2, "s");
        var at = await CaseAsync(lead);
        await ReadingsAsync(lead, at);
        var began = Stopwatch.GetTimestamp();
        var pdf = await lead.GetByteArrayAsync($"{at}/dossier/pdf?kind=examiner");
        var seconds = Stopwatch.GetElapsedTime(began).TotalSeconds;
        var pages = PageObject().Count(System.Text.Encoding.Latin1.GetString(pdf));
        figures.AtMost("Papers", $"a report of {pages} pages", seconds, 20, "s");
    }

    private static async Task BagAsync(Figures figures, HttpClient lead, NpgsqlDataSource bare)
    {
        var at = await CaseAsync(lead);
        var folder = Directory.CreateTempSubdirectory("papers").FullName;
        await PicturesAsync(bare, at, BagPictures, BagPictures, PictureBytes, folder);
        // Whatever is compared is read from memory, not from the disk.
        await ToolAsync("bash", "-c", $"cat '{folder}'/* > /dev/null");
        var began = Stopwatch.GetTimestamp();
        await ToolAsync("bash", "-c", $"cd '{folder}' && tar cf '{folder}.tar' . && sha256sum * > '{folder}.sums'");
        var tools = Stopwatch.GetElapsedTime(began).TotalSeconds;
        began = Stopwatch.GetTimestamp();
        await SealAsync(lead, at);
        var sealing = Stopwatch.GetElapsedTime(began).TotalSeconds;
        await using (var file = File.Create($"{folder}.zip"))
        {
            await using var stream = await lead.GetStreamAsync($"{at}/seals/1/bag");
            await stream.CopyToAsync(file);
        }

        var both = Stopwatch.GetElapsedTime(began).TotalSeconds;
        figures.Tell("Papers", $"tar and sha256sum over {BagPictures} pictures of 3 MB", $"{tools:0.0} s");
        figures.Tell("Papers", "of sealing them: both digests, papers and signature", $"{sealing:0.0} s");
        figures.AtMost("Papers", "sealing them and saving the bag, in times of that", both / tools, 1.3, "");
        Directory.Delete(folder, recursive: true);
        Array.ForEach([$"{folder}.tar", $"{folder}.sums", $"{folder}.zip"], File.Delete);
    }

    private static async Task<string> CaseAsync(HttpClient client)
    {
        var file = JsonNode.Parse(await File.ReadAllTextAsync(Demo.Six))!;
        var made = await client.PostAsJsonAsync($"/api/cases/import?copy={Guid.CreateVersion7()}", file);
        made.EnsureSuccessStatusCode();
        return $"/api/cases/{(await made.Content.ReadFromJsonAsync<JsonNode>())!["id"]}";
    }

    /// <summary>Readings over all crankpins, in more rounds than anybody takes.</summary>
    private static async Task ReadingsAsync(HttpClient client, string at)
    {
        var lines = new List<string> { "place,characteristic,station,direction,typed" };
        for (var i = 0; lines.Count <= LongReadings; i++)
        {
            lines.Add(FormattableString.Invariant($"C{(i % 6) + 1},compression,,,{1100 + (i % 7)} kPa"));
            lines.Add(FormattableString.Invariant($"K{(i % 6) + 1},crankpin-diameter,,,{71.98 + (0.001 * (i % 5))}"));
        }

        var answer = await client.PostAsync(
            $"{at}/gauge/readings.csv?confirmed=true&keepGood=true",
            new StringContent(string.Join('\n', lines), System.Text.Encoding.UTF8, "text/csv")
        );
        answer.EnsureSuccessStatusCode();
    }

    /// <summary>Records of photographs with originals of noise: what is in them is not looked at here. Into the database, since to send them is not measured.</summary>
    private static async Task PicturesAsync(NpgsqlDataSource bare, string at, int pictures, int originals, int bytes, string? folder = null)
    {
        var caseId = Guid.Parse(at.Split('/')[^1]);
        var sums = new List<string>();
        for (var i = 0; i < originals; i++)
        {
            var data = RandomNumberGenerator.GetBytes(bytes);
            sums.Add(Convert.ToHexStringLower(SHA256.HashData(data)));
            await RunAsync(
                bare,
                """insert into photo_originals ("Sha256", "Sha512", "Data") values ($1, $2, $3)""",
                sums[^1],
                Convert.ToHexStringLower(SHA512.HashData(data)),
                data
            );
            if (folder is not null)
            {
                await File.WriteAllBytesAsync(Path.Combine(folder, $"{i:0000}.jpg"), data);
            }
        }

        for (var i = 0; i < pictures; i++)
        {
            var id = Guid.CreateVersion7();
            await RunAsync(
                bare,
                """
                insert into photos ("Id", "CaseId", "Place", "FileName", "Sha256", "Width", "Height", "Bytes", "Caption", "Step", "Shot", "At", "By", "Version", "Imported")
                values ($1, $2, 'P1', 'a.jpg', $3, 8, 8, $4, '', '', '', now(), 'bench', 1, false)
                """,
                id,
                caseId,
                sums[i % originals],
                (long)bytes
            );
            await RunAsync(
                bare,
                """insert into photo_contents ("PhotoId", "Sha256", "View", "Thumb") select $1, $2, "View", "Thumb" from photo_contents limit 1""",
                id,
                sums[i % originals]
            );
        }

        await RunAsync(bare, """update case_states set "Revision" = "Revision" + 1 where "CaseId" = $1""", caseId);
    }

    private static async Task RunAsync(NpgsqlDataSource bare, string sql, params object[] values)
    {
        await using var command = bare.CreateCommand(sql);
        Array.ForEach(values, v => command.Parameters.Add(new NpgsqlParameter { Value = v }));
        await command.ExecuteNonQueryAsync();
    }

    private static async Task SealAsync(HttpClient client, string at) =>
        (await client.PostAsJsonAsync($"{at}/seals", new { id = Guid.CreateVersion7(), why = "" })).EnsureSuccessStatusCode();

    private static async Task<double> SecondsAsync(HttpClient client, string url)
    {
        var began = Stopwatch.GetTimestamp();
        await client.GetByteArrayAsync(url);
        return Stopwatch.GetElapsedTime(began).TotalSeconds;
    }

    /// <returns>Bytes that came; none of them is kept.</returns>
    private static async Task<long> ReadAsync(HttpClient client, string url)
    {
        await using var stream = await client.GetStreamAsync(url);
        var buffer = new byte[1 << 20];
        long all = 0;
        for (int read; (read = await stream.ReadAsync(buffer)) > 0; )
        {
            all += read;
        }

        return all;
    }

    private static async Task ToolAsync(string program, params string[] args)
    {
        using var process = Process.Start(new ProcessStartInfo(program, args) { UseShellExecute = false })!;
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException($"{program} ended with {process.ExitCode}");
        }
    }

    [GeneratedRegex(@"/Type\s*/Page[^s]", RegexOptions.None, 5000)]
    private static partial Regex PageObject();
}
