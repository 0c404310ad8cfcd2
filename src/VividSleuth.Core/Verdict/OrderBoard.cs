namespace VividSleuth.Core.Verdict;

public enum GateStands
{
    /// <summary>Evidence opens it.</summary>
    Open,

    /// <summary>Nobody knows yet.</summary>
    Shut,

    /// <summary>The evidence is against it: nothing opens it.</summary>
    Failed,
}

/// <summary>A gate before a line.</summary>
/// <param name="Evidence">What opens it, or what is missing.</param>
public sealed record GateState(string Gate, string Name, GateStands Stands, Fact Evidence, string Why);

/// <summary>Parts on the shelf that would do.</summary>
/// <param name="Sure">Kind, size and engine agree by what is written of it, so that they are taken off what must be ordered.</param>
public sealed record OnShelf(string Mark, string Kind, int Count, string Grade, string Where, string Fits, bool Sure);

/// <summary>Something that the verdicts ask for and that is not here.</summary>
/// <param name="Key">Names it, also while the number changes.</param>
/// <param name="Item">As of <see cref="OrderLine"/>.</param>
/// <param name="Decided">Somebody decided on every place; false where it is only advised.</param>
/// <param name="Quantity">Pieces or sets that are needed.</param>
/// <param name="Lined">Of these, how many stand in lines of the order.</param>
/// <param name="Missing">What is left to order, less what surely lies on the shelf.</param>
/// <param name="Along">Addresses of what goes along to whoever works on it.</param>
public sealed record OrderNeed(
    string Key,
    SupplierKind Kind,
    string Item,
    string Course,
    Fact What,
    IReadOnlyList<string> Places,
    string Step,
    bool Decided,
    Fact Why,
    decimal Quantity,
    decimal Lined,
    decimal Missing,
    IReadOnlyList<OnShelf> Shelf,
    IReadOnlyList<string> Along,
    IReadOnlyList<WantedFigure> Wants,
    IReadOnlyList<GateState> Gates
);

public enum FigureStands
{
    Inside,
    Outside,

    /// <summary>Too near its bound to tell.</summary>
    Undecided,
    Unmeasured,
}

/// <summary>A figure of what arrived, against what was ordered.</summary>
/// <param name="Key">Under which a reason is given for going on without it.</param>
/// <param name="Value">Base unit; null where nobody measured it.</param>
public sealed record ReceivedFigure(
    string Key,
    string Place,
    string Characteristic,
    string Name,
    WantedFigure Wanted,
    double? Value,
    double? Expanded,
    double? Inside,
    FigureStands Stands
);

/// <summary>What arrived, held against what was ordered.</summary>
/// <param name="Letter">Candidate under which it is measured; empty where it is measured on the engine's own, or nobody began.</param>
/// <param name="Label">What the box says, where that is another size than was ordered; null where it agrees or says none.</param>
/// <param name="Refused">Why it may not be let in, whatever is said for it; null where nothing is against it.</param>
public sealed record Receiving(string Letter, IReadOnlyList<ReceivedFigure> Figures, Fact? Label, Fact? Refused);

/// <summary>A line of the order as it stands.</summary>
/// <param name="Here">Pieces that arrived and did not go back.</param>
/// <param name="Outstanding">Pieces that are still to come.</param>
/// <param name="Expected">The day that the supplier gave.</param>
/// <param name="Late">That day is past.</param>
/// <param name="Cost">In the currency of the shop; null without a price or a rate.</param>
/// <param name="Against">What has changed since it was ordered, and what else speaks against it.</param>
/// <param name="Along">Addresses of what goes along to whoever works on it.</param>
/// <param name="Next">Where it may go from here.</param>
public sealed record OrderLineState(
    Guid Line,
    OrderStage Stage,
    decimal Here,
    decimal Outstanding,
    DateOnly? Expected,
    bool Late,
    string Reference,
    decimal? Cost,
    IReadOnlyList<GateState> Gates,
    Receiving? Receiving,
    IReadOnlyList<Fact> Against,
    IReadOnlyList<string> Along,
    IReadOnlyList<OrderStage> Next
);

/// <summary>How the lines that are not ordered yet would be shared out among those who made an offer.</summary>
public enum SplitBy
{
    Cheapest,
    Soonest,
    FewestParcels,
}

/// <param name="Line">A line that is not ordered yet.</param>
/// <param name="Packs">How many packs are bought.</param>
/// <param name="Cost">Of the goods, in the currency of the shop.</param>
public sealed record TakenOffer(Guid Line, Guid Offer, string Supplier, int Packs, decimal Cost, decimal Days);

/// <param name="Days">Until the last of it is there.</param>
/// <param name="Exact">False where there were too many suppliers to look at every way.</param>
public sealed record OrderSplit(
    SplitBy By,
    IReadOnlyList<TakenOffer> Taken,
    IReadOnlyList<string> Suppliers,
    decimal Goods,
    decimal Freight,
    decimal Total,
    decimal Days,
    bool Exact
);

/// <summary>The order of an engine.</summary>
/// <param name="Needs">What the verdicts ask for, what is wholly in lines already left out.</param>
/// <param name="Splits">Ways to share out what is not ordered yet, where offers are there.</param>
/// <param name="Unoffered">Lines that are not ordered yet and for which no offer stands.</param>
/// <param name="Cost">Of all lines with a price, in <paramref name="Currency"/>.</param>
/// <param name="Unpriced">Lines without one.</param>
/// <param name="Waits">The latest day on which something is expected.</param>
public sealed record OrderBoard(
    IReadOnlyList<OrderNeed> Needs,
    IReadOnlyList<OrderLineState> Lines,
    IReadOnlyList<OrderSplit> Splits,
    IReadOnlyList<Guid> Unoffered,
    decimal Cost,
    string Currency,
    int Unpriced,
    DateOnly? Waits
);
