using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Bench;

/// <summary>The sheet of sixteen cylinders, its growth with the readings, and the oil film.</summary>
internal static class GaugeFigures
{
    private static readonly string[] Characteristics =
    [
        "bore-diameter",
        "piston-diameter",
        "crankpin-diameter",
        "main-journal-diameter",
        "rod-housing-bore",
        "main-housing-bore",
        "shell-wall",
        "ring-end-gap",
        "ring-width",
        "ring-groove-top-width",
        "valve-stem",
        "guide-bore",
        "deck-height",
        "part-weight",
        "ring-gap-position",
    ];

    public static void Run(Figures figures)
    {
        // The compiler's first drafts are left behind before anything is told.
        var (warm, warmTable, warmInstruments) = Sixteen(1_500);
        Figures.Median(() => SheetBuilder.Build(warm.GaugeLog(), warmTable, KnowledgeBase.BuiltIn, warmInstruments), runs: 200);
        var eighth = 0.0;
        foreach (var n in new[] { 1_500, 3_000, 6_000, 12_500, 25_000, 50_000, 100_000 })
        {
            var (engineCase, table, instruments) = Sixteen(n);
            GaugeSheet? sheet = null;
            var ms = Figures.Median(
                () => sheet = SheetBuilder.Build(engineCase.GaugeLog(), table, KnowledgeBase.BuiltIn, instruments),
                runs: n > 10_000 ? 5 : 15
            );
            var what = $"sheet of 16 cylinders, {n} readings, {sheet!.Figures.Count} figures";
            if (n == 1_500)
            {
                figures.AtMost("Gauge", what, ms, 30, "ms");
            }
            else
            {
                figures.Tell("Gauge", what, $"{ms:0} ms, {1000 * ms / n:0.0} µs each");
            }

            if (n == 12_500)
            {
                eighth = ms;
            }

            if (n == 100_000)
            {
                // Linear would be eight; half as much again is allowed for memory that no longer fits the cache.
                figures.AtMost("Gauge", "100,000 readings over 12,500: eight is linear", ms / eighth, 12, "times");
            }
        }

        var film = Figures.Median(() => ReynoldsFilm.At(0.135, 1));
        figures.AtMost("Gauge", "Reynolds’ equation at a given load, l/d = 1", film, 50, "ms");
        var narrow = Figures.Median(() => ReynoldsFilm.At(0.08, 0.5));
        figures.AtMost("Gauge", "Reynolds’ equation at a given load, l/d = 1/2", narrow, 50, "ms");
        var published = ReynoldsFilm.At(0.121, 1).LeastFilm;
        figures.AtMost("Gauge", "least film against the charts’ 0.40 at S = 0.121", 100 * Math.Abs((published / 0.40) - 1), 2, "%");
    }

    /// <summary>A sixteen in vee, measured all over: points first, then repeats of them, then after work.</summary>
    private static (EngineCase Case, AddressTable Table, IReadOnlyList<Instrument> Instruments) Sixteen(int readings)
    {
        var engineCase = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case;
        engineCase.Layout = engineCase.Layout with
        {
            Arrangement = Arrangement.Vee,
            Cylinders = 16,
            FiringOrder = [1, 16, 2, 15, 3, 14, 4, 13, 5, 12, 6, 11, 7, 10, 8, 9],
            BankAngle = 60,
            Numbering = NumberingScheme.BankAfterBank,
            Mains = null,
        };
        engineCase.Readings.Clear();
        var table = new AddressTable(Engine.From(engineCase.Layout));
        var points = Characteristics
            .Select(id => KnowledgeBase.BuiltIn.Characteristic(id)!)
            .SelectMany(c =>
                c.On.SelectMany(table.OfKind)
                    .SelectMany(a =>
                        c.Stations.DefaultIfEmpty("")
                            .SelectMany(s => c.Directions.Keys.DefaultIfEmpty("").Select(d => (Entry: c, At: a, Station: s, Direction: d)))
                    )
            )
            .ToArray();
        var dice = new Random(4711);
        for (var i = 0; i < readings; i++)
        {
            var point = points[i % points.Length];
            var size = (double)(((point.Entry.Least ?? 1) + (point.Entry.Least ?? 1) + (point.Entry.Most ?? 1)) / 3) + (dice.NextDouble() * 0.02);
            engineCase.Readings.Add(
                new Reading
                {
                    Id = new Guid(i, 7, 7, 8, 0, 0, 0, 0, 0, 0, 0),
                    Place = point.At.Code,
                    Characteristic = point.Entry.Id,
                    Station = point.Station,
                    Direction = point.Direction,
                    Typed = $"{size:0.000}",
                    Value = Math.Round((decimal)size, 3),
                    Unit = QuantityParser.BaseUnit(point.Entry.Quantity),
                    Instrument = "Micrometer 50–75",
                    Temperature = i % 3 == 0 ? 23 : null,
                    At = DateTimeOffset.UnixEpoch.AddSeconds(i),
                }
            );
        }

        return (engineCase, table, CaseFile.FromJson(File.ReadAllText(Demo.Six)).Instruments);
    }
}
