using PdfSharp.Fonts;

namespace VividSleuth.Server;

/// <summary>The fonts that ship, for what is printed: the machine that it runs on may have none.</summary>
internal sealed class ShippedFonts : IFontResolver
{
    public const string Mono = "Tag Mono";
    public const string Plain = "Tag Plain";

    private static readonly Lazy<bool> Set = new(() =>
    {
        GlobalFontSettings.FontResolver = new ShippedFonts();
        return true;
    });

    /// <summary>Before anything is drawn; again does no harm.</summary>
    public static void Use() => _ = Set.Value;

    public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) =>
        new(
            familyName == Mono ? "Mono-Bold"
            : isBold ? "Next-Bold"
            : "Next-Regular"
        );

    public byte[]? GetFont(string faceName)
    {
        using var stream = typeof(ShippedFonts).Assembly.GetManifestResourceStream($"fonts/{faceName}.ttf")!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }
}
