using System.Diagnostics;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;
using Assembly = System.Reflection.Assembly;

namespace VividSleuth.Server;

/// <summary>What happens once before the first request: the database is brought up to date, and the demo shop is put into an empty one.</summary>
public static class StartUp
{
    private const string Demo = "--demo";

    /// <summary>The OpenAPI document is made at build by starting the program without a database.</summary>
    public static bool IsDocumentGeneration => Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";

    /// <summary>The connection string with statements prepared by themselves, unless it says otherwise: a case is opened by a dozen of them.</summary>
    public static string? Connection(string? given)
    {
        // Two instances fit into the hundred connections that PostgreSQL has as it ships, and who finds none free waits for one.
        var usual = new NpgsqlConnectionStringBuilder
        {
            MaxAutoPrepare = 60,
            MaxPoolSize = 40,
            Timeout = 30,
        };
        // What is said later counts.
        return new NpgsqlConnectionStringBuilder($"{usual.ConnectionString};{given}").ConnectionString;
    }

    /// <returns>False when the program cannot run; the reason is on the error output in one line.</returns>
    public static async Task<bool> PrepareAsync(WebApplication app, string[] args)
    {
        using var scope = app.Services.CreateScope();
        try
        {
            var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
            // A connection that cannot be read is told now and not at the first search.
            app.Services.GetRequiredService<Standbys>();
            await BringUpToDateAsync(db, app.Configuration);
            var demo = Array.IndexOf(args, Demo);
            if (demo >= 0 && demo + 1 < args.Length)
            {
                if (await LoadDemoAsync(scope.ServiceProvider, db, args[demo + 1]) is { } later)
                {
                    await DemoPapers.MakeAsync(app.Services, later);
                }

                await SetStandInsAsync(db, app.Configuration.GetSection("Demo"));
            }

            if (await People.NobodyYetAsync(db, CancellationToken.None))
            {
                await Console.Out.WriteLineAsync(
                    $"Vivid Sleuth has nobody yet. The first lead opens its page within three days, with #{await People.FirstLeadCodeAsync(db, CancellationToken.None)} behind the address /join."
                );
            }

            return true;
        }
        catch (Exception e)
            when (e
                    is NpgsqlException
                        or InvalidOperationException { InnerException: NpgsqlException }
                        or ArgumentException
                        or KeyNotFoundException
                        or IOException
                        or ProblemException
            )
        {
            await Console.Error.WriteLineAsync($"Vivid Sleuth cannot start: {Why(e)}");
            return false;
        }
    }

    /// <summary>
    /// Brings the tables up to date, by the owner's account where there is one: the program's own then owns nothing, and may add to the record of
    /// changes but neither change nor take away a line of it.
    /// </summary>
    /// <exception cref="ProblemException">The database is of a newer program, or could not be backed up before it is changed.</exception>
    private static async Task BringUpToDateAsync(SleuthDb db, IConfiguration configuration)
    {
        var owner = configuration.GetConnectionString("Owner");
        await using var own = owner is null ? null : SleuthDbFactory.Create(owner);
        var by = own ?? db;
        var there = await by.Database.CanConnectAsync() ? (await by.Database.GetAppliedMigrationsAsync()).ToArray() : [];
        if (there.Except(by.Database.GetMigrations()).Any())
        {
            throw new ProblemException(Problem.Of("", "server.database-is-newer"));
        }

        if (there.Length > 0 && (await by.Database.GetPendingMigrationsAsync()).Any())
        {
            await DumpAsync(owner ?? db.Database.GetConnectionString()!, there[^1], configuration.GetSection("Backup"));
        }

        await by.Database.MigrateAsync();
        if (own is not null)
        {
            await own.GrantAsync(new NpgsqlConnectionStringBuilder(db.Database.GetConnectionString()).Username!);
        }
    }

    /// <summary>A dump of the database as it is, where the operator has said where to (Backup:Folder) and by which program (Backup:PgDump).</summary>
    private static async Task DumpAsync(string connection, string standing, IConfigurationSection backup)
    {
        if (backup["Folder"] is not { Length: > 0 } folder || backup["PgDump"] is not { Length: > 0 } program)
        {
            return;
        }

        Directory.CreateDirectory(folder);
        var of = new NpgsqlConnectionStringBuilder(connection);
        // Several hosts, of which one is written to: pg_dump finds it by itself.
        var hosts = of.Host!.Split(',', StringSplitOptions.TrimEntries).Select(h => h.Split(':')).ToArray();
        var file = Path.Combine(folder, $"before-update-{DateTimeOffset.UtcNow:yyyyMMdd-HHmmss}-{standing}.dump");
        using var dump = Process.Start(
            new ProcessStartInfo(program, ["-Fc", "-f", file])
            {
                Environment =
                {
                    ["PGHOST"] = string.Join(',', hosts.Select(h => h[0])),
                    ["PGPORT"] = string.Join(',', hosts.Select(h => h.ElementAtOrDefault(1) ?? $"{of.Port}")),
                    ["PGUSER"] = of.Username,
                    ["PGDATABASE"] = of.Database,
                    ["PGPASSWORD"] = of.Password,
                    ["PGTARGETSESSIONATTRS"] = "read-write",
                },
            }
        );
        await (dump?.WaitForExitAsync() ?? Task.CompletedTask);
        if (dump is not { ExitCode: 0 })
        {
            throw new ProblemException(Problem.Of("", "server.no-backup-before-update", ("file", file)));
        }
    }

    /// <summary>Answers until it is stopped.</summary>
    /// <returns>1 where it cannot begin; the reason is on the error output in one line.</returns>
    public static async Task<int> RunAsync(WebApplication app)
    {
        try
        {
            await app.RunAsync();
            return 0;
        }
        catch (Exception e) when (e is IOException or FormatException or System.Net.Sockets.SocketException or InvalidOperationException)
        {
            var at = string.Join(',', app.Urls);
            await Console.Error.WriteLineAsync($"Vivid Sleuth cannot answer at {at}; choose another address or port: {Why(e)}");
            return 1;
        }
    }

    private static string Why(Exception e) =>
        e is ProblemException { Problems: [var problem, ..] }
            ? $"{Words.Sentences.English.Say(problem.Text)} {Words.Sentences.English.Say(problem.Remedy)}"
            : e.Message.ReplaceLineEndings(" ");

    /// <returns>What is written into it later, between two seals; null where the shop was there already.</returns>
    private static async Task<PartVerdict?> LoadDemoAsync(IServiceProvider services, SleuthDb db, string folder)
    {
        if (await db.Users.AnyAsync())
        {
            return null;
        }

        // One transaction, and the lock lets a second instance that starts beside this one wait and then find the shop.
        await using var transaction = await db.Database.BeginTransactionAsync();
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.People})");
        if (await db.Users.AnyAsync())
        {
            return null;
        }

        var people = services.GetRequiredService<UserManager<Person>>();
        var roles = services.GetRequiredService<RoleManager<IdentityRole>>();
        foreach (var (name, role) in new[] { ("ines", Roles.Lead), ("tomas", Roles.Mechanic), ("vera", Roles.Viewer) })
        {
            await People.AddAsync(people, roles, name, $"demo-{name}-bench", role);
        }

        PartVerdict? later = null;
        foreach (var path in Directory.GetFiles(folder, "*.case.json").OrderDescending(StringComparer.Ordinal))
        {
            db.Writer = "ines";
            var file = CaseFile.FromJson(await File.ReadAllTextAsync(path));
            if (DemoPapers.IsSealed(path))
            {
                later = file.Case.Verdicts.MaxBy(v => v.At);
                file.Case.Verdicts.Remove(later!);
            }

            await db.ImportAsync(file, CancellationToken.None, recording: sha256 => RecordingAsync(Path.Combine(folder, "..", "sounds"), sha256));
        }

        await LoadShopAsync(db, Path.Combine(folder, "..", "shop.json"));
        await LoadScriptsAsync(db, Path.Combine(folder, "..", "scripts"));
        await LoadKindsAsync(db, Path.Combine(folder, ".."));
        await DemoClasses.LoadAsync(db, people, roles, Path.Combine(folder, "..", "class.json"));
        await transaction.CommitAsync();
        return later;
    }

    /// <summary>The one of the demo’s recordings that is meant; null where it does not ship.</summary>
    private static async Task<byte[]?> RecordingAsync(string folder, string sha256)
    {
        foreach (var path in Directory.GetFiles(folder, "*.wav"))
        {
            var data = await File.ReadAllBytesAsync(path);
            if (Convert.ToHexStringLower(SHA256.HashData(data)) == sha256)
            {
                return data;
            }
        }

        return null;
    }

    /// <summary>The stand-ins that were started with the demo (Demo:Gauge …) become its devices and suppliers, wherever they listen this time.</summary>
    private static async Task SetStandInsAsync(SleuthDb db, IConfigurationSection demo)
    {
        foreach (var (kind, address) in new[] { (SupplierKind.Parts, demo["Supplier"]), (SupplierKind.MachineShop, demo["MachineShop"]) })
        {
            // Of each kind the first that the demo shop brought answers over the line; the others write and telephone.
            var supplier = await db.Suppliers.Where(s => s.Kind == kind && s.WithdrawnAt == null).OrderBy(s => s.Id).FirstOrDefaultAsync();
            if (address is { Length: > 0 } && supplier is not null && supplier.Address != address)
            {
                supplier.Address = address;
                supplier.Version++;
            }
        }

        await db.SaveChangesAsync();
        var (gauge, printer) = (demo["Gauge"] ?? "", demo["Printer"] ?? "");
        if (gauge.Length == 0 && printer.Length == 0)
        {
            return;
        }

        var settings = await db.Settings.SingleOrDefaultAsync() ?? db.Settings.Add(new ShopSettings()).Entity;
        settings.GaugeAddress = gauge;
        settings.PrinterAddress = printer;
        settings.Version++;
        await db.SaveChangesAsync();
    }

    /// <summary>What the demo shop has learned and what lies on its shelves.</summary>
    private static async Task LoadShopAsync(SleuthDb db, string path)
    {
        if (!File.Exists(path))
        {
            return;
        }

        var shop = JsonSerializer.Deserialize<DemoShop>(await File.ReadAllTextAsync(path), CaseFile.Json)!;
        foreach (var lesson in shop.Lessons)
        {
            lesson.Id = Guid.CreateVersion7();
            lesson.At = db.Now();
            lesson.By = "ines";
        }

        for (var i = 0; i < shop.Stock.Count; i++)
        {
            shop.Stock[i].Id = Guid.CreateVersion7();
            shop.Stock[i].Number = i + 1;
            shop.Stock[i].Version = 1;
            shop.Stock[i].At = db.Now();
            shop.Stock[i].By = "ines";
        }

        foreach (var supplier in shop.Suppliers)
        {
            supplier.Version = 1;
            supplier.At = db.Now();
            supplier.By = "ines";
        }

        foreach (var study in shop.Studies)
        {
            study.Id = Guid.CreateVersion7();
            study.Version = 1;
            study.At = db.Now();
            study.By = "ines";
        }

        db.GaugeStudies.AddRange(shop.Studies);
        db.Lessons.AddRange(shop.Lessons);
        db.Stock.AddRange(shop.Stock);
        db.Suppliers.AddRange(shop.Suppliers);
        await db.SaveChangesAsync();
    }

    /// <summary>The demo shop's own strip scripts, as Strip scripts hands them on.</summary>
    private static async Task LoadScriptsAsync(SleuthDb db, string folder)
    {
        foreach (var path in Directory.Exists(folder) ? Directory.GetFiles(folder, "*.yaml") : [])
        {
            foreach (var script in ScriptFile.Read(Path.GetFileName(path), await File.ReadAllTextAsync(path)))
            {
                script.Shop = true;
                db.Scripts.Add(
                    new ShopScript
                    {
                        Id = Guid.CreateVersion7(),
                        ScriptId = script.Id,
                        Script = script,
                        Why = script.Provenance,
                        Version = 1,
                        At = db.Now(),
                        By = "ines",
                    }
                );
            }
        }

        await db.SaveChangesAsync();
    }

    /// <summary>The demo shop's kinds of engines, as they are handed on, and the fleet that goes by them.</summary>
    private static async Task LoadKindsAsync(SleuthDb db, string folder)
    {
        var kinds = Path.Combine(folder, "kinds");
        var ids = new Dictionary<string, Guid>(StringComparer.Ordinal);
        foreach (var path in Directory.Exists(kinds) ? Directory.GetFiles(kinds, "*.yaml").Order(StringComparer.Ordinal) : Enumerable.Empty<string>())
        {
            var file = KindFile.Read(Path.GetFileName(path), await File.ReadAllTextAsync(path));
            var kind = db
                .Kinds.Add(
                    new EngineKind
                    {
                        Id = Guid.CreateVersion7(),
                        Name = file.Kind.Name,
                        Sheet = file.Kind,
                        Why = Path.GetFileName(path),
                    }
                )
                .Entity;
            db.StampForShop(KindEndpoints.Kind, kind, before: null);
            ids[kind.Name] = kind.Id;
            var script = KindCheck.Reader(file.Kind, KnowledgeBase.BuiltIn).Book.Script;
            foreach (var lesson in file.Lessons)
            {
                var learned = new Lesson
                {
                    Id = Guid.CreateVersion7(),
                    Script = script.Id,
                    Step = lesson.Step,
                    EngineName = kind.Name,
                    Text = lesson.Text,
                };
                db.Lessons.Add(learned);
                db.StampForShop("lesson", learned, before: null);
            }
        }

        var shop = Path.Combine(folder, "shop.json");
        var fleet = File.Exists(shop) ? JsonSerializer.Deserialize<DemoShop>(await File.ReadAllTextAsync(shop), CaseFile.Json)!.Fleet : [];
        foreach (var of in fleet)
        {
            var engine = new FleetEngine
            {
                Id = Guid.CreateVersion7(),
                Name = of.Name,
                Serial = of.Serial,
                Owner = of.Owner,
                KindId = ids[of.Kind],
                Use = of.Use,
            };
            db.Fleet.Add(engine);
            db.StampForShop(FleetEndpoints.Kind, engine, before: null);
            foreach (var read in of.Entries)
            {
                var entry = new FleetEntry
                {
                    Id = Guid.CreateVersion7(),
                    EngineId = engine.Id,
                    Day = DateOnly.FromDateTime(db.Now().UtcDateTime).AddDays(-read.DaysAgo),
                    Hours = read.Hours,
                    Service = read.Service,
                };
                db.FleetEntries.Add(entry);
                db.StampForShop(FleetEndpoints.Entry, entry, before: null);
            }
        }

        await db.SaveChangesAsync();
    }

    private sealed record DemoReading(int DaysAgo, decimal Hours, string Service);

    private sealed record DemoEngine(string Name, string Serial, string Owner, string Kind, EngineUse Use, List<DemoReading> Entries);

    private sealed record DemoShop(
        List<Lesson> Lessons,
        List<StockPart> Stock,
        List<Supplier> Suppliers,
        List<GaugeStudy> Studies,
        List<DemoEngine> Fleet
    );
}
