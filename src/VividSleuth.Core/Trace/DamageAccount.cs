using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>What was found, each sign with what brought it about.</summary>
internal static class DamageAccount
{
    /// <summary>
    /// What was found, told by the likeliest scenario of every component together: each present sign goes to the link that brings it about most
    /// often. What nothing accounts for, or only what hardly ever leaves it, comes last.
    /// </summary>
    /// <param name="established">Causes that are seen outright, and so account for what they leave whatever else holds.</param>
    public static IReadOnlyList<DamageTold> Of(TraceState state, IReadOnlyList<Hypothesis> established)
    {
        var model = state.Model;
        var ways = state
            .Posterior.Components.Where(c => c.Touched)
            .SelectMany(c => c.Scenarios.MaxBy(s => s.Weight)!.Hypotheses)
            .Select(w => model.Ways[w])
            .ToArray();
        var held = ways.Select(w => w.Hypothesis)
            .Concat(ways.Where(w => w.Way.Follows >= 0).Select(w => w.Way.Follows))
            .Distinct()
            .Select(h => model.Hypotheses[h])
            .Union(established)
            .ToArray();
        return
        [
            .. model
                .Facts.Where(f => f.Evidence.Seen == Seen.Present)
                .Select(f =>
                {
                    var best = held.SelectMany(h =>
                            h.Links.SelectMany(
                                (l, i) => l.Where(p => f.Of.Contains((p.Sign, p.Place))).Select(p => (Hypothesis: h, Link: i, p.Strength))
                            )
                        )
                        .OrderByDescending(x => x.Strength)
                        .ThenBy(x => x.Link)
                        .FirstOrDefault();
                    var (sign, place) = f.Of[0];
                    var name = model.Knowledge.Sign(sign)!.Name;
                    return best.Hypothesis is { } h
                        ? new DamageTold(sign, name, place, h.Cause.Name, h.Seat, best.Link, h.Cause.Chain[best.Link].Says, f.Evidence.Words)
                        : new DamageTold(sign, name, place, "", "", -1, "", f.Evidence.Words);
                })
                .OrderBy(d => d.Link < 0)
                .ThenBy(d => d.By, StringComparer.Ordinal)
                .ThenBy(d => d.ByPlace, StringComparer.Ordinal)
                .ThenBy(d => d.Link),
        ];
    }
}
