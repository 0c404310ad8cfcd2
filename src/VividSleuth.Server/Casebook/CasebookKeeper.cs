using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Build;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// Keeps what the casebook says of each case, what comes next and what it waits for, so that it is one query: worked out a moment after the last write to a case, beside the requests.
/// </summary>
public sealed partial class CasebookKeeper(IServiceScopeFactory scopes, TimeProvider time, Aside aside, ILogger<CasebookKeeper> log)
    : BackgroundService
{
    /// <summary>How long a case must be left alone: figures follow each other at the bench, and only what stands after them counts.</summary>
    private static readonly TimeSpan Calm = TimeSpan.FromSeconds(1);

    /// <summary>Where writes never cease it is done all the same.</summary>
    private static readonly TimeSpan AtLatest = TimeSpan.FromSeconds(30);

    private readonly Channel<Guid> _written = Channel.CreateUnbounded<Guid>(new UnboundedChannelOptions { SingleReader = true });

    /// <summary>Of a case with more in it what comes next takes a second to work out: who asks for a list does not wait for it.</summary>
    private const int MostFindings = 100;

    private const int MostReadings = 500;

    /// <summary>Tells that a case was written to.</summary>
    public void Written(Guid caseId) => _written.Writer.TryWrite(caseId);

    /// <summary>Works out what comes next and what the case waits for, and keeps it in its state, where that is not done for the present revision.</summary>
    /// <remarks>Where it cannot be worked out nothing is said of it, which keeps no other case from being listed.</remarks>
    /// <param name="waits">Whether somebody waits for it; else it yields to those for whom somebody does.</param>
    public async Task KeepAsync(SleuthDb db, CaseDesk desk, BuildDesk build, CaseState state, bool waits, CancellationToken cancel)
    {
        Progress progress;
        CaseIndex index;
        try
        {
            var reader = await desk.OpenAsync(state.CaseId, cancel);
            var shop = Tellings.Of((await db.SettingsAsync(cancel)).Language);
            (Progress, CaseIndex) Both() => (reader.Progress, CaseIndex.Of(reader, state.Revision, Tellings.English, shop));
            (progress, index) = waits ? Both() : await aside.RunAsync(Both);
            (state.Promised, state.Likely, state.LikelyOn) = await ForetoldAsync(reader, desk, build, cancel);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            LogNotKept(e, state.CaseId);
            state.Next = "";
            return;
        }

        // First by what it is found, then that it is kept: stopped in between, it is worked out once more.
        await db.KeepIndexAsync(index, cancel);
        state.Take(progress, Tellings.English, Tellings.Others);
        await db
            .States.Where(s => s.CaseId == state.CaseId && s.NextRevision <= state.Revision)
            .ExecuteUpdateAsync(
                s =>
                    s.SetProperty(x => x.Next, state.Next)
                        .SetProperty(x => x.NextIn, state.NextIn)
                        .SetProperty(x => x.ToSign, state.ToSign)
                        .SetProperty(x => x.Away, state.Away)
                        .SetProperty(x => x.Coming, state.Coming)
                        .SetProperty(x => x.With, state.With)
                        .SetProperty(x => x.Due, state.Due)
                        .SetProperty(x => x.Promised, state.Promised)
                        .SetProperty(x => x.Likely, state.Likely)
                        .SetProperty(x => x.LikelyOn, state.LikelyOn)
                        .SetProperty(x => x.NextRevision, state.Revision),
                cancel
            );
    }

    /// <summary>So many cases that were written to a moment ago are kept before a list is made; the others follow by themselves.</summary>
    private const int MostLate = 20;

    /// <summary>What was written so lately that it is not kept yet: what is counted and found must be what is shown.</summary>
    public async Task CatchUpAsync(SleuthDb db, CaseDesk desk, BuildDesk build, CancellationToken cancel)
    {
        var today = desk.Today;
        foreach (
            var late in await db
                .States.AsNoTracking()
                // A day that is foretold moves on with the days, though nobody writes.
                .Where(x => x.NextRevision < x.Revision || x.LikelyOn < today)
                .Where(x => x.Findings <= MostFindings && x.Readings <= MostReadings)
                .OrderByDescending(x => x.LastAt)
                .Take(MostLate)
                .ToListAsync(cancel)
        )
        {
            await KeepNowAsync(db, desk, build, late, cancel);
        }
    }

    /// <summary>The same while somebody waits for it: of a large case what was kept before stands until it follows by itself.</summary>
    public Task KeepNowAsync(SleuthDb db, CaseDesk desk, BuildDesk build, CaseState state, CancellationToken cancel) =>
        state.Findings > MostFindings || state.Readings > MostReadings ? Task.CompletedTask : KeepAsync(db, desk, build, state, waits: true, cancel);

    /// <summary>The day that was promised to its owner and the day on which it likely runs, of a case that has not run again.</summary>
    private static async Task<(DateOnly? Promised, DateOnly? Likely, DateOnly? On)> ForetoldAsync(
        CaseReader reader,
        CaseDesk desk,
        BuildDesk build,
        CancellationToken cancel
    )
    {
        if (!reader.Case.BuildPromises.Exists(p => p.Stands()))
        {
            return (null, null, null);
        }

        var (work, clocks, now) = await build.SettingAsync(cancel);
        var plan = reader.BuildAt(work, clocks, now, worth: false);
        return plan.RanOn is null ? (plan.Promise?.Day, plan.Likely, desk.Today) : (null, null, null);
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

    [LoggerMessage(Level = LogLevel.Warning, Message = "What the casebook says of case {CaseId} could not be kept.")]
    private partial void LogNotKept(Exception e, Guid caseId);

    /// <summary>What is told of cases is told anew, one after the other, beside what is written meanwhile; nobody waits for it.</summary>
    public async Task TellAnewAsync(SleuthDb db, CancellationToken cancel)
    {
        await db.States.ExecuteUpdateAsync(s => s.SetProperty(x => x.NextIn, new Dictionary<string, string>()), cancel);
        await BehindAsync(db, cancel);
    }

    private async Task BehindAsync(SleuthDb db, CancellationToken cancel)
    {
        foreach (var caseId in await db.BehindAsync(cancel))
        {
            Written(caseId);
        }
    }

    /// <summary>What an older version of the program kept, or one that was stopped before it came to it, is worked out anew.</summary>
    private async Task BehindAsync(CancellationToken cancel)
    {
        try
        {
            using var scope = scopes.CreateScope();
            await BehindAsync(scope.ServiceProvider.GetRequiredService<SleuthDb>(), cancel);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            LogNotKept(e, Guid.Empty);
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await BehindAsync(stoppingToken);
        while (await _written.Reader.WaitToReadAsync(stoppingToken))
        {
            var cases = new HashSet<Guid>();
            var since = time.GetTimestamp();
            while (Take(cases) && time.GetElapsedTime(since) < AtLatest)
            {
                await Task.Delay(Calm, time, stoppingToken);
            }

            var began = time.GetTimestamp();
            foreach (var caseId in cases)
            {
                try
                {
                    using var scope = scopes.CreateScope();
                    var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
                    var desk = scope.ServiceProvider.GetRequiredService<CaseDesk>();
                    if (await desk.BeginAsync(caseId, stoppingToken) && desk.Revision is { } revision)
                    {
                        var build = scope.ServiceProvider.GetRequiredService<BuildDesk>();
                        await KeepAsync(db, desk, build, new CaseState { CaseId = caseId, Revision = revision }, waits: false, stoppingToken);
                    }
                }
                catch (Exception e) when (e is not OperationCanceledException)
                {
                    // The casebook works it out itself where this did not.
                    LogNotKept(e, caseId);
                }
            }

            // A quarter of the time at the most: who works at the bench comes first.
            await Task.Delay(3 * time.GetElapsedTime(began), time, stoppingToken);
        }
    }
}
