using System.Text.Json.Serialization;

namespace VividSleuth.Core.Build;

/// <summary>Hours of a weekday, on the clock on the wall.</summary>
public sealed record DayHours(DayOfWeek Day, TimeOnly From, TimeOnly To);

/// <summary>Days on which somebody is not there, the first and the last among them.</summary>
/// <param name="Who">Whom or what it is for, in the shop's words.</param>
/// <param name="Hands">Pairs of hands that are missing; none is missing alone where the whole shop is closed.</param>
public sealed record Absence(DateOnly From, DateOnly To, string Who, int Hands);

/// <summary>What the weather is or is forecast to be.</summary>
/// <param name="Dry">Null where nobody said.</param>
/// <param name="Coldest">°C, by day and night; null where nobody said.</param>
public sealed record WeatherDay(DateOnly Day, bool? Dry, double? Coldest);

/// <summary>When, with how many hands and with what the shop works.</summary>
public sealed record ShopWork
{
    /// <summary>Where nobody said anything, a rule of thumb: weekdays, eight to twelve and one to five, one pair of hands at one bench.</summary>
    public static ShopWork Usual { get; } = new();

    /// <summary>Most pairs of hands, benches or tools of a kind that can be told.</summary>
    public const int MostOfAKind = 50;

    /// <summary>Time zone by its name in the IANA's list; empty is that of the machine.</summary>
    public string Zone { get; init; } = "";

    public IReadOnlyList<DayHours> Week { get; init; } =
    [
        .. Enumerable
            .Range((int)DayOfWeek.Monday, 5)
            .SelectMany(d =>
                new[]
                {
                    new DayHours((DayOfWeek)d, new TimeOnly(8, 0), new TimeOnly(12, 0)),
                    new DayHours((DayOfWeek)d, new TimeOnly(13, 0), new TimeOnly(17, 0)),
                }
            ),
    ];

    public IReadOnlyList<Absence> Away { get; init; } = [];

    /// <summary>Pairs of hands.</summary>
    public int Hands { get; init; } = 1;

    public int Benches { get; init; } = 1;

    /// <summary>Tools of which there are only so many, by name; none is one that is broken, empty or lent out.</summary>
    public IReadOnlyDictionary<string, int> Tools { get; init; } = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);

    /// <summary>Host and port of a weather service; empty where the shop asks none.</summary>
    public string WeatherAddress { get; init; } = "";

    /// <summary>Days of which somebody knows the weather.</summary>
    public IReadOnlyList<WeatherDay> Weather { get; init; } = [];

    [JsonIgnore]
    public TimeZoneInfo TimeZone => Zone.Length == 0 ? TimeZoneInfo.Local : TimeZoneInfo.FindSystemTimeZoneById(Zone);

    /// <summary>Hours in which somebody is there.</summary>
    /// <exception cref="ProblemException">Hours or days that cannot be.</exception>
    public WorkCalendar Calendar() =>
        new(
            Week.GroupBy(h => h.Day).ToDictionary(g => g.Key, IReadOnlyList<Hours> (g) => [.. g.Select(h => new Hours(h.From, h.To))]),
            [.. Away.Where(a => a.Hands == 0 || a.Hands >= Hands).Select(a => new Away(a.From, a.To))],
            TimeZone
        );

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check()
    {
        if (Zone.Length > 0 && !TimeZoneInfo.TryFindSystemTimeZoneById(Zone, out _))
        {
            yield return Problem.Of("zone", "build.no-such-zone", ("zone", Zone));
            yield break;
        }

        if (Hands is < 1 or > MostOfAKind || Benches is < 1 or > MostOfAKind)
        {
            yield return Problem.Of("hands", "build.hands-cannot-be", ("most", MostOfAKind));
        }

        if (Tools.FirstOrDefault(t => t.Value is < 0 or > MostOfAKind || string.IsNullOrWhiteSpace(t.Key)) is { Key: not null } tool)
        {
            yield return Problem.Of("tools", "build.tool-cannot-be", ("tool", tool.Key), ("most", MostOfAKind));
        }

        if (Away.FirstOrDefault(a => a.Hands is < 0 or > MostOfAKind) is { } absence)
        {
            yield return Problem.Of("away", "build.hands-cannot-be", ("most", MostOfAKind), ("who", absence.Who));
        }

        if (Weather.GroupBy(w => w.Day).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            yield return Problem.Of("weather", "build.weather-twice", ("day", twice.Key));
        }

        if (Weather.FirstOrDefault(w => w.Coldest is < -90 or > 60 || (w.Coldest is { } c && !double.IsFinite(c))) is { } wrong)
        {
            yield return Problem.Of("weather", "build.weather-cannot-be", ("day", wrong.Day));
        }

        Problem? hours = null;
        try
        {
            var calendar = Calendar();
            if (!calendar.Open(DateTimeOffset.UnixEpoch).Any())
            {
                hours = Problem.Of("hours", "build.no-hours");
            }
        }
        catch (ProblemException e)
        {
            hours = e.Problems[0];
        }

        if (hours is not null)
        {
            yield return hours;
        }
    }
}

/// <summary>Minutes that the shop has clocked, by the step that they were clocked on.</summary>
public sealed record ShopClocks(IReadOnlyDictionary<string, IReadOnlyList<double>> Minutes)
{
    public static ShopClocks None { get; } = new(new Dictionary<string, IReadOnlyList<double>>(StringComparer.Ordinal));
}
