using VividSleuth.Core.Arrival;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>How the inference did on engines drawn from the stories.</summary>
/// <param name="WithCause">Engines that had a root cause.</param>
/// <param name="OnTop">Share of them whose leading hypothesis tells a true story.</param>
/// <param name="AmongThree">Share of them with a true story among the first three.</param>
/// <param name="Tenths">By tenth of probability: mean told, share true, how many.</param>
public sealed record DrawnTrial(int WithCause, double OnTop, double AmongThree, IReadOnlyList<(double Told, double True, int Count)> Tenths)
{
    /// <summary>Tenths with fewer hypotheses than this say nothing of calibration.</summary>
    private const int Enough = 50;

    /// <summary>Furthest that the share true lies from the probability told, over the tenths with enough in them.</summary>
    public double WorstTenth => Tenths.Where(t => t.Count >= Enough).Select(t => Math.Abs(t.Told - t.True)).DefaultIfEmpty(0).Max();

    /// <summary>Draws engines, looks at each sign of each with a chance of one half, and asks what it was.</summary>
    /// <param name="jitter">Words by which the truth's frequencies may differ from the written ones.</param>
    public static DrawnTrial Run(EngineLayout layout, KnowledgeBase knowledge, int cases, int jitter)
    {
        var table = new AddressTable(Engine.From(layout));
        int withCause = 0,
            top = 0,
            three = 0;
        var tenths = new (double Sum, int True, int Count)[10];
        for (var seed = 1; seed <= cases; seed++)
        {
            var drawn = DrawnCase.Draw(layout, knowledge, seed, jitter);
            var random = new Random(seed * 7919);
            drawn.Case.Findings.AddRange(drawn.Signs.Where(_ => random.Next(2) == 0).Select(s => drawn.Found(s.Sign, s.Place)));
            var answer = Tracer.Answer(drawn.Case, table, knowledge, []);
            var truth = drawn.Causes.Select(c => c.Story).ToHashSet(StringComparer.Ordinal);
            if (truth.Count > 0)
            {
                withCause++;
                top += truth.Contains(answer.Ranking[0].Story) ? 1 : 0;
                three += answer.Ranking.Select(r => r.Story).Distinct().Take(3).Any(truth.Contains) ? 1 : 0;
            }

            foreach (var r in answer.Ranking)
            {
                ref var tenth = ref tenths[Math.Min(9, (int)(r.Probability * 10))];
                var so = drawn.Causes.Any(c => c.Story == r.Story && c.Place == r.Place);
                tenth = (tenth.Sum + r.Probability, tenth.True + (so ? 1 : 0), tenth.Count + 1);
            }
        }

        return new DrawnTrial(
            withCause,
            (double)top / withCause,
            (double)three / withCause,
            [.. tenths.Select(t => t.Count > 0 ? (t.Sum / t.Count, (double)t.True / t.Count, t.Count) : (0, 0, 0))]
        );
    }
}
