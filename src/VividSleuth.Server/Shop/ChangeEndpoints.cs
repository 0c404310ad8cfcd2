using System.Globalization;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Shop;

/// <summary>A page of the record of changes, the latest first.</summary>
/// <param name="Next">Where the next page begins; null on the last.</param>
public sealed record ChangePage(IReadOnlyList<Change> Changes, string? Next);

/// <summary>Which changes are asked for; what is left out is not asked.</summary>
/// <param name="Case">Of one case.</param>
/// <param name="Record">Of one record.</param>
/// <param name="By">By one person.</param>
/// <param name="Kind">Of one kind of record.</param>
/// <param name="From">Not before.</param>
/// <param name="To">Before.</param>
/// <param name="After">Where the page before ended.</param>
/// <param name="Take">Lines of the page, 1 to 500.</param>
public sealed record ChangeQuery(
    Guid? Case,
    Guid? Record,
    string? By,
    string? Kind,
    DateTimeOffset? From,
    DateTimeOffset? To,
    string? After,
    int? Take
);

/// <summary>The record of changes: whole, a page at a time, and only ever longer.</summary>
public static class ChangeEndpoints
{
    private const int MostLines = 500;

    /// <summary>Who comes and goes is for leads.</summary>
    private static readonly string[] OfPeople = ["person", "invitation"];

    public static void MapChanges(this RouteGroupBuilder api) =>
        api.MapGet("/changes", PageAsync).WithTags("shop").ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<ChangePage> PageAsync([AsParameters] ChangeQuery query, ClaimsPrincipal user, SleuthDb db, CancellationToken cancel)
    {
        var changes = db.Changes.AsNoTracking();
        changes = query.Case is { } caseId ? changes.Where(c => c.CaseId == caseId) : changes;
        changes = query.Record is { } record ? changes.Where(c => c.RecordId == record) : changes;
        changes = query.By is { Length: > 0 } by ? changes.Where(c => c.By == by) : changes;
        changes = query.Kind is { Length: > 0 } kind ? changes.Where(c => c.Kind == kind) : changes;
        changes = query.From?.ToUniversalTime() is { } from ? changes.Where(c => c.At >= from) : changes;
        changes = query.To?.ToUniversalTime() is { } to ? changes.Where(c => c.At < to) : changes;
        changes = user.IsInRole(Roles.Lead) ? changes : changes.Where(c => !OfPeople.Contains(c.Kind));
        if (query.After is { Length: > 0 } after)
        {
            var (at, id) = Cursor(after);
            changes = changes.Where(c => c.At < at || (c.At == at && c.Id.CompareTo(id) < 0));
        }

        var take = Math.Clamp(query.Take ?? 100, 1, MostLines);
        var page = await changes.OrderByDescending(c => c.At).ThenByDescending(c => c.Id).Take(take + 1).ToListAsync(cancel);
        var more = page.Count > take;
        page = [.. page.Take(take)];
        return new ChangePage(page, more ? $"{page[^1].At.UtcTicks.ToString(CultureInfo.InvariantCulture)}_{page[^1].Id}" : null);
    }

    private static (DateTimeOffset At, Guid Id) Cursor(string text) =>
        text.Split('_') is [var ticks, var id]
        && long.TryParse(ticks, NumberStyles.None, CultureInfo.InvariantCulture, out var t)
        && t <= DateTime.MaxValue.Ticks
        && Guid.TryParse(id, out var guid)
            ? (new DateTimeOffset(t, TimeSpan.Zero), guid)
            : throw new ProblemException(Problem.Of("after", "server.no-such-page"));
}
