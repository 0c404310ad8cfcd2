using System.Text.RegularExpressions;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>A shop's own causes: what they must say, and how they are laid over what ships.</summary>
public static partial class OwnCauses
{
    /// <summary>Those causes, once each of them holds.</summary>
    /// <exception cref="ProblemException">A cause does not hold; each problem names the cause and the field.</exception>
    public static IReadOnlyList<KnownCause> Checked(IReadOnlyList<KnownCause> own, KnowledgeBase knowledge)
    {
        var faults = own.SelectMany(s => Check(s, knowledge).Select(p => p with { Field = $"{s.Id}.{p.Field}" })).ToArray();
        return faults.Length > 0 ? throw new ProblemException(faults) : own;
    }

    /// <summary>Knowledge with a shop's own causes laid over it, once each of them holds.</summary>
    /// <exception cref="ProblemException">A cause does not hold; each problem names the cause and the field.</exception>
    public static KnowledgeBase Over(KnowledgeBase knowledge, IReadOnlyList<KnownCause> own) => knowledge.With(Checked(own, knowledge));

    /// <summary>What is wrong with a cause that a shop wrote; the field is its path in the cause.</summary>
    public static IEnumerable<Problem> Check(KnownCause cause, KnowledgeBase knowledge)
    {
        foreach (
            var (field, text, said) in new[]
            {
                ("name", cause.Name, Fact.Of("trace.field.name")),
                ("family", cause.Family, Fact.Of("trace.field.family")),
                ("prove", cause.Prove, Fact.Of("trace.field.prove")),
                ("prevent", cause.Prevent, Fact.Of("trace.field.prevent")),
                ("provenance", cause.Provenance, Fact.Of("trace.field.provenance")),
            }
        )
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                yield return Problem.Of(field, "trace.cause-lacks", ("said", said));
            }
        }

        if (!IdPattern().IsMatch(cause.Id))
        {
            yield return Problem.Of("id", "trace.no-id", ("cause", cause.Id));
        }

        foreach (var fault in CauseRules.Check(cause, knowledge.Sign, r => knowledge.Risks.Any(x => x.Id == r), c => knowledge.Cause(c) is not null))
        {
            yield return fault.Problem;
        }

        if (cause.ConfusedWith.Find(c => knowledge.Cause(c) is null && c != cause.Id) is { } nobody)
        {
            yield return Problem.Of("confusedWith", "trace.no-cause-of-that-id", ("nobody", nobody));
        }
    }

    [GeneratedRegex("^[a-z0-9][a-z0-9-]{0,59}$", RegexOptions.None, 1000)]
    private static partial Regex IdPattern();
}
