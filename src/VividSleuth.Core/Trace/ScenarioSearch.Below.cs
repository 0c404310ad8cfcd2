using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <content>What lies below a scenario: the larger ones, by bounds and in closed form.</content>
public static partial class ScenarioSearch
{
    /// <summary>
    /// Bound on the sum over all ways to add one or more hypotheses from a place in the order on, kept for every suffix. With a gain bounded for
    /// each by itself it would be ∏(1 + bound) − 1, which credits every one of many causes with explaining the same sign in full. So the few
    /// signs through which most of the bound goes are summed exactly by inclusion and exclusion, as in Quickscore: a sign whose likelihood
    /// grows by 1 + rate·(1 − ∏(1 − w)) gives (1 + rate)·∏(1 + a) − rate·∏(1 + a·(1 − w)), with a the bound of a hypothesis over the others.
    /// </summary>
    private sealed class Below(Part part, int[] order)
    {
        private const int MostExact = 3;
        private const int Masks = 1 << MostExact;

        // For each rank, 1 in the ways that take its sign in.
        private static readonly Vector512<double>[] Taken =
        [
            Vector512.Create(0.0, 1, 0, 1, 0, 1, 0, 1),
            Vector512.Create(0.0, 0, 1, 1, 0, 0, 1, 1),
            Vector512.Create(0.0, 0, 0, 0, 1, 1, 1, 1),
        ];

        // A scenario of this share is looked at one by one, and a tail may be unsure by this much, both of all that was found.
        private const double StandsOut = 1e-3;
        private const double Unsure = 1e-5;

        // Rounding of the sum, relative to its largest term, so that the bound stays one.
        private const double Rounding = 1e-13;

        // Of the first scenarios, which explain nothing yet, the bound may leave the range of numbers.
        private const double Unbounded = 1e300;

        private readonly double[] _products = new double[(order.Length + 1) * Masks];
        private readonly double[] _bounds = new double[order.Length];
        private readonly double[] _through = new double[part.Signs.Length];
        private readonly int[] _rankOf = new int[part.Signs.Length];
        private readonly double[] _terms = new double[Masks];
        private readonly double[] _slack = new double[order.Length + 1];
        private readonly double[] _less = new double[part.Signs.Length];
        private readonly double[] _none = new double[part.Signs.Length];
        private readonly double[] _shared = new double[part.Signs.Length];
        private readonly double[] _lift = new double[part.Signs.Length];

        // For each link of each hypothesis in the order, by what it changes the likelihood now; the links of i begin at _first[i].
        private readonly int[] _first = Firsts(part, order);
        private readonly double[] _ratios = new double[order.Sum(h => part.Links[h].Length)];
        private double _odds;
        private double _mean;

        /// <param name="exact">Filled with the factor by which each hypothesis alone changes the weight now.</param>
        // Few calls with long loops: compiled well at the first, so that the first answer is not the slowest.
        [MethodImpl(MethodImplOptions.AggressiveOptimization)]
        public void Reckon(int from, double[] rates, double[] exact)
        {
            Array.Clear(_through);
            for (var i = from; i < order.Length; i++)
            {
                var links = part.Links[order[i]];
                var ratios = _ratios.AsSpan(_first[i], links.Length);
                var (now, bound) = (part.Odds[order[i]], part.Odds[order[i]]);
                for (var l = 0; l < links.Length; l++)
                {
                    var ratio = ratios[l] = 1 + (links[l].Weight * rates[links[l].Sign]);
                    now *= ratio;
                    bound *= Math.Max(1, ratio);
                }

                exact[i] = now;
                _bounds[i] = bound;
                for (var l = 0; l < links.Length; l++)
                {
                    _through[links[l].Sign] += ratios[l] > 1 ? bound * (1 - (1 / ratios[l])) : 0;
                }
            }

            // What the bounds of single hypotheses are above what those do: of scenarios with one more it is known exactly.
            for (var i = order.Length - 1; i >= from; i--)
            {
                _slack[i] = _slack[i + 1] + (_bounds[i] - exact[i]);
            }

            Choose(rates);
            var products = Vector512<double>.One;
            for (var i = order.Length - 1; i >= from; i--)
            {
                var kept = Vector512<double>.One;
                var bound = _bounds[i];
                var links = part.Links[order[i]];
                for (var l = 0; l < links.Length; l++)
                {
                    if (_rankOf[links[l].Sign] is >= 0 and var rank)
                    {
                        bound /= _ratios[_first[i] + l];
                        kept *= Vector512<double>.One - (links[l].Weight * Taken[rank]);
                    }
                }

                products *= Vector512<double>.One + (bound * kept);
                products.CopyTo(_products, i * Masks);
            }
        }

        private static int[] Firsts(Part part, int[] order)
        {
            var firsts = new int[order.Length];
            for (var i = 1; i < order.Length; i++)
            {
                firsts[i] = firsts[i - 1] + part.Links[order[i - 1]].Length;
            }

            return firsts;
        }

        [MethodImpl(MethodImplOptions.AggressiveOptimization)]
        public double Of(int from)
        {
            var terms = Vector512.Create(_terms) * Vector512.Create(_products, from * Masks);
            var sum = Vector512.Sum(terms) - 1;
            var size = Vector512.Sum(Vector512.Abs(terms)) + 1;
            return from == order.Length ? 0
                : double.IsFinite(size) ? Math.Min(Unbounded, Math.Max(0, sum - _slack[from]) + (Rounding * size))
                : Unbounded;
        }

        /// <summary>Where the tail begins that may be closed: nothing in it stands out, and its sum is known well enough by its two bounds.</summary>
        /// <param name="share">Weight of the scenario as a share of all that was found.</param>
        public int Tail(int from, double share, double[] rates, double[] exact)
        {
            Begin(rates);
            var tail = order.Length;
            for (var i = order.Length - 1; i >= from && share * exact[i] < StandsOut; i--)
            {
                Take(i, rates, exact[i]);
                if (!(share * Gap(i) <= Unsure))
                {
                    break;
                }

                tail = i;
            }

            return tail;
        }

        /// <summary>Adds the tail's lower bounds to the tally, and returns by how much its sum may be more.</summary>
        [MethodImpl(MethodImplOptions.AggressiveOptimization)]
        public double Close(int tail, double weight, double[] rates, double[] exact, Tally tally, int[] members)
        {
            Begin(rates);
            for (var i = order.Length - 1; i >= tail; i--)
            {
                Take(i, rates, exact[i]);
            }

            tally.Close(members, weight * Least);
            for (var i = tail; i < order.Length; i++)
            {
                var holds = exact[i] / (1 + exact[i]);
                var factor = 1.0;
                var links = part.Links[order[i]];
                for (var l = 0; l < links.Length; l++)
                {
                    var sign = links[l].Sign;
                    if (rates[sign] is > 0 and var rate)
                    {
                        var once = Brings(links[l].Weight, rate, _ratios[_first[i] + l]);
                        var less = _less[sign] / (1 - (holds * once * _lift[sign])) * (1 - (once * _lift[sign]));
                        var none = _none[sign] / (1 - (holds * once)) * (1 - once);
                        factor *= Shared(rate, less, none) / _shared[sign];
                    }
                }

                tally.Close(order[i], weight * holds * _odds * _mean * factor);
            }

            return weight * Gap(tail);
        }

        /// <summary>
        /// Lower bound of the tail's sum. Each hypothesis is given the odds a that it has alone, ∏(1 + a); several that bring about the same sign
        /// do less together than that, by a factor c for each sign that falls with what holds. Such factors are positively correlated (Harris
        /// 1960; Fortuin, Kasteleyn and Ginibre 1971), so the mean of their product is at least the product of their means. Where a sign speaks
        /// against, together they do no less than each alone: 1 + rate·(1 − ∏(1 − w)) is at least ∏(1 + rate·w) for a negative rate.
        /// </summary>
        private double Least => (_odds * _mean) - 1;

        /// <summary>How much more than its lower bound the tail's sum may be; no number where it left their range.</summary>
        private double Gap(int tail) => Math.Max(0, Of(tail) - Least) + (Rounding * _odds);

        private void Begin(double[] rates)
        {
            Array.Fill(_none, 1);
            Array.Fill(_less, 1);
            for (var f = 0; f < rates.Length; f++)
            {
                _lift[f] = rates[f] / (1 + rates[f]);
                _shared[f] = Shared(rates[f], 1, 1);
            }

            (_odds, _mean) = (1, 1);
        }

        /// <summary>Takes one more hypothesis into the running products of the tail.</summary>
        [MethodImpl(MethodImplOptions.AggressiveOptimization)]
        private void Take(int i, double[] rates, double odds)
        {
            _odds *= 1 + odds;
            var holds = odds / (1 + odds);
            var links = part.Links[order[i]];
            for (var l = 0; l < links.Length; l++)
            {
                var sign = links[l].Sign;
                if (rates[sign] is > 0 and var rate)
                {
                    var brings = holds * Brings(links[l].Weight, rate, _ratios[_first[i] + l]);
                    _less[sign] *= 1 - (brings * _lift[sign]);
                    _none[sign] *= 1 - brings;
                    var shared = Shared(rate, _less[sign], _none[sign]);
                    _mean *= shared / _shared[sign];
                    _shared[sign] = shared;
                }
            }
        }

        /// <summary>Probability that a hypothesis which holds, weighed by what it alone does for the sign, is one that brings it about.</summary>
        /// <param name="ratio">1 + rate·weight, what it alone does.</param>
        private static double Brings(double weight, double rate, double ratio) => (1 + rate) * weight / ratio;

        /// <summary>
        /// Mean of c, the factor by which causes of one sign do less together than each alone: with N of them bringing it about, c is the mean
        /// of (1 + rate) to the −(N − 1), or 1 where N is 0; so E c = (1 + rate)·E (1 + rate)^−N − rate·P(N = 0).
        /// </summary>
        /// <param name="less">E (1 + rate)^−N, a product over the hypotheses.</param>
        /// <param name="none">P(N = 0), likewise.</param>
        private static double Shared(double rate, double less, double none) => ((1 + rate) * less) - (rate * none);

        /// <summary>The signs through which most goes, and what each way to take them in weighs.</summary>
        private void Choose(double[] rates)
        {
            Array.Fill(_rankOf, -1);
            // Ways that are not there weigh nothing.
            Array.Clear(_terms);
            _terms[0] = 1;
            var masks = 1;
            for (var rank = 0; rank < MostExact; rank++)
            {
                var most = -1;
                for (var f = 0; f < _through.Length; f++)
                {
                    most = _rankOf[f] < 0 && _through[f] > (most < 0 ? 0 : _through[most]) ? f : most;
                }

                if (most < 0)
                {
                    break;
                }

                _rankOf[most] = rank;
                for (var mask = 0; mask < masks; mask++)
                {
                    _terms[mask + masks] = -rates[most] * _terms[mask];
                    _terms[mask] *= 1 + rates[most];
                }

                masks *= 2;
            }

            Array.Fill(_products, 1, order.Length * Masks, Masks);
        }
    }
}
