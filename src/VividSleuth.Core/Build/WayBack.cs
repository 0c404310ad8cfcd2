using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Build;

/// <summary>A part that goes back with a step.</summary>
/// <param name="Mark">As it stands on the part; empty where nobody tagged it.</param>
/// <param name="Custody">Where it is now; null where nobody said.</param>
public sealed record BackPart(string Place, Fact Name, string Mark, Facing Facing, string SideUp, Custody? Custody, string Where);

/// <summary>Fasteners that go back in with a step.</summary>
/// <param name="Out">Still out of their holes.</param>
/// <param name="Fresh">One-time: the old ones are gauges, and as many new ones go in.</param>
/// <param name="Where">Bag or row in which they lie.</param>
public sealed record BackSet(
    string Set,
    string Name,
    string Thread,
    int Expected,
    int Out,
    int Broken,
    bool Fresh,
    IReadOnlyList<double> Lengths,
    string Locking,
    string Where,
    IReadOnlyList<Hole> Holes
);

/// <summary>What a step of the way back puts in.</summary>
/// <param name="Step">Id of the step of the strip that took it off.</param>
/// <param name="Loosened">In which order they were loosened: tightened the other way round, by the maker’s order and figures.</param>
/// <param name="Manual">Figures and orders to be had from the maker’s manual.</param>
public sealed record WayBack(
    string Step,
    IReadOnlyList<BackPart> Parts,
    IReadOnlyList<BackSet> Sets,
    string Loosened,
    IReadOnlyList<string> Manual,
    IReadOnlyList<string> Cautions
)
{
    /// <summary>Fasteners that are to go back in and did not; what is renewed is counted off the order.</summary>
    public int StillOut => Sets.Where(s => !s.Fresh).Sum(s => s.Out);

    /// <summary>Broken, with the rest still in the hole.</summary>
    public int Broken => Sets.Sum(s => s.Broken);

    internal static WayBack Of(PlannedStep step, IEnumerable<Address> goes, IReadOnlyDictionary<string, Part> tags) =>
        new(
            step.Id,
            [
                .. goes.Select(a =>
                {
                    var tag = tags.GetValueOrDefault(a.Code);
                    return new BackPart(
                        a.Code,
                        a.Words,
                        tag?.Mark ?? "",
                        tag?.Facing ?? Facing.Unknown,
                        tag?.SideUp ?? "",
                        tag?.Custody,
                        tag?.Where ?? ""
                    );
                }),
            ],
            [
                .. step.Sets.Select(s => new BackSet(
                    s.Set.Id,
                    s.Set.Name,
                    s.Set.Thread,
                    s.Expected,
                    s.Out,
                    s.Broken,
                    s.Set.OneTime,
                    s.Set.Lengths,
                    s.Set.Locking,
                    s.Where,
                    s.Holes
                )),
            ],
            step.Pattern,
            step.Source.Manual,
            step.Cautions
        );
}
