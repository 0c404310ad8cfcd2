using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>Evidence that an act would destroy and that nobody has looked for.</summary>
/// <param name="Signs">Names of the signs that will not be seen any more; empty when the place was not looked at at all.</param>
public sealed record UnreadEvidence(string Place, IReadOnlyList<string> Signs);

/// <summary>A step as it stands in this case.</summary>
/// <param name="Source">The step as script or case has it, for changing it.</param>
/// <param name="Own">Added or changed in this case.</param>
/// <param name="Expected">Fasteners that must come out, counted for this engine.</param>
/// <param name="Open">Of these, still in place or broken off.</param>
/// <param name="Overrides">Of a recorded step: the locks it was done in spite of, each with its reason.</param>
/// <param name="Unsigned">Name of the hold point before it that is not signed; empty without one.</param>
/// <param name="BlockedBy">What must come first and is not done, with the reason.</param>
/// <param name="Blocks">How many steps wait for this one, directly or by others.</param>
/// <param name="Why">Why it stands where it does in the plan.</param>
/// <param name="Unread">Places whose evidence the step would spoil and that nobody has read.</param>
/// <param name="MayHold">What may still hold what should come off.</param>
/// <param name="Reason">Of a recorded step: why it was skipped or done in spite of something. It stays visible.</param>
/// <param name="Minutes">Expected, for this engine.</param>
/// <param name="Spent">Minutes on the clock so far, without the run that goes on.</param>
public sealed record PlannedStep(
    string Id,
    string Name,
    string Does,
    StripStep Source,
    bool Own,
    IReadOnlyList<string> Ticks,
    IReadOnlyList<int> Ticked,
    Attitude Attitude,
    CrankEnd? End,
    Fact Crank,
    IReadOnlyList<SetLedger> Sets,
    int Expected,
    int Open,
    string Pattern,
    double Minutes,
    double Spent,
    DateTimeOffset? RunningSince,
    bool Helper,
    IReadOnlyList<string> Tools,
    IReadOnlyList<string> Photos,
    IReadOnlyList<string> Exposes,
    IReadOnlyList<string> Releases,
    IReadOnlyList<string> Cautions,
    bool Parts,
    bool HoldPoint,
    string? SignedBy,
    DateTimeOffset? SignedAt,
    bool SignedElsewhere,
    StepState? State,
    string Reason,
    IReadOnlyList<StepOverride> Overrides,
    string Unsigned,
    IReadOnlyList<Fact> BlockedBy,
    int Blocks,
    Fact Why,
    IReadOnlyList<UnreadEvidence> Unread,
    IReadOnlyList<Fact> MayHold
);

/// <summary>The strip of a case: its steps, what is done first, then the rest in the order that is planned.</summary>
/// <param name="Next">Id of the step that comes next; null when all are recorded.</param>
/// <param name="Ahead">What the rest costs in turns, tool changes and walks.</param>
/// <param name="Proven">True when no order of the rest costs less.</param>
/// <param name="FastenersOut">Out of their holes, over all steps.</param>
/// <param name="Broken">Broken with the rest still in.</param>
/// <param name="MinutesLeft">Expected minutes of the steps that are left.</param>
/// <param name="ToOrder">One-time fasteners that came out or will: kept as gauges only, ordered new.</param>
public sealed record StripPlan(
    string Script,
    string ScriptName,
    IReadOnlyList<PlannedStep> Steps,
    string? Next,
    OrderCost Ahead,
    bool Proven,
    int FastenersOut,
    int Broken,
    double MinutesLeft,
    IReadOnlyList<Fact> ToOrder
);

/// <summary>Lays a strip script over one case.</summary>
public static class StripPlanner
{
    public static StripPlan Plan(StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        var script = ScriptOf(log, knowledge);
        var steps = StepsOf(log, script);
        var records = log
            .Steps.Where(s => s.Stands())
            .GroupBy(s => s.Step)
            .ToDictionary(g => g.Key, g => g.MaxBy(r => r.At)!, StringComparer.Ordinal);
        var done = steps.Where(s => records.ContainsKey(s.Id)).OrderBy(s => records[s.Id].At).ThenBy(s => records[s.Id].Id).ToArray();
        var rest = steps.Where(s => !records.ContainsKey(s.Id)).ToArray();
        var tools = ToolNumbers(steps);
        var start = done.Length == 0 ? new Setup((int)Attitude.Upright, -1, -1) : After(done, tools);
        var ordered = Order(rest, tools, start);
        var order = ordered.Order.Select(i => rest[i]).ToArray();

        var context = new Context(log, table, knowledge, steps, records);
        var planned = done.Select(s => context.Planned(s, Fact.None))
            .Concat(order.Select((s, i) => context.Planned(s, Why(order, i, start, context))))
            .ToArray();
        var sets = planned.SelectMany(p => p.Sets).ToArray();
        return new StripPlan(
            script.Id,
            script.Name,
            planned,
            order.Length > 0 ? order[0].Id : null,
            ordered.Cost,
            ordered.Proven,
            sets.Sum(s => s.Out),
            sets.Sum(s => s.Broken),
            planned.Where(p => p.State is null).Sum(p => p.Minutes),
            [
                .. sets.Where(s => s.Set.OneTime)
                    .Select(s => Fact.Of("strip.to-order", ("count", s.Expected), ("set", s.Set.Name), ("thread", s.Set.Thread))),
            ]
        );
    }

    /// <summary>The script of a case: the one that was chosen, or of those that fit the layout the one that says most about it.</summary>
    public static StripScript ScriptOf(StripLog log, KnowledgeBase knowledge) =>
        knowledge.Script(log.Script)
        ?? knowledge
            .StripScripts.Where(s => s.Applies.Fits(log.Layout))
            .OrderByDescending(s => s.Applies.Says())
            .ThenBy(s => s.Id, StringComparer.Ordinal)
            .First();

    /// <summary>Steps of a case: the script's that apply, changed and added to as the case says.</summary>
    public static IReadOnlyList<StripStep> StepsOf(StripLog log, StripScript script)
    {
        var own = log
            .OwnSteps.Where(o => o.Stands())
            .GroupBy(o => o.Step.Id)
            .ToDictionary(g => g.Key, g => g.MaxBy(o => (o.At, o.Id))!.Step, StringComparer.Ordinal);
        var known = script.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. script.Steps.Where(s => s.Applies.Fits(log.Layout)).Select(s => own.GetValueOrDefault(s.Id) ?? s),
            .. own.Values.Where(s => !known.Contains(s.Id)).OrderBy(s => s.Id, StringComparer.Ordinal),
        ];
    }

    /// <summary>Orders steps that are free of cycles.</summary>
    /// <exception cref="ProblemException">The precedences form a cycle; the problem names it.</exception>
    public static OrderedSteps Order(IReadOnlyList<StripStep> steps, IReadOnlyDictionary<string, int> tools, Setup start)
    {
        if (Cycle(steps) is { } cycle)
        {
            throw new ProblemException(CycleProblem(cycle));
        }

        var index = steps.Select((s, i) => (s.Id, i)).ToDictionary(x => x.Id, x => x.i, StringComparer.Ordinal);
        var setups = steps.Select(s => SetupOf(s, tools)).ToArray();
        var before = steps.Select(s => (IReadOnlyList<int>)[.. s.After.Keys.Where(index.ContainsKey).Select(k => index[k])]).ToArray();
        return StepOrder.Find(setups, before, start);
    }

    public static Problem CycleProblem(IReadOnlyList<string> cycle) => Problem.Of("after", "strip.steps-wait-in-a-cycle", ("steps", cycle));

    /// <summary>Ids of steps that wait for one another, the first repeated at the end; null where there is no cycle.</summary>
    public static IReadOnlyList<string>? Cycle(IReadOnlyList<StripStep> steps)
    {
        var byId = steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        var state = new Dictionary<string, bool>(StringComparer.Ordinal);
        foreach (var root in steps)
        {
            if (state.ContainsKey(root.Id))
            {
                continue;
            }

            // Depth first without recursion: a chain of 1,600 steps would not fit the stack of every thread.
            var path = new List<string>();
            var open = new Stack<(string Id, bool Leave)>();
            open.Push((root.Id, false));
            while (open.TryPop(out var top))
            {
                if (top.Leave)
                {
                    state[top.Id] = true;
                    path.RemoveAt(path.Count - 1);
                    continue;
                }

                if (state.TryGetValue(top.Id, out var finished))
                {
                    if (!finished)
                    {
                        return [.. path.SkipWhile(p => p != top.Id), top.Id];
                    }

                    continue;
                }

                state[top.Id] = false;
                path.Add(top.Id);
                open.Push((top.Id, true));
                foreach (var before in byId[top.Id].After.Keys.Where(byId.ContainsKey))
                {
                    open.Push((before, false));
                }
            }
        }

        return null;
    }

    public static IReadOnlyDictionary<string, int> ToolNumbers(IEnumerable<StripStep> steps)
    {
        var numbers = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        foreach (var tool in steps.Where(s => s.Tools.Count > 0).Select(s => s.Tools[0]))
        {
            numbers.TryAdd(tool, numbers.Count);
        }

        return numbers;
    }

    /// <summary>Minutes of a step for this engine, all its stations together.</summary>
    public static double MinutesOf(StripStep step, Engine engine) => step.Minutes + (step.MinutesEach * FastenerLedger.CountOf(step.Per, engine));

    internal static Setup SetupOf(StripStep step, IReadOnlyDictionary<string, int> tools) =>
        new((int)step.Attitude, step.Tools.Count > 0 ? tools[step.Tools[0]] : -1, step.End is { } end ? (int)end : -1);

    private static Setup After(IReadOnlyList<StripStep> done, IReadOnlyDictionary<string, int> tools)
    {
        var setups = done.Select(s => SetupOf(s, tools)).Reverse().ToArray();
        return new Setup(
            setups[0].Attitude,
            setups.Select(s => s.Tool).FirstOrDefault(t => t >= 0, -1),
            setups.Select(s => s.End).FirstOrDefault(e => e >= 0, -1)
        );
    }

    private static Fact Why(StripStep[] order, int at, Setup start, Context context)
    {
        var step = order[at];
        var lies = at == 0 ? (Attitude)start.Attitude : order[at - 1].Attitude;
        var reasons = step
            .After.Where(a => context.Names.ContainsKey(a.Key))
            .Select(a => Fact.Of("strip.after", ("step", context.Names[a.Key]), ("why", a.Value)))
            .ToList();
        if (step.Attitude != lies)
        {
            reasons.Add(Fact.Of("strip.all-can-done-done-now", ("lies", lies), ("turned", step.Attitude)));
        }
        else if (at > 0 && step.Tools.Count > 0 && order[at - 1].Tools.Count > 0 && step.Tools[0] == order[at - 1].Tools[0])
        {
            reasons.Add(Fact.Of("strip.same-tool-hand", ("tool", step.Tools[0])));
        }

        if (order.Skip(at + 1).FirstOrDefault(s => s.After.ContainsKey(step.Id)) is { } waits)
        {
            reasons.Add(Fact.Of("strip.waits", ("step", waits.Name)));
        }

        return Fact.All(reasons);
    }

    /// <summary>What is known of the case, gathered once for all steps.</summary>
    private sealed class Context
    {
        private readonly StripLog _log;
        private readonly AddressTable _table;
        private readonly Dictionary<string, StepRecord> _records;
        private readonly ILookup<string, StripStep> _waiting;
        private readonly HashSet<string> _own;
        private readonly HashSet<string> _read;
        private readonly IReadOnlySet<(string Place, string Sign)> _found;
        private readonly KnowledgeBase _knowledge;
        private readonly Dictionary<string, SignOff> _signed;
        private readonly ILookup<string, StepMark> _marks;
        private readonly StripStep? _unsigned;

        public Context(
            StripLog log,
            AddressTable table,
            KnowledgeBase knowledge,
            IReadOnlyList<StripStep> steps,
            Dictionary<string, StepRecord> records
        )
        {
            _knowledge = knowledge;
            _found = log.Read;
            _log = log;
            _table = table;
            _records = records;
            Names = steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
            _waiting = steps.SelectMany(s => s.After.Keys.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
            _own = log.OwnSteps.Where(o => o.Stands()).Select(o => o.Step.Id).ToHashSet(StringComparer.Ordinal);
            _read = log.Read.Select(f => f.Place).ToHashSet(StringComparer.Ordinal);
            _signed = log
                .SignOffs.Where(s => s.Stands())
                .GroupBy(s => s.Step)
                .ToDictionary(g => g.Key, g => g.MaxBy(s => s.At)!, StringComparer.Ordinal);
            _marks = log.StepMarks.Where(m => m.Stands()).OrderBy(m => m.At).ThenBy(m => m.Id).ToLookup(m => m.Step, StringComparer.Ordinal);
            _unsigned = steps.FirstOrDefault(s =>
                s.HoldPoint && records.GetValueOrDefault(s.Id)?.State == StepState.Done && !_signed.ContainsKey(s.Id)
            );
        }

        public Dictionary<string, string> Names { get; }

        public PlannedStep Planned(StripStep step, Fact why)
        {
            var record = _records.GetValueOrDefault(step.Id);
            var sets = FastenerLedger.Of(step, _table.Engine, _log.FastenerMoves);
            var signed = _signed.GetValueOrDefault(step.Id);
            var (spent, since) = Clock(_marks[step.Id]);
            return new PlannedStep(
                step.Id,
                step.Name,
                step.Does,
                step,
                _own.Contains(step.Id),
                step.Ticks,
                Ticked(_marks[step.Id]),
                step.Attitude,
                step.End,
                step.PistonsDown
                    ? CrankHelp.Words(CrankHelp.WellDown(_table.Engine, (double?)_log.Stroke, (double?)_log.RodLength))
                    : Fact.Text(step.Crank),
                sets,
                sets.Sum(s => s.Expected),
                sets.Sum(s => s.In + s.Broken),
                step.Pattern,
                MinutesOf(step, _table.Engine),
                spent,
                since,
                step.Helper,
                step.Tools,
                step.Photos,
                step.Exposes,
                step.Releases,
                step.Cautions,
                step.Parts,
                step.HoldPoint,
                signed?.By,
                signed?.At,
                signed?.Imported ?? false,
                record?.State,
                record?.Reason ?? "",
                record?.Overrides ?? [],
                record is null && _unsigned is not null && _unsigned.Id != step.Id ? _unsigned.Name : "",
                record is null ? [.. Blocked(step)] : [],
                Followers(step),
                why,
                record is null ? [.. Unread(step)] : [],
                [.. Holding(step, sets)]
            );
        }

        /// <summary>
        /// What the step would destroy unread: where it says what it does to evidence, each sign that these acts destroy; where it does
        /// not, every part of the kinds to read first that nobody has looked at.
        /// </summary>
        private IEnumerable<UnreadEvidence> Unread(StripStep step)
        {
            foreach (var place in step.ReadFirst.SelectMany(_table.OfKind))
            {
                if (step.Acts.Count == 0)
                {
                    if (!_read.Contains(place.Code))
                    {
                        yield return new UnreadEvidence(place.Code, []);
                    }

                    continue;
                }

                var lost = _knowledge
                    .SignsOn(place.Kind.Id)
                    .Where(s => s.DestroyedBy.Exists(step.Acts.Contains) && !_found.Contains((place.Code, s.Id)))
                    .Select(s => s.Name)
                    .ToArray();
                if (lost.Length > 0)
                {
                    yield return new UnreadEvidence(place.Code, lost);
                }
            }
        }

        private IEnumerable<Fact> Blocked(StripStep step)
        {
            foreach (var (before, why) in step.After.Where(a => Names.ContainsKey(a.Key) && !_records.ContainsKey(a.Key)))
            {
                yield return Fact.Of("strip.blocked-by", ("step", Names[before]), ("why", why));
            }
        }

        /// <summary>Everything that may still hold: counted fasteners, hidden ones first, then what is linked, then what sticks.</summary>
        private IEnumerable<Fact> Holding(StripStep step, IReadOnlyList<SetLedger> sets)
        {
            foreach (var set in sets.Where(s => s.In + s.Broken > 0).OrderByDescending(s => s.Set.Hidden.Length > 0))
            {
                var left =
                    set.Set.LeftHand ? Fact.Of("strip.left-hand-thread")
                    : set.Set.LeftHandOnSome ? Fact.Of("strip.left-hand-on-some")
                    : null;
                if (set.In > 0)
                {
                    yield return Fact.Of(
                        "strip.not-out",
                        ("in", set.In),
                        ("expected", set.Expected),
                        ("set", set.Set.Name),
                        ("hidden", set.Set.Hidden),
                        ("left", left),
                        ("locking", set.Set.Locking)
                    );
                }

                if (set.Broken > 0)
                {
                    yield return Fact.Of("strip.broken-off-rest-still", ("broken", set.Broken), ("set", set.Set.Name), ("hidden", set.Set.Hidden));
                }
            }

            foreach (var (before, why) in step.After.Where(a => Names.ContainsKey(a.Key) && !_records.ContainsKey(a.Key)))
            {
                yield return Fact.Of("strip.not-done-yet", ("step", Names[before]), ("why", why));
            }

            foreach (var hold in step.MayHold)
            {
                yield return Fact.Text(hold);
            }
        }

        private int Followers(StripStep step)
        {
            var seen = new HashSet<string>(StringComparer.Ordinal);
            var open = new Stack<string>();
            open.Push(step.Id);
            while (open.TryPop(out var id))
            {
                foreach (var next in _waiting[id].Where(n => seen.Add(n.Id)))
                {
                    open.Push(next.Id);
                }
            }

            return seen.Count;
        }

        private static (double Minutes, DateTimeOffset? Since) Clock(IEnumerable<StepMark> marks)
        {
            var total = TimeSpan.Zero;
            DateTimeOffset? since = null;
            foreach (var mark in marks)
            {
                if (mark.Kind == StepMarkKind.Started)
                {
                    since ??= mark.At;
                }
                else if (mark.Kind == StepMarkKind.Stopped && since is { } from)
                {
                    total += mark.At - from;
                    since = null;
                }
            }

            return (total.TotalMinutes, since);
        }

        private static IReadOnlyList<int> Ticked(IEnumerable<StepMark> marks)
        {
            var ticked = new SortedSet<int>();
            foreach (var mark in marks)
            {
                _ = mark.Kind switch
                {
                    StepMarkKind.Ticked => ticked.Add(mark.Item),
                    StepMarkKind.Unticked => ticked.Remove(mark.Item),
                    _ => false,
                };
            }

            return [.. ticked];
        }
    }
}
