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
    public static ProblemDetails Details(HttpContext context, int status, Problem problem, IReadOnlyList<Problem>? problems = null)
    {
        var sentences = context.Sentences();
        var details = new ProblemDetails
        {
            Status = status,
            Title = sentences.Say(problem.Text),
            Detail = sentences.Say(problem.Remedy),
        };
        if (problems is not null)
        {
            details.Extensions["problems"] = problems;
        }

        return details;
    }

    /// <param name="code">Of the sentence; that of its remedy has “.do” behind it.</param>
    public static ProblemDetails Details(HttpContext context, int status, string code) => Details(context, status, Problem.Of("", code));

    public static Task Write(HttpContext context, int status, string code) => Write(context, Details(context, status, code));

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
        ProblemDetails Told(int status, string code) => Problems.Details(httpContext, status, code);
        var details = exception switch
        {
            ConflictException c => Conflict(httpContext, c),
            NotHereException n => Problems.Details(
                httpContext,
                StatusCodes.Status404NotFound,
                Problem.Of("", "server.not-here", ("what", Fact.Of($"what.{n.What}")))
            ),
            ProblemException p => Problems.Details(httpContext, StatusCodes.Status422UnprocessableEntity, p.Problems[0], p.Problems),
            BadHttpRequestException b => Problems.Details(httpContext, b.StatusCode, Problem.Of("", "server.request-cannot-be-read"), Unread(b)),
            DbUpdateConcurrencyException => Told(StatusCodes.Status409Conflict, "server.changed-at-the-same-moment"),
            DbUpdateException { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } => Told(
                StatusCodes.Status409Conflict,
                "server.recorded-already"
            ),
            NpgsqlException or InvalidOperationException { InnerException: NpgsqlException } => Told(
                StatusCodes.Status503ServiceUnavailable,
                "server.database-does-not-answer"
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
            ? [Problem.Of(json.Path ?? "", "server.unlike-the-document", ("message", json.Message.Split(" Path:")[0]))]
            : null;

    private static ProblemDetails Conflict(HttpContext context, ConflictException conflict)
    {
        var details = Problems.Details(context, StatusCodes.Status409Conflict, "server.changed-meanwhile");
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
