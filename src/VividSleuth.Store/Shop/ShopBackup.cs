using System.Data;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Verdict;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Dossier;
using VividSleuth.Store.Look;

namespace VividSleuth.Store.Shop;

/// <summary>One file of a backup.</summary>
/// <param name="Path">Below the folder, with slashes.</param>
/// <param name="Sha256">In lower-case hexadecimal, as sha256sum writes it.</param>
public sealed record BackupFile(string Path, long Bytes, string Sha256);

/// <summary>What a backup holds, and by what each file of it is checked.</summary>
public sealed record BackupManifest(string Format, int Version, DateTimeOffset At, Dictionary<string, int> Counts, List<BackupFile> Files);

/// <summary>
/// The whole shop as files that other programs can read: each case as a case file, each picture as it came from the camera, and what belongs to the
/// shop. Made while others write, of one moment; read back and checked before it counts; and put into an empty database again.
/// </summary>
/// <param name="told">Progress, a line each.</param>
public sealed class ShopBackup(SleuthDb db, Action<string> told)
{
    public const string FormatName = "vivid-sleuth-backup";
    public const int CurrentVersion = 1;
    private const string Partial = ".partial";
    private const string Manifest = "manifest.json";
    private const string ShopFile = "shop.json";

    /// <summary>What belongs to the shop and to no case. Signed-in devices, open invitations and links to calendars are left out: whoever comes back opens them anew.</summary>
    private sealed class ShopContent
    {
        public List<ShopSettings> Settings { get; set; } = [];

        public List<Lesson> Lessons { get; set; } = [];

        public List<StockPart> Stock { get; set; } = [];

        public List<Supplier> Suppliers { get; set; } = [];

        public List<ShopCause> Causes { get; set; } = [];

        public List<ShopScript> Scripts { get; set; } = [];

        public List<EngineKind> Kinds { get; set; } = [];

        public List<FleetEngine> Fleet { get; set; } = [];

        public List<FleetEntry> FleetEntries { get; set; } = [];

        public List<SchoolClass> Classes { get; set; } = [];

        public List<Bench> Benches { get; set; } = [];

        public List<Homework> Homework { get; set; } = [];

        public List<HomeworkTry> HomeworkTries { get; set; } = [];

        public List<Instrument> Instruments { get; set; } = [];

        public List<GaugeStudy> GaugeStudies { get; set; } = [];

        public List<LabelJob> LabelJobs { get; set; } = [];

        public List<LabelPrinter> Printers { get; set; } = [];

        public List<Person> People { get; set; } = [];

        public List<IdentityRole> Roles { get; set; } = [];

        public List<IdentityUserRole<string>> PeopleRoles { get; set; } = [];

        public List<IdentityUserPasskey<string>> Passkeys { get; set; } = [];

        public List<Change> Changes { get; set; } = [];

        public List<Seal> Seals { get; set; } = [];

        /// <summary>Without what is in them: that lies in files of its own, or is the original of a picture.</summary>
        public List<SealFile> SealFiles { get; set; } = [];

        /// <summary>Without their private halves: whoever finds a backup cannot seal in the name of the shop.</summary>
        public List<SealKey> SealKeys { get; set; } = [];

        /// <summary>By the id of a picture the SHA-256 of the file that it was made of.</summary>
        public Dictionary<Guid, string> Originals { get; set; } = [];

        /// <summary>Of recordings, those that are here.</summary>
        public Dictionary<Guid, string> SoundOriginals { get; set; } = [];
    }

    /// <summary>Writes a backup into a new folder below the given one, and reads it back.</summary>
    /// <param name="keep">So many of the newest stay below the folder; null keeps all.</param>
    /// <returns>The new folder.</returns>
    /// <exception cref="ProblemException">What was written cannot be read back as it was.</exception>
    public async Task<string> WriteAsync(string below, int? keep, CancellationToken cancel)
    {
        var at = db.Now();
        var folder = Path.Combine(below, $"{at:yyyyMMdd'T'HHmmssfff'Z'}");
        var partial = folder + Partial;
        // What an earlier one left that was broken off.
        foreach (var left in Directory.Exists(below) ? Directory.GetDirectories(below, "*" + Partial) : [])
        {
            Directory.Delete(left, recursive: true);
        }

        Directory.CreateDirectory(Path.Combine(partial, "cases"));
        Directory.CreateDirectory(Path.Combine(partial, "originals"));
        var files = new List<BackupFile>();
        await using (await db.Database.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel))
        {
            var shop = await ReadShopAsync(cancel);
            foreach (var id in await db.Cases.Select(c => c.Id).OrderBy(id => id).ToListAsync(cancel))
            {
                var file = new CaseFile
                {
                    Case = (await db.LoadAsync(id, cancel))!,
                    Changes = await db.Changes.AsNoTracking().Where(c => c.CaseId == id).OrderBy(c => c.At).ThenBy(c => c.Id).ToListAsync(cancel),
                };
                await WriteAsync(partial, $"cases/{id}.case.json", JsonSerializer.SerializeToUtf8Bytes(file, CaseFile.Json), files, cancel);
                told($"case {file.Case.Title}");
            }

            foreach (
                var sha256 in shop.Originals.Values.Concat(shop.SoundOriginals.Values).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)
            )
            {
                var data = await db.Originals.Where(o => o.Sha256 == sha256).Select(o => o.Data).SingleAsync(cancel);
                await WriteAsync(partial, $"originals/{sha256}", data, files, cancel);
            }

            told($"{shop.Originals.Count} pictures, {shop.SoundOriginals.Count} recordings");
            foreach (var file in shop.SealFiles.Where(f => f.Original is null))
            {
                var data = await db.SealFiles.Where(f => f.SealId == file.SealId && f.Order == file.Order).Select(f => f.Data!).SingleAsync(cancel);
                Directory.CreateDirectory(Path.Combine(partial, "seals", file.SealId.ToString()));
                await WriteAsync(partial, PathOf(file), data, files, cancel);
            }

            await WriteAsync(partial, ShopFile, JsonSerializer.SerializeToUtf8Bytes(shop, CaseFile.Json), files, cancel);
            // Passwords are in it as hashes: nobody else reads it.
            if (!OperatingSystem.IsWindows())
            {
                File.SetUnixFileMode(Path.Combine(partial, ShopFile), UnixFileMode.UserRead | UnixFileMode.UserWrite);
            }

            var manifest = new BackupManifest(FormatName, CurrentVersion, at, await CountsAsync(cancel), files);
            await File.WriteAllBytesAsync(Path.Combine(partial, Manifest), JsonSerializer.SerializeToUtf8Bytes(manifest, CaseFile.Json), cancel);
        }

        await VerifyAsync(partial, cancel);
        Directory.Move(partial, folder);
        told($"read back: {files.Count} files as they were written");
        foreach (var old in keep is { } most ? Whole(below).SkipLast(Math.Max(1, most)).ToArray() : [])
        {
            Directory.Delete(old, recursive: true);
            told($"let go of {Path.GetFileName(old)}");
        }

        return folder;
    }

    /// <summary>Reads every file of a backup and holds it against the manifest.</summary>
    /// <exception cref="ProblemException">A file is missing, is another, or cannot be read; each is named.</exception>
    public static async Task<BackupManifest> VerifyAsync(string folder, CancellationToken cancel)
    {
        var path = Path.Combine(folder, Manifest);
        var manifest = File.Exists(path)
            ? JsonSerializer.Deserialize<BackupManifest>(await File.ReadAllBytesAsync(path, cancel), CaseFile.Json)
            : null;
        if (manifest is not { Format: FormatName, Version: <= CurrentVersion })
        {
            throw new ProblemException(Problem.Of(Manifest, "command.no-backup", ("folder", folder)));
        }

        var problems = new List<Problem>();
        foreach (var file in manifest.Files)
        {
            var full = Path.Combine(folder, file.Path);
            if (!File.Exists(full) || Sha256(await File.ReadAllBytesAsync(full, cancel)) != file.Sha256)
            {
                problems.Add(Problem.Of(file.Path, "command.backup-file-differs", ("file", file.Path)));
            }
            else if (file.Path.EndsWith(".case.json", StringComparison.Ordinal))
            {
                CaseFile.AsItStands(await File.ReadAllBytesAsync(full, cancel));
            }
        }

        return problems.Count > 0 ? throw new ProblemException(problems) : manifest;
    }

    /// <summary>Puts a backup into an empty database, all or nothing, and counts what is there then.</summary>
    /// <exception cref="ProblemException">The backup is damaged, the database is not empty, or something is missing afterwards.</exception>
    public async Task RestoreAsync(string folder, CancellationToken cancel)
    {
        var manifest = await VerifyAsync(folder, cancel);
        if (await db.Cases.AnyAsync(cancel) || await db.Users.AnyAsync(cancel))
        {
            throw new ProblemException(Problem.Of("", "command.database-is-not-empty"));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.KeepStamps = true;
        var shop = JsonSerializer.Deserialize<ShopContent>(await File.ReadAllBytesAsync(Path.Combine(folder, ShopFile), cancel), CaseFile.Json)!;
        db.AddRange(shop.Settings);
        db.AddRange(shop.Lessons);
        db.AddRange(shop.Stock);
        db.AddRange(shop.Suppliers);
        db.AddRange(shop.Causes);
        db.AddRange(shop.Scripts);
        db.AddRange(shop.Kinds);
        db.AddRange(shop.Fleet);
        db.AddRange(shop.FleetEntries);
        db.AddRange(shop.Classes);
        db.AddRange(shop.Homework);
        db.AddRange(shop.HomeworkTries);
        db.AddRange(shop.Instruments);
        db.AddRange(shop.GaugeStudies);
        db.AddRange(shop.LabelJobs);
        db.AddRange(shop.Printers);
        db.AddRange(shop.Roles);
        db.AddRange(shop.People);
        await db.SaveChangesAsync(cancel);
        db.AddRange(shop.PeopleRoles);
        db.AddRange(shop.Passkeys);
        db.AddRange(shop.Changes);
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
        foreach (var path in manifest.Files.Select(f => f.Path).Where(p => p.StartsWith("cases/", StringComparison.Ordinal)))
        {
            var file = CaseFile.AsItStands(await File.ReadAllBytesAsync(Path.Combine(folder, path), cancel));
            db.Cases.Add(file.Case);
            db.Changes.AddRange(file.Changes);
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
            if (file.Changes is [.., var last])
            {
                await db
                    .States.Where(s => s.CaseId == file.Case.Id)
                    .ExecuteUpdateAsync(s => s.SetProperty(x => x.LastAt, last.At).SetProperty(x => x.LastBy, last.By), cancel);
            }

            foreach (var photo in file.Case.Photos.Where(p => shop.Originals.ContainsKey(p.Id)))
            {
                var data = await File.ReadAllBytesAsync(Path.Combine(folder, "originals", shop.Originals[photo.Id]), cancel);
                await db.StoreAsync(await PhotoIntake.TakeAsync(photo.Id, photo.FileName, data, cancel), cancel);
                await db.SaveChangesAsync(cancel);
                db.ChangeTracker.Clear();
            }

            foreach (var sound in file.Case.Sounds.Where(s => shop.SoundOriginals.ContainsKey(s.Id)))
            {
                var data = await File.ReadAllBytesAsync(Path.Combine(folder, "originals", sound.Sha256), cancel);
                await db.StoreOriginalAsync(data, cancel);
            }

            told($"case {file.Case.Title}");
        }

        db.AddRange(shop.SealKeys);
        db.AddRange(shop.Seals);
        db.AddRange(shop.Benches);
        await db.SaveChangesAsync(cancel);
        foreach (var file in shop.SealFiles)
        {
            file.Data = file.Original is null ? await File.ReadAllBytesAsync(Path.Combine(folder, PathOf(file)), cancel) : null;
            db.Add(file);
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
        }

        var counts = await CountsAsync(cancel);
        var missing = manifest.Counts.Where(c => counts.GetValueOrDefault(c.Key) != c.Value).ToArray();
        if (missing.Length > 0)
        {
            throw new ProblemException([
                .. missing.Select(m =>
                    Problem.Of(m.Key, "command.restored-count-differs", ("what", m.Key), ("is", counts.GetValueOrDefault(m.Key)), ("was", m.Value))
                ),
            ]);
        }

        await transaction.CommitAsync(cancel);
        told($"{counts.Values.Sum()} records, as many as were backed up");
    }

    /// <summary>Backups below a folder that were finished, the oldest first.</summary>
    private static IEnumerable<string> Whole(string below) =>
        Directory
            .GetDirectories(below)
            .Where(d => File.Exists(Path.Combine(d, Manifest)) && !d.EndsWith(Partial, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal);

    private async Task<ShopContent> ReadShopAsync(CancellationToken cancel) =>
        new()
        {
            Settings = await db.Settings.AsNoTracking().ToListAsync(cancel),
            Lessons = await db.Lessons.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Stock = await db.Stock.AsNoTracking().OrderBy(x => x.Number).ToListAsync(cancel),
            Suppliers = await db.Suppliers.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Causes = await db.Causes.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Scripts = await db.Scripts.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Kinds = await db.Kinds.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Fleet = await db.Fleet.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            FleetEntries = await db.FleetEntries.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Classes = await db.Classes.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Benches = await db.Benches.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Homework = await db.Homework.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            HomeworkTries = await db.HomeworkTries.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            Instruments = await db.Instruments.AsNoTracking().OrderBy(x => x.Name).ToListAsync(cancel),
            GaugeStudies = await db.GaugeStudies.AsNoTracking().OrderBy(x => x.Id).ToListAsync(cancel),
            LabelJobs = await db.LabelJobs.AsNoTracking().OrderBy(x => x.At).ToListAsync(cancel),
            Printers = await db.Printers.AsNoTracking().ToListAsync(cancel),
            People = await db.Users.AsNoTracking().OrderBy(x => x.UserName).ToListAsync(cancel),
            Roles = await db.Roles.AsNoTracking().OrderBy(x => x.Name).ToListAsync(cancel),
            PeopleRoles = await db.UserRoles.AsNoTracking().ToListAsync(cancel),
            Passkeys = await db.UserPasskeys.AsNoTracking().ToListAsync(cancel),
            Changes = await db.Changes.AsNoTracking().Where(c => c.CaseId == Guid.Empty).OrderBy(c => c.At).ThenBy(c => c.Id).ToListAsync(cancel),
            Seals = await db.Seals.AsNoTracking().OrderBy(s => s.Id).ToListAsync(cancel),
            SealFiles = await db
                .SealFiles.AsNoTracking()
                .OrderBy(f => f.SealId)
                .ThenBy(f => f.Order)
                .Select(f => new SealFile
                {
                    SealId = f.SealId,
                    Order = f.Order,
                    Path = f.Path,
                    Bytes = f.Bytes,
                    Original = f.Original,
                })
                .ToListAsync(cancel),
            SealKeys = await db
                .SealKeys.AsNoTracking()
                .OrderBy(k => k.At)
                .Select(k => new SealKey
                {
                    Fingerprint = k.Fingerprint,
                    PublicPem = k.PublicPem,
                    At = k.At,
                })
                .ToListAsync(cancel),
            Originals = await db.PhotoContents.AsNoTracking().ToDictionaryAsync(c => c.PhotoId, c => c.Sha256, cancel),
            SoundOriginals = await RecordingsAsync(cancel),
        };

    private Task<Dictionary<Guid, string>> RecordingsAsync(CancellationToken cancel) =>
        db.Set<Sound>()
            .Where(s => db.Originals.Any(o => o.Sha256 == s.Sha256))
            .Select(s => new { s.Id, s.Sha256 })
            .ToDictionaryAsync(s => s.Id, s => s.Sha256, cancel);

    /// <summary>Rows by kind, of all that a backup holds.</summary>
    private async Task<Dictionary<string, int>> CountsAsync(CancellationToken cancel) =>
        new()
        {
            ["cases"] = await db.Cases.CountAsync(cancel),
            ["findings"] = await db.Set<Finding>().CountAsync(cancel),
            ["readings"] = await db.Set<Reading>().CountAsync(cancel),
            ["photos"] = await db.Set<Photo>().CountAsync(cancel),
            ["pictures"] = await db.PhotoContents.CountAsync(cancel),
            ["recordings"] = (await RecordingsAsync(cancel)).Count,
            ["changes"] = await db.Changes.CountAsync(cancel),
            ["people"] = await db.Users.CountAsync(cancel),
            ["passkeys"] = await db.UserPasskeys.CountAsync(cancel),
            ["lessons"] = await db.Lessons.CountAsync(cancel),
            ["stock"] = await db.Stock.CountAsync(cancel),
            ["suppliers"] = await db.Suppliers.CountAsync(cancel),
            ["causes"] = await db.Causes.CountAsync(cancel),
            ["scripts"] = await db.Scripts.CountAsync(cancel),
            ["kinds"] = await db.Kinds.CountAsync(cancel),
            ["fleet"] = await db.Fleet.CountAsync(cancel),
            ["fleetEntries"] = await db.FleetEntries.CountAsync(cancel),
            ["classes"] = await db.Classes.CountAsync(cancel),
            ["benches"] = await db.Benches.CountAsync(cancel),
            ["homework"] = await db.Homework.CountAsync(cancel),
            ["homeworkTries"] = await db.HomeworkTries.CountAsync(cancel),
            ["instruments"] = await db.Instruments.CountAsync(cancel),
            ["seals"] = await db.Seals.CountAsync(cancel),
            ["sealFiles"] = await db.SealFiles.CountAsync(cancel),
            ["gaugeStudies"] = await db.GaugeStudies.CountAsync(cancel),
        };

    private static async Task WriteAsync(string folder, string path, byte[] data, List<BackupFile> files, CancellationToken cancel)
    {
        await File.WriteAllBytesAsync(Path.Combine(folder, path), data, cancel);
        files.Add(new BackupFile(path, data.Length, Sha256(data)));
    }

    /// <summary>Where what is in a file of a seal lies, below the folder of a backup.</summary>
    private static string PathOf(SealFile file) => $"seals/{file.SealId}/{file.Order}";

    private static string Sha256(byte[] data) => Convert.ToHexStringLower(SHA256.HashData(data));
}
