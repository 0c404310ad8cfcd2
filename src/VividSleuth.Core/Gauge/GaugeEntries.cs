using System.Globalization;
using MathNet.Numerics.Statistics;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>A reading as typed.</summary>
/// <param name="SetUnit">Unit that holds where none is typed.</param>
/// <param name="Via">The gauge that sent it, by name and address; empty or null where a person typed it.</param>
/// <param name="Confirmed">Answers the question that a suspect entry raises.</param>
public sealed record ReadingEntry(
    Guid Id,
    string Place,
    string Characteristic,
    string Typed,
    string SetUnit,
    string Instrument,
    decimal? Temperature,
    Guid? Corrects,
    bool Confirmed,
    string? Station = null,
    string? Direction = null,
    Phase Phase = Phase.AsFound,
    decimal? GaugeTemperature = null,
    string? ReadBy = null,
    string? Via = null
);

/// <summary>A limit as typed, with its source. Empty figures stay open; one with a sign counts from the nominal.</summary>
public sealed record LimitEntry(
    Guid Id,
    string Characteristic,
    string Nominal,
    string Least,
    string Most,
    string SetUnit,
    LimitSource Source,
    string SourceText,
    string? Wear = null,
    string? On = null
);

/// <summary>Turns what was typed into readings and limits, and asks about what looks wrong.</summary>
public static class GaugeEntries
{
    private const decimal Coldest = -60;
    private const decimal Hottest = 400;

    /// <param name="nominal">Nominal size set for the characteristic on that kind of part, base unit.</param>
    /// <param name="median">Median of what was measured on its peers; null with fewer than three.</param>
    /// <exception cref="ProblemException">It cannot be read, fits nothing, or looks wrong and was not confirmed.</exception>
    public static Reading Read(ReadingEntry entry, AddressTable table, KnowledgeBase knowledge, decimal? nominal, decimal? median)
    {
        var place = table.Parse(entry.Place);
        var characteristic = Measurable(knowledge, entry.Characteristic, place);
        Named(entry.Station, characteristic.Stations, "station");
        Named(entry.Direction, [.. characteristic.Directions.Keys], "direction");
        Warm(entry.Temperature, "temperature");
        Warm(entry.GaugeTemperature, "gaugeTemperature");
        var typed = QuantityParser.Parse(entry.Typed, characteristic.Quantity, entry.SetUnit);
        var value = typed.Value;
        if (typed.Relative && !CountsFromNothing(characteristic))
        {
            value = nominal + typed.Value ?? throw new ProblemException(Problem.Of("typed", "gauge.figure-sign-counts-from-nominal"));
        }

        if (!entry.Confirmed && Suspect(entry, characteristic, value, typed, nominal, median) is { } question)
        {
            throw new ProblemException(
                new Problem(
                    "confirmed",
                    question.Text,
                    question.Likely == value
                        ? Fact.Of("gauge.enter-again-keep-typed")
                        : Fact.Of("gauge.did-you-mean-correct-enter", ("told", Told(question.Likely, typed.Unit)))
                )
            );
        }

        return new Reading
        {
            Id = entry.Id,
            Place = place.Code,
            Characteristic = characteristic.Id,
            Station = entry.Station ?? "",
            Direction = entry.Direction ?? "",
            Phase = entry.Phase,
            Typed = entry.Typed.Trim(),
            Value = value,
            Within = typed.Within,
            Unit = typed.Unit,
            Instrument = entry.Instrument.Trim(),
            Temperature = entry.Temperature,
            GaugeTemperature = entry.GaugeTemperature,
            ReadBy = (entry.ReadBy ?? "").Trim(),
            Via = (entry.Via ?? "").Trim(),
            Corrects = entry.Corrects,
        };
    }

    /// <exception cref="ProblemException">No such characteristic, no source, no figure, or figures that contradict each other.</exception>
    public static Limit Read(LimitEntry entry, KnowledgeBase knowledge)
    {
        var characteristic =
            knowledge.Characteristic(entry.Characteristic)
            ?? throw new ProblemException(Problem.Of("characteristic", "gauge.cannot-measured-here", ("characteristic", entry.Characteristic)));
        var nominal = Figure(entry.Nominal, "nominal", characteristic, entry.SetUnit, null);
        var limit = new Limit
        {
            Id = entry.Id,
            Characteristic = characteristic.Id,
            On = entry.On ?? "",
            Nominal = nominal,
            Least = Figure(entry.Least, "least", characteristic, entry.SetUnit, nominal),
            Most = Figure(entry.Most, "most", characteristic, entry.SetUnit, nominal),
            Wear = Figure(entry.Wear ?? "", "wear", characteristic, entry.SetUnit, nominal),
            Unit = entry.SetUnit,
            Source = entry.Source,
            SourceText = entry.SourceText.Trim(),
        };
        return limit.Check(knowledge).ToArray() is { Length: > 0 } problems ? throw new ProblemException(problems) : limit;
    }

    /// <summary>Places whose figures are of one size: parts of the same stratum, so that a main shell is not held against a rod's.</summary>
    public static IReadOnlyList<string> Peers(AddressTable table, string kind) =>
        PartKinds.Find(kind) is { } of ? [.. table.All.Where(a => a.Kind.Stratum == of.Stratum).Select(a => a.Code)] : [];

    /// <summary>
    /// What a figure is expected to be: the nominal that counts (<see cref="LimitBook"/>), and the median of its peers that were measured in
    /// the same phase; what a journal was before it was ground says nothing of what it should be after.
    /// </summary>
    /// <param name="readings">Readings of the case; others than of the characteristic are passed over.</param>
    /// <param name="limits">Limits of the case.</param>
    /// <param name="corrects">A reading that is about to be corrected, and does not count any more.</param>
    public static (decimal? Nominal, decimal? Median) Expected(
        IReadOnlyList<Reading> readings,
        IReadOnlyList<Limit> limits,
        AddressTable table,
        string characteristic,
        string kind,
        Phase phase,
        Guid? corrects = null
    )
    {
        var peers = Peers(table, kind).ToHashSet(StringComparer.Ordinal);
        return (
            LimitBook.Nominal(limits, characteristic, kind),
            Median([
                .. GaugeLog
                    .Active(readings)
                    .Where(r => r.Characteristic == characteristic && r.Phase == phase && r.Id != corrects && peers.Contains(r.Place))
                    .Select(r => (double)r.Value),
            ])
        );
    }

    private static decimal? Median(IReadOnlyList<double> peers) => peers.Count >= 3 ? (decimal)peers.Median() : null;

    private static Question? Suspect(
        ReadingEntry entry,
        KnownCharacteristic characteristic,
        decimal value,
        TypedQuantity typed,
        decimal? nominal,
        decimal? median
    ) =>
        Suspicion.Of(
            value,
            CountsFromNothing(characteristic) || characteristic.Quantity is Quantity.Angle or Quantity.Temperature ? null : median ?? nominal,
            characteristic.Gap || characteristic.Quantity == Quantity.Angle,
            typed.Relative ? "" : entry.Typed.Trim(),
            characteristic.Least,
            characteristic.Most,
            text =>
            {
                try
                {
                    return QuantityParser.Parse(text, characteristic.Quantity, entry.SetUnit).Value;
                }
                catch (ProblemException)
                {
                    return null;
                }
            },
            peers: median is not null
        );

    /// <summary>Whether the characteristic may itself be below nil, such as a deck height, so that a sign is part of the figure.</summary>
    private static bool CountsFromNothing(KnownCharacteristic characteristic) => characteristic.Least < 0;

    private static decimal? Figure(string typed, string field, KnownCharacteristic characteristic, string setUnit, decimal? nominal)
    {
        if (string.IsNullOrWhiteSpace(typed))
        {
            return null;
        }

        try
        {
            var read = QuantityParser.Parse(typed, characteristic.Quantity, setUnit);
            if (read.Within > 0)
            {
                throw new ProblemException(Problem.Of(field, "gauge.two-figures", ("typed", typed)));
            }

            return read.Relative && nominal is { } from && field != "nominal" ? from + read.Value : read.Value;
        }
        catch (ProblemException e)
        {
            throw new ProblemException(e.Problems[0] with { Field = field });
        }
    }

    private static KnownCharacteristic Measurable(KnowledgeBase knowledge, string id, Address place)
    {
        var found = knowledge.Characteristic(id);
        return found is { Derived: false } && found.On.Contains(place.Kind.ReadAs)
            ? found
            : throw new ProblemException(
                Problem.Of("characteristic", "gauge.not-measured-there", ("id", found?.Name ?? id), ("kind", place.Kind.Name))
            );
    }

    private static void Named(string? name, List<string> names, string field)
    {
        if (!string.IsNullOrEmpty(name) && !names.Contains(name))
        {
            throw new ProblemException(
                new Problem(
                    field,
                    Fact.Of("gauge.no-such-point", ("name", name), ("field", Fact.Of($"gauge.field.{field}"))),
                    names.Count > 0 ? Fact.Of("gauge.no-such-point.do", ("names", names)) : Fact.Of("gauge.leave-it-empty")
                )
            );
        }
    }

    private static void Warm(decimal? temperature, string field)
    {
        if (temperature is < Coldest or > Hottest)
        {
            throw new ProblemException(Problem.Of(field, "gauge.no-temperature-of-a-shop", ("temperature", temperature)));
        }
    }

    private static string Told(decimal value, string unit) =>
        string.Create(CultureInfo.InvariantCulture, $"{QuantityParser.InUnit(value, unit):0.####} {unit}");
}
