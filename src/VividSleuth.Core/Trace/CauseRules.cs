using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>Something wrong with a cause.</summary>
/// <param name="At">The entry, link or prediction that it is about, for its line in the file.</param>
/// <param name="Field">Path of the field, such as chain.1.predicts.0.sign.</param>
public sealed record CauseFault(object At, Problem Problem);

/// <summary>What a cause must say to be used, whoever wrote it: those that ship, and the shop's own.</summary>
public static class CauseRules
{
    /// <param name="sign">The sign of an id, or null.</param>
    /// <param name="risk">Whether there is a risk of that id.</param>
    /// <param name="other">Whether there is a cause of that id.</param>
    public static IEnumerable<CauseFault> Check(KnownCause cause, Func<string, KnownSign?> sign, Func<string, bool> risk, Func<string, bool> other)
    {
        CauseFault At(object at, Problem problem) => new(at, problem);

        if (cause.Chain.Count == 0 || cause.Chain.TrueForAll(l => l.Predicts.Count == 0))
        {
            yield return At(cause, Problem.Of("chain", "trace.predicts-nothing", ("cause", cause.Id)));
        }

        if (cause.Base == Frequency.Never)
        {
            yield return At(cause, Problem.Of("base", "trace.does-not-say-how-often", ("cause", cause.Id)));
        }

        if (PartKinds.Find(cause.Seat) is null)
        {
            yield return At(cause, Problem.Of("seat", "trace.names-unknown-kind-part", ("cause", cause.Id), ("seat", cause.Seat)));
        }

        if (cause.WideSeat.Length > 0 && PartKinds.Find(cause.WideSeat) is null)
        {
            yield return At(cause, Problem.Of("wideSeat", "trace.names-unknown-kind-part", ("cause", cause.Id), ("seat", cause.WideSeat)));
        }

        for (var d = 0; d < cause.Defines.Count; d++)
        {
            if (sign(cause.Defines[d].Sign) is null || cause.Defines[d].From is < 1 or > 3)
            {
                yield return At(
                    cause.Defines[d],
                    Problem.Of($"defines.{d}", "trace.defines-unknown-sign", ("cause", cause.Id), ("sign", cause.Defines[d].Sign))
                );
            }
        }

        for (var b = 0; b < cause.Brings.Count; b++)
        {
            if (cause.Brings[b].Often == Frequency.Never || cause.Brings[b].Cause == cause.Id || !other(cause.Brings[b].Cause))
            {
                yield return At(
                    cause.Brings[b],
                    Problem.Of($"brings.{b}", "trace.brings-unknown-cause", ("cause", cause.Id), ("other", cause.Brings[b].Cause))
                );
            }
        }

        if (cause.KindOf.Length > 0 && (cause.KindOf == cause.Id || !other(cause.KindOf)))
        {
            yield return At(cause, Problem.Of("kindOf", "trace.kind-of-unknown-cause", ("cause", cause.Id), ("other", cause.KindOf)));
        }

        for (var r = 0; r < cause.Risks.Count; r++)
        {
            if (!risk(cause.Risks[r].Risk) || cause.Risks[r].Times <= 0)
            {
                yield return At(
                    cause.Risks[r],
                    Problem.Of($"risks.{r}", "trace.names-unknown-risk-factor-not", ("cause", cause.Id), ("risk", cause.Risks[r].Risk))
                );
            }
        }

        for (var l = 0; l < cause.Chain.Count; l++)
        {
            var link = cause.Chain[l];
            if (string.IsNullOrWhiteSpace(link.Says))
            {
                yield return At(link, Problem.Of($"chain.{l}.says", "trace.link-says-nothing", ("l", l + 1), ("cause", cause.Id)));
            }

            for (var p = 0; p < link.Predicts.Count; p++)
            {
                foreach (var fault in Prediction(cause, link.Predicts[p], $"chain.{l}.predicts.{p}", sign))
                {
                    yield return fault;
                }
            }
        }
    }

    private static IEnumerable<CauseFault> Prediction(KnownCause cause, Prediction prediction, string field, Func<string, KnownSign?> sign)
    {
        if (sign(prediction.Sign) is not { } known)
        {
            yield return new CauseFault(
                prediction,
                Problem.Of($"{field}.sign", "trace.predicts-unknown-sign", ("cause", cause.Id), ("sign", prediction.Sign))
            );
            yield break;
        }

        if (prediction.On.Count == 0)
        {
            yield return new CauseFault(
                prediction,
                Problem.Of($"{field}.on", "trace.does-not-say-what-left", ("cause", cause.Id), ("known", known.Name))
            );
        }

        if (prediction.Often == Frequency.Never)
        {
            yield return new CauseFault(
                prediction,
                Problem.Of($"{field}.often", "trace.does-not-say-how-often-2", ("cause", cause.Id), ("known", known.Name))
            );
        }

        if (prediction.On.Find(k => PartKinds.Find(k) is null) is { } unknown)
        {
            yield return new CauseFault(
                prediction,
                Problem.Of($"{field}.on", "trace.names-unknown-kind-part-2", ("cause", cause.Id), ("unknown", unknown))
            );
        }
        else if (prediction.On.Except(known.On, StringComparer.Ordinal).FirstOrDefault() is { } wrong)
        {
            yield return new CauseFault(
                prediction,
                Problem.Of($"{field}.on", "trace.looks-where-never-found", ("cause", cause.Id), ("sign", prediction.Sign), ("wrong", wrong))
            );
        }
    }
}
