using System.Globalization;
using System.Text.RegularExpressions;

namespace VividSleuth.Core.Gauge;

/// <summary>What kind of thing is measured; each has one base unit in which values are kept.</summary>
public enum Quantity
{
    /// <summary>Base unit mm.</summary>
    Length,

    /// <summary>Base unit kPa.</summary>
    Pressure,

    /// <summary>Base unit g.</summary>
    Mass,

    /// <summary>Base unit degree.</summary>
    Angle,
}

/// <summary>A figure as a person typed it, understood.</summary>
/// <param name="Value">Exact value in the base unit; of a relative entry, the difference.</param>
/// <param name="Unit">The unit typed, or the set one where none was typed.</param>
/// <param name="Relative">True for an entry with a sign, such as +.003, which counts from the set nominal.</param>
/// <param name="Step">Size of the last digit typed, in the base unit.</param>
public sealed record TypedQuantity(decimal Value, string Unit, bool Relative, decimal Step);

/// <summary>
/// Reads figures as people type them: 2.097, 2-3/32, 21 thou, 3 tenths, 0.02 mm, 53,21 mm, +.003. What can be read in two ways
/// is refused with the question to ask; nothing is guessed.
/// </summary>
public static partial class QuantityParser
{
    private const int LongestEntry = 24;

    /// <summary>Units with their size in the base unit; all exact by definition (1 in = 25.4 mm, 1 lbf/in² from the pound and g).</summary>
    private static readonly Dictionary<string, (Quantity Quantity, decimal Size)> Units = new(StringComparer.OrdinalIgnoreCase)
    {
        ["mm"] = (Quantity.Length, 1m),
        ["cm"] = (Quantity.Length, 10m),
        ["µm"] = (Quantity.Length, 0.001m),
        ["um"] = (Quantity.Length, 0.001m),
        ["micron"] = (Quantity.Length, 0.001m),
        ["in"] = (Quantity.Length, 25.4m),
        ["inch"] = (Quantity.Length, 25.4m),
        ["\""] = (Quantity.Length, 25.4m),
        ["thou"] = (Quantity.Length, 0.0254m),
        ["tenths"] = (Quantity.Length, 0.00254m),
        ["tenth"] = (Quantity.Length, 0.00254m),
        ["kPa"] = (Quantity.Pressure, 1m),
        ["bar"] = (Quantity.Pressure, 100m),
        ["MPa"] = (Quantity.Pressure, 1000m),
        ["psi"] = (Quantity.Pressure, 6.894757293168m),
        ["g"] = (Quantity.Mass, 1m),
        ["kg"] = (Quantity.Mass, 1000m),
        ["oz"] = (Quantity.Mass, 28.349523125m),
        ["deg"] = (Quantity.Angle, 1m),
        ["°"] = (Quantity.Angle, 1m),
    };

    /// <summary>Reads an entry.</summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="quantity">What is being measured.</param>
    /// <param name="setUnit">The unit that holds where none is typed.</param>
    /// <exception cref="ProblemException">It cannot be read, or it can be read in two ways.</exception>
    public static TypedQuantity Parse(string typed, Quantity quantity, string setUnit)
    {
        var text = typed.Trim();
        var match = text.Length <= LongestEntry ? Entry().Match(text) : Match.Empty;
        if (!match.Success)
        {
            throw Refuse($"“{Shown(typed)}” is no figure.", "Type a number such as 2.097, 2-3/32, 21 thou or 53.21 mm.");
        }

        var unit = match.Groups["unit"].Value is { Length: > 0 } given ? given : setUnit;
        if (unit.StartsWith("hundredth", StringComparison.OrdinalIgnoreCase))
        {
            throw Refuse("Hundredths of an inch or of a millimetre?", "Type it as 0.02 mm or .020 in.");
        }

        if (!Units.TryGetValue(unit, out var known))
        {
            throw Refuse(
                $"“{unit}” is not a unit known here.",
                $"Use {string.Join(", ", Units.Where(u => u.Value.Quantity == quantity).Select(u => u.Key).Take(6))}."
            );
        }

        if (known.Quantity != quantity)
        {
            throw Refuse($"{unit} measures {Name(known.Quantity)}, and {Name(quantity)} is wanted.", "Type the figure in a fitting unit.");
        }

        var sign = match.Groups["sign"].Value;
        var (number, step) = match.Groups["fraction"].Success ? Fraction(match) : Decimal(match.Groups["decimal"].Value);
        var value = (sign == "-" ? -number : number) * known.Size;
        return Math.Abs(value) > 1_000_000m
            ? throw Refuse($"“{typed}” is far beyond any part of an engine.", "Check the figure and the unit.")
            : new TypedQuantity(value, unit, sign.Length > 0, step * known.Size);
    }

    /// <summary>A value of the base unit in another unit, exactly.</summary>
    public static decimal InUnit(decimal value, string unit) => value / Units[unit].Size;

    public static bool IsUnit(string unit, Quantity quantity) => Units.TryGetValue(unit, out var known) && known.Quantity == quantity;

    private static (decimal Number, decimal Step) Decimal(string digits)
    {
        if (digits.Contains(',', StringComparison.Ordinal))
        {
            var behind = digits.Length - digits.IndexOf(',', StringComparison.Ordinal) - 1;
            if (behind == 3)
            {
                throw Refuse(
                    $"“{digits}”: is the comma a decimal comma or a thousands mark?",
                    "Type a point for the decimal, or leave the comma out."
                );
            }

            digits = digits.Replace(',', '.');
        }

        var places = digits.Contains('.', StringComparison.Ordinal) ? digits.Length - digits.IndexOf('.', StringComparison.Ordinal) - 1 : 0;
        var step = 1m;
        for (var i = 0; i < places; i++)
        {
            step /= 10m;
        }

        return (decimal.Parse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture), step);
    }

    private static (decimal Number, decimal Step) Fraction(Match match)
    {
        var whole = match.Groups["whole"].Value is { Length: > 0 } w ? decimal.Parse(w, CultureInfo.InvariantCulture) : 0m;
        var top = decimal.Parse(match.Groups["top"].Value, CultureInfo.InvariantCulture);
        var bottom = decimal.Parse(match.Groups["bottom"].Value, CultureInfo.InvariantCulture);
        return bottom is 2 or 4 or 8 or 16 or 32 or 64 && top < bottom
            ? (whole + (top / bottom), 1m / bottom)
            : throw Refuse($"“{top}/{bottom}” is no fraction of a rule.", "Use halves, quarters, eighths … down to 64ths, such as 2-3/32.");
    }

    private static string Name(Quantity quantity) =>
        quantity switch
        {
            Quantity.Length => "a length",
            Quantity.Pressure => "a pressure",
            Quantity.Mass => "a weight",
            Quantity.Angle => "an angle",
            _ => throw new ArgumentOutOfRangeException(nameof(quantity)),
        };

    private static string Shown(string typed) => typed.Length <= LongestEntry ? typed : typed[..LongestEntry] + "…";

    private static ProblemException Refuse(string text, string remedy) => new(new Problem("typed", text, remedy));

    [GeneratedRegex(
        @"^(?<sign>[+-])?\s*(?:(?<fraction>(?:(?<whole>[0-9]{1,3})(?:\s+|-))?(?<top>[0-9]{1,2})/(?<bottom>[0-9]{1,2}))|(?<decimal>[0-9]{1,9}(?:[.,][0-9]{0,7})?|[.,][0-9]{1,7}))\s*(?<unit>[a-zµ°""]+)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Entry();
}
