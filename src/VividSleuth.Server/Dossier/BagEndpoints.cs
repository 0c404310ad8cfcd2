using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Server.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Arrival;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Dossier;
using VividSleuth.Store.Look;

namespace VividSleuth.Server.Dossier;

/// <summary>A bag held against itself, for whoever has one.</summary>
/// <param name="Info">What it says of itself.</param>
/// <param name="Fingerprint">Of the key in it; empty where it has none.</param>
/// <param name="Ours">It was signed with a key of this shop.</param>
/// <param name="Problems">All that is wrong with it, each file by name, as many as are told at once.</param>
/// <param name="More">Further ones.</param>
public sealed record BagTold(
    string Name,
    bool Sound,
    int Files,
    long Bytes,
    BagSignature Signature,
    string Fingerprint,
    bool Ours,
    IReadOnlyList<BagLine> Info,
    IReadOnlyList<Problem> Problems,
    int More
);

/// <summary>Checking a bag that somebody has, and making a case of one.</summary>
public static class BagEndpoints
{
    private const long Gigabyte = 1024L * 1024 * 1024;

    /// <summary>Of a case with all its pictures.</summary>
    private const long MostOfOurs = 16 * Gigabyte;

    /// <summary>Of a stranger, who could fill the disk: larger ones are checked at home, with the command.</summary>
    private const long MostOfStrangers = Gigabyte;

    /// <summary>The same, unpacked: an honest bag is not packed smaller.</summary>
    private const long MostUnpacked = 2 * Gigabyte;

    /// <summary>The record without its pictures.</summary>
    private const long MostOfACase = Gigabyte / 4;

    private const int MostTold = 50;

    /// <summary>Of the system: no space left on the device.</summary>
    private const int NoSpace = 28;

    // One after the other: each lies on the disk while it is read.
    private static readonly SemaphoreSlim Importing = new(1);
    private static readonly SemaphoreSlim Checking = new(2);
    private const int MostChecksAsked = 10;
    private static int _checksAsked;

    public static void MapBags(this RouteGroupBuilder api) =>
        api.MapPost("/cases/import-bag", ImportAsync)
            .WithTags("dossier")
            .RequireAuthorization(Policies.Write)
            .WithMetadata(new RequestSizeLimitAttribute(MostOfOurs))
            .Produces<EngineCase>()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    /// <summary>Without sign-in: whoever was given a bag may ask whether it is sound. Nothing of it is kept.</summary>
    public static void MapOpenBags(this RouteGroupBuilder api) =>
        api.MapPost("/bags/check", CheckAsync)
            .WithTags("dossier")
            .AllowAnonymous()
            .WithMetadata(new RequestSizeLimitAttribute(MostOfStrangers))
            .Produces<BagTold>()
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<BagTold> CheckAsync(HttpContext http, SleuthDb db, IConfiguration configuration, CancellationToken cancel)
    {
        if (Interlocked.Increment(ref _checksAsked) > MostChecksAsked)
        {
            Interlocked.Decrement(ref _checksAsked);
            throw new BusyException();
        }

        try
        {
            await Checking.WaitAsync(cancel);
        }
        finally
        {
            Interlocked.Decrement(ref _checksAsked);
        }

        try
        {
            await using var file = await ReceiveAsync(http.Request, configuration, cancel);
            using var bag = Bag.OfZip(file, new BagBounds(Bytes: MostUnpacked));
            var check = await BagCheck.OfAsync(bag, cancel);
            var ours = check.Fingerprint.Length > 0 && await db.SealKeys.AnyAsync(k => k.Fingerprint == check.Fingerprint, cancel);
            return new BagTold(
                check.Name,
                check.IsSound,
                check.Files,
                check.Bytes,
                check.Signature,
                check.Fingerprint,
                ours,
                [.. check.Info.Take(MostTold)],
                [.. check.Problems.Take(MostTold)],
                Math.Max(0, check.Problems.Count - MostTold)
            );
        }
        finally
        {
            Checking.Release();
        }
    }

    /// <summary>
    /// A sealed bag becomes a case, with its pictures; nothing is written where anything of it is wrong. The same bag sent again becomes no second one: the
    /// case that it has become is the answer.
    /// </summary>
    /// <param name="copy">Any text: another one makes another case of the same bag.</param>
    private static async Task<EngineCase> ImportAsync(
        HttpContext http,
        string? copy,
        Recorder recorder,
        CasebookKeeper keeper,
        IConfiguration configuration,
        CancellationToken cancel
    )
    {
        await Importing.WaitAsync(cancel);
        try
        {
            await using var zip = await ReceiveAsync(http.Request, configuration, cancel);
            using var bag = Bag.OfZip(zip, new BagBounds());
            var check = await BagCheck.OfAsync(bag, cancel);
            if (!check.IsSound)
            {
                throw new ProblemException([.. check.Problems.Take(MostTold)]);
            }

            if (!bag.Entries.ContainsKey(Sealing.CasePath))
            {
                throw new ProblemException(Problem.Of(Sealing.CasePath, "bag.without-case"));
            }

            var data = await bag.BytesAsync(Sealing.CasePath, MostOfACase, cancel);
            var file = CaseFile.FromJson(data).KnownTo(KnowledgeBase.BuiltIn);
            var paths = Pictures(bag, file);
            file.Pictures = [.. paths.Select(p => new Picture(p.Photo, "", []))];
            file.WithIdsOf(DerivedId.Of(DerivedId.Of(data), copy ?? "")).FromElsewhere();
            file.Case.ImportedBag = check.Fingerprint.Length > 0 ? $"{check.Name}, {check.Fingerprint}" : check.Name;
            var byPhoto = file.Pictures.Zip(paths, (p, at) => (p.Photo, at.Path)).ToDictionary(x => x.Photo, x => x.Path);
            return await CasebookEndpoints.OnceAsync(
                file,
                recorder,
                keeper,
                cancel,
                p => bag.BytesAsync(byPhoto[p.Photo], PhotoIntake.MostBytes, cancel),
                await RecordingsAsync(bag, cancel)
            );
        }
        finally
        {
            Importing.Release();
        }
    }

    /// <summary>Which file is the original of which photograph.</summary>
    /// <exception cref="ProblemException">A picture is of no photograph of the case, or two are of one.</exception>
    private static List<(Guid Photo, string Path)> Pictures(Bag bag, CaseFile file)
    {
        var photos = file.Case.Photos.Select(p => p.Id).ToHashSet();
        var pictures = new List<(Guid Photo, string Path)>();
        foreach (var path in bag.Entries.Keys.Where(p => p.StartsWith(Sealing.PicturesPath, StringComparison.Ordinal)).Order(StringComparer.Ordinal))
        {
            var photo = Sealing.PhotoOf(path);
            pictures.Add(
                photo is { } id && photos.Remove(id)
                    ? (id, path)
                    : throw new ProblemException(Problem.Of(path, "bag.picture-of-nothing", ("path", path)))
            );
        }

        return pictures;
    }

    /// <summary>Gives the recordings of a bag by what they hold.</summary>
    /// <exception cref="ProblemException">One of them is none that can be read.</exception>
    private static async Task<Func<string, Task<byte[]?>>> RecordingsAsync(Bag bag, CancellationToken cancel)
    {
        var bySha256 = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var path in bag.Entries.Keys.Where(p => p.StartsWith(Sealing.SoundsPath, StringComparison.Ordinal)).Order(StringComparer.Ordinal))
        {
            var data = await bag.BytesAsync(path, SoundWave.MostBytes, cancel);
            SoundWave.Read(data);
            bySha256[Convert.ToHexStringLower(SHA256.HashData(data))] = path;
        }

        return async sha256 => bySha256.TryGetValue(sha256, out var path) ? await bag.BytesAsync(path, SoundWave.MostBytes, cancel) : null;
    }

    /// <summary>What is sent, on the disk and not in memory; it is gone when it is closed.</summary>
    /// <exception cref="ProblemException">Nothing is sent.</exception>
    private static async Task<FileStream> ReceiveAsync(HttpRequest request, IConfiguration configuration, CancellationToken cancel)
    {
        var folder = configuration["Bags:Folder"] is { Length: > 0 } given ? given : Path.GetTempPath();
        var options = new FileStreamOptions
        {
            Mode = FileMode.CreateNew,
            Access = FileAccess.ReadWrite,
            Options = FileOptions.DeleteOnClose | FileOptions.Asynchronous,
            BufferSize = 128 * 1024,
        };
        if (!OperatingSystem.IsWindows())
        {
            // Nobody else on the machine reads what is in it.
            options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        }

        var file = new FileStream(Path.Combine(folder, $"sleuth-bag-{Guid.CreateVersion7()}"), options);
        try
        {
            await request.Body.CopyToAsync(file, cancel);
            return file.Length > 0 ? file : throw new ProblemException(Problem.Of("", "bag.no-archive"));
        }
        catch (IOException e) when (e.HResult == NoSpace)
        {
            await file.DisposeAsync();
            throw new ProblemException(Problem.Of("", "bag.no-room-here"));
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }
}
