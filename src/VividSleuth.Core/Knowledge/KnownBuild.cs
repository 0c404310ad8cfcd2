namespace VividSleuth.Core.Knowledge;

/// <summary>What must be through before parts go back, which the strip in reverse does not say: no chips near a fitted bearing.</summary>
public sealed class KnownBefore : Known
{
    /// <summary>Ids of the courses that must be through.</summary>
    public List<string> Courses { get; set; } = [];

    /// <summary>Kinds of part on which they are done.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>Kinds of part that go back afterwards; empty is all.</summary>
    public List<string> Before { get; set; } = [];

    public string Why { get; set; } = "";
}
