using Microsoft.EntityFrameworkCore;

namespace VividSleuth.Store.Shop;

/// <summary>
/// Slows guessing at passwords, over all instances, and never locks anybody out for good. A try is counted before it is looked at, so that many at once
/// gain nothing. Buckets that drain; source: NIST SP 800-63B, 3.2.2 (rate limiting), and OWASP, Blocking Brute Force Attacks (device cookies).
/// </summary>
/// <param name="Burst">Tries that may come at once.</param>
/// <param name="Seconds">After so many seconds one more.</param>
public sealed record SignInBucket(string Key, int Burst, int Seconds)
{
    /// <summary>One name, from one device or address.</summary>
    public static SignInBucket OfName(string name, string from) => new($"name {Short(name)} from {Short(from)}", 6, 20);

    /// <summary>All names from one address; a class of thirty signs in behind one.</summary>
    public static SignInBucket OfAddress(string address) => new($"from {Short(address)}", 40, 3);

    /// <summary>One name from everywhere but the devices that have signed in with it before: those are never slowed by strangers.</summary>
    public static SignInBucket OfStrangersTo(string name) => new($"name {Short(name)}", 30, 30);

    /// <summary>Codes of invitations, from one address.</summary>
    public static SignInBucket OfCodes(string address) => new($"codes {Short(address)}", 20, 10);

    private static string Short(string text) => text.Length <= 80 ? text : text[..80];
}

/// <summary>One that takes no try for so long.</summary>
public sealed record FullBucket(SignInBucket Bucket, TimeSpan Wait);

public static class SignInBuckets
{
    /// <summary>Counts a try in each bucket.</summary>
    /// <returns>Those that are full, and in which it is not counted; none where the try may go on.</returns>
    public static async Task<IReadOnlyList<FullBucket>> CountAsync(this SleuthDb db, IEnumerable<SignInBucket> buckets, CancellationToken cancel)
    {
        var full = new List<FullBucket>();
        var now = db.Now();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // In the order of keys, so that two who count in the same ones wait for one another and not for ever.
        foreach (var bucket in buckets.OrderBy(b => b.Key, StringComparer.Ordinal))
        {
            // Locks it and reads it at once: between two statements somebody who got in may have emptied it.
            var stands = await db
                .Database.SqlQuery<SignInTries>(
                    $"""
                    insert into sign_in_tries ("Key", "Level", "At") values ({bucket.Key}, 0, {now})
                    on conflict ("Key") do update set "Level" = sign_in_tries."Level" returning "Key", "Level", "At"
                    """
                )
                .ToListAsync(cancel);
            var drained = Math.Max(0, (now - stands[0].At).TotalSeconds) / bucket.Seconds;
            var level = Math.Max(0, stands[0].Level - drained) + 1;
            if (level > bucket.Burst)
            {
                full.Add(new FullBucket(bucket, TimeSpan.FromSeconds((level - bucket.Burst) * bucket.Seconds)));
                if (stands[0].At > now)
                {
                    // Counted by a clock that was ahead: it drains from now on, and not when that moment has come.
                    await db.Database.ExecuteSqlAsync($"""update sign_in_tries set "At" = {now} where "Key" = {bucket.Key}""", cancel);
                }

                continue;
            }

            await db.Database.ExecuteSqlAsync($"""update sign_in_tries set "Level" = {level}, "At" = {now} where "Key" = {bucket.Key}""", cancel);
        }

        await transaction.CommitAsync(cancel);
        return full;
    }

    /// <summary>After one that was right: it was no guess, and those before it were the same person's.</summary>
    /// <param name="emptied">Is emptied; of the others the one try is taken back.</param>
    public static async Task ForgiveAsync(this SleuthDb db, SignInBucket emptied, IEnumerable<SignInBucket> others, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"""delete from sign_in_tries where "Key" = {emptied.Key}""", cancel);
        // One by one: a single statement over several locks them in no order of ours, and might wait for ever for one who counts in them.
        foreach (var key in others.Select(b => b.Key))
        {
            await db.Database.ExecuteSqlAsync($"""update sign_in_tries set "Level" = greatest(0, "Level" - 1) where "Key" = {key}""", cancel);
        }
    }

    /// <summary>What has drained long ago tells nothing any more.</summary>
    public static Task ForgetAsync(this SleuthDb db, CancellationToken cancel)
    {
        var old = db.Now() - TimeSpan.FromHours(6);
        // What somebody counts in at this moment is not old: it is passed over, and waited for by nobody.
        return db.Database.ExecuteSqlAsync(
            $"""delete from sign_in_tries where "Key" in (select "Key" from sign_in_tries where "At" < {old} for update skip locked)""",
            cancel
        );
    }
}
