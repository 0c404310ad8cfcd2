using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>
/// Shares lines out among suppliers: the least money with freight, the soonest, or the fewest parcels. With freight once for each supplier this is the
/// uncapacitated facility location problem (any text on integer programming); a shop has so few suppliers that every choice of them is tried.
/// </summary>
public static class LeastOrder
{
    /// <summary>Suppliers up to which every choice of them is tried.</summary>
    public const int MostTried = 12;

    /// <summary>Suppliers that are looked at for one order: those with the most offers.</summary>
    private const int MostSuppliers = 60;

    private sealed record Bid(SupplyOffer Offer, int Packs, decimal Cost);

    /// <param name="lines">Lines that are not ordered yet, with how many pieces each needs.</param>
    /// <param name="offersOf">Offers that would do for a line.</param>
    /// <param name="freight">What a parcel of a supplier costs, in the base currency; null where no rate is known, and nothing is taken of it.</param>
    /// <returns>Nothing where no line has an offer. Lines without one are in none of the ways.</returns>
    public static IReadOnlyList<OrderSplit> Of(
        IReadOnlyList<(Guid Line, decimal Quantity)> lines,
        Func<Guid, IReadOnlyList<SupplyOffer>> offersOf,
        Func<string, decimal?> freight,
        Exchange exchange
    )
    {
        var bids = lines
            .Select(l =>
                (
                    l.Line,
                    Bids: offersOf(l.Line)
                        .Select(o => Bidden(o, l.Quantity, exchange))
                        .OfType<Bid>()
                        .Where(b => freight(b.Offer.Supplier) is not null)
                        .ToArray()
                )
            )
            .Where(l => l.Bids.Length > 0)
            .ToArray();
        if (bids.Length == 0)
        {
            return [];
        }

        var soonest = bids.Max(l => l.Bids.Min(b => b.Offer.Days));
        var all = bids.Select(l => l.Bids).ToArray();
        var inTime = all.Select(l => l.Where(b => b.Offer.Days <= soonest).ToArray()).ToArray();
        return
        [
            Split(SplitBy.Cheapest, all, fewest: false),
            Split(SplitBy.Soonest, inTime, fewest: false),
            Split(SplitBy.FewestParcels, all, fewest: true),
        ];

        OrderSplit Split(SplitBy by, Bid[][] of, bool fewest)
        {
            var suppliers = of.SelectMany(l => l)
                .GroupBy(b => b.Offer.Supplier, StringComparer.Ordinal)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Take(MostSuppliers)
                .Select(g => g.Key)
                .ToArray();
            var costs = suppliers.Select(s => freight(s)!.Value).ToArray();
            // Of one line with one supplier only the cheapest offer is ever taken; of those that tie the soonest.
            var best = of.Select(
                    (l, i) =>
                        (
                            bids[i].Line,
                            Of: suppliers
                                .Select(s =>
                                    l.Where(b => b.Offer.Supplier == s)
                                        .OrderBy(b => b.Cost)
                                        .ThenBy(b => b.Offer.Days)
                                        .ThenBy(b => b.Offer.Id)
                                        .FirstOrDefault()
                                )
                                .ToArray()
                        )
                )
                .Where(l => l.Of.Any(b => b is not null))
                .ToArray();
            Bid?[][] table = [.. best.Select(l => l.Of)];
            var (chosen, exact) = suppliers.Length <= MostTried ? (Tried(table, costs, fewest), true) : (Improved(table, costs, fewest), false);
            var taken = best.Select(l => (l.Line, Bid: Cheapest(l.Of, chosen)!)).ToArray();
            var used = taken.Select(t => t.Bid.Offer.Supplier).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal).ToArray();
            var goods = taken.Sum(t => t.Bid.Cost);
            var parcels = used.Sum(s => freight(s)!.Value);
            return new OrderSplit(
                by,
                [.. taken.Select(t => new TakenOffer(t.Line, t.Bid.Offer.Id, t.Bid.Offer.Supplier, t.Bid.Packs, t.Bid.Cost, t.Bid.Offer.Days))],
                used,
                goods,
                parcels,
                goods + parcels,
                taken.Max(t => t.Bid.Offer.Days),
                exact
            );
        }
    }

    private static Bid? Bidden(SupplyOffer offer, decimal quantity, Exchange exchange)
    {
        var packs = (int)Math.Ceiling(quantity / Math.Max(1, offer.Pack));
        return exchange.InBase(new Money(offer.Price * packs, offer.Currency)) is { } cost ? new Bid(offer, packs, cost) : null;
    }

    private static Bid? Cheapest(Bid?[] line, long suppliers)
    {
        Bid? best = null;
        for (var s = 0; s < line.Length; s++)
        {
            if ((suppliers & (1L << s)) != 0 && line[s] is { } bid && (best is null || bid.Cost < best.Cost))
            {
                best = bid;
            }
        }

        return best;
    }

    /// <summary>Money of a choice of suppliers; null where it leaves a line out.</summary>
    private static decimal? Cost(Bid?[][] lines, decimal[] freight, long suppliers, decimal bound)
    {
        var cost = 0m;
        for (var s = 0; s < freight.Length; s++)
        {
            cost += (suppliers & (1L << s)) != 0 ? freight[s] : 0;
        }

        foreach (var line in lines)
        {
            if (cost > bound || Cheapest(line, suppliers) is not { } bid)
            {
                return null;
            }

            cost += bid.Cost;
        }

        return cost;
    }

    private static long Tried(Bid?[][] lines, decimal[] freight, bool fewest)
    {
        var (best, least, parcels) = (0L, decimal.MaxValue, int.MaxValue);
        for (var choice = 1L; choice < 1L << freight.Length; choice++)
        {
            var count = (int)long.PopCount(choice);
            if (fewest && count > parcels)
            {
                continue;
            }

            if (
                Cost(lines, freight, choice, fewest && count < parcels ? decimal.MaxValue : least) is { } cost
                && (cost < least || (fewest && count < parcels))
            )
            {
                (best, least, parcels) = (choice, cost, count);
            }
        }

        return best;
    }

    /// <summary>For more suppliers than are tried: one is let go or swapped as long as that is better.</summary>
    private static long Improved(Bid?[][] lines, decimal[] freight, bool fewest)
    {
        var best = (1L << freight.Length) - 1;
        var least = Cost(lines, freight, best, decimal.MaxValue) ?? decimal.MaxValue;
        for (var better = true; better; )
        {
            better = false;
            for (var s = 0; s < freight.Length; s++)
            {
                var other = best ^ (1L << s);
                if (other != 0 && Cost(lines, freight, other, decimal.MaxValue) is { } cost && Key(cost, other).CompareTo(Key(least, best)) < 0)
                {
                    (best, least, better) = (other, cost, true);
                }
            }
        }

        return best;

        (int Parcels, decimal Cost) Key(decimal cost, long choice) => (fewest ? (int)long.PopCount(choice) : 0, cost);
    }
}
