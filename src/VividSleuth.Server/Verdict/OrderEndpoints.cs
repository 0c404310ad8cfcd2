using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Words;

namespace VividSleuth.Server.Verdict;

public sealed record OrderLineEntry(
    Guid Id,
    int Version,
    string Need,
    SupplierKind Kind,
    string Item,
    string What,
    string Course,
    IReadOnlyList<string> Places,
    string Step,
    decimal Quantity,
    string Supplier,
    string PartNumber,
    decimal? Price,
    string Currency,
    decimal? Days,
    IReadOnlyList<WantedFigure> Wants,
    string Remarks
);

public sealed record OrderMoveEntry(
    Guid Id,
    Guid Line,
    OrderStage To,
    DateOnly? Day,
    decimal? Count,
    string Label,
    string Reference,
    string Note,
    IReadOnlyDictionary<string, string> Reasons
);

public sealed record OfferEntry(
    Guid Id,
    string Supplier,
    string Item,
    string Course,
    string Step,
    Guid? Line,
    string PartNumber,
    decimal Price,
    string Currency,
    int Pack,
    decimal Days,
    bool InStock,
    string Remarks
);

/// <summary>Asks a supplier for prices.</summary>
/// <param name="Id">Of the question: sent again it adds nothing.</param>
public sealed record AskEntry(Guid Id, Guid Supplier, IReadOnlyList<Guid> Lines);

/// <param name="Reasons">By gate, why it goes although the gate is shut.</param>
public sealed record SendEntry(Guid Id, Guid Supplier, IReadOnlyList<Guid> Lines, IReadOnlyDictionary<string, string> Reasons);

/// <summary>Takes over a way to share the lines out.</summary>
public sealed record TakeEntry(SplitBy By);

public sealed record FollowEntry(Guid Id, Guid Supplier);

/// <summary>What a supplier said.</summary>
/// <param name="Moves">Lines that went on.</param>
/// <param name="Offers">Offers that were made.</param>
/// <param name="Without">Lines for which none was.</param>
public sealed record SupplierSaid(IReadOnlyList<OrderMove> Moves, IReadOnlyList<SupplyOffer> Offers, IReadOnlyList<Guid> Without);

/// <summary>The order of a case: its lines, how far each is, offers, and the line to suppliers.</summary>
public static class OrderEndpoints
{
    private const long MostBytes = 8_000_000;

    public static void MapOrder(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/order").WithTags("verdict").RequireAuthorization(Policies.Write);
        group.MapPost("/lines", AddLineAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/lines/together", AddLinesAsync)
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes))
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPut("/lines/{id:guid}", ChangeLineAsync)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<OrderLine>("/lines");
        group.MapPost("/moves", MoveAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<OrderMove>("/moves");
        group.MapPost("/offers", AddOfferAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<SupplyOffer>("/offers");
        group.MapPost("/ask", AskAsync).NotForStudents().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/take", TakeAsync).NotForStudents().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/send", SendAsync).NotForStudents().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/follow", FollowAsync).NotForStudents().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        var read = api.MapGroup("/cases/{caseId:guid}").WithTags("verdict");
        read.MapGet("/order.csv", CsvAsync).Produces<string>(contentType: "text/csv");
        read.MapGet("/order.xlsx", XlsxAsync).Produces<byte[]>(contentType: Xlsx);
        read.MapGet("/order.pdf", PdfAsync).Produces(StatusCodes.Status200OK, contentType: Pdf);
        read.MapGet("/shop-order.pdf", ShopPdfAsync)
            .Produces(StatusCodes.Status200OK, contentType: Pdf)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private const string Xlsx = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
    private const string Pdf = "application/pdf";

    private static Task<OrderLine> AddLineAsync(Guid caseId, OrderLineEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var line = New(entry);
        return recorder.AddCheckedAsync(caseId, line, r => [.. Room(r, 1), .. OrderRules.Check(line, r.Table, r.Knowledge)], cancel);
    }

    private static Task<IReadOnlyList<OrderLine>> AddLinesAsync(
        Guid caseId,
        IReadOnlyList<OrderLineEntry> entries,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var lines = entries.Select(New).ToArray();
        return recorder.AddManyCheckedAsync(
            caseId,
            lines,
            r => [.. Room(r, lines.Length), .. lines.SelectMany(l => OrderRules.Check(l, r.Table, r.Knowledge))],
            cancel
        );
    }

    private static Problem[] Room(CaseReader reader, int more) =>
        reader.Case.OrderLines.Count(l => l.Stands()) + more > OrderRules.MostLines
            ? [Problem.Of("lines", "verdict.order.so-many-lines", ("most", OrderRules.MostLines))]
            : [];

    private static Task<OrderLine> ChangeLineAsync(Guid caseId, Guid id, OrderLineEntry entry, Recorder recorder, CancellationToken cancel) =>
        recorder.UpdateCheckedAsync<OrderLine>(
            caseId,
            id,
            entry.Version,
            entry,
            line => Fill(line, entry),
            (r, line) => OrderRules.Check(line, r.Table, r.Knowledge),
            cancel
        );

    private static OrderLine New(OrderLineEntry entry)
    {
        var line = new OrderLine { Id = entry.Id };
        Fill(line, entry);
        return line;
    }

    private static void Fill(OrderLine line, OrderLineEntry entry)
    {
        line.Need = entry.Need;
        line.Kind = entry.Kind;
        line.Item = entry.Item;
        line.What = entry.What.Trim();
        line.Course = entry.Course;
        line.Places = [.. entry.Places.Distinct(StringComparer.Ordinal)];
        line.Step = entry.Step.Trim();
        line.Quantity = entry.Quantity;
        line.Supplier = entry.Supplier.Trim();
        line.PartNumber = entry.PartNumber.Trim();
        line.Price = entry.Price;
        line.Currency = entry.Currency.Trim().ToUpperInvariant();
        line.Days = entry.Days;
        line.Wants = [.. entry.Wants];
        line.Remarks = entry.Remarks.Trim();
    }

    private static Task<OrderMove> MoveAsync(Guid caseId, OrderMoveEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var move = new OrderMove
        {
            Id = entry.Id,
            Line = entry.Line,
            To = entry.To,
            Day = entry.Day,
            Count = entry.Count,
            Label = entry.Label.Trim(),
            Reference = entry.Reference.Trim(),
            Note = entry.Note.Trim(),
            Reasons = Reasons(entry.Reasons),
        };
        return recorder.AddCheckedAsync(caseId, move, r => r.Orders.Check(move, r.Schools.Ordering), cancel);
    }

    private static Dictionary<string, string> Reasons(IReadOnlyDictionary<string, string> given) =>
        given.Where(r => !string.IsNullOrWhiteSpace(r.Value)).ToDictionary(r => r.Key, r => r.Value.Trim(), StringComparer.Ordinal);

    private static Task<SupplyOffer> AddOfferAsync(Guid caseId, OfferEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var offer = new SupplyOffer
        {
            Id = entry.Id,
            Supplier = entry.Supplier.Trim(),
            Item = entry.Item,
            Course = entry.Course,
            Step = entry.Step.Trim(),
            Line = entry.Line,
            PartNumber = entry.PartNumber.Trim(),
            Price = entry.Price,
            Currency = entry.Currency.Trim().ToUpperInvariant(),
            Pack = entry.Pack,
            Days = entry.Days,
            InStock = entry.InStock,
            Remarks = entry.Remarks.Trim(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            offer,
            r =>
                [
                    .. offer.Check(),
                    .. offer.Line is { } line && r.Case.OrderLines.All(l => l.Id != line)
                        ? [Problem.Of("line", "verdict.order.no-such-line")]
                        : Array.Empty<Problem>(),
                ],
            cancel
        );
    }

    private static async Task<SupplierSaid> AskAsync(
        Guid caseId,
        AskEntry entry,
        Recorder recorder,
        CaseDesk desk,
        SupplierLine suppliers,
        CancellationToken cancel
    )
    {
        var (reader, supplier, lines) = await OpenAsync(caseId, entry.Supplier, entry.Lines, desk, cancel);
        var said = await suppliers.AskAsync(supplier, new SupplierAsks(reader.Case.EngineName, [.. lines.Select(Ask)]), cancel);
        var byId = lines.ToDictionary(l => l.Id);
        var offers = said
            .Offers.Where(o => byId.ContainsKey(o.Line))
            .DistinctBy(o => o.Line)
            .Select(o => new SupplyOffer
            {
                Id = DerivedId.Of(entry.Id, $"offer/{o.Line}"),
                Supplier = supplier.Name,
                Item = byId[o.Line].Item,
                Course = byId[o.Line].Course,
                Step = byId[o.Line].Step,
                Line = o.Line,
                PartNumber = o.PartNumber.Trim(),
                Price = o.Price,
                Currency = o.Currency.Trim().ToUpperInvariant(),
                Pack = o.Pack,
                Days = o.Days,
                InStock = o.InStock,
                Remarks = o.Remarks.Trim(),
            })
            .ToArray();
        await recorder.AddManyCheckedAsync(caseId, offers, _ => offers.SelectMany(o => o.Check()), cancel);
        var moves = reader
            .Order.Lines.Where(s => byId.ContainsKey(s.Line) && s.Stage == OrderStage.Wanted)
            .Select(s => new OrderMove
            {
                Id = DerivedId.Of(entry.Id, $"asked/{s.Line}"),
                Line = s.Line,
                To = OrderStage.Asked,
                Note = supplier.Name,
            })
            .ToArray();
        // Whoever else asked meanwhile has moved it already: that is no harm.
        await recorder.AddManyAsync(caseId, moves, cancel);
        return new SupplierSaid(moves, offers, [.. lines.Select(l => l.Id).Except(offers.Select(o => o.Line!.Value))]);
    }

    private static SupplierAsk Ask(OrderLine line) => new(line.Id, line.Item, line.Course, line.Step, line.What, line.PartNumber, line.Quantity);

    private static async Task<(CaseReader Reader, Supplier Supplier, OrderLine[] Lines)> OpenAsync(
        Guid caseId,
        Guid supplierId,
        IReadOnlyList<Guid> ids,
        CaseDesk desk,
        CancellationToken cancel
    )
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var supplier = reader.Supplies.Suppliers.FirstOrDefault(s => s.Id == supplierId) ?? throw Problems.NotHere("supplier");
        if (supplier.Address.Length == 0)
        {
            throw new ProblemException(Problem.Of("supplier", "server.supplier-has-no-address", ("name", supplier.Name)));
        }

        var asked = ids.ToHashSet();
        var lines = reader.Case.OrderLines.Where(l => l.Stands() && asked.Contains(l.Id)).ToArray();
        return lines.Length < asked.Count || lines.Length == 0
            ? throw new ProblemException(Problem.Of("lines", "verdict.order.no-such-line"))
            : (reader, supplier, lines);
    }

    /// <summary>Each line takes its supplier, price and days from the offer that the way takes for it.</summary>
    private static async Task<IReadOnlyList<OrderLine>> TakeAsync(
        Guid caseId,
        TakeEntry entry,
        Recorder recorder,
        CaseDesk desk,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        var split =
            reader.Order.Splits.FirstOrDefault(s => s.By == entry.By) ?? throw new ProblemException(Problem.Of("by", "server.no-offers-to-take"));
        var offers = reader.Case.Offers.ToDictionary(o => o.Id);
        var taken = split.Taken.ToDictionary(t => t.Line);
        var ids = taken.Keys.ToArray();
        var lines = await db.Set<OrderLine>().Where(l => l.CaseId == caseId && ids.Contains(l.Id)).ToListAsync(cancel);
        foreach (var line in lines)
        {
            var offer = offers[taken[line.Id].Offer];
            (line.Supplier, line.PartNumber, line.Currency, line.Days) = (offer.Supplier, offer.PartNumber, offer.Currency, offer.Days);
            // Of one piece, so that the line costs what the packs cost.
            line.Price = offer.Price * taken[line.Id].Packs / line.Quantity;
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return lines;
    }

    private static async Task<SupplierSaid> SendAsync(
        Guid caseId,
        SendEntry entry,
        Recorder recorder,
        CaseDesk desk,
        SupplierLine suppliers,
        CancellationToken cancel
    )
    {
        var (reader, supplier, lines) = await OpenAsync(caseId, entry.Supplier, entry.Lines, desk, cancel);
        OrderMove Moved(Guid line, OrderStage to) =>
            new()
            {
                Id = DerivedId.Of(entry.Id, $"{to}/{line}"),
                Line = line,
                To = to,
                Reasons = to == OrderStage.Ordered ? Reasons(entry.Reasons) : [],
            };
        var ordered = lines.Select(l => Moved(l.Id, OrderStage.Ordered)).ToArray();
        var standing = reader.Case.OrderMoves.Where(m => ordered.Any(o => o.Id == m.Id)).ToArray();
        if (standing.Length < ordered.Length)
        {
            if (Array.Find(lines, l => l.Supplier.Length > 0 && l.Supplier != supplier.Name) is { } other)
            {
                throw new ProblemException(
                    Problem.Of("lines", "server.line-of-another-supplier", ("what", other.What), ("other", other.Supplier), ("name", supplier.Name))
                );
            }

            // Refused before anything is sent: a supplier takes nothing back because a gate was shut.
            if (ordered.SelectMany(m => reader.Orders.Check(m, reader.Schools.Ordering)).ToArray() is { Length: > 0 } problems)
            {
                throw new ProblemException(problems);
            }
        }

        var said = await suppliers.OrderAsync(supplier, new SupplierOrder(entry.Id, reader.Case.EngineName, [.. lines.Select(Ask)]), cancel);
        var days = said.Lines.DistinctBy(l => l.Id).ToDictionary(l => l.Id);
        foreach (var move in ordered)
        {
            (move.Reference, move.Day) = (said.Reference, days.GetValueOrDefault(move.Line)?.Day);
        }

        var expected = ordered
            .Where(m => m.Day is not null)
            .Select(m =>
            {
                var move = Moved(m.Line, OrderStage.Expected);
                (move.Reference, move.Day) = (said.Reference, m.Day);
                move.Note = Told(days[m.Line]);
                return move;
            })
            .ToArray();
        var moves = await recorder.AddManyAsync(caseId, [.. ordered, .. expected], cancel);
        return new SupplierSaid(moves, [], []);
    }

    /// <summary>What there is to say beside the day.</summary>
    private static string Told(SupplierLineState line) => line.State is "backOrder" or "sent" or "delivered" ? line.State : "";

    private static string Note(CaseReader reader, Guid line) =>
        reader.Case.OrderMoves.Where(m => m.Stands() && m.Line == line).MaxBy(m => m.At)?.Note ?? "";

    /// <summary>What the supplier now says of what is on its way; a line that is told another day is expected then.</summary>
    private static async Task<SupplierSaid> FollowAsync(
        Guid caseId,
        FollowEntry entry,
        Recorder recorder,
        CaseDesk desk,
        SupplierLine suppliers,
        CancellationToken cancel
    )
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var states = reader
            .Order.Lines.Where(s => s.Stage is OrderStage.Ordered or OrderStage.Expected && s.Reference.Length > 0)
            .ToDictionary(s => s.Line);
        var supplier = reader.Supplies.Suppliers.FirstOrDefault(s => s.Id == entry.Supplier) ?? throw Problems.NotHere("supplier");
        var here = reader
            .Case.OrderLines.Where(l => l.Stands() && states.ContainsKey(l.Id) && l.Supplier == supplier.Name)
            .Select(l => l.Id)
            .ToArray();
        var moves = new List<OrderMove>();
        foreach (var reference in here.Select(id => states[id].Reference).Distinct(StringComparer.Ordinal))
        {
            var said = await suppliers.FollowAsync(supplier, reference, cancel);
            moves.AddRange(
                said.Lines.Where(l =>
                        here.Contains(l.Id)
                        && states[l.Id].Reference == reference
                        && (states[l.Id].Expected != l.Day || Note(reader, l.Id) != Told(l))
                    )
                    .Select(l => new OrderMove
                    {
                        Id = DerivedId.Of(entry.Id, $"follow/{l.Id}"),
                        Line = l.Id,
                        To = OrderStage.Expected,
                        Day = l.Day,
                        Reference = reference,
                        Note = Told(l),
                    })
            );
        }

        await recorder.AddManyCheckedAsync(caseId, moves, r => moves.SelectMany(m => r.Orders.Check(m, r.Schools.Ordering)), cancel);
        return new SupplierSaid(moves, [], []);
    }

    private static async Task<IResult> CsvAsync(Guid caseId, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        return Results.File(Encoding.UTF8.GetBytes(OrderTable.Csv(reader.Case.OrderLines, reader.Order)), "text/csv; charset=utf-8", "order.csv");
    }

    private static async Task<IResult> XlsxAsync(Guid caseId, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var rows = OrderTable
            .Rows(reader.Case.OrderLines, reader.Order)
            .Select(row => OrderTable.Columns.Zip(row).ToDictionary(x => x.First, x => x.Second))
            .DefaultIfEmpty(OrderTable.Columns.ToDictionary(n => n, _ => (object?)null));
        using var stream = new MemoryStream();
        await stream.SaveAsAsync(new Dictionary<string, object> { ["Order"] = rows }, cancellationToken: cancel);
        return Results.File(stream.ToArray(), Xlsx, "order.xlsx");
    }

    private static async Task<IResult> PdfAsync(Guid caseId, CaseDesk desk, Sentences sentences, CancellationToken cancel) =>
        Results.File(OrderPdf.List(await desk.OpenAsync(caseId, cancel), sentences), Pdf);

    /// <param name="supplier">Name of the shop; without one all that is asked of any.</param>
    private static async Task<IResult> ShopPdfAsync(Guid caseId, string? supplier, CaseDesk desk, Sentences sentences, CancellationToken cancel) =>
        Results.File(OrderPdf.ForShop(await desk.OpenAsync(caseId, cancel), supplier, sentences), Pdf);
}
