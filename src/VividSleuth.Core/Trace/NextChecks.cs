using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>What to look at next.</summary>
/// <param name="probability">Probability told of a cause placed.</param>
internal sealed class NextChecks(TraceState state, OnTheBench bench, Func<int, double> probability)
{
    private const int Checks = 6;

    // Places whose way is worked out: getting there is looked up only for what tells most.
    private const int Candidates = 60;

    // Components by the weight that something found gives them; of an engine with nothing found the likeliest by their base rates.
    private const int MostComponents = 12;

    // A check that is lost soon goes first if it is worth a tenth of the best one.
    private const double WorthFirst = 0.1;

    // A check moves the leading cause where either outcome changes its probability by this much.
    private const double Moves = 0.03;

    // What one place showed, its sisters mostly show too: each further one is worth this much of the one before.
    private const double Sister = 0.5;

    // Scenarios beyond this share of the weight do not move what to look at.
    private const double Covered = 0.995;

    /// <summary>The level at which a check's outcome is told.</summary>
    private const int Found = 2;

    private readonly TraceModel _model = state.Model;

    // By key of sign and place: whether nobody recorded it, and the probability that it is not there.
    private readonly bool?[] _open = new bool?[state.Model.Keys];
    private readonly double[] _none = new double[state.Model.Keys];

    /// <summary>
    /// Expected information about the scenarios per minute of looking and of getting there, for every sign that some scenario predicts and nobody has
    /// recorded. What the strip's next step destroys goes first; of equals, what washing or dismantling would destroy. What is destroyed already is
    /// not asked for.
    /// </summary>
    /// <param name="ranked">Causes placed, the likeliest first.</param>
    public IReadOnlyList<NextCheck> Of(int[] ranked)
    {
        var posterior = state.Posterior;
        var components = Enumerable
            .Range(0, posterior.Components.Count)
            .OrderByDescending(c => posterior.Components[c].Touched)
            .ThenByDescending(c => 1 - (posterior.Components[c].Scenarios.First(s => s.Hypotheses.Count == 0).Weight / posterior.Components[c].Total))
            .Take(MostComponents)
            .Where(
                (c, i) => i == 0 || posterior.Components[c].Touched == posterior.Components[0].Touched || !posterior.Components.Any(x => x.Touched)
            )
            .ToArray();
        Leaks(posterior);
        var open = new Dictionary<int, List<(Shown By, double Bits)>>();
        foreach (var shown in components.SelectMany(ShownBy))
        {
            if (!open.TryGetValue(shown.Of.Key, out var told))
            {
                open[shown.Of.Key] = told = [];
            }

            told.Add((shown, Information(shown, 1 - Others(shown))));
        }

        var lost = LostNext();
        var found = open
            .Values.Select(o =>
                (o[0].By.Of.Sign, o[0].By.Of.Place, Known: _model.Knowledge.Sign(o[0].By.Of.Sign)!, Bits: o.Sum(x => x.Bits), Value: o)
            )
            .Where(o => _model.Table.Find(o.Place) is { } place && o.Known.Fits(_model.Table) && !bench.Destroyed(o.Known, place))
            .OrderByDescending(o => o.Bits / o.Known.Minutes)
            .ThenBy(o => o.Place, StringComparer.Ordinal)
            .ThenBy(o => o.Sign, StringComparer.Ordinal)
            .Take(Candidates)
            .Select(o => (o.Sign, o.Place, o.Known, o.Bits, o.Value, Access: o.Known.Running ? 0 : bench.MinutesTo(_model.Table.Find(o.Place)!)))
            .ToList();
        var chosen = new List<NextCheck>();
        var most = found.Count > 0 ? found.Max(o => o.Bits / (o.Known.Minutes + o.Access)) : 0;
        while (chosen.Count < Checks && found.Count > 0)
        {
            double Rate((string Sign, string Place, KnownSign Known, double Bits, List<(Shown By, double Bits)> Value, double Access) o) =>
                Math.Max(0, o.Bits / (o.Known.Minutes + o.Access)) * Math.Pow(Sister, chosen.Count(x => x.Sign == o.Sign));
            var next = found
                .OrderByDescending(o => lost.Contains((o.Sign, o.Place)) && Rate(o) > WorthFirst * most)
                .ThenByDescending(o => Math.Round(Rate(o), 6))
                .ThenByDescending(o => o.Known.DestroyedBy.Count)
                .ThenBy(o => o.Place, StringComparer.Ordinal)
                .ThenBy(o => o.Sign, StringComparer.Ordinal)
                .First();
            found.Remove(next);
            var (about, present, absent) = Moved(ranked, next.Value.MaxBy(x => x.Bits).By);
            var hypothesis = _model.Hypotheses[about];
            chosen.Add(
                new NextCheck(
                    next.Sign,
                    next.Known.Name,
                    next.Place,
                    next.Known.How,
                    next.Known.With,
                    next.Known.Minutes,
                    next.Access,
                    Rate(next),
                    hypothesis.Cause.Name,
                    hypothesis.Seat,
                    probability(about),
                    present,
                    absent,
                    next.Known.Measured,
                    next.Known.DestroyedBy,
                    lost.Contains((next.Sign, next.Place)) ? bench.Next!.Name : ""
                )
            );
        }

        return chosen;
    }

    /// <summary>A sign that nobody recorded, with what the scenarios of a component make of it.</summary>
    /// <param name="Alone">Probability that the component's causes do not bring it about, as things stand.</param>
    /// <param name="By">Scenarios that predict it, each with the products over what holds of the probabilities that it is not there, not worse than
    /// slight, and not worse than <see cref="Found"/>.</param>
    private sealed record Shown(
        Predicted Of,
        int Component,
        double Alone,
        IReadOnlyList<(int Scenario, double None, double Slight, double Marked)> By
    );

    private IEnumerable<Shown> ShownBy(int index)
    {
        var component = state.Posterior.Components[index];
        var total = component.Scenarios.Sum(s => s.Weight);
        var open = new List<(int Scenario, double None, double Slight, double Marked)>?[_model.Keys];
        var of = new List<Predicted>();
        var predicted = component.Hypotheses.ToDictionary(
            w => w,
            w => _model.Ways[w].Way.Leaves.Where(IsOpen).Select(l => (Left: l, Of: Products(l.Strength, l.Of.How.Shares()))).ToArray()
        );
        // The first scenarios, by weight, that have nearly all of it between them.
        var covered = 0.0;
        for (var i = 0; i < component.Scenarios.Count && covered < Covered * total; i++)
        {
            covered += component.Scenarios[i].Weight;
            foreach (var (left, (none, slight, marked)) in component.Scenarios[i].Hypotheses.SelectMany(w => predicted[w]))
            {
                if (open[left.Of.Key] is not { } by)
                {
                    open[left.Of.Key] = by = [];
                    of.Add(left.Of);
                }

                if (by.Count > 0 && by[^1].Scenario == i)
                {
                    var last = by[^1];
                    by[^1] = (i, last.None * none, last.Slight * slight, last.Marked * marked);
                }
                else
                {
                    by.Add((i, none, slight, marked));
                }
            }
        }

        return of.Select(o =>
        {
            var by = open[o.Key]!;
            var share = by.Sum(b => component.Scenarios[b.Scenario].Weight / total);
            var none = 1 - share + by.Sum(b => component.Scenarios[b.Scenario].Weight / total * b.None);
            return new Shown(o, index, Math.Max(none, 1e-9), by);
        });
    }

    private static (double None, double Slight, double Marked) Products(double weight, IReadOnlyList<double> shares) =>
        (1 - weight, 1 - (weight * (shares[1] + shares[2])), 1 - (weight * shares[2]));

    // A pattern comes of itself when its parts are looked at; nobody is sent to look for it.
    private bool IsOpen(Left left)
    {
        ref var open = ref _open[left.Of.Key];
        return open ??= _model.FactOf(left.Of) < 0 && _model.Knowledge.Sign(left.Of.Sign)!.Pattern is null;
    }

    /// <summary>Probability that nothing outside its component brings a sign about.</summary>
    private double Others(Shown shown) => Math.Min(1, _none[shown.Of.Key] / shown.Alone);

    /// <summary>Mutual information of a sign and the scenarios of a component, in bits (Shannon 1948).</summary>
    /// <param name="leak">How often it appears though nothing of the component causes it.</param>
    private double Information(Shown shown, double leak)
    {
        var component = state.Posterior.Components[shown.Component];
        var total = component.Scenarios.Sum(s => s.Weight);
        double mean = 0,
            entropy = 0,
            rest = 1;
        foreach (var (i, none, _, _) in shown.By)
        {
            var share = component.Scenarios[i].Weight / total;
            var p = 1 - ((1 - leak) * none);
            mean += share * p;
            entropy += share * Measures.Information.BinaryEntropy(p);
            rest -= share;
        }

        // Scenarios that do not predict it show it as often as it appears for no reason.
        mean += rest * leak;
        entropy += rest * Measures.Information.BinaryEntropy(leak);
        return Math.Max(0, Measures.Information.BinaryEntropy(mean) - entropy);
    }

    /// <summary>
    /// The cause that a check moves: the leading one if it does, else the ranked one that it moves most, with what either outcome makes of it. The
    /// scenarios kept give the Bayes factor, the probability told is what it is applied to.
    /// </summary>
    private (int About, double Present, double Absent) Moved(int[] ranked, Shown shown)
    {
        var component = state.Posterior.Components[shown.Component];
        var total = component.Scenarios.Sum(s => s.Weight);
        var others = Others(shown);
        var shares = Severity.Slight.Shares();
        // Of what appears for no other reason it is taken that it is slight.
        var (none, slight, marked) = Products(1 - others, shares);
        var by = shown.By.ToDictionary(b => b.Scenario);
        (double Absent, double Present)[] outcome =
        [
            .. component.Scenarios.Select(
                (_, i) => by.TryGetValue(i, out var b) ? (none * b.None, (marked * b.Marked) - (slight * b.Slight)) : (none, marked - slight)
            ),
        ];
        var first = ranked[0];
        var best = (About: first, Present: probability(first), Absent: probability(first));
        var most = 0.0;
        var told = state.ToldIn(shown.Component).OrderByDescending(probability).Take(ranked.Length);
        foreach (var h in told.OrderByDescending(h => h == first))
        {
            var holds = state.Holds(h, shown.Component);
            double with = 0,
                present = 0,
                presentRest = 0,
                absent = 0,
                absentRest = 0;
            for (var i = 0; i < holds.Length; i++)
            {
                var share = component.Scenarios[i].Weight / total;
                if (holds[i])
                {
                    with += share;
                    present += share * outcome[i].Present;
                    absent += share * outcome[i].Absent;
                }
                else
                {
                    presentRest += share * outcome[i].Present;
                    absentRest += share * outcome[i].Absent;
                }
            }

            if (with is <= 0 or >= 1)
            {
                continue;
            }

            var p = probability(h);
            double After(double given, double otherwise) => p * given / with / ((p * given / with) + ((1 - p) * otherwise / (1 - with)));
            var (ifPresent, ifAbsent) = (After(present, presentRest), After(absent, absentRest));
            var moves = Math.Max(Math.Abs(ifPresent - p), Math.Abs(ifAbsent - p));
            if (h == first && moves >= Moves)
            {
                return (h, ifPresent, ifAbsent);
            }

            if (moves > most)
            {
                (most, best) = (moves, (h, ifPresent, ifAbsent));
            }
        }

        return best;
    }

    /// <summary>Works out for each sign which nobody recorded the probability that it is not there, as things stand.</summary>
    private void Leaks(Posterior posterior)
    {
        for (var w = 0; w < _model.Ways.Count; w++)
        {
            foreach (var left in _model.Ways[w].Way.Leaves.Where(IsOpen))
            {
                ref var none = ref _none[left.Of.Key];
                none = none == 0 ? 1 - _model.Leak(left.Of.Sign, state.Unknown) : none;
                none *= 1 - (posterior.Probability[w] * left.Strength);
            }
        }
    }

    /// <summary>Signs and places that the next step of the strip destroys unread.</summary>
    private HashSet<(string Sign, string Place)> LostNext() =>
        [
            .. (bench.Next?.Unread ?? []).SelectMany(u =>
                _model
                    .Knowledge.SignsOn(_model.Table.Find(u.Place)!.Kind.Id)
                    .Where(s => u.Signs.Count == 0 || u.Signs.Contains(s.Name))
                    .Select(s => (s.Id, u.Place))
            ),
        ];
}
