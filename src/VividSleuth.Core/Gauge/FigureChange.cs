using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>How a figure changed from one time that it was taken to a later one.</summary>
public enum Changed
{
    /// <summary>By no more than the doubt of the change.</summary>
    NotToldApart,
    Better,
    Worse,

    /// <summary>It changed, and nobody can say whether that is for the better.</summary>
    Another,
}

/// <summary>A figure taken twice: by how much it changed, and whether that is more than its doubt.</summary>
/// <param name="Change">Later less earlier, base unit.</param>
/// <param name="Doubt">
/// Expanded uncertainty of the change, k = 2 (GUM 5.2): what both share, such as the error of one gauge, cancels and is not counted in it.
/// </param>
public sealed record FigureChange(Changed How, double Change, double Doubt, Quantity Quantity)
{
    /// <param name="before">Taken in the same case.</param>
    /// <returns>Null where one of them has no estimate to be reckoned with.</returns>
    public static FigureChange? Of(SheetFigure before, SheetFigure now) => Of(before.Estimate, now);

    /// <summary>As <see cref="Of(SheetFigure, SheetFigure)"/>, of a figure of an earlier case: the two share nothing (GUM 5.1.2).</summary>
    public static FigureChange? SinceEarlier(SheetFigure before, SheetFigure now) => Of(before.Estimate?.OfAnotherTime("earlier"), now);

    private static FigureChange? Of(Estimate? before, SheetFigure now)
    {
        if (before is not { } was || now.Estimate is not { } after)
        {
            return null;
        }

        var change = after - was;
        // Less is better of what has a most, more of what has a least; of the rest nobody can say.
        var better = (now.Limit?.ServiceLeast, now.Limit?.ServiceMost) switch
        {
            (null, not null) => change.Value < 0,
            (not null, null) => change.Value > 0,
            _ => (bool?)null,
        };
        return new FigureChange(
            Math.Abs(change.Value) <= change.Expanded ? Changed.NotToldApart
                : better is null ? Changed.Another
                : better.Value ? Changed.Better
                : Changed.Worse,
            change.Value,
            change.Expanded,
            now.Quantity
        );
    }

    /// <param name="digits">Places behind the point.</param>
    /// <param name="unlike">What was not alike when it was taken again; null where nothing is known to differ.</param>
    public Fact Told(int digits, Fact? unlike = null) =>
        Fact.Of(
            How switch
            {
                Changed.NotToldApart => "gauge.change.not-told-apart",
                Changed.Better => "gauge.change.better",
                Changed.Worse => "gauge.change.worse",
                _ => "gauge.change.another",
            },
            ("change", new Amount(Math.Abs(Change), Quantity, digits)),
            ("doubt", new Amount(Doubt, Quantity, digits)),
            ("unlike", unlike)
        );
}
