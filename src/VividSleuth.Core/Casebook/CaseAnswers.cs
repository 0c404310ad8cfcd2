using System.Collections.Concurrent;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Build;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Casebook;

/// <summary>How one place stands: what the lenses of the long section show.</summary>
/// <param name="Damage">0 looked and clean, 1–3 worst level seen, null nobody looked.</param>
/// <param name="Appears">Laid open or taken off by a recorded step, or something was recorded of it: worth a line in a list.</param>
/// <param name="Share">Share of a limit used up as found, of the figure that is worst off; of a part that was not measured before work, after it. Null without one.</param>
/// <param name="ShareAfter">The same after work; null where nothing was measured after it.</param>
public sealed record PlaceState(
    string Place,
    bool Tagged,
    bool Marked,
    Custody? Custody,
    int? Damage,
    double? Share,
    double? ShareAfter,
    bool Loud,
    VerdictAction? Verdict,
    int Photos,
    int Readings,
    bool Appears
);

/// <summary>Where the next thing is done.</summary>
/// <param name="Stage">Name of the stage, as in the addresses of the pages.</param>
/// <param name="Step">Id of a step of the strip; empty where it is none.</param>
/// <param name="Place">Address of the part; empty where it is about none.</param>
/// <param name="Sign">Id of the sign to look for; empty where it is none.</param>
public sealed record NextAt(string Stage, string Step = "", string Place = "", string Sign = "");

/// <summary>What comes next and what is loose, for someone who comes back after three weeks.</summary>
/// <param name="Why">Why it comes next.</param>
/// <param name="At">Where it is done.</param>
public sealed record Progress(
    Fact Next,
    Fact Why,
    NextAt At,
    Waits Waits,
    string Last,
    IReadOnlyList<LooseEnd> LooseEnds,
    int FastenersOut,
    DateTimeOffset? LastWritten,
    string LastBy
);

/// <summary>All that the program works out of a case. One call, used by server, command line and dossier alike.</summary>
public sealed record CaseAnswers(
    LongSection Section,
    IReadOnlyList<PlaceState> Places,
    IReadOnlyList<StationState> Stations,
    Progress Progress,
    CompressionTest Compression,
    StripPlan Strip,
    LookSummary Look,
    GaugeSheet Gauge,
    TraceAnswer Trace,
    VerdictBoard Verdict,
    FitBoard Fits,
    IReadOnlyList<OptionTable> Options,
    OrderBoard Order,
    BuildPlan? Build = null
)
{
    /// <param name="today">The day by which a part sent out is overdue.</param>
    /// <param name="schools">How the shop does what practitioners disagree about; null takes the usual.</param>
    public static CaseAnswers Of(
        EngineCase engineCase,
        KnowledgeBase knowledge,
        IReadOnlyList<Instrument> instruments,
        DateOnly today,
        Schools? schools = null,
        Supplies? supplies = null
    ) => new CaseReader(engineCase, knowledge, instruments, today, schools, supplies).All();
}

/// <summary>
/// Works out what a case comes to, room by room and each only once, when it is first asked for. Made for one state of a case, which nobody
/// changes afterwards; several threads may ask at once.
/// </summary>
public sealed class CaseReader
{
    private readonly DateOnly _today;
    private readonly ConcurrentDictionary<string, CaseReader> _with = new(StringComparer.Ordinal);
    private readonly Lazy<AddressTable> _table;
    private readonly Lazy<EngineCase> _here;
    private readonly Lazy<LongSection> _section;
    private readonly Lazy<CompressionTest> _compression;
    private readonly Lazy<StripBook> _book;
    private readonly Lazy<StripPlan> _strip;
    private readonly Lazy<GaugeSheet> _gauge;
    private readonly Lazy<LookSummary> _look;
    private readonly Lazy<TraceAnswer> _trace;
    private readonly Lazy<Cracks> _cracks;
    private readonly Lazy<IReadOnlyList<MachiningPlan>> _plans;
    private readonly Lazy<IReadOnlyList<VerdictAdvice>> _advice;
    private readonly Lazy<VerdictBoard> _verdict;
    private readonly Lazy<FitBoard> _fits;
    private readonly Lazy<IReadOnlyList<OptionTable>> _options;
    private readonly Lazy<OrderPlanner> _orders;
    private readonly Lazy<OrderBoard> _order;
    private readonly Lazy<IReadOnlyList<PlaceState>> _places;
    private readonly Lazy<IReadOnlyList<StationState>> _stations;
    private readonly Lazy<Progress> _progress;

    /// <param name="today">The day by which a part sent out is overdue.</param>
    /// <param name="schools">How the shop does what practitioners disagree about; null takes the usual.</param>
    /// <param name="supplies">What the shop orders with; null where nothing is known of it.</param>
    /// <param name="with">Letter of the candidate that is thought into the engine; empty for the engine as it is.</param>
    public CaseReader(
        EngineCase engineCase,
        KnowledgeBase knowledge,
        IReadOnlyList<Instrument> instruments,
        DateOnly today,
        Schools? schools = null,
        Supplies? supplies = null,
        string with = ""
    )
    {
        Case = engineCase;
        Knowledge = knowledge;
        Instruments = instruments;
        Schools = schools ?? Schools.Usual;
        Supplies = supplies ?? Supplies.None;
        _today = today;
        _table = new(() => engineCase.Places(with));
        _here = new(() => engineCase.Within(Table));
        _section = new(() => LongSection.Of(Table));
        _compression = new(() =>
            CompressionTest.Evaluate(
                Here.GaugeLog().Compression(Table),
                Table.Engine,
                new LimitBook(Here.Limits, knowledge, Schools, Table.Engine.Layout).Compression()
            )
        );
        _book = new(() => new StripBook(Here.StripLog(), Table, knowledge));
        _strip = new(() => Refitted.From(StripPlanner.Plan(Book), Case.BackActs, Case.BuildTasks, Table));
        _gauge = new(() =>
            SheetBuilder.Build(Here.GaugeLog(), Table, knowledge, instruments, schools) with
            {
                Due = DueRounds.Of(Here.GaugeLog(), Table, knowledge, LaidOpen(), OffNow(), Parting(), Unmeasured()),
            }
        );
        _look = new(() =>
            LookSummary.Of(
                Here.LookLog(),
                Table,
                knowledge,
                [.. Gauge.Figures.Select(f => new MeasuredAt(f.Characteristic, f.Place, f.Value))],
                Strip
            )
        );
        _trace = new(() =>
            Tracer.Answer(
                Here.TraceLog() with
                {
                    Odds = [.. Schools.Odds.Where(o => o.Holds(engineCase.EngineName))],
                },
                Table,
                knowledge,
                [.. Gauge.Signs, .. PatternSigns.Of(Here.TraceLog().Findings, Table, knowledge, Gauge)],
                new OnTheBench(
                    Strip.Steps.FirstOrDefault(s => s.Id == Strip.Next),
                    place => Digger.MinutesTo(place, Book, Table.Engine),
                    Book.Destroyed
                )
            )
        );
        _cracks = new(() => new Cracks(Here.Findings, Here.Examinations, Table, knowledge));
        _plans = new(() =>
            MachiningPlanner.Plan(Here.VerdictLog(), Table, knowledge, Gauge, Schools, Cracks, [.. WithPistons().Select(c => With(c.Letter).Gauge)])
        );
        _advice = new(() =>
            VerdictAdviser.Advise(Here.VerdictLog(), Table, knowledge, Gauge, Schools, Cracks, Plans, with.Length == 0 ? Trace : null, LaidOpen())
        );
        _verdict = new(() =>
            new VerdictBoard(
                VerdictGroups.Of(Advice, Here.VerdictLog(), Table, knowledge, Plans, with.Length == 0 ? Trace : null),
                [.. Advice.Where(a => a.Told)],
                Plans
            )
        );
        _fits = new(() =>
            Fitter.Fit(
                new Combined(engineCase.GaugeLog(), engineCase.Places(), knowledge, instruments, Schools),
                engineCase.Places(),
                OrderPlanner.StillHere(engineCase.Candidates, engineCase.OrderLines, engineCase.OrderMoves),
                engineCase.Parts,
                letter => With(letter).Plans,
                letter => With(letter).Advice,
                RingAdviser.Advise(Here.VerdictLog(), Table, knowledge, Gauge, Schools, Advice, Plans),
                new PriceBook(engineCase.Offers, Supplies.Exchange)
            )
        );
        _options = new(() =>
            OptionJudge.Judge(engineCase.Options, engineCase.Choices, engineCase.OptionAnswers, knowledge, Trace, engineCase.Conclusions)
        );
        _orders = new(() =>
            new OrderPlanner(
                engineCase.OrderLog(),
                Table,
                knowledge,
                Schools,
                Supplies,
                Advice,
                Plans,
                Fits,
                Cracks,
                Strip,
                letter => With(letter).Gauge,
                today
            )
        );
        _order = new(() => Orders.Board());
        _places = new(() => States(Here, Table, Gauge, Strip));
        _stations = new(() => StationState.Of(Table, Places, Here.Findings, Gauge.Figures));
        _progress = new(() => ProgressOf(engineCase, Table, Strip, _trace, today, Schools.Mixing));
    }

    /// <summary>
    /// The engine with a candidate thought into it: its places stand in for those that it would take, and Look, Gauge and advice are worked out with
    /// what was seen and measured of it. Strip and Trace are of the engine as it came; nobody asks them of a candidate.
    /// </summary>
    /// <exception cref="ProblemException">There is no such candidate.</exception>
    public CaseReader With(string letter) =>
        letter.Length == 0 ? this
        : Case.Candidates.Exists(c => c.Letter == letter)
            ? _with.GetOrAdd(letter, l => new CaseReader(Case, Knowledge, Instruments, _today, Schools, Supplies, l))
        : throw new ProblemException(
            Problem.Of(
                "with",
                "engines.no-such-candidate",
                ("letter", letter),
                ("letters", Case.Candidates.Where(c => c.Stands()).Select(c => c.Letter))
            )
        );

    /// <summary>As <see cref="With"/>, of the candidate whose part it is.</summary>
    public CaseReader Of(Address place) => With(place.Of);

    /// <summary>The case with what was recorded of the engine as the table has it: of candidates only the one that is thought into it.</summary>
    public EngineCase Here => _here.Value;

    public EngineCase Case { get; }

    public KnowledgeBase Knowledge { get; }

    public IReadOnlyList<Instrument> Instruments { get; }

    public Schools Schools { get; }

    public Supplies Supplies { get; }

    public AddressTable Table => _table.Value;

    public LongSection Section => _section.Value;

    public CompressionTest Compression => _compression.Value;

    /// <summary>The strip as it stands: what a write to it is checked against.</summary>
    public StripBook Book => _book.Value;

    public StripPlan Strip => _strip.Value;

    public GaugeSheet Gauge => _gauge.Value;

    /// <summary>Figures of one characteristic at one place, as the sheet has them; the sheet is not worked out for what was merely read.</summary>
    public IReadOnlyList<SheetFigure> Figures(string place, string characteristic) =>
        !_gauge.IsValueCreated && Knowledge.Characteristic(characteristic) is { Derived: false }
            ? SheetBuilder.Of(Here.GaugeLog(), Table, Knowledge, Instruments, Schools, place, characteristic)
            : [.. Gauge.Figures.Where(f => f.Place == place && f.Characteristic == characteristic)];

    public LookSummary Look => _look.Value;

    public TraceAnswer Trace => _trace.Value;

    /// <summary>Cracks that condemn a part, those that a test cleared left out.</summary>
    public Cracks Cracks => _cracks.Value;

    public IReadOnlyList<MachiningPlan> Plans => _plans.Value;

    /// <summary>Advice for every place that is decided on.</summary>
    public IReadOnlyList<VerdictAdvice> Advice => _advice.Value;

    public VerdictBoard Verdict => _verdict.Value;

    /// <summary>What fits what, whichever candidate is thought into the engine.</summary>
    public FitBoard Fits => _fits.Value;

    /// <summary>Options held against each other, by scope.</summary>
    public IReadOnlyList<OptionTable> Options => _options.Value;

    /// <summary>The order: what a move of it is checked against.</summary>
    public OrderPlanner Orders => _orders.Value;

    public OrderBoard Order => _order.Value;

    public IReadOnlyList<PlaceState> Places => _places.Value;

    /// <summary>The tasks that arise, with those that were added; what a write to them is checked against.</summary>
    /// <param name="without">Id of a record that is left out.</param>
    public Arisen Arises(ShopWork work, ShopClocks clocks, DateTimeOffset now, Guid? without = null)
    {
        var log = BuildLog with { Tasks = [.. Case.BuildTasks.Where(t => t.Id != without)] };
        return Arising.Of(log, Table, Knowledge, Strip, Gauge, Advice, Order, BackBook, work, clocks, now);
    }

    /// <summary>What was done on the way back, and what each of its steps still asks for.</summary>
    public BackBook BackBook => new(BuildLog, Table, Knowledge, Gauge, Order, Schools);

    private BuildLog BuildLog => Case.BuildLog(AssemblySteps.Of(Case.Layout, Book.Script, Knowledge, Schools.RunningIn));

    /// <summary>When it runs again, as things stand at a moment.</summary>
    /// <param name="worth">What each wait is worth is reckoned too.</param>
    public BuildPlan BuildAt(ShopWork work, ShopClocks clocks, DateTimeOffset now, bool worth = true) =>
        BuildPlanner.Plan(Arises(work, clocks, now), Case.BuildPromises, work, now, worth);

    /// <summary>What a dossier is written from.</summary>
    /// <param name="lessons">What the shop learned on engines of the kind.</param>
    /// <param name="build">When it runs again; null where that is not told.</param>
    /// <param name="day">When it is drawn up.</param>
    public DossierMatter DossierMatter(
        IReadOnlyList<string> lessons,
        IReadOnlyDictionary<Guid, IReadOnlyList<PartStay>> stays,
        IReadOnlyList<EarlierCase> earlier,
        BuildPlan? build,
        DateOnly day
    ) =>
        new(
            new DossierEngine(Case.Title, Case.EngineName, Case.Serial, Case.Hours, Case.Owner, Case.Complaint, Case.Past),
            Table,
            Knowledge,
            Case.Findings,
            Case.Photos,
            Case.PhotoMarks,
            Case.PictureMeasures,
            Case.Sounds,
            Case.Debris,
            Case.Examinations,
            Case.Readings,
            Case.Parts,
            Case.Stows,
            Case.Steps,
            Case.Verdicts,
            Case.Conclusions,
            Case.BackActs,
            ReadWith,
            lessons,
            stays,
            earlier,
            Strip,
            Gauge,
            Compression.Says,
            Trace,
            Options,
            Order,
            build,
            day
        );

    /// <summary>What this case says to a later one.</summary>
    /// <param name="sameEngine">Whether the later one is of this very engine.</param>
    public EarlierCase AsEarlier(bool sameEngine)
    {
        var own = Case.Conclusions.Where(c => c.Stands()).OrderBy(c => c.At).ThenBy(c => c.Id).LastOrDefault();
        return new EarlierCase(
            Case.Id,
            Case.Title,
            sameEngine,
            DateOnly.FromDateTime((Progress.LastWritten ?? Case.At).UtcDateTime),
            Case.Hours,
            own is { Cause.Length: > 0 } ? Knowledge.Cause(own.Cause)?.Name ?? own.Cause : null,
            own?.Place ?? "",
            own?.Confidence,
            sameEngine ? [.. Gauge.Figures.Where(f => f.Phase == Phase.AsFound)] : []
        );
    }

    /// <summary>Instruments that were read with, and those that they were set with.</summary>
    public IReadOnlyList<Instrument> ReadWith
    {
        get
        {
            var used = Case.Readings.Select(r => r.Instrument).ToHashSet(StringComparer.Ordinal);
            used.UnionWith(Instruments.Where(i => used.Contains(i.Name)).Select(i => i.SetWith).ToArray());
            return [.. Instruments.Where(i => used.Contains(i.Name))];
        }
    }

    /// <summary>Cylinders, mains and banks, the worst of each first.</summary>
    public IReadOnlyList<StationState> Stations => _stations.Value;

    public Progress Progress => _progress.Value;

    /// <param name="build">The plan as of a moment, where one is asked for.</param>
    public CaseAnswers All(BuildPlan? build = null) =>
        new(Section, Places, Stations, Progress, Compression, Strip, Look, Gauge, Trace, Verdict, Fits, Options, Order, build);

    /// <summary>Places that a recorded step laid open or took off; of a candidate all that it brings.</summary>
    private IReadOnlySet<string> LaidOpen() =>
        Table.With.Length == 0
            ? Strip.LaidOpen(Table)
            : Table.All.Where(a => a.Of == Table.With).Select(a => a.Code).ToHashSet(StringComparer.Ordinal);

    /// <summary>Places of the engine that are off.</summary>
    private HashSet<string> OffNow() => Strip.Off.Select(o => o.Place).ToHashSet(StringComparer.Ordinal);

    /// <summary>Steps that can be done now; a candidate has none.</summary>
    private IReadOnlyList<Parting> Parting() =>
        Table.With.Length > 0
            ? []
            :
            [
                .. Strip
                    .Steps.Where(s => s is { State: null, Beyond: false, ClosedBy.Length: 0, BlockedBy.Count: 0 })
                    .OrderBy(s => s.Id == Strip.Next ? 0 : 1)
                    .Select(s => new Parting(s.Id, s.Releases)),
            ];

    /// <summary>Places that are replaced anyway, where the shop does not measure those.</summary>
    private HashSet<string> Unmeasured() =>
        Schools.MeasureReplaced
            ? []
            : Here.Verdicts.Where(v => v.Stands() && v.Action == VerdictAction.Replace).Select(v => v.Place).ToHashSet(StringComparer.Ordinal);

    /// <summary>Candidates that bring pistons; a candidate’s own pistons are in its engine already.</summary>
    private IEnumerable<Candidate> WithPistons() =>
        Table.With.Length > 0 ? [] : Case.Candidates.Where(c => c.Stands() && CandidateSets.KindsOf(c.What).Contains(PartKinds.Piston));

    private static IReadOnlyList<PlaceState> States(EngineCase c, AddressTable table, GaugeSheet gauge, StripPlan strip)
    {
        var open = strip.LaidOpen(table);
        var parts = c.Parts.Where(p => p.Stands()).ToLookup(p => p.Place, StringComparer.Ordinal);
        var findings = c.Findings.Where(f => f.Stands()).ToLookup(f => f.Place, StringComparer.Ordinal);
        var figures = gauge.Figures.ToLookup(f => f.Place, StringComparer.Ordinal);
        var verdicts = c.Verdicts.Where(v => v.Stands()).ToLookup(v => v.Place, StringComparer.Ordinal);
        var photos = c.Photos.Where(p => p.Stands()).ToLookup(p => p.Place, StringComparer.Ordinal);
        var readings = GaugeLog.Active(c.Readings).ToLookup(r => r.Place, StringComparer.Ordinal);
        var loud = gauge.Grades.Where(g => g.Loud).Select(g => g.Place).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. table.All.Select(a =>
            {
                var part = parts[a.Code].MaxBy(p => p.At);
                var found = WorstShare(figures[a.Code].Where(f => f.Phase == Phase.AsFound));
                var after = WorstShare(figures[a.Code].Where(f => f.Phase != Phase.AsFound));
                return new PlaceState(
                    a.Code,
                    part is not null,
                    part is not null && part.Method != MarkMethod.None,
                    part?.Custody,
                    findings[a.Code].Select(f => (int?)f.Level).Max(),
                    found ?? after,
                    after,
                    loud.Contains(a.Code),
                    verdicts[a.Code].MaxBy(v => v.At)?.Action,
                    photos[a.Code].Count(),
                    readings[a.Code].Count(),
                    open.Contains(a.Code)
                        || part is not null
                        || findings.Contains(a.Code)
                        || readings.Contains(a.Code)
                        || photos.Contains(a.Code)
                        || verdicts.Contains(a.Code)
                );
            }),
        ];
    }

    /// <summary>Of shares of a limit the one that is worst off: below the least, which is less than nothing, is worse than half used up.</summary>
    private static double? WorstShare(IEnumerable<SheetFigure> figures) => figures.Select(f => f.Share).MaxBy(s => s < 0 ? 1 - s : s);

    private static Progress ProgressOf(EngineCase c, AddressTable table, StripPlan strip, Lazy<TraceAnswer> trace, DateOnly today, Mixing mixing)
    {
        var last = c.Records().Append(c).MaxBy(r => r.At);
        var step = strip.Steps.FirstOrDefault(s => s.Id == strip.Next);
        var (next, why, at) =
            step is not null ? (Fact.Of("casebook.strip", ("step", step.Name)), step.Why, new NextAt("strip", Step: step.Id))
            : trace.Value.NextChecks is [var check, ..]
                ? (
                    Fact.Of("casebook.look", ("sign", check.Name), ("place", check.Place)),
                    Fact.Of("casebook.why-look", ("cause", check.About), ("now", new Percent(check.Now)), ("then", new Percent(check.IfPresent))),
                    new NextAt("look", Place: check.Place, Sign: check.Sign)
                )
            : (Fact.Of("casebook.verdict-decide-part-part"), Fact.Of("casebook.why-decide"), new NextAt("verdict"));
        var done = c.Steps.Where(s => s.Stands()).MaxBy(s => s.At);
        var words = done is null ? "" : strip.Steps.FirstOrDefault(s => s.Id == done.Step)?.Name ?? done.Step;
        return new Progress(
            next,
            why,
            at,
            Waits.Of(c, strip),
            words,
            LooseEnds.Of(c, table, strip, today, mixing),
            strip.FastenersOut,
            last?.At,
            last?.By ?? ""
        );
    }
}
