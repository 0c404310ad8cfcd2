using System.Text.RegularExpressions;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>A shop's own strip scripts: what they must say, and how one is made of what was done on an engine.</summary>
public static partial class OwnScripts
{
    /// <summary>Those scripts, once each of them holds.</summary>
    /// <exception cref="ProblemException">One does not hold; each problem names the script and the field.</exception>
    public static IReadOnlyList<StripScript> Checked(IReadOnlyList<StripScript> own, KnowledgeBase knowledge)
    {
        var faults = own.SelectMany(s => Check(s, knowledge).Select(p => p with { Field = $"{s.Id}.{p.Field}" })).ToArray();
        return faults.Length > 0 ? throw new ProblemException(faults) : own;
    }

    /// <summary>What is wrong with a script that a shop wrote; the field is the id of the step it is about, where it is about one.</summary>
    public static IEnumerable<Problem> Check(StripScript script, KnowledgeBase knowledge)
    {
        if (!IdPattern().IsMatch(script.Id))
        {
            yield return Problem.Of("id", "strip.script-id", ("id", script.Id));
        }

        if (script.Kind.Length > 0 && knowledge.ShippingScript(script.Id) is not null)
        {
            yield return Problem.Of("id", "strip.script-of-kind-needs-own-id", ("id", script.Id));
        }

        if (string.IsNullOrWhiteSpace(script.Name))
        {
            yield return Problem.Of("name", "strip.script-needs-name");
        }

        if (string.IsNullOrWhiteSpace(script.Provenance))
        {
            yield return Problem.Of("provenance", "strip.script-needs-provenance");
        }

        if (script.Steps.Count > 400)
        {
            yield return Problem.Of("steps", "strip.too-many-steps", ("most", 400));
            yield break;
        }

        foreach (var fault in StripLint.Of(script, knowledge))
        {
            var step = script.Steps.Find(s => s.Id.Length > 0 && fault.Text["name"] is string name && name == $"{script.Id}/{s.Id}");
            yield return new Problem(step is null ? "steps" : $"steps.{step.Id}", fault.Text, fault.Remedy);
        }
    }

    /// <summary>
    /// What a script guards less than the one that it stands for: that of its id, or else the one it shares most steps with. Whoever may not open a lock
    /// in a case does not take it out of a script either.
    /// </summary>
    /// <param name="mayOpen">Whether whoever writes it may open a lock of a kind.</param>
    public static Problem? Loosens(StripScript script, KnowledgeBase knowledge, Func<StepLock, bool> mayOpen)
    {
        var now = script.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        var stood =
            knowledge.Script(script.Id)
            ?? knowledge.StripScripts.MaxBy(s => (s.Steps.Count(x => now.ContainsKey(x.Id) && !s.Uses.Contains(x.Id)), s.Applies.Says()));
        foreach (var step in stood?.Steps ?? [])
        {
            var after = now.GetValueOrDefault(step.Id);
            if (after is null && (step.Applies.Says() > 0 || (!step.HoldPoint && step.ReadFirst.Count == 0)))
            {
                continue;
            }

            // What it waited for and is not in this script at all, it need not wait for.
            var before = step.Copy();
            before.After = step.After.Where(a => now.ContainsKey(a.Key)).ToDictionary(a => a.Key, a => a.Value, StringComparer.Ordinal);
            if (StepRules.Loosens(before, after, mayOpen) is { } problem)
            {
                return problem with { Field = $"steps.{step.Id}" };
            }
        }

        return mayOpen(StepLock.Assembly) ? null : LoosensAssembly(script, knowledge);
    }

    /// <summary>What a script asks for less on the way back than it did, or than the knowledge does.</summary>
    private static Problem? LoosensAssembly(StripScript script, KnowledgeBase knowledge)
    {
        var stood = knowledge.Script(script.Id);
        foreach (var known in knowledge.Assembly.Where(a => stood?.AssemblyDrops.Contains(a.Id) != true))
        {
            var before = stood?.Assembly.Find(a => a.Id == known.Id) ?? known;
            var after = script.AssemblyDrops.Contains(known.Id) ? null : script.Assembly.Find(a => a.Id == known.Id) ?? known;
            if (
                before.Ticks.Except(after?.Ticks ?? []).Any() || before.Figures.Select(f => f.Of).Except(after?.Figures.Select(f => f.Of) ?? []).Any()
            )
            {
                return Problem.Of($"assembly.{known.Id}", "strip.only-who-may-drops-assembly", ("step", before.Name));
            }
        }

        return null;
    }

    /// <summary>
    /// The script of a strip as it was done: its steps with all that was changed or added, in the order in which they were done, the counts that agreed
    /// as counted, and the minutes of the clock where there were any. The order is the usual one of the next engine, not a lock.
    /// </summary>
    /// <param name="kind">The kind of engine, as cases of it begin their name.</param>
    /// <param name="why">What to give as the reason for an order that is usual since it was done so.</param>
    public static StripScript Of(StripBook book, string id, string name, string kind, string provenance, string why)
    {
        var turn = book.Sorted().Done.Index().ToDictionary(d => d.Item.Id, d => d.Index, StringComparer.Ordinal);
        var order = turn.OrderBy(t => t.Value).Select(t => t.Key).ToArray();
        var known = book.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var steps = book.Steps.Select(s => AsDone(s, book, turn, known)).ToList();
        var byId = steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        foreach (var (before, after) in order.Zip(order.Skip(1)))
        {
            if (!StepGraph.Before(byId[after], byId).Contains(before) && !StepGraph.Before(byId[before], byId).Contains(after))
            {
                byId[after].Usually = new Dictionary<string, string>(byId[after].Usually) { [before] = why };
            }
        }

        return new StripScript
        {
            Id = id,
            Name = name,
            Says = book.Script.Says,
            Kind = kind,
            Applies = book.Script.Applies,
            Provenance = provenance,
            Steps = steps,
            Assembly = book.Script.Assembly,
            AssemblyDrops = book.Script.AssemblyDrops,
            // A way that does not go with the order in which it was done here is left behind.
            Variants =
            [
                .. book.Script.Variants.Where(v =>
                    v.Drops.Concat(v.Until).Concat(v.Alters.Keys).All(byId.ContainsKey) && StripPlanner.Cycle(StripVariants.Apply(steps, v)) is null
                ),
            ],
            Shop = true,
        };
    }

    private static StripStep AsDone(StripStep step, StripBook book, Dictionary<string, int> turn, HashSet<string> known)
    {
        var own = step.Copy();
        var planned = book.Planned(step, Fact.None);
        own.Fasteners =
        [
            .. step.Fasteners.Select(f =>
            {
                var set = f.Copy();
                set.Counted = f.Counted || planned.Sets.Any(l => l.Set.Id == f.Id && l.Expected > 0 && l.Out == l.Expected);
                return set;
            }),
        ];
        // Common steps name what other engines have; this one has its own.
        own.After = step.After.Where(a => known.Contains(a.Key)).ToDictionary(a => a.Key, a => a.Value, StringComparer.Ordinal);
        // What is usual elsewhere and was done the other way round here is not usual any more.
        own.Usually = step
            .Usually.Where(u =>
                known.Contains(u.Key) && !(turn.TryGetValue(u.Key, out var before) && turn.TryGetValue(step.Id, out var at) && before > at)
            )
            .ToDictionary(u => u.Key, u => u.Value, StringComparer.Ordinal);
        if (planned is { Spent: >= 1, State: StepState.Done })
        {
            (own.Minutes, own.MinutesEach) = (Math.Round(planned.Spent), 0);
        }

        own.Provenance = "";
        return own;
    }

    [GeneratedRegex("^[a-z0-9][a-z0-9-]{0,59}$", RegexOptions.None, 1000)]
    private static partial Regex IdPattern();
}
