using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>What Trace asks of its causes.</summary>
public static class TraceLint
{
    public static IEnumerable<KnowledgeFault> Check(KnowledgeBase knowledge)
    {
        var risks = knowledge.Risks.Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        return knowledge.Causes.SelectMany(cause =>
            CauseRules
                .Check(cause, knowledge.Sign, risks.Contains, c => knowledge.Cause(c) is not null)
                .Select(f => new KnowledgeFault(cause, f.Problem.Text, f.Problem.Remedy, f.At))
        );
    }
}
