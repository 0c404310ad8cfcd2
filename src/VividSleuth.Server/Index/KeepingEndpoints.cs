using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;

namespace VividSleuth.Server.Index;

/// <summary>A part that is offered, as entered.</summary>
/// <param name="Letter">Empty takes the next that is free.</param>
public sealed record CandidateEntry(
    Guid Id,
    int Version,
    string Letter,
    string What,
    int? Station,
    string Name,
    string From,
    string Remarks,
    Guid? Line
);

/// <summary>A bag, box, tray, stack or shelf, as entered.</summary>
/// <param name="Code">The word on its label; empty takes the next that is free.</param>
public sealed record StowEntry(
    Guid Id,
    int Version,
    string Code,
    StowKind Kind,
    string Name,
    string In,
    string Where,
    string Step,
    IReadOnlyList<StowItem> Items,
    string Remarks
);

/// <summary>What is kept beside the engine: parts that are offered in its own’s stead, and bags and boxes with what is in them.</summary>
public static class KeepingEndpoints
{
    public static void MapKeeping(this RouteGroupBuilder api)
    {
        api.MapGet("/candidate-sets", () => CandidateSets.All).WithTags("index");
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("index").RequireAuthorization(Policies.Write);
        foreach (var add in new[] { group.MapPost("/candidates", AddCandidateAsync), group.MapPost("/stows", AddStowAsync) })
        {
            add.ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        }

        foreach (
            var change in new[] { group.MapPut("/candidates/{id:guid}", ChangeCandidateAsync), group.MapPut("/stows/{id:guid}", ChangeStowAsync) }
        )
        {
            change.ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        }

        group.MapWithdraw<Candidate>("/candidates");
        group.MapWithdraw<Stow>("/stows");
    }

    private static Task<Candidate> AddCandidateAsync(Guid caseId, CandidateEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var candidate = new Candidate
        {
            Id = entry.Id,
            Letter = entry.Letter.Trim().ToUpperInvariant(),
            What = entry.What.Trim(),
            Station = entry.Station,
            Line = entry.Line,
        };
        Fill(candidate, entry);
        return recorder.AddCheckedAsync(
            caseId,
            candidate,
            r =>
            {
                candidate.Letter = candidate.Letter.Length > 0 ? candidate.Letter : CandidateSets.NextLetter(r.Case.Candidates) ?? "";
                return
                [
                    .. CandidateSets.Check(candidate, r.Table, r.Case.Candidates),
                    .. candidate.Line is { } line && !r.Case.OrderLines.Exists(l => l.Id == line && l.Stands())
                        ? [Problem.Of("line", "verdict.order.no-such-line")]
                        : Array.Empty<Problem>(),
                ];
            },
            cancel
        );
    }

    /// <summary>Its letter, and what it is, stay: they are in the address of all that was recorded of it.</summary>
    private static Task<Candidate> ChangeCandidateAsync(Guid caseId, Guid id, CandidateEntry entry, Recorder recorder, CancellationToken cancel) =>
        recorder.UpdateAsync<Candidate>(
            caseId,
            id,
            entry.Version,
            entry,
            candidate =>
            {
                if (candidate.Letter != entry.Letter || candidate.What != entry.What || candidate.Station != entry.Station)
                {
                    throw new ProblemException(Problem.Of("what", "server.candidate-stays-what-it-is", ("letter", candidate.Letter)));
                }

                Fill(candidate, entry);
            },
            cancel
        );

    private static void Fill(Candidate candidate, CandidateEntry entry)
    {
        candidate.Name = entry.Name.Trim();
        candidate.From = entry.From.Trim();
        candidate.Remarks = entry.Remarks.Trim();
    }

    private static Task<Stow> AddStowAsync(Guid caseId, StowEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var stow = new Stow
        {
            Id = entry.Id,
            Kind = entry.Kind,
            Code = entry.Code.Trim().ToUpperInvariant(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            stow,
            r =>
            {
                stow.Code = stow.Code.Length > 0 ? stow.Code : StowRules.NextCode(stow.Kind, r.Case.Stows);
                Fill(stow, entry, r.Table);
                return StowRules.Check(stow, r.Table, r.Case.Stows);
            },
            cancel
        );
    }

    /// <summary>The word on its label stays: it is on the bag.</summary>
    private static Task<Stow> ChangeStowAsync(Guid caseId, Guid id, StowEntry entry, Recorder recorder, CancellationToken cancel) =>
        recorder.UpdateCheckedAsync<Stow>(
            caseId,
            id,
            entry.Version,
            entry,
            _ => { },
            (r, stow) =>
            {
                Fill(stow, entry, r.Table);
                return StowRules.Check(stow, r.Table, r.Case.Stows);
            },
            cancel
        );

    private static void Fill(Stow stow, StowEntry entry, AddressTable table)
    {
        stow.Name = entry.Name.Trim();
        stow.In = entry.In.Trim().ToUpperInvariant();
        stow.Where = entry.Where.Trim();
        stow.Step = entry.Step.Trim();
        stow.Remarks = entry.Remarks.Trim();
        // As it is written in the table of the engine; what is no address is told by the rules.
        stow.Items =
        [
            .. entry.Items.Select(i => i with { Place = table.Find(i.Place)?.Code ?? i.Place, What = i.What.Trim(), Face = i.Face.Trim() }),
        ];
    }
}
