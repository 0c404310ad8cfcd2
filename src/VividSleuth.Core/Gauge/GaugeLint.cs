using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>What Gauge asks of its entries: characteristics and rules of thumb.</summary>
public static class GaugeLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) =>
        [.. knowledge.Characteristics.SelectMany(c => Characteristic(c, knowledge)), .. knowledge.RulesOfThumb.SelectMany(r => Rule(r, knowledge))];

    private static IEnumerable<KnowledgeFault> Characteristic(CharacteristicEntry entry, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(entry, entry.On),
            .. Lints.Need(entry, entry.On.Count > 0, $"“{entry.Id}” is measured on nothing.", "Give the kinds of part."),
            .. Lints.Need(
                entry,
                entry.Derived || entry is { With.Length: > 0, How.Length: > 0, Held.Length: > 0, Spoils.Length: > 0 },
                $"“{entry.Id}” does not say with what, how, how it is held, or what spoils it.",
                "Say all four."
            ),
            .. Lints.Need(
                entry,
                entry.Unit.Length == 0 || QuantityParser.IsUnit(entry.Unit, entry.Quantity),
                $"“{entry.Id}” is told in “{entry.Unit}”, which does not fit.",
                "Use a unit of its quantity."
            ),
            .. entry
                .Ways.SelectMany(w => w)
                .SelectMany(term =>
                    (IEnumerable<KnowledgeFault>)
                        [
                            .. Lints.Kinds(entry, term.On),
                            .. Lints.Need(
                                entry,
                                knowledge.Characteristic(term.Of) is not null && (term.On.Count == 1 || term.On.Count == entry.On.Count),
                                $"“{entry.Id}” is a sum of the unknown “{term.Of}”, or of kinds that do not pair.",
                                "Use an id from characteristics/, and one kind or as many as the sum is on."
                            ),
                        ]
                ),
        ];

    private static IEnumerable<KnowledgeFault> Rule(RuleOfThumbEntry rule, KnowledgeBase knowledge) =>
        Lints.Need(
            rule,
            knowledge.Characteristic(rule.Characteristic) is not null && (rule.Of.Length == 0 || knowledge.Characteristic(rule.Of) is not null),
            $"“{rule.Id}” speaks of an unknown characteristic.",
            "Use an id from characteristics/."
        );
}
