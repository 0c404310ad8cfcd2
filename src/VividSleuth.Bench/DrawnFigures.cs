using System.Diagnostics;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Bench;

/// <summary>How well the inference finds what was drawn from its own stories, and how long it takes on a large engine.</summary>
internal static class DrawnFigures
{
    private const int Cases = 2000;

    public static void Run(Figures figures)
    {
        var six = Core.Cases.CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case.Layout;
        Found(figures, six with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] });
        foreach (var (cylinders, signs) in new[] { (2, 400), (4, 400), (8, 400), (16, 100), (16, 200), (16, 400), (16, 800) })
        {
            Large(figures, six, cylinders, signs);
        }
    }

    /// <summary>Engines drawn from the stories, each of their signs looked at with a chance of one half.</summary>
    private static void Found(Figures figures, EngineLayout four)
    {
        foreach (var jitter in new[] { 0, 1 })
        {
            var trial = DrawnTrial.Run(four, KnowledgeBase.BuiltIn, Cases, jitter);
            var what = $"{Cases} drawn fours{(jitter > 0 ? ", frequencies a word up or down" : "")}";
            figures.AtMost("Trace", $"{what}: a true cause is not on top", 100 * (1 - trial.OnTop), jitter > 0 ? 30 : 20, "%");
            if (jitter == 0)
            {
                figures.AtMost("Trace", $"{what}: none among the first three", 100 * (1 - trial.AmongThree), 5, "%");
                figures.AtMost("Trace", $"{what}: worst tenth off its told share by", trial.WorstTenth, 0.05, "");
            }
        }
    }

    private static void Large(Figures figures, EngineLayout six, int cylinders, int signs)
    {
        var layout = six with { Cylinders = cylinders, FiringOrder = [.. Enumerable.Range(1, cylinders)] };
        if (layout.Check().Any())
        {
            figures.Tell("Trace", $"{cylinders} cylinders", string.Join("; ", layout.Check().Select(p => p.Text)));
            return;
        }

        var table = new AddressTable(Engine.From(layout));
        var drawn = Enumerable.Range(1, 50).Select(s => DrawnCase.Draw(layout, KnowledgeBase.BuiltIn, s)).First(d => d.Causes.Count > 0);
        var random = new Random(7);
        var all = drawn.Signs.ToArray();
        random.Shuffle(all);
        drawn.Case.Findings.AddRange(all.Take(signs).Select(s => drawn.Found(s.Sign, s.Place)));
        var ms = Figures.Median(() => Tracer.Answer(drawn.Case, table, KnowledgeBase.BuiltIn, []), runs: 9);
        var what =
            $"answer with next checks, {cylinders} cylinders in line, {KnowledgeBase.BuiltIn.Stories.Count} stories, {Math.Min(signs, all.Length)} signs";
        if (cylinders == 16 && signs == 400)
        {
            figures.AtMost("Trace", what, ms, 150, "ms");
        }
        else
        {
            figures.Tell("Trace", what, $"{ms:0} ms");
        }
    }
}
