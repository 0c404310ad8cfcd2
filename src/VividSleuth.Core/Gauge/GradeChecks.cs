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
    /// <summary>Probability from which a grade is not ruled out by the journal’s own size.</summary>
    private const double MayBe = 0.1;

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
        var odds = GradeOdds.OfJournal(standard, journal, steps);
        var found = Shells(draft, upper, lower, steps);
        var ground = Likeliest(odds, steps.OfJournal(standard, (decimal)journal.Value));
        // A worn journal and one by a small odd step measure alike; where its shell settles it, the shell is followed.
        if (found.Length > 0 && !found[0].Grade.IsLike(ground) && odds.Where(o => o.Grade.IsLike(found[0].Grade)).Sum(o => o.P) >= MayBe)
        {
            ground = found[0].Grade;
        }

        var stamped = draft
            .Log.Parts.Where(p => p.Stands() && (p.Place == upper.Code || p.Place == lower.Code) && p.GradeStamped.Length > 0)
            .Select(p => (Code: p.Place, Text: p.GradeStamped, Grade: Grade.FromStamp(p.GradeStamped)))
            .ToArray();
        foreach (var (code, text, _) in stamped.Where(s => s.Grade is null))
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
                found.Length > 0 ? found.Select(f => GradeOdds.Agree(odds, f.Odds)).Min() : null,
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
        (string Code, string Text, Grade? Grade)[] stamped
    )
    {
        var wrong = new List<Fact>();
        foreach (var (code, grade, _) in found.Where(f => !f.Grade.IsLike(ground)))
        {
            wrong.Add(Fact.Of("gauge.shell-is-of-another-grade", ("place", code), ("grade", grade.Name), ("journal", ground.Name)));
        }

        foreach (var (code, text, grade) in stamped.Where(s => s.Grade is not null))
        {
            if (Array.Find(found, f => f.Code == code) is { Grade: { } measured })
            {
                if (!measured.IsLike(grade!))
                {
                    wrong.Add(Fact.Of("gauge.stamp-says-another-grade", ("place", code), ("stamp", text), ("grade", measured.Name)));
                }
            }
            else if (!grade!.IsLike(ground))
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
