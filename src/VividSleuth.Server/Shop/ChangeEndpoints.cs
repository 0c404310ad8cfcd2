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

/// <summary>The record of changes: whole, a page at a time, and only ever longer.</summary>
public static class ChangeEndpoints
{
    private const int MostLines = 500;

    /// <summary>Who comes and goes is for leads.</summary>
    private static readonly string[] OfPeople = ["person", "invitation"];

    public static void MapChanges(this RouteGroupBuilder api) =>
        api.MapGet("/changes", PageAsync).WithTags("shop").ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    /// <param name="case">Of one case.</param>
    /// <param name="record">Of one record.</param>
    /// <param name="by">By one person.</param>
    /// <param name="kind">Of one kind of record.</param>
    /// <param name="from">Not before.</param>
    /// <param name="to">Before.</param>
    /// <param name="after">Where the page before ended.</param>
    /// <param name="take">Lines of the page, 1 to 500.</param>
    private static async Task<ChangePage> PageAsync(
        Guid? @case,
        Guid? record,
        string? by,
        string? kind,
        DateTimeOffset? from,
        DateTimeOffset? to,
        string? after,
        int? take,
        ClaimsPrincipal user,
        SleuthDb db,
        CancellationToken cancel
    )
    {
        var changes = db.Changes.AsNoTracking();
        changes = @case is { } caseId ? changes.Where(c => c.CaseId == caseId) : changes;
        changes = record is { } one ? changes.Where(c => c.RecordId == one) : changes;
        changes = by is { Length: > 0 } ? changes.Where(c => c.By == by) : changes;
        changes = kind is { Length: > 0 } ? changes.Where(c => c.Kind == kind) : changes;
        changes = from?.ToUniversalTime() is { } first ? changes.Where(c => c.At >= first) : changes;
        changes = to?.ToUniversalTime() is { } end ? changes.Where(c => c.At < end) : changes;
        changes = user.IsInRole(Roles.Lead) ? changes : changes.Where(c => !OfPeople.Contains(c.Kind));
        if (after is { Length: > 0 })
        {
            var (at, id) = Cursor(after);
            changes = changes.Where(c => c.At < at || (c.At == at && c.Id.CompareTo(id) < 0));
        }

        var lines = Math.Clamp(take ?? 100, 1, MostLines);
        var page = await changes.OrderByDescending(c => c.At).ThenByDescending(c => c.Id).Take(lines + 1).ToListAsync(cancel);
        var more = page.Count > lines;
        page = [.. page.Take(lines)];
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
