using System.Collections.Concurrent;
using System.Globalization;

namespace VividSleuth.Cli.StandIns;

public sealed record SupplierQuestionLine(Guid Id, string Item, string Course, string Step, string What, string PartNumber, decimal Quantity);

public sealed record SupplierQuestion(string Engine, IReadOnlyList<SupplierQuestionLine> Lines);

public sealed record SupplierOffered(
    Guid Line,
    string PartNumber,
    decimal Price,
    string Currency,
    int Pack,
    decimal Days,
    bool InStock,
    string Remarks
);

public sealed record SupplierOffers(IReadOnlyList<SupplierOffered> Offers);

public sealed record SupplierOrders(Guid Id, string Engine, IReadOnlyList<SupplierQuestionLine> Lines);

/// <param name="State">confirmed, backOrder, sent or delivered.</param>
/// <param name="Label">What stands on the box.</param>
public sealed record SupplierState(Guid Id, string State, DateOnly Day, string Label, decimal Count);

public sealed record SupplierConfirmed(string Reference, IReadOnlyList<SupplierState> Lines);

public sealed record SupplierAbout(string Kind, string Currency);

/// <summary>A supplier without a warehouse, or a machine shop without machines. All prices, days and mistakes are made up; the same is always asked the same.</summary>
public sealed class SimulatedSupplier(bool works, TimeSpan day, int wrongEvery, TimeProvider time)
{
    private const string Currency = "EUR";

    /// <summary>Made up: price of one pack, pieces in it, days.</summary>
    private static readonly Dictionary<string, (decimal Price, int Pack, decimal Days)> Parts = new(StringComparer.Ordinal)
    {
        ["rod-shells"] = (184.00m, 1, 3),
        ["main-shells"] = (236.50m, 1, 3),
        ["ring-set"] = (61.90m, 1, 2),
        ["piston"] = (118.40m, 1, 6),
        ["liner"] = (143.00m, 1, 9),
        ["head-joint"] = (87.25m, 1, 1),
        ["rod-bolt"] = (6.80m, 2, 2),
        ["valve-inlet"] = (19.40m, 1, 4),
        ["valve-exhaust"] = (27.10m, 1, 4),
        ["crankshaft"] = (2_450.00m, 1, 30),
    };

    /// <summary>Made up: price for one place, days.</summary>
    private static readonly Dictionary<string, (decimal Price, decimal Days)> Work = new(StringComparer.Ordinal)
    {
        ["grind"] = (48.00m, 6),
        ["polish"] = (14.00m, 2),
        ["bore"] = (62.00m, 7),
        ["sleeve"] = (138.00m, 12),
        ["skim"] = (95.00m, 3),
        ["recut"] = (17.50m, 4),
        ["new-guide"] = (22.00m, 5),
        ["new-seat"] = (31.00m, 6),
        ["new-bush"] = (24.00m, 4),
        ["resize"] = (33.00m, 5),
        ["line-bore"] = (420.00m, 10),
    };

    private sealed record Taken(DateTimeOffset At, string Reference, IReadOnlyList<Parcel> Parcels);

    private sealed record Parcel(SupplierQuestionLine Line, decimal Days, bool BackOrder, decimal Count);

    private readonly ConcurrentDictionary<Guid, Taken> _orders = new();
    private readonly ConcurrentQueue<string> _heard = new();
    private readonly Lock _gate = new();
    private int _parcels;

    public SupplierAbout About { get; } = new(works ? "machineShop" : "parts", Currency);

    /// <summary>What happened since it was last asked, for whoever watches: what really is in a box stands only here.</summary>
    public IEnumerable<string> Heard()
    {
        while (_heard.TryDequeue(out var line))
        {
            yield return line;
        }
    }

    /// <summary>What it would ask for each line; nothing for what it does not have or do.</summary>
    public SupplierOffers Offer(SupplierQuestion question) => new([.. question.Lines.Select(Offer).OfType<SupplierOffered>()]);

    /// <summary>Takes an order; sent again it is the same.</summary>
    public SupplierConfirmed Take(SupplierOrders order)
    {
        lock (_gate)
        {
            if (!_orders.TryGetValue(order.Id, out var taken))
            {
                var number = _orders.Count + 1;
                taken = new Taken(
                    time.GetUtcNow(),
                    $"{(works ? "W" : "P")}-{number.ToString("0000", CultureInfo.InvariantCulture)}",
                    [.. order.Lines.Select(Packed)]
                );
                _orders[order.Id] = taken;
            }

            return State(taken);
        }
    }

    /// <returns>Null where there is no such order.</returns>
    public SupplierConfirmed? Follow(string reference) =>
        _orders.Values.FirstOrDefault(o => o.Reference == reference) is { } taken ? State(taken) : null;

    private SupplierOffered? Offer(SupplierQuestionLine line)
    {
        if (works)
        {
            return Work.TryGetValue(line.Course, out var work)
                ? new SupplierOffered(line.Id, "", work.Price, Currency, 1, work.Days, InStock: true, "")
                : null;
        }

        if (line.Course != "renew")
        {
            return null;
        }

        var known = Parts.TryGetValue(line.Item, out var of)
            ? of
            : (Price: 2.50m + (Draw(line.What, 4000) / 100m), Pack: 1, Days: 2 + Draw(line.What, 9));
        // Odd sizes wait for the maker.
        var back = IsBackOrder(line);
        return new SupplierOffered(
            line.Id,
            $"{Draw(line.Item + line.Step, 90_000) + 10_000}",
            known.Price,
            Currency,
            known.Pack,
            back ? known.Days + 21 : known.Days,
            !back,
            back ? "waits for the maker" : ""
        );
    }

    private static bool IsBackOrder(SupplierQuestionLine line) => line.Step.Length > 0 && line.Step != "STD" && Draw(line.Item + line.Step, 3) == 0;

    /// <summary>One in so many is wrong: another size in the right box or the right one in the wrong box, a piece short; work that runs out.</summary>
    private Parcel Packed(SupplierQuestionLine line)
    {
        var back = !works && IsBackOrder(line);
        var days = Offer(line)?.Days ?? 5;
        _parcels++;
        var wrong = wrongEvery > 0 && _parcels % wrongEvery == 0;
        if (!wrong)
        {
            return new Parcel(line, days, back, line.Quantity);
        }

        var turn = _parcels / wrongEvery % 2;
        if (works)
        {
            _heard.Enqueue($"{line.What}: {(turn == 0 ? "a hundredth too small at the worst place" : "runs out by 0.06 mm")}");
        }
        else if (turn == 1 && line.Quantity > 1)
        {
            _heard.Enqueue($"{line.What}: one short");
            return new Parcel(line, days, back, line.Quantity - 1);
        }
        else
        {
            _heard.Enqueue($"{line.What}: the box says {Label(line)}, in it is the next size under");
        }

        return new Parcel(line, days, back, line.Quantity);
    }

    private static string Label(SupplierQuestionLine line) => line.Step.Length > 0 ? line.Step : "STD";

    private SupplierConfirmed State(Taken taken)
    {
        var passed = (time.GetUtcNow() - taken.At) / day;
        return new SupplierConfirmed(
            taken.Reference,
            [
                .. taken.Parcels.Select(p =>
                {
                    var left = (double)p.Days - passed;
                    return new SupplierState(
                        p.Line.Id,
                        left <= 0 ? "delivered"
                            : left <= 1 ? "sent"
                            : p.BackOrder ? "backOrder"
                            : "confirmed",
                        left <= 0
                            ? DateOnly.FromDateTime((taken.At + ((double)p.Days * day)).UtcDateTime)
                            : DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime).AddDays((int)Math.Ceiling(left)),
                        left <= 0 ? Label(p.Line) : "",
                        left <= 0 ? p.Count : 0
                    );
                }),
            ]
        );
    }

    /// <summary>A number from 0 that is the same for the same words each time.</summary>
    private static int Draw(string words, int of) => (int)(words.Aggregate(2166136261u, (hash, c) => (hash ^ c) * 16777619u) % (uint)of);
}
