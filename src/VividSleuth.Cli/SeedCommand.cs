using System.CommandLine;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>`sleuth seed`: fills a database with invented cases, so that the speed of a large shop can be measured.</summary>
public static class SeedCommand
{
    public static Command Seed(TextWriter output, TextWriter errors)
    {
        var cases = new Option<int>("--cases") { Description = "Cases that are there afterwards.", DefaultValueFactory = _ => 10_000 };
        var readings = new Option<int>("--readings") { Description = "Readings of each case.", DefaultValueFactory = _ => 1000 };
        var findings = new Option<int>("--findings") { Description = "Findings of each case, at the most.", DefaultValueFactory = _ => 200 };
        var photos = new Option<int>("--photos") { Description = "Records of pictures of each case.", DefaultValueFactory = _ => 50 };
        var connection = BackupCommands.Connection();
        var command = new Command("seed", "Invented cases into a database in which nobody works, to measure how fast it is.")
        {
            cases,
            readings,
            findings,
            photos,
            connection,
        };
        command.SetAction(
            (parsed, cancel) =>
                BackupCommands.RunAsync(
                    parsed.GetValue(connection),
                    errors,
                    async db =>
                    {
                        await db.Database.MigrateAsync(cancel);
                        db.Database.SetCommandTimeout(TimeSpan.FromHours(1));
                        var done = await new SeedShop(db, KnowledgeBase.BuiltIn, Sentences.English.Say, output.WriteLine).SeedAsync(
                            new SeedPlan(parsed.GetValue(cases), parsed.GetValue(readings), parsed.GetValue(findings), parsed.GetValue(photos)),
                            cancel
                        );
                        await output.WriteLineAsync(
                            string.Create(
                                CultureInfo.InvariantCulture,
                                $"{done.Cases} cases written, {done.SecondsPerThousand:0.0} s per 1,000; in all {done.Readings} readings, {done.Findings} findings, {done.Photos} pictures"
                            )
                        );
                    }
                )
        );
        return command;
    }
}
