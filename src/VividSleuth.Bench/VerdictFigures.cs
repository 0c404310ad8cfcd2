using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Bench;

/// <summary>The page of Verdict for sixteen cylinders, and what fits what of four shafts, eight sets and eight journals, with its growth.</summary>
internal static class VerdictFigures
{
    private static readonly DateOnly Today = new(2026, 11, 27);

    public static void Run(Figures figures)
    {
        var sixteen = Sixteen();
        // Sheet and Trace are kept by their rooms and have figures of their own; here is what Verdict adds.
        var reader = new CaseReader(sixteen, KnowledgeBase.BuiltIn, [], Today);
        var (sheet, trace, open) = (reader.Gauge, reader.Trace, reader.Strip.LaidOpen(reader.Table));
        VerdictBoard? board = null;
        void Page()
        {
            var log = sixteen.VerdictLog();
            var cracks = new Cracks(sixteen.Findings, sixteen.Examinations, reader.Table, KnowledgeBase.BuiltIn);
            var plans = MachiningPlanner.Plan(log, reader.Table, KnowledgeBase.BuiltIn, sheet, Schools.Usual, cracks);
            var advice = VerdictAdviser.Advise(log, reader.Table, KnowledgeBase.BuiltIn, sheet, Schools.Usual, cracks, plans, trace, open);
            board = new VerdictBoard(VerdictGroups.Of(advice, log, reader.Table, KnowledgeBase.BuiltIn, plans, trace), advice, plans);
        }

        Figures.Median(Page, runs: 60);
        figures.AtMost(
            "Verdict",
            $"page of 16 cylinders, {sixteen.Findings.Count} findings, {board!.Places.Count} places, sheet and Trace at hand",
            Figures.Median(Page),
            100,
            "ms"
        );
        var whole = Figures.Median(() => _ = new CaseReader(sixteen, KnowledgeBase.BuiltIn, [], Today).Verdict, runs: 5);
        figures.Tell("Verdict", "the same with sheet and Trace", $"{whole:0} ms");

        foreach (var (shafts, sets) in new[] { (1, 1), (2, 4), (4, 8), (4, 16), (8, 32) })
        {
            var shop = Shop(shafts, sets);
            var warm = new CaseReader(shop, KnowledgeBase.BuiltIn, [], Today);
            // Plans and advice of each shaft are kept by their rooms.
            var (rings, plans) = (warm.Fits, shop.Candidates.Select(c => c.Letter).Append("").ToDictionary(l => l, l => warm.With(l).Plans));
            var advice = plans.Keys.ToDictionary(l => l, l => warm.With(l).Advice);
            FitBoard? fit = null;
            void Fit() =>
                fit = Fitter.Fit(
                    new Combined(shop.GaugeLog(), warm.Table, KnowledgeBase.BuiltIn, [], Schools.Usual),
                    warm.Table,
                    shop.Candidates,
                    shop.Parts,
                    l => plans[l],
                    l => advice[l],
                    (rings.Rings, rings.RingNotes),
                    new PriceBook([], Supplies.None.Exchange)
                );
            var ms = Figures.Median(Fit, runs: 9);
            var what = $"fit of {shafts} shafts, {sets} sets, 8 journals, {fit!.Bearings.Sum(b => b.Grid.Count)} assemblies, halves matched";
            if (shafts == 4 && sets == 8)
            {
                figures.AtMost("Verdict", what, ms, 200, "ms");
            }
            else
            {
                figures.Tell("Verdict", what, $"{ms:0} ms");
            }
        }
    }

    private static EngineLayout Inline(int cylinders) =>
        new()
        {
            Arrangement = Arrangement.Inline,
            Cylinders = cylinders,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = [.. Enumerable.Range(1, cylinders)],
        };

    private static Limit Of(string characteristic, decimal? nominal, decimal? least, decimal? most) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Characteristic = characteristic,
            Nominal = nominal,
            Least = least,
            Most = most,
            SourceText = "bench",
        };

    private static Reading Read(string place, string characteristic, double value, string station = "", string direction = "") =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Characteristic = characteristic,
            Station = station,
            Direction = direction,
            Typed = $"{value:0.000}",
            Value = Math.Round((decimal)value, 3),
            Unit = "mm",
        };

    /// <summary>Sixteen in a vee, all of it looked at and measured, some of it worn.</summary>
    private static EngineCase Sixteen()
    {
        var layout = Inline(16) with
        {
            Arrangement = Arrangement.Vee,
            BankAngle = 60,
            Numbering = NumberingScheme.BankAfterBank,
            FiringOrder = [1, 16, 2, 15, 3, 14, 4, 13, 5, 12, 6, 11, 7, 10, 8, 9],
        };
        var engine = new EngineCase { Id = Guid.CreateVersion7(), Layout = layout };
        engine.Limits.AddRange([
            Of("crankpin-diameter", 72m, 71.97m, 72m),
            Of("main-journal-diameter", 92m, 91.97m, 92m),
            Of("bore-diameter", 120m, null, 120.1m),
            Of("big-end-clearance", null, 0.03m, 0.09m),
            Of("shell-wall", 2.5m, null, null),
        ]);
        var dice = new Random(15);
        var table = engine.Places();
        foreach (var place in table.Own)
        {
            foreach (var id in KnowledgeBase.BuiltIn.SignsOn(place.Kind.Id).Take(4).Select(s => s.Id))
            {
                engine.Findings.Add(
                    new Finding
                    {
                        Id = Guid.CreateVersion7(),
                        Place = place.Code,
                        Sign = id,
                        Seen = dice.Next(12) == 0 ? Seen.Present : Seen.Absent,
                        Level = 1,
                    }
                );
            }

            var size = place.Kind.Id switch
            {
                PartKinds.Crankpin => ("crankpin-diameter", 71.96),
                PartKinds.MainJournal => ("main-journal-diameter", 91.97),
                PartKinds.Bore => ("bore-diameter", 120.08),
                PartKinds.RodShellUpper or PartKinds.RodShellLower => ("shell-wall", 2.49),
                PartKinds.Rod => ("rod-housing-bore", 77.05),
                _ => ("", 0.0),
            };
            if (size.Item1.Length > 0)
            {
                var entry = KnowledgeBase.BuiltIn.Characteristic(size.Item1)!;
                foreach (var station in entry.Stations.DefaultIfEmpty(""))
                {
                    foreach (var direction in entry.Directions.Keys.DefaultIfEmpty(""))
                    {
                        engine.Readings.Add(Read(place.Code, size.Item1, size.Item2 + (0.03 * dice.NextDouble()), station, direction));
                    }
                }
            }
        }

        return engine;
    }

    /// <summary>An eight in line with shafts and sets of shells to choose from, each measured.</summary>
    private static EngineCase Shop(int shafts, int sets)
    {
        const string Letters = "BCEFHJKLMNPRTUVWXY";
        var engine = new EngineCase { Id = Guid.CreateVersion7(), Layout = Inline(8) };
        engine.Limits.AddRange([
            Of("crankpin-diameter", 72m, null, null),
            Of("big-end-clearance", null, 0.03m, 0.07m),
            Of("shell-wall", 2.5m, null, null),
        ]);
        var dice = new Random(8);
        var next = 0;
        void Fill(string letter, string what)
        {
            if (letter.Length > 0)
            {
                engine.Candidates.Add(
                    new Candidate
                    {
                        Id = Guid.CreateVersion7(),
                        Letter = letter,
                        What = what,
                    }
                );
            }

            var behind = letter.Length > 0 ? $".{letter}" : "";
            var under = 0.25 * dice.Next(0, 3);
            for (var n = 1; n <= 8; n++)
            {
                if (what != "rod-shells")
                {
                    engine.Readings.Add(Read($"K{n}{behind}", "crankpin-diameter", 72 - under - (0.02 * dice.NextDouble())));
                }

                if (what != "crankshaft")
                {
                    engine.Readings.Add(Read($"R{n}U{behind}", "shell-wall", 2.5 + (under / 2) - (0.01 * dice.NextDouble())));
                    engine.Readings.Add(Read($"R{n}L{behind}", "shell-wall", 2.5 + (under / 2) - (0.01 * dice.NextDouble())));
                }
            }
        }

        Fill("", "");
        for (var n = 1; n <= 8; n++)
        {
            engine.Readings.Add(Read($"R{n}", "rod-housing-bore", 77.05));
        }

        for (var i = 1; i < shafts && next < Letters.Length; i++)
        {
            Fill(Letters[next++].ToString(), "crankshaft");
        }

        for (var i = 1; i < sets && next < Letters.Length; i++)
        {
            Fill(Letters[next++].ToString(), "rod-shells");
        }

        return engine;
    }
}
