using System.Collections.Concurrent;
using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Npgsql;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Casebook;

/// <summary>A case has a new revision. Zero says that some may have been missed: look again.</summary>
public sealed record CaseRevision(long Revision);

/// <summary>
/// Hears of every committed write to a case, of this instance and of the others, over one connection to the database, and tells the open screens
/// of that case.
/// </summary>
public sealed partial class CaseBell(IConfiguration configuration, ILogger<CaseBell> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    // A connection that died without a word is noticed by this.
    private static readonly TimeSpan StillThere = TimeSpan.FromSeconds(30);

    private readonly ConcurrentDictionary<Listener, Guid> _listeners = [];

    /// <summary>Hears of a case's revisions until it is disposed. Of several that come at once the last is enough.</summary>
    public Listener Listen(Guid caseId)
    {
        var listener = new Listener(l => _listeners.TryRemove(l, out _));
        _listeners[listener] = caseId;
        return listener;
    }

    public sealed class Listener(Action<Listener> leave) : IDisposable
    {
        private readonly Channel<long> _revisions = Channel.CreateBounded<long>(
            new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest }
        );

        /// <returns>Null where none came within the time, or where it was called off.</returns>
        public async Task<long?> NextAsync(TimeSpan within, CancellationToken cancel)
        {
            using var end = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            end.CancelAfter(within);
            try
            {
                return await _revisions.Reader.ReadAsync(end.Token);
            }
            catch (OperationCanceledException)
            {
                return null;
            }
        }

        internal void Tell(long revision) => _revisions.Writer.TryWrite(revision);

        public void Dispose() => leave(this);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await HearAsync(stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException or IOException && !stoppingToken.IsCancellationRequested)
            {
                Deaf(log, e.Message);
                await Task.Delay(Pause, stoppingToken);
            }
        }
    }

    private async Task HearAsync(CancellationToken cancel)
    {
        // A line of its own past whatever shares connections out: what is told is heard on the one that listens.
        var straight = configuration.GetConnectionString("Events") ?? configuration.GetConnectionString("Sleuth");
        var connection = new NpgsqlConnectionStringBuilder(StartUp.Connection(straight)) { Pooling = false };
        await using var line = new NpgsqlConnection(connection.ConnectionString);
        line.Notification += (_, told) => Ring(told.Payload);
        await line.OpenAsync(cancel);
        await using (var listen = new NpgsqlCommand($"listen {CaseStates.Channel}", line))
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        // What was written while nobody heard is not told again.
        foreach (var listener in _listeners.Keys)
        {
            listener.Tell(0);
        }

        while (!cancel.IsCancellationRequested)
        {
            if (!await line.WaitAsync(StillThere, cancel))
            {
                await using var ask = new NpgsqlCommand("select 1", line);
                await ask.ExecuteNonQueryAsync(cancel);
            }
        }
    }

    private void Ring(string told)
    {
        var parts = told.Split(' ');
        if (parts.Length != 2 || !Guid.TryParse(parts[0], out var caseId) || !long.TryParse(parts[1], CultureInfo.InvariantCulture, out var revision))
        {
            return;
        }

        foreach (var (listener, listensTo) in _listeners)
        {
            if (listensTo == caseId)
            {
                listener.Tell(revision);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Open screens do not hear of what others write: {Reason}. Trying again.")]
    private static partial void Deaf(ILogger log, string reason);
}

public static class EventEndpoints
{
    /// <summary>A proxy that closes what is silent for a minute is kept from it by this.</summary>
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(25);

    public static void MapEvents(this RouteGroupBuilder api) =>
        api.MapGet(
                "/cases/{id:guid}/events",
                (Guid id, SleuthDb db, CaseBell bell, Sessions sessions, IHostApplicationLifetime life, HttpContext context) =>
                {
                    context.Response.Headers.CacheControl = "no-cache";
                    var end = CancellationTokenSource.CreateLinkedTokenSource(context.Gone(), life.ApplicationStopping);
                    context.Response.RegisterForDispose(end);
                    return TypedResults.ServerSentEvents(TellAsync(id, db, bell, () => sessions.StillAsync(context), end.Token));
                }
            )
            .WithTags("casebook")
            .RequireRateLimiting(Gatekeeping.EventStreams)
            .ProducesProblem(StatusCodes.Status404NotFound);

    /// <summary>First the revision as it stands, so that a screen that was away sees whether it missed something; then each that comes.</summary>
    private static async IAsyncEnumerable<SseItem<CaseRevision>> TellAsync(
        Guid id,
        SleuthDb db,
        CaseBell bell,
        Func<Task<bool>> still,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        // It listens before it looks, so that nothing falls between.
        using var listener = bell.Listen(id);
        var (_, stamp) = await db.StampAsync(id, CancellationToken.None);
        yield return new SseItem<CaseRevision>(new CaseRevision(stamp?.Revision ?? 0), "revision");
        while (!cancel.IsCancellationRequested)
        {
            var revision = await listener.NextAsync(Beat, cancel);
            // Who was signed out meanwhile hears no more.
            if (cancel.IsCancellationRequested || !await still())
            {
                yield break;
            }

            yield return new SseItem<CaseRevision>(new CaseRevision(revision ?? 0), revision is null ? "beat" : "revision");
        }
    }
}
