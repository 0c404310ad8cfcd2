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

/// <summary>What a shop does with parts that are alike; a pair that has run together is never mixed in either.</summary>
public enum Mixing
{
    /// <summary>Where parts are alike, mixed is fine.</summary>
    AlikeMayMix,

    /// <summary>Everything goes back to where it came from.</summary>
    Never,
}

/// <summary>The answer in one large word, and why.</summary>
public sealed record MateResult(MateAnswer Answer, Fact Word, Fact Why);

/// <summary>Whether two parts belong together and sit the same way round.</summary>
public static class MateCheck
{
    /// <param name="first">Place of the one part.</param>
    /// <param name="second">Place of the other.</param>
    /// <param name="parts">The tagged parts of the case.</param>
    /// <param name="engine">The engine they come from.</param>
    /// <param name="mixing">How the shop does it with parts that are alike.</param>
    public static MateResult Of(Address first, Address second, IEnumerable<Part> parts, Engine engine, Mixing mixing = Mixing.AlikeMayMix)
    {
        var tagged = parts.Where(p => p.Stands()).ToArray();
        if (first == second)
        {
            return new MateResult(MateAnswer.NotMates, Fact.Of("index.same-part"), Fact.Of("index.both-scan-type-mate", ("first", first.Code)));
        }

        if (first.Of != second.Of)
        {
            return new MateResult(
                MateAnswer.NotMates,
                Fact.Of("index.not-mates"),
                Fact.Of("index.of-another-set", ("first", first.Code), ("second", second.Code), ("harm", Harm(first, second)))
            );
        }

        if (first.Kind.Id == second.Kind.Id && !AreMates(first, second, engine))
        {
            return first.Kind.Interchangeable && mixing == Mixing.Never
                    ? new MateResult(
                        MateAnswer.NotMates,
                        Fact.Of("index.never-mixed-here"),
                        Fact.Of("index.why-never-mixed", ("kind", first.Kind.Name))
                    )
                : first.Kind.Interchangeable
                    ? new MateResult(
                        MateAnswer.MayBeMixed,
                        Fact.Of("index.may-be-mixed"),
                        Fact.Of("index.why-mixed", ("kind", first.Kind.Name), ("why", first.Kind.MayMix))
                    )
                : new MateResult(
                    MateAnswer.NotMates,
                    Fact.Of("index.not-mates"),
                    Fact.Of("index.two-kind-each-goes-back", ("first", first.Code), ("second", second.Code), ("harm", first.Kind.MixedHarm))
                );
        }

        if (!AreMates(first, second, engine))
        {
            return new MateResult(
                MateAnswer.NotMates,
                Fact.Of("index.not-mates"),
                first.Station != second.Station && BelongTogether(first, second)
                        ? Fact.Of(
                            "index.belongs-number-number",
                            ("first", first.Code),
                            ("station", first.Station),
                            ("second", second.Code),
                            ("otherStation", second.Station),
                            ("harm", Harm(first, second))
                        )
                    : BelongTogether(first, second)
                        ? Fact.Of(
                            "index.different-places-number",
                            ("first", first.Code),
                            ("second", second.Code),
                            ("station", first.Station),
                            ("harm", Harm(first, second))
                        )
                    : Fact.Of("index.not-fitted", ("kind", first.Kind.Name), ("other", second.Kind.Name))
            );
        }

        var one = Array.Find(tagged, p => p.Place == first.Code);
        var other = Array.Find(tagged, p => p.Place == second.Code);
        foreach (var (address, part) in new[] { (first, one), (second, other) })
        {
            if (part is null || part.Method == MarkMethod.None)
            {
                return new MateResult(
                    MateAnswer.NotProven,
                    Fact.Of("index.not-proven"),
                    Fact.Of("index.carries-recorded-mark-mark-tag", ("place", address.Code))
                );
            }
        }

        if (!AreHalves(first, second))
        {
            return new MateResult(
                MateAnswer.Match,
                Fact.Of("index.match"),
                Fact.Of("index.pair-way-round-each-sits", ("first", first.Code), ("second", second.Code))
            );
        }

        if (one!.Facing == Facing.Unknown || other!.Facing == Facing.Unknown)
        {
            var missing = one.Facing == Facing.Unknown ? first.Code : second.Code;
            return new MateResult(
                MateAnswer.NotProven,
                Fact.Of("index.which-way-round"),
                Fact.Of("index.where-mark-faces-not-recorded", ("missing", missing))
            );
        }

        if (one.Facing != other.Facing)
        {
            return new MateResult(
                MateAnswer.WrongWayRound,
                Fact.Of("index.wrong-way-round"),
                Fact.Of(
                    "index.mark-faces-turn-one-so",
                    ("first", first.Code),
                    ("faces", one.Facing),
                    ("second", second.Code),
                    ("otherFaces", other.Facing)
                )
            );
        }

        return one.SameOnAll || other.SameOnAll
            ? new MateResult(MateAnswer.NotProven, Fact.Of("index.side-only"), Fact.Of("index.maker-s-mark-same-all"))
            : new MateResult(
                MateAnswer.Match,
                Fact.Of("index.match"),
                Fact.Of("index.pair-both-marks-face", ("first", first.Code), ("second", second.Code), ("faces", one.Facing))
            );
    }

    /// <summary>Mates at one station; where both have several there, the ones with the same last digit.</summary>
    public static bool AreMates(Address first, Address second, Engine engine) =>
        OwnMates(first, second)
        || first != second
            && first.Of == second.Of
            && BelongTogether(first, second)
            && (
                first.Kind.Scope == second.Kind.Scope
                    ? first.Station == second.Station
                    : BankOf(first, engine) is not { } a || BankOf(second, engine) is not { } b || a == b
            )
            && (first.Nth == second.Nth || first.Nth == 0 || second.Nth == 0 || first.Kind.Id == second.Kind.Id);

    /// <summary>What somebody wrote of a part that only this engine has.</summary>
    private static bool OwnMates(Address first, Address second) =>
        first.Kind.Own?.Mates.Contains(second.Code) == true || second.Kind.Own?.Mates.Contains(first.Code) == true;

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

    private static Fact Harm(Address first, Address second) =>
        first.Kind.MixedHarm ?? second.Kind.MixedHarm ?? Fact.Of("index.mixed-pair-loses-clearance");

    /// <summary>Halves machined as one: their marks stand on the same side. Of other mates each has a way round of its own.</summary>
    private static bool AreHalves(Address first, Address second) =>
        first.Kind.Halves.Contains(second.Kind.Id) || second.Kind.Halves.Contains(first.Kind.Id);
}
