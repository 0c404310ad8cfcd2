using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>Who a line is ordered from.</summary>
public enum SupplierKind
{
    Parts,
    MachineShop,
    Specialist,
}

/// <summary>How far a line of the order is.</summary>
public enum OrderStage
{
    Wanted,

    /// <summary>A price was asked for.</summary>
    Asked,
    Ordered,

    /// <summary>Confirmed, with a day.</summary>
    Expected,
    Arrived,

    /// <summary>Looked at and measured against what was ordered: it may be fitted.</summary>
    Checked,
    Fitted,
    SentBack,
}

/// <summary>What a part that arrives must measure.</summary>
/// <param name="Of">Kind of part, or the address of one place.</param>
/// <param name="Least">Base unit of the quantity; null where that side is open.</param>
/// <param name="Most">As <paramref name="Least"/>.</param>
/// <param name="Source">Manual and page, or how it was worked out.</param>
/// <param name="Thumb">A rule of thumb: what is outside is told, and refuses nothing.</param>
public sealed record WantedFigure(string Of, string Characteristic, decimal? Least, decimal? Most, string Source, bool Thumb = false);

/// <summary>A line of the order: a part to be bought, or work by somebody else.</summary>
public sealed class OrderLine : CaseRecord
{
    /// <summary>Key of the need that it serves (<see cref="OrderNeed"/>); empty for one of the shop's own.</summary>
    public string Need { get; set; } = "";

    public SupplierKind Kind { get; set; }

    /// <summary>What it is: a set of <see cref="Engines.CandidateSets"/>, a kind of part, or empty for what is none.</summary>
    public string Item { get; set; } = "";

    public string What { get; set; } = "";

    /// <summary>Id of the course that it is for: renew for parts, grind or skim for work.</summary>
    public string Course { get; set; } = "";

    /// <summary>Places that it is for.</summary>
    public List<string> Places { get; set; } = [];

    /// <summary>Size grade as ordered: STD, 0.25, .010 …; empty where it has none.</summary>
    public string Step { get; set; } = "";

    public decimal Quantity { get; set; } = 1;

    /// <summary>Name of who it is ordered from.</summary>
    public string Supplier { get; set; } = "";

    /// <summary>The supplier's number for it.</summary>
    public string PartNumber { get; set; } = "";

    /// <summary>Of one; null while nobody knows.</summary>
    public decimal? Price { get; set; }

    public string Currency { get; set; } = "";

    /// <summary>Days until it is there or back; null while nobody knows.</summary>
    public decimal? Days { get; set; }

    public List<WantedFigure> Wants { get; set; } = [];

    public string Remarks { get; set; } = "";
}

/// <summary>A line went a stage further, or back to the supplier. Only ever added; the last that stands says how far it is.</summary>
public sealed class OrderMove : CaseRecord
{
    public Guid Line { get; set; }

    public OrderStage To { get; set; }

    /// <summary>When it is expected, or when it arrived; null where that is not known.</summary>
    public DateOnly? Day { get; set; }

    /// <summary>Pieces that arrived or went back; null is all that were outstanding or here.</summary>
    public decimal? Count { get; set; }

    /// <summary>The size that stands on the box, as read; empty where none does.</summary>
    public string Label { get; set; } = "";

    /// <summary>The supplier's number for the order.</summary>
    public string Reference { get; set; } = "";

    /// <summary>What was seen, or said.</summary>
    public string Note { get; set; } = "";

    /// <summary>By gate, or by figure, why it goes on although that is open: one reason for each.</summary>
    public Dictionary<string, string> Reasons { get; set; } = [];
}

/// <summary>What somebody would supply a thing for: asked over the line, or by telephone.</summary>
public sealed class SupplyOffer : CaseRecord
{
    public string Supplier { get; set; } = "";

    /// <summary>As of <see cref="OrderLine"/>.</summary>
    public string Item { get; set; } = "";

    /// <inheritdoc cref="OrderLine.Course"/>
    public string Course { get; set; } = "";

    /// <inheritdoc cref="OrderLine.Step"/>
    public string Step { get; set; } = "";

    /// <summary>Line that it was asked for; null where it was asked for none.</summary>
    public Guid? Line { get; set; }

    public string PartNumber { get; set; } = "";

    /// <summary>Of one pack.</summary>
    public decimal Price { get; set; }

    public string Currency { get; set; } = "";

    /// <summary>Pieces in a pack: less cannot be had.</summary>
    public int Pack { get; set; } = 1;

    /// <summary>Until it is there.</summary>
    public decimal Days { get; set; }

    /// <summary>False where the supplier waits for it himself.</summary>
    public bool InStock { get; set; } = true;

    public string Remarks { get; set; } = "";

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check()
    {
        if (string.IsNullOrWhiteSpace(Supplier))
        {
            yield return Problem.Of("supplier", "verdict.order.needs-a-supplier");
        }

        if (Price is < 0 or > OrderRules.MostMoney)
        {
            yield return Problem.Of("price", "verdict.order.price", ("what", Supplier));
        }

        if (!Currencies.Has(Currency))
        {
            yield return Problem.Of("currency", "verdict.option.unknown-currency", ("currency", Currency));
        }

        if (Pack is < 1 or > 100_000)
        {
            yield return Problem.Of("pack", "verdict.order.pack");
        }

        if (Days is < 0 or > OrderRules.MostDays)
        {
            yield return Problem.Of("days", "verdict.order.days", ("what", Supplier));
        }
    }
}

/// <summary>A supplier or machine shop that this shop deals with.</summary>
public sealed class Supplier : IShopRecord
{
    public Guid Id { get; set; }

    public string Name { get; set; } = "";

    public SupplierKind Kind { get; set; }

    /// <summary>Host and port where it answers (docs/supplier-protocol.md); empty where one writes or telephones.</summary>
    public string Address { get; set; } = "";

    public string Currency { get; set; } = "";

    /// <summary>What a parcel costs, once for each order, in its currency.</summary>
    public decimal Freight { get; set; }

    public string Remarks { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    /// <param name="others">The others that stand.</param>
    public IEnumerable<Problem> Check(IEnumerable<Supplier> others)
    {
        if (string.IsNullOrWhiteSpace(Name))
        {
            yield return Problem.Of("name", "verdict.order.supplier-needs-a-name");
        }

        if (others.Any(o => o.Id != Id && o.Name.Equals(Name, StringComparison.OrdinalIgnoreCase)))
        {
            yield return Problem.Of("name", "verdict.order.supplier-twice", ("name", Name));
        }

        if (!Currencies.Has(Currency))
        {
            yield return Problem.Of("currency", "verdict.option.unknown-currency", ("currency", Currency));
        }

        if (Freight is < 0 or > OrderRules.MostMoney)
        {
            yield return Problem.Of("freight", "verdict.order.price", ("what", Name));
        }
    }
}

/// <summary>A part on the shop's shelf.</summary>
/// <param name="Fits">For which engines, in the shop's words.</param>
public sealed record ShelfPart(int Number, string Kind, string Fits, string Grade, int Count, string Where);

/// <summary>What of the shop an order is made with.</summary>
/// <param name="Exchange">Currency that the order is told in, and the rates that count.</param>
public sealed record Supplies(IReadOnlyList<Supplier> Suppliers, IReadOnlyList<ShelfPart> Shelf, Exchange Exchange)
{
    /// <summary>A shop of which nothing is known.</summary>
    public static Supplies None { get; } = new([], [], new Exchange("EUR", new Dictionary<string, decimal>(StringComparer.Ordinal)));
}
