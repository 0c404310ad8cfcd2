using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// The cases and the shop as they stand for one request. What it says of a case is of one revision: the stamp is read once, and the case itself
/// only where no request before has opened that revision.
/// </summary>
public sealed class CaseDesk(SleuthDb db, KnowledgeShelf shelf, CaseShelf cases, TimeProvider time, IHttpContextAccessor asker)
{
    private long? _shop;
    private Guid _stamped;
    private CaseStamp? _stamp;

    /// <summary>Reads the stamps of shop and case, and brings the knowledge up to date with them. Before the endpoint of a request.</summary>
    /// <returns>False where there is no such case.</returns>
    public async Task<bool> BeginAsync(Guid? caseId, CancellationToken cancel)
    {
        (_shop, _stamp) = await db.StampAsync(caseId, cancel);
        _stamped = caseId ?? Guid.Empty;
        await shelf.RefreshAsync(db, _shop.Value, cancel);
        return caseId is null || _stamp is not null;
    }

    /// <summary>The case as it stands.</summary>
    /// <exception cref="NotHereException">There is no such case.</exception>
    public async Task<CaseReader> OpenAsync(Guid caseId, CancellationToken cancel) =>
        await OpenAsync(caseId, await StampAsync(caseId, cancel), cancel);

    /// <summary>
    /// What kind of engine it is and how it is laid out, for what asks of others like it: of a case that nobody has open its records are not read.
    /// </summary>
    /// <exception cref="NotHereException">There is no such case.</exception>
    public async Task<EngineCase> HeadAsync(Guid caseId, CancellationToken cancel) =>
        cases.Known((caseId, Language), Tag(await StampAsync(caseId, cancel)))?.Case
        ?? await db.Cases.AsNoTracking().Include(c => c.Candidates).SingleOrDefaultAsync(c => c.Id == caseId, cancel)
        ?? throw new NotHereException("case");

    /// <summary>What it shows, as it is kept beside it where that is of the present revision.</summary>
    /// <exception cref="NotHereException">There is no such case.</exception>
    public async Task<CaseSigns> SignsAsync(Guid caseId, CancellationToken cancel)
    {
        var stamp = await StampAsync(caseId, cancel);
        var kept = cases.Known((caseId, Language), Tag(stamp)) is null
            ? await db
                .CaseIndex.AsNoTracking()
                .Where(i => i.CaseId == caseId && i.Revision == stamp.Revision)
                .Select(i => new { i.Present, i.LookedFor })
                .SingleOrDefaultAsync(cancel)
            : null;
        if (kept is not null)
        {
            return CaseIndexing.Signs((caseId, kept.Present, kept.LookedFor));
        }

        var reader = await OpenAsync(caseId, stamp, cancel);
        return CaseSigns.Of(reader.Case, reader.Table);
    }

    /// <summary>The case under its lock, until the transaction ends: what a rule says of it still holds when the record is written.</summary>
    public async Task<CaseReader> OpenLockedAsync(Guid caseId, CancellationToken cancel)
    {
        (_stamped, _stamp) = (caseId, await db.LockAsync(caseId, cancel));
        return await OpenAsync(caseId, _stamp, cancel);
    }

    /// <summary>Under what name an answer of the case is kept: another one as soon as anything is another that it was worked out of.</summary>
    public async Task<string> TagAsync(Guid caseId, CancellationToken cancel) => Tag(await StampAsync(caseId, cancel));

    public long? Revision => _stamp?.Revision;

    /// <summary>
    /// After a record was written: the case is that of before with this one in it, where that was open and nobody wrote in between. The next request
    /// needs not read it again.
    /// </summary>
    public void Wrote(CaseRecord record)
    {
        if (db.Raised is not { } revision || _stamped != record.CaseId || _stamp is null)
        {
            return;
        }

        var before = cases.Known((record.CaseId, Language), Tag(_stamp with { Revision = revision - 1 }));
        _stamp = _stamp with { Revision = revision };
        if (before?.Case.With(record) is { } after)
        {
            cases.Put(
                (record.CaseId, Language),
                Tag(_stamp),
                new CaseReader(after, before.Knowledge, before.Instruments, Today, before.Schools, before.Supplies)
            );
        }
    }

    /// <summary>Settings and instruments of the shop.</summary>
    public async Task<ShopNow> ShopAsync(CancellationToken cancel)
    {
        _shop ??= (await db.StampAsync(null, cancel)).Shop;
        return await cases.ShopAsync(db, _shop.Value, cancel);
    }

    public DateOnly Today => DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime);

    private async Task<CaseStamp> StampAsync(Guid caseId, CancellationToken cancel)
    {
        if (_stamped != caseId || _stamp is null)
        {
            (_shop, _stamp) = await db.StampAsync(caseId, cancel);
            _stamped = caseId;
        }

        var stamp = _stamp ?? throw new NotHereException("case");
        // An address that is read now means what it means now: what is written with it is refused should the numbering change before. Whoever knows an
        // older one is refused when it comes to writing, and not here: what he sends again may have been written while the old one held.
        db.KnownNumbering ??= stamp.Numbering;
        db.KnowsOldNumbering |= db.KnownNumbering != stamp.Numbering;
        return stamp;
    }

    /// <summary>A pattern that is met by what was typed as it stands, escaped by an exclamation mark.</summary>
    internal static string AsTyped(string text) =>
        text.Replace("!", "!!", StringComparison.Ordinal).Replace("%", "!%", StringComparison.Ordinal).Replace("_", "!_", StringComparison.Ordinal);

    /// <summary>Lists of sizes that stand at other engines of the kind, the newest of each kind of part first.</summary>
    public async Task<IReadOnlyList<Verdict.SizesElsewhere>> SizesElsewhereAsync(Guid caseId, CancellationToken cancel)
    {
        var of = (await OpenAsync(caseId, cancel)).Case;
        var rows = await (
            from c in db.Cases.OfTheKind(of)
            join s in db.Set<ServiceSizes>().AsNoTracking() on c.Id equals s.CaseId
            where s.WithdrawnAt == null
            orderby s.At descending
            select new
            {
                c.Id,
                c.Title,
                Sizes = s,
            }
        )
            .Take(20)
            .ToListAsync(cancel);
        return [.. rows.DistinctBy(r => r.Sizes.Kind).Select(r => new Verdict.SizesElsewhere(r.Id, r.Title, r.Sizes))];
    }

    /// <summary>Unit in which lengths of the engine are told; null takes the shop's.</summary>
    public LengthUnit? Lengths => _stamp?.Lengths;

    private Language Language => asker.HttpContext.Sentences().Language;

    private string Tag(CaseStamp stamp) => $"{stamp.Revision}-{_shop}-{shelf.InUse(Language).Fingerprint}-{Today:yyyyMMdd}";

    private async Task<CaseReader> OpenAsync(Guid caseId, CaseStamp stamp, CancellationToken cancel)
    {
        var shop = await ShopAsync(cancel);
        return await cases.ReaderAsync(
            (caseId, Language),
            Tag(stamp),
            async () =>
            {
                // Read after its stamp: it can be newer than that says, never older.
                var engineCase = await db.LoadAsync(caseId, cancel) ?? throw new NotHereException("case");
                return new CaseReader(engineCase, shelf.InUse(Language).Knowledge, shop.Instruments, Today, shop.Settings.Schools, shop.Supplies);
            }
        );
    }
}

/// <summary>Settings and instruments of one revision of the shop, and what it orders with.</summary>
public sealed record ShopNow(long Revision, ShopSettings Settings, IReadOnlyList<Instrument> Instruments, Supplies Supplies);

/// <summary>
/// Cases that were opened lately, each in its newest revision, with what was worked out of it, and the shop as it stands. Shared by all requests:
/// nobody changes what lies here.
/// </summary>
public sealed class CaseShelf
{
    /// <summary>So many opened cases are kept, those used last; a large one is a few megabytes.</summary>
    private const int Most = 40;

    private readonly Lock _lock = new();
    private readonly LinkedList<Opened> _byUse = [];
    private readonly Dictionary<(Guid, Language), LinkedListNode<Opened>> _byCase = [];
    private readonly ConcurrentDictionary<string, Task<CaseReader>> _opening = new(StringComparer.Ordinal);
    private volatile ShopNow? _shop;

    /// <param name="of">Which case, with its names in which language.</param>
    /// <param name="key">Names the revision, and all else that the answers are worked out of.</param>
    public async Task<CaseReader> ReaderAsync((Guid Case, Language Told) of, string key, Func<Task<CaseReader>> open)
    {
        if (Known(of, key) is { } known)
        {
            return known;
        }

        // Record and answers are asked for at once: the second waits for the first to have opened the case.
        var mine = new TaskCompletionSource<CaseReader>(TaskCreationOptions.RunContinuationsAsynchronously);
        var first = _opening.GetOrAdd($"{of.Case}-{key}", mine.Task);
        if (first != mine.Task)
        {
            // Should the first have been called off, this one opens it itself.
            await first.ContinueWith(_ => { }, TaskScheduler.Default);
            return first.IsCompletedSuccessfully ? await first : await open();
        }

        try
        {
            var opened = await open();
            Put(of, key, opened);
            mine.SetResult(opened);
            return opened;
        }
        catch
        {
            mine.SetCanceled();
            throw;
        }
        finally
        {
            _opening.TryRemove($"{of.Case}-{key}", out _);
        }
    }

    public void Put((Guid Case, Language Told) of, string key, CaseReader reader)
    {
        lock (_lock)
        {
            if (_byCase.Remove(of, out var before))
            {
                _byUse.Remove(before);
            }

            _byCase[of] = _byUse.AddFirst(new Opened(of, key, reader));
            if (_byUse.Count > Most)
            {
                _byCase.Remove(_byUse.Last!.Value.Of);
                _byUse.RemoveLast();
            }
        }
    }

    public CaseReader? Known((Guid Case, Language Told) of, string key)
    {
        lock (_lock)
        {
            if (!_byCase.TryGetValue(of, out var node) || node.Value.Key != key)
            {
                return null;
            }

            _byUse.Remove(node);
            _byUse.AddFirst(node);
            return node.Value.Reader;
        }
    }

    public async Task<ShopNow> ShopAsync(SleuthDb db, long revision, CancellationToken cancel)
    {
        if (_shop is { } known && known.Revision == revision)
        {
            return known;
        }

        // Read after its stamp: it can be newer than the stamp says, never older, and is then read once more.
        var settings = await db.SettingsAsync(cancel);
        return _shop = new ShopNow(revision, settings, await db.InstrumentsAsync(cancel), await db.SuppliesAsync(settings, cancel));
    }

    private sealed record Opened((Guid, Language) Of, string Key, CaseReader Reader);
}
