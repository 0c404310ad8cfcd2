using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>
/// What a name and a password must be. Source: NIST SP 800-63B-4, 3.1.1.2: at least fifteen characters where nothing else is asked for, at least 64 taken,
/// all characters taken, normalised before hashing, no rules of composition, and what is common or expected refused.
/// </summary>
public static class PasswordRules
{
    public const int Shortest = 15;
    public const int Longest = 128;
    private const int LongestName = 40;

    /// <summary>The estimate is of its head: what comes after makes it no easier to guess, and the estimate takes long on long ones.</summary>
    private const int Estimated = 60;

    /// <summary>Guesses as a power of ten class of zxcvbn: 0 to 4; below 3 is guessable without stopping at a throttled door.</summary>
    private const int LeastScore = 3;

    /// <summary>One spelling of characters that can be written in two ways, so that the same password fits from every keyboard.</summary>
    public static string Normal(string password) => password.Normalize(NormalizationForm.FormKC);

    /// <summary>A name as it is kept: without blanks around it, in one spelling.</summary>
    public static string NormalName(string name) => name.Trim().Normalize(NormalizationForm.FormC);

    /// <summary>What is wrong with a password; null where nothing is.</summary>
    public static Problem? CheckPassword(string password, string name)
    {
        var normal = Normal(password);
        var length = normal.EnumerateRunes().Count();
        if (length < Shortest)
        {
            return Problem.Of("password", "server.password-too-short", ("least", Shortest));
        }

        if (length > Longest)
        {
            return Problem.Of("password", "server.password-too-long", ("most", Longest));
        }

        var head = normal.Length <= Estimated ? normal : normal[..Estimated];
        return Zxcvbn.Zxcvbn.MatchPassword(head, [name, "vivid", "sleuth", "vividsleuth"]).Score < LeastScore
            ? Problem.Of("password", "server.password-easily-guessed")
            : null;
    }

    /// <summary>What is wrong with a name; null where nothing is. Names are as people have them: letters of any script, with what stands between.</summary>
    public static Problem? CheckName(string name)
    {
        var normal = NormalName(name);
        if (normal.Length == 0)
        {
            return Problem.Of("name", "server.name-needed");
        }

        var blank = true;
        foreach (var rune in normal.EnumerateRunes())
        {
            var isLetter =
                Rune.IsLetterOrDigit(rune) || Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.SpacingCombiningMark;
            if ((!isLetter && rune.Value is not (' ' or '-' or '.' or '\'' or '’' or '_' or '·')) || (blank && rune.Value == ' '))
            {
                return Problem.Of("name", "server.name-cannot-be");
            }

            blank = rune.Value == ' ';
        }

        return normal.Length > LongestName ? Problem.Of("name", "server.name-too-long", ("most", LongestName)) : null;
    }
}

/// <summary>Hashes as the framework does, in one spelling.</summary>
public sealed class NormalHasher(IOptions<PasswordHasherOptions> options) : IPasswordHasher<Person>
{
    private readonly PasswordHasher<Person> _inner = new(options);

    public string HashPassword(Person user, string password) => _inner.HashPassword(user, PasswordRules.Normal(password));

    public PasswordVerificationResult VerifyHashedPassword(Person user, string hashedPassword, string providedPassword) =>
        _inner.VerifyHashedPassword(user, hashedPassword, PasswordRules.Normal(providedPassword));
}

/// <summary>Hashing takes a core for a tenth of a second: so few at a time that all others are still served, and so many waiting that none waits long.</summary>
public sealed class HashGate(IPasswordHasher<Person> hasher) : IDisposable
{
    private const int MostWaiting = 24;
    private readonly SemaphoreSlim _hands = new(Math.Max(1, Environment.ProcessorCount / 2));
    private readonly Lazy<string> _nobodys = new(() => hasher.HashPassword(new Person(), Guid.NewGuid().ToString()));
    private int _waiting;

    /// <summary>Passwords that are held against their hash, or wait to be.</summary>
    public int Waiting => Volatile.Read(ref _waiting);

    /// <exception cref="BusyException">Too many wait already.</exception>
    public async Task<T> RunAsync<T>(Func<Task<T>> work, CancellationToken cancel)
    {
        if (Interlocked.Increment(ref _waiting) > MostWaiting)
        {
            Interlocked.Decrement(ref _waiting);
            throw new BusyException();
        }

        try
        {
            await _hands.WaitAsync(cancel);
            try
            {
                return await work();
            }
            finally
            {
                _hands.Release();
            }
        }
        finally
        {
            Interlocked.Decrement(ref _waiting);
        }
    }

    public void Dispose() => _hands.Dispose();

    /// <summary>Takes as long as a look at somebody's password, where there is nobody of that name.</summary>
    public bool CheckNobodys(string password) =>
        hasher.VerifyHashedPassword(new Person(), _nobodys.Value, password) == PasswordVerificationResult.Success;
}
