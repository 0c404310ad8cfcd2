using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Where ring gaps were put and where they were found: whether the pack moved, together or singly, one way or not.</summary>
public static class RingDrifts
{
    public const string Position = "ring-gap-position";
    public const string Put = "as fitted";
    public const string Found = "as found";

    /// <summary>A pack whose drifts agree this well moved as one. Ours; common practice says only “together”.</summary>
    private const double AsOne = 0.97;

    /// <summary>Gaps that stand closer than this stand in line, degrees. Common practice, no source.</summary>
    public const double InLine = 20;

    /// <summary>Drift below this is what a protractor may miss, degrees. Common practice.</summary>
    private const double Nothing = 5;

    private static readonly string[] Kinds = ["ring-top", "ring-second", "ring-oil"];

    public static IReadOnlyList<RingPack> Of(AddressTable table, ReadingBook book) =>
        [
            .. table
                .OfKind(PartKinds.Piston)
                .Select(piston => Pack(piston, [.. Kinds.Select(k => table.Find(k, piston.Station)).OfType<Address>().Select(a => Drift(a, book))]))
                .Where(p => p.Rings.Any(r => r.Put is not null || r.Found is not null)),
        ];

    private static RingDrift Drift(Address ring, ReadingBook book)
    {
        var put = book.Whole(ring.Code, Position, Phase.AsFound, station: Put)?.Value;
        var found = book.Whole(ring.Code, Position, Phase.AsFound, station: Found)?.Value;
        return new RingDrift(ring.Code, put, found, put is { } p && found is { } f ? Circular.Drift(p, f) : null);
    }

    private static RingPack Pack(Address piston, IReadOnlyList<RingDrift> rings)
    {
        var drifts = rings.Select(r => r.Drift).OfType<double>().ToArray();
        var gaps = rings.Select(r => r.Found).OfType<double>().ToArray();
        var line =
            gaps.Length >= 2 && gaps.Max() - gaps.Min() is var span && Math.Min(span, 360 - span) < InLine
                ? Fact.Of("gauge.gaps-stand-in-line")
                : null;
        if (drifts.Length < 2)
        {
            return new RingPack(
                piston.Code,
                rings,
                null,
                null,
                Fact.All(
                    drifts.Length == 1
                        ? Fact.Of("gauge.one-ring-drifted", ("angle", new Number(Math.Abs(drifts[0]))), ("way", Way(drifts[0])))
                        : Fact.Of("gauge.where-they-were-put-is-not-known"),
                    line
                )
            );
        }

        var mean = Circular.Mean(drifts);
        var drift = mean.Mean > 180 ? mean.Mean - 360 : mean.Mean;
        var moved = drifts.Count(d => Math.Abs(d) >= Nothing);
        var oneWay = drifts.Where(d => Math.Abs(d) >= Nothing).Select(Math.Sign).Distinct().Count() == 1;
        var words =
            moved == 0 ? Fact.Of("gauge.rings-stayed-where-they-were")
            : mean.Resultant >= AsOne && oneWay && moved == drifts.Length
                ? Fact.Of("gauge.pack-moved-together-common-rings", ("angle", new Number(Math.Abs(drift))), ("way", Way(drift)))
            : oneWay ? Fact.Of("gauge.they-moved-singly-all", ("way", Way(drift)))
            : Fact.Of("gauge.they-moved-singly-both-ways");
        return new RingPack(piston.Code, rings, drift, mean.Resultant, Fact.All(words, line));
    }

    private static Rotation Way(double drift) => drift >= 0 ? Rotation.Clockwise : Rotation.Anticlockwise;
}
