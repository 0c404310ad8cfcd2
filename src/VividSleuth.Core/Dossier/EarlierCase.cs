using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Dossier;

/// <summary>What an earlier case of the same engine, or of another of its kind, says to the next.</summary>
/// <param name="SameEngine">By its number; else only its name is the same.</param>
/// <param name="Day">Of the last thing that was written.</param>
/// <param name="Cause">The mechanic’s own finding; null where there was none.</param>
/// <param name="Place">Where it began; empty where nobody said.</param>
/// <param name="Confidence">How sure he was; null where there was no finding.</param>
/// <param name="Figures">As found then; only of the same engine.</param>
public sealed record EarlierCase(
    Guid Id,
    string Title,
    bool SameEngine,
    DateOnly Day,
    decimal? Hours,
    string? Cause,
    string Place,
    Trace.Confidence? Confidence,
    IReadOnlyList<SheetFigure> Figures
);

/// <summary>A figure as it was found in an earlier case and in this one.</summary>
/// <param name="PerThousandHours">Change over a thousand hours with its doubt; null where the hours of one are not known or are the same.</param>
public sealed record FigureTrend(SheetFigure Was, SheetFigure Now, DateOnly Then, FigureChange Change, (double Value, double Doubt)? PerThousandHours)
{
    /// <summary>
    /// Figures that were taken as found then and now: those that changed by more than their doubt first, the fastest before the others.
    /// </summary>
    /// <param name="earlier">Of the same engine, the newest first: a figure is held against the newest case that has it.</param>
    /// <param name="hours">Run in all by now.</param>
    public static IReadOnlyList<FigureTrend> Of(IReadOnlyList<EarlierCase> earlier, GaugeSheet now, decimal? hours)
    {
        var trends = new List<FigureTrend>();
        foreach (var figure in now.Figures.Where(f => f.Phase == Phase.AsFound))
        {
            foreach (var before in earlier.Where(e => e.SameEngine))
            {
                if (
                    before.Figures.FirstOrDefault(f => f.Place == figure.Place && f.Characteristic == figure.Characteristic) is { } was
                    && FigureChange.SinceEarlier(was, figure) is { } change
                )
                {
                    var ran = (double?)(hours - before.Hours);
                    trends.Add(
                        new FigureTrend(
                            was,
                            figure,
                            before.Day,
                            change,
                            ran > 0 ? (1000 * change.Change / ran.Value, 1000 * change.Doubt / ran.Value) : null
                        )
                    );
                    break;
                }
            }
        }

        return
        [
            .. trends
                .OrderBy(t => t.Change.How == Changed.NotToldApart)
                .ThenByDescending(t => Math.Abs(t.Change.Change) / Math.Max(t.Change.Doubt, double.Epsilon))
                .ThenBy(t => t.Now.Place, StringComparer.Ordinal)
                .ThenBy(t => t.Now.Characteristic, StringComparer.Ordinal),
        ];
    }
}
