using System.Globalization;
using System.Security.Claims;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using VividSleuth.Core;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Index;
using VividSleuth.Store;
using VividSleuth.Words;

namespace VividSleuth.Server.Shop;

/// <summary>What a class takes away on paper: plates for its benches, its results as a table, and a letter to each.</summary>
internal static class ClassPapers
{
    private const string Pdf = "application/pdf";
    private static readonly string[] OfHomework = ["right", "bits", "minutes"];
    private static readonly string[] OfStudy = ["bias", "scatter"];

    public static void MapClassPapers(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/classes/{id:guid}").WithTags("shop");
        group.MapGet("/results.csv", CsvAsync).Produces<string>(contentType: "text/csv").ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/letters.pdf", LettersAsync).Produces(StatusCodes.Status200OK, contentType: Pdf).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("/plates.pdf", PlatesAsync).Produces(StatusCodes.Status200OK, contentType: Pdf).ProducesProblem(StatusCodes.Status404NotFound);
    }

    /// <summary>One of the class with what is said of his work.</summary>
    private sealed record Result(
        string Person,
        BenchLine Bench,
        IReadOnlyList<(string Name, HomeworkRow Row)> Homework,
        IReadOnlyList<(GaugeStudy Study, PersonBias Bias)> Studies
    );

    private sealed record Results(
        SchoolClass Class,
        IReadOnlyList<HomeworkLine> Homework,
        IReadOnlyList<GaugeStudy> Studies,
        IReadOnlyList<Result> Of
    );

    private static async Task<Results> OfAsync(
        Guid id,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var of = await db.TaughtAsync(id, user, cancel);
        var benches = await ClassEndpoints.LinesAsync(of, db, desk, cache, cancel);
        var people = benches.SelectMany(b => b.Bench.People).Distinct().ToArray();
        var homework = await HomeworkEndpoints.LinesAsync(db, id, people, Guid.Empty, cancel);
        var studies = await db
            .GaugeStudies.AsNoTracking()
            .Where(s => s.ClassId == id && s.WithdrawnAt == null)
            .OrderBy(s => s.Id)
            .ToListAsync(cancel);
        var answers = studies.ToDictionary(s => s.Id, GaugeStudies.Evaluate);
        return new Results(
            of,
            homework,
            studies,
            [
                .. benches.SelectMany(b =>
                    b.People.Select(p => new Result(
                        p,
                        b,
                        [.. homework.Select(h => (h.Name, h.Rows.Single(r => r.Person == p)))],
                        [.. studies.SelectMany(s => (answers[s.Id]?.People ?? []).Where(x => x.Person == p).Select(x => (s, x)))]
                    ))
                ),
            ]
        );
    }

    private static async Task<IResult> CsvAsync(
        Guid id,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        ClaimsPrincipal user,
        KnowledgeBase knowledge,
        Sentences sentences,
        CancellationToken cancel
    )
    {
        var results = await OfAsync(id, db, desk, cache, user, cancel);
        string Say(string code) => sentences.Say(Fact.Of($"server.class-column.{code}"));
        string[] header =
        [
            Say("person"),
            Say("bench"),
            Say("share"),
            Say("steps"),
            Say("skipped"),
            Say("signed"),
            Say("of"),
            Say("sent-back"),
            Say("findings"),
            Say("photos"),
            Say("readings"),
            Say("cause"),
            .. results.Homework.SelectMany(h => OfHomework.Select(c => sentences.Say(Fact.Of($"server.class-homework.{c}", ("name", h.Name))))),
            .. results.Studies.SelectMany(s =>
                OfStudy.Select(c =>
                    sentences.Say(Fact.Of($"server.class-study.{c}", ("name", s.Name), ("unit", QuantityParser.BaseUnit(QuantityOf(s, knowledge)))))
                )
            ),
        ];
        static string Figure(double? value, string format) => value?.ToString(format, CultureInfo.InvariantCulture) ?? "";
        var rows = results.Of.Select(r =>
        {
            var m = r.Bench.Standing.Marks;
            string[] cells =
            [
                r.Person,
                r.Bench.Prefix,
                Figure(m.Share, "0.00"),
                Figure(m.Steps, "0"),
                Figure(m.Skipped, "0"),
                Figure(m.Signed, "0"),
                Figure(m.ToSign, "0"),
                Figure(m.SentBack, "0"),
                Figure(m.Findings, "0"),
                Figure(m.Photos, "0"),
                Figure(m.Readings, "0"),
                m.Cause.Length == 0 ? "" : knowledge.Cause(m.Cause)?.Name ?? m.Cause,
                .. r.Homework.SelectMany(h =>
                    new[] { h.Row.Right is { } right ? (right ? "1" : "0") : "", Figure(h.Row.LogScore, "0.00"), Figure(h.Row.Minutes, "0") }
                ),
                .. results.Studies.SelectMany(s =>
                {
                    var bias = r.Studies.FirstOrDefault(x => x.Study.Id == s.Id).Bias;
                    return new[] { Figure(bias?.Bias, "0.0000"), Figure(bias?.Scatter, "0.0000") };
                }),
            ];
            return (IReadOnlyList<string>)cells;
        });
        return Results(CsvIn.Write(header, rows), $"{Core.Casebook.CaseFile.NameOf(results.Class.Name)}.csv");

        static IResult Results(string text, string name) => Microsoft.AspNetCore.Http.Results.File(Encoding.UTF8.GetBytes(text), "text/csv", name);
    }

    private static Quantity QuantityOf(GaugeStudy study, KnowledgeBase knowledge) =>
        knowledge.Characteristic(study.Characteristic)?.Quantity ?? Quantity.Length;

    private static async Task<IResult> LettersAsync(
        Guid id,
        SleuthDb db,
        CaseDesk desk,
        IMemoryCache cache,
        ClaimsPrincipal user,
        KnowledgeBase knowledge,
        Sentences sentences,
        CancellationToken cancel
    )
    {
        var results = await OfAsync(id, db, desk, cache, user, cancel);
        using var paper = new Paper(
            sentences.Say(Fact.Of("server.class-letters", ("name", results.Class.Name))),
            made: db.Now(),
            language: sentences.Tag
        );
        foreach (var (of, n) in results.Of.Select((r, n) => (r, n)))
        {
            if (n > 0)
            {
                paper.NextPage();
            }

            Letter(paper, of, results, knowledge, sentences);
        }

        return Microsoft.AspNetCore.Http.Results.File(paper.Save(), Pdf, $"{Core.Casebook.CaseFile.NameOf(results.Class.Name)}.pdf");
    }

    private static void Letter(Paper paper, Result of, Results results, KnowledgeBase knowledge, Sentences sentences)
    {
        string Say(string code, params (string, object?)[] with) => sentences.Say(Fact.Of(code, with));
        var marks = of.Bench.Standing.Marks;
        paper.Heading(of.Person);
        paper.Paragraph(
            Say(
                "server.class-letter-work",
                ("bench", of.Bench.Prefix),
                ("share", new Percent(marks.Share)),
                ("signed", marks.Signed),
                ("of", marks.ToSign),
                ("findings", marks.Findings),
                ("photos", marks.Photos),
                ("readings", marks.Readings)
            )
        );
        if (of.Bench.People.Count > 1)
        {
            paper.Paragraph(Say("server.class-letter-group", ("people", of.Bench.People.Where(p => p != of.Person).ToArray())));
        }

        if (marks.Cause.Length > 0)
        {
            paper.Paragraph(Say("server.class-letter-cause", ("cause", knowledge.Cause(marks.Cause)?.Name ?? marks.Cause)));
        }

        paper.Heading(Say("server.class-letter-sections"), 2);
        paper.Bullets(of.Bench.Standing.Sections.Select(s => Section(s, Say)));
        if (of.Homework.Count > 0)
        {
            paper.Heading(Say("server.class-letter-homework"), 2);
            paper.Bullets(
                of.Homework.Select(h =>
                    h.Row switch
                    {
                        { In: false } => Say("server.class-letter-not-in", ("name", h.Name)),
                        { LogScore: { } bits, Minutes: { } minutes, Right: { } right } => Say(
                            right ? "server.class-letter-right" : "server.class-letter-wrong",
                            ("name", h.Name),
                            ("bits", bits.ToString("0.0", CultureInfo.InvariantCulture)),
                            ("minutes", minutes.ToString("0", CultureInfo.InvariantCulture))
                        ),
                        _ => Say("server.class-letter-blind", ("name", h.Name)),
                    }
                )
            );
        }

        if (of.Studies.Count > 0)
        {
            paper.Heading(Say("server.class-letter-studies"), 2);
            paper.Bullets(
                of.Studies.Select(s =>
                {
                    var quantity = QuantityOf(s.Study, knowledge);
                    return Say(
                        "server.class-letter-study",
                        ("name", s.Study.Name),
                        ("part", s.Study.Parts[0]),
                        ("bias", new Amount(s.Bias.Bias, quantity, 4)),
                        ("scatter", new Amount(s.Bias.Scatter, quantity, 4))
                    );
                })
            );
        }
    }

    private static string Section(SectionStanding s, Func<string, (string, object?)[], string> say) =>
        say(
            s.State switch
            {
                SectionState.Signed => "server.class-section.signed",
                SectionState.Waiting => "server.class-section.waiting",
                SectionState.SentBack => "server.class-section.sent-back",
                SectionState.Done => "server.class-section.done",
                SectionState.Working => "server.class-section.working",
                _ => "server.class-section.ahead",
            },
            [
                ("name", s.Name),
                ("done", s.Done),
                ("steps", s.Steps),
                ("by", s.By),
                ("day", s.Since is { } at ? DateOnly.FromDateTime(at.UtcDateTime) : null),
                ("note", s.Note.Length > 0 ? s.Note : null),
                ("skipped", s.Skipped.Count > 0 ? s.Skipped.ToArray() : null),
            ]
        );

    /// <summary>A plate for each bench, whose code opens the bench on the phone of whoever teaches.</summary>
    private static async Task<IResult> PlatesAsync(
        Guid id,
        string page,
        HttpRequest request,
        SleuthDb db,
        ClaimsPrincipal user,
        Sentences sentences,
        CancellationToken cancel
    )
    {
        var of = await db.TaughtAsync(id, user, cancel);
        var benches = await db.BenchesAsync(id, cancel);
        var names = await db.NamesAsync(benches.SelectMany(b => b.People), cancel);
        var byPrefix = benches.ToDictionary(b => of.PrefixOf(b.Number), StringComparer.Ordinal);
        if (benches.Count == 0)
        {
            throw new ProblemException(Problem.Of("benches", "shop.no-benches-yet"));
        }

        var pdf = LabelPdf.Draw(
            LabelPage.Get(page),
            [
                .. byPrefix.Select(b => new Label(
                    b.Key,
                    Fact.Of("server.bench-of", ("people", b.Value.People.Select(p => names.GetValueOrDefault(p, "")).ToArray()))
                )),
            ],
            prefix => $"{request.Scheme}://{request.Host}/bench/{byPrefix[prefix].Id}",
            "",
            of.Name,
            sentences
        );
        return Microsoft.AspNetCore.Http.Results.File(pdf, Pdf, $"{Core.Casebook.CaseFile.NameOf(of.Name)}-plates.pdf");
    }
}
