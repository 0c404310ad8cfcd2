using System.IO.Compression;
using System.IO.Pipelines;
using System.Security.Cryptography;
using System.Text;
using VividSleuth.Core.Dossier;

namespace VividSleuth.Store.Dossier;

/// <summary>A file that a bag carries, by its digests.</summary>
/// <param name="Path">Below the bag.</param>
/// <param name="Sha256">In lower-case hexadecimal, as the other.</param>
public sealed record BagFile(string Path, long Bytes, string Sha256, string Sha512)
{
    /// <summary>Of a file that is at hand.</summary>
    public static BagFile Of(string path, byte[] data) =>
        new(path, data.Length, Convert.ToHexStringLower(SHA256.HashData(data)), Convert.ToHexStringLower(SHA512.HashData(data)));
}

/// <summary>A file as it goes out: writes itself.</summary>
public sealed record BagPiece(string Path, Func<Stream, CancellationToken, Task> WriteAsync);

/// <summary>Packs a bag: what tells of what it carries, and all of it as a zip file that is never held whole.</summary>
public static class BagPacking
{
    /// <summary>In pieces of this size a file goes out.</summary>
    private const int PipeBytes = 256 * 1024;

    /// <summary>What tells of the bag, in the order in which it is read, signed.</summary>
    /// <param name="payload">All that it carries.</param>
    /// <param name="info">What the bag says of itself; size and number of its files are put to it.</param>
    /// <param name="tags">Further files beside what it carries, such as one for a reader with no program.</param>
    public static IReadOnlyList<(string Path, byte[] Data)> Tell(
        IReadOnlyList<BagFile> payload,
        IReadOnlyList<(string Label, string Value)> info,
        IReadOnlyList<(string Path, byte[] Data)> tags,
        ECDsa key
    )
    {
        List<(string Path, byte[] Data)> told =
        [
            (BagIt.DeclarationFile, Utf8(BagIt.Declaration)),
            (BagIt.InfoFile, Utf8(BagIt.WriteInfo([.. info, ("Payload-Oxum", BagIt.PayloadOxum(payload.Sum(p => p.Bytes), payload.Count))]))),
            .. tags,
            (BagIt.ManifestFile("sha256"), Utf8(BagIt.WriteManifest(payload.Select(p => (p.Path, p.Sha256))))),
            (BagIt.ManifestFile("sha512"), Utf8(BagIt.WriteManifest(payload.Select(p => (p.Path, p.Sha512))))),
        ];
        var shorter = Utf8(BagIt.WriteManifest(told.Select(t => (t.Path, Convert.ToHexStringLower(SHA256.HashData(t.Data))))));
        var longer = Utf8(BagIt.WriteManifest(told.Select(t => (t.Path, Convert.ToHexStringLower(SHA512.HashData(t.Data))))));
        return
        [
            .. told,
            (BagIt.TagManifestFile("sha256"), shorter),
            (BagSeal.SignedFile, longer),
            (BagSeal.PublicKeyFile, Utf8(key.ExportSubjectPublicKeyInfoPem() + "\n")),
            (BagSeal.SignatureFile, BagSeal.Sign(key, longer)),
        ];
    }

    /// <summary>
    /// Writes the files as a zip file, one after the other. Nothing is packed smaller: pictures are already, and so the same bag is the same bytes whatever
    /// program wrote it.
    /// </summary>
    /// <param name="to">Need not be one that can be gone back in.</param>
    /// <param name="name">The folder in which all of it lies.</param>
    /// <param name="at">The time of every file.</param>
    public static async Task WriteAsync(Stream to, string name, DateTimeOffset at, IEnumerable<BagPiece> files, CancellationToken cancel)
    {
        const int ordinaryFile = 0x81A4;
        // What the archive writes of its own between two files it writes at once, and not every stream lets it: the pipe takes it in.
        var pipe = PipeWriter.Create(to, new StreamPipeWriterOptions(minimumBufferSize: PipeBytes, leaveOpen: true));
        await using (var zip = await ZipArchive.CreateAsync(pipe.AsStream(leaveOpen: true), ZipArchiveMode.Create, leaveOpen: true, null, cancel))
        {
            foreach (var (path, write) in files)
            {
                var entry = zip.CreateEntry($"{name}/{path}", CompressionLevel.NoCompression);
                entry.LastWriteTime = at;
                entry.ExternalAttributes = ordinaryFile << 16;
                await using var stream = await entry.OpenAsync(cancel);
                await write(stream, cancel);
            }
        }

        await pipe.FlushAsync(cancel);
        await pipe.CompleteAsync();
    }

    /// <summary>Digests of a file that is read as it comes.</summary>
    public static async Task<BagFile> HashAsync(string path, Stream stream, CancellationToken cancel)
    {
        using var shorter = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var longer = IncrementalHash.CreateHash(HashAlgorithmName.SHA512);
        var buffer = new byte[PipeBytes];
        long bytes = 0;
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0; bytes += read)
        {
            shorter.AppendData(buffer, 0, read);
            longer.AppendData(buffer, 0, read);
        }

        return new BagFile(path, bytes, Convert.ToHexStringLower(shorter.GetHashAndReset()), Convert.ToHexStringLower(longer.GetHashAndReset()));
    }

    private static byte[] Utf8(string text) => Encoding.UTF8.GetBytes(text);
}
