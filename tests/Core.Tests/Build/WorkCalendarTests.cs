using CsCheck;
using VividSleuth.Core.Build;

namespace VividSleuth.Core.Tests.Build;

public sealed class WorkCalendarTests
{
    /// <summary>Central European time by the rule of Directive 2000/84/EC: put on at 1:00 UTC on the last Sunday of March, back on the last of October.</summary>
    private static readonly TimeZoneInfo Central = TimeZoneInfo.CreateCustomTimeZone(
        "central",
        TimeSpan.FromHours(1),
        "central",
        "winter",
        "summer",
        [
            TimeZoneInfo.AdjustmentRule.CreateAdjustmentRule(
                DateTime.MinValue.Date,
                DateTime.MaxValue.Date,
                TimeSpan.FromHours(1),
                TimeZoneInfo.TransitionTime.CreateFloatingDateRule(new DateTime(1, 1, 1, 2, 0, 0), 3, 5, DayOfWeek.Sunday),
                TimeZoneInfo.TransitionTime.CreateFloatingDateRule(new DateTime(1, 1, 1, 3, 0, 0), 10, 5, DayOfWeek.Sunday)
            ),
        ]
    );

    private static Hours From(int from, int to) => new(new TimeOnly(from, 0), new TimeOnly(to, 0));

    private static WorkCalendar Of(IReadOnlyList<DayOfWeek> days, Hours[] hours, params Away[] away) =>
        new(days.ToDictionary(d => d, _ => (IReadOnlyList<Hours>)hours), away, Central);

    private static readonly DayOfWeek[] Weekdays = [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday];

    private static DateTimeOffset At(int month, int day, int hour, int offset) => new(2026, month, day, hour, 0, 0, TimeSpan.FromHours(offset));

    [Fact]
    public void Work_goes_on_after_the_break_the_night_the_week_end_and_the_days_off()
    {
        var shop = Of(Weekdays, [From(8, 12), From(13, 17)], new Away(new DateOnly(2026, 12, 24), new DateOnly(2026, 12, 31)));
        // Friday 27 November, 16:00: an hour today, the rest on Monday, over noon.
        shop.After(At(11, 27, 16, 1), TimeSpan.FromHours(6)).ShouldBe(At(11, 30, 14, 1));
        // Through at the stroke of five is through today.
        shop.After(At(11, 27, 16, 1), TimeSpan.FromHours(1)).ShouldBe(At(11, 27, 17, 1));
        // Begun on Saturday it begins on Monday.
        shop.After(At(11, 28, 10, 1), TimeSpan.Zero).ShouldBe(At(11, 30, 8, 1));
        // Over the days off, of which the first of January is none here: it is a Friday.
        shop.After(At(12, 23, 16, 1), TimeSpan.FromHours(2)).ShouldBe(new DateTimeOffset(2027, 1, 1, 9, 0, 0, TimeSpan.FromHours(1)));
    }

    /// <summary>In 2026 the clocks are put on in the night to 29 March and back in the night to 25 October.</summary>
    [Fact]
    public void A_night_is_as_long_as_it_is()
    {
        var night = Of(Enum.GetValues<DayOfWeek>(), [From(0, 6)]);
        night.Between(At(3, 29, 0, 1), At(3, 29, 12, 2)).ShouldBe(TimeSpan.FromHours(5));
        night.Between(At(10, 25, 0, 2), At(10, 25, 12, 1)).ShouldBe(TimeSpan.FromHours(7));
        night.Between(At(6, 7, 0, 2), At(6, 7, 12, 2)).ShouldBe(TimeSpan.FromHours(6));
        night.After(At(3, 29, 0, 1), TimeSpan.FromHours(5)).ShouldBe(At(3, 29, 6, 2));
        night.After(At(10, 25, 0, 2), TimeSpan.FromHours(7)).ShouldBe(At(10, 25, 6, 1));
    }

    [Fact]
    public void Hours_that_the_clock_leaves_out_or_shows_twice_are_taken_as_they_pass()
    {
        var odd = Of([DayOfWeek.Sunday], [new Hours(new TimeOnly(2, 30), new TimeOnly(4, 0))]);
        // There is no half past two on 29 March: it begins at half past three by the new clock.
        odd.Between(At(3, 29, 0, 1), At(3, 30, 0, 2)).ShouldBe(TimeSpan.FromMinutes(30));
        // Half past two is there twice on 25 October, and the first counts.
        odd.Between(At(10, 25, 0, 2), At(10, 26, 0, 1)).ShouldBe(TimeSpan.FromHours(2.5));
    }

    [Fact]
    public void Work_that_is_split_ends_when_it_ends_whole_and_takes_what_lies_between()
    {
        var shop = Of(Weekdays, [From(7, 11), From(12, 16)], new Away(new DateOnly(2026, 3, 30), new DateOnly(2026, 4, 1)));
        var begin = At(3, 20, 0, 1);
        Gen.Int[0, 60 * 24 * 20]
            .Select(Gen.Int[0, 60 * 40], Gen.Int[0, 60 * 40])
            .Sample(
                (after, first, second) =>
                {
                    var from = begin.AddMinutes(after);
                    var (one, other) = (TimeSpan.FromMinutes(first), TimeSpan.FromMinutes(second));
                    var end = shop.After(from, one + other);
                    shop.Between(from, end).ShouldBe(one + other);
                    var half = shop.After(from, one);
                    half.ShouldBeLessThanOrEqualTo(end);
                    if (second > 0)
                    {
                        shop.After(half, other).ShouldBe(end);
                    }
                },
                iter: 300
            );
    }

    [Fact]
    public void What_is_no_calendar_is_told()
    {
        static string Told(Action make) => Should.Throw<ProblemException>(make).Problems[0].Text.Say();
        Told(() => Of(Weekdays, [From(17, 8)])).ShouldBe("Hours from 17:00 to 08:00 end before they begin.");
        Told(() => Of(Weekdays, [From(8, 12), From(11, 17)])).ShouldBe("Hours of one day overlap at 11:00.");
        Told(() => Of(Weekdays, [From(8, 12)], new Away(new DateOnly(2026, 5, 2), new DateOnly(2026, 5, 1)))).ShouldContain("2026-05-02");
        Told(() => Of([], []).After(At(1, 1, 0, 1), TimeSpan.FromHours(1))).ShouldBe("There are no hours of work in the next ten years.");
    }
}
