using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Server.Trace;

public sealed record ConclusionEntry(Guid Id, string Story, string Place, Confidence Confidence, string Reasons);

public static class TraceEndpoints
{
    public static void MapTrace(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/conclusions").WithTags("trace").RequireAuthorization(Policies.Write);
        group.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Conclusion>("");
    }

    private static async Task<Conclusion> AddAsync(
        Guid caseId,
        ConclusionEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (entry.Story.Length > 0 && knowledge.Story(entry.Story) is null)
        {
            throw new ProblemException(new Problem("story", $"“{entry.Story}” is no cause known here.", "Choose one, or leave it open."));
        }

        if (string.IsNullOrWhiteSpace(entry.Reasons))
        {
            throw new ProblemException(new Problem("reasons", "A finding needs its reasons.", "Write what it rests on."));
        }

        var table = await recorder.TableAsync(caseId, cancel);
        var conclusion = new Conclusion
        {
            Id = entry.Id,
            Story = entry.Story,
            Place = entry.Place.Trim().Length > 0 ? table.Parse(entry.Place).Code : "",
            Confidence = entry.Confidence,
            Reasons = entry.Reasons.Trim(),
        };
        return await recorder.AddAsync(caseId, conclusion, cancel);
    }
}
