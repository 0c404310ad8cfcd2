namespace VividSleuth.Core.Build;

/// <summary>A calendar as minutes from a beginning, for planning: which of them are open, and when so much work is through.</summary>
public sealed class OpenMinutes
{
    private readonly int[] _from;
    private readonly int[] _to;

    /// <summary>Open minutes before each opening.</summary>
    private readonly int[] _sum;

    private OpenMinutes(IReadOnlyList<(int From, int To)> openings)
    {
        _from = [.. openings.Select(s => s.From)];
        _to = [.. openings.Select(s => s.To)];
        _sum = new int[openings.Count];
        for (var i = 1; i < openings.Count; i++)
        {
            _sum[i] = _sum[i - 1] + (_to[i - 1] - _from[i - 1]);
        }
    }

    /// <summary>By day and by night.</summary>
    public static OpenMinutes Always { get; } = new([(0, int.MaxValue / 2)]);

    /// <summary>The calendar from a moment on, until it has had so much work.</summary>
    /// <param name="work">Minutes of work that are planned on it at the most, one after the other.</param>
    /// <exception cref="ProblemException">There are no hours of work within ten years.</exception>
    public static OpenMinutes Of(WorkCalendar calendar, DateTimeOffset begin, int work)
    {
        var openings = new List<(int From, int To)>();
        var left = (long)work;
        foreach (var (from, to) in calendar.Open(begin))
        {
            var span = (From: Math.Max(0, (int)(from - begin).TotalMinutes), To: (int)(to - begin).TotalMinutes);
            if (span.To <= span.From)
            {
                continue;
            }

            openings.Add(span);
            left -= span.To - span.From;
            if (left < 0)
            {
                return new OpenMinutes(openings);
            }
        }

        throw new ProblemException(Problem.Of("hours", "build.no-hours"));
    }

    /// <summary>The first open minute from then on. Behind the last opening it is that very minute.</summary>
    public int Next(int at)
    {
        var k = Ending(at);
        return k == _to.Length ? at : Math.Max(at, _from[k]);
    }

    /// <summary>When so much work is through that is begun then; begun in a closed minute, it begins with the next open one.</summary>
    public int End(int start, int minutes)
    {
        if (minutes == 0)
        {
            return start;
        }

        var k = Ending(start);
        if (k == _to.Length)
        {
            return start + minutes;
        }

        var done = _sum[k] + Math.Max(0, start - _from[k]) + minutes;
        // The last one that begins with less done.
        var last = Array.BinarySearch(_sum, k, _sum.Length - k, done);
        last = last >= 0 ? last - 1 : ~last - 1;
        return _from[last] + (done - _sum[last]);
    }

    /// <summary>The first opening that ends after a minute.</summary>
    private int Ending(int at)
    {
        var k = Array.BinarySearch(_to, at);
        return k >= 0 ? k + 1 : ~k;
    }
}
