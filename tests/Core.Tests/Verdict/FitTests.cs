using CsCheck;
using Google.OrTools.Sat;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

/// <summary>What fits what, of all that there is.</summary>
public sealed class FitTests
{
    private static readonly EngineLayout Three = Start.InlineSix with { Cylinders = 3, FiringOrder = [1, 2, 3] };

    private static Limit Of(string characteristic, decimal? nominal = null, decimal? least = null, decimal? most = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Characteristic = characteristic,
            Nominal = nominal,
            Least = least,
            Most = most,
            SourceText = "manual, page 4",
        };

    /// <summary>A three with a shaft whose journals are a quarter under; clearance should be 0.03 to 0.07.</summary>
    private static EngineCase Engine(decimal journal = 71.748m)
    {
        var c = Start.Case(Three);
        c.Limits.AddRange([Of("crankpin-diameter", 72m), Of("shell-wall", 2.5m), Of("big-end-clearance", least: 0.03m, most: 0.07m)]);
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.AddRange([Start.Read($"K{n}", "crankpin-diameter", journal), Start.Read($"R{n}", "rod-housing-bore", 77.05m)]);
        }

        return c;
    }

    private static void Offer(EngineCase c, string letter, string what, Func<int, Reading[]> readings)
    {
        c.Candidates.Add(
            new Candidate
            {
                Id = Guid.CreateVersion7(),
                Letter = letter,
                What = what,
            }
        );
        for (var n = 1; n <= 3; n++)
        {
            c.Readings.AddRange(readings(n));
        }
    }

    private static void Shells(EngineCase c, string letter, decimal wall) =>
        Offer(c, letter, "rod-shells", n => [Start.Read($"R{n}U.{letter}", "shell-wall", wall), Start.Read($"R{n}L.{letter}", "shell-wall", wall)]);

    private static BearingFit BigEnds(EngineCase c) =>
        new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Fits.Bearings.Single(b => b.Bearing == "big-end");

    [Fact]
    public void The_grid_holds_every_shaft_against_every_set()
    {
        var c = Engine();
        Offer(c, "B", "crankshaft", n => [Start.Read($"K{n}.B", "crankpin-diameter", 72m)]);
        Shells(c, "C", 2.5m);
        Shells(c, "E", 2.626m);
        var fit = BigEnds(c);
        FitRow Row(string shaft, string shells) => fit.Grid.Single(r => r.Shaft == shaft && r.Shells == shells);
        // 77.05 − 2 · 2.626 − 71.748 = 0.050; with standard shells the clearance grows by the same quarter.
        Row("", "E").Cells[0].Clearance!.Value.ShouldBe(0.050, 1e-9);
        Row("", "C").Cells[0].Clearance!.Value.ShouldBe(0.302, 1e-9);
        Row("B", "C").Cells[1].Clearance!.Value.ShouldBe(0.050, 1e-9);
        Row("B", "E").Cells[2].Clearance!.Value.ShouldBe(-0.202, 1e-9);
        Row("", "E").All!.Value.ShouldBeGreaterThan(0.9);
        Row("", "C").All!.Value.ShouldBeLessThan(0.001);
        Row("B", "C").Cells[0].Journal.ShouldBe("K1.B");
        fit.Ways.Where(w => w.By == FitBy.AsItIs).Select(w => (w.Shaft, w.Shells)).ShouldBe([("", "E"), ("B", "C")], ignoreOrder: true);
        fit.Ways[0].Words.ShouldContain("fits now");
    }

    [Fact]
    public void Where_nothing_fits_one_set_is_bought_or_the_shaft_is_ground()
    {
        var c = Engine();
        Shells(c, "C", 2.5m);
        var buy = BigEnds(c).Ways.Single();
        buy.By.ShouldBe(FitBy.OneSet);
        // 0.25 mm and .010 in are told apart by no micrometer: the one that lies nearer the middle is named.
        buy.Step.ShouldBeOneOf("0.25", ".010");
        buy.Words.ShouldContain($"buy one set {buy.Step}");

        var worn = Engine(71.87m);
        worn.Readings.AddRange([
            Start.Read("K1", "unworn-at-fillet", 71.99m),
            Start.Read("K2", "unworn-at-fillet", 71.99m),
            Start.Read("K3", "unworn-at-fillet", 71.99m),
        ]);
        var grind = BigEnds(Measured(worn)).Ways.Single();
        (grind.By, grind.Step).ShouldBe((FitBy.Grinding, "0.50"));
        // A shaft that must be ground for what was seen on it fits nothing as it is, whatever its clearance.
        var scored = Engine();
        Shells(scored, "C", 2.626m);
        BigEnds(scored).Ways[0].By.ShouldBe(FitBy.AsItIs);
        scored.Findings.Add(Start.Saw("K2", "journal-scored", 2));
        BigEnds(scored).Ways.Single().By.ShouldBe(FitBy.Grinding);
        // A set that is at hand for that size goes before one that is bought.
        Shells(scored, "E", 2.749m);
        var at = BigEnds(scored).Ways.Single();
        (at.By, at.Shells, at.Step).ShouldBe((FitBy.Grinding, "E", "0.50"));
        at.Words.ShouldContain("set E goes on it");
        scored.Findings.Add(Start.Saw("K2", "journal-crack", 1));
        BigEnds(scored).Ways.ShouldBeEmpty();
        grind.Words.ShouldContain("71.500");

        static EngineCase Measured(EngineCase e)
        {
            Shells(e, "C", 2.5m);
            return e;
        }
    }

    [Fact]
    public void Shells_known_by_their_inside_count_as_well_as_by_their_wall()
    {
        var c = Engine();
        Offer(c, "C", "rod-shells", n => [Start.Read($"R{n}U.C", "shell-inside-diameter", 71.80m)]);
        var row = BigEnds(c).Grid.Single(r => r.Shells == "C");
        row.Cells.ShouldAllBe(cell => Math.Abs(cell.Clearance!.Value - 0.052) < 1e-9);
        row.All!.Value.ShouldBeGreaterThan(0.8);
        // The grade is the same by either: half of what the wall is more.
        var by = SizeSteps.Usual(KnowledgeBase.BuiltIn, "crankpin", StepSystem.Metric);
        by.OfShell(2.5m, (77.05m - 71.80m) / 2).Name.ShouldBe("0.25");
    }

    /// <summary>Common practice, no source: what is measured is journal, housing and shell together. Journals and shells both by a small odd step are simply right.</summary>
    [Fact]
    public void A_stamp_that_agrees_raises_the_odds_of_both_and_one_that_does_not_is_shouted()
    {
        GradeCheck Check(string stamp, decimal? wall)
        {
            var c = Engine(71.945m);
            foreach (var place in new[] { "R1U", "R1L" })
            {
                var part = Start.Tag(place, Core.Index.Facing.Unknown);
                part.GradeStamped = stamp;
                c.Parts.Add(part);
                if (wall is { } w)
                {
                    c.Readings.Add(Start.Read(place, "shell-wall", w));
                }
            }

            return new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Gauge.Grades.Single(g => g.Place == "R1");
        }

        var alone = GradeOdds.OfJournal(72m, new Measured(71.945, 0.003), SizeSteps.Usual(KnowledgeBase.BuiltIn, "crankpin", StepSystem.Both));
        var right = Check(".002", 2.524m);
        (right.Loud, right.JournalGrade, right.ShellGrade).ShouldBe((false, ".002", ".002"));
        right.Odds[0].P.ShouldBeGreaterThan(alone.Single(o => o.Grade.Name == ".002").P);
        right.Agree!.Value.ShouldBeGreaterThan(0.9);
        Check(".002", null).JournalGrade.ShouldBe(".002");
        // A digit alone may be either; the size says which.
        Check("2", 2.524m).Loud.ShouldBeFalse();
        Check("2", 2.753m).Loud.ShouldBeTrue();
        Check(".020", 2.524m).Loud.ShouldBeTrue();
    }

    [Theory]
    [InlineData("2", ".002 .020")]
    [InlineData("1", ".001 .010")]
    [InlineData("10", ".010")]
    [InlineData("50", "0.50 .050")]
    [InlineData("25", "0.25")]
    [InlineData(".010", ".010")]
    [InlineData("STD", "STD")]
    [InlineData("7", "")]
    public void A_bare_digit_asks(string stamp, string grades) =>
        string.Join(' ', GradeStamp.Of(stamp, SizeSteps.Usual(KnowledgeBase.BuiltIn, "crankpin", StepSystem.Both)).Select(g => g.Name))
            .ShouldBe(grades);

    [Fact]
    public void Asked_stamps_are_settled_or_contradicted_by_their_wall()
    {
        IReadOnlyList<StampAsked> Asked(decimal? wall)
        {
            var c = Engine();
            var part = Start.Tag("R1U", Core.Index.Facing.Unknown);
            part.GradeStamped = "2";
            c.Parts.Add(part);
            if (wall is { } w)
            {
                c.Readings.Add(Start.Read("R1U", "shell-wall", w));
            }

            return new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Fits.Stamps;
        }

        Asked(null).Single().Words.ShouldContain(".002 or .020");
        Asked(2.752m).Single().Words.ShouldContain("is .020");
        Asked(2.60m).Single().Words.ShouldContain("does not agree");
    }

    // —— matching, against CP-SAT ——

    /// <summary>The greatest least goodness, by CP-SAT over the same whole numbers.</summary>
    private static int BestByCpSat(int[][] goodness)
    {
        var model = new CpModel();
        var x = goodness.Select((r, i) => r.Select((_, j) => model.NewBoolVar($"x{i},{j}")).ToArray()).ToArray();
        var worst = model.NewIntVar(-100_000, 100_000, "worst");
        for (var i = 0; i < goodness.Length; i++)
        {
            model.AddExactlyOne(x[i]);
            for (var j = 0; j < goodness[i].Length; j++)
            {
                model.Add(worst <= goodness[i][j]).OnlyEnforceIf(x[i][j]);
            }
        }

        for (var j = 0; j < goodness[0].Length; j++)
        {
            model.AddAtMostOne(x.Select(r => r[j]));
        }

        model.Maximize(worst);
        var solver = new CpSolver { StringParameters = "num_workers:1" };
        solver.Solve(model).ShouldBe(CpSolverStatus.Optimal);
        return (int)solver.Value(worst);
    }

    [Fact]
    public void The_worst_of_a_match_is_as_good_as_can_be() =>
        Gen.Select(Gen.Int[1, 8], Gen.Int[0, 4], Gen.Int[0, 100_000])
            .Sample(
                (rows, more, seed) =>
                {
                    var dice = new Random(seed);
                    int[][] goodness =
                    [
                        .. Enumerable.Range(0, rows).Select(_ => Enumerable.Range(0, rows + more).Select(_ => dice.Next(-50, 50)).ToArray()),
                    ];
                    var match = Pairing.Best([.. goodness.Select(r => r.Select(v => (double)v).ToArray())])!;
                    match.Of.Distinct().Count().ShouldBe(rows);
                    match.Of.Select((c, r) => goodness[r][c]).Min().ShouldBe((int)match.Worst);
                    ((int)match.Worst).ShouldBe(BestByCpSat(goodness));
                },
                iter: 40
            );

    /// <summary>Forty loose halves, twenty of either kind, for eight journals; and smaller ones, down to as many as are needed.</summary>
    [Theory]
    [InlineData(8, 20, 20, 1)]
    [InlineData(8, 20, 20, 2)]
    [InlineData(8, 9, 8, 3)]
    [InlineData(5, 5, 5, 4)]
    [InlineData(5, 7, 6, 5)]
    [InlineData(3, 3, 3, 6)]
    public void Halves_are_matched_as_well_as_can_be(int journals, int uppers, int lowers, int seed)
    {
        var dice = new Random(seed);
        int[] room = [.. Enumerable.Range(0, journals).Select(_ => dice.Next(4990, 5130))],
            up = [.. Enumerable.Range(0, uppers).Select(_ => 2490 + (5 * dice.Next(0, 10)) + dice.Next(-2, 3))],
            low = [.. Enumerable.Range(0, lowers).Select(_ => 2490 + (5 * dice.Next(0, 10)) + dice.Next(-2, 3))];
        int Goodness(int r, int i, int j) => -Math.Abs(room[r] - up[i] - low[j] - 30);
        var found = Pairing.BestHalves(journals, uppers, lowers, (r, i, j) => Goodness(r, i, j))!;
        found.Exact.ShouldBeTrue();
        found.First.Distinct().Count().ShouldBe(journals);
        found.Second.Distinct().Count().ShouldBe(journals);

        var model = new CpModel();
        var x = Enumerable.Range(0, journals).Select(r => Enumerable.Range(0, uppers).Select(i => model.NewBoolVar($"u{r},{i}")).ToArray()).ToArray();
        var y = Enumerable.Range(0, journals).Select(r => Enumerable.Range(0, lowers).Select(j => model.NewBoolVar($"l{r},{j}")).ToArray()).ToArray();
        var off = model.NewIntVar(0, 10_000, "off");
        for (var r = 0; r < journals; r++)
        {
            model.AddExactlyOne(x[r]);
            model.AddExactlyOne(y[r]);
            var clearance = LinearExpr.Constant(room[r] - 30) - LinearExpr.WeightedSum(x[r], up) - LinearExpr.WeightedSum(y[r], low);
            model.Add(clearance <= off);
            model.Add(-1 * clearance <= off);
        }

        for (var i = 0; i < uppers; i++)
        {
            model.AddAtMostOne(x.Select(r => r[i]));
        }

        for (var j = 0; j < lowers; j++)
        {
            model.AddAtMostOne(y.Select(r => r[j]));
        }

        model.Minimize(off);
        var solver = new CpSolver { StringParameters = "num_workers:2,max_time_in_seconds:60" };
        solver.Solve(model).ShouldBe(CpSolverStatus.Optimal);
        (-(int)found.Worst).ShouldBe((int)solver.Value(off));
    }

    [Fact]
    public void Too_few_halves_match_nothing() => Pairing.BestHalves(3, 2, 5, (_, _, _) => 1).ShouldBeNull();

    /// <summary>Heaviest with lightest, against full enumeration to eight pistons.</summary>
    [Fact]
    public void Weights_are_put_together_so_that_they_differ_least() =>
        Gen.Select(Gen.Int[2, 6], Gen.Int[0, 100_000])
            .Sample(
                (n, seed) =>
                {
                    var dice = new Random(seed);
                    Check(
                        [.. Enumerable.Range(0, n).Select(_ => (double)dice.Next(400, 430))],
                        [.. Enumerable.Range(0, n).Select(_ => (double)dice.Next(600, 630))]
                    );
                },
                iter: 60
            );

    [Fact]
    public void Weights_of_eight_are_put_together_so_that_they_differ_least() =>
        Check([412.1, 409.6, 415.3, 411.0, 410.2, 413.8, 408.9, 414.4], [630.5, 633.1, 628.8, 631.9, 634.2, 629.4, 632.6, 627.7]);

    private static void Check(double[] pistons, double[] rods)
    {
        double Spread(IReadOnlyList<int> of)
        {
            var sums = pistons.Select((p, i) => p + rods[of[i]]).ToArray();
            return sums.Max() - sums.Min();
        }

        var best = double.PositiveInfinity;
        Permute([.. Enumerable.Range(0, rods.Length)], 0);
        Spread(Pairing.LeastSpread(pistons, rods)).ShouldBe(best, 1e-9);

        void Permute(int[] of, int from)
        {
            if (from == of.Length)
            {
                best = Math.Min(best, Spread(of));
                return;
            }

            for (var i = from; i < of.Length; i++)
            {
                (of[from], of[i]) = (of[i], of[from]);
                Permute(of, from + 1);
                (of[from], of[i]) = (of[i], of[from]);
            }
        }
    }

    [Fact]
    public void Halves_of_several_sets_are_chosen_where_no_set_fits_as_a_whole()
    {
        var c = Engine();
        c.Readings.Add(Start.Read("K3", "crankpin-diameter", 71.748m));
        // One set a little thick, one a little thin: neither goes, but a thin half with a thick one does.
        Shells(c, "B", 2.642m);
        Shells(c, "C", 2.608m);
        var fit = BigEnds(c);
        fit.Grid.ShouldAllBe(r => r.All == null || r.All < 0.5);
        var chosen = fit.Halves.Single();
        chosen.Exact.ShouldBeTrue();
        chosen.Of.ShouldAllBe(h => Math.Abs(h.Clearance - 0.052) < 0.001);
        fit.Ways[0].By.ShouldBe(FitBy.Chosen);
    }

    [Fact]
    public void Pistons_of_size_classes_find_their_bores()
    {
        var c = Start.Case(Three);
        c.Limits.Add(Of("piston-clearance", least: 0.04m, most: 0.07m));
        decimal[] bores = [90.010m, 90.030m, 90.050m];
        decimal[] skirts = [89.995m, 89.955m, 89.975m];
        Offer(c, "B", "liner", n => [Start.Read($"C{n}.B", "bore-diameter", bores[n - 1])]);
        Offer(c, "C", "piston-set", n => [Start.Read($"P{n}.C", "piston-diameter", skirts[n - 1])]);
        var wet = c.Layout with { Bores = BoreBuild.WetLiner };
        c.Layout = wet;
        var fit = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Fits.Pistons.Single(p => p.Bores == "B");
        fit.Of.Select(p => (p.Bore, p.Piston)).ShouldBe([("C1.B", "P2.C"), ("C2.B", "P3.C"), ("C3.B", "P1.C")]);
        fit.All!.Value.ShouldBeGreaterThan(0.8);
    }

    /// <summary>A worn bore is tight at its least and loose at its greatest diameter; one that goes is matched to nothing.</summary>
    [Fact]
    public void A_worn_bore_fits_no_piston_at_its_ridge_alone()
    {
        Fits(90.010m).Single().All!.Value.ShouldBeGreaterThan(0.8);
        Fits(90.060m).Single().All!.Value.ShouldBeLessThan(0.05);
        Fits(90.010m, crack: true).ShouldBeEmpty();

        static Reading Bore(int n, string station, decimal value)
        {
            var reading = Start.Read($"C{n}.B", "bore-diameter", value);
            reading.Station = station;
            return reading;
        }

        IReadOnlyList<PistonsFit> Fits(decimal top, bool crack = false)
        {
            var c = Start.Case(Three with { Bores = BoreBuild.WetLiner });
            c.Limits.Add(Of("piston-clearance", least: 0.03m, most: 0.08m));
            Offer(c, "B", "liner", n => [Bore(n, "top", top), Bore(n, "bottom", 90.005m)]);
            Offer(c, "C", "piston-set", n => [Start.Read($"P{n}.C", "piston-diameter", 89.955m)]);
            if (crack)
            {
                c.Findings.Add(Start.Saw("C2.B", "bore-cracked", 2));
            }

            return [.. new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Fits.Pistons.Where(p => p.Bores == "B")];
        }
    }

    /// <summary>What was measured of some journals only, or of a shaft without housings, is told as far as it goes.</summary>
    [Fact]
    public void Half_a_record_fits_nothing_and_breaks_nothing()
    {
        var c = Engine();
        Shells(c, "C", 2.626m);
        c.Readings.RemoveAll(r => r.Place is "R2" or "K3");
        var fit = BigEnds(c);
        fit.Grid.ShouldAllBe(r => r.All == null);
        fit.Ways.ShouldBeEmpty();
        fit.Grid.Single(r => r.Shells == "C").Cells.Count(cell => cell.Clearance is not null).ShouldBe(1);
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Start.Root(), "demo/cases")))
        {
            var demo = CaseFile.FromJson(File.ReadAllText(file));
            Should.NotThrow(() => new CaseReader(demo.Case, KnowledgeBase.BuiltIn, demo.Instruments, Start.Today).Fits, file);
        }
    }

    // —— rings ——

    [Fact]
    public void A_ring_runs_again_when_every_test_holds_and_says_what_is_open()
    {
        var c = Start.Case();
        c.Limits.Add(Of("ring-end-gap", least: 0.3m, most: 0.6m));
        RingAdvice Ring() => new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Fits.Rings.Single(r => r.Ring == "P1T");
        c.Readings.AddRange([Start.Read("P1T", "ring-end-gap", 0.45m), Start.Read("C1", "bore-diameter", 100.01m)]);
        Ring().Again.ShouldBeNull();
        Ring().Words.ShouldContain("Not known whether looked at");
        c.Findings.AddRange([Start.Saw("P1T", "ring-side-worn", 0), Start.Saw("P1T", "ring-tension-lost", 0)]);
        Ring().Again.ShouldBe(true);
        Ring().Words.ShouldContain("this shop fits new ones");
        c.Findings.Add(Start.Saw("P1T", "ring-scuffed", 1));
        Ring().Again.ShouldBe(false);
        Ring().Words.ShouldContain("broken, scuffed");
    }

    /// <summary>Old gap + π × growth of the bore: 0.45 in 100.01 becomes 0.45 + π · 0.49 in 100.50.</summary>
    [Fact]
    public void A_bored_bore_opens_the_gap_by_pi_times_its_growth()
    {
        var c = Start.Case();
        c.Limits.AddRange([Of("ring-end-gap", least: 0.3m, most: 0.6m), Of("bore-diameter", 100m)]);
        c.Readings.AddRange([Start.Read("P1T", "ring-end-gap", 0.45m), Start.Read("C1", "bore-diameter", 100.1m)]);
        c.Findings.Add(Start.Saw("C1", "bore-scuffed", 3));
        var reader = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today);
        var size = reader.Plans.Single(p => p.Kind == "bore").Size!.Value;
        var ring = reader.Fits.Rings.Single(r => r.Ring == "P1T");
        ring.GapAfter!.Value.ShouldBe(0.45 + (Math.PI * (size - 100.1)), 1e-9);
        ring.Again.ShouldBe(false);
    }

    [Fact]
    public void A_new_ring_is_filed_to_its_use_and_the_second_no_less_than_the_first()
    {
        EngineCase With(decimal gap, string ring)
        {
            var c = Start.Case();
            c.Readings.AddRange([Start.Read(ring, "ring-end-gap", gap), Start.Read("C1", "bore-diameter", 100m)]);
            return c;
        }

        RingAdvice Told(EngineCase c, Schools schools) => new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today, schools).Fits.Rings.Single();
        Told(With(0.20m, "P1T"), new Schools { RingUse = RingUse.Boosted }).File!.Value.ShouldBe(0.30, 1e-9);
        Told(With(0.20m, "P1T"), new Schools()).File!.Value.ShouldBe(0.15, 1e-9);
        Told(With(0.50m, "P1T"), new Schools()).File.ShouldBe(0);
        Told(With(0.20m, "P1N"), new Schools()).Target!.Value.ShouldBe(0.35, 1e-9);
        Told(With(0.20m, "P1N"), new Schools { SecondGap = SecondGap.MayBeSmaller }).Target!.Value.ShouldBe(0.30, 1e-9);
    }

    [Fact]
    public void The_end_of_a_pegged_ring_stays_clear_of_the_ports()
    {
        (SheetFigure Figure, IReadOnlyList<Fact> Notes) Pegged(decimal peg, PortedRings school = PortedRings.AsMade)
        {
            var c = Start.Case(Start.TwoStrokeTwin);
            Reading At(string place, string id, decimal value, string station)
            {
                var r = Start.Read(place, id, value);
                (r.Station, r.Unit) = (station, "deg");
                return r;
            }

            c.Readings.AddRange([
                Start.Read("C1", "bore-diameter", 60m),
                Start.Read("P1T", "ring-end-gap", 0.3m),
                At("C1", "port-edge", 150m, "exhaust left"),
                At("C1", "port-edge", 210m, "exhaust right"),
                At("C1", "port-edge", 330m, "boost left"),
                At("C1", "port-edge", 20m, "boost right"),
                At("P1", "ring-peg", peg, "top groove"),
            ]);
            var reader = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today, new Schools { PortedRings = school });
            return (reader.Gauge.Figures.Single(f => f is { Characteristic: "ring-end-margin", Place: "P1T" }), reader.Fits.RingNotes);
        }

        // π · 60 · 12 / 360 − 0.15
        Pegged(138).Figure.Value.ShouldBe(6.133, 1e-3);
        Pegged(222).Figure.Value.ShouldBe(6.133, 1e-3);
        Pegged(146).Figure.Conformity.ShouldNotBe(Conformity.Inside);
        Pegged(155).Figure.Value.ShouldBeLessThan(0);
        Pegged(155).Notes.ShouldContain(n => n.Say().Contains("runs in a port"));
        // The port across 12 o'clock, too.
        Pegged(5).Figure.Value.ShouldBeLessThan(0);
        Pegged(138).Notes.ShouldBeEmpty();
        Pegged(138, PortedRings.One).Notes.Single().Say().ShouldContain("one ring");
    }
}
