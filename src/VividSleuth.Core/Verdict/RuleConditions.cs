using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Verdict;

/// <summary>Whether the conditions of a rule hold at a place, and what makes them hold.</summary>
internal sealed class RuleConditions
{
    /// <summary>Probability from which a cause of the ranking counts as one to provide for. Ours, no source: likelier than not.</summary>
    private const double Likely = 0.5;

    private readonly VerdictLog _log;
    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly GaugeSheet _sheet;
    private readonly Schools _schools;
    private readonly Cracks _cracks;
    private readonly IReadOnlyList<MachiningPlan> _plans;
    private readonly ILookup<string, Finding> _present;
    private readonly ILookup<string, SheetFigure> _figures;
    private readonly HashSet<string> _worked;
    private readonly HashSet<string> _wrongGrade;
    private readonly ILookup<string, (Address? Seat, Fact Told)> _causes;
    private readonly IReadOnlyDictionary<(string Place, string Check), Examination> _examined;

    public RuleConditions(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Schools schools,
        Cracks cracks,
        IReadOnlyList<MachiningPlan> plans,
        TraceAnswer? trace
    )
    {
        (_log, _table, _knowledge, _sheet, _schools, _cracks, _plans) = (log, table, knowledge, sheet, schools, cracks, plans);
        // What was only felt weighs in Trace; here a part is decided on what was seen.
        _present = Unworked.Of(log).Where(f => f is { Seen: Seen.Present, IsSeenForItself: true }).ToLookup(f => f.Place, StringComparer.Ordinal);
        _figures = sheet.Current.ToLookup(f => f.Place, StringComparer.Ordinal);
        _worked = sheet.Figures.Where(f => f.Phase == Phase.AfterWork).Select(f => f.Place).ToHashSet(StringComparer.Ordinal);
        _wrongGrade = sheet.Grades.Where(g => g.Loud).Select(g => g.Place).ToHashSet(StringComparer.Ordinal);
        _causes = Causes(trace).ToLookup(c => c.Cause, c => (c.Seat, c.Told), StringComparer.Ordinal);
        _examined = Examination.Last(log.Examinations);
    }

    public ILookup<string, Finding> Present => _present;

    public ILookup<string, SheetFigure> Figures => _figures;

    /// <summary>What makes a rule hold at a place; null where it does not.</summary>
    /// <param name="courseOf">Course that is decided or advised for another place, and whether for its own sake; null while that is not asked.</param>
    public IReadOnlyList<Fact>? Hold(KnownVerdict rule, Address place, Func<string, (string Course, bool Own)>? courseOf)
    {
        var when = rule.When;
        var because = new List<Fact>();
        bool Of(Fact? fact)
        {
            if (fact is not null && !because.Contains(fact))
            {
                because.Add(fact);
            }

            return fact is not null;
        }

        var kind = place.Kind;
        return
            (when.Crack is not { } crack || (crack ? Of(Crack(place)) : _cracks.Condemns(place) is null))
            && (when.Casting is not { } casting || kind.Casting == casting)
            && (when.OneTime is not { } once || (once ? Of(kind.OneTime) : kind.OneTime is null))
            && (when.Renewed is not { } renewed || (renewed ? Of(kind.Renewed) : kind.Renewed is null))
            && (when.Worked is not { } worked || _worked.Contains(place.Code) == worked)
            && (when.Signs.Count == 0 || Of(Worst(place, when.Signs, told: false)))
            && (when.Near.Count == 0 || Of(Near(place, when.Near)))
            && (when.Figures.Count == 0 || Of(Figure(place, when.Figures)))
            && (when.WrongGrade is not { } wrong || (wrong ? Of(WrongGrade(place)) : WrongGrade(place) is null))
            && (when.Plan is not { } plan || Of(Plan(place, plan)))
            && (when.Surface.Count == 0 || Of(Surface(place, when.Surface)))
            && (when.Causes.Count == 0 || Of(Cause(place, when.Causes, when.CausesAt)))
            && (when.History.Count == 0 || Of(History(when.History)))
            && (when.Failed.Count == 0 || Of(Failed(place, when.Failed)))
            && when.School.All(s => SchoolSays(s.Key, s.Value))
            && (when.Mate is not { } mate || (courseOf is not null && Of(Mate(place, mate, courseOf))))
            ? because
            : null;
    }

    /// <summary>How an examination came out: by its last standing result, else by figures that lie inside or outside limits of maker or shop.</summary>
    public AskedExamination Examined(KnownExamination asked, Address place)
    {
        if (_examined.GetValueOrDefault((place.Code, asked.Id)) is { } result)
        {
            return Told(
                result.Passed,
                Fact.Of("verdict.tested-by", ("by", result.TestedBy), ("remarks", result.Remarks.Length > 0 ? result.Remarks : null))
            );
        }

        // Of a figure that is taken at other parts of the same place, such as the line at each cap, each must answer.
        var answers = asked
            .Figures.SelectMany(id => _knowledge.Characteristic(id)?.On ?? [])
            .Distinct(StringComparer.Ordinal)
            .SelectMany(kind => kind == place.Kind.ReadAs ? [place] : Kin.Around(_table, place, kind))
            .Where(a => a.Code == place.Code || !asked.On.Contains(a.Kind.ReadAs))
            .SelectMany(a => _figures[a.Code])
            .Where(f => asked.Figures.Contains(f.Characteristic) && f.Limit is { IsRuleOfThumb: false })
            .ToArray();
        return Array.Find(answers, f => f.Conformity == Conformity.Outside) is { } out_ ? Told(false, FigureWords.Outside(out_))
            : answers.Length > 0 && answers.All(f => f.Conformity == Conformity.Inside) ? Told(true, FigureWords.Of(answers))
            : Told(null, Fact.None);

        AskedExamination Told(bool? passed, Fact answer) => new(asked.Id, asked.Name, asked.How, asked.By, passed, answer);
    }

    public Fact? Crack(Address place) =>
        _cracks.Condemns(place) is not { } at ? null
        : _cracks.At(at) is { } seen ? (at == place.Code ? Words(seen) : Fact.Of("verdict.seen-at", ("seen", Words(seen)), ("place", at)))
        : Fact.Of("verdict.failed-test", ("place", at), ("by", _cracks.FailedAt(at)!.TestedBy));

    public Fact Words(Finding finding) =>
        Fact.Of(
            "verdict.sign-and-level",
            ("sign", _knowledge.Sign(finding.Sign)?.Name ?? finding.Sign),
            ("level", Fact.Of($"word.level.{Math.Clamp(finding.Level, 1, 3)}"))
        );

    private Fact? Worst(Address place, IReadOnlyList<string> signs, bool told)
    {
        var worst = _present[place.Code]
            .Where(f => signs.Any(s => SignAt.Parse(s) is var at && (at.Sign == "any" || at.Sign == f.Sign) && f.Level >= at.From))
            .MaxBy(f => f.Level);
        return worst is null ? null
            : told ? Fact.Of("verdict.seen-at", ("seen", Words(worst)), ("place", place.Code))
            : Words(worst);
    }

    private Fact? Near(Address place, List<NearTest> near) =>
        near.SelectMany(n => Others(place, n.On, n.At).Select(a => Worst(a, n.Signs, told: true))).FirstOrDefault(f => f is not null);

    private IEnumerable<Address> Others(Address place, List<string> kinds, Reach at) =>
        kinds.SelectMany(k => at == Reach.Engine ? _table.OfKind(k) : Kin.Around(_table, place, k)).Where(a => a.Code != place.Code);

    private Fact? Figure(Address place, List<FigureTest> tests)
    {
        foreach (var test in tests)
        {
            var at = test.On.Count == 0 ? [place] : Others(place, test.On, Reach.Station);
            foreach (var figure in at.SelectMany(a => _figures[a.Code]))
            {
                if ((test.Of.Count == 0 ? OfPart(figure) : test.Of.Contains(figure.Characteristic)) && LiesSo(figure, test) is { } words)
                {
                    return test.On.Count == 0 ? words : Fact.Of("verdict.seen-at", ("seen", words), ("place", figure.Place));
                }
            }
        }

        return null;
    }

    /// <summary>Whether a figure is of the part alone; a clearance or a play is made up of several parts and condemns none by itself.</summary>
    public bool OfPart(SheetFigure figure) => _knowledge.Characteristic(figure.Characteristic) is { Between: false };

    private static Fact? LiesSo(SheetFigure f, FigureTest test)
    {
        if (f.Limit is not { } limit || f.Conformity is not { } conformity || limit.IsRuleOfThumb != (test.Is == Lies.OutsideThumb))
        {
            return null;
        }

        var (least, most) = (limit.ServiceLeast, limit.ServiceMost);
        if (test.Chance is { } chance)
        {
            var measured = (f.Estimate ?? Estimate.Exact(f.Value)).AsMeasured();
            var over = most is { } m ? measured.ProbabilityAbove(m) : 0;
            var under = least is { } l ? 1 - measured.ProbabilityAbove(l) : 0;
            var p = test.Is switch
            {
                Lies.Under => under,
                Lies.Over => over,
                Lies.Inside => 1 - over - under,
                _ => over + under,
            };
            return p >= chance ? Fact.Of("verdict.beyond-with-chance", ("figure", f.Name), ("chance", new Number(Math.Round(100 * p)))) : null;
        }

        return test.Is switch
        {
            Lies.Outside when conformity == Conformity.Outside => FigureWords.Outside(f),
            Lies.Under when conformity == Conformity.Outside && f.Value < least => FigureWords.Outside(f),
            Lies.Over when conformity == Conformity.Outside && f.Value > most => FigureWords.Outside(f),
            Lies.OutsideThumb when conformity == Conformity.Outside => FigureWords.Outside(f),
            Lies.Undecided when conformity == Conformity.Undecided => Fact.Of("verdict.undecided", ("figure", f.Name), ("decides", f.Decides)),
            Lies.Inside when conformity == Conformity.Inside => Fact.Of("verdict.inside-the-limit", ("figure", f.Name)),
            _ => null,
        };
    }

    private Fact? WrongGrade(Address place)
    {
        var at = place.Kind.Scope == StationScope.Main ? _table.Find(PartKinds.MainJournal, place.Station) : Kin.Of(_table, place, PartKinds.Rod);
        return at is not null && _wrongGrade.Contains(at.Code) ? _sheet.Grades.First(g => g.Loud && g.Place == at.Code).Words : null;
    }

    /// <summary>The machining plan that is of a place; a barrel goes by that of its bore.</summary>
    public MachiningPlan? PlanOf(Address place) =>
        place.Kind.Id is "head" or "crankcase"
            ? _plans.FirstOrDefault(p => p.Worst == place.Code)
            : _plans.FirstOrDefault(p => p.Kind == (place.Kind.Id is "barrel" or "liner" ? PartKinds.Bore : place.Kind.Id));

    private Fact? Plan(Address place, PlanState state) =>
        PlanOf(place) is not { } plan ? (state == PlanState.None ? Fact.Of("verdict.plan.nothing-yet") : null)
        : plan.State != state ? null
        : (plan.State, plan.Removes) switch
        {
            (PlanState.Size, { } removes) => Fact.Of("verdict.plan.says-face", ("removes", Amount.Length(removes, 2))),
            (PlanState.Size, null) => Fact.Of("verdict.plan.says", ("step", plan.Step), ("size", Amount.Length(plan.Size!.Value))),
            (PlanState.TooFar, null) => Fact.Of("verdict.plan.says-too-far"),
            (PlanState.TooFar, _) => Fact.Of("verdict.plan.says-too-thin"),
            _ => plan.Words,
        };

    private Fact? Surface(Address place, List<RunningSurface> surfaces)
    {
        var layout = _table.Engine.Layout;
        var surface = place.Kind.Id switch
        {
            PartKinds.Crankpin or PartKinds.MainJournal or "crankshaft" => layout.JournalSurface,
            PartKinds.Bore or "barrel" or "liner" => layout.BoreSurface,
            _ => null,
        };
        return surface is { } made && surfaces.Contains(made) ? Fact.Of("verdict.surface-is", ("surface", made)) : null;
    }

    private Fact? Cause(Address place, List<string> causes, Reach reach)
    {
        foreach (var (seat, told) in causes.SelectMany(c => _causes[c]))
        {
            if (reach == Reach.Engine || seat is null || Kin.Around(_table, seat, place.Kind.Id).Contains(place))
            {
                return told;
            }
        }

        return null;
    }

    private IEnumerable<(string Cause, Address? Seat, Fact Told)> Causes(TraceAnswer? trace)
    {
        foreach (var c in _log.Conclusions.Where(c => c.Stands() && c.Cause.Length > 0 && c.Confidence is Confidence.Proven or Confidence.Probable))
        {
            yield return (c.Cause, _table.Find(c.Place), Fact.Of("verdict.cause-found", ("cause", Name(c.Cause)), ("place", c.Place)));
        }

        foreach (var e in trace?.Established.Where(e => e.There >= Likely) ?? [])
        {
            yield return (e.Cause, _table.Find(e.Place), Fact.Of("verdict.cause-seen", ("cause", e.Name), ("place", e.Place)));
        }

        foreach (var r in trace?.Ranking.Where(r => r.Probability >= Likely) ?? [])
        {
            yield return (
                r.Cause,
                _table.Find(r.Seat),
                Fact.Of("verdict.cause-likely", ("cause", r.Name), ("place", r.Place), ("chance", new Number(Math.Round(100 * r.Probability))))
            );
        }

        string Name(string cause) => _knowledge.Cause(cause)?.Name ?? cause;
    }

    private Fact? History(List<string> risks)
    {
        var told = risks.Find(r => _log.Risks.GetValueOrDefault(r));
        return told is null ? null : Fact.Of("verdict.told", ("risk", _knowledge.Risks.FirstOrDefault(r => r.Id == told)?.Name ?? told));
    }

    private Fact? Failed(Address place, List<string> checks)
    {
        foreach (var check in checks)
        {
            if (_knowledge.Examination(check) is { } asked && Examined(asked, place) is { Passed: false } failed)
            {
                return Fact.Of("verdict.failed", ("check", asked.Name), ("answer", failed.Answer));
            }
        }

        return null;
    }

    private bool SchoolSays(string question, string answer) =>
        _schools.Says(question) is { } says
        && string.Equals(says.ToString(), answer.Replace("-", "", StringComparison.Ordinal), StringComparison.OrdinalIgnoreCase);

    private Fact? Mate(Address place, MateTest mate, Func<string, (string Course, bool Own)> courseOf)
    {
        // Told is the one that began it, not another that goes with it too.
        var other = Others(place, mate.On, mate.At).Where(a => mate.Course.Contains(courseOf(a.Code).Course)).MaxBy(a => courseOf(a.Code).Own);
        return other is null
            ? null
            : Fact.Of("verdict.mate-goes", ("place", other.Code), ("course", _knowledge.Course(courseOf(other.Code).Course)?.Name ?? ""));
    }
}

/// <summary>A sign with the slightest level that counts, as rules write it: journal-scored@2.</summary>
public readonly record struct SignAt(string Sign, int From)
{
    public static SignAt Parse(string text) =>
        text.Split('@') is [var sign, var from] && int.TryParse(from, out var level) ? new SignAt(sign, level) : new SignAt(text, 1);
}
