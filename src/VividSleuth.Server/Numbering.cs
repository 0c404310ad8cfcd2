using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Index;
using VividSleuth.Store;

namespace VividSleuth.Server;

/// <summary>
/// A screen that was opened before the numbering of a case changed would write to the wrong parts. It sends how many changes of
/// numbering it knows of; a write that knows of fewer is refused.
/// </summary>
public static class Numbering
{
    public const string Header = "X-Numbering";

    public static async ValueTask<object?> CheckAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var request = context.HttpContext.Request;
        if (
            !HttpMethods.IsGet(request.Method)
            && request.Headers.TryGetValue(Header, out var sent)
            && int.TryParse(sent, out var known)
            && Guid.TryParse(request.RouteValues.GetValueOrDefault("caseId")?.ToString(), out var caseId)
        )
        {
            var db = context.HttpContext.RequestServices.GetRequiredService<SleuthDb>();
            if (await db.Set<Renumbering>().CountAsync(r => r.CaseId == caseId, context.HttpContext.RequestAborted) != known)
            {
                throw new ProblemException(
                    new Problem(
                        "numbering",
                        "The numbering of this engine was changed meanwhile, so the address may be another part.",
                        "Reload the page and enter it again."
                    )
                );
            }
        }

        return await next(context);
    }
}
