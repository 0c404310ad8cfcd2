using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Gauge;

/// <summary>Figures of the sheet beyond the big ends: uncertainty, temperature, shape, limits, rings, weights, before and after.</summary>
public sealed class FiguresTests
{
    private static readonly Instrument Fine = new()
    {
        Name = "fine",
        Kind = InstrumentKind.OutsideMicrometer,
        Resolution = 0.001m,
        PermissibleError = 0.002m,
    };

    private static GaugeSheet Build(Action<EngineCase> fill, Schools? schools = null, params Instrument[] instruments) =>
        Build(Start.InlineSix, fill, schools, instruments);

    private static GaugeSheet Build(EngineLayout layout, Action<EngineCase> fill, Schools? schools = null, params Instrument[] instruments)
    {
        var c = Start.Case(layout);
        fill(c);
        return SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, instruments, schools);
    }

    private static Reading At(
        string place,
        string characteristic,
        double value,
        string station = "",
        string direction = "",
        string instrument = "",
        decimal? temperature = null,
        decimal? gauge = null,
        Phase phase = Phase.AsFound
    )
    {
        var reading = Start.Read(place, characteristic, (decimal)value, instrument);
        (reading.Station, reading.Direction, reading.Temperature, reading.GaugeTemperature, reading.Phase) = (
            station,
            direction,
            temperature,
            gauge,
            phase
        );
        return reading;
    }

    private static SheetFigure Figure(GaugeSheet sheet, string place, string id, Phase phase = Phase.AsFound) =>
        sheet.Figures.Single(f => f.Place == place && f.Characteristic == id && f.Phase == phase);

    private static Limit Limit(string id, double? least, double? most, double? wear = null, double? nominal = null, string on = "") =>
        new()
        {
            Characteristic = id,
            On = on,
            Nominal = (decimal?)nominal,
            Least = (decimal?)least,
            Most = (decimal?)most,
            Wear = (decimal?)wear,
            SourceText = "manual, page 3",
        };

    // —— uncertainty ——

    /// <summary>GUM 4.2: repeats divide their scatter by √n; the permissible error stays. The scatter is that of MathNet.</summary>
    [Fact]
    public void Repeats_of_one_point_bring_their_scatter_into_the_budget()
    {
        double[] values = [71.982, 71.984, 71.983, 71.987, 71.984];
        var figure = Figure(
            Build(
                c => c.Readings.AddRange(values.Select(v => At("K1", "crankpin-diameter", v, "free-end side", "across the throw", "fine"))),
                null,
                Fine
            ),
            "K1",
            "crankpin-diameter"
        );
        figure.Value.ShouldBe(values.Average(), 1e-9);
        var scatter = figure.Estimate!.Influences.Single(i => i.Key.StartsWith("scatter/", StringComparison.Ordinal));
        scatter.Standard.ShouldBe(MathNet.Numerics.Statistics.Statistics.StandardDeviation(values) / Math.Sqrt(5), 1e-9);
        scatter.Freedom.ShouldBe(4);
        figure.Estimate.Influences.ShouldContain(i => i.Key == "error/fine" && Math.Abs(i.Standard - (0.002 / Math.Sqrt(3))) < 1e-12);
    }

    [Fact]
    public void What_differs_between_directions_is_no_scatter()
    {
        var sheet = Build(
            c =>
                c.Readings.AddRange([
                    At("K1", "crankpin-diameter", 71.98, "free-end side", "across the throw", "fine"),
                    At("K1", "crankpin-diameter", 71.94, "free-end side", "in line with the throw", "fine"),
                ]),
            null,
            Fine
        );
        Figure(sheet, "K1", "crankpin-diameter").Expanded.ShouldBeLessThan(0.003);
        Figure(sheet, "K1", "crankpin-out-of-round").Value.ShouldBe(0.04, 1e-9);
    }

    /// <summary>
    /// A piston of 88 mm read at 45 °C with a micrometer at 20 °C is 48 µm too long: α ΔT L = 22e-6 · 25 · 88 (any mechanics text; α from
    /// memory).
    /// </summary>
    [Fact]
    public void A_warm_piston_is_brought_back_to_twenty_degrees_and_its_uncertainty_grows()
    {
        var warm = Build(c => c.Readings.Add(At("P1", "piston-diameter", 88.0, instrument: "fine", temperature: 45, gauge: 20)), null, Fine);
        var cold = Build(c => c.Readings.Add(At("P1", "piston-diameter", 88.0, instrument: "fine", temperature: 20, gauge: 20)), null, Fine);
        (88.0 - Figure(warm, "P1", "piston-diameter").Value).ShouldBe(22e-6 * 25 * 88, 1e-4);
        Figure(cold, "P1", "piston-diameter").Value.ShouldBe(88.0, 1e-9);
        Figure(warm, "P1", "piston-diameter").Expanded.ShouldBeGreaterThan(Figure(cold, "P1", "piston-diameter").Expanded);
    }

    [Fact]
    public void A_room_of_unknown_warmth_spoils_aluminium_more_than_steel_and_cancels_between_peers()
    {
        double Expanded(string place, string id, Schools schools) =>
            Figure(Build(c => c.Readings.Add(At(place, id, 88, instrument: "fine")), schools, Fine), place, id).Expanded;
        var shed = new Schools { RoomSpan = 20 };
        (Expanded("P1", "piston-diameter", shed) / Expanded("P1", "piston-diameter", new Schools { RoomSpan = 0 })).ShouldBeGreaterThan(3);
        Expanded("K1", "crankpin-diameter", shed).ShouldBe(Expanded("K1", "crankpin-diameter", new Schools { RoomSpan = 0 }), 1e-9);
    }

    /// <summary>The transfer method: a bore gauge set with the micrometer that read the journal. The micrometer's error cancels (common practice; GUM 5.2.2).</summary>
    [Fact]
    public void The_transfer_method_takes_the_micrometers_error_out_of_the_clearance()
    {
        Instrument Micrometer(decimal error) =>
            new()
            {
                Name = "mic",
                Resolution = 0.001m,
                PermissibleError = error,
            };
        Instrument Gauge(string setWith) =>
            new()
            {
                Name = "gauge",
                Resolution = 0.001m,
                PermissibleError = 0.001m,
                SetWith = setWith,
            };
        double Expanded(decimal error, string setWith) =>
            Figure(
                Build(
                    c =>
                        c.Readings.AddRange([
                            At("K4", "crankpin-diameter", 72, instrument: "mic"),
                            At("R4", "shell-inside-diameter", 72.05, instrument: "gauge"),
                        ]),
                    null,
                    Micrometer(error),
                    Gauge(setWith)
                ),
                "R4",
                "big-end-clearance"
            ).Expanded;
        Expanded(0.010m, "mic").ShouldBe(Expanded(0.001m, "mic"), 1e-9);
        Expanded(0.010m, "").ShouldBeGreaterThan(4 * Expanded(0.010m, "mic"));
    }

    [Fact]
    public void An_undecided_figure_says_what_would_decide_it()
    {
        var coarse = new Instrument
        {
            Name = "coarse",
            Kind = InstrumentKind.OutsideMicrometer,
            Resolution = 0.01m,
            PermissibleError = 0.008m,
        };
        var sheet = Build(
            c =>
            {
                c.Readings.Add(At("K1", "crankpin-diameter", 71.966, instrument: "coarse"));
                c.Limits.Add(Limit("crankpin-diameter", 71.96, 72.0));
            },
            null,
            coarse,
            Fine
        );
        var figure = Figure(sheet, "K1", "crankpin-diameter");
        figure.Conformity.ShouldBe(Conformity.Undecided);
        figure.Decides.ShouldContain("fine would decide it");

        var scattered = Build(
            c =>
            {
                c.Readings.AddRange(
                    new[] { 71.965, 71.973, 71.969, 71.977 }.Select(v =>
                        At("K1", "crankpin-diameter", v, "free-end side", "across the throw", "fine")
                    )
                );
                c.Limits.Add(Limit("crankpin-diameter", 71.965, 72.0));
            },
            null,
            Fine
        );
        Figure(scattered, "K1", "crankpin-diameter").Decides.ShouldContain("readings at each point instead of 4");
    }

    [Fact]
    public void An_instrument_is_warned_of_when_it_is_coarse_of_the_wrong_kind_or_overdue()
    {
        var entry = KnowledgeBase.BuiltIn.Characteristic("crankpin-diameter")!;
        var caliper = new Instrument
        {
            Name = "caliper",
            Kind = InstrumentKind.Caliper,
            Resolution = 0.01m,
            PermissibleError = 0.03m,
            CalibrationDue = new DateOnly(2026, 10, 31),
        };
        var against = Suitability.Of(caliper, entry, 0.020, Start.Today).ToArray();
        against.Length.ShouldBe(3);
        against.ShouldContain(a => a.Serious && a.Words.Contains("Too coarse"));
        against.ShouldContain(a => a.Words.Contains("not what this is usually measured with"));
        against.ShouldContain(a => a.Words.Contains("Calibration was due on 31 October 2026"));
        Suitability.Of(Fine, entry, 0.020, Start.Today).ShouldBeEmpty();
        Suitability.Of(Fine, entry, 0.004, Start.Today).ShouldNotBeEmpty();
        Suitability.Of(Fine, entry, null, Start.Today).ShouldBeEmpty();
    }

    // —— shape ——

    private static readonly string[] Levels = ["top of ring travel", "middle", "bottom of ring travel", "below the rings"];

    private static void Bore(EngineCase c, double wear, double oval)
    {
        for (var i = 0; i < Levels.Length; i++)
        {
            var here = 88 + (wear * (3 - i) / 3);
            c.Readings.Add(At("C1", "bore-diameter", here, Levels[i], "along the crank"));
            c.Readings.Add(At("C1", "bore-diameter", here + (i == 0 ? oval : 0), Levels[i], "across"));
        }
    }

    [Fact]
    public void A_worn_bore_has_taper_ovality_and_wear_against_what_the_rings_never_reach()
    {
        var sheet = Build(c => Bore(c, 0.06, 0.02));
        Figure(sheet, "C1", "bore-taper").Value.ShouldBe(0.08, 1e-9);
        Figure(sheet, "C1", "bore-out-of-round").Value.ShouldBe(0.02, 1e-9);
        Figure(sheet, "C1", "bore-out-of-round").From.ShouldContain("at top of ring travel, greatest at 90°");
        Figure(sheet, "C1", "bore-wear").Value.ShouldBe(0.08, 1e-9);
        var profile = sheet.Profiles.ShouldHaveSingleItem();
        profile.Values[0][1]!.Value.ShouldBe(88.08, 1e-9);
        profile.Unworn.ShouldNotBeNull().ShouldBe(88, 1e-9);
        profile.Toward.ShouldBe(90);
    }

    [Fact]
    public void Shape_does_not_depend_on_the_order_of_reading() =>
        Gen.Int[0, 1_000_000]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var readings = Levels
                        .SelectMany(l =>
                            new[] { "along the crank", "across" }.Select(d => At("C1", "bore-diameter", 88 + (random.Next(200) / 1000.0), l, d))
                        )
                        .ToArray();
                    string Told(IEnumerable<Reading> of) =>
                        string.Join(
                            "|",
                            Build(c => c.Readings.AddRange(of))
                                .Figures.Where(f => f.Derived)
                                .Select(f => $"{f.Characteristic} {f.Value:0.000000} {f.Expanded:0.000000}")
                        );
                    var shuffled = readings.ToArray();
                    random.Shuffle(shuffled);
                    Told(shuffled).ShouldBe(Told(readings));
                },
                iter: 30
            );

    [Fact]
    public void Wear_is_reckoned_from_the_band_beside_the_fillet_before_the_manuals_size()
    {
        var sheet = Build(c =>
        {
            c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
            c.Readings.AddRange([
                At("K1", "crankpin-diameter", 71.95, "free-end side", "across the throw"),
                At("K1", "crankpin-diameter", 71.96, "drive-end side", "across the throw"),
                At("K2", "crankpin-diameter", 71.95, "free-end side", "across the throw"),
                At("K2", "crankpin-diameter", 71.96, "drive-end side", "across the throw"),
                At("K2", "unworn-at-fillet", 71.985),
                At("K2", "journal-middle", 71.955),
            ]);
        });
        Figure(sheet, "K1", "crankpin-wear").Value.ShouldBe(0.05, 1e-9);
        Figure(sheet, "K2", "crankpin-wear").Value.ShouldBe(0.035, 1e-9);
        Figure(sheet, "K2", "journal-hollow").Value.ShouldBe(0.03, 1e-9);
        Figure(sheet, "K1", "crankpin-taper").Value.ShouldBe(0.01, 1e-9);
    }

    // —— sums ——

    [Fact]
    public void A_plastic_strip_that_disagrees_is_told_with_its_likely_reasons()
    {
        GaugeSheet With(double strip) =>
            Build(c =>
                c.Readings.AddRange([At("K4", "crankpin-diameter", 72), At("R4", "shell-inside-diameter", 72.05), At("R4", "big-end-strip", strip)])
            );
        With(0.05).Notes.ShouldBeEmpty();
        var note = With(0.10).Notes.ShouldHaveSingleItem();
        note.ShouldContain("0.050 by");
        note.ShouldContain("0.100 plastic strip");
        note.ShouldContain("not torqued");
    }

    [Fact]
    public void Sums_over_a_cylinder_find_their_parts()
    {
        var sheet = Build(c =>
            c.Readings.AddRange([
                At("C3", "bore-diameter", 88.05, "middle", "across"),
                At("P3", "piston-diameter", 87.98),
                At("P3", "ring-groove-top-width", 1.56),
                At("P3T", "ring-width", 1.49),
                At("P3", "pin-bore", 22.01, "", "across"),
                At("W3", "wrist-pin-diameter", 22.0, "left boss"),
                At("C3", "deck-height", 0.4),
                At("H1J", "joint-thickness", 1.2),
                At("M2C", "main-shell-inside", 60.05),
                At("M2", "main-journal-diameter", 60.0),
                At("VU3A", "guide-bore", 8.05, "middle"),
                At("V3A", "valve-stem", 8.0, "in the middle"),
            ])
        );
        Figure(sheet, "P3", "piston-clearance").Value.ShouldBe(0.07, 1e-9);
        Figure(sheet, "P3", "ring-side-clearance-top").Value.ShouldBe(0.07, 1e-9);
        Figure(sheet, "P3", "pin-clearance-piston").Value.ShouldBe(0.01, 1e-9);
        Figure(sheet, "C3", "squish-height").Value.ShouldBe(1.6, 1e-9);
        Figure(sheet, "M2C", "main-clearance").Value.ShouldBe(0.05, 1e-9);
        Figure(sheet, "VU3A", "guide-clearance").Value.ShouldBe(0.05, 1e-9);
    }

    /// <summary>The worked example of the reckoner, from the case: 88 × 80, 50 cm³ chamber, 0.3 deck, 1.2 joint of 89.5 bore: 9.19 by hand.</summary>
    [Fact]
    public void Compression_ratio_and_flutter_come_from_the_case()
    {
        var sheet = Build(c =>
        {
            c.Stroke = 80;
            c.RodLength = 140;
            c.Readings.AddRange([
                At("C1", "bore-diameter", 88, "middle", "across"),
                At("C1", "chamber-volume", 50),
                At("P1", "crown-volume", 0),
                At("C1", "deck-height", 0.3),
                At("H1J", "joint-thickness", 1.2),
                At("H1J", "joint-bore", 89.5),
                At("P1T", "ring-width", 1.5875),
            ]);
        });
        Figure(sheet, "C1", "compression-ratio").Value.ShouldBe(9.19, 0.01);
        Figure(sheet, "C1", "compression-ratio").Expanded.ShouldBeInRange(0.005, 0.2);
        // 53,200 ft/s² are 16,215 m/s²; 0.040 m · (1 + 40/140) = 0.05143: reckoned by hand, 561.5 rad/s.
        Figure(sheet, "P1T", "flutter-speed").Value.ShouldBe(5362, 10);
    }

    [Fact]
    public void A_rolling_bearing_has_its_interference_and_loses_it()
    {
        var c = Start.Case(Start.TwoStrokeTwin);
        c.Limits.Add(Start.Standard("bearing-seat-diameter", 25m));
        c.Readings.AddRange([
            At("M1", "bearing-seat-diameter", 25.006),
            At("M2", "bearing-seat-diameter", 24.980),
            At("M2R", "bearing-bore", 24.995),
        ]);
        var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, []);
        // ISO 492, Normal class, 18–30 mm: bore 0 to −10 µm, so the middle is −5; from memory.
        Figure(sheet, "M1R", "bearing-interference").Value.ShouldBe(0.011, 1e-9);
        Figure(sheet, "M2R", "bearing-interference").Value.ShouldBe(-0.015, 1e-9);
        Figure(sheet, "M2R", "bearing-interference").Conformity.ShouldBe(Conformity.Outside);
    }

    [Fact]
    public void Before_and_after_stand_beside_each_other_and_the_cause_is_sought_in_what_was_found()
    {
        var sheet = Build(c =>
        {
            c.Limits.Add(Limit("big-end-clearance", 0.03, 0.09));
            c.Readings.AddRange([
                At("K4", "crankpin-diameter", 71.75),
                At("R4", "shell-inside-diameter", 72.05),
                At("K4", "crankpin-diameter", 72.0, phase: Phase.AfterWork),
            ]);
        });
        Figure(sheet, "R4", "big-end-clearance").Value.ShouldBe(0.30, 1e-9);
        Figure(sheet, "R4", "big-end-clearance", Phase.AfterWork).Value.ShouldBe(0.05, 1e-9);
        sheet.Signs.Where(s => s.Sign == "clearance-large").ShouldHaveSingleItem().SpeaksFor.ShouldBeTrue();
    }

    // —— limits ——

    [Fact]
    public void A_wear_limit_lies_beyond_the_tolerance_when_new()
    {
        GaugeSheet With(double v) =>
            Build(
                c =>
                {
                    c.Readings.Add(At("C1", "bore-diameter", v, instrument: "fine"));
                    c.Limits.Add(Limit("bore-diameter", 88.00, 88.02, 88.10, 88));
                },
                null,
                Fine
            );
        var worn = Figure(With(88.06), "C1", "bore-diameter");
        worn.Conformity.ShouldBe(Conformity.Inside);
        worn.AsNew.ShouldBe(Conformity.Outside);
        worn.Share.ShouldNotBeNull().ShouldBe(0.5, 1e-9);
        Figure(With(88.12), "C1", "bore-diameter").Conformity.ShouldBe(Conformity.Outside);
        Figure(With(88.01), "C1", "bore-diameter").AsNew.ShouldBe(Conformity.Inside);
        Figure(With(88.10), "C1", "bore-diameter").Conformity.ShouldBe(Conformity.Undecided);
    }

    [Fact]
    public void A_journal_wears_smaller()
    {
        var sheet = Build(
            c =>
            {
                c.Readings.AddRange([
                    At("M1", "main-journal-diameter", 91.94, instrument: "fine"),
                    At("M2", "main-journal-diameter", 91.90, instrument: "fine"),
                ]);
                c.Limits.Add(Limit("main-journal-diameter", 91.965, 91.985, 91.93));
            },
            null,
            Fine
        );
        Figure(sheet, "M1", "main-journal-diameter").Conformity.ShouldBe(Conformity.Inside);
        Figure(sheet, "M2", "main-journal-diameter").Conformity.ShouldBe(Conformity.Outside);
        // How much of the way from the smallest new size to the wear limit it has worn.
        Figure(sheet, "M1", "main-journal-diameter").Share.ShouldNotBeNull().ShouldBe((91.965 - 91.94) / (91.965 - 91.93), 1e-9);
        Figure(sheet, "M2", "main-journal-diameter").Share.ShouldNotBeNull().ShouldBe((91.965 - 91.90) / (91.965 - 91.93), 1e-9);
    }

    /// <summary>A ground journal is judged by the limit of its grade (common practice, no source).</summary>
    [Theory]
    [InlineData(71.985, Conformity.Inside, "manual, page 3")]
    [InlineData(71.735, Conformity.Inside, "less 0.25 for its grade")]
    [InlineData(71.485, Conformity.Inside, "less 0.50 for its grade")]
    [InlineData(71.690, Conformity.Outside, "less 0.25 for its grade")]
    public void A_ground_journal_is_held_against_the_limit_of_its_grade(double size, Conformity stands, string source)
    {
        var figure = Figure(
            Build(
                c =>
                {
                    c.Readings.Add(At("K1", "crankpin-diameter", size, instrument: "fine"));
                    c.Limits.Add(Limit("crankpin-diameter", 71.97, 72.0, nominal: 71.985));
                },
                null,
                Fine
            ),
            "K1",
            "crankpin-diameter"
        );
        figure.Conformity.ShouldBe(stands);
        figure.Limit!.SourceText.ShouldContain(source);
    }

    [Fact]
    public void A_limit_for_one_kind_goes_before_one_for_all_and_the_makers_before_a_rule_of_thumb()
    {
        var sheet = Build(c =>
        {
            c.Readings.AddRange([At("P1T", "ring-end-gap", 0.4), At("P1N", "ring-end-gap", 0.4), At("TH", "crank-end-float", 0.2)]);
            c.Limits.AddRange([Limit("ring-end-gap", 0.2, 0.5), Limit("ring-end-gap", 0.3, 0.6, on: "ring-second")]);
        });
        Figure(sheet, "P1T", "ring-end-gap").Limit!.Least.ShouldBe(0.2);
        Figure(sheet, "P1N", "ring-end-gap").Limit!.Least.ShouldBe(0.3);
        Figure(sheet, "TH", "crank-end-float").Limit!.IsRuleOfThumb.ShouldBeTrue();
    }

    [Fact]
    public void A_limit_typed_with_a_sign_counts_from_its_nominal()
    {
        var limit = GaugeEntries.Read(
            new LimitEntry(Guid.CreateVersion7(), "crankpin-diameter", "72", "-.025", "-.010", "mm", LimitSource.MakersManual, "p. 4", "-.05"),
            KnowledgeBase.BuiltIn
        );
        (limit.Least, limit.Most, limit.Wear).ShouldBe((71.975m, 71.990m, 71.95m));
        Should
            .Throw<ProblemException>(() =>
                GaugeEntries.Read(
                    new LimitEntry(Guid.CreateVersion7(), "crankpin-diameter", "", "71.9", "72", "mm", LimitSource.MakersManual, "p. 4", "71.95"),
                    KnowledgeBase.BuiltIn
                )
            )
            .Problems[0]
            .Field.ShouldBe("wear");
    }

    // —— schools ——

    [Fact]
    public void The_second_gap_is_told_by_the_schools_own_rule()
    {
        GaugeSheet With(SecondGap school) =>
            Build(c => c.Readings.AddRange([At("P1T", "ring-end-gap", 0.45), At("P1N", "ring-end-gap", 0.30)]), new Schools { SecondGap = school });
        With(SecondGap.NotSmaller).Notes.ShouldHaveSingleItem().ShouldContain("P1N");
        With(SecondGap.MayBeSmaller).Notes.ShouldBeEmpty();
    }

    [Fact]
    public void The_least_gap_follows_the_use_of_the_engine()
    {
        double Least(RingUse use) =>
            Figure(
                Build(
                    c => c.Readings.AddRange([At("C1", "bore-diameter", 100, "middle", "across"), At("P1T", "ring-end-gap", 0.40)]),
                    new Schools { RingUse = use }
                ),
                "P1T",
                "ring-end-gap"
            ).Limit!.Least!.Value;
        Least(RingUse.Ordinary).ShouldBe(0.35, 1e-9);
        Least(RingUse.HardDuty).ShouldBe(0.45, 1e-9);
    }

    // —— sets ——

    [Theory]
    [InlineData(15, 16, 14, "moved together")]
    [InlineData(20, 60, 110, "moved singly, all clockwise")]
    [InlineData(25, -30, 20, "both ways")]
    [InlineData(1, -2, 3, "stayed where they were put")]
    public void Rings_drift_as_a_pack_or_singly(double top, double second, double oil, string words)
    {
        var sheet = Build(c =>
        {
            foreach (var (ring, put, drift) in new[] { ("P2T", 350.0, top), ("P2N", 120.0, second), ("P2L", 240.0, oil) })
            {
                c.Readings.Add(At(ring, "ring-gap-position", put, "as fitted"));
                c.Readings.Add(At(ring, "ring-gap-position", (put + drift + 360) % 360, "as found"));
            }
        });
        var pack = sheet.Rings.ShouldHaveSingleItem();
        pack.Words.ShouldContain(words);
        pack.Rings[0].Drift!.Value.ShouldBe(top, 1e-9);
    }

    [Fact]
    public void Gaps_in_line_are_told_even_where_nobody_knows_how_they_were_fitted()
    {
        var pack = Build(c =>
            c.Readings.AddRange(new[] { "P2T", "P2N", "P2L" }.Select((r, i) => At(r, "ring-gap-position", (355 + (5 * i)) % 360, "as found")))
        ).Rings[0];
        pack.Words.ShouldContain("not known");
        pack.Words.ShouldContain("in line");
    }

    [Fact]
    public void The_lightest_sets_the_weight_of_the_set()
    {
        var scales = new Instrument
        {
            Name = "scales",
            Quantity = Quantity.Mass,
            Resolution = 0.1m,
            PermissibleError = 0.1m,
        };
        var set = Build(
            c => c.Readings.AddRange(new[] { 412.4, 413.1, 411.8, 411.86 }.Select((w, i) => At($"P{i + 1}", "part-weight", w, instrument: "scales"))),
            null,
            scales
        )
            .Weights.ShouldHaveSingleItem();
        (set.Lightest, set.Heaviest).ShouldBe(("P3", "P2"));
        set.Spread.ShouldBe(1.3, 1e-9);
        // 0.06 g more than the lightest lie within the uncertainty of the scales: nothing is taken off for it.
        set.Words.ShouldNotContain("P4");
    }

    [Fact]
    public void A_figure_that_grows_along_the_crank_is_a_trend()
    {
        Build(c => c.Readings.AddRange(Enumerable.Range(1, 6).Select(n => At($"K{n}", "crankpin-diameter", 72 - (n * 0.004)))))
            .Trends.ShouldContain(t => t.Characteristic == "crankpin-diameter" && !t.Rising && t.P < 0.01);
        Build(c => c.Readings.AddRange(new[] { 1, 5, 2, 6, 3, 4 }.Select((v, n) => At($"K{n + 1}", "crankpin-diameter", 72 - (v * 0.004)))))
            .Trends.ShouldBeEmpty();
    }

    // —— entry ——

    [Theory]
    [InlineData("71.98", 71.98)]
    [InlineData("50|43|48|0", 71.98)]
    [InlineData("+.003", 72.003)]
    [InlineData("2.834 in", 71.9836)]
    [InlineData("2-53/64", 71.8344)]
    public void A_reading_is_taken_as_it_is_typed(string typed, double mm)
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        var (nominal, median) = GaugeEntries.Expected(c.Readings, c.Limits, Start.Table(c.Layout), "crankpin-diameter", "crankpin", Phase.AsFound);
        var unit = typed.Contains('/', StringComparison.Ordinal) ? "in" : "mm";
        var entry = new ReadingEntry(
            Guid.CreateVersion7(),
            "k1",
            "crankpin-diameter",
            typed,
            unit,
            "",
            20,
            null,
            false,
            "free-end side",
            "across the throw"
        );
        var reading = GaugeEntries.Read(entry, Start.Table(c.Layout), KnowledgeBase.BuiltIn, nominal, median);
        ((double)reading.Value).ShouldBe(mm, 1e-4);
        (reading.Place, reading.Typed).ShouldBe(("K1", typed));
    }

    [Fact]
    public void A_wrong_station_or_temperature_is_refused_naming_what_would_do()
    {
        ProblemException Refused(string station, decimal? temperature) =>
            Should.Throw<ProblemException>(() =>
                GaugeEntries.Read(
                    new ReadingEntry(Guid.CreateVersion7(), "K1", "crankpin-diameter", "72", "mm", "", temperature, null, false, station),
                    Start.Table(Start.InlineSix),
                    KnowledgeBase.BuiltIn,
                    null,
                    null
                )
            );
        Refused("upstairs", null).Problems[0].Remedy.ShouldContain("free-end side");
        Refused("", 4000).Problems[0].Field.ShouldBe("temperature");
    }

    [Fact]
    public void A_main_shell_is_not_held_against_a_rods()
    {
        var c = Start.Case();
        c.Readings.AddRange(Enumerable.Range(1, 6).Select(n => At($"R{n}U", "shell-wall", 1.5)));
        GaugeEntries.Expected(c.Readings, c.Limits, Start.Table(c.Layout), "shell-wall", "main-shell-upper", Phase.AsFound).Median.ShouldBeNull();
        GaugeEntries.Expected(c.Readings, c.Limits, Start.Table(c.Layout), "shell-wall", "rod-shell-lower", Phase.AsFound).Median.ShouldBe(1.5m);
    }

    /// <summary>A blow-by of 15 inches of water that somebody noted under the compression gauge: not ± 140 inches.</summary>
    [Fact]
    public void A_running_figure_never_takes_the_error_of_another_instrument()
    {
        var gauge = new Instrument
        {
            Name = "Compression gauge",
            Kind = InstrumentKind.PressureGauge,
            Quantity = Quantity.Pressure,
            Resolution = 20,
            PermissibleError = 50,
        };
        const double InchesOfWater = 0.24908891;
        var sheet = Build(c => c.Readings.Add(At("EN", "blow-by", 15 * InchesOfWater, instrument: "Compression gauge")), instruments: gauge);
        Figure(sheet, "EN", "blow-by").Expanded.ShouldBeLessThan(0.5 * InchesOfWater);
        sheet.Notes.ShouldContain(n => n.Contains("cannot read it"));
        // What it can read it reads with its own error.
        var test = Build(c => c.Readings.Add(At("C1", "compression", 1000, instrument: "Compression gauge")), instruments: gauge);
        Figure(test, "C1", "compression").Expanded.ShouldBeGreaterThan(50);
        test.Notes.ShouldBeEmpty();
    }

    [Fact]
    public void Two_ways_that_agree_say_so_and_tighten_the_figure()
    {
        Reading[] bySizes = [At("R4", "shell-inside-diameter", 72.050), At("K4", "crankpin-diameter", 72.000)];
        var alone = Figure(Build(c => c.Readings.AddRange(bySizes)), "R4", "big-end-clearance");
        var both = Figure(Build(c => c.Readings.AddRange([.. bySizes, At("R4", "big-end-strip", 0.052)])), "R4", "big-end-clearance");
        both.Expanded.ShouldBeLessThan(alone.Expanded);
        both.Value.ShouldBeInRange(0.05, 0.052);
        both.From.ShouldContain("agree");
        // One that lies far off is told, and the first counts as it did.
        var apart = Build(c => c.Readings.AddRange([.. bySizes, At("R4", "big-end-strip", 0.150)]));
        Figure(apart, "R4", "big-end-clearance").Value.ShouldBe(0.05, 1e-9);
        apart.Notes.ShouldContain(n => n.Contains("differ by"));
    }

    /// <summary>An alloy barrel grows with the piston: its ring's gap closes less, or opens. Common practice, no source.</summary>
    [Fact]
    public void A_hot_gap_is_reckoned_of_the_metals_of_ring_and_bore()
    {
        double Hot(Metal? bore) =>
            Figure(
                Build(
                    Start.InlineSix with
                    {
                        BoreMetal = bore,
                    },
                    c =>
                        c.Readings.AddRange([
                            At("C1", "bore-diameter", 88, "middle", "across"),
                            At("P1T", "ring-end-gap", 0.35),
                            At("EN", "ring-temperature", 200),
                            At("EN", "bore-temperature", 140),
                        ])
                ),
                "P1T",
                "ring-gap-hot"
            ).Value;
        Hot(null).ShouldBe(0.35 - (Math.PI * 88 * 10.5e-6 * 60), 1e-4);
        Hot(Metal.Aluminium).ShouldBeGreaterThan(0.35);
    }

    // —— what nobody foresaw, two-strokes, presses ——

    [Fact]
    public void A_dimension_named_by_who_measures_it_is_read_limited_and_decided_like_any_other()
    {
        const string Hub = "own/length/Fan hub bore";
        var table = Start.Table(Start.InlineSix);
        var reading = GaugeEntries.Read(
            new ReadingEntry(Guid.NewGuid(), "EN", Hub, "40.12", "mm", "", null, null, false),
            table,
            KnowledgeBase.BuiltIn,
            null,
            null
        );
        var limit = GaugeEntries.Read(
            new LimitEntry(Guid.NewGuid(), Hub, "40", "", "+.05", "mm", LimitSource.MakersManual, "manual, page 7"),
            KnowledgeBase.BuiltIn
        );
        var sheet = Build(c =>
        {
            c.Readings.Add(reading);
            c.Limits.Add(limit);
        });
        Figure(sheet, "EN", Hub).Name.ShouldBe("Fan hub bore");
        Figure(sheet, "EN", Hub).Conformity.ShouldBe(Conformity.Outside);
        foreach (var none in new[] { "own/length/", "own/colour/Fan", "own/length/ Fan", $"own/length/{new string('x', 61)}", "own/gap" })
        {
            KnowledgeBase.BuiltIn.Characteristic(none).ShouldBeNull(none);
        }
    }

    /// <summary>A port at half stroke of an endless rod would open at 90°; with a rod of two strokes it opens sooner. Slider crank, any dynamics text.</summary>
    [Fact]
    public void Port_timing_comes_from_height_deck_stroke_and_rod()
    {
        Formulas.PortOpens.Of(100, 4000, 50, 0).ShouldBe(90, 0.8);
        var sheet = Build(
            Start.TwoStrokeTwin,
            c =>
            {
                (c.Stroke, c.RodLength) = (58, 115);
                c.Readings.AddRange([
                    At("C1", "port-timing-height", 33.5),
                    At("C1", "deck-height", 0.5),
                    At("C1", "bore-diameter", 62, "middle", "across"),
                    At("C1", "port-chord", 44),
                ]);
            }
        );
        var opens = Figure(sheet, "C1", "port-opens").Value;
        CrankHelp.Drop(opens, 58, 115).ShouldBe(33, 1e-6);
        Figure(sheet, "C1", "port-share").Value.ShouldBe(100.0 * 44 / 62, 1e-9);
        Figure(sheet, "C1", "port-share").Limit!.IsRuleOfThumb.ShouldBeTrue();
        Should.Throw<ProblemException>(() => Formulas.PortOpens.Of(58, 115, 80, 0)).Problems[0].Field.ShouldBe("height");
    }

    [Fact]
    public void A_press_fit_a_ring_behind_its_land_and_a_pulled_bore_are_sums()
    {
        var sheet = Build(c =>
            c.Readings.AddRange([
                At("VU1A", "press-fit-inner", 14.050),
                At("VU1A", "press-fit-outer", 14.010),
                At("C1", "bore-diameter", 88.000, "middle", "across"),
                At("C1", "bore-diameter-plated", 87.985, "middle", "across"),
                At("P1", "groove-root-top", 79.400),
                At("P1T", "ring-radial-thickness", 3.900),
            ])
        );
        Figure(sheet, "VU1A", "press-fit-interference").Value.ShouldBe(0.04, 1e-9);
        Figure(sheet, "C1", "bore-pull").Value.ShouldBe(-0.015, 1e-9);
        Figure(sheet, "P1", "ring-back-clearance").Value.ShouldBe(0.4, 1e-9);
    }

    /// <summary>What was found is not told a second time as after work because nothing was done.</summary>
    [Fact]
    public void An_interference_is_told_once()
    {
        var sheet = Build(
            Start.TwoStrokeTwin,
            c =>
            {
                c.Limits.Add(Start.Standard("bearing-seat-diameter", 25m));
                c.Readings.Add(At("M1", "bearing-seat-diameter", 25.006));
            }
        );
        sheet.Figures.Count(f => f.Characteristic == "bearing-interference").ShouldBe(1);
    }
}
