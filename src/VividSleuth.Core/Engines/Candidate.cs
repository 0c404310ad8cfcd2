namespace VividSleuth.Core.Engines;

/// <summary>
/// A part with an identity that is not, or not yet, in the engine: a second crankshaft, a donor's head, an offered set of shells. It has the places
/// that the engine has for such a part, told apart by its letter behind a dot: K4.B is crankpin 4 of candidate B. It is looked at and measured like
/// the engine's own, and says nothing of why the engine failed.
/// </summary>
public sealed class Candidate : CaseRecord
{
    /// <summary>One capital; of the case's own and no other's, also after it was taken back.</summary>
    public string Letter { get; set; } = "";

    /// <summary>What it is: a set of <see cref="CandidateSets"/>, or a kind of part.</summary>
    public string What { get; set; } = "";

    /// <summary>The one station that it would go to: cylinder, bank, main … as its leading part counts; null for all of them.</summary>
    public int? Station { get; set; }

    /// <summary>What people of the shop call it.</summary>
    public string Name { get; set; } = "";

    /// <summary>Where it comes from: a donor, a supplier, the shelf.</summary>
    public string From { get; set; } = "";

    /// <summary>Line of the order that it came with; null where it was not ordered.</summary>
    public Guid? Line { get; set; }

    public string Remarks { get; set; } = "";
}

/// <summary>Parts that come and go together when one is offered in the engine's stead.</summary>
/// <param name="Id">Stable name.</param>
/// <param name="Kinds">Kinds of part in it; the first leads, and its station is the set's.</param>
public sealed record CandidateSet(string Id, IReadOnlyList<string> Kinds)
{
    /// <summary>Bought as a set, and for how much of the engine; null where each part is bought by itself.</summary>
    public StationScope? SoldFor { get; init; }

    /// <summary>Kinds of it that are also bought by themselves.</summary>
    public IReadOnlyList<string> Apart { get; init; } = [];

    public Fact Name => Fact.Of($"candidate.{Id}");
}

/// <summary>Which parts a candidate brings, and what may be wrong with one.</summary>
public static class CandidateSets
{
    /// <summary>Letters that no digit is taken for, as in the addresses themselves; A is the engine's own.</summary>
    private const string Letters = "BCEFHJKLMNPRTUVWXY";

    /// <summary>Common practice, no source.</summary>
    public static IReadOnlyList<CandidateSet> All { get; } =
    [
        new("crankshaft", ["crankshaft", PartKinds.Crankpin, PartKinds.MainJournal, "crank-web"]),
        new(
            "head",
            [
                "head",
                "valve-inlet",
                "valve-exhaust",
                "guide-inlet",
                "guide-exhaust",
                "seat-inlet",
                "seat-exhaust",
                "spring-inlet",
                "spring-exhaust",
                "cam-cap",
            ]
        ),
        new("block", ["crankcase", "case-half", PartKinds.Bore, "main-cap", "water-jacket"]),
        new("barrel", ["barrel", PartKinds.Bore]),
        new("liner", ["liner", PartKinds.Bore]),
        new("piston-set", [PartKinds.Piston, "wrist-pin", .. PartKinds.Rings]),
        new("ring-set", PartKinds.Rings) { SoldFor = StationScope.Cylinder },
        new("rod-set", [PartKinds.Rod, PartKinds.RodCap, "rod-bolt", "small-end"]),
        new("rod-shells", [PartKinds.RodShellUpper, PartKinds.RodShellLower]) { SoldFor = StationScope.Engine },
        new("main-shells", ["main-shell-upper", "main-shell-lower", "thrust-bearing"]) { SoldFor = StationScope.Engine, Apart = ["thrust-bearing"] },
        new("camshaft-set", [PartKinds.Camshaft, "lobe-inlet", "lobe-exhaust", "lifter-inlet", "lifter-exhaust"]),
    ];

    /// <summary>Kinds of a candidate; none where there is no such set or kind.</summary>
    public static IReadOnlyList<string> KindsOf(string what) =>
        All.FirstOrDefault(s => s.Id == what)?.Kinds ?? (PartKinds.Find(what) is null ? [] : [what]);

    /// <summary>The set as which a kind of part is bought; null where it is bought by itself.</summary>
    public static CandidateSet? BoughtAs(string kind) =>
        All.FirstOrDefault(s => s.SoldFor is not null && s.Kinds.Contains(kind) && !s.Apart.Contains(kind));

    /// <summary>What to call it where nobody gave it a name.</summary>
    public static Fact NameOf(string what) => All.FirstOrDefault(s => s.Id == what)?.Name ?? Fact.Of($"part.{what}");

    /// <summary>The next letter that is free; null when all are taken.</summary>
    public static string? NextLetter(IEnumerable<Candidate> candidates)
    {
        var taken = candidates.Select(c => c.Letter).ToHashSet(StringComparer.Ordinal);
        return Letters.Select(l => l.ToString()).FirstOrDefault(l => !taken.Contains(l));
    }

    /// <summary>Places of this engine that a candidate would take, in the order of the table; its own carry its letter.</summary>
    public static IEnumerable<Address> Takes(Candidate candidate, AddressTable table)
    {
        var kinds = KindsOf(candidate.What);
        return kinds.Count == 0 || PartKinds.Get(kinds[0]) is not { } lead || !lead.Applies(table.Engine.Layout)
            ? []
            : table.Own.Where(a => kinds.Contains(a.Kind.Id) && (candidate.Station is not { } station || Belongs(a, lead, station, table.Engine)));
    }

    private static bool Belongs(Address at, PartKind lead, int station, Engine engine) =>
        at.Kind.Scope == lead.Scope ? at.Station == station
        : lead.Scope == StationScope.Bank ? Along.BankOf(at, engine) == (station == 2 ? Bank.B : Bank.A)
        : lead.Scope == StationScope.Engine;

    /// <summary>What is wrong with a candidate, beside those that the case has.</summary>
    /// <param name="table">Where it would go; null asks not whether it fits, as of one that was taken in before the layout was put right.</param>
    public static IEnumerable<Problem> Check(Candidate candidate, AddressTable? table, IReadOnlyList<Candidate> others)
    {
        if (candidate.Letter.Length != 1 || !Letters.Contains(candidate.Letter, StringComparison.Ordinal))
        {
            yield return Problem.Of(
                "letter",
                "engines.no-candidate-letter",
                ("letter", candidate.Letter),
                ("letters", Letters.Select(l => l.ToString()))
            );
        }
        else if (others.Any(o => o.Id != candidate.Id && o.Letter == candidate.Letter))
        {
            yield return Problem.Of("letter", "engines.candidate-letter-taken", ("letter", candidate.Letter), ("next", NextLetter(others)));
        }

        if (KindsOf(candidate.What).Count == 0)
        {
            yield return Problem.Of("what", "engines.candidate-is-nothing", ("what", candidate.What), ("sets", All.Select(s => s.Id)));
        }
        else if (table is not null && !Takes(candidate, table).Any())
        {
            yield return candidate.Station is { } station
                ? Problem.Of("station", "engines.candidate-has-no-such-station", ("what", NameOf(candidate.What)), ("station", station))
                : Problem.Of("what", "engines.candidate-fits-nowhere", ("what", NameOf(candidate.What)));
        }
    }
}
