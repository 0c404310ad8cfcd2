using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

public sealed record SettingsEntry(
    int Version,
    string HoldSigner,
    Keeping Keeping,
    Dictionary<string, Keeping> KeepingBySet,
    Schools? Schools = null,
    string? GaugeAddress = null,
    string? PrinterAddress = null,
    LengthUnit? Lengths = null,
    bool? OtherEyes = null,
    Dictionary<StepLock, string>? OpenedBy = null,
    string? Currency = null,
    Dictionary<string, decimal>? Rates = null,
    decimal? HourRate = null,
    Language? Language = null
);

public sealed record LessonEntry(Guid Id, string Script, string Step, string EngineName, string Text, Guid? CaseId);

public sealed record StockEntry(Guid Id, int Version, string Kind, string Fits, string Grade, int Count, string Where, string Remarks);

public sealed record SupplierEntry(int Version, string Name, SupplierKind Kind, string Address, string Currency, decimal Freight, string Remarks);

/// <summary>What belongs to the shop and not to a case: how it works, what it learned, what lies on its shelves.</summary>
public static class ShopEndpoints
{
    public static void MapShop(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("shop");
        group.MapGet("/settings", (SleuthDb db, CancellationToken cancel) => db.SettingsAsync(cancel)).ForStudents();
        group.MapPut("/settings", SetAsync).RequireAuthorization(p => p.RequireRole(Roles.Lead)).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/lessons", LessonsAsync).ForStudents();
        group.MapPost("/lessons", LearnAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/lessons/{id:guid}/withdraw", ForgetAsync).RequireAuthorization(Policies.Write);
        group.MapGet("/suppliers", SuppliersAsync).ForStudents();
        group
            .MapPut("/suppliers/{id:guid}", SetSupplierAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/suppliers/{id:guid}/withdraw", DropSupplierAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/stock", StockAsync).ForStudents();
        group.MapPut("/stock/{id:guid}", ShelveAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapPost("/stock/{id:guid}/withdraw", UnshelveAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
    }

    public static async Task<ShopSettings> SettingsAsync(this SleuthDb db, CancellationToken cancel) =>
        await db.Settings.AsNoTracking().SingleOrDefaultAsync(cancel) ?? new ShopSettings();

    public static Task<List<Instrument>> InstrumentsAsync(this SleuthDb db, CancellationToken cancel) =>
        db.Instruments.AsNoTracking().OrderBy(i => i.Name).ToListAsync(cancel);

    public static async Task<Supplies> SuppliesAsync(this SleuthDb db, ShopSettings settings, CancellationToken cancel) =>
        new(
            await db.Suppliers.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.Name).ToListAsync(cancel),
            await db
                .Stock.AsNoTracking()
                .Where(s => s.WithdrawnAt == null && s.Count > 0)
                .OrderBy(s => s.Number)
                .Select(s => new ShelfPart(s.Number, s.Kind, s.Fits, s.Grade, s.Count, s.Where))
                .ToListAsync(cancel),
            new Exchange(settings.Currency, settings.Rates)
        );

    /// <summary>Under this id the list of changes knows the one row of settings.</summary>
    internal static readonly Guid SettingsId = new("00000000-0000-0000-0000-000000000001");

    private static async Task<ShopSettings> SetAsync(
        SettingsEntry entry,
        Recorder recorder,
        Devices devices,
        CasebookKeeper keeper,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        if (entry.HoldSigner is not (Roles.Lead or Roles.Mechanic))
        {
            throw new ProblemException(Problem.Of("holdSigner", "server.cannot-sign", ("holdSigner", entry.HoldSigner)));
        }

        if (entry.OpenedBy?.FirstOrDefault(o => o.Value is not (Roles.Lead or Roles.Mechanic)).Value is { } stranger)
        {
            throw new ProblemException(Problem.Of("openedBy", "server.cannot-open", ("role", stranger)));
        }

        if (entry.Schools?.Check().ToArray() is { Length: > 0 } wrong)
        {
            throw new ProblemException(wrong);
        }

        if (entry.Currency is { } currency && !Currencies.Has(currency))
        {
            throw new ProblemException(Problem.Of("currency", "verdict.option.unknown-currency", ("currency", currency)));
        }

        if (entry.Rates?.FirstOrDefault(r => !Currencies.Has(r.Key) || r.Value is <= 0 or > 1_000_000) is { Key: { } code })
        {
            throw new ProblemException(Problem.Of("rates", "server.rate-cannot-be", ("currency", code)));
        }

        if (entry.HourRate is < 0 or > 100_000)
        {
            throw new ProblemException(Problem.Of("hourRate", "server.hour-rate-cannot-be"));
        }

        if (!string.IsNullOrWhiteSpace(entry.GaugeAddress))
        {
            devices.Parts(entry.GaugeAddress.Trim(), "gaugeAddress", "server.a-gauge");
        }

        if (!string.IsNullOrWhiteSpace(entry.PrinterAddress))
        {
            devices.Parts(entry.PrinterAddress.Trim(), "printerAddress", "server.a-label-printer");
        }

        var recorded = await db.Settings.SingleOrDefaultAsync(cancel);
        if ((recorded?.Version ?? 0) != entry.Version)
        {
            throw new ConflictException(entry, recorded ?? new ShopSettings());
        }

        db.Keep("settings", SettingsId, recorded is null ? null : ShopRecorder.Json(recorded));
        var settings = recorded ?? db.Settings.Add(new ShopSettings()).Entity;
        settings.HoldSigner = entry.HoldSigner;
        settings.OtherEyes = entry.OtherEyes ?? settings.OtherEyes;
        settings.OpenedBy = entry.OpenedBy ?? settings.OpenedBy;
        settings.Keeping = entry.Keeping;
        settings.KeepingBySet = entry.KeepingBySet;
        // What was taken over from closed cases is taken over and taken back by itself.
        settings.Schools = entry.Schools is { } schools ? schools with { Odds = settings.Schools.Odds } : settings.Schools;
        settings.GaugeAddress = entry.GaugeAddress?.Trim() ?? settings.GaugeAddress;
        settings.PrinterAddress = entry.PrinterAddress?.Trim() ?? settings.PrinterAddress;
        settings.Lengths = entry.Lengths ?? settings.Lengths;
        var told = settings.Language;
        settings.Language = entry.Language ?? settings.Language;
        settings.Currency = entry.Currency ?? settings.Currency;
        settings.Rates = entry.Rates ?? settings.Rates;
        settings.HourRate = entry.HourRate ?? settings.HourRate;
        settings.Version++;
        await db.SaveChangesAsync(cancel);
        if (settings.Language != told)
        {
            // Cases are found by words of the shop's language.
            await keeper.TellAnewAsync(db, cancel);
        }

        return settings;
    }

    private static Task<List<Lesson>> LessonsAsync(string script, SleuthDb db, CancellationToken cancel) =>
        db.Lessons.AsNoTracking().Where(l => l.Script == script && l.WithdrawnAt == null).OrderBy(l => l.At).ToListAsync(cancel);

    private static async Task<Lesson> LearnAsync(LessonEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var db = recorder.Db;
        if (await db.Lessons.AsNoTracking().SingleOrDefaultAsync(l => l.Id == entry.Id, cancel) is { } recorded)
        {
            return recorded;
        }

        if (knowledge.Script(entry.Script) is null)
        {
            throw new ProblemException(Problem.Of("script", "server.no-strip-script", ("script", entry.Script)));
        }

        if (string.IsNullOrWhiteSpace(entry.Text))
        {
            throw new ProblemException(Problem.Of("text", "server.lesson-needs-words"));
        }

        var lesson = new Lesson
        {
            Id = entry.Id,
            Script = entry.Script,
            Step = entry.Step,
            EngineName = entry.EngineName.Trim(),
            Text = entry.Text.Trim(),
            CaseId = entry.CaseId,
        };
        db.Lessons.Add(lesson);
        db.StampForShop("lesson", lesson, before: null);
        return await db.SaveOnceAsync(lesson, _ => true, _ => new ConflictException(entry, lesson), cancel);
    }

    /// <summary>Takes a lesson back; who did and when stays with it.</summary>
    private static async Task<Lesson> ForgetAsync(Guid id, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        var version =
            await db.Lessons.Where(l => l.Id == id).Select(l => (int?)l.Version).SingleOrDefaultAsync(cancel) ?? throw Problems.NotHere("lesson");
        return await db.WithdrawFromShopAsync<Lesson>("lesson", id, new Withdrawal("", version), cancel);
    }

    private static Task<List<Supplier>> SuppliersAsync(SleuthDb db, CancellationToken cancel) =>
        db.Suppliers.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.Name).ToListAsync(cancel);

    private static async Task<Supplier> SetSupplierAsync(Guid id, SupplierEntry entry, Recorder recorder, Devices devices, CancellationToken cancel)
    {
        var db = recorder.Db;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.Shelf})", cancel);
        var supplier = await db.Suppliers.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (supplier is not null && supplier.Version != entry.Version)
        {
            return entry.Version == 0 ? supplier : throw new ConflictException(entry, supplier);
        }

        if (!string.IsNullOrWhiteSpace(entry.Address))
        {
            devices.Parts(entry.Address.Trim(), "address", "server.a-supplier");
        }

        var before = supplier is null ? null : ShopRecorder.Json(supplier);
        supplier ??= db.Suppliers.Add(new Supplier { Id = id }).Entity;
        supplier.Name = entry.Name.Trim();
        supplier.Kind = entry.Kind;
        supplier.Address = entry.Address.Trim();
        supplier.Currency = entry.Currency.Trim().ToUpperInvariant();
        supplier.Freight = entry.Freight;
        supplier.Remarks = entry.Remarks.Trim();
        if (supplier.Check(await SuppliersAsync(db, cancel)).ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        db.StampForShop(SupplierRecord, supplier, before);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return supplier;
    }

    private static Task<Supplier> DropSupplierAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<Supplier>(SupplierRecord, id, withdrawal, cancel);

    private const string SupplierRecord = "supplier";

    private static Task<List<StockPart>> StockAsync(SleuthDb db, CancellationToken cancel) =>
        db.Stock.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.Number).ToListAsync(cancel);

    private static async Task<StockPart> ShelveAsync(Guid id, StockEntry entry, Recorder recorder, CancellationToken cancel)
    {
        if (PartKinds.Find(entry.Kind) is null)
        {
            throw new ProblemException(Problem.Of("kind", "server.no-kind-of-part", ("kind", entry.Kind)));
        }

        if (entry.Count is < 0 or > 10_000)
        {
            throw new ProblemException(Problem.Of("count", "server.part-cannot-lie-shelf", ("entry", entry.Count)));
        }

        var db = recorder.Db;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Numbers are given one after the other, so that two who shelve at once get two tags.
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.Shelf})", cancel);
        var part = await db.Stock.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (part is not null && part.Version != entry.Version)
        {
            return entry.Version == 0 ? part : throw new ConflictException(entry, part);
        }

        var before = part is null ? null : ShopRecorder.Json(part);
        part ??= db.Stock.Add(new StockPart { Id = id, Number = (await db.Stock.MaxAsync(s => (int?)s.Number, cancel) ?? 0) + 1 }).Entity;
        part.Kind = entry.Kind;
        part.Fits = entry.Fits.Trim();
        part.Grade = entry.Grade.Trim();
        part.Count = entry.Count;
        part.Where = entry.Where.Trim();
        part.Remarks = entry.Remarks.Trim();
        db.StampForShop(Kind, part, before);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return part;
    }

    private static Task<StockPart> UnshelveAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<StockPart>(
            Kind,
            id,
            withdrawal,
            cancel,
            part => part.Remarks = string.Join(" · ", new[] { part.Remarks, withdrawal.Why.Trim() }.Where(r => r.Length > 0))
        );

    private const string Kind = "part-on-the-shelf";
}
