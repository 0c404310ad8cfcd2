using System.Globalization;

namespace VividSleuth.Core.Look;

/// <summary>A mark of a drawing: what is drawn, and the box in which it lies, in hundredths of the part's face.</summary>
public sealed record DrawnShape(string Kind, double X, double Y, double Width, double Height);

/// <summary>
/// How a sign is drawn: an outline of the part, and on it the marks of the damage. Written in one line, “shell: scores 10 20 80 40;
/// specks 60 30 20 20”: the part, then each mark with left, top, width and height of its box in hundredths. A mark without a box
/// fills the face. The strokes themselves are drawn by the screen.
/// </summary>
public sealed record SignDrawing(string Base, IReadOnlyList<DrawnShape> Marks)
{
    /// <summary>Outlines that can be drawn.</summary>
    public static IReadOnlyList<string> Bases { get; } =
    [
        "piston",
        "crown",
        "ring",
        "groove",
        "bore",
        "shell",
        "back",
        "journal",
        "ball-bearing",
        "race",
        "lobe",
        "lifter",
        "valve",
        "seat",
        "spring",
        "rocker",
        "rod",
        "pin",
        "head",
        "pan",
        "screen",
        "tube",
        "plunger",
        "plug",
        "disc",
        "gear",
        "chain",
        "casting",
        "cloth",
        "stick",
        "bolt",
        "shaft-end",
        "dial",
        "port",
    ];

    /// <summary>Marks that can be drawn.</summary>
    public static IReadOnlyList<string> MarkKinds { get; } =
    [
        "scores",
        "scratches",
        "hatch",
        "pits",
        "specks",
        "smear",
        "sheen",
        "crack",
        "craze",
        "break",
        "heat",
        "fret",
        "blots",
        "rust",
        "carbon",
        "melt",
        "hole",
        "dent",
        "chip",
        "step",
        "band",
        "strings",
        "sludge",
        "flakes",
        "film",
        "drops",
        "wear",
        "tilt",
        "turn",
        "gap",
        "figures",
        "missing",
        "bulge",
        "ripples",
        "erosion",
    ];

    /// <exception cref="ProblemException">The line is no drawing; the problem says where.</exception>
    public static SignDrawing Parse(string line)
    {
        var colon = line.IndexOf(':', StringComparison.Ordinal);
        var part = (colon < 0 ? line : line[..colon]).Trim();
        if (!Bases.Contains(part, StringComparer.Ordinal))
        {
            throw new ProblemException(Problem.Of("draw", "look.no-outline", ("typed", part), ("known", Bases)));
        }

        var marks = colon < 0 ? [] : line[(colon + 1)..].Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        return new SignDrawing(part, [.. marks.Select(Mark)]);
    }

    private static DrawnShape Mark(string text)
    {
        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (!MarkKinds.Contains(words[0], StringComparer.Ordinal))
        {
            throw new ProblemException(Problem.Of("draw", "look.no-mark", ("typed", words[0]), ("known", MarkKinds)));
        }

        if (words.Length == 1)
        {
            return new DrawnShape(words[0], 0, 0, 100, 100);
        }

        var box = words
            .Skip(1)
            .Select(w => double.TryParse(w, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) ? v : double.NaN)
            .ToArray();
        return box.Length == 4 && Array.TrueForAll(box, v => v is >= 0 and <= 100)
            ? new DrawnShape(words[0], box[0], box[1], box[2], box[3])
            : throw new ProblemException(Problem.Of("draw", "look.mark-without-box", ("typed", text)));
    }
}
