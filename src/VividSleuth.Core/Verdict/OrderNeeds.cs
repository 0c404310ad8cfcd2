using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Verdict;

/// <summary>What must be had from others: parts that are renewed, one-time fasteners, and work that is not done at the bench.</summary>
internal sealed class OrderNeeds
{
    /// <summary>The characteristic by which a kind of part is sized, and how much of a step goes into it.</summary>
    private static readonly Dictionary<string, (string Characteristic, decimal PerStep)> SizedBy = new(StringComparer.Ordinal)
    {
        [PartKinds.Crankpin] = (Characteristics.PinDiameter, -1m),
        [PartKinds.MainJournal] = (Characteristics.MainDiameter, -1m),
        [PartKinds.Bore] = (Characteristics.BoreDiameter, 1m),
        [PartKinds.Piston] = (Characteristics.PistonDiameter, 1m),
        [PartKinds.RodShellUpper] = (Characteristics.ShellWall, 0.5m),
        [PartKinds.RodShellLower] = (Characteristics.ShellWall, 0.5m),
        ["main-shell-upper"] = (Characteristics.ShellWall, 0.5m),
        ["main-shell-lower"] = (Characteristics.ShellWall, 0.5m),
    };

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly string _engine;
    private readonly IReadOnlyDictionary<string, PartVerdict> _decided;
    private readonly Dictionary<string, (string Course, Fact Why)> _courseOf;
    private readonly IReadOnlyList<MachiningPlan> _plans;
    private readonly FitBoard _fits;
    private readonly StripPlan _strip;
    private readonly LimitBook _limits;
    private readonly SizeBook _sizes;
    private readonly GaugeSheet _sheet;

    public OrderNeeds(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        string engine,
        Schools schools,
        GaugeSheet sheet,
        IReadOnlyList<VerdictAdvice> advice,
        IReadOnlyList<MachiningPlan> plans,
        FitBoard fits,
        StripPlan strip
    )
    {
        (_table, _knowledge, _engine, _sheet, _plans, _fits, _strip) = (table, knowledge, engine, sheet, plans, fits, strip);
        _decided = PartVerdict.Latest(log.Verdicts);
        _limits = new LimitBook(log.Limits, knowledge, schools, table.Engine.Layout);
        _sizes = new SizeBook(knowledge, log.Sizes, schools.Steps);
        _courseOf = advice.Where(a => a.Told && a.Course.Length > 0).ToDictionary(a => a.Place, a => (a.Course, a.Reason), StringComparer.Ordinal);
        foreach (var (place, verdict) in _decided)
        {
            if (verdict.Course.Length > 0)
            {
                _courseOf[place] = (verdict.Course, Fact.Text(verdict.Reason));
            }
            else
            {
                _courseOf.Remove(place);
            }
        }
    }

    /// <summary>Kinds of part that a line waits for: all of what is sold as a set, else the part itself and not what is on it.</summary>
    public static IReadOnlyList<string> KindsOf(string item, IEnumerable<string> places, AddressTable table) =>
        item.Length == 0 ? [.. places.Select(p => table.Find(p)?.Kind.Id).OfType<string>().Distinct()]
        : CandidateSets.All.FirstOrDefault(s => s.Id == item) is { SoldFor: not null } set ? set.Kinds
        : [.. CandidateSets.KindsOf(item).Take(1)];

    public IEnumerable<OrderNeed> All(IReadOnlyList<ShelfPart> shelf, Func<string, decimal> linedOf, OrderGates gates)
    {
        // Bolts that serve once are ordered by the set, all of them: those that are condemned besides are not ordered twice.
        var fasteners = _strip.ToOrder.Select(s => s.Part).Where(p => p.Length > 0).ToHashSet(StringComparer.Ordinal);
        var asked = _table
            .All.Select(a => (Place: a, Of: _courseOf.GetValueOrDefault(a.Code)))
            .Where(x => x.Of.Course is not null)
            .Select(x => (x.Place, x.Of.Course, x.Of.Why, Known: _knowledge.Course(x.Of.Course)))
            .Where(x => x.Known is { At: not DoneAt.Bench } && !(x.Course == "renew" && fasteners.Contains(x.Place.Kind.Id)))
            .ToArray();
        foreach (var group in asked.Where(x => x.Known!.At == DoneAt.Supplier).GroupBy(x => (x.Course, Item: ItemOf(x.Place.Kind.Id))))
        {
            var places = group.Select(x => x.Place).ToArray();
            var set = CandidateSets.All.FirstOrDefault(s => s.Id == group.Key.Item);
            var step = StepOf(group.Key.Item);
            var wants = Wants(CandidateSets.KindsOf(group.Key.Item), step);
            yield return Need(
                SupplierKind.Parts,
                group.Key.Item,
                group.Key.Course,
                Fact.Of("verdict.order.part", ("name", CandidateSets.NameOf(group.Key.Item)), ("step", step)),
                places,
                step,
                group.First().Why,
                set?.SoldFor switch
                {
                    StationScope.Engine => 1,
                    { } => places.Select(a => a.Station).Distinct().Count(),
                    null => places.Length,
                },
                wants,
                []
            );
        }

        foreach (var group in asked.Where(x => x.Known!.At != DoneAt.Supplier).GroupBy(x => (x.Course, Kind: x.Place.Kind.Id)))
        {
            var (course, kind) = group.Key;
            var known = group.First().Known!;
            var plan = _plans.FirstOrDefault(p => p.Kind == kind && p.Course == course);
            // All of a kind go to one size, also those that would not need it.
            var places = plan is not null && SizedBy.ContainsKey(kind) ? _table.OfKind(kind).ToArray() : [.. group.Select(x => x.Place)];
            var step = plan is { State: PlanState.Size } ? plan.Step : "";
            yield return Need(
                known.At == DoneAt.MachineShop ? SupplierKind.MachineShop : SupplierKind.Specialist,
                kind,
                course,
                Fact.Of(
                    "verdict.order.work",
                    ("course", known.Name),
                    ("kind", Fact.Of($"part.{kind}")),
                    ("places", places.Select(a => a.Code).ToArray()),
                    ("step", step),
                    ("size", plan is { State: PlanState.Size, Size: { } size } ? Measures.Amount.Length(size) : null)
                ),
                places,
                step,
                group.First().Why,
                places.Length,
                AfterWork(kind, plan, step),
                Along(places, known, plan)
            );
        }

        foreach (var set in _strip.ToOrder)
        {
            yield return Need(SupplierKind.Parts, "", "renew", set.Name, [], "", Fact.Of("verdict.order.one-time"), set.Count, [], []) with
            {
                Key = $"fastener/{set.Set}",
                Decided = true,
                Lined = linedOf($"fastener/{set.Set}"),
                Missing = Math.Max(0, set.Count - linedOf($"fastener/{set.Set}")),
            };
        }

        OrderNeed Need(
            SupplierKind kind,
            string item,
            string course,
            Fact what,
            Address[] places,
            string step,
            Fact why,
            decimal quantity,
            IReadOnlyList<WantedFigure> wants,
            IReadOnlyList<string> along
        )
        {
            var key = $"{course}/{item}";
            var kinds = KindsOf(item, [], _table);
            OnShelf[] here = kind == SupplierKind.Parts && item.Length > 0 ? [.. Shelf(shelf, kinds, step)] : [];
            var lined = linedOf(key);
            return new OrderNeed(
                key,
                kind,
                item,
                course,
                what,
                [.. places.Select(a => a.Code)],
                step,
                Array.TrueForAll(places, a => _decided.ContainsKey(a.Code)),
                why,
                quantity,
                lined,
                Math.Max(0, quantity - lined - Covered(item, here)),
                here,
                along,
                wants,
                gates.Before(kinds)
            );
        }
    }

    private static string ItemOf(string kind) => CandidateSets.BoughtAs(kind)?.Id ?? kind;

    private IEnumerable<OnShelf> Shelf(IReadOnlyList<ShelfPart> shelf, IReadOnlyList<string> kinds, string step) =>
        shelf
            .Where(p => kinds.Contains(p.Kind) && p.Count > 0)
            .Select(p => new OnShelf(
                TagCode.ShelfMark(p.Number),
                p.Kind,
                p.Count,
                p.Grade,
                p.Where,
                p.Fits,
                // While nobody knows the size, none on the shelf is it.
                SameSize(p.Grade, step) && FitsHere(p.Fits) && (step.Length > 0 || !HasSizes(p.Kind))
            ))
            .Where(p => p.Sure || SameSize(p.Grade, step) || p.Grade.Length == 0)
            .OrderByDescending(p => p.Sure)
            .ThenBy(p => p.Mark, StringComparer.Ordinal);

    /// <summary>How many of what is bought the shelf surely has: of a set, as many as its scarcest kind makes whole.</summary>
    private int Covered(string item, OnShelf[] here)
    {
        int Sure(string kind) => here.Where(s => s.Sure && s.Kind == kind).Sum(s => s.Count);
        if (CandidateSets.All.FirstOrDefault(s => s.Id == item) is not { SoldFor: { } sold } set)
        {
            return here.Where(s => s.Sure).Sum(s => s.Count);
        }

        return set
            .Kinds.Except(set.Apart)
            .Select(kind => (Kind: kind, Own: _table.OfKind(kind).ToArray()))
            .Where(k => k.Own.Length > 0)
            .Select(k => Sure(k.Kind) / (k.Own.Length / (sold == StationScope.Engine ? 1 : k.Own.Select(a => a.Station).Distinct().Count())))
            .DefaultIfEmpty(0)
            .Min();
    }

    /// <summary>What is written of a shelf part names this engine.</summary>
    private bool FitsHere(string fits) =>
        _engine.Trim().Length > 2
        && fits.Trim().Length > 2
        && (fits.Contains(_engine.Trim(), StringComparison.OrdinalIgnoreCase) || _engine.Contains(fits.Trim(), StringComparison.OrdinalIgnoreCase));

    /// <summary>A part of which no size is asked fits in any; one of which it is asked only where its size is the same.</summary>
    private static bool SameSize(string written, string step) =>
        step.Length == 0
        || (
            Grade.FromStamp(written) is { } has && Grade.FromStamp(step) is { } wants
                ? has.IsLike(wants)
                : written.Equals(step, StringComparison.OrdinalIgnoreCase)
        );

    private static bool OfBore(string kind) => kind == PartKinds.Piston || kind.StartsWith("ring-", StringComparison.Ordinal);

    /// <summary>A kind of part that is made in sizes.</summary>
    private static bool HasSizes(string kind) => SizedBy.ContainsKey(kind) || OfBore(kind);

    /// <summary>In which size a part is bought; empty where it has none, or nobody knows yet.</summary>
    private string StepOf(string item)
    {
        return CandidateSets.KindsOf(item)[0] switch
        {
            PartKinds.RodShellUpper => OfShells(PartKinds.Crankpin, "big-end"),
            "main-shell-upper" => OfShells(PartKinds.MainJournal, "main"),
            var kind when OfBore(kind) => OfBores(),
            _ => "",
        };

        string OfShells(string journal, string bearing) =>
            CoursesOf(journal).Contains("grind") ? Planned(journal)
            // Whoever welds them up says to what size they are ground.
            : CoursesOf(journal).Contains("weld-and-grind") ? ""
            : CoursesOf(journal).Contains("renew") || CoursesOf("crankshaft").Contains("renew") ? Grade.Standard.Name
            : _fits
                .Bearings.FirstOrDefault(b => b.Bearing == bearing)
                ?.Ways.FirstOrDefault(w => w is { By: FitBy.OneSet, Shaft.Length: 0, Housing.Length: 0 })
                ?.Step
                ?? "";

        string OfBores() =>
            CoursesOf(PartKinds.Bore).Contains("bore") ? Planned(PartKinds.Bore)
            : new[] { PartKinds.Bore, "liner", "barrel" }.SelectMany(CoursesOf).Any(c => c is "sleeve" or "renew") ? Grade.Standard.Name
            : _limits.Nominal(Characteristics.BoreDiameter, PartKinds.Bore) is { } standard
            && _table.OfKind(PartKinds.Bore).Select(a => _sheet.Now(a.Code, Characteristics.BoreDiameter)).OfType<SheetFigure>().FirstOrDefault()
                is { } found
                ? _sizes.Of(PartKinds.Bore).OfBore(standard, (decimal)found.Value).Name
            : "";

        string Planned(string kind) => _plans.FirstOrDefault(p => p.Kind == kind && p.State == PlanState.Size)?.Step ?? "";
    }

    private HashSet<string> CoursesOf(string kind) =>
        [.. _table.OfKind(kind).Select(a => _courseOf.GetValueOrDefault(a.Code).Course).OfType<string>()];

    /// <summary>What new parts must measure: their size at the step, and what the maker asks of them besides.</summary>
    private List<WantedFigure> Wants(IReadOnlyList<string> kinds, string step) =>
        [.. kinds.Where(k => _table.OfKind(k).Any()).SelectMany(k => Size(k, step) is { } size ? [size, .. Entered(k)] : Entered(k))];

    private List<WantedFigure> AfterWork(string kind, MachiningPlan? plan, string step)
    {
        var entered = Entered(kind);
        if (plan is { Hone.Count: > 0 } && plan.Hone.Select(h => h.Bore).Distinct(StringComparer.Ordinal).Count() == plan.Hone.Count)
        {
            // Each bore to the very piston that goes in it.
            return
            [
                .. plan.Hone.Select(h => new WantedFigure(
                    h.Bore,
                    Characteristics.BoreDiameter,
                    Math.Round((decimal)h.Least, 4),
                    Math.Round((decimal)h.Most, 4),
                    h.Piston
                )),
                .. entered,
            ];
        }

        if (plan is { Course: "skim", State: PlanState.Size, Size: { } left })
        {
            var thickness = kind == "head" ? Characteristics.HeadThickness : Characteristics.BlockDeck;
            if (_limits.For(thickness, kind, _ => null) is { IsRuleOfThumb: false, ServiceLeast: { } least } limit && left >= least)
            {
                entered.Insert(0, new WantedFigure(kind, thickness, (decimal)least, null, Text(limit)));
            }

            return [.. entered.DistinctBy(w => w.Characteristic)];
        }

        return plan is not { State: PlanState.Size } ? []
            : Size(kind, step) is { } size ? [size, .. entered]
            : entered;
    }

    /// <summary>The size of a kind at a step, within the maker's own tolerance where he gives one, else within what making leaves.</summary>
    private WantedFigure? Size(string kind, string step)
    {
        if (
            !SizedBy.TryGetValue(kind, out var by)
            || _limits.Nominal(by.Characteristic, kind) is not { } nominal
            || Under(kind, step) is not { } under
        )
        {
            return null;
        }

        var shift = by.PerStep * under;
        var limit = _limits.For(by.Characteristic, kind, _ => null);
        return limit is { Least: { } least, Most: { } most, IsRuleOfThumb: false }
            ? new WantedFigure(kind, by.Characteristic, (decimal)least + shift, (decimal)most + shift, Text(limit))
            : new WantedFigure(kind, by.Characteristic, nominal + shift - Making(kind), nominal + shift + Making(kind), "", Thumb: true);
    }

    private static decimal Making(string kind) => (decimal)(SizedBy[kind].PerStep == 0.5m ? GradeOdds.ShellMaking : GradeOdds.Making);

    private decimal? Under(string kind, string step) =>
        step.Length == 0 ? null : (_sizes.Of(kind).All.FirstOrDefault(g => g.Name == step) ?? Grade.FromStamp(step))?.Under;

    /// <summary>Bounds that somebody entered for what can be measured on a new part by itself.</summary>
    private List<WantedFigure> Entered(string kind) =>
        [
            .. _knowledge
                .Characteristics.Where(c => c.On.Contains(kind) && !c.Between && !c.Ways.Exists(w => w.Count > 1))
                .Where(c => !SizedBy.TryGetValue(kind, out var by) || by.Characteristic != c.Id)
                .Select(c => (c.Id, Limit: _limits.For(c.Id, kind, _ => null)))
                .Where(x => x.Limit is { IsRuleOfThumb: false } and ({ Least: not null } or { Most: not null }))
                .Select(x => new WantedFigure(kind, x.Id, (decimal?)x.Limit!.Least, (decimal?)x.Limit.Most, Text(x.Limit))),
        ];

    private static string Text(AppliedLimit limit) => limit.SourceText["text"] as string ?? "";

    /// <summary>What goes along with a line of work.</summary>
    public IReadOnlyList<string> AlongWith(OrderLine line)
    {
        var places = line.Places.Select(p => _table.Find(p)).OfType<Address>().ToArray();
        return line.Kind == SupplierKind.Parts || places.Length == 0 || _knowledge.Course(line.Course) is not { } course
            ? []
            : Along(places, course, _plans.FirstOrDefault(p => p.Kind == places[0].Kind.Id && p.Course == line.Course));
    }

    private List<string> Along(IReadOnlyList<Address> places, KnownCourse course, MachiningPlan? plan)
    {
        var along = places.SelectMany(a => Carrier.Of(a, _table)).Select(a => a.Code).Distinct(StringComparer.Ordinal).ToList();
        foreach (var kind in course.Along)
        {
            var pistons = kind == PartKinds.Piston && plan is { Hone.Count: > 0 } ? plan.Hone.Select(h => h.Piston) : null;
            along.AddRange(
                pistons
                    ?? places
                        .SelectMany(a => _table.OfKind(kind).Where(k => k.Kind.Scope == a.Kind.Scope && k.Station == a.Station))
                        .Select(a => a.Code)
            );
        }

        return [.. along.Distinct(StringComparer.Ordinal)];
    }
}
