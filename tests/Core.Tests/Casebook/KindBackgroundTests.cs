using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests.Casebook;

public sealed class KindBackgroundTests
{
    private static readonly AddressTable Table = new(Engine.From(KnowledgeBase.BuiltIn.Families.First(f => f.Layout.Cylinders == 6).Layout));

    /// <summary>A case with figures at places that were looked at, each with the level of what was seen there; below nil nobody looked.</summary>
    private static EngineCase Case(params (string Place, int Level, double[] Read)[] places)
    {
        var c = new EngineCase { Layout = Table.Engine.Layout };
        foreach (var (place, level, read) in places)
        {
            if (level >= 0)
            {
                c.Findings.Add(
                    new Finding
                    {
                        Place = place,
                        Sign = "pin-scored",
                        Seen = level > 0 ? Seen.Present : Seen.Absent,
                        Level = level,
                    }
                );
            }

            c.Readings.AddRange(
                read.Select(v => new Reading
                {
                    Id = Guid.NewGuid(),
                    Place = place,
                    Characteristic = "crankpin-diameter",
                    Value = (decimal)v,
                })
            );
        }

        return c;
    }

    private static IReadOnlyDictionary<string, double[]> Figures(EngineCase c) => KindBackground.FiguresOf(c, Table);

    [Fact]
    public void Sound_places_of_other_engines_are_told_by_kind_of_part_each_place_once()
    {
        var a = Case(("K1", 0, [10, 12]), ("K2", 1, [14]), ("K3", -1, [77]));
        var b = Case(("K1", 0, [20]), ("K2", 3, [99]), ("M1", 0, [5]), ("K30", 0, [1]));
        KindBackground
            .Of([Figures(a), Figures(b)])
            .ShouldBe(
                [
                    new KindBackground("crankpin-diameter", "crankpin", 2, 3, 11, 14, 20),
                    new KindBackground("crankpin-diameter", "main-journal", 1, 1, 5, 5, 5),
                ],
                ignoreOrder: true
            );
        KindBackground.Of([Figures(Case(("K1", 2, [10])))]).ShouldBeEmpty();
    }

    [Fact]
    public void What_was_corrected_taken_back_or_read_after_work_is_no_background()
    {
        var c = Case(("K1", 0, [10, 11, 12, 13]));
        c.Readings[1].Corrects = c.Readings[0].Id;
        c.Readings[2].WithdrawnAt = DateTimeOffset.UtcNow;
        c.Readings[3].Phase = Enum.GetValues<Phase>()[^1];
        Figures(c).ShouldHaveSingleItem().Value.ShouldBe([11]);
    }

    [Fact]
    public void Of_an_even_number_the_middle_lies_between_two() =>
        KindBackground
            .Of([Figures(Case(("K1", 0, [1]), ("K2", 0, [2]))), Figures(Case(("K1", 0, [4]), ("K2", 0, [9])))])
            .ShouldHaveSingleItem()
            .Median.ShouldBe(3);

    [Fact]
    public void What_failed_in_a_case_is_what_was_severe_as_it_came_and_where_it_began_by_the_latest_finding()
    {
        var c = Case(("K1", 3, []), ("K2", 1, []), ("K3", 3, []), ("K4", 0, []));
        c.Findings[2].DoneBy = Enum.GetValues<DoneBy>().First(d => d is not (DoneBy.Running or DoneBy.RunAgain));
        c.Conclusions.Add(
            new Core.Trace.Conclusion
            {
                Id = Guid.NewGuid(),
                Place = "K2",
                At = DateTimeOffset.UnixEpoch,
            }
        );
        c.Conclusions.Add(
            new Core.Trace.Conclusion
            {
                Id = Guid.NewGuid(),
                Place = "K1",
                At = DateTimeOffset.UnixEpoch.AddDays(1),
            }
        );
        var of = KindCase.Of(c);
        of.Looked.ShouldBe(["K1", "K2", "K3", "K4"], ignoreOrder: true);
        of.Damaged.ShouldBe(["K1"]);
        of.Began.ShouldBe("K1");
    }
}
