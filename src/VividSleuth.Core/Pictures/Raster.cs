namespace VividSleuth.Core.Pictures;

/// <summary>A point of a picture, in pixels from the middle of the upper left one, or of a plane, in millimetres.</summary>
public readonly record struct Spot(double X, double Y)
{
    public static Spot operator +(Spot a, Spot b) => new(a.X + b.X, a.Y + b.Y);

    public static Spot operator -(Spot a, Spot b) => new(a.X - b.X, a.Y - b.Y);

    public static Spot operator *(double k, Spot a) => new(k * a.X, k * a.Y);

    public double Length => Math.Sqrt((X * X) + (Y * Y));

    public double Dot(Spot other) => (X * other.X) + (Y * other.Y);

    /// <summary>The third component of the cross product: positive where the other lies clockwise, as a picture is seen.</summary>
    public double Cross(Spot other) => (X * other.Y) - (Y * other.X);
}

/// <summary>A grey picture: rows from the top, in each the columns from the left.</summary>
public sealed class Raster
{
    private readonly float[] _light;

    /// <param name="light">From 0, black, to 1, white, row by row; it is not copied.</param>
    /// <exception cref="ArgumentException">There are not as many values as pixels.</exception>
    public Raster(int width, int height, float[] light)
    {
        if (width < 1 || height < 1 || light.Length != width * height)
        {
            throw new ArgumentException($"{light.Length} values are no picture of {width} × {height}.", nameof(light));
        }

        (Width, Height, _light) = (width, height, light);
    }

    public int Width { get; }

    public int Height { get; }

    /// <summary>All values, row by row.</summary>
    public ReadOnlySpan<float> Light => _light;

    public float this[int x, int y] => _light[(y * Width) + x];

    public bool Holds(Spot at) => at.X >= 0 && at.Y >= 0 && at.X <= Width - 1 && at.Y <= Height - 1;

    /// <summary>The light between pixels, by the four around it; outside, that of the edge.</summary>
    public double At(Spot at)
    {
        var x = Math.Clamp(at.X, 0, Width - 1);
        var y = Math.Clamp(at.Y, 0, Height - 1);
        var (left, top) = ((int)x, (int)y);
        var (right, below) = (Math.Min(left + 1, Width - 1), Math.Min(top + 1, Height - 1));
        var (fx, fy) = (x - left, y - top);
        var upper = (this[left, top] * (1 - fx)) + (this[right, top] * fx);
        var lower = (this[left, below] * (1 - fx)) + (this[right, below] * fx);
        return (upper * (1 - fy)) + (lower * fy);
    }

    /// <summary>The same, so many times smaller, each pixel the mean of those it stands for; what is left over at the right and below falls away.</summary>
    public Raster Smaller(int times)
    {
        if (times <= 1)
        {
            return this;
        }

        var (width, height) = (Math.Max(1, Width / times), Math.Max(1, Height / times));
        var (across, down) = (Math.Min(times, Width), Math.Min(times, Height));
        var light = new float[width * height];
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var sum = 0f;
                for (var j = 0; j < down; j++)
                {
                    var row = ((((y * times) + j) * Width) + (x * times));
                    for (var i = 0; i < across; i++)
                    {
                        sum += _light[row + i];
                    }
                }

                light[(y * width) + x] = sum / (across * down);
            }
        }

        return new Raster(width, height, light);
    }

    /// <summary>What a map sees of it: the light of each pixel of the new picture is that of where the map puts it here.</summary>
    public Raster Seen(int width, int height, Func<Spot, Spot> map)
    {
        var light = new float[width * height];
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                light[(y * width) + x] = (float)At(map(new Spot(x, y)));
            }
        }

        return new Raster(width, height, light);
    }
}
