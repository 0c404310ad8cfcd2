using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Words;

namespace VividSleuth.Server.Gauge;

/// <summary>One line of a budget as it is shown.</summary>
/// <param name="Standard">Standard uncertainty in the figure, base unit; 0 where an error of one instrument has cancelled.</param>
/// <param name="Share">Share of the variance.</param>
/// <param name="Freedom">Degrees of freedom; null where they are many.</param>
public sealed record BudgetRow(Fact Name, double Standard, double Share, double? Freedom);

/// <summary>The budget of a figure, line by line (GUM).</summary>
/// <param name="Freedom">Effective degrees of freedom; null where they are many.</param>
/// <param name="Factor">Coverage factor.</param>
public sealed record BudgetView(
    SheetFigure Figure,
    string How,
    IReadOnlyList<BudgetRow> Lines,
    double Standard,
    double? Freedom,
    double Factor,
    double Expanded
);

/// <summary>An instrument of the shop and what speaks against it for one task; those that suit come first.</summary>
public sealed record InstrumentChoice(string Name, IReadOnlyList<Unsuited> Against);

/// <summary>Film of one big end.</summary>
public sealed record FilmView(string Place, IReadOnlyList<ReckonerResult> Results);

/// <summary>What came of a table that was read in.</summary>
/// <param name="Added">Rows entered.</param>
/// <param name="Bad">Rows that were not.</param>
/// <param name="Already">Rows that stand in the case already: the same table was sent before.</param>
public sealed record TableTaken(int Added, int Bad, IReadOnlyList<RowProblem> Problems, int Already = 0);

/// <summary>A figure that was taken in, and how its place stands with it: who walks a round needs ask for nothing more.</summary>
/// <param name="Figures">Of the same characteristic at the same place.</param>
public sealed record ReadingTaken(Reading Reading, IReadOnlyList<SheetFigure> Figures);

public static class GaugeEndpoints
{
    private const long MostTableBytes = 8_000_000;

    public static void MapGauge(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("gauge").RequireAuthorization(Policies.Write);
        group.MapPost("/readings", AddReadingAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Reading>("/readings");
        group.MapPost("/limits", AddLimitAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Limit>("/limits");
        var table = new RequestSizeLimitAttribute(4 * MostTableBytes);
        group
            .MapPost("/gauge/limits.csv", TakeLimitsAsync)
            .WithMetadata(table)
            .Accepts<string>("text/csv")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/gauge/readings.csv", TakeReadingsAsync)
            .WithMetadata(table)
            .Accepts<string>("text/csv")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        var read = api.MapGroup("/cases/{caseId:guid}/gauge").WithTags("gauge");
        read.MapGet("/budget", BudgetAsync).ProducesProblem(StatusCodes.Status404NotFound);
        read.MapGet("/instruments", SuitedAsync);
        read.MapGet("/film", FilmAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        read.MapGet("/limits.csv", LimitsCsvAsync).Produces<string>(contentType: "text/csv");
        read.MapGet("/readings.csv", ReadingsCsvAsync).Produces<string>(contentType: "text/csv");
        read.MapGet("/sheet.csv", SheetCsvAsync).Produces<string>(contentType: "text/csv");
        read.MapGet("/sheet.xlsx", SheetXlsxAsync).Produces<byte[]>(contentType: Xlsx);
    }

    private const string Xlsx = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    private static async Task<ReadingTaken> AddReadingAsync(
        Guid caseId,
        ReadingEntry entry,
        Recorder recorder,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        // A request sent again is answered before its figure is held against its peers, of which it is one by now.
        if (reader.Case.Readings.Find(r => r.Id == entry.Id) is { } recorded)
        {
            return Taken(recorded, reader);
        }

        var table = reader.Table;
        var place = table.Find(entry.Place);
        var kind = place?.Kind.ReadAs ?? "";
        var limits = reader.Case.Limits.Where(l => l.Characteristic == entry.Characteristic).ToList();
        // A candidate is held against itself, and the engine's own against its own.
        var readings = Of(reader, entry.Place).Here.Readings.Where(r => r.Characteristic == entry.Characteristic).ToList();
        var (nominal, median) = GaugeEntries.Expected(readings, limits, table, entry.Characteristic, kind, entry.Phase, entry.Corrects);
        var reading = GaugeEntries.Read(entry, table, knowledge, nominal, median);
        if (reading.Corrects is { } old && !readings.Exists(r => r.Id == old && r.Place == reading.Place))
        {
            throw new ProblemException(Problem.Of("corrects", "server.reading-corrects-not-one-place"));
        }

        var added = await recorder.AddAsync(caseId, reading, cancel);
        return Taken(added, await desk.OpenAsync(caseId, cancel));
    }

    private static ReadingTaken Taken(Reading reading, CaseReader reader) =>
        new(reading, Of(reader, reading.Place).Figures(reading.Place, reading.Characteristic));

    /// <summary>A candidate is held against itself, and the engine’s own against its own.</summary>
    private static CaseReader Of(CaseReader reader, string place) => reader.Table.Find(place) is { } at ? reader.Of(at) : reader;

    private static Task<Limit> AddLimitAsync(Guid caseId, LimitEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel) =>
        recorder.AddAsync(caseId, GaugeEntries.Read(entry, knowledge), cancel);

    /// <param name="keepGood">True enters the good rows and tells the others; false enters none while one is wrong.</param>
    private static async Task<TableTaken> TakeLimitsAsync(
        Guid caseId,
        bool? keepGood,
        HttpRequest request,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    ) => await TakeAsync(caseId, GaugeTables.Limits(await TextAsync(request, cancel), knowledge), keepGood == true, recorder, cancel);

    /// <param name="confirmed">True enters suspect readings too.</param>
    private static async Task<TableTaken> TakeReadingsAsync(
        Guid caseId,
        bool? keepGood,
        bool? confirmed,
        HttpRequest request,
        Recorder recorder,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var read = GaugeTables.Readings(await TextAsync(request, cancel), reader.Case.GaugeLog(), reader.Table, knowledge, confirmed == true);
        return await TakeAsync(caseId, read, keepGood == true, recorder, cancel);
    }

    private static async Task<TableTaken> TakeAsync<T>(Guid caseId, CsvRead<T> read, bool keepGood, Recorder recorder, CancellationToken cancel)
        where T : CaseRecord
    {
        if (read.Good.Count == 0 || (read.Bad > 0 && !keepGood))
        {
            return new TableTaken(0, read.Bad, read.Problems);
        }

        foreach (var record in read.Good)
        {
            record.Id = DerivedId.Of(caseId, record.Id.ToString());
        }

        var already = await recorder.CountAsync<T>(caseId, [.. read.Good.Select(r => r.Id)], cancel);
        await recorder.AddManyAsync(caseId, read.Good, cancel);
        return new TableTaken(read.Good.Count - already, read.Bad, read.Problems, already);
    }

    private static async Task<string> TextAsync(HttpRequest request, CancellationToken cancel)
    {
        if (request.ContentLength > MostTableBytes)
        {
            throw new ProblemException(Problem.Of("file", "server.table-larger-than-mb"));
        }

        using var reader = new StreamReader(request.Body, new UTF8Encoding(false, throwOnInvalidBytes: true));
        try
        {
            var text = new char[MostTableBytes];
            var n = await reader.ReadBlockAsync(text, cancel);
            return n < text.Length ? new string(text, 0, n) : throw new ProblemException(Problem.Of("file", "server.table-larger-than-mb"));
        }
        catch (DecoderFallbackException)
        {
            throw new ProblemException(Problem.Of("file", "server.table-not-utf"));
        }
    }

    private static async Task<BudgetView> BudgetAsync(
        Guid caseId,
        string place,
        string characteristic,
        Phase? phase,
        CaseDesk desk,
        KnowledgeBase knowledge,
        Sentences sentences,
        CancellationToken cancel
    )
    {
        var sheet = (await desk.OpenAsync(caseId, cancel)).Gauge;
        var figure =
            sheet.Figures.FirstOrDefault(f => f.Place == place && f.Characteristic == characteristic && f.Phase == (phase ?? Phase.AsFound))
            ?? throw Problems.NotHere("figure");
        var estimate = figure.Estimate!;
        var variance = estimate.Standard * estimate.Standard;
        return new BudgetView(
            figure,
            knowledge.Characteristic(characteristic)!.How,
            [
                .. estimate
                    .Influences.GroupBy(i => sentences.Say(i.Name), StringComparer.Ordinal)
                    .Select(g => (Name: g.Key, Count: g.Count(), U: Uncertainty.Combine(g.Select(i => i.Standard)), Freedom: g.Min(i => i.Freedom)))
                    .OrderByDescending(g => g.U)
                    .Select(g => new BudgetRow(
                        g.Count > 1 ? Fact.Of("server.readings-of-one-cause", ("name", g.Name), ("count", g.Count)) : Fact.Text(g.Name),
                        g.U,
                        variance > 0 ? g.U * g.U / variance : 0,
                        double.IsPositiveInfinity(g.Freedom) ? null : g.Freedom
                    )),
            ],
            estimate.Standard,
            double.IsPositiveInfinity(estimate.Freedom) ? null : estimate.Freedom,
            estimate.Factor,
            estimate.Expanded
        );
    }

    private static async Task<List<InstrumentChoice>> SuitedAsync(
        Guid caseId,
        string characteristic,
        string? kind,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var entry = knowledge.Characteristic(characteristic) ?? throw Problems.NotHere("characteristic");
        var reader = await desk.OpenAsync(caseId, cancel);
        var limits = new LimitBook(
            [.. reader.Case.Limits.Where(l => l.Characteristic == characteristic)],
            knowledge,
            reader.Schools,
            reader.Table.Engine.Layout
        );
        var limit = limits.For(characteristic, kind ?? "", _ => null);
        var tolerance = limit?.Most - limit?.Least;
        return
        [
            .. reader
                .Instruments.Where(i => i.WithdrawnAt is null && i.Quantity == entry.Quantity)
                .Select(i => new InstrumentChoice(i.Name, [.. Suitability.Of(i, entry, tolerance, desk.Today)]))
                .OrderBy(c => c.Against.Count)
                .ThenBy(c => c.Name, StringComparer.Ordinal),
        ];
    }

    /// <summary>Least film of every big end whose clearance is known, at the speed, oil and load entered for the engine.</summary>
    private static async Task<List<FilmView>> FilmAsync(Guid caseId, CaseDesk desk, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var (table, sheet) = (reader.Table, reader.Gauge);
        double Told(string id) =>
            sheet.Figures.FirstOrDefault(f => f.Characteristic == id && f.Place == "EN")?.Value
            ?? throw new ProblemException(Problem.Of(id, "server.not-entered-engine", ("name", knowledge.Characteristic(id)!.Name)));
        var (speed, viscosity, load) = (Told("rated-speed"), Told("oil-viscosity"), Told("big-end-load"));
        var films = new List<FilmView>();
        foreach (
            var clearance in sheet.Figures.Where(f => f.Characteristic == Characteristics.BigEndClearance && f.Phase == Phase.AsFound && f.Value > 0)
        )
        {
            var rod = table.Find(clearance.Place)!;
            var pin = Kin.Of(table, rod, PartKinds.Crankpin)!;
            var diameter = sheet.Figures.FirstOrDefault(f => f.Place == pin.Code && f.Characteristic == Characteristics.PinDiameter);
            var width = sheet.Figures.FirstOrDefault(f =>
                f.Characteristic == "shell-width" && (f.Place == $"R{rod.Station}U" || f.Place == $"R{rod.Station}L")
            );
            width ??= sheet.Figures.FirstOrDefault(f => f.Characteristic == "shell-width");
            if (diameter is not null && width is not null)
            {
                films.Add(new FilmView(rod.Code, BenchReckoners.Film(diameter.Value, width.Value, clearance.Value, speed, viscosity, load)));
            }
        }

        return films.Count > 0 ? films : throw new ProblemException(Problem.Of("shell-width", "server.no-big-end-has-all"));
    }

    private static async Task<IResult> LimitsCsvAsync(Guid caseId, CaseDesk desk, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var engineCase = (await desk.OpenAsync(caseId, cancel)).Case;
        return Csv(GaugeTables.Limits(engineCase.Limits.Where(l => l.Stands()), knowledge), "limits");
    }

    private static async Task<IResult> ReadingsCsvAsync(Guid caseId, CaseDesk desk, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var engineCase = (await desk.OpenAsync(caseId, cancel)).Case;
        return Csv(GaugeTables.Readings(engineCase.GaugeLog(), knowledge), "readings");
    }

    private static async Task<IResult> SheetCsvAsync(Guid caseId, CaseDesk desk, Sentences sentences, CancellationToken cancel)
    {
        return Csv(GaugeTables.SheetCsv((await desk.OpenAsync(caseId, cancel)).Gauge, sentences.Say), "sheet");
    }

    private static async Task<IResult> SheetXlsxAsync(Guid caseId, CaseDesk desk, Sentences sentences, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var (engineCase, sheet) = (reader.Case, reader.Gauge);
        var names = GaugeTables.SheetColumns;
        var figures = GaugeTables
            .Sheet(sheet)
            .Select(row => names.Zip(row).ToDictionary(x => x.First, x => x.Second is Fact fact ? sentences.Say(fact) : x.Second))
            .DefaultIfEmpty(names.ToDictionary(n => n, _ => (object?)null));
        var readings = GaugeLog
            .Active(engineCase.Readings)
            .Select(r => new Dictionary<string, object?>
            {
                ["place"] = r.Place,
                ["characteristic"] = r.Characteristic,
                ["station"] = r.Station,
                ["direction"] = r.Direction,
                ["phase"] = r.Phase.ToString(),
                ["typed"] = r.Typed,
                ["unit"] = r.Unit,
                ["value"] = r.Value,
                ["instrument"] = r.Instrument,
                ["temperature"] = r.Temperature,
                ["by"] = r.By,
                ["at"] = r.At.UtcDateTime.ToString("u", System.Globalization.CultureInfo.InvariantCulture),
            })
            .ToArray();
        using var stream = new MemoryStream();
        await stream.SaveAsAsync(new Dictionary<string, object> { ["Sheet"] = figures, ["Readings"] = readings }, cancellationToken: cancel);
        return Results.File(stream.ToArray(), Xlsx, "sheet.xlsx");
    }

    private static IResult Csv(string text, string name) => Results.File(Encoding.UTF8.GetBytes(text), "text/csv; charset=utf-8", $"{name}.csv");
}
