using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>What the rules would do with a part, why, and on which figure. The mechanic decides.</summary>
/// <param name="Action">Null while there is nothing to go by.</param>
/// <param name="Never">What may not be decided, whatever speaks for it.</param>
public sealed record VerdictAdvice(string Place, VerdictAction? Action, string Reason, string Figure, IReadOnlyList<VerdictAction> Never);

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
        ["head"] = "skim it, within the maker’s least height",
        ["crankcase"] = "the machine shop skims the deck or bores the tunnel in line, within the maker’s figures",
        ["case-half"] = "the machine shop faces the joint or bores the tunnel in line, both halves together",
        ["main-cap"] = "the tunnel is bored or honed in line with its caps torqued",
        ["small-end"] = "a new bush, reamed or honed to its pin",
        ["seat-inlet"] = "recut and lap it, as far as the seat allows",
        ["seat-exhaust"] = "recut and lap it, as far as the seat allows",
        ["guide-inlet"] = "ream it for a thicker stem, or renew the guide",
        ["guide-exhaust"] = "ream it for a thicker stem, or renew the guide",
        ["flywheel"] = "skim the face, within the maker’s least thickness",
    };

    private readonly AddressTable _table;
    private readonly KnowledgeBase _knowledge;
    private readonly GaugeSheet _sheet;
    private readonly Cracks _cracks;

    private VerdictAdviser(VerdictLog log, AddressTable table, KnowledgeBase knowledge, GaugeSheet sheet)
    {
        _table = table;
        _knowledge = knowledge;
        _sheet = sheet;
        _cracks = new Cracks(log.Findings, table, knowledge);
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
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. table
                .All.Where(a => touched.Contains(a.Code) && a.Kind.Id is not (PartKinds.Engine or "pan"))
                .Select(a => adviser.Advise(a, [.. findings[a.Code]], [.. figures[a.Code]])),
        ];
    }

    /// <summary>The figures that decide: once a part was worked on, how it was found no longer does.</summary>
    private static IEnumerable<SheetFigure> Current(IReadOnlyList<SheetFigure> figures) =>
        figures.GroupBy(f => (f.Place, f.Characteristic)).Select(g => g.MaxBy(f => f.Phase)!);

    private VerdictAdvice Advise(Address place, Finding[] findings, SheetFigure[] figures)
    {
        var worst = findings.Where(f => f.Seen == Seen.Present).MaxBy(f => f.Level);
        var words = worst is null ? "" : Words(worst);
        var outside = Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Limit is { IsRuleOfThumb: false });
        var figure = figures.Length > 0 ? string.Join("; ", figures.Select(Told)) : "";
        VerdictAdvice Say(VerdictAction? action, string reason, string? on = null) =>
            new(place.Code, action, reason, on ?? figure, VerdictRules.Never(place, _cracks));

        if (_cracks.Condemns(place) is { } cracked)
        {
            var crack = Words(_cracks.At(cracked)!);
            return place.Kind.Casting
                    ? Say(VerdictAction.Specialist, $"{crack}: whether the casting can be saved is for a specialist; otherwise replace it.")
                : cracked == place.Code ? Say(VerdictAction.Replace, $"{crack}: never ground, repaired or run again.")
                : Say(VerdictAction.Replace, $"The shaft is cracked at {cracked} ({crack}): none of it is ground or run again.");
        }

        if (place.Kind.OneTime.Length > 0 || place.Kind.Renewed.Length > 0)
        {
            var why = place.Kind.OneTime.Length > 0 ? place.Kind.OneTime : place.Kind.Renewed;
            return Say(VerdictAction.Replace, worst is null ? why : $"{words}. {why}");
        }

        return place.Kind.Id switch
        {
            var shell when Shells.Contains(shell) => Shell(),
            PartKinds.Crankpin => Journal(SheetBuilder.PinDiameter),
            PartKinds.MainJournal => Journal(SheetBuilder.MainDiameter),
            PartKinds.Bore or "barrel" => Bore(),
            PartKinds.Rod or PartKinds.RodCap when worst is { Sign: "heat-colour", Level: >= 2 } => Say(
                VerdictAction.Specialist,
                $"{words}: hardness, straightness and big-end bore must be checked before it runs again."
            ),
            _ => outside is not null ? Outside()
            : worst is { Level: 3 } ? Say(VerdictAction.Replace, $"{words}.")
            : worst is not null ? Say(VerdictAction.Repair, $"{words}: decide on the bench whether it can be put right.")
            : Nothing(),
        };

        VerdictAdvice Nothing() =>
            figures.Length == 0 && findings.Length == 0 ? Say(null, "Nothing has been looked at or measured here.")
            : findings.Length > 0 ? Say(VerdictAction.CleanAndReuse, "Looked at, nothing found against it.")
            : Say(VerdictAction.CleanAndReuse, "Measured, nothing against it.");

        VerdictAdvice Shell()
        {
            var ofRod = place.Kind.Id is PartKinds.RodShellUpper or PartKinds.RodShellLower;
            var rod = ofRod ? _table.Find(PartKinds.Rod, place.Station) : null;
            var grade = _sheet.Grades.FirstOrDefault(g => g.Place == rod?.Code);
            var clearance = Current(_sheet.Figures).FirstOrDefault(f => f.Place == rod?.Code && f.Characteristic == SheetBuilder.BigEndClearance);
            var on = string.Join("; ", new[] { figure, clearance is null ? "" : Told(clearance) }.Where(t => t.Length > 0));
            return grade?.Loud == true ? Say(VerdictAction.Replace, $"Wrong size: {grade.Words}", on)
                : worst is not null ? Say(VerdictAction.Replace, $"{words}. Shells are replaced in pairs and kept as evidence.", on)
                : Say(VerdictAction.Replace, "Shells that were lifted are renewed; these are kept as evidence.", on);
        }

        VerdictAdvice Journal(string diameter)
        {
            var shape = Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Characteristic != diameter);
            if (Array.Find(figures, f => f.Characteristic == diameter) is null)
            {
                return worst is null
                    ? Say(null, "Measure it.")
                    : Say(
                        worst.Level >= 2 ? VerdictAction.Machine : null,
                        $"{words}. Measure it: the size decides whether it is polished or ground, and to what."
                    );
            }

            if (worst is not { Level: >= 2 } && outside is null && shape is null)
            {
                return Say(VerdictAction.Reuse, worst is null ? "Sound and in size." : $"{words}: polish.");
            }

            var why =
                worst is { Level: >= 2 } ? words
                : outside is not null ? $"{outside.Name} is outside the limit"
                : $"{shape!.Name} is outside the {(shape.Limit!.IsRuleOfThumb ? "rule of thumb" : "limit")}";
            return Planned(why);
        }

        VerdictAdvice Bore()
        {
            var shape = Array.Find(figures, f => f.Conformity == Conformity.Outside && OfPart(f));
            return shape is not null && Plan() is not null
                    ? Planned($"{shape.Name} is outside the {(shape.Limit!.IsRuleOfThumb ? "rule of thumb" : "limit")}")
                : shape is not null
                    ? Say(VerdictAction.Machine, $"{shape.Name} is out: bore or sleeve it. Enter the standard size for the oversize that cleans up.")
                : worst is { Level: >= 2 } && Plan() is not null ? Planned(words)
                : worst is { Level: >= 2 }
                    ? Say(VerdictAction.Machine, $"{words}. Measure it and enter the standard size for the oversize that cleans up.")
                : outside is not null ? Outside()
                : worst is not null ? Say(VerdictAction.Repair, $"{words}: decide on the bench whether honing puts it right.")
                : Nothing();
        }

        MachiningPlan? Plan() => _sheet.Machining.FirstOrDefault(m => m.Kind == (place.Kind.Id == "barrel" ? PartKinds.Bore : place.Kind.Id));

        // The size is the machining plan's: one size for all of the shaft or block, on the worst of them.
        VerdictAdvice Planned(string why) =>
            Plan() switch
            {
                null => Say(VerdictAction.Machine, $"{why}. Enter the standard size, so that the step that cleans it up is known."),
                { Size: null } plan => Say(VerdictAction.Specialist, $"{why}. {plan.Words}"),
                var plan => Say(VerdictAction.Machine, $"{why}. {plan.Words}"),
            };

        VerdictAdvice Outside()
        {
            var name = outside!.Name;
            if (!OfPart(outside))
            {
                return Say(
                    null,
                    $"{name} is outside the maker’s limit. Several parts make it up: measure each against its own limit, and decide on the one that is off."
                );
            }

            if (outside.Characteristic == "ring-end-gap" && outside.Value < outside.Limit!.ServiceLeast)
            {
                return Say(VerdictAction.Repair, $"{name} is under the maker’s limit: file the ends square until the gap is right.");
            }

            if (place.Kind.Id == PartKinds.Rod || place.Kind.Id == "crankshaft")
            {
                return Say(
                    VerdictAction.Specialist,
                    $"{name} is outside the maker’s limit: whether it can be straightened or sized is for a specialist."
                );
            }

            return outside.Characteristic != "head-thickness" && Machined.TryGetValue(place.Kind.Id, out var how)
                ? Say(VerdictAction.Machine, $"{name} is outside the maker’s limit: {how}.")
                : Say(VerdictAction.Replace, $"{name} is outside the maker’s limit.");
        }
    }

    /// <summary>Whether a figure is of the part alone; a clearance or a play is made up of several parts and condemns none by itself.</summary>
    private bool OfPart(SheetFigure figure) => _knowledge.Characteristic(figure.Characteristic) is { Between: false };

    private string Words(Finding finding) =>
        $"{_knowledge.Sign(finding.Sign)?.Name ?? finding.Sign}, {finding.Level switch { 1 => "slight", 2 => "marked", _ => "severe" }}";

    private static string Told(SheetFigure f)
    {
        // One open side is said in words: a dash before a lone figure reads as a minus.
        var bounds = (f.Limit?.Least, f.Limit?.Most) switch
        {
            (null, null) => "",
            (null, { } most) => $"at most {most:0.000}",
            ({ } least, null) => $"at least {least:0.000}",
            ({ } least, { } most) => $"{least:0.000}–{most:0.000}",
        };
        var named = f.Limit is { IsRuleOfThumb: true } l && !l.SourceText.StartsWith("rule of thumb", StringComparison.OrdinalIgnoreCase);
        var limit = bounds.Length > 0 ? $" ({bounds}, {(named ? "rule of thumb, " : "")}{f.Limit!.SourceText})" : "";
        return $"{f.Name} {f.Value:0.000} ± {f.Expanded:0.000}{limit}";
    }
}
