using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Server.Trace;

/// <summary>A sign and the place where it was looked for.</summary>
public sealed record LookedAt(string Sign, string Place);

/// <summary>What a trainee commits to, after what he looked at.</summary>
public sealed record CommitEntry(IReadOnlyList<LookedAt> Looked, IReadOnlyList<PracticeGuess> Guesses);

/// <summary>An engine to practise on, with its section to walk.</summary>
public sealed record PracticeView(PracticeEngine Engine, LongSection Section, IReadOnlyList<CauseHead> Causes);

/// <summary>A cause that this engine may have.</summary>
public sealed record CauseHead(string Id, string Name, string Family);

/// <summary>Practice keeps nothing on the server: the number of the engine says all.</summary>
public static class PracticeEndpoints
{
    public static void MapPractice(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/practice/{seed:int}").WithTags("trace");
        group.MapGet("", Arrive).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapGet(
                "/look",
                (int seed, string sign, string place, KnowledgeBase knowledge) => Practice.Look(Practice.Open(seed), sign, place, knowledge)
            )
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost(
                "/commit",
                (int seed, CommitEntry entry, KnowledgeBase knowledge) =>
                    Practice.Commit(Practice.Open(seed), [.. entry.Looked.Select(l => (l.Sign, l.Place))], entry.Guesses, knowledge)
            )
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static PracticeView Arrive(int seed, KnowledgeBase knowledge) => View(Practice.Arrive(Practice.Open(seed), knowledge), knowledge);

    internal static PracticeView View(PracticeEngine engine, KnowledgeBase knowledge)
    {
        var table = new AddressTable(Engine.From(engine.Layout));
        return new PracticeView(
            engine,
            LongSection.Of(table),
            [
                .. Hypotheses
                    .Of(table, knowledge)
                    .Select(h => h.Cause)
                    .Distinct()
                    .OrderBy(s => s.Family, StringComparer.Ordinal)
                    .ThenBy(s => s.Name, StringComparer.Ordinal)
                    .Select(s => new CauseHead(s.Id, s.Name, s.Family)),
            ]
        );
    }
}
