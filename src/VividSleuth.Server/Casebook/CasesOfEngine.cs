using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Strip;
using VividSleuth.Store.Cases;

namespace VividSleuth.Server.Casebook;

/// <summary>Which cases are of the same engine as another, and which of one of its kind.</summary>
internal static class CasesOfEngine
{
    /// <summary>Other cases of the same engine, by its serial number; none where nobody noted it.</summary>
    public static IQueryable<EngineCase> OfTheEngine(this IQueryable<EngineCase> cases, EngineCase of)
    {
        var serial = of.Serial.Trim().ToLowerInvariant();
        return cases.Others(of).Where(c => serial != "" && EF.Property<string>(c, CaseSearch.SerialKey) == serial);
    }

    /// <summary>Other cases of its kind, of this engine and of others, the newest first.</summary>
    public static IQueryable<EngineCase> OfTheKind(this IQueryable<EngineCase> cases, EngineCase of) =>
        cases.Others(of).OfKind(of.KindId, StripPlanner.KindOf(of.EngineName));

    /// <summary>Cases of other engines of its kind, the newest first.</summary>
    public static IQueryable<EngineCase> OfOthersOfTheKind(this IQueryable<EngineCase> cases, EngineCase of)
    {
        var its = of.Serial.Trim().ToLowerInvariant();
        return cases.OfTheKind(of).Where(c => its == "" || EF.Property<string>(c, CaseSearch.SerialKey) != its);
    }

    /// <summary>
    /// Cases of a kind: those that took over its figures, and those whose engine is called by its name. The one home of the rule; an engine without a name
    /// is of no kind.
    /// </summary>
    /// <param name="kind">The shop’s record of it; null where it has none.</param>
    /// <param name="name">What stands before the first comma of the name of its engines.</param>
    public static IQueryable<EngineCase> OfKind(this IQueryable<EngineCase> cases, Guid? kind, string name)
    {
        var called = name.Trim().ToLowerInvariant();
        return kind is null
            ? cases.Where(c => called != "" && EF.Property<string>(c, CaseSearch.KindName) == called)
            : cases.Where(c => c.KindId == kind || (called != "" && c.KindId == null && EF.Property<string>(c, CaseSearch.KindName) == called));
    }

    /// <summary>Those that stand, the newest first.</summary>
    private static IQueryable<EngineCase> Others(this IQueryable<EngineCase> cases, EngineCase of) =>
        cases.AsNoTracking().Where(c => c.Id != of.Id && c.WithdrawnAt == null).OrderByDescending(c => c.At).ThenBy(c => c.Id);
}
