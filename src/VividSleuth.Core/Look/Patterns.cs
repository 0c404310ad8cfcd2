using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Look;

/// <summary>A pattern over places, said in words.</summary>
/// <param name="About">What is spread so: a sign, or a measured characteristic.</param>
/// <param name="Kind">Kind of part.</param>
/// <param name="Places">Addresses that make it.</param>
/// <param name="P">Probability of one at least as marked when place means nothing; null where no test applies.</param>
/// <param name="Test">Name of the test; empty where none applies.</param>
public sealed record Pattern(PatternShape Shape, string About, string Kind, IReadOnlyList<string> Places, Fact Words, double? P, Fact? Test);

/// <summary>A figure of a part.</summary>
public sealed record MeasuredAt(string Characteristic, string Place, double Value);

/// <summary>The part that differs most from its peers, over all that was found on them.</summary>
/// <param name="Score">Modified z-score of its summed levels.</param>
public sealed record OddOneOut(string Kind, string Place, double Score, Fact Words);

/// <summary>Finds patterns over places in what was seen and measured.</summary>
public static class Patterns
{
    public const double Alpha = 0.05;

    /// <summary>Above this modified z-score a value is called an outlier. Source: Iglewicz and Hoaglin, in NIST/SEMATECH 1.3.5.17.</summary>
    public const double ScoreLimit = 3.5;

    public static readonly Fact Kendall = Fact.Of("test.kendall");
    public static readonly Fact Grubbs = Fact.Of("test.grubbs");
    public static readonly Fact Fisher = Fact.Of("test.fisher");
    public static readonly Fact Run = Fact.Of("test.runs");

    /// <param name="measured">Figures of the engine’s parts, whichever room worked them out.</param>
    public static IReadOnlyList<Pattern> Of(
        IReadOnlyList<Finding> findings,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<MeasuredAt> measured
    )
    {
        var found = new List<Pattern>();
        var levels = findings
            .Where(f => f.Stands())
            .Select(f => (Finding: f, At: table.Find(f.Place)))
            .Where(x => x.At is { Kind.Scope: not StationScope.Engine })
            .GroupBy(x => (x.Finding.Sign, Kind: x.At!.Kind.Id));
        foreach (var group in levels.OrderBy(g => g.Key.Kind, StringComparer.Ordinal).ThenBy(g => g.Key.Sign, StringComparer.Ordinal))
        {
            if (knowledge.Sign(group.Key.Sign) is { } sign)
            {
                var values = group.GroupBy(x => x.At!).Select(g => new Placed(g.Key, g.Max(x => x.Finding.Level))).ToArray();
                found.AddRange(OfLevels(sign.Name, group.Key.Kind, values, table));
            }
        }

        var figures = measured.Select(f => (Figure: f, At: table.Find(f.Place))).Where(x => x.At is { Kind.Scope: not StationScope.Engine });
        foreach (
            var group in figures
                .GroupBy(x => (x.Figure.Characteristic, Kind: x.At!.Kind.Id))
                .OrderBy(g => g.Key.Characteristic, StringComparer.Ordinal)
        )
        {
            var values = group.Select(x => new Placed(x.At!, x.Figure.Value)).ToArray();
            found.AddRange(
                OfFigures(knowledge.Characteristic(group.Key.Characteristic)?.Name ?? group.Key.Characteristic, group.Key.Kind, values, table)
            );
        }

        return found;
    }

    /// <summary>
    /// The odd one out among peers by the sum of its levels: modified z-scores after Iglewicz and Hoaglin, and where more than half
    /// of the peers are alike, so that the median deviation is nil, by the mean deviation instead.
    /// </summary>
    public static IReadOnlyList<OddOneOut> Odd(IReadOnlyList<Finding> findings, AddressTable table)
    {
        var odd = new List<OddOneOut>();
        var byKind = findings
            .Where(f => f.Stands())
            .Select(f => (Finding: f, At: table.Find(f.Place)))
            .Where(x => x.At is { Kind.Scope: not StationScope.Engine })
            .GroupBy(x => x.At!.Kind.Id, StringComparer.Ordinal);
        foreach (var kind in byKind.OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            var sums = kind.GroupBy(x => x.At!.Code, StringComparer.Ordinal)
                .Select(g => (Place: g.Key, Sum: (double)g.GroupBy(x => x.Finding.Sign).Sum(s => s.Max(x => x.Finding.Level))))
                .OrderBy(x => x.Place, StringComparer.Ordinal)
                .ToArray();
            var scores = ModifiedScores([.. sums.Select(s => s.Sum)]);
            if (scores is not null && scores.Max() is var most && most > ScoreLimit)
            {
                var at = Array.IndexOf([.. scores], most);
                odd.Add(
                    new OddOneOut(
                        kind.Key,
                        sums[at].Place,
                        most,
                        Fact.Of(
                            "look.odd-one-out",
                            ("place", sums[at].Place),
                            ("of", sums.Length),
                            ("score", new Number(most, 1, true)),
                            ("limit", ScoreLimit)
                        )
                    )
                );
            }
        }

        return odd;
    }

    /// <summary>Modified z-scores, 0.6745 (x − median) / MAD; null with fewer than four values or when all are equal.</summary>
    public static double[]? ModifiedScores(IReadOnlyList<double> values)
    {
        if (values.Count < 4)
        {
            return null;
        }

        var median = values.Median();
        var deviations = values.Select(v => Math.Abs(v - median)).ToArray();
        var mad = deviations.Median();
        var mean = deviations.Average();
        return mean <= 0 ? null
            : mad > 0 ? [.. values.Select(v => 0.6745 * (v - median) / mad)]
            : [.. values.Select(v => (v - median) / (1.253314 * mean))];
    }

    private static IEnumerable<Pattern> OfLevels(string about, string kind, Placed[] values, AddressTable table)
    {
        var looked = Along.Crank(values, table.Engine);
        var present = looked.Where(v => v.Value > 0).ToArray();
        var all = table.OfKind(kind).Count();
        if (present.Length == 0 || looked.Length < 2)
        {
            yield break;
        }

        var names = Codes(present);
        var clean = looked.Length - present.Length;
        int? unread = all > looked.Length ? all - looked.Length : null;
        if (present.Length == looked.Length)
        {
            if (looked.Length >= 3 && present.Max(p => p.Value) - present.Min(p => p.Value) <= 1)
            {
                yield return new Pattern(
                    PatternShape.AllAlike,
                    about,
                    kind,
                    names,
                    Fact.Of("look.all-alike", ("about", about), ("looked", looked.Length), ("unread", unread)),
                    null,
                    null
                );
            }
        }
        else if (present.Length == 1)
        {
            yield return new Pattern(
                PatternShape.OneAlone,
                about,
                kind,
                names,
                Fact.Of("look.one-alone", ("about", about), ("place", names[0]), ("clean", clean), ("unread", unread)),
                null,
                null
            );
        }
        else
        {
            foreach (var pattern in Grouped(about, kind, looked, present, table.Engine, unread))
            {
                yield return pattern;
            }
        }

        foreach (var pattern in Trends(about, kind, looked, table, Fact.Of("look.worse")))
        {
            yield return pattern;
        }
    }

    private static IEnumerable<Pattern> Grouped(string about, string kind, Placed[] looked, Placed[] present, Engine engine, int? unread)
    {
        var names = Codes(present);
        var positions = looked.Select(v => Along.Crank(v.At, engine)).Distinct().Order().ToArray();
        var at = present.Select(p => Array.IndexOf(positions, Along.Crank(p.At, engine))).Distinct().Order().ToArray();
        if (at.Length >= 2 && at[^1] - at[0] == at.Length - 1 && at.Length < positions.Length)
        {
            var ways = MathNet.Numerics.SpecialFunctions.Binomial(positions.Length, at.Length);
            var p = (positions.Length - at.Length + 1) / ways;
            yield return new Pattern(
                PatternShape.Neighbours,
                about,
                kind,
                names,
                Fact.Of("look.neighbours", ("about", about), ("places", Listed(names)), ("p", new Percent(p)), ("unread", unread)),
                p,
                Run
            );
        }

        if (engine.Banks == 2)
        {
            var banks = looked.ToLookup(v => Along.BankOf(v.At, engine));
            var hit = present.Select(p => Along.BankOf(p.At, engine)).Distinct().ToArray();
            if (hit.Length == 1 && banks.Count == 2 && present.Length >= 2 && looked[0].At.Kind.Scope == StationScope.Cylinder)
            {
                // Probability that as many of a bank are hit when every place is as likely: the hypergeometric tail, both banks.
                var one = new Hypergeometric(looked.Length, banks[hit[0]].Count(), present.Length);
                var p = Math.Min(1, 2 * one.Probability(present.Length));
                yield return new Pattern(
                    PatternShape.OneBank,
                    about,
                    kind,
                    names,
                    Fact.Of(
                        "look.one-bank",
                        ("about", about),
                        ("bank", hit[0]),
                        ("places", Listed(names)),
                        ("test", Fisher),
                        ("p", Odds(p)),
                        ("unread", unread)
                    ),
                    p,
                    Fisher
                );
            }
        }

        if (present.Length == 2 && looked[0].At.Kind.Scope == StationScope.Cylinder && looked.Length > 2)
        {
            if (engine.Companion(present[0].At.Station)?.Number == present[1].At.Station)
            {
                yield return new Pattern(
                    PatternShape.Companions,
                    about,
                    kind,
                    names,
                    Fact.Of("look.companions", ("about", about), ("places", Listed(names)), ("unread", unread)),
                    null,
                    null
                );
            }
        }
    }

    private static IEnumerable<Pattern> OfFigures(string about, string kind, Placed[] values, AddressTable table)
    {
        var ordered = Along.Crank(values, table.Engine);
        if (GrubbsTest.Of([.. ordered.Select(v => v.Value)], Alpha) is { IsOutlier: true } outlier)
        {
            var place = ordered[outlier.Index].At.Code;
            yield return new Pattern(
                PatternShape.Outlier,
                about,
                kind,
                [place],
                Fact.Of(
                    "look.outlier",
                    ("about", about),
                    ("place", place),
                    ("peers", ordered.Length - 1),
                    ("test", Grubbs),
                    ("g", new Number(outlier.G, 2, true)),
                    ("critical", new Number(outlier.Critical, 2, true)),
                    ("alpha", Alpha)
                ),
                null,
                Grubbs
            );
        }

        foreach (var pattern in Trends(about, kind, ordered, table, Fact.Of("look.greater")))
        {
            yield return pattern;
        }
    }

    private static IEnumerable<Pattern> Trends(string about, string kind, Placed[] ordered, AddressTable table, Fact more)
    {
        if (Along.CrankTrend(ordered, table.Engine) is { P: < Alpha } along)
        {
            var end = Along.Toward(along, table.Engine);
            yield return new Pattern(
                PatternShape.TowardOneEnd,
                about,
                kind,
                Codes(ordered),
                Fact.Of("look.toward-one-end", ("about", about), ("more", more), ("end", end), ("test", Kendall), ("p", Odds(along.P))),
                along.P,
                Kendall
            );
        }

        if (Along.OilTrend(ordered, table.Engine) is { P: < Alpha, S: > 0 } byOil)
        {
            var oil = Along.Oil(ordered, table.Engine);
            yield return new Pattern(
                PatternShape.AlongTheOil,
                about,
                kind,
                Codes(oil),
                Fact.Of("look.along-the-oil", ("about", about), ("more", more), ("test", Kendall), ("p", Odds(byOil.P))),
                byOil.P,
                Kendall
            );
        }
    }

    private static string[] Codes(IEnumerable<Placed> values) => [.. values.Select(v => v.At.Code)];

    private static Fact Listed(string[] names) =>
        names.Length == 1 ? Fact.Text(names[0]) : Fact.Of("look.listed", ("first", names[..^1]), ("last", names[^1]));

    /// <summary>A probability as it is told: below one in a thousand no digit says anything.</summary>
    internal static object Odds(double p) => p < 0.001 ? Fact.Of("common.p-below") : new Number(p, 3, true);
}
