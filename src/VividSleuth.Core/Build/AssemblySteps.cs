using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Build;

/// <summary>What assembly adds for an engine: by the knowledge, and as the shop’s script of its kind has it instead.</summary>
public static class AssemblySteps
{
    public static IReadOnlyList<AssemblyStep> Of(EngineLayout layout, StripScript script, KnowledgeBase knowledge, RunningIn school)
    {
        var own = script.Assembly.ToDictionary(a => a.Id, StringComparer.Ordinal);
        return
        [
            .. knowledge
                .Assembly.Where(a => !own.ContainsKey(a.Id) && !script.AssemblyDrops.Contains(a.Id))
                .Concat(script.Assembly)
                .Where(a => a.Applies.Fits(layout) && (a.School is null || a.School == school)),
        ];
    }
}
