using System.Threading.Channels;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Gauge;
using VividSleuth.Server.Casebook;

namespace VividSleuth.Server.Dossier;

/// <summary>All that a dossier is written from, of one moment, for programs.</summary>
public sealed record DossierView(
    EngineCase Case,
    CaseAnswers Answers,
    IReadOnlyList<Instrument> Instruments,
    IReadOnlyList<OpenedLock> OpenedLocks,
    DateTimeOffset Drawn
);

/// <summary>Dossiers of a case, for whoever they are: as a page, and on paper.</summary>
public static class DossierEndpoints
{
    public static void MapDossier(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/dossier").WithTags("dossier");
        group.MapGet("", ViewAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapGet("/page", PageAsync)
            .Produces<string>(StatusCodes.Status200OK, "text/html")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapGet("/pdf/told", ToldPdfAsync)
            .Produces(StatusCodes.Status200OK, contentType: MadeType)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapGet("/pdf", PdfAsync)
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<DossierView> ViewAsync(Guid caseId, CaseDesk desk, TimeProvider time, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        return new DossierView(
            reader.Case,
            reader.All(),
            reader.ReadWith,
            OpenedLocks.Of(reader.Case.Steps, reader.Case.BackActs, reader.Strip),
            time.GetUtcNow()
        );
    }

    /// <summary>One page that opens with no network.</summary>
    /// <param name="kind">customer, examiner, own or class.</param>
    /// <param name="pictures">Ids of photographs in their order, with commas between; without it those that show most; empty is none.</param>
    /// <param name="leaveOutNames">True tells people by letters.</param>
    private static async Task<IResult> PageAsync(
        Guid caseId,
        string kind,
        string? pictures,
        bool? leaveOutNames,
        HttpContext http,
        DossierDesk desk,
        CancellationToken cancel
    )
    {
        var dossier = await desk.WriteAsync(caseId, Wish(kind, pictures, leaveOutNames), cancel);
        return Results.File(dossier.Page(http.Sentences()), "text/html; charset=utf-8", $"{dossier.Name}.html");
    }

    /// <summary>The same on paper.</summary>
    /// <param name="size">a4, or letter.</param>
    /// <inheritdoc cref="PageAsync"/>
    private static async Task<IResult> PdfAsync(
        Guid caseId,
        string kind,
        string? pictures,
        bool? leaveOutNames,
        string? size,
        HttpContext http,
        DossierDesk desk,
        CancellationToken cancel
    )
    {
        var paper = SizeOf(size);
        var dossier = await desk.WriteAsync(caseId, Wish(kind, pictures, leaveOutNames), cancel);
        return Results.File(dossier.Pdf(paper, http.Sentences()), "application/pdf", $"{dossier.Name}.pdf");
    }

    /// <summary>Media type of a file that tells how far it is before it comes.</summary>
    private const string MadeType = "application/x-sleuth-made";

    /// <summary>
    /// The same, and on the way how far it is: lines of JSON with what is done as a share ({"done":0.4}), the last one with the bytes of the file
    /// ({"bytes":123}), and then the file.
    /// </summary>
    /// <inheritdoc cref="PdfAsync"/>
    private static async Task<IResult> ToldPdfAsync(
        Guid caseId,
        string kind,
        string? pictures,
        bool? leaveOutNames,
        string? size,
        HttpContext http,
        DossierDesk desk,
        CancellationToken cancel
    )
    {
        var paper = SizeOf(size);
        var dossier = await desk.WriteAsync(caseId, Wish(kind, pictures, leaveOutNames), cancel);
        var sentences = http.Sentences();
        return Results.Stream(
            async to =>
            {
                var shares = Channel.CreateUnbounded<double>();
                var making = Task.Run(
                    () =>
                    {
                        try
                        {
                            return dossier.Pdf(paper, sentences, share => shares.Writer.TryWrite(share));
                        }
                        finally
                        {
                            shares.Writer.Complete();
                        }
                    },
                    cancel
                );
                await foreach (var share in shares.Reader.ReadAllAsync(cancel))
                {
                    await LineAsync(FormattableString.Invariant($"{{\"done\":{share:0.##}}}\n"));
                }

                var pdf = await making;
                await LineAsync(FormattableString.Invariant($"{{\"bytes\":{pdf.Length}}}\n"));
                await to.WriteAsync(pdf, cancel);

                async Task LineAsync(string line)
                {
                    await to.WriteAsync(System.Text.Encoding.UTF8.GetBytes(line), cancel);
                    await to.FlushAsync(cancel);
                }
            },
            MadeType
        );
    }

    /// <exception cref="ProblemException">There is no such paper.</exception>
    internal static PaperSize SizeOf(string? size) =>
        Enum.TryParse<PaperSize>(size ?? nameof(PaperSize.A4), ignoreCase: true, out var paper) && Enum.IsDefined(paper)
            ? paper
            : throw new ProblemException(Problem.Of("size", "dossier.no-such-size", ("size", size)));

    internal static DossierWish Wish(string kind, string? pictures, bool? leaveOutNames)
    {
        if (!Enum.TryParse<DossierKind>(kind, ignoreCase: true, out var known) || !Enum.IsDefined(known))
        {
            throw new ProblemException(Problem.Of("kind", "dossier.no-such-kind", ("kind", kind)));
        }

        return new DossierWish(
            known,
            pictures
                ?.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(id =>
                    Guid.TryParse(id, out var guid) ? guid : throw new ProblemException(Problem.Of("pictures", "dossier.no-such-picture", ("id", id)))
                )
                .ToArray(),
            leaveOutNames ?? false
        );
    }
}
