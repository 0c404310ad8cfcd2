using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace VividSleuth.Store;

/// <summary>For the migration tool only, which needs the model and no database.</summary>
public sealed class SleuthDbFactory : IDesignTimeDbContextFactory<SleuthDb>
{
    public SleuthDb CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<SleuthDb>().UseNpgsql("Host=127.0.0.1;Database=design").Options, TimeProvider.System);
}
