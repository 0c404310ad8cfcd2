using Shouldly;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using Xunit;

namespace VividSleuth.Core.Tests.Strip;

public class JointOrderTests
{
    private static readonly Engine Six = Start.Table(Start.InlineSix).Engine;

    private static Hole At(int number, double x, double y) => new(number, x, y, null, null);

    /// <summary>Ten bolts of a four-cylinder head in two rows: the middle two first, then outward from side to side. Common practice, no source.</summary>
    [Fact]
    public void A_head_is_tightened_from_the_middle_outward_and_from_side_to_side()
    {
        Hole[] head = [.. Enumerable.Range(0, 5).SelectMany(i => new[] { At((2 * i) + 1, 10 + (20 * i), 30), At((2 * i) + 2, 10 + (20 * i), 70) })];
        var order = JointOrder.Tightened(new FastenerSet { Count = 10 }, Six, head);
        order.Take(2).ShouldBe([5, 6]);
        order.Skip(2).Take(4).ShouldBe([3, 8, 4, 7]);
        order.Skip(6).Order().ShouldBe([1, 2, 9, 10]);
        JointOrder.Loosened(new FastenerSet { Count = 10 }, Six, head).ShouldBe(order.Reverse());
    }

    [Theory]
    [InlineData(4, new[] { 1, 3, 2, 4 })]
    [InlineData(6, new[] { 1, 4, 2, 5, 3, 6 })]
    [InlineData(8, new[] { 1, 5, 3, 7, 2, 6, 4, 8 })]
    public void Round_a_flange_every_second_one_lies_across(int count, int[] order) =>
        JointOrder.Tightened(new FastenerSet { Count = count }, Six, JointOrder.Evenly(new FastenerSet { Count = count }, Six)).ShouldBe(order);

    /// <summary>Two bolts on each of seven mains: the middle main first.</summary>
    [Fact]
    public void Main_caps_go_down_from_the_middle_outward_and_rods_one_after_the_other()
    {
        var mains = new FastenerSet { Count = 2, Per = FastenerCount.PerMain };
        JointOrder.Tightened(mains, Six, JointOrder.Evenly(mains, Six)).Take(2).ShouldBe([7, 8]);
        var rods = new FastenerSet { Count = 2, Per = FastenerCount.PerCylinder };
        JointOrder.Tightened(rods, Six, JointOrder.Evenly(rods, Six)).ShouldBe(Enumerable.Range(1, 12));
    }

    /// <summary>In hundredths of a drawing twice as wide as high: what lies nearer covers its neighbour’s number.</summary>
    [Theory]
    [InlineData(2, FastenerCount.PerCylinder)]
    [InlineData(4, FastenerCount.PerCylinder)]
    [InlineData(2, FastenerCount.PerMain)]
    [InlineData(5, FastenerCount.PerCamshaft)]
    public void Holes_that_nobody_drew_lie_apart_each_at_its_own_station(int count, FastenerCount per)
    {
        var set = new FastenerSet { Count = count, Per = per };
        var holes = JointOrder.Evenly(set, Six);
        holes.Count.ShouldBe(count * FastenerLedger.CountOf(per, Six));
        foreach (var (a, b) in holes.SelectMany((a, i) => holes.Skip(i + 1).Select(b => (a, b))))
        {
            Math.Sqrt((4 * (a.X - b.X) * (a.X - b.X)) + (1.44 * (a.Y - b.Y) * (a.Y - b.Y))).ShouldBeGreaterThan(16, $"{a.Number} and {b.Number}");
        }

        holes
            .Chunk(count)
            .Select(c => c.Max(h => h.X))
            .Zip(holes.Chunk(count).Skip(1).Select(c => c.Min(h => h.X)))
            .ShouldAllBe(x => x.First < x.Second);
        JointOrder.JointsOf(set, Six).ShouldBe(per == FastenerCount.PerMain ? 1 : holes.Count / count);
    }

    [Fact]
    public void Whatever_the_joint_each_hole_comes_once()
    {
        var random = new Random(7);
        for (var n = 0; n < 500; n++)
        {
            var set = new FastenerSet { Count = random.Next(1, 24) };
            Hole[] holes = [.. Enumerable.Range(1, set.Count).Select(i => At(i, random.Next(100), random.Next(100)))];
            JointOrder.Tightened(set, Six, holes).Order().ShouldBe(Enumerable.Range(1, set.Count));
        }
    }
}
