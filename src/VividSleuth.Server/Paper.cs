using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace VividSleuth.Server;

/// <summary>A document on A4 that flows down the page and on to the next: headings, paragraphs, tables, drawings.</summary>
internal sealed class Paper : IDisposable
{
    private const double Mm = 72 / 25.4;
    private const double Left = 17 * Mm;
    private const double Width = 176 * Mm;
    private const double Top = 18 * Mm;
    private const double Bottom = 279 * Mm;
    private const double Leading = 1.28;

    private readonly PdfDocument _document = new();
    private readonly string _title;
    private XGraphics? _page;
    private double _y;

    public Paper(string title)
    {
        ShippedFonts.Use();
        _title = title;
        _document.Info.Title = title;
        // Compressed streams of this library end without their checksum, of which strict readers complain.
        _document.Options.NoCompression = true;
        _document.Options.CompressContentStreams = false;
        Text(title, new XFont(ShippedFonts.Plain, 17, XFontStyleEx.Bold), before: 0, keep: 0);
    }

    public void Heading(string text) => Text(text, new XFont(ShippedFonts.Plain, 12, XFontStyleEx.Bold), before: 5 * Mm, keep: 18 * Mm);

    public void Paragraph(string text) => Text(text, new XFont(ShippedFonts.Plain, 10), before: 1.2 * Mm, keep: 0);

    /// <param name="columns">Width in mm, together 176, and heading.</param>
    public PaperTable Table(IReadOnlyList<(double Width, string Heading)> columns)
    {
        _y += 2 * Mm;
        return new PaperTable(this, columns);
    }

    /// <summary>A fresh page to draw on; what is told next begins another.</summary>
    public XGraphics NewPage()
    {
        var page = Begin();
        _y = Bottom;
        return page;
    }

    public byte[] Save()
    {
        _page?.Dispose();
        using var to = new MemoryStream();
        _document.Save(to, closeStream: false);
        return to.ToArray();
    }

    public void Dispose()
    {
        _page?.Dispose();
        _document.Dispose();
    }

    /// <summary>Writes cells side by side, each broken into lines within its width.</summary>
    /// <returns>False where there is no room left: nothing is written, and the page is a new one.</returns>
    internal bool Row(IReadOnlyList<double> widths, IReadOnlyList<string> cells, XFont font)
    {
        const double Gap = 2 * Mm;
        var page = _page!;
        var lines = cells.Select((cell, i) => Lines(page, cell, font, (widths[i] * Mm) - Gap)).ToArray();
        var height = (lines.Max(l => l.Count) * font.Size * Leading) + (1.6 * Mm);
        if (_y + height > Bottom && height < Bottom - Top)
        {
            Begin();
            return false;
        }

        var x = Left;
        for (var i = 0; i < lines.Length; i++)
        {
            for (var n = 0; n < lines[i].Count; n++)
            {
                page.DrawString(lines[i][n], font, XBrushes.Black, x, _y + (font.Size * (1 + (n * Leading))));
            }

            x += widths[i] * Mm;
        }

        _y += height;
        page.DrawLine(new XPen(XColors.Gray, 0.4), Left, _y, Left + Width, _y);
        _y += 0.8 * Mm;
        return true;
    }

    private void Text(string text, XFont font, double before, double keep)
    {
        var page = _page ?? Begin();
        _y += before;
        foreach (var line in Lines(page, text, font, Width))
        {
            if (_y + (font.Size * Leading) + keep > Bottom)
            {
                page = Begin();
            }

            page.DrawString(line, font, XBrushes.Black, Left, _y + font.Size);
            _y += font.Size * Leading;
        }
    }

    private XGraphics Begin()
    {
        _page?.Dispose();
        var paper = _document.AddPage();
        paper.Width = XUnit.FromMillimeter(210);
        paper.Height = XUnit.FromMillimeter(297);
        _page = XGraphics.FromPdfPage(paper);
        _page.DrawString($"{_title}  ·  {_document.PageCount}", new XFont(ShippedFonts.Plain, 8), XBrushes.Gray, Left, 288 * Mm);
        _y = Top;
        return _page;
    }

    private static List<string> Lines(XGraphics page, string text, XFont font, double room)
    {
        var lines = new List<string>();
        var line = "";
        foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries).SelectMany(w => Fitting(page, w, font, room)))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && page.MeasureString(longer, font).Width > room)
            {
                lines.Add(line);
                longer = word;
            }

            line = longer;
        }

        lines.Add(line);
        return lines;
    }

    /// <summary>A word too long for its column in pieces that fit.</summary>
    private static IEnumerable<string> Fitting(XGraphics page, string word, XFont font, double room)
    {
        while (word.Length > 1 && page.MeasureString(word, font).Width > room)
        {
            var fits = word.Length - 1;
            while (fits > 1 && page.MeasureString(word[..fits], font).Width > room)
            {
                fits--;
            }

            yield return word[..fits];
            word = word[fits..];
        }

        yield return word;
    }
}

/// <summary>A table of a <see cref="Paper"/>; its heading stands again on each page.</summary>
internal sealed class PaperTable
{
    private readonly Paper _paper;
    private readonly double[] _widths;
    private readonly string[] _headings;
    private readonly XFont _plain = new(ShippedFonts.Plain, 9);
    private readonly XFont _bold = new(ShippedFonts.Plain, 9, XFontStyleEx.Bold);

    public PaperTable(Paper paper, IReadOnlyList<(double Width, string Heading)> columns)
    {
        (_paper, _widths, _headings) = (paper, [.. columns.Select(c => c.Width)], [.. columns.Select(c => c.Heading)]);
        Head();
    }

    public void Row(params string[] cells)
    {
        if (!_paper.Row(_widths, cells, _plain))
        {
            Head();
            _paper.Row(_widths, cells, _plain);
        }
    }

    private void Head()
    {
        if (!_paper.Row(_widths, _headings, _bold))
        {
            _paper.Row(_widths, _headings, _bold);
        }
    }
}
