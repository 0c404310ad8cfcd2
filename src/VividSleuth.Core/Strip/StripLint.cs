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
            .. Lints.Need(script, !twice, $"“{script.Id}” has two steps of one id.", "Rename one of them."),
            .. Lints.Need(script, script.Steps.Count > 0, $"“{script.Id}” has no steps.", "Add them."),
            .. script.Steps.SelectMany(step => Step(script, step, ids)),
            .. twice || StripPlanner.Circle(script.Steps) is not { } circle
                ? Array.Empty<KnowledgeFault>()
                : [new KnowledgeFault(script, StripPlanner.CircleProblem(circle).Text, "Take one of these precedences away.")],
        ];
    }

    private static IEnumerable<KnowledgeFault> Step(StripScript script, StripStep step, HashSet<string> ids)
    {
        var name = $"{script.Id}/{step.Id}";
        // What a common step waits for may be left out of a script; a step of its own must name what is there.
        var unknown = step.After.Keys.FirstOrDefault(k => !ids.Contains(k));
        return
        [
            .. Lints.Need(script, step.Id.Length > 0 && step.Name.Length > 0, $"A step of “{script.Id}” has no id or no name.", "Give it both."),
            .. Lints.Need(
                script,
                unknown is null || script.Uses.Contains(step.Id) || script.Drops.Contains(unknown),
                $"“{name}” must follow “{unknown}”, which is no step.",
                "Correct the id."
            ),
            .. Lints.Kinds(script, [.. step.Exposes, .. step.Releases, .. step.ReadFirst]),
            .. Lints.Need(script, step is { Minutes: >= 0, MinutesEach: >= 0 }, $"“{name}” takes less than no time.", "Give minutes from 0."),
            .. step.Fasteners.SelectMany(set => Set(script, name, set)),
            .. Lints.Need(
                script,
                step.Fasteners.Select(s => s.Id).Distinct(StringComparer.Ordinal).Count() == step.Fasteners.Count,
                $"“{name}” has two sets of one id.",
                "Rename one of them."
            ),
            .. Lints.Need(
                script,
                step.Fasteners.TrueForAll(s => !(s.LeftHand && s.LeftHandOnSome)),
                $"“{name}” has a thread that is left-hand and left-hand on some.",
                "Say one of the two."
            ),
        ];
    }

    private static IEnumerable<KnowledgeFault> Set(StripScript script, string name, FastenerSet set) =>
        [
            .. Lints.Need(script, set.Id.Length > 0 && set.Name.Length > 0, $"“{name}” has a set of fasteners without id or name.", "Give it both."),
            .. Lints.Need(script, set.Count > 0, $"“{name}” counts {set.Count} of “{set.Name}”.", "Give a count above 0."),
            .. Lints.Need(script, set.Lengths.TrueForAll(l => l > 0), $"“{name}” has a length of 0 or less.", "Give lengths in mm."),
            .. Lints.Need(
                script,
                set.Holes.TrueForAll(h => h.Count == 2 && h.TrueForAll(v => v is >= 0 and <= 100)),
                $"“{name}” places a hole outside its joint.",
                "Give x and y from 0 to 100."
            ),
        ];
}
