using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>Something wrong with a cause.</summary>
/// <param name="At">The entry, link or prediction that it is about, for its line in the file.</param>
/// <param name="Field">Path of the field, such as chain.1.predicts.0.sign.</param>
public sealed record CauseFault(object At, string Field, string Text, string Remedy);

/// <summary>What a cause must say to be used, whoever wrote it: those that ship, and the shop's own.</summary>
public static class CauseRules
{
    /// <param name="sign">The sign of an id, or null.</param>
    /// <param name="risk">Whether there is a risk of that id.</param>
    public static IEnumerable<CauseFault> Check(CauseEntry cause, Func<string, SignEntry?> sign, Func<string, bool> risk)
    {
        CauseFault At(object at, string field, string text, string remedy) => new(at, field, text, remedy);

        if (cause.Chain.Count == 0 || cause.Chain.TrueForAll(l => l.Predicts.Count == 0))
        {
            yield return At(cause, "chain", $"“{cause.Id}” predicts nothing.", "Give its chain signs.");
        }

        if (cause.Base == Frequency.Never)
        {
            yield return At(
                cause,
                "base",
                $"“{cause.Id}” does not say how often it is met.",
                "Give its base a word of the table, rarely for instance."
            );
        }

        if (PartKinds.Find(cause.Seat) is null)
        {
            yield return At(cause, "seat", $"“{cause.Id}” names the unknown kind of part “{cause.Seat}”.", "Use an id from the table of kinds.");
        }

        for (var r = 0; r < cause.Risks.Count; r++)
        {
            if (!risk(cause.Risks[r].Risk) || cause.Risks[r].Times <= 0)
            {
                yield return At(
                    cause.Risks[r],
                    $"risks.{r}",
                    $"“{cause.Id}” names the unknown risk “{cause.Risks[r].Risk}”, or a factor that is not above 0.",
                    "Use an id from risks/ and a factor above 0."
                );
            }
        }

        for (var l = 0; l < cause.Chain.Count; l++)
        {
            var link = cause.Chain[l];
            if (string.IsNullOrWhiteSpace(link.Says))
            {
                yield return At(link, $"chain.{l}.says", $"Link {l + 1} of “{cause.Id}” says nothing.", "Say in a sentence what happens there.");
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

    private static IEnumerable<CauseFault> Prediction(CauseEntry cause, Prediction prediction, string field, Func<string, SignEntry?> sign)
    {
        if (sign(prediction.Sign) is not { } known)
        {
            yield return new CauseFault(
                prediction,
                $"{field}.sign",
                $"“{cause.Id}” predicts the unknown sign “{prediction.Sign}”.",
                "Use an id from signs/."
            );
            yield break;
        }

        if (prediction.On.Count == 0)
        {
            yield return new CauseFault(
                prediction,
                $"{field}.on",
                $"“{cause.Id}” does not say on what “{known.Name}” is left.",
                "Give the kinds of part."
            );
        }

        if (prediction.Often == Frequency.Never)
        {
            yield return new CauseFault(
                prediction,
                $"{field}.often",
                $"“{cause.Id}” does not say how often it leaves “{known.Name}”.",
                "Give a word of the table, or take the sign out."
            );
        }

        if (prediction.On.Find(k => PartKinds.Find(k) is null) is { } unknown)
        {
            yield return new CauseFault(
                prediction,
                $"{field}.on",
                $"“{cause.Id}” names the unknown kind of part “{unknown}”.",
                "Use an id from the table of kinds."
            );
        }
        else if (prediction.On.Except(known.On, StringComparer.Ordinal).FirstOrDefault() is { } wrong)
        {
            yield return new CauseFault(
                prediction,
                $"{field}.on",
                $"“{cause.Id}” looks for “{prediction.Sign}” on {wrong}, where it is never found.",
                "Add the kind to the sign, or correct the cause."
            );
        }
    }
}
