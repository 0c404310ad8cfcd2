using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>A place that nobody has looked at yet, whose evidence an act would destroy.</summary>
/// <param name="Signs">Names of the signs that will not be seen any more; empty where the step does not say what it does.</param>
public sealed record UnreadEvidence(string Place, IReadOnlyList<string> Signs);

/// <summary>One thing that holds a step back.</summary>
/// <param name="Of">What it is about: id of a step or set, address of a place, number of a tick. With the lock it names the obstacle.</param>
/// <param name="Opens">False where no reason opens it: only what it asks for does.</param>
public sealed record Obstacle(StepLock Lock, string Of, Fact Says, Fact Remedy, bool Opens);

/// <summary>A step as it stands in this case.</summary>
/// <param name="Source">The step as script or case has it, for changing it.</param>
/// <param name="Own">Added or changed in this case.</param>
/// <param name="Expected">Fasteners that must come out, counted for this engine.</param>
/// <param name="Open">Of these, still in place or broken off.</param>
/// <param name="Must">Numbers of the ticks without which it is not done.</param>
/// <param name="Hold">How it stands as a hold point; null where it is none.</param>
/// <param name="Stale">It was signed, and has changed since: the signature no longer holds.</param>
/// <param name="SignedElsewhere">Signed in another shop: told, and no key to what comes next here.</param>
/// <param name="State">Null while something of it is left to do.</param>
/// <param name="Stations">Stations at which it can be done one by one; none where it is one act.</param>
/// <param name="StationsDone">Those at which it is done.</param>
/// <param name="Overrides">Of what is recorded of it: the obstacles it was done in spite of, each with its reason.</param>
/// <param name="Obstacles">What holds it back, each by itself.</param>
/// <param name="Closes">Names of steps that stay closed when this one is left out, or that do since it was.</param>
/// <param name="ClosedBy">Name of the step that was left out and keeps this one closed; empty without one.</param>
/// <param name="Beyond">Not needed for as far as this strip is to go.</param>
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
    IReadOnlyList<int> Must,
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
    bool Stale,
    HoldNow? Hold,
    StepState? State,
    FastenerCount Per,
    IReadOnlyList<int> Stations,
    IReadOnlyList<int> StationsDone,
    string Reason,
    IReadOnlyList<StepOverride> Overrides,
    IReadOnlyList<Obstacle> Obstacles,
    IReadOnlyList<string> Closes,
    string ClosedBy,
    bool Beyond,
    string Unsigned,
    IReadOnlyList<Fact> BlockedBy,
    int Blocks,
    Fact Why,
    IReadOnlyList<UnreadEvidence> Unread,
    IReadOnlyList<Fact> MayHold
)
{
    /// <summary>A hold point that is done, and whose signature is missing, stale, or another shop's while there is more to do here.</summary>
    internal bool Unsettled(bool more) =>
        HoldPoint
        && (State is StepState.Done or StepState.WasOff || StationsDone.Count > 0)
        && (SignedBy is null || Stale || (SignedElsewhere && more));
}

/// <summary>Another way through the strip.</summary>
/// <param name="Ends">It ends before the bare block.</param>
/// <param name="Refused">Why it cannot be chosen as things stand; null where it can.</param>
public sealed record VariantChoice(string Id, string Name, string Says, bool Chosen, bool Ends, Fact? Refused);

/// <summary>One-time fasteners of a set, to be had new.</summary>
/// <param name="Part">Kind of part that they are; empty of those that are nothing but fasteners.</param>
/// <param name="Name">What they are, without their number.</param>
public sealed record FastenersToOrder(string Set, string Part, int Count, Fact Name, Fact Words);

/// <summary>A part that is off the engine.</summary>
/// <param name="At">When the step that takes it off was recorded at its station; null where it was off when the engine came.</param>
public sealed record PartOff(string Place, string Step, DateTimeOffset? At);

/// <summary>The strip of a case: its steps, what is done first, then the rest in the order that is planned.</summary>
/// <param name="Variants">Other ways through this script that fit the engine.</param>
/// <param name="Next">Id of the step that comes next; null when all are recorded.</param>
/// <param name="Ahead">What the rest costs in turns, tool changes and walks.</param>
/// <param name="Proven">True when no order of the rest costs less.</param>
/// <param name="FastenersOut">Out of their holes, over all steps.</param>
/// <param name="Broken">Broken with the rest still in.</param>
/// <param name="MinutesLeft">Expected minutes of the steps that are left.</param>
/// <param name="ToOrder">One-time fasteners that came out or will: kept as gauges only, ordered new.</param>
/// <param name="Off">Parts that are off, in the order in which they came off.</param>
public sealed record StripPlan(
    string Script,
    string ScriptName,
    IReadOnlyList<VariantChoice> Variants,
    IReadOnlyList<PlannedStep> Steps,
    string? Next,
    OrderCost Ahead,
    bool Proven,
    int FastenersOut,
    int Broken,
    double MinutesLeft,
    IReadOnlyList<FastenersToOrder> ToOrder,
    IReadOnlyList<PartOff> Off
)
{
    /// <summary>Places that lie open or came off by what is recorded.</summary>
    public IReadOnlySet<string> LaidOpen(AddressTable table) =>
        Steps.SelectMany(s => Places(s, table, [.. s.Exposes, .. s.Releases])).ToHashSet(StringComparer.Ordinal);

    /// <summary>Places of some kinds that a step has reached so far.</summary>
    internal static IEnumerable<string> Places(PlannedStep step, AddressTable table, IReadOnlyList<string> kinds) =>
        kinds
            .SelectMany(table.OfKind)
            .Where(a =>
                step.State is StepState.Done or StepState.WasOff || step.StationsDone.Any(t => StepStations.Has(step.Per, t, a, table.Engine))
            )
            .Select(a => a.Code);
}

/// <summary>Lays a strip script over one case.</summary>
public static class StripPlanner
{
    public static StripPlan Plan(StripLog log, AddressTable table, KnowledgeBase knowledge) => Plan(new StripBook(log, table, knowledge));

    public static StripPlan Plan(StripBook book)
    {
        var (done, rest, later) = book.Sorted();
        var tools = ToolNumbers(book.Steps);
        var start = done.Count == 0 ? new Setup((int)Attitude.Upright, -1, -1) : After(done, tools);
        var ordered = Order(rest, tools, start);
        var order = ordered.Order.Select(i => rest[i]).ToArray();
        var planned = done.Select(s => book.Planned(s, Fact.None))
            .Concat(order.Select((s, i) => book.Planned(s, Why(order, i, start, book))))
            .Concat(later.Select(s => book.Planned(s, Fact.None)))
            .ToArray();
        var sets = planned.SelectMany(p => p.Sets).ToArray();
        return new StripPlan(
            book.Script.Id,
            book.Script.Name,
            book.Variants,
            planned,
            order.Length > 0 ? order[0].Id : null,
            ordered.Cost,
            ordered.Proven,
            sets.Sum(s => s.Out),
            sets.Sum(s => s.Broken),
            planned.Where(p => p is { State: null, Beyond: false, ClosedBy.Length: 0 }).Sum(p => p.Minutes),
            [
                .. sets.Where(s => s.Set.OneTime)
                    .Select(s => new FastenersToOrder(
                        s.Set.Id,
                        s.Set.Part,
                        s.Expected,
                        Fact.Of("strip.fasteners-by-name", ("set", s.Set.Name), ("thread", s.Set.Thread)),
                        Fact.Of("strip.to-order", ("count", s.Expected), ("set", s.Set.Name), ("thread", s.Set.Thread))
                    )),
            ],
            book.Off()
        );
    }

    /// <summary>The part of an engine’s name that tells its kind: what stands before the first comma.</summary>
    public static string KindOf(string engine) => engine.Split(',')[0].Trim();

    /// <summary>Scripts that fit a layout, the one that says most about it first; a shop's own for one kind of engine are not among them.</summary>
    public static IEnumerable<StripScript> Fitting(EngineLayout layout, KnowledgeBase knowledge) =>
        knowledge
            .StripScripts.Where(s => s.Applies.Fits(layout) && s.Kind.Length == 0)
            .OrderByDescending(s => s.Applies.Says())
            .ThenBy(s => s.Id, StringComparer.Ordinal);

    /// <summary>
    /// The script of a case: the one that was chosen, or of those that fit the layout the one that says most about it. A strip that was begun goes on by the
    /// script that knows its steps, though a newer one would fit better by now; steps that many scripts share do not tell.
    /// </summary>
    public static StripScript ScriptOf(StripLog log, KnowledgeBase knowledge)
    {
        if (knowledge.Script(log.Script) is { } chosen)
        {
            return chosen;
        }

        var done = log.Steps.Where(s => s.Stands()).Select(s => s.Step).ToHashSet(StringComparer.Ordinal);
        // What this shop does with engines of the kind comes first, as long as it knows all that is done.
        var kind = KindOf(log.Engine);
        if (
            kind.Length > 0
            && knowledge.StripScripts.FirstOrDefault(s =>
                s.Kind.Equals(kind, StringComparison.OrdinalIgnoreCase)
                && s.Applies.Fits(log.Layout)
                && done.All(id => s.Steps.Exists(x => x.Id == id))
            )
                is { } shops
        )
        {
            return shops;
        }

        // The order of those that know as many of its steps stays as it is.
        return Fitting(log.Layout, knowledge)
            .OrderByDescending(s => done.Count == 0 ? 0 : s.Steps.Count(x => done.Contains(x.Id) && !s.Uses.Contains(x.Id)))
            .First();
    }

    /// <summary>Steps of a case: the script's that apply, by the variants that were chosen, changed and added to as the case says.</summary>
    public static IReadOnlyList<StripStep> StepsOf(StripLog log, StripScript script)
    {
        var own = log
            .OwnSteps.Where(o => o.Stands())
            .GroupBy(o => o.Step.Id)
            .ToDictionary(g => g.Key, g => g.MaxBy(o => (o.At, o.Id))!.Step, StringComparer.Ordinal);
        var scripted = script.Steps;
        foreach (var variant in StripVariants.Chosen(log, script))
        {
            scripted = StripVariants.Apply(scripted, variant);
        }

        var known = script.Steps.Concat(scripted).Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. scripted.Where(s => s.Applies.Fits(log.Layout)).Select(s => own.GetValueOrDefault(s.Id) ?? AtItsEnd(s, log.Layout.Ends)),
            .. own.Values.Where(s => !known.Contains(s.Id)).OrderBy(s => s.Id, StringComparer.Ordinal),
        ];
    }

    /// <summary>A script says at which end such engines have a thing; the layout says where this one has it.</summary>
    private static StripStep AtItsEnd(StripStep step, EngineEnds ends)
    {
        bool Off(params string[] kinds) => step.Releases.Exists(kinds.Contains);
        var end =
            step.End is null ? null
            : Off("flywheel") ? ends.Flywheel
            : Off("clutch", "pressure-plate") ? ends.Clutch
            : Off("recoil", "starter") ? ends.Starter
            : Off("timing-chain", "timing-belt", "cam-wheel", "idler-gear") ? ends.Timing
            : null;
        if (end is null || end == step.End)
        {
            return step;
        }

        var here = step.Copy();
        here.End = end;
        return here;
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
        var before = steps.Select(s => (IReadOnlyList<int>)[.. s.Before.Where(index.ContainsKey).Select(k => index[k]).Distinct()]).ToArray();
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
                foreach (var before in byId[top.Id].Before.Where(byId.ContainsKey))
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

    private static Fact Why(StripStep[] order, int at, Setup start, StripBook book)
    {
        var step = order[at];
        var lies = at == 0 ? (Attitude)start.Attitude : order[at - 1].Attitude;
        var reasons = step
            .After.Where(a => book.Names.ContainsKey(a.Key))
            .Select(a => Fact.Of("strip.after", ("step", book.Names[a.Key]), ("why", a.Value)))
            .Concat(
                step.Usually.Where(a => book.Names.ContainsKey(a.Key))
                    .Select(a => Fact.Of("strip.usually-after", ("step", book.Names[a.Key]), ("why", a.Value)))
            )
            .ToList();
        if (step.Attitude != lies)
        {
            reasons.Add(Fact.Of("strip.all-can-done-done-now", ("lies", lies), ("turned", step.Attitude)));
        }
        else if (at > 0 && step.Tools.Count > 0 && order[at - 1].Tools.Count > 0 && step.Tools[0] == order[at - 1].Tools[0])
        {
            reasons.Add(Fact.Of("strip.same-tool-hand", ("tool", step.Tools[0])));
        }

        if (order.Skip(at + 1).FirstOrDefault(s => s.Before.Contains(step.Id)) is { } waits)
        {
            reasons.Add(Fact.Of("strip.waits", ("step", waits.Name)));
        }

        return Fact.All(reasons);
    }
}
