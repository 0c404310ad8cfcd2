using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class OverlayTests
{
    private static readonly (Func<Spot, double> Light, IReadOnlyList<(Spot, double, bool)> Truth) Surface = DrawnPicture.Scattered(
        160,
        new Spot(0, 0),
        new Spot(60, 45),
        (1, 5),
        0.4,
        9
    );

    private static readonly DrawnView View = new(640, 480, 9, new Spot(30, 22));

    private static Raster Draw(DrawnView view, Func<Spot, double>? light = null, int seed = 1, double shade = 0.1) =>
        DrawnPicture.Draw(light ?? Surface.Light, view, new DrawnFlaws(0.015, 0.8, shade), seed);

    [Theory]
    [InlineData(0, 1, 0, 0)]
    [InlineData(12, 1.1, 3, -2)]
    [InlineData(-35, 0.9, -4, 3)]
    [InlineData(170, 1.05, 2, 2)]
    public void Shift_turn_and_scale_are_found(double turn, double larger, double x, double y)
    {
        var other = View with { Turn = turn, Scale = View.Scale * larger, Middle = View.Middle + new Spot(x, y) };
        var overlay = Overlay.Of(Draw(View), Draw(other, seed: 2)).ShouldNotBeNull();
        foreach (var at in new[] { new Spot(22, 15), new Spot(36, 18), new Spot(30, 30) })
        {
            (overlay.In(View.Seen(at)) - other.Seen(at)).Length.ShouldBeLessThan(1.5);
        }

        overlay.Changes.ShouldBeEmpty();
    }

    [Fact]
    public void What_changed_is_found_under_another_light_and_nothing_else_is()
    {
        var other = View with { Turn = 6, Middle = View.Middle + new Spot(2, 1) };
        var changed = Draw(other, p => (p - new Spot(25, 28)).Length < 2.5 ? 0.4 : Surface.Light(p), 2, 0.3);
        var overlay = Overlay.Of(Draw(View), changed).ShouldNotBeNull();
        var at = View.Seen(new Spot(25, 28));
        overlay.Changes.ShouldNotBeEmpty();
        overlay.Changes.ShouldAllBe(c => c.Left - 40 < at.X && c.Right + 40 > at.X && c.Top - 40 < at.Y && c.Bottom + 40 > at.Y);
    }

    [Fact]
    public void Two_pictures_of_different_things_are_not_laid_over_each_other()
    {
        var (light, _) = DrawnPicture.Scattered(160, new Spot(0, 0), new Spot(60, 45), (1, 5), 0.4, 31);
        Overlay.Of(Draw(View), Draw(View, light, 3)).ShouldBeNull();
        Overlay.Of(new Raster(1, 1, [0]), Draw(View)).ShouldBeNull();
        Overlay.Of(new Raster(640, 480, new float[640 * 480]), Draw(View)).ShouldBeNull();
    }
}
