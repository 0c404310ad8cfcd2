using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Text.Json;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>A sign that a cause brings about at a place, with how often and how bad.</summary>
/// <param name="Key">Number of this sign at this place among all that the causes speak of in this engine.</param>
public sealed record Predicted(string Sign, string Place, Frequency Often, Severity How, int Key)
{
    public double Strength => Often.Probability();
}

/// <summary>
/// One way in which a cause may have gone: to some extent, or on to another cause. Each is a hypothesis of the net; together they are told as the
/// cause.
/// </summary>
/// <param name="Share">Its share among the ways of its cause; they sum to 1.</param>
/// <param name="Leaves">What it leaves, each sign and place once.</param>
/// <param name="Follows">Index of the cause placed that follows from it; −1 where none does.</param>
public sealed record Way(double Share, IReadOnlyList<Left> Leaves, int Follows = -1);

/// <summary>What one way of a cause leaves at a place.</summary>
/// <param name="Extent">By how much the odds of its word are multiplied, because there was little or much of the cause.</param>
public readonly record struct Left(Predicted Of, double Extent)
{
    public double Strength => At(Of.Often);

    /// <summary>Probability with another word, as when the truth differs from what is written.</summary>
    public double At(Frequency word)
    {
        var p = word.Probability();
        return Extent == 1 ? p : p * Extent / (1 - p + (p * Extent));
    }
}

/// <summary>A cause placed on a station of an engine.</summary>
/// <param name="Seat">Address at which it is said to sit.</param>
/// <param name="Links">By link of the chain, the signs it brings about.</param>
/// <param name="Prior">Probability before anything is known of the engine.</param>
public sealed record Hypothesis(KnownCause Cause, int Station, string Seat, IReadOnlyList<IReadOnlyList<Predicted>> Links, double Prior)
{
    private IReadOnlyList<Predicted>? _strongest;

    /// <summary>True where the fault is of the whole shaft or engine, though such causes mostly are of one place.</summary>
    public bool Wide { get; init; }

    public IReadOnlyList<Way> Ways { get; init; } = [];

    /// <summary>
    /// Indices of the causes placed that it brings about and whose defining sign it leaves itself, as a cause of the whole engine does at many places:
    /// where it holds, that sign is accounted for.
    /// </summary>
    public IReadOnlyList<int> Accounts { get; init; } = [];

    /// <summary>Each sign and place once, by the strongest of the links that predict it.</summary>
    public IReadOnlyList<Predicted> Strongest() =>
        _strongest ??= [.. Links.SelectMany(l => l).GroupBy(p => (p.Sign, p.Place)).Select(g => g.MaxBy(p => p.Often)!)];
}

/// <summary>All causes laid over one engine.</summary>
/// <param name="Keys">Every sign and place that some cause speaks of, numbered.</param>
internal sealed record LaidCauses(IReadOnlyList<Hypothesis> Hypotheses, IReadOnlyDictionary<(string Sign, string Place), int> Keys);

/// <summary>Lays the causes of the knowledge base over one engine.</summary>
public static class Hypotheses
{
    /// <summary>Root causes that an engine on a bench has on average, whatever its number of cylinders.</summary>
    public const double RootCausesPerEngine = 1.25;

    private const double LargestPrior = 0.5;

    private const int MostLayouts = 64;

    // Laying the causes over an engine takes longer than reasoning with them, and depends on layout and knowledge only.
    private static readonly ConditionalWeakTable<KnowledgeBase, ConcurrentDictionary<string, LaidCauses>> Laid = [];

    /// <summary>Every cause that applies, once for each station it can begin at, in the order of cause and station.</summary>
    public static IReadOnlyList<Hypothesis> Of(AddressTable table, KnowledgeBase knowledge) => Over(table, knowledge).Hypotheses;

    internal static LaidCauses Over(AddressTable table, KnowledgeBase knowledge)
    {
        var byLayout = Laid.GetOrCreateValue(knowledge);
        if (byLayout.Count > MostLayouts)
        {
            byLayout.Clear();
        }

        return byLayout.GetOrAdd(JsonSerializer.Serialize(table.Engine.Layout), _ => Lay(table, knowledge));
    }

    /// <summary>
    /// What a cause leaves at three places or more hangs on how much of it there was, so its words are means over three extents: with the odds of
    /// the word over this, as they are, and times this. Fourteen alike are then not fourteen proofs.
    /// </summary>
    public const double Extent = 8;

    /// <summary>Shares of little, middling and much.</summary>
    private static readonly (double Share, double Times)[] Extents = [(0.3, 1 / Extent), (0.4, 1), (0.3, Extent)];

    private const int Repeated = 3;

    private const double MostFurther = 0.9;

    private static LaidCauses Lay(AddressTable table, KnowledgeBase knowledge)
    {
        var keys = new Dictionary<(string Sign, string Place), int>();
        var placed = new List<(KnownCause Cause, int Station, bool Wide, IReadOnlyList<Predicted>[] Links, double Base)>();
        foreach (var cause in knowledge.Causes.Where(s => s.Applies.Fits(table.Engine.Layout)).OrderBy(s => s.Id, StringComparer.Ordinal))
        {
            // A cause cannot begin at a part that this engine does not have: no turbocharger, no phaser.
            var stations = Places
                .Stations(table.Engine, cause.Anchor)
                .Where(s => Places.Resolve(table, cause.Anchor, s, cause.Seat, Relation.Same).Any())
                .ToArray();
            var wide = stations.Length > 1 && cause.Anchor != Anchor.Engine ? cause.Wide.Probability() : 0;
            if (wide > 0)
            {
                Add(cause, stations[0], true, cause.Base.Probability() * wide);
            }

            foreach (var station in stations)
            {
                Add(cause, station, false, cause.Base.Probability() * (1 - wide) / stations.Length);
            }
        }

        var sum = placed.Sum(h => h.Base);
        var laid = placed
            .Select(h => new Hypothesis(
                h.Cause,
                h.Wide ? 0 : h.Station,
                h.Wide ? WideSeat(table, h.Cause) : Seat(table, h.Cause, h.Station),
                h.Links,
                Math.Min(LargestPrior, h.Base / sum * RootCausesPerEngine)
            )
            {
                Wide = h.Wide,
            })
            .ToArray();
        return new LaidCauses([.. laid.Select((h, i) => h with { Ways = Ways(i, placed[i].Station), Accounts = Accounts(h) })], keys);

        int[] Accounts(Hypothesis of)
        {
            var brings = of.Cause.Brings.Select(b => b.Cause).ToHashSet(StringComparer.Ordinal);
            var leaves = brings.Count == 0 ? [] : of.Strongest().Select(p => p.Key).ToHashSet();
            return
            [
                .. Enumerable
                    .Range(0, brings.Count == 0 ? 0 : laid.Length)
                    .Where(o =>
                        brings.Contains(laid[o].Cause.Id)
                        && laid[o].Strongest().Any(p => leaves.Contains(p.Key) && laid[o].Cause.Defines.Exists(d => d.Sign == p.Sign))
                    ),
            ];
        }

        void Add(KnownCause cause, int station, bool wide, double at)
        {
            var links = cause.Chain.Select(l => Predict(table, cause, station, wide, l, keys)).ToArray();
            if (links.Any(l => l.Count > 0))
            {
                placed.Add((cause, station, wide, links, at));
            }
        }

        IReadOnlyList<Way> Ways(int of, int station)
        {
            var hypothesis = laid[of];
            var strongest = hypothesis.Strongest();
            var often = strongest.GroupBy(p => p.Sign).Where(g => g.Count() >= Repeated).Select(g => g.Key).ToHashSet(StringComparer.Ordinal);
            var ways = new List<Way>();
            foreach (var then in hypothesis.Wide ? [] : hypothesis.Cause.Brings)
            {
                var targets = Enumerable
                    .Range(0, laid.Length)
                    .Where(t => laid[t].Cause.Id == then.Cause && !laid[t].Wide && Follow(then, laid[t]))
                    .ToArray();
                foreach (var target in targets)
                {
                    var both = strongest.Concat(laid[target].Strongest()).GroupBy(p => (p.Sign, p.Place)).Select(g => g.MaxBy(p => p.Often)!);
                    ways.Add(new Way(then.Often.Probability() / targets.Length, [.. both.Select(p => new Left(p, 1))], target));
                }
            }

            // It may also have gone no further, however often it goes on in one way or another.
            var further = ways.Sum(w => w.Share);
            if (further > MostFurther)
            {
                ways = [.. ways.Select(w => w with { Share = w.Share * MostFurther / further })];
            }

            var rest = 1 - ways.Sum(w => w.Share);
            ways.InsertRange(
                0,
                often.Count == 0
                    ? [new Way(rest, [.. strongest.Select(p => new Left(p, 1))])]
                    : Extents.Select(e => new Way(rest * e.Share, [.. strongest.Select(p => new Left(p, often.Contains(p.Sign) ? e.Times : 1))]))
            );
            return ways;

            bool Follow(Consequence then, Hypothesis target) =>
                Places.Resolve(table, hypothesis.Cause.Anchor, station, target.Cause.Seat, then.At).Any(a => a.Code == target.Seat);
        }
    }

    private static IReadOnlyList<Predicted> Predict(
        AddressTable table,
        KnownCause cause,
        int station,
        bool wide,
        ChainLink link,
        Dictionary<(string Sign, string Place), int> keys
    )
    {
        var strongest = new Dictionary<(string Sign, string Place), Predicted>();
        foreach (var prediction in link.Predicts)
        {
            // Of the whole shaft or engine: what is left at the place where such a cause begins is left at every one, and no other is spared.
            var at = wide && prediction.At != Relation.FarEnd ? Relation.Every : prediction.At;
            foreach (var address in prediction.On.SelectMany(k => Places.Resolve(table, cause.Anchor, station, k, at)))
            {
                // A sign told twice at one place (at every cylinder, and again at this one) counts by the stronger word.
                var key = (prediction.Sign, address.Code);
                if (!strongest.TryGetValue(key, out var other) || other.Often < prediction.Often)
                {
                    if (!keys.TryGetValue(key, out var number))
                    {
                        keys[key] = number = keys.Count;
                    }

                    strongest[key] = new Predicted(prediction.Sign, address.Code, prediction.Often, prediction.How ?? cause.How, number);
                }
            }
        }

        return [.. strongest.Values];
    }

    private static string WideSeat(AddressTable table, KnownCause cause) =>
        table.OfKind(cause.WideSeat.Length > 0 ? cause.WideSeat : PartKinds.Engine).FirstOrDefault()?.Code ?? PartKinds.Get(PartKinds.Engine).Letters;

    private static string Seat(AddressTable table, KnownCause cause, int station)
    {
        var places = Places.Resolve(table, cause.Anchor, station, cause.Seat, Relation.Same).ToArray();
        return places.Length > 0 ? places[0].Code : PartKinds.Get(PartKinds.Engine).Letters;
    }
}
