namespace VividSleuth.Core.Engines;

/// <summary>On which part a surface is that is decided and machined by itself: whoever grinds a journal has the whole shaft.</summary>
public static class Carrier
{
    private static readonly string[] Shaft = ["crankshaft"];
    private static readonly string[] Bored = ["liner", "barrel", "crankcase", "case-half"];
    private static readonly string[] Head = ["head", "barrel"];

    /// <summary>What sits in or on a part and is lifted out with it, unless a step took it off before. Common practice, no source.</summary>
    private static readonly Dictionary<string, string[]> Hanging = new(StringComparer.Ordinal)
    {
        ["head"] = ["valve-inlet", "valve-exhaust", "spring-inlet", "spring-exhaust", "valve-keepers", "spark-plug", "glow-plug", "injector"],
        [PartKinds.Piston] = [.. PartKinds.Rings, "wrist-pin", "pin-clip"],
    };

    /// <summary>By the address of a part, the places that come off with it: its own surfaces, and what sits in or on it.</summary>
    public static ILookup<string, Address> Aboard(AddressTable table)
    {
        var surfaces = table.Own.SelectMany(a =>
            Of(a, table) is [var part] && part.Code != a.Code ? [(part.Code, On: a)] : Array.Empty<(string Code, Address On)>()
        );
        var hanging = Hanging.SelectMany(h =>
            table.OfKind(h.Key).SelectMany(part => h.Value.SelectMany(kind => Kin.Around(table, part, kind)).Select(on => (part.Code, On: on)))
        );
        return surfaces.Concat(hanging).ToLookup(x => x.Code, x => x.On, StringComparer.Ordinal);
    }

    /// <summary>Parts that travel when a place is worked on: those that carry it, or itself.</summary>
    public static IReadOnlyList<Address> Of(Address place, AddressTable table)
    {
        string[] kinds = place.Kind.Id switch
        {
            PartKinds.Crankpin or PartKinds.MainJournal or "crank-web" => Shaft,
            PartKinds.Bore => Bored,
            "lobe-inlet" or "lobe-exhaust" or "injection-lobe" => [PartKinds.Camshaft],
            "seat-inlet" or "seat-exhaust" or "guide-inlet" or "guide-exhaust" => Head,
            "small-end" => [PartKinds.Rod],
            _ => [],
        };
        foreach (var kind in kinds)
        {
            var own = table.OfKind(kind).ToArray();
            if (own.Length > 0)
            {
                // One of several is the one at its station; of castings that hold several all that there are.
                var here = own.Where(a => a.Kind.Scope == place.Kind.Scope && a.Station == place.Station).ToArray();
                return here.Length > 0 ? here : own;
            }
        }

        return [place];
    }
}
