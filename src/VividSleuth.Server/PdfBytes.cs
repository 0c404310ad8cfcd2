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
    /// <summary>Characters that are read at once, and those of them that are read again with the next: twice as many as anything that is looked for.</summary>
    private const int Window = 64 * 1024;

    private const int Overlap = 512;

    /// <summary>How far before its stream the dictionary of a picture begins at most.</summary>
    private const int PictureHead = 1024;

    /// <summary>Settles it in its place.</summary>
    /// <param name="pdf">Uncompressed, so that its text can be read. Pictures in it are left as they are.</param>
    public static void Settle(Span<byte> pdf)
    {
        var tags = new Dictionary<string, string>(StringComparer.Ordinal);
        Replace(pdf, FontTag(), tag => tags.TryGetValue(tag, out var known) ? known : tags[tag] = Letters(tags.Count));
        string? made = null;
        Replace(pdf, Made(), day => made ??= day);
        Replace(pdf, Changed(), day => made?.Length == day.Length ? made : day);
        var ids = new Dictionary<string, string>(StringComparer.Ordinal);
        Replace(pdf, Guids(), id => ids.TryGetValue(id, out var known) ? known : ids[id] = Guid(ids.Count));
        Replace(pdf, Id(), pair => Hex().Replace(pair, h => new string('0', h.Length)));
        var whole = Convert.ToHexString(SHA256.HashData(pdf));
        Replace(pdf, Id(), pair => Hex().Replace(pair, h => whole[..h.Length]));
    }

    /// <summary>Puts something of the same length in the place of each match.</summary>
    private static void Replace(Span<byte> pdf, Regex what, Func<string, string> by)
    {
        var text = new char[Window];
        for (var from = 0; from < pdf.Length; )
        {
            var (end, next) = Readable(pdf, from);
            var done = from;
            for (var at = from; at < end; at += Window - Overlap)
            {
                // Latin 1 keeps every byte as it is.
                var read = Encoding.Latin1.GetChars(pdf[at..Math.Min(end, at + Window)], text);
                foreach (var match in what.EnumerateMatches(text.AsSpan(0, read)))
                {
                    // Whatever begins here has enough before and after it only in the next.
                    var isNextTime = match.Index >= Window - (Overlap / 2) && at + Window < end;
                    if (isNextTime || at + match.Index < done)
                    {
                        continue;
                    }

                    var old = new string(text, match.Index, match.Length);
                    done = at + match.Index + match.Length;
                    Encoding.Latin1.GetBytes(by(old), pdf[(at + match.Index)..done]);
                }
            }

            from = next;
        }
    }

    /// <summary>Where the text that begins at a place ends, since a picture does, and where it goes on.</summary>
    private static (int End, int Next) Readable(ReadOnlySpan<byte> pdf, int from)
    {
        for (var at = from; ; )
        {
            var stream = pdf[at..].IndexOf("stream"u8);
            if (stream < 0)
            {
                return (pdf.Length, pdf.Length);
            }

            stream += at;
            var head = pdf[Math.Max(from, stream - PictureHead)..stream];
            var dictionary = head[Math.Max(0, head.LastIndexOf("obj"u8))..];
            var end = pdf[(stream + 1)..].IndexOf("endstream"u8);
            if (end < 0)
            {
                return (pdf.Length, pdf.Length);
            }

            at = stream + 1 + end + "endstream".Length;
            if (dictionary.IndexOf("/DCTDecode"u8) >= 0)
            {
                return (stream, at);
            }
        }
    }

    private static string Letters(int n) => string.Concat(Enumerable.Range(0, 5).Select(_ => 'A')) + (char)('A' + (n % 26)) + "+";

    private static string Guid(int n) => FormattableString.Invariant($"00000000-0000-4000-8000-{n.ToString("x12", CultureInfo.InvariantCulture)}");

    [GeneratedRegex("(?<=/)[A-Z]{6}\\+")]
    private static partial Regex FontTag();

    [GeneratedRegex("(?<=/CreationDate\\()D:[^)]{0,60}(?=\\))")]
    private static partial Regex Made();

    [GeneratedRegex("(?<=/M\\()D:[^)]{0,60}(?=\\))")]
    private static partial Regex Changed();

    [GeneratedRegex("(?<=uuid:|/NM\\()[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")]
    private static partial Regex Guids();

    [GeneratedRegex("/ID\\s{0,8}\\[\\s{0,8}<[0-9A-Fa-f]{32}>\\s{0,8}<[0-9A-Fa-f]{32}>")]
    private static partial Regex Id();

    [GeneratedRegex("(?<=<)[0-9A-Fa-f]{32}(?=>)")]
    private static partial Regex Hex();
}
