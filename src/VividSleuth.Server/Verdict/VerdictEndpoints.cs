using VividSleuth.Core;
using VividSleuth.Core.Look;
using VividSleuth.Core.Verdict;
using VividSleuth.Words;

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

    private static async Task<PartVerdict> AddAsync(Guid caseId, VerdictEntry entry, Recorder recorder, Sentences sentences, CancellationToken cancel)
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
                verdict.Figure = sentences.Say(r.Advice.FirstOrDefault(a => a.Place == place.Code)?.Figure);
                return VerdictRules.Check(entry.Action, place, new Cracks(r.Case.Findings, r.Table, r.Knowledge));
            },
            cancel
        );
    }
}
