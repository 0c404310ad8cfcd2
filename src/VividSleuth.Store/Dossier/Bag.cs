using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using VividSleuth.Core;
using VividSleuth.Core.Dossier;

namespace VividSleuth.Store.Dossier;

/// <summary>A file of a bag.</summary>
/// <param name="Path">Below the bag, with slashes.</param>
/// <param name="Bytes">As the archive tells; what is read is never more.</param>
public sealed record BagEntry(string Path, long Bytes, Func<Stream> Open);

/// <summary>What a bag may be at most before anything of it is believed.</summary>
/// <param name="Bytes">Of all its files, unpacked.</param>
/// <param name="Text">Bytes of a file that is read whole to be understood, such as a manifest.</param>
public sealed record BagBounds(int Files = 8000, long Bytes = 16L * 1024 * 1024 * 1024, long Text = 16L * 1024 * 1024);

/// <summary>
/// A bag as it lies there, in a zip file or in a folder: its files by name, not yet checked. What could do harm by being opened is refused here: names that lead
/// out of it, links, an archive that swells, more files than a case can have.
/// </summary>
public sealed class Bag : IDisposable
{
    /// <summary>So many times its size an archive may swell; text shrinks to a twentieth.</summary>
    private const int MostSwelling = 100;

    /// <summary>A directory entry of an archive with the longest of names.</summary>
    private const int MostOfAnEntry = 2048;

    private const int SymbolicLink = 0xA000;
    private const int KindOfFile = 0xF000;

    private readonly IDisposable? _holds;
    private readonly long _mostOfAText;

    private Bag(string name, Dictionary<string, BagEntry> entries, BagBounds bounds, IDisposable? holds) =>
        (Name, Entries, _mostOfAText, _holds) = (name, entries, bounds.Text, holds);

    /// <summary>Name of its folder.</summary>
    public string Name { get; }

    public IReadOnlyDictionary<string, BagEntry> Entries { get; }

    /// <summary>A bag in a zip file.</summary>
    /// <param name="zip">Can be read from any place; is closed with the bag.</param>
    /// <exception cref="ProblemException">It is no zip file, is cut off, or holds what does not belong into a bag.</exception>
    public static Bag OfZip(Stream zip, BagBounds bounds)
    {
        try
        {
            CheckDirectory(zip, bounds);
            var archive = new ZipArchive(zip, ZipArchiveMode.Read);
            try
            {
                return OfArchive(archive, zip.Length, bounds);
            }
            catch
            {
                archive.Dispose();
                throw;
            }
        }
        catch (Exception e) when (e is InvalidDataException or IOException or ArgumentException or OverflowException)
        {
            throw new ProblemException(Problem.Of("", "bag.no-archive"));
        }
    }

    /// <summary>A bag in a folder, as it is unpacked.</summary>
    /// <exception cref="ProblemException">It is not there, or holds what does not belong into a bag.</exception>
    public static Bag OfFolder(string folder, BagBounds bounds)
    {
        var root = new DirectoryInfo(folder);
        if (!root.Exists)
        {
            throw new ProblemException(Problem.Of("", "bag.not-there", ("path", folder)));
        }

        var entries = new Dictionary<string, BagEntry>(StringComparer.Ordinal);
        var options = new EnumerationOptions
        {
            RecurseSubdirectories = true,
            AttributesToSkip = FileAttributes.None,
            IgnoreInaccessible = false,
        };
        foreach (var file in root.EnumerateFileSystemInfos("*", options))
        {
            var path = Path.GetRelativePath(root.FullName, file.FullName).Replace(Path.DirectorySeparatorChar, '/');
            if (file.Attributes.HasFlag(FileAttributes.ReparsePoint) || file.LinkTarget is not null)
            {
                throw new ProblemException(Problem.Of("", "bag.link", ("path", BagIt.Shown(path))));
            }

            if (file is FileInfo there)
            {
                Add(entries, new BagEntry(path, there.Length, there.OpenRead), bounds);
            }
        }

        return new Bag(root.Name, entries, bounds, holds: null);
    }

    /// <summary>A file of text, whole.</summary>
    /// <returns>Null where there is none.</returns>
    /// <exception cref="ProblemException">It is larger than any of an honest bag, or no text.</exception>
    public async Task<string?> TextAsync(string path, CancellationToken cancel)
    {
        if (!Entries.ContainsKey(path))
        {
            return null;
        }

        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(await BytesAsync(path, _mostOfAText, cancel));
        }
        catch (DecoderFallbackException)
        {
            throw new ProblemException(Problem.Of(path, "bag.no-text", ("path", path)));
        }
    }

    /// <summary>A file, whole.</summary>
    /// <param name="most">Bytes that it may have.</param>
    /// <exception cref="ProblemException">It is larger, or the archive is damaged there.</exception>
    public async Task<byte[]> BytesAsync(string path, long most, CancellationToken cancel)
    {
        var entry = Entries[path];
        if (entry.Bytes > most)
        {
            throw new ProblemException(Problem.Of(path, "bag.file-too-large", ("path", path), ("most", most / 1024 / 1024)));
        }

        var data = new byte[entry.Bytes];
        try
        {
            await using var stream = entry.Open();
            await stream.ReadExactlyAsync(data, cancel);
            return data;
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException)
        {
            throw new ProblemException(Problem.Of(path, "bag.file-damaged", ("path", path)));
        }
    }

    public void Dispose() => _holds?.Dispose();

    private static Bag OfArchive(ZipArchive archive, long length, BagBounds bounds)
    {
        var entries = new Dictionary<string, BagEntry>(StringComparer.Ordinal);
        string? top = null;
        long all = 0;
        foreach (var entry in archive.Entries)
        {
            var full = entry.FullName;
            var isFolder = full.EndsWith('/');
            if (BagIt.WrongPath(isFolder ? full[..^1] : full))
            {
                throw new ProblemException(Problem.Of("", "bag.path-leads-out", ("path", BagIt.Shown(full))));
            }

            if (((entry.ExternalAttributes >> 16) & KindOfFile) == SymbolicLink)
            {
                throw new ProblemException(Problem.Of("", "bag.link", ("path", full)));
            }

            var slash = full.IndexOf('/', StringComparison.Ordinal);
            if (slash < 0 || (top is not null && top != full[..slash]))
            {
                throw new ProblemException(Problem.Of("", "bag.not-in-one-folder", ("path", full)));
            }

            top = full[..slash];
            if (entry.IsEncrypted)
            {
                throw new ProblemException(Problem.Of("", "bag.encrypted", ("path", full)));
            }

            all += entry.Length;
            if (entry.Length < 0 || all < 0 || all > Math.Min(bounds.Bytes, MostSwelling * length))
            {
                throw new ProblemException(Problem.Of("", "bag.swells", ("path", full)));
            }

            if (!isFolder)
            {
                Add(entries, new BagEntry(full[(slash + 1)..], entry.Length, entry.Open), bounds);
            }
        }

        return new Bag(top ?? "", entries, bounds, archive);
    }

    private static void Add(Dictionary<string, BagEntry> entries, BagEntry entry, BagBounds bounds)
    {
        if (BagIt.WrongPath(entry.Path))
        {
            throw new ProblemException(Problem.Of("", "bag.path-leads-out", ("path", BagIt.Shown(entry.Path))));
        }

        if (entries.Count >= bounds.Files)
        {
            throw new ProblemException(Problem.Of("", "bag.too-many-files", ("most", bounds.Files)));
        }

        if (!entries.TryAdd(entry.Path, entry))
        {
            throw new ProblemException(Problem.Of("", "bag.path-twice", ("path", entry.Path)));
        }
    }

    /// <summary>
    /// How many files the archive says it has and how large its directory is, before anything makes objects of it. Source: PKWARE, APPNOTE 6.3.10, 4.3.14 to 4.3.16.
    /// </summary>
    private static void CheckDirectory(Stream zip, BagBounds bounds)
    {
        const int endLength = 22;
        const uint endMark = 0x06054b50;
        const uint locatorMark = 0x07064b50;
        const uint end64Mark = 0x06064b50;
        var tail = new byte[Math.Min(zip.Length, endLength + ushort.MaxValue + 20)];
        zip.Position = zip.Length - tail.Length;
        zip.ReadExactly(tail);
        var at = tail.Length - endLength;
        while (at >= 0 && BinaryPrimitives.ReadUInt32LittleEndian(tail.AsSpan(at)) != endMark)
        {
            at--;
        }

        if (at < 0)
        {
            throw new ProblemException(Problem.Of("", "bag.no-archive"));
        }

        var end = tail.AsSpan(at);
        ulong count = BinaryPrimitives.ReadUInt16LittleEndian(end[10..]);
        ulong size = BinaryPrimitives.ReadUInt32LittleEndian(end[12..]);
        ulong from = BinaryPrimitives.ReadUInt32LittleEndian(end[16..]);
        var ends = (ulong)(zip.Length - tail.Length + at);
        if (at >= 20 && BinaryPrimitives.ReadUInt32LittleEndian(tail.AsSpan(at - 20)) == locatorMark)
        {
            var end64 = new byte[56];
            var where = BinaryPrimitives.ReadUInt64LittleEndian(tail.AsSpan(at - 20 + 8));
            if (where > ends)
            {
                throw new ProblemException(Problem.Of("", "bag.no-archive"));
            }

            zip.Position = (long)where;
            zip.ReadExactly(end64);
            if (BinaryPrimitives.ReadUInt32LittleEndian(end64) != end64Mark)
            {
                throw new ProblemException(Problem.Of("", "bag.no-archive"));
            }

            count = BinaryPrimitives.ReadUInt64LittleEndian(end64.AsSpan(32));
            size = BinaryPrimitives.ReadUInt64LittleEndian(end64.AsSpan(40));
            from = BinaryPrimitives.ReadUInt64LittleEndian(end64.AsSpan(48));
        }

        // Folders have entries too.
        var most = (ulong)(2 * bounds.Files);
        if (count > most || size > most * MostOfAnEntry || from > ends || ends - from > most * MostOfAnEntry)
        {
            throw new ProblemException(Problem.Of("", "bag.too-many-files", ("most", bounds.Files)));
        }

        zip.Position = 0;
    }
}
