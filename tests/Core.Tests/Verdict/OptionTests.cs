using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Tests.Verdict;

/// <summary>Cost against risk.</summary>
public sealed class OptionTests
{
    private static OptionLine Line(decimal price, LineKind kind = LineKind.Part, decimal quantity = 1, string currency = "EUR", decimal days = 0) =>
        new(Guid.CreateVersion7(), kind, "a line", quantity, price, currency, days, "", "");

    private static RepairOption Option(string title, decimal price, decimal? chance, decimal failing, decimal days = 0) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Title = title,
            Base = "EUR",
            Lines = [Line(price, days: days)],
            OwnChance = chance,
            Failing = failing > 0 ? [new FailureCost("second strip", failing, "EUR", false, false)] : [],
            Risks = chance > 0.01m ? ["used-rolling"] : [],
        };

    private static OptionTable Table(params RepairOption[] options)
    {
        var c = Start.Case();
        foreach (var (option, n) in options.Select((o, n) => (o, n)))
        {
            option.At = DateTimeOffset.UnixEpoch.AddMinutes(n);
            c.Options.Add(option);
        }

        return new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Options.Single();
    }

    /// <summary>
    /// B. Render and R. M. Stair, Quantitative Analysis for Management, chapter on decision analysis, the lumber company: a large plant gains 200,000 or loses
    /// 180,000, a small one gains 100,000 or loses 20,000, none nothing. At even odds 10,000, 40,000 and 0; greatest regrets 180,000, 100,000 and
    /// 200,000; the large one from 0.615 on, the small one from 0.167. Values from memory.
    /// </summary>
    [Fact]
    public void A_textbook_example_comes_out_as_published()
    {
        double[][] costs =
        [
            [-200_000, 180_000],
            [-100_000, 20_000],
            [0, 0],
        ];
        double[] even = [0.5, 0.5];
        costs.Select(c => -Decisions.Expected(c, even)).ShouldBe([10_000, 40_000, 0]);
        Decisions.GreatestRegret(costs).ShouldBe([180_000, 100_000, 200_000]);
        // As costs that grow with the chance of the favourable market: 180,000 − 380,000 p and 20,000 − 120,000 p.
        Decisions.BreakEven(180_000, -380_000, 20_000, -120_000)!.Value.ShouldBe(0.615, 5e-4);
        Decisions.BreakEven(20_000, -120_000, 0, 0)!.Value.ShouldBe(0.167, 5e-4);
        Decisions.BreakEven(1, 2, 3, 2).ShouldBeNull();
        Decisions.Spread([0, 100], [0.9, 0.1]).ShouldBe(30, 1e-9);
        Decisions.GreatestRegret([]).ShouldBeEmpty();
    }

    /// <summary>Two bearings and compound at 380 that fail one time in four, a rebuilt shaft at 900 that fails one time in a hundred; failing costs 1,600.</summary>
    [Fact]
    public void The_cheap_doubt_and_the_dear_warranty_are_told_with_what_would_change_the_choice()
    {
        var table = Table(Option("Two bearings", 380, 0.25m, 1600, days: 2), Option("Rebuilt shaft", 900, 0.01m, 1600, days: 14));
        var (cheap, dear) = (table.Options[0], table.Options[1]);
        (cheap.Expected, dear.Expected).ShouldBe((780m, 916m));
        cheap.Spread.ShouldBe(692.82m);
        cheap.Marks.ShouldBe([OptionMark.Quickest, OptionMark.LeastExpected], ignoreOrder: true);
        dear.Marks.ShouldBe([OptionMark.CheapestSound, OptionMark.Safest, OptionMark.LeastRegret], ignoreOrder: true);
        // Hindsight: it holds, and 520 were too much; it fails, and 380 + 1600 − 900 were.
        (cheap.Regret, dear.Regret).ShouldBe((1080m, 520m));
        var words = string.Join('\n', table.Changes.Select(w => w.Say()));
        // (916 − 380) / 1600 = 33.5 %; (900 − 380) / (0.25 − 0.01) = 2166.67.
        words.ShouldContain("more than 33.5 % (now 25 %)");
        words.ShouldContain("more than 2166.67 EUR (now 1600.00 EUR)");
        words.ShouldContain("136.00 EUR below");
    }

    [Fact]
    public void Failing_far_out_costs_more_and_a_supplier_s_warranty_bears_what_it_covers()
    {
        var option = Option("Two bearings", 400, 0.5m, 0);
        option.Failing = [new("second strip", 800, "EUR", false, true), new("tow", 1200, "EUR", true, false)];
        option.FarOut = 0.25m;
        var told = Table(option).Options.Single();
        (told.IfHere, told.IfFar, told.Failure).ShouldBe((800m, 2000m, 1100m));
        told.Expected.ShouldBe(950m);
        option.Warranty = WarrantyBy.Supplier;
        (Table(option).Options.Single().IfHere, Table(option).Options.Single().IfFar).ShouldBe((0m, 1200m));
        // Under one's own warranty it is one's own money.
        option.Warranty = WarrantyBy.OwnShop;
        Table(option).Options.Single().IfHere.ShouldBe(800m);
    }

    [Fact]
    public void What_is_paid_already_counts_for_nothing_and_what_comes_back_is_taken_off()
    {
        var option = Option("Sell", 0, 0m, 0);
        option.Lines =
        [
            Line(55, LineKind.OwnHours, 10),
            Line(300, LineKind.Paid),
            Line(120, LineKind.Credit),
            Line(80, LineKind.Extra),
            Line(30, days: 12),
            Line(5, days: 3),
        ];
        var told = Table(option).Options.Single();
        (told.Sure, told.Paid, told.Extras, told.Hours, told.Days).ShouldBe((545m, 300m, 80m, 10m, 12m));
    }

    [Fact]
    public void The_chance_comes_from_the_cause_that_stays_and_from_what_was_named()
    {
        var c = Start.Case();
        c.Conclusions.Add(
            new Conclusion
            {
                Id = Guid.CreateVersion7(),
                Cause = "oil-pump-failed",
                Place = "PU",
                Confidence = Confidence.Proven,
            }
        );
        var (blind, mended) = (Option("New shells", 300, null, 500), Option("New shells and pump", 420, null, 500));
        blind.Risks = mended.Risks = ["used-rolling"];
        mended.Removes = ["oil-pump-failed"];
        mended.At = DateTimeOffset.UnixEpoch.AddMinutes(1);
        c.Options.AddRange([blind, mended]);
        var options = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Options.Single().Options;
        var comesBack = Frequency.Usually.Probability();
        options[0].Chance.ShouldBe(1 - ((1 - comesBack) * (1 - Frequency.Rarely.Probability())), 1e-12);
        options[0].Risks[0].Words.ShouldContain("Oil pump");
        options[1].Chance.ShouldBe(Frequency.Rarely.Probability(), 1e-12);
    }

    [Fact]
    public void A_choice_stands_beside_what_it_was_chosen_on()
    {
        var c = Start.Case();
        c.Options.Add(Option("Bore", 500, 0.1m, 100));
        c.Choices.Add(
            new OptionChoice
            {
                Id = Guid.CreateVersion7(),
                Option = c.Options[0].Id,
                Title = "Bore",
                Why = "Owner wants years",
                Cost = 480,
            }
        );
        new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Options.Single().Chosen!.Cost.ShouldBe(480);
    }

    // —— money ——

    [Fact]
    public void Money_adds_up_to_the_last_cent_in_any_order()
    {
        var exchange = new Exchange(
            "EUR",
            new Dictionary<string, decimal>
            {
                ["USD"] = 0.9137m,
                ["JPY"] = 0.00612m,
                ["KWD"] = 2.987m,
            }
        );
        Gen.Select(Gen.Int[-1_000_000, 1_000_000], Gen.Int[0, 3].Select(i => new[] { "EUR", "USD", "JPY", "KWD" }[i]))
            .Array[1, 40]
            .Select(Gen.Int[0, 1_000_000])
            .Sample(
                (lines, seed) =>
                {
                    Money[] money = [.. lines.Select(l => new Money(l.Item1 / 1000m, l.Item2))];
                    var shown = money.Select(m => exchange.InBase(m)!.Value).ToArray();
                    shown.ShouldAllBe(s => decimal.Round(s, 2) == s);
                    var dice = new Random(seed);
                    money.OrderBy(_ => dice.Next()).Sum(m => exchange.InBase(m)!.Value).ShouldBe(shown.Sum());
                }
            );
    }

    [Theory]
    [InlineData("2.345", "EUR", "2.35")]
    [InlineData("-2.345", "EUR", "-2.35")]
    [InlineData("2.5", "JPY", "3")]
    [InlineData("2.0005", "KWD", "2.001")]
    public void Halves_go_away_from_nothing_at_the_smallest_coin(string amount, string currency, string rounded) =>
        Currencies
            .Rounded(decimal.Parse(amount, System.Globalization.CultureInfo.InvariantCulture), currency)
            .ShouldBe(decimal.Parse(rounded, System.Globalization.CultureInfo.InvariantCulture));

    [Fact]
    public void Without_a_rate_there_is_no_amount() =>
        new Exchange("EUR", new Dictionary<string, decimal>()).InBase(new Money(1, "USD")).ShouldBeNull();

    public static TheoryData<string, Action<RepairOption>> Bad() =>
        new()
        {
            { "title", o => o.Title = " " },
            { "scope", o => o.Scope = "nothing" },
            { "lines", o => o.Lines = [] },
            { "lines[0]", o => o.Lines = [Line(-1)] },
            { "lines[0]", o => o.Lines = [Line(1, quantity: -1)] },
            { "lines[0]", o => o.Lines = [Line(1) with { What = "" }] },
            { "currency", o => o.Lines = [Line(1, currency: "XYZ")] },
            { "rates", o => o.Lines = [Line(1, currency: "CHF")] },
            { "base", o => (o.Base, o.Lines) = ("EURO", [Line(1)]) },
            { "failing", o => o.Failing = [new("tow", -5, "EUR", false, false)] },
            { "ownChance", o => o.OwnChance = 1.2m },
            { "risks", o => o.Risks = ["bad-luck"] },
            { "removes", o => o.Removes = ["gremlins"] },
        };

    [Theory]
    [MemberData(nameof(Bad), DisableDiscoveryEnumeration = true)]
    public void What_cannot_be_is_refused_with_its_field(string field, Action<RepairOption> spoil)
    {
        var option = Option("Bore", 500, 0.1m, 100);
        option.Check(KnowledgeBase.BuiltIn).ShouldBeEmpty();
        spoil(option);
        option.Check(KnowledgeBase.BuiltIn).Select(p => p.Field).ShouldContain(field);
    }
}
