using System.Data;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace VividSleuth.Store;

/// <summary>Originals as they come from the database, never held whole.</summary>
public static class OriginalReader
{
    /// <param name="read">Reads it; when it returns, the stream is closed.</param>
    /// <exception cref="InvalidDataException">There is no such original.</exception>
    public static async Task ReadOriginalAsync(this SleuthDb db, string sha256, Func<Stream, Task> read, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = ((NpgsqlConnection)db.Database.GetDbConnection()).CreateCommand();
            command.CommandText = """select "Data" from photo_originals where "Sha256" = $1""";
            command.Parameters.Add(new NpgsqlParameter { Value = sha256 });
            await using var row = await command.ExecuteReaderAsync(CommandBehavior.SequentialAccess | CommandBehavior.SingleRow, cancel);
            if (!await row.ReadAsync(cancel))
            {
                throw new InvalidDataException(sha256);
            }

            await using var stream = await row.GetStreamAsync(0, cancel);
            await read(stream);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }
}
