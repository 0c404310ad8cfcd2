using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Verdict;

/// <summary>
/// What becomes of each part and each group, by the rules of knowledge/verdicts. What is forbidden comes first and nothing outvotes it; of the courses
/// that are left the one of greatest weight is advised. Sizes are those of the machining plan, causes those of Trace, so that advice contradicts
/// neither. Where no rule speaks it takes something to say that nothing is against a part.
/// </summary>
public sealed class VerdictAdviser
{
    /// <summary>Rules that speak of what is decided elsewhere are asked again until nothing changes, and no oftener than this.</summary>
    private const int MostRounds = 6;

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly RuleConditions _conditions;
    private readonly IReadOnlyDictionary<string, PartVerdict> _decided;
    private readonly ILookup<string, Finding> _looked;
    private readonly HashSet<string> _touched;
    private readonly Dictionary<string, KnownVerdict[]> _rulesOf = new(StringComparer.Ordinal);
    private readonly HashSet<string> _testable;
    private readonly IReadOnlySet<string> _open;

    private VerdictAdviser(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Schools schools,
        Cracks cracks,
        IReadOnlyList<MachiningPlan> plans,
        TraceAnswer? trace,
        IReadOnlySet<string> open
    )
    {
        _table = table;
        _knowledge = knowledge;
        _conditions = new RuleConditions(log, table, knowledge, sheet, schools, cracks, plans, trace);
        _decided = PartVerdict.Latest(log.Verdicts);
        _open = open;
        _looked = Unworked.Of(log).ToLookup(f => f.Place, StringComparer.Ordinal);
        _touched = log
            .Parts.Where(p => p.Stands())
            .Select(p => p.Place)
            .Concat(_looked.Select(g => g.Key))
            .Concat(_conditions.Figures.Select(g => g.Key))
            .Concat(_decided.Keys)
            .ToHashSet(StringComparer.Ordinal);
        // A crack that the eye saw and a test may clear is worth a test.
        _testable = log
            .Findings.Where(f => f.Stands() && f.Seen == Seen.Present && Cracks.IsCrack(f, knowledge) && knowledge.Sign(f.Sign)?.Test.Length > 0)
            .Select(f => f.Place)
            .ToHashSet(StringComparer.Ordinal);
    }

    /// <param name="trace">Null where nobody asks why it failed, as of a candidate alone.</param>
    /// <param name="open">Places that the strip laid open.</param>
    /// <returns>Of every place that is decided on, in the order of the table.</returns>
    public static IReadOnlyList<VerdictAdvice> Advise(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Schools schools,
        Cracks cracks,
        IReadOnlyList<MachiningPlan> plans,
        TraceAnswer? trace,
        IReadOnlySet<string> open
    ) => new VerdictAdviser(log, table, knowledge, sheet, schools, cracks, plans, trace, open).Advise();

    private VerdictAdvice[] Advise()
    {
        var places = _table.All.Where(a => a.Kind.Id != PartKinds.Engine || _decided.ContainsKey(a.Code)).ToArray();
        var advice = places.Select(a => Advise(a, null)).ToArray();
        var mated = Enumerable.Range(0, places.Length).Where(i => Array.Exists(RulesOf(places[i]), r => r.When.Mate is not null)).ToArray();
        for (var round = 0; round < MostRounds; round++)
        {
            var courses = advice.ToDictionary(a => a.Place, a => (a.Course, a.OfItself), StringComparer.Ordinal);
            (string Course, bool Own) CourseOf(string place) =>
                _decided.GetValueOrDefault(place) is { Course.Length: > 0 } decided
                    ? (decided.Course, true)
                    : courses.GetValueOrDefault(place, ("", false));
            var changed = false;
            foreach (var i in mated)
            {
                var again = Advise(places[i], CourseOf);
                changed |= again.Course != advice[i].Course || !again.Reason.Equals(advice[i].Reason);
                advice[i] = again;
            }

            if (!changed)
            {
                break;
            }
        }

        return advice;
    }

    /// <summary>Rules that may be about a kind of part, whatever its condition.</summary>
    private KnownVerdict[] RulesOf(Address place)
    {
        var kind = place.Kind.ReadAs;
        if (!_rulesOf.TryGetValue(kind, out var rules))
        {
            var group = _knowledge.GroupOf(kind)?.Id;
            var layout = _table.Engine.Layout;
            _rulesOf[kind] = rules = [
                .. _knowledge
                    .Verdicts.Where(r =>
                        (r.On.Count == 0 && r.Groups.Count == 0) || r.On.Contains(kind) || (group is not null && r.Groups.Contains(group))
                    )
                    .Where(r => r.Applies.Fits(layout))
                    .OrderBy(r => r.Id, StringComparer.Ordinal),
            ];
        }

        return rules;
    }

    private sealed record Held(KnownVerdict Rule, IReadOnlyList<Fact> Because, KnownCourse? Course);

    private VerdictAdvice Advise(Address place, Func<string, (string Course, bool Own)>? courseOf)
    {
        var asks = new Dictionary<string, AskedExamination>(StringComparer.Ordinal);
        var held = new List<Held>();
        foreach (var rule in RulesOf(place))
        {
            if (_conditions.Hold(rule, place, courseOf) is not { } because)
            {
                continue;
            }

            var asked = rule.Asks.Select(_knowledge.Examination).OfType<KnownExamination>().Where(e => e.On.Contains(place.Kind.ReadAs));
            var answers = asked.Select(e => _conditions.Examined(e, place)).ToArray();
            foreach (var answer in answers)
            {
                asks[answer.Check] = answer;
            }

            // A rule that asks for tests is answered once all of them are passed.
            if (answers.Length == 0 ? rule.Asks.Count == 0 : Array.Exists(answers, a => a.Passed != true))
            {
                held.Add(new Held(rule, because, _knowledge.Course(rule.Course)));
            }
        }

        if (
            _testable.Contains(place.Code)
            && _knowledge.Examinations.FirstOrDefault(e => e.Settles == "crack" && e.On.Contains(place.Kind.ReadAs)) is { } test
        )
        {
            asks.TryAdd(test.Id, _conditions.Examined(test, place));
        }

        var aside = held.SelectMany(h => h.Rule.Before).ToHashSet(StringComparer.Ordinal);
        held.RemoveAll(h => aside.Contains(h.Rule.Id) && h.Rule.Forbids.Count == 0);
        var never = held.SelectMany(h => h.Rule.Forbids).Distinct().Order().ToArray();
        var leading = held.Where(h => h.Course is { } c && !never.Contains(c.Action)).ToArray();
        // The reason that the forbidding rule gives goes before another that leads to the same.
        var lead = (Array.Exists(leading, h => !h.Rule.Otherwise) ? leading.Where(h => !h.Rule.Otherwise) : leading)
            .OrderByDescending(h => h.Course!.Weight)
            .ThenByDescending(h => h.Rule.Forbids.Count > 0)
            .ThenByDescending(h => h.Rule.When.Mate is null)
            .ThenByDescending(h => h.Rule.On.Count > 0)
            .ThenBy(h => h.Rule.Id, StringComparer.Ordinal)
            .FirstOrDefault();
        var told = held.Where(h => h == lead || !h.Rule.Otherwise)
            .OrderByDescending(h => h == lead)
            .ThenByDescending(h => h.Rule.Forbids.Count > 0)
            .ThenByDescending(h => h.Course?.Weight ?? -1)
            .ThenBy(h => h.Rule.Id, StringComparer.Ordinal)
            .Select(h => new RuleTold(h.Rule.Id, h.Rule.Course, h.Rule.Forbids.Count > 0, h.Because, h.Rule.Why, h.Rule.Provenance))
            .ToArray();
        var figures = _conditions.Figures[place.Code].ToArray();
        var (ground, course, reason) = lead is not null
            ? (lead.Rule.Forbids.Count > 0 ? Ground.Forbidden : Ground.Rule, lead.Course, Reason(lead))
            : Unruled(place, figures, asks.Values, never);
        return new VerdictAdvice(
            place.Code,
            _knowledge.GroupOf(place.Kind.ReadAs)?.Id ?? _knowledge.Groups[^1].Id,
            course?.Action,
            course?.Id ?? "",
            ground,
            reason,
            FigureWords.Of(figures),
            told,
            never,
            [.. asks.Values],
            _touched.Contains(place.Code) || _open.Contains(place.Code) || held.Exists(h => SpeaksOfOthers(h.Rule.When)),
            FigureWords.Of(_decided.GetValueOrDefault(place.Code))
        )
        {
            On = figures,
            OfItself = lead is { Rule.When.Mate: null },
        };
    }

    /// <summary>A rule that holds because of something else in the engine; what is always so of a kind is told once the part is off.</summary>
    private static bool SpeaksOfOthers(VerdictWhen when) =>
        when.Near.Count > 0 || when.Mate is not null || when.Causes.Count > 0 || when.History.Count > 0 || when.Crack == true;

    private static Fact Reason(Held held) =>
        held.Because.Count == 0
            ? Fact.Of("verdict.why", ("why", held.Rule.Why))
            : Fact.Of("verdict.because-why", ("because", held.Because), ("why", held.Rule.Why));

    /// <summary>Where no rule leads to a course: what is known of the part, and what it would take to say that nothing is against it.</summary>
    private (Ground Ground, KnownCourse? Course, Fact Reason) Unruled(
        Address place,
        SheetFigure[] figures,
        IReadOnlyCollection<AskedExamination> asks,
        VerdictAction[] never
    )
    {
        var findings = _looked[place.Code].ToArray();
        var seen = findings.Where(f => f.IsSeenForItself).ToArray();
        if (asks.Where(a => a.Passed != true).Select(a => a.Name).ToArray() is { Length: > 0 } first)
        {
            return (Ground.TestFirst, null, Fact.Of("verdict.first", ("checks", first)));
        }

        if (figures.Length == 0 && findings.Length == 0)
        {
            return (Ground.Unknown, null, Fact.Of("verdict.nothing-been-looked-measured-here"));
        }

        var own = figures.Where(_conditions.OfPart).ToArray();
        if (_conditions.Present[place.Code].MaxBy(f => f.Level) is { } worst)
        {
            return (Ground.Against, null, Fact.Of("verdict.decide-at-bench", ("seen", _conditions.Words(worst))));
        }

        if (Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Limit is { IsRuleOfThumb: false }) is { } outside)
        {
            return (
                Ground.Against,
                null,
                _conditions.OfPart(outside) ? FigureWords.Outside(outside) : Fact.Of("verdict.several-parts-make-it-up", ("name", outside.Name))
            );
        }

        if (Array.Find(own, f => f.Conformity == Conformity.Undecided) is { } near)
        {
            return (Ground.Undecided, null, Fact.Of("verdict.undecided", ("figure", near.Name), ("decides", near.Decides)));
        }

        if (Array.Find(figures, f => f.Conformity == Conformity.Outside) is { } thumb)
        {
            return (Ground.RuleOfThumb, null, Fact.Of("verdict.only-a-rule-of-thumb", ("figure", thumb.Name)));
        }

        if (seen.Length == 0 && findings.Length > 0)
        {
            return (Ground.Felt, null, Fact.Of("verdict.felt-not-opened"));
        }

        if (Missing(place, figures) is { Length: > 0 } missing)
        {
            return (
                Ground.Unmeasured,
                null,
                Fact.Of("verdict.measure-first", ("figures", missing), ("seen", seen.Length > 0 ? Fact.Of("verdict.looked-clean") : null))
            );
        }

        var needed = Needed(place);
        if (
            Array.Find(own, f => f.Limit is null && needed.Contains(f.Characteristic)) is { } free
            && !Array.Exists(own, f => f.Conformity is not null)
        )
        {
            return (Ground.NoLimit, null, Fact.Of("verdict.no-limit", ("figure", free.Name)));
        }

        if (seen.Length == 0)
        {
            return (Ground.Unread, null, Fact.Of("verdict.in-size-unread"));
        }

        var course = _knowledge.Course(needed.Count > 0 ? "reuse" : "clean");
        return course is null || never.Contains(course.Action)
            ? (Ground.Against, null, Fact.Of("verdict.nothing-left-to-advise"))
            : (
                Ground.Sound,
                course,
                figures.Length == 0 ? Fact.Of("verdict.looked-nothing-found-against")
                : Array.Exists(figures, f => f.Conformity == Conformity.Inside && f.Limit is { IsRuleOfThumb: false })
                    ? Fact.Of("verdict.looked-and-inside")
                : Fact.Of("verdict.inside-a-rule-of-thumb")
            );
    }

    private HashSet<string> Needed(Address place) =>
        _knowledge.GroupOf(place.Kind.ReadAs)?.Needs.GetValueOrDefault(place.Kind.ReadAs)?.SelectMany(n => n).ToHashSet(StringComparer.Ordinal) ?? [];

    /// <summary>Names of what must be measured before nothing is against a part, and was not: of each set the first that this engine has.</summary>
    private string[] Missing(Address place, SheetFigure[] figures)
    {
        var layout = _table.Engine.Layout;
        return
        [
            .. (_knowledge.GroupOf(place.Kind.ReadAs)?.Needs.GetValueOrDefault(place.Kind.ReadAs) ?? [])
                .Select(n => n.Select(_knowledge.Characteristic).OfType<KnownCharacteristic>().Where(c => c.Applies.Fits(layout)).ToArray())
                .Where(n => n.Length > 0 && !Array.Exists(n, c => Array.Exists(figures, f => f.Characteristic == c.Id) || Nearby(place, c)))
                .Select(n => n[0].Name),
        ];
    }

    /// <summary>A figure that is taken at another part of the same station answers too, as a clearance does.</summary>
    private bool Nearby(Address place, KnownCharacteristic of) =>
        of.On.Exists(k =>
            k != place.Kind.ReadAs && Kin.Around(_table, place, k).Any(a => _conditions.Figures[a.Code].Any(f => f.Characteristic == of.Id))
        );
}
