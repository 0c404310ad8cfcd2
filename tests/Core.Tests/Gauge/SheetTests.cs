using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class SheetTests
{
    private static GaugeSheet Build(Action<EngineCase> fill, params Instrument[] instruments)
    {
        var c = Start.Case();
        fill(c);
        return SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, instruments);
    }

    private static void BigEnd(EngineCase c, decimal pin, decimal wall, decimal housing = 77.05m, int n = 4) =>
        c.Readings.AddRange([
            Start.Read($"K{n}", "crankpin-diameter", pin),
            Start.Read($"R{n}", "rod-housing-bore", housing),
            Start.Read($"R{n}U", "shell-wall", wall),
            Start.Read($"R{n}L", "shell-wall", wall),
        ]);

    private static SizeSteps Steps(StepSystem system) => SizeSteps.Usual(KnowledgeBase.BuiltIn, "crankpin", system);

    private static SheetFigure Clearance(GaugeSheet sheet) => sheet.Figures.Single(f => f.Characteristic == "big-end-clearance");

    /// <summary>Crankpin less 10 thou with standard shells: the clearance grows by the same 10 thou (common practice, no source).</summary>
    [Fact]
    public void Standard_shells_on_a_pin_ten_under_leave_ten_thou_more()
    {
        var standard = Clearance(Build(c => BigEnd(c, 72.000m, 2.500m)));
        var ground = Clearance(Build(c => BigEnd(c, 72.000m - 0.254m, 2.500m)));
        (ground.Value - standard.Value).ShouldBe(0.254, 1e-9);
        standard.Value.ShouldBe(0.05, 1e-9);
    }

    [Fact]
    public void The_two_ways_to_a_clearance_agree()
    {
        var walls = Clearance(Build(c => BigEnd(c, 72m, 2.5m)));
        var inside = Clearance(
            Build(c => c.Readings.AddRange([Start.Read("K4", "crankpin-diameter", 72m), Start.Read("R4", "shell-inside-diameter", 72.05m)]))
        );
        inside.Value.ShouldBe(walls.Value, 1e-9);
        inside.Expanded.ShouldBeLessThan(walls.Expanded);
    }

    /// <summary>About 0.001 in per inch of pin (common practice, no source): shown as a rule of thumb where no limit is entered.</summary>
    [Fact]
    public void Without_a_makers_figure_the_rule_of_thumb_is_told_as_such()
    {
        var figure = Clearance(Build(c => BigEnd(c, 72m, 2.5m)));
        figure.Limit!.IsRuleOfThumb.ShouldBeTrue();
        figure.Limit.Least!.Value.ShouldBeLessThan(0.072);
        figure.Limit.Most!.Value.ShouldBeGreaterThan(0.072);

        var limited = Clearance(
            Build(c =>
            {
                BigEnd(c, 72m, 2.5m);
                c.Limits.Add(
                    new Limit
                    {
                        Characteristic = "big-end-clearance",
                        Least = 0.036m,
                        Most = 0.092m,
                        SourceText = "manual, page 4",
                    }
                );
            })
        );
        limited.Limit!.SourceText.ShouldBe("manual, page 4");
        limited.Limit.IsRuleOfThumb.ShouldBeFalse();
    }

    [Fact]
    public void The_instrument_decides_how_far_a_figure_is_trusted()
    {
        var fine = new Instrument
        {
            Name = "fine",
            Resolution = 0.001m,
            PermissibleError = 0.002m,
        };
        var coarse = new Instrument
        {
            Name = "coarse",
            Resolution = 0.02m,
            PermissibleError = 0.02m,
        };
        SheetFigure Pin(string name) => Build(c => c.Readings.Add(Start.Read("K1", "crankpin-diameter", 72m, name)), fine, coarse).Figures[0];
        Pin("fine").Expanded.ShouldBe(2 * Uncertainty.OfReading(0.001, 0.002), 1e-12);
        Pin("coarse").Expanded.ShouldBeGreaterThan(5 * Pin("fine").Expanded);
    }

    [Fact]
    public void A_standard_shell_on_a_ground_pin_is_loud_and_becomes_a_sign()
    {
        var sheet = Build(c =>
        {
            BigEnd(c, 71.745m, 2.492m);
            c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("shell-wall", 2.5m)]);
        });
        var grade = sheet.Grades.ShouldHaveSingleItem();
        grade.Loud.ShouldBeTrue();
        grade.JournalGrade.ShouldBe("0.25");
        grade.ShellGrade.ShouldBe("STD");
        grade.Words.ShouldContain("R4U measures as STD");
        sheet.Signs.ShouldContain(s => s.Sign == "size-mismatch" && s.Place == "R4" && s.SpeaksFor);
        sheet.Signs.ShouldContain(s => s.Sign == "clearance-large" && s.SpeaksFor);
        sheet.Signs.ShouldContain(s => s.Sign == "clearance-small" && !s.SpeaksFor);
    }

    [Fact]
    public void A_shell_is_believed_by_its_size_and_not_by_its_stamp()
    {
        var sheet = Build(c =>
        {
            BigEnd(c, 71.748m, 2.625m);
            c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("shell-wall", 2.5m)]);
            var part = Start.Tag("R4U", Facing.Unknown);
            part.GradeStamped = "STD";
            c.Parts.Add(part);
        });
        sheet.Grades[0].Loud.ShouldBeTrue();
        sheet.Grades[0].Words.ShouldContain("believe the size, not the stamp");
        sheet.Grades[0].ShellGrade.ShouldBe("0.25");
    }

    [Fact]
    public void Agreeing_sizes_are_quiet_and_an_unreadable_stamp_is_noted()
    {
        var sheet = Build(c =>
        {
            BigEnd(c, 71.748m, 2.624m);
            c.Limits.AddRange([Start.Standard("crankpin-diameter", 72m), Start.Standard("shell-wall", 2.5m)]);
            var part = Start.Tag("R4U", Facing.Unknown);
            part.GradeStamped = "X?";
            c.Parts.Add(part);
        });
        sheet.Grades[0].Loud.ShouldBeFalse();
        sheet.Notes.ShouldHaveSingleItem().ShouldContain("X?");
        sheet.Signs.ShouldContain(s => s.Sign == "size-mismatch" && !s.SpeaksFor);
    }

    [Theory]
    [InlineData("STD", 0)]
    [InlineData("us 0.25", 0.25)]
    [InlineData(".010", 0.254)]
    [InlineData("020", 0.508)]
    [InlineData("0.50 mm", 0.50)]
    public void Stamps_are_read(string stamp, double under) => Grade.FromStamp(stamp)!.Under.ShouldBe((decimal)under);

    [Theory]
    [InlineData(71.998, "STD")]
    [InlineData(71.960, "STD")]
    [InlineData(71.750, "0.25")]
    [InlineData(71.735, "0.25")]
    [InlineData(71.495, "0.50")]
    public void Wear_only_takes_away_so_the_grade_is_the_one_just_above(double found, string grade) =>
        Steps(StepSystem.Both).OfJournal(72m, (decimal)found).Name.ShouldBe(grade);

    [Fact]
    public void The_next_undersize_leaves_the_grinding_allowance_or_there_is_none()
    {
        Steps(StepSystem.Metric).UndersizeThatCleansUp(72m, 71.735m, 0.05m)!.Name.ShouldBe("0.50");
        Steps(StepSystem.Metric).UndersizeThatCleansUp(72m, 71.98m, 0.05m)!.Name.ShouldBe("0.25");
        Steps(StepSystem.Metric).UndersizeThatCleansUp(72m, 71.52m, 0.05m)!.Name.ShouldBe("0.75");
        Steps(StepSystem.Metric).UndersizeThatCleansUp(72m, 70.5m, 0.05m).ShouldBeNull();
        new Grade(0.25m).IsLike(new Grade(0.254m)).ShouldBeTrue();
        new Grade(0.25m).IsLike(new Grade(0.50m)).ShouldBeFalse();
    }

    [Fact]
    public void Out_of_round_needs_two_readings_and_is_greatest_less_smallest()
    {
        Build(c => c.Readings.Add(Start.Read("K1", "crankpin-diameter", 72m))).Figures.ShouldHaveSingleItem();
        var sheet = Build(c =>
            c.Readings.AddRange([
                Start.Read("K1", "crankpin-diameter", 71.99m),
                Start.Read("K1", "crankpin-diameter", 71.93m),
                Start.Read("K1", "crankpin-diameter", 71.96m),
            ])
        );
        sheet.Figures.Single(f => f.Characteristic == "crankpin-out-of-round").Value.ShouldBe(0.06, 1e-9);
        sheet.Signs.ShouldContain(s => s.Sign == "journal-out-of-round" && s.SpeaksFor);
    }
}
