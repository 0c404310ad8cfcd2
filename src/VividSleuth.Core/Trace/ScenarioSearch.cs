using System.Runtime.CompilerServices;
using VividSleuth.Core.Index;

namespace VividSleuth.Core.Trace;

/// <summary>
/// Posteriors of a two-layer noisy-OR net.
/// <list type="bullet">
/// <item>Absent signs factor over the hypotheses and fold into their odds; a hypothesis that touches no present sign is then
/// alone and summed out in closed form (Heckerman, "A tractable inference algorithm for diagnosing multiple diseases", 1989).</item>
/// <item>What is left falls into components that share no present sign.</item>
/// <item>A small component is enumerated; one with few present signs has exact posteriors by inclusion and exclusion over these
/// signs (Quickscore, same source), unless cancellation has eaten its digits.</item>
/// <item>Scenarios are found best first, with an upper bound on what lies below each one (Henrion, "Search-based methods to bound
/// diagnostic probabilities in very large belief nets", 1991): adding a hypothesis never raises a present sign's likelihood by a
/// larger factor in a larger scenario, so that all larger ones together weigh at most ∏(1 + bound) − 1 times this one. However many
/// hypotheses hold together, what was left out is in the bounds.</item>
/// </list>
/// The result does not depend on the order of hypotheses or signs beyond the rounding of sums.
/// </summary>
public static partial class ScenarioSearch
{
    private const int EnumerateUpTo = 16;
    private const int QuickscoreUpTo = 11;
    private const double Tolerance = 1e-4;
    private const double Negligible = 1e-9;

    // Hypotheses weighed in one search, each visit counting all that are still to come.
    private const int MostWeighed = 300_000;
    private const int AddAfresh = 128;
    private const double MostDecades = 250;
    private const int Kept = 600;

    // Below this share of the terms' sizes the sum of Quickscore has lost more digits than a posterior may.
    private const double Cancelled = 1e-6;

    private static readonly Scenario Nothing = new([], 1);

    public static Posterior Solve(CausalNet given)
    {
        var net = Tempered(given);
        var n = net.Odds.Count;
        var odds = FoldAbsent(net);
        var probability = new double[n];
        var lower = new double[n];
        var upper = new double[n];
        var components = new List<SolvedComponent>();
        // Of each group that none of it holds; components are independent.
        var none = net.Groups.Select(_ => (Probability: 1.0, Lower: 1.0, Upper: 1.0)).ToArray();
        var log = 0.0;
        var groupsOf = GroupsOf(net);
        var touches = net.Links.Select(l => l.Any(x => x.Weight > 0 && !net.Signs[x.Sign].Factors)).ToArray();
        foreach (var group in Group(net))
        {
            if (group.Length == 1 && !touches[group[0]])
            {
                var h = group[0];
                var alone = odds[h] / (1 + odds[h]);
                (probability[h], lower[h], upper[h]) = (alone, alone, alone);
                log += Math.Log(1 + odds[h]);
                foreach (var id in groupsOf[h])
                {
                    none[id] = (none[id].Probability * (1 - alone), none[id].Lower * (1 - alone), none[id].Upper * (1 - alone));
                }

                components.Add(Alone(group, odds[h], groupsOf[h]));
                continue;
            }

            var part = new Part(net, odds, group, groupsOf);
            var solved = (group.Length <= EnumerateUpTo ? Enumerate(part) : Search(part)) with { Touched = part.Signs.Length > 0 };
            components.Add(solved);
            log += Math.Log(solved.Total);
            var exact = group.Length > EnumerateUpTo && part.Signs.Length is > 0 and <= QuickscoreUpTo ? Quickscore(part) : null;
            var whole = solved.Total + solved.LeftOut;
            for (var i = 0; i < group.Length; i++)
            {
                lower[group[i]] = exact?.Each[i] ?? solved.Mass[i] / whole;
                upper[group[i]] = exact?.Each[i] ?? (solved.Mass[i] + solved.LeftOut) / whole;
                probability[group[i]] = exact?.Each[i] ?? solved.Mass[i] / solved.Total;
            }

            for (var g = 0; g < part.Groups.Length; g++)
            {
                var id = part.Groups[g].Id;
                var mass = solved.Groups[id];
                var so = none[id];
                none[id] = exact is { } q
                    ? (so.Probability * (1 - q.Groups[g]), so.Lower * (1 - q.Groups[g]), so.Upper * (1 - q.Groups[g]))
                    : (
                        so.Probability * (1 - (mass / solved.Total)),
                        so.Lower * (1 - (mass / whole)),
                        so.Upper * (1 - ((mass + solved.LeftOut) / whole))
                    );
            }
        }

        return new Posterior(probability, lower, upper, components)
        {
            Groups = [.. none.Select(n => (Share(1 - n.Probability), Share(1 - n.Lower), Share(1 - n.Upper)))],
            LogEvidence = log + Unlinked(net),
        };
    }

    private static List<int>[] GroupsOf(CausalNet net)
    {
        var groupsOf = net.Odds.Select(_ => new List<int>()).ToArray();
        for (var g = 0; g < net.Groups.Count; g++)
        {
            foreach (var h in net.Groups[g])
            {
                groupsOf[h].Add(g);
            }
        }

        return groupsOf;
    }

    private static double Share(double p) => Math.Clamp(p, 0, 1);

    /// <summary>Logarithm of what the absent signs weigh with no cause, and of those present that no hypothesis brings about.</summary>
    private static double Unlinked(CausalNet net)
    {
        var linked = net.Links.SelectMany(l => l).Where(l => l.Weight > 0).Select(l => l.Sign).ToHashSet();
        return net.Signs.Select((s, i) => s.Factors || !linked.Contains(i) ? Math.Log(Math.Max(s.Likelihood(1), double.Epsilon * 1e10)) : 0).Sum();
    }

    /// <summary>
    /// Where so many signs are present that the weight of explaining none of them would leave the range of numbers, all their leaks are raised
    /// together, each to the same power, just enough.
    /// </summary>
    private static CausalNet Tempered(CausalNet net)
    {
        var decades = net.Signs.Sum(s => s.IfAbsent == 0 && s.Leak > 0 ? -Math.Log10(s.Leak) : 0);
        return decades <= MostDecades
            ? net
            : net with
            {
                Signs = [.. net.Signs.Select(s => s.IfAbsent == 0 ? s with { Leak = Math.Pow(s.Leak, MostDecades / decades) } : s)],
            };
    }

    private static double[] FoldAbsent(CausalNet net)
    {
        var odds = net.Odds.ToArray();
        for (var h = 0; h < odds.Length; h++)
        {
            foreach (var link in net.Links[h])
            {
                odds[h] *= link.Fold * (net.Signs[link.Sign].Factors ? 1 - link.Weight : 1);
            }
        }

        return odds;
    }

    private static IEnumerable<int[]> Group(CausalNet net)
    {
        var parent = Enumerable.Range(0, net.Odds.Count).ToArray();
        int Root(int i) => parent[i] == i ? i : parent[i] = Root(parent[i]);
        var first = new Dictionary<int, int>();
        for (var h = 0; h < parent.Length; h++)
        {
            foreach (var link in net.Links[h].Where(l => !net.Signs[l.Sign].Factors && l.Weight > 0))
            {
                parent[Root(h)] = first.TryGetValue(link.Sign, out var other) ? Root(other) : Root(h);
                first.TryAdd(link.Sign, h);
            }
        }

        // What excludes each other hangs together also where it shares no sign.
        var firstOf = new Dictionary<int, int>();
        for (var h = 0; h < net.Apart.Count; h++)
        {
            if (net.Apart[h] >= 0 && !firstOf.TryAdd(net.Apart[h], h))
            {
                parent[Root(h)] = Root(firstOf[net.Apart[h]]);
            }
        }

        return Enumerable.Range(0, parent.Length).GroupBy(Root).Select(g => g.ToArray());
    }

    private static SolvedComponent Alone(int[] hypothesis, double odds, List<int> groups) =>
        new(hypothesis, [Nothing, new Scenario(hypothesis, odds)], [odds], 1 + odds, 0) { Groups = groups.ToDictionary(g => g, _ => odds) };

    /// <summary>All 2ⁿ scenarios of a small component.</summary>
    private static SolvedComponent Enumerate(Part part)
    {
        var n = part.Hypotheses.Length;
        var tally = new Tally(part);
        tally.Add([], part.Weight([]));
        var q = new double[n + 1][];
        for (var depth = 0; depth <= n; depth++)
        {
            q[depth] = new double[part.Signs.Length];
        }

        part.Products([], q[0]);
        Larger([], 0, 1);
        return tally.Solved(leftOut: 0);

        void Larger(int[] members, int next, double odds)
        {
            var depth = members.Length;
            for (var h = next; h < n; h++)
            {
                if (part.Excluded(members, h))
                {
                    continue;
                }

                q[depth].CopyTo(q[depth + 1], 0);
                foreach (var link in part.Links[h])
                {
                    q[depth + 1][link.Sign] *= 1 - link.Weight;
                }

                var weight = odds * part.Odds[h];
                for (var f = 0; f < part.Signs.Length; f++)
                {
                    weight *= part.Signs[f].Likelihood(q[depth + 1][f]);
                }

                tally.Add(members, h, weight);
                if (h + 1 < n)
                {
                    Larger([.. members, h], h + 1, odds * part.Odds[h]);
                }
            }
        }
    }

    /// <summary>Null where cancellation leaves too few digits.</summary>
    private static (double[] Each, double[] Groups)? Quickscore(Part part)
    {
        var n = part.Hypotheses.Length;
        var with = new double[n];
        var scaled = new double[n];
        var holds = new double[n];
        var groups = new double[part.Groups.Length];
        // Of a set of which at most one holds the sum of all takes the place of the product.
        var sums = new double[part.Sets];
        double total = 0;
        double size = 0;
        for (var set = 0; set < 1 << part.Signs.Length; set++)
        {
            var term = 1.0;
            for (var f = 0; f < part.Signs.Length; f++)
            {
                var sign = part.Signs[f];
                term *= (set >> f & 1) == 1 ? (sign.IfAbsent - sign.IfPresent) * (1 - sign.Leak) : sign.IfPresent;
            }

            Array.Clear(sums);
            for (var h = 0; h < n; h++)
            {
                scaled[h] = part.Odds[h];
                foreach (var link in part.Links[h])
                {
                    scaled[h] *= (set >> link.Sign & 1) == 1 ? 1 - link.Weight : 1;
                }

                if (part.Apart[h] < 0)
                {
                    term *= 1 + scaled[h];
                }
                else
                {
                    sums[part.Apart[h]] += scaled[h];
                }
            }

            foreach (var sum in sums)
            {
                term *= 1 + sum;
            }

            total += term;
            size += Math.Abs(term);
            for (var h = 0; h < n; h++)
            {
                holds[h] = scaled[h] / (1 + (part.Apart[h] < 0 ? scaled[h] : sums[part.Apart[h]]));
                with[h] += term * holds[h];
            }

            for (var g = 0; g < groups.Length; g++)
            {
                groups[g] += term * part.Groups[g].AtLeastOne(holds, part.Apart);
            }
        }

        return total < Cancelled * size
            ? null
            : ([.. with.Select(w => Math.Clamp(w / total, 0, 1))], [.. groups.Select(w => Math.Clamp(w / total, 0, 1))]);
    }

    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    private static SolvedComponent Search(Part part)
    {
        // Ordering by what each does alone puts the likely ones first; the index breaks ties, so the answer is always the same.
        var q = Enumerable.Repeat(1.0, part.Signs.Length).ToArray();
        var rates = new double[q.Length];
        part.Rates(q, rates);
        var order = Enumerable.Range(0, part.Hypotheses.Length).OrderByDescending(h => part.Odds[h] * part.Gain(h, rates)).ThenBy(h => h).ToArray();
        var n = order.Length;
        var tally = new Tally(part);
        tally.Add([], part.Weight([]));
        double dropped = 0;
        var open = new PriorityQueue<Siblings, double>();
        open.Enqueue(new Siblings([], [new Open(0, tally.Total, double.MaxValue)], Tight: false), double.NegativeInfinity);
        var waiting = 0.0;
        var exact = new double[n];
        var below = new Below(part, order);
        var larger = new List<Open>();
        var weighed = 0;
        for (var visit = 0; weighed < MostWeighed && open.Count > 0; visit++)
        {
            if (visit > 0 && (visit % AddAfresh == 0 || waiting + dropped <= Tolerance * tally.Total))
            {
                // First bounds are many orders above the last ones, so the running sum has lost its digits: add up afresh.
                waiting = open.UnorderedItems.Sum(s => s.Element.Waiting);
                if (waiting + dropped <= Tolerance * tally.Total)
                {
                    break;
                }
            }

            var siblings = open.Dequeue();
            var (node, members) = siblings.Take(order);
            waiting -= visit > 0 ? node.Below : 0;
            if (siblings.Best > 0)
            {
                open.Enqueue(siblings, -siblings.Best);
            }

            part.Products(members, q);
            part.Rates(q, rates);
            below.Reckon(node.Next, rates, exact);
            weighed += n - node.Next;
            var tight = node.Weight * below.Of(node.Next);
            if (!siblings.Tight && open.TryPeek(out _, out var best) && tight < -best)
            {
                open.Enqueue(siblings.Alone(node with { Below = tight }), -tight);
                waiting += tight;
                continue;
            }

            // What is left of the tail together is added in closed form; what stands out is gone into one by one.
            var tail = Math.Max(below.Tail(node.Next, node.Weight / tally.Total, rates, exact), part.FirstFree(members, order, node.Next));
            if (tail < n)
            {
                dropped += below.Close(tail, node.Weight, rates, exact, tally, members);
                for (var i = tail; i < n; i++)
                {
                    tally.Keep(members, order[i], node.Weight * exact[i]);
                }
            }

            larger.Clear();
            for (var i = node.Next; i < tail; i++)
            {
                if (part.Excluded(members, order[i]))
                {
                    continue;
                }

                var child = node.Weight * exact[i];
                tally.Add(members, order[i], child);
                var under = child * below.Of(i + 1);
                if (under > Negligible * tally.Total)
                {
                    larger.Add(new Open(i + 1, child, under));
                    waiting += under;
                }
                else
                {
                    dropped += under;
                }
            }

            if (larger.Count > 0)
            {
                larger.Sort(static (a, b) => b.Below.CompareTo(a.Below) is not 0 and var order ? order : a.Next.CompareTo(b.Next));
                open.Enqueue(new Siblings(members, [.. larger], Tight: false), -larger[0].Below);
            }
        }

        return tally.Solved(open.UnorderedItems.Sum(s => s.Element.Waiting) + dropped);
    }

    /// <summary>A scenario whose larger ones, made of hypotheses from <paramref name="Next"/> on, are still to be looked at.</summary>
    /// <param name="Next">Its last member is the hypothesis before this one in the order; the empty scenario has 0.</param>
    /// <param name="Below">Bound on the weight of the larger ones.</param>
    private readonly record struct Open(int Next, double Weight, double Below);

    /// <summary>
    /// Scenarios that hold one hypothesis more than another, those with the most below them first. Of the many that a search opens few are
    /// taken, so only the first of each family stands in the queue.
    /// </summary>
    /// <param name="Members">Those of the scenario that all of them are larger than.</param>
    /// <param name="Tight">The bounds were reckoned at the scenarios themselves.</param>
    private sealed record Siblings(int[] Members, Open[] Scenarios, bool Tight)
    {
        private int _next;

        /// <summary>The largest bound that is left; 0 where none is.</summary>
        public double Best => _next < Scenarios.Length ? Scenarios[_next].Below : 0;

        /// <summary>Sum of the bounds that are left.</summary>
        public double Waiting
        {
            get
            {
                var sum = 0.0;
                foreach (var scenario in Scenarios.AsSpan(_next))
                {
                    sum += scenario.Below;
                }

                return sum;
            }
        }

        /// <summary>The one with the most below it, and its members.</summary>
        public (Open Scenario, int[] Members) Take(int[] order)
        {
            var scenario = Scenarios[_next++];
            return (scenario, scenario.Next == 0 ? Members : [.. Members, order[scenario.Next - 1]]);
        }

        /// <summary>One that was taken, by itself with a tight bound.</summary>
        public Siblings Alone(Open scenario) => new(Members, [scenario], Tight: true);
    }

    /// <summary>Adds scenarios up as they are found: all of them into the sums, the weightiest also kept for re-weighting.</summary>
    private sealed class Tally(Part part)
    {
        private readonly double[] _mass = new double[part.Hypotheses.Length];
        private readonly double[] _groups = new double[part.Groups.Length];

        // For each group the scenario in which it was last counted, so that two of its members count once.
        private readonly long[] _counted = new long[part.Groups.Length];
        private long _scenario;
        private readonly PriorityQueue<Scenario, double> _kept = new(Kept + 1);
        private Scenario? _empty;

        public double Total { get; private set; }

        public void Add(int[] members, double weight)
        {
            if (members.Length == 0)
            {
                _empty = new Scenario([], weight);
                Total += weight;
            }
            else
            {
                Add(members[..^1], members[^1], weight);
            }
        }

        public void Add(int[] members, int last, double weight)
        {
            Close(members, weight);
            Close(last, weight);
            Keep(members, last, weight);
        }

        /// <summary>Adds many scenarios that all hold these members, by their sum.</summary>
        public void Close(int[] members, double weight)
        {
            Total += weight;
            _scenario++;
            foreach (var h in members)
            {
                _mass[h] += weight;
                foreach (var g in part.GroupsOf[h])
                {
                    _groups[g] += _counted[g] == _scenario ? 0 : weight;
                    _counted[g] = _scenario;
                }
            }
        }

        /// <summary>
        /// Adds what those hold of one more hypothesis. Two of one group that both hold beside the members are counted twice in it, which is of
        /// the second order in what does not stand out.
        /// </summary>
        public void Close(int hypothesis, double weight)
        {
            _mass[hypothesis] += weight;
            foreach (var g in part.GroupsOf[hypothesis])
            {
                _groups[g] += _counted[g] == _scenario ? 0 : weight;
            }
        }

        /// <summary>Keeps a scenario for re-weighting, if it is among the weightiest, without adding it up.</summary>
        public void Keep(int[] members, int last, double weight)
        {
            if (_kept.Count < Kept || (_kept.TryPeek(out _, out var least) && weight > least))
            {
                _kept.Enqueue(new Scenario([.. members.Select(h => part.Hypotheses[h]), part.Hypotheses[last]], weight), weight);
                if (_kept.Count > Kept)
                {
                    _kept.Dequeue();
                }
            }
        }

        public SolvedComponent Solved(double leftOut) =>
            new(
                part.Hypotheses,
                [
                    .. _kept
                        .UnorderedItems.Select(s => s.Element)
                        .Append(_empty!)
                        .OrderByDescending(s => s.Weight)
                        .ThenBy(s => string.Join(',', s.Hypotheses), StringComparer.Ordinal),
                ],
                _mass,
                Total,
                leftOut
            )
            {
                Groups = part.Groups.Select((g, i) => (g.Id, Mass: _groups[i])).ToDictionary(x => x.Id, x => x.Mass),
            };
    }

    /// <summary>What of a group is in a component.</summary>
    private sealed record Kin(int Id, int[] Members)
    {
        /// <summary>Probability that at least one holds, of members that hold independently but for sets of which at most one does.</summary>
        public double AtLeastOne(double[] holds, int[] apart)
        {
            var none = 1.0;
            for (var i = 0; i < Members.Length; i++)
            {
                var h = Members[i];
                if (apart[h] < 0)
                {
                    none *= 1 - holds[h];
                    continue;
                }

                var before = false;
                var together = 0.0;
                for (var j = 0; j < Members.Length; j++)
                {
                    before |= j < i && apart[Members[j]] == apart[h];
                    together += apart[Members[j]] == apart[h] ? holds[Members[j]] : 0;
                }

                none *= before ? 1 : 1 - together;
            }

            return 1 - none;
        }
    }

    /// <summary>One component with its present and soft signs, indexed from zero.</summary>
    private sealed class Part
    {
        public Part(CausalNet net, double[] odds, int[] hypotheses, List<int>[] groupsOf)
        {
            Hypotheses = hypotheses;
            Odds = [.. hypotheses.Select(h => odds[h])];
            var ids = hypotheses
                .SelectMany(h => net.Links[h])
                .Where(l => l.Weight > 0 && !net.Signs[l.Sign].Factors)
                .Select(l => l.Sign)
                .Distinct()
                .Order()
                .ToArray();
            Signs = [.. ids.Select(i => net.Signs[i])];
            Links =
            [
                .. hypotheses.Select(h =>
                    net.Links[h].Select(l => l with { Sign = Array.IndexOf(ids, l.Sign) }).Where(l => l.Sign >= 0 && l.Weight > 0).ToArray()
                ),
            ];
            Groups =
            [
                .. hypotheses
                    .SelectMany((h, i) => groupsOf[h].Select(id => (Id: id, Member: i)))
                    .GroupBy(x => x.Id)
                    .OrderBy(g => g.Key)
                    .Select(g => new Kin(g.Key, [.. g.Select(x => x.Member)])),
            ];
            var number = Groups.Select((g, i) => (g.Id, i)).ToDictionary(x => x.Id, x => x.i);
            GroupsOf = [.. hypotheses.Select(h => groupsOf[h].Select(id => number[id]).ToArray())];
            var sets = net.Apart.Count == 0 ? [] : hypotheses.Select(h => net.Apart[h]).Where(s => s >= 0).Distinct().ToArray();
            Apart = [.. hypotheses.Select(h => net.Apart.Count == 0 ? -1 : Array.IndexOf(sets, net.Apart[h]))];
            Sets = sets.Length;
        }

        /// <summary>The net's groups that have members here.</summary>
        public Kin[] Groups { get; }

        /// <summary>For each hypothesis its groups, by their number here.</summary>
        public int[][] GroupsOf { get; }

        /// <summary>For each hypothesis the set of which at most one holds, by its number here, or −1.</summary>
        public int[] Apart { get; }

        public int Sets { get; }

        /// <summary>Whether a hypothesis cannot hold beside these.</summary>
        public bool Excluded(int[] members, int h)
        {
            if (Apart[h] < 0)
            {
                return false;
            }

            foreach (var m in members)
            {
                if (Apart[m] == Apart[h])
                {
                    return true;
                }
            }

            return false;
        }

        /// <summary>
        /// The first place in the order from which on no hypothesis excludes another or a member: from there on they hold independently, as a sum in
        /// closed form takes for granted.
        /// </summary>
        public int FirstFree(int[] members, int[] order, int from)
        {
            if (Sets == 0)
            {
                return from;
            }

            var met = new bool[Sets];
            foreach (var m in members)
            {
                if (Apart[m] >= 0)
                {
                    met[Apart[m]] = true;
                }
            }

            for (var i = order.Length - 1; i >= from; i--)
            {
                if (Apart[order[i]] is >= 0 and var set)
                {
                    if (met[set])
                    {
                        return i + 1;
                    }

                    met[set] = true;
                }
            }

            return from;
        }

        public int[] Hypotheses { get; }

        public double[] Odds { get; }

        public NetSign[] Signs { get; }

        public NetLink[][] Links { get; }

        public double Weight(int[] members)
        {
            var q = new double[Signs.Length];
            Products(members, q);
            return members.Aggregate(1.0, (w, h) => w * Odds[h]) * Signs.Select((s, f) => s.Likelihood(q[f])).Aggregate(1.0, (w, l) => w * l);
        }

        /// <summary>Per sign the product of (1 − w) over the members.</summary>
        public void Products(int[] members, double[] q)
        {
            Array.Fill(q, 1);
            foreach (var h in members)
            {
                foreach (var link in Links[h])
                {
                    q[link.Sign] *= 1 - link.Weight;
                }
            }
        }

        /// <summary>
        /// Per sign, by what the likelihood grows for each unit of weight that one more hypothesis brings: l(q·(1 − w)) is
        /// l(q)·(1 + w·rate), since l is linear in q.
        /// </summary>
        public void Rates(double[] q, double[] rates)
        {
            for (var f = 0; f < rates.Length; f++)
            {
                var now = Math.Max(Signs[f].Likelihood(q[f]), double.Epsilon * 1e10);
                rates[f] = (Signs[f].IfPresent - Signs[f].IfAbsent) * (1 - Signs[f].Leak) * q[f] / now;
            }
        }

        /// <summary>Factor by which one more hypothesis changes the likelihood now.</summary>
        public double Gain(int h, double[] rates)
        {
            var gain = 1.0;
            foreach (var link in Links[h])
            {
                gain *= 1 + (link.Weight * rates[link.Sign]);
            }

            return gain;
        }
    }
}
