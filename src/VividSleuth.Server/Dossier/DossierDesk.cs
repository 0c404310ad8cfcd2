using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Index;
using VividSleuth.Server.Build;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Index;
using VividSleuth.Store;
using VividSleuth.Words;

namespace VividSleuth.Server.Dossier;

/// <summary>A dossier with the pictures that it shows.</summary>
/// <param name="Jpeg">For the screen, by photograph.</param>
public sealed record WrittenDossier(DossierPaper Paper, IReadOnlyDictionary<Guid, byte[]> Jpeg)
{
    /// <summary>A name under which it can be kept, without its ending.</summary>
    public string Name => $"dossier-{Paper.Kind.ToString().ToLowerInvariant()}-{Paper.Day:yyyy-MM-dd}";

    public byte[] Page(Sentences sentences) => DossierHtml.Of(Paper, Jpeg, sentences);

    /// <inheritdoc cref="DossierPdf.Of"/>
    public byte[] Pdf(PaperSize size, Sentences sentences, Action<double>? told = null) => DossierPdf.Of(Paper, Jpeg, size, sentences, told);
}

/// <summary>Writes dossiers from the record as it stands.</summary>
public sealed class DossierDesk(SleuthDb db, CaseDesk desk, BuildDesk build, IServiceScopeFactory scopes)
{
    /// <summary>Earlier cases that are told, of the engine and of its kind each.</summary>
    private const int MostEarlier = 8;

    /// <summary>
    /// Cases that were begun before this one, the newest first: of the same engine, and of others of its kind.
    /// </summary>
    public async Task<IReadOnlyList<EarlierCase>> EarlierAsync(Guid caseId, CancellationToken cancel)
    {
        var of = (await desk.OpenAsync(caseId, cancel)).Case;
        var begun = db.Cases.Where(c => c.At < of.At);
        var same = await begun.OfTheEngine(of).Select(c => c.Id).Take(MostEarlier).ToListAsync(cancel);
        var kind = await begun.OfOthersOfTheKind(of).Select(c => c.Id).Take(MostEarlier).ToListAsync(cancel);
        var earlier = new List<EarlierCase>();
        foreach (var (id, isSame) in same.Select(id => (id, true)).Concat(kind.Select(id => (id, false))))
        {
            // On a desk of its own: what this request knows of its own case stays as it is.
            await using var scope = scopes.CreateAsyncScope();
            var other = scope.ServiceProvider.GetRequiredService<CaseDesk>();
            if (await other.BeginAsync(id, cancel))
            {
                earlier.Add((await other.OpenAsync(id, cancel)).AsEarlier(isSame));
            }
        }

        return earlier;
    }

    /// <exception cref="Core.ProblemException">A picture that is asked for is not there.</exception>
    public async Task<WrittenDossier> WriteAsync(Guid caseId, DossierWish wish, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var script = reader.Book.Script.Id;
        var lessons = await db
            .Lessons.AsNoTracking()
            .Where(l => l.Script == script && l.WithdrawnAt == null)
            .OrderBy(l => l.At)
            .Select(l => l.Text)
            .ToListAsync(cancel);
        var setting = await build.SettingAsync(cancel);
        // As of the last thing that was written: the same record gives the same paper on whatever day it is asked for.
        var day = DateOnly.FromDateTime((reader.Progress.LastWritten ?? setting.Now).UtcDateTime);
        var plan = wish.Kind == DossierKind.Customer ? reader.BuildAt(setting.Work, setting.Clocks, setting.Now, worth: false) : null;
        IReadOnlyList<EarlierCase> earlier = wish.Kind is DossierKind.Examiner or DossierKind.Own ? await EarlierAsync(caseId, cancel) : [];
        IReadOnlyDictionary<Guid, IReadOnlyList<PartStay>> stays =
            wish.Kind == DossierKind.Examiner
                ? await IndexEndpoints.AllStaysAsync(caseId, [.. reader.Case.Parts.Where(p => p.Stands())], db, cancel)
                : new Dictionary<Guid, IReadOnlyList<PartStay>>();
        var dossier = DossierWriter.Write(reader.DossierMatter(lessons, stays, earlier, plan, day), wish);
        var shown = dossier.Blocks.OfType<DossierPictures>().SelectMany(p => p.Pictures).Select(p => p.Photo.Id).ToArray();
        var jpeg = await db
            .PhotoContents.AsNoTracking()
            .Where(c => shown.Contains(c.PhotoId))
            .Select(c => new { c.PhotoId, c.View })
            .ToDictionaryAsync(c => c.PhotoId, c => c.View, cancel);
        return new WrittenDossier(dossier, jpeg);
    }
}
