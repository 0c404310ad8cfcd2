using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Gauge;

public sealed class CsvTests
{
    private static CsvRead<Limit> Limits(string text) => GaugeTables.Limits(text, KnowledgeBase.BuiltIn);

    private static CsvRead<Reading> Readings(string text, EngineCase? engineCase = null, bool confirmed = false)
    {
        var c = engineCase ?? Start.Case();
        return GaugeTables.Readings(text, c.GaugeLog(), new AddressTable(Engine.From(c.Layout)), KnowledgeBase.BuiltIn, confirmed);
    }

    [Theory]
    [InlineData("characteristic,nominal,source_text\nbore-diameter,88.00,manual 3\n")]
    [InlineData("\uFEFFcharacteristic,nominal,source_text\r\nbore-diameter,88.00,manual 3\r\n")]
    [InlineData("characteristic;nominal;source_text\nbore-diameter;88,00;manual 3\n")]
    [InlineData("characteristic\tnominal\tsource_text\nbore-diameter\t88.00\tmanual 3\n")]
    [InlineData("Characteristic, Nominal ,SOURCE_TEXT\n bore-diameter , 88.00 mm , manual 3 \n\n")]
    [InlineData("characteristic,nominal,source_text\nbore-diameter,\"88,00\",\"manual 3\"")]
    [InlineData("characteristic,unit,nominal,source_text\nbore-diameter,in,3.4645669 in,manual 3")]
    public void Any_usual_spreadsheet_locale_is_read(string text)
    {
        var read = Limits(text);
        read.Problems.ShouldBeEmpty();
        ((double)read.Good.ShouldHaveSingleItem().Nominal!.Value).ShouldBe(88.00, 1e-5);
        read.Good[0].SourceText.ShouldBe("manual 3");
    }

    [Theory]
    [InlineData("five", "nominal")]
    [InlineData("NaN", "nominal")]
    [InlineData("1e308", "nominal")]
    [InlineData("20 bar", "nominal")]
    [InlineData("1,2,3", "nominal")]
    [InlineData("∞", "nominal")]
    [InlineData("", "most")]
    public void A_bad_cell_is_told_by_row_and_column_and_the_good_rows_stay(string cell, string column)
    {
        var read = Limits($"characteristic;nominal;source_text\nbore-diameter;88,0;p. 3\ncrankpin-diameter;{cell};p. 4\nshell-wall;1,5;p. 4\n");
        read.Good.Count.ShouldBe(2);
        read.Bad.ShouldBe(1);
        var problem = read.Problems.ShouldHaveSingleItem();
        problem.Row.ShouldBe(3);
        problem.Column.ShouldBe(column);
        problem.Remedy.ShouldNotBeEmpty();
    }

    [Fact]
    public void A_limit_without_a_source_or_of_nothing_known_is_refused_in_its_row()
    {
        var read = Limits("characteristic,nominal,source_text\nbore-diameter,88,\nflux-capacity,1,p. 1\nshell-wall,1.5,p. 4");
        read.Problems.Select(p => (p.Row, p.Column)).ShouldBe([(2, "sourceText"), (3, "characteristic")]);
        read.Good.ShouldHaveSingleItem();
    }

    [Fact]
    public void A_decimal_comma_in_a_table_parted_by_commas_is_told()
    {
        var read = Limits("characteristic,nominal,source_text\nbore-diameter,88,00,p. 3");
        read.Good.ShouldBeEmpty();
        read.Problems[0].Remedy.ShouldContain("quotation marks");
    }

    [Theory]
    [InlineData("")]
    [InlineData("\n\n")]
    [InlineData("nominal,least\n1,2")]
    [InlineData("PK\u0003\u0004\0\0binary")]
    public void What_is_no_table_is_refused_as_a_whole(string text) =>
        Should.Throw<ProblemException>(() => Limits(text)).Problems[0].Field.ShouldBe("file");

    /// <summary>Two hundred thousand rows: refused at the row where it is too many, without reading on.</summary>
    [Fact]
    public void Two_hundred_thousand_rows_are_refused_naming_the_row()
    {
        var text = "place,characteristic,typed\n" + string.Concat(Enumerable.Repeat("C1,bore-diameter,88.01\n", 200_000));
        Should.Throw<ProblemException>(() => Readings(text)).Problems[0].Text.ShouldContain("20002");
    }

    [Fact]
    public void Fifty_problems_are_told_and_the_rest_counted()
    {
        var read = Limits("characteristic,nominal,source_text\n" + string.Concat(Enumerable.Repeat("bore-diameter,x,p\n", 80)));
        read.Problems.Count.ShouldBe(CsvIn.MostTold);
        read.Bad.ShouldBe(80);
    }

    [Fact]
    public void Limits_written_and_read_again_are_the_same()
    {
        var limits = new[]
        {
            new Limit
            {
                Characteristic = "bore-diameter",
                Nominal = 88m,
                Most = 88.02m,
                Wear = 88.1m,
                Unit = "mm",
                SourceText = "manual, page 3",
            },
            new Limit
            {
                Characteristic = "ring-end-gap",
                On = "ring-top",
                Least = 0.3556m,
                Most = 0.508m,
                Unit = "in",
                SourceText = "=cmd|'/C calc'!A0",
            },
            new Limit
            {
                Characteristic = "blow-by",
                Nominal = 0.24908891m,
                Wear = 1.49453346m,
                Unit = "inH2O",
                SourceText = "p. \"9\"",
                Source = LimitSource.ShopStandard,
            },
        };
        var text = GaugeTables.Limits(limits, KnowledgeBase.BuiltIn);
        // A spreadsheet must not take a source for a formula.
        text.ShouldContain("'=cmd");
        var again = Limits(text);
        again.Problems.ShouldBeEmpty();
        foreach (var (was, now) in limits.Zip(again.Good))
        {
            (now.Characteristic, now.On, now.Nominal, now.Least, now.Most, now.Wear, now.Unit, now.Source, now.SourceText).ShouldBe(
                (was.Characteristic, was.On, was.Nominal, was.Least, was.Most, was.Wear, was.Unit, was.Source, was.SourceText)
            );
        }
    }

    [Fact]
    public void Readings_written_and_read_again_are_the_same()
    {
        var c = Start.Case();
        c.Readings.AddRange([
            Start.Read("K1", "crankpin-diameter", 71.748m),
            Start.Read("C2", "deck-height", -0.12m),
            Start.Read("K2", "crankpin-diameter", 53.2638m),
        ]);
        c.Readings[1].Typed = "-0.12";
        c.Readings[2].Typed = "2.097 in";
        c.Readings[2].Unit = "in";
        (c.Readings[0].Station, c.Readings[0].Direction, c.Readings[0].Temperature) = ("free-end side", "across the throw", 24.5m);
        c.Readings[0].Phase = Phase.AfterWork;
        var again = Readings(GaugeTables.Readings(c.GaugeLog(), KnowledgeBase.BuiltIn), confirmed: true);
        again.Problems.ShouldBeEmpty();
        again
            .Good.Select(r => (r.Place, r.Value, r.Station, r.Direction, r.Temperature, r.Phase))
            .ShouldBe(GaugeLog.Active(c.Readings).Select(r => (r.Place, r.Value, r.Station, r.Direction, r.Temperature, r.Phase)));
    }

    [Fact]
    public void Suspect_readings_are_problems_of_their_row_until_confirmed()
    {
        var c = Start.Case();
        c.Limits.Add(Start.Standard("crankpin-diameter", 72m));
        const string text =
            "place,characteristic,typed\nK1,crankpin-diameter,71.99\nK2,crankpin-diameter,719.9\nK9,crankpin-diameter,71.9\nK3,bore-diameter,71.9";
        var read = Readings(text, c);
        read.Good.ShouldHaveSingleItem();
        read.Problems.Select(p => (p.Row, p.Column)).ShouldBe([(3, "confirmed"), (4, "place"), (5, "characteristic")]);
        Readings(text, c, confirmed: true).Good.Count.ShouldBe(2);
    }

    [Fact]
    public void No_text_crashes_the_table_reader() =>
        Gen.String.Sample(text =>
        {
            try
            {
                Limits("characteristic,nominal,source_text\n" + text);
                Readings(text);
            }
            catch (ProblemException)
            {
                // Refused is a proper answer.
            }
        });
}
