using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Knowledge;

/// <summary>
/// A dimension that nobody foresaw, named by whoever measures it: it may be read on any part, limited and held against its limit like any other. Its id
/// carries what it is and its name: own/length/Fan hub bore.
/// </summary>
public static class OwnDimension
{
    public const int LongestName = 60;

    private const string Prefix = "own/";

    /// <summary>A gap or clearance: a length that is no size of one part.</summary>
    private const string Gap = "gap";

    private static readonly List<string> AnyKind = [.. PartKinds.All.Select(k => k.Id)];

    private static readonly Dictionary<string, Quantity> Quantities = Enum.GetValues<Quantity>()
        .ToDictionary(q => q.ToString().ToLowerInvariant(), q => q, StringComparer.Ordinal);

    /// <returns>Null where the id is none of an own dimension.</returns>
    public static KnownCharacteristic? Find(string id)
    {
        if (!id.StartsWith(Prefix, StringComparison.Ordinal) || id.Split('/', 3) is not [_, var what, var name])
        {
            return null;
        }

        var gap = what == Gap;
        var known = Quantities.TryGetValue(what, out var quantity) || gap;
        return known && name.Length is > 1 and <= LongestName && name.Trim() == name && !name.Any(char.IsControl)
            ? new KnownCharacteristic
            {
                Id = id,
                Name = name,
                Quantity = gap ? Quantity.Length : quantity,
                On = AnyKind,
                Gap = gap,
            }
            : null;
    }
}
