using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using VividSleuth.Core.Measures;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

public sealed record Credentials(string Name, string Password);

public sealed record SignedIn(string Name, string Role);

/// <summary>Whether the shop has anyone yet; if not, the code of the first lead stands on the console of the program.</summary>
/// <param name="Language">In which a device is told on which nobody chose one.</param>
public sealed record Setup(bool NeedsFirstLead, Language Language);

/// <summary>What the browser answered when it was asked for a passkey, as it gave it.</summary>
public sealed record PasskeyAnswer(JsonElement Credential);

/// <summary>Signing in and out.</summary>
public static class SignIn
{
    /// <summary>Says that this device has signed in with a name before: it is not slowed by what strangers do to that name.</summary>
    private const string DeviceCookie = "sleuth-device";

    /// <summary>Where somebody comes in.</summary>
    public static IReadOnlyList<string> Doors { get; } = ["/api/sign-in", "/api/passkey/sign-in", "/api/invitations/use"];

    private static readonly TimeSpan DeviceKept = TimeSpan.FromDays(400);

    public static void MapSignIn(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("shop");
        group.MapGet(
            "/setup",
            async (SleuthDb db, CancellationToken cancel) =>
                new Setup(await People.NobodyYetAsync(db, cancel), (await db.SettingsAsync(cancel)).Language)
        );
        group.MapGet(
            "/me",
            Results<Ok<SignedIn>, UnauthorizedHttpResult> (ClaimsPrincipal user) =>
                user.Identity is { IsAuthenticated: true, Name: { } name }
                    ? TypedResults.Ok(new SignedIn(name, user.FindFirstValue(ClaimTypes.Role) ?? Roles.Viewer))
                    : TypedResults.Unauthorized()
        );
        group
            .MapPost("/sign-in", SignInAsync)
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);
        group.MapPost(
            "/sign-out",
            async (SignInManager<Person> signIn, HttpContext context) =>
            {
                SecurityLog.Left(context, context.User.Identity?.Name ?? "");
                await signIn.SignOutAsync();
                return TypedResults.NoContent();
            }
        );
        group
            .MapPost(
                "/passkey/ask",
                async (SignInManager<Person> signIn) => Results.Text(await signIn.MakePasskeyRequestOptionsAsync(user: null), "application/json")
            )
            .Produces<JsonElement>();
        group
            .MapPost("/passkey/sign-in", SignInWithPasskeyAsync)
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);
    }

    private static async Task<Results<Ok<SignedIn>, ProblemHttpResult>> SignInAsync(
        Credentials credentials,
        HttpContext context,
        SleuthDb db,
        Tries tries,
        HashGate gate,
        SignInManager<Person> signIn,
        UserManager<Person> people,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var name = PasswordRules.NormalName(credentials.Name);
        var key = people.NormalizeName(name);
        var (device, address) = (DeviceOf(context, protection, key), AddressOf(context));
        var own = SignInBucket.OfName(key, device ?? address);
        SignInBucket[] others = device is null ? [SignInBucket.OfAddress(address), SignInBucket.OfStrangersTo(key)] : [];
        // The narrowest first: what is refused by it fills no other.
        if (
            await tries.CountAsync(
                context,
                [
                    [own],
                    others,
                ],
                cancel
            ) is
            { } slowed
        )
        {
            return slowed;
        }

        var person = await people.FindByNameAsync(name);
        // The same work whether there is somebody of that name or not, so that neither time nor words tell.
        var fits = await gate.RunAsync(
            async () =>
                credentials.Password.Length <= PasswordRules.Longest * 2
                && (person is null ? gate.CheckNobodys(credentials.Password) : await people.CheckPasswordAsync(person, credentials.Password)),
            cancel
        );
        if (person is null || !fits || person.ShutOutAt is not null)
        {
            Operation.SignIns.Add(1, KeyValuePair.Create<string, object?>("how", "refused"));
            SecurityLog.Refused(context, name);
            return TypedResults.Problem(Problems.Details(context, StatusCodes.Status401Unauthorized, "server.name-and-password-do-not-fit"));
        }

        await db.ForgiveAsync(own, others, cancel);
        await db.ForgetAsync(cancel);
        await EnterAsync(person, signIn, context, protection, key);
        return TypedResults.Ok(await SaidAsync(person, people));
    }

    private static async Task<Results<Ok<SignedIn>, ProblemHttpResult>> SignInWithPasskeyAsync(
        PasskeyAnswer answer,
        HttpContext context,
        SleuthDb db,
        Tries tries,
        SignInManager<Person> signIn,
        UserManager<Person> people,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        SignInBucket[] address = [SignInBucket.OfAddress(AddressOf(context))];
        if (await tries.CountAsync(context, [address], cancel) is { } slowed)
        {
            return slowed;
        }

        PasskeyAssertionResult<Person> result;
        try
        {
            result = await signIn.PerformPasskeyAssertionAsync(answer.Credential.GetRawText());
        }
        catch (InvalidOperationException)
        {
            // Nobody asked for one before, or too long ago.
            return Refused();
        }

        if (!result.Succeeded || result.User.ShutOutAt is not null)
        {
            return Refused();
        }

        // How often it was used is kept with it, so that a copy of it is noticed.
        await people.AddOrUpdatePasskeyAsync(result.User, result.Passkey);
        await db.ForgiveAsync(new SignInBucket("", 1, 1), address, cancel);
        await EnterAsync(result.User, signIn, context, protection, people.NormalizeName(result.User.UserName)!);
        return TypedResults.Ok(await SaidAsync(result.User, people));

        ProblemHttpResult Refused()
        {
            SecurityLog.Refused(context, "(passkey)");
            return TypedResults.Problem(Problems.Details(context, StatusCodes.Status401Unauthorized, "server.passkey-does-not-fit"));
        }
    }

    /// <summary>Not by the framework’s own sign-in with a password: it counts failures in a way that parallel guesses pass.</summary>
    public static async Task EnterAsync(
        Person person,
        SignInManager<Person> signIn,
        HttpContext context,
        IDataProtectionProvider protection,
        string normalName
    )
    {
        await context.RequestServices.GetRequiredService<Sessions>().LeaveBehindAsync(context);
        await signIn.SignInAsync(person, isPersistent: true);
        Operation.SignIns.Add(1, KeyValuePair.Create<string, object?>("how", "in"));
        SecurityLog.Came(context, person.UserName!);
        var device = DeviceOf(context, protection, normalName) ?? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12));
        context.Response.Cookies.Append(
            DeviceCookie,
            Seal(protection).Protect($"{device} {normalName}", DeviceKept),
            new CookieOptions
            {
                HttpOnly = true,
                IsEssential = true,
                SameSite = SameSiteMode.Strict,
                Secure = context.Request.IsHttps,
                MaxAge = DeviceKept,
                Path = "/api",
            }
        );
    }

    public static async Task<SignedIn> SaidAsync(Person person, UserManager<Person> people) =>
        new(person.UserName!, (await people.GetRolesAsync(person)).FirstOrDefault() ?? Roles.Viewer);

    /// <summary>Where a request comes from; of an address of version 6 the part that a household has.</summary>
    public static string AddressOf(HttpContext context)
    {
        var address = context.Connection.RemoteIpAddress;
        return address switch
        {
            null => "",
            { IsIPv4MappedToIPv6: true } => address.MapToIPv4().ToString(),
            { AddressFamily: System.Net.Sockets.AddressFamily.InterNetworkV6 } => Convert.ToHexStringLower(address.GetAddressBytes().AsSpan(0, 8)),
            _ => address.ToString(),
        };
    }

    private static string? DeviceOf(HttpContext context, IDataProtectionProvider protection, string? normalName)
    {
        try
        {
            return
                context.Request.Cookies[DeviceCookie] is { Length: > 0 and < 2_000 } cookie
                && Seal(protection).Unprotect(cookie).Split(' ', 2) is [var device, var of]
                && of == normalName
                ? device
                : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private static ITimeLimitedDataProtector Seal(IDataProtectionProvider protection) =>
        protection.CreateProtector("device").ToTimeLimitedDataProtector();
}
