using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Store;
using VividSleuth.Words;

namespace VividSleuth.Server.Shop;

/// <summary>
/// The knowledge in use: what ships, or the folder that the program was started with (<c>--knowledge DIR</c>), with the shop's own causes and
/// strip scripts on top. A folder is read again when a file of it changes; one that does not lint is told and not used, and the last good one stays.
/// </summary>
public sealed class KnowledgeShelf
{
    private static readonly TimeSpan Glance = TimeSpan.FromSeconds(1);

    private readonly DirectoryInfo? _folder;
    private readonly Lock _lock = new();
    private KnowledgeBase _files = KnowledgeBase.BuiltIn;
    private IReadOnlyList<Problem> _fileProblems = [];
    private string _digest = DigestOf(KnowledgeBase.ShippedFiles());
    private string _seen = "";
    private readonly TimeProvider _time;
    private DateTimeOffset _looked = DateTimeOffset.MinValue;
    private volatile State _state = new(KnowledgeBase.BuiltIn, KnowledgeBase.BuiltIn, -1, [], "", "");

    public KnowledgeShelf(IConfiguration configuration, TimeProvider time)
    {
        _time = time;
        _folder = configuration["knowledge"] is { Length: > 0 } given ? new DirectoryInfo(given) : null;
        Look();
    }

    /// <summary>The knowledge with its names in a language.</summary>
    public KnowledgeBase Current(Language language) => _state.In(language);

    /// <summary>The knowledge with a mark that is another as soon as the files or the program are; the shop's causes are told apart by the revision
    /// of the shop.</summary>
    public (KnowledgeBase Knowledge, string Fingerprint) InUse(Language language)
    {
        var state = _state;
        return (state.In(language), $"{state.Fingerprint}{(language == Language.English ? "" : $"-{language}")}");
    }

    /// <summary>
    /// Version of the knowledge in use, the same wherever it is the same: of the files, and behind a plus sign of what the shop wrote of its own, where it did.
    /// </summary>
    public string Version => _state.Version;

    /// <summary>Why a folder or a cause of the shop is not used; empty when all is.</summary>
    public IReadOnlyList<Problem> Problems => [.. _fileProblems, .. _state.Left];

    /// <summary>Brings it up to date with the folder and with the causes in the database, also those that another instance wrote.</summary>
    /// <param name="revision">Of the shop, which grows with every change of a cause.</param>
    public async Task RefreshAsync(SleuthDb db, long revision, CancellationToken cancel)
    {
        Look();
        var state = _state;
        if (state.Revision == revision && state.Files == _files)
        {
            return;
        }

        var scripts = await db
            .Scripts.AsNoTracking()
            .Where(s => s.WithdrawnAt == null)
            .OrderBy(s => s.ScriptId)
            .Select(s => s.Script)
            .ToListAsync(cancel);
        var own = await db.Causes.AsNoTracking().Where(s => s.WithdrawnAt == null).OrderBy(s => s.CauseId).Select(s => s.Cause).ToListAsync(cancel);
        lock (_lock)
        {
            // A folder that changed may no longer know a sign that a cause of the shop speaks of: that cause waits, the others count.
            var left = own.Select(s => (Cause: s, Faults: OwnCauses.Check(s, _files).ToArray())).Where(x => x.Faults.Length > 0).ToArray();
            var unfit = scripts.Select(s => (Script: s, Faults: OwnScripts.Check(s, _files).ToArray())).Where(x => x.Faults.Length > 0).ToArray();
            var used = own.Where(s => left.All(l => l.Cause != s)).ToArray();
            var usedScripts = scripts.Where(s => unfit.All(u => u.Script != s)).ToArray();
            var whole = _files.With(used, usedScripts);
            _state = new State(
                _files,
                whole,
                revision,
                [
                    .. left.SelectMany(l =>
                        l.Faults.Select(f =>
                            f with
                            {
                                Field = $"{l.Cause.Id}.{f.Field}",
                                Text = Fact.Of("server.shops-cause-not-used", ("cause", l.Cause.Name), ("why", f.Text)),
                            }
                        )
                    ),
                    .. unfit.SelectMany(u =>
                        u.Faults.Select(f =>
                            f with
                            {
                                Field = $"{u.Script.Id}.{f.Field}",
                                Text = Fact.Of("server.shops-script-not-used", ("script", u.Script.Name), ("why", f.Text)),
                            }
                        )
                    ),
                ],
                FingerprintOf(_seen),
                own.Count + scripts.Count > 0
                    ? $"{_digest}+{Sha256(JsonSerializer.Serialize(own, CaseFile.Json) + JsonSerializer.Serialize(scripts, CaseFile.Json))}"
                    : _digest
            )
            {
                Own = used,
                OwnScripts = usedScripts,
            };
        }
    }

    private static string FingerprintOf(string files)
    {
        var program = $"{typeof(KnowledgeBase).Module.ModuleVersionId}{typeof(KnowledgeShelf).Module.ModuleVersionId}";
        return Sha256(program + files);
    }

    private static string DigestOf(IEnumerable<(string Name, string Text)> files) =>
        Sha256(string.Join('\0', files.Select(f => $"{f.Name}\0{f.Text}")));

    private static string Sha256(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];

    private void Look()
    {
        if (_folder is null || _time.GetUtcNow() - _looked < Glance)
        {
            return;
        }

        lock (_lock)
        {
            if (_time.GetUtcNow() - _looked < Glance)
            {
                return;
            }

            try
            {
                _folder.Refresh();
                var seen = string.Join(
                    '\n',
                    _folder
                        .EnumerateFiles("*.yaml", SearchOption.AllDirectories)
                        .Select(f => $"{f.FullName} {f.LastWriteTimeUtc.Ticks} {f.Length}")
                        .Order(StringComparer.Ordinal)
                );
                if (seen != _seen)
                {
                    _seen = seen;
                    var paths = Directory.GetFiles(_folder.FullName, "*.yaml", SearchOption.AllDirectories);
                    _files = CheckedKnowledge.Load(_folder.FullName, paths, File.ReadAllText);
                    _digest = DigestOf(KnowledgeBase.FilesOf(_folder.FullName, paths, File.ReadAllText));
                    _fileProblems = [];
                }
            }
            catch (ProblemException e)
            {
                _fileProblems = e.Problems;
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                _fileProblems = [Problem.Of(_folder.FullName, "server.folder-knowledge-cannot-read", ("message", e.Message))];
            }

            _looked = _time.GetUtcNow();
        }
    }

    /// <param name="Left">Why causes of the shop are left out.</param>
    private sealed record State(
        KnowledgeBase Files,
        KnowledgeBase Whole,
        long Revision,
        IReadOnlyList<Problem> Left,
        string Fingerprint,
        string Version
    )
    {
        private readonly ConcurrentDictionary<Language, Lazy<KnowledgeBase>> _in = new();

        public IReadOnlyList<KnownCause> Own { get; init; } = [];

        public IReadOnlyList<StripScript> OwnScripts { get; init; } = [];

        /// <summary>Read in another language when somebody first asks in it. What the shop wrote of its own stays in its words.</summary>
        public KnowledgeBase In(Language language) =>
            language == Language.English
                ? Whole
                : _in.GetOrAdd(language, _ => new Lazy<KnowledgeBase>(() => ReadIn(language).With(Own, OwnScripts))).Value;

        // The files are the same over most changes of the shop.
        private KnowledgeBase ReadIn(Language language) =>
            Read.GetValue(Files, _ => new ConcurrentDictionary<Language, KnowledgeBase>())
                .GetOrAdd(language, l => Files.In(Sentences.Of(l).Knowledge));

        private static readonly ConditionalWeakTable<KnowledgeBase, ConcurrentDictionary<Language, KnowledgeBase>> Read = [];
    }
}
