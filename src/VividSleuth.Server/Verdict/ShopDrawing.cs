using PdfSharp.Drawing;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using VividSleuth.Words;

namespace VividSleuth.Server.Verdict;

/// <summary>A dimensioned sketch for a line of work, not to scale: a journal, a bore, or a face, with the sizes that the line asks for.</summary>
/// <param name="title">Which line it belongs to.</param>
/// <param name="sizes">Where each place is now, and where it is to go.</param>
internal sealed class ShopDrawing(
    ShopDrawing.Shape shape,
    string title,
    string dimension,
    IReadOnlyList<string> notes,
    IReadOnlyList<string> columns,
    IReadOnlyList<IReadOnlyList<string>> sizes
)
{
    internal enum Shape
    {
        Journal,
        Bore,
        Face,
    }

    private const double Mm = 72 / 25.4;
    private static readonly string[] Columns = ["place", "now", "to", "piston"];
    private static readonly XPen Thick = new(XColors.Black, 1.4);
    private static readonly XPen Thin = new(XColors.Black, 0.5);
    private static readonly XPen Centre = new(XColors.Black, 0.5) { DashStyle = XDashStyle.DashDot };

    /// <summary>One for each line whose size is a diameter or a height.</summary>
    public static IReadOnlyList<ShopDrawing> Of(CaseReader reader, IEnumerable<OrderLine> lines, Sentences sentences) =>
        [.. lines.Select((line, i) => Of(reader, line, i + 1, sentences)).OfType<ShopDrawing>()];

    private static ShopDrawing? Of(CaseReader reader, OrderLine line, int number, Sentences sentences)
    {
        var sized = line.Wants.Where(w => ShapeOf(w.Characteristic) is not null).ToArray();
        if (sized.Length == 0)
        {
            return null;
        }

        var shape = ShapeOf(sized[0].Characteristic)!.Value;
        var wants = sized.Where(w => ShapeOf(w.Characteristic) == shape).ToArray();
        var plan = reader.Plans.FirstOrDefault(p => p.Course == line.Course && line.Places.Exists(c => p.Places.Any(x => x.Place == c)));
        var same = wants.Select(w => (w.Least, w.Most)).Distinct().Count() == 1;
        var rows = line
            .Places.Select(code => (Code: code, Want: Array.Find(wants, w => w.Of == code) ?? wants.FirstOrDefault(w => IsOf(reader, w, code))))
            .Where(x => x.Want is not null)
            .Select(x =>
                (IReadOnlyList<string>)
                    [
                        x.Code,
                        plan?.Places.FirstOrDefault(p => p.Place == x.Code) is { } now && shape != Shape.Face
                            ? sentences.Say(Amount.Length(now.Found))
                            : "",
                        Range(x.Want!, sentences),
                        plan?.Hone.FirstOrDefault(h => h.Bore == x.Code)?.Piston ?? "",
                    ]
            )
            .ToArray();
        return new ShopDrawing(
            shape,
            sentences.Say(Fact.Of("server.shop-order-line", ("number", number), ("what", line.What))),
            same
                ? sentences.Say(
                    Fact.Of(shape == Shape.Face ? "server.drawing-height" : "server.drawing-diameter", ("size", Range(wants[0], sentences)))
                )
                : sentences.Say(Fact.Of("server.drawing-by-table")),
            [
                .. NotesOf(shape).Select(code => sentences.Say(Fact.Of(code))),
                .. plan?.Removes is { } off
                    ? [sentences.Say(Fact.Of("server.drawing-takes-off", ("size", Amount.Length(off))))]
                    : Array.Empty<string>(),
                .. wants.Any(w => w.Thumb) ? [sentences.Say(Fact.Of("server.drawing-thumb"))] : Array.Empty<string>(),
                sentences.Say(Fact.Of("server.drawing-not-to-scale")),
            ],
            [.. Columns.Select(c => sentences.Say(Fact.Of($"word.order-column.{c}")))],
            rows
        );
    }

    private static bool IsOf(CaseReader reader, WantedFigure want, string code) => reader.Table.Find(code)?.Kind.Id == want.Of;

    private static string Range(WantedFigure want, Sentences sentences) =>
        sentences.Say(
            Fact.Of(
                want.Least is null ? "server.drawing-at-most"
                    : want.Most is null ? "server.drawing-at-least"
                    : "server.drawing-range",
                ("least", want.Least is { } least ? Amount.Length(least) : null),
                ("most", want.Most is { } most ? Amount.Length(most) : null)
            )
        );

    private static Shape? ShapeOf(string characteristic) =>
        characteristic switch
        {
            Characteristics.PinDiameter or Characteristics.MainDiameter => Shape.Journal,
            Characteristics.BoreDiameter => Shape.Bore,
            Characteristics.HeadThickness or Characteristics.BlockDeck => Shape.Face,
            _ => null,
        };

    private static string[] NotesOf(Shape shape) =>
        shape switch
        {
            Shape.Journal => ["server.drawing-fillets", "server.drawing-oil-holes"],
            Shape.Bore => ["server.drawing-finish", "server.drawing-edge"],
            _ => ["server.drawing-face"],
        };

    public void DrawOn(XGraphics g)
    {
        var bold = new XFont(ShippedFonts.Plain, 13, XFontStyleEx.Bold);
        var plain = new XFont(ShippedFonts.Plain, 10);
        g.DrawString(title, bold, XBrushes.Black, 17 * Mm, 22 * Mm);
        switch (shape)
        {
            case Shape.Journal:
                Journal(g);
                break;
            case Shape.Bore:
                Bore(g);
                break;
            default:
                Face(g);
                break;
        }

        var y = 138 * Mm;
        foreach (var note in notes)
        {
            g.DrawString(note, plain, XBrushes.Black, 17 * Mm, y);
            y += 5.2 * Mm;
        }

        Sizes(g, y + (4 * Mm), plain);
    }

    private void Sizes(XGraphics g, double y, XFont plain)
    {
        var head = new XFont(ShippedFonts.Plain, 10, XFontStyleEx.Bold);
        double[] at = [17, 47, 87, 147];
        Row(columns, head);
        foreach (var row in sizes.Take(18))
        {
            Row(row, plain);
        }

        void Row(IReadOnlyList<string> cells, XFont font)
        {
            for (var i = 0; i < cells.Count; i++)
            {
                g.DrawString(i == 3 && sizes.All(s => s[3].Length == 0) ? "" : cells[i], font, XBrushes.Black, at[i] * Mm, y);
            }

            g.DrawLine(Thin, 17 * Mm, y + (1.6 * Mm), 193 * Mm, y + (1.6 * Mm));
            y += 6 * Mm;
        }
    }

    /// <summary>A journal between its webs, from the side.</summary>
    private void Journal(XGraphics g)
    {
        double left = 70 * Mm,
            right = 140 * Mm,
            top = 62 * Mm,
            bottom = 98 * Mm,
            fillet = 4 * Mm;
        Hatch(g, new XRect(left - (18 * Mm), 42 * Mm, 18 * Mm, 76 * Mm));
        Hatch(g, new XRect(right, 42 * Mm, 18 * Mm, 76 * Mm));
        foreach (var (y, sign) in new[] { (top, 1.0), (bottom, -1.0) })
        {
            g.DrawLine(Thick, left + fillet, y, right - fillet, y);
            // The radius runs from the web into the journal.
            g.DrawBezier(Thick, left, y - (sign * fillet), left, y, left, y, left + fillet, y);
            g.DrawBezier(Thick, right, y - (sign * fillet), right, y, right, y, right - fillet, y);
        }

        g.DrawLine(Centre, 45 * Mm, 80 * Mm, 165 * Mm, 80 * Mm);
        g.DrawEllipse(Thin, 102 * Mm, 76.5 * Mm, 7 * Mm, 7 * Mm);
        Vertical(g, 118 * Mm, top, bottom);
    }

    /// <summary>A cylinder cut along its axis.</summary>
    private void Bore(XGraphics g)
    {
        double left = 75 * Mm,
            right = 135 * Mm,
            top = 45 * Mm,
            bottom = 120 * Mm;
        Hatch(g, new XRect(left - (11 * Mm), top, 11 * Mm, bottom - top));
        Hatch(g, new XRect(right, top, 11 * Mm, bottom - top));
        g.DrawLine(Thick, left, top, right, top);
        g.DrawLine(Thin, left, bottom, right, bottom);
        g.DrawLine(Centre, 105 * Mm, top - (5 * Mm), 105 * Mm, bottom + (5 * Mm));
        // Honing marks cross.
        for (var i = 0; i < 5; i++)
        {
            var y = (54 + (13 * i)) * Mm;
            g.DrawLine(Thin, left + (2 * Mm), y, left + (12 * Mm), y + (6 * Mm));
            g.DrawLine(Thin, left + (2 * Mm), y + (6 * Mm), left + (12 * Mm), y);
        }

        Horizontal(g, 84 * Mm, left, right);
    }

    /// <summary>A head or block from the side, the worked face on top.</summary>
    private void Face(XGraphics g)
    {
        double left = 60 * Mm,
            right = 150 * Mm,
            top = 62 * Mm,
            bottom = 106 * Mm;
        Hatch(g, new XRect(left, top, right - left, bottom - top));
        g.DrawLine(new XPen(XColors.Black, 2.6), left, top, right, top);
        // The mark of a machined face stands on it.
        g.DrawLines(Thin, [new(98 * Mm, 55 * Mm), new(102 * Mm, top), new(110 * Mm, 48 * Mm)]);
        g.DrawLine(Thin, 98 * Mm, 55 * Mm, 106 * Mm, 55 * Mm);
        g.DrawLine(Thin, right, top, right + (14 * Mm), top);
        g.DrawLine(Thin, right, bottom, right + (14 * Mm), bottom);
        Vertical(g, right + (10 * Mm), top, bottom, beside: true);
    }

    private void Vertical(XGraphics g, double x, double top, double bottom, bool beside = false)
    {
        g.DrawLine(Thin, x, top, x, bottom);
        Arrow(g, x, top, 0, 1);
        Arrow(g, x, bottom, 0, -1);
        var font = new XFont(ShippedFonts.Plain, 11, XFontStyleEx.Bold);
        var size = g.MeasureString(dimension, font);
        // Under the journal, where there is room for it, with a line to it; beside a face that stands at the edge.
        var at = beside ? new XPoint(193 * Mm - size.Width, bottom + (9 * Mm)) : new XPoint(105 * Mm - (size.Width / 2), 129 * Mm);
        g.DrawLine(Thin, x, bottom, x, at.Y - size.Height);
        g.DrawString(dimension, font, XBrushes.Black, at);
    }

    private void Horizontal(XGraphics g, double y, double left, double right)
    {
        g.DrawLine(Thin, left, y, right, y);
        Arrow(g, left, y, 1, 0);
        Arrow(g, right, y, -1, 0);
        var font = new XFont(ShippedFonts.Plain, 11, XFontStyleEx.Bold);
        var size = g.MeasureString(dimension, font);
        var x = ((left + right) / 2) - (size.Width / 2);
        g.DrawRectangle(XBrushes.White, x - 2, y - size.Height - 1, size.Width + 4, size.Height);
        g.DrawString(dimension, font, XBrushes.Black, x, y - 3);
    }

    private static void Arrow(XGraphics g, double x, double y, double dx, double dy)
    {
        const double Long = 3 * Mm;
        const double Half = 0.8 * Mm;
        g.DrawPolygon(
            XBrushes.Black,
            [
                new(x, y),
                new(x + (dx * Long) + (dy * Half), y + (dy * Long) + (dx * Half)),
                new(x + (dx * Long) - (dy * Half), y + (dy * Long) - (dx * Half)),
            ],
            XFillMode.Winding
        );
    }

    private static void Hatch(XGraphics g, XRect of)
    {
        var state = g.Save();
        g.IntersectClip(of);
        for (var x = of.Left - of.Height; x < of.Right; x += 3 * Mm)
        {
            g.DrawLine(Thin, x, of.Bottom, x + of.Height, of.Top);
        }

        g.Restore(state);
        g.DrawRectangle(Thick, of);
    }
}
