using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Gauge;

/// <summary>What was entered in Gauge, with what Gauge must know of the other rooms.</summary>
/// <param name="Parts">Tagged parts, for the grades stamped on them.</param>
/// <param name="Sizes">Sizes that are to be had for this engine.</param>
/// <param name="Stroke">mm; null where nobody entered it.</param>
/// <param name="RodLength">mm between centres; null where nobody entered it.</param>
public sealed record GaugeLog(
    IReadOnlyList<Reading> Readings,
    IReadOnlyList<Limit> Limits,
    IReadOnlyList<Part> Parts,
    IReadOnlyList<ServiceSizes> Sizes,
    decimal? Stroke,
    decimal? RodLength
)
{
    /// <summary>Readings that count: neither withdrawn nor corrected by a later one, in the order in which they were taken.</summary>
    public static IEnumerable<Reading> Active(IReadOnlyList<Reading> readings)
    {
        var corrected = readings.Where(r => r.Stands()).Select(r => r.Corrects).OfType<Guid>().ToHashSet();
        return readings.Where(r => r.Stands() && !corrected.Contains(r.Id)).OrderBy(r => r.At).ThenBy(r => r.Id);
    }

    /// <inheritdoc cref="Active(IReadOnlyList{Reading})"/>
    public IEnumerable<Reading> Active() => Active(Readings);

    /// <summary>By cylinder the highest standing compression in kPa: of repeated readings the best counts, as a gauge only ever loses.</summary>
    public IReadOnlyDictionary<int, double> Compression(AddressTable table) =>
        Active()
            .Where(r => r.Characteristic == Characteristics.Compression && table.Find(r.Place) is not null)
            .GroupBy(r => table.Find(r.Place)!.Station)
            .ToDictionary(g => g.Key, g => (double)g.Max(r => r.Value));
}

public enum Phase
{
    AsFound,

    /// <summary>After machining, cleaning or fitting.</summary>
    AfterWork,

    /// <summary>When it ran again: the tests of arrival once more.</summary>
    AfterRun,
}

public static class Phases
{
    /// <summary>A phase and those before it, the latest first: what nothing touched since stays as it was.</summary>
    public static IEnumerable<Phase> Back(this Phase phase) => Enum.GetValues<Phase>().Where(p => p <= phase).OrderDescending();
}

/// <summary>A measurement. What was typed stays as typed; a correction is a new reading that names the old one.</summary>
public sealed class Reading : CaseRecord
{
    public string Place { get; set; } = "";

    public string Characteristic { get; set; } = "";

    /// <summary>Level or station on the part, by the characteristic's names; empty where nobody said.</summary>
    public string Station { get; set; } = "";

    /// <summary>Direction, by the characteristic's names; empty where nobody said.</summary>
    public string Direction { get; set; } = "";

    public Phase Phase { get; set; }

    public string Typed { get; set; } = "";

    /// <summary>Value in the base unit of its quantity: mm, kPa, g, degrees … Worked out from what was typed.</summary>
    public decimal Value { get; set; }

    /// <summary>Half-width that was told with it, base unit: both ends of “0.04 to 0.05”, or what was given or taken; 0 where none was.</summary>
    public decimal Within { get; set; }

    /// <summary>The unit that was typed or set.</summary>
    public string Unit { get; set; } = "";

    public string Instrument { get; set; } = "";

    /// <summary>Temperature of the part in °C when it was measured; null when nobody looked.</summary>
    public decimal? Temperature { get; set; }

    /// <summary>Temperature of the instrument in °C; null when nobody looked.</summary>
    public decimal? GaugeTemperature { get; set; }

    /// <summary>The gauge that sent it, by name and address; empty where a person typed it.</summary>
    public string Via { get; set; } = "";

    /// <summary>Who read it off, where another typed it.</summary>
    public string ReadBy { get; set; } = "";

    /// <summary>Id of what was measured in a picture, of a reading that comes from one; null of one that an instrument gave.</summary>
    public Guid? Picture { get; set; }

    /// <summary>Standard uncertainty of a reading from a picture, base unit; null of one that an instrument gave, whose own it is.</summary>
    public decimal? Standard { get; set; }

    /// <summary>Id of the reading that this one corrects.</summary>
    public Guid? Corrects { get; set; }
}

public enum LimitSource
{
    MakersManual,
    ShopStandard,
    RuleOfThumb,
}

/// <summary>A limit of one characteristic in this engine, in base units, with its source. No limit without one.</summary>
public sealed class Limit : CaseRecord
{
    public string Characteristic { get; set; } = "";

    /// <summary>Kind of part for which it holds; empty is every kind on which it is measured.</summary>
    public string On { get; set; } = "";

    /// <summary>Size when new at standard grade.</summary>
    public decimal? Nominal { get; set; }

    public decimal? Least { get; set; }

    public decimal? Most { get; set; }

    /// <summary>How far it may wear before it goes; of what wears larger a most, of what wears smaller a least.</summary>
    public decimal? Wear { get; set; }

    /// <summary>Unit in which it was typed.</summary>
    public string Unit { get; set; } = "";

    public LimitSource Source { get; set; }

    /// <summary>Manual and page, or who set it.</summary>
    public string SourceText { get; set; } = "";

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check(KnowledgeBase knowledge)
    {
        if (knowledge.Characteristic(Characteristic) is not { } characteristic)
        {
            yield return Problem.Of("characteristic", "gauge.cannot-measured-here", ("characteristic", Characteristic));
            yield break;
        }

        if (On.Length > 0 && !characteristic.On.Contains(On))
        {
            yield return Problem.Of("on", "gauge.not-measured", ("characteristic", characteristic.Name), ("on", On), ("join", characteristic.On));
        }

        if (Source == LimitSource.RuleOfThumb || string.IsNullOrWhiteSpace(SourceText))
        {
            yield return Problem.Of("sourceText", "gauge.limit-without-source");
        }

        if (this is { Nominal: null, Least: null, Most: null, Wear: null })
        {
            yield return Problem.Of("most", "gauge.limit-figure");
        }

        foreach (var (field, figure) in new[] { ("nominal", Nominal), ("least", Least), ("most", Most), ("wear", Wear) })
        {
            if (figure is < -MostFigure or > MostFigure)
            {
                yield return Problem.Of(field, "gauge.figure-cannot-be");
            }
        }

        if (Least > Most)
        {
            yield return Problem.Of("least", "gauge.least-more-than-most");
        }

        if (Wear > Least && Wear < Most)
        {
            yield return Problem.Of("wear", "gauge.wear-limit-lies-inside-tolerance");
        }
    }

    /// <summary>Beyond it is no figure of an engine, in any base unit.</summary>
    private const decimal MostFigure = 1_000_000_000;
}
