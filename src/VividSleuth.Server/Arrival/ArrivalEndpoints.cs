using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Build;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;

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

/// <summary>A case of the same engine, which was here before, or of another of its kind.</summary>
/// <param name="SameEngine">By its serial number; else only its name is the same.</param>
/// <param name="Day">When the last was written in it.</param>
/// <param name="Causes">Names of the causes that somebody wrote down as found.</param>
/// <param name="RanOn">The day on which it ran again; null where nobody said.</param>
public sealed record EarlierCase(
    Guid Id,
    string Title,
    bool SameEngine,
    DateOnly Day,
    decimal? Hours,
    string Complaint,
    IReadOnlyList<string> Causes,
    DateOnly? RanOn
);

public static class ArrivalEndpoints
{
    public static void MapArrival(this RouteGroupBuilder api)
    {
        api.MapGet("/cases/{id:guid}/before", BeforeAsync).WithTags("arrival").NotForStudents();
        api.MapGet("/cases/{id:guid}/kind", KindAsync).WithTags("arrival").NotForStudents();
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
                    if (
                        prefix is not null
                        && await recorder.Db.SeatAsync(id, cancel) is { } seat
                        && seat.Class.PrefixOf(seat.Bench.Number) is var own
                        && !own.Equals(prefix, StringComparison.Ordinal)
                    )
                    {
                        throw new ProblemException(Problem.Of("prefix", "server.prefix-of-bench", ("prefix", own)));
                    }

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

    /// <summary>Other cases of the engine with this serial number, the latest first.</summary>
    private static async Task<IReadOnlyList<EarlierCase>> BeforeAsync(Guid id, SleuthDb db, KnowledgeBase knowledge, CancellationToken cancel)
    {
        var of = await db.Cases.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) ?? throw Problems.NotHere("case");
        return
        [
            .. await ToldAsync(db.Cases.OfTheEngine(of).Take(MostBefore), sameEngine: true, knowledge, cancel),
            .. await ToldAsync(db.Cases.OfOthersOfTheKind(of).Take(MostBefore), sameEngine: false, knowledge, cancel),
        ];
    }

    /// <summary>What failed how often in other engines of its kind that came here.</summary>
    private static async Task<KindFailures> KindAsync(
        Guid id,
        SleuthDb now,
        LateReads late,
        CaseDesk desk,
        BuildDesk build,
        CasebookKeeper keeper,
        CancellationToken cancel
    )
    {
        await keeper.CatchUpAsync(now, desk, build, cancel);
        var of = await desk.HeadAsync(id, cancel);
        var db = await late.DbAsync(cancel);
        // Kept beside each case a moment after it is written: its findings need not be read.
        var others = await db
            .Cases.OfOthersOfTheKind(of)
            .Take(MostOfAKind)
            .Join(
                db.CaseIndex,
                c => c.Id,
                i => i.CaseId,
                (c, i) =>
                    new
                    {
                        c.Id,
                        i.Looked,
                        i.Damaged,
                        i.Began,
                    }
            )
            .ToListAsync(cancel);
        return KindFailures.Of(
            [
                .. others.Select(o => new KindCase(
                    o.Id,
                    o.Looked.ToHashSet(StringComparer.Ordinal),
                    o.Damaged.ToHashSet(StringComparer.Ordinal),
                    o.Began
                )),
            ],
            of.Places()
        );
    }

    /// <summary>The newest of a kind that are counted.</summary>
    private const int MostOfAKind = 2000;

    private static async Task<IEnumerable<EarlierCase>> ToldAsync(
        IQueryable<EngineCase> cases,
        bool sameEngine,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var others = await cases
            .Select(c => new
            {
                c.Id,
                c.Title,
                c.At,
                c.Hours,
                c.Complaint,
                Causes = c.Conclusions.Where(x => x.WithdrawnAt == null && x.Cause != "").Select(x => x.Cause).ToList(),
                Ran = c
                    .BuildTasks.Where(t => t.WithdrawnAt == null && t.Of == Arising.RunKey && t.Mark == TaskMark.Through)
                    .Max(t => (DateTimeOffset?)t.At),
            })
            .ToListAsync(cancel);
        return
        [
            .. others.Select(o => new EarlierCase(
                o.Id,
                o.Title,
                sameEngine,
                DateOnly.FromDateTime(o.At.UtcDateTime),
                o.Hours,
                o.Complaint,
                [.. o.Causes.Distinct(StringComparer.Ordinal).Select(c => knowledge.Cause(c)?.Name ?? c)],
                o.Ran is { } ran ? DateOnly.FromDateTime(ran.UtcDateTime) : null
            )),
        ];
    }

    /// <summary>So many are told: an engine that came oftener is a customer of its own.</summary>
    private const int MostBefore = 20;
}
