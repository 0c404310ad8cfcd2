using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using VividSleuth.Core.Casebook;

namespace VividSleuth.Store.Cases;

/// <summary>
/// One statement that reads a whole case, made of the mapping: PostgreSQL puts its records together as JSON, a list a kind. Sixteen statements,
/// one a kind, took longer to send than to run.
/// </summary>
internal static class CaseQuery
{
    /// <summary>Kept apart from the case file's: the database names enumeration members as they are in C# and writes times in its own zone.</summary>
    private static readonly JsonSerializerOptions Json = new(CaseFile.Json) { WriteIndented = false, Converters = { new Utc() } };

    private static string? _sql;

    /// <summary>The case with all its records, in the order of their ids; null where there is none.</summary>
    public static async Task<EngineCase?> ReadAsync(SleuthDb db, Guid id, CancellationToken cancel)
    {
        var sql = _sql ??= Sql(db.Model);
        var rows = await db.Database.SqlQueryRaw<string>(sql, id).ToListAsync(cancel);
        return rows.Count == 0 ? null : JsonSerializer.Deserialize<EngineCase>(rows[0], Json)!;
    }

    private static string Sql(IModel model)
    {
        var root = model.FindEntityType(typeof(EngineCase))!;
        var lists = root.GetNavigations()
            .Where(n => n.IsCollection)
            .Select(n =>
                $"""
                    (select coalesce(json_agg(x), '[]') from
                        (select {Columns(n.TargetEntityType)} from {n.TargetEntityType.GetTableName()} t where t."CaseId" = c."Id" order by t."Id") x
                    ) as "{Name(n.Name)}"
                    """
            );
        return $$"""
            select (select row_to_json(y) from
                (select {{Columns(root, "c")}}, {{string.Join(", ", lists)}}) y)::text as "Value"
            from cases c where c."Id" = {0}
            """;
    }

    private static string Columns(IEntityType type, string alias = "t") =>
        string.Join(
            ", ",
            type.GetProperties().Where(p => !p.IsShadowProperty()).Select(p => $"{alias}.\"{p.GetColumnName()}\" as \"{Name(p.Name)}\"")
        );

    private static string Name(string property) => Json.PropertyNamingPolicy!.ConvertName(property);

    private sealed class Utc : JsonConverter<DateTimeOffset>
    {
        public override DateTimeOffset Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.GetDateTimeOffset().ToUniversalTime();

        public override void Write(Utf8JsonWriter writer, DateTimeOffset value, JsonSerializerOptions options) => writer.WriteStringValue(value);
    }
}
