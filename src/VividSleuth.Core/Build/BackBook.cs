using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Build;

/// <summary>What was done on the way back, and what each of its steps still asks for.</summary>
public sealed class BackBook
{
    private const string RingPosition = RingDrifts.Position;

    private readonly BuildLog _log;
    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly GaugeSheet _gauge;
    private readonly Schools _schools;
    private readonly ILookup<string, BackAct> _acts;
    private readonly IReadOnlyDictionary<string, BackAct> _in;
    private readonly ILookup<string, BackAct> _moved;
    private readonly IReadOnlyDictionary<(string Step, string Set), Tightening> _how;
    private readonly IReadOnlyDictionary<string, Part> _tags;
    private readonly IReadOnlyDictionary<string, PartVerdict> _verdicts;
    private readonly Dictionary<Guid, OrderLineState> _lines;
    private readonly ILookup<string, OrderLine> _newFor;
    private readonly IReadOnlyDictionary<string, TurningJump> _jumps;
    private readonly LimitBook _limits;

    public BackBook(BuildLog log, AddressTable table, KnowledgeBase knowledge, GaugeSheet gauge, OrderBoard order, Schools schools)
    {
        (_log, _table, _knowledge, _gauge, _schools) = (log, table, knowledge, gauge, schools);
        _acts = log.Acts.Where(a => a.Stands()).OrderBy(a => a.At).ThenBy(a => a.Id).ToLookup(a => a.Step, StringComparer.Ordinal);
        _in = BackAct.Standing(log.Acts);
        _moved = _acts
            .SelectMany(g => g)
            .Where(a => a.Kind is BackActKind.Fitted or BackActKind.TakenOut)
            .OrderBy(a => a.At)
            .ThenBy(a => a.Id)
            .ToLookup(a => a.Of, StringComparer.Ordinal);
        _how = Tightening.Latest(log.Tightenings);
        _tags = log
            .Parts.Where(p => p.Stands())
            .GroupBy(p => p.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.MaxBy(p => p.At)!, StringComparer.Ordinal);
        _verdicts = PartVerdict.Latest(log.Verdicts);
        _lines = order.Lines.ToDictionary(l => l.Line);
        _newFor = log
            .OrderLines.Where(l => l.Stands() && l.Kind == SupplierKind.Parts && _lines.ContainsKey(l.Id))
            .SelectMany(l => l.Places.Select(p => (p, l)))
            .ToLookup(x => x.p, x => x.l, StringComparer.Ordinal);
        _jumps = TurningJump.Of(log.PutTogether);
        _limits = new LimitBook(log.Limits, knowledge, schools, table.Engine.Layout);
    }

    public IReadOnlyDictionary<string, Part> Tags => _tags;

    /// <summary>How the shop does it with parts that are alike.</summary>
    public Mixing Mixing => _schools.Mixing;

    /// <summary>The act that put a part in its place; null while it is out.</summary>
    public BackAct? In(string place) => _in.GetValueOrDefault(place);

    /// <summary>A verdict or its kind says that a new one goes in.</summary>
    public Fact? RenewedAs(Address place) =>
        _verdicts.GetValueOrDefault(place.Code) is { Action: VerdictAction.Replace } ? Fact.Of("build.fit.by-its-verdict") : place.Kind.OneTime;

    /// <summary>Lines of the order that bring new parts for a place.</summary>
    public IEnumerable<OrderLine> NewFor(string place) => _newFor[place];

    /// <summary>How far a line is; null of one that is not there.</summary>
    public OrderLineState? Line(Guid id) => _lines.GetValueOrDefault(id);

    /// <summary>How many of the places of a line what came of it is enough for: all of a set that came whole, some of one that came in part.</summary>
    public int EnoughFor(OrderLine line) =>
        Line(line.Id) is { } state && line.Quantity > 0
            ? (int)Math.Floor(line.Places.Count * Math.Min(1, (state.Here / line.Quantity) + Rounding))
            : line.Places.Count;

    /// <summary>Places that something new of a line is in.</summary>
    public int FittedOf(Guid line) => _in.Values.Count(a => a.Line == line);

    /// <summary>A third of three is one.</summary>
    private const decimal Rounding = 1e-9m;

    public static bool LetIn(OrderLineState? line) => line?.Stage is OrderStage.Checked or OrderStage.Fitted;

    /// <summary>Lines of work by others on a place that are not let in again.</summary>
    public OrderLine? AwayOn(string place) =>
        _log.OrderLines.FirstOrDefault(l =>
            l.Stands()
            && l.Kind != SupplierKind.Parts
            && l.Places.Contains(place)
            && Line(l.Id) is { Stage: not (OrderStage.Wanted or OrderStage.Asked) } state
            && !LetIn(state)
        );

    /// <summary>Lines of the order that bring new fasteners of a set.</summary>
    public IEnumerable<OrderLine> LinesOf(FastenerSet set) =>
        _log.OrderLines.Where(l =>
            l.Stands() && _lines.ContainsKey(l.Id) && (l.Need == $"fastener/{set.Id}" || (set.Part.Length > 0 && l.Item == set.Part))
        );

    /// <summary>New fasteners of a line: what came, and what of it is in no hole.</summary>
    public NewFasteners? Fasteners(Guid line)
    {
        if (Line(line) is not { } state || !LetIn(state) || _log.OrderLines.FirstOrDefault(l => l.Id == line) is not { } record)
        {
            return null;
        }

        var used = _log.FastenerMoves.Where(m => m.Stands() && m.Line == line && m.State == FastenerState.NewIn).Sum(m => m.Count);
        return new NewFasteners(line, record.What, state.Here, state.Here - used);
    }

    /// <summary>A step of the way back as it stands.</summary>
    /// <param name="key">Of its task.</param>
    /// <param name="step">The step of the strip that it turns back; null of what assembly adds.</param>
    /// <param name="goes">Places of the parts that it puts in.</param>
    /// <param name="added">What assembly adds to it.</param>
    public WayBack Of(string key, PlannedStep? step, IReadOnlyList<Address> goes, IReadOnlyList<AssemblyStep> added)
    {
        BackPart[] parts = [.. goes.Select(Part)];
        BackSet[] sets = step is null ? [] : [.. step.Sets.Select(s => Set(key, step.Id, s))];
        BackFigure[] figures = [.. added.SelectMany(a => a.Figures.SelectMany(f => Figures(a, f, goes))).DistinctBy(f => f.Key)];
        BackTick[] ticks =
        [
            .. added.SelectMany(a => a.Ticks).Distinct(StringComparer.Ordinal).Select(t => Tick(key, t, BackActKind.Ticked, BackActKind.Unticked)),
        ];
        BackTick[] covers =
        [
            .. added
                .SelectMany(a => a.Covers)
                .Concat(_acts[key].Where(a => a.Kind == BackActKind.Covered).Select(a => a.Of))
                .Distinct(StringComparer.Ordinal)
                .Select(c => Tick(key, c, BackActKind.Covered, BackActKind.Uncovered)),
        ];
        BackFind[] finds = [.. added.SelectMany(a => a.Finds).Distinct(StringComparer.Ordinal).SelectMany(_table.OfKind).Select(p => Find(key, p))];
        var hours = added.Select(a => a.Hours).OfType<double>().Select(Hours).FirstOrDefault();
        return new WayBack(
            step?.Id ?? "",
            [.. added.Where(a => a.Does.Length > 0).Select(a => Fact.Of("build.adds", ("does", a.Does), ("why", a.Why)))],
            parts,
            sets,
            step?.Pattern ?? "",
            [.. (step?.Source.Manual ?? []).Concat(added.SelectMany(a => a.Manual)).Distinct(StringComparer.Ordinal)],
            figures,
            ticks,
            covers,
            finds,
            hours,
            [.. (step?.Cautions ?? []).Concat(added.SelectMany(a => a.Cautions)).Distinct(StringComparer.Ordinal)],
            [.. Stops(key, parts, sets, figures, ticks).Concat(Stops(key, finds, hours))]
        );
    }

    /// <summary>The first run: no cover is on any more.</summary>
    public WayBack OfRun() =>
        new(
            "",
            [],
            [],
            [],
            "",
            [],
            [],
            [],
            [],
            [],
            null,
            [],
            [
                .. CoversOn()
                    .Select(c =>
                        Stop(
                            Arising.RunKey,
                            BackGate.Cover,
                            $"{c.Step}/{c.Text}",
                            Fact.Of("build.stop.cover", ("cover", c.Text), ("by", c.By)),
                            Fact.Of("build.stop.cover.do"),
                            mayPass: false
                        )
                    ),
            ]
        );

    /// <summary>Covers that are on, of all steps.</summary>
    public IReadOnlyList<BackCover> CoversOn() =>
        [
            .. _acts
                .SelectMany(g => g)
                .Where(a => a.Kind is BackActKind.Covered or BackActKind.Uncovered)
                .GroupBy(a => (a.Step, a.Of))
                .Select(g => g.Last())
                .Where(a => a.Kind == BackActKind.Covered)
                .Select(a => new BackCover(a.Step, a.Of, true, a.By, a.At)),
        ];

    private BackPart Part(Address place)
    {
        var tag = _tags.GetValueOrDefault(place.Code);
        var act = In(place.Code);
        var renew = RenewedAs(place);
        return new BackPart(
            place.Code,
            place.Words,
            tag?.Mark ?? "",
            tag?.Facing ?? Facing.Unknown,
            tag?.SideUp ?? "",
            tag?.Custody,
            tag?.Where ?? "",
            renew is not null || MateGate.MayBeMistaken(place.Kind, _table),
            MateGate.MayBeSwapped(place.Kind, _schools.Mixing),
            renew is not null,
            renew,
            [.. NewFor(place.Code).Select(l => new NewPart(l.Id, l.What, LetIn(Line(l.Id))))],
            act?.Id,
            act?.Version ?? 0,
            act?.By ?? "",
            act?.IsNew ?? false
        );
    }

    private BackSet Set(string key, string step, SetLedger ledger)
    {
        var set = ledger.Set;
        var how = _how.GetValueOrDefault((step, set.Id));
        var drawn = set.Per == FastenerCount.InAll && set.Holes.Count != ledger.Expected;
        var holes = ledger.Holes.Count == 0 ? JointOrder.Evenly(set, _table.Engine) : ledger.Holes;
        var makers = how?.Order.Count == holes.Count && holes.Count > 0;
        // What was opened or filled after a pass was not there when it was tightened.
        var touched = _log
            .FastenerMoves.Where(m => m.Stands() && m.Step == step && m.Set == set.Id)
            .Select(m => m.At)
            .DefaultIfEmpty(DateTimeOffset.MinValue)
            .Max();
        var tight = _acts[key]
            .Where(a => a.Kind == BackActKind.Tightened && a.Of == set.Id && a.At >= touched && a.Pass <= how?.Passes.Count)
            .ToArray();
        var last = tight.LastOrDefault();
        var eyes = last is null ? null : _acts[key].LastOrDefault(a => a.Kind == BackActKind.Checked && a.Of == set.Id && a.At >= last.At);
        var passes = how?.Passes.Count ?? 0;
        var stands =
            ledger.Out + ledger.Broken > 0 || ledger.In < 0 ? SetStands.Open
            : eyes is not null ? SetStands.Checked
            : last is not null && last.Pass >= passes ? SetStands.Tight
            : last is not null ? SetStands.PartTight
            : SetStands.FingerTight;
        return new BackSet(
            set.Id,
            set.Name,
            set.Thread,
            ledger.Expected,
            ledger.Out,
            ledger.Broken,
            ledger.New,
            set.OneTime,
            set.LeftHand,
            set.Lengths,
            set.Locking,
            ledger.Where,
            holes,
            JointOrder.JointsOf(set, _table.Engine),
            drawn,
            makers ? how!.Order : JointOrder.Tightened(set, _table.Engine, holes),
            makers,
            how,
            last?.Pass ?? 0,
            last?.By ?? "",
            eyes?.By ?? "",
            last?.Instrument ?? "",
            eyes?.Instrument ?? "",
            stands,
            [.. LinesOf(set).Select(l => Fasteners(l.Id)).OfType<NewFasteners>()]
        );
    }

    private BackTick Tick(string key, string text, BackActKind on, BackActKind off)
    {
        var last = _acts[key].LastOrDefault(a => a.Of == text && (a.Kind == on || a.Kind == off));
        return last?.Kind == on ? new BackTick(text, true, last.By) : new BackTick(text, false, "");
    }

    private BackFind Find(string key, Address place)
    {
        Debris[] lay = [.. _log.Debris.Where(d => d.Stands() && d.Place == place.Code && d.DoneBy == DoneBy.RunAgain)];
        Finding[] seen = [.. _log.Findings.Where(f => f.Stands() && f.Place == place.Code && f.DoneBy == DoneBy.RunAgain)];
        var clean = Tick(key, CleanKey(place.Code), BackActKind.Ticked, BackActKind.Unticked);
        var likely = DebrisSources
            .Of(lay, seen, _table, _knowledge)
            .Select(d => d.Sources.Count > 0 ? d.Sources[0] : null)
            .OfType<DebrisSource>()
            .DistinctBy(s => s.Id)
            .Select(s => Fact.Of("build.find.likely", ("source", s.Name), ("tell", s.Tell)))
            .ToArray();
        return new BackFind(
            CleanKey(place.Code),
            place.Code,
            place.Words,
            lay.Length + seen.Length,
            clean.Done,
            lay.Cast<CaseRecord>().Concat(seen).MaxBy(r => r.At)?.By ?? clean.By,
            likely.Length > 0 ? Fact.All(likely) : null
        );
    }

    private static string CleanKey(string place) => $"clean/{place}";

    /// <summary>Hours run since the first start, as somebody said last.</summary>
    public BackAct? Ran => _acts.SelectMany(g => g).Where(a => a is { Kind: BackActKind.Ran, Hours: not null }).MaxBy(a => (a.At, a.Id));

    private BackHours Hours(double due) => new(due, (double?)Ran?.Hours, Ran?.By ?? "", Ran?.At);

    private IEnumerable<BackFigure> Figures(AssemblyStep added, AskedFigure asked, IReadOnlyList<Address> goes)
    {
        if (_knowledge.Characteristic(asked.Of) is not { } known || !known.Applies.Fits(_table.Engine.Layout))
        {
            yield break;
        }

        // Of a step that puts parts in, what stands where they go; of an act of its own, all of its kinds.
        var at =
            goes.Count > 0 && added.With.Count > 0
                ? goes.Where(g => added.With.Contains(g.Kind.Id)).SelectMany(g => known.On.SelectMany(k => Kin.Around(_table, g, k)))
                : known.On.SelectMany(k => _table.OfKind(k));
        foreach (var place in at.DistinctBy(a => a.Code).OrderBy(a => a.Station).ThenBy(a => a.Code, StringComparer.Ordinal))
        {
            if ((added.Time == AssemblyTime.FollowUp ? Again(place, known, asked) : Figure(place, known, asked)) is { } figure)
            {
                yield return figure;
            }
        }
    }

    /// <summary>A test of arrival, taken again when it ran: beside how it was.</summary>
    private BackFigure? Again(Address place, KnownCharacteristic known, AskedFigure asked)
    {
        SheetFigure? At(Phase phase) => _gauge.Figures.FirstOrDefault(f => f.Place == place.Code && f.Characteristic == known.Id && f.Phase == phase);
        var (before, now) = (At(Phase.AsFound), At(Phase.AfterRun));
        if (before is null && now is null)
        {
            return null;
        }

        return new BackFigure(
            string.Join('/', known.Id, place.Code, asked.Station),
            known.Id,
            asked.Station,
            known.Name,
            place.Code,
            known.Quantity,
            now?.Value,
            now?.Expanded,
            now?.Limit ?? before?.Limit,
            now is null ? BackFigureStands.Missing : Against(now),
            Needed: true,
            Todo: null,
            now?.From,
            [],
            Phase.AfterRun,
            before is null ? null : Compared(before, now)
        );
    }

    private BeforeAfter Compared(SheetFigure before, SheetFigure? now) =>
        now is not null && FigureChange.Of(before, now) is { } change
            ? new BeforeAfter(before.Value, before.Expanded, change.Change, change.Doubt, change.Told(2, Unlike(now.Place, now.Characteristic)))
            : new BeforeAfter(before.Value, before.Expanded, null, null, Fact.Of("build.again.not-yet"));

    /// <summary>What was not alike when a figure was taken again; null where nothing is known to differ.</summary>
    private Fact? Unlike(string place, string characteristic)
    {
        var taken = GaugeLog.Active(_log.Readings).Where(r => r.Place == place && r.Characteristic == characteristic).ToLookup(r => r.Phase);
        if (taken[Phase.AsFound].LastOrDefault() is not { } before || taken[Phase.AfterRun].LastOrDefault() is not { } now)
        {
            return null;
        }

        Fact[] unlike =
        [
            .. before.Instrument == now.Instrument
                ? Array.Empty<Fact>()
                : [Fact.Of("build.again.another-gauge", ("before", before.Instrument), ("now", now.Instrument))],
            .. before.Temperature is { } b && now.Temperature is { } n && Math.Abs(b - n) > AsWarm
                ? [Fact.Of("build.again.not-as-warm", ("before", b), ("now", n))]
                : Array.Empty<Fact>(),
        ];
        return unlike.Length > 0 ? Fact.All(unlike) : null;
    }

    /// <summary>°C within which two tests count as taken alike. Ours.</summary>
    private const decimal AsWarm = 15;

    private BackFigure? Figure(Address place, KnownCharacteristic known, AskedFigure asked)
    {
        var now = asked.Station.Length > 0 ? null : _gauge.Now(place.Code, known.Id);
        double? value = now?.Value;
        double? expanded = now?.Expanded;
        if (asked.Station.Length > 0 && _log.PutTogether.LastOrDefault(r => Is(r, place.Code, known.Id) && r.Station == asked.Station) is { } put)
        {
            value = (double)put.Value;
        }

        string[] undone = [.. UndoneBy(place, known, asked).Distinct(StringComparer.Ordinal)];
        string[] of = undone is not [] || now is null ? undone : [.. NotOf(place, known, now)];
        var touched = Parts(place, known).Any(Touched);
        var needed = asked.Asked == AskedWhen.Always || touched || undone.Length > 0;
        var (stands, todo) = value is not null && undone.Length > 0 ? (BackFigureStands.Undone, null) : Stands(place, known, now, value, of);
        if (!needed && stands is BackFigureStands.Missing or BackFigureStands.NoLimit)
        {
            return null;
        }

        return new BackFigure(
            string.Join('/', known.Id, place.Code, asked.Station),
            known.Id,
            asked.Station,
            known.Name,
            place.Code,
            known.Quantity,
            value,
            expanded,
            now?.Limit ?? _limits.For(known.Id, place.Kind.Id, c => _gauge.Now(place.Code, c)?.Value),
            stands,
            needed,
            todo,
            now?.From,
            of,
            Phase.AfterWork,
            Before: null
        );
    }

    private (BackFigureStands Stands, Fact? Todo) Stands(Address place, KnownCharacteristic known, SheetFigure? now, double? value, string[] of)
    {
        if (value is not { } v)
        {
            return (BackFigureStands.Missing, null);
        }

        if (of.Length > 0)
        {
            return (BackFigureStands.Old, null);
        }

        if (known.Id == TurningJump.Characteristic)
        {
            return _jumps.GetValueOrDefault(place.Code) is { } jump
                ? (
                    BackFigureStands.Outside,
                    Fact.Of(
                        "build.figure.jump",
                        ("place", place.Code),
                        ("more", new Amount(jump.More, Quantity.Torque, 2)),
                        ("usual", new Amount(jump.Usual, Quantity.Torque, 2))
                    )
                )
                : (BackFigureStands.Inside, null);
        }

        if (known.Id == RingPosition)
        {
            return InLine(place, v) is { } other
                ? (BackFigureStands.Outside, Fact.Of("build.figure.in-line", ("other", other)))
                : (BackFigureStands.Inside, null);
        }

        var against = now is null ? BackFigureStands.NoLimit : Against(now);
        return (
            against,
            against == BackFigureStands.Outside ? Todo(known, now!)
            : against == BackFigureStands.Undecided ? now!.Decides
            : null
        );
    }

    private static BackFigureStands Against(SheetFigure figure) =>
        figure.Conformity switch
        {
            null => BackFigureStands.NoLimit,
            Conformity.Inside => BackFigureStands.Inside,
            Conformity.Outside => BackFigureStands.Outside,
            _ => BackFigureStands.Undecided,
        };

    /// <summary>How much a ring’s gap is to be filed, or another figure is out by.</summary>
    private static Fact? Todo(KnownCharacteristic known, SheetFigure now) =>
        now.Limit?.ServiceLeast is { } least && now.Value < least
            ? Fact.Of(
                known.Id == Characteristics.RingEndGap ? "build.figure.file" : "build.figure.less",
                ("by", new Amount(least - now.Value, known.Quantity, 2))
            )
        : now.Limit?.ServiceMost is { } most && now.Value > most
            ? Fact.Of("build.figure.more", ("by", new Amount(now.Value - most, known.Quantity, 2)))
        : null;

    /// <summary>Another ring of the piston whose gap stands in line with this one’s; null where none does.</summary>
    private string? InLine(Address ring, double angle) =>
        PartKinds
            .Rings.Where(k => k != ring.Kind.Id)
            .Select(k => _table.Find(k, ring.Station))
            .OfType<Address>()
            .FirstOrDefault(other =>
                _log.PutTogether.LastOrDefault(r => Is(r, other.Code, RingPosition) && r.Station == RingDrifts.Put) is { } its
                && Math.Abs(Circular.Drift((double)its.Value, angle)) < RingDrifts.InLine
            )
            ?.Code;

    private static bool Is(Reading reading, string place, string characteristic) =>
        reading.Place == place && reading.Characteristic == characteristic;

    /// <summary>Parts that make a figure up: what it is read on, and what the sums that it may be worked out by are taken from.</summary>
    private IEnumerable<Address> Parts(Address place, KnownCharacteristic known) =>
        known
            .Ways.SelectMany(w => w)
            .SelectMany(t => t.On)
            .Distinct(StringComparer.Ordinal)
            .Select(k => Kin.Of(_table, place, k))
            .OfType<Address>()
            .Prepend(place)
            .DistinctBy(a => a.Code);

    /// <summary>It is renewed or worked on.</summary>
    private bool Touched(Address place) =>
        In(place.Code)?.IsNew == true || _verdicts.GetValueOrDefault(place.Code) is { Action: not VerdictAction.Reuse };

    /// <summary>Of parts that are renewed or worked on, those of which a figure still has the size they were found with.</summary>
    private IEnumerable<string> NotOf(Address place, KnownCharacteristic known, SheetFigure now)
    {
        // Read with the parts together after work: of what goes in, whatever it is.
        var direct = known.Ways.Count == 0 || known.Ways.Any(w => w is [var only] && _gauge.Now(place.Code, only.Of)?.Phase > Phase.AsFound);
        if (now.Phase > Phase.AsFound && direct)
        {
            return [];
        }

        return Parts(place, known)
            .Where(Touched)
            .Where(p =>
                now.Phase == Phase.AsFound
                || !known.Ways.SelectMany(w => w).Where(t => t.On.Contains(p.Kind.Id)).Any(t => _gauge.Now(p.Code, t.Of)?.Phase > Phase.AsFound)
            )
            .Select(p => p.Code);
    }

    /// <summary>Places of parts for which a figure of what was put together no longer holds.</summary>
    private IEnumerable<string> UndoneBy(Address place, KnownCharacteristic known, AskedFigure asked)
    {
        if (LastRead(place.Code, known.Id) is { } read && known.Assembled)
        {
            // Read with the parts together: undone when one of them comes out, though the same goes in again.
            return Parts(place, known)
                .Concat(asked.UndoneBy.SelectMany(k => Kin.Around(_table, place, k)))
                .Select(p => p.Code)
                .Where(p => _moved[p].Any(a => a.Kind == BackActKind.TakenOut && a.At > read));
        }

        // Else the parts may come and go: another piece in the place of one that it was read on undoes it.
        return known
            .Ways.SelectMany(w => w)
            .SelectMany(t => t.On.Select(k => (Of: _knowledge.Characteristic(t.Of), Part: Kin.Of(_table, place, k))))
            .Append((Of: known, Part: place))
            .Where(t => t is { Of: not null, Part: not null })
            .SelectMany(t =>
                LastRead(t.Part!.Code, t.Of!.Id) is { } at
                    ? (t.Of.Assembled || t.Of.Between ? Parts(place, known) : [t.Part]).Where(p => Changed(p.Code) > at).Select(p => p.Code)
                    : []
            );
    }

    /// <summary>When a figure was last read on what was worked on or put together; null where it was not.</summary>
    private DateTimeOffset? LastRead(string place, string characteristic) => _log.PutTogether.LastOrDefault(r => Is(r, place, characteristic))?.At;

    /// <summary>When the piece came out in whose place there is another now; null where it is the first.</summary>
    private DateTimeOffset? Changed(string place)
    {
        BackAct? piece = null;
        DateTimeOffset? left = null;
        DateTimeOffset? changed = null;
        foreach (var act in _moved[place])
        {
            if (act.Kind == BackActKind.TakenOut)
            {
                left = act.At;
                continue;
            }

            if (piece is not null && (act.Tag, act.IsNew, act.Line) != (piece.Tag, piece.IsNew, piece.Line))
            {
                changed = left ?? act.At;
            }

            piece = act;
        }

        return changed;
    }

    private IEnumerable<BackStop> Stops(
        string key,
        IEnumerable<BackPart> parts,
        IEnumerable<BackSet> sets,
        IEnumerable<BackFigure> figures,
        IEnumerable<BackTick> ticks
    )
    {
        foreach (var part in parts)
        {
            if (part is { Scan: true, In: null })
            {
                yield return Stop(
                    key,
                    BackGate.Part,
                    part.Place,
                    part.Renew
                        ? Fact.Of("build.stop.no-new-one", ("place", part.Place), ("part", part.Name), ("why", part.RenewedAs))
                        : Fact.Of("build.stop.not-scanned", ("place", part.Place), ("part", part.Name)),
                    Fact.Of(part.Renew ? "build.stop.no-new-one.do" : "build.stop.not-scanned.do", ("place", part.Place)),
                    // What serves once is not left as it was.
                    mayPass: !part.Renew
                );
            }
            else if (part is { Renew: true, In: not null, InNew: false })
            {
                yield return Stop(
                    key,
                    BackGate.Condemned,
                    part.Place,
                    Fact.Of("build.stop.condemned", ("place", part.Place), ("part", part.Name), ("why", part.RenewedAs)),
                    Fact.Of("build.stop.condemned.do"),
                    mayPass: false
                );
            }
        }

        foreach (var stop in sets.SelectMany(s => Stops(key, s)))
        {
            yield return stop;
        }

        foreach (var figure in figures.Where(f => f.Stands != BackFigureStands.Inside))
        {
            yield return Stop(
                key,
                BackGate.Figure,
                figure.Key,
                Fact.Of(
                    "build.stop.figure",
                    ("figure", figure.Name),
                    ("place", figure.Place),
                    ("stands", figure.Stands),
                    ("thumb", figure.Limit?.IsRuleOfThumb == true ? Fact.Of("build.stop.by-a-thumb") : null),
                    ("todo", figure.Todo),
                    (
                        "since",
                        figure.Of.Count == 0
                            ? null
                            : Fact.Of(
                                figure.Stands == BackFigureStands.Undone ? "build.figure.out-since" : "build.figure.worked-on-since",
                                ("of", figure.Of)
                            )
                    )
                ),
                Fact.Of("build.stop.figure.do", ("stands", figure.Stands)),
                mayPass: true
            );
        }

        foreach (var tick in ticks.Where(t => !t.Done))
        {
            yield return Stop(
                key,
                BackGate.Tick,
                tick.Text,
                Fact.Of("build.stop.tick", ("tick", tick.Text)),
                Fact.Of("build.stop.tick.do"),
                mayPass: true
            );
        }
    }

    private IEnumerable<BackStop> Stops(string key, IEnumerable<BackFind> finds, BackHours? hours)
    {
        foreach (var find in finds.Where(f => f is { Recorded: 0, Clean: false }))
        {
            yield return Stop(
                key,
                BackGate.Find,
                find.Place,
                Fact.Of("build.stop.find", ("place", find.Place), ("part", find.Name)),
                Fact.Of("build.stop.find.do"),
                mayPass: true
            );
        }

        if (hours is not null && (hours.Run is not { } run || run < hours.Due))
        {
            yield return Stop(
                key,
                BackGate.Hours,
                "",
                Fact.Of("build.stop.hours", ("due", new Number(hours.Due)), ("run", hours.Run is { } so ? new Number(so) : null)),
                Fact.Of("build.stop.hours.do"),
                mayPass: true
            );
        }
    }

    private IEnumerable<BackStop> Stops(string key, BackSet set)
    {
        if (set.Out > 0)
        {
            yield return Stop(
                key,
                BackGate.Fasteners,
                set.Set,
                Fact.Of("build.stop.left-over", ("count", set.Out), ("set", set.Name), ("holes", EmptyOf(set))),
                Fact.Of("build.stop.left-over.do", ("where", set.Where)),
                mayPass: false
            );
        }

        if (set.Broken > 0)
        {
            yield return Stop(
                key,
                BackGate.Broken,
                set.Set,
                Fact.Of("build.stop.broken", ("count", set.Broken), ("set", set.Name)),
                Fact.Of("build.stop.broken.do"),
                mayPass: false
            );
        }

        if (set.Fresh && set.Out == 0 && set.New < set.Expected)
        {
            yield return Stop(
                key,
                BackGate.New,
                set.Set,
                Fact.Of("build.stop.not-new", ("count", set.Expected - set.New), ("set", set.Name)),
                Fact.Of("build.stop.not-new.do"),
                mayPass: false
            );
        }

        if (set.How is null)
        {
            yield return Stop(
                key,
                BackGate.Torque,
                set.Set,
                Fact.Of("build.stop.figure-missing", ("set", set.Name)),
                Fact.Of("build.stop.figure-missing.do"),
                mayPass: true
            );
        }
        else if (set.How.Passes.Count > set.Pass)
        {
            yield return Stop(
                key,
                BackGate.Tight,
                set.Set,
                Fact.Of("build.stop.not-tight", ("set", set.Name), ("pass", set.Pass + 1), ("passes", set.How.Passes.Count)),
                Fact.Of("build.stop.not-tight.do"),
                mayPass: false
            );
        }
        else if (_schools.TwoPeople && set.How.Passes.Count > 0 && set.CheckedBy.Length == 0)
        {
            yield return Stop(
                key,
                BackGate.Eyes,
                set.Set,
                Fact.Of("build.stop.eyes", ("set", set.Name), ("by", set.TightBy)),
                Fact.Of("build.stop.eyes.do"),
                mayPass: false
            );
        }
    }

    /// <summary>Holes that are empty, with the length that belongs in each; null where no map is kept.</summary>
    private static Fact[]? EmptyOf(BackSet set) =>
        set.Holes.All(h => h.State is null)
            ? null
            :
            [
                .. set
                    .Holes.Where(h => h.State is not null)
                    .Select(h => Fact.Of("build.hole", ("number", h.Number), ("length", h.Length is { } mm ? Amount.Length(mm, 1) : null))),
            ];

    private BackStop Stop(string key, BackGate gate, string of, Fact text, Fact remedy, bool mayPass)
    {
        var name = KeyOf(gate, of);
        var passed = mayPass ? _acts[key].LastOrDefault(a => a.Kind == BackActKind.Passed && a.Of == name) : null;
        return new BackStop(name, gate, text, remedy, mayPass, passed?.Why ?? "", passed?.By ?? "");
    }

    /// <summary>Under which a gate is passed.</summary>
    public static string KeyOf(BackGate gate, string of) => $"{gate.ToString().ToLowerInvariant()}/{of}";
}
