using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Server;
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

    /// <summary>What may be a second old is read from a standby that has followed so far, and else from where it is written.</summary>
    [Theory]
    [InlineData(60.0, false)]
    [InlineData(-0.1, true)]
    [InlineData(null, true)]
    public async Task A_standby_that_has_not_followed_is_not_asked(double? minutes, bool found)
    {
        var standby = $"standby_{Guid.CreateVersion7():N}";
        await own.Run($"create database {standby}");
        await using (var db = SleuthDbFactory.Create(own.ConnectionTo(standby)))
        {
            await db.Database.MigrateAsync(TestContext.Current.CancellationToken);
            if (minutes is { } ahead)
            {
                db.Beats.Add(new Beat { At = DateTimeOffset.UtcNow.AddMinutes(ahead) });
                await db.SaveChangesAsync(TestContext.Current.CancellationToken);
            }
        }

        await using (
            var instance = own.Instance(
                new NpgsqlConnectionStringBuilder(own.Connection).Database!,
                ("ConnectionStrings:Standbys", own.ConnectionTo(standby))
            )
        )
        {
            using var client = instance.CreateClient();
            await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
            await Shop.CaseAsync(client, title: "Threshing machine with a limp");
            var page = await client.GetAsync("/api/search?find=threshing").Json();
            (page["total"]!.GetValue<int>() > 0).ShouldBe(found);
        }

        NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {standby} with (force)");
    }

    [Fact]
    public async Task A_standby_that_is_away_costs_an_attempt_and_no_answer()
    {
        var away = new NpgsqlConnectionStringBuilder(own.Connection) { Host = "127.0.0.1:1,127.0.0.1:2", Timeout = 1 }.ConnectionString;
        await using var instance = own.Instance(
            new NpgsqlConnectionStringBuilder(own.Connection).Database!,
            ("ConnectionStrings:Standbys", away + ";Target Session Attributes=prefer-standby")
        );
        using var client = instance.CreateClient();
        await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
        await Shop.CaseAsync(client, title: "Seed drill that would not start");
        (await client.GetAsync("/api/search?find=drill").Json())["total"]!.GetValue<int>().ShouldBePositive();
    }

    /// <summary>Before tables are brought up to date there is a dump of what stood, also where several hosts are named.</summary>
    [Fact]
    public async Task An_update_leaves_a_dump_of_what_stood_before_it()
    {
        var name = $"older_{Guid.CreateVersion7():N}";
        await own.Run($"create database {name}");
        var connection = new NpgsqlConnectionStringBuilder(own.ConnectionTo(name));
        await using (var db = SleuthDbFactory.Create(connection.ConnectionString))
        {
            await db.GetService<IMigrator>().MigrateAsync(db.Database.GetMigrations().SkipLast(1).Last(), TestContext.Current.CancellationToken);
        }

        connection.Host = string.Join(',', Enumerable.Repeat($"{connection.Host}:{connection.Port}", 2));
        var folder = Directory.CreateTempSubdirectory().FullName;
        var dump = Directory
            .GetDirectories("/usr/lib/postgresql")
            .Select(v => Path.Combine(v, "bin", "pg_dump"))
            .Order(StringComparer.Ordinal)
            .Last();
        await using (
            var instance = own.Instance(
                name,
                ("ConnectionStrings:Owner", connection.ConnectionString),
                ("Backup:Folder", folder),
                ("Backup:PgDump", dump)
            )
        )
        {
            using var client = instance.CreateClient();
        }

        var told = await File.ReadAllTextAsync(Directory.GetFiles(folder).ShouldHaveSingleItem(), TestContext.Current.CancellationToken);
        told.ShouldStartWith("PGDMP");
        told.ShouldContain(name);
        told.ShouldContain("case_index");
        Directory.Delete(folder, recursive: true);
        NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {name} with (force)");
    }

    /// <summary>What an operator says of a connection is kept, nothing among it; the rest is ours.</summary>
    [Theory]
    [InlineData("Host=a;Max Auto Prepare=0;Maximum Pool Size=15;Timeout=2", 0, 15, 2)]
    [InlineData("Host=a", 60, 40, 30)]
    public void What_is_said_of_a_connection_is_kept(string given, int prepared, int pool, int timeout)
    {
        var of = new NpgsqlConnectionStringBuilder(StartUp.Connection(given));
        (of.MaxAutoPrepare, of.MaxPoolSize, of.Timeout).ShouldBe((prepared, pool, timeout));
    }

    /// <summary>It is said twice a second however many instances say it, and what was said stands there.</summary>
    [Fact]
    public async Task Who_is_written_to_says_so_often_enough()
    {
        await using var db = SleuthDbFactory.Create(own.Connection);
        // An instance of the test before this one may have said it a moment ago.
        await db.Beats.ExecuteDeleteAsync(TestContext.Current.CancellationToken);
        (await Standbys.BeatAsync(db, TestContext.Current.CancellationToken)).ShouldBe(1);
        (await Standbys.BeatAsync(db, TestContext.Current.CancellationToken)).ShouldBe(0);
        (await db.Beats.CountAsync(TestContext.Current.CancellationToken)).ShouldBe(1);
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

    /// <summary>Behind a proxy that is named, who asks and that it came over TLS are believed; behind any other they are not.</summary>
    [Theory]
    [InlineData("127.0.0.1", true)]
    [InlineData("10.9.9.9", false)]
    public async Task A_proxy_is_believed_only_where_it_is_named(string named, bool believed)
    {
        var database = new NpgsqlConnectionStringBuilder(own.Connection).Database!;
        await using var instance = own.Instance(database, ("Proxy:Known:0", named));
        using var client = instance.CreateDefaultClient(instance.ClientOptions.BaseAddress);
        client.DefaultRequestHeaders.Add("X-Forwarded-For", "203.0.113.7");
        client.DefaultRequestHeaders.Add("X-Forwarded-Proto", "https");
        var came = await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password });
        came.StatusCode.ShouldBe(HttpStatusCode.OK);
        came.Headers.GetValues("Set-Cookie").ShouldAllOfSomeBe(c => c.Contains("secure", StringComparison.OrdinalIgnoreCase) == believed);
        came.Headers.Contains("Strict-Transport-Security").ShouldBe(believed);
    }

    /// <summary>What the shop's keys are sealed with does not lie beside them.</summary>
    [Fact]
    public async Task Keys_are_sealed_at_rest_where_a_certificate_is_given()
    {
        var name = $"keys_{Guid.CreateVersion7():N}";
        await own.Run($"create database {name}");
        var file = Path.GetTempFileName();
        using (var rsa = System.Security.Cryptography.RSA.Create(2048))
        {
            var request = new System.Security.Cryptography.X509Certificates.CertificateRequest(
                "CN=vivid-sleuth",
                rsa,
                System.Security.Cryptography.HashAlgorithmName.SHA256,
                System.Security.Cryptography.RSASignaturePadding.Pkcs1
            );
            using var made = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(30));
            await File.WriteAllBytesAsync(
                file,
                made.Export(System.Security.Cryptography.X509Certificates.X509ContentType.Pkcs12, "sealed"),
                TestContext.Current.CancellationToken
            );
        }

        await using (var instance = own.Instance(name, ("Keys:Certificate", file), ("Keys:Password", "sealed")))
        {
            await Shop.LetInAsync(instance);
            using var client = instance.CreateClient();
            await client.PostAsJsonAsync("/api/sign-in", new { name = Roles.Mechanic, password = Shop.Password }).Json();
            (await client.GetAsync("/api/me").Json())["name"]!.ToString().ShouldBe(Roles.Mechanic);
        }

        await using (var db = SleuthDbFactory.Create(own.ConnectionTo(name)))
        {
            var keys = await db.DataProtectionKeys.Select(k => k.Xml!).ToListAsync(TestContext.Current.CancellationToken);
            keys.ShouldAllOfSomeBe(k => k.Contains("EncryptedData") && !k.Contains("<masterKey"));
        }

        File.Delete(file);
        NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {name} with (force)");
    }

    /// <summary>What follows on a line that broke unseen says that the database is away, so that it is sent again, and not that the program failed.</summary>
    [Theory]
    [InlineData("statement")]
    [InlineData("save")]
    [InlineData("commit")]
    public async Task A_transaction_whose_line_broke_is_a_database_that_is_away(string next)
    {
        var stop = TestContext.Current.CancellationToken;
        using var scope = own.One.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var line = (NpgsqlConnection)db.Database.GetDbConnection();
        await own.Run($"select pg_terminate_backend({line.ProcessID})", own.Connection);
        // As the framework does it, which passes over the failure.
        await using (var unseen = new NpgsqlCommand("release savepoint x", line))
        {
            await Should.ThrowAsync<NpgsqlException>(() => unseen.ExecuteNonQueryAsync(stop));
        }

        db.Lessons.Add(new Lesson { Id = Guid.CreateVersion7(), Text = "x" });
        var failed = await Should.ThrowAsync<Exception>(() =>
            next switch
            {
                "statement" => db.Database.ExecuteSqlAsync($"select 1", stop),
                "save" => db.SaveChangesAsync(stop),
                _ => transaction.CommitAsync(stop),
            }
        );
        failed.ShouldBeOfType<NpgsqlException>();
    }
}
