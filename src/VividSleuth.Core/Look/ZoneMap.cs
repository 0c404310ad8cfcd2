using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Look;

/// <summary>How a face is laid flat.</summary>
public enum FaceShape
{
    /// <summary>Columns beside each other, rows below each other.</summary>
    Unwrapped,

    /// <summary>Seen from above: columns as sectors, rows as rings from the outside in.</summary>
    Round,
}

/// <summary>What columns or rows count. Two faces that share an axis can be held against each other.</summary>
public enum ZoneAxis
{
    /// <summary>Its own; shared with no other part.</summary>
    Own,

    /// <summary>Hours seen from the head, 12 toward the free end: bore, piston and rings as they lay.</summary>
    CylinderClock,

    /// <summary>Hours on the crankshaft, 12 where the pin of cylinder 1 points.</summary>
    CrankClock,

    /// <summary>From the free end to the drive end across a bearing.</summary>
    CrankWidth,

    /// <summary>Arc of a shell from the parting line on the left to the one on the right, seen from the free end.</summary>
    ShellArc,

    /// <summary>From the free end to the drive end across a lobe.</summary>
    LobeWidth,
}

/// <param name="Letter">Names the row in a zone's code; unique in the map.</param>
/// <param name="Size">Share of the face's height, or of its radius.</param>
/// <param name="Edge">What the row borders on when it lies at an edge; empty otherwise.</param>
public sealed record ZoneRow(string Letter, string Id, double Size, string Edge = "")
{
    public Fact Words => Fact.Of($"zone.row.{Id}");

    /// <summary>The edge in words, or null where it lies at none.</summary>
    public Fact? EdgeWords => Edge.Length > 0 ? Fact.Of($"zone.edge.{Edge}") : null;
}

/// <summary>Something marked on the map for finding one's way: thrust side, oil hole, exhaust port.</summary>
/// <param name="Column">Middle of it, as a column number.</param>
/// <param name="Width">Columns that it spans.</param>
/// <param name="Row">Letter of the row it lies in; empty when it spans all.</param>
/// <param name="IsSide">True for a side of the part by which a position is told.</param>
public sealed record ZoneFeature(string Id, double Column, double Width, string Row = "", bool IsSide = false)
{
    public Fact Words => Fact.Of($"zone.feature.{Id}");
}

/// <summary>One face of a part, divided into zones.</summary>
/// <param name="ColumnWords">What each column is called, from 1.</param>
public sealed record ZoneFace(
    string Id,
    FaceShape Shape,
    IReadOnlyList<Fact> ColumnWords,
    ZoneAxis ColumnAxis,
    IReadOnlyList<ZoneRow> Rows,
    ZoneAxis RowAxis,
    IReadOnlyList<ZoneFeature> Features
)
{
    public Fact Name => Fact.Of($"zone.face.{Id}");

    public int Columns => ColumnWords.Count;

    /// <summary>True where the last column lies beside the first.</summary>
    public bool Wraps => ColumnAxis is not ZoneAxis.ShellArc && Columns > 1;
}

/// <summary>A part laid flat, drawn from the layout: which zones it has and what they are called.</summary>
/// <param name="Kind">Kind of part.</param>
/// <param name="Bank">The bank it is true of: the thrust side differs between banks of a flat engine.</param>
/// <param name="Lies">How the map lies.</param>
public sealed record ZoneMap(string Kind, Bank Bank, string Lies, IReadOnlyList<ZoneFace> Faces)
{
    public Fact Says => Fact.Of($"zone.lies.{Lies}");

    /// <summary>The face and place of a zone, or null where the map has none of that code.</summary>
    public (ZoneFace Face, int Row, int Column)? Find(string zone)
    {
        if (zone.Length is < 2 or > 3 || !int.TryParse(zone.AsSpan(1), out var column))
        {
            return null;
        }

        foreach (var face in Faces)
        {
            for (var row = 0; row < face.Rows.Count; row++)
            {
                if (face.Rows[row].Letter[0] == zone[0])
                {
                    return column >= 1 && column <= face.Columns ? (face, row, column) : null;
                }
            }
        }

        return null;
    }
}

/// <summary>Draws the maps. Letters of rows follow the rule of addresses: none that reads as a digit.</summary>
public static class ZoneMaps
{
    public const string Wall = "wall";
    public const string ThrustSide = "thrust-side";
    public const string OtherSide = "anti-thrust-side";
    public const string FreeEndPin = "pin-end-free-end";
    public const string DriveEndPin = "pin-end-drive-end";
    private const string FreeEndEdge = "free-end-edge";
    private const string DriveEndEdge = "drive-end-edge";

    private static readonly Fact[] Hours = [.. Enumerable.Range(1, 12).Select(h => Fact.Of("zone.hour", ("hour", h)))];

    private static readonly Fact[] ArcWords = Columns(
        "left-parting-line",
        "beside-the-left-parting-line",
        "left-shoulder",
        "left-of-the-crown",
        "crown",
        "right-of-the-crown",
        "right-shoulder",
        "beside-the-right-parting-line",
        "right-parting-line"
    );

    private static readonly Fact[] CamWords = Columns(
        "nose",
        "closing-side-of-the-nose",
        "closing-flank",
        "closing-ramp",
        "base-circle",
        "opening-ramp",
        "opening-flank",
        "opening-side-of-the-nose"
    );

    private static Fact[] Columns(params string[] ids) => [.. ids.Select(id => Fact.Of($"zone.column.{id}"))];

    /// <summary>All maps of an engine: one for each kind, and for each bank where the banks differ.</summary>
    public static IReadOnlyList<ZoneMap> Of(AddressTable table)
    {
        var banks = table.Engine.Banks == 2 ? new[] { Bank.A, Bank.B } : [Bank.A];
        return
        [
            .. table
                .All.Select(a => a.Kind.Id)
                .Distinct(StringComparer.Ordinal)
                .SelectMany(k => banks.Select(b => Of(k, b, table.Engine)))
                .OfType<ZoneMap>(),
        ];
    }

    /// <summary>The map of a place, or null where its kind has none.</summary>
    public static ZoneMap? Of(Address place, Engine engine) => Of(place.Kind.Id, Along.BankOf(place, engine), engine);

    private static ZoneMap? Of(string kind, Bank bank, Engine engine) =>
        kind switch
        {
            PartKinds.Bore or "barrel" or "liner" => BoreMap(kind, bank, engine),
            PartKinds.Piston => PistonMap(bank, engine),
            var ring when PartKinds.Rings.Contains(ring) => RingMap(kind, bank, engine),
            PartKinds.RodShellUpper or PartKinds.RodShellLower or "main-shell-upper" or "main-shell-lower" => ShellMap(kind, bank),
            PartKinds.Crankpin or PartKinds.MainJournal => JournalMap(kind, bank),
            "lobe-inlet" or "lobe-exhaust" or "injection-lobe" => LobeMap(kind, bank),
            "seat-inlet" or "seat-exhaust" => SeatMap(kind, bank, engine),
            "valve-inlet" or "valve-exhaust" => ValveMap(kind, bank),
            "lifter-inlet" or "lifter-exhaust" => FaceMap(kind, bank, "follower"),
            "main-bearing" or "rod-bearing" or "small-end" => RollingMap(kind, bank),
            "flywheel" or "pressure-plate" => FaceMap(kind, bank, "friction-face"),
            "pickup" => FaceMap(kind, bank, "screen"),
            _ => null,
        };

    private static ZoneMap BoreMap(string kind, Bank bank, Engine engine)
    {
        var features = new List<ZoneFeature>(Thrust(bank, engine));
        var twoStroke = engine.Layout.Cycle == WorkingCycle.TwoStroke;
        if (engine.Layout.ExhaustAt is { } exhaust)
        {
            features.Add(
                new ZoneFeature(twoStroke ? "exhaust-port" : "exhaust-side", exhaust, twoStroke ? 2 : 1, twoStroke ? "F" : "A", IsSide: true)
            );
            if (twoStroke)
            {
                features.Add(new ZoneFeature("transfer-port", Hour(exhaust + 3), 2, "F"));
                features.Add(new ZoneFeature("transfer-port", Hour(exhaust - 3), 2, "F"));
                features.Add(new ZoneFeature("inlet-port", Hour(exhaust + 6), 2, "H", IsSide: true));
            }
        }

        return new ZoneMap(
            kind,
            bank,
            "bore",
            [
                new ZoneFace(
                    Wall,
                    FaceShape.Unwrapped,
                    Hours,
                    ZoneAxis.CylinderClock,
                    [
                        new ZoneRow("A", "above-ring-travel", 0.08, "deck"),
                        new ZoneRow("C", "where-the-top-ring-turns", 0.12),
                        new ZoneRow("E", "upper", 0.25),
                        new ZoneRow("F", "middle", 0.25),
                        new ZoneRow("H", "lower", 0.2),
                        new ZoneRow("J", "below-ring-travel", 0.1, "skirt-end"),
                    ],
                    ZoneAxis.Own,
                    features
                ),
            ]
        );
    }

    private static ZoneMap PistonMap(Bank bank, Engine engine)
    {
        var rings = engine.Layout.RingsPerPiston;
        var thrust = Thrust(bank, engine).ToArray();
        var sides = thrust
            .Append(new ZoneFeature(FreeEndPin, 12, 2, "R", IsSide: true))
            .Append(new ZoneFeature(DriveEndPin, 6, 2, "R", IsSide: true));
        ZoneRow[] rows =
        [
            new ZoneRow("H", "top-land", 0.1, "crown-edge"),
            new ZoneRow("J", "top-groove", 0.06),
            .. rings >= 2 ? new[] { new ZoneRow("K", "second-land", 0.06), new ZoneRow("L", "second-groove", 0.06) } : [],
            .. rings >= 3 ? new[] { new ZoneRow("M", "third-land", 0.06), new ZoneRow("N", "oil-ring-groove", 0.08) } : [],
            new ZoneRow("P", "upper-skirt", 0.18),
            new ZoneRow("R", "skirt-at-the-pin", 0.2),
            new ZoneRow("T", "lower-skirt", 0.2, "skirt-end"),
        ];
        ZoneFeature[] crown = engine.Layout.ExhaustAt is { } at ? [.. thrust, new ZoneFeature("exhaust-side", at, 1, "A", IsSide: true)] : thrust;
        return new ZoneMap(
            PartKinds.Piston,
            bank,
            "piston",
            [
                new ZoneFace(
                    "crown",
                    FaceShape.Round,
                    Hours,
                    ZoneAxis.CylinderClock,
                    [
                        new ZoneRow("A", "edge-of-the-crown", 0.3, "crown-edge"),
                        new ZoneRow("C", "crown-half-way-in", 0.35),
                        new ZoneRow("E", "middle-of-the-crown", 0.35),
                    ],
                    ZoneAxis.Own,
                    crown
                ),
                new ZoneFace("side", FaceShape.Unwrapped, Hours, ZoneAxis.CylinderClock, rows, ZoneAxis.Own, [.. sides]),
            ]
        );
    }

    private static ZoneMap RingMap(string kind, Bank bank, Engine engine) =>
        new(
            kind,
            bank,
            "ring",
            [
                new ZoneFace(
                    "ring",
                    FaceShape.Unwrapped,
                    Hours,
                    ZoneAxis.CylinderClock,
                    [
                        new ZoneRow("A", "upper-flank", 0.25, "upper-flank"),
                        new ZoneRow("C", "running-face", 0.3),
                        new ZoneRow("E", "lower-flank", 0.25, "lower-flank"),
                        new ZoneRow("F", "gap", 0.2),
                    ],
                    ZoneAxis.Own,
                    [.. Thrust(bank, engine)]
                ),
            ]
        );

    private static ZoneMap ShellMap(string kind, Bank bank)
    {
        var upper = kind is PartKinds.RodShellUpper or "main-shell-upper";
        return new ZoneMap(
            kind,
            bank,
            "shell",
            [
                new ZoneFace(
                    "running-face",
                    FaceShape.Unwrapped,
                    ArcWords,
                    ZoneAxis.ShellArc,
                    Widths("A", "C", "E", "F", "H"),
                    ZoneAxis.CrankWidth,
                    upper ? [new ZoneFeature("oil-hole", 5, 0.6, "E")] : []
                ),
                new ZoneFace(
                    "back",
                    FaceShape.Unwrapped,
                    ArcWords,
                    ZoneAxis.ShellArc,
                    [
                        new ZoneRow("K", "back-free-end-side", 0.33, FreeEndEdge),
                        new ZoneRow("L", "back-middle", 0.34),
                        new ZoneRow("M", "back-drive-end-side", 0.33, DriveEndEdge),
                    ],
                    ZoneAxis.CrankWidth,
                    [new ZoneFeature("tang-or-dowel", 1, 0.8, "K")]
                ),
            ]
        );
    }

    private static ZoneMap JournalMap(string kind, Bank bank) =>
        new(
            kind,
            bank,
            kind == PartKinds.Crankpin ? "crankpin" : "journal",
            [
                new ZoneFace(
                    "journal",
                    FaceShape.Unwrapped,
                    Hours,
                    kind == PartKinds.Crankpin ? ZoneAxis.Own : ZoneAxis.CrankClock,
                    Widths("A", "C", "E", "F", "H", "fillet"),
                    ZoneAxis.CrankWidth,
                    [new ZoneFeature("oil-hole", 12, 0.6, "E")]
                ),
            ]
        );

    private static ZoneMap LobeMap(string kind, Bank bank) =>
        new(
            kind,
            bank,
            "lobe",
            [
                new ZoneFace(
                    "lobe",
                    FaceShape.Unwrapped,
                    CamWords,
                    ZoneAxis.Own,
                    [
                        new ZoneRow("A", "free-end-side", 0.33, FreeEndEdge),
                        new ZoneRow("C", "middle", 0.34),
                        new ZoneRow("E", "drive-end-side", 0.33, DriveEndEdge),
                    ],
                    ZoneAxis.LobeWidth,
                    [new ZoneFeature("nose", 1, 1)]
                ),
            ]
        );

    private static ZoneMap SeatMap(string kind, Bank bank, Engine engine) =>
        new(
            kind,
            bank,
            "seat",
            [
                new ZoneFace(
                    "seat",
                    FaceShape.Round,
                    Hours,
                    ZoneAxis.CylinderClock,
                    [
                        new ZoneRow("A", "outer-edge", 0.25, "outer-edge"),
                        new ZoneRow("C", "where-the-valve-sits", 0.4),
                        new ZoneRow("E", "throat", 0.35, "throat"),
                    ],
                    ZoneAxis.Own,
                    engine.Layout.ExhaustAt is { } at ? [new ZoneFeature("exhaust-side", at, 1)] : []
                ),
            ]
        );

    private static ZoneMap ValveMap(string kind, Bank bank) =>
        new(
            kind,
            bank,
            "valve",
            [
                new ZoneFace(
                    "valve",
                    FaceShape.Unwrapped,
                    Hours,
                    ZoneAxis.Own,
                    [
                        new ZoneRow("A", "tip-and-keeper-groove", 0.15, "tip"),
                        new ZoneRow("C", "stem-in-the-guide", 0.4),
                        new ZoneRow("E", "neck", 0.2),
                        new ZoneRow("F", "seat-face", 0.1),
                        new ZoneRow("H", "head", 0.15, "head"),
                    ],
                    ZoneAxis.Own,
                    []
                ),
            ]
        );

    private static ZoneMap RollingMap(string kind, Bank bank) =>
        new(
            kind,
            bank,
            "rolling",
            [
                new ZoneFace(
                    "bearing",
                    FaceShape.Round,
                    Hours,
                    ZoneAxis.Own,
                    [
                        new ZoneRow("A", "seat-of-the-outer-ring", 0.1, "outer-seat"),
                        new ZoneRow("C", "outer-raceway", 0.2),
                        new ZoneRow("E", "balls-or-rollers", 0.25),
                        new ZoneRow("F", "cage", 0.1),
                        new ZoneRow("H", "inner-raceway", 0.2),
                        new ZoneRow("J", "seat-on-the-shaft", 0.15, "shaft-seat"),
                    ],
                    ZoneAxis.Own,
                    []
                ),
            ]
        );

    private static ZoneMap FaceMap(string kind, Bank bank, string lies) =>
        new(
            kind,
            bank,
            lies,
            [
                new ZoneFace(
                    "face",
                    FaceShape.Round,
                    Hours,
                    ZoneAxis.Own,
                    [new ZoneRow("A", "edge", 0.25, "edge"), new ZoneRow("C", "half-way-in", 0.4), new ZoneRow("E", "middle", 0.35)],
                    ZoneAxis.Own,
                    []
                ),
            ]
        );

    private static ZoneRow[] Widths(string a, string b, string c, string d, string e, string edge = "edge") =>
        [
            new ZoneRow(a, $"free-end-{edge}", 0.1, FreeEndEdge),
            new ZoneRow(b, "free-end-side", 0.25),
            new ZoneRow(c, "middle", 0.3),
            new ZoneRow(d, "drive-end-side", 0.25),
            new ZoneRow(e, $"drive-end-{edge}", 0.1, DriveEndEdge),
        ];

    private static ZoneFeature[] Thrust(Bank bank, Engine engine)
    {
        var side = engine.Cylinders.First(c => c.Bank == bank).MajorThrustSide;
        var hour = HourOf(side, bank, engine.Layout);
        return [new ZoneFeature(ThrustSide, hour, 3, IsSide: true), new ZoneFeature(OtherSide, Hour(hour + 6), 3, IsSide: true)];
    }

    /// <summary>
    /// The hour at which a side of the bore lies, seen from the head with 12 toward the free end. Whoever stands at the free end
    /// faces 6 o'clock and has 3 on the left; of a flat engine the bank on the left has 3 at the bottom, the one on the right at the top.
    /// </summary>
    public static int HourOf(Side side, Bank bank, EngineLayout layout)
    {
        var left = (bank == Bank.A) == layout.BankAOnTheLeft;
        return side switch
        {
            Side.Left => 3,
            Side.Right => 9,
            Side.Bottom => left ? 3 : 9,
            Side.Top => left ? 9 : 3,
            _ => throw new ArgumentOutOfRangeException(nameof(side)),
        };
    }

    /// <summary>An hour brought back to 1–12.</summary>
    public static int Hour(int hour) => ((hour - 1) % 12 + 12) % 12 + 1;
}
