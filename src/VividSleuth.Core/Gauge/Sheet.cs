using System.Text.Json.Serialization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>A limit as it applies: figures in base units, and where they come from.</summary>
/// <param name="Wear">How far it may wear; takes the place of least or most on its side.</param>
public sealed record AppliedLimit(
    double? Least,
    double? Most,
    LimitSource Source,
    Fact SourceText,
    double? Nominal = null,
    double? Wear = null,
    string Unit = ""
)
{
    public bool IsRuleOfThumb => Source == LimitSource.RuleOfThumb;

    /// <summary>True where wear makes it larger: a bore, a clearance, a gap.</summary>
    [JsonIgnore]
    public bool WearsLarger => Wear is { } w && w >= (Most ?? Nominal ?? Least ?? w);

    /// <summary>Least that may stay in service.</summary>
    [JsonIgnore]
    public double? ServiceLeast => Wear is not null && !WearsLarger ? Wear : Least;

    /// <summary>Most that may stay in service.</summary>
    [JsonIgnore]
    public double? ServiceMost => Wear is not null && WearsLarger ? Wear : Most;
}

/// <summary>A figure on the sheet: measured or worked out, with its uncertainty and how it stands against its limit.</summary>
/// <param name="Value">Base unit of its quantity (mm, kPa, g, degrees …), at 20 °C.</param>
/// <param name="Expanded">Expanded uncertainty, about 95 %, same unit.</param>
/// <param name="Conformity">Against the limit of service, after ISO 14253-1; null without a limit.</param>
/// <param name="AsNew">Against the tolerance when new, where a wear limit is given beside it.</param>
/// <param name="Share">Share of the limit used up: 0 at the near end, 1 at the limit; null without a limit.</param>
/// <param name="From">How it came about, with the figures put in.</param>
/// <param name="Decides">What would decide it, where it is undecided; otherwise null.</param>
/// <param name="Derived">True when it is worked out of others.</param>
public sealed record SheetFigure(
    string Place,
    string Characteristic,
    string Name,
    Quantity Quantity,
    Phase Phase,
    double Value,
    double Expanded,
    AppliedLimit? Limit,
    Conformity? Conformity,
    Conformity? AsNew,
    double? Share,
    Fact From,
    Fact? Decides,
    bool Derived
)
{
    [JsonIgnore]
    public Estimate? Estimate { get; init; }
}

/// <summary>Figures of one part by station and direction.</summary>
/// <param name="Values">By station, then by direction; null where nothing was measured. Base unit.</param>
/// <param name="Taper">Greatest less least over the stations in one direction.</param>
/// <param name="OutOfRound">Greatest less least over the directions at one station.</param>
/// <param name="Toward">Direction of the greatest diameter in degrees, at the station that is least round; null where it was not measured.</param>
public sealed record Profile(
    string Place,
    string Characteristic,
    Phase Phase,
    IReadOnlyList<string> Stations,
    IReadOnlyList<double> Directions,
    IReadOnlyList<IReadOnlyList<double?>> Values,
    double? Taper,
    double? OutOfRound,
    double? Toward,
    double? Unworn
)
{
    /// <summary>The least that was measured anywhere on it.</summary>
    [JsonIgnore]
    public Estimate? LeastAt { get; init; }

    /// <summary>The greatest that was measured anywhere on it.</summary>
    [JsonIgnore]
    public Estimate? MostAt { get; init; }

    /// <summary>Size before it wore; null where nothing tells it.</summary>
    [JsonIgnore]
    public Estimate? UnwornAt { get; init; }
}

/// <summary>Whether journal, shell size and shell stamp agree at one big end or main.</summary>
/// <param name="Loud">True when a part of the wrong size is in it.</param>
/// <param name="Agree">Probability that journal and shells are of one grade, from their sizes; null where one was not measured.</param>
/// <param name="Odds">The likeliest grades of the journal.</param>
public sealed record GradeCheck(
    string Place,
    string JournalGrade,
    string? ShellGrade,
    string? StampedGrade,
    bool Loud,
    Fact Words,
    double? Agree,
    IReadOnlyList<GradeWord> Odds
);

/// <summary>A grade with its probability.</summary>
public sealed record GradeWord(string Grade, double P);

/// <summary>A part's rings: where each gap was put and found.</summary>
/// <param name="Rings">Address, angle put and found in degrees, drift by the shorter way.</param>
/// <param name="Mean">Mean drift of the pack in degrees, with sign; null with fewer than two rings.</param>
/// <param name="Together">Mean resultant length of the drifts: 1 when all moved alike.</param>
public sealed record RingPack(string Piston, IReadOnlyList<RingDrift> Rings, double? Mean, double? Together, Fact Words);

public sealed record RingDrift(string Ring, double? Put, double? Found, double? Drift);

/// <summary>A trend of one figure over the stations.</summary>
public sealed record StationTrend(string Characteristic, string Kind, double P, bool Rising, Fact Words);

/// <summary>A set of parts whose weights should match.</summary>
public sealed record WeightSet(string Kind, string Lightest, string Heaviest, double Spread, double Expanded, Fact Words);

/// <summary>A sign that Gauge makes of readings: soft evidence with the likelihoods of what was read.</summary>
public sealed record MeasuredSign(string Sign, string Place, double IfPresent, double IfAbsent, Fact Words)
{
    public bool SpeaksFor => IfPresent > IfAbsent;
}

/// <summary>What the readings of a case come to.</summary>
/// <param name="Measurable">Ids of the characteristics that an engine of this layout has.</param>
public sealed record GaugeSheet(
    IReadOnlyList<string> Measurable,
    IReadOnlyList<SheetFigure> Figures,
    IReadOnlyList<Profile> Profiles,
    IReadOnlyList<GradeCheck> Grades,
    IReadOnlyList<RingPack> Rings,
    IReadOnlyList<WeightSet> Weights,
    IReadOnlyList<StationTrend> Trends,
    IReadOnlyList<MeasuredSign> Signs,
    IReadOnlyList<Fact> Notes,
    decimal? StandardPin
)
{
    /// <summary>Rounds that can be measured now and are not, what comes first on top.</summary>
    public IReadOnlyList<DueRound> Due { get; init; } = [];

    private Dictionary<(string Place, string Characteristic), SheetFigure>? _latest;
    private Dictionary<(string Place, string Characteristic, Phase Phase), Profile>? _shapes;

    /// <summary>The figures that decide: once a part was worked on, how it was found no longer does.</summary>
    [JsonIgnore]
    public IReadOnlyCollection<SheetFigure> Current => Latest.Values;

    /// <summary>The figure that decides; null where there is none.</summary>
    public SheetFigure? Now(string place, string characteristic) => Latest.GetValueOrDefault((place, characteristic));

    /// <summary>The shape of a part as it decides; null where it was measured at one point only, or not at all.</summary>
    public Profile? ShapeNow(string place, string characteristic)
    {
        _shapes ??= Profiles.ToDictionary(p => (p.Place, p.Characteristic, p.Phase));
        return Now(place, characteristic) is { } now ? _shapes.GetValueOrDefault((place, characteristic, now.Phase)) : null;
    }

    private Dictionary<(string Place, string Characteristic), SheetFigure> Latest =>
        _latest ??= Figures.GroupBy(f => (f.Place, f.Characteristic)).ToDictionary(g => g.Key, g => g.MaxBy(f => f.Phase)!);
}
