using MathNet.Numerics.Statistics;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>The shape of a part measured at several stations or in several directions: out of round, taper, wear, and its profile.</summary>
internal static class Shapes
{
    private const string Diameter = "-diameter";

    /// <summary>How far from its nominal a size may be to be told as worn from it, mm. Common practice, no source.</summary>
    private const double NearNominal = 0.15;

    private static readonly IReadOnlyCollection<string> Nameless = [""];

    public static IEnumerable<Profile> Add(SheetDraft draft, Phase phase)
    {
        var profiles = new List<Profile>();
        foreach (var (place, id, _) in draft.Book.Measured.Where(k => k.Phase == phase).ToArray())
        {
            var entry = draft.Knowledge.Characteristic(id)!;
            var cells = draft.Book.Cells(place, id, phase);
            if (cells.Count < 2 || (entry.Directions.Count == 0 && entry.Stations.Count == 0) || entry.Quantity != Quantity.Length)
            {
                continue;
            }

            var at = draft.Table.Find(place)!;
            var stem = id.EndsWith(Diameter, StringComparison.Ordinal) ? id[..^Diameter.Length] : id;
            var round = OutOfRound(cells, entry);
            var taper = Taper(cells);
            var unworn = Unworn(draft, at, entry, cells, phase);
            if (round is { } r)
            {
                draft.Add(at, $"{stem}-out-of-round", phase, r.Value, r.From);
            }

            if (taper is { } t)
            {
                draft.Add(at, $"{stem}-taper", phase, t.Value, t.From);
            }

            if (unworn is { } u)
            {
                var (wear, from) = Wear(at, cells, u);
                draft.Add(at, $"{stem}-wear", phase, wear, from);
            }

            if (cells.Any(c => c.Station.Length > 0 || c.Direction.Length > 0))
            {
                var stations = entry.Stations.Count > 0 ? entry.Stations : Nameless;
                var directions = entry.Directions.Count > 0 ? entry.Directions.Keys : Nameless;
                double? Value(string station, string direction) =>
                    cells.FirstOrDefault(c => c.Station == station && c.Direction == direction)?.At.Value;
                profiles.Add(
                    new Profile(
                        place,
                        id,
                        phase,
                        [.. stations],
                        [.. entry.Directions.Values],
                        [.. stations.Select(s => (IReadOnlyList<double?>)[.. directions.Select(d => Value(s, d))])],
                        taper?.Value.Value,
                        round?.Value.Value,
                        round?.Toward,
                        unworn?.Size.Value
                    )
                    {
                        LeastAt = cells.MinBy(c => c.At.Value)!.At,
                        MostAt = cells.MaxBy(c => c.At.Value)!.At,
                        UnwornAt = unworn?.Size,
                    }
                );
            }
        }

        return profiles;
    }

    /// <summary>Least round station: greatest less least of its directions. The instrument's own error cancels in the difference.</summary>
    private static (Estimate Value, Fact From, double? Toward)? OutOfRound(IReadOnlyList<Cell> cells, KnownCharacteristic entry)
    {
        if (entry.Directions.Count < 2)
        {
            return null;
        }

        (Estimate Value, Fact From, double? Toward)? worst = null;
        foreach (var station in cells.GroupBy(c => c.Station, StringComparer.Ordinal).Where(g => g.Count() > 1))
        {
            var most = station.MaxBy(c => c.At.Value)!;
            // Of equal ones two different are taken: their uncertainty is that of two readings.
            var least = station.Where(c => c != most).MinBy(c => c.At.Value)!;
            var known = station.All(c => entry.Directions.ContainsKey(c.Direction));
            var value = most.At - least.At;
            double? toward = null;
            if (known && value.Value > 0)
            {
                // The ellipse tells only which way: a lobed bore is out of round by more than it.
                toward = FittedEllipse.Through([.. station.Select(c => (entry.Directions[c.Direction], c.At.Value))]).Direction;
            }

            if (worst is null || value.Value > worst.Value.Value.Value)
            {
                var from = Fact.Of(
                    "gauge.out-of-round",
                    ("most", Amount.Length(most.At.Value)),
                    ("least", Amount.Length(least.At.Value)),
                    ("station", station.Key),
                    ("toward", toward is { } d ? new Number(d) : null)
                );
                worst = (value, from, toward);
            }
        }

        return worst;
    }

    private static (Estimate Value, Fact From)? Taper(IReadOnlyList<Cell> cells)
    {
        (Estimate Value, Fact From)? worst = null;
        foreach (var line in cells.Where(c => c.Station.Length > 0).GroupBy(c => c.Direction, StringComparer.Ordinal).Where(g => g.Count() > 1))
        {
            var most = line.MaxBy(c => c.At.Value)!;
            var least = line.Where(c => c != most).MinBy(c => c.At.Value)!;
            var value = most.At - least.At;
            if (worst is null || value.Value > worst.Value.Value.Value)
            {
                var from = Fact.Of(
                    "gauge.taper",
                    ("most", Amount.Length(most.At.Value)),
                    ("mostAt", most.Station),
                    ("least", Amount.Length(least.At.Value)),
                    ("leastAt", least.Station)
                );
                worst = (value, from);
            }
        }

        return worst;
    }

    private static (Estimate Value, Fact From) Wear(Address at, IReadOnlyList<Cell> cells, (Estimate Size, Fact Told) unworn)
    {
        var grows = at.Kind.Id is PartKinds.Bore;
        var worst = grows ? cells.MaxBy(c => c.At.Value)! : cells.MinBy(c => c.At.Value)!;
        var from = Fact.Of(
            "gauge.wear",
            ("worst", Amount.Length(worst.At.Value)),
            ("station", worst.Station),
            ("direction", worst.Direction),
            ("unworn", Amount.Length(unworn.Size.Value)),
            ("told", unworn.Told)
        );
        return (grows ? worst.At - unworn.Size : unworn.Size - worst.At, from);
    }

    /// <summary>
    /// Size of the part before it wore: where nothing runs on it (a bore below the rings, a journal beside the fillet), else what the manual gives as new at
    /// standard grade, where the size found is near it.
    /// </summary>
    private static (Estimate Size, Fact Told)? Unworn(SheetDraft draft, Address at, KnownCharacteristic entry, IReadOnlyList<Cell> cells, Phase phase)
    {
        if (entry.UnwornAt.Length > 0 && cells.Where(c => c.Station == entry.UnwornAt).ToArray() is { Length: > 0 } below)
        {
            return (below.MinBy(c => c.At.Value)!.At, Fact.Text(entry.UnwornAt));
        }

        if (draft.Book.Whole(at.Code, Characteristics.UnwornAtFillet, phase) is { } fillet)
        {
            return (fillet, Fact.Of("gauge.unworn-beside-the-fillet"));
        }

        return
            draft.Limits.Nominal(entry.Id, at.Kind.Id) is { } nominal
            && Math.Abs((double)nominal - cells.Select(c => c.At.Value).Mean()) < NearNominal
            ? (Estimate.Exact((double)nominal), Fact.Of("gauge.unworn-by-the-manual"))
            : null;
    }
}
