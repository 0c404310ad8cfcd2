using System.Globalization;
using System.Text.RegularExpressions;

namespace VividSleuth.Core.Index;

/// <summary>What a tag says of whose part it is: the case of a label, or the prefix of a mark.</summary>
/// <param name="Case">Null of a mark.</param>
/// <param name="Prefix">In capitals; of a label “?”, which is no prefix.</param>
public sealed record TagOwner(Guid? Case, string Prefix, string Address);

/// <summary>What a label's QR code says: which case, which place. Also read as typed: the bare address.</summary>
public static partial class TagCode
{
    private const string Prefix = "vivid-sleuth:";
    private const string OfShelf = "shelf";

    /// <summary>The tag of a part on the shop’s shelf, which is no case’s.</summary>
    public static string Shelf(int number) => string.Create(CultureInfo.InvariantCulture, $"{Prefix}{OfShelf}:{ShelfMark(number)}");

    /// <summary>As it stands on a part of the shelf: T12.</summary>
    public static string ShelfMark(int number) => string.Create(CultureInfo.InvariantCulture, $"T{number}");

    public static string Write(Guid caseId, string address) => $"{Prefix}{caseId:N}:{address}";

    /// <summary>An address as it is marked on a part of an engine that has a prefix: “K7-R3C”.</summary>
    public static string Mark(string prefix, string address) => prefix.Length == 0 ? address : $"{prefix}-{address}";

    /// <summary>What is wrong with a prefix; null where it serves, or is empty.</summary>
    public static Problem? CheckPrefix(string prefix) =>
        prefix.Length == 0 || PrefixPattern().IsMatch(prefix) ? null : Problem.Of("prefix", "index.no-prefix", ("prefix", prefix));

    /// <summary>Reads a scanned or typed tag of a case.</summary>
    /// <param name="prefix">Of the case's tags; empty where it has none.</param>
    /// <returns>The address as it stands on the tag, not yet looked up.</returns>
    /// <exception cref="ProblemException">It is the tag of another case, or none of ours.</exception>
    public static string Read(string text, Guid caseId, string prefix = "")
    {
        var typed = text.Trim();
        if (typed.Split('-') is [{ Length: > 0 and <= 4 } of, { Length: > 0 } marked] && PrefixPattern().IsMatch(of.ToUpperInvariant()))
        {
            return of.Equals(prefix, StringComparison.OrdinalIgnoreCase)
                ? marked
                : throw new ProblemException(Problem.Of("tag", "index.mark-of-another-engine", ("of", of), ("prefix", prefix)));
        }

        if (!typed.StartsWith(Prefix, StringComparison.OrdinalIgnoreCase))
        {
            return typed.Length is > 0 and <= 12 ? typed : throw new ProblemException(Problem.Of("tag", "index.no-tag-of-ours"));
        }

        if (typed[Prefix.Length..].Split(':') is [OfShelf, var shelf])
        {
            throw new ProblemException(Problem.Of("tag", "index.tag-of-the-shelf", ("mark", shelf)));
        }

        return typed[Prefix.Length..].Split(':') is [var id, var address] && Guid.TryParseExact(id, "N", out var theirs)
            ? theirs == caseId
                ? address
                : throw new ProblemException(Problem.Of("tag", "index.tag-another-case", ("address", address)))
            : throw new ProblemException(Problem.Of("tag", "index.tag-cannot-read"));
    }

    /// <summary>Whose a scanned or typed tag is that <see cref="Read"/> refused; null where it names nobody.</summary>
    public static TagOwner? OfAnother(string text)
    {
        var typed = text.Trim();
        return typed.Split('-') is [{ Length: > 0 and <= 4 } of, { Length: > 0 } marked] && PrefixPattern().IsMatch(of.ToUpperInvariant())
                ? new TagOwner(null, of.ToUpperInvariant(), marked.ToUpperInvariant())
            : typed.StartsWith(Prefix, StringComparison.OrdinalIgnoreCase)
            && typed[Prefix.Length..].Split(':') is [var id, var address]
            && Guid.TryParseExact(id, "N", out var theirs)
                ? new TagOwner(theirs, "?", address)
            : null;
    }

    [GeneratedRegex("^[A-Z0-9]{1,4}$", RegexOptions.None, 1000)]
    private static partial Regex PrefixPattern();
}
