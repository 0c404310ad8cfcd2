using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>What would decide a figure that lies too near its limit.</summary>
public static class Deciding
{
    private const int MostRepeats = 10;

    /// <summary>
    /// Looks for what brings the expanded uncertainty below the distance to the nearer limit: more repeats, a better instrument of the shop,
    /// or a thermometer; names what most of the uncertainty comes from.
    /// </summary>
    /// <param name="cells">Cells the figure was read from; null where it was worked out.</param>
    public static Fact Of(
        Estimate value,
        AppliedLimit limit,
        KnownCharacteristic entry,
        IReadOnlyList<Cell>? cells,
        IReadOnlyList<Instrument> instruments,
        ReadingBook book
    )
    {
        var distance = Math.Min(Far(value.Value, limit.ServiceLeast), Far(value.Value, limit.ServiceMost));
        var biggest = value.Influences.MaxBy(i => Math.Abs(i.Standard));
        Amount Told(double size) => new(size, entry.Quantity, 4);
        var most = biggest?.Name;
        if (cells is null || cells.Count == 0)
        {
            return Fact.Of("gauge.too-near-its-limit", ("distance", Told(distance)), ("uncertainty", Told(value.Expanded)), ("most", most));
        }

        // More readings bring the scatter down; the step of the scale stays, as far as the scatter no longer covers it.
        bool IsScatter(Influence i) => i.Key.StartsWith("scatter/", StringComparison.Ordinal);
        bool IsStep(Influence i) => i.Key.StartsWith("step/", StringComparison.Ordinal);
        var used = book.InstrumentOf(cells[0].Readings[^1]);
        var falling = Uncertainty.Combine(value.Influences.Where(IsScatter).Select(i => i.Standard));
        var staying = Uncertainty.Combine(value.Influences.Where(i => !IsScatter(i) && !IsStep(i)).Select(i => i.Standard));
        var now = cells.Min(c => c.Readings.Count);
        if (2 * staying < distance)
        {
            for (var n = now + 1; n <= MostRepeats; n++)
            {
                var ofMean = falling * Math.Sqrt((double)now / n);
                if (2 * Uncertainty.Combine([staying, ofMean, Uncertainty.OfStep((double)used.Resolution, ofMean)]) < distance)
                {
                    return Fact.Of("gauge.more-readings-would-decide", ("readings", n), ("now", now), ("most", most));
                }
            }
        }

        var rest = Uncertainty.Combine(
            value.Influences.Where(i => !IsScatter(i) && !IsStep(i) && !i.Key.StartsWith("error/", StringComparison.Ordinal)).Select(i => i.Standard)
        );
        var better = instruments
            .Where(i =>
                i.WithdrawnAt is null && i.Quantity == entry.Quantity && i.Name != used.Name && (entry.By.Count == 0 || entry.By.Contains(i.Kind))
            )
            .Select(i => (Instrument: i, U: 2 * Uncertainty.Combine([rest, Uncertainty.OfReading((double)i.Resolution, (double)i.PermissibleError)])))
            .Where(x => x.U < distance)
            .OrderBy(x => x.U)
            .FirstOrDefault();
        if (better.Instrument is { } found)
        {
            return Fact.Of(
                "gauge.instrument-would-decide",
                ("instrument", found.Name),
                ("uncertainty", Told(better.U)),
                ("distance", Told(distance)),
                ("most", most)
            );
        }

        return biggest?.Key is "room" || biggest?.Key.StartsWith("thermometer", StringComparison.Ordinal) == true
            ? Fact.Of("gauge.temperature-would-decide", ("most", most))
            : Fact.Of("gauge.no-instrument-would-decide", ("distance", Told(distance)), ("most", most));
    }

    private static double Far(double value, double? limit) => limit is { } l ? Math.Abs(value - l) : double.PositiveInfinity;
}
