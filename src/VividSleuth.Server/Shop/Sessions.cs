using System.Collections.Concurrent;
using System.Data.Common;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>
/// Who is signed in where, kept in the database: the cookie is a key to a row, so that signing out ends it wherever it was copied to, and a lead ends it
/// for somebody else. A row is looked at again after twenty seconds, at every instance.
/// </summary>
public sealed class Sessions(IServiceScopeFactory scopes, IHttpContextAccessor accessor, IDataProtectionProvider protection, TimeProvider time)
    : ITicketStore
{
    /// <summary>For so long an instance goes by what it read.</summary>
    public static readonly TimeSpan Fresh = TimeSpan.FromSeconds(20);

    /// <summary>So often it is written when somebody was last seen.</summary>
    private static readonly TimeSpan SeenEvery = TimeSpan.FromMinutes(5);

    /// <summary>So long after signing in a password or passkey is asked for again, however often somebody was here meanwhile. Source: OWASP ASVS 5, V7.3.2.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(90);

    private const int MostKnown = 5_000;
    private const int LongestDevice = 200;

    private readonly ConcurrentDictionary<string, (AuthenticationTicket? Ticket, DateTimeOffset At)> _known = new(StringComparer.Ordinal);
    private readonly IDataProtector _seal = protection.CreateProtector("sessions");

    public async Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        var key = Convert.ToBase64String(RandomNumberGenerator.GetBytes(32));
        using var scope = scopes.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var now = db.Now();
        // By the clock of the database: an instance whose own is ahead would sign everybody out.
        await db.Database.ExecuteSqlAsync(
            $"""
            delete from sessions where "Until" < now() or "From" < now() - {Longest}
            """
        );
        var device = accessor.HttpContext?.Request.Headers.UserAgent.ToString() ?? "";
        db.Sessions.Add(
            new Session
            {
                KeyHash = Hash(key),
                PersonId = ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier)!,
                Ticket = Sealed(ticket),
                Device = new string([.. device.Take(LongestDevice).Where(c => !char.IsControl(c))]),
                From = now,
                SeenAt = now,
                Until = ticket.Properties.ExpiresUtc ?? now.AddDays(1),
            }
        );
        await db.SaveChangesAsync();
        return key;
    }

    public async Task RenewAsync(string key, AuthenticationTicket ticket)
    {
        var hash = Hash(key);
        using var scope = scopes.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var (now, bytes, until) = (db.Now(), Sealed(ticket), ticket.Properties.ExpiresUtc ?? time.GetUtcNow().AddDays(1));
        try
        {
            var stands = await db
                .Sessions.Where(s => s.KeyHash == hash)
                .ExecuteUpdateAsync(s => s.SetProperty(x => x.Ticket, bytes).SetProperty(x => x.SeenAt, now).SetProperty(x => x.Until, until));
            Know(hash, stands > 0 ? ticket : null);
        }
        catch (Exception e) when (e is DbException or InvalidOperationException { InnerException: DbException })
        {
            // It comes as the answer begins, and would take the answer with it; the next request renews.
        }
    }

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        var hash = Hash(key);
        accessor.HttpContext?.Items.TryAdd(Key, key);
        if (_known.TryGetValue(hash, out var known) && time.GetUtcNow() - known.At < Fresh)
        {
            return known.Ticket;
        }

        using var scope = scopes.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var now = db.Now();
        var began = now - Longest;
        var row = await db.Sessions.AsNoTracking().SingleOrDefaultAsync(s => s.KeyHash == hash && s.Until > now && s.From > began);
        if (row is not null && now - row.SeenAt > SeenEvery)
        {
            await db.Sessions.Where(s => s.KeyHash == hash).ExecuteUpdateAsync(s => s.SetProperty(x => x.SeenAt, now));
        }

        var ticket = row is null ? null : Opened(row.Ticket);
        Know(hash, ticket);
        return ticket;
    }

    public async Task RemoveAsync(string key)
    {
        var hash = Hash(key);
        using var scope = scopes.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        await db.Sessions.Where(s => s.KeyHash == hash).ExecuteDeleteAsync();
        Know(hash, null);
    }

    /// <summary>
    /// Signs a person out on every device: at this instance once <see cref="Forget"/> is told of it, at the others within <see cref="Fresh"/>.
    /// </summary>
    /// <param name="but">The request whose device goes on; null ends all.</param>
    /// <returns>What to forget when the transaction is committed.</returns>
    public static async Task<IReadOnlyList<string>> EndAsync(SleuthDb db, string personId, HttpContext? but, CancellationToken cancel)
    {
        var own = but?.Items[Key] is string key ? Hash(key) : "";
        var hashes = await db.Sessions.Where(s => s.PersonId == personId && s.KeyHash != own).Select(s => s.KeyHash).ToListAsync(cancel);
        await db.Sessions.Where(s => hashes.Contains(s.KeyHash)).ExecuteDeleteAsync(cancel);
        return hashes;
    }

    public void Forget(IReadOnlyList<string> hashes)
    {
        foreach (var hash in hashes)
        {
            Know(hash, null);
        }
    }

    /// <summary>
    /// Who signs in gets a key of his own, whatever key the browser brought: that one is put aside, and ends when somebody is in. Source: OWASP ASVS 5,
    /// V7.2.4.
    /// </summary>
    public static void PutAside(HttpContext context, CookieAuthenticationOptions options)
    {
        var name = OwnCookies.Name(context, options.Cookie.Name!);
        if (context.Request.Cookies[name] is not { Length: > 0 } cookie)
        {
            return;
        }

        if (
            options
                .TicketDataFormat.Unprotect(cookie)
                ?.Principal.Claims.FirstOrDefault(c => c.Type.EndsWith("SessionId", StringComparison.Ordinal)) is
            { } key
        )
        {
            context.Items[Aside] = key.Value;
        }

        context.Request.Headers.Cookie = string.Join("; ", context.Request.Cookies.Where(c => c.Key != name).Select(c => $"{c.Key}={c.Value}"));
    }

    /// <summary>Whether who asked is still signed in; for what goes on long after the request began.</summary>
    public async Task<bool> StillAsync(HttpContext context) => context.Items[Key] is not string key || await RetrieveAsync(key) is not null;

    /// <summary>Ends the session of who was signed in on this device before.</summary>
    public Task LeaveBehindAsync(HttpContext context) => context.Items[Aside] is string key ? RemoveAsync(key) : Task.CompletedTask;

    private static readonly object Key = new();
    private static readonly object Aside = new();

    private static string Hash(string key) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(key)));

    private byte[] Sealed(AuthenticationTicket ticket) => _seal.Protect(TicketSerializer.Default.Serialize(ticket));

    /// <returns>Null where the keys it was sealed with are gone: whoever it is signs in again.</returns>
    private AuthenticationTicket? Opened(byte[] ticket)
    {
        try
        {
            return TicketSerializer.Default.Deserialize(_seal.Unprotect(ticket));
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private void Know(string hash, AuthenticationTicket? ticket)
    {
        if (_known.Count > MostKnown)
        {
            _known.Clear();
        }

        _known[hash] = (ticket, time.GetUtcNow());
    }
}
