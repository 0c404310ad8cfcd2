using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>The sheet while it is being worked out: what it is worked out of, and the figures, notes and signs so far. Lengths in mm.</summary>
internal sealed class SheetDraft
{
    private readonly List<SheetFigure> _figures = [];
    private readonly Dictionary<(string Place, string Characteristic, Phase Phase), SheetFigure> _byKey = [];

    public SheetDraft(GaugeLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<Instrument> instruments, Schools? schools)
    {
        Log = log;
        Table = table;
        Knowledge = knowledge;
        Instruments = instruments;
        Schools = schools ?? Schools.Usual;
        Book = new ReadingBook(log, table, knowledge, instruments, Schools);
        Limits = new LimitBook(log.Limits, knowledge, Schools, table.Engine.Layout);
        Sizes = new SizeBook(knowledge, log.Sizes, Schools.Steps);
    }

    public GaugeLog Log { get; }

    public AddressTable Table { get; }

    public KnowledgeBase Knowledge { get; }

    public IReadOnlyList<Instrument> Instruments { get; }

    public Schools Schools { get; }

    public ReadingBook Book { get; }

    public LimitBook Limits { get; }

    public SizeBook Sizes { get; }

    public IReadOnlyList<SheetFigure> Figures => _figures;

    public List<Fact> Notes { get; } = [];

    /// <summary>A figure that was worked out already; null where there is none.</summary>
    public SheetFigure? Worked(string place, string id, Phase phase) =>
        _byKey.GetValueOrDefault((place, id, phase)) is { Derived: true } f ? f : null;

    /// <summary>A part's figure of the phase; what no work touched stays as it was found.</summary>
    public Estimate? Whole(Address? place, string id, Phase phase) =>
        place is null ? null : phase.Back().Select(p => Book.Whole(place.Code, id, p)).FirstOrDefault(e => e is not null);

    /// <summary>Adds a figure that was worked out, where the knowledge has its characteristic.</summary>
    public void Add(Address place, string id, Phase phase, Estimate value, Fact from)
    {
        if (Knowledge.Characteristic(id) is { } entry)
        {
            Add(place, entry, phase, value, from, derived: true);
        }
    }

    /// <param name="from">How it came about, with the figures put in.</param>
    /// <param name="derived">True where it was worked out of others.</param>
    public void Add(Address place, KnownCharacteristic entry, Phase phase, Estimate value, Fact from, bool derived)
    {
        var limit = OfGrade(entry.Id, value.Value, Limits.For(entry.Id, place.Kind.ReadAs, id => SizeOf(place, id, phase)));
        var measured = value.AsMeasured();
        Conformity? conformity = null;
        Conformity? asNew = null;
        double? share = null;
        Fact? decides = null;
        if (limit is not null && (limit.ServiceLeast is not null || limit.ServiceMost is not null))
        {
            conformity = DecisionRule.Decide(measured, limit.ServiceLeast, limit.ServiceMost);
            asNew =
                limit.Wear is not null && (limit.Least is not null || limit.Most is not null)
                    ? DecisionRule.Decide(measured, limit.Least, limit.Most)
                    : null;
            share = Share(value.Value, limit);
            if (conformity == Conformity.Undecided)
            {
                decides = Deciding.Of(value, limit, entry, derived ? null : Book.Cells(place.Code, entry.Id, phase), Instruments, Book);
            }
        }

        var figure = new SheetFigure(
            place.Code,
            entry.Id,
            entry.Name,
            entry.Quantity,
            phase,
            value.Value,
            value.Expanded,
            limit,
            conformity,
            asNew,
            share,
            from,
            decides,
            derived
        )
        {
            Estimate = value,
        };
        _figures.Add(figure);
        _byKey[(place.Code, entry.Id, phase)] = figure;
    }

    /// <summary>
    /// The limit of a ground journal is that of the standard one less its undersize (common practice, no source): a shaft properly ground is
    /// not out of limits.
    /// </summary>
    private AppliedLimit? OfGrade(string characteristic, double value, AppliedLimit? limit)
    {
        if (characteristic is not (Characteristics.PinDiameter or Characteristics.MainDiameter) || limit?.Nominal is not { } nominal)
        {
            return limit;
        }

        var journal = characteristic == Characteristics.PinDiameter ? PartKinds.Crankpin : PartKinds.MainJournal;
        var grade = Sizes.Of(journal).OfJournal((decimal)nominal, (decimal)value);
        var under = (double)grade.Under;
        return under > 0
            ? limit with
            {
                Nominal = nominal - under,
                Least = limit.Least - under,
                Most = limit.Most - under,
                Wear = limit.Wear - under,
                SourceText = Fact.Of("gauge.limit-less-grade", ("source", limit.SourceText), ("grade", grade.Name)),
            }
            : limit;
    }

    /// <summary>Share of what may be worn that is worn: 0 as new, 1 at the limit.</summary>
    private static double? Share(double value, AppliedLimit limit)
    {
        if (limit.Wear is { } wear)
        {
            var start = (limit.WearsLarger ? limit.Most : limit.Least) ?? limit.Nominal;
            return start is { } s && Math.Abs(wear - s) > 0 ? Math.Max(0, (value - s) / (wear - s)) : null;
        }

        return limit switch
        {
            { Least: { } l, Most: { } m } when m > l => (value - l) / (m - l),
            { Most: { } m } when m > 0 => value / m,
            _ => null,
        };
    }

    /// <summary>Size at the place that a rule of thumb is a share of; the manual's where it was not measured.</summary>
    private double? SizeOf(Address place, string id, Phase phase)
    {
        foreach (var kind in Knowledge.Characteristic(id)?.On ?? [])
        {
            if (Kin.Of(Table, place, kind) is { } at)
            {
                return Whole(at, id, phase)?.Value ?? (double?)Limits.Nominal(id, kind);
            }
        }

        return null;
    }
}
