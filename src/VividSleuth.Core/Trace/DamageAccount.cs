using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>What was found, each sign with what brought it about.</summary>
internal static class DamageAccount
{
    /// <summary>
    /// What was found, told by the likeliest scenario of every component together: each present sign goes to the link that brings it about most
    /// often.
    /// </summary>
    public static IReadOnlyList<DamageTold> Of(TraceModel model, Posterior posterior)
    {
        var held = posterior.Components.SelectMany(c => c.Scenarios.MaxBy(s => s.Weight)!.Hypotheses).Select(h => model.Hypotheses[h]).ToArray();
        return
        [
            .. model
                .Signs.Where(s => model.Evidence[s].Seen == Seen.Present)
                .Select(s =>
                {
                    var best = held.SelectMany(h =>
                            h.Links.SelectMany(
                                (l, i) => l.Where(p => p.Sign == s.Sign && p.Place == s.Place).Select(p => (Hypothesis: h, Link: i, p.Strength))
                            )
                        )
                        .OrderByDescending(x => x.Strength)
                        .ThenBy(x => x.Link)
                        .FirstOrDefault();
                    var name = model.Knowledge.Sign(s.Sign)!.Name;
                    return best.Hypothesis is { } h
                        ? new DamageTold(s.Sign, name, s.Place, h.Cause.Name, h.Seat, best.Link, h.Cause.Chain[best.Link].Says)
                        : new DamageTold(s.Sign, name, s.Place, "", "", -1, "");
                })
                .OrderBy(d => d.Link < 0)
                .ThenBy(d => d.By, StringComparer.Ordinal)
                .ThenBy(d => d.ByPlace, StringComparer.Ordinal)
                .ThenBy(d => d.Link),
        ];
    }
}
