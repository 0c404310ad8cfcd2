using VividSleuth.Core;

namespace VividSleuth.Store.Cases;

/// <summary>An address at which a calendar may fetch the plan of one case without signing in, until it is shut.</summary>
public sealed class CalendarFeed : IShopRecord
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    /// <summary>Whose calendar it is for, in the shop’s words.</summary>
    public string For { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}
