namespace VividSleuth.Core.Engines;

/// <summary>Bank A carries number one; an engine with one bank has only bank A.</summary>
public enum Bank
{
    A,
    B,
}

/// <summary>A side of the engine as someone sees it who stands at the free end.</summary>
public enum Side
{
    Left,
    Right,
    Top,
    Bottom,
}

/// <summary>One cylinder and what follows from its number.</summary>
/// <param name="Number">Cylinder number, from 1.</param>
/// <param name="Bank">The bank it stands in.</param>
/// <param name="Row">Place along its bank, 0 at the number-one end.</param>
/// <param name="Crankpin">Number of the crankpin its rod runs on, from 1 at the number-one end.</param>
/// <param name="FlankingMains">The main bearings next to that crankpin, the one nearer number one first.</param>
/// <param name="FiringAngle">Crank angle in degrees at which it fires, the first of the firing order at 0; even where the layout does not tell.</param>
/// <param name="MajorThrustSide">The bore wall that carries the piston on the power stroke.</param>
public sealed record CylinderStation(
    int Number,
    Bank Bank,
    int Row,
    int Crankpin,
    IReadOnlyList<int> FlankingMains,
    double FiringAngle,
    Side MajorThrustSide
);

public enum BearingKind
{
    Main,
    Crankpin,
}

/// <summary>A stop of the oil on its way along the crankshaft.</summary>
public sealed record OilStop(BearingKind Kind, int Number);

/// <summary>
/// The engine as its layout determines it: stations along the crankshaft, banks, phases, companions, thrust sides and the
/// order in which oil reaches the bearings. Immutable; made once per layout.
/// </summary>
public sealed class Engine
{
    private readonly Dictionary<int, CylinderStation> _byNumber;

    private Engine(EngineLayout layout)
    {
        Layout = layout;
        Crankpins = EngineLayout.CrankpinCount(layout.Arrangement, layout.Cylinders);
        Mains = layout.MainCount;
        Cylinders = Enumerable.Range(1, layout.Cylinders).Select(Station).ToArray();
        _byNumber = Cylinders.ToDictionary(c => c.Number);
        OilRoute = RouteOil();
    }

    public EngineLayout Layout { get; }

    public int Crankpins { get; }

    public int Mains { get; }

    public int Banks => Layout.HasTwoBanks ? 2 : 1;

    /// <summary>Camshafts, bank A's first and of each head the inlet's first; none of a two-stroke that has no valves.</summary>
    public int Camshafts =>
        (Layout.Cycle, Layout.ValveGear) switch
        {
            (WorkingCycle.TwoStroke, _) when !Layout.Uniflow => 0,
            (_, ValveGear.Side or ValveGear.Pushrod) => 1,
            (_, ValveGear.Overhead) => Banks,
            (_, ValveGear.TwinOverhead) => 2 * Banks,
            _ => throw new InvalidOperationException("No such valve gear."),
        };

    /// <summary>All cylinders in the order of their numbers.</summary>
    public IReadOnlyList<CylinderStation> Cylinders { get; }

    /// <summary>
    /// The order in which the gallery feeds the bearings: main by main from the feed end, each crankpin after the main that
    /// feeds it. A crankpin is taken to be drilled from the main on its feed side; common practice, no source: the maker's
    /// drawing comes first. Empty where the bearings are rolling ones, which live on splash or mist.
    /// </summary>
    public IReadOnlyList<OilStop> OilRoute { get; }

    /// <exception cref="ProblemException">The layout is impossible; the problems say why.</exception>
    public static Engine From(EngineLayout layout)
    {
        var problems = layout.Check();
        return problems.Count > 0 ? throw new ProblemException(problems) : new Engine(layout);
    }

    public CylinderStation Cylinder(int number) => _byNumber[number];

    /// <summary>The cylinders whose rods share a crankpin, in the order of their numbers.</summary>
    public IEnumerable<CylinderStation> OnCrankpin(int crankpin) => Cylinders.Where(c => c.Crankpin == crankpin);

    /// <summary>Mains next to a crankpin, the one nearer number one first.</summary>
    public IReadOnlyList<int> MainsBeside(int crankpin)
    {
        if (Layout.MainsAfter is { } after)
        {
            // The last main before it, and the first after it.
            var next = Enumerable.Range(0, after.Count).First(i => after[i] >= crankpin);
            return [next, next + 1];
        }

        var bay = (crankpin - 1) * (Mains - 1) / Crankpins;
        return [bay + 1, bay + 2];
    }

    /// <summary>The cylinders before and after in the same bank.</summary>
    public IEnumerable<CylinderStation> Neighbours(int number)
    {
        var station = Cylinder(number);
        return Cylinders.Where(c => c.Bank == station.Bank && Math.Abs(c.Row - station.Row) == 1);
    }

    /// <summary>
    /// The cylinder whose piston moves with this one, half a cycle apart: of a four-stroke with an even number of cylinders,
    /// the one half-way round the firing order. Null where there is none.
    /// </summary>
    public CylinderStation? Companion(int number)
    {
        var order = Layout.FiringOrder;
        if (Layout.Cycle == WorkingCycle.TwoStroke || order.Count % 2 != 0)
        {
            return null;
        }

        var at = Enumerable.Range(0, order.Count).First(i => order[i] == number);
        return Cylinder(order[(at + (order.Count / 2)) % order.Count]);
    }

    /// <summary>Plain or rolling, where mains differ.</summary>
    public BearingType MainIs(int main) => Layout.MainTypes?[main - 1] ?? Layout.Bearings;

    /// <summary>Bearings that the oil reaches after the given one, in order; empty when it is not on the route.</summary>
    public IEnumerable<OilStop> Downstream(OilStop stop) => OilRoute.SkipWhile(s => s != stop).Skip(1);

    private CylinderStation Station(int number)
    {
        var (bank, row) = Layout.Numbering switch
        {
            NumberingScheme.AlongTheCrank => (Bank.A, number - 1),
            NumberingScheme.OddEven => (number % 2 == 1 ? Bank.A : Bank.B, (number - 1) / 2),
            NumberingScheme.BankAfterBank => number <= Layout.Cylinders / 2 ? (Bank.A, number - 1) : (Bank.B, number - 1 - (Layout.Cylinders / 2)),
            _ => throw new ArgumentOutOfRangeException(nameof(number)),
        };
        var crankpin = Layout.Arrangement switch
        {
            Arrangement.Flat => (2 * row) + (bank == Bank.A ? 1 : 2),
            _ => row + 1,
        };
        var place = Enumerable.Range(0, Layout.Cylinders).First(i => Layout.FiringOrder[i] == number);
        var angle = Layout.FiringAngles?[place] ?? (double)Layout.CycleDegrees / Layout.Cylinders * place;
        return new CylinderStation(number, bank, row, crankpin, MainsBeside(crankpin), angle, ThrustSide(bank));
    }

    /// <summary>
    /// On the power stroke the crankpin has left top dead centre in the sense of rotation, the rod leans that way, and its
    /// reaction presses the piston the other way: a quarter turn against the rotation from the cylinder's axis. Any dynamics text.
    /// </summary>
    private Side ThrustSide(Bank bank)
    {
        var againstClockwise = Layout.Rotation == Rotation.Clockwise;
        if (Layout.Arrangement != Arrangement.Flat)
        {
            return againstClockwise ? Side.Left : Side.Right;
        }

        var onTheLeft = (bank == Bank.A) == Layout.BankAOnTheLeft;
        return onTheLeft == againstClockwise ? Side.Bottom : Side.Top;
    }

    private List<OilStop> RouteOil()
    {
        var fromOne = Layout.OilFeedEnd == Layout.NumberOneEnd;
        var mains = Enumerable.Range(1, Mains);
        var pins = Enumerable.Range(1, Crankpins);
        var route = new List<OilStop>();
        foreach (var main in fromOne ? mains : mains.Reverse())
        {
            if (MainIs(main) == BearingType.Rolling)
            {
                continue;
            }

            route.Add(new OilStop(BearingKind.Main, main));
            var fed = pins.Where(p => Layout.BigEnds == BearingType.Plain && FeederOf(p) == main);
            route.AddRange((fromOne ? fed : fed.Reverse()).Select(p => new OilStop(BearingKind.Crankpin, p)));
        }

        return route;

        // The main on the feed side of the pin; where that one rolls, the other.
        int FeederOf(int pin)
        {
            var beside = MainsBeside(pin);
            var (near, far) = fromOne ? (beside[0], beside[1]) : (beside[1], beside[0]);
            return MainIs(near) == BearingType.Plain ? near : far;
        }
    }
}
