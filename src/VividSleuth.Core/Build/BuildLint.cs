using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Build;

/// <summary>What Build asks of its entries: times.</summary>
public static class BuildLint
{
    /// <summary>Times that a plan asks for by name.</summary>
    private static readonly (TimeOf Of, string[] Which)[] Asked =
    [
        (TimeOf.Course, [""]),
        (TimeOf.Look, [""]),
        (TimeOf.Measure, [""]),
        (TimeOf.Decide, [""]),
        (TimeOf.Send, [""]),
        (TimeOf.Check, [""]),
        (TimeOf.Script, [""]),
        (TimeOf.Back, [""]),
        (TimeOf.Run, [""]),
        (TimeOf.Late, ["", "overdue"]),
        (TimeOf.Away, ["supplier", "machine-shop", "specialist", "customer"]),
        (TimeOf.Wait, ["owner", "helper", "tool", "signature", "on-purpose", "away"]),
    ];

    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge)
    {
        foreach (var time in knowledge.Times)
        {
            foreach (var fault in Of(time, knowledge))
            {
                yield return fault;
            }
        }

        foreach (var before in knowledge.Befores)
        {
            foreach (
                var fault in (IEnumerable<KnowledgeFault>)
                    [
                        .. Lints.Kinds(before, [.. before.On, .. before.Before]),
                        .. Lints.Need(
                            before,
                            before.Courses.Count > 0 && before.On.Count > 0 && before.Why.Length > 0,
                            Fact.Of("build.lint.before-of-nothing", ("before", before.Id)),
                            Fact.Of("build.lint.say-what-before-what")
                        ),
                        .. before
                            .Courses.Where(c => knowledge.Course(c) is null)
                            .Select(c => new KnowledgeFault(
                                before,
                                Fact.Of("build.lint.no-such-course", ("time", before.Id), ("course", c)),
                                Fact.Of("build.lint.name-a-course")
                            )),
                    ]
            )
            {
                yield return fault;
            }
        }

        foreach (var fault in AssemblyLint.Of(knowledge.Assembly, [], knowledge))
        {
            yield return fault;
        }

        // A shelf with no times at all is one of other entries.
        if (knowledge.Times.Count == 0)
        {
            yield break;
        }

        foreach (var (of, which) in Asked.SelectMany(a => a.Which.Select(w => (a.Of, w))))
        {
            if (!knowledge.Times.Any(t => t.Of == of && t.Which == which))
            {
                yield return new KnowledgeFault(
                    knowledge.Times[^1],
                    Fact.Of("build.lint.no-time", ("of", of), ("which", which)),
                    Fact.Of("build.lint.add-it")
                );
            }
        }
    }

    private static IEnumerable<KnowledgeFault> Of(KnownTime time, KnowledgeBase knowledge) =>
        [
            .. Lints.Need(
                time,
                InOrder(time.Once) && InOrder(time.Each) && time.Once.Count + time.Each.Count > 0,
                Fact.Of("build.lint.three-in-order", ("time", time.Id)),
                Fact.Of("build.lint.give-three")
            ),
            .. Lints.Need(
                time,
                time.Unit == UnitOf(time.Of),
                Fact.Of("build.lint.unit", ("time", time.Id), ("unit", UnitOf(time.Of))),
                Fact.Of("build.lint.give-unit")
            ),
            .. Lints.Need(
                time,
                time.Of != TimeOf.Course || time.Which.Length == 0 || knowledge.Course(time.Which)?.At == DoneAt.Bench,
                Fact.Of("build.lint.no-such-course", ("time", time.Id), ("course", time.Which)),
                Fact.Of("build.lint.name-a-course")
            ),
        ];

    private static bool InOrder(List<double> three) =>
        three.Count == 0 || (three.Count == 3 && three[0] >= 0 && three[1] >= three[0] && three[2] >= three[1] && double.IsFinite(three[2]));

    private static TimeUnit UnitOf(TimeOf of) =>
        of switch
        {
            TimeOf.Script or TimeOf.Back => TimeUnit.Share,
            TimeOf.Away or TimeOf.Late or TimeOf.Wait => TimeUnit.Days,
            _ => TimeUnit.Hours,
        };
}
