using PdfSharp.Drawing;
using PdfSharp.Pdf;
using VividSleuth.Core;
using VividSleuth.Core.Pictures;
using VividSleuth.Words;

namespace VividSleuth.Server.Index;

/// <summary>The scale card as a PDF, in its true size, with a line to check by a caliper whether the printer kept it.</summary>
public static class CardPaper
{
    private const double PointsPerMm = 72 / 25.4;
    private const double CheckLine = 150;

    public static byte[] Draw(int number, Sentences sentences)
    {
        ShippedFonts.Use();
        using var document = new PdfDocument();
        // Compressed streams of this library end without their checksum, of which strict readers complain.
        document.Options.NoCompression = true;
        document.Options.CompressContentStreams = false;
        document.Info.Title = sentences.Say(Fact.Of("pictures.card-title", ("number", number)));
        var paper = document.AddPage();
        (paper.Width, paper.Height) = (XUnit.FromMillimeter(210), XUnit.FromMillimeter(297));
        using var graphics = XGraphics.FromPdfPage(paper);
        // Twice: one is lost or oily sooner or later.
        Card(graphics, 25, 25, number, sentences);
        Card(graphics, 115, 25, number, sentences);
        var (plain, bold) = (new XFont(ShippedFonts.Plain, 10), new XFont(ShippedFonts.Plain, 11, XFontStyleEx.Bold));
        var y = 110.0;
        graphics.DrawString(sentences.Say(Fact.Of("pictures.card-check", ("length", CheckLine))), bold, XBrushes.Black, Mm(25), Mm(y));
        var pen = new XPen(XColors.Black, 0.6);
        graphics.DrawLine(pen, Mm(25), Mm(y + 8), Mm(25 + CheckLine), Mm(y + 8));
        graphics.DrawLine(pen, Mm(25), Mm(y + 5), Mm(25), Mm(y + 11));
        graphics.DrawLine(pen, Mm(25 + CheckLine), Mm(y + 5), Mm(25 + CheckLine), Mm(y + 11));
        foreach (
            var line in new[]
            {
                Fact.Of("pictures.card-print"),
                Fact.Of("pictures.card-lay"),
                Fact.Of("pictures.card-flat"),
                Fact.Of("pictures.card-light"),
            }
        )
        {
            y += 7;
            graphics.DrawString(sentences.Say(line), plain, XBrushes.Black, Mm(25), Mm(y + 12));
        }

        using var to = new MemoryStream();
        document.Save(to, closeStream: false);
        return to.ToArray();
    }

    /// <param name="left">Of its paper, in mm; its first dot lies a margin further.</param>
    private static void Card(XGraphics graphics, double left, double top, int number, Sentences sentences)
    {
        var (wide, high) = (
            ((ScaleCard.Columns - 1) * ScaleCard.Pitch) + (2 * ScaleCard.Margin),
            ((ScaleCard.Rows - 1) * ScaleCard.Pitch) + (2 * ScaleCard.Margin)
        );
        graphics.DrawRectangle(new XPen(XColors.Gray, 0.3) { DashStyle = XDashStyle.Dash }, Mm(left), Mm(top), Mm(wide), Mm(high + 8));
        foreach (var dot in ScaleCard.Dots(number))
        {
            var (x, y) = (left + ScaleCard.Margin + dot.At.X, top + ScaleCard.Margin + dot.At.Y);
            Disc(XBrushes.Black, x, y, ScaleCard.Across);
            if (dot.Hollow)
            {
                Disc(XBrushes.White, x, y, ScaleCard.Hole);
            }
        }

        graphics.DrawString(
            sentences.Say(Fact.Of("pictures.card-title", ("number", number))),
            new XFont(ShippedFonts.Plain, 9, XFontStyleEx.Bold),
            XBrushes.Black,
            Mm(left + ScaleCard.Margin - 2.5),
            Mm(top + high + 5)
        );
        void Disc(XBrush brush, double x, double y, double across) =>
            graphics.DrawEllipse(brush, Mm(x - (across / 2)), Mm(y - (across / 2)), Mm(across), Mm(across));
    }

    private static double Mm(double mm) => mm * PointsPerMm;
}
