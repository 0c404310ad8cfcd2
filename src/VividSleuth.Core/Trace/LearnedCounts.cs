using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>Another word for a frequency, offered because the shop's closed cases speak for it.</summary>
/// <param name="Sign">Sign whose frequency it is; empty for how often the cause is met at all.</param>
/// <param name="Link">Number of the link in the chain, from 0; −1 for how often the cause is met.</param>
/// <param name="Prediction">Number of the prediction in the link, from 0; −1 likewise.</param>
/// <param name="Seen">Times it was so.</param>
/// <param name="Of">Times it was looked for, or closed cases.</param>
/// <param name="Times">By how much the counts are likelier under the word offered.</param>
public sealed record LearnedOffer(
    string Cause,
    string CauseName,
    string Sign,
    string SignName,
    int Link,
    int Prediction,
    Frequency Now,
    Frequency Offered,
    int Seen,
    int Of,
    double Times
);

/// <summary>
/// What closed cases say of the words in the causes. A case counts as closed when a person's own finding stands that is proven or probable;
/// what the computation thought of it does not count, or it would learn from itself. Nothing is taken over by itself.
/// </summary>
public static class LearnedCounts
{
    /// <summary>A word is offered where the counts are ten times likelier under it: ten decibans (I. J. Good's scale).</summary>
    public const double Enough = 10;

    /// <summary>What chance does more often than this is no habit of a kind of engine.</summary>
    private const double ByChance = 0.02;

    private static readonly Frequency[] Words = [.. Enum.GetValues<Frequency>().Where(f => f != Frequency.Never)];

    public static bool Closed(IReadOnlyList<Conclusion> conclusions) => Finding(conclusions) is not null;

    /// <summary>The person's finding by which a case is closed; null while it is open.</summary>
    private static Conclusion? Finding(IReadOnlyList<Conclusion> conclusions) =>
        conclusions.Where(x => x.Stands()).MaxBy(x => x.At) is { Cause.Length: > 0, Confidence: Confidence.Proven or Confidence.Probable } last
            ? last
            : null;

    /// <summary>
    /// How kinds of engines fail more often than others, by the closed cases of each kind: one cause, or one cylinder. Offered where chance would do as
    /// much in one case of fifty (binomial tail; for cylinders in one of fifty for any of them together), and no more than the counts bear: with one
    /// case added that fell as chance has it, to each.
    /// </summary>
    public static IReadOnlyList<KindOdds> Kinds(IEnumerable<Outcome> cases, KnowledgeBase knowledge)
    {
        var closed = cases
            .Where(c => c.Kind.Trim().Length > 0)
            .Select(c => (Case: c, Finding: Finding(c.Conclusions)))
            .Where(x => x.Finding is not null && knowledge.Cause(x.Finding.Cause) is not null)
            .ToArray();
        var offers = new List<KindOdds>();
        foreach (
            var kind in closed
                .GroupBy(x => x.Case.Kind.Trim(), StringComparer.OrdinalIgnoreCase)
                .OrderBy(g => g.Key, StringComparer.OrdinalIgnoreCase)
        )
        {
            var of = kind.Count();
            foreach (var cause in kind.GroupBy(x => x.Finding!.Cause).OrderBy(g => g.Key, StringComparer.Ordinal))
            {
                var layout = cause.First().Case.Layout;
                var all = knowledge.Causes.Where(c => c.Applies.Fits(layout)).Sum(c => c.Base.Probability());
                offers.AddRange(Offered(kind.Key, cause.Key, null, cause.Count(), of, knowledge.Cause(cause.Key)!.Base.Probability() / all, 1));
            }

            var placed = kind.Select(x =>
                    (
                        x.Case.Layout.Cylinders,
                        At: new AddressTable(Engine.From(x.Case.Layout)).Find(x.Finding!.Place) is { Kind.Scope: StationScope.Cylinder } at
                            ? at.Station
                            : 0
                    )
                )
                .Where(x => x.At > 0)
                .ToArray();
            foreach (var at in placed.GroupBy(x => x.At).OrderBy(g => g.Key))
            {
                var cylinders = at.First().Cylinders;
                offers.AddRange(Offered(kind.Key, "", at.Key, at.Count(), placed.Length, 1.0 / cylinders, cylinders));
            }
        }

        return offers;
    }

    private static IEnumerable<KindOdds> Offered(string kind, string cause, int? cylinder, int seen, int of, double share, int tries)
    {
        if (seen < 2 || share >= 1)
        {
            yield break;
        }

        var byChance = 1 - MathNet.Numerics.Distributions.Binomial.CDF(share, of, seen - 1);
        if (byChance * tries <= ByChance)
        {
            yield return new KindOdds(kind, cause, cylinder, Math.Round((seen + 1) / ((of * share) + 1), 1), seen, of);
        }
    }

    public static IReadOnlyList<LearnedOffer> Of(IEnumerable<Outcome> cases, KnowledgeBase knowledge)
    {
        var closed = cases
            .Select(c => (Case: c, Finding: Finding(c.Conclusions)))
            .Where(x => x.Finding is not null && knowledge.Cause(x.Finding.Cause) is not null)
            .Select(x => (x.Case, Cause: knowledge.Cause(x.Finding!.Cause)!, x.Finding!.Place))
            .ToArray();
        var offers = new List<LearnedOffer>();
        foreach (var group in closed.GroupBy(x => x.Cause.Id).OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            var cause = group.First().Cause;
            var tables = group.Select(x => (x.Case, x.Place, Table: new AddressTable(Engine.From(x.Case.Layout)))).ToArray();
            offers.AddRange(Met(cause, group.Count(), [.. closed.Select(x => x.Case.Layout)], knowledge));
            for (var l = 0; l < cause.Chain.Count; l++)
            {
                for (var p = 0; p < cause.Chain[l].Predicts.Count; p++)
                {
                    offers.AddRange(Left(cause, l, p, tables, knowledge));
                }
            }
        }

        return offers;
    }

    /// <summary>How often the cause is met: binomial counts of the closed cases that may have it.</summary>
    private static IEnumerable<LearnedOffer> Met(KnownCause cause, int seen, EngineLayout[] layouts, KnowledgeBase knowledge)
    {
        var may = layouts.Where(cause.Applies.Fits).ToArray();
        // The others' shares are taken at their present words, over the engines seen.
        var others = may.Average(l => knowledge.Causes.Where(s => s.Id != cause.Id && s.Applies.Fits(l)).Sum(s => s.Base.Probability()));
        double Share(Frequency word) => word.Probability() / (word.Probability() + others);
        if (Best(seen, may.Length, Share, cause.Base) is var (word, times) && times >= Enough)
        {
            yield return new LearnedOffer(cause.Id, cause.Name, "", "", -1, -1, cause.Base, word, seen, may.Length, times);
        }
    }

    /// <summary>How often a link leaves a sign: counts of the places where it was looked for, less what its leak would show anyway.</summary>
    private static IEnumerable<LearnedOffer> Left(
        KnownCause cause,
        int link,
        int number,
        (Outcome Case, string Place, AddressTable Table)[] cases,
        KnowledgeBase knowledge
    )
    {
        var prediction = cause.Chain[link].Predicts[number];
        if (knowledge.Sign(prediction.Sign) is not { } sign)
        {
            yield break;
        }

        int seen = 0,
            of = 0;
        foreach (var (outcome, place, table) in cases)
        {
            var places = prediction
                .On.SelectMany(k => Places.Resolve(table, cause.Anchor, Station(table, cause, place), k, prediction.At))
                .Select(a => a.Code)
                .ToHashSet(StringComparer.Ordinal);
            foreach (var at in outcome.Findings.Where(f => f.Stands() && f.Sign == sign.Id && places.Contains(f.Place)).GroupBy(f => f.Place))
            {
                var (present, absent) = (at.Any(f => f.Seen == Seen.Present), at.Any(f => f.Seen == Seen.Absent));
                if (present != absent)
                {
                    of++;
                    seen += present ? 1 : 0;
                }
            }
        }

        var leak = sign.Leak.Probability();
        double Shows(Frequency word) => 1 - ((1 - leak) * (1 - word.Probability()));
        if (of > 0 && Best(seen, of, Shows, prediction.Often) is var (word, times) && times >= Enough)
        {
            yield return new LearnedOffer(cause.Id, cause.Name, sign.Id, sign.Name, link, number, prediction.Often, word, seen, of, times);
        }
    }

    /// <summary>The station at which a finding's place lies; the first where it names none.</summary>
    private static int Station(AddressTable table, KnownCause cause, string place) =>
        Places
            .Stations(table.Engine, cause.Anchor)
            .FirstOrDefault(
                s => Places.Resolve(table, cause.Anchor, s, cause.Seat, Relation.Same).Any(a => a.Code == place),
                table.Find(place) is { Station: > 0 } at && cause.Anchor != Anchor.Engine
                    ? at.Station
                    : Places.Stations(table.Engine, cause.Anchor).First()
            );

    /// <summary>The word under which the counts are likeliest, and by how much against the present one.</summary>
    private static (Frequency Word, double Times) Best(int seen, int of, Func<Frequency, double> probability, Frequency now)
    {
        double Log(Frequency word)
        {
            var p = Math.Clamp(probability(word), 1e-9, 1 - 1e-9);
            return (seen * Math.Log(p)) + ((of - seen) * Math.Log(1 - p));
        }

        var best = Words.MaxBy(Log);
        return (best, Math.Exp(Log(best) - Log(now)));
    }
}
