using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Knowledge;

/// <summary>What steps of assembly must say: those that ship, and those of a shop’s script.</summary>
public static class AssemblyLint
{
    /// <param name="others">Ids of other steps of assembly that may be named.</param>
    public static IEnumerable<KnowledgeFault> Of(IReadOnlyList<AssemblyStep> steps, IEnumerable<string> others, KnowledgeBase knowledge)
    {
        var ids = steps.Select(s => s.Id).Concat(others).ToHashSet(StringComparer.Ordinal);
        foreach (var step in steps)
        {
            foreach (
                var fault in (IEnumerable<KnowledgeFault>)
                    [
                        .. Lints.Kinds(step, [.. step.On, .. step.With]),
                        .. Lints.Need(
                            step,
                            step.Id.Length > 0 && steps.Count(s => s.Id == step.Id) == 1,
                            Fact.Of("knowledge.id-stands-twice", ("key", step.Id)),
                            Fact.Of("knowledge.rename-one-them")
                        ),
                        .. Lints.Need(
                            step,
                            step.Does.Length > 0 || step.Ticks.Count + step.Figures.Count + step.Covers.Count > 0,
                            Fact.Of("build.lint.assembly-of-nothing", ("step", step.Id)),
                            Fact.Of("build.lint.assembly-say-what")
                        ),
                        .. Lints.Need(
                            step,
                            step.Time == AssemblyTime.FollowUp
                                ? step.Hours is not null || step.Days is not null
                                : step is { Hours: null, Days: null },
                            Fact.Of("build.lint.assembly-when", ("step", step.Id)),
                            Fact.Of("build.lint.assembly-give-when")
                        ),
                        .. step
                            .After.Concat(step.Before)
                            .Where(n => !ids.Contains(n) && PartKinds.Find(n) is null && knowledge.Course(n) is null)
                            .Concat(step.Courses.Where(c => knowledge.Course(c) is null))
                            .Concat(step.Figures.SelectMany(f => f.UndoneBy).Concat(step.Finds).Where(k => PartKinds.Find(k) is null))
                            .Select(n => new KnowledgeFault(
                                step,
                                Fact.Of("build.lint.assembly-knows", ("step", step.Id), ("name", n)),
                                Fact.Of("build.lint.assembly-name")
                            )),
                        .. step
                            .Figures.Where(f =>
                                knowledge.Characteristic(f.Of) is not { } known || (f.Station.Length > 0 && !known.Stations.Contains(f.Station))
                            )
                            .Select(f => new KnowledgeFault(
                                step,
                                Fact.Of("build.lint.assembly-figure", ("step", step.Id), ("figure", f.Of)),
                                Fact.Of("build.lint.assembly-name-figure")
                            )),
                    ]
            )
            {
                yield return fault;
            }
        }

        if (Circle(steps) is { Count: > 0 } circle)
        {
            yield return new KnowledgeFault(
                steps.First(s => s.Id == circle[0]),
                Fact.Of("build.lint.assembly-circle", ("steps", circle)),
                Fact.Of("build.lint.assembly-untie")
            );
        }
    }

    private static IReadOnlyList<string>? Circle(IReadOnlyList<AssemblyStep> steps) =>
        WaitCircle.Of(
            [.. steps.Select(s => s.Id).Distinct(StringComparer.Ordinal)],
            steps
                .DistinctBy(s => s.Id)
                .ToDictionary(
                    s => s.Id,
                    IReadOnlyList<string> (s) => [.. s.After, .. steps.Where(o => o.Before.Contains(s.Id)).Select(o => o.Id)],
                    StringComparer.Ordinal
                )
        );
}
