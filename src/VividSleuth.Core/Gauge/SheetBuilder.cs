using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Works out the sheet: figures by station with their doubt, sums of them such as clearances, shape, grades, and the signs they amount to.
/// What was found and what is after work stand beside each other; signs come from what was found alone. Lengths in mm.
/// </summary>
public sealed class SheetBuilder
{
    public const string PinDiameter = "crankpin-diameter";
    public const string MainDiameter = "main-journal-diameter";
    public const string HousingBore = "rod-housing-bore";
    public const string ShellWall = "shell-wall";
    public const string ShellInside = "shell-inside-diameter";
    public const string BigEndClearance = "big-end-clearance";
    public const string MainClearance = "main-clearance";
    public const string RoundnessOfPin = "crankpin-out-of-round";
    public const string Compression = "compression";
    public const string BoreDiameter = "bore-diameter";

    /// <summary>A reading says at most this much for or against a sign: instruments are also misread.</summary>
    private const double Slip = 0.002;

    /// <summary>A rule of thumb is itself in doubt by about this share of its value.</summary>
    private const double ThumbDoubt = 0.2;

    /// <summary>Probability from which a grade is not ruled out by the journal’s own size.</summary>
    private const double MayBe = 0.1;

    private static readonly IReadOnlyCollection<string> Nameless = [""];
    private static readonly IReadOnlyList<string> GappedRings = ["ring-top", "ring-second"];

    private readonly GaugeLog _log;
    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly IReadOnlyList<Instrument> _instruments;
    private readonly Schools _schools;
    private readonly ReadingBook _book;
    private readonly LimitBook _limits;

    private readonly List<SheetFigure> _figures = [];
    private readonly Dictionary<(string Place, string Characteristic, Phase Phase), SheetFigure> _byKey = [];
    private readonly List<Profile> _profiles = [];
    private readonly List<GradeCheck> _grades = [];
    private readonly List<MeasuredSign> _signs = [];
    private readonly List<string> _notes = [];

    public SheetBuilder(GaugeLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<Instrument> instruments, Schools? schools = null)
    {
        _log = log;
        _table = table;
        _knowledge = knowledge;
        _instruments = instruments;
        _schools = schools ?? Schools.Usual;
        _book = new ReadingBook(log, table, knowledge, instruments, _schools);
        _limits = new LimitBook(log.Limits, knowledge, _schools);
    }

    public GaugeSheet Build()
    {
        var order = _table.All.Select((a, i) => (a.Code, i)).ToDictionary(x => x.Code, x => x.i, StringComparer.Ordinal);
        foreach (
            var (place, id, phase) in _book
                .Measured.OrderBy(k => order[k.Place])
                .ThenBy(k => k.Characteristic, StringComparer.Ordinal)
                .ThenBy(k => k.Phase)
        )
        {
            var entry = _knowledge.Characteristic(id)!;
            if (id == Compression || entry.Derived)
            {
                continue;
            }

            // Where a gap was put is no measure of where it is.
            var station = id == RingDrifts.Position ? RingDrifts.Found : "";
            if (_book.Whole(place, id, phase, station: station) is not { } whole)
            {
                continue;
            }

            Add(_table.Find(place)!, entry, phase, whole, Told(_book.Cells(place, id, phase)), derived: false);
        }

        foreach (var phase in Enum.GetValues<Phase>())
        {
            Shapes(phase);
            Sums(phase);
            WorkOut(phase);
        }

        Grades(PartKinds.Rod, PartKinds.RodShellUpper, PartKinds.RodShellLower, PartKinds.Crankpin, PinDiameter, "size-mismatch");
        Grades(PartKinds.MainJournal, "main-shell-upper", "main-shell-lower", PartKinds.MainJournal, MainDiameter, null);
        Signs();
        DeckSigns();
        CompressionSigns();
        GapSchool();
        return new GaugeSheet(
            [.. _knowledge.Characteristics.Where(c => !c.Derived && c.Applies.Fits(_table.Engine.Layout)).Select(c => c.Id)],
            _figures,
            _profiles,
            _grades,
            Machining.Of(_table, _book, _limits, _schools, new Cracks(_log.Findings, _table, _knowledge)),
            RingDrifts.Of(_table, _book),
            Weights.Of(_table, _book),
            Trends(),
            _signs,
            _notes,
            _limits.Nominal(PinDiameter, PartKinds.Crankpin)
        );
    }

    // —— shape ——

    private void Shapes(Phase phase)
    {
        foreach (var (place, id, _) in _book.Measured.Where(k => k.Phase == phase).ToArray())
        {
            var entry = _knowledge.Characteristic(id)!;
            var cells = _book.Cells(place, id, phase);
            if (cells.Count < 2 || (entry.Directions.Count == 0 && entry.Stations.Count == 0) || entry.Quantity != Quantity.Length)
            {
                continue;
            }

            var at = _table.Find(place)!;
            var round = OutOfRound(cells, entry);
            var taper = Taper(cells);
            var stem = id.EndsWith("-diameter", StringComparison.Ordinal) ? id[..^"-diameter".Length] : id;
            if (round is { } r && _knowledge.Characteristic(stem + "-out-of-round") is { } roundEntry)
            {
                var toward = r.Toward is { } d ? $", greatest at {d:0}°" : "";
                var where = r.Station.Length > 0 ? $" at {r.Station}" : "";
                Add(at, roundEntry, phase, r.Value, $"{r.Most:0.000} − {r.Least:0.000}{where}{toward}", derived: true);
            }

            if (taper is { } t && _knowledge.Characteristic(stem + "-taper") is { } taperEntry)
            {
                Add(
                    at,
                    taperEntry,
                    phase,
                    t.Value,
                    $"{t.Most.At.Value:0.000} {t.Most.Station} − {t.Least.At.Value:0.000} {t.Least.Station}",
                    derived: true
                );
            }

            var unworn = Unworn(at, entry, cells, phase);
            if (unworn is { } u && _knowledge.Characteristic(stem + "-wear") is { } wearEntry)
            {
                var grows = at.Kind.Id is PartKinds.Bore;
                var worst = grows ? cells.MaxBy(c => c.At.Value)! : cells.MinBy(c => c.At.Value)!;
                var wear = grows ? worst.At - u.Size : u.Size - worst.At;
                Add(
                    at,
                    wearEntry,
                    phase,
                    wear,
                    $"{worst.At.Value:0.000} {worst.Station} {worst.Direction} against {u.Size.Value:0.000} unworn ({u.Words})",
                    derived: true
                );
            }

            if (cells.Any(c => c.Station.Length > 0 || c.Direction.Length > 0))
            {
                _profiles.Add(
                    new Profile(
                        place,
                        id,
                        phase,
                        [.. entry.Stations.Count > 0 ? entry.Stations : Nameless],
                        [.. entry.Directions.Values],
                        [
                            .. (entry.Stations.Count > 0 ? entry.Stations : Nameless).Select(s =>
                                (IReadOnlyList<double?>)
                                    [
                                        .. (entry.Directions.Count > 0 ? entry.Directions.Keys : Nameless).Select(d =>
                                            cells.FirstOrDefault(c => c.Station == s && c.Direction == d)?.At.Value
                                        ),
                                    ]
                            ),
                        ],
                        taper?.Value.Value,
                        round?.Value.Value,
                        round?.Toward,
                        unworn?.Size.Value
                    )
                );
            }
        }
    }

    /// <summary>Least round station: greatest less least of its directions. The instrument's own error cancels in the difference.</summary>
    private static (Estimate Value, double Most, double Least, string Station, double? Toward)? OutOfRound(
        IReadOnlyList<Cell> cells,
        CharacteristicEntry entry
    )
    {
        if (entry.Directions.Count < 2)
        {
            return null;
        }

        (Estimate Value, double Most, double Least, string Station, double? Toward)? worst = null;
        foreach (var station in cells.GroupBy(c => c.Station, StringComparer.Ordinal).Where(g => g.Count() > 1))
        {
            var most = station.MaxBy(c => c.At.Value)!;
            // Of equal ones two different are taken: their doubt is that of two readings.
            var least = station.Where(c => c != most).MinBy(c => c.At.Value)!;
            var known = station.All(c => entry.Directions.ContainsKey(c.Direction));
            var value = most.At - least.At;
            double? toward = null;
            if (known && value.Value > 0)
            {
                // The ellipse tells only which way: a lobed bore is out of round by more than it.
                toward = FittedEllipse.Through([.. station.Select(c => (entry.Directions[c.Direction], c.At.Value))]).Direction;
            }

            if (worst is null || value.Value > worst.Value.Value.Value)
            {
                worst = (value, most.At.Value, least.At.Value, station.Key, toward);
            }
        }

        return worst;
    }

    private static (Estimate Value, Cell Most, Cell Least)? Taper(IReadOnlyList<Cell> cells)
    {
        (Estimate Value, Cell Most, Cell Least)? worst = null;
        foreach (var line in cells.Where(c => c.Station.Length > 0).GroupBy(c => c.Direction, StringComparer.Ordinal).Where(g => g.Count() > 1))
        {
            var most = line.MaxBy(c => c.At.Value)!;
            var least = line.Where(c => c != most).MinBy(c => c.At.Value)!;
            var value = most.At - least.At;
            if (worst is null || value.Value > worst.Value.Value.Value)
            {
                worst = (value, most, least);
            }
        }

        return worst;
    }

    /// <summary>
    /// Size of the part before it wore: where nothing runs on it (below the rings, beside the fillet), else what the manual gives as new at
    /// standard grade, where the size found is near it.
    /// </summary>
    private (Estimate Size, string Words)? Unworn(Address at, CharacteristicEntry entry, IReadOnlyList<Cell> cells, Phase phase)
    {
        if (at.Kind.Id == PartKinds.Bore && cells.Where(c => c.Station == "below the rings").ToArray() is { Length: > 0 } below)
        {
            return (below.MinBy(c => c.At.Value)!.At, "below the rings");
        }

        if (_book.Whole(at.Code, "unworn-at-fillet", phase) is { } fillet)
        {
            return (fillet, "beside the fillet");
        }

        return
            _limits.Nominal(entry.Id, at.Kind.Id) is { } nominal
            && Math.Abs((double)nominal - Statistics.Mean([.. cells.Select(c => c.At.Value)])) < 0.15
            ? (Estimate.Exact((double)nominal), "the manual’s standard size")
            : null;
    }

    // —— sums ——

    private void Sums(Phase phase)
    {
        foreach (var entry in _knowledge.Characteristics.Where(c => c.Derived && c.Ways.Count > 0))
        {
            foreach (var place in entry.On.SelectMany((kind, n) => _table.OfKind(kind).Select(a => (At: a, N: n))))
            {
                Sum(place.At, place.N, entry, phase);
            }
        }
    }

    private void Sum(Address place, int nth, CharacteristicEntry entry, Phase phase)
    {
        (Estimate Value, string From)? first = null;
        foreach (var way in entry.Ways)
        {
            var terms = new List<(double Factor, Estimate Of)>(way.Count);
            var words = new List<string>(way.Count);
            var own = false;
            foreach (var term in way)
            {
                if (Kin.Of(_table, place, term.On[Math.Min(nth, term.On.Count - 1)]) is not { } at || Figure(at.Code, term, phase) is not { } found)
                {
                    break;
                }

                own |= found.Phase == phase;
                terms.Add((term.Times, found.Estimate));
                words.Add($"{(term.Times < 0 ? "− " : words.Count > 0 ? "+ " : "")}{Times(term.Times)}{found.Estimate.Value:0.000} {term.Says}");
            }

            if (terms.Count < way.Count || !own)
            {
                continue;
            }

            var sum = (Value: Estimate.Sum(terms), From: string.Join(" ", words));
            if (first is null)
            {
                first = sum;
                Add(place, entry, phase, sum.Value, sum.From, derived: true);
            }
            else
            {
                Compare(place, entry, first.Value.Value, first.Value.From, sum.Value, sum.From);
            }
        }
    }

    private static string Times(double factor) => Math.Abs(factor) == 1 ? "" : $"{Math.Abs(factor):0.##} × ";

    /// <summary>A term's figure of this phase; what no work touched stays as it was found.</summary>
    private (Estimate Estimate, Phase Phase)? Figure(string place, Term term, Phase phase)
    {
        if (_book.Whole(place, term.Of, phase, term.Take, term.Station) is { } here)
        {
            return (here, phase);
        }

        if (_byKey.TryGetValue((place, term.Of, phase), out var worked) && worked.Derived)
        {
            return (worked.Estimate!, phase);
        }

        return phase == Phase.AfterWork && _book.Whole(place, term.Of, Phase.AsFound, term.Take, term.Station) is { } before
            ? (before, Phase.AsFound)
            : null;
    }

    /// <summary>Two ways to one figure, held against each other by the doubt of their difference.</summary>
    private void Compare(Address place, CharacteristicEntry entry, Estimate a, string fromA, Estimate b, string fromB)
    {
        var difference = a - b;
        if (Math.Abs(difference.Value) <= difference.Expanded)
        {
            return;
        }

        var strip = fromB.Contains("strip", StringComparison.Ordinal);
        var why =
            strip && difference.Value < 0
                ? " A strip reads the gap where it lay: a shaft that was not at rest in its cap, a cap not torqued, or an hourglass journal makes it wider there; a strip from an old tube too."
            : strip
                ? " A strip reads less where it lay over a high spot, or where the shaft turned and smeared it; the sizes may have been taken with another micrometer."
            : " One of them was taken with another micrometer, before torquing, or mistyped.";
        _notes.Add(
            $"{entry.Name} of {place.Code}: {a.Value:0.000} by {fromA}, but {b.Value:0.000} by {fromB}. They differ by {Math.Abs(difference.Value):0.000}, more than their doubt of {difference.Expanded:0.000}.{why}"
        );
    }

    // —— formulas ——

    private void WorkOut(Phase phase)
    {
        foreach (var cylinder in _table.Engine.Cylinders)
        {
            var n = cylinder.Number;
            var bore = _table.Find(PartKinds.Bore, n)!;
            var piston = _table.Find(PartKinds.Piston, n)!;
            var size = Whole(bore, BoreDiameter, phase);
            if (size is not null && _log.Stroke is { } stroke)
            {
                Ratio(bore, piston, size, (double)stroke, phase);
                Flutter(piston, size, (double)stroke, phase);
            }

            foreach (var ring in GappedRings.Select(k => _table.Find(k, n)).OfType<Address>())
            {
                HotGap(ring, bore, size, phase);
            }
        }

        foreach (var kind in new[] { "main-bearing", "rod-bearing" })
        {
            foreach (var bearing in _table.OfKind(kind))
            {
                Interference(bearing, phase);
            }
        }
    }

    /// <summary>Compression ratio from bore, stroke, chamber, crown, deck and joint. <see cref="Formulas.CompressionRatio"/>.</summary>
    private void Ratio(Address bore, Address piston, Estimate size, double stroke, Phase phase)
    {
        if (
            Whole(bore, "chamber-volume", phase) is not { } chamber
            || Whole(bore, "deck-height", phase) is not { } deck
            || Whole(Kin.Of(_table, bore, "head-joint"), "joint-thickness", phase) is not { } joint
            || Asked(phase, bore, "chamber-volume", "deck-height") is false
        )
        {
            return;
        }

        if (Whole(piston, "crown-volume", phase) is not { } crown)
        {
            _notes.Add($"Compression ratio of {bore.Code}: the crown's volume is not known. Measure it, or enter 0 for a flat crown.");
            return;
        }

        var jointBore = Whole(Kin.Of(_table, bore, "head-joint"), "joint-bore", phase) ?? size;
        if (Through(Formulas.CompressionRatio, bore, size, Estimate.Exact(stroke), chamber, crown, deck, joint, jointBore) is { } ratio)
        {
            Add(
                bore,
                "compression-ratio",
                phase,
                ratio,
                $"{Formulas.Swept.Of(size.Value, stroke):0.0} cm³ swept, {chamber.Value:0.0} chamber, {crown.Value:0.0} crown, {deck.Value:0.00} deck, {joint.Value:0.00} joint"
            );
        }
    }

    /// <summary>A figure worked out by a formula; where one of its figures cannot be, a note says which, and there is none.</summary>
    private Estimate? Through(Formula formula, Address place, params IReadOnlyList<Estimate> values)
    {
        try
        {
            return formula.Through(values);
        }
        catch (ProblemException e)
        {
            _notes.Add($"{formula.Name}, {place.Code}: {e.Problems[0].Text} {e.Problems[0].Remedy}");
            return null;
        }
    }

    /// <summary>What is left of a ring's gap when ring and bore are hot. <see cref="Formulas.GapClosing"/>.</summary>
    private void HotGap(Address ring, Address bore, Estimate? size, Phase phase)
    {
        if (
            size is null
            || _book.Whole(ring.Code, "ring-end-gap", phase) is not { } gap
            || Whole(_table.Find(PartKinds.Engine, 0), "ring-temperature", Phase.AsFound) is not { } hotRing
            || Whole(_table.Find(PartKinds.Engine, 0), "bore-temperature", Phase.AsFound) is not { } hotBore
        )
        {
            return;
        }

        var barrel = PartMaterial.Of(bore.Kind.Id, _table.Engine.Layout);
        if (
            Through(Formulas.GapClosing, ring, size, Estimate.Exact(Material.CastIron.Expansion), hotRing, Estimate.Exact(barrel.Expansion), hotBore)
            is not { } closing
        )
        {
            return;
        }

        var hot = gap - closing;
        Add(ring, "ring-gap-hot", phase, hot, $"{gap.Value:0.00} cold, ring at {hotRing.Value:0} °C, bore at {hotBore.Value:0} °C");
        if (hot.Value < hot.Expanded)
        {
            _notes.Add($"{ring.Code}: hot, its gap is {hot.Value:0.000} ± {hot.Expanded:0.000}. It may butt.");
        }
    }

    /// <summary>Speed at which the top ring's inertia overcomes the gas that holds it down. <see cref="Formulas.FlutterSpeed"/>.</summary>
    private void Flutter(Address piston, Estimate size, double stroke, Phase phase)
    {
        if (
            _table.Find("ring-top", piston.Station) is not { } ring
            || _log.RodLength is not { } rod
            || Whole(ring, "part-weight", phase) is not { } mass
            || Whole(ring, "ring-radial-thickness", phase) is not { } radial
            || Whole(_table.Find(PartKinds.Engine, 0), "gas-pressure-over-ring", Phase.AsFound) is not { } pressure
            || mass.Value <= 0
            || pressure.Value <= 0
        )
        {
            return;
        }

        if (Through(Formulas.FlutterSpeed, ring, Estimate.Exact(stroke), Estimate.Exact((double)rod), mass, pressure, size, radial) is not { } speed)
        {
            return;
        }

        Add(
            ring,
            "flutter-speed",
            phase,
            speed,
            $"{mass.Value:0.0} g, {pressure.Value / 100:0.0} bar over it, flank {Math.PI * (size.Value - radial.Value) * radial.Value:0} mm²"
        );
    }

    private void Interference(Address bearing, Phase phase)
    {
        var shaft = bearing.Kind.Id == "main-bearing" ? Kin.Of(_table, bearing, PartKinds.MainJournal) : Kin.Of(_table, bearing, PartKinds.Crankpin);
        if (shaft is null || Whole(shaft, "bearing-seat-diameter", phase) is not { } seat)
        {
            return;
        }

        if (Whole(bearing, "bearing-bore", phase) is { } bore)
        {
            Add(bearing, "bearing-interference", phase, seat - bore, $"{seat.Value:0.000} shaft − {bore.Value:0.000} inner ring");
        }
        else if (_limits.Nominal("bearing-seat-diameter", shaft.Kind.Id) is { } nominal && nominal is > 10 and <= 50)
        {
            var (least, most) = OnShaft((double)nominal, seat.Value);
            var spread = (most - least) / 2;
            var middle = Estimate.Sum(
                (1, seat),
                (
                    -1,
                    Estimate.Of(
                        (double)nominal - spread,
                        new Influence($"ring/{bearing.Code}", "tolerance of the inner ring (ISO 492)", Uncertainty.Rectangular(spread))
                    )
                )
            );
            Add(
                bearing,
                "bearing-interference",
                phase,
                middle,
                $"{seat.Value:0.000} shaft, inner ring {nominal:0} mm of Normal class (ISO 492, from memory)"
            );
        }
    }

    private static (double Least, double Most) OnShaft(double nominal, double shaft)
    {
        var (least, most) = Fits.OnShaft(nominal, shaft);
        return (least / 1000, most / 1000);
    }

    private Estimate? Whole(Address? place, string id, Phase phase) =>
        place is null ? null : _book.Whole(place.Code, id, phase) ?? (phase == Phase.AfterWork ? _book.Whole(place.Code, id, Phase.AsFound) : null);

    /// <summary>Whether anything of the phase itself is in a figure, so that nothing is told twice.</summary>
    private bool Asked(Phase phase, Address place, params string[] ids) =>
        phase == Phase.AsFound || ids.Any(id => _book.Cells(place.Code, id, phase).Count > 0);

    // —— grades ——

    private void Grades(string place, string upper, string lower, string journalKind, string diameter, string? sign)
    {
        if (_limits.Nominal(diameter, journalKind) is not { } standard)
        {
            return;
        }

        foreach (var at in _table.OfKind(place))
        {
            if (
                Kin.Of(_table, at, upper) is { } up
                && Kin.Of(_table, at, lower) is { } low
                && Kin.Of(_table, at, journalKind) is { } journal
                && _book.Whole(journal.Code, diameter, Phase.AsFound) is { } size
            )
            {
                CheckGrade(at, standard, size.AsMeasured(), up.Code, low.Code, up.Kind.Id, sign);
            }
        }
    }

    private void CheckGrade(Address place, decimal standard, Measured journal, string upper, string lower, string shellKind, string? sign)
    {
        var odds = GradeOdds.OfJournal(standard, journal, _schools.Steps);
        var standardWall = _limits.Nominal(ShellWall, shellKind);
        var found = new[] { upper, lower }
            .Select(code => (Code: code, Wall: _book.Whole(code, ShellWall, Phase.AsFound)))
            .Where(s => s.Wall is not null && standardWall is not null)
            .Select(s =>
            {
                var shell = GradeOdds.OfShell(standardWall!.Value, s.Wall!.AsMeasured(), _schools.Steps);
                return (s.Code, Grade: Named(shell, Grade.OfShell(standardWall.Value, (decimal)s.Wall.Value, _schools.Steps)), Odds: shell);
            })
            .ToArray();
        var ground = Named(odds, Grade.OfJournal(standard, (decimal)journal.Value, system: _schools.Steps));
        // A worn journal and one by a small odd step measure alike; where its shell settles it, the shell is followed.
        if (found.Length > 0 && !found[0].Grade.IsLike(ground) && odds.Where(o => o.Grade.IsLike(found[0].Grade)).Sum(o => o.P) >= MayBe)
        {
            ground = found[0].Grade;
        }

        var stamped = _log
            .Parts.Where(p => p.Stands() && (p.Place == upper || p.Place == lower) && p.GradeStamped.Length > 0)
            .Select(p => (Code: p.Place, Text: p.GradeStamped, Grade: Grade.FromStamp(p.GradeStamped)))
            .ToArray();

        var wrong = new List<string>();
        foreach (var (code, grade, _) in found.Where(f => !f.Grade.IsLike(ground)))
        {
            wrong.Add($"{code} measures as {grade.Name} and the journal is {ground.Name}");
        }

        foreach (var (code, text, grade) in stamped.Where(s => s.Grade is not null))
        {
            if (Array.Find(found, f => f.Code == code) is { Grade: { } measured } && !measured.IsLike(grade!))
            {
                wrong.Add($"{code} is stamped {text} but measures as {measured.Name}: believe the size, not the stamp");
            }
            else if (!found.Any(f => f.Code == code) && !grade!.IsLike(ground))
            {
                wrong.Add($"{code} is stamped {text} and the journal is {ground.Name}; measure its wall to be sure");
            }
        }

        foreach (var (code, text, _) in stamped.Where(s => s.Grade is null))
        {
            _notes.Add($"The stamp “{text}” on {code} cannot be read as one grade; its measured size counts.");
        }

        var loud = wrong.Count > 0;
        double? agree = found.Length > 0 ? found.Select(f => GradeOdds.Agree(odds, f.Odds)).Min() : null;
        _grades.Add(
            new GradeCheck(
                place.Code,
                ground.Name,
                found.Length > 0 ? string.Join(" / ", found.Select(f => f.Grade.Name).Distinct()) : null,
                stamped.Length > 0 ? string.Join(" / ", stamped.Select(s => s.Text).Distinct()) : null,
                loud,
                loud ? string.Join("; ", wrong) + "."
                    : found.Length > 0 ? $"Journal and shells are both {ground.Name}."
                    : $"The journal is {ground.Name}. Measure the shells' walls before they are trusted.",
                agree,
                [.. odds.Take(3).Select(o => new GradeWord(o.Grade.Name, o.P))]
            )
        );
        if (sign is not null && (found.Length > 0 || loud))
        {
            var sure = found.Length > 0 ? Slip : 0.1;
            _signs.Add(
                new MeasuredSign(sign, place.Code, loud ? 1 - sure : sure, loud ? sure : 1 - sure, loud ? string.Join("; ", wrong) : "sizes agree")
            );
        }
    }

    /// <summary>The likeliest grade; of those that no micrometer tells apart the one that the search by size names.</summary>
    private static Grade Named(IReadOnlyList<GradeOdds> odds, Grade bySize) =>
        odds.Count == 0 || odds[0].Grade.IsLike(bySize) ? bySize : odds[0].Grade;

    // —— signs ——

    /// <summary>Signs that figures speak for or against; the sign stands at the place of the figure.</summary>
    private static readonly (string Characteristic, string Sign, bool Above)[] Speaking =
    [
        (BigEndClearance, "clearance-large", true),
        (BigEndClearance, "clearance-small", false),
        (RoundnessOfPin, "journal-out-of-round", true),
        ("crankpin-taper", "journal-tapered", true),
        ("journal-hollow", "journal-hollow", true),
        (MainClearance, "main-clearance-large", true),
        (MainClearance, "main-clearance-small", false),
        ("crank-end-float", "end-float-large", true),
        ("piston-clearance", "piston-clearance-large", true),
        ("piston-clearance", "piston-clearance-small", false),
        ("ring-side-clearance-top", "ring-side-loose", true),
        ("ring-end-gap", "ring-gap-large", true),
        ("ring-end-gap", "ring-gap-small", false),
        ("guide-clearance", "guide-loose", true),
        ("bearing-interference", "bearing-fit-lost", false),
    ];

    /// <summary>How much lower than its fellows a piston stands at the top when its rod is bent, mm. Common practice, no source.</summary>
    private const double DeckLow = 0.1;

    private void Signs()
    {
        foreach (var (id, sign, above) in Speaking)
        {
            foreach (var f in _figures.Where(f => f.Characteristic == id && f.Phase == Phase.AsFound && f.Limit is not null))
            {
                // What is worn and may stay is no sign of a failure.
                if ((above ? f.Limit!.ServiceMost : f.Limit!.ServiceLeast) is { } at)
                {
                    Sign(sign, f.Place, f.Estimate!.AsMeasured(), at, f.Limit, above);
                }
            }
        }
    }

    /// <summary>A piston that stands lower than its fellows at the top has a bent rod under it, or a short one.</summary>
    private void DeckSigns()
    {
        var decks = _figures.Where(f => f.Characteristic == "deck-height" && f.Phase == Phase.AsFound).ToArray();
        if (decks.Length < 3)
        {
            return;
        }

        var middle = Statistics.Median(decks.Select(f => f.Value));
        foreach (var deck in decks)
        {
            var p = Math.Clamp(deck.Estimate!.AsMeasured().ProbabilityAbove(middle + DeckLow), Slip, 1 - Slip);
            _signs.Add(new MeasuredSign("deck-low", deck.Place, p, 1 - p, $"{deck.Value:0.00} mm, the middle of its fellows {middle:0.00}"));
        }
    }

    private void CompressionSigns()
    {
        var test = CompressionTest.Evaluate(_log.Compression(_table), _table.Engine);
        foreach (var cylinder in test.Cylinders.Where(c => c.Kpa is not null))
        {
            var p = cylinder.Low ? 0.95 : 0.05;
            _signs.Add(new MeasuredSign("compression-low", $"C{cylinder.Number}", p, 1 - p, cylinder.Words));
        }
    }

    private void Sign(string sign, string place, Measured measured, double at, AppliedLimit limit, bool above)
    {
        // The limit's own doubt enters where it is a rule of thumb.
        var doubt = limit.IsRuleOfThumb ? ThumbDoubt * at : 0;
        var u = Uncertainty.Combine([measured.StandardUncertainty, doubt]);
        var over = new Measured(measured.Value, u).ProbabilityAbove(at);
        var p = Math.Clamp(above ? over : 1 - over, Slip, 1 - Slip);
        var side = above ? "over" : "under";
        var source = limit.IsRuleOfThumb ? "rule of thumb" : limit.SourceText;
        var stands = p >= 0.5 ? $"{side} {at:0.000} mm ({source})" : $"not {side} {at:0.000} mm ({source})";
        _signs.Add(new MeasuredSign(sign, place, p, 1 - p, $"{measured.Value:0.000} ± {measured.Expanded:0.000} mm, {stands}"));
    }

    /// <summary>The shop's school on the second ring's gap, told where a piston breaks it.</summary>
    private void GapSchool()
    {
        if (_schools.SecondGap != SecondGap.NotSmaller)
        {
            return;
        }

        foreach (var second in _table.OfKind("ring-second"))
        {
            if (
                _book.Whole(second.Code, "ring-end-gap", Phase.AsFound) is { } lower
                && Kin.Of(_table, second, "ring-top") is { } top
                && _book.Whole(top.Code, "ring-end-gap", Phase.AsFound) is { } upper
                && (upper - lower) is { } less
                && less.Value > less.Expanded
            )
            {
                _notes.Add(
                    $"{second.Code}: gap {lower.Value:0.00} is smaller than {upper.Value:0.00} of {top.Code}. By this shop’s school pressure builds between the rings and lifts the top one; the older school lets it be."
                );
            }
        }
    }

    // —— trends ——

    /// <summary>Trends of a figure over the stations, by Kendall's rank correlation with its exact probability.</summary>
    private IReadOnlyList<StationTrend> Trends() =>
        [
            .. _figures
                .Where(f => f.Phase == Phase.AsFound && f.Quantity == Quantity.Length)
                .Select(f => (Figure: f, At: _table.Find(f.Place)!))
                .Where(x => x.At.Kind.Scope is not StationScope.Engine && x.At.Nth == 0)
                .GroupBy(x => (x.Figure.Characteristic, x.At.Kind.Id))
                .Where(g => g.Count() >= 4)
                .Select(g =>
                {
                    var placed = g.Select(x => new Placed(x.At, x.Figure.Value)).ToArray();
                    if (Along.CrankTrend(placed, _table.Engine) is not { P: < 0.05 } trend)
                    {
                        return null;
                    }

                    var ordered = Along.Crank(placed, _table.Engine);
                    var rising = trend.S > 0;
                    var end = rising ? ordered[^1].At.Code : ordered[0].At.Code;
                    return new StationTrend(
                        g.Key.Characteristic,
                        g.Key.Id,
                        trend.P,
                        rising,
                        $"{g.First().Figure.Name} grows toward {end} (Kendall, {(trend.P < 0.001 ? "p < 0.001" : $"p = {trend.P:0.000}")})."
                    );
                })
                .OfType<StationTrend>(),
        ];

    // —— figures ——

    private void Add(Address place, string id, Phase phase, Estimate value, string from)
    {
        if (_knowledge.Characteristic(id) is { } entry)
        {
            Add(place, entry, phase, value, from, derived: true);
        }
    }

    private void Add(Address place, CharacteristicEntry entry, Phase phase, Estimate value, string from, bool derived)
    {
        var limit = Ground(entry.Id, value.Value, _limits.For(entry.Id, place.Kind.Id, id => SizeOf(place, id, phase)));
        var measured = value.AsMeasured();
        Conformity? conformity = null;
        Conformity? asNew = null;
        double? share = null;
        var decides = "";
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
                decides = Deciding.Words(value, limit, entry, derived ? null : _book.Cells(place.Code, entry.Id, phase), _instruments, _book);
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
    private AppliedLimit? Ground(string characteristic, double value, AppliedLimit? limit)
    {
        if (characteristic is not (PinDiameter or MainDiameter) || limit?.Nominal is not { } nominal)
        {
            return limit;
        }

        var grade = Grade.OfJournal((decimal)nominal, (decimal)value, system: _schools.Steps);
        var under = (double)grade.Under;
        return under > 0
            ? limit with
            {
                Nominal = nominal - under,
                Least = limit.Least - under,
                Most = limit.Most - under,
                Wear = limit.Wear - under,
                SourceText = $"{limit.SourceText}, less {grade.Name} for its grade",
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
        foreach (var kind in _knowledge.Characteristic(id)?.On ?? [])
        {
            if (Kin.Of(_table, place, kind) is { } at)
            {
                return Whole(at, id, phase)?.Value ?? (double?)_limits.Nominal(id, kind);
            }
        }

        return null;
    }

    private static string Told(IReadOnlyList<Cell> cells) =>
        string.Join(", ", cells.SelectMany(c => c.Readings).Select(r => r.Typed + r.UnitBehind()));
}

internal static class ReadingWords
{
    /// <summary>The unit in which a bare figure was meant, for showing what was typed.</summary>
    public static string UnitBehind(this Reading reading) =>
        reading.Typed.Length > 0 && char.IsAsciiDigit(reading.Typed[^1]) ? $" {reading.Unit}" : "";
}
