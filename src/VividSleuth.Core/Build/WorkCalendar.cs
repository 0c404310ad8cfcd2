namespace VividSleuth.Core.Build;

/// <summary>From when to when, on the clock on the wall.</summary>
public readonly record struct Hours(TimeOnly From, TimeOnly To);

/// <summary>Days on which nobody is there, the first and the last among them.</summary>
public readonly record struct Away(DateOnly From, DateOnly To)
{
    public bool Has(DateOnly day) => day >= From && day <= To;
}

/// <summary>
/// When work is done: hours of each weekday by the clock on the wall, and days on which there is none. Work is counted in hours that pass, so that the night
/// in which the clock is put on has an hour less of it, and the night in which it is put back an hour more.
/// </summary>
public sealed class WorkCalendar
{
    /// <summary>After so many days without an hour of work none is looked for any more.</summary>
    private const int LongestWait = 3660;

    private readonly Dictionary<DayOfWeek, Hours[]> _week;
    private readonly IReadOnlyList<Away> _away;
    private readonly TimeZoneInfo _zone;

    /// <exception cref="ProblemException">Hours that end before they begin or overlap, or days in the wrong order.</exception>
    public WorkCalendar(IReadOnlyDictionary<DayOfWeek, IReadOnlyList<Hours>> week, IReadOnlyList<Away> away, TimeZoneInfo zone)
    {
        foreach (var (day, hours) in week)
        {
            var sorted = hours.OrderBy(h => h.From).ToArray();
            if (Array.Find(sorted, h => h.To <= h.From) is { } wrong && wrong != default)
            {
                throw new ProblemException(
                    Problem.Of("hours", "build.hours-end-before", ("from", $"{wrong.From:HH\\:mm}"), ("to", $"{wrong.To:HH\\:mm}"))
                );
            }

            for (var i = 1; i < sorted.Length; i++)
            {
                if (sorted[i].From < sorted[i - 1].To)
                {
                    throw new ProblemException(Problem.Of("hours", "build.hours-overlap", ("from", $"{sorted[i].From:HH\\:mm}")));
                }
            }
        }

        if (away.FirstOrDefault(a => a.To < a.From) is var turned && turned != default)
        {
            throw new ProblemException(Problem.Of("away", "build.away-ends-before", ("from", $"{turned.From:O}"), ("to", $"{turned.To:O}")));
        }

        _week = week.ToDictionary(w => w.Key, w => w.Value.OrderBy(h => h.From).ToArray());
        _away = away;
        _zone = zone;
    }

    /// <summary>When so much work is through that is begun then; the beginning itself moves to the first hour of work.</summary>
    /// <exception cref="ProblemException">There are no hours of work within ten years.</exception>
    public DateTimeOffset After(DateTimeOffset begin, TimeSpan work)
    {
        foreach (var (from, to) in Open(begin))
        {
            var at = from > begin ? from : begin;
            if (work <= to - at)
            {
                return at + work;
            }

            work -= to - at;
        }

        throw new ProblemException(Problem.Of("hours", "build.no-hours"));
    }

    /// <summary>Hours of work that lie between two moments.</summary>
    public TimeSpan Between(DateTimeOffset begin, DateTimeOffset end)
    {
        var sum = TimeSpan.Zero;
        foreach (var (from, to) in Open(begin))
        {
            if (from >= end)
            {
                break;
            }

            sum += (to < end ? to : end) - (from > begin ? from : begin);
        }

        return sum;
    }

    /// <summary>Spells of work that end after a moment, one after the other.</summary>
    public IEnumerable<(DateTimeOffset From, DateTimeOffset To)> Open(DateTimeOffset after)
    {
        // A day before, since its last hours may end in this one where the clock is put back.
        var day = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(after, _zone).DateTime).AddDays(-1);
        for (var n = 0; n < LongestWait; n++, day = day.AddDays(1))
        {
            if (_away.Any(a => a.Has(day)) || !_week.TryGetValue(day.DayOfWeek, out var hours))
            {
                continue;
            }

            foreach (var h in hours)
            {
                var (from, to) = (Moment(day, h.From, first: true), Moment(day, h.To, first: false));
                if (to > after && to > from)
                {
                    yield return (from, to);
                }
            }
        }
    }

    /// <summary>What the clock on the wall shows, as a moment: of an hour that is there twice the first or the last, of one that is left out its end.</summary>
    private DateTimeOffset Moment(DateOnly day, TimeOnly time, bool first)
    {
        var local = day.ToDateTime(time);
        if (_zone.IsInvalidTime(local))
        {
            // Put on by as much as is left out.
            var before = _zone.GetUtcOffset(local.AddHours(-3));
            return new DateTimeOffset(local, before).ToUniversalTime();
        }

        var offset = _zone.IsAmbiguousTime(local)
            ? first
                ? _zone.GetAmbiguousTimeOffsets(local).Max()
                : _zone.GetAmbiguousTimeOffsets(local).Min()
            : _zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }
}
