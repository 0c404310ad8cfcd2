using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Shop;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Look;

namespace VividSleuth.Store.Shop;

/// <summary>How much a seeded shop holds.</summary>
/// <param name="Readings">Of each case.</param>
/// <param name="Findings">Of each case, at the most.</param>
/// <param name="Photos">Records of pictures of each case; all have the same few bytes.</param>
/// <param name="Drawn">Engines that are drawn; the others are made of them.</param>
public sealed record SeedPlan(int Cases, int Readings = 1000, int Findings = 200, int Photos = 50, int Drawn = 24);

/// <summary>What was written, and how fast.</summary>
public sealed record SeedDone(int Cases, long Readings, long Findings, long Photos, TimeSpan Took)
{
    public double SecondsPerThousand => Cases == 0 ? 0 : Took.TotalSeconds * 1000 / Cases;
}

/// <summary>
/// Fills a database with invented cases, as many as a large shop has in its life, so that its speed can be measured. A few engines are drawn and worked;
/// the rest are made of them by the database itself, each with ids, names, days and figures of its own.
/// </summary>
/// <param name="say">Makes a sentence of a fact.</param>
/// <param name="told">Progress, a line each.</param>
public sealed class SeedShop(SleuthDb db, KnowledgeBase knowledge, Func<Fact, string> say, Action<string> told)
{
    /// <summary>What the title of each seeded case begins with.</summary>
    public const string Mark = "Seeded ";

    /// <summary>Cases made by one statement.</summary>
    private const int AtOnce = 100;

    private static readonly string[] Owners =
    [
        "Hestval Cold Freight",
        "Norrvik Ferries",
        "Tarve Dairy",
        "Ostra Quarry",
        "Lindholm Saw Mill",
        "Brekka Fire Brigade",
        "Marsk Drainage",
        "Solnes Gas Works",
        "Aster Harbour",
        "Vinter Road Service",
    ];

    private static readonly string[] People = ["ines", "tomas", "jory", "ansa", "vale", "mirja"];

    /// <param name="among">Beside cases that were not seeded: for a shop that is made to be measured.</param>
    /// <exception cref="ProblemException">There are cases in it that were not seeded.</exception>
    public async Task<SeedDone> SeedAsync(SeedPlan plan, CancellationToken cancel, bool among = false)
    {
        if (!among && await db.Cases.AnyAsync(c => !c.Title.StartsWith(Mark), cancel))
        {
            throw new ProblemException(Problem.Of("", "command.seed-is-not-for-work"));
        }

        var clock = Stopwatch.StartNew();
        var there = await db.Cases.CountAsync(c => c.Title.StartsWith(Mark), cancel);
        var templates = await TemplatesAsync(plan, cancel);
        var cases = Math.Max(there, Math.Min(plan.Cases, templates.Count));
        while (cases < plan.Cases)
        {
            var some = Math.Min(AtOnce, plan.Cases - cases);
            await CopyAsync(templates, cases, some, cancel);
            cases += some;
            if (cases % 1000 == 0 || cases == plan.Cases)
            {
                told(string.Create(CultureInfo.InvariantCulture, $"{cases} cases, {clock.Elapsed.TotalSeconds:0} s"));
            }
        }

        await db.Database.ExecuteSqlRawAsync("analyze", cancel);
        return new SeedDone(
            cases - there,
            await db.Set<Reading>().LongCountAsync(cancel),
            await db.Set<Finding>().LongCountAsync(cancel),
            await db.Set<Photo>().LongCountAsync(cancel),
            clock.Elapsed
        );
    }

    /// <summary>The engines that the others are made of; drawn and worked where they are not there yet.</summary>
    private async Task<IReadOnlyList<Guid>> TemplatesAsync(SeedPlan plan, CancellationToken cancel)
    {
        var ids = Enumerable.Range(0, Math.Min(plan.Drawn, plan.Cases)).Select(n => DerivedId.Of($"seed/{n}")).ToArray();
        var known = (await db.Cases.Where(c => ids.Contains(c.Id)).Select(c => c.Id).ToListAsync(cancel)).ToHashSet();
        await SharedPictureAsync(cancel);
        for (var n = 0; n < ids.Length; n++)
        {
            if (known.Contains(ids[n]))
            {
                continue;
            }

            var made = Draw(n, ids[n], plan);
            db.KeepStamps = true;
            db.Writer = made.By;
            db.Cases.Add(made);
            db.PhotoContents.AddRange(made.Photos.Select(Content));
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
            var english = new Telling("en", say, name => name);
            var reader = new CaseReader(made, knowledge, [], DateOnly.FromDateTime(db.Now().UtcDateTime));
            await db.KeepIndexAsync(CaseIndex.Of(reader, 1, english), cancel);
            var last = made.Records().MaxBy(r => r.At)!;
            var state = await db.States.SingleAsync(s => s.CaseId == made.Id, cancel);
            state.Take(reader.Progress, english);
            (state.LastAt, state.LastBy, state.NextRevision) = (last.At, last.By, state.Revision);
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
        }

        return ids;
    }

    private EngineCase Draw(int n, Guid id, SeedPlan plan)
    {
        var families = knowledge.Families.Select(f => f.Layout).Where(l => l.Cylinders <= 8).ToArray();
        var start = db.Now().AddDays(-1);
        var made = new EngineCase
        {
            Id = id,
            Title = $"{Mark}{n:00000}",
            EngineName = $"Seed {n % families.Length}, {n}",
            Serial = $"SD-{n:00000}",
            Owner = Owners[n % Owners.Length],
            Complaint = "Runs rough and uses oil.",
            Layout = families[n % families.Length],
            By = People[0],
            At = start,
            Version = 1,
        };
        made.Limits = [.. LimitsOf(made)];
        InventedCase.Work(
            made,
            new InventionPlan
            {
                Seed = 1000 + n,
                Start = start,
                People = People,
                Signer = (People[0], Roles.Lead),
                Sections = n % 6 == 0 ? 2 : int.MaxValue,
                Concludes = n % 6 != 0,
                LooksInVain = 40,
            },
            knowledge
        );
        made.Findings = [.. made.Findings.OrderByDescending(f => f.Level > 0).Take(plan.Findings)];
        made.Readings = [.. Enough(made, plan.Readings)];
        made.Photos = [.. Pictures(made, plan.Photos)];
        return made;
    }

    /// <summary>Limits of invented sizes for all that is measured as a length.</summary>
    private IEnumerable<Limit> LimitsOf(EngineCase of) =>
        knowledge
            .Characteristics.Where(c => c is { Derived: false, Quantity: Quantity.Length, Least: > 0, Most: not null } && c.Applies.Fits(of.Layout))
            .Select(c =>
            {
                var nominal = Math.Round((decimal)Math.Sqrt((double)(c.Least!.Value * c.Most!.Value)), 2);
                return new Limit
                {
                    Id = DerivedId.Of(of.Id, $"limit/{c.Id}"),
                    CaseId = of.Id,
                    Characteristic = c.Id,
                    Nominal = nominal,
                    Least = nominal,
                    Most = nominal + 0.02m,
                    Wear = nominal + 0.12m,
                    Unit = "mm",
                    SourceText = "invented",
                    By = of.By,
                    At = of.At,
                    Version = 1,
                };
            });

    /// <summary>As many readings as a thoroughly measured engine has: what is too few is read again after work.</summary>
    private static IEnumerable<Reading> Enough(EngineCase of, int count)
    {
        for (var n = 0; of.Readings.Count > 0 && n < count; n++)
        {
            var (round, like) = (n / of.Readings.Count, of.Readings[n % of.Readings.Count]);
            yield return round == 0
                ? like
                : new Reading
                {
                    Id = DerivedId.Of(like.Id, $"round {round}"),
                    CaseId = of.Id,
                    Place = like.Place,
                    Characteristic = like.Characteristic,
                    Station = like.Station,
                    Direction = like.Direction,
                    Phase = round % 2 == 0 ? Phase.AsFound : Enum.GetValues<Phase>()[^1],
                    Typed = like.Typed,
                    Value = like.Value,
                    Unit = like.Unit,
                    By = like.By,
                    At = like.At.AddMinutes(round),
                    Version = 1,
                };
        }
    }

    private static readonly byte[] Jpeg = Convert.FromHexString("FFD8FFE000104A46494600010100000100010000FFD9");

    private static readonly string Sha256Of = Convert.ToHexStringLower(SHA256.HashData(Jpeg));

    private static IEnumerable<Photo> Pictures(EngineCase of, int count)
    {
        string[] places = [.. of.Findings.Select(f => f.Place).Distinct(StringComparer.Ordinal).DefaultIfEmpty("EN")];
        for (var n = 0; n < count; n++)
        {
            yield return new Photo
            {
                Id = DerivedId.Of(of.Id, $"photo {n}"),
                CaseId = of.Id,
                Place = places[n % places.Length],
                FileName = $"{n:000}.jpg",
                Sha256 = Sha256Of,
                Width = 1,
                Height = 1,
                Bytes = Jpeg.Length,
                By = of.By,
                At = of.At.AddMinutes(n),
                Version = 1,
            };
        }
    }

    private static PhotoContent Content(Photo of) =>
        new()
        {
            PhotoId = of.Id,
            Sha256 = Sha256Of,
            View = Jpeg,
            Thumb = Jpeg,
        };

    private async Task SharedPictureAsync(CancellationToken cancel)
    {
        if (!await db.Originals.AnyAsync(o => o.Sha256 == Sha256Of, cancel))
        {
            db.Originals.Add(new OriginalFile { Sha256 = Sha256Of, Data = Jpeg });
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>Makes cases of the drawn ones, in the database, in one transaction.</summary>
    private async Task CopyAsync(IReadOnlyList<Guid> templates, int from, int count, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlRawAsync(
            """create temporary table if not exists seed_map (template uuid, copy uuid, n integer) on commit delete rows""",
            cancel
        );
        var numbers = Enumerable.Range(from, count).ToArray();
        var of = numbers.Select(n => templates[n % templates.Count]).ToArray();
        var copies = numbers.Select(n => DerivedId.Of($"seed/{n}")).ToArray();
        await db.Database.ExecuteSqlAsync($"insert into seed_map select * from unnest({of}, {copies}, {numbers})", cancel);
        await db.Database.ExecuteSqlRawAsync("analyze seed_map", cancel);
        await RunAsync(CopyOf(db.Model.FindEntityType(typeof(EngineCase))!, "Id"), cancel);
        foreach (var child in db.Model.GetEntityTypes().Where(e => typeof(CaseRecord).IsAssignableFrom(e.ClrType) && e.ClrType != typeof(EngineCase)))
        {
            await RunAsync(CopyOf(child, "CaseId"), cancel);
        }

        await RunAsync(CopyOf(db.Model.FindEntityType(typeof(CaseState))!, "CaseId"), cancel);
        await RunAsync(CopyOf(db.Model.FindEntityType(typeof(CaseIndex))!, "CaseId"), cancel);
        await RunAsync(CopyOf(db.Model.FindEntityType(typeof(CaseMark))!, "CaseId"), cancel);
        await RunAsync(
            $"""
            insert into photo_contents ("PhotoId", "Sha256", "View", "Thumb")
            select {Copied("p.\"Id\"")}, c."Sha256", c."View", c."Thumb"
            from seed_map m join photos p on p."CaseId" = m.template join photo_contents c on c."PhotoId" = p."Id"
            """,
            cancel
        );
        await transaction.CommitAsync(cancel);
    }

    // Names of tables and columns are the model’s own, and no value is put in.
#pragma warning disable EF1002, EF1003
    private Task<int> RunAsync(string sql, CancellationToken cancel) => db.Database.ExecuteSqlRawAsync(sql, cancel);
#pragma warning restore EF1002, EF1003

    /// <summary>The id that a record of a drawn case has in one that is made of it.</summary>
    private static string Copied(string id) => $"md5({id}::text || m.copy::text)::uuid";

    private static string CopyOf(IEntityType type, string caseId)
    {
        var table = type.GetTableName()!;
        var store = StoreObjectIdentifier.Table(table);
        var columns = type.GetProperties()
            .Where(p => p.GetComputedColumnSql(store) is null && p.GetColumnName(store) != "Terms")
            .Select(p => (Name: p.GetColumnName(store)!, Property: p))
            .ToArray();
        var values = columns.Select(c => ValueOf(type, c.Name, c.Property, caseId));
        return $"""
            insert into {table} ({string.Join(", ", columns.Select(c => $"\"{c.Name}\""))})
            select {string.Join(", ", values)} from seed_map m join {table} t on t."{caseId}" = m.template
            """;
    }

    /// <summary>What stands in a column of the copy: ids of its own, a name of its own, days of its own, and figures a little off.</summary>
    private static string ValueOf(IEntityType type, string name, IProperty property, string caseId)
    {
        var column = $"t.\"{name}\"";
        // Days apart, so that a shop's life of work lies behind it.
        const string Earlier = " - m.n * interval '6 hours'";
        var kind = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        return (type.ClrType, name) switch
        {
            _ when name == caseId => "m.copy",
            (_, "Id") => Copied(column),
            ({ } t, "Title") when t == typeof(EngineCase) => $"'{Mark}' || lpad(m.n::text, 5, '0')",
            ({ } t, "Serial") when t == typeof(EngineCase) => "'SD-' || lpad(m.n::text, 5, '0')",
            ({ } t, "Owner") when t == typeof(EngineCase) => $"(array[{string.Join(',', Owners.Select(o => $"'{o}'"))}])[1 + m.n % {Owners.Length}]",
            ({ } t, "Body") when t == typeof(CaseIndex) =>
                $"'{Mark}' || lpad(m.n::text, 5, '0') || E'\\nSD-' || lpad(m.n::text, 5, '0') || E'\\n' || (array[{string.Join(',', Owners.Select(o => $"'{o}'"))}])[1 + m.n % {Owners.Length}] || substr({column}, position(E'\\n' in {column}))",
            ({ } t, "Value") when t == typeof(Reading) => $"{column} + 0.001 * (m.n % 41 - 20)",
            ({ } t, "Typed") when t == typeof(Reading) => $"(t.\"Value\" + 0.001 * (m.n % 41 - 20))::text",
            (_, "KindId" or "ImportedFrom" or "ComebackOf") => "null",
            _ when kind == typeof(Guid) => Copied(column),
            _ when kind == typeof(DateTimeOffset) => column + Earlier,
            _ => column,
        };
    }
}
