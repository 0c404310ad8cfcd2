using VividSleuth.Core.Arrival;

namespace VividSleuth.Core.Index;

/// <summary>Layers of the engine from valve gear down to the case; the rows of the long section.</summary>
public enum Stratum
{
    ValveGear,
    Head,
    Bore,
    Piston,
    Rings,
    Pin,
    Rod,
    BigEnd,
    Crankpin,
    Main,
    Case,
}

/// <summary>What the number in an address counts.</summary>
public enum StationScope
{
    Engine,
    Bank,
    Cylinder,
    Crankpin,
    Main,
}

/// <summary>A kind of place in an engine. The one table below is used by every screen, label, file and rule.</summary>
/// <param name="Id">Stable name in knowledge and files.</param>
/// <param name="Letters">Kind letters of the address; none that reads as a digit (B D G I O Q S Z are not used).</param>
/// <param name="Suffix">Letter behind the number, or empty.</param>
/// <param name="Name">What a mechanic calls it.</param>
/// <param name="Mates">Kinds at the same station that were machined or have run together with it.</param>
/// <param name="Interchangeable">True where parts of the kind may be mixed without harm.</param>
public sealed record PartKind(
    string Id,
    string Letters,
    string Suffix,
    string Name,
    Stratum Stratum,
    StationScope Scope,
    IReadOnlyList<string> Mates,
    bool Interchangeable = false
)
{
    private static bool Always(EngineLayout layout) => true;

    /// <summary>Whether an engine of this layout has such a part.</summary>
    public Func<EngineLayout, bool> Applies { get; init; } = Always;
}

public static class PartKinds
{
    public const string Bore = "bore";
    public const string Piston = "piston";
    public const string Rod = "rod";
    public const string RodCap = "rod-cap";
    public const string RodShellUpper = "rod-shell-upper";
    public const string RodShellLower = "rod-shell-lower";
    public const string Crankpin = "crankpin";
    public const string MainJournal = "main-journal";
    public const string Engine = "engine";

    private static readonly Func<EngineLayout, bool> FourStroke = l => l.Cycle == WorkingCycle.FourStroke;
    private static readonly Func<EngineLayout, bool> Plain = l => l.Bearings == BearingType.Plain;
    private static readonly Func<EngineLayout, bool> Rolling = l => l.Bearings == BearingType.Rolling;
    private static readonly Func<EngineLayout, bool> Wet = l => l.Cycle == WorkingCycle.FourStroke || l.Bearings == BearingType.Plain;

    /// <summary>The table of kinds, in the order of the strata.</summary>
    public static IReadOnlyList<PartKind> All { get; } =
    [
        new("camshaft", "CM", "", "camshaft", Stratum.ValveGear, StationScope.Engine, []) { Applies = FourStroke },
        new("lobe-inlet", "L", "A", "inlet (admission) lobe", Stratum.ValveGear, StationScope.Cylinder, []) { Applies = FourStroke },
        new("lobe-exhaust", "L", "E", "exhaust lobe", Stratum.ValveGear, StationScope.Cylinder, []) { Applies = FourStroke },
        new("valve-inlet", "V", "A", "inlet (admission) valve", Stratum.ValveGear, StationScope.Cylinder, ["head"]) { Applies = FourStroke },
        new("valve-exhaust", "V", "E", "exhaust valve", Stratum.ValveGear, StationScope.Cylinder, ["head"]) { Applies = FourStroke },
        new("head", "H", "", "cylinder head", Stratum.Head, StationScope.Bank, []),
        new("head-joint", "H", "J", "head joint (gasket)", Stratum.Head, StationScope.Bank, []),
        new("spark-plug", "N", "", "sparking plug or injector", Stratum.Head, StationScope.Cylinder, [], Interchangeable: true),
        new(Bore, "C", "", "cylinder bore", Stratum.Bore, StationScope.Cylinder, [Piston]),
        new(Piston, "P", "", "piston", Stratum.Piston, StationScope.Cylinder, [Bore, "wrist-pin", Rod, "ring-top", "ring-second", "ring-oil"]),
        new("ring-top", "P", "T", "top ring", Stratum.Rings, StationScope.Cylinder, [Piston]),
        new("ring-second", "P", "N", "second (next) ring", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.RingsPerPiston >= 2 },
        new("ring-oil", "P", "L", "oil (lowest) ring", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.RingsPerPiston >= 3 },
        new("wrist-pin", "W", "", "wrist pin", Stratum.Pin, StationScope.Cylinder, [Piston, Rod]),
        new(Rod, "R", "", "connecting rod", Stratum.Rod, StationScope.Cylinder, [RodCap, RodShellUpper, Piston, "wrist-pin"]),
        new(RodCap, "R", "C", "cap of the rod", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain },
        new(RodShellUpper, "R", "U", "upper shell, in the rod", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain },
        new(RodShellLower, "R", "L", "lower shell, in the cap", Stratum.BigEnd, StationScope.Cylinder, [RodCap, RodShellUpper]) { Applies = Plain },
        new("rod-bearing", "R", "N", "big-end rollers or needles", Stratum.BigEnd, StationScope.Cylinder, [Rod]) { Applies = Rolling },
        new(Crankpin, "K", "", "crankpin", Stratum.Crankpin, StationScope.Crankpin, []),
        new("crankshaft", "CR", "", "crankshaft", Stratum.Crankpin, StationScope.Engine, []),
        new(MainJournal, "M", "", "main journal", Stratum.Main, StationScope.Main, []),
        new("main-cap", "M", "C", "main cap", Stratum.Main, StationScope.Main, ["crankcase", "main-shell-lower"]) { Applies = Plain },
        new("main-shell-upper", "M", "U", "upper main shell", Stratum.Main, StationScope.Main, ["main-shell-lower"]) { Applies = Plain },
        new("main-shell-lower", "M", "L", "lower main shell", Stratum.Main, StationScope.Main, ["main-cap", "main-shell-upper"]) { Applies = Plain },
        new("main-bearing", "M", "R", "main ball or roller bearing", Stratum.Main, StationScope.Main, []) { Applies = Rolling },
        new("thrust-bearing", "TH", "", "thrust faces or washers", Stratum.Main, StationScope.Engine, []),
        new("crankcase", "CA", "", "crankcase or block", Stratum.Case, StationScope.Engine, []),
        new("oil-pump", "PU", "", "oil pump", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("relief-valve", "RV", "", "oil relief valve", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("pickup", "PK", "", "oil pickup and screen", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("oil-filter", "FT", "", "oil filter", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("pan", "PA", "", "oil pan and what lies in it", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("air-intake", "AF", "", "air filter and intake", Stratum.Head, StationScope.Engine, []),
        new("water-jacket", "WJ", "", "cooling passages", Stratum.Case, StationScope.Engine, []),
        new(Engine, "EN", "", "engine as a whole", Stratum.Case, StationScope.Engine, []),
    ];

    private static readonly Dictionary<string, PartKind> ById = All.ToDictionary(k => k.Id, StringComparer.Ordinal);

    public static PartKind Get(string id) => ById[id];

    public static PartKind? Find(string id) => ById.GetValueOrDefault(id);
}
