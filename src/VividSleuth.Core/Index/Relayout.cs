using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Index;

/// <summary>What a corrected layout comes to.</summary>
/// <param name="Layout">The layout with a place of its own for each part that it has no more and on which something was recorded.</param>
/// <param name="Map">Old and new address of parts that stay and are called otherwise.</param>
/// <param name="Added">Addresses that are new.</param>
/// <param name="Gone">Addresses that the engine has no more, and on which nothing was recorded.</param>
/// <param name="Left">Parts that the engine has no more, and on which something was recorded: they keep their address.</param>
/// <param name="Back">Parts that an earlier correction had left, and which the engine has again.</param>
public sealed record LayoutChange(
    EngineLayout Layout,
    IReadOnlyList<Renumbered> Map,
    IReadOnlyList<string> Added,
    IReadOnlyList<string> Gone,
    IReadOnlyList<OwnPart> Left,
    IReadOnlyList<string> Back
);

/// <summary>
/// Puts a layout right that was chosen by mistake. The number on the tag stays: what was recorded at piston 4 is at piston 4 afterwards, whichever
/// bank that now is. Where several take the place of one, the first of them has what was recorded. What the engine has no more keeps its
/// address as a part of its own, so that no record is lost and none comes to another part.
/// </summary>
public static class Relayout
{
    /// <param name="recorded">Addresses at which anything is recorded.</param>
    /// <param name="candidates">Parts that are offered: what was recorded of them stays theirs.</param>
    /// <exception cref="ProblemException">There is no such engine, or the change is one of numbering, or a part of its own would go on which something is recorded.</exception>
    public static LayoutChange Of(EngineLayout old, EngineLayout asked, IReadOnlySet<string> recorded, IReadOnlyList<Candidate>? candidates = null)
    {
        // What an earlier correction left may have its own place again.
        if ((asked with { OwnParts = [.. asked.OwnParts.Where(o => !o.Left)] }).Check() is { Count: > 0 } wrong)
        {
            throw new ProblemException(wrong);
        }

        var numbers = old.HasTwoBanks == asked.HasTwoBanks && old.Numbering != asked.Numbering;
        if (numbers || old.NumberOneEnd != asked.NumberOneEnd)
        {
            throw new ProblemException(Problem.Of(numbers ? "layout.numbering" : "layout.numberOneEnd", "index.numbering-is-put-right-by-itself"));
        }

        var from = new AddressTable(Engine.From(old), candidates);
        var wanted = new AddressTable(Engine.From(asked with { OwnParts = [] }), candidates);
        var owned = asked.OwnParts.Select(o => o.Code).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var dropped = old.OwnParts.FirstOrDefault(o => recorded.Contains(o.Code) && !owned.Contains(o.Code) && wanted.Find(o.Code) is null);
        if (dropped is not null)
        {
            throw new ProblemException(Problem.Of("layout.ownParts", "index.own-part-has-records", ("code", dropped.Code), ("name", dropped.Name)));
        }

        var (map, gone, left) = (new List<Renumbered>(), new List<string>(), new List<OwnPart>());
        foreach (var place in from.Everywhere.Where(a => a.Kind.Own is null))
        {
            if (Same(place, wanted) is { } now)
            {
                // A candidate's follow from the engine's own.
                if (now.Code != place.Code && place.Of.Length == 0)
                {
                    map.Add(new Renumbered(place.Code, now.Code));
                }
            }
            else if (recorded.Contains(place.Code))
            {
                left.Add(
                    new OwnPart(place.Code, "")
                    {
                        Like = place.Kind.Id,
                        Stratum = place.Kind.Stratum,
                        Left = true,
                    }
                );
            }
            else if (place.Of.Length == 0)
            {
                gone.Add(place.Code);
            }
        }

        var layout = asked with { OwnParts = [.. asked.OwnParts.Where(o => wanted.Find(o.Code) is null), .. left] };
        var moved = map.Select(m => m.New).ToHashSet(StringComparer.Ordinal);
        return new LayoutChange(
            layout,
            map,
            [.. wanted.All.Select(a => a.Code).Concat(owned).Where(c => !moved.Contains(c) && from.Find(c) is null)],
            gone,
            left,
            [.. old.OwnParts.Select(o => o.Code).Where(c => wanted.Find(c) is not null)]
        );
    }

    /// <summary>The same part in the other table: of the same kind at the same number; of several that were one, or one that was several, the first.</summary>
    private static Address? Same(Address place, AddressTable table)
    {
        var at = table
            .Everywhere.Where(a => a.Kind.Id == place.Kind.Id && a.Station == place.Station && a.Of == place.Of)
            .OrderBy(a => a.Nth)
            .ToArray();
        return at.FirstOrDefault(a => a.Nth == place.Nth) ?? (place.Nth <= 1 ? at.FirstOrDefault(a => a.Nth <= 1) : null);
    }
}
