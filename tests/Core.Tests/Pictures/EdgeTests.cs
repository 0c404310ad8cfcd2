using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class EdgeTests
{
    [Fact]
    public void A_strip_is_as_wide_as_it_was_drawn_to_a_fraction_of_a_pixel()
    {
        var random = new Random(23);
        var off = new List<double>();
        for (var n = 0; n < 40; n++)
        {
            var (left, wide) = (3 + random.NextDouble(), 1.5 + random.NextDouble());
            var view = new DrawnView(240, 120, 20, new Spot(5, 2));
            var strip = DrawnPicture.Draw(at => at.X > left && at.X < left + wide ? 0.2 : 0.8, view, new DrawnFlaws(0.02), n);
            var edges = Edges.Along(strip, new Spot(20, 60), new Spot(220, 60), 9);
            edges.Count.ShouldBe(2, $"strip {n}");
            edges[0].Step.ShouldBeLessThan(0);
            edges[1].Step.ShouldBeGreaterThan(0);
            off.Add(((edges[1].At - edges[0].At).Length / 20) - wide);
        }

        // At 20 pixels for a millimetre: half a pixel at the most, a twelfth on the average.
        off.Select(Math.Abs).Max().ShouldBeLessThan(0.025);
        Math.Abs(off.Average()).ShouldBeLessThan(0.004);
    }

    [Fact]
    public void Noise_makes_no_edges()
    {
        var view = new DrawnView(240, 120, 20, default);
        for (var n = 0; n < 20; n++)
        {
            Edges.Along(DrawnPicture.Draw(_ => 0.5, view, new DrawnFlaws(0.03, Shade: 0), n), new Spot(10, 60), new Spot(230, 60), 9).ShouldBeEmpty();
        }
    }

    /// <summary>
    /// Six lights, 8, 7, 2, 6, 9 and 4 pixels of each: parted before the fourth, with 2.6287 of the variance between the two and 0.4909 within (a worked example of teaching, The Lab Book Pages, 2010; from memory, and worked
    /// again by hand: weights 17/36 and 19/36, means 11/17 and 74/19).
    /// </summary>
    [Fact]
    public void Otsu_parts_the_worked_example_where_it_says()
    {
        int[] counts = [8, 7, 2, 6, 9, 4];
        float[] light = [.. counts.SelectMany((c, level) => Enumerable.Repeat((level + 0.5f) / 256, c))];
        var (at, apart) = Threshold.Otsu(light).ShouldNotBeNull();
        at.ShouldBe(3 / 256.0, 1e-9);
        apart.ShouldBe(2.6287 / (2.6287 + 0.4909), 1e-4);
        Threshold.Otsu([0.3f, 0.3f]).ShouldBeNull();
    }

    [Fact]
    public void Regions_touch_also_by_their_corners()
    {
        string[] rows = ["##...#", "..#.##", "......", "#.#.#.", "###..."];
        var regions = Regions.Of([.. rows.SelectMany(r => r.Select(c => c == '#'))], 6, 5);
        regions.All.Select(r => r.Area).ShouldBe([3, 3, 5, 1]);
        var last = regions.All[2];
        (last.Left, last.Top, last.Right, last.Bottom).ShouldBe((0, 3, 2, 4));
        last.Middle.X.ShouldBe(1, 1e-12);
        last.Middle.Y.ShouldBe(3.6, 1e-12);
    }

    [Fact]
    public void A_whole_ellipse_is_as_large_as_its_moments_say_and_as_round()
    {
        var inside = Enumerable
            .Range(0, 200 * 200)
            .Select(n => Math.Pow(((n % 200) - 100) / 60.0, 2) + Math.Pow(((n / 200) - 100) / 30.0, 2) < 1)
            .ToArray();
        var ellipse = Regions.Of(inside, 200, 200).All.ShouldHaveSingleItem();
        (ellipse.Area / ellipse.Ellipse).ShouldBe(1, 0.01);
        ellipse.Roundness.ShouldBe(0.5, 0.01);
        ellipse.Away(new Spot(160, 100)).ShouldBe(2, 0.02);
    }
}
