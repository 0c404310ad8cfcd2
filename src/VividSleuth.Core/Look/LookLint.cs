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

    private static IEnumerable<KnowledgeFault> Sign(KnownSign sign, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(sign, sign.On),
            .. Lints.Need(
                sign,
                sign.Measured || sign.Levels.Count == 3,
                Fact.Of("look.needs-three-levels", ("sign", sign.Id)),
                Fact.Of("look.say-what-slight-marked-severe")
            ),
            .. Lints.Need(
                sign,
                sign.CrackFrom is >= 0 and <= 3,
                Fact.Of("look.crack-from-level", ("sign", sign.Id), ("crackFrom", sign.CrackFrom)),
                Fact.Of("look.give-level-from")
            ),
            .. Lints.Need(
                sign,
                sign.Measured || sign is { Looks.Length: > 0, How.Length: > 0, ConfusedWith.Length: > 0 },
                Fact.Of("look.does-not-say-what-looks", ("sign", sign.Id)),
                Fact.Of("look.say-all-three")
            ),
            .. Drawing(sign),
            .. Pattern(sign, knowledge),
            .. Lints.Need(
                sign,
                sign.With.Length > 0,
                Fact.Of("look.does-not-say-what-one", ("sign", sign.Id)),
                Fact.Of("look.name-tool-lens-lamp-feelers")
            ),
        ];

    private static IEnumerable<KnowledgeFault> Drawing(KnownSign sign)
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
        catch (ProblemException e)
        {
            return
            [
                new KnowledgeFault(
                    sign,
                    Fact.Of("look.drawing-cannot-drawn", ("sign", sign.Id), ("why", e.Problems[0].Text)),
                    Fact.Of("look.mend-line-draw")
                ),
            ];
        }
    }

    private static IEnumerable<KnowledgeFault> Pattern(KnownSign sign, KnowledgeBase knowledge)
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
                Fact.Of("look.pattern-test-speaks", ("sign", sign.Id)),
                Fact.Of("look.use-along-oil-toward-one")
            ),
            .. Lints.Need(
                sign,
                unknown is null,
                Fact.Of("look.pattern-unknown", ("sign", sign.Id), ("unknown", unknown)),
                Fact.Of("look.use-ids-from-signs-characteristics")
            ),
        ];
    }

    private static IEnumerable<KnowledgeFault> Shot(KnownShot shot) =>
        [
            .. Lints.Kinds(shot, shot.On),
            .. Lints.Need(
                shot,
                shot is { On.Count: > 0, How.Length: > 0, Why.Length: > 0 },
                Fact.Of("look.does-not-say-what-how", ("shot", shot.Id)),
                Fact.Of("look.say-all-three")
            ),
        ];

    private static IEnumerable<KnowledgeFault> Source(KnownDebris source, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(source, source.From),
            .. Lints.Need(source, source.Material.Count > 0, Fact.Of("look.of-no-material", ("source", source.Id)), Fact.Of("look.give-least-one")),
            .. Lints.Need(
                source,
                source.Sign.Length == 0 || knowledge.Sign(source.Sign) is not null,
                Fact.Of("look.names-unknown-sign", ("source", source.Id), ("sign", source.Sign)),
                Fact.Of("look.use-id-from-signs")
            ),
        ];
}
