using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Look;

/// <summary>What was entered in Look.</summary>
public sealed record LookLog(IReadOnlyList<Finding> Findings, IReadOnlyList<Photo> Photos, IReadOnlyList<Debris> Debris);

/// <summary>Findings of one sign at one place that do not agree; all are kept, and people decide.</summary>
public sealed record Mismatch(string Place, string Sign, IReadOnlyList<Guid> Findings);

/// <summary>Pictures of the shot list that a part lacks.</summary>
public sealed record MissingShots(string Place, IReadOnlyList<string> Shots);

/// <summary>What Look works out of a case.</summary>
/// <param name="Maps">Maps of the engine's parts, by kind and bank.</param>
/// <param name="Missing">Shots not taken of parts that lie open, parts with something found on them first.</param>
public sealed record LookSummary(
    IReadOnlyList<ZoneMap> Maps,
    IReadOnlyList<Spot> Spots,
    IReadOnlyList<Mismatch> Mismatches,
    IReadOnlyList<Pattern> Patterns,
    IReadOnlyList<OddOneOut> Odd,
    IReadOnlyList<DebrisReading> Debris,
    IReadOnlyList<MissingShots> Missing
)
{
    /// <param name="measured">Figures of the engine’s parts.</param>
    public static LookSummary Of(LookLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<MeasuredAt> measured, StripPlan strip)
    {
        Finding[] evidence = [.. log.Findings.Where(f => f.IsEvidence)];
        return new(
            ZoneMaps.Of(table),
            Look.Spots.Of(log.Findings, table),
            MismatchesOf(log.Findings),
            Look.Patterns.Of(evidence, table, knowledge, measured),
            Look.Patterns.Odd(evidence, table),
            DebrisSources.Of(log.Debris, evidence, table, knowledge),
            MissingOf(log, table, knowledge, strip)
        );
    }

    private static IReadOnlyList<Mismatch> MismatchesOf(IReadOnlyList<Finding> findings) =>
        [
            .. findings
                .Where(f => f.Stands())
                .GroupBy(f => (f.Place, f.Sign))
                .Where(g => g.Select(f => (f.Seen, f.Level)).Distinct().Count() > 1)
                .OrderBy(g => g.Key.Place, StringComparer.Ordinal)
                .ThenBy(g => g.Key.Sign, StringComparer.Ordinal)
                .Select(g => new Mismatch(g.Key.Place, g.Key.Sign, [.. g.OrderBy(f => f.At).ThenBy(f => f.Id).Select(f => f.Id)])),
        ];

    private static IReadOnlyList<MissingShots> MissingOf(LookLog log, AddressTable table, KnowledgeBase knowledge, StripPlan strip)
    {
        var open = strip.LaidOpen(table);
        var taken = log.Photos.Where(p => p.Stands() && p.Shot.Length > 0).Select(p => (p.Place, p.Shot)).ToHashSet();
        var worst = log
            .Findings.Where(f => f.Stands())
            .GroupBy(f => f.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Max(f => f.Level), StringComparer.Ordinal);
        return
        [
            .. table
                .All.Where(a => open.Contains(a.Code) || worst.ContainsKey(a.Code))
                .OrderByDescending(a => worst.GetValueOrDefault(a.Code))
                .Select(a => new MissingShots(
                    a.Code,
                    [.. knowledge.ShotsOf(a.Kind.ReadAs).Where(s => !taken.Contains((a.Code, s.Id))).Select(s => s.Id)]
                ))
                .Where(m => m.Shots.Count > 0),
        ];
    }
}
