using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>Which limit applies to a figure: the maker's before the shop's, the later before the earlier, a rule of thumb last and told as such.</summary>
public sealed class LimitBook(IReadOnlyList<Limit> limits, KnowledgeBase knowledge, Schools schools)
{
    private readonly Dictionary<string, Limit[]> _own = limits
        .Where(l => l.Stands())
        .GroupBy(l => l.Characteristic, StringComparer.Ordinal)
        .ToDictionary(g => g.Key, g => g.OrderBy(l => l.Source).ThenByDescending(l => l.At).ToArray(), StringComparer.Ordinal);

    /// <summary>The limit entered for a characteristic on a kind of part; one for the kind goes before one for all.</summary>
    public Limit? Own(string characteristic, string kind) =>
        _own.TryGetValue(characteristic, out var limits) ? Array.Find(limits, l => l.On == kind) ?? Array.Find(limits, l => l.On.Length == 0) : null;

    /// <param name="sizeOf">Size of another characteristic at the same place, for a rule of thumb that is a share of it.</param>
    public AppliedLimit? For(string characteristic, string kind, Func<string, double?> sizeOf)
    {
        if (Own(characteristic, kind) is { } own)
        {
            return new AppliedLimit(
                (double?)own.Least,
                (double?)own.Most,
                own.Source,
                own.SourceText,
                (double?)own.Nominal,
                (double?)own.Wear,
                own.Unit
            );
        }

        var rule =
            knowledge.RulesOfThumb.FirstOrDefault(r => r.Characteristic == characteristic && r.On == kind)
            ?? knowledge.RulesOfThumb.FirstOrDefault(r => r.Characteristic == characteristic && r.On.Length == 0);
        if (rule is null)
        {
            return null;
        }

        var least = rule.Least;
        if (characteristic == "ring-end-gap" && kind == "ring-top")
        {
            least = schools.GapShare;
        }

        if (rule.Of.Length == 0)
        {
            return new AppliedLimit(least, rule.Most, LimitSource.RuleOfThumb, rule.Name, null, rule.Wear);
        }

        return sizeOf(rule.Of) is { } size
            ? new AppliedLimit(least * size, rule.Most * size, LimitSource.RuleOfThumb, rule.Name, null, rule.Wear * size)
            : null;
    }
}
