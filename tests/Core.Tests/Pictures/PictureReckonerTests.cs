using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class PictureReckonerTests
{
    private static readonly DrawnView View = new(700, 500, 5, new Spot(40, 20), 3, 20, 30, 105);

    private static readonly Raster Plain = DrawnPicture.Draw(Scene(_ => 0.4), View, new DrawnFlaws(), 1);

    private static readonly PicturePlane Plane = PicturePlane.Of(CardFinder.Find(Plain).ShouldHaveSingleItem(), Plain.Width, Plain.Height);

    private static Func<Spot, double> Scene(Func<Spot, double> beside)
    {
        var card = DrawnPicture.Card(77, new Spot(0, 0));
        return p => card(p) ?? beside(p);
    }

    private static PictureFigure Measure(PictureTask task, params Spot[] plane) =>
        PictureReckoner.Measure(Plain, Plane, task, [.. plane.Select(View.Seen)], 0, "p");

    /// <summary>Figures that geometry gives in closed form, of points laid on a plane that is seen at a slant.</summary>
    [Fact]
    public void Lengths_angles_arcs_areas_and_shares_are_those_of_the_plane()
    {
        Measure(PictureTask.Length, new(70, 5), new(73, 9)).Figure.Value.ShouldBe(5, 0.02);
        Measure(PictureTask.Angle, new(70, 10), new(80, 10), new(70, 10), new(75, 10 + (5 * Math.Sqrt(3)))).Figure.Value.ShouldBe(60, 0.3);
        Spot On(double degrees) => new(75 + (8 * Math.Cos(degrees * Math.PI / 180)), 20 + (8 * Math.Sin(degrees * Math.PI / 180)));
        var arc = Measure(PictureTask.Radius, On(0), On(20), On(40), On(65), On(90));
        arc.Figure.Value.ShouldBe(8, 0.05);
        arc.Beside.Select(b => b.Figure.Value).ShouldBe([4 * Math.PI, 90, 8 * Math.Sqrt(2)], 0.4);
        Measure(PictureTask.Area, new(66, 5), new(76, 5), new(76, 9), new(66, 9)).Figure.Value.ShouldBe(40, 0.3);
        Measure(PictureTask.Share, new(66, 5), new(71, 5), new(71, 9), new(66, 9), new(66, 5), new(76, 5), new(76, 9), new(66, 9))
            .Figure.Value.ShouldBe(50, 0.5);
    }

    [Fact]
    public void Grooves_that_repeat_are_told_by_their_pitch()
    {
        var grooved = DrawnPicture.Draw(Scene(p => ((p.X % 2.5) + 2.5) % 2.5 < 1.2 ? 0.2 : 0.7), View, new DrawnFlaws(), 2);
        var figure = PictureReckoner.Measure(
            grooved,
            Plane,
            PictureTask.Pitch,
            [View.Seen(new Spot(60.6, 20)), View.Seen(new Spot(85.6, 20))],
            0,
            "p"
        );
        figure.Figure.Value.ShouldBe(2.5, 0.02);
        figure.Found.Count.ShouldBeInRange(9, 11);
    }

    [Fact]
    public void What_lies_above_the_card_looks_larger_and_is_told_smaller_and_less_sure()
    {
        Spot[] points = [View.Seen(new Spot(60, 15)), View.Seen(new Spot(80, 15))];
        PictureFigure Above(double mm) => PictureReckoner.Measure(Plain, Plane, PictureTask.Length, points, mm, "p");
        // Of a camera some 105 mm away, ten millimetres are a tenth.
        (Above(10).Figure.Value / Above(0).Figure.Value).ShouldBe(0.9, 0.03);
        Above(10).Figure.Standard.ShouldBeGreaterThan(1.2 * Above(0).Figure.Standard);
    }

    [Fact]
    public void A_known_length_gives_the_scale_and_leaves_the_slant_in_doubt()
    {
        var plane = PicturePlane.Of(new Spot(100, 400), new Spot(300, 400), 50, 700, 500).ShouldNotBeNull();
        var figure = PictureReckoner.Measure(Plain, plane, PictureTask.Length, [new Spot(100, 100), new Spot(100, 300)], 0, "p");
        figure.Figure.Value.ShouldBe(50, 0.01);
        // At 8° off square a length is told up to 1 % short.
        figure.Figure.Standard.ShouldBeInRange(0.2, 1);
        figure.Notes.ShouldContain(n => n.Code == "pictures.by-known-length");
        PicturePlane.Of(new Spot(1, 1), new Spot(1, 1), 50, 700, 500).ShouldBeNull();
    }

    [Fact]
    public void Without_a_scale_angles_are_told_and_lengths_are_not()
    {
        var plane = PicturePlane.Unscaled(700, 500);
        PictureReckoner
            .Measure(Plain, plane, PictureTask.Angle, [new Spot(50, 50), new Spot(150, 50), new Spot(50, 50), new Spot(50, 150)], 0, "p")
            .Figure.Value.ShouldBe(90, 0.01);
        Refused(PictureTask.Length, plane, new Spot(50, 50), new Spot(150, 50)).ShouldBe("pictures.no-scale");
    }

    [Fact]
    public void What_cannot_be_measured_is_told_so()
    {
        Refused(PictureTask.Length, Plane, new Spot(50, 50)).ShouldBe("pictures.points-of-task");
        Refused(PictureTask.Length, Plane, new Spot(50, 50), new Spot(900, 50)).ShouldBe("pictures.point-outside");
        Refused(PictureTask.Length, Plane, new Spot(50, 50), new Spot(50.5, 50)).ShouldBe("pictures.points-are-one");
        Refused(PictureTask.Radius, Plane, new Spot(50, 50), new Spot(60, 50), new Spot(70, 50)).ShouldBe("pictures.points-in-a-line");
        Refused(PictureTask.Across, Plane, new Spot(500, 100), new Spot(500, 200)).ShouldBe("pictures.no-clear-edges");
        Refused(PictureTask.Pitch, Plane, new Spot(500, 100), new Spot(500, 200)).ShouldBe("pictures.no-two-grooves");
        Refused(PictureTask.Hatch, Plane, new Spot(500, 100), new Spot(560, 160)).ShouldBe("pictures.patch-too-small");
        Refused(PictureTask.Hatch, Plane, new Spot(430, 20), new Spot(690, 480)).ShouldBeOneOf("pictures.no-hatch", "pictures.hatch-disagrees");
        Code(() => PictureReckoner.Measure(new Raster(1, 1, [0.5f]), PicturePlane.Unscaled(1, 1), PictureTask.Hatch, [], 0, "p"))
            .ShouldBe("pictures.too-few-pixels");
        Code(() => PictureReckoner.Measure(new Raster(700, 500, new float[350_000]), Plane, PictureTask.Particles, [], 0, "p"))
            .ShouldBe("pictures.black");
    }

    private static string Refused(PictureTask task, PicturePlane plane, params Spot[] points) =>
        Code(() => PictureReckoner.Measure(Plain, plane, task, points, 0, "p"));

    private static string Code(Func<object> of) => Should.Throw<ProblemException>(() => of()).Problems[0].Text.Code;

    [Fact]
    public void A_circle_goes_through_its_points()
    {
        var (middle, radius) = PictureReckoner.Circle([new(4, 2), new(3, 3), new(2, 2), new(3, 1)]);
        middle.X.ShouldBe(3, 1e-9);
        middle.Y.ShouldBe(2, 1e-9);
        radius.ShouldBe(1, 1e-9);
    }
}
