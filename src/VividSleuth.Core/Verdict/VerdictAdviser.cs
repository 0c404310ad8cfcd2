using VividSleuth.Core.Cases;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Verdict;

/// <summary>What the rules would do with a part, why, and on which figure. The mechanic decides.</summary>
/// <param name="Action">Null while there is nothing to go by.</param>
public sealed record VerdictAdvice(string Place, VerdictAction? Action, string Reason, string Figure);

/// <summary>Rules for reuse, machining and replacing, part by part. Common practice, no source, unless a rule says otherwise.</summary>
public static class VerdictAdviser
{
    private static readonly string[] Shells = [PartKinds.RodShellUpper, PartKinds.RodShellLower, "main-shell-upper", "main-shell-lower"];

    public static IReadOnlyList<VerdictAdvice> Advise(EngineCase engineCase, AddressTable table, KnowledgeBase knowledge, GaugeSheet sheet)
    {
        var findings = engineCase.Findings.Where(f => f.Stands()).ToLookup(f => f.Place, StringComparer.Ordinal);
        var figures = sheet.Figures.ToLookup(f => f.Place, StringComparer.Ordinal);
        var touched = engineCase
            .Parts.Where(p => p.Stands())
            .Select(p => p.Place)
            .Concat(findings.Select(g => g.Key))
            .Concat(figures.Select(g => g.Key))
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. table
                .All.Where(a => touched.Contains(a.Code) && a.Kind.Id is not (PartKinds.Engine or "pan"))
                .Select(a => Advise(a, table, knowledge, sheet, [.. findings[a.Code]], [.. figures[a.Code]])),
        ];
    }

    private static VerdictAdvice Advise(
        Address place,
        AddressTable table,
        KnowledgeBase knowledge,
        GaugeSheet sheet,
        Finding[] findings,
        SheetFigure[] figures
    )
    {
        var present = findings.Where(f => f.Seen == Seen.Present).OrderByDescending(f => f.Level).ToArray();
        var worst = present.FirstOrDefault();
        var words = worst is null ? "" : $"{knowledge.Sign(worst.Sign)?.Name ?? worst.Sign}, {Level(worst.Level)}";
        var outside = Array.Find(figures, f => f.Conformity == Conformity.Outside && f.Limit is { IsRuleOfThumb: false });
        var figure = figures.Length > 0 ? string.Join("; ", figures.Select(Told)) : "";

        if (Shells.Contains(place.Kind.Id))
        {
            var rod = table.Find(PartKinds.Rod, place.Station);
            var grade = place.Kind.Id is PartKinds.RodShellUpper or PartKinds.RodShellLower
                ? sheet.Grades.FirstOrDefault(g => g.Place == rod?.Code)
                : null;
            var clearance = place.Kind.Id is PartKinds.RodShellUpper or PartKinds.RodShellLower
                ? sheet.Figures.FirstOrDefault(f => f.Place == rod?.Code && f.Characteristic == SheetBuilder.BigEndClearance)
                : null;
            var on = string.Join("; ", new[] { figure, clearance is null ? "" : Told(clearance) }.Where(t => t.Length > 0));
            if (grade?.Loud == true)
            {
                return new VerdictAdvice(place.Code, VerdictAction.Replace, $"Wrong size: {grade.Words}", on);
            }

            return worst is not null
                ? new VerdictAdvice(place.Code, VerdictAction.Replace, $"{words}. Shells are replaced in pairs and kept as evidence.", on)
                : new VerdictAdvice(place.Code, VerdictAction.Replace, "Shells that were lifted are renewed; these are kept as evidence.", on);
        }

        if (place.Kind.Id == PartKinds.Crankpin)
        {
            return Pin(place, sheet, figures, figure, worst, words, outside);
        }

        if (worst is { Sign: "heat-colour", Level: >= 2 } && place.Kind.Id is PartKinds.Rod or PartKinds.RodCap)
        {
            return new VerdictAdvice(
                place.Code,
                VerdictAction.Specialist,
                $"{words}: hardness, straightness and big-end bore must be checked before it runs again.",
                figure
            );
        }

        if (outside is not null)
        {
            return new VerdictAdvice(place.Code, VerdictAction.Replace, $"{outside.Name} is outside the maker's limit.", figure);
        }

        if (worst is { Level: 3 })
        {
            return new VerdictAdvice(place.Code, VerdictAction.Replace, $"{words}.", figure);
        }

        if (worst is not null)
        {
            return new VerdictAdvice(place.Code, VerdictAction.Repair, $"{words}: decide on the bench whether it can be put right.", figure);
        }

        return figures.Length > 0 || findings.Length > 0
            ? new VerdictAdvice(
                place.Code,
                VerdictAction.CleanAndReuse,
                findings.Length > 0 ? "Looked at, nothing found against it." : "Measured, nothing against it.",
                figure
            )
            : new VerdictAdvice(place.Code, null, "Nothing has been looked at or measured here.", "");
    }

    private static VerdictAdvice Pin(
        Address place,
        GaugeSheet sheet,
        SheetFigure[] figures,
        string figure,
        Finding? worst,
        string words,
        SheetFigure? outside
    )
    {
        var diameter = Array.Find(figures, f => f.Characteristic == SheetBuilder.PinDiameter);
        if (diameter is null)
        {
            return new VerdictAdvice(
                place.Code,
                worst is null ? null : VerdictAction.Machine,
                worst is null ? "Measure the pin." : $"{words}. Measure it to choose the undersize.",
                figure
            );
        }

        var round = Array.Find(figures, f => f.Characteristic == SheetBuilder.RoundnessOfPin);
        var standard = sheet.StandardPin;
        if (worst is { Level: >= 2 } || outside is not null || round is { Conformity: Conformity.Outside })
        {
            var least = diameter.Value - ((round?.Value ?? 0) / 2);
            var next = standard is { } s ? Grade.NextThatCleansUp(s, (decimal)least) : null;
            var why =
                worst is { Level: >= 2 } ? words
                : outside is not null ? "Outside the limit"
                : "Out of round";
            return next is null
                ? new VerdictAdvice(
                    place.Code,
                    VerdictAction.Specialist,
                    $"{why}: no usual undersize cleans it up, or the standard size is not known.",
                    figure
                )
                : new VerdictAdvice(
                    place.Code,
                    VerdictAction.Machine,
                    $"{why}: grind to {next.Name} mm under, which cleans it up. All pins of the shaft to one size.",
                    figure
                );
        }

        return new VerdictAdvice(place.Code, VerdictAction.Reuse, worst is null ? "Sound and in size." : $"{words}: polish.", figure);
    }

    private static string Level(int level) =>
        level switch
        {
            1 => "slight",
            2 => "marked",
            _ => "severe",
        };

    private static string Told(SheetFigure f)
    {
        var limit =
            f.Limit is { } l && (l.Least is not null || l.Most is not null)
                ? $" ({(l.IsRuleOfThumb ? "rule of thumb" : "limit")} {l.Least:0.000}–{l.Most:0.000}, {l.SourceText})"
                : "";
        return $"{f.Name} {f.Value:0.000} ± {f.Expanded:0.000}{limit}";
    }
}
