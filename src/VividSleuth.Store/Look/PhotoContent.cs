namespace VividSleuth.Store.Look;

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
