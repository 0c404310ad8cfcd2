using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>How the inference did on engines drawn from the causes.</summary>
/// <param name="WithCause">Engines that had a root cause.</param>
/// <param name="OnTop">Share of them whose leading hypothesis tells a true cause.</param>
/// <param name="AmongThree">Share of them with a true cause among the first three.</param>
/// <param name="Alone">The same of engines with one root cause only, where there is no other true cause to be met by.</param>
/// <param name="Tenths">By tenth of probability: mean told, share true, how many.</param>
public sealed record DrawnTrial(
    int WithCause,
    double OnTop,
    double AmongThree,
    (int Count, double OnTop, double AmongThree) Alone,
    IReadOnlyList<(double Told, double True, int Count)> Tenths
)
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
        var drawn = new Asked[cases];
        Parallel.For(0, cases, i => drawn[i] = Ask(layout, table, knowledge, i + 1, jitter));
        var withCause = drawn.Where(d => d.Causes > 0).ToArray();
        var alone = drawn.Where(d => d.Causes == 1).ToArray();
        var top = withCause.Count(d => d.OnTop);
        var three = withCause.Count(d => d.AmongThree);
        var tenths = new (double Sum, int True, int Count)[10];
        // Added up in the order of the engines, so that the figures are the same each time.
        foreach (var (told, so) in drawn.SelectMany(d => d.Told))
        {
            ref var tenth = ref tenths[Math.Min(9, (int)(told * 10))];
            tenth = (tenth.Sum + told, tenth.True + (so ? 1 : 0), tenth.Count + 1);
        }

        return new DrawnTrial(
            withCause.Length,
            (double)top / withCause.Length,
            (double)three / withCause.Length,
            (
                alone.Length,
                (double)alone.Count(d => d.OnTop) / Math.Max(1, alone.Length),
                (double)alone.Count(d => d.AmongThree) / Math.Max(1, alone.Length)
            ),
            [.. tenths.Select(t => t.Count > 0 ? (t.Sum / t.Count, (double)t.True / t.Count, t.Count) : (0, 0, 0))]
        );
    }

    private static Asked Ask(EngineLayout layout, AddressTable table, KnowledgeBase knowledge, int seed, int jitter)
    {
        var drawn = DrawnCase.Draw(layout, knowledge, seed, jitter);
        var random = new Random(seed * 7919);
        var findings = drawn.Signs.Where(_ => random.Next(2) == 0).Select(s => drawn.Found(s.Sign, s.Place)).ToArray();
        var answer = Tracer.Ranking(new TraceLog(findings, new Dictionary<string, bool>()), table, knowledge);
        // A kind is told within the cause that it is a kind of.
        var truth = drawn.Causes.SelectMany(c => new[] { c.Cause, knowledge.Cause(c.Cause)!.KindOf }).ToHashSet(StringComparer.Ordinal);
        return new Asked(
            drawn.Causes.Count,
            answer.Ranking.Count > 0 && truth.Contains(answer.Ranking[0].Cause),
            answer.Ranking.Select(r => r.Cause).Distinct().Take(3).Any(truth.Contains),
            [.. answer.Ranking.Select(r => (r.Probability, drawn.Causes.Any(c => c.Place == r.Seat && Tells(knowledge, r.Cause, c.Cause))))]
        );
    }

    private static bool Tells(KnowledgeBase knowledge, string told, string cause) => told == cause || knowledge.Cause(cause)!.KindOf == told;

    /// <param name="Told">Of each hypothesis ranked, the probability told and whether it was so.</param>
    private sealed record Asked(int Causes, bool OnTop, bool AmongThree, IReadOnlyList<(double Told, bool So)> Told);
}
