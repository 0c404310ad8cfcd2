namespace VividSleuth.Core.Shop;

/// <summary>An engine that the shop looks after between the times it is on the bench.</summary>
public sealed class FleetEngine : IShopRecord
{
    public Guid Id { get; set; }

    /// <summary>What it is called: “Lifeboat 2, port”.</summary>
    public string Name { get; set; } = "";

    public string Serial { get; set; } = "";

    public string Owner { get; set; } = "";

    /// <summary>The kind by whose services it goes.</summary>
    public Guid KindId { get; set; }

    public EngineUse Use { get; set; }

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

/// <summary>The hour meter of an engine read on a day, and the service that was done then.</summary>
public sealed class FleetEntry : IShopRecord
{
    public Guid Id { get; set; }

    public Guid EngineId { get; set; }

    public DateOnly Day { get; set; }

    /// <summary>What the meter showed, in hours.</summary>
    public decimal Hours { get; set; }

    /// <summary>A meter that was changed: from here on it counts from this figure, and what ran before stays counted.</summary>
    public bool NewMeter { get; set; }

    /// <summary>Id of the service that was done; empty where the meter was only read.</summary>
    public string Service { get; set; } = "";

    public string Note { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>What speaks against an entry beside those that stand; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check(IReadOnlyList<FleetEntry> standing, IReadOnlyList<KindService> services, DateOnly today)
    {
        if (Hours is < 0 or > 1_000_000)
        {
            yield return Problem.Of("hours", "shop.hours-cannot-be");
        }

        if (Day > today)
        {
            yield return Problem.Of("day", "shop.day-is-to-come");
        }

        if (Service.Length > 0 && services.All(s => s.Id != Service))
        {
            yield return Problem.Of("service", "shop.no-such-service");
        }

        var before = standing.Where(e => e.Day <= Day && e.Id != Id).OrderBy(e => e.Day).ThenBy(e => e.Hours).LastOrDefault();
        if (!NewMeter && before is not null && before.Hours > Hours)
        {
            yield return Problem.Of("hours", "shop.meter-fell", ("before", before.Hours), ("day", before.Day), ("now", Hours));
        }

        var after = standing.Where(e => e.Day > Day && e.Id != Id).OrderBy(e => e.Day).ThenBy(e => e.Hours).FirstOrDefault();
        if (after is { NewMeter: false } && after.Hours < Hours)
        {
            yield return Problem.Of("hours", "shop.meter-was-lower-later", ("after", after.Hours), ("day", after.Day), ("now", Hours));
        }
    }
}

/// <summary>How long an engine has run by its meter readings.</summary>
/// <param name="Total">Hours in all at the last reading, of every meter it had.</param>
/// <param name="Day">Day of the last reading.</param>
/// <param name="PerDay">Hours a day, of the readings of the last year before it; null where nothing tells.</param>
public sealed record RunHours(decimal Total, DateOnly Day, double? PerDay)
{
    /// <summary>Days by which the rate is told: a season counts once.</summary>
    private const int Lookback = 366;

    /// <returns>Null where nobody read the meter.</returns>
    public static RunHours? Of(IEnumerable<FleetEntry> entries)
    {
        var totals = Totals(entries);
        if (totals.Count == 0)
        {
            return null;
        }

        var (last, total) = totals[^1];
        // From the earliest reading of the last year, or the last before it where there is none.
        var since = totals.FindIndex(t => t.Entry.Day >= last.Day.AddDays(-Lookback));
        var from = totals[since == totals.Count - 1 && since > 0 ? since - 1 : since];
        var days = last.Day.DayNumber - from.Entry.Day.DayNumber;
        return new RunHours(total, last.Day, days > 0 ? (double)(total - from.Total) / days : null);
    }

    /// <summary>Readings in order, each with what the engine had run in all by then.</summary>
    internal static List<(FleetEntry Entry, decimal Total)> Totals(IEnumerable<FleetEntry> entries)
    {
        var totals = new List<(FleetEntry Entry, decimal Total)>();
        foreach (
            var e in entries.Where(e => e.WithdrawnAt is null).OrderBy(e => e.Day).ThenBy(e => e.NewMeter).ThenBy(e => e.Hours).ThenBy(e => e.Id)
        )
        {
            totals.Add(
                totals.Count == 0 ? (e, e.Hours)
                : e.NewMeter ? (e, totals[^1].Total)
                : (e, totals[^1].Total + Math.Max(0, e.Hours - totals[^1].Entry.Hours))
            );
        }

        return totals;
    }

    /// <summary>Hours in all on a later day, by the rate at which it ran.</summary>
    public decimal On(DateOnly day) => Total + (decimal)((PerDay ?? 0) * Math.Max(0, day.DayNumber - Day.DayNumber));
}

/// <summary>How a service of one engine stands.</summary>
/// <param name="Done">The day on which it was last noted as done; null where nobody noted it, and it counts from the engine’s first hour.</param>
/// <param name="Left">Running hours until it is due, as the engine has likely run by today; negative where it is over; null where hours do not count.</param>
/// <param name="Due">The day on which it is likely due, by hours or by the calendar, whichever is first; null where nothing tells.</param>
/// <param name="Used">Share of the interval that is used, by hours or by the calendar, whichever is more.</param>
public sealed record ServiceDue(KindService Service, DateOnly? Done, decimal? Left, DateOnly? Due, double? Used)
{
    public bool Over(DateOnly today) => Left <= 0 || Due <= today;

    /// <summary>All services of an engine, what is due first on top.</summary>
    /// <param name="entries">Its meter readings and services.</param>
    public static IReadOnlyList<ServiceDue> Of(IReadOnlyList<KindService> services, EngineUse use, IReadOnlyList<FleetEntry> entries, DateOnly today)
    {
        var totals = RunHours.Totals(entries);
        var run = RunHours.Of(entries);
        return
        [
            .. services
                .Select(s => Of(s, use, totals, run, today))
                .OrderBy(d => d.Due ?? DateOnly.MaxValue)
                .ThenByDescending(d => d.Used ?? 0)
                .ThenBy(d => d.Service.Id, StringComparer.Ordinal),
        ];
    }

    private static ServiceDue Of(KindService service, EngineUse use, List<(FleetEntry Entry, decimal Total)> totals, RunHours? run, DateOnly today)
    {
        var done = totals.FindLast(t => t.Entry.Service == service.Id);
        DateOnly? day = done.Entry?.Day;
        decimal? left = null;
        DateOnly? due = null;
        double? used = null;
        if (run is not null && service.Hours(use) is { } hours)
        {
            // Never noted, it counts from the first hour: told too early rather than too late.
            var since = run.On(today) - (done.Entry is null ? 0 : done.Total);
            left = hours - since;
            used = (double)(since / hours);
            due =
                left <= 0 ? today
                : run.PerDay is > 0 and var rate && (double)left.Value / rate < 36_500 ? today.AddDays((int)Math.Floor((double)left.Value / rate))
                : null;
        }

        if (service.Months is { } months && day is { } last)
        {
            var by = last.AddMonths(months);
            due = due is null || by < due ? by : due;
            used = Math.Max(used ?? 0, (double)(today.DayNumber - last.DayNumber) / Math.Max(1, by.DayNumber - last.DayNumber));
        }

        return new ServiceDue(service, day, left is { } l ? Math.Round(l, 1) : null, due, used);
    }
}
