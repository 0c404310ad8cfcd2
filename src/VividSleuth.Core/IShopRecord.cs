namespace VividSleuth.Core;

/// <summary>A record of the shop and not of one case: it carries a version, who and when, and is taken back instead of deleted.</summary>
public interface IShopRecord
{
    Guid Id { get; }

    int Version { get; set; }

    DateTimeOffset At { get; set; }

    string By { get; set; }

    DateTimeOffset? WithdrawnAt { get; set; }

    /// <summary>Who took it back; null where it stands, or was taken back before this was kept.</summary>
    string? WithdrawnBy { get; set; }
}
