using System.Globalization;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Dossier;

/// <content>The examiner’s report: all evidence, and each figure back to its readings.</content>
public sealed partial class DossierWriter
{
    /// <summary>Photographs that a report shows, those that show most; the others stand in its index. A paper of hundreds is read by nobody.</summary>
    private const int ReportPictures = 120;

    /// <summary>Causes of the computation that are told.</summary>
    private const int CausesTold = 5;

    private void ForTheExaminer()
    {
        Facts();
        WhyItFailed();
        Opened();
        Findings();
        Figures();
        Drawn();
        BeforeAndAfter();
        EarlierOnes();
        Verdicts();
        WaysToGo();
        WayBack();
        StripLog();
        Custody();
        CustodyChain();
        NotDone();
        Chapter("dossier.chapter.photographs");
        Photographs(ReportPictures);
        if (_wish.Pictures is null && _of.Photos.Count(p => p.Stands()) is var all and > ReportPictures)
        {
            Text("dossier.pictures-more", ("more", all - ReportPictures));
        }

        PictureIndex();
        Recordings();
        Readings();
        InstrumentList();
    }

    private void Facts()
    {
        var engine = _of.Engine;
        Chapter("dossier.chapter.engine");
        Table(
            [Column("what", 0.22), Column("told", 0.78)],
            new (string Code, Fact? Value)[]
            {
                ("engine", Fact.Text(engine.Name)),
                ("serial", Said(engine.Serial)),
                ("hours", engine.Hours is { } hours ? Fact.Of("dossier.hours", ("hours", (double)hours)) : null),
                ("owner", _wish.LeaveOutNames && engine.Owner.Length > 0 ? By(engine.Owner, false) : Said(engine.Owner)),
                ("complaint", Said(engine.Complaint)),
                ("past", Said(engine.Past)),
                ("compression", _of.Compression.Count > 0 ? Fact.All(_of.Compression) : null),
            }.Select(x => Row(Fact.Of($"dossier.fact.{x.Code}"), x.Value ?? Fact.Of("dossier.not-noted")))
        );
    }

    private static Fact? Said(string text) => text.Length > 0 ? Fact.Text(text) : null;

    private void WhyItFailed()
    {
        Chapter("dossier.chapter.why");
        if (_own is { } own)
        {
            Text(
                "dossier.own-finding",
                ("confidence", own.Confidence),
                ("cause", CauseOf(own) ?? Fact.Of("dossier.cause-unknown")),
                ("part", own.Place.Length > 0 ? PartOf(own.Place) : null),
                ("reasons", Or(own.Reasons)),
                ("fault", own.Fault),
                ("by", By(own)),
                ("day", Day(own.At))
            );
        }
        else
        {
            Text("dossier.own-undecided");
        }

        Text("dossier.computation", ("signs", _of.Trace.SignsRecorded), ("none", new Percent(_of.Trace.NoneOfThese)));
        Table(
            [Column("cause", 0.4), Column("part", 0.4), Column("probability", 0.2, figures: true)],
            _of.Trace.Ranking.Take(CausesTold)
                .Select(h => Row(Fact.Text(h.Name), PartOf(h.Place), Fact.Of("dossier.share", ("share", new Percent(h.Probability)))))
        );
        if (_of.Trace.Ranking is [var first, ..] && first.Chain.Count > 0)
        {
            Text("dossier.chain", ("cause", first.Name));
            _blocks.Add(new DossierList([.. first.Chain.Select(l => Fact.Of("dossier.link", ("says", l.Says), ("status", l.Status)))]));
        }
    }

    /// <summary>What the ways to go came to, which was chosen and why, and what the customer said.</summary>
    private void WaysToGo()
    {
        if (_of.Options.Count == 0)
        {
            return;
        }

        Chapter("dossier.chapter.ways");
        foreach (var table in _of.Options)
        {
            Table(
                [
                    Column("option", 0.34),
                    Column("sure", 0.16, figures: true),
                    Column("chance", 0.12, figures: true),
                    Column("expected", 0.16, figures: true),
                    Column("said", 0.22),
                ],
                table.Options.Select(o =>
                    Row(
                        Fact.Text(o.Title),
                        Money(o.Sure, o.Currency),
                        Fact.Of("dossier.share", ("share", new Percent(o.Chance))),
                        Money(o.Expected, o.Currency),
                        Fact.Of(
                            "dossier.said-to-option",
                            ("chosen", table.Chosen?.Option == o.Id ? Fact.Of("dossier.option-chosen") : null),
                            ("answer", table.Answers.FirstOrDefault(a => a.Option == o.Id) is { } a ? Answered(a) : null)
                        )
                    )
                )
            );
            if (table.Chosen is { } chosen)
            {
                Text("dossier.option-why", ("option", chosen.Title), ("why", chosen.Why), ("by", By(chosen)), ("day", Day(chosen.At)));
            }
        }

        foreach (var answer in _of.Options.SelectMany(t => t.Answers))
        {
            Text(
                "dossier.answer-in-full",
                ("answer", Answered(answer)),
                ("option", answer.Title),
                ("cost", Money(answer.Cost, answer.Currency)),
                ("name", By(answer.Name, answer.Imported)),
                ("day", Day(answer.At)),
                ("words", Or(answer.Words))
            );
        }
    }

    private static Fact Answered(OptionAnswer answer) => Fact.Of(answer.Approves ? "dossier.approved" : "dossier.refused");

    private void Opened()
    {
        Chapter("dossier.chapter.opened");
        Table(
            [Column("step", 0.26), Column("lock", 0.2), Column("reason", 0.36), Column("by", 0.18)],
            OpenedLocks
                .Of(_of.Steps, _of.Acts, _of.Strip)
                .Select(o =>
                    Row(
                        Fact.Text(o.Step),
                        Fact.Of("dossier.lock", ("lock", o.Lock), ("of", Or(o.Of))),
                        Fact.Text(o.Reason),
                        Fact.Of("dossier.by-on", ("by", By(o.By, o.Imported)), ("day", Day(o.At)))
                    )
                )
        );
    }

    private void Findings()
    {
        Chapter("dossier.chapter.found");
        DossierColumn[] columns = [Column("part", 0.27), Column("sign", 0.33), Column("level", 0.1), Column("where", 0.15), Column("by", 0.15)];
        foreach (var (code, of) in _seen.GroupBy(f => f.DoneBy).OrderBy(g => g.Key).Select(g => (g.Key, g.ToArray())))
        {
            Section(Fact.Of("dossier.section.found", ("doing", code)));
            Table(
                columns,
                of.Select(f =>
                    Row(
                        PartOf(f.Place),
                        Fact.Text(SignName(f.Sign)),
                        Fact.Of($"dossier.level.{f.Level}"),
                        Fact.Of(
                            "dossier.where",
                            ("spot", Or(f.Spot)),
                            ("zones", Zones(f.Zones)),
                            ("note", Or(f.Note)),
                            (
                                "felt",
                                f.Felt ? Fact.Of("dossier.felt")
                                : f.Chance is { } chance ? Fact.Of("dossier.by-sound", ("share", new Percent(chance)))
                                : null
                            )
                        ),
                        Fact.Of("dossier.by-on", ("by", By(f)), ("day", Day(f.At)))
                    )
                )
            );
        }

        Section(Fact.Of("dossier.section.not-there"));
        Table(
            [Column("sign", 0.45), Column("parts", 0.55)],
            _absent
                .GroupBy(f => f.Sign, StringComparer.Ordinal)
                .Select(g =>
                    Row(
                        Fact.Text(SignName(g.Key)),
                        Fact.Of("dossier.places", ("places", g.Select(f => f.Place).Distinct(StringComparer.Ordinal).ToArray()))
                    )
                )
        );
        if (_of.Examinations.Any(e => e.Stands()))
        {
            Section(Fact.Of("dossier.section.examined"));
            Table(
                [Column("part", 0.27), Column("test", 0.28), Column("came-to", 0.15), Column("by", 0.3)],
                Examination
                    .Last(_of.Examinations)
                    .Values.OrderBy(e => e.Place, StringComparer.Ordinal)
                    .ThenBy(e => e.Check, StringComparer.Ordinal)
                    .Select(e =>
                        Row(
                            PartOf(e.Place),
                            Fact.Text(_of.Knowledge.Examination(e.Check)?.Name ?? e.Check),
                            Fact.Of(e.Passed ? "dossier.passed" : "dossier.failed"),
                            Fact.Of("dossier.tested", ("by", e.TestedBy), ("remarks", Or(e.Remarks)))
                        )
                    )
            );
        }

        if (_of.Debris.Any(d => d.Stands()))
        {
            Section(Fact.Of("dossier.section.debris"));
            Table(
                [Column("part", 0.35), Column("what", 0.5), Column("by", 0.15)],
                _of.Debris.Where(d => d.Stands())
                    .OrderBy(d => d.At)
                    .ThenBy(d => d.Id)
                    .Select(d =>
                        Row(
                            PartOf(d.Place),
                            Fact.Of(
                                "dossier.debris",
                                ("material", d.Material),
                                ("form", d.Form == DebrisForm.Unknown ? null : d.Form),
                                ("colour", d.Colour == DebrisColour.Unknown ? null : d.Colour),
                                ("count", d.Count),
                                ("size", d.Size is { } mm ? Amount.Length(mm, 1) : null),
                                ("note", Or(d.Note))
                            ),
                            Fact.Of("dossier.by-on", ("by", By(d)), ("day", Day(d.At)))
                        )
                    )
            );
        }
    }

    /// <summary>Figures by group of the sheet, numbered in the order in which they stand.</summary>
    private IReadOnlyList<(string Mark, SheetFigure Figure)> Numbered =>
        _numbered ??= [
            .. _of
                .Gauge.Figures.Where(f => !Address.IsCandidate(f.Place))
                .GroupBy(GroupOf)
                .SelectMany(g => g)
                .Select((f, i) => (FormattableString.Invariant($"F{i + 1}"), f)),
        ];

    private IReadOnlyList<(string Mark, SheetFigure Figure)>? _numbered;

    /// <summary>Against its limit; what is held against a rule of thumb is usual or not, and neither inside nor out.</summary>
    private static Fact StandsOf(SheetFigure figure) =>
        (figure.Conformity, figure.Limit?.IsRuleOfThumb) switch
        {
            (null, _) => Fact.None,
            (Conformity.Inside, true) => Fact.Of("dossier.usual"),
            (Conformity.Outside, true) => Fact.Of("dossier.unusual"),
            (_, true) => Fact.Of("dossier.near-the-edge"),
            var (conformity, _) => Fact.Of("dossier.stands", ("conformity", conformity)),
        };

    private string GroupOf(SheetFigure figure) => _of.Knowledge.Characteristic(figure.Characteristic)?.Group ?? "";

    private void Figures()
    {
        Chapter("dossier.chapter.measured");
        Text("dossier.how-measured");
        foreach (var unit in Numbered.GroupBy(x => GroupOf(x.Figure)))
        {
            Section(unit.Key.Length > 0 ? Fact.Text(_of.Knowledge.Called(unit.Key)) : Fact.Of("dossier.section.other-figures"));
            Table(
                [
                    Column("number", 0.07),
                    Column("part", 0.1),
                    Column("figure", 0.25),
                    Column("value", 0.12, figures: true),
                    Column("doubt", 0.11, figures: true),
                    Column("against", 0.24),
                    Column("stands", 0.11),
                ],
                unit.Select(x => new DossierRow(
                    [
                        Fact.Text(x.Mark),
                        Fact.Text(x.Figure.Place),
                        Fact.Of("dossier.figure", ("name", x.Figure.Name), ("phase", x.Figure.Phase == Phase.AsFound ? null : x.Figure.Phase)),
                        Value(x.Figure),
                        Doubt(x.Figure),
                        LimitOf(x.Figure) ?? Fact.None,
                        StandsOf(x.Figure),
                    ],
                    x.Mark,
                    $"R-{x.Mark}"
                ))
            );
        }
    }

    /// <summary>Bores, journals and rings as they were measured: of a part that was measured again the states side by side.</summary>
    private void Drawn()
    {
        var kinds = _of
            .Gauge.Profiles.Where(p => !Address.IsCandidate(p.Place))
            .GroupBy(p => p.Characteristic, StringComparer.Ordinal)
            .Select(g =>
                (
                    Id: g.Key,
                    Drawings: DossierDraughtsman.Profiles(
                        [.. g.OrderBy(p => p.Place, StringComparer.Ordinal).ThenBy(p => p.Phase)],
                        p => Fact.Of("dossier.drawn.title", ("place", p.Place), ("phase", p.Phase == Phase.AsFound ? null : p.Phase)),
                        p =>
                            Fact.Of(
                                "dossier.drawn.profile",
                                ("part", InWords(p.Place)),
                                ("taper", p.Taper is { } t ? Amount.Length((decimal)t, DrawnPlaces) : null),
                                ("round", p.OutOfRound is { } o ? Amount.Length((decimal)o, DrawnPlaces) : null)
                            )
                    )
                )
            )
            .Where(k => k.Drawings is not null)
            .ToArray();
        var clocks = _of.Gauge.Rings.Where(r => r.Rings.Any(g => g.Found is not null || g.Put is not null)).ToArray();
        Stow[] stacks = [.. _of.Stows.Where(s => s.Stands() && s.Kind == StowKind.Stack && s.Items.Count > 0).OrderBy(s => s.At).ThenBy(s => s.Id)];
        var fits = DrawnClearances.Select(id => (Id: id, Drawings: Clearances(id))).Where(k => k.Drawings is not null).ToArray();
        if (kinds.Length + clocks.Length + stacks.Length + fits.Length == 0)
        {
            return;
        }

        Chapter("dossier.chapter.drawn");
        foreach (var (id, drawings) in kinds.Concat(fits))
        {
            Section(Fact.Text(_of.Knowledge.Characteristic(id)?.Name ?? id));
            _blocks.Add(drawings!);
        }

        if (clocks.Length > 0)
        {
            Section(Fact.Of("dossier.section.ring-gaps"));
            _blocks.Add(
                new DossierDrawings(
                    Fact.Of("dossier.drawn.clocks"),
                    [.. clocks.Select(c => DossierDraughtsman.Clock(c, Fact.Of("dossier.drawn.title", ("place", c.Piston), ("phase", null))))]
                )
            );
        }

        if (stacks.Length > 0)
        {
            Stacks(stacks);
        }
    }

    /// <summary>One kind of clearance, the states of a place side by side.</summary>
    private DossierDrawings? Clearances(string characteristic) =>
        DossierDraughtsman.Clearances(
            [
                .. Numbered
                    .Select(n => n.Figure)
                    .Where(f => f.Characteristic == characteristic)
                    .OrderBy(f => f.Place, StringComparer.Ordinal)
                    .ThenBy(f => f.Phase),
            ],
            f =>
                Fact.Of(
                    "dossier.drawn.clearance-title",
                    ("place", f.Place),
                    ("phase", f.Phase == Phase.AsFound ? null : f.Phase),
                    ("value", Value(f))
                ),
            f => Fact.Of("dossier.drawn.clearance", ("part", InWords(f.Place)), ("value", Value(f)), ("limit", f.Limit is null ? null : LimitOf(f)))
        );

    /// <summary>What lay upon one another, in the order in which it came off, each layer by its number.</summary>
    private void Stacks(IReadOnlyList<Stow> stacks)
    {
        Section(Fact.Of("dossier.section.stacks"));
        _blocks.Add(
            new DossierDrawings(
                Fact.Of("dossier.drawn.stacks"),
                [
                    .. stacks.Select(s =>
                        DossierDraughtsman.Stack(
                            s.Items,
                            Fact.Text(s.Code),
                            Fact.Of("dossier.drawn.stack", ("layers", s.Items.Count), ("name", Or(s.Name)))
                        )
                    ),
                ]
            )
        );
        Table(
            [
                Column("stack", 0.26),
                Column("number", 0.08, figures: true),
                Column("part", 0.32),
                Column("count", 0.1, figures: true),
                Column("face", 0.24),
            ],
            stacks.SelectMany(s =>
                s.Items.Select(
                    (layer, i) =>
                        Row(
                            i == 0 ? Fact.Of("dossier.stack", ("code", s.Code), ("name", Or(s.Name))) : Fact.None,
                            Fact.Of("dossier.count", ("count", i + 1)),
                            layer.Place.Length > 0 ? PartOf(layer.Place) : Fact.Text(layer.What),
                            Fact.Of("dossier.count", ("count", layer.Count)),
                            Said(layer.Face)
                        )
                )
            )
        );
    }

    /// <summary>Clearances of a journal between shells.</summary>
    private static readonly string[] DrawnClearances = [Characteristics.BigEndClearance, Characteristics.MainClearance];

    /// <summary>Places behind the point of a taper, mm.</summary>
    private const int DrawnPlaces = 3;

    /// <summary>Figures that are held against an earlier case, those that changed most first.</summary>
    private const int TrendsTold = 60;

    /// <summary>This engine and its kind in earlier cases, and how the figures of this one have moved since.</summary>
    private void EarlierOnes()
    {
        if (_of.Earlier.Count == 0)
        {
            return;
        }

        Chapter("dossier.chapter.earlier");
        Table(
            [Column("day", 0.14), Column("hours", 0.1, figures: true), Column("engine", 0.36), Column("cause", 0.4)],
            _of.Earlier.Select(e =>
                Row(
                    Fact.Of("dossier.day", ("day", e.Day)),
                    e.Hours is { } hours ? Fact.Of("dossier.hours", ("hours", (double)hours)) : null,
                    Fact.Of(e.SameEngine ? "dossier.earlier-same" : "dossier.earlier-kind", ("title", e.Title)),
                    Earlier(e)
                )
            )
        );
        var trends = FigureTrend.Of(_of.Earlier, _of.Gauge, _of.Engine.Hours);
        if (trends.Count == 0)
        {
            return;
        }

        Section(Fact.Of("dossier.section.trend"));
        Table(
            [
                Column("part", 0.09),
                Column("figure", 0.23),
                Column("then", 0.2, figures: true),
                Column("now", 0.14, figures: true),
                Column("changed", 0.2),
                Column("per-thousand", 0.14, figures: true),
            ],
            trends
                .Take(TrendsTold)
                .Select(t => new DossierRow([
                    Fact.Text(t.Now.Place),
                    Fact.Text(t.Now.Name),
                    Fact.Of("dossier.then", ("value", WithDoubt(t.Was)), ("day", t.Then)),
                    WithDoubt(t.Now),
                    t.Change.Told(Digits(t.Change.Doubt)),
                    t.PerThousandHours is { } rate
                        ? Fact.Of(
                            "dossier.with-doubt",
                            ("value", new Amount(rate.Value, t.Now.Quantity, Digits(rate.Doubt))),
                            ("doubt", new Amount(rate.Doubt, t.Now.Quantity, Digits(rate.Doubt)))
                        )
                        : Fact.None,
                ]))
        );
    }

    private static Fact? Earlier(EarlierCase earlier) =>
        earlier.Confidence is null
            ? null
            : Fact.Of(
                "dossier.earlier-cause",
                ("confidence", earlier.Confidence),
                ("cause", earlier.Cause is { } cause ? Fact.Text(cause) : Fact.Of("dossier.cause-unknown")),
                ("place", Or(earlier.Place))
            );

    private static Fact WithDoubt(SheetFigure figure) =>
        Fact.Of(
            "dossier.with-doubt",
            ("value", new Amount(figure.Value, figure.Quantity, Digits(figure.Expanded))),
            ("doubt", new Amount(figure.Expanded, figure.Quantity, Digits(figure.Expanded)))
        );

    /// <summary>Each figure that was taken more than once: as found, after work, when it ran again, and whether it is really another.</summary>
    private void BeforeAndAfter()
    {
        var twice = Numbered.GroupBy(x => (x.Figure.Place, x.Figure.Characteristic)).Where(g => g.Count() > 1).ToArray();
        if (twice.Length == 0)
        {
            return;
        }

        Chapter("dossier.chapter.before-after");
        Table(
            [
                Column("part", 0.09),
                Column("figure", 0.21),
                Column("as-found", 0.15, figures: true),
                Column("after-work", 0.15, figures: true),
                Column("after-run", 0.15, figures: true),
                Column("changed", 0.25),
            ],
            twice.Select(g =>
            {
                var by = g.ToDictionary(x => x.Figure.Phase, x => x);
                var (first, last) = (by[by.Keys.Min()], by[by.Keys.Max()]);
                return new DossierRow(
                    [
                        Fact.Text(g.Key.Place),
                        Fact.Text(first.Figure.Name),
                        .. Enum.GetValues<Phase>().Select(p => by.TryGetValue(p, out var at) ? WithDoubt(at.Figure) : Fact.None),
                        FigureChange.Of(first.Figure, last.Figure) is { } change ? change.Told(Digits(change.Doubt)) : Fact.None,
                    ],
                    To: last.Mark
                );
            })
        );
    }

    /// <summary>Zones of a map by rows, each with its runs of columns: A3–A6, C4. Null where nobody pointed at any.</summary>
    private static string[]? Zones(IReadOnlyList<string> zones)
    {
        var runs = new List<(char Row, int From, int To)>();
        foreach (
            var (row, column) in zones
                .Where(z => z.Length > 1 && int.TryParse(z.AsSpan(1), out _))
                .Select(z => (z[0], int.Parse(z.AsSpan(1), CultureInfo.InvariantCulture)))
                .Order()
        )
        {
            if (runs is [.., var last] && last.Row == row && last.To + 1 == column)
            {
                runs[^1] = last with { To = column };
            }
            else
            {
                runs.Add((row, column, column));
            }
        }

        return runs.Count == 0 ? null : [.. runs.Select(r => r.From == r.To ? $"{r.Row}{r.From}" : $"{r.Row}{r.From}–{r.Row}{r.To}")];
    }

    private void Verdicts()
    {
        Chapter("dossier.chapter.decided");
        Table(
            [Column("part", 0.24), Column("course", 0.2), Column("reason", 0.4), Column("by", 0.16)],
            _verdicts
                .Values.Where(v => !Address.IsCandidate(v.Place))
                .OrderBy(v => v.Place, StringComparer.Ordinal)
                .Select(v =>
                    Row(
                        PartOf(v.Place),
                        CourseOf(v),
                        Fact.Of(
                            "dossier.verdict",
                            ("reason", Or(v.Reason)),
                            (
                                "figures",
                                v
                                    .Figures.Select(f =>
                                        Fact.Of("dossier.rests-on", ("name", f.Name), ("value", new Amount(f.Value, f.Quantity, Digits(f.Expanded))))
                                    )
                                    .ToArray()
                                    is { Length: > 0 } rests
                                    ? rests
                                    : null
                            ),
                            (
                                "advised",
                                v.Advised.Length > 0 && v.Advised != v.Course ? Fact.Text(_of.Knowledge.Course(v.Advised)?.Name ?? v.Advised) : null
                            ),
                            ("why", Or(v.AdvisedWhy))
                        ),
                        Fact.Of("dossier.by-on", ("by", By(v)), ("day", Day(v.At)))
                    )
                )
        );
        Costs();
    }

    private void WayBack()
    {
        var done = _of
            .Acts.Where(a =>
                a.Stands()
                && a.Kind
                    is BackActKind.Fitted
                        or BackActKind.TakenOut
                        or BackActKind.Tightened
                        or BackActKind.Checked
                        or BackActKind.Covered
                        or BackActKind.Uncovered
            )
            .OrderBy(a => a.At)
            .ThenBy(a => a.Id)
            .ToArray();
        if (done.Length == 0)
        {
            return;
        }

        Chapter("dossier.chapter.together");
        Table(
            [Column("what", 0.2), Column("of", 0.3), Column("how", 0.25), Column("by", 0.25)],
            done.Select(a =>
                Row(
                    Fact.Of("dossier.act", ("kind", a.Kind)),
                    a.Kind is BackActKind.Fitted or BackActKind.TakenOut ? PartOf(a.Of) : Fact.Text(a.Of),
                    Fact.Of(
                        "dossier.act-how",
                        ("tag", Or(a.Tag)),
                        ("new", a.IsNew ? Fact.Of("dossier.new-one") : null),
                        ("pass", a.Pass > 0 ? a.Pass : null),
                        ("wrench", Or(a.Instrument))
                    ),
                    Fact.Of("dossier.by-on", ("by", By(a)), ("day", Day(a.At)))
                )
            )
        );
    }

    private void StripLog()
    {
        Chapter("dossier.chapter.strip");
        var names = _of.Strip.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
        Table(
            [Column("step", 0.4), Column("state", 0.15), Column("signed", 0.25), Column("by", 0.2)],
            _of.Steps.Where(s => s.Stands())
                .OrderBy(s => s.At)
                .ThenBy(s => s.Id)
                .Select(s =>
                    Row(
                        Fact.Text(names.GetValueOrDefault(s.Step)?.Name ?? s.Step),
                        Fact.Of("dossier.step-state", ("state", s.State), ("reason", Or(s.Reason))),
                        SignOf(names.GetValueOrDefault(s.Step)),
                        Fact.Of("dossier.by-on", ("by", By(s)), ("day", Day(s.At)))
                    )
                )
        );
    }

    private Fact? SignOf(PlannedStep? step) =>
        step is not { HoldPoint: true } ? null
        : step is { SignedBy: { } by, SignedAt: { } at }
            ? Fact.Of(step.Stale ? "dossier.signed-stale" : "dossier.signed", ("by", By(by, step.SignedElsewhere)), ("day", Day(at)))
        : Fact.Of("dossier.not-signed");

    private void Custody()
    {
        Chapter("dossier.chapter.custody");
        Table(
            [Column("part", 0.3), Column("mark", 0.15), Column("where", 0.3), Column("out", 0.25)],
            _of.Parts.Where(p => p.Stands() && !Address.IsCandidate(p.Place))
                .OrderBy(p => p.Place, StringComparer.Ordinal)
                .Select(p =>
                    Row(
                        PartOf(p.Place),
                        Fact.Of("dossier.mark", ("mark", Or(p.Mark)), ("facing", p.Facing == Facing.Unknown ? null : p.Facing)),
                        Fact.Of("dossier.lies", ("custody", p.Custody), ("where", Or(p.Where))),
                        p.Sent is { } sent ? Fact.Of("dossier.sent", ("sent", sent), ("due", p.DueBack)) : null
                    )
                )
        );
    }

    /// <summary>Of each part that changed hands or places where it was, from when and by whose hand.</summary>
    private void CustodyChain()
    {
        var moved = _of
            .Parts.Where(p => p.Stands() && !Address.IsCandidate(p.Place) && _of.Stays.GetValueOrDefault(p.Id) is { Count: > 1 })
            .OrderBy(p => p.Place, StringComparer.Ordinal)
            .ToArray();
        if (moved.Length == 0)
        {
            return;
        }

        Section(Fact.Of("dossier.section.custody"));
        Table(
            [Column("part", 0.3), Column("from", 0.15), Column("where", 0.35), Column("by", 0.2)],
            moved.SelectMany(p =>
                _of.Stays[p.Id]
                    .Select(s =>
                        Row(
                            PartOf(p.Place),
                            Fact.Of("dossier.day", ("day", Day(s.At))),
                            Fact.Of("dossier.lies", ("custody", s.Custody), ("where", Or(s.Where))),
                            By(s.By, p.Imported)
                        )
                    )
            )
        );
    }

    /// <summary>What was not done, and why: steps left out, what was not read, what nobody decided.</summary>
    private void NotDone()
    {
        Chapter("dossier.chapter.not-done");
        var left = _of
            .Strip.Steps.Where(s => s.State is null or StepState.Skipped && s.ClosedBy.Length == 0)
            .Select(s => Fact.Of(s.State is null ? "dossier.step-open" : "dossier.step-skipped", ("step", s.Name), ("reason", Or(s.Reason))));
        var undecided = _of.Gauge.Figures.Count(f => f.Conformity == Conformity.Undecided);
        Fact[] items =
        [
            .. left,
            .. _of.Trace.NextChecks.Take(CausesTold).Select(n => Fact.Of("dossier.not-looked", ("sign", n.Name), ("part", PartOf(n.Place)))),
            .. undecided > 0 ? [Fact.Of("dossier.undecided", ("count", undecided))] : Array.Empty<Fact>(),
        ];
        if (items.Length > 0)
        {
            _blocks.Add(new DossierList(items));
        }
        else
        {
            Text("dossier.nothing");
        }
    }

    private void PictureIndex() =>
        Table(
            [Column("part", 0.2), Column("file", 0.2), Column("sha", 0.42), Column("by", 0.18)],
            _of.Photos.Where(p => p.Stands())
                .OrderBy(p => p.At)
                .ThenBy(p => p.Id)
                .Select(p =>
                    Row(Fact.Text(p.Place), Fact.Text(p.FileName), Fact.Text(p.Sha256), Fact.Of("dossier.by-on", ("by", By(p)), ("day", Day(p.At))))
                )
        );

    /// <summary>The annex: of each figure how it came about, and of one that was read its readings.</summary>
    private void Readings()
    {
        Chapter("dossier.annex.readings");
        var read = GaugeLog.Active(_of.Readings).ToLookup(r => (r.Place, r.Characteristic, r.Phase));
        Table(
            [
                Column("number", 0.08),
                Column("figure", 0.24),
                Column("from", 0.24),
                Column("typed", 0.16, figures: true),
                Column("instrument", 0.13),
                Column("by", 0.15),
            ],
            Numbered.SelectMany(x =>
            {
                var readings = read[(x.Figure.Place, x.Figure.Characteristic, x.Figure.Phase)].OrderBy(r => r.At).ThenBy(r => r.Id).ToArray();
                var head = new DossierRow(
                    [
                        Fact.Text(x.Mark),
                        Fact.Of("dossier.figure-of", ("place", x.Figure.Place), ("name", x.Figure.Name)),
                        x.Figure.From,
                        Fact.None,
                        Fact.None,
                        Fact.None,
                    ],
                    $"R-{x.Mark}",
                    x.Mark
                );
                return readings
                    .Select(r =>
                        Row(
                            null,
                            null,
                            Fact.Of("dossier.at", ("station", Or(r.Station)), ("direction", Or(r.Direction))),
                            Fact.Of("dossier.typed", ("typed", r.Typed), ("unit", r.Typed.Any(char.IsLetter) ? null : Or(r.Unit))),
                            r.Picture is { } picture ? InPicture(picture) : Fact.Text(r.Instrument),
                            Fact.Of("dossier.by-on", ("by", r.ReadBy.Length > 0 ? By(r.ReadBy, r.Imported) : By(r)), ("day", Day(r.At)))
                        )
                    )
                    .Prepend(head);
            })
        );
    }

    /// <summary>In which picture it was measured, and what gave the scale.</summary>
    private Fact InPicture(Guid id)
    {
        var measure = _of.PictureMeasures.FirstOrDefault(m => m.Id == id);
        var photo = _of.Photos.FirstOrDefault(p => p.Id == measure?.Photo);
        return Fact.Of(
            "dossier.in-picture",
            ("file", photo is null ? null : Or(photo.FileName)),
            ("card", measure?.Card),
            ("length", measure?.ScaleLength is { } length ? new Amount((double)length, Quantity.Length, Digits(0)) : null)
        );
    }

    private void Recordings()
    {
        var sounds = _of.Sounds.Where(s => s.Stands()).OrderBy(s => s.At).ThenBy(s => s.Id).ToArray();
        if (sounds.Length == 0)
        {
            return;
        }

        Chapter("dossier.annex.recordings");
        Table(
            [Column("heard", 0.26), Column("file", 0.23), Column("sha", 0.34), Column("by", 0.17)],
            sounds.Select(s =>
                Row(
                    Fact.Of(
                        "dossier.heard-under",
                        ("where", s.Where),
                        ("rpm", s.Rpm is { } rpm ? new Number(rpm, 0) : null),
                        ("load", s.Load == HeardLoad.Untold ? null : s.Load),
                        ("warmth", s.Warmth == HeardWarmth.Untold ? null : s.Warmth),
                        ("cut", s.CutOut > 0 ? s.CutOut : null),
                        ("clamp", s.Pickup > 0 ? s.Pickup : null)
                    ),
                    Fact.Text(s.FileName),
                    Fact.Text(s.Sha256),
                    Fact.Of("dossier.by-on", ("by", By(s)), ("day", Day(s.At)))
                )
            )
        );
    }

    private void InstrumentList()
    {
        Chapter("dossier.annex.instruments");
        Table(
            [
                Column("instrument", 0.25),
                Column("step-of", 0.15, figures: true),
                Column("error", 0.15, figures: true),
                Column("calibrated", 0.2),
                Column("method", 0.25),
            ],
            _of.Instruments.OrderBy(i => i.Name, StringComparer.Ordinal)
                .Select(i =>
                    Row(
                        Fact.Text(i.Name),
                        Fact.Of("dossier.value", ("value", new Amount((double)i.Resolution, i.Quantity, Digits(0)))),
                        Fact.Of("dossier.doubt", ("doubt", new Amount((double)i.PermissibleError, i.Quantity, Digits(0)))),
                        Fact.Of("dossier.calibrated", ("on", i.Calibrated), ("due", i.CalibrationDue)),
                        Fact.Text(i.Method)
                    )
                )
        );
    }
}
