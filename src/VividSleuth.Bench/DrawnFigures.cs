using System.Diagnostics;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Bench;

/// <summary>How well the inference finds what was drawn from its own stories.</summary>
internal static class DrawnFigures
{
    public static EngineLayout Four { get; } = EngineLayoutOf();

    private static EngineLayout EngineLayoutOf()
    {
        var six = Core.Cases.CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case.Layout;
        return six with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };
    }

    public static void Run(Figures figures, int cases, int jitter)
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var table = new AddressTable(Engine.From(Four));
        int withCause = 0,
            top = 0,
            three = 0;
        var told = new (double Sum, int True, int Count)[10];
        var missed = new Dictionary<string, int>();
        var began = Stopwatch.GetTimestamp();
        var looked = 0;
        for (var seed = 1; seed <= cases; seed++)
        {
            var drawn = DrawnCase.Draw(Four, knowledge, seed, jitter);
            var random = new Random(seed * 7919);
            drawn.Case.Findings.AddRange(drawn.Signs.Where(_ => random.Next(2) == 0).Select(s => drawn.Found(s.Sign, s.Place)));
            looked += drawn.Case.Findings.Count;
            var answer = Tracer.Answer(drawn.Case, table, knowledge, []);
            var truth = drawn.Causes.Select(c => c.Story).ToHashSet();
            withCause += truth.Count > 0 ? 1 : 0;
            var ok = truth.Contains(answer.Ranking[0].Story);
            top += ok ? 1 : 0;
            three += answer.Ranking.Select(r => r.Story).Distinct().Take(3).Any(truth.Contains) ? 1 : 0;
            if (truth.Count > 0 && !answer.Ranking.Select(r => r.Story).Distinct().Take(3).Any(truth.Contains))
            {
                var key = $"{drawn.Causes[0].Story}";
                missed[key] = missed.GetValueOrDefault(key) + 1;
            }

            foreach (var r in answer.Ranking)
            {
                var tenth = Math.Min(9, (int)(r.Probability * 10));
                var so = drawn.Causes.Any(c => c.Story == r.Story && c.Place == r.Place);
                told[tenth] = (told[tenth].Sum + r.Probability, told[tenth].True + (so ? 1 : 0), told[tenth].Count + 1);
            }
        }

        var ms = Stopwatch.GetElapsedTime(began).TotalMilliseconds / cases;
        figures.Tell("Trace", $"{cases} drawn fours, jitter {jitter}, {looked / cases} signs each", $"{ms:0} ms each");
        figures.Tell("Trace", "a true story on top", $"{100.0 * top / withCause:0.0} %");
        figures.Tell("Trace", "a true story among the first three", $"{100.0 * three / withCause:0.0} %");
        for (var i = 0; i < 10; i++)
        {
            if (told[i].Count > 0)
            {
                figures.Tell(
                    "Trace",
                    $"told {told[i].Sum / told[i].Count:0.000}, {told[i].Count} times",
                    $"{(double)told[i].True / told[i].Count:0.000} true"
                );
            }
        }

        foreach (var (words, n) in missed.OrderByDescending(m => m.Value).Take(30))
        {
            figures.Tell("Trace", words, n.ToString());
        }
    }
}
