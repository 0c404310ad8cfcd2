using System.Reflection;
using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;

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
        var builder = new NpgsqlConnectionStringBuilder(given);
        builder.MaxAutoPrepare = builder.MaxAutoPrepare == 0 ? 60 : builder.MaxAutoPrepare;
        return builder.ConnectionString;
    }

    /// <returns>False when the program cannot run; the reason is on the error output in one line.</returns>
    public static async Task<bool> PrepareAsync(WebApplication app, string[] args)
    {
        using var scope = app.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        try
        {
            await db.Database.MigrateAsync();
            var demo = Array.IndexOf(args, Demo);
            if (demo >= 0 && demo + 1 < args.Length)
            {
                await LoadDemoAsync(scope.ServiceProvider, db, args[demo + 1]);
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
            when (e is NpgsqlException or InvalidOperationException { InnerException: NpgsqlException } or IOException or ProblemException)
        {
            await Console.Error.WriteLineAsync($"Vivid Sleuth cannot start: {e.Message.ReplaceLineEndings(" ")}");
            return false;
        }
    }

    private static async Task LoadDemoAsync(IServiceProvider services, SleuthDb db, string folder)
    {
        if (await db.Users.AnyAsync())
        {
            return;
        }

        // One transaction, and the lock lets a second instance that starts beside this one wait and then find the shop.
        await using var transaction = await db.Database.BeginTransactionAsync();
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.People})");
        if (await db.Users.AnyAsync())
        {
            return;
        }

        var people = services.GetRequiredService<UserManager<Person>>();
        var roles = services.GetRequiredService<RoleManager<IdentityRole>>();
        foreach (var (name, role) in new[] { ("ines", Roles.Lead), ("tomas", Roles.Mechanic), ("vera", Roles.Viewer) })
        {
            await People.AddAsync(people, roles, name, $"demo-{name}-bench", role);
        }

        foreach (var path in Directory.GetFiles(folder, "*.case.json").OrderDescending(StringComparer.Ordinal))
        {
            db.Writer = "ines";
            await db.ImportAsync(CaseFile.FromJson(await File.ReadAllTextAsync(path)), CancellationToken.None);
        }

        await LoadShopAsync(db, Path.Combine(folder, "..", "shop.json"));
        await transaction.CommitAsync();
    }

    /// <summary>The stand-ins that were started with the demo (Demo:Gauge, Demo:Printer) become its devices, wherever they listen this time.</summary>
    private static async Task SetStandInsAsync(SleuthDb db, IConfigurationSection demo)
    {
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

        db.Lessons.AddRange(shop.Lessons);
        db.Stock.AddRange(shop.Stock);
        await db.SaveChangesAsync();
    }

    private sealed record DemoShop(List<Lesson> Lessons, List<StockPart> Stock);
}
