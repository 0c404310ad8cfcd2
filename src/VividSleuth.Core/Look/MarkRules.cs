namespace VividSleuth.Core.Look;

/// <summary>Whether a mark on a photograph can stand, and how large what it marks is.</summary>
public static class MarkRules
{
    /// <returns>Null when it can stand; otherwise what is wrong.</returns>
    public static Problem? Check(PhotoMark mark)
    {
        double[] points = [mark.X1, mark.Y1, mark.X2, mark.Y2];
        if (!Array.TrueForAll(points, p => p is >= 0 and <= 1))
        {
            return Problem.Of("x1", "look.mark-lies-outside-picture");
        }

        if (mark.X1.Equals(mark.X2) && mark.Y1.Equals(mark.Y2))
        {
            return Problem.Of("x2", "look.mark-without-length");
        }

        return mark.Kind == PhotoMarkKind.Scale
            ? mark.Length is > 0 and <= 10_000
                ? null
                : Problem.Of("length", "look.scale-needs-length-between-ends")
            : mark.Length is null
                ? null
                : Problem.Of("length", "look.only-scale-length");
    }

    /// <summary>
    /// Width of a ring in mm by the scale on the same picture. In the plane of the scale only; what lies nearer to the camera or
    /// farther is misjudged in proportion.
    /// </summary>
    /// <param name="aspect">Width of the picture over its height.</param>
    /// <returns>Null without a scale, and for an arrow, which points and measures nothing.</returns>
    public static double? Length(PhotoMark mark, PhotoMark? scale, double aspect) =>
        mark.Kind == PhotoMarkKind.Ring && scale?.Length is { } length ? 2 * Span(mark, aspect) / Span(scale, aspect) * (double)length : null;

    private static double Span(PhotoMark mark, double aspect) => double.Hypot((mark.X2 - mark.X1) * aspect, mark.Y2 - mark.Y1);
}
