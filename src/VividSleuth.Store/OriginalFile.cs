using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;

namespace VividSleuth.Store;

/// <summary>A file as it came, a picture or a recording, kept once however often it is sent. A picture may hold a location and is never sent out.</summary>
public sealed class OriginalFile
{
    /// <summary>SHA-256 of the data in lower-case hexadecimal.</summary>
    public required string Sha256 { get; set; }

    /// <summary>The second digest of a sealed bag, taken when the file came in so that sealing needs not read it; null of one that came before this was kept.</summary>
    public string? Sha512 { get; set; }

    public required byte[] Data { get; set; }
}

/// <summary>A piece of a file that comes in pieces over a bad line, until all of it is there.</summary>
public sealed class FilePiece
{
    /// <summary>Id of the record that the file will belong to.</summary>
    public Guid FileId { get; set; }

    /// <summary>Bytes before it.</summary>
    public int Offset { get; set; }

    public Guid CaseId { get; set; }

    public required byte[] Data { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset At { get; set; }
}

public static class OriginalStore
{
    /// <summary>The same of a file whose digests nobody took yet; answers with the first.</summary>
    public static async Task<string> StoreOriginalAsync(this SleuthDb db, byte[] data, CancellationToken cancel)
    {
        var sha256 = Convert.ToHexStringLower(SHA256.HashData(data));
        await db.StoreOriginalAsync(sha256, Convert.ToHexStringLower(SHA512.HashData(data)), data, cancel);
        return sha256;
    }

    /// <summary>Stores a file as it came, unless the same one is there already.</summary>
    public static Task StoreOriginalAsync(this SleuthDb db, string sha256, string sha512, byte[] data, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            insert into photo_originals ("Sha256", "Sha512", "Data") values ({sha256}, {sha512}, {data}) on conflict do nothing
            """,
            cancel
        );
}
