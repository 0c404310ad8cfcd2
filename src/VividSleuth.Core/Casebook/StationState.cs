using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Casebook;

/// <summary>A cylinder, a main bearing or a bank with all that belongs to it, and how bad it is beside the others of the engine.</summary>
/// <param name="Scope">Cylinder, Main or Bank.</param>
/// <param name="Bank">Of a cylinder; of a bank, itself; bank A of a main.</param>
/// <param name="Places">In the order of the strata. A crankpin belongs to every cylinder whose rod runs on it.</param>
/// <param name="Severe">Findings of level 3 that stand.</param>
/// <param name="Moderate">Findings of level 2.</param>
/// <param name="Slight">Findings of level 1.</param>
/// <param name="Outside">Figures outside their limit.</param>
/// <param name="Share">Largest share of a limit used up; null without one.</param>
/// <param name="Unread">Places that are laid open and that nobody looked at.</param>
/// <param name="Worst">Address of its worst part; empty where nothing was found on any.</param>
/// <param name="Rank">1 is the worst of its scope; equal ones share it. Null where nothing was found or measured.</param>
public sealed record StationState(
    StationScope Scope,
    int Number,
    Bank Bank,
    IReadOnlyList<string> Places,
    int Severe,
    int Moderate,
    int Slight,
    int Outside,
    double? Share,
    int Unread,
    string Worst,
    int? Rank
)
{
    /// <summary>
    /// All stations, the worst of each scope first: by what is severe, then by figures outside, then by what is moderate, slight, and by how much of a
    /// limit is used up. Common practice, no source: what a mechanic lays out to be looked at first.
    /// </summary>
    public static IReadOnlyList<StationState> Of(
        AddressTable table,
        IReadOnlyList<PlaceState> places,
        IReadOnlyList<Finding> findings,
        IReadOnlyList<SheetFigure> figures
    )
    {
        var states = places.ToDictionary(p => p.Place, StringComparer.Ordinal);
        var seen = findings.Where(f => f.Stands() && f.Seen == Seen.Present).ToLookup(f => f.Place, StringComparer.Ordinal);
        var outside = figures.Where(f => f.Conformity == Conformity.Outside).ToLookup(f => f.Place, StringComparer.Ordinal);
        return
        [
            .. Stations(table)
                .Select(s =>
                {
                    var of = s.Places.ConvertAll(p => states[p]);
                    var levels = s.Places.SelectMany(p => seen[p]).Select(f => f.Level).ToArray();
                    var worst = of.Where(p => p.Damage > 0 || p.Share is not null || outside.Contains(p.Place))
                        .OrderByDescending(p => p.Damage ?? 0)
                        .ThenByDescending(p => outside[p.Place].Count())
                        .ThenByDescending(p => p.Share)
                        .FirstOrDefault();
                    return new StationState(
                        s.Scope,
                        s.Number,
                        s.Bank,
                        s.Places,
                        levels.Count(l => l == 3),
                        levels.Count(l => l == 2),
                        levels.Count(l => l == 1),
                        s.Places.Sum(p => outside[p].Count()),
                        of.Max(p => p.Share),
                        of.Count(p => p.Appears && p.Damage is null),
                        worst?.Place ?? "",
                        Rank: null
                    );
                })
                .GroupBy(s => s.Scope)
                .SelectMany(Ranked),
        ];
    }

    private (int, int, int, int, double) Badness => (Severe, Outside, Moderate, Slight, Share ?? 0);

    private static IEnumerable<StationState> Ranked(IEnumerable<StationState> of)
    {
        var sorted = of.OrderByDescending(s => s.Badness).ThenBy(s => s.Number).ToArray();
        return sorted.Select(s => s.Worst.Length == 0 ? s : s with { Rank = 1 + sorted.Count(o => o.Badness.CompareTo(s.Badness) > 0) });
    }

    private static IEnumerable<(StationScope Scope, int Number, Bank Bank, List<string> Places)> Stations(AddressTable table)
    {
        var engine = table.Engine;
        List<string> Places(Func<Address, bool> of) => [.. table.All.Where(of).Select(a => a.Code)];
        bool On(Address a, int cylinder) =>
            (a.Kind.Scope == StationScope.Cylinder && a.Station == cylinder)
            || (a.Kind.Scope == StationScope.Crankpin && a.Station == engine.Cylinder(cylinder).Crankpin);

        for (var n = 1; n <= engine.Layout.Cylinders; n++)
        {
            yield return (StationScope.Cylinder, n, engine.Cylinder(n).Bank, Places(a => On(a, n)));
        }

        for (var n = 1; n <= engine.Mains; n++)
        {
            yield return (StationScope.Main, n, Bank.A, Places(a => a.Kind.Scope == StationScope.Main && a.Station == n));
        }

        if (!engine.Layout.HasTwoBanks)
        {
            yield break;
        }

        foreach (var bank in new[] { Bank.A, Bank.B })
        {
            yield return (
                StationScope.Bank,
                bank == Bank.A ? 1 : 2,
                bank,
                Places(a => a.Kind.Scope is StationScope.Cylinder or StationScope.Bank or StationScope.Camshaft && Along.BankOf(a, engine) == bank)
            );
        }
    }
}
