using VividSleuth.Core.Casebook;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

/// <summary>What went otherwise than planned at a step of one engine, and the next of its kind should know.</summary>
/// <param name="Step">Id of the step.</param>
public sealed record KindTrap(string Step, string StepName, Fact Says);

/// <summary>Traps that a strip ran into: fasteners that broke, steps that took far longer, steps that the script does not know.</summary>
public static class KindTraps
{
    /// <summary>A step took longer than planned when it took twice as long and this much more, in minutes. Common practice, no source.</summary>
    private const double Longer = 10;

    public static IReadOnlyList<KindTrap> Of(CaseReader reader)
    {
        var traps = new List<KindTrap>();
        var script = reader.Book.Script.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var step in reader.Book.Steps)
        {
            var planned = reader.Book.Planned(step, Fact.None);
            foreach (
                var set in FastenerLedger.Of(step, reader.Table.Engine, [.. reader.Case.FastenerMoves.Where(m => m.Stands() && m.Step == step.Id)])
            )
            {
                var broke = reader
                    .Case.FastenerMoves.Where(m => m.Stands() && m.Step == step.Id && m.Set == set.Set.Id && m.State == FastenerState.Broken)
                    .Sum(m => m.Count);
                if (broke > 0)
                {
                    traps.Add(Trap("shop.trap-broke", ("broke", broke), ("of", set.Expected), ("set", set.Set.Name)));
                }
            }

            if (planned.State == StepState.Done && planned.Spent > (2 * planned.Minutes) && planned.Spent > planned.Minutes + Longer)
            {
                traps.Add(Trap("shop.trap-long", ("took", (int)Math.Round(planned.Spent)), ("planned", (int)Math.Round(planned.Minutes))));
            }

            if (!script.Contains(step.Id) && planned.State == StepState.Done)
            {
                traps.Add(Trap("shop.trap-own-step", ("step", step.Name)));
            }

            KindTrap Trap(string code, params IReadOnlyList<(string, object?)> with) => new(step.Id, step.Name, Fact.Of(code, with));
        }

        return traps;
    }
}
