using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Build;

/// <summary>A task as it is planned.</summary>
/// <param name="Starts">When it begins as planned.</param>
/// <param name="Ends">When it is through, as long as it takes as long as is likely.</param>
/// <param name="Latest">When it must begin at the latest so that the end stays where it is.</param>
/// <param name="Hangs">In which share of the draws the end hung on it.</param>
/// <param name="Ready">Nothing holds it: it can be begun now.</param>
/// <param name="Held">Why it cannot be done now although all that it waits for is through: weather, a tool that is not there.</param>
/// <param name="Overdue">The day that was named for it is past.</param>
public sealed record BuildTaskState(
    string Key,
    TaskKind Kind,
    Fact Name,
    double Least,
    double Likely,
    double Most,
    SpellFrom From,
    int Clocked,
    int Hands,
    IReadOnlyList<string> Tools,
    IReadOnlyList<string> Places,
    IReadOnlyList<string> After,
    bool ByItself,
    bool Dry,
    double? WarmerThan,
    DateOnly? NotBefore,
    DateOnly? Expected,
    DateTimeOffset Starts,
    DateTimeOffset Ends,
    DateTimeOffset Latest,
    double Hangs,
    bool Begun,
    bool Ready,
    Fact? Held,
    bool Overdue,
    Guid? Record,
    int Version,
    string Note,
    WayBack? Way
);

/// <summary>When all is through, should a wait end on a day.</summary>
public sealed record EndShould(DateOnly Comes, DateOnly Ends);

/// <summary>What a wait is worth.</summary>
/// <param name="Ends">For some days on which it may end, the soonest first, when all is through then.</param>
public sealed record WaitWorth(string Key, IReadOnlyList<EndShould> Ends);

/// <summary>What was promised, against what is likely.</summary>
/// <param name="Chance">That all is through by the evening of the day.</param>
public sealed record PromiseKept(Guid Record, int Version, DateOnly Day, string To, string Note, double Chance);

/// <summary>From when to when the shop works.</summary>
public sealed record OpenSpell(DateTimeOffset From, DateTimeOffset To);

/// <summary>When the engine runs again, what can be done now, and what it hangs on.</summary>
/// <param name="At">The moment for which it was worked out.</param>
/// <param name="Zone">Time zone of the shop, by its name.</param>
/// <param name="Tasks">In the order in which they begin.</param>
/// <param name="Ends">When all is through as planned.</param>
/// <param name="Likely">The day that is as often too early as too late.</param>
/// <param name="Safe">The day that is kept nine times in ten, a rule of thumb of what is safe.</param>
/// <param name="Shortest">No plan with these hands and hours is shorter.</param>
/// <param name="Worth">What each open wait is worth, the one that most hangs on first.</param>
/// <param name="Told">What the dates stand on that nobody knows.</param>
/// <param name="Open">When the shop works, as far as the plan goes.</param>
/// <param name="Weather">Days of the plan of which the weather is known.</param>
/// <param name="Joints">How each joint stands that is or was open.</param>
/// <param name="Covers">Covers and plugs that are still on.</param>
/// <param name="LeftNew">New fasteners that came and are in no hole.</param>
/// <param name="RanOn">The day on which it ran again; null while it did not.</param>
public sealed record BuildPlan(
    DateTimeOffset At,
    string Zone,
    IReadOnlyList<BuildTaskState> Tasks,
    DateTimeOffset? Ends,
    DateOnly? Likely,
    DateOnly? Safe,
    bool Shortest,
    PromiseKept? Promise,
    IReadOnlyList<WaitWorth> Worth,
    IReadOnlyList<Fact> Told,
    IReadOnlyList<OpenSpell> Open,
    IReadOnlyList<WeatherDay> Weather,
    int Hands,
    IReadOnlyList<JointState> Joints,
    IReadOnlyList<BackCover> Covers,
    IReadOnlyList<NewFasteners> LeftNew,
    DateOnly? RanOn
);

/// <summary>Makes the plan of one engine: what arises is set out over the shop's hours, hands and weather, and drawn many times.</summary>
public static class BuildPlanner
{
    /// <summary>Pairs of hands, as a plan names them.</summary>
    private const string Hands = "hands";

    private const string Bench = "bench";

    /// <summary>How often the whole is drawn, and how often each wait.</summary>
    private const int Draws = 2000;
    private const int DrawsOfAWait = 150;

    private const int Tries = 400;

    /// <summary>Waits whose worth is told.</summary>
    private const int WaitsTold = 6;

    /// <param name="worth">Whether what each wait is worth is worked out too.</param>
    /// <exception cref="ProblemException">There are no hours of work.</exception>
    public static BuildPlan Plan(Arisen arisen, IReadOnlyList<BuildPromise> promises, ShopWork work, DateTimeOffset now, bool worth = true)
    {
        var told = new List<Fact>();
        var tasks = Untangled(arisen.Tasks, told);
        var setting = new Setting(tasks, work, now);
        var planner = setting.Planner();
        var plan = planner.Plan(Tries);
        var latest = planner.Latest(plan);
        var forecast = planner.Forecast(plan, tasks.ToDictionary(t => t.Key, t => t.Takes, StringComparer.Ordinal), Draws);
        var ends = tasks.ToDictionary(t => t.Key, t => planner.EndOf(t.Key, plan), StringComparer.Ordinal);
        var keys = tasks.Select(t => t.Key).ToHashSet(StringComparer.Ordinal);
        var today = setting.DayOf(0);
        var weather = work.Weather.ToDictionary(w => w.Day);
        BuildTaskState[] states =
        [
            .. tasks
                .OrderBy(t => plan.Starts[t.Key])
                .ThenBy(t => ends[t.Key])
                .ThenBy(t => t.Key, StringComparer.Ordinal)
                .Select(t =>
                {
                    var held = Held(t, work, weather.GetValueOrDefault(today), today);
                    return new BuildTaskState(
                        t.Key,
                        t.Kind,
                        t.Name,
                        t.Takes.Least,
                        t.Takes.Likely,
                        t.Takes.Most,
                        t.From,
                        t.Clocked,
                        t.Hands,
                        t.Tools,
                        t.Places,
                        t.After,
                        t.ByItself,
                        t.Dry,
                        t.WarmerThan,
                        t.NotBefore,
                        t.Expected,
                        setting.Moment(plan.Starts[t.Key]),
                        setting.Moment(ends[t.Key]),
                        setting.Moment(latest[t.Key]),
                        forecast.Hangs[t.Key],
                        t.Begun,
                        held is null && !t.ByItself && !t.After.Any(keys.Contains) && !(t.NotBefore > today),
                        t.After.Any(keys.Contains) ? null : held,
                        t.ByItself && t.Expected < today,
                        t.Record?.Id,
                        t.Record?.Version ?? 0,
                        t.Record?.Note ?? "",
                        t.Way
                    );
                }),
        ];
        told.AddRange(Unknown(tasks, work, setting.DayOf(plan.Makespan), today));
        var promise = promises.Where(p => p.Stands()).OrderBy(p => p.At).ThenBy(p => p.Id).LastOrDefault();
        return new BuildPlan(
            now,
            work.TimeZone.Id,
            states,
            tasks.Count > 0 ? setting.Moment(plan.Makespan) : null,
            tasks.Count > 0 ? setting.DayOf(forecast.Likely) : null,
            tasks.Count > 0 ? setting.DayOf(forecast.SafeEnd) : null,
            plan.IsShortest,
            promise is null
                ? null
                : new PromiseKept(
                    promise.Id,
                    promise.Version,
                    promise.Day,
                    promise.To,
                    promise.Note,
                    tasks.Count > 0 ? forecast.ChanceBy(setting.EveningOf(promise.Day)) : 1
                ),
            worth ? [.. Worth(setting, plan, states, today)] : [],
            told,
            [.. setting.OpenUntil(Math.Max(plan.Makespan, forecast.SafeEnd) + (24 * 60))],
            [.. work.Weather.Where(w => w.Day >= today && w.Day <= setting.DayOf(Math.Max(plan.Makespan, forecast.SafeEnd))).OrderBy(w => w.Day)],
            work.Hands,
            arisen.Joints,
            arisen.Covers,
            arisen.LeftNew,
            arisen.RanOn
        );
    }

    /// <summary>Waits that somebody added so that a circle closed are left out, and told: the others still have a date.</summary>
    private static IReadOnlyList<ArisingTask> Untangled(IReadOnlyList<ArisingTask> arising, List<Fact> told)
    {
        var keys = arising.Select(t => t.Key).ToHashSet(StringComparer.Ordinal);
        ArisingTask[] tasks = [.. arising.Select(t => t with { After = [.. t.After.Where(keys.Contains)] })];
        if (BuildRules.Circle(tasks) is not { } circle)
        {
            return tasks;
        }

        var own = arising.Where(t => t.Record is not null).Select(t => t.Key).ToHashSet(StringComparer.Ordinal);
        var names = arising.ToDictionary(t => t.Key, t => t.Name, StringComparer.Ordinal);
        told.Add(Fact.Of("build.circle-left-out", ("tasks", circle.Select(k => names[k]).ToArray())));
        // What closes it was added by hand, since what arises by itself has none.
        var apart = tasks.Select(t =>
            t with
            {
                After = [.. t.After.Where(a => !(circle.Contains(t.Key) && circle.Contains(a) && (own.Contains(t.Key) || own.Contains(a))))],
            }
        );
        return Untangled([.. apart], []);
    }

    private static Fact? Held(ArisingTask task, ShopWork work, WeatherDay? weather, DateOnly today) =>
        task.NotBefore > today ? Fact.Of("build.held.day", ("day", task.NotBefore))
        : task.Tools.FirstOrDefault(t => work.Tools.TryGetValue(t, out var count) && count == 0) is { } tool
            ? Fact.Of("build.held.tool", ("tool", tool))
        : task.Dry && weather?.Dry == false ? Fact.Of("build.held.wet")
        : task.WarmerThan is { } least && weather?.Coldest is { } cold && cold <= least
            ? Fact.Of("build.held.cold", ("coldest", new Number(cold)), ("least", new Number(least)))
        : null;

    private static IEnumerable<Fact> Unknown(IReadOnlyList<ArisingTask> tasks, ShopWork work, DateOnly last, DateOnly today)
    {
        if (
            tasks.Where(t => t.ByItself && t.From == SpellFrom.Thumb && t.Kind != TaskKind.Own).Select(t => t.Name).ToArray() is
            { Length: > 0 } nobody
        )
        {
            yield return Fact.Of("build.nobody-named-a-day", ("tasks", nobody));
        }

        if (tasks.Where(t => t.ByItself && t.Expected < today).Select(t => t.Name).ToArray() is { Length: > 0 } late)
        {
            yield return Fact.Of("build.overdue", ("tasks", late));
        }

        var outside = tasks.Where(t => t.Dry || t.WarmerThan is not null).Select(t => t.Name).ToArray();
        if (outside.Length > 0)
        {
            var known = work.Weather.Where(w => w.Day >= today).Select(w => w.Day).ToHashSet();
            var holes = Enumerable.Range(0, Math.Max(1, last.DayNumber - today.DayNumber + 1)).Count(n => !known.Contains(today.AddDays(n)));
            if (holes > 0)
            {
                yield return Fact.Of("build.weather-unknown", ("days", holes), ("tasks", outside));
            }
        }

        foreach (var (tool, _) in work.Tools.Where(t => t.Value == 0 && tasks.Any(x => x.Tools.Contains(t.Key, StringComparer.OrdinalIgnoreCase))))
        {
            yield return Fact.Of("build.tool-gone", ("tool", tool));
        }
    }

    /// <summary>When all is through, should each open wait end now, on the next Friday, or on those after it.</summary>
    private static IEnumerable<WaitWorth> Worth(Setting setting, ResourcePlan plan, IReadOnlyList<BuildTaskState> states, DateOnly today)
    {
        var waits = states
            .Where(s => s.ByItself && s.Hangs > 0 && s.Kind != TaskKind.Own)
            .OrderByDescending(s => s.Hangs)
            .ThenBy(s => s.Key, StringComparer.Ordinal);
        foreach (var wait in waits.Take(WaitsTold))
        {
            var friday = today.AddDays(((int)DayOfWeek.Friday - (int)today.DayOfWeek + 7) % 7);
            // What is not even sent for does not come today.
            DateOnly[] days =
                wait.After.Count > 0 ? [friday, friday.AddDays(7), friday.AddDays(14)] : [today, friday, friday.AddDays(7), friday.AddDays(14)];
            yield return new WaitWorth(
                wait.Key,
                [
                    .. days.Distinct()
                        .Select(day =>
                        {
                            var should = setting.Should(wait.Key, day);
                            var planner = should.Planner();
                            var takes = should.Tasks.ToDictionary(t => t.Key, t => t.Takes, StringComparer.Ordinal);
                            // In the order of the plan: what can be done meanwhile moves up by itself.
                            return new EndShould(day, should.DayOf(planner.Forecast(plan, takes, DrawsOfAWait).Likely));
                        }),
                ]
            );
        }
    }

    /// <summary>Tasks set out over the hours of a shop, in minutes from now.</summary>
    private sealed class Setting(IReadOnlyList<ArisingTask> tasks, ShopWork work, DateTimeOffset now)
    {
        /// <summary>Days behind the last of which the weather is known count as good ones.</summary>
        private const int DaysAhead = 3660;

        private readonly WorkCalendar _calendar = work.Calendar();
        private readonly TimeZoneInfo _zone = work.TimeZone;

        public IReadOnlyList<ArisingTask> Tasks => tasks;

        public Setting Should(string wait, DateOnly day)
        {
            var hours = Math.Max(0, NoonOf(day)) / 60.0;
            return new Setting(
                [.. tasks.Select(t => t.Key == wait ? t with { Takes = Spell.Always(hours), After = [], NotBefore = null } : t)],
                work,
                now
            );
        }

        public ResourcePlanner Planner()
        {
            // As much as all work takes at the most, one after the other, lies within the hours that are laid out behind the longest wait.
            var most = (int)Math.Min(int.MaxValue / 8, tasks.Where(t => !t.ByItself).Sum(t => 60.0 * t.Takes.Most) + (24 * 60));
            var open = OpenMinutes.Of(_calendar.Open(now), now, most, Path());
            var there = new Dictionary<string, int>(StringComparer.Ordinal) { [Hands] = work.Hands, [Bench] = work.Benches };
            foreach (var (tool, count) in work.Tools.Where(t => t.Value > 0))
            {
                there[ToolOf(tool)] = count;
            }

            return new ResourcePlanner(
                [
                    .. tasks.Select(t => new PlannedTask(t.Key, Minutes(t.Takes.Likely), t.After, Needs(t, there))
                    {
                        NotBefore = NotBefore(t),
                        ByItself = t.ByItself,
                        Only = t.Dry || t.WarmerThan is not null ? Only(t, most) : null,
                    }),
                ],
                there,
                open,
                [
                    .. work
                        .Away.Where(a => a.Hands > 0 && a.Hands < work.Hands)
                        .Select(a => new Missing(
                            Hands,
                            a.Hands,
                            MinuteOf(a.From.ToDateTime(TimeOnly.MinValue)),
                            MinuteOf(a.To.AddDays(1).ToDateTime(TimeOnly.MinValue))
                        )),
                ]
            );
        }

        /// <summary>Minutes of the longest way through all waits, each as long as it can be, and until somebody is back and the last day of bad weather is over.</summary>
        private int Path()
        {
            var through = new Dictionary<string, double>(StringComparer.Ordinal);
            var byKey = tasks.ToDictionary(t => t.Key, StringComparer.Ordinal);
            return (int)Math.Min(int.MaxValue / 8, tasks.Count == 0 ? 0 : tasks.Max(t => End(t.Key)) + tasks.Max(t => NotBefore(t)) + Over());

            double End(string key)
            {
                if (!through.TryGetValue(key, out var end))
                {
                    var task = byKey[key];
                    end = (task.ByItself ? 60 * task.Takes.Most : 0) + task.After.Select(End).DefaultIfEmpty(0).Max();
                    through[key] = end;
                }

                return end;
            }
        }

        private int Over()
        {
            var days = work.Away.Select(a => a.To).Concat(work.Weather.Select(w => w.Day)).ToArray();
            return days.Length == 0 ? 0 : Math.Max(0, EveningOf(days.Max()));
        }

        private int NotBefore(ArisingTask task) => task.NotBefore is { } day ? Math.Max(0, MinuteOf(day.ToDateTime(TimeOnly.MinValue))) : 0;

        private static string ToolOf(string name) => $"tool/{name.Trim().ToUpperInvariant()}";

        private static int Minutes(double hours) => (int)Math.Round(60 * hours);

        /// <summary>No more hands than there are: where a second pair must come from outside, that is a wait of its own.</summary>
        private Dictionary<string, int> Needs(ArisingTask task, Dictionary<string, int> there)
        {
            var needs = new Dictionary<string, int>(StringComparer.Ordinal);
            if (!task.ByItself && task.Hands > 0)
            {
                needs[Hands] = Math.Min(task.Hands, work.Hands);
            }

            if (task.Bench)
            {
                needs[Bench] = 1;
            }

            foreach (var tool in task.Tools.Select(ToolOf).Where(there.ContainsKey))
            {
                needs[tool] = 1;
            }

            return needs;
        }

        /// <summary>When the weather lets it be done: the shop's hours of good days, and whole good days for what goes on by itself.</summary>
        private OpenMinutes Only(ArisingTask task, int most)
        {
            var bad = work
                .Weather.Where(w => (task.Dry && w.Dry == false) || (task.WarmerThan is { } least && w.Coldest <= least))
                .Select(w => w.Day)
                .ToHashSet();
            return task.ByItself
                ? OpenMinutes.All(Good(), now)
                : OpenMinutes.Of(_calendar.Open(now).Where(s => !bad.Contains(LocalDay(s.From))), now, most, Path());

            IEnumerable<(DateTimeOffset From, DateTimeOffset To)> Good()
            {
                var day = LocalDay(now);
                var last = day.AddDays(DaysAhead);
                while (day < last)
                {
                    if (bad.Contains(day))
                    {
                        day = day.AddDays(1);
                        continue;
                    }

                    var end = day.AddDays(1);
                    while (end < last && !bad.Contains(end))
                    {
                        // The rest is one long spell where no bad day is known any more.
                        end = bad.Any(b => b > end) ? end.AddDays(1) : last;
                    }

                    yield return (Local(day.ToDateTime(TimeOnly.MinValue)), Local(end.ToDateTime(TimeOnly.MinValue)));
                    day = end;
                }
            }
        }

        public IEnumerable<OpenSpell> OpenUntil(int minutes)
        {
            var end = Moment(minutes);
            return _calendar.Open(now).TakeWhile(s => s.From < end).Select(s => new OpenSpell(s.From, s.To));
        }

        public DateTimeOffset Moment(int minutes) => TimeZoneInfo.ConvertTime(now.AddMinutes(minutes), _zone);

        public DateOnly DayOf(int minutes) => LocalDay(now.AddMinutes(minutes));

        public int EveningOf(DateOnly day) => MinuteOf(day.AddDays(1).ToDateTime(TimeOnly.MinValue));

        private int NoonOf(DateOnly day) => MinuteOf(day.ToDateTime(new TimeOnly(12, 0)));

        private int MinuteOf(DateTime local) => (int)Math.Clamp((Local(local) - now).TotalMinutes, int.MinValue / 4, int.MaxValue / 4);

        private DateTimeOffset Local(DateTime local) => new DateTimeOffset(local, _zone.GetUtcOffset(local)).ToUniversalTime();

        private DateOnly LocalDay(DateTimeOffset moment) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(moment, _zone).DateTime);
    }
}
