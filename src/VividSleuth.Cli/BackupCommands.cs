using System.CommandLine;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>`sleuth backup` and `sleuth restore`: the whole shop as files and back. Of all commands these and seed alone speak to the database.</summary>
public static class BackupCommands
{
    private const string Variable = "SLEUTH_DB";

    public static Command Backup(TextWriter output, TextWriter errors)
    {
        var folder = new Argument<DirectoryInfo>("folder") { Description = "Below it a folder is made, named by the time." };
        var keep = new Option<int?>("--keep") { Description = "Keep so many of the newest, and let go of older ones." };
        var connection = Connection();
        var command = new Command("backup", "The whole shop as files, while it runs; read back and checked.") { folder, keep, connection };
        command.SetAction(
            (parsed, cancel) =>
                RunAsync(
                    parsed.GetValue(connection),
                    errors,
                    async db =>
                    {
                        var made = await new ShopBackup(db, output.WriteLine).WriteAsync(
                            parsed.GetValue(folder)!.FullName,
                            parsed.GetValue(keep),
                            cancel
                        );
                        await output.WriteLineAsync(made);
                    }
                )
        );
        return command;
    }

    public static Command Restore(TextWriter output, TextWriter errors)
    {
        var folder = new Argument<DirectoryInfo>("folder") { Description = "A folder that sleuth backup has made." };
        var connection = Connection();
        var command = new Command("restore", "Puts a backup into an empty database, all or nothing.") { folder, connection };
        command.SetAction(
            (parsed, cancel) =>
                RunAsync(
                    parsed.GetValue(connection),
                    errors,
                    async db =>
                    {
                        await db.Database.MigrateAsync(cancel);
                        await new ShopBackup(db, output.WriteLine).RestoreAsync(parsed.GetValue(folder)!.FullName, cancel);
                    }
                )
        );
        return command;
    }

    public static Command Verify(TextWriter output, TextWriter errors)
    {
        var folder = new Argument<DirectoryInfo>("folder") { Description = "A folder that sleuth backup has made." };
        var command = new Command("verify-backup", "Holds every file of a backup against its manifest, with no database.") { folder };
        command.SetAction(
            (parsed, cancel) =>
                ToldAsync(
                    errors,
                    async () =>
                    {
                        var manifest = await ShopBackup.VerifyAsync(parsed.GetValue(folder)!.FullName, cancel);
                        await output.WriteLineAsync(
                            $"{manifest.Files.Count} files as they were written, {manifest.Counts["cases"]} cases, {manifest.At:u}"
                        );
                    }
                )
        );
        return command;
    }

    internal static Option<string?> Connection() =>
        new("--db") { Description = $"Npgsql connection string; without it that of the variable {Variable}." };

    internal static Task<int> RunAsync(string? connection, TextWriter errors, Func<SleuthDb, Task> work) =>
        ToldAsync(
            errors,
            async () =>
            {
                var at = connection ?? Environment.GetEnvironmentVariable(Variable);
                if (string.IsNullOrWhiteSpace(at))
                {
                    throw new ProblemException(Problem.Of("--db", "command.no-database-named", ("variable", Variable)));
                }

                await using var db = SleuthDbFactory.Create(at);
                await work(db);
            }
        );

    private static async Task<int> ToldAsync(TextWriter errors, Func<Task> work)
    {
        try
        {
            await work();
            return 0;
        }
        catch (ProblemException e)
        {
            foreach (var problem in e.Problems)
            {
                await errors.WriteLineAsync(Spoken.Line(problem));
            }

            return 2;
        }
        catch (Exception e)
            when (e
                    is IOException
                        or UnauthorizedAccessException
                        or NpgsqlException
                        or ArgumentException
                        or InvalidOperationException { InnerException: NpgsqlException }
            )
        {
            await errors.WriteLineAsync((e.InnerException as NpgsqlException ?? e).Message.ReplaceLineEndings(" "));
            return 2;
        }
    }
}
