using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>Of an endpoint: whether a student may use it. What says nothing is closed to students; of two the last counts.</summary>
/// <param name="Open">An endpoint of a case is open for the case of the student’s own bench and no other.</param>
internal sealed record StudentAccess(bool Open);

/// <summary>The class and the bench to which a case belongs.</summary>
internal sealed record Seat(SchoolClass Class, Bench Bench)
{
    /// <summary>Who teaches the class, and a lead, signs all its benches.</summary>
    public bool MaySign(ClaimsPrincipal user) =>
        user.IsInRole(Roles.Lead) || (user.IsInRole(Roles.Mechanic) && Class.Teachers.Contains(Students.IdOf(user)));
}

/// <summary>A student works on the case of his own bench, and meets no other by any operation.</summary>
internal static class Students
{
    /// <summary>Opens an endpoint, or a group of them, to students.</summary>
    public static T ForStudents<T>(this T builder)
        where T : IEndpointConventionBuilder => builder.WithMetadata(new StudentAccess(Open: true));

    /// <summary>Closes an endpoint of an open group: it reads across cases, or speaks for the shop to others.</summary>
    public static T NotForStudents<T>(this T builder)
        where T : IEndpointConventionBuilder => builder.WithMetadata(new StudentAccess(Open: false));

    public static Guid IdOf(ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : Guid.Empty;

    /// <summary>Whether whoever asks may use the endpoint at all, and the case that its address names.</summary>
    public static async Task<Standing> StandingAsync(HttpContext context, SleuthDb db, Guid? caseId)
    {
        if (!context.User.IsInRole(Roles.Student))
        {
            return Standing.Free;
        }

        var endpoint = context.GetEndpoint()?.Metadata;
        if (endpoint?.GetMetadata<IAuthorizeData>() is null)
        {
            // Open to whoever is not signed in at all.
            return Standing.Free;
        }

        if (endpoint.GetMetadata<StudentAccess>() is not { Open: true })
        {
            return Standing.Closed;
        }

        return caseId is not { } id || await db.OwnCases(context.User).AnyAsync(own => own == id, context.RequestAborted)
            ? Standing.Free
            : Standing.NotOwn;
    }

    internal enum Standing
    {
        Free,
        Closed,
        NotOwn,
    }

    /// <summary>Cases of the benches at which somebody works.</summary>
    public static IQueryable<Guid> OwnCases(this SleuthDb db, ClaimsPrincipal user)
    {
        var me = IdOf(user);
        return db
            .Benches.Where(b => b.WithdrawnAt == null && b.People.Contains(me))
            .Where(b => db.Classes.Any(c => c.Id == b.ClassId && c.WithdrawnAt == null))
            .Select(b => b.CaseId);
    }

    /// <summary>The class and bench of a case; null where it is on no bench of a class.</summary>
    public static async Task<Seat?> SeatAsync(this SleuthDb db, Guid caseId, CancellationToken cancel) =>
        await (
            from b in db.Benches.AsNoTracking()
            join c in db.Classes.AsNoTracking() on b.ClassId equals c.Id
            where b.CaseId == caseId && b.WithdrawnAt == null && c.WithdrawnAt == null
            select new Seat(c, b)
        ).SingleOrDefaultAsync(cancel);
}
