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

    /// <summary>A sign that no more causes than this leave is a sign of them.</summary>
    private const int Few = 2;

    /// <summary>Such a sign appears of itself at most this many times as often as by its causes.</summary>
    private const double FarBelow = 0.5;

    /// <summary>Layouts that between them have every kind of part.</summary>
    public static IReadOnlyList<EngineLayout> Layouts { get; } =
    [
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Pushrod, FuelSystem.Carburettor, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.TwinOverhead, FuelSystem.Injected, Cooling.Liquid, CaseBuild.Block) with
        {
            CamDrive = CamDrive.Chain,
        },
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Overhead, FuelSystem.Injected, Cooling.Liquid, CaseBuild.Block) with
        {
            CamDrive = CamDrive.Belt,
        },
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Overhead, FuelSystem.Diesel, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Overhead, FuelSystem.Gas, Cooling.Liquid, CaseBuild.Block),
        Layout(WorkingCycle.FourStroke, BearingType.Plain, ValveGear.Pushrod, FuelSystem.Carburettor, Cooling.Air, CaseBuild.Split) with
        {
            Arrangement = Arrangement.Flat,
            Numbering = NumberingScheme.BankAfterBank,
            FiringOrder = [1, 4, 3, 2],
        },
        Layout(WorkingCycle.FourStroke, BearingType.Rolling, ValveGear.Overhead, FuelSystem.Carburettor, Cooling.Air, CaseBuild.Split) with
        {
            GearboxInCase = true,
        },
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
            // What a cause of the whole engine brings about at many places hangs on one extent, and so is in its own story.
            foreach (var then in cause.Brings.Where(b => cause.Anchor != Anchor.Engine || knowledge.Cause(b.Cause)?.Anchor == Anchor.Engine))
            {
                var own = cause.Chain.SelectMany(l => l.Predicts).Select(p => p.Sign).ToHashSet(StringComparer.Ordinal);
                remarks.AddRange(
                    (knowledge.Cause(then.Cause)?.Defines ?? [])
                        .Where(d => own.Contains(d.Sign))
                        .Select(d => new ReviewRemark(
                            cause.Id,
                            Fact.Of("trace.predicts-what-it-brings", ("sign", d.Sign), ("cause", then.Cause)),
                            true
                        ))
                );
            }

            if (cause.Prove.Length == 0 || cause.Prevent.Length == 0)
            {
                remarks.Add(new ReviewRemark(cause.Id, Fact.Of("trace.does-not-say-how-prove"), true));
            }
        }

        remarks.AddRange(Leaks(knowledge));
        var told = knowledge.Causes.SelectMany(s => s.Chain).SelectMany(l => l.Predicts).Select(p => p.Sign).ToHashSet(StringComparer.Ordinal);
        remarks.AddRange(
            knowledge
                .Signs.Where(s => !told.Contains(s.Id) && s.Alone.Length == 0)
                .Select(s => new ReviewRemark(s.Id, Fact.Of("trace.cause-leaves-sign-weighs-nothing"), true))
        );
        return remarks;
    }

    /// <summary>
    /// Signs that only one or two causes leave, and that yet appear of themselves nearly as often as by those causes: seeing one would hardly speak for
    /// what alone leaves it.
    /// </summary>
    private static IEnumerable<ReviewRemark> Leaks(KnowledgeBase knowledge)
    {
        var rates = new Dictionary<string, (HashSet<string> Causes, double Rate)>(StringComparer.Ordinal);
        foreach (var layout in Layouts)
        {
            var all = Hypotheses
                .Of(new AddressTable(Engine.From(layout)), knowledge)
                .SelectMany(h => h.Strongest().Select(p => (h.Cause.Id, p.Sign, p.Place, Rate: h.Prior * p.Strength)));
            foreach (var sign in all.GroupBy(x => x.Sign))
            {
                var rate = sign.GroupBy(x => x.Place).Max(g => g.Sum(x => x.Rate));
                var known = rates.TryGetValue(sign.Key, out var so) ? so : ([], 0);
                known.Causes.UnionWith(sign.Select(x => x.Id));
                rates[sign.Key] = (known.Causes, Math.Max(known.Rate, rate));
            }
        }

        return knowledge
            .Signs.Where(s => !s.Common && rates.TryGetValue(s.Id, out var r) && r.Causes.Count <= Few && s.Leak.Probability() > FarBelow * r.Rate)
            .Select(s => new ReviewRemark(
                s.Id,
                Fact.Of("trace.leaks-nearly-as-often", ("causes", rates[s.Id].Causes.Order(StringComparer.Ordinal).ToArray())),
                true
            ));
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
