using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Build;

/// <summary>Who or what says how long a task takes.</summary>
public enum SpellFrom
{
    /// <summary>A rule of thumb of the knowledge.</summary>
    Thumb,

    /// <summary>The script’s minutes.</summary>
    Script,

    /// <summary>This shop’s own clocks.</summary>
    Clocks,

    /// <summary>Somebody typed it.</summary>
    Typed,

    /// <summary>A day was named.</summary>
    Promised,
}

/// <summary>Something that is to be done or waited for before the engine runs.</summary>
/// <param name="Key">Names it, also while other things change.</param>
/// <param name="Takes">Hours; of one that goes on by itself, hours that pass.</param>
/// <param name="Clocked">On how many clocks of the shop that stands; 0 where on none.</param>
/// <param name="Hands">Pairs of hands.</param>
/// <param name="After">Keys of those that must be through before it begins.</param>
public sealed record ArisingTask(
    string Key,
    TaskKind Kind,
    Fact Name,
    Spell Takes,
    SpellFrom From,
    int Clocked,
    int Hands,
    IReadOnlyList<string> Tools,
    IReadOnlyList<string> Places,
    IReadOnlyList<string> After
)
{
    /// <summary>It goes on by itself, by night too.</summary>
    public bool ByItself { get; init; }

    /// <summary>It needs the bench for itself.</summary>
    public bool Bench { get; init; }

    public bool Dry { get; init; }

    public double? WarmerThan { get; init; }

    public DateOnly? NotBefore { get; init; }

    /// <summary>The day that was named for it.</summary>
    public DateOnly? Expected { get; init; }

    public bool Begun { get; init; }

    /// <summary>What a step of the way back puts in; null of other tasks.</summary>
    public WayBack? Way { get; init; }

    /// <summary>The record that adds or changes it; null where it is as it arises.</summary>
    public BuildTask? Record { get; init; }
}

/// <summary>What there is to do, and how far it is together.</summary>
/// <param name="Joints">Every joint that is or was open.</param>
/// <param name="Covers">Covers and plugs that are still on.</param>
/// <param name="LeftNew">New fasteners that came and are in no hole.</param>
/// <param name="RanOn">The day on which it ran again; null while it did not.</param>
public sealed record Arisen(
    IReadOnlyList<ArisingTask> Tasks,
    IReadOnlyList<JointState> Joints,
    IReadOnlyList<BackCover> Covers,
    IReadOnlyList<NewFasteners> LeftNew,
    DateOnly? RanOn
);

/// <summary>
/// The tasks that arise from what was recorded: what of the strip is left, what must be read first, what is to be decided, worked on, sent for, waited
/// for and let in, and the way back; with what somebody added or changed. What is through is not among them.
/// </summary>
public sealed partial class Arising
{
    /// <summary>What the key of a step of the way back begins with.</summary>
    public const string Back = "back/";

    /// <summary>What the key of a step that assembly adds begins with.</summary>
    public const string Add = "add/";

    /// <summary>Key of the first run.</summary>
    public const string RunKey = "run";

    /// <summary>Key of the second pair of hands, where a step needs one and the shop has none.</summary>
    public const string HelperKey = "helper";

    private const double HoursOfADay = 24;

    private readonly BuildLog _log;
    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly StripPlan _strip;
    private readonly BackBook _book;
    private readonly ShopWork _work;
    private readonly ShopClocks _clocks;
    private readonly DateTimeOffset _now;
    private readonly DateOnly _today;
    private readonly List<ArisingTask> _tasks = [];
    private readonly IReadOnlyDictionary<string, BuildTask> _records;

    /// <summary>Of each kind of part the steps of the strip that take it off and are left.</summary>
    private readonly ILookup<string, string> _frees;

    /// <summary>Of each place, what must be through before it goes back.</summary>
    private readonly Dictionary<string, List<string>> _before = new(StringComparer.Ordinal);

    /// <summary>Of a key, the id of the course after which it is through.</summary>
    private readonly Dictionary<string, string> _courses = new(StringComparer.Ordinal);

    private Arising(
        BuildLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        StripPlan strip,
        BackBook book,
        ShopWork work,
        ShopClocks clocks,
        DateTimeOffset now
    )
    {
        (_log, _table, _knowledge, _strip, _book, _work, _clocks, _now) = (log, table, knowledge, strip, book, work, clocks, now);
        _today = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(now, work.TimeZone).DateTime);
        _records = BuildTask.Latest(log.Tasks);
        _frees = Left.SelectMany(s => s.Releases.Concat(s.Exposes).Distinct(StringComparer.Ordinal).Select(k => (Kind: k, s.Id)))
            .ToLookup(x => x.Kind, x => StripKey(x.Id), StringComparer.Ordinal);
    }

    public static Arisen Of(
        BuildLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        StripPlan strip,
        GaugeSheet gauge,
        IReadOnlyList<VerdictAdvice> advice,
        OrderBoard order,
        BackBook book,
        ShopWork work,
        ShopClocks clocks,
        DateTimeOffset now
    )
    {
        var arising = new Arising(log, table, knowledge, strip, book, work, clocks, now);
        arising.OfStrip(gauge);
        arising.OfDecisions(advice);
        arising.OfWork();
        arising.OfNeeds(order.Needs);
        arising.OfLines(order.Lines);
        arising.OfCustody(order.Lines);
        arising.OfTheWayBack();
        return new Arisen(arising.WithRecords(), arising._joints, book.CoversOn(), arising.LeftNew(), arising.RanOn);
    }

    /// <summary>
    /// Keys of the steps that are left and must be done before places can be worked on: those that take off the parts that carry them, or lay them open
    /// where no step takes those off, as a bore of the case.
    /// </summary>
    private string[] OffBy(IEnumerable<Address> places)
    {
        var left = Left.ToArray();
        return
        [
            .. places
                .SelectMany(a =>
                {
                    var carriers = Carrier.Of(a, _table).Select(c => c.Kind.Id).ToHashSet(StringComparer.Ordinal);
                    return _strip.Steps.Any(s => s.Releases.Any(carriers.Contains))
                        ? left.Where(s => s.Releases.Any(carriers.Contains))
                        : left.Where(s => s.Exposes.Contains(a.Kind.Id));
                })
                .Select(s => StripKey(s.Id))
                .Distinct(StringComparer.Ordinal),
        ];
    }

    private IEnumerable<PlannedStep> Left => _strip.Steps.Where(s => s is { State: null, Beyond: false, ClosedBy.Length: 0 });

    private static string StripKey(string step) => $"strip/{step}";

    private static string BackKey(string step) => $"{Back}{step}";

    private static string DecideKey(string group) => $"decide/{group}";

    private void OfStrip(GaugeSheet gauge)
    {
        var left = Left.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var signs = _strip.Steps.Where(s => s.Unsettled(_strip.Next is not null)).ToArray();
        foreach (var step in signs)
        {
            Wait($"sign/{step.Id}", TaskKind.Signature, Fact.Of("build.task.sign", ("step", step.Name)));
        }

        foreach (var step in Left)
        {
            string[] after = [.. step.Source.Before.Where(left.Contains).Distinct(StringComparer.Ordinal).Select(StripKey)];
            string[] first = [.. signs.Where(s => step.Unsigned == s.Name).Select(s => $"sign/{s.Id}")];
            if (step.Unread.Count > 0)
            {
                string[] unread = [.. step.Unread.Select(u => u.Place)];
                Thumb($"look/{step.Id}", TaskKind.Look, Fact.Of("build.task.look", ("step", step.Name)), TimeOf.Look, "", unread, after);
                first = [.. first, $"look/{step.Id}"];
            }

            foreach (var due in gauge.Due.Where(d => d.Step == step.Id))
            {
                first = [.. first, Measure(due, after)];
            }

            var (takes, from, clocked) = Clocked(step, TimeOf.Script);
            Hold(
                new ArisingTask(
                    StripKey(step.Id),
                    TaskKind.Strip,
                    Fact.Text(step.Name),
                    takes,
                    from,
                    clocked,
                    step.Helper ? 2 : 1,
                    step.Tools,
                    [.. step.Releases.SelectMany(_table.OfKind).Select(a => a.Code)],
                    [.. after, .. first]
                )
                {
                    Begun = step.RunningSince is not null || step.Spent > 0,
                }
            );
        }

        foreach (var due in gauge.Due.Where(d => d.Step.Length == 0))
        {
            Measure(due, []);
        }
    }

    private string Measure(DueRound due, IReadOnlyList<string> after)
    {
        var key = $"measure/{due.Characteristic}/{due.Stratum.ToString().ToLowerInvariant()}";
        var characteristic = _knowledge.Characteristic(due.Characteristic);
        if (_tasks.TrueForAll(t => t.Key != key))
        {
            var name = Fact.Of("build.task.measure", ("round", characteristic?.Name ?? due.Characteristic), ("left", due.Left));
            Hold(Timed(key, TaskKind.Measure, name, TimeOf.Measure, "", due.Left, [], after));
        }

        return key;
    }

    private void OfDecisions(IReadOnlyList<VerdictAdvice> advice)
    {
        var decided = PartVerdict.Latest(_log.Verdicts);
        var open = advice.Where(a => a.Told && !decided.ContainsKey(a.Place)).ToLookup(a => a.Group, StringComparer.Ordinal);
        foreach (var group in _knowledge.Groups)
        {
            var kinds = group.Kinds.ToHashSet(StringComparer.Ordinal);
            var undecided = open[group.Id].Select(a => a.Place).ToArray();
            string[] after = [.. kinds.SelectMany(k => _frees[k]).Distinct(StringComparer.Ordinal)];
            var behind = after.Length > 0 && _table.All.Any(a => kinds.Contains(a.Kind.ReadAs) && !decided.ContainsKey(a.Code));
            if (undecided.Length == 0 && !behind)
            {
                continue;
            }

            var rounds = _tasks
                .Where(t => t.Kind == TaskKind.Measure && _knowledge.Characteristic(t.Key.Split('/')[1])?.On.Exists(kinds.Contains) == true)
                .Select(t => t.Key);
            Thumb(
                DecideKey(group.Id),
                TaskKind.Decide,
                undecided.Length > 0
                    ? Fact.Of("build.task.decide", ("group", group.Name), ("count", undecided.Length))
                    : Fact.Of("build.task.decide-later", ("group", group.Name)),
                TimeOf.Decide,
                "",
                undecided,
                [.. after, .. rounds]
            );
            foreach (var place in _table.All.Where(a => kinds.Contains(a.Kind.ReadAs)))
            {
                Before(place.Code, DecideKey(group.Id));
            }
        }
    }

    /// <summary>Work at the shop’s own bench that was decided on, until the parts are measured after it or somebody says that it is done.</summary>
    private void OfWork()
    {
        var work = PartVerdict
            .Latest(_log.Verdicts)
            .Values.Where(v => v.Action is not (VerdictAction.Reuse or VerdictAction.Replace) && !_log.MeasuredAfterWork.Contains(v.Place))
            .Select(v => (v.Place, Course: _knowledge.Course(v.Course), Address: _table.Find(v.Place)))
            .Where(v => v is { Course.At: DoneAt.Bench, Address: not null })
            .GroupBy(v => (Course: v.Course!.Id, Group: _knowledge.GroupOf(v.Address!.Kind.ReadAs)?.Id ?? ""));
        foreach (var group in work.OrderBy(g => g.Key.Group, StringComparer.Ordinal).ThenBy(g => g.Key.Course, StringComparer.Ordinal))
        {
            string[] places = [.. group.Select(v => v.Place).Order(StringComparer.Ordinal)];
            var key = $"work/{group.Key.Course}/{group.Key.Group}";
            Hold(
                Timed(
                    key,
                    TaskKind.Work,
                    Fact.Of(
                        "build.task.work",
                        ("course", group.First().Course!.Name),
                        ("group", _knowledge.GroupOf(group.First().Address!.Kind.ReadAs)?.Name),
                        ("count", places.Length)
                    ),
                    TimeOf.Course,
                    group.Key.Course,
                    places.Length,
                    places,
                    OffBy(group.Select(v => v.Address!))
                ) with
                {
                    Bench = true,
                }
            );
            Hold(places, key);
            _courses[key] = group.Key.Course;
        }
    }

    private void OfNeeds(IReadOnlyList<OrderNeed> needs)
    {
        foreach (var need in needs.Where(n => n.Missing > 0))
        {
            IEnumerable<string> decide = need.Decided
                ? []
                : need.Places.SelectMany(p => _before.GetValueOrDefault(p) ?? []).Where(k => k.StartsWith("decide/", StringComparison.Ordinal));
            _courses[$"check/need/{need.Key}"] = need.Course;
            Supplied($"need/{need.Key}", need.Kind, need.What, need.Places, [.. decide.Distinct(StringComparer.Ordinal)], days: null, need.Quantity);
        }
    }

    private void OfLines(IReadOnlyList<OrderLineState> lines)
    {
        var records = _log.OrderLines.ToDictionary(l => l.Id);
        foreach (var state in lines)
        {
            var line = records[state.Line];
            var name = Fact.Text(line.What);
            var key = $"line/{line.Id:N}";
            _courses[$"check/{key}"] = line.Course;
            if (
                state.Stage is OrderStage.Wanted or OrderStage.Asked
                || (state.Stage == OrderStage.SentBack && state.Outstanding > 0 && state.Expected is null)
            )
            {
                Supplied(key, line.Kind, name, line.Places, [], line.Days, line.Quantity);
            }
            else if (state.Outstanding > 0)
            {
                Coming(key, line.Kind, name, line.Places, [], state.Expected, line.Days, line.Quantity);
            }
            else if (state.Stage == OrderStage.Arrived)
            {
                Let(key, name, line.Places, [], line.Quantity);
            }
        }
    }

    /// <summary>Sent for, waited for and let in.</summary>
    private void Supplied(
        string key,
        SupplierKind kind,
        Fact what,
        IReadOnlyList<string> places,
        IReadOnlyList<string> after,
        decimal? days,
        decimal quantity
    )
    {
        // What is worked on elsewhere must be off before it can be sent.
        string[] off = kind == SupplierKind.Parts ? [] : OffBy(places.Select(p => _table.Find(p)).OfType<Address>());
        Hold(
            Timed($"send/{key}", TaskKind.Send, Fact.Of("build.task.send", ("what", what)), TimeOf.Send, WhoIs(kind), 0, places, [.. after, .. off])
        );
        Coming(key, kind, what, places, [$"send/{key}"], expected: null, days, quantity);
    }

    private void Coming(
        string key,
        SupplierKind kind,
        Fact what,
        IReadOnlyList<string> places,
        IReadOnlyList<string> after,
        DateOnly? expected,
        decimal? days,
        decimal quantity
    )
    {
        Away($"come/{key}", Fact.Of("build.task.come", ("what", what)), WhoIs(kind), places, after, expected, days);
        Let(key, what, places, [$"come/{key}"], quantity);
    }

    private void Let(string key, Fact what, IReadOnlyList<string> places, IReadOnlyList<string> after, decimal quantity)
    {
        var count = places.Count > 0 ? places.Count : (int)Math.Clamp(quantity, 1, 1000);
        Hold(
            Timed($"check/{key}", TaskKind.Check, Fact.Of("build.task.check", ("what", what)), TimeOf.Check, "", count, places, after) with
            {
                Bench = true,
            }
        );
        Hold(places, $"check/{key}");
        if (places.Count == 0)
        {
            Before(RunKey, $"check/{key}");
        }
    }

    /// <summary>Parts in other hands that no line of the order speaks of.</summary>
    private void OfCustody(IReadOnlyList<OrderLineState> lines)
    {
        var records = _log.OrderLines.ToDictionary(l => l.Id);
        var told = lines
            .Where(l => l.Outstanding > 0)
            .Select(l => records[l.Line])
            .Where(l => l.Kind != SupplierKind.Parts)
            .SelectMany(l => l.Places)
            .ToHashSet(StringComparer.Ordinal);
        var away = _log.Parts.Where(p => p.Stands() && p.Custody.IsOut() && !told.Contains(p.Place));
        foreach (var group in away.GroupBy(p => (p.Custody, Where: p.Where.Trim().ToUpperInvariant())))
        {
            string[] places = [.. group.Select(p => p.Place).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)];
            var key = $"away/{group.Key.Custody.ToString().ToLowerInvariant()}/{group.Key.Where.ToLowerInvariant()}";
            var name = Fact.Of("build.task.away", ("places", places), ("where", group.First().Where), ("custody", group.Key.Custody));
            Away(key, name, WhoHas(group.Key.Custody), places, [], group.Max(p => p.DueBack), days: null);
            Hold(places, key);
        }
    }

    /// <summary>What somebody added or changed, laid over what arises; what is through or left out is waited for no more.</summary>
    private List<ArisingTask> WithRecords()
    {
        foreach (var record in _records.Values.Where(r => r.Of.Length == 0).OrderBy(r => r.At).ThenBy(r => r.Id))
        {
            Hold(Own(record));
        }

        for (var i = 0; i < _tasks.Count; i++)
        {
            if (_records.GetValueOrDefault(_tasks[i].Key) is { Of.Length: > 0 } record)
            {
                _tasks[i] = Changed(_tasks[i], record);
            }
        }

        if (_work.Hands < 2 && _tasks.Exists(t => t.Hands > 1))
        {
            Wait(HelperKey, TaskKind.Helper, Fact.Of("build.task.helper"));
            _tasks[^1] = _records.GetValueOrDefault(HelperKey) is { } record ? Changed(_tasks[^1], record) : _tasks[^1];
            for (var i = 0; i < _tasks.Count; i++)
            {
                if (_tasks[i].Hands > 1)
                {
                    _tasks[i] = _tasks[i] with { After = [.. _tasks[i].After, HelperKey] };
                }
            }
        }

        var holds = _records
            .Values.SelectMany(r => r.Holds.Select(h => (By: r.Key(), Held: h)))
            .ToLookup(x => x.Held, x => x.By, StringComparer.Ordinal);
        var gone = _records.Values.Where(r => r.Mark is TaskMark.Through or TaskMark.LeftOut).Select(r => r.Key()).ToHashSet(StringComparer.Ordinal);
        var byKey = _tasks.ToDictionary(t => t.Key, StringComparer.Ordinal);
        // What waited for one that is left out waits for what that one waited for; what is through holds nothing.
        var after = byKey.ToDictionary(t => t.Key, t => t.Value.After.Concat(holds[t.Key]).ToArray(), StringComparer.Ordinal);
        return
        [
            .. _tasks
                .Where(t => !gone.Contains(t.Key))
                .Select(t => t with { After = [.. Through(t.Key).Where(k => k != t.Key).Order(StringComparer.Ordinal)] }),
        ];

        HashSet<string> Through(string key)
        {
            var found = new HashSet<string>(StringComparer.Ordinal);
            var seen = new HashSet<string>(StringComparer.Ordinal);
            var open = new Stack<string>(after[key]);
            while (open.TryPop(out var k))
            {
                if (!byKey.ContainsKey(k) || !seen.Add(k))
                {
                    continue;
                }

                if (!gone.Contains(k))
                {
                    found.Add(k);
                }
                else if (_records[k].Mark == TaskMark.LeftOut)
                {
                    foreach (var before in after[k])
                    {
                        open.Push(before);
                    }
                }
            }

            return found;
        }
    }

    private ArisingTask Own(BuildTask record)
    {
        var waits = record.Kind != TaskKind.Own;
        var task = new ArisingTask(
            record.Key(),
            record.Kind,
            Fact.Text(record.Name),
            waits ? Of(TimeOf.Wait, WhichWait(record.Kind), 0) : Of(TimeOf.Course, "", 1),
            SpellFrom.Thumb,
            0,
            waits ? 0 : 1,
            [],
            [],
            []
        )
        {
            ByItself = waits,
        };
        return Changed(task, record);
    }

    private ArisingTask Changed(ArisingTask task, BuildTask record)
    {
        var (takes, from) =
            record is { Least: { } least, Likely: { } likely, Most: { } most }
                ? (new Spell((double)least, (double)likely, (double)most), SpellFrom.Typed)
            : record.Expected is { } day && task.ByItself ? (Promised(day, WhichWait(task.Kind)), SpellFrom.Promised)
            : (task.Takes, task.From);
        return task with
        {
            Takes = takes,
            From = from,
            Hands = record.ByItself ? 0 : record.Hands ?? task.Hands,
            Tools = record.Tools.Count > 0 ? record.Tools : task.Tools,
            After = [.. task.After.Union(record.After, StringComparer.Ordinal)],
            ByItself = task.ByItself || record.ByItself,
            Bench = task.Bench && !record.ByItself,
            Dry = record.Dry,
            WarmerThan = (double?)record.WarmerThan,
            NotBefore = record.NotBefore,
            Expected = record.Expected ?? task.Expected,
            Begun = record.Mark == TaskMark.Begun || task.Begun,
            Record = record,
        };
    }

    private void Away(string key, Fact name, string who, IReadOnlyList<string> places, IReadOnlyList<string> after, DateOnly? expected, decimal? days)
    {
        // Days that somebody named for it may run over as a day that was named may.
        var late = _knowledge.Time(TimeOf.Late, who).Once;
        var takes =
            expected is { } day ? Promised(day, who)
            : days is { } d ? new Spell(HoursOfADay * (double)d, HoursOfADay * ((double)d + late[1]), HoursOfADay * ((double)d + late[2]))
            : Of(TimeOf.Away, who, 0);
        Hold(
            new ArisingTask(
                key,
                TaskKind.Away,
                name,
                takes,
                expected is not null || days is not null ? SpellFrom.Promised : SpellFrom.Thumb,
                0,
                0,
                [],
                places,
                after
            )
            {
                ByItself = true,
                Expected = expected,
            }
        );
    }

    private void Wait(string key, TaskKind kind, Fact name) =>
        Hold(new ArisingTask(key, kind, name, Of(TimeOf.Wait, WhichWait(kind), 0), SpellFrom.Thumb, 0, 0, [], [], []) { ByItself = true });

    /// <summary>From now until a day that was named, and by how much such days are missed; of a day that is past, how much longer such things take.</summary>
    private Spell Promised(DateOnly day, string who)
    {
        if (day < _today)
        {
            return Of(TimeOf.Late, "overdue", 0);
        }

        // What comes on a day comes by noon of it.
        var noon = day.ToDateTime(new TimeOnly(12, 0));
        var until = Math.Max(0, (new DateTimeOffset(noon, _work.TimeZone.GetUtcOffset(noon)) - _now).TotalHours);
        var late = _knowledge.Time(TimeOf.Late, who).Once;
        return new Spell(until + (HoursOfADay * late[0]), until + (HoursOfADay * late[1]), until + (HoursOfADay * late[2]));
    }

    private (Spell Takes, SpellFrom From, int Clocked) Clocked(PlannedStep step, TimeOf of)
    {
        var share = _knowledge.Time(of).Once;
        if (of == TimeOf.Script && _clocks.Minutes.GetValueOrDefault(step.Id) is { Count: > 0 } minutes)
        {
            var sorted = minutes.Order().ToArray();
            var middle = sorted[sorted.Length / 2];
            // One clock or two say little of the spread: it is at least as wide as that of a script.
            var few = sorted.Length < 3;
            var (least, most) = few ? (Math.Min(sorted[0], middle * share[0]), Math.Max(sorted[^1], middle * share[2])) : (sorted[0], sorted[^1]);
            return (Left(least, middle, most), SpellFrom.Clocks, sorted.Length);
        }

        // Of a step that is begun the plan tells the rest; what comes back is all of it.
        var told = of == TimeOf.Script ? step.Minutes : StripPlanner.MinutesOf(step.Source, _table.Engine);
        return (Left(told * share[0], told * share[1], told * share[2]), SpellFrom.Script, 0);

        // Of one that is begun the rest, and never nothing while it is not done.
        Spell Left(double least, double likely, double most)
        {
            var spent = of == TimeOf.Script ? step.Spent : 0;
            var rest = Math.Max(1, likely - spent);
            return new Spell(Math.Min(rest, Math.Max(1, least - spent)) / 60, rest / 60, Math.Max(rest, most - spent) / 60);
        }
    }

    private void Thumb(string key, TaskKind kind, Fact name, TimeOf of, string which, string[] places, IReadOnlyList<string> after) =>
        Hold(Timed(key, kind, name, of, which, places.Length, places, after));

    private ArisingTask Timed(
        string key,
        TaskKind kind,
        Fact name,
        TimeOf of,
        string which,
        int count,
        IReadOnlyList<string> places,
        IReadOnlyList<string> after
    ) => new(key, kind, name, Of(of, which, count), SpellFrom.Thumb, 0, 1, [], places, after);

    /// <summary>Hours, from the knowledge.</summary>
    private Spell Of(TimeOf of, string which, int count)
    {
        var time = _knowledge.Time(of, which);
        var hours = time.Unit == TimeUnit.Days ? HoursOfADay : 1;
        return new Spell(At(0), At(1), At(2));

        double At(int i) => hours * (time.Once.ElementAtOrDefault(i) + (count * time.Each.ElementAtOrDefault(i)));
    }

    private void Hold(ArisingTask task) => _tasks.Add(task);

    private void Hold(IReadOnlyList<string> places, string key)
    {
        foreach (var place in places)
        {
            Before(place, key);
        }
    }

    private void Before(string place, string key)
    {
        if (!_before.TryGetValue(place, out var keys))
        {
            _before[place] = keys = [];
        }

        if (!keys.Contains(key))
        {
            keys.Add(key);
        }
    }

    private static string WhoIs(SupplierKind kind) =>
        kind switch
        {
            SupplierKind.Parts => "supplier",
            SupplierKind.MachineShop => "machine-shop",
            SupplierKind.Specialist => "specialist",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    private static string WhoHas(Custody custody) =>
        custody switch
        {
            Custody.MachineShop => "machine-shop",
            Custody.Welder => "specialist",
            Custody.Customer => "customer",
            _ => "supplier",
        };

    private static string WhichWait(TaskKind kind) =>
        kind switch
        {
            TaskKind.Owner => "owner",
            TaskKind.Helper => "helper",
            TaskKind.Tool => "tool",
            TaskKind.Signature => "signature",
            TaskKind.OnPurpose => "on-purpose",
            _ => "away",
        };
}
