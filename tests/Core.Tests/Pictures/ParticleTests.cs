using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class ParticleTests
{
    /// <summary>A tray of one picture: a millimetre is twenty pixels.</summary>
    private static readonly DrawnView View = new(400, 300, 20, new Spot(10, 7.5));

    private static ParticleCount Count(Func<Spot, double> light) =>
        Particles.Count(
            DrawnPicture.Draw(light, View, new DrawnFlaws(0.01, 0.8, 0.1), 1),
            0,
            0,
            399,
            299,
            PicturePlane.Of(new Spot(0, 0), new Spot(200, 0), 10, 400, 300)!
        );

    private static double? Disc(Spot p, double x, double y, double radius, double light) => (p - new Spot(x, y)).Length < radius ? light : null;

    [Fact]
    public void A_disc_is_as_long_as_it_is_wide_and_two_that_touch_are_two()
    {
        var count = Count(p => Disc(p, 4, 4, 1, 0.2) ?? Disc(p, 12, 6, 1, 0.2) ?? Disc(p, 14, 6, 1, 0.2) ?? 0.7);
        count.All.Count.ShouldBe(3);
        count.All[^1].Longest.ShouldBe(2000, 60);
        count.All[^1].Area.ShouldBe(Math.PI, 0.12);
        count.All.ShouldAllBe(p => !p.Shiny);
        // 2,000 µm and somewhat over, by half a pixel on either side.
        count.Classes.Single(c => c.Class.Letter == "M").Count.ShouldBe(3);
    }

    [Fact]
    public void Glints_fibres_dust_glare_and_what_is_cut_off_are_told_apart()
    {
        var count = Count(p =>
            (Disc(p, 4, 4, 0.4, 0.98) ?? Disc(p, 4, 4, 1, 0.2))
            ?? Disc(p, 0, 10, 1, 0.2)
            ?? Disc(p, 16, 3, 0.05, 0.1)
            ?? (Math.Abs(p.Y - 13) < 0.1 && p.X is > 5 and < 15 ? 0.2 : null as double?)
            // A lamp in a wet ground: bright, and without an edge.
            ?? (0.6 + (0.38 * Math.Exp(-Math.Pow((p - new Spot(14, 8)).Length / 0.7, 2))))
        );
        count.All.ShouldHaveSingleItem().Shiny.ShouldBeTrue();
        count.Left[NotCounted.Fibre].ShouldBe(1);
        count.Left[NotCounted.CutOff].ShouldBe(1);
        count.Left[NotCounted.Dust].ShouldBeGreaterThan(0);
        count.Left[NotCounted.Glare].ShouldBe(1);
    }

    [Fact]
    public void The_same_picture_has_the_same_answer_and_an_empty_one_none()
    {
        var (light, _) = DrawnPicture.Scattered(60, new Spot(1, 1), new Spot(19, 14), (0.4, 1), 0.3, 5);
        Count(light).All.ShouldBe(Count(light).All);
        Count(_ => 0.7).All.ShouldBeEmpty();
    }

    /// <summary>Size classes of ISO 16232:2018; from memory.</summary>
    [Theory]
    [InlineData(4.9, null)]
    [InlineData(5, "B")]
    [InlineData(49.9, "D")]
    [InlineData(50, "E")]
    [InlineData(600, "J")]
    [InlineData(1000, "K")]
    [InlineData(2999, "M")]
    [InlineData(9000, "N")]
    public void Sizes_have_the_letters_of_the_standard(double micrometres, string? letter) => SizeClass.Of(micrometres)?.Letter.ShouldBe(letter);

    /// <summary>A rectangle of 3 × 4: 5 from corner to corner.</summary>
    [Fact]
    public void The_longest_of_a_rectangle_is_its_diagonal_within_a_pixel()
    {
        var picture = new float[40 * 40];
        for (var n = 0; n < picture.Length; n++)
        {
            picture[n] = n % 40 is >= 10 and < 22 && n / 40 is >= 10 and < 26 ? 0.1f : 0.8f;
        }

        var plane = PicturePlane.Of(new Spot(0, 0), new Spot(20, 0), 5, 40, 40)!;
        // 12 × 16 pixels at a quarter of a millimetre: 3 × 4 mm.
        Particles.Count(new Raster(40, 40, picture), 0, 0, 39, 39, plane).All.ShouldHaveSingleItem().Longest.ShouldBe(5000, 250);
    }
}
