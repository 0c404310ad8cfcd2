using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Knowledge;

/// <summary>To which layouts an entry applies; a missing field means any.</summary>
public sealed class Applicability
{
    public WorkingCycle? Cycle { get; set; }

    public BearingType? Bearings { get; set; }

    public Arrangement? Arrangement { get; set; }

    public ValveGear? Valves { get; set; }

    public FuelSystem? Fuel { get; set; }

    /// <summary>True of engines with spark ignition, whatever their fuel; false of diesels.</summary>
    public bool? Spark { get; set; }

    public CaseBuild? Case { get; set; }

    public Cooling? Cooling { get; set; }

    public BoreBuild? Bores { get; set; }

    /// <summary>True of engines with barrels of their own; false where the bores are in block or case.</summary>
    public bool? Barrels { get; set; }

    public CamDrive? CamDrive { get; set; }

    public bool? Gearbox { get; set; }

    /// <summary>Number of cylinders.</summary>
    public int? Cylinders { get; set; }

    public bool Fits(EngineLayout layout) =>
        (Cycle is null || Cycle == layout.Cycle)
        && (Bearings is null || Bearings == layout.Bearings)
        && (Arrangement is null || Arrangement == layout.Arrangement)
        && (Valves is null || Valves == layout.ValveGear)
        && (Fuel is null || Fuel == layout.Fuel)
        && (Spark is null || Spark == (layout.Fuel != FuelSystem.Diesel))
        && (Case is null || Case == layout.Case)
        && (Cooling is null || Cooling == layout.Cooling)
        && (Bores is null || Bores == layout.BoresAre)
        && (Barrels is null || Barrels == (layout.BoresAre == BoreBuild.Barrel))
        && (CamDrive is null || CamDrive == layout.CamDrive)
        && (Gearbox is null || Gearbox == layout.GearboxInCase)
        && (Cylinders is null || Cylinders == layout.Cylinders);

    internal bool IsAny => Says() == 0;

    /// <summary>How many fields are set: of two that fit, the one that says more fits better.</summary>
    public int Says() =>
        new object?[] { Cycle, Bearings, Arrangement, Valves, Fuel, Spark, Case, Cooling, Bores, Barrels, CamDrive, Gearbox, Cylinders }.Count(f =>
            f is not null
        );
}
