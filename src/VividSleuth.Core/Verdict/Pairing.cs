namespace VividSleuth.Core.Verdict;

/// <summary>
/// Puts things together so that the worst of them is as good as can be: exact, by trying thresholds. Source: the bottleneck assignment problem (any text
/// on matching); for two halves each, a search with the matchings of either half as its bound.
/// </summary>
public static class Pairing
{
    /// <summary>Choices that a search for halves may look at before it says that it did not end.</summary>
    private const int MostNodes = 400_000;

    /// <param name="Of">Of each row the column that it takes.</param>
    /// <param name="Worst">Goodness of the worst.</param>
    public sealed record Match(IReadOnlyList<int> Of, double Worst);

    /// <param name="First">Of each row the first half.</param>
    /// <param name="Second">Of each row the second half.</param>
    /// <param name="Exact">False where the search was broken off: there may be a better one.</param>
    public sealed record Halves(IReadOnlyList<int> First, IReadOnlyList<int> Second, double Worst, bool Exact);

    /// <summary>One column for each row, none twice, so that the least goodness is greatest; among those that tie, by trying exchanges, the sum.</summary>
    /// <param name="goodness">Rows by columns; −∞ where two cannot go together. At least as many columns as rows.</param>
    /// <returns>Null where some row gets none.</returns>
    public static Match? Best(double[][] goodness)
    {
        var values = goodness.SelectMany(r => r).Where(v => !double.IsNegativeInfinity(v)).Distinct().Order().ToArray();
        int[]? found = null;
        int low = 0,
            high = values.Length - 1;
        while (low <= high)
        {
            var middle = (low + high) / 2;
            if (Matching(goodness.Length, Columns(goodness), (r, c) => goodness[r][c] >= values[middle]) is { } match)
            {
                (found, low) = (match, middle + 1);
            }
            else
            {
                high = middle - 1;
            }
        }

        if (found is null)
        {
            return null;
        }

        var worst = found.Select((c, r) => goodness[r][c]).DefaultIfEmpty(double.PositiveInfinity).Min();
        Exchange(found, goodness, worst);
        return new Match(found, worst);
    }

    /// <summary>Two halves for each row, one of either kind and none twice, so that the least goodness is greatest.</summary>
    /// <param name="goodness">Of a row with a first and a second half.</param>
    /// <returns>Null where there are too few halves.</returns>
    public static Halves? BestHalves(int rows, int firsts, int seconds, Func<int, int, int, double> goodness)
    {
        if (rows == 0 || firsts < rows || seconds < rows)
        {
            return null;
        }

        var table = new double[rows][];
        for (var r = 0; r < rows; r++)
        {
            table[r] = new double[firsts * seconds];
            for (var i = 0; i < table[r].Length; i++)
            {
                table[r][i] = goodness(r, i / seconds, i % seconds);
            }
        }

        // No threshold above what the poorest row has at best can be met.
        var most = table.Min(t => t.Max());
        var values = table.SelectMany(t => t).Where(v => v <= most && !double.IsNegativeInfinity(v)).Distinct().Order().ToArray();
        if (values.Length == 0)
        {
            return null;
        }

        (int[] First, int[] Second)? found = null;
        var exact = true;
        int low = 0,
            high = values.Length - 1;
        while (low <= high)
        {
            var middle = (low + high) / 2;
            var search = new HalfSearch(table, firsts, seconds, values[middle]);
            var ended = search.Run(out var first, out var second);
            if (first is not null)
            {
                (found, low) = ((first, second!), middle + 1);
            }
            else
            {
                exact &= ended;
                high = middle - 1;
            }
        }

        return found is not { } f
            ? null
            : new Halves(f.First, f.Second, Enumerable.Range(0, rows).Min(r => table[r][(f.First[r] * seconds) + f.Second[r]]), exact);
    }

    /// <summary>
    /// Which of two sets go together so that the sums differ least: the heaviest with the lightest. That makes the greatest sum least and the least
    /// sum greatest at once (exchange two pairs that are not so, and neither gets worse).
    /// </summary>
    /// <returns>Of each of the first set the one of the second; as many of each.</returns>
    public static int[] LeastSpread(IReadOnlyList<double> first, IReadOnlyList<double> second)
    {
        var up = Enumerable.Range(0, first.Count).OrderBy(i => first[i]).ThenBy(i => i).ToArray();
        var down = Enumerable.Range(0, second.Count).OrderByDescending(i => second[i]).ThenBy(i => i).ToArray();
        var of = new int[first.Count];
        for (var n = 0; n < up.Length; n++)
        {
            of[up[n]] = down[n];
        }

        return of;
    }

    private static int Columns(double[][] goodness) => goodness.Length == 0 ? 0 : goodness[0].Length;

    /// <summary>A column for each row along augmenting paths; null where some row gets none. Source: Kuhn's algorithm.</summary>
    private static int[]? Matching(int rows, int columns, Func<int, int, bool> may)
    {
        var rowOf = new int[columns];
        Array.Fill(rowOf, -1);
        for (var r = 0; r < rows; r++)
        {
            if (!Augment(r, new bool[columns]))
            {
                return null;
            }
        }

        var of = new int[rows];
        for (var c = 0; c < columns; c++)
        {
            if (rowOf[c] >= 0)
            {
                of[rowOf[c]] = c;
            }
        }

        return of;

        bool Augment(int row, bool[] seen)
        {
            for (var c = 0; c < columns; c++)
            {
                if (!seen[c] && may(row, c))
                {
                    seen[c] = true;
                    if (rowOf[c] < 0 || Augment(rowOf[c], seen))
                    {
                        rowOf[c] = row;
                        return true;
                    }
                }
            }

            return false;
        }
    }

    private static void Exchange(int[] of, double[][] goodness, double worst)
    {
        for (var better = true; better; )
        {
            better = false;
            for (var a = 0; a < of.Length; a++)
            {
                for (var b = a + 1; b < of.Length; b++)
                {
                    var (x, y) = (goodness[a][of[b]], goodness[b][of[a]]);
                    if (x >= worst && y >= worst && x + y > goodness[a][of[a]] + goodness[b][of[b]] + 1e-12)
                    {
                        (of[a], of[b]) = (of[b], of[a]);
                        better = true;
                    }
                }
            }
        }
    }

    /// <summary>Looks for halves that are all at least as good as a threshold.</summary>
    private sealed class HalfSearch
    {
        private readonly int _rows;
        private readonly int _firsts;
        private readonly int _seconds;
        private readonly int[][] _pairs;
        private readonly bool[] _usedFirst;
        private readonly bool[] _usedSecond;
        private readonly int[] _first;
        private readonly int[] _second;
        private int _nodes;

        public HalfSearch(double[][] table, int firsts, int seconds, double threshold)
        {
            (_rows, _firsts, _seconds) = (table.Length, firsts, seconds);
            _pairs = [.. table.Select(t => Enumerable.Range(0, t.Length).Where(i => t[i] >= threshold).ToArray())];
            (_usedFirst, _usedSecond) = (new bool[firsts], new bool[seconds]);
            (_first, _second) = (new int[_rows], new int[_rows]);
            Array.Fill(_first, -1);
        }

        /// <returns>False where it was broken off.</returns>
        public bool Run(out int[]? first, out int[]? second)
        {
            var done = Place(0);
            (first, second) = done ? (_first, _second) : (null, null);
            return done || _nodes < MostNodes;
        }

        private bool Place(int placed)
        {
            if (placed == _rows)
            {
                return true;
            }

            // Each half by itself must still be able to serve every row that is left.
            if (_nodes >= MostNodes || !Possible())
            {
                return false;
            }

            var row = -1;
            int[] choices = [];
            for (var r = 0; r < _rows; r++)
            {
                if (_first[r] < 0)
                {
                    var open = Array.FindAll(_pairs[r], Free);
                    if (row < 0 || open.Length < choices.Length)
                    {
                        (row, choices) = (r, open);
                    }
                }
            }

            foreach (var pair in choices)
            {
                _nodes++;
                var (f, s) = (pair / _seconds, pair % _seconds);
                (_first[row], _second[row]) = (f, s);
                _usedFirst[f] = _usedSecond[s] = true;
                if (Place(placed + 1))
                {
                    return true;
                }

                _usedFirst[f] = _usedSecond[s] = false;
                _first[row] = -1;
                if (_nodes >= MostNodes)
                {
                    return false;
                }
            }

            return false;
        }

        private bool Free(int pair) => !_usedFirst[pair / _seconds] && !_usedSecond[pair % _seconds];

        private bool Possible()
        {
            var left = Enumerable.Range(0, _rows).Where(r => _first[r] < 0).ToArray();
            var byFirst = new bool[left.Length][];
            var bySecond = new bool[left.Length][];
            for (var n = 0; n < left.Length; n++)
            {
                (byFirst[n], bySecond[n]) = (new bool[_firsts], new bool[_seconds]);
                foreach (var pair in _pairs[left[n]])
                {
                    if (Free(pair))
                    {
                        byFirst[n][pair / _seconds] = bySecond[n][pair % _seconds] = true;
                    }
                }
            }

            return Matching(left.Length, _firsts, (r, c) => byFirst[r][c]) is not null
                && Matching(left.Length, _seconds, (r, c) => bySecond[r][c]) is not null;
        }
    }
}
