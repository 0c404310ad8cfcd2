using System.Text.RegularExpressions;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>A shop's own causes: what they must say, and how they are laid over what ships.</summary>
public static partial class OwnCauses
{
    /// <summary>Knowledge with a shop's own causes laid over it, once each of them holds.</summary>
    /// <exception cref="ProblemException">A cause does not hold; each problem names the cause and the field.</exception>
    public static KnowledgeBase Over(KnowledgeBase knowledge, IReadOnlyList<CauseEntry> own)
    {
        var faults = own.SelectMany(s => Check(s, knowledge).Select(p => p with { Field = $"{s.Id}.{p.Field}" })).ToArray();
        return faults.Length > 0 ? throw new ProblemException(faults) : knowledge.With(own);
    }

    /// <summary>What is wrong with a cause that a shop wrote; the field is its path in the cause.</summary>
    public static IEnumerable<Problem> Check(CauseEntry cause, KnowledgeBase knowledge)
    {
        foreach (
            var (field, text, said) in new[]
            {
                ("name", cause.Name, "a name"),
                ("family", cause.Family, "a family"),
                ("prove", cause.Prove, "how to prove it"),
                ("prevent", cause.Prevent, "what to change"),
                ("provenance", cause.Provenance, "where it comes from"),
            }
        )
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                yield return new Problem(field, $"The cause lacks {said}.", "Write it; a cause without it cannot be reviewed.");
            }
        }

        if (!IdPattern().IsMatch(cause.Id))
        {
            yield return new Problem("id", $"“{cause.Id}” is no id.", "Use small letters, digits and hyphens, up to 60.");
        }

        foreach (var fault in CauseRules.Check(cause, knowledge.Sign, r => knowledge.Risks.Any(x => x.Id == r)))
        {
            yield return new Problem(fault.Field, fault.Text, fault.Remedy);
        }

        if (cause.ConfusedWith.Find(c => knowledge.Cause(c) is null && c != cause.Id) is { } nobody)
        {
            yield return new Problem("confusedWith", $"There is no cause “{nobody}”.", "Name causes by their id.");
        }
    }

    [GeneratedRegex("^[a-z0-9][a-z0-9-]{0,59}$", RegexOptions.None, 1000)]
    private static partial Regex IdPattern();
}
