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
    public Fact Name =>
        Own is null ? Fact.Of($"part.{Id}")
        : Own.Left ? Fact.Of("part.left", ("kind", Fact.Of($"part.{Own.Like}")), ("code", Own.Code))
        : Fact.Text(Own.Name);

    /// <summary>A part that only this engine has; null for a kind of the table.</summary>
    public OwnPart? Own { get; init; }

    /// <summary>The kind whose signs and measures serve for it: its own, or the one it is like.</summary>
    public string ReadAs => Own is { Like.Length: > 0 } ? Own.Like : Id;

    private static bool Always(EngineLayout layout) => true;

    private static int One(Engine engine) => 1;

    /// <summary>Whether an engine of this layout has such a part.</summary>
    public Func<EngineLayout, bool> Applies { get; init; } = Always;

    /// <summary>Whether it stands at this station of those of its scope; of mains that differ some have shells and some have balls.</summary>
    public Func<Engine, int, bool> StandsAt { get; init; } = (_, _) => true;

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

    /// <summary>Can be looked at on an engine that is still closed.</summary>
    public bool Outside =>
        Stratum is Stratum.Fuel or Stratum.Accessories or Stratum.Drive
        || Id is PartKinds.Engine or "inlet-manifold" or "exhaust-manifold" or "air-intake" or "valve-cover" or "barrel" or "spark-plug";

    /// <summary>With what it hangs on an end of the crankshaft; null where it does not.</summary>
    public EndHung? At { get; init; }

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

    /// <summary>Rings that a piston may carry, from the crown down.</summary>
    public static readonly IReadOnlyList<string> Rings = ["ring-top", "ring-second", "ring-third", "ring-fourth", "ring-oil"];

    private static readonly Fact Joint = Fact.Of("part.why.joint-is-crushed-once");
    private static readonly Fact Seal = Fact.Of("part.why.seal-is-renewed");

    private static readonly Fact Wears = Fact.Of("part.why.pair-has-worn-together");

    private static readonly Func<EngineLayout, bool> FourStroke = l => l.Cycle == WorkingCycle.FourStroke;
    private static readonly Func<EngineLayout, bool> TwoStroke = l => l.Cycle == WorkingCycle.TwoStroke;
    private static readonly Func<EngineLayout, bool> Valved = l => l.HasValves;
    private static readonly Func<EngineLayout, bool> Plain = l => l.Bearings == BearingType.Plain || l.MainTypes is not null;
    private static readonly Func<EngineLayout, bool> Rolling = l => l.Bearings == BearingType.Rolling || l.MainTypes is not null;
    private static readonly Func<Engine, int, bool> PlainHere = (e, main) => e.MainIs(main) == BearingType.Plain;
    private static readonly Func<Engine, int, bool> RollingHere = (e, main) => e.MainIs(main) == BearingType.Rolling;
    private static readonly Func<EngineLayout, bool> PlainRod = l => l.BigEnds == BearingType.Plain;
    private static readonly Func<EngineLayout, bool> Capped = l => !l.IsBuilt;
    private static readonly Func<EngineLayout, bool> Built = l => l.IsBuilt;
    private static readonly Func<EngineLayout, bool> Wet = l => l.HasValves || l.Bearings == BearingType.Plain;
    private static readonly Func<EngineLayout, bool> Liquid = l => l.Cooling == Cooling.Liquid;
    private static readonly Func<EngineLayout, bool> Air = l => l.Cooling == Cooling.Air;
    private static readonly Func<EngineLayout, bool> Split = l => l.Case == CaseBuild.Split;
    private static readonly Func<EngineLayout, bool> Diesel = l => l.Fuel == FuelSystem.Diesel;
    private static readonly Func<EngineLayout, bool> Spark = l => l.Fuel != FuelSystem.Diesel;
    private static readonly Func<EngineLayout, bool> Overhead = l => Valved(l) && l.IsOverhead;
    private static readonly Func<EngineLayout, bool> Pushrod = l => Valved(l) && l.ValveGear == ValveGear.Pushrod;
    private static readonly Func<EngineLayout, bool> InletPushrod = l => FourStroke(l) && l.ValveGear == ValveGear.Pushrod;
    private static readonly Func<EngineLayout, bool> Chained = l => Valved(l) && l.CamDrive is null or CamDrive.Chain;
    private static readonly Func<EngineLayout, bool> Belted = l => Valved(l) && l.CamDrive == CamDrive.Belt;
    private static readonly Func<EngineLayout, bool> Geared = l => l.CamDrive == CamDrive.Gears || (l.CamDrive is null && Diesel(l));
    private static readonly Func<EngineLayout, bool> Barrelled = l => l.BoresAre == BoreBuild.Barrel;
    private static readonly Func<EngineLayout, bool> Lined = l => l.BoresAre is BoreBuild.DryLiner or BoreBuild.WetLiner;
    private static readonly Func<EngineLayout, bool> Railed = l => l.Feed == DieselFeed.CommonRail;
    private static readonly Func<EngineLayout, bool> UnitInjected = l => l.Feed == DieselFeed.UnitInjectors;
    private static readonly Func<EngineLayout, bool> InLine = l => Diesel(l) && l.Feed is null or DieselFeed.PumpAndLines;
    private static readonly Func<EngineLayout, bool> Gearbox = l => l.GearboxInCase;
    private static readonly Func<Engine, int> Inlets = e => e.Layout.InletValves;
    private static readonly Func<Engine, int> Exhausts = e => e.Layout.ExhaustValves;
    private static readonly Func<Engine, int> CamBearings = e => (e.Layout.Cylinders / e.Banks) + 1;

    /// <summary>The table of kinds, in the order of the strata.</summary>
    public static IReadOnlyList<PartKind> All { get; } =
    [
        new(Camshaft, "CM", "", Stratum.ValveGear, StationScope.Camshaft, ["cam-cap", "cam-wheel"]) { Applies = Valved },
        new("cam-cap", "CM", "C", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "head"])
        {
            Applies = Overhead,
            Count = CamBearings,
            Halves = ["head"],
            Drawn = false,
        },
        new("cam-wheel", "CM", "W", Stratum.ValveGear, StationScope.Camshaft, [Camshaft, "timing-chain", "timing-belt", "crank-wheel"])
        {
            At = EndHung.Timing,
            Applies = Valved,
            Drawn = false,
        },
        new("cam-phaser", "CM", "P", Stratum.ValveGear, StationScope.Camshaft, [Camshaft])
        {
            At = EndHung.Timing,
            Applies = l => Overhead(l) && (l.CamPhasers ?? l.ValveGear == ValveGear.TwinOverhead),
        },
        new("timing-chain", "TC", "", Stratum.ValveGear, StationScope.Engine, ["cam-wheel", "crank-wheel"])
        {
            At = EndHung.Timing,
            Applies = Chained,
        },
        new("timing-belt", "TY", "", Stratum.ValveGear, StationScope.Engine, ["cam-wheel", "crank-wheel"])
        {
            At = EndHung.Timing,
            Applies = Belted,
            OneTime = Fact.Of("part.why.belt-is-renewed"),
        },
        new("bevel-shaft", "TV", "", Stratum.ValveGear, StationScope.Bank, ["crank-wheel"])
        {
            At = EndHung.Timing,
            Applies = l => Valved(l) && l.CamDrive == CamDrive.Shaft,
        },
        new("chain-tensioner", "TT", "", Stratum.ValveGear, StationScope.Engine, [])
        {
            At = EndHung.Timing,
            Applies = l => Chained(l) || Belted(l),
            Drawn = false,
        },
        new("chain-guide", "TR", "", Stratum.ValveGear, StationScope.Engine, [])
        {
            At = EndHung.Timing,
            Applies = Chained,
            Count = _ => 2,
            Drawn = false,
        },
        new("crank-wheel", "TK", "", Stratum.ValveGear, StationScope.Engine, ["timing-chain", "timing-belt", "cam-wheel", "idler-gear"])
        {
            At = EndHung.Timing,
            Applies = Wet,
        },
        new("idler-gear", "TE", "", Stratum.ValveGear, StationScope.Engine, ["crank-wheel", "cam-wheel", "pump-gear"])
        {
            At = EndHung.Timing,
            Applies = Geared,
            Count = _ => 2,
        },
        new("lobe-inlet", "L", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = FourStroke,
            Count = Inlets,
            MixedHarm = Wears,
        },
        new("lobe-exhaust", "L", "E", Stratum.ValveGear, StationScope.Cylinder, ["lifter-exhaust"])
        {
            Applies = Valved,
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
            Applies = Valved,
            Count = Exhausts,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("pushrod-inlet", "U", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet", "rocker-inlet"])
        {
            Applies = InletPushrod,
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
            Applies = l => Valved(l) && l.ValveGear != ValveGear.Side,
            MixedHarm = Wears,
            Drawn = false,
        },
        new("shim-inlet", "X", "A", Stratum.ValveGear, StationScope.Cylinder, ["lifter-inlet"])
        {
            Applies = l => FourStroke(l) && Overhead(l),
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
            Applies = Valved,
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
            Applies = Valved,
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
            Applies = Valved,
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
            Applies = Valved,
            Count = Exhausts,
            Drawn = false,
        },
        new("valve-keepers", "VK", "", Stratum.ValveGear, StationScope.Cylinder, [])
        {
            Applies = Valved,
            MayMix = Fact.Of("part.why.keepers-are-alike"),
            Drawn = false,
        },
        new("head", "H", "", Stratum.Head, StationScope.Bank, []) { Casting = true },
        new("head-joint", "H", "J", Stratum.Head, StationScope.Bank, []) { OneTime = Joint },
        new("valve-cover", "H", "V", Stratum.Head, StationScope.Bank, []) { Applies = Valved, Drawn = false },
        new("spark-plug", "N", "", Stratum.Head, StationScope.Cylinder, []) { MayMix = Fact.Of("part.why.plugs-may-change-places") },
        new("glow-plug", "NH", "", Stratum.Head, StationScope.Cylinder, []) { Applies = Diesel, Drawn = false },
        new(Bore, "C", "", Stratum.Bore, StationScope.Cylinder, [Piston]) { MixedHarm = Wears, Casting = true },
        new("barrel", "C", "Y", Stratum.Bore, StationScope.Cylinder, [Piston])
        {
            Casting = true,
            Applies = Barrelled,
            Drawn = false,
        },
        new("barrel-joint", "C", "J", Stratum.Bore, StationScope.Cylinder, [])
        {
            OneTime = Joint,
            Applies = Barrelled,
            Drawn = false,
        },
        new("liner", "C", "L", Stratum.Bore, StationScope.Cylinder, [Piston, "crankcase"]) { Applies = Lined, Drawn = false },
        new(Piston, "P", "", Stratum.Piston, StationScope.Cylinder, [Bore, "wrist-pin", Rod, .. Rings]),
        new("ring-top", "P", "T", Stratum.Rings, StationScope.Cylinder, [Piston]) { MixedHarm = Wears },
        new("ring-second", "P", "N", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.CompressionRings >= 2, MixedHarm = Wears },
        new("ring-third", "P", "H", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.CompressionRings >= 3, MixedHarm = Wears },
        new("ring-fourth", "P", "F", Stratum.Rings, StationScope.Cylinder, [Piston]) { Applies = l => l.CompressionRings >= 4, MixedHarm = Wears },
        new("ring-oil", "P", "L", Stratum.Rings, StationScope.Cylinder, [Piston])
        {
            Applies = l => l.OilRingsPerPiston > 0,
            Count = e => e.Layout.OilRingsPerPiston,
            MixedHarm = Wears,
        },
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
        new(RodCap, "R", "C", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = Capped, Halves = [Rod] },
        new("rod-bolt", "R", "T", Stratum.BigEnd, StationScope.Cylinder, [RodCap])
        {
            Renewed = Fact.Of("part.why.rod-bolt-renewed"),
            Applies = Capped,
            Count = _ => 2,
            Drawn = false,
        },
        new(RodShellUpper, "R", "U", Stratum.BigEnd, StationScope.Cylinder, [Rod, RodShellLower]) { Applies = PlainRod },
        new(RodShellLower, "R", "L", Stratum.BigEnd, StationScope.Cylinder, [RodCap, RodShellUpper]) { Applies = PlainRod },
        new("rod-bearing", "R", "N", Stratum.BigEnd, StationScope.Cylinder, [Rod]) { Applies = l => !PlainRod(l) },
        new(Crankpin, "K", "", Stratum.Crankpin, StationScope.Crankpin, []),
        new("crank-web", "K", "W", Stratum.Crankpin, StationScope.Crankpin, [Crankpin])
        {
            Applies = Built,
            Count = _ => 2,
            Drawn = false,
        },
        new("crankshaft", "CR", "", Stratum.Crankpin, StationScope.Engine, []),
        new(MainJournal, "M", "", Stratum.Main, StationScope.Main, []),
        new("main-cap", "M", "C", Stratum.Main, StationScope.Main, ["crankcase", "main-shell-lower"])
        {
            Applies = l => Plain(l) && !Split(l),
            StandsAt = PlainHere,
            Halves = ["crankcase"],
        },
        new("main-shell-upper", "M", "U", Stratum.Main, StationScope.Main, ["main-shell-lower"]) { Applies = Plain, StandsAt = PlainHere },
        new("main-shell-lower", "M", "L", Stratum.Main, StationScope.Main, ["main-cap", "main-shell-upper"])
        {
            Applies = Plain,
            StandsAt = PlainHere,
        },
        new("main-bearing", "M", "R", Stratum.Main, StationScope.Main, []) { Applies = Rolling, StandsAt = RollingHere },
        new("crank-seal", "KE", "", Stratum.Main, StationScope.Engine, []) { OneTime = Seal, Count = _ => 2 },
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
        new("balance-shaft", "YA", "", Stratum.Case, StationScope.Engine, ["crank-wheel"])
        {
            Applies = l => l.BalanceShafts is { } shafts ? shafts > 0 : FourStroke(l),
            Count = e => e.Layout.BalanceShafts ?? 1,
            Drawn = false,
        },
        new("oil-pump", "PU", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("relief-valve", "RV", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet, Count = e => e.Layout.ReliefValves },
        new("pickup", "PK", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("oil-filter", "FT", "", Stratum.Case, StationScope.Engine, []) { OneTime = Fact.Of("part.why.filter-is-cut-open"), Applies = Wet },
        new("pan", "PA", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet },
        new("gallery-plugs", "AP", "", Stratum.Case, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new("oil-jet", "C", "T", Stratum.Case, StationScope.Cylinder, []) { Applies = l => l.OilJets ?? (Diesel(l) && Wet(l)), Drawn = false },
        new("air-intake", "AF", "", Stratum.Head, StationScope.Engine, []) { Renewed = Fact.Of("part.why.filter-element-renewed") },
        new("water-jacket", "WJ", "", Stratum.Case, StationScope.Engine, []) { Casting = true },
        new("carburettor", "AC", "", Stratum.Fuel, StationScope.Engine, []) { Applies = l => l.Fuel == FuelSystem.Carburettor, Drawn = false },
        new("gas-mixer", "AX", "", Stratum.Fuel, StationScope.Engine, []) { Applies = l => l.Fuel == FuelSystem.Gas, Drawn = false },
        new("reed-valve", "RE", "", Stratum.Fuel, StationScope.Engine, []) { Applies = l => TwoStroke(l) && !l.Uniflow, Drawn = false },
        new("governor", "AV", "", Stratum.Fuel, StationScope.Engine, []) { Drawn = false },
        new("injector", "J", "", Stratum.Fuel, StationScope.Cylinder, [])
        {
            Applies = l => l.Fuel is FuelSystem.Injected or FuelSystem.Diesel,
            Drawn = false,
        },
        new("injection-line", "J", "L", Stratum.Fuel, StationScope.Cylinder, ["injector"])
        {
            Applies = l => Diesel(l) && !UnitInjected(l),
            Drawn = false,
        },
        new("injection-pump", "JP", "", Stratum.Fuel, StationScope.Engine, ["pump-gear"])
        {
            Applies = l => Diesel(l) && !UnitInjected(l),
            Drawn = false,
        },
        new("fuel-rail", "JR", "", Stratum.Fuel, StationScope.Bank, ["injector"]) { Applies = Railed, Drawn = false },
        new("pump-gear", "JW", "", Stratum.Fuel, StationScope.Engine, ["injection-pump", "idler-gear"])
        {
            At = EndHung.Timing,
            Applies = l => Diesel(l) && !UnitInjected(l),
            Drawn = false,
        },
        new("injection-lobe", "JC", "", Stratum.Fuel, StationScope.Cylinder, []) { Applies = l => InLine(l) || UnitInjected(l), Drawn = false },
        new("inlet-manifold", "MA", "", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("exhaust-manifold", "ME", "", Stratum.Head, StationScope.Bank, []) { Drawn = false },
        new("turbocharger", "TU", "", Stratum.Accessories, StationScope.Engine, [])
        {
            Applies = l => l.Charging is { } charging ? charging == Charging.Turbocharger : Diesel(l),
        },
        new("blower", "AW", "", Stratum.Accessories, StationScope.Engine, []) { Applies = l => l.Charging == Charging.Blower },
        new("crank-pulley", "KP", "", Stratum.Drive, StationScope.Engine, ["crankshaft"]) { At = EndHung.Pulley },
        new("flywheel", "FW", "", Stratum.Drive, StationScope.Engine, ["crankshaft", "pressure-plate"]) { At = EndHung.Flywheel },
        new("pressure-plate", "CP", "", Stratum.Drive, StationScope.Engine, ["flywheel"]) { At = EndHung.Clutch, Drawn = false },
        new("clutch", "CH", "", Stratum.Drive, StationScope.Engine, []) { At = EndHung.Clutch, Drawn = false },
        new("primary-gear", "PE", "", Stratum.Drive, StationScope.Engine, [])
        {
            At = EndHung.Clutch,
            Applies = l => Gearbox(l) && l.Primary is null or PrimaryDrive.Gears,
            Drawn = false,
        },
        new("primary-chain", "PX", "", Stratum.Drive, StationScope.Engine, [])
        {
            At = EndHung.Clutch,
            Applies = l => Gearbox(l) && l.Primary is PrimaryDrive.Chain or PrimaryDrive.Belt,
            Drawn = false,
        },
        new("kick-shaft", "HK", "", Stratum.Drive, StationScope.Engine, []) { Applies = l => l.KickStart, Drawn = false },
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
        new("starter", "EM", "", Stratum.Accessories, StationScope.Engine, []) { At = EndHung.Starter, Drawn = false },
        new("recoil", "HR", "", Stratum.Accessories, StationScope.Engine, []) { At = EndHung.Starter, Drawn = false },
        new("alternator", "EA", "", Stratum.Accessories, StationScope.Engine, []) { Drawn = false },
        new("water-pump", "WP", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("thermostat", "WT", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Liquid, Drawn = false },
        new("shroud", "AH", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Air, Drawn = false },
        new("oil-cooler", "FC", "", Stratum.Accessories, StationScope.Engine, []) { Applies = Wet, Drawn = false },
        new(Engine, "EN", "", Stratum.Case, StationScope.Engine, []),
    ];

    private static readonly Dictionary<string, PartKind> ById = All.ToDictionary(k => k.Id, StringComparer.Ordinal);

    /// <summary>The kind of a part that only one engine has.</summary>
    public static PartKind Of(OwnPart part) =>
        new($"own:{part.Code}", part.Code, "", part.Stratum, StationScope.Engine, []) { Own = part, Drawn = false };

    public static PartKind Get(string id) => ById[id];

    public static PartKind? Find(string id) => ById.GetValueOrDefault(id);
}
