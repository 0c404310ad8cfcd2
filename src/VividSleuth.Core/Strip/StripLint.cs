using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>What Strip asks of its scripts.</summary>
public static class StripLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) => knowledge.StripScripts.SelectMany(Script);

    private static IEnumerable<KnowledgeFault> Script(StripScript script)
    {
        var ids = script.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var twice = ids.Count < script.Steps.Count;
        return
        [
            .. Lints.Need(script, !twice, Fact.Of("strip.two-steps-one-id", ("script", script.Id)), Fact.Of("strip.rename-one-them")),
            .. Lints.Need(script, script.Steps.Count > 0, Fact.Of("strip.steps", ("script", script.Id)), Fact.Of("strip.add-them")),
            .. script.Steps.SelectMany(step => Step(script, step, ids)),
            .. twice || StripPlanner.Cycle(script.Steps) is not { } cycle
                ? Array.Empty<KnowledgeFault>()
                : [new KnowledgeFault(script, StripPlanner.CycleProblem(cycle).Text, Fact.Of("strip.take-one-these-precedences-away"))],
        ];
    }

    private static IEnumerable<KnowledgeFault> Step(StripScript script, StripStep step, HashSet<string> ids)
    {
        var name = $"{script.Id}/{step.Id}";
        // What a common step waits for may be left out of a script; a step of its own must name what is there.
        var unknown = step.After.Keys.FirstOrDefault(k => !ids.Contains(k));
        return
        [
            .. Lints.Need(
                script,
                step.Id.Length > 0 && step.Name.Length > 0,
                Fact.Of("strip.step-id-name", ("script", script.Id)),
                Fact.Of("strip.give-both")
            ),
            .. Lints.Need(
                script,
                unknown is null || script.Uses.Contains(step.Id) || script.Drops.Contains(unknown),
                Fact.Of("strip.must-follow-step", ("name", name), ("unknown", unknown)),
                Fact.Of("strip.correct-id")
            ),
            .. Lints.Kinds(script, [.. step.Exposes, .. step.Releases, .. step.ReadFirst]),
            .. Lints.Need(
                script,
                step is { Minutes: >= 0, MinutesEach: >= 0 },
                Fact.Of("strip.takes-less-than-time", ("name", name)),
                Fact.Of("strip.give-minutes-from")
            ),
            .. step.Fasteners.SelectMany(set => Set(script, name, set)),
            .. Lints.Need(
                script,
                step.Fasteners.Select(s => s.Id).Distinct(StringComparer.Ordinal).Count() == step.Fasteners.Count,
                Fact.Of("strip.two-sets-one-id", ("name", name)),
                Fact.Of("strip.rename-one-them")
            ),
            .. Lints.Need(
                script,
                step.Fasteners.TrueForAll(s => !(s.LeftHand && s.LeftHandOnSome)),
                Fact.Of("strip.thread-left-hand-left-hand", ("name", name)),
                Fact.Of("strip.say-one-two")
            ),
        ];
    }

    private static IEnumerable<KnowledgeFault> Set(StripScript script, string name, FastenerSet set) =>
        [
            .. Lints.Need(
                script,
                set.Id.Length > 0 && set.Name.Length > 0,
                Fact.Of("strip.set-fasteners-without-id-name", ("name", name)),
                Fact.Of("strip.give-both")
            ),
            .. Lints.Need(
                script,
                set.Count > 0,
                Fact.Of("strip.counts", ("name", name), ("set", set.Count), ("set2", set.Name)),
                Fact.Of("strip.give-count-above")
            ),
            .. Lints.Need(script, set.Lengths.TrueForAll(l => l > 0), Fact.Of("strip.length-less", ("name", name)), Fact.Of("strip.give-lengths-mm")),
            .. Lints.Need(
                script,
                set.Holes.TrueForAll(h => h.Count == 2 && h.TrueForAll(v => v is >= 0 and <= 100)),
                Fact.Of("strip.places-hole-outside-joint", ("name", name)),
                Fact.Of("strip.give-x-y-from")
            ),
        ];
}
