using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>
/// Whether a ring may run again, as one answer with its tests; what its gap becomes when the bore is worked; how much to file for this use.
/// Common practice, no source: same bore; never seated, or lying flat; gap and tension right.
/// </summary>
public static class RingAdviser
{
    private static readonly string[] Kinds = ["ring-top", "ring-second"];

    /// <summary>Signs that leave no ring a second life, whatever else is so.</summary>
    private static readonly string[] Gone =
    [
        "ring-broken",
        "ring-butted",
        "ring-scuffed",
        "ring-worn-thin",
        "ring-tip-broken",
        "ring-coating-flaked",
        "ring-broken-fitting",
        "ring-taper-down",
    ];

    /// <summary>Courses of a bore after which it is another bore for a ring.</summary>
    private static readonly string[] OtherBore = ["bore", "sleeve", "renew", "specialist"];

    /// <param name="advice">What is advised for the bores.</param>
    public static (IReadOnlyList<RingAdvice> Of, IReadOnlyList<Fact> Notes) Advise(
        VerdictLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Schools schools,
        IReadOnlyList<VerdictAdvice> advice,
        IReadOnlyList<MachiningPlan> plans
    )
    {
        var limits = new LimitBook(log.Limits, knowledge, schools, table.Engine.Layout);
        var findings = Unworked.Of(log).ToLookup(f => f.Place, StringComparer.Ordinal);
        var decided = PartVerdict.Latest(log.Verdicts);
        var courses = advice.ToDictionary(a => a.Place, a => a.Course, StringComparer.Ordinal);
        string CourseOf(string place) =>
            decided.GetValueOrDefault(place) is { Course.Length: > 0 } d ? d.Course : courses.GetValueOrDefault(place, "");
        var rings = table
            .All.Where(a => Kinds.Contains(a.Kind.Id) && (findings.Contains(a.Code) || sheet.Now(a.Code, Characteristics.RingEndGap) is not null))
            .ToArray();
        var told = rings.Select(Ring).ToArray();
        return (told, Notes());

        RingAdvice Ring(Address ring)
        {
            var bore = Kin.Of(table, ring, PartKinds.Bore)!;
            var (seen, absent) = (Seen_(ring.Code, present: true), Seen_(ring.Code, present: false));
            var gap = sheet.Now(ring.Code, Characteristics.RingEndGap);
            var boreNow = sheet.Now(bore.Code, Characteristics.BoreDiameter);
            var course = CourseOf(bore.Code);
            var after = After(bore, boreNow, gap);
            var (target, source) = Target(ring, bore, boreNow);
            var judged = after ?? gap?.Value;
            bool? same =
                OtherBore.Contains(course) ? false
                : course.Length > 0 || boreNow is not null ? true
                : null;
            bool? whole =
                seen.Overlaps(Gone) ? false
                : seen.Count + absent.Count > 0 ? true
                : null;
            var unseated = seen.Contains("ring-unseated");
            bool? flat =
                unseated ? true
                : seen.Contains("ring-side-worn") || Lies(ring.Code, "ring-width") == Conformity.Outside ? false
                : absent.Contains("ring-side-worn") || Lies(ring.Code, "ring-width") == Conformity.Inside ? true
                : null;
            bool? tension =
                seen.Contains("ring-tension-lost") || Lies(ring.Code, "ring-free-gap") == Conformity.Outside ? false
                : absent.Contains("ring-tension-lost") || Lies(ring.Code, "ring-free-gap") == Conformity.Inside ? true
                : null;
            var most = limits.For(Characteristics.RingEndGap, ring.Kind.Id, _ => boreNow?.Value) is { IsRuleOfThumb: false } limit
                ? limit.ServiceMost
                : null;
            bool? fits =
                judged is not { } g ? null
                : most is { } m ? g <= m
                : null;
            RingTest[] tests =
            [
                new(Fact.Of("verdict.ring.same-bore"), same),
                new(Fact.Of("verdict.ring.whole"), whole),
                new(Fact.Of(unseated ? "verdict.ring.never-seated" : "verdict.ring.flat"), flat),
                new(Fact.Of("verdict.ring.gap-in-limit"), fits),
                new(Fact.Of("verdict.ring.tension"), tension),
            ];
            bool? again =
                Array.Exists(tests, t => t.Holds == false) ? false
                : Array.TrueForAll(tests, t => t.Holds == true) ? true
                : null;
            double? file = judged is { } j && target is { } t ? Math.Max(0, t - j) : null;
            return new RingAdvice(ring.Code, again, tests, gap?.Value, after, target, file, Words(again, tests, file, target, source));
        }

        Fact Words(bool? again, RingTest[] tests, double? file, double? target, Fact? source) =>
            Fact.All(
                again switch
                {
                    true when schools.UsedRings == UsedRings.Renew => Fact.Of("verdict.ring.could-but-renewed"),
                    true => Fact.Of("verdict.ring.again"),
                    false => Fact.Of("verdict.ring.not-again", ("why", tests.Where(t => t.Holds == false).Select(t => t.Words).ToArray())),
                    null => Fact.Of("verdict.ring.open", ("what", tests.Where(t => t.Holds is null).Select(t => t.Words).ToArray())),
                },
                again != false && file is > 0.005 && target is { } to
                    ? Fact.Of("verdict.ring.file", ("file", Amount.Length(file.Value, 2)), ("target", Amount.Length(to, 2)), ("source", source))
                    : null
            );

        // What the gap is in the bore as it was honed, or as it is planned.
        double? After(Address bore, SheetFigure? now, SheetFigure? gap)
        {
            if (gap is null)
            {
                return null;
            }

            var before = sheet.Figures.FirstOrDefault(f =>
                f.Place == bore.Code && f.Characteristic == Characteristics.BoreDiameter && f.Phase == Phase.AsFound
            );
            var to =
                now is { Phase: > Phase.AsFound } && gap.Phase == Phase.AsFound ? now.Value
                : OtherBore.Contains(CourseOf(bore.Code)) && plans.FirstOrDefault(p => p.Kind == PartKinds.Bore) is { Size: { } size } ? size
                : (double?)null;
            return to is { } t && before is not null && t > before.Value ? Formulas.GapAfterBoring.Of(gap.Value, before.Value, t) : null;
        }

        // The maker's least, else the rule of thumb for the use; of a second ring no less than the first where the shop holds it so.
        (double? Gap, Fact? Source) Target(Address ring, Address bore, SheetFigure? boreNow)
        {
            double? Size(string id) => id == Characteristics.BoreDiameter ? boreNow?.Value ?? (double?)limits.Nominal(id, PartKinds.Bore) : null;
            var own = limits.For(Characteristics.RingEndGap, ring.Kind.Id, Size);
            if (own?.Least is not { } least)
            {
                return (null, null);
            }

            var top =
                ring.Kind.Id == "ring-second" && schools.SecondGap == SecondGap.NotSmaller
                    ? limits.For(Characteristics.RingEndGap, "ring-top", Size)?.Least
                    : null;
            return top > least ? (top, Fact.Of("verdict.ring.as-the-first")) : (least, own.SourceText);
        }

        Conformity? Lies(string place, string id) => sheet.Now(place, id) is { Limit.IsRuleOfThumb: false } f ? f.Conformity : null;

        HashSet<string> Seen_(string place, bool present) =>
            findings[place]
                .Where(f => f.IsSeenForItself && f.Seen == (present ? Seen.Present : Seen.Absent))
                .Select(f => f.Sign)
                .ToHashSet(StringComparer.Ordinal);

        List<Fact> Notes()
        {
            var notes = new List<Fact>();
            var byCylinder = told.GroupBy(r => table.Find(r.Ring)!.Station).ToArray();
            if (byCylinder.Length > 1 && byCylinder.Count(c => c.Any(r => r.Again == false)) == 1 && byCylinder.Any(c => c.All(r => r.Again == true)))
            {
                notes.Add(Fact.Of("verdict.ring.one-cylinder", ("cylinder", byCylinder.First(c => c.Any(r => r.Again == false)).Key)));
            }

            if (schools.PortedRings == PortedRings.One && table.Engine.Layout is { Cycle: WorkingCycle.TwoStroke, CompressionRings: > 1 })
            {
                notes.Add(Fact.Of("verdict.ring.one-ring"));
            }

            foreach (var f in sheet.Current.Where(f => f is { Characteristic: "ring-end-margin", Value: < 0 }))
            {
                notes.Add(Fact.Of("verdict.ring.end-in-port", ("place", f.Place)));
            }

            foreach (var f in sheet.Current.Where(f => f is { Characteristic: "port-share", Conformity: Conformity.Outside }))
            {
                notes.Add(Fact.Of("verdict.ring.wide-port", ("place", f.Place), ("share", new Number(Math.Round(f.Value)))));
            }

            return notes;
        }
    }
}
