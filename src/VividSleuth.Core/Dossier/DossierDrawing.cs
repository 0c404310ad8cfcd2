using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Dossier;

/// <summary>How a line of a drawing is drawn.</summary>
public enum DossierPen
{
    /// <summary>The part itself.</summary>
    Part,

    /// <summary>The same in another direction, or found later.</summary>
    Other,

    /// <summary>What it is held against.</summary>
    Guide,
}

/// <summary>A point of a drawing, from its upper left corner, in the drawing’s own units.</summary>
public readonly record struct DossierPoint(double X, double Y);

/// <summary>A line through points; with one point a dot.</summary>
public sealed record DossierLine(IReadOnlyList<DossierPoint> Points, DossierPen Pen);

/// <summary>A small drawing of one part.</summary>
/// <param name="Alternative">What is to be seen, for whoever cannot see it.</param>
public sealed record DossierDrawing(Fact Title, Fact Alternative, IReadOnlyList<DossierLine> Lines)
{
    /// <summary>Numbers that stand in it, each in the middle of its point.</summary>
    public IReadOnlyList<(DossierPoint At, int Number)> Numbers { get; init; } = [];
}

/// <summary>Drawings side by side, all to one scale.</summary>
/// <param name="Caption">How they are to be read.</param>
public sealed record DossierDrawings(Fact Caption, IReadOnlyList<DossierDrawing> Drawings) : DossierBlock
{
    /// <summary>Width and height of each, in its own units.</summary>
    public const double Size = 100;
}

/// <summary>Draws what was measured, so that two states of a part can be seen side by side. Knows no paper.</summary>
internal static class DossierDraughtsman
{
    private const double Half = DossierDrawings.Size / 2;

    /// <summary>Where the unworn wall stands, from the middle.</summary>
    private const double Wall = 28;

    /// <summary>How far the widest swell of a set bulges.</summary>
    private const double Swell = 16;

    private const double Above = 8;
    private const double Below = 92;

    /// <summary>The rim of a piston, and how far its rings lie within each other.</summary>
    private const double Crown = 46;

    private const double RingPitch = 10;
    private const int Facets = 72;

    /// <summary>
    /// Bores or journals cut open along their axis, what is worn drawn large and alike in all of them. The last direction is drawn as the part and
    /// the others beside it; a dotted line is the size that all swell from.
    /// </summary>
    /// <returns>Null where nothing was measured at two stations or more.</returns>
    public static DossierDrawings? Profiles(IReadOnlyList<Profile> profiles, Func<Profile, Fact> title, Func<Profile, Fact> alternative)
    {
        Profile[] drawn = [.. profiles.Where(p => p.Stations.Count > 1 && p.Values.SelectMany(v => v).OfType<double>().Any())];
        double[] all = [.. drawn.SelectMany(p => p.Values).SelectMany(v => v).OfType<double>()];
        if (all.Length == 0)
        {
            return null;
        }

        var from = Math.Min(all.Min(), drawn.Min(p => p.Unworn ?? double.MaxValue));
        var span = all.Max() - from;
        return span <= 0
            ? null
            : new DossierDrawings(
                Fact.Of("dossier.drawn.profiles", ("swell", Amount.Length((decimal)span, Places))),
                [.. drawn.Select(p => new DossierDrawing(title(p), alternative(p), [.. Guides, .. Walls(p, from, span)]))]
            );
    }

    /// <summary>Gaps of a piston’s rings, seen on the crown with the free end up: a mark where each was put, a dot where it was found.</summary>
    public static DossierDrawing Clock(RingPack pack, Fact title) =>
        new(
            title,
            pack.Words,
            [
                new DossierLine(Arc(Crown, 0, 360), DossierPen.Part),
                new DossierLine([At(Crown, 0), At(Crown - 5, 0)], DossierPen.Part),
                .. pack.Rings.SelectMany((ring, i) => Ring(ring, Crown - (RingPitch * (i + 1)))),
            ]
        );

    /// <summary>
    /// Clearances of one kind as they lie upon one another: housing, shell, clearance, journal, shell, housing. The clearance is drawn large and alike in
    /// all of them; a blue dashed line is the most that it may be.
    /// </summary>
    /// <returns>Null where none was measured.</returns>
    public static DossierDrawings? Clearances(
        IReadOnlyList<SheetFigure> clearances,
        Func<SheetFigure, Fact> title,
        Func<SheetFigure, Fact> alternative
    )
    {
        var widest = clearances.Select(f => Math.Max(f.Value, f.Limit?.ServiceMost ?? 0)).DefaultIfEmpty().Max();
        return widest <= 0
            ? null
            : new DossierDrawings(
                Fact.Of("dossier.drawn.clearances"),
                [.. clearances.Select(f => new DossierDrawing(title(f), alternative(f), [.. Stacked(f, widest)]))]
            );
    }

    /// <summary>How high the widest clearance of a set is drawn, and shells and what holds them.</summary>
    private const double WidestClearance = 36;

    private const double ShellThick = 7;
    private const double HousingThick = 9;

    private static IEnumerable<DossierLine> Stacked(SheetFigure clearance, double widest)
    {
        var (left, right) = (Above, Below);
        var top = Above + HousingThick + ShellThick;
        double At(double value) => top + (WidestClearance * Math.Max(0, value) / widest);
        DossierLine Across(double y, DossierPen pen, double beyond = 0) => new([new(left - beyond, y), new(right + beyond, y)], pen);
        yield return new DossierLine([new(left, Above), new(right, Above), new(right, Below), new(left, Below), new(left, Above)], DossierPen.Guide);
        foreach (var y in new[] { Above + HousingThick, top, At(clearance.Value), Below - HousingThick - ShellThick, Below - HousingThick })
        {
            yield return Across(y, DossierPen.Part);
        }

        yield return new DossierLine([new(Half, top), new(Half, At(clearance.Value))], DossierPen.Part);
        if (clearance.Limit?.ServiceMost is { } most)
        {
            yield return Across(At(most), DossierPen.Other, Above / 2);
        }
    }

    /// <summary>Layers upon one another, the outermost on top and number one; more of a thing in one layer are as many sheets.</summary>
    public static DossierDrawing Stack(IReadOnlyList<StowItem> layers, Fact title, Fact alternative)
    {
        var thick = Math.Min(ThickestLayer, (Below - Above) / Math.Max(1, layers.Count));
        var top = Half - (thick * layers.Count / 2);
        return new DossierDrawing(title, alternative, [.. layers.SelectMany((layer, i) => Layer(top + (thick * i), thick - LayerGap, layer.Count))])
        {
            Numbers = [.. layers.Select((_, i) => (new DossierPoint(Above, top + (thick * (i + 0.5))), i + 1))],
        };
    }

    private const double ThickestLayer = 14;
    private const double LayerGap = 1.5;

    /// <summary>Sheets of a layer beyond which no more are drawn: they would be one black bar.</summary>
    private const int MostSheets = 4;

    private static IEnumerable<DossierLine> Layer(double top, double thick, int count)
    {
        var (left, right) = (2 * Above, Below);
        yield return new DossierLine(
            [new(left, top), new(right, top), new(right, top + thick), new(left, top + thick), new(left, top)],
            DossierPen.Part
        );
        var sheets = Math.Clamp(count, 1, MostSheets);
        for (var i = 1; i < sheets; i++)
        {
            var y = top + (thick * i / sheets);
            yield return new DossierLine([new(left, y), new(right, y)], DossierPen.Guide);
        }
    }

    /// <summary>Places behind the point in which a swell is told, mm.</summary>
    private const int Places = 3;

    private static IEnumerable<DossierLine> Guides =>
        new[] { Half - Wall, Half + Wall }.Select(x => new DossierLine([new(x, Above - 4), new(x, Below + 4)], DossierPen.Guide));

    private static IEnumerable<DossierLine> Walls(Profile profile, double from, double span)
    {
        for (var d = 0; d < profile.Directions.Count; d++)
        {
            DossierPoint[] right =
            [
                .. profile
                    .Values.Select((row, s) => (Value: d < row.Count ? row[d] : null, Station: s))
                    .Where(v => v.Value is not null)
                    .Select(v => new DossierPoint(
                        Half + Wall + (Swell * (v.Value!.Value - from) / span),
                        Above + ((Below - Above) * v.Station / (profile.Stations.Count - 1))
                    )),
            ];
            if (right.Length > 1)
            {
                var pen = d == profile.Directions.Count - 1 ? DossierPen.Part : DossierPen.Other;
                yield return new DossierLine(right, pen);
                yield return new DossierLine([.. right.Select(p => p with { X = DossierDrawings.Size - p.X })], pen);
            }
        }
    }

    private static IEnumerable<DossierLine> Ring(RingDrift ring, double radius)
    {
        yield return new DossierLine(Arc(radius, 0, 360), DossierPen.Guide);
        if (ring.Put is { } put)
        {
            yield return new DossierLine([At(radius - 4, put), At(radius + 4, put)], DossierPen.Part);
            if (ring.Drift is { } drift)
            {
                yield return new DossierLine(Arc(radius, put, drift), DossierPen.Other);
            }
        }

        if (ring.Found is { } found)
        {
            yield return new DossierLine([At(radius, found)], DossierPen.Other);
        }
    }

    /// <param name="from">Degrees, clockwise from the top.</param>
    private static DossierPoint[] Arc(double radius, double from, double over)
    {
        var steps = Math.Max(1, (int)Math.Ceiling(Math.Abs(over) * Facets / 360));
        return [.. Enumerable.Range(0, steps + 1).Select(i => At(radius, from + (over * i / steps)))];
    }

    private static DossierPoint At(double radius, double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        return new DossierPoint(Half + (radius * sin), Half - (radius * cos));
    }
}
