using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Trace;

/// <summary>What the shop writes: a story, and why.</summary>
public sealed record StoryWrite(StoryEntry Story, string Why, int Version);

/// <summary>Every story in use, those of the shop with their record, and what is not used and why.</summary>
/// <param name="Replaced">Of the shop's versions of stories that ship, how each shipped.</param>
public sealed record StoriesView(
    IReadOnlyList<StoryEntry> Stories,
    IReadOnlyList<ShopStory> Own,
    IReadOnlyList<StoryEntry> Replaced,
    IReadOnlyList<Problem> Problems
);

/// <summary>What closed cases say of the words in the stories.</summary>
/// <param name="Closed">Cases with a finding of a person that is proven or probable.</param>
public sealed record LearnedView(int Closed, IReadOnlyList<LearnedOffer> Offers);

/// <summary>The stories in use, the shop's own among them, and what its closed cases say of them.</summary>
public static class StoryEndpoints
{
    private const string Kind = "story";

    public static void MapStories(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/stories").WithTags("trace");
        group.MapGet("", AllAsync);
        group.MapGet("/learned", LearnedAsync);
        group.MapGet("/own.yaml", ExportAsync).Produces<string>(contentType: "application/yaml");
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group.MapGet("/{id:guid}/changes", ChangesAsync);
    }

    private static async Task<StoriesView> AllAsync(SleuthDb db, KnowledgeBase knowledge, KnowledgeShelf shelf, CancellationToken cancel)
    {
        var own = await db.Stories.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.StoryId).ToListAsync(cancel);
        return new StoriesView(
            [.. knowledge.Stories.OrderBy(s => s.Family, StringComparer.Ordinal).ThenBy(s => s.Name, StringComparer.Ordinal)],
            own,
            [.. own.Select(o => knowledge.Shipping(o.StoryId)).OfType<StoryEntry>()],
            shelf.Problems
        );
    }

    private static async Task<LearnedView> LearnedAsync(SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var ids = await db.Set<Conclusion>().Where(c => c.WithdrawnAt == null).Select(c => c.CaseId).Distinct().ToListAsync(cancel);
        var cases = await db
            .Cases.AsNoTracking()
            .Where(c => ids.Contains(c.Id))
            .Include(c => c.Findings.Where(f => f.WithdrawnAt == null))
            .Include(c => c.Conclusions)
            .AsSplitQuery()
            .ToListAsync(cancel);
        return new LearnedView(cases.Count(LearnedCounts.Closed), LearnedCounts.Of(cases, knowledge));
    }

    private static async Task<IResult> ExportAsync(SleuthDb db, CancellationToken cancel) =>
        Results.Text(
            StoryFile.Write(
                await db.Stories.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.StoryId).Select(s => s.Story).ToListAsync(cancel)
            ),
            "application/yaml"
        );

    private static Task<List<Change>> ChangesAsync(Guid id, SleuthDb db, CancellationToken cancel) => db.ShopChangesAsync(id, cancel);

    private static async Task<ShopStory> PutAsync(Guid id, StoryWrite entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var problems = knowledge.CheckOwn(entry.Story).ToList();
        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            problems.Add(new Problem("why", "The shop’s knowledge needs a reason.", "Write what it rests on: which engines, whose experience."));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        var db = recorder.Db;
        var standing = await db.Stories.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (standing is not null && standing.Version != entry.Version)
        {
            return entry.Version == 0 && standing.Version == 1 ? standing : throw new ConflictException(entry, standing);
        }

        if (await db.Stories.AnyAsync(s => s.Id != id && s.StoryId == entry.Story.Id && s.WithdrawnAt == null, cancel))
        {
            throw new ProblemException(
                new Problem("id", $"The shop has its own “{entry.Story.Id}” already.", "Change that one, or give this one another id.")
            );
        }

        if (standing is not null && standing.StoryId != entry.Story.Id)
        {
            throw new ProblemException(new Problem("id", "Cases may name the story by its id.", "Keep the id, or take it back and write a new one."));
        }

        var before = standing is null ? null : JsonSerializer.Serialize(standing, CaseFile.Json);
        var story = standing ?? db.Stories.Add(new ShopStory { Id = id, StoryId = entry.Story.Id }).Entity;
        story.Story = entry.Story;
        story.Story.Shop = true;
        story.Why = entry.Why.Trim();
        story.WithdrawnAt = null;
        return await SaveAsync(story, before, db, cancel);
    }

    private static Task<ShopStory> WithdrawAsync(Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.Db.WithdrawFromShopAsync<ShopStory>(Kind, id, withdrawal, cancel);

    private static async Task<ShopStory> SaveAsync(ShopStory story, string? before, SleuthDb db, CancellationToken cancel)
    {
        db.StampForShop(Kind, story, before);
        try
        {
            await db.SaveChangesAsync(cancel);
            return story;
        }
        catch (DbUpdateException e)
            when (e is DbUpdateConcurrencyException
                || e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation }
            )
        {
            db.ChangeTracker.Clear();
            var other = await db.Stories.AsNoTracking().SingleOrDefaultAsync(s => s.StoryId == story.StoryId && s.WithdrawnAt == null, cancel);
            return other?.Id == story.Id && other.Version == 1 ? other : throw new ConflictException(story, (object?)other ?? story);
        }
    }
}
