namespace VividSleuth.Store.Look;

/// <summary>The bytes of a photograph, kept apart from its record so that opening a case does not read them.</summary>
public sealed class PhotoContent
{
    public Guid PhotoId { get; set; }

    /// <summary>The file as it came; it may hold a location and is never sent out.</summary>
    public required byte[] Original { get; set; }

    /// <summary>JPEG for the screen: upright, without metadata, at most 1,600 pixels long.</summary>
    public required byte[] View { get; set; }

    /// <summary>JPEG of at most 320 pixels.</summary>
    public required byte[] Thumb { get; set; }
}
