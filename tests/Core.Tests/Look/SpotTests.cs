using CsCheck;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Look;

public sealed class SpotTests
{
    private static readonly AddressTable Six = Start.Table(Start.InlineSix);

    private static ZoneMap Map(string place, AddressTable? table = null)
    {
        table ??= Six;
        return ZoneMaps.Of(table.Parse(place), table.Engine)!;
    }

    private static Spot At(string place, params string[] zones) => Spots.Of(Guid.Empty, zones, Map(place));

    private static Finding Saw(string place, string sign, params string[] zones)
    {
        var finding = Start.Saw(place, sign, 2);
        finding.Zones = [.. zones];
        return finding;
    }

    /// <summary>
    /// A clockwise engine seen from its free end pushes its pistons to the left on the power stroke (any dynamics text); whoever looks
    /// down with the free end at 12 has that side at 3 o'clock.
    /// </summary>
    [Theory]
    [InlineData(Rotation.Clockwise, 3)]
    [InlineData(Rotation.Anticlockwise, 9)]
    public void The_thrust_side_of_the_map_follows_the_rotation(Rotation rotation, int hour)
    {
        var table = Start.Table(Start.InlineSix with { Rotation = rotation });
        Map("C1", table).Faces[0].Features.Single(f => f.Id == ZoneMaps.ThrustSide).Column.ShouldBe(hour);
        Map("C1", table).Faces[0].Features.Single(f => f.Id == ZoneMaps.OtherSide).Column.ShouldBe(12 - hour);
    }

    /// <summary>In a flat engine one bank is pushed down and the other up, which is the same hour seen from either head.</summary>
    [Fact]
    public void Both_banks_of_a_flat_engine_have_their_thrust_at_the_same_hour()
    {
        var table = Start.Table(Start.FlatFour);
        table.Engine.Cylinder(1).MajorThrustSide.ShouldNotBe(table.Engine.Cylinder(3).MajorThrustSide);
        var hours = new[] { "C1", "C3" }.Select(p => Map(p, table).Faces[0].Features.Single(f => f.Id == ZoneMaps.ThrustSide).Column).ToArray();
        hours[0].ShouldBe(hours[1]);
        ZoneMaps.HourOf(Side.Bottom, Bank.A, table.Engine.Layout).ShouldBe(3);
        ZoneMaps.HourOf(Side.Bottom, Bank.B, table.Engine.Layout).ShouldBe(9);
    }

    [Fact]
    public void Positions_are_told_as_a_mechanic_would()
    {
        At("C3", "E2", "E3", "E4", "F2", "F3", "F4").Words.ShouldBe("upper to middle, 2 to 4 o’clock, thrust side");
        At("C3", "F9").Words.ShouldBe("middle, 9 o’clock, anti-thrust side");
        At("C3", "F12", "F1", "F11").Words.ShouldBe("middle, 11 to 1 o’clock");
        At("P3", "P3", "P9", "R3", "R9").Words.ShouldBe("upper skirt to skirt at the pin, 3 o’clock and 9 o’clock, both thrust faces");
        At("P3", "R12").Words.ShouldBe("skirt at the pin, 12 o’clock, pin end, free end");
        At("R3U", "A4", "A5", "A6").Words.ShouldBe("free-end edge, left of the crown to right of the crown");
        At("K3", [.. Enumerable.Range(1, 12).Select(h => $"E{h}")]).Words.ShouldBe("middle, all round");
        At("P3", "A3", "H3").Words.ShouldContain("; ");
    }

    [Fact]
    public void Share_and_edges_follow_from_the_zones()
    {
        At("C3", [.. Enumerable.Range(1, 12).Select(h => $"E{h}")]).Share.ShouldBe(0.25, 1e-12);
        At("C3", "A1").Edges.Select(Said.Say).ShouldBe(["deck"]);
        At("R3U", "A1", "H1").Edges.Select(Said.Say).ShouldBe(["free-end edge", "drive-end edge"]);
        // Rings of a round face: the outermost 30 % of the radius are 1 − 0.7² of the area.
        At("P3", [.. Enumerable.Range(1, 12).Select(h => $"A{h}")]).Share.ShouldBe(0.51, 1e-12);
    }

    [Fact]
    public void Every_face_covered_whole_is_one_and_zones_never_count_twice()
    {
        foreach (var map in ZoneMaps.Of(Start.Table(Start.VeeEight with { ExhaustAt = 9 })))
        {
            var letters = map.Faces.SelectMany(f => f.Rows).Select(r => r.Letter).ToArray();
            letters.ShouldBeUnique();
            letters.ShouldAllOfSomeBe(l => l.Length == 1 && !"BDGIOQSZ".Contains(l[0]));
            foreach (var face in map.Faces)
            {
                var all = face.Rows.SelectMany(r => Enumerable.Range(1, face.Columns).Select(c => $"{r.Letter}{c}")).ToArray();
                Spots.Of(Guid.Empty, all, map).Share.ShouldBe(1, 1e-9);
                Spots.Of(Guid.Empty, [.. all, .. all], map).Share.ShouldBe(1, 1e-9);
                all.ShouldAllOfSomeBe(z => map.Find(z) != null);
            }
        }
    }

    [Fact]
    public void The_order_of_touching_changes_nothing()
    {
        var map = Map("P4");
        var zones = map.Faces[1].Rows.SelectMany(r => Enumerable.Range(1, 12).Select(c => $"{r.Letter}{c}")).ToArray();
        Gen.Shuffle(zones)
            .Select(Gen.Int[1, zones.Length])
            .Sample(
                (shuffled, n) =>
                {
                    var some = shuffled.Take(n).ToArray();
                    var spot = Spots.Of(Guid.Empty, some, map);
                    var sorted = Spots.Of(Guid.Empty, [.. some.Order(StringComparer.Ordinal)], map);
                    spot.Words.ShouldBe(sorted.Words);
                    spot.Share.ShouldBe(sorted.Share, 1e-12);
                    spot.Edges.ShouldBe(sorted.Edges, ignoreOrder: true);
                }
            );
    }

    [Theory]
    [InlineData("Q3")]
    [InlineData("E0")]
    [InlineData("E13")]
    [InlineData("E")]
    [InlineData("3E")]
    [InlineData("E3x")]
    [InlineData("")]
    public void A_strange_zone_is_none(string zone) => Map("C3").Find(zone).ShouldBeNull();

    [Fact]
    public void A_scratch_on_bore_and_ring_lines_up_and_one_elsewhere_does_not()
    {
        var c = Start.Case();
        c.Findings.AddRange([
            Saw("C3", "bore-scratched", "E2", "E3", "F2", "F3"),
            Saw("P3T", "ring-face-scratched", "C3"),
            Saw("P3", "skirt-scuff-thrust", "P8", "R8"),
            Saw("C2", "bore-scratched", "E3"),
        ]);
        var spots = Spots.Of(c.Findings, Six).ToDictionary(s => s.Finding);
        var bore = spots[c.Findings[0].Id].Mates;
        bore.Single(m => m.Place == "P3T").LinesUp.ShouldBeTrue();
        bore.Single(m => m.Place == "P3T").Words.ShouldBe("lines up with P3T at 3 o’clock");
        bore.Single(m => m.Place == "P3").LinesUp.ShouldBeFalse();
        bore.ShouldNotContain(m => m.Place == "C2");
    }

    [Fact]
    public void Opposite_edges_of_the_two_halves_are_told_as_one_tilt()
    {
        var c = Start.Case();
        c.Findings.AddRange([Saw("R3U", "edge-wear", "A4", "A5"), Saw("R3L", "edge-wear", "H5", "H6"), Saw("K3", "journal-scored", "A1", "A2")]);
        var upper = Spots.Of(c.Findings, Six).Single(s => s.Finding == c.Findings[0].Id);
        upper.Mates.Single(m => m.Place == "R3L").Words.ShouldContain("opposite corner");
        upper.Mates.Single(m => m.Place == "K3").LinesUp.ShouldBeTrue();
        Spots.Of(c.Findings, Six).Single(s => s.Finding == c.Findings[1].Id).Mates.Single(m => m.Place == "K3").LinesUp.ShouldBeFalse();
    }

    [Fact]
    public void What_goes_all_round_lines_up_with_nothing()
    {
        var c = Start.Case();
        c.Findings.AddRange([Saw("C3", "hatch-gone", [.. Enumerable.Range(1, 12).Select(h => $"E{h}")]), Saw("P3T", "ring-face-scratched", "C3")]);
        Spots.Of(c.Findings, Six).SelectMany(s => s.Mates).ShouldBeEmpty();
    }

    [Fact]
    public void Shells_of_a_shared_crankpin_are_held_against_it()
    {
        var table = Start.Table(Start.VeeEight);
        var pin = table.Engine.Cylinder(2).Crankpin;
        var c = Start.Case(Start.VeeEight);
        c.Findings.AddRange([Saw("R2U", "bearing-scored", "E5"), Saw($"K{pin}", "journal-scored", "E12")]);
        Spots.Of(c.Findings, table)[0].Mates.Single().Place.ShouldBe($"K{pin}");
    }
}
