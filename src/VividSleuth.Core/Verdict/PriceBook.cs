using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>What somebody would do something for.</summary>
/// <param name="Cost">In the currency of the shop.</param>
public sealed record Priced(decimal Cost, decimal Days, string Supplier);

/// <summary>The cheapest offer for a thing, of those that stand.</summary>
public sealed class PriceBook(IReadOnlyList<SupplyOffer> offers, Exchange exchange)
{
    public string Currency => exchange.Base;

    /// <param name="step">Size grade; an offer that names none is for any.</param>
    /// <param name="quantity">Pieces; bought by the pack.</param>
    /// <returns>Null where nobody made an offer, or no rate is known.</returns>
    public Priced? Of(string item, string course, string step, decimal quantity) =>
        offers
            .Where(o => o.Stands() && o.Item == item && o.Course == course && (o.Step.Length == 0 || SameStep(o.Step, step)))
            .Select(o =>
                exchange.InBase(new Money(o.Price * Math.Ceiling(quantity / Math.Max(1, o.Pack)), o.Currency)) is { } cost
                    ? new Priced(cost, o.Days, o.Supplier)
                    : null
            )
            .OfType<Priced>()
            .OrderBy(p => p.Cost)
            .ThenBy(p => p.Days)
            .ThenBy(p => p.Supplier, StringComparer.Ordinal)
            .FirstOrDefault();

    private static bool SameStep(string a, string b) =>
        a.Equals(b, StringComparison.OrdinalIgnoreCase) || (Grade.FromStamp(a) is { } one && Grade.FromStamp(b) is { } other && one.IsLike(other));
}
