using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>A root cause that a drawn case has.</summary>
/// <param name="Place">The address by which the cause placed is known.</param>
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
    /// Draws an engine as the net believes engines to be: each root cause holds by its own prior, so that some have none and some several; it went one
    /// of its ways, to some extent or on to another cause; now and then something unknown has a part in it. Signs and their levels follow by the
    /// leaky noisy-MAX of what holds. The same seed draws the same engine.
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
        var unknown = random.NextDouble() < TraceModel.UnknownPrior;
        var thrown = hypotheses.Select(h => random.NextDouble() / h.Prior).ToArray();
        var taken = new HashSet<string>(StringComparer.Ordinal);
        var held = Enumerable
            .Range(0, hypotheses.Count)
            .Where(i => thrown[i] < 1)
            .OrderBy(i => thrown[i])
            .Where(i => hypotheses[i].Cause.OneOf is not { Length: > 0 } set || taken.Add(set))
            .ToArray();
        var levels = new Dictionary<(string Sign, string Place), int>();
        // Levels of one place and the next are drawn apart, so patterns of levels say nothing about a drawn engine.
        foreach (
            var key in hypotheses.SelectMany(h => h.Strongest()).Where(p => knowledge.Sign(p.Sign)!.Pattern is null).Select(p => (p.Sign, p.Place))
        )
        {
            levels[key] = 0;
        }

        foreach (var key in levels.Keys.OrderBy(k => k.Sign, StringComparer.Ordinal).ThenBy(k => k.Place, StringComparer.Ordinal).ToArray())
        {
            levels[key] = Level(TraceModel.Leak(knowledge.Sign(key.Sign)!.Leak.Probability(), unknown), Severity.Slight);
        }

        foreach (var hypothesis in held.Select(i => hypotheses[i]))
        {
            foreach (var left in WayOf(hypothesis).Leaves.Where(l => levels.ContainsKey((l.Of.Sign, l.Of.Place))))
            {
                var key = (left.Of.Sign, left.Of.Place);
                levels[key] = Math.Max(levels[key], Level(left.At(Moved(left.Of.Often, random, jitter)), left.Of.How));
            }
        }

        return new DrawnCase(
            layout,
            seed,
            [.. held.Select(i => new TrueCause(hypotheses[i].Cause.Id, hypotheses[i].Cause.Name, hypotheses[i].Seat))],
            levels
        );

        int Level(double probability, Severity how)
        {
            if (random.NextDouble() >= probability)
            {
                return 0;
            }

            var shares = how.Shares();
            var at = random.NextDouble();
            return at < shares[0] ? 1
                : at < shares[0] + shares[1] ? 2
                : 3;
        }

        Way WayOf(Hypothesis hypothesis)
        {
            var at = random.NextDouble();
            foreach (var way in hypothesis.Ways)
            {
                if ((at -= way.Share) < 0)
                {
                    return way;
                }
            }

            return hypothesis.Ways[^1];
        }
    }

    private static Frequency Moved(Frequency often, Random random, int jitter)
    {
        var by = jitter == 0 ? 0 : random.Next(-jitter, jitter + 1);
        return (Frequency)Math.Clamp((int)often + by, (int)Frequency.AlmostNever, (int)Frequency.Always);
    }
}
