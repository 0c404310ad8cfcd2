using System.Globalization;
using System.Net;
using System.Text;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Look;
using VividSleuth.Words;

namespace VividSleuth.Server.Dossier;

/// <summary>A dossier as one page that opens with no network: style, pictures and marks are in it, and nothing of it runs.</summary>
internal static class DossierHtml
{
    /// <summary>Light and dark, on a screen and on paper; figures under each other.</summary>
    private const string Style = """
        :root{color-scheme:light}
        body{font:16px/1.45 system-ui,sans-serif;max-width:60rem;margin:0 auto;padding:1.5rem;color:#16202b;background:#fffefb}
        h1{font-size:1.9rem;margin:0}h2{font-size:1.25rem;border-bottom:2px solid #16202b;margin:1.6rem 0 .4rem}h3{font-size:1.05rem;margin:1.1rem 0 .2rem}
        p{margin:.4rem 0}.under{color:#4b5563}.strong{font-size:1.15rem;font-weight:700}
        .wide{overflow-x:auto}table{border-collapse:collapse;width:100%;font-size:.9rem}
        th,td{text-align:left;vertical-align:top;padding:.25rem .6rem .25rem 0;border-bottom:1px solid #c9c6ba}th{border-bottom:2px solid #16202b}
        .n{text-align:right;font-variant-numeric:tabular-nums;white-space:nowrap}:target{background:#fde9b8}
        a{color:#1c3f91}.pictures{display:grid;grid-template-columns:repeat(auto-fit,minmax(14rem,1fr));gap:1rem}
        figure{margin:0}figure div{position:relative}figure img{display:block;width:100%}figure div svg{position:absolute;inset:0;width:100%;height:100%}figcaption{font-size:.9rem}
        .drawn{display:grid;grid-template-columns:repeat(auto-fill,minmax(7.5rem,1fr));gap:.6rem}.drawn svg{display:block;width:100%;border:1px solid #c9c6ba;border-radius:6px}
        .drawn polyline{fill:none;stroke:#16202b;stroke-width:2}.drawn .other{stroke:#1c3f91;stroke-dasharray:5 3}.drawn .guide{stroke:#9aa1a8;stroke-width:1}.dot{fill:#1c3f91}.drawn text{font-size:9px;text-anchor:middle;dominant-baseline:central;fill:#16202b}
        @media print{body{padding:0}tr,figure{break-inside:avoid}h2,h3{break-after:avoid}}
        """;

    /// <param name="jpeg">Pictures for the screen, by photograph.</param>
    public static byte[] Of(DossierPaper dossier, IReadOnlyDictionary<Guid, byte[]> jpeg, Sentences sentences)
    {
        var html = new StringBuilder();
        html.Append($"<!doctype html><html lang=\"{sentences.Tag}\"><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\">")
            .Append(
                CultureInfo.InvariantCulture,
                $"<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; img-src data:; style-src 'unsafe-inline'\"><title>{Said(dossier.Title)}</title>"
            )
            .Append(
                CultureInfo.InvariantCulture,
                $"<style>{Style}</style><main><h1>{Said(dossier.Title)}</h1><p class=\"under\">{Said(dossier.Under)}</p>"
            );
        foreach (var block in dossier.Blocks)
        {
            switch (block)
            {
                case DossierHeading heading:
                    html.Append(CultureInfo.InvariantCulture, $"<h{heading.Level + 1}>{Said(heading.Text)}</h{heading.Level + 1}>");
                    break;
                case DossierText text:
                    html.Append(text.Strong ? "<p class=\"strong\">" : "<p>").Append(Said(text.Text)).Append("</p>");
                    break;
                case DossierList list:
                    html.Append("<ul>").AppendJoin("", list.Items.Select(i => $"<li>{Said(i)}</li>")).Append("</ul>");
                    break;
                case DossierTable table:
                    Table(table);
                    break;
                case DossierDrawings drawings:
                    html.Append("<div class=\"drawn\">")
                        .AppendJoin("", drawings.Drawings.Select(Drawing))
                        .Append(CultureInfo.InvariantCulture, $"</div><p class=\"under\">{Said(drawings.Caption)}</p>");
                    break;
                case DossierPictures pictures:
                    html.Append("<div class=\"pictures\">").AppendJoin("", pictures.Pictures.Select(Picture)).Append("</div>");
                    break;
                default:
                    throw new ArgumentOutOfRangeException(nameof(dossier), block, null);
            }
        }

        return Encoding.UTF8.GetBytes(html.Append("</main></html>").ToString());

        string Said(Core.Fact fact) => WebUtility.HtmlEncode(sentences.Say(fact));

        void Table(DossierTable table)
        {
            html.Append("<div class=\"wide\" tabindex=\"0\"><table><thead><tr>")
                .AppendJoin("", table.Columns.Select(c => $"<th scope=\"col\"{Class(c)}>{Said(c.Name)}</th>"))
                .Append("</tr></thead><tbody>");
            foreach (var row in table.Rows)
            {
                html.Append(row.Mark.Length > 0 ? $"<tr id=\"{row.Mark}\">" : "<tr>");
                foreach (var (i, cell) in row.Cells.Index())
                {
                    var said = Said(cell);
                    var linked = i == 0 && row.To.Length > 0 ? $"<a href=\"#{row.To}\">{said}</a>" : said;
                    html.Append(CultureInfo.InvariantCulture, $"<td{Class(table.Columns[i])}>{linked}</td>");
                }

                html.Append("</tr>");
            }

            html.Append("</tbody></table></div>");
        }

        string Drawing(DossierDrawing drawing) =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"<figure><svg role=\"img\" aria-label=\"{Said(drawing.Alternative)}\" viewBox=\"0 0 {DossierDrawings.Size:0} {DossierDrawings.Size:0}\">{string.Concat(drawing.Lines.Select(Line))}{string.Concat(drawing.Numbers.Select(Number))}</svg><figcaption>{Said(drawing.Title)}</figcaption></figure>"
            );

        string Picture(DossierPicture picture) =>
            jpeg.TryGetValue(picture.Photo.Id, out var data)
                ? $"<figure><div><img alt=\"{Said(picture.Alternative)}\" src=\"data:image/jpeg;base64,{Convert.ToBase64String(data)}\">{Marks(picture)}</div><figcaption>{Said(picture.Caption)}{Labels(picture)}</figcaption></figure>"
                : $"<figure><figcaption>{Said(picture.Caption)}</figcaption></figure>";
    }

    /// <summary>What stands at the marks.</summary>
    private static string Labels(DossierPicture picture)
    {
        string[] labels = [.. picture.Marks.Select(m => m.Label).Where(l => l.Length > 0)];
        return labels.Length > 0 ? $"<br>{WebUtility.HtmlEncode(string.Join("; ", labels))}" : string.Empty;
    }

    private static string Number((DossierPoint At, int Number) number) =>
        FormattableString.Invariant($"<text x=\"{number.At.X:0.##}\" y=\"{number.At.Y:0.##}\">{number.Number}</text>");

    private static string Line(DossierLine line) =>
        line.Points is [var dot]
            ? FormattableString.Invariant($"<circle class=\"dot\" cx=\"{dot.X:0.##}\" cy=\"{dot.Y:0.##}\" r=\"3\"/>")
            : FormattableString.Invariant(
                $"<polyline class=\"{line.Pen.ToString().ToLowerInvariant()}\" points=\"{string.Join(' ', line.Points.Select(p => FormattableString.Invariant($"{p.X:0.##},{p.Y:0.##}")))}\"/>"
            );

    private static string Class(DossierColumn column) => column.Figures ? " class=\"n\"" : "";

    /// <summary>Marks over a picture, in its own proportions so that a ring stays round.</summary>
    private static string Marks(DossierPicture picture)
    {
        if (picture.Marks.Count == 0 || picture.Photo.Width <= 0 || picture.Photo.Height <= 0)
        {
            return "";
        }

        var (w, h) = (1000.0, 1000.0 * picture.Photo.Height / picture.Photo.Width);
        var drawn = string.Concat(
            picture.Marks.Select(m => string.Concat(new[] { ("#000", 9), ("#ffd23f", 5) }.Select(p => Mark(m, w, h, p.Item1, p.Item2))))
        );
        return FormattableString.Invariant($"<svg viewBox=\"0 0 {w:0} {h:0}\" aria-hidden=\"true\">{drawn}</svg>");
    }

    private static string Mark(PhotoMark m, double w, double h, string colour, int thick)
    {
        var (x1, y1, x2, y2) = (m.X1 * w, m.Y1 * h, m.X2 * w, m.Y2 * h);
        var stroke = FormattableString.Invariant($"<g fill='none' stroke='{colour}' stroke-width='{thick}'>");
        if (m.Kind == PhotoMarkKind.Ring)
        {
            var r = Math.Sqrt(((x2 - x1) * (x2 - x1)) + ((y2 - y1) * (y2 - y1)));
            return stroke + FormattableString.Invariant($"<circle cx='{x1:0.#}' cy='{y1:0.#}' r='{r:0.#}'/></g>");
        }

        var head = m.Kind == PhotoMarkKind.Arrow ? Head(x1, y1, x2, y2) : string.Empty;
        return stroke + FormattableString.Invariant($"<path d='M{x1:0.#} {y1:0.#}L{x2:0.#} {y2:0.#}{head}'/></g>");
    }

    private static string Head(double x1, double y1, double x2, double y2)
    {
        const double Long = 30;
        const double Open = 0.45;
        var angle = Math.Atan2(y1 - y2, x1 - x2);
        return string.Concat(
            new[] { -Open, Open }.Select(s =>
                FormattableString.Invariant($"M{x2:0.#} {y2:0.#}L{x2 + (Long * Math.Cos(angle + s)):0.#} {y2 + (Long * Math.Sin(angle + s)):0.#}")
            )
        );
    }
}
