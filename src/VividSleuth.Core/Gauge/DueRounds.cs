using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

public enum DueWhy
{
    /// <summary>It is read with the parts together, and a step that can be done now parts them.</summary>
    Before,

    /// <summary>Some of the parts that lie open are measured and others not.</summary>
    Begun,

    /// <summary>Most engines need it.</summary>
    Usual,

    /// <summary>Somebody entered a limit for it.</summary>
    Limited,
}

/// <summary>A round that can be measured now and is not.</summary>
/// <param name="Stratum">Parts that lie together: big ends apart from mains.</param>
/// <param name="Open">How many of its parts lie open.</param>
/// <param name="Left">How many of these nobody measured.</param>
/// <param name="Step">Id of the step before which it is read; empty where it is read on what lies open.</param>
public sealed record DueRound(string Characteristic, Stratum Stratum, DueWhy Why, int Open, int Left, string Step = "");

/// <summary>A step that can be done now, and the kinds of part that it takes off.</summary>
public sealed record Parting(string Step, IReadOnlyList<string> Releases);

/// <summary>Which rounds are due on this engine as it lies there.</summary>
public static class DueRounds
{
    /// <summary>
    /// What the next steps would part comes first: a float can no longer be read once the parts are apart, and is not asked for then. What is begun goes
    /// on; then what most engines need, in the order in which the strip lays it open; then what has a limit.
    /// </summary>
    /// <param name="open">Places that a recorded step laid open or took off.</param>
    /// <param name="off">Places that are off.</param>
    /// <param name="next">Steps that can be done now, the one that comes next first.</param>
    /// <param name="replaced">Places that are replaced anyway and that this shop does not measure.</param>
    public static IReadOnlyList<DueRound> Of(
        GaugeLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlySet<string> open,
        IReadOnlySet<string> off,
        IReadOnlyList<Parting> next,
        IReadOnlySet<string> replaced
    )
    {
        var measured = log.Active().Select(r => (r.Characteristic, r.Place)).ToHashSet();
        var limits = log.Limits.Where(l => l.Stands()).ToLookup(l => l.Characteristic, StringComparer.Ordinal);
        var due = new List<(DueRound Round, int Usual)>();
        foreach (var characteristic in knowledge.Characteristics.Where(c => c.Before.Count > 0 && c.Applies.Fits(table.Engine.Layout)))
        {
            if (next.FirstOrDefault(s => s.Releases.Any(characteristic.Before.Contains)) is not { } parting)
            {
                continue;
            }

            // Together as they were: where one of the parts is off already, there is nothing to read at its station.
            var gone = characteristic.Before.SelectMany(table.OfKind).Where(a => off.Contains(a.Code)).ToArray();
            var places = characteristic
                .On.SelectMany(table.OfKind)
                .Where(a => !off.Contains(a.Code) && !replaced.Contains(a.Code) && !gone.Any(g => Kin.Around(table, g, a.Kind.Id).Contains(a)));
            foreach (var together in places.GroupBy(a => a.Kind.Stratum))
            {
                var left = together.Count(a => !measured.Contains((characteristic.Id, a.Code)));
                if (left > 0)
                {
                    due.Add((new DueRound(characteristic.Id, together.Key, DueWhy.Before, together.Count(), left, parting.Step), 0));
                }
            }
        }

        foreach (var characteristic in knowledge.Characteristics.Where(c => !c.Derived && !c.Assembled && c.Applies.Fits(table.Engine.Layout)))
        {
            var places = characteristic.On.SelectMany(table.OfKind).Where(a => open.Contains(a.Code) && !replaced.Contains(a.Code));
            foreach (var together in places.GroupBy(a => a.Kind.Stratum))
            {
                var left = together.Count(a => !measured.Contains((characteristic.Id, a.Code)));
                if (left == 0)
                {
                    continue;
                }

                var all = together.Count();
                DueWhy? why =
                    left < all ? DueWhy.Begun
                    : characteristic.Usual > 0 ? DueWhy.Usual
                    : together.Any(a => limits[characteristic.Id].Any(l => l.On.Length == 0 || l.On == a.Kind.Id)) ? DueWhy.Limited
                    : null;
                if (why is { } because)
                {
                    due.Add((new DueRound(characteristic.Id, together.Key, because, all, left), characteristic.Usual));
                }
            }
        }

        // OrderBy keeps the order of the knowledge base among equals.
        return [.. due.OrderBy(d => d.Round.Why).ThenBy(d => d.Usual == 0 ? int.MaxValue : d.Usual).Select(d => d.Round)];
    }
}
