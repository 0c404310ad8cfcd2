using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Index;

/// <summary>A tag as entered. The version is 0 for a new one.</summary>
public sealed record PartEntry(
    Guid Id,
    int Version,
    string Place,
    string Mark,
    MarkMethod Method,
    bool SameOnAll,
    Facing Facing,
    string GradeStamped,
    Custody Custody,
    string Where,
    DateOnly? Sent,
    DateOnly? DueBack,
    string SideUp,
    decimal? Weight,
    string Remarks,
    string On = ""
);

/// <summary>A layout put right.</summary>
/// <param name="Why">Only for keeping; a preview needs none.</param>
public sealed record LayoutEntry(Guid Id, int Version, EngineLayout Layout, string Why);

public sealed record RenumberEntry(Guid Id, int Version, CrankEnd NumberOneEnd, NumberingScheme Numbering, bool BankAOnTheLeft, string Why);

/// <summary>What another numbering would do.</summary>
public sealed record RenumberPreview(EngineLayout Layout, IReadOnlyList<Renumbered> Map, IReadOnlyList<Renumbered> Marked);

public static class IndexEndpoints
{
    public static void MapIndex(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("index");
        group
            .MapPost("/parts", AddAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/parts/many", AddManyAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPut("/parts/{id:guid}", ChangeAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Part>("/parts");
        group.MapGet("/mates", MatesAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/parts/{id:guid}/stays", StaysAsync);
        group.MapPost("/layout/preview", PreviewLayoutAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/layout", CorrectLayoutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/renumber/preview", PreviewAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/renumber", RenumberAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Part> AddAsync(Guid caseId, PartEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var table = await recorder.TableAsync(caseId, cancel);
        var part = new Part { Id = entry.Id, Place = table.Parse(entry.Place).Code };
        Check(entry);
        Fill(part, entry, table);
        return await recorder.AddAsync(caseId, part, cancel);
    }

    /// <summary>Tags several parts at once, all or none; one that has a tag already is named.</summary>
    private static async Task<IReadOnlyList<Part>> AddManyAsync(
        Guid caseId,
        IReadOnlyList<PartEntry> entries,
        Recorder recorder,
        CaseDesk desk,
        CancellationToken cancel
    )
    {
        if (entries.Count is 0 or > 500)
        {
            throw new ProblemException(Problem.Of("parts", "server.tags-at-once", ("least", 1), ("most", 500)));
        }

        var reader = await desk.OpenAsync(caseId, cancel);
        var tagged = reader.Case.Parts.Where(p => p.Stands()).ToDictionary(p => p.Place, p => p.Id, StringComparer.Ordinal);
        var parts = new List<Part>();
        foreach (var entry in entries)
        {
            Check(entry);
            var part = new Part { Id = entry.Id, Place = reader.Table.Parse(entry.Place).Code };
            if (tagged.TryGetValue(part.Place, out var standing) && standing != part.Id)
            {
                throw new ProblemException(Problem.Of("parts", "server.has-a-tag-already", ("place", part.Place)));
            }

            Fill(part, entry, reader.Table);
            parts.Add(part);
        }

        if (parts.Select(p => p.Place).Distinct(StringComparer.Ordinal).Count() < parts.Count)
        {
            throw new ProblemException(Problem.Of("parts", "server.one-place-twice"));
        }

        return await recorder.AddManyAsync(caseId, parts, cancel);
    }

    private static async Task<Part> ChangeAsync(Guid caseId, Guid id, PartEntry entry, Recorder recorder, CancellationToken cancel)
    {
        Check(entry);
        var table = await recorder.TableAsync(caseId, cancel);
        return await recorder.UpdateAsync<Part>(caseId, id, entry.Version, entry, part => Fill(part, entry, table), cancel);
    }

    private static void Check(PartEntry entry)
    {
        if (entry.Weight is <= 0 or > 1_000_000)
        {
            throw new ProblemException(Problem.Of("weight", "server.weight-g-cannot", ("weight", entry.Weight)));
        }

        if (entry.DueBack is { } due && entry.Sent is { } sent && due < sent)
        {
            throw new ProblemException(Problem.Of("dueBack", "server.would-back-before-sent"));
        }
    }

    /// <summary>Where a part has been, the latest first, from what each change found.</summary>
    private static async Task<List<PartStay>> StaysAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel)
    {
        var part =
            await db.Set<Part>().AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && p.CaseId == caseId, cancel) ?? throw Problems.NotHere("part");
        return [.. (await AllStaysAsync(caseId, [part], db, cancel))[id].Reverse()];
    }

    /// <summary>The same of several parts of a case, by their ids, the first stay first.</summary>
    internal static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<PartStay>>> AllStaysAsync(
        Guid caseId,
        IReadOnlyList<Part> parts,
        SleuthDb db,
        CancellationToken cancel
    )
    {
        var ids = parts.Select(p => p.Id).ToArray();
        var befores = await db
            .Changes.AsNoTracking()
            .Where(c => c.CaseId == caseId && ids.Contains(c.RecordId) && c.Before != null)
            .OrderBy(c => c.At)
            .ThenBy(c => c.Id)
            .Select(c => new { c.RecordId, Before = c.Before! })
            .ToListAsync(cancel);
        var states = befores.ToLookup(b => b.RecordId, b => JsonSerializer.Deserialize<Part>(b.Before, Earlier)!);
        return parts.ToDictionary(p => p.Id, p => PartStay.Of(states[p.Id].Append(p)));
    }

    private static async Task<RenumberPreview> PreviewAsync(Guid caseId, RenumberEntry entry, CaseDesk desk, CancellationToken cancel)
    {
        var engineCase = (await desk.OpenAsync(caseId, cancel)).Case;
        var old = engineCase.Layout;
        var layout = Renumber.Layout(old, entry.NumberOneEnd, entry.Numbering, entry.BankAOnTheLeft);
        var map = Renumber.Map(old, layout);
        var marked = engineCase.Parts.Where(p => p.Stands() && p.Method != MarkMethod.None).Select(p => p.Place).ToHashSet(StringComparer.Ordinal);
        return new RenumberPreview(layout, map, [.. map.Where(m => marked.Contains(m.Old))]);
    }

    private static async Task<EngineCase> RenumberAsync(Guid caseId, RenumberEntry entry, Recorder recorder, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            throw new ProblemException(Problem.Of("why", "server.change-numbering-needs-reason"));
        }

        return await MoveAsync(
            caseId,
            entry.Id,
            entry.Version,
            entry,
            c => RenumberCase.Apply(c, Renumber.Layout(c.Layout, entry.NumberOneEnd, entry.Numbering, entry.BankAOnTheLeft), entry.Why.Trim()),
            recorder,
            cancel
        );
    }

    private static async Task<LayoutChange> PreviewLayoutAsync(Guid caseId, LayoutEntry entry, CaseDesk desk, CancellationToken cancel)
    {
        var engineCase = (await desk.OpenAsync(caseId, cancel)).Case;
        return Relayout.Of(engineCase.Layout, entry.Layout, RenumberCase.Recorded(engineCase), engineCase.Candidates);
    }

    private static async Task<EngineCase> CorrectLayoutAsync(Guid caseId, LayoutEntry entry, Recorder recorder, CancellationToken cancel) =>
        string.IsNullOrWhiteSpace(entry.Why)
            ? throw new ProblemException(Problem.Of("why", "server.change-layout-needs-reason"))
            : await MoveAsync(
                caseId,
                entry.Id,
                entry.Version,
                entry,
                c => RenumberCase.Apply(c, Relayout.Of(c.Layout, entry.Layout, RenumberCase.Recorded(c), c.Candidates), entry.Why.Trim()),
                recorder,
                cancel
            );

    /// <summary>Once, however often it is sent; nothing else is written to the case meanwhile.</summary>
    private static async Task<EngineCase> MoveAsync(
        Guid caseId,
        Guid id,
        int version,
        object yours,
        Func<EngineCase, Renumbering> change,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await using (var transaction = await db.Database.BeginTransactionAsync(cancel))
        {
            await db.LockAsync(caseId, cancel);
            if (!await db.Set<Renumbering>().AnyAsync(r => r.Id == id, cancel))
            {
                await recorder.MoveAsync(caseId, id, version, yours, change, cancel);
                await transaction.CommitAsync(cancel);
            }
        }

        return await db.LoadAsync(caseId, cancel) ?? throw Problems.NotHere("case");
    }

    // Withdrawn fields and later ones may be missing in an old state, and its names are those of the properties.
    private static readonly JsonSerializerOptions Earlier = new()
    {
        PropertyNameCaseInsensitive = true,
        Converters = { new JsonStringEnumConverter() },
    };

    private static async Task<MateResult> MatesAsync(Guid caseId, string first, string second, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var table = reader.Table;
        return MateCheck.Of(table.Parse(first, "first"), table.Parse(second, "second"), reader.Case.Parts, table.Engine, reader.Schools.Mixing);
    }

    private static void Fill(Part part, PartEntry entry, AddressTable table)
    {
        part.On = entry.Custody == Custody.OnPart ? table.Parse(entry.On, "on").Code : "";
        if (part.On == part.Place)
        {
            throw new ProblemException(Problem.Of("on", "server.part-kept-on-itself", ("place", part.Place)));
        }

        if (entry.Custody == Custody.OnEngine && Address.IsCandidate(part.Place))
        {
            throw new ProblemException(Problem.Of("custody", "server.candidate-not-on-the-engine", ("place", part.Place)));
        }

        // A new mark is the number it has now; the old one counts no more.
        part.MarkedAs = entry.Mark.Trim() == part.Mark && entry.Method == part.Method ? part.MarkedAs : "";
        part.Mark = entry.Mark.Trim();
        part.Method = entry.Method;
        part.SameOnAll = entry.SameOnAll;
        part.Facing = entry.Facing;
        part.GradeStamped = entry.GradeStamped.Trim();
        part.Custody = entry.Custody;
        part.Where = entry.Where.Trim();
        part.Sent = entry.Sent;
        part.DueBack = entry.DueBack;
        part.SideUp = entry.SideUp.Trim();
        part.Weight = entry.Weight;
        part.Remarks = entry.Remarks.Trim();
    }
}
