using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Store;

namespace VividSleuth.Server.Shop;

/// <summary>The shop's instruments. What one was before a change is kept, so that an old budget can be followed.</summary>
public static class InstrumentEndpoints
{
    private const string Kind = "instrument";

    public static void MapInstruments(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/instruments").WithTags("shop");
        group.MapGet("", AllAsync).ForStudents().Produces<List<Instrument>>();
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/{id:guid}/changes", ChangesAsync);
    }

    private static Task<List<Instrument>> AllAsync(SleuthDb db, CancellationToken cancel) => db.InstrumentsAsync(cancel);

    private static Task<List<Change>> ChangesAsync(Guid id, SleuthDb db, CancellationToken cancel) => db.ShopChangesAsync(id, cancel);

    private static async Task<Instrument> PutAsync(Guid id, Instrument entry, Recorder recorder, CancellationToken cancel)
    {
        entry.Name = entry.Name.Trim();
        entry.SetWith = entry.SetWith.Trim();
        entry.Method = entry.Method.Trim();
        if (entry.Check().ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        var db = recorder.Db;
        var recorded = await db.Instruments.SingleOrDefaultAsync(i => i.Id == id, cancel);
        if (recorded is not null && recorded.Version != entry.Version)
        {
            return entry.Version == 0 && recorded.Version == 1 ? recorded : throw new ConflictException(entry, recorded);
        }

        var others = await db.Instruments.Where(i => i.Id != id).Select(i => i.Name).ToListAsync(cancel);
        if (others.Contains(entry.Name, StringComparer.OrdinalIgnoreCase))
        {
            throw new ProblemException(Problem.Of("name", "server.instrument-there-already", ("entry", entry.Name)));
        }

        if (entry.SetWith.Length > 0 && !await db.Instruments.AnyAsync(i => i.Name == entry.SetWith && i.Id != id, cancel))
        {
            throw new ProblemException(Problem.Of("setWith", "server.no-such-instrument", ("setWith", entry.SetWith)));
        }

        if (recorded is not null && recorded.Name != entry.Name && await db.Set<Reading>().AnyAsync(r => r.Instrument == recorded.Name, cancel))
        {
            throw new ProblemException(Problem.Of("name", "server.readings-were-taken-name-so", ("recorded", recorded.Name)));
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var instrument = recorded ?? db.Instruments.Add(new Instrument { Id = id }).Entity;
        instrument.Name = entry.Name;
        instrument.Kind = entry.Kind;
        instrument.Quantity = entry.Quantity;
        instrument.Resolution = entry.Resolution;
        instrument.PermissibleError = entry.PermissibleError;
        instrument.SetWith = entry.SetWith;
        instrument.Calibrated = entry.Calibrated;
        instrument.CalibrationDue = entry.CalibrationDue;
        instrument.Method = entry.Method;
        instrument.Imported = false;
        db.StampForShop(Kind, instrument, before);
        return await db.SaveOnceAsync(
            instrument,
            theirs => recorded is null && theirs.Version == 1,
            theirs => new ConflictException(entry, theirs),
            cancel
        );
    }

    private static Task<Instrument> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<Instrument>(Kind, id, withdrawal, cancel);
}
