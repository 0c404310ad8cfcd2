using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Casebook;

/// <summary>A figure that was read in another case of the kind, as it came.</summary>
/// <param name="Value">In the base unit of the quantity.</param>
public sealed record KindReading(Guid Case, string Place, string Characteristic, double Value);

/// <summary>What a characteristic measured at sound places of other engines of the kind. No limit: these engines came to a bench.</summary>
/// <param name="Kind">Id of the kind of part.</param>
/// <param name="Engines">Cases it was read in.</param>
/// <param name="Places">Places of them all; each counts once, by the mean of its readings.</param>
/// <param name="Least">Of the places, in the base unit.</param>
public sealed record KindBackground(string Characteristic, string Kind, int Engines, int Places, double Least, double Median, double Most)
{
    /// <param name="sound">Whether somebody looked at a place of a case and saw nothing worse than slight damage.</param>
    /// <param name="table">Places of this engine; what the others have beyond it is left out.</param>
    public static IReadOnlyList<KindBackground> Of(IEnumerable<KindReading> readings, Func<Guid, string, bool> sound, AddressTable table) =>
        [
            .. readings
                .Where(r => sound(r.Case, r.Place))
                .GroupBy(r => (r.Case, r.Place, r.Characteristic))
                .Select(g => (g.Key.Case, g.Key.Characteristic, At: table.Find(g.Key.Place), Mean: g.Average(r => r.Value)))
                .Where(p => p.At is not null)
                .GroupBy(p => (p.Characteristic, Kind: p.At!.Kind.Id))
                .Select(g =>
                {
                    double[] means = [.. g.Select(p => p.Mean).Order()];
                    return new KindBackground(
                        g.Key.Characteristic,
                        g.Key.Kind,
                        g.Select(p => p.Case).Distinct().Count(),
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
