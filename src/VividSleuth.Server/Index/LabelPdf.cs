using PdfSharp.Drawing;
using PdfSharp.Pdf;
using QRCoder;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Words;

namespace VividSleuth.Server.Index;

/// <summary>Draws labels as a PDF: address in figures that cannot be confused, 6 and 9 underlined, the case, a QR code.</summary>
public static class LabelPdf
{
    private const string Mono = ShippedFonts.Mono;
    private const string Plain = ShippedFonts.Plain;
    private const double PointsPerMm = 72 / 25.4;

    static LabelPdf()
    {
        ShippedFonts.Use();
    }

    /// <param name="codeOf">What the QR code of a label says.</param>
    /// <param name="caseTitle">Whose it is: the case, or the shelf.</param>
    public static byte[] Draw(
        LabelPage page,
        IReadOnlyList<Label> labels,
        Func<string, string> codeOf,
        string prefix,
        string caseTitle,
        Sentences sentences
    )
    {
        using var document = new PdfDocument();
        // Compressed streams of this library end without their checksum, of which strict readers complain.
        document.Options.NoCompression = true;
        document.Options.CompressContentStreams = false;
        document.Info.Title = sentences.Say(Fact.Of("server.labels-of", ("case", caseTitle)));
        foreach (var some in labels.Chunk(page.PerPage))
        {
            var paper = document.AddPage();
            paper.Width = XUnit.FromMillimeter(page.PageWidth);
            paper.Height = XUnit.FromMillimeter(page.PageHeight);
            using var graphics = XGraphics.FromPdfPage(paper);
            for (var i = 0; i < some.Length; i++)
            {
                var (x, y) = page.At(i);
                DrawLabel(graphics, page, x * PointsPerMm, y * PointsPerMm, some[i], codeOf(some[i].Code), prefix, caseTitle, sentences);
            }
        }

        using var to = new MemoryStream();
        document.Save(to, closeStream: false);
        return to.ToArray();
    }

    private static void DrawLabel(
        XGraphics graphics,
        LabelPage page,
        double x,
        double y,
        Label label,
        string code,
        string prefix,
        string caseTitle,
        Sentences sentences
    )
    {
        var (w, h) = (page.Width * PointsPerMm, page.Height * PointsPerMm);
        var margin = Math.Min(h * 0.1, 6);
        var side = Math.Min(h - (2 * margin), w * 0.42);
        DrawQr(graphics, x + w - margin - side, y + ((h - side) / 2), side, code);

        var room = w - side - (3 * margin);
        var tall = h > 40;
        var mark = TagCode.Mark(prefix, label.Code);
        var size = Fit(graphics, mark, room, tall ? h * 0.5 : h * 0.72);
        var font = new XFont(Mono, size, XFontStyleEx.Bold);
        var baseline = tall ? y + margin + (size * 0.8) : y + (h / 2) + (size * 0.33);
        graphics.DrawString(mark, font, XBrushes.Black, x + margin, baseline);
        UnderlineSixAndNine(graphics, mark, font, x + margin, baseline, size);
        if (tall)
        {
            var small = new XFont(Plain, Math.Min(8, h * 0.11));
            var top = baseline + (size * 0.22) + small.Size;
            graphics.DrawString(Cut(graphics, sentences.Say(label.Words), small, room), small, XBrushes.Black, x + margin, top);
            graphics.DrawString(Cut(graphics, caseTitle, small, room), small, XBrushes.Black, x + margin, top + (small.Size * 1.2));
        }
    }

    private static void UnderlineSixAndNine(XGraphics graphics, string code, XFont font, double x, double baseline, double size)
    {
        var pen = new XPen(XColors.Black, Math.Max(0.8, size * 0.06));
        for (var i = 0; i < code.Length; i++)
        {
            if (code[i] is '6' or '9')
            {
                var from = x + graphics.MeasureString(code[..i], font).Width;
                graphics.DrawLine(
                    pen,
                    from,
                    baseline + (size * 0.12),
                    from + graphics.MeasureString(code[i..(i + 1)], font).Width,
                    baseline + (size * 0.12)
                );
            }
        }
    }

    private static void DrawQr(XGraphics graphics, double x, double y, double side, string text)
    {
        using var code = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var matrix = code.ModuleMatrix;
        var module = side / matrix.Count;
        for (var row = 0; row < matrix.Count; row++)
        {
            for (var column = 0; column < matrix.Count; column++)
            {
                // Runs of dark modules as one bar: a tenth of the size, and no hairlines between.
                var end = column;
                while (end < matrix.Count && matrix[row][end])
                {
                    end++;
                }

                if (end > column)
                {
                    graphics.DrawRectangle(XBrushes.Black, x + (column * module), y + (row * module), (end - column) * module, module);
                    column = end;
                }
            }
        }
    }

    private static double Fit(XGraphics graphics, string text, double room, double most)
    {
        var width = graphics.MeasureString(text, new XFont(Mono, 100, XFontStyleEx.Bold)).Width / 100;
        return Math.Min(most, room / width);
    }

    private static string Cut(XGraphics graphics, string text, XFont font, double room)
    {
        var cut = text;
        while (cut.Length > 1 && graphics.MeasureString(cut, font).Width > room)
        {
            cut = cut[..^2] + "…";
        }

        return cut;
    }
}
