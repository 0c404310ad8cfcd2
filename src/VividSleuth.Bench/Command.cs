namespace VividSleuth.Bench;

internal static class Command
{
    private static async Task<int> Main()
    {
        var figures = new Figures();
        TraceFigures.Run(figures);
        PageFigures.Run(figures);
        await ShopFigures.RunAsync(figures);
        figures.Print(Console.Out);
        return figures.Hold ? 0 : 1;
    }
}
