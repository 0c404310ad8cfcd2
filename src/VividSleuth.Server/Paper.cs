using PdfSharp.Drawing;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Advanced;
using PdfSharp.UniversalAccessibility;
using PdfSharp.UniversalAccessibility.Drawing;

namespace VividSleuth.Server;

public enum PaperSize
{
    A4,
    Letter,
}

/// <summary>A picture on paper.</summary>
/// <param name="Jpeg">As it is kept for the screen.</param>
/// <param name="DrawOn">Draws marks over it, within the rectangle that it fills.</param>
internal sealed record PaperPicture(byte[] Jpeg, string Caption, string Alternative, Action<XGraphics, XRect>? DrawOn = null);

/// <summary>A small drawing on paper.</summary>
/// <param name="DrawOn">Draws it within a square.</param>
internal sealed record PaperDrawing(string Title, string Alternative, Action<XGraphics, XRect> DrawOn);

/// <summary>
/// A document that flows down the page and on to the next: headings, paragraphs, lists, tables, pictures. Tagged for whoever has it read out, with its
/// chapters as bookmarks, its fonts embedded, and numbered pages. The same content gives the same bytes.
/// </summary>
internal sealed class Paper : IDisposable
{
    private const double Mm = 72 / 25.4;
    private const double Width = 176 * Mm;
    private const double Top = 18 * Mm;
    private const double Leading = 1.28;

    /// <summary>Height of a picture at the most.</summary>
    private const double Tallest = 62 * Mm;

    private readonly PdfDocument _document = new();
    private readonly StructureBuilder _tags;
    private readonly string _title;
    private readonly (double Width, double Height) _size;
    private readonly List<PdfOutline> _chapters = [];
    private readonly List<(PdfPage Page, XRect At, string To)> _links = [];
    private readonly Dictionary<string, PdfPage> _marks = new(StringComparer.Ordinal);
    private readonly XFont _footer;
    private XGraphics? _page;
    private PdfPage? _paper;
    private double _y;
    private bool _drawing;

    /// <param name="made">When it was drawn up: what else a reader is told, and the bytes with it.</param>
    /// <param name="language">In which it is written.</param>
    public Paper(string title, PaperSize size = PaperSize.A4, DateTimeOffset? made = null, string language = "en")
    {
        ShippedFonts.Use();
        (_title, _footer) = (title, new XFont(ShippedFonts.Plain, 8));
        _size = size == PaperSize.A4 ? (210 * Mm, 297 * Mm) : (215.9 * Mm, 279.4 * Mm);
        _document.Info.Title = title;
        _document.Info.Creator = "Vivid Sleuth";
        if (made is { } at)
        {
            (_document.Info.CreationDate, _document.Info.ModificationDate) = (at.UtcDateTime, at.UtcDateTime);
        }

        // Compressed streams of this library end without their checksum, of which strict readers complain.
        _document.Options.NoCompression = true;
        _document.Options.CompressContentStreams = false;
        _document.ViewerPreferences.DisplayDocTitle = true;
        var accessible = UAManager.ForDocument(_document);
        accessible.SetDocumentLanguage(language);
        _tags = accessible.StructureBuilder;
        Begin();
        Text(title, new XFont(ShippedFonts.Plain, 17, XFontStyleEx.Bold), PdfBlockLevelElementTag.Heading1, before: 0, keep: 0);
    }

    private double Left => (_size.Width - Width) / 2;

    private double Bottom => _size.Height - (18 * Mm);

    /// <param name="level">1 is a chapter and a bookmark, 2 what stands in one.</param>
    public void Heading(string text, int level = 1)
    {
        var size = level == 1 ? 12 : 10.5;
        Text(
            text,
            new XFont(ShippedFonts.Plain, size, XFontStyleEx.Bold),
            level == 1 ? PdfBlockLevelElementTag.Heading2 : PdfBlockLevelElementTag.Heading3,
            before: (level == 1 ? 5 : 3) * Mm,
            // A chapter with the first of its sections, a section with the first rows of its table or its first drawings.
            keep: (level == 1 ? 52 : 36) * Mm
        );
        if (level == 1 || _chapters.Count == 0)
        {
            _chapters.Add(_document.Outlines.Add(text, _paper!, opened: true));
        }
        else
        {
            _chapters[^1].Outlines.Add(text, _paper!, opened: false);
        }
    }

    public void Paragraph(string text, bool strong = false) =>
        Text(
            text,
            new XFont(ShippedFonts.Plain, strong ? 11.5 : 10, strong ? XFontStyleEx.Bold : XFontStyleEx.Regular),
            PdfBlockLevelElementTag.Paragraph,
            before: 1.2 * Mm,
            keep: 0
        );

    public void Bullets(IEnumerable<string> items)
    {
        const double Indent = 5 * Mm;
        var font = new XFont(ShippedFonts.Plain, 10);
        _tags.BeginElement(PdfBlockLevelElementTag.List);
        foreach (var item in items)
        {
            _y += 0.8 * Mm;
            var lines = Lines(_page!, item, font, Width - Indent);
            Room(Math.Min(lines.Count * font.Size * Leading, Bottom - Top));
            _tags.BeginElement(PdfBlockLevelElementTag.ListItem);
            _tags.BeginElement(PdfBlockLevelElementTag.Label);
            Write("–", font, Left, _y + font.Size);
            _tags.End();
            Flow(lines, font, Left + Indent, PdfBlockLevelElementTag.ListBody);
            _tags.End();
        }

        _tags.End();
    }

    /// <param name="columns">Width in mm, together 176, and heading.</param>
    public PaperTable Table(IReadOnlyList<(double Width, string Heading)> columns, double size = 9)
    {
        _y += 2 * Mm;
        return new PaperTable(this, columns, size);
    }

    /// <summary>Side by side, three in a row; fewer are larger.</summary>
    public void Pictures(IReadOnlyList<PaperPicture> pictures)
    {
        const double Gap = 4 * Mm;
        const int Most = 3;
        var aRow = Math.Min(Most, pictures.Count);
        var wide = (Width - (Gap * (aRow - 1))) / Math.Max(1, aRow);
        var font = new XFont(ShippedFonts.Plain, 8.5);
        foreach (var row in pictures.Chunk(aRow))
        {
            XImage[] images = [.. row.Select(p => XImage.FromStream(Seen(WithJfif(p.Jpeg))))];
            var sizes = images.Select(i => Fit(i, wide)).ToArray();
            var captions = row.Select(p => Lines(_page!, p.Caption, font, wide)).ToArray();
            _y += 3 * Mm;
            Room(sizes.Max(s => s.Height) + (captions.Max(c => c.Count) * font.Size * Leading) + (2 * Mm));
            var x = Left;
            for (var i = 0; i < row.Length; i++)
            {
                var at = new XRect(x, _y, sizes[i].Width, sizes[i].Height);
                _tags.BeginElement(PdfIllustrationElementTag.Figure, row[i].Alternative, at);
                _page!.DrawImage(images[i], at);
                row[i].DrawOn?.Invoke(_page!, at);
                _tags.End();
                _tags.BeginElement(PdfBlockLevelElementTag.Paragraph);
                for (var n = 0; n < captions[i].Count; n++)
                {
                    Write(captions[i][n], font, x, _y + sizes.Max(s => s.Height) + (font.Size * (1.2 + (n * Leading))));
                }

                _tags.End();
                x += wide + Gap;
                images[i].Dispose();
            }

            _y += sizes.Max(s => s.Height) + (captions.Max(c => c.Count) * font.Size * Leading) + (2 * Mm);
        }
    }

    /// <summary>Small and side by side, under each what it is of.</summary>
    public void Drawings(IReadOnlyList<PaperDrawing> drawings)
    {
        const int ARow = 6;
        const double Gap = 3 * Mm;
        const double Side = (Width - (Gap * (ARow - 1))) / ARow;
        var font = new XFont(ShippedFonts.Plain, 8);
        foreach (var row in drawings.Chunk(ARow))
        {
            var titles = row.Select(d => Lines(_page!, d.Title, font, Side)).ToArray();
            var height = Side + (titles.Max(t => t.Count) * font.Size * Leading) + (1 * Mm);
            _y += 2 * Mm;
            Room(height);
            for (var i = 0; i < row.Length; i++)
            {
                var at = new XRect(Left + (i * (Side + Gap)), _y, Side, Side);
                _tags.BeginElement(PdfIllustrationElementTag.Figure, row[i].Alternative, at);
                _page!.DrawRectangle(new XPen(XColors.LightGray, 0.5), at);
                row[i].DrawOn(_page!, at);
                _tags.End();
                _tags.BeginElement(PdfBlockLevelElementTag.Paragraph);
                for (var n = 0; n < titles[i].Count; n++)
                {
                    Write(titles[i][n], font, at.Left, at.Bottom + (font.Size * (1.2 + (n * Leading))));
                }

                _tags.End();
            }

            _y += height;
        }
    }

    /// <summary>What is told next begins another page.</summary>
    public void NextPage() => Begin();

    /// <summary>A fresh page to draw on; what is told next begins another.</summary>
    /// <param name="alternative">What is drawn, for whoever cannot see it.</param>
    public XGraphics NewPage(string alternative)
    {
        Begin();
        _y = Bottom;
        _drawing = true;
        _tags.BeginElement(PdfIllustrationElementTag.Figure, alternative, new XRect(Left, Top, Width, Bottom - Top));
        return _page!;
    }

    public byte[] Save()
    {
        End();
        foreach (var (page, at, to) in _links.Where(l => _marks.ContainsKey(l.To)))
        {
            page.AddDocumentLink(new PdfRectangle(new XPoint(at.Left, _size.Height - at.Bottom), new XPoint(at.Right, _size.Height - at.Top)), to);
        }

        using var saved = new MemoryStream();
        _document.Save(saved, closeStream: false);
        PdfBytes.Settle(saved.GetBuffer().AsSpan(0, (int)saved.Length));
        return saved.ToArray();
    }

    public void Dispose()
    {
        _page?.Dispose();
        _document.Dispose();
    }

    /// <summary>Writes cells side by side, each broken into lines within its width.</summary>
    /// <param name="mark">Under which others point to it; empty where none does.</param>
    /// <param name="to">Mark of the row to which the first cell leads; empty where to none.</param>
    /// <returns>False where there is no room left: nothing is written, and the page is a new one.</returns>
    internal bool Row(IReadOnlyList<double> widths, IReadOnlyList<string> cells, XFont font, bool heading, string mark = "", string to = "")
    {
        var page = _page!;
        var lines = InColumns(widths, cells, font);
        var height = HeightOf(lines, font);
        if (_y + height > Bottom && height < Bottom - Top)
        {
            Begin();
            return false;
        }

        if (mark.Length > 0)
        {
            _marks[mark] = _paper!;
            _document.AddNamedDestination(mark, _document.PageCount, PdfNamedDestinationParameters.CreatePosition(Left, _size.Height - _y));
        }

        _tags.BeginElement(PdfBlockLevelElementTag.TableRow);
        var x = Left;
        for (var i = 0; i < lines.Length; i++)
        {
            _tags.BeginElement(heading ? PdfBlockLevelElementTag.TableHeaderCell : PdfBlockLevelElementTag.TableDataCell);
            for (var n = 0; n < lines[i].Count; n++)
            {
                Write(lines[i][n], font, x, _y + (font.Size * (1 + (n * Leading))), i == 0 && to.Length > 0 ? XBrushes.DarkBlue : XBrushes.Black);
            }

            _tags.End();
            x += widths[i] * Mm;
        }

        _tags.End();
        if (to.Length > 0)
        {
            _links.Add((_paper!, new XRect(Left, _y, widths[0] * Mm, height), to));
        }

        _y += height;
        _tags.BeginArtifact();
        page.DrawLine(new XPen(XColors.Gray, heading ? 0.9 : 0.4), Left, _y, Left + Width, _y);
        _tags.End();
        _y += UnderRow;
        return true;
    }

    /// <summary>Goes to the next page where the rows have no room on this one, as far as one page has it.</summary>
    internal void Together(IReadOnlyList<double> widths, params IReadOnlyList<(IReadOnlyList<string> Cells, XFont Font)> rows) =>
        Room(Math.Min(Bottom - Top, rows.Sum(r => HeightOf(InColumns(widths, r.Cells, r.Font), r.Font) + UnderRow)));

    private const double UnderRow = 0.8 * Mm;

    private List<string>[] InColumns(IReadOnlyList<double> widths, IReadOnlyList<string> cells, XFont font)
    {
        const double Gap = 2 * Mm;
        return [.. cells.Select((cell, i) => Lines(_page!, cell, font, (widths[i] * Mm) - Gap))];
    }

    private static double HeightOf(IEnumerable<List<string>> lines, XFont font) => (lines.Max(l => l.Count) * font.Size * Leading) + (1.6 * Mm);

    internal void BeginTable() => _tags.BeginElement(PdfBlockLevelElementTag.Table);

    internal void EndTable() => _tags.End();

    /// <summary>A stream whose bytes the library may use as they are; of any other it makes a copy.</summary>
    private static MemoryStream Seen(byte[] data) => new(data, 0, data.Length, writable: false, publiclyVisible: true);

    /// <summary>Pictures are kept without what a camera wrote into them; this library knows a JPEG only by its first segment (JFIF 1.01), so that is put in.</summary>
    private static byte[] WithJfif(byte[] jpeg) =>
        jpeg is [0xFF, 0xD8, 0xFF, 0xE0, ..]
            ? jpeg
            : [0xFF, 0xD8, 0xFF, 0xE0, 0, 16, (byte)'J', (byte)'F', (byte)'I', (byte)'F', 0, 1, 1, 0, 0, 1, 0, 1, 0, 0, .. jpeg.AsSpan(2)];

    private static XSize Fit(XImage image, double wide)
    {
        var scale = Math.Min(wide / image.PixelWidth, Tallest / image.PixelHeight);
        return new XSize(image.PixelWidth * scale, image.PixelHeight * scale);
    }

    private void Text(string text, XFont font, PdfBlockLevelElementTag tag, double before, double keep)
    {
        _y += before;
        var lines = Lines(_page!, text, font, Width);
        // Two lines at least stay together.
        Room((Math.Min(2, lines.Count) * font.Size * Leading) + keep);
        Flow(lines, font, Left, tag);
    }

    /// <summary>Lines under each other; what goes on overleaf is an element of its own there, since none may lie on two pages.</summary>
    private void Flow(IReadOnlyList<string> lines, XFont font, double x, PdfBlockLevelElementTag tag)
    {
        var height = font.Size * Leading;
        _tags.BeginElement(tag);
        foreach (var line in lines)
        {
            if (_y + height > Bottom)
            {
                _tags.End();
                Begin();
                _tags.BeginElement(tag);
            }

            Write(line, font, x, _y + font.Size);
            _y += height;
        }

        _tags.End();
    }

    private void Write(string text, XFont font, double x, double y, XBrush? brush = null)
    {
        if (text.Length > 0)
        {
            _page!.DrawString(text, font, brush ?? XBrushes.Black, x, y);
        }
    }

    private void Room(double height)
    {
        if (_y + height > Bottom)
        {
            Begin();
        }
    }

    private void Begin()
    {
        End();
        _paper = _document.AddPage();
        (_paper.Width, _paper.Height) = (XUnit.FromPoint(_size.Width), XUnit.FromPoint(_size.Height));
        _page = XGraphics.FromPdfPage(_paper);
        _y = Top;
        _tags.BeginArtifact();
        _page.DrawString($"{_title}  ·  {_document.PageCount}", _footer, XBrushes.DimGray, Left, _size.Height - (9 * Mm));
        _tags.End();
    }

    private void End()
    {
        if (_drawing)
        {
            _tags.End();
            _drawing = false;
        }

        _page?.Dispose();
        _page = null;
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

/// <summary>A table of a <see cref="Paper"/>; its heading stands with its first row, and again on each page.</summary>
internal sealed class PaperTable : IDisposable
{
    private readonly Paper _paper;
    private readonly double[] _widths;
    private readonly string[] _headings;
    private readonly XFont _plain;
    private readonly XFont _bold;
    private bool _headed;

    public PaperTable(Paper paper, IReadOnlyList<(double Width, string Heading)> columns, double size)
    {
        (_paper, _widths, _headings) = (paper, [.. columns.Select(c => c.Width)], [.. columns.Select(c => c.Heading)]);
        (_plain, _bold) = (new(ShippedFonts.Plain, size), new(ShippedFonts.Plain, size, XFontStyleEx.Bold));
        _paper.BeginTable();
    }

    public void Row(params string[] cells) => Row(cells, "", "");

    /// <inheritdoc cref="Paper.Row"/>
    public void Row(IReadOnlyList<string> cells, string mark, string to)
    {
        if (!_headed)
        {
            _paper.Together(_widths, (_headings, _bold), (cells, _plain));
            Head();
        }

        if (!_paper.Row(_widths, cells, _plain, heading: false, mark, to))
        {
            Head();
            _paper.Row(_widths, cells, _plain, heading: false, mark, to);
        }
    }

    public void Dispose()
    {
        if (!_headed)
        {
            Head();
        }

        _paper.EndTable();
    }

    private void Head()
    {
        _headed = true;
        if (!_paper.Row(_widths, _headings, _bold, heading: true))
        {
            _paper.Row(_widths, _headings, _bold, heading: true);
        }
    }
}
