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
/// <param name="Mates">Kinds at the same station that were machined or have run together with it.</param>
public sealed record PartKind(string Id, string Letters, string Suffix, Stratum Stratum, StationScope Scope, IReadOnlyList<string> Mates)
{
    /// <summary>What a mechanic calls it.</summary>
    public Fact Name => Fact.Of($"part.{Id}");

    private static bool Always(EngineLayout layout) => true;

    private static int One(Engine engine) => 1;

    /// <summary>Whether an engine of this layout has such a part.</summary>
    public Func<EngineLayout, bool> Applies { get; init; } = Always;

    /// <summary>How many there are at each station; more than one are told apart by a last digit.</summary>
    public Func<Engine, int> Count { get; init; } = One;

    /// <summary>Why parts of the kind may be mixed; null where each goes back to its own place.</summary>
    public Fact? MayMix { get; init; }

    public bool Interchangeable => MayMix is not null;

    /// <summary>Why a part of the kind is renewed whenever it was undone; null where it may serve again.</summary>
    public Fact? OneTime { get; init; }

    /// <summary>Why a part of the kind is usually renewed, though some makers let it serve again; null where it is not.</summary>
    public Fact? Renewed { get; init; }

    /// <summary>True of a casting in which a specialist may judge and mend a crack; every other cracked part is replaced.</summary>
    public bool Casting { get; init; }

    /// <summary>Mates that were machined as one with it: their marks stand on the same side.</summary>
    public IReadOnlyList<string> Halves { get; init; } = [];

    /// <summary>What to say when two that are no mates are held together; null takes the general words.</summary>
    public Fact? MixedHarm { get; init; }

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

    private static readonly Fact Joint = Fact.Of("part.why.joint-is-crushed-once");
    private static readonly Fact Seal = Fact.Of("part.why.seal-is-renewed");

    private static readonly Fact Wears = Fact.Of("part.why.pair-has-worn-together");

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
        new(Camshaft, "CM", "", Stratum.ValveGear, StationScope.Camshaft, ["cam-cap", "cam-wheel"]) { Applies = FourStroke },
        new("cam-cap", "CM", "C", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "head"])
        {
            Applies = Overhead,
            Count = CamBearings,
            Halves = ["head"],
            Drawn = false,
        },
        new("cam-wheel", "CM", "W", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "timing-chain", "crank-wheel"])
        {
            Applies = FourStroke,
            Drawn = false,
        },
        new("cam-phaser", "CM", "P", Stratum.ValveGear, StationScope.Camshaft, [Camshaft])
        {
            Applies = l => Overhead(l) && l.ValveGear == ValveGear.TwinOverhead,
            Drawn = false,
        },
        new("timing-chain", "TC", "", Stratum.ValveGear, StationScope.Engine, ["cam-wheel", "crank-wheel"]) { Applies = FourStroke, Drawn = false },
        new("chain-tensioner", "TT", "", Stratum.ValveGear, StationScope.Engine, []) { Applies = FourStroke, Drawn = false },
        new("chain-guide", "TR", "", Stratum.ValveGear, StationScope.Engine, [])
        {
            Applies = FourStroke,
            Count = _ => 2,
            Drawn = false,
        },
        new("crank-wheel", "TK", "", Stratum.ValveGear, StationScope.Engine, ["timing-chain", "cam-wheel", "idler-gear"])
        {
            Applies = Wet,
            Drawn = false,
        },
        new("idler-gear", "TE", "", Stratum.ValveGear, StationScope.Engine, ["crank-wheel", "cam-wheel", "pump-gear"])
        {
            Applies = Diesel,
            Count = _ => 2,
            Drawn = false,
        },
        new("lobe-inlet", "L", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
        },
        new("lobe-exhaust", "L", "E", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
        },
        new("lifter-inlet", "F", "A", Stratum.ValveGear, StationScope.Cylinder, ["lobe-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("lifter-exhaust", "F", "E", Stratum.ValveGear, StationScope.Cylinder, ["lobe-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("pushrod-inlet", "U", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet", "rocker-inlet"])
        {
            Applies = Pushrod,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("pushrod-exhaust", "U", "E", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust", "rocker-exhaust"])
        {
            Applies = Pushrod,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("rocker-inlet", "Y", "A", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = l => FourStroke(l) && l.ValveGear != ValveGear.Side,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("rocker-exhaust", "Y", "E", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = l => FourStroke(l) && l.ValveGear != ValveGear.Side,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("shim-inlet", "X", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = Overhead,
            Count = Inlets,
            Drawn = false,
        },
        new("shim-exhaust", "X", "E", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust"])
        {
            Applies = Overhead,
            Count = Exhausts,
            Drawn = false,
        },
        new("valve-inlet", "V", "A", Stratum.ValveGear, StationScope.Cylinder, ["head", "guide-inlet", "seat-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
        },
        new("valve-exhaust", "V", "E", Stratum.ValveGear, StationScope.Cylinder, ["head", "guide-exhaust", "seat-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            MixedHarm = Wears,
        },
        new("guide-inlet", "VU", "A", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("guide-exhaust", "VU", "E", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("seat-inlet", "VT", "A", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("seat-exhaust", "VT", "E", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("spring-inlet", "VC", "A", Stratum.ValveGear, StationScope.Cylinder, ["valve-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            Drawn = false,
        },
        new("spring-exhaust", "VC", "E", Stratum.ValveGear, StationScope.Cylinder, ["valve-exhaust"])
        {
            Applies = FourStroke,
            Count = Exhausts,
            Drawn = false,
        },
        new("valve-keepers", "VK", "", Stratum.ValveGear, StationScope.Cylinder, [])
        {
            Applies = FourStroke,
            MayMix = Fact.Of("part.why.keepers-are-alike"),
            Drawn = false,
        },
        new("head", "H", "", Stratum.Head, StationScope.Bank, []) { Casting = true },
        new("head-joint", "H", "J", Stratum.Head, StationScope.Bank, []) { OneTime = Joint },
        new("valve-cover", "H", "V", Stratum.Head, StationScope.Bank, []) { Applies = FourStroke, Drawn = false },
        new("spark-plug", "N", "", Stratum.Head, StationScope.Cylinder, []) { MayMix = Fact.Of("part.why.plugs-may-change-places") },
        new(Bore, "C", "", Stratum.Bore, StationScope.Cylinder, [Piston]) { MixedHarm = Wears, Casting = true },
        new("barrel", "C", "Y", Stratum.Bore, StationScope.Cylinder, [Piston])
        {
            Casting = true,
            Applies = l => Air(l) || (l.Cycle == WorkingCycle.TwoStroke && Split(l)),
            Drawn = false,
        },
        new("barrel-joint", "C", "J", Stratum.Bore, StationScope.Cylinder, [])
        {
            OneTime = Joint,
            Applies = l => Air(l) || (l.Cycle == WorkingCycle.TwoStroke && Split(l)),
            Drawn = false,
        },
        new("liner", "C", "L", Stratum.Bore, StationScope.Cylinder, [Piston, "crankcase"]) { Applies = l => Diesel(l) && Liquid(l), Drawn = false },
        new(Piston, "P", "", Stratum.Piston, StationScope.Cylinder, [Bore, "wrist-pin", Rod, "ring-top", "ring-second", "ring-oil"]),
        new("ring-top", "P", "T", Stratum.Rings, StationScope.Cylinder, [Piston]) { MixedHarm = Wears },
        new("ring-second", "P", "N", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.RingsPerPiston >= 2, MixedHarm = Wears },
        new("ring-oil", "P", "L", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.RingsPerPiston >= 3, MixedHarm = Wears },
        new("wrist-pin", "W", "", Stratum.Pin, StationScope.Cylinder, [Piston, Rod]) { MixedHarm = Wears },
        new("pin-clip", "W", "C", Stratum.Pin, StationScope.Cylinder, [])
        {
            OneTime = Fact.Of("part.why.clip-lost-its-spring"),
            Count = _ => 2,
            MayMix = Fact.Of("part.why.clips-are-evidence"),
            Drawn = false,
        },
        new(Rod, "R", "", Stratum.Rod, StationScope.Cylinder, [RodCap, RodShellUpper, Piston, "wrist-pin"]) { Halves = [RodCap] },
        new("small-end", "R", "E", Stratum.Rod, StationScope.Cylinder, ["wrist-pin", Rod]) { Drawn = false },
        new(RodCap, "R", "C", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain, Halves = [Rod] },
        new("rod-bolt", "R", "T", Stratum.BigEnd, StationScope.Cylinder, [RodCap])
        {
            Renewed = Fact.Of("part.why.rod-bolt-renewed"),
            Applies = Plain,
            Count = _ => 2,
            Drawn = false,
        },
        new(RodShellUpper, "R", "U", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Plain },
        new(RodShellLower, "R", "L", Stratum.BigEnd, StationScope.Cylinder, [RodCap, RodShellUpper]) { Applies = Plain },
        new("rod-bearing", "R", "N", Stratum.BigEnd, StationScope.Cylinder, [Rod]) { Applies = Rolling },
        new(Crankpin, "K", "", Stratum.Crankpin, StationScope.Crankpin, []),
        new("crank-web", "K", "W", Stratum.Crankpin, StationScope.Crankpin, [Crankpin])
        {
            Applies = Rolling,
            Count = _ => 2,
            Drawn = false,
        },
        new("crankshaft", "CR", "", Stratum.Crankpin, StationScope.Engine, []),
        new(MainJournal, "M", "", Stratum.Main, StationScope.Main, []),
        new("main-cap", "M", "C", Stratum.Main, StationScope.Main, ["crankcase", "main-shell-lower"])
        {
            Applies = l => Plain(l) && !Split(l),
            Halves = ["crankcase"],
        },
        new("main-shell-upper", "M", "U", Stratum.Main, StationScope.Main, ["main-shell-lower"]) { Applies = Plain },
        new("main-shell-lower", "M", "L", Stratum.Main, StationScope.Main, ["main-cap", "main-shell-upper"]) { Applies = Plain },
        new("main-bearing", "M", "R", Stratum.Main, StationScope.Main, []) { Applies = Rolling },
        new("crank-seal", "KE", "", Stratum.Main, StationScope.Engine, [])
        {
            OneTime = Seal,
            Count = _ => 2,
            Drawn = false,
        },
        new("seal-carrier", "KC", "", Stratum.Main, StationScope.Engine, []) { Count = _ => 2, Drawn = false },
        new("thrust-bearing", "TH", "", Stratum.Main, StationScope.Engine, []),
        new("crankcase", "CA", "", Stratum.Case, StationScope.Engine, []) { Casting = true },
        new("case-half", "CX", "", Stratum.Case, StationScope.Engine, ["case-half"])
        {
            Casting = true,
            Applies = Split,
            Count = _ => 2,
            Halves = ["case-half"],
            Drawn = false,
        },
        new("balance-shaft", "YA", "", Stratum.Case, StationScope.Engine, ["crank-wheel"]) { Applies = FourStroke, Drawn = false },
        new("oil-pump", "PU", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("relief-valve", "RV", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("pickup", "PK", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("oil-filter", "FT", "", Stratum.Case, StationScope.Engine, []) { OneTime = Fact.Of("part.why.filter-is-cut-open"), Applies = Wet },
        new("pan", "PA", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("gallery-plugs", "AP", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new("oil-jet", "C", "T", Stratum.Case, StationScope.Cylinder, []) { Applies = l => Diesel(l) && Wet(l), Drawn = false },
        new("air-intake", "AF", "", Stratum.Head, StationScope.Engine, []) { Renewed = Fact.Of("part.why.filter-element-renewed") },
        new("water-jacket", "WJ", "", Stratum.Case, StationScope.Engine, []) { Casting = true },
        new("carburettor", "AC", "", Stratum.Fuel, StationScope.Engine, []) { Applies = l => l.Fuel == FuelSystem.Carburettor, Drawn = false },
        new("reed-valve", "RE", "", Stratum.Fuel, StationScope.Engine, []) { Applies = TwoStroke, Drawn = false },
        new("governor", "AV", "", Stratum.Fuel, StationScope.Engine, []) { Drawn = false },
        new("injector", "J", "", Stratum.Fuel, StationScope.Cylinder, []) { Applies = l => l.Fuel != FuelSystem.Carburettor, Drawn = false },
        new("injection-line", "J", "L", Stratum.Fuel, StationScope.Cylinder, ["injector"]) { Applies = Diesel, Drawn = false },
        new("injection-pump", "JP", "", Stratum.Fuel, StationScope.Engine, ["pump-gear"]) { Applies = Diesel, Drawn = false },
        new("pump-gear", "JW", "", Stratum.Fuel, StationScope.Engine, ["injection-pump", "idler-gear"]) { Applies = Diesel, Drawn = false },
        new("injection-lobe", "JC", "", Stratum.Fuel, StationScope.Cylinder, []) { Applies = Diesel, Drawn = false },
        new("inlet-manifold", "MA", "", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("exhaust-manifold", "ME", "", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("turbocharger", "TU", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Diesel, Drawn = false },
        new("crank-pulley", "KP", "", Stratum.Drive, StationScope.Engine, ["crankshaft"]) { Drawn = false },
        new("flywheel", "FW", "", Stratum.Drive, StationScope.Engine, ["crankshaft", "pressure-plate"]) { Drawn = false },
        new("pressure-plate", "CP", "", Stratum.Drive, StationScope.Engine, ["flywheel"]) { Drawn = false },
        new("clutch", "CH", "", Stratum.Drive, StationScope.Engine, []) { Drawn = false },
        new("primary-gear", "PE", "", Stratum.Drive, StationScope.Engine, []) { Applies = Gearbox, Drawn = false },
        new("gearbox-shaft", "XM", "", Stratum.Drive, StationScope.Engine, [])
        {
            Applies = Gearbox,
            Count = _ => 2,
            Drawn = false,
        },
        new("shift-fork", "XF", "", Stratum.Drive, StationScope.Engine, ["shift-drum"])
        {
            Applies = Gearbox,
            Count = _ => 3,
            Drawn = false,
        },
        new("shift-drum", "XU", "", Stratum.Drive, StationScope.Engine, ["shift-fork"]) { Applies = Gearbox, Drawn = false },
        new("magneto", "NT", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Spark, Drawn = false },
        new("starter", "EM", "", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("recoil", "HR", "", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("alternator", "EA", "", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("water-pump", "WP", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("thermostat", "WT", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("shroud", "AH", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Air, Drawn = false },
        new("oil-cooler", "FC", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new(Engine, "EN", "", Stratum.Case, StationScope.Engine, []),
    ];

    private static readonly Dictionary<string, PartKind> ById = All.ToDictionary(k => k.Id, StringComparer.Ordinal);

    public static PartKind Get(string id) => ById[id];

    public static PartKind? Find(string id) => ById.GetValueOrDefault(id);
}
