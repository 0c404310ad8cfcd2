using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>Someone of the shop, as a lead sees them.</summary>
/// <param name="SeenAt">When one of their devices last asked for something, to a few minutes; null where none is signed in.</param>
/// <param name="Devices">On how many devices they are signed in.</param>
public sealed record PersonLine(Guid Id, string Name, string Role, DateTimeOffset? ShutOutAt, DateTimeOffset? SeenAt, int Devices, int Passkeys);

/// <summary>A link that is not used yet.</summary>
/// <param name="Name">Who sets a new password with it; empty where it lets a new person in.</param>
public sealed record InvitationLine(Guid Id, string Role, string Name, DateTimeOffset At, string By, DateTimeOffset Until);

public sealed record PeopleView(IReadOnlyList<PersonLine> People, IReadOnlyList<InvitationLine> Invitations);

public sealed record InvitationEntry(Guid Id, string Role);

/// <summary>The code stands here once and nowhere else.</summary>
public sealed record InvitationCode(string Code, DateTimeOffset Until);

public sealed record InvitationAsk(string Code);

/// <param name="Name">Who sets a new password; empty where a new person comes in.</param>
public sealed record InvitationSaid(string Role, string Name);

/// <param name="Name">Of a new person; of one who sets a new password it is known.</param>
public sealed record InvitationUse(string Code, string Name, string Password);

public sealed record RoleEntry(string Role);

public sealed record PasswordChange(string Old, string New);

/// <summary>One device on which a person is signed in.</summary>
public sealed record SessionLine(string Device, DateTimeOffset From, DateTimeOffset SeenAt);

/// <summary>A passkey of the person who asks.</summary>
public sealed record PasskeyLine(string Id, string Name, DateTimeOffset At);

public sealed record PasskeyEntry(string Name, JsonElement Credential);

/// <summary>A person’s own door: password, passkeys, devices.</summary>
public sealed record DoorView(IReadOnlyList<PasskeyLine> Passkeys, IReadOnlyList<SessionLine> Devices);

/// <summary>Who belongs to the shop: let in by a link that is good once, with a role that a lead gives and takes; and each person’s own door.</summary>
public static class People
{
    private const string Kind = "person";
    private static readonly TimeSpan InvitationKept = TimeSpan.FromDays(3);

    public static void MapInvitations(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/invitations").WithTags("shop");
        group.MapPost("/look", LookAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/use", UseAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    public static void MapPeople(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/people").WithTags("shop").RequireAuthorization(p => p.RequireRole(Roles.Lead));
        group.MapGet("", ViewAsync);
        group.MapPost("/invitations", InviteAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/invitations/{id:guid}/withdraw", UninviteAsync);
        group.MapPost("/{id:guid}/role", SetRoleAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/reset", ResetAsync);
        group.MapPost("/{id:guid}/sign-out", SignOutAsync);
        group.MapPost("/{id:guid}/shut-out", ShutOutAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/let-in", LetInAsync);

        var mine = api.MapGroup("/me").WithTags("shop").ForStudents();
        mine.MapGet("/door", DoorAsync);
        mine.MapPost("/password", ChangePasswordAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        mine.MapPost("/sign-out-everywhere", LeaveEverywhereAsync);
        mine.MapPost("/passkeys/ask", AskPasskeyAsync).Produces<JsonElement>();
        mine.MapPost("/passkeys", AddPasskeyAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        mine.MapPost("/passkeys/{id}/remove", RemovePasskeyAsync);
    }

    /// <summary>A shop that nobody is in yet.</summary>
    public static async Task<bool> NobodyYetAsync(SleuthDb db, CancellationToken cancel) => !await db.Users.AnyAsync(cancel);

    /// <summary>The code with which the first lead comes in; those made at earlier starts are good no more.</summary>
    public static async Task<string> FirstLeadCodeAsync(SleuthDb db, CancellationToken cancel)
    {
        await db.Invitations.Where(i => i.By == "" && i.UsedAt == null).ExecuteDeleteAsync(cancel);
        var (code, invitation) = Make(db, Guid.CreateVersion7(), Roles.Lead, personId: null);
        db.Invitations.Add(invitation);
        await db.SaveChangesAsync(cancel);
        return code;
    }

    /// <summary>Adds somebody with a password. For the demo and tests; people come in by invitation.</summary>
    public static async Task<Person> AddAsync(UserManager<Person> people, RoleManager<IdentityRole> roles, string name, string password, string role)
    {
        foreach (var each in Roles.All)
        {
            if (!await roles.RoleExistsAsync(each))
            {
                await roles.CreateAsync(new IdentityRole(each));
            }
        }

        var person = new Person { UserName = PasswordRules.NormalName(name) };
        var created = await people.CreateAsync(person, password);
        if (!created.Succeeded)
        {
            throw new ProblemException(Problem.Of("name", "server.name-taken", ("name", person.UserName)));
        }

        await people.AddToRoleAsync(person, role);
        return person;
    }

    private static async Task<PeopleView> ViewAsync(SleuthDb db, CancellationToken cancel)
    {
        var now = db.Now();
        var people = await db
            .Users.AsNoTracking()
            .OrderBy(p => p.UserName)
            .Select(p => new
            {
                Person = p,
                Role = db.UserRoles.Where(r => r.UserId == p.Id).Join(db.Roles, u => u.RoleId, r => r.Id, (_, r) => r.Name).FirstOrDefault(),
                Seen = db.Sessions.Where(s => s.PersonId == p.Id && s.Until > now).Max(s => (DateTimeOffset?)s.SeenAt),
                Devices = db.Sessions.Count(s => s.PersonId == p.Id && s.Until > now),
                Passkeys = db.UserPasskeys.Count(k => k.UserId == p.Id),
            })
            .ToListAsync(cancel);
        var names = people.ToDictionary(p => p.Person.Id, p => p.Person.UserName!);
        var open = await db.Invitations.AsNoTracking().Where(i => i.UsedAt == null && i.Until > now).OrderBy(i => i.At).ToListAsync(cancel);
        return new PeopleView(
            [
                .. people.Select(p => new PersonLine(
                    p.Person.RecordId,
                    p.Person.UserName!,
                    p.Role ?? Roles.Viewer,
                    p.Person.ShutOutAt,
                    p.Seen,
                    p.Devices,
                    p.Passkeys
                )),
            ],
            [
                .. open.Select(i => new InvitationLine(
                    i.Id,
                    i.Role,
                    i.PersonId is null ? "" : names.GetValueOrDefault(i.PersonId, ""),
                    i.At,
                    i.By,
                    i.Until
                )),
            ]
        );
    }

    private static async Task<InvitationCode> InviteAsync(InvitationEntry entry, Recorder recorder, CancellationToken cancel)
    {
        Known(entry.Role);
        var db = recorder.Db;
        var (code, invitation) = Make(db, entry.Id, entry.Role, personId: null);
        db.Invitations.Add(invitation);
        db.Keep("invitation", invitation.Id, before: null);
        await db.SaveChangesAsync(cancel);
        return new InvitationCode(code, invitation.Until);
    }

    private static async Task<NoContent> UninviteAsync(Guid id, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        var invitation = await db.Invitations.SingleOrDefaultAsync(i => i.Id == id, cancel) ?? throw Problems.NotHere("invitation");
        if (invitation.UsedAt is null)
        {
            db.Keep("invitation", id, ShopRecorder.Json(new { invitation.Role, invitation.Until }));
            invitation.UsedAt = db.Now();
            await db.SaveChangesAsync(cancel);
        }

        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<InvitationSaid>, ProblemHttpResult>> LookAsync(
        InvitationAsk ask,
        HttpContext context,
        Tries tries,
        SleuthDb db,
        CancellationToken cancel
    )
    {
        if (await tries.CountCodeAsync(context, cancel) is { } slowed)
        {
            return slowed;
        }

        var invitation = await FindAsync(db, ask.Code, cancel);
        var name = invitation.PersonId is { } id
            ? await db.Users.Where(u => u.Id == id).Select(u => u.UserName).SingleOrDefaultAsync(cancel) ?? ""
            : "";
        return TypedResults.Ok(new InvitationSaid(invitation.Role, name));
    }

    private static async Task<Results<Ok<SignedIn>, ProblemHttpResult>> UseAsync(
        InvitationUse use,
        HttpContext context,
        Tries tries,
        SleuthDb db,
        HashGate gate,
        Sessions sessions,
        UserManager<Person> people,
        RoleManager<IdentityRole> roles,
        SignInManager<Person> signIn,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        if (await tries.CountCodeAsync(context, cancel) is { } slowed)
        {
            return slowed;
        }

        // One person to a code: the second of two who use it at once finds it used.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.People})", cancel);
        var invitation = await FindAsync(db, use.Code, cancel);
        Person person;
        IReadOnlyList<string> ended = [];
        if (invitation.PersonId is { } id)
        {
            person = await people.FindByIdAsync(id) ?? throw Problems.NotHere("person");
            Checked(PasswordRules.CheckPassword(use.Password, person.UserName!));
            db.Writer = person.UserName!;
            db.Keep(Kind, person.RecordId, await StateAsync(person, people));
            await gate.RunAsync(() => SetPasswordAsync(people, person, use.Password), cancel);
            ended = await Sessions.EndAsync(db, person.Id, but: null, cancel);
        }
        else
        {
            Checked(PasswordRules.CheckName(use.Name));
            Checked(PasswordRules.CheckPassword(use.Password, use.Name));
            db.Writer = PasswordRules.NormalName(use.Name);
            person = await gate.RunAsync(() => AddAsync(people, roles, use.Name, use.Password, invitation.Role), cancel);
            db.Keep(Kind, person.RecordId, before: null);
        }

        invitation.UsedAt = db.Now();
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        sessions.Forget(ended);
        await SignIn.EnterAsync(person, signIn, context, protection, person.NormalizedUserName!);
        return TypedResults.Ok(await SignIn.SaidAsync(person, people));
    }

    private static async Task<NoContent> SetRoleAsync(
        Guid id,
        RoleEntry entry,
        Recorder recorder,
        UserManager<Person> people,
        Sessions sessions,
        CancellationToken cancel
    )
    {
        Known(entry.Role);
        await ChangeAsync(
            id,
            recorder,
            people,
            sessions,
            async person =>
            {
                await people.RemoveFromRolesAsync(person, await people.GetRolesAsync(person));
                await people.AddToRoleAsync(person, entry.Role);
            },
            cancel
        );
        return TypedResults.NoContent();
    }

    private static async Task<InvitationCode> ResetAsync(Guid id, Recorder recorder, UserManager<Person> people, CancellationToken cancel)
    {
        var db = recorder.Db;
        var person = await people.FindByIdAsync(id.ToString()) ?? throw Problems.NotHere("person");
        var (code, invitation) = Make(db, Guid.CreateVersion7(), (await SignIn.SaidAsync(person, people)).Role, person.Id);
        db.Invitations.Add(invitation);
        db.Keep("invitation", invitation.Id, before: null);
        await db.SaveChangesAsync(cancel);
        return new InvitationCode(code, invitation.Until);
    }

    private static async Task<NoContent> SignOutAsync(
        Guid id,
        Recorder recorder,
        UserManager<Person> people,
        Sessions sessions,
        CancellationToken cancel
    )
    {
        await ChangeAsync(id, recorder, people, sessions, _ => Task.CompletedTask, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> ShutOutAsync(
        Guid id,
        Recorder recorder,
        UserManager<Person> people,
        Sessions sessions,
        CancellationToken cancel
    )
    {
        await ChangeAsync(
            id,
            recorder,
            people,
            sessions,
            person =>
            {
                person.ShutOutAt ??= recorder.Db.Now();
                return Task.CompletedTask;
            },
            cancel
        );
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> LetInAsync(
        Guid id,
        Recorder recorder,
        UserManager<Person> people,
        Sessions sessions,
        CancellationToken cancel
    )
    {
        await ChangeAsync(
            id,
            recorder,
            people,
            sessions,
            person =>
            {
                person.ShutOutAt = null;
                return Task.CompletedTask;
            },
            cancel
        );
        return TypedResults.NoContent();
    }

    /// <summary>
    /// Changes a person, keeps what they were, and leaves the shop with a lead who can sign in. What they may do is written on their tickets, so they sign
    /// in again.
    /// </summary>
    private static async Task ChangeAsync(
        Guid id,
        Recorder recorder,
        UserManager<Person> people,
        Sessions sessions,
        Func<Person, Task> change,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.People})", cancel);
        var person = await people.FindByIdAsync(id.ToString()) ?? throw Problems.NotHere("person");
        db.Keep(Kind, id, await StateAsync(person, people));
        await change(person);
        await people.UpdateSecurityStampAsync(person);
        await db.SaveChangesAsync(cancel);
        var ended = await Sessions.EndAsync(db, person.Id, but: null, cancel);
        if ((await people.GetUsersInRoleAsync(Roles.Lead)).All(p => p.ShutOutAt is not null))
        {
            throw new ProblemException(Problem.Of("role", "server.last-lead"));
        }

        await transaction.CommitAsync(cancel);
        sessions.Forget(ended);
    }

    private static async Task<DoorView> DoorAsync(ClaimsPrincipal user, SleuthDb db, UserManager<Person> people, CancellationToken cancel)
    {
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        var now = db.Now();
        return new DoorView(
            [
                .. (await people.GetPasskeysAsync(person)).Select(k => new PasskeyLine(
                    Convert.ToHexStringLower(k.CredentialId),
                    k.Name ?? "",
                    k.CreatedAt
                )),
            ],
            await db
                .Sessions.AsNoTracking()
                .Where(s => s.PersonId == person.Id && s.Until > now)
                .OrderByDescending(s => s.SeenAt)
                .Select(s => new SessionLine(s.Device, s.From, s.SeenAt))
                .ToListAsync(cancel)
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> ChangePasswordAsync(
        PasswordChange entry,
        HttpContext context,
        Tries tries,
        ClaimsPrincipal user,
        Recorder recorder,
        HashGate gate,
        Sessions sessions,
        UserManager<Person> people,
        SignInManager<Person> signIn,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        if (
            await tries.CountAsync(
                context,
                [
                    [SignInBucket.OfName(person.NormalizedUserName!, "own-password")],
                ],
                cancel
            ) is
            { } slowed
        )
        {
            return slowed;
        }

        Checked(PasswordRules.CheckPassword(entry.New, person.UserName!));
        if (!await gate.RunAsync(() => people.CheckPasswordAsync(person, entry.Old), cancel))
        {
            throw new ProblemException(Problem.Of("old", "server.password-is-another"));
        }

        db.Keep(Kind, person.RecordId, await StateAsync(person, people));
        await gate.RunAsync(() => SetPasswordAsync(people, person, entry.New), cancel);
        // Whoever else is signed in with the old one is out; this device goes on.
        sessions.Forget(await Sessions.EndAsync(db, person.Id, context, cancel));
        await signIn.RefreshSignInAsync(person);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> LeaveEverywhereAsync(
        ClaimsPrincipal user,
        Recorder recorder,
        Sessions sessions,
        UserManager<Person> people,
        SignInManager<Person> signIn,
        CancellationToken cancel
    )
    {
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        await ChangeAsync(person.RecordId, recorder, people, sessions, _ => Task.CompletedTask, cancel);
        await signIn.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<IResult> AskPasskeyAsync(ClaimsPrincipal user, UserManager<Person> people, SignInManager<Person> signIn)
    {
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        var entity = new PasskeyUserEntity
        {
            Id = person.Id,
            Name = person.UserName!,
            DisplayName = person.UserName!,
        };
        return Results.Text(await signIn.MakePasskeyCreationOptionsAsync(entity), "application/json");
    }

    private static async Task<NoContent> AddPasskeyAsync(
        PasskeyEntry entry,
        ClaimsPrincipal user,
        Recorder recorder,
        UserManager<Person> people,
        SignInManager<Person> signIn,
        CancellationToken cancel
    )
    {
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        PasskeyAttestationResult? result = null;
        try
        {
            result = await signIn.PerformPasskeyAttestationAsync(entry.Credential.GetRawText());
        }
        catch (InvalidOperationException)
        {
            // Nobody asked for one before, or too long ago: refused below.
        }

        if (result is not { Succeeded: true })
        {
            throw new ProblemException(Problem.Of("credential", "server.passkey-not-made"));
        }

        var db = recorder.Db;
        db.Keep(Kind, person.RecordId, await StateAsync(person, people));
        result.Passkey.Name = entry.Name.Trim();
        await people.AddOrUpdatePasskeyAsync(person, result.Passkey);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> RemovePasskeyAsync(
        string id,
        ClaimsPrincipal user,
        Recorder recorder,
        UserManager<Person> people,
        CancellationToken cancel
    )
    {
        var person = await people.GetUserAsync(user) ?? throw Problems.NotHere("person");
        if ((await people.GetPasskeysAsync(person)).FirstOrDefault(k => Convert.ToHexStringLower(k.CredentialId) == id) is { } passkey)
        {
            recorder.Db.Keep(Kind, person.RecordId, await StateAsync(person, people));
            await people.RemovePasskeyAsync(person, passkey.CredentialId);
            await recorder.Db.SaveChangesAsync(cancel);
        }

        return TypedResults.NoContent();
    }

    private static (string Code, Invitation Invitation) Make(SleuthDb db, Guid id, string role, string? personId)
    {
        // 24 letters of 32: 120 bits, without those that are taken for one another.
        const string Letters = "abcdefghjkmnpqrstuvwxyz23456789";
        var code = string.Join('-', RandomNumberGenerator.GetString(Letters, 24).Chunk(6).Select(c => new string(c)));
        return (
            code,
            new Invitation
            {
                Id = id,
                CodeHash = Hash(code),
                Role = role,
                PersonId = personId,
                At = db.Now(),
                By = db.Writer,
                Until = db.Now() + InvitationKept,
            }
        );
    }

    /// <exception cref="ProblemException">It is unknown, used or too old; which of them is not told.</exception>
    private static async Task<Invitation> FindAsync(SleuthDb db, string code, CancellationToken cancel)
    {
        var (hash, now) = (Hash(code.Trim().ToLowerInvariant()), db.Now());
        return await db.Invitations.SingleOrDefaultAsync(i => i.CodeHash == hash && i.UsedAt == null && i.Until > now, cancel)
            ?? throw new ProblemException(Problem.Of("code", "server.invitation-is-not-good"));
    }

    private static async Task<bool> SetPasswordAsync(UserManager<Person> people, Person person, string password)
    {
        person.PasswordHash = people.PasswordHasher.HashPassword(person, password);
        return (await people.UpdateSecurityStampAsync(person)).Succeeded;
    }

    /// <summary>What the list of changes keeps of a person; nothing that lets anybody in.</summary>
    private static async Task<string> StateAsync(Person person, UserManager<Person> people) =>
        ShopRecorder.Json(
            new
            {
                Name = person.UserName,
                Role = (await people.GetRolesAsync(person)).FirstOrDefault() ?? "",
                person.ShutOutAt,
                Passkeys = (await people.GetPasskeysAsync(person)).Count,
            }
        );

    private static void Known(string role)
    {
        if (!Roles.All.Contains(role, StringComparer.Ordinal))
        {
            throw new ProblemException(Problem.Of("role", "server.no-role", ("role", role), ("join", Roles.All)));
        }
    }

    private static void Checked(Problem? problem)
    {
        if (problem is not null)
        {
            throw new ProblemException(problem);
        }
    }

    private static string Hash(string code) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(code)));
}
