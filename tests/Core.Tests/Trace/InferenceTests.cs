using CsCheck;
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

    private static (double[] Posterior, double None) Enumerate(CausalNet net, int most = int.MaxValue)
    {
        var n = net.Odds.Count;
        var mass = new double[n];
        double total = 0;
        double none = 0;
        for (var set = 0; set < 1 << n; set++)
        {
            if (int.PopCount(set) > most)
            {
                continue;
            }

            var weight = 1.0;
            for (var h = 0; h < n; h++)
            {
                weight *= (set >> h & 1) == 1 ? net.Odds[h] / (1 + net.Odds[h]) : 1 / (1 + net.Odds[h]);
            }

            for (var s = 0; s < net.Signs.Count; s++)
            {
                var causes = Enumerable
                    .Range(0, n)
                    .Where(h => (set >> h & 1) == 1)
                    .SelectMany(h => net.Links[h])
                    .Where(l => l.Sign == s)
                    .Select(l => l.Weight);
                var p = CausalNet.NoisyOr(causes, net.Signs[s].Leak);
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

    [Fact]
    public void Small_nets_equal_full_enumeration() =>
        Nets(12, 8)
            .Sample(
                net =>
                {
                    var (posterior, none) = Enumerate(net);
                    var solved = ScenarioSearch.Solve(net);
                    for (var h = 0; h < posterior.Length; h++)
                    {
                        solved.Probability[h].ShouldBe(posterior[h], 1e-9);
                    }

                    solved.None.ShouldBe(none, 1e-9);
                },
                iter: 150
            );

    [Fact]
    public void Larger_nets_with_few_present_signs_equal_full_enumeration_too() =>
        Nets(16, 7)
            .Where(n => n.Odds.Count >= 13)
            .Sample(
                net =>
                {
                    var (posterior, _) = Enumerate(net);
                    var solved = ScenarioSearch.Solve(net);
                    for (var h = 0; h < posterior.Length; h++)
                    {
                        solved.Probability[h].ShouldBe(posterior[h], 1e-9);
                    }
                },
                iter: 6
            );

    /// <summary>Every sign touches every hypothesis, and there are too many signs for inclusion and exclusion: only the search is left.</summary>
    [Fact]
    public void Bounds_of_the_search_contain_the_exact_value()
    {
        var random = new Random(20261124);
        for (var round = 0; round < 6; round++)
        {
            const int N = 14;
            var signs = Enumerable.Range(0, 13).Select(i => i % 3 == 2 ? new NetSign(0.05, 0.8, 0.2) : NetSign.Present(0.05)).ToArray();
            var net = new CausalNet(
                [.. Enumerable.Range(0, N).Select(_ => 0.01 + (0.1 * random.NextDouble()))],
                signs,
                [
                    .. Enumerable
                        .Range(0, N)
                        .Select(_ => (IReadOnlyList<NetLink>)[.. signs.Select((_, s) => new NetLink(s, random.NextDouble() * 0.9))]),
                ]
            );
            var (exact, _) = Enumerate(net, ScenarioSearch.MostTogether);
            var solved = ScenarioSearch.Solve(net);
            for (var h = 0; h < N; h++)
            {
                solved.Lower[h].ShouldBeLessThanOrEqualTo(exact[h] + 1e-12);
                solved.Upper[h].ShouldBeGreaterThanOrEqualTo(exact[h] - 1e-12);
                (solved.Upper[h] - solved.Lower[h]).ShouldBeLessThan(0.02);
            }
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
