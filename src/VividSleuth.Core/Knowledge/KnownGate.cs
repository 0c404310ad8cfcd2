namespace VividSleuth.Core.Knowledge;

/// <summary>What must be known before a line of the order is sent.</summary>
public sealed class KnownGate : Known
{
    /// <summary>Kinds of part that wait at it: what is bought, or what is worked on.</summary>
    public List<string> On { get; set; } = [];

    /// <summary>Ids of examinations, one of which every part of <see cref="Of"/> must have passed; empty where none is asked.</summary>
    public List<string> Tested { get; set; } = [];

    /// <summary>Kinds of part that are tested.</summary>
    public List<string> Of { get; set; } = [];

    /// <summary>Kinds of part on each of which somebody must have decided, so that their size is known; empty where none is asked.</summary>
    public List<string> Decided { get; set; } = [];

    /// <summary>Id of a gate that takes its stead for the kinds that it is before, in engines that have its parts; empty for none.</summary>
    public string Unless { get; set; } = "";

    public string Why { get; set; } = "";
}
