using System.Text;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Measures;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <param name="Version">Of the shop’s settings.</param>
public sealed record WorkEntry(int Version, ShopWork Work);

/// <summary>Days of which somebody knows the weather; others stay as they are.</summary>
public sealed record WeatherEntry(IReadOnlyList<WeatherDay> Days);

/// <param name="Added">Days that are known now.</param>
/// <param name="Bad">Rows that could not be read.</param>
public sealed record WeatherTaken(int Added, int Bad, IReadOnlyList<RowProblem> Problems);

/// <summary>When, with how many hands and in what weather the shop works.</summary>
public static class WorkEndpoints
{
    private const int MostTableBytes = 256 * 1024;

    public static void MapWork(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("shop");
        group
            .MapPut("/work", SetAsync)
            .RequireAuthorization(p => p.RequireRole(Roles.Lead))
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPut("/weather", SetWeatherAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/weather.csv", TakeTableAsync)
            .RequireAuthorization(Policies.Write)
            .Accepts<string>("text/csv")
            .Produces<WeatherTaken>()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/weather/ask", AskAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<ShopSettings> SetAsync(WorkEntry entry, Recorder recorder, Devices devices, TimeProvider time, CancellationToken cancel)
    {
        if (entry.Work.Check().ToArray() is { Length: > 0 } wrong)
        {
            throw new ProblemException(wrong);
        }

        if (entry.Work.WeatherAddress.Length > 0)
        {
            devices.Parts(entry.Work.WeatherAddress.Trim(), "weatherAddress", "server.a-weather-service");
        }

        return await ChangeAsync(
            recorder.Db,
            (settings, _) =>
                settings.Version == entry.Version
                    // The weather has ways of its own in, also while somebody has this page open.
                    ? entry.Work with
                    {
                        Weather = settings.Work.Weather,
                        WeatherAddress = entry.Work.WeatherAddress.Trim(),
                    }
                    : throw new ConflictException(entry, settings),
            time,
            cancel
        );
    }

    private static Task<ShopSettings> SetWeatherAsync(WeatherEntry entry, Recorder recorder, TimeProvider time, CancellationToken cancel) =>
        ChangeAsync(recorder.Db, (settings, today) => With(settings.Work, entry.Days, today), time, cancel);

    private static async Task<WeatherTaken> TakeTableAsync(HttpContext context, Recorder recorder, TimeProvider time, CancellationToken cancel)
    {
        using var reader = new StreamReader(context.Request.Body, Encoding.UTF8);
        var buffer = new char[MostTableBytes + 1];
        var read = await reader.ReadBlockAsync(buffer, cancel);
        return read > MostTableBytes
            ? throw new ProblemException(Problem.Of("file", "server.weather-too-long"))
            : await TakeAsync(new string(buffer, 0, read), recorder.Db, time, cancel);
    }

    private static async Task<WeatherTaken> AskAsync(Recorder recorder, WeatherLine line, TimeProvider time, CancellationToken cancel)
    {
        var settings = await recorder.Db.SettingsAsync(cancel);
        return await TakeAsync(await line.AskAsync(settings.Work.WeatherAddress, MostTableBytes, cancel), recorder.Db, time, cancel);
    }

    private static async Task<WeatherTaken> TakeAsync(string text, SleuthDb db, TimeProvider time, CancellationToken cancel)
    {
        var table = WeatherTable.Read(text);
        if (table.Good.Count > 0)
        {
            await ChangeAsync(db, (settings, today) => With(settings.Work, table.Good, today), time, cancel);
        }

        return new WeatherTaken(table.Good.Count, table.Bad, table.Problems);
    }

    private static ShopWork With(ShopWork work, IReadOnlyList<WeatherDay> days, DateOnly today)
    {
        // Of a day that stands there twice the last counts.
        days = [.. days.GroupBy(d => d.Day).Select(g => g.Last())];
        if ((work with { Weather = days }).Check().ToArray() is { Length: > 0 } wrong)
        {
            throw new ProblemException(wrong);
        }

        return work with
        {
            Weather = WeatherTable.With(work.Weather, days, today),
        };
    }

    private static async Task<ShopSettings> ChangeAsync(
        SleuthDb db,
        Func<ShopSettings, DateOnly, ShopWork> change,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        // One after the other: who enters the weather does not know of a version, and nobody's is lost.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.Shelf})", cancel);
        var recorded = await db.Settings.SingleOrDefaultAsync(cancel);
        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var settings = recorded ?? db.Settings.Add(new ShopSettings()).Entity;
        settings.Work = change(settings, DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime));
        db.Keep("settings", ShopEndpoints.SettingsId, before);
        settings.Version++;
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return settings;
    }
}
