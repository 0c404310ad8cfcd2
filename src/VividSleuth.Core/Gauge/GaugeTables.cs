using System.Globalization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Readings, limits and the sheet as tables: CSV in and out.</summary>
public static class GaugeTables
{
    public static IReadOnlyList<string> LimitColumns { get; } =
    ["characteristic", "on", "unit", "nominal", "least", "most", "wear", "source", "source_text"];

    public static IReadOnlyList<string> ReadingColumns { get; } =
    [
        "place",
        "characteristic",
        "station",
        "direction",
        "phase",
        "typed",
        "unit",
        "value",
        "base_unit",
        "instrument",
        "temperature",
        "gauge_temperature",
        "read_by",
        "by",
        "at",
    ];

    public static IReadOnlyList<string> SheetColumns { get; } =
    [
        "place",
        "characteristic",
        "name",
        "phase",
        "value",
        "expanded_uncertainty",
        "unit",
        "nominal",
        "least",
        "most",
        "wear",
        "limit_source",
        "stands",
        "share_of_limit",
        "from",
        "what_would_decide",
    ];

    private static readonly string[] NeededOfLimits = ["characteristic", "source_text"];
    private static readonly string[] NeededOfReadings = ["place", "characteristic", "typed"];

    /// <summary>Reads a table of limits. Figures without a unit are in the row's unit, or mm.</summary>
    public static CsvRead<Limit> Limits(string text, KnowledgeBase knowledge) =>
        CsvIn.Read(
            text,
            NeededOfLimits,
            row =>
            {
                var quantity = knowledge.Characteristic(row["characteristic"])?.Quantity ?? Quantity.Length;
                var unit = Unit(row["unit"], quantity);
                var source =
                    row["source"].Length == 0 ? LimitSource.MakersManual
                    : Enum.TryParse<LimitSource>(row["source"], ignoreCase: true, out var s) && Enum.IsDefined(s) ? s
                    : throw new ProblemException(Problem.Of("source", "gauge.no-kind-of-source", ("source", row["source"])));
                return GaugeEntries.Read(
                    new LimitEntry(
                        row.Id,
                        row["characteristic"],
                        row.Digits("nominal"),
                        row.Digits("least"),
                        row.Digits("most"),
                        unit,
                        source,
                        row["source_text"],
                        row.Digits("wear"),
                        row["on"]
                    ),
                    knowledge
                );
            }
        );

    public static string Limits(IEnumerable<Limit> limits, KnowledgeBase knowledge) =>
        CsvIn.Write(
            LimitColumns,
            limits.Select(l =>
            {
                var quantity = knowledge.Characteristic(l.Characteristic)?.Quantity ?? Quantity.Length;
                var unit = QuantityParser.IsUnit(l.Unit, quantity) ? l.Unit : QuantityParser.BaseUnit(quantity);
                string In(decimal? value) => value is { } v ? Plain(QuantityParser.InUnit(v, unit)) : "";
                return (IReadOnlyList<string>)
                    [l.Characteristic, l.On, unit, In(l.Nominal), In(l.Least), In(l.Most), In(l.Wear), Camel(l.Source), l.SourceText];
            })
        );

    /// <summary>Reads a table of readings. Suspect ones are problems of their row unless they are confirmed for all.</summary>
    public static CsvRead<Reading> Readings(string text, GaugeLog log, AddressTable table, KnowledgeBase knowledge, bool confirmed)
    {
        var expected = new Dictionary<(string, string, Phase), (decimal? Nominal, decimal? Median)>();
        return CsvIn.Read(
            text,
            NeededOfReadings,
            row =>
            {
                var id = row["characteristic"];
                var kind = table.Find(row["place"])?.Kind.ReadAs ?? "";
                var phase =
                    row["phase"].Length == 0 ? Phase.AsFound
                    : Enum.TryParse<Phase>(row["phase"], ignoreCase: true, out var p) && Enum.IsDefined(p) ? p
                    : throw new ProblemException(Problem.Of("phase", "gauge.no-phase", ("phase", row["phase"])));
                if (!expected.TryGetValue((id, kind, phase), out var sizes))
                {
                    expected[(id, kind, phase)] = sizes = GaugeEntries.Expected(log.Readings, log.Limits, table, id, kind, phase);
                }

                return GaugeEntries.Read(
                    new ReadingEntry(
                        row.Id,
                        row["place"],
                        id,
                        row.Digits("typed"),
                        Unit(row["unit"], knowledge.Characteristic(id)?.Quantity ?? Quantity.Length),
                        row["instrument"],
                        row.Figure("temperature", Quantity.Temperature, "°C"),
                        null,
                        confirmed,
                        row["station"],
                        row["direction"],
                        phase,
                        row.Figure("gauge_temperature", Quantity.Temperature, "°C"),
                        row["read_by"]
                    ),
                    table,
                    knowledge,
                    sizes.Nominal,
                    sizes.Median
                );
            }
        );
    }

    public static string Readings(GaugeLog log, KnowledgeBase knowledge) =>
        CsvIn.Write(
            ReadingColumns,
            log.Active()
                .Select(r =>
                    (IReadOnlyList<string>)
                        [
                            r.Place,
                            r.Characteristic,
                            r.Station,
                            r.Direction,
                            Camel(r.Phase),
                            r.Typed,
                            r.Unit,
                            Plain(r.Value),
                            QuantityParser.BaseUnit(knowledge.Characteristic(r.Characteristic)?.Quantity ?? Quantity.Length),
                            r.Instrument,
                            r.Temperature is { } t ? Plain(t) : "",
                            r.GaugeTemperature is { } g ? Plain(g) : "",
                            r.ReadBy,
                            r.By,
                            r.At.ToString("O", CultureInfo.InvariantCulture),
                        ]
                )
        );

    /// <summary>The sheet as rows, for CSV and spreadsheet alike; figures in base units.</summary>
    public static IEnumerable<IReadOnlyList<object?>> Sheet(GaugeSheet sheet) =>
        sheet.Figures.Select(f =>
            (IReadOnlyList<object?>)
                [
                    f.Place,
                    f.Characteristic,
                    f.Name,
                    Camel(f.Phase),
                    Math.Round(f.Value, 6),
                    Math.Round(f.Expanded, 6),
                    QuantityParser.BaseUnit(f.Quantity),
                    f.Limit?.Nominal,
                    f.Limit?.Least,
                    f.Limit?.Most,
                    f.Limit?.Wear,
                    f.Limit is { } l ? (l.IsRuleOfThumb ? Fact.Of("gauge.rule-of-thumb-named", ("name", l.SourceText)) : l.SourceText) : null,
                    f.Conformity is { } c ? Camel(c) : "",
                    f.Share is { } share ? Math.Round(share, 4) : null,
                    f.From,
                    f.Decides,
                ]
        );

    public static string SheetCsv(GaugeSheet sheet, Func<Fact, string> say) =>
        CsvIn.Write(
            SheetColumns,
            Sheet(sheet)
                .Select(r =>
                    (IReadOnlyList<string>)[.. r.Select(c => c is Fact fact ? say(fact) : Convert.ToString(c, CultureInfo.InvariantCulture) ?? "")]
                )
        );

    private static string Unit(string typed, Quantity quantity) =>
        typed.Length == 0 ? QuantityParser.BaseUnit(quantity)
        : QuantityParser.IsUnit(typed, quantity) ? typed
        : throw new ProblemException(
            Problem.Of("unit", "gauge.no-unit-of-this-figure", ("typed", typed), ("units", QuantityParser.UnitsOf(quantity).Take(6)))
        );

    private static string Plain(decimal value) => (value / 1.0000000000000000000000000000m).ToString(CultureInfo.InvariantCulture);

    private static string Camel<T>(T value)
        where T : struct, Enum => char.ToLowerInvariant(value.ToString()[0]) + value.ToString()[1..];
}
