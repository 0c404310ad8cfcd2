using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>
/// To which size all journals of a kind, all bores, and each face must be machined so that the worst of them cleans up: shafts are ground to one
/// undersize and blocks bored to one oversize, as mixed sets are how the next engine fails. Common practice, no source.
/// </summary>
public sealed class MachiningPlanner
{
    /// <summary>Probability from which a size is planned with. Ours, no source: one shaft in twenty that does not clean up is one too many.</summary>
    private const double Sure = 0.95;

    /// <summary>Steps in which a face is told to be skimmed, mm. Common practice, no source.</summary>
    private const double SkimStep = 0.05;

    /// <summary>A piston is taken for one of the planned size when it is nearer to it than this, mm. Ours, no source.</summary>
    private const double OfThatSize = 0.35;

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly GaugeSheet _sheet;
    private readonly Schools _schools;
    private readonly LimitBook _limits;
    private readonly SizeBook _sizes;
    private readonly Cracks _cracks;
    private readonly ILookup<string, Finding> _findings;

    private MachiningPlanner(VerdictLog log, AddressTable table, KnowledgeBase knowledge, GaugeSheet sheet, Schools schools, Cracks cracks)
    {
        _table = table;
        _knowledge = knowledge;
        _sheet = sheet;
        _schools = schools;
        _limits = new LimitBook(log.Limits, knowledge, schools, table.Engine.Layout);
        _sizes = new SizeBook(knowledge, log.Sizes, schools.Steps);
        _cracks = cracks;
        _findings = Unworked.Of(log).Where(f => f.Seen == Seen.Present).ToLookup(f => f.Place, StringComparer.Ordinal);
    }

    /// <param name="pistons">Sheets of the candidates that bring pistons, beside the engine's own.</param>
    public static IReadOnlyList<MachiningPlan> Plan(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Schools schools,
        Cracks cracks,
        IReadOnlyList<GaugeSheet>? pistons = null
    )
    {
        var planner = new MachiningPlanner(log, table, knowledge, sheet, schools, cracks);
        return
        [
            .. new[]
            {
                planner.Journals(PartKinds.Crankpin, Characteristics.PinDiameter, Fact.Of("gauge.crankpins")),
                planner.Journals(PartKinds.MainJournal, Characteristics.MainDiameter, Fact.Of("gauge.main-journals")),
                planner.Bores([sheet, .. pistons ?? []]),
            }.OfType<MachiningPlan>(),
            .. planner.Faces("head", Characteristics.HeadThickness, Fact.Of("verdict.plan.head")),
            .. planner.Faces("crankcase", Characteristics.BlockDeck, Fact.Of("verdict.plan.deck")),
        ];
    }

    /// <summary>What one place leaves to machine, before the finishing stock: the round that is left of a journal, or that takes in a bore.</summary>
    private sealed record Left(string Place, Estimate Found, Estimate Unworn, double Scoring, bool ScoringRead, Estimate Round);

    /// <summary>The course that gives a kind another size; null of one that has none.</summary>
    public static string? SizingCourse(string kind) =>
        kind switch
        {
            PartKinds.Crankpin or PartKinds.MainJournal => Grind,
            PartKinds.Bore => Bore,
            _ => null,
        };

    private const string Grind = "grind";
    private const string Bore = "bore";

    private MachiningPlan? Journals(string kind, string diameter, Fact name)
    {
        if (_limits.Nominal(diameter, kind) is not { } standard)
        {
            return null;
        }

        var steps = _sizes.Of(kind);
        var left = Rounds(kind, diameter, bore: false, (size, at) => standard - steps.OfJournal(standard, size).Under);
        return left.Count == 0
            ? null
            : Sized(
                kind,
                name,
                Grind,
                left,
                (double)_schools.GrindingAllowance,
                [.. steps.ToBeHad.Select(g => (g, (double)(standard - g.Under)))],
                bore: false
            );
    }

    private MachiningPlan? Bores(IReadOnlyList<GaugeSheet> pistons)
    {
        if (_limits.Nominal(Characteristics.BoreDiameter, PartKinds.Bore) is not { } standard)
        {
            return null;
        }

        var steps = _sizes.Of(PartKinds.Bore);
        var left = Rounds(PartKinds.Bore, Characteristics.BoreDiameter, bore: true, (size, at) => standard + steps.OfBore(standard, size).Under);
        if (left.Count == 0)
        {
            return null;
        }

        var plan = Sized(
            PartKinds.Bore,
            Fact.Of("verdict.plan.bores"),
            Bore,
            left,
            (double)_schools.BoringAllowance,
            [.. steps.ToBeHad.Select(g => (g, (double)(standard + g.Under)))],
            bore: true
        );
        return plan.Size is { } size ? plan with { Hone = [.. pistons.SelectMany(s => Hone(s, size)).DistinctBy(h => (h.Bore, h.Piston))] } : plan;
    }

    private List<Left> Rounds(string kind, string diameter, bool bore, Func<decimal, Address, decimal> madeTo)
    {
        var rounds = new List<Left>();
        foreach (var at in _table.OfKind(kind))
        {
            var shape = _sheet.ShapeNow(at.Code, diameter);
            var found = (bore ? shape?.MostAt : shape?.LeastAt) ?? _sheet.Now(at.Code, diameter)?.Estimate;
            if (found is null)
            {
                continue;
            }

            // Without a surface on which nothing ran it is taken for unworn at the step it was made to.
            var unworn =
                shape?.UnwornAt
                ?? _sheet.Now(at.Code, Characteristics.UnwornAtFillet)?.Estimate
                ?? Estimate.Exact((double)madeTo((decimal)found.Value, at));
            var (scoring, read) = Scoring(at);
            var worn = bore ? found.Value > unworn.Value : found.Value < unworn.Value;
            var round =
                _schools.Centres == Centres.Shifted || !worn
                    ? Estimate.Sum((1, found), (bore ? 1 : -1, scoring))
                    : Estimate.Sum((2, found), (-1, unworn), (bore ? 2 : -2, scoring));
            rounds.Add(new Left(at.Code, found, unworn, scoring.Value, read, round));
        }

        return rounds;
    }

    /// <summary>Depth of what is scored or pitted into a place: as measured, else by the level of what was seen, taken to be half wrong either way.</summary>
    private (Estimate Depth, bool Read) Scoring(Address at)
    {
        if (_sheet.Now(at.Code, Characteristics.ScoreDepth)?.Estimate is { } read)
        {
            return (read, true);
        }

        var deepest = _findings[at.Code]
            .Select(f => _knowledge.Sign(f.Sign) is { Deep.Count: 3 } sign ? sign.Deep[Math.Clamp(f.Level, 1, 3) - 1] : 0)
            .DefaultIfEmpty(0)
            .Max();
        return deepest == 0
            ? (Estimate.Exact(0), false)
            : (
                Estimate.Of(
                    deepest,
                    new Influence($"scoring/{at.Code}", Fact.Of("verdict.plan.scoring-by-eye"), Uncertainty.Rectangular(deepest / 2))
                ),
                false
            );
    }

    private MachiningPlan Sized(
        string kind,
        Fact name,
        string course,
        List<Left> left,
        double stock,
        IReadOnlyList<(Grade Grade, double Size)> sizes,
        bool bore
    )
    {
        var worst = bore ? left.MaxBy(l => l.Round.Value + l.Round.Expanded)! : left.MinBy(l => l.Round.Value - l.Round.Expanded)!;
        Estimate Margin(Left l, double size) =>
            Estimate.Sum((bore ? -1 : 1, l.Round), (bore ? 1 : -1, Estimate.Exact(size)), (-1, Estimate.Exact(stock)));
        var listed = _sizes.Listed(kind);
        var tried = sizes
            .Select(s =>
                (s.Grade, Told: new PlannedSize(s.Grade.Name, s.Size, AllAtOnce.Above([.. left.Select(l => Margin(l, s.Size))]), Bounded(s.Grade)))
            )
            .Where(s => s.Told.Cleans >= 0.005)
            .ToArray();
        var chosen = Array.Find(tried, s => s.Told.Cleans >= Sure && s.Told.Not is null);
        var within = Array.Find(tried, s => s.Told.Cleans >= Sure);
        var all = _table.OfKind(kind).Count();
        var condemned = _table.OfKind(kind).Select(_cracks.Condemns).FirstOrDefault(at => at is not null) ?? "";
        var words =
            condemned.Length > 0
                ? Fact.Of(
                    bore ? "gauge.bores-nothing-bored-before-specialist" : "gauge.not-ground-crack-condemns-shaft",
                    ("name", name),
                    ("cracked", condemned)
                )
            : chosen.Told is { } size
                ? Fact.All(
                    Fact.Of(
                        bore ? "verdict.plan.bore-all" : "verdict.plan.grind-all",
                        ("name", name),
                        ("step", size.Step),
                        ("size", Amount.Length(size.Size)),
                        ("place", worst.Place),
                        ("found", Amount.Length(worst.Found.Value)),
                        ("centres", _schools.Centres == Centres.Original ? Fact.Of("verdict.plan.on-old-centres") : null),
                        ("stock", Amount.Length(stock, 2)),
                        ("sure", new Number(Percent(size.Cleans)))
                    ),
                    worst.Scoring > 0
                        ? Fact.Of(
                            worst.ScoringRead ? "verdict.plan.scoring-read" : "verdict.plan.scoring-taken",
                            ("depth", Amount.Length(worst.Scoring)),
                            ("place", worst.Place)
                        )
                        : null,
                    Rest(left.Count, all),
                    !bore ? null : Fact.Of(_schools.CutRidge ? "gauge.ridge-is-cut" : "gauge.ridge-is-left-to-the-bar"),
                    bore && _schools.Honing == Honing.Ball ? Fact.Of("gauge.ball-hone-follows-the-bore") : null
                )
            : Fact.All(
                Fact.Of("verdict.plan.too-far", ("name", name), ("place", worst.Place), ("found", Amount.Length(worst.Found.Value))),
                within.Told is { } far ? Fact.Of("verdict.plan.would-but", ("step", far.Step), ("not", far.Not)) : null,
                Fact.Of(bore ? "verdict.plan.sleeve-or-block" : "verdict.plan.weld-or-shaft"),
                Rest(left.Count, all)
            );
        return new MachiningPlan(
            kind,
            name,
            course,
            condemned.Length > 0 ? PlanState.None
                : chosen.Told is null ? PlanState.TooFar
                : PlanState.Size,
            worst.Place,
            worst.Found.Value,
            condemned.Length > 0 ? null : chosen.Told?.Size,
            condemned.Length > 0 ? "" : chosen.Told?.Step ?? "",
            null,
            condemned.Length > 0 ? null : chosen.Told?.Cleans,
            left.Count,
            all,
            condemned,
            words,
            [
                .. left.Select(l => new PlannedPlace(
                    l.Place,
                    l.Found.Value,
                    l.Unworn.Value,
                    l.Scoring,
                    l.ScoringRead,
                    l.Round.Value + (bore ? stock : -stock),
                    l.Round.Expanded,
                    l == worst
                )),
            ],
            // One further than what is planned is told, for whoever wants to be surer.
            [.. tried.Select(t => t.Told).TakeWhile((_, i) => chosen.Told is null || i <= Array.IndexOf(tried, chosen) + 1)],
            []
        );

        Fact? Bounded(Grade grade) =>
            listed?.Furthest is { } most && grade.Under > most
                ? Fact.Of("verdict.plan.beyond", ("most", Amount.Length(most, 2)), ("by", listed.FurthestBy), ("source", listed.SourceText))
            : grade.ByMaker ? Fact.Of("verdict.plan.where-maker-allows")
            : null;
    }

    private IEnumerable<HoneTo> Hone(GaugeSheet sheet, double size)
    {
        if (_limits.For(Characteristics.PistonClearance, PartKinds.Piston, _ => size) is not { Least: { } least, Most: { } most } limit)
        {
            yield break;
        }

        // A maker's figure is when new; of a rule of thumb the tight third is, as the rest is for wear.
        var (tight, wide) = limit.IsRuleOfThumb ? (least, least + ((most - least) / 3)) : (least, most);
        foreach (
            var piston in sheet.Current.Where(f =>
                f.Characteristic == Characteristics.PistonDiameter && Math.Abs(f.Value + tight - size) < OfThatSize
            )
        )
        {
            if (_table.Engine is { } engine && PistonOf(piston.Place) is { } station && _table.Find(PartKinds.Bore, station) is { } bore)
            {
                yield return new HoneTo(
                    bore.Code,
                    piston.Place,
                    piston.Value,
                    piston.Value + tight,
                    piston.Value + wide,
                    Fact.Of(
                        "verdict.plan.clearance",
                        ("least", Amount.Length(tight)),
                        ("most", Amount.Length(wide)),
                        ("source", limit.SourceText),
                        ("thumb", limit.IsRuleOfThumb ? Fact.Of("verdict.plan.thumb") : null)
                    )
                );
            }
        }

        int? PistonOf(string place) => _table.Everywhere.FirstOrDefault(a => a.Code == place)?.Station;
    }

    private IEnumerable<MachiningPlan> Faces(string kind, string thickness, Fact name)
    {
        var stock = (double)_schools.SkimAllowance;
        foreach (var at in _table.OfKind(kind))
        {
            if (_sheet.Now(at.Code, Characteristics.DeckFlatness) is not { Estimate: { } flat } || flat.Value <= 0)
            {
                continue;
            }

            var (pits, read) = Scoring(at);
            var off = Estimate.Sum((1, flat), (1, pits), (1, Estimate.Exact(stock)));
            var removes = Math.Ceiling(((off.Value + off.Expanded) / SkimStep) - 1e-9) * SkimStep;
            var cleans = AllAtOnce.Above([Estimate.Exact(removes) - off]);
            var before = _sheet.Now(at.Code, thickness)?.Estimate;
            var least = _limits.For(thickness, kind, _ => null)?.ServiceLeast;
            var left = before is null ? null : before - Estimate.Exact(removes);
            var tooThin = left is not null && least is { } l && left.Value < l;
            var condemned = _cracks.Condemns(at) ?? "";
            var state =
                condemned.Length > 0 ? PlanState.None
                : tooThin ? PlanState.TooFar
                : PlanState.Size;
            yield return new MachiningPlan(
                kind,
                name,
                "skim",
                state,
                at.Code,
                flat.Value,
                state == PlanState.Size ? left?.Value : null,
                "",
                removes,
                state == PlanState.Size ? cleans : null,
                1,
                1,
                condemned,
                Fact.All(
                    condemned.Length > 0
                        ? Fact.Of("verdict.plan.face-cracked", ("cracked", condemned))
                        : Fact.Of(
                            "verdict.plan.skim",
                            ("place", at.Code),
                            ("removes", Amount.Length(removes, 2)),
                            ("flat", Amount.Length(flat.Value)),
                            ("pits", pits.Value > 0 ? Amount.Length(pits.Value) : null),
                            ("stock", Amount.Length(stock, 2))
                        ),
                    left is null ? Fact.Of("verdict.plan.thickness-unknown", ("place", at.Code))
                        : least is { } need
                            ? Fact.Of(
                                tooThin ? "verdict.plan.too-thin" : "verdict.plan.leaves",
                                ("left", Amount.Length(left.Value, 2)),
                                ("least", Amount.Length(need, 2))
                            )
                        : Fact.Of("verdict.plan.leaves-no-limit", ("left", Amount.Length(left.Value, 2))),
                    Fact.Of("verdict.plan.skim-changes")
                ),
                [new PlannedPlace(at.Code, flat.Value, null, pits.Value, read, off.Value, off.Expanded, true)],
                [],
                []
            );
        }
    }

    /// <summary>Whole percents that never say sure of what is not.</summary>
    private static double Percent(double p) => Math.Min(99, Math.Floor(100 * p));

    private static Fact? Rest(int measured, int all) =>
        measured < all ? Fact.Of("gauge.only-so-many-measured", ("measured", measured), ("all", all)) : null;
}
