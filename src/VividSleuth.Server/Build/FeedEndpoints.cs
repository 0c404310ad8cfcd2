using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Build;

public sealed record FeedEntry(Guid Id, string For);

/// <param name="Path">Where a calendar fetches it; whoever knows it reads the plan, and nothing else.</param>
public sealed record FeedTold(Guid Id, int Version, string For, string Path, DateTimeOffset At, string By);

/// <summary>The plan as a calendar: a file for who is signed in, and addresses that a calendar fetches by itself.</summary>
public static class FeedEndpoints
{
    private const string Purpose = "VividSleuth.CalendarFeed";

    /// <summary>Addresses of one case.</summary>
    private const int MostOfACase = 20;

    public static void MapFeeds(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("build");
        group.MapGet("/build.ics", FileAsync).Produces<string>(contentType: "text/calendar").ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/feeds", ListAsync).RequireAuthorization(Policies.Write);
        group.MapPost("/feeds", OpenAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/feeds/{id:guid}/withdraw", ShutAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
    }

    /// <summary>Without sign-in: the address itself is the key.</summary>
    public static void MapOpenFeeds(this RouteGroupBuilder api) =>
        api.MapGet("/feeds/{key}.ics", FeedAsync)
            .WithTags("build")
            .AllowAnonymous()
            .Produces<string>(contentType: "text/calendar")
            .ProducesProblem(StatusCodes.Status404NotFound);

    private static async Task<IResult> FileAsync(Guid caseId, CaseDesk desk, BuildDesk build, HttpContext context, CancellationToken cancel)
    {
        var text = await TextAsync(caseId, desk, build, context, cancel);
        return Results.File(System.Text.Encoding.UTF8.GetBytes(text), BuildCalendar.ContentType, "plan.ics");
    }

    private static async Task<IResult> FeedAsync(
        string key,
        SleuthDb db,
        CaseDesk desk,
        BuildDesk build,
        IDataProtectionProvider protection,
        HttpContext context,
        CancellationToken cancel
    )
    {
        var feed = protection.IdOf(Purpose, key) is { } id
            ? await db.Feeds.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id && f.WithdrawnAt == null, cancel)
            : null;
        if (feed is null || !await desk.BeginAsync(feed.CaseId, cancel))
        {
            throw Problems.NotHere("feed");
        }

        context.Response.Headers.CacheControl = "private, max-age=900";
        return Results.Text(await TextAsync(feed.CaseId, desk, build, context, cancel), BuildCalendar.ContentType);
    }

    private static async Task<string> TextAsync(Guid caseId, CaseDesk desk, BuildDesk build, HttpContext context, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var setting = await build.SettingAsync(cancel);
        return BuildCalendar.Of(reader.BuildAt(setting.Work, setting.Clocks, setting.Now), caseId, reader.Case.Title, context.Sentences());
    }

    private static async Task<IReadOnlyList<FeedTold>> ListAsync(
        Guid caseId,
        SleuthDb db,
        IDataProtectionProvider protection,
        CancellationToken cancel
    ) =>
        [
            .. (await db.Feeds.AsNoTracking().Where(f => f.CaseId == caseId && f.WithdrawnAt == null).OrderBy(f => f.At).ToListAsync(cancel)).Select(
                f => Told(f, protection)
            ),
        ];

    private static async Task<FeedTold> OpenAsync(
        Guid caseId,
        FeedEntry entry,
        Recorder recorder,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        if (await db.Feeds.AsNoTracking().SingleOrDefaultAsync(f => f.Id == entry.Id, cancel) is { } open)
        {
            return Told(open, protection);
        }

        if (await db.Feeds.CountAsync(f => f.CaseId == caseId && f.WithdrawnAt == null, cancel) >= MostOfACase)
        {
            throw new Core.ProblemException(Core.Problem.Of("feeds", "server.too-many-feeds", ("most", MostOfACase)));
        }

        var feed = new CalendarFeed
        {
            Id = entry.Id,
            CaseId = caseId,
            For = entry.For.Trim(),
        };
        db.Feeds.Add(feed);
        db.StampForShop("feed", feed, before: null);
        return Told(await db.SaveOnceAsync(feed, _ => true, _ => new ConflictException(entry, feed), cancel), protection);
    }

    private static async Task<FeedTold> ShutAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        return await db.Feeds.AnyAsync(f => f.Id == id && f.CaseId == caseId, cancel)
            ? Told(await db.WithdrawFromShopAsync<CalendarFeed>("feed", id, withdrawal, cancel), protection)
            : throw Problems.NotHere("feed");
    }

    private static FeedTold Told(CalendarFeed feed, IDataProtectionProvider protection) =>
        new(feed.Id, feed.Version, feed.For, $"/api/feeds/{protection.KeyOf(Purpose, feed.Id)}.ics", feed.At, feed.By);
}
