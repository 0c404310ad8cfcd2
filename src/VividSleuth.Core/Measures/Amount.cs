namespace VividSleuth.Core.Measures;

/// <summary>A figure that is told in the unit of whoever reads it.</summary>
/// <param name="Value">In the base unit of the quantity.</param>
/// <param name="Digits">Behind the point, in the base unit; Words takes as many in another unit as say the same.</param>
public sealed record Amount(double Value, Quantity Quantity, int Digits)
{
    /// <summary>A length in mm; to the micrometre where nothing else is said.</summary>
    public static Amount Length(double mm, int digits = 3) => new(mm, Quantity.Length, digits);

    /// <inheritdoc cref="Length(double, int)"/>
    public static Amount Length(decimal mm, int digits = 3) => new((double)mm, Quantity.Length, digits);
}

/// <summary>A figure without a unit, or with one that is the same everywhere.</summary>
/// <param name="Digits">Behind the point at most.</param>
/// <param name="Fixed">True where noughts at the end are told too.</param>
public sealed record Number(double Value, int Digits = 0, bool Fixed = false);

/// <summary>A share of one, told in per cent.</summary>
public sealed record Percent(double Value);
