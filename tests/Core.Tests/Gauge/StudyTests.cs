using CsCheck;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

/// <summary>Repeatability and reproducibility of a study by variance components, and what the shop makes of them.</summary>
public sealed class StudyTests
{
    /// <summary>
    /// Worked example of ten parts, three appraisers and three trials in the AIAG manual Measurement Systems Analysis (Automotive Industry Action
    /// Group); readings and results from memory.
    /// </summary>
    private static readonly double[][] Published =
    [
        [0.29, -0.56, 1.34, 0.47, -0.80, 0.02, 0.59, -0.31, 2.26, -1.36],
        [0.41, -0.68, 1.17, 0.50, -0.92, -0.11, 0.75, -0.20, 1.99, -1.25],
        [0.64, -0.58, 1.27, 0.64, -0.84, -0.21, 0.66, -0.17, 2.01, -1.31],
        [0.08, -0.47, 1.19, 0.01, -0.56, -0.20, 0.47, -0.63, 1.80, -1.68],
        [0.25, -1.22, 0.94, 1.03, -1.20, 0.22, 0.55, 0.08, 2.12, -1.62],
        [0.07, -0.68, 1.34, 0.20, -1.28, 0.06, 0.83, -0.34, 2.19, -1.50],
        [0.04, -1.38, 0.88, 0.14, -1.46, -0.29, 0.02, -0.46, 1.77, -1.49],
        [-0.11, -1.13, 1.09, 0.20, -1.07, -0.67, 0.01, -0.56, 1.45, -1.77],
        [-0.15, -0.96, 0.67, 0.11, -1.45, -0.49, 0.21, -0.49, 1.87, -2.16],
    ];

    private static GaugeStudy Study(int parts, int people, int trials, Func<int, int, int, double> value)
    {
        var study = new GaugeStudy
        {
            Name = "pins",
            Characteristic = "crankpin-diameter",
            Instrument = "fine",
            Unit = "mm",
            Parts = [.. Enumerable.Range(1, parts).Select(p => $"part {p}")],
            People = [.. Enumerable.Range(1, people).Select(p => $"person {p}")],
            Trials = trials,
        };
        for (var i = 0; i < parts; i++)
        {
            for (var j = 0; j < people; j++)
            {
                for (var k = 0; k < trials; k++)
                {
                    study.Readings.Add(
                        new StudyReading
                        {
                            Id = Guid.NewGuid(),
                            Part = study.Parts[i],
                            Person = study.People[j],
                            Trial = k + 1,
                            Value = (decimal)value(i, j, k),
                        }
                    );
                }
            }
        }

        return study;
    }

    [Fact]
    public void The_published_example_comes_out_as_published()
    {
        var answer = GaugeStudies.Evaluate(Study(10, 3, 3, (i, j, k) => Published[(3 * j) + k][i]))!;
        double Squares(string id) => answer.Rows.Single(r => r.Id == id).Squares;
        Squares("people").ShouldBe(3.1673, 0.0001);
        Squares("parts").ShouldBe(88.3619, 0.0001);
        Squares("interaction").ShouldBe(0.3590, 0.0001);
        Squares("repeats").ShouldBe(2.7589, 0.0001);
        answer.Rows.Select(r => r.Freedom).ShouldBe([9, 2, 18, 60]);
        answer.Rows.Single(r => r.Id == "interaction").F!.Value.ShouldBe(0.434, 0.001);
        answer.Pooled.ShouldBeTrue();
        answer.Repeatability.ShouldBe(0.199933, 1e-5);
        answer.Reproducibility.ShouldBe(0.226838, 1e-5);
        answer.Both.ShouldBe(0.302373, 1e-5);
        answer.BetweenParts.ShouldBe(1.042327, 1e-5);
        answer.Share!.Value.ShouldBe(0.279, 0.001);
        answer.RepeatFreedom.ShouldBe(78);
    }

    /// <summary>
    /// One part measured by all: the one-way analysis with random effects. Strength of a fabric from four looms, four samples of each, in D. C.
    /// Montgomery, Design and Analysis of Experiments, on the random effects model; readings and results from memory.
    /// </summary>
    [Fact]
    public void One_part_measured_by_all_is_the_published_one_way_analysis()
    {
        double[][] looms =
        [
            [98, 97, 99, 96],
            [91, 90, 93, 92],
            [96, 95, 97, 95],
            [95, 96, 99, 98],
        ];
        var answer = GaugeStudies.Evaluate(Study(1, 4, 4, (_, j, k) => looms[j][k]))!;
        answer.Rows.Select(r => (r.Id, r.Freedom)).ShouldBe([("people", 3), ("repeats", 12)]);
        answer.Rows[0].Squares.ShouldBe(89.19, 0.005);
        answer.Rows[0].MeanSquare.ShouldBe(29.73, 0.005);
        answer.Rows[1].Squares.ShouldBe(22.75, 0.005);
        answer.Rows[1].MeanSquare.ShouldBe(1.90, 0.005);
        answer.Rows[0].F!.Value.ShouldBe(15.68, 0.005);
        (answer.Reproducibility * answer.Reproducibility).ShouldBe(6.96, 0.005);
        (answer.Repeatability * answer.Repeatability).ShouldBe(1.90, 0.005);
        answer.Share.ShouldBeNull();
        answer.Mean.ShouldBe(95.4375, 1e-9);
        answer.People.Sum(p => p.Bias).ShouldBe(0, 1e-9);
    }

    /// <summary>Drawn studies: the components that were put in come out, within what so few people and parts let them.</summary>
    [Fact]
    public void What_was_drawn_comes_out()
    {
        var random = new Random(7);
        double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        double repeats = 0,
            people = 0,
            parts = 0;
        const int Studies = 300;
        for (var s = 0; s < Studies; s++)
        {
            var part = Enumerable.Range(0, 8).Select(_ => 5 * Normal()).ToArray();
            var person = Enumerable.Range(0, 4).Select(_ => 2 * Normal()).ToArray();
            var answer = GaugeStudies.Evaluate(Study(8, 4, 3, (i, j, _) => 100 + part[i] + person[j] + Normal()))!;
            repeats += Math.Pow(answer.Repeatability, 2) / Studies;
            people += Math.Pow(answer.Reproducibility, 2) / Studies;
            parts += Math.Pow(answer.BetweenParts, 2) / Studies;
        }

        repeats.ShouldBe(1, 0.05);
        people.ShouldBe(4, 0.8);
        parts.ShouldBe(25, 3);
    }

    [Fact]
    public void A_person_who_reads_one_part_otherwise_is_more_than_chance()
    {
        var answer = GaugeStudies.Evaluate(Study(5, 3, 3, (i, j, k) => i + (i == 2 && j == 1 ? 3 : 0) + (0.01 * ((k * 7 % 3) - 1))))!;
        answer.Pooled.ShouldBeFalse();
        answer.Reproducibility.ShouldBeGreaterThan(0.5);
        answer.Repeatability.ShouldBeLessThan(0.02);
    }

    [Fact]
    public void A_study_waits_for_its_last_cell_and_the_latest_of_a_cell_counts()
    {
        var study = Study(3, 2, 2, (i, j, k) => i + (0.1 * j) + (0.01 * k));
        var last = study.Readings[^1];
        study.Readings.Remove(last);
        GaugeStudies.Evaluate(study).ShouldBeNull();
        study.Readings.Add(last);
        var before = GaugeStudies.Evaluate(study)!.Repeatability;
        study.Readings.Add(
            new StudyReading
            {
                Part = last.Part,
                Person = last.Person,
                Trial = last.Trial,
                Value = last.Value + 1,
                At = last.At.AddMinutes(1),
            }
        );
        GaugeStudies.Evaluate(study)!.Repeatability.ShouldBeGreaterThan(before);
    }

    [Fact]
    public void A_plan_that_can_tell_nothing_is_refused()
    {
        var study = Study(2, 2, 2, (_, _, _) => 1);
        study.Check(KnowledgeBase.BuiltIn).ShouldBeEmpty();
        (study.Trials, study.People, study.Characteristic) = (1, ["one", "One"], "big-end-clearance");
        study.Check(KnowledgeBase.BuiltIn).Select(p => p.Field).ShouldBe(["characteristic", "people", "trials"]);
    }

    /// <summary>One reading without repeats has the shop's own scatter; between two readings of one person what he does his own way cancels.</summary>
    [Fact]
    public void What_the_shop_learned_goes_into_its_uncertainty()
    {
        Instrument Micrometer(params StudiedScatter[] studied) =>
            new()
            {
                Name = "fine",
                Kind = InstrumentKind.OutsideMicrometer,
                Resolution = 0.001m,
                PermissibleError = 0.002m,
                Studied = [.. studied],
            };
        var learned = new StudiedScatter("crankpin-diameter", 0.003, 60, 0.004, 2, Guid.NewGuid(), "pins", DateTimeOffset.UnixEpoch);
        SheetFigure Pin(Instrument instrument, params string[] readers)
        {
            var c = Start.Case();
            c.Readings.AddRange(
                readers.Select(
                    (by, n) =>
                    {
                        var reading = Start.Read("K1", "crankpin-diameter", 72m - (0.01m * n), "fine");
                        (reading.ReadBy, reading.Station, reading.Direction) = (
                            by,
                            "free-end side",
                            n == 0 ? "in line with the throw" : "across the throw"
                        );
                        return reading;
                    }
                )
            );
            var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, [instrument]);
            return sheet.Figures.Single(f => f.Characteristic == (readers.Length == 1 ? "crankpin-diameter" : "crankpin-out-of-round"));
        }

        var plain = Pin(Micrometer(), "A").Estimate!.Standard;
        var studied = Pin(Micrometer(learned), "A").Estimate!;
        // The step of the scale is in the scatter already; the rest adds in squares.
        var step = 0.0005 / Math.Sqrt(3);
        (studied.Standard * studied.Standard).ShouldBe((plain * plain) - (step * step) + (0.003 * 0.003) + (0.004 * 0.004), 1e-9);
        studied.Influences.ShouldContain(i => i.Name.Contains("between people"));
        var same = Pin(Micrometer(learned), "A", "A").Estimate!.Standard;
        Pin(Micrometer(learned), "A", "B").Estimate!.Standard.ShouldBe(Math.Sqrt((same * same) + (2 * 0.004 * 0.004)), 1e-9);
    }
}
