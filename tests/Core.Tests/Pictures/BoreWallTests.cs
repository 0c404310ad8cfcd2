using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Pictures;
using Spot = VividSleuth.Core.Pictures.Spot;

namespace VividSleuth.Core.Tests.Pictures;

/// <summary>A bore photographed from above by a camera that is reckoned ray by ray, so that where on its wall a patch lies is known. Elementary geometry; the drawings are ours, no source.</summary>
public sealed class BoreWallTests
{
    private const double Radius = 42;

    private const double Deep = 130;

    private static readonly Spot Middle = new(60, 75);

    /// <param name="X">Of the camera over the deck, in millimetres; <paramref name="Y"/> likewise.</param>
    /// <param name="Tilt">By how much it looks away from straight down, in degrees, about an axis at <paramref name="Towards"/>.</param>
    private sealed record Camera(double X = 68, double Y = 69, double High = 190, double Tilt = 0, double Towards = 25, double Turn = 0)
    {
        public const int Wide = 1000;

        public const int Tall = 900;

        private const double Focal = 1500;

        private readonly (double X, double Y, double Z)[] _axes = Axes(Tilt, Towards, Turn);

        // Right, down and forward of the camera, in the deck’s own: right, down in the plan, and into the block.
        private static (double, double, double)[] Axes(double tilt, double towards, double turn)
        {
            var (c, s) = (Math.Cos(tilt * Math.PI / 180), Math.Sin(tilt * Math.PI / 180));
            var (kx, ky) = (Math.Cos(towards * Math.PI / 180), Math.Sin(towards * Math.PI / 180));
            var (ct, st) = (Math.Cos(turn * Math.PI / 180), Math.Sin(turn * Math.PI / 180));
            // Rodrigues’ turn about (kx, ky, 0).
            (double, double, double) Turned(double x, double y, double z)
            {
                var dot = (1 - c) * ((kx * x) + (ky * y));
                return ((c * x) + (s * ky * z) + (kx * dot), (c * y) - (s * kx * z) + (ky * dot), (c * z) + (s * ((kx * y) - (ky * x))));
            }

            return [Turned(ct, st, 0), Turned(-st, ct, 0), Turned(0, 0, 1)];
        }

        public Spot Seen(double x, double y, double deep)
        {
            var d = (X: x - X, Y: y - Y, Z: deep + High);
            double On(int axis) => (d.X * _axes[axis].X) + (d.Y * _axes[axis].Y) + (d.Z * _axes[axis].Z);
            return new Spot((Wide / 2.0) + (Focal * On(0) / On(2)), (Tall / 2.0) + (Focal * On(1) / On(2)));
        }

        /// <summary>Around the wall, clockwise in the plan from what lies toward smaller y, and down it, 0 to 1 each.</summary>
        public Spot Wall(double around, double down)
        {
            var angle = 2 * Math.PI * around;
            return Seen(Middle.X + (Radius * Math.Sin(angle)), Middle.Y - (Radius * Math.Cos(angle)), Deep * down);
        }

        public Spot[] Edges => [Wall(0.02, 0), Wall(0.36, 0), Wall(0.7, 0), Wall(0.1, 1), Wall(0.45, 1), Wall(0.77, 1)];

        /// <summary>A card that lies on the deck, as its dots are seen.</summary>
        public PicturePlane ByCard()
        {
            (Spot Plane, Spot Seen)[] dots =
            [
                .. Enumerable
                    .Range(0, ScaleCard.Columns * ScaleCard.Rows)
                    .Select(i => new Spot(ScaleCard.Pitch * (i % ScaleCard.Columns), ScaleCard.Pitch * (i / ScaleCard.Columns)))
                    // Laid beside the bore, and not square to it.
                    .Select(p => (p, Seen(118 + (0.8 * p.X) - (0.6 * p.Y), 40 + (0.6 * p.X) + (0.8 * p.Y), 0))),
            ];
            return PicturePlane.Of(new CardSeen(1, Homography.Fit(dots)!, dots, 2), Wide, Tall);
        }

        /// <param name="falls">How much darker the lower edge is than the upper, as a share.</param>
        public Raster Draw(Func<double, double, bool> isLight, double falls = 0, double noise = 0.03)
        {
            var random = new Random(3);
            var light = new float[Wide * Tall];
            for (var i = 0; i < light.Length; i++)
            {
                var clean = LightAt((i % Wide) - (Wide / 2.0), (i / Wide) - (Tall / 2.0), isLight, falls);
                light[i] = (float)Math.Clamp(clean + (noise * MathNet.Numerics.Distributions.Normal.Sample(random, 0, 1)), 0, 1);
            }

            return new Raster(Wide, Tall, light);
        }

        private double LightAt(double right, double down, Func<double, double, bool> isLight, double falls)
        {
            var (r, d, f) = (_axes[0], _axes[1], _axes[2]);
            var (x, y, z) = (
                (right * r.X) + (down * d.X) + (Focal * f.X),
                (right * r.Y) + (down * d.Y) + (Focal * f.Y),
                (right * r.Z) + (down * d.Z) + (Focal * f.Z)
            );
            var (px, py) = (X + (x / z * High) - Middle.X, Y + (y / z * High) - Middle.Y);
            if (double.Hypot(px, py) > Radius)
            {
                return 0.5;
            }

            // From where it passes the deck on to the wall.
            var (a, b, c) = ((x * x) + (y * y), (px * x) + (py * y), (px * px) + (py * py) - (Radius * Radius));
            var t = (-b + Math.Sqrt((b * b) - (a * c))) / a;
            var deep = t * z / Deep;
            var around = Math.Atan2(px + (t * x), -(py + (t * y))) / (2 * Math.PI);
            return deep > 1 ? 0.1 : (1 - (falls * deep)) * (isLight(around - Math.Floor(around), deep) ? 0.75 : 0.35);
        }
    }

    private static readonly PicturePlane Unscaled = PicturePlane.Unscaled(Camera.Wide, Camera.Tall);

    private static IEnumerable<Spot> Round(Camera camera, double left, double right, double top, double bottom)
    {
        var steps = Enumerable.Range(0, 9).Select(i => i / 8.0).ToArray();
        return steps
            .Select(s => camera.Wall(left + (s * (right - left)), top))
            .Concat(steps.Reverse().Select(s => camera.Wall(left + (s * (right - left)), bottom)));
    }

    [Fact]
    public void Two_edges_tell_how_far_down_and_round_the_wall_a_point_lies_whatever_the_camera_stood_over()
    {
        foreach (var camera in new[] { new Camera(), new Camera(60, 75, 320), new Camera(45, 90, 150) })
        {
            var wall = BoreWall.Of(Unscaled, camera.Edges);
            foreach (var (around, down) in new[] { (0.1, 0.05), (0.4, 0.5), (0.62, 0.95), (0.93, 0.3) })
            {
                var laid = wall.Laid(camera.Wall(around, down));
                laid.X.ShouldBe(around, 1e-6);
                laid.Y.ShouldBe(down, 1e-6);
                (wall.Seen(new Spot(around, down)) - camera.Wall(around, down)).Length.ShouldBeLessThan(1e-6);
            }
        }
    }

    /// <summary>A card on the deck makes the picture square; without one it is told as if it were, and told to be less sure.</summary>
    [Fact]
    public void With_a_card_on_the_deck_a_slanted_picture_is_as_good()
    {
        var camera = new Camera(75, 100, 210, Tilt: 9, Turn: 30);
        var plane = camera.ByCard();
        var wall = BoreWall.Of(plane, camera.Edges);
        var (a, b) = (wall.Laid(camera.Wall(0.2, 0.35)), wall.Laid(camera.Wall(0.45, 0.8)));
        a.Y.ShouldBe(0.35, 1e-3);
        b.Y.ShouldBe(0.8, 1e-3);
        (b.X - a.X).ShouldBe(0.25, 1e-3);
        Spot[] points = [.. Round(camera, 0.2, 0.45, 0.35, 0.8), .. camera.Edges];
        var plain = new Raster(Camera.Wide, Camera.Tall, new float[Camera.Wide * Camera.Tall]);
        var by = PictureReckoner.Measure(plain, plane, PictureTask.WallShare, points, 0, "a").Figure;
        by.Value.ShouldBe(100 * 0.25 * 0.45, 0.3);
        var without = PictureReckoner.Measure(plain, Unscaled, PictureTask.WallShare, points, 0, "a").Figure;
        Math.Abs(without.Value - (100 * 0.25 * 0.45)).ShouldBeLessThan(without.Expanded);
        without.Standard.ShouldBeGreaterThan(by.Standard);
    }

    [Fact]
    public void A_patch_that_is_traced_or_grown_has_the_share_of_the_wall_that_was_drawn()
    {
        var camera = new Camera();
        // Over what points up in the picture, where the wall is laid open.
        static bool Polished(double around, double down) => (around > 0.9 || around < 0.15) && down is > 0.1 and < 0.5;
        var picture = camera.Draw(Polished);
        var grown = PictureReckoner.Measure(picture, Unscaled, PictureTask.WallGrown, [camera.Wall(0.05, 0.3), .. camera.Edges], 0, "a");
        grown.Figure.Value.ShouldBe(10, 0.3);
        grown.Figure.Expanded.ShouldBeInRange(0.05, 2);
        grown.Figure.Influences.Count.ShouldBe(2);
        grown.Found.Count.ShouldBeGreaterThan(50);
        var traced = PictureReckoner.Measure(
            picture,
            Unscaled,
            PictureTask.WallShare,
            [.. Round(camera, -0.1, 0.15, 0.1, 0.5), .. camera.Edges],
            0,
            "a"
        );
        traced.Figure.Value.ShouldBe(10, 0.1);
        traced.Notes.Select(n => n.Code).ShouldBe(["pictures.wall-as-from-above", "pictures.wall-edge-to-edge"]);
        // From the dark, all round it and over the seam.
        PictureReckoner
            .Measure(picture, Unscaled, PictureTask.WallGrown, [camera.Wall(0.5, 0.3), .. camera.Edges], 0, "a")
            .Figure.Value.ShouldBe(90, 0.4);
    }

    [Fact]
    public void A_bore_that_gets_darker_downward_is_evened_and_one_of_one_light_has_no_patch()
    {
        var camera = new Camera();
        Spot[] points = [camera.Wall(0.05, 0.5), .. camera.Edges];
        var dark = camera.Draw((around, down) => around < 0.25 && down is > 0.1 and < 0.9, falls: 0.6, noise: 0.01);
        PictureReckoner.Measure(dark, Unscaled, PictureTask.WallGrown, points, 0, "a").Figure.Value.ShouldBe(20, 0.8);
        // What goes all round is not evened away.
        var band = camera.Draw((_, down) => down is > 0.4 and < 0.6);
        PictureReckoner.Measure(band, Unscaled, PictureTask.WallGrown, points, 0, "a").Figure.Value.ShouldBe(20, 0.8);
        var plain = camera.Draw((_, _) => false, falls: 0.6, noise: 0.01);
        Should
            .Throw<ProblemException>(() => PictureReckoner.Measure(plain, Unscaled, PictureTask.WallGrown, points, 0, "a"))
            .Problems[0]
            .Text.Code.ShouldBe("pictures.nothing-to-grow");
    }

    /// <summary>A line that goes round the whole bore has all below it: the ridge where the top ring turns, seen as one ring.</summary>
    [Fact]
    public void What_goes_round_the_whole_bore_is_all_below_it()
    {
        var camera = new Camera();
        Spot[] points = [.. Enumerable.Range(0, 60).Select(i => camera.Wall(i / 60.0, 0.2)), .. camera.Edges];
        var plain = new Raster(Camera.Wide, Camera.Tall, new float[Camera.Wide * Camera.Tall]);
        PictureReckoner.Measure(plain, Unscaled, PictureTask.WallShare, points, 0, "a").Figure.Value.ShouldBe(80, 0.3);
    }

    [Fact]
    public void Edges_that_make_no_bore_say_what_to_do()
    {
        var camera = new Camera();
        var edges = camera.Edges;
        Refused([.. edges[3..], .. edges[..3]]).ShouldBe("pictures.edges-make-no-bore");
        // From so far away hardly any wall is seen.
        Refused(new Camera(60, 75, 3000).Edges).ShouldBe("pictures.edges-make-no-bore");
        // From beside the bore some of the wall is hidden.
        Refused(new Camera(110, 75, 100).Edges).ShouldBe("pictures.edges-make-no-bore");
        Refused([new(100, 100), new(200, 100), new(300, 100), .. edges[3..]]).ShouldBe("pictures.points-in-a-line");

        static string Refused(Spot[] points) => Should.Throw<ProblemException>(() => BoreWall.Of(Unscaled, points)).Problems[0].Text.Code;
    }

    [Theory]
    [InlineData(12, 0.25, "E3")]
    [InlineData(3, 0.25, "E6")]
    [InlineData(12, 0.75, "E9")]
    public void On_the_wall_hours_go_with_the_clock_from_what_points_up(double facing, double around, string zone)
    {
        var camera = new Camera();
        var patch = FacePatch.Traced(Unscaled, [.. Round(camera, around - 0.03, around + 0.03, 0.25, 0.4)], BoreWall.Of(Unscaled, camera.Edges));
        var table = Start.Table(Start.InlineSix);
        var map = ZoneMaps.Of(table.Parse("C1"), table.Engine)!;
        var wall = map.Faces.Single();
        PatchOnMap.CanLay(map.Kind, wall, PictureTask.WallGrown).ShouldBeTrue();
        PatchOnMap.CanLay(map.Kind, wall, PictureTask.Grown).ShouldBeFalse();
        PatchOnMap.AsksFacing(map.Kind, wall).ShouldBeTrue();
        PatchOnMap.Zones(map.Kind, wall, facing, patch).Select(z => z.Code).ShouldBe([zone]);
    }
}
