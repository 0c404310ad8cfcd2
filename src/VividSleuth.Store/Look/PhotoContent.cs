namespace VividSleuth.Store.Look;

/// <summary>A picture file as it came, kept once however often it is sent. It may hold a location and is never sent out.</summary>
public sealed class PhotoOriginal
{
    /// <summary>SHA-256 of the data in lower-case hexadecimal.</summary>
    public required string Sha256 { get; set; }

    /// <summary>The second digest of a sealed bag, taken when the file came in so that sealing needs not read it; null of one that came before this was kept.</summary>
    public string? Sha512 { get; set; }

    public required byte[] Data { get; set; }
}

/// <summary>A piece of a picture file that comes in pieces over a bad line, until all of it is there.</summary>
public sealed class PhotoPiece
{
    public Guid PhotoId { get; set; }

    /// <summary>Bytes before it.</summary>
    public int Offset { get; set; }

    public Guid CaseId { get; set; }

    public required byte[] Data { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset At { get; set; }
}

/// <summary>The bytes of a photograph, kept apart from its record so that opening a case does not read them.</summary>
public sealed class PhotoContent
{
    public Guid PhotoId { get; set; }

    /// <summary>The original that it was made of.</summary>
    public required string Sha256 { get; set; }

    /// <summary>JPEG for the screen: upright, without metadata, at most 1,600 pixels long.</summary>
    public required byte[] View { get; set; }

    /// <summary>JPEG of at most 320 pixels.</summary>
    public required byte[] Thumb { get; set; }
}
