using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Words;

namespace VividSleuth.Server.Build;

/// <summary>A plan as a calendar after RFC 5545: work at its hours, waits and dates as whole days.</summary>
public static class BuildCalendar
{
    public const string ContentType = "text/calendar; charset=utf-8";

    /// <param name="title">Of the case.</param>
    public static string Of(BuildPlan plan, Guid caseId, string title, Sentences sentences)
    {
        var calendar = new Calendar { Method = "PUBLISH", ProductId = "-//Vivid Sleuth//Build//EN" };
        calendar.AddProperty("X-WR-CALNAME", title);
        calendar.AddProperty("REFRESH-INTERVAL;VALUE=DURATION", "PT15M");
        foreach (var task in plan.Tasks)
        {
            var entry = Entry(task.Key, sentences.Say(task.Name), plan, caseId);
            entry.Description = Told(task);
            entry.Categories = [task.Kind.ToString()];
            if (task.ByItself)
            {
                WholeDays(entry, DateOnly.FromDateTime(task.Starts.DateTime), task.Expected ?? DateOnly.FromDateTime(task.Ends.DateTime));
            }
            else
            {
                entry.Start = Moment(task.Starts);
                entry.End = Moment(task.Ends);
            }

            calendar.Events.Add(entry);
        }

        foreach (
            var (key, code, day) in new[]
            {
                ("likely", "build.ics.likely", plan.Likely),
                ("safe", "build.ics.safe", plan.Safe),
                ("promise", "build.ics.promise", plan.Promise?.Day),
            }
        )
        {
            if (day is { } on)
            {
                var entry = Entry(key, sentences.Say(Fact.Of(code, ("title", title), ("to", plan.Promise?.To))), plan, caseId);
                WholeDays(entry, on, on);
                calendar.Events.Add(entry);
            }
        }

        return new CalendarSerializer().SerializeToString(calendar) ?? "";

        string Told(BuildTaskState task) =>
            sentences.Say(
                Fact.Of(
                    "build.ics.told",
                    ("likely", new Core.Measures.Number(Math.Round(task.Likely, 1))),
                    ("hangs", task.Hangs >= 0.5 ? Fact.Of("build.ics.hangs") : null),
                    ("places", task.Places),
                    ("note", task.Note)
                )
            );
    }

    /// <summary>The same for the same task, so that a calendar that fetches it again moves it and makes no second one.</summary>
    private static CalendarEvent Entry(string key, string summary, BuildPlan plan, Guid caseId) =>
        new()
        {
            Uid = $"{DerivedId.Of(caseId, key)}@vivid-sleuth",
            Summary = summary,
            DtStamp = Moment(plan.At),
            Status = EventStatus.Tentative,
        };

    private static void WholeDays(CalendarEvent entry, DateOnly first, DateOnly last)
    {
        entry.Start = new CalDateTime(first);
        // The end is the day after the last.
        entry.End = new CalDateTime((last < first ? first : last).AddDays(1));
        entry.Transparency = TransparencyType.Transparent;
    }

    private static CalDateTime Moment(DateTimeOffset at) => new(at.UtcDateTime, CalDateTime.UtcTzId);
}
