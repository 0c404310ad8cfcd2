using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Trace;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server;

/// <summary>The demo’s class in mid-course, and the past engines of a kind: invented, and dated from the day on which the demo begins.</summary>
internal static class DemoClasses
{
    private const string Teacher = "tomas";

    private sealed record DemoBench(
        List<string> People,
        string Serial,
        int Seed,
        int Sections,
        int Steps,
        bool Waits,
        string SentBack,
        int MinutesAgo
    );

    private sealed record DemoHomework(string Name, int InDays, Dictionary<string, string> In);

    private sealed record DemoStudy(
        string Name,
        string Characteristic,
        string Instrument,
        string Unit,
        string Part,
        int Trials,
        Dictionary<string, List<string>> Readings
    );

    private sealed record DemoClass(
        string Name,
        string Mark,
        string Owner,
        string Kind,
        string Complaint,
        int StuckAfter,
        List<string> SecondLooks,
        List<DemoBench> Benches,
        List<DemoHomework> Homework,
        List<DemoStudy> Studies
    );

    /// <param name="ComebackOf">Title of the earlier case after which it came back; empty where it did not.</param>
    private sealed record DemoPast(
        string Kind,
        string Title,
        string Serial,
        string Owner,
        string Complaint,
        int Hours,
        int Seed,
        int DaysAgo,
        string ComebackOf
    );

    private sealed record DemoFile(List<DemoClass> Classes, List<DemoPast> Past);

    public static async Task LoadAsync(SleuthDb db, UserManager<Person> people, RoleManager<IdentityRole> roles, string path)
    {
        if (!File.Exists(path))
        {
            return;
        }

        var demo = JsonSerializer.Deserialize<DemoFile>(await File.ReadAllTextAsync(path), CaseFile.Json)!;
        var kinds = await db.Kinds.AsNoTracking().ToDictionaryAsync(k => k.Name, StringComparer.Ordinal);
        var instruments = await db.Instruments.AsNoTracking().ToListAsync();
        foreach (var past in demo.Past)
        {
            await PastAsync(db, past, kinds[past.Kind], instruments);
        }

        foreach (var of in demo.Classes)
        {
            await ClassAsync(db, people, roles, of, kinds[of.Kind], instruments);
        }
    }

    private static EngineCase Begin(EngineKind kind, string title, string serial, string owner, string complaint, string by, DateTimeOffset at)
    {
        var made = new EngineCase
        {
            Id = DerivedId.Of($"demo/{title}"),
            Title = title,
            EngineName = kind.Name,
            Serial = serial,
            Owner = owner,
            Complaint = complaint,
            Layout = kind.Sheet.Layout,
            By = by,
            At = at,
            Version = 1,
        };
        KindItems.Begin(made, kind);
        foreach (var record in made.Records())
        {
            (record.By, record.At, record.Version) = (by, at, 1);
        }

        return made;
    }

    private static async Task PastAsync(SleuthDb db, DemoPast past, EngineKind kind, IReadOnlyList<Instrument> instruments)
    {
        var start = db.Now().AddDays(-past.DaysAgo);
        var made = Begin(kind, past.Title, past.Serial, past.Owner, past.Complaint, "ines", start);
        made.Hours = past.Hours;
        made.ComebackOf = past.ComebackOf.Length > 0 ? DerivedId.Of($"demo/{past.ComebackOf}") : null;
        InventedCase.Work(
            made,
            new InventionPlan
            {
                Seed = past.Seed,
                Start = start,
                Pace = TimeSpan.FromMinutes(18),
                People = ["ines", Teacher],
                Signer = ("ines", Roles.Lead),
                Concludes = true,
                Instruments = instruments,
            },
            KnowledgeBase.BuiltIn
        );
        await PutAsync(db, made);
    }

    private static async Task PutAsync(SleuthDb db, EngineCase made)
    {
        db.Writer = made.By;
        await db.ImportAsync(new CaseFile { Case = made }, CancellationToken.None);
        var last = made.Records().MaxBy(r => r.At)!;
        await db
            .States.Where(s => s.CaseId == made.Id)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.LastAt, last.At).SetProperty(x => x.LastBy, last.By).SetProperty(x => x.Revision, 2));
    }

    private static async Task ClassAsync(
        SleuthDb db,
        UserManager<Person> people,
        RoleManager<IdentityRole> roles,
        DemoClass of,
        EngineKind kind,
        IReadOnlyList<Instrument> instruments
    )
    {
        var ids = new Dictionary<string, Guid>(StringComparer.Ordinal);
        foreach (var name in of.Benches.SelectMany(b => b.People))
        {
            ids[name] = (await People.AddAsync(people, roles, name, $"demo-{name}-bench", Roles.Student)).RecordId;
        }

        var teacher = (await people.FindByNameAsync(Teacher))!.RecordId;
        db.Writer = Teacher;
        var made = new SchoolClass
        {
            Id = DerivedId.Of($"demo/{of.Name}"),
            Name = of.Name,
            Mark = of.Mark,
            Teachers = [teacher],
            SecondLooks = of.SecondLooks,
            StuckAfter = of.StuckAfter,
        };
        db.Classes.Add(made);
        db.StampForShop(ClassEndpoints.Kind, made, before: null);
        await db.SaveChangesAsync();
        foreach (var (bench, n) in of.Benches.Select((b, n) => (b, n + 1)))
        {
            var now = db.Now();
            var prefix = made.PrefixOf(n);
            var engine = Begin(kind, $"{of.Name} {prefix}", bench.Serial, of.Owner, of.Complaint, Teacher, now.AddHours(-30));
            engine.Prefix = prefix;
            var plan = new InventionPlan
            {
                Seed = bench.Seed,
                Start = now,
                Pace = TimeSpan.FromMinutes(5),
                People = bench.People,
                Signer = (Teacher, Roles.Mechanic),
                Sections = bench.Sections,
                Steps = bench.Steps,
                Waits = bench.Waits,
                SentBack = bench.SentBack,
                Instruments = instruments,
            };
            InventedCase.Work(engine, plan, KnowledgeBase.BuiltIn);
            // Dated back so that its last entry is as long ago as the demo says.
            var back = engine.Records().Max(r => r.At) - now.AddMinutes(-bench.MinutesAgo);
            foreach (var record in engine.Records().Where(r => r.At >= now))
            {
                record.At -= back;
            }

            await PutAsync(db, engine);
            db.Writer = Teacher;
            var seat = new Bench
            {
                Id = DerivedId.Of($"demo/bench/{prefix}"),
                ClassId = made.Id,
                Number = n,
                CaseId = engine.Id,
                People = [.. bench.People.Select(p => ids[p])],
            };
            db.Benches.Add(seat);
            db.StampForShop(ClassEndpoints.Entry, seat, before: null);
            await db.SaveChangesAsync();
        }

        await HomeworkAsync(db, made, of, ids);
        foreach (var study in of.Studies)
        {
            await StudyAsync(db, made, study, ids.Keys);
        }
    }

    private static async Task HomeworkAsync(SleuthDb db, SchoolClass made, DemoClass of, Dictionary<string, Guid> ids)
    {
        foreach (var work in of.Homework)
        {
            var id = DerivedId.Of($"demo/{work.Name}");
            var homework = new Homework
            {
                Id = id,
                ClassId = made.Id,
                Name = work.Name,
                Seed = Practice.MostOpen + 1 + work.Name.Length,
                Until = DateOnly.FromDateTime(db.Now().UtcDateTime).AddDays(work.InDays),
            };
            db.Homework.Add(homework);
            db.StampForShop(HomeworkEndpoints.Kind, homework, before: null);
            foreach (var (name, cause) in work.In)
            {
                var engine = Practice.Arrive(homework.Seed, KnowledgeBase.BuiltIn);
                HomeworkLook[] looks = [.. engine.Told.Take(1 + (name.Length % 3)).Select(t => new HomeworkLook(t.Sign, t.Place))];
                // Who is said to have found nothing else has found what it was.
                var named =
                    cause.Length > 0 ? cause : Practice.Commit(homework.Seed, [], [new("oil-pump-failed", 1)], KnowledgeBase.BuiltIn).Causes[0].Cause;
                PracticeGuess[] guesses = [new(named, 0.3 + (0.1 * (name.Length % 5)))];
                var score = Practice.Commit(homework.Seed, [.. looks.Select(l => (l.Sign, l.Place))], guesses, KnowledgeBase.BuiltIn);
                db.HomeworkTries.Add(
                    new HomeworkTry
                    {
                        Id = DerivedId.Of(id, name),
                        HomeworkId = id,
                        Person = ids[name],
                        Looks = [.. looks],
                        Guesses = [.. guesses],
                        InAt = db.Now(),
                        Right = score.Right,
                        LogScore = score.LogScore,
                        Minutes = score.Minutes,
                        Version = 1,
                    }
                );
            }
        }

        await db.SaveChangesAsync();
    }

    private static async Task StudyAsync(SleuthDb db, SchoolClass made, DemoStudy of, IEnumerable<string> people)
    {
        var study = new GaugeStudy
        {
            Id = DerivedId.Of($"demo/{of.Name}"),
            ClassId = made.Id,
            Name = of.Name,
            Characteristic = of.Characteristic,
            Instrument = of.Instrument,
            Unit = of.Unit,
            Parts = [of.Part],
            People = [.. people.Order(StringComparer.Ordinal)],
            Trials = of.Trials,
            Readings =
            [
                .. of.Readings.SelectMany(r =>
                    r.Value.Select(
                        (typed, n) =>
                            new StudyReading
                            {
                                Id = Guid.CreateVersion7(),
                                Part = of.Part,
                                Person = r.Key,
                                Trial = n + 1,
                                Typed = typed,
                                Value = decimal.Parse(typed, System.Globalization.CultureInfo.InvariantCulture),
                                At = db.Now(),
                                By = r.Key,
                            }
                    )
                ),
            ],
        };
        db.GaugeStudies.Add(study);
        db.StampForShop("gaugeStudy", study, before: null);
        await db.SaveChangesAsync();
    }
}
