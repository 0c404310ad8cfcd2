using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>
/// In which order the fasteners of a joint are tightened: from the middle outward and from side to side, so that it lies down evenly; loosened the other
/// way round. Common practice, no source: the maker’s order goes before it.
/// </summary>
public static class JointOrder
{
    /// <summary>Holes whose distance from the middle differs by less than this share of the farthest are thought as far.</summary>
    private const double AsFar = 0.12;

    /// <summary>How much less it counts that a hole lies across than along the joint. Ours.</summary>
    private const double Across = 0.2;

    /// <summary>Numbers of the holes in the order in which they are tightened; each once.</summary>
    public static IReadOnlyList<int> Tightened(FastenerSet set, Engine engine, IReadOnlyList<Hole> holes)
    {
        var joints = JointsOf(set, engine);
        return joints < 2 || holes.Count % joints != 0 ? OfOne(holes) : [.. holes.Chunk(holes.Count / joints).SelectMany(OfOne)];
    }

    /// <summary>How many joints a set holds together: caps of the mains are one with the case; rods, heads and camshafts are one each.</summary>
    public static int JointsOf(FastenerSet set, Engine engine) =>
        set.Per is FastenerCount.InAll or FastenerCount.PerMain ? 1 : Math.Max(1, FastenerLedger.CountOf(set.Per, engine));

    /// <summary>Numbers of the holes in the order in which they are loosened.</summary>
    public static IReadOnlyList<int> Loosened(FastenerSet set, Engine engine, IReadOnlyList<Hole> holes) =>
        [.. Tightened(set, engine, holes).Reverse()];

    /// <summary>Where the holes of a set lie that keeps no map: one after the other along the engine, as many at each station as belong to it.</summary>
    public static IReadOnlyList<Hole> Evenly(FastenerSet set, Engine engine)
    {
        var stations = Math.Max(1, FastenerLedger.CountOf(set.Per, engine));
        var each = Math.Max(1, set.Count);
        if (stations == 1)
        {
            return [.. Enumerable.Range(0, each).Select(i => Around(i, each))];
        }

        return
        [
            .. Enumerable
                .Range(0, stations * each)
                .Select(i =>
                    InTwoRows(i % each, each) switch
                    {
                        var (x, y) => new Hole(i + 1, 100 * ((i / each) + x) / stations, y, null, null),
                    }
                ),
        ];
    }

    /// <summary>Where the n-th of so many lies at its station: across from each other in two rows; a last one without another in the middle.</summary>
    private static (double X, double Y) InTwoRows(int n, int of)
    {
        var columns = (of + 1) / 2;
        return (((n / 2) + 0.5) / columns, n == of - 1 && of % 2 == 1 ? 50 : 50 + (n % 2 == 0 ? -Row : Row));
    }

    /// <summary>How far a row is drawn from the middle, of 100.</summary>
    private const double Row = 20;

    private static Hole Around(int i, int n)
    {
        var (sin, cos) = Math.SinCos(2 * Math.PI * i / n);
        return new Hole(i + 1, 50 + (42 * sin), 50 - (42 * cos), null, null);
    }

    private static IReadOnlyList<int> OfOne(IReadOnlyList<Hole> holes)
    {
        if (holes.Count == 0)
        {
            return [];
        }

        var (x, y) = (holes.Average(h => h.X), holes.Average(h => h.Y));
        double Round(Hole h) => Away(h.X - x, h.Y - y);
        // A joint that is no round flange is longer than it is high, though it is drawn in hundredths of both.
        var along = holes.Max(Round) - holes.Min(Round) > AsFar * holes.Max(Round) ? Across : 1;
        double Out(Hole h) => Away(h.X - x, along * (h.Y - y));
        var near = AsFar * holes.Max(Out);
        var left = holes.OrderBy(Out).ThenBy(h => h.Number).ToList();
        var order = new List<int>(holes.Count);
        while (left.Count > 0)
        {
            var least = Out(left[0]);
            var ring = left.Where(h => Out(h) <= least + near).OrderBy(h => h.Number).ToList();
            left.RemoveAll(ring.Contains);
            var done = new List<Hole>(ring.Count);
            while (ring.Count > 0)
            {
                // Every second one lies across from the one before; the others as far from all that are tight as can be.
                var next =
                    done.Count == 0 ? ring[0]
                    : done.Count % 2 == 1 ? ring.MaxBy(h => Far(h, done[^1]))!
                    : ring.MaxBy(h => done.Min(d => Far(h, d)))!;
                ring.Remove(next);
                done.Add(next);
            }

            order.AddRange(done.Select(h => h.Number));
        }

        return order;
    }

    /// <summary>To a hundredth of the joint: what is as far to the eye is as far.</summary>
    private static double Far(Hole a, Hole b) => Math.Round(Away(a.X - b.X, a.Y - b.Y));

    private static double Away(double x, double y) => Math.Sqrt((x * x) + (y * y));
}
