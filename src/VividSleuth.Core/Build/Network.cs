using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Build;

/// <summary>Something to be done, and what it waits for.</summary>
/// <param name="Id">Names it among the others.</param>
/// <param name="After">Those that must be through before it begins.</param>
public sealed record Activity(string Id, Spell Takes, IReadOnlyList<string> After);

/// <summary>When an activity is done at the earliest and, without anything else getting later, at the latest; hours from the beginning.</summary>
/// <param name="Slack">How much later it may be before the end gets later.</param>
/// <param name="FreeSlack">How much later it may be before another gets later.</param>
public sealed record ActivityTimes(
    string Id,
    double EarlyStart,
    double EarlyFinish,
    double LateStart,
    double LateFinish,
    double Slack,
    double FreeSlack
)
{
    /// <summary>Hours of slack below which it is none but rounding.</summary>
    private const double None = 1e-9;

    public bool IsCritical => Slack < None;
}

/// <summary>
/// What waits for what, with as many hands as one likes: the critical path method. J. E. Kelley and M. R. Walker, “Critical-path planning and scheduling”,
/// Proc. Eastern Joint Computer Conference (1959) 160.
/// </summary>
public sealed class Network
{
    private readonly Activity[] _inOrder;
    private readonly int[][] _after;

    /// <exception cref="ProblemException">One waits for itself, round a circle or for what is not there.</exception>
    public Network(IReadOnlyList<Activity> activities)
    {
        var twice = activities.GroupBy(a => a.Id, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1);
        if (twice is not null)
        {
            throw new ProblemException(Problem.Of("tasks", "build.task-twice", ("task", twice.Key)));
        }

        var byId = activities.Select((a, i) => (a.Id, i)).ToDictionary(x => x.Id, x => x.i, StringComparer.Ordinal);
        var unknown = activities.SelectMany(a => a.After.Where(b => !byId.ContainsKey(b)).Select(b => (Task: a.Id, Waits: b))).FirstOrDefault();
        if (unknown.Task is not null)
        {
            throw new ProblemException(Problem.Of("tasks", "build.waits-for-nothing", ("task", unknown.Task), ("waits", unknown.Waits)));
        }

        var order = Sort(activities, byId);
        var place = new int[order.Length];
        for (var i = 0; i < order.Length; i++)
        {
            place[order[i]] = i;
        }

        _inOrder = [.. order.Select(i => activities[i])];
        _after = [.. _inOrder.Select(a => a.After.Select(b => place[byId[b]]).Distinct().ToArray())];
    }

    /// <summary>The activities, none before what it waits for.</summary>
    public IReadOnlyList<Activity> InOrder => _inOrder;

    /// <summary>When each is done if each takes as long as its mean, in an order in which none stands before what it waits for.</summary>
    public IReadOnlyList<ActivityTimes> Times() => Times([.. _inOrder.Select(a => a.Takes.Mean)]);

    /// <summary>
    /// Mean and spread of the end as PERT tells them: along the critical path of the means, the longest in spread where there are several. It is too early
    /// where other paths are nearly as long; the draws are not.
    /// </summary>
    /// <returns>Hours, and its standard deviation.</returns>
    public (double Mean, double Deviation) Pert()
    {
        var times = Times();
        var end = times.Count == 0 ? 0 : times.Max(t => t.EarlyFinish);
        var spread = new double[times.Count];
        for (var i = 0; i < times.Count; i++)
        {
            var before = _after[i].Where(b => times[b].IsCritical && Math.Abs(times[b].EarlyFinish - times[i].EarlyStart) < 1e-9).ToArray();
            var own = _inOrder[i].Takes.Deviation;
            spread[i] = (before.Length == 0 ? 0 : before.Max(b => spread[b])) + (own * own);
        }

        var last = Enumerable.Range(0, times.Count).Where(i => times[i].IsCritical && end - times[i].EarlyFinish < 1e-9).ToArray();
        return (end, last.Length == 0 ? 0 : Math.Sqrt(last.Max(i => spread[i])));
    }

    /// <summary>Chance that all is through by then, after PERT: the end taken as normal.</summary>
    public double ChanceBy(double hours)
    {
        var (mean, deviation) = Pert();
        return deviation == 0
            ? hours >= mean
                ? 1
                : 0
            : Normal.CDF(mean, deviation, hours);
    }

    private ActivityTimes[] Times(double[] takes)
    {
        var n = takes.Length;
        var (start, finish) = (new double[n], new double[n]);
        for (var i = 0; i < n; i++)
        {
            start[i] = _after[i].Length == 0 ? 0 : _after[i].Max(b => finish[b]);
            finish[i] = start[i] + takes[i];
        }

        var end = n == 0 ? 0 : finish.Max();
        var late = Enumerable.Repeat(end, n).ToArray();
        var next = Enumerable.Repeat(end, n).ToArray();
        for (var i = n - 1; i >= 0; i--)
        {
            foreach (var b in _after[i])
            {
                late[b] = Math.Min(late[b], late[i] - takes[i]);
                next[b] = Math.Min(next[b], start[i]);
            }
        }

        return
        [
            .. Enumerable
                .Range(0, n)
                .Select(i => new ActivityTimes(
                    _inOrder[i].Id,
                    start[i],
                    finish[i],
                    late[i] - takes[i],
                    late[i],
                    late[i] - finish[i],
                    next[i] - finish[i]
                )),
        ];
    }

    /// <summary>Puts none before what it waits for, otherwise as they were given.</summary>
    private static int[] Sort(IReadOnlyList<Activity> activities, Dictionary<string, int> byId)
    {
        var order = new List<int>(activities.Count);
        // 0 not seen, 1 being looked into, 2 done.
        var state = new byte[activities.Count];
        var way = new List<int>();
        for (var i = 0; i < activities.Count; i++)
        {
            Visit(i);
        }

        return [.. order];

        void Visit(int i)
        {
            if (state[i] == 2)
            {
                return;
            }

            if (state[i] == 1)
            {
                var circle = way.Skip(way.IndexOf(i)).Select(k => activities[k].Id).Append(activities[i].Id);
                throw new ProblemException(Problem.Of("tasks", "build.waits-in-a-circle", ("tasks", circle.ToArray())));
            }

            state[i] = 1;
            way.Add(i);
            foreach (var b in activities[i].After)
            {
                Visit(byId[b]);
            }

            way.RemoveAt(way.Count - 1);
            state[i] = 2;
            order.Add(i);
        }
    }
}
