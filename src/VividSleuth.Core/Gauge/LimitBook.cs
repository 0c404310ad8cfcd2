using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Which limit counts. The one home of the rule: the maker's before the shop's before a rule of thumb; of one source that for the kind of
/// part before the one for all; then the newest. Whoever needs a nominal size or a limit asks here.
/// </summary>
public sealed class LimitBook(IReadOnlyList<Limit> limits, KnowledgeBase knowledge, Schools schools, EngineLayout layout)
{
    private readonly Dictionary<(string Characteristic, string Kind), Limit[]> _ranked = [];

    /// <summary>Limits that were entered for a characteristic on a kind of part, the one that counts first.</summary>
    public static IEnumerable<Limit> Ranked(IEnumerable<Limit> limits, string characteristic, string kind) =>
        limits
            .Where(l => l.Stands() && l.Characteristic == characteristic && (l.On.Length == 0 || l.On == kind))
            .OrderBy(l => l.Source)
            .ThenBy(l => l.On.Length == 0)
            .ThenByDescending(l => l.At)
            .ThenByDescending(l => l.Id);

    /// <summary>Size when new at standard grade, base unit: of the first that gives one.</summary>
    public static decimal? Nominal(IEnumerable<Limit> limits, string characteristic, string kind) =>
        Ranked(limits, characteristic, kind).FirstOrDefault(l => l.Nominal is not null)?.Nominal;

    /// <inheritdoc cref="Nominal(IEnumerable{Limit}, string, string)"/>
    public decimal? Nominal(string characteristic, string kind) => Array.Find(Ranked(characteristic, kind), l => l.Nominal is not null)?.Nominal;

    /// <summary>What a figure is held against: the first that sets a bound, else a rule of thumb, else a nominal alone.</summary>
    /// <param name="sizeOf">Size of another characteristic at the same place, for a rule of thumb that is a share of it.</param>
    public AppliedLimit? For(string characteristic, string kind, Func<string, double?> sizeOf)
    {
        var nominal = Array.Find(Ranked(characteristic, kind), l => l.Nominal is not null);
        if (Array.Find(Ranked(characteristic, kind), Bounds) is { } own)
        {
            return new AppliedLimit(
                (double?)own.Least,
                (double?)own.Most,
                own.Source,
                Fact.Text(own.SourceText),
                (double?)nominal?.Nominal,
                (double?)own.Wear,
                own.Unit
            );
        }

        var thumb = Thumbs.For(knowledge, characteristic, kind, schools.RingUse, layout) is { } rule ? Thumbs.Apply(rule, sizeOf) : null;
        return thumb is not null ? thumb with { Nominal = (double?)nominal?.Nominal }
            : nominal is null ? null
            : new AppliedLimit(null, null, nominal.Source, Fact.Text(nominal.SourceText), (double?)nominal.Nominal, null, nominal.Unit);
    }

    /// <summary>What a compression test is held against.</summary>
    public CompressionLimits Compression()
    {
        var least = For(Characteristics.Compression, PartKinds.Bore, _ => null);
        return new CompressionLimits(
            For(Characteristics.CompressionShare, PartKinds.Bore, _ => null)?.ServiceLeast / 100,
            least?.ServiceLeast,
            least is null ? Fact.Of("gauge.no-source")
                : least.IsRuleOfThumb ? Fact.Of("gauge.rule-of-thumb")
                : least.SourceText
        );
    }

    private static bool Bounds(Limit limit) => limit.Least is not null || limit.Most is not null || limit.Wear is not null;

    private Limit[] Ranked(string characteristic, string kind)
    {
        if (!_ranked.TryGetValue((characteristic, kind), out var ranked))
        {
            _ranked[(characteristic, kind)] = ranked = [.. Ranked(limits, characteristic, kind)];
        }

        return ranked;
    }
}

/// <summary>Rules of thumb: which one applies, and what it comes to. The numbers stand in knowledge/limits.</summary>
public static class Thumbs
{
    /// <summary>The rule for a characteristic: one for the kind of part before one for all, one for the use or the engine before one for any.</summary>
    /// <param name="layout">The engine; without one, only rules for any engine.</param>
    public static KnownRule? For(KnowledgeBase knowledge, string characteristic, string kind, RingUse use, EngineLayout? layout) =>
        knowledge
            .RulesOfThumb.Where(r =>
                r.Characteristic == characteristic
                && (r.On.Length == 0 || r.On == kind)
                && (r.Use is null || r.Use == use)
                && (layout is null ? r.Applies.IsAny : r.Applies.Fits(layout))
            )
            .OrderBy(r => r.On.Length == 0)
            .ThenBy(r => r.Use is null)
            .ThenByDescending(r => r.Applies.Says())
            .FirstOrDefault();

    /// <param name="sizeOf">Size of a characteristic that the rule is a share of, base unit; null where it is not known.</param>
    /// <returns>Null where the size is not known.</returns>
    public static AppliedLimit? Apply(KnownRule rule, Func<string, double?> sizeOf)
    {
        double? share = rule.Of.Length == 0 ? 1 : sizeOf(rule.Of);
        return share is { } s
            ? new AppliedLimit(rule.Least * s, rule.Most * s, LimitSource.RuleOfThumb, Fact.Text(rule.Name), null, rule.Wear * s)
            : null;
    }
}
