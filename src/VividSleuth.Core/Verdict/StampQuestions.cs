using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>Stamps that must be asked about.</summary>
public static class StampQuestions
{
    private static readonly string[] Shells = [PartKinds.RodShellUpper, PartKinds.RodShellLower, "main-shell-upper", "main-shell-lower"];

    /// <summary>Stamps of shells that may be read in several ways, with what their size says of each.</summary>
    public static IReadOnlyList<StampAsked> Asked(IReadOnlyList<Part> parts, AddressTable table, Combined sizes)
    {
        var asked = new List<StampAsked>();
        foreach (var part in parts.Where(p => p.Stands() && p.GradeStamped.Length > 0))
        {
            if (table.Find(part.Place) is not { } place || !Shells.Contains(place.Kind.Id))
            {
                continue;
            }

            var journal = place.Kind.Scope == StationScope.Main ? PartKinds.MainJournal : PartKinds.Crankpin;
            var steps = sizes.Sizes.Of(journal);
            var readings = GradeStamp.Of(part.GradeStamped, steps);
            if (readings.Count < 2)
            {
                continue;
            }

            var wall = sizes.Size(part.Place, Characteristics.ShellWall);
            var standard = sizes.Limits.Nominal(Characteristics.ShellWall, place.Kind.Id);
            var odds = wall is not null && standard is { } s ? GradeOdds.OfShell(s, wall.AsMeasured(), steps) : null;
            double P(Grade g) => odds?.Where(o => o.Grade.IsLike(g)).Sum(o => o.P) ?? 1;
            var sum = readings.Sum(P);
            asked.Add(
                new StampAsked(
                    part.Place,
                    part.GradeStamped,
                    [.. readings.Select(g => new GradeWord(g.Name, sum > 0 ? P(g) / sum : 0)).OrderByDescending(g => g.P)],
                    odds is null
                            ? Fact.Of(
                                "verdict.fit.stamp-asked",
                                ("stamp", part.GradeStamped),
                                ("place", part.Place),
                                ("grades", readings.Select(g => g.Name).ToArray())
                            )
                        : sum > 0.5
                            ? Fact.Of(
                                "verdict.fit.stamp-settled",
                                ("stamp", part.GradeStamped),
                                ("place", part.Place),
                                ("grade", readings.MaxBy(P)!.Name),
                                ("wall", Amount.Length(wall!.Value))
                            )
                        : Fact.Of(
                            "verdict.fit.stamp-contradicted",
                            ("stamp", part.GradeStamped),
                            ("place", part.Place),
                            ("wall", Amount.Length(wall!.Value))
                        )
                )
            );
        }

        return asked;
    }
}
