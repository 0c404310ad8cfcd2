using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Store;

namespace VividSleuth.Server;

/// <summary>The standbys that the operator named (ConnectionStrings:Standbys, all hosts, Target Session Attributes=prefer-standby), or none.</summary>
public sealed partial class Standbys(
    IConfiguration configuration,
    DbContextOptions<SleuthDb> options,
    IServiceScopeFactory scopes,
    ILogger<Standbys> log
) : BackgroundService
{
    /// <summary>What is read may be so old.</summary>
    public static readonly TimeSpan Oldest = TimeSpan.FromSeconds(1);

    /// <summary>So often the database that is written to says that it is alive; a standby has the other half to follow.</summary>
    private static readonly TimeSpan Every = Oldest / 2;

    private readonly DbContextOptions<SleuthDb>? _options = configuration.GetConnectionString("Standbys") is { Length: > 0 } hosts
        ? new DbContextOptionsBuilder<SleuthDb>(options).UseNpgsql(StartUp.Connection(hosts)).Options
        : null;

    /// <summary>A context on a standby; null where none is named.</summary>
    public SleuthDb? Open(TimeProvider time) => _options is null ? null : new SleuthDb(_options, time);

    /// <summary>Every instance says it, and one of them is heard.</summary>
    public static Task<int> BeatAsync(SleuthDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            insert into beats ("Id", "At") values ({Beat.Only}, clock_timestamp())
            on conflict ("Id") do update set "At" = clock_timestamp() where beats."At" < clock_timestamp() - {Every * 0.8}
            """,
            cancel
        );

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var tick = new PeriodicTimer(Every);
        while (_options is not null && await tick.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                using var scope = scopes.CreateScope();
                await BeatAsync(scope.ServiceProvider.GetRequiredService<SleuthDb>(), stoppingToken);
            }
            catch (Exception e) when (e is DbException or InvalidOperationException { InnerException: DbException })
            {
                // Until it is back everything is read where it is written.
                Silent(log, e.Message);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Debug, Message = "Standbys cannot tell how old they are: {Reason}")]
    private static partial void Silent(ILogger log, string reason);
}

/// <summary>
/// For what may be a second old, lists over all cases: a standby that has followed so far, and otherwise the database that is written to. Nothing that is kept by
/// the revision of a case is worked out of it.
/// </summary>
public sealed class LateReads(SleuthDb db, Standbys standbys, TimeProvider time) : IAsyncDisposable
{
    private SleuthDb? _late;

    public async Task<SleuthDb> DbAsync(CancellationToken cancel)
    {
        if (_late is not null || standbys.Open(time) is not { } late)
        {
            return _late ?? db;
        }

        try
        {
            // By the clock of the database, on both sides.
            if (await late.Beats.AnyAsync(b => b.At > DateTimeOffset.UtcNow - Standbys.Oldest, cancel))
            {
                return _late = late;
            }
        }
        catch (Exception e) when (e is DbException or InvalidOperationException { InnerException: DbException })
        {
            // It is away, or not a standby of this shop yet.
        }

        await late.DisposeAsync();
        return db;
    }

    public ValueTask DisposeAsync() => _late?.DisposeAsync() ?? ValueTask.CompletedTask;
}
