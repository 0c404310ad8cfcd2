using System.Globalization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Build;

/// <summary>Reads a forecast: a table with the columns day, dry and coldest (docs/weather-format.md).</summary>
public static class WeatherTable
{
    private const string Day = "day";
    private const string Dry = "dry";
    private const string Coldest = "coldest";

    private static readonly Dictionary<string, bool> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        ["yes"] = true,
        ["dry"] = true,
        ["1"] = true,
        ["no"] = false,
        ["wet"] = false,
        ["0"] = false,
    };

    /// <exception cref="ProblemException">It is no table, or lacks a column.</exception>
    public static CsvRead<WeatherDay> Read(string text) => CsvIn.Read(text, [Day, Dry, Coldest], Row);

    /// <summary>What is known with a forecast beside it: of a day of which both speak the newer counts, and what is long past is let go.</summary>
    public static IReadOnlyList<WeatherDay> With(IReadOnlyList<WeatherDay> known, IEnumerable<WeatherDay> newer, DateOnly today)
    {
        var days = known.ToDictionary(w => w.Day);
        foreach (var day in newer)
        {
            days[day.Day] = day;
        }

        return [.. days.Values.Where(d => d.Day >= today.AddDays(-Kept)).OrderBy(d => d.Day)];
    }

    /// <summary>Days that are past and still kept.</summary>
    private const int Kept = 60;

    private static WeatherDay Row(CsvIn.Row row)
    {
        if (!DateOnly.TryParseExact(row[Day], "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
        {
            throw CsvIn.Row.Refuse(Day, Fact.Of("build.weather.no-day", ("day", row[Day])), Fact.Of("build.weather.no-day.do"));
        }

        if (row[Dry].Length > 0 && !Words.ContainsKey(row[Dry]))
        {
            throw CsvIn.Row.Refuse(Dry, Fact.Of("build.weather.no-dry", ("dry", row[Dry])), Fact.Of("build.weather.no-dry.do"));
        }

        return new WeatherDay(day, row[Dry].Length > 0 ? Words[row[Dry]] : null, (double?)row.Figure(Coldest, Quantity.Temperature, "°C"));
    }
}
