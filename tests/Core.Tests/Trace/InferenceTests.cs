using CsCheck;
using Google.OrTools.Sat;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>The inference against full enumeration, written here apart from the code under test.</summary>
public sealed class InferenceTests
{
    /// <summary>
    /// Russell and Norvig, Artificial Intelligence: A Modern Approach, chapter on probabilistic reasoning: fever from cold, flu and
    /// malaria with inhibitors 0.6, 0.2, 0.1. Value from memory.
    /// </summary>
    [Theory]
    [InlineData(new double[0], 0)]
    [InlineData(new[] { 0.9 }, 0.9)]
    [InlineData(new[] { 0.8 }, 0.8)]
    [InlineData(new[] { 0.8, 0.9 }, 0.98)]
    [InlineData(new[] { 0.4 }, 0.4)]
    [InlineData(new[] { 0.4, 0.9 }, 0.94)]
    [InlineData(new[] { 0.4, 0.8 }, 0.88)]
    [InlineData(new[] { 0.4, 0.8, 0.9 }, 0.988)]
    public void Noisy_or_gives_the_published_table(double[] weights, double probability) => CausalNet.NoisyOr(weights).ShouldBe(probability, 1e-12);

    [Fact]
    public void A_leak_is_one_more_cause() => CausalNet.NoisyOr([0.8], leak: 0.5).ShouldBe(CausalNet.NoisyOr([0.8, 0.5]), 1e-15);

    private static readonly Gen<NetSign> AnySign = Gen.Select(
        Gen.Double[0.01, 0.3],
        Gen.Int[0, 3],
        Gen.Double[0.05, 0.95],
        (leak, kind, soft) =>
            kind switch
            {
                0 or 1 => NetSign.Present(leak),
                2 => NetSign.Absent(leak),
                _ => new NetSign(leak, soft, 1 - soft),
            }
    );

    private static Gen<CausalNet> Nets(int hypotheses, int mostSigns) =>
        Gen.Select(
            Gen.Double[0.001, 0.3].Array[1, hypotheses],
            AnySign.Array[1, mostSigns],
            Gen.Double[0, 1].Array[hypotheses * mostSigns],
            (odds, signs, w) =>
                new CausalNet(
                    odds,
                    signs,
                    [
                        .. odds.Select(
                            (_, h) =>
                                (IReadOnlyList<NetLink>)
                                    signs
                                        .Select((_, s) => new NetLink(s, w[(h * mostSigns) + s]))
                                        // Two links in three are left out, so that nets fall into components.
                                        .Where(l => l.Weight > 0.66)
                                        .Select(l => l with { Weight = (l.Weight - 0.66) * 2.8 })
                                        .ToArray()
                        ),
                    ]
                )
        );

    private static (double[] Posterior, double None) Enumerate(CausalNet net)
    {
        var n = net.Odds.Count;
        var mass = new double[n];
        var q = new double[net.Signs.Count];
        double total = 0;
        double none = 0;
        for (var set = 0; set < 1 << n; set++)
        {
            var weight = 1.0;
            for (var h = 0; h < n; h++)
            {
                weight *= (set >> h & 1) == 1 ? net.Odds[h] / (1 + net.Odds[h]) : 1 / (1 + net.Odds[h]);
            }

            Array.Fill(q, 1);
            for (var h = 0; h < n; h++)
            {
                foreach (var link in (set >> h & 1) == 1 ? net.Links[h] : [])
                {
                    q[link.Sign] *= 1 - link.Weight;
                }
            }

            for (var s = 0; s < q.Length; s++)
            {
                var p = 1 - ((1 - net.Signs[s].Leak) * q[s]);
                weight *= (net.Signs[s].IfPresent * p) + (net.Signs[s].IfAbsent * (1 - p));
            }

            total += weight;
            none += set == 0 ? weight : 0;
            for (var h = 0; h < n; h++)
            {
                mass[h] += (set >> h & 1) == 1 ? weight : 0;
            }
        }

        return ([.. mass.Select(m => m / total)], none / total);
    }

    /// <summary>Whatever the number of signs and however they hang together.</summary>
    [Fact]
    public void Nets_of_up_to_sixteen_hypotheses_equal_full_enumeration()
    {
        EqualEnumeration(Nets(12, 8), 120);
        EqualEnumeration(Nets(16, 12).Where(n => n.Odds.Count >= 13), 12);
    }

    /// <summary>One component of sixteen, more present signs than inclusion and exclusion is used for.</summary>
    [Fact]
    public void Sixteen_hypotheses_that_touch_every_one_of_fourteen_signs_equal_full_enumeration() => EqualEnumeration(Tangled(16, 14, 1), 1);

    private static void EqualEnumeration(Gen<CausalNet> nets, int times) =>
        nets.Sample(
            net =>
            {
                var (posterior, none) = Enumerate(net);
                var solved = ScenarioSearch.Solve(net);
                for (var h = 0; h < posterior.Length; h++)
                {
                    solved.Probability[h].ShouldBe(posterior[h], 1e-9);
                    solved.Lower[h].ShouldBe(posterior[h], 1e-9);
                    solved.Upper[h].ShouldBe(posterior[h], 1e-9);
                }

                solved.None.ShouldBe(none, 1e-9);
            },
            iter: times
        );

    /// <summary>A net of one component: every hypothesis touches every sign.</summary>
    private static Gen<CausalNet> Tangled(int hypotheses, int signs, int seed)
    {
        var random = new Random(seed);
        var made = Enumerable.Range(0, signs).Select(i => i % 3 == 2 ? new NetSign(0.05, 0.8, 0.2) : NetSign.Present(0.05)).ToArray();
        return Gen.Const(
            new CausalNet(
                [.. Enumerable.Range(0, hypotheses).Select(_ => 0.01 + (0.1 * random.NextDouble()))],
                made,
                [
                    .. Enumerable
                        .Range(0, hypotheses)
                        .Select(_ => (IReadOnlyList<NetLink>)[.. made.Select((_, s) => new NetLink(s, random.NextDouble() * 0.9))]),
                ]
            )
        );
    }

    /// <summary>
    /// Too many hypotheses to enumerate in the program and too many signs for inclusion and exclusion: only the search is left. The test
    /// enumerates all 2¹⁸ scenarios, however many hypotheses hold together.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Bounds_of_the_search_contain_the_exact_value(int seed) =>
        Tangled(18, 12, seed)
            .Sample(
                net =>
                {
                    var (exact, _) = Enumerate(net);
                    var solved = ScenarioSearch.Solve(net);
                    for (var h = 0; h < exact.Length; h++)
                    {
                        solved.Lower[h].ShouldBeLessThanOrEqualTo(exact[h] + 1e-12);
                        solved.Upper[h].ShouldBeGreaterThanOrEqualTo(exact[h] - 1e-12);
                        (solved.Upper[h] - solved.Lower[h]).ShouldBeLessThan(0.02);
                    }
                },
                iter: 1
            );

    /// <summary>
    /// Many causes that hardly matter beside two that explain everything, as in an engine that was read thoroughly: the search sums them up in
    /// closed form by a lower and an upper bound, also with soft signs that speak against. The test enumerates.
    /// </summary>
    [Theory]
    [InlineData(1, 0.05)]
    [InlineData(2, 0.05)]
    [InlineData(3, 0.3)]
    [InlineData(4, 0.3)]
    public void What_is_summed_in_closed_form_stays_within_its_bounds(int seed, double odds)
    {
        const int N = 18;
        var random = new Random(seed);
        var signs = Enumerable.Range(0, 24).Select(i => i % 4 == 3 ? new NetSign(0.1, 0.3, 0.7) : NetSign.Present(0.1)).ToArray();
        double Weight(int h, int s) =>
            h < 2 ? (s % 2 == h ? 0.9 : 0)
            : random.Next(4) == 0 ? 0.8 * random.NextDouble()
            : 0;
        var net = new CausalNet(
            [.. Enumerable.Range(0, N).Select(h => h < 2 ? 0.2 : odds * random.NextDouble())],
            signs,
            [
                .. Enumerable
                    .Range(0, N)
                    .Select(h => (IReadOnlyList<NetLink>)[.. signs.Select((_, s) => new NetLink(s, Weight(h, s))).Where(l => l.Weight > 0)]),
            ]
        );
        var (exact, _) = Enumerate(net);
        var solved = ScenarioSearch.Solve(net);
        solved.Components.Max(c => c.Hypotheses.Count).ShouldBeGreaterThan(16, "small components are enumerated");
        for (var h = 0; h < N; h++)
        {
            solved.Lower[h].ShouldBeLessThanOrEqualTo(exact[h] + 1e-9);
            solved.Upper[h].ShouldBeGreaterThanOrEqualTo(exact[h] - 1e-9);
            solved.Probability[h].ShouldBe(exact[h], 1e-3);
            (solved.Upper[h] - solved.Lower[h]).ShouldBeLessThan(1e-2);
        }
    }

    /// <summary>So many signs, each so seldom without a cause, that first bounds leave the range of numbers.</summary>
    [Fact]
    public void Bounds_that_leave_the_range_of_numbers_are_still_bounds()
    {
        var random = new Random(9);
        var signs = Enumerable.Range(0, 150).Select(_ => NetSign.Present(1e-4)).ToArray();
        var net = new CausalNet(
            [.. Enumerable.Range(0, 200).Select(_ => 0.01)],
            signs,
            [
                .. Enumerable
                    .Range(0, 200)
                    .Select(h =>
                        (IReadOnlyList<NetLink>)
                            [.. signs.Select((_, s) => new NetLink(s, h == 0 || random.Next(3) == 0 ? 0.9 : 0)).Where(l => l.Weight > 0)]
                    ),
            ]
        );
        var solved = ScenarioSearch.Solve(net);
        solved.Probability.ShouldAllOfSomeBe(p => p >= 0 && p <= 1);
        solved.Lower.Zip(solved.Upper).ShouldAllOfSomeBe(b => b.First <= b.Second && double.IsFinite(b.Second));
        solved.Probability[0].ShouldBeGreaterThan(0.9);
    }

    /// <summary>
    /// Google OR-Tools (CP-SAT) maximises the logarithm of a scenario's weight: what each hypothesis adds by its odds, and for each sign what
    /// its record weighs under every way its causes may hold, looked up in a table.
    /// </summary>
    [Theory]
    [InlineData(10, 6)]
    [InlineData(16, 9)]
    [InlineData(30, 18)]
    [InlineData(60, 30)]
    public void The_most_probable_scenario_is_the_one_that_constraint_programming_finds(int hypotheses, int signs)
    {
        for (var seed = 1; seed <= 3; seed++)
        {
            var net = Sparse(hypotheses, signs, seed);
            var solved = ScenarioSearch.Solve(net);
            int[] found = [.. solved.Components.SelectMany(c => c.Scenarios.MaxBy(s => s.Weight)!.Hypotheses).Order()];
            LogWeight(net, found).ShouldBe(LogWeight(net, MostProbable(net)), 1e-4, $"seed {seed}: {string.Join(',', found)}");
        }
    }

    /// <summary>A net in which each sign has one to five causes, so that a table of all their ways stays small.</summary>
    private static CausalNet Sparse(int hypotheses, int signs, int seed)
    {
        var random = new Random(seed);
        var links = Enumerable.Range(0, hypotheses).Select(_ => new List<NetLink>()).ToArray();
        for (var s = 0; s < signs; s++)
        {
            var causes = Enumerable.Range(0, hypotheses).ToArray();
            random.Shuffle(causes);
            foreach (var h in causes.Take(1 + random.Next(5)))
            {
                links[h].Add(new NetLink(s, 0.1 + (0.85 * random.NextDouble())));
            }
        }

        return new CausalNet(
            [.. links.Select(_ => 0.005 + (0.2 * random.NextDouble()))],
            [
                .. Enumerable
                    .Range(0, signs)
                    .Select(_ =>
                        random.Next(3) switch
                        {
                            0 => NetSign.Absent(0.05),
                            1 => new NetSign(0.05, 0.9, 0.1),
                            _ => NetSign.Present(0.03),
                        }
                    ),
            ],
            links
        );
    }

    private static double LogWeight(CausalNet net, int[] held)
    {
        var sum = held.Sum(h => Math.Log(net.Odds[h]));
        for (var s = 0; s < net.Signs.Count; s++)
        {
            var q = held.SelectMany(h => net.Links[h]).Where(l => l.Sign == s).Aggregate(1.0, (p, l) => p * (1 - l.Weight));
            sum += Math.Log(net.Signs[s].Likelihood(q));
        }

        return sum;
    }

    private static int[] MostProbable(CausalNet net)
    {
        // Logarithms as whole numbers: CP-SAT knows no others.
        const double Scale = 1e7;
        long Whole(double log) => (long)Math.Round(Scale * log);
        var model = new CpModel();
        var holds = net.Odds.Select((_, h) => model.NewBoolVar($"h{h}")).ToArray();
        var terms = holds.Select((x, h) => x * Whole(Math.Log(net.Odds[h]))).ToList<LinearExpr>();
        for (var s = 0; s < net.Signs.Count; s++)
        {
            var causes = Enumerable.Range(0, holds.Length).Where(h => net.Links[h].Any(l => l.Sign == s)).ToArray();
            var table = Enumerable
                .Range(0, 1 << causes.Length)
                .Select(set =>
                    Whole(
                        Math.Log(
                            net.Signs[s]
                                .Likelihood(
                                    causes
                                        .Where((_, i) => (set >> i & 1) == 1)
                                        .Aggregate(1.0, (q, h) => q * (1 - net.Links[h].First(l => l.Sign == s).Weight))
                                )
                        )
                    )
                )
                .ToArray();
            var weighs = model.NewIntVar(table.Min(), table.Max(), $"s{s}");
            model.AddElement(LinearExpr.WeightedSum(causes.Select(h => holds[h]), causes.Select((_, i) => 1L << i)), table, weighs);
            terms.Add(weighs);
        }

        model.Maximize(LinearExpr.Sum(terms));
        var solver = new CpSolver { StringParameters = "num_workers:1 random_seed:1" };
        solver.Solve(model).ShouldBe(CpSolverStatus.Optimal);
        return [.. Enumerable.Range(0, holds.Length).Where(h => solver.BooleanValue(holds[h]))];
    }

    /// <summary>
    /// Hypotheses told as one, sets of which at most one holds, and folds, in small components, in components for inclusion and exclusion, and in
    /// those that are searched. The test enumerates.
    /// </summary>
    [Theory]
    [InlineData(10, 8, 1)]
    [InlineData(17, 5, 2)]
    [InlineData(17, 13, 3)]
    [InlineData(18, 13, 4)]
    public void Groups_and_sets_of_which_one_holds_equal_full_enumeration(int hypotheses, int signs, int seed)
    {
        var random = new Random(seed);
        var made = Enumerable
            .Range(0, signs)
            .Select(i =>
                i % 4 == 3 ? new NetSign(0.05, 0.7, 0.3)
                : i % 4 == 2 ? NetSign.Absent(0.1)
                : NetSign.Present(0.05)
            )
            .ToArray();
        var net = new CausalNet(
            [.. Enumerable.Range(0, hypotheses).Select(_ => 0.01 + (0.2 * random.NextDouble()))],
            made,
            [
                .. Enumerable
                    .Range(0, hypotheses)
                    .Select(_ =>
                        (IReadOnlyList<NetLink>)
                            [
                                .. made.Select((_, s) => new NetLink(s, random.NextDouble() * 0.9, 0.5 + (0.5 * random.NextDouble())))
                                    .Where(_ => random.Next(2) == 0),
                            ]
                    ),
            ]
        )
        {
            Groups =
            [
                [0, 1, 2],
                [3],
                [2, 4, 5],
            ],
            Apart =
            [
                .. Enumerable
                    .Range(0, hypotheses)
                    .Select(h =>
                        h is 1 or 5 or 6 ? 0
                        : h is 7 or 8 ? 1
                        : -1
                    ),
            ],
        };
        double total = 0;
        var mass = new double[hypotheses];
        var groups = new double[3];
        for (var set = 0; set < 1 << hypotheses; set++)
        {
            var held = Enumerable.Range(0, hypotheses).Where(h => (set >> h & 1) == 1).ToArray();
            if (held.Where(h => net.Apart[h] >= 0).GroupBy(h => net.Apart[h]).Any(g => g.Count() > 1))
            {
                continue;
            }

            var weight = held.Aggregate(1.0, (w, h) => w * net.Odds[h] * net.Links[h].Aggregate(1.0, (f, l) => f * l.Fold));
            for (var s = 0; s < signs; s++)
            {
                var q = held.SelectMany(h => net.Links[h]).Where(l => l.Sign == s).Aggregate(1.0, (p, l) => p * (1 - l.Weight));
                weight *= made[s].Likelihood(q);
            }

            total += weight;
            foreach (var h in held)
            {
                mass[h] += weight;
            }

            for (var g = 0; g < 3; g++)
            {
                groups[g] += net.Groups[g].Any(held.Contains) ? weight : 0;
            }
        }

        var solved = ScenarioSearch.Solve(net);
        for (var h = 0; h < hypotheses; h++)
        {
            solved.Probability[h].ShouldBe(mass[h] / total, 1e-3, $"hypothesis {h}");
        }

        for (var g = 0; g < 3; g++)
        {
            solved.Groups[g].Probability.ShouldBe(groups[g] / total, 1e-3, $"group {g}");
            solved.Groups[g].Lower.ShouldBeLessThanOrEqualTo((groups[g] / total) + 1e-6);
            solved.Groups[g].Upper.ShouldBeGreaterThanOrEqualTo((groups[g] / total) - 1e-6);
        }

        // Of two nets of the same odds the evidence compares: here against the same net with nothing known.
        var nothing = ScenarioSearch.Solve(
            net with
            {
                Signs = [.. made.Select(_ => new NetSign(0.05, 1, 1))],
                Links = [.. net.Links.Select(l => (IReadOnlyList<NetLink>)[])],
            }
        );
        double prior = 0;
        for (var set = 0; set < 1 << hypotheses; set++)
        {
            var held = Enumerable.Range(0, hypotheses).Where(h => (set >> h & 1) == 1).ToArray();
            prior += held.Where(h => net.Apart[h] >= 0).GroupBy(h => net.Apart[h]).Any(g => g.Count() > 1)
                ? 0
                : held.Aggregate(1.0, (w, h) => w * net.Odds[h]);
        }

        (solved.LogEvidence - nothing.LogEvidence).ShouldBe(Math.Log(total / prior), 1e-3);
    }

    /// <summary>
    /// A noisy-MAX of two causes and a leak (Díez 1993), worked out by all combinations of the grades that each brings about, against the binary net
    /// that is made of it.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void A_grade_seen_folds_into_a_binary_sign_exactly(int grade)
    {
        (double Weight, double[] Shares)[] by = [(0.05, [0.7, 0.2, 0.1]), (0.6, [0.1, 0.3, 0.6]), (0.8, [0.6, 0.3, 0.1])];
        double Grade(int c, int g) => g == 0 ? 1 - by[c].Weight : by[c].Weight * by[c].Shares[g - 1];
        foreach (var held in new[] { new[] { 0 }, [0, 1], [0, 2], [0, 1, 2] })
        {
            double exact = 0;
            void All(int at, int most, double p)
            {
                if (at == held.Length)
                {
                    exact += most == grade ? p : 0;
                    return;
                }

                for (var g = 0; g <= 3; g++)
                {
                    All(at + 1, Math.Max(most, g), p * Grade(held[at], g));
                }
            }

            All(0, 0, 1);
            var folded = held.Select(c => CausalNet.Graded(by[c].Weight, by[c].Shares, grade)).ToArray();
            var q = folded.Aggregate(1.0, (p, f) => p * (1 - f.Weight));
            (folded.Aggregate(1.0, (p, f) => p * f.Fold) * (1 - q)).ShouldBe(exact, 1e-12);
        }
    }

    [Fact]
    public void The_order_of_signs_does_not_matter() =>
        Nets(10, 8)
            .Sample(
                net =>
                {
                    var n = net.Signs.Count;
                    var turned = new CausalNet(
                        net.Odds,
                        [.. net.Signs.Reverse()],
                        [.. net.Links.Select(l => (IReadOnlyList<NetLink>)[.. l.Reverse().Select(x => x with { Sign = n - 1 - x.Sign })])]
                    );
                    var (one, other) = (ScenarioSearch.Solve(net), ScenarioSearch.Solve(turned));
                    for (var h = 0; h < net.Odds.Count; h++)
                    {
                        one.Probability[h].ShouldBe(other.Probability[h], 1e-12);
                    }
                },
                iter: 100
            );

    [Fact]
    public void A_hypothesis_that_touches_no_present_sign_keeps_its_prior_less_what_absent_signs_take()
    {
        var net = new CausalNet(
            [0.25, 0.25],
            [NetSign.Absent(0.1)],
            [
                [],
                [new NetLink(0, 0.5)],
            ]
        );
        var solved = ScenarioSearch.Solve(net);
        solved.Probability[0].ShouldBe(0.2, 1e-12);
        solved.Probability[1].ShouldBe(0.125 / 1.125, 1e-12);
    }
}
