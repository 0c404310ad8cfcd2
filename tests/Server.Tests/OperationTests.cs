using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>What whoever runs the program meets: accounts of the database, updates, many at once.</summary>
public sealed class OperationTests(OwnShop own) : IClassFixture<OwnShop>
{
    /// <summary>The program's own account owns nothing: it works with all, and may add to the record of changes and no more.</summary>
    [Fact]
    public async Task The_programs_account_works_and_does_not_touch_the_record_of_changes()
    {
        var role = $"app_{Guid.NewGuid():N}";
        await own.Run($"create role {role} login password 'app'");
        await using (var owner = SleuthDbFactory.Create(own.Connection))
        {
            await owner.GrantAsync(role);
        }

        var connection = new NpgsqlConnectionStringBuilder(own.Connection) { Username = role, Password = "app" };
        await using (
            var instance = own.Instance(
                connection.Database!,
                ("ConnectionStrings:Sleuth", connection.ConnectionString),
                ("ConnectionStrings:Owner", own.Connection)
            )
        )
        {
            using var client = instance.CreateClient();
            await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
            var at = await Shop.CaseAsync(client);
            await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1)).Json();
        }

        await using (var app = SleuthDbFactory.Create(connection.ConnectionString))
        {
            foreach (
                var sql in new[]
                {
                    """update changes set "By" = 'x'""",
                    "delete from changes",
                    "truncate changes",
                    "drop trigger changes_only_grow on changes",
                    "alter table changes disable trigger all",
                }
            )
            {
                (await Should.ThrowAsync<PostgresException>(() => app.Database.ExecuteSqlRawAsync(sql))).SqlState.ShouldBe("42501", sql);
            }
        }

        NpgsqlConnection.ClearAllPools();
        await own.Run($"drop owned by {role}", own.Connection);
        await own.Run($"drop role {role}");
    }

    [Fact]
    public async Task A_database_of_a_newer_program_is_left_alone()
    {
        var name = $"newer_{Guid.CreateVersion7():N}";
        await own.Run($"create database {name}");
        await using (var db = SleuthDbFactory.Create(own.ConnectionTo(name)))
        {
            await db.Database.MigrateAsync(TestContext.Current.CancellationToken);
            await db.Database.ExecuteSqlRawAsync("""insert into "__EFMigrationsHistory" values ('29990101000000_FromTheFuture', '99')""");
        }

        await using var instance = own.Instance(name);
        Should.Throw<Exception>(() => instance.CreateClient());
        NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {name} with (force)");
    }

    /// <summary>More at once than there are connections: they wait for one another, and none is turned away.</summary>
    [Fact]
    public async Task Two_hundred_readers_and_fifty_writers_on_two_instances_are_all_served()
    {
        using var one = await own.As(Roles.Mechanic);
        using var other = await own.As(Roles.Mechanic, other: true);
        var cases = await Task.WhenAll(Enumerable.Range(0, 10).Select(_ => Shop.CaseAsync(one)));
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 250)
                .Select(async i =>
                {
                    var client = i % 2 == 0 ? one : other;
                    var at = cases[i % cases.Length];
                    return i < 50
                        ? await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 1))
                        : await client.GetAsync(i % 3 == 0 ? $"{at}/answers?rooms=strip" : at);
                })
        );
        answers.ShouldAllOfSomeBe(a => a.StatusCode == HttpStatusCode.OK);
    }
}
