using CsCheck;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using static VividSleuth.Core.Tests.Strip.StripTests;

namespace VividSleuth.Core.Tests.Strip;

public sealed class LedgerTests
{
    private static readonly Engine Six = Engine.From(Start.InlineSix);

    private static readonly StripStep Cover = new()
    {
        Id = "cover",
        Name = "Cover off",
        Fasteners =
        [
            new FastenerSet
            {
                Id = "bolts",
                Name = "cover bolts",
                Count = 2,
                Per = FastenerCount.PerCylinder,
            },
            new FastenerSet
            {
                Id = "long",
                Name = "long bolts",
                Count = 4,
                Lengths = [30, 55],
            },
        ],
    };

    private static SetLedger Of(string set, params FastenerMove[] moves) => FastenerLedger.Of(Cover, Six, moves).Single(s => s.Set.Id == set);

    private static FastenerMove Later(int minutes, FastenerMove move)
    {
        move.At = move.At.AddMinutes(minutes);
        return move;
    }

    private static Problem? Check(FastenerMove move, params FastenerMove[] others) => FastenerLedger.Check(move, Cover, Six, others);

    /// <summary>
    /// Whatever is entered, sent twice, sent late or taken back: what the rules let through always adds up, and the order in which
    /// it arrives changes nothing.
    /// </summary>
    [Fact]
    public void Counts_always_balance_under_any_order_of_edits_repeats_and_lost_replies() =>
        Gen.Select(Gen.Int[0, 9999].Array[60], Gen.Int[0, int.MaxValue])
            .Sample(
                (dice, seed) =>
                {
                    var ledger = new Dictionary<Guid, FastenerMove>();
                    foreach (var die in dice)
                    {
                        var move = Move("cover", "bolts", 1 + (die % 4), (FastenerState)(die / 4 % 7));
                        move.Count = move.State is FastenerState.Out or FastenerState.BackIn ? move.Count : 1;
                        move.At = DateTimeOffset.UnixEpoch.AddSeconds(die);
                        if (Check(move, [.. ledger.Values]) is null)
                        {
                            ledger[move.Id] = move;
                            // The reply was lost and it is sent again under its id.
                            ledger[move.Id] = move;
                        }

                        var set = Of("bolts", [.. ledger.Values]);
                        (set.In + set.Out + set.Broken).ShouldBe(12);
                        set.In.ShouldBeGreaterThanOrEqualTo(0);
                        set.Out.ShouldBeGreaterThanOrEqualTo(0);
                        set.Broken.ShouldBeGreaterThanOrEqualTo(0);
                    }

                    var shuffled = ledger.Values.ToArray();
                    new Random(seed).Shuffle(shuffled);
                    var (a, b) = (Of("bolts", [.. ledger.Values]), Of("bolts", shuffled));
                    (b.In, b.Out, b.Broken).ShouldBe((a.In, a.Out, a.Broken));
                    b.Life.ShouldBe(a.Life);

                    // Taking all back leaves it as it was at first.
                    foreach (var move in ledger.Values)
                    {
                        move.WithdrawnAt = DateTimeOffset.UtcNow;
                    }

                    Of("bolts", [.. ledger.Values]).In.ShouldBe(12);
                },
                iter: 300
            );

    [Fact]
    public void More_than_there_are_cannot_come_out_and_less_than_one_says_nothing()
    {
        Check(Move("cover", "bolts", 13))!.Text.ShouldContain("12 are expected");
        Check(Move("cover", "bolts", 12)).ShouldBeNull();
        Check(Move("cover", "bolts", 1), Move("cover", "bolts", 12))!.Field.ShouldBe("count");
        Check(Move("cover", "bolts", -1))!.Field.ShouldBe("count");
        Check(Move("cover", "bolts", 0))!.Field.ShouldBe("count");
        Check(Move("cover", "bolts", 1, FastenerState.BackIn))!.Text.ShouldContain("Only 0");
        Check(Move("cover", "nuts", 1))!.Field.ShouldBe("set");
    }

    [Fact]
    public void A_broken_one_has_a_life_and_holds_until_its_rest_is_out()
    {
        var broke = Move("cover", "bolts", 1, FastenerState.Broken);
        var set = Of("bolts", Move("cover", "bolts", 11), broke);
        (set.In, set.Out, set.Broken).ShouldBe((0, 11, 1));
        Check(Move("cover", "bolts", 1, FastenerState.Drilled))!.Text.ShouldContain("None of this set is broken");
        Check(Move("cover", "bolts", 1, FastenerState.Drilled), broke).ShouldBeNull();
        set = Of(
            "bolts",
            Move("cover", "bolts", 11),
            broke,
            Later(1, Move("cover", "bolts", 1, FastenerState.Soaked)),
            Later(2, Move("cover", "bolts", 1, FastenerState.RestOut))
        );
        (set.In, set.Out, set.Broken).ShouldBe((0, 12, 0));
        set.Life.Count.ShouldBe(3);
        set.Life[^1].ShouldContain("rest is out");
    }

    [Fact]
    public void Unequal_lengths_are_kept_by_hole()
    {
        Check(Move("cover", "long", 4))!.Field.ShouldBe("hole");
        Check(Move("cover", "long", 1, hole: 2))!.Field.ShouldBe("hole");
        Check(Move("cover", "long", 1, hole: 5, length: 30))!.Text.ShouldContain("no hole 5");
        var second = Move("cover", "long", 1, hole: 2, length: 55);
        Check(second).ShouldBeNull();
        Check(Move("cover", "long", 1, hole: 2, length: 30), second)!.Text.ShouldContain("empty already");
        var set = Of("long", second);
        set.Holes.Count.ShouldBe(4);
        set.Holes[1].Length.ShouldBe(55);
        set.Holes[0].State.ShouldBeNull();
        set.Holes.Select(h => (h.X, h.Y)).Distinct().Count().ShouldBe(4);
    }
}
