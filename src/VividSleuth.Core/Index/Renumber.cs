using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Index;

/// <summary>An old address and the new one of the same place.</summary>
public sealed record Renumbered(string Old, string New);

/// <summary>
/// Number one at the other end, or another numbering scheme: every place keeps where it is in the engine and gets the address it
/// has in the new numbering. Nothing else changes: the metal does not move.
/// </summary>
public static class Renumber
{
    /// <summary>
    /// The layout of the same engine with another numbering. The firing order is told in the new numbers, from the new number one.
    /// </summary>
    /// <exception cref="ProblemException">The engine cannot be numbered so.</exception>
    public static EngineLayout Layout(EngineLayout old, CrankEnd numberOneEnd, NumberingScheme numbering, bool bankAOnTheLeft)
    {
        var sameOrder = old with { NumberOneEnd = numberOneEnd, Numbering = numbering, BankAOnTheLeft = bankAOnTheLeft };
        if (sameOrder == old)
        {
            throw new ProblemException(Problem.Of("numberOneEnd", "index.same-numbering"));
        }

        if (old.Arrangement == Arrangement.Flat && (numberOneEnd == old.NumberOneEnd) != (bankAOnTheLeft == old.BankAOnTheLeft))
        {
            throw new ProblemException(Problem.Of("bankAOnTheLeft", "index.flat-engine-bank-lies-nearer"));
        }

        var before = Engine.From(old);
        var after = Engine.From(sameOrder with { FiringOrder = [.. Enumerable.Range(1, old.Cylinders)] });
        var newNumber = before.Cylinders.ToDictionary(c => c.Number, c => Same(c, before, after));
        var order = old.FiringOrder.Select(n => newNumber[n]).ToList();
        var one = order.IndexOf(1);
        return sameOrder with { FiringOrder = [.. order.Skip(one), .. order.Take(one)] };
    }

    /// <summary>Old and new address of every place whose address changes, in the order of the old table.</summary>
    public static IReadOnlyList<Renumbered> Map(EngineLayout old, EngineLayout @new)
    {
        var (before, after) = (Engine.From(old), Engine.From(@new));
        var (from, to) = (new AddressTable(before), new AddressTable(after));
        return
        [
            .. from
                .All.Select(a => new Renumbered(
                    a.Code,
                    to.At(a.Kind.Id, Station(a.Kind.Scope, a.Station, before, after)).Single(b => b.Nth == a.Nth).Code
                ))
                .Where(r => r.Old != r.New),
        ];
    }

    /// <summary>The number that a cylinder, main, bank … has in the other numbering of the same engine.</summary>
    public static int Station(StationScope scope, int station, Engine before, Engine after)
    {
        var turned = before.Layout.NumberOneEnd != after.Layout.NumberOneEnd;
        return scope switch
        {
            StationScope.Cylinder => Same(before.Cylinder(station), before, after),
            StationScope.Crankpin => turned ? before.Crankpins + 1 - station : station,
            StationScope.Main => turned ? before.Mains + 1 - station : station,
            StationScope.Bank => BanksSwap(before, after) ? 3 - station : station,
            StationScope.Camshaft when before.Layout.IsOverhead && BanksSwap(before, after) => (
                (station - 1 + (before.Camshafts / 2)) % before.Camshafts
            ) + 1,
            _ => station,
        };
    }

    private static bool BanksSwap(Engine before, Engine after) => before.Banks == 2 && before.Layout.BankAOnTheLeft != after.Layout.BankAOnTheLeft;

    /// <summary>The number that the same bore has in the other numbering: same side, same place along the crankshaft.</summary>
    private static int Same(CylinderStation c, Engine before, Engine after) =>
        after.Cylinders.Single(d => OnTheLeft(d, after) == OnTheLeft(c, before) && FromTheFreeEnd(d, after) == FromTheFreeEnd(c, before)).Number;

    private static bool OnTheLeft(CylinderStation c, Engine engine) => engine.Banks == 1 || (c.Bank == Bank.A) == engine.Layout.BankAOnTheLeft;

    private static int FromTheFreeEnd(CylinderStation c, Engine engine) =>
        engine.Layout.NumberOneEnd == CrankEnd.FreeEnd ? c.Row : (engine.Layout.Cylinders / engine.Banks) - 1 - c.Row;
}
