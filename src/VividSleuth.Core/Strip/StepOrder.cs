using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>What must be at hand for one thing that is put in order; −1 where it does not matter.</summary>
/// <param name="Attitude">How the engine lies; always matters.</param>
/// <param name="Tool">The tool that is taken up.</param>
/// <param name="End">The end of the engine at which one stands.</param>
public readonly record struct Setup(int Attitude, int Tool, int End);

/// <summary>What an order costs, compared field by field in this order.</summary>
/// <param name="Turns">How often the engine changes its attitude.</param>
/// <param name="ToolChanges">How often one tool is laid down for another.</param>
/// <param name="Walks">How often one goes to the other end.</param>
public readonly record struct OrderCost(int Turns, int ToolChanges, int Walks)
{
    public bool IsLessThan(OrderCost other) => (Turns, ToolChanges, Walks).CompareTo((other.Turns, other.ToolChanges, other.Walks)) < 0;
}

/// <param name="Order">Indices in the order in which they are done.</param>
/// <param name="Proven">True when no order costs less; the number of turns alone is always the least.</param>
public sealed record OrderedSteps(IReadOnlyList<int> Order, OrderCost Cost, bool Proven);

/// <summary>
/// Puts steps in an order that keeps every precedence, with the fewest turns of the engine, then the fewest changes of tool, then
/// the least walking.
/// <para>
/// In one attitude it never hurts to do all that can be done there, so a sequence of attitudes settles what is done, and the
/// fewest turns are found by breadth-first search over sequences. Within the best sequences the same holds for a setup of
/// attitude, tool and end: what can be done without a change is done at once. Setups are searched by number of changes; where more
/// states arise than the limit, those that have done most are kept and the order is no longer called proven.
/// </para>
/// </summary>
public static class StepOrder
{
    private const int MostSequences = 4;
    private const int SequencesWhenSmall = 64;
    private const int SmallProblem = 40;
    private const int StatesWhenSmall = 1500;
    private const int StatesTimesSize = 3500;

    /// <param name="setups">What each step needs.</param>
    /// <param name="before">For each step, the steps that must come first. Must be free of cycles.</param>
    /// <param name="start">How things stand now; the first tool and the first end cost nothing where they are −1.</param>
    public static OrderedSteps Find(IReadOnlyList<Setup> setups, IReadOnlyList<IReadOnlyList<int>> before, Setup start)
    {
        var graph = new Graph(setups, before);
        if (setups.Count == 0)
        {
            return new OrderedSteps([], new OrderCost(0, 0, 0), Proven: true);
        }

        var (sequences, all) = Sequences(graph, start.Attitude);
        OrderedSteps? best = null;
        foreach (var sequence in sequences)
        {
            var found = Within(graph, sequence, start);
            if (best is null || found.Cost.IsLessThan(best.Cost))
            {
                best = found;
            }
        }

        return best! with
        {
            Proven = best.Proven && all,
        };
    }

    /// <summary>What a given order costs, counted step by step.</summary>
    public static OrderCost CostOf(IEnumerable<Setup> order, Setup start)
    {
        var (turns, changes, walks) = (0, 0, 0);
        var at = start;
        foreach (var next in order)
        {
            turns += next.Attitude != at.Attitude ? 1 : 0;
            changes += next.Tool >= 0 && at.Tool >= 0 && next.Tool != at.Tool ? 1 : 0;
            walks += next.End >= 0 && at.End >= 0 && next.End != at.End ? 1 : 0;
            at = new Setup(next.Attitude, next.Tool >= 0 ? next.Tool : at.Tool, next.End >= 0 ? next.End : at.End);
        }

        return new OrderCost(turns, changes, walks);
    }

    /// <summary>The sequences of attitudes with the fewest turns, and whether these are all of them.</summary>
    private static (List<int[]> Sequences, bool All) Sequences(Graph graph, int start)
    {
        var attitudes = graph.Setups.Select(s => s.Attitude).Distinct().Order().ToArray();
        var waits = graph.Waits.ToArray();
        List<(int[] Sequence, int[] Waits, int Done)> level = [([start], waits, Close(graph, waits, start))];
        var most = graph.Count <= SmallProblem ? SequencesWhenSmall : MostSequences;
        var all = true;
        while (true)
        {
            var complete = level.Where(s => s.Done == graph.Count).Select(s => s.Sequence).ToList();
            if (complete.Count > 0)
            {
                return ([.. complete.Take(most)], all && complete.Count <= most);
            }

            var next = new List<(int[] Sequence, int[] Waits, int Done)>();
            foreach (var (sequence, state, done) in level)
            {
                foreach (var attitude in attitudes.Where(a => a != sequence[^1]))
                {
                    var copy = state.ToArray();
                    var more = Close(graph, copy, attitude);
                    if (more > 0)
                    {
                        next.Add(([.. sequence, attitude], copy, done + more));
                    }
                }
            }

            // Of two that end in one attitude, the one that did less of the same cannot need fewer turns, though it might need
            // fewer tool changes: it is given up only where there are too many.
            if (next.Count > most)
            {
                var before = next.ToArray();
                next =
                [
                    .. before.Where(s => !Array.Exists(before, o => o.Sequence[^1] == s.Sequence[^1] && o.Done > s.Done && Covers(o.Waits, s.Waits))),
                ];
                all = false;
            }

            level = next;
        }
    }

    private static bool Covers(int[] more, int[] less)
    {
        for (var i = 0; i < more.Length; i++)
        {
            if (less[i] < 0 && more[i] >= 0)
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Does all that can be done in an attitude; returns how many.</summary>
    private static int Close(Graph graph, int[] waits, int attitude)
    {
        var ready = new Stack<int>(Enumerable.Range(0, graph.Count).Where(i => waits[i] == 0 && graph.Setups[i].Attitude == attitude));
        var done = 0;
        while (ready.TryPop(out var i))
        {
            waits[i] = -1;
            done++;
            foreach (var after in graph.After[i])
            {
                if (--waits[after] == 0 && graph.Setups[after].Attitude == attitude)
                {
                    ready.Push(after);
                }
            }
        }

        return done;
    }

    private static OrderedSteps Within(Graph graph, int[] sequence, Setup start)
    {
        var latest = Latest(graph, sequence);
        var mandatory = new int[sequence.Length];
        foreach (var phase in latest)
        {
            mandatory[phase]++;
        }

        var most = graph.Count <= SmallProblem ? StatesWhenSmall : Math.Max(2, StatesTimesSize / graph.Count);
        var first = State.First(graph, start, mandatory, latest);
        var level = new List<State> { first };
        var proven = true;
        for (var changes = 0; ; changes++)
        {
            var next = new Dictionary<Key, State>();
            var known = new Dictionary<Key, State>();
            var open = new PriorityQueue<State, (int, int, int)>();
            var order = 0;
            foreach (var state in level)
            {
                Offer(known, state, s => open.Enqueue(s, (-s.Done, s.Walks, order++)));
            }

            State? best = null;
            for (var seen = 0; open.TryDequeue(out var state, out _); )
            {
                if (known[state.Key] != state)
                {
                    continue;
                }

                if (state.Done == graph.Count)
                {
                    best = best is null || state.Walks < best.Walks ? state : best;
                    continue;
                }

                // Enough was seen, unless nothing was found yet from which to go on.
                if (++seen > most && next.Count > 0)
                {
                    proven = false;
                    break;
                }

                foreach (var child in state.Moves(graph, sequence, mandatory, latest))
                {
                    if (child.Changes == changes)
                    {
                        Offer(known, child, s => open.Enqueue(s, (-s.Done, s.Walks, order++)));
                    }
                    else
                    {
                        Offer(next, child, _ => { });
                    }
                }
            }

            if (best is not null)
            {
                var list = best.Order();
                return new OrderedSteps(list, new OrderCost(sequence.Length - 1, best.Changes, best.Walks), proven);
            }

            level = [.. next.Values.OrderByDescending(s => s.Done).ThenBy(s => s.Walks)];
            if (level.Count > most)
            {
                level.RemoveRange(most, level.Count - most);
                proven = false;
            }
        }
    }

    private static void Offer(Dictionary<Key, State> known, State state, Action<State> take)
    {
        if (!known.TryGetValue(state.Key, out var other) || state.Walks < other.Walks)
        {
            known[state.Key] = state;
            take(state);
        }
    }

    /// <summary>The last phase of the sequence in which each step can be done.</summary>
    private static int[] Latest(Graph graph, int[] sequence)
    {
        var latest = new int[graph.Count];
        foreach (var i in graph.Topological.Reverse())
        {
            var phase = graph.After[i].Select(a => latest[a]).DefaultIfEmpty(sequence.Length - 1).Min();
            while (sequence[phase] != graph.Setups[i].Attitude)
            {
                phase--;
            }

            latest[i] = phase;
        }

        return latest;
    }

    private sealed class Graph
    {
        public Graph(IReadOnlyList<Setup> setups, IReadOnlyList<IReadOnlyList<int>> before)
        {
            Setups = [.. setups];
            Waits = [.. before.Select(b => b.Count)];
            var after = Setups.Select(_ => new List<int>()).ToArray();
            for (var i = 0; i < Setups.Length; i++)
            {
                foreach (var b in before[i])
                {
                    after[b].Add(i);
                }
            }

            After = [.. after.Select(a => a.ToArray())];
            var waits = Waits.ToArray();
            var order = new List<int>(Setups.Length);
            order.AddRange(Enumerable.Range(0, Setups.Length).Where(i => waits[i] == 0));
            for (var at = 0; at < order.Count; at++)
            {
                order.AddRange(After[order[at]].Where(a => --waits[a] == 0));
            }

            Topological = order.Count == Setups.Length ? [.. order] : throw new ArgumentException("The precedences form a cycle.", nameof(before));
            Salt = new ulong[Setups.Length];
            var seed = 0x9E3779B97F4A7C15UL;
            for (var i = 0; i < Salt.Length; i++)
            {
                // SplitMix64 (Steele, Lea, Flood 2014): a fixed scatter, so that plans come out the same each time.
                seed += 0x9E3779B97F4A7C15UL;
                var z = (seed ^ (seed >> 30)) * 0xBF58476D1CE4E5B9UL;
                z = (z ^ (z >> 27)) * 0x94D049BB133111EBUL;
                Salt[i] = z ^ (z >> 31);
            }
        }

        public Setup[] Setups { get; }

        public int[] Waits { get; }

        public int[][] After { get; }

        public int[] Topological { get; }

        public ulong[] Salt { get; }

        public int Count => Setups.Length;
    }

    /// <summary>Where one stands: phase, what is in hand, and which steps are done (by the sum of their salts).</summary>
    private readonly record struct Key(int Phase, int Tool, int End, ulong Done);

    private sealed class State
    {
        private readonly State? _from;
        private readonly int[] _waits;
        private readonly List<int> _ready;
        private readonly List<int> _did = [];
        private readonly int _phase;
        private int _mandatoryLeft;
        private int _tool;
        private int _end;
        private ulong _hash;

        private State(State? from, int[] waits, List<int> ready, int phase, int mandatoryLeft, int tool, int end, ulong hash)
        {
            _from = from;
            _waits = waits;
            _ready = ready;
            _phase = phase;
            _mandatoryLeft = mandatoryLeft;
            _tool = tool;
            _end = end;
            _hash = hash;
        }

        public int Done { get; private set; }

        public int Changes { get; private init; }

        public int Walks { get; private init; }

        public Key Key => new(_phase, _tool, _end, _hash);

        public static State First(Graph graph, Setup start, int[] mandatory, int[] latest)
        {
            var ready = Enumerable.Range(0, graph.Count).Where(i => graph.Waits[i] == 0).ToList();
            var state = new State(null, [.. graph.Waits], ready, 0, mandatory[0], start.Tool, start.End, 0);
            state.Advance(graph, start.Attitude, latest);
            return state;
        }

        public IEnumerable<State> Moves(Graph graph, int[] sequence, int[] mandatory, int[] latest)
        {
            var attitude = sequence[_phase];
            var seen = new HashSet<(int, int)>();
            foreach (var i in _ready)
            {
                var need = graph.Setups[i];
                if (need.Attitude != attitude)
                {
                    continue;
                }

                var (tool, end) = (need.Tool >= 0 ? need.Tool : _tool, need.End >= 0 ? need.End : _end);
                if (seen.Add((tool, end)))
                {
                    var child = Copy(_phase, _mandatoryLeft, tool, end);
                    child.Advance(graph, attitude, latest);
                    yield return child;
                }
            }

            if (_mandatoryLeft == 0 && _phase + 1 < sequence.Length)
            {
                var child = Copy(_phase + 1, mandatory[_phase + 1], _tool, _end);
                // Steps whose last chance is the new phase may have been done in an earlier one.
                child._mandatoryLeft -= DoneOf(latest, _phase + 1);
                child.Advance(graph, sequence[_phase + 1], latest);
                yield return child;
            }
        }

        public int[] Order()
        {
            var order = new List<int>();
            for (var state = this; state is not null; state = state._from)
            {
                order.InsertRange(0, state._did);
            }

            return [.. order];
        }

        private int DoneOf(int[] latest, int phase)
        {
            var n = 0;
            for (var i = 0; i < latest.Length; i++)
            {
                n += latest[i] == phase && _waits[i] < 0 ? 1 : 0;
            }

            return n;
        }

        private State Copy(int phase, int mandatoryLeft, int tool, int end) =>
            new(this, [.. _waits], [.. _ready], phase, mandatoryLeft, tool, end, _hash)
            {
                Done = Done,
                Changes = Changes + (tool != _tool && _tool >= 0 ? 1 : 0),
                Walks = Walks + (end != _end && _end >= 0 ? 1 : 0),
            };

        /// <summary>Does all that needs no change, the first of the list first.</summary>
        private void Advance(Graph graph, int attitude, int[] latest)
        {
            while (true)
            {
                var at = -1;
                for (var k = 0; k < _ready.Count; k++)
                {
                    var need = graph.Setups[_ready[k]];
                    if (
                        need.Attitude == attitude
                        && (need.Tool < 0 || need.Tool == _tool)
                        && (need.End < 0 || need.End == _end)
                        && (at < 0 || _ready[k] < _ready[at])
                    )
                    {
                        at = k;
                    }
                }

                if (at < 0)
                {
                    return;
                }

                var i = _ready[at];
                _ready.RemoveAt(at);
                _waits[i] = -1;
                _did.Add(i);
                Done++;
                _hash += graph.Salt[i];
                _mandatoryLeft -= latest[i] == _phase ? 1 : 0;
                foreach (var after in graph.After[i])
                {
                    if (--_waits[after] == 0)
                    {
                        _ready.Add(after);
                    }
                }
            }
        }
    }
}
