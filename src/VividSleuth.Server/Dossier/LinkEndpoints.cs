using System.Security.Claims;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Dossier;

namespace VividSleuth.Server.Dossier;

/// <param name="Until">The last day on which it answers.</param>
public sealed record LinkEntry(Guid Id, string Kind, string For, DateOnly Until, bool LeaveOutNames, bool MayAnswer);

/// <param name="Path">Of the page; whoever knows it reads this dossier, and nothing else.</param>
/// <param name="Shut">Nobody reads through it any more: it was shut, or its day is over.</param>
/// <param name="Views">How often it was read, and the latest times.</param>
public sealed record LinkTold(
    Guid Id,
    int Version,
    DossierKind Kind,
    string For,
    DateOnly Until,
    bool LeaveOutNames,
    bool MayAnswer,
    string Path,
    bool Shut,
    DateTimeOffset At,
    string By,
    int Views,
    IReadOnlyList<LinkView> Latest
);

/// <summary>What whoever has the link is told beside the dossier itself.</summary>
/// <param name="Options">Ways to go that he may approve or refuse; none where he may not.</param>
public sealed record SharedDossier(DossierKind Kind, string Title, string For, DateOnly Until, IReadOnlyList<SharedOption> Options);

/// <summary>A way to go, as it is shown to whoever may approve it.</summary>
/// <param name="Chance">That it fails again before its next overhaul.</param>
/// <param name="Answer">What was said to it last; null where nothing was.</param>
public sealed record SharedOption(
    Guid Id,
    string Scope,
    string Title,
    decimal Cost,
    string Currency,
    decimal Days,
    double Chance,
    bool Chosen,
    SharedAnswer? Answer
);

public sealed record SharedAnswer(bool Approves, string Name, string Words, DateTimeOffset At);

/// <param name="Cost">As it was shown: a price that has changed since is not approved unseen.</param>
public sealed record AnswerEntry(Guid Id, Guid Option, bool Approves, decimal Cost, string Currency, string Name, string Words);

/// <summary>Links through which one dossier is read by whoever was given it.</summary>
public static class LinkEndpoints
{
    private const string Purpose = "VividSleuth.DossierLink";

    private const int MostOfACase = 50;

    /// <summary>What somebody may say through one link.</summary>
    private const int MostAnswers = 40;

    private const int ViewsTold = 20;

    private static readonly TimeSpan Longest = TimeSpan.FromDays(2 * 366);

    public static void MapLinks(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/links").WithTags("dossier").RequireAuthorization(Policies.Write);
        group.MapGet("", ListAsync);
        group.MapPost("", OpenAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/{id:guid}/withdraw", ShutAsync).ProducesProblem(StatusCodes.Status409Conflict);
    }

    /// <summary>Without sign-in: the address itself is the key.</summary>
    public static void MapOpenLinks(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/shared/{key}").WithTags("dossier").AllowAnonymous();
        group.MapGet("", SharedAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/page", PageAsync).Produces<string>(StatusCodes.Status200OK, "text/html").ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapGet("/pdf", PdfAsync)
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPost("/answers", AnswerAsync)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<IReadOnlyList<LinkTold>> ListAsync(
        Guid caseId,
        SleuthDb db,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var links = await db.Links.AsNoTracking().Where(l => l.CaseId == caseId).OrderByDescending(l => l.At).ToListAsync(cancel);
        var told = new List<LinkTold>();
        foreach (var link in links)
        {
            told.Add(await ToldAsync(link, db, protection, cancel));
        }

        return told;
    }

    private static async Task<LinkTold> OpenAsync(
        Guid caseId,
        LinkEntry entry,
        Recorder recorder,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        if (await db.Links.AsNoTracking().SingleOrDefaultAsync(l => l.Id == entry.Id && l.CaseId == caseId, cancel) is { } open)
        {
            return await ToldAsync(open, db, protection, cancel);
        }

        var until = new DateTimeOffset(entry.Until.AddDays(1), TimeOnly.MinValue, TimeSpan.Zero);
        if (until <= db.Now() || until > db.Now() + Longest)
        {
            throw new ProblemException(Problem.Of("until", "dossier.link-ends-when"));
        }

        if (string.IsNullOrWhiteSpace(entry.For))
        {
            throw new ProblemException(Problem.Of("for", "dossier.link-for-whom"));
        }

        if (await db.Links.CountAsync(l => l.CaseId == caseId && l.WithdrawnAt == null, cancel) >= MostOfACase)
        {
            throw new ProblemException(Problem.Of("", "dossier.too-many-links", ("most", MostOfACase)));
        }

        var link = new DossierLink
        {
            Id = entry.Id,
            CaseId = caseId,
            Kind = DossierEndpoints.Wish(entry.Kind, pictures: null, entry.LeaveOutNames).Kind,
            For = entry.For.Trim(),
            Until = until,
            LeaveOutNames = entry.LeaveOutNames,
            MayAnswer = entry.MayAnswer,
        };
        db.Links.Add(link);
        db.StampForShop("link", link, before: null);
        return await ToldAsync(await db.SaveOnceAsync(link, _ => true, _ => new ConflictException(entry, link), cancel), db, protection, cancel);
    }

    private static async Task<LinkTold> ShutAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        IDataProtectionProvider protection,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        return await db.Links.AnyAsync(l => l.Id == id && l.CaseId == caseId, cancel)
            ? await ToldAsync(await db.WithdrawFromShopAsync<DossierLink>("link", id, withdrawal, cancel), db, protection, cancel)
            : throw Problems.NotHere("link");
    }

    private static async Task<SharedDossier> SharedAsync(
        string key,
        SleuthDb db,
        CaseDesk desk,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var link = await EnterAsync(key, db, desk, protection, http, cancel);
        var reader = await desk.OpenAsync(link.CaseId, cancel);
        return new SharedDossier(
            link.Kind,
            reader.Case.Title,
            link.For,
            LastDay(link),
            link.MayAnswer
                ?
                [
                    .. reader.Options.SelectMany(t =>
                        t.Options.Select(o =>
                        {
                            var answer = t.Answers.FirstOrDefault(a => a.Option == o.Id);
                            return new SharedOption(
                                o.Id,
                                t.Scope,
                                o.Title,
                                o.Sure,
                                o.Currency,
                                o.Days,
                                o.Chance,
                                t.Chosen?.Option == o.Id,
                                answer is null ? null : new SharedAnswer(answer.Approves, answer.Name, answer.Words, answer.At)
                            );
                        })
                    ),
                ]
                : []
        );
    }

    private static async Task<IResult> PageAsync(
        string key,
        SleuthDb db,
        CaseDesk desk,
        DossierDesk dossiers,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var link = await EnterAsync(key, db, desk, protection, http, cancel);
        var dossier = await dossiers.WriteAsync(link.CaseId, WishOf(link), cancel);
        await SeenAsync(link, "page", db, http, cancel);
        return Results.File(dossier.Page(http.Sentences()), "text/html; charset=utf-8", $"{dossier.Name}.html");
    }

    /// <param name="size">a4, or letter.</param>
    private static async Task<IResult> PdfAsync(
        string key,
        string? size,
        SleuthDb db,
        CaseDesk desk,
        DossierDesk dossiers,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var link = await EnterAsync(key, db, desk, protection, http, cancel);
        var paper = DossierEndpoints.SizeOf(size);
        var dossier = await dossiers.WriteAsync(link.CaseId, WishOf(link), cancel);
        await SeenAsync(link, "pdf", db, http, cancel);
        return Results.File(dossier.Pdf(paper, http.Sentences()), "application/pdf", $"{dossier.Name}.pdf");
    }

    /// <summary>The customer approves or refuses an option. Said again under the same id, nothing changes.</summary>
    private static async Task<SharedAnswer> AnswerAsync(
        string key,
        AnswerEntry entry,
        SleuthDb db,
        CaseDesk desk,
        Recorder recorder,
        CasebookKeeper keeper,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var link = await EnterAsync(key, db, desk, protection, http, cancel);
        if (!link.MayAnswer)
        {
            throw new ProblemException(Problem.Of("", "dossier.link-only-reads"));
        }

        if (string.IsNullOrWhiteSpace(entry.Name))
        {
            throw new ProblemException(Problem.Of("name", "dossier.answer-without-name"));
        }

        if (!entry.Approves && string.IsNullOrWhiteSpace(entry.Words))
        {
            throw new ProblemException(Problem.Of("words", "dossier.refusal-without-words"));
        }

        // Nobody of the shop: it stands under the link and not under a name that anyone could type.
        http.User = new ClaimsPrincipal(new ClaimsIdentity([new Claim(ClaimTypes.Name, $"link/{link.For}")]));
        http.Request.Headers.Remove(Recorder.EnteredHeader);
        var answer = new OptionAnswer
        {
            Id = entry.Id,
            Option = entry.Option,
            Approves = entry.Approves,
            Cost = entry.Cost,
            Currency = entry.Currency,
            Name = entry.Name.Trim(),
            Words = entry.Words.Trim(),
            Link = link.Id,
        };
        var written = await recorder.AddCheckedAsync(
            link.CaseId,
            answer,
            r =>
            {
                if (r.Case.OptionAnswers.Count(a => a.Link == link.Id) >= MostAnswers)
                {
                    return Problem.Of("", "dossier.too-many-answers");
                }

                var table = r.Options.FirstOrDefault(t => t.Options.Any(o => o.Id == entry.Option));
                if (table?.Options.FirstOrDefault(o => o.Id == entry.Option) is not { } judged)
                {
                    return Problem.Of("option", "dossier.option-is-gone");
                }

                (answer.Title, answer.Scope) = (judged.Title, table.Scope);
                return judged.Sure == entry.Cost && judged.Currency == entry.Currency ? null : Problem.Of("cost", "dossier.option-costs-another-sum");
            },
            cancel
        );
        keeper.Written(link.CaseId);
        return new SharedAnswer(written.Approves, written.Name, written.Words, written.At);
    }

    private static DossierWish WishOf(DossierLink link) => new(link.Kind, null, link.LeaveOutNames);

    /// <summary>The link that a key opens, with the desk ready for its case.</summary>
    /// <exception cref="Store.Cases.NotHereException">The key is none, or opens nothing any more; which, is not told.</exception>
    private static async Task<DossierLink> EnterAsync(
        string key,
        SleuthDb db,
        CaseDesk desk,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var now = db.Now();
        var link = protection.IdOf(Purpose, key) is { } id
            ? await db.Links.AsNoTracking().SingleOrDefaultAsync(l => l.Id == id && l.WithdrawnAt == null && l.Until > now, cancel)
            : null;
        if (
            link is null
            || !await desk.BeginAsync(link.CaseId, cancel)
            || !await db.Cases.AnyAsync(c => c.Id == link.CaseId && c.WithdrawnAt == null, cancel)
        )
        {
            throw Problems.NotHere("shared-dossier");
        }

        Speech.Set(http, desk.Lengths, (await desk.ShopAsync(cancel)).Settings);
        return link;
    }

    private static async Task SeenAsync(DossierLink link, string what, SleuthDb db, HttpContext http, CancellationToken cancel)
    {
        db.LinkViews.Add(
            new LinkView
            {
                LinkId = link.Id,
                At = db.Now(),
                What = what,
                From = http.Connection.RemoteIpAddress?.ToString() ?? "",
            }
        );
        await db.SaveChangesAsync(cancel);
    }

    private static async Task<LinkTold> ToldAsync(DossierLink link, SleuthDb db, IDataProtectionProvider protection, CancellationToken cancel)
    {
        var views = db.LinkViews.AsNoTracking().Where(v => v.LinkId == link.Id);
        return new LinkTold(
            link.Id,
            link.Version,
            link.Kind,
            link.For,
            LastDay(link),
            link.LeaveOutNames,
            link.MayAnswer,
            $"/shared/{protection.KeyOf(Purpose, link.Id)}",
            link.WithdrawnAt is not null || link.Until <= db.Now(),
            link.At,
            link.By,
            await views.CountAsync(cancel),
            await views.OrderByDescending(v => v.At).Take(ViewsTold).ToListAsync(cancel)
        );
    }

    private static DateOnly LastDay(DossierLink link) => DateOnly.FromDateTime(link.Until.UtcDateTime).AddDays(-1);
}
