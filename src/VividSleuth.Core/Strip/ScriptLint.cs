using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>
/// Whether a script can be followed on the engines it is for: nothing is tested after what prevents it, nothing leaves through what it stands on, no
/// lock asks for what cannot be had, and nothing is done to a part or fluid that the engine lacks.
/// </summary>
public static class ScriptLint
{
    /// <summary>Faults of the steps of a script as they come together for one layout.</summary>
    public static IEnumerable<KnowledgeFault> Check(StripScript script, IReadOnlyList<StripStep> steps, KnowledgeBase knowledge)
    {
        var byId = steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        foreach (var step in steps)
        {
            var name = $"{script.Id}/{step.Id}";
            var before = StepGraph.Before(step, byId);
            foreach (var kind in step.Needs)
            {
                if (
                    steps.FirstOrDefault(s =>
                        s.Id != step.Id && s.Releases.Contains(kind) && !StepGraph.Before(s, byId, hard: true).Contains(step.Id)
                    ) is
                    { } prevents
                )
                {
                    yield return Fault(
                        "strip.test-after-what-prevents-it",
                        "strip.let-it-wait",
                        ("name", name),
                        ("prevents", prevents.Id),
                        ("kind", kind)
                    );
                }
            }

            foreach (var kind in step.ReadFirst.Where(k => PartKinds.Find(k) is { Outside: false }))
            {
                var opens = steps.Where(s => s.Exposes.Contains(kind) || s.Releases.Contains(kind)).ToArray();
                if (opens.Length > 0 && !Array.Exists(opens, s => s.Id != step.Id && before.Contains(s.Id)))
                {
                    yield return Fault("strip.evidence-seen-only-after", "strip.read-it-later", ("name", name), ("kind", kind));
                }
            }

            foreach (var way in knowledge.WaysOut.Where(w => step.Releases.Contains(w.Kind)))
            {
                bool ComesOff(string kind) => steps.Any(s => s.Releases.Contains(kind));
                bool IsOff(string kind) =>
                    step.Releases.Contains(kind)
                    || steps.Any(s => s.Releases.Contains(kind) && StepGraph.Before(step, byId, hard: true).Contains(s.Id));
                if (way.Through.Exists(t => t.Exists(ComesOff)) && !way.Through.Exists(t => t.TrueForAll(IsOff)))
                {
                    yield return Fault("strip.leaves-through-what-is-on", "strip.let-it-follow", ("name", name), ("way", way.Name));
                }
            }
        }

        KnowledgeFault Fault(string code, string remedy, params (string, object?)[] values) => new(script, Fact.Of(code, values), Fact.Of(remedy));
    }

    /// <summary>Faults of a script on one engine.</summary>
    public static IEnumerable<KnowledgeFault> Check(StripScript script, KnownFamily family, KnowledgeBase knowledge)
    {
        var table = new AddressTable(Engine.From(family.Layout));
        var steps = script.Steps.Where(s => s.Applies.Fits(family.Layout)).ToArray();
        foreach (var step in steps)
        {
            string[] kinds = [.. step.Exposes, .. step.Releases, .. step.ReadFirst];
            if (kinds.Length > 0 && Array.TrueForAll(kinds, k => !table.OfKind(k).Any()))
            {
                yield return Fault("strip.step-for-what-engine-lacks", ("name", $"{script.Id}/{step.Id}"), ("family", family.Id), ("kinds", kinds));
            }

            var wrong = step.Drains.Where(f => f == Fluid.Coolant && family.Layout.Cooling == Cooling.Air).ToArray();
            if (wrong.Length > 0)
            {
                yield return Fault("strip.drains-what-is-not-there", ("name", $"{script.Id}/{step.Id}"), ("family", family.Id));
            }
        }

        if (family.Layout.Cooling == Cooling.Liquid && !Array.Exists(steps, s => s.Drains.Contains(Fluid.Coolant)))
        {
            yield return Fault("strip.coolant-never-drained", ("script", script.Id), ("family", family.Id));
        }

        foreach (var fault in Check(script, steps, knowledge))
        {
            yield return fault;
        }

        KnowledgeFault Fault(string code, params (string, object?)[] values) =>
            new(script, Fact.Of(code, values), Fact.Of("strip.give-it-its-engines"));
    }
}
