using VividSleuth.Core;
using VividSleuth.Core.Measures;

namespace VividSleuth.Words;

/// <summary>Figures as they are told.</summary>
public static class Figures
{
    /// <summary>Words for units that are written otherwise than they are typed.</summary>
    private static readonly Dictionary<string, string> Signs = new(StringComparer.Ordinal)
    {
        ["x"] = "",
        ["deg"] = "°",
        ["mPas"] = "mPa·s",
        ["inH2O"] = "inH₂O",
        ["rpm"] = "1/min",
        ["Nm"] = "N·m",
    };

    /// <summary>
    /// A length in inches has a place more than in millimetres and three at least: a thousandth of a millimetre is told beside a tenth of a
    /// thousandth of an inch. Common practice, no source.
    /// </summary>
    public static int InchDigits(int digits) => Math.Max(3, digits + 1);

    public static string Say(Amount amount, LengthUnit lengths, Locale locale, bool unit = true)
    {
        var (value, name, digits) =
            amount.Quantity == Quantity.Length && lengths == LengthUnit.Inch
                ? (amount.Value / 25.4, "in", InchDigits(amount.Digits))
                : (amount.Value, QuantityParser.BaseUnit(amount.Quantity), amount.Digits);
        var said = Fixed(value, digits, locale);
        var sign = Signs.GetValueOrDefault(name, name);
        return !unit || sign.Length == 0 ? said
            : sign is "°" ? said + sign
            : $"{said} {sign}";
    }

    public static string Say(Number number, Locale locale) =>
        number.Fixed
            ? Fixed(number.Value, number.Digits, locale)
            : number.Value.ToString(number.Digits == 0 ? "0" : $"0.{new string('#', number.Digits)}", locale.Culture);

    public static string Say(Percent percent, Locale locale) => $"{(percent.Value * 100).ToString("0", locale.Culture)} %";

    // As a person rounds: a half goes away from nought, also where binary says a hair less.
    private static string Fixed(double value, int digits, Locale locale) =>
        value.ToString(digits == 0 ? "0" : $"0.{new string('0', digits)}", locale.Culture);
}
