namespace VividSleuth.Store;

/// <summary>When the database that is written to was last alive: on a standby it tells how old is what is read there. One row.</summary>
public sealed class Beat
{
    /// <summary>Of the one row.</summary>
    public const int Only = 1;

    public int Id { get; init; } = Only;

    /// <summary>By the clock of the database.</summary>
    public DateTimeOffset At { get; init; }
}
