using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Bench;

/// <summary>How well the inference finds what was drawn from its own causes.</summary>
internal static class DrawnFigures
{
    /// <summary>
    /// Of 2,000 engines a tenth in the middle has some 130 hypotheses, whose share is off by 0.04 by chance alone (one standard error); of these 0.023.
    /// </summary>
    private const int Cases = 6000;

    private const int Jittered = 1000;

    public static void Run(Figures figures)
    {
        var six = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case.Layout;
        var four = six with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };
        Found(figures, four);
        Advice(figures, four);
    }

    /// <summary>Engines drawn from the causes with their extents and severities, each of their signs looked at with a chance of one half.</summary>
    private static void Found(Figures figures, EngineLayout four)
    {
        var trial = DrawnTrial.Run(four, KnowledgeBase.BuiltIn, Cases, 0);
        var what = $"{Cases} drawn fours";
        figures.AtMost("Trace", $"{what}: a true cause is not on top", 100 * (1 - trial.OnTop), 20, "%");
        figures.AtMost("Trace", $"{what}: none among the first three", 100 * (1 - trial.AmongThree), 5, "%");
        figures.AtMost(
            "Trace",
            $"{trial.Alone.Count} of them with one cause only: not among the first three",
            100 * (1 - trial.Alone.AmongThree),
            5,
            "%"
        );
        figures.Tell("Trace", $"{trial.Alone.Count} of them with one cause only: on top", $"{100 * trial.Alone.OnTop:0.0} %");
        figures.AtMost("Trace", $"{what}: worst tenth off its told share by", trial.WorstTenth, 0.05, "");
        figures.Tell(
            "Trace",
            $"{what}, by tenth: told, true, how many",
            string.Join("; ", trial.Tenths.Select(t => $"{t.Told:0.00} {t.True:0.00} {t.Count}"))
        );
        var jittered = DrawnTrial.Run(four, KnowledgeBase.BuiltIn, Jittered, 1);
        figures.AtMost(
            "Trace",
            $"{Jittered} drawn fours, frequencies a word up or down: a true cause is not on top",
            100 * (1 - jittered.OnTop),
            30,
            "%"
        );
    }

    /// <summary>
    /// Minutes until the leading cause stands at 90 %, by the advice on what to look at next, against going through the signs of the whole
    /// engine part by part; of the engines that reach it both ways.
    /// </summary>
    private static void Advice(Figures figures, EngineLayout four)
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var table = new AddressTable(Engine.From(four));
        double byAdvice = 0,
            byWalk = 0;
        var reached = 0;
        for (var seed = 1; seed <= 12; seed++)
        {
            var drawn = DrawnCase.Draw(four, knowledge, seed);
            if (drawn.Causes.Count == 0)
            {
                continue;
            }

            var order = drawn.Signs.OrderBy(s => s.Place, StringComparer.Ordinal).ThenBy(s => s.Sign, StringComparer.Ordinal).ToList();
            var walk = Minutes(drawn, knowledge, table, (_, done) => order.Where(s => !done.Contains(s)).Take(20).ToArray());
            var advice = Minutes(
                drawn,
                knowledge,
                table,
                (answer, done) => [.. answer.NextChecks.Select(c => (c.Sign, c.Place)).Where(s => !done.Contains(s)).Take(1)]
            );
            if (walk is { } w && advice is { } a)
            {
                reached++;
                byWalk += w;
                byAdvice += a;
            }
        }

        figures.AtMost("Trace", $"minutes to 90 % by advice over part by part, {reached} engines", byAdvice / byWalk, 0.5, "times");
        figures.Tell("Trace", "minutes by advice, part by part", $"{byAdvice / reached:0}, {byWalk / reached:0}");
    }

    private static double? Minutes(
        DrawnCase drawn,
        KnowledgeBase knowledge,
        AddressTable table,
        Func<TraceAnswer, HashSet<(string Sign, string Place)>, (string Sign, string Place)[]> next
    )
    {
        var findings = new List<Finding>();
        var done = new HashSet<(string Sign, string Place)>();
        var minutes = 0.0;
        for (var step = 0; step < 120; step++)
        {
            var answer = Tracer.Answer(new TraceLog(findings, new Dictionary<string, bool>()), table, knowledge, []);
            if (answer.Ranking is [{ Probability: >= 0.9 }, ..])
            {
                return minutes;
            }

            var looks = next(answer, done);
            if (looks.Length == 0)
            {
                return null;
            }

            foreach (var look in looks)
            {
                done.Add(look);
                minutes += knowledge.Sign(look.Sign)!.Minutes;
                findings.Add(drawn.Found(look.Sign, look.Place));
            }
        }

        return null;
    }
}
