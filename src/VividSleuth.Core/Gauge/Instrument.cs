using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>A measuring instrument of the shop.</summary>
public sealed class Instrument : IShopRecord
{
    public Guid Id { get; set; }

    /// <summary>What the shop calls it; unique in the shop.</summary>
    public string Name { get; set; } = "";

    public InstrumentKind Kind { get; set; } = InstrumentKind.Other;

    public Quantity Quantity { get; set; }

    /// <summary>Smallest step it shows, in the base unit of what it measures (mm, kPa, g, degrees …).</summary>
    public decimal Resolution { get; set; }

    /// <summary>Greatest error the maker or the calibration allows, ±, in the same unit.</summary>
    public decimal PermissibleError { get; set; }

    /// <summary>
    /// The instrument with which this one is set or read before each use: a bore gauge or inside micrometer used to transfer a size. Its
    /// own error is then that of the transfer only, and the other's error comes in with it.
    /// </summary>
    public string SetWith { get; set; } = "";

    public DateOnly? Calibrated { get; set; }

    public DateOnly? CalibrationDue { get; set; }

    /// <summary>How it is used; of a home-made method how it is done and where its uncertainty comes from.</summary>
    public string Method { get; set; } = "";

    /// <summary>How well the shop reads with it, by studies that somebody took over; one for a characteristic.</summary>
    public List<StudiedScatter> Studied { get; set; } = [];

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>It came with a case file from elsewhere and is none of this shop's.</summary>
    public bool Imported { get; set; }

    /// <summary>What is wrong with it as an entry.</summary>
    public IEnumerable<Problem> Check()
    {
        if (string.IsNullOrWhiteSpace(Name))
        {
            yield return Problem.Of("name", "gauge.instrument-without-name");
        }

        if (Resolution <= 0)
        {
            yield return Problem.Of("resolution", "gauge.instrument-shows-steps-some-size");
        }

        if (PermissibleError < 0 || (PermissibleError == 0 && SetWith.Length == 0))
        {
            yield return Problem.Of("permissibleError", "gauge.instrument-free-error");
        }

        if (Kind == InstrumentKind.HomeMade && string.IsNullOrWhiteSpace(Method))
        {
            yield return Problem.Of("method", "gauge.method-your-own-needs-telling");
        }

        if (SetWith.Equals(Name, StringComparison.OrdinalIgnoreCase) && Name.Length > 0)
        {
            yield return Problem.Of("setWith", "gauge.instrument-not-set-itself");
        }

        if (Calibrated > CalibrationDue)
        {
            yield return Problem.Of("calibrationDue", "gauge.due-before-calibrated");
        }
    }
}

/// <summary>What speaks against an instrument for a task.</summary>
/// <param name="Serious">True when the reading will decide nothing.</param>
public sealed record Unsuited(Fact Words, bool Serious);

/// <summary>Whether an instrument is fit for what it is to decide.</summary>
public static class Suitability
{
    /// <summary>
    /// Warns by the usual rule of thumb that the uncertainty should not take more than a tenth to a quarter of the tolerance (common practice;
    /// the decision itself follows ISO 14253-1), by the kind of instrument, and by its calibration.
    /// </summary>
    /// <param name="tolerance">Width between the limits, base unit; null where there are none.</param>
    public static IEnumerable<Unsuited> Of(Instrument instrument, Knowledge.KnownCharacteristic characteristic, double? tolerance, DateOnly today)
    {
        if (!OrdinaryInstruments.DoesFor(instrument.Kind, characteristic))
        {
            yield return new Unsuited(
                Fact.Of("gauge.not-what-usually-measured", ("instrument", instrument.Name), ("with", characteristic.With)),
                false
            );
        }

        var expanded = 2 * Uncertainty.OfReading((double)instrument.Resolution, (double)instrument.PermissibleError);
        if (tolerance is { } t and > 0)
        {
            var share = 2 * expanded / t;
            if (share > 1)
            {
                yield return new Unsuited(
                    Fact.Of(
                        "gauge.too-coarse-wider-than-tolerance",
                        ("expanded", new Amount(expanded, instrument.Quantity, 4)),
                        ("tolerance", new Amount(t, instrument.Quantity, 4))
                    ),
                    true
                );
            }
            else if (share > 0.25)
            {
                yield return new Unsuited(
                    Fact.Of(
                        "gauge.coarse-uncertainty-takes-tolerance",
                        ("share", new Percent(share)),
                        ("tolerance", new Amount(t, instrument.Quantity, 4))
                    ),
                    false
                );
            }
        }

        if (instrument.CalibrationDue < today)
        {
            yield return new Unsuited(Fact.Of("gauge.calibration-due", ("day", instrument.CalibrationDue)), false);
        }
    }
}

/// <summary>What a reading is taken to have been read with where nobody noted the instrument. Common practice, no source.</summary>
public static class OrdinaryInstruments
{
    private static readonly Dictionary<(InstrumentKind, Quantity), (decimal Step, decimal Error)> OfKind = new()
    {
        [(InstrumentKind.Caliper, Quantity.Length)] = (0.02m, 0.03m),
        [(InstrumentKind.FeelerGauge, Quantity.Length)] = (0.01m, 0.005m),
        [(InstrumentKind.PlasticStrip, Quantity.Length)] = (0.013m, 0.008m),
        [(InstrumentKind.DialIndicator, Quantity.Length)] = (0.01m, 0.01m),
        [(InstrumentKind.TorqueWrench, Quantity.Torque)] = (0.2m, 0.2m),
        [(InstrumentKind.RoughnessTester, Quantity.Length)] = (0.00001m, 0.00005m),
        [(InstrumentKind.HardnessTester, Quantity.Ratio)] = (1, 2),
        [(InstrumentKind.Rule, Quantity.Length)] = (0.5m, 0.5m),
        [(InstrumentKind.Manometer, Quantity.Pressure)] = (0.02m, 0.03m),
        [(InstrumentKind.PressureGauge, Quantity.Pressure)] = (10, 30),
    };

    private static readonly Dictionary<Quantity, (decimal Step, decimal Error)> OfQuantity = new()
    {
        [Quantity.Length] = (0.01m, 0.004m),
        [Quantity.Pressure] = (10, 30),
        [Quantity.Mass] = (1, 1),
        [Quantity.Angle] = (5, 5),
        [Quantity.Volume] = (0.1m, 0.2m),
        [Quantity.Force] = (5, 10),
        [Quantity.Torque] = (1, 2),
        [Quantity.Speed] = (10, 20),
        [Quantity.Temperature] = (1, 2),
        [Quantity.Viscosity] = (0.1m, 0.5m),
        [Quantity.Share] = (1, 2),
        [Quantity.Ratio] = (0.01m, 0.01m),
        [Quantity.Area] = (1, 5),
    };

    /// <summary>An instrument without a name of the first kind that does for the characteristic; its step and error in the base unit.</summary>
    public static Instrument For(KnownCharacteristic entry)
    {
        var kind = entry.By.Count > 0 ? entry.By[0] : InstrumentKind.Other;
        var (step, error) = OfKind.TryGetValue((kind, entry.Quantity), out var own) ? own : OfQuantity[entry.Quantity];
        return new Instrument
        {
            Kind = kind,
            Quantity = entry.Quantity,
            Resolution = step,
            PermissibleError = error,
        };
    }

    /// <summary>
    /// Whether an instrument can have read a characteristic at all: it measures the quantity, and, lengths apart, which any of them may take, it is of
    /// a kind that does for it.
    /// </summary>
    public static bool CanRead(Instrument instrument, KnownCharacteristic entry) =>
        instrument.Quantity == entry.Quantity && (entry.Quantity == Quantity.Length || DoesFor(instrument.Kind, entry));

    /// <summary>Whether instruments of a kind are usual for a characteristic; a method of the shop's own does for any.</summary>
    public static bool DoesFor(InstrumentKind kind, KnownCharacteristic entry) =>
        entry.By.Count == 0 || entry.By.Contains(kind) || kind is InstrumentKind.HomeMade or InstrumentKind.Other;
}
