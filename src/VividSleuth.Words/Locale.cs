using System.Globalization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Words;

/// <summary>How a language writes numbers and days.</summary>
/// <param name="Tag">Of the language, after BCP 47: as pages, papers and a device that chose it carry it.</param>
/// <param name="Day">Format of a day with its year.</param>
/// <param name="ShortDay">The same without its year.</param>
/// <param name="LongDay">The same with the month in full.</param>
public sealed record Locale(Language Language, string Tag, CultureInfo Culture, string Day, string ShortDay, string LongDay)
{
    public static Locale English { get; } = new(Language.English, "en", CultureInfo.InvariantCulture, "d MMM yyyy", "d MMM", "d MMMM yyyy");

    // The program runs without the cultures of the machine: what a page says does not hang on what is installed there.
    public static Locale German { get; } =
        new(
            Language.German,
            "de",
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

    /// <summary>The one of a tag; null where it is none of these.</summary>
    public static Locale? Tagged(string? tag) => Array.Find([English, German], l => l.Tag == tag);

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
