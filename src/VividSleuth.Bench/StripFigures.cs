using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Bench;

/// <summary>Plan and dig on strips larger than any engine's, made by a fixed scatter.</summary>
internal static class StripFigures
{
    public static void Run(Figures figures)
    {
        Families(figures);
        foreach (var n in new[] { 50, 100, 200, 400, 800, 1600 })
        {
            var (engineCase, table) = Case(n, n * 9 / 4);
            StripPlan? plan = null;
            var planned = Figures.Median(() => plan = StripPlanner.Plan(engineCase.StripLog(), table, KnowledgeBase.BuiltIn), runs: 7);
            var dug = Figures.Median(() => Digger.To("K3", engineCase.StripLog(), table, KnowledgeBase.BuiltIn), runs: 7);
            var what = $"{n} steps, {n * 9 / 4} precedences";
            if (n == 400)
            {
                figures.AtMost("Strip", $"plan, {what}", planned, 100, "ms");
                figures.AtMost("Strip", $"dig, {what}", dug, 100, "ms");
            }
            else
            {
                figures.Tell("Strip", $"plan and dig, {what}", $"{planned:0.0} + {dug:0.0} ms");
            }
        }
    }

    /// <summary>The plan of each family from the first step on, and half-way through, by each of its other ways too.</summary>
    private static void Families(Figures figures)
    {
        var slowest = (Ms: 0.0, What: "");
        var plans = 0;
        foreach (var family in KnowledgeBase.BuiltIn.Families)
        {
            var table = new AddressTable(Engine.From(family.Layout));
            var engineCase = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case;
            engineCase.Steps.Clear();
            engineCase.Findings.Clear();
            (engineCase.Layout, engineCase.Script, engineCase.EngineName) = (family.Layout, "", family.Name);
            var script = StripPlanner.ScriptOf(engineCase.StripLog(), KnowledgeBase.BuiltIn);
            foreach (var way in script.Variants.Where(v => v.Applies.Fits(family.Layout)).Select(v => v.Id).Prepend(""))
            {
                engineCase.Variants = way.Length == 0 ? [] : [way];
                engineCase.Steps.Clear();
                var plan = StripPlanner.Plan(engineCase.StripLog(), table, KnowledgeBase.BuiltIn);
                Time("begun");
                engineCase.Steps.AddRange(
                    plan.Steps.Take(plan.Steps.Count / 2).Select(s => new StepRecord { Id = Guid.CreateVersion7(), Step = s.Id })
                );
                Time("half-way");
                void Time(string when)
                {
                    var ms = Figures.Median(() => StripPlanner.Plan(engineCase.StripLog(), table, KnowledgeBase.BuiltIn), runs: 5);
                    plans++;
                    slowest = ms > slowest.Ms ? (ms, $"{family.Id} {way} {when}") : slowest;
                }
            }
        }

        figures.AtMost("Strip", $"slowest of {plans} plans of all families ({slowest.What})", slowest.Ms, 100, "ms");
    }

    /// <summary>A case whose own steps hang after the general strip, with three attitudes, twelve tools and two ends.</summary>
    private static (EngineCase Case, AddressTable Table) Case(int steps, int precedences)
    {
        var engineCase = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case;
        engineCase.Steps.Clear();
        var dice = new Random(4711);
        var own = Enumerable
            .Range(0, steps)
            .Select(i => new StripStep
            {
                Id = $"own-{i:0000}",
                Name = $"Step {i}",
                Attitude = (Attitude)dice.Next(3),
                End = dice.Next(3) is var e && e < 2 ? (CrankEnd)e : null,
                Tools = [$"tool {dice.Next(12)}"],
                Minutes = 1 + dice.Next(30),
                Exposes = i == steps - 1 ? [PartKinds.Crankpin] : [],
            })
            .ToArray();
        for (var p = 0; p < precedences; p++)
        {
            var after = 1 + dice.Next(steps - 1);
            own[after].After[own[Math.Max(0, after - 1 - dice.Next(40))].Id] = "Made up.";
        }

        engineCase.OwnSteps =
        [
            .. own.Select(s => new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Step = s,
                Reason = "bench",
            }),
        ];
        return (engineCase, new AddressTable(Engine.From(engineCase.Layout)));
    }
}
