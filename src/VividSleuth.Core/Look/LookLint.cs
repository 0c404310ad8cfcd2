using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Look;

/// <summary>What Look asks of its entries: signs, patterns, shots and sources of debris.</summary>
public static class LookLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) =>
        [
            .. knowledge.Signs.SelectMany(s => Sign(s, knowledge)),
            .. knowledge.Shots.SelectMany(Shot),
            .. knowledge.DebrisSources.SelectMany(d => Source(d, knowledge)),
        ];

    private static IEnumerable<KnowledgeFault> Sign(SignEntry sign, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(sign, sign.On),
            .. Lints.Need(
                sign,
                sign.Measured || sign.Levels.Count == 3,
                $"“{sign.Id}” needs three levels.",
                "Say what slight, marked and severe mean."
            ),
            .. Lints.Need(
                sign,
                sign.CrackFrom is >= 0 and <= 3,
                $"“{sign.Id}” is a crack from level {sign.CrackFrom}.",
                "Give a level from 1 to 3, or 0."
            ),
            .. Lints.Need(
                sign,
                sign.Measured || sign is { Looks.Length: > 0, How.Length: > 0, ConfusedWith.Length: > 0 },
                $"“{sign.Id}” does not say what it looks like, how to look or what it is confused with.",
                "Say all three."
            ),
            .. Drawing(sign),
            .. Pattern(sign, knowledge),
            .. Lints.Need(
                sign,
                sign.With.Length > 0,
                $"“{sign.Id}” does not say with what one looks for it.",
                "Name the tool: lens, lamp, feelers …"
            ),
        ];

    private static IEnumerable<KnowledgeFault> Drawing(SignEntry sign)
    {
        if (sign.Measured)
        {
            return [];
        }

        try
        {
            SignDrawing.Parse(sign.Draw);
            return [];
        }
        catch (FormatException e)
        {
            return [new KnowledgeFault(sign, $"The drawing of “{sign.Id}” cannot be drawn: {e.Message}", "Mend its line “draw”.")];
        }
    }

    private static IEnumerable<KnowledgeFault> Pattern(SignEntry sign, KnowledgeBase knowledge)
    {
        if (sign.Pattern is not { } pattern)
        {
            return [];
        }

        var unknown = pattern.Of.Find(s => knowledge.Sign(s) is null) ?? pattern.Figures.Find(c => knowledge.Characteristic(c) is null);
        return
        [
            .. Lints.Need(
                sign,
                pattern.Shape is PatternShape.AlongTheOil or PatternShape.TowardOneEnd or PatternShape.AllAlike,
                $"“{sign.Id}” is a pattern that no test speaks of.",
                "Use along-the-oil, toward-one-end or all-alike; the other shapes weigh by the places of each sign."
            ),
            .. Lints.Need(
                sign,
                unknown is null,
                $"“{sign.Id}” is a pattern of the unknown “{unknown}”.",
                "Use ids from signs/ and characteristics/."
            ),
        ];
    }

    private static IEnumerable<KnowledgeFault> Shot(ShotEntry shot) =>
        [
            .. Lints.Kinds(shot, shot.On),
            .. Lints.Need(
                shot,
                shot is { On.Count: > 0, How.Length: > 0, Why.Length: > 0 },
                $"“{shot.Id}” does not say of what, how or why.",
                "Say all three."
            ),
        ];

    private static IEnumerable<KnowledgeFault> Source(DebrisSourceEntry source, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(source, source.From),
            .. Lints.Need(source, source.Material.Count > 0, $"“{source.Id}” is of no material.", "Give at least one."),
            .. Lints.Need(
                source,
                source.Sign.Length == 0 || knowledge.Sign(source.Sign) is not null,
                $"“{source.Id}” names the unknown sign “{source.Sign}”.",
                "Use an id from signs/."
            ),
        ];
}
