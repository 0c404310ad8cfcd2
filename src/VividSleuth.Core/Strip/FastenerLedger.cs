using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>One hole of a set that keeps a map.</summary>
/// <param name="X">From the left, in hundredths of the joint's width, seen from outside.</param>
/// <param name="Y">From the top, in hundredths of its height.</param>
/// <param name="Length">Length under the head in mm of what came out of it; null while nobody noted it.</param>
public sealed record Hole(int Number, double X, double Y, FastenerState? State, decimal? Length);

/// <summary>How a set of fasteners stands. In + Out + Broken is always Expected.</summary>
/// <param name="In">Still holding; below zero when more were counted out than the step expects.</param>
/// <param name="Out">Out of their holes.</param>
/// <param name="Broken">Broken, with the rest still in the hole.</param>
/// <param name="New">Of those that hold, new ones that were not out again since.</param>
/// <param name="Life">What has happened to the broken ones, the latest last.</param>
public sealed record SetLedger(
    FastenerSet Set,
    int Expected,
    int In,
    int Out,
    int Broken,
    int New,
    IReadOnlyList<Fact> Life,
    Keeping? Keeping,
    string Where,
    IReadOnlyList<Hole> Holes,
    bool MapMissing
);

/// <summary>Adds up what happened to the fasteners of a step. The order in which moves arrive does not matter.</summary>
public static class FastenerLedger
{
    public static int CountOf(FastenerCount per, Engine engine) =>
        per switch
        {
            FastenerCount.InAll => 1,
            FastenerCount.PerCylinder => engine.Layout.Cylinders,
            FastenerCount.PerMain => engine.Mains,
            FastenerCount.PerBank => engine.Banks,
            FastenerCount.PerCamshaft => engine.Camshafts,
            _ => throw new ArgumentOutOfRangeException(nameof(per)),
        };

    public static int Expected(FastenerSet set, Engine engine) => set.Count * CountOf(set.Per, engine);

    public static IReadOnlyList<SetLedger> Of(StripStep step, Engine engine, IEnumerable<FastenerMove> moves)
    {
        var of = moves.Where(m => m.Stands() && m.Step == step.Id).OrderBy(m => m.At).ThenBy(m => m.Id).ToLookup(m => m.Set, StringComparer.Ordinal);
        return [.. step.Fasteners.Select(s => Of(s, Expected(s, engine), [.. of[s.Id]]))];
    }

    /// <summary>Whether a move can stand in its step.</summary>
    /// <param name="step">The step that the move names, or null where the strip has none.</param>
    public static Problem? Check(FastenerMove move, StripStep? step, Engine engine, IEnumerable<FastenerMove> others)
    {
        if (step?.Fasteners.Find(s => s.Id == move.Set) is not { } set)
        {
            return Problem.Of("set", "strip.set-fasteners-step", ("set", move.Set));
        }

        if (move.Count < 1)
        {
            return Problem.Of("count", "strip.count-says-nothing", ("count", move.Count));
        }

        if (move.State is not (FastenerState.Out or FastenerState.BackIn or FastenerState.NewIn) && move.Count != 1)
        {
            return Problem.Of("count", "strip.broken-one-noted-itself");
        }

        var expected = Expected(set, engine);
        if (move.Hole < 0 || move.Hole > expected)
        {
            return Problem.Of("hole", "strip.no-such-hole", ("hole", move.Hole), ("expected", expected));
        }

        if (set.NeedsMap && move.State == FastenerState.Out && (move.Hole == 0 || move.Count != 1 || move.Length is null))
        {
            return Problem.Of("hole", "strip.lengths-differ-so-each-one", ("set", set.Name));
        }

        var before = Of(step, engine, others).Single(s => s.Set == set);
        return move.State switch
        {
            FastenerState.Out when move.Count > before.In => TooMany(
                Fact.Of(
                    "strip.more-out-would-make-expected",
                    ("count", move.Count),
                    ("made", before.Out + move.Count + before.Broken),
                    ("expected", expected)
                )
            ),
            FastenerState.Out when move.Hole > 0 && before.Holes.Any(h => h.Number == move.Hole && h.State == FastenerState.Out) => Problem.Of(
                "hole",
                "strip.hole-empty-already",
                ("hole", move.Hole)
            ),
            FastenerState.BackIn or FastenerState.NewIn when move.Count > before.Out => TooMany(Fact.Of("strip.only-out", ("out", before.Out))),
            FastenerState.Broken when before.In < 1 => TooMany(Fact.Of("strip.none-left-place-could-broken")),
            FastenerState.Soaked or FastenerState.Drilled or FastenerState.Sent or FastenerState.RestOut when before.Broken < 1 => TooMany(
                Fact.Of("strip.none-set-broken")
            ),
            _ => null,
        };
    }

    private static Problem TooMany(Fact text) => new("count", text, Fact.Of("strip.count-again"));

    private static SetLedger Of(FastenerSet set, int expected, FastenerMove[] moves)
    {
        int Sum(FastenerState state) => moves.Where(m => m.State == state).Sum(m => m.Count);
        var rests = Sum(FastenerState.RestOut);
        var outside = Sum(FastenerState.Out) - Sum(FastenerState.BackIn) - Sum(FastenerState.NewIn) + rests;
        var broken = Sum(FastenerState.Broken) - rests;
        var holes = set.NeedsMap || set.Holes.Count > 0 ? Holes(set, expected, moves) : [];
        var kept = moves.LastOrDefault(m => m.State == FastenerState.Out);
        return new SetLedger(
            set,
            expected,
            expected - outside - broken,
            outside,
            broken,
            NewOf(moves),
            [.. moves.Where(m => m.State is not (FastenerState.Out or FastenerState.BackIn or FastenerState.NewIn)).Select(Told)],
            kept?.Keeping,
            kept?.Where ?? "",
            holes,
            set.NeedsMap && holes.Any(h => h.State == FastenerState.Out && h.Length is null)
        );
    }

    /// <summary>New ones that hold: of what comes out or breaks after one went in, the new ones are thought first, as none is new twice.</summary>
    private static int NewOf(FastenerMove[] moves)
    {
        var fresh = 0;
        foreach (var move in moves)
        {
            fresh =
                move.State == FastenerState.NewIn ? fresh + move.Count
                : move.State is FastenerState.Out or FastenerState.Broken ? Math.Max(0, fresh - move.Count)
                : fresh;
        }

        return fresh;
    }

    private static Hole[] Holes(FastenerSet set, int expected, FastenerMove[] moves)
    {
        var of = moves.Where(m => m.Hole > 0).ToLookup(m => m.Hole);
        return
        [
            .. Enumerable
                .Range(1, expected)
                .Select(n =>
                {
                    var (x, y) = set.Holes.Count == expected ? (set.Holes[n - 1][0], set.Holes[n - 1][1]) : Edge(n - 1, expected);
                    var last = of[n].LastOrDefault();
                    return new Hole(
                        n,
                        x,
                        y,
                        last?.State is FastenerState.BackIn or FastenerState.NewIn ? null : last?.State,
                        of[n].LastOrDefault(m => m.Length is not null)?.Length
                    );
                }),
        ];
    }

    /// <summary>Evenly round the edge of the joint, from the upper left corner, clockwise.</summary>
    private static (double X, double Y) Edge(int i, int n)
    {
        var at = (double)i / n * 4;
        var along = 8 + (84 * (at - Math.Floor(at)));
        return (int)at switch
        {
            0 => (along, 8),
            1 => (92, along),
            2 => (100 - along, 92),
            _ => (8, 100 - along),
        };
    }

    private static Fact Told(FastenerMove move) =>
        Fact.Of(
            "strip.moved",
            ("hole", move.Hole > 0 ? move.Hole : null),
            ("what", move.State),
            ("day", DateOnly.FromDateTime(move.At.UtcDateTime)),
            ("by", move.By),
            ("note", move.Note)
        );
}
