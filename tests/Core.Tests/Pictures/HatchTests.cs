using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class HatchTests
{
    [Fact]
    public void A_drawn_hatch_is_found_within_a_degree_and_a_half_by_both_ways()
    {
        var random = new Random(17);
        var missed = new List<string>();
        for (var n = 0; n < 16; n++)
        {
            var (half, lean) = (12 + (23 * random.NextDouble()), 10 * (random.NextDouble() - 0.5));
            var (one, other) = (lean + half, lean - half);
            var view = new DrawnView(384, 384, 40, default);
            var honed = DrawnPicture.Honed(one, other, 0.12 + (0.15 * random.NextDouble()), 0.25, n);
            var hatch = Directions.Of(DrawnPicture.Draw(honed, view, new DrawnFlaws(0.03), n));
            if (hatch.Included is not { } included || Math.Abs(included.Angle - (2 * half)) > 1.5)
            {
                missed.Add($"{n}: {2 * half:0.0} lean {lean:0.0}: {hatch.Lines?.Included:0.0} {hatch.Spectrum?.Included:0.0} {hatch.Agrees}");
            }
        }

        missed.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_not_hatched_is_not_told_an_angle()
    {
        var view = new DrawnView(384, 384, 40, default);
        Directions.Of(DrawnPicture.Draw(_ => 0.5, view, new DrawnFlaws(0.03), 1)).Included.ShouldBeNull();
        // Lines of one family alone.
        Directions.Of(DrawnPicture.Draw(DrawnPicture.Honed(30, 30, 0.2, 0.3, 3), view, new DrawnFlaws(0.03), 1)).Included.ShouldBeNull();
        Directions.Of(new Raster(1, 1, [1])).Included.ShouldBeNull();
        Directions.Of(new Raster(384, 384, new float[384 * 384])).Included.ShouldBeNull();
    }

    /// <summary>Lines of one direction in closed form: a wave has one, and its power lies on the ray square to it.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(27.5)]
    [InlineData(-64)]
    [InlineData(90)]
    public void A_wave_runs_one_way(double angle)
    {
        var (x, y) = (Math.Sin(angle * Math.PI / 180), Math.Cos(angle * Math.PI / 180));
        var wave = new Raster(
            256,
            256,
            [.. Enumerable.Range(0, 256 * 256).Select(n => (float)(0.5 + (0.4 * Math.Cos(0.5 * ((x * (n % 256)) + (y * (n / 256)))))))]
        );
        foreach (var bins in new[] { Directions.ByTensor(wave), Directions.ByLines(wave), Directions.BySpectrum(wave) })
        {
            var most = bins.Index().MaxBy(b => b.Item).Index - 90.0;
            Directions.Apart(most, angle).ShouldBeLessThanOrEqualTo(1);
        }
    }

    [Fact]
    public void Directions_are_apart_as_lines_are()
    {
        Directions.Apart(80, -80).ShouldBe(20, 1e-12);
        Directions.Apart(10, 100).ShouldBe(90, 1e-12);
        Directions.Apart(-90, 90).ShouldBe(0, 1e-12);
    }
}
