using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class HomographyTests
{
    /// <summary>
    /// The unit square onto a quadrilateral in closed form: P. Heckbert, Fundamentals of Texture Mapping and Image Warping, Berkeley 1989, section 2.2.3; from memory, the figures worked by hand.
    /// </summary>
    [Fact]
    public void Four_pairs_are_met_exactly_and_cross_ratios_stay()
    {
        Spot[] square = [new(0, 0), new(1, 0), new(1, 1), new(0, 1)];
        Spot[] seen = [new(0, 0), new(2, 0), new(3, 3), new(0, 1)];
        var map = Homography.Fit([.. square.Zip(seen)])!;
        foreach (var (from, to) in square.Zip(seen))
        {
            Near(map.Seen(from), to);
            Near(map.Plane(to), from);
        }

        map.Residual.ShouldBe(double.NaN);
        // Heckbert’s g and h: Δx1 = -1, Δx2 = -3, Σx = 1, Δy1 = -3, Δy2 = -2, Σy = 2; g = (Σx Δy2 - Δx2 Σy) / (Δx1 Δy2 - Δx2 Δy1) = 4 / -7, h = (Δx1 Σy - Σx Δy1) / -7 = 1 / -7.
        var (g, h) = (-4 / 7.0, -1 / 7.0);
        var (a, b, e) = (2 - 0 + (g * 2), 0.0 + (h * 0), 1 - 0 + (h * 1));
        var at = new Spot(0.3, 0.6);
        var w = (g * at.X) + (h * at.Y) + 1;
        Near(map.Seen(at), new Spot(((a * at.X) + (b * at.Y)) / w, ((0 * at.X) + (e * at.Y)) / w));
    }

    [Fact]
    public void Many_pairs_are_met_as_well_as_their_noise_lets_them_be_and_the_rest_is_told()
    {
        var view = new DrawnView(2000, 1500, 12, new Spot(25, 15), 20, 30, 40);
        var random = new Random(3);
        double Noise() => 0.3 * Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var residuals = Enumerable
            .Range(0, 200)
            .Select(_ => Homography.Fit([.. ScaleCard.Dots(7).Select(d => (d.At, view.Seen(d.At) + new Spot(Noise(), Noise())))])!.Residual)
            .ToArray();
        residuals.Average().ShouldBe(0.3, 0.01);
        var exact = Homography.Fit([.. ScaleCard.Dots(7).Select(d => (d.At, view.Seen(d.At)))])!;
        exact.Residual.ShouldBeLessThan(1e-9);
        exact.Tilt(view.Middle).ShouldBe(30, 0.2);
        var (most, least) = exact.Scale(view.Middle);
        most.ShouldBe(12, 0.01);
        least.ShouldBe(12 * Math.Cos(Math.PI / 6), 0.01);
    }

    [Fact]
    public void A_length_lies_within_twice_its_uncertainty_in_ninety_five_of_a_hundred()
    {
        var view = new DrawnView(2000, 1500, 12, new Spot(25, 40), -15, 25, 70);
        var random = new Random(5);
        double Noise(double deviation) => deviation * Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        Spot[] ends = [new(5, 60), new(55, 72)];
        var truth = (ends[1] - ends[0]).Length;
        const int Trials = 1000;
        var inside = 0;
        for (var n = 0; n < Trials; n++)
        {
            var map = Homography.Fit([.. ScaleCard.Dots(7).Select(d => (d.At, view.Seen(d.At) + new Spot(Noise(0.2), Noise(0.2))))])!;
            Spot[] seen = [.. ends.Select(e => view.Seen(e) + new Spot(Noise(0.4), Noise(0.4)))];
            static double Of(IReadOnlyList<Spot> p) => (p[1] - p[0]).Length;
            var uncertainty = map.Uncertainty(seen, 0.4, Of, card: 0.2);
            inside += Math.Abs(Of([.. seen.Select(map.Plane)]) - truth) <= 1.96 * uncertainty ? 1 : 0;
        }

        ((double)inside / Trials).ShouldBe(0.95, 0.03);
    }

    [Fact]
    public void Points_that_settle_nothing_give_no_map()
    {
        (Spot, Spot) Same(double x, double y) => (new Spot(x, y), new Spot(x, y));
        Homography.Fit([Same(0, 0), Same(1, 0), Same(1, 1)]).ShouldBeNull();
        Homography.Fit([Same(0, 0), Same(1, 1), Same(2, 2), Same(3, 3)]).ShouldBeNull();
        Homography.Fit([Same(4, 4), Same(4, 4), Same(4, 4), Same(4, 4)]).ShouldBeNull();
    }

    private static void Near(Spot at, Spot expected) => (at - expected).Length.ShouldBeLessThan(1e-9);
}
