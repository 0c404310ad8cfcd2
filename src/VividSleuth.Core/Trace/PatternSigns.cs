using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>
/// Patterns over places as signs of the net. That something is there at one place and not at its peers is in the net already, sign by
/// sign; what is not is how bad it is at each place. So these signs are made of levels where something was found, and of measured figures,
/// and nothing is counted twice.
/// </summary>
public static class PatternSigns
{
    private const int Levels = 3;

    /// <summary>Fewest places from which a pattern is told.</summary>
    private const int Fewest = 3;

    public static IReadOnlyList<MeasuredSign> Of(IReadOnlyList<Finding> findings, AddressTable table, KnowledgeBase knowledge, GaugeSheet gauge)
    {
        var standing = findings.Where(f => f.Stands()).ToArray();
        var recorded = standing.Select(f => f.Sign).ToHashSet(StringComparer.Ordinal);
        var made = new List<MeasuredSign>();
        // What a person recorded of a pattern counts before what is reckoned.
        foreach (var sign in knowledge.Signs.Where(s => s.Pattern is not null && !recorded.Contains(s.Id)).OrderBy(s => s.Id, StringComparer.Ordinal))
        {
            var place = sign.On.SelectMany(table.OfKind).FirstOrDefault();
            var told = Rows(sign.Pattern!, standing, table, gauge)
                .Select(r => Test(sign.Pattern!.Shape, r.Values, table, knowledge, r.About))
                .ToArray();
            var tested = told.OfType<Told>().ToArray();
            if (place is null || tested.Length == 0)
            {
                continue;
            }

            // The most marked of several rows is that by luck too (Bonferroni).
            var best = tested.MinBy(t => t.P)!;
            var weight = LeastBayesFactor(best.P * tested.Length);
            if (weight < 1)
            {
                made.Add(
                    best.For
                        ? new MeasuredSign(sign.Id, place.Code, 1, weight, best.Words)
                        : new MeasuredSign(sign.Id, place.Code, weight, 1, best.Words)
                );
            }
        }

        return made;
    }

    /// <summary>
    /// Least Bayes factor of chance against a pattern that a p-value leaves, −e·p·ln p below 1/e and 1 above. Source: Sellke, Bayarri and
    /// Berger, "Calibration of p values for testing precise null hypotheses", The American Statistician 55, 2001.
    /// </summary>
    public static double LeastBayesFactor(double p) =>
        p <= 0 ? 0
        : p < 1 / Math.E ? -Math.E * p * Math.Log(p)
        : 1;

    private static IEnumerable<(string About, Placed[] Values)> Rows(KnownPattern pattern, Finding[] findings, AddressTable table, GaugeSheet gauge)
    {
        foreach (var of in pattern.Of.Order(StringComparer.Ordinal))
        {
            var byKind = findings.Where(f => f.Sign == of && table.Find(f.Place) is not null).GroupBy(f => table.Find(f.Place)!.Kind.Id);
            foreach (var row in byKind.OrderBy(g => g.Key, StringComparer.Ordinal))
            {
                var levels = row.GroupBy(f => f.Place).Select(g => new Placed(table.Find(g.Key)!, g.Max(f => f.Level))).ToArray();
                // Where some are clean, all alike is out of the question.
                yield return (
                    of,
                    pattern.Shape == PatternShape.AllAlike && Array.Exists(levels, l => l.Value == 0) ? [] : [.. levels.Where(l => l.Value > 0)]
                );
            }
        }

        foreach (var figures in gauge.Figures.Where(f => pattern.Figures.Contains(f.Characteristic)).GroupBy(f => f.Characteristic))
        {
            yield return (
                figures.Key,
                [.. figures.Where(f => table.Find(f.Place) is not null).Select(f => new Placed(table.Find(f.Place)!, f.Value))]
            );
        }
    }

    private static Told? Test(PatternShape shape, Placed[] values, AddressTable table, KnowledgeBase knowledge, string about)
    {
        if (values.Length < Fewest)
        {
            return null;
        }

        var name = knowledge.Sign(about)?.Name ?? knowledge.Characteristic(about)?.Name ?? about;
        if (shape == PatternShape.AllAlike)
        {
            var range = (int)(values.Max(v => v.Value) - values.Min(v => v.Value));
            return new Told(
                AlikeByChance(values.Length, range),
                true,
                Fact.Of(
                    "trace.all-looked-show",
                    ("name", name),
                    ("values", values.Length),
                    ("how", Fact.Of(range == 0 ? "trace.one-as-the-other" : "trace.nearly-alike"))
                )
            );
        }

        if ((shape == PatternShape.AlongTheOil ? Along.OilTrend(values, table.Engine) : Along.CrankTrend(values, table.Engine)) is not { } trend)
        {
            return null;
        }

        var p = Patterns.Odds(trend.P);
        return shape == PatternShape.TowardOneEnd ? new Told(trend.P, true, Fact.Of("trace.more-toward-one-end", ("name", name), ("p", p)))
            : trend.S > 0 ? new Told(trend.P, true, Fact.Of("trace.more-later-oil-gets-there", ("name", name), ("p", p)))
            : new Told(trend.P, false, Fact.Of("trace.less-later-oil-gets-there", ("name", name), ("p", p)));
    }

    /// <summary>
    /// Probability that n levels of three, each as likely, lie no further apart than this: 3/3ⁿ for all alike, (2·2ⁿ − 1)/3ⁿ within one.
    /// </summary>
    public static double AlikeByChance(int n, int range) =>
        range switch
        {
            0 => Math.Pow(Levels, 1 - n),
            1 => ((2 * Math.Pow(2, n)) - 1) / Math.Pow(Levels, n),
            _ => 1,
        };

    /// <param name="For">Speaks for the pattern; false where it runs the other way.</param>
    private sealed record Told(double P, bool For, Fact Words);
}
