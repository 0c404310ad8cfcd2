using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>What Verdict asks of its entries: groups, courses, examinations and rules.</summary>
public static class VerdictLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) =>
        [
            .. knowledge.Groups.SelectMany(g => Group(g, knowledge)),
            .. knowledge.Courses.SelectMany(c =>
                (IEnumerable<KnowledgeFault>)
                    [
                        .. Lints.Kinds(c, [.. c.On, .. c.Along]),
                        .. Lints.Need(
                            c,
                            c.Weight is >= 0 and <= 100,
                            Fact.Of("verdict.lint.weight", ("course", c.Id)),
                            Fact.Of("verdict.lint.give-weight")
                        ),
                    ]
            ),
            .. knowledge.Examinations.SelectMany(e =>
                (IEnumerable<KnowledgeFault>)
                    [
                        .. Lints.Kinds(e, e.On),
                        .. Lints.Need(
                            e,
                            e.On.Count > 0 && e.How.Length > 0,
                            Fact.Of("verdict.lint.examination-of-nothing", ("check", e.Id)),
                            Fact.Of("verdict.lint.say-on-and-how")
                        ),
                        .. Known(e, e.Figures, id => knowledge.Characteristic(id) is not null),
                    ]
            ),
            .. knowledge.Verdicts.SelectMany(r => Rule(r, knowledge)),
            .. knowledge.Gates.SelectMany(g =>
                (IEnumerable<KnowledgeFault>)
                    [
                        .. Lints.Kinds(g, [.. g.On, .. g.Of, .. g.Decided]),
                        .. Known(g, g.Unless.Length > 0 ? [g.Unless] : [], id => knowledge.Gates.Any(o => o.Id == id && o.Id != g.Id)),
                        .. Known(g, g.Tested, id => knowledge.Examination(id) is { } check && check.On.Intersect(g.Of).Any()),
                        .. Lints.Need(
                            g,
                            g.On.Count > 0 && g.Why.Length > 0 && (g.Tested.Count > 0 ? g.Of.Count > 0 : g.Decided.Count > 0),
                            Fact.Of("verdict.lint.gate-of-nothing", ("gate", g.Id)),
                            Fact.Of("verdict.lint.say-what-and-why")
                        ),
                    ]
            ),
        ];

    private static IEnumerable<KnowledgeFault> Group(KnownGroup group, KnowledgeBase knowledge) =>
        [
            .. Lints.Kinds(group, group.Kinds),
            .. Lints.Need(
                group,
                group.Kinds.TrueForAll(k => knowledge.Groups.Count(g => g.Kinds.Contains(k)) == 1),
                Fact.Of("verdict.lint.kind-in-two-groups", ("group", group.Id)),
                Fact.Of("verdict.lint.leave-it-in-one")
            ),
            .. Known(group, group.Needs.Keys, group.Kinds.Contains),
            .. Known(group, group.Needs.Values.SelectMany(n => n).SelectMany(n => n), id => knowledge.Characteristic(id) is not null),
        ];

    private static IEnumerable<KnowledgeFault> Rule(KnownVerdict rule, KnowledgeBase knowledge)
    {
        var when = rule.When;
        return
        [
            .. Lints.Kinds(rule, rule.On),
            .. Lints.Kinds(rule, when.Near.SelectMany(n => n.On)),
            .. Lints.Kinds(rule, when.Figures.SelectMany(f => f.On)),
            .. Lints.Kinds(rule, when.Mate?.On ?? []),
            .. Known(rule, rule.Groups, id => knowledge.Groups.Any(g => g.Id == id)),
            .. Known(rule, rule.Course.Length > 0 ? [rule.Course] : [], id => knowledge.Course(id) is not null),
            .. Known(rule, when.Mate?.Course ?? [], id => knowledge.Course(id) is not null),
            .. Known(rule, rule.Asks.Concat(when.Failed), id => knowledge.Examination(id) is not null),
            .. Known(rule, rule.Before, id => knowledge.Verdicts.Any(r => r.Id == id)),
            .. Known(
                rule,
                when.Signs.Concat(when.Near.SelectMany(n => n.Signs)).Select(s => SignAt.Parse(s).Sign),
                id => id == "any" || knowledge.Sign(id) is not null
            ),
            .. Known(rule, when.Figures.SelectMany(f => f.Of), id => knowledge.Characteristic(id) is not null),
            .. Known(rule, when.Causes, id => knowledge.Cause(id) is not null),
            .. Known(rule, when.History, id => knowledge.Risks.Any(r => r.Id == id)),
            .. Known(rule, when.School.Keys, id => Schools.Usual.Says(id) is not null),
            .. Lints.Need(
                rule,
                rule.Why.Length > 0 && (rule.Course.Length > 0 || rule.Forbids.Count > 0 || rule.Asks.Count > 0),
                Fact.Of("verdict.lint.rule-of-nothing", ("rule", rule.Id)),
                Fact.Of("verdict.lint.say-what-and-why")
            ),
            .. Lints.Need(
                rule,
                rule.Course.Length == 0 || knowledge.Course(rule.Course) is not { } course || !rule.Forbids.Contains(course.Action),
                Fact.Of("verdict.lint.forbids-its-own", ("rule", rule.Id)),
                Fact.Of("verdict.lint.say-what-and-why")
            ),
            .. Lints.Need(
                rule,
                MeasuredThere(rule, knowledge),
                Fact.Of("verdict.lint.figure-not-measured-there", ("rule", rule.Id)),
                Fact.Of("verdict.lint.name-where-it-is-measured")
            ),
            .. Lints.Need(
                rule,
                SeenThere(rule, knowledge),
                Fact.Of("verdict.lint.sign-not-seen-there", ("rule", rule.Id)),
                Fact.Of("verdict.lint.name-where-it-is-seen")
            ),
        ];
    }

    /// <summary>A rule whose signs cannot be found on any of its kinds never holds.</summary>
    private static bool SeenThere(KnownVerdict rule, KnowledgeBase knowledge)
    {
        var kinds = KindsOf(rule, knowledge);
        return rule.When.Signs.TrueForAll(s => Seen(s, kinds)) && rule.When.Near.TrueForAll(n => n.Signs.TrueForAll(s => Seen(s, n.On)));

        bool Seen(string sign, IEnumerable<string> on) =>
            SignAt.Parse(sign).Sign is var id && (id == "any" || knowledge.Sign(id) is not { } known || known.On.Intersect(on).Any());
    }

    /// <summary>A rule whose figures are taken at none of its parts never holds.</summary>
    private static bool MeasuredThere(KnownVerdict rule, KnowledgeBase knowledge)
    {
        var kinds = KindsOf(rule, knowledge);
        return rule.When.Figures.TrueForAll(f =>
            f.Of.TrueForAll(id => knowledge.Characteristic(id) is not { } known || known.On.Intersect(f.On.Count > 0 ? f.On : kinds).Any())
        );
    }

    private static IReadOnlyCollection<string> KindsOf(KnownVerdict rule, KnowledgeBase knowledge) =>
        rule.On.Count > 0 || rule.Groups.Count > 0
            ? [.. rule.On, .. knowledge.Groups.Where(g => rule.Groups.Contains(g.Id)).SelectMany(g => g.Kinds)]
            : [.. PartKinds.All.Select(k => k.Id)];

    private static IEnumerable<KnowledgeFault> Known(Known entry, IEnumerable<string> ids, Func<string, bool> isKnown) =>
        ids.FirstOrDefault(id => !isKnown(id)) is { } unknown
            ?
            [
                new KnowledgeFault(
                    entry,
                    Fact.Of("verdict.lint.unknown", ("entry", entry.Id), ("unknown", unknown)),
                    Fact.Of("verdict.lint.correct-it")
                ),
            ]
            : [];
}
