namespace VividSleuth.Core.Knowledge;

/// <summary>By which way a kind of part leaves an engine.</summary>
public sealed class KnownWayOut : Known
{
    /// <summary>The kind of part that leaves.</summary>
    public string Kind { get; set; } = "";

    /// <summary>The ways: of each, the kinds that are off before it or come off with it. One way is enough.</summary>
    public List<List<string>> Through { get; set; } = [];
}
