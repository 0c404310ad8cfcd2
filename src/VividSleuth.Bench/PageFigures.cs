using System.IO.Compression;
using System.Text.RegularExpressions;

namespace VividSleuth.Bench;

/// <summary>Weight of the first page: the scripts that index.html names, gzipped.</summary>
internal static partial class PageFigures
{
    public static void Run(Figures figures)
    {
        var root = Path.Combine(Demo.Root, "src/VividSleuth.Server/wwwroot");
        var page = File.ReadAllText(Path.Combine(root, "index.html"));
        var bytes = Scripts().Matches(page).Sum(m => Gzipped(Path.Combine(root, m.Groups["path"].Value.TrimStart('/'))));
        figures.AtMost("Casebook", "script of the first page, gzipped", bytes / 1000.0, 150, "kB");
    }

    private static long Gzipped(string path)
    {
        using var to = new MemoryStream();
        using (var zip = new GZipStream(to, CompressionLevel.Optimal, leaveOpen: true))
        {
            zip.Write(File.ReadAllBytes(path));
        }

        return to.Length;
    }

    [GeneratedRegex("(?:src|href)=\"(?<path>/[^\"]+\\.js)\"")]
    private static partial Regex Scripts();
}
