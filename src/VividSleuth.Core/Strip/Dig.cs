using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <param name="Share">What part of the step is needed: one station of several, or all of it (1).</param>
public sealed record DigStep(string Id, string Name, Attitude Attitude, double Minutes, double Share);

/// <summary>The least work that lays one place open.</summary>
/// <param name="By">Id of the step that lays it open; empty when it lies open already.</param>
/// <param name="Steps">What is left to do, in order.</param>
/// <param name="Fasteners">How many must come out.</param>
/// <param name="Turns">How often the engine is turned.</param>
public sealed record DigPlan(string Target, string By, IReadOnlyList<DigStep> Steps, double Minutes, int Fasteners, int Turns, Fact Words);

/// <summary>Finds what must come off, and no more, to see one part.</summary>
public static class Digger
{
    /// <summary>
    /// For every step that lays the target open: it and all that must come before, without what is done. The cheapest in minutes
    /// is taken; of a step that can be done at one station alone only that share counts. With precedences that must all hold, the
    /// steps before are the same whichever way one digs, so this is the least.
    /// </summary>
    /// <exception cref="ProblemException">No step of this strip lays it open.</exception>
    public static DigPlan To(string target, StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        var place = table.Parse(target, "target");
        var steps = StripPlanner.StepsOf(log, StripPlanner.ScriptOf(log, knowledge));
        var done = log.Steps.Where(s => s.Stands() && s.State == StepState.Done).Select(s => s.Step).ToHashSet(StringComparer.Ordinal);
        var opens = steps.Where(s => s.Exposes.Contains(place.Kind.Id) || s.Releases.Contains(place.Kind.Id)).ToArray();
        if (opens.Length == 0)
        {
            throw new ProblemException(Problem.Of("target", "strip.no-step-lays-open", ("place", place.Code)));
        }

        if (Array.Find(opens, s => done.Contains(s.Id)) is { } open)
        {
            return new DigPlan(place.Code, "", [], 0, 0, 0, Fact.Of("strip.lies-open-since", ("place", place.Code), ("step", open.Name)));
        }

        var byId = steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        var (last, needed, minutes) = opens
            .Select(s => (Step: s, Needed: Needed(s, byId, done)))
            .Select(x =>
                (x.Step, x.Needed, Minutes: x.Needed.Sum(n => Share(n, x.Step, place, table.Engine) * StripPlanner.MinutesOf(n, table.Engine)))
            )
            .MinBy(x => (x.Minutes, Array.IndexOf(opens, x.Step)));
        var tools = StripPlanner.ToolNumbers(steps);
        var lies = log.Steps.Where(s => s.Stands()).OrderBy(s => s.At).Select(s => byId.GetValueOrDefault(s.Step)).LastOrDefault(s => s is not null);
        var order = StripPlanner.Order(needed, tools, new Setup((int)(lies?.Attitude ?? Attitude.Upright), -1, -1));
        var inOrder = order
            .Order.Select(i => needed[i])
            .Select(s =>
            {
                var share = Share(s, last, place, table.Engine);
                return new DigStep(s.Id, s.Name, s.Attitude, share * StripPlanner.MinutesOf(s, table.Engine), share);
            })
            .ToArray();
        var fasteners = needed.Sum(s =>
            s.Fasteners.Sum(f =>
            {
                var one = s.Id == last.Id && Share(s, last, place, table.Engine) < 1 && f.Per == s.Per;
                return one ? f.Count : FastenerLedger.Expected(f, table.Engine);
            })
        );
        return new DigPlan(
            place.Code,
            last.Id,
            inOrder,
            minutes,
            fasteners,
            order.Cost.Turns,
            Fact.Of(
                "strip.dig",
                ("steps", inOrder.Length),
                ("minutes", new Number(minutes)),
                ("fasteners", fasteners),
                ("turns", order.Cost.Turns == 0 ? Fact.Of("strip.not-turned") : Fact.Of("strip.turned", ("times", order.Cost.Turns)))
            )
        );
    }

    private static StripStep[] Needed(StripStep target, Dictionary<string, StripStep> byId, HashSet<string> done)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal) { target.Id };
        var open = new Stack<StripStep>([target]);
        while (open.TryPop(out var step))
        {
            foreach (var before in step.After.Keys.Where(k => byId.ContainsKey(k) && !done.Contains(k) && seen.Add(k)))
            {
                open.Push(byId[before]);
            }
        }

        return [.. byId.Values.Where(s => seen.Contains(s.Id))];
    }

    /// <summary>One station's share of the last step, where it can be done at one station alone; all of every other.</summary>
    private static double Share(StripStep step, StripStep last, Address place, Engine engine)
    {
        var fits = (step.Per, place.Kind.Scope) switch
        {
            (FastenerCount.PerCylinder, StationScope.Cylinder or StationScope.Crankpin) => true,
            (FastenerCount.PerMain, StationScope.Main) => true,
            (FastenerCount.PerBank, StationScope.Bank or StationScope.Cylinder) => true,
            (FastenerCount.PerCamshaft, StationScope.Camshaft) => true,
            _ => false,
        };
        return step.Id == last.Id && step.OneAtATime && fits ? 1.0 / FastenerLedger.CountOf(step.Per, engine) : 1;
    }
}
