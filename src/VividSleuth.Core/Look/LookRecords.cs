using System.Text.Json.Serialization;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Look;

public enum Seen
{
    Present,
    Absent,
}

/// <summary>Whose doing it is.</summary>
public enum DoneBy
{
    /// <summary>The engine’s own: how it ran, wore and failed.</summary>
    Running,

    /// <summary>It happened getting it apart.</summary>
    Strip,

    /// <summary>An earlier hand’s: chisel marks, a drilled stud, a bodge.</summary>
    EarlierHand,

    /// <summary>Seen after it was built and ran again: it tells of the build, and not of why it came.</summary>
    RunAgain,
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

    /// <summary>Whose doing it is; what the strip or an earlier hand did is told, and says nothing of why the engine failed.</summary>
    public DoneBy DoneBy { get; set; }

    /// <summary>Told by the hand alone: turned, rocked or lifted, and found so; the place was not opened.</summary>
    public bool Felt { get; set; }

    /// <summary>
    /// How likely it is so, where it was reckoned and not seen, such as from a sound: at even odds beforehand, from 0.5 to 1. Null where somebody saw,
    /// felt or was told it.
    /// </summary>
    public double? Chance { get; set; }

    /// <summary>Seen for itself and no hint: only that condemns a part.</summary>
    [JsonIgnore]
    public bool IsSeenForItself => !Felt && Chance is null;

    public string Note { get; set; } = "";

    /// <summary>It may tell why the engine failed.</summary>
    [JsonIgnore]
    public bool IsEvidence => DoneBy == DoneBy.Running;
}

/// <summary>What a test of a part came to, and who answers for it.</summary>
public sealed class Examination : CaseRecord
{
    public string Place { get; set; } = "";

    /// <summary>Id of an examination of the knowledge base.</summary>
    public string Check { get; set; } = "";

    /// <summary>It passed: no crack, tight, straight, hard enough.</summary>
    public bool Passed { get; set; }

    /// <summary>Who tested it: the shop or person whose word it is.</summary>
    public string TestedBy { get; set; } = "";

    /// <summary>How, and the number of the sheet.</summary>
    public string Remarks { get; set; } = "";

    /// <summary>Of each place and examination the one that counts: the last that stands.</summary>
    public static IReadOnlyDictionary<(string Place, string Check), Examination> Last(IEnumerable<Examination> all) =>
        all.Where(e => e.Stands()).GroupBy(e => (e.Place, e.Check)).ToDictionary(g => g.Key, g => g.OrderBy(e => e.At).ThenBy(e => e.Id).Last());
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

    /// <inheritdoc cref="Finding.DoneBy"/>
    public DoneBy DoneBy { get; set; }

    public string Note { get; set; } = "";
}
