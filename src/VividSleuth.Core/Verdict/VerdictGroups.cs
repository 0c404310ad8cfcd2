using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Verdict;

/// <summary>Advice by what is decided together.</summary>
public static class VerdictGroups
{
    /// <summary>Probability from which a cause is told at its group.</summary>
    private const double WorthTelling = 0.1;

    public static IReadOnlyList<GroupAdvice> Of(
        IReadOnlyList<VerdictAdvice> advice,
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<MachiningPlan> plans,
        TraceAnswer? trace
    )
    {
        var byPlace = advice.ToDictionary(a => a.Place, StringComparer.Ordinal);
        var decided = PartVerdict.Latest(log.Verdicts);
        var last = knowledge.Groups[^1].Id;
        var places = table
            .All.Where(a => a.Kind.Id != PartKinds.Engine)
            .ToLookup(a => knowledge.GroupOf(a.Kind.ReadAs)?.Id ?? last, StringComparer.Ordinal);
        var causes = (trace?.Ranking.Where(r => r.Probability >= WorthTelling) ?? []).ToLookup(
            r => knowledge.GroupOf(table.Find(r.Seat)?.Kind.ReadAs ?? "")?.Id ?? "",
            StringComparer.Ordinal
        );
        return [.. knowledge.Groups.Where(g => places.Contains(g.Id)).Select(Group)];

        GroupAdvice Group(KnownGroup group)
        {
            var here = places[group.Id].ToArray();
            var told = here.Select(a => byPlace.GetValueOrDefault(a.Code)).OfType<VerdictAdvice>().ToArray();
            var known = told.Where(a => a.Told).ToArray();
            return new GroupAdvice(
                group.Id,
                group.Name,
                [.. here.Select(a => a.Code)],
                [
                    .. known
                        .GroupBy(a => (a.Course, Ground: a.Course.Length > 0 ? Ground.Rule : a.Ground))
                        .OrderByDescending(g => knowledge.Course(g.Key.Course)?.Weight ?? -1)
                        .ThenBy(g => g.Key.Ground)
                        .Select(g => new AdvisedTogether(
                            g.Key.Course,
                            g.First().Action,
                            g.Min(a => a.Ground),
                            [.. g.Select(a => a.Place)],
                            [.. g.GroupBy(a => a.Reason).Select(r => new PlacesTold([.. r.Select(a => a.Place)], r.Key))]
                        )),
                ],
                here.Count(a => decided.ContainsKey(a.Code)),
                [
                    .. told.Where(a => a.Course.Length > 0 && decided.GetValueOrDefault(a.Place) is { Course.Length: > 0 } v && v.Course != a.Course)
                        .Select(a => a.Place),
                ],
                [.. here.Select(a => a.Code).Except(known.Select(a => a.Place), StringComparer.Ordinal)],
                [.. plans.Where(p => group.Kinds.Contains(p.Kind)).Select(p => p.Kind).Distinct()],
                [.. causes[group.Id].Select(r => new GroupCause(r.Cause, r.Name, r.Place, r.Probability, r.Prevent))]
            );
        }
    }
}
