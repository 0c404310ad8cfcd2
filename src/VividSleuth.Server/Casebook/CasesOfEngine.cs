using Microsoft.EntityFrameworkCore;
using VividSleuth.Core.Casebook;

namespace VividSleuth.Server.Casebook;

/// <summary>Which cases are of the same engine as another, and which of one of its kind.</summary>
internal static class CasesOfEngine
{
    /// <summary>Other cases of the same engine, by its serial number; none where nobody noted it.</summary>
    public static IQueryable<EngineCase> OfTheEngine(this IQueryable<EngineCase> cases, EngineCase of)
    {
        var serial = of.Serial.Trim();
        var pattern = CaseDesk.AsTyped(serial);
        return cases.Others(of).Where(c => serial != "" && EF.Functions.ILike(c.Serial.Trim(), pattern, "!"));
    }

    /// <summary>Cases of other engines of the same name.</summary>
    public static IQueryable<EngineCase> OfTheKind(this IQueryable<EngineCase> cases, EngineCase of)
    {
        var (name, serial) = (of.EngineName.Trim(), of.Serial.Trim());
        var (pattern, its) = (CaseDesk.AsTyped(name), CaseDesk.AsTyped(serial));
        return cases
            .Others(of)
            .Where(c => name != "" && EF.Functions.ILike(c.EngineName.Trim(), pattern, "!"))
            .Where(c => serial == "" || !EF.Functions.ILike(c.Serial.Trim(), its, "!"));
    }

    /// <summary>Those that stand, the newest first.</summary>
    private static IQueryable<EngineCase> Others(this IQueryable<EngineCase> cases, EngineCase of) =>
        cases.AsNoTracking().Where(c => c.Id != of.Id && c.WithdrawnAt == null).OrderByDescending(c => c.At).ThenBy(c => c.Id);
}
