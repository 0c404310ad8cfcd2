namespace VividSleuth.Core.Engines;

/// <summary>Which part of another kind belongs to a place: the piston of a bore, the crankpin of a rod, the head of a cylinder.</summary>
public static class Kin
{
    /// <returns>Null where there is none, or more than one.</returns>
    public static Address? Of(AddressTable table, Address place, string kind)
    {
        if (place.Kind.Id == kind)
        {
            return place;
        }

        if (PartKinds.Find(kind) is not { } other)
        {
            return null;
        }

        var engine = table.Engine;
        int? station = (place.Kind.Scope, other.Scope) switch
        {
            (_, StationScope.Engine) => 0,
            var (a, b) when a == b => place.Station,
            (StationScope.Cylinder, StationScope.Crankpin) => engine.Cylinder(place.Station).Crankpin,
            (StationScope.Cylinder, StationScope.Bank) => (int)engine.Cylinder(place.Station).Bank + 1,
            _ => null,
        };
        if (station is not { } at)
        {
            return null;
        }

        return place.Nth > 0 && table.At(kind, at).FirstOrDefault(a => a.Nth == place.Nth) is { } same ? same : table.Find(kind, at);
    }
}
