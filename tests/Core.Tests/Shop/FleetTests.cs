using VividSleuth.Core.Shop;

namespace VividSleuth.Core.Tests.Shop;

/// <summary>Hours and services against figures worked out by hand.</summary>
public sealed class FleetTests
{
    private static readonly DateOnly Today = new(2026, 12, 1);

    private static FleetEntry Read(string day, decimal hours, string service = "", bool newMeter = false) =>
        new()
        {
            Id = Guid.NewGuid(),
            Day = DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture),
            Hours = hours,
            Service = service,
            NewMeter = newMeter,
        };

    private static KindService Service(decimal? ordinary, decimal? race = null, decimal? standby = null, int? months = null) =>
        new()
        {
            Id = "oil",
            What = "Change the oil",
            Ordinary = ordinary,
            Race = race,
            Standby = standby,
            Months = months,
        };

    private static ServiceDue Due(KindService service, EngineUse use, params FleetEntry[] entries) =>
        ServiceDue.Of([service], use, entries, Today).ShouldHaveSingleItem();

    [Fact]
    public void Hours_and_days_left_go_by_the_rate_of_the_last_year()
    {
        // 100 days, 200 hours: two a day. Ten days after the last reading it has run 20 more.
        var due = Due(Service(250), EngineUse.Ordinary, Read("2026-08-13", 1000, "oil"), Read("2026-11-21", 1200));
        due.Left.ShouldBe(250 - 220);
        due.Due.ShouldBe(Today.AddDays(15));
        due.Used!.Value.ShouldBe(220 / 250d, 1e-9);
        due.Over(Today).ShouldBeFalse();
    }

    [Fact]
    public void Use_decides_the_interval_and_falls_back_on_the_ordinary_one()
    {
        FleetEntry[] entries = [Read("2026-12-01", 100, "oil")];
        Due(Service(250, race: 10), EngineUse.Race, entries).Left.ShouldBe(10);
        Due(Service(250, standby: 50), EngineUse.Standby, entries).Left.ShouldBe(50);
        Due(Service(250), EngineUse.Race, entries).Left.ShouldBe(250);
        // One reading tells no rate, so no day by hours.
        Due(Service(250), EngineUse.Race, entries).Due.ShouldBeNull();
    }

    [Fact]
    public void The_calendar_counts_where_it_comes_first()
    {
        FleetEntry[] entries = [Read("2025-12-01", 0, "oil"), Read("2026-12-01", 12)];
        var due = Due(Service(250, months: 12), EngineUse.Standby, entries);
        due.Left.ShouldBe(238);
        due.Due.ShouldBe(Today);
        due.Used!.Value.ShouldBe(1, 1e-9);
        due.Over(Today).ShouldBeTrue();
    }

    [Fact]
    public void A_new_meter_keeps_what_ran_before()
    {
        FleetEntry[] entries =
        [
            Read("2026-06-01", 4000, "oil"),
            Read("2026-08-01", 4100),
            Read("2026-08-01", 3, newMeter: true),
            Read("2026-12-01", 53),
        ];
        RunHours.Of(entries)!.Total.ShouldBe(4150);
        Due(Service(250), EngineUse.Ordinary, entries).Left.ShouldBe(100);
    }

    [Fact]
    public void What_was_never_noted_counts_from_the_first_hour()
    {
        var due = Due(Service(500), EngineUse.Ordinary, Read("2026-12-01", 620));
        due.Left.ShouldBe(-120);
        due.Done.ShouldBeNull();
        due.Due.ShouldBe(Today);
        // And an engine whose meter nobody read is not told anything.
        var unread = Due(Service(500), EngineUse.Ordinary);
        (unread.Done, unread.Left, unread.Due, unread.Used).ShouldBe((null, null, null, null));
    }

    [Fact]
    public void A_reading_of_years_ago_alone_still_tells_a_rate()
    {
        // 730 days, 365 hours.
        var run = RunHours.Of([Read("2024-12-01", 0), Read("2026-12-01", 365)])!;
        run.PerDay!.Value.ShouldBe(0.5, 1e-9);
        run.On(Today.AddDays(10)).ShouldBe(370);
    }

    [Fact]
    public void A_meter_that_fell_is_asked_about()
    {
        FleetEntry[] standing = [Read("2026-06-01", 400), Read("2026-10-01", 500)];
        Codes(Read("2026-11-01", 450)).ShouldBe(["shop.meter-fell"]);
        Codes(Read("2026-11-01", 450, newMeter: true)).ShouldBeEmpty();
        Codes(Read("2026-08-01", 600)).ShouldBe(["shop.meter-was-lower-later"]);
        Codes(Read("2026-08-01", 450)).ShouldBeEmpty();
        Codes(Read("2026-12-02", 600)).ShouldBe(["shop.day-is-to-come"]);
        Codes(Read("2026-11-01", 600, "plugs")).ShouldBe(["shop.no-such-service"]);
        Codes(Read("2026-11-01", -1)).ShouldContain("shop.hours-cannot-be");

        IEnumerable<string> Codes(FleetEntry entry) => entry.Check(standing, [Service(250)], Today).Select(p => p.Text.Code);
    }
}
