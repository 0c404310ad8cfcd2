using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Server.Gauge;

/// <summary>Figures typed into a reckoner, by the id of its inputs.</summary>
public sealed record ReckonEntry(Dictionary<string, string> Typed);

public static class ReckonerEndpoints
{
    public static void MapReckoners(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/reckoners").WithTags("gauge");
        group.MapGet("", () => BenchReckoners.All).Produces<IReadOnlyList<BenchReckoner>>();
        group
            .MapPost(
                "/{id}",
                (string id, ReckonEntry entry, KnowledgeBase knowledge) =>
                    (BenchReckoners.Find(id) ?? throw Problems.NotHere("reckoner")).Reckon(entry.Typed, knowledge)
            )
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }
}
