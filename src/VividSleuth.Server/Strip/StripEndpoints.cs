using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Strip;

public sealed record StepEntry(Guid Id, string Step, StepState State, int FastenersOut, string Reason);

public static class StripEndpoints
{
    public static void MapStrip(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/steps").WithTags("strip").RequireAuthorization(Policies.Write);
        group.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<StepRecord>("");
    }

    private static async Task<StepRecord> AddAsync(Guid caseId, StepEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var record = new StepRecord
        {
            Id = entry.Id,
            Step = entry.Step,
            State = entry.State,
            FastenersOut = entry.FastenersOut,
            Reason = entry.Reason.Trim(),
        };
        var engineCase = await recorder.Db.LoadAsync(caseId, cancel) ?? throw Problems.NotHere("case");
        if (engineCase.Steps.Find(s => s.Id == entry.Id) is { } standing)
        {
            return standing;
        }

        var plan = StripPlanner.Plan(engineCase, await recorder.TableAsync(caseId, cancel), knowledge);
        return StripPlanner.Check(record, plan) is { } problem
            ? throw new ProblemException(problem)
            : await recorder.AddAsync(caseId, record, cancel);
    }
}
