using System.Globalization;
using System.Reflection;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Dossier;
using VividSleuth.Store.Look;
using VividSleuth.Words;

namespace VividSleuth.Server.Dossier;

/// <summary>Seals a case as it stands, with the shop’s key, and packs what is sealed whenever it is asked for.</summary>
public sealed class Sealing(SleuthDb db, CaseDesk desk, DossierDesk dossiers, KnowledgeShelf shelf, IDataProtectionProvider protection)
{
    public const string CasePath = BagIt.Payload + "case.json";
    public const string PicturesPath = BagIt.Payload + "pictures/";
    public const string SoundsPath = BagIt.Payload + "sounds/";

    /// <summary>An id as it stands in the name of a file.</summary>
    private const int LengthOfId = 36;

    private const int CopiedAtOnce = 256 * 1024;

    private static readonly string[] PictureColumns = ["file", "place", "caption", "photo", "sha256", "by", "at", "taken_back"];

    private static readonly string[] SoundColumns =
    [
        "file",
        "sound",
        "sha256",
        "seconds",
        "rpm",
        "clamp_at",
        "cut_out",
        "where",
        "load",
        "warmth",
        "by",
        "at",
        "taken_back",
    ];

    private sealed record Original(Guid Photo, string Place, string Sha256);

    /// <summary>
    /// Seals the case under its next number. The pictures are read and the papers drawn before the case is held, so that whoever writes into it waits for
    /// neither; what comes in between is read and drawn while it is.
    /// </summary>
    /// <param name="id">Made by whoever asks: asked again, the seal that was made is the answer.</param>
    /// <exception cref="ProblemException">Nothing was written since it was sealed last, or a picture is damaged.</exception>
    public async Task<Seal> SealAsync(Guid caseId, Guid id, string why, Sentences sentences, CancellationToken cancel)
    {
        if (await db.Seals.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && s.CaseId == caseId, cancel) is { } made)
        {
            return made;
        }

        var hashed = new Dictionary<string, BagFile>(StringComparer.Ordinal);
        await HashAsync(Sha256Of(await OriginalsAsync(caseId, cancel), await SoundsAsync(caseId, cancel)), hashed, cancel);
        await desk.OpenAsync(caseId, cancel);
        var drawn = desk.Revision;
        var papers = await db.Seals.AnyAsync(s => s.CaseId == caseId && s.Revision == drawn, cancel) ? null : await PapersAsync();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var reader = await desk.OpenLockedAsync(caseId, cancel);
        var last = await db.Seals.AsNoTracking().Where(s => s.CaseId == caseId).OrderByDescending(s => s.Number).FirstOrDefaultAsync(cancel);
        if (last?.Id == id)
        {
            return last;
        }

        if (last?.Revision == desk.Revision)
        {
            throw new ProblemException(Problem.Of("", "bag.nothing-new-to-seal", ("number", last!.Number)));
        }

        var originals = await OriginalsAsync(caseId, cancel);
        var sounds = await SoundsAsync(caseId, cancel);
        await HashAsync(Sha256Of(originals, sounds), hashed, cancel);
        var file = (await db.ExportAsync(caseId, cancel, pictures: false))!;
        var photos = file.Case.Photos.ToDictionary(p => p.Id);
        var number = (last?.Number ?? 0) + 1;
        var at = db.Now();
        if (papers is null || desk.Revision != drawn)
        {
            papers = await PapersAsync();
        }

        (string Path, byte[] Data)[] own =
        [
            (CasePath, Utf8(file.ToJson())),
            .. papers,
            (BagIt.Payload + "figures.csv", Utf8(GaugeTables.SheetCsv(reader.Gauge, sentences.Say))),
            (BagIt.Payload + "readings.csv", Utf8(GaugeTables.Readings(reader.Case.GaugeLog(), reader.Knowledge))),
            (BagIt.Payload + "pictures.csv", Utf8(CsvIn.Write(PictureColumns, originals.Select(o => Line(o, photos[o.Photo]))))),
            (BagIt.Payload + "sounds.csv", Utf8(CsvIn.Write(SoundColumns, sounds.Select(Line)))),
        ];
        BagFile[] pictures =
        [
            .. originals.Select(o => hashed[o.Sha256] with { Path = PathOf(o, photos[o.Photo]) }),
            .. sounds.Select(s => hashed[s.Sha256] with { Path = PathOf(s) }),
        ];
        var payload = new List<BagFile>(pictures);
        foreach (var (path, data) in own)
        {
            payload.Add(BagFile.Of(path, data));
        }

        var name = $"{CaseFile.NameOf(file.Case.Title)}-seal-{number}";
        using var key = await KeyAsync(cancel);
        var fingerprint = BagSeal.FingerprintOf(key);
        var program = typeof(Sealing).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion ?? "";
        (string Label, string Value)[] info =
        [
            ("Bagging-Date", at.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
            ("Bag-Software-Agent", $"Vivid Sleuth {program}"),
            ("External-Identifier", caseId.ToString()),
            ("External-Description", $"{file.Case.Title}; {file.Case.EngineName}"),
            ("Seal-Number", number.ToString(CultureInfo.InvariantCulture)),
            ("Sealed-At", at.ToString("O", CultureInfo.InvariantCulture)),
            ("Sealed-By", db.Writer),
            ("Sealed-For", why),
            ("Sealed-With", fingerprint),
            ("Case-Revision", desk.Revision!.Value.ToString(CultureInfo.InvariantCulture)),
            ("Knowledge-Version", shelf.Version),
        ];
        var readMe = sentences.Say(
            Fact.Of(
                "bag.read-me",
                ("title", file.Case.Title),
                ("engine", file.Case.EngineName),
                ("number", number),
                ("at", at.ToString("u", CultureInfo.InvariantCulture)),
                ("pictures", originals.Count),
                ("sounds", sounds.Count),
                ("fingerprint", fingerprint)
            )
        );
        var told = BagPacking.Tell(payload, info, [("README.txt", Utf8(readMe))], key);
        var seal = new Seal
        {
            Id = id,
            CaseId = caseId,
            Number = number,
            At = at,
            By = db.Writer,
            Why = why,
            Revision = desk.Revision!.Value,
            Name = name,
            Files = told.Count + payload.Count,
            Bytes = payload.Sum(p => p.Bytes) + told.Sum(t => (long)t.Data.Length),
            Fingerprint = fingerprint,
        };
        db.Seals.Add(seal);
        // In the order in which a reader wants them: what tells of the bag, then what it carries.
        db.SealFiles.AddRange(
            told.Concat(own)
                .Select(
                    (f, i) =>
                        new SealFile
                        {
                            SealId = id,
                            Order = i,
                            Path = f.Path,
                            Bytes = f.Data.Length,
                            Data = f.Data,
                        }
                )
                .Concat(
                    pictures.Select(
                        (p, i) =>
                            new SealFile
                            {
                                SealId = id,
                                Order = told.Count + own.Length + i,
                                Path = p.Path,
                                Bytes = p.Bytes,
                                Original = p.Sha256,
                            }
                    )
                )
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return seal;

        async Task<(string Path, byte[] Data)[]> PapersAsync() =>
            [
                (BagIt.Payload + "report.pdf", await PdfAsync(DossierKind.Examiner)),
                (BagIt.Payload + "letter.pdf", await PdfAsync(DossierKind.Customer)),
            ];

        async Task<byte[]> PdfAsync(DossierKind kind) =>
            (await dossiers.WriteAsync(caseId, new DossierWish(kind), cancel)).Pdf(PaperSize.A4, sentences);
    }

    /// <summary>What was written into the case since it was sealed, under the given number.</summary>
    public async Task<IReadOnlyList<CaseAlteration>> SinceAsync(Seal seal, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(seal.CaseId, cancel);
        if (desk.Revision == seal.Revision)
        {
            return [];
        }

        var data = await db.SealFiles.Where(f => f.SealId == seal.Id && f.Path == CasePath).Select(f => f.Data).SingleAsync(cancel);
        return CaseDifference.Between(CaseFile.AsItStands(data).Case, reader.Case);
    }

    /// <summary>The sealed bag as a zip file, a file at a time.</summary>
    public async Task PackAsync(Seal seal, Stream to, CancellationToken cancel)
    {
        var files = await db
            .SealFiles.AsNoTracking()
            .Where(f => f.SealId == seal.Id)
            .OrderBy(f => f.Order)
            .Select(f => new
            {
                f.Order,
                f.Path,
                f.Original,
            })
            .ToListAsync(cancel);
        await BagPacking.WriteAsync(
            to,
            seal.Name,
            seal.At,
            files.Select(f => new BagPiece(f.Path, (stream, stop) => WriteAsync(f.Order, f.Original, stream, stop))),
            cancel
        );

        async Task WriteAsync(int order, string? original, Stream stream, CancellationToken stop)
        {
            if (original is not null)
            {
                await db.ReadOriginalAsync(original, from => from.CopyToAsync(stream, CopiedAtOnce, stop), stop);
            }
            else
            {
                var data = await db.SealFiles.Where(f => f.SealId == seal.Id && f.Order == order).Select(f => f.Data!).SingleAsync(stop);
                await stream.WriteAsync(data, stop);
            }
        }
    }

    /// <summary>The id of the photograph of which a file of a bag is the original; null where its name has none.</summary>
    public static Guid? PhotoOf(string path)
    {
        var name = Path.GetFileNameWithoutExtension(path);
        return name.Length >= LengthOfId && Guid.TryParse(name[^LengthOfId..], out var id) ? id : null;
    }

    private Task<List<Original>> OriginalsAsync(Guid caseId, CancellationToken cancel) =>
        db.Set<Photo>()
            .Where(p => p.CaseId == caseId)
            .OrderBy(p => p.Id)
            .Join(db.PhotoContents, p => p.Id, c => c.PhotoId, (p, c) => new Original(p.Id, p.Place, c.Sha256))
            .ToListAsync(cancel);

    /// <summary>Recordings of the case that are here, taken back or not.</summary>
    private Task<List<Sound>> SoundsAsync(Guid caseId, CancellationToken cancel) =>
        db.Set<Sound>()
            .AsNoTracking()
            .Where(s => s.CaseId == caseId && db.Originals.Any(o => o.Sha256 == s.Sha256))
            .OrderBy(s => s.Id)
            .ToListAsync(cancel);

    private static IEnumerable<string> Sha256Of(List<Original> originals, List<Sound> sounds) =>
        originals.Select(o => o.Sha256).Concat(sounds.Select(s => s.Sha256));

    /// <summary>Digests of originals: those that were taken when they came in, and of the others as they are read now.</summary>
    /// <exception cref="ProblemException">One that is read is another than it was when it came in.</exception>
    private async Task HashAsync(IEnumerable<string> originals, Dictionary<string, BagFile> hashed, CancellationToken cancel)
    {
        var wanted = originals.Distinct(StringComparer.Ordinal).Where(s => !hashed.ContainsKey(s)).ToArray();
        foreach (
            var known in await db
                .Originals.Where(o => wanted.Contains(o.Sha256))
                .Select(o => new
                {
                    o.Sha256,
                    o.Sha512,
                    Bytes = o.Data.Length,
                })
                .ToListAsync(cancel)
        )
        {
            if (known.Sha512 is { } longer)
            {
                hashed[known.Sha256] = new BagFile("", known.Bytes, known.Sha256, longer);
                continue;
            }

            BagFile? read = null;
            await db.ReadOriginalAsync(known.Sha256, async stream => read = await BagPacking.HashAsync("", stream, cancel), cancel);
            if (read!.Sha256 != known.Sha256)
            {
                throw new ProblemException(Problem.Of("", "bag.picture-damaged-here", ("sha256", known.Sha256)));
            }

            hashed[known.Sha256] = read;
            await db.Originals.Where(o => o.Sha256 == known.Sha256).ExecuteUpdateAsync(o => o.SetProperty(x => x.Sha512, read.Sha512), cancel);
        }
    }

    /// <summary>The newest key whose private half is here; the first is made when it is first needed.</summary>
    private async Task<ECDsa> KeyAsync(CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Locks.SealKey})", cancel);
        var protector = protection.CreateProtector("VividSleuth.SealKey");
        foreach (var known in await db.SealKeys.AsNoTracking().OrderByDescending(k => k.At).ToListAsync(cancel))
        {
            if (known.Private.Length == 0)
            {
                continue;
            }

            try
            {
                var key = ECDsa.Create();
                key.ImportPkcs8PrivateKey(protector.Unprotect(known.Private), out _);
                return key;
            }
            catch (CryptographicException)
            {
                // Protected by keys that this program no longer has: it seals with a new one, and that one stays known.
            }
        }

        var made = BagSeal.NewKey();
        db.SealKeys.Add(
            new SealKey
            {
                Fingerprint = BagSeal.FingerprintOf(made),
                PublicPem = made.ExportSubjectPublicKeyInfoPem(),
                Private = protector.Protect(made.ExportPkcs8PrivateKey()),
                At = db.Now(),
            }
        );
        return made;
    }

    private static string PathOf(Original original, Photo photo) =>
        $"{PicturesPath}{new string([.. original.Place.Where(char.IsAsciiLetterOrDigit)])}-{original.Photo}{Ending(photo)}";

    private static string PathOf(Sound sound) => $"{SoundsPath}{sound.Id}.wav";

    private static IReadOnlyList<string> Line(Sound sound) =>
        [
            PathOf(sound)[BagIt.Payload.Length..],
            sound.Id.ToString(),
            sound.Sha256,
            sound.Seconds.ToString("0.0", CultureInfo.InvariantCulture),
            sound.Rpm?.ToString("0", CultureInfo.InvariantCulture) ?? "",
            sound.Pickup == 0 ? "" : sound.Pickup.ToString(CultureInfo.InvariantCulture),
            sound.CutOut == 0 ? "" : sound.CutOut.ToString(CultureInfo.InvariantCulture),
            JsonNamingPolicy.CamelCase.ConvertName(sound.Where.ToString()),
            JsonNamingPolicy.CamelCase.ConvertName(sound.Load.ToString()),
            JsonNamingPolicy.CamelCase.ConvertName(sound.Warmth.ToString()),
            sound.By,
            sound.At.ToString("O", CultureInfo.InvariantCulture),
            sound.Stands() ? "" : sound.WithdrawnAt!.Value.ToString("O", CultureInfo.InvariantCulture),
        ];

    private static string Ending(Photo photo) =>
        Path.GetExtension(photo.FileName).ToLowerInvariant() is (".jpg" or ".jpeg" or ".png" or ".webp" or ".avif") and var ending ? ending : ".jpg";

    private static IReadOnlyList<string> Line(Original original, Photo photo) =>
        [
            PathOf(original, photo)[BagIt.Payload.Length..],
            photo.Place,
            photo.Caption,
            photo.Id.ToString(),
            original.Sha256,
            photo.By,
            photo.At.ToString("O", CultureInfo.InvariantCulture),
            photo.Stands() ? "" : photo.WithdrawnAt!.Value.ToString("O", CultureInfo.InvariantCulture),
        ];

    private static byte[] Utf8(string text) => Encoding.UTF8.GetBytes(text);
}
