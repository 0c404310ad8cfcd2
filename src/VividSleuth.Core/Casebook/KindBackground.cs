using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Casebook;

/// <summary>What a characteristic measured at sound places of other engines of the kind. No limit: these engines came to a bench.</summary>
/// <param name="Kind">Id of the kind of part.</param>
/// <param name="Engines">Cases it was read in.</param>
/// <param name="Places">Places of them all; each counts once, by the mean of its readings.</param>
/// <param name="Least">Of the places, in the base unit.</param>
public sealed record KindBackground(string Characteristic, string Kind, int Engines, int Places, double Least, double Median, double Most)
{
    /// <summary>
    /// What a case measured as it came at places that somebody looked at and saw nothing worse than slight damage: by characteristic and kind of part
    /// (“crankpin-diameter@crankpin”) the mean of each place, in the base unit.
    /// </summary>
    public static IReadOnlyDictionary<string, double[]> FiguresOf(EngineCase of, AddressTable table)
    {
        var sound = of
            .Findings.Where(f => f.Stands() && f.DoneBy == DoneBy.Running)
            .GroupBy(f => f.Place, StringComparer.Ordinal)
            .Where(g => g.Max(f => f.Seen == Seen.Present ? f.Level : 0) < FindingRules.Moderate)
            .Select(g => g.Key)
            .ToHashSet(StringComparer.Ordinal);
        var corrected = of.Readings.Where(r => r.Stands() && r.Corrects is not null).Select(r => r.Corrects!.Value).ToHashSet();
        return of
            .Readings.Where(r => r.Stands() && r.Phase == Phase.AsFound && sound.Contains(r.Place) && !corrected.Contains(r.Id))
            .GroupBy(r => (r.Place, r.Characteristic))
            .Select(g => (g.Key.Characteristic, At: table.Find(g.Key.Place), Mean: g.Average(r => (double)r.Value)))
            .Where(p => p.At is not null)
            .GroupBy(p => $"{p.Characteristic}@{p.At!.Kind.Id}", StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Select(p => p.Mean).Order().ToArray(), StringComparer.Ordinal);
    }

    /// <param name="cases">Of each other case of the kind its <see cref="FiguresOf"/>.</param>
    public static IReadOnlyList<KindBackground> Of(IReadOnlyList<IReadOnlyDictionary<string, double[]>> cases) =>
        [
            .. cases
                .SelectMany(c => c)
                .GroupBy(f => f.Key, f => f.Value, StringComparer.Ordinal)
                .Select(g =>
                {
                    double[] means = [.. g.SelectMany(m => m).Order()];
                    var at = g.Key.IndexOf('@', StringComparison.Ordinal);
                    return new KindBackground(
                        g.Key[..at],
                        g.Key[(at + 1)..],
                        g.Count(),
                        means.Length,
                        means[0],
                        (means[(means.Length - 1) / 2] + means[means.Length / 2]) / 2,
                        means[^1]
                    );
                })
                .OrderBy(b => b.Characteristic, StringComparer.Ordinal)
                .ThenBy(b => b.Kind, StringComparer.Ordinal),
        ];
}
