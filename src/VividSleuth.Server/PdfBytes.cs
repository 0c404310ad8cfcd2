using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;

namespace VividSleuth.Server;

/// <summary>
/// Takes out of a PDF what its writer drew by lot, so that the same content is the same file: the document’s id (ISO 32000-1, 14.4), ids of its metadata
/// and links, when those were made, and the six letters before the name of a font of which a part is embedded (9.6.4). All are replaced by as many characters made from the content.
/// </summary>
public static partial class PdfBytes
{
    /// <param name="pdf">Uncompressed, so that its text can be read.</param>
    public static byte[] Settled(byte[] pdf)
    {
        // Latin 1 keeps every byte as it is.
        var text = Encoding.Latin1.GetString(pdf);
        var tags = new Dictionary<string, string>(StringComparer.Ordinal);
        text = FontTag().Replace(text, m => tags.TryGetValue(m.Value, out var tag) ? tag : tags[m.Value] = Letters(tags.Count));
        if (Made().Match(text) is { Success: true } made)
        {
            text = Changed().Replace(text, m => m.Length == made.Length ? made.Value : m.Value);
        }

        var ids = new Dictionary<string, string>(StringComparer.Ordinal);
        text = Guids().Replace(text, m => ids.TryGetValue(m.Value, out var id) ? id : ids[m.Value] = Guid(ids.Count));
        text = Id().Replace(text, m => Blanked(m, "0"));
        var whole = Convert.ToHexString(SHA256.HashData(Encoding.Latin1.GetBytes(text)));
        text = Id().Replace(text, m => Blanked(m, whole));
        return Encoding.Latin1.GetBytes(text);
    }

    /// <summary>The two ids of a document, each replaced by a text that is repeated or cut to its length.</summary>
    private static string Blanked(Match ids, string by)
    {
        string Of(Group id) => string.Concat(Enumerable.Repeat(by, id.Length))[..id.Length];
        return string.Concat([
            ids.Groups["before"].Value,
            "<",
            Of(ids.Groups["one"]),
            ">",
            ids.Groups["between"].Value,
            "<",
            Of(ids.Groups["two"]),
            ">",
        ]);
    }

    private static string Letters(int n) => string.Concat(Enumerable.Range(0, 5).Select(_ => 'A')) + (char)('A' + (n % 26)) + "+";

    private static string Guid(int n) => FormattableString.Invariant($"00000000-0000-4000-8000-{n.ToString("x12", CultureInfo.InvariantCulture)}");

    [GeneratedRegex("(?<=/)[A-Z]{6}\\+")]
    private static partial Regex FontTag();

    [GeneratedRegex("(?<=/CreationDate\\()D:[^)]*(?=\\))")]
    private static partial Regex Made();

    [GeneratedRegex("(?<=/M\\()D:[^)]*(?=\\))")]
    private static partial Regex Changed();

    [GeneratedRegex("(?<=uuid:|/NM\\()[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")]
    private static partial Regex Guids();

    [GeneratedRegex("(?<before>/ID\\s*\\[\\s*)<(?<one>[0-9A-Fa-f]{32})>(?<between>\\s*)<(?<two>[0-9A-Fa-f]{32})>")]
    private static partial Regex Id();
}
