using System.Globalization;

namespace VividSleuth.Core.Gauge;

/// <summary>What a stamp may mean. A bare digit is misread by a factor of ten: “2” is .002 or .020. Common practice, no source.</summary>
public static class GradeStamp
{
    /// <summary>Every grade to be had that a stamp may mean; one where it says so plainly.</summary>
    public static IReadOnlyList<Grade> Of(string stamp, SizeSteps steps)
    {
        var text = stamp.Trim().ToUpperInvariant().Replace("US", "", StringComparison.Ordinal).Replace("MM", "", StringComparison.Ordinal).Trim();
        if (!int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) || text.StartsWith('0') || n == 0)
        {
            // A step of this engine's own list is as plain as a usual one.
            return decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var typed)
                && steps.All.FirstOrDefault(g => g.Under > 0 && g.Under == (text[0] == '.' ? typed * 25.4m : typed)) is { } listed
                    ? [listed]
                : Grade.FromStamp(stamp) is { } plain ? [plain]
                : [];
        }

        decimal[] may = [n * 0.0254m, n * 0.254m, n * 0.01m];
        return
        [
            .. may.Select(m => steps.All.FirstOrDefault(g => g.Under == m))
                .OfType<Grade>()
                .Where(g => g.Under > 0)
                .DistinctBy(g => g.Under)
                .OrderBy(g => g.Under),
        ];
    }
}
