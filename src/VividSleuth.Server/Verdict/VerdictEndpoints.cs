using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Server.Verdict;

public sealed record VerdictEntry(Guid Id, string Place, VerdictAction Action, string Reason);

public static class VerdictEndpoints
{
    public static void MapVerdict(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/verdicts").WithTags("verdict").RequireAuthorization(Policies.Write);
        group.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<PartVerdict>("");
    }

    private static async Task<PartVerdict> AddAsync(Guid caseId, VerdictEntry entry, Recorder recorder, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(entry.Reason))
        {
            throw new ProblemException(Problem.Of("reason", "server.verdict-needs-reason"));
        }

        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        var verdict = new PartVerdict
        {
            Id = entry.Id,
            Place = place.Code,
            Action = entry.Action,
            Reason = entry.Reason.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            verdict,
            r =>
            {
                var there = r.Of(place);
                verdict.Figures = [.. there.Advice.FirstOrDefault(a => a.Place == place.Code)?.On.Select(Kept) ?? []];
                return VerdictRules.Check(entry.Action, place, new Cracks(there.Here.Findings, there.Table, r.Knowledge));
            },
            cancel
        );
    }

    /// <summary>A figure of the sheet as a verdict keeps it; the source of its limit is a citation and is kept as it reads.</summary>
    private static VerdictFigure Kept(SheetFigure f) =>
        new(
            f.Characteristic,
            f.Name,
            f.Quantity,
            f.Value,
            f.Expanded,
            f.Limit?.Least,
            f.Limit?.Most,
            f.Limit is null ? "" : Words.Sentences.English.Say(f.Limit.SourceText)
        );
}
