using VividSleuth.Core;

namespace VividSleuth.Store.Dossier;

/// <summary>
/// A case as it stood when it was sealed: kept for good under its number, whatever is written after. Its pictures lie where all originals lie and are packed
/// with it again whenever it is asked for, into the same bytes.
/// </summary>
public sealed class Seal
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    /// <summary>1 is the first of its case.</summary>
    public int Number { get; set; }

    /// <summary>By the clock of the shop.</summary>
    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    /// <summary>What it was sealed for, in the shop’s words.</summary>
    public string Why { get; set; } = "";

    /// <summary>Of the case.</summary>
    public long Revision { get; set; }

    /// <summary>Name of the bag and of its folder.</summary>
    public string Name { get; set; } = "";

    public int Files { get; set; }

    public long Bytes { get; set; }

    /// <summary>Of the key that signed it.</summary>
    public string Fingerprint { get; set; } = "";
}

/// <summary>A file of a sealed bag: its own bytes, or the original of a picture by its digest.</summary>
public sealed class SealFile
{
    public Guid SealId { get; set; }

    /// <summary>Place in the bag, from nought.</summary>
    public int Order { get; set; }

    public string Path { get; set; } = "";

    public long Bytes { get; set; }

    public byte[]? Data { get; set; }

    /// <summary>SHA-256 of the original; null where the bytes are here.</summary>
    public string? Original { get; set; }
}

/// <summary>A key of the shop with which it seals. The newest seals; those before it stay known, so that what they sealed is still ours.</summary>
public sealed class SealKey
{
    /// <summary>SHA-256 of the public key, in lower-case hexadecimal.</summary>
    public string Fingerprint { get; set; } = "";

    public string PublicPem { get; set; } = "";

    /// <summary>The private key (PKCS #8), protected by the keys of the program; empty where the shop came out of a backup, which never holds it.</summary>
    public byte[] Private { get; set; } = [];

    public DateTimeOffset At { get; set; }
}
