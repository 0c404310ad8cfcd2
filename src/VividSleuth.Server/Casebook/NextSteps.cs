using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Store;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// Keeps what comes next on each case, so that the casebook is one query: worked out a moment after the last write to a case, beside the requests.
/// </summary>
public sealed partial class NextSteps(IServiceScopeFactory scopes, TimeProvider time, ILogger<NextSteps> log) : BackgroundService
{
    /// <summary>How long a case must be left alone: figures follow each other at the bench, and only what stands after them counts.</summary>
    private static readonly TimeSpan Calm = TimeSpan.FromSeconds(1);

    /// <summary>Where writes never cease it is done all the same.</summary>
    private static readonly TimeSpan AtLatest = TimeSpan.FromSeconds(30);

    private readonly Channel<Guid> _written = Channel.CreateUnbounded<Guid>(new UnboundedChannelOptions { SingleReader = true });

    /// <summary>Tells that a case was written to.</summary>
    public void Written(Guid caseId) => _written.Writer.TryWrite(caseId);

    /// <summary>Works out what comes next and keeps it, where that is not done for the present revision.</summary>
    /// <returns>What comes next, in words; nothing where it cannot be worked out, which keeps no other case from being listed.</returns>
    public async Task<string> KeepAsync(SleuthDb db, CaseDesk desk, Guid caseId, long revision, CancellationToken cancel)
    {
        string next;
        try
        {
            next = Words.Sentences.English.Say((await desk.OpenAsync(caseId, cancel)).Progress.Next);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            LogNotKept(e, caseId);
            return "";
        }

        await db
            .States.Where(s => s.CaseId == caseId && s.NextRevision < revision)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.Next, next).SetProperty(x => x.NextRevision, revision), cancel);
        return next;
    }

    /// <returns>False where nothing was written since the last time.</returns>
    private bool Take(HashSet<Guid> cases)
    {
        var any = false;
        while (_written.Reader.TryRead(out var caseId))
        {
            any = true;
            cases.Add(caseId);
        }

        return any;
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "What comes next on case {CaseId} could not be kept.")]
    private partial void LogNotKept(Exception e, Guid caseId);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await _written.Reader.WaitToReadAsync(stoppingToken))
        {
            var cases = new HashSet<Guid>();
            var since = time.GetTimestamp();
            while (Take(cases) && time.GetElapsedTime(since) < AtLatest)
            {
                await Task.Delay(Calm, time, stoppingToken);
            }

            foreach (var caseId in cases)
            {
                try
                {
                    using var scope = scopes.CreateScope();
                    var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
                    var desk = scope.ServiceProvider.GetRequiredService<CaseDesk>();
                    if (await desk.BeginAsync(caseId, stoppingToken) && desk.Revision is { } revision)
                    {
                        await KeepAsync(db, desk, caseId, revision, stoppingToken);
                    }
                }
                catch (Exception e) when (e is not OperationCanceledException)
                {
                    // The casebook works it out itself where this did not.
                    LogNotKept(e, caseId);
                }
            }
        }
    }
}
