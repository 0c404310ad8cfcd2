using MathNet.Numerics.Statistics;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>What was read at one point of a part: repeats of one level and direction together.</summary>
/// <param name="Station">Level or station; empty where nobody said.</param>
/// <param name="Direction">Direction; empty where nobody said.</param>
public sealed record Cell(string Station, string Direction, Estimate At, IReadOnlyList<Reading> Readings);

/// <summary>
/// Turns active readings into estimates at 20 °C with their uncertainty after the GUM: scatter of repeats, step of the scale, permissible error,
/// and temperature of part and instrument.
/// </summary>
public sealed class ReadingBook
{
    /// <summary>How well a part's or an instrument's temperature is known where it was written down, ± K. Common practice, no source.</summary>
    private const double NotedTemperature = 1;

    /// <summary>How well an expansion is known, as a share of it. From memory.</summary>
    private const double ExpansionUncertainty = 0.05;

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly Schools _schools;
    private readonly Dictionary<string, Instrument> _instruments;
    private readonly Dictionary<(string Place, string Characteristic, Phase Phase), Cell[]> _cells = [];
    private readonly Dictionary<(string Place, string Characteristic, Phase Phase, Take Take, string Station), Estimate?> _wholes = [];
    private readonly Dictionary<(string Characteristic, string Instrument), (double Deviation, double Freedom)> _scatter = [];

    public ReadingBook(GaugeLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<Instrument> instruments, Schools schools)
    {
        _table = table;
        _knowledge = knowledge;
        _schools = schools;
        _instruments = instruments
            .GroupBy(i => i.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);
        var points = log.Active()
            .GroupBy(r => (r.Place, r.Characteristic, r.Phase))
            .Where(g => knowledge.Characteristic(g.Key.Characteristic) is not null && table.Find(g.Key.Place) is not null)
            .Select(g => (g.Key, Points: Points(knowledge.Characteristic(g.Key.Characteristic)!, [.. g])))
            .ToArray();
        Pool(points.SelectMany(s => s.Points));
        foreach (var (key, of) in points)
        {
            _cells[key] = [.. of.Select(point => new Cell(point[0].Station, point[0].Direction, Estimated(point), point))];
        }
    }

    public IEnumerable<(string Place, string Characteristic, Phase Phase)> Measured => _cells.Keys;

    public IReadOnlyList<Cell> Cells(string place, string characteristic, Phase phase) =>
        _cells.GetValueOrDefault((place, characteristic, phase)) ?? [];

    /// <summary>The figure of a part, of its cells: their mean, or the one that is least or greatest.</summary>
    /// <param name="station">Only the cells at this station; empty is all.</param>
    public Estimate? Whole(string place, string characteristic, Phase phase, Take take = Take.Mean, string station = "")
    {
        if (!_cells.ContainsKey((place, characteristic, phase)))
        {
            return null;
        }

        var key = (place, characteristic, phase, take, station);
        return _wholes.TryGetValue(key, out var known) ? known : _wholes[key] = Whole(Cells(place, characteristic, phase), take, station);
    }

    private static Estimate? Whole(IReadOnlyList<Cell> cells, Take take, string station)
    {
        if (station.Length > 0)
        {
            cells = [.. cells.Where(c => c.Station == station)];
        }

        return cells.Count == 0
            ? null
            : take switch
            {
                Take.Mean => Estimate.Mean([.. cells.Select(c => c.At)]),
                Take.Least => cells.MinBy(c => c.At.Value)!.At,
                Take.Greatest => cells.MaxBy(c => c.At.Value)!.At,
                _ => throw new ArgumentOutOfRangeException(nameof(take)),
            };
    }

    /// <summary>
    /// The instrument of a reading; an ordinary one of its kind where none was noted, or one that cannot have read it: a blow-by in inches of water
    /// has not the error of the compression gauge.
    /// </summary>
    public Instrument InstrumentOf(Reading reading)
    {
        var entry = _knowledge.Characteristic(reading.Characteristic)!;
        return _instruments.GetValueOrDefault(reading.Instrument) is { } named && OrdinaryInstruments.CanRead(named, entry)
            ? named
            : OrdinaryInstruments.For(entry);
    }

    /// <summary>Readings whose noted instrument cannot have read them.</summary>
    public IEnumerable<Reading> Misnamed =>
        _cells
            .Values.SelectMany(c => c)
            .SelectMany(c => c.Readings)
            .Where(r =>
                _instruments.GetValueOrDefault(r.Instrument) is { } named
                && !OrdinaryInstruments.CanRead(named, _knowledge.Characteristic(r.Characteristic)!)
            );

    /// <summary>
    /// Repeats are readings of one level and one direction. Where a characteristic has levels or directions and the reading does not say
    /// which, it stands alone: what differs between directions is no scatter.
    /// </summary>
    private static IReadOnlyList<Reading[]> Points(KnownCharacteristic entry, Reading[] readings) =>
        [
            .. readings
                .Select((r, n) => (Reading: r, N: n))
                .GroupBy(r =>
                    (
                        r.Reading.Station,
                        r.Reading.Direction,
                        Alone: (entry.Stations.Count > 0 && r.Reading.Station.Length == 0)
                        || (entry.Directions.Count > 0 && r.Reading.Direction.Length == 0)
                            ? r.N
                            : -1
                    )
                )
                .Select(g => g.Select(r => r.Reading).ToArray()),
        ];

    /// <summary>By what it was read: the name of an instrument, or a picture.</summary>
    private static string Method(Reading reading) => reading.Picture is null ? reading.Instrument : "picture";

    /// <summary>Scatter of an instrument on one characteristic, from all repeats in the case. Source: GUM 4.2.4, note (pooled estimate).</summary>
    private void Pool(IEnumerable<Reading[]> points)
    {
        // What a picture and an instrument gave of one point is no repeat.
        var repeats = points.SelectMany(p => p.GroupBy(r => r.Picture is null)).Select(g => g.ToArray()).Where(s => s.Length > 1);
        foreach (var group in repeats.GroupBy(s => (s[0].Characteristic, Method(s[0]))))
        {
            double squares = 0,
                freedom = 0;
            foreach (var point in group)
            {
                var s = point.Select(r => (double)r.Value).StandardDeviation();
                squares += (point.Length - 1) * s * s;
                freedom += point.Length - 1;
            }

            _scatter[group.Key] = (Math.Sqrt(squares / freedom), freedom);
        }
    }

    private Estimate Estimated(Reading[] point)
    {
        // What a picture gave and what an instrument gave of one point are put together by how sure each is.
        if (point.Any(r => r.Picture is not null) && point.Any(r => r.Picture is null))
        {
            return Estimate.Together(Estimated([.. point.Where(r => r.Picture is null)]), Estimated([.. point.Where(r => r.Picture is not null)]));
        }

        var first = point[0];
        var instrument = InstrumentOf(point[^1]);
        var entry = _knowledge.Characteristic(first.Characteristic)!;
        var n = point.Length;
        var here = $"{first.Place}/{first.Characteristic}/{first.Station}/{first.Direction}/{first.Phase}/{first.Id}";
        var influences = new List<Influence>(6);
        var ofMean = 0.0;
        var studied = instrument.Studied.Find(s => s.Characteristic == first.Characteristic);
        var scatter = _scatter.GetValueOrDefault((first.Characteristic, Method(first)));
        // Of the repeats of the case and those of the shop's study the more numerous tell the scatter better.
        if (studied is not null && studied.RepeatFreedom > scatter.Freedom)
        {
            scatter = (studied.Repeatability, studied.RepeatFreedom);
        }

        if (studied is { Reproducibility: > 0 })
        {
            // Who reads two parts reads both in his own way.
            var person = first.ReadBy.Length > 0 ? first.ReadBy : first.By;
            influences.Add(
                new Influence(
                    $"person/{person}/{instrument.Name}/{first.Characteristic}",
                    Fact.Of("gauge.between-people", ("study", studied.Study)),
                    studied.Reproducibility,
                    studied.PeopleFreedom
                )
            );
        }

        if (scatter.Deviation > 0)
        {
            ofMean = scatter.Deviation / Math.Sqrt(n);
            influences.Add(new Influence($"scatter/{here}", Fact.Of("gauge.scatter-repeats-over", ("n", n)), ofMean, scatter.Freedom));
        }

        if (first.Picture is not null)
        {
            // Repeats in one picture share its plane; in several the least sure counts, so that it is told as no better than it is.
            var told = (double)point.Max(r => r.Standard ?? 0);
            influences.Add(new Influence($"picture/{first.Picture}", Fact.Of("gauge.from-a-picture"), told));
            return Estimate.Of(point.Select(r => (double)r.Value).Mean(), influences);
        }

        influences.Add(
            new Influence(
                $"step/{here}",
                Fact.Of("gauge.half-step", ("instrument", Called(instrument))),
                Uncertainty.OfStep((double)instrument.Resolution, ofMean)
            )
        );
        influences.Add(
            new Influence(
                // Of readings without a name only those of one kind of instrument are taken to share it.
                instrument.Name.Length > 0
                    ? $"error/{instrument.Name}"
                    : $"error//{instrument.Kind}/{instrument.Quantity}",
                Fact.Of("gauge.permissible-error", ("instrument", Called(instrument))),
                Uncertainty.Rectangular((double)instrument.PermissibleError)
            )
        );
        // What the reader himself gave or took is a bound of the reading, not a scatter: repeats do not bring it down (GUM 4.3.7).
        if (point.Max(r => r.Within) is > 0 and var within)
        {
            influences.Add(new Influence($"told/{here}", Fact.Of("gauge.what-given-taken-reading"), Uncertainty.Rectangular((double)within)));
        }

        if (instrument.SetWith.Length > 0 && _instruments.TryGetValue(instrument.SetWith, out var master))
        {
            influences.Add(
                new Influence(
                    $"error/{master.Name}",
                    Fact.Of("gauge.permissible-error", ("instrument", master.Name)),
                    Uncertainty.Rectangular((double)master.PermissibleError)
                )
            );
        }

        var value = 0.0;
        if (entry.Quantity == Quantity.Length && !entry.Gap)
        {
            var material = PartMaterial.Of(_table.Find(first.Place)!.Kind.ReadAs, _table.Engine.Layout);
            foreach (var reading in point)
            {
                value += AtReference(reading, material) / n;
            }

            influences.AddRange(Temperature(first, material, value));
        }
        else
        {
            // A compression gauge only ever loses: of repeats the best counts.
            value = entry.Id == Characteristics.Compression ? (double)point.Max(r => r.Value) : point.Select(r => (double)r.Value).Mean();
        }

        return Estimate.Of(value, influences);
    }

    /// <summary>Length at 20 °C; an instrument whose temperature nobody looked at is taken to be at 20 °C, within what the shop's rooms span.</summary>
    private static double AtReference(Reading reading, Material material) =>
        reading.Temperature is null && reading.GaugeTemperature is null
            ? (double)reading.Value
            : Formulas.AtReference.Of(
                (double)reading.Value,
                material.Expansion,
                (double)(reading.Temperature ?? reading.GaugeTemperature)!,
                Material.Steel.Expansion,
                (double)(reading.GaugeTemperature ?? 20)
            );

    /// <summary>
    /// Influences of temperature: δL = L (α_part δt_part − α_gauge δt_gauge). Where nobody looked, part and instrument share one room, whose
    /// uncertainty is one and the same for all such readings.
    /// </summary>
    private IEnumerable<Influence> Temperature(Reading reading, Material material, double length)
    {
        var room = Uncertainty.Rectangular(_schools.RoomSpan);
        var noted = Uncertainty.Rectangular(NotedTemperature);
        if (reading.Temperature is { } t)
        {
            yield return new Influence($"thermometer/{reading.Id}", Fact.Of("gauge.temperature-part"), length * material.Expansion * noted);
            if (t != 20)
            {
                yield return new Influence(
                    $"expansion/{material.Name}",
                    Fact.Of("gauge.expansion", ("material", material.Name)),
                    length * ((double)t - Formulas.ReferenceTemperature) * material.Expansion * Uncertainty.Rectangular(ExpansionUncertainty)
                );
            }

            yield return reading.GaugeTemperature is null
                ? new Influence("room", Fact.Of("gauge.temperature-shop"), -length * Material.Steel.Expansion * room)
                : new Influence(
                    $"gauge-thermometer/{reading.Id}",
                    Fact.Of("gauge.temperature-instrument"),
                    length * Material.Steel.Expansion * noted
                );
        }
        else
        {
            yield return new Influence(
                "room",
                Fact.Of("gauge.temperature-shop"),
                length * (material.Expansion - Material.Steel.Expansion) * (reading.GaugeTemperature is null ? room : noted)
            );
        }
    }

    private static object Called(Instrument instrument) => instrument.Name.Length > 0 ? instrument.Name : Fact.Of("gauge.unnamed-instrument");
}
