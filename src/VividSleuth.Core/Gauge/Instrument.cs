namespace VividSleuth.Core.Gauge;

/// <summary>A measuring instrument of the shop.</summary>
public sealed class Instrument
{
    public Guid Id { get; set; }

    /// <summary>What the shop calls it; unique in the shop.</summary>
    public string Name { get; set; } = "";

    /// <summary>Smallest step it shows, in the base unit of what it measures (mm, kPa, g, degrees).</summary>
    public decimal Resolution { get; set; }

    /// <summary>Greatest error the maker or the calibration allows, ±, in the same unit.</summary>
    public decimal PermissibleError { get; set; }

    public DateOnly? CalibrationDue { get; set; }
}
