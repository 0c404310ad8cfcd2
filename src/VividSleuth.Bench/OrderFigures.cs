using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Bench;

/// <summary>The board of an order as it grows, and sharing its lines out among suppliers.</summary>
internal static class OrderFigures
{
    private static readonly Exchange Euro = new("EUR", new Dictionary<string, decimal>(StringComparer.Ordinal));

    public static void Run(Figures figures)
    {
        foreach (var lines in new[] { 40, 500, 5000 })
        {
            var reader = new CaseReader(Ordered(lines), KnowledgeBase.BuiltIn, [], new DateOnly(2026, 11, 27));
            // What the order is made from is kept by its rooms.
            var planner = reader.Orders;
            _ = planner.Board();
            var ms = Figures.Median(() => _ = planner.Board(), runs: 9);
            figures.Tell("Order", $"board of {lines} lines, each asked for, half of them ordered", $"{ms:0} ms");
        }

        foreach (var suppliers in new[] { 4, 8, 12, 20 })
        {
            var (ids, offers) = Market(60, suppliers);
            var by = offers.ToLookup(o => o.Line!.Value);
            IReadOnlyList<OrderSplit> splits = [];
            var ms = Figures.Median(() => splits = LeastOrder.Of([.. ids.Select(l => (l, 2m))], l => [.. by[l]], _ => 15m, Euro), runs: 5);
            figures.Tell(
                "Order",
                $"60 lines shared out among {suppliers} suppliers, {(splits[0].Exact ? "every choice tried" : "improved step by step")}",
                $"{ms:0} ms"
            );
        }
    }

    private static EngineCase Ordered(int lines)
    {
        var engine = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case;
        for (var n = 0; n < lines; n++)
        {
            var line = new OrderLine
            {
                Id = Guid.CreateVersion7(),
                What = $"line {n}",
                Item = n % 3 == 0 ? "piston" : "",
                Quantity = 1 + (n % 5),
                Price = n / 100m,
                Currency = "EUR",
                Supplier = "bench",
            };
            engine.OrderLines.Add(line);
            engine.OrderMoves.Add(Move(line, OrderStage.Asked));
            if (n % 2 == 0)
            {
                engine.OrderMoves.Add(Move(line, OrderStage.Ordered));
            }
        }

        return engine;
    }

    private static OrderMove Move(OrderLine line, OrderStage to) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Line = line.Id,
            To = to,
            At = DateTimeOffset.UnixEpoch.AddHours((int)to),
        };

    private static (Guid[] Lines, SupplyOffer[] Offers) Market(int lines, int suppliers)
    {
        var dice = new Random(4);
        Guid[] ids = [.. Enumerable.Range(0, lines).Select(_ => Guid.CreateVersion7())];
        return (
            ids,
            [
                .. ids.SelectMany(l =>
                    Enumerable
                        .Range(0, suppliers)
                        .Select(s => new SupplyOffer
                        {
                            Id = Guid.CreateVersion7(),
                            Line = l,
                            Supplier = $"S{s}",
                            Price = dice.Next(5, 200),
                            Currency = "EUR",
                            Days = dice.Next(1, 20),
                        })
                ),
            ]
        );
    }
}
