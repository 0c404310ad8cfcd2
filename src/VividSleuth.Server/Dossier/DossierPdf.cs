using System.Globalization;
using PdfSharp.Drawing;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Look;
using VividSleuth.Words;

namespace VividSleuth.Server.Dossier;

/// <summary>A dossier on paper.</summary>
internal static class DossierPdf
{
    /// <summary>Width of what is written, mm.</summary>
    private const double Wide = 176;

    /// <summary>Columns beyond which letters are smaller.</summary>
    private const int Many = 5;

    /// <param name="jpeg">Pictures for the screen, by photograph; one that is not there is told by its caption alone.</param>
    /// <param name="told">Told how much of it is done, as a share, each time that a hundredth more is.</param>
    public static byte[] Of(
        DossierPaper dossier,
        IReadOnlyDictionary<Guid, byte[]> jpeg,
        PaperSize size,
        Sentences sentences,
        Action<double>? told = null
    )
    {
        var (done, all) = (0, dossier.Blocks.Sum(Weight));
        void Done(int weight)
        {
            var before = 100 * done / Math.Max(1, all);
            done += weight;
            if (100 * done / Math.Max(1, all) > before)
            {
                told?.Invoke(done / (double)all);
            }
        }

        using var paper = new Paper(
            sentences.Say(dossier.Title),
            size,
            new DateTimeOffset(dossier.Day, TimeOnly.MinValue, TimeSpan.Zero),
            sentences.Tag
        );
        paper.Paragraph(sentences.Say(dossier.Under));
        foreach (var block in dossier.Blocks)
        {
            switch (block)
            {
                case DossierHeading heading:
                    paper.Heading(sentences.Say(heading.Text), heading.Level);
                    break;
                case DossierText text:
                    paper.Paragraph(sentences.Say(text.Text), text.Strong);
                    break;
                case DossierList list:
                    paper.Bullets(list.Items.Select(sentences.Say));
                    break;
                case DossierTable table:
                    Table(paper, table, sentences, () => Done(1));
                    break;
                case DossierDrawings drawings:
                    paper.Drawings([
                        .. drawings.Drawings.Select(d => new PaperDrawing(
                            sentences.Say(d.Title),
                            sentences.Say(d.Alternative),
                            (page, at) => Draw(page, at, d)
                        )),
                    ]);
                    paper.Paragraph(sentences.Say(drawings.Caption));
                    break;
                case DossierPictures pictures:
                    paper.Pictures([
                        .. pictures
                            .Pictures.Where(p => jpeg.ContainsKey(p.Photo.Id))
                            .Select(p => new PaperPicture(
                                jpeg[p.Photo.Id],
                                sentences.Say(p.Caption),
                                sentences.Say(p.Alternative),
                                (page, at) => Draw(page, at, p.Marks)
                            )),
                    ]);
                    break;
                default:
                    throw new ArgumentOutOfRangeException(nameof(dossier), block, null);
            }

            Done(block is DossierTable ? 1 : Weight(block));
        }

        return paper.Save();
    }

    /// <summary>What a block takes, in rows of a table.</summary>
    private static int Weight(DossierBlock block) =>
        block switch
        {
            DossierTable table => table.Rows.Count + 1,
            DossierPictures pictures => WeightOfAPicture * pictures.Pictures.Count,
            DossierDrawings drawings => drawings.Drawings.Count,
            _ => 1,
        };

    private const int WeightOfAPicture = 10;

    private static void Table(Paper paper, DossierTable table, Sentences sentences, Action done)
    {
        using var on = paper.Table([.. table.Columns.Select(c => (c.Width * Wide, sentences.Say(c.Name)))], table.Columns.Count > Many ? 7.5 : 8.5);
        foreach (var row in table.Rows)
        {
            on.Row([.. row.Cells.Select(sentences.Say)], row.Mark, row.To);
            done();
        }
    }

    private static void Draw(XGraphics page, XRect at, DossierDrawing drawing)
    {
        var scale = at.Width / DossierDrawings.Size;
        XPoint On(DossierPoint p) => new(at.X + (p.X * scale), at.Y + (p.Y * scale));
        var font = new XFont(ShippedFonts.Plain, 9 * scale);
        foreach (var (point, number) in drawing.Numbers)
        {
            page.DrawString(number.ToString(CultureInfo.InvariantCulture), font, XBrushes.Black, On(point), XStringFormats.Center);
        }

        foreach (var line in drawing.Lines)
        {
            XPoint[] points = [.. line.Points.Select(On)];
            if (points is [var dot])
            {
                page.DrawEllipse(XBrushes.DarkBlue, dot.X - 1.8, dot.Y - 1.8, 3.6, 3.6);
            }
            else
            {
                page.DrawLines(
                    line.Pen switch
                    {
                        DossierPen.Part => new XPen(XColors.Black, 1.2),
                        DossierPen.Other => new XPen(XColors.DarkBlue, 1) { DashStyle = XDashStyle.Dash },
                        _ => new XPen(XColors.Gray, 0.5),
                    },
                    points
                );
            }
        }
    }

    /// <summary>Marks as they lie over the picture on the screen: dark beneath and bright above, so that they are seen on any ground.</summary>
    private static void Draw(XGraphics page, XRect at, IReadOnlyList<PhotoMark> marks)
    {
        foreach (var mark in marks)
        {
            var (from, to) = (At(mark.X1, mark.Y1), At(mark.X2, mark.Y2));
            foreach (var pen in new[] { new XPen(XColors.Black, 2.4), new XPen(XColors.Gold, 1.2) })
            {
                if (mark.Kind == PhotoMarkKind.Ring)
                {
                    var r = Math.Sqrt(((to.X - from.X) * (to.X - from.X)) + ((to.Y - from.Y) * (to.Y - from.Y)));
                    page.DrawEllipse(pen, from.X - r, from.Y - r, 2 * r, 2 * r);
                }
                else
                {
                    page.DrawLine(pen, from, to);
                    if (mark.Kind == PhotoMarkKind.Arrow)
                    {
                        Head(page, pen, from, to);
                    }
                }
            }

            if (mark.Label.Length > 0)
            {
                var font = new XFont(ShippedFonts.Plain, 7, XFontStyleEx.Bold);
                var size = page.MeasureString(mark.Label, font);
                // Within the picture: its neighbour has marks of its own.
                var (x, y) = (Math.Clamp(from.X, at.Left, Math.Max(at.Left, at.Right - size.Width - 3)), Math.Max(from.Y, at.Top + size.Height));
                page.DrawRectangle(XBrushes.Black, x, y - size.Height, size.Width + 3, size.Height + 1);
                page.DrawString(mark.Label, font, XBrushes.White, x + 1.5, y - 1.5);
            }
        }

        XPoint At(double x, double y) => new(at.X + (x * at.Width), at.Y + (y * at.Height));
    }

    private static void Head(XGraphics page, XPen pen, XPoint from, XPoint to)
    {
        const double Long = 6;
        const double Open = 0.45;
        var angle = Math.Atan2(from.Y - to.Y, from.X - to.X);
        foreach (var side in new[] { -Open, Open })
        {
            page.DrawLine(pen, to, new XPoint(to.X + (Long * Math.Cos(angle + side)), to.Y + (Long * Math.Sin(angle + side))));
        }
    }
}
