using VividSleuth.Core.Arrival;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Cases;

/// <summary>
/// Whatever a person enters into a case. The id is made by the client (UUIDv7), so that a repeated request changes nothing;
/// the version grows with each change, so that a lost race is noticed. Nothing is deleted: a record is withdrawn with a reason.
/// </summary>
public abstract class CaseRecord
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    /// <summary>When and by whom it was last written; earlier states are in the case's changes.</summary>
    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnWhy { get; set; }

    public bool Stands() => WithdrawnAt is null;
}

/// <summary>One engine on the bench, from arrival to dossier.</summary>
public sealed class EngineCase : CaseRecord
{
    public string Title { get; set; } = "";

    public string Owner { get; set; } = "";

    public string EngineName { get; set; } = "";

    public string Serial { get; set; } = "";

    public decimal? Hours { get; set; }

    public required EngineLayout Layout { get; set; }

    /// <summary>Why it is here, in the customer's words.</summary>
    public string Complaint { get; set; } = "";

    /// <summary>What is known of its past, as told.</summary>
    public string Past { get; set; } = "";

    /// <summary>Answers to the risks of the knowledge base (rebuilt lately, wrong oil …): id → said to be so or not.</summary>
    public Dictionary<string, bool> Risks { get; set; } = [];

    /// <summary>Id of the strip script; empty takes the one that fits the layout best.</summary>
    public string Script { get; set; } = "";

    /// <summary>Piston stroke in mm, for the crank help; null when nobody entered it.</summary>
    public decimal? Stroke { get; set; }

    /// <summary>Length of the rods between centres in mm.</summary>
    public decimal? RodLength { get; set; }

    /// <summary>The case this one was read from, when it came as a file.</summary>
    public Guid? ImportedFrom { get; set; }

    public List<Part> Parts { get; set; } = [];

    public List<StepRecord> Steps { get; set; } = [];

    public List<OwnStep> OwnSteps { get; set; } = [];

    public List<StepMark> StepMarks { get; set; } = [];

    public List<FastenerMove> FastenerMoves { get; set; } = [];

    public List<SignOff> SignOffs { get; set; } = [];

    public List<Renumbering> Renumberings { get; set; } = [];

    public List<Finding> Findings { get; set; } = [];

    public List<Photo> Photos { get; set; } = [];

    public List<PhotoMark> PhotoMarks { get; set; } = [];

    public List<Debris> Debris { get; set; } = [];

    public List<Reading> Readings { get; set; } = [];

    public List<Limit> Limits { get; set; } = [];

    public List<PartVerdict> Verdicts { get; set; } = [];

    public List<Conclusion> Conclusions { get; set; } = [];

    /// <summary>All that was entered into the case, without the case's own sheet.</summary>
    public IEnumerable<CaseRecord> Records() =>
        [
            .. Parts,
            .. Steps,
            .. OwnSteps,
            .. StepMarks,
            .. FastenerMoves,
            .. SignOffs,
            .. Renumberings,
            .. Findings,
            .. Photos,
            .. PhotoMarks,
            .. Debris,
            .. Readings,
            .. Limits,
            .. Verdicts,
            .. Conclusions,
        ];
}

public enum MarkMethod
{
    None,
    MakersMark,
    NumberPunch,
    Engraver,
    Scratch,
    Paint,
    FeltPen,
}

/// <summary>The way a mark, arrow or notch looks while the part is in its place, seen from the free end.</summary>
public enum Facing
{
    Unknown,
    FreeEnd,
    DriveEnd,
    Left,
    Right,
}

public enum Custody
{
    OnEngine,
    Bench,
    Bag,
    Box,
    MachineShop,
    Welder,
    Supplier,
    Customer,
    Scrapped,
}

/// <summary>A tagged part: its mark, which way round it sits, what is stamped on it and where it is now.</summary>
public sealed class Part : CaseRecord
{
    public string Place { get; set; } = "";

    /// <summary>The mark as it stands on the part.</summary>
    public string Mark { get; set; } = "";

    public MarkMethod Method { get; set; }

    /// <summary>True when the maker put the same mark on every part of the kind: it proves the side, not the pair.</summary>
    public bool SameOnAll { get; set; }

    public Facing Facing { get; set; }

    /// <summary>Size grade as stamped: STD, 0.25, .010 …</summary>
    public string GradeStamped { get; set; } = "";

    public Custody Custody { get; set; }

    /// <summary>Which bag, which bench row, which shop.</summary>
    public string Where { get; set; } = "";

    /// <summary>When it was sent out of the shop; null while it is here.</summary>
    public DateOnly? Sent { get; set; }

    /// <summary>When it should be back.</summary>
    public DateOnly? DueBack { get; set; }

    /// <summary>Which side is up, in words: a ring's mark, a washer's chamfer.</summary>
    public string SideUp { get; set; } = "";

    /// <summary>Weight in g, for matching sets.</summary>
    public decimal? Weight { get; set; }

    /// <summary>The address that is still written on the part after a renumbering; empty when the mark is up to date.</summary>
    public string MarkedAs { get; set; } = "";

    public string Remarks { get; set; } = "";
}

public enum StepState
{
    Done,
    Skipped,
}

/// <summary>A step of the strip, done or skipped.</summary>
public sealed class StepRecord : CaseRecord
{
    public string Step { get; set; } = "";

    public StepState State { get; set; }

    /// <summary>Why the step was skipped; of older records also why it was done in spite of a lock.</summary>
    public string Reason { get; set; } = "";

    /// <summary>Locks that were opened, each by a reason of its own.</summary>
    public List<StepOverride> Overrides { get; set; } = [];
}

/// <summary>What can hold a step back.</summary>
public enum StepLock
{
    /// <summary>A hold point before it is not signed.</summary>
    HoldPoint,

    /// <summary>A step that comes first is not done.</summary>
    Order,

    /// <summary>It would destroy what nobody has read.</summary>
    Unread,

    /// <summary>Fasteners out are not as many as expected.</summary>
    FastenersOut,

    /// <summary>Lengths differ and some holes have none noted.</summary>
    Hole,
}

/// <summary>One lock, opened in spite of what it says.</summary>
public sealed class StepOverride
{
    public StepLock Lock { get; set; }

    public string Reason { get; set; } = "";
}

/// <summary>A step added to this case's strip, or one of the script's as it is done here. The latest for a step counts.</summary>
public sealed class OwnStep : CaseRecord
{
    public required StripStep Step { get; set; }

    /// <summary>Why it differs from the script.</summary>
    public string Reason { get; set; } = "";
}

public enum StepMarkKind
{
    Started,
    Stopped,
    Ticked,
    Unticked,
}

/// <summary>The clock of a step started or stopped, or one of its ticks set or taken back.</summary>
public sealed class StepMark : CaseRecord
{
    public string Step { get; set; } = "";

    public StepMarkKind Kind { get; set; }

    /// <summary>Which tick, from 0.</summary>
    public int Item { get; set; }
}

public enum FastenerState
{
    /// <summary>Came out.</summary>
    Out,

    /// <summary>Went back in.</summary>
    BackIn,

    /// <summary>Broke, and its rest is still in the hole.</summary>
    Broken,

    /// <summary>The rest was soaked.</summary>
    Soaked,

    /// <summary>The rest was drilled.</summary>
    Drilled,

    /// <summary>The rest was left for the machine shop.</summary>
    Sent,

    /// <summary>The rest is out of the hole.</summary>
    RestOut,
}

public enum Keeping
{
    /// <summary>Back in its own hole.</summary>
    OwnHole,

    /// <summary>Bagged and labelled by stage.</summary>
    Bag,

    /// <summary>On the bench in order of removal.</summary>
    BenchRow,
}

/// <summary>Something that happened to fasteners of a set: n came out, one broke, its rest came out.</summary>
public sealed class FastenerMove : CaseRecord
{
    public string Step { get; set; } = "";

    /// <summary>Id of the set within the step.</summary>
    public string Set { get; set; } = "";

    public FastenerState State { get; set; }

    /// <summary>How many; one for a broken one.</summary>
    public int Count { get; set; } = 1;

    /// <summary>Number of the hole in the hole map, from 1; 0 where none is kept.</summary>
    public int Hole { get; set; }

    /// <summary>Length under the head in mm, where a set holds several.</summary>
    public decimal? Length { get; set; }

    public Keeping Keeping { get; set; }

    /// <summary>Which bag, which row.</summary>
    public string Where { get; set; } = "";

    public string Note { get; set; } = "";
}

/// <summary>A hold point, checked and signed.</summary>
public sealed class SignOff : CaseRecord
{
    public string Step { get; set; } = "";

    /// <summary>Role of the person who signed.</summary>
    public string Role { get; set; } = "";

    public string Note { get; set; } = "";
}

/// <summary>The numbering of the engine changed: every record moved to the address its part has now.</summary>
public sealed class Renumbering : CaseRecord
{
    public required EngineLayout Before { get; set; }

    public required EngineLayout After { get; set; }

    /// <summary>Old address → new one, where they differ.</summary>
    public Dictionary<string, string> Map { get; set; } = [];

    public string Why { get; set; } = "";
}

public enum Seen
{
    Present,
    Absent,
}

/// <summary>A sign at a place: seen with a level from 1 (slight) to 3 (severe), or looked for and not there (level 0).</summary>
public sealed class Finding : CaseRecord
{
    public string Place { get; set; } = "";

    public string Sign { get; set; } = "";

    public Seen Seen { get; set; }

    public int Level { get; set; }

    /// <summary>Where on the part, in words.</summary>
    public string Spot { get; set; } = "";

    /// <summary>Zones of the part's map that it covers: letter of the row and number of the column, such as C4.</summary>
    public List<string> Zones { get; set; } = [];

    /// <summary>Marks on photographs that show it.</summary>
    public List<Guid> Marks { get; set; } = [];

    public string Note { get; set; } = "";
}

/// <summary>A photograph of a place. The picture itself is kept apart; here is what proves which one it was.</summary>
public sealed class Photo : CaseRecord
{
    public string Place { get; set; } = "";

    public string FileName { get; set; } = "";

    /// <summary>SHA-256 of the file as it came, in lower-case hexadecimal.</summary>
    public string Sha256 { get; set; } = "";

    public int Width { get; set; }

    public int Height { get; set; }

    public long Bytes { get; set; }

    public string Caption { get; set; } = "";

    /// <summary>Id of the step before which it was taken; empty when it belongs to none.</summary>
    public string Step { get; set; } = "";

    /// <summary>Id of the shot of the shot list that it is; empty for any other picture.</summary>
    public string Shot { get; set; } = "";
}

public enum PhotoMarkKind
{
    /// <summary>Points from its first point to its second.</summary>
    Arrow,

    /// <summary>A circle: centre, and a point on it.</summary>
    Ring,

    /// <summary>A known length between two points, from which the sizes of the other marks follow.</summary>
    Scale,
}

/// <summary>A mark laid over a photograph; the picture itself stays as it is.</summary>
public sealed class PhotoMark : CaseRecord
{
    public Guid Photo { get; set; }

    public PhotoMarkKind Kind { get; set; }

    /// <summary>First point, as shares of the picture's width and height from its upper left corner.</summary>
    public double X1 { get; set; }

    public double Y1 { get; set; }

    public double X2 { get; set; }

    public double Y2 { get; set; }

    /// <summary>Length between the points in mm; only of a scale.</summary>
    public decimal? Length { get; set; }

    public string Label { get; set; } = "";
}

public enum DebrisMaterial
{
    /// <summary>A magnet takes it.</summary>
    MagneticMetal,

    OtherMetal,
    Sealant,
    Plastic,
    Rubber,
    Carbon,
    Fibre,
    Grit,
    Unknown,
}

public enum DebrisColour
{
    Unknown,
    Grey,
    Bright,
    CopperOrBronze,
    Brass,
    Black,
    Rust,
    Clear,
    Coloured,
}

public enum DebrisForm
{
    Unknown,
    Dust,
    Flake,
    Sliver,
    Curl,
    Chip,
    Lump,
    Needle,
    String,
    Bead,
    Paste,
}

/// <summary>What lay in pan, screen or filter.</summary>
public sealed class Debris : CaseRecord
{
    public string Place { get; set; } = "";

    public DebrisMaterial Material { get; set; }

    /// <summary>Null when nobody tried.</summary>
    public bool? Hard { get; set; }

    public DebrisColour Colour { get; set; }

    public DebrisForm Form { get; set; }

    /// <summary>How many pieces, counted or guessed; null when past counting.</summary>
    public int? Count { get; set; }

    /// <summary>Length of the largest piece in mm.</summary>
    public decimal? Size { get; set; }

    public string Note { get; set; } = "";
}

public enum Phase
{
    AsFound,

    /// <summary>After machining, cleaning or fitting.</summary>
    AfterWork,
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

    /// <summary>The unit that was typed or set.</summary>
    public string Unit { get; set; } = "";

    public string Instrument { get; set; } = "";

    /// <summary>Temperature of the part in °C when it was measured; null when nobody looked.</summary>
    public decimal? Temperature { get; set; }

    /// <summary>Temperature of the instrument in °C; null when nobody looked.</summary>
    public decimal? GaugeTemperature { get; set; }

    /// <summary>Who read it off, where another typed it.</summary>
    public string ReadBy { get; set; } = "";

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
}

public enum VerdictAction
{
    Reuse,
    CleanAndReuse,
    Machine,
    Repair,
    Replace,
    Specialist,
}

public sealed class PartVerdict : CaseRecord
{
    public string Place { get; set; } = "";

    public VerdictAction Action { get; set; }

    public string Reason { get; set; } = "";

    /// <summary>The figure it rests on, as it stood when the verdict was given.</summary>
    public string Figure { get; set; } = "";
}

public enum Confidence
{
    Proven,
    Probable,
    Possible,
    Undetermined,
}

/// <summary>The mechanic's own finding on the cause; it stands beside the computation's.</summary>
public sealed class Conclusion : CaseRecord
{
    /// <summary>Id of a story of the knowledge base, or empty when none of them.</summary>
    public string Story { get; set; } = "";

    public string Place { get; set; } = "";

    public Confidence Confidence { get; set; }

    /// <summary>Whose doing it was, as far as it can be told.</summary>
    public Fault Fault { get; set; }

    public string Reasons { get; set; } = "";

    /// <summary>Id of the story that the computation put first when this was written; empty when it was not asked.</summary>
    public string ComputedStory { get; set; } = "";

    public string ComputedPlace { get; set; } = "";

    /// <summary>Probability of that story then, 0 to 1.</summary>
    public double? Computed { get; set; }

    /// <summary>Probability that the computation then gave to what is found here, 0 to 1; null where it did not rank it.</summary>
    public double? ComputedForThis { get; set; }
}

/// <summary>Whose doing a failure was. A report must be fair: not known is an honest answer.</summary>
public enum Fault
{
    NotKnown,
    OwnWork,
    EarlierWork,
    PartDefect,
    Use,
}

/// <summary>One change of one record: who, when, and what it was before.</summary>
public sealed class Change
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    public string Kind { get; set; } = "";

    public Guid RecordId { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    /// <summary>The record before the change, as JSON; null when it was new.</summary>
    public string? Before { get; set; }
}
