using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Index;

public sealed record LabelOrder(Guid Id, string Places);

/// <summary>The shop's label printer as it last spoke, and what was sent to it.</summary>
/// <param name="Address">Host and port; empty where the shop has none.</param>
/// <param name="Trouble">Why nothing was printed at the last try; empty where all went well.</param>
public sealed record PrinterView(string Address, string Name, int Left, Fact Trouble, DateTimeOffset? At, IReadOnlyList<LabelJob> Jobs);

/// <param name="Place">Address of the part, or the word on the bag.</param>
public sealed record ScanAnswer(string Place, Fact Words, bool IsBag);

/// <summary>Labels as PDF, the shop's label printer in the network, and the reading of tags.</summary>
public static class LabelEndpoints
{
    public static void MapLabels(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("index");
        group.MapGet("/label-pages", () => LabelPage.All);
        group.MapGet("/cases/{caseId:guid}/labels", PdfAsync).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        group.MapGet("/cases/{caseId:guid}/scan", ScanAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapGet("/stock/labels", ShelfPdfAsync)
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/printer", ViewAsync).NotForStudents();
        group
            .MapPost("/printer/again", AgainAsync)
            .NotForStudents()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/cases/{caseId:guid}/label-jobs", OrderAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/label-jobs/{id:guid}/cancel", CancelAsync).NotForStudents().RequireAuthorization(Policies.Write);
    }

    private static async Task<IResult> PdfAsync(Guid caseId, string places, string page, CaseDesk desk, Sentences sentences, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var pdf = LabelPdf.Draw(
            LabelPage.Get(page),
            LabelPage.Labels(places, reader.Table, reader.Case.Stows),
            code => TagCode.Write(caseId, code),
            reader.Case.Prefix,
            reader.Case.Title,
            sentences
        );
        return Results.File(pdf, "application/pdf");
    }

    /// <summary>Labels of parts on the shelf.</summary>
    /// <param name="numbers">Numbers with commas between; all that lie there where none is named.</param>
    private static async Task<IResult> ShelfPdfAsync(string? numbers, string page, SleuthDb db, Sentences sentences, CancellationToken cancel)
    {
        var asked = (numbers ?? "").Split([',', ' '], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        var known = await db.Stock.AsNoTracking().Where(p => p.WithdrawnAt == null).OrderBy(p => p.Number).ToListAsync(cancel);
        var labels = known
            .Where(p => asked.Length == 0 || asked.Contains(TagCode.ShelfMark(p.Number), StringComparer.OrdinalIgnoreCase))
            .Select(p => new Label(
                TagCode.ShelfMark(p.Number),
                Fact.Of("index.on-the-shelf", ("kind", Fact.Of($"part.{p.Kind}")), ("grade", p.Grade), ("fits", p.Fits))
            ))
            .Take(LabelPage.MostLabels)
            .ToArray();
        if (labels.Length == 0)
        {
            throw new ProblemException(Problem.Of("numbers", "index.nothing-on-the-shelf"));
        }

        var pdf = LabelPdf.Draw(
            LabelPage.Get(page),
            labels,
            code => TagCode.Shelf(int.Parse(code[1..], CultureInfo.InvariantCulture)),
            "",
            sentences.Say(Fact.Of("index.shelf")),
            sentences
        );
        return Results.File(pdf, "application/pdf");
    }

    private static async Task<ScanAnswer> ScanAsync(Guid caseId, string tag, CaseDesk desk, SleuthDb db, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var read = await db.ReadTagAsync(tag, reader.Case, cancel);
        if (StowRules.IsCode(read))
        {
            return StowRules.Find(read, reader.Case.Stows) is { } stow
                ? new ScanAnswer(stow.Code, Label.Of(stow).Words, IsBag: true)
                : throw new ProblemException(Problem.Of("tag", "index.no-such-bag", ("code", read.ToUpperInvariant())));
        }

        var place = reader.Table.Parse(read, "tag");
        return new ScanAnswer(place.Code, place.Words, IsBag: false);
    }

    private static async Task<LabelJob> OrderAsync(
        Guid caseId,
        LabelOrder order,
        Recorder recorder,
        CaseDesk desk,
        Devices devices,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        if (await db.LabelJobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == order.Id, cancel) is { } recorded)
        {
            return recorded;
        }

        var reader = await desk.OpenAsync(caseId, cancel);
        string[] places = [.. LabelPage.Labels(order.Places, reader.Table, reader.Case.Stows).Select(l => l.Code)];
        await AddressAsync(db, devices, cancel);
        var job = new LabelJob
        {
            Id = order.Id,
            CaseId = caseId,
            Places = [.. places],
            At = db.Now(),
            By = db.Writer,
        };
        db.LabelJobs.Add(job);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // The same request, sent twice at once: the other one won and prints.
            db.ChangeTracker.Clear();
            return await db.LabelJobs.AsNoTracking().SingleAsync(j => j.Id == order.Id, cancel);
        }

        await PrintAsync(db, devices, cancel);
        return await db.LabelJobs.AsNoTracking().SingleAsync(j => j.Id == order.Id, cancel);
    }

    private static async Task<PrinterView> AgainAsync(SleuthDb db, Devices devices, CancellationToken cancel)
    {
        await PrintAsync(db, devices, cancel);
        return await ViewAsync(db, cancel);
    }

    private static async Task<PrinterView> ViewAsync(SleuthDb db, CancellationToken cancel)
    {
        var printer = await db.Printers.AsNoTracking().SingleOrDefaultAsync(cancel) ?? new LabelPrinter();
        var jobs = await db.LabelJobs.AsNoTracking().OrderByDescending(j => j.At).Take(20).ToListAsync(cancel);
        var address = (await db.SettingsAsync(cancel)).PrinterAddress;
        // Rows written before kept the sentence itself.
        var trouble = printer.Trouble.Contains(' ') || printer.Trouble.Length == 0 ? Fact.Text(printer.Trouble) : Fact.Of(printer.Trouble);
        return new PrinterView(address, printer.Name, printer.Left, trouble, printer.At, jobs);
    }

    /// <exception cref="Core.ProblemException">The shop has no printer, or the operator has not allowed its address.</exception>
    private static async Task<(string Host, int Port)> AddressAsync(SleuthDb db, Devices devices, CancellationToken cancel)
    {
        var address = (await db.SettingsAsync(cancel)).PrinterAddress;
        return address.Length > 0
            ? devices.Parts(address, "printerAddress", "server.a-label-printer")
            : throw new Core.ProblemException(Core.Problem.Of("printerAddress", "server.no-printer-set"));
    }

    private static async Task<LabelJob> CancelAsync(Guid id, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        var job = await db.LabelJobs.SingleOrDefaultAsync(j => j.Id == id, cancel) ?? throw Problems.NotHere("label-job");
        if (job.State is LabelState.Waiting or LabelState.PaperOut)
        {
            db.Keep("label-job", job.Id, ShopRecorder.Json(job));
            job.State = LabelState.Cancelled;
            await db.SaveChangesAsync(cancel);
        }

        return job;
    }

    /// <summary>
    /// Sends what waits to the printer, the oldest first, until all is out, the roll is empty or the printer is gone. One at a time over all
    /// instances. A label counts as printed when the printer has said so.
    /// </summary>
    private static async Task PrintAsync(SleuthDb db, Devices devices, CancellationToken cancel)
    {
        var (host, port) = await AddressAsync(db, devices, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.Printer})", cancel);
        var printer = await db.Printers.SingleOrDefaultAsync(cancel) ?? db.Printers.Add(new LabelPrinter()).Entity;
        var waiting = await db
            .LabelJobs.Where(j => j.State == LabelState.Waiting || j.State == LabelState.PaperOut)
            .OrderBy(j => j.At)
            .ThenBy(j => j.Id)
            .ToListAsync(cancel);
        await using var line = await PrinterLine.OpenAsync(host, port, cancel);
        printer.At = db.Now();
        printer.Trouble = line is null ? "server.printer-does-not-answer" : "";
        foreach (var job in waiting)
        {
            if (line is null || printer.Trouble.Length > 0)
            {
                break;
            }

            var of = await db.Cases.Where(c => c.Id == job.CaseId).Select(c => new { c.Title, c.Prefix }).SingleOrDefaultAsync(cancel);
            var (title, prefix) = (of?.Title ?? "", of?.Prefix ?? "");
            while (job.Printed < job.Places.Count && printer.Trouble.Length == 0)
            {
                var place = job.Places[job.Printed];
                switch (await line.PrintAsync(job.Id, job.Printed + 1, TagCode.Mark(prefix, place), TagCode.Write(job.CaseId, place), title, cancel))
                {
                    case PrinterAnswer.Printed:
                        job.Printed++;
                        break;
                    case PrinterAnswer.PaperOut:
                        job.State = LabelState.PaperOut;
                        printer.Trouble = "server.roll-is-empty";
                        break;
                    default:
                        printer.Trouble = "server.printer-went-silent";
                        break;
                }
            }

            job.State = job.Printed == job.Places.Count ? LabelState.Printed : job.State;
        }

        if (line is not null)
        {
            (printer.Name, printer.Left) = (line.Name, line.Left);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
