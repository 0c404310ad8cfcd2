namespace VividSleuth.Core.Knowledge;

/// <summary>In which measure steps are made.</summary>
public enum StepSystem
{
    Both,
    Metric,
    Inch,
}

/// <summary>Steps under or over standard in which shells, pistons and rings are usually to be had.</summary>
public sealed class KnownSizes : Known
{
    /// <summary>Kinds of part that are machined to them.</summary>
    public List<string> On { get; set; } = [];

    public StepSystem System { get; set; }

    /// <summary>Unit of the steps.</summary>
    public string Unit { get; set; } = "mm";

    public List<decimal> Steps { get; set; } = [];

    /// <summary>For choosing a shell to a worn journal; nobody machines to them.</summary>
    public bool Odd { get; set; }

    /// <summary>Only where the maker allows it.</summary>
    public bool ByMaker { get; set; }
}
