using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Gauge;

/// <summary>What Gauge asks of its entries: characteristics and rules of thumb.</summary>
public static class GaugeLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) =>
        [.. knowledge.Characteristics.SelectMany(c => Characteristic(c, knowledge)), .. knowledge.RulesOfThumb.SelectMany(r => Rule(r, knowledge))];

    private static IEnumerable<KnowledgeFault> Characteristic(KnownCharacteristic entry, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(entry, entry.On),
            .. Lints.Kinds(entry, entry.Before),
            .. Lints.Need(
                entry,
                entry.Before.Count == 0 || entry.Assembled,
                Fact.Of("gauge.before-of-what-is-apart", ("entry", entry.Id)),
                Fact.Of("gauge.say-assembled")
            ),
            .. Lints.Need(entry, entry.On.Count > 0, Fact.Of("gauge.measured-nothing", ("entry", entry.Id)), Fact.Of("gauge.give-kinds-part")),
            .. Lints.Need(
                entry,
                entry.Derived || entry is { With.Length: > 0, How.Length: > 0, Held.Length: > 0, Spoils.Length: > 0 },
                Fact.Of("gauge.does-not-say-what-how", ("entry", entry.Id)),
                Fact.Of("gauge.say-all-four")
            ),
            .. Lints.Need(
                entry,
                entry.Unit.Length == 0 || QuantityParser.IsUnit(entry.Unit, entry.Quantity),
                Fact.Of("gauge.told-does-not-fit", ("entry", entry.Id), ("unit", entry.Unit)),
                Fact.Of("gauge.use-unit-quantity")
            ),
            .. Lints.Need(
                entry,
                entry.InPicture.TrueForAll(t => !entry.Derived && PictureReckoner.QuantityOf(t) == entry.Quantity),
                Fact.Of("gauge.picture-gives-another", ("entry", entry.Id)),
                Fact.Of("gauge.use-task-of-quantity")
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
                                Fact.Of("gauge.sum-unknown-kinds-do-not", ("entry", entry.Id), ("of", term.Of)),
                                Fact.Of("gauge.use-id-from-characteristics-one")
                            ),
                        ]
                ),
        ];

    private static IEnumerable<KnowledgeFault> Rule(KnownRule rule, KnowledgeBase knowledge) =>
        Lints.Need(
            rule,
            knowledge.Characteristic(rule.Characteristic) is not null && (rule.Of.Length == 0 || knowledge.Characteristic(rule.Of) is not null),
            Fact.Of("gauge.speaks-unknown-characteristic", ("rule", rule.Id)),
            Fact.Of("gauge.use-id-from-characteristics")
        );
}
