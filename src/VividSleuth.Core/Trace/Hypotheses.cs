using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Text.Json;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>A sign that a cause brings about at a place, with how often.</summary>
public sealed record Predicted(string Sign, string Place, Frequency Often)
{
    public double Strength => Often.Probability();
}

/// <summary>A cause placed on a station of an engine.</summary>
/// <param name="Seat">Address at which it is said to sit.</param>
/// <param name="Links">By link of the chain, the signs it brings about.</param>
/// <param name="Prior">Probability before anything is known of the engine.</param>
public sealed record Hypothesis(KnownCause Cause, int Station, string Seat, IReadOnlyList<IReadOnlyList<Predicted>> Links, double Prior)
{
    private IReadOnlyList<Predicted>? _strongest;

    /// <summary>Each sign and place once, by the strongest of the links that predict it.</summary>
    public IReadOnlyList<Predicted> Strongest() =>
        _strongest ??= [.. Links.SelectMany(l => l).GroupBy(p => (p.Sign, p.Place)).Select(g => g.MaxBy(p => p.Often)!)];
}

/// <summary>Lays the causes of the knowledge base over one engine.</summary>
public static class Hypotheses
{
    /// <summary>Root causes that an engine on a bench has on average, whatever its number of cylinders.</summary>
    public const double RootCausesPerEngine = 1.25;

    private const double LargestPrior = 0.5;

    private const int MostLayouts = 64;

    // Laying the causes over an engine takes longer than reasoning with them, and depends on layout and knowledge only.
    private static readonly ConditionalWeakTable<KnowledgeBase, ConcurrentDictionary<string, IReadOnlyList<Hypothesis>>> Laid = [];

    /// <summary>Every cause that applies, once for each station it can begin at, in the order of cause and station.</summary>
    public static IReadOnlyList<Hypothesis> Of(AddressTable table, KnowledgeBase knowledge)
    {
        var byLayout = Laid.GetOrCreateValue(knowledge);
        if (byLayout.Count > MostLayouts)
        {
            byLayout.Clear();
        }

        return byLayout.GetOrAdd(JsonSerializer.Serialize(table.Engine.Layout), _ => Lay(table, knowledge));
    }

    private static IReadOnlyList<Hypothesis> Lay(AddressTable table, KnowledgeBase knowledge)
    {
        var placed = new List<(KnownCause Cause, int Station, IReadOnlyList<Predicted>[] Links, double Base)>();
        foreach (var cause in knowledge.Causes.Where(s => s.Applies.Fits(table.Engine.Layout)).OrderBy(s => s.Id, StringComparer.Ordinal))
        {
            var stations = Places.Stations(table.Engine, cause.Anchor).ToArray();
            foreach (var station in stations)
            {
                // A cause cannot begin at a part that this engine does not have: no turbocharger, no phaser.
                if (!Places.Resolve(table, cause.Anchor, station, cause.Seat, Relation.Same).Any())
                {
                    continue;
                }

                var links = cause.Chain.Select(l => Predict(table, cause, station, l)).ToArray();
                if (links.Any(l => l.Count > 0))
                {
                    placed.Add((cause, station, links, cause.Base.Probability() / stations.Length));
                }
            }
        }

        var sum = placed.Sum(h => h.Base);
        return
        [
            .. placed.Select(h => new Hypothesis(
                h.Cause,
                h.Station,
                Seat(table, h.Cause, h.Station),
                h.Links,
                Math.Min(LargestPrior, h.Base / sum * RootCausesPerEngine)
            )),
        ];
    }

    private static IReadOnlyList<Predicted> Predict(AddressTable table, KnownCause cause, int station, ChainLink link)
    {
        var strongest = new Dictionary<(string Sign, string Place), Frequency>();
        foreach (var prediction in link.Predicts)
        {
            foreach (var address in prediction.On.SelectMany(k => Places.Resolve(table, cause.Anchor, station, k, prediction.At)))
            {
                // A sign told twice at one place (at every cylinder, and again at this one) counts by the stronger word.
                var key = (prediction.Sign, address.Code);
                strongest[key] = (Frequency)Math.Max((int)strongest.GetValueOrDefault(key), (int)prediction.Often);
            }
        }

        return [.. strongest.Select(s => new Predicted(s.Key.Sign, s.Key.Place, s.Value))];
    }

    private static string Seat(AddressTable table, KnownCause cause, int station)
    {
        var places = Places.Resolve(table, cause.Anchor, station, cause.Seat, Relation.Same).ToArray();
        return places.Length > 0 ? places[0].Code : PartKinds.Get(PartKinds.Engine).Letters;
    }
}
