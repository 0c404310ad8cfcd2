using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Build;

/// <content>The way back: the strip in reverse, with what assembly adds to it.</content>
public sealed partial class Arising
{
    private readonly List<JointState> _joints = [];

    /// <summary>
    /// The strip in reverse: what a step took off goes back after all that came off behind it has, and after its own parts, and what it laid open, are
    /// decided on, worked on, and here.
    /// </summary>
    private void OfTheWayBack()
    {
        var steps = _strip.Steps.Where(s => s.State != StepState.Skipped && !s.Beyond && s.ClosedBy.Length == 0).ToArray();
        var byId = steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        var back = steps.Where(s => s.Releases.Count > 0 || s.Sets.Count > 0).Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        // By step, what was taken off behind it, directly or through steps that put nothing back.
        var behind = steps.ToDictionary(s => s.Id, _ => new HashSet<string>(StringComparer.Ordinal), StringComparer.Ordinal);
        foreach (var step in steps.Reverse())
        {
            foreach (var before in step.Source.Before.Where(byId.ContainsKey))
            {
                if (back.Contains(step.Id))
                {
                    behind[before].Add(step.Id);
                }
                else
                {
                    behind[before].UnionWith(behind[step.Id]);
                }
            }
        }

        var aboard = Carrier.Aboard(_table);
        var left = Left.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var covered = new HashSet<string>(StringComparer.Ordinal);
        var waitedFor = new HashSet<string>(StringComparer.Ordinal);
        var with = Owners(steps);
        foreach (var step in steps.Where(s => back.Contains(s.Id)))
        {
            var goes = step.Releases.SelectMany(_table.OfKind).ToArray();
            string[] places = [.. goes.SelectMany(a => aboard[a.Code].Prepend(a)).Select(a => a.Code).Distinct(StringComparer.Ordinal)];
            string[] open = [.. places, .. step.Exposes.SelectMany(_table.OfKind).Select(a => a.Code)];
            covered.UnionWith(open);
            waitedFor.UnionWith(behind[step.Id]);
            var (takes, from, clocked) = Clocked(step, TimeOf.Back);
            Hold(
                new ArisingTask(
                    BackKey(step.Id),
                    TaskKind.Back,
                    Named(step, goes),
                    takes,
                    from,
                    clocked,
                    step.Helper ? 2 : 1,
                    step.Tools,
                    places,
                    [
                        .. behind[step.Id].Select(BackKey),
                        .. left.Contains(step.Id) ? [StripKey(step.Id)] : Array.Empty<string>(),
                        .. open.SelectMany(p => _before.GetValueOrDefault(p) ?? []).Distinct(StringComparer.Ordinal),
                    ]
                )
                {
                    Way = _book.Of(BackKey(step.Id), step, goes, [.. with[step.Id]]),
                }
            );
            _joints.AddRange(
                _tasks[^1]
                    .Way!.Sets.Select(s => new JointState(
                        BackKey(step.Id),
                        _tasks[^1].Name,
                        s.Set,
                        s.Name,
                        s.Expected,
                        s.Out,
                        s.Pass,
                        s.How?.Passes.Count ?? 0,
                        s.Stands
                    ))
            );
        }

        Added(steps);

        // Nothing goes back while something is still to come off, to be read or to be washed: what comes off may be the reason for another course.
        string[] off = [.. left.Select(StripKey)];
        for (var i = 0; i < _tasks.Count; i++)
        {
            if (_tasks[i].Kind == TaskKind.Back)
            {
                _tasks[i] = _tasks[i] with
                {
                    After = [.. _tasks[i].After.Union(Free(_tasks[i], [.. off, .. FirstOf(_tasks[i])]), StringComparer.Ordinal)],
                };
            }
        }

        // What no step takes off or lays open, as the case itself, is there before anything goes back.
        string[] all = [.. _before.Where(b => b.Key != RunKey && !covered.Contains(b.Key)).SelectMany(b => b.Value).Distinct(StringComparer.Ordinal)];
        for (var i = 0; i < _tasks.Count; i++)
        {
            if (_tasks[i].Kind == TaskKind.Back)
            {
                _tasks[i] = _tasks[i] with { After = [.. _tasks[i].After.Union(Free(_tasks[i], all), StringComparer.Ordinal)] };
            }
        }

        // A waits for B that waits for A: what assembly adds gives way to the strip in reverse.
        string[] last =
        [
            .. _tasks
                .Where(t => t.Kind == TaskKind.Back)
                .Select(t => t.Key)
                .Except(_tasks.Where(t => t.Kind == TaskKind.Back).SelectMany(t => t.After)),
        ];
        string[] first = last.Length > 0 ? [.. last, .. _before.GetValueOrDefault(RunKey) ?? []] : [.. _tasks.Select(t => t.Key)];
        string[] start = [.. AddedAt(AssemblyTime.Start, steps).Select(a => Add + a.Id)];
        foreach (var added in AddedAt(AssemblyTime.Start, steps))
        {
            Hold(Task(added, TaskKind.Back, [.. first, .. added.After.Select(a => Add + a).Where(start.Contains)]));
        }

        Thumb(RunKey, TaskKind.Run, Fact.Of("build.task.run"), TimeOf.Run, "", [], [.. first, .. start]);
        _tasks[^1] = _tasks[^1] with { Way = _book.OfRun() };
        if (RanOn is { } day)
        {
            foreach (var added in AddedAt(AssemblyTime.FollowUp, steps))
            {
                Hold(Task(added, TaskKind.FollowUp, []) with { NotBefore = DueOn(added, day) });
            }
        }
    }

    /// <summary>Of keys, those that do not themselves wait for what assembly adds: the covers go on before the stone, and the stone is not waited for.</summary>
    private IEnumerable<string> Free(ArisingTask task, string[] keys) =>
        task.Key.StartsWith(Add, StringComparison.Ordinal) ? keys.Where(k => k != task.Key && !Behind(k).Contains(task.Key)) : keys;

    /// <summary>The day on which it ran again, by the record; null while it did not.</summary>
    private DateOnly? RanOn =>
        _records.GetValueOrDefault(RunKey) is { Mark: TaskMark.Through } ran
            ? DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(ran.At, _work.TimeZone).DateTime)
            : null;

    /// <summary>The day on which a follow-up is due; null of one that is due now, or of which nobody can say.</summary>
    /// <param name="ran">When it ran again.</param>
    private DateOnly? DueOn(AssemblyStep added, DateOnly ran)
    {
        DateOnly? byDays = added.Days is { } days ? ran.AddDays((int)Math.Ceiling(days)) : null;
        if (added.Hours is not { } due || _book.Ran is not { Hours: > 0 and var run } said || (double)run >= due)
        {
            return byDays;
        }

        // As many hours a day as it ran up to the day on which somebody said so.
        var noted = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(said.At, _work.TimeZone).DateTime);
        var aDay = (double)run / Math.Max(1, noted.DayNumber - ran.DayNumber);
        var byHours = noted.AddDays((int)Math.Min(MostDays, Math.Ceiling((due - (double)run) / aDay)));
        return byDays > byHours ? byDays : byHours;
    }

    /// <summary>Days beyond which nothing is foretold: ten years.</summary>
    private const double MostDays = 3650;

    /// <summary>New fasteners that came and are in no hole, once every step that they were for is together.</summary>
    private IReadOnlyList<NewFasteners> LeftNew() =>
        [
            .. _log
                .OrderLines.Where(l =>
                    l.Stands() && (l.Need.StartsWith("fastener/", StringComparison.Ordinal) || _log.FastenerMoves.Any(m => m.Line == l.Id))
                )
                .Select(l => _book.Fasteners(l.Id))
                .OfType<NewFasteners>()
                .Where(l => l.Left != 0),
        ];

    /// <summary>By id of a step of the strip, what assembly adds to what puts its parts in.</summary>
    private ILookup<string, AssemblyStep> Owners(IReadOnlyList<PlannedStep> steps) =>
        AddedAt(AssemblyTime.Fitting, steps)
            .Where(a => a.With.Count > 0)
            .SelectMany(a =>
                steps
                    .Where(s => s.Releases.Contains(a.With.FirstOrDefault(k => steps.Any(x => x.Releases.Contains(k))) ?? ""))
                    .Select(s => (s.Id, Added: a))
            )
            .ToLookup(x => x.Id, x => x.Added, StringComparer.Ordinal);

    /// <summary>What assembly adds at a time, where one of the kinds it is about is off or laid open.</summary>
    private IEnumerable<AssemblyStep> AddedAt(AssemblyTime time, IReadOnlyList<PlannedStep> steps)
    {
        var open = steps.SelectMany(s => s.Releases.Concat(s.Exposes)).ToHashSet(StringComparer.Ordinal);
        return _log.Assembly.Where(a =>
            a.Time == time
            && (
                time == AssemblyTime.FollowUp ? a.On.Count == 0 || a.On.Exists(k => _table.OfKind(k).Any())
                : a.On.Count == 0 ? steps.Count > 0
                : a.On.Exists(k => open.Contains(k) && _table.OfKind(k).Any())
            )
        );
    }

    /// <summary>Acts of assembly’s own: after and before the steps that put their parts in.</summary>
    private void Added(IReadOnlyList<PlannedStep> steps)
    {
        // What comes before a stone is not asked for where no stone is taken up.
        var own = AddedAt(AssemblyTime.Fitting, steps)
            .Where(a => a.With.Count == 0 && (a.Before.Count == 0 || a.Before.Exists(b => _knowledge.Course(b) is null || AtTheBench(b).Any())))
            .ToArray();
        var ids = own.Select(a => a.Id).ToHashSet(StringComparer.Ordinal);
        IEnumerable<string> Keys(string name) =>
            ids.Contains(name) ? [Add + name]
            : _knowledge.Course(name) is not null ? AtTheBench(name)
            : steps.Where(s => s.Releases.Contains(name)).Select(s => BackKey(s.Id)).Where(k => _tasks.Exists(t => t.Key == k));
        foreach (var added in own)
        {
            string[] courses = [.. _courses.Where(c => added.Courses.Contains(c.Value)).Select(c => c.Key)];
            Hold(Task(added, TaskKind.Back, [.. added.After.SelectMany(Keys).Concat(courses).Distinct(StringComparer.Ordinal)]));
        }

        foreach (var added in own)
        {
            foreach (var key in added.Before.SelectMany(Keys).Distinct(StringComparer.Ordinal))
            {
                var at = _tasks.FindIndex(t => t.Key == key);
                // The strip in reverse goes before: what would wait in a circle does not wait.
                if (at >= 0 && !Behind(Add + added.Id).Contains(key))
                {
                    _tasks[at] = _tasks[at] with { After = [.. _tasks[at].After.Union([Add + added.Id], StringComparer.Ordinal)] };
                }
            }
        }
    }

    /// <summary>Keys of the work of a course that is done at the shop’s own bench.</summary>
    private IEnumerable<string> AtTheBench(string course) =>
        _courses.Where(c => c.Value == course && c.Key.StartsWith("work/", StringComparison.Ordinal)).Select(c => c.Key);

    /// <summary>Keys of all that must be through before a task, near and far.</summary>
    private HashSet<string> Behind(string key)
    {
        var after = _tasks.ToDictionary(t => t.Key, t => t.After, StringComparer.Ordinal);
        var behind = new HashSet<string>(StringComparer.Ordinal);
        var open = new Stack<string>(after.GetValueOrDefault(key) ?? []);
        while (open.TryPop(out var k))
        {
            if (behind.Add(k))
            {
                foreach (var before in after.GetValueOrDefault(k) ?? [])
                {
                    open.Push(before);
                }
            }
        }

        return behind;
    }

    private ArisingTask Task(AssemblyStep added, TaskKind kind, IReadOnlyList<string> after)
    {
        var share = _knowledge.Time(TimeOf.Back).Once;
        var minutes = added.Minutes + (added.MinutesEach * FastenerLedger.CountOf(added.Per, _table.Engine));
        return new ArisingTask(
            Add + added.Id,
            kind,
            Fact.Text(added.Name),
            new Spell(minutes * share[0] / 60, minutes * share[1] / 60, minutes * share[2] / 60),
            SpellFrom.Script,
            0,
            added.Helper ? 2 : 1,
            added.Tools,
            [],
            after
        )
        {
            Way = _book.Of(Add + added.Id, null, [], [added]),
        };
    }

    /// <summary>A step by what it puts in or fills up; one that does neither by the step that it turns back.</summary>
    private static Fact Named(PlannedStep step, IReadOnlyList<Address> goes)
    {
        var kinds = goes.Select(a => a.Kind).DistinctBy(k => k.Id).Select(k => k.Name).ToArray();
        return kinds.Length > 0
                ? Fact.Of(
                    "build.task.fit",
                    ("parts", kinds.Take(Shown).ToArray()),
                    ("more", kinds.Length > Shown ? Fact.Of("build.task.fit-more", ("count", kinds.Length - Shown)) : null)
                )
            : step.Source.Drains.Count > 0 ? Fact.Of("build.task.fill", ("fluids", step.Source.Drains.Cast<object>().ToArray()))
            : Fact.Of("build.task.back", ("step", step.Name));
    }

    /// <summary>Kinds of part that are named in the name of a step.</summary>
    private const int Shown = 3;

    /// <summary>Keys of work that must be through before the parts of a step go back, beside what the strip in reverse says.</summary>
    private IEnumerable<string> FirstOf(ArisingTask back)
    {
        var goes = back.Places.Select(p => _table.Find(p)).OfType<Address>().Select(a => a.Kind.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var rule in _knowledge.Befores.Where(r => r.Before.Count == 0 || r.Before.Exists(goes.Contains)))
        {
            foreach (var (key, course) in _courses.Where(c => rule.Courses.Contains(c.Value)))
            {
                if (_tasks.Find(t => t.Key == key) is { } work && work.Places.Any(p => _table.Find(p) is { } a && rule.On.Contains(a.Kind.Id)))
                {
                    yield return key;
                }
            }
        }
    }
}
