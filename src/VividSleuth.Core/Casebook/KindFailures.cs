using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Casebook;

/// <summary>What was found in another case of the kind.</summary>
/// <param name="Looked">Places at which somebody looked for damage, found or not.</param>
/// <param name="Damaged">Places of severe damage as it came.</param>
/// <param name="Began">Place at which it began by the own finding; empty where nobody decided.</param>
public sealed record KindCase(Guid Id, IReadOnlySet<string> Looked, IReadOnlySet<string> Damaged, string Began)
{
    public static KindCase Of(EngineCase of)
    {
        Finding[] seen = [.. of.Findings.Where(f => f.Stands() && f.DoneBy != DoneBy.RunAgain)];
        return new KindCase(
            of.Id,
            seen.Select(f => f.Place).ToHashSet(StringComparer.Ordinal),
            seen.Where(f => f.Seen == Seen.Present && f.DoneBy == DoneBy.Running && f.Level == FindingRules.MostSevere)
                .Select(f => f.Place)
                .ToHashSet(StringComparer.Ordinal),
            of.Conclusions.Where(x => x.Stands()).MaxBy(x => (x.At, x.Id))?.Place ?? ""
        );
    }
}

/// <summary>How often something failed in the cases of a kind.</summary>
/// <param name="Place">Its address; of a cylinder as a whole its number.</param>
/// <param name="Words">The same in words.</param>
/// <param name="Cases">Those in which it failed.</param>
public sealed record KindShare(string Place, Fact Words, ExactShare Share, IReadOnlyList<Guid> Cases);

/// <summary>What fails how often in engines of a kind that came here. It says nothing of those that run.</summary>
/// <param name="Cases">Cases of the kind in which somebody looked for damage.</param>
/// <param name="Began">Where it began, of the cases with a cause.</param>
/// <param name="Cylinders">Severe damage anywhere in a cylinder, of the cases in which somebody looked into it; the first cylinder first.</param>
/// <param name="Parts">Severe damage by place, of the cases in which somebody looked there; what failed oftenest first.</param>
public sealed record KindFailures(int Cases, IReadOnlyList<KindShare> Began, IReadOnlyList<KindShare> Cylinders, IReadOnlyList<KindShare> Parts)
{
    /// <param name="cases">Other engines of the kind.</param>
    /// <param name="table">Places of this engine; what the others have beyond it is left out.</param>
    public static KindFailures Of(IReadOnlyList<KindCase> cases, AddressTable table)
    {
        KindCase[] looked = [.. cases.Where(c => c.Looked.Count > 0)];
        KindCase[] decided = [.. cases.Where(c => c.Began.Length > 0)];
        return new KindFailures(
            looked.Length,
            [.. Counted(decided.Select(c => c.Began), _ => decided, (c, place) => c.Began == place)],
            [.. table.Engine.Cylinders.Select(c => Cylinder(c.Number)).OfType<KindShare>()],
            // How the engine as a whole ran is what it came for, and no part of it.
            [
                .. Counted(
                    looked.SelectMany(c => c.Damaged).Where(p => table.Find(p)?.Kind.Id != PartKinds.Engine),
                    p => looked.Where(c => c.Looked.Contains(p)),
                    (c, place) => c.Damaged.Contains(place)
                ),
            ]
        );

        IEnumerable<KindShare> Counted(IEnumerable<string> places, Func<string, IEnumerable<KindCase>> of, Func<KindCase, string, bool> failed) =>
            places
                .Distinct(StringComparer.Ordinal)
                .Select(p => table.Find(p))
                .OfType<Address>()
                .Select(at => Share(at.Code, at.Words, [.. of(at.Code)], c => failed(c, at.Code)))
                .OrderByDescending(s => s.Share.Times)
                .ThenByDescending(s => s.Share.Low)
                .ThenBy(s => s.Place, StringComparer.Ordinal);

        KindShare? Cylinder(int number)
        {
            bool In(string place) => table.Find(place) is { Kind.Scope: StationScope.Cylinder } at && at.Station == number;
            KindCase[] seen = [.. looked.Where(c => c.Looked.Any(In))];
            return seen.Length == 0
                ? null
                : Share(
                    number.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    Fact.Of("casebook.cylinder", ("number", number)),
                    seen,
                    c => c.Damaged.Any(In)
                );
        }
    }

    private static KindShare Share(string place, Fact words, KindCase[] of, Func<KindCase, bool> failed)
    {
        Guid[] those = [.. of.Where(failed).Select(c => c.Id)];
        return new KindShare(place, words, ExactShare.From(those.Length, of.Length), those);
    }
}
