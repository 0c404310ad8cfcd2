using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Engines;

/// <summary>A value at a place: a figure, or the level of what was seen.</summary>
public sealed record Placed(Address At, double Value);

/// <summary>
/// Where places lie along the crankshaft and along the oil, and whether what was found there grows that way. Order is that of the metal,
/// never that of the numbers: with banks numbered one after the other a difference of banks is no trend.
/// </summary>
public static class Along
{
    /// <summary>Where a place stands along the crankshaft, from the number-one end; places beside each other share a number.</summary>
    public static int Crank(Address at, Engine engine) =>
        at.Kind.Scope == StationScope.Cylinder
            ? engine.Layout.HasTwoBanks && engine.Layout.Arrangement == Arrangement.Vee
                ? engine.Cylinder(at.Station).Row
                : engine.Cylinder(at.Station).Crankpin
            : at.Station;

    /// <summary>Which stop of the oil feeds a place, from 0; null where the gallery does not.</summary>
    public static int? Oil(Address at, Engine engine)
    {
        return at.Kind.Stratum switch
        {
            Stratum.Main when at.Kind.Scope == StationScope.Main => Stop(BearingKind.Main, at.Station),
            Stratum.Crankpin when at.Kind.Scope == StationScope.Crankpin => Stop(BearingKind.Crankpin, at.Station),
            Stratum.BigEnd or Stratum.Rod when at.Kind.Scope == StationScope.Cylinder => Stop(
                BearingKind.Crankpin,
                engine.Cylinder(at.Station).Crankpin
            ),
            _ => null,
        };

        int? Stop(BearingKind kind, int number)
        {
            for (var i = 0; i < engine.OilRoute.Count; i++)
            {
                if (engine.OilRoute[i] == new OilStop(kind, number))
                {
                    return i;
                }
            }

            return null;
        }
    }

    /// <summary>Values in the order of the crankshaft, from the number-one end; of places beside each other bank A’s comes first.</summary>
    public static Placed[] Crank(IEnumerable<Placed> values, Engine engine) =>
        [.. values.OrderBy(v => Crank(v.At, engine)).ThenBy(v => BankOf(v.At, engine)).ThenBy(v => v.At.Code, StringComparer.Ordinal)];

    /// <summary>Values of places that the gallery feeds, in the order in which the oil comes.</summary>
    public static Placed[] Oil(IEnumerable<Placed> values, Engine engine) =>
        [.. values.Where(v => Oil(v.At, engine) is not null).OrderBy(v => Oil(v.At, engine)).ThenBy(v => v.At.Code, StringComparer.Ordinal)];

    /// <summary>Whether values grow or fall along the crankshaft (<see cref="RankTrend"/>); rising is away from the number-one end.</summary>
    /// <returns>Null with fewer than three values or when all are equal.</returns>
    public static TrendTest? CrankTrend(IEnumerable<Placed> values, Engine engine) => RankTrend.Of([.. Crank(values, engine).Select(v => v.Value)]);

    /// <summary>Whether values grow or fall along the oil; rising is later.</summary>
    /// <returns>Null with fewer than three values that the gallery feeds, or when all are equal.</returns>
    public static TrendTest? OilTrend(IEnumerable<Placed> values, Engine engine) => RankTrend.Of([.. Oil(values, engine).Select(v => v.Value)]);

    /// <summary>The end of the crankshaft toward which a trend grows.</summary>
    public static CrankEnd Toward(TrendTest trend, Engine engine) =>
        (trend.S > 0) == (engine.Layout.NumberOneEnd == CrankEnd.FreeEnd) ? CrankEnd.DriveEnd : CrankEnd.FreeEnd;

    public static Bank BankOf(Address place, Engine engine) =>
        place.Kind.Scope switch
        {
            StationScope.Cylinder => engine.Cylinder(place.Station).Bank,
            StationScope.Bank => place.Station == 2 ? Bank.B : Bank.A,
            StationScope.Camshaft => place.Station > engine.Camshafts / engine.Banks ? Bank.B : Bank.A,
            _ => Bank.A,
        };
}
