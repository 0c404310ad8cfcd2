using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Strip;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

public sealed record Credentials(string Name, string Password);

public sealed record SignedIn(string Name, string Role);

/// <summary>Whether the shop has anyone yet; if not, the first account is a lead's.</summary>
public sealed record Setup(bool NeedsFirstLead);

public sealed record NewPerson(string Name, string Password, string Role);

public static class SignIn
{
    public const int ShortestPassword = 10;

    public static void MapSignIn(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("").WithTags("shop");
        group.MapGet("/setup", async (SleuthDb db, CancellationToken cancel) => new Setup(!await db.Users.AnyAsync(cancel)));
        group.MapGet(
            "/me",
            Results<Ok<SignedIn>, UnauthorizedHttpResult> (ClaimsPrincipal user) =>
                user.Identity is { IsAuthenticated: true, Name: { } name }
                    ? TypedResults.Ok(new SignedIn(name, user.FindFirstValue(ClaimTypes.Role) ?? Roles.Viewer))
                    : TypedResults.Unauthorized()
        );
        group.MapPost("/sign-in", SignInAsync).ProducesProblem(StatusCodes.Status401Unauthorized);
        group.MapPost(
            "/sign-out",
            async (SignInManager<Person> signIn) =>
            {
                await signIn.SignOutAsync();
                return TypedResults.NoContent();
            }
        );
        group.MapPost("/first-lead", FirstLeadAsync).ProducesProblem(StatusCodes.Status409Conflict);
        group
            .MapPost(
                "/people",
                async (NewPerson person, UserManager<Person> people, RoleManager<IdentityRole> roles) =>
                {
                    await AddPersonAsync(people, roles, person.Name, person.Password, person.Role);
                    return TypedResults.NoContent();
                }
            )
            .RequireAuthorization(p => p.RequireRole(Roles.Lead));
    }

    /// <exception cref="ProblemException">The name is taken, or the password too short.</exception>
    public static async Task AddPersonAsync(UserManager<Person> people, RoleManager<IdentityRole> roles, string name, string password, string role)
    {
        if (!Roles.All.Contains(role, StringComparer.Ordinal))
        {
            throw new ProblemException(Problem.Of("role", "server.no-role", ("role", role), ("join", Roles.All)));
        }

        foreach (var each in Roles.All)
        {
            if (!await roles.RoleExistsAsync(each))
            {
                await roles.CreateAsync(new IdentityRole(each));
            }
        }

        var person = new Person { UserName = name.Trim() };
        var created = await people.CreateAsync(person, password);
        if (!created.Succeeded)
        {
            var field = created.Errors.Any(e => e.Code.StartsWith("Password", StringComparison.Ordinal)) ? "password" : "name";
            throw new ProblemException(
                Problem.Of(
                    field,
                    field == "password" ? "server.password-too-short" : "server.name-taken",
                    ("message", created.Errors.First().Description),
                    ("least", ShortestPassword)
                )
            );
        }

        await people.AddToRoleAsync(person, role);
    }

    private static async Task<Results<Ok<SignedIn>, ProblemHttpResult>> SignInAsync(
        Credentials credentials,
        HttpContext context,
        SignInManager<Person> signIn,
        UserManager<Person> people
    )
    {
        var person = await people.FindByNameAsync(credentials.Name.Trim());
        var locked = person is not null && await people.IsLockedOutAsync(person);
        if (person is null || locked || !await people.CheckPasswordAsync(person, credentials.Password))
        {
            if (person is not null && !locked)
            {
                await people.AccessFailedAsync(person);
            }

            return TypedResults.Problem(
                Problems.Details(context, StatusCodes.Status401Unauthorized, locked ? "server.too-many-tries" : "server.name-and-password-do-not-fit")
            );
        }

        // Not PasswordSignInAsync: it refuses a right password where two devices sign in at the same moment after a wrong one,
        // because only one of them can take the count of failures back.
        await people.ResetAccessFailedCountAsync(person);
        await signIn.SignInAsync(person, isPersistent: true);
        var roles = await people.GetRolesAsync(person);
        return TypedResults.Ok(new SignedIn(person.UserName!, roles.FirstOrDefault() ?? Roles.Viewer));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> FirstLeadAsync(
        Credentials credentials,
        HttpContext context,
        SleuthDb db,
        UserManager<Person> people,
        RoleManager<IdentityRole> roles,
        [FromServices] ILogger<Program> log,
        CancellationToken cancel
    )
    {
        // Serialised by a lock, so that two first requests cannot both become lead.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(7100417)", cancel);
        if (await db.Users.AnyAsync(cancel))
        {
            return TypedResults.Problem(Problems.Details(context, StatusCodes.Status409Conflict, "server.shop-has-a-lead"));
        }

        await AddPersonAsync(people, roles, credentials.Name, credentials.Password, Roles.Lead);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }
}
