using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>What a trainee looked at and found.</summary>
/// <param name="Minutes">What looking costs.</param>
public sealed record PracticeLook(string Sign, string Name, string Place, int Level, Fact Words, double Minutes);

/// <summary>An engine to practise on, as it arrives.</summary>
/// <param name="Told">What the owner tells, which costs nothing.</param>
public sealed record PracticeEngine(int Seed, Fact Kind, EngineLayout Layout, IReadOnlyList<PracticeLook> Told);

/// <summary>A cause that the trainee commits to, with how sure he is.</summary>
/// <param name="Probability">Between 0 and 1.</param>
public sealed record PracticeGuess(string Cause, double Probability);

/// <summary>How a trainee did.</summary>
/// <param name="LogScore">
/// Log score in bits against knowing nothing: 0 for a guess no better than the base rates, more the nearer to all the truth told; below nil
/// for one that was sure of the wrong thing. I. J. Good's rule: only honest probabilities make the most of it.
/// </param>
/// <param name="Minutes">Spent on looking.</param>
/// <param name="Computed">What the computation makes of the same looks.</param>
/// <param name="ComputedScore">Its log score on the same looks.</param>
public sealed record PracticeScore(
    IReadOnlyList<TrueCause> Causes,
    bool Right,
    double LogScore,
    double Minutes,
    TraceAnswer Computed,
    double ComputedScore,
    IReadOnlyList<PracticeDebrief> Debrief
);

/// <summary>A link of the true chain with what it left, and whether the trainee looked there.</summary>
public sealed record PracticeDebrief(string Says, IReadOnlyList<PracticeTrace> Left);

public sealed record PracticeTrace(string Sign, string Name, string Place, bool There, bool Looked);

/// <summary>
/// Practice on engines drawn from the causes: the same seed gives a whole class the same engine. Nothing is kept between requests but the
/// seed and what was looked at.
/// </summary>
public static class Practice
{
    /// <summary>A probability is cut to this from nil, so that one careless certainty does not cost everything.</summary>
    private const double Least = 0.005;

    private static readonly (Fact Name, EngineLayout Layout)[] Kinds =
    [
        (Fact.Of("practice.fork-lift-four"), Four),
        (Fact.Of("practice.harbour-crane-six"), Six),
        (Fact.Of("practice.fire-pump-twin"), Twin),
    ];

    private static EngineLayout Four => Inline(4, [1, 3, 4, 2], FuelSystem.Carburettor);

    private static EngineLayout Six => Inline(6, [1, 5, 3, 6, 2, 4], FuelSystem.Diesel);

    private static EngineLayout Twin =>
        Inline(2, [1, 2], FuelSystem.Carburettor) with
        {
            Cycle = WorkingCycle.TwoStroke,
            Bearings = BearingType.Rolling,
            RingsPerPiston = 2,
            Mains = 3,
        };

    /// <summary>The engine of a seed. Of the engines that the seed leads to the first that has a root cause is taken.</summary>
    public static PracticeEngine Arrive(int seed, KnowledgeBase knowledge)
    {
        var (kind, drawn) = Draw(seed, knowledge);
        // The owner tells what he heard and saw; the rest must be looked for.
        var told = drawn
            .Signs.Where(s => Heard(knowledge, s) && drawn.Look(s.Sign, s.Place) > 0)
            .Select(s => Seen(s.Sign, s.Place, drawn, knowledge));
        return new PracticeEngine(seed, kind, drawn.Layout, [.. told]);
    }

    /// <summary>What looking for a sign at a place shows.</summary>
    /// <exception cref="ProblemException">No such sign or place, or the sign is not looked for there.</exception>
    public static PracticeLook Look(int seed, string sign, string place, KnowledgeBase knowledge)
    {
        var (_, drawn) = Draw(seed, knowledge);
        return Seen(sign, new AddressTable(Engine.From(drawn.Layout)).Parse(place).Code, drawn, knowledge);
    }

    /// <summary>Scores a commitment and tells the truth.</summary>
    public static PracticeScore Commit(
        int seed,
        IReadOnlyList<(string Sign, string Place)> looked,
        IReadOnlyList<PracticeGuess> guesses,
        KnowledgeBase knowledge
    )
    {
        if (guesses.Count == 0 || guesses.Any(g => g.Probability is not (>= 0 and <= 1)) || guesses.Sum(g => g.Probability) > 1.0001)
        {
            throw new ProblemException(Problem.Of("guesses", "trace.probabilities-must-lie-between-add"));
        }

        if (guesses.FirstOrDefault(g => knowledge.Causes.All(s => s.Id != g.Cause)) is { } unknown)
        {
            throw new ProblemException(Problem.Of("guesses", "trace.no-such-cause", ("cause", unknown.Cause)));
        }

        var (_, drawn) = Draw(seed, knowledge);
        var table = new AddressTable(Engine.From(drawn.Layout));
        var all = looked.Concat(drawn.Signs.Where(s => Heard(knowledge, s) && drawn.Look(s.Sign, s.Place) > 0)).Distinct().ToArray();
        var findings = all.Select(s => drawn.Found(s.Sign, s.Place)).ToArray();
        var computed = Tracer.Answer(new TraceLog(findings, new Dictionary<string, bool>()), table, knowledge, []);
        var truth = drawn.Causes.Select(c => c.Cause).ToHashSet(StringComparer.Ordinal);
        var believed = guesses.Where(g => truth.Contains(g.Cause)).Sum(g => g.Probability);
        var prior = Hypotheses.Of(table, knowledge).Where(h => truth.Contains(h.Cause.Id)).Sum(h => h.Prior);
        var machine = Math.Min(1, computed.Ranking.Where(r => truth.Contains(r.Cause)).Sum(r => r.Probability));
        var minutes = looked.Distinct().Sum(s => knowledge.Sign(s.Sign)?.Minutes ?? 0);
        var seen = all.ToHashSet();
        return new PracticeScore(
            drawn.Causes,
            truth.Contains(guesses.MaxBy(g => g.Probability)!.Cause),
            Score(believed, prior),
            minutes,
            computed,
            Score(machine, prior),
            Debrief(table, drawn, seen, knowledge)
        );
    }

    /// <summary>log₂ of what was believed of the truth over what the base rates give it.</summary>
    private static double Score(double believed, double prior) => Math.Log2(Math.Max(believed, Least) / Math.Max(prior, Least));

    private static IReadOnlyList<PracticeDebrief> Debrief(
        AddressTable table,
        DrawnCase drawn,
        HashSet<(string Sign, string Place)> looked,
        KnowledgeBase knowledge
    )
    {
        var first = drawn.Causes[0];
        var hypothesis = Hypotheses.Of(table, knowledge).First(h => h.Cause.Id == first.Cause && h.Seat == first.Place);
        return
        [
            .. hypothesis.Cause.Chain.Select(
                (l, i) =>
                    new PracticeDebrief(
                        l.Says,
                        [
                            .. hypothesis
                                .Links[i]
                                .Select(p => new PracticeTrace(
                                    p.Sign,
                                    knowledge.Sign(p.Sign)!.Name,
                                    p.Place,
                                    drawn.Look(p.Sign, p.Place) > 0,
                                    looked.Contains((p.Sign, p.Place))
                                )),
                        ]
                    )
            ),
        ];
    }

    private static bool Heard(KnowledgeBase knowledge, (string Sign, string Place) s) => knowledge.Sign(s.Sign)!.Chapter == "told-and-heard";

    private static PracticeLook Seen(string sign, string place, DrawnCase drawn, KnowledgeBase knowledge)
    {
        var entry = knowledge.Sign(sign) ?? throw new ProblemException(Problem.Of("sign", "trace.no-such-sign", ("sign", sign)));
        if (entry.Pattern is not null)
        {
            throw new ProblemException(Problem.Of("sign", "trace.pattern-over-many-places", ("entry", entry.Name)));
        }

        var kind = new AddressTable(Engine.From(drawn.Layout)).Parse(place).Kind;
        if (!entry.On.Contains(kind.Id))
        {
            throw new ProblemException(Problem.Of("sign", "trace.not-looked", ("entry", entry.Name), ("kind", kind.Name)));
        }

        var level = drawn.Look(sign, place) ?? 0;
        var words =
            level == 0 ? Fact.Of("trace.not-there")
            : entry.Levels.Count == 3 ? Fact.Text(entry.Levels[level - 1])
            : Fact.Of("trace.there");
        return new PracticeLook(sign, entry.Name, place, level, words, entry.Minutes);
    }

    /// <summary>Numbers up to this anybody may open.</summary>
    public const int MostOpen = 1_000_000;

    /// <summary>Numbers above those, up to this, are drawn for homework and told to nobody.</summary>
    public const int MostDrawn = 1_000_000_000;

    /// <summary>Refuses the number of an engine that is not for anybody.</summary>
    public static int Open(int seed) =>
        seed is >= 1 and <= MostOpen ? seed : throw new ProblemException(Problem.Of("seed", "trace.no-number-of-an-engine", ("seed", seed)));

    private static (Fact Kind, DrawnCase Drawn) Draw(int seed, KnowledgeBase knowledge)
    {
        if (seed is < 1 or > MostDrawn)
        {
            throw new ProblemException(Problem.Of("seed", "trace.no-number-of-an-engine", ("seed", seed)));
        }

        var (name, layout) = Kinds[seed % Kinds.Length];
        for (var n = 0; ; n++)
        {
            var drawn = DrawnCase.Draw(layout, knowledge, seed + (n * 1_000_003));
            if (drawn.Causes.Count > 0)
            {
                return (name, drawn);
            }
        }
    }

    private static EngineLayout Inline(int cylinders, IReadOnlyList<int> firing, FuelSystem fuel) =>
        new()
        {
            Arrangement = Arrangement.Inline,
            Cylinders = cylinders,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = firing,
            Fuel = fuel,
        };
}
