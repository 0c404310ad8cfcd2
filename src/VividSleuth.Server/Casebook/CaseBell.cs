using System.Collections.Concurrent;
using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Npgsql;
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

    private readonly ConcurrentDictionary<Channel<long>, Guid> _listeners = [];

    /// <summary>Revisions of a case as they come, until it is cancelled. Of several that come at once the last is enough.</summary>
    public async IAsyncEnumerable<long> ListenAsync(Guid caseId, [EnumeratorCancellation] CancellationToken cancel)
    {
        var channel = Channel.CreateBounded<long>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        _listeners[channel] = caseId;
        try
        {
            await foreach (var revision in channel.Reader.ReadAllAsync(cancel))
            {
                yield return revision;
            }
        }
        finally
        {
            _listeners.TryRemove(channel, out _);
        }
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
        var connection = new NpgsqlConnectionStringBuilder(StartUp.Connection(configuration.GetConnectionString("Sleuth"))) { Pooling = false };
        await using var line = new NpgsqlConnection(connection.ConnectionString);
        line.Notification += (_, told) => Ring(told.Payload);
        await line.OpenAsync(cancel);
        await using (var listen = new NpgsqlCommand($"listen {CaseStates.Channel}", line))
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        // What was written while nobody heard is not told again.
        foreach (var channel in _listeners.Keys)
        {
            channel.Writer.TryWrite(0);
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

        foreach (var (channel, listensTo) in _listeners)
        {
            if (listensTo == caseId)
            {
                channel.Writer.TryWrite(revision);
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
                (Guid id, CaseDesk desk, CaseBell bell, IHostApplicationLifetime life, HttpContext context) =>
                {
                    context.Response.Headers.CacheControl = "no-cache";
                    var end = CancellationTokenSource.CreateLinkedTokenSource(context.RequestAborted, life.ApplicationStopping);
                    context.Response.RegisterForDispose(end);
                    return TypedResults.ServerSentEvents(TellAsync(id, desk.Revision ?? 0, bell, end.Token));
                }
            )
            .WithTags("casebook")
            .ProducesProblem(StatusCodes.Status404NotFound);

    /// <param name="now">The revision when it was asked, told at once: a screen that was away sees whether it missed something.</param>
    private static async IAsyncEnumerable<SseItem<CaseRevision>> TellAsync(
        Guid id,
        long now,
        CaseBell bell,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        yield return new SseItem<CaseRevision>(new CaseRevision(now), "revision");
        await using var revisions = bell.ListenAsync(id, cancel).GetAsyncEnumerator(cancel);
        var next = revisions.MoveNextAsync().AsTask();
        while (!cancel.IsCancellationRequested)
        {
            if (await Task.WhenAny(next, Task.Delay(Beat, cancel)) != next)
            {
                yield return new SseItem<CaseRevision>(new CaseRevision(now), "beat");
                continue;
            }

            if (!await MoreAsync(next))
            {
                yield break;
            }

            now = Math.Max(now, revisions.Current);
            yield return new SseItem<CaseRevision>(new CaseRevision(revisions.Current), "revision");
            next = revisions.MoveNextAsync().AsTask();
        }
    }

    /// <summary>Whether there is a next one; that the screen has gone is no error.</summary>
    private static async Task<bool> MoreAsync(Task<bool> next)
    {
        try
        {
            return await next;
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }
}
