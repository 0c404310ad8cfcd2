namespace VividSleuth.Core.Build;

/// <summary>Something to be done with hands, places or tools of which there are only so many.</summary>
/// <param name="Id">Names it among the others.</param>
/// <param name="Minutes">How long it takes; none is less than nothing.</param>
/// <param name="After">Those that must be through before it begins.</param>
/// <param name="Needs">How many of each it keeps busy from its beginning to its end: two hands for a lift, one bench.</param>
public sealed record PlannedTask(string Id, int Minutes, IReadOnlyList<string> After, IReadOnlyDictionary<string, int> Needs)
{
    /// <summary>Minutes from the beginning before which it cannot begin: a parcel on the road.</summary>
    public int NotBefore { get; init; }

    /// <summary>It goes on by itself, by night too: a coating that cures, a part that is away.</summary>
    public bool ByItself { get; init; }

    /// <summary>
    /// Only then, where it is told: dry days. What is worked on goes on with the next of them; what goes on by itself needs one that is long enough.
    /// </summary>
    public OpenMinutes? Only { get; init; }
}

/// <summary>So many of a kind are not there from a minute to another: somebody is away.</summary>
public sealed record Missing(string Kind, int Count, int From, int To);

/// <summary>When each begins, so that all is through as early as was found.</summary>
/// <param name="Starts">Minutes from the beginning, by task.</param>
/// <param name="Makespan">Minutes until all is through.</param>
/// <param name="Bound">No plan takes less, in minutes.</param>
public sealed record ResourcePlan(IReadOnlyDictionary<string, int> Starts, int Makespan, int Bound)
{
    /// <summary>Nothing shorter can be had.</summary>
    public bool IsShortest => Makespan == Bound;
}

/// <summary>
/// Plans for the hands there are: the resource-constrained project scheduling problem. Lists of tasks are turned into plans by the serial scheme, in which
/// each task begins as early as what it waits for and what is free allow (J. E. Kelley 1963); lists are bred as in S. Hartmann, “A competitive genetic
/// algorithm for resource-constrained project scheduling”, Naval Research Logistics 45 (1998) 733, and each plan is justified to the right and to the left
/// (V. Valls, F. Ballestín and S. Quintanilla, European Journal of Operational Research 165 (2005) 375). Few tasks are searched whole by the precedence
/// tree of J. H. Patterson and others (1989), which meets every plan in which nothing could begin earlier by itself, and so a shortest one.
/// </summary>
public sealed class ResourcePlanner
{
    /// <summary>As many tasks are searched whole.</summary>
    public const int SearchedWhole = 12;

    /// <summary>Lists that live at the same time.</summary>
    private const int Herd = 24;

    private readonly string[] _ids;
    private readonly int[] _minutes;
    private readonly int[][] _before;
    private readonly int[][] _then;
    private readonly int[][] _needs;

    /// <summary>Of each task the kinds that it needs, and the most of each that others may have in use beside it.</summary>
    private readonly (int Kind, int Beside)[][] _beside;
    private readonly bool[] _byItself;
    private readonly int[] _most;
    private readonly int[] _tail;

    /// <summary>Kinds that each needs, a bit for each; those behind the sixty-fourth count as one.</summary>
    private readonly ulong[] _kindsOf;
    private readonly (int Kind, Missing Of)[] _missing;
    private readonly OpenMinutes _open;

    /// <summary>As it is planned, and from the end by a clock that never stands still.</summary>
    private readonly Clock _planned;
    private readonly Clock _mirrored;

    /// <param name="tasks">What is to be done.</param>
    /// <param name="there">How many there are of each of what tasks need.</param>
    /// <param name="open">When work is done; always, where it is not told. A task that is begun goes on after the night, and keeps what it needs meanwhile.</param>
    /// <param name="missing">What of it is not there for a time.</param>
    /// <exception cref="ProblemException">A wait that cannot be, or a task that needs more than there is.</exception>
    public ResourcePlanner(
        IReadOnlyList<PlannedTask> tasks,
        IReadOnlyDictionary<string, int> there,
        OpenMinutes? open = null,
        IReadOnlyList<Missing>? missing = null
    )
    {
        _open = open ?? OpenMinutes.Always;
        var network = new Network([.. tasks.Select(t => new Activity(t.Id, Spell.Always(t.Minutes), t.After))]);
        var byId = tasks.ToDictionary(t => t.Id, StringComparer.Ordinal);
        var kinds = there.Keys.Order(StringComparer.Ordinal).ToArray();
        foreach (var task in tasks)
        {
            foreach (var (kind, count) in task.Needs)
            {
                if (count > there.GetValueOrDefault(kind))
                {
                    throw new ProblemException(
                        Problem.Of(
                            "tasks",
                            "build.needs-more-than-there-is",
                            ("task", task.Id),
                            ("count", count),
                            ("kind", kind),
                            ("there", there.GetValueOrDefault(kind))
                        )
                    );
                }
            }
        }

        _ids = [.. network.InOrder.Select(a => a.Id)];
        var place = _ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i, StringComparer.Ordinal);
        _minutes = [.. _ids.Select(id => byId[id].Minutes)];
        _before = [.. _ids.Select(id => byId[id].After.Select(b => place[b]).Distinct().ToArray())];
        _then = [.. _ids.Select((_, i) => Enumerable.Range(0, _ids.Length).Where(k => _before[k].Contains(i)).ToArray())];
        _byItself = [.. _ids.Select(id => byId[id].ByItself)];
        _needs = [.. _ids.Select(id => kinds.Select(k => byId[id].Needs.GetValueOrDefault(k)).ToArray())];
        _most = [.. kinds.Select(k => there[k])];
        _beside =
        [
            .. _needs.Select(n =>
                n.Select((count, k) => (Kind: k, Beside: _most[k] - count, count)).Where(x => x.count > 0).Select(x => (x.Kind, x.Beside)).ToArray()
            ),
        ];
        _kindsOf = [.. _needs.Select(n => n.Select((count, k) => count > 0 ? 1UL << Math.Min(k, 63) : 0).Aggregate(0UL, (all, k) => all | k))];
        _missing = [.. (missing ?? []).Where(m => m.To > m.From).Select(m => (Array.IndexOf(kinds, m.Kind), m)).Where(m => m.Item1 >= 0)];
        _planned = new Clock(
            [.. _ids.Select(id => byId[id].Only ?? (byId[id].ByItself ? null : _open))],
            _minutes,
            [.. _ids.Select(id => byId[id].NotBefore)],
            _byItself
        );
        _mirrored = new Clock([.. _byItself.Select(b => b ? null : OpenMinutes.Always)], _minutes, new int[_ids.Length], _byItself);
        _tail = new int[_ids.Length];
        for (var i = _ids.Length - 1; i >= 0; i--)
        {
            _tail[i] = _minutes[i] + (_then[i].Length == 0 ? 0 : _then[i].Max(k => _tail[k]));
        }
    }

    /// <summary>A plan, the same for the same tasks.</summary>
    /// <param name="tries">How many plans are tried where none is known to be a shortest; more tries, a better plan.</param>
    public ResourcePlan Plan(int tries = 2000)
    {
        if (_ids.Length == 0)
        {
            return new ResourcePlan(new Dictionary<string, int>(), 0, 0);
        }

        var bound = Bound();
        var (starts, makespan) = Breed(tries, bound);
        if (makespan > bound && _ids.Length <= SearchedWhole)
        {
            (starts, makespan) = new Search(this, starts, makespan).Whole();
            bound = makespan;
        }

        return new ResourcePlan(_ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => starts[x.i], StringComparer.Ordinal), makespan, bound);
    }

    /// <summary>
    /// When each must be begun at the latest so that the plan ends no later and its order is kept, in minutes from the beginning: what comes behind it,
    /// waiting for it or for the same hands, is then begun at its latest.
    /// </summary>
    public IReadOnlyDictionary<string, int> Latest(ResourcePlan plan)
    {
        var n = _ids.Length;
        var starts = _ids.Select(id => plan.Starts[id]).ToArray();
        var latest = new int[n];
        foreach (
            var i in Enumerable
                .Range(0, n)
                .OrderByDescending(i => starts[i])
                .ThenByDescending(i => _planned.End(i, starts[i]))
                .ThenByDescending(i => i)
        )
        {
            var through = _planned.End(i, starts[i]);
            var end = plan.Makespan;
            for (var k = 0; k < n; k++)
            {
                if (k != i && (_before[k].Contains(i) || (starts[k] >= through && starts[k] > starts[i] && Share(i, k))))
                {
                    end = Math.Min(end, latest[k]);
                }
            }

            latest[i] = Math.Max(starts[i], _planned.Start(i, end));
        }

        return _ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => latest[x.i], StringComparer.Ordinal);
    }

    /// <summary>When one is through that is begun as planned, in minutes from the beginning.</summary>
    public int EndOf(string id, ResourcePlan plan)
    {
        var i = Array.IndexOf(_ids, id);
        return _planned.End(i, plan.Starts[id]);
    }

    /// <summary>
    /// What becomes of a plan when everything takes as long as it happens to take: its order is kept, and each begins as early as what it waits for, what is
    /// free and the clock allow.
    /// </summary>
    /// <param name="takes">How long each may take, in hours; what is not there takes as long as planned.</param>
    /// <param name="draws">How often it is drawn.</param>
    public Forecast Forecast(ResourcePlan plan, IReadOnlyDictionary<string, Spell> takes, int draws = 2000)
    {
        var n = _ids.Length;
        var list = Enumerable.Range(0, n).OrderBy(i => plan.Starts[_ids[i]]).ThenBy(i => i).ToArray();
        var spells = _ids.Select((id, i) => takes.TryGetValue(id, out var spell) ? spell : Spell.Always(_minutes[i] / 60.0)).ToArray();
        var ends = new int[draws];
        var hangs = new int[n];
        Parallel.For(
            0,
            draws,
            () => (Clock: _planned with { Minutes = new int[n] }, Hangs: new int[n]),
            (draw, _, own) =>
            {
                // Each draw has chances of its own, so that the answer does not hang on which was drawn first.
                var random = new Random(draw + 1);
                for (var i = 0; i < n; i++)
                {
                    own.Clock.Minutes[i] = (int)Math.Round(60 * spells[i].Draw(random));
                }

                var (starts, end) = Serial(list, _before, own.Clock);
                ends[draw] = end;
                Hang(starts, end, own.Clock, own.Hangs);
                return own;
            },
            own =>
            {
                lock (hangs)
                {
                    for (var i = 0; i < n; i++)
                    {
                        hangs[i] += own.Hangs[i];
                    }
                }
            }
        );
        Array.Sort(ends);
        return new Forecast(ends, _ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => hangs[x.i] / (double)draws, StringComparer.Ordinal));
    }

    /// <summary>Counts the tasks without which the end would not be where it is: from the last ones back to what kept each from beginning earlier.</summary>
    private void Hang(int[] starts, int end, Clock clock, int[] hangs)
    {
        var n = starts.Length;
        var through = new int[n];
        for (var i = 0; i < n; i++)
        {
            through[i] = clock.End(i, starts[i]);
        }

        var on = new bool[n];
        var left = new Stack<int>(Enumerable.Range(0, n).Where(i => through[i] == end));
        while (left.TryPop(out var i))
        {
            if (on[i])
            {
                continue;
            }

            on[i] = true;
            hangs[i]++;
            for (var b = 0; b < n; b++)
            {
                if (
                    !on[b]
                    && starts[b] < starts[i]
                    && through[b] <= starts[i]
                    && (Share(i, b) || _before[i].Contains(b))
                    && clock.Begin(i, through[b]) == starts[i]
                )
                {
                    left.Push(b);
                }
            }
        }
    }

    /// <summary>Whether two need something of the same kind.</summary>
    private bool Share(int a, int b) => (_kindsOf[a] & _kindsOf[b]) != 0;

    /// <summary>The longest path, and the work of each kind shared out among all of it.</summary>
    private int Bound()
    {
        var through = new int[_ids.Length];
        for (var i = 0; i < _ids.Length; i++)
        {
            through[i] = _planned.End(i, _planned.Begin(i, _before[i].Length == 0 ? 0 : _before[i].Max(b => through[b])));
        }

        var path = through.Max();
        for (var k = 0; k < _most.Length; k++)
        {
            if (_most[k] > 0)
            {
                // What goes on by itself may do so by night.
                var work = Enumerable.Range(0, _ids.Length).Where(i => !_byItself[i]).Sum(i => (long)_minutes[i] * _needs[i][k]);
                path = Math.Max(path, _open.End(_open.Next(0), (int)((work + _most[k] - 1) / _most[k])));
            }
        }

        return path;
    }

    private (int[] Starts, int Makespan) Breed(int tries, int bound)
    {
        var random = new Random(1);
        var n = _ids.Length;
        var herd = new List<(int[] List, int[] Starts, int Makespan)>();
        var tried = 0;
        // First by the longest way to the end, then leaning to it by chance.
        for (; herd.Count < Herd && tried < tries; tried++)
        {
            herd.Add(Try(Leaning(random, tried == 0 ? 0 : 0.3)));
            if (herd[^1].Makespan == bound)
            {
                return (herd[^1].Starts, bound);
            }
        }

        while (tried < tries)
        {
            herd.Sort((a, b) => a.Makespan.CompareTo(b.Makespan));
            if (herd.Count > Herd)
            {
                herd.RemoveRange(Herd, herd.Count - Herd);
            }

            for (var k = 0; k < Herd && tried < tries; k++, tried++)
            {
                var (mother, father) = (herd[random.Next(herd.Count)], herd[random.Next(herd.Count)]);
                var child = Try(Change(Cross(mother.List, father.List, random), random));
                if (child.Makespan == bound)
                {
                    return (child.Starts, bound);
                }

                herd.Add(child);
            }
        }

        var best = herd.MinBy(h => h.Makespan);
        return (best.Starts, best.Makespan);
    }

    /// <summary>A list in which none stands before what it waits for, those with the longest way to the end first, and more or less by chance.</summary>
    private int[] Leaning(Random random, double chance)
    {
        var n = _ids.Length;
        var waits = _before.Select(b => b.Length).ToArray();
        var free = Enumerable.Range(0, n).Where(i => waits[i] == 0).ToList();
        var list = new int[n];
        for (var at = 0; at < n; at++)
        {
            var pick = 0;
            var best = double.NegativeInfinity;
            for (var k = 0; k < free.Count; k++)
            {
                var worth = _tail[free[k]] * (1 - (chance * random.NextDouble()));
                if (worth > best)
                {
                    (best, pick) = (worth, k);
                }
            }

            var i = free[pick];
            free.RemoveAt(pick);
            list[at] = i;
            foreach (var k in _then[i])
            {
                if (--waits[k] == 0)
                {
                    free.Add(k);
                }
            }
        }

        return list;
    }

    /// <summary>The middle from the one, the rest in the order of the other: none stands before what it waits for, as it does in neither.</summary>
    private static int[] Cross(int[] mother, int[] father, Random random)
    {
        var n = mother.Length;
        var (from, to) = (random.Next(n), random.Next(n));
        if (from > to)
        {
            (from, to) = (to, from);
        }

        var taken = new bool[n];
        var child = new int[n];
        var at = 0;
        void Take(int i)
        {
            taken[i] = true;
            child[at++] = i;
        }

        for (var k = 0; k < from; k++)
        {
            Take(mother[k]);
        }

        foreach (var i in father)
        {
            if (at >= to)
            {
                break;
            }

            if (!taken[i])
            {
                Take(i);
            }
        }

        foreach (var i in mother)
        {
            if (!taken[i])
            {
                Take(i);
            }
        }

        return child;
    }

    /// <summary>Neighbours change places now and then, where the one does not wait for the other.</summary>
    private int[] Change(int[] list, Random random)
    {
        for (var k = 1; k < list.Length; k++)
        {
            if (random.NextDouble() < 0.05 && !_before[list[k]].Contains(list[k - 1]))
            {
                (list[k - 1], list[k]) = (list[k], list[k - 1]);
            }
        }

        return list;
    }

    /// <summary>The plan of a list, pushed to the right and to the left again, and the list that it came to be.</summary>
    private (int[] List, int[] Starts, int Makespan) Try(int[] list)
    {
        var (starts, makespan) = Serial(list, _before, _planned);
        var late = list.OrderByDescending(i => _planned.End(i, starts[i])).ThenByDescending(i => i).ToArray();
        // By night the clock stands still, from the end it does not: good enough for the order in which things are late.
        var (mirrored, span) = Serial(late, _then, _mirrored);
        var early = list.OrderBy(i => span - mirrored[i] - _minutes[i]).ThenBy(i => i).ToArray();
        var (again, shorter) = Serial(early, _before, _planned);
        return shorter <= makespan ? (early, again, shorter) : (list, starts, makespan);
    }

    /// <summary>Each as early as those before it in the list, what it waits for and what is free allow.</summary>
    private (int[] Starts, int Makespan) Serial(int[] list, int[][] before, Clock clock)
    {
        var starts = new int[_ids.Length];
        var through = new int[_ids.Length];
        var busy = new Busy(this, clock);
        var end = 0;
        foreach (var i in list)
        {
            var ready = 0;
            foreach (var b in before[i])
            {
                ready = Math.Max(ready, through[b]);
            }

            starts[i] = busy.Take(i, ready);
            through[i] = clock.End(i, starts[i]);
            end = Math.Max(end, through[i]);
        }

        return (starts, end);
    }

    /// <summary>When tasks may begin and are through by the clock alone, whatever is busy.</summary>
    /// <param name="Open">By task, when it can be done; null where always.</param>
    private sealed record Clock(OpenMinutes?[] Open, int[] Minutes, int[] NotBefore, bool[] ByItself)
    {
        /// <summary>When it may begin at the earliest, from then on.</summary>
        public int Begin(int i, int from)
        {
            var at = Math.Max(from, NotBefore[i]);
            return Open[i] is not { } open ? at
                : ByItself[i] ? open.Fit(at, Minutes[i])
                : open.Next(at);
        }

        /// <summary>When it is through that is begun then.</summary>
        public int End(int i, int start) => ByItself[i] || Open[i] is not { } open ? start + Minutes[i] : open.End(start, Minutes[i]);

        /// <summary>When it must be begun at the latest to be through by then; that it can be done then is not sure where it goes on by itself.</summary>
        public int Start(int i, int end) => ByItself[i] || Open[i] is not { } open ? end - Minutes[i] : open.Start(end, Minutes[i]);
    }

    /// <summary>What is busy from when to when.</summary>
    private sealed class Busy
    {
        private readonly ResourcePlanner _of;
        private readonly Clock _clock;
        private readonly int _kinds;
        private readonly int[] _at;
        private readonly int[] _used;
        private int _count;

        public Busy(ResourcePlanner of, Clock clock)
        {
            _of = of;
            _clock = clock;
            _kinds = of._most.Length;
            _at = new int[(2 * (of._ids.Length + of._missing.Length)) + 2];
            _used = new int[_at.Length * _kinds];
            _count = 1;
            if (!ReferenceEquals(clock, of._mirrored))
            {
                foreach (var (kind, missing) in of._missing)
                {
                    var from = Cut(Math.Max(0, missing.From));
                    var to = Cut(missing.To);
                    for (var k = from; k < to; k++)
                    {
                        _used[(k * _kinds) + kind] += missing.Count;
                    }
                }
            }
        }

        /// <summary>When what is needed is free at the earliest, from then on.</summary>
        public int Earliest(int i, int ready)
        {
            var start = _clock.Begin(i, ready);
            if (_clock.Minutes[i] == 0)
            {
                return start;
            }

            var beside = _of._beside[i];
            if (beside.Length == 0)
            {
                return start;
            }

            var through = _clock.End(i, start);
            var k = Span(start);
            while (k < _count && _at[k] < through)
            {
                if (Fits(k, beside))
                {
                    k++;
                    continue;
                }

                // Whatever begins before the end of this span meets it, and so with those behind it in which it does not fit either. The last is free.
                do
                {
                    k++;
                } while (!Fits(k, beside));

                start = _clock.Begin(i, _at[k]);
                through = _clock.End(i, start);
                k = Span(start);
            }

            return start;
        }

        /// <summary>Takes what is needed at the earliest from then on, and says when that is.</summary>
        public int Take(int i, int ready)
        {
            var start = Earliest(i, ready);
            if (_clock.Minutes[i] == 0 || _of._beside[i].Length == 0)
            {
                return start;
            }

            var from = Cut(start);
            var to = Cut(_clock.End(i, start));
            for (var k = from; k < to; k++)
            {
                for (var r = 0; r < _kinds; r++)
                {
                    _used[(k * _kinds) + r] += _of._needs[i][r];
                }
            }

            return start;
        }

        private bool Fits(int k, (int Kind, int Beside)[] beside)
        {
            var at = k * _kinds;
            foreach (var (kind, most) in beside)
            {
                if (_used[at + kind] > most)
                {
                    return false;
                }
            }

            return true;
        }

        /// <summary>The span in which a moment lies.</summary>
        private int Span(int at)
        {
            var k = Array.BinarySearch(_at, 0, _count, at);
            return k >= 0 ? k : ~k - 1;
        }

        /// <summary>The span that begins at a moment, cut where there is none.</summary>
        private int Cut(int at)
        {
            var k = Span(at);
            if (_at[k] == at)
            {
                return k;
            }

            k++;
            Array.Copy(_at, k, _at, k + 1, _count - k);
            Array.Copy(_used, k * _kinds, _used, (k + 1) * _kinds, (_count - k) * _kinds);
            Array.Copy(_used, (k - 1) * _kinds, _used, k * _kinds, _kinds);
            _at[k] = at;
            _count++;
            return k;
        }
    }

    /// <summary>Every list, as long as it may still lead to something shorter.</summary>
    private sealed class Search(ResourcePlanner of, int[] starts, int makespan)
    {
        private readonly int[] _now = new int[of._ids.Length];
        private readonly List<int> _list = [];
        private int[] _best = starts;
        private int _shortest = makespan;

        public (int[] Starts, int Makespan) Whole()
        {
            Go(new bool[of._ids.Length]);
            return (_best, _shortest);
        }

        private void Go(bool[] taken)
        {
            if (_list.Count == of._ids.Length)
            {
                var (starts, makespan) = of.Serial([.. _list], of._before, of._planned);
                if (makespan < _shortest)
                {
                    (_best, _shortest) = (starts, makespan);
                }

                return;
            }

            // What stands so far: the plan of a list does not change by what comes behind.
            var busy = new Busy(of, of._planned);
            foreach (var i in _list)
            {
                busy.Take(i, _now[i]);
            }

            foreach (var i in Enumerable.Range(0, taken.Length).Where(i => !taken[i] && Array.TrueForAll(of._before[i], b => taken[b])).ToArray())
            {
                var ready = of._planned.Begin(i, of._before[i].Length == 0 ? 0 : of._before[i].Max(b => of._planned.End(b, _now[b])));
                // Beginning at its earliest, with the longest way behind it, it would end no earlier than what is known.
                if (ready + of._tail[i] >= _shortest)
                {
                    return;
                }

                _now[i] = busy.Earliest(i, ready);
                // Of all lists that make the same plan the one in the order of beginning is looked at.
                var last = _list.Count == 0 ? -1 : _list[^1];
                var inTurn = last < 0 || _now[i] > _now[last] || (_now[i] == _now[last] && i > last);
                if (inTurn && _now[i] + of._tail[i] < _shortest)
                {
                    taken[i] = true;
                    _list.Add(i);
                    Go(taken);
                    _list.RemoveAt(_list.Count - 1);
                    taken[i] = false;
                }
            }
        }
    }
}
