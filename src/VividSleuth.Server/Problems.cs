using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server;

/// <summary>Errors as RFC 9457 problem details that name the field and the remedy.</summary>
public static class Problems
{
    public static ProblemDetails Details(int status, string title, string detail, IReadOnlyList<Problem>? problems = null)
    {
        var details = new ProblemDetails
        {
            Status = status,
            Title = title,
            Detail = detail,
        };
        if (problems is not null)
        {
            details.Extensions["problems"] = problems;
        }

        return details;
    }

    public static Task Write(HttpContext context, int status, string title, string detail) => Write(context, Details(status, title, detail));

    public static Task Write(HttpContext context, ProblemDetails details)
    {
        context.Response.StatusCode = details.Status!.Value;
        return context.Response.WriteAsJsonAsync(details, options: null, "application/problem+json");
    }

    public static NotHereException NotHere(string what) => new(what);
}

/// <summary>Turns what goes wrong into problem details; what nobody expected stays out of the answer and in the log.</summary>
public sealed class ProblemHandler : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var details = exception switch
        {
            ConflictException c => Conflict(c),
            NotHereException n => Problems.Details(StatusCodes.Status404NotFound, n.Message, "Go back to the casebook."),
            ProblemException p => Problems.Details(StatusCodes.Status422UnprocessableEntity, p.Problems[0].Text, p.Problems[0].Remedy, p.Problems),
            BadHttpRequestException b => Problems.Details(b.StatusCode, "The request cannot be read.", "Reload the page and try again.", Unread(b)),
            DbUpdateConcurrencyException => Problems.Details(
                StatusCodes.Status409Conflict,
                "Someone else changed this at the same moment.",
                "Look at what stands now and decide again."
            ),
            DbUpdateException { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } => Problems.Details(
                StatusCodes.Status409Conflict,
                "This is recorded already.",
                "Reload and change what stands there."
            ),
            NpgsqlException or InvalidOperationException { InnerException: NpgsqlException } => Problems.Details(
                StatusCodes.Status503ServiceUnavailable,
                "The database does not answer.",
                "Nothing was written. Try again in a moment."
            ),
            _ => null,
        };
        if (details is null)
        {
            return false;
        }

        await Problems.Write(httpContext, details);
        return true;
    }

    /// <summary>Where a body could not be read; for who writes to the interface without the screens.</summary>
    private static Problem[]? Unread(BadHttpRequestException exception) =>
        exception.InnerException is JsonException json
            ? [new Problem(json.Path ?? "", json.Message.Split(" Path:")[0], "Send what docs/openapi.json describes.")]
            : null;

    private static ProblemDetails Conflict(ConflictException conflict)
    {
        var details = Problems.Details(
            StatusCodes.Status409Conflict,
            "Someone else changed this in the meantime.",
            "Both values are shown; choose which one stands."
        );
        details.Extensions["yours"] = conflict.Yours;
        details.Extensions["theirs"] = conflict.Theirs;
        return details;
    }
}

/// <summary>A lost race on an update, with both values.</summary>
public sealed class ConflictException(object yours, object theirs) : Exception("Changed in the meantime.")
{
    public object Yours { get; } = yours;

    public object Theirs { get; } = theirs;
}
