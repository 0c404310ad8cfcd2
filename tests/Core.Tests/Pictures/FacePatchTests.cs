using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Pictures;
using Spot = VividSleuth.Core.Pictures.Spot;

namespace VividSleuth.Core.Tests.Pictures;

/// <summary>Patches in a face, drawn so that their share and place are known. Elementary geometry; the drawings are ours, no source.</summary>
public sealed class FacePatchTests
{
    private const int Wide = 900;

    private const int High = 700;

    private static readonly Spot[] Square = [new(0, 0), new(1, 0), new(1, 1), new(0, 1)];

    /// <summary>A face seen at a slant, with whatever is light in it told by where it lies on the face.</summary>
    private static Raster Drawn(Spot[] corners, Func<Spot, bool> isLight, double noise = 0.03)
    {
        var face = Homography.Fit([.. Square.Zip(corners)])!;
        var random = new Random(5);
        var light = new float[Wide * High];
        for (var i = 0; i < light.Length; i++)
        {
            var at = face.Plane(new Spot(i % Wide, i / Wide));
            var inside = at.X is >= 0 and <= 1 && at.Y is >= 0 and <= 1;
            var clean =
                !inside ? 0.5
                : isLight(at) ? 0.75
                : 0.35;
            light[i] = (float)Math.Clamp(clean + (noise * MathNet.Numerics.Distributions.Normal.Sample(random, 0, 1)), 0, 1);
        }

        return new Raster(Wide, High, light);
    }

    private static readonly Spot[] Slanted = [new(120, 90), new(760, 140), new(800, 610), new(90, 560)];

    private static readonly PicturePlane Plane = PicturePlane.Unscaled(Wide, High);

    [Fact]
    public void A_grown_patch_has_the_share_that_was_drawn_and_takes_nothing_that_does_not_touch_it()
    {
        // A quarter of the face, and a spot apart from it.
        var picture = Drawn(Slanted, p => (p.X < 0.5 && p.Y < 0.5) || (p - new Spot(0.8, 0.8)).Length < 0.08);
        var face = Homography.Fit([.. Square.Zip(Slanted)])!;
        var figure = PictureReckoner.Measure(picture, Plane, PictureTask.Grown, [face.Seen(new Spot(0.2, 0.2)), .. Slanted], 0, "a");
        // However it is turned away: a face is taken to be a rectangle.
        figure.Figure.Value.ShouldBe(25, 0.4);
        Spot[] quarter = [new(0, 0), new(0.5, 0), new(0.5, 0.5), new(0, 0.5)];
        FacePatch.Traced(Plane, [.. quarter.Select(face.Seen)], FlatFace.Of(Plane, Slanted)).Share.ShouldBe(0.25, 0.005);
        figure.Figure.Expanded.ShouldBeInRange(0.05, 3);
        figure.Found.Count.ShouldBeGreaterThan(100);
        // From the dark about them it grows round both.
        var dark = FacePatch.Grown(picture, Plane, face.Seen(new Spot(0.7, 0.3)), FlatFace.Of(Plane, Slanted));
        dark.Share.ShouldBeInRange(0.68, 0.8);
        dark.Inside[(int)(0.8 * FacePatch.Cells * FacePatch.Cells) + (int)(0.8 * FacePatch.Cells)].ShouldBeFalse();
    }

    [Fact]
    public void What_cannot_be_grown_says_what_to_do()
    {
        var even = Drawn(Slanted, _ => true);
        Problem(() => FacePatch.Grown(even, Plane, new Spot(400, 300), FlatFace.Of(Plane, Slanted))).ShouldBe("pictures.nothing-to-grow");
        Problem(() => FacePatch.Grown(even, Plane, new Spot(5, 5), FlatFace.Of(Plane, Slanted))).ShouldBe("pictures.seed-outside-face");
        Spot[] mirrored = [Slanted[1], Slanted[0], Slanted[3], Slanted[2]];
        Problem(() => FacePatch.Grown(even, Plane, new Spot(400, 300), FlatFace.Of(Plane, mirrored))).ShouldBe("pictures.corners-make-no-face");

        static string Problem(Func<FacePatch> of) => Should.Throw<ProblemException>(of).Problems[0].Text.Code;
    }

    private static FacePatch Box(double left, double top, double right, double bottom)
    {
        Spot[] corners = [new(0, 0), new(800, 0), new(800, 600), new(0, 600)];
        Spot[] round = [new(800 * left, 600 * top), new(800 * right, 600 * top), new(800 * right, 600 * bottom), new(800 * left, 600 * bottom)];
        return FacePatch.Traced(Plane, round, FlatFace.Of(Plane, corners));
    }

    private static IEnumerable<string> Zones(string place, string face, double facing, FacePatch patch)
    {
        var table = Start.Table(Start.InlineSix);
        var at = table.Parse(place);
        var map = ZoneMaps.Of(at, table.Engine)!;
        return PatchOnMap.Zones(map.Kind, map.Faces.Single(f => f.Id == face), facing, patch).Select(z => z.Code);
    }

    [Fact]
    public void On_a_skirt_hours_go_down_to_the_right_as_it_is_seen_from_outside()
    {
        // Somebody who looks from six o'clock, the head up, has three o'clock at his right.
        Zones("P2", "side", 6, Box(0.85, 0.62, 0.97, 0.78)).ShouldContain("R4");
        Zones("P2", "side", 6, Box(0.03, 0.62, 0.15, 0.78)).ShouldContain("R8");
        // In the middle it is the one that faces the camera, all the way down.
        Zones("P2", "side", 3, Box(0.45, 0, 0.55, 1)).ShouldAllBe(z => z.EndsWith('3'));
    }

    [Fact]
    public void On_a_crown_hours_go_with_the_clock_and_rows_from_the_edge_in()
    {
        Zones("P2", "crown", 12, Box(0.9, 0.45, 0.99, 0.55)).ShouldContain("A3");
        Zones("P2", "crown", 3, Box(0.9, 0.45, 0.99, 0.55)).ShouldContain("A6");
        Zones("P2", "crown", 12, Box(0.47, 0.7, 0.53, 0.8)).ShouldContain("C6");
    }

    /// <summary>With the free end up an upper shell shows its left parting line at the left, and a lower one, seen from above, at the right.</summary>
    [Fact]
    public void A_lower_shell_is_seen_mirrored_to_an_upper_one_and_a_back_to_its_face()
    {
        var left = Box(0, 0.4, 0.04, 0.6);
        Zones("R3U", "running-face", 0, left).ShouldContain("E1");
        Zones("R3L", "running-face", 0, left).ShouldContain("E9");
        Zones("R3U", "back", 0, left).ShouldContain("L9");
        Zones("R3L", "back", 0, left).ShouldContain("L1");
        // The crown is in the middle, and the shoulders are drawn together toward the sides.
        Zones("R3U", "running-face", 0, Box(0.45, 0.4, 0.55, 0.6)).ShouldBe(["E5"]);
    }
}
