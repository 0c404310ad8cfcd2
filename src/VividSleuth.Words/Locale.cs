using System.Globalization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Words;

/// <summary>How a language writes numbers and days.</summary>
/// <param name="Day">Format of a day with its year.</param>
/// <param name="ShortDay">The same without its year.</param>
/// <param name="LongDay">The same with the month in full.</param>
public sealed record Locale(Language Language, CultureInfo Culture, string Day, string ShortDay, string LongDay)
{
    public static Locale English { get; } = new(Language.English, CultureInfo.InvariantCulture, "d MMM yyyy", "d MMM", "d MMMM yyyy");

    // The program runs without the cultures of the machine: what a page says does not hang on what is installed there.
    public static Locale German { get; } =
        new(
            Language.German,
            Writing(
                decimals: ",",
                groups: ".",
                ["Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"],
                ["Jan.", "Feb.", "März", "Apr.", "Mai", "Juni", "Juli", "Aug.", "Sep.", "Okt.", "Nov.", "Dez."]
            ),
            "d. MMM yyyy",
            "d. MMM",
            "d. MMMM yyyy"
        );

    private static CultureInfo Writing(string decimals, string groups, string[] months, string[] shortMonths)
    {
        var culture = (CultureInfo)CultureInfo.InvariantCulture.Clone();
        culture.NumberFormat.NumberDecimalSeparator = decimals;
        culture.NumberFormat.NumberGroupSeparator = groups;
        culture.DateTimeFormat.MonthNames = culture.DateTimeFormat.MonthGenitiveNames = [.. months, ""];
        culture.DateTimeFormat.AbbreviatedMonthNames = culture.DateTimeFormat.AbbreviatedMonthGenitiveNames = [.. shortMonths, ""];
        return culture;
    }
}
