namespace VividSleuth.Core.Index;

/// <summary>What a label's QR code says: which case, which place. Also read as typed: the bare address.</summary>
public static class TagCode
{
    private const string Prefix = "vivid-sleuth:";

    public static string Write(Guid caseId, string address) => $"{Prefix}{caseId:N}:{address}";

    /// <summary>Reads a scanned or typed tag of a case.</summary>
    /// <returns>The address as it stands on the tag, not yet looked up.</returns>
    /// <exception cref="ProblemException">It is the tag of another case, or none of ours.</exception>
    public static string Read(string text, Guid caseId)
    {
        var typed = text.Trim();
        if (!typed.StartsWith(Prefix, StringComparison.OrdinalIgnoreCase))
        {
            return typed.Length is > 0 and <= 12 ? typed : throw new ProblemException(Problem.Of("tag", "index.no-tag-of-ours"));
        }

        return typed[Prefix.Length..].Split(':') is [var id, var address] && Guid.TryParseExact(id, "N", out var of)
            ? of == caseId
                ? address
                : throw new ProblemException(Problem.Of("tag", "index.tag-another-case", ("address", address)))
            : throw new ProblemException(Problem.Of("tag", "index.tag-cannot-read"));
    }
}
