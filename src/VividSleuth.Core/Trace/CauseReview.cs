using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>Something a reviewer of the knowledge base should look at.</summary>
/// <param name="Serious">True where the entry does no good as it stands.</param>
public sealed record ReviewRemark(string About, Fact Text, bool Serious);

/// <summary>
/// Reads the causes against each other: those that no engine can have, those that no sign tells apart, those that name each other wrongly.
/// What makes a knowledge base unreadable is refused when it is loaded; this is about what makes it less useful.
/// </summary>
public static class CauseReview
{
    /// <summary>Two causes are hard to tell apart when the evidence expected between them is below this, in decibans.</summary>
    private const double Apart = 3;

    /// <summary>Layouts that between them have every kind of part.</summary>
    private static readonly IReadOnlyList<EngineLayout> Layouts =
    [
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Pushrod, FuelSystem.Carburettor, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.TwinOverhead, FuelSystem.Injected, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Overhead, FuelSystem.Diesel, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Rolling, ValveGear.Overhead, FuelSystem.Carburettor, Cooling.Air, CaseBuild.Split),
        Layout(WorkingCycle.TwoStroke, BearingType.Rolling, ValveGear.Side, FuelSystem.Carburettor, Cooling.Air, CaseBuild.Split),
    ];

    public static IReadOnlyList<ReviewRemark> Of(KnowledgeBase knowledge)
    {
        var remarks = new List<ReviewRemark>();
        var reached = new HashSet<string>(StringComparer.Ordinal);
        var alike = new HashSet<(string, string)>();
        foreach (var layout in Layouts)
        {
            var placed = Hypotheses.Of(new AddressTable(Engine.From(layout)), knowledge);
            reached.UnionWith(placed.Select(h => h.Cause.Id));
            // One place of each cause is enough: all places of one cause predict alike.
            var one = placed.GroupBy(h => h.Cause.Id).Select(g => g.First()).ToArray();
            for (var i = 0; i < one.Length; i++)
            {
                for (var j = i + 1; j < one.Length; j++)
                {
                    if (Distance(one[i], one[j], knowledge) < Apart)
                    {
                        alike.Add((one[i].Cause.Id, one[j].Cause.Id));
                    }
                }
            }
        }

        remarks.AddRange(
            knowledge
                .Causes.Where(s => !reached.Contains(s.Id))
                .Select(s => new ReviewRemark(s.Id, Fact.Of("trace.engine-known-here-can-look"), true))
        );
        remarks.AddRange(alike.Select(a => new ReviewRemark(a.Item1, Fact.Of("trace.sign-tells-from-give-one", ("other", a.Item2)), true)));
        var ids = knowledge.Causes.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var cause in knowledge.Causes)
        {
            remarks.AddRange(
                cause
                    .ConfusedWith.Where(c => !ids.Contains(c))
                    .Select(c => new ReviewRemark(cause.Id, Fact.Of("trace.names-what-confused-there-none", ("named", c)), true))
            );
            if (cause.Prove.Length == 0 || cause.Prevent.Length == 0)
            {
                remarks.Add(new ReviewRemark(cause.Id, Fact.Of("trace.does-not-say-how-prove"), true));
            }
        }

        var told = knowledge.Causes.SelectMany(s => s.Chain).SelectMany(l => l.Predicts).Select(p => p.Sign).ToHashSet(StringComparer.Ordinal);
        remarks.AddRange(
            knowledge
                .Signs.Where(s => !told.Contains(s.Id))
                .Select(s => new ReviewRemark(s.Id, Fact.Of("trace.cause-leaves-sign-weighs-nothing"), false))
        );
        return remarks;
    }

    /// <summary>
    /// Evidence expected for the one against the other when the one is true and everything is looked at, in decibans: the divergence of two
    /// products of independent signs (Kullback and Leibler, 1951), the smaller of the two ways.
    /// </summary>
    private static double Distance(Hypothesis a, Hypothesis b, KnowledgeBase knowledge)
    {
        var of = a.Strongest().ToDictionary(p => (p.Sign, p.Place), p => p.Strength);
        var other = b.Strongest().ToDictionary(p => (p.Sign, p.Place), p => p.Strength);
        double there = 0,
            back = 0;
        foreach (var key in of.Keys.Union(other.Keys))
        {
            var leak = knowledge.Sign(key.Sign)!.Leak.Probability();
            var p = 1 - ((1 - leak) * (1 - of.GetValueOrDefault(key)));
            var q = 1 - ((1 - leak) * (1 - other.GetValueOrDefault(key)));
            there += Divergence(p, q);
            back += Divergence(q, p);
        }

        return Math.Min(there, back);
    }

    private static double Divergence(double p, double q) => 10 * ((p * Math.Log10(p / q)) + ((1 - p) * Math.Log10((1 - p) / (1 - q))));

    private static EngineLayout Layout(
        WorkingCycle cycle,
        BearingType bearings,
        ValveGear valves,
        FuelSystem fuel,
        Cooling cooling,
        CaseBuild build
    ) =>
        new()
        {
            Arrangement = Arrangement.Inline,
            Cylinders = 4,
            Cycle = cycle,
            Bearings = bearings,
            ValveGear = valves,
            Fuel = fuel,
            Cooling = cooling,
            Case = build,
            FiringOrder = [1, 3, 4, 2],
            RingsPerPiston = cycle == WorkingCycle.TwoStroke ? 2 : 3,
        };
}
