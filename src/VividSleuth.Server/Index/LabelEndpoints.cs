using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Index;

public sealed record LabelOrder(Guid Id, string Places);

public sealed record PrinterView(int Left, int Roll, IReadOnlyList<LabelJob> Jobs);

public sealed record ScanAnswer(string Place, string Words);

/// <summary>Labels as PDF, the shop's label printer (a simulated one ships with the program) and the reading of tags.</summary>
public static class LabelEndpoints
{
    public static void MapLabels(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("index");
        group.MapGet("/label-sheets", () => LabelSheet.All);
        group.MapGet("/cases/{caseId:guid}/labels", PdfAsync).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        group.MapGet("/cases/{caseId:guid}/scan", ScanAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/printer", ViewAsync);
        group.MapPost("/printer/paper", LoadAsync).RequireAuthorization(Policies.Write);
        group.MapPost("/cases/{caseId:guid}/label-jobs", OrderAsync).RequireAuthorization(Policies.Write);
        group.MapPost("/label-jobs/{id:guid}/cancel", CancelAsync).RequireAuthorization(Policies.Write);
    }

    private static async Task<IResult> PdfAsync(Guid caseId, string places, string sheet, SleuthDb db, CancellationToken cancel)
    {
        var (table, title) = await CaseAsync(caseId, db, cancel);
        var pdf = LabelPdf.Draw(LabelSheet.Get(sheet), LabelSheet.Places(places, table), caseId, title);
        return Results.File(pdf, "application/pdf");
    }

    private static async Task<ScanAnswer> ScanAsync(Guid caseId, string tag, SleuthDb db, CancellationToken cancel)
    {
        var (table, _) = await CaseAsync(caseId, db, cancel);
        var place = table.Parse(TagCode.Read(tag, caseId), "tag");
        return new ScanAnswer(place.Code, place.Words);
    }

    private static async Task<LabelJob> OrderAsync(Guid caseId, LabelOrder order, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        if (await db.LabelJobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == order.Id, cancel) is { } standing)
        {
            return standing;
        }

        var (table, _) = await CaseAsync(caseId, db, cancel);
        var job = new LabelJob
        {
            Id = order.Id,
            CaseId = caseId,
            Places = [.. LabelSheet.Places(order.Places, table).Select(p => p.Code)],
            At = DateTimeOffset.UtcNow,
            By = db.Writer,
        };
        db.LabelJobs.Add(job);
        await db.SaveChangesAsync(cancel);
        await PrintAsync(db, cancel);
        return await db.LabelJobs.AsNoTracking().SingleAsync(j => j.Id == order.Id, cancel);
    }

    private static async Task<PrinterView> LoadAsync(SleuthDb db, CancellationToken cancel)
    {
        await PrintAsync(db, cancel, newRoll: true);
        return await ViewAsync(db, cancel);
    }

    private static async Task<PrinterView> ViewAsync(SleuthDb db, CancellationToken cancel)
    {
        var printer = await db.Printers.AsNoTracking().SingleOrDefaultAsync(cancel) ?? new LabelPrinter();
        var jobs = await db.LabelJobs.AsNoTracking().OrderByDescending(j => j.At).Take(20).ToListAsync(cancel);
        return new PrinterView(printer.Left, LabelPrinter.FullRoll, jobs);
    }

    private static async Task<LabelJob> CancelAsync(Guid id, SleuthDb db, CancellationToken cancel)
    {
        var job = await db.LabelJobs.SingleOrDefaultAsync(j => j.Id == id, cancel) ?? throw Problems.NotHere("label job");
        if (job.State is LabelState.Waiting or LabelState.PaperOut)
        {
            job.State = LabelState.Cancelled;
            await db.SaveChangesAsync(cancel);
        }

        return job;
    }

    /// <summary>
    /// The simulated printer: prints what waits, the oldest first, until the roll is empty. One at a time over all instances; what
    /// is left over is printed when a new roll is put in.
    /// </summary>
    private static async Task PrintAsync(SleuthDb db, CancellationToken cancel, bool newRoll = false)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(7100419)", cancel);
        var printer = await db.Printers.SingleOrDefaultAsync(cancel) ?? db.Printers.Add(new LabelPrinter()).Entity;
        printer.Left = newRoll ? LabelPrinter.FullRoll : printer.Left;
        var waiting = await db
            .LabelJobs.Where(j => j.State == LabelState.Waiting || j.State == LabelState.PaperOut)
            .OrderBy(j => j.At)
            .ThenBy(j => j.Id)
            .ToListAsync(cancel);
        foreach (var job in waiting)
        {
            var now = Math.Min(printer.Left, job.Places.Count - job.Printed);
            printer.Left -= now;
            job.Printed += now;
            job.State = job.Printed == job.Places.Count ? LabelState.Printed : LabelState.PaperOut;
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static async Task<(AddressTable Table, string Title)> CaseAsync(Guid caseId, SleuthDb db, CancellationToken cancel)
    {
        var found =
            await db.Cases.AsNoTracking().Where(c => c.Id == caseId).Select(c => new { c.Layout, c.Title }).SingleOrDefaultAsync(cancel)
            ?? throw Problems.NotHere("case");
        return (new AddressTable(Engine.From(found.Layout)), found.Title);
    }
}
