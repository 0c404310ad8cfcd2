using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests.Casebook;

/// <summary>Likeness of cases against figures worked out by hand.</summary>
public sealed class NearCasesTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static double Bits(string key) => key[0] == 'r' ? 8 : 2;

    private static CaseSigns Case(string present, string absent = "", Guid? id = null)
    {
        var there = present
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(p => p.Split('#'))
            .ToDictionary(p => $"{p[0]}@bore", p => p.Length > 1 ? Enum.Parse<SignSpread>(p[1]) : SignSpread.One);
        return new CaseSigns(
            id ?? Guid.NewGuid(),
            there,
            there.Keys.Concat(absent.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(a => $"{a}@bore")).ToHashSet()
        );
    }

    private static NearCase Near(CaseSigns here, CaseSigns there) => NearCases.Of(here, [there], Bits).ShouldHaveSingleItem();

    [Fact]
    public void What_both_show_counts_by_what_it_says()
    {
        Near(Case("rare"), Case("rare")).Likeness.ShouldBe(8 / (8 + NearCases.Unseen), 1e-12);
        Near(Case("usual"), Case("usual")).Likeness.ShouldBe(2 / (2 + NearCases.Unseen), 1e-12);
        Near(Case("rare usual"), Case("rare usual")).Shared.Select(s => s.Sign).ShouldBe(["rare", "usual"]);
    }

    [Fact]
    public void What_was_looked_for_and_not_seen_sets_them_apart_and_what_nobody_looked_for_does_not()
    {
        var apart = Near(Case("rare usual"), Case("usual", absent: "rare"));
        apart.Likeness.ShouldBe(2 / (10 + NearCases.Unseen), 1e-12);
        apart.Apart.ShouldHaveSingleItem().There.ShouldBeNull();
        Near(Case("rare usual"), Case("usual")).Likeness.ShouldBe(2 / (2 + NearCases.Unseen), 1e-12);
        // The other way round it is as far.
        Near(Case("usual", absent: "rare"), Case("rare usual")).Likeness.ShouldBe(apart.Likeness, 1e-12);
        NearCases.Of(Case("rare"), [Case("usual", absent: "rare")], Bits).ShouldBeEmpty();
    }

    [Fact]
    public void One_cylinder_is_half_as_like_all_of_them()
    {
        Near(Case("rare#One"), Case("rare#All")).Likeness.ShouldBe(4 / (8 + NearCases.Unseen), 1e-12);
        Near(Case("rare#All"), Case("rare#All")).Likeness.ShouldBe(8 / (8 + NearCases.Unseen), 1e-12);
    }

    [Fact]
    public void The_nearest_comes_first()
    {
        var (a, b, c) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        NearCases
            .Of(Case("rare usual r2"), [Case("usual", "rare", a), Case("rare usual r2", "", b), Case("rare", "r2", c)], Bits)
            .Select(n => n.Id)
            .ShouldBe([b, c, a]);
    }

    [Fact]
    public void Places_are_told_by_kind_so_that_another_cylinder_is_a_like_place()
    {
        var layout = new EngineLayout
        {
            Arrangement = Arrangement.Inline,
            Cylinders = 4,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = [1, 3, 4, 2],
        };
        CaseSigns With(params (string Place, Seen Seen, DoneBy By)[] findings)
        {
            var c = new EngineCase
            {
                Layout = layout,
                Findings =
                [
                    .. findings.Select(f => new Finding
                    {
                        Id = Guid.NewGuid(),
                        Place = f.Place,
                        Sign = "overlay-wiped",
                        Seen = f.Seen,
                        Level = f.Seen == Seen.Present ? 2 : 0,
                        DoneBy = f.By,
                    }),
                ],
            };
            return CaseSigns.Of(c, c.Places());
        }

        var two = With(("R2U", Seen.Present, DoneBy.Running), ("R3U", Seen.Absent, DoneBy.Running));
        var four = With(("R4U", Seen.Present, DoneBy.Running), ("R1U", Seen.Absent, DoneBy.Running));
        two.Present.ShouldBe(four.Present);
        two.Present.ShouldHaveSingleItem().Value.ShouldBe(SignSpread.One);
        With(("R2U", Seen.Present, DoneBy.Running), ("R4U", Seen.Present, DoneBy.Running)).Present.Single().Value.ShouldBe(SignSpread.All);
        With(("R2U", Seen.Present, DoneBy.Running), ("R4U", Seen.Present, DoneBy.Running), ("R1U", Seen.Absent, DoneBy.Running))
            .Present.Single()
            .Value.ShouldBe(SignSpread.Some);
        // What the strip did itself is no sign of why it came.
        With(("R2U", Seen.Present, DoneBy.Strip)).Present.ShouldBeEmpty();
    }

    [Fact]
    public void A_sign_that_no_cause_leaves_says_what_its_leak_says_and_what_is_often_met_says_less()
    {
        var table = new AddressTable(Engine.From(Knowledge.Families.First(f => f.Layout.Cylinders == 6).Layout));
        var bits = NearCases.BitsIn(table, Knowledge);
        var sign = Knowledge.Sign("overlay-wiped")!;
        bits(CaseSigns.Key(sign.Id, "no-such-part")).ShouldBe(Math.Clamp(-Math.Log2(sign.Leak.Probability()), 0, 10), 1e-9);
        // What causes leave there makes it likelier than by its leak alone.
        var shell = table.Find("R1U")!.Kind.ReadAs;
        bits(CaseSigns.Key(sign.Id, shell)).ShouldBeLessThan(bits(CaseSigns.Key(sign.Id, "no-such-part")));
        bits(CaseSigns.Key(sign.Id, shell)).ShouldBeGreaterThan(0);
    }
}
