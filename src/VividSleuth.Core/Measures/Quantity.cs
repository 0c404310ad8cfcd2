using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Measures;

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

    /// <summary>Base unit cm³.</summary>
    Volume,

    /// <summary>Base unit N.</summary>
    Force,

    /// <summary>Base unit N·m.</summary>
    Torque,

    /// <summary>Base unit revolutions (or strokes) per minute.</summary>
    Speed,

    /// <summary>Base unit °C.</summary>
    Temperature,

    /// <summary>Base unit mPa·s.</summary>
    Viscosity,

    /// <summary>Base unit per cent.</summary>
    Share,

    /// <summary>No unit: a ratio or a count.</summary>
    Ratio,

    /// <summary>Base unit mm².</summary>
    Area,
}

/// <summary>The unit in which lengths are told.</summary>
public enum LengthUnit
{
    Mm,
    Inch,
}

/// <summary>A figure as a person typed it, understood.</summary>
/// <param name="Value">Exact value in the base unit; of a relative entry, the difference.</param>
/// <param name="Unit">The unit typed, or the set one where none was typed.</param>
/// <param name="Relative">True for an entry with a sign, such as +.003, which counts from the set nominal.</param>
/// <param name="Step">Size of the last digit typed, in the base unit.</param>
/// <param name="Within">Half-width that was told with it, in the base unit: of “0.04 to 0.05” or “0.045 ± 0.005” 0.005; 0 where none was.</param>
public sealed record TypedQuantity(decimal Value, string Unit, bool Relative, decimal Step, decimal Within = 0)
{
    /// <summary>Least and most that were told.</summary>
    public (decimal Least, decimal Most) Ends => (Value - Within, Value + Within);
}

/// <summary>
/// Reads figures as people type them: 2.097, 2-3/32, 21 thou, 3 tenths, 0.02 mm, 53,21 mm, +.003, 20 under, 0.04 to 0.05, 0.045 ± 0.005,
/// 2 o’clock. What can be read in two ways is refused with the question to ask; nothing is guessed.
/// </summary>
public static partial class QuantityParser
{
    private const int LongestEntry = 32;

    /// <summary>
    /// Units with their size in the base unit and, of temperatures, where they begin. Exact by definition (1 in = 25.4 mm, the pound and
    /// standard gravity) but for the inch of water, which is the conventional one of 249.08891 Pa.
    /// </summary>
    private static readonly Dictionary<string, (Quantity Quantity, decimal Size, decimal From)> Units = new(StringComparer.OrdinalIgnoreCase)
    {
        ["mm"] = (Quantity.Length, 1m, 0),
        ["in"] = (Quantity.Length, 25.4m, 0),
        ["thou"] = (Quantity.Length, 0.0254m, 0),
        ["thousandths"] = (Quantity.Length, 0.0254m, 0),
        ["thousandth"] = (Quantity.Length, 0.0254m, 0),
        ["tenths"] = (Quantity.Length, 0.00254m, 0),
        ["µm"] = (Quantity.Length, 0.001m, 0),
        ["hundredths mm"] = (Quantity.Length, 0.01m, 0),
        ["hundredth mm"] = (Quantity.Length, 0.01m, 0),
        ["cm"] = (Quantity.Length, 10m, 0),
        ["um"] = (Quantity.Length, 0.001m, 0),
        ["micron"] = (Quantity.Length, 0.001m, 0),
        ["microns"] = (Quantity.Length, 0.001m, 0),
        ["inch"] = (Quantity.Length, 25.4m, 0),
        ["\""] = (Quantity.Length, 25.4m, 0),
        ["tenth"] = (Quantity.Length, 0.00254m, 0),
        ["kPa"] = (Quantity.Pressure, 1m, 0),
        ["bar"] = (Quantity.Pressure, 100m, 0),
        ["psi"] = (Quantity.Pressure, 6.894757293168m, 0),
        ["MPa"] = (Quantity.Pressure, 1000m, 0),
        ["mbar"] = (Quantity.Pressure, 0.1m, 0),
        ["inH2O"] = (Quantity.Pressure, 0.24908891m, 0),
        ["mmH2O"] = (Quantity.Pressure, 0.00980665m, 0),
        ["g"] = (Quantity.Mass, 1m, 0),
        ["kg"] = (Quantity.Mass, 1000m, 0),
        ["oz"] = (Quantity.Mass, 28.349523125m, 0),
        ["lb"] = (Quantity.Mass, 453.59237m, 0),
        ["deg"] = (Quantity.Angle, 1m, 0),
        ["°"] = (Quantity.Angle, 1m, 0),
        ["cm³"] = (Quantity.Volume, 1m, 0),
        ["cc"] = (Quantity.Volume, 1m, 0),
        ["ml"] = (Quantity.Volume, 1m, 0),
        ["cuin"] = (Quantity.Volume, 16.387064m, 0),
        ["N"] = (Quantity.Force, 1m, 0),
        ["kN"] = (Quantity.Force, 1000m, 0),
        ["lbf"] = (Quantity.Force, 4.4482216152605m, 0),
        ["kgf"] = (Quantity.Force, 9.80665m, 0),
        ["Nm"] = (Quantity.Torque, 1m, 0),
        ["ftlb"] = (Quantity.Torque, 1.3558179483314004m, 0),
        ["inlb"] = (Quantity.Torque, 0.1129848290276167m, 0),
        ["rpm"] = (Quantity.Speed, 1m, 0),
        ["°C"] = (Quantity.Temperature, 1m, 0),
        ["C"] = (Quantity.Temperature, 1m, 0),
        ["°F"] = (Quantity.Temperature, 5m / 9m, -160m / 9m),
        ["F"] = (Quantity.Temperature, 5m / 9m, -160m / 9m),
        ["mPas"] = (Quantity.Viscosity, 1m, 0),
        ["cP"] = (Quantity.Viscosity, 1m, 0),
        ["%"] = (Quantity.Share, 1m, 0),
        ["x"] = (Quantity.Ratio, 1m, 0),
        ["mm²"] = (Quantity.Area, 1m, 0),
        ["cm²"] = (Quantity.Area, 100m, 0),
    };

    /// <summary>Reads an entry.</summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="quantity">What is being measured.</param>
    /// <param name="setUnit">The unit that holds where none is typed.</param>
    /// <exception cref="ProblemException">It cannot be read, or it can be read in two ways.</exception>
    public static TypedQuantity Parse(string typed, Quantity quantity, string setUnit)
    {
        var text = typed.Trim().Replace('\u2212', '-').Replace('\u2013', '-');
        if (text.Length > LongestEntry)
        {
            throw NoFigure(typed);
        }

        if (quantity == Quantity.Length && Thimble().Match(text) is { Success: true } thimble)
        {
            return OfThimble(thimble, setUnit);
        }

        if (quantity == Quantity.Angle && Clock().Match(text) is { Success: true } clock)
        {
            return OfClock(clock, typed);
        }

        if (quantity == Quantity.Length && Graded().Match(text) is { Success: true } graded)
        {
            return OfGrade(graded, quantity, setUnit, typed);
        }

        if (Range().Match(text) is { Success: true } range)
        {
            // A unit behind one of the two holds for both.
            var unit = range.Groups["unit"].Value;
            var from = One(range.Groups["from"].Value, quantity, unit.Length > 0 ? unit : setUnit, typed);
            var to = One(range.Groups["to"].Value + unit, quantity, unit.Length > 0 ? setUnit : from.Unit, typed);
            return from.Relative || to.Relative || to.Value <= from.Value
                ? throw Refuse("measures.does-not-go-from-smaller", ("shown", Shown(typed)))
                : new TypedQuantity((from.Value + to.Value) / 2, to.Unit, false, to.Step, (to.Value - from.Value) / 2);
        }

        if (GiveOrTake().Match(text) is { Success: true } pair)
        {
            var unit = pair.Groups["unit"].Value;
            var middle = One(pair.Groups["middle"].Value, quantity, unit.Length > 0 ? unit : setUnit, typed);
            var half = One(pair.Groups["half"].Value + unit, quantity, setUnit, typed);
            var from = Units[half.Unit].From;
            return half.Relative || half.Value - from <= 0
                ? throw Refuse("measures.what-given-taken-must-more", ("shown", Shown(typed)))
                : middle with
                {
                    Within = half.Value - from,
                };
        }

        return One(text, quantity, setUnit, typed);
    }

    /// <summary>One figure with its sign and unit.</summary>
    private static TypedQuantity One(string text, Quantity quantity, string setUnit, string typed)
    {
        var match = Entry().Match(text.Trim());
        if (!match.Success)
        {
            throw NoFigure(typed);
        }

        var unit = match.Groups["unit"].Value is { Length: > 0 } given ? given : setUnit;
        unit = string.Join(' ', unit.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        if (unit.Equals("hundredth", StringComparison.OrdinalIgnoreCase) || unit.Equals("hundredths", StringComparison.OrdinalIgnoreCase))
        {
            unit = IsMetric(setUnit) ? "hundredths mm" : throw Refuse("measures.hundredths-inch-millimetre");
        }

        if (!Units.TryGetValue(unit, out var known))
        {
            throw Refuse("measures.not-unit-known-here", ("unit", unit), ("join", UnitsOf(quantity).Take(6)));
        }

        if (known.Quantity != quantity)
        {
            throw Refuse("measures.measures-wanted", ("unit", unit), ("other", known.Quantity), ("wanted", quantity));
        }

        var sign = match.Groups["sign"].Value;
        var (number, step) = match.Groups["fraction"].Success ? Fraction(match) : Decimal(match.Groups["decimal"].Value);
        // A frosty shed is below nil and counts from no nominal.
        var relative = sign.Length > 0 && quantity != Quantity.Temperature;
        var value = ((sign == "-" ? -number : number) * known.Size) + known.From;
        return Math.Abs(value) > 1_000_000m
            ? throw Refuse("measures.far-beyond-any-part-engine", ("typed", typed))
            : new TypedQuantity(value, unit, relative, step * known.Size);
    }

    /// <summary>
    /// “20 under”: counted from the nominal. A whole number without a unit is thousandths in an inch shop (common practice); in a metric one
    /// it could be hundredths as well, and is asked about.
    /// </summary>
    private static TypedQuantity OfGrade(Match match, Quantity quantity, string setUnit, string typed)
    {
        var figure = match.Groups["figure"].Value;
        var whole = figure.TrimEnd().All(char.IsAsciiDigit) && !figure.TrimEnd().All(c => c == '0');
        if (whole && IsMetric(setUnit))
        {
            throw Refuse("measures.thousandths-inch-hundredths-millimetre", ("shown", Shown(typed)));
        }

        var read = One(figure, quantity, whole ? "thou" : setUnit, typed);
        if (read.Relative)
        {
            throw Refuse("measures.sign-and-direction", ("shown", Shown(typed)));
        }

        var under = match.Groups["way"].Value.StartsWith("u", StringComparison.OrdinalIgnoreCase);
        return read with { Value = under ? -read.Value : read.Value, Relative = true };
    }

    /// <summary>A place on the clock face, in degrees clockwise from 12: 2 o’clock, 10 h, 2:30.</summary>
    private static TypedQuantity OfClock(Match match, string typed)
    {
        var hours = int.Parse(match.Groups["hours"].Value, CultureInfo.InvariantCulture);
        var minutes = match.Groups["minutes"].Value is { Length: > 0 } m ? int.Parse(m, CultureInfo.InvariantCulture) : 0;
        return hours is < 0 or > 12 || minutes > 59
            ? throw Refuse("measures.no-place-on-clock", ("shown", Shown(typed)))
            : new TypedQuantity((hours % 12 * 30) + (minutes / 2m), "deg", false, match.Groups["minutes"].Success ? 0.5m : 30m);
    }

    private static bool IsMetric(string unit) => Units.TryGetValue(unit, out var known) && known.Size is not (25.4m or 0.0254m or 0.00254m);

    private static ProblemException NoFigure(string typed) => Refuse("measures.no-figure", ("shown", Shown(typed)));

    /// <summary>A value of the base unit in another unit, exactly.</summary>
    public static decimal InUnit(decimal value, string unit) => (value - Units[unit].From) / Units[unit].Size;

    /// <summary>Units in which a quantity may be typed; the first is the base unit.</summary>
    public static IEnumerable<string> UnitsOf(Quantity quantity) => Units.Where(u => u.Value.Quantity == quantity).Select(u => u.Key);

    /// <summary>Unit in which values of a quantity are kept.</summary>
    public static string BaseUnit(Quantity quantity) => UnitsOf(quantity).First();

    /// <summary>
    /// A micrometer as it is read: where its range begins, lines bare on the sleeve, division of the thimble, line of the vernier:
    /// 2|3|22|0. In inch a sleeve line is 0.025, a division 0.001 and a vernier line 0.0001; in mm 0.5, 0.01 and 0.001. Common practice.
    /// </summary>
    private static TypedQuantity OfThimble(Match match, string setUnit)
    {
        var inch = Units.TryGetValue(setUnit, out var set) && set.Size is 25.4m or 0.0254m or 0.00254m;
        var (line, division, fine, divisions) = inch ? (0.025m, 0.001m, 0.0001m, 25) : (0.5m, 0.01m, 0.001m, 50);
        int Count(string group) => match.Groups[group].Value is { Length: > 0 } t ? int.Parse(t, CultureInfo.InvariantCulture) : 0;
        if (Count("divisions") >= divisions)
        {
            throw Refuse("measures.thimble-divisions-past-them", ("divisions", divisions), ("count", Count("divisions")));
        }

        if (Count("fine") > 9)
        {
            throw Refuse("measures.vernier-ten-lines");
        }

        var value = Count("start") + (Count("lines") * line) + (Count("divisions") * division) + (Count("fine") * fine);
        var size = inch ? 25.4m : 1m;
        return new TypedQuantity(value * size, inch ? "in" : "mm", false, (match.Groups["fine"].Success ? fine : division) * size);
    }

    public static bool IsUnit(string unit, Quantity quantity) => Units.TryGetValue(unit, out var known) && known.Quantity == quantity;

    private static (decimal Number, decimal Step) Decimal(string digits)
    {
        if (digits.Contains(',', StringComparison.Ordinal))
        {
            var behind = digits.Length - digits.IndexOf(',', StringComparison.Ordinal) - 1;
            // A thousands mark never stands behind nothing or nil.
            if (behind == 3 && digits.TrimStart('0') is not [',', ..])
            {
                throw Refuse("measures.comma-decimal-comma-thousands-mark", ("digits", digits));
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
            : throw Refuse("measures.no-fraction-of-a-rule", ("top", top), ("bottom", bottom));
    }

    private static string Shown(string typed) => typed.Length <= LongestEntry ? typed : typed[..LongestEntry] + "…";

    private static ProblemException Refuse(string code, params IReadOnlyList<(string Name, object? Value)> with) =>
        new(Problem.Of("typed", code, with));

    [GeneratedRegex(
        @"^(?<sign>[+-])?\s*(?:(?<fraction>(?:(?<whole>[0-9]{1,3})(?:\s+|-))?(?<top>[0-9]{1,2})/(?<bottom>[0-9]{1,2}))|(?<decimal>[0-9]{1,9}(?:[.,][0-9]{0,7})?|[.,][0-9]{1,7}))\s*(?<unit>[a-zµ°""%][a-z0-9µ³°]*(?:\s+mm)?)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Entry();

    [GeneratedRegex(
        @"^(?<from>[^±]+?)\s*(?:\bto\b|…|\.\.\.)\s*(?<to>[0-9.,/\s-]+?)\s*(?<unit>[a-zµ°""%][a-z0-9µ³°]*(?:\s+mm)?)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Range();

    [GeneratedRegex(
        @"^(?<middle>[^±]+?)\s*(?:±|\+/-|\+-)\s*(?<half>[0-9.,/]+)\s*(?<unit>[a-zµ°""%][a-z0-9µ³°]*(?:\s+mm)?)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex GiveOrTake();

    [GeneratedRegex(@"^(?<figure>[^±]+?)\s*(?<way>undersize|oversize|under|over|u/s|o/s)$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Graded();

    [GeneratedRegex(
        @"^(?<hours>[0-9]{1,2})\s*(?::\s*(?<minutes>[0-9]{2})(?:\s*h)?|h|o\s?['’]?\s?clock)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Clock();

    [GeneratedRegex(
        @"^(?<start>[0-9]{1,3})\s*\|\s*(?<lines>[0-9]{1,2})\s*\|\s*(?<divisions>[0-9]{1,2})(?:\s*\|\s*(?<fine>[0-9]{1,2}))?$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Thimble();
}
