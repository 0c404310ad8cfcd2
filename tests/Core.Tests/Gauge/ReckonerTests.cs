using CsCheck;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class ReckonerTests
{
    /// <summary>
    /// W 500 lbf, 30 rev/s, 4 µreyn, r 0.75 in, c 0.0015 in, l 1.5 in: S 0.135, h₀/c 0.42, (r/c)f 3.50, Q/(rcNl) 4.28, P/p_max 0.42.
    /// Raimondi and Boyd's charts, worked example in Shigley's Mechanical Engineering Design; values from memory. Charts are read to
    /// about 2 %.
    /// </summary>
    [Fact]
    public void The_film_meets_the_worked_example_of_the_charts()
    {
        var (load, speed, viscosity, radius, clearance, width) = (500.0, 30.0, 4e-6, 0.75, 0.0015, 1.5);
        var sommerfeld = radius / clearance * (radius / clearance) * viscosity * speed / (load / (2 * radius * width));
        sommerfeld.ShouldBe(0.135, 0.0005);
        var film = ReynoldsFilm.At(sommerfeld, width / (2 * radius));
        film.LeastFilm.ShouldBe(0.42, 0.42 * 0.02);
        film.Friction.ShouldBe(3.50, 3.50 * 0.02);
        film.Flow.ShouldBe(4.28, 4.28 * 0.02);
        film.PressureRatio.ShouldBe(0.42, 0.42 * 0.025);
    }

    /// <summary>
    /// Raimondi and Boyd's tables, l/d = 1 and 1/2: ε = 0.2, 0.4, 0.6, 0.8 with S 0.631, 0.264, 0.121, 0.0446 and 2.03, 0.779, 0.319,
    /// 0.0923. ASLE Transactions 1 (1958), tables; values from memory.
    /// </summary>
    [Theory]
    [InlineData(1, 0.2, 0.631)]
    [InlineData(1, 0.4, 0.264)]
    [InlineData(1, 0.6, 0.121)]
    [InlineData(1, 0.8, 0.0446)]
    [InlineData(0.5, 0.2, 2.03)]
    [InlineData(0.5, 0.4, 0.779)]
    [InlineData(0.5, 0.6, 0.319)]
    [InlineData(0.5, 0.8, 0.0923)]
    public void The_film_meets_the_tables(double widthRatio, double eccentricity, double published) =>
        ReynoldsFilm.Solve(eccentricity, widthRatio).Sommerfeld.ShouldBe(published, 0.02 * published);

    /// <summary>For a narrow bearing the solution for finite width runs into Ocvirk's (NACA report 1157, 1953).</summary>
    [Theory]
    [InlineData(0.3)]
    [InlineData(0.6)]
    public void A_narrow_bearing_runs_into_Ocvirks_solution(double eccentricity)
    {
        double Off(double widthRatio) =>
            Math.Abs((ReynoldsFilm.Solve(eccentricity, widthRatio).Sommerfeld / ReynoldsFilm.OcvirkSommerfeld(eccentricity, widthRatio)) - 1);
        Off(0.125).ShouldBeLessThan(0.05);
        Off(0.125).ShouldBeLessThan(Off(0.5));
        Off(0.5).ShouldBeLessThan(Off(1));
    }

    [Fact]
    public void A_heavier_load_presses_the_film_thinner()
    {
        var films = new[] { 1.0, 0.5, 0.2, 0.1, 0.05 }.Select(s => ReynoldsFilm.At(s, 0.5).LeastFilm).ToArray();
        films.ShouldBe(films.OrderDescending());
        Should.Throw<ProblemException>(() => ReynoldsFilm.At(double.NaN, 0.5)).Problems[0].Remedy.ShouldContain("clearance");
        Should.Throw<ProblemException>(() => ReynoldsFilm.At(-1, 0.5));
        Should.Throw<ProblemException>(() => ReynoldsFilm.Solve(1, 0.5));
        Should.Throw<ProblemException>(() => ReynoldsFilm.Solve(0.5, 0));
    }

    /// <summary>
    /// JCGM 100:2008 (GUM), H.1, end gauge: 25, 9.7, 2.9 and 16.6 nm with 18, 25.6, 50 and 2 degrees of freedom give 32 nm, 16 effective
    /// degrees of freedom and U(99 %) = 93 nm; values from memory.
    /// </summary>
    [Fact]
    public void The_budget_of_the_end_gauge_adds_up()
    {
        var budget = Estimate.Of(
            0,
            [
                new Influence("comparison", Fact.Text("comparison"), 25, 18),
                new Influence("random effects of the comparator", Fact.Text("random effects of the comparator"), 9.7, 25.6),
                new Influence("expansion", Fact.Text("expansion"), 2.9, 50),
                new Influence("temperature", Fact.Text("temperature"), 16.6, 2),
            ]
        );
        budget.Standard.ShouldBe(32, 0.5);
        Math.Floor(budget.Freedom).ShouldBe(16);
        budget.ExpandedAt(0.99).ShouldBe(93, 0.6);
    }

    /// <summary>With nothing uncertain about the uncertainties the factor is the normal one: 1.96 at 95 %.</summary>
    [Fact]
    public void Known_contributions_take_the_normal_factor() =>
        Estimate
            .Of(0, [new Influence("a", Fact.Text("a"), 3, double.PositiveInfinity), new Influence("b", Fact.Text("b"), 4, double.PositiveInfinity)])
            .ExpandedAt(0.95)
            .ShouldBe(5 * 1.96, 0.001);

    [Fact]
    public void Effective_freedom_lies_between_the_least_and_the_sum() =>
        Gen.Select(Gen.Double[0.1, 10], Gen.Int[1, 30])
            .Array[2, 6]
            .Sample(lines =>
            {
                var budget = Estimate.Of(0, [.. lines.Select((l, i) => new Influence($"{i}", Fact.None, l.Item1, l.Item2))]);
                budget.Freedom.ShouldBeGreaterThanOrEqualTo(lines.Min(l => l.Item2) - 1e-9);
                budget.Freedom.ShouldBeLessThanOrEqualTo(lines.Sum(l => l.Item2) + 1e-6);
            });

    /// <summary>Mardia and Jupp, Directional Statistics, nine stops of a roulette wheel: mean 51°, resultant 0.711; values from memory.</summary>
    [Fact]
    public void The_roulette_wheel_has_its_published_mean()
    {
        var mean = Circular.Mean([43, 45, 52, 61, 75, 88, 88, 279, 357]);
        mean.Mean.ShouldBe(51, 0.5);
        mean.Resultant.ShouldBe(0.711, 0.0005);
        mean.P.ShouldBeLessThan(0.01);
        Circular.Mean([0, 90, 180, 270]).P.ShouldBeGreaterThan(0.9);
    }

    [Fact]
    public void Drift_takes_the_shorter_way_and_is_undone_backwards() =>
        Gen.Select(Gen.Int[0, 719], Gen.Int[0, 719])
            .Sample(
                (put, found) =>
                {
                    var drift = Circular.Drift(put, found);
                    drift.ShouldBeInRange(-180, 180);
                    ((put + drift - found) % 360).ShouldBe(0, 1e-9);
                    ((drift + Circular.Drift(found, put)) % 360).ShouldBe(0, 1e-9);
                }
            );

    /// <summary>i = 0.45 ∛D + 0.001 D; 30–50 mm: IT5 to IT8 11, 16, 25, 39 µm. ISO 286-1; values from memory.</summary>
    [Theory]
    [InlineData(5, 40, 11)]
    [InlineData(6, 40, 16)]
    [InlineData(7, 40, 25)]
    [InlineData(8, 40, 39)]
    [InlineData(5, 25, 9)]
    [InlineData(6, 25, 13)]
    [InlineData(7, 25, 21)]
    [InlineData(7, 60, 30)]
    [InlineData(6, 30, 13)]
    [InlineData(7, 100, 35)]
    // Where i = 0.45 ∛D + 0.001 D, rounded to whole µm, says otherwise.
    [InlineData(9, 40, 62)]
    [InlineData(10, 5, 48)]
    [InlineData(10, 8, 58)]
    [InlineData(11, 25, 130)]
    [InlineData(11, 40, 160)]
    [InlineData(9, 200, 115)]
    [InlineData(10, 450, 250)]
    [InlineData(11, 450, 400)]
    [InlineData(11, 2, 60)]
    [InlineData(5, 2, 4)]
    public void Tolerance_grades_meet_the_standard(int grade, double size, double published) => Fits.Tolerance(grade, size).ShouldBe(published);

    /// <summary>
    /// The standard's own formula, before it rounds: i = 0.45 ∛D + 0.001 D of the range's geometric mean, times 7, 10, 16, 25, 40, 64, 100. A slip in
    /// the table would stand out: it rounds by less than a tenth, in the first range by more.
    /// </summary>
    [Fact]
    public void The_table_of_grades_follows_its_formula()
    {
        double[] ranges = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];
        int[] units = [7, 10, 16, 25, 40, 64, 100];
        for (var r = 1; r < ranges.Length; r++)
        {
            var mean = Math.Sqrt(ranges[r - 1] * ranges[r]);
            var i = (0.45 * Math.Cbrt(mean)) + (0.001 * mean);
            for (var g = 0; g < units.Length; g++)
            {
                Fits.Tolerance(5 + g, ranges[r]).ShouldBe(units[g] * i, Math.Max(0.6, 0.1 * units[g] * i), $"IT{5 + g} at {ranges[r]}");
                Fits.Tolerance(5 + g, ranges[r]).ShouldBeGreaterThan(Fits.Tolerance(5 + g, ranges[r - 1]));
            }
        }
    }

    [Fact]
    public void A_grade_or_size_outside_the_table_is_refused()
    {
        Should.Throw<ProblemException>(() => Fits.Tolerance(4, 40)).Problems[0].Field.ShouldBe("grade");
        Should.Throw<ProblemException>(() => Fits.Tolerance(7, 600)).Problems[0].Field.ShouldBe("size");
        Should.Throw<ProblemException>(() => Fits.Tolerance(7, -1));
        Should.Throw<ProblemException>(() => Fits.Tolerance(7, double.NaN));
        Should.Throw<ProblemException>(() => Fits.OnShaft(75, 75));
    }

    /// <summary>
    /// A shaft k5 of 25 mm is +2 to +11 µm (ISO 286-2) and a Normal bore 0 to −10 µm (ISO 492): interference from 2 to 21 µm; of 40 mm +2
    /// to +13 and 0 to −12: 2 to 25. Values from memory.
    /// </summary>
    [Fact]
    public void A_bearing_on_its_shaft_has_the_interference_of_the_standards()
    {
        Fits.OnShaft(25, 25.002).Least.ShouldBe(2, 1e-6);
        Fits.OnShaft(25, 25.011).Most.ShouldBe(21, 1e-6);
        Fits.OnShaft(40, 40.002).Least.ShouldBe(2, 1e-6);
        Fits.OnShaft(40, 40.013).Most.ShouldBe(25, 1e-6);
        // Slides off by hand: a shaft worn under its nominal size. Common practice, no source.
        Fits.OnShaft(25, 24.985).Most.ShouldBeLessThan(0);
    }

    /// <summary>An aluminium part of 100 mm at 40 °C is 44 µm too long; a steel gauge at the same warmth hides 23 of them.</summary>
    [Fact]
    public void Lengths_come_back_to_twenty_degrees()
    {
        Formulas.AtReference.Of(100.044, Material.Aluminium.Expansion, 40, Material.Steel.Expansion, 20).ShouldBe(100, 1e-4);
        Formulas.AtReference.Of(100, Material.Aluminium.Expansion, 40, Material.Steel.Expansion, 40).ShouldBe(100 - 0.021, 1e-4);
        Gen.Double[5, 200]
            .Select(Gen.Double[-20, 90])
            .Sample((l, t) => Formulas.AtReference.Of(l, Material.Steel.Expansion, t, Material.Steel.Expansion, t).ShouldBe(l, 1e-9));
        // Aluminium moves twice as much as iron: common practice, no source.
        (Material.Aluminium.Expansion / Material.CastIron.Expansion).ShouldBe(2, 0.15);
    }

    /// <summary>A square engine of 100 mm sweeps π/4 litres; with a tenth of it left over the ratio is eleven.</summary>
    [Fact]
    public void Compression_ratio_follows_from_the_volumes()
    {
        Formulas.Swept.Of(100, 100).ShouldBe(785.398, 0.001);
        Formulas.CompressionRatio.Of(100, 100, 78.5398, 0, 0, 0, 100).ShouldBe(11, 1e-4);
        // A millimetre of joint and deck each is 7.85 cm³.
        Formulas.CompressionRatio.Of(100, 100, 78.5398 - 15.708, 0, 1, 1, 100).ShouldBe(11, 1e-3);
        Should.Throw<ProblemException>(() => Formulas.CompressionRatio.Of(100, 100, 10, -20, 0, 0, 100));
    }

    /// <summary>Top ring gap about 0.004 in for each inch of bore (common practice): enough for an iron ring 130 °C above its iron bore.</summary>
    [Fact]
    public void A_ring_gap_by_the_rule_of_thumb_survives_ordinary_heat()
    {
        var closing = Formulas.GapClosing.Of(100, Material.CastIron.Expansion, 250, Material.CastIron.Expansion, 130);
        closing.ShouldBe(Math.PI * 100 * 10.5e-6 * 120, 1e-9);
        closing.ShouldBeLessThan(100 * 0.004);
        Formulas.GapClosing.Of(100, Material.CastIron.Expansion, 20, Material.CastIron.Expansion, 20).ShouldBe(0);
    }

    /// <summary>At top dead centre a = r ω² (1 + r/l): stroke 100, rod 200 mm, 3,000 rpm: 0.05 · 314.16² · 1.25 = 6,169 m/s². Any dynamics text.</summary>
    [Fact]
    public void Acceleration_at_the_top_and_the_speed_at_which_a_ring_lifts_agree()
    {
        Formulas.TopAcceleration.Of(100, 200, 3000).ShouldBe(6168.5, 0.5);
        var speed = Formulas.FlutterSpeed.Of(100, 200, 1.5);
        Formulas.TopAcceleration.Of(100, 200, speed).ShouldBe(Formulas.FlutterOnset(1.5), 1e-6);
        // A ring of half the width stands twice the acceleration.
        Formulas.FlutterSpeed.Of(100, 200, 0.75).ShouldBe(speed * Math.Sqrt(2), 1e-6);
    }

    /// <summary>Onset accelerations of ring flutter as published by ring makers; values from memory: about 26,600, 53,000 and 106,600 ft/s².</summary>
    [Theory]
    [InlineData(3.175, 26_600)]
    [InlineData(1.5875, 53_000)]
    [InlineData(0.79375, 106_600)]
    public void Flutter_begins_at_the_published_accelerations(double width, double published) =>
        (Formulas.FlutterOnset(width) / 0.3048).ShouldBe(published, 0.005 * published);

    /// <summary>Equal stroking and surface speed cross at right angles; cross-hatch above 30° is common practice.</summary>
    [Fact]
    public void Hatch_angle_follows_from_the_speeds()
    {
        Formulas.HatchAngle.Of(100, 100, 100 * Math.PI, 100).ShouldBe(90, 1e-9);
        Formulas.HatchAngle.Of(80, 400, 60, 150).ShouldBeInRange(8, 12);
    }

    [Fact]
    public void Out_of_round_does_not_depend_on_the_order()
    {
        Gen.Double[50, 51]
            .Array[2, 8]
            .Sample(d =>
            {
                var readings = d.Select((v, i) => (Direction: 180.0 * i / d.Length, Diameter: v)).ToArray();
                FittedEllipse.Through(readings).Ovality.ShouldBe(FittedEllipse.Through([.. readings.Reverse()]).Ovality, 1e-9);
            });
        Should.Throw<ProblemException>(() => FittedEllipse.Through([(0, 50.0), (180, 50.1)]));
    }

    /// <summary>An ellipse that is known comes back from readings in any three or more directions.</summary>
    [Fact]
    public void A_known_ellipse_is_found_again() =>
        Gen.Select(Gen.Double[0.001, 0.1], Gen.Double[1, 179], Gen.Int[3, 8])
            .Sample(
                (ovality, direction, n) =>
                {
                    double At(double angle) => 72 + (ovality / 2 * Math.Cos(2 * (angle - direction) * Math.PI / 180));
                    var found = FittedEllipse.Through([.. Enumerable.Range(0, n).Select(i => (180.0 * i / n, At(180.0 * i / n)))]);
                    found.Ovality.ShouldBe(ovality, 1e-9);
                    Math.Abs(Circular.Drift(2 * direction, 2 * found.Direction)).ShouldBeLessThan(1e-4);
                }
            );
}
