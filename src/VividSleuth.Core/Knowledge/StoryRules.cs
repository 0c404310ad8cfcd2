using VividSleuth.Core.Index;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Knowledge;

/// <summary>Something wrong with a story.</summary>
/// <param name="At">The entry, link or prediction that it is about, for its line in the file.</param>
/// <param name="Field">Path of the field, such as chain.1.predicts.0.sign.</param>
public sealed record StoryFault(object At, string Field, string Text, string Remedy);

/// <summary>What a story must say to be used, whoever wrote it: those that ship, and the shop's own.</summary>
public static class StoryRules
{
    /// <param name="sign">The sign of an id, or null.</param>
    /// <param name="risk">Whether there is a risk of that id.</param>
    public static IEnumerable<StoryFault> Check(StoryEntry story, Func<string, SignEntry?> sign, Func<string, bool> risk)
    {
        StoryFault At(object at, string field, string text, string remedy) => new(at, field, text, remedy);

        if (story.Chain.Count == 0 || story.Chain.TrueForAll(l => l.Predicts.Count == 0))
        {
            yield return At(story, "chain", $"“{story.Id}” predicts nothing.", "Give its chain signs.");
        }

        if (story.Base == Frequency.Never)
        {
            yield return At(
                story,
                "base",
                $"“{story.Id}” does not say how often it is met.",
                "Give its base a word of the table, rarely for instance."
            );
        }

        if (PartKinds.Find(story.Seat) is null)
        {
            yield return At(story, "seat", $"“{story.Id}” names the unknown kind of part “{story.Seat}”.", "Use an id from the table of kinds.");
        }

        for (var r = 0; r < story.Risks.Count; r++)
        {
            if (!risk(story.Risks[r].Risk) || story.Risks[r].Times <= 0)
            {
                yield return At(
                    story.Risks[r],
                    $"risks.{r}",
                    $"“{story.Id}” names the unknown risk “{story.Risks[r].Risk}”, or a factor that is not above 0.",
                    "Use an id from risks/ and a factor above 0."
                );
            }
        }

        for (var l = 0; l < story.Chain.Count; l++)
        {
            var link = story.Chain[l];
            if (string.IsNullOrWhiteSpace(link.Says))
            {
                yield return At(link, $"chain.{l}.says", $"Link {l + 1} of “{story.Id}” says nothing.", "Say in a sentence what happens there.");
            }

            for (var p = 0; p < link.Predicts.Count; p++)
            {
                foreach (var fault in Prediction(story, link.Predicts[p], $"chain.{l}.predicts.{p}", sign))
                {
                    yield return fault;
                }
            }
        }
    }

    private static IEnumerable<StoryFault> Prediction(StoryEntry story, Prediction prediction, string field, Func<string, SignEntry?> sign)
    {
        if (sign(prediction.Sign) is not { } known)
        {
            yield return new StoryFault(
                prediction,
                $"{field}.sign",
                $"“{story.Id}” predicts the unknown sign “{prediction.Sign}”.",
                "Use an id from signs/."
            );
            yield break;
        }

        if (prediction.On.Count == 0)
        {
            yield return new StoryFault(
                prediction,
                $"{field}.on",
                $"“{story.Id}” does not say on what “{known.Name}” is left.",
                "Give the kinds of part."
            );
        }

        if (prediction.Often == Frequency.Never)
        {
            yield return new StoryFault(
                prediction,
                $"{field}.often",
                $"“{story.Id}” does not say how often it leaves “{known.Name}”.",
                "Give a word of the table, or take the sign out."
            );
        }

        if (prediction.On.Find(k => PartKinds.Find(k) is null) is { } unknown)
        {
            yield return new StoryFault(
                prediction,
                $"{field}.on",
                $"“{story.Id}” names the unknown kind of part “{unknown}”.",
                "Use an id from the table of kinds."
            );
        }
        else if (prediction.On.Except(known.On, StringComparer.Ordinal).FirstOrDefault() is { } wrong)
        {
            yield return new StoryFault(
                prediction,
                $"{field}.on",
                $"“{story.Id}” looks for “{prediction.Sign}” on {wrong}, where it is never found.",
                "Add the kind to the sign, or correct the story."
            );
        }
    }
}
