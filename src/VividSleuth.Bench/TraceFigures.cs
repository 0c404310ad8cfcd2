using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Bench;

internal static class TraceFigures
{
    public static void Run(Figures figures)
    {
        var file = CaseFile.FromJson(File.ReadAllText(Demo.Six));
        var table = new AddressTable(Engine.From(file.Case.Layout));
        var sheet = SheetBuilder.Build(file.Case.GaugeLog(), table, KnowledgeBase.BuiltIn, file.Instruments);
        var worst = Figures.Worst(() => Tracer.Answer(file.Case.TraceLog(), table, KnowledgeBase.BuiltIn, sheet.Signs));
        figures.AtMost("Trace", "answer for the demo six, the slowest of thirty", worst, 150, "ms");
        GrowthFigures.Run(figures);
        DrawnFigures.Run(figures);
    }
}
