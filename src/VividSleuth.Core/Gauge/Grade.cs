using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>A size grade: how far under standard a journal is ground, or over it a bore is bored, or for which of them a part is made.</summary>
/// <param name="Under">Undersize or oversize in mm; 0 is standard.</param>
public sealed record Grade(decimal Under)
{
    public static Grade Standard { get; } = new(0m);

    /// <summary>For choosing a shell to a worn journal; nobody machines to it.</summary>
    public bool Odd { get; init; }

    /// <summary>Only where the maker allows it.</summary>
    public bool ByMaker { get; init; }

    private bool IsInch => Under % 0.0254m == 0;

    public string Name =>
        Under == 0 ? "STD"
        : IsInch ? $".{Under / 0.0254m:000}"
        : $"{Under:0.00#}";

    /// <summary>True for a step of the system; standard is of both.</summary>
    public bool In(StepSystem system) =>
        Under == 0
        || system switch
        {
            StepSystem.Both => true,
            StepSystem.Metric => !IsInch,
            StepSystem.Inch => IsInch,
            _ => throw new ArgumentOutOfRangeException(nameof(system)),
        };

    /// <summary>Two grades are one when no shop micrometer would tell them apart by their wear: 0.25 mm and .010 in.</summary>
    public bool IsLike(Grade other) => Math.Abs(Under - other.Under) <= 0.0165m;

    /// <summary>Reads a stamp: STD, 0.25, .010, 010, 25 (hundredths), US 0.50.</summary>
    /// <returns>Null where the stamp cannot be read as one grade only.</returns>
    public static Grade? FromStamp(string stamp)
    {
        var text = stamp.Trim().ToUpperInvariant().Replace("US", "", StringComparison.Ordinal).Replace("MM", "", StringComparison.Ordinal).Trim();
        return text switch
        {
            "STD" or "S" or "STANDARD" or "0" or "0.00" => new Grade(0),
            "0.25" or "25" or "-0.25" => new Grade(0.25m),
            "0.50" or "0.5" or "50" or "-0.50" => new Grade(0.50m),
            "0.75" or "75" or "-0.75" => new Grade(0.75m),
            "1.00" or "1.0" or "100" or "-1.00" => new Grade(1.00m),
            "1.25" or "125" or "-1.25" => new Grade(1.25m),
            "1.50" or "1.5" or "150" or "-1.50" => new Grade(1.50m),
            ".001" or "001" => new Grade(0.0254m),
            ".002" or "002" => new Grade(0.0508m),
            ".003" or "003" => new Grade(0.0762m),
            ".010" or "010" or "10" => new Grade(0.254m),
            ".020" or "020" or "20" => new Grade(0.508m),
            ".030" or "030" or "30" => new Grade(0.762m),
            ".040" or "040" or "40" => new Grade(1.016m),
            ".050" or "050" => new Grade(1.27m),
            ".060" or "060" or "60" => new Grade(1.524m),
            _ => null,
        };
    }
}
