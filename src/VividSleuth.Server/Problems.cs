using System.Text.Json;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using VividSleuth.Core;
using VividSleuth.Server.Look;
using VividSleuth.Store;
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

    /// <summary>An answer that has a status and no words gets them.</summary>
    public static Task WriteStatus(StatusCodeContext context) =>
        Write(
            context.HttpContext,
            context.HttpContext.Response.StatusCode,
            context.HttpContext.Response.StatusCode switch
            {
                StatusCodes.Status404NotFound => "server.nothing-at-this-address",
                StatusCodes.Status405MethodNotAllowed => "server.not-that-way",
                StatusCodes.Status413PayloadTooLarge => "server.body-too-large",
                StatusCodes.Status415UnsupportedMediaType => "server.wrong-type",
                StatusCodes.Status401Unauthorized => "server.not-signed-in",
                < StatusCodes.Status500InternalServerError => "server.request-cannot-be-read",
                _ => "server.failed",
            }
        );

    public static NotHereException NotHere(string what) => new(what);
}

/// <summary>Turns what goes wrong into problem details; what nobody expected stays out of the answer and in the log.</summary>
public sealed class ProblemHandler : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        if (exception is ConnectionResetException || (httpContext.Gone().IsCancellationRequested && exception is IOException))
        {
            // Cut off while it was sending; nobody hears an answer.
            httpContext.Response.StatusCode = StatusCodes.Status499ClientClosedRequest;
            return true;
        }

        ProblemDetails Told(int status, string code) => Problems.Details(httpContext, status, code);
        var details = exception switch
        {
            ConflictException c => Conflict(httpContext, c),
            NotHereException n => Problems.Details(
                httpContext,
                StatusCodes.Status404NotFound,
                Problem.Of("", "server.not-here", ("what", Fact.Of($"what.{n.What}")))
            ),
            // Whatever else seems wrong with an address, it was read by another numbering than it was typed by.
            ProblemException when httpContext.RequestServices.GetService<SleuthDb>() is { KnowsOldNumbering: true } => Problems.Details(
                httpContext,
                StatusCodes.Status422UnprocessableEntity,
                KnownNumbering.Changed,
                [KnownNumbering.Changed]
            ),
            ProblemException p => Problems.Details(httpContext, StatusCodes.Status422UnprocessableEntity, p.Problems[0], p.Problems),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => Told(
                StatusCodes.Status413PayloadTooLarge,
                "server.body-too-large"
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status415UnsupportedMediaType } => Told(
                StatusCodes.Status415UnsupportedMediaType,
                "server.wrong-type"
            ),
            BadHttpRequestException b => Problems.Details(httpContext, b.StatusCode, Problem.Of("", "server.request-cannot-be-read"), Unread(b)),
            PiecesMissingException m => Problems.Details(
                httpContext,
                StatusCodes.Status409Conflict,
                Problem.Of("file", "server.picture-not-all-here", ("file", m.FileName))
            ),
            BusyException => Told(StatusCodes.Status503ServiceUnavailable, "server.too-much-at-once"),
            DbUpdateConcurrencyException => Told(StatusCodes.Status409Conflict, "server.changed-at-the-same-moment"),
            _ => Database(exception) is { } of ? OfDatabase(httpContext, of) : null,
        };
        if (details is null)
        {
            return false;
        }

        await Problems.Write(httpContext, details);
        return true;
    }

    /// <summary>What the database said, however deep it lies.</summary>
    private static NpgsqlException? Database(Exception? exception)
    {
        while (exception is not (null or NpgsqlException))
        {
            exception = exception.InnerException;
        }

        return (NpgsqlException?)exception;
    }

    /// <summary>The database refused, is full or is away. Codes: PostgreSQL, appendix A.</summary>
    private static ProblemDetails OfDatabase(HttpContext context, NpgsqlException exception)
    {
        ProblemDetails Told(int status, string code) => Problems.Details(context, status, code);
        if (exception is not PostgresException said)
        {
            return Told(StatusCodes.Status503ServiceUnavailable, "server.database-does-not-answer");
        }

        // The name of a foreign key ends with the column that it lies on.
        var column = said.ColumnName ?? said.ConstraintName?.Split('_')[^1] ?? "";
        var field = column.Length > 0 ? char.ToLowerInvariant(column[0]) + column[1..] : "";
        ProblemDetails Refused(string code) =>
            Problems.Details(context, StatusCodes.Status422UnprocessableEntity, Problem.Of(field, code), [Problem.Of(field, code)]);
        return said.SqlState switch
        {
            PostgresErrorCodes.UniqueViolation => Told(StatusCodes.Status409Conflict, "server.recorded-already"),
            PostgresErrorCodes.ForeignKeyViolation => Refused("server.points-to-nothing"),
            PostgresErrorCodes.DiskFull => Told(StatusCodes.Status507InsufficientStorage, "server.disk-full"),
            PostgresErrorCodes.SerializationFailure or PostgresErrorCodes.DeadlockDetected => Told(
                StatusCodes.Status503ServiceUnavailable,
                "server.too-much-at-once"
            ),
            _ when said.SqlState.StartsWith("22", StringComparison.Ordinal) || said.SqlState.StartsWith("54", StringComparison.Ordinal) => Refused(
                "server.cannot-be-kept"
            ),
            _ when said.SqlState.StartsWith("23", StringComparison.Ordinal) => Refused("server.cannot-be-kept"),
            _ when said.SqlState.StartsWith("53", StringComparison.Ordinal) => Told(
                StatusCodes.Status503ServiceUnavailable,
                "server.too-much-at-once"
            ),
            _ => Told(StatusCodes.Status503ServiceUnavailable, "server.database-does-not-answer"),
        };
    }

    /// <summary>Where a body could not be read; for who writes to the interface without the screens.</summary>
    private static Problem[]? Unread(BadHttpRequestException exception) =>
        exception.InnerException is JsonException json
            ? [Problem.Of(json.Path ?? "", "server.unlike-the-document", ("message", json.Message.Split(" Path:")[0]))]
            : [Problem.Of("", "server.unlike-the-document", ("message", exception.Message))];

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
