using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>A class in the list of them.</summary>
/// <param name="Mine">Whether whoever asks teaches it or works in it.</param>
public sealed record ClassLine(SchoolClass Class, IReadOnlyList<string> Teachers, int Benches, int People, bool Mine);

/// <summary>Somebody who can be put to a bench, or teach.</summary>
public sealed record ClassPerson(Guid Id, string Name, string Role);

public sealed record ClassWrite(
    string Name,
    string Mark,
    IReadOnlyList<Guid> Teachers,
    IReadOnlyList<string> SecondLooks,
    int StuckAfter,
    int Version
);

/// <summary>A bench to be set up.</summary>
public sealed record NewBench(Guid Id, int Number, IReadOnlyList<Guid> People);

/// <summary>Benches to be set up in one go, each with a case of its own.</summary>
/// <param name="TemplateCase">The case that all begin like.</param>
public sealed record BenchesWrite(Guid TemplateCase, IReadOnlyList<NewBench> Benches);

public sealed record BenchPeople(IReadOnlyList<Guid> People, int Version);

/// <summary>A bench on the board.</summary>
/// <param name="Prefix">What stands before the marks of its engine.</param>
/// <param name="LastAt">When its case was last written in.</param>
/// <param name="StuckSince">Null where it is not stuck.</param>
public sealed record BenchLine(
    Bench Bench,
    string Prefix,
    IReadOnlyList<string> People,
    BenchStanding Standing,
    DateTimeOffset? LastAt,
    DateTimeOffset? StuckSince
);

/// <summary>A column of the board.</summary>
/// <param name="SecondLook">A second pair of eyes looks before a teacher signs.</param>
public sealed record BoardSection(string Id, Fact Name, bool SecondLook);

/// <summary>Benches by sections.</summary>
/// <param name="Waiting">Ids of benches that wait for a signature, who waits longest on top.</param>
public sealed record ClassBoardView(
    SchoolClass Class,
    IReadOnlyList<string> Teachers,
    bool MaySign,
    IReadOnlyList<BoardSection> Sections,
    IReadOnlyList<BenchLine> Benches,
    IReadOnlyList<Guid> Waiting
);

/// <summary>A bench with what its section has to show, for whoever stands at it to sign.</summary>
public sealed record BenchView(SchoolClass Class, BenchLine Line, bool MaySign, bool SecondLook, SectionEvidence? Evidence);

/// <summary>The class and bench of a case, for those who work on it.</summary>
/// <param name="People">All at the bench.</param>
/// <param name="SecondLooks">Steps at which a second pair of eyes looks before a teacher signs.</param>
public sealed record SeatView(
    Guid ClassId,
    string ClassName,
    Guid BenchId,
    string Prefix,
    Guid CaseId,
    IReadOnlyList<string> People,
    IReadOnlyList<string> Teachers,
    IReadOnlyList<string> SecondLooks,
    bool MaySign
);

/// <param name="Seat">Null where the case is on no bench of a class.</param>
public sealed record SeatOfCase(SeatView? Seat);

/// <summary>Classes, their benches, and the board that their teacher walks by.</summary>
public static class ClassEndpoints
{
    internal const string Kind = "class";
    internal const string Entry = "bench";

    public static void MapClasses(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/classes").WithTags("shop");
        group.MapGet("", ListAsync).ForStudents();
        group.MapGet("/people", PeopleAsync);
        group.MapGet("/{id:guid}/board", BoardAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapPut("/{id:guid}", PutAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", WithdrawAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        group
            .MapPost("/{id:guid}/benches", SetUpAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/seats", SeatsAsync).WithTags("shop").ForStudents();
        var bench = api.MapGroup("/benches/{id:guid}").WithTags("shop");
        bench.MapGet("", BenchAsync).ProducesProblem(StatusCodes.Status404NotFound);
        bench
            .MapPut("", SeatPeopleAsync)
            .RequireAuthorization(Policies.Write)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bench.MapPost("/withdraw", WithdrawBenchAsync).RequireAuthorization(Policies.Write).ProducesProblem(StatusCodes.Status409Conflict);
        api.MapGet("/cases/{caseId:guid}/seat", SeatOfCaseAsync).WithTags("shop").ForStudents();
        api.MapClassPapers();
        api.MapClassStudies();
    }

    /// <summary>The class, for those who teach it and for leads; others are told that it is not here.</summary>
    internal static async Task<SchoolClass> TaughtAsync(this SleuthDb db, Guid id, ClaimsPrincipal user, CancellationToken cancel)
    {
        var found =
            await db.Classes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id && c.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Kind);
        Teaching(found, user);
        return found;
    }

    /// <summary>The class of whoever asks: a student meets only the one that he works in.</summary>
    internal static async Task<(SchoolClass Class, IReadOnlyList<Guid> People)> ClassOfAsync(
        this SleuthDb db,
        Guid id,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var of = await db.Classes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id && c.WithdrawnAt == null, cancel);
        var people = of is null ? [] : (await db.BenchesAsync(id, cancel)).SelectMany(b => b.People).Distinct().ToArray();
        return of is not null && (!user.IsInRole(Roles.Student) || people.Contains(Students.IdOf(user)))
            ? (of, people)
            : throw Problems.NotHere(Kind);
    }

    private static void Teaching(SchoolClass of, ClaimsPrincipal user)
    {
        if (!user.IsInRole(Roles.Lead) && !of.Teachers.Contains(Students.IdOf(user)))
        {
            throw new ProblemException(Problem.Of("teachers", "server.not-your-class", ("name", of.Name)));
        }
    }

    internal static async Task<IReadOnlyList<Bench>> BenchesAsync(this SleuthDb db, Guid classId, CancellationToken cancel) =>
        await db.Benches.AsNoTracking().Where(b => b.ClassId == classId && b.WithdrawnAt == null).OrderBy(b => b.Number).ToListAsync(cancel);

    internal static async Task<IReadOnlyDictionary<Guid, string>> NamesAsync(this SleuthDb db, IEnumerable<Guid> people, CancellationToken cancel)
    {
        string[] ids = [.. people.Distinct().Select(p => p.ToString())];
        return await db.Users.Where(u => ids.Contains(u.Id)).ToDictionaryAsync(u => Guid.Parse(u.Id), u => u.UserName!, cancel);
    }

    private static IReadOnlyList<string> Named(IEnumerable<Guid> people, IReadOnlyDictionary<Guid, string> names) =>
        [.. people.Select(p => names.GetValueOrDefault(p, "")).Where(n => n.Length > 0)];

    private static async Task<IReadOnlyList<ClassLine>> ListAsync(SleuthDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var me = Students.IdOf(user);
        var classes = await db.Classes.AsNoTracking().Where(c => c.WithdrawnAt == null).OrderBy(c => c.Name).ThenBy(c => c.Id).ToListAsync(cancel);
        var benches = (await db.Benches.AsNoTracking().Where(b => b.WithdrawnAt == null).ToListAsync(cancel)).ToLookup(b => b.ClassId);
        var names = await db.NamesAsync(classes.SelectMany(c => c.Teachers), cancel);
        return
        [
            .. classes
                .Select(c => new ClassLine(
                    c,
                    Named(c.Teachers, names),
                    benches[c.Id].Count(),
                    benches[c.Id].SelectMany(b => b.People).Distinct().Count(),
                    c.Teachers.Contains(me) || benches[c.Id].Any(b => b.People.Contains(me))
                ))
                .Where(l => l.Mine || !user.IsInRole(Roles.Student)),
        ];
    }

    private static async Task<IReadOnlyList<ClassPerson>> PeopleAsync(SleuthDb db, CancellationToken cancel) =>
        [
            .. (
                await (
                    from u in db.Users.AsNoTracking()
                    join ur in db.UserRoles on u.Id equals ur.UserId
                    join r in db.Roles on ur.RoleId equals r.Id
                    where u.ShutOutAt == null
                    orderby u.UserName
                    select new
                    {
                        u.Id,
                        Name = u.UserName!,
                        Role = r.Name!,
                    }
                ).ToListAsync(cancel)
            ).Select(p => new ClassPerson(Guid.Parse(p.Id), p.Name, p.Role)),
        ];

    private static async Task<SchoolClass> PutAsync(Guid id, ClassWrite entry, Recorder recorder, ClaimsPrincipal user, CancellationToken cancel)
    {
        var db = recorder.Db;
        var mark = entry.Mark.Trim().ToUpperInvariant();
        var recorded = await db.Classes.SingleOrDefaultAsync(c => c.Id == id, cancel);
        if (recorded is not null)
        {
            Teaching(recorded, user);
        }

        if (recorded is not null && recorded.Version != entry.Version)
        {
            return IsThis(recorded) ? recorded : throw new ConflictException(entry, recorded);
        }

        var before = recorded is null ? null : ShopRecorder.Json(recorded);
        var made = recorded ?? new SchoolClass { Id = id };
        if (recorded is not null && made.Mark != mark && await db.Benches.AnyAsync(b => b.ClassId == id, cancel))
        {
            // It stands on caps and tapes by now.
            throw new ProblemException(Problem.Of("mark", "shop.class-mark-stays", ("mark", made.Mark)));
        }

        (made.Name, made.Mark, made.StuckAfter) = (entry.Name.Trim(), mark, entry.StuckAfter);
        (made.Teachers, made.SecondLooks) = ([.. entry.Teachers.Distinct()], [.. entry.SecondLooks.Distinct(StringComparer.Ordinal)]);
        var problems = made.Check().ToList();
        var teachers = (await PeopleAsync(db, cancel)).Where(p => p.Role is Roles.Lead or Roles.Mechanic).Select(p => p.Id).ToHashSet();
        if (made.Teachers.Exists(t => !teachers.Contains(t)))
        {
            problems.Add(Problem.Of("teachers", "shop.cannot-teach"));
        }

        if (await db.Classes.AnyAsync(c => c.Id != id && c.WithdrawnAt == null && c.Mark == made.Mark, cancel))
        {
            problems.Add(Problem.Of("mark", "shop.class-mark-taken", ("mark", made.Mark)));
        }

        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }

        if (recorded is null)
        {
            db.Classes.Add(made);
        }

        db.StampForShop(Kind, made, before);
        return await db.SaveOnceAsync(made, IsThis, theirs => new ConflictException(entry, theirs), cancel);

        bool IsThis(SchoolClass there) =>
            there.Version == entry.Version + 1
            && (there.Name, there.Mark, there.StuckAfter) == (entry.Name.Trim(), mark, entry.StuckAfter)
            && there.Teachers.SequenceEqual(entry.Teachers.Distinct())
            && there.SecondLooks.SequenceEqual(entry.SecondLooks.Distinct(StringComparer.Ordinal), StringComparer.Ordinal);
    }

    private static async Task<SchoolClass> WithdrawAsync(
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        Teaching(await recorder.Db.Classes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) ?? throw Problems.NotHere(Kind), user);
        return await recorder.Db.WithdrawFromShopAsync<SchoolClass>(Kind, id, withdrawal, cancel);
    }

    /// <summary>Sets up benches, all or none, each with a case like the template. One that is there already stays as it is.</summary>
    private static async Task<IReadOnlyList<Bench>> SetUpAsync(
        Guid id,
        BenchesWrite entry,
        Recorder recorder,
        CaseDesk desk,
        CasebookKeeper keeper,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var of = await db.TaughtAsync(id, user, cancel);
        if (entry.Benches.Count is 0 or > SchoolClass.MostBenches)
        {
            throw new ProblemException(Problem.Of("benches", "shop.benches-in-one-go", ("most", SchoolClass.MostBenches)));
        }

        var there = await db.BenchesAsync(id, cancel);
        var known = there.Select(b => b.Id).ToHashSet();
        NewBench[] fresh = [.. entry.Benches.Where(b => !known.Contains(b.Id)).DistinctBy(b => b.Id)];
        await CheckAsync(db, of, fresh, there, cancel);
        if (fresh.Length == 0)
        {
            return there;
        }

        if (!await db.Cases.AnyAsync(c => c.Id == entry.TemplateCase && c.WithdrawnAt == null, cancel))
        {
            throw new ProblemException(Problem.Of("templateCase", "shop.no-such-template"));
        }

        var template = await desk.OpenAsync(entry.TemplateCase, cancel);
        // What was read of the template is not what these are numbered by.
        db.KnownNumbering = null;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        foreach (var b in fresh)
        {
            var prefix = of.PrefixOf(b.Number);
            var made = Bench.CaseLike(template, $"{of.Name} {prefix}", prefix);
            made.Id = DerivedId.Of(b.Id, "case");
            foreach (var (record, n) in made.Records().Select((r, n) => (r, n)))
            {
                (record.Id, record.CaseId) = (DerivedId.Of(b.Id, $"record {n}"), made.Id);
            }

            db.Cases.Add(made);
            var bench = new Bench
            {
                Id = b.Id,
                ClassId = id,
                Number = b.Number,
                CaseId = made.Id,
                People = [.. b.People.Distinct()],
            };
            db.Benches.Add(bench);
            db.StampForShop(Entry, bench, before: null);
        }

        try
        {
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Another set up a bench of that number, or the same request came twice at once: that one won.
            await transaction.RollbackAsync(cancel);
            db.ChangeTracker.Clear();
            there = await db.BenchesAsync(id, cancel);
            return fresh.All(f => there.Any(b => b.Id == f.Id)) ? there : throw new ConflictException(entry, there);
        }

        foreach (var b in fresh)
        {
            keeper.Written(DerivedId.Of(b.Id, "case"));
        }

        return await db.BenchesAsync(id, cancel);
    }

    private static async Task CheckAsync(
        SleuthDb db,
        SchoolClass of,
        IReadOnlyList<NewBench> fresh,
        IReadOnlyList<Bench> there,
        CancellationToken cancel
    )
    {
        var problems = new List<Problem>();
        var numbers = there.Select(b => b.Number).ToHashSet();
        var prefixes = fresh.Select(b => of.PrefixOf(b.Number)).ToArray();
        var taken = await db.Cases.Where(c => c.WithdrawnAt == null && prefixes.Contains(c.Prefix)).Select(c => c.Prefix).ToListAsync(cancel);
        foreach (var b in fresh)
        {
            if (b.Number is < 1 or > SchoolClass.MostBenches)
            {
                problems.Add(Problem.Of("number", "shop.bench-number", ("most", SchoolClass.MostBenches)));
            }
            else if (!numbers.Add(b.Number) || taken.Contains(of.PrefixOf(b.Number)))
            {
                problems.Add(Problem.Of("number", "shop.bench-there", ("prefix", of.PrefixOf(b.Number))));
            }
        }

        problems.AddRange(await SeatedAsync(db, [.. fresh.Select(b => b.People)], [], of.Id, cancel));
        if (problems.Count > 0)
        {
            throw new ProblemException(problems);
        }
    }

    /// <summary>What speaks against seating people: nobody sits at two benches of a class, and only who is of the shop sits at one.</summary>
    private static async Task<IEnumerable<Problem>> SeatedAsync(
        SleuthDb db,
        IReadOnlyList<IReadOnlyList<Guid>> groups,
        IReadOnlyList<Guid> but,
        Guid classId,
        CancellationToken cancel
    )
    {
        var people = await PeopleAsync(db, cancel);
        var known = people.ToDictionary(p => p.Id, p => p.Name);
        var seated = (await db.BenchesAsync(classId, cancel)).Where(b => !but.Contains(b.Id)).SelectMany(b => b.People).ToList();
        var problems = new List<Problem>();
        foreach (var group in groups)
        {
            Guid[] all = [.. group.Distinct()];
            if (all.Length > Bench.MostPeople)
            {
                problems.Add(Problem.Of("people", "shop.bench-people", ("most", Bench.MostPeople)));
            }

            foreach (var person in all)
            {
                if (!known.TryGetValue(person, out var name))
                {
                    problems.Add(Problem.Of("people", "shop.nobody-of-the-shop"));
                }
                else if (seated.Contains(person))
                {
                    problems.Add(Problem.Of("people", "shop.sits-elsewhere", ("name", name)));
                }
            }

            seated.AddRange(all);
        }

        return problems;
    }

    private static async Task<Bench> SeatPeopleAsync(Guid id, BenchPeople entry, Recorder recorder, ClaimsPrincipal user, CancellationToken cancel)
    {
        var db = recorder.Db;
        var bench = await db.Benches.SingleOrDefaultAsync(b => b.Id == id && b.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Entry);
        await db.TaughtAsync(bench.ClassId, user, cancel);
        Guid[] people = [.. entry.People.Distinct()];
        if (bench.Version != entry.Version)
        {
            return IsThis(bench) ? bench : throw new ConflictException(entry, bench);
        }

        if ((await SeatedAsync(db, [people], [id], bench.ClassId, cancel)).ToArray() is { Length: > 0 } problems)
        {
            throw new ProblemException(problems);
        }

        var before = ShopRecorder.Json(bench);
        bench.People = [.. people];
        db.StampForShop(Entry, bench, before);
        return await db.SaveOnceAsync(bench, IsThis, theirs => new ConflictException(entry, theirs), cancel);

        bool IsThis(Bench there) => there.Version == entry.Version + 1 && there.People.SequenceEqual(people);
    }

    private static async Task<Bench> WithdrawBenchAsync(
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var bench = await recorder.Db.Benches.AsNoTracking().SingleOrDefaultAsync(b => b.Id == id, cancel) ?? throw Problems.NotHere(Entry);
        await recorder.Db.TaughtAsync(bench.ClassId, user, cancel);
        return await recorder.Db.WithdrawFromShopAsync<Bench>(Entry, id, withdrawal, cancel);
    }

    private static async Task<ClassBoardView> BoardAsync(
        Guid id,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var of =
            await db.Classes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id && c.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Kind);
        var lines = await LinesAsync(of, db, desk, cache, cancel);
        return new ClassBoardView(
            of,
            Named(of.Teachers, await db.NamesAsync(of.Teachers, cancel)),
            new Seat(of, new Bench()).MaySign(user),
            [
                .. lines
                    .SelectMany(l => l.Standing.Sections)
                    .DistinctBy(s => s.Id)
                    .Select(s => new BoardSection(s.Id, s.Name, of.SecondLooks.Contains(s.Id))),
            ],
            lines,
            [
                .. lines
                    .SelectMany(l => l.Standing.Sections.Where(s => s.State == SectionState.Waiting).Select(s => (l.Bench.Id, s.Since)))
                    .OrderBy(w => w.Since)
                    .Select(w => w.Id)
                    .Distinct(),
            ]
        );
    }

    internal static async Task<IReadOnlyList<BenchLine>> LinesAsync(
        SchoolClass of,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        CancellationToken cancel
    )
    {
        var benches = await db.BenchesAsync(of.Id, cancel);
        var cases = benches.Select(b => b.CaseId).ToArray();
        var states = await db
            .States.AsNoTracking()
            .Where(s => cases.Contains(s.CaseId))
            .ToDictionaryAsync(s => s.CaseId, s => s.Revision > 1 ? s.LastAt : (DateTimeOffset?)null, cancel);
        var names = await db.NamesAsync(benches.SelectMany(b => b.People), cancel);
        var lines = new List<BenchLine>();
        foreach (var bench in benches)
        {
            var standing = await StandingAsync(bench.CaseId, desk, cache, cancel);
            var last = states.GetValueOrDefault(bench.CaseId);
            lines.Add(
                new BenchLine(
                    bench,
                    of.PrefixOf(bench.Number),
                    Named(bench.People, names),
                    standing,
                    last,
                    ClassBoard.StuckSince(standing, last, states.Values, of.StuckAfter, db.Now())
                )
            );
        }

        return lines;
    }

    /// <summary>Kept by what it was worked out of: a board is asked for again and again, and most of its cases are as they were.</summary>
    private static async Task<BenchStanding> StandingAsync(Guid caseId, CaseDesk desk, IMemoryCache cache, CancellationToken cancel)
    {
        const int Bytes = 8 * 1024;
        var key = $"bench {caseId} {await desk.TagAsync(caseId, cancel)}";
        if (cache.TryGetValue(key, out BenchStanding? known))
        {
            return known!;
        }

        var standing = ClassBoard.Of(await desk.OpenAsync(caseId, cancel));
        return cache.Set(key, standing, new MemoryCacheEntryOptions { Size = Bytes, SlidingExpiration = TimeSpan.FromHours(1) });
    }

    /// <param name="section">Id of the section to be shown; the one that waits, else the one at which the bench stands, where none is named.</param>
    private static async Task<BenchView> BenchAsync(
        Guid id,
        string? section,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var bench =
            await db.Benches.AsNoTracking().SingleOrDefaultAsync(b => b.Id == id && b.WithdrawnAt == null, cancel) ?? throw Problems.NotHere(Entry);
        var of =
            await db.Classes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == bench.ClassId && c.WithdrawnAt == null, cancel)
            ?? throw Problems.NotHere(Entry);
        var line = (await LinesAsync(of, db, desk, cache, cancel)).Single(l => l.Bench.Id == id);
        var shown =
            section
            ?? line.Standing.Sections.FirstOrDefault(s => s.State is SectionState.Waiting or SectionState.SentBack)?.Id
            ?? (line.Standing.At.Length > 0 ? line.Standing.At : line.Standing.Sections.Select(x => x.Id).LastOrDefault(""));
        return new BenchView(
            of,
            line,
            new Seat(of, bench).MaySign(user),
            of.SecondLooks.Contains(shown),
            SectionEvidence.Of(await desk.OpenAsync(bench.CaseId, cancel), shown)
        );
    }

    /// <summary>Benches at which whoever asks works.</summary>
    private static async Task<IReadOnlyList<SeatView>> SeatsAsync(SleuthDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var seats = new List<SeatView>();
        foreach (var caseId in await db.OwnCases(user).ToListAsync(cancel))
        {
            if (await SeatViewAsync(db, caseId, user, cancel) is { } seat)
            {
                seats.Add(seat);
            }
        }

        return seats;
    }

    private static async Task<SeatOfCase> SeatOfCaseAsync(Guid caseId, SleuthDb db, ClaimsPrincipal user, CancellationToken cancel) =>
        new(await SeatViewAsync(db, caseId, user, cancel));

    private static async Task<SeatView?> SeatViewAsync(SleuthDb db, Guid caseId, ClaimsPrincipal user, CancellationToken cancel)
    {
        if (await db.SeatAsync(caseId, cancel) is not { } seat)
        {
            return null;
        }

        var names = await db.NamesAsync([.. seat.Bench.People, .. seat.Class.Teachers], cancel);
        return new SeatView(
            seat.Class.Id,
            seat.Class.Name,
            seat.Bench.Id,
            seat.Class.PrefixOf(seat.Bench.Number),
            caseId,
            Named(seat.Bench.People, names),
            Named(seat.Class.Teachers, names),
            seat.Class.SecondLooks,
            seat.MaySign(user)
        );
    }
}
