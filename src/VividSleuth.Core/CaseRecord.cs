namespace VividSleuth.Core;

/// <summary>
/// Whatever a person enters into a case. The id is made by the client (UUIDv7), so that a repeated request changes nothing;
/// the version grows with each change, so that a lost race is noticed. Nothing is deleted: a record is withdrawn with a reason.
/// </summary>
public abstract class CaseRecord
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    /// <summary>When and by whom it was written; earlier states are in the case's changes. Taking it back or renumbering changes neither.</summary>
    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnWhy { get; set; }

    /// <summary>Who took it back; null where it stands, or was taken back before this was kept.</summary>
    public string? WithdrawnBy { get; set; }

    /// <summary>It came with a file from elsewhere: who wrote it and when is what that file says, and nobody of this shop.</summary>
    public bool Imported { get; set; }

    public bool Stands() => WithdrawnAt is null;
}

/// <summary>One change of one record: who, when, and what it was before.</summary>
public sealed class Change
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    public string Kind { get; set; } = "";

    public Guid RecordId { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    /// <summary>It came with a file from elsewhere.</summary>
    public bool Imported { get; set; }

    /// <summary>The record before the change, as JSON; null when it was new.</summary>
    public string? Before { get; set; }
}
