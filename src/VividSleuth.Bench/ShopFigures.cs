using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using Npgsql;
using VividSleuth.Core.Index;

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
        "photo_marks",
        "debris",
        "readings",
        "limits",
        "service_sizes",
        "examinations",
        "verdicts",
        "options",
        "option_choices",
        "order_lines",
        "order_moves",
        "offers",
        "conclusions",
    ];

    public static async Task RunAsync(Figures figures)
    {
        await using var shop = await BenchShop.OpenAsync();
        var (client, bare) = (shop.Client, shop.Bare);
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
}
