using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Verdict;

/// <param name="Course">Id of the course.</param>
/// <param name="Reason">Why; may be empty where the advice is followed.</param>
public sealed record VerdictEntry(Guid Id, string Place, string Course, string Reason);

public sealed record VerdictOf(Guid Id, string Place);

/// <summary>One touch that decides several places alike.</summary>
/// <param name="Id">Of the touch.</param>
/// <param name="Reason">Why; may be empty where the advice is followed at every one of them.</param>
public sealed record VerdictsEntry(Guid Id, IReadOnlyList<VerdictOf> Of, string Course, string Reason);

public sealed record ExaminationEntry(Guid Id, string Place, string Check, bool Passed, string TestedBy, string Remarks);

/// <param name="Steps">Under or over standard, mm, rising.</param>
/// <param name="Furthest">mm on the diameter.</param>
public sealed record SizesEntry(
    Guid Id,
    string Kind,
    IReadOnlyList<decimal> Steps,
    string Unit,
    decimal? Furthest,
    BoundBy FurthestBy,
    string SourceText
);

/// <summary>A list of sizes that stands at another engine of the kind.</summary>
public sealed record SizesElsewhere(Guid CaseId, string Title, ServiceSizes Sizes);

public static class VerdictEndpoints
{
    /// <summary>Places that one touch may decide.</summary>
    private const int MostAtOnce = 500;

    public static void MapVerdict(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/verdicts").WithTags("verdict").RequireAuthorization(Policies.Write);
        group.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/together", AddTogetherAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/together/{id:guid}/withdraw", WithdrawTogetherAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<PartVerdict>("");
        var tests = api.MapGroup("/cases/{caseId:guid}/examinations").WithTags("verdict").RequireAuthorization(Policies.Write);
        tests.MapPost("", AddExaminationAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        tests.MapWithdraw<Examination>("");
        var sizes = api.MapGroup("/cases/{caseId:guid}/sizes").WithTags("verdict");
        sizes.MapPost("", AddSizesAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        sizes.MapGet("/elsewhere", ElsewhereAsync).NotForStudents();
        sizes.MapWithdraw<ServiceSizes>("");
    }

    private static async Task<PartVerdict> AddAsync(Guid caseId, VerdictEntry entry, Recorder recorder, Sentences sentences, CancellationToken cancel)
    {
        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        var verdict = New(entry.Id, place, entry.Course, entry.Reason, null);
        return await recorder.AddCheckedAsync(caseId, verdict, r => Judge(verdict, place, r, sentences), cancel);
    }

    private static async Task<IReadOnlyList<PartVerdict>> AddTogetherAsync(
        Guid caseId,
        VerdictsEntry entry,
        Recorder recorder,
        Sentences sentences,
        CancellationToken cancel
    )
    {
        if (entry.Of.Count is < 1 or > MostAtOnce)
        {
            throw new ProblemException(Problem.Of("of", "server.verdicts-of-so-many", ("most", MostAtOnce)));
        }

        if (entry.Of.Any(o => o.Id == Guid.Empty) || entry.Of.DistinctBy(o => o.Id).Count() < entry.Of.Count)
        {
            throw new ProblemException(Problem.Of("of", "server.verdicts-need-ids"));
        }

        var table = await recorder.TableAsync(caseId, cancel);
        var places = entry.Of.Select(o => (o.Id, Place: table.Parse(o.Place))).ToArray();
        if (places.DistinctBy(p => p.Place.Code).Count() < places.Length)
        {
            throw new ProblemException(Problem.Of("of", "server.place-decided-twice"));
        }

        var verdicts = places.Select(p => (p.Place, Verdict: New(p.Id, p.Place, entry.Course, entry.Reason, entry.Id))).ToArray();
        return await recorder.AddManyCheckedAsync(
            caseId,
            [.. verdicts.Select(v => v.Verdict)],
            r => verdicts.Select(v => Judge(v.Verdict, v.Place, r, sentences)).OfType<Problem>(),
            cancel
        );
    }

    private static PartVerdict New(Guid id, Address place, string course, string reason, Guid? together) =>
        new()
        {
            Id = id,
            Place = place.Code,
            Course = course,
            Reason = reason.Trim(),
            Together = together,
        };

    /// <summary>Holds a verdict against the rules as they stand, and keeps with it what they advised and the figures it rests on.</summary>
    private static Problem? Judge(PartVerdict verdict, Address place, CaseReader reader, Sentences sentences)
    {
        var advice = reader.Of(place).Advice.FirstOrDefault(a => a.Place == place.Code);
        verdict.Action = reader.Knowledge.Course(verdict.Course)?.Action ?? default;
        verdict.Figures = [.. advice?.On.Select(Kept) ?? []];
        verdict.Advised = advice?.Course ?? "";
        verdict.AdvisedWhy = sentences.Say(advice?.Reason);
        return VerdictChecks.Of(verdict.Course, verdict.Reason, place, advice, reader.Knowledge);
    }

    /// <summary>Takes back all that was decided at one touch and still stands; one that was decided anew by itself stays.</summary>
    private static async Task<IReadOnlyList<PartVerdict>> WithdrawTogetherAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var taken = new List<PartVerdict>();
        foreach (var verdict in await recorder.TogetherAsync(caseId, id, cancel))
        {
            taken.Add(await recorder.WithdrawAsync<PartVerdict>(caseId, verdict.Id, withdrawal with { Version = verdict.Version }, cancel));
        }

        return taken;
    }

    private static async Task<Examination> AddExaminationAsync(
        Guid caseId,
        ExaminationEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        if (knowledge.Examination(entry.Check) is not { } asked || !asked.On.Contains(place.Kind.ReadAs))
        {
            throw new ProblemException(Problem.Of("check", "server.no-such-examination", ("check", entry.Check), ("place", place.Code)));
        }

        if (string.IsNullOrWhiteSpace(entry.TestedBy))
        {
            throw new ProblemException(Problem.Of("testedBy", "server.examination-needs-a-name"));
        }

        return await recorder.AddAsync(
            caseId,
            new Examination
            {
                Id = entry.Id,
                Place = place.Code,
                Check = asked.Id,
                Passed = entry.Passed,
                TestedBy = entry.TestedBy.Trim(),
                Remarks = entry.Remarks.Trim(),
            },
            cancel
        );
    }

    private static Task<ServiceSizes> AddSizesAsync(Guid caseId, SizesEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var sizes = new ServiceSizes
        {
            Id = entry.Id,
            Kind = entry.Kind,
            Steps = [.. entry.Steps],
            Unit = entry.Unit,
            Furthest = entry.Furthest,
            FurthestBy = entry.FurthestBy,
            SourceText = entry.SourceText.Trim(),
        };
        return recorder.AddCheckedAsync(caseId, sizes, r => sizes.Check(r.Knowledge), cancel);
    }

    private static async Task<IReadOnlyList<SizesElsewhere>> ElsewhereAsync(Guid caseId, CaseDesk desk, CancellationToken cancel) =>
        await desk.SizesElsewhereAsync(caseId, cancel);

    /// <summary>A figure of the sheet as a verdict keeps it; the source of its limit is a citation and is kept as it reads.</summary>
    private static VerdictFigure Kept(SheetFigure f) =>
        new(
            f.Characteristic,
            f.Name,
            f.Quantity,
            f.Value,
            f.Expanded,
            f.Limit?.ServiceLeast,
            f.Limit?.ServiceMost,
            f.Limit is null ? "" : Sentences.English.Say(f.Limit.SourceText)
        );
}
