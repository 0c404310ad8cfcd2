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
    /// <summary>Spark ignition, mixture from a carburettor or mixer.</summary>
    Carburettor,

    /// <summary>Spark ignition, fuel injected.</summary>
    Injected,

    /// <summary>Compression ignition.</summary>
    Diesel,
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

    /// <summary>Angle between the banks in degrees; only of a vee.</summary>
    public double? BankAngle { get; init; }

    /// <summary>Bank A carries number one. True when it lies on the left of someone who stands at the free end.</summary>
    public bool BankAOnTheLeft { get; init; } = true;

    /// <summary>The end at which the pump feeds the main gallery.</summary>
    public CrankEnd OilFeedEnd { get; init; } = CrankEnd.FreeEnd;

    public int RingsPerPiston { get; init; } = 3;

    public ValveGear ValveGear { get; init; } = ValveGear.Pushrod;

    public int InletValves { get; init; } = 1;

    public int ExhaustValves { get; init; } = 1;

    public FuelSystem Fuel { get; init; } = FuelSystem.Carburettor;

    public Cooling Cooling { get; init; } = Cooling.Liquid;

    public CaseBuild Case { get; init; } = CaseBuild.Block;

    /// <summary>A gearbox and its clutch live in the same case.</summary>
    public bool GearboxInCase { get; init; }

    /// <summary>
    /// Hour at which the exhaust port or valve lies, seen from the head with 12 o'clock toward the free end; null when nobody noted it.
    /// </summary>
    public int? ExhaustAt { get; init; }

    [JsonIgnore]
    public bool IsOverhead => ValveGear is ValveGear.Overhead or ValveGear.TwinOverhead;

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
        if (Mains is { } mains && (mains < 2 || mains > pins + 1))
        {
            Add(Problem.Of("layout.mains", "engines.main-bearings-do-not-fit", ("mains", mains), ("pins", pins), ("pins2", pins + 1)));
        }

        if (RingsPerPiston is < 1 or > 3)
        {
            Add(Problem.Of("layout.ringsPerPiston", "engines.rings-piston-not-supported", ("ringsPerPiston", RingsPerPiston)));
        }

        if (InletValves is < 1 or > 3 || ExhaustValves is < 1 or > 2)
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
        return problems;
    }

    internal static int CrankpinCount(Arrangement arrangement, int cylinders) =>
        arrangement == Arrangement.Vee ? Math.Max(1, cylinders / 2) : cylinders;

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
