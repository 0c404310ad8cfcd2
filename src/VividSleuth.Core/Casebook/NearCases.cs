using System.Runtime.CompilerServices;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Casebook;

/// <summary>At how many places of a kind a sign was seen.</summary>
public enum SignSpread
{
    /// <summary>At one of several.</summary>
    One,

    /// <summary>At some, but not at all.</summary>
    Some,

    /// <summary>At all that were looked at, or at the only one.</summary>
    All,
}

/// <summary>What a case shows, by sign and kind of part: “overlay-wiped@shell-upper”. Numbers of cylinders are left out, so that engines of any size compare.</summary>
/// <param name="Present">What was seen as it came, and how widely.</param>
/// <param name="LookedFor">What somebody looked for, seen or not.</param>
public sealed record CaseSigns(Guid Id, IReadOnlyDictionary<string, SignSpread> Present, IReadOnlySet<string> LookedFor)
{
    public static string Key(string sign, string kind) => $"{sign}@{kind}";

    public static CaseSigns Of(EngineCase engineCase, AddressTable table)
    {
        var seen = engineCase
            .Findings.Where(f => f.Stands() && f.IsEvidence)
            .Select(f => (Finding: f, At: table.Find(f.Place)))
            .Where(f => f.At is not null && !Address.IsCandidate(f.Finding.Place))
            .GroupBy(f => Key(f.Finding.Sign, f.At!.Kind.ReadAs), StringComparer.Ordinal)
            .ToArray();
        return new CaseSigns(
            engineCase.Id,
            seen.Where(g => g.Any(f => f.Finding.Seen == Seen.Present))
                .ToDictionary(
                    g => g.Key,
                    g =>
                    {
                        var (there, looked) = (
                            g.Where(f => f.Finding.Seen == Seen.Present).Select(f => f.Finding.Place).Distinct().Count(),
                            g.Select(f => f.Finding.Place).Distinct().Count()
                        );
                        var places = table.OfKind(g.First().At!.Kind.Id).Count();
                        return places == 1 || (there == looked && there > 1) ? SignSpread.All
                            : there == 1 ? SignSpread.One
                            : SignSpread.Some;
                    },
                    StringComparer.Ordinal
                ),
            seen.Select(g => g.Key).ToHashSet(StringComparer.Ordinal)
        );
    }
}

/// <summary>A sign that two cases have in common, or in which they differ.</summary>
/// <param name="Bits">How much it says: minus the binary logarithm of how often an engine on a bench shows it at a place of the kind.</param>
/// <param name="Here">Null where it was looked for and not seen.</param>
public sealed record NearSign(string Sign, string Kind, double Bits, SignSpread? Here, SignSpread? There);

/// <summary>An earlier case held against this one.</summary>
/// <param name="Likeness">From 0, nothing in common, towards 1.</param>
/// <param name="Shared">Seen in both, what says most first.</param>
/// <param name="Apart">Seen in one, and looked for and not seen in the other.</param>
public sealed record NearCase(Guid Id, double Likeness, IReadOnlyList<NearSign> Shared, IReadOnlyList<NearSign> Apart);

/// <summary>
/// Which earlier cases show what this one shows. Each sign counts by what it says in the causal net: one that any engine shows counts little. What nobody
/// looked for in one of the two counts neither way.
/// </summary>
public static class NearCases
{
    /// <summary>
    /// Weight of what nobody looked at, in bits: two cases with one common sign are not the same for it. Ours; as much as a sign that one engine in sixteen
    /// shows.
    /// </summary>
    public const double Unseen = 4;

    /// <summary>A sign that is seen at one place here and at all there is half in common. Ours.</summary>
    private const double OtherSpread = 0.5;

    /// <summary>No single sign outweighs all others.</summary>
    private const double MostBits = 10;

    /// <summary>
    /// Bits of each sign at a kind of part: from the leak and every cause that leaves it there, weighed by how often that cause is met (a noisy-OR over the
    /// priors, Pearl 1988), meant over the places of the kind.
    /// </summary>
    public static Func<string, double> BitsIn(AddressTable table, KnowledgeBase knowledge)
    {
        var shown = Shown.GetValue(Hypotheses.Over(table, knowledge), laid => ShownIn(laid, new AddressTable(table.Engine)));
        return key =>
        {
            var leak = knowledge.Sign(key[..key.IndexOf('@', StringComparison.Ordinal)])?.Leak.Probability() ?? 0;
            var p = 1 - ((1 - leak) * (1 - Math.Min(1, shown.GetValueOrDefault(key))));
            return Math.Clamp(-Math.Log2(Math.Max(p, 1e-9)), 0, MostBits);
        };
    }

    // It hangs on layout and knowledge alone, and is asked for with every case.
    private static readonly ConditionalWeakTable<LaidCauses, Dictionary<string, double>> Shown = [];

    /// <summary>How often a sign is left at a place of a kind, whatever else shows it.</summary>
    private static Dictionary<string, double> ShownIn(LaidCauses laid, AddressTable table)
    {
        var not = new Dictionary<(string Sign, string Place), double>();
        foreach (var hypothesis in laid.Hypotheses)
        {
            foreach (var left in hypothesis.Strongest())
            {
                var key = (left.Sign, left.Place);
                not[key] = not.GetValueOrDefault(key, 1) * (1 - (hypothesis.Prior * left.Strength));
            }
        }

        return not.Select(n => (n.Key, At: table.Find(n.Key.Place), Shown: 1 - n.Value))
            .Where(n => n.At is not null)
            .GroupBy(n => CaseSigns.Key(n.Key.Sign, n.At!.Kind.ReadAs), StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Sum(n => n.Shown) / table.OfKind(g.First().At!.Kind.Id).Count(), StringComparer.Ordinal);
    }

    /// <summary>Those with anything in common, the nearest first.</summary>
    /// <param name="others">Of what was looked for in them no more need be told than what is seen here.</param>
    /// <param name="bits">What a sign at a kind of part says (<see cref="BitsIn"/>).</param>
    /// <param name="most">So many of them.</param>
    public static IReadOnlyList<NearCase> Of(CaseSigns here, IEnumerable<CaseSigns> others, Func<string, double> bits, int most = int.MaxValue) =>
        [
            .. others
                .Select(there => (There: there, Likeness: Likeness(here, there, bits)))
                .Where(n => n.Likeness > 0)
                .OrderByDescending(n => n.Likeness)
                .ThenBy(n => n.There.Id)
                .Take(most)
                .Select(n => Of(here, n.There, bits, n.Likeness)),
        ];

    /// <summary>Signs that were seen in one of the two and looked for in both.</summary>
    private static IEnumerable<string> Compared(CaseSigns here, CaseSigns there) =>
        here
            .Present.Keys.Where(key => there.Present.ContainsKey(key) || there.LookedFor.Contains(key))
            .Concat(there.Present.Keys.Where(key => !here.Present.ContainsKey(key) && here.LookedFor.Contains(key)));

    private static double Likeness(CaseSigns here, CaseSigns there, Func<string, double> bits)
    {
        var (common, all) = (0.0, Unseen);
        foreach (var key in Compared(here, there))
        {
            var says = bits(key);
            all += says;
            if (here.Present.TryGetValue(key, out var mine) && there.Present.TryGetValue(key, out var theirs))
            {
                common += says * (mine == theirs ? 1 : OtherSpread);
            }
        }

        return common / all;
    }

    private static NearCase Of(CaseSigns here, CaseSigns there, Func<string, double> bits, double likeness)
    {
        NearSign[] signs =
        [
            .. Compared(here, there)
                .Select(key =>
                {
                    var at = key.IndexOf('@', StringComparison.Ordinal);
                    return new NearSign(
                        key[..at],
                        key[(at + 1)..],
                        bits(key),
                        here.Present.TryGetValue(key, out var h) ? h : null,
                        there.Present.TryGetValue(key, out var t) ? t : null
                    );
                })
                .OrderByDescending(s => s.Bits),
        ];
        return new NearCase(
            there.Id,
            likeness,
            [.. signs.Where(s => s is { Here: not null, There: not null })],
            [.. signs.Where(s => s.Here is null || s.There is null)]
        );
    }
}
