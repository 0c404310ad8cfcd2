using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Index;

public enum MateAnswer
{
    Match,
    WrongWayRound,
    NotMates,

    /// <summary>The records do not prove the pair: a mark or a side is missing, or the mark is the same on all.</summary>
    NotProven,

    /// <summary>Parts of the kind may be mixed.</summary>
    MayBeMixed,
}

/// <summary>The answer in one large word, and why.</summary>
public sealed record MateResult(MateAnswer Answer, string Word, string Why);

/// <summary>Whether two parts belong together and sit the same way round.</summary>
public static class MateCheck
{
    /// <param name="first">Place of the one part.</param>
    /// <param name="second">Place of the other.</param>
    /// <param name="parts">The tagged parts of the case.</param>
    /// <param name="engine">The engine they come from.</param>
    public static MateResult Of(Address first, Address second, IEnumerable<Part> parts, Engine engine)
    {
        var tagged = parts.Where(p => p.Stands()).ToArray();
        if (first == second)
        {
            return new MateResult(MateAnswer.NotMates, "Same part", $"Both are {first.Code}. Scan or type its mate.");
        }

        if (first.Kind.Id == second.Kind.Id && !AreMates(first, second, engine))
        {
            return first.Kind.Interchangeable
                ? new MateResult(MateAnswer.MayBeMixed, "May be mixed", $"{Upper(first.Kind.Name)}: {first.Kind.MayMix}")
                : new MateResult(
                    MateAnswer.NotMates,
                    "Not mates",
                    $"{first.Code} and {second.Code} are two of a kind. Each goes back to its own place. {first.Kind.MixedHarm}".TrimEnd()
                );
        }

        if (!AreMates(first, second, engine))
        {
            return new MateResult(
                MateAnswer.NotMates,
                "Not mates",
                first.Station != second.Station && BelongTogether(first, second)
                        ? $"{first.Code} belongs to number {first.Station}, {second.Code} to number {second.Station}. {Harm(first, second)}"
                    : BelongTogether(first, second)
                        ? $"{first.Code} and {second.Code} have different places at number {first.Station}. {Harm(first, second)}"
                    : $"A {first.Kind.Name} is not fitted to a {second.Kind.Name}."
            );
        }

        var one = Array.Find(tagged, p => p.Place == first.Code);
        var other = Array.Find(tagged, p => p.Place == second.Code);
        foreach (var (address, part) in new[] { (first, one), (second, other) })
        {
            if (part is null || part.Method == MarkMethod.None)
            {
                return new MateResult(MateAnswer.NotProven, "Not proven", $"{address.Code} carries no recorded mark. Mark and tag it first.");
            }
        }

        if (!AreHalves(first, second))
        {
            return new MateResult(
                MateAnswer.Match,
                "Match",
                $"{first.Code} and {second.Code} are a pair. Which way round each sits is told by its own mark."
            );
        }

        if (one!.Facing == Facing.Unknown || other!.Facing == Facing.Unknown)
        {
            var missing = one.Facing == Facing.Unknown ? first.Code : second.Code;
            return new MateResult(
                MateAnswer.NotProven,
                "Which way round?",
                $"Where the mark of {missing} faces is not recorded, so a turned part would pass unseen."
            );
        }

        if (one.Facing != other.Facing)
        {
            return new MateResult(
                MateAnswer.WrongWayRound,
                "Wrong way round",
                $"The mark of {first.Code} faces {Words(one.Facing)}, that of {second.Code} {Words(other.Facing)}. Turn one so that both marks are on the same side."
            );
        }

        return one.SameOnAll || other.SameOnAll
            ? new MateResult(
                MateAnswer.NotProven,
                "Side only",
                "The maker's mark is the same on all: it proves the side, not the pair. Add a mark of your own."
            )
            : new MateResult(MateAnswer.Match, "Match", $"{first.Code} and {second.Code} are a pair, and both marks face {Words(one.Facing)}.");
    }

    /// <summary>Mates at one station; where both have several there, the ones with the same last digit.</summary>
    public static bool AreMates(Address first, Address second, Engine engine) =>
        first != second
        && BelongTogether(first, second)
        && (
            first.Kind.Scope == second.Kind.Scope
                ? first.Station == second.Station
                : BankOf(first, engine) is not { } a || BankOf(second, engine) is not { } b || a == b
        )
        && (first.Nth == second.Nth || first.Nth == 0 || second.Nth == 0 || first.Kind.Id == second.Kind.Id);

    private static bool BelongTogether(Address first, Address second) =>
        first.Kind.Mates.Contains(second.Kind.Id) || second.Kind.Mates.Contains(first.Kind.Id);

    /// <summary>The bank a place is in; null where it belongs to no bank.</summary>
    private static Bank? BankOf(Address address, Engine engine) =>
        address.Kind.Scope switch
        {
            StationScope.Bank => address.Station == 2 ? Bank.B : Bank.A,
            StationScope.Cylinder => engine.Cylinder(address.Station).Bank,
            StationScope.Camshaft when engine.Layout.IsOverhead => address.Station > engine.Camshafts / engine.Banks ? Bank.B : Bank.A,
            _ => null,
        };

    private static string Harm(Address first, Address second) =>
        (first.Kind.MixedHarm, second.Kind.MixedHarm) switch
        {
            ({ Length: > 0 } harm, _) => harm,
            (_, { Length: > 0 } harm) => harm,
            _ => "A mixed pair loses its clearance.",
        };

    /// <summary>Halves machined as one: their marks stand on the same side. Of other mates each has a way round of its own.</summary>
    private static bool AreHalves(Address first, Address second) =>
        first.Kind.Halves.Contains(second.Kind.Id) || second.Kind.Halves.Contains(first.Kind.Id);

    private static string Upper(string name) => char.ToUpperInvariant(name[0]) + name[1..];

    private static string Words(Facing facing) =>
        facing switch
        {
            Facing.FreeEnd => "the free end",
            Facing.DriveEnd => "the drive end",
            Facing.Left => "left",
            Facing.Right => "right",
            _ => "nowhere known",
        };
}
