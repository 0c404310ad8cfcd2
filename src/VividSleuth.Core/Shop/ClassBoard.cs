using VividSleuth.Core.Casebook;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

/// <summary>What is counted of a bench’s work.</summary>
/// <param name="Share">Of the strip that is done, by the minutes its steps take; 0 to 1.</param>
/// <param name="Signed">Sections that are signed, of as many as end in a hold point.</param>
/// <param name="SentBack">How many times a section was sent back.</param>
public sealed record BenchMarks(
    double Share,
    int Steps,
    int StepsInAll,
    int Skipped,
    int Signed,
    int ToSign,
    int SentBack,
    int Findings,
    int Photos,
    int Readings,
    string Cause
);

/// <summary>How the case of a bench stands, as long as nobody writes in it.</summary>
/// <param name="At">Id of the section at which it stands: the first that is neither signed nor done; empty where all is.</param>
public sealed record BenchStanding(IReadOnlyList<SectionStanding> Sections, string At, BenchMarks Marks);

/// <summary>The board of a class: benches by sections.</summary>
public static class ClassBoard
{
    public static BenchStanding Of(CaseReader reader)
    {
        var book = reader.Book;
        var sections = HoldSections.Of(book);
        SectionStanding[] standing = [.. sections.Select(s => HoldSections.StandingOf(s, book))];
        double all = 0,
            done = 0;
        foreach (var step in sections.SelectMany(s => s.Steps))
        {
            var minutes = StripPlanner.MinutesOf(step, reader.Table.Engine);
            var of = book.StationsOf(step).Count;
            var stands = book.Standing(step.Id);
            all += minutes;
            done +=
                stands.State is not null ? minutes
                : of > 0 ? minutes * stands.Stations.Count / of
                : 0;
        }

        return new BenchStanding(
            standing,
            Array.Find(standing, s => s.State is not (SectionState.Signed or SectionState.Done))?.Id ?? "",
            new BenchMarks(
                all > 0 ? done / all : 0,
                standing.Sum(s => s.Done),
                standing.Sum(s => s.Steps),
                standing.Sum(s => s.Skipped.Count),
                standing.Count(s => s.State == SectionState.Signed),
                sections.Count(s => s.Hold is not null),
                standing.Sum(s => s.SentBack),
                reader.Case.Findings.Count(f => f.Stands()),
                reader.Case.Photos.Count(p => p.Stands()),
                reader.Case.Readings.Count(r => r.Stands()),
                reader.Case.Conclusions.Where(c => c.Stands()).MaxBy(c => (c.At, c.Id))?.Cause ?? ""
            )
        );
    }

    /// <summary>
    /// Since when a bench is stuck: it has work to do, and nobody entered anything for as long as the class says, while another bench did. After
    /// hours nobody is stuck.
    /// </summary>
    /// <param name="last">When each bench of the class was last written in; null where nothing was.</param>
    public static DateTimeOffset? StuckSince(
        BenchStanding bench,
        DateTimeOffset? own,
        IEnumerable<DateTimeOffset?> last,
        int after,
        DateTimeOffset now
    )
    {
        var at = bench.Sections.FirstOrDefault(s => s.Id == bench.At);
        var limit = now - TimeSpan.FromMinutes(after);
        return own is { } since && since < limit && at is not null and not { State: SectionState.Waiting } && last.Any(l => l >= limit)
            ? since
            : null;
    }
}
