using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Casebook;

namespace VividSleuth.Server.Trace;

/// <param name="Fault">Not known where a screen from before this was asked sends it.</param>
public sealed record ConclusionEntry(Guid Id, string Cause, string Place, Confidence Confidence, string Reasons, Fault Fault = Fault.NotKnown);

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
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (entry.Cause.Length > 0 && knowledge.Cause(entry.Cause) is null)
        {
            throw new ProblemException(Problem.Of("cause", "server.no-such-cause", ("cause", entry.Cause)));
        }

        if (string.IsNullOrWhiteSpace(entry.Reasons))
        {
            throw new ProblemException(Problem.Of("reasons", "server.finding-needs-reasons"));
        }

        var reader = await desk.OpenAsync(caseId, cancel);
        var place = entry.Place.Trim().Length > 0 ? reader.Table.Parse(entry.Place).Code : "";
        if (Address.IsCandidate(place))
        {
            throw new ProblemException(Problem.Of("place", "server.candidate-began-nothing", ("place", place)));
        }

        // What the computation said at that moment is kept beside it: later evidence would change what they disagreed about.
        var trace = reader.Trace;
        var first = trace.SignsRecorded > 0 && trace.Ranking.Count > 0 ? trace.Ranking[0] : null;
        var conclusion = new Conclusion
        {
            Id = entry.Id,
            Cause = entry.Cause,
            Place = place,
            Confidence = entry.Confidence,
            Fault = entry.Fault,
            Reasons = entry.Reasons.Trim(),
            ComputedCause = first?.Cause ?? "",
            ComputedPlace = first?.Place ?? "",
            Computed = first?.Probability,
            ComputedForThis = trace.Ranking.FirstOrDefault(r => r.Cause == entry.Cause && (place.Length == 0 || r.Place == place))?.Probability,
        };
        return await recorder.AddAsync(caseId, conclusion, cancel);
    }
}
