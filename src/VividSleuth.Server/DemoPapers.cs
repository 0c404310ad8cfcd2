using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Dossier;
using VividSleuth.Store;
using VividSleuth.Store.Dossier;
using VividSleuth.Words;

namespace VividSleuth.Server;

/// <summary>The papers of the demo shop: an engine sealed twice with one verdict between, and a link for the customer of another.</summary>
internal static class DemoPapers
{
    private const string SealedFile = "biogas-six.case.json";
    private const string Lead = "ines";

    /// <summary>Days for which the link of the demo answers.</summary>
    private const int Days = 90;

    public static bool IsSealed(string path) => Path.GetFileName(path) == SealedFile;

    /// <param name="between">The verdict that is written between the two seals.</param>
    public static async Task MakeAsync(IServiceProvider services, PartVerdict between)
    {
        await SealAsync(services, between.CaseId);
        await using (var scope = services.CreateAsyncScope())
        {
            var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
            (db.Writer, db.KeepStamps) = (Lead, true);
            db.Add(between);
            await db.SaveChangesAsync();
            var customers = await db.Cases.Where(c => c.Options.Count > 0).OrderBy(c => c.Id).FirstAsync();
            db.Links.Add(
                new DossierLink
                {
                    Id = Guid.CreateVersion7(),
                    CaseId = customers.Id,
                    Kind = DossierKind.Customer,
                    For = customers.Owner,
                    Until = new DateTimeOffset(db.Now().UtcDateTime.Date.AddDays(Days + 1), TimeSpan.Zero),
                    MayAnswer = true,
                    Version = 1,
                    At = db.Now(),
                    By = Lead,
                }
            );
            await db.SaveChangesAsync();
        }

        await SealAsync(services, between.CaseId);
    }

    private static async Task SealAsync(IServiceProvider services, Guid caseId)
    {
        await using var scope = services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<SleuthDb>().Writer = Lead;
        await scope.ServiceProvider.GetRequiredService<CaseDesk>().BeginAsync(caseId, CancellationToken.None);
        await scope
            .ServiceProvider.GetRequiredService<Sealing>()
            .SealAsync(caseId, Guid.CreateVersion7(), "", Sentences.English, CancellationToken.None);
    }
}
