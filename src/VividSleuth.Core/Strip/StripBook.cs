using System.Globalization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>The strip of one case as it stands: its steps, how far each has come, and what holds it back.</summary>
public sealed class StripBook
{
    private readonly StripLog _log;
    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly Dictionary<string, StripStep> _byId;
    private readonly Dictionary<string, StepStanding> _standing;
    private readonly ILookup<string, StripStep> _waiting;
    private readonly Dictionary<string, OwnStep> _own;
    private readonly HashSet<string> _read;
    private readonly Dictionary<string, SignOff> _signed;
    private readonly ILookup<string, SignOff> _acts;
    private readonly ILookup<string, StepMark> _marks;
    private readonly ILookup<string, string> _opens;
    private readonly bool _someLeftOut;
    private readonly ILookup<string, FastenerMove> _moves;
    private readonly HashSet<string>? _goal;
    private readonly StripStep? _unsigned;

    public StripBook(StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        (_log, _table, _knowledge) = (log, table, knowledge);
        Script = StripPlanner.ScriptOf(log, knowledge);
        Steps = StripPlanner.StepsOf(log, Script);
        _byId = Steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        Names = Steps.ToDictionary(s => s.Id, s => s.Name, StringComparer.Ordinal);
        var records = log.Steps.Where(s => s.Stands()).ToLookup(s => s.Step, StringComparer.Ordinal);
        _standing = Steps.ToDictionary(s => s.Id, s => StepStanding.Of(s, records[s.Id], table.Engine), StringComparer.Ordinal);
        _waiting = Steps.SelectMany(s => s.After.Keys.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
        _own = log
            .OwnSteps.Where(o => o.Stands())
            .GroupBy(o => o.Step.Id)
            .ToDictionary(g => g.Key, g => g.MaxBy(o => (o.At, o.Id))!, StringComparer.Ordinal);
        // What was heard while it ran has not looked at the part.
        _read = log.Read.Where(f => knowledge.Sign(f.Sign) is not { Running: true }).Select(f => f.Place).ToHashSet(StringComparer.Ordinal);
        _acts = log.SignOffs.Where(s => s.Stands()).OrderBy(s => s.At).ThenBy(s => s.Id).ToLookup(s => s.Step, StringComparer.Ordinal);
        _signed = _acts
            .Where(g => g.Any(s => s.Outcome == SignOutcome.Signed))
            .ToDictionary(g => g.Key, g => g.Last(s => s.Outcome == SignOutcome.Signed), StringComparer.Ordinal);
        _marks = log.StepMarks.Where(m => m.Stands()).OrderBy(m => m.At).ThenBy(m => m.Id).ToLookup(m => m.Step, StringComparer.Ordinal);
        _opens = Steps
            .SelectMany(s => s.Exposes.Concat(s.Releases).Distinct(StringComparer.Ordinal).Select(k => (Kind: k, s.Id)))
            .ToLookup(x => x.Kind, x => x.Id, StringComparer.Ordinal);
        _moves = log.FastenerMoves.Where(m => m.Stands()).ToLookup(m => m.Step, StringComparer.Ordinal);
        _someLeftOut = _standing.Values.Any(s => s.State == StepState.Skipped);
        string[] until = [.. StripVariants.Chosen(log, Script).SelectMany(v => v.Until).Where(_byId.ContainsKey)];
        _goal = until.Length == 0 ? null : [.. until, .. until.SelectMany(id => StepGraph.Before(_byId[id], _byId))];
        _unsigned = Steps.FirstOrDefault(s => s.HoldPoint && _standing[s.Id].Begun && !Holds(s));
    }

    public StripScript Script { get; }

    public IReadOnlyList<StripStep> Steps { get; }

    public IReadOnlyDictionary<string, string> Names { get; }

    public StripStep? Step(string id) => _byId.GetValueOrDefault(id);

    public StepStanding Standing(string id) => _standing.GetValueOrDefault(id) ?? StepStanding.None;

    /// <summary>Stations at which a step can be done one by one; none where it is one act.</summary>
    public IReadOnlyList<int> StationsOf(StripStep step) => StepStations.Of(step, _table.Engine);

    /// <summary>
    /// What is recorded, in the order it was; what is left; and what comes later if at all: beyond where the strip is to end, or closed since a step
    /// before it was left out.
    /// </summary>
    public (IReadOnlyList<StripStep> Done, IReadOnlyList<StripStep> Left, IReadOnlyList<StripStep> Later) Sorted()
    {
        var done = Steps.Where(s => Standing(s.Id).State is not null).OrderBy(s => Standing(s.Id).Latest!.At).ThenBy(s => Standing(s.Id).Latest!.Id);
        var rest = Steps.Where(s => Standing(s.Id).State is null).ToLookup(s => IsBeyond(s) || ClosedBy(s) is not null);
        return ([.. done], [.. rest[false]], [.. rest[true]]);
    }

    /// <summary>The script's other ways that fit the engine, and why one cannot be chosen as things stand.</summary>
    public IReadOnlyList<VariantChoice> Variants =>
        [
            .. Script
                .Variants.Where(v => v.Applies.Fits(_log.Layout))
                .Select(v =>
                {
                    var chosen = _log.Variants.Contains(v.Id);
                    var refused = chosen ? null : StripVariants.Check([.. _log.Variants, v.Id], _log, Script);
                    return new VariantChoice(v.Id, v.Name, v.Says, chosen, v.Until.Count > 0, refused?.Text);
                }),
        ];

    /// <summary>
    /// Parts that are off, as of the first record by which a step frees their station or that of a part on which they hang, in that order.
    /// </summary>
    public IReadOnlyList<PartOff> Off()
    {
        var taken = Steps.SelectMany(TakenOff);
        var aboard = Carrier.Aboard(_table);
        return
        [
            .. taken
                .SelectMany(o => aboard[o.Place].Select(a => o with { Place = a.Code }).Prepend(o))
                .GroupBy(o => o.Place, StringComparer.Ordinal)
                .Select(g => g.MinBy(o => o.At ?? DateTimeOffset.MinValue)!)
                .OrderBy(o => o.At ?? DateTimeOffset.MinValue),
        ];
    }

    /// <summary>What a step took off itself, each with the record by which it did.</summary>
    private IEnumerable<PartOff> TakenOff(StripStep step)
    {
        var records = Standing(step.Id).Records;
        var after = records.Select((record, n) => (Record: record, Standing: StepStanding.Of(step, records.Take(n + 1), _table.Engine))).ToArray();
        foreach (var place in step.Releases.SelectMany(_table.OfKind))
        {
            var station = StepStations.At(step, place, _table.Engine);
            if (after.FirstOrDefault(a => a.Standing.TakesOff(station)).Record is { } record)
            {
                yield return new PartOff(place.Code, step.Id, record.State == StepState.WasOff ? null : record.At);
            }
        }
    }

    private bool IsBeyond(StripStep step) => _goal is not null && !_goal.Contains(step.Id);

    /// <summary>The signature that holds for a step as it is now; null where there is none, or where the step has changed since.</summary>
    public SignOff? SignatureOf(string step) => Step(step) is { } s && Holds(s) ? _signed[step] : null;

    /// <summary>The look of a second pair of eyes at a step as it is now, by another than who did it; null where there is none.</summary>
    public SignOff? SecondLookAt(string step) =>
        Step(step) is null
            ? null
            : _acts[step].LastOrDefault(a => a.Outcome == SignOutcome.Looked && !a.Imported && a.Seen == Seen(step) && !DidIt(step, a.By));

    /// <summary>All that was done at a hold point and stands, the first first.</summary>
    public IEnumerable<SignOff> ActsAt(string step) => _acts[step];

    /// <summary>Whether somebody of this shop recorded a step.</summary>
    public bool DidIt(string step, string by) => Standing(step).Records.Any(r => !r.Imported && r.By == by);

    /// <summary>
    /// What a signature of the step vouches for: what is recorded of it, ticks, counts, and how the step was changed for this engine. The script's own
    /// words are not part of it: they are the same for whoever reads them later, and kept with the version of the knowledge.
    /// </summary>
    public string Seen(string step) => Seen(step, wentBack: false);

    /// <param name="wentBack">
    /// Fasteners that went back in taken off what is out, as signatures were written at first: an engine that goes together again would void each of them.
    /// </param>
    private string Seen(string step, bool wentBack)
    {
        var s = _byId[step];
        var records = Standing(step).Records.Select(r => r.Id.ToString("N"));
        var sets = FastenerLedger
            .Of(s, _table.Engine, wentBack ? _moves[s.Id] : _moves[s.Id].Where(m => m.State is not (FastenerState.BackIn or FastenerState.NewIn)))
            .Select(l => $"{l.Set.Id}={l.Out}/{l.Broken}");
        var own = _own.GetValueOrDefault(step)?.Id.ToString("N") ?? "-";
        return string.Join(';', string.Join(',', records), own, string.Join(',', Ticked(step)), string.Join(',', sets));
    }

    /// <summary>Everything that holds a step back from being recorded as done.</summary>
    /// <param name="stations">Stations at which it is to be done; none is all that are left.</param>
    public IEnumerable<Obstacle> Obstacles(StripStep step, IReadOnlyList<int> stations) =>
        Obstacles(step, stations, Blocking(step, stations), Unread(step, stations));

    private IEnumerable<Obstacle> Obstacles(
        StripStep step,
        IReadOnlyList<int> stations,
        IEnumerable<(StripStep Before, string Why)> blocking,
        IEnumerable<UnreadEvidence> unread
    )
    {
        if (_unsigned is not null && _unsigned.Id != step.Id)
        {
            yield return new Obstacle(
                StepLock.HoldPoint,
                _unsigned.Id,
                Fact.Of(_signed.ContainsKey(_unsigned.Id) ? "strip.signature-stale" : "strip.hold-point-not-signed-yet", ("step", _unsigned.Name)),
                Fact.Of("strip.have-it-signed"),
                Opens: false
            );
        }

        foreach (var (before, why) in blocking)
        {
            yield return new Obstacle(
                StepLock.Order,
                before.Id,
                Fact.Of("strip.blocked-by", ("step", before.Name), ("why", why)),
                Fact.Of(Standing(before.Id).State == StepState.Skipped ? "strip.left-out-keeps-closed" : "strip.do-that-first"),
                Opens: false
            );
        }

        foreach (var place in unread)
        {
            yield return new Obstacle(
                StepLock.Unread,
                place.Place,
                place.Signs.Count == 0
                    ? Fact.Of("strip.nobody-looked", ("place", place.Place))
                    : Fact.Of(
                        "strip.nobody-read",
                        ("place", place.Place),
                        ("signs", place.Signs.Take(4)),
                        ("more", place.Signs.Count > 4 ? place.Signs.Count - 4 : null)
                    ),
                Fact.Of("strip.look-at-it-first"),
                Opens: true
            );
        }

        var sets = FastenerLedger.Of(step, _table.Engine, _moves[step.Id]);
        if (step.Parts)
        {
            foreach (var set in sets)
            {
                var expected = Expected(step, set, stations);
                // At some stations only, bolts of others may be out as well.
                if (stations.Count == 0 ? set.Out != expected : set.Out < expected)
                {
                    yield return new Obstacle(
                        StepLock.FastenersOut,
                        set.Set.Id,
                        Fact.Of(
                            "strip.set-out-expected",
                            ("set", set.Set.Name),
                            ("out", set.Out),
                            ("expected", expected),
                            ("broken", set.Broken > 0 ? set.Broken : null),
                            ("hidden", set.Set.Hidden)
                        ),
                        Fact.Of("strip.stop-look-one-still-holds"),
                        Opens: true
                    );
                }
            }
        }

        foreach (var set in sets.Where(s => s.MapMissing))
        {
            yield return new Obstacle(
                StepLock.Hole,
                set.Set.Id,
                Fact.Of("strip.lengths-differ-some-holes-none", ("set", set.Set.Name)),
                Fact.Of("strip.touch-each-hole"),
                Opens: true
            );
        }

        var ticked = Ticked(step.Id);
        foreach (var (i, tick) in Must(step).Where(m => !ticked.Contains(m.Item)))
        {
            yield return new Obstacle(
                StepLock.Tick,
                i.ToString(CultureInfo.InvariantCulture),
                Fact.Of("strip.not-ticked", ("tick", tick)),
                Fact.Of("strip.tick-it-when-so"),
                Opens: false
            );
        }

        if (IsEmpty(step, sets, ticked))
        {
            yield return new Obstacle(StepLock.Empty, "", Fact.Of("strip.nothing-entered"), Fact.Of("strip.enter-or-say"), Opens: true);
        }
    }

    /// <summary>Steps without which it cannot be done at these stations, with the reason.</summary>
    private IEnumerable<(StripStep Before, string Why)> Blocking(StripStep step, IReadOnlyList<int> stations)
    {
        int[] at = stations.Count > 0 ? [.. stations] : [.. StepStations.Of(step, _table.Engine).Except(Standing(step.Id).Stations)];
        foreach (var (id, why) in step.After)
        {
            if (!_byId.TryGetValue(id, out var before))
            {
                continue;
            }

            var standing = Standing(id);
            var oneByOne = at.Length > 0 && StepStations.Of(before, _table.Engine).Count > 0;
            var free = oneByOne
                ? at.All(s => standing.Frees(before, StepStations.Within(step.Per, s, before.Per, _table.Engine)))
                : standing.Frees(before, 0);
            if (!free)
            {
                yield return (before, why);
            }
        }
    }

    /// <summary>The step that was left out and keeps this one closed at every station that is left of it; null where none does.</summary>
    public StripStep? ClosedBy(StripStep step)
    {
        if (!_someLeftOut)
        {
            return null;
        }

        var seen = new HashSet<string>(StringComparer.Ordinal);
        var open = new Queue<StripStep>([step]);
        while (open.TryDequeue(out var s))
        {
            foreach (var id in s.After.Keys.Where(k => _byId.ContainsKey(k) && seen.Add(k)))
            {
                var before = _byId[id];
                var standing = Standing(id);
                if (standing.State == StepState.Skipped && before.Closes && !SomeStationFree(step, before, standing))
                {
                    return before;
                }

                if (standing.State is null)
                {
                    open.Enqueue(before);
                }
            }
        }

        return null;
    }

    private bool SomeStationFree(StripStep step, StripStep before, StepStanding standing) =>
        StepStations
            .Of(step, _table.Engine)
            .Except(Standing(step.Id).Stations)
            .Any(s => standing.Stations.Contains(StepStations.Within(step.Per, s, before.Per, _table.Engine)));

    /// <summary>Steps that stay closed when this one is left out: all that must follow it and are not recorded.</summary>
    private IEnumerable<string> Closes(StripStep step, IReadOnlySet<string> followers)
    {
        if (!step.Closes || Standing(step.Id).State is StepState.Done or StepState.WasOff)
        {
            return [];
        }

        return followers.Where(id => Standing(id).State is null).Select(id => Names[id]);
    }

    /// <summary>
    /// What the step would destroy unread. A place is read when anybody looked for any sign of it, whatever he saw. Evidence that cannot be seen before
    /// the step is done does not hold it back.
    /// </summary>
    private IEnumerable<UnreadEvidence> Unread(StripStep step, IReadOnlyList<int> stations)
    {
        foreach (var kind in step.ReadFirst.Where(k => SeenBefore(step, k)))
        {
            foreach (var place in _table.OfKind(kind).Where(a => !_read.Contains(a.Code) && Concerns(step, stations, a)))
            {
                if (step.Acts.Count == 0)
                {
                    yield return new UnreadEvidence(place.Code, []);
                    continue;
                }

                var lost = _knowledge.SignsOn(place.Kind.ReadAs).Where(s => s.DestroyedBy.Exists(step.Acts.Contains)).Select(s => s.Name).ToArray();
                yield return new UnreadEvidence(place.Code, lost);
            }
        }
    }

    /// <summary>Whether what a sign shows at a place was destroyed by a step that is done: what is off is not felt any more.</summary>
    public bool Destroyed(KnownSign sign, Address place) =>
        (sign.Running && Steps.Any(s => s.Releases.Count > 0 && Standing(s.Id).Begun))
        || (sign.DestroyedBy.Count > 0 && Steps.Any(s => Lost(s, sign, place)));

    private bool Lost(StripStep s, KnownSign sign, Address place) =>
        s.Acts.Exists(sign.DestroyedBy.Contains)
        && (s.Releases.Contains(place.Kind.Id) || s.ReadFirst.Contains(place.Kind.Id) || s.Exposes.Contains(place.Kind.Id))
        && Standing(s.Id).Begun
        && Standing(s.Id).Frees(s, StepStations.At(s, place, _table.Engine));

    /// <summary>Whether a kind of part lies open before the step: from the start, or by a step that comes before it.</summary>
    internal bool SeenBefore(StripStep step, string kind)
    {
        if (PartKinds.Find(kind) is { Outside: true })
        {
            return true;
        }

        var before = StepGraph.Before(step, _byId);
        return _opens[kind].Any(id => id != step.Id && (Standing(id).Begun || (before.Contains(id) && Standing(id).State is null)));
    }

    private bool Concerns(StripStep step, IReadOnlyList<int> stations, Address place) =>
        stations.Count == 0
            ? !Standing(step.Id).Stations.Any(s => StepStations.Has(step.Per, s, place, _table.Engine))
            : place.Kind.Scope == StationScope.Engine || stations.Any(s => StepStations.Has(step.Per, s, place, _table.Engine));

    /// <summary>How many of a set must be out once the step is done at these stations, those done before among them.</summary>
    private int Expected(StripStep step, SetLedger set, IReadOnlyList<int> stations)
    {
        var all = StepStations.Of(step, _table.Engine);
        return stations.Count == 0 || all.Count == 0 || set.Set.Per != step.Per
            ? set.Expected
            : set.Expected / all.Count * Standing(step.Id).Stations.Union(stations).Count();
    }

    private static IEnumerable<(int Item, string Tick)> Must(StripStep step) => step.Ticks.Index().Where(t => step.Must.Contains(t.Item));

    /// <summary>Whether a step that asks for entries has none: nothing ticked, counted or clocked.</summary>
    private bool IsEmpty(StripStep step, IReadOnlyList<SetLedger> sets, IReadOnlyList<int> ticked) =>
        (step.Ticks.Count > 0 || sets.Count > 0) && ticked.Count == 0 && sets.All(s => s.Out + s.Broken == 0) && !_marks[step.Id].Any();

    private bool Holds(StripStep step) =>
        _signed.TryGetValue(step.Id, out var sign)
        && !sign.Imported
        && (sign.Seen.Length == 0 ? Latest(step) <= sign.At : sign.Seen == Seen(step.Id) || sign.Seen == Seen(step.Id, wentBack: true));

    /// <summary>When something of the step was last recorded; for signatures of before what they vouch for was kept.</summary>
    internal DateTimeOffset Latest(StripStep step) =>
        Standing(step.Id)
            .Records.Select(r => r.At)
            .Concat(_own.TryGetValue(step.Id, out var own) ? [own.At] : [])
            .DefaultIfEmpty(DateTimeOffset.MinValue)
            .Max();

    internal PlannedStep Planned(StripStep step, Fact why)
    {
        var standing = Standing(step.Id);
        var open = standing.State is null;
        var sets = FastenerLedger.Of(step, _table.Engine, _moves[step.Id]);
        var signed = _signed.GetValueOrDefault(step.Id);
        var (spent, since) = Clock(_marks[step.Id]);
        var all = StepStations.Of(step, _table.Engine);
        var followers = Followers(step);
        (StripStep Before, string Why)[] blocking = [.. Blocking(step, [])];
        UnreadEvidence[] unread = open ? [.. Unread(step, [])] : [];
        return new PlannedStep(
            step.Id,
            step.Name,
            step.Does,
            step,
            _own.ContainsKey(step.Id),
            step.Ticks,
            [.. Must(step).Select(m => m.Item)],
            Ticked(step.Id),
            step.Attitude,
            step.End,
            step.PistonsDown
                ? CrankHelp.Words(CrankHelp.WellDown(_table.Engine, (double?)_log.Stroke, (double?)_log.RodLength))
                : Fact.Text(step.Crank),
            sets,
            sets.Sum(s => s.Expected),
            sets.Sum(s => s.In + s.Broken),
            step.Pattern,
            StripPlanner.MinutesOf(step, _table.Engine) * (all.Count == 0 ? 1 : 1 - ((double)standing.Stations.Count / all.Count)),
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
            signed is { Imported: false } && !Holds(step),
            step.HoldPoint ? HoldSections.Now(step, this) : null,
            standing.State,
            step.Per,
            all,
            [.. standing.Stations.Order()],
            string.Join(' ', standing.Records.Select(r => r.Reason).Where(r => r.Length > 0)),
            [.. standing.Records.SelectMany(r => r.Overrides)],
            open ? [.. Obstacles(step, [], blocking, unread)] : [],
            [.. Closes(step, followers)],
            open ? ClosedBy(step)?.Name ?? "" : "",
            open && IsBeyond(step),
            open && _unsigned is not null && _unsigned.Id != step.Id ? _unsigned.Name : "",
            open ? [.. blocking.Select(b => Fact.Of("strip.blocked-by", ("step", b.Before.Name), ("why", b.Why)))] : [],
            followers.Count,
            why,
            unread,
            [.. Holding(step, sets, blocking)]
        );
    }

    /// <summary>Everything that may still hold: counted fasteners, hidden ones first, then what is linked, then what sticks.</summary>
    private static IEnumerable<Fact> Holding(StripStep step, IReadOnlyList<SetLedger> sets, IReadOnlyList<(StripStep Before, string Why)> blocking)
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

        foreach (var (before, why) in blocking)
        {
            yield return Fact.Of("strip.not-done-yet", ("step", before.Name), ("why", why));
        }

        foreach (var hold in step.MayHold)
        {
            yield return Fact.Text(hold);
        }
    }

    /// <summary>Ids of all steps that cannot be done before this one.</summary>
    private HashSet<string> Followers(StripStep step)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var open = new Stack<string>([step.Id]);
        while (open.TryPop(out var id))
        {
            foreach (var next in _waiting[id].Where(n => seen.Add(n.Id)))
            {
                open.Push(next.Id);
            }
        }

        return seen;
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

    private IReadOnlyList<int> Ticked(string step)
    {
        var ticked = new SortedSet<int>();
        foreach (var mark in _marks[step])
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
