using System.Globalization;
using VividSleuth.Server.Shop;
using VividSleuth.Store;

namespace VividSleuth.Server.Casebook;

/// <summary>What every request of a signed-in person begins with, and what a write tells when it ends.</summary>
internal static class Moment
{
    /// <summary>Request header: how many changes of numbering the screen knows of that sends a write.</summary>
    public const string NumberingHeader = "X-Numbering";

    /// <summary>Request header: who entered what is sent, percent-encoded. It is never written under another name.</summary>
    public const string WriterHeader = "X-Writer";

    /// <summary>Response header: the revision of the case after a write, or of which an answer is.</summary>
    public const string RevisionHeader = "X-Case-Revision";

    /// <exception cref="Store.Cases.NotHereException">The address names a case that is not there.</exception>
    /// <returns>False where the request was answered already.</returns>
    public static async Task<bool> BeginAsync(HttpContext context)
    {
        if (
            !HttpMethods.IsGet(context.Request.Method)
            && context.Request.Headers.TryGetValue(WriterHeader, out var writer)
            && Uri.UnescapeDataString(writer.ToString()) != context.User.Identity?.Name
        )
        {
            // Another person has signed in with this browser meanwhile: what was entered waits for who entered it.
            await Problems.Write(context, StatusCodes.Status412PreconditionFailed, "server.another-has-signed-in");
            return false;
        }

        var db = context.RequestServices.GetRequiredService<SleuthDb>();
        var desk = context.RequestServices.GetRequiredService<CaseDesk>();
        var caseId = CaseOf(context);
        var standing = await Students.StandingAsync(context, db, caseId);
        if (standing == Students.Standing.Closed)
        {
            SecurityLog.MayNot(context);
            await Problems.Write(context, StatusCodes.Status403Forbidden, "server.student-own-bench-only");
            return false;
        }

        // Of another’s case not even that it is there.
        if (standing == Students.Standing.NotOwn || !await desk.BeginAsync(caseId, context.RequestAborted))
        {
            throw Problems.NotHere("case");
        }

        Speech.Set(context, desk.Lengths, (await desk.ShopAsync(context.RequestAborted)).Settings);

        if (HttpMethods.IsGet(context.Request.Method) || caseId is null)
        {
            return true;
        }

        if (int.TryParse(context.Request.Headers[NumberingHeader], CultureInfo.InvariantCulture, out var known))
        {
            db.KnownNumbering = known;
        }

        context.Response.OnStarting(() =>
        {
            context.Response.Headers[RevisionHeader] = (db.Raised ?? desk.Revision ?? 0).ToString(CultureInfo.InvariantCulture);
            return Task.CompletedTask;
        });
        context.Response.OnCompleted(() =>
        {
            if (db.Raised is not null)
            {
                context.RequestServices.GetRequiredService<CasebookKeeper>().Written(caseId.Value);
            }

            return Task.CompletedTask;
        });
        return true;
    }

    private static Guid? CaseOf(HttpContext context) =>
        context.Request.Path.StartsWithSegments("/api/cases", StringComparison.OrdinalIgnoreCase)
        && Guid.TryParse((context.GetRouteValue("caseId") ?? context.GetRouteValue("id"))?.ToString(), out var id)
            ? id
            : null;
}
