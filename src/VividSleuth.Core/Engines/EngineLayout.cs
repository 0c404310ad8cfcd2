using System.Text.Json.Serialization;

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
        void Add(string field, string text, string remedy) => problems.Add(new Problem(field, text, remedy));

        if (Cylinders is < 1 or > MostCylinders)
        {
            Add("layout.cylinders", $"An engine of {Cylinders} cylinders cannot be laid out.", $"Give 1 to {MostCylinders}.");
            return problems;
        }

        if (Arrangement == Arrangement.Single && Cylinders != 1)
        {
            Add("layout.cylinders", $"A single has one cylinder, not {Cylinders}.", "Choose inline, vee or flat, or give 1.");
        }

        if (Arrangement != Arrangement.Single && Cylinders == 1)
        {
            Add("layout.arrangement", "One cylinder alone is a single.", "Choose single, or give more cylinders.");
        }

        if (HasTwoBanks && Cylinders % 2 != 0)
        {
            Add("layout.cylinders", $"Two banks cannot share {Cylinders} cylinders evenly.", "Give an even number of cylinders.");
        }

        if (HasTwoBanks == (Numbering == NumberingScheme.AlongTheCrank))
        {
            Add(
                "layout.numbering",
                HasTwoBanks
                    ? "Two banks need a scheme that says which bank a number is on."
                    : "Odd-and-even or bank-after-bank numbering needs two banks.",
                HasTwoBanks ? "Choose odd/even or bank after bank." : "Choose numbering along the crank."
            );
        }

        if (BankAngle is { } angle && (Arrangement != Arrangement.Vee || angle is < 10 or > 170))
        {
            Add(
                "layout.bankAngle",
                Arrangement == Arrangement.Vee ? $"A vee of {angle}° cannot be built." : "Only a vee has an angle between its banks.",
                Arrangement == Arrangement.Vee ? "Give an angle between 10° and 170°." : "Leave the bank angle empty."
            );
        }

        var pins = CrankpinCount(Arrangement, Cylinders);
        if (Mains is { } mains && (mains < 2 || mains > pins + 1))
        {
            Add(
                "layout.mains",
                $"{mains} main bearings do not fit {pins} crankpins.",
                $"Give 2 to {pins + 1}, or leave it empty for the usual number."
            );
        }

        if (RingsPerPiston is < 1 or > 3)
        {
            Add("layout.ringsPerPiston", $"{RingsPerPiston} rings on a piston are not supported.", "Give 1, 2 or 3.");
        }

        if (InletValves is < 1 or > 3 || ExhaustValves is < 1 or > 2)
        {
            Add(
                "layout.inletValves",
                $"{InletValves} inlet and {ExhaustValves} exhaust valves per cylinder are not supported.",
                "Give 1 to 3 inlet and 1 or 2 exhaust valves."
            );
        }

        if (ExhaustAt is < 1 or > 12)
        {
            Add("layout.exhaustAt", $"There is no {ExhaustAt} o'clock.", "Give an hour from 1 to 12, or leave it empty.");
        }

        CheckFiringOrder(Add);
        return problems;
    }

    internal static int CrankpinCount(Arrangement arrangement, int cylinders) =>
        arrangement == Arrangement.Vee ? Math.Max(1, cylinders / 2) : cylinders;

    private void CheckFiringOrder(Action<string, string, string> add)
    {
        const string Field = "layout.firingOrder";
        var remedy = $"Give each number from 1 to {Cylinders} once.";
        var outside = FiringOrder.Where(n => n < 1 || n > Cylinders).Distinct().ToArray();
        if (outside.Length > 0)
        {
            add(Field, $"The firing order names cylinder {Listed(outside)}, which this engine does not have.", remedy);
        }

        var repeated = FiringOrder.GroupBy(n => n).Where(g => g.Count() > 1).Select(g => g.Key).Except(outside).ToArray();
        if (repeated.Length > 0)
        {
            add(Field, $"The firing order repeats cylinder {Listed(repeated)}.", remedy);
        }

        var missing = Enumerable.Range(1, Cylinders).Except(FiringOrder).ToArray();
        if (missing.Length > 0)
        {
            add(Field, $"The firing order misses cylinder {Listed(missing)}.", remedy);
        }
    }

    private static string Listed(IEnumerable<int> numbers) => string.Join(", ", numbers);
}
