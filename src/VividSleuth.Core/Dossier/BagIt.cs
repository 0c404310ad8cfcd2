using System.Buffers;
using System.Globalization;
using System.Text;

namespace VividSleuth.Core.Dossier;

/// <summary>
/// The text files of a bag: names, manifests, and what it says of itself. Reading and writing files is not done here. Source: RFC 8493, The BagIt File
/// Packaging Format (V1.0).
/// </summary>
public static class BagIt
{
    /// <summary>2.1.1: what makes a folder a bag.</summary>
    public const string DeclarationFile = "bagit.txt";

    /// <summary>2.2.2: what the bag says of itself.</summary>
    public const string InfoFile = "bag-info.txt";

    /// <summary>2.2.3: files that are to be got from elsewhere. A sealed bag is whole and has none.</summary>
    public const string FetchFile = "fetch.txt";

    /// <summary>2.1.2: below it lies what the bag carries; all else tells of it.</summary>
    public const string Payload = "data/";

    private const string VersionLabel = "BagIt-Version";
    private const string EncodingLabel = "Tag-File-Character-Encoding";
    private const string Encoding = $"{EncodingLabel}: UTF-8";

    public const string Declaration = $"{VersionLabel}: 1.0\n{Encoding}\n";

    /// <summary>Length in hexadecimal digits of each digest that is known here, by the name that stands in the names of manifests (2.4).</summary>
    public static IReadOnlyDictionary<string, int> Algorithms { get; } =
        new Dictionary<string, int>(StringComparer.Ordinal) { ["sha256"] = 64, ["sha512"] = 128 };

    private static readonly string[] ManifestPrefixes = ["manifest-", "tagmanifest-"];

    private static readonly SearchValues<char> Hexadecimal = SearchValues.Create("0123456789abcdefABCDEF");

    /// <summary>2.1.3: the manifest of what the bag carries.</summary>
    public static string ManifestFile(string algorithm) => $"manifest-{algorithm}.txt";

    /// <summary>2.2.1: the manifest of what tells of it.</summary>
    public static string TagManifestFile(string algorithm) => $"tagmanifest-{algorithm}.txt";

    /// <returns>The digest by which a manifest of this name goes, known here or not; null where it is no manifest.</returns>
    public static string? AlgorithmOf(string file) =>
        file.EndsWith(".txt", StringComparison.Ordinal)
        && Array.Find(ManifestPrefixes, p => file.StartsWith(p, StringComparison.Ordinal)) is { } before
            ? file[before.Length..^4]
            : null;

    public static bool IsTagManifest(string file) => file.StartsWith("tagmanifest-", StringComparison.Ordinal) && AlgorithmOf(file) is not null;

    /// <summary>A manifest as sha256sum and sha512sum check it: a line each with the digest, two blanks and the path.</summary>
    /// <param name="files">Paths below the bag, and their digests in lower-case hexadecimal.</param>
    public static string WriteManifest(IEnumerable<(string Path, string Digest)> files) =>
        string.Concat(files.OrderBy(f => f.Path, StringComparer.Ordinal).Select(f => $"{f.Digest}  {Escaped(f.Path)}\n"));

    /// <summary>Reads a manifest (2.1.3).</summary>
    /// <param name="file">Its name.</param>
    /// <returns>By path the digest in lower-case hexadecimal.</returns>
    /// <exception cref="ProblemException">Its digest is not known here, a line is none, or a path stands twice or leads out of the bag.</exception>
    public static IReadOnlyDictionary<string, string> ReadManifest(string file, string text)
    {
        if (AlgorithmOf(file) is not { } algorithm || !Algorithms.TryGetValue(algorithm, out var digits))
        {
            throw new ProblemException(Problem.Of(file, "bag.digest-not-known", ("file", file)));
        }

        var read = new Dictionary<string, string>(StringComparer.Ordinal);
        var folded = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var (line, number) in Lines(text).Select((l, i) => (l, i + 1)).Where(l => l.l.Length > 0))
        {
            var end = line.IndexOfAny([' ', '\t']);
            var path = end > 0 ? Unescaped(line[end..].TrimStart(' ', '\t')) : null;
            if (path is not { Length: > 0 } || end != digits || !line.AsSpan(0, end).ContainsOnlyHex())
            {
                throw new ProblemException(Problem.Of(file, "bag.line-is-none", ("file", file), ("line", number)));
            }

            if (WrongPath(path))
            {
                throw new ProblemException(Problem.Of(file, "bag.path-leads-out", ("path", Shown(path))));
            }

            if (!folded.Add(path))
            {
                throw new ProblemException(Problem.Of(file, "bag.path-twice", ("path", path)));
            }

            read.Add(path, line[..end].ToLowerInvariant());
        }

        return read;
    }

    /// <summary>
    /// Whether a path is none that may lie in a bag: it leads out of it, is none of ours on another system, or is another than it looks (2.1.3, 6.1.3).
    /// </summary>
    public static bool WrongPath(string path) =>
        path.Length is 0 or > 400
        || path.StartsWith('/')
        || path.Contains('\\', StringComparison.Ordinal)
        || path.Contains(':', StringComparison.Ordinal)
        || path.StartsWith('~')
        || path.Any(IsUnseen)
        // A letter and its accent apart look like the two in one (6.1.3).
        || path.Any(c => CharUnicodeInfo.GetUnicodeCategory(c) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark)
        || path.Split('/').Any(s => s.Length == 0 || s.EndsWith('.') || s.EndsWith(' ') || s.StartsWith(' '));

    /// <summary>Whether the text declares a bag of a version that is read here (2.1.1).</summary>
    public static bool IsDeclaration(string text)
    {
        string[] lines = [.. Lines(text).Where(l => l.Length > 0)];
        return lines is [$"{VersionLabel}: 1.0" or $"{VersionLabel}: 0.97", Encoding];
    }

    /// <summary>What a bag says of itself, a line each (2.2.2).</summary>
    public static string WriteInfo(IEnumerable<(string Label, string Value)> info) =>
        string.Concat(info.Where(i => i.Value.Length > 0).Select(i => $"{i.Label}: {i.Value.ReplaceLineEndings(" ")}\n"));

    /// <summary>Reads it; a line that begins with a blank goes on with the one before (2.2.2).</summary>
    /// <exception cref="ProblemException">A line has no label.</exception>
    public static IReadOnlyList<(string Label, string Value)> ReadInfo(string text)
    {
        var read = new List<(string Label, string Value)>();
        foreach (var (line, number) in Lines(text).Select((l, i) => (l, i + 1)).Where(l => l.l.Length > 0))
        {
            if (line[0] is ' ' or '\t' && read.Count > 0)
            {
                read[^1] = (read[^1].Label, $"{read[^1].Value} {line.Trim()}");
                continue;
            }

            var at = line.IndexOf(':', StringComparison.Ordinal);
            if (at < 1)
            {
                throw new ProblemException(Problem.Of(InfoFile, "bag.line-is-none", ("file", InfoFile), ("line", number)));
            }

            read.Add((line[..at].Trim(), line[(at + 1)..].Trim()));
        }

        return read;
    }

    /// <summary>Bytes and files of what the bag carries (2.2.2).</summary>
    public static string PayloadOxum(long bytes, int files) => string.Create(CultureInfo.InvariantCulture, $"{bytes}.{files}");

    /// <summary>A path as it can be shown in a message: what is no letter is seen.</summary>
    public static string Shown(string path) => new([.. path.Take(120).Select(c => IsUnseen(c) ? '�' : c)]);

    private static bool IsUnseen(char c) =>
        char.IsControl(c) || char.IsSurrogate(c) || CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.Format;

    private static string[] Lines(string text) => text.Split(["\r\n", "\n", "\r"], StringSplitOptions.None);

    /// <summary>2.1.3: line ends and the sign of escaping are escaped, and nothing else.</summary>
    private static string Escaped(string path) =>
        path.Replace("%", "%25", StringComparison.Ordinal)
            .Replace("\r", "%0D", StringComparison.Ordinal)
            .Replace("\n", "%0A", StringComparison.Ordinal);

    private static string Unescaped(string path) =>
        path.Replace("%0D", "\r", StringComparison.OrdinalIgnoreCase)
            .Replace("%0A", "\n", StringComparison.OrdinalIgnoreCase)
            .Replace("%25", "%", StringComparison.Ordinal);

    private static bool ContainsOnlyHex(this ReadOnlySpan<char> text) => !text.ContainsAnyExcept(Hexadecimal);
}
