using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>A root cause that a drawn case has.</summary>
public sealed record TrueCause(string Cause, string Name, string Place);

/// <summary>
/// An engine drawn from the causes: which root causes it has, and whether each sign that any cause speaks of is there. Since causes
/// generate evidence, such engines serve for practice and for testing the inference on what it believes itself.
/// </summary>
public sealed class DrawnCase
{
    private readonly Dictionary<(string Sign, string Place), int> _levels;

    private DrawnCase(EngineLayout layout, int number, IReadOnlyList<TrueCause> causes, Dictionary<(string Sign, string Place), int> levels)
    {
        Layout = layout;
        Number = number;
        Causes = causes;
        _levels = levels;
    }

    /// <summary>The engine as it arrives.</summary>
    public EngineLayout Layout { get; }

    /// <summary>The number by which it is drawn again.</summary>
    public int Number { get; }

    /// <summary>Its root causes; none of an engine that has nothing the causes know.</summary>
    public IReadOnlyList<TrueCause> Causes { get; }

    /// <summary>Every sign and place that some cause speaks of, in a fixed order.</summary>
    public IEnumerable<(string Sign, string Place)> Signs =>
        _levels.Keys.OrderBy(k => k.Sign, StringComparer.Ordinal).ThenBy(k => k.Place, StringComparer.Ordinal);

    /// <summary>What somebody finds who looks: 0 not there, 1 to 3 its level; null where no cause speaks of it.</summary>
    public int? Look(string sign, string place) => _levels.TryGetValue((sign, place), out var level) ? level : null;

    /// <summary>The finding that somebody writes who looks.</summary>
    public Finding Found(string sign, string place)
    {
        var level = Look(sign, place) ?? 0;
        return new Finding
        {
            Id = Guid.CreateVersion7(),
            Sign = sign,
            Place = place,
            Seen = level > 0 ? Seen.Present : Seen.Absent,
            Level = level,
        };
    }

    /// <summary>
    /// Draws an engine as the net believes engines to be: each root cause holds by its own prior, so that some have none and some several;
    /// signs follow by the leaky noisy-OR of the causes that hold. The same seed draws the same engine.
    /// </summary>
    /// <param name="jitter">
    /// By how many words the truth's frequencies differ from the written ones, at most; each is moved one way or the other by chance. 0 draws from
    /// the causes as they are written.
    /// </param>
    public static DrawnCase Draw(EngineLayout layout, KnowledgeBase knowledge, int seed, int jitter = 0)
    {
        var random = new Random(seed);
        var table = new AddressTable(Engine.From(layout));
        var hypotheses = Hypotheses.Of(table, knowledge);
        var thrown = hypotheses.Select(h => random.NextDouble() / h.Prior).ToArray();
        var held = Enumerable.Range(0, hypotheses.Count).Where(i => thrown[i] < 1).OrderBy(i => thrown[i]).ToArray();
        var holds = held.ToHashSet();
        var q = new Dictionary<(string Sign, string Place), double>();
        foreach (var (h, i) in hypotheses.Select((h, i) => (h, i)))
        {
            // Levels are drawn at random, so patterns of levels say nothing about a drawn engine.
            foreach (var p in h.Strongest().Where(p => knowledge.Sign(p.Sign)!.Pattern is null))
            {
                var key = (p.Sign, p.Place);
                var strength = holds.Contains(i) ? Moved(p.Often, random, jitter) : 0;
                q[key] = q.GetValueOrDefault(key, 1) * (1 - strength);
            }
        }

        var levels = new Dictionary<(string Sign, string Place), int>(q.Count);
        foreach (var (key, product) in q.OrderBy(x => x.Key.Sign, StringComparer.Ordinal).ThenBy(x => x.Key.Place, StringComparer.Ordinal))
        {
            var there = random.NextDouble() < 1 - ((1 - knowledge.Sign(key.Sign)!.Leak.Probability()) * product);
            levels[key] = there ? 1 + random.Next(3) : 0;
        }

        return new DrawnCase(
            layout,
            seed,
            [.. held.Select(i => new TrueCause(hypotheses[i].Cause.Id, hypotheses[i].Cause.Name, hypotheses[i].Seat))],
            levels
        );
    }

    private static double Moved(Frequency often, Random random, int jitter)
    {
        var by = jitter == 0 ? 0 : random.Next(-jitter, jitter + 1);
        var moved = Math.Clamp((int)often + by, (int)Frequency.AlmostNever, (int)Frequency.Always);
        return ((Frequency)moved).Probability();
    }
}
