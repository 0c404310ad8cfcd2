using MathNet.Numerics.Distributions;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>
/// What fits what: the clearance of every journal with every set, from the sizes of journal, housing and shells together; the least that must be bought
/// or done; halves, pistons and weights matched.
/// </summary>
public sealed class Fitter
{
    /// <summary>Probability that all journals are inside from which a way is told as one. Ours, no source.</summary>
    internal const double GoodEnough = 0.8;

    /// <summary>Assemblies that are looked at: what no shop has is not waited for.</summary>
    private const int MostRows = 400;

    private sealed record Bearing(
        string Id,
        Fact Name,
        string Clearance,
        string At,
        string Journal,
        string Diameter,
        string Housing,
        string Upper,
        string Lower,
        string HousingSet,
        string ShellSet
    );

    private static readonly Bearing[] Bearings =
    [
        new(
            "big-end",
            Fact.Of("verdict.fit.big-ends"),
            Characteristics.BigEndClearance,
            PartKinds.Rod,
            PartKinds.Crankpin,
            Characteristics.PinDiameter,
            PartKinds.Rod,
            PartKinds.RodShellUpper,
            PartKinds.RodShellLower,
            "rod-set",
            "rod-shells"
        ),
        new(
            "main",
            Fact.Of("verdict.fit.mains"),
            Characteristics.MainClearance,
            "main-cap",
            PartKinds.MainJournal,
            Characteristics.MainDiameter,
            "main-cap",
            "main-shell-upper",
            "main-shell-lower",
            "block",
            "main-shells"
        ),
    ];

    private readonly AddressTable _table;
    private readonly Combined _sizes;
    private readonly Candidate[] _candidates;
    private readonly Func<string, IReadOnlyList<MachiningPlan>> _plansOf;
    private readonly Func<string, IReadOnlyList<VerdictAdvice>> _adviceOf;
    private readonly PriceBook _prices;

    private Fitter(
        Combined sizes,
        AddressTable table,
        IReadOnlyList<Candidate> candidates,
        Func<string, IReadOnlyList<MachiningPlan>> plansOf,
        Func<string, IReadOnlyList<VerdictAdvice>> adviceOf,
        PriceBook prices
    )
    {
        (_sizes, _table, _plansOf, _adviceOf, _prices) = (sizes, table, plansOf, adviceOf, prices);
        _candidates = [.. candidates.Where(c => c.Stands()).OrderBy(c => c.Letter, StringComparer.Ordinal)];
    }

    /// <param name="table">The engine as it came.</param>
    /// <param name="plansOf">Machining plans with a candidate in the engine, by its letter.</param>
    /// <param name="adviceOf">What becomes of each part with a candidate in the engine: a shaft that must be ground fits nothing as it is.</param>
    /// <param name="rings">As <see cref="RingAdviser"/> has them.</param>
    public static FitBoard Fit(
        Combined sizes,
        AddressTable table,
        IReadOnlyList<Candidate> candidates,
        IReadOnlyList<Part> parts,
        Func<string, IReadOnlyList<MachiningPlan>> plansOf,
        Func<string, IReadOnlyList<VerdictAdvice>> adviceOf,
        (IReadOnlyList<RingAdvice> Of, IReadOnlyList<Fact> Notes) rings,
        PriceBook prices
    )
    {
        var fitter = new Fitter(sizes, table, candidates, plansOf, adviceOf, prices);
        return new FitBoard(
            [.. Bearings.Select(fitter.Of).OfType<BearingFit>()],
            fitter.Pistons(),
            fitter.Weights(),
            StampQuestions.Asked(parts, table, sizes),
            rings.Of,
            rings.Notes
        );
    }

    private string[] Letters(params string[] what) => ["", .. _candidates.Where(c => what.Contains(c.What)).Select(c => c.Letter)];

    private static string Code(Address own, string letter) => letter.Length == 0 ? own.Code : $"{own.Code}.{letter}";

    // —— bearings ——

    private BearingFit? Of(Bearing b)
    {
        var places = _table.Own.Where(a => a.Kind.Id == b.At).ToArray();
        if (places.Length == 0 || _table.Own.All(a => a.Kind.Id != b.Upper))
        {
            return null;
        }

        var (shafts, housings, sets) = (Letters("crankshaft"), Letters(b.HousingSet), Letters(b.ShellSet));
        var limit = _sizes.Limits.For(b.Clearance, b.At, id => id == b.Diameter ? (double?)_sizes.Limits.Nominal(b.Diameter, b.Journal) : null);
        var rows = new List<FitRow>();
        foreach (var (shaft, housing, shells) in shafts.SelectMany(s => housings.SelectMany(h => sets.Select(l => (s, h, l)))).Take(MostRows))
        {
            var row = Row(b, places, shaft, housing, shells, limit, null);
            if (row.Cells.Any(c => c.Clearance is not null))
            {
                rows.Add(row);
            }
        }

        var halves =
            limit is { ServiceLeast: not null, ServiceMost: not null } && sets.Length > 1
                ? shafts.SelectMany(s => housings.Select(h => Halves(b, places, s, h, sets, limit))).OfType<HalvesFit>().ToArray()
                : [];
        return rows.Count == 0 && halves.Length == 0
            ? null
            : new BearingFit(
                b.Id,
                b.Name,
                limit?.ServiceLeast,
                limit?.ServiceMost,
                limit?.SourceText ?? Fact.Of("verdict.fit.no-limit"),
                limit?.IsRuleOfThumb ?? false,
                rows,
                Ways(b, places, shafts, housings, rows, halves, limit),
                halves
            );
    }

    /// <param name="instead">Sizes of what is not there yet, by characteristic and kind.</param>
    private FitRow Row(
        Bearing b,
        Address[] places,
        string shaft,
        string housing,
        string shells,
        AppliedLimit? limit,
        Func<Address, Func<string, string, Estimate?>>? instead
    )
    {
        var margins = new List<Estimate>();
        var whole = true;
        var cells = new List<FitCell>(places.Length);
        foreach (var place in places)
        {
            var sum = _sizes.Sum(b.Clearance, kind => At(b, place, kind, shaft, housing, shells), instead?.Invoke(place));
            cells.Add(Cell(Code(Kin.Of(_table, place, b.Journal) ?? place, shaft), sum, limit));
            if (sum is null || limit is null)
            {
                whole = false;
                continue;
            }

            margins.AddRange(Margins(sum, limit));
        }

        return new FitRow(shaft, housing, shells, cells, whole && margins.Count > 0 ? AllAtOnce.Above(margins) : null);
    }

    private string? At(Bearing b, Address place, string kind, string shaft, string housing, string shells)
    {
        var own = _table.Own.Contains(place) ? Kin.Of(_table, place, kind) : null;
        return own is null
            ? null
            : Code(
                own,
                kind == b.Journal ? shaft
                    : kind == b.Upper || kind == b.Lower ? shells
                    : housing
            );
    }

    private static IEnumerable<Estimate> Margins(Estimate clearance, AppliedLimit limit)
    {
        if (limit.ServiceLeast is { } least)
        {
            yield return clearance - Estimate.Exact(least);
        }

        if (limit.ServiceMost is { } most)
        {
            yield return Estimate.Exact(most) - clearance;
        }
    }

    private static FitCell Cell(string journal, Estimate? clearance, AppliedLimit? limit)
    {
        if (clearance is null || limit is null)
        {
            return new FitCell(journal, clearance?.Value, clearance?.Expanded, null, null, null);
        }

        var measured = clearance.AsMeasured();
        var over = limit.ServiceMost is { } most ? measured.ProbabilityAbove(most) : 0;
        var under = limit.ServiceLeast is { } least ? 1 - measured.ProbabilityAbove(least) : 0;
        return new FitCell(journal, clearance.Value, clearance.Expanded, Math.Max(0, 1 - over - under), under, over);
    }

    private List<FitWay> Ways(
        Bearing b,
        Address[] places,
        string[] shafts,
        string[] housings,
        List<FitRow> rows,
        HalvesFit[] halves,
        AppliedLimit? limit
    )
    {
        var ways = new List<FitWay>();
        if (limit is null)
        {
            return ways;
        }

        var standing = shafts.ToDictionary(s => s, s => Standing(b, s), StringComparer.Ordinal);
        foreach (var row in rows.Where(r => r.All >= GoodEnough && standing[r.Shaft] == ShaftState.AsItIs))
        {
            ways.Add(
                new FitWay(
                    FitBy.AsItIs,
                    row.Shaft,
                    row.Housing,
                    row.Shells,
                    "",
                    row.All!.Value,
                    Fact.Of(
                        "verdict.fit.fits-now",
                        ("shaft", Shaft(row.Shaft)),
                        ("shells", Shells(row.Shells)),
                        ("chance", new Number(Whole(row.All.Value)))
                    )
                )
            );
        }

        foreach (
            var chosen in halves.Where(h =>
                h.All >= GoodEnough && standing[h.Shaft] == ShaftState.AsItIs && ways.TrueForAll(w => w.Shaft != h.Shaft || w.Housing != h.Housing)
            )
        )
        {
            ways.Add(
                new FitWay(
                    FitBy.Chosen,
                    chosen.Shaft,
                    chosen.Housing,
                    "",
                    "",
                    chosen.All,
                    Fact.Of("verdict.fit.chosen", ("shaft", Shaft(chosen.Shaft)), ("chance", new Number(Whole(chosen.All))))
                )
            );
        }

        if (_sizes.Limits.Nominal(Characteristics.ShellWall, b.Upper) is not { } wall)
        {
            return Ordered(ways);
        }

        var steps = _sizes.Sizes.Of(b.Journal);
        foreach (var (shaft, housing) in shafts.Where(s => standing[s] != ShaftState.Gone).SelectMany(s => housings.Select(h => (s, h))))
        {
            // A set that is bought is of the wall that its grade has, give or take what making leaves.
            var bought = steps
                .ToBeHad.Prepend(Grade.Standard)
                .Where(g => !g.ByMaker)
                .Select(g => (Grade: g, Row: Row(b, places, shaft, housing, "", limit, _ => Made(wall, g, null))))
                .Where(x => x.Row.All is not null)
                .OrderByDescending(x => x.Row.All)
                .FirstOrDefault();
            if (standing[shaft] == ShaftState.AsItIs && bought.Row is { All: >= GoodEnough } row)
            {
                ways.Add(
                    new FitWay(
                        FitBy.OneSet,
                        shaft,
                        housing,
                        "",
                        bought.Grade.Name,
                        row.All.Value,
                        Fact.Of(
                            "verdict.fit.buy-one-set",
                            ("shaft", Shaft(shaft)),
                            ("grade", bought.Grade.Name),
                            ("chance", new Number(Whole(row.All.Value)))
                        ),
                        Costs(_prices.Of(b.ShellSet, "renew", bought.Grade.Name, 1))
                    )
                );
            }
            else if (
                _plansOf(shaft).FirstOrDefault(p => p.Kind == b.Journal) is { State: PlanState.Size, Size: { } size } plan
                && steps.All.FirstOrDefault(g => g.Name == plan.Step) is { } ground
            )
            {
                // A set that is at hand goes before one that must be bought.
                var offered = Letters(b.ShellSet)
                    .Skip(1)
                    .Select(set => Row(b, places, shaft, housing, set, limit, _ => Ground(size)))
                    .Where(r => r.All >= GoodEnough)
                    .OrderByDescending(r => r.All)
                    .FirstOrDefault();
                var after = offered ?? Row(b, places, shaft, housing, "", limit, _ => Made(wall, ground, size));
                if (after.All >= GoodEnough)
                {
                    ways.Add(
                        new FitWay(
                            FitBy.Grinding,
                            shaft,
                            housing,
                            offered?.Shells ?? "",
                            ground.Name,
                            after.All.Value,
                            offered is null
                                ? Fact.Of(
                                    "verdict.fit.grind",
                                    ("shaft", Shaft(shaft)),
                                    ("grade", ground.Name),
                                    ("size", Amount.Length(size)),
                                    ("chance", new Number(Whole(after.All.Value)))
                                )
                                : Fact.Of(
                                    "verdict.fit.grind-for",
                                    ("shaft", Shaft(shaft)),
                                    ("grade", ground.Name),
                                    ("size", Amount.Length(size)),
                                    ("shells", Shells(offered.Shells)),
                                    ("chance", new Number(Whole(after.All.Value)))
                                ),
                            Costs([
                                _prices.Of(b.Journal, "grind", ground.Name, _table.Own.Count(a => a.Kind.Id == b.Journal)),
                                .. offered is null ? [_prices.Of(b.ShellSet, "renew", ground.Name, 1)] : Array.Empty<Priced?>(),
                            ])
                        )
                    );
                }
            }
        }

        return Ordered(ways);

        Func<string, string, Estimate?> Made(decimal standard, Grade grade, double? journal) =>
            (id, kind) =>
                id == Characteristics.ShellWall
                    ? Estimate.Of(
                        (double)(standard + (grade.Under / 2)),
                        new Influence($"making/{kind}", Fact.Of("verdict.fit.making"), Uncertainty.Rectangular(GradeOdds.ShellMaking))
                    )
                : journal is { } to ? Ground(to)(id, kind)
                : null;

        Func<string, string, Estimate?> Ground(double to) =>
            (id, _) =>
                id == b.Diameter
                    ? Estimate.Of(to, new Influence("grinding", Fact.Of("verdict.fit.grinding"), Uncertainty.Rectangular(GradeOdds.Making)))
                    : null;
    }

    /// <summary>Null where one of what is bought has no price.</summary>
    private Fact? Costs(params IReadOnlyList<Priced?> parts) =>
        parts.Any(p => p is null)
            ? null
            : Fact.Of(
                "verdict.fit.costs",
                ("amount", new Number((double)parts.Sum(p => p!.Cost), Currencies.DigitsOf(_prices.Currency), Fixed: true)),
                ("currency", _prices.Currency),
                ("days", new Number((double)parts.Max(p => p!.Days), 1)),
                ("suppliers", parts.Select(p => p!.Supplier).Distinct(StringComparer.Ordinal).ToArray())
            );

    private enum ShaftState
    {
        AsItIs,
        Grind,
        Gone,
    }

    /// <summary>Whether the journals of a shaft may run as they are, as the advice for them has it.</summary>
    private ShaftState Standing(Bearing b, string shaft)
    {
        var journals = _table.Own.Where(a => a.Kind.Id == b.Journal).Select(a => Code(a, shaft)).ToHashSet(StringComparer.Ordinal);
        var courses = _adviceOf(shaft).Where(a => journals.Contains(a.Place)).Select(a => a.Course).ToHashSet(StringComparer.Ordinal);
        return courses.Contains("renew") || courses.Contains("specialist") ? ShaftState.Gone
            : courses.Contains("grind") ? ShaftState.Grind
            : ShaftState.AsItIs;
    }

    private static List<FitWay> Ordered(List<FitWay> ways) => [.. ways.OrderBy(w => w.By).ThenByDescending(w => w.All)];

    private static double Whole(double p) => Math.Min(99, Math.Floor(100 * p));

    private Fact Shaft(string letter) =>
        letter.Length == 0 ? Fact.Of("verdict.fit.own-shaft") : Fact.Of("verdict.fit.shaft", ("letter", letter), ("name", Name(letter)));

    private Fact Shells(string letter) =>
        letter.Length == 0 ? Fact.Of("verdict.fit.own-shells") : Fact.Of("verdict.fit.set", ("letter", letter), ("name", Name(letter)));

    private string? Name(string letter) => Array.Find(_candidates, c => c.Letter == letter)?.Name is { Length: > 0 } name ? name : null;

    private HalvesFit? Halves(Bearing b, Address[] places, string shaft, string housing, string[] sets, AppliedLimit limit)
    {
        (string Code, Estimate Wall)[] Pool(string kind) =>
            [
                .. sets.SelectMany(s => _table.Own.Where(a => a.Kind.Id == kind).Select(a => Code(a, s)))
                    .Select(code => (code, Wall: _sizes.Size(code, Characteristics.ShellWall)))
                    .Where(x => x.Wall is not null)
                    .Select(x => (x.code, x.Wall!)),
            ];
        var (uppers, lowers) = (Pool(b.Upper), Pool(b.Lower));
        var rows = new List<(Address Journal, Estimate Room)>();
        foreach (var place in places)
        {
            var journal = Kin.Of(_table, place, b.Journal)!;
            var nothing = Estimate.Exact(0);
            var room = _sizes.Sum(
                b.Clearance,
                kind => At(b, place, kind, shaft, housing, "-"),
                (id, _) => id == Characteristics.ShellWall ? nothing : null
            );
            if (room is null)
            {
                return null;
            }

            rows.Add((journal, room));
        }

        Estimate Clearance(int r, int u, int l) => Estimate.Sum((1, rows[r].Room), (-1, uppers[u].Wall), (-1, lowers[l].Wall));
        var (least, most) = (limit.ServiceLeast!.Value, limit.ServiceMost!.Value);
        // Margin to the nearer limit in standard uncertainties: as good a measure as the chance, and it goes on where that is as good as one.
        var wallOf = (Uppers: uppers.Select(x => x.Wall.Value).ToArray(), Lowers: lowers.Select(x => x.Wall.Value).ToArray());
        var u = uppers.Length > 0 && lowers.Length > 0 ? Clearance(0, 0, 0).Standard : 1;
        if (
            Pairing.BestHalves(
                rows.Count,
                uppers.Length,
                lowers.Length,
                (r, i, j) =>
                {
                    var c = rows[r].Room.Value - wallOf.Uppers[i] - wallOf.Lowers[j];
                    return Math.Round(Math.Min(c - least, most - c) / u, 9);
                }
            )
            is not { } match
        )
        {
            return null;
        }

        var margins = new List<Estimate>();
        var chosen = new List<ChosenHalves>();
        for (var r = 0; r < rows.Count; r++)
        {
            var clearance = Clearance(r, match.First[r], match.Second[r]);
            margins.AddRange(Margins(clearance, limit));
            var cell = Cell(Code(rows[r].Journal, shaft), clearance, limit);
            chosen.Add(
                new ChosenHalves(
                    cell.Journal,
                    uppers[match.First[r]].Code,
                    lowers[match.Second[r]].Code,
                    clearance.Value,
                    clearance.Expanded,
                    cell.Inside ?? 0
                )
            );
        }

        return new HalvesFit(shaft, housing, chosen, AllAtOnce.Above(margins), match.Exact);
    }

    // —— pistons ——

    private List<PistonsFit> Pistons()
    {
        var fits = new List<PistonsFit>();
        var bores = _table.Own.Where(a => a.Kind.Id == PartKinds.Bore).ToArray();
        var sets = Letters("piston-set");
        // A used piston stays in its bore: only what is offered is matched.
        var pistons = sets.Skip(1)
            .SelectMany(s => _table.Own.Where(a => a.Kind.Id == PartKinds.Piston).Select(a => Code(a, s)))
            .Select(code => (Code: code, Size: _sizes.Size(code, Characteristics.PistonDiameter)))
            .Where(p => p.Size is not null)
            .ToArray();
        if (pistons.Length < bores.Length)
        {
            return fits;
        }

        foreach (var letter in Letters("liner", "block", "barrel").Where(l => !BoresGo(l)))
        {
            // A used bore is tight where it is smallest and loose where it is largest.
            var found = bores
                .Select(a => Code(a, letter))
                .Select(code =>
                    (
                        Code: code,
                        Size: _sizes.Size(code, Characteristics.BoreDiameter, Take.Least),
                        Most: _sizes.Size(code, Characteristics.BoreDiameter, Take.Greatest)
                    )
                )
                .ToArray();
            if (Array.Exists(found, f => f.Size is null || f.Most is null))
            {
                continue;
            }

            var limit = _sizes.Limits.For(
                Characteristics.PistonClearance,
                PartKinds.Piston,
                id => id == Characteristics.BoreDiameter ? found[0].Size!.Value : null
            );
            if (limit is not { Least: { } least, Most: { } most })
            {
                continue;
            }

            var asNew = limit with { Wear = null };
            Estimate[] Margins((string Code, Estimate? Size, Estimate? Most) f, Estimate piston) =>
                [f.Size! - piston - Estimate.Exact(least), Estimate.Exact(most) - (f.Most! - piston)];
            var goodness = found
                .Select(f => pistons.Select(p => Margins(f, p.Size!).Min(m => m.Value / Math.Max(m.Standard, 1e-6))).ToArray())
                .ToArray();
            if (Pairing.Best(goodness) is not { } match)
            {
                continue;
            }

            var of = found
                .Select(
                    (f, n) =>
                    {
                        var piston = pistons[match.Of[n]];
                        var margins = Margins(f, piston.Size!);
                        var clearance = (margins[0].Value <= margins[1].Value ? f.Size! : f.Most!) - piston.Size!;
                        return (
                            Told: new PistonInBore(f.Code, piston.Code, clearance.Value, clearance.Expanded, Cell("", clearance, asNew).Inside),
                            margins
                        );
                    }
                )
                .ToArray();
            var all = AllAtOnce.Above([.. of.SelectMany(o => o.margins)]);
            fits.Add(
                new PistonsFit(
                    letter,
                    [.. of.Select(o => o.Told)],
                    all,
                    match.Worst,
                    Fact.Of(
                        all >= GoodEnough ? "verdict.fit.pistons-fit" : "verdict.fit.pistons-do-not",
                        (
                            "bores",
                            letter.Length == 0
                                ? Fact.Of("verdict.fit.own-bores")
                                : Fact.Of("verdict.fit.set", ("letter", letter), ("name", Name(letter)))
                        ),
                        ("chance", new Number(Whole(all))),
                        ("least", Amount.Length(least)),
                        ("most", Amount.Length(most)),
                        ("source", limit.SourceText)
                    )
                )
            );
        }

        return [.. fits.OrderByDescending(f => f.All)];
    }

    /// <summary>Whether the bores of the block or of a candidate are worked or renewed first: no piston is matched to what they are now.</summary>
    private bool BoresGo(string letter)
    {
        string[] made = [PartKinds.Bore, "liner", "barrel", "crankcase"];
        var places = _table.Own.Where(a => made.Contains(a.Kind.ReadAs)).Select(a => Code(a, letter)).ToHashSet(StringComparer.Ordinal);
        return _adviceOf(letter).Any(a => places.Contains(a.Place) && a.Course is "bore" or "sleeve" or "renew" or "specialist");
    }

    // —— weights ——

    private List<WeightFit> Weights()
    {
        var fits = new List<WeightFit>();
        var stations = _table.Own.Where(a => a.Kind.Id == PartKinds.Piston).ToArray();
        var rods = stations
            .Select(a => (Code: Kin.Of(_table, a, PartKinds.Rod)?.Code ?? "", a))
            .Select(r => (r.Code, Weight: _sizes.Size(r.Code, Characteristics.PartWeight)))
            .ToArray();
        if (stations.Length < 2 || Array.Exists(rods, r => r.Weight is null))
        {
            return fits;
        }

        foreach (var set in Letters("piston-set"))
        {
            var pistons = stations.Select(a => (Code: Code(a, set), Weight: _sizes.Size(Code(a, set), Characteristics.PartWeight))).ToArray();
            if (Array.Exists(pistons, p => p.Weight is null))
            {
                continue;
            }

            double[] light = [.. pistons.Select(p => p.Weight!.Value)],
                heavy = [.. rods.Select(r => r.Weight!.Value)];
            // The engine's own pistons stay where they ran.
            var of = set.Length == 0 ? [.. Enumerable.Range(0, light.Length)] : Pairing.LeastSpread(light, heavy);
            var weights = light.Select((w, n) => w + heavy[of[n]]).ToArray();
            var straight = light.Zip(heavy, (a, b) => a + b).ToArray();
            var (spread, before) = (weights.Max() - weights.Min(), straight.Max() - straight.Min());
            fits.Add(
                new WeightFit(
                    set,
                    [.. pistons.Select((p, n) => new Assembly(p.Code, rods[of[n]].Code, weights[n]))],
                    spread,
                    before,
                    Fact.Of(
                        set.Length == 0 ? "verdict.fit.weights-own" : "verdict.fit.weights",
                        ("spread", new Amount(spread, Quantity.Mass, 1)),
                        ("before", new Amount(before, Quantity.Mass, 1))
                    )
                )
            );
        }

        return fits;
    }
}
