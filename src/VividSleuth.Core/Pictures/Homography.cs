using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Double;

namespace VividSleuth.Core.Pictures;

/// <summary>
/// How a plane is seen in a picture: a projective map x’ ~ H x. Fitted by the normalised direct linear transformation and then by least squares of the distances in the
/// picture, as Hartley and Zisserman have it (Multiple View Geometry in Computer Vision, 2nd edition 2004, algorithm 4.2 and section 4.5; from memory).
/// </summary>
public sealed class Homography
{
    private const int Rounds = 10;

    /// <summary>From here on the equations tell nothing more: four points of which three lie in a line.</summary>
    private const double Degenerate = 1e-9;

    private readonly Matrix<double> _map;
    private readonly Matrix<double> _back;

    private Homography(Matrix<double> map, int count, double residual, Matrix<double> doubt)
    {
        _map = map / map[2, 2];
        _back = _map.Inverse();
        (Count, Residual, Doubt) = (count, residual, doubt);
    }

    /// <summary>Pairs that it was fitted to.</summary>
    public int Count { get; }

    /// <summary>
    /// Standard deviation of a coordinate in the picture, in pixels: of the distances from where the map puts the points, over the degrees of freedom that are left. Not a number
    /// with four pairs, which leave none.
    /// </summary>
    public double Residual { get; }

    /// <summary>Covariance of the first eight elements, row by row, with the ninth being one, for a deviation of one pixel in each coordinate.</summary>
    public Matrix<double> Doubt { get; }

    /// <param name="pairs">Points of the plane and where each is seen; four at least, no three of the first four in one line.</param>
    /// <returns>Null where they do not settle it.</returns>
    public static Homography? Fit(IReadOnlyList<(Spot Plane, Spot Seen)> pairs)
    {
        if (pairs.Count < 4)
        {
            return null;
        }

        var plane = Normal([.. pairs.Select(p => p.Plane)]);
        var seen = Normal([.. pairs.Select(p => p.Seen)]);
        if (plane is null || seen is null)
        {
            return null;
        }

        var rows = DenseMatrix.Create(2 * pairs.Count, 9, 0);
        foreach (var (i, (from, to)) in pairs.Index())
        {
            var (a, b) = (Map(plane, from), Map(seen, to));
            rows.SetRow(2 * i, [0, 0, 0, -a.X, -a.Y, -1, b.Y * a.X, b.Y * a.Y, b.Y]);
            rows.SetRow((2 * i) + 1, [a.X, a.Y, 1, 0, 0, 0, -b.X * a.X, -b.X * a.Y, -b.X]);
        }

        var svd = rows.Svd();
        if (svd.S[7] < Degenerate * svd.S[0])
        {
            return null;
        }

        var h = svd.VT.Row(8);
        var map = Matrix<double>.Build.DenseOfRowMajor(3, 3, h);
        return Refined(seen.Inverse() * map * plane, pairs);
    }

    /// <summary>Where a point of the plane is seen.</summary>
    public Spot Seen(Spot plane) => Map(_map, plane);

    /// <summary>What point of the plane is seen there.</summary>
    public Spot Plane(Spot seen) => Map(_back, seen);

    /// <summary>How large the plane is seen about a point, in pixels for a millimetre: along the direction in which it is seen largest, and along that across.</summary>
    public (double Most, double Least) Scale(Spot plane)
    {
        var j = Jacobian(plane);
        var svd = Matrix<double>.Build.DenseOfRowMajor(2, 2, j).Svd(computeVectors: false);
        return (svd.S[0], svd.S[1]);
    }

    /// <summary>
    /// By how much the plane is turned away from the picture’s, in degrees, told from how much shorter it is seen one way than the other, as if from far away.
    /// </summary>
    public double Tilt(Spot plane)
    {
        var (most, least) = Scale(plane);
        return 180 / Math.PI * Math.Acos(Math.Clamp(least / most, 0, 1));
    }

    /// <summary>
    /// Standard uncertainty of what is reckoned from points of the plane that were seen in the picture: of where each is, and of the map. The law of propagation (GUM 5.1.2) with differences for
    /// derivatives.
    /// </summary>
    /// <param name="seen">Points in the picture.</param>
    /// <param name="pixel">Standard uncertainty of each coordinate of these, in pixels.</param>
    /// <param name="of">What is reckoned from them in the plane.</param>
    /// <param name="card">Standard uncertainty of a coordinate of what it was fitted to, in pixels; its residual without.</param>
    public double Uncertainty(IReadOnlyList<Spot> seen, double pixel, Func<IReadOnlyList<Spot>, double> of, double? card = null)
    {
        var here = of([.. seen.Select(Plane)]);
        const double Step = 1e-3;
        var variance = 0.0;
        for (var i = 0; i < seen.Count; i++)
        {
            foreach (var move in new[] { new Spot(Step, 0), new Spot(0, Step) })
            {
                var moved = of([.. seen.Select((s, n) => Plane(n == i ? s + move : s))]);
                variance += Math.Pow((moved - here) / Step * pixel, 2);
            }
        }

        var gradient = DenseVector.Create(
            8,
            k =>
            {
                var moved = _map.Clone();
                var step = 1e-6 * Math.Max(1e-3, Math.Abs(moved[k / 3, k % 3]));
                moved[k / 3, k % 3] += step;
                var back = moved.Inverse();
                return (of([.. seen.Select(s => Map(back, s))]) - here) / step;
            }
        );
        var deviation = card ?? (double.IsNaN(Residual) ? 0 : Residual);
        return Math.Sqrt(variance + (gradient * (Doubt * gradient) * deviation * deviation));
    }

    private static Homography Refined(Matrix<double> map, IReadOnlyList<(Spot Plane, Spot Seen)> pairs)
    {
        map /= map[2, 2];
        var jacobian = DenseMatrix.Create(2 * pairs.Count, 8, 0);
        var left = DenseVector.Create(2 * pairs.Count, 0);
        for (var round = 0; ; round++)
        {
            foreach (var (i, (plane, seen)) in pairs.Index())
            {
                var w = (map[2, 0] * plane.X) + (map[2, 1] * plane.Y) + 1;
                var at = Map(map, plane);
                (left[2 * i], left[(2 * i) + 1]) = (seen.X - at.X, seen.Y - at.Y);
                jacobian.SetRow(2 * i, [plane.X / w, plane.Y / w, 1 / w, 0, 0, 0, -at.X * plane.X / w, -at.X * plane.Y / w]);
                jacobian.SetRow((2 * i) + 1, [0, 0, 0, plane.X / w, plane.Y / w, 1 / w, -at.Y * plane.X / w, -at.Y * plane.Y / w]);
            }

            if (round == Rounds || pairs.Count == 4)
            {
                break;
            }

            var step = jacobian.QR().Solve(left);
            for (var k = 0; k < 8; k++)
            {
                map[k / 3, k % 3] += step[k];
            }

            if (step.L2Norm() < 1e-12 * map.FrobeniusNorm())
            {
                break;
            }
        }

        var free = left.Count - 8;
        return new Homography(map, pairs.Count, free > 0 ? Math.Sqrt(left.DotProduct(left) / free) : double.NaN, Covariance(jacobian));
    }

    /// <summary>(JᵀJ)⁻¹ by the columns brought to one size first: they differ by the square of a picture’s width.</summary>
    private static Matrix<double> Covariance(Matrix<double> jacobian)
    {
        var size = jacobian.ColumnNorms(2);
        var even = jacobian * DenseMatrix.OfDiagonalVector(size.Map(s => 1 / s));
        var inverse = (even.Transpose() * even).Inverse();
        return inverse.MapIndexed((i, j, v) => v / (size[i] * size[j]));
    }

    private double[] Jacobian(Spot plane)
    {
        var w = (_map[2, 0] * plane.X) + (_map[2, 1] * plane.Y) + 1;
        var at = Seen(plane);
        return
        [
            (_map[0, 0] - (at.X * _map[2, 0])) / w,
            (_map[0, 1] - (at.X * _map[2, 1])) / w,
            (_map[1, 0] - (at.Y * _map[2, 0])) / w,
            (_map[1, 1] - (at.Y * _map[2, 1])) / w,
        ];
    }

    private static Spot Map(Matrix<double> map, Spot at)
    {
        var w = (map[2, 0] * at.X) + (map[2, 1] * at.Y) + map[2, 2];
        return new Spot(((map[0, 0] * at.X) + (map[0, 1] * at.Y) + map[0, 2]) / w, ((map[1, 0] * at.X) + (map[1, 1] * at.Y) + map[1, 2]) / w);
    }

    /// <summary>Moves the points about the origin, at √2 from it on the average.</summary>
    private static Matrix<double>? Normal(IReadOnlyList<Spot> points)
    {
        var middle = new Spot(points.Average(p => p.X), points.Average(p => p.Y));
        var away = points.Average(p => (p - middle).Length);
        if (away < 1e-12)
        {
            return null;
        }

        var k = Math.Sqrt(2) / away;
        return Matrix<double>.Build.DenseOfRowMajor(3, 3, [k, 0, -k * middle.X, 0, k, -k * middle.Y, 0, 0, 1]);
    }
}
