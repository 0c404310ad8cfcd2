using System.Globalization;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>The order as a list: CSV, a sheet, paper.</summary>
public static class OrderTable
{
    public static IReadOnlyList<string> Columns { get; } =
    [
        "what",
        "places",
        "step",
        "quantity",
        "supplier",
        "part_number",
        "price",
        "currency",
        "cost",
        "cost_currency",
        "days",
        "stage",
        "expected",
        "reference",
        "here",
        "held_by",
        "remarks",
    ];

    /// <summary>Lines that stand, in the order in which they are to be had: by supplier, then as they were entered.</summary>
    public static IEnumerable<IReadOnlyList<object?>> Rows(IEnumerable<OrderLine> lines, OrderBoard board)
    {
        var states = board.Lines.ToDictionary(l => l.Line);
        foreach (var line in lines.Where(l => l.Stands()).OrderBy(l => l.Supplier, StringComparer.OrdinalIgnoreCase).ThenBy(l => l.At))
        {
            var state = states[line.Id];
            yield return
            [
                line.What,
                string.Join(' ', line.Places),
                line.Step,
                line.Quantity,
                line.Supplier,
                line.PartNumber,
                line.Price,
                line.Price is null ? "" : line.Currency,
                state.Cost,
                state.Cost is null ? "" : board.Currency,
                line.Days,
                state.Stage.ToString(),
                state.Expected?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                state.Reference,
                state.Here,
                string.Join(", ", state.Gates.Where(g => g.Stands != GateStands.Open).Select(g => g.Name)),
                line.Remarks,
            ];
        }
    }

    public static string Csv(IEnumerable<OrderLine> lines, OrderBoard board) =>
        CsvIn.Write(
            Columns,
            Rows(lines, board).Select(r => (IReadOnlyList<string>)[.. r.Select(c => Convert.ToString(c, CultureInfo.InvariantCulture) ?? "")])
        );
}
