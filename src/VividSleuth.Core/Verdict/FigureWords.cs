using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>How a figure that a verdict rests on is told.</summary>
internal static class FigureWords
{
    public static Fact Outside(SheetFigure figure) =>
        Fact.Of(figure.Limit!.IsRuleOfThumb ? "verdict.outside-the-rule-of-thumb" : "verdict.outside-the-limit", ("figure", figure.Name));

    public static Fact Of(IReadOnlyList<SheetFigure> figures) =>
        figures.Count == 0 ? Fact.None : Fact.Of("verdict.figures", ("figures", figures.Select(Told).ToArray()));

    public static Fact? Of(PartVerdict? verdict) =>
        verdict is null ? null
        : verdict.Figures.Count > 0 ? Fact.Of("verdict.figures", ("figures", verdict.Figures.Select(Told).ToArray()))
        : Fact.Text(verdict.Figure);

    private static Fact Told(SheetFigure f) =>
        Told(f.Name, f.Quantity, f.Value, f.Expanded, f.Limit?.ServiceLeast, f.Limit?.ServiceMost, f.Limit?.SourceText);

    private static Fact Told(VerdictFigure f) => Told(f.Name, f.Quantity, f.Value, f.Expanded, f.Least, f.Most, Fact.Text(f.Source));

    private static Fact Told(string name, Quantity quantity, double value, double expanded, double? least, double? most, Fact? source)
    {
        Amount Size(double size) => new(size, quantity, 3);
        // One open side is said in words: a dash before a lone figure reads as a minus.
        var bounds = (least, most) switch
        {
            (null, null) => null,
            (null, { } up) => Fact.Of("verdict.at-most", ("most", Size(up))),
            ({ } down, null) => Fact.Of("verdict.at-least", ("least", Size(down))),
            ({ } down, { } up) => Fact.Of("verdict.from-to", ("least", Size(down)), ("most", Size(up))),
        };
        return Fact.Of(
            "verdict.figure",
            ("figure", name),
            ("value", Size(value)),
            ("uncertainty", Size(expanded)),
            ("limit", bounds is null ? null : Fact.Of("verdict.limit", ("bounds", bounds), ("source", source)))
        );
    }
}
