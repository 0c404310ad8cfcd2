using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Trace;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

public sealed record HomeworkWrite(string Name, DateOnly? Until, int Version);

/// <summary>How one of the class did. Told only when all are told.</summary>
/// <param name="LogScore">Bits; null while it is blind, and where it never came in.</param>
public sealed record HomeworkRow(string Person, bool In, bool? Right, double? LogScore, double? Minutes);

/// <summary>A piece of homework on the board. Blind until all are in, or a teacher tells.</summary>
/// <param name="Mine">Whether whoever asks has handed it in; null where it is not his to do.</param>
public sealed record HomeworkLine(
    Guid Id,
    string Name,
    DateOnly? Until,
    bool Told,
    int In,
    int Of,
    bool? Mine,
    int Version,
    IReadOnlyList<HomeworkRow> Rows
);

/// <summary>An engine set as homework, as far as whoever does it has come.</summary>
/// <param name="Score">Null until it is told.</param>
public sealed record HomeworkView(
    Guid Id,
    string Name,
    DateOnly? Until,
    PracticeView Practice,
    IReadOnlyList<PracticeLook> Looks,
    IReadOnlyList<PracticeGuess> Guesses,
    bool In,
    int InOf,
    int Of,
    PracticeScore? Score
);

public sealed record HomeworkGuesses(IReadOnlyList<PracticeGuess> Guesses);

/// <summary>Engines to practise on that a class is set: what each looked at is kept, and nobody is told before all are in.</summary>
public static class HomeworkEndpoints
{
    internal const string Kind = "homework";

    /// <summary>Of two who write at once the second reads again, so many times.</summary>
    private const int MostTries = 20;

    public static void MapHomework(this RouteGroupBuilder api)
    {
        var ofClass = api.MapGroup("/classes/{classId:guid}/homework").WithTags("shop");
        ofClass.MapGet("", ListAsync).ProducesProblem(StatusCodes.Status404NotFound);
        ofClass
            .MapPut("/{id:guid}", SetAsync)
            .NotForStudents()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        ofClass
            .MapPost("/{id:guid}/tell", TellAsync)
            .NotForStudents()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status404NotFound);
        ofClass
            .MapPost("/{id:guid}/withdraw", WithdrawAsync)
            .NotForStudents()
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict);
        var one = api.MapGroup("/homework/{id:guid}").WithTags("shop");
        one.MapGet("", ViewAsync).ProducesProblem(StatusCodes.Status404NotFound);
        one.MapPost("/looks", LookAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        one.MapPost("/in", HandInAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <summary>All is told once everybody of the class has handed it in, or a teacher tells.</summary>
    private static bool IsTold(Homework of, IReadOnlyList<Guid> people, IReadOnlyCollection<HomeworkTry> tries) =>
        of.ToldAt is not null || (people.Count > 0 && people.All(p => tries.Any(t => t.Person == p && t.InAt is not null)));

    private static async Task<IReadOnlyList<HomeworkLine>> ListAsync(Guid classId, SleuthDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var (_, people) = await db.ClassOfAsync(classId, user, cancel);
        return await LinesAsync(db, classId, people, Students.IdOf(user), cancel);
    }

    internal static async Task<IReadOnlyList<HomeworkLine>> LinesAsync(
        SleuthDb db,
        Guid classId,
        IReadOnlyList<Guid> people,
        Guid me,
        CancellationToken cancel
    )
    {
        var all = await db.Homework.AsNoTracking().Where(h => h.ClassId == classId && h.WithdrawnAt == null).OrderBy(h => h.Id).ToListAsync(cancel);
        var ids = all.Select(h => h.Id).ToArray();
        var tries = (await db.HomeworkTries.AsNoTracking().Where(t => ids.Contains(t.HomeworkId)).ToListAsync(cancel)).ToLookup(t => t.HomeworkId);
        var names = await db.NamesAsync(people, cancel);
        return
        [
            .. all.Select(h =>
            {
                var told = IsTold(h, people, [.. tries[h.Id]]);
                var its = tries[h.Id].Where(t => t.InAt is not null).ToDictionary(t => t.Person);
                var rows = people
                    .Select(p =>
                    {
                        var mine = its.GetValueOrDefault(p);
                        return new HomeworkRow(
                            names.GetValueOrDefault(p, ""),
                            mine is not null,
                            told ? mine?.Right : null,
                            told ? mine?.LogScore : null,
                            told ? mine?.Minutes : null
                        );
                    })
                    .OrderByDescending(r => r.LogScore ?? double.NegativeInfinity)
                    .ThenBy(r => r.Person, StringComparer.Ordinal);
                return new HomeworkLine(
                    h.Id,
                    h.Name,
                    h.Until,
                    told,
                    people.Count(its.ContainsKey),
                    people.Count,
                    people.Contains(me) ? its.ContainsKey(me) : null,
                    h.Version,
                    [.. rows]
                );
            }),
        ];
    }

    private static async Task<HomeworkLine> SetAsync(
        Guid classId,
        Guid id,
        HomeworkWrite entry,
        Recorder recorder,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await db.TaughtAsync(classId, user, cancel);
        if (string.IsNullOrWhiteSpace(entry.Name))
        {
            throw new ProblemException(Problem.Of("name", "shop.homework-needs-name"));
        }

        var recorded = await db.Homework.SingleOrDefaultAsync(h => h.Id == id, cancel);
        if (recorded is not null && (recorded.ClassId != classId || (recorded.Version != entry.Version && !IsThis(recorded))))
        {
            throw new ConflictException(entry, recorded);
        }

        if (recorded is null || recorded.Version == entry.Version)
        {
            var before = recorded is null ? null : ShopRecorder.Json(recorded);
            var made =
                recorded
                ?? db.Homework.Add(
                    new Homework
                    {
                        Id = id,
                        ClassId = classId,
                        Seed = RandomNumberGenerator.GetInt32(Practice.MostOpen + 1, Practice.MostDrawn),
                    }
                ).Entity;
            (made.Name, made.Until) = (entry.Name.Trim(), entry.Until);
            db.StampForShop(Kind, made, before);
            await db.SaveOnceAsync(made, IsThis, theirs => new ConflictException(entry, theirs), cancel);
        }

        return (await ListAsync(classId, db, user, cancel)).Single(l => l.Id == id);

        bool IsThis(Homework there) => there.Version == entry.Version + 1 && (there.Name, there.Until) == (entry.Name.Trim(), entry.Until);
    }

    private static async Task<HomeworkLine> TellAsync(Guid classId, Guid id, Recorder recorder, ClaimsPrincipal user, CancellationToken cancel)
    {
        var db = recorder.Db;
        await db.TaughtAsync(classId, user, cancel);
        var of =
            await db.Homework.SingleOrDefaultAsync(h => h.Id == id && h.ClassId == classId && h.WithdrawnAt == null, cancel)
            ?? throw Problems.NotHere(Kind);
        if (of.ToldAt is null)
        {
            var before = ShopRecorder.Json(of);
            of.ToldAt = db.Now();
            db.StampForShop(Kind, of, before);
            await db.SaveOnceAsync(of, theirs => theirs.ToldAt is not null, theirs => new ConflictException(id, theirs), cancel);
        }

        return (await ListAsync(classId, db, user, cancel)).Single(l => l.Id == id);
    }

    private static async Task<Homework> WithdrawAsync(
        Guid classId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        await recorder.Db.TaughtAsync(classId, user, cancel);
        return await recorder.Db.Homework.AnyAsync(h => h.Id == id && h.ClassId == classId, cancel)
            ? await recorder.Db.WithdrawFromShopAsync<Homework>(Kind, id, withdrawal, cancel)
            : throw Problems.NotHere(Kind);
    }

    /// <summary>Homework for somebody who is set it, or teaches it.</summary>
    private static async Task<(Homework Of, IReadOnlyList<Guid> People)> FindAsync(
        SleuthDb db,
        Guid id,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var of =
            await db.Homework.AsNoTracking().SingleOrDefaultAsync(h => h.Id == id && h.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Kind);
        return (of, (await db.ClassOfAsync(of.ClassId, user, cancel)).People);
    }

    private static async Task<HomeworkView> ViewAsync(Guid id, SleuthDb db, KnowledgeBase knowledge, ClaimsPrincipal user, CancellationToken cancel)
    {
        var (of, people) = await FindAsync(db, id, user, cancel);
        return await SeenAsync(of, people, db, knowledge, Students.IdOf(user), cancel);
    }

    private static async Task<HomeworkView> SeenAsync(
        Homework of,
        IReadOnlyList<Guid> people,
        SleuthDb db,
        KnowledgeBase knowledge,
        Guid me,
        CancellationToken cancel
    )
    {
        var tries = await db.HomeworkTries.AsNoTracking().Where(t => t.HomeworkId == of.Id).ToListAsync(cancel);
        var mine = tries.Find(t => t.Person == me) ?? new HomeworkTry();
        return new HomeworkView(
            of.Id,
            of.Name,
            of.Until,
            // Its number stays ours: whoever knew it could ask for the truth.
            PracticeEndpoints.View(Practice.Arrive(of.Seed, knowledge) with { Seed = 0 }, knowledge),
            [.. mine.Looks.Select(l => Practice.Look(of.Seed, l.Sign, l.Place, knowledge))],
            mine.Guesses,
            mine.InAt is not null,
            people.Count(p => tries.Exists(t => t.Person == p && t.InAt is not null)),
            people.Count,
            mine.InAt is not null && IsTold(of, people, tries) ? Score(of, mine, knowledge) : null
        );
    }

    private static PracticeScore Score(Homework of, HomeworkTry mine, KnowledgeBase knowledge) =>
        Practice.Commit(of.Seed, [.. mine.Looks.Select(l => (l.Sign, l.Place))], mine.Guesses, knowledge);

    /// <summary>Looks for a sign at a place, and keeps that it was looked for. Looked for again it costs nothing more.</summary>
    private static async Task<PracticeLook> LookAsync(
        Guid id,
        LookedAt entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var (of, people) = await FindAsync(recorder.Db, id, user, cancel);
        var look = Practice.Look(of.Seed, entry.Sign, entry.Place, knowledge);
        await WriteAsync(
            recorder.Db,
            of,
            people,
            user,
            mine =>
            {
                var made = new HomeworkLook(look.Sign, look.Place);
                mine.Looks = mine.Looks.Contains(made) ? mine.Looks : [.. mine.Looks, made];
            },
            cancel
        );
        return look;
    }

    private static async Task<HomeworkView> HandInAsync(
        Guid id,
        HomeworkGuesses entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var (of, people) = await FindAsync(db, id, user, cancel);
        await WriteAsync(
            db,
            of,
            people,
            user,
            mine =>
            {
                mine.Guesses = [.. entry.Guesses];
                var score = Score(of, mine, knowledge);
                (mine.InAt, mine.Right, mine.LogScore, mine.Minutes) = (db.Now(), score.Right, score.LogScore, score.Minutes);
            },
            cancel,
            once: true
        );
        return await SeenAsync(of, people, db, knowledge, Students.IdOf(user), cancel);
    }

    /// <param name="once">What is in already is the answer to the same request sent twice; any other write into it is refused.</param>
    private static async Task WriteAsync(
        SleuthDb db,
        Homework of,
        IReadOnlyList<Guid> people,
        ClaimsPrincipal user,
        Action<HomeworkTry> change,
        CancellationToken cancel,
        bool once = false
    )
    {
        var me = Students.IdOf(user);
        if (!people.Contains(me))
        {
            throw new ProblemException(Problem.Of("person", "server.homework-of-the-class"));
        }

        for (var attempt = 0; ; attempt++)
        {
            var mine =
                await db.HomeworkTries.SingleOrDefaultAsync(t => t.HomeworkId == of.Id && t.Person == me, cancel)
                ?? db.HomeworkTries.Add(
                    new HomeworkTry
                    {
                        Id = Guid.CreateVersion7(),
                        HomeworkId = of.Id,
                        Person = me,
                    }
                ).Entity;
            if (mine.InAt is not null)
            {
                if (once)
                {
                    return;
                }

                throw new ProblemException(Problem.Of("homework", "server.homework-is-in"));
            }

            if (of.ToldAt is not null)
            {
                throw new ProblemException(Problem.Of("homework", "server.homework-is-told"));
            }

            change(mine);
            mine.Version++;
            try
            {
                await db.SaveChangesAsync(cancel);
                return;
            }
            catch (DbUpdateException e)
                when (attempt < MostTries
                    && e is DbUpdateConcurrencyException or { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } }
                )
            {
                // The same person on two devices, or pressed twice.
                db.ChangeTracker.Clear();
            }
        }
    }
}
