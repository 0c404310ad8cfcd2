using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>What is wrong with a verdict before it is recorded.</summary>
public static class VerdictChecks
{
    /// <param name="course">The course that was chosen.</param>
    /// <param name="reason">Why, in the person's words; may be empty where the advice is followed.</param>
    /// <param name="advice">What the rules say of the place; null where they say nothing.</param>
    /// <returns>Null where it may stand. Whatever a rule forbids is refused, with no way around it.</returns>
    public static Problem? Of(string course, string reason, Address place, VerdictAdvice? advice, KnowledgeBase knowledge)
    {
        if (knowledge.Course(course) is not { } known)
        {
            return Problem.Of("course", "verdict.no-such-course", ("course", course));
        }

        if (known.On.Count > 0 && !known.On.Contains(place.Kind.ReadAs))
        {
            return Problem.Of("course", "verdict.course-is-not-for", ("course", known.Name), ("place", place.Code));
        }

        if (advice is not null && advice.Never.Contains(known.Action))
        {
            var rule = advice.Rules.First(r => r.Forbids);
            return Problem.Of("course", "verdict.forbidden", ("place", place.Code), ("because", rule.Because), ("why", rule.Why));
        }

        return string.IsNullOrWhiteSpace(reason) && advice?.Course != course
            ? Problem.Of("reason", "verdict.otherwise-needs-reason", ("place", place.Code))
            : null;
    }
}
