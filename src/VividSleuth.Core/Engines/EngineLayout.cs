using System.Text.Json.Serialization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Engines;

public enum Arrangement
{
    Single,
    Inline,
    Vee,
    Flat,
}

public enum WorkingCycle
{
    FourStroke,
    TwoStroke,
}

/// <summary>Big-end and main bearings: plain shells fed with oil, or balls, rollers and needles.</summary>
public enum BearingType
{
    Plain,
    Rolling,
}

/// <summary>Where the camshafts are and what opens the valves of a four-stroke.</summary>
public enum ValveGear
{
    /// <summary>Valves beside the bore, opened by lifters from a camshaft in the block.</summary>
    Side,

    /// <summary>Valves in the head, camshaft in the block, pushrods and rockers between.</summary>
    Pushrod,

    /// <summary>One camshaft in each head.</summary>
    Overhead,

    /// <summary>Two camshafts in each head, inlet and exhaust.</summary>
    TwinOverhead,
}

public enum FuelSystem
{
    /// <summary>Spark ignition, mixture from a carburettor.</summary>
    Carburettor,

    /// <summary>Spark ignition, fuel injected.</summary>
    Injected,

    /// <summary>Compression ignition.</summary>
    Diesel,

    /// <summary>Spark ignition, gas from a mixer.</summary>
    Gas,
}

/// <summary>How a diesel gets its fuel in.</summary>
public enum DieselFeed
{
    /// <summary>A pump with an element to each cylinder, or a distributor, and a line to each injector.</summary>
    PumpAndLines,

    /// <summary>Pump and injector in one, driven by a lobe.</summary>
    UnitInjectors,

    /// <summary>One pump, one rail.</summary>
    CommonRail,
}

/// <summary>What drives the camshafts.</summary>
public enum CamDrive
{
    Chain,
    Belt,
    Gears,

    /// <summary>A bevel shaft.</summary>
    Shaft,
}

public enum BoreBuild
{
    /// <summary>In the metal of the block.</summary>
    Parent,

    /// <summary>A sleeve pressed into a bored block; coolant does not touch it.</summary>
    DryLiner,

    /// <summary>A sleeve that stands in the coolant, on seals.</summary>
    WetLiner,

    /// <summary>Cylinders that come off the case one by one.</summary>
    Barrel,
}

/// <summary>What a bore or a ring is made of, by how far it grows with heat.</summary>
public enum Metal
{
    CastIron,
    Steel,

    /// <summary>Bare or plated: the plating grows with what is under it.</summary>
    Aluminium,
}

/// <summary>How a surface that something runs on was made; it decides who may machine it.</summary>
public enum RunningSurface
{
    /// <summary>As cut: machined like any.</summary>
    Plain,

    InductionHardened,
    Nitrided,
    RolledFillets,
    Chromed,

    /// <summary>Nickel and silicon carbide, or sprayed.</summary>
    Plated,
}

public enum CrankBuild
{
    /// <summary>Forged or cast in one: each rod has a cap.</summary>
    OnePiece,

    /// <summary>Pressed together of webs and pins: the rods are in one piece and stay on it.</summary>
    Built,
}

public enum Charging
{
    None,
    Turbocharger,

    /// <summary>Driven by the crankshaft: the blower of a large two-stroke, or a supercharger.</summary>
    Blower,
}

/// <summary>What carries the drive from the crankshaft to a gearbox in the same case.</summary>
public enum PrimaryDrive
{
    Gears,
    Chain,
    Belt,
}

/// <summary>What a small engine has at which end; null where it is at its usual one.</summary>
public sealed record EngineEnds
{
    /// <summary>The drive end, unless told otherwise.</summary>
    public CrankEnd? Flywheel { get; init; }

    /// <summary>The drive end, unless told otherwise.</summary>
    public CrankEnd? Clutch { get; init; }

    /// <summary>The free end, unless told otherwise.</summary>
    public CrankEnd? Timing { get; init; }

    /// <summary>Recoil or starter; the free end, unless told otherwise.</summary>
    public CrankEnd? Starter { get; init; }

    /// <summary>Where something hangs. A pulley hangs where the flywheel does not.</summary>
    public CrankEnd Of(EndHung what) =>
        what switch
        {
            EndHung.Flywheel => Flywheel ?? CrankEnd.DriveEnd,
            EndHung.Clutch => Clutch ?? CrankEnd.DriveEnd,
            EndHung.Timing => Timing ?? CrankEnd.FreeEnd,
            EndHung.Starter => Starter ?? CrankEnd.FreeEnd,
            EndHung.Pulley => Of(EndHung.Flywheel) == CrankEnd.DriveEnd ? CrankEnd.FreeEnd : CrankEnd.DriveEnd,
            _ => throw new ArgumentOutOfRangeException(nameof(what), what, null),
        };
}

/// <summary>What hangs on one end of the crankshaft or the other.</summary>
public enum EndHung
{
    Flywheel,
    Clutch,
    Timing,
    Starter,
    Pulley,
}

/// <summary>A part that nobody foresaw, or one of an earlier layout that something was recorded on: it has a place of its own.</summary>
/// <param name="Code">Its address, as it stands on the tag.</param>
/// <param name="Name">What the mechanic calls it.</param>
public sealed record OwnPart(string Code, string Name)
{
    /// <summary>Kind of part whose signs and measures serve for it too.</summary>
    public required string Like { get; init; }

    /// <summary>Addresses of what it runs with or was machined with.</summary>
    public IReadOnlyList<string> Mates { get; init; } = [];

    public Stratum Stratum { get; init; } = Stratum.Accessories;

    /// <summary>True where a change of the layout left it: the engine has no such part, but something was recorded on it.</summary>
    public bool Left { get; init; }
}

public enum Cooling
{
    Liquid,
    Air,
}

/// <summary>How the crankshaft is let in.</summary>
public enum CaseBuild
{
    /// <summary>A block or case in one piece, with caps or a cover.</summary>
    Block,

    /// <summary>Two halves that part at the crankshaft.</summary>
    Split,
}

public enum NumberingScheme
{
    /// <summary>1, 2, 3 … from the number-one end; the only scheme of an engine with one bank.</summary>
    AlongTheCrank,

    /// <summary>Odd numbers on bank A, even ones on bank B.</summary>
    OddEven,

    /// <summary>Bank A from end to end, then bank B.</summary>
    BankAfterBank,
}

/// <summary>The drive end carries the flywheel or coupling; the free end is the other one.</summary>
public enum CrankEnd
{
    FreeEnd,
    DriveEnd,
}

/// <summary>Sense of the crankshaft's rotation, seen by someone who stands at the free end.</summary>
public enum Rotation
{
    Clockwise,
    Anticlockwise,
}

/// <summary>What must be settled and written down before a bolt is turned: everything else is derived from it.</summary>
public sealed record EngineLayout
{
    public const int MostCylinders = 24;
    public const int MostRings = 5;
    public const int MostOwnParts = 200;

    public required Arrangement Arrangement { get; init; }

    public required int Cylinders { get; init; }

    public required WorkingCycle Cycle { get; init; }

    public required BearingType Bearings { get; init; }

    public NumberingScheme Numbering { get; init; } = NumberingScheme.AlongTheCrank;

    public CrankEnd NumberOneEnd { get; init; } = CrankEnd.FreeEnd;

    public Rotation Rotation { get; init; } = Rotation.Clockwise;

    /// <summary>Cylinder numbers in the order in which they fire.</summary>
    public required IReadOnlyList<int> FiringOrder { get; init; }

    /// <summary>Number of main bearings; null takes the usual one for the arrangement.</summary>
    public int? Mains { get; init; }

    /// <summary>
    /// Where the mains are: of each, after how many crankpins from number one it stands, in order. 0, 2, 4 are the three mains of a four with pairs of
    /// pins between; 0, 0, 2, 4 has two before the first pin. Null spreads them evenly.
    /// </summary>
    public IReadOnlyList<int>? MainsAfter { get; init; }

    /// <summary>Plain or rolling, main by main from number one; null where all are alike.</summary>
    public IReadOnlyList<BearingType>? MainTypes { get; init; }

    /// <summary>Big ends; null where they are of the kind of the mains. A capped plain rod on rolling mains is common in small engines.</summary>
    public BearingType? RodBearings { get; init; }

    /// <summary>Null takes the usual: built where big ends roll.</summary>
    public CrankBuild? Crank { get; init; }

    /// <summary>Angle between the banks in degrees; only of a vee.</summary>
    public double? BankAngle { get; init; }

    /// <summary>Bank A carries number one. True when it lies on the left of someone who stands at the free end.</summary>
    public bool BankAOnTheLeft { get; init; } = true;

    /// <summary>The end at which the pump feeds the main gallery.</summary>
    public CrankEnd OilFeedEnd { get; init; } = CrankEnd.FreeEnd;

    /// <summary>All rings of a piston, 1 to 5, oil rings among them.</summary>
    public int RingsPerPiston { get; init; } = 3;

    /// <summary>How many of them are oil rings; null takes the usual: one of three or more in a four-stroke, none in a two-stroke.</summary>
    public int? OilRings { get; init; }

    public ValveGear ValveGear { get; init; } = ValveGear.Pushrod;

    public int InletValves { get; init; } = 1;

    public int ExhaustValves { get; init; } = 1;

    /// <summary>Null where nobody told: places of a chain, and of gears in a diesel, are there.</summary>
    public CamDrive? CamDrive { get; init; }

    /// <summary>
    /// Teeth of the gears from the crankshaft's over the idlers to the camshaft's; from them it is told when their marks meet again. Empty where nobody
    /// counted.
    /// </summary>
    public IReadOnlyList<int> GearTeeth { get; init; } = [];

    /// <summary>Camshafts are turned against their wheels while it runs; null where nobody told, and two camshafts in a head have places for it.</summary>
    public bool? CamPhasers { get; init; }

    /// <summary>Null where nobody told: a four-stroke has a place for one.</summary>
    public int? BalanceShafts { get; init; }

    /// <summary>A two-stroke scavenged from ports to exhaust valves in the head, by a blower: it has a camshaft.</summary>
    public bool Uniflow { get; init; }

    public FuelSystem Fuel { get; init; } = FuelSystem.Carburettor;

    /// <summary>Only of a diesel; null where nobody told, and it is taken for pump and lines.</summary>
    public DieselFeed? Feed { get; init; }

    /// <summary>Null where nobody told: a diesel has a place for a turbocharger.</summary>
    public Charging? Charging { get; init; }

    /// <summary>Jets that spray oil under the pistons; null where nobody told: a diesel has places for them.</summary>
    public bool? OilJets { get; init; }

    public int ReliefValves { get; init; } = 1;

    /// <summary>Null where nobody told: barrels where it is cooled by air, wet liners in a diesel, else the metal of the block.</summary>
    public BoreBuild? Bores { get; init; }

    /// <summary>What grows where the rings run; null where nobody told, and it is taken for cast iron.</summary>
    public Metal? BoreMetal { get; init; }

    /// <summary>Null where nobody told, and it is taken for cast iron.</summary>
    public Metal? RingMetal { get; init; }

    /// <summary>How the crankshaft's journals were made; null where nobody told.</summary>
    public RunningSurface? JournalSurface { get; init; }

    /// <summary>How the bores were made; null where nobody told.</summary>
    public RunningSurface? BoreSurface { get; init; }

    /// <summary>
    /// Crank angle at which each cylinder of the firing order fires, in degrees from the first, which is 0; null where intervals are even.
    /// </summary>
    public IReadOnlyList<double>? FiringAngles { get; init; }

    public Cooling Cooling { get; init; } = Cooling.Liquid;

    public CaseBuild Case { get; init; } = CaseBuild.Block;

    /// <summary>A gearbox and its clutch live in the same case.</summary>
    public bool GearboxInCase { get; init; }

    /// <summary>Only with a gearbox in the same case; null where nobody told, and it is taken for gears.</summary>
    public PrimaryDrive? Primary { get; init; }

    public bool KickStart { get; init; }

    public EngineEnds Ends { get; init; } = new();

    public IReadOnlyList<OwnPart> OwnParts { get; init; } = [];

    /// <summary>
    /// Hour at which the exhaust port or valve lies, seen from the head with 12 o'clock toward the free end; null when nobody noted it.
    /// </summary>
    public int? ExhaustAt { get; init; }

    [JsonIgnore]
    public bool IsOverhead => ValveGear is ValveGear.Overhead or ValveGear.TwinOverhead;

    /// <summary>A four-stroke, or a two-stroke with exhaust valves in the head.</summary>
    [JsonIgnore]
    public bool HasValves => Cycle == WorkingCycle.FourStroke || Uniflow;

    [JsonIgnore]
    public BearingType BigEnds => RodBearings ?? Bearings;

    /// <summary>Of webs and pins pressed together; the rods have no caps.</summary>
    [JsonIgnore]
    public bool IsBuilt => (Crank ?? (BigEnds == BearingType.Rolling ? CrankBuild.Built : CrankBuild.OnePiece)) == CrankBuild.Built;

    [JsonIgnore]
    public int OilRingsPerPiston => OilRings ?? (Cycle == WorkingCycle.FourStroke && RingsPerPiston >= 3 ? 1 : 0);

    [JsonIgnore]
    public int CompressionRings => RingsPerPiston - OilRingsPerPiston;

    [JsonIgnore]
    public BoreBuild BoresAre =>
        Bores
        ?? (
            Cooling == Cooling.Air || (Cycle == WorkingCycle.TwoStroke && Case == CaseBuild.Split) ? BoreBuild.Barrel
            : Fuel == FuelSystem.Diesel ? BoreBuild.WetLiner
            : BoreBuild.Parent
        );

    [JsonIgnore]
    public bool HasTwoBanks => Arrangement is Arrangement.Vee or Arrangement.Flat;

    /// <summary>Degrees of crank rotation in one working cycle.</summary>
    [JsonIgnore]
    public int CycleDegrees => Cycle == WorkingCycle.FourStroke ? 720 : 360;

    /// <summary>Names every reason why no engine can be laid out so; empty when it can.</summary>
    public IReadOnlyList<Problem> Check()
    {
        var problems = new List<Problem>();
        void Add(Problem problem) => problems.Add(problem);

        if (Cylinders is < 1 or > MostCylinders)
        {
            Add(
                Problem.Of("layout.cylinders", "engines.engine-cylinders-cannot-laid-out", ("cylinders", Cylinders), ("mostCylinders", MostCylinders))
            );
            return problems;
        }

        if (Arrangement == Arrangement.Single && Cylinders != 1)
        {
            Add(Problem.Of("layout.cylinders", "engines.single-one-cylinder-not", ("cylinders", Cylinders)));
        }

        if (Arrangement != Arrangement.Single && Cylinders == 1)
        {
            Add(Problem.Of("layout.arrangement", "engines.one-cylinder-alone-single"));
        }

        if (HasTwoBanks && Cylinders % 2 != 0)
        {
            Add(Problem.Of("layout.cylinders", "engines.two-banks-cannot-share-cylinders", ("cylinders", Cylinders)));
        }

        if (HasTwoBanks == (Numbering == NumberingScheme.AlongTheCrank))
        {
            Add(Problem.Of("layout.numbering", HasTwoBanks ? "engines.two-banks-need-a-scheme" : "engines.scheme-needs-two-banks"));
        }

        if (BankAngle is { } angle && (Arrangement != Arrangement.Vee || angle is < 10 or > 170))
        {
            Add(
                Arrangement == Arrangement.Vee
                    ? Problem.Of("layout.bankAngle", "engines.vee-cannot-be-built", ("angle", new Number(angle, 1)))
                    : Problem.Of("layout.bankAngle", "engines.only-a-vee-has-an-angle")
            );
        }

        var pins = CrankpinCount(Arrangement, Cylinders);
        if (MainsAfter is null && Mains is { } mains && (mains < 2 || mains > pins + 1))
        {
            Add(Problem.Of("layout.mains", "engines.main-bearings-do-not-fit", ("mains", mains), ("pins", pins), ("pins2", pins + 1)));
        }

        CheckMains(pins, Add);
        CheckRings(Add);
        CheckDetails(Add);
        CheckOwnParts(Add);
        if (InletValves is < 1 or > 3 || ExhaustValves < 1 || ExhaustValves > (Uniflow ? 4 : 2))
        {
            Add(
                Problem.Of(
                    "layout.inletValves",
                    "engines.inlet-exhaust-valves-per-cylinder",
                    ("inletValves", InletValves),
                    ("exhaustValves", ExhaustValves)
                )
            );
        }

        if (ExhaustAt is < 1 or > 12)
        {
            Add(Problem.Of("layout.exhaustAt", "engines.there-o-clock", ("exhaustAt", ExhaustAt)));
        }

        CheckFiringOrder(Add);
        if (problems.Count == 0 && OwnParts.Count > 0)
        {
            var table = new AddressTable(Engine.From(this with { OwnParts = [] }));
            problems.AddRange(
                OwnParts
                    .Where(o => table.Find(o.Code) is not null)
                    .Select(o => Problem.Of("layout.ownParts", "engines.own-part-has-anothers-address", ("code", o.Code)))
            );
        }

        return problems;
    }

    internal static int CrankpinCount(Arrangement arrangement, int cylinders) =>
        arrangement == Arrangement.Vee ? Math.Max(1, cylinders / 2) : cylinders;

    private void CheckMains(int pins, Action<Problem> add)
    {
        if (MainsAfter is { } after)
        {
            var (least, most) = (2, pins + 3);
            if (Mains is { } mains && mains != after.Count)
            {
                add(Problem.Of("layout.mainsAfter", "engines.mains-and-their-places-differ", ("mains", mains), ("places", after.Count)));
            }
            else if (
                after.Count < least
                || after.Count > most
                || after[0] != 0
                || after[^1] != pins
                || after.Zip(after.Skip(1)).Any(p => p.First > p.Second)
            )
            {
                add(Problem.Of("layout.mainsAfter", "engines.mains-cannot-stand-so", ("pins", pins), ("least", least), ("most", most)));
            }
        }

        if (MainTypes is { } types && types.Count != MainCount)
        {
            add(Problem.Of("layout.mainTypes", "engines.mains-and-their-kinds-differ", ("mains", MainCount), ("kinds", types.Count)));
        }
    }

    private void CheckRings(Action<Problem> add)
    {
        if (RingsPerPiston is < 1 or > MostRings)
        {
            add(Problem.Of("layout.ringsPerPiston", "engines.rings-piston-not-supported", ("ringsPerPiston", RingsPerPiston), ("most", MostRings)));
        }
        else if (OilRings is { } oil && (oil is < 0 or > 2 || CompressionRings < 1 || CompressionRings > 4))
        {
            add(Problem.Of("layout.oilRings", "engines.oil-rings-do-not-fit", ("oilRings", oil), ("ringsPerPiston", RingsPerPiston)));
        }
    }

    private void CheckDetails(Action<Problem> add)
    {
        void Need(bool holds, string field, string code, params IReadOnlyList<(string Name, object? Value)> with)
        {
            if (!holds)
            {
                add(Problem.Of($"layout.{field}", code, with));
            }
        }

        Need(!Uniflow || Cycle == WorkingCycle.TwoStroke, "uniflow", "engines.only-a-two-stroke-is-uniflow");
        Need(Feed is null || Fuel == FuelSystem.Diesel, "feed", "engines.only-a-diesel-is-fed-so");
        Need(CamDrive is null || HasValves, "camDrive", "engines.no-camshaft-to-drive");
        Need(CamPhasers is not true || IsOverhead, "camPhasers", "engines.phasers-need-overhead-camshafts");
        Need(
            BalanceShafts is null or (>= 0 and <= 4),
            "balanceShafts",
            "engines.balance-shafts-cannot-be",
            ("balanceShafts", BalanceShafts),
            ("most", 4)
        );
        Need(ReliefValves is >= 1 and <= 4, "reliefValves", "engines.relief-valves-cannot-be", ("reliefValves", ReliefValves), ("most", 4));
        Need(Bores != BoreBuild.WetLiner || Cooling == Cooling.Liquid, "bores", "engines.wet-liners-need-coolant");
        Need(Primary is null || GearboxInCase, "primary", "engines.primary-drive-needs-a-gearbox");
        Need(
            GearTeeth.Count is 0 or (>= 2 and <= 8) && GearTeeth.All(t => t is >= 8 and <= 400),
            "gearTeeth",
            "engines.teeth-cannot-be",
            ("least", 8),
            ("most", 400)
        );
        Need(
            FiringAngles is null
                || (
                    FiringAngles.Count == Cylinders
                    && FiringAngles[0] == 0
                    && FiringAngles[^1] < CycleDegrees
                    && FiringAngles.Zip(FiringAngles.Skip(1)).All(p => p.First <= p.Second)
                ),
            "firingAngles",
            "engines.firing-angles-cannot-be",
            ("cylinders", Cylinders),
            ("cycle", CycleDegrees)
        );
    }

    private void CheckOwnParts(Action<Problem> add)
    {
        if (OwnParts.Count(o => !o.Left) > MostOwnParts)
        {
            add(Problem.Of("layout.ownParts", "engines.too-many-own-parts", ("most", MostOwnParts)));
        }

        foreach (var own in OwnParts)
        {
            if (!Address.Pattern().IsMatch(own.Code))
            {
                add(Problem.Of("layout.ownParts", "engines.own-part-needs-an-address", ("code", own.Code)));
            }

            if (!own.Left && string.IsNullOrWhiteSpace(own.Name))
            {
                add(Problem.Of("layout.ownParts", "engines.own-part-needs-a-name", ("code", own.Code)));
            }

            if (PartKinds.Find(own.Like) is null)
            {
                add(Problem.Of("layout.ownParts", "engines.own-part-is-like-nothing", ("code", own.Code), ("like", own.Like)));
            }
        }

        foreach (var twice in OwnParts.GroupBy(o => o.Code, StringComparer.OrdinalIgnoreCase).Where(g => g.Count() > 1))
        {
            add(Problem.Of("layout.ownParts", "engines.own-part-twice", ("code", twice.Key)));
        }
    }

    internal int MainCount =>
        MainsAfter?.Count
        ?? Mains
        ?? Arrangement switch
        {
            Arrangement.Single => 2,
            Arrangement.Inline => Cylinders + 1,
            _ => (Cylinders / 2) + 1,
        };

    private void CheckFiringOrder(Action<Problem> add)
    {
        void Wrong(string code, int[] which)
        {
            if (which.Length > 0)
            {
                add(
                    new Problem(
                        "layout.firingOrder",
                        Fact.Of(code, ("cylinders", which)),
                        Fact.Of("engines.each-number-once", ("cylinders", Cylinders))
                    )
                );
            }
        }

        var outside = FiringOrder.Where(n => n < 1 || n > Cylinders).Distinct().ToArray();
        Wrong("engines.firing-order-names-none", outside);
        Wrong("engines.firing-order-repeats", [.. FiringOrder.GroupBy(n => n).Where(g => g.Count() > 1).Select(g => g.Key).Except(outside)]);
        Wrong("engines.firing-order-misses", [.. Enumerable.Range(1, Cylinders).Except(FiringOrder)]);
    }
}
