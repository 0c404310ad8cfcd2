namespace VividSleuth.Bench;

internal static class Command
{
    /// <param name="args">Names of rooms (strip, gauge, trace, verdict, desk, measured (pictures that measure), sounds, look, papers, page, shop, thousands (by name only: it takes its time), operation or its parts load, attack, pictures, import; sheet is measured by ./bench itself); none measures all.</param>
    private static async Task<int> Main(string[] args)
    {
        var figures = new Figures();
        bool Wanted(string room) => args.Length == 0 || args.Contains(room, StringComparer.OrdinalIgnoreCase);
        if (Wanted("strip"))
        {
            StripFigures.Run(figures);
        }

        if (Wanted("gauge"))
        {
            GaugeFigures.Run(figures);
        }

        if (Wanted("trace"))
        {
            TraceFigures.Run(figures);
        }

        if (Wanted("verdict"))
        {
            VerdictFigures.Run(figures);
            OrderFigures.Run(figures);
        }

        if (Wanted("build"))
        {
            BuildFigures.Run(figures);
        }

        if (Wanted("desk"))
        {
            await DeskFigures.RunAsync(figures);
        }

        if (Wanted("sounds"))
        {
            SoundFigures.Run(figures);
        }

        if (Wanted("measured"))
        {
            MeasuredPictureFigures.Run(figures);
        }

        if (Wanted("look"))
        {
            await LookFigures.RunAsync(figures);
        }

        if (Wanted("papers"))
        {
            await PapersFigures.RunAsync(figures);
        }

        if (Wanted("page"))
        {
            PageFigures.Run(figures);
        }

        if (args.Contains("thousands", StringComparer.OrdinalIgnoreCase))
        {
            await ThousandsFigures.RunAsync(figures);
        }

        if (Wanted("shop"))
        {
            await ShopFigures.RunAsync(figures);
        }

        await OperationFigures.RunAsync(figures, part => Wanted("operation") || Wanted(part));

        figures.Print(Console.Out);
        return figures.Hold ? 0 : 1;
    }
}
