using System.Globalization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

/// <summary>The registry of formulas: each meets its worked figure and refuses by name what cannot be.</summary>
public sealed class FormulaTests
{
    public static TheoryData<string> Ids() => [.. Formulas.All.Select(f => f.Id)];

    private static Formula Find(string id) => Formulas.All.Single(f => f.Id == id);

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_formula_meets_its_worked_figure(string id)
    {
        var formula = Find(id);
        formula.Of(formula.Worked.Inputs).ShouldBe(formula.Worked.Result, formula.Worked.Within);
        formula.Worked.Within.ShouldBeLessThanOrEqualTo(Math.Max(1e-9, Math.Abs(formula.Worked.Result) * 0.01));
        formula.Source.ShouldNotBeEmpty();
        formula.Worked.Source.ShouldNotBeEmpty();
        formula.Equation.ShouldNotBeEmpty();
        formula.Inputs.ShouldNotBeEmpty();
        formula.Inputs.Select(i => i.Id).ShouldBeUnique();
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void What_lies_out_of_range_is_refused_by_name_and_never_rounded(string id)
    {
        var formula = Find(id);
        for (var i = 0; i < formula.Inputs.Count; i++)
        {
            var input = formula.Inputs[i];
            input.Least.ShouldBeLessThan(input.Most, input.Id);
            var span = input.Most - input.Least;
            foreach (var bad in new[] { input.Least - (span * 0.001), input.Most + (span * 0.001), double.NaN, double.NegativeInfinity, 1e308 })
            {
                var values = formula.Worked.Inputs.ToArray();
                values[i] = bad;
                var problem = Should.Throw<ProblemException>(() => formula.Of(values)).Problems.ShouldHaveSingleItem();
                problem.Field.ShouldBe(input.Id);
                problem.Text.ShouldContain(input.Name.Say());
                problem.Remedy.ShouldNotBeEmpty();
            }
        }
    }

    [Fact]
    public void Ids_are_unique() => Formulas.All.Select(f => f.Id).ShouldBeUnique();

    [Fact]
    public void Every_formula_of_the_class_is_in_the_list() =>
        typeof(Formulas)
            .GetProperties()
            .Where(p => p.PropertyType == typeof(Formula))
            .Select(p => p.GetValue(null))
            .ShouldBe(Formulas.All, ignoreOrder: true);

    private static ProblemException Refused(string reckoner, params (string Id, string Typed)[] typed)
    {
        var all = BenchReckoners.Find(reckoner)!.Inputs.ToDictionary(i => i.Id, i => i.Example, StringComparer.Ordinal);
        foreach (var (id, text) in typed)
        {
            all.ContainsKey(id).ShouldBeTrue(id);
            all[id] = text;
        }

        return Should.Throw<ProblemException>(() => BenchReckoners.Find(reckoner)!.Reckon(all));
    }

    /// <summary>Each was once rounded, answered with nonsense, or answered at all.</summary>
    [Theory]
    [InlineData("ring-gap", "gap", "-0.2")]
    [InlineData("temperature", "tp", "-300")]
    [InlineData("conformity", "least", "0.2")]
    [InlineData("puller", "bolts", "2.6")]
    [InlineData("puller", "bolts", "0")]
    [InlineData("flutter", "width", "100")]
    [InlineData("puller", "engaged", "0")]
    [InlineData("undersize", "allowance", "-5")]
    [InlineData("oversize", "allowance", "-5")]
    [InlineData("thimble", "lines", "2.5")]
    [InlineData("ratio", "bore", "0")]
    [InlineData("hatch", "speed", "0")]
    [InlineData("film", "clearance", "0.04 to 0.05")]
    public void Out_of_range_input_is_refused_at_its_field(string reckoner, string field, string typed)
    {
        var problem = Refused(reckoner, (field, typed)).Problems[0];
        problem.Field.ShouldBe(field);
        problem.Remedy.ShouldNotBeEmpty();
    }

    /// <summary>Sheet and reckoner come to the same clearance, ratio and flutter speed from the same figures.</summary>
    [Fact]
    public void Sheet_and_reckoner_agree()
    {
        static string Text(double value) => value.ToString(CultureInfo.InvariantCulture);
        double Reckoned(string id, params (string Id, double Value)[] values)
        {
            var all = BenchReckoners.Find(id)!.Inputs.ToDictionary(i => i.Id, i => i.Example, StringComparer.Ordinal);
            foreach (var (input, value) in values)
            {
                all[input] = Text(value);
            }

            return BenchReckoners.Find(id)!.Reckon(all)[0].Value!.Value;
        }

        var c = Start.Case();
        (c.Stroke, c.RodLength) = (80, 140);
        c.Readings.AddRange([
            Start.Read("R4", "rod-housing-bore", 77.050m),
            Start.Read("R4U", "shell-wall", 2.624m),
            Start.Read("R4L", "shell-wall", 2.624m),
            Start.Read("K4", "crankpin-diameter", 71.748m),
            Start.Read("C1", "bore-diameter", 88m),
            Start.Read("C1", "chamber-volume", 50m),
            Start.Read("P1", "crown-volume", 0m),
            Start.Read("C1", "deck-height", 0.3m),
            Start.Read("H1J", "joint-thickness", 1.2m),
            Start.Read("H1J", "joint-bore", 89.5m),
            Start.Read("P1T", "ring-width", 1.5m),
        ]);
        var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, []);
        double Figure(string place, string id) =>
            sheet.Figures.Single(f => f.Place == place && f.Characteristic == id && f.Phase == Phase.AsFound).Value;
        Figure("R4", "big-end-clearance")
            .ShouldBe(Reckoned("bearing-clearance", ("housing", 77.050), ("upper", 2.624), ("lower", 2.624), ("journal", 71.748)), 1e-9);
        Figure("C1", "compression-ratio").ShouldBe(Reckoned("ratio", ("bore", 88)), 1e-9);
        Figure("P1T", "flutter-speed").ShouldBe(Reckoned("flutter", ("width", 1.5)), 1e-6);
    }

    [Fact]
    public void Without_the_crown_there_is_no_compression_ratio()
    {
        var c = Start.Case();
        c.Stroke = 80;
        c.Readings.AddRange([
            Start.Read("C1", "bore-diameter", 88m),
            Start.Read("C1", "chamber-volume", 50m),
            Start.Read("C1", "deck-height", 0.3m),
            Start.Read("H1J", "joint-thickness", 1.2m),
        ]);
        var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, []);
        sheet.Figures.ShouldNotContain(f => f.Characteristic == "compression-ratio");
        sheet.Notes.ShouldContain(n => n.Contains("crown"));
    }

    /// <summary>The usual gap stands in knowledge/limits alone: sheet and reckoner name the same for every use.</summary>
    [Fact]
    public void The_ring_gap_by_use_is_one_number_for_sheet_and_reckoner()
    {
        var least = new List<double>();
        foreach (var use in Enum.GetValues<RingUse>())
        {
            var c = Start.Case();
            c.Readings.AddRange([Start.Read("C1", "bore-diameter", 100m), Start.Read("P1T", "ring-end-gap", 0.4m)]);
            var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, [], new Schools { RingUse = use });
            var told = sheet.Figures.Single(f => f.Characteristic == "ring-end-gap").Limit!;
            var reckoner = BenchReckoners.Find("ring-gap")!;
            var all = reckoner.Inputs.ToDictionary(i => i.Id, i => i.Example, StringComparer.Ordinal);
            all["bore"] = "100";
            all["use"] = reckoner.Inputs.Single(i => i.Id == "use").Choices![(int)use].Id;
            var usual = reckoner.Reckon(all).Single(r => r.Name.StartsWith("Usual"));
            usual.Value!.Value.ShouldBe(told.Least!.Value, 1e-9);
            usual.Words.ShouldBe(told.SourceText.Say());
            told.IsRuleOfThumb.ShouldBeTrue();
            least.Add(told.Least.Value);
        }

        // About 0.0035 of the bore in ordinary use, 0.004 to 0.0045 hard, 0.005 to 0.006 boosted: common practice, no source.
        least[(int)RingUse.Ordinary].ShouldBe(0.35, 1e-9);
        least[(int)RingUse.HardDuty].ShouldBeInRange(0.40, 0.45);
        least[(int)RingUse.Boosted].ShouldBeInRange(0.50, 0.60);
    }

    /// <summary>A bore with three lobes is out of round by its greatest less its smallest diameter, whatever ellipse is laid through it.</summary>
    [Fact]
    public void A_lobed_bore_is_as_much_out_of_round_as_its_diameters_differ()
    {
        var c = Start.Case();
        var directions = KnowledgeBase.BuiltIn.Characteristic("bore-diameter")!.Directions.Keys.ToArray();
        directions.Length.ShouldBeGreaterThanOrEqualTo(2);
        var sizes = new[] { 88.00m, 88.05m, 88.02m, 88.01m };
        c.Readings.AddRange(
            directions.Select(
                (d, i) =>
                {
                    var r = Start.Read("C1", "bore-diameter", sizes[i % sizes.Length]);
                    (r.Station, r.Direction) = ("middle", d);
                    return r;
                }
            )
        );
        var sheet = SheetBuilder.Build(c.GaugeLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, []);
        sheet.Figures.Single(f => f.Characteristic == "bore-out-of-round").Value.ShouldBe(0.05, 1e-9);
    }
}
