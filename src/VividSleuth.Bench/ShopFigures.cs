using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using NetVips;
using Npgsql;

namespace VividSleuth.Bench;

/// <summary>The server on a real PostgreSQL, against the same SQL and the same library calls run bare.</summary>
internal static class ShopFigures
{
    private static readonly string[] Tables =
    [
        "parts",
        "steps",
        "own_steps",
        "step_marks",
        "fastener_moves",
        "sign_offs",
        "renumberings",
        "findings",
        "photos",
        "readings",
        "limits",
        "verdicts",
        "conclusions",
    ];

    public static async Task RunAsync(Figures figures)
    {
        var server =
            Environment.GetEnvironmentVariable("SLEUTH_TEST_DB")
            ?? throw new InvalidOperationException("Set SLEUTH_TEST_DB to a PostgreSQL server, as ./bench does.");
        var connection = $"{server};Database=bench_{Guid.CreateVersion7():N}";
        await using var factory = new WebApplicationFactory<Program>().WithWebHostBuilder(b =>
            b.UseContentRoot(Path.Combine(Demo.Root, "src/VividSleuth.Server"))
                .UseSetting("ConnectionStrings:Sleuth", connection)
                .UseSetting("Logging:LogLevel:Default", "Warning")
        );
        using var client = factory.CreateClient();
        await client.PostAsJsonAsync("/api/first-lead", new { name = "bench", password = "bench-password" });
        (await client.PostAsJsonAsync("/api/sign-in", new { name = "bench", password = "bench-password" })).EnsureSuccessStatusCode();
        await using var bare = NpgsqlDataSource.Create(connection);

        var id = await ImportAsync(client, await File.ReadAllTextAsync(Demo.Six));
        var (open, sql) = await Figures.InTurnsAsync(
            async () => (await client.GetByteArrayAsync($"/api/cases/{id}")).ToString(),
            () => ReadBareAsync(bare, id)
        );
        figures.AtMost("Casebook", "opening the demo six over its SQL run bare", open / sql, 2, "×");
        figures.Tell("Casebook", "opening the demo six", $"{open:0.00} ms");
        figures.Tell("Casebook", "its SQL run bare", $"{sql:0.00} ms");

        await using (
            var many = bare.CreateCommand(
                """
                insert into parts ("Id", "CaseId", "Place", "Mark", "Method", "SameOnAll", "Facing", "GradeStamped", "Custody", "Where", "SideUp", "MarkedAs", "Remarks", "At", "By", "Version")
                select gen_random_uuid(), $1, 'bench ' || n, 'bench', 'Engraver', false, 'Left', '', 'Bench', 'row ' || n, '', '', '', now(), 'bench', 1 from generate_series(1, 2000) n
                """
            )
        )
        {
            many.Parameters.AddWithValue(id);
            await many.ExecuteNonQueryAsync();
        }

        (open, sql) = await Figures.InTurnsAsync(
            async () => (await client.GetByteArrayAsync($"/api/cases/{id}")).ToString(),
            () => ReadBareAsync(bare, id)
        );
        figures.AtMost("Index", "opening a case of 2,000 parts over its SQL run bare", open / sql, 2, "×");
        figures.Tell("Index", "opening a case of 2,000 parts", $"{open:0.0} ms");

        var picture = await File.ReadAllBytesAsync(Demo.Picture);
        await using (var command = bare.CreateCommand("create table bare_pictures (id uuid primary key, original bytea, view bytea, thumb bytea)"))
        {
            await command.ExecuteNonQueryAsync();
        }

        var (intake, floor) = await Figures.InTurnsAsync(() => SendAsync(client, id, picture), () => KeepBareAsync(bare, picture));
        figures.AtMost("Look", "photograph intake over libvips and insert alone", intake / floor, 2, "×");
        figures.Tell("Look", "photograph intake", $"{intake:0.0} ms");
    }

    public static async Task<Guid> ImportAsync(HttpClient client, string file)
    {
        using var content = new StringContent(file, MediaTypeHeaderValue.Parse("application/json"));
        var answer = await client.PostAsync("/api/cases/import", content);
        answer.EnsureSuccessStatusCode();
        return Guid.Parse(JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["id"]!.ToString());
    }

    /// <summary>The case and all its records, every column of every row read, nothing made of them.</summary>
    public static async Task ReadBareAsync(NpgsqlDataSource bare, Guid id)
    {
        await using var connection = await bare.OpenConnectionAsync();
        foreach (
            var sql in Tables.Select(t => $"select * from {t} where \"CaseId\" = $1 order by \"Id\"").Prepend("select * from cases where \"Id\" = $1")
        )
        {
            await using var command = new NpgsqlCommand(sql, connection) { Parameters = { new() { Value = id } } };
            await using var reader = await command.ExecuteReaderAsync();
            var values = new object[reader.FieldCount];
            while (await reader.ReadAsync())
            {
                reader.GetValues(values);
            }
        }
    }

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
