using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>Other ways through a script: what choosing them comes to, and which cannot be had together.</summary>
public static class StripVariants
{
    /// <summary>The variants chosen in a case that its script has and its engine fits.</summary>
    public static IEnumerable<StripVariant> Chosen(StripLog log, StripScript script) =>
        script.Variants.Where(v => log.Variants.Contains(v.Id) && v.Applies.Fits(log.Layout));

    /// <summary>The steps of a script done this way.</summary>
    public static List<StripStep> Apply(IReadOnlyList<StripStep> steps, StripVariant variant)
    {
        var own = variant.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        var known = steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        return Preceded([
            .. steps
                .Where(s => own.ContainsKey(s.Id) || !variant.Drops.Contains(s.Id))
                .Select(s => own.GetValueOrDefault(s.Id) ?? (variant.Alters.TryGetValue(s.Id, out var alters) ? alters.Of(s) : s)),
            .. variant.Steps.Where(s => !known.Contains(s.Id)),
        ]);
    }

    /// <summary>The steps with what each of them must wait for because another says so.</summary>
    private static List<StripStep> Preceded(List<StripStep> steps)
    {
        var leaders = steps.Where(s => s.Precedes.Count > 0).ToArray();
        return leaders.Length == 0
            ? steps
            :
            [
                .. steps.Select(step =>
                {
                    var before = leaders.Where(l => l.Precedes.ContainsKey(step.Id) && !step.After.ContainsKey(l.Id)).ToArray();
                    if (before.Length == 0)
                    {
                        return step;
                    }

                    var waiting = step.Copy();
                    waiting.After = step.After.Concat(before.Select(l => KeyValuePair.Create(l.Id, l.Precedes[step.Id]))).ToDictionary();
                    return waiting;
                }),
            ];
    }

    /// <summary>
    /// What is wrong with a choice: a variant that is none of the script's, two that exclude each other or do one step each in its own way, steps that
    /// would wait for one another, or one that comes too late for what is recorded.
    /// </summary>
    public static Problem? Check(IReadOnlyList<string> ids, StripLog log, StripScript script)
    {
        var variants = new List<StripVariant>();
        foreach (var id in ids)
        {
            if (script.Variants.Find(v => v.Id == id && v.Applies.Fits(log.Layout)) is not { } variant)
            {
                return Problem.Of("variants", "strip.no-such-variant", ("variant", id), ("script", script.Name));
            }

            foreach (var other in variants)
            {
                if (other.Excludes.Contains(id) || variant.Excludes.Contains(other.Id))
                {
                    return Problem.Of("variants", "strip.variants-exclude", ("one", other.Name), ("other", variant.Name));
                }

                if (Touched(other).Intersect(Touched(variant)).FirstOrDefault() is { } both)
                {
                    return Problem.Of(
                        "variants",
                        "strip.variants-contradict",
                        ("one", other.Name),
                        ("other", variant.Name),
                        ("step", script.Steps.Find(s => s.Id == both)?.Name ?? both)
                    );
                }
            }

            variants.Add(variant);
        }

        var recorded = log.Steps.Where(s => s.Stands()).Select(s => s.Step).ToHashSet(StringComparer.Ordinal);
        foreach (var variant in variants.Where(v => !log.Variants.Contains(v.Id)))
        {
            if (Touched(variant).FirstOrDefault(recorded.Contains) is { } late)
            {
                return Problem.Of(
                    "variants",
                    "strip.variant-too-late",
                    ("variant", variant.Name),
                    ("step", script.Steps.Find(s => s.Id == late)?.Name ?? late)
                );
            }
        }

        var steps = StripPlanner.StepsOf(log with { Variants = ids }, script);
        return StripPlanner.Cycle(steps) is { } cycle ? StripPlanner.CycleProblem(cycle) : null;
    }

    private static IEnumerable<string> Touched(StripVariant variant) =>
        variant.Drops.Union(variant.Steps.Select(s => s.Id)).Union(variant.Alters.Keys);
}
