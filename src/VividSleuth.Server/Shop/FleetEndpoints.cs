using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Shop;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;

namespace VividSleuth.Server.Shop;

public sealed record FleetWrite(string Name, string Serial, string Owner, Guid KindId, EngineUse Use, int Version);

/// <summary>A reading of the hour meter, or a service that was done at that reading.</summary>
public sealed record FleetEntryWrite(Guid Id, DateOnly Day, decimal Hours, bool NewMeter, string Service, string Note);

/// <summary>An engine of the fleet and what is due at it.</summary>
/// <param name="Run">Hours by its meter; null where nobody read it.</param>
/// <param name="Now">Hours in all that it has likely run by today; null where nobody read its meter.</param>
/// <param name="Due">What is due first on top.</param>
/// <param name="OnBench">The open case of this engine; null where it is not here.</param>
public sealed record FleetLine(FleetEngine Engine, string KindName, RunHours? Run, decimal? Now, IReadOnlyList<ServiceDue> Due, Guid? OnBench);

/// <summary>An engine of the fleet with its entries, the newest first.</summary>
public sealed record FleetView(FleetLine Line, IReadOnlyList<FleetEntry> Entries);

/// <summary>The engine of a case as the fleet knows it.</summary>
/// <param name="Line">Null where the fleet has no engine of its serial number.</param>
/// <param name="WhileOpen">Services for which an engine is opened, of this one while it is open; what is due first on top.</param>
public sealed record CaseService(FleetLine? Line, IReadOnlyList<ServiceDue> WhileOpen);

/// <summary>Engines that the shop looks after between the times they are here: hours, services, what is due.</summary>
public static class FleetEndpoints
{
    internal const string Kind = "fleet-engine";
    internal const string Entry = "fleet-entry";

    /// <summary>So many engines are told at once.</summary>
    private const int Most = 2000;

    public static void MapFleet(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/fleet").WithTags("shop");
        group.MapGet("", ListAsync);
        group.MapGet("/{id:guid}", OneAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group
            .MapPost("/{id:guid}/entries", EnterAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/entries/{id:guid}/withdraw", WithdrawEntryAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict);
        api.MapGet("/cases/{caseId:guid}/service", OfCaseAsync).WithTags("shop");
    }

    private static async Task<IReadOnlyList<FleetLine>> ListAsync(SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var engines = await db
            .Fleet.AsNoTracking()
            .Where(f => f.WithdrawnAt == null)
            .OrderBy(f => f.Name)
            .ThenBy(f => f.Id)
            .Take(Most)
            .ToListAsync(cancel);
        var lines = await LinesAsync(engines, db, desk.Today, cancel);
        return
        [
            .. lines
                .OrderBy(l => l.Due.Select(d => d.Due ?? DateOnly.MaxValue).DefaultIfEmpty(DateOnly.MaxValue).Min())
                .ThenBy(l => l.Engine.Name, StringComparer.Ordinal),
        ];
    }

    private static async Task<FleetView> OneAsync(Guid id, SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var engine = await db.Fleet.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id, cancel) ?? throw Problems.NotHere(Kind);
        return new FleetView((await LinesAsync([engine], db, desk.Today, cancel))[0], [.. (await EntriesAsync([id], db, cancel)).Reverse()]);
    }

    private static async Task<CaseService> OfCaseAsync(Guid caseId, SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var serial = (await desk.OpenAsync(caseId, cancel)).Case.Serial.Trim();
        var pattern = CaseDesk.AsTyped(serial);
        var engine =
            serial.Length == 0
                ? null
                : await db
                    .Fleet.AsNoTracking()
                    .Where(f => f.WithdrawnAt == null && EF.Functions.ILike(f.Serial, pattern, "!"))
                    .OrderBy(f => f.At)
                    .FirstOrDefaultAsync(cancel);
        if (engine is null)
        {
            return new CaseService(null, []);
        }

        var line = (await LinesAsync([engine], db, desk.Today, cancel))[0];
        return new CaseService(line, [.. line.Due.Where(d => d.Service.Opens)]);
    }

    private static async Task<IReadOnlyList<FleetLine>> LinesAsync(
        IReadOnlyList<FleetEngine> engines,
        SleuthDb db,
        DateOnly today,
        CancellationToken cancel
    )
    {
        var kindIds = engines.Select(e => e.KindId).Distinct().ToArray();
        var kinds = await db.Kinds.AsNoTracking().Where(k => kindIds.Contains(k.Id)).ToDictionaryAsync(k => k.Id, cancel);
        var entries = (await EntriesAsync([.. engines.Select(e => e.Id)], db, cancel)).ToLookup(e => e.EngineId);
        var serials = engines.Select(e => e.Serial).Where(s => s.Length > 0).Distinct(StringComparer.Ordinal).ToArray();
        var here = (
            await db
                .Cases.AsNoTracking()
                .Where(c => c.WithdrawnAt == null && serials.Contains(c.Serial) && !c.Conclusions.Any(x => x.WithdrawnAt == null))
                .OrderByDescending(c => c.At)
                .Select(c => new { c.Id, c.Serial })
                .ToListAsync(cancel)
        ).ToLookup(c => c.Serial, c => (Guid?)c.Id, StringComparer.Ordinal);
        return
        [
            .. engines.Select(e =>
            {
                FleetEntry[] its = [.. entries[e.Id]];
                var run = RunHours.Of(its);
                return new FleetLine(
                    e,
                    kinds[e.KindId].Name,
                    run,
                    run is null ? null : Math.Round(run.On(today)),
                    ServiceDue.Of(kinds[e.KindId].Sheet.Services, e.Use, its, today),
                    e.Serial.Length == 0 ? null : here[e.Serial].FirstOrDefault()
                );
            }),
        ];
    }

    private static async Task<IReadOnlyList<FleetEntry>> EntriesAsync(Guid[] engines, SleuthDb db, CancellationToken cancel) =>
        await db
            .FleetEntries.AsNoTracking()
            .Where(e => engines.Contains(e.EngineId) && e.WithdrawnAt == null)
            .OrderBy(e => e.Day)
            .ThenBy(e => e.Hours)
            .ThenBy(e => e.Id)
            .ToListAsync(cancel);

    private static async Task<FleetEngine> PutAsync(Guid id, FleetWrite entry, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        if (string.IsNullOrWhiteSpace(entry.Name))
        {
            throw new ProblemException(Problem.Of("name", "shop.engine-needs-name"));
        }

        if (!await db.Kinds.AnyAsync(k => k.Id == entry.KindId && k.WithdrawnAt == null, cancel))
        {
            throw new ProblemException(Problem.Of("kindId", "shop.no-such-kind"));
        }

        var recorded = await db.Fleet.SingleOrDefaultAsync(f => f.Id == id, cancel);
        if (recorded is not null && recorded.Version != entry.Version)
        {
            return IsThis(recorded) ? recorded : throw new ConflictException(entry, recorded);
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var engine = recorded ?? db.Fleet.Add(new FleetEngine { Id = id }).Entity;
        (engine.Name, engine.Serial, engine.Owner) = (entry.Name.Trim(), entry.Serial.Trim(), entry.Owner.Trim());
        (engine.KindId, engine.Use, engine.WithdrawnAt) = (entry.KindId, entry.Use, null);
        db.StampForShop(Kind, engine, before);
        return await db.SaveOnceAsync(engine, IsThis, theirs => new ConflictException(entry, theirs), cancel);

        bool IsThis(FleetEngine there) =>
            there.Version == entry.Version + 1
            && (there.Name, there.Serial, there.Owner, there.KindId, there.Use)
                == (entry.Name.Trim(), entry.Serial.Trim(), entry.Owner.Trim(), entry.KindId, entry.Use);
    }

    private static async Task<FleetEngine> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        await recorder.Db.WithdrawFromShopAsync<FleetEngine>(Kind, id, withdrawal, cancel);

    private static async Task<FleetEntry> EnterAsync(Guid id, FleetEntryWrite entry, Recorder recorder, CaseDesk desk, CancellationToken cancel)
    {
        var db = recorder.Db;
        if (await db.FleetEntries.AsNoTracking().SingleOrDefaultAsync(e => e.Id == entry.Id, cancel) is { } recorded)
        {
            return recorded.EngineId == id ? recorded : throw new ConflictException(entry, recorded);
        }

        var engine =
            await db.Fleet.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id && f.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Kind);
        var services = (await db.Kinds.AsNoTracking().SingleAsync(k => k.Id == engine.KindId, cancel)).Sheet.Services;
        var added = new FleetEntry
        {
            Id = entry.Id,
            EngineId = id,
            Day = entry.Day,
            Hours = entry.Hours,
            NewMeter = entry.NewMeter,
            Service = entry.Service,
            Note = entry.Note.Trim(),
        };
        if (added.Check(await EntriesAsync([id], db, cancel), services, desk.Today).ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        db.FleetEntries.Add(added);
        db.StampForShop(Entry, added, before: null);
        return await db.SaveOnceAsync(added, theirs => theirs.EngineId == id, theirs => new ConflictException(entry, theirs), cancel);
    }

    private static async Task<FleetEntry> WithdrawEntryAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        await recorder.Db.WithdrawFromShopAsync<FleetEntry>(Entry, id, withdrawal, cancel);
}
