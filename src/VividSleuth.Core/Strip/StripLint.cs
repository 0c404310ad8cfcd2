using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>What Strip asks of its scripts.</summary>
public static class StripLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge) =>
        [
            .. knowledge.StripScripts.SelectMany(s => Of(s, knowledge)),
            .. knowledge.WaysOut.SelectMany(w => Lints.Kinds(w, [w.Kind, .. w.Through.SelectMany(t => t)])),
        ];

    /// <summary>Faults of one script, whether the knowledge has it or not.</summary>
    public static IEnumerable<KnowledgeFault> Of(StripScript script, KnowledgeBase knowledge)
    {
        KnowledgeFault[] own = [.. Script(script), .. AssemblyLint.Of(script.Assembly, knowledge.Assembly.Select(a => a.Id), knowledge)];
        // What is asked of the steps together needs them told apart and free of cycles.
        return own.Length > 0 ? own : Ways(script, knowledge);
    }

    /// <summary>The script on each family that it is the one for, and by each of its variants.</summary>
    private static IEnumerable<KnowledgeFault> Ways(StripScript script, KnowledgeBase knowledge) =>
        knowledge
            .Families.Where(f => f.Layout.Check().Count == 0 && StripPlanner.Fitting(f.Layout, knowledge).FirstOrDefault() == script)
            .SelectMany(f => ScriptLint.Check(script, f, knowledge))
            .Concat(ScriptLint.Check(script, script.Steps, knowledge))
            .Concat(script.Variants.SelectMany(v => Variant(script, v, knowledge)))
            .DistinctBy(f => (f.Text.ToString(), f.Item));

    private static IEnumerable<KnowledgeFault> Variant(StripScript script, StripVariant variant, KnowledgeBase knowledge)
    {
        var name = $"{script.Id}/{variant.Id}";
        var steps = StripVariants.Apply(script.Steps, variant);
        var known = steps.Concat(script.Steps).Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var unknown = variant.Drops.Concat(variant.Until).Concat(variant.Alters.Keys).FirstOrDefault(id => !known.Contains(id));
        var stranger = variant.Excludes.Find(id => !script.Variants.Exists(v => v.Id == id));
        return
        [
            .. Lints.Need(
                script,
                unknown is null,
                Fact.Of("strip.variant-names-no-step", ("name", name), ("unknown", unknown)),
                Fact.Of("strip.correct-id")
            ),
            .. Lints.Need(
                script,
                stranger is null,
                Fact.Of("strip.variant-excludes-unknown", ("name", name), ("unknown", stranger)),
                Fact.Of("strip.correct-id")
            ),
            .. StripPlanner.Cycle(steps) is { } cycle
                ? [new KnowledgeFault(script, StripPlanner.CycleProblem(cycle).Text, Fact.Of("strip.take-one-these-precedences-away"))]
                : ScriptLint.Check(script, steps, knowledge),
            .. variant.Steps.SelectMany(s => Step(script, s, known)),
        ];
    }

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
        var unknown = step.Before.FirstOrDefault(k => !ids.Contains(k));
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
            .. Lints.Kinds(
                script,
                [.. step.Exposes, .. step.Releases, .. step.ReadFirst, .. step.Needs, .. step.Fasteners.Select(f => f.Part).Where(p => p.Length > 0)]
            ),
            .. Lints.Need(
                script,
                step.Parts || step.Fasteners.Count == 0 || step.Releases.Count == 0,
                Fact.Of("strip.parts-without-lock", ("name", name)),
                Fact.Of("strip.lock-it")
            ),
            .. Lints.Need(
                script,
                step.Must.TrueForAll(step.Ticks.Contains),
                Fact.Of("strip.must-without-tick", ("name", name)),
                Fact.Of("strip.correct-tick")
            ),
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
