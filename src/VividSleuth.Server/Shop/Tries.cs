using System.Diagnostics;
using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Caching.Memory;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>
/// Buckets that this instance found full, until they take a try again: a flood of guesses is answered from here, and costs neither a statement nor a line
/// of the log each. What others do at other instances may free one a little earlier; nobody is held longer than was told when it was found full.
/// </summary>
public sealed class FullBuckets : IDisposable
{
    /// <summary>Each of those who flood waits so long for his refusal, so that one who sends the next when he has the answer sends few.</summary>
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(250);

    /// <summary>Refusals that are held back at once; beyond that they are given at once, as they would hold memory.</summary>
    private const int MostPaused = 256;
    private readonly MemoryCache _until = new(new MemoryCacheOptions { SizeLimit = 20_000 });
    private int _paused;

    /// <returns>How long the fullest of them is known to take no try; zero where none is known to be full.</returns>
    public TimeSpan Known(IEnumerable<SignInBucket> buckets)
    {
        var now = Stopwatch.GetTimestamp();
        return buckets
            .Select(b => _until.TryGetValue(b.Key, out long until) && until > now ? Stopwatch.GetElapsedTime(now, until) : TimeSpan.Zero)
            .DefaultIfEmpty()
            .Max();
    }

    public void Remember(FullBucket full) =>
        _until.Set(
            full.Bucket.Key,
            Stopwatch.GetTimestamp() + (long)(full.Wait.TotalSeconds * Stopwatch.Frequency),
            new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = full.Wait }
        );

    public async Task PauseAsync()
    {
        try
        {
            await (Interlocked.Increment(ref _paused) <= MostPaused ? Task.Delay(Pause) : Task.CompletedTask);
        }
        finally
        {
            Interlocked.Decrement(ref _paused);
        }
    }

    public void Dispose() => _until.Dispose();
}

/// <summary>Counts tries to get in, and refuses those that come too often.</summary>
public sealed class Tries(SleuthDb db, FullBuckets known)
{
    /// <param name="stages">The narrowest first: what is refused by one fills none after it.</param>
    /// <returns>The refusal, saying when it may be tried again; null where the try may go on.</returns>
    public async Task<ProblemHttpResult?> CountAsync(HttpContext context, IReadOnlyList<SignInBucket[]> stages, CancellationToken cancel)
    {
        if (known.Known(stages.SelectMany(s => s)) is { Ticks: > 0 } wait)
        {
            await known.PauseAsync();
            return Slower(context, wait);
        }

        foreach (var buckets in stages)
        {
            var full = await db.CountAsync(buckets, cancel);
            if (full.Count == 0)
            {
                continue;
            }

            foreach (var bucket in full)
            {
                known.Remember(bucket);
            }

            SecurityLog.Slowed(context);
            return Slower(context, full.Max(f => f.Wait));
        }

        return null;
    }

    /// <summary>The same of a code of an invitation.</summary>
    public Task<ProblemHttpResult?> CountCodeAsync(HttpContext context, CancellationToken cancel) =>
        CountAsync(
            context,
            [
                [SignInBucket.OfCodes(SignIn.AddressOf(context))],
            ],
            cancel
        );

    private static ProblemHttpResult Slower(HttpContext context, TimeSpan wait)
    {
        Operation.SignIns.Add(1, KeyValuePair.Create<string, object?>("how", "slowed"));
        var seconds = (int)Math.Ceiling(wait.TotalSeconds);
        context.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
        return TypedResults.Problem(
            Problems.Details(context, StatusCodes.Status429TooManyRequests, Problem.Of("", "server.too-many-tries", ("seconds", seconds)))
        );
    }
}
