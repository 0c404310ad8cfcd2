namespace VividSleuth.Core.Build;

/// <summary>A calendar as minutes from a beginning, for planning: which of them are open, and when so much work is through.</summary>
public sealed class OpenMinutes
{
    private readonly int[] _from;
    private readonly int[] _to;

    /// <summary>Open minutes before each opening.</summary>
    private readonly int[] _sum;

    /// <summary>Of each stretch of minutes the first opening that does not end before it; a plan asks many thousand times.</summary>
    private readonly int[] _near;

    private const int Stretch = 128;

    /// <summary>Minutes beyond which an opening is searched for instead.</summary>
    private const int Longest = 20_000_000;

    private OpenMinutes(IReadOnlyList<(int From, int To)> openings)
    {
        _from = [.. openings.Select(s => s.From)];
        _to = [.. openings.Select(s => s.To)];
        _sum = new int[openings.Count];
        for (var i = 1; i < openings.Count; i++)
        {
            _sum[i] = _sum[i - 1] + (_to[i - 1] - _from[i - 1]);
        }

        var last = openings.Count == 0 ? 0 : _to[^1];
        _near = new int[last > Longest ? 0 : (last / Stretch) + 1];
        for (int at = 0, k = 0; at < _near.Length; at++)
        {
            while (_to[k] <= at * Stretch && k < _to.Length - 1)
            {
                k++;
            }

            _near[at] = k;
        }
    }

    /// <summary>By day and by night.</summary>
    public static OpenMinutes Always { get; } = new([(0, int.MaxValue / 2)]);

    /// <summary>The calendar from a moment on, until it has had so much work.</summary>
    /// <param name="work">Minutes of work that are planned on it at the most, one after the other.</param>
    /// <exception cref="ProblemException">There are no hours of work within ten years.</exception>
    public static OpenMinutes Of(WorkCalendar calendar, DateTimeOffset begin, int work) => Of(calendar.Open(begin), begin, work);

    /// <inheritdoc cref="Of(WorkCalendar, DateTimeOffset, int)"/>
    /// <param name="spells">From when to when it is open, one after the other; none touches the next.</param>
    /// <param name="after">Minutes from the beginning after which there is still so much work.</param>
    public static OpenMinutes Of(IEnumerable<(DateTimeOffset From, DateTimeOffset To)> spells, DateTimeOffset begin, int work, int after = 0)
    {
        var openings = new List<(int From, int To)>();
        var left = (long)work;
        foreach (var (from, to) in spells)
        {
            var span = (From: Math.Max(0, (int)(from - begin).TotalMinutes), To: (int)(to - begin).TotalMinutes);
            if (span.To <= span.From)
            {
                continue;
            }

            openings.Add(span);
            left -= Math.Max(0, span.To - Math.Max(span.From, after));
            if (left < 0)
            {
                return new OpenMinutes(openings);
            }
        }

        throw new ProblemException(Problem.Of("hours", "build.no-hours"));
    }

    /// <summary>All of some spells, from a moment on.</summary>
    /// <param name="spells">From when to when it is open, one after the other; none touches the next.</param>
    public static OpenMinutes All(IEnumerable<(DateTimeOffset From, DateTimeOffset To)> spells, DateTimeOffset begin) =>
        new([
            .. spells
                .Select(s => (From: Math.Max(0, (int)(s.From - begin).TotalMinutes), To: (int)(s.To - begin).TotalMinutes))
                .Where(s => s.To > s.From),
        ]);

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
        // The last one that begins with less done; seldom far behind.
        var last = k;
        while (last + 1 < _sum.Length && _sum[last + 1] < done)
        {
            if (last - k == 8)
            {
                last = Array.BinarySearch(_sum, k, _sum.Length - k, done);
                last = last >= 0 ? last - 1 : ~last - 1;
                break;
            }

            last++;
        }

        return _from[last] + (done - _sum[last]);
    }

    /// <summary>The first minute from then on of which so many follow without a break; behind the last opening any will do.</summary>
    public int Fit(int at, int minutes)
    {
        for (var k = Ending(at); k < _to.Length; k++)
        {
            var from = Math.Max(at, _from[k]);
            if (_to[k] - from >= minutes)
            {
                return from;
            }
        }

        return Math.Max(at, _to.Length == 0 ? 0 : _to[^1]);
    }

    /// <summary>The latest open minute at which so much work must be begun to be through by then; before the first opening, the first open minute.</summary>
    public int Start(int end, int minutes)
    {
        if (_to.Length == 0)
        {
            return end - minutes;
        }

        // Behind the last opening every minute is open.
        var late = Math.Max(0, end - _to[^1]);
        if (minutes <= late)
        {
            return end - minutes;
        }

        var k = Math.Min(Ending(end - late), _to.Length - 1);
        var before = _sum[k] + Math.Clamp(end - late - _from[k], 0, _to[k] - _from[k]);
        var begin = before - (minutes - late);
        if (begin <= 0)
        {
            return _from[0];
        }

        var at = Array.BinarySearch(_sum, begin);
        at = at >= 0 ? at : ~at - 1;
        return _from[at] + (begin - _sum[at]);
    }

    /// <summary>The first opening that ends after a minute.</summary>
    private int Ending(int at)
    {
        if (at >= 0 && at / Stretch < _near.Length)
        {
            var near = _near[at / Stretch];
            while (near < _to.Length && _to[near] <= at)
            {
                near++;
            }

            return near;
        }

        var k = Array.BinarySearch(_to, at);
        return k >= 0 ? k + 1 : ~k;
    }
}
