using VividSleuth.Core.Arrival;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>A limit as it applies: figures in base units, and where they come from.</summary>
public sealed record AppliedLimit(double? Least, double? Most, LimitSource Source, string SourceText)
{
    public bool IsRuleOfThumb => Source == LimitSource.RuleOfThumb;
}

/// <summary>A figure on the sheet: measured or worked out, with its doubt and how it stands against its limit.</summary>
/// <param name="Value">Base unit (mm, kPa, g, degrees).</param>
/// <param name="Expanded">Expanded uncertainty, k = 2, same unit.</param>
/// <param name="Share">Share of the limit used up: 0 at the near end, 1 at the limit; null without a limit.</param>
/// <param name="From">How it came about, with the figures put in.</param>
public sealed record SheetFigure(
    string Place,
    string Characteristic,
    string Name,
    double Value,
    double Expanded,
    AppliedLimit? Limit,
    Conformity? Conformity,
    double? Share,
    string From
);

/// <summary>Whether journal, shell size and shell stamp agree at one big end.</summary>
/// <param name="Loud">True when a part of the wrong size is in it.</param>
public sealed record GradeCheck(string Place, string JournalGrade, string? ShellGrade, string? StampedGrade, bool Loud, string Words);

/// <summary>A sign that Gauge makes of readings: soft evidence with the likelihoods of what was read.</summary>
public sealed record MeasuredSign(string Sign, string Place, double IfPresent, double IfAbsent, string Words)
{
    public bool SpeaksFor => IfPresent > IfAbsent;
}

/// <summary>What the readings of a case come to.</summary>
public sealed record GaugeSheet(
    IReadOnlyList<SheetFigure> Figures,
    IReadOnlyList<GradeCheck> Grades,
    IReadOnlyList<MeasuredSign> Signs,
    IReadOnlyList<string> Notes,
    decimal? StandardPin
);

/// <summary>Works out the sheet: figures by station, clearances, grades, and the signs they amount to. Lengths in mm.</summary>
public sealed class SheetBuilder(EngineCase engineCase, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<Instrument> instruments)
{
    public const string PinDiameter = "crankpin-diameter";
    public const string HousingBore = "rod-housing-bore";
    public const string ShellWall = "shell-wall";
    public const string ShellInside = "shell-inside-diameter";
    public const string BigEndClearance = "big-end-clearance";
    public const string RoundnessOfPin = "crankpin-out-of-round";
    public const string Compression = "compression";

    /// <summary>A reading says at most this much for or against a sign: instruments are also misread.</summary>
    private const double Slip = 0.002;

    /// <summary>A rule of thumb is itself in doubt by about this share of its value.</summary>
    private const double ThumbDoubt = 0.2;

    /// <summary>Readings without a known instrument: taken as read with an ordinary outside micrometer.</summary>
    private static readonly Instrument Ordinary = new()
    {
        Name = "unnamed instrument",
        Resolution = 0.01m,
        PermissibleError = 0.004m,
    };

    private readonly Dictionary<string, Instrument> _instruments = instruments
        .GroupBy(i => i.Name, StringComparer.OrdinalIgnoreCase)
        .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);
    private readonly ILookup<(string Place, string Characteristic), Reading> _readings = Standing(engineCase)
        .ToLookup(r => (r.Place, r.Characteristic));

    private readonly List<SheetFigure> _figures = [];
    private readonly List<GradeCheck> _grades = [];
    private readonly List<MeasuredSign> _signs = [];
    private readonly List<string> _notes = [];

    /// <summary>Readings that count: neither withdrawn nor corrected by a later one.</summary>
    public static IEnumerable<Reading> Standing(EngineCase engineCase)
    {
        var corrected = engineCase.Readings.Where(r => r.Stands()).Select(r => r.Corrects).OfType<Guid>().ToHashSet();
        return engineCase.Readings.Where(r => r.Stands() && !corrected.Contains(r.Id)).OrderBy(r => r.At).ThenBy(r => r.Id);
    }

    public GaugeSheet Build()
    {
        foreach (var group in _readings.OrderBy(g => Order(g.Key.Place)).ThenBy(g => g.Key.Characteristic, StringComparer.Ordinal))
        {
            if (knowledge.Characteristic(group.Key.Characteristic) is { } entry && group.Key.Characteristic != Compression)
            {
                var measured = At(group.Key.Place, entry.Id)!;
                Figure(group.Key.Place, entry, measured, LimitFor(entry.Id, null), string.Join(", ", group.Select(r => r.Typed + r.UnitBehind())));
            }
        }

        foreach (var cylinder in table.Engine.Cylinders)
        {
            BigEnd(cylinder);
        }

        foreach (var pin in table.All.Where(a => a.Kind.Id == PartKinds.Crankpin))
        {
            Roundness(pin);
        }

        CompressionSigns();
        return new GaugeSheet(_figures, _grades, _signs, _notes, LimitOf(PinDiameter)?.Nominal);
    }

    /// <summary>
    /// Clearance of a plain bearing from what was measured: housing bore with the cap torqued, less both shell walls, less the
    /// journal; or the shells' inside diameter less the journal. All in mm; uncertainties by root sum of squares (GUM 5.1.2).
    /// </summary>
    public static Measured Clearance(Measured housing, Measured upperWall, Measured lowerWall, Measured journal) =>
        new(
            housing.Value - upperWall.Value - lowerWall.Value - journal.Value,
            Uncertainty.Combine([
                housing.StandardUncertainty,
                upperWall.StandardUncertainty,
                lowerWall.StandardUncertainty,
                journal.StandardUncertainty,
            ])
        );

    /// <inheritdoc cref="Clearance(Measured, Measured, Measured, Measured)"/>
    public static Measured Clearance(Measured inside, Measured journal) =>
        new(inside.Value - journal.Value, Uncertainty.Combine([inside.StandardUncertainty, journal.StandardUncertainty]));

    private void BigEnd(CylinderStation cylinder)
    {
        var n = cylinder.Number;
        if (table.Find(PartKinds.RodShellUpper, n) is not { } upper || table.Find(PartKinds.RodShellLower, n) is not { } lower)
        {
            return;
        }

        var rod = table.Find(PartKinds.Rod, n)!.Code;
        var pin = table.Find(PartKinds.Crankpin, cylinder.Crankpin)!.Code;
        var journal = At(pin, PinDiameter);
        var wallUpper = At(upper.Code, ShellWall);
        var wallLower = At(lower.Code, ShellWall);
        Grades(rod, journal, wallUpper, wallLower, upper.Code, lower.Code);
        if (journal is null)
        {
            return;
        }

        Measured clearance;
        string from;
        if (At(rod, HousingBore) is { } housing && wallUpper is not null && wallLower is not null)
        {
            clearance = Clearance(housing, wallUpper, wallLower, journal);
            from =
                $"{housing.Value:0.000} housing − {wallUpper.Value:0.000} upper wall − {wallLower.Value:0.000} lower wall − {journal.Value:0.000} journal";
        }
        else if (At(rod, ShellInside) is { } inside)
        {
            clearance = Clearance(inside, journal);
            from = $"{inside.Value:0.000} inside the shells − {journal.Value:0.000} journal";
        }
        else
        {
            return;
        }

        var limit = LimitFor(BigEndClearance, journal.Value);
        Figure(rod, knowledge.Characteristic(BigEndClearance)!, clearance, limit, from);
        if (limit?.Most is { } most)
        {
            Sign("clearance-large", rod, clearance, most, limit, above: true);
        }

        if (limit?.Least is { } least)
        {
            Sign("clearance-small", rod, clearance, least, limit, above: false);
        }
    }

    private void Grades(string rod, Measured? journal, Measured? wallUpper, Measured? wallLower, string upper, string lower)
    {
        if (LimitOf(PinDiameter)?.Nominal is not { } standard)
        {
            return;
        }

        if (journal is null)
        {
            return;
        }

        var ground = Grade.OfJournal(standard, (decimal)journal.Value);
        var standardWall = LimitOf(ShellWall)?.Nominal;
        var shells = new[] { (Code: upper, Wall: wallUpper), (Code: lower, Wall: wallLower) };
        var found = shells
            .Where(s => s.Wall is not null && standardWall is not null)
            .Select(s => (s.Code, Grade: Grade.OfShell(standardWall!.Value, (decimal)s.Wall!.Value)))
            .ToArray();
        var stamped = engineCase
            .Parts.Where(p => p.Stands() && (p.Place == upper || p.Place == lower) && p.GradeStamped.Length > 0)
            .Select(p => (Code: p.Place, Text: p.GradeStamped, Grade: Grade.FromStamp(p.GradeStamped)))
            .ToArray();

        var wrong = new List<string>();
        foreach (var (code, grade) in found.Where(f => !f.Grade.IsLike(ground)))
        {
            wrong.Add($"{code} measures as {grade.Name} and the journal is {ground.Name}");
        }

        foreach (var (code, text, grade) in stamped.Where(s => s.Grade is not null))
        {
            if (Array.Find(found, f => f.Code == code) is { Grade: { } measured } && !measured.IsLike(grade!))
            {
                wrong.Add($"{code} is stamped {text} but measures as {measured.Name}: believe the size, not the stamp");
            }
            else if (!found.Any(f => f.Code == code) && !grade!.IsLike(ground))
            {
                wrong.Add($"{code} is stamped {text} and the journal is {ground.Name}; measure its wall to be sure");
            }
        }

        foreach (var (code, text, _) in stamped.Where(s => s.Grade is null))
        {
            _notes.Add($"The stamp “{text}” on {code} cannot be read as one grade; its measured size counts.");
        }

        var loud = wrong.Count > 0;
        _grades.Add(
            new GradeCheck(
                rod,
                ground.Name,
                found.Length > 0 ? string.Join(" / ", found.Select(f => f.Grade.Name).Distinct()) : null,
                stamped.Length > 0 ? string.Join(" / ", stamped.Select(s => s.Text).Distinct()) : null,
                loud,
                loud ? string.Join("; ", wrong) + "."
                    : found.Length > 0 ? $"Journal and shells are both {ground.Name}."
                    : $"The journal is {ground.Name}. Measure the shells' walls before they are trusted."
            )
        );
        if (found.Length > 0 || loud)
        {
            var sure = found.Length > 0 ? Slip : 0.1;
            _signs.Add(
                new MeasuredSign(
                    "size-mismatch",
                    rod,
                    loud ? 1 - sure : sure,
                    loud ? sure : 1 - sure,
                    loud ? string.Join("; ", wrong) : "sizes agree"
                )
            );
        }
    }

    /// <summary>Out-of-round from repeated readings of one pin: greatest less smallest, mm.</summary>
    private void Roundness(Address pin)
    {
        var values = _readings[(pin.Code, PinDiameter)].Select(r => (double)r.Value).ToArray();
        if (values.Length < 2)
        {
            return;
        }

        var u = Uncertainty.OfReading((double)InstrumentOf(pin.Code, PinDiameter).Resolution, 0);
        var measured = new Measured(values.Max() - values.Min(), Uncertainty.Combine([u, u]));
        var limit = LimitFor(RoundnessOfPin, values.Max());
        Figure(pin.Code, knowledge.Characteristic(RoundnessOfPin)!, measured, limit, $"{values.Max():0.000} − {values.Min():0.000}");
        if (limit?.Most is { } most)
        {
            Sign("journal-out-of-round", pin.Code, measured, most, limit, above: true);
        }
    }

    private void CompressionSigns()
    {
        var test = CompressionTest.Evaluate(engineCase, table);
        foreach (var cylinder in test.Cylinders.Where(c => c.Kpa is not null))
        {
            var p = cylinder.Low ? 0.95 : 0.05;
            _signs.Add(new MeasuredSign("compression-low", $"C{cylinder.Number}", p, 1 - p, cylinder.Words));
        }
    }

    private void Sign(string sign, string place, Measured measured, double at, AppliedLimit limit, bool above)
    {
        // The limit's own doubt enters where it is a rule of thumb.
        var doubt = limit.IsRuleOfThumb ? ThumbDoubt * at : 0;
        var u = Uncertainty.Combine([measured.StandardUncertainty, doubt]);
        var over = new Measured(measured.Value, u).ProbabilityAbove(at);
        var p = Math.Clamp(above ? over : 1 - over, Slip, 1 - Slip);
        var side = above ? "over" : "under";
        var source = limit.IsRuleOfThumb ? "rule of thumb" : limit.SourceText;
        var stands = p >= 0.5 ? $"{side} {at:0.000} mm ({source})" : $"not {side} {at:0.000} mm ({source})";
        _signs.Add(new MeasuredSign(sign, place, p, 1 - p, $"{measured.Value:0.000} ± {measured.Expanded:0.000} mm, {stands}"));
    }

    private void Figure(string place, CharacteristicEntry entry, Measured measured, AppliedLimit? limit, string from)
    {
        Conformity? conformity =
            limit is null || (limit.Least is null && limit.Most is null) ? null : DecisionRule.Decide(measured, limit.Least, limit.Most);
        double? share = limit switch
        {
            { Least: { } l, Most: { } m } when m > l => (measured.Value - l) / (m - l),
            { Most: { } m } when m > 0 => measured.Value / m,
            _ => null,
        };
        _figures.Add(new SheetFigure(place, entry.Id, entry.Name, measured.Value, measured.Expanded, limit, conformity, share, from));
    }

    private Measured? At(string place, string characteristic)
    {
        var values = _readings[(place, characteristic)].Select(r => (double)r.Value).ToArray();
        if (values.Length == 0)
        {
            return null;
        }

        var instrument = InstrumentOf(place, characteristic);
        return new Measured(
            Statistics.Mean(values),
            Uncertainty.OfReading((double)instrument.Resolution, (double)instrument.PermissibleError, values.Length)
        );
    }

    private Instrument InstrumentOf(string place, string characteristic) =>
        _instruments.GetValueOrDefault(_readings[(place, characteristic)].Last().Instrument) ?? Ordinary;

    private Limit? LimitOf(string characteristic) =>
        engineCase
            .Limits.Where(l => l.Stands() && l.Characteristic == characteristic)
            .OrderBy(l => l.Source)
            .ThenByDescending(l => l.At)
            .FirstOrDefault();

    private AppliedLimit? LimitFor(string characteristic, double? size)
    {
        if (LimitOf(characteristic) is { } own)
        {
            return new AppliedLimit((double?)own.Least, (double?)own.Most, own.Source, own.SourceText);
        }

        var rule = knowledge.RulesOfThumb.FirstOrDefault(r => r.Characteristic == characteristic);
        return rule is null || size is null ? null : new AppliedLimit(rule.Least * size, rule.Most * size, LimitSource.RuleOfThumb, rule.Name);
    }

    private int Order(string place)
    {
        for (var i = 0; i < table.All.Count; i++)
        {
            if (table.All[i].Code == place)
            {
                return i;
            }
        }

        return int.MaxValue;
    }
}

internal static class ReadingWords
{
    /// <summary>The unit in which a bare figure was meant, for showing what was typed.</summary>
    public static string UnitBehind(this Reading reading) =>
        reading.Typed.Length > 0 && char.IsAsciiDigit(reading.Typed[^1]) ? $" {reading.Unit}" : "";
}
