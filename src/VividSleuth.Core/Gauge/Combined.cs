using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Sums such as a clearance of parts that are not together: this shaft in that housing with those shells. By the same ways as the sheet, of the engine's
/// own parts and of those that are offered.
/// </summary>
public sealed class Combined
{
    private readonly ReadingBook _book;
    private readonly KnowledgeBase _knowledge;

    /// <param name="log">Readings of the engine and of all its candidates.</param>
    public Combined(GaugeLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<Instrument> instruments, Schools schools)
    {
        _book = new ReadingBook(log, table, knowledge, instruments, schools);
        _knowledge = knowledge;
        Limits = new LimitBook(log.Limits, knowledge, schools, table.Engine.Layout);
        Sizes = new SizeBook(knowledge, log.Sizes, schools.Steps);
    }

    public LimitBook Limits { get; }

    public SizeBook Sizes { get; }

    /// <summary>Size of a part as it is now: after work where it was worked on, else as it was found. Null where nobody measured it.</summary>
    public Estimate? Size(string place, string characteristic, Take take = Take.Mean, string station = "") =>
        Phase.AfterRun.Back().Select(p => _book.Whole(place, characteristic, p, take, station)).FirstOrDefault(e => e is not null);

    /// <summary>
    /// The sum of parts put together. Ways that were read on the assembled engine, such as a plastic strip, say nothing of another assembly and are
    /// left out; of the others the first whose figures are all there counts.
    /// </summary>
    /// <param name="at">Address of the part of a kind; null where this assembly has none.</param>
    /// <param name="instead">A size that stands for a part that is not there yet, by characteristic and kind; null where there is none.</param>
    public Estimate? Sum(string characteristic, Func<string, string?> at, Func<string, string, Estimate?>? instead = null)
    {
        foreach (var way in _knowledge.Characteristic(characteristic)?.Ways ?? [])
        {
            if (way.Count < 2)
            {
                continue;
            }

            var terms = way.Select(t =>
                    (t.Times, Size: instead?.Invoke(t.Of, t.On[0]) ?? (at(t.On[0]) is { } place ? Size(place, t.Of, t.Take, t.Station) : null))
                )
                .ToArray();
            if (Array.TrueForAll(terms, t => t.Size is not null))
            {
                return Estimate.Sum([.. terms.Select(t => (t.Times, t.Size!))]);
            }
        }

        return null;
    }
}
