using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>What to ask about the past: an answer costs a minute and no part.</summary>
internal static class RiskQuestions
{
    private const int Most = 3;

    /// <summary>Causes that count: the first of the ranking.</summary>
    private const int Leading = 12;

    private const double Least = 0.01;

    /// <summary>How often such a question is answered with yes (common practice, no source).</summary>
    private const double Yes = 0.3;

    /// <summary>
    /// Questions that nobody answered, by the expected information about each of the leading causes by itself: the answers multiply their odds.
    /// </summary>
    public static IReadOnlyList<RiskQuestion> Of(TraceModel model, int[] ranked, Func<int, double> probability) =>
        [
            .. model
                .Knowledge.Risks.Where(r => !model.Risks.ContainsKey(r.Id))
                .Select(r =>
                {
                    var moved = ranked
                        .Take(Leading)
                        .Select(h => (Hypothesis: h, Factor: model.Hypotheses[h].Cause.Risks.Find(x => x.Risk == r.Id)))
                        .Where(x => x.Factor is not null)
                        .Select(x =>
                        {
                            var p = probability(x.Hypothesis);
                            var (so, not) = (After(p, TraceModel.RiskFactor(x.Factor!, true)), After(p, TraceModel.RiskFactor(x.Factor!, false)));
                            var mean = (Yes * so) + ((1 - Yes) * not);
                            var bits =
                                Information.BinaryEntropy(mean)
                                - (Yes * Information.BinaryEntropy(so))
                                - ((1 - Yes) * Information.BinaryEntropy(not));
                            return (x.Hypothesis, Bits: Math.Max(0, bits), So: so, Not: not, Now: p);
                        })
                        .ToArray();
                    if (moved.Length == 0)
                    {
                        return null;
                    }

                    var most = moved.MaxBy(m => m.Bits);
                    var hypothesis = model.Hypotheses[most.Hypothesis];
                    return new RiskQuestion(
                        r.Id,
                        r.Question,
                        moved.Sum(m => m.Bits),
                        hypothesis.Cause.Name,
                        hypothesis.Seat,
                        most.Now,
                        most.So,
                        most.Not
                    );
                })
                .OfType<RiskQuestion>()
                .Where(q => q.Bits >= Least)
                .OrderByDescending(q => q.Bits)
                .ThenBy(q => q.Risk, StringComparer.Ordinal)
                .Take(Most),
        ];

    private static double After(double p, double factor) => p * factor / ((p * factor) + 1 - p);
}
