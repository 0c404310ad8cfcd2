using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.Extensions.DependencyInjection;

namespace VividSleuth.Store;

/// <summary>For those who make the context without the server: the migration tool, which needs the model and no database, and the command line.</summary>
public sealed class SleuthDbFactory : IDesignTimeDbContextFactory<SleuthDb>
{
    public SleuthDb CreateDbContext(string[] args) => Create("Host=127.0.0.1;Database=design");

    public static SleuthDb Create(string connection) =>
        new(
            new DbContextOptionsBuilder<SleuthDb>()
                .UseNpgsql(connection)
                .UseApplicationServiceProvider(
                    new ServiceCollection()
                        .Configure<IdentityOptions>(o => o.Stores.SchemaVersion = SleuthDb.SchemaOfPeople)
                        .AddOptions()
                        .BuildServiceProvider()
                )
                .Options,
            TimeProvider.System
        );
}
