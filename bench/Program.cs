using VividSleuth.Bench;

var figures = new Figures();
TraceFigures.Run(figures);
PageFigures.Run(figures);
await ShopFigures.RunAsync(figures);
figures.Print(Console.Out);
return figures.Hold ? 0 : 1;
