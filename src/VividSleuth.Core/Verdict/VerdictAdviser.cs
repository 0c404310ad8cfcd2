using System.Text.Json.Serialization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>What the rules would do with a part, why, and on which figure. The mechanic decides.</summary>
/// <param name="Action">Null while there is nothing to go by.</param>
/// <param name="On">The figures it goes by; a verdict takes them over as they stand.</param>
/// <param name="Never">What may not be decided, whatever speaks for it.</param>
/// <param name="Decided">The figures that the standing verdict rests on; null where there is no verdict.</param>
public sealed record VerdictAdvice(
    string Place,
    VerdictAction? Action,
    Fact Reason,
    Fact Figure,
    IReadOnlyList<VerdictAction> Never,
    Fact? Decided,
    [property: JsonIgnore] IReadOnlyList<SheetFigure> On
);

/// <summary>
/// Rules for reuse, machining and replacing, part by part. What is forbidden comes first and nothing outvotes it; sizes are those of the
/// machining plan. Common practice, no source, unless a rule says otherwise.
/// </summary>
public sealed class VerdictAdviser
{
    private static readonly string[] Shells = [PartKinds.RodShellUpper, PartKinds.RodShellLower, "main-shell-upper", "main-shell-lower"];

    /// <summary>What the trade does with a part that is out of its limit and is not thrown away for it.</summary>
    private static readonly Dictionary<string, string> Machined = new(StringComparer.Ordinal)
    {
        ["head"] = "verdict.how.skim",
        ["crankcase"] = "verdict.how.deck-or-tunnel",
        ["case-half"] = "verdict.how.joint-or-tunnel",
        ["main-cap"] = "verdict.how.tunnel-in-line",
        ["small-end"] = "verdict.how.new-bush",
        ["seat-inlet"] = "verdict.how.recut",
        ["seat-exhaust"] = "verdict.how.recut",
        ["guide-inlet"] = "verdict.how.ream-or-renew",
        ["guide-exhaust"] = "verdict.how.ream-or-renew",
        ["flywheel"] = "verdict.how.skim-the-face",
    };

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly GaugeSheet _sheet;
    private readonly Cracks _cracks;
    private readonly Dictionary<string, PartVerdict> _standing;

    private VerdictAdviser(VerdictLog log, AddressTable table, KnowledgeBase knowledge, GaugeSheet sheet)
    {
        _table = table;
        _knowledge = knowledge;
        _sheet = sheet;
        _cracks = new Cracks(log.Findings, table, knowledge);
        _standing = log
            .Verdicts.Where(v => v.Stands())
            .GroupBy(v => v.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.MaxBy(v => v.At)!, StringComparer.Ordinal);
    }

    public static IReadOnlyList<VerdictAdvice> Advise(VerdictLog log, AddressTable table, KnowledgeBase knowledge, GaugeSheet sheet)
    {
        var adviser = new VerdictAdviser(log, table, knowledge, sheet);
        var findings = log.Findings.Where(f => f.Stands()).ToLookup(f => f.Place, StringComparer.Ordinal);
        var figures = Current(sheet.Figures).ToLookup(f => f.Place, StringComparer.Ordinal);
        var touched = log
            .Parts.Where(p => p.Stands())
            .Select(p => p.Place)
            .Concat(findings.Select(g => g.Key))
            .Concat(figures.Select(g => g.Key))
            .Concat(adviser._standing.Keys)
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. table
                .All.Where(a => touched.Contains(a.Code) && (a.Kind.Id is not (PartKinds.Engine or "pan") || adviser._standing.ContainsKey(a.Code)))
                .Select(a => adviser.Advise(a, [.. findings[a.Code]], [.. figures[a.Code]])),
        ];
    }

    /// <summary>The figures that decide: once a part was worked on, how it was found no longer does.</summary>
    private static IEnumerable<SheetFigure> Current(IReadOnlyList<SheetFigure> figures) =>
        figures.GroupBy(f => (f.Place, f.Characteristic)).Select(g => g.MaxBy(f => f.Phase)!);

    private VerdictAdvice Advise(Address place, Finding[] findings, SheetFigure[] figures)
    {
        var worst = findings.Where(f => f.Seen == Seen.Present).MaxBy(f => f.Level);
        var words = worst is null ? null : Words(worst);
        var outside = Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Limit is { IsRuleOfThumb: false });
        VerdictAdvice Say(VerdictAction? action, Fact reason, params IReadOnlyList<SheetFigure> on) =>
            new(
                place.Code,
                action,
                reason,
                Told([.. figures, .. on]),
                VerdictRules.Never(place, _cracks),
                Decided(_standing.GetValueOrDefault(place.Code)),
                [.. figures, .. on]
            );

        if (_cracks.Condemns(place) is { } cracked)
        {
            var crack = Words(_cracks.At(cracked)!);
            return place.Kind.Casting ? Say(VerdictAction.Specialist, Fact.Of("verdict.whether-casting-can-saved-specialist", ("crack", crack)))
                : cracked == place.Code ? Say(VerdictAction.Replace, Fact.Of("verdict.never-ground-repaired-run-again", ("crack", crack)))
                : Say(VerdictAction.Replace, Fact.Of("verdict.shaft-cracked-none-ground-run", ("cracked", cracked), ("crack", crack)));
        }

        if ((place.Kind.OneTime ?? place.Kind.Renewed) is { } renewed)
        {
            return Say(VerdictAction.Replace, words is null ? renewed : Fact.Of("verdict.seen-and-so", ("seen", words), ("so", renewed)));
        }

        return place.Kind.Id switch
        {
            var shell when Shells.Contains(shell) => Shell(),
            PartKinds.Crankpin => Journal(Characteristics.PinDiameter),
            PartKinds.MainJournal => Journal(Characteristics.MainDiameter),
            PartKinds.Bore or "barrel" => Bore(),
            PartKinds.Rod or PartKinds.RodCap when worst is { Sign: "heat-colour", Level: >= 2 } => Say(
                VerdictAction.Specialist,
                Fact.Of("verdict.hardness-straightness-big-end-bore", ("seen", words))
            ),
            _ => outside is not null ? Outside()
            : worst is { Level: 3 } ? Say(VerdictAction.Replace, Fact.Of("verdict.seen", ("seen", words)))
            : worst is not null ? Say(VerdictAction.Repair, Fact.Of("verdict.decide-bench-whether-can-put", ("seen", words)))
            : Nothing(),
        };

        VerdictAdvice Nothing() =>
            figures.Length == 0 && findings.Length == 0 ? Say(null, Fact.Of("verdict.nothing-been-looked-measured-here"))
            : findings.Length > 0 ? Say(VerdictAction.CleanAndReuse, Fact.Of("verdict.looked-nothing-found-against"))
            : Say(VerdictAction.CleanAndReuse, Fact.Of("verdict.measured-nothing-against"));

        VerdictAdvice Shell()
        {
            var ofRod = place.Kind.Id is PartKinds.RodShellUpper or PartKinds.RodShellLower;
            var rod = ofRod ? _table.Find(PartKinds.Rod, place.Station) : null;
            var grade = _sheet.Grades.FirstOrDefault(g => g.Place == rod?.Code);
            var clearance = Current(_sheet.Figures).FirstOrDefault(f => f.Place == rod?.Code && f.Characteristic == Characteristics.BigEndClearance);
            SheetFigure[] on = clearance is null ? [] : [clearance];
            return grade?.Loud == true ? Say(VerdictAction.Replace, Fact.Of("verdict.wrong-size", ("why", grade.Words)), on)
                : worst is not null ? Say(VerdictAction.Replace, Fact.Of("verdict.shells-replaced-pairs-kept-evidence", ("seen", words)), on)
                : Say(VerdictAction.Replace, Fact.Of("verdict.shells-were-lifted-renewed-these"), on);
        }

        VerdictAdvice Journal(string diameter)
        {
            var shape = Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Characteristic != diameter);
            if (Array.Find(figures, f => f.Characteristic == diameter) is null)
            {
                return worst is null
                    ? Say(null, Fact.Of("verdict.measure-it"))
                    : Say(worst.Level >= 2 ? VerdictAction.Machine : null, Fact.Of("verdict.measure-size-decides-whether-polished", ("seen", words)));
            }

            if (worst is not { Level: >= 2 } && outside is null && shape is null)
            {
                return Say(VerdictAction.Reuse, worst is null ? Fact.Of("verdict.sound-size") : Fact.Of("verdict.polish", ("seen", words)));
            }

            var why =
                worst is { Level: >= 2 } ? words!
                : outside is not null ? Fact.Of("verdict.outside-the-limit", ("figure", outside.Name))
                : OutsideOf(shape!);
            return Planned(why);
        }

        VerdictAdvice Bore()
        {
            var shape = Array.Find(figures, f => f.Conformity == Conformity.Outside && OfPart(f));
            return shape is not null && Plan() is not null ? Planned(OutsideOf(shape))
                : shape is not null ? Say(VerdictAction.Machine, Fact.Of("verdict.out-bore-sleeve-enter-standard", ("shape", shape.Name)))
                : worst is { Level: >= 2 } && Plan() is not null ? Planned(words!)
                : worst is { Level: >= 2 } ? Say(VerdictAction.Machine, Fact.Of("verdict.measure-enter-standard-size-oversize", ("seen", words)))
                : outside is not null ? Outside()
                : worst is not null ? Say(VerdictAction.Repair, Fact.Of("verdict.decide-bench-whether-honing-puts", ("seen", words)))
                : Nothing();
        }

        MachiningPlan? Plan() => _sheet.Machining.FirstOrDefault(m => m.Kind == (place.Kind.Id == "barrel" ? PartKinds.Bore : place.Kind.Id));

        // The size is the machining plan's: one size for all of the shaft or block, on the worst of them.
        VerdictAdvice Planned(Fact why) =>
            Plan() switch
            {
                null => Say(VerdictAction.Machine, Fact.Of("verdict.enter-standard-size-so-step", ("why", why))),
                { Size: null } plan => Say(VerdictAction.Specialist, Fact.Of("verdict.seen-and-so", ("seen", why), ("so", plan.Words))),
                var plan => Say(VerdictAction.Machine, Fact.Of("verdict.seen-and-so", ("seen", why), ("so", plan.Words))),
            };

        VerdictAdvice Outside()
        {
            var name = outside!.Name;
            if (!OfPart(outside))
            {
                return Say(null, Fact.Of("verdict.several-parts-make-it-up", ("name", name)));
            }

            if (outside.Characteristic == "ring-end-gap" && outside.Value < outside.Limit!.ServiceLeast)
            {
                return Say(VerdictAction.Repair, Fact.Of("verdict.gap-under-limit", ("name", name)));
            }

            if (place.Kind.Id == PartKinds.Rod || place.Kind.Id == "crankshaft")
            {
                return Say(VerdictAction.Specialist, Fact.Of("verdict.straightening-is-for-a-specialist", ("name", name)));
            }

            return outside.Characteristic != "head-thickness" && Machined.TryGetValue(place.Kind.Id, out var how)
                ? Say(VerdictAction.Machine, Fact.Of("verdict.outside-makers-limit-so", ("name", name), ("how", Fact.Of(how))))
                : Say(VerdictAction.Replace, Fact.Of("verdict.outside-makers-limit", ("name", name)));
        }
    }

    /// <summary>Whether a figure is of the part alone; a clearance or a play is made up of several parts and condemns none by itself.</summary>
    private bool OfPart(SheetFigure figure) => _knowledge.Characteristic(figure.Characteristic) is { Between: false };

    private Fact Words(Finding finding) =>
        Fact.Of(
            "verdict.sign-and-level",
            ("sign", _knowledge.Sign(finding.Sign)?.Name ?? finding.Sign),
            ("level", Fact.Of($"word.level.{Math.Clamp(finding.Level, 1, 3)}"))
        );

    private static Fact OutsideOf(SheetFigure figure) =>
        Fact.Of(figure.Limit!.IsRuleOfThumb ? "verdict.outside-the-rule-of-thumb" : "verdict.outside-the-limit", ("figure", figure.Name));

    private static Fact? Decided(PartVerdict? verdict) =>
        verdict is null ? null
        : verdict.Figures.Count > 0 ? Fact.Of("verdict.figures", ("figures", verdict.Figures.Select(Told).ToArray()))
        : Fact.Text(verdict.Figure);

    private static Fact Told(IReadOnlyList<SheetFigure> figures) =>
        figures.Count == 0 ? Fact.None : Fact.Of("verdict.figures", ("figures", figures.Select(Told).ToArray()));

    private static Fact Told(SheetFigure f) => Told(f.Name, f.Quantity, f.Value, f.Expanded, f.Limit?.Least, f.Limit?.Most, f.Limit?.SourceText);

    private static Fact Told(VerdictFigure f) => Told(f.Name, f.Quantity, f.Value, f.Expanded, f.Least, f.Most, Fact.Text(f.Source));

    private static Fact Told(string name, Quantity quantity, double value, double expanded, double? least, double? most, Fact? source)
    {
        Amount Size(double size) => new(size, quantity, 3);
        // One open side is said in words: a dash before a lone figure reads as a minus.
        var bounds = (least, most) switch
        {
            (null, null) => null,
            (null, { } up) => Fact.Of("verdict.at-most", ("most", Size(up))),
            ({ } down, null) => Fact.Of("verdict.at-least", ("least", Size(down))),
            ({ } down, { } up) => Fact.Of("verdict.from-to", ("least", Size(down)), ("most", Size(up))),
        };
        return Fact.Of(
            "verdict.figure",
            ("figure", name),
            ("value", Size(value)),
            ("uncertainty", Size(expanded)),
            ("limit", bounds is null ? null : Fact.Of("verdict.limit", ("bounds", bounds), ("source", source)))
        );
    }
}
