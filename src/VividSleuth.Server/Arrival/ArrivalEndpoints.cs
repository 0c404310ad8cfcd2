using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Server.Arrival;

/// <summary>What is written down when the engine arrives; the version is the one that was on the screen.</summary>
public sealed record ArrivalEntry(
    int Version,
    string Title,
    string Owner,
    string EngineName,
    string Serial,
    decimal? Hours,
    string Complaint,
    string Past,
    Dictionary<string, bool> Risks,
    LengthUnit? Lengths = null,
    string? Prefix = null
);

public static class ArrivalEndpoints
{
    public static void MapArrival(this RouteGroupBuilder api) =>
        api.MapPut(
                "/cases/{id:guid}/arrival",
                async (Guid id, ArrivalEntry entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel) =>
                {
                    if (entry.Risks.Keys.FirstOrDefault(k => knowledge.Risks.All(r => r.Id != k)) is { } unknown)
                    {
                        throw new ProblemException(Problem.Of("risks", "server.no-question-of-arrival", ("unknown", unknown)));
                    }

                    if (entry.Hours is < 0 or > 1_000_000)
                    {
                        throw new ProblemException(Problem.Of("hours", "server.hours-cannot-read"));
                    }

                    var prefix = entry.Prefix?.Trim().ToUpperInvariant();
                    if (prefix is { Length: > 0 })
                    {
                        if (TagCode.CheckPrefix(prefix) is { } wrong)
                        {
                            throw new ProblemException(wrong);
                        }

                        var other = await recorder
                            .Db.Cases.Where(c => c.Id != id && c.WithdrawnAt == null && c.Prefix == prefix)
                            .Select(c => c.Title)
                            .FirstOrDefaultAsync(cancel);
                        if (other is not null)
                        {
                            throw new ProblemException(Problem.Of("prefix", "server.prefix-of-another", ("prefix", prefix), ("title", other)));
                        }
                    }

                    return await recorder.UpdateAsync<EngineCase>(
                        id,
                        id,
                        entry.Version,
                        entry,
                        c =>
                        {
                            c.Title = entry.Title.Trim();
                            c.Owner = entry.Owner.Trim();
                            c.EngineName = entry.EngineName.Trim();
                            c.Serial = entry.Serial.Trim();
                            c.Hours = entry.Hours;
                            c.Complaint = entry.Complaint;
                            c.Past = entry.Past;
                            c.Risks = entry.Risks;
                            c.Lengths = entry.Lengths;
                            c.Prefix = prefix ?? c.Prefix;
                        },
                        cancel
                    );
                }
            )
            .RequireAuthorization(Policies.Write)
            .WithTags("arrival")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
}
