namespace VividSleuth.Core.Engines;

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
    Fuel,
    Drive,
    Accessories,
}

/// <summary>What the number in an address counts.</summary>
public enum StationScope
{
    Engine,
    Bank,
    Cylinder,
    Crankpin,
    Main,
    Camshaft,
}

/// <summary>A kind of place in an engine. The one table below is used by every screen, label, file and rule.</summary>
/// <param name="Id">Stable name in knowledge and files.</param>
/// <param name="Letters">Kind letters of the address; none that reads as a digit (B D G I O Q S Z are not used).</param>
/// <param name="Suffix">Letter behind the number, or empty.</param>
/// <param name="Name">What a mechanic calls it.</param>
/// <param name="Mates">Kinds at the same station that were machined or have run together with it.</param>
public sealed record PartKind(string Id, string Letters, string Suffix, string Name, Stratum Stratum, StationScope Scope, IReadOnlyList<string> Mates)
{
    private static bool Always(EngineLayout layout) => true;

    private static int One(Engine engine) => 1;

    /// <summary>Whether an engine of this layout has such a part.</summary>
    public Func<EngineLayout, bool> Applies { get; init; } = Always;

    /// <summary>How many there are at each station; more than one are told apart by a last digit.</summary>
    public Func<Engine, int> Count { get; init; } = One;

    /// <summary>Why parts of the kind may be mixed; empty where each goes back to its own place.</summary>
    public string MayMix { get; init; } = "";

    public bool Interchangeable => MayMix.Length > 0;

    /// <summary>Why a part of the kind is renewed whenever it was undone; empty where it may serve again.</summary>
    public string OneTime { get; init; } = "";

    /// <summary>Why a part of the kind is usually renewed, though some makers let it serve again; empty where it is not.</summary>
    public string Renewed { get; init; } = "";

    /// <summary>True of a casting in which a specialist may judge and mend a crack; every other cracked part is replaced.</summary>
    public bool Casting { get; init; }

    /// <summary>Mates that were machined as one with it: their marks stand on the same side.</summary>
    public IReadOnlyList<string> Halves { get; init; } = [];

    /// <summary>What to say when two that are no mates are held together; empty takes the general words.</summary>
    public string MixedHarm { get; init; } = "";

    /// <summary>Drawn in the long section; the others are listed as the strip exposes them.</summary>
    public bool Drawn { get; init; } = true;
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
    public const string Camshaft = "camshaft";
    public const string Engine = "engine";

    private const string Joint = "A joint is crushed once: a new one goes in, and this one is kept as evidence only.";
    private const string Seal = "A seal that was out, or that a shaft was pulled through, is renewed.";

    private const string Wears = "A used sliding pair is never mixed: each has worn to the other.";

    private static readonly Func<EngineLayout, bool> FourStroke = l => l.Cycle == WorkingCycle.FourStroke;
    private static readonly Func<EngineLayout, bool> TwoStroke = l => l.Cycle == WorkingCycle.TwoStroke;
    private static readonly Func<EngineLayout, bool> Plain = l => l.Bearings == BearingType.Plain;
    private static readonly Func<EngineLayout, bool> Rolling = l => l.Bearings == BearingType.Rolling;
    private static readonly Func<EngineLayout, bool> Wet = l => l.Cycle == WorkingCycle.FourStroke || l.Bearings == BearingType.Plain;
    private static readonly Func<EngineLayout, bool> Liquid = l => l.Cooling == Cooling.Liquid;
    private static readonly Func<EngineLayout, bool> Air = l => l.Cooling == Cooling.Air;
    private static readonly Func<EngineLayout, bool> Split = l => l.Case == CaseBuild.Split;
    private static readonly Func<EngineLayout, bool> Diesel = l => l.Fuel == FuelSystem.Diesel;
    private static readonly Func<EngineLayout, bool> Spark = l => l.Fuel != FuelSystem.Diesel;
    private static readonly Func<EngineLayout, bool> Lifted = l => FourStroke(l) && !l.IsOverhead;
    private static readonly Func<EngineLayout, bool> Overhead = l => FourStroke(l) && l.IsOverhead;
    private static readonly Func<EngineLayout, bool> Pushrod = l => FourStroke(l) && l.ValveGear == ValveGear.Pushrod;
    private static readonly Func<EngineLayout, bool> Gearbox = l => l.GearboxInCase;
    private static readonly Func<Engine, int> Inlets = e => e.Layout.InletValves;
    private static readonly Func<Engine, int> Exhausts = e => e.Layout.ExhaustValves;
    private static readonly Func<Engine, int> CamBearings = e => (e.Layout.Cylinders / e.Banks) + 1;

    /// <summary>The table of kinds, in the order of the strata.</summary>
    public static IReadOnlyList<PartKind> All { get; } =
    [
        new(Camshaft, "CM", "", "camshaft", Stratum.ValveGear, StationScope.Camshaft, ["cam-cap", "cam-wheel"]) { Applies = FourStroke },
        new("cam-cap", "CM", "C", "camshaft cap", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "head"])
        {
            Applies = Overhead,
            Count = CamBearings,
            Halves = ["head"],
            Drawn = false,
        },
        new("cam-wheel", "CM", "W", "camshaft wheel or gear", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "timing-chain", "crank-wheel"])
        {
            Applies = FourStroke,
            Drawn = false,
        },
        new("cam-phaser", "CM", "P", "camshaft phaser", Stratum.ValveGear, StationScope.Camshaft, [Camshaft])
        {
            Applies = l => Overhead(l) && l.ValveGear == ValveGear.TwinOverhead,
            Drawn = false,
        },
        new("timing-chain", "TC", "", "timing chain or belt", Stratum.ValveGear, StationScope.Engine, ["cam-wheel", "crank-wheel"])
        {
            Applies = FourStroke,
            Drawn = false,
        },
        new("chain-tensioner", "TT", "", "tensioner", Stratum.ValveGear, StationScope.Engine, []) { Applies = FourStroke, Drawn = false },
        new("chain-guide", "TR", "", "chain guide or rail", Stratum.ValveGear, StationScope.Engine, [])
        {
            Applies = FourStroke,
            Count = _ => 2,
            Drawn = false,
        },
        new("crank-wheel", "TK", "", "crankshaft wheel or gear", Stratum.ValveGear, StationScope.Engine, ["timing-chain", "cam-wheel", "idler-gear"])
        {
            Applies = Wet,
            Drawn = false,
        },
        new("idler-gear", "TE", "", "idler gear", Stratum.ValveGear, StationScope.Engine, ["crank-wheel", "cam-wheel", "pump-gear"])
        {
            Applies = Diesel,
            Count = _ => 2,
            Drawn = false,
        },
        new("lobe-inlet", "L", "A", "inlet (admission) lobe", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
        },
        new("lobe-exhaust", "L", "E", "exhaust lobe", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
        },
        new("lifter-inlet", "F", "A", "inlet lifter (follower)", Stratum.ValveGear, StationScope.Cylinder, ["lobe-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("lifter-exhaust", "F", "E", "exhaust lifter (follower)", Stratum.ValveGear, StationScope.Cylinder, ["lobe-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("pushrod-inlet", "U", "A", "inlet pushrod", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet", "rocker-inlet"])
        {
            Applies = Pushrod,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("pushrod-exhaust", "U", "E", "exhaust pushrod", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust", "rocker-exhaust"])
        {
            Applies = Pushrod,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("rocker-inlet", "Y", "A", "inlet rocker", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = l => FourStroke(l) && l.ValveGear != ValveGear.Side,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("rocker-exhaust", "Y", "E", "exhaust rocker", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = l => FourStroke(l) && l.ValveGear != ValveGear.Side,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("shim-inlet", "X", "A", "inlet shim", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = Overhead,
            Count = Inlets,
            Drawn = false,
        },
        new("shim-exhaust", "X", "E", "exhaust shim", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust"])
        {
            Applies = Overhead,
            Count = Exhausts,
            Drawn = false,
        },
        new("valve-inlet", "V", "A", "inlet (admission) valve", Stratum.ValveGear, StationScope.Cylinder, ["head", "guide-inlet", "seat-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
        },
        new("valve-exhaust", "V", "E", "exhaust valve", Stratum.ValveGear, StationScope.Cylinder, ["head", "guide-exhaust", "seat-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
        },
        new("guide-inlet", "VU", "A", "inlet valve guide", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("guide-exhaust", "VU", "E", "exhaust valve guide", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("seat-inlet", "VT", "A", "inlet seat", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("seat-exhaust", "VT", "E", "exhaust seat", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("spring-inlet", "VC", "A", "inlet valve (coil) spring", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("spring-exhaust", "VC", "E", "exhaust valve (coil) spring", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("valve-keepers", "VK", "", "valve keepers and retainers", Stratum.ValveGear, StationScope.Cylinder, [])
        {
            Applies = FourStroke,
            MayMix = "Keepers of one size are alike; worn ones are replaced as a set.",
            Drawn = false,
        },
        new("head", "H", "", "cylinder head", Stratum.Head, StationScope.Bank, []) { Casting = true },
        new("head-joint", "H", "J", "head joint (gasket)", Stratum.Head, StationScope.Bank, []) { OneTime = Joint },
        new("valve-cover", "H", "V", "valve cover", Stratum.Head, StationScope.Bank, []) { Applies = FourStroke, Drawn = false },
        new("spark-plug", "N", "", "sparking plug or injector", Stratum.Head, StationScope.Cylinder, [])
        {
            MayMix = "These may change places, but read them in order first.",
        },
        new(Bore, "C", "", "cylinder bore", Stratum.Bore, StationScope.Cylinder, [Piston]) { MixedHarm = Wears, Casting = true },
        new("barrel", "C", "Y", "cylinder barrel", Stratum.Bore, StationScope.Cylinder, [Piston])
        {
            Casting = true,
            Applies = l => Air(l) || (l.Cycle == WorkingCycle.TwoStroke && Split(l)),
            Drawn = false,
        },
        new("barrel-joint", "C", "J", "barrel joint (base gasket)", Stratum.Bore, StationScope.Cylinder, [])
        {
            OneTime = Joint,
            Applies = l => Air(l) || (l.Cycle == WorkingCycle.TwoStroke && Split(l)),
            Drawn = false,
        },
        new("liner", "C", "L", "liner (sleeve)", Stratum.Bore, StationScope.Cylinder, [Piston, "crankcase"])
        {
            Applies = l => Diesel(l) && Liquid(l),
            Drawn = false,
        },
        new(Piston, "P", "", "piston", Stratum.Piston, StationScope.Cylinder, [Bore, "wrist-pin", Rod, "ring-top", "ring-second", "ring-oil"]),
        new("ring-top", "P", "T", "top ring", Stratum.Rings, StationScope.Cylinder, [Piston]) { MixedHarm = Wears },
        new("ring-second", "P", "N", "second (next) ring", Stratum.Rings, StationScope.Cylinder, [Piston])
        {
            Applies = l => l.RingsPerPiston >= 2,
            MixedHarm = Wears,
        },
        new("ring-oil", "P", "L", "oil (lowest) ring", Stratum.Rings, StationScope.Cylinder, [Piston])
        {
            Applies = l => l.RingsPerPiston >= 3,
            MixedHarm = Wears,
        },
        new("wrist-pin", "W", "", "wrist pin", Stratum.Pin, StationScope.Cylinder, [Piston, Rod]) { MixedHarm = Wears },
        new("pin-clip", "W", "C", "pin clip", Stratum.Pin, StationScope.Cylinder, [])
        {
            OneTime = "A clip that was out has lost its spring: new ones go in.",
            Count = _ => 2,
            MayMix = "Clips are never used again; they are kept as evidence only.",
            Drawn = false,
        },
        new(Rod, "R", "", "connecting rod", Stratum.Rod, StationScope.Cylinder, [RodCap, RodShellUpper, Piston, "wrist-pin"]) { Halves = [RodCap] },
        new("small-end", "R", "E", "small end (eye) bush or needles", Stratum.Rod, StationScope.Cylinder, ["wrist-pin", Rod]) { Drawn = false },
        new(RodCap, "R", "C", "cap of the rod", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain, Halves = [Rod] },
        new("rod-bolt", "R", "T", "rod bolt", Stratum.BigEnd, StationScope.Cylinder, [RodCap])
        {
            Renewed = "A rod bolt that was loosened is renewed, unless the maker\'s manual lets it be measured and used again.",
            Applies = Plain,
            Count = _ => 2,
            Drawn = false,
        },
        new(RodShellUpper, "R", "U", "upper shell, in the rod", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain },
        new(RodShellLower, "R", "L", "lower shell, in the cap", Stratum.BigEnd, StationScope.Cylinder, [RodCap, RodShellUpper]) { Applies = Plain },
        new("rod-bearing", "R", "N", "big-end rollers or needles", Stratum.BigEnd, StationScope.Cylinder, [Rod]) { Applies = Rolling },
        new(Crankpin, "K", "", "crankpin", Stratum.Crankpin, StationScope.Crankpin, []),
        new("crank-web", "K", "W", "crank web of a built crank", Stratum.Crankpin, StationScope.Crankpin, [Crankpin])
        {
            Applies = Rolling,
            Count = _ => 2,
            Drawn = false,
        },
        new("crankshaft", "CR", "", "crankshaft", Stratum.Crankpin, StationScope.Engine, []),
        new(MainJournal, "M", "", "main journal", Stratum.Main, StationScope.Main, []),
        new("main-cap", "M", "C", "main cap", Stratum.Main, StationScope.Main, ["crankcase", "main-shell-lower"])
        {
            Applies = l => Plain(l) && !Split(l),
            Halves = ["crankcase"],
        },
        new("main-shell-upper", "M", "U", "upper main shell", Stratum.Main, StationScope.Main, ["main-shell-lower"]) { Applies = Plain },
        new("main-shell-lower", "M", "L", "lower main shell", Stratum.Main, StationScope.Main, ["main-cap", "main-shell-upper"]) { Applies = Plain },
        new("main-bearing", "M", "R", "main ball or roller bearing", Stratum.Main, StationScope.Main, []) { Applies = Rolling },
        new("crank-seal", "KE", "", "crankshaft seal", Stratum.Main, StationScope.Engine, [])
        {
            OneTime = Seal,
            Count = _ => 2,
            Drawn = false,
        },
        new("seal-carrier", "KC", "", "seal carrier", Stratum.Main, StationScope.Engine, []) { Count = _ => 2, Drawn = false },
        new("thrust-bearing", "TH", "", "thrust faces or washers", Stratum.Main, StationScope.Engine, []),
        new("crankcase", "CA", "", "crankcase or block", Stratum.Case, StationScope.Engine, []) { Casting = true },
        new("case-half", "CX", "", "case half", Stratum.Case, StationScope.Engine, ["case-half"])
        {
            Casting = true,
            Applies = Split,
            Count = _ => 2,
            Halves = ["case-half"],
            Drawn = false,
        },
        new("balance-shaft", "YA", "", "balance shaft", Stratum.Case, StationScope.Engine, ["crank-wheel"]) { Applies = FourStroke, Drawn = false },
        new("oil-pump", "PU", "", "oil pump", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("relief-valve", "RV", "", "oil relief valve", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("pickup", "PK", "", "oil pickup and screen", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("oil-filter", "FT", "", "oil filter", Stratum.Case, StationScope.Engine, [])
        {
            OneTime = "A filter is renewed; this one is cut open and read.",
            Applies = Wet,
        },
        new("pan", "PA", "", "oil pan and what lies in it", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("gallery-plugs", "AP", "", "gallery plugs", Stratum.Case, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new("oil-jet", "C", "T", "piston cooling jet", Stratum.Case, StationScope.Cylinder, []) { Applies = l => Diesel(l) && Wet(l), Drawn = false },
        new("air-intake", "AF", "", "air filter and intake", Stratum.Head, StationScope.Engine, [])
        {
            Renewed = "The filter element is renewed; the ducts are cleaned and may serve again.",
        },
        new("water-jacket", "WJ", "", "cooling passages", Stratum.Case, StationScope.Engine, []) { Casting = true },
        new("carburettor", "AC", "", "carburettor or mixer", Stratum.Fuel, StationScope.Engine, [])
        {
            Applies = l => l.Fuel == FuelSystem.Carburettor,
            Drawn = false,
        },
        new("reed-valve", "RE", "", "reed valve", Stratum.Fuel, StationScope.Engine, []) { Applies = TwoStroke, Drawn = false },
        new("governor", "AV", "", "governor", Stratum.Fuel, StationScope.Engine, []) { Drawn = false },
        new("injector", "J", "", "injector", Stratum.Fuel, StationScope.Cylinder, [])
        {
            Applies = l => l.Fuel != FuelSystem.Carburettor,
            Drawn = false,
        },
        new("injection-line", "J", "L", "injection line", Stratum.Fuel, StationScope.Cylinder, ["injector"]) { Applies = Diesel, Drawn = false },
        new("injection-pump", "JP", "", "injection pump", Stratum.Fuel, StationScope.Engine, ["pump-gear"]) { Applies = Diesel, Drawn = false },
        new("pump-gear", "JW", "", "injection pump gear", Stratum.Fuel, StationScope.Engine, ["injection-pump", "idler-gear"])
        {
            Applies = Diesel,
            Drawn = false,
        },
        new("injection-lobe", "JC", "", "injection lobe", Stratum.Fuel, StationScope.Cylinder, []) { Applies = Diesel, Drawn = false },
        new("inlet-manifold", "MA", "", "inlet manifold", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("exhaust-manifold", "ME", "", "exhaust manifold or silencer", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("turbocharger", "TU", "", "turbocharger", Stratum.Accessories, StationScope.Engine, []) { Applies = Diesel, Drawn = false },
        new("crank-pulley", "KP", "", "crankshaft pulley or damper", Stratum.Drive, StationScope.Engine, ["crankshaft"]) { Drawn = false },
        new("flywheel", "FW", "", "flywheel", Stratum.Drive, StationScope.Engine, ["crankshaft", "pressure-plate"]) { Drawn = false },
        new("pressure-plate", "CP", "", "clutch pressure plate", Stratum.Drive, StationScope.Engine, ["flywheel"]) { Drawn = false },
        new("clutch", "CH", "", "clutch", Stratum.Drive, StationScope.Engine, []) { Drawn = false },
        new("primary-gear", "PE", "", "primary gear", Stratum.Drive, StationScope.Engine, []) { Applies = Gearbox, Drawn = false },
        new("gearbox-shaft", "XM", "", "gearbox shaft with its gears", Stratum.Drive, StationScope.Engine, [])
        {
            Applies = Gearbox,
            Count = _ => 2,
            Drawn = false,
        },
        new("shift-fork", "XF", "", "shift fork", Stratum.Drive, StationScope.Engine, ["shift-drum"])
        {
            Applies = Gearbox,
            Count = _ => 3,
            Drawn = false,
        },
        new("shift-drum", "XU", "", "shift drum", Stratum.Drive, StationScope.Engine, ["shift-fork"]) { Applies = Gearbox, Drawn = false },
        new("magneto", "NT", "", "magneto, stator and coil", Stratum.Accessories, StationScope.Engine, []) { Applies = Spark, Drawn = false },
        new("starter", "EM", "", "starter", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("recoil", "HR", "", "recoil starter", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("alternator", "EA", "", "alternator", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("water-pump", "WP", "", "water pump", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("thermostat", "WT", "", "thermostat", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("shroud", "AH", "", "cooling shroud and fan", Stratum.Accessories, StationScope.Engine, []) { Applies = Air, Drawn = false },
        new("oil-cooler", "FC", "", "oil cooler", Stratum.Accessories, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new(Engine, "EN", "", "engine as a whole", Stratum.Case, StationScope.Engine, []),
    ];

    private static readonly Dictionary<string, PartKind> ById = All.ToDictionary(k => k.Id, StringComparer.Ordinal);

    public static PartKind Get(string id) => ById[id];

    public static PartKind? Find(string id) => ById.GetValueOrDefault(id);
}
