using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>A check of grades with what it rests on.</summary>
/// <param name="Sign">Sign of a mismatch; null where the kind of bearing has none.</param>
/// <param name="Measured">True where a shell's wall was measured, and not only its stamp read.</param>
internal sealed record CheckedGrade(GradeCheck Check, string? Sign, bool Measured);

/// <summary>Whether journal, shell size and shell stamp agree, at big ends and mains.</summary>
internal static class GradeChecks
{
    public static IReadOnlyList<CheckedGrade> Of(SheetDraft draft) =>
        [
            .. Of(
                draft,
                PartKinds.Rod,
                PartKinds.RodShellUpper,
                PartKinds.RodShellLower,
                PartKinds.Crankpin,
                Characteristics.PinDiameter,
                "size-mismatch"
            ),
            .. Of(draft, PartKinds.MainJournal, "main-shell-upper", "main-shell-lower", PartKinds.MainJournal, Characteristics.MainDiameter, null),
        ];

    private static IEnumerable<CheckedGrade> Of(
        SheetDraft draft,
        string place,
        string upper,
        string lower,
        string journalKind,
        string diameter,
        string? sign
    )
    {
        if (draft.Limits.Nominal(diameter, journalKind) is not { } standard)
        {
            yield break;
        }

        foreach (var at in draft.Table.OfKind(place))
        {
            if (
                Kin.Of(draft.Table, at, upper) is { } up
                && Kin.Of(draft.Table, at, lower) is { } low
                && Kin.Of(draft.Table, at, journalKind) is { } journal
                && draft.Book.Whole(journal.Code, diameter, Phase.AsFound) is { } size
            )
            {
                yield return Check(draft, at, standard, size.AsMeasured(), up, low, sign, draft.Sizes.Of(journalKind));
            }
        }
    }

    private static CheckedGrade Check(
        SheetDraft draft,
        Address place,
        decimal standard,
        Measured journal,
        Address upper,
        Address lower,
        string? sign,
        SizeSteps steps
    )
    {
        var found = Shells(draft, upper, lower, steps);
        var stamped = draft
            .Log.Parts.Where(p => p.Stands() && (p.Place == upper.Code || p.Place == lower.Code) && p.GradeStamped.Length > 0)
            .Select(p => (Code: p.Place, Text: p.GradeStamped, Grades: GradeStamp.Of(p.GradeStamped, steps)))
            .ToArray();
        var alone = GradeOdds.OfJournal(standard, journal, steps);
        var wall = draft.Limits.Nominal(Characteristics.ShellWall, upper.Kind.Id);
        Func<Grade, double>[] halves =
        [
            .. new[] { upper.Code, lower.Code }
                .Select(code =>
                    (
                        Wall: wall is null ? null : draft.Book.Whole(code, Characteristics.ShellWall, Phase.AsFound)?.AsMeasured(),
                        Stamp: stamped.FirstOrDefault(s => s.Code == code).Grades ?? []
                    )
                )
                .Where(h => h.Wall is not null || h.Stamp.Count > 0)
                .Select(h => GradeOdds.Half(wall ?? 0, h.Wall, h.Stamp)),
        ];
        var (odds, agree) = halves.Length == 0 ? (alone, 0) : GradeOdds.Together(alone, halves, steps);
        var ground = Likeliest(odds, steps.OfJournal(standard, (decimal)journal.Value));
        foreach (var (code, text, _) in stamped.Where(s => s.Grades.Count == 0))
        {
            draft.Notes.Add(Fact.Of("gauge.stamp-is-no-grade", ("stamp", text), ("place", code)));
        }

        var wrong = Wrong(ground, found, stamped);
        var loud = wrong.Count > 0;
        return new CheckedGrade(
            new GradeCheck(
                place.Code,
                ground.Name,
                found.Length > 0 ? string.Join(" / ", found.Select(f => f.Grade.Name).Distinct()) : null,
                stamped.Length > 0 ? string.Join(" / ", stamped.Select(s => s.Text).Distinct()) : null,
                loud,
                loud
                    ? Fact.Of("gauge.wrong-grades", ("wrong", wrong))
                    : Fact.Of(found.Length > 0 ? "gauge.grades-agree" : "gauge.grade-of-journal-alone", ("grade", ground.Name)),
                found.Length > 0 ? agree : null,
                [.. odds.Take(3).Select(o => new GradeWord(o.Grade.Name, o.P))]
            ),
            sign,
            found.Length > 0
        );
    }

    /// <summary>Grades of the shells whose walls were measured.</summary>
    private static (string Code, Grade Grade, IReadOnlyList<GradeOdds> Odds)[] Shells(SheetDraft draft, Address upper, Address lower, SizeSteps steps)
    {
        if (draft.Limits.Nominal(Characteristics.ShellWall, upper.Kind.Id) is not { } standard)
        {
            return [];
        }

        return
        [
            .. new[] { upper.Code, lower.Code }
                .Select(code => (Code: code, Wall: draft.Book.Whole(code, Characteristics.ShellWall, Phase.AsFound)))
                .Where(s => s.Wall is not null)
                .Select(s =>
                {
                    var odds = GradeOdds.OfShell(standard, s.Wall!.AsMeasured(), steps);
                    return (s.Code, Likeliest(odds, steps.OfShell(standard, (decimal)s.Wall.Value)), odds);
                }),
        ];
    }

    private static List<Fact> Wrong(
        Grade ground,
        (string Code, Grade Grade, IReadOnlyList<GradeOdds> Odds)[] found,
        (string Code, string Text, IReadOnlyList<Grade> Grades)[] stamped
    )
    {
        var wrong = new List<Fact>();
        foreach (var (code, grade, _) in found.Where(f => !f.Grade.IsLike(ground)))
        {
            wrong.Add(Fact.Of("gauge.shell-is-of-another-grade", ("place", code), ("grade", grade.Name), ("journal", ground.Name)));
        }

        foreach (var (code, text, grades) in stamped.Where(s => s.Grades.Count > 0))
        {
            if (Array.Find(found, f => f.Code == code) is { Grade: { } measured })
            {
                if (!grades.Any(measured.IsLike))
                {
                    wrong.Add(Fact.Of("gauge.stamp-says-another-grade", ("place", code), ("stamp", text), ("grade", measured.Name)));
                }
            }
            else if (!grades.Any(ground.IsLike))
            {
                wrong.Add(Fact.Of("gauge.stamp-of-another-grade", ("place", code), ("stamp", text), ("journal", ground.Name)));
            }
        }

        return wrong;
    }

    /// <summary>The likeliest grade; of those that no micrometer tells apart the one that the search by size names.</summary>
    private static Grade Likeliest(IReadOnlyList<GradeOdds> odds, Grade bySize) =>
        odds.Count == 0 || odds[0].Grade.IsLike(bySize) ? bySize : odds[0].Grade;
}
